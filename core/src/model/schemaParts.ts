import { z } from "zod";

/** Name shown to the user. */
export const name = z
  .string()
  .min(1)
  .max(200)

  .regex(/^[^\u0000-\u001f\u007f]*$/, "a name has no line breaks or other control characters")
  .describe("Name shown to the user.");
/** Key of a record. */
export const id = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,64}$/, "an id has 1 to 64 letters, digits, _ or -")
  .refine((text) => !(text in Object.prototype), "this word has a meaning of its own in every object and cannot be an id");
/** Records by id, at most so many. */
export const records = <T extends z.ZodType>(item: T, most = 5000) =>
  z.record(id, item).refine((r) => Object.keys(r).length <= most, { message: `It has room for at most ${most} entries` });
/** Plan coordinate or level, m: a site lies within 10 km of its origin. */
export const coordinate = () => z.number().min(-10000).max(10000);
/** A length that is there, m. */
export const dimension = (most: number) => z.number().positive().min(0.01).max(most);
/** A positive figure that is not so small that its reciprocal means nothing. */
export const above = (least: number, most: number) => z.number().positive().min(least).max(most);
/** Free text. */
export const text = (most: number) => z.string().max(most);
/** A part of something, as ids joined by "/". */
export const host = (what: string) =>
  z
    .string()
    .max(200)
    .regex(/^[A-Za-z0-9_-]{1,64}(\/[A-Za-z0-9_-]{1,64}){0,2}$/, "it names a part as ids with / between")
    .refine((t) => t.split("/").every((p) => !(p in Object.prototype)), "a word every object has cannot be an id")
    .describe(what);
/** Twelve values, January first. */
export const monthly = (item: z.ZodNumber) => z.array(item).length(12);
export const colourHint = z.number().int().min(0).max(11).describe("Tint in plan, a number of the palette.");
/** A share of something. */
export const share = (what: string) => z.number().min(0).max(1).describe(`${what}, 1.`);
/** Where a library item was copied from, so that what is newer there can be told. */
export const fromSchema = z
  .strictObject({
    library: text(200).describe("The shipped library (arroyo), the user's own (mine), or a project by its name."),
    id: text(64).describe("Its id there."),
    hash: text(64).describe("Hash of what it was there, with all it depends on."),
  })
  .optional()
  .describe("What it was copied from; absent: made here.");
/** Month and day. */
export const monthDay = z.tuple([z.number().int().min(1).max(12), z.number().int().min(1).max(31)]);
