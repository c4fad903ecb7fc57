import { resetAt, signalRef, type InputValue, type Project, type Reset } from "../model/index.ts";

/** A setting over time: constant, the row of a schedule (−1: none), or a reset by outdoor temperature. */
export interface Followed {
  readonly value: number;
  readonly row: number;
  readonly reset: Pick<Reset, "cold" | "warm"> | null;
}
/** A setting while a point drives it: its row is that of the drive, NaN where it falls back to the rest. @param address of the setting */
export type DriveOf = (address: string, f: Followed) => Followed;

/** Of settings that nothing drives. */
export const undriven: DriveOf = (_address, f) => f;

/** What a setting follows. @param rowOf row of a schedule by its id */
export function follow(project: Pick<Project, "resets">, value: InputValue, rowOf: (id: string) => number): Followed {
  if (typeof value === "number") return { value, row: -1, reset: null };
  if (value === null) return { value: NaN, row: -1, reset: null };
  const { part, id } = signalRef(value);
  return part === "resets" ? { value: NaN, row: -1, reset: project.resets[id] } : { value: NaN, row: rowOf(id), reset: null };
}

/** Its value now. @param scheduled values of all schedules in the hour, by row @param outdoor °C */
export const followed = (f: Followed, scheduled: Float64Array, outdoor: number): number =>
  f.row >= 0 && scheduled[f.row] === scheduled[f.row] ? scheduled[f.row] : f.reset !== null ? resetAt(f.reset, outdoor) : f.value;

/** Whether a setting can change over time. */
export const moves = (f: Followed): boolean => f.row >= 0 || f.reset !== null;
