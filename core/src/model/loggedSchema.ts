import { z } from "zod";
import { seriesRefSchema } from "./resultsSchema.ts";
import { id, monthDay, name, text } from "./schemaParts.ts";

/** A moment of local standard time, such as "2025-02-03 14:00". */
const moment = z
  .string()
  .regex(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01]) ([01]\d|2[0-3]):[0-5]\d$/, "a time is written as 2025-02-03 14:00")
  .describe("Local standard time, such as 2025-02-03 14:00.");

/** Readings of one sensor, meter or command: where they are stored, in which unit, and how they are put right. */
export const pointSchema = z.strictObject({
  name,
  unit: text(20).describe("Unit of the stored readings; 1: none."),
  hash: text(64).describe("Stored readings, by their content."),
  source: text(300).optional().describe("File and column they came from."),
  tags: z.array(text(60)).max(20).optional().describe("Words it can be found by."),
  kind: z
    .enum(["counter", "sum"])
    .optional()
    .describe("A counter that rises, of which the rate is taken, or a sum over the interval of each row; absent: a reading."),
  rollover: z.number().positive().max(1e15).optional().describe("Largest value of the counter before it begins again, in its unit; absent: it has none."),
  shift: z.number().min(-1440).max(1440).optional().describe("Minutes added to its times: a clock that runs wrong is put right."),
  offset: z.number().min(-1e9).max(1e9).optional().describe("Added to every reading, in its unit: a sensor that reads high or low is put right."),
  without: z
    .array(z.strictObject({ from: moment, to: moment, reason: text(200) }))
    .max(200)
    .optional()
    .describe("Readings taken out, such as those of a stuck sensor; they count as missing."),
  masks: z
    .array(
      z.strictObject({
        point: id,
        is: z.enum(["below", "above"]),
        value: z.number().min(-1e12).max(1e12).describe("Limit, in the unit of that point."),
        reason: text(200),
      }),
    )
    .max(20)
    .optional()
    .describe("Hours in which its readings mean nothing, by other points: they count in no error."),
});
export type LoggedPoint = z.infer<typeof pointSchema>;

/** A point that takes the place of an input for a period. */
export const driveSchema = z.strictObject({
  point: id,
  input: text(300).describe("Address of what it takes the place of: weather, or an input of a zone, system, loop or source."),
  from: monthDay.optional().describe("First day; absent: from the first reading."),
  to: monthDay.optional().describe("Last day; absent: to the last reading."),
  bridge: z.number().min(0).max(48).optional().describe("Longest gap that is bridged by a line, h; absent: 3."),
});
export type Drive = z.infer<typeof driveSchema>;

/** A point beside a series of the run. */
export const pairSchema = z.strictObject({
  id,
  point: id,
  series: seriesRefSchema,
});
export type Pair = z.infer<typeof pairSchema>;
