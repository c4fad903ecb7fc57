import { dateText, WEEKDAY_NAMES } from "./calendar.ts";
import { valueAt } from "./changes.ts";
import { componentName } from "./components.ts";
import { fieldSpec, spaceFieldNames, zoneFieldNames, type SpaceField, type ZoneField } from "./fields.ts";
import type { FieldSpec } from "./fieldSpec.ts";
import { componentWords, serviceFieldsOf, type ComponentKind } from "./serviceFields.ts";
import { SIZED } from "./fields.ts";
import type { Change } from "./changeSchema.ts";
import type { Project } from "./schema.ts";
import type { Component } from "./serviceSchema.ts";
import { convert, quantity } from "./units.ts";

export interface ChangeWords {
  /** What is changed, by the names the user gave. */
  readonly thing: string;
  readonly from: string;
  readonly to: string;
}

const SERVICE_PARTS: Record<string, string> = { heating: "heating", cooling: "cooling", hotWater: "hot water", heatRecovery: "outdoor air" };

const LEAVES: Record<string, string> = {
  thickness: "thickness",
  u: "U",
  g: "g",
  ratio: "share of wall",
  depth: "depth",
  planNorth: "direction of the plan",
  efficiency: "efficiency or COP",
  fanPower: "fan power",
  glazing: "glazing",
  spaceType: "space type",
  kit: "envelope kit",
  services: "services",
  conductivity: "conductivity",
  sensible: "heat recovery",
  frostLimit: "frost limit of the exhaust",
  width: "width",
  daylightSaving: "summer time",
  firstWeekday: "weekday of 1 January",
  period: "period of the run",
  year: "calendar year",
  sky: "sky",
};

/** A change in words: the things on its way by name, the value before and after (in SI; {@link turnQuantities} turns it). */
export function describeChange(project: Project, change: Change): ChangeWords {
  const names: string[] = [];
  let node: unknown = project;
  change.path.forEach((key, i) => {
    node = valueAt(project, change.path.slice(0, i + 1));
    const named = node as { name?: string; material?: string } | undefined;
    if (typeof named === "object" && named !== null && typeof named.name === "string") names.push(named.name);
    else if (typeof named === "object" && named !== null && typeof (named as { kind?: string }).kind === "string" && isComponent(change.path.slice(0, i + 1)))
      names.push(componentWords[(named as unknown as { kind: ComponentKind }).kind]);
    else if (typeof named === "object" && named !== null && typeof named.material === "string") names.push(project.materials[named.material]?.name ?? key);
  });
  if (change.path[0] === "services" && change.path.length > 3) names.push(SERVICE_PARTS[change.path[2]] ?? change.path[2]);
  const leaf = change.path[change.path.length - 1];
  const inputs = change.path[change.path.length - 2] === "inputs";
  const own = inputs ? componentSpec(project, change.path) : null;
  const spec = own ?? (inputs ? inputSpec(leaf) : null);
  const value = (v: unknown): string => {
    if (v === undefined && leaf === "equipment") return "plain services";
    if (v === undefined) return own ? (own.default === SIZED ? "by sizing" : "default") : inputs ? "inherited" : "—";
    if (v === null) return spec?.nullMeans ?? "none";
    if (typeof v === "number" && leaf === "firstWeekday") return WEEKDAY_NAMES[v] ?? String(v);
    if (typeof v === "number") return inputs ? specWords(spec, v) : quantityWords(leaf, v);
    if (typeof v === "string") return nameOf(project, v) ?? v;
    const named = v as { name?: string; from?: [number, number]; to?: [number, number]; days?: number };
    // stretches of the year, of summer time and of a run
    if (Array.isArray(named.from) && Array.isArray(named.to)) return `${dateText(...named.from)} to ${dateText(...named.to)}`;
    if (Array.isArray(named.from) && typeof named.days === "number") return `${rounded(named.days)} days from ${dateText(...named.from)}`;
    if (leaf === "equipment" && Array.isArray(v)) return (v as Component[]).map((c) => componentName(c).toLowerCase()).join(", ") || "nothing";
    return typeof named.name === "string" ? named.name : "changed";
  };
  if (change.op === "insert") return { thing: names.join(", ") || change.path[0], from: "—", to: `new: ${value(change.value)}` };
  if (change.op === "remove")
    return { thing: [...names, value(change.old)].filter((v, i, a) => a.indexOf(v) === i).join(", "), from: "present", to: "removed" };
  const label = inputs ? (spec?.label.toLowerCase() ?? leaf) : (LEAVES[leaf] ?? leaf);
  return {
    thing: [...names, label].filter((v, i, a) => a.indexOf(v) === i).join(", "),
    from: value(change.old),
    to: value(change.op === "unset" ? undefined : change.value),
  };
}

