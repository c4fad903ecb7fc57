import type { AxesColumn } from "@arroyo/core";
import { figure } from "../figure.ts";

/** A stretch of an axis: values, or places of levels, both ends in it. */
export type Stretch = readonly [least: number, most: number];
export type Brushes = Readonly<Record<string, Stretch>>;

/** Runs that lie within every stretch: 1, others 0. A run without a value on a brushed axis is out. */
export function runsLeft(columns: readonly AxesColumn[], brushes: Brushes, runs: number): { readonly left: Uint8Array; readonly count: number } {
  const left = new Uint8Array(runs).fill(1);
  for (const c of columns) {
    if (!Object.hasOwn(brushes, c.key)) continue;
    const [least, most] = brushes[c.key];
    const { values } = c;
    for (let i = 0; i < runs; i++) {
      const v = values[i];
      // NaN is in no stretch
      if (v === null || !(v >= least && v <= most)) left[i] = 0;
    }
  }
  let count = 0;
  for (let i = 0; i < runs; i++) count += left[i];
  return { left, count };
}

/** Ends of an axis: of levels half a place beyond them; of numbers a round stretch that holds them all. */
export function domain(column: AxesColumn): Stretch {
  if (column.levels.length > 0) return [-0.5, column.levels.length - 0.5];
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i < column.values.length; i++) {
    const v = column.values[i];
    if (v === null || Number.isNaN(v)) continue;
    if (v < least) least = v;
    if (v > most) most = v;
  }
  if (least > most) return [0, 1];
  const size = Math.max(Math.abs(least), Math.abs(most));
  // what differs by rounding alone is one value
  if (most - least <= Math.max(1e-12, 1e-9 * size)) return [least - Math.max(1, size) / 10, most + Math.max(1, size) / 10];
  const step = 10 ** Math.floor(Math.log10((most - least) / 2));
  return [Math.floor(least / step) * step, Math.ceil(most / step) * step];
}

/** A number as it is shown on an axis. */
export const shown = (v: number, column: Pick<AxesColumn, "digits" | "kind">): string =>
  column.kind === "input" ? String(Number(v.toPrecision(4))) : figure(v, column.digits);

/** An end of an axis or of a stretch, with no more digits than it needs. */
export function endText(v: number, column: Pick<AxesColumn, "digits" | "kind">): string {
  if (column.kind === "input") return shown(v, column);
  const rounded = Number(v.toFixed(column.digits));
  let digits = 0;
  while (digits < column.digits && Math.abs(Number(rounded.toFixed(digits)) - rounded) > 1e-9 * Math.max(1, Math.abs(rounded))) digits++;
  return figure(rounded, digits);
}

/** What a stretch says, in words. */
export function stretchWords(column: AxesColumn, [least, most]: Stretch): string {
  if (column.levels.length > 0) {
    const names = column.levels.filter((_, i) => i >= least && i <= most);
    return names.length === 1 ? `${column.name}: ${names[0]}` : `${column.name}: ${names[0] ?? "nothing"} … ${names[names.length - 1] ?? ""}`;
  }
  const [low, high] = domain(column);
  const unit = column.unit === "" || column.unit === "1" ? "" : ` ${column.unit}`;
  if (least <= low) return `${column.name} ≤ ${endText(most, column)}${unit}`;
  if (most >= high) return `${column.name} ≥ ${endText(least, column)}${unit}`;
  return `${column.name} ${endText(least, column)} to ${endText(most, column)}${unit}`;
}

/** Where a run stands on a column, in words. */
export function valueWords(column: AxesColumn, row: number): string {
  const v = column.values[row];
  if (v === null || v === undefined || Number.isNaN(v)) return column.kind === "input" ? "as the base" : "—";
  if (column.levels.length > 0) return column.levels[v] ?? "—";
  const unit = column.unit === "" || column.unit === "1" ? "" : `\u00a0${column.unit}`;
  return `${shown(v, column)}${unit}`;
}
