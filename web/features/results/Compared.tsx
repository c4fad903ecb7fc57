"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo } from "react";
import { endUses, flowNames, type Project, type Summary } from "@arroyo/core";
import { flowLabel } from "../../ui/colours.ts";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { monthNames, sum } from "../../ui/format.ts";
import { Grid, Middle } from "../../ui/Panes.tsx";
import { saveCsv } from "../../ui/saveCsv.ts";
import { useUnits } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";
import { useQuery } from "../useQuery.ts";
import { variantsOf, useYears } from "../options/useVariants.ts";
import { useSummaries, type Run } from "./useRuns.ts";

/** So many are compared at most. */
const MOST = 8;
const WHOLE = "whole";

interface Source {
  readonly key: string;
  readonly name: string;
  readonly summary: Summary | null;
}
interface Row {
  readonly key: string;
  readonly part: string;
  readonly name: string;
  readonly unit: string;
  readonly digits: number;
  /** Of the run or of a month, from 0; null: not of a month, or not told. */
  readonly value: (s: Summary, month: number | null) => number | null;
}

const of = (monthly: readonly number[], month: number | null): number => (month === null ? sum(monthly) : monthly[month]);
const rows: readonly Row[] = [
  { key: "energy", part: "Site energy", name: "all end uses", unit: "kWh", digits: 0, value: (s, m) => sum(s.energy.endUses.map((u) => of(u.monthly, m))) },
  ...endUses.map((use): Row => ({
    key: `use ${use}`,
    part: "Site energy",
    name: use,
    unit: "kWh",
    digits: 0,
    value: (s, m) => sum(s.energy.endUses.filter((u) => u.use === use).map((u) => of(u.monthly, m))),
  })),
  ...(["heating", "cooling", "dehumidification", "humidification"] as const).map((load): Row => ({
    key: `load ${load}`,
    part: "Heat moved",
    name: load,
    unit: "kWh",
    digits: 0,
    value: (s, m) => of(s.loads[load].monthly, m),
  })),
  ...flowNames
    .filter((f) => f !== "heating" && f !== "cooling")
    .map((f): Row => ({ key: `flow ${f}`, part: "Gains and losses", name: flowLabel[f], unit: "kWh", digits: 0, value: (s, m) => of(s.flows[f], m) })),
  { key: "bill", part: "Cost", name: "cost", unit: "", digits: 0, value: (s, m) => (m === null ? s.energy.cost : (s.energy.bill?.costByMonth[m] ?? null)) },
  {
    key: "carbon",
    part: "Carbon",
    name: "carbon",
    unit: "kg CO₂e",
    digits: 0,
    value: (s, m) => (m === null ? s.energy.carbon : (s.energy.bill?.carbonByMonth[m] ?? null)),
  },
  ...(["heating", "cooling"] as const).map((p): Row => ({
    key: `peak ${p}`,
    part: "Peaks",
    name: p,
    unit: "kW",
    digits: 1,
    value: (s, m) => (m === null ? s.peaks[p].power / 1000 : null),
  })),
  { key: "unmet", part: "Peaks", name: "hours unmet", unit: "h", digits: 1, value: (s, m) => (m === null ? s.unmetHours : null) },
];

