import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { applyChanges, checkReferences, type Point, type Project } from "../model/index.ts";
import { proposeZones } from "../inputs/index.ts";
import { DEG, sin, tan } from "../numeric/index.ts";
import { boxProject } from "../verification/box.ts";
import {
  addRoof,
  addStorey,
  arcFacets,
  copyStorey,
  convexPieces,
  deriveFaces,
  deriveOpenings,
  deriveShades,
  drawSpace,
  facePolygons,
  mergeSpaces,
  moveCorner,
  moveEdge,
  moveSpaces,
  norm,
  offsetSpace,
  perimeterOf,
  removeRoof,
  removeSpaces,
  removeStorey,
  setEdgeLength,
  splitSpace,
  type Face,
  type PlanEdit,
} from "./index.ts";

const rectangle = (x0: number, y0: number, x1: number, y1: number): Point[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];
function model(spaces: Record<string, readonly Point[]>): Project {
  const p = boxProject();
  p.storeys = { low: { name: "Low", elevation: 0, height: 3, multiplier: 1 } };
  p.openings = {};
  p.zones = Object.fromEntries(Object.keys(spaces).map((id) => [id, { name: id, services: null, inputs: {} }]));
  p.spaces = Object.fromEntries(
    Object.entries(spaces).map(([id, ring]) => [
      id,
      {
        name: id,
        storey: "low",
        zone: id,
        spaceType: "box",
        kit: null,
        form: { kind: "prism" as const, outline: ring.map(([x, y], i) => ({ id: `e${i + 1}`, x, y })), floor: "floor", ceiling: "ceiling" },
        inputs: {},
      },
    ]),
  );
  return p;
}
/** Applies an action; it must be accepted, leave a sound document, and be undone to the bit. */
function done(p: Project, e: PlanEdit): Project {
  if (!e.ok) throw new Error(e.message);
  const applied = applyChanges(p, e.changes);
  if (!applied.ok) throw new Error(applied.message);
  expect(checkReferences(applied.project)).toEqual([]);
  const back = applyChanges(applied.project, applied.inverse);
  expect(back.ok && JSON.stringify(back.project)).toBe(JSON.stringify(p));
  return applied.project;
}
const area = (p: Project, id: string): number => deriveFaces(p).spaces.get(id)?.floorArea ?? NaN;
const total = (faces: readonly Face[]): number => faces.reduce((s, f) => s + f.area, 0);
const two = (): Project => model({ a: rectangle(0, 0, 6, 4), b: rectangle(6, 0, 10, 4) });
/** Faces of a space close: their area vectors cancel. */
function expectClosed(p: Project): void {
  const { faces, spaces } = deriveFaces(p);
  for (const id of spaces.keys())
    for (const k of [0, 1, 2] as const)
      expect(
        faces.filter((f) => f.space === id).reduce((s, f) => s + f.area * f.normal[k], 0),
        `${id} axis ${k}`,
      ).toBeCloseTo(0, 4);
}

