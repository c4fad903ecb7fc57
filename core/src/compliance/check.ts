import { z } from "zod";
import { airDensity, facadeFlow, leakageAtReference, LEAKAGE_PRESSURE } from "../airflow/index.ts";
import { checkProject } from "../simulate/index.ts";
import { climateZoneOf, standardPressure, type WeatherYear } from "../climate/index.ts";
import { assemblyU, glazingRating } from "../fabric/index.ts";
import { effective, effectiveServices, spaceUses } from "../inputs/index.ts";
import {
  describeChange,
  inputWords,
  quantity,
  settingOf,
  zonesOnSystem,
  type Change,
  type ChangeWords,
  type Project,
  type SpaceField,
} from "../model/index.ts";
import { equipmentOf } from "../services/index.ts";
import { runToEnd, type Summary } from "../results/index.ts";
import { letters, type EnvelopePart, type Letter, type Limit, type Pack } from "../packs/index.ts";
import { envelopeUse, packUse, referenceChanges, referenceProject, scopeParts, type ReferenceChange, type ScopePart } from "./reference.ts";

export const complianceRow = z.strictObject({
  kind: z.enum(["mandatory", "prescriptive"]),
  clause: z.string(),
  subject: z.string().describe("What is checked, by its name."),
  place: z.string().nullable().describe("Address of the thing, ids joined by /."),
  quantity: z.string(),
  unit: z.string(),
  rule: z.enum(["at most", "at least"]),
  required: z.number(),
  proposed: z.number(),
  pass: z.boolean(),
});
export type ComplianceRow = z.infer<typeof complianceRow>;

export const complianceSchema = z.strictObject({
  formatVersion: z.literal(1),
  project: z.string(),
  pack: z.string(),
  climateZone: z.string(),
  scope: z.array(z.enum(scopeParts)),
  index: z.number().describe("Primary energy of the design over that of the reference building, hundredths."),
  letter: z.enum(letters),
  pass: z.boolean().describe("Index at most 100 and every mandatory row passed."),
  primary: z.strictObject({ proposed: z.number(), reference: z.number() }).describe("kWh/m²a."),
  rows: z.array(complianceRow),
  changes: z.array(z.strictObject({ clause: z.string(), path: z.string(), thing: z.string(), from: z.string(), to: z.string() })),
});
export type Compliance = z.infer<typeof complianceSchema>;

const PART_NAMES: Record<EnvelopePart, string> = {
  exteriorWall: "outside walls",
  roof: "roofs",
  groundFloor: "ground floors",
  exposedFloor: "floors over air",
};

/** Mandatory and prescriptive rows of a design: required beside proposed, with the thing each stands for. */
export function checkRows(project: Project, pack: Pack, zone: string, scope: readonly ScopePart[] = scopeParts): ComplianceRow[] {
  const limits = pack.climateZones[zone];
  const rows: ComplianceRow[] = [];
  const add = (
    kind: ComplianceRow["kind"],
    l: Limit,
    subject: string,
    place: string | null,
    quantity: string,
    proposed: number,
    rule: ComplianceRow["rule"] = "at most",
  ): void => {
    const slack = 1e-6 * Math.max(1, Math.abs(l.value));
    rows.push({
      kind,
      clause: l.clause,
      subject,
      place,
      quantity,
      unit: l.unit,
      rule,
      required: l.value,
      proposed,
      pass: rule === "at most" ? proposed <= l.value + slack : proposed >= l.value - slack,
    });
  };
  for (const [id, space] of Object.entries(project.spaces)) {
    const stated = effective(project, "space", id, "infiltrationModel").value === "air changes";
    add("mandatory", pack.mandatory.infiltration, space.name, `spaces/${id}`, stated ? "infiltration" : "infiltration at 4 Pa", airChanges(project, id));
  }
  const plain = Object.keys(project.zones).filter((z) => equipmentOf(project, z).length === 0);
  // air systems that take in outdoor air, by the recovery they have; zones without a system by their plain services
  for (const [id, system] of Object.entries(project.airSystems)) {
    if (zonesOnSystem(project, id).length === 0) continue;
    const recovery = system.parts.find((p) => p.kind === "recovery");
    const sensible = recovery ? (settingOf(recovery.kind, recovery.inputs, "sensible") as number) : 0;
    add("mandatory", pack.mandatory.heatRecovery, system.name, `airSystems/${id}`, "heat recovery", sensible, "at least");
  }
  const used = new Set(plain.map((zoneId) => effectiveServices(project, zoneId).id));
  for (const id of [...used].sort())
    add(
      "mandatory",
      pack.mandatory.heatRecovery,
      project.services[id].name,
      `services/${id}`,
      "heat recovery",
      project.services[id].heatRecovery.sensible,
      "at least",
    );
  if (scope.includes("envelope")) {
    const use = envelopeUse(project);
    for (const [id, { part, area }] of use.assemblies)
      add(
        "prescriptive",
        limits.u[part],
        `${project.assemblies[id].name}, ${quantity(area, "m²", 0)} of ${PART_NAMES[part]}`,
        `assemblies/${id}`,
        "U",
        assemblyU(project, project.assemblies[id]),
      );
    for (const [id, { area }] of use.glazings) {
      add(
        "prescriptive",
        limits.glazingU,
        `${project.glazings[id].name}, ${quantity(area, "m²", 0)}`,
        `glazings/${id}`,
        "U",
        glazingRating(project.glazings[id]).u,
      );
      add(
        "prescriptive",
        limits.glazingG,
        `${project.glazings[id].name}, ${quantity(area, "m²", 0)}`,
        `glazings/${id}`,
        "g",
        glazingRating(project.glazings[id]).g,
      );
    }
    if (use.wallArea > 0) add("prescriptive", pack.windowShare, "Windows of all outdoor walls", null, "share of wall", use.windowArea / use.wallArea);
  }
  if (scope.includes("lighting"))
    for (const [id, space] of Object.entries(project.spaces)) {
      const type = space.spaceType === null ? null : project.spaceTypes[space.spaceType];
      add("prescriptive", packUse(pack, type).lighting, space.name, `spaces/${id}`, "lighting power", lightingPerArea(project, id));
    }
  return rows;
}

