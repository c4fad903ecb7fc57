import { isWholeYear, type Summary } from "@arroyo/core";

export { difference, figure } from "./figure.ts";

/** Digits that show about three significant figures. */
export function digitsFor(value: number): number {
  const a = Math.abs(value);
  if (a === 0 || a >= 100) return 0;
  return a >= 10 ? 1 : a >= 1 ? 2 : a >= 0.01 ? 3 : 5;
}

/** The unit of a sum: per year where it is one of a whole year, else of the period. */
export function unitOf(unit: string, summary: Pick<Summary, "period"> | null | undefined): string {
  return !summary || isWholeYear(summary) ? unit : unit.replace(/a$/, "").replace(/\/$/, "");
}

/** Ticks of an axis at round steps (1, 2 or 5 of a power of ten) from below the least to above the largest value, and the digits that tell them apart. */
export function roundTicks(values: readonly number[], steps = 5): { readonly ticks: readonly number[]; readonly digits: number } {
  const known = values.filter(Number.isFinite);
  if (known.length === 0) return { ticks: [0, 1], digits: 0 };
  const low = Math.min(...known);
  const high = Math.max(...known);
  const raw = (high - low || Math.abs(high) || steps) / steps;
  const power = Math.floor(Math.log10(raw));
  const times = [1, 2, 5, 10].find((t) => t * 10 ** power >= raw * (1 - 1e-9)) ?? 10;
  const digits = Math.max(0, -(power + (times === 10 ? 1 : 0)));
  const step = times * 10 ** power;
  const first = Math.floor(low / step + 1e-9);
  const last = Math.max(first + 1, Math.ceil(high / step - 1e-9));
  return { ticks: Array.from({ length: last - first + 1 }, (_, i) => Number(((first + i) * step).toFixed(digits))), digits };
}

export const monthNames = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"] as const;

/** "01-14 07:15" as "14 Jan 07:15". */
export function stampText(at: string | null): string {
  const m = at === null ? null : /^(\d\d)-(\d\d) (\d\d:\d\d)$/.exec(at);
  return m ? `${Number(m[2])} ${monthNames[Number(m[1]) - 1]} ${m[3]}` : "—";
}

/** Reads a typed number: spaces and thousands separators allowed, comma or point. Null when it is none. */
export function readNumber(text: string): number | null {
  const t = text
    .trim()
    .replace(/[\s\u202f]/g, "")
    .replace("−", "-")
    .replace(",", ".");
  return t !== "" && Number.isFinite(Number(t)) ? Number(t) : null;
}

/** Sum of figures, such as of twelve months. */
export const sum = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);