function inputSpec(field: string): FieldSpec | null {
  if ((spaceFieldNames as readonly string[]).includes(field)) return fieldSpec("space", field as SpaceField);
  return (zoneFieldNames as readonly string[]).includes(field) ? fieldSpec("zone", field as ZoneField) : null;
}

/** Whether an address is that of a part, a piece of equipment, a system or a loop. */
const isComponent = (path: readonly string[]): boolean =>
  (path[0] === "onSite" && path.length === 2) ||
  (["airSystems", "loops", "waterSystems"].includes(path[0]) && (path.length === 2 || (path.length === 4 && path[2] === "parts"))) ||
  (path[0] === "zones" && path.length === 4 && path[2] === "equipment");

const OWNERS: Readonly<Record<string, ComponentKind>> = { airSystems: "airSystem", loops: "loop", waterSystems: "waterSystem" };

/** What a setting of a component is. */
function componentSpec(project: Project, path: readonly string[]): FieldSpec | null {
  const at = path.slice(0, -2);
  if (!isComponent(at)) return null;
  const kind = at.length === 2 && at[0] !== "onSite" ? OWNERS[at[0]] : (valueAt(project, at) as { kind?: ComponentKind } | undefined)?.kind;
  return kind === undefined ? null : (serviceFieldsOf(kind)[path[path.length - 1]] ?? null);
}

/** A number to five significant figures at most, without trailing zeros. */
const rounded = (v: number): string => String(Number(v.toPrecision(5)));

/** A value of an inheritable input as it is shown, with its unit. */
export function inputWords(field: string, value: number): string {
  return specWords(inputSpec(field), value);
}

function specWords(spec: FieldSpec | null, value: number): string {
  if (!spec) return rounded(value);
  const shown = spec.display?.unit ?? spec.unit;
  return quantity(convert(value, spec.unit, shown), shown, undefined, spec.electric);
}

/** Factor and unit in which a number elsewhere in the document is shown. */
const SHOWN: Record<string, readonly [factor: number, unit: string]> = {
  thickness: [1000, "mm"],
  u: [1, "W/m²K"],
  ratio: [100, "%"],
  depth: [1, "m"],
  width: [1, "m"],
  height: [1, "m"],
  resistance: [1, "m²K/W"],
  conductivity: [1, "W/m·K"],
  density: [1, "kg/m³"],
  specificHeat: [1, "J/kg·K"],
  share: [100, "%"],
  fanPower: [0.001, "W per L/s"],
  sensible: [100, "%"],
  frostLimit: [1, "°C"],
  latent: [100, "%"],
  planNorth: [1, "°"],
};

function quantityWords(leaf: string, value: number): string {
  const [factor, unit] = SHOWN[leaf] ?? [1, ""];
  return quantity(value * factor, unit);
}

/** Name of the record an id stands for in a reference, wherever it is. */
function nameOf(project: Project, id: string): string | null {
  for (const records of [
    project.glazings,
    project.assemblies,
    project.materials,
    project.schedules,
    project.resets,
    project.spaceTypes,
    project.services,
    project.kits,
    project.zones,
    project.airSystems,
    project.loops,
    project.waterSystems,
  ])
    if (Object.hasOwn(records, id)) return records[id].name;
  return null;
}

const PART_WORDS: Record<string, string> = { site: "the site", known: "the whole building", defaults: "the whole project" };

/** What an address leads to, by the name the user gave it. */
export function describeAddress(project: Project, path: readonly string[]): string {
  const found = valueAt(project, path) as { readonly name?: string } | undefined;
  if (path.length === 1) return PART_WORDS[path[0]] ?? path[0];
  return found?.name ?? path[path.length - 1];
}
