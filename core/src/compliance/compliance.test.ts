import { describe, expect, it } from "vitest";
import { boxProject, type BoxOptions } from "../verification/box.ts";
import { applyChanges, type Project } from "../model/index.ts";
import { climateZone, climateZoneOf, type WeatherYear } from "../climate/index.ts";
import { assemblyU } from "../fabric/index.ts";
import { parsePack, plateauPack } from "../packs/index.ts";
import { massingProject, starterContext } from "../inputs/index.ts";
import { addPart, systemChanges } from "../services/index.ts";
import { projectWeather } from "../simulate/index.ts";
import {
  checkRows,
  complianceSchema,
  complyProject,
  envelopeUse,
  letterOf,
  packUse,
  referenceChanges,
  referenceProject,
  scopeParts,
  thicknessForU,
} from "./index.ts";

const box = (o: BoxOptions = {}): Project => {
  const p = boxProject({ glass: 0.6, overhang: 1, ...o });
  return { ...p, services: { plain: { ...p.services.plain, heatRecovery: { sensible: 0.7, latent: 0 } } } };
};
const project = box();
const weather = projectWeather(project) as WeatherYear;

const massings: [string, Project][] = [
  ["the box", project],
  ...(["existing", "code", "better"] as const).map((level): [string, Project] => {
    const made = massingProject(
      {
        name: "Trial",
        footprint: { kind: "L", length: 30, width: 24, cutLength: 12, cutWidth: 10 },
        storeys: 2,
        storeyHeight: 3.5,
        glazing: { south: 0.6, north: 0.5, east: 0.4, west: 0.55 },
        perimeterDepth: 4,
        use: "office",
        level,
      },
      starterContext,
      "trial",
    );
    if (!made.ok) throw new Error(made.message);
    return [`a massing, ${level}`, made.project];
  }),
];

describe("climate zones", () => {
  it("follow degree days at the thresholds of the standard", () => {
    expect([
      climateZone(0, 6500),
      climateZone(100, 5500),
      climateZone(500, 4000),
      climateZone(1500, 2000),
      climateZone(2500, 2000),
      climateZone(3500, 1000),
      climateZone(4500, 500),
      climateZone(6000, 300),
      climateZone(8000, 100),
    ]).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
    expect([climateZone(2000, 3000), climateZone(2000.1, 3000), climateZone(4000, 1000)]).toEqual([3, 4, 5]);
  });
});

describe("the shipped pack", () => {
  it("is whole", () => {
    expect(parsePack(JSON.parse(JSON.stringify(plateauPack))).ok).toBe(true);
  });
  const broken = (change: (p: Record<string, never>) => void) => {
    const copy = JSON.parse(JSON.stringify(plateauPack)) as Record<string, never>;
    change(copy);
    const outcome = parsePack(copy);
    if (outcome.ok) throw new Error("accepted");
    return outcome.problems[0];
  };
  it("with an unknown clause, a limit of the wrong dimension or a missing part names the place", () => {
    expect(broken((p) => ((p.windowShare as { clause: string }).clause = "9.9"))).toMatchObject({
      path: "windowShare/clause",
      message: expect.stringContaining('"9.9"'),
    });
    expect(broken((p) => ((p.climateZones["5"] as { u: { roof: { unit: string } } }).u.roof.unit = "m²K/W"))).toMatchObject({
      path: "climateZones/5/u/roof/unit",
      message: 'This limit is in "m²K/W"; "W/m²K" is needed.',
    });
    expect(broken((p) => delete (p as { index?: unknown }).index).path).toBe("index");
    expect(broken((p) => (p.uses as { words: string[] }[]).pop()).message).toContain("Exactly one use");
    expect(broken((p) => (p.letters as unknown[]).reverse()).path).toBe("letters");
  });
  it("without the project's climate zone is told so", () => {
    const { 5: _five, ...others } = plateauPack.climateZones;
    expect(() => referenceChanges(project, { ...plateauPack, climateZones: others }, "5")).toThrow(/climateZones\/5: .*it knows 2, 3, 4, 6, 7/);
  });
  it("finds a use by the words of a space type, another for the rest", () => {
    expect(packUse(plateauPack, { name: "Reading, quiet" }).name).toBe("reading and study");
    expect(packUse(plateauPack, { name: "Circulation" }).name).toBe("other");
    expect(packUse(plateauPack, null).name).toBe("other");
  });
  it("gives letters up to their limits", () => {
    expect([79.9, 80, 80.1, 300, 900].map((v) => letterOf(plateauPack, v))).toEqual(["A", "A", "B", "F", "G"]);
  });
});

