"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import {
  appendChanges,
  freeId,
  measureOf,
  measuresOf,
  pointChanges,
  setChange,
  studyBase,
  withChanges,
  valueAt,
  type AxesData,
  type Change,
  type Project,
  type Study,
  type StudyPoint,
  type StudyTable,
} from "@arroyo/core";
import { valueWords } from "../../ui/currents/filters.ts";
import { Act } from "../../ui/fields.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { useQuery } from "../useQuery.ts";
import { MOST_KEPT, type StudyLook } from "./studyViews.ts";

/** The changes of a run against the model it stands on as it is now, each with what it replaces; or why they do not fit. */
export function adoptChanges(document: Project, study: Study, point: StudyPoint): { readonly changes: readonly Change[] } | { readonly message: string } {
  if (study.base !== null && !Object.hasOwn(document.options, study.base)) return { message: "The option the study stands on is gone." };
  let current = studyBase(document, study);
  const changes: Change[] = [];
  for (const change of pointChanges(current, study, point)) {
    const done = withChanges(current, [change]);
    if (!done.ok) return { message: done.message };
    if (done.project === current) continue;
    const old = valueAt(current, change.path);
    changes.push(change.op === "insert" || old === undefined ? change : { ...change, old });
    current = done.project;
  }
  return { changes };
}

const named = (study: Study, index: number): string => (index === 0 ? "the base" : `${study.name}, run ${index}`);

/** The chosen run: its inputs and figures; it becomes the model, an option, or the measures of the staircase. */
export function ChosenRun({
  data,
  table,
  row,
  study,
  look: { kept: keptRuns },
  change,
}: {
  data: AxesData;
  table: StudyTable;
  row: number;
  study: Study;
  look: StudyLook;
  change: (c: Partial<StudyLook>) => void;
}) {
  const [point, index] = [table.points[row], table.index[row]];
  const kept = keptRuns.includes(index);
  const onKeep = (): void => change({ kept: kept ? keptRuns.filter((k) => k !== index) : [...keptRuns, index].slice(-MOST_KEPT + 1) });
  const units = useUnits();
  const document = useStore((s) => s.document) as Project;
  const edit = useStore((s) => s.edit);
  const look = useStore((s) => s.look);
  const [, go] = useQuery();
  const found = adoptChanges(document, study, point);
  const name = named(study, index);
  const adopt = (): void => {
    if ("message" in found) return;
    // its changes go to the model the study stands on; the year in view stays
    look(study.base);
    edit(`Adopt ${name}`, found.changes);
  };
  const asOption = (): void => {
    if ("message" in found) return;
    const id = freeId(document.options, "option");
    edit(`New option from ${name}`, [
      {
        op: "insert",
        path: ["options", id],
        value: { name: name[0].toUpperCase() + name.slice(1), changes: appendChanges([], found.changes), ...(study.base === null ? {} : { on: study.base }) },
      },
    ]);
  };
  const asMeasures = (): void => {
    const measures = [...(study.base === null ? [] : [measureOf(document, study.base)]), ...measuresOf(studyBase(document, study), study, point)];
    edit(`Staircase of ${name}`, [setChange(document, ["measures"], measures)]);
    go({ study: null, read: "staircase" });
  };
  const line = (key: string, label: string, value: string) => (
    <Flex key={key} justify="space-between" gap="3" borderBottom="1px solid" borderColor="line" fontSize="12.5px" css={{ breakInside: "avoid" }}>
      <Text lineClamp={1} title={label}>
        {label}
      </Text>
      <Text fontWeight="600" whiteSpace="nowrap" maxW="60%" overflow="hidden" textOverflow="ellipsis" title={value}>
        {value}
      </Text>
    </Flex>
  );
  return (
    <Box as="section" aria-label="Chosen run" data-testid="chosen-run">
      <Flex align="center" gap="3" mb="1">
        <Text as="h2" textStyle="title" color={index === 0 ? "ink" : "clay"} whiteSpace="nowrap">
          {index === 0 ? "The base" : `Run ${index}`}
        </Text>
        <PrimaryButton disabled={"message" in found || found.changes.length === 0} onClick={adopt}>
          Adopt into the model
        </PrimaryButton>
        <Act disabled={"message" in found} onClick={asOption}>
          As an option
        </Act>
        <Act disabled={"message" in found} onClick={asMeasures}>
          As a staircase
        </Act>
        <Act onClick={onKeep}>{kept ? "Do not keep it" : "Keep beside the base"}</Act>
      </Flex>
      <Box columnCount={2} columnGap="6">
        {data.columns.filter((c) => c.kind === "input").map((c) => line(c.key, c.name, units.turned(valueWords(c, row))))}
        {data.columns.filter((c) => c.kind === "outcome").map((c) => line(c.key, c.name, valueWords(c, row)))}
      </Box>
      {"message" in found && (
        <Text color="clay" mt="1">
          It does not fit the model as it is now: {units.turned(found.message)}
        </Text>
      )}
    </Box>
  );
}
