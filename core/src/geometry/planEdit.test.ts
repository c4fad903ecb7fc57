import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Point, type Project } from "../model/index.ts";
import { proposeZones } from "../inputs/index.ts";
import { area, done, model, rectangle, total, two } from "../verification/formModel.ts";
import {
  addRoof,
  addStorey,
  arcFacets,
  copyStorey,
  deriveFaces,
  deriveOpenings,
  drawSpace,
  mergeSpaces,
  moveCorner,
  moveEdge,
  moveSpaces,
  norm,
  offsetSpace,
  perimeterOf,
  removeSpaces,
  removeStorey,
  setEdgeLength,
  splitSpace,
} from "./index.ts";

describe("drawing", () => {
  it("makes a space, and refuses an outline that crosses itself", () => {
    const p = two();
    const drawn = done(p, drawSpace(p, "low", rectangle(0, 4, 10, 8), "C"));
    expect(area(drawn, "c")).toBeCloseTo(40, 9);
    expect(drawn.spaces.c.kit).toBeNull();
    const [kit] = Object.keys(p.kits);
    expect(done(p, drawSpace(p, "low", rectangle(0, 4, 10, 8), "C", kit)).spaces.c.kit).toBe(kit);
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