/** Installed lighting of a space, W/m², however it is given. */
function lightingPerArea(project: Project, id: string): number {
  const use = spaceUses(project).get(id);
  if (!use || use.area <= 0 || effective(project, "space", id, "lightingGiven").value === "per area")
    return effective(project, "space", id, "lightingPower").value as number;
  return use.lighting / use.area;
}

/** Leakage of a space, 1/h: as typed in air changes, else what its façades pass at 4 Pa. */
function airChanges(project: Project, id: string): number {
  const number = (name: SpaceField): number => effective(project, "space", id, name).value as number;
  const model = effective(project, "space", id, "infiltrationModel").value as string;
  if (model === "air changes") return number("infiltration");
  const { geometry } = checkProject(project);
  const volume = geometry.spaces.get(id)?.volume ?? 0;
  if (volume <= 0) return 0;
  const facade = geometry.faces.reduce((s, f) => (f.space === id && f.contact === "outdoors" ? s + f.area : s), 0);
  const density = airDensity(20, standardPressure(project.site.elevation));
  const flow =
    model === "leakage area"
      ? leakageAtReference(facade * number("leakageArea"), density)
      : facadeFlow(facade * number("infiltrationFlow"), LEAKAGE_PRESSURE, number("infiltrationPressure"));
  return (3600 * flow) / volume;
}

/** An index of 100 computed from two equal years may end a few bits above it. */
const ROUNDING = 1e-9;

/** Letter of a primary energy, kWh/m²a. */
export function letterOf(pack: Pack, primary: number): Letter {
  return pack.letters.find((l) => primary <= l.upTo.value)?.letter ?? "G";
}

/** A change in words; where the design only inherits a value, that value. */
function changeWords(project: Project, change: Change): ChangeWords {
  const words = describeChange(project, change);
  const [part, id, inputs, field] = change.path;
  if (part !== "spaces" || inputs !== "inputs" || change.old !== undefined) return words;
  const value = effective(project, "space", id, field as SpaceField).value;
  return typeof value === "number" ? { ...words, from: inputWords(field, value) } : words;
}

const perArea = (s: Summary): number => (s.floorArea > 0 ? s.energy.primary / s.floorArea : 0);

/** The result from the years of both buildings. */
export function complianceOf(
  project: Project,
  pack: Pack,
  zone: string,
  scope: readonly ScopePart[],
  changes: readonly ReferenceChange[],
  proposed: Summary,
  reference: Summary,
): Compliance {
  const rows = checkRows(project, pack, zone, scope);
  const index = (100 * perArea(proposed)) / perArea(reference);
  return {
    formatVersion: 1,
    project: project.name,
    pack: pack.id,
    climateZone: zone,
    scope: [...scope],
    index,
    letter: letterOf(pack, perArea(proposed)),
    pass: index <= 100 + ROUNDING && rows.every((r) => r.kind !== "mandatory" || r.pass),
    primary: { proposed: perArea(proposed), reference: perArea(reference) },
    rows,
    changes: changes.map(({ clause, change }) => ({ clause, path: change.path.join("/"), ...changeWords(project, change) })),
  };
}

/**
 * Checks a design against a pack: climate zone from its weather, reference building, both years, index, letter.
 * @throws ProjectError when the project has errors, RangeError when the pack lacks the climate zone
 */
export function complyProject(project: Project, weather: WeatherYear, pack: Pack, scope: readonly ScopePart[] = scopeParts): Compliance {
  const zone = String(climateZoneOf(weather));
  const changes = referenceChanges(project, pack, zone, scope);
  const settings = { stepsPerHour: project.run.stepsPerHour };
  const proposed = runToEnd(project, weather, settings).summary;
  const reference = runToEnd(referenceProject(project, changes), weather, settings).summary;
  return complianceOf(project, pack, zone, scope, changes, proposed, reference);
}
