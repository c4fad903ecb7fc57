"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { GripVertical } from "lucide-react";
import { useMemo, useState } from "react";
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { endUses, freeId, measureOf, ownFigures, setChange, type Measure, type Project, type Summary } from "@arroyo/core";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { axisStyle, roundAxis, stackEnds, tooltipStyle } from "../../ui/chartStyle.ts";
import { endUseColour } from "../../ui/colours.ts";
import { NumberInput, SelectInput, TextInput } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { HeatingHatch, hatchFill } from "../../ui/Hatch.tsx";
import { Grid, Middle } from "../../ui/Panes.tsx";
import { useHidden } from "../../ui/useHidden.ts";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { perArea } from "./FigureTable.tsx";
import { useStairs, type Stairs } from "./useStairs.ts";

const NONE: readonly Measure[] = [];

/** Measures in order from the base: what each does alone, in this order, and last of all. */
export function StaircaseDesk() {
  const document = useStore((s) => s.document) as Project;
  const edit = useStore((s) => s.edit);
  const measures = document.measures ?? NONE;
  const stairs = useStairs(document, measures);
  const [dragged, setDragged] = useState<string | null>(null);
  const put = (next: readonly Measure[], words: string): void => void edit(words, [setChange(document, ["measures"], next)]);
  const move = (id: string, to: number): void => {
    const rest = measures.filter((m) => m.id !== id);
    const moved = measures.find((m) => m.id === id);
    if (!moved) return;
    const at = Math.max(0, Math.min(rest.length, to));
    const next = [...rest.slice(0, at), moved, ...rest.slice(at)];
    if (next.some((m, i) => m !== measures[i])) put(next, `${moved.name} is step ${at + 1}`);
  };
  const ids = Object.fromEntries(measures.map((m) => [m.id, m]));
  const options = Object.entries(document.options);
  return (
    <Middle label="Staircase">
      <Flex align="baseline" gap="3">
        <Text as="h2" textStyle="title">
          Staircase from the base
        </Text>
        <Text color="ink2">{stairs.busy > 0 ? `${stairs.busy} years still to compute` : "15-minute years, capacities as sized for the base"}</Text>
        <Flex ml="auto">
          <SelectInput
            label="Add an option as a measure"
            align="left"
            width="230px"
            value=""
            options={[
              { value: "", label: options.length > 0 ? "Add an option as a measure" : "There are no options yet" },
              ...options.map(([value, o]) => ({ value, label: o.name })),
            ]}
            onChange={(v) => v !== "" && put([...measures, { ...measureOf(document, v), id: freeId(ids, v) }], `Measure ${document.options[v].name}`)}
          />
        </Flex>
      </Flex>
      {measures.length === 0 ? (
        <Text color="ink2" maxW="560px" mt="1">
          Measures are taken one after the other, and each is told alone, in this order and last of all, so that how they act on each other shows. Take them
          from a run of a study (choose a line, then “As a staircase”), or add options here.
        </Text>
      ) : (
        <>
          <Box as="ol" aria-label="Measures in order" listStyleType="none" my="1">
            {measures.map((m, i) => (
              <Flex
                as="li"
                key={m.id}
                align="center"
                gap="2"
                borderBottom="1px solid"
                borderColor="line"
                py="0.5"
                background={dragged === m.id ? "wash" : "transparent"}
                draggable
                onDragStart={(e) => {
                  e.dataTransfer.setData("text/plain", m.id);
                  e.dataTransfer.effectAllowed = "move";
                  setDragged(m.id);
                }}
                onDragEnd={() => setDragged(null)}
                onDragOver={(e) => e.preventDefault()}
                onDrop={(e) => {
                  e.preventDefault();
                  move(e.dataTransfer.getData("text/plain"), i);
                }}
              >
                <chakra.button
                  type="button"
                  aria-label={`Move ${m.name}`}
                  title="Drag it, or move it with the arrow keys"
                  cursor="grab"
                  color="ink2"
                  onKeyDown={(e) => {
                    if (e.key !== "ArrowUp" && e.key !== "ArrowDown") return;
                    e.preventDefault();
                    move(m.id, i + (e.key === "ArrowUp" ? -1 : 1));
                  }}
                >
                  <GripVertical size={14} aria-hidden="true" />
                </chakra.button>
                <Text color="ink2" w="16px">
                  {i + 1}
                </Text>
                <TextInput
                  value={m.name}
                  label={`Name of measure ${i + 1}`}
                  align="left"
                  width="420px"
                  onCommit={(name) => {
                    put(
                      measures.map((x) => (x === m ? { ...m, name } : x)),
                      `Measure ${name}`,
                    );
                    return null;
                  }}
                />
                <Flex ml="auto" align="center" gap="1" color="ink2" fontSize="12px">
                  costs
                  <NumberInput
                    label={`Cost of measure ${i + 1}`}
                    value={m.investment ?? null}
                    onCommit={(investment) => {
                      put(
                        measures.map((x) => (x === m ? { ...m, investment } : x)),
                        `Cost of ${m.name}`,
                      );
                      return null;
                    }}
                  />
                  {document.prices.currency}
                  <chakra.button
                    type="button"
                    aria-label={`Take out ${m.name}`}
                    px="1"
                    cursor="pointer"
                    onClick={() =>
                      put(
                        measures.filter((x) => x !== m),
                        `Without ${m.name}`,
                      )
                    }
                  >
                    ×
                  </chakra.button>
                </Flex>
              </Flex>
            ))}
          </Box>
          <Steps stairs={stairs} measures={measures} />
          <Effects stairs={stairs} document={document} />
        </>
      )}
    </Middle>
  );
}

