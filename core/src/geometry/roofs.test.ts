import { describe, expect, it } from "vitest";
import { applyChanges, type Point, type Project } from "../model/index.ts";
import { DEG, tan } from "../numeric/index.ts";
import { area, done, openArea, model, rectangle, total, two } from "../verification/formModel.ts";
import { addRoof, copyStorey, convexPieces, deriveFaces, deriveOpenings, facePolygons, removeRoof } from "./index.ts";

describe("roofs", () => {
  const roofed = (kind: "flat" | "shed" | "gable" | "hip", pitch: number, as: "part of the storey" | "roof space", ring = rectangle(0, 0, 10, 6)): Project =>
    done(model({ a: ring }), addRoof(model({ a: ring }), "low", kind, pitch, 90, as));
  it("make a shed of the volume of a wedge on a box", () => {
    const p = roofed("shed", 10, "part of the storey");
    const g = deriveFaces(p).spaces.get("a");
    expect(g?.volume).toBeCloseTo(60 * (3 + 5 * tan(10 * DEG)), 6);
    expect(openArea(p)).toBeLessThan(5e-5);
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
    expect(openArea(p)).toBeLessThan(5e-5);
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
    expect(openArea(p)).toBeLessThan(5e-5);
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
    expect(openArea(p)).toBeLessThan(5e-5);
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
    expect(openArea(p)).toBeLessThan(5e-5);
  });
  it("that is inside out is told, with a fix that turns it", () => {
    const p = withFree(box(6, true));
    const [problem] = deriveFaces(p).problems;
    expect(problem.code).toBe("inside-out");
    const mended = applyChanges(p, problem.fix?.changes ?? []);
    expect(mended.ok && deriveFaces(mended.project).problems).toEqual([]);
  });
  it("that does not close is told with what is missing", () => {
    expect(deriveFaces(withFree(box(6, false, false))).problems.map((x) => [x.code, x.message])).toContainEqual([
      "open",
      expect.stringContaining("16.0\u00a0m²"),
    ]);
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
