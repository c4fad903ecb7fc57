"use client";
import { Text } from "@chakra-ui/react";
import { useMemo } from "react";
import { guidelineLimits, pairFigures, sensorOffset, type PairYear, type Project } from "@arroyo/core";
import { Act, Head, Row } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Inspector } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { seriesName } from "../results/seriesThings.ts";
import { removePair } from "./edits.ts";
import { shownUnit } from "./shown.ts";
import type { Compared } from "./useLogged.ts";

/** The errors of the pair in view, and what its points are. */
export function PairInspector({ project, pair, compared }: { project: Project; pair: PairYear; compared: Compared }) {
  const units = useUnits();
  const figures = useMemo(() => pairFigures(pair, compared.hourOf), [pair, compared]);
  const point = project.points?.[pair.pair.point];
  const percent = (v: number | null, limit: number) => (
    <Text as="b" color={v !== null && Math.abs(v) > limit ? "clay" : "ink"}>
      {v === null || !Number.isFinite(v) ? "—" : `${figure(v, 1)} %`}
    </Text>
  );
  const { hour, month } = guidelineLimits;
  const own = shownUnit(pair.unit);
  const { factor } = own;
  const unit = own.unit === "°C" ? "K" : own.unit;
  const outdoors = pair.pair.series.of === "outdoors" && pair.pair.series.quantity === "dryBulb";
  const offset = outdoors ? sensorOffset(pair, compared.weather.globalHorizontal) : null;
  const drives = Object.values(project.drives ?? {}).filter((d) => d.point === pair.pair.point);
  return (
    <Inspector title={point?.name ?? pair.pair.point} about={`against ${seriesName(project, pair.pair.series)}`}>
      <Row label="NMBE by the hour" note={`limit ±${hour.nmbe} %`}>
        {percent(figures.hour.nmbe, hour.nmbe)}
      </Row>
      <Row label="CV(RMSE) by the hour" note={`limit ${hour.cvrmse} %`}>
        {percent(figures.hour.cvrmse, hour.cvrmse)}
      </Row>
      <Row label="NMBE by the month" note={`limit ±${month.nmbe} %`}>
        {percent(figures.month.nmbe, month.nmbe)}
      </Row>
      <Row label="CV(RMSE) by the month" note={`limit ${month.cvrmse} %`}>
        {percent(figures.month.cvrmse, month.cvrmse)}
      </Row>
      <Row label="Mean error" note={`RMSE ${units.text(figures.hour.rmse * factor, unit, 2)} ${units.unit(unit)}`}>
        <b>
          {units.difference(figures.hour.bias * factor, unit, 2)} {units.unit(unit)}
        </b>
      </Row>
      <Row label="Over the year" note="modelled over measured">
        <b>{figures.deviation === null ? "—" : `${figures.deviation > 0 ? "+" : ""}${figure(figures.deviation, 1)} %`}</b>
      </Row>
      <Row label="Hours compared" note={`${figure(100 * pair.coverage, 0)} % of the year is there`}>
        <b>{figure(figures.hour.n, 0)}</b>
      </Row>
      {pair.maskedBy.map((m) => (
        <Text key={m.reason} color="ink2" fontSize="12px">
          {figure(m.hours, 0)} h left out: {m.reason}
        </Text>
      ))}
      {offset && (
        <Text mt="2" fontSize="12.5px">
          It reads {units.text(Math.abs(offset.offset), "K", 1)} {units.unit("K")} {offset.offset > 0 ? "high" : "low"}: {units.difference(offset.day, "K", 1)}{" "}
          by day, {units.difference(offset.night, "K", 1)} at night.
        </Text>
      )}
      {drives.length > 0 && (
        <Text mt="2" color="ink2" fontSize="12px">
          The point drives {drives.length === 1 ? "an input" : `${drives.length} inputs`} of the model.
        </Text>
      )}
      <Head>The pair</Head>
      <Act onClick={() => removePair(pair.pair.id)}>Remove the pair</Act>
    </Inspector>
  );
}
