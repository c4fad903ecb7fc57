import { describe, expect, it } from "vitest";
import closed from "../verification/closedForms.json" with { type: "json" };
import { LoneWall, steppedDecrement } from "../verification/walls.ts";
import { periodicResponse, reduceWall, resistanceLayer, solidLayer, type LayerPhysics } from "./index.ts";

const walls = Object.entries(closed.periodic_wall_response.walls).map(([name, w]) => ({
  name,
  layers: w.layers_inside_to_outside.map((l) => solidLayer(l.d, l.lambda, l.rho, l.c)).reverse(),
  rse: w.rse,
  rsi: w.rsi,
  result: w.result,
}));
const concrete = solidLayer(0.2, 1.8, 2400, 1000);
const slab = closed.slab_step_response["concrete_0.20"];

describe("periodic response", () => {
  it.each(walls)("of $name by the transfer matrix is the published one", (w) => {
    const r = periodicResponse(w.layers, 86400, w.rse, w.rsi);
    expect(r.decrement).toBeCloseTo(w.result.decrement_factor, 10);
    expect(r.timeShift / 3600).toBeCloseTo(w.result.time_shift_h, 8);
    expect(r.u).toBeCloseTo(w.result.U, 12);
    expect(r.insideAdmittance).toBeCloseTo(w.result.Y11_abs, 10);
  });
  it.each(walls)("of $name stepped at 15 minutes is within 1 % and 0.1 h", (w) => {
    const r = steppedDecrement(w.layers, w.rse, w.rsi, 4);
    expect(Math.abs(r.decrement / w.result.decrement_factor - 1)).toBeLessThan(0.01);
    expect(Math.abs(r.timeShift - w.result.time_shift_h)).toBeLessThan(0.1);
  });
  it.each(walls)("of $name stepped hourly is within 4 % and 0.2 h", (w) => {
    const r = steppedDecrement(w.layers, w.rse, w.rsi, 1);
    expect(Math.abs(r.decrement / w.result.decrement_factor - 1)).toBeLessThan(0.04);
    expect(Math.abs(r.timeShift - w.result.time_shift_h)).toBeLessThan(0.2);
  });
});

describe("step response of a concrete slab", () => {
  const dt = 600;
  it("heated by 100 W/m² on one face follows the closed form from half an hour on", () => {
    for (const [i, t] of slab.times_s.entries()) {
      if (t < 1800) continue;
      const w = new LoneWall([concrete], [1e-9, 1e-9], 60, 20);
      for (let s = 0; s < t; s += 60) w.advance(0, 0, 0, 100);
      expect(Math.abs(w.inside - slab.flux_100_one_face_temperature_heated[i])).toBeLessThan(0.06);
      expect(Math.abs(w.outside - slab.flux_100_one_face_temperature_adiabatic[i])).toBeLessThan(0.06);
    }
  });
  it("takes up exactly the heat put in", () => {
    const w = new LoneWall([concrete], [1e-9, 1e-9], dt, 20);
    const before = w.content;
    for (let t = 0; t < 36000; t += dt) w.advance(0, 0, 30, 70);
    expect((w.content - before) / (100 * 36000)).toBeCloseTo(1, 7);
  });
  it("cools between films of 8 W/m²K as the closed form says", () => {
    for (const [i, t] of slab.times_s.entries()) {
      if (t < 3600) continue;
      const step = 60;
      const w = new LoneWall([concrete], [8, 8], step, 20);
      for (let s = 0; s < t; s += step) w.advance(0, 0);
      expect(Math.abs(w.inside - slab.air_0_h8_both_sides_surface[i])).toBeLessThan(0.05);
    }
  });
});

describe("reduction", () => {
  const cases: [string, LayerPhysics[]][] = [
    ["a steel sheet on thick insulation", [solidLayer(0.001, 50, 7800, 450), solidLayer(0.3, 0.035, 30, 1400), solidLayer(0.0125, 0.21, 700, 1000)]],
    ["a screed on a metre of insulation", [solidLayer(1, 0.035, 30, 1400), solidLayer(0.06, 1.4, 2000, 1000)]],
    ["400 mm of concrete", [solidLayer(0.4, 2.0, 2400, 1000)]],
    ["a cavity wall", [solidLayer(0.1, 0.77, 1700, 1000), resistanceLayer(0.18), solidLayer(0.1, 0.18, 600, 1000)]],
    ["a bare sheet", [solidLayer(0.001, 50, 7800, 450)]],
  ];
  it.each(cases)("of %s meets the transfer matrix within 1 %", (_n, layers) => {
    const w = reduceWall(layers);
    expect(w.error).toBeLessThan(0.01);
    expect(w.modes).toBeLessThanOrEqual(12);
  });
  it.each(cases)("of %s carries the steady U exactly", (_n, layers) => {
    const w = new LoneWall(layers, [20, 5], 900, 0);
    for (let i = 0; i < 60000; i++) w.advance(0, 10);
    const u = 1 / (1 / 20 + 1 / 5 + layers.reduce((s, l) => s + l.resistance, 0));
    expect((5 * (10 - w.inside)) / (10 * u)).toBeCloseTo(1, 6);
    expect((20 * w.outside) / (10 * u)).toBeCloseTo(1, 6);
  });
  it("of a wall without mass is its resistance at once", () => {
    const w = new LoneWall([resistanceLayer(0.5)], [20, 5], 3600, 0);
    w.advance(0, 10);
    expect(5 * (10 - w.inside)).toBeCloseTo(10 / (1 / 20 + 0.5 + 1 / 5), 10);
  });
});

describe("a 1 mm steel sheet with a film", () => {
  it.each([1, 3, 8, 25, 60, 100])("of %d W/m²K does not ring after a jump", (h) => {
    for (const nominal of [
      [25, 7.7],
      [7.7, 7.7],
    ] as const) {
      const w = new LoneWall([solidLayer(0.001, 50, 7800, 450)], [h, h], 900, 20, nominal);
      let last = 20;
      for (let i = 0; i < 50; i++) {
        w.advance(0, 0);
        // an overshoot may cross zero once by under 2 % of the jump, and then dies out within a few steps
        if (w.inside < 0 || last < 0) {
          expect(Math.abs(w.inside)).toBeLessThan(0.4);
          if (last < 0) expect(Math.abs(w.inside)).toBeLessThan(0.4 * Math.abs(last) + 1e-12);
        } else expect(w.inside).toBeLessThanOrEqual(last + 1e-9);
        last = w.inside;
      }
    }
  });
});
