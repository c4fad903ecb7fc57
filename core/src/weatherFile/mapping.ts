import { z } from "zod";
import { unitOfText } from "../model/index.ts";

/** What a column of a weather file can hold, with the unit it is brought to, its limits and the words for it. */
export const fileQuantities = {
  dryBulb: { label: "Dry-bulb temperature", unit: "°C", min: -90, max: 70 },
  dewPoint: { label: "Dew point", unit: "°C", min: -100, max: 50 },
  wetBulb: { label: "Wet-bulb temperature", unit: "°C", min: -90, max: 60 },
  relativeHumidity: { label: "Relative humidity", unit: "%", min: 0, max: 110 },
  humidityRatio: { label: "Humidity ratio", unit: "kg/kg", min: 0, max: 0.1 },
  pressure: { label: "Pressure at the station", unit: "Pa", min: 30000, max: 120000 },
  windSpeed: { label: "Wind speed", unit: "m/s", min: 0, max: 120 },
  windDirection: { label: "Wind direction", unit: "°", min: -360, max: 720 },
  globalHorizontal: { label: "Global horizontal", unit: "W/m²", min: 0, max: 2000 },
  diffuseHorizontal: { label: "Diffuse horizontal", unit: "W/m²", min: 0, max: 1500 },
  directNormal: { label: "Direct normal", unit: "W/m²", min: 0, max: 1500 },
  beamHorizontal: { label: "Beam on the horizontal", unit: "W/m²", min: 0, max: 1500 },
  cloudCover: { label: "Cloud cover", unit: "1", min: 0, max: 1 },
  infrared: { label: "Infrared from the sky", unit: "W/m²", min: 0, max: 1000 },
  precipitation: { label: "Precipitation", unit: "mm", min: 0, max: 500 },
} as const;
export type FileQuantity = keyof typeof fileQuantities;
export const fileQuantityNames = Object.keys(fileQuantities) as FileQuantity[];
/** Quantities that are sums or means over the interval of a row unless said otherwise. */
export const overInterval: ReadonlySet<FileQuantity> = new Set(["globalHorizontal", "diffuseHorizontal", "directNormal", "beamHorizontal", "precipitation"]);
/** Units offered for a quantity; energies of sun are sums over the interval of a row. */
export const unitsOfQuantity: Readonly<Record<FileQuantity, readonly string[]>> = {
  dryBulb: ["°C", "°F", "K"],
  dewPoint: ["°C", "°F", "K"],
  wetBulb: ["°C", "°F", "K"],
  relativeHumidity: ["%", "1"],
  humidityRatio: ["kg/kg", "g/kg", "gr/lb"],
  pressure: ["Pa", "hPa", "kPa", "mbar", "inHg"],
  windSpeed: ["m/s", "km/h", "mph", "kn"],
  windDirection: ["°"],
  globalHorizontal: ["W/m²", "Wh/m²", "kJ/m²", "MJ/m²", "J/cm²", "Btu/ft²"],
  diffuseHorizontal: ["W/m²", "Wh/m²", "kJ/m²", "MJ/m²", "J/cm²", "Btu/ft²"],
  directNormal: ["W/m²", "Wh/m²", "kJ/m²", "MJ/m²", "J/cm²", "Btu/ft²"],
  beamHorizontal: ["W/m²", "Wh/m²", "kJ/m²", "MJ/m²", "J/cm²", "Btu/ft²"],
  cloudCover: ["1", "%", "tenth", "okta"],
  infrared: ["W/m²", "Wh/m²", "kJ/m²", "J/cm²"],
  precipitation: ["mm", "cm", "in"],
};

const column = z.number().int().min(0).max(999);
const timeSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("one column"),
    column,
    order: z.enum(["iso", "ymd", "dmy", "mdy"]).describe("Order of year, month and day; iso may carry an offset from UTC."),
  }),
  z.strictObject({ kind: z.literal("date and time"), date: column, time: column, order: z.enum(["ymd", "dmy", "mdy"]) }),
  z.strictObject({
    kind: z.literal("parts"),
    year: column.nullable(),
    month: column,
    day: column,
    hour: column.nullable(),
    minute: column.nullable(),
  }),
  z.strictObject({
    kind: z.literal("none"),
    minutes: z.number().int().min(1).max(60).describe("Minutes from row to row; the first row begins at 0:00 on 1 January, its time is its end."),
  }),
]);

