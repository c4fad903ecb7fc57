import { describe, expect, it } from "vitest";
import fc from "fast-check";
import {
  basementTransmittance,
  edgeThickness,
  edgeTransmittance,
  penetrationDepth,
  slabDimensions,
  slabPeriodic,
  slabTransmittance,
  suspendedTransmittance,
  virtualBasement,
  virtualCrawlSpace,
  virtualGround,
  type EdgeInsulation,
  type SlabInputs,
  type SuspendedInputs,
} from "./index.ts";

const slab: SlabInputs = { area: 80, perimeter: 36, wallThickness: 0.3, floorResistance: 2, conductivity: 2, heatCapacity: 2e6 };
const outside = [0, 1, 4, 9, 14, 18, 20, 19, 15, 10, 5, 1];
const mean = (v: readonly number[]): number => v.reduce((s, x) => s + x, 0) / v.length;
const swing = (v: readonly number[]): number => (Math.max(...v) - Math.min(...v)) / 2;
const YEAR = 365 * 86400;

describe("ground under a slab", () => {
  it("is felt to the depth a year's swing reaches: √(λ·t/(π·ρc))", () => {
    expect(penetrationDepth(slab)).toBeCloseTo(Math.sqrt((2 * YEAR) / (Math.PI * 2e6)), 2);
    // the standard's table for sand and gravel, λ 2.0 and ρc 2.0 MJ/m³K: 3.2 m
    expect(penetrationDepth(slab)).toBeCloseTo(3.2, 1);
    // clay, λ 1.5 and ρc 3.0: 2.2 m
    expect(penetrationDepth({ conductivity: 1.5, heatCapacity: 3e6 })).toBeCloseTo(2.2, 1);
  });
  it("without insulation is the long formula, well insulated the short one, and the two meet", () => {
    const { b } = slabDimensions(slab);
    const u = (dt: number): number => slabTransmittance({ ...slab, floorResistance: (dt - slab.wallThickness) / slab.conductivity - 0.21 });
    // both sides of the change at d_t = B
    expect(u(b * 1.0001) / u(b * 0.9999)).toBeCloseTo(1, 2);
    expect(u(3 * b)).toBeCloseTo(slab.conductivity / (0.457 * b + 3 * b), 12);
  });
  it("takes less with more insulation, a larger floor, a drier ground: for any slab", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 5000, noNaN: true }),
        fc.double({ min: 1, max: 4, noNaN: true }),
        fc.double({ min: 0, max: 6, noNaN: true }),
        (area, shape, floorResistance) => {
          const s = { ...slab, area, perimeter: 4 * shape * Math.sqrt(area), floorResistance };
          const u = slabTransmittance(s);
          expect(u).toBeGreaterThan(0);
          expect(slabTransmittance({ ...s, floorResistance: floorResistance + 1 })).toBeLessThan(u);
          expect(slabTransmittance({ ...s, perimeter: 1.5 * s.perimeter })).toBeGreaterThan(u);
          expect(slabTransmittance({ ...s, conductivity: 1.5 })).toBeLessThan(u);
          // no more than through the floor and its films alone
          expect(u).toBeLessThan(1 / (0.21 + floorResistance));
        },
      ),
    );
  });
});

describe("edge insulation", () => {
  const edge = (position: EdgeInsulation["position"], depth: number, thickness = 0.08): EdgeInsulation => ({ position, depth, thickness, conductivity: 0.035 });
  it("counts by its resistance less that of the ground it stands in for", () => {
    expect(edgeThickness(edge("horizontal", 1), 2)).toBeCloseTo((0.08 / 0.035 - 0.08 / 2) * 2, 12);
    expect(edgeThickness({ ...edge("horizontal", 1), conductivity: 2 }, 2)).toBe(0);
  });
  it("spares heat, more with width and thickness; upright it reaches twice its depth", () => {
    const psi = (e: EdgeInsulation): number => edgeTransmittance(slab, e);
    expect(psi(edge("horizontal", 1))).toBeLessThan(0);
    expect(psi(edge("horizontal", 2))).toBeLessThan(psi(edge("horizontal", 1)));
    expect(psi(edge("horizontal", 1, 0.16))).toBeLessThan(psi(edge("horizontal", 1)));
    expect(psi(edge("vertical", 0.5))).toBeCloseTo(psi(edge("horizontal", 1)), 12);
    expect(psi(edge("horizontal", 0))).toBeCloseTo(0, 12);
    const insulated = slabTransmittance({ ...slab, edge: edge("horizontal", 1) });
    expect(slabTransmittance(slab) - insulated).toBeCloseTo((-2 * psi(edge("horizontal", 1))) / slabDimensions(slab).b, 12);
  });
  it("dampens the swing of the year more than it spares of the mean", () => {
    const e = edge("vertical", 1);
    const spared = slabTransmittance({ ...slab, edge: e }) / slabTransmittance(slab);
    const damped = slabPeriodic({ ...slab, edge: e }) / slabPeriodic(slab);
    expect(damped).toBeLessThan(spared);
    // insulation that reaches past all the ground the year feels leaves nothing of the bare edge
    const deep = slabPeriodic({ ...slab, edge: edge("horizontal", 100) });
    const whole = 0.37 * slab.perimeter * slab.conductivity;
    const dt = slabDimensions(slab).dt + edgeThickness(edge("horizontal", 100), 2);
    expect(deep).toBeCloseTo(whole * Math.log(penetrationDepth(slab) / dt + 1), 9);
  });
});

