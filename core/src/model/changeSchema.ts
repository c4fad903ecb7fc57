import { z } from "zod";
import { id, text } from "./schemaParts.ts";

export type ChangeValue = unknown;
export const changeSchema = z.strictObject({
  op: z.enum(["set", "unset", "insert", "remove"]),
  path: z.array(text(200)).min(1).max(24).describe('Address by ids, such as ["assemblies", "wall", "layers", "ins", "thickness"].'),
  value: z.unknown().optional(),
  old: z.unknown().optional().describe("The value it replaced; a change whose old value differs is stale."),
  before: text(200).optional().describe("For an insert in a list: the id it goes before; absent: last."),
});
export type Change = z.infer<typeof changeSchema>;
/** A change kept in an option: it has an id, so that an edit of the list touches it alone. */
export const optionChangeSchema = changeSchema.extend({ id: id.describe("Names it in its option.") });
export type OptionChange = z.infer<typeof optionChangeSchema>;
