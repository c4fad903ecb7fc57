"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  componentName,
  componentsOf,
  componentWords,
  deriveFaces,
  faceAssembly,
  followers,
  inletsAt,
  inputsOf,
  makeBench,
  namesOf,
  ownerName,
  withNumbers,
  type Bench as BenchThing,
  type BenchFigure,
  type BenchInput,
  type BenchOf,
  type Project,
} from "@arroyo/core";
import { Act, Head, NumberInput, SelectInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits, type Units } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";
import { Curve, LogChart, LogFile, plain, shownOf, type Log } from "./BenchCurve.tsx";
import { LogPoints } from "./BenchPoints.tsx";
import { momentAt } from "./componentYear.ts";
import { HourChoice } from "../HourChoice.tsx";
import { COMPONENTS, NO_CLASSES } from "../../live/seriesClasses.ts";
import { useYearSeries } from "../yearSeries.ts";

/** Where what goes in comes from. */
type From = "set here" | "an hour of the year" | "a log" | "logged points";
/** Hour shown first: 21 July at 15:00 of a whole year. */
const FIRST_HOUR = 24 * 201 + 14;
const valueText = (units: Units, f: BenchFigure, v = f.value): string => {
  const { unit, factor, digits } = shownOf(f);
  return unit === "1" ? plain(v * factor) : units.words(v * factor, unit, digits);
};
/** A component, a short chain of them, a face or a zone alone: what goes in, what is computed line by line, and its curve. */
export function Bench({ of, choose }: { of: string | null; choose: (of: string) => void }) {
  const project = useStore((s) => s.project) as Project;
  const summary = tally(useLiveFigures()).summary;
  const things = benchThings(project);
  const key = things.some((t) => t.key === of) ? (of as string) : (things[0]?.key ?? "");
  const [more, setMore] = useState(0);
  const component = key.startsWith("component:") ? componentsOf(project).find((c) => `component:${c.path.join("/")}` === key) : undefined;
  const most = component ? followers(project, component) : 0;
  const with_ = Math.min(more, most);
  const what: BenchOf = component
    ? { kind: "component", path: component.path, more: with_ }
    : key.startsWith("face:")
      ? { kind: "face", key: key.slice(5) }
      : { kind: "zone", id: key.slice(5) };
  const made = makeBench(project, what, summary?.sized ?? {});
  const groups = [...new Set(things.map((t) => t.group))];
  return (
    <Box>
      <Flex align="baseline" gap="3" mb="2" wrap="wrap">
        <Text as="h2" textStyle="title">
          On its own
        </Text>
        <SelectInput
          label="What is looked at"
          align="left"
          width="270px"
          value={key}
          options={groups.flatMap((g) => things.filter((t) => t.group === g).map((t) => ({ value: t.key, label: t.label })))}
          onChange={(k) => {
            setMore(0);
            choose(k);
          }}
        />
        {most > 0 && (
          <SelectInput
            label="With what follows it"
            align="left"
            width="170px"
            value={String(with_)}
            options={Array.from({ length: most + 1 }, (_, n) => ({ value: String(n), label: n === 0 ? "alone" : `with ${n} more behind it` }))}
            onChange={(n) => setMore(Number(n))}
          />
        )}
      </Flex>
      {made.ok ? <Looked key={`${key} ${with_}`} bench={made.bench} of={what} /> : <Text color="ink2">{made.message}</Text>}
    </Box>
  );
}

