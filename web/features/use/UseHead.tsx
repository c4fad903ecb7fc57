"use client";
import { Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { setChange, type Project } from "@arroyo/core";
import { firstMessage, TextInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { partWord, thingOf, type UsePart } from "./useDesk.ts";

/** Id of the field a desk's thing is renamed in, for the action that leads there. */
export const USE_NAME_FIELD = "use-name";

/** Name of the thing a desk shows. */
export function UseHead({ part, id, children }: { part: UsePart; id: string; children?: ReactNode }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const name = thingOf(project, part, id)?.name ?? "";
  return (
    <Flex align="center" gap="3" mb="0.5" id={USE_NAME_FIELD}>
      <TextInput
        label={`Name of the ${partWord[part].one}`}
        width="260px"
        title
        value={name}
        onCommit={(t) => firstMessage(edit(`${name} is now ${t}`, [setChange(project, [part, id, "name"], t)]))}
      />
      {children}
    </Flex>
  );
}
