"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState, type ReactNode } from "react";
import { canonicalJson, hashText, HourExplainer, physicsOf, withNumbers, type Explained, type HourRecord, type Project, type Summary } from "@arroyo/core";
import type { ToHourRecord } from "../../live/hourRecord.ts";
import { useFound } from "../../live/useFound.ts";
import { flowColour, flowLabel } from "../../ui/colours.ts";
import { Act, OriginMark, originText, SelectInput } from "../../ui/fields.tsx";
import { figure, stampText, sum } from "../../ui/format.ts";
import { Grid, Inspector, Middle } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { HourChoice } from "../HourChoice.tsx";
import { useShowThing } from "../showThing.ts";
import { useStore } from "../store.ts";
import { useQuery } from "../useQuery.ts";
import { currentSizes, hourOfStamp, hourWords, type RunDays } from "../yearSeries.ts";
import { faceName } from "./faceName.ts";

type Load = "cooling" | "heating";
/** Longest bar, px. */
const BAR = 110;
const LOADS: readonly Load[] = ["cooling", "heating"];

/** One hour of the run again as it was computed: flows of a zone, their faces, the inputs and formulas behind each. */
export function HourWhy({ summary }: { summary: Summary }) {
  const project = useStore((s) => s.project) as Project;
  const exact = useStore((s) => s.live.exact);
  const [query, go] = useQuery();
  const zone = summary.zones.find((z) => z.id === query.get("zone")) ?? null;
  const load: Load = query.get("load") === "heating" ? "heating" : "cooling";
  const hours = Math.round(24 * summary.period.days);
  const days = { firstDay: summary.period.firstDay, leapDays: summary.period.leapDays ?? [], hours };
  const peak = peakHour(summary, zone?.id ?? null, load);
  const typed = query.get("hour");
  const hour = typed !== null && /^\d+$/.test(typed) ? Math.min(Number(typed), hours - 1) : hourOfStamp(days, peak);
  const shares = useMemo(
    () =>
      hour === null || !exact
        ? []
        : summary.zones.map((z) => ({
            zone: z,
            watts: exact.series.find((s) => s.scope === z.id && s.quantity === load)?.values[hour] ?? 0,
          })),
    [exact, hour, load, summary],
  );
  const head = (
    <>
      <Flex align="center" gap="3" mb="1">
        <Text as="h2" textStyle="title" whiteSpace="nowrap">
          An hour explained
        </Text>
        <SelectInput
          label="Load"
          align="left"
          width="120px"
          value={load}
          options={LOADS.map((l) => ({ value: l, label: `largest ${l}` }))}
          onChange={(v) => go({ load: v, hour: null })}
        />
        <SelectInput
          label="Of"
          align="left"
          width="180px"
          value={zone?.id ?? ""}
          options={[{ value: "", label: "Whole building" }, ...summary.zones.map((z) => ({ value: z.id, label: z.name }))]}
          onChange={(v) => go({ zone: v === "" ? null : v, hour: null })}
        />
        {hour !== null && <HourChoice year={days} hour={hour} onChange={(h) => go({ hour: String(h) })} />}
        {typed !== null && <Act onClick={() => go({ hour: null })}>its largest hour</Act>}
      </Flex>
    </>
  );
  if (hour === null || zone === null)
    return (
      <>
        <Middle label="An hour explained">
          {head}
          {hour === null ? (
            <Text color="ink2">There is no {load} in this run, so there is no largest hour of it. Choose another load.</Text>
          ) : (
            <Shares shares={shares} load={load} hour={hour} days={days} onZone={(id) => go({ zone: id, hour: String(hour) })} />
          )}
        </Middle>
        <Inspector title={hour === null ? "No load" : `Largest ${load}`}>
          <Text color="ink2">
            A zone opens into its heat flows in this hour, a flow into its faces, windows or rooms, and each of these into its formula with numbers, the inputs
            behind it and where they come from. The run goes to the hour again for it, so every figure is the year’s own.
          </Text>
        </Inspector>
      </>
    );
  return <ZoneHour key={`${zone.id} ${hour}`} head={head} project={project} zone={zone.id} hour={hour} load={load} days={days} />;
}

/** End of the hour of the largest load, as the summary tells it. */
function peakHour(s: Summary, zone: string | null, load: Load): string | null {
  if (zone === null) return s.peaks[load].at;
  const z = s.zones.find((x) => x.id === zone);
  return (load === "cooling" ? z?.peakCoolingAt : z?.peakHeatingAt) ?? null;
}

