import { describe, expect, it } from "vitest";
import { randomStream } from "../numeric/index.ts";
import { clockShift, counterRates, coverageOf, gapsOf, gathered, guidelineLimits, misfitOf, offsetOf, stuckRuns, withinGuideline } from "./index.ts";

describe("NMBE and CV(RMSE)", () => {
  it("are those found by hand", () => {
    // measured 10, 20, 30, 40; modelled 12, 18, 33, 41: differences 2, −2, 3, 1; mean 25
    const fit = misfitOf([10, 20, 30, 40], [12, 18, 33, 41]);
    expect(fit).toMatchObject({ n: 4, mean: 25, bias: 1 });
    expect(fit.nmbe).toBeCloseTo((-100 * 4) / (3 * 25), 12);
    expect(fit.cvrmse).toBeCloseTo((100 * Math.sqrt(18 / 3)) / 25, 12);
    expect(fit.rmse).toBeCloseTo(Math.sqrt(18 / 4), 12);
  });
  it("count only what both have and no mask takes out", () => {
    const fit = misfitOf([10, NaN, 30, 40], [12, 18, NaN, 41], [0, 0, 0, 1]);
    expect(fit.n).toBe(1);
    // one value has no bias beyond itself by the guideline's n − 1
    expect([fit.nmbe, fit.cvrmse]).toEqual([null, null]);
    expect(misfitOf([NaN], [1])).toMatchObject({ n: 0, nmbe: null });
  });
  it("are not told against a mean of nothing", () => {
    expect(misfitOf([-5, 5, -5, 5], [-4, 5, -5, 5]).nmbe).toBeNull();
  });
  it("are judged by the limits of the guideline", () => {
    const off = (share: number) => misfitOf([100, 100, 100, 100], [100 * (1 + share), 100 * (1 + share), 100 * (1 + share), 100 * (1 + share)]);
    expect(guidelineLimits.month).toEqual({ nmbe: 5, cvrmse: 15 });
    expect([withinGuideline(off(0.03), "month"), withinGuideline(off(0.06), "month"), withinGuideline(off(0.06), "hour")]).toEqual([true, false, true]);
    expect(withinGuideline(misfitOf([1], [1]), "hour")).toBeNull();
  });
  it("of months come from hours in which both are there, so that a gap takes from both alike", () => {
    const month = [0, 0, 0, 1, 1, -1];
    const g = gathered([1, NaN, 3, 4, 5, 6], [2, 9, 4, 5, 6, 7], month, "sum");
    expect([[...g.measured], [...g.modelled], [...g.hours]]).toEqual([
      [4, 9],
      [6, 11],
      [2, 2],
    ]);
    expect([...gathered([1, NaN, 3, 4, 5, 6], [2, 9, 4, 5, 6, 7], month, "mean").measured]).toEqual([2, 4.5]);
  });
});

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
