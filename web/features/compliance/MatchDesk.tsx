"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import type { Project } from "@arroyo/core";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { SheetTable } from "../../ui/SheetTable.tsx";
import { useStore } from "../store.ts";
import { matchSheet, matchSheetNames, suggestionChanges } from "./matchSheets.ts";
import { useSubmitting } from "./useCompliance.ts";

/** Uses of the project matched with those of the pack, and storeys with names; suggestions stand until something is typed. */
export function MatchDesk() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const { pack } = useSubmitting();
  const changes = suggestionChanges(project, pack);
  return (
    <Flex direction="column" h="100%" minH="0">
      <Text as="h2" textStyle="title">
        Matched with the {pack.name}
      </Text>
      <Text color="ink2" mb="2">
        Each space counts as a use of the pack: {pack.uses.map((u) => u.name).join(", ")}. ↑ is suggested by a word of its name or of the file it came from;
        type another over it, or paste a column.
      </Text>
      <Flex mb="2">
        <PrimaryButton disabled={changes.length === 0} onClick={() => edit("Suggestions taken as matched", changes)}>
          Take every suggestion
        </PrimaryButton>
      </Flex>
      <Box flex="1" minH="0" position="relative">
        <SheetTable project={project} names={matchSheetNames} of={(p, name) => matchSheet(p, name, pack)} />
      </Box>
    </Flex>
  );
}
