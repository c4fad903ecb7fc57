import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { dewPoint, humidityRatio, relativeHumidity, saturationPressure } from "../climate/index.ts";
import { LoneWall } from "../verification/walls.ts";
import { faceResponse, modulus, reducedResponse, reduceWall, resistanceLayer, solidLayer, transferMatrix, type LayerPhysics } from "./index.ts";

/** Conductivity, density, specific heat of the kinds of things walls are made of. */
const KINDS: readonly (readonly [number, number, number])[] = [
  [0.035, 30, 1030],
  [0.04, 160, 2100],
  [0.12, 500, 1600],
  [0.18, 600, 1000],
  [0.21, 900, 1000],
  [0.57, 1300, 1000],
  [0.77, 1700, 1000],
  [2.3, 2400, 1000],
  [50, 7800, 450],
];
const solid = fc
  .record({ kind: fc.constantFrom(...KINDS), d: fc.integer({ min: 2, max: 300 }), percent: fc.integer({ min: 80, max: 125 }) })
  .map(({ kind: [k, rho, c], d, percent }): LayerPhysics => solidLayer(d / 1000, (k * percent) / 100, rho, c));
const gap = fc.integer({ min: 8, max: 30 }).map((r) => resistanceLayer(r / 100));
const wall = fc.array(fc.oneof({ weight: 4, arbitrary: solid }, { weight: 1, arbitrary: gap }), { minLength: 1, maxLength: 5 });

describe("any assembly", () => {
  it("is reduced to its steady conductance and its heat capacity", () => {
    fc.assert(
      fc.property(wall, (layers) => {
        const w = reduceWall(layers);
        const r = layers.reduce((s, l) => s + l.resistance, 0);
        // steady: a kelvin between the faces' environments drives the same flow through
        const through = reducedResponse(w, 1e16, 1, 0)[0] * w.films[0];
        expect(through).toBeCloseTo(w.films[0] / (w.films[0] + w.films[1] + r * w.films[0] * w.films[1]), 6);
        const capacity = layers.reduce((s, l) => s + l.thickness * l.density * l.specificHeat, 0);
        // at one temperature throughout, the modes hold exactly the capacity
        let held = 0;
        for (let k = 0; k < w.modes; k++) held += w.content[k] * (w.port[2 * k] * w.films[0] + w.port[2 * k + 1] * w.films[1]);
        expect(Math.abs(held - capacity)).toBeLessThanOrEqual(1e-6 * Math.max(1, capacity));
      }),
      { numRuns: 60 },
    );
  });
  it("meets its transfer matrix at 24 h wherever it lets more than 2 % through", () => {
    fc.assert(
      fc.property(wall, (layers) => {
        const w = reduceWall(layers);
        const exact = faceResponse(layers, 86400, ...w.films);
        for (const face of [0, 1] as const)
          for (const input of [0, 1] as const) {
            const e = exact[face][input];
            if (modulus(e) < 0.02 * Math.abs(reducedResponse(w, 1e16, face, input)[0])) continue;
            const r = reducedResponse(w, 86400, face, input);
            expect(modulus([r[0] - e[0], r[1] - e[1]]) / modulus(e)).toBeLessThan(0.01);
          }
      }),
      { numRuns: 60 },
    );
  });
  it("is passive: left alone between equal films it only cools, and gives up exactly what it held", () => {
    fc.assert(
      fc.property(wall, (layers) => {
        const films: [number, number] = [25, 7.7];
        const w = new LoneWall(layers, films, 900, 20);
        const held = w.content;
        let given = 0;
        let last = held;
        for (let i = 0; i < 200; i++) {
          w.advance(0, 0);
          given += 900 * (films[0] * w.outside + films[1] * w.inside);
          expect(w.content).toBeLessThanOrEqual(last + 1e-6 * Math.max(1, held));
          last = w.content;
        }
        expect(Math.abs(held - w.content - given)).toBeLessThanOrEqual(1e-7 * Math.max(1, held));
      }),
      { numRuns: 40 },
    );
  });
  it("has a transfer matrix of determinant one", () => {
    fc.assert(
      fc.property(solid, (layer) => {
        const { z11, z12, z21, z22 } = transferMatrix([layer], 86400);
        const mul = (a: readonly [number, number], b: readonly [number, number]) => [a[0] * b[0] - a[1] * b[1], a[0] * b[1] + a[1] * b[0]];
        const [p, q] = [mul(z11, z22), mul(z12, z21)];
        const size = Math.max(1, modulus(z11) * modulus(z22));
        expect(Math.abs(p[0] - q[0] - 1) / size).toBeLessThan(1e-9);
        expect(Math.abs(p[1] - q[1]) / size).toBeLessThan(1e-9);
      }),
    );
  });
});

describe("moist air", () => {
  it("has a dew point that gives back its vapour pressure, from −40 to 60 °C", () => {
    fc.assert(
      fc.property(fc.double({ min: -40, max: 60, noNaN: true }), (t) => {
        expect(dewPoint(saturationPressure(t))).toBeCloseTo(t, 6);
      }),
    );
  });
  it("keeps its relative humidity through the humidity ratio", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -30, max: 45, noNaN: true }),
        fc.double({ min: 0.02, max: 1, noNaN: true }),
        fc.integer({ min: 60000, max: 105000 }),
        (t, rh, p) => {
          expect(relativeHumidity(t, humidityRatio(t, rh, p), p)).toBeCloseTo(rh, 10);
        },
      ),
    );
  });
});
