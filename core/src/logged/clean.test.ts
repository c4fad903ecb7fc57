import { describe, expect, it } from "vitest";
import { randomStream } from "../numeric/index.ts";
import { clockShift, counterRates, coverageOf, gapsOf, offsetOf, stuckRuns } from "./index.ts";

describe("a counter", () => {
  it("gives rates, also over its largest value, over a new start and around a gap", () => {
    const read = counterRates([9980, 9990, 4, 14, NaN, 40, 2], 0.5, 10000);
    expect([...read.rate]).toEqual([NaN, 20, 28, 20, NaN, NaN, 4]);
    expect(read.restarts).toEqual([6]);
  });
});

describe("readings that mean nothing", () => {
  it("are found where a sensor stands still for longer than it can, and where it is silent", () => {
    const values = [1, 2, 2, 2, 2, 3, 0, 0, 0, 0, NaN, NaN, 4];
    expect(stuckRuns(values, 4)).toEqual([{ from: 1, to: 5 }]);
    expect(stuckRuns(values, 4, [])).toHaveLength(2);
    expect(gapsOf(values)).toEqual([{ from: 10, to: 12 }]);
    expect(coverageOf(values)).toBeCloseTo(11 / 13, 12);
  });
});

describe("a sensor against one that is trusted", () => {
  const random = randomStream(7);
  const hours = Array.from({ length: 24 * 60 }, (_, i) => i);
  const day = hours.map((h) => (h % 24 >= 7 && h % 24 < 19 ? 1 : 0));
  const truth = hours.map((h) => 12 + 6 * Math.sin((2 * Math.PI * (h - 9)) / 24) + 3 * Math.sin(h / 61));
  it("has its offset found, more at night, whatever a few wild readings say", () => {
    const sensor = truth.map((t, i) => (i % 97 === 0 ? 85 : t + (day[i] ? 0.9 : 1.9) + 0.2 * (random.uniform() - 0.5)));
    const found = offsetOf(sensor, truth, day);
    expect(found.day).toBeCloseTo(0.9, 1);
    expect(found.night).toBeCloseTo(1.9, 1);
    expect(found.offset).toBeGreaterThan(found.day);
    expect(offsetOf([NaN], [1], [1]).n).toBe(0);
  });
  it("has the shift of its clock found, and none where there is none", () => {
    const noisy = (shift: number): number[] => hours.map((h) => (truth[h - shift] ?? NaN) + 0.1 * (random.uniform() - 0.5));
    expect([clockShift(noisy(0), truth, 6), clockShift(noisy(2), truth, 6), clockShift(noisy(-1), truth, 6)]).toEqual([0, 2, -1]);
  });
});
