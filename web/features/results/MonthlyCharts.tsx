"use client";
import { Bar, BarChart, CartesianGrid, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { endUses, flowNames, type FlowName, type Summary } from "@arroyo/core";
import { Box } from "@chakra-ui/react";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { axisStyle, tooltipStyle } from "../../ui/chartStyle.ts";
import { endUseColour, flowColour, flowLabel } from "../../ui/colours.ts";
import { HeatingHatch, hatchFill } from "../../ui/Hatch.tsx";
import { figure, monthNames } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useHidden } from "../../ui/useHidden.ts";

interface Stack {
  readonly key: string;
  readonly label: string;
  readonly colour: string;
}

function MonthStack({
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
  return (
    <ResponsiveContainer width="100%" height={height}>
      <BarChart
        data={rows as Record<string, number | string>[]}
        stackOffset={signed ? "sign" : "none"}
        margin={{ top: 6, right: 6, left: -20, bottom: 0 }}
        barCategoryGap="22%"
      >
        <HeatingHatch />
        <CartesianGrid vertical={false} stroke="var(--chakra-colors-line)" />
        <XAxis dataKey="month" {...axisStyle} />
        <YAxis {...axisStyle} />
        <Tooltip
          formatter={(v, name) => [`${figure(Number(v), 2)} MWh`, String(name)]}
          contentStyle={tooltipStyle}
          itemStyle={{ color: "var(--chakra-colors-ink)", padding: 0 }}
          cursor={{ fill: "var(--chakra-colors-wash)" }}
        />
        {signed && <ReferenceLine y={0} stroke="var(--chakra-colors-ink2)" />}
        {stacks
          .filter((s) => !hidden.has(s.key))
          .map((s) => (
            <Bar key={s.key} dataKey={s.key} name={s.label} stackId="all" fill={s.key === "heating" ? hatchFill : s.colour} isAnimationActive={false} />
          ))}
      </BarChart>
    </ResponsiveContainer>
  );
}

const csvOf = (rows: readonly Record<string, number | string>[], stacks: readonly Stack[]): string =>
  [["month", ...stacks.map((s) => `${s.label} (MWh)`)].join(","), ...rows.map((r) => [r.month, ...stacks.map((s) => r[s.key])].join(","))].join("\n");

/** Energy by end use and month, with the year by end use and fuel below. */
export function EnergyByMonth({ summary, source }: { summary: Summary; source: string }) {
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
        csv={() => csvOf(rows, stacks)}
      >
        <MonthStack rows={rows} stacks={stacks} hidden={hidden} height={250} signed={false} />
      </ChartFrame>
      <Box mt="3">
        <Grid
          label="Energy by end use and fuel"
          head={[
            { text: "End use", left: true },
            { text: "Fuel", left: true },
            { text: "Year", unit: "kWh" },
            { text: "Intensity", unit: "kWh/m²a" },
            { text: "Share", unit: "%" },
          ]}
          rows={[
            ...summary.energy.endUses
              .filter((u) => u.total > 0.5)
              .map((u) => ({
                key: `${u.use} ${u.fuel}`,
                cells: [u.use, u.fuel, figure(u.total, 0), figure(u.total / summary.floorArea), figure((100 * u.total) / total)],
              })),
            { key: "total", cells: [<b key="t">all</b>, "", <b key="k">{figure(total, 0)}</b>, <b key="i">{figure(total / summary.floorArea)}</b>, ""] },
          ]}
        />
      </Box>
    </>
  );
}

/** Heat into the zones by month, gains above the line and losses below. */
export function GainsAndLosses({ summary, source }: { summary: Summary; source: string }) {
  const [hidden, toggle] = useHidden();
  const order: readonly FlowName[] = [
    "sun",
    "people",
    "lighting",
    "appliances",
    "heating",
    "fabric",
    "partitions",
    "glass",
    "infiltration",
    "outdoorAir",
    "cooling",
  ];
  const stacks = order.map((f): Stack => ({ key: f, label: flowLabel[f], colour: flowColour[f] }));
  const rows = monthNames.map(
    (month, m) => ({ month, ...Object.fromEntries(flowNames.map((f) => [f, summary.flows[f][m] / 1000])) }) as Record<string, number | string>,
  );
  const year = (f: FlowName): number => summary.flows[f].reduce((a, b) => a + b, 0) / 1000;
  return (
    <>
      <ChartFrame
        title="Gains and losses"
        unit={`MWh a month, into the zones above the line · ${source}`}
        legend={stacks.map((s) => ({ ...s, hatched: s.key === "heating" }))}
        hidden={hidden}
        onToggle={toggle}
        csv={() => csvOf(rows, stacks)}
      >
        <MonthStack rows={rows} stacks={stacks} hidden={hidden} height={400} signed />
      </ChartFrame>
      <Box mt="2">
        <Grid
          label="Gains and losses of the year"
          head={[{ text: "Year, MWh", left: true }, ...order.map((f) => ({ text: flowLabel[f] }))]}
          rows={[{ key: "year", cells: ["whole building", ...order.map((f) => figure(year(f)))] }]}
        />
      </Box>
    </>
  );
}
