import { z } from "zod";

/**
 * The registry of inheritable inputs. A field listed here exists at once in the document schema, in
 * inheritance (`inputs`), in the inspector and in the sheets. Values are stored in the unit given by
 * `unit`; `display` says how a screen shows them when another unit is customary. Defaults and usual ranges: typical, unverified.
 */
export interface FieldSpec {
  readonly label: string;
  readonly group:
    | "People"
    | "Lighting"
    | "Daylight"
    | "Appliances"
    | "Outdoor air"
    | "Infiltration"
    | "Window opening"
    | "Set-points"
    | "Humidity"
    | "Comfort"
    | "Hot water"
    | "Capacity";
  /** Unit in which the value is stored. */
  readonly unit: string;
  readonly kind: "number" | "schedule" | "choice";
  readonly default: number | string | null;
  /** Allowed values of a choice. */
  readonly choices?: readonly string[];
  /** Meaning of null: a state of its own, such as "not heated". Absent: null is not allowed. */
  readonly nullMeans?: string;
  readonly min?: number;
  readonly max?: number;
  /** Usual range, stored unit. */
  readonly usual?: readonly [number, number];
  readonly display?: { readonly unit: string; readonly factor: number; readonly digits?: number };
  readonly help: string;
}

const always = "always on";

export const spaceFields = {
  peopleDensity: {
    label: "People",
    group: "People",
    unit: "1/m²",
    kind: "number",
    default: 0.05,
    min: 0,
    max: 10,
    usual: [0.02, 0.5],
    help: "People present at full occupancy, per floor area. Drives gains, outdoor air and hot water.",
  },
  peopleSensible: {
    label: "Sensible heat per person",
    group: "People",
    unit: "W",
    kind: "number",
    default: 75,
    min: 0,
    max: 1000,
    usual: [60, 120],
    help: "Dry heat a person gives off at this activity.",
  },
  peopleLatent: {
    label: "Latent heat per person",
    group: "People",
    unit: "W",
    kind: "number",
    default: 55,
    min: 0,
    max: 1000,
    usual: [30, 150],
    help: "Heat a person gives off as water vapour.",
  },
  peopleRadiantShare: {
    label: "Radiant share, people",
    group: "People",
    unit: "1",
    kind: "number",
    default: 0.5,
    min: 0,
    max: 1,
    usual: [0.3, 0.6],
    help: "Share of the sensible heat that reaches surfaces by radiation; the rest warms the air.",
  },
  peopleSchedule: {
    label: "Occupancy schedule",
    group: "People",
    unit: "",
    kind: "schedule",
    default: null,
    nullMeans: always,
    help: "Share of the people present, hour by hour.",
  },
  lightingPower: {
    label: "Lighting",
    group: "Lighting",
    unit: "W/m²",
    kind: "number",
    default: 8,
    min: 0,
    max: 200,
    usual: [3, 15],
    help: "Installed lighting power per floor area. All of it becomes heat in the room.",
  },
  lightingRadiantShare: {
    label: "Radiant share, lighting",
    group: "Lighting",
    unit: "1",
    kind: "number",
    default: 0.6,
    min: 0,
    max: 1,
    usual: [0.3, 0.8],
    help: "Share of lighting power that reaches surfaces as light and heat radiation.",
  },
  lightingSchedule: {
    label: "Lighting schedule",
    group: "Lighting",
    unit: "",
    kind: "schedule",
    default: null,
    nullMeans: always,
    help: "Share of the lighting in use, hour by hour.",
  },
  lightingControl: {
    label: "Control by daylight",
    group: "Daylight",
    unit: "",
    kind: "choice",
    default: "none",
    choices: ["none", "dimmed", "stepped"],
    help: "How lighting answers daylight at its sensor points.",
  },
  illuminance: {
    label: "Set illuminance",
    group: "Daylight",
    unit: "lx",
    kind: "number",
    default: 500,
    min: 1,
    max: 5000,
    usual: [100, 750],
    help: "Light wanted at the sensor points; electric light gives what daylight does not.",
  },
  lightingControlledShare: {
    label: "Controlled share",
    group: "Daylight",
    unit: "1",
    kind: "number",
    default: 1,
    min: 0,
    max: 1,
    usual: [0.3, 1],
    help: "Share of the lighting power that answers daylight, where no sensor point says otherwise.",
  },
  lightingLeast: {
    label: "Least power, dimmed",
    group: "Daylight",
    unit: "1",
    kind: "number",
    default: 0.2,
    min: 0,
    max: 1,
    usual: [0.05, 0.35],
    help: "Share of power that dimmed lighting still takes at its lowest light.",
  },
  lightingSteps: {
    label: "Steps",
    group: "Daylight",
    unit: "",
    kind: "number",
    default: 2,
    min: 1,
    max: 10,
    usual: [1, 4],
    help: "Number of equal steps of stepped lighting, off being one more.",
  },
  appliancePower: {
    label: "Appliances",
    group: "Appliances",
    unit: "W/m²",
    kind: "number",
    default: 5,
    min: 0,
    max: 2000,
    usual: [1, 25],
    help: "Running power of equipment per floor area.",
  },
  applianceRadiantShare: {
    label: "Radiant share, appliances",
    group: "Appliances",
    unit: "1",
    kind: "number",
    default: 0.3,
    min: 0,
    max: 1,
    usual: [0.1, 0.5],
    help: "Share of the sensible heat of equipment that reaches surfaces by radiation.",
  },
  applianceLatentShare: {
    label: "Latent share, appliances",
    group: "Appliances",
    unit: "1",
    kind: "number",
    default: 0,
    min: 0,
    max: 1,
    usual: [0, 0.4],
    help: "Share of equipment power that leaves as water vapour (kitchens).",
  },
  applianceSchedule: {
    label: "Appliance schedule",
    group: "Appliances",
    unit: "",
    kind: "schedule",
    default: null,
    nullMeans: always,
    help: "Share of the equipment in use, hour by hour.",
  },
  outdoorAirPerPerson: {
    label: "Outdoor air per person",
    group: "Outdoor air",
    unit: "m³/s",
    kind: "number",
    default: 0.0025,
    min: 0,
    max: 0.5,
    usual: [0.0025, 0.012],
    display: { unit: "L/s", factor: 1000 },
    help: "Mechanical outdoor air per person at full occupancy; added to the flow per area.",
  },
  outdoorAirPerArea: {
    label: "Outdoor air per area",
    group: "Outdoor air",
    unit: "m³/s·m²",
    kind: "number",
    default: 0.0003,
    min: 0,
    max: 0.1,
    usual: [0.0003, 0.001],
    display: { unit: "L/s·m²", factor: 1000 },
    help: "Mechanical outdoor air per floor area; added to the flow per person.",
  },
  outdoorAirSchedule: {
    label: "Outdoor-air schedule",
    group: "Outdoor air",
    unit: "",
    kind: "schedule",
    default: null,
    nullMeans: always,
    help: "Share of the outdoor-air flow running, hour by hour.",
  },
  nightVentilation: {
    label: "Night ventilation",
    group: "Outdoor air",
    unit: "1/h",
    kind: "number",
    default: 0,
    min: 0,
    max: 50,
    usual: [0, 8],
    help: "Outdoor air moved by fans on its own schedule to cool the space, in air changes per hour.",
  },
  nightVentilationSchedule: {
    label: "Night-ventilation schedule",
    group: "Outdoor air",
    unit: "",
    kind: "schedule",
    default: null,
    nullMeans: always,
    help: "Hours at which night ventilation may run: 0.5 or more.",
  },
  nightVentilationAbove: {
    label: "Night ventilation above",
    group: "Outdoor air",
    unit: "°C",
    kind: "number",
    default: 20,
    nullMeans: "without limit",
    min: -50,
    max: 60,
    usual: [17, 22],
    help: "Night ventilation cools the space no lower than this; empty: without limit.",
  },
  freeCooling: {
    label: "Free cooling",
    group: "Outdoor air",
    unit: "1/h",
    kind: "number",
    default: 0,
    min: 0,
    max: 50,
    usual: [0, 6],
    help: "Most extra outdoor air that ideal cooling may take before it cools by itself, in air changes per hour.",
  },
  infiltrationModel: {
    label: "Leakage given as",
    group: "Infiltration",
    unit: "",
    kind: "choice",
    default: "air changes",
    choices: ["air changes", "flow per façade", "leakage area"],
    help: "How leakage is stated; flow per façade and leakage area follow wind and temperature.",
  },
  infiltration: {
    label: "Infiltration",
    group: "Infiltration",
    unit: "1/h",
    kind: "number",
    default: 0.3,
    min: 0,
    max: 20,
    usual: [0.1, 0.6],
    help: "Outdoor air leaking in, in air changes of the space per hour.",
  },
  infiltrationFlow: {
    label: "Flow per façade",
    group: "Infiltration",
    unit: "m³/s·m²",
    kind: "number",
    default: 0.0003,
    min: 0,
    max: 0.1,
    usual: [0.0001, 0.002],
    display: { unit: "L/s·m²", factor: 1000 },
    help: "Leakage per area of outdoor wall and roof at the reference pressure.",
  },
  infiltrationPressure: {
    label: "Reference pressure",
    group: "Infiltration",
    unit: "Pa",
    kind: "number",
    default: 4,
    min: 0.1,
    max: 100,
    usual: [4, 75],
    help: "Pressure difference at which the flow per façade is stated.",
  },
  leakageArea: {
    label: "Leakage area",
    group: "Infiltration",
    unit: "m²/m²",
    kind: "number",
    default: 0.00015,
    min: 0,
    max: 0.1,
    usual: [3e-5, 0.0005],
    display: { unit: "cm²/m²", factor: 10000 },
    help: "Effective leakage area at 4 Pa per area of outdoor wall and roof.",
  },
  infiltrationSchedule: {
    label: "Infiltration schedule",
    group: "Infiltration",
    unit: "",
    kind: "schedule",
    default: null,
    nullMeans: always,
    help: "Share of the leakage, hour by hour.",
  },
  windowOpenAbove: {
    label: "Opened above",
    group: "Window opening",
    unit: "°C",
    kind: "number",
    default: null,
    nullMeans: "never opened",
    min: -20,
    max: 60,
    usual: [20, 26],
    help: "Windows with an operable share are opened when the air is warmer than this and outdoors is cooler; they cool no lower.",
  },
  windowOutdoorLeast: {
    label: "Outdoors at least",
    group: "Window opening",
    unit: "°C",
    kind: "number",
    default: 10,
    min: -50,
    max: 60,
    usual: [5, 18],
    help: "Windows stay closed when it is colder outdoors than this.",
  },
  windowWindMost: {
    label: "Wind at most",
    group: "Window opening",
    unit: "m/s",
    kind: "number",
    default: 8,
    min: 0,
    max: 60,
    usual: [4, 12],
    help: "Windows stay closed in stronger wind, measured at 10 m.",
  },
  windowSchedule: {
    label: "Window schedule",
    group: "Window opening",
    unit: "",
    kind: "schedule",
    default: null,
    nullMeans: always,
    help: "Hours at which windows may be opened: 0.5 or more.",
  },
  setpointKind: {
    label: "Set-points hold",
    group: "Set-points",
    unit: "",
    kind: "choice",
    default: "air",
    choices: ["air", "operative"],
    help: "Temperature the thermostat senses: of the air, or the mean of air and surfaces.",
  },
  heatingSetpoint: {
    label: "Heating set-point",
    group: "Set-points",
    unit: "°C",
    kind: "number",
    default: 20,
    nullMeans: "not heated",
    min: -10,
    max: 40,
    usual: [18, 23],
    help: "Temperature held while the space is in use.",
  },
  heatingSetback: {
    label: "Heating setback",
    group: "Set-points",
    unit: "°C",
    kind: "number",
    default: 16,
    nullMeans: "not heated out of hours",
    min: -10,
    max: 40,
    usual: [10, 20],
    help: "Air temperature held out of hours.",
  },
  coolingSetpoint: {
    label: "Cooling set-point",
    group: "Set-points",
    unit: "°C",
    kind: "number",
    default: 26,
    nullMeans: "not cooled",
    min: 5,
    max: 60,
    usual: [23, 27],
    help: "Air temperature not exceeded while the space is in use.",
  },
  coolingSetback: {
    label: "Cooling setback",
    group: "Set-points",
    unit: "°C",
    kind: "number",
    default: 32,
    nullMeans: "not cooled out of hours",
    min: 5,
    max: 60,
    usual: [27, 35],
    help: "Air temperature not exceeded out of hours.",
  },
  conditioningSchedule: {
    label: "Hours in use",
    group: "Set-points",
    unit: "",
    kind: "schedule",
    default: null,
    nullMeans: always,
    help: "Set-points apply where this schedule is 0.5 or more, setbacks elsewhere.",
  },
  optimumStart: {
    label: "Optimum start",
    group: "Set-points",
    unit: "h",
    kind: "number",
    default: null,
    nullMeans: "off",
    min: 0.25,
    max: 12,
    usual: [1, 6],
    help: "Longest time by which heating or cooling starts early so that the set-point is met when use begins; learned from day to day.",
  },
  humidifySetpoint: {
    label: "Humidified to",
    group: "Humidity",
    unit: "%",
    kind: "number",
    default: null,
    nullMeans: "not humidified",
    min: 0,
    max: 100,
    usual: [20, 40],
    help: "Least relative humidity kept by ideal humidification.",
  },
  dehumidifySetpoint: {
    label: "Dehumidified to",
    group: "Humidity",
    unit: "%",
    kind: "number",
    default: null,
    nullMeans: "not dehumidified",
    min: 0,
    max: 100,
    usual: [50, 65],
    help: "Most relative humidity allowed by ideal dehumidification.",
  },
  moistureCapacity: {
    label: "Moisture capacity",
    group: "Humidity",
    unit: "1",
    kind: "number",
    default: 5,
    min: 1,
    max: 100,
    usual: [1, 15],
    help: "Moisture held by air, furniture and surfaces together, as a multiple of the air alone.",
  },
  metabolicRate: {
    label: "Activity",
    group: "Comfort",
    unit: "met",
    kind: "number",
    default: 1.2,
    min: 0.7,
    max: 8,
    usual: [1, 2],
    help: "Metabolic rate of the people, for comfort.",
  },
  clothingWinter: {
    label: "Clothing, heating season",
    group: "Comfort",
    unit: "clo",
    kind: "number",
    default: 1,
    min: 0,
    max: 4,
    usual: [0.7, 1.2],
    help: "Clothing insulation while outdoors is cold (running mean below 15 °C).",
  },
  clothingSummer: {
    label: "Clothing, warm season",
    group: "Comfort",
    unit: "clo",
    kind: "number",
    default: 0.5,
    min: 0,
    max: 4,
    usual: [0.3, 0.7],
    help: "Clothing insulation while outdoors is warm.",
  },
  airSpeed: {
    label: "Air speed",
    group: "Comfort",
    unit: "m/s",
    kind: "number",
    default: 0.1,
    min: 0,
    max: 3,
    usual: [0.05, 0.3],
    help: "Air speed at the people, for comfort.",
  },
  hotWaterPerPerson: {
    label: "Hot water per person",
    group: "Hot water",
    unit: "L/d",
    kind: "number",
    default: 2,
    min: 0,
    max: 500,
    usual: [1, 10],
    help: "Hot water drawn per person a day at full occupancy, spread by the occupancy schedule.",
  },
} as const satisfies Record<string, FieldSpec>;

