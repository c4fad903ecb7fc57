"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { axesData, firstAxes, studyCsv, type AxesData, type Project, type Study, type StudyTable } from "@arroyo/core";
import { CurrentsBox } from "../../ui/CurrentsBox.tsx";
import type { CurrentsState } from "../../ui/currents/currents.ts";
import { runsLeft, stretchWords, domain } from "../../ui/currents/filters.ts";
import { Act, NumberInput, SelectInput } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { saveBlob } from "../../ui/saveCsv.ts";
import { useUnits, type Units } from "../../ui/units.ts";
import { ChosenRun } from "./ChosenRun.tsx";
import { KeptBars } from "./KeptBars.tsx";
import { studyWords } from "./StudyHead.tsx";
import type { StudyLook } from "./studyViews.ts";

/** The figures of a study in the units in view. */
function inUnits(data: AxesData, units: Units): AxesData {
  if (units.system === "SI") return data;
  return {
    ...data,
    columns: data.columns.map((c) => {
      const levels = c.levels.map((l) => units.turned(l));
      const unit = units.unit(c.unit);
      if (unit === c.unit || c.levels.length > 0) return { ...c, levels };
      return { ...c, unit, values: Float64Array.from(c.values, (v) => (v === null ? NaN : units.value(v, c.unit))) };
    }),
  };
}
export function useAxesData(table: StudyTable, study: Study, about: string): AxesData {
  const units = useUnits();
  return useMemo(() => inUnits(axesData(study.name, about, table), units), [table, study.name, about, units]);
}
const fileName = (study: Study): string => study.name.toLowerCase().replace(/[^a-z0-9]+/g, "-") || "study";

/** What is to be taken away of a study: all runs, one page, the picture. */
export function HandOver({
  table,
  study,
  document,
  judge,
  canvas,
}: {
  table: StudyTable;
  study: Study;
  document: Project;
  judge: string;
  canvas?: HTMLCanvasElement | null;
}) {
  const html = async (): Promise<void> => {
    const { studyHtml } = await import("@arroyo/adapters/study");
    const page = studyHtml(document, study, table, studyWords(document, study, judge));
    saveBlob(`${fileName(study)}.html`, new Blob([page], { type: "text/html" }));
  };
  return (
    <>
      {canvas && <Act onClick={() => canvas.toBlob((b) => b && saveBlob(`${fileName(study)}.png`, b))}>PNG</Act>}
      <Act onClick={() => saveBlob(`${fileName(study)}.csv`, new Blob([studyCsv(table)], { type: "text/csv" }))}>CSV</Act>
      <Act title="One page with these axes, that opens from disk" onClick={() => void html()}>
        HTML to hand over
      </Act>
    </>
  );
}

/** Stretches as chips, and a limit typed by hand. */
export function Stretches({ data, look, change }: { data: AxesData; look: StudyLook; change: (c: Partial<StudyLook>) => void }) {
  const [typing, setTyping] = useState<string | null>(null);
  const { count } = runsLeft(data.columns, look.brushes, data.runs.length);
  const column = data.columns.find((c) => c.key === typing);
  const [low, high] = column ? (look.brushes[column.key] ?? domain(column)) : [0, 0];
  const put = (least: number, most: number): string | null => {
    if (!column) return null;
    if (least > most) return "The lower limit must lie below the upper one.";
    change({ brushes: { ...look.brushes, [column.key]: [least, most] } });
    return null;
  };
  return (
    <Flex align="center" gap="2" wrap="wrap" minH="32px">
      <Text textStyle="figure" data-testid="runs-left">
        {figure(count, 0)}
      </Text>
      <Text>of {figure(data.runs.length, 0)} left</Text>
      {data.columns
        .filter((c) => Object.hasOwn(look.brushes, c.key))
        .map((c) => (
          <chakra.button
            key={c.key}
            type="button"
            title="Take this limit away"
            px="2.5"
            h="24px"
            fontSize="12.5px"
            background="wash"
            border="1px solid"
            borderColor="water"
            borderRadius="pill"
            cursor="pointer"
            onClick={() => {
              const { [c.key]: _gone, ...brushes } = look.brushes;
              change({ brushes });
            }}
          >
            {stretchWords(c, look.brushes[c.key])} ×
          </chakra.button>
        ))}
      {Object.keys(look.brushes).length > 1 && <Act onClick={() => change({ brushes: {} })}>All limits away</Act>}
      <SelectInput
        label="Limit an axis"
        align="left"
        width="120px"
        value={typing ?? ""}
        options={[{ value: "", label: "Limit …" }, ...data.columns.map((c) => ({ value: c.key, label: c.name }))]}
        onChange={(v) => setTyping(v === "" ? null : v)}
      />
      {column &&
        (column.levels.length > 0 ? (
          <SelectInput
            label={`Keep of ${column.name}`}
            align="left"
            width="150px"
            value=""
            options={[{ value: "", label: "keep …" }, ...column.levels.map((l, i) => ({ value: String(i), label: l }))]}
            onChange={(v) => v !== "" && put(Number(v) - 0.4, Number(v) + 0.4)}
          />
        ) : (
          <>
            <NumberInput label={`Least of ${column.name}`} value={low} onCommit={(v) => put(v, high)} width="64px" />
            <Text>to</Text>
            <NumberInput label={`Most of ${column.name}`} value={high} onCommit={(v) => put(low, v)} width="64px" />
          </>
        ))}
    </Flex>
  );
}

