import { z } from "zod";
import { componentKinds, fuels } from "../model/index.ts";
import { endUses } from "../services/index.ts";
import { lossNames } from "../run/index.ts";
import { elementRoles, flowNames, sunDirections, waterNames } from "../simulate/index.ts";
import { adaptiveBands } from "./comfort.ts";

const monthly = z.array(z.number()).length(12);
const peak = z.strictObject({
  power: z.number().describe("Largest hourly mean, W; of cooling sensible and latent together."),
  latent: z.number().describe("Part of it that takes moisture out, W."),
  at: z.string().nullable().describe("End of the hour, month-day hour:minute, local standard time; null: no load."),
  step: z.number().describe("Largest mean of a step, W."),
  stepAt: z.string().nullable().describe("End of that step; null: no load."),
});
const capacity = z.strictObject({
  power: z.number().nullable().describe("W; null: unlimited."),
  sized: z.boolean().describe("Found by design days, not typed."),
});
const load = z.strictObject({ total: z.number().describe("kWh of heat moved."), monthly });
const componentState = z
  .strictObject({
    at: z.string().describe("End of the step, month-day hour:minute."),
    heat: z.number().describe("Sensible heat given, W; negative: taken out."),
    latent: z.number().describe("Latent heat, likewise."),
    flow: z.number().describe("Air or water, kg/s."),
    entering: z.number().describe("°C"),
    leaving: z.number().describe("°C"),
    enteringRatio: z.number().describe("kg/kg"),
    leavingRatio: z.number().describe("kg/kg"),
  })
  .nullable();
const flowRecord = z.record(z.enum(flowNames), monthly);
const waterRecord = z.record(z.enum(waterNames), monthly);
const range = z.strictObject({ min: z.number(), mean: z.number(), max: z.number() });

const comfortSchema = z
  .strictObject({
    hours: z.number().describe("Hours with people."),
    vote: range.describe("Predicted mean vote, −3 cold to +3 hot, over these hours."),
    dissatisfied: z.number().describe("Mean predicted percentage of dissatisfied, %."),
    outside: z
      .array(
        z.strictObject({
          band: z.enum(adaptiveBands),
          cold: z.number().describe("h"),
          warm: z.number().describe("h"),
          undefined: z.number().describe("h in which the band is not defined: the running mean outdoors is out of its range."),
        }),
      )
      .describe("Hours outside the adaptive bands."),
    discomfort: z
      .strictObject({ cold: monthly, warm: monthly })
      .optional()
      .describe("Hours with people whose vote is below −0.5 or above +0.5, by month (EN 16798-1:2019, category II)."),
  })
  .nullable()
  .describe("Comfort while people are there; null: nobody ever is.");