describe("roofs", () => {
  const roofed = (kind: "flat" | "shed" | "gable" | "hip", pitch: number, as: "part of the storey" | "roof space", ring = rectangle(0, 0, 10, 6)): Project =>
    done(model({ a: ring }), addRoof(model({ a: ring }), "low", kind, pitch, 90, as));
  it("make a shed of the volume of a wedge on a box", () => {
    const p = roofed("shed", 10, "part of the storey");
    const g = deriveFaces(p).spaces.get("a");
    expect(g?.volume).toBeCloseTo(60 * (3 + 5 * tan(10 * DEG)), 6);
    expectClosed(p);
    const [roof] = deriveFaces(p).faces.filter((f) => f.kind === "ceiling");
    expect(roof.tilt).toBeCloseTo(10, 9);
    // falls to the right of the plan
    expect(roof.azimuth).toBeCloseTo(90 + p.site.planNorth, 6);
    expect(roof.area).toBeCloseTo(60 / Math.cos(10 * DEG), 6);
  });
  it("make a gable with two planes and pointed end walls", () => {
    const p = roofed("gable", 45, "part of the storey");
    const { faces, spaces } = deriveFaces(p);
    expect(spaces.get("a")?.volume).toBeCloseTo(10 * (6 * 3 + 0.5 * 6 * 3), 6);
    expect(spaces.get("a")?.high).toBeCloseTo(6, 6);
    expect(faces.filter((f) => f.kind === "ceiling").map((f) => f.area)).toEqual([42.4264, 42.4264].map((v) => expect.closeTo(v, 3)));
    const ends = faces.filter((f) => f.wall?.shape);
    expect(ends.map((f) => f.area)).toEqual([27, 27].map((v) => expect.closeTo(v, 6)));
    expectClosed(p);
  });
  it("make a hip over an L whose planes tile it at one slope, closed everywhere", () => {
    const ring: Point[] = [
      [0, 0],
      [12, 0],
      [12, 5],
      [5, 5],
      [5, 11],
      [0, 11],
    ];
    const p = roofed("hip", 30, "roof space", ring);
    const { faces, spaces } = deriveFaces(p);
    const planes = faces.filter((f) => f.space === "low_roof_space" && f.kind === "ceiling");
    expect(planes).toHaveLength(6);
    for (const f of planes) expect(f.tilt).toBeCloseTo(30, 6);
    expect(total(planes) * Math.cos(30 * DEG)).toBeCloseTo(spaces.get("a")?.floorArea ?? 0, 3);
    // the roof space rests on the storey, not on outdoor air
    const floor = faces.filter((f) => f.space === "low_roof_space" && f.kind === "floor");
    expect(floor.map((f) => [f.contact, f.partnerSpace])).toEqual([["space", "a"]]);
    expect(faces.some((f) => f.space === "low_roof_space" && f.kind === "wall")).toBe(false);
    expectClosed(p);
    expect(area(done(p, removeRoof(p, Object.keys(p.roofs)[0])), "a")).toBeCloseTo(90, 9);
  });
  it("over two rooms share the pointed part of the wall between them", () => {
    const base = two();
    const p = done(base, addRoof(base, "low", "gable", 40, 90, "part of the storey"));
    const { faces } = deriveFaces(p);
    const shared = faces.filter((f) => f.kind === "wall" && f.contact === "space");
    expect(shared).toHaveLength(2);
    expect(shared[0].area).toBeCloseTo(4 * 3 + 0.5 * 4 * 2 * tan(40 * DEG), 5);
    expect(shared[0].area).toBeCloseTo(shared[1].area, 9);
    expectClosed(p);
  });
  it("stand on the top storey alone, and windows by rule leave a roof space without", () => {
    const base = two();
    const upper = done(base, copyStorey(base, "low"));
    expect(addRoof(upper, "low", "gable", 30, 90, "roof space")).toMatchObject({ ok: false, message: expect.stringMatching(/stands on Low/) as string });
    const top = Object.keys(upper.storeys)[1];
    const p = done(upper, addRoof(upper, top, "gable", 30, 90, "roof space"));
    expect(deriveFaces(p).problems).toEqual([]);
    p.openings = { r: { kind: "ratio", name: "All", orientation: null, storey: null, space: null, ratio: 0.3, sill: 0.8, height: 1.2, glazing: null } };
    const g = deriveFaces(p);
    const homes = new Set(deriveOpenings(p, g).openings.map((o) => g.byKey.get(o.face)?.space));
    expect(homes.size).toBe(4);
    expect([...homes].some((h) => h?.includes("roof"))).toBe(false);
  });
  it("that leave part of a space uncovered are told", () => {
    const p = roofed("gable", 30, "part of the storey");
    const roof = Object.keys(p.roofs)[0];
    p.roofs[roof] = { ...p.roofs[roof], outline: p.roofs[roof].outline.map((c) => ({ ...c, x: c.x / 2 })) };
    expect(deriveFaces(p).problems.map((x) => x.code)).toContain("roof");
  });
  it("take skylights in one plane of theirs, of the area on the slope", () => {
    const p = roofed("gable", 45, "part of the storey");
    const sky = { kind: "skylight" as const, name: "Skylight", host: "a/ceiling", x: 3, y: 1.5, width: 1, depth: 1, glazing: null };
    p.openings = { sky };
    const { openings, problems } = deriveOpenings(p, deriveFaces(p));
    expect(problems).toEqual([]);
    expect(openings[0].area).toBeCloseTo(Math.SQRT2, 6);
    p.openings = { sky: { ...sky, y: 3 } };
    const across = deriveOpenings(p, deriveFaces(p)).problems[0];
    expect(across.code).toBe("no-roof");
    const mended = applyChanges(p, across.fix?.changes ?? []);
    expect(mended.ok && deriveOpenings(mended.project, deriveFaces(mended.project)).problems).toEqual([]);
  });
});

