import { describe, expect, it } from "vitest";
import { LATENT_HEAT } from "../airflow/index.ts";
import { humidityRatio, wetBulb } from "../climate/index.ts";
import { AIR, airPath, AIRS, BY, OUT, OUTS, RULE, type AirPart, type AirSystemModel, type FanPart } from "./airPath.ts";
import known from "./closedForms.json" with { type: "json" };
import { circuitEffectiveness, resistanceOf } from "./circuit.ts";
import { leavingRatio, limitedLeaving, saturated } from "./coolingCoil.ts";
import { AS_RATED } from "./curves.ts";
import { addedMoisture } from "./humidifier.ts";
import { ECONOMIZER, economizerOpens, outdoorShare } from "./mixing.ts";
import { partFlowPower, partFlowShape } from "./fan.ts";
import { recoveryShare } from "./recovery.ts";
import { WATER_CP } from "./pump.ts";

const P = 101325;
const DENSITY = 1.2;
type Case = (typeof known.systems)["constant volume, summer"] & {
  inputs: {
    recovery?: { sensible: number; latent?: number };
    economizer?: { high_limit: number };
    return_fan?: { pressure: number; efficiency: number };
    minimum_share?: number;
  };
};
const cases = Object.entries(known.systems) as unknown as [string, Case][];

/** A system of the published cases: recovery, mixing, cooling coil, fan. */
function systemOf({ inputs: x }: Case): AirSystemModel {
  const design = x.zones.south.design_flow + x.zones.north.design_flow;
  const fan = (kind: FanPart["kind"], component: number, f: { pressure: number; efficiency: number }): FanPart => ({
    kind,
    component,
    flow: design,
    power: ((design / DENSITY) * f.pressure) / f.efficiency,
    heat: 1,
    shape: partFlowShape("pressure held"),
  });
  const parts: AirPart[] = [];
  if (x.recovery) parts.push({ kind: "recovery", component: 0, sensible: x.recovery.sensible, latent: x.recovery.latent ?? 0, bypass: true, frost: -Infinity });
  parts.push({
    kind: "mixing",
    component: 1,
    share: 0,
    flow: 0,
    economizer: x.economizer ? ECONOMIZER.FIXED : ECONOMIZER.NONE,
    highLimit: x.economizer?.high_limit ?? 22,
    locksCoil: false,
  });
  parts.push({ kind: "coolingCoil", component: 2, by: BY.WATER, loop: 0, cop: 1, capacity: Infinity, bypass: x.by_pass, curves: AS_RATED });
  parts.push(fan("supplyFan", 3, x.supply_fan));
  return {
    component: 5,
    variable: x.kind === "variable",
    rule: RULE.SET,
    supply: { value: x.supply_t, row: -1, reset: null },
    warmest: NaN,
    heatingSupply: 35,
    hours: -1,
    night: false,
    nightBand: 1,
    minimumRun: 0,
    parts,
    returnFan: x.return_fan ? fan("returnFan", 4, x.return_fan) : null,
    mixesAt: parts.findIndex((p) => p.kind === "mixing"),
    mixing: null,
    recovery: null,
    terminals: new Int32Array(0),
    controlZone: -1,
    reheats: true,
  };
}

