import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import type { Project } from "../model/index.ts";
import { cos, DEG, sin, tan } from "../numeric/index.ts";
import { areaOf, deriveFaces, deriveOpenings, deriveShades, litShares, trapezoids, type Face, type Vector } from "./index.ts";

type Corner = readonly [number, number];
/** A project of rectangular and other spaces on two storeys. */
function model(spaces: Record<string, { storey?: "low" | "high"; corners: readonly Corner[]; height?: number }>): Project {
  const p = boxProject();
  p.storeys = { low: { name: "Low", elevation: 0, height: 3, multiplier: 1 }, high: { name: "High", elevation: 3, height: 3, multiplier: 1 } };
  p.zones = Object.fromEntries(Object.keys(spaces).map((id) => [id, { name: id, services: null, inputs: {} }]));
  p.spaces = Object.fromEntries(
    Object.entries(spaces).map(([id, s]) => [
      id,
      {
        name: id,
        storey: s.storey ?? "low",
        zone: id,
        spaceType: "box",
        kit: null,
        form: {
          kind: "prism",
          outline: s.corners.map(([x, y], i) => ({ id: `e${i}`, x, y })),
          floor: "floor",
          ceiling: "ceiling",
          ...(s.height ? { height: s.height } : {}),
        },
        inputs: {},
      },
    ]),
  );
  return p;
}
const rectangle = (x0: number, y0: number, x1: number, y1: number): Corner[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];
const sum = (faces: readonly Face[]): number => faces.reduce((s, f) => s + f.area, 0);
const of = (faces: readonly Face[], space: string, kind: string, contact?: string): Face[] =>
  faces.filter((f) => f.space === space && f.kind === kind && (contact === undefined || f.contact === contact));

/** Where the sky does not matter. */
const NO_SKY = { patches: [], ring: [] };

describe("faces of a single room", () => {
  const { faces, spaces } = deriveFaces(model({ a: { corners: rectangle(0, 0, 8, 6) } }));
  it("have the areas of a box, on the ground and under the sky", () => {
    expect(spaces.get("a")?.floorArea).toBeCloseTo(48, 9);
    expect(spaces.get("a")?.volume).toBeCloseTo(144, 9);
    expect(sum(of(faces, "a", "wall", "outdoors"))).toBeCloseTo(2 * 3 * 14, 9);
    expect(sum(of(faces, "a", "floor", "ground"))).toBeCloseTo(48, 9);
    expect(sum(of(faces, "a", "ceiling", "outdoors"))).toBeCloseTo(48, 9);
  });
  it("look outward, with true azimuths", () => {
    const azimuths = of(faces, "a", "wall").map((f) => [f.host, Math.round(f.azimuth)]);
    expect(azimuths).toEqual([
      ["a/e0", 180],
      ["a/e1", 90],
      ["a/e2", 0],
      ["a/e3", 270],
    ]);
  });
});

