import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { applyChange, applyChanges, applyFitting, setChange, unsetChange, valueAt, type Change, type Project } from "./index.ts";

const project = boxProject({ glass: 0.3 });
const text = (p: Project): string => JSON.stringify(p);

const addresses: readonly (readonly string[])[] = [
  ["site", "latitude"],
  ["assemblies", "wall", "layers", "insulation", "thickness"],
  ["spaceTypes", "box", "inputs", "infiltration"],
  ["spaces", "a", "inputs", "lightingPower"],
  ["openings", "south", "ratio"],
];

/** Any change that fits the document it is made for. */
const anyChange = (p: Project): fc.Arbitrary<Change> =>
  fc.oneof(
    fc.tuple(fc.constantFrom(...addresses), fc.double({ min: 0.01, max: 0.9, noNaN: true })).map(([path, v]) => setChange(p, path, v)),
    fc.constantFrom(...addresses.slice(2, 4)).map((path) => (valueAt(p, path) === undefined ? setChange(p, path, 0.5) : unsetChange(p, path))),
    fc
      .string({ minLength: 1, maxLength: 8 })
      .map((name): Change => ({ op: "insert", path: ["zones", `z${name.length}${p.name.length}`], value: { name, services: null, inputs: {} } })),
    fc
      .constantFrom("siding", "insulation", "inner")
      .map((id): Change => ({ op: "remove", path: ["assemblies", "wall", "layers", id], old: valueAt(p, ["assemblies", "wall", "layers", id]) })),
    fc.integer({ min: 1, max: 9 }).map((n): Change => ({
      op: "insert",
      path: ["assemblies", "wall", "layers", `new${n}`],
      before: "insulation",
      value: { kind: "resistance", id: `new${n}`, name: "gap", resistance: 0.1 * n },
    })),
  );

describe("changes", () => {
  it("taken back in reverse give the document to the bit, for any list of them", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), fc.gen(), (count, gen) => {
        let current = project;
        const backs: Change[][] = [];
        for (let i = 0; i < count; i++) {
          const change = gen(anyChange, current);
          const applied = applyChanges(current, [change]);
          if (!applied.ok) continue;
          backs.push(applied.inverse);
          current = applied.project;
        }
        for (const inverse of backs.reverse()) {
          const undone = applyChanges(current, inverse);
          if (!undone.ok) throw new Error(undone.message);
          current = undone.project;
        }
        expect(text(current)).toBe(text(project));
      }),
      { numRuns: 200 },
    );
  });

  it("leave the document they start from untouched", () => {
    const before = text(project);
    applyChange(project, setChange(project, ["site", "latitude"], 10));
    expect(text(project)).toBe(before);
  });

  it("whose old value differs are refused as stale, never applied", () => {
    const stale: Change = { op: "set", path: ["site", "latitude"], value: 1, old: 12 };
    const outcome = applyChange(project, stale);
    expect(outcome.ok).toBe(false);
    const { project: after, stale: listed } = applyFitting(project, [stale, setChange(project, ["site", "longitude"], 5)]);
    expect(after.site.longitude).toBe(5);
    expect(after.site.latitude).toBe(project.site.latitude);
    expect(listed).toHaveLength(1);
    expect(listed[0].message).toContain("site/latitude");
  });

  it("in a list go by id and keep their place", () => {
    const path = ["assemblies", "wall", "layers", "insulation"];
    const removed = applyChanges(project, [{ op: "remove", path, old: valueAt(project, path) }]);
    if (!removed.ok) throw new Error(removed.message);
    expect(removed.project.assemblies.wall.layers.map((l) => l.id)).toEqual(["siding", "inner"]);
    const back = applyChanges(removed.project, removed.inverse);
    expect(back.ok && back.project.assemblies.wall.layers.map((l) => l.id)).toEqual(["siding", "insulation", "inner"]);
  });

  it("are all applied or none", () => {
    const outcome = applyChanges(project, [setChange(project, ["site", "latitude"], 5), { op: "unset", path: ["spaces", "nobody", "inputs", "x"] }]);
    expect(outcome.ok).toBe(false);
  });
});
