import { describe, expect, it } from "vitest";
import { applyChanges, type Project } from "../model/index.ts";
import { DEG, sin } from "../numeric/index.ts";
import { done, model, rectangle, two } from "../verification/formModel.ts";
import { copyStorey, deriveFaces, deriveOpenings, deriveShades } from "./index.ts";

describe("checks of the plan", () => {
  it("find gaps, slivers and overlaps, and their fixes mend them", () => {
    const cases: [string, Project][] = [
      ["gap", model({ a: rectangle(0, 0, 6, 4), b: rectangle(6.2, 0, 10, 4) })],
      ["overlap", model({ a: rectangle(0, 0, 6, 4), b: rectangle(5.5, 0, 10, 4) })],
    ];
    for (const [code, p] of cases) {
      const found = deriveFaces(p).problems;
      expect(found.map((x) => x.code)).toEqual([code]);
      const mended = applyChanges(p, found[0].fix?.changes ?? []);
      expect(mended.ok && deriveFaces(mended.project).problems).toEqual([]);
      expect(mended.ok && deriveFaces(mended.project).faces.filter((f) => f.contact === "space")).toHaveLength(2);
    }
    expect(deriveFaces(model({ a: rectangle(0, 0, 6, 4), b: rectangle(6, 0, 6.1, 4) })).problems.map((x) => x.code)).toEqual(["sliver"]);
  });
});

describe("storeys apart", () => {
  it("are told where a floor stands too far over a ceiling to rest on it", () => {
    const base = two();
    const p = done(base, copyStorey(base, "low"));
    const top = Object.keys(p.storeys)[1];
    p.storeys[top] = { ...p.storeys[top], elevation: 4.5 };
    const { problems, faces } = deriveFaces(p);
    expect(problems.map((x) => x.code).sort()).toEqual(["floats", "floats", "void", "void"]);
    expect(problems.find((x) => x.code === "void")?.message).toMatch(/stands 1\.50\u00a0m over/);
    expect(faces.filter((f) => f.kind === "floor" && f.contact === "outdoors")).toHaveLength(2);
    p.storeys[top] = { ...p.storeys[top], elevation: 3.4 };
    expect(deriveFaces(p).problems).toEqual([]);
  });
});

describe("openings by rule and shading devices", () => {
  const p = model({ a: rectangle(0, 0, 10, 6) });
  it("repeat a unit about the middle of a wall, as many as fit", () => {
    p.openings = {
      r: {
        kind: "repeated",
        name: "Row",
        orientation: null,
        storey: null,
        space: null,
        host: "a/e1",
        width: 1.2,
        height: 1.5,
        sill: 0.9,
        spacing: 2,
        glazing: null,
      },
    };
    const { openings, problems } = deriveOpenings(p, deriveFaces(p));
    expect(problems).toEqual([]);
    expect(openings.map((o) => o.from)).toEqual([0.4, 2.4, 4.4, 6.4, 8.4].map((v) => expect.closeTo(v, 9)));
  });
  it("that fit nowhere are told, and so is an opening dragged out of its wall, with a fix that puts it back", () => {
    p.openings = {
      r: { kind: "repeated", name: "Row", orientation: null, storey: null, space: null, width: 12, height: 1.5, sill: 0.9, spacing: 13, glazing: null },
    };
    expect(deriveOpenings(p, deriveFaces(p)).problems.map((x) => x.code)).toEqual(["too-small"]);
    p.openings = { w: { kind: "placed", name: "Window", host: "a/e1", use: "window", offset: 9.5, sill: 1, width: 1, height: 1, glazing: null } };
    const [problem] = deriveOpenings(p, deriveFaces(p)).problems;
    expect(problem.message).toBe('"Window" reaches 0.50\u00a0m past its wall.');
    const mended = applyChanges(p, problem.fix?.changes ?? []);
    expect(mended.ok && deriveOpenings(mended.project, deriveFaces(mended.project)).openings[0].to).toBeCloseTo(10, 9);
  });
  it("stand fins beside, louvres before and plates on the wall", () => {
    p.openings = { w: { kind: "placed", name: "Window", host: "a/e1", use: "window", offset: 4, sill: 1, width: 2, height: 1, glazing: null } };
    const target = { kind: "wall" as const, host: "a/e1" };
    p.shades = {
      f: { kind: "fins", name: "Fins", target, sides: "both", depth: 0.5, gap: 0.1, extension: 0 },
      l: { kind: "louvres", name: "Louvres", target, count: 4, depth: 0.2, gap: 0.05, angle: 30 },
      p: { kind: "plate", name: "Balcony", host: "a/e1", from: 2, to: 8, level: 2.8, depth: 1.5 },
      x: {
        kind: "plane",
        name: "Sail",
        ring: [
          [0, -5, 4],
          [4, -5, 4],
          [2, -2, 4],
        ],
      },
    };
    const g = deriveFaces(p);
    const planes = deriveShades(p, g, deriveOpenings(p, g).openings);
    expect(planes.filter((s) => s.record === "f")).toHaveLength(2);
    expect(planes.filter((s) => s.record === "f").map((s) => s.corners[0][0])).toEqual([3.9, 6.1].map((v) => expect.closeTo(v, 9)));
    const blades = planes.filter((s) => s.record === "l");
    expect(blades).toHaveLength(4);
    expect(blades[0].corners[0][2] - blades[0].corners[2][2]).toBeCloseTo(0.2 * sin(30 * DEG), 9);
    expect(planes.find((s) => s.record === "p")?.corners[2][1]).toBeCloseTo(-1.5, 9);
    expect(planes.filter((s) => s.record === "x")).toHaveLength(1);
  });
});
