"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo } from "react";
import { checkProject, physicsHash, type Project } from "@arroyo/core";
import { FigureTable } from "../options/FigureTable.tsx";
import { useYears } from "../options/useVariants.ts";
import { useStore } from "../store.ts";

/** One design over all weather years of the project, the year in view first. */
export function AllYears() {
  const project = useStore((s) => s.project) as Project;
  const asked = useMemo(() => {
    const blocked = checkProject(project).problems.find((p) => p.severity === "error")?.message ?? null;
    return [project.weather, ...Object.keys(project.weathers).filter((k) => k !== project.weather)].map((id) => {
      const seen = { ...project, weather: id };
      return { id, name: project.weathers[id].name, project: seen, key: physicsHash(seen), blocked };
    });
  }, [project]);
  const { summaryOf, busy } = useYears(asked);
  return (
    <Box>
      <Flex align="baseline" gap="3" mb="1" wrap="wrap">
        <Text as="h2" textStyle="title">
          All years side by side
        </Text>
        <Text color="ink2">15-minute years; in small, the difference from the year in view{busy > 0 ? ` · ${busy} still to compute` : ""}</Text>
      </Flex>
      <FigureTable
        label="All years side by side"
        currency={project.prices.currency}
        columns={asked.map((a) => ({ key: a.id, name: a.name, summary: summaryOf(a.key), blocked: a.blocked !== null }))}
      />
      {asked.length === 1 && (
        <Text color="ink2" mt="3" maxW="560px">
          This project has one year so far. Add another on the left: a measured one from a file, or a future one made by monthly changes; the same design then
          runs in each of them.
        </Text>
      )}
      {asked[0].blocked !== null && (
        <Text color="clay" role="alert" mt="2">
          {asked[0].blocked}
        </Text>
      )}
    </Box>
  );
}
