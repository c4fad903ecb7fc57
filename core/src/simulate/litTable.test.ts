import { describe, expect, it } from "vitest";
import { deriveFaces, deriveOpenings, type Vector } from "../geometry/index.ts";
import type { WeatherYear } from "../climate/index.ts";
import type { Project, Shade } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import { checkProject, compile, dimGroups, LIT_QUARTERS, PATCHES, projectWeather, skyDirections, allCasters, type CompiledModel } from "./index.ts";

const weather = projectWeather(boxProject()) as WeatherYear;
const WINDOW = { low: 0.2, height: 2 };

/** The box with a very wide overhang right above its south window. */
function under(depth: number, edit: (p: Project) => void = () => undefined): CompiledModel {
  const p = boxProject({ glass: 0.5 });
  const overhang: Shade = { kind: "overhang", name: "Overhang", target: { kind: "opening", opening: "south" }, depth, gap: 0, extension: 30 };
  if (depth > 0) p.shades.o = overhang;
  edit(p);
  return compile(p, weather, 4);
}
const glassOf = (m: CompiledModel): number => m.kind.indexOf(1);
const litAt = (m: CompiledModel, element: number, place: number): number => (m.litRow[element] < 0 ? 1 : m.lit[m.litRow[element] * 24 * LIT_QUARTERS + place]);

describe("directions of a site", () => {
  const { suns, up, raised, patches } = skyDirections(boxProject().site);
  it("are unit vectors: the sun by two days a month and quarter hours, the sky in equal parts above the horizon", () => {
    expect(suns).toHaveLength(24 * LIT_QUARTERS);
    expect(raised).toHaveLength(up.length);
    expect(patches).toHaveLength(PATCHES);
    for (const v of [...raised, ...patches]) {
      expect(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]).toBeCloseTo(1, 9);
      expect(v[2]).toBeGreaterThan(0);
    }
    // over the half sphere the mean height of equal parts is a half, and they lean nowhere
    const mean = [0, 1, 2].map((k) => patches.reduce((s, p) => s + p[k], 0) / PATCHES);
    expect(mean[2]).toBeCloseTo(0.5, 9);
    expect(Math.abs(mean[0])).toBeLessThan(0.01);
    expect(Math.abs(mean[1])).toBeLessThan(0.01);
  });
  it("turn with the plan", () => {
    const p = boxProject({ planNorth: 90 });
    const turned = skyDirections(p.site);
    const i = up[Math.floor(up.length / 2)];
    const [x, y, z] = suns[i];
    // the top of the plan faces east: what was north is to the left
    expect(turned.suns[i][0]).toBeCloseTo(-y, 9);
    expect(turned.suns[i][1]).toBeCloseTo(x, 9);
    expect(turned.suns[i][2]).toBeCloseTo(z, 9);
  });
});

describe("the beam under a wide overhang", () => {
  it.each([0.3, 1, 2])("of %f m reaches what the profile angle leaves of the window", (depth) => {
    const m = under(depth);
    const i = glassOf(m);
    const { up, raised } = skyDirections(boxProject().site);
    let shaded = 0;
    up.forEach((place, k) => {
      const [x, y, z] = raised[k];
      // the window looks south, along −y; suns far to the side pass round the ends
      if (y > -0.05 || Math.abs(x / y) > 8) return;
      const expected = Math.max(0, Math.min(1, 1 - (depth * z) / -y / WINDOW.height));
      expect(litAt(m, i, place)).toBeCloseTo(expected, 9);
      if (expected < 1) shaded++;
    });
    expect(shaded).toBeGreaterThan(100);
  });
  it("is whole without one", () => {
    const m = under(0);
    expect(m.litRow[glassOf(m)]).toBe(-1);
  });
});

describe("the sky under a wide overhang", () => {
  it.each([0.5, 1, 2, 4])("of %f m is what crossed strings leave of it", (depth) => {
    const m = under(depth);
    const h = WINDOW.height;
    // from window to overhang, edge to edge at right angles: (H + D − √(H² + D²))/2H, of the half that is sky
    const expected = 1 - (h + depth - Math.sqrt(h * h + depth * depth)) / h;
    expect(Math.abs(m.skyShare[12 * glassOf(m)] - expected)).toBeLessThan(0.02);
  });
});