describe("a space of free faces", () => {
  /** A box as free faces, optionally turned inside out or without its lid. */
  const box = (x: number, inward = false, lid = true): Project["spaces"][string] => {
    const [x0, x1, y0, y1, z0, z1] = [x, x + 4, 0, 4, 0, 3];
    const rings: Record<string, [number, number, number][]> = {
      floor: [
        [x0, y1, z0],
        [x1, y1, z0],
        [x1, y0, z0],
        [x0, y0, z0],
      ],
      south: [
        [x0, y0, z0],
        [x1, y0, z0],
        [x1, y0, z1],
        [x0, y0, z1],
      ],
      east: [
        [x1, y0, z0],
        [x1, y1, z0],
        [x1, y1, z1],
        [x1, y0, z1],
      ],
      north: [
        [x1, y1, z0],
        [x0, y1, z0],
        [x0, y1, z1],
        [x1, y1, z1],
      ],
      west: [
        [x0, y1, z0],
        [x0, y0, z0],
        [x0, y0, z1],
        [x0, y1, z1],
      ],
      ...(lid
        ? {
            lid: [
              [x0, y0, z1],
              [x1, y0, z1],
              [x1, y1, z1],
              [x0, y1, z1],
            ] as [number, number, number][],
          }
        : {}),
    };
    const faces = Object.fromEntries(Object.entries(rings).map(([k, ring]) => [k, { ring: inward ? [...ring].reverse() : ring }]));
    return { name: "free", storey: "low", zone: "free", spaceType: "box", kit: null, form: { kind: "faces", faces }, inputs: {} };
  };
  const withFree = (space: Project["spaces"][string]): Project => {
    const p = model({ a: rectangle(0, 0, 6, 4) });
    p.zones.free = { name: "free", services: null, inputs: {} };
    p.spaces.free = space;
    return p;
  };
  it("has the size of the box it bounds and touches a prism where they meet", () => {
    const p = withFree(box(6));
    const { faces, spaces, problems } = deriveFaces(p);
    expect(problems).toEqual([]);
    expect(spaces.get("free")?.volume).toBeCloseTo(48, 9);
    expect(spaces.get("free")?.floorArea).toBeCloseTo(16, 9);
    const shared = faces.filter((f) => f.space === "free" && f.contact === "space");
    expect(shared.map((f) => [f.host, f.area])).toEqual([["free/west", expect.closeTo(12, 9)]]);
    expect(faces.find((f) => f.host === "free/floor")?.contact).toBe("ground");
    expectClosed(p);
  });
  it("that is inside out is told, with a fix that turns it", () => {
    const p = withFree(box(6, true));
    const [problem] = deriveFaces(p).problems;
    expect(problem.code).toBe("inside-out");
    const mended = applyChanges(p, problem.fix?.changes ?? []);
    expect(mended.ok && deriveFaces(mended.project).problems).toEqual([]);
  });
  it("that does not close is told with what is missing", () => {
    expect(deriveFaces(withFree(box(6, false, false))).problems.map((x) => [x.code, x.message])).toContainEqual(["open", expect.stringContaining("16.0 m²")]);
  });
});

describe("a side set by hand", () => {
  it("is adiabatic or in earth where it touches no other space, and says so", () => {
    const p = two();
    p.faceOverrides = {
      x: { host: "a/e1", assembly: null, contact: "adiabatic" },
      y: { host: "b/e1", assembly: null, contact: "ground" },
      z: { host: "a/e2", assembly: null, contact: "adiabatic" },
    };
    const { faces } = deriveFaces(p);
    const of = (host: string) => faces.filter((f) => f.host === host).map((f) => [f.contact, f.byHand]);
    expect(of("a/e1")).toEqual([["adiabatic", true]]);
    expect(of("b/e1")).toEqual([["ground", true]]);
    // the wall between the rooms stays between them
    expect(of("a/e2")).toEqual([["space", false]]);
  });
});

