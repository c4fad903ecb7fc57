import {
  componentName,
  componentsOf,
  ownerName,
  serviceFieldsOf,
  describeAddress,
  fieldSpec,
  spaceFieldNames,
  stageOf,
  zoneFieldNames,
  type FieldSpec,
  type InputValue,
  type Problem,
  type Project,
  type SpaceField,
  type ZoneField,
} from "../model/index.ts";
import { effective } from "./resolve.ts";

export type Stage = Problem["stage"];
/** One value that was typed or taken over, with where it is said to come from. */
export interface RegisterRow {
  /** Ids joined by "/": the key of its evidence. */
  readonly address: string;
  readonly stage: Stage;
  /** What it belongs to, and what it is, in words. */
  readonly thing: string;
  readonly what: string;
  readonly value: InputValue;
  /** Unit it is kept in; empty: none. */
  readonly unit: string;
  readonly spec: FieldSpec | null;
  /** What tells it was not typed: a clause, a file, a run; null: it was typed. */
  readonly taken: string | null;
}
/** An input that nobody has stated, and the spaces or zones that run on its default. */
export interface DefaultRow {
  readonly kind: "space" | "zone";
  readonly field: SpaceField | ZoneField;
  readonly stage: Stage;
  readonly spec: FieldSpec;
  readonly things: readonly string[];
}

/** Numbers outside of the registry of inputs that results stand on, by where they are; "*" stands for every id. */
const FIGURES: readonly (readonly [path: string, what: string, unit: string])[] = [
  ["site/latitude", "latitude", "°"],
  ["site/longitude", "longitude", "°"],
  ["site/elevation", "elevation", "m"],
  ["site/planNorth", "direction of the plan", "°"],
  ["site/ground/conductivity", "conductivity of the ground", "W/m·K"],
  ["site/ground/heatCapacity", "heat capacity of the ground", "J/m³K"],
  ["materials/*/conductivity", "conductivity", "W/m·K"],
  ["materials/*/density", "density", "kg/m³"],
  ["materials/*/specificHeat", "specific heat", "J/kg·K"],
  ["assemblies/*/rated/u", "U", "W/m²K"],
  ["glazings/*/u", "U", "W/m²K"],
  ["glazings/*/g", "g", "1"],
  ["glazings/*/visibleTransmittance", "visible transmittance", "1"],
  ["drawPoints/*/yearly", "known of a year", ""],
  ["drawPoints/*/area", "floor area of the building", "m²"],
  ["drawPoints/*/temperature", "wanted at the tap", "°C"],
  ["drawPoints/*/people", "people a set of taps is made for", "person"],
  ["siteLights/*/power", "power", "W"],
  ["known/area", "floor area of the whole building", "m²"],
  ["known/headcount", "headcount", "person"],
  ["known/lighting", "lighting energy of a year", "kWh"],
  ["known/appliances", "energy of equipment of a year", "kWh"],
  ["services/*/heating/efficiency", "efficiency or COP, heating", "1"],
  ["services/*/cooling/efficiency", "COP, cooling", "1"],
  ["services/*/fanPower", "fan power", "W per m³/s"],
  ["services/*/heatRecovery/sensible", "sensible heat recovery", "1"],
  ["services/*/hotWater/efficiency", "efficiency, hot water", "1"],
];
const STAGES: readonly Stage[] = ["place", "form", "fabric", "use", "services"];
const byStage = (a: { readonly stage: Stage }, b: { readonly stage: Stage }): number => STAGES.indexOf(a.stage) - STAGES.indexOf(b.stage);

/** Every typed value that results stand on, by stage: inputs of spaces, zones and space types, and the figures of place, fabric and services. */
export function registerOf(project: Project): RegisterRow[] {
  const rows: RegisterRow[] = [];
  const add = (address: string, stage: Stage, thing: string, what: string, value: InputValue, unit: string, spec: FieldSpec | null): void => {
    const p = Object.hasOwn(project.provenance, address) ? project.provenance[address] : null;
    rows.push({ address, stage, thing, what, value, unit, spec, taken: p && p.value === value ? p.words : null });
  };
  const inputs = (part: "spaces" | "zones" | "spaceTypes", kind: "space" | "zone", stage: Stage): void => {
    for (const [id, x] of Object.entries(project[part]))
      for (const [field, value] of Object.entries(x.inputs) as [SpaceField, InputValue][]) {
        const spec = fieldSpec(kind, field);
        add(`${part}/${id}/inputs/${field}`, stage, x.name, spec.label, value, spec.unit, spec);
      }
  };
  for (const [path, what, unit] of FIGURES) {
    const [part, ...rest] = path.split("/");
    const ids = rest[0] === "*" ? Object.keys(project[part as "materials"]) : [null];
    for (const id of ids) {
      const full = id === null ? [part, ...rest] : [part, id, ...rest.slice(1)];
      const value = full.reduce<unknown>(
        (v, key) => (typeof v === "object" && v !== null && Object.hasOwn(v, key) ? (v as Record<string, unknown>)[key] : undefined),
        project,
      );
      if (typeof value !== "number") continue;
      add(full.join("/"), stageOf(part), describeAddress(project, full.slice(0, id === null ? 1 : 2)), what, value, unit, null);
    }
  }
  inputs("spaceTypes", "space", "use");
  inputs("spaces", "space", "use");
  inputs("zones", "zone", "services");
  for (const c of componentsOf(project))
    for (const [field, value] of Object.entries(c.inputs)) {
      const spec = serviceFieldsOf(c.kind)[field];
      const own = c.path.length === 2 ? c.name : `${componentName(c)} of ${ownerName(project, c)}`;
      if (value !== undefined && spec.kind === "number") add([...c.path, "inputs", field].join("/"), "services", own ?? "", spec.label, value, spec.unit, spec);
    }
  return rows.sort(byStage);
}

/** Inputs that some space or zone runs on the default of, by stage. */
export function defaultsLeft(project: Project): DefaultRow[] {
  const rows: DefaultRow[] = [];
  for (const field of spaceFieldNames) {
    const spec = fieldSpec("space", field);
    const things = Object.keys(project.spaces).filter((id) => {
      const { when } = spec;
      const asked = !when || when.is.includes(String(effective(project, "space", id, when.field as SpaceField).value));
      return asked && effective(project, "space", id, field).origin.kind === "default";
    });
    if (things.length > 0) rows.push({ kind: "space", field, stage: "use", spec, things });
  }
  for (const field of zoneFieldNames) {
    const things = Object.keys(project.zones).filter((id) => effective(project, "zone", id, field).origin.kind === "default");
    if (things.length > 0) rows.push({ kind: "zone", field, stage: "services", spec: fieldSpec("zone", field), things });
  }
  return rows.sort(byStage);
}
