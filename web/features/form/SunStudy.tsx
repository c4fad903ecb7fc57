"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useState } from "react";
import { canonicalJson, hashText, type Face, type FaceSun, type Project, type SunPeriod, yearParts } from "@arroyo/core";
import type { FromSun, ToSun } from "../../live/sun.ts";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { figure, monthNames } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { saveCsv } from "../../ui/saveCsv.ts";
import { useUnits } from "../../ui/units.ts";
import { fetchStored, useStore } from "../store.ts";
import { Building } from "./Building.tsx";
import { hostName } from "./names.ts";
import { rampColour } from "./sceneParts.ts";

const STARTS = [0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334];
const LENGTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
const periods: readonly { readonly value: string; readonly label: string; readonly period: SunPeriod }[] = [
  { value: "year", label: "the year", period: { from: 0, days: 365 } },
  { value: "summer", label: "21 June", period: { from: 171, days: 1 } },
  { value: "equinox", label: "21 March", period: { from: 79, days: 1 } },
  { value: "winter", label: "21 December", period: { from: 354, days: 1 } },
  ...monthNames.map((name, i) => ({ value: name, label: name, period: { from: STARTS[i], days: LENGTHS[i] } })),
];
const quantities = { total: "irradiation", hours: "hours of sun" } as const;