export const zoneFields = {
  heatingCapacity: {
    label: "Heating capacity",
    group: "Capacity",
    unit: "W",
    kind: "number",
    default: null,
    nullMeans: "unlimited",
    min: 0,
    max: 1e8,
    help: "Most heat that can be delivered to the zone.",
  },
  coolingCapacity: {
    label: "Cooling capacity",
    group: "Capacity",
    unit: "W",
    kind: "number",
    default: null,
    nullMeans: "unlimited",
    min: 0,
    max: 1e8,
    help: "Most heat that can be removed from the zone.",
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

function fieldSchema(f: FieldSpec) {
  const describe = `${f.label}${f.unit ? ` (${f.unit})` : ""}. ${f.help}${f.nullMeans ? ` null: ${f.nullMeans}.` : ""}`;
  if (f.kind === "schedule") return z.string().nullable().optional().describe(describe);
  if (f.kind === "choice")
    return z
      .enum(f.choices as [string, ...string[]])
      .optional()
      .describe(describe);
  let n = z.number();
  if (f.min !== undefined) n = n.min(f.min);
  if (f.max !== undefined) n = n.max(f.max);
  return (f.nullMeans ? n.nullable().optional() : n.optional()).describe(describe);
}

function inputsSchema<K extends string>(fields: Record<K, FieldSpec>) {
  const shape = Object.fromEntries((Object.keys(fields) as K[]).map((k) => [k, fieldSchema(fields[k])])) as unknown as Record<
    K,
    z.ZodOptional<z.ZodType<number | string | null>>
  >;
  return z.strictObject(shape);
}

export type InputValue = number | string | null;
export const spaceInputsSchema = inputsSchema<SpaceField>(spaceFields).describe("Typed values; what is absent is inherited.");
export const zoneInputsSchema = inputsSchema<ZoneField>(zoneFields).describe("Typed values; what is absent is inherited.");
