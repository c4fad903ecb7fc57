"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useState } from "react";
import { neededFor, quantityOf, readSeries, statistics, type Project, type SeriesRef, type Summary } from "@arroyo/core";
import { NO_CLASSES, seriesClass, type SeriesClass } from "../../live/seriesClasses.ts";
import type { YearSeries } from "../../live/yearSeries.ts";
import { Act, NumberInput, SelectInput } from "../../ui/fields.tsx";
import { HourMap } from "../../ui/HourMap.tsx";
import { Grid, Middle } from "../../ui/Panes.tsx";
import { useUnits, type Units } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { hourWords, stampOf, useYearSeries, type RunDays } from "../yearSeries.ts";
import { DerivedForm } from "./DerivedForm.tsx";
import { digitsOf, PlotBox, spanOf } from "./PlotBox.tsx";
import { lineColour, type DrawnLine } from "./SeriesPlot.tsx";
import { SeriesPicker } from "./SeriesPicker.tsx";
import { firstView, MOST_PLOTS, useSeriesViews, withLine, type Plot, type PlotLine, type SeriesView } from "./seriesState.ts";
import { seriesName } from "./seriesThings.ts";
import { useStoredSeries, type Run } from "./useRuns.ts";

/** Any series of the run: plots one over the other with one cursor, over a week, a month or the year. */
export function SeriesDesk({
  zones,
  period,
  weather,
  run = null,
  source,
}: {
  /** Zones with their floor areas, m². */
  zones: readonly { readonly id: string; readonly floorArea: number }[];
  period: Summary["period"];
  /** Name of the weather year by its content; null: that of the model as it is now. */
  weather: string | null;
  /** A stored run or one under way; null: the year as it is now. */
  run?: Run | null;
  source: string;
}) {
  const project = useStore((s) => s.project) as Project;
  const units = useUnits();
  const kept = useSeriesViews((s) => s.views);
  const keep = useSeriesViews((s) => s.set);
  const largest = [...zones].sort((a, b) => b.floorArea - a.floorArea)[0]?.id ?? Object.keys(project.zones)[0] ?? "";
  const view = kept[project.id] ?? firstView(largest);
  const [picking, setPicking] = useState<{ readonly plot: number; readonly wanted: readonly SeriesClass[] } | null>(null);
  const [deriving, setDeriving] = useState<number | null>(null);
  const [hour, setHour] = useState<number | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const wanted = new Set<SeriesClass>(picking?.wanted);
  const refs = view.plots.flatMap((p) => p.lines.flatMap((l) => neededFor(project, l.ref)));
  for (const r of refs) wanted.add(seriesClass(r) ?? "zones");
  wanted.add("zones");
  const classes = useSame([...wanted].sort());
  const live = useYearSeries(project, run === null ? classes : NO_CLASSES);
  const stored = useStoredSeries(run?.hash ?? null, run?.progress ?? 0, period, weather, refs, project);
  const found = run === null ? live : { ...stored, current: true, share: null };
  const { year } = found;
  useFollow(run, year, view, (change) => keep(project.id, { ...view, ...change }));
  const set = (change: Partial<SeriesView>): void => keep(project.id, { ...view, ...change });
  const setPlot = (id: number, change: (p: Plot) => Plot): void => set({ plots: view.plots.map((p) => (p.id === id ? change(p) : p)) });
  const unitOf = (ref: SeriesRef): string => quantityOf(project, ref)?.unit ?? "1";
  const add = (plot: number, ref: SeriesRef): void => {
    setRefusal(null);
    const into = view.plots.find((p) => p.id === plot);
    const more = into && withLine(into, ref, unitOf);
    if (more) return setPlot(plot, () => more);
    if (view.plots.length >= MOST_PLOTS)
      return setRefusal(`There are ${MOST_PLOTS} plots already, and this one has two units or twelve lines. Take a line or a plot away first.`);
    const fresh = withLine(emptyPlot(view), ref, unitOf);
    if (fresh) set({ plots: [...view.plots, fresh] });
  };
  const hours = year?.hours ?? Math.round(24 * period.days);
  const days: RunDays = year ?? { firstDay: period.firstDay, leapDays: period.leapDays ?? [] };
  const to = Math.min(view.to, hours);
  const from = Math.max(0, Math.min(view.from, to - 1));
  const move = useMove(view, set, hours, days, from, to);
  const plots = useMemo(
    () => view.plots.map((p) => ({ plot: p, lines: p.lines.map((l) => drawn(project, year, l, units)) })),
    [view.plots, year, project, units],
  );
  const height = view.plots.length <= 1 ? 300 : view.plots.length === 2 ? 150 : 116;
  const visible = plots.flatMap((p) => p.lines).filter((l) => !l.hidden && l.values.length > 0);
  return (
    <Middle label="Series">
      <Flex align="center" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          Series
        </Text>
        <Act onClick={() => set({ plots: [...view.plots, emptyPlot(view)] })} disabled={view.plots.length >= MOST_PLOTS}>
          + plot
        </Act>
        <Text color="ink2" fontSize="12px" flex="1" aria-live="polite" lineClamp={1}>
          {found.message ??
            (found.share !== null
              ? `the year is run for these series, ${Math.round(100 * found.share)} %`
              : found.current || !year
                ? source
                : "of the model before the last edit")}
        </Text>
        <Act title="The stretch before" onClick={() => move.by(-1)}>
          ◂
        </Act>
        <Text fontWeight="600" whiteSpace="nowrap" data-testid="stretch">
          {rangeWords(days, from, to)}
        </Text>
        <Act title="The stretch after" onClick={() => move.by(1)}>
          ▸
        </Act>
        {(["day", "week", "month", "year"] as const).map((s) => (
          <chakra.button
            key={s}
            type="button"
            aria-pressed={view.stretch === s}
            px="2"
            borderRadius="pill"
            border="1px solid"
            borderColor={view.stretch === s ? "water" : "line"}
            background={view.stretch === s ? "wash" : "transparent"}
            fontSize="12px"
            cursor="pointer"
            onClick={() => move.to(s)}
          >
            {s}
          </chakra.button>
        ))}
      </Flex>
      {refusal && (
        <Text role="alert" color="clay">
          {refusal}
        </Text>
      )}
      {plots.map(({ plot, lines }) => (
        <PlotBox
          key={plot.id}
          plot={plot}
          lines={lines}
          from={from}
          to={to}
          days={days}
          hour={hour}
          height={height}
          onHour={setHour}
          onZoom={(a, b) => set({ from: a, to: Math.min(b, hours), stretch: null })}
          change={(f) => setPlot(plot.id, f)}
          remove={() => set({ plots: view.plots.filter((p) => p.id !== plot.id) })}
          pick={() => setPicking(picking?.plot === plot.id ? null : { plot: plot.id, wanted: [] })}
          derive={() => setDeriving(deriving === plot.id ? null : plot.id)}
        >
          {picking?.plot === plot.id && (
            <SeriesPicker
              year={year}
              needs={(c) => setPicking({ plot: plot.id, wanted: [...new Set([...picking.wanted, c])] })}
              pick={(ref) => add(plot.id, ref)}
              close={() => setPicking(null)}
            />
          )}
          {deriving === plot.id && <DerivedForm refs={plot.lines.map((l) => l.ref)} made={(ref) => add(plot.id, ref)} close={() => setDeriving(null)} />}
        </PlotBox>
      ))}
      {year && hours >= 24 * 60 && <MapOf key={project.id} lines={visible} from={from} to={to} hours={hours} about={move.about} />}
      {year && <InView plots={plots} from={from} to={to} days={days} project={project} />}
    </Middle>
  );
}