describe("faces of neighbours", () => {
  it("touch where outlines overlap in part, and only there", () => {
    const { faces, byKey } = deriveFaces(model({ a: { corners: rectangle(0, 0, 8, 6) }, b: { corners: rectangle(8, 2, 12, 10) } }));
    const shared = of(faces, "a", "wall", "space");
    expect(shared).toHaveLength(1);
    expect(shared[0].area).toBeCloseTo(4 * 3, 9);
    const twin = byKey.get(shared[0].partner as string);
    expect(twin?.space).toBe("b");
    expect(twin?.area).toBeCloseTo(shared[0].area, 12);
    expect(twin?.partner).toBe(shared[0].key);
    expect(sum(of(faces, "a", "wall"))).toBeCloseTo(84, 9);
    expect(sum(of(faces, "b", "wall", "outdoors"))).toBeCloseTo(24 * 3 - 12, 9);
  });
  it("leave the part above a lower neighbour outdoors", () => {
    const { faces } = deriveFaces(model({ tall: { corners: rectangle(0, 0, 4, 4), height: 6 }, low: { corners: rectangle(4, 0, 8, 4) } }));
    expect(sum(of(faces, "tall", "wall", "space"))).toBeCloseTo(12, 9);
    expect(sum(of(faces, "tall", "wall", "outdoors"))).toBeCloseTo(16 * 6 - 12, 9);
  });
  it("rest on each other across storeys: floor, roof and exposed floor by overlap", () => {
    const { faces } = deriveFaces(model({ low: { corners: rectangle(0, 0, 10, 6) }, high: { storey: "high", corners: rectangle(4, 0, 12, 6) } }));
    expect(sum(of(faces, "high", "floor", "space"))).toBeCloseTo(36, 6);
    expect(sum(of(faces, "high", "floor", "outdoors"))).toBeCloseTo(12, 6);
    expect(sum(of(faces, "low", "ceiling", "space"))).toBeCloseTo(36, 6);
    expect(sum(of(faces, "low", "ceiling", "outdoors"))).toBeCloseTo(24, 6);
    expect(of(faces, "low", "ceiling", "outdoors")[0].partner).toBeNull();
  });
  it("never give a silent roof under a plenum gap", () => {
    const { faces } = deriveFaces(model({ low: { corners: rectangle(0, 0, 6, 6), height: 2.6 }, high: { storey: "high", corners: rectangle(0, 0, 6, 6) } }));
    expect(sum(of(faces, "low", "ceiling", "outdoors"))).toBe(0);
  });
});

describe("problems of outlines", () => {
  it("turn a clockwise outline around by its fix, edges keeping their ids", () => {
    const p = model({ a: { corners: [...rectangle(0, 0, 4, 3)].reverse() } });
    const problem = deriveFaces(p).problems[0];
    expect(problem.code).toBe("clockwise");
    const form = problem.fix?.changes[0].value as Extract<Project["spaces"][string]["form"], { kind: "prism" }>;
    const mended = { ...p, spaces: { a: { ...p.spaces.a, form } } };
    expect(deriveFaces(mended).problems).toHaveLength(0);
    const edge = (q: Project, id: string): number[] => {
      const o = (q.spaces.a.form as typeof form).outline;
      const i = o.findIndex((v) => v.id === id);
      return [o[i].x, o[i].y, o[(i + 1) % 4].x, o[(i + 1) % 4].y];
    };
    const [a, b, c, d] = edge(p, "e1");
    expect(edge(mended, "e1")).toEqual([c, d, a, b]);
  });
  it("tell two spaces in one place and how much they share", () => {
    const { problems } = deriveFaces(model({ a: { corners: rectangle(0, 0, 4, 4) }, b: { corners: rectangle(3, 0, 8, 4) } }));
    expect(problems.find((p) => p.code === "overlap")?.message).toContain("4.0\u00a0m²");
  });
  it("tell a floor that floats", () => {
    const { problems } = deriveFaces(model({ a: { storey: "high", corners: rectangle(0, 0, 4, 4) } }));
    expect(problems.map((p) => p.code)).toContain("floats");
  });
});

describe("polygons", () => {
  it("are cut into trapezoids of the same area, holes left out", () => {
    const polygon = [rectangle(0, 0, 10, 8), [...rectangle(3, 3, 5, 6)].reverse()];
    expect(trapezoids([polygon]).reduce((s, r) => s + areaOf([[r]]), 0)).toBeCloseTo(74, 9);
  });
});