/** Sun on every outdoor face over a period, in the building and in a table; needs the form and the weather alone. */
export function SunStudy({ project, storey }: { project: Project; storey: string }) {
  const units = useUnits();
  const [chosen, setChosen] = useState("year");
  const [quantity, setQuantity] = useState<keyof typeof quantities>("total");
  const [state, setState] = useState<{ key: string; rows: readonly FaceSun[] | null; share: number; message: string | null; seconds: number | null }>({
    key: "",
    rows: null,
    share: 0,
    message: null,
    seconds: null,
  });
  const [stopped, setStopped] = useState(false);
  const select = useStore((s) => s.select);
  const { period } = periods.find((p) => p.value === chosen) ?? periods[0];
  const key = useMemo(
    () =>
      hashText(
        canonicalJson([
          project.site,
          yearParts(project),
          project.storeys,
          project.roofs,
          Object.entries(project.spaces).map(([id, s]) => [id, s.form, s.storey]),
          project.shades,
          project.onSite,
          project.surroundings,
          project.openings,
          project.faceOverrides,
          project.run.sky,
          chosen,
        ]),
      ),
    [project, chosen],
  );
  useEffect(() => {
    if (stopped) return;
    const worker = new Worker(new URL("../../live/sun.ts", import.meta.url), { type: "module" });
    worker.onmessage = (e: MessageEvent<FromSun>) => {
      const m = e.data;
      if (m.kind === "progress") setState((s) => ({ ...s, share: m.share }));
      else if (m.kind === "result") setState({ key, rows: m.rows, share: 1, message: null, seconds: m.seconds });
      else setState((s) => ({ ...s, key, message: m.message }));
    };
    worker.onerror = (e) => setState((s) => ({ ...s, key, message: `The sun study stopped: ${e.message}` }));
    void fetchStored(project).then((stored) => worker.postMessage({ project, stored, period } satisfies ToSun));
    return () => worker.terminate();
    // one study a content, whatever objects carry it
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, stopped]);
  const rows = useMemo(() => [...(state.rows ?? [])].sort((a, b) => b[quantity] - a[quantity]), [state.rows, quantity]);
  const most = rows[0]?.[quantity] ?? 0;
  const byKey = useMemo(() => new Map(rows.map((r) => [r.key, r])), [rows]);
  const paint = useMemo(
    () =>
      (f: Face): string | null => {
        const r = byKey.get(f.key);
        return r && most > 0 ? rampColour(r[quantity] / most) : null;
      },
    [byKey, quantity, most],
  );
  const busy = state.key !== key && !stopped;
  return (
    <Flex h="100%">
      <Box flex="1.15" minW="0" position="relative">
        <Building project={project} storey={storey} compact paint={paint} />
        {most > 0 && (
          <Box position="absolute" right="3" bottom="3" fontSize="11.5px" color="ink2" textAlign="right">
            <Text>{quantity === "total" ? units.unit("kWh/m²") : quantities[quantity]}</Text>
            <Box
              w="130px"
              h="9px"
              border="1px solid"
              borderColor="line"
              style={{ background: `linear-gradient(to right, ${[0, 0.25, 0.5, 0.75, 1].map(rampColour).join(",")})` }}
            />
            <Flex justify="space-between">
              <span>0</span>
              <span>{quantity === "hours" ? figure(most, 0) : units.text(most, "kWh/m²", most < 20 ? 1 : 0)}</span>
            </Flex>
          </Box>
        )}
      </Box>
      <Box flex="1" minW="0" borderLeft="1px solid" borderColor="line" overflowY="auto" px="3" py="2" tabIndex={0} role="region" aria-label="Sun by face">
        <Flex align="center" gap="2" mb="1" flexWrap="wrap">
          <Text fontWeight="600">Sun on outdoor faces</Text>
          <SelectInput
            label="Period of the sun study"
            width="104px"
            value={chosen}
            options={periods.map(({ value, label }) => ({ value, label }))}
            onChange={setChosen}
          />
          <SelectInput
            label="Shown in the building"
            width="104px"
            value={quantity}
            options={Object.entries(quantities).map(([value, label]) => ({ value, label }))}
            onChange={(v) => setQuantity(v === "hours" ? "hours" : "total")}
          />
          <Act
            onClick={() =>
              saveCsv(`${project.name} sun`, [
                [
                  "face",
                  "space",
                  `area (${units.unit("m²")})`,
                  "hours of sun (h)",
                  ...["beam", "diffuse", "total"].map((q) => `${q} (${units.unit("kWh/m²")})`),
                ],
                ...rows.map((r) => [
                  hostName(project, r.host),
                  project.spaces[r.space]?.name ?? "",
                  units.value(r.area, "m²").toFixed(2),
                  r.hours.toFixed(1),
                  units.value(r.beam, "kWh/m²").toFixed(2),
                  units.value(r.diffuse, "kWh/m²").toFixed(2),
                  units.value(r.total, "kWh/m²").toFixed(2),
                ]),
              ])
            }
          >
            CSV
          </Act>
        </Flex>
        <Text color="ink2" fontSize="12px" mb="1" role="status">
          {state.message !== null && state.key === key ? (
            <Text as="span" color="clay">
              {state.message}
            </Text>
          ) : busy ? (
            <>
              casting shadows, {figure(100 * state.share, 0)} % <Act onClick={() => setStopped(true)}>cancel</Act>
            </>
          ) : stopped ? (
            <>
              cancelled <Act onClick={() => setStopped(false)}>go on</Act>
            </>
          ) : (
            `${rows.length} faces in ${figure(state.seconds, 2)} s · hours as if the sky were clear · irradiation from the weather year`
          )}
        </Text>
        <Grid
          label="Sun by face"
          head={[
            { text: "Face", left: true },
            { text: "Area", unit: units.unit("m²") },
            { text: "Sun", unit: "h" },
            { text: "Beam", unit: units.unit("kWh/m²") },
            { text: "Diffuse", unit: units.unit("kWh/m²") },
            { text: "Total", unit: units.unit("kWh/m²") },
          ]}
          rows={rows
            .filter((r) => project.spaces[r.space])
            .map((r) => ({
              key: r.key,
              cells: [
                hostName(project, r.host),
                units.text(r.area, "m²", 1),
                figure(r.hours, 0),
                units.text(r.beam, "kWh/m²", most < 20 ? 2 : 0),
                units.text(r.diffuse, "kWh/m²", most < 20 ? 2 : 0),
                units.text(r.total, "kWh/m²", most < 20 ? 2 : 0),
              ],
              onClick: () => select([{ kind: "wall", id: r.host }]),
            }))}
        />
      </Box>
    </Flex>
  );
}
