"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useState } from "react";
import { oddWeeks, readSeries, residualsOf, type PairYear, type Project, type SeriesRef } from "@arroyo/core";
import { Act } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { HourMap } from "../../ui/HourMap.tsx";
import { saveCsv } from "../../ui/saveCsv.ts";
import { useUnits } from "../../ui/units.ts";
import type { SeriesClass } from "../../live/seriesClasses.ts";
import { SeriesPicker } from "../results/SeriesPicker.tsx";
import { seriesName } from "../results/seriesThings.ts";
import { hourWords, stampOf } from "../yearSeries.ts";
import { SeriesPlot, type DrawnLine } from "../results/SeriesPlot.tsx";
import { pairName, scaled, shownUnit } from "./shown.ts";
import type { Compared } from "./useLogged.ts";

const WEEK = 168;
const ignore = (): void => undefined;

/** A pair week by week: both lines with the residual below, one cursor, and the year map of the error. */
export function WeeksDesk({
  project,
  pair,
  compared,
  beside,
  setBeside,
  needs,
}: {
  project: Project;
  pair: PairYear;
  compared: Compared;
  /** A further series of the run on an axis of its own; null: none. */
  beside: SeriesRef | null;
  setBeside: (ref: SeriesRef | null) => void;
  needs: (c: SeriesClass) => void;
}) {
  const [picking, setPicking] = useState(false);
  const units = useUnits();
  const hours = pair.measured.length;
  const [from, setFrom] = useState(0);
  const [length, setLength] = useState(WEEK);
  const [hour, setHour] = useState<number | null>(null);
  const { unit, factor } = shownUnit(pair.unit);
  const days = { firstDay: compared.year.firstDay, leapDays: compared.year.leapDays };
  const start = Math.max(0, Math.min(from, hours - length));
  const step = (by: number): void => setFrom(Math.max(0, Math.min(hours - length, start + by * length)));
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      const target = e.target as HTMLElement | null;
      if (target && (target.tagName === "INPUT" || target.tagName === "SELECT" || target.tagName === "TEXTAREA")) return;
      if (e.key === "ArrowLeft" || e.key === "ArrowRight") {
        setFrom((f) => Math.max(0, Math.min(hours - length, Math.max(0, Math.min(f, hours - length)) + (e.key === "ArrowRight" ? length : -length))));
        e.preventDefault();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [hours, length]);
  const shown = useMemo(() => {
    const residual = residualsOf(pair);
    const convert = (a: ArrayLike<number>, difference = false): Float64Array => {
      const values = scaled(a, factor);
      if (units.system === "SI") return values;
      return difference ? values.map((v) => units.value(v, unit) - units.value(0, unit)) : values.map((v) => units.value(v, unit));
    };
    return {
      measured: convert(pair.measured),
      modelled: convert(pair.modelled),
      residual: convert(residual, true),
      error: convert(residual, true).map(Math.abs),
    };
  }, [pair, factor, unit, units]);
  const most = useMemo(() => {
    const sorted = shown.error.filter((v) => v === v).sort();
    return Math.max(1e-9, sorted[Math.floor(0.995 * sorted.length)] ?? 1);
  }, [shown.error]);
  const odd = useMemo(() => oddWeeks(pair), [pair]);
  const other = useMemo((): DrawnLine | null => {
    const read = beside && readSeries(project, compared.table, beside);
    if (!beside || !read?.ok) return null;
    const own = shownUnit(read.unit);
    const values = scaled(read.values, own.factor);
    return {
      label: seriesName(project, beside),
      unit: units.unit(own.unit),
      axis: own.unit === unit ? 0 : 1,
      colour: "#7B6A9C",
      dashed: true,
      hidden: false,
      values: units.system === "SI" ? values : values.map((v) => units.value(v, own.unit)),
    };
  }, [beside, project, compared.table, unit, units]);
  const line = (label: string, colour: string, values: Float64Array): DrawnLine => ({
    label,
    unit: units.unit(unit),
    axis: 0,
    colour,
    dashed: false,
    hidden: false,
    values,
  });
  const at = hour !== null && hour >= start && hour < start + length ? hour : null;
  const value = (v: Float64Array): string => (at === null || v[at] !== v[at] ? "—" : `${units.text(v[at], "1", 1)} ${units.unit(unit)}`);
  const plot = {
    form: "over time" as const,
    limits: [null, null] as const,
    from: start,
    to: Math.min(hours, start + length),
    days,
    onHour: setHour,
    onCanvas: ignore,
  };
  const zoom = (a: number, b: number): void => {
    setLength(Math.max(3, b - a));
    setFrom(a);
  };
  const pick = (h: number): void => setFrom(24 * Math.floor(Math.max(0, h - length / 2) / 24));
  return (
    <Box>
      <Flex align="baseline" gap="3" mb="1" wrap="wrap">
        <Text as="h2" textStyle="title">
          {pairName(project, pair.pair)}
        </Text>
        <Act title="The week before (arrow left)" onClick={() => step(-1)}>
          ◂
        </Act>
        <Text fontWeight="600" data-testid="week">
          {hourWords(days, start).replace(/ \d\d:00$/, "")} to {hourWords(days, Math.min(hours, start + length) - 1).replace(/ \d\d:00$/, "")}
        </Text>
        <Act title="The week after (arrow right)" onClick={() => step(1)}>
          ▸
        </Act>
        {length !== WEEK && (
          <Act
            onClick={() => {
              setLength(WEEK);
              setFrom(24 * Math.floor(start / 24));
            }}
          >
            a week
          </Act>
        )}
        {length !== hours && (
          <Act
            onClick={() => {
              setLength(hours);
              setFrom(0);
            }}
          >
            the year
          </Act>
        )}
        <Text color="ink2" fontSize="12px">
          arrow keys go from week to week
        </Text>
        <Act
          onClick={() =>
            saveCsv("measured and modelled", [
              ["hour to", `measured (${unit})`, `modelled (${unit})`, "left out"],
              ...Array.from(pair.measured, (m, h) => [stampOf(days, h), m * factor, pair.modelled[h] * factor, pair.mask[h] === 1 ? "yes" : ""]),
            ])
          }
        >
          CSV
        </Act>
      </Flex>
      <Flex gap="4" fontSize="12.5px" minH="18px">
        <Text>
          <Text as="span" fontWeight="700" style={{ color: "#0E6B80" }} aria-hidden="true">
            —{" "}
          </Text>
          measured <b>{value(shown.measured)}</b>
        </Text>
        <Text>
          <Text as="span" fontWeight="700" style={{ color: "#B24E2B" }} aria-hidden="true">
            —{" "}
          </Text>
          modelled <b>{value(shown.modelled)}</b>
        </Text>
        <Text color="ink2">{at === null ? "" : hourWords(days, at)}</Text>
        {other && (
          <Text>
            <Text as="span" fontWeight="700" style={{ color: "#7B6A9C" }} aria-hidden="true">
              ┄{" "}
            </Text>
            {other.label} <b>{at === null || other.values[at] !== other.values[at] ? "—" : `${units.text(other.values[at], "1", 1)} ${other.unit}`}</b>{" "}
            <Act onClick={() => setBeside(null)}>take away</Act>
          </Text>
        )}
        <Act onClick={() => setPicking(!picking)}>{picking ? "close the list" : "+ a series beside"}</Act>
        {at !== null && pair.mask[at] === 1 && <Text color="clay">left out: the reading means nothing</Text>}
      </Flex>
      {picking && (
        <SeriesPicker
          year={compared.year}
          needs={needs}
          pick={(ref) => {
            setBeside(ref);
            setPicking(false);
          }}
          close={() => setPicking(false)}
        />
      )}
      <SeriesPlot
        {...plot}
        label="Measured and modelled"
        height={190}
        lines={[line("measured", "#0E6B80", shown.measured), line("modelled", "#B24E2B", shown.modelled), ...(other ? [other] : [])]}
        onZoom={zoom}
      />
      <Text fontSize="12.5px" color="ink2">
        modelled less measured, {units.unit(unit === "°C" ? "K" : unit)} <b>{value(shown.residual)}</b>
      </Text>
      <SeriesPlot {...plot} label="Residual" height={96} lines={[line("residual", "#8D8474", shown.residual)]} onZoom={zoom} />
      <Box mt="2">
        <HourMap
          values={shown.error}
          span={[0, most]}
          title="Size of the error over the year"
          label="Size of the error, day by hour"
          scale={
            <>
              0 to {figure(most, 1)} {units.unit(unit === "°C" ? "K" : unit)}; blank: nothing measured, or left out · click to go there
            </>
          }
          words={(h) => (shown.error[h] === shown.error[h] ? `${figure(shown.error[h], 1)} ${units.unit(unit === "°C" ? "K" : unit)}` : "—")}
          height={84}
          frame={[start / hours, Math.min(1, (start + length) / hours)]}
          onPick={pick}
        />
      </Box>
      {odd.length > 0 && (
        <Flex gap="3" mt="1" wrap="wrap" align="baseline" data-testid="odd-weeks">
          <Text>Weeks that stand out:</Text>
          {odd.map((w) => (
            <Act
              key={w.week}
              onClick={() => {
                setLength(WEEK);
                setFrom(WEEK * w.week);
              }}
            >
              {`${hourWords(days, WEEK * w.week).replace(/ \d\d:00$/, "")}, ${units.difference(w.bias * factor, unit === "°C" ? "K" : unit, 1)} ${units.unit(unit === "°C" ? "K" : unit)}`}
            </Act>
          ))}
        </Flex>
      )}
    </Box>
  );
}
