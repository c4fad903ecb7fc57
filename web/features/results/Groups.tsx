"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { Trash2 } from "lucide-react";
import { freeId, groupsOf, setChange, type Change, type Group, type Project } from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { Act, firstMessage, TextInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { ZoneChips } from "../ZoneChips.tsx";
import { Conditions } from "../use/Conditions.tsx";

/** Groups of zones, by hand or by rule: read together wherever results are. */
export function Groups() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const groups = groupsOf(project);
  const add = (kind: Group["kind"]): void => {
    const held = project.groups ?? {};
    const id = freeId(held, "group");
    const names = new Set(Object.values(held).map((g) => g.name));
    let name = "New group";
    for (let n = 2; names.has(name); n++) name = `New group ${n}`;
    const value: Group = kind === "by hand" ? { kind, name, zones: [] } : { kind, name, conditions: [] };
    const change: Change = project.groups ? { op: "insert", path: ["groups", id], value } : setChange(project, ["groups"], { [id]: value });
    edit(`New group ${kind}`, [change]);
  };
  return (
    <Box maxW="760px">
      <Flex align="baseline" gap="3" mb="1">
        <Text fontWeight="600">Groups of zones</Text>
        <Act onClick={() => add("by hand")}>+ group by hand</Act>
        <Act onClick={() => add("by rule")}>+ group by rule</Act>
      </Flex>
      {groups.length === 0 && <Text color="ink2">None yet. A group is read beside its zones, hour by hour; no figure of a zone depends on it.</Text>}
      {groups.map(({ id, group, zones }) => (
        <Box key={id} py="1.5" borderTop="1px solid" borderColor="line" data-testid={`group-${id}`}>
          <Flex align="center" gap="2">
            <TextInput
              label={`Name of ${group.name}`}
              align="left"
              width="200px"
              value={group.name}
              onCommit={(t) => firstMessage(edit(`${group.name} is now ${t}`, [setChange(project, ["groups", id, "name"], t)]))}
            />
            <Text color="ink2">
              {group.kind} · {zones.length} zone{zones.length === 1 ? "" : "s"}
            </Text>
            <Box ml="auto">
              <IconButton
                label={`Remove ${group.name}`}
                icon={Trash2}
                onClick={() => edit(`Without ${group.name}`, [{ op: "remove", path: ["groups", id], old: group } as Change])}
              />
            </Box>
          </Flex>
          {group.kind === "by hand" ? (
            <ZoneChips chosen={group.zones} change={(zones, zone) => edit(`${group.name}: ${zone}`, [setChange(project, ["groups", id, "zones"], zones)])} />
          ) : (
            <Conditions name={group.name} path={["groups", id, "conditions"]} target="space" conditions={group.conditions} none="every zone is in it" />
          )}
        </Box>
      ))}
    </Box>
  );
}
