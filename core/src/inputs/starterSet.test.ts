import { describe, expect, it } from "vitest";
import { assemblyU } from "../fabric/index.ts";
import { starterUses } from "../library/index.ts";
import { applyChanges, parseProject, type Change, type Project } from "../model/index.ts";
import { plateauPack } from "../packs/index.ts";
import { runToEnd } from "../results/index.ts";
import { checkProject, projectWeather } from "../simulate/index.ts";
import { boxProject } from "../verification/box.ts";
import { effective, fabricLevels, starterChanges, starterEnvelope, starterMisfits, starterUpdate, type FabricLevel } from "./index.ts";

const box = boxProject({ glass: 0.3 });
const taken = (
  project: Project,
  use: (typeof starterUses)[number],
  level: FabricLevel,
  zone: string,
  spaces: string[] = Object.keys(project.spaces),
): { project: Project; changes: readonly Change[] } => {
  const made = starterChanges(project, { use, level, zone, pack: plateauPack }, spaces);
  if (!made.ok) throw new Error(made.message);
  const applied = applyChanges(project, made.changes);
  if (!applied.ok) throw new Error(applied.message);
  const parsed = parseProject(applied.project);
  if (!parsed.ok) throw new Error(parsed.problems[0].message);
  return { project: parsed.project, changes: made.changes };
};

describe("a starter set", () => {
  it.each(starterUses.flatMap((u) => fabricLevels.map((l) => [u, l] as const)))("of %s, %s, is sound and without a problem", (use, level) => {
    const { project } = taken(box, use, level, "5");
    const before = checkProject(box).problems.map((p) => p.message);
    expect(checkProject(project).problems.filter((p) => !before.includes(p.message))).toEqual([]);
    expect(effective(project, "space", "a", "peopleDensity").origin.kind).toBe("spaceType");
  });
  it("just meets the code of its zone where it is to code, and keeps the clause", () => {
    for (const zone of Object.keys(plateauPack.climateZones)) {
      const { project } = taken(box, "office", "code", zone);
      const kit = project.kits[project.defaults.kit];
      const limit = plateauPack.climateZones[zone].u;
      for (const part of ["exteriorWall", "roof", "groundFloor", "exposedFloor"] as const) {
        const u = assemblyU(project, project.assemblies[kit[part]]);
        expect(u).toBeLessThanOrEqual(limit[part].value + 1e-9);
        expect(u).toBeGreaterThan(0.97 * limit[part].value);
      }
    }
    const { project } = taken(box, "office", "code", "5");
    expect(effective(project, "space", "a", "lightingPower")).toMatchObject({
      value: 7.5,
      origin: { kind: "spaceType", words: "Plateau Energy Code, clause 4.1" },
    });
    expect(effective(project, "space", "a", "outdoorAirPerPerson").origin).toMatchObject({ words: "ASHRAE 62.1, table 6-1: Office space" });
  });
  it.each(Object.keys(plateauPack.climateZones))("lets less heat through the better it is, in zone %s", (zone) => {
    const [existing, code, better] = fabricLevels.map((level) => starterEnvelope({ level, zone, pack: plateauPack }));
    for (const role of ["exteriorWall", "roof", "groundFloor", "exposedFloor"] as const) {
      const u = (e: typeof code): number => assemblyU(e, e.assemblies[e.kits.starter_kit[role]]);
      expect(u(existing)).toBeGreaterThan(1.2 * u(code));
      expect(u(code)).toBeGreaterThan(1.2 * u(better));
    }
  });
  it("heats less the better it is", () => {
    const weather = projectWeather(box);
    if (!weather) throw new Error("the box makes its own year");
    const heating = fabricLevels.map((l) => runToEnd(taken(box, "office", l, "5").project, weather, { stepsPerHour: 1 }).summary.loads.heating.total);
    expect(heating[0]).toBeGreaterThan(1.5 * heating[1]);
    expect(heating[1]).toBeGreaterThan(1.2 * heating[2]);
  });
  it("is undone to the bit, and given twice changes nothing more than what it set", () => {
    const { project, changes } = taken(box, "shop", "better", "4");
    expect(changes.length).toBeGreaterThan(10);
    const again = taken(project, "shop", "better", "4");
    expect(Object.keys(again.project.assemblies)).toEqual(Object.keys(project.assemblies));
    expect(Object.keys(again.project.services)).toEqual(Object.keys(project.services));
    expect(Object.keys(again.project.kits)).toEqual(Object.keys(project.kits));
    expect(Object.keys(again.project.spaceTypes)).toEqual(Object.keys(project.spaceTypes));
    expect(Object.keys(again.project.schedules)).toEqual(Object.keys(project.schedules));
  });
  it("tells what no longer fits in another zone, and is brought up to date", () => {
    const { project } = taken(box, "office", "code", "3");
    expect(starterMisfits(project, "3", plateauPack)).toEqual([]);
    const misfits = starterMisfits(project, "6", plateauPack);
    expect(misfits.map((m) => m.what)).toEqual(["Outside walls", "Roofs", "Ground floors", "Exposed floors", "Glazing"]);
    for (const m of misfits) expect(m.asked).toBeLessThan(m.has);
    // what was typed on the type since then stays
    const type = project.starter?.spaceType ?? "";
    const typed = {
      ...project,
      spaceTypes: { ...project.spaceTypes, [type]: { ...project.spaceTypes[type], inputs: { ...project.spaceTypes[type].inputs, lightingPower: 5 } } },
    };
    const update = starterUpdate(typed, "6", plateauPack);
    const now = update.ok ? applyChanges(typed, update.changes) : null;
    if (!now?.ok) throw new Error("it cannot be brought up to date");
    expect(now.project.spaceTypes).toEqual(typed.spaceTypes);
    expect(starterMisfits(now.project, "6", plateauPack)).toEqual([]);
    expect(now.project.spaces).toEqual(project.spaces);
  });
  it("for a zone the code does not know is refused", () => {
    expect(starterChanges(box, { use: "office", level: "code", zone: "9", pack: plateauPack }, [])).toMatchObject({
      ok: false,
      message: expect.stringContaining("climate zone 9"),
    });
  });
});
