import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { signedArea, type Point, type Ring } from "../model/index.ts";
import { areaOf, difference, intersection, isConvex, trapezoids, withoutHoles, type Polygon } from "./polygon.ts";
import { deepest, offsetRing, shrink } from "./skeleton.ts";

const ones = (p: Polygon): number[][] => p.map((r) => r.map(() => 1));
const rectangle = (x0: number, y0: number, x1: number, y1: number): Ring => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];
const sum = (parts: readonly (readonly Polygon[])[]): number => parts.reduce((s, p) => s + areaOf(p), 0);
const L: Ring = [
  [0, 0],
  [20, 0],
  [20, 8],
  [8, 8],
  [8, 20],
  [0, 20],
];

describe("a shrinking outline", () => {
  it("of a rectangle leaves the rectangle less a strip, mitred at its corners", () => {
    const { rest, swept } = shrink([rectangle(0, 0, 20, 10)], ones([rectangle(0, 0, 20, 10)]), 3);
    expect(areaOf(rest)).toBeCloseTo(14 * 4, 6);
    expect(swept.map((p) => areaOf(p))).toEqual([51, 21, 51, 21].map((a) => expect.closeTo(a, 6)));
  });
  it("takes a depth for each side", () => {
    const { rest, swept } = shrink([rectangle(0, 0, 20, 10)], [[3, 0, 2, 5]], 1);
    expect(areaOf(rest)).toBeCloseTo(15 * 5, 6);
    expect(areaOf(swept[1])).toBe(0);
    expect(sum(swept) + areaOf(rest)).toBeCloseTo(200, 6);
  });
  it("of a concave outline keeps its notch", () => {
    const { rest } = shrink([L], ones([L]), 2);
    // corners move by the two depths: a smaller L of 16 by 16 with arms of 4
    expect(areaOf(rest)).toBeCloseTo(16 * 4 + 12 * 4, 6);
  });
  it("shrunk to nothing gives each edge of a square a quarter, and the roof of an L its valley", () => {
    const square = shrink([rectangle(0, 0, 6, 6)], ones([rectangle(0, 0, 6, 6)]), Infinity);
    expect(square.rest).toEqual([]);
    for (const p of square.swept) expect(areaOf(p)).toBeCloseTo(9, 6);
    const all = shrink([L], ones([L]), Infinity);
    expect(all.rest).toEqual([]);
    expect(sum(all.swept)).toBeCloseTo(20 * 8 + 8 * 12, 5);
    // arms of the same width: the two outer long sides are alike
    expect(areaOf(all.swept[0])).toBeCloseTo(areaOf(all.swept[5]), 5);
  });
  it("falls apart where a waist closes", () => {
    const waist: Ring = [
      [0, 0],
      [30, 0],
      [30, 10],
      [18, 10],
      [18, 4],
      [12, 4],
      [12, 10],
      [0, 10],
    ];
    expect(shrink([waist], ones([waist]), 1.9).rest).toHaveLength(1);
    expect(shrink([waist], ones([waist]), 2.1).rest).toHaveLength(2);
    expect(sum(shrink([waist], ones([waist]), Infinity).swept)).toBeCloseTo(Math.abs(signedArea(waist)), 5);
  });
  it("round a court grows from both its edges until they meet", () => {
    const court: Polygon = [rectangle(0, 0, 30, 30), [...rectangle(10, 10, 20, 20)].reverse()];
    const { rest, swept } = shrink(court, ones(court), 3);
    expect(areaOf(rest)).toBeCloseTo(24 * 24 - 16 * 16, 6);
    expect(rest[0]).toHaveLength(2);
    expect(swept).toHaveLength(8);
    expect(sum(shrink(court, ones(court), Infinity).swept)).toBeCloseTo(800, 4);
  });
  it("of any star-shaped outline tiles it: what is swept and what is left add up and never overlap", () => {
    const star = fc
      .record({ radii: fc.array(fc.integer({ min: 5, max: 30 }), { minLength: 5, maxLength: 11 }), depth: fc.integer({ min: 1, max: 12 }) })
      .map(({ radii, depth }) => ({
        ring: radii.map((r, i): Point => [
          Math.round(r * Math.cos((2 * Math.PI * i) / radii.length) * 1e3) / 1e3,
          Math.round(r * Math.sin((2 * Math.PI * i) / radii.length) * 1e3) / 1e3,
        ]),
        depth,
      }));
    fc.assert(
      fc.property(star, ({ ring, depth }) => {
        const { rest, swept } = shrink([ring], ones([ring]), depth / 2);
        const whole = signedArea(ring);
        expect(Math.abs(sum(swept) + areaOf(rest) - whole) / whole).toBeLessThan(1e-4);
        // nothing outside: the union would be smaller than the sum if parts overlapped, and larger if they left the outline
        for (const p of swept) expect(Math.abs(areaOf(intersection(p, [[ring]])) - areaOf(p))).toBeLessThan(1e-3);
      }),
      { numRuns: 150 },
    );
  });
});

describe("offset and cutting", () => {
  it("moves all sides in or out by one distance", () => {
    expect(areaOf([[offsetRing(rectangle(0, 0, 10, 6), 1)[0]]])).toBeCloseTo(8 * 4, 6);
    expect(areaOf([[offsetRing(rectangle(0, 0, 10, 6), -1)[0]]])).toBeCloseTo(12 * 8, 6);
    expect(offsetRing(rectangle(0, 0, 10, 6), 4)).toEqual([]);
    expect(areaOf([[offsetRing(L, -1)[0]]])).toBeCloseTo(22 * 10 + 10 * 12, 6);
  });
  it("tells how deep a perimeter can be", () => {
    expect(deepest([rectangle(0, 0, 20, 10)])).toBeGreaterThan(4.9);
    expect(deepest([rectangle(0, 0, 20, 10)])).toBeLessThan(5);
  });
  it("cuts a polygon with a hole into plain ones of the same area", () => {
    const rings = withoutHoles([rectangle(0, 0, 30, 30), rectangle(10, 10, 20, 20)]);
    expect(rings.length).toBeGreaterThan(1);
    expect(areaOf(rings.map((r) => [r]))).toBeCloseTo(800, 6);
  });
  it("of convex outlines agrees with the general clipping, area for area", () => {
    const a = rectangle(0, 0, 10, 8);
    const b: Ring = [
      [5, -2],
      [14, 3],
      [6, 9],
    ];
    expect(isConvex(b)).toBe(true);
    const shared = areaOf(intersection([[a]], [[b]]));
    expect(shared).toBeGreaterThan(1);
    // the general one works on a grid of 10 µm
    expect(areaOf(difference([[a]], [[b]]))).toBeCloseTo(80 - shared, 4);
    expect(areaOf(trapezoids([[L]]).map((r) => [r]))).toBeCloseTo(256, 9);
  });
});
