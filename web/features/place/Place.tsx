"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { usePathname, useRouter, useSearchParams } from "next/navigation";
import { useRef, useState } from "react";
import { Area, Bar, CartesianGrid, ComposedChart, Line as ChartLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { setChange, type Project } from "@arroyo/core";
import { ask } from "../../live/server.ts";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { Act, firstMessage, Head, NumberInput, Quantity, Row, SelectInput, Unit } from "../../ui/fields.tsx";
import { digitsFor, figure, monthNames } from "../../ui/format.ts";
import { Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { useHidden } from "../../ui/useHidden.ts";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { CalendarSettings } from "./CalendarSettings.tsx";
import { GroundRows } from "./GroundRows.tsx";
import { RunSettings } from "./RunSettings.tsx";
import { Surroundings } from "./Surroundings.tsx";
import { axisStyle, tooltipStyle } from "../../ui/chartStyle.ts";

const views = { weather: "Weather year", surroundings: "Surroundings", calendar: "Calendar", run: "Calculation" } as const;
type View = keyof typeof views;

const siteFields = [
  { key: "latitude", label: "Latitude", unit: "°", digits: 2, help: "North positive. Sets the sun's path." },
  { key: "longitude", label: "Longitude", unit: "°", digits: 2, help: "East positive." },
  { key: "elevation", label: "Elevation", unit: "m", digits: 0, help: "Sets air pressure and density." },
  { key: "timeZone", label: "Time zone", unit: "h", digits: 1, help: "Hours ahead of UTC, standard time." },
  { key: "planNorth", label: "Top of plan from north", unit: "°", digits: 1, help: "True direction of the top of the plan, clockwise from north." },
] as const;

/** Site and weather at a glance. */
export function Place() {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const weather = useStore((s) => s.live.weather);
  const edit = useStore((s) => s.edit);
  const { site } = project;
  const query = useSearchParams();
  const router = useRouter();
  const path = usePathname();
  const asked = query.get("view");
  const view: View = asked !== null && Object.hasOwn(views, asked) ? (asked as View) : "weather";
  const go = (v: View): void => {
    const next = new URLSearchParams(query.toString());
    next.set("view", v);
    router.replace(`${path}?${next.toString()}`);
  };
  return (
    <>
      <Side label="Site" width="250px">
        <SideHead>Look at</SideHead>
        {(Object.keys(views) as View[]).map((v) => (
          <SideItem key={v} active={v === view} onClick={() => go(v)}>
            {views[v]}
          </SideItem>
        ))}
        <SideHead>Site</SideHead>
        <Box px="3.5">
          <Text textStyle="title">{site.name}</Text>
          {siteFields.map((f) => (
            <Row key={f.key} label={f.label} title={f.help}>
              {f.unit === "h" ? (
                <>
                  <NumberInput
                    label={f.label}
                    value={site[f.key]}
                    digits={f.digits}
                    onCommit={(v) => firstMessage(edit(`${f.label} ${v}`, [setChange(project, ["site", f.key], v)]))}
                  />
                  <Unit>{f.unit}</Unit>
                </>
              ) : (
                <Quantity
                  label={f.label}
                  value={site[f.key]}
                  unit={f.unit}
                  digits={f.digits}
                  onCommit={(v) => edit(`${f.label} ${Number(v.toPrecision(6))}`, [setChange(project, ["site", f.key], v)])}
                />
              )}
            </Row>
          ))}
          <Row label="Terrain" title="Class of the surroundings, for the wind profile">
            <SelectInput
              label="Terrain"
              value={site.terrain}
              options={["open sea", "open country", "suburb", "city"].map((t) => ({ value: t, label: t }))}
              onChange={(v) => edit(`Terrain ${v}`, [setChange(project, ["site", "terrain"], v)])}
            />
          </Row>
          <Row label="Shelter" title="Shielding from wind by what stands around, for leakage by its area">
            <SelectInput
              label="Shelter"
              value={site.shelter}
              options={["none", "light", "moderate", "heavy", "very heavy"].map((t) => ({ value: t, label: t }))}
              onChange={(v) => edit(`Shelter ${v}`, [setChange(project, ["site", "shelter"], v)])}
            />
          </Row>
          <GroundRows />
        </Box>
      </Side>
      <Middle label={views[view]}>
        {view === "run" ? (
          <RunSettings />
        ) : view === "surroundings" ? (
          <Surroundings />
        ) : view === "calendar" ? (
          <CalendarSettings />
        ) : weather ? (
          <Bands />
        ) : (
          <Box h="520px" aria-busy="true" />
        )}
      </Middle>
      <Inspector title="Weather year" about={project.weather.kind === "normals" ? "made from twelve monthly normals, the same every time" : "read from a file"}>
        {weather && (
          <>
            <Row label="Name">{project.weather.name}</Row>
            <Row label="Year">
              {weather.year ?? "typical"}, {weather.days} days
            </Row>
            <Row label="Coldest hour">
              <b>{units.text(weather.min, "°C", 1)}</b>
              <Unit>{units.unit("°C")}</Unit>
            </Row>
            <Row label="Warmest hour">
              <b>{units.text(weather.max, "°C", 1)}</b>
              <Unit>{units.unit("°C")}</Unit>
            </Row>
            <Row label="Heating degree days" note={`daily means below ${units.words(18, "°C", 0)}`}>
              <b>{units.text(weather.heatingDegreeDays, "K·d", 0)}</b>
              <Unit>{units.unit("K·d")}</Unit>
            </Row>
            <Row label="Cooling degree days" note={`daily means above ${units.words(18, "°C", 0)}`}>
              <b>{units.text(weather.coolingDegreeDays, "K·d", 0)}</b>
              <Unit>{units.unit("K·d")}</Unit>
            </Row>
            <Row label="Sun on the horizontal">
              <b>
                {units.text(
                  weather.monthly.global.reduce((a, b) => a + b, 0),
                  "kWh/m²a",
                  0,
                )}
              </b>
              <Unit>{units.unit("kWh/m²a")}</Unit>
            </Row>
          </>
        )}
        {project.weather.kind === "normals" && <Normals project={project} />}
        <WeatherFile project={project} />
      </Inspector>
    </>
  );
}

function Bands() {
  const units = useUnits();
  const [hidden, toggle] = useHidden();
  const weather = useStore((s) => s.live.weather);
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
  return (
    <Flex direction="column" gap="4">
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

/** The twelve normals a made year stands on, each month typed over. */
function Normals({ project }: { project: Project }) {
  const units = useUnits();
  const edit = useStore((s) => s.edit);
  const [quantity, setQuantity] = useState<"dryBulb" | "dailyRange" | "relativeHumidity" | "clearness" | "windSpeed">("dryBulb");
  if (project.weather.kind !== "normals") return null;
  const values = project.weather.normals[quantity];
  const path = ["weather", "normals", quantity];
  return (
    <>
      <Head>Monthly normals</Head>
      <SelectInput
        label="Quantity"
        align="left"
        width="100%"
        value={quantity}
        options={[
          { value: "dryBulb", label: `Mean temperature, ${units.unit("°C")}` },
          { value: "dailyRange", label: `Daily range, ${units.unit("K")}` },
          { value: "relativeHumidity", label: "Relative humidity, %" },
          { value: "clearness", label: "Clearness, 1" },
          { value: "windSpeed", label: `Wind speed, ${units.unit("m/s")}` },
        ]}
        onChange={(v) => setQuantity(v as typeof quantity)}
      />
      <Flex wrap="wrap">
        {monthNames.map((month, i) => (
          <Flex key={`${quantity}-${month}`} w="33%" align="center" py="0.5" gap="1">
            <Text color="ink2" w="26px" fontSize="12px">
              {month}
            </Text>
            <Quantity
              bare
              width="50px"
              label={`${month} normal`}
              value={values[i]}
              unit={{ dryBulb: "°C", dailyRange: "K", relativeHumidity: "%", clearness: "1", windSpeed: "m/s" }[quantity]}
              digits={Math.min(2, digitsFor(values[i]))}
              onCommit={(v) =>
                edit(`${month} normal`, [
                  setChange(
                    project,
                    path,
                    values.map((x, k) => (k === i ? v : x)),
                  ),
                ])
              }
            />
          </Flex>
        ))}
      </Flex>
    </>
  );
}

function WeatherFile({ project }: { project: Project }) {
  const edit = useStore((s) => s.edit);
  const file = useRef<HTMLInputElement>(null);
  const [refused, setRefused] = useState<readonly string[]>([]);
  const take = async (chosen: File | undefined): Promise<void> => {
    if (!chosen) return;
    const answer = await ask<{ hash: string; name: string; year: number | null }>("/api/weather", { kind: "text/csv", body: chosen });
    if (answer.ok) {
      const { body } = answer;
      // a measured year brings its calendar along
      edit(`Weather from ${chosen.name}${body.year === null ? "" : ` and its year ${body.year}`}`, [
        setChange(project, ["weather"], { kind: "stored", name: body.name || chosen.name, hash: body.hash }),
        ...(body.year === null || body.year === project.calendar.year ? [] : [setChange(project, ["calendar", "year"], body.year)]),
      ]);
    }
    setRefused(answer.ok ? [] : answer.problems.length > 0 ? answer.problems.slice(0, 5).map((p) => `${p.path}: ${p.message}`) : [answer.message]);
    if (file.current) file.current.value = "";
  };
  return (
    <Box mt="3">
      <Act onClick={() => file.current?.click()}>Read a weather CSV</Act>
      <chakra.input ref={file} type="file" accept=".csv,text/csv" display="none" aria-label="Weather CSV" onChange={(e) => void take(e.target.files?.[0])} />
      {refused.map((words, i) => (
        <Text key={i} role="alert" color="clay" fontSize="12px" mt="1">
          {words}
        </Text>
      ))}
    </Box>
  );
}
