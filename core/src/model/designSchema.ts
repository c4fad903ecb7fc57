import { z } from "zod";
import { id, monthDay, name } from "./schemaParts.ts";

const base = { id, name, for: z.enum(["heating", "cooling"]).describe("The load it is for.") };
/** A day that systems are sized for: found in the weather year, or typed. */
export const designDaySchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("percentile"),
    ...base,
    percent: z
      .number()
      .min(0.01)
      .max(99.99)
      .describe("Share of the year's hours in which its temperature is exceeded, %: 99.6 or 99 for heating, 0.4, 1 or 2 for cooling."),
    by: z.enum(["dry bulb", "wet bulb"]).describe("The temperature whose hours are counted; the other is its mean in these hours."),
  }),
  z.strictObject({
    kind: z.literal("clear"),
    ...base,
    month: z.number().int().min(1).max(12).describe("Month of the cloudless day."),
    percent: z.number().min(0.01).max(99.99).describe("Share of the month's hours in which its temperature is exceeded, %."),
  }),
  z.strictObject({
    kind: z.literal("typed"),
    ...base,
    date: monthDay.describe("Month and day, for the sun."),
    dryBulb: z.number().min(-80).max(65).describe("Highest temperature of the day, °C."),
    range: z.number().min(0).max(35).describe("Highest less lowest temperature, K."),
    wetBulb: z.number().min(-80).max(45).describe("Wet-bulb temperature at the highest temperature, °C."),
    windSpeed: z.number().min(0).max(60).describe("m/s at 10 m."),
    windDirection: z.number().min(0).max(360).describe("Where the wind comes from, degrees from north."),
    sky: z.enum(["clear", "no sun"]).describe("A cloudless sky, or no sun at all."),
  }),
]);
export type DesignDay = z.infer<typeof designDaySchema>;
