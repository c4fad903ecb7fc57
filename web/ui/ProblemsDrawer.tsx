"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import type { Outlier, Problem } from "@arroyo/core";
import { showPlace } from "../features/form/showPlace.ts";
import { selectAt } from "../features/showThing.ts";
import { useStore } from "../features/store.ts";
import type { Stage } from "../features/stages.ts";
import { Act } from "./fields.tsx";
import { Implausible } from "./Implausible.tsx";
import { Told } from "./Told.tsx";

/** Everything wrong, each with its sentence, a way to its place and, where safe, a fix. */
export function ProblemsDrawer({
  problems,
  outliers,
  onClose,
  onShow,
}: {
  problems: readonly Problem[];
  outliers: readonly Outlier[];
  onClose: () => void;
  onShow: (s: Stage) => void;
}) {
  const edit = useStore((s) => s.edit);
  const show = (p: Pick<Problem, "path" | "stage">): void => {
    if (p.stage === "form") showPlace(p.path);
    else selectAt(p.path, p.stage);
    onShow(p.stage);
  };
  return (
    <Box
      as="aside"
      aria-label="Problems"
      position="absolute"
      right="0"
      top="0"
      bottom="0"
      w="360px"
      zIndex="10"
      background="sheet"
      borderLeft="1px solid"
      borderColor="line"
      p="4"
      overflowY="auto"
    >
      <Flex justify="space-between" mb="2">
        <Text textStyle="title">Problems</Text>
        <Act onClick={onClose}>Close</Act>
      </Flex>
      {problems.length === 0 && (
        <Text color="ink2">
          Nothing is wrong that a check can find. Gaps and overlaps, missing uses, clashing set-points and openings that fit no wall would be listed here.
        </Text>
      )}
      {problems.map((p, i) => (
        <Box key={`${p.path}-${i}`} py="2" borderTop="1px solid" borderColor="line">
          <Text color={p.severity === "error" ? "clay" : "ink"}>
            <Told text={p.message} />
          </Text>
          <Text fontSize="11.5px" color="ink2">
            {p.stage} · {p.severity === "error" ? "the year cannot run" : "the year runs"}
          </Text>
          <Flex gap="3">
            <Act onClick={() => show(p)}>Show</Act>
            {p.fix && <Act onClick={() => edit(p.fix?.label ?? "Fix", p.fix?.changes ?? [])}>{p.fix.label}</Act>}
          </Flex>
        </Box>
      ))}
      <Implausible outliers={outliers} show={(path, stage) => onShow(selectAt(path, stage))} />
    </Box>
  );
}
