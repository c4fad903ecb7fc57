import { describe, expect, it } from "vitest";
import { statistics, together } from "./index.ts";

describe("statistics of a series", () => {
  const wave = Float64Array.from({ length: 8760 }, (_, h) => 20 + 5 * Math.sin((2 * Math.PI * h) / 24));
  it("of a daily wave are its mean, its amplitude over √2, and its times", () => {
    const s = statistics(wave);
    expect(s.mean).toBeCloseTo(20, 9);
    expect(s.deviation).toBeCloseTo(5 / Math.SQRT2, 9);
    expect(s.most).toBeCloseTo(25, 9);
    expect(s.mostAt % 24).toBe(6);
    expect(s.leastAt % 24).toBe(18);
    expect(s.hours).toBe(8760);
  });
  it("look at the stretch alone, and count hours with a load on either side of nothing", () => {
    const load = Float64Array.from({ length: 48 }, (_, h) => (h < 10 ? 0.5 : h < 20 ? -100 : h < 30 ? 300 : 0));
    const s = statistics(load, 5, 25);
    expect(s.sum).toBeCloseTo(5 * 0.5 - 1000 + 1500, 9);
    expect(s.loaded).toBe(15);
    expect([s.least, s.leastAt, s.most, s.mostAt]).toEqual([-100, 10, 300, 20]);
  });
  it("keep the digits of a small swing about a large value", () => {
    expect(statistics(Float64Array.of(1e8 + 1, 1e8 - 1)).deviation).toBeCloseTo(1, 6);
  });
  it("of nothing are no numbers, and gaps are left out", () => {
    expect(statistics([]).mean).toBeNaN();
    expect(statistics([NaN, 3, NaN, 5]).mean).toBe(4);
    expect(statistics([NaN, 3, NaN, 5]).hours).toBe(2);
  });
});

describe("a group", () => {
  it("has the sum of its loads hour by hour, whose peak is no more than the sum of the peaks", () => {
    const a = [0, 100, 0, 50];
    const b = [80, 0, 0, 50];
    const sum = together([a, b], [1, 2], true);
    expect([...sum]).toEqual([160, 100, 0, 150]);
    expect(statistics(sum).most).toBeLessThanOrEqual(100 + 2 * 80);
    expect(statistics(sum).mostAt).toBe(0);
  });
  it("has the mean temperature by floor area", () => {
    expect([
      ...together(
        [
          [20, 22],
          [26, 22],
        ],
        [30, 10],
        false,
      ),
    ]).toEqual([21.5, 22]);
  });
});
