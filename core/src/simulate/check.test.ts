import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import type { Problem, Project } from "../model/index.ts";
import { checkProject } from "./index.ts";

/** Problems of the box after a change made in place, without the one it begins with: insulation under its floor that nobody builds. */
function problemsOf(change: (p: Project) => void, two = false): readonly Problem[] {
  const p = boxProject({ glass: 0.3, ...(two ? { second: { heating: 20, cooling: 27 } } : {}) });
  change(p);
  return checkProject(p).problems.filter((x) => x.code !== "odd-u");
}
const codes = (problems: readonly Problem[]): string[] => problems.map((p) => p.code);

describe("a checked project", () => {
  it("that is whole has no problem but the insulation nobody builds under its floor, and is checked once", () => {
    const p = boxProject({ glass: 0.3 });
    expect(checkProject(p).problems).toMatchObject([{ code: "odd-u", path: "assemblies/floor", severity: "warning" }]);
    expect(checkProject(p)).toBe(checkProject(p));
  });
  it("with a broken reference is not looked at further, and says where", () => {
    const problems = problemsOf((p) => (p.spaces.a.storey = "cellar"));
    expect(problems).toHaveLength(1);
    expect(problems[0]).toMatchObject({ stage: "form", path: "spaces/a/storey", severity: "error" });
  });
  it("tells a space without a zone, and one without a type", () => {
    const problems = problemsOf((p) => {
      p.spaces.a.zone = null;
      p.spaces.a.spaceType = null;
    });
    expect(problems.find((x) => x.code === "no-zone")).toMatchObject({ severity: "error", message: "a belongs to no zone." });
    expect(problems.find((x) => x.code === "no-type")).toMatchObject({ severity: "warning", stage: "use" });
  });
  it("tells an empty project and an empty zone", () => {
    expect(codes(problemsOf((p) => Object.assign(p, { spaces: {}, openings: {} })))).toContain("empty");
    expect(problemsOf((p) => (p.zones.spare = { name: "Spare", services: null, inputs: {} })).find((x) => x.code === "empty-zone")?.message).toBe(
      "Zone Spare has no space.",
    );
  });
  it("tells cooling below heating, in use and out of hours", () => {
    const problems = problemsOf((p) => {
      p.spaces.a.inputs = { heatingSetpoint: 24, coolingSetpoint: 22, heatingSetback: 20, coolingSetback: 18 };
    });
    expect(problems.filter((x) => x.code === "setpoints").map((x) => x.path)).toEqual(["spaces/a/inputs/coolingSetpoint", "spaces/a/inputs/coolingSetback"]);
  });
  it("takes 'not cooled' for no clash", () => {
    expect(problemsOf((p) => (p.spaces.a.inputs = { heatingSetpoint: 24, coolingSetpoint: null, coolingSetback: null }))).toEqual([]);
  });
  it("tells clashing set-points within a zone, and storeys with different multipliers", () => {
    const problems = problemsOf((p) => {
      p.spaces.b.zone = "a";
      delete p.zones.b;
      p.spaces.b.inputs = { ...p.spaces.b.inputs, heatingSetpoint: 18 };
    }, true);
    expect(problems.find((x) => x.code === "clash")?.message).toContain("heating set-points");
    const stacked = problemsOf((p) => {
      p.storeys.upper = { name: "Upper", elevation: 2.7, height: 2.7, multiplier: 3 };
      p.spaces.b.storey = "upper";
      p.spaces.b.zone = "a";
      delete p.zones.b;
    }, true);
    expect(stacked.find((x) => x.code === "multiplier")?.severity).toBe("error");
  });
  it("tells a glazing whose rated films leave nothing, by its place", () => {
    expect(problemsOf((p) => ((p.glazings.glass as { u: number }).u = 6.9)).find((x) => x.code === "glazing")).toMatchObject({
      path: "glazings/glass/u",
      severity: "error",
    });
  });
  it("tells an option's change that no longer fits", () => {
    const problems = problemsOf(
      (p) => (p.options = { o: { name: "Old", changes: [{ id: "c1", op: "set", path: ["glazings", "glass", "u"], value: 1, old: 5 }] } }),
    );
    expect(problems[0]).toMatchObject({ code: "stale", severity: "warning", path: "options/o" });
  });
  it("tells a space whose free faces enclose nothing", () => {
    expect(codes(problemsOf((p) => (p.spaces.a.form = { kind: "faces", faces: {} })))).toContain("free-faces");
  });
  it("tells what is likely a slip in an assembly: a layer of the wrong unit, no mass, bridges that conduct too well", () => {
    const first = (p: Project) => p.assemblies.wall.layers[0];
    const thick = problemsOf((p) => Object.assign(first(p), { thickness: 1.2 }));
    expect(thick.find((x) => x.code === "odd-layer")).toMatchObject({
      severity: "warning",
      path: expect.stringContaining("assemblies/wall/layers/") as string,
    });
    expect(codes(problemsOf((p) => Object.assign(first(p), { thickness: 0.00005 })))).toContain("odd-layer");
    const light = problemsOf((p) => (p.assemblies.wall.layers = [{ kind: "resistance", id: "r", name: "R", resistance: 2 }]));
    expect(codes(light)).toContain("no-mass");
    const steel = problemsOf((p) => {
      const [material] = Object.keys(p.materials);
      p.materials.steel = { ...p.materials[material], name: "Steel", conductivity: 50 };
      p.assemblies.wall.layers = p.assemblies.wall.layers.map((l) => (l.kind === "solid" ? { ...l, bridge: { material: "steel", share: 0.01 } } : l));
    });
    expect(codes(steel)).toContain("bridges");
  });
  it("tells an assembly that stands for another kind of element, where a face asks for it", () => {
    const found = problemsOf((p) => (p.kits.kit.roof = "wall"));
    expect(found.find((x) => x.code === "misplaced")).toMatchObject({ path: "kits/kit/roof", severity: "warning" });
    // no face is a door here, and none an exposed floor
    expect(codes(problemsOf((p) => (p.kits.kit.exposedFloor = "wall")))).not.toContain("misplaced");
  });
});
