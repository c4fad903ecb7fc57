import { z } from "zod";
import { fuels } from "../model/index.ts";
import { endUses } from "../services/index.ts";
import { flowNames } from "../simulate/index.ts";

const monthly = z.array(z.number()).length(12);
const peak = z.strictObject({
  power: z.number().describe("W, mean of the step."),
  at: z.string().nullable().describe("End of the step, month-day hour:minute, local standard time; null: no load."),
});
const load = z.strictObject({ total: z.number().describe("kWh of heat moved."), monthly });
const flowRecord = z.record(z.enum(flowNames), monthly);

export const summarySchema = z.strictObject({
  formatVersion: z.literal(1),
  project: z.string(),
  weather: z.string().describe("Name of the weather year by its content."),
  period: z.strictObject({ firstDay: z.number().int(), days: z.number().int() }),
  stepsPerHour: z.number().int(),
  floorArea: z.number().describe("m², conditioned, with multipliers."),
  energy: z.strictObject({
    intensity: z.number().nullable().describe("kWh/m²a of site energy before on-site production; null when the period is not a year."),
    net: z.number().nullable().describe("kWh/m²a after on-site production."),
    endUses: z.array(z.strictObject({ use: z.enum(endUses), fuel: z.enum(fuels), total: z.number(), monthly })),
    cost: z.number().describe("In the project's currency."),
    carbon: z.number().describe("kg CO₂e."),
    primary: z.number().describe("kWh of primary energy."),
  }),
  loads: z.strictObject({ heating: load, cooling: load }),
  peaks: z.strictObject({ heating: peak, cooling: peak }),
  zones: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      floorArea: z.number(),
      heating: z.number().describe("kWh."),
      cooling: z.number().describe("kWh."),
      peakHeating: z.number().describe("W."),
      peakCooling: z.number().describe("W."),
      temperature: z.strictObject({ min: z.number(), mean: z.number(), max: z.number() }),
      unmetHours: z.strictObject({ heating: z.number(), cooling: z.number() }),
    }),
  ),
  flows: flowRecord.describe("Heat into the zones by month, kWh, losses negative."),
  unmetHours: z.number().describe("Hours in which any occupied zone is more than 0.5 K beyond its set-point."),
  closure: z.number().describe("Largest relative residual of a zone's or an element's energy balance."),
  fingerprint: z.string().describe("Hash of every value of every series of the run, to the bit."),
  warmupDays: z.number().int(),
  warnings: z.array(z.string()),
  timing: z.strictObject({ compile: z.number(), run: z.number() }).describe("s."),
});
export type Summary = z.infer<typeof summarySchema>;

/** A named result over time: hourly means from the first hour of the run. */
export interface Series {
  /** Zone id, or "building". */
  readonly scope: string;
  readonly quantity: string;
  readonly unit: string;
  readonly kind: "mean";
  /** First hour of the year, 0…8759. */
  readonly start: number;
  /** Length of a value, s. */
  readonly step: number;
  readonly values: Float64Array;
}