export const summarySchema = z.strictObject({
  formatVersion: z.literal(2).describe("2: peaks are hourly means and hold latent cooling; hours unmet count hours of use without people too."),
  project: z.string(),
  weather: z.string().describe("Name of the weather year by its content."),
  period: z.strictObject({
    firstDay: z.number().int().describe("Day of a common year, from 0; 29 February counts as 1 March."),
    days: z.number().describe("Whole hours as parts of a day."),
    leapDays: z.array(z.number().int()).optional().describe("Days of the period, from 0, that are 29 February; absent: none."),
  }),
  stepsPerHour: z.number().int(),
  floorArea: z.number().describe("m², conditioned, with multipliers."),
  wholeFloorArea: z.number().describe("m² of all zones, with multipliers."),
  energy: z.strictObject({
    intensity: z
      .number()
      .nullable()
      .describe(
        "Site energy of all zones over the conditioned floor area, kWh/m²a, before on-site production; null when the period is not a year or nothing is conditioned.",
      ),
    perFloorArea: z.number().nullable().describe("The same over the floor area of all zones; null when the period is not a year."),
    net: z.number().nullable().describe("Bought less fed in, of all fuels, kWh/m²a; null: nothing is made or stored on site, or as for the intensity."),
    site: z
      .strictObject({
        made: z.number(),
        used: z.number().describe("Made and used here."),
        exported: z.number().describe("Fed into the grid."),
        bought: z.number(),
        lost: z.number().describe("In batteries."),
        kept: z.number().describe("What batteries hold more at the end."),
        madeByMonth: monthly,
        usedByMonth: monthly,
        exportedByMonth: monthly,
        boughtByMonth: monthly,
        netting: z.enum(["hour", "month", "year"]),
        cost: z.number().describe("Net of what feeding in earns."),
        credit: z.number().describe("What feeding in earns."),
        carbon: z.number().describe("Net, kg CO₂e."),
        primary: z.number().describe("Net, kWh."),
      })
      .nullable()
      .default(null)
      .describe(
        "Electricity on site, kWh: made = used + exported + lost + kept; null: nothing is made or stored. End uses, cost, carbon and primary stay gross.",
      ),
    endUses: z.array(z.strictObject({ use: z.enum(endUses), fuel: z.enum(fuels), total: z.number(), monthly })),
    cost: z.number().describe("In the project's currency, under the prices the summary was made with."),
    bill: z
      .strictObject({
        parts: z.array(
          z.strictObject({
            of: z.enum([...fuels, "water"]),
            amount: z.number().describe("kWh, or m³ of water."),
            energy: z.number().describe("By amount, in the project's currency."),
            demand: z.number().describe("By the highest hour of each month."),
            fixed: z.number().describe("Standing charge."),
          }),
        ),
        costByMonth: monthly,
        carbonByMonth: monthly.describe("kg CO₂e."),
        value: z
          .strictObject({ name: z.string(), unit: z.string(), total: z.number(), byMonth: monthly })
          .nullable()
          .describe("By hourly value factors; null: none are given."),
      })
      .optional()
      .describe("What the cost is made of; absent in summaries of earlier versions."),
    carbon: z.number().describe("kg CO₂e."),
    primary: z.number().describe("kWh of primary energy."),
  }),
  loads: z.strictObject({
    heating: load.describe("Sensible heat delivered."),
    cooling: load.describe("Sensible heat removed."),
    humidification: load.describe("Heat of the water added."),
    dehumidification: load.describe("Heat of the water taken out."),
  }),
  peaks: z.strictObject({ heating: peak, cooling: peak }),
  zones: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      floorArea: z.number(),
      heating: z.number().describe("kWh."),
      cooling: z.number().describe("kWh."),
      peakHeating: z.number().describe("Largest hourly mean, W."),
      peakHeatingAt: z.string().nullable().default(null).describe("End of that hour, month-day hour:minute; null: no load."),
      peakCooling: z.number().describe("Largest hourly mean, sensible and latent together, W."),
      peakCoolingAt: z.string().nullable().default(null).describe("End of that hour; null: no load."),
      peakLatent: z.number().describe("Latent part of it, W."),
      stepHeating: z.number().describe("Largest mean of a step, W."),
      stepCooling: z.number().describe("Largest mean of a step, W."),
      capacity: z.strictObject({ heating: capacity, cooling: capacity }),
      condensed: z.number().describe("Water that condensed because the air would have stood above saturation, kg; its heat is in no balance."),
      warmHours: z.number().nullable().default(null).describe("Hours with people above 26 °C operative; null: in summaries of earlier versions."),
      humidHours: z.number().describe("Hours above 80 % relative humidity in which people are there or it may be cooled."),
      water: waterRecord.describe("Water into the zone's air by month, kg; all flows of a month add up to nothing."),
      temperature: range,
      unmetHours: z.strictObject({ heating: z.number().nullable(), cooling: z.number().nullable() }),
      lighting: z.strictObject({ full: z.number(), used: z.number() }).describe("kWh without and with control by daylight."),
      comfort: comfortSchema,
      flows: flowRecord.describe("Heat into the zone by month, kWh, losses negative; all flows of a month add up to nothing."),
      sun: z.record(z.enum(sunDirections), monthly).describe("Sun through glass that stays, by the direction the glass faces, kWh."),
    }),
  ),
  sized: z.record(z.string(), z.number()).describe("Settings of components that sizing found, by address, in the unit of the document."),
  components: z
    .array(
      z.strictObject({
        address: z.string().describe("Address in the document, ids joined by /."),
        kind: z.enum(componentKinds),
        name: z.string(),
        of: z.string().describe("System, loop or zone it belongs to."),
        heating: monthly.describe("kWh of heat given."),
        cooling: monthly.describe("kWh of heat taken out, latent too."),
        power: monthly.describe("kWh of electricity."),
        fuel: monthly.describe("kWh of its fuel."),
        hours: z.number().describe("Hours with any flow or load."),
        mostHeating: z.number().describe("Largest heat given, mean of a step, W."),
        mostCooling: z.number().describe("Largest heat taken out, mean of a step, W."),
        atHeating: componentState.describe("States in the step in which its system or loop heated most."),
        atCooling: componentState.describe("States in the step in which its system or loop cooled most."),
      }),
    )
    .describe("Air systems, their parts, equipment of rooms, loops, pumps and sources."),
  faces: z
    .array(
      z.strictObject({
        key: z.string(),
        zone: z.string(),
        role: z.enum(elementRoles),
        area: z.number().describe("m²."),
        monthly: monthly.describe("Heat into the zone, kWh, without sun that came through glass."),
        incident: z.number().describe("Sun on the outside, kWh/m²."),
        transmitted: z.number().describe("Sun let through, kWh."),
      }),
    )
    .describe("Every face and opening of every zone."),
  daylight: z
    .array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        space: z.string(),
        zone: z.string(),
        proposed: z.boolean().describe("Placed by Arroyo in the middle of the space, as none was typed."),
        factor: z.number().describe("Daylight factor under the CIE overcast sky, %."),
        target: z.number().nullable().describe("Set illuminance, lx; null: nothing is controlled."),
        hours: z.number().describe("Hours with people in which daylight alone gives the set illuminance (300 lx where none is set)."),
        of: z.number().describe("Hours with people and sun."),
      }),
    )
    .describe("Sensor points."),
  flows: flowRecord.describe("Heat into all zones by month, kWh, losses negative."),
  water: waterRecord.describe("Water into the air of all zones by month, kg."),
  hotWater: z.number().describe("Hot water drawn, m³."),
  waterSystems: z
    .array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        cold: monthly.describe("Cold water main, °C."),
        volume: monthly.describe("Mixed water drawn, m³."),
        heated: monthly.describe("Heat of the heaters, kWh."),
        solar: monthly.describe("Heat of the collectors, kWh."),
        drawn: monthly.describe("Heat taken out of the system by the draw, kWh."),
        wanted: monthly.describe("Heat wanted at the taps, kWh."),
        unmet: monthly.describe("What of it the water was too cold for, kWh."),
        storeLoss: monthly,
        pipeLoss: monthly,
        pumps: monthly.describe("Electricity, kWh."),
        sun: monthly.describe("Sun on the collectors, kWh."),
        store: range.nullable().describe("Temperature of the store, of a layered one its upper half, °C."),
        coldHours: z.number().describe("Hours in which water was drawn too cold."),
        closure: z.number().describe("Residual of its books over what flows."),
      }),
    )
    .default([])
    .describe("Hot-water systems; kWh of heat by month."),
  arrays: z
    .array(
      z.strictObject({
        id: z.string(),
        kind: z.enum(["pvArray", "windTurbine"]),
        modules: z.number(),
        peak: z.number().describe("kW."),
        made: monthly.describe("Alternating current, kWh."),
        nominal: monthly.describe("Sun on the open plane at the sheet's efficiency, kWh."),
        losses: z.record(z.enum(lossNames), monthly).describe("kWh; nominal less all of them is made."),
      }),
    )
    .default([])
    .describe("What makes electricity on site."),
  airflow: z
    .strictObject({
      failures: z.number().int().describe("Steps in which the flows did not settle."),
      residual: z.number().describe("Largest residual of a node before it was closed, kg/s."),
      closure: z.number().describe("Air that nodes gained after it over what passed them, 1."),
      zones: z.array(
        z.strictObject({
          id: z.string(),
          name: z.string(),
          airChanges: z.number().describe("Mean outdoor air, 1/h."),
          carbonDioxide: z
            .strictObject({ mean: z.number(), max: z.number(), hours: z.number().describe("Hours with people above 1000 ppm.") })
            .describe("ppm."),
          age: z.number().describe("Mean age of the air, h."),
          peopleHours: z.number(),
          nightHours: z.number().describe("Hours without people in which cooler outdoor air came in through openings."),
          nightCooling: z.number().describe("Heat it took out, kWh."),
          failures: z.number().int(),
        }),
      ),
      links: z.array(
        z.strictObject({
          id: z.string(),
          name: z.string(),
          kind: z.string(),
          hours: z.number().describe("Hours open."),
          forward: z.number().describe("Mean flow from its first to its second end while open, kg/s."),
          backward: z.number().describe("The other way, kg/s."),
        }),
      ),
    })
    .nullable()
    .default(null)
    .describe("Of the airflow network; null: none was in use."),
  unmetHours: z
    .number()
    .nullable()
    .describe(
      "Hours in which any zone is more than the tolerance beyond its set-point while people are there or its hours of use hold; null: steps are too long to tell (fewer than 4 an hour).",
    ),
  unmetCauses: z
    .strictObject({
      plant: z.number().describe("A loop that a zone beyond its set-point draws on asked for all that its sources give."),
      capacity: z.number().describe("What serves a zone was too small for it."),
      start: z.number().describe("Every zone beyond its set-point was on its way: the set-point had moved within three hours."),
    })
    .nullable()
    .default(null)
    .describe(
      "The hours unmet by cause (absent in summaries of core versions before 0.8), each hour under the first of these that any zone has; they add up to them.",
    ),
  unmetTolerance: z.number().describe("K."),
  closure: z.number().describe("Largest relative residual of a zone's or an element's energy balance; of zones step by step, without sign."),
  waterClosure: z.number().describe("The same of a zone's moisture balance."),
  fingerprint: z.string().describe("Hash of every value of every series of the run, to the bit; empty where none were kept."),
  warmupDays: z.number().int(),
  shortYear: z
    .strictObject({
      days: z.array(z.strictObject({ day: z.number().int(), weight: z.number() })),
      expected: z
        .strictObject({ heating: z.number(), cooling: z.number(), sun: z.number() })
        .describe("Degree days of heating and of cooling and global sun of the days as clustered over those of the year, less one."),
    })
    .nullable()
    .describe("Representative days that stand for the year; null: the whole period was run."),
  counted: z.strictObject({
    unsettled: z.number().int().describe("Steps in which a thermostat search did not settle."),
    unconverged: z.number().int().describe("Steps and zones in which full radiant exchange had not converged."),
    steps: z.number().int(),
  }),
  warnings: z.array(z.string()),
  timing: z
    .strictObject({
      sizing: z.number().describe("Design days run for this run; 0 where their sizes were known or typed."),
      compile: z.number(),
      run: z.number(),
      cast: z.number().describe("Shadow cast, part of compile."),
      recast: z.number().int().describe("Faces whose shadows were cast anew."),
      kernel: z.string().optional().describe("What the step's walks were written in; the figures are the same to the bit."),
    })
    .describe("s."),
});
export type Summary = z.infer<typeof summarySchema>;

/** A named result over time: hourly means from the first hour of the run. */
/** Whether a summary is of one whole year, of 365 days or of 366 with 29 February: only then are its sums figures a year. */
export const isWholeYear = ({ period }: Pick<Summary, "period">): boolean => period.firstDay === 0 && period.days === 365 + (period.leapDays?.length ?? 0);

export interface Series {
  /** Zone id, key of a face, id of a sensor, or "building". */
  readonly scope: string;
  readonly quantity: string;
  readonly unit: string;
  readonly kind: "mean";
  /** Hour of the weather year at which the first value begins, from 0. */
  readonly start: number;
  /** Length of a value, s. */
  readonly step: number;
  readonly values: Float64Array;
}
