"use client";
import { Box } from "@chakra-ui/react";
import { useEffect, useRef } from "react";
import uPlot from "uplot";
import { dateInRun } from "@arroyo/core";
import { figure, monthNames, roundTicks } from "../../ui/format.ts";
import type { RunDays } from "../yearSeries.ts";
import type { Limits, PlotForm } from "./seriesState.ts";

/** Line colours, told apart without red against green; the outdoors are dashed besides. */
export const lineColours = [
  "#0E6B80",
  "#B24E2B",
  "#8D8474",
  "#E0B04A",
  "#7B6A9C",
  "#8C9A5B",
  "#3B7EA1",
  "#C98B6B",
  "#5F6B3A",
  "#A5527A",
  "#4F6F8F",
  "#6F6757",
] as const;
export const lineColour = (n: number): string => lineColours[n % lineColours.length];

/** A line as it is drawn: hourly values of the whole run, in the unit shown. */
export interface DrawnLine {
  readonly label: string;
  readonly unit: string;
  readonly axis: 0 | 1;
  readonly colour: string;
  readonly dashed: boolean;
  readonly hidden: boolean;
  readonly values: ArrayLike<number>;
}
interface Props {
  readonly label: string;
  readonly form: PlotForm;
  readonly lines: readonly DrawnLine[];
  readonly limits: readonly [Limits, Limits];
  /** Hours in view. */
  readonly from: number;
  readonly to: number;
  readonly days: RunDays;
  readonly height: number;
  /** Hour under the shared cursor; null: none. */
  readonly onHour: (hour: number | null) => void;
  /** A stretch of hours was drawn over. */
  readonly onZoom: (from: number, to: number) => void;
  /** Takes the canvas for its picture. */
  readonly onCanvas: (canvas: HTMLCanvasElement | null) => void;
}

const GROUP = "series";
const token = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(`--chakra-colors-${name}`).trim();
const FONT = '11px "IBM Plex Sans", sans-serif';
/** Room of an axis, px: the same on all plots, so that their hours stand over each other. */
const AXIS = 46;

/** Values of one form over its abscissa. */
function dataOf({ form, lines, from, to }: Pick<Props, "form" | "lines" | "from" | "to">): uPlot.AlignedData {
  const n = Math.max(0, to - from);
  const column = (l: DrawnLine): number[] => Array.from({ length: n }, (_, i) => l.values[from + i]);
  if (form === "duration")
    return [Array.from({ length: n }, (_, i) => (100 * (i + 0.5)) / Math.max(1, n)), ...lines.map((l) => column(l).sort((a, b) => b - a))];
  if (form === "scatter" && lines.length > 1) {
    // in the order of the first line, as the chart needs its abscissa to rise
    const order = Array.from({ length: n }, (_, i) => from + i).sort((a, b) => lines[0].values[a] - lines[0].values[b]);
    return [order.map((h) => lines[0].values[h]), ...lines.slice(1).map((l) => order.map((h) => l.values[h]))];
  }
  // what is missing is a gap in its line
  return [Array.from({ length: n }, (_, i) => from + i + 0.5), ...lines.map((l) => column(l).map((v) => (Number.isFinite(v) ? v : null)))];
}

/** Day or month boundaries in view, and what stands at them. */
function timeTicks(from: number, to: number, days: RunDays): { readonly at: number[]; readonly text: Map<number, string> } {
  const text = new Map<number, string>();
  const whole = Math.ceil((to - from) / 24);
  const date = (d: number): readonly [number, number] => dateInRun(days.firstDay, days.leapDays, d);
  if (whole > 62) {
    for (let d = Math.ceil(from / 24); 24 * d < to; d++) if (date(d)[1] === 1) text.set(24 * d, monthNames[date(d)[0] - 1]);
  } else if (whole <= 2) for (let h = 3 * Math.ceil(from / 3); h < to; h += 3) text.set(h, h % 24 === 0 ? dayText(date(h / 24)) : `${h % 24}:00`);
  else {
    const every = Math.ceil(whole / 10);
    for (let d = Math.ceil(from / 24); 24 * d < to; d += every) text.set(24 * d, dayText(date(d)));
  }
  return { at: [...text.keys()], text };
}
const dayText = ([month, day]: readonly [number, number]): string => `${day} ${monthNames[month - 1]}`;

/** A number for each array of values, so that another array is told from the one before. */
const names = new WeakMap<object, number>();
let named = 0;
function nameOf(values: object): number {
  let n = names.get(values);
  if (n === undefined) names.set(values, (n = ++named));
  return n;
}

