import { z } from "zod";
import type { FieldSpec } from "./fieldSpec.ts";
import { spaceFields } from "./spaceFields.ts";

/** Value of a capacity that is left to sizing. */
export const SIZED = "sized";

export const zoneFields = {
  heatingCapacity: {
    label: "Heating capacity",
    group: "Capacity",
    unit: "W",
    kind: "number",
    default: SIZED,
    nullMeans: "unlimited",
    min: 0,
    max: 1e8,
    help: "Most heat that can be delivered to the zone. Left alone, it is sized by the design days; empty: unlimited.",
  },
  heatingFactor: {
    label: "Sizing factor, heating",
    beside: "times",
    group: "Capacity",
    unit: "1",
    kind: "number",
    default: 1.25,
    min: 0.1,
    max: 10,
    usual: [1, 1.5],
    help: "A sized heating capacity is what the design days ask for, times this (1.25: ASHRAE 90.1, appendix G).",
  },
  coolingCapacity: {
    label: "Cooling capacity",
    group: "Capacity",
    unit: "W",
    kind: "number",
    default: SIZED,
    nullMeans: "unlimited",
    min: 0,
    max: 1e8,
    help: "Most heat, sensible and latent together, that can be removed from the zone. Left alone, it is sized by the design days; empty: unlimited.",
  },
  coolingFactor: {
    label: "Sizing factor, cooling",
    beside: "times",
    group: "Capacity",
    unit: "1",
    kind: "number",
    default: 1.15,
    min: 0.1,
    max: 10,
    usual: [1, 1.3],
    help: "A sized cooling capacity is what the design days ask for, times this (1.15: ASHRAE 90.1, appendix G).",
  },
  recoveryTime: {
    label: "Recovery from setback",
    group: "Capacity",
    unit: "h",
    kind: "number",
    default: null,
    nullMeans: "not sized for it",
    min: 0.5,
    max: 24,
    usual: [1, 4],
    help: "Heating is sized so that on the winter day the zone is back at its set-point so long after use begins. Empty: sized at a held set-point.",
  },
} as const satisfies Record<string, FieldSpec>;

export type SpaceField = keyof typeof spaceFields;
export type ZoneField = keyof typeof zoneFields;
export const spaceFieldNames = Object.keys(spaceFields) as SpaceField[];
export const zoneFieldNames = Object.keys(zoneFields) as ZoneField[];

/** Looks a field up by name as its general description. */
export function fieldSpec(kind: "space" | "zone", name: SpaceField | ZoneField): FieldSpec {
  return kind === "space" ? spaceFields[name as SpaceField] : zoneFields[name as ZoneField];
}

const signalFault = (f: FieldSpec): string =>
  `${f.label} is a number${f.min === undefined ? "" : ` between ${f.min} and ${f.max ?? ""}`}, or the id of a temperature schedule or of a reset`;

function fieldSchema(f: FieldSpec) {
  const describe = `${f.label}${f.unit ? ` (${f.unit})` : ""}. ${f.help}${f.nullMeans ? ` null: ${f.nullMeans}.` : ""}`;
  if (f.kind === "schedule" || f.kind === "devices" || f.kind === "record") return z.string().nullable().optional().describe(describe);
  if (f.kind === "choice")
    return z
      .enum(f.choices as [string, ...string[]])
      .optional()
      .describe(describe);
  let n = z.number();
  if (f.min !== undefined) n = n.min(f.min);
  if (f.max !== undefined) n = n.max(f.max);
  const value = f.signal ? z.union([n, z.string().min(1).max(80)], { error: signalFault(f) }) : n;
  return (f.nullMeans ? value.nullable().optional() : value.optional()).describe(
    f.signal ? `${describe} Or the id of a temperature schedule, or "resets/" and the id of a reset.` : describe,
  );
}

/** Schema of typed values of a registry of fields. */
export function fieldsSchema<K extends string>(fields: Record<K, FieldSpec>) {
  const shape = Object.fromEntries((Object.keys(fields) as K[]).map((k) => [k, fieldSchema(fields[k])])) as unknown as Record<
    K,
    z.ZodOptional<z.ZodType<number | string | null>>
  >;
  return z.strictObject(shape);
}

export type InputValue = number | string | null;
export const spaceInputsSchema = fieldsSchema<SpaceField>(spaceFields).describe("Typed values; what is absent is inherited.");
export const zoneInputsSchema = fieldsSchema<ZoneField>(zoneFields).describe("Typed values; what is absent is inherited.");
