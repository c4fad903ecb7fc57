import { describe, expect, it } from "vitest";
import { applyChanges, type Opening, type Project } from "../model/index.ts";
import { checkProject } from "../simulate/index.ts";
import { done, model, rectangle } from "../verification/formModel.ts";
import {
  blockOf,
  BLOCK_MISFIT,
  facadePoints,
  flowShapeHash,
  flowStudyHash,
  flowStudySpec,
  flowStudySpecSchema,
  formulaCoefficient,
  isTall,
  proposeNetwork,
  runDirection,
  stackSpace,
  studyCells,
  tallCoefficient,
} from "./index.ts";

const geometryOf = (p: Project) => checkProject(p).geometry;
const hall = (): Project => {
  const p = model({ a: rectangle(0, 0, 12, 8), b: rectangle(12, 0, 16, 8) });
  p.spaces.a = { ...p.spaces.a, form: { ...(p.spaces.a.form as Extract<Project["spaces"][string]["form"], { kind: "prism" }>), height: 9 } };
  const window = (sill: number, height: number): Opening => ({
    kind: "placed",
    name: `W${sill}`,
    host: "a/e1",
    use: "window",
    offset: 2,
    sill,
    width: 2,
    height,
    glazing: null,
    operable: 0.5,
  });
  p.openings = {
    low: window(0.5, 1),
    across: { ...window(2.5, 1.5), offset: 6 } as Opening,
    top: { kind: "skylight", name: "Roof", host: "a/ceiling", x: 6, y: 4, width: 1, depth: 1, glazing: null, operable: 1 },
  };
  return p;
};

describe("the building as a block", () => {
  it("is what its rectangle says: a rectangle fits, an L does not, and only a tower is tall", () => {
    const square = blockOf(geometryOf(model({ a: rectangle(0, 0, 6, 4) })));
    expect([square.misfit < 1e-6, [...square.sides].sort((a, b) => a - b), square.height, isTall(square)]).toEqual([true, [4, 6], 3, false]);
    const bent = blockOf(geometryOf(model({ a: rectangle(0, 0, 6, 4), b: rectangle(0, 4, 3, 8) })));
    expect(bent.misfit).toBeCloseTo(0.25, 6);
    expect(bent.misfit).toBeGreaterThan(BLOCK_MISFIT);
    const tower = model({ a: rectangle(0, 0, 4, 4) });
    tower.storeys.low.height = 30;
    expect(isTall(blockOf(geometryOf(tower)))).toBe(true);
  });
  it("presses at the front and draws elsewhere, low or tall, alike from both sides; roofs are drawn", () => {
    for (const ratio of [0.25, 1, 4]) {
      expect(tallCoefficient(0, ratio)).toBeGreaterThan(0.5);
      for (const a of [75, 90, 120, 180]) expect(tallCoefficient(a, ratio)).toBeLessThan(0);
      expect(tallCoefficient(40, ratio)).toBeCloseTo(tallCoefficient(-40, ratio), 12);
    }
    // a deep block behind its wall draws less at its back than a shallow one
    expect(tallCoefficient(180, 4)).toBeGreaterThan(tallCoefficient(180, 0.25));
    expect(formulaCoefficient(blockOf(geometryOf(hall())), [0, 0, 1], 0)).toBeLessThan(0);
  });
  it("has façade points over every outdoor face, none further than 4 m from the next along a wall", () => {
    const points = facadePoints(geometryOf(hall()));
    expect(new Set(points.map((p) => p.name)).size).toBe(points.length);
    expect(points.filter((p) => p.host === "a/e1")).toHaveLength(9);
    for (const p of points.filter((x) => Math.abs(x.normal[2]) < 0.5)) expect([p.width <= 4 + 1e-9, p.height <= 3 + 1e-9]).toEqual([true, true]);
  });
});

describe("a flow study", () => {
  const p = model({ a: rectangle(0, 0, 4, 4) });
  const spec = flowStudySpec(p, geometryOf(p), "tiny", 4);
  it("is named by its form and grain, and a form by itself; a body around it makes it another", () => {
    const fine = flowStudySpec(p, geometryOf(p), "fine", 4);
    expect(flowStudyHash(fine)).not.toBe(flowStudyHash(spec));
    expect(flowShapeHash(fine)).toBe(flowShapeHash(spec));
    const beside: Project = { ...p, surroundings: { n: { kind: "block", name: "n", x: 10, y: 2, width: 4, depth: 4, angle: 0, base: 0, height: 6 } } };
    expect(flowShapeHash(flowStudySpec(beside, geometryOf(beside), "tiny", 4))).not.toBe(flowShapeHash(spec));
    expect(flowStudySpecSchema.safeParse(JSON.parse(JSON.stringify(spec))).success).toBe(true);
    expect(flowStudySpecSchema.safeParse({ ...spec, cell: 0 }).success).toBe(false);
  });
  it("refuses a grid that is too large, before it makes it", () => {
    const large = { ...spec, cell: 0.1 };
    expect(studyCells(large)).toBeGreaterThan(6e6);
    expect(() => runDirection(large, 0).next()).toThrow(/take a coarser one/);
  });
});

describe("a tall room cut into layers", () => {
  it("parts its windows by layer, opens the floors between, keeps what stands on its floor below, and is taken back to the bit", () => {
    const p = hall();
    const cut = done(p, stackSpace(p, "a", 3));
    expect(Object.keys(cut.spaces)).toEqual(["a", "b", "a_2", "a_3"]);
    const of = (id: string): Opening => cut.openings[id];
    expect(of("low")).toMatchObject({ host: "a/e1", sill: 0.5 });
    expect([of("across"), of("across_2")]).toMatchObject([
      { host: "a/e1", sill: 2.5, height: 0.5 },
      { host: "a_2/e1", sill: 0, height: 1 },
    ]);
    expect(of("top")).toMatchObject({ host: "a_3/ceiling" });
    expect(cut.spaces.a_2.inputs).toMatchObject({ peopleDensity: 0, heatingSetpoint: null });
    const floors = Object.values(cut.airNetwork?.links ?? {}).flatMap((l) => (l.kind === "floor opening" ? [l.area] : []));
    expect(floors).toEqual([expect.closeTo(96, 6), expect.closeTo(96, 6)]);
    expect(checkProject(cut).problems.filter((x) => x.severity === "error")).toEqual([]);
    const volume = (q: Project): number => [...geometryOf(q).spaces.values()].reduce((s, g) => s + g.volume, 0);
    expect(volume(cut)).toBeCloseTo(volume(p), 6);
  });
  it("goes on with a network that is there, and is refused where it cannot be", () => {
    const p = hall();
    const made: Project = { ...p, airNetwork: proposeNetwork(p, checkProject(p)) };
    const e = stackSpace(made, "a", 2);
    const after = e.ok ? applyChanges(made, e.changes) : null;
    const network = after?.ok ? after.project.airNetwork : undefined;
    expect(network?.zones).toEqual(["a", "b", "a_2"]);
    expect(after?.ok && checkProject(after.project).problems.filter((x) => x.severity === "error")).toEqual([]);
    expect(stackSpace(p, "a", 12)).toMatchObject({ ok: false, message: expect.stringContaining("2 to 6 layers") as string });
    expect(stackSpace(p, "b", 4)).toMatchObject({ ok: false, message: expect.stringContaining("thinner than 1") as string });
  });
});
