import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { applyChanges, describeChange, setChange, type Change, type Project } from "../model/index.ts";
import { adoptOption, appendChanges, moveToBase, physicsHash, recordChanges, viewOf } from "./index.ts";

const base: Project = { ...boxProject({ glass: 0.3 }), options: { better: { name: "Better glass", changes: [] } } };
const apply = (p: Project, changes: readonly Change[]): Project => {
  const outcome = applyChanges(p, changes);
  if (!outcome.ok) throw new Error(outcome.message);
  return outcome.project;
};
/** The box's glazing, which is rated. */
const rated = (p: Project) => p.glazings.glass as Extract<Project["glazings"][string], { kind: "rated" }>;
const glass = setChange(base, ["glazings", "glass", "u"], 1.1);
const wall = setChange(base, ["assemblies", "wall", "layers", "insulation", "thickness"], 0.2);
const withBoth = apply(base, recordChanges(base, "better", [glass, wall]));

describe("an option", () => {
  it("shows the base with its changes and leaves the base alone", () => {
    const { project, stale } = viewOf(withBoth, "better");
    expect(stale).toEqual([]);
    expect(rated(project).u).toBe(1.1);
    expect(rated(withBoth).u).toBe(2.9);
    expect(project.options).toEqual({});
    expect(physicsHash(project)).not.toBe(physicsHash(withBoth));
    expect(physicsHash(withBoth)).toBe(physicsHash(base));
    expect(() => viewOf(base, "none")).toThrow(RangeError);
  });
  it("keeps nothing of a value that is typed and taken back where the base has none, and one removal where it has one", () => {
    const path = ["spaceTypes", "box", "inputs", "peopleDensity"];
    const typed = appendChanges([], [{ op: "set", path, value: 0.2 }]);
    expect(appendChanges(typed, [{ op: "unset", path, old: 0.2 }])).toEqual([]);
    const over = appendChanges([], [{ op: "set", path, value: 0.2, old: 0.1 }]);
    expect(appendChanges(over, [{ op: "unset", path, old: 0.2 }])).toEqual([{ op: "unset", path, old: 0.1, id: "c1" }]);
  });
  it("keeps one change for a value set twice, and none for one set back", () => {
    const view = viewOf(withBoth, "better").project;
    const again = appendChanges(withBoth.options.better.changes, [setChange(view, ["glazings", "glass", "u"], 0.9)]);
    expect(again).toHaveLength(2);
    expect(again[0]).toMatchObject({ old: 2.9, value: 0.9 });
    expect(appendChanges(again, [{ op: "set", path: ["glazings", "glass", "u"], value: 2.9, old: 0.9 }])).toHaveLength(1);
  });
  it("keeps the order where a whole record was replaced in between", () => {
    const replaced: Change = { op: "set", path: ["glazings", "glass"], value: { ...base.glazings.glass, u: 2 }, old: { ...base.glazings.glass, u: 1.1 } };
    const list = appendChanges(appendChanges([], [glass, replaced]), [{ op: "set", path: ["glazings", "glass", "u"], value: 1.4, old: 2 }]);
    expect(list).toHaveLength(3);
    const { project, stale } = viewOf({ ...base, options: { better: { name: "x", changes: list } } }, "better");
    expect(stale).toEqual([]);
    expect(rated(project).u).toBe(1.4);
  });
  it("lists what no longer fits once the base moved on, and applies the rest", () => {
    const moved = apply(withBoth, [setChange(withBoth, ["glazings", "glass", "u"], 2.5)]);
    const { project, stale } = viewOf(moved, "better");
    expect(stale).toHaveLength(1);
    expect(stale[0].message).toContain("glazings/glass/u");
    expect(rated(project).u).toBe(2.5);
    expect(project.assemblies.wall.layers[1]).toMatchObject({ thickness: 0.2 });
  });
  it("gives one change to the base and keeps the others", () => {
    const moved = apply(withBoth, moveToBase(withBoth, "better", 1));
    expect(moved.assemblies.wall.layers[1]).toMatchObject({ thickness: 0.2 });
    expect(moved.options.better.changes).toEqual([{ ...glass, id: "c1" }]);
    expect(physicsHash(viewOf(moved, "better").project)).toBe(physicsHash(viewOf(withBoth, "better").project));
  });
  it("is edited by what an edit adds, replaces or takes away, never by its whole list", () => {
    const view = viewOf(withBoth, "better").project;
    const list = ["options", "better", "changes"];
    expect(recordChanges(withBoth, "better", [setChange(view, ["glazings", "glass", "u"], 0.9)])).toEqual([
      { op: "set", path: [...list, "c1", "value"], value: 0.9, old: 1.1 },
    ]);
    const back = recordChanges(withBoth, "better", [setChange(view, ["glazings", "glass", "u"], 2.9)]);
    expect(back).toMatchObject([{ op: "remove", path: [...list, "c1"] }]);
    // a name is not given twice while the list holds a later one
    const again = recordChanges(apply(withBoth, back), "better", [glass]);
    expect(again).toMatchObject([{ op: "insert", path: [...list, "c3"], value: { id: "c3", value: 1.1 } }]);
    expect(apply(apply(withBoth, back), again).options.better.changes.map((c) => c.id)).toEqual(["c2", "c3"]);
  });
  it("becomes the base when it is adopted", () => {
    const adopted = apply(withBoth, adoptOption(withBoth, "better"));
    expect(physicsHash(adopted)).toBe(physicsHash(viewOf(withBoth, "better").project));
    expect(adopted.options).toEqual({});
  });
});

describe("a change in words", () => {
  it("says which part of the services it means", () => {
    expect(describeChange(base, setChange(base, ["services", "plain", "hotWater", "efficiency"], 0.8))).toEqual({
      thing: "Plain, hot water, efficiency or COP",
      from: "1",
      to: "0.8",
    });
  });
  it("names the thing and both values", () => {
    expect(describeChange(base, glass)).toEqual({ thing: "Glass, U", from: "2.9\u00a0W/m²K", to: "1.1\u00a0W/m²K" });
    expect(describeChange(base, wall)).toEqual({ thing: "Wall, Quilt, thickness", from: "66\u00a0mm", to: "200\u00a0mm" });
    expect(describeChange(base, setChange(base, ["spaceTypes", "box", "inputs", "heatingSetpoint"], 22))).toEqual({
      thing: "Box, heating set-point",
      from: "20\u00a0°C",
      to: "22\u00a0°C",
    });
    expect(describeChange(base, setChange(base, ["spaces", "a", "inputs", "coolingSetpoint"], null))).toEqual({
      thing: "a, cooling set-point",
      from: "inherited",
      to: "not cooled",
    });
    expect(describeChange(base, setChange(base, ["spaceTypes", "box", "inputs", "outdoorAirPerPerson"], 0.005))).toMatchObject({
      from: "0\u00a0L/s\u00a0per\u00a0person",
      to: "5\u00a0L/s\u00a0per\u00a0person",
    });
    expect(describeChange(base, { op: "remove", path: ["openings", "south"], old: base.openings.south })).toMatchObject({ to: "removed" });
  });
});
