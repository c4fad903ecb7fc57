import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { canonicalJson } from "../numeric/index.ts";
import { applyChange, applyChanges, parseProject, parseProjectText, setChange, valueAt, type OptionChange, type Project } from "../model/index.ts";
import { appendChanges, recordChanges, viewOf } from "./index.ts";

const base = boxProject({ glass: 0.3 });
const paths = [
  ["glazings", "glass", "u"],
  ["glazings", "glass", "g"],
  ["assemblies", "wall", "layers", "insulation", "thickness"],
  ["spaceTypes", "box", "inputs", "infiltration"],
  ["site", "elevation"],
];
/** Settings of a few addresses to a few values, so that they often meet again. */
const settings = fc.array(fc.record({ path: fc.constantFrom(...paths), value: fc.constantFrom(0.1, 0.2, 0.3, 0.5) }), { maxLength: 14 });

describe("an option edited step by step", () => {
  it("shows what the edits did, with one change an address and none where the base's value came back", () => {
    fc.assert(
      fc.property(settings, (steps) => {
        let list: OptionChange[] = [];
        let direct: Project = base;
        for (const { path, value } of steps) {
          const change = setChange(direct, path, value);
          const outcome = applyChange(direct, change);
          if (!outcome.ok) throw new Error(outcome.message);
          direct = outcome.project;
          const document: Project = { ...base, options: { o: { name: "o", changes: list } } };
          list = appendChanges(list, [change]);
          // the edits of the list come to the same list
          const edited = applyChanges(document, recordChanges(document, "o", [change]));
          expect(edited.ok && edited.project.options.o.changes).toEqual(list);
        }
        const { project, stale } = viewOf({ ...base, options: { o: { name: "o", changes: list } } }, "o");
        expect(stale).toEqual([]);
        expect(canonicalJson(project)).toBe(canonicalJson({ ...direct, options: {} }));
        expect(new Set(list.map((c) => c.path.join("/"))).size).toBe(list.length);
        for (const c of list) expect(c.value).not.toEqual(valueAt(base, c.path));
      }),
      { numRuns: 200 },
    );
  });
});

describe("a document damaged at random", () => {
  const text = JSON.stringify(base);
  it("never throws: it is read or refused with a sentence", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: text.length - 1 }),
        fc.integer({ min: 0, max: 6 }),
        fc.constantFrom("", "}", '"', "0", ",", "null", "-", "[1]"),
        (at, cut, put) => {
          const outcome = parseProjectText(text.slice(0, at) + put + text.slice(at + cut));
          if (outcome.ok) return;
          expect(outcome.problems.length).toBeGreaterThan(0);
          for (const p of outcome.problems) expect(p.message.length).toBeGreaterThan(8);
        },
      ),
      { numRuns: 400 },
    );
  });
  it("with any one part replaced by something else is told at or above that part", () => {
    const parts = Object.keys(base);
    fc.assert(
      fc.property(fc.constantFrom(...parts), fc.constantFrom<unknown>(-7, "x", null, [], true), (part, junk) => {
        const outcome = parseProject({ ...base, [part]: junk });
        if (outcome.ok) {
          // a name may be any word, and a list may be empty
          expect(Array.isArray(junk) ? ["rules"] : ["name", "note", "id"]).toContain(part);
          return;
        }
        expect(outcome.problems.some((p) => p.path.startsWith(part) || p.message.includes(part))).toBe(true);
      }),
    );
  });
});
