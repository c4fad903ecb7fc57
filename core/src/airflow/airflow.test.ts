import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { facadeFlow, facadePressure, leakageCoefficients, leakageFlow, openingFlow, shelters, windEffectiveness, type FreeOpening } from "./index.ts";

const opening = (more: Partial<FreeOpening> = {}): FreeOpening => ({ area: 1, azimuth: 180, middle: 1.5, height: 1, profile: 1, ...more });

describe("leakage", () => {
  it("through a façade follows the exponent 0.65 and stops without a pressure", () => {
    expect(facadeFlow(0.01, 4, 4)).toBeCloseTo(0.01, 12);
    expect(facadeFlow(0.01, 40, 4) / 0.01).toBeCloseTo(10 ** 0.65, 9);
    expect(facadeFlow(0.01, 0, 4)).toBe(0);
  });
  it("is driven by wind and by stack in quadrature", () => {
    const wind = facadePressure(5, 1.2, 20, 20, 3);
    const stack = facadePressure(0, 1.2, 20, 0, 3);
    expect(wind).toBeCloseTo(0.25 * 1.2 * 25, 9);
    expect(stack).toBeCloseTo((1.2 * 9.81 * 1.5 * 20) / 293.15, 9);
    expect(facadePressure(5, 1.2, 20, 0, 3)).toBeCloseTo(Math.sqrt(wind * wind + stack * stack), 9);
  });
  it("by its area is less behind shelter and more in tall buildings", () => {
    const flow = (s: (typeof shelters)[number], n: number): number => leakageFlow(0.05, leakageCoefficients(s, n), 20, 5);
    for (let i = 1; i < shelters.length; i++) expect(flow(shelters[i], 2)).toBeLessThan(flow(shelters[i - 1], 2));
    expect(flow("moderate", 3)).toBeGreaterThan(flow("moderate", 1));
    expect(flow("moderate", 9)).toBe(flow("moderate", 3));
  });
});

describe("open windows", () => {
  it("take wind best straight on, half as well at 45°, not at all from behind, alike on both sides", () => {
    expect(windEffectiveness(0)).toBeCloseTo(0.55, 12);
    expect(windEffectiveness(45)).toBeCloseTo(0.3, 12);
    expect(windEffectiveness(120)).toBe(0);
    for (const a of [10, 30, 60, 80]) expect(windEffectiveness(-a)).toBeCloseTo(windEffectiveness(a), 12);
    expect(windEffectiveness(350)).toBeCloseTo(windEffectiveness(10), 12);
  });
  it("pass no air without wind or difference, and more with more of either", () => {
    expect(openingFlow([opening()], 22, 22, 0, 180)).toBe(0);
    expect(openingFlow([], 25, 15, 5, 180)).toBe(0);
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 20, noNaN: true }), fc.double({ min: 0, max: 8, noNaN: true }), (difference, wind) => {
        const at = (d: number, v: number): number => openingFlow([opening(), opening({ middle: 4, azimuth: 90 })], 22, 22 - d, v, 180);
        expect(at(difference + 1, wind)).toBeGreaterThan(at(difference, wind));
        expect(at(difference, wind + 0.5)).toBeGreaterThan(at(difference, wind));
      }),
    );
  });
  it("at two heights pass more by stack than side by side", () => {
    const level = openingFlow([opening(), opening()], 25, 15, 0, 0);
    const apart = openingFlow([opening(), opening({ middle: 5 })], 25, 15, 0, 0);
    expect(apart).toBeGreaterThan(1.5 * level);
  });
});
