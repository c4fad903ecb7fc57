"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import Papa from "papaparse";
import { useState, type ReactNode } from "react";
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { curveOf, inputsOf, turnedTo, type Bench as BenchThing, type BenchFigure, type BenchInput } from "@arroyo/core";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { axisStyle, tooltipStyle } from "../../ui/chartStyle.ts";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { saveCsv } from "../../ui/saveCsv.ts";
import { useUnits, type Units } from "../../ui/units.ts";

/** Rows of a log, at most. */
const MOST_ROWS = 40000;

export const shownOf = (f: BenchFigure | BenchInput): { unit: string; factor: number; digits: number | undefined } => ({
  unit: f.shown?.unit ?? f.unit,
  factor: f.shown?.factor ?? 1,
  digits: f.shown?.digits,
});
/** Four significant digits. */
export const plain = (v: number): string => (Number.isFinite(v) ? String(Number(v.toPrecision(4))).replace("-", "−") : "—");

const capital = (words: string): string => words[0].toUpperCase() + words.slice(1);

/** An outcome over the range of one input, everything else as it stands. */
export function Curve({
  bench,
  values,
  over,
  onOver,
  outcome,
  outcomes,
  onOutcome,
}: {
  bench: BenchThing;
  values: Readonly<Record<string, number>>;
  over: string;
  onOver: (name: string) => void;
  outcome: string;
  outcomes: readonly string[];
  onOutcome: (name: string) => void;
}) {
  const units = useUnits();
  const input = bench.inputs.find((i) => i.name === over) ?? bench.inputs[0];
  const steps = bench.run(values);
  const step = steps.find((s) => s.name === outcome) ?? steps[0];
  const [x, y] = [shownOf(input), shownOf(step)];
  const inX = (v: number): number => (x.unit === "1" ? v : units.value(v * x.factor, x.unit));
  const inY = (v: number): number => (y.unit === "1" ? v : units.value(v * y.factor, y.unit));
  const rows = curveOf(bench, values, input.name, step.name).map(([a, b]) => ({ x: inX(a), y: inY(b) }));
  const unitOf = (u: string): string => (u === "1" ? "" : ` (${units.unit(u)})`);
  return (
    <ChartFrame
      title={capital(`${step.words} over ${input.words}`)}
      unit={y.unit === "1" ? "" : units.unit(y.unit)}
      csv={() => [`${input.words}${unitOf(x.unit)},${step.words}${unitOf(y.unit)}`, ...rows.map((r) => `${r.x},${r.y}`)].join("\n")}
    >
      <Choice steps={steps} outcomes={outcomes} outcome={step.name} onOutcome={onOutcome}>
        <SelectInput
          label="Drawn over"
          align="left"
          width="250px"
          value={input.name}
          options={bench.inputs.map((i) => ({ value: i.name, label: `over ${i.words}` }))}
          onChange={onOver}
        />
      </Choice>
      <Box h="250px" role="img" aria-label={`${step.words} over ${input.words}`}>
        <ResponsiveContainer>
          <LineChart data={rows} margin={{ top: 8, right: 12, bottom: 4, left: 4 }}>
            <CartesianGrid stroke="var(--chakra-colors-line)" vertical={false} />
            <XAxis dataKey="x" type="number" domain={["dataMin", "dataMax"]} tickFormatter={plain} {...axisStyle} />
            <YAxis width={56} domain={["auto", "auto"]} tickFormatter={plain} {...axisStyle} />
            <Tooltip
              {...tooltipStyle}
              formatter={(v) => plain(Number(v))}
              labelFormatter={(v) => `${plain(Number(v))} ${x.unit === "1" ? "" : units.unit(x.unit)}`}
            />
            <ReferenceLine x={inX(values[input.name])} stroke="var(--chakra-colors-clay)" strokeDasharray="3 3" />
            <ReferenceLine y={inY(step.value)} stroke="var(--chakra-colors-clay)" strokeDasharray="3 3" />
            <Line dataKey="y" name={step.words} stroke="var(--chakra-colors-water)" strokeWidth={2} dot={false} isAnimationActive={false} />
          </LineChart>
        </ResponsiveContainer>
      </Box>
    </ChartFrame>
  );
}

