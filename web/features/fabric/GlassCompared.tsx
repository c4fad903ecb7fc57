"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { applyChanges, checkProject, glazingRating, physicsHash, swapChanges, whereUsed, type Project, type Summary } from "@arroyo/core";
import { Act, Head, SelectInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useYears } from "../options/useVariants.ts";
import { useStore } from "../store.ts";

interface Row {
  readonly label: string;
  readonly unit: string;
  readonly digits: number;
  of(s: Summary): number | null;
}
const end = (s: Summary, use: string): number => s.energy.endUses.filter((e) => e.use === use).reduce((a, e) => a + e.total, 0);
const rows: readonly Row[] = [
  { label: "Site energy", unit: "kWh/m²a", digits: 1, of: (s) => s.energy.intensity },
  { label: "Heating", unit: "kWh", digits: 0, of: (s) => end(s, "heating") },
  { label: "Cooling", unit: "kWh", digits: 0, of: (s) => end(s, "cooling") },
  { label: "Lighting", unit: "kWh", digits: 0, of: (s) => end(s, "lighting") },
  { label: "Peak heating", unit: "kW", digits: 1, of: (s) => s.peaks.heating.power / 1000 },
  { label: "Peak cooling", unit: "kW", digits: 1, of: (s) => s.peaks.cooling.power / 1000 },
  {
    label: "Mean daylight factor",
    unit: "%",
    digits: 2,
    of: (s) => (s.daylight.length > 0 ? s.daylight.reduce((a, d) => a + d.factor, 0) / s.daylight.length : null),
  },
  {
    label: "Lit by daylight alone, of hours in use",
    unit: "%",
    digits: 0,
    of: (s) => {
      const of = s.daylight.reduce((a, d) => a + d.of, 0);
      return of > 0 ? (100 * s.daylight.reduce((a, d) => a + d.hours, 0)) / of : null;
    },
  },
];

/** One glazing in the place of another everywhere: year, peak and daylight of both. */
export function GlassCompared({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const used = Object.keys(project.glazings).filter((g) => g !== id && whereUsed(project, "glazings", g).length > 0);
  const others = Object.keys(project.glazings).filter((g) => g !== id);
  const mine = whereUsed(project, "glazings", id).length > 0;
  const [other, setOther] = useState<string | null>(null);
  const [asked, setAsked] = useState(false);
  const against = other !== null && project.glazings[other] ? other : (used[0] ?? others[0]);
  // a glazing that is used gives its place to the other; one that is not takes the other's
  const [from, to] = mine && !used.includes(against ?? "") ? [id, against] : [against, id];
  const changed = useMemo(() => {
    if (!asked || from === undefined || to === undefined) return null;
    const made = applyChanges(project, swapChanges(project, "glazings", from, to));
    return made.ok ? made.project : null;
  }, [asked, project, from, to]);
  const years = useMemo(
    () =>
      changed === null
        ? []
        : [project, changed].map((p) => ({
            project: p,
            key: physicsHash(p),
            blocked: checkProject(p).problems.find((x) => x.severity === "error")?.message ?? null,
          })),
    [changed, project],
  );
  const { summaryOf, busy } = useYears(years);
  if (against === undefined) return null;
  const [now, then] = years.map((y) => summaryOf(y.key));
  const name = (g: string): string => project.glazings[g].name;
  const rating = (g: string): string => {
    try {
      const r = glazingRating(project.glazings[g]);
      return `U ${units.words(r.u, "W/m²K", 2)}, g ${r.g.toFixed(2)}, light ${r.visibleTransmittance.toFixed(2)}`;
    } catch {
      return "—";
    }
  };
  return (
    <Box mt="3" data-testid="glass-compared">
      <Flex align="baseline" gap="3" wrap="wrap">
        <Head mt="1">Compared with the façade</Head>
        <SelectInput
          label="Glazing compared with"
          width="230px"
          align="left"
          value={against}
          options={others.map((g) => ({ value: g, label: `${name(g)}${used.includes(g) ? "" : ", used nowhere"}` }))}
          onChange={(v) => {
            setOther(v);
            setAsked(false);
          }}
        />
        {!asked && <Act onClick={() => setAsked(true)}>Run both years</Act>}
        {busy > 0 && (
          <Text color="ink2" role="status">
            {busy} {busy === 1 ? "year" : "years"} to run …
          </Text>
        )}
        {asked && from !== undefined && to !== undefined && (
          <Act onClick={() => edit(`${name(to)} in place of ${name(from)}`, swapChanges(project, "glazings", from, to))}>Put {name(to)} in its place</Act>
        )}
      </Flex>
      <Text color="ink2" fontSize="11.5px">
        {name(id)}: {rating(id)} · {name(against)}: {rating(against)}
      </Text>
      {asked && years[1]?.blocked && <Text color="clay">{years[1].blocked}</Text>}
      {asked && from !== undefined && to !== undefined && (
        <Box maxW="640px">
          <Grid
            label="Both years"
            head={[{ text: "", left: true }, { text: `now: ${name(from)}` }, { text: `with ${name(to)}` }, { text: "Difference" }, { text: "", left: true }]}
            rows={rows.map((r) => {
              const [a, b] = [now ? r.of(now) : null, then ? r.of(then) : null];
              return {
                key: r.label,
                cells: [
                  <Text key="l" color="ink2">
                    {r.label}
                  </Text>,
                  units.text(a, r.unit, r.digits),
                  units.text(b, r.unit, r.digits),
                  a !== null && b !== null ? units.difference(b - a, r.unit, r.digits) : "—",
                  <Text key="u" color="ink2" as="span">
                    {units.unit(r.unit)}
                  </Text>,
                ],
              };
            })}
          />
        </Box>
      )}
    </Box>
  );
}
