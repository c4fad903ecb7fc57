import { z } from "zod";
import { id, name, text } from "./schemaParts.ts";

/** What a series may be of. */
export const seriesOwners = ["zone", "group", "face", "sensor", "component", "store", "maker", "outdoors", "building", "derived"] as const;
/** One series of a run, by what it is of and by its quantity. */
export const seriesRefSchema = z.strictObject({
  of: z.enum(seriesOwners),
  id: text(300).describe(
    "Id of the zone, group, sensor or derived series, key of the face, address of the component; outdoors and building have none but their own name.",
  ),
  quantity: text(64).describe("Name of the quantity; of a derived series its own id."),
});
export type SeriesRef = z.infer<typeof seriesRefSchema>;

/** A series computed from others, hour by hour. */
export const derivedSchema = z.strictObject({
  name,
  formula: text(2000).describe("In the language of expressions over the letters of `of`; units are checked."),
  unit: text(40).describe("Unit it is given in; 1: none."),
  of: z.record(id, seriesRefSchema).describe("The series behind each name of the formula."),
});
export type Derived = z.infer<typeof derivedSchema>;
