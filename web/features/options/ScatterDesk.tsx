"use client";
import { Box, Flex, Grid as Boxes, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { firstAxes, frontOf, type AxesColumn, type AxesData, type StudyTable } from "@arroyo/core";
import { runsLeft } from "../../ui/currents/filters.ts";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { PointsBox } from "../../ui/PointsBox.tsx";
import { valueWords } from "../../ui/currents/filters.ts";
import { Stretches } from "./AxesDesk.tsx";
import type { StudyLook } from "./studyViews.ts";

interface Props {
  readonly table: StudyTable;
  readonly data: AxesData;
  readonly look: StudyLook;
  readonly change: (c: Partial<StudyLook>) => void;
}
/** Columns a matrix shows at most. */
const MOST = 6;

const titleOf = (c: AxesColumn): string => (c.unit === "" || c.unit === "1" || c.levels.length > 0 ? c.name : `${c.name}, ${c.unit}`);

/** Every two of a few columns over each other. */
export function ScatterDesk({ table, data, look, change }: Props) {
  const first = useMemo(() => {
    const keys = firstAxes(data);
    const outcomes = keys.filter((k) => data.columns.find((c) => c.key === k)?.kind === "outcome");
    return [...keys.filter((k) => !outcomes.includes(k)).slice(0, Math.max(2, 5 - outcomes.length)), ...outcomes].slice(0, 5);
  }, [data]);
  const [keys, setKeys] = useState<readonly string[] | null>(null);
  const columns = (keys ?? first).flatMap((k) => data.columns.filter((c) => c.key === k));
  const { left } = useMemo(() => runsLeft(data.columns, look.brushes, data.runs.length), [data, look.brushes]);
  const base = table.index.indexOf(0);
  const chosen = look.chosen === null ? null : table.index.indexOf(look.chosen);
  const height = Math.max(56, Math.floor(430 / Math.max(1, columns.length)));
  return (
    <>
      <Stretches data={data} look={look} change={change} />
      <Flex gap="3" mb="2" wrap="wrap" align="center">
        {columns.map((c, i) => (
          <SelectInput
            key={c.key}
            label={`Column ${i + 1}`}
            align="left"
            width="150px"
            value={c.key}
            options={[{ value: "", label: "take it out" }, ...data.columns.map((x) => ({ value: x.key, label: x.name }))]}
            onChange={(v) => setKeys(columns.flatMap((x, k) => (k === i ? (v === "" ? [] : [v]) : [x.key])))}
          />
        ))}
        {columns.length < MOST && (
          <Act
            onClick={() => {
              const next = data.columns.find((c) => !columns.includes(c));
              if (next) setKeys([...columns.map((c) => c.key), next.key]);
            }}
          >
            Another column
          </Act>
        )}
      </Flex>
      <Boxes templateColumns={`repeat(${columns.length}, minmax(0, 1fr))`} gap="1">
        {columns.flatMap((y, j) =>
          columns.map((x, i) =>
            i === j ? (
              <Flex key={`${x.key} ${y.key}`} h={`${height}px`} align="center" justify="center" textAlign="center" px="1" fontSize="12.5px" fontWeight="600">
                {titleOf(x)}
              </Flex>
            ) : (
              <PointsBox
                key={`${x.key} ${y.key}`}
                x={x}
                y={y}
                left={left}
                base={base}
                chosen={chosen}
                height={height}
                small
                label={`${y.name} over ${x.name}`}
                onChoose={(row) => change({ chosen: table.index[row] })}
              />
            ),
          ),
        )}
      </Boxes>
    </>
  );
}

/** Two outcomes against each other with the runs that no other beats in both. */
export function FrontDesk({ table, data, look, change, onCanvas }: Props & { readonly onCanvas: (c: HTMLCanvasElement | null) => void }) {
  const outcomes = data.columns.filter((c) => c.kind === "outcome");
  const by = (key: string): AxesColumn | undefined => outcomes.find((c) => c.key === key);
  const [pair, setPair] = useState<readonly [string, string] | null>(null);
  const preferred = by("investment") ? ["investment", "netCarbon"] : ["peakCooling", "energy"];
  const [xKey, yKey] = pair ?? (preferred.every((k) => by(k)) ? preferred : outcomes.slice(0, 2).map((c) => c.key));
  const [x, y] = [by(xKey) ?? outcomes[0], by(yKey) ?? outcomes[1] ?? outcomes[0]];
  if (!x || !y) return <Text color="ink2">There are no outcomes yet.</Text>;
  return <Front table={table} data={data} look={look} change={change} onCanvas={onCanvas} x={x} y={y} outcomes={outcomes} setPair={setPair} />;
}

function Front({
  table,
  data,
  look,
  change,
  onCanvas,
  x,
  y,
  outcomes,
  setPair,
}: Props & {
  readonly onCanvas: (c: HTMLCanvasElement | null) => void;
  readonly x: AxesColumn;
  readonly y: AxesColumn;
  readonly outcomes: readonly AxesColumn[];
  readonly setPair: (pair: readonly [string, string]) => void;
}) {
  const { left } = useMemo(() => runsLeft(data.columns, look.brushes, data.runs.length), [data, look.brushes]);
  const front = useMemo(() => {
    const among = Array.from(left.keys()).filter((i) => left[i] === 1);
    return frontOf(table, [x.key, y.key], among).sort((a, b) => (x.values[a] ?? 0) - (x.values[b] ?? 0));
  }, [table, left, x, y]);
  const inputs = data.columns.filter((c) => c.kind === "input");
  const pick = (label: string, value: string, put: (key: string) => void) => (
    <SelectInput label={label} align="left" width="180px" value={value} options={outcomes.map((c) => ({ value: c.key, label: titleOf(c) }))} onChange={put} />
  );
  return (
    <>
      <Stretches data={data} look={look} change={change} />
      <Flex gap="3" align="center" mb="1">
        {pick("Up", y.key, (k) => setPair([x.key, k]))}
        <Text color="ink2">over</Text>
        {pick("Across", x.key, (k) => setPair([k, y.key]))}
        <Text color="ink2">
          {front.length} {front.length === 1 ? "run" : "runs"} on the front: no other that is left is better in both
        </Text>
      </Flex>
      <PointsBox
        x={x}
        y={y}
        left={left}
        base={table.index.indexOf(0)}
        chosen={look.chosen === null ? null : table.index.indexOf(look.chosen)}
        front={front}
        height={300}
        label={`${y.name} over ${x.name}`}
        onChoose={(row) => change({ chosen: table.index[row] })}
        onCanvas={onCanvas}
      />
      <Box mt="2">
        <Grid
          label="Runs on the front"
          head={[{ text: "Run", left: true }, ...inputs.map((c) => ({ text: c.name })), { text: x.name, unit: x.unit }, { text: y.name, unit: y.unit }]}
          rows={front.map((row) => ({
            key: String(table.index[row]),
            active: table.index[row] === look.chosen,
            onClick: () => change({ chosen: table.index[row] }),
            cells: [
              table.index[row] === 0 ? "Base" : String(table.index[row]),
              ...inputs.map((c) => valueWords(c, row)),
              valueWords({ ...x, unit: "" }, row),
              valueWords({ ...y, unit: "" }, row),
            ],
          }))}
        />
      </Box>
    </>
  );
}
