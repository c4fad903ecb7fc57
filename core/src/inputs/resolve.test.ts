import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { applyChange, setChange, unsetChange } from "../model/index.ts";
import { effective, effectiveKit, faceAssembly, resolve } from "./index.ts";

const project = boxProject();
const changed = (path: string[], value: unknown) => {
  const outcome = applyChange(project, setChange(project, path, value));
  if (!outcome.ok) throw new Error(outcome.message);
  return outcome.project;
};

describe("the effective value of an input", () => {
  it("is the field's default when nobody said anything", () => {
    expect(effective(project, "space", "a", "peopleSensible")).toEqual({ value: 75, origin: { kind: "default" } });
  });
  it("comes from the space type, by name", () => {
    expect(effective(project, "space", "a", "heatingSetpoint")).toEqual({ value: 20, origin: { kind: "spaceType", from: "box", name: "Box" } });
  });
  it("is the typed one where there is one, and inherited again once taken back", () => {
    const typed = changed(["spaces", "a", "inputs", "heatingSetpoint"], 22);
    expect(effective(typed, "space", "a", "heatingSetpoint")).toEqual({ value: 22, origin: { kind: "typed" } });
    const back = applyChange(typed, unsetChange(typed, ["spaces", "a", "inputs", "heatingSetpoint"]));
    expect(back.ok && effective(back.project, "space", "a", "heatingSetpoint").value).toBe(20);
  });
  it("keeps 'not cooled' apart from every number", () => {
    const typed = changed(["spaces", "a", "inputs", "coolingSetpoint"], null);
    expect(effective(typed, "space", "a", "coolingSetpoint")).toEqual({ value: null, origin: { kind: "typed" } });
  });
  it("is rebuilt only where something changed", () => {
    const two = boxProject({ second: { heating: 20, cooling: 27 } });
    const before = resolve(two);
    const outcome = applyChange(two, setChange(two, ["spaces", "b", "inputs", "infiltration"], 1));
    if (!outcome.ok) throw new Error(outcome.message);
    const after = resolve(outcome.project);
    expect(after.space.get("a")).toBe(before.space.get("a"));
    expect(after.space.get("b")).not.toBe(before.space.get("b"));
  });
  it("of a thing that is not there is an error of the programmer", () => {
    expect(() => effective(project, "space", "nobody", "infiltration")).toThrow(RangeError);
  });
});

describe("what a face is made of", () => {
  const face = { kind: "wall", contact: "outdoors", host: "a/s", space: "a", azimuth: 180, tilt: 90 } as const;
  it("comes from the project's kit, then the space's, then an override on its host", () => {
    expect(faceAssembly(project, face)).toMatchObject({ id: "wall", origin: { kind: "kit", scope: "project" } });
    const p = {
      ...project,
      kits: { ...project.kits, own: { ...project.kits.kit, name: "Own", exteriorWall: "roof" } },
      spaces: { a: { ...project.spaces.a, kit: "own" } },
    };
    expect(faceAssembly(p, face)).toMatchObject({ id: "roof", origin: { scope: "space" } });
    expect(effectiveKit(p, "a").id).toBe("own");
    const q = { ...p, faceOverrides: { o: { host: "a/s", assembly: "floor" } } };
    expect(faceAssembly(q, face)).toEqual({ id: "floor", origin: { kind: "typed" } });
  });
});