describe("drawing", () => {
  it("makes a space, and refuses an outline that crosses itself", () => {
    const p = two();
    expect(area(done(p, drawSpace(p, "low", rectangle(0, 4, 10, 8), "C")), "c")).toBeCloseTo(40, 9);
    const crossed = drawSpace(p, "low", [
      [0, 0],
      [4, 4],
      [4, 0],
      [0, 4],
    ]);
    expect(crossed.ok ? "" : crossed.message).toMatch(/crosses itself/);
  });
  it("turns an arc into facets on its circle", () => {
    const points = arcFacets([0, 0], [10, 0], 0.5, 8);
    expect(points).toHaveLength(8);
    for (const [x, y] of points) expect(Math.hypot(x - 5, y)).toBeCloseTo(5, 3);
    // to the right of the direction: below
    expect(Math.min(...points.map((q) => q[1]))).toBeCloseTo(-5, 3);
  });
});

describe("moving", () => {
  it("a corner keeps walls shared, also where another wall passes through it", () => {
    const p = model({ a: rectangle(0, 0, 6, 4), b: rectangle(6, 0, 10, 4), c: rectangle(0, 4, 10, 8) });
    const next = done(p, moveCorner(p, "low", [6, 4], [6, 5]));
    const { faces, problems } = deriveFaces(next);
    expect(problems).toEqual([]);
    expect(area(next, "a") + area(next, "b") + area(next, "c")).toBeCloseTo(80, 6);
    // c still touches both, all along
    expect(total(faces.filter((f) => f.space === "c" && f.contact === "space" && f.kind === "wall"))).toBeCloseTo(3 * (Math.hypot(6, 1) + Math.hypot(4, 1)), 3);
  });
  it("a corner in a long wall leaves the other rooms along that wall in touch", () => {
    const p = model({ hall: rectangle(0, 0, 20, 3), a: rectangle(0, 3, 6, 9), b: rectangle(6, 3, 12, 9), c: rectangle(12, 3, 20, 9) });
    const next = done(p, moveCorner(p, "low", [6, 3], [6, 4]));
    const { faces, problems, spaces } = deriveFaces(next);
    expect(problems).toEqual([]);
    expect([...spaces.values()].reduce((s, g) => s + g.floorArea, 0)).toBeCloseTo(180, 6);
    expect(total(faces.filter((f) => f.space === "hall" && f.contact === "space"))).toBeCloseTo(3 * (2 * norm(6, 1) + 8), 3);
    // an end of the long wall: the rooms along it keep their corners
    const end = done(p, moveCorner(p, "low", [20, 3], [20, 2]));
    expect(deriveFaces(end).problems).toEqual([]);
  });
  it("a wall takes along every wall back to back with it, and no other", () => {
    const p = model({ a: rectangle(0, 0, 6, 4), b: rectangle(6, 0, 10, 4), c: rectangle(0, 4, 10, 8) });
    const next = done(p, moveEdge(p, "a", "e3", [0, 1]));
    expect([area(next, "a"), area(next, "b"), area(next, "c")]).toEqual([30, 20, 30].map((v) => expect.closeTo(v, 9)));
    expect(deriveFaces(next).problems).toEqual([]);
    const outer = done(p, moveEdge(p, "a", "e1", [0, -1]));
    expect([area(outer, "a"), area(outer, "b")]).toEqual([30, 16].map((v) => expect.closeTo(v, 9)));
    const gone = moveEdge(p, "a", "e3", [0, -5]);
    expect(gone.ok).toBe(false);
  });
  it("takes a typed length", () => {
    const p = two();
    const next = done(p, setEdgeLength(p, "a", "e1", 7));
    expect([area(next, "a"), area(next, "b")]).toEqual([28, 12].map((v) => expect.closeTo(v, 9)));
  });
  it("a whole space leaves its neighbours", () => {
    const p = two();
    const next = done(p, moveSpaces(p, ["b"], [1, 0]));
    expect(deriveFaces(next).faces.every((f) => f.contact !== "space")).toBe(true);
  });
  it("keeps every corner shared and the area of the whole, for any moves of inner corners", () => {
    const grid = (): Project =>
      model(Object.fromEntries([0, 1, 2].flatMap((i) => [0, 1, 2].map((j) => [`s${i}${j}`, rectangle(5 * i, 5 * j, 5 * i + 5, 5 * j + 5)]))));
    const step = fc.record({
      i: fc.integer({ min: 1, max: 2 }),
      j: fc.integer({ min: 1, max: 2 }),
      dx: fc.integer({ min: -18, max: 18 }),
      dy: fc.integer({ min: -18, max: 18 }),
    });
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 4 }), (steps) => {
        let p = grid();
        const at = new Map<string, Point>();
        for (const { i, j, dx, dy } of steps) {
          const from = at.get(`${i}${j}`) ?? [5 * i, 5 * j];
          const to: Point = [5 * i + dx / 10, 5 * j + dy / 10];
          const e = moveCorner(p, "low", from, to);
          if (!e.ok) continue;
          p = done(p, e);
          at.set(`${i}${j}`, to);
        }
        const { faces, spaces, problems } = deriveFaces(p);
        expect(problems).toEqual([]);
        expect([...spaces.values()].reduce((s, g) => s + g.floorArea, 0)).toBeCloseTo(225, 6);
        expect(total(faces.filter((f) => f.kind === "wall" && f.contact === "outdoors"))).toBeCloseTo(60 * 3, 6);
      }),
      { numRuns: 40 },
    );
  });
});

