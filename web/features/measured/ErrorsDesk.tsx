"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo } from "react";
import {
  guidelineLimits,
  MONTH_NAMES,
  pairFigures,
  sensorOffset,
  splitFigures,
  type Misfit,
  type PairFigures,
  type PairYear,
  type Project,
} from "@arroyo/core";
import { Act } from "../../ui/fields.tsx";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { saveCsv } from "../../ui/saveCsv.ts";
import { useUnits } from "../../ui/units.ts";
import { removePair } from "./edits.ts";
import { Dots } from "./Dots.tsx";
import { pairName, shownUnit } from "./shown.ts";
import type { Compared } from "./useLogged.ts";

const percent = (v: number | null): string => (v === null || !Number.isFinite(v) ? "—" : figure(v, 1));

/** A figure beside its limit: in clay beyond it. */
function Limited({ value, limit }: { value: number | null; limit: number }) {
  return (
    <Text as="span" color={value !== null && Math.abs(value) > limit ? "clay" : "ink"}>
      {percent(value)}
    </Text>
  );
}

type PairRow =
  | { readonly id: string; readonly of: PairYear; readonly figures: PairFigures; readonly message: string }
  | { readonly id: string; readonly of: null; readonly figures: null; readonly message: string };

/** Errors of all pairs beside the limits of the guideline, and of the pair in view month by month, by day, and split. */
export function ErrorsDesk({
  project,
  pair,
  compared,
  choose,
  reached,
}: {
  project: Project;
  pair: PairYear | null;
  compared: Compared;
  choose: (id: string) => void;
  /** Hours in use of the zone compared, or null. */
  reached: ArrayLike<number> | null;
}) {
  const all = useMemo(
    () =>
      [...compared.reads].map(([id, r]): PairRow =>
        r.ok ? { id, of: r.of, figures: pairFigures(r.of, compared.hourOf), message: "" } : { id, of: null, figures: null, message: r.message },
      ),
    [compared],
  );
  const { hour, month } = guidelineLimits;
  return (
    <Box>
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          Errors of every pair
        </Text>
        <Text color="ink2" fontSize="12px">
          Limits of ASHRAE Guideline 14 for a calibrated model (from memory): by the hour NMBE within ±{hour.nmbe} %, CV(RMSE) {hour.cvrmse} %; by the month ±
          {month.nmbe} % and {month.cvrmse} %.
        </Text>
        <Act
          onClick={() =>
            saveCsv("errors", [
              ["pair", "NMBE hour %", "CV(RMSE) hour %", "NMBE month %", "CV(RMSE) month %", "deviation %", "hours", "coverage %"],
              ...all.flatMap((x) =>
                x.of
                  ? [
                      [
                        pairName(project, x.of.pair),
                        ...[x.figures.hour.nmbe, x.figures.hour.cvrmse, x.figures.month.nmbe, x.figures.month.cvrmse, x.figures.deviation].map((v) => v ?? ""),
                        x.figures.hour.n,
                        100 * x.of.coverage,
                      ],
                    ]
                  : [],
              ),
            ])
          }
        >
          CSV
        </Act>
      </Flex>
      <Grid
        label="Errors of every pair"
        head={[
          { text: "Pair", left: true },
          { text: "NMBE", unit: "hour, %" },
          { text: "CV(RMSE)", unit: "hour, %" },
          { text: "NMBE", unit: "month, %" },
          { text: "CV(RMSE)", unit: "month, %" },
          { text: "Year", unit: "deviation, %" },
          { text: "Hours", unit: "compared" },
          { text: "There", unit: "%" },
          { text: "" },
        ]}
        rows={all.map((x) => ({
          key: x.id,
          active: pair?.pair.id === x.id,
          onClick: () => choose(x.id),
          cells: x.of
            ? [
                pairName(project, x.of.pair),
                <Limited key="a" value={x.figures.hour.nmbe} limit={hour.nmbe} />,
                <Limited key="b" value={x.figures.hour.cvrmse} limit={hour.cvrmse} />,
                <Limited key="c" value={x.figures.month.nmbe} limit={month.nmbe} />,
                <Limited key="d" value={x.figures.month.cvrmse} limit={month.cvrmse} />,
                percent(x.figures.deviation),
                figure(x.figures.hour.n, 0),
                <Text key="e" as="span" color={x.of.coverage < 0.5 ? "clay" : "ink"}>
                  {figure(100 * x.of.coverage, 0)}
                </Text>,
                <Act key="f" onClick={() => removePair(x.id)}>
                  Remove
                </Act>,
              ]
            : [
                <Text key="m" color="clay">
                  {x.message}
                </Text>,
                ...Array<string>(7).fill("—"),
                <Act key="f" onClick={() => removePair(x.id)}>
                  Remove
                </Act>,
              ],
        }))}
      />
      {pair && <One project={project} pair={pair} compared={compared} figures={all.find((x) => x.id === pair.pair.id)?.figures ?? null} inUse={reached} />}
    </Box>
  );
}