function Choice({
  steps,
  outcomes,
  outcome,
  onOutcome,
  children,
}: {
  steps: ReturnType<BenchThing["run"]>;
  outcomes: readonly string[];
  outcome: string;
  onOutcome: (name: string) => void;
  children?: ReactNode;
}) {
  return (
    <Flex gap="3" mb="1" wrap="wrap">
      <SelectInput
        label="What is drawn"
        align="left"
        width="230px"
        value={outcome}
        options={outcomes.map((n) => ({ value: n, label: `${n}: ${steps.find((s) => s.name === n)?.words ?? n}` }))}
        onChange={onOutcome}
      />
      {children}
    </Flex>
  );
}

/** Rows of a log, in the units of the inputs; the row that is looked at. */
export interface Log {
  readonly name: string;
  readonly rows: readonly Readonly<Record<string, number>>[];
  readonly at: number;
  readonly taken: readonly string[];
  /** Figures beyond the range of their slider, whose end was taken. */
  readonly beyond: number;
  /** What was measured beside it, row by row; NaN: nothing. */
  readonly beside?: { readonly name: string; readonly unit: string; readonly values: readonly number[] };
}

/** Reads a log: a row of heads, each the name of an input, then its figures in the unit shown beside it. A sentence where it cannot be read. */
export function readLog(bench: BenchThing, name: string, text: string, units: Pick<Units, "value">): Log | string {
  const parsed = Papa.parse<string[]>(text.trim(), { delimiter: "", skipEmptyLines: true });
  const [head, ...rows] = parsed.data;
  if (!head || rows.length === 0) return "The log needs a row of heads and at least one row of figures.";
  if (rows.length > MOST_ROWS) return `The log has ${rows.length} rows; at most ${MOST_ROWS} are read.`;
  const columns = head.map((h) => bench.inputs.find((i) => i.name === h.trim() || i.words.toLowerCase() === h.trim().toLowerCase()) ?? null);
  if (columns.every((c) => c === null)) return `No head of the log is one of ${bench.inputs.map((i) => i.name).join(", ")}.`;
  const out: Record<string, number>[] = [];
  let beyond = 0;
  for (const [n, cells] of rows.entries()) {
    const row: Record<string, number> = {};
    for (const [k, c] of columns.entries()) {
      if (!c) continue;
      const v = Number((cells[k] ?? "").trim().replace(",", "."));
      if ((cells[k] ?? "").trim() === "" || !Number.isFinite(v)) return `Row ${n + 2}: “${cells[k] ?? ""}” under “${head[k]}” is not a number.`;
      const { unit, factor } = shownOf(c);
      const inShown = (x: number): number => (unit === "1" ? x : units.value(x * factor, unit));
      const own = (v - inShown(0)) / (inShown(1) - inShown(0));
      if (own < c.min || own > c.max) beyond++;
      row[c.name] = Math.max(c.min, Math.min(c.max, own));
    }
    out.push(row);
  }
  return { name, rows: out, at: 0, taken: columns.flatMap((c) => (c ? [c.name] : [])), beyond };
}

export function LogFile({ bench, log, onLog }: { bench: BenchThing; log: Log | null; onLog: (log: Log) => void }) {
  const units = useUnits();
  const [message, setMessage] = useState<string | null>(null);
  return (
    <Box py="1">
      <input
        type="file"
        accept=".csv,.txt"
        aria-label="Log of what goes in"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (!file) return;
          void file.text().then((text) => {
            const read = readLog(bench, file.name, text, units);
            setMessage(typeof read === "string" ? read : null);
            if (typeof read !== "string") onLog(read);
          });
        }}
      />
      {message ? (
        <Text role="alert" color="clay">
          {message}
        </Text>
      ) : (
        <Text color="ink2" fontSize="11.5px">
          {log
            ? `${log.name}: ${log.rows.length} rows of ${log.taken.join(", ")}${log.beyond > 0 ? `; ${log.beyond} figures lie beyond the range of their slider, whose end is taken` : ""}`
            : `CSV with a row of heads: ${bench.inputs.map((i) => i.name).join(", ")}, or some of them, in the units below`}
        </Text>
      )}
    </Box>
  );
}

