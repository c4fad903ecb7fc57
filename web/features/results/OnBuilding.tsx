"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useState } from "react";
import { checkProject, dateInRun, dayOfYear, faceQuantities, statistics, zoneQuantities, type Face, type Project, type Statistics } from "@arroyo/core";
import type { SeriesClass } from "../../live/seriesClasses.ts";
import type { YearSeries } from "../../live/yearSeries.ts";
import { Act, NumberInput, SelectInput } from "../../ui/fields.tsx";
import { roundTicks } from "../../ui/format.ts";
import { Grid, Middle } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { Building } from "../form/Building.tsx";
import { useForm } from "../form/formStore.ts";
import { rampColour } from "../form/sceneParts.ts";
import { HourChoice } from "../HourChoice.tsx";
import { useStore } from "../store.ts";
import { hourWords, useYearSeries } from "../yearSeries.ts";
import { faceName } from "./faceName.ts";

/** An hour of the film lasts this long, ms. */
const FRAME = 220;
const ofFaces = faceQuantities.filter((q) => ["outsideSurface", "insideSurface", "incidentSun", "litShare", "faceFlow"].includes(q.name));
const scales = ["fixed over the run", "fitted to the hour", "typed"] as const;
const FACES = ["faces"] as const satisfies readonly SeriesClass[];
const ZONES = ["zones"] as const satisfies readonly SeriesClass[];

interface Row {
  /** Key of the face, or the zone's id. */
  readonly id: string;
  readonly name: string;
  readonly values: ArrayLike<number>;
  readonly stats: Statistics;
}

