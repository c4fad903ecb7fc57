import { z } from "zod";
import { changeSchema } from "./changeSchema.ts";
import { id, monthDay, name, text } from "./schemaParts.ts";

/** What a level of one axis needs of another axis. */
const conditionSchema = z.strictObject({
  axis: id,
  levels: z.array(id).min(1).max(200).describe("Levels of that axis with which it goes."),
});

/** One alternative of an axis. */
export const studyLevelSchema = z.strictObject({
  id,
  name: text(200).optional().describe("Words it is shown with; absent: its value."),
  value: z
    .union([z.number().min(-1e12).max(1e12), z.string().max(2000), z.null()])
    .optional()
    .describe("What is put at the addresses of the axis; absent, and without changes: as the base has it."),
  changes: z.array(changeSchema).max(5000).optional().describe("Of an axis without addresses: changes over the base."),
  investment: z.number().min(-1e12).max(1e12).optional().describe("What it costs more than the base, in the project's currency; absent: nothing."),
  only: conditionSchema.optional().describe("It is taken only with these levels of another axis."),
});

/** A list of alternative changes, of which a run of a study takes one. */
export const studyAxisSchema = z.strictObject({
  id,
  name,
  addresses: z
    .array(text(500))
    .max(500)
    .optional()
    .describe("Where the value of a level is put, ids joined by /; * stands for every thing there. Absent: its levels are changes."),
  unit: text(40).optional().describe("Unit of its values in the document; absent: none."),
  levels: z.array(studyLevelSchema).min(1).max(200),
  between: z
    .tuple([z.number().min(-1e12).max(1e12), z.number().min(-1e12).max(1e12)])
    .optional()
    .describe("Sampled and searched anywhere between these values; absent: at its levels."),
});

const seed = z.number().int().min(0).max(4294967295).describe("Seed of the random numbers: the same seed gives the same runs.");
const figure = text(200).describe("Key of an outcome.");
const methodSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("grid") }).describe("Every combination of levels."),
  z.strictObject({ kind: z.literal("latin"), runs: z.number().int().min(2).max(20000).describe("Runs, 1."), seed }).describe("Latin hypercube."),
  z
    .strictObject({ kind: z.literal("sobol"), points: z.number().int().min(2).max(4096).describe("Base points; it takes axes + 2 runs for each."), seed })
    .describe("Points for the first and total indices of Sobol'."),
  z
    .strictObject({
      kind: z.literal("search"),
      population: z.number().int().min(4).max(400).describe("Runs of a generation, 1."),
      generations: z.number().int().min(1).max(400).describe("Generations after the first, 1."),
      seed,
      objectives: z
        .array(z.strictObject({ figure, aim: z.enum(["least", "most"]) }))
        .min(1)
        .max(4),
      constraints: z
        .array(
          z.strictObject({
            figure,
            least: z.number().optional().describe("In the unit of the outcome."),
            most: z.number().optional().describe("In the unit of the outcome."),
          }),
        )
        .max(20),
    })
    .describe("Evolutionary search for the best under objectives and constraints."),
  z
    .strictObject({ kind: z.literal("morris"), trajectories: z.number().int().min(2).max(200).describe("Trajectories; each takes axes + 1 runs."), seed })
    .describe("Screening by elementary effects (Morris 1991)."),
  z
    .strictObject({
      kind: z.literal("evolution"),
      population: z.number().int().min(4).max(200).describe("Runs of a generation, 1."),
      generations: z.number().int().min(1).max(400).describe("Generations, 1."),
      seed,
      figure,
    })
    .describe("Search for the least of one outcome by an evolution strategy that learns its covariance (CMA-ES)."),
]);

export const outcomeStatistics = ["mean", "sum", "most", "least", "hours above", "hours below"] as const;

/** Many runs of one base: axes, how they are combined, how each run is made and judged. */
export const studySchema = z.strictObject({
  name,
  note: text(5000).optional(),
  base: id.nullable().describe("The option it stands on; null: the base."),
  axes: z.array(studyAxisSchema).max(40),
  years: z.array(id).max(40).describe("Weather years that every run is judged over; none: the one in view."),
  judge: text(64).describe("Which of these years an outcome is of: worst, mean, or the id of one."),
  method: methodSchema,
  length: z.union([z.literal("year"), z.literal(12), z.literal(24), z.literal(48)]).describe("The whole year, or so many representative days."),
  stepsPerHour: z
    .union([z.literal(1), z.literal(2), z.literal(3), z.literal(4), z.literal(6), z.literal(12)])
    .nullable()
    .describe("Steps an hour; null: as the project's runs."),
  sizing: z.enum(["each", "once"]).describe("Capacities left to sizing: found anew for every run, or those of the base wherever they are enough to go on."),
  checks: z.number().int().min(0).max(50).describe("Runs of the short year that are made with the hourly year as well, to tell its error."),
  outcomes: z
    .array(
      z.strictObject({
        id,
        name,
        series: id.describe("A derived series of the project."),
        statistic: z.enum(outcomeStatistics),
        limit: z.number().optional().describe("Of hours above and below."),
        aim: z.enum(["least", "most"]),
      }),
    )
    .max(20)
    .optional()
    .describe("Outcomes from derived series."),
  against: z
    .strictObject({
      pairs: z.array(id).min(1).max(20).describe("Pairs of a point and a series whose misfit is told of every run."),
      held: z
        .tuple([monthDay, monthDay])
        .optional()
        .describe("First and last day of a period that is held out: no search sees it, and it tests what was found."),
    })
    .optional()
    .describe("Logged data each run is compared with."),
});
export type Study = z.infer<typeof studySchema>;
export type StudyAxis = Study["axes"][number];
export type StudyLevel = StudyAxis["levels"][number];
export type StudyMethod = Study["method"];

/** One step of the staircase. */
export const measureSchema = z.strictObject({
  id,
  name,
  changes: z.array(changeSchema).max(5000),
  investment: z.number().min(-1e12).max(1e12).optional().describe("What it costs, in the project's currency."),
});
export type Measure = z.infer<typeof measureSchema>;
