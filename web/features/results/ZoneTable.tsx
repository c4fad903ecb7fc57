"use client";
import { Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { isWholeYear, type Project, type Summary } from "@arroyo/core";
import { Act } from "../../ui/fields.tsx";
import { unitOf } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { saveCsv } from "../../ui/saveCsv.ts";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { TallNote, tallZones } from "./TallNote.tsx";

type Zone = Summary["zones"][number];
const columns: readonly { readonly text: string; readonly unit: string; readonly digits: number; readonly value: (z: Zone) => number | null }[] = [
  { text: "Floor", unit: "m²", digits: 0, value: (z) => z.floorArea },
  { text: "Heating", unit: "kWh/m²a", digits: 1, value: (z) => z.heating / z.floorArea },
  { text: "Cooling", unit: "kWh/m²a", digits: 1, value: (z) => z.cooling / z.floorArea },
  { text: "Peak heating", unit: "W/m²", digits: 0, value: (z) => z.peakHeating / z.floorArea },
  { text: "Peak cooling", unit: "W/m²", digits: 0, value: (z) => z.peakCooling / z.floorArea },
  { text: "Coldest", unit: "°C", digits: 1, value: (z) => z.temperature.min },
  { text: "Mean", unit: "°C", digits: 1, value: (z) => z.temperature.mean },
  { text: "Warmest", unit: "°C", digits: 1, value: (z) => z.temperature.max },
  { text: "Too cold", unit: "h", digits: 1, value: (z) => z.unmetHours.heating },
  { text: "Too warm", unit: "h", digits: 1, value: (z) => z.unmetHours.cooling },
];

/** Every zone on one line; a click on a head sorts. */
export function ZoneTable({ summary, source }: { summary: Summary; source: string }) {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project | null;
  const tall: ReadonlySet<string> = project ? tallZones(project) : new Set();
  const [sort, setSort] = useState<number | null>(null);
  const zones = sort === null ? summary.zones : [...summary.zones].sort((a, b) => (columns[sort].value(b) ?? 0) - (columns[sort].value(a) ?? 0));
  const csv = (): void =>
    saveCsv("zones", [
      ["zone", ...columns.map((c) => `${c.text} (${units.unit(unitOf(c.unit, summary))})`)],
      ...zones.map((z) => [
        z.name,
        ...columns.map((c) => {
          const v = c.value(z);
          return v === null ? "" : units.value(v, c.unit);
        }),
      ]),
    ]);
  return (
    <>
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          Zones
        </Text>
        <Text color="ink2">
          {source} · air temperatures over the whole {isWholeYear(summary) ? "year" : "period"}, peaks are hourly means, cooling with its latent part; unmet
          hours with people or in use
        </Text>
        <Flex ml="auto">
          <Act onClick={csv}>CSV</Act>
        </Flex>
      </Flex>
      <Grid
        label="Zones"
        head={[
          {
            text: (
              <Act key="z" onClick={() => setSort(null)}>
                Zone
              </Act>
            ),
            left: true,
          },
          ...columns.map((c, i) => ({
            text: (
              <Act key={c.text} onClick={() => setSort(i)}>
                {sort === i ? `${c.text} ▾` : c.text}
              </Act>
            ),
            unit: units.unit(unitOf(c.unit, summary)),
          })),
        ]}
        rows={zones.map((z) => ({
          key: z.id,
          cells: [tall.has(z.id) ? `${z.name} *` : z.name, ...columns.map((c) => units.text(c.value(z), c.unit, c.digits))],
        }))}
      />
      {zones.some((z) => tall.has(z.id)) && <TallNote />}
    </>
  );
}
