"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  freezeChanges,
  serviceFieldsOf,
  setChange,
  settingOf,
  zonesOnSystem,
  type Change,
  type Component,
  type PlacedComponent,
  type Project,
  ruledComponents,
} from "@arroyo/core";
import { Act, firstMessage, SelectInput, TextInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";
import { stampText } from "../../ui/format.ts";
import { figuresOf, stateOf, type Moment } from "./ComponentInspector.tsx";
import { hourState } from "./componentYear.ts";
import { HourChoice } from "../HourChoice.tsx";
import { COMPONENTS, NO_CLASSES } from "../../live/seriesClasses.ts";
import { useYearSeries } from "../yearSeries.ts";
import { loopsOf, selectionOf } from "./componentPlace.ts";
import { AirDiagram, LoopDiagram } from "./Diagram.tsx";
import { SYSTEM_NAME } from "./systemActions.ts";

/** What the drawing shows. */
type Tab = "sizes" | "cooling" | "heating" | "hour";
/** Hour shown first: 21 July at 15:00 of a whole year. */
const MIDSUMMER_AFTERNOON = 24 * 201 + 14;

/** An air system: its path, the loops it draws on, and its rooms. */
export function SystemDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const selection = useStore((s) => s.selection);
  const units = useUnits();
  const live = useLiveFigures();
  const { summary } = tally(live);
  const [tab, setTab] = useState<Tab>("sizes");
  const [hour, setHour] = useState(MIDSUMMER_AFTERNOON);
  const found = useYearSeries(project, tab === "hour" ? COMPONENTS : NO_CLASSES);
  const { year } = found;
  const now = year ? Math.min(hour, Math.max(0, year.hours - 1)) : hour;
  const moment: Moment = tab === "hour" ? { state: (path) => (year ? hourState(year, path, now) : null) } : tab;
  const told = stateOf(["airSystems", id], summary, moment);
  const ruled = ruledComponents(project).project;
  const system = ruled.airSystems[id];
  const zones = zonesOnSystem(project, id);
  const loops = loopsOf(project, id);
  const free = Object.keys(project.zones).filter((z) => !zones.includes(z));
  const terminals = zones.map((z): { zone: string; c: PlacedComponent } => {
    const c = (ruled.zones[z].equipment ?? []).find((x) => x.kind === "terminal" && x.inputs.system === id) as Component;
    return { zone: z, c: { ...c, path: ["zones", z, "equipment", c.id] } };
  });
  const sizes = Object.entries(summary?.sized ?? {}).filter(
    ([a]) => a.startsWith(`airSystems/${id}/`) || terminals.some((t) => a.startsWith(`${t.c.path.join("/")}/`)),
  );
  const setting = (c: PlacedComponent, field: string): string => {
    const spec = serviceFieldsOf(c.kind)[field];
    const v = settingOf(c.kind, c.inputs, field);
    if (typeof v !== "number") return String(v);
    const shown: { readonly unit: string; readonly factor: number } = "display" in spec && spec.display ? spec.display : { unit: spec.unit, factor: 1 };
    return `${c.inputs[field] === undefined ? "○" : "●"} ${units.words(v * shown.factor, shown.unit, 0)}`;
  };
  const withRoom = (z: string): void => {
    const like = terminals[0]?.c.inputs ?? {};
    const { flow: _f, reheatCapacity: _r, ...inputs } = like;
    edit(`${project.zones[z].name} on ${system.name}`, [
      setChange(
        project,
        ["zones", z, "equipment"],
        [...(project.zones[z].equipment ?? []).filter((c) => c.kind !== "terminal"), { id: "terminal", kind: "terminal", inputs: { ...inputs, system: id } }],
      ),
    ]);
  };
  return (
    <Box>
      <Flex align="baseline" gap="3" mb="2" id={SYSTEM_NAME}>
        <TextInput
          label="Name of the system"
          title
          width="200px"
          value={system.name}
          onCommit={(t) => firstMessage(edit(`${system.name} is now ${t}`, [setChange(project, ["airSystems", id, "name"], t)]))}
        />
        <Text color="ink2">
          {String(settingOf("airSystem", system.inputs, "flow"))} volume, supply by {String(settingOf("airSystem", system.inputs, "supplyRule"))} ·{" "}
          {zones.length} zone
          {zones.length === 1 ? "" : "s"}
        </Text>
        <Flex ml="auto" gap="3">
          <Act onClick={() => select([selectionOf(["airSystems", id])])}>hours and supply air</Act>
          {sizes.length > 0 && (
            <Act
              title="Types what sizing found, so that it no longer follows"
              onClick={() => edit(`${system.name}: sizes frozen`, freezeChanges(project, Object.fromEntries(sizes)))}
            >
              freeze sizes
            </Act>
          )}
        </Flex>
      </Flex>
      <Flex align="baseline" gap="3" mb="1">
        <Text fontWeight="600">Air</Text>
        <Text color="ink2" fontSize="11.5px">
          {tab === "sizes"
            ? "width is flow · ⌁ by sizing · click a part, drag it to another gap, “+” offers what may stand there"
            : tab === "hour"
              ? year
                ? ""
                : (found.message ?? "finding the hours of the year …")
              : told
                ? `width is flow · state of the air behind each part on ${stampText(told.at)}, when this system ${tab === "cooling" ? "cooled" : "heated"} most`
                : `this system never ${tab === "cooling" ? "cools" : "heats"}`}
        </Text>
        {tab === "hour" && year && <HourChoice year={year} hour={now} onChange={setHour} />}
        <Flex ml="auto" gap="1" role="tablist" aria-label="What the drawing shows">
          {(["sizes", "cooling", "heating", "hour"] as const).map((k) => (
            <chakra.button
              key={k}
              type="button"
              role="tab"
              aria-selected={tab === k}
              px="2"
              borderRadius="full"
              border="1px solid"
              borderColor={tab === k ? "water" : "line"}
              background={tab === k ? "wash" : "transparent"}
              fontSize="11.5px"
              cursor="pointer"
              whiteSpace="nowrap"
              onClick={() => setTab(k)}
            >
              {k === "sizes" ? "sizes" : k === "hour" ? "at an hour" : `most ${k}`}
            </chakra.button>
          ))}
        </Flex>
      </Flex>
      <AirDiagram system={id} moment={moment} />
      {loops.length > 0 && (
        <Box borderTop="1px solid" borderColor="line" mt="2" pt="2">
          <Text fontWeight="600" mb="1">
            Water
          </Text>
          {loops.map((l) => (
            <LoopDiagram key={l} loop={l} moment={moment} />
          ))}
        </Box>
      )}
      <Flex align="baseline" justify="space-between" borderTop="1px solid" borderColor="line" mt="2" pt="2">
        <Text fontWeight="600">Rooms</Text>
        {free.length > 0 && (
          <SelectInput
            label="Add a room"
            width="150px"
            value=""
            options={[{ value: "", label: "+ room" }, ...free.map((z) => ({ value: z, label: project.zones[z].name }))]}
            onChange={(z) => z !== "" && withRoom(z)}
          />
        )}
      </Flex>
      <Grid
        label={`Rooms of ${system.name}`}
        head={[{ text: "Room", left: true }, { text: "Design flow" }, { text: "Least flow" }, { text: "Reheat" }, { text: "Reheat capacity" }, { text: "" }]}
        rows={terminals.map(({ zone, c }) => {
          const reheats = settingOf("terminal", c.inputs, "reheat") !== "none";
          return {
            key: zone,
            active: selection.some((s) => s.id === c.path.join("/")),
            onClick: () => select([selectionOf(c.path)]),
            cells: [
              project.zones[zone].name,
              figuresOf(c, summary, units, "flow").size || "⌁",
              setting(c, "least"),
              setting(c, "reheat"),
              reheats ? figuresOf(c, summary, units, "reheatCapacity").size || "⌁" : "—",
              <Act
                key="x"
                title={`Takes ${project.zones[zone].name} off this system`}
                onClick={() => {
                  const left = (project.zones[zone].equipment ?? []).filter((x) => x.id !== c.id);
                  const change: Change =
                    left.length > 0
                      ? setChange(project, ["zones", zone, "equipment"], left)
                      : { op: "unset", path: ["zones", zone, "equipment"], old: project.zones[zone].equipment };
                  edit(`${project.zones[zone].name} off ${system.name}`, [change]);
                }}
              >
                ×
              </Act>,
            ],
          };
        })}
      />
    </Box>
  );
}
