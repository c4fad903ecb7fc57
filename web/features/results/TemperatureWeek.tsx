"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { dateInRun, type Summary } from "@arroyo/core";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { axisStyle, roundAxis, tooltipStyle } from "../../ui/chartStyle.ts";
import { endUseColour } from "../../ui/colours.ts";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { figure, monthNames } from "../../ui/format.ts";
import { useHidden } from "../../ui/useHidden.ts";
import { useUnits } from "../../ui/units.ts";
import { useSeries } from "./useRuns.ts";

/** Hours of a week, or of what there is of it. */
const WEEK = 168;
/** Week shown first where the run has it: mid-July. */
const MIDSUMMER = 28;

/** Air and operative temperature of a zone over a chosen week of the run, with the heat delivered and removed below. */
export function TemperatureWeek({ run, summary, source }: { run: string | null; summary: Summary; source: string }) {
  const units = useUnits();
  const { zones, period } = summary;
  const [zone, setZone] = useState(zones[0]?.id ?? "");
  const [asked, setWeek] = useState(MIDSUMMER);
  const air = useSeries(run, zone, "airTemperature");
  const operative = useSeries(run, zone, "operativeTemperature");
  const heating = useSeries(run, zone, "heating");
  const cooling = useSeries(run, zone, "cooling");
  const lastWeek = Math.max(0, Math.ceil(period.days / 7) - 1);
  const week = Math.min(asked, lastWeek);
  const first = Math.max(0, Math.min(week * 7, Math.ceil(period.days) - 7));
  const dayText = (day: number): string => {
    const [month, date] = dateInRun(period.firstDay, period.leapDays ?? [], day);
    return `${date} ${monthNames[month - 1]}`;
  };
  const rows =
    air && operative && heating && cooling
      ? Array.from({ length: Math.min(WEEK, air.values.length - first * 24) }, (_, i) => {
          const h = first * 24 + i;
          return {
            hour: i + 1,
            air: units.value(air.values[h], "°C"),
            operative: units.value(operative.values[h], "°C"),
            heating: units.value(heating.values[h] / 1000, "kW"),
            cooling: -units.value(cooling.values[h] / 1000, "kW"),
          };
        })
      : null;
  const csv = (): string =>
    [
      `hour of the week,air (${units.unit("°C")}),operative (${units.unit("°C")}),heating (${units.unit("kW")}),cooling (${units.unit("kW")})`,
      ...(rows ?? []).map((r) => [r.hour, r.air, r.operative, r.heating, -r.cooling].join(",")),
    ].join("\n");
  const name = zones.find((z) => z.id === zone)?.name ?? "";
  return (
    <>
      <Flex gap="5" align="center" mb="3">
        <SelectInput label="Zone" align="left" width="190px" value={zone} options={zones.map((z) => ({ value: z.id, label: z.name }))} onChange={setZone} />
        <Act onClick={() => setWeek(Math.max(0, week - 1))}>◂ week before</Act>
        <Text minW="130px" textAlign="center">
          {dayText(first)} to {dayText(first + Math.max(0, Math.min(6, Math.ceil(period.days) - 1)))}
        </Text>
        <Act onClick={() => setWeek(Math.min(lastWeek, week + 1))}>week after ▸</Act>
        <input
          type="range"
          aria-label="Week of the run"
          min={0}
          max={lastWeek}
          value={week}
          onChange={(e) => setWeek(Number(e.target.value))}
          style={{ flex: 1, accentColor: "var(--chakra-colors-water)" }}
        />
      </Flex>
      {!rows ? (
        <Box h="420px" aria-busy="true">
          <Text color="ink2">The hourly series come with the 15-minute year.</Text>
        </Box>
      ) : (
        <>
          <WeekChart
            title={`Temperature, ${name}`}
            unit={`${units.unit("°C")}, hourly means · ${source}`}
            hover={units.unit("°C")}
            height={270}
            rows={rows}
            dayText={(day) => dayText(first + day)}
            csv={csv}
            lines={[
              { key: "air", colour: "#0E6B80", width: 1.8 },
              { key: "operative", colour: "#B24E2B", width: 1.4, dash: "5 3" },
            ]}
          />
          <WeekChart
            title="Heating and cooling"
            unit={`${units.unit("kW")}, hourly means, removed below the line`}
            hover={units.unit("kW")}
            height={190}
            steps
            rows={rows}
            dayText={(day) => dayText(first + day)}
            csv={csv}
            lines={[
              { key: "heating", colour: endUseColour.heating, width: 1.6, dash: "4 2" },
              { key: "cooling", colour: endUseColour.cooling, width: 1.6 },
            ]}
          />
        </>
      )}
    </>
  );
}

interface WeekChartProps {
  readonly title: string;
  readonly unit: string;
  /** Unit of hover values. */
  readonly hover: string;
  readonly height: number;
  /** Values hold over their hour. */
  readonly steps?: boolean;
  readonly rows: readonly Record<string, number>[];
  /** Date of a day of the week shown, from 0. */
  readonly dayText: (day: number) => string;
  readonly csv: () => string;
  readonly lines: readonly { readonly key: string; readonly colour: string; readonly width: number; readonly dash?: string }[];
}

/** Hourly lines over one week; charts of the same week share their cursor. */
function WeekChart({ title, unit, hover, height, steps = false, rows, dayText, csv, lines }: WeekChartProps) {
  const [hidden, toggle] = useHidden();
  const axis = roundAxis(rows.flatMap((r) => [...(steps ? [0] : []), ...lines.filter((l) => !hidden.has(l.key)).map((l) => r[l.key])]));
  const label = (v: number): string => `${dayText(Math.floor((v - 1) / 24))} ${String(((v - 1) % 24) + 1).padStart(2, "0")}:00`;
  return (
    <ChartFrame
      title={title}
      unit={unit}
      legend={lines.map((l) => ({ key: l.key, label: l.key, colour: l.colour }))}
      hidden={hidden}
      onToggle={toggle}
      csv={csv}
    >
      <ResponsiveContainer width="100%" height={height}>
        <LineChart data={rows as Record<string, number>[]} margin={{ top: 6, right: 6, left: -18, bottom: 0 }} syncId="week">
          <CartesianGrid vertical={false} stroke="var(--chakra-colors-line)" />
          <XAxis
            dataKey="hour"
            type="number"
            domain={[0, rows.length]}
            ticks={NOONS.filter((h) => h < rows.length)}
            tickFormatter={(v: number) => dayText(Math.floor(v / 24))}
            {...axisStyle}
          />
          <YAxis {...axis} {...axisStyle} />
          <Tooltip
            labelFormatter={(v) => label(Number(v))}
            formatter={(v) => `${figure(steps ? Math.abs(Number(v)) : Number(v))} ${hover}`}
            contentStyle={tooltipStyle}
          />
          {lines
            .filter((l) => !hidden.has(l.key))
            .map((l) => (
              <Line
                key={l.key}
                dataKey={l.key}
                type={steps ? "stepAfter" : "linear"}
                dot={false}
                stroke={l.colour}
                strokeWidth={l.width}
                strokeDasharray={l.dash}
                isAnimationActive={false}
              />
            ))}
        </LineChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}
const NOONS = Array.from({ length: 7 }, (_, d) => d * 24 + 12);
