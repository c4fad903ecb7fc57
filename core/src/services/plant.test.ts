import { describe, expect, it } from "vitest";
import { OUT, OUTS } from "./airPath.ts";
import { machineCurves } from "./curves.ts";
import { loopState, runLoop, towerWater, type LoopModel } from "./plant.ts";
import { WATER_CP } from "./pump.ts";

const tower = { component: 2, approach: 4, least: 20, power: 0.03 };
const chilled = (water: boolean, capacity = 100000): LoopModel => ({
  component: 0,
  hot: false,
  supply: { value: 7, row: -1, reset: null },
  design: 7,
  difference: 6,
  pump: null,
  sources: [
    {
      kind: "chiller",
      component: 1,
      capacity,
      cop: water ? 5.4 : 3.1,
      curves: machineCurves[water ? "typical water-cooled" : "typical air-cooled"],
      water,
    },
  ],
  tower: water ? tower : null,
});
/** Outputs of a loop at a load, W. */
function at(loop: LoopModel, load: number, outdoor: number, wet: number) {
  const s = loopState(1);
  s.supply[0] = 7;
  s.demand[0] = load;
  s.water[0] = load / (WATER_CP * 6);
  const out = new Float64Array(3 * OUTS);
  runLoop(loop, 0, s, out, new Float64Array(1), outdoor, wet);
  return { of: (component: number, place: number): number => out[OUTS * component + place], missing: s.missing[0] };
}

describe("a chiller with a cooling tower", () => {
  it("has at its rating the input its data sheet says, and rejects what it took out and what it used", () => {
    // full load, 7 °C, condenser water of 30 °C: a wet bulb of 26 °C
    const r = at(chilled(true), 100000, 35, 26);
    const power = r.of(1, OUT.POWER);
    expect(power / (100000 / 5.4)).toBeCloseTo(1, 6);
    expect(r.of(2, OUT.HEAT)).toBeCloseTo(100000 + power, 6);
    expect(r.of(2, OUT.POWER)).toBeCloseTo(0.03 * (100000 + power), 6);
    expect(r.of(2, OUT.OUT)).toBe(30);
  });
  it("has water no colder than its least, however cold it is outdoors", () => {
    expect(towerWater(tower, 5)).toBe(20);
    expect(towerWater(tower, 24)).toBe(28);
  });
  it("gains with a lower wet bulb at one and the same outdoor temperature; one cooled by air does not see it", () => {
    const power = (water: boolean, wet: number): number => at(chilled(water), 60000, 35, wet).of(1, OUT.POWER);
    expect(power(true, 18)).toBeLessThan(power(true, 25) * 0.95);
    expect(power(false, 18)).toBe(power(false, 25));
  });
  it("tells what it cannot give", () => {
    expect(at(chilled(true, 50000), 80000, 35, 26).missing).toBeCloseTo(30000, 6);
    expect(at(chilled(true), 80000, 35, 26).missing).toBe(0);
    const idle = at(chilled(true), 0, 35, 26);
    expect([idle.of(1, OUT.POWER), idle.of(2, OUT.POWER), idle.of(2, OUT.HEAT)]).toEqual([0, 0, 0]);
  });
});
