import { describe, expect, it } from "vitest";
import { parseProject, type Project } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import { readinessOf, type Question, type Readiness } from "./index.ts";

function model(edit: (p: Project) => void = () => undefined): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.4 }))) as Project;
  edit(p);
  const read = parseProject(JSON.parse(JSON.stringify(p)));
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return read.project;
}
const of = (p: Project, q: Question): Readiness => readinessOf(p).find((r) => r.question === q) as Readiness;

describe("which questions a model answers", () => {
  it("are all of them where nothing is missing, the sun study on no default and the energy on the most", () => {
    const all = readinessOf(model());
    expect(all.every((r) => r.lacks.length === 0)).toBe(true);
    const [sun, loads, energy] = all.map((r) => r.defaults.length);
    expect(sun).toBe(0);
    expect(loads).toBeGreaterThan(0);
    expect(energy).toBeGreaterThan(loads);
  });

  it("stand on one default less when it is typed", () => {
    const before = of(model(), "loads").defaults;
    const [row] = before.filter((r) => r.kind === "space" && r.spec.kind === "number" && r.spec.default !== null);
    const after = of(
      model((p) => Object.assign(p.spaceTypes.box.inputs, { [row.field]: row.spec.default })),
      "loads",
    ).defaults;
    expect(after.map((r) => r.field)).toEqual(before.map((r) => r.field).filter((f) => f !== row.field));
  });

  it("lack what is said: a space to begin with, a heated one for loads, a use for a code", () => {
    const empty = model((p) => {
      p.spaces = {};
      p.openings = {};
    });
    expect(of(empty, "sun study").lacks[0].message).toBe("No space is drawn yet.");
    const cold = model((p) =>
      Object.assign(p.spaceTypes.box.inputs, { heatingSetpoint: null, coolingSetpoint: null, heatingSetback: null, coolingSetback: null }),
    );
    expect(of(cold, "sun study").lacks).toEqual([]);
    expect(of(cold, "loads").lacks[0].message).toContain("no loads");
    const untyped = model((p) => {
      p.spaces.a.spaceType = null;
      p.spaces.a.inputs = { heatingSetpoint: 20 };
    });
    expect(of(untyped, "annual energy").lacks).toEqual([]);
    expect(of(untyped, "code").lacks[0].message).toContain("no space type");
  });

  it("are held up by a fault of the stages they need, and by no other", () => {
    const broken = model((p) => Object.assign(p.spaceTypes.box.inputs, { heatingSetpoint: 26, coolingSetpoint: 22 }));
    expect(of(broken, "sun study").lacks).toEqual([]);
    expect(of(broken, "loads").lacks.length).toBeGreaterThan(0);
  });
});
