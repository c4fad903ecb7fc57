"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useState } from "react";
import { airPlan, checkProject, physicsHash, type AirPlan, type Project, type Summary } from "@arroyo/core";
import type { SeriesClass } from "../../live/seriesClasses.ts";
import type { YearSeries } from "../../live/yearSeries.ts";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { HourMap } from "../../ui/HourMap.tsx";
import { Grid, Middle } from "../../ui/Panes.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { useUnits } from "../../ui/units.ts";
import { AirMap, type PathFlow } from "../airflow/AirMap.tsx";
import { flowArrows } from "../airflow/arrows.ts";
import { Building } from "../form/Building.tsx";
import { rampColour } from "../form/sceneParts.ts";
import { HourChoice } from "../HourChoice.tsx";
import { useYears, variantsOf } from "../options/useVariants.ts";
import { useStore } from "../store.ts";
import { hourWords, useYearSeries } from "../yearSeries.ts";
import { TallNote, tallZones } from "./TallNote.tsx";

/** An hour of the film lasts this long, ms. */
const FRAME = 260;
const CLASSES = ["zones", "airPaths"] as const satisfies readonly SeriesClass[];
const parts = { hour: "Hour by hour", zones: "By zone", paths: "By path", compare: "Strategies compared" } as const;
type Part = keyof typeof parts;
const quantities = {
  airChanges: "Air changes of outdoor air",
  carbonDioxide: "Carbon dioxide",
  ageOfAir: "Mean age of the air",
  operativeTemperature: "Operative temperature",
} as const;
type Quantity = keyof typeof quantities;
const quantityUnit: Record<Quantity, "1/h" | "ppm" | "h" | "°C"> = { airChanges: "1/h", carbonDioxide: "ppm", ageOfAir: "h", operativeTemperature: "°C" };
const spans: Record<Quantity, readonly [number, number]> = {
  airChanges: [0, 10],
  carbonDioxide: [400, 1500],
  ageOfAir: [0, 6],
  operativeTemperature: [12, 32],
};

/** What the airflow network does: flows at any hour, air changes, age and carbon dioxide, what each opening did, strategies side by side. */
export function AirflowRead({ summary, source }: { summary: Summary; source: string }) {
  const project = useStore((s) => s.project) as Project;
  const [part, setPart] = useState<Part>("hour");
  const input = project.airNetwork;
  const checked = checkProject(project);
  const plan = useMemo(() => (input ? airPlan(project, input, checked) : null), [project, input, checked]);
  if (!input || !plan)
    return (
      <Middle label="Airflow">
        <Text textStyle="title">No airflow network</Text>
        <Text color="ink2" maxW="560px">
          Windows follow the simple model. Make a network under Form, Airflow: then the flows through every opening, air changes, carbon dioxide and the age of
          the air are here, hour by hour.
        </Text>
      </Middle>
    );
  return (
    <Middle label="Airflow">
      <Flex direction="column" h="100%">
        <Flex align="center" gap="1" mb="1" wrap="wrap">
          <Text as="h2" textStyle="title" mr="2">
            Airflow
          </Text>
          {(Object.keys(parts) as Part[]).map((p) => (
            <Toggle key={p} on={p === part} onClick={() => setPart(p)}>
              {parts[p]}
            </Toggle>
          ))}
          <Text color="ink2" fontSize="12px" ml="2">
            {source}
          </Text>
        </Flex>
        {part === "hour" && input.use ? (
          <Hours project={project} plan={plan} />
        ) : part === "compare" ? (
          <Strategies />
        ) : !summary.airflow ? (
          <Text color="ink2">
            {input.use
              ? "These figures come with the first year of the network."
              : "The simple model is in use: turn the network on under Form, Airflow, to read it; both are beside each other under Strategies compared."}
          </Text>
        ) : part === "zones" ? (
          <Zones project={project} summary={summary} airflow={summary.airflow} />
        ) : (
          <Paths plan={plan} airflow={summary.airflow} />
        )}
      </Flex>
    </Middle>
  );
}

