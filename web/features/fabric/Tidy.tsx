"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { namedParts, removeUnusedChanges, unusedRecords, type NamedPart, type Project } from "@arroyo/core";
import { Head } from "../../ui/fields.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { useStore } from "../store.ts";

const words: Readonly<Record<NamedPart, string>> = {
  materials: "Materials",
  assemblies: "Assemblies",
  glazings: "Glazings",
  kits: "Envelope kits",
  schedules: "Schedules",
  resets: "Outdoor resets",
  deviceLists: "Device lists",
  spaceTypes: "Space types",
};

/** Everything nothing in use names, removed in one step. */
export function Tidy() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const unused = unusedRecords(project);
  return (
    <>
      <Flex align="baseline" gap="4" mb="1">
        <Text as="h2" textStyle="title">
          What is unused
        </Text>
        <PrimaryButton disabled={unused.length === 0} onClick={() => edit(`Without ${unused.length} unused`, removeUnusedChanges(project))}>
          Remove what is unused
        </PrimaryButton>
      </Flex>
      <Text color="ink2">
        {unused.length === 0
          ? "Everything the project holds is used."
          : `${unused.length} things that no space, face, opening or option names, also by way of others. One step; undo brings all of them back.`}
      </Text>
      <Flex gap="8" wrap="wrap" mt="2" data-testid="unused">
        {namedParts.map((part) => {
          const list = unused.filter((u) => u.part === part);
          return list.length === 0 ? null : (
            <Box key={part} minW="180px">
              <Head>
                {words[part]} · {list.length}
              </Head>
              {list.map((u) => (
                <Text key={u.id}>{project[part][u.id].name}</Text>
              ))}
            </Box>
          );
        })}
      </Flex>
    </>
  );
}
