"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { readinessOf, type Project, type Question, type Readiness } from "@arroyo/core";
import { useShowThing } from "../features/showThing.ts";
import { Act } from "./fields.tsx";

const titles: Record<Question, string> = {
  "sun study": "Sun study",
  loads: "Heating and cooling loads",
  "annual energy": "Annual energy",
  sizing: "Sizing",
  code: "An energy code",
};

/** What the model can answer as it is: by question, with the defaults each answer stands on. */
export function ReadinessPanel({ project, onClose }: { project: Project; onClose: () => void }) {
  const all = useMemo(() => readinessOf(project), [project]);
  const [open, setOpen] = useState<Question | null>(null);
  const show = useShowThing();
  const answer = (r: Readiness): string =>
    r.lacks.length > 0
      ? "lacks something"
      : r.defaults.length === 0
        ? "answered now"
        : `answered now, stands on ${r.defaults.length} default${r.defaults.length === 1 ? "" : "s"}`;
  return (
    <Box
      as="section"
      aria-label="What the model can answer"
      position="absolute"
      right="0"
      top="0"
      w="420px"
      maxH="100%"
      overflowY="auto"
      zIndex="10"
      background="sheet"
      border="1px solid"
      borderColor="line"
      p="4"
    >
      <Flex justify="space-between" mb="1">
        <Text textStyle="title">What the model can answer</Text>
        <Act onClick={onClose}>Close</Act>
      </Flex>
      {all.map((r) => (
        <Box key={r.question} py="1.5" borderTop="1px solid" borderColor="line" data-testid={`ready-${r.question.replace(" ", "-")}`}>
          <Flex justify="space-between" gap="2" align="baseline">
            <Text fontWeight="600">{titles[r.question]}</Text>
            {r.lacks.length === 0 && r.defaults.length > 0 ? (
              <Act onClick={() => setOpen(open === r.question ? null : r.question)}>
                {answer(r)} {open === r.question ? "▾" : "›"}
              </Act>
            ) : (
              <Text color={r.lacks.length > 0 ? "clay" : "ink2"}>{answer(r)}</Text>
            )}
          </Flex>
          {r.lacks.slice(0, 5).map((l) => (
            <Flex key={l.message} gap="2" justify="space-between">
              <Text color="clay" fontSize="12px">
                {l.message}
              </Text>
              <Act onClick={() => show(l.path, l.stage)}>Show</Act>
            </Flex>
          ))}
          {r.lacks.length > 5 && (
            <Text color="ink2" fontSize="12px">
              and {r.lacks.length - 5} more, among the problems
            </Text>
          )}
          {open === r.question &&
            r.defaults.map((d) => (
              <Flex key={`${d.kind} ${d.field}`} gap="2" justify="space-between" fontSize="12px">
                <Text>
                  ○ {d.spec.label}{" "}
                  <Text as="span" color="ink2">
                    in {d.things.length} {d.kind}
                    {d.things.length === 1 ? "" : "s"}
                  </Text>
                </Text>
                <Act onClick={() => show(`${d.kind === "space" ? "spaces" : "zones"}/${d.things[0]}/inputs/${d.field}`, d.stage)}>Show</Act>
              </Flex>
            ))}
        </Box>
      ))}
    </Box>
  );
}