describe("openings", () => {
  const withOpenings = (openings: Project["openings"]): Project => ({ ...model({ a: { corners: rectangle(0, 0, 8, 6) } }), openings });
  const ratio = (value: number): Project["openings"][string] => ({
    kind: "ratio",
    name: "South",
    orientation: "south",
    storey: null,
    space: null,
    ratio: value,
    sill: 0.9,
    height: 1.5,
    glazing: null,
  });
  it.each([0.05, 0.3, 0.6, 0.9])("by ratio %d have that share of the wall and lie in it", (value) => {
    const p = withOpenings({ s: ratio(value) });
    const g = deriveFaces(p);
    const { openings } = deriveOpenings(p, g);
    expect(openings).toHaveLength(1);
    expect(openings[0].area / 24).toBeCloseTo(value, 12);
    expect((openings[0].to - openings[0].from) * (openings[0].high - openings[0].low)).toBeCloseTo(openings[0].area, 12);
    expect(openings[0].from).toBeGreaterThanOrEqual(0);
    expect(openings[0].high).toBeLessThanOrEqual(3);
  });
  it("that reach past their wall are told by how much, with a fix that fits", () => {
    const p = withOpenings({ w: { kind: "placed", name: "South 3", host: "a/e0", use: "window", offset: 6.4, sill: 1, width: 2, height: 1, glazing: null } });
    const g = deriveFaces(p);
    const { problems, openings } = deriveOpenings(p, g);
    expect(openings).toHaveLength(0);
    expect(problems[0].message).toBe('"South 3" reaches 0.40\u00a0m past its wall.');
    const fix = problems[0].fix?.changes[0];
    expect(fix?.value).toBe(6);
  });
  it("that overlap, or two ratios for one wall, are told", () => {
    const w = (name: string, offset: number): Project["openings"][string] => ({
      kind: "placed",
      name,
      host: "a/e0",
      use: "window",
      offset,
      sill: 1,
      width: 2,
      height: 1,
      glazing: null,
    });
    const p = withOpenings({ one: w("One", 1), two: w("Two", 2) });
    expect(deriveOpenings(p, deriveFaces(p)).problems[0].code).toBe("opening-overlap");
    const q = withOpenings({ one: ratio(0.2), two: ratio(0.3) });
    expect(deriveOpenings(q, deriveFaces(q)).problems[0].code).toBe("ratio-clash");
  });
});

describe("shadows", () => {
  const p: Project = {
    ...model({ a: { corners: rectangle(0, 0, 8, 6) } }),
    openings: { w: { kind: "placed", name: "W", host: "a/e0", use: "window", offset: 3, sill: 0.5, width: 2, height: 2, glazing: null } },
    shades: { o: { kind: "overhang", name: "O", target: { kind: "opening", opening: "w" }, depth: 1, gap: 0, extension: 50 } },
  };
  const g = deriveFaces(p);
  const { openings } = deriveOpenings(p, g);
  const planes = deriveShades(p, g, openings).map((s) => s.corners);
  const window: Vector[] = [
    [3, 0, 0.5],
    [5, 0, 0.5],
    [5, 0, 2.5],
    [3, 0, 2.5],
  ];
  const receiver = { pieces: [window], normal: [0, -1, 0] as Vector };
  const sun = (altitude: number, off: number): Vector => [sin(off * DEG) * cos(altitude * DEG), -cos(off * DEG) * cos(altitude * DEG), sin(altitude * DEG)];
  it.each([
    [20, 0],
    [45, 0],
    [45, 40],
    [60, 20],
    [80, 0],
  ])("of a long overhang with the sun at %d° and %d° off follow the profile angle", (altitude, off) => {
    const depth = tan(altitude * DEG) / cos(off * DEG);
    const expected = Math.max(0, 1 - depth / 2);
    expect(litShares(receiver, planes, [sun(altitude, off)], NO_SKY).lit[0]).toBeCloseTo(expected, 9);
  });
  it("leave a window behind the sun dark and one without casters lit", () => {
    expect(litShares(receiver, planes, [[0, 0.7, 0.7]], NO_SKY).lit[0]).toBe(0);
    expect(litShares(receiver, [], [sun(50, 0)], NO_SKY).lit[0]).toBe(1);
  });
  it("never count the same shade twice", () => {
    const once = litShares(receiver, planes, [sun(40, 10)], NO_SKY).lit[0];
    const twice = litShares(receiver, [...planes, ...planes], [sun(40, 10)], NO_SKY).lit[0];
    expect(twice).toBeCloseTo(once, 12);
  });
});