describe("splitting, merging and offset", () => {
  const furnished = (): Project => {
    const p = two();
    p.openings = {
      w: { kind: "placed", name: "Window", host: "a/e1", use: "window", offset: 4, sill: 1, width: 1, height: 1, glazing: null },
      d: { kind: "placed", name: "Door", host: "a/e2", use: "door", offset: 1, sill: 0, width: 1, height: 2, glazing: null },
    };
    p.faceOverrides = { f: { host: "a/floor", assembly: Object.keys(p.assemblies)[0] }, s: { host: "a/e1", assembly: Object.keys(p.assemblies)[0] } };
    p.sensors = { s: { name: "S", space: "a", x: 5, y: 2, height: 0.8, share: 1 } };
    return p;
  };
  it("hang openings, overrides and sensors on the part that holds them", () => {
    const p = furnished();
    const next = done(p, splitSpace(p, "a", [3, 0], [3, 4]));
    const ids = Object.keys(next.spaces).filter((id) => id !== "b");
    expect(ids).toHaveLength(2);
    expect(area(next, ids[0]) + area(next, ids[1])).toBeCloseTo(24, 9);
    const w = next.openings.w;
    const home = w.kind === "placed" ? w.host.split("/")[0] : "";
    const right = deriveFaces(next).spaces.get(home);
    expect(Math.min(...(right?.outline.map((q) => q[0]) ?? []))).toBeCloseTo(3, 9);
    expect(w.kind === "placed" && w.offset).toBeCloseTo(1, 6);
    expect(next.sensors.s.space).toBe(home);
    expect(Object.values(next.faceOverrides).filter((o) => o.host.endsWith("/floor"))).toHaveLength(2);
    expect(Object.values(next.faceOverrides)).toHaveLength(4);
    expect(deriveOpenings(next, deriveFaces(next)).problems.filter((x) => x.path === "openings/w")).toEqual([]);
  });
  it("of a concave space along a line gives all its parts", () => {
    const p = model({
      a: [
        [0, 0],
        [12, 0],
        [12, 10],
        [8, 10],
        [8, 4],
        [4, 4],
        [4, 10],
        [0, 10],
      ],
    });
    const next = done(p, splitSpace(p, "a", [0, 6], [12, 6]));
    expect(Object.keys(next.spaces)).toHaveLength(3);
    expect(Object.keys(next.spaces).reduce((s, id) => s + area(next, id), 0)).toBeCloseTo(120 - 24, 6);
  });
  it("merges to one outline and says which openings went with their wall", () => {
    const p = furnished();
    const e = mergeSpaces(p, ["a", "b"]);
    const next = done(p, e);
    expect(Object.keys(next.spaces)).toEqual(["a"]);
    expect(area(next, "a")).toBeCloseTo(40, 9);
    expect(Object.keys(next.openings)).toEqual(["w"]);
    expect(e.ok && e.name).toMatch(/1 opening/);
    const apart = model({ a: rectangle(0, 0, 2, 2), b: rectangle(5, 0, 7, 2) });
    expect(mergeSpaces(apart, ["a", "b"])).toMatchObject({ ok: false, message: expect.stringMatching(/touch/) as string });
  });
  it("offsets all walls and keeps their ids", () => {
    const p = two();
    const next = done(p, offsetSpace(p, "a", 0.5));
    expect(area(next, "a")).toBeCloseTo(5 * 3, 9);
    const form = next.spaces.a.form;
    expect(form.kind === "prism" && form.outline.map((c) => c.id)).toEqual(["e1", "e2", "e3", "e4"]);
    expect(offsetSpace(p, "a", 3).ok).toBe(false);
  });
  it("takes away what hangs on a space with it", () => {
    const p = furnished();
    const next = done(p, removeSpaces(p, ["a"]));
    expect([next.openings, next.faceOverrides, next.sensors].map((x) => Object.keys(x).length)).toEqual([0, 0, 0]);
  });
});

