"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useRef, useState } from "react";
import { isTemperature, neededFor, quantityOf, readSeries, statistics, type Project, type SeriesRef, type Summary } from "@arroyo/core";
import { NO_CLASSES, seriesClass, type SeriesClass } from "../../live/seriesClasses.ts";
import type { YearSeries } from "../../live/yearSeries.ts";
import { Act, NumberInput, SelectInput } from "../../ui/fields.tsx";
import { HourMap } from "../../ui/HourMap.tsx";
import { Grid, Middle } from "../../ui/Panes.tsx";
import { saveBlob, saveCsv } from "../../ui/saveCsv.ts";
import { roundTicks } from "../../ui/format.ts";
import { useUnits, type Units } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { hourWords, stampOf, useYearSeries, type RunDays } from "../yearSeries.ts";
import { DerivedForm } from "./DerivedForm.tsx";
import { lineColour, SeriesPlot, type DrawnLine } from "./SeriesPlot.tsx";
import { SeriesPicker } from "./SeriesPicker.tsx";
import { firstView, MOST_PLOTS, plotForms, useSeriesViews, withLine, type Limits, type Plot, type PlotLine, type SeriesView } from "./seriesState.ts";
import { seriesName } from "./seriesThings.ts";
import { useStoredSeries, type Run } from "./useRuns.ts";

/** Digits a value of a unit is read with. */
const digitsOf = (unit: string): number =>
  unit === "W" || unit === "%" || unit === "W/m²" || unit === "lx" ? 0 : unit === "1" || unit === "kg/s" ? 3 : unit === "kg/kg" ? 5 : 1;

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
  const view = kept[project.id] ?? firstView(project, largest);
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

