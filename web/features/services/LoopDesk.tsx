"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { addToList, componentName, componentWords, drawnFrom, plantChanges, plantsOf, ruledComponents, setChange, sourcesOf, type Project } from "@arroyo/core";
import { firstMessage, SelectInput, TextInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";
import { figuresOf } from "./ComponentInspector.tsx";
import { selectionOf, sizeField } from "./componentPlace.ts";
import { AddSource, LoopDiagram } from "./Diagram.tsx";
import { SYSTEM_NAME } from "./systemActions.ts";

/** A loop: its sources in the order they serve, its pump, and what draws on it. */
export function LoopDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const selection = useStore((s) => s.selection);
  const units = useUnits();
  const live = useLiveFigures();
  const { summary } = tally(live);
  const loop = project.loops[id];
  const hasPump = loop.parts.some((p) => p.kind === "pump");
  return (
    <Box>
      <Flex align="baseline" gap="3" mb="2" id={SYSTEM_NAME}>
        <TextInput
          label="Name of the loop"
          title
          width="220px"
          value={loop.name}
          onCommit={(t) => firstMessage(edit(`${loop.name} is now ${t}`, [setChange(project, ["loops", id, "name"], t)]))}
        />
        <Text color="ink2">loop of {loop.kind} · sources that stand first serve first</Text>
        <Flex ml="auto" gap="2" align="center">
          <SelectInput
            label="Another plant"
            width="150px"
            value=""
            options={[{ value: "", label: "another plant" }, ...plantsOf(loop.kind).map((p) => ({ value: p.id, label: p.words }))]}
            onChange={(plant) => {
              const found = plantsOf(loop.kind).find((p) => p.id === plant);
              if (found) edit(`${loop.name}: ${found.words}`, plantChanges(project, id, found.id));
            }}
          />
          <AddSource
            label="Add a source"
            kinds={[
              ...sourcesOf[loop.kind],
              ...(hasPump ? [] : (["pump"] as const)),
              ...(loop.kind === "chilled water" && !loop.parts.some((p) => p.kind === "tower") ? (["tower"] as const) : []),
            ]}
            onAdd={(kind) => {
              const made = addToList(project, ["loops", id, "parts"], loop.parts, kind);
              if (edit(`${loop.name}: ${componentWords[kind]}`, [made.change]).length === 0) select([selectionOf(["loops", id, "parts", made.id])]);
            }}
          />
        </Flex>
      </Flex>
      <LoopDiagram loop={id} moment="sizes" />
      <Text fontWeight="600" mt="3" mb="1">
        What draws on it
      </Text>
      <Grid
        label={`What draws on ${loop.name}`}
        head={[{ text: "", left: true }, { text: "of", left: true }, { text: "Size" }, { text: "In the year" }]}
        rows={drawnFrom(ruledComponents(project).project, id).map((c) => {
          const field = c.kind === "terminal" ? "reheatCapacity" : c.kind === "fanCoil" && loop.kind === "hot water" ? "heatingCapacity" : sizeField[c.kind];
          const { size, year } = figuresOf(c, summary, units, field);
          return {
            key: c.path.join("/"),
            active: selection.some((s) => s.id === c.path.join("/")),
            onClick: () => select([selectionOf(c.path)]),
            cells: [componentName(c), c.path[0] === "zones" ? project.zones[c.path[1]].name : project.airSystems[c.path[1]].name, size || "—", year || "—"],
          };
        })}
      />
    </Box>
  );
}
