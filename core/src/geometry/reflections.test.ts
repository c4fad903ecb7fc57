import { describe, expect, it } from "vitest";
import { RayScene, reflectedViews, type Reflector, type Vector } from "./index.ts";

const NORTH: Vector = [0, 1, 0];
const box = (x0: number, y0: number, x1: number, y1: number, z0: number, z1: number): Vector[][] => {
  const p = (x: number, y: number, z: number): Vector => [x, y, z];
  return [
    [p(x0, y0, z0), p(x1, y0, z0), p(x1, y0, z1), p(x0, y0, z1)],
    [p(x1, y0, z0), p(x1, y1, z0), p(x1, y1, z1), p(x1, y0, z1)],
    [p(x1, y1, z0), p(x0, y1, z0), p(x0, y1, z1), p(x1, y1, z1)],
    [p(x0, y1, z0), p(x0, y0, z0), p(x0, y0, z1), p(x0, y1, z1)],
    [p(x0, y0, z0), p(x0, y1, z0), p(x1, y1, z0), p(x1, y0, z0)],
  ];
};
const things = (rings: readonly (readonly Vector[])[], reflectance = 0, set = 0): Reflector[] => rings.map((corners) => ({ corners, reflectance, set }));
/** The sun in one place all the time. */
const still = (sun: Vector): Vector[] => new Array<Vector>(288).fill(sun);
const noon: Vector = [0, -Math.SQRT1_2, Math.SQRT1_2];
/** A wall of 4 m by 3 m in the plane y = 0, looking south. */
const wall = {
  pieces: [
    [
      [-2, 0, 0],
      [2, 0, 0],
      [2, 0, 3],
      [-2, 0, 3],
    ] as Vector[],
  ],
  normal: [0, -1, 0] as Vector,
};

describe("ground that a face sees", () => {
  it("is half of what an upright face sees in the open, all lit", () => {
    const [v] = reflectedViews(wall, new RayScene([]), still(noon), NORTH);
    expect(v.groundBeam[100]).toBeCloseTo(0.5, 12);
    expect(v.groundDiffuse).toBeCloseTo(0.5, 12);
    expect(v.thingDiffuse + v.thingGround).toBe(0);
    const slope = { ...wall, normal: [0, -Math.SQRT1_2, Math.SQRT1_2] as Vector };
    expect(reflectedViews(slope, new RayScene([]), still(noon), NORTH)[0].groundBeam[0]).toBeCloseTo((1 - Math.SQRT1_2) / 2, 12);
  });
  it("lies in the building's own shadow to the north, and before it in the sun", () => {
    const scene = new RayScene(things(box(-2, 0, 2, 8, 0, 3)));
    const north = {
      pieces: [
        [
          [2, 8, 0],
          [-2, 8, 0],
          [-2, 8, 3],
          [2, 8, 3],
        ] as Vector[],
      ],
      normal: [0, 1, 0] as Vector,
    };
    const low: Vector = [0, -Math.cos(0.3), Math.sin(0.3)];
    const [front] = reflectedViews(wall, scene, still(low), NORTH);
    const [back] = reflectedViews(north, scene, still(low), NORTH);
    expect(front.groundBeam[0]).toBeCloseTo(0.5, 12);
    expect(back.groundBeam[0]).toBeLessThan(0.35);
    // the sky is seen alike on both sides
    expect(back.groundDiffuse).toBeCloseTo(front.groundDiffuse, 2);
    expect(back.groundDiffuse).toBeLessThan(0.5);
  });
  it("is dark under a wide slab close above it, and open under one that stands high", () => {
    const under = (height: number): number => {
      const slab = [
        [-10, -10, height],
        [-10, 10, height],
        [10, 10, height],
        [10, -10, height],
      ] as Vector[];
      const [v] = reflectedViews({ pieces: [slab], normal: [0, 0, -1] }, new RayScene(things(box(-10, -10, 10, 10, height, height + 3))), still(noon), NORTH);
      return v.groundBeam[0] + v.groundDiffuse;
    };
    expect(under(1)).toBeLessThan(0.2);
    expect(under(60)).toBeGreaterThan(1.5);
    expect(under(5)).toBeGreaterThan(under(1));
  });
  it("is cut off by fins from floor to head, as half of the sky is, and the fins throw back their own", () => {
    const fins = [
      [
        [-2, 0, 0],
        [-2, -2, 0],
        [-2, -2, 3],
        [-2, 0, 3],
      ],
      [
        [2, 0, 0],
        [2, 0, 3],
        [2, -2, 3],
        [2, -2, 0],
      ],
    ] as Vector[][];
    const [open] = reflectedViews(wall, new RayScene([]), still(noon), NORTH);
    const [black] = reflectedViews(wall, new RayScene(things(fins)), still(noon), NORTH);
    expect(black.groundDiffuse).toBeLessThan(0.85 * open.groundDiffuse);
    expect(black.groundDiffuse).toBeGreaterThan(0.4 * open.groundDiffuse);
    const [pale] = reflectedViews(wall, new RayScene(things(fins, 0.5)), still(noon), NORTH);
    expect(pale.thingDiffuse).toBeGreaterThan(0.02);
    // upright things see as much sky as ground
    expect(pale.thingDiffuse).toBeCloseTo(pale.thingGround, 12);
    // and never more comes back than half of what was cut off
    expect(pale.thingDiffuse + pale.thingGround).toBeLessThanOrEqual(0.5 * 2 * (1 - 2 * black.groundDiffuse) + 1e-9);
  });
  it("counts what comes and goes behind what always stands there", () => {
    const screen = [
      [
        [-9, -3, 0],
        [9, -3, 0],
        [9, -3, 9],
        [-9, -3, 9],
      ],
    ] as Vector[][];
    const views = reflectedViews(wall, new RayScene([...things(box(-2, 0, 2, 8, 0, 3)), ...things(screen, 0, 1)]), still(noon), NORTH);
    expect(views).toHaveLength(2);
    expect(views[1].groundBeam[0]).toBeLessThan(0.8 * views[0].groundBeam[0]);
    const always = reflectedViews(wall, new RayScene([...things(box(-2, 0, 2, 8, 0, 3)), ...things(screen)]), still(noon), NORTH)[0];
    expect(views[1].groundBeam[0]).toBeCloseTo(always.groundBeam[0], 12);
    expect(views[1].groundDiffuse).toBeCloseTo(always.groundDiffuse, 12);
  });
  it("is the same for a building turned on its plan under a sun turned with it", () => {
    const turn = (p: Vector): Vector => [p[0] * Math.cos(0.7) - p[1] * Math.sin(0.7), p[0] * Math.sin(0.7) + p[1] * Math.cos(0.7), p[2]];
    const block = box(3, -8, 9, -3, 0, 7);
    const [a] = reflectedViews(wall, new RayScene(things(block, 0.3)), still(noon), NORTH);
    const turned = { pieces: wall.pieces.map((r) => r.map(turn)), normal: turn(wall.normal) };
    const [b] = reflectedViews(
      turned,
      new RayScene(
        things(
          block.map((r) => r.map(turn)),
          0.3,
        ),
      ),
      still(turn(noon)),
      turn(NORTH),
    );
    for (const k of ["groundDiffuse", "thingDiffuse", "thingGround"] as const) expect(b[k]).toBeCloseTo(a[k], 9);
    expect(b.groundBeam[0]).toBeCloseTo(a.groundBeam[0], 9);
    expect(b.thingBeam[0]).toBeCloseTo(a.thingBeam[0], 9);
  });
});
