"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import {
  adoptOption,
  applyChange,
  describeChange,
  freeId,
  moveToBase,
  removeOption,
  setChange,
  standingFault,
  unsetChange,
  viewOf,
  type Change,
  type Project,
} from "@arroyo/core";
import { Act, Row, SelectInput } from "../../ui/fields.tsx";
import { Inspector } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

/** The changes of the option in view: move one to the base, take it out, adopt them all. */
export function OptionChanges({ document, option }: { document: Project; option: string | null }) {
  const units = useUnits();
  const edit = useStore((s) => s.edit);
  const look = useStore((s) => s.look);
  if (option === null || !Object.hasOwn(document.options, option))
    return (
      <Inspector title="Base" about="The model the options stand on. Choose an option on the left, or in the top line, to see and change its list.">
        {null}
      </Inspector>
    );
  const o = document.options[option];
  const { stale, project } = viewOf(document, option);
  const others = Object.keys(document.options).filter((id) => id !== option && standingFault(document, option, id) === null);
  const copy = (): void => {
    const id = freeId(document.options, "option");
    if (edit(`Copy of ${o.name}`, [{ op: "insert", path: ["options", id], value: { ...o, name: `${o.name}, copy`.slice(0, 200) } } as Change]).length === 0)
      look(id);
  };
  return (
    <Inspector
      title={o.name}
      about={`option · ${o.changes.length} change${o.changes.length === 1 ? "" : "s"} over ${o.on === undefined ? "base" : document.options[o.on].name}`}
    >
      <chakra.input
        key={o.name}
        aria-label="Name of the option"
        defaultValue={o.name}
        background="transparent"
        borderBottom="1px solid"
        borderColor="line"
        w="100%"
        mb="2"
        onBlur={(e) => {
          const name = e.target.value.trim();
          if (name !== "" && name !== o.name) edit(`Rename to ${name}`, [setChange(document, ["options", option, "name"], name)]);
        }}
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      />
      {(others.length > 0 || o.on !== undefined) && (
        <Row label="Stands on" title="Its changes come after those of the option it stands on.">
          <SelectInput
            label="The option stands on"
            width="150px"
            value={o.on ?? ""}
            options={[{ value: "", label: "the base" }, ...others.map((value) => ({ value, label: document.options[value].name }))]}
            onChange={(v) =>
              edit(`${o.name} stands on ${v === "" ? "the base" : document.options[v].name}`, [
                v === "" ? unsetChange(document, ["options", option, "on"]) : setChange(document, ["options", option, "on"], v),
              ])
            }
          />
        </Row>
      )}
      {o.changes.map((c, i) => {
        const words = describeChange(project, c);
        const old = stale.find((s) => s.change === c);
        const fits = !old && o.on === undefined && applyChange(document, c).ok;
        return (
          <Box key={c.id} py="1.5" borderBottom="1px solid" borderColor="line">
            <Text>{words.thing}</Text>
            <Text color="ink2">
              {units.turned(words.from)} → <b>{units.turned(words.to)}</b>
            </Text>
            {old && (
              <Text color="clay" fontSize="12px">
                No longer fits: {units.turned(old.message)}
              </Text>
            )}
            <Flex gap="3">
              {fits && <Act onClick={() => edit(`${words.thing} to base`, moveToBase(document, option, i))}>Move to base</Act>}
              <Act onClick={() => edit(`Take out ${words.thing}`, [{ op: "remove", path: ["options", option, "changes", c.id], old: c }])}>Take out</Act>
            </Flex>
          </Box>
        );
      })}
      {o.changes.length === 0 && (
        <Text color="ink2" my="2">
          Nothing changed yet. Whatever you change on any stage while this option is in view is listed here.
        </Text>
      )}
      <Flex gap="4" mt="3" wrap="wrap">
        <Act
          onClick={() => {
            look(null);
            edit(`Adopt ${o.name}`, adoptOption(document, option));
          }}
        >
          Adopt as the base
        </Act>
        {o.changes.some((c) => c.path[0] === "weather") && (
          <Act
            title="Its weather year comes into view as well"
            onClick={() => {
              look(null);
              edit(`Adopt ${o.name} with its weather year`, adoptOption(document, option, true));
            }}
          >
            Adopt with its weather year
          </Act>
        )}
        <Act onClick={copy}>Copy</Act>
        <Act
          onClick={() => {
            look(null);
            edit(`Remove ${o.name}`, removeOption(document, option));
          }}
        >
          Remove
        </Act>
      </Flex>
    </Inspector>
  );
}