/** Series as a chart on a canvas: over time, as a duration curve, or one against others. */
export function SeriesPlot(props: Props) {
  const holder = useRef<HTMLDivElement>(null);
  const told = useRef(props);
  useEffect(() => {
    told.current = props;
  });
  const { form, lines, limits, from, to, days, height, label } = props;
  const key = JSON.stringify([
    form,
    limits,
    from,
    to,
    height,
    days.firstDay,
    lines.map((l) => [l.label, l.unit, l.axis, l.colour, l.hidden, nameOf(l.values)]),
  ]);
  useEffect(() => {
    const div = holder.current;
    if (!div) return;
    const ink = token("ink2");
    const line = token("line");
    const time = form === "over time";
    const scatter = form === "scatter" && lines.length > 1;
    const drawn = scatter ? lines.slice(1) : lines;
    const ticks = timeTicks(from, to, days);
    const onAxis = (a: 0 | 1): readonly DrawnLine[] => drawn.filter((l) => l.axis === a && !l.hidden);
    const scale = (a: 0 | 1): uPlot.Scale => ({
      auto: true,
      range: (_u, least, most) => {
        const typed = limits[a];
        if (typed) return [typed[0], typed[1]];
        if (least === null || most === null || onAxis(a).length === 0) return [0, 1];
        const { ticks: round } = roundTicks([least, most]);
        return [round[0], round[round.length - 1]];
      },
    });
    const yAxis = (a: 0 | 1): uPlot.Axis => ({
      scale: `y${a}`,
      side: a === 0 ? 3 : 1,
      size: AXIS,
      font: FONT,
      stroke: ink,
      show: a === 0 || drawn.some((l) => l.axis === 1),
      grid: { show: a === 0, stroke: line, width: 1 },
      ticks: { show: false },
      splits: (_u, _axis, least, most) => [...roundTicks([least, most]).ticks],
      values: (_u, splits) => {
        const { digits } = roundTicks([splits[0], splits[splits.length - 1]]);
        return splits.map((v) => figure(v, digits));
      },
    });
    const chart = new uPlot(
      {
        width: div.clientWidth,
        height,
        legend: { show: false },
        padding: [6, drawn.some((l) => l.axis === 1) ? 0 : 12, 0, 0],
        cursor: {
          ...(time ? { sync: { key: GROUP, scales: ["x", null] as [string, null] } } : {}),
          drag: { x: time, y: false, setScale: false },
          y: scatter,
          points: { size: 6 },
        },
        hooks: {
          setCursor: [
            (u) => {
              if (!time) return;
              const i = u.cursor.idx;
              told.current.onHour(i === null || i === undefined || (u.cursor.left ?? -1) < 0 ? null : told.current.from + i);
            },
          ],
          setSelect: [
            (u) => {
              if (!time || u.select.width < 8) return;
              const a = Math.floor(u.posToVal(u.select.left, "x"));
              const b = Math.ceil(u.posToVal(u.select.left + u.select.width, "x"));
              u.setSelect({ left: 0, top: 0, width: 0, height: 0 }, false);
              if (b - a >= 3) told.current.onZoom(Math.max(0, a), b);
            },
          ],
        },
        scales: {
          x: time ? { time: false, range: () => [from, to] } : { time: false, ...(form === "duration" ? { range: () => [0, 100] } : {}) },
          y0: scale(0),
          y1: scale(1),
        },
        axes: [
          {
            font: FONT,
            stroke: ink,
            size: time ? 24 : 40,
            gap: 4,
            ...(time
              ? {}
              : {
                  label: scatter ? `${lines[0].label}${lines[0].unit ? `, ${lines[0].unit}` : ""}` : "share of the hours in view",
                  labelSize: 16,
                  labelGap: 0,
                  labelFont: FONT,
                }),
            grid: { stroke: line, width: 1 },
            ticks: { show: false },
            ...(time ? { splits: () => ticks.at, values: (_u, splits) => splits.map((v) => ticks.text.get(v) ?? "") } : {}),
            ...(form === "duration" ? { values: (_u, splits) => splits.map((v) => `${figure(v, 0)} %`) } : {}),
            ...(scatter ? { values: (_u, splits) => splits.map((v) => figure(v, roundTicks([splits[0], splits[splits.length - 1]]).digits)) } : {}),
          },
          yAxis(0),
          yAxis(1),
        ],
        series: [
          {},
          ...drawn.map((l): uPlot.Series => ({
            label: l.label,
            scale: `y${l.axis}`,
            show: !l.hidden,
            stroke: l.colour,
            width: scatter ? 0 : 1.6,
            ...(l.dashed ? { dash: [5, 4] } : {}),
            ...(scatter ? { paths: () => null } : {}),
            points: scatter ? { show: true, size: 3, fill: l.colour, width: 0 } : { show: false },
          })),
        ],
      },
      dataOf({ form, lines, from, to }),
      div,
    );
    told.current.onCanvas(chart.ctx.canvas);
    const fit = new ResizeObserver(() => chart.setSize({ width: div.clientWidth, height }));
    fit.observe(div);
    return () => {
      fit.disconnect();
      told.current.onCanvas(null);
      chart.destroy();
    };
    // drawn anew when what is shown changes, not when the cursor moves
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return <Box ref={holder} role="img" aria-label={label} w="100%" h={`${height}px`} overflow="hidden" />;
}