/** The pair in view: months, days, the scatter, and what is told of it. */
function One({
  project,
  pair,
  compared,
  figures,
  inUse,
}: {
  project: Project;
  pair: PairYear;
  compared: Compared;
  figures: PairFigures | null;
  inUse: ArrayLike<number> | null;
}) {
  const units = useUnits();
  if (!figures) return null;
  const { unit, factor } = shownUnit(pair.unit);
  const energy = pair.kind === "sum" && unit === "kW";
  const sumUnit = energy ? "kWh" : unit;
  const shownAs = (v: number): string => units.text(v * factor, sumUnit, energy ? 0 : 1);
  const offset = pair.pair.series.of === "outdoors" && pair.pair.series.quantity === "dryBulb" ? sensorOffset(pair, compared.weather.globalHorizontal) : null;
  const split = inUse ? splitFigures(pair, inUse) : null;
  const days = Array.from(figures.days.hours.keys()).filter((d) => figures.days.hours[d] >= 12);
  const at = (values: ArrayLike<number>, d: number): number => units.value(values[d] * factor, sumUnit);
  // per cent of a mean in °C says little: months near 0 °C have none
  const relative = unit !== "°C";
  const words = (f: Misfit): string =>
    relative
      ? `NMBE ${percent(f.nmbe)} %, CV(RMSE) ${percent(f.cvrmse)} %, ${figure(f.n, 0)} h`
      : `the mean error is ${units.difference(f.bias, "K", 1)} ${units.unit("K")}, RMSE ${units.text(f.rmse, "K", 1)} ${units.unit("K")}, ${figure(f.n, 0)} h`;
  return (
    <Flex gap="6" mt="4" align="flex-start" wrap="wrap">
      <Box flex="1 1 420px" minW="0">
        <Text fontWeight="600" mb="1">
          {pairName(project, pair.pair)}, month by month
        </Text>
        {offset && (
          <Text mb="1" data-testid="offset">
            The sensor reads{" "}
            {Math.abs(offset.offset) < 0.05
              ? "as the weather year"
              : `${units.difference(Math.abs(offset.offset), "K", 1).replace("+", "")} ${units.unit("K")} ${offset.offset > 0 ? "high" : "low"}`}
            {Math.abs(offset.night - offset.day) >= 0.1
              ? `, ${Math.abs(offset.night) > Math.abs(offset.day) ? "more at night" : "more by day"} (${units.difference(offset.day, "K", 1)} by day, ${units.difference(offset.night, "K", 1)} at night)`
              : ""}
            .
          </Text>
        )}
        {split && (
          <Text mb="1" color="ink2" fontSize="12.5px" data-testid="split">
            In the hours in use {words(split.inside)}; in the rest {words(split.outside)}.
          </Text>
        )}
        {pair.maskedBy.map((m) => (
          <Text key={m.reason} color="ink2" fontSize="12.5px">
            {figure(m.hours, 0)} h are left out: {m.reason}.
          </Text>
        ))}
        <Grid
          label="Month by month"
          head={[
            { text: "", left: true },
            { text: "Measured", unit: units.unit(sumUnit) },
            { text: "Modelled", unit: units.unit(sumUnit) },
            ...(relative
              ? [
                  { text: "NMBE", unit: "%" },
                  { text: "CV(RMSE)", unit: "%" },
                ]
              : [
                  { text: "Mean error", unit: units.unit("K") },
                  { text: "RMSE", unit: units.unit("K") },
                ]),
            { text: "Hours" },
          ]}
          rows={figures.months.map((m) => ({
            key: String(m.month),
            cells: [
              MONTH_NAMES[m.month],
              shownAs(m.measured),
              shownAs(m.modelled),
              ...(relative ? [percent(m.fit.nmbe), percent(m.fit.cvrmse)] : [units.difference(m.fit.bias, "K", 2), units.text(m.fit.rmse, "K", 2)]),
              figure(m.hours, 0),
            ],
          }))}
        />
      </Box>
      <Box flex="1 1 400px" minW="0">
        <ChartFrame
          title="Day by day"
          unit={`${pair.kind === "sum" ? "sums" : "means"} of the days, ${units.unit(sumUnit)}`}
          csv={() => ["day,measured,modelled", ...days.map((d) => `${d + 1},${at(figures.days.measured, d)},${at(figures.days.modelled, d)}`)].join("\n")}
        >
          <Dots
            label="Modelled over measured, day by day"
            equal
            width={440}
            height={250}
            x={`measured, ${units.unit(sumUnit)}`}
            y={`modelled, ${units.unit(sumUnit)}`}
            clouds={[
              { key: "d", label: "days", colour: "#0E6B80", points: days.map((d) => [at(figures.days.measured, d), at(figures.days.modelled, d)] as const) },
            ]}
          />
        </ChartFrame>
        <Text fontSize="12px" color="ink2">
          by the day: NMBE {percent(figures.day.nmbe)} %, CV(RMSE) {percent(figures.day.cvrmse)} %; the dashed line is where both are equal
        </Text>
      </Box>
    </Flex>
  );
}