/** Runs, options and pins side by side in an order, each against the one before it, over the year or one month. */
export function Compared({ runs, when }: { runs: readonly Run[]; when: (iso: string) => string }) {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const document = useStore((s) => s.document) as Project;
  const pins = useStore((s) => s.pins);
  const now = tally(useLiveFigures());
  const variants = useMemo(() => variantsOf(document), [document]);
  const [query, go] = useQuery();
  const done = runs.filter((r) => r.status === "done");
  const chosen = (query.get("with") ?? "now").split(",").filter(Boolean).slice(0, MOST);
  const { summaryOf, busy } = useYears(variants.filter((v) => chosen.includes(`option:${v.id ?? ""}`)));
  const stored = useSummaries(
    done.filter((r) => chosen.includes(`run:${r.hash}`)).map((r) => r.hash),
    project,
  );
  const known: readonly Source[] = [
    { key: "now", name: "the year as it is now", summary: now.summary },
    ...variants.map((v) => ({ key: `option:${v.id ?? ""}`, name: v.id === null ? "Base" : `Option ${v.name}`, summary: summaryOf(v.key) })),
    ...pins.map((p, i) => ({ key: `pin:${i}`, name: `Pin ${p.name}`, summary: p.summary })),
    ...done.map((r) => ({ key: `run:${r.hash}`, name: `Run of ${when(r.createdAt)}`, summary: stored[r.hash] ?? null })),
  ];
  const sources = chosen.flatMap((key) => known.filter((s) => s.key === key));
  const over = query.get("month") ?? WHOLE;
  const month = over === WHOLE ? null : Number(over);
  const list = (keys: readonly string[]): void => go({ with: keys.join(",") });
  const values = (r: Row): (number | null)[] => sources.map((s) => (s.summary ? r.value(s.summary, month) : null));
  const shown = rows.filter((r) => values(r).some((v) => v !== null && Math.abs(v) > 0.5 * 10 ** -r.digits));
  const { currency } = document.prices;
  const unitOf = (r: Row): string => (r.key === "bill" ? currency : units.unit(r.unit));
  const csv = (): void =>
    saveCsv("compared", [
      ["", "", "unit", ...sources.map((s) => s.name)],
      ...shown.map((r) => [r.part, r.name, unitOf(r), ...values(r).map((v) => (v === null ? null : units.value(v, r.unit === "" ? "1" : r.unit)))]),
    ]);
  return (
    <Middle label="Compared">
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          Compared
        </Text>
        <SelectInput
          label="Compared over"
          align="left"
          width="120px"
          value={over}
          options={[{ value: WHOLE, label: "the whole run" }, ...monthNames.map((m, i) => ({ value: String(i), label: m }))]}
          onChange={(v) => go({ month: v })}
        />
        <SelectInput
          label="Add to the comparison"
          align="left"
          width="230px"
          value=""
          options={[
            { value: "", label: "+ run, option or pin" },
            ...known.filter((s) => !chosen.includes(s.key)).map((s) => ({ value: s.key, label: s.name })),
          ]}
          onChange={(v) => v !== "" && chosen.length < MOST && list([...chosen, v])}
        />
        <Text color="ink2" flex="1">
          in small, the difference from the one before; up to eight{busy > 0 ? ` · ${busy} still to compute` : ""}
        </Text>
        <Act onClick={csv}>CSV</Act>
      </Flex>
      <Box overflowX="auto" tabIndex={0} role="region" aria-label="Comparison">
        <Grid
          label="Compared"
          head={[
            { text: "", left: true },
            { text: "", left: true },
            ...sources.map((s, i) => ({
              text: (
                <Box>
                  <Text>{s.name}</Text>
                  <Flex gap="1.5" justify="flex-end">
                    {i > 0 && (
                      <Act
                        title={`${s.name} one place earlier`}
                        onClick={() => list(chosen.map((k, j) => (j === i - 1 ? chosen[i] : j === i ? chosen[i - 1] : k)))}
                      >
                        ◂
                      </Act>
                    )}
                    {sources.length > 1 && (
                      <Act title={`Without ${s.name}`} onClick={() => list(chosen.filter((k) => k !== s.key))}>
                        ×
                      </Act>
                    )}
                  </Flex>
                </Box>
              ),
            })),
          ]}
          rows={shown.map((r, k) => {
            const list = values(r);
            return {
              key: r.key,
              cells: [
                shown[k - 1]?.part === r.part ? "" : r.part,
                <Text key="n" as="span">
                  {r.name}{" "}
                  <Text as="span" color="ink2" fontSize="11px">
                    {unitOf(r)}
                  </Text>
                </Text>,
                ...list.map((v, i) => {
                  const before = i > 0 ? list[i - 1] : null;
                  const moved = v !== null && before !== null && Math.abs(v - before) >= 0.5 * 10 ** -r.digits;
                  return (
                    <Text key={sources[i].key} as="span" whiteSpace="nowrap">
                      {moved && (
                        <Text as="span" fontSize="11px" color={v > before ? "clay" : "water"} mr="1.5">
                          {units.difference(v - before, r.unit === "" ? "1" : r.unit, r.digits)}
                        </Text>
                      )}
                      {units.text(v, r.unit === "" ? "1" : r.unit, r.digits)}
                    </Text>
                  );
                }),
              ],
            };
          })}
        />
      </Box>
    </Middle>
  );
}
