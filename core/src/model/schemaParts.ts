import { z } from "zod";

/** Name shown to the user. */
export const name = z.string().min(1).max(200).describe("Name shown to the user.");
/** Key of a record. */
export const id = z.string().regex(/^[A-Za-z0-9_-]{1,64}$/, "an id has 1 to 64 letters, digits, _ or -");
/** Records by id. */
export const records = <T extends z.ZodType>(item: T) => z.record(id, item);
/** Twelve values, January first. */
export const monthly = (item: z.ZodNumber) => z.array(item).length(12);
export const colourHint = z.number().int().min(0).max(11).describe("Tint in plan, a number of the palette.");
