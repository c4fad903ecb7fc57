"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { addsUp, groupsOf, readSeries, statistics, zoneQuantities, zoneWeights, type Project, type Statistics } from "@arroyo/core";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { monthNames } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { saveCsv } from "../../ui/saveCsv.ts";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { Groups } from "./Groups.tsx";
import type { YearSeries } from "../../live/yearSeries.ts";
import { hourWords, monthHours, useYearSeries } from "../yearSeries.ts";

const ZONES = ["zones"] as const;
const WHOLE = "whole";

interface Line {
  readonly key: string;
  readonly name: string;
  readonly group: boolean;
  /** m², with the copies of a group's storeys. */
  readonly area: number;
  readonly stats: Statistics;
}
type Column = "sum" | "perArea" | "mean" | "deviation" | "least" | "most" | "loaded";

/** Any quantity of all zones and groups over the run or a month: sums, mean and deviation, least and most with their times, hours with a load. */
export function ZoneFigures() {
  const project = useStore((s) => s.project) as Project;
  const units = useUnits();
  const { year, current, message } = useYearSeries(project, ZONES);
  const [quantity, setQuantity] = useState("infiltration");
  const [over, setOver] = useState(WHOLE);
  const [sort, setSort] = useState<Column | null>(null);
  const spec = zoneQuantities.find((q) => q.name === quantity) ?? zoneQuantities[0];
  const powers = spec.unit === "W";
  const lines = useMemo(() => (year ? linesOf(project, year, quantity, rangeOf(year, over)) : null), [project, year, quantity, over]);
  const shown = lines && sort ? [...lines].sort((a, b) => valueOf(b, sort) - valueOf(a, sort)) : lines;
  const fixed = (v: number, unit: string, digits: number): string => (v === v ? units.text(v, unit, digits) : "—");
  const digits = spec.unit === "W" ? 0 : spec.unit === "1" ? 2 : spec.unit === "kg/kg" ? 5 : 1;
  const head = (column: Column, text: string, unit: string) => ({
    text: <Act onClick={() => setSort(sort === column ? null : column)}>{sort === column ? `${text} ▾` : text}</Act>,
    unit: units.unit(unit),
  });
  const columns = [
    ...(powers ? [head("sum", "Sum", "kWh"), head("perArea", "By area", "kWh/m²")] : []),
    head("mean", "Mean", spec.unit),
    head("deviation", "Deviation", spec.unit === "°C" ? "K" : spec.unit),
    head("least", "Smallest", spec.unit),
    head("most", "Largest", spec.unit),
    ...(powers ? [head("loaded", "With a load", "h")] : []),
  ];
  const csv = (): void =>
    saveCsv(`zones ${spec.label}`, [
      ["", ...(powers ? ["sum kWh", "kWh/m²"] : []), `mean ${spec.unit}`, "deviation", "smallest", "at", "largest", "at", "hours with a load"],
      ...(shown ?? []).map((l) => [
        l.name,
        ...(powers ? [l.stats.sum / 1000, l.stats.sum / 1000 / l.area] : []),
        l.stats.mean,
        l.stats.deviation,
        l.stats.least,
        year ? hourWords(year, l.stats.leastAt) : "",
        l.stats.most,
        year ? hourWords(year, l.stats.mostAt) : "",
        l.stats.loaded,
      ]),
    ]);
  return (
    <>
      <Flex align="baseline" gap="3" mb="1" wrap="wrap">
        <Text as="h2" textStyle="title">
          Zone figures
        </Text>
        <SelectInput
          label="Quantity"
          align="left"
          width="250px"
          value={quantity}
          options={zoneQuantities.map((q) => ({ value: q.name, label: q.label }))}
          onChange={(v) => {
            setQuantity(v);
            setSort(null);
          }}
        />
        <SelectInput
          label="Over"
          align="left"
          width="130px"
          value={over}
          options={[{ value: WHOLE, label: "the whole run" }, ...monthNames.map((m, i) => ({ value: String(i), label: m }))]}
          onChange={setOver}
        />
        {shown && (
          <Flex ml="auto">
            <Act onClick={csv}>CSV</Act>
          </Flex>
        )}
      </Flex>
      <Text color="ink2" mb="2" aria-live="polite">
        {message ??
          (!year
            ? "The year is run once with every quantity of the zones …"
            : `hourly means of the year as it is now${current ? "" : ", catching up"}; heat into the zone is positive, what it loses negative; groups hour by hour, ${addsUp(spec.unit) ? "summed with the copies of their storeys" : "by floor area"}`)}
      </Text>
      {shown && year && (
        <Grid
          label="Zone figures"
          head={[{ text: <Act onClick={() => setSort(null)}>Zone or group</Act>, left: true }, ...columns]}
          rows={shown.map((l) => ({
            key: l.key,
            active: l.group,
            cells: [
              l.name,
              ...(powers ? [fixed(l.stats.sum / 1000, "kWh", 0), fixed(l.area > 0 ? l.stats.sum / 1000 / l.area : NaN, "kWh/m²", 1)] : []),
              fixed(l.stats.mean, spec.unit, digits),
              fixed(l.stats.deviation, spec.unit === "°C" ? "K" : spec.unit, digits),
              <At key="l" value={fixed(l.stats.least, spec.unit, digits)} at={l.stats.leastAt < 0 ? "" : hourWords(year, l.stats.leastAt)} />,
              <At key="m" value={fixed(l.stats.most, spec.unit, digits)} at={l.stats.mostAt < 0 ? "" : hourWords(year, l.stats.mostAt)} />,
              ...(powers ? [fixed(l.stats.loaded, "h", 0)] : []),
            ],
          }))}
        />
      )}
      <Box mt="5">
        <Groups />
      </Box>
    </>
  );
}

function At({ value, at }: { value: string; at: string }) {
  return (
    <>
      {value}{" "}
      <Text as="span" color="ink2" fontSize="11px" whiteSpace="nowrap">
        {at}
      </Text>
    </>
  );
}

const rangeOf = (year: YearSeries, over: string): { from: number; to: number } | null =>
  over === WHOLE ? { from: 0, to: year.hours } : monthHours(year, Number(over));
const valueOf = (l: Line, column: Column): number => {
  const v = column === "perArea" ? l.stats.sum / l.area : l.stats[column];
  // what a zone loses most stands first among losses
  return v !== v ? -Infinity : column === "sum" || column === "perArea" || column === "mean" ? Math.abs(v) : v;
};

/** Zones, then groups; floor areas and copies of their storeys from the form. */
function linesOf(project: Project, year: YearSeries, quantity: string, range: { from: number; to: number } | null): Line[] {
  const weights = zoneWeights(project);
  const { from, to } = range ?? { from: 0, to: 0 };
  const line = (of: "zone" | "group", id: string, name: string, area: number): Line[] => {
    const read = readSeries(project, year, { of, id, quantity });
    return read.ok ? [{ key: `${of} ${id}`, name, group: of === "group", area, stats: statistics(read.values, from, to) }] : [];
  };
  return [
    ...Object.entries(project.zones).flatMap(([id, zone]) => line("zone", id, zone.name, weights.get(id)?.area ?? 0)),
    ...groupsOf(project).flatMap(({ id, group, zones }) => {
      const floor = zones.reduce((s, z) => s + (weights.get(z)?.area ?? 0) * (weights.get(z)?.times ?? 1), 0);
      return line("group", id, `${group.name} (${zones.length} zone${zones.length === 1 ? "" : "s"})`, floor);
    }),
  ];
}