describe("the band along the horizon", () => {
  const band = (edit: (p: Project) => void, depth = 0): number => {
    const m = under(depth, edit);
    return m.horizonShare[12 * glassOf(m)];
  };
  const block = (width: number, height: number) => ({ kind: "block" as const, name: "b", x: 4, y: -20, width, depth: 2, angle: 0, base: 0, height });
  it("is seen below an overhang, not past a long block, and in part past a short one", () => {
    expect(band(() => undefined)).toBe(1);
    // an overhang takes only what comes so low to its underside
    expect(band(() => undefined, 2)).toBeGreaterThan(0.9);
    expect(band((p) => (p.surroundings.b = block(900, 10)))).toBeLessThan(0.03);
    // 40 m wide at 19 m: a sine of 0.72 to each side
    expect(Math.abs(band((p) => (p.surroundings.b = block(40, 10))) - (1 - 20 / Math.hypot(20, 19)))).toBeLessThan(0.06);
    // what is lower than the window hides none of it
    expect(band((p) => (p.surroundings.b = block(900, 0.2)))).toBe(1);
  });
});

describe("things that let sun through", () => {
  const tree = (x: number, through: number) => ({
    kind: "tree" as const,
    name: "Tree",
    x,
    y: -4,
    crown: 6,
    base: 0,
    height: 8,
    transmittance: new Array<number>(12).fill(through),
  });
  it("stand in groups of one share, months before schedules", () => {
    const p = boxProject({ glass: 0.5 });
    p.surroundings = { a: tree(2, 0.3), b: tree(6, 0.3), c: tree(10, 0.5), d: { ...tree(14, 0.5), transmittanceSchedule: "day" } };
    const { geometry, shades, surroundings } = checkProject(p);
    const groups = dimGroups(allCasters(geometry, shades, surroundings));
    expect(groups.map((g) => [g.schedule, g.transmittance?.[0] ?? null, g.corners.length])).toEqual([
      [null, 0.3, 6],
      [null, 0.5, 3],
      ["day", null, 3],
    ]);
  });
  it("dim what they cover by what they hold back, one behind another as one", () => {
    const share = (through: number, copies: number): Float64Array => {
      const m = under(0, (p) => {
        for (let k = 0; k < copies; k++) p.surroundings[`t${k}`] = tree(4, through);
      });
      return Float64Array.from({ length: 24 * LIT_QUARTERS }, (_, place) => litAt(m, glassOf(m), place));
    };
    const [dense, half, twice] = [share(0, 1), share(0.5, 1), share(0.5, 2)];
    let covered = 0;
    dense.forEach((d, place) => {
      expect(half[place]).toBeCloseTo(1 - 0.5 * (1 - d), 9);
      // crowns in one place: the first counts
      expect(twice[place]).toBeCloseTo(half[place], 9);
      if (d < 0.9) covered++;
    });
    expect(covered).toBeGreaterThan(50);
  });
  it("leave alone what stands behind them", () => {
    const m = under(0, (p) => (p.surroundings.t = { ...tree(4, 0), y: 40 }));
    expect(m.litRow[glassOf(m)]).toBe(-1);
  });
});

describe("a window beside the part of its building that stands out", () => {
  it("is shaded in the morning by a wing to the east, not in the afternoon", () => {
    const p = boxProject({ glass: 0.5, second: { heating: null, cooling: null } });
    // the second room moved out to the south
    const form = p.spaces.b.form;
    if (form.kind !== "prism") throw new Error("the box is made of prisms");
    for (const v of form.outline) v.y -= 6;
    const m = compile(p, weather, 4);
    const own = deriveOpenings(p, deriveFaces(p)).openings.find((o) => o.face.startsWith("a/"));
    const i = m.keys.indexOf(own?.key ?? "");
    const { up, raised } = skyDirections(p.site);
    const mean = (test: (s: Vector) => boolean): number => {
      const at = up.filter((_, k) => raised[k][1] < -0.2 && test(raised[k]));
      return at.reduce((s, place) => s + litAt(m, i, place), 0) / at.length;
    };
    expect(mean((s) => s[0] > 0.3)).toBeLessThan(0.75);
    expect(mean((s) => s[0] < -0.05)).toBeGreaterThan(0.999);
  });
});
