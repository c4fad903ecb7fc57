"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { describeChange, freeId, mergedOptions, wholeOption, type Project, type Summary } from "@arroyo/core";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { axisStyle, roundAxis, tooltipStyle } from "../../ui/chartStyle.ts";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { figure, monthNames, stampText, sum } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { useHidden } from "../../ui/useHidden.ts";
import { useUnits } from "../../ui/units.ts";
import { newOption, useStore } from "../store.ts";
import { lineColour } from "../results/SeriesPlot.tsx";
import { FigureTable } from "./FigureTable.tsx";
import type { Variant } from "./useVariants.ts";

/** What an option is, before there is one. */
export function FirstOption() {
  return (
    <Box maxW="560px">
      <Text textStyle="title">An option is a list of changes over the base</Text>
      <Text color="ink2" my="2">
        Make one, then change anything anywhere: better glass, deeper shade, another set-point. The base stays as it is, and both years stand side by side here.
        For a start, make an option and give the south windows of the library triple glass. To try many inputs at once, make a study.
      </Text>
      <PrimaryButton onClick={newOption}>Make an option</PrimaryButton>
    </Box>
  );
}

/** The base and its options side by side: what differs going in, what differs coming out, month by month. */
export function SideBySide({
  document,
  variants,
  summaryOf,
  busy,
}: {
  document: Project;
  variants: readonly Variant[];
  summaryOf: (v: Variant) => Summary | null;
  busy: number;
}) {
  const base = summaryOf(variants[0]);
  return (
    <Flex direction="column" gap="4">
      <Box>
        <Flex align="baseline" gap="3" mb="1">
          <Text as="h2" textStyle="title">
            Results that differ
          </Text>
          <Text color="ink2">15-minute years; in small, the difference from the base{busy > 0 ? ` · ${busy} still to compute` : ""}</Text>
        </Flex>
        <Box overflowX="auto">
          <FigureTable
            label="Results that differ"
            currency={document.prices.currency}
            columns={variants.map((v) => ({ key: v.id ?? "base", name: v.name, summary: summaryOf(v), blocked: v.blocked !== null }))}
          />
        </Box>
      </Box>
      <ByMonth variants={variants} summaryOf={summaryOf} />
      <Inputs document={document} variants={variants} />
      {variants.length > 2 && <Merge document={document} />}
      {base && (
        <Text color="ink2" fontSize="12px">
          Base peaks: heating {stampText(base.peaks.heating.at)}, cooling {stampText(base.peaks.cooling.at)}
        </Text>
      )}
    </Flex>
  );
}

const monthlyFigures: readonly { readonly key: string; readonly words: string; readonly unit: string; readonly of: (s: Summary) => readonly number[] }[] = [
  { key: "energy", words: "Site energy", unit: "kWh", of: (s) => monthNames.map((_, m) => s.energy.endUses.reduce((t, u) => t + u.monthly[m], 0)) },
  { key: "heating", words: "Heat delivered", unit: "kWh", of: (s) => s.loads.heating.monthly },
  { key: "cooling", words: "Heat removed", unit: "kWh", of: (s) => monthNames.map((_, m) => s.loads.cooling.monthly[m] + s.loads.dehumidification.monthly[m]) },
  { key: "cost", words: "Cost", unit: "", of: (s) => s.energy.bill?.costByMonth ?? [] },
  { key: "carbon", words: "Carbon", unit: "kg CO₂e", of: (s) => s.energy.bill?.carbonByMonth ?? [] },
];