/** How the lines, times and clock of a text file are to be read. */
export const layoutShape = {
  formatVersion: z.literal(1),
  name: z.string().min(1).max(200),
  skip: z.number().int().min(0).max(1000).describe("Lines before the first row of values."),
  delimiter: z.enum([",", ";", "\t", "|", " "]),
  decimal: z.enum([".", ","]),
  time: timeSchema,
  stamp: z.enum(["start", "middle", "end"]).describe("Where in the interval of a row its time lies."),
  clock: z.enum(["standard", "saving", "utc"]).describe("Local standard time, a clock that is put forward in summer, or UTC."),
  shift: z.number().min(-720).max(720).describe("Minutes added to every time: a clock that runs wrong is put right."),
  missing: z.array(z.string().max(20)).max(30).describe("What stands where a value is missing."),
} as const;

/** How the rows and columns of a weather file are to be read; kept by name and used again for files of the same shape. */
export const weatherMappingSchema = z.strictObject({
  ...layoutShape,
  typical: z.boolean().describe("The months come from different years, or of none: the year in the file means nothing."),
  columns: z
    .array(
      z.strictObject({
        column,
        quantity: z.enum(fileQuantityNames as [FileQuantity, ...FileQuantity[]]),
        unit: z.string().max(20),
        at: z.enum(["stamp", "interval"]).describe("A reading at its time, or the mean or sum over the interval of its row."),
      }),
    )
    .max(60),
  site: z
    .strictObject({
      name: z.string().max(200),
      latitude: z.number().min(-90).max(90),
      longitude: z.number().min(-180).max(180),
      elevation: z.number().min(-450).max(6000),
      timeZone: z.number().min(-12).max(14),
    })
    .nullable()
    .describe("Where it was measured; null: at the place of the project."),
});
export type WeatherMapping = z.infer<typeof weatherMappingSchema>;
export type FileSite = NonNullable<WeatherMapping["site"]>;

/**
 * Factor and offset that bring a column to the unit of its quantity: value × factor + offset.
 * @param seconds length of the interval of a row, for energies; @returns null for a unit that does not fit
 */
export function columnScale(quantity: FileQuantity, unit: string, seconds: number): { readonly factor: number; readonly offset: number } | null {
  const from = unitOfText(unit);
  const to = unitOfText(fileQuantities[quantity].unit);
  if (!from || !to) return null;
  const difference = from.dimension.map((d, i) => d - to.dimension[i]);
  if (difference.every((d) => d === 0)) return { factor: from.factor / to.factor, offset: (from.offset - to.offset) / to.factor };
  // energy over the interval where a power is wanted: one second too many
  if (overInterval.has(quantity) || quantity === "infrared")
    if (difference.every((d, i) => d === (i === 2 ? 1 : 0))) return { factor: from.factor / to.factor / seconds, offset: 0 };
  return null;
}

/** What is wrong with a mapping before any row is read, as sentences. */
export function mappingFaults(m: WeatherMapping): string[] {
  const faults: string[] = [];
  const seen = new Map<FileQuantity, number>();
  for (const c of m.columns) {
    const { label } = fileQuantities[c.quantity];
    if (seen.has(c.quantity)) faults.push(`${label} is taken from column ${(seen.get(c.quantity) as number) + 1} and again from column ${c.column + 1}.`);
    seen.set(c.quantity, c.column);
    if (!columnScale(c.quantity, c.unit, 3600)) faults.push(`"${c.unit}" is no unit of ${label.toLowerCase()}.`);
  }
  if (!seen.has("dryBulb")) faults.push("No column holds the dry-bulb temperature.");
  if (!["relativeHumidity", "dewPoint", "wetBulb", "humidityRatio"].some((q) => seen.has(q as FileQuantity)))
    faults.push("No column holds the humidity: relative humidity, dew point, wet-bulb temperature or humidity ratio.");
  const sun = ["globalHorizontal", "directNormal", "beamHorizontal"].some((q) => seen.has(q as FileQuantity));
  if (!sun && !seen.has("cloudCover"))
    faults.push("No column holds the sun: global, direct or beam irradiance, or at least the cloud cover it can be estimated from.");
  if (!seen.has("globalHorizontal") && sun && !seen.has("diffuseHorizontal"))
    faults.push("Direct or beam irradiance needs diffuse or global irradiance beside it.");
  return faults;
}
