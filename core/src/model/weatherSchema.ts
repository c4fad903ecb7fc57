import { z } from "zod";
import { id, monthly, name, text } from "./schemaParts.ts";

export const normalsSchema = z.strictObject({
  dryBulb: monthly(z.number().min(-60).max(50)).describe("Monthly mean air temperature, °C."),
  dailyRange: monthly(z.number().min(0).max(35)).describe("Monthly mean of daily maximum less minimum, K."),
  relativeHumidity: monthly(z.number().min(1).max(100)).describe("Monthly mean relative humidity, %."),
  clearness: monthly(z.number().min(0.05).max(0.85)).describe("Monthly mean of global horizontal over extraterrestrial irradiation, 1."),
  windSpeed: monthly(z.number().min(0).max(40)).describe("Monthly mean wind speed at 10 m, m/s."),
  windDirection: monthly(z.number().min(0).max(360)).describe("Prevailing wind direction, degrees from north, the direction it comes from."),
});
export type Normals = z.infer<typeof normalsSchema>;

/** Monthly changes that make a future year of a present one. */
export const morphSchema = z.strictObject({
  dryBulb: monthly(z.number().min(-20).max(20)).describe("Change of the monthly mean air temperature, K."),
  dailyRange: monthly(z.number().min(-80).max(200)).describe("Change of the mean daily range of temperature, %."),
  humidityRatio: monthly(z.number().min(-80).max(200)).describe("Change of the water vapour in the air, %."),
  sun: monthly(z.number().min(-80).max(200)).describe("Change of global irradiation, %."),
  cloudCover: monthly(z.number().min(-100).max(100)).describe("Change of cloud cover, percentage points."),
  windSpeed: monthly(z.number().min(-90).max(200)).describe("Change of wind speed, %."),
});
export type Morph = z.infer<typeof morphSchema>;
/** The quantities a morph changes. */
export const morphFields = Object.keys(morphSchema.shape) as (keyof Morph)[];
/** A morph that changes nothing. */
export const noMorph = (): Morph => Object.fromEntries(morphFields.map((f) => [f, new Array<number>(12).fill(0)])) as Morph;

const label = text(60).optional().describe("What kind of year it is, in the user's words: typical, measured, mid-century.");
const source = text(500).optional().describe("Where it comes from.");
const precipitation = monthly(z.number().min(0).max(5000)).optional().describe("Precipitation by month, mm, for the moisture letter of the climate zone.");
/** A weather year of a project. */
export const namedYearSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("normals"),
    name,
    label,
    source,
    precipitation,
    normals: normalsSchema,
    seed: z.number().int().min(0).max(4294967295).describe("Seed of the made year; the same seed gives the same year."),
  }),
  z.strictObject({
    kind: z.literal("stored"),
    name,
    label,
    source,
    precipitation,
    hash: z
      .string()
      .regex(/^[0-9a-f]{16,64}$/, "it is no name of stored content")
      .describe("Name of the stored weather year."),
  }),
  z.strictObject({
    kind: z.literal("morphed"),
    name,
    label,
    source,
    precipitation,
    of: id.describe("The year it is made of, itself not morphed."),
    morph: morphSchema,
  }),
]);
export type NamedYear = z.infer<typeof namedYearSchema>;

type Years = { readonly weather: string; readonly weathers: Readonly<Record<string, NamedYear>> };

/** The weather year in view. @throws RangeError where there is none; references are checked before */
export function yearInView(project: Years): NamedYear {
  if (!Object.hasOwn(project.weathers, project.weather)) throw new RangeError(`there is no weather year "${project.weather}"`);
  return project.weathers[project.weather];
}

/** A year and, for a morphed one, the year it is made of: what its hours follow from. */
export function yearParts(project: Years, year: string = project.weather): readonly NamedYear[] {
  const own = Object.hasOwn(project.weathers, year) ? project.weathers[year] : null;
  if (!own) return [];
  if (own.kind !== "morphed") return [own];
  const base = Object.hasOwn(project.weathers, own.of) ? project.weathers[own.of] : null;
  return base && base.kind !== "morphed" ? [own, base] : [own];
}

/** Name of the stored content a year follows from; null where it follows from the document alone. */
export function storedHash(project: Years, year: string = project.weather): string | null {
  for (const part of yearParts(project, year)) if (part.kind === "stored") return part.hash;
  return null;
}
