import { describe, expect, it } from "vitest";
import { randomStream } from "../numeric/index.ts";
import { byClass, causesOf, signatureOf } from "./index.ts";

const random = randomStream(4);
const days = Array.from({ length: 365 }, (_, d) => d);
const outdoor = days.map((d) => 10 - 13 * Math.cos((2 * Math.PI * d) / 365) + 2 * random.normal());
const building = (t: number): number => 120 + 22 * Math.max(0, 14 - t) + 15 * Math.max(0, t - 19);

describe("the energy signature", () => {
  it("finds base, slopes and change points of a building that is heated and cooled, from noisy days", () => {
    const s = signatureOf(
      outdoor.map((t) => building(t) + 12 * random.normal()),
      outdoor,
    );
    expect(s.base).toBeCloseTo(120, -1);
    expect(Math.abs(s.heating - 22)).toBeLessThan(1.5);
    expect(Math.abs(s.cooling - 15)).toBeLessThan(3);
    expect(Math.abs((s.heatingBelow ?? 0) - 14)).toBeLessThan(1.2);
    expect(Math.abs((s.coolingAbove ?? 0) - 19)).toBeLessThan(1.5);
    expect(s.r2).toBeGreaterThan(0.97);
  });
  it("has one slope where the building is heated alone, and none where it does not follow the weather", () => {
    const heated = signatureOf(
      outdoor.map((t) => 80 + 10 * Math.max(0, 12 - t) + 3 * random.normal()),
      outdoor,
    );
    expect([heated.coolingAbove, heated.cooling]).toEqual([null, 0]);
    expect(heated.heating).toBeGreaterThan(9);
    const level = signatureOf(
      outdoor.map(() => 50 + random.normal()),
      outdoor,
    );
    expect([level.heatingBelow, level.coolingAbove]).toEqual([null, null]);
    expect(level.base).toBeCloseTo(50, 0);
  });
  it("leaves out days that were not measured, and says nothing of too few", () => {
    const some = outdoor.map((t, i) => (i % 3 === 0 ? NaN : building(t)));
    expect(signatureOf(some, outdoor).n).toBe(days.filter((i) => i % 3 !== 0).length);
    expect(signatureOf([1, 2, 3], [0, 1, 2]).heatingBelow).toBeNull();
  });
});

describe("the cause of residuals", () => {
  it("is the series that tells most of their spread", () => {
    const hours = Array.from({ length: 24 * 90 }, (_, i) => i);
    const hour = hours.map((h) => h % 24);
    const wind = hours.map((h) => 3 + 2 * Math.sin(h / 37) + random.uniform());
    const sun = hours.map((h) => Math.max(0, Math.sin((2 * Math.PI * (h - 6)) / 24)) * (0.4 + 0.6 * random.uniform()));
    const residual = wind.map((w) => 0.8 * (w - 3) + 0.2 * random.normal());
    const causes = causesOf(residual, { hour, sun, wind });
    expect(causes[0].name).toBe("wind");
    expect(causes[0].told).toBeGreaterThan(0.85);
    expect(causes[2].told).toBeLessThan(0.1);
    // it rises with the wind from class to class
    const { mean } = causes[0].by;
    expect(mean[11]).toBeGreaterThan(mean[0] + 2);
  });
  it("tells the mean of each class, and all of the spread where classes are all there is", () => {
    const found = byClass([1, 1, 5, 5, NaN, 9], [0, 0, 1, 1, 1, -1], 3);
    expect([...found.mean]).toEqual([1, 5, NaN]);
    expect([...found.count]).toEqual([2, 2, 0]);
    expect(found.told).toBeCloseTo(1, 12);
  });
});
