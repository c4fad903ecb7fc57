"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { effective, loadComponents, setChange, sizingHash, type LoadComponent, type Peak, type Project, type Sizing } from "@arroyo/core";
import type { ToSizing } from "../../live/sizing.ts";
import { useFound, type Found } from "../../live/useFound.ts";
import { Act, Quantity } from "../../ui/fields.tsx";
import { monthNames } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

/** Peaks of the project as it is, found again after every edit; the last ones stay until the new ones are there. */
function useSizing(project: Project): Found<Sizing> {
  return useFound<Sizing>(
    sizingHash(project),
    project,
    () => new Worker(new URL("../../live/sizing.ts", import.meta.url), { type: "module" }),
    (storedWeather): ToSizing => ({ project, storedWeather }),
  );
}

/** Found peaks beside typed capacities, zone by zone, and the components of one of them. */
export function SizingTable() {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const { result: sizing, current, message } = useSizing(project);
  const [shown, setShown] = useState<{ zone: string | null; load: "heating" | "cooling" }>({ zone: null, load: "cooling" });
  if (!sizing)
    return <Box h="300px">{message ? <Text color="clay">{message}</Text> : <Text color="ink2">Finding the design days and their peaks …</Text>}</Box>;
  const capacity = (zone: string, field: "heatingCapacity" | "coolingCapacity", found: number) => {
    const e = effective(project, "zone", zone, field);
    const typed = e.value as number | null;
    const short = typed !== null && typed < found - 1;
    const path = ["zones", zone, "inputs", field];
    const name = project.zones[zone].name;
    return typed === null ? (
      <Act
        title={`Type a capacity for ${name}; unlimited now`}
        onClick={() => edit(`${name}: capacity as found`, [setChange(project, path, Math.ceil(found / 100) * 100)])}
      >
        unlimited
      </Act>
    ) : (
      <Flex as="span" display="inline-flex" align="center" gap="1" color={short ? "clay" : undefined}>
        {short && <span title="Less than the design day needs">!</span>}
        <Quantity
          bare
          label={`${field === "heatingCapacity" ? "Heating" : "Cooling"} capacity of ${name}`}
          width="52px"
          value={typed}
          unit="W"
          shown="kW"
          digits={1}
          onCommit={(v) => edit(`${name}: capacity ${units.words(v / 1000, "kW", 1)}`, [setChange(project, path, v)])}
        />
        <Act title="Back to unlimited" onClick={() => edit(`${name}: unlimited`, [{ op: "unset", path, old: typed }])}>
          ×
        </Act>
      </Flex>
    );
  };
  const when = (peak: Peak) => {
    const day = sizing.days.find((d) => d.id === peak.day);
    return day ? <span title={day.name}>{`${Number(day.date.slice(3))} ${monthNames[Number(day.date.slice(0, 2)) - 1]} ${peak.at ?? ""}`}</span> : "—";
  };
  const zone = shown.zone === null ? null : (sizing.zones.find((z) => z.id === shown.zone) ?? null);
  const peak = (zone ?? sizing.building)[shown.load];
  return (
    <Box opacity={current ? 1 : 0.6}>
      <Text as="h2" textStyle="title">
        Peaks of design days
      </Text>
      <Text color="ink2" mb="1">
        The worst of {sizing.days.length} design days, chosen on Place: heating without sun, gains or setback, cooling under a clear sky; each repeated until
        cyclic. {sizing.days.map((d) => `${d.name} ${units.words(d.highest, "°C", 1)}`).join(" · ")}
      </Text>
      {sizing.warnings.map((w) => (
        <Text key={w} color="clay" mb="1">
          {w}
        </Text>
      ))}
      <Flex gap="5" align="flex-start">
        <Box flex="1">
          <Grid
            label="Peaks of design days"
            head={[
              { text: "Zone", left: true },
              { text: "Heat", unit: units.unit("kW") },
              { text: "at" },
              { text: "Typed", unit: units.unit("kW") },
              { text: "Cold", unit: units.unit("kW") },
              { text: "at" },
              { text: "Typed", unit: units.unit("kW") },
            ]}
            rows={[
              ...sizing.zones
                .filter((z) => project.zones[z.id])
                .map((z) => ({
                  key: z.id,
                  active: shown.zone === z.id,
                  onClick: () => setShown({ ...shown, zone: z.id }),
                  cells: [
                    z.name,
                    units.text(z.heating.power / 1000, "kW", 1),
                    when(z.heating),
                    capacity(z.id, "heatingCapacity", z.heating.power),
                    units.text(z.cooling.power / 1000, "kW", 1),
                    when(z.cooling),
                    capacity(z.id, "coolingCapacity", z.cooling.power),
                  ],
                })),
              {
                key: "building",
                active: shown.zone === null,
                onClick: () => setShown({ ...shown, zone: null }),
                cells: [
                  <b key="b">Building, at one time</b>,
                  <b key="h">{units.text(sizing.building.heating.power / 1000, "kW", 1)}</b>,
                  when(sizing.building.heating),
                  "",
                  <b key="c">{units.text(sizing.building.cooling.power / 1000, "kW", 1)}</b>,
                  when(sizing.building.cooling),
                  "",
                ],
              },
            ]}
          />
        </Box>
        <Box w="212px" flexShrink={0}>
          <Text fontWeight="600">{zone ? zone.name : "Building"}</Text>
          <Flex gap="3" mb="1">
            {(["heating", "cooling"] as const).map((load) => (
              <Act key={load} onClick={() => setShown({ ...shown, load })}>
                <Text as="span" fontWeight={shown.load === load ? "600" : "400"} textDecoration={shown.load === load ? "underline" : "none"}>
                  {load}
                </Text>
              </Act>
            ))}
            <Text color="ink2" ml="auto">
              {units.unit("kW")} at {when(peak)}
            </Text>
          </Flex>
          <Components components={peak.components} />
        </Box>
      </Flex>
    </Box>
  );
}

/** What a peak is made of, gains to the right of the line and losses to the left. */
function Components({ components }: { components: Partial<Record<LoadComponent, number>> }) {
  const units = useUnits();
  const rows = loadComponents.map((c) => ({ c, w: components[c] ?? 0 })).filter((r) => Math.abs(r.w) >= 0.5);
  const top = Math.max(1, ...rows.map((r) => Math.abs(r.w)));
  return (
    <>
      {rows.map((r) => (
        <Box key={r.c} py="0.5" borderBottom="1px solid" borderColor="line">
          <Flex justify="space-between">
            <Text color="ink2">{r.c}</Text>
            <Text>{units.text(r.w / 1000, "kW", 2)}</Text>
          </Flex>
          <Box position="relative" h="4px">
            <Box
              position="absolute"
              h="4px"
              background={r.w > 0 ? "clay" : "water"}
              style={r.w > 0 ? { left: "50%", width: `${(50 * r.w) / top}%` } : { right: "50%", width: `${(-50 * r.w) / top}%` }}
            />
          </Box>
        </Box>
      ))}
      {rows.length === 0 && <Text color="ink2">No load.</Text>}
    </>
  );
}
