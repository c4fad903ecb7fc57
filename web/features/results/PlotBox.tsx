"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useRef, type ReactNode } from "react";
import { Act, NumberInput, SelectInput } from "../../ui/fields.tsx";
import { roundTicks } from "../../ui/format.ts";
import { saveBlob, saveCsv } from "../../ui/saveCsv.ts";
import { useUnits } from "../../ui/units.ts";
import { hourWords, stampOf, type RunDays } from "../yearSeries.ts";
import { lineColour, SeriesPlot, type DrawnLine } from "./SeriesPlot.tsx";
import { plotForms, type Limits, type Plot } from "./seriesState.ts";

/** Digits a value of a unit is read with. */
export const digitsOf = (unit: string): number =>
  unit === "W" || unit === "%" || unit === "W/m²" || unit === "lx" ? 0 : unit === "1" || unit === "kg/s" ? 3 : unit === "kg/kg" ? 5 : 1;

/** Least and most of a stretch of values; about a single value one to each side. */
export function spanOf(values: ArrayLike<number>, from = 0, to = values.length): [number, number] {
  let [least, most] = [Infinity, -Infinity];
  for (let h = from; h < Math.min(to, values.length); h++) {
    if (values[h] < least) least = values[h];
    if (values[h] > most) most = values[h];
  }
  return least < most ? [least, most] : [least - 1, least + 1];
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
  readonly children: ReactNode;
}

/** One plot: its lines with their values at the cursor, its axes, the chart. */
export function PlotBox({ plot, lines, from, to, days, hour, height, onHour, onZoom, change, remove, pick, derive, children }: PlotBoxProps) {
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
