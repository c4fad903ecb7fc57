import { z } from "zod";
import { id, name, text } from "./schemaParts.ts";

export const fuels = ["electricity", "gas", "oil", "propane", "district heat", "district cooling", "wood"] as const;
export type Fuel = (typeof fuels)[number];
export const fuelSchema = z.enum(fuels);

const price = (what: string) => z.number().min(0).max(1e6).describe(what);
const month = z.number().int().min(1).max(12);
/** Days on which a band of a tariff holds. */
export const bandDays = ["every day", "working days", "weekends and holidays"] as const;

export const tariffSchema = z.strictObject({
  bands: z
    .array(
      z.strictObject({
        id,
        name,
        price: price("Price in its hours, currency per kWh."),
        from: month.describe("First month."),
        to: month.describe("Last month; before the first: over the turn of the year."),
        days: z.enum(bandDays),
        begin: z.number().int().min(0).max(23).describe("Hour of the clock at which it begins."),
        end: z.number().int().min(1).max(24).describe("Hour of the clock at which it ends; at or before the beginning: past midnight."),
      }),
    )
    .max(24)
    .describe("Prices by season and hour over the flat one; later bands win."),
  demand: price("Price of the highest hourly mean of each month, currency per kW."),
  fixed: price("Standing charge, currency a year."),
});
export type Tariff = z.infer<typeof tariffSchema>;

export const pricesSchema = z.strictObject({
  currency: z.string().min(1).max(8),
  perKWh: z.record(fuelSchema, z.number().min(0).max(1e6)).describe("Flat price by fuel, currency per kWh."),
  tariffs: z.partialRecord(fuelSchema, tariffSchema).optional().describe("What is beyond the flat price, by fuel."),
  water: price("Price of hot water drawn, with its sewage, currency per m³.").optional(),
  exported: price("Price paid for electricity that is fed into the grid, currency per kWh.").optional(),
  netting: z.enum(["hour", "month", "year"]).optional().describe("Within which electricity fed in makes up for what is bought; absent: the hour."),
});
export type Prices = z.infer<typeof pricesSchema>;

const factor = (what: string) => z.record(fuelSchema, z.number().min(0).max(1e6)).describe(what);
/** Value of a kWh in every hour of a common year, by fuel, as rating methods publish it. */
export const hourlyValueSchema = z.strictObject({
  name,
  unit: text(20).describe("Unit of a factor times kWh, such as kWh or $."),
  zone: text(10).optional().describe("Climate zone the factors are for."),
  byFuel: z.partialRecord(fuelSchema, z.array(z.number().min(-1e4).max(1e4).describe("Value of a kWh in one hour, in the unit.")).length(8760)),
});
export type HourlyValue = z.infer<typeof hourlyValueSchema>;

export const factorsSchema = z.strictObject({
  carbon: factor("kg CO₂e per kWh of fuel."),
  primary: factor("Primary energy per site energy, 1."),
  exported: z.number().min(0).max(1e6).optional().describe("kg CO₂e credited for a kWh fed into the grid; absent: as a kWh bought."),
  value: hourlyValueSchema.nullable().optional().describe("Hourly value factors; null or absent: none."),
  source: text(500).optional().describe("Where the factors come from."),
});
export type Factors = z.infer<typeof factorsSchema>;