/** One of the lines as a map of the year, day by hour, with the stretch in view framed. */
function MapOf({ lines, from, to, hours, about }: { lines: readonly DrawnLine[]; from: number; to: number; hours: number; about: (hour: number) => void }) {
  const units = useUnits();
  const [name, setName] = useState<string | null>(null);
  const [fixed, setFixed] = useState<readonly [number, number] | null>(null);
  const line = lines.find((l) => l.label === name) ?? lines[0];
  if (!line) return null;
  const span = fixed ?? spanOf(line.values);
  const commit = (next: readonly [number, number]): string | null => {
    if (!(next[0] < next[1])) return "The upper end of the scale must be above the lower one.";
    setFixed(next);
    return null;
  };
  return (
    <Box mt="2">
      <HourMap
        values={line.values as Float64Array}
        span={[span[0], span[1]]}
        title={
          <SelectInput
            label="Map of"
            align="left"
            width="300px"
            value={line.label}
            options={[...new Set(lines.map((l) => l.label))].map((l) => ({ value: l, label: l }))}
            onChange={(v) => {
              setName(v);
              setFixed(null);
            }}
          />
        }
        label={`${line.label}, day by hour`}
        scale={
          <Flex as="span" display="inline-flex" align="baseline" gap="0.5">
            {line.unit}
            <NumberInput label="Lower end of the map’s scale" width="54px" value={span[0]} digits={1} onCommit={(v) => commit([v, span[1]])} />
            to
            <NumberInput label="Upper end of the map’s scale" width="54px" value={span[1]} digits={1} onCommit={(v) => commit([span[0], v])} />
            {fixed && <Act onClick={() => setFixed(null)}>fit</Act>}
            <span>· click to move the frame</span>
          </Flex>
        }
        words={(h) => `${units.text(line.values[h], "1", 1)} ${line.unit}`}
        height={72}
        frame={[from / hours, to / hours]}
        onPick={about}
      />
    </Box>
  );
}

