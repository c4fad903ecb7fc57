import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { BudgetSpent, spend, withinBudget } from "../numeric/index.ts";
import { parseProject, type Problem, type Project } from "../model/index.ts";
import { deriveFaces } from "../geometry/index.ts";
import { eachNearPair } from "../geometry/nearby.ts";
import type { Box } from "../geometry/polygon.ts";
import { checkProject } from "./index.ts";

const box = (): Project => JSON.parse(JSON.stringify(boxProject({ glass: 0.3 }))) as Project;
const outline = (p: Project) => (p.spaces.a.form as Extract<Project["spaces"][string]["form"], { kind: "prism" }>).outline;
const refusals = (change: (p: Project) => void): readonly Problem[] => {
  const p = box();
  change(p);
  const parsed = parseProject(p);
  return parsed.ok ? [] : parsed.problems;
};
/** The box with every coordinate and length of its plan in another unit. */
const scaled = (factor: number): Project => {
  const p = box();
  for (const c of outline(p)) [c.x, c.y] = [c.x * factor, c.y * factor];
  return p;
};

describe("a document out of all bounds", () => {
  it.each<[string, (p: Project) => void, string]>([
    ["a corner past the end of the world", (p) => (outline(p)[0].x = 1e150), "spaces/a/form/outline/0/x"],
    ["a plan in millimetres, wide", (p) => outline(p).forEach((c) => (c.x *= 2000)), "x"],
    ["a level in the sky", (p) => (p.storeys[Object.keys(p.storeys)[0]].elevation = 5000), "elevation"],
    ["a set-point of 1e308", (p) => (p.spaceTypes.box.inputs.heatingSetpoint = 1e308), "spaceTypes/box/inputs/heatingSetpoint"],
    ["an efficiency of 1e-300", (p) => (p.services.plain.heating.efficiency = 1e-300), "services/plain/heating/efficiency"],
    ["a thickness of 1e-300", (p) => ((p.assemblies.wall.layers[0] as { thickness: number }).thickness = 1e-300), "assemblies/wall/layers/0/thickness"],
    ["a name of two lines", (p) => (p.name = "a\nb"), "name"],
    ["more spaces than a building has", (p) => (p.spaces = Object.fromEntries(Array.from({ length: 5001 }, (_, i) => [`s${i}`, p.spaces.a]))), "spaces"],
    [
      "an outline of more corners than can be drawn",
      (p) => outline(p).push(...Array.from({ length: 1000 }, (_, i) => ({ id: `p${i}`, x: i, y: 0 }))),
      "outline",
    ],
    ["a host that is an inherited word", (p) => (p.faceOverrides.x = { host: "toString/e", assembly: null }), "faceOverrides/x/host"],
  ])("for %s is refused with its place", (_, change, place) => {
    const problems = refusals(change);
    expect(problems.some((p) => p.path.includes(place))).toBe(true);
    for (const p of problems) expect(p.message).toMatch(/\.$/);
  });
  it("whose windows repeat without end is told, and makes none of them", () => {
    const p = box();
    p.openings = {
      w: { kind: "repeated", name: "Slits", orientation: null, storey: null, space: null, width: 0.01, height: 1, sill: 1, spacing: 0.1, glazing: null },
    };
    outline(p).forEach((c) => (c.x *= 20));
    const { openings, problems } = checkProject(p);
    const told = problems.find((x) => x.code === "too-many");
    expect(told?.message).toMatch(/would make \d+ openings in one wall/);
    expect(openings.length).toBeLessThanOrEqual(2 * 500);
    p.openings.w = { ...p.openings.w, spacing: 5e-5 } as Project["openings"][string];
    const refused = parseProject(p);
    expect(!refused.ok && refused.problems[0].path).toBe("openings/w/spacing");
  });
});

describe("a plan of any scale", () => {
  it("is held against itself without a grid of millions of cells, and the same sides are found", () => {
    // 8 m by 6 m drawn as 8 km by 6 km still lies within bounds
    const { problems, geometry } = checkProject(scaled(900));
    expect(problems.filter((p) => p.code === "overlap" || p.code === "too-much")).toEqual([]);
    expect(geometry.faces.length).toBe(deriveFaces(box()).faces.length);
  });
  it("gives each near pair once, whether boxes are alike or one holds all others", () => {
    const boxes: Box[] = [[-9000, -9000, 9000, 9000], ...Array.from({ length: 40 }, (_, i): Box => [i * 3, 0, i * 3 + 2.5, 2])];
    const pairs: string[] = [];
    withinBudget(1e6, () => eachNearPair(boxes, 0.6, (i, j) => void pairs.push(`${i} ${j}`)));
    const expected = [...Array.from({ length: 40 }, (_, i) => `0 ${i + 1}`), ...Array.from({ length: 39 }, (_, i) => `${i + 1} ${i + 2}`)];
    expect([...pairs].sort()).toEqual(expected.sort());
  });
});

describe("a budget of work", () => {
  it("ends what would go on, where it is counted, and gives back what was left", () => {
    const forever = (): never => {
      for (;;) spend(1);
    };
    expect(() => withinBudget(1000, forever)).toThrow(BudgetSpent);
    // an inner one cannot take more than the outer has
    expect(() => withinBudget(10, () => withinBudget(1e9, forever))).toThrow(BudgetSpent);
    withinBudget(100, () => {
      expect(() => withinBudget(10, forever)).toThrow(BudgetSpent);
      spend(50);
    });
    spend(1e9);
  });
  it("of a check is told as a problem with the size of the form", () => {
    const p = box();
    for (let i = 0; i < 30; i++) p.spaces[`copy${i}`] = { ...p.spaces.a, name: `Copy ${i}`, zone: null };
    const { problems } = withinBudget(2000, () => checkProject(p));
    expect(problems).toHaveLength(1);
    expect(problems[0]).toMatchObject({ code: "too-much", severity: "error", path: "spaces" });
    expect(problems[0].message).toContain(`${Object.keys(p.spaces).length} spaces with`);
    // without that bound it is checked in full
    expect(checkProject({ ...p }).problems.some((x) => x.code === "overlap")).toBe(true);
  });
});
