import { z } from "zod";
import { id, name, text } from "./schemaParts.ts";

/** What a series may be of. */
export const seriesOwners = ["zone", "group", "face", "sensor", "component", "store", "maker", "airPath", "outdoors", "building", "derived"] as const;
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

/** What a topic of a report tells. */
export const topicKinds = ["text", "summary", "energy", "flows", "loads", "zones", "comfort", "components", "series", "assumptions", "warnings"] as const;
export type TopicKind = (typeof topicKinds)[number];
/** One topic of an outline: what it tells, of which zones, over which time, how it is written. */
export const topicSchema = z.strictObject({
  id,
  kind: z.enum(topicKinds),
  title: text(200).optional().describe("Its heading; absent: that of its kind."),
  note: z.string().max(20000).optional().describe("Written by hand; it stays whatever run the report is made of."),
  of: z.array(id).max(200).optional().describe("Groups of zones it tells of; absent: all zones."),
  month: z.number().int().min(0).max(11).optional().describe("Month it tells of, from 0; absent: the run."),
  digits: z.number().int().min(0).max(6).optional().describe("Decimals of its figures; absent: as they suit each."),
  energy: z.enum(["kWh", "MWh"]).optional().describe("Unit of energy; absent: kWh."),
  series: z.array(seriesRefSchema).max(60).optional().describe("Of a topic of series: which."),
  without: z.array(text(300)).max(500).optional().describe("Columns and rows taken out by hand, by their names."),
});
export type Topic = z.infer<typeof topicSchema>;
/** A report to be made of any run: a list of topics. */
export const reportOutlineSchema = z.strictObject({
  name,
  topics: z.array(topicSchema).max(200),
});
export type ReportOutline = z.infer<typeof reportOutlineSchema>;
