import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { canonicalJson } from "../numeric/index.ts";
import { FORMAT_VERSION, parseProject, parseProjectText, projectJsonSchema, selfCrossing, type Project } from "./index.ts";

const good = (): Project => boxProject({ glass: 0.3 });
/** The first problem of a document that must be refused. */
function refused(document: unknown): { path: string; message: string } {
  const outcome = parseProject(document);
  if (outcome.ok) throw new Error("it was accepted");
  return outcome.problems[0];
}

describe("a project document", () => {
  it("that is whole is read as it is", () => {
    const outcome = parseProjectText(JSON.stringify(good()));
    expect(outcome.ok && canonicalJson(outcome.project)).toBe(canonicalJson(good()));
  });
  it("with broken JSON is told with line and column", () => {
    const outcome = parseProjectText('{\n  "formatVersion": 1,\n  "name": oops\n}');
    expect(outcome.ok).toBe(false);
    expect(!outcome.ok && outcome.problems[0].message).toMatch(/line 3, column \d+/);
    const cut = parseProjectText('{"formatVersion": 1');
    expect(!cut.ok && cut.problems[0].message).toMatch(/not valid JSON/);
    const empty = parseProjectText("");
    expect(!empty.ok && empty.problems[0].message).toMatch(/empty/);
  });
  it("of a newer format is refused by name", () => {
    expect(refused({ ...good(), formatVersion: FORMAT_VERSION + 1 })).toMatchObject({
      path: "formatVersion",
      message: expect.stringContaining(`format ${FORMAT_VERSION + 1}`),
    });
  });
  it("with a negative thickness names the layer and the limit", () => {
    const p = good();
    (p.assemblies.wall.layers[1] as { thickness: number }).thickness = -0.1;
    const problem = refused(p);
    expect(problem.path).toBe("assemblies/wall/layers/1/thickness");
    expect(problem.message).toBe("The value must be more than 0.");
  });
  it("with an unknown reference names both ends", () => {
    const p = good();
    p.spaces.a.zone = "attic";
    expect(refused(p)).toMatchObject({ path: "spaces/a/zone", message: 'There is no zone "attic" in this project.' });
    const q = good();
    q.spaceTypes.box.inputs.lightingSchedule = "nights";
    expect(refused(q).path).toBe("spaceTypes/box/inputs/lightingSchedule");
  });
  it("with an unknown key, a wrong kind or a share beyond one says so", () => {
    expect(refused({ ...good(), colour: "red" }).message).toContain('"colour"');
    expect(refused({ ...good(), name: 5 }).message).toContain("string");
    const p = good();
    p.schedules.day.profiles.d.values[3] = 1.5;
    expect(refused(p).message).toContain("hour 3");
  });
  it("whose schedule leaves days out says which", () => {
    const p = good();
    p.schedules.day.weeks[0].to = [11, 30];
    expect(refused(p).message).toContain("day 335");
  });
  it("whose outline crosses itself names the space and the edges", () => {
    const p = good();
    const form = p.spaces.a.form as Extract<Project["spaces"][string]["form"], { kind: "prism" }>;
    [form.outline[0].x, form.outline[1].x] = [form.outline[1].x, form.outline[0].x];
    expect(refused(p)).toMatchObject({ path: "spaces/a/form/outline", message: "The outline of a cannot be used: it crosses itself: edges 2 and 4 meet." });
    form.outline[1] = { ...form.outline[0], id: "e" };
    expect(refused(p).message).toContain("edge 1 is shorter than 1 cm");
  });
  it("with an outline that only touches its neighbours' ends is fine, one that folds back is not", () => {
    expect(
      selfCrossing([
        [0, 0],
        [2, 0],
        [2, 2],
        [0, 2],
      ]),
    ).toBeNull();
    expect(
      selfCrossing([
        [0, 0],
        [4, 0],
        [2, 0],
        [2, 3],
      ]),
    ).not.toBeNull();
  });
  it("that is something else entirely is told plainly", () => {
    expect(refused([1, 2]).message).toContain("JSON object");
    expect(refused({}).path).toBe("formatVersion");
  });
});

describe("the JSON Schema", () => {
  interface Node {
    readonly type?: string;
    readonly description?: string;
    readonly properties?: Record<string, Node>;
    readonly additionalProperties?: Node | boolean;
    readonly items?: Node | boolean;
    readonly prefixItems?: readonly Node[];
    readonly anyOf?: readonly Node[];
    readonly oneOf?: readonly Node[];
  }
  /** Addresses of numbers that neither they nor the list they stand in describe. */
  function undescribed(n: Node, path: string, known: boolean): string[] {
    const described = known || n.description !== undefined;
    const inner = (child: Node | boolean | undefined, at: string, inherits: boolean): string[] =>
      typeof child === "object" ? undescribed(child, at, inherits) : [];
    return [
      ...((n.type === "number" || n.type === "integer") && !described ? [path] : []),
      ...Object.entries(n.properties ?? {}).flatMap(([k, v]) => inner(v, `${path}/${k}`, false)),
      ...inner(n.additionalProperties, `${path}/*`, described),
      ...inner(n.items, `${path}[]`, described),
      ...[...(n.prefixItems ?? []), ...(n.anyOf ?? []), ...(n.oneOf ?? [])].flatMap((v) => inner(v, path, described)),
    ];
  }
  it("describes every number", () => {
    expect(undescribed(projectJsonSchema() as Node, "", false)).toEqual([]);
  });
  it("says the units", () => {
    const schema = JSON.stringify(projectJsonSchema());
    for (const words of ["W/m·K", "m²K/W", "Metres above sea level", "Air temperature held"]) expect(schema).toContain(words);
  });
});
