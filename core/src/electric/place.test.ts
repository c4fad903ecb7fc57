import { describe, expect, it } from "vitest";
import { deriveFaces, deriveOpenings, type Vector } from "../geometry/index.ts";
import type { Project } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import { arrayPlanes, arrayProblems, placeArrays, type PlacedArray } from "./index.ts";

type Inputs = Record<string, string | number | null>;
/** The test box, 8 m by 6 m and 2.7 m high, with an array. */
const withArray = (host: string | null, inputs: Inputs, edit: (p: Project) => void = () => undefined): Project => {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.4 }))) as Project;
  p.onSite.pv = { kind: "pvArray", name: "Array", host, inputs };
  edit(p);
  return p;
};
const placed = (p: Project): { array: PlacedArray | undefined; codes: string[] } => {
  const geometry = deriveFaces(p);
  const { openings } = deriveOpenings(p, geometry);
  const { arrays, problems } = placeArrays(p, geometry, openings);
  return { array: arrays[0], codes: [...problems, ...arrayProblems(p, arrays)].map((x) => x.code) };
};
const one = (p: Project): PlacedArray => {
  const { array } = placed(p);
  if (!array) throw new Error("nothing was placed");
  return array;
};
const corners = (a: PlacedArray): Vector[] => a.modules.flatMap((m) => [...m]);
const length = (a: Vector, b: Vector): number => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2);

describe("an array flat on a roof", () => {
  const a = one(withArray("a/ceiling", { place: "flat on the surface", margin: 0.3 }));
  it("lies within the roof and its margin, just above it, in whole modules", () => {
    for (const [x, y, z] of corners(a)) {
      expect(x).toBeGreaterThan(0.3 - 1e-9);
      expect(x).toBeLessThan(7.7 + 1e-9);
      expect(y).toBeGreaterThan(0.3 - 1e-9);
      expect(y).toBeLessThan(5.7 + 1e-9);
      expect(z).toBeCloseTo(2.8, 9);
    }
    // 7.4/1.154 = 6 columns, 5.42/1.742 = 3 rows
    expect(a.modules).toHaveLength(18);
    expect(a.rows).toHaveLength(3);
  });
  it("tells the area of the cells and that of the modules apart", () => {
    expect(a.gross).toBeCloseTo(18 * 1.134 * 1.722, 9);
    expect(a.active).toBeCloseTo(18 * 108 * 0.182 * 0.091, 9);
    expect(a.active).toBeLessThan(a.gross);
  });
  it("fills a share of the roof at most, to the last whole module", () => {
    const some = one(withArray("a/ceiling", { place: "flat on the surface", filled: "share of the surface", share: 0.4 }));
    expect(some.gross).toBeLessThanOrEqual(0.4 * 48);
    expect(some.gross).toBeGreaterThan(0.4 * 48 - 1.134 * 1.722);
  });
  it("tells where fewer fit than are asked for", () => {
    const { array, codes } = placed(withArray("a/ceiling", { place: "flat on the surface", filled: "rows and columns", rows: 4, columns: 20 }));
    expect(codes).toContain("array-fits");
    expect(array?.asked).toBe(80);
    expect(array?.modules.length).toBe(18);
  });
});

describe("an array on racks", () => {
  const a = one(withArray("a/ceiling", { place: "on racks", azimuth: 200, tilt: 30, rowSpacing: 0.8 }));
  it("faces and leans as it is told, each module in its own size", () => {
    expect(a.azimuth).toBeCloseTo(200, 6);
    expect(a.tilt).toBeCloseTo(30, 6);
    for (const m of a.modules) {
      expect(length(m[0], m[1])).toBeCloseTo(1.134, 6);
      expect(length(m[1], m[2])).toBeCloseTo(1.722, 6);
      // its lower edge is on the side it faces
      const [dx, dy] = [m[0][0] - m[3][0], m[0][1] - m[3][1]];
      expect(dx * Math.sin((200 * Math.PI) / 180) + dy * Math.cos((200 * Math.PI) / 180)).toBeCloseTo(1.722 * Math.cos(Math.PI / 6), 6);
      expect(m[3][2] - m[0][2]).toBeCloseTo(0.861, 6);
    }
  });
  it("keeps its rows apart by the free space", () => {
    const [p, q] = a.rows;
    const n = [Math.sin((200 * Math.PI) / 180), Math.cos((200 * Math.PI) / 180)];
    const along = (v: Vector): number => v[0] * n[0] + v[1] * n[1];
    expect(Math.abs(along(p.corners[3]) - along(q.corners[0]))).toBeCloseTo(0.8, 6);
  });
  it("casts shade with every row", () => {
    expect(arrayPlanes([a])).toHaveLength(a.rows.length);
  });
});

describe("an array on a wall", () => {
  it("stays clear of the windows", () => {
    const p = withArray("a/s", { place: "flat on the surface", width: 0.5, height: 0.4, margin: 0.1, cellWidth: 0.03, cellHeight: 0.03 });
    const a = one(p);
    const geometry = deriveFaces(p);
    const [window] = deriveOpenings(p, geometry).openings;
    for (const m of a.modules) {
      expect(m[0][1]).toBeCloseTo(-0.1, 9);
      const apart =
        m[1][0] <= window.from - 0.1 + 1e-6 || m[0][0] >= window.to + 0.1 - 1e-6 || m[2][2] <= window.low - 0.1 + 1e-6 || m[0][2] >= window.high + 0.1 - 1e-6;
      expect(apart).toBe(true);
    }
    expect(a.modules.length).toBeGreaterThan(10);
  });
  it("as an overhang stands out over its windows, lower at its outer edge", () => {
    const p = withArray("a/s", { place: "as an overhang", tilt: 20, clearance: 0.05 });
    const a = one(p);
    const [window] = deriveOpenings(p, deriveFaces(p)).openings;
    const zs = corners(a).map((v) => v[2]);
    expect(Math.max(...zs)).toBeCloseTo(window.high + 0.1, 6);
    expect(Math.max(...zs) - Math.min(...zs)).toBeCloseTo(1.722 * Math.sin((20 * Math.PI) / 180), 6);
    expect(Math.min(...corners(a).map((v) => v[1]))).toBeCloseTo(-0.05 - 1.722 * Math.cos((20 * Math.PI) / 180), 6);
    expect(a.normal[2]).toBeGreaterThan(0.9);
  });
});

describe("what is wrong with an array", () => {
  it("is told: no surface, part strings, an odd inverter, a sheet that does not agree", () => {
    expect(placed(withArray(null, {})).codes).toContain("array-place");
    expect(placed(withArray("a/ceiling", { series: 7 })).codes).toContain("part-string");
    expect(placed(withArray("a/ceiling", { inverterPower: 1000 })).codes).toContain("inverter-size");
    expect(placed(withArray("a/ceiling", { power: 450 })).codes).toContain("module-power");
    expect(placed(withArray("a/ceiling", { cells: 200 })).codes).toContain("array-cells");
    expect(placed(withArray("a/ceiling", { vmp: 38 })).codes).toContain("module-sheet");
    expect(placed(withArray("a/ceiling", { width: 5, height: 5, margin: 2 })).codes).toContain("array-fits");
    expect(placed(withArray("a/ceiling", {})).codes).toEqual([]);
  });
  it("stands free only with a number of rows and columns", () => {
    expect(placed(withArray(null, { place: "free standing" })).codes).toContain("array-place");
    const a = one(withArray(null, { place: "free standing", filled: "rows and columns", rows: 2, columns: 3, x: 20, y: 5 }));
    expect(a.modules).toHaveLength(6);
  });
});
