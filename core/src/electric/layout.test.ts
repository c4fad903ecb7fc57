import { describe, expect, it } from "vitest";
import { areaOf, intersection } from "../geometry/index.ts";
import type { Ring } from "../model/index.ts";
import { fillShare, layModules, type ModuleLayout } from "./layout.ts";

const layout: ModuleLayout = { width: 1, height: 1.7, lying: false, gapAcross: 0.02, gapUp: 0.02, margin: 0.3, turn: 0 };
const box = (w: number, h: number): Ring => [
  [0, 0],
  [w, 0],
  [w, h],
  [0, h],
];
const inside = (rings: readonly Ring[], outline: Ring): boolean =>
  rings.every((r) => Math.abs(areaOf(intersection([[r]], [[outline]])) - areaOf([[r]])) < 1e-5);

describe("whole modules in a plane", () => {
  it("fill a rectangle by rows and columns with its margin", () => {
    // (10 − 0.6 + 0.02)/1.02 = 9 columns, (6 − 0.6 + 0.02)/1.72 = 3 rows
    const modules = layModules(box(10, 6), [], layout);
    expect(modules).toHaveLength(27);
    expect(new Set(modules.map((m) => m.row)).size).toBe(3);
    expect(Math.max(...modules.map((m) => m.column))).toBe(8);
    expect(
      inside(
        modules.map((m) => m.corners),
        box(10, 6),
      ),
    ).toBe(true);
    // on their side: 5 columns of 1.72, 5 rows of 1.02
    expect(layModules(box(10, 6), [], { ...layout, lying: true })).toHaveLength(25);
  });
  it("never overlap, and stay out of what must be free and inside a plane of any shape", () => {
    const ell: Ring = [
      [0, 0],
      [12, 0],
      [12, 4],
      [5, 4],
      [5, 9],
      [0, 9],
    ];
    const hole = box(1.2, 1.2).map(([x, y]): [number, number] => [x + 7, y + 1.4]);
    for (const turn of [0, 12, 90]) {
      const modules = layModules(ell, [hole], { ...layout, turn });
      expect(modules.length).toBeGreaterThan(10);
      expect(
        inside(
          modules.map((m) => m.corners),
          ell,
        ),
      ).toBe(true);
      modules.forEach((a, i) => {
        expect(areaOf(intersection([[a.corners]], [[hole]]))).toBeLessThan(1e-6);
        for (const b of modules.slice(i + 1)) expect(areaOf(intersection([[a.corners]], [[b.corners]]))).toBeLessThan(1e-6);
      });
    }
  });
  it("fill a share of the plane with whole modules, no more", () => {
    const modules = layModules(box(10, 6), [], layout);
    const some = fillShare(modules, box(10, 6), 0.4);
    // 0.4 · 60 m² over 1.7 m²
    expect(some).toHaveLength(14);
    expect(fillShare(modules, box(10, 6), 5)).toHaveLength(27);
    expect(fillShare(modules, box(10, 6), 0)).toEqual([]);
    // from the lowest row up
    expect(Math.max(...some.map((m) => m.row))).toBe(1);
  });
  it("are none where none fits, and a module without size is refused", () => {
    expect(layModules(box(1.2, 1.2), [], layout)).toEqual([]);
    expect(() => layModules(box(10, 6), [], { ...layout, width: 0 })).toThrow("at least 5 cm");
    expect(() => layModules(box(1000, 1000), [], { ...layout, width: 0.1, height: 0.1 })).toThrow("More than");
  });

  it("fill a large plane of many corners in a moment, and refuse one that has no end", () => {
    const comb: [number, number][] = [
      [0, 0],
      [120, 0],
    ];
    // teeth of 10 m along the upper edge
    for (let k = 5; k >= 0; k--) comb.push([20 * k + 20, 60], [20 * k + 10, 60], [20 * k + 10, 50], [20 * k, 50]);
    const modules = layModules(comb, [box(3, 3)], layout);
    expect(modules.length).toBeGreaterThan(2500);
    expect(
      inside(
        modules.filter((_, i) => i % 50 === 0).map((m) => m.corners),
        comb,
      ),
    ).toBe(true);
    expect(() => layModules(box(9000, 9000), [], layout)).toThrow(RangeError);
  });
});
