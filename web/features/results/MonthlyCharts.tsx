"use client";
import { Bar, BarChart, CartesianGrid, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { endUses, isWholeYear, type Summary } from "@arroyo/core";
import { Box } from "@chakra-ui/react";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { axisStyle, roundAxis, stackEnds, tooltipStyle } from "../../ui/chartStyle.ts";
import { endUseColour } from "../../ui/colours.ts";
import { HeatingHatch, hatchFill } from "../../ui/Hatch.tsx";
import { figure, monthNames, unitOf } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useHidden } from "../../ui/useHidden.ts";
import { useUnits, type Units } from "../../ui/units.ts";

export interface Stack {
  readonly key: string;
  readonly label: string;
  readonly colour: string;
}

/** Bars of twelve months, stacked; signed ones stand above and below the line. */
export function MonthStack({
  rows,
  stacks,
  hidden,
  height,
  signed,
}: {
  rows: readonly Record<string, number | string>[];
  stacks: readonly Stack[];
  hidden: ReadonlySet<string>;
  height: number;
  signed: boolean;
}) {
  const units = useUnits();
  const shown = stacks.filter((s) => !hidden.has(s.key));
  const data = rows.map((r) => Object.fromEntries(Object.entries(r).map(([k, v]) => [k, typeof v === "number" ? units.value(v, "MWh") : v])));
  const ends = stackEnds(
    data,
    shown.map((s) => s.key),
  );
  return (
    <ResponsiveContainer width="100%" height={height}>
      <BarChart data={data} stackOffset={signed ? "sign" : "none"} margin={{ top: 6, right: 6, left: -20, bottom: 0 }} barCategoryGap="22%">
        <HeatingHatch />
        <CartesianGrid vertical={false} stroke="var(--chakra-colors-line)" />
        <XAxis dataKey="month" {...axisStyle} />
        <YAxis {...roundAxis(ends)} {...axisStyle} />
        <Tooltip
          formatter={(v, name) => [`${figure(Number(v), 2)} ${units.unit("MWh")}`, String(name)]}
          contentStyle={tooltipStyle}
          itemStyle={{ color: "var(--chakra-colors-ink)", padding: 0 }}
          cursor={{ fill: "var(--chakra-colors-wash)" }}
        />
        {signed && <ReferenceLine y={0} stroke="var(--chakra-colors-ink2)" />}
        {shown.map((s) => (
          <Bar key={s.key} dataKey={s.key} name={s.label} stackId="all" fill={s.key === "heating" ? hatchFill : s.colour} isAnimationActive={false} />
        ))}
      </BarChart>
    </ResponsiveContainer>
  );
}

export const csvOf = (rows: readonly Record<string, number | string>[], stacks: readonly Stack[], units: Units): string =>
  [
    ["month", ...stacks.map((s) => `${s.label} (${units.unit("MWh")})`)].join(","),
    ...rows.map((r) => [r.month, ...stacks.map((s) => units.value(Number(r[s.key]), "MWh"))].join(",")),
  ].join("\n");

/** Energy by end use and month, with the year by end use and fuel below. */
export function EnergyByMonth({ summary, source }: { summary: Summary; source: string }) {
  const units = useUnits();
  const [hidden, toggle] = useHidden();
  const stacks = endUses.map((u): Stack => ({ key: u, label: u, colour: endUseColour[u] }));
  const rows = monthNames.map(
    (month, m) =>
      ({
        month,
        ...Object.fromEntries(endUses.map((u) => [u, summary.energy.endUses.filter((r) => r.use === u).reduce((a, r) => a + r.monthly[m], 0) / 1000])),
      }) as Record<string, number | string>,
  );
  const total = summary.energy.endUses.reduce((a, u) => a + u.total, 0);
  return (
    <>
      <ChartFrame
        title="Energy by end use"
        unit={`MWh a month · ${source}`}
        legend={stacks.map((s) => ({ ...s, hatched: s.key === "heating" }))}
        hidden={hidden}
        onToggle={toggle}
        csv={() => csvOf(rows, stacks, units)}
      >
        <MonthStack rows={rows} stacks={stacks} hidden={hidden} height={250} signed={false} />
      </ChartFrame>
      <Box mt="3">
        <Grid
          label="Energy by end use and fuel"
          head={[
            { text: "End use", left: true },
            { text: "Fuel", left: true },
            { text: isWholeYear(summary) ? "Year" : "Period", unit: units.unit("kWh") },
            { text: "Intensity", unit: units.unit(unitOf("kWh/m²a", summary)) },
            { text: "Share", unit: "%" },
          ]}
          rows={[
            ...summary.energy.endUses
              .filter((u) => u.total > 0.5)
              .map((u) => ({
                key: `${u.use} ${u.fuel}`,
                cells: [u.use, u.fuel, units.text(u.total, "kWh", 0), units.text(u.total / summary.floorArea, "kWh/m²a", 1), figure((100 * u.total) / total)],
              })),
            {
              key: "total",
              cells: [
                <b key="t">all</b>,
                "",
                <b key="k">{units.text(total, "kWh", 0)}</b>,
                <b key="i">{units.text(total / summary.floorArea, "kWh/m²a", 1)}</b>,
                "",
              ],
            },
          ]}
        />
      </Box>
    </>
  );
}