function Shares({
  shares,
  load,
  hour,
  days,
  onZone,
}: {
  shares: readonly { readonly zone: Summary["zones"][number]; readonly watts: number }[];
  load: Load;
  hour: number;
  days: RunDays;
  onZone: (id: string) => void;
}) {
  const units = useUnits();
  const sorted = [...shares].sort((a, b) => b.watts - a.watts);
  const most = Math.max(1, ...shares.map((s) => s.watts));
  return (
    <>
      <Text color="ink2" mb="2">
        {load[0].toUpperCase() + load.slice(1)} of each zone in the hour to {hourWords(days, hour)}, sensible, one copy of its storey; open one to see what made
        it.
      </Text>
      <Grid
        label="Zones in the hour"
        head={[
          { text: "Zone", left: true },
          { text: "In this hour", unit: units.unit("kW") },
          { text: "", left: true },
          { text: "Its own largest", unit: units.unit("kW") },
          { text: "at", left: true },
        ]}
        rows={sorted.map(({ zone: z, watts }) => ({
          key: z.id,
          onClick: () => onZone(z.id),
          cells: [
            z.name,
            units.text(watts / 1000, "kW", 2),
            <Box key="b" h="9px" w={`${(150 * watts) / most}px`} background="water" />,
            units.text((load === "cooling" ? z.peakCooling : z.peakHeating) / 1000, "kW", 2),
            stampText(load === "cooling" ? z.peakCoolingAt : z.peakHeatingAt),
          ],
        }))}
      />
    </>
  );
}

/** A zone in an hour that is run again for it. */
function ZoneHour({ head, project, zone, hour, load, days }: { head: ReactNode; project: Project; zone: string; hour: number; load: Load; days: RunDays }) {
  const units = useUnits();
  const key = useMemo(() => `${hashText(canonicalJson(physicsOf(project)))} ${hour}`, [project, hour]);
  const found = useFound<HourRecord>(
    key,
    project,
    () => new Worker(new URL("../../live/hourRecord.ts", import.meta.url), { type: "module" }),
    (stored): ToHourRecord => ({ project, stored, hour, sizes: currentSizes() }),
  );
  const record = found.result;
  const [step, setStep] = useState<number | null>(null);
  const [open, setOpen] = useState<string | null>(null);
  const [at, setAt] = useState<{ readonly flow: string; readonly part: string | null } | null>(null);
  const steps = record?.zones.find((z) => z.id === zone)?.steps ?? [];
  const shown = Math.min(step ?? largest(steps, load), Math.max(0, steps.length - 1));
  const flows = useMemo(
    () => (record && steps.length > 0 ? new HourExplainer(project, record).flows(zone, shown) : []),
    [project, record, zone, shown, steps.length],
  );
  if (!record)
    return (
      <Middle label="An hour explained">
        {head}
        <Text color={found.message ? "clay" : "ink2"} aria-live="polite">
          {found.message ?? "The run goes to this hour again and writes it down …"}
        </Text>
      </Middle>
    );
  const chosenFlow = flows.find((f) => f.key === (at?.flow ?? load)) ?? flows[0];
  // the one part of a flow is what there is to say of it
  const chosen = chosenFlow?.parts.find((p, _, all) => p.key === at?.part || all.length === 1) ?? chosenFlow;
  const mean = (f: string): number => sum(steps.map((s) => s.flows[f as keyof typeof s.flows])) / steps.length;
  const most = Math.max(1, ...flows.map((f) => Math.abs(f.value)));
  const words = (e: Explained): string =>
    e.kind === "flow" ? (flowLabel[e.key as keyof typeof flowLabel] ?? e.words) : e.kind === "face" ? faceName(project, e.key) : e.words;
  const bar = (v: number): string => `${(BAR * Math.min(1, Math.abs(v) / most)).toFixed(1)}px`;
  const watts = (v: number): string => units.text(v, "W", 0);
  const row = (flow: Explained, e: Explained, indent: boolean) => ({
    key: `${flow.key} ${indent ? e.key : ""}`,
    active: chosen === e || (chosenFlow === e && e.parts.length === 1),
    onClick: () => {
      setAt({ flow: flow.key, part: indent ? e.key : null });
      if (!indent && e.parts.length > 0) setOpen(open === e.key ? null : e.key);
    },
    cells: [
      <Flex key="n" align="center" gap="2" pl={indent ? "5" : "0"}>
        {!indent && <Box w="8px" h="8px" flexShrink={0} background={flowColour[e.key as keyof typeof flowColour] ?? "ink2"} />}
        <Text as="span">{words(e)}</Text>
        {!indent && e.parts.length > 0 && (
          <Text as="span" color="ink2">
            {open === e.key ? "▾" : `› ${e.parts.length}`}
          </Text>
        )}
      </Flex>,
      indent ? "" : watts(mean(e.key)),
      watts(e.value),
      <Flex key="b" w={`${2 * BAR}px`}>
        <Flex w={`${BAR}px`} justify="flex-end">
          {e.value < 0 && <Box h="8px" w={bar(e.value)} background="water" opacity={indent ? 0.5 : 1} />}
        </Flex>
        {e.value > 0 && <Box h="8px" w={bar(e.value)} background="clay" opacity={indent ? 0.5 : 1} />}
      </Flex>,
    ],
  });
  return (
    <>
      <Middle label="An hour explained">
        {head}
        <Text color="ink2" mb="1" data-testid="hour-title">
          {project.zones[zone].name}, hour to {hourWords(days, hour)}: {load} {units.words(Math.abs(mean(load)) / 1000, "kW", 2)}
          {found.current ? "" : " (of the model before the last edit)"}. Heat into the zone is positive; all of it adds up to nothing.
        </Text>
        <Flex gap="1" mb="2" align="center" role="tablist" aria-label="Step of the hour">
          <Text color="ink2" mr="1">
            step
          </Text>
          {steps.map((_, k) => (
            <Box
              as="button"
              key={k}
              role="tab"
              aria-selected={k === shown}
              px="2"
              borderBottom="2px solid"
              borderColor={k === shown ? "water" : "transparent"}
              cursor="pointer"
              fontSize="12px"
              {...{ type: "button", onClick: () => setStep(k) }}
            >
              {stepWords(hour, k, steps.length)}
            </Box>
          ))}
        </Flex>
        <Grid
          label="Heat flows of the hour"
          head={[{ text: "Heat flow", left: true }, { text: "Hour", unit: units.unit("W") }, { text: "Step", unit: units.unit("W") }, { text: "" }]}
          rows={flows.flatMap((f) => [row(f, f, false), ...(open === f.key ? f.parts.map((p) => row(f, p, true)) : [])])}
        />
      </Middle>
      <Inspector title={chosen ? `${cap(words(chosen))}: ${units.words(chosen.value, "W", 0)}` : "Nothing flows"}>
        <Box data-testid="explained">{chosen && <Why e={chosen} project={project} />}</Box>
      </Inspector>
    </>
  );
}
const cap = (t: string): string => t[0].toUpperCase() + t.slice(1);