/** While a run goes on, the stretch in view moves with its last hours; not while it waits, so that one can look back. */
function useFollow(run: Run | null, year: YearSeries | null, view: SeriesView, set: (change: Partial<SeriesView>) => void): void {
  const reached = Math.max(0, ...Object.values(year?.series.airTemperature ?? {}).map((v) => v.length));
  const follow = run?.status === "running" && reached > 0;
  useEffect(() => {
    if (!follow) return;
    const length = Math.min(view.to - view.from, 8760);
    const to = Math.max(length, reached);
    if (to !== view.to) set({ from: to - length, to });
    // moves when the run has got further, not when somebody looks elsewhere
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [follow, reached]);
}

/** The same list while what is in it is the same, so that nothing is found anew. */
function useSame(list: readonly SeriesClass[]): readonly SeriesClass[] {
  const text = list.join(" ");
  return useMemo(() => text.split(" ") as SeriesClass[], [text]);
}
const emptyPlot = (view: SeriesView): Plot => ({ id: 1 + Math.max(0, ...view.plots.map((p) => p.id)), form: "over time", lines: [], limits: [null, null] });

/** A line's values in the unit shown; none where it cannot be read. */
function drawn(project: Project, year: YearSeries | null, line: PlotLine, units: Units): DrawnLine {
  const read = year ? readSeries(project, year, line.ref) : null;
  const unit = quantityOf(project, line.ref)?.unit ?? "1";
  return {
    label: seriesName(project, line.ref),
    unit: unit === "1" || unit === "" ? "" : units.unit(unit),
    axis: line.axis,
    colour: lineColour(line.colour),
    dashed: line.ref.of === "outdoors",
    hidden: line.hidden,
    values: read?.ok
      ? units.system === "SI"
        ? Float64Array.from(read.values)
        : Float64Array.from(read.values, (v) => units.value(v, unit === "" ? "1" : unit))
      : new Float64Array(0),
  };
}

const dayWords = (days: RunDays, hour: number): string => hourWords(days, hour).replace(/ \d\d:00$/, "");
const rangeWords = (days: RunDays, from: number, to: number): string => {
  const [a, b] = [dayWords(days, from), dayWords(days, to - 1)];
  return a === b ? a : `${a} to ${b}`;
};

/** Steps and jumps of the stretch in view. */
function useMove(view: SeriesView, set: (change: Partial<SeriesView>) => void, hours: number, days: RunDays, from: number, to: number) {
  const month = (hour: number): string => stampOf(days, Math.max(0, Math.min(hours - 1, hour))).slice(0, 2);
  const monthOf = (hour: number): { from: number; to: number } => {
    const at = Math.max(0, Math.min(hours - 1, hour));
    let [a, b] = [24 * Math.floor(at / 24), 24 * Math.floor(at / 24) + 24];
    while (a > 0 && month(a - 24) === month(at)) a -= 24;
    while (b < hours && month(b) === month(at)) b += 24;
    return { from: a, to: Math.min(b, hours) };
  };
  const place = (a: number, length: number): { from: number; to: number } => {
    const start = Math.max(0, Math.min(a, hours - length));
    return { from: start, to: Math.min(hours, start + length) };
  };
  return {
    by(steps: 1 | -1): void {
      if (view.stretch === "month") return set(monthOf(steps > 0 ? to : from - 1));
      set(place(from + steps * (to - from), to - from));
    },
    to(stretch: "day" | "week" | "month" | "year"): void {
      const day = 24 * Math.floor(from / 24);
      set({ stretch, ...(stretch === "year" ? { from: 0, to: hours } : stretch === "month" ? monthOf(from) : place(day, stretch === "day" ? 24 : 168)) });
    },
    about(hour: number): void {
      if (view.stretch === "month") return set(monthOf(hour));
      set(place(24 * Math.floor((hour - (to - from) / 2) / 24), to - from));
    },
  };
}

/** Statistics of every line over the stretch in view. */
function InView({
  plots,
  from,
  to,
  days,
  project,
}: {
  plots: readonly { readonly plot: Plot; readonly lines: readonly DrawnLine[] }[];
  from: number;
  to: number;
  days: RunDays;
  project: Project;
}) {
  const units = useUnits();
  const rows = plots.flatMap(({ plot, lines }) =>
    lines.flatMap((l, i) => {
      if (l.hidden || l.values.length === 0) return [];
      const s = statistics(l.values, from, to);
      const unit = quantityOf(project, plot.lines[i].ref)?.unit ?? "1";
      const text = (v: number): string => (v === v ? units.text(v, "1", digitsOf(unit)) : "—");
      const si = quantityOf(project, plot.lines[i].ref)?.unit === "W";
      return {
        key: `${plot.id} ${l.label}`,
        cells: [
          `${l.label}${l.unit ? `, ${l.unit}` : ""}`,
          text(s.mean),
          text(s.deviation),
          text(s.least),
          s.leastAt < 0 ? "—" : hourWords(days, s.leastAt),
          text(s.most),
          s.mostAt < 0 ? "—" : hourWords(days, s.mostAt),
          si ? units.text(s.sum / 1000, "1", 0) : "",
        ],
      };
    }),
  );
  const energy = units.system === "SI" ? "kWh" : "kBtu";
  return (
    <Box mt="2">
      <Grid
        label="In view"
        head={[
          { text: "In view", left: true },
          { text: "Mean" },
          { text: "Deviation" },
          { text: "Smallest" },
          { text: "at", left: true },
          { text: "Largest" },
          { text: "at", left: true },
          { text: `Sum, ${energy}` },
        ]}
        rows={rows}
      />
    </Box>
  );
}
