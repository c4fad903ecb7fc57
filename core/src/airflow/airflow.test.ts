import { describe, expect, it } from "vitest";
import fc from "fast-check";
import {
  balancePressure,
  crackFlow,
  facadeFlow,
  leakageCoefficients,
  leakageFlow,
  openingFlow,
  outsidePressures,
  passage,
  shelters,
  wallCoefficient,
  windEffectiveness,
  type FreeOpening,
  type LeakPlace,
} from "./index.ts";

const opening = (more: Partial<FreeOpening> = {}): FreeOpening => ({ area: 1, azimuth: 180, middle: 1.5, height: 1, profile: 1, ...more });

describe("leakage", () => {
  it("through a façade follows the exponent 0.65 and stops without a pressure", () => {
    expect(facadeFlow(0.01, 4, 4)).toBeCloseTo(0.01, 12);
    expect(facadeFlow(0.01, 40, 4) / 0.01).toBeCloseTo(10 ** 0.65, 9);
    expect(facadeFlow(0.01, 0, 4)).toBe(0);
  });
  it("is pushed in on the face to windward and sucked out of the others", () => {
    // Swami and Chandra 1988, their figure 4: 0.6 head on, nothing near 60°, most suction near 100°, less behind
    expect(wallCoefficient(0)).toBeCloseTo(0.6, 2);
    expect(Math.abs(wallCoefficient(60))).toBeLessThan(0.15);
    expect(wallCoefficient(95)).toBeLessThan(-0.3);
    expect(wallCoefficient(180)).toBeGreaterThan(wallCoefficient(100));
    expect(wallCoefficient(180)).toBeLessThan(0);
    for (const a of [20, 75, 130]) expect(wallCoefficient(-a)).toBeCloseTo(wallCoefficient(a), 12);
  });
  it("balances: what enters leaves, by wind, by buoyancy and by both", () => {
    const sides = [0, 90, 180, 270].flatMap((azimuth): LeakPlace[] => [2, 8].map((height) => ({ azimuth, height, profile: 1 })));
    const places = [...sides, { azimuth: NaN, height: 10, profile: 1 }];
    const sizes = Float64Array.from(places, (_, i) => 0.001 * (1 + (i % 3)));
    const outside = new Float64Array(places.length);
    const flows = (wind: number, out: number): number[] => {
      outsidePressures(places, wind, 30, out, 20, 1.3, outside);
      const inside = balancePressure(sizes, outside, 0);
      return places.map((_, i) => sizes[i] * crackFlow(outside[i] - inside));
    };
    for (const [wind, out] of [
      [5, 20],
      [0, -10],
      [4, -10],
      [0.2, 19],
    ]) {
      const f = flows(wind, out);
      const gross = f.reduce((s, v) => s + Math.abs(v), 0);
      expect(gross).toBeGreaterThan(0);
      expect(Math.abs(f.reduce((s, v) => s + v, 0))).toBeLessThan(1e-7 * gross);
    }
    const cold = flows(0, -10);
    // in winter air enters low and leaves high
    places.forEach((p, i) => expect(Math.sign(cold[i])).toBe(p.height < 5 ? 1 : -1));
    const windy = flows(6, 20);
    expect(windy[0]).toBeGreaterThan(0);
    expect(windy[4]).toBeLessThan(0);
    expect(flows(0, 20).every((v) => v === 0)).toBe(true);
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
  it("on opposite sides give what the handbook gives for one inlet and one outlet of that size", () => {
    // Q = C·A·V with 0.5 to 0.6 head on: 1 m², 3 m/s
    const both = [opening(), opening({ azimuth: 0 })];
    const q = openingFlow(both, 22, 22, 3, 180);
    expect(q).toBeGreaterThan(0.5 * 3);
    expect(q).toBeLessThan(0.6 * 3);
    // whichever of them faces the wind
    expect(openingFlow(both, 22, 22, 3, 0)).toBeCloseTo(q, 12);
    // a much larger outlet adds at most √2 (the handbook's figure ends at 1.38), a smaller one rules
    const raised = openingFlow([opening(), opening({ azimuth: 0, area: 5 })], 22, 22, 3, 180) / q;
    expect(raised).toBeGreaterThan(1.35);
    expect(raised).toBeLessThan(1.42);
    expect(openingFlow([opening(), opening({ azimuth: 0, area: 0.1 })], 22, 22, 3, 180)).toBeLessThan(0.15 * q);
    expect(passage(2, 2)).toBeCloseTo(2, 12);
    expect(passage(1, 0)).toBe(0);
  });
  it("on one side only take a twentieth of that, and none of it depends on how many they are", () => {
    const one = openingFlow([opening()], 22, 22, 3, 180);
    const through = openingFlow([opening(), opening({ azimuth: 0 })], 22, 22, 3, 180);
    expect(one).toBeGreaterThan(0.02 * through);
    expect(one).toBeLessThan(0.1 * through);
    expect(openingFlow([opening({ area: 0.5 }), opening({ area: 0.5 })], 22, 22, 3, 180)).toBeCloseTo(one, 12);
    // in a corner with the wind between them nothing drives air from one to the other
    expect(openingFlow([opening({ azimuth: 135 }), opening({ azimuth: 225 })], 22, 22, 3, 180)).toBeCloseTo(2 * one, 9);
  });
  it("at two heights pass more by stack than side by side", () => {
    const level = openingFlow([opening(), opening()], 25, 15, 0, 0);
    const apart = openingFlow([opening(), opening({ middle: 5 })], 25, 15, 0, 0);
    expect(apart).toBeGreaterThan(1.5 * level);
  });
});