interface Thing {
  readonly key: string;
  readonly label: string;
  readonly group: string;
}
/** Everything that can be looked at: components by what they belong to, zones, and outdoor faces. */
function benchThings(project: Project): Thing[] {
  const parts = componentsOf(project)
    .filter((c) => c.path[0] !== "waterSystems" && c.path[0] !== "onSite")
    .map((c): Thing => {
      const name = c.path.length === 2 ? `${ownerName(project, c)}, all of it` : `${componentName(c)}, ${ownerName(project, c)}`;
      return { key: `component:${c.path.join("/")}`, label: name, group: componentWords[c.kind] };
    });
  const zones = Object.entries(project.zones).map(([id, z]): Thing => ({ key: `zone:${id}`, label: `Zone ${z.name}`, group: "zone" }));
  const faces = deriveFaces(project)
    .faces.filter((f) => f.contact === "outdoors")
    .map((f): Thing => {
      const assembly = project.assemblies[faceAssembly(project, f).id];
      return {
        key: `face:${f.key}`,
        label: `Face of ${project.spaces[f.space].name}: ${f.kind}${f.kind === "wall" ? ` to ${Math.round(f.azimuth)}°` : ""}, ${assembly.name}`,
        group: "face",
      };
    });
  return [...parts.sort((a, b) => Number(a.label.endsWith("all of it")) - Number(b.label.endsWith("all of it"))), ...zones, ...faces];
}

function Looked({ bench, of }: { bench: BenchThing; of: BenchOf }) {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const [from, setFrom] = useState<From>("set here");
  const [own, setOwn] = useState<Readonly<Record<string, number>>>({});
  const [hour, setHour] = useState(FIRST_HOUR);
  const [log, setLog] = useState<Log | null>(null);
  const [over, setOver] = useState(bench.over);
  const [outcome, setOutcome] = useState<string | null>(null);
  const found = useYearSeries(project, from === "an hour of the year" ? COMPONENTS : NO_CLASSES);
  const { year } = found;
  const now = year ? Math.min(hour, Math.max(0, year.hours - 1)) : hour;
  const told = from === "an hour of the year" && year ? inletsAt(project, of, momentAt(year, now)) : {};
  const following = from === "a log" || from === "logged points";
  const row = following && log ? (log.rows[Math.min(log.at, log.rows.length - 1)] ?? {}) : {};
  const values = inputsOf(bench, { ...own, ...told, ...row });
  const steps = bench.run(values);
  const names = namesOf(bench, values);
  const outcomes = [...new Set([...bench.outcomes, ...steps.map((s) => s.name)])].filter((n) => steps.some((s) => s.name === n));
  const shown = outcome !== null && outcomes.includes(outcome) ? outcome : outcomes[0];
  const chains = new Set(steps.map((s) => s.of)).size > 1;
  return (
    <>
      <Flex gap="6" align="flex-start">
        <Box flex="0 0 330px">
          <Flex align="baseline" gap="2">
            <Head mt="0">What goes in</Head>
            <Box ml="auto">
              <SelectInput
                label="What goes in comes from"
                width="150px"
                value={from}
                options={(["set here", "an hour of the year", "a log", "logged points"] as const).map((value) => ({ value, label: value }))}
                onChange={(v) => {
                  setLog(null);
                  setFrom(v as From);
                }}
              />
            </Box>
          </Flex>
          {from === "an hour of the year" &&
            (year ? <HourChoice year={year} hour={now} onChange={setHour} /> : <Text color="ink2">{found.message ?? "Finding the hours of the year …"}</Text>)}
          {from === "logged points" && <LogPoints bench={bench} log={log} onLog={setLog} />}
          {from === "a log" && <LogFile bench={bench} log={log} onLog={setLog} />}
          {bench.inputs.map((i) => (
            <InputRow
              key={i.name}
              input={i}
              value={values[i.name]}
              fixed={Object.hasOwn(told, i.name) || Object.hasOwn(row, i.name)}
              onChange={(v) => setOwn({ ...own, [i.name]: v })}
            />
          ))}
          {Object.keys(own).length > 0 && <Act onClick={() => setOwn({})}>back to where they began</Act>}
        </Box>
        <Box flex="1" minW="0">
          {log && following ? (
            <LogChart bench={bench} log={log} own={own} outcome={shown} outcomes={outcomes} onOutcome={setOutcome} onRow={(at) => setLog({ ...log, at })} />
          ) : (
            <Curve bench={bench} values={values} over={over} onOver={setOver} outcome={shown} outcomes={outcomes} onOutcome={setOutcome} />
          )}
        </Box>
      </Flex>
      <Box mt="3">
        <Grid
          label="Equations with their numbers"
          head={[
            ...(chains ? [{ text: "Of", left: true }] : []),
            { text: "", left: true },
            { text: "Quantity", left: true },
            { text: "Equation", left: true },
            { text: "With its numbers", left: true },
            { text: "Value" },
          ]}
          rows={steps.map((s, n) => ({
            key: s.name,
            cells: [
              ...(chains ? [n > 0 && steps[n - 1].of === s.of ? "" : s.of] : []),
              <chakra.span key="n" fontFamily="mono" fontSize="12px" whiteSpace="nowrap">
                {s.name}
              </chakra.span>,
              s.words,
              <chakra.span key="f" fontFamily={s.formula === null ? undefined : "mono"} fontSize="11.5px" overflowWrap="anywhere">
                {s.formula ?? s.source}
                {s.formula !== null && s.source && (
                  <chakra.span display="block" fontFamily="body" color="ink2">
                    {s.source}
                  </chakra.span>
                )}
              </chakra.span>,
              <chakra.span key="w" fontFamily="mono" fontSize="11.5px" color="ink2" overflowWrap="anywhere">
                {s.formula === null ? "" : withNumbers(s.formula, names, plain)}
              </chakra.span>,
              <chakra.b key="v" whiteSpace="nowrap">
                {valueText(units, s)}
              </chakra.b>,
            ],
          }))}
        />
        <Text color="ink2" mt="1" fontSize="11.5px">
          In equations every quantity stands in its unit of SI: W, m³/s, kg/s, kg/kg, °C. Shares of a whole are from 0 to 1.
        </Text>
      </Box>
      <Head>Figures of the thing itself</Head>
      <Flex wrap="wrap" columnGap="6">
        {bench.figures.map((f) => (
          <Flex key={f.name} gap="2" w="330px" py="0.5" borderBottom="1px solid" borderColor="line">
            <chakra.span fontFamily="mono" fontSize="12px" minW="64px">
              {f.name}
            </chakra.span>
            <Text color="ink2">{f.words}</Text>
            <Text ml="auto" fontWeight="600" whiteSpace="nowrap">
              {valueText(units, f)}
            </Text>
          </Flex>
        ))}
      </Flex>
    </>
  );
}