function Hours({ project, plan }: { project: Project; plan: AirPlan }) {
  const units = useUnits();
  const [hour, setHour] = useState(24 * 200 + 16);
  const [playing, setPlaying] = useState(false);
  const [quantity, setQuantity] = useState<Quantity>("airChanges");
  const [zone, setZone] = useState<string>(plan.zones[0] ?? "");
  const [storey, setStorey] = useState<string>(Object.keys(project.storeys)[0]);
  const { year, current, share, message } = useYearSeries(project, CLASSES);
  const hours = year?.hours ?? 8760;
  const now = Math.min(hour, hours - 1);
  useEffect(() => {
    if (!playing) return;
    const timer = setInterval(() => setHour((h) => (h + 1) % hours), FRAME);
    return () => clearInterval(timer);
  }, [playing, hours]);
  const most = useMemo(() => (year ? largest(year, plan) : 1), [year, plan]);
  const flow = useMemo(() => {
    const of = (name: string, id: string): number => (year?.series[name] as YearSeries["series"][string] | undefined)?.[id]?.[now] ?? NaN;
    return (id: string): PathFlow | null => {
      const forward = of("airForward", id);
      return forward === forward ? { forward, backward: of("airBackward", id), open: of("openShare", id) > 0.01 } : null;
    };
  }, [year, now]);
  const value = (z: string): number => (year?.series[quantity] as YearSeries["series"][string] | undefined)?.[z]?.[now] ?? NaN;
  const arrows = useMemo(() => (year ? flowArrows(plan, flow, most) : []), [year, plan, flow, most]);
  const unit = quantityUnit[quantity];
  const digits = unit === "ppm" ? 0 : 1;
  const [low, high] = spans[quantity];
  const map = (year?.series[quantity] as YearSeries["series"][string] | undefined)?.[zone];
  const values = useMemo(() => (map ? Float64Array.from(map) : null), [map]);
  if (!year || message)
    return (
      <Text color={message ? "clay" : "ink2"}>{message ?? `The year is run for its flows${share === null ? "" : `, ${Math.round(100 * share)} %`} …`}</Text>
    );
  const words = (v: number): string => (v === v ? `${units.text(v, unit, digits)} ${units.unit(unit)}` : "");
  return (
    <>
      <Flex align="center" gap="3" mb="1" wrap="wrap">
        <SelectInput
          label="Quantity of the zones"
          align="left"
          width="200px"
          value={quantity}
          options={Object.entries(quantities).map(([value, label]) => ({ value, label }))}
          onChange={(v) => setQuantity(v as Quantity)}
        />
        {Object.keys(project.storeys).length > 1 && (
          <SelectInput
            label="Storey"
            align="left"
            width="120px"
            value={storey}
            options={Object.entries(project.storeys).map(([v, s]) => ({ value: v, label: s.name }))}
            onChange={setStorey}
          />
        )}
        <Act onClick={() => setPlaying(!playing)}>{playing ? "Pause" : "Play"}</Act>
        <HourChoice year={year} hour={now} onChange={setHour} />
      </Flex>
      <Flex flex="1" minH="0" gap="0" border="1px solid" borderColor="line">
        <Box flex="1.15" minW="0" position="relative" borderRight="1px solid" borderColor="line">
          <AirMap
            project={project}
            storey={storey}
            plan={plan}
            missing={[]}
            chosen={NONE}
            onPick={(id) => {
              const z = plan.planned.find((p) => p.record === id)?.ends.find((e) => e !== null);
              if (z) setZone(z);
            }}
            flow={flow}
            most={most}
            zoneWords={(z) => words(value(z))}
            zoneFill={(z) => (value(z) === value(z) ? `color-mix(in srgb, ${rampColour((value(z) - low) / (high - low))} 40%, transparent)` : null)}
            label="Flows over the plan"
          />
          <Text position="absolute" left="3" bottom="1" fontSize="11.5px" color="ink2" data-testid="air-hour">
            mean of the hour to {hourWords(year, now)}
            {current ? "" : ", before the last edit"} · widest arrow {units.words(most, "kg/s", 2)}; clay to outdoors or onward, blue inward
          </Text>
        </Box>
        <Box flex="1" minW="0" position="relative">
          <Building project={project} storey={storey} compact driven arrows={arrows} />
        </Box>
      </Flex>
      {values && (
        <Box mt="1.5">
          <HourMap
            values={values}
            span={[low, high]}
            height={84}
            title={
              <Flex gap="2" align="center">
                <SelectInput
                  label="Zone of the map"
                  align="left"
                  width="170px"
                  value={zone}
                  options={plan.zones.map((z) => ({ value: z, label: project.zones[z]?.name ?? z }))}
                  onChange={setZone}
                />
                {quantities[quantity]}, every hour of the year
              </Flex>
            }
            label={`${quantities[quantity]} of ${project.zones[zone]?.name ?? zone}, every hour of the year`}
            scale={`${units.text(low, unit, 0)} to ${units.text(high, unit, 0)} ${units.unit(unit)}`}
            words={(h) => `${hourWords(year, h)}: ${words(values[h])}`}
            onPick={setHour}
          />
        </Box>
      )}
    </>
  );
}
const NONE: ReadonlySet<string> = new Set();