describe("perimeter and core", () => {
  it("part a concave storey of two spaces into zones of their own with a depth for each side", () => {
    const p = model({ a: rectangle(0, 0, 30, 12), b: rectangle(0, 12, 12, 30) });
    const next = done(p, perimeterOf(p, ["a", "b"], { south: 5, north: 3, east: 4, west: 0 }));
    const { spaces, problems, faces } = deriveFaces(next);
    expect(problems).toEqual([]);
    expect([...spaces.values()].reduce((s, g) => s + g.floorArea, 0)).toBeCloseTo(30 * 12 + 12 * 18, 3);
    const cores = Object.entries(next.spaces).filter(([, s]) => s.name.includes("core"));
    expect(cores).toHaveLength(1);
    expect(new Set(Object.values(next.spaces).map((s) => s.zone)).size).toBe(Object.keys(next.spaces).length);
    expect(Object.keys(next.zones).sort()).toEqual([...new Set(Object.values(next.spaces).map((s) => s.zone))].sort());
    // the west side has no depth: the core reaches it
    expect(faces.some((f) => f.space === cores[0][0] && f.contact === "outdoors" && f.kind === "wall")).toBe(true);
  });
});

describe("storeys", () => {
  it("are copied with their openings and what is set by hand, the copy resting on the original", () => {
    const p = two();
    p.openings = { w: { kind: "placed", name: "Window", host: "a/e1", use: "window", offset: 1, sill: 1, width: 1, height: 1, glazing: null } };
    const next = done(p, copyStorey(p, "low"));
    expect(Object.keys(next.spaces)).toHaveLength(4);
    expect(Object.keys(next.openings)).toHaveLength(2);
    const { faces, problems } = deriveFaces(next);
    expect(problems).toEqual([]);
    expect(total(faces.filter((f) => f.kind === "floor" && f.contact === "space"))).toBeCloseTo(40, 9);
    expect(total(faces.filter((f) => f.kind === "ceiling" && f.contact === "outdoors"))).toBeCloseTo(40, 9);
    // sensors go along, windows told by corners rise with their wall, and windows of a removed storey take their shading with them
    const more = two();
    more.sensors = { s: { name: "S", space: "a", x: 1, y: 1, height: 0.8, share: 1 } };
    more.openings = {
      o: {
        kind: "outline",
        name: "O",
        host: "a/e1",
        use: "window",
        ring: [
          [1, 0, 1],
          [2, 0, 1],
          [2, 0, 2],
        ],
        glazing: null,
      },
      r: { kind: "ratio", name: "R", orientation: null, storey: "low", space: "b", ratio: 0.2, sill: 1, height: 1, glazing: null },
    };
    more.shades = { f: { kind: "overhang", name: "F", target: { kind: "opening", opening: "r" }, depth: 1, gap: 0, extension: 0 } };
    const full = done(more, copyStorey(more, "low"));
    expect(Object.keys(full.sensors)).toHaveLength(2);
    const placed = deriveOpenings(full, deriveFaces(full));
    expect(placed.problems).toEqual([]);
    expect(placed.openings.map((o) => o.low).sort((x, y) => x - y)).toEqual([1, 1, 1, 1, 4, 4, 4, 4].map((v) => expect.closeTo(v, 9)));
    expect(Object.keys(done(full, removeStorey(full, "low")).shades)).toHaveLength(1);
    const roofed = done(p, addRoof(p, "low", "gable", 30, 90, "roof space"));
    expect(copyStorey(roofed, "low")).toMatchObject({ ok: false, message: expect.stringMatching(/has a roof/) as string });
    const gone = done(next, removeStorey(next, Object.keys(next.storeys)[1]));
    expect(Object.keys(gone.spaces)).toHaveLength(2);
    expect(Object.keys(done(p, addStorey(p)).storeys)).toHaveLength(2);
    const deep = done(p, addStorey(p, true));
    const below = Object.keys(deep.storeys).find((id) => id !== "low") as string;
    expect(deep.storeys[below].elevation).toBe(-3);
    const cellar = done(deep, drawSpace(deep, below, rectangle(0, 0, 6, 4), "Cellar"));
    const sides = deriveFaces(cellar).faces.filter((f) => f.space === "cellar");
    expect(total(sides.filter((f) => f.kind === "wall" && f.contact === "ground"))).toBeCloseTo(60, 9);
    expect(sides.find((f) => f.kind === "ceiling")?.partnerSpace).toBe("a");
  });
});