/** The steps by end use. */
function Steps({ stairs, measures }: { stairs: Stairs; measures: readonly Measure[] }) {
  const units = useUnits();
  const [hidden, toggle] = useHidden();
  const at = [0, ...stairs.stairs.map((s) => s.inOrder[1])];
  const rows = at.flatMap((model, i) => {
    const s = stairs.figures[model];
    const short = (t: string): string => (t.length > 26 ? `${t.slice(0, 25)}…` : t);
    return s
      ? [
          {
            name: i === 0 ? "Base" : short(measures[i - 1].name),
            ...Object.fromEntries(endUses.map((u) => [u, units.value(perArea(s, u), "kWh/m²a")])),
          } as Record<string, number | string>,
        ]
      : [];
  });
  const used = endUses.filter((u) => rows.some((r) => Number(r[u]) > 0));
  const csv = (): string => [["step", ...used].join(","), ...rows.map((r) => [`"${r.name}"`, ...used.map((u) => r[u])].join(","))].join("\n");
  return (
    <ChartFrame
      title="Steps"
      unit={`${units.unit("kWh/m²a")} by end use, after each measure`}
      legend={used.map((u) => ({ key: u, label: u, colour: endUseColour[u], hatched: u === "heating" }))}
      hidden={hidden}
      onToggle={toggle}
      csv={csv}
    >
      <ResponsiveContainer width="100%" height={230}>
        <BarChart data={rows} margin={{ top: 6, right: 6, left: -20, bottom: 0 }} barCategoryGap="34%">
          <HeatingHatch />
          <CartesianGrid vertical={false} stroke="var(--chakra-colors-line)" />
          <XAxis dataKey="name" interval={0} {...axisStyle} />
          <YAxis
            {...roundAxis(
              stackEnds(
                rows,
                used.filter((u) => !hidden.has(u)),
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
          {used
            .filter((u) => !hidden.has(u))
            .map((u) => (
              <Bar key={u} dataKey={u} stackId="all" fill={u === "heating" ? hatchFill : endUseColour[u]} isAnimationActive={false} />
            ))}
        </BarChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}

interface Told {
  readonly key: string;
  readonly words: string;
  readonly unit: string;
  readonly digits: number;
  readonly of: (s: Summary) => number | null;
}
const headline: readonly Told[] = ["energy", "cost", "netCarbon", "peakHeating", "peakCooling", "unmet", "discomfort"].flatMap((key) => {
  const f = ownFigures.find((x) => x.key === key);
  return f ? [{ ...f, of: (s: Summary) => f.of(s) }] : [];
});
const perUse: readonly Told[] = endUses.map((u) => ({ key: u, words: u[0].toUpperCase() + u.slice(1), unit: "kWh/m²a", digits: 1, of: (s) => perArea(s, u) }));

/** What each measure does to one figure: alone, in this order, last; the difference between them is how it acts on the others. */
function Effects({ stairs, document }: { stairs: Stairs; document: Project }) {
  const units = useUnits();
  const [key, setKey] = useState("energy");
  const figures = useMemo(() => [...headline, ...perUse.filter((u) => stairs.figures.some((s) => s && Math.abs(u.of(s) ?? 0) > 0.05))], [stairs.figures]);
  const f = figures.find((x) => x.key === key) ?? figures[0];
  const unit = units.unit(f.unit === "/a" ? `${document.prices.currency}/a` : f.unit);
  const value = (model: number): number | null => {
    const s = stairs.figures[model];
    return s ? f.of(s) : null;
  };
  const effect = ([from, to]: readonly [number, number]): number | null => {
    const [a, b] = [value(from), value(to)];
    return a === null || b === null ? null : b - a;
  };
  const shown = (v: number | null) => (
    <Text as="span" color={v !== null && Math.abs(v) >= 0.5 * 10 ** -f.digits ? (v > 0 ? "clay" : "water") : "ink2"}>
      {v === null ? "—" : units.difference(v, f.unit, f.digits)}
    </Text>
  );
  return (
    <Box mt="3">
      <Flex align="center" gap="2" mb="1">
        <Text as="h2" textStyle="title">
          What each measure does to
        </Text>
        <SelectInput
          label="Figure"
          align="left"
          width="200px"
          value={f.key}
          options={figures.map((x) => ({ value: x.key, label: x.words }))}
          onChange={setKey}
        />
        <Text color="ink2">{unit}</Text>
      </Flex>
      <Grid
        label="What each measure does"
        head={[
          { text: "Measure", left: true },
          { text: "Alone" },
          { text: "In this order" },
          { text: "Last of all" },
          { text: "Between alone and last" },
          { text: "After it" },
        ]}
        rows={[
          { key: "base", cells: ["Base", "", "", "", "", units.text(value(0), f.unit, f.digits)] },
          ...stairs.stairs.map((s) => {
            const [alone, last] = [effect(s.alone), effect(s.last)];
            const message = stairs.messages[s.inOrder[1]];
            return {
              key: s.measure.id,
              cells: [
                <Box key="n">
                  {s.measure.name}
                  {message && (
                    <Text color="clay" fontSize="12px">
                      {units.turned(message)}
                    </Text>
                  )}
                </Box>,
                shown(alone),
                shown(effect(s.inOrder)),
                shown(last),
                shown(alone === null || last === null ? null : last - alone),
                units.text(value(s.inOrder[1]), f.unit, f.digits),
              ],
            };
          }),
        ]}
      />
    </Box>
  );
}