describe("the steady states of a system over two rooms", () => {
  it.each(cases)("%s", (_, c) => {
    const x = c.inputs;
    const doc = systemOf(c);
    const system = { ...doc, mixing: doc.parts.find((p) => p.kind === "mixing") ?? null } as AirSystemModel;
    const a = new Float64Array(AIRS);
    const out = new Float64Array(6 * OUTS);
    const limit = new Float64Array(6).fill(Infinity);
    const outdoorRatio = humidityRatio(x.outdoor.t, x.outdoor.rh / 100, P);
    const zones = Object.values(x.zones);
    let ratio = zones.map(() => 0.008);
    let flows = zones.map((z) => z.design_flow);
    a[AIR.OUTDOOR] = x.outdoor.t;
    a[AIR.OUTDOOR_RATIO] = outdoorRatio;
    a[AIR.PRESSURE] = P;
    a[AIR.LEAST_OUTDOOR] = x.outdoor_flow;
    a[AIR.HEAT_TO] = -Infinity;
    a[AIR.COOL_TO] = x.supply_t;
    a[AIR.ECONOMIZER] = x.economizer && x.outdoor.t < x.economizer.high_limit ? 1 : 0;
    a[AIR.SUPPLY_RATIO] = 0.008;
    for (let round = 0; round < 200; round++) {
      a[AIR.CP] = 1006 + 1860 * a[AIR.SUPPLY_RATIO];
      if (x.kind === "variable")
        flows = zones.map((z) =>
          Math.max((x.minimum_share as number) * z.design_flow, Math.min(z.design_flow, (1000 * z.sensible_gain) / (a[AIR.CP] * (z.t - x.supply_t)))),
        );
      const flow = flows.reduce((s, f) => s + f, 0);
      a[AIR.FLOW] = flow;
      a[AIR.RETURN] = zones.reduce((s, z, i) => s + flows[i] * z.t, 0) / flow;
      a[AIR.RETURN_RATIO] = ratio.reduce((s, w, i) => s + flows[i] * w, 0) / flow;
      airPath(system, a, out, limit);
      ratio = zones.map((z, i) => a[AIR.SUPPLY_RATIO] + z.latent_gain / 2501 / flows[i]);
    }
    const r = c.results;
    const near = (found: number, wanted: number, least = 0.01): void =>
      expect(Math.abs(found - wanted)).toBeLessThanOrEqual(Math.max(least, 0.01 * Math.abs(wanted)));
    const coil = 2 * OUTS;
    near(a[AIR.FLOW], r.supply_flow, 0.001);
    near(a[AIR.OUTDOOR_FLOW] / a[AIR.FLOW], r.outdoor_share, 0.002);
    near(a[AIR.RETURN], r.return_t);
    near(a[AIR.MIXED], r.mixed_t);
    near(a[AIR.MIXED_RATIO], r.mixed_w, 1e-5);
    near(out[coil + OUT.OUT], r.coil_leaving_t);
    near(a[AIR.SUPPLY_RATIO], r.supply_w, 1e-5);
    near(-(out[coil + OUT.HEAT] + out[coil + OUT.LATENT]) / 1000, r.cooling_total);
    near(out[3 * OUTS + OUT.POWER] / 1000, r.fan_supply);
    near(out[4 * OUTS + OUT.POWER] / 1000, r.fan_return);
    const reheat = zones.reduce((s, z, i) => s + Math.max(0, (flows[i] * a[AIR.CP] * (z.t - a[AIR.SUPPLY])) / 1000 - z.sensible_gain), 0);
    near(reheat, r.reheat);
    Object.values(r.zones).forEach((z, i) => near(ratio[i], z.w, 1e-5));
    // what coil, fan and outdoor air bring is what the rooms get: nothing is made or lost
    const brought =
      out[coil + OUT.HEAT] + out[3 * OUTS + OUT.HEAT] + out[4 * OUTS + OUT.HEAT] + a[AIR.OUTDOOR_FLOW] * a[AIR.CP] * (x.outdoor.t - a[AIR.EXHAUST]);
    expect(brought).toBeCloseTo(a[AIR.FLOW] * a[AIR.CP] * (a[AIR.SUPPLY] - a[AIR.RETURN]), 6);
  });
});

describe("a cooling coil by its by-pass factor", () => {
  const { entering, by_pass, rows } = known.coil;
  it.each(rows)("leaves at $leaving_t °C with $leaving_w", (row) => {
    const w = leavingRatio(entering.t, entering.w, row.leaving_t, by_pass, P);
    expect(Math.abs(w / row.leaving_w - 1)).toBeLessThan(0.005);
    const total = 1.006 * (entering.t - row.leaving_t) + (entering.w - w) * 2501;
    expect(Math.abs(total / row.total_kJ_kg - 1)).toBeLessThan(0.03);
  });
  it("that is too small leaves the air as warm as its capacity says, and never colder than asked", () => {
    const [flow, cp] = [1, 1020];
    const load = (t: number): number => flow * (cp * (entering.t - t) + 2.501e6 * (entering.w - leavingRatio(entering.t, entering.w, t, by_pass, P)));
    const capacity = 0.6 * load(13);
    const t = limitedLeaving(entering.t, entering.w, 13, by_pass, P, flow, cp, capacity);
    expect(t).toBeGreaterThan(13);
    expect(load(t) / capacity).toBeCloseTo(1, 4);
    expect(limitedLeaving(entering.t, entering.w, 13, by_pass, P, flow, cp, 2 * load(13))).toBe(13);
  });
  it("takes no water out of air that is drier than its surface", () => {
    expect(leavingRatio(27, 0.004, 12, 0.1, P)).toBe(0.004);
    expect(saturated(12, P)).toBeGreaterThan(0.004);
  });
});

