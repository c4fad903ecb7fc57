import { describe, expect, it } from "vitest";
import closed from "../verification/closedForms.json" with { type: "json" };
import { boxProject } from "../verification/box.ts";
import {
  angularFactor,
  assemblyU,
  forcedCoefficient,
  glazingPhysics,
  ratedParts,
  naturalConvection,
  resistanceLayer,
  slabDimensions,
  slabTransmittance,
  solidLayer,
  surfaceResistances,
  virtualGround,
  windProfile,
  layersResistance,
} from "./index.ts";

describe("steady transmittance", () => {
  it.each(closed.u_values.cases.filter((c) => c.layers.every((l) => "R" in l && l.R !== undefined)))("of $name is that of ISO 6946", (c) => {
    const layers = c.layers.map((l) => resistanceLayer(l.R as number));
    const u = 1 / (c.rsi + c.rse + layersResistance(layers));
    if (!("R_ventilated" in c)) expect(u / c.U).toBeCloseTo(1, 9);
  });
  it("of an assembly carries the surface resistances of its use", () => {
    const p = boxProject();
    const [rse, rsi] = surfaceResistances("exterior wall");
    expect(1 / assemblyU(p, p.assemblies.wall)).toBeCloseTo(rse + rsi + 0.009 / 0.14 + 0.066 / 0.04 + 0.012 / 0.16, 12);
  });
});

describe("a slab on the ground", () => {
  it.each(closed.ground_floors)("$shape has the transmittance of ISO 13370", (g) => {
    const slab = {
      area: g.area,
      perimeter: g.perimeter,
      wallThickness: g.wall_thickness,
      floorResistance: g.R_floor,
      conductivity: g.lambda_ground,
      heatCapacity: 2e6,
    };
    expect(slabDimensions(slab).b).toBeCloseTo(g.B, 9);
    expect(slabDimensions(slab).dt).toBeCloseTo(g.d_t, 9);
    expect(slabTransmittance(slab)).toBeCloseTo(g.U_slab, 9);
  });
  const slab = { area: 80, perimeter: 36, wallThickness: 0.3, floorResistance: 2, conductivity: 2, heatCapacity: 2e6 };
  const outside = [0, 1, 4, 9, 14, 18, 20, 19, 15, 10, 5, 1];
  it("loses over the year what its transmittance says", () => {
    const v = virtualGround(slab, outside, 20);
    const mean = v.temperature.reduce((s, t) => s + t, 0) / 12;
    expect(mean).toBeCloseTo(outside.reduce((s, t) => s + t, 0) / 12, 9);
    expect(1 / v.u).toBeCloseTo(0.17 + 2 + 0.5 / 2 + v.virtualResistance, 9);
  });
  it("feels winter later and weaker than the air", () => {
    const v = virtualGround(slab, outside, 20);
    const swing = Math.max(...v.temperature) - Math.min(...v.temperature);
    expect(swing).toBeLessThan(20);
    expect(v.temperature.indexOf(Math.min(...v.temperature))).toBeGreaterThanOrEqual(0);
    expect(v.temperature.indexOf(Math.min(...v.temperature))).toBeLessThanOrEqual(2);
  });
  it("never gets a negative virtual layer, and says so", () => {
    const v = virtualGround({ ...slab, area: 6, perimeter: 200, floorResistance: 0, wallThickness: 0.05 }, outside, 20);
    expect(v.virtualResistance).toBe(0);
    expect(v.clamped).toBe(true);
  });
});

describe("glazing from U and g", () => {
  const films = { inside: 7.7, outside: 25 };
  const clear = ratedParts({ u: 2.8, g: 0.76, ratedFilms: films });
  it("keeps its U when the rated films come back", () => {
    expect(1 / (clear.resistance + 1 / 7.7 + 1 / 25)).toBeCloseTo(2.8, 12);
  });
  it("splits g into less transmittance and some absorption, never above one", () => {
    for (const [u, g] of [
      [5.6, 0.85],
      [2.8, 0.76],
      [1.6, 0.5],
      [1.1, 0.3],
      [0.7, 0.5],
    ]) {
      const p = ratedParts({ u, g, ratedFilms: films });
      const { up } = glazingPhysics({ kind: "rated", name: "x", u, g, visibleTransmittance: 0.6, frameShare: 0, ratedFilms: films, blind: null });
      expect(p.transmittance).toBeLessThanOrEqual(g);
      expect(p.absorptance).toBeGreaterThanOrEqual(0);
      expect(p.transmittance + p.absorptance).toBeLessThan(1);
      expect(up.diffuseTransmittance).toBeLessThan(p.transmittance);
      expect(up.diffuseTransmittance).toBeGreaterThan(0.75 * p.transmittance);
    }
  });
  it("passes nearly all up to 40°, much less at 80°, nothing at grazing", () => {
    const f = (degrees: number): number => angularFactor(clear.angular, Math.cos((degrees * Math.PI) / 180));
    expect(f(0)).toBeCloseTo(1, 1);
    expect(f(40)).toBeGreaterThan(0.93);
    expect(f(80)).toBeLessThan(0.5);
    expect(f(90)).toBeCloseTo(0, 2);
    for (let d = 5; d <= 90; d += 5) expect(f(d)).toBeLessThanOrEqual(f(d - 5) + 0.02);
  });
  it("is refused when its rated films leave nothing", () => {
    expect(() => ratedParts({ u: 6.5, g: 0.8, ratedFilms: films })).toThrow(RangeError);
  });
});

describe("films", () => {
  it("are stronger where warm air rises", () => {
    expect(naturalConvection(5, 1)).toBeGreaterThan(naturalConvection(5, -1));
    expect(naturalConvection(-5, -1)).toBeGreaterThan(naturalConvection(-5, 1));
    expect(naturalConvection(8, 0)).toBeCloseTo(2.62, 12);
    expect(naturalConvection(0, 0)).toBe(0);
  });
  it("grow with roughness and fall with the size of the façade", () => {
    expect(forcedCoefficient("very rough", 20, 20)).toBeGreaterThan(forcedCoefficient("very smooth", 20, 20));
    expect(forcedCoefficient("rough", 60, 200)).toBeLessThan(forcedCoefficient("rough", 20, 24));
  });
  it("see less wind in town than in the country, and as much at 10 m there as measured", () => {
    expect(windProfile("open country", 10)).toBeCloseTo(1, 9);
    expect(windProfile("city", 10)).toBeLessThan(windProfile("suburb", 10));
    expect(windProfile("suburb", 30)).toBeGreaterThan(windProfile("suburb", 5));
  });
  it("leave a mass layer its resistance", () => {
    expect(solidLayer(0.2, 0.5, 1000, 1000).resistance).toBeCloseTo(0.4, 12);
  });
});
