"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { Plus, Trash2 } from "lucide-react";
import {
  directionNames,
  freeId,
  kitRoles,
  roleWords,
  ruleConditions,
  setChange,
  type Project,
  type RuleCondition,
  type RuleConditionOn,
  type RuleTarget,
} from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { SelectInput, TextInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";

const onWords: Record<RuleConditionOn, string> = {
  spaceType: "space type",
  storey: "storey",
  orientation: "looks to",
  name: "name contains",
  tag: "tag",
  zone: "zone",
  role: "is part of",
  system: "on system or loop",
};
/** Conditions of a rule or of a group: all of them hold. @param none what it means to have none */
export function Conditions({
  name,
  path,
  target,
  conditions,
  none,
}: {
  name: string;
  path: readonly string[];
  target: RuleTarget;
  conditions: readonly RuleCondition[];
  none: string;
}) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const at = (...more: string[]): string[] => [...path, ...more];
  const choices = (on: RuleConditionOn): { value: string; label: string }[] => {
    const named = (set: Record<string, { name: string }>) => Object.entries(set).map(([value, x]) => ({ value, label: x.name }));
    switch (on) {
      case "spaceType":
        return named(project.spaceTypes);
      case "storey":
        return named(project.storeys);
      case "zone":
        return named(project.zones);
      case "orientation":
        return [...directionNames, ...(target === "space" ? [] : ["up", "down"])].map((d) => ({ value: d, label: d }));
      case "tag":
        return [...new Set(Object.values(project.spaces).flatMap((s) => s.tags ?? []))].map((t) => ({ value: t, label: t }));
      case "role":
        return kitRoles.map((r) => ({ value: r, label: roleWords[r] }));
      case "system":
        return [...named(project.airSystems), ...named(project.loops)];
      case "name":
        return [];
    }
  };
  const add = (): void => {
    const key = freeId(Object.fromEntries(conditions.map((c) => [c.id, c])), "c");
    const on = ruleConditions[target].find((o) => !conditions.some((c) => c.on === o)) ?? "name";
    edit(`${name}: another condition`, [{ op: "insert", path: at(key), value: { id: key, on, not: false, is: [] } }]);
  };
  return (
    <>
      <Flex align="center" gap="1" mt="3">
        <Text textStyle="head" color="ink2">
          Where all of these hold
        </Text>
        <IconButton label="Add a condition" icon={Plus} onClick={add} />
      </Flex>
      {conditions.length === 0 && <Text color="ink2">No condition: {none}.</Text>}
      {conditions.map((c, i) => {
        const label = `Condition ${i + 1}`;
        const options = choices(c.on);
        const set = (next: Partial<typeof c>): void => void edit(`${name}: condition`, [setChange(project, at(c.id), { ...c, ...next })]);
        return (
          <Flex key={c.id} align="center" gap="1" py="0.5" wrap="wrap" borderBottom="1px solid" borderColor="line">
            <SelectInput
              label={label}
              align="left"
              width="110px"
              value={c.on}
              options={ruleConditions[target].map((o) => ({ value: o, label: onWords[o] }))}
              onChange={(v) => set({ on: v as RuleConditionOn, is: [] })}
            />
            <SelectInput
              label={`${label}, is or is not`}
              align="left"
              width="62px"
              value={c.not ? "not" : "is"}
              options={[
                { value: "is", label: "is" },
                { value: "not", label: "is not" },
              ]}
              onChange={(v) => set({ not: v === "not" })}
            />
            {c.is.map((v) => (
              <Flex key={v} align="center" background="wash" borderRadius="small" px="1.5" gap="1">
                {options.find((o) => o.value === v)?.label ?? v}
                <chakra.button
                  type="button"
                  aria-label={`${label}: without ${v}`}
                  color="ink2"
                  cursor="pointer"
                  onClick={() => set({ is: c.is.filter((x) => x !== v) })}
                >
                  ×
                </chakra.button>
              </Flex>
            ))}
            {c.on === "name" ? (
              <TextInput
                key={c.is.length}
                label={`${label}, words`}
                width="110px"
                value=""
                onCommit={(t) => {
                  set({ is: [...c.is, t] });
                  return null;
                }}
              />
            ) : (
              <SelectInput
                label={`${label}, add`}
                align="left"
                width="130px"
                value=""
                options={[{ value: "", label: c.is.length > 0 ? "or …" : "choose …" }, ...options.filter((o) => !c.is.includes(o.value))]}
                onChange={(v) => v !== "" && set({ is: [...c.is, v] })}
              />
            )}
            <Box ml="auto">
              <IconButton
                label={`Remove condition ${i + 1}`}
                icon={Trash2}
                onClick={() => edit(`${name}: one condition less`, [{ op: "remove", path: at(c.id), old: c }])}
              />
            </Box>
          </Flex>
        );
      })}
    </>
  );
}