/** Largest flow of any path that is not rare: the 99th percentile of its hours. */
function largest(year: YearSeries, plan: AirPlan): number {
  let most = 0.05;
  for (const p of plan.planned)
    for (const name of ["airForward", "airBackward"]) {
      const row = p.record === null ? undefined : (year.series[name] as YearSeries["series"][string] | undefined)?.[p.record];
      if (!row) continue;
      const sorted = Float32Array.from(row).sort();
      most = Math.max(most, sorted[Math.floor(0.99 * (sorted.length - 1))]);
    }
  return most;
}

type AirflowSummary = NonNullable<Summary["airflow"]>;

function Zones({ project, summary, airflow }: { project: Project; summary: Summary; airflow: AirflowSummary }) {
  const tall = tallZones(project);
  const units = useUnits();
  return (
    <Box overflowY="auto">
      <Grid
        label="Air of the zones"
        head={[
          { text: "Zone", left: true },
          { text: "Outdoor air, mean", unit: "1/h" },
          { text: "Carbon dioxide, mean", unit: "ppm" },
          { text: "largest", unit: "ppm" },
          { text: "above 1000 ppm", unit: "h with people" },
          { text: "Age of air, mean", unit: "h" },
          { text: "Above 26 °C", unit: "h with people" },
          { text: "Night cooling", unit: "h" },
          { text: "heat taken out", unit: units.unit("kWh") },
        ]}
        rows={airflow.zones.map((z) => ({
          key: z.id,
          cells: [
            `${z.name}${tall.has(z.id) ? " *" : ""}`,
            figure(z.airChanges, 2),
            figure(z.carbonDioxide.mean, 0),
            figure(z.carbonDioxide.max, 0),
            figure(z.carbonDioxide.hours, 0),
            figure(z.age, 1),
            figure(summary.zones.find((x) => x.id === z.id)?.warmHours ?? NaN, 0),
            figure(z.nightHours, 0),
            units.text(z.nightCooling, "kWh", 0),
          ],
        }))}
      />
      {airflow.zones.some((z) => tall.has(z.id)) && <TallNote />}
      <Text color="ink2" fontSize="12px" mt="1">
        Every balance of air closes to {airflow.closure.toExponential(0)} of what flows;{" "}
        {airflow.failures === 0 ? "every step settled" : `${airflow.failures} steps did not settle`}.
      </Text>
    </Box>
  );
}