/** Linked axes of a study with what is left, the chosen run, and those kept. */
export function AxesDesk({
  table,
  study,
  data,
  look,
  change,
  onCanvas,
}: {
  table: StudyTable;
  study: Study;
  data: AxesData;
  look: StudyLook;
  change: (c: Partial<StudyLook>) => void;
  onCanvas: (c: HTMLCanvasElement | null) => void;
}) {
  const first = useMemo(() => firstAxes(data), [data]);
  const row = look.chosen === null ? -1 : table.index.indexOf(look.chosen);
  const state = useMemo(
    (): CurrentsState => ({
      order: (look.order ?? first).filter((k) => data.columns.some((c) => c.key === k)),
      brushes: look.brushes,
      chosen: row < 0 ? null : row,
    }),
    [look.order, look.brushes, first, data, row],
  );
  const kept = [0, ...look.kept].flatMap((i) => {
    const at = table.index.indexOf(i);
    return at < 0 ? [] : [at];
  });
  const shown = row >= 0 && !kept.includes(row) ? [...kept, row] : kept;
  const choose = (r: number): void => change({ chosen: table.index[r] });
  return (
    <>
      <Stretches data={data} look={look} change={change} />
      <CurrentsBox
        data={data}
        state={state}
        height={row < 0 && kept.length < 2 ? "clamp(260px, calc(100dvh - 420px), 560px)" : "clamp(230px, calc(100dvh - 520px), 480px)"}
        onCanvas={onCanvas}
        onChange={(s) => change({ order: s.order, brushes: s.brushes, chosen: s.chosen === null ? null : table.index[s.chosen] })}
      />
      <chakra.details fontSize="12.5px" mb="2">
        <chakra.summary cursor="pointer" color="water" w="fit-content">
          Axes shown
        </chakra.summary>
        <Flex wrap="wrap" columnGap="4">
          {data.columns.map((c) => (
            <chakra.label key={c.key} display="flex" gap="1" alignItems="center">
              <input
                type="checkbox"
                checked={state.order.includes(c.key)}
                onChange={(e) =>
                  change({ order: e.target.checked ? [...state.order, c.key] : state.order.length > 2 ? state.order.filter((k) => k !== c.key) : state.order })
                }
              />
              {c.name}
            </chakra.label>
          ))}
        </Flex>
      </chakra.details>
      <Flex gap="8" align="flex-start" borderTop="1px solid" borderColor="line" pt="2">
        <Box flex="5" minW="0">
          <KeptBars
            table={table}
            rows={shown}
            chosen={row < 0 ? null : row}
            onChoose={choose}
            onDrop={(r) => change({ kept: look.kept.filter((k) => k !== table.index[r]), ...(table.index[r] === look.chosen ? { chosen: null } : {}) })}
          />
        </Box>
        <Box flex="6" minW="0">
          {row >= 0 ? (
            <ChosenRun data={data} table={table} row={row} study={study} look={look} change={change} />
          ) : (
            <Text color="ink2">Draw along an axis to keep a stretch of it; click a line to see its run. The dashed line is the base.</Text>
          )}
          {table.failed.length > 0 && (
            <chakra.details mt="2">
              <chakra.summary cursor="pointer" color="clay">
                {table.failed.length} {table.failed.length === 1 ? "run" : "runs"} could not be made
              </chakra.summary>
              {table.failed.slice(0, 50).map((f) => (
                <Text key={`${f.index} ${f.year}`} fontSize="12.5px">
                  Run {f.index}: {f.message}
                </Text>
              ))}
            </chakra.details>
          )}
        </Box>
      </Flex>
    </>
  );
}