function spanOf(values: ArrayLike<number>, from = 0, to = values.length): [number, number] {
  let [least, most] = [Infinity, -Infinity];
  for (let h = from; h < Math.min(to, values.length); h++) {
    if (values[h] < least) least = values[h];
    if (values[h] > most) most = values[h];
  }
  return least < most ? [least, most] : [least - 1, least + 1];
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

interface PlotBoxProps {
  readonly plot: Plot;
  readonly lines: readonly DrawnLine[];
  readonly from: number;
  readonly to: number;
  readonly days: RunDays;
  readonly hour: number | null;
  readonly height: number;
  readonly onHour: (hour: number | null) => void;
  readonly onZoom: (from: number, to: number) => void;
  readonly change: (f: (p: Plot) => Plot) => void;
  readonly remove: () => void;
  readonly pick: () => void;
  readonly derive: () => void;
  readonly children: React.ReactNode;
}

/** One plot: its lines with their values at the cursor, its axes, the chart. */
function PlotBox({ plot, lines, from, to, days, hour, height, onHour, onZoom, change, remove, pick, derive, children }: PlotBoxProps) {
  const canvas = useRef<HTMLCanvasElement | null>(null);
  const units = useUnits();
  const shown = lines.filter((l) => l.values.length > 0);
  const inside = hour !== null && hour >= from && hour < to;
  const name = `plot ${plot.id}`;
  const csv = (a: number, b: number): void =>
    saveCsv(`series ${name}`, [
      ["hour to", ...shown.map((l) => `${l.label} (${l.unit || "1"})`)],
      ...Array.from({ length: b - a }, (_, i) => [stampOf(days, a + i), ...shown.map((l) => l.values[a + i])]),
    ]);
  const limit = (axis: 0 | 1, limits: Limits): void => change((p) => ({ ...p, limits: axis === 0 ? [limits, p.limits[1]] : [p.limits[0], limits] }));
  return (
    <Box as="section" aria-label={name} borderTop="1px solid" borderColor="line" pt="1" mb="1">
      <Flex wrap="wrap" columnGap="3" align="baseline" minH="22px">
        {plot.lines.map((l, i) => {
          const line = lines[i] as DrawnLine | undefined;
          const unit = line?.unit ?? "";
          return (
            <Flex key={JSON.stringify(l.ref)} align="baseline" gap="1" className="line" fontSize="12px">
              <chakra.button
                type="button"
                aria-pressed={!l.hidden}
                title={l.hidden ? "Show it" : "Hide it"}
                cursor="pointer"
                color={l.hidden ? "ink2" : "ink"}
                textDecoration={l.hidden ? "line-through" : "none"}
                onClick={() => change((p) => ({ ...p, lines: p.lines.map((x, k) => (k === i ? { ...x, hidden: !x.hidden } : x)) }))}
              >
                <Text as="span" fontWeight="700" style={{ color: lineColour(l.colour) }} aria-hidden="true">
                  {l.ref.of === "outdoors" ? "┄ " : "— "}
                </Text>
                {line?.label ?? ""}
              </chakra.button>
              <Text as="span" color="ink2" fontVariantNumeric="tabular-nums" data-testid="at-cursor">
                {inside && line && line.values.length > 0
                  ? `${units.text(line.values[hour], "1", digitsOf(unit))} ${unit}`
                  : l.axis === 1
                    ? `${unit}, right`
                    : unit}
              </Text>
              <Act
                title={`Other axis for ${line?.label ?? "it"}`}
                onClick={() => change((p) => ({ ...p, lines: p.lines.map((x, k) => (k === i ? { ...x, axis: x.axis === 0 ? 1 : 0 } : x)) }))}
              >
                ⇄
              </Act>
              <Act title={`Take ${line?.label ?? "it"} away`} onClick={() => change((p) => ({ ...p, lines: p.lines.filter((_, k) => k !== i) }))}>
                ×
              </Act>
            </Flex>
          );
        })}
        <Act onClick={pick}>+ series</Act>
        <Act onClick={derive} disabled={plot.lines.length === 0}>
          formula
        </Act>
        <Flex ml="auto" gap="2.5" align="baseline">
          <Text fontSize="12px" color="ink2" whiteSpace="nowrap" data-testid="cursor-hour">
            {inside ? hourWords(days, hour) : ""}
          </Text>
          {([0, 1] as const).map(
            (a) =>
              plot.lines.some((l) => l.axis === a) && (
                <AxisLimits key={a} axis={a} name={name} lines={lines} limits={plot.limits[a]} from={from} to={to} set={(l) => limit(a, l)} />
              ),
          )}
          <SelectInput
            label={`Form of ${name}`}
            width="92px"
            align="left"
            value={plot.form}
            options={plotForms.map((f) => ({ value: f, label: f }))}
            onChange={(v) => change((p) => ({ ...p, form: v as Plot["form"] }))}
          />
          <Act onClick={() => canvas.current && png(canvas.current, lines, `series ${name}`)}>PNG</Act>
          <Act onClick={() => csv(from, to)}>CSV</Act>
          <Act onClick={() => csv(0, shown[0]?.values.length ?? 0)} title="All hours of the run">
            CSV of the run
          </Act>
          <Act onClick={remove} title={`Take ${name} away`}>
            ×
          </Act>
        </Flex>
      </Flex>
      {children}
      {plot.lines.length === 0 ? (
        <Text color="ink2" py="3">
          An empty plot: “+ series” puts any quantity of the run into it.
        </Text>
      ) : plot.form === "scatter" && shown.length < 2 ? (
        <Text color="ink2" py="3">
          A scatter takes two series at least: the first goes across, the others upward.
        </Text>
      ) : (
        <SeriesPlot
          label={`${name}: ${plot.form}, ${shown.map((l) => l.label).join("; ")}`}
          form={plot.form}
          lines={shown}
          limits={plot.limits}
          from={from}
          to={to}
          days={days}
          height={height}
          onHour={onHour}
          onZoom={onZoom}
          onCanvas={(c) => (canvas.current = c)}
        />
      )}
    </Box>
  );
}

/** Limits of an axis: typed, or fitted to what is in view. */
function AxisLimits({
  axis,
  name,
  lines,
  limits,
  from,
  to,
  set,
}: {
  axis: 0 | 1;
  name: string;
  lines: readonly DrawnLine[];
  limits: Limits;
  from: number;
  to: number;
  set: (l: Limits) => void;
}) {
  const own = lines.filter((l) => l.axis === axis && !l.hidden && l.values.length > 0);
  const fit = fitOf(own, from, to);
  const now = limits ?? fit;
  const digits = Math.abs(now[1] - now[0]) >= 20 ? 0 : Math.abs(now[1] - now[0]) >= 0.5 ? 1 : 4;
  const side = axis === 0 ? "left" : "right";
  const commit = (l: readonly [number, number]): string | null => {
    if (!(l[0] < l[1])) return `The upper limit must be above the lower one, ${now[0]}.`;
    set(l);
    return null;
  };
  return (
    <Flex as="span" align="baseline" gap="0.5" fontSize="12px" color="ink2">
      {own[0]?.unit}
      <NumberInput label={`Lower limit, ${side} axis of ${name}`} width="50px" value={now[0]} digits={digits} onCommit={(v) => commit([v, now[1]])} />
      to
      <NumberInput label={`Upper limit, ${side} axis of ${name}`} width="50px" value={now[1]} digits={digits} onCommit={(v) => commit([now[0], v])} />
      {limits && (
        <Act title={`Fit the ${side} axis of ${name}`} onClick={() => set(null)}>
          fit
        </Act>
      )}
    </Flex>
  );
}
/** The round limits about what lines have in view. */
function fitOf(lines: readonly DrawnLine[], from: number, to: number): readonly [number, number] {
  const { ticks } = roundTicks(lines.flatMap((l) => [...spanOf(l.values, from, to)]));
  return [ticks[0], ticks[ticks.length - 1]];
}

/** The chart with the names of its lines, as a picture. */
function png(canvas: HTMLCanvasElement, lines: readonly DrawnLine[], name: string): void {
  const out = document.createElement("canvas");
  const scale = window.devicePixelRatio;
  const head = Math.round(22 * scale);
  out.width = canvas.width;
  out.height = canvas.height + head;
  const c = out.getContext("2d");
  if (!c) return;
  c.fillStyle = getComputedStyle(document.body).backgroundColor;
  c.fillRect(0, 0, out.width, out.height);
  c.font = `${Math.round(12 * scale)}px "IBM Plex Sans", sans-serif`;
  let x = Math.round(8 * scale);
  for (const l of lines.filter((y) => !y.hidden)) {
    c.fillStyle = l.colour;
    const text = `${l.label}${l.unit ? `, ${l.unit}` : ""}`;
    c.fillText(text, x, Math.round(15 * scale));
    x += c.measureText(text).width + Math.round(16 * scale);
  }
  c.drawImage(canvas, 0, head);
  out.toBlob((b) => b && saveBlob(`${name}.png`, b));
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
          text(isTemperature(unit) ? s.deviation : s.deviation),
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