describe.each(massings)("the reference building of %s", (_name, design) => {
  const zone = String(climateZoneOf(projectWeather(design) as WeatherYear));
  const changes = referenceChanges(design, plateauPack, zone);
  const reference = referenceProject(design, changes);
  it("is made of changes that each name a clause of the pack", () => {
    expect(changes.length).toBeGreaterThan(0);
    for (const c of changes) expect(plateauPack.clauses).toHaveProperty([c.clause]);
  });
  it("has a reference building that is itself", () => {
    expect(referenceChanges(reference, plateauPack, zone)).toEqual([]);
  });
  it("meets every prescriptive limit exactly or better", () => {
    const rows = checkRows(reference, plateauPack, zone).filter((r) => r.kind === "prescriptive");
    expect(rows.filter((r) => !r.pass)).toEqual([]);
    const use = envelopeUse(reference);
    expect(use.windowArea / use.wallArea).toBeLessThanOrEqual(0.4 + 1e-9);
    for (const [id, { part }] of use.assemblies)
      expect(assemblyU(reference, reference.assemblies[id])).toBeCloseTo(plateauPack.climateZones[zone].u[part].value, 9);
  });
  it("gives the design back when its changes are undone", () => {
    const applied = applyChanges(
      { ...design, options: {} },
      changes.map((c) => c.change),
    );
    if (!applied.ok) throw new Error(applied.message);
    const back = applyChanges(applied.project, applied.inverse);
    expect(back.ok && JSON.stringify(back.project)).toBe(JSON.stringify({ ...design, options: {} }));
  });
});

describe("the scope", () => {
  it("leaves parts that are not submitted equal in both buildings", () => {
    const only = referenceChanges(project, plateauPack, "5", ["lighting"]);
    expect(only.length).toBeGreaterThan(0);
    for (const c of only) expect(c.change.path[0]).toBe("spaces");
    expect(referenceChanges(project, plateauPack, "5", [])).toEqual([]);
    expect(checkRows(project, plateauPack, "5", []).every((r) => r.kind === "mandatory")).toBe(true);
  });
});

describe("the result", () => {
  const zone = String(climateZoneOf(weather));
  const result = complyProject(project, weather, plateauPack);
  it("fits its schema, with the climate zone of the weather", () => {
    expect(complianceSchema.safeParse(result).success).toBe(true);
    expect(result.climateZone).toBe(zone);
    expect(result.scope).toEqual([...scopeParts]);
  });
  it("tells each change with the design's own value, also where it is inherited", () => {
    const appliances = result.changes.find((c) => c.path === "spaces/a/inputs/appliancePower");
    expect(appliances).toMatchObject({ clause: "4.2", thing: "a, appliances", from: "4.1667\u202fW/m²", to: "3\u202fW/m²" });
    expect(result.changes.find((c) => c.path === "shades/south")).toMatchObject({ clause: "3.8", to: "removed" });
  });
  it("is 100 for the reference building itself", () => {
    const reference = referenceProject(project, referenceChanges(project, plateauPack, zone));
    const own = complyProject(reference, weather, plateauPack);
    expect(own.index).toBeCloseTo(100, 9);
    expect(own.pass).toBe(true);
    expect(own.changes).toEqual([]);
  });
  it("falls when the design gets better, and fails on a mandatory row however good it is", () => {
    const better = complyProject(box({ insulation: 0.3, glass: 0.3 }), weather, plateauPack);
    expect(better.index).toBeLessThan(result.index);
    const leaky = complyProject(box({ insulation: 0.3, infiltration: 0.9 }), weather, plateauPack);
    expect(leaky.rows.find((r) => !r.pass && r.kind === "mandatory")).toMatchObject({ clause: "5.1", place: "spaces/a", required: 0.5, proposed: 0.9 });
    expect(leaky.pass).toBe(false);
  });
});

