import { z } from "zod";
import { fieldsSchema, SIZED, type InputValue } from "./fields.ts";
import { host, id, monthly, name } from "./schemaParts.ts";
import { airPartKinds, equipmentKinds, loopKinds, loopPartKinds, serviceFields, serviceFieldsOf, waterPartKinds, type ComponentKind } from "./serviceFields.ts";

/** A component as a document holds it. */
export interface Component<K extends ComponentKind = ComponentKind> {
  readonly id: string;
  readonly kind: K;
  readonly name?: string | undefined;
  readonly inputs: Readonly<Record<string, InputValue | undefined>>;
}

const settings = (kind: ComponentKind) =>
  fieldsSchema<string>(serviceFields[kind]).describe("Typed settings; what is absent is left to sizing or to its default.") as unknown as z.ZodType<
    Component["inputs"]
  >;
const component = (kind: ComponentKind) =>
  z.strictObject({ id, kind: z.literal(kind), name: name.optional().describe("Name of its own; absent: what it is."), inputs: settings(kind) });
const oneOf = <K extends ComponentKind>(kinds: readonly K[]) => {
  const [first, ...others] = kinds.map(component);
  return z.discriminatedUnion("kind", [first, ...others]) as unknown as z.ZodType<Component<K>>;
};

export const airPartSchema = oneOf(airPartKinds);
export const equipmentSchema = oneOf(equipmentKinds);
export const loopPartSchema = oneOf(loopPartKinds);

export const airSystemSchema = z.strictObject({
  name,
  inputs: settings("airSystem"),
  parts: z
    .array(airPartSchema)
    .max(20)
    .describe("In the order the air meets them, from outdoors to the rooms; what stands before the mixing box acts on outdoor air alone."),
});
export const loopSchema = z.strictObject({
  name,
  kind: z.enum(loopKinds).describe("What its water is for."),
  inputs: settings("loop"),
  parts: z.array(loopPartSchema).max(30).describe("Its pump and its sources; sources that stand first serve first."),
});

/** A system that makes hot water for the taps of its zones. */
export const waterSystemSchema = z.strictObject({
  name,
  zones: z.array(id).max(5000).nullable().describe("Zones whose hot water it makes; null: all that no system before it serves."),
  coldWater: monthly(z.number().min(0).max(40))
    .nullable()
    .describe("Temperature of the cold water main by month, °C; null: from the weather year (Burch and Christensen 2007)."),
  inputs: settings("waterSystem"),
  parts: z.array(oneOf(waterPartKinds)).max(20).describe("Its heaters and solar collectors; heaters that stand first serve first."),
});
const windPoint = z.strictObject({
  id,
  speed: z.number().min(0).max(100).describe("Wind speed at the hub, m/s."),
  power: z.number().min(0).max(1e7).describe("Power of one turbine, W, at an air density of 1.225 kg/m³."),
});
/** What makes or stores electricity on site. */
export const onSiteSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("pvArray"),
    name,
    host: host("The roof or wall it stands on, as space/ceiling id or space/edge.").nullable(),
    inputs: settings("pvArray"),
  }),
  z.strictObject({
    kind: z.literal("windTurbine"),
    name,
    curve: z.array(windPoint).max(100).describe("Power curve, wind speeds rising; nothing outside it."),
    inputs: settings("windTurbine"),
  }),
  z.strictObject({ kind: z.literal("battery"), name, inputs: settings("battery") }),
]);

export type WaterSystem = z.infer<typeof waterSystemSchema>;
export type OnSite = z.infer<typeof onSiteSchema>;
export type PvArray = Extract<OnSite, { kind: "pvArray" }>;
export type AirSystem = z.infer<typeof airSystemSchema>;
export type Loop = z.infer<typeof loopSchema>;
/** A setting that is not typed: by sizing, or its default. */
export const settingOf = (kind: ComponentKind, inputs: Component["inputs"], field: string): InputValue =>
  inputs[field] ?? (inputs[field] === null ? null : serviceFieldsOf(kind)[field].default);

/** Whether a setting has a meaning as the others of its component stand. */
export function settingAsked(kind: ComponentKind, inputs: Component["inputs"], field: string): boolean {
  const { when } = serviceFieldsOf(kind)[field];
  return !when || (when.is.includes(String(settingOf(kind, inputs, when.field))) && settingAsked(kind, inputs, when.field));
}

/** Whether a setting is left to sizing. */
export const isSized = (kind: ComponentKind, inputs: Component["inputs"], field: string): boolean => settingOf(kind, inputs, field) === SIZED;

/** Loops start with what is usual for their kind. */
export const loopStart: Readonly<Record<(typeof loopKinds)[number], Readonly<Record<string, number>>>> = {
  "hot water": { supplyTemperature: 60, difference: 20 },
  "chilled water": { supplyTemperature: 7, difference: 6 },
};