/** One thing that goes in: a slider and a figure to type. */
function InputRow({ input: i, value, fixed, onChange }: { input: BenchInput; value: number; fixed: boolean; onChange: (v: number) => void }) {
  const units = useUnits();
  const { unit, factor, digits } = shownOf(i);
  const share = unit === "1";
  const inShown = (v: number): number => (share ? v : units.value(v * factor, unit));
  const scale = inShown(1) - inShown(0);
  const refuse = (v: number): string | null => {
    const back = (v - inShown(0)) / scale;
    if (back < i.min || back > i.max) return `Between ${plain(inShown(i.min))} and ${plain(inShown(i.max))}.`;
    onChange(back);
    return null;
  };
  return (
    <Box py="1" borderBottom="1px solid" borderColor="line">
      <Flex align="baseline" gap="1.5">
        <chakra.span fontFamily="mono" fontSize="12px">
          {i.name}
        </chakra.span>
        <Text color="ink2" flex="1" minW="0">
          {i.words}
        </Text>
        {fixed ? (
          <Text fontWeight="600">{share ? plain(value) : units.text(value * factor, unit, digits)}</Text>
        ) : (
          <NumberInput label={i.words} width="70px" value={inShown(value)} {...(digits === undefined ? {} : { digits })} onCommit={refuse} />
        )}
        <Text color="ink2" w="42px">
          {share ? "" : units.unit(unit)}
        </Text>
      </Flex>
      {!fixed && (
        <input
          type="range"
          aria-label={`Slide ${i.words}`}
          min={i.min}
          max={i.max}
          step={(i.max - i.min) / 200}
          value={value}
          onChange={(e) => onChange(Number(e.target.value))}
          style={{ width: "100%", accentColor: "var(--chakra-colors-water)" }}
        />
      )}
    </Box>
  );
}