describe("zones proposed", () => {
  it("gather spaces by storey, side and type, or keep each its own, and lose no input", () => {
    const p = model(Object.fromEntries([0, 1, 2, 3].map((i) => [`s${i}`, rectangle(5 * i, 0, 5 * i + 5, 5)])));
    p.site.planNorth = 0;
    for (const id of Object.keys(p.spaces)) p.spaces[id].zone = "s0";
    p.zones = { s0: { name: "all", services: null, inputs: { heatingCapacity: 5000 } } };
    const each = done(p, proposeZones(p, "each space"));
    expect(Object.keys(each.zones)).toHaveLength(4);
    expect(Object.values(each.zones).every((z) => z.inputs.heatingCapacity === 5000)).toBe(true);
    const sides = done(each, proposeZones(each, "storey, side and space type"));
    // four alike: two long sides of equal area each, so all look the same way
    expect(Object.keys(sides.zones).length).toBeLessThan(4);
    const asked = done(each, proposeZones(each, "set-points and hours"));
    expect(Object.keys(asked.zones)).toHaveLength(1);
    expect(proposeZones(asked, "set-points and hours").ok).toBe(false);
  });
});

describe("checks of the plan", () => {
  it("find gaps, slivers and overlaps, and their fixes mend them", () => {
    const cases: [string, Project][] = [
      ["gap", model({ a: rectangle(0, 0, 6, 4), b: rectangle(6.2, 0, 10, 4) })],
      ["overlap", model({ a: rectangle(0, 0, 6, 4), b: rectangle(5.5, 0, 10, 4) })],
    ];
    for (const [code, p] of cases) {
      const found = deriveFaces(p).problems;
      expect(found.map((x) => x.code)).toEqual([code]);
      const mended = applyChanges(p, found[0].fix?.changes ?? []);
      expect(mended.ok && deriveFaces(mended.project).problems).toEqual([]);
      expect(mended.ok && deriveFaces(mended.project).faces.filter((f) => f.contact === "space")).toHaveLength(2);
    }
    expect(deriveFaces(model({ a: rectangle(0, 0, 6, 4), b: rectangle(6, 0, 6.1, 4) })).problems.map((x) => x.code)).toEqual(["sliver"]);
  });
});

describe("storeys apart", () => {
  it("are told where a floor stands too far over a ceiling to rest on it", () => {
    const base = two();
    const p = done(base, copyStorey(base, "low"));
    const top = Object.keys(p.storeys)[1];
    p.storeys[top] = { ...p.storeys[top], elevation: 4.5 };
    const { problems, faces } = deriveFaces(p);
    expect(problems.map((x) => x.code).sort()).toEqual(["floats", "floats", "void", "void"]);
    expect(problems.find((x) => x.code === "void")?.message).toMatch(/stands 1\.50 m over/);
    expect(faces.filter((f) => f.kind === "floor" && f.contact === "outdoors")).toHaveLength(2);
    p.storeys[top] = { ...p.storeys[top], elevation: 3.4 };
    expect(deriveFaces(p).problems).toEqual([]);
  });
});