describe("leakage of a space that does not state air changes", () => {
  it("is judged by what its façades pass at 4 Pa, never by the air changes it does not use", () => {
    const judged = (inputs: Record<string, unknown>): ReturnType<typeof checkRows>[number] | undefined => {
      const p = box({ insulation: 0.3, infiltration: 0.1 });
      Object.assign(p.spaceTypes.box.inputs, inputs);
      return checkRows(p, plateauPack, Object.keys(plateauPack.climateZones)[0]).find((r) => r.clause === "5.1");
    };
    expect(judged({})).toMatchObject({ quantity: "infiltration", proposed: 0.1, pass: true });
    // walls and roof of the box: 28 m × 2.7 m + 48 m², in 129.6 m³
    const facade = 28 * 2.7 + 48;
    const flow = judged({ infiltrationModel: "flow per façade", infiltrationFlow: 0.001, infiltrationPressure: 50 });
    expect(flow?.quantity).toBe("infiltration at 4 Pa");
    expect(flow?.proposed).toBeCloseTo((3600 * facade * 0.001 * (4 / 50) ** 0.65) / 129.6, 9);
    const area = judged({ infiltrationModel: "leakage area", leakageArea: 0.0005 });
    expect(area?.pass).toBe(false);
    expect(area?.proposed).toBeGreaterThan(2 * (flow?.proposed ?? 0));
  });
});

describe("thickness for a target", () => {
  it("gives the U asked for and never less than a millimetre", () => {
    const t = thicknessForU(project, "wall", 0.25);
    const changed = {
      ...project.assemblies.wall,
      layers: project.assemblies.wall.layers.map((l) => (l.id === t?.layer ? { ...l, thickness: t.wanted } : l)),
    } as Project["assemblies"][string];
    expect(assemblyU(project, changed)).toBeCloseTo(0.25, 12);
    expect(thicknessForU(project, "wall", 5)?.wanted).toBe(0.001);
  });
});

describe("a design with systems", () => {
  const made = applyChanges(project, systemChanges(project, "variable", "boiler and chiller", Object.keys(project.zones), "Air"));
  if (!made.ok) throw new Error(made.message);
  const design = made.project;
  const zone = String(climateZoneOf(weather));
  it("has a reference with the pack's plain services in their place; the reference of the reference is itself", () => {
    const changes = referenceChanges(design, plateauPack, zone);
    const reference = applyChanges(
      design,
      changes.map((c) => c.change),
    );
    if (!reference.ok) throw new Error(reference.message);
    expect(Object.values(reference.project.zones).every((z) => z.equipment === undefined)).toBe(true);
    expect(referenceChanges(reference.project, plateauPack, zone)).toEqual([]);
    // services that are not submitted stay equal
    const other = referenceChanges(design, plateauPack, zone, ["envelope"]);
    expect(other.some((c) => c.change.path.includes("equipment"))).toBe(false);
  });
  it("is checked for the heat recovery its air systems have, not that of plain services nobody uses", () => {
    const rows = (p: Project) => checkRows(p, plateauPack, zone).filter((r) => r.quantity === "heat recovery");
    expect(rows(design).map((r) => [r.subject, r.proposed, r.pass])).toEqual([["Air", 0, false]]);
    const recovered = applyChanges(design, [addPart(design, "air", "recovery", 0).change]);
    if (!recovered.ok) throw new Error(recovered.message);
    expect(rows(recovered.project).map((r) => r.pass)).toEqual([true]);
  });
});
