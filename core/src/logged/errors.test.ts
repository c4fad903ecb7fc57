import { describe, expect, it } from "vitest";
import { gathered, guidelineLimits, misfitOf, withinGuideline } from "./index.ts";

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
