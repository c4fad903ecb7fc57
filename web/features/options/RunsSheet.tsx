"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { indicesOf, type AxesData, type Study, type StudyTable } from "@arroyo/core";
import { runsLeft, valueWords } from "../../ui/currents/filters.ts";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { Stretches } from "./AxesDesk.tsx";
import type { StudyLook } from "./studyViews.ts";

/** Rows shown at once. */
const SHOWN = 200;

/** The runs that are left as a sheet, sorted by any column. */
export function RunsSheet({ table, data, look, change }: { table: StudyTable; data: AxesData; look: StudyLook; change: (c: Partial<StudyLook>) => void }) {
  const [by, setBy] = useState<{ readonly key: string; readonly down: boolean } | null>(null);
  const columns = data.columns.filter((c) => c.kind !== "use");
  const { left } = useMemo(() => runsLeft(data.columns, look.brushes, data.runs.length), [data, look.brushes]);
  const rows = useMemo(() => {
    const out = Array.from(left.keys()).filter((i) => left[i] === 1);
    const column = by && data.columns.find((c) => c.key === by.key);
    if (column) {
      const of = (i: number): number => column.values[i] ?? NaN;
      // what has no figure stands last
      out.sort((a, b) => (Number.isNaN(of(a)) ? 1 : Number.isNaN(of(b)) ? -1 : (by.down ? -1 : 1) * (of(a) - of(b))));
    }
    return out;
  }, [left, by, data]);
  return (
    <>
      <Stretches data={data} look={look} change={change} />
      <Box overflowX="auto">
        <Grid
          label="Runs"
          head={[
            { text: "Run", left: true },
            ...columns.map((c) => ({
              text: (
                <chakra.button
                  type="button"
                  cursor="pointer"
                  fontWeight="500"
                  textAlign="right"
                  onClick={() => setBy({ key: c.key, down: by?.key === c.key && !by.down })}
                >
                  {c.name}
                  {by?.key === c.key && (by.down ? " ↓" : " ↑")}
                </chakra.button>
              ),
              ...(c.levels.length > 0 || c.unit === "1" ? {} : { unit: c.unit }),
            })),
          ]}
          rows={rows.slice(0, SHOWN).map((row) => ({
            key: String(table.index[row]),
            active: table.index[row] === look.chosen,
            onClick: () => change({ chosen: table.index[row] }),
            cells: [table.index[row] === 0 ? "Base" : String(table.index[row]), ...columns.map((c) => valueWords({ ...c, unit: "" }, row))],
          }))}
        />
      </Box>
      {rows.length > SHOWN && (
        <Text color="ink2" mt="1">
          {SHOWN} of {figure(rows.length, 0)} rows are shown; the CSV has all of them.
        </Text>
      )}
    </>
  );
}

/** First and total indices of every outcome: what of its variance each input accounts for, alone and with all it takes part in. */
export function IndicesDesk({ study, table }: { study: Study; table: StudyTable }) {
  const indices = useMemo(() => indicesOf(study, table), [study, table]);
  const outcomes = table.outcomes.filter((o) => Object.hasOwn(indices, o.key));
  if (outcomes.length === 0)
    return (
      <Text color="ink2">
        {study.method.kind === "sobol"
          ? "They are told once some base points are whole."
          : "They follow from a study whose runs are combined for them: choose it beside the axes."}
      </Text>
    );
  const share = (v: number): string => `${Math.round(100 * Math.max(0, v))} %`;
  return (
    <>
      <Text color="ink2" mb="2">
        Share of the variance of each outcome: alone (first order, Saltelli 2010), and with every interaction (total, Jansen 1999). From{" "}
        {indices[outcomes[0].key].of} base points.
      </Text>
      <Grid
        label="Sobol’ indices"
        head={[{ text: "Outcome", left: true }, ...study.axes.map((a) => ({ text: a.name, unit: "alone · in all" }))]}
        rows={outcomes.map((o) => ({
          key: o.key,
          cells: [
            o.words,
            ...study.axes.map((a, i) => (
              <Flex key={a.id} gap="2" justify="flex-end" align="center">
                <Box w="70px" h="8px" position="relative" background="paper">
                  <Box position="absolute" h="8px" w={`${Math.min(100, 100 * Math.max(0, indices[o.key].total[i]))}%`} background="line" />
                  <Box position="absolute" h="8px" w={`${Math.min(100, 100 * Math.max(0, indices[o.key].first[i]))}%`} background="water" />
                </Box>
                <Text whiteSpace="nowrap">
                  {share(indices[o.key].first[i])} · {share(indices[o.key].total[i])}
                </Text>
              </Flex>
            )),
          ],
        }))}
      />
    </>
  );
}