describe("the virtual layer", () => {
  it("carries the standard's flow by month: mean by U, swing by the periodic transmittance, late by its delay", () => {
    const inside = 20;
    const v = virtualGround(slab, outside, inside);
    const delay = 1.5 - 0.42 * Math.log(penetrationDepth(slab) / (slabDimensions(slab).dt + 1));
    v.temperature.forEach((t, m) => {
      const flow = v.u * (inside - t);
      // January is the coldest month here
      const expected = v.u * (inside - mean(outside)) + (slabPeriodic(slab) / slab.area) * swing(outside) * Math.cos((2 * Math.PI * (m - delay)) / 12);
      expect(flow).toBeCloseTo(expected, 12);
    });
    expect(v.soilThickness).toBe(0.5);
  });
  it("does not move with the month the year begins in: a southern year is the northern one half a year on", () => {
    const north = virtualGround(slab, outside, 20).temperature;
    const south = virtualGround(slab, [...outside.slice(6), ...outside.slice(0, 6)], 20).temperature;
    north.forEach((t, m) => expect(south[(m + 6) % 12]).toBeCloseTo(t, 12));
  });
  it("of a year without swing is its mean in every month", () => {
    const v = virtualGround(slab, new Array<number>(12).fill(8), 20);
    v.temperature.forEach((t) => expect(t).toBeCloseTo(8, 12));
  });
});

describe("a suspended floor", () => {
  const under: SuspendedInputs = { height: 0.5, wallU: 1.5, vents: 0.0015, shelter: 0.05, groundResistance: 0, wind: 4 };
  it("lies in series with the ground and the ventilated crawl space side by side", () => {
    const p = suspendedTransmittance(slab, under);
    const b = slabDimensions(slab).b;
    expect(p.air).toBeCloseTo((2 * 0.5 * 1.5) / b + (1450 * 0.0015 * 4 * 0.05) / b, 12);
    expect(1 / p.u).toBeCloseTo(1 / p.floor + 1 / (p.ground + p.air), 12);
    // inside films on both sides of the floor
    expect(1 / p.floor).toBeCloseTo(2 * 0.17 + 2, 12);
  });
  it("loses more over a windier, more open, taller space, never more than the floor alone", () => {
    const u = (o: Partial<SuspendedInputs>): number => suspendedTransmittance(slab, { ...under, ...o }).u;
    expect(u({ wind: 8 })).toBeGreaterThan(u({}));
    expect(u({ vents: 0.01 })).toBeGreaterThan(u({}));
    expect(u({ height: 1 })).toBeGreaterThan(u({}));
    expect(u({ groundResistance: 2 })).toBeLessThan(u({}));
    expect(u({ vents: 10 })).toBeLessThan(1 / (2 * 0.17 + 2));
  });
  it("feels the weather at once, and more of it than a slab of the same floor", () => {
    const v = virtualCrawlSpace(slab, under, outside, 20);
    expect(v.soilThickness).toBe(0);
    expect(mean(v.temperature)).toBeCloseTo(mean(outside), 12);
    expect(v.temperature.indexOf(Math.min(...v.temperature))).toBe(0);
    expect(swing(v.temperature)).toBeGreaterThan(swing(virtualGround(slab, outside, 20).temperature));
    // from inside through film, floor and virtual layer it is the whole transmittance
    expect(1 / v.u).toBeCloseTo(0.17 + slab.floorResistance + v.virtualResistance, 12);
  });
});

describe("a basement", () => {
  const deep = (depth: number): ReturnType<typeof basementTransmittance> => basementTransmittance(slab, { depth, wallResistance: 1.8 });
  it("loses less per area the deeper it lies, by its floor and by its walls", () => {
    for (const [shallow, deeper] of [
      [0.5, 1],
      [1, 2.4],
      [2.4, 4],
    ]) {
      expect(deep(deeper).floor).toBeLessThan(deep(shallow).floor);
      expect(deep(deeper).walls).toBeLessThan(deep(shallow).walls);
    }
    // one just under the ground is a slab
    expect(deep(1e-6).floor).toBeCloseTo(slabTransmittance(slab), 5);
  });
  it("shares the standard's swing between walls and floor: together they carry all of it", () => {
    const depth = 2.4;
    const v = virtualBasement(slab, { depth, wallResistance: 1.8 }, outside, 20);
    const d = penetrationDepth(slab);
    const reach = Math.exp(-depth / d);
    const dw = deep(depth).dw;
    const whole = 0.37 * slab.perimeter * slab.conductivity * (reach * Math.log(d / slabDimensions(slab).dt + 1) + 2 * (1 - reach) * Math.log(d / dw + 1));
    const ofFloor = (swing(v.floor.temperature) * v.floor.u * slab.area) / swing(outside);
    const ofWalls = (swing(v.walls.temperature) * v.walls.u * depth * slab.perimeter) / swing(outside);
    // monthly values sample the cosine at whole months
    expect(Math.abs((ofFloor + ofWalls) / whole - 1)).toBeLessThan(0.05);
    expect(mean(v.floor.temperature)).toBeCloseTo(mean(outside), 12);
    expect(mean(v.walls.temperature)).toBeCloseTo(mean(outside), 12);
  });
});
