"use client";
import { chakra, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { Area, Bar, CartesianGrid, ComposedChart, Line as ChartLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { monthlyWeather, type Project } from "@arroyo/core";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { axisStyle, tooltipStyle } from "../../ui/chartStyle.ts";
import { SelectInput } from "../../ui/fields.tsx";
import { figure, monthNames } from "../../ui/format.ts";
import { useHidden } from "../../ui/useHidden.ts";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { useYearHours } from "./useYearHours.ts";

/** Months at a glance; another year of the project lies over it where one is chosen. */
export function MonthBands() {
  const units = useUnits();
  const [hidden, toggle] = useHidden();
  const project = useStore((s) => s.project) as Project;
  const weather = useStore((s) => s.live.weather);
  const [beside, setBeside] = useState("");
  const other = useYearHours(beside === "" ? null : beside);
  const over = useMemo(() => (other ? monthlyWeather(other) : null), [other]);
  if (!weather) return null;
  const m = weather.monthly;
  const rows = monthNames.map((month, i) => ({
    month,
    mean: units.value(m.meanDryBulb[i], "°C"),
    band: [units.value(m.minDryBulb[i], "°C"), units.value(m.maxDryBulb[i], "°C")],
    beam: units.value(m.global[i] - m.diffuse[i], "kWh/m²"),
    diffuse: units.value(m.diffuse[i], "kWh/m²"),
    humidity: m.relativeHumidity[i],
    wind: units.value(m.windSpeed[i], "m/s"),
    ...(over ? { other: units.value(over.meanDryBulb[i], "°C"), otherSun: units.value(over.global[i], "kWh/m²") } : {}),
  }));
  const coldest = 10 * Math.floor(Math.min(...rows.map((r) => r.band[0])) / 10);
  const warmest = 10 * Math.ceil(Math.max(...rows.map((r) => r.band[1])) / 10);
  const step = warmest - coldest > 90 ? 20 : 10;
  const csv = (): string =>
    [
      `month,mean (${units.unit("°C")}),min (${units.unit("°C")}),max (${units.unit("°C")}),global (${units.unit("kWh/m²")}),diffuse (${units.unit("kWh/m²")}),wind (${units.unit("m/s")}),humidity (%)`,
      ...rows.map((r) => [r.month, r.mean, ...r.band, r.beam + r.diffuse, r.diffuse, r.wind, r.humidity].join(",")),
    ].join("\n");
  const number = (v: unknown): string => (Array.isArray(v) ? v.map((x) => figure(Number(x))).join(" to ") : figure(Number(v)));
  /** The other year's months over those of the year in view. */
  const otherLine = (key: string, unit: string) => (
    <ChartLine
      dataKey={key}
      name={`${project.weathers[beside]?.name ?? ""} ${units.unit(unit)}`}
      type="monotone"
      stroke="var(--chakra-colors-clay)"
      strokeWidth={1.6}
      strokeDasharray="5 3"
      dot={false}
      isAnimationActive={false}
    />
  );
  return (
    <Flex direction="column" gap="4">
      {Object.keys(project.weathers).length > 1 && (
        <Flex align="center" gap="2">
          <Text color="ink2">Over it</Text>
          <SelectInput
            label="Another year over it"
            align="left"
            width="260px"
            value={beside}
            options={[
              { value: "", label: "no other year" },
              ...Object.entries(project.weathers)
                .filter(([k]) => k !== project.weather)
                .map(([value, y]) => ({ value, label: y.name })),
            ]}
            onChange={setBeside}
          />
        </Flex>
      )}
      <ChartFrame title="Air temperature" unit={`${units.unit("°C")} by month: mean, and from the coldest to the warmest hour`} csv={csv}>
        <ResponsiveContainer width="100%" height={228}>
          <ComposedChart data={rows} margin={{ top: 6, right: 6, left: -18, bottom: 0 }}>
            <CartesianGrid vertical={false} stroke="var(--chakra-colors-line)" />
            <XAxis dataKey="month" padding={{ left: 24, right: 24 }} {...axisStyle} />
            <YAxis
              domain={[coldest, warmest]}
              ticks={Array.from({ length: Math.floor((warmest - coldest) / step) + 1 }, (_, i) => coldest + step * i)}
              tickFormatter={(v: number) => figure(v, 0)}
              {...axisStyle}
            />
            <Tooltip formatter={number} contentStyle={tooltipStyle} />
            <Area dataKey="band" name={`range ${units.unit("°C")}`} type="monotone" stroke="none" fill="var(--chakra-colors-wash)" isAnimationActive={false} />
            <ChartLine
              dataKey="mean"
              name={`mean ${units.unit("°C")}`}
              type="monotone"
              stroke="var(--chakra-colors-water)"
              strokeWidth={2}
              dot={{ r: 2.5 }}
              isAnimationActive={false}
            />
            {over && otherLine("other", "°C")}
          </ComposedChart>
        </ResponsiveContainer>
      </ChartFrame>
      <ChartFrame
        title="Sun on the horizontal"
        unit={`${units.unit("kWh/m²")} a month, beam over diffuse`}
        csv={csv}
        legend={[
          { key: "beam", label: "beam", colour: "#E0B04A" },
          { key: "diffuse", label: "diffuse", colour: "#EAD9A6" },
        ]}
        hidden={hidden}
        onToggle={toggle}
      >
        <ResponsiveContainer width="100%" height={182}>
          <ComposedChart data={rows} margin={{ top: 6, right: 6, left: -18, bottom: 0 }}>
            <CartesianGrid vertical={false} stroke="var(--chakra-colors-line)" />
            <XAxis dataKey="month" {...axisStyle} />
            <YAxis {...axisStyle} />
            <Tooltip formatter={number} contentStyle={tooltipStyle} cursor={{ fill: "var(--chakra-colors-wash)" }} />
            {!hidden.has("diffuse") && <Bar dataKey="diffuse" stackId="s" fill="#EAD9A6" isAnimationActive={false} />}
            {!hidden.has("beam") && <Bar dataKey="beam" stackId="s" fill="#E0B04A" isAnimationActive={false} />}
            {over && otherLine("otherSun", "kWh/m²")}
          </ComposedChart>
        </ResponsiveContainer>
      </ChartFrame>
      <chakra.table w="100%" fontSize="12px" borderCollapse="collapse" aria-label="Wind and humidity by month">
        <tbody>
          {(
            [
              [`Wind, ${units.unit("m/s")}`, rows.map((r) => r.wind), 1],
              ["Relative humidity, %", m.relativeHumidity, 0],
            ] as const
          ).map(([label, values, digits]) => (
            <tr key={label}>
              <chakra.th scope="row" textAlign="left" fontWeight="400" color="ink2" py="0.5" borderBottom="1px solid" borderColor="line">
                {label}
              </chakra.th>
              {values.map((v, i) => (
                <chakra.td key={i} textAlign="right" borderBottom="1px solid" borderColor="line">
                  {figure(v, digits)}
                </chakra.td>
              ))}
            </tr>
          ))}
        </tbody>
      </chakra.table>
    </Flex>
  );
}
