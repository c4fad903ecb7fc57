"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import {
  addToList,
  componentName,
  componentWords,
  effectiveServices,
  equipmentKinds,
  moveInList,
  plainChanges,
  slabChanges,
  slabFault,
  type Change,
  type Component,
  type ComponentKind,
  type PlacedComponent,
  type Project,
  type SlabWhere,
} from "@arroyo/core";
import { Act, Head, Row, SelectInput } from "../../ui/fields.tsx";
import { Inspector } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";
import { figuresOf } from "./ComponentInspector.tsx";
import { selectionOf, sizeField } from "./componentPlace.ts";
import { DrivenNote } from "../measured/DrivenNote.tsx";

const slabPlaces: readonly SlabWhere[] = ["floor", "ceiling", "floor and ceiling"];

/** What heats and cools one zone, in the order it serves. */
export function RoomInspector({ zone }: { zone: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const units = useUnits();
  const live = useLiveFigures();
  const { summary } = tally(live);
  const z = project.zones[zone];
  const list = z.equipment ?? [];
  const path = ["zones", zone, "equipment"];
  const open = (id: string): void => select([selectionOf([...path, id])]);
  const add = (kind: ComponentKind): void => {
    const system = Object.keys(project.airSystems)[0];
    const made = addToList(project, path, z.equipment, kind, kind === "terminal" && system !== undefined ? { system } : {});
    if (edit(`${z.name}: ${componentWords[kind]}`, [made.change]).length === 0) open(made.id);
  };
  const throughSlab = (where: SlabWhere): void => {
    if (edit(`${z.name} through its ${where}`, slabChanges(project, zone, where)).length > 0) return;
    const made = (useStore.getState().project as Project).zones[zone].equipment?.find((c) => c.kind === "slabCircuit");
    if (made) open(made.id);
  };
  const may = slabPlaces.filter((w) => slabFault(project, zone, w) === null);
  return (
    <Inspector
      title={z.name}
      about={list.length === 0 ? `plain services · ${project.services[effectiveServices(project, zone).id].name}` : "heated and cooled by"}
    >
      <DrivenNote of={[`zones/${zone}/`]} />
      {list.map((c) => {
        const placed: PlacedComponent = { ...c, path: [...path, c.id] };
        const { size, year } = figuresOf(placed, summary, units, sizeField[c.kind]);
        return (
          <Row
            key={c.id}
            label={<Act onClick={() => open(c.id)}>{componentName(c)}</Act>}
            note={c.kind === "terminal" && typeof c.inputs.system === "string" ? project.airSystems[c.inputs.system]?.name : undefined}
          >
            <Text as="span">{size}</Text>
            <Text as="span" color="ink2">
              {year}
            </Text>
          </Row>
        );
      })}
      {list.length > 1 && (
        <Text color="ink2" fontSize="11.5px" mt="1">
          What stands first serves first.
        </Text>
      )}
      <Head>Add</Head>
      <Row label="Equipment">
        <SelectInput
          label="Add equipment"
          width="150px"
          value=""
          options={[
            { value: "", label: "+ equipment" },
            ...equipmentKinds.filter((k) => k !== "slabCircuit").map((k) => ({ value: k, label: componentWords[k] })),
          ]}
          onChange={(k) => k !== "" && add(k as ComponentKind)}
        />
      </Row>
      <Row
        label="Through"
        note={may.length === 0 ? (slabFault(project, zone, "floor") ?? undefined) : "pipes in its assembly, the circuit and its loops at once"}
      >
        <Flex gap="2.5">
          {may.map((w) => (
            <Act key={w} onClick={() => throughSlab(w)} title={`Heats and cools ${z.name} through its ${w}`}>
              {w === "floor and ceiling" ? "both" : w}
            </Act>
          ))}
        </Flex>
      </Row>
      {list.length > 0 && (
        <Box mt="3">
          <Act onClick={() => edit(`${z.name}: plain services`, plainChanges(project, [zone]))}>back to plain services</Act>
        </Box>
      )}
    </Inspector>
  );
}

/** What may be done with a part or a piece of equipment: earlier, later, remove; looked at alone. */
export function ComponentTools({ component: c, alone = null }: { component: PlacedComponent; alone?: (() => void) | null }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const look = alone && (
    <Act onClick={alone} title="Its equations with their numbers, sliders and its curve">
      on its own
    </Act>
  );
  if (c.path.length < 4) return look && <Flex mb="1">{look}</Flex>;
  const [part, id] = c.path;
  const list: readonly Component[] =
    part === "zones"
      ? (project.zones[id].equipment ?? [])
      : part === "loops"
        ? project.loops[id].parts
        : part === "waterSystems"
          ? (project.waterSystems[id].parts as readonly Component[])
          : project.airSystems[id].parts;
  const name = componentName(c);
  const inOrder = part !== "airSystems" && list.length > 1;
  const remove = (): void => {
    const whole = part === "zones" && list.length === 1;
    const change: Change = whole
      ? { op: "unset", path: c.path.slice(0, 3), old: project.zones[id].equipment }
      : { op: "remove", path: [...c.path], old: list.find((x) => x.id === c.id) };
    if (edit(`Without ${name.toLowerCase()}`, [change]).length === 0) select([part === "zones" ? { kind: "zone", id } : selectionOf([part, id])]);
  };
  const move = (by: -1 | 1): void => void edit(`${name} ${by < 0 ? "earlier" : "later"}`, moveInList(list, c.path.slice(0, -1), c.id, by));
  return (
    <Flex gap="3" mb="1">
      {inOrder && (
        <>
          <Act disabled={list[0].id === c.id} onClick={() => move(-1)}>
            earlier
          </Act>
          <Act disabled={list[list.length - 1].id === c.id} onClick={() => move(1)}>
            later
          </Act>
        </>
      )}
      <Act onClick={remove}>remove</Act>
      {look}
    </Flex>
  );
}