/** The step of the hour with the largest load. */
function largest(steps: readonly { readonly flows: Readonly<Record<Load, number>> }[], load: Load): number {
  let best = 0;
  steps.forEach((s, k) => {
    if (Math.abs(s.flows[load]) > Math.abs(steps[best].flows[load])) best = k;
  });
  return best;
}
const stepWords = (hour: number, k: number, n: number): string => {
  const minutes = (hour % 24) * 60 + Math.round(((k + 1) * 60) / n);
  return `to ${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
};

/** The formula of a flow with its numbers, and the figures behind it down to the inputs. */
function Why({ e, project }: { e: Explained; project: Project }) {
  const units = useUnits();
  const show = useShowThing();
  const symbols = e.figures.filter((f) => f.name !== "");
  const behind = e.figures.filter((f) => f.name === "");
  const number = (v: number): string => figure(v, Math.abs(v) >= 100 ? 0 : Math.abs(v) >= 10 ? 1 : Math.abs(v) >= 1 ? 2 : 4);
  // formulas are over the figures of the model, in its units
  const numbers = new Map(symbols.map((f): [string, number] => [f.name, f.value ?? NaN]));
  const sums = e.key === "cooling" || e.key === "heating";
  const named = (f: string): string => (sums ? (flowLabel[f as keyof typeof flowLabel] ?? f) : f);
  const formula = (text: string): string => text.replace(/ \* /g, " · ").replace(/^0 - /, "−").replace(/ - /g, " − ");
  const line = (f: Explained["figures"][number], symbol: string) => (
    <Flex key={`${symbol} ${f.words}`} gap="2" align="baseline" py="0.5" borderBottom="1px solid" borderColor="line">
      {symbol !== "" && (
        <Text fontFamily="mono" fontSize="11.5px" minW="30px">
          {symbol}
        </Text>
      )}
      <Text flex="1" minW="0">
        {f.origin && <OriginMark origin={f.origin} />} {sums && f.name !== "" ? named(f.name) : f.words}
        {f.origin && (
          <Text as="span" color="ink2" fontSize="11.5px">
            {" "}
            {originText(f.origin).words}
          </Text>
        )}
      </Text>
      <Text fontWeight="600" whiteSpace="nowrap">
        {f.value === null ? "" : f.unit === "1" || f.unit === "" ? number(f.value) : units.words(f.value, f.unit)}
      </Text>
      {f.address !== null && <Act onClick={() => show(f.address as string)}>Show</Act>}
    </Flex>
  );
  return (
    <>
      {e.formula !== null && (
        <Box fontFamily="mono" fontSize="11.5px" my="1.5" overflowWrap="anywhere" data-testid="formula">
          <Text>Q = {sums ? "−(sum of all other flows)" : formula(e.formula)}</Text>
          <Text color="ink2">= {sums ? `−(${symbols.map((f) => number(f.value ?? NaN)).join(" + ")})` : formula(withNumbers(e.formula, numbers, number))}</Text>
          <Text color="ink2">= {number(e.value)} W</Text>
        </Box>
      )}
      {e.formula === null && e.parts.length > 0 && <Text color="ink2">The sum of its {e.parts.length} parts, listed under it.</Text>}
      <Text color="ink2" fontSize="11.5px" mb="1.5">
        {e.source}
      </Text>
      {symbols.map((f) => line(f, sums ? "" : f.name))}
      {behind.length > 0 && (
        <Text textStyle="head" color="ink2" mt="2.5" mb="0.5">
          Behind it
        </Text>
      )}
      {behind.map((f) => line(f, ""))}
      {behind.some((f) => f.origin?.kind === "default") && (
        <Text color="ink2" fontSize="11.5px" mt="1">
          ○ is a default of {project.name}: nobody has typed it yet.
        </Text>
      )}
    </>
  );
}
