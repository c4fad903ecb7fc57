import { z } from "zod";
import { fromSchema, name, text } from "./schemaParts.ts";
import type { InputValue } from "./fields.ts";

const pointOf = (when: string) =>
  z.strictObject({
    outdoor: z.number().min(-80).max(70).describe(`Outdoor temperature ${when}, °C.`),
    value: z.number().min(-50).max(150).describe(`Temperature asked for ${when}, °C.`),
  });

/** A temperature reset by outdoor temperature: linear between two points, constant beyond them. */
export const resetSchema = z.strictObject({
  name,
  cold: pointOf("at the cold end"),
  warm: pointOf("at the warm end"),
  source: text(500).optional().describe("Where the figures come from."),
  from: fromSchema,
});
export type Reset = z.infer<typeof resetSchema>;

const RESET = "resets/";
/** What a signal field follows: a temperature schedule by its id, or a reset by "resets/" and its id. */
export interface SignalRef {
  readonly part: "schedules" | "resets";
  readonly id: string;
}
/** Reads the text a signal field holds where it is not a constant. */
export const signalRef = (value: string): SignalRef =>
  value.startsWith(RESET) ? { part: "resets", id: value.slice(RESET.length) } : { part: "schedules", id: value };
/** The text a signal field holds. @see signalRef */
export const signalText = (ref: SignalRef): string => (ref.part === "resets" ? `${RESET}${ref.id}` : ref.id);

/** Name of what a signal field follows; null where it is constant or follows nothing that exists. */
export function signalName(
  records: { readonly schedules: Readonly<Record<string, { readonly name: string }>>; readonly resets: Readonly<Record<string, { readonly name: string }>> },
  value: InputValue,
): string | null {
  if (typeof value !== "string") return null;
  const { part, id } = signalRef(value);
  return Object.hasOwn(records[part], id) ? records[part][id].name : null;
}

/** Temperature of a reset at an outdoor temperature, °C. */
export function resetAt(reset: Pick<Reset, "cold" | "warm">, outdoor: number): number {
  const { cold, warm } = reset;
  const share = (outdoor - cold.outdoor) / (warm.outdoor - cold.outdoor);
  return cold.value + (warm.value - cold.value) * Math.max(0, Math.min(1, share));
}