/** One figure of all options by month. */
function ByMonth({ variants, summaryOf }: { variants: readonly Variant[]; summaryOf: (v: Variant) => Summary | null }) {
  const units = useUnits();
  const currency = useStore((s) => s.document?.prices.currency ?? "");
  const [key, setKey] = useState("energy");
  const [hidden, toggle] = useHidden();
  const f = monthlyFigures.find((x) => x.key === key) ?? monthlyFigures[0];
  const electric = f.key === "energy";
  const lines = variants.flatMap((v, i) => {
    const s = summaryOf(v);
    return s && !v.blocked ? [{ key: v.id ?? "base", name: v.name, colour: i === 0 ? "var(--chakra-colors-ink)" : lineColour(i - 1), values: f.of(s) }] : [];
  });
  const rows = monthNames.map(
    (month, m) =>
      ({ month, ...Object.fromEntries(lines.map((l) => [l.key, f.unit === "" ? l.values[m] : units.value(l.values[m], f.unit, electric)])) }) as Record<
        string,
        number | string
      >,
  );
  const unit = f.unit === "" ? currency : units.unit(f.unit, electric);
  const seen = lines.filter((l) => !hidden.has(l.key));
  const values = rows.flatMap((r) => seen.map((l) => Number(r[l.key])));
  const csv = (): string =>
    [["month", ...lines.map((l) => `"${l.name}"`)].join(","), ...rows.map((r) => [r.month, ...lines.map((l) => r[l.key])].join(","))].join("\n");
  return (
    <Box>
      <Box mb="1">
        <SelectInput
          label="Figure by month"
          align="left"
          width="170px"
          value={f.key}
          options={monthlyFigures.map((x) => ({ value: x.key, label: x.words }))}
          onChange={setKey}
        />
      </Box>
      <ChartFrame
        title={`${f.words} by month`}
        unit={unit}
        legend={lines.map((l) => ({
          key: l.key,
          label: `${l.name}, ${figure(f.unit === "" ? sum(l.values) : units.value(sum(l.values), f.unit, electric), 0)} a year`,
          colour: l.colour,
        }))}
        hidden={hidden}
        onToggle={toggle}
        csv={csv}
      >
        <ResponsiveContainer width="100%" height={180}>
          <LineChart data={rows} margin={{ top: 6, right: 10, left: 0, bottom: 0 }}>
            <CartesianGrid vertical={false} stroke="var(--chakra-colors-line)" />
            <XAxis dataKey="month" {...axisStyle} />
            <YAxis {...roundAxis([0, ...values])} {...axisStyle} />
            <Tooltip
              formatter={(v, name) => [`${figure(Number(v), 0)} ${unit}`, lines.find((l) => l.key === name)?.name ?? String(name)]}
              contentStyle={tooltipStyle}
              itemStyle={{ color: "var(--chakra-colors-ink)", padding: 0 }}
            />
            {seen.map((l) => (
              <Line
                key={l.key}
                dataKey={l.key}
                stroke={l.colour}
                strokeWidth={l.key === "base" ? 1.5 : 2}
                {...(l.key === "base" ? { strokeDasharray: "5 4" } : {})}
                dot={false}
                isAnimationActive={false}
              />
            ))}
          </LineChart>
        </ResponsiveContainer>
      </ChartFrame>
    </Box>
  );
}

/** Two options put together as a new one; what they disagree about is told. */
function Merge({ document }: { document: Project }) {
  const units = useUnits();
  const edit = useStore((s) => s.edit);
  const look = useStore((s) => s.look);
  const ids = Object.keys(document.options);
  const [pair, setPair] = useState<readonly [string, string]>([ids[0], ids[1]]);
  const [a, b] = [ids.includes(pair[0]) ? pair[0] : ids[0], ids.includes(pair[1]) ? pair[1] : ids[1]];
  const { changes, clashes } = mergedOptions(document, a, b);
  const options = ids.map((value) => ({ value, label: document.options[value].name }));
  return (
    <Box as="section" aria-label="Two options together">
      <Text as="h2" textStyle="title" mb="1">
        Two options together
      </Text>
      <Flex gap="2" align="center">
        <SelectInput label="First option" align="left" width="180px" value={a} options={options} onChange={(v) => setPair([v, b])} />
        and
        <SelectInput label="Second option" align="left" width="180px" value={b} options={options} onChange={(v) => setPair([a, v])} />
        <Act
          disabled={a === b}
          onClick={() => {
            const id = freeId(document.options, "option");
            const name = `${document.options[a].name} and ${document.options[b].name}`.slice(0, 200);
            if (edit(`New option ${name}`, [{ op: "insert", path: ["options", id], value: { name, changes } }]).length === 0) look(id);
          }}
        >
          Merge into a new option
        </Act>
      </Flex>
      {a !== b &&
        clashes.map((c) => (
          <Text key={c.change.path.join("/")} color="clay" fontSize="12.5px">
            {describeChange(document, c.change).thing}: {units.turned(c.message)}
          </Text>
        ))}
    </Box>
  );
}

/** What each option changes, in words; values of the base where an option leaves them. */
function Inputs({ document, variants }: { document: Project; variants: readonly Variant[] }) {
  const units = useUnits();
  const rows = new Map<string, { thing: string; from: string; to: Map<string, string> }>();
  for (const v of variants) {
    if (v.id === null) continue;
    for (const c of wholeOption(document, v.id)) {
      const words = describeChange(v.project, c);
      const key = c.path.join("/");
      const row = rows.get(key) ?? { thing: words.thing, from: units.turned(words.from), to: new Map<string, string>() };
      row.to.set(v.id, units.turned(words.to));
      rows.set(key, row);
    }
  }
  return (
    <Box>
      <Text as="h2" textStyle="title" mb="1">
        Inputs that differ
      </Text>
      {rows.size === 0 ? (
        <Text color="ink2">None yet. With an option in view in the top line, change anything: it is listed here.</Text>
      ) : (
        <Box overflowX="auto">
          <Grid
            label="Inputs that differ"
            head={[{ text: "Input", left: true }, ...variants.map((v) => ({ text: v.name }))]}
            rows={[...rows].map(([key, r]) => ({
              key,
              cells: [
                r.thing,
                r.from,
                ...variants.slice(1).map(
                  (v) =>
                    r.to.get(v.id as string) ?? (
                      <Text key={v.id} as="span" color="ink2">
                        {r.from}
                      </Text>
                    ),
                ),
              ],
            }))}
          />
        </Box>
      )}
    </Box>
  );
}