describe("an economizer", () => {
  const { high_limit, rows } = known.economizer;
  it.each(rows)("at $outdoor °C outdoors takes $share", ({ outdoor, share }) => {
    const open = economizerOpens(ECONOMIZER.FIXED, outdoor < high_limit, outdoor, 24, high_limit, 0, 0);
    expect(open ? outdoorShare(outdoor, 24, 15, 0.2) : 0.2).toBeCloseTo(share, 5);
  });
  it("changes its state only half a kelvin beyond the limit", () => {
    for (const was of [true, false]) expect(economizerOpens(ECONOMIZER.FIXED, was, 22.3, 24, 22, 0, 0)).toBe(was);
    expect(economizerOpens(ECONOMIZER.DIFFERENTIAL, false, 23.2, 24, 22, 0, 0)).toBe(true);
    expect(economizerOpens(ECONOMIZER.ENTHALPY, false, 20, 24, 22, 60000, 48000)).toBe(false);
  });
});

describe("heat recovery", () => {
  it("with a by-pass brings the mixture to what is wanted and no further; without one it always acts", () => {
    const wanted = 14;
    const share = recoveryShare(2, 22, 0.8, 0.5, wanted, true, -Infinity);
    const outdoor = 2 + share * 0.8 * 20;
    expect(0.5 * outdoor + 0.5 * 22).toBeCloseTo(wanted, 9);
    expect(recoveryShare(2, 22, 0.8, 0.5, wanted, false, -Infinity)).toBe(1);
    // in summer it cools as far as it can
    expect(recoveryShare(34, 24, 0.8, 0.5, wanted, true, -Infinity)).toBe(1);
  });
  it("keeps the exhaust above its frost limit", () => {
    const share = recoveryShare(-20, 21, 0.75, 1, NaN, true, 3);
    expect(21 - share * 0.75 * 41).toBeCloseTo(3, 9);
  });
});

describe("fans and circuits", () => {
  it("a fan with a speed drive takes far less than half its power at half its flow, and its full power at full flow", () => {
    const shape = partFlowShape("variable-speed drive");
    expect(partFlowPower(shape, 0.5)).toBeGreaterThan(0.25);
    expect(partFlowPower(shape, 0.5)).toBeLessThan(0.35);
    expect(partFlowPower(shape, 1)).toBeCloseTo(1, 2);
    expect(partFlowPower(shape, 0)).toBe(0);
  });
  it("water through a layer of one temperature gives what its exchanger gives", () => {
    const { ua, water_flow, water_in, plane_t, heat, water_out } = known.circuit;
    const effectiveness = circuitEffectiveness(1 / ua, water_flow);
    const found = effectiveness * water_flow * WATER_CP * (water_in - plane_t);
    expect(Math.abs(found / 1000 / heat - 1)).toBeLessThan(0.01);
    expect(water_in - found / (water_flow * WATER_CP)).toBeCloseTo(water_out, 0);
    expect(resistanceOf(effectiveness, water_flow) * ua).toBeCloseTo(1, 9);
  });
});

describe("a humidifier", () => {
  const CP = 1006 + 1860 * 0.008;
  it("evaporating keeps the heat content of the air, and stops before saturation", () => {
    const dry = humidityRatio(30, 0.15, P);
    const some = addedMoisture(30, dry, dry + 0.002, true, P, CP, Infinity);
    expect(some).toBeCloseTo(0.002, 12);
    const all = addedMoisture(30, dry, 0.03, true, P, CP, Infinity);
    const t = 30 - (LATENT_HEAT * all) / CP;
    expect((dry + all) / saturated(t, P)).toBeCloseTo(0.95, 4);
    // near the wet bulb of that air, 14 °C
    expect(t).toBeGreaterThan(wetBulb(30, dry, P));
    expect(t).toBeLessThan(wetBulb(30, dry, P) + 1.5);
  });
  it("adds no more than its water, nothing to air that is moist enough or saturated", () => {
    expect(addedMoisture(22, 0.004, 0.008, false, P, CP, 0.001)).toBe(0.001);
    expect(addedMoisture(22, 0.009, 0.008, false, P, CP, Infinity)).toBe(0);
    expect(addedMoisture(10, saturated(10, P), 0.02, false, P, CP, Infinity)).toBe(0);
  });
});
