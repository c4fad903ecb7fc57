import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { forcedCoefficient } from "../fabric/index.ts";
import type { RunOptions } from "../model/index.ts";
import type { WeatherYear } from "../climate/index.ts";
import { insideFilm, outsideFilm } from "./convection.ts";
import { compile, projectWeather, YearKernel, type CompiledModel } from "./index.ts";

const typedInside: RunOptions["insideConvection"] = { kind: "typed", wall: 3, floor: 2, ceiling: 4, glass: 3.5 };
const typedOutside: RunOptions["outsideConvection"] = { kind: "typed", wall: 20, roof: 25, floor: 10, glass: 15 };

describe("a film by the run's choice", () => {
  it("typed is the figure of the kind of face, whatever the temperatures", () => {
    const inside = (facing: number, glass = false): number[] => {
      const f = insideFilm(typedInside, facing, glass);
      return [f.steadyWarm, f.steadyCold, f.warm, f.cold];
    };
    expect(inside(0)).toEqual([3, 3, 0, 0]);
    expect(inside(1)).toEqual([2, 2, 0, 0]);
    expect(inside(-1)).toEqual([4, 4, 0, 0]);
    expect(inside(0, true)).toEqual([3.5, 3.5, 0, 0]);
    expect(outsideFilm(typedOutside, 1, false).steadyWarm).toBe(25);
    expect(outsideFilm(typedOutside, -1, false).steadyWarm).toBe(10);
    expect(outsideFilm(typedOutside, 0, true).steadyCold).toBe(15);
  });
  it("of ISO 52016-1 depends on the direction of heat: 5 up, 2.5 across, 0.7 down", () => {
    const film = (facing: number) => insideFilm({ kind: "iso 52016-1" }, facing, false);
    // a floor warmer than the room sends heat up, a ceiling warmer than the room down
    expect([film(1).steadyWarm, film(1).steadyCold]).toEqual([5, 0.7]);
    expect([film(-1).steadyWarm, film(-1).steadyCold]).toEqual([0.7, 5]);
    expect([film(0).steadyWarm, film(0).steadyCold]).toEqual([2.5, 2.5]);
    expect(outsideFilm({ kind: "iso 52016-1" }, 0, false).steadyWarm).toBe(4);
  });
  it("by temperature is Walton's at 8 K: 1.31·∛8 upright, more where warm air rises, less where it lies", () => {
    const at8 = (facing: number): { warm: number; cold: number } => {
      const f = insideFilm({ kind: "temperature difference" }, facing, false);
      return { warm: f.warm * 2, cold: f.cold * 2 };
    };
    expect(at8(0).warm).toBeCloseTo(2.62, 12);
    expect(at8(1).warm).toBeCloseTo((9.482 * 2) / 6.238, 12);
    expect(at8(1).cold).toBeCloseTo((1.81 * 2) / 2.382, 12);
    expect(at8(-1).cold).toBeCloseTo(at8(1).warm, 12);
  });
});

describe("films in the year", () => {
  /** A box after one step in a wind from the south, and its model. */
  const stepped = (run: Partial<RunOptions>, wind: number): { m: CompiledModel; k: YearKernel } => {
    const p = boxProject({ glass: 0.3, run });
    const w: WeatherYear = {
      ...(projectWeather(p) as WeatherYear),
      windSpeed: new Float64Array(8760).fill(wind),
      windDirection: new Float64Array(8760).fill(180),
    };
    const m = compile(p, w, 1);
    const k = new YearKernel(m, w);
    k.start(0, 20, 0.005);
    k.step(0, 0);
    return { m, k };
  };
  const wallOf = (m: CompiledModel, azimuth: number): number =>
    m.roles.findIndex((r, i) => r === "walls" && Math.abs(m.classAzimuth[m.orientation[i]] - azimuth) < 1);

  it("wind doubles the forced part where it is four times as strong, and halves it to leeward", () => {
    const slow = stepped({}, 2);
    const fast = stepped({}, 8);
    const south = wallOf(slow.m, 180);
    const north = wallOf(slow.m, 0);
    expect(fast.k.state.forced[south] / slow.k.state.forced[south]).toBeCloseTo(2, 12);
    // the façades to south and north are alike in size
    expect(slow.k.state.forced[north] / slow.k.state.forced[south]).toBeCloseTo(0.5, 12);
    const profile = (slow.k.state.forced[south] / (forcedCoefficient("medium rough", 2 * (8 + 2.7), 8 * 2.7) * Math.sqrt(2))) ** 2;
    // the box stands in open country: at half its height of 2.7 m the wind is weaker than at 10 m
    expect(profile).toBeGreaterThan(0.5);
    expect(profile).toBeLessThan(1);
  });
  it("by ISO 52016-1 grow in proportion to the wind, and typed ones do not grow", () => {
    const iso = { outsideConvection: { kind: "iso 52016-1" } } as const;
    const south = wallOf(stepped(iso, 2).m, 180);
    expect(stepped(iso, 6).k.state.forced[south] / stepped(iso, 2).k.state.forced[south]).toBeCloseTo(3, 12);
    const typed = { outsideConvection: typedOutside };
    const calm = stepped(typed, 0).k.state;
    const storm = stepped(typed, 20).k.state;
    expect(storm.forced[south]).toBe(0);
    // what is left of the film is radiation, which does not know the wind
    expect(storm.ho[south]).toBeCloseTo(calm.ho[south], 9);
  });
});