describe("openings by rule and shading devices", () => {
  const p = model({ a: rectangle(0, 0, 10, 6) });
  it("repeat a unit about the middle of a wall, as many as fit", () => {
    p.openings = {
      r: {
        kind: "repeated",
        name: "Row",
        orientation: null,
        storey: null,
        space: null,
        host: "a/e1",
        width: 1.2,
        height: 1.5,
        sill: 0.9,
        spacing: 2,
        glazing: null,
      },
    };
    const { openings, problems } = deriveOpenings(p, deriveFaces(p));
    expect(problems).toEqual([]);
    expect(openings.map((o) => o.from)).toEqual([0.4, 2.4, 4.4, 6.4, 8.4].map((v) => expect.closeTo(v, 9)));
  });
  it("that fit nowhere are told, and so is an opening dragged out of its wall, with a fix that puts it back", () => {
    p.openings = {
      r: { kind: "repeated", name: "Row", orientation: null, storey: null, space: null, width: 12, height: 1.5, sill: 0.9, spacing: 13, glazing: null },
    };
    expect(deriveOpenings(p, deriveFaces(p)).problems.map((x) => x.code)).toEqual(["too-small"]);
    p.openings = { w: { kind: "placed", name: "Window", host: "a/e1", use: "window", offset: 9.5, sill: 1, width: 1, height: 1, glazing: null } };
    const [problem] = deriveOpenings(p, deriveFaces(p)).problems;
    expect(problem.message).toBe('"Window" reaches 0.50 m past its wall.');
    const mended = applyChanges(p, problem.fix?.changes ?? []);
    expect(mended.ok && deriveOpenings(mended.project, deriveFaces(mended.project)).openings[0].to).toBeCloseTo(10, 9);
  });
  it("stand fins beside, louvres before and plates on the wall", () => {
    p.openings = { w: { kind: "placed", name: "Window", host: "a/e1", use: "window", offset: 4, sill: 1, width: 2, height: 1, glazing: null } };
    const target = { kind: "wall" as const, host: "a/e1" };
    p.shades = {
      f: { kind: "fins", name: "Fins", target, sides: "both", depth: 0.5, gap: 0.1, extension: 0 },
      l: { kind: "louvres", name: "Louvres", target, count: 4, depth: 0.2, gap: 0.05, angle: 30 },
      p: { kind: "plate", name: "Balcony", host: "a/e1", from: 2, to: 8, level: 2.8, depth: 1.5 },
      x: {
        kind: "plane",
        name: "Sail",
        ring: [
          [0, -5, 4],
          [4, -5, 4],
          [2, -2, 4],
        ],
      },
    };
    const g = deriveFaces(p);
    const planes = deriveShades(p, g, deriveOpenings(p, g).openings);
    expect(planes.filter((s) => s.record === "f")).toHaveLength(2);
    expect(planes.filter((s) => s.record === "f").map((s) => s.corners[0][0])).toEqual([3.9, 6.1].map((v) => expect.closeTo(v, 9)));
    const blades = planes.filter((s) => s.record === "l");
    expect(blades).toHaveLength(4);
    expect(blades[0].corners[0][2] - blades[0].corners[2][2]).toBeCloseTo(0.2 * sin(30 * DEG), 9);
    expect(planes.find((s) => s.record === "p")?.corners[2][1]).toBeCloseTo(-1.5, 9);
    expect(planes.filter((s) => s.record === "x")).toHaveLength(1);
  });
});

describe("outlines of faces in space", () => {
  it("are counter-clockwise seen from outside, as large as the face, and so are their convex pieces", () => {
    const base = two();
    const p = done(base, addRoof(base, "low", "hip", 35, 0, "part of the storey"));
    const across = (a: readonly number[], b: readonly number[]): number[] => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
    const signed = (ring: readonly (readonly number[])[], n: readonly number[]): number =>
      ring.reduce((s, q, i) => {
        const c = across(q, ring[(i + 1) % ring.length]);
        return s + (c[0] * n[0] + c[1] * n[1] + c[2] * n[2]) / 2;
      }, 0);
    for (const f of deriveFaces(p).faces) {
      expect(facePolygons(f).reduce((s, poly) => s + poly.reduce((t, r) => t + signed(r, f.normal), 0), 0)).toBeCloseTo(f.area, 4);
      expect(convexPieces(f).reduce((s, r) => s + Math.abs(signed(r, f.normal)), 0)).toBeCloseTo(f.area, 4);
    }
  });
});
