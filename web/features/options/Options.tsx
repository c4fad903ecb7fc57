"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { adoptOption, applyChange, describeChange, endUses, moveToBase, setChange, viewOf, type Project, type Summary } from "@arroyo/core";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { axisStyle, roundAxis, stackEnds, tooltipStyle } from "../../ui/chartStyle.ts";
import { endUseColour } from "../../ui/colours.ts";
import { Act } from "../../ui/fields.tsx";
import { figure, stampText } from "../../ui/format.ts";
import { Grid, Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { HeatingHatch, hatchFill } from "../../ui/Hatch.tsx";
import { useHidden } from "../../ui/useHidden.ts";
import { useUnits } from "../../ui/units.ts";
import { newOption, useStore } from "../store.ts";
import { FigureTable, perArea } from "./FigureTable.tsx";
import { useVariants, type Variant } from "./useVariants.ts";

/** The base and its options side by side: what differs going in, what differs coming out, and the steps between. */
export function Options() {
  const units = useUnits();
  const document = useStore((s) => s.document) as Project;
  const option = useStore((s) => s.option);
  const look = useStore((s) => s.look);
  const { variants, summaryOf, busy } = useVariants(document);
  return (
    <>
      <Side label="Options" width="220px">
        <SideHead>In order</SideHead>
        {variants.map((v) => (
          <SideItem
            key={v.id ?? "base"}
            active={v.id === option}
            value={v.blocked ? "—" : units.text(summaryOf(v)?.energy.intensity, "kWh/m²a", 1)}
            onClick={() => look(v.id)}
          >
            {v.name}
          </SideItem>
        ))}
        <Box px="3.5" mt="2">
          <Act onClick={newOption}>New option</Act>
        </Box>
      </Side>
      <Middle label="Options side by side">
        {variants.length === 1 ? <First /> : <Compare document={document} variants={variants} summaryOf={summaryOf} busy={busy} />}
      </Middle>
      <Changes document={document} option={option} />
    </>
  );
}

function First() {
  return (
    <Box maxW="560px">
      <Text textStyle="title">An option is a list of changes over the base</Text>
      <Text color="ink2" my="2">
        Make one, then change anything anywhere: better glass, deeper shade, another set-point. The base stays as it is, and both years stand side by side here.
        For a start, make an option and give the south windows of the library triple glass.
      </Text>
      <chakra.button
        type="button"
        background="water"
        color="sheet"
        px="3.5"
        h="30px"
        borderRadius="small"
        fontWeight="500"
        cursor="pointer"
        onClick={newOption}
      >
        Make an option
      </chakra.button>
    </Box>
  );
}

function Compare({
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
        <FigureTable
          label="Results that differ"
          currency={document.prices.currency}
          columns={variants.map((v) => ({ key: v.id ?? "base", name: v.name, summary: summaryOf(v), blocked: v.blocked !== null }))}
        />
      </Box>
      <Inputs document={document} variants={variants} />
      <Staircase variants={variants} summaryOf={summaryOf} />
      {base && (
        <Text color="ink2" fontSize="12px">
          Base peaks: heating {stampText(base.peaks.heating.at)}, cooling {stampText(base.peaks.cooling.at)}
        </Text>
      )}
    </Flex>
  );
}

/** What each option changes, in words; values of the base where an option leaves them. */
function Inputs({ document, variants }: { document: Project; variants: readonly Variant[] }) {
  const units = useUnits();
  const rows = new Map<string, { thing: string; from: string; to: Map<string, string> }>();
  for (const v of variants) {
    if (v.id === null) continue;
    for (const c of document.options[v.id].changes) {
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
      )}
    </Box>
  );
}

