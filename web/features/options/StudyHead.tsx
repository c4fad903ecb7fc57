"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { Project, Study, StudyTable } from "@arroyo/core";
import { Act } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { useUnits } from "../../ui/units.ts";
import { isUnderWay, type StudyRun } from "./useStudy.ts";

/** A time in words. */
export function timeWords(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds))} s`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min`;
  return `${figure(seconds / 3600, 1)} h`;
}
/** How the runs of a study are made and judged, in words. */
export function studyWords(document: Pick<Project, "weathers">, study: Study, judge: string): string {
  const length =
    study.length === "year"
      ? study.stepsPerHour === 1
        ? "the year by the hour"
        : "the year"
      : `${study.length} days${study.stepsPerHour === 1 ? " by the hour" : ""}`;
  const years =
    study.years.length < 2
      ? study.years.length === 1
        ? ` of ${document.weathers[study.years[0]]?.name ?? study.years[0]}`
        : ""
      : ` of ${study.years.length} years, ${judge === "worst" ? "the worst" : judge === "mean" ? "their mean" : (document.weathers[judge]?.name ?? judge)}`;
  return `${length}${years}${study.sizing === "once" ? ", sized once" : ""}`;
}

/** Name, how it was run, how far it is, and what can be done with it. */
export function StudyHead({
  run,
  study,
  table,
  judge,
  changed,
  children,
}: {
  run: StudyRun;
  study: Study;
  table: StudyTable | null;
  judge: string;
  changed: string | null;
  children?: ReactNode;
}) {
  const units = useUnits();
  const { view } = run;
  const error = table?.error;
  const off = error && error.of > 0 ? error.by.energy : undefined;
  const left = view && view.pace !== null && view.threads > 0 ? ((view.planned - view.done) * view.pace) / view.threads : null;
  return (
    <Box mb="1">
      <Flex align="baseline" gap="3">
        <Text as="h2" textStyle="title" whiteSpace="nowrap">
          {study.name}
        </Text>
        <Text color="ink2" lineClamp={1}>
          {run.made && studyWords(run.made.document, study, judge)}
          {off !== undefined && ` · short year ±${units.text(off, "kWh/m²a", 1)} ${units.unit("kWh/m²a")}, from ${error?.of} whole years`}
        </Text>
        <Flex ml="auto" gap="3" whiteSpace="nowrap">
          {children}
        </Flex>
      </Flex>
      {view && view.status !== "done" && (
        <Flex align="center" gap="3" mt="1" role="status" data-testid="study-progress">
          <Box flex="0 0 220px" h="6px" background="line" borderRadius="small" overflow="hidden">
            <Box h="100%" w={`${(100 * view.done) / Math.max(1, view.planned)}%`} background="water" />
          </Box>
          <Text>
            {figure(view.done, 0)} of {study.method.kind === "search" ? "at most " : ""}
            {figure(view.planned, 0)} runs
            {view.status === "paused"
              ? ", paused"
              : view.status === "cancelled"
                ? ", cancelled; what was made is kept"
                : view.status === "failed"
                  ? `, failed: ${view.error ?? ""}`
                  : ""}
            {isUnderWay(view) && view.threads === 0 && ", no runner is up"}
            {isUnderWay(view) && view.threads > 0 && view.pace !== null && ` · ${figure(view.threads / view.pace, 1)} a second on ${view.threads} threads`}
            {isUnderWay(view) && left !== null && ` · ${timeWords(left)} left`}
          </Text>
          {isUnderWay(view) && <Act onClick={() => void run.turn("pause")}>Pause</Act>}
          {(view.status === "paused" || view.status === "cancelled") && <Act onClick={() => void run.turn("resume")}>Go on</Act>}
          {(isUnderWay(view) || view.status === "paused") && <Act onClick={() => void run.turn("cancel")}>Cancel</Act>}
        </Flex>
      )}
      {changed && view && !isUnderWay(view) && (
        <Text color="clay" fontSize="12.5px">
          {changed} <Act onClick={() => void run.start()}>Run what is affected</Act>
        </Text>
      )}
      {run.refusal && (
        <Text role="alert" color="clay">
          {units.turned(run.refusal)}
        </Text>
      )}
    </Box>
  );
}