/** Points of a log drawn, at most; of more, every so manieth. */
const MOST_DRAWN = 1500;

export function LogChart({
  bench,
  log,
  own,
  outcome,
  outcomes,
  onOutcome,
  onRow,
}: {
  bench: BenchThing;
  log: Log;
  own: Readonly<Record<string, number>>;
  outcome: string;
  outcomes: readonly string[];
  onOutcome: (name: string) => void;
  onRow: (at: number) => void;
}) {
  const units = useUnits();
  const all = log.rows.map((r) => bench.run({ ...inputsOf(bench, own), ...r }));
  const step = all[0].find((s) => s.name === outcome) ?? all[0][0];
  const y = shownOf(step);
  const inY = (v: number): number => (y.unit === "1" ? v : units.value(v * y.factor, y.unit));
  const series = all.map((steps) => inY(steps.find((s) => s.name === step.name)?.value ?? NaN));
  const every = Math.ceil(series.length / MOST_DRAWN);
  const { beside } = log;
  const measured = beside && turnedTo(beside.values, beside.unit, step.unit);
  const rows = series
    .map((v, row) => ({ row: row + 1, y: v, ...(measured && measured[row] === measured[row] ? { m: inY(measured[row]) } : {}) }))
    .filter((_, i) => i % every === 0);
  const table = (): (string | number)[][] => [
    ["row", ...log.taken, ...all[0].map((s) => s.name)],
    ...log.rows.map((r, i) => [i + 1, ...log.taken.map((n) => r[n]), ...all[i].map((s) => s.value)]),
  ];
  return (
    <ChartFrame title={capital(`${step.words} over the log`)} unit={y.unit === "1" ? "" : units.unit(y.unit)} csv={() => Papa.unparse(table())}>
      <Choice steps={all[0]} outcomes={outcomes} outcome={step.name} onOutcome={onOutcome}>
        <Act onClick={() => saveCsv("log", table())}>every line of every row as CSV</Act>
      </Choice>
      <Box h="236px" role="img" aria-label={`${step.words} over the log`}>
        <ResponsiveContainer>
          <LineChart
            data={rows}
            margin={{ top: 8, right: 12, bottom: 4, left: 4 }}
            onClick={(e) => typeof e.activeLabel === "number" && onRow(e.activeLabel - 1)}
          >
            <CartesianGrid stroke="var(--chakra-colors-line)" vertical={false} />
            <XAxis dataKey="row" type="number" domain={["dataMin", "dataMax"]} {...axisStyle} />
            <YAxis width={56} domain={["auto", "auto"]} tickFormatter={plain} {...axisStyle} />
            <Tooltip {...tooltipStyle} formatter={(v) => plain(Number(v))} labelFormatter={(v) => `row ${v}`} />
            <ReferenceLine x={log.at + 1} stroke="var(--chakra-colors-clay)" strokeDasharray="3 3" />
            <Line
              dataKey="y"
              name={step.words}
              stroke={`var(--chakra-colors-${measured ? "clay" : "water"})`}
              strokeWidth={1.5}
              dot={false}
              isAnimationActive={false}
            />
            {measured && (
              <Line dataKey="m" name={`${beside.name}, measured`} stroke="var(--chakra-colors-water)" strokeWidth={1.5} dot={false} isAnimationActive={false} />
            )}
          </LineChart>
        </ResponsiveContainer>
      </Box>
      <input
        type="range"
        aria-label="Row of the log"
        min={0}
        max={log.rows.length - 1}
        value={log.at}
        onChange={(e) => onRow(Number(e.target.value))}
        style={{ width: "100%", accentColor: "var(--chakra-colors-water)" }}
      />
    </ChartFrame>
  );
}