function Paths({ plan, airflow }: { plan: AirPlan; airflow: AirflowSummary }) {
  const project = useStore((s) => s.project) as Project;
  const units = useUnits();
  const zone = (z: string | null): string => (z === null ? "outdoors" : (project.zones[z]?.name ?? z));
  const ends = new Map(plan.planned.map((p) => [p.record, p.ends]));
  return (
    <Box overflowY="auto">
      <Grid
        label="What each opening did"
        head={[
          { text: "Path", left: true },
          { text: "From", left: true },
          { text: "To", left: true },
          { text: "Open", unit: "h" },
          { text: "On, while open", unit: units.unit("kg/s") },
          { text: "Back, while open", unit: units.unit("kg/s") },
        ]}
        rows={airflow.links.map((l) => {
          const [a, b] = ends.get(l.id) ?? [null, null];
          return { key: l.id, cells: [l.name, zone(a), zone(b), figure(l.hours, 0), units.text(l.forward, "kg/s", 3), units.text(l.backward, "kg/s", 3)] };
        })}
      />
    </Box>
  );
}

/** Base and options, with the network and with the simple model. */
function Strategies() {
  const document = useStore((s) => s.document) as Project;
  const rows = useMemo(
    () =>
      variantsOf(document).flatMap((v) => {
        const { airNetwork } = v.project;
        if (!airNetwork) return [{ ...v, label: v.name }];
        const other: Project = { ...v.project, airNetwork: { ...airNetwork, use: !airNetwork.use } };
        const blocked = checkProject(other).problems.find((p) => p.severity === "error")?.message ?? null;
        const names = airNetwork.use ? ["network", "simple model"] : ["simple model", "network"];
        return [
          { ...v, label: `${v.name}, ${names[0]}` },
          ...(v.id === null ? [{ ...v, project: other, key: physicsHash(other), blocked, label: `${v.name}, ${names[1]}` }] : []),
        ];
      }),
    [document],
  );
  const { summaryOf, busy } = useYears(rows);
  const units = useUnits();
  const zones = Object.keys(document.zones).filter((z) => Object.values(document.spaces).some((s) => s.zone === z));
  return (
    <Box overflowY="auto">
      <Text color="ink2" fontSize="12px" mb="1" maxW="640px">
        The base with the network and with the simple model, and each option. Make a strategy an option: give the windows another opening type there.{" "}
        {busy > 0 ? `${busy} ${busy === 1 ? "year is" : "years are"} being computed …` : ""}
      </Text>
      <Grid
        label="Strategies compared"
        head={[{ text: "", left: true }, ...rows.map((r) => ({ text: r.label }))]}
        rows={[
          ...zones.map((z) => ({
            key: z,
            cells: [
              `${document.zones[z].name}: hours above 26 °C`,
              ...rows.map((r) => figureOf(summaryOf(r.key)?.zones.find((x) => x.id === z)?.warmHours, 0)),
            ],
          })),
          { key: "heating", cells: [`Heating, ${units.unit("kWh")}`, ...rows.map((r) => units.text(summaryOf(r.key)?.loads.heating.total ?? NaN, "kWh", 0))] },
          { key: "cooling", cells: [`Cooling, ${units.unit("kWh")}`, ...rows.map((r) => units.text(summaryOf(r.key)?.loads.cooling.total ?? NaN, "kWh", 0))] },
          ...zones.map((z) => ({
            key: `n ${z}`,
            cells: [
              `${document.zones[z].name}: night cooling, h`,
              ...rows.map((r) => figureOf(summaryOf(r.key)?.airflow?.zones.find((x) => x.id === z)?.nightHours, 0)),
            ],
          })),
          ...zones.map((z) => ({
            key: `c ${z}`,
            cells: [
              `${document.zones[z].name}: above 1000 ppm, h`,
              ...rows.map((r) => figureOf(summaryOf(r.key)?.airflow?.zones.find((x) => x.id === z)?.carbonDioxide.hours, 0)),
            ],
          })),
        ]}
      />
    </Box>
  );
}
const figureOf = (v: number | null | undefined, digits: number): string => (typeof v === "number" ? figure(v, digits) : "—");
