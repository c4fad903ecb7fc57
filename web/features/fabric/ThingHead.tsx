"use client";
import { Flex, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { isNewer, setChange, SHIPPED, shippedLibrary, updateChanges, type CopiedFrom, type Project } from "@arroyo/core";
import { Act, firstMessage, TextInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { partWord, type FabricPart } from "./fabricStore.ts";
import { useMine } from "./myLibrary.ts";

/** Id of the field a desk's thing is renamed in, for the action that leads there. */
export const NAME_FIELD = "thing-name";

/** Name of the thing a desk shows, and where it was copied from. */
export function ThingHead({ part, id, children }: { part: FabricPart; id: string; children?: ReactNode }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const thing = project[part][id] as { readonly name: string; readonly from?: CopiedFrom };
  return (
    <>
      <Flex align="baseline" gap="3" mb="0.5" id={NAME_FIELD}>
        <TextInput
          label={`Name of the ${partWord[part].one}`}
          width="290px"
          title
          value={thing.name}
          onCommit={(t) => firstMessage(edit(`${thing.name} is now ${t}`, [setChange(project, [part, id, "name"], t)]))}
        />
        {children}
      </Flex>
      {thing.from && <From part={part} id={id} from={thing.from} />}
    </>
  );
}

function From({ part, id, from }: { part: FabricPart; id: string; from: CopiedFrom }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const mine = useMine((s) => s.document);
  const set = from.library === SHIPPED ? shippedLibrary() : from.library === "mine" ? mine : null;
  const newer = set !== null && isNewer(project[part][id], part, set, from.library);
  const name = from.library === "this project" ? project[part][from.id]?.name : set?.[part]?.[from.id]?.name;
  const where =
    from.library === "this project" ? "" : from.library === "mine" ? ", my library" : from.library === SHIPPED ? ", shipped library" : `, ${from.library}`;
  const update = (): void => {
    if (!set) return;
    const made = updateChanges(project, set, from.library, part, id);
    if (made.ok) edit(`${project[part][id].name}: as in the library now`, made.changes);
  };
  return (
    <Text color="ink2" fontSize="11.5px" mb="1" data-testid="copied-from">
      Copied from {name ?? from.id}
      {where}
      {newer && (
        <>
          {" · "}
          <Text as="span" color="clay">
            newer there
          </Text>{" "}
          <Act onClick={update}>take the newer one</Act>
        </>
      )}
    </Text>
  );
}