/** Base and options in order as steps by end use. */
function Staircase({ variants, summaryOf }: { variants: readonly Variant[]; summaryOf: (v: Variant) => Summary | null }) {
  const units = useUnits();
  const [hidden, toggle] = useHidden();
  const rows = variants.flatMap((v, i) => {
    const s = summaryOf(v);
    if (!s || v.blocked) return [];
    const before = i > 0 ? summaryOf(variants[i - 1]) : null;
    const step =
      before && before.energy.intensity !== null && s.energy.intensity !== null
        ? units.difference(s.energy.intensity - before.energy.intensity, "kWh/m²a", 1)
        : "";
    return [
      { name: step ? `${v.name} (${step})` : v.name, ...Object.fromEntries(endUses.map((u) => [u, units.value(perArea(s, u), "kWh/m²a")])) } as Record<
        string,
        number | string
      >,
    ];
  });
  const csv = (): string => [["step", ...endUses].join(","), ...rows.map((r) => [r.name, ...endUses.map((u) => r[u])].join(","))].join("\n");
  return (
    <ChartFrame
      title="Staircase"
      unit={`${units.unit("kWh/m²a")} by end use, in order; in brackets the step from the one before`}
      legend={endUses.map((u) => ({ key: u, label: u, colour: endUseColour[u], hatched: u === "heating" }))}
      hidden={hidden}
      onToggle={toggle}
      csv={csv}
    >
      <ResponsiveContainer width="100%" height={210}>
        <BarChart data={rows} margin={{ top: 6, right: 6, left: -20, bottom: 0 }} barCategoryGap="34%">
          <HeatingHatch />
          <CartesianGrid vertical={false} stroke="var(--chakra-colors-line)" />
          <XAxis dataKey="name" {...axisStyle} />
          <YAxis
            {...roundAxis(
              stackEnds(
                rows,
                endUses.filter((u) => !hidden.has(u)),
              ),
            )}
            {...axisStyle}
          />
          <Tooltip
            formatter={(v, name) => [`${figure(Number(v), 1)} ${units.unit("kWh/m²a")}`, String(name)]}
            contentStyle={tooltipStyle}
            itemStyle={{ color: "var(--chakra-colors-ink)", padding: 0 }}
            cursor={{ fill: "var(--chakra-colors-wash)" }}
          />
          {endUses
            .filter((u) => !hidden.has(u))
            .map((u) => (
              <Bar key={u} dataKey={u} stackId="all" fill={u === "heating" ? hatchFill : endUseColour[u]} isAnimationActive={false} />
            ))}
        </BarChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}

/** The changes of the option in view: move one to the base, take it out, adopt them all. */
function Changes({ document, option }: { document: Project; option: string | null }) {
  const units = useUnits();
  const edit = useStore((s) => s.edit);
  const look = useStore((s) => s.look);
  if (option === null || !Object.hasOwn(document.options, option))
    return (
      <Inspector title="Base" about="The model the options stand on. Choose an option on the left, or in the top line, to see and change its list.">
        {null}
      </Inspector>
    );
  const o = document.options[option];
  const { stale, project } = viewOf(document, option);
  return (
    <Inspector title={o.name} about={`option · ${o.changes.length} change${o.changes.length === 1 ? "" : "s"} over base`}>
      <chakra.input
        key={o.name}
        aria-label="Name of the option"
        defaultValue={o.name}
        background="transparent"
        borderBottom="1px solid"
        borderColor="line"
        w="100%"
        mb="2"
        onBlur={(e) => {
          const name = e.target.value.trim();
          if (name !== "" && name !== o.name) edit(`Rename to ${name}`, [setChange(document, ["options", option, "name"], name)]);
        }}
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      />
      {o.changes.map((c, i) => {
        const words = describeChange(project, c);
        const old = stale.find((s) => s.change === c);
        const fits = !old && applyChange(document, c).ok;
        return (
          <Box key={c.id} py="1.5" borderBottom="1px solid" borderColor="line">
            <Text>{words.thing}</Text>
            <Text color="ink2">
              {units.turned(words.from)} → <b>{units.turned(words.to)}</b>
            </Text>
            {old && (
              <Text color="clay" fontSize="12px">
                No longer fits: {units.turned(old.message)}
              </Text>
            )}
            <Flex gap="3">
              {fits && <Act onClick={() => edit(`${words.thing} to base`, moveToBase(document, option, i))}>Move to base</Act>}
              <Act onClick={() => edit(`Take out ${words.thing}`, [{ op: "remove", path: ["options", option, "changes", c.id], old: c }])}>Take out</Act>
            </Flex>
          </Box>
        );
      })}
      {o.changes.length === 0 && (
        <Text color="ink2" my="2">
          Nothing changed yet. Whatever you change on any stage while this option is in view is listed here.
        </Text>
      )}
      <Flex gap="4" mt="3">
        <Act
          onClick={() => {
            look(null);
            edit(`Adopt ${o.name}`, adoptOption(document, option));
          }}
        >
          Adopt as the base
        </Act>
        {o.changes.some((c) => c.path[0] === "weather") && (
          <Act
            title="Its weather year comes into view as well"
            onClick={() => {
              look(null);
              edit(`Adopt ${o.name} with its weather year`, adoptOption(document, option, true));
            }}
          >
            Adopt with its weather year
          </Act>
        )}
        <Act
          onClick={() => {
            look(null);
            edit(`Remove ${o.name}`, [{ op: "remove", path: ["options", option], old: o }]);
          }}
        >
          Remove
        </Act>
      </Flex>
    </Inspector>
  );
}
