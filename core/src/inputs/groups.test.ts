import { describe, expect, it } from "vitest";
import { parseProject, physicsOf, type Project } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import { groupsOf } from "./index.ts";

const two = (groups: NonNullable<Project["groups"]>): Project => {
  const p = JSON.parse(JSON.stringify(boxProject({ second: { heating: 20, cooling: 26 } }))) as Project;
  p.groups = groups;
  const read = parseProject(p);
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return read.project;
};

describe("groups of zones", () => {
  it("hold what is chosen by hand and is still there", () => {
    const [g] = groupsOf(two({ mine: { kind: "by hand", name: "Mine", zones: ["b", "gone"] } }));
    expect(g.zones).toEqual(["b"]);
  });
  it("by rule follow their conditions, and hold every zone without any", () => {
    const p = two({
      all: { kind: "by rule", name: "All", conditions: [] },
      east: { kind: "by rule", name: "To the east", conditions: [{ id: "c", on: "orientation", not: false, is: ["east"] }] },
      rest: { kind: "by rule", name: "The rest", conditions: [{ id: "c", on: "orientation", not: true, is: ["east"] }] },
    });
    const of = (id: string): readonly string[] => groupsOf(p).find((g) => g.id === id)?.zones ?? [];
    expect(of("all")).toEqual(["a", "b"]);
    // the second room stands to the east of the first
    expect(of("east")).toEqual(["b"]);
    expect(of("rest")).toEqual(["a"]);
  });
  it("change no figure", () => {
    const p = two({});
    expect(physicsOf({ ...p, groups: { g: { kind: "by rule", name: "G", conditions: [] } } })).toEqual(physicsOf(p));
  });
});
