"use client";
import { useUnits } from "./units.ts";

/** A sentence of the core, its figures in the units in view. */
export function Told({ text }: { text: string | null }) {
  const units = useUnits();
  return text === null ? null : units.turned(text);
}