/** Any quantity of faces or zones on the building itself, at any hour, with the sun where it stands, and as a film. */
export function OnBuilding() {
  const project = useStore((s) => s.project) as Project;
  const units = useUnits();
  const setForm = useForm((s) => s.set);
  const [quantity, setQuantity] = useState("face outsideSurface");
  const [hour, setHour] = useState(24 * 202 + 14);
  const [playing, setPlaying] = useState(false);
  const [scale, setScale] = useState<(typeof scales)[number]>("fixed over the run");
  const [typed, setTyped] = useState<readonly [number, number]>([0, 50]);
  const [kind, name] = quantity.split(" ");
  const onFaces = kind === "face";
  const { year, current, share, message } = useYearSeries(project, onFaces ? FACES : ZONES);
  const spec = [...(onFaces ? ofFaces : zoneQuantities)].find((q) => q.name === name) ?? ofFaces[0];
  const rows = useMemo(() => (year ? rowsOf(project, year, onFaces, name) : []), [project, year, onFaces, name]);
  const hours = year?.hours ?? 8760;
  const now = Math.min(hour, hours - 1);
  const days = year ?? { firstDay: 0, leapDays: [] };
  const { firstDay, leapDays } = days;
  useEffect(() => {
    const [month, day] = dateInRun(firstDay, leapDays, Math.floor(now / 24));
    setForm({ sun: { day: dayOfYear(month, day), hour: (now % 24) + 0.5 } });
  }, [now, firstDay, leapDays, setForm]);
  // the Form desk finds its light as it was
  useEffect(() => {
    const before = useForm.getState().sun;
    return () => setForm({ sun: before });
  }, [setForm]);
  useEffect(() => {
    if (!playing) return;
    const timer = setInterval(() => setHour((h) => (h + 1) % hours), FRAME);
    return () => clearInterval(timer);
  }, [playing, hours]);
  const span = useMemo((): readonly [number, number] => {
    if (scale === "typed") return typed;
    const known = rows.flatMap((r) => (scale === "fitted to the hour" ? [r.values[now]] : [r.stats.least, r.stats.most])).filter((v) => v === v);
    if (known.length === 0) return [0, 1];
    const { ticks } = roundTicks([Math.min(...known), Math.max(...known)], 12);
    return [ticks[0], ticks[ticks.length - 1]];
  }, [scale, typed, rows, now]);
  const byId = useMemo(() => new Map(rows.map((r) => [r.id, r])), [rows]);
  const rowOf = (f: Face): Row | undefined => byId.get(onFaces ? f.key : (project.spaces[f.space]?.zone ?? ""));
  const paint = useMemo(
    () =>
      (f: Face): string | null => {
        const v = byId.get(onFaces ? f.key : (project.spaces[f.space]?.zone ?? ""))?.values[now] ?? NaN;
        return v === v ? rampColour((v - span[0]) / (span[1] - span[0])) : null;
      },
    [byId, now, span, onFaces, project],
  );
  const digits = spec.unit === "W" || spec.unit === "W/m²" ? 0 : spec.unit === "1" ? 2 : 1;
  const text = (v: number): string => (v === v ? units.text(v, spec.unit === "" ? "1" : spec.unit, digits) : "—");
  const sorted = [...rows].sort((a, b) => (b.values[now] || 0) - (a.values[now] || 0));
  const storey = Object.keys(project.storeys)[0] ?? "";
  const unit = spec.unit === "1" || spec.unit === "" ? "" : units.unit(spec.unit);
  const commit = (next: readonly [number, number]): string | null => {
    if (!(next[0] < next[1])) return "The upper end must be above the lower one.";
    setTyped(next);
    return null;
  };
  return (
    <Middle label="On the building">
      <Flex direction="column" h="100%">
        <Flex align="center" gap="3" mb="1">
          <Text as="h2" textStyle="title" whiteSpace="nowrap">
            On the building
          </Text>
          <SelectInput
            label="Quantity on the building"
            align="left"
            width="220px"
            value={quantity}
            options={[
              ...ofFaces.map((q) => ({ value: `face ${q.name}`, label: `Faces: ${q.label.toLowerCase()}` })),
              ...zoneQuantities.map((q) => ({ value: `zone ${q.name}`, label: `Zones: ${q.label.toLowerCase()}` })),
            ]}
            onChange={setQuantity}
          />
          <SelectInput
            label="Scale"
            align="left"
            width="140px"
            value={scale}
            options={scales.map((s) => ({ value: s, label: s }))}
            onChange={(v) => {
              setScale(v as (typeof scales)[number]);
              if (v === "typed") setTyped(span);
            }}
          />
          {scale === "typed" && (
            <>
              <NumberInput label="Lower end of the scale" width="54px" value={typed[0]} onCommit={(v) => commit([v, typed[1]])} />
              <NumberInput label="Upper end of the scale" width="54px" value={typed[1]} onCommit={(v) => commit([typed[0], v])} />
            </>
          )}
          <Act onClick={() => setPlaying(!playing)}>{playing ? "Pause" : "Play"}</Act>
          {year && <HourChoice year={year} hour={now} onChange={setHour} />}
        </Flex>
        <Flex flex="1" minH="0">
          <Box flex="1.4" minW="0" position="relative" border="1px solid" borderColor="line" role="region" aria-label="Building coloured by the quantity">
            <Building
              project={project}
              storey={storey}
              compact
              driven
              paint={paint}
              words={(f) => {
                const row = rowOf(f);
                return row ? `${text(row.values[now])} ${unit}` : null;
              }}
            />
            <Box position="absolute" right="3" bottom="3" fontSize="11.5px" color="ink2" textAlign="right">
              <Text>
                {spec.label}
                {unit && `, ${unit}`}
              </Text>
              <Box
                w="150px"
                h="9px"
                border="1px solid"
                borderColor="line"
                ml="auto"
                style={{ background: `linear-gradient(to right, ${[0, 0.25, 0.5, 0.75, 1].map(rampColour).join(",")})` }}
              />
              <Flex justify="space-between" w="150px" ml="auto">
                <span>{text(span[0])}</span>
                <span>{text(span[1])}</span>
              </Flex>
            </Box>
          </Box>
          <Box flex="1" minW="0" overflowY="auto" pl="3" tabIndex={0} role="region" aria-label="Values">
            {!year || message ? (
              <Text color={message ? "clay" : "ink2"}>
                {message ?? `The year is run for this quantity${share === null ? "" : `, ${Math.round(100 * share)} %`} …`}
              </Text>
            ) : (
              <>
                <Text color="ink2" fontSize="12px" data-testid="hour-on-building">
                  mean of the hour to {hourWords(days, now)}
                  {current ? "" : ", of the model before the last edit"}; a row takes you to its largest hour
                </Text>
                <Grid
                  label="Values on the building"
                  head={[
                    { text: onFaces ? "Face" : "Zone", left: true },
                    { text: "Now", unit },
                    { text: "Largest", unit },
                    { text: "at", left: true },
                  ]}
                  rows={sorted.map((r) => ({
                    key: r.id,
                    onClick: () => r.stats.mostAt >= 0 && setHour(r.stats.mostAt),
                    cells: [r.name, text(r.values[now]), text(r.stats.most), r.stats.mostAt < 0 ? "—" : hourWords(days, r.stats.mostAt)],
                  }))}
                />
              </>
            )}
          </Box>
        </Flex>
      </Flex>
    </Middle>
  );
}

/** Faces of the building, or zones, with their values. */
function rowsOf(project: Project, year: YearSeries, onFaces: boolean, quantity: string): Row[] {
  const rows = year.series[quantity] as YearSeries["series"][string] | undefined;
  if (!rows) return [];
  const row = (id: string, name: string): Row[] => (Object.hasOwn(rows, id) ? [{ id, name, values: rows[id], stats: statistics(rows[id]) }] : []);
  if (!onFaces) return Object.entries(project.zones).flatMap(([id, z]) => row(id, z.name));
  return checkProject(project).geometry.faces.flatMap((f) => (f.contact === "outdoors" || f.contact === "ground" ? row(f.key, faceName(project, f.key)) : []));
}
