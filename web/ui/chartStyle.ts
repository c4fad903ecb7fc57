import { figure, roundTicks } from "./format.ts";

/** Look of hover boxes in charts. */
export const tooltipStyle = {
  background: "var(--chakra-colors-sheet)",
  border: "1px solid var(--chakra-colors-line)",
  borderRadius: 3,
  fontSize: 12,
  color: "var(--chakra-colors-ink)",
};
/** Look of axes in charts. */
export const axisStyle = { tick: { fontSize: 11, fill: "var(--chakra-colors-ink2)" }, tickLine: false, axisLine: false };

/** A y axis with round ticks about the values it shows. */
export function roundAxis(values: readonly number[]): { domain: [number, number]; ticks: number[]; tickFormatter: (v: number) => string } {
  const { ticks, digits } = roundTicks(values);
  return { domain: [ticks[0], ticks[ticks.length - 1]], ticks: [...ticks], tickFormatter: (v) => figure(v, digits) };
}

/** Feet and tops of bars stacked from nothing, gains up and losses down. */
export function stackEnds(rows: readonly Readonly<Record<string, unknown>>[], keys: readonly string[]): number[] {
  return [
    0,
    ...rows.flatMap((r) => {
      const parts = keys.map((k) => Number(r[k] ?? 0));
      return [parts.reduce((s, v) => s + Math.max(0, v), 0), parts.reduce((s, v) => s + Math.min(0, v), 0)];
    }),
  ];
}
