import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { areaVector, type Vector } from "../geometry/index.ts";
import { asPrism, cleanRing, flattened, ringNormal, turnOutward, type ShellSide } from "./shells.ts";

/** Sides of a prism over a counter-clockwise outline, all looking outward. */
function prism(outline: readonly (readonly [number, number])[], low: number, high: number): ShellSide[] {
  const up = outline.map(([x, y]): Vector => [x, y, high]);
  const down = outline.map(([x, y]): Vector => [x, y, low]).reverse();
  const walls = outline.map(([x, y], i): ShellSide => {
    const [u, v] = outline[(i + 1) % outline.length];
    return {
      id: `wall ${i}`,
      ring: [
        [x, y, low],
        [u, v, low],
        [u, v, high],
        [x, y, high],
      ],
    };
  });
  return [{ id: "floor", ring: down }, { id: "ceiling", ring: up }, ...walls];
}
const ell = [
  [0, 0],
  [8, 0],
  [8, 3],
  [4, 3],
  [4, 7],
  [0, 7],
] as const;
const sum = (sides: readonly ShellSide[]): Vector =>
  sides.reduce(
    (s, { ring }): Vector => {
      const a = areaVector(ring);
      return [s[0] + a[0], s[1] + a[1], s[2] + a[2]];
    },
    [0, 0, 0],
  );

describe("a ring from a file", () => {
  it("loses corners that stand twice, the last one on the first too", () => {
    const ring: Vector[] = [
      [0, 0, 0],
      [4, 0, 0],
      [4, 0, 0.00001],
      [4, 3, 0],
      [0, 3, 0],
      [0, 0, 0],
    ];
    expect(cleanRing(ring)).toHaveLength(4);
  });
  it("is none with two corners left, or without area", () => {
    expect(
      cleanRing([
        [0, 0, 0],
        [1, 0, 0],
        [0, 0, 0],
      ]),
    ).toBeNull();
    expect(
      cleanRing([
        [0, 0, 0],
        [1, 0, 0],
        [2, 0, 0],
      ]),
    ).toBeNull();
  });
  it("looks along its normal by the right-hand rule", () => {
    expect(
      ringNormal([
        [0, 0, 2],
        [1, 0, 2],
        [1, 1, 2],
      ]),
    ).toEqual([0, 0, 1]);
  });
  it("stays whole where it bends by less than 2 cm, and becomes triangles of the same outline beyond", () => {
    const corner = (z: number): Vector[] => [
      [0, 0, 0],
      [4, 0, 0],
      [4, 3, z],
      [0, 3, 0],
    ];
    expect(flattened(corner(0.01))).toBeNull();
    const parts = flattened(corner(0.6)) as Vector[][];
    expect(parts).toHaveLength(2);
    const whole = areaVector(corner(0.6));
    const together = parts.reduce((s, t): Vector => [s[0] + areaVector(t)[0], s[1] + areaVector(t)[1], s[2] + areaVector(t)[2]], [0, 0, 0]);
    for (const k of [0, 1, 2]) expect(together[k]).toBeCloseTo(whole[k], 12);
  });
});

describe("sides of a space", () => {
  it("are a prism where walls stand all round a level floor and ceiling, whatever way they look", () => {
    const sides = prism(ell, 1.2, 4.2);
    const p = asPrism(sides);
    expect([p?.low, p?.high, p?.ring.length]).toEqual([1.2, 4.2, 6]);
    expect(asPrism(sides.map((s) => ({ ...s, ring: [...s.ring].reverse() })))?.ring).toHaveLength(6);
  });
  it("are a prism as well with a floor in two parts and a corner in the middle of a wall", () => {
    const whole = prism(
      [
        [0, 0],
        [3, 0],
        [8, 0],
        [8, 4],
        [0, 4],
      ],
      0,
      3,
    ).filter((s) => s.id !== "floor");
    const floor = (x0: number, x1: number): ShellSide => ({
      id: `floor ${x0}`,
      ring: [
        [x0, 0, 0],
        [x0, 4, 0],
        [x1, 4, 0],
        [x1, 0, 0],
      ],
    });
    const p = asPrism([...whole, floor(0, 3), floor(3, 8)]);
    // the corner along the straight wall is no corner of the prism
    expect(p?.ring).toHaveLength(4);
  });
  it("are none with a wall missing, a sloped top, a floor at two levels or no height", () => {
    const sides = prism(ell, 0, 3);
    expect(asPrism(sides.slice(0, -1))).toBeNull();
    expect(asPrism(sides.map((s) => (s.id === "ceiling" ? { ...s, ring: s.ring.map(([x, y, z]): Vector => [x, y, z + 0.3 * x]) } : s)))).toBeNull();
    expect(asPrism([...sides, { id: "step", ring: sides[0].ring.map(([x, y]): Vector => [x, y, 1]) }])).toBeNull();
    expect(asPrism(prism(ell, 0, 0.05))).toBeNull();
    expect(asPrism([])).toBeNull();
  });
  it("are turned to look outward, any of them, and then close", () => {
    const sides = prism(ell, 0, 3);
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: sides.length, maxLength: sides.length }), (inward) => {
        const given = sides.map((s, i) => (inward[i] ? { ...s, ring: [...s.ring].reverse() } : s));
        const { sides: out, turned } = turnOutward(given);
        expect(turned).toBe(inward.filter(Boolean).length);
        // area vectors of a closed shell add up to nothing
        for (const v of sum(out)) expect(Math.abs(v)).toBeLessThan(1e-9);
        for (const [i, s] of out.entries()) expect(ringNormal(s.ring)).toEqual(ringNormal(sides[i].ring));
      }),
    );
  });
});
