"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState, type ReactNode } from "react";
import {
  airPlan,
  checkProject,
  connectChanges,
  freeId,
  leakageClasses,
  leakageParts,
  proposeNetwork,
  setChange,
  unconnected,
  type AirLink,
  type AirNetworkInput,
  type AirPlan,
  type LeakageClass,
  type LeakagePart,
  type Project,
} from "@arroyo/core";
import { Act, firstMessage, Quantity, Row, SelectInput, TextInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { Told } from "../../ui/Told.tsx";
import { useUnits } from "../../ui/units.ts";
import { AirMap } from "../airflow/AirMap.tsx";
import { networkArrows } from "../airflow/arrows.ts";
import { useStore } from "../store.ts";
import { ControlRows, hostOptions, kindWords, ruleText } from "./AirPathInspector.tsx";
import { Building } from "./Building.tsx";
import { WindPressures } from "./WindPressures.tsx";

const tabs = { paths: "Paths", types: "Opening types", leakage: "Leakage", pressures: "Wind pressures" } as const;
type Tab = keyof typeof tabs;

/** The airflow network: made from the geometry, seen over plan and building, its paths, types, leakage and wind pressures. */
export function Airflow({ project, storey }: { project: Project; storey: string }) {
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const selection = useStore((s) => s.selection);
  const [tab, setTab] = useState<Tab>("paths");
  const [cracks, setCracks] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const input = project.airNetwork;
  const checked = checkProject(project);
  const plan = useMemo(() => (input ? airPlan(project, input, checked) : null), [project, input, checked]);
  const missing = useMemo(() => (input ? unconnected(project, input, checked) : []), [project, input, checked]);
  const chosen = useMemo(() => new Set(selection.flatMap((s) => (s.kind === "airPath" ? [s.id] : []))), [selection]);
  const arrows = useMemo(() => (plan ? networkArrows(plan, missing, chosen) : []), [plan, missing, chosen]);
  const make = (): void => {
    const value = proposeNetwork(project, checked);
    setSaid(firstMessage(edit("Make the airflow network", [setChange(project, ["airNetwork"], value)])));
  };
  const pick = (id: string, add: boolean): void => {
    const now = { kind: "airPath" as const, id };
    select(add ? (chosen.has(id) ? selection.filter((s) => s.id !== id) : [...selection.filter((s) => s.kind === "airPath"), now]) : [now]);
  };
  if (!input || !plan)
    return (
      <Box p="6" maxW="640px">
        <Text textStyle="title" mb="1">
          No airflow network yet
        </Text>
        <Text color="ink2" mb="3">
          Windows follow the simple model now: each zone for itself, by wind and stack through its own openings. A network has one node a zone and a path for
          every crack, window, door, way through, grille, shaft and fan; what flows where is solved together with the heat in every step, and drives
          temperatures, carbon dioxide and moisture. It is made from what is drawn.
        </Text>
        <PrimaryButton onClick={make}>Make the network</PrimaryButton>
        {said && (
          <Text role="alert" color="clay" mt="2">
            <Told text={said} />
          </Text>
        )}
      </Box>
    );
  const faults = checked.problems.filter((p) => p.path.startsWith("airNetwork"));
  return (
    <Flex direction="column" position="absolute" inset="0">
      <Flex flex="1.25" minH="0" borderBottom="1px solid" borderColor="line">
        <Box flex="1.2" minW="0" position="relative" borderRight="1px solid" borderColor="line">
          <AirMap
            project={project}
            storey={storey}
            plan={plan}
            missing={missing}
            chosen={chosen}
            cracks={cracks}
            onPick={pick}
            onMissing={(o) => setSaid(firstMessage(edit(`Connect ${o.label}`, connectChanges(project, checked, [o.key]))))}
            label={`Airflow network over ${project.storeys[storey]?.name ?? ""}`}
          />
          <Flex position="absolute" left="3" top="1.5" gap="2.5" align="center" fontSize="12px">
            <Text fontWeight="600" fontSize="13px">
              Network
            </Text>
            <Act onClick={() => setCracks(!cracks)}>{cracks ? "hide cracks" : "show cracks"}</Act>
          </Flex>
          {missing.length > 0 && (
            <Box position="absolute" left="3" bottom="1.5" fontSize="12px" background="sheet" px="1">
              <Text as="span" color="clay" data-testid="unconnected">
                {missing.length === 1 ? `${missing[0].label} is not connected` : `${missing.length} openings are not connected`}
              </Text>{" "}
              <Act onClick={() => setSaid(firstMessage(edit("Connect openings", connectChanges(project, checked))))}>
                {missing.length === 1 ? "Connect it" : "Connect them all"}
              </Act>
            </Box>
          )}
        </Box>
        <Box flex="1" minW="0" position="relative">
          <Building project={project} storey={storey} compact arrows={arrows} driven />
        </Box>
      </Flex>
      <Flex px="2" h="34px" align="center" gap="1" flexShrink={0} role="toolbar" aria-label="Parts of the network" borderBottom="1px solid" borderColor="line">
        {(Object.keys(tabs) as Tab[]).map((t) => (
          <Toggle key={t} on={t === tab} onClick={() => setTab(t)}>
            {tabs[t]}
          </Toggle>
        ))}
        <Box flex="1" />
        <Toggle
          on={input.use}
          title="The year runs with the network, or with the simple model"
          onClick={() => edit(input.use ? "Simple model" : "Airflow network", [setChange(project, ["airNetwork", "use"], !input.use)])}
        >
          {input.use ? "Network in use" : "Simple model in use"}
        </Toggle>
        <Act onClick={make}>Make anew</Act>
        <Act onClick={() => edit("Remove the airflow network", [{ op: "remove", path: ["airNetwork"], old: input }])}>Remove</Act>
      </Flex>
      <Box flex="1" minH="0" overflowY="auto" px="3" py="1.5" tabIndex={0} role="region" aria-label={tabs[tab]}>
        {said && (
          <Text role="alert" color="clay" fontSize="12px">
            <Told text={said} />
          </Text>
        )}
        {faults.map((p, i) => (
          <Text key={i} color={p.severity === "error" ? "clay" : "ink2"} fontSize="12px">
            <Told text={p.message} /> {p.fix && <Act onClick={() => edit(p.fix?.label ?? "Fix", p.fix?.changes ?? [])}>{p.fix.label}</Act>}
          </Text>
        ))}
        {tab === "paths" && <Paths project={project} input={input} plan={plan} chosen={chosen} pick={pick} />}
        {tab === "types" && <Types project={project} input={input} />}
        {tab === "leakage" && <Leakage project={project} input={input} />}
        {tab === "pressures" && <WindPressures project={project} input={input} plan={plan} />}
      </Box>
    </Flex>
  );
}

function Paths({
  project,
  input,
  plan,
  chosen,
  pick,
}: {
  project: Project;
  input: AirNetworkInput;
  plan: AirPlan;
  chosen: ReadonlySet<string>;
  pick: (id: string, add: boolean) => void;
}) {
  const units = useUnits();
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const planned = useMemo(() => new Map(plan.planned.flatMap((p) => (p.record === null ? [] : [[p.record, p] as const]))), [plan]);
  const links = Object.entries(input.links);
  const zone = (z: string | null): string => (z === null ? "outdoors" : (project.zones[z]?.name ?? z));
  const add = (value: AirLink): void => {
    const id = freeId(input.links, value.name);
    if (edit(`Add ${value.name}`, [{ op: "insert", path: ["airNetwork", "links", id], value }]).length === 0) select([{ kind: "airPath", id }]);
  };
  const first = input.zones[0] ?? null;
  const walls = hostOptions(project, "grille");
  const ceilings = hostOptions(project, "floor opening");
  const all = (kind: AirLink["kind"], inside: boolean): void =>
    select(links.flatMap(([id, l]) => (l.kind === kind && (planned.get(id)?.ends[1] !== null) === inside ? [{ kind: "airPath" as const, id }] : [])));
  return (
    <>
      <Flex gap="3" fontSize="12px" mb="1" flexWrap="wrap">
        <Act onClick={() => all("opening", false)}>Choose windows and doors to outdoors</Act>
        <Act onClick={() => all("opening", true)}>Choose ways inside</Act>
        <Box flex="1" />
        {walls.length > 0 && <Act onClick={() => add({ kind: "grille", name: "Grille", host: walls[0].value, level: 2, area: 0.1 })}>Add a grille</Act>}
        {ceilings.length > 0 && (
          <Act onClick={() => add({ kind: "floor opening", name: "Opening between storeys", host: ceilings[0].value, area: 2 })}>
            Add an opening between storeys
          </Act>
        )}
        <Act onClick={() => add({ kind: "shaft", name: "Shaft", from: { zone: first }, to: { zone: null }, bottom: 2, top: 8, area: 0.25, loss: 2.5 })}>
          Add a shaft
        </Act>
        <Act onClick={() => add({ kind: "fan", name: "Fan", from: { zone: first }, to: { zone: null }, level: 3, flow: 0.5, pressure: 80, schedule: null })}>
          Add a fan
        </Act>
      </Flex>
      <Grid
        label="Paths of the network"
        head={[
          { text: "Path", left: true },
          { text: "Between", left: true },
          { text: "Kind", left: true },
          { text: "Free area", unit: units.unit("m²") },
          { text: "Type", left: true },
          { text: "Opens", left: true },
        ]}
        rows={links.map(([id, l]) => {
          const p = planned.get(id);
          const type = l.kind === "fan" ? null : (l.type ?? null);
          return {
            key: id,
            active: chosen.has(id),
            onClick: () => pick(id, false),
            cells: [
              l.name,
              p ? `${zone(p.ends[0])} – ${zone(p.ends[1])}` : "—",
              kindWords[l.kind],
              p && p.area > 0 ? units.text(p.area, "m²", 2) : "—",
              type === null ? "—" : (input.types[type]?.name ?? type),
              p && l.kind !== "fan" ? `${ruleText(p.control)}${l.control ? " (own)" : ""}` : "—",
            ],
          };
        })}
      />
    </>
  );
}

function Types({ project, input }: { project: Project; input: AirNetworkInput }) {
  const edit = useStore((s) => s.edit);
  const all = Object.entries(input.types);
  const [on, setOn] = useState<string | null>(null);
  const id = on !== null && Object.hasOwn(input.types, on) ? on : (all[0]?.[0] ?? null);
  const uses = (t: string): number => Object.values(input.links).filter((l) => l.kind !== "fan" && l.type === t).length;
  const add = (): void => {
    const key = freeId(input.types, "Opening type");
    const value = { name: `Opening type ${all.length + 1}`, control: { rule: "temperature" as const, above: 23 } };
    if (edit(`Add ${value.name}`, [{ op: "insert", path: ["airNetwork", "types", key], value }]).length === 0) setOn(key);
  };
  const type = id === null ? null : input.types[id];
  return (
    <Flex gap="6" align="flex-start">
      <Box minW="240px">
        <Grid
          label="Opening types"
          head={[{ text: "Type", left: true }, { text: "Paths" }]}
          rows={all.map(([k, t]) => ({ key: k, active: k === id, onClick: () => setOn(k), cells: [t.name, String(uses(k))] }))}
        />
        <Act onClick={add}>Add a type</Act>
      </Box>
      {type && id !== null && (
        <Box flex="1" maxW="330px">
          <Row label="Name">
            <TextInput
              label="Type name"
              value={type.name}
              onCommit={(v) => firstMessage(edit(`Opening type ${v}`, [setChange(project, ["airNetwork", "types", id, "name"], v)]))}
            />
          </Row>
          <Row label="Discharge">
            <Quantity
              label="Discharge coefficient of the type"
              value={type.discharge ?? 0.6}
              unit="1"
              digits={2}
              onCommit={(v) => firstMessage(edit(`${type.name}: discharge coefficient`, [setChange(project, ["airNetwork", "types", id, "discharge"], v)]))}
            />
          </Row>
          <ControlRows
            project={project}
            prefix="Type: "
            control={type.control}
            onChange={(next) => firstMessage(edit(`${type.name}: rule`, [setChange(project, ["airNetwork", "types", id, "control"], next)]))}
          />
          {uses(id) === 0 && (
            <Act onClick={() => edit(`Remove ${type.name}`, [{ op: "remove", path: ["airNetwork", "types", id], old: type }])}>Remove the type</Act>
          )}
        </Box>
      )}
    </Flex>
  );
}

const partWords: Record<LeakagePart, string> = {
  north: "Walls to the north",
  east: "Walls to the east",
  south: "Walls to the south",
  west: "Walls to the west",
  roof: "Roofs",
  floor: "Floors over outdoors",
  inside: "Inner walls and floors",
};
const classNames = Object.keys(leakageClasses) as LeakageClass[];

function Leakage({ project, input }: { project: Project; input: AirNetworkInput }): ReactNode {
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const zones = Object.keys(project.zones);
  const put = (part: LeakagePart, v: string): void => void edit(`${partWords[part]}: ${v}`, [setChange(project, ["airNetwork", "leakage", part], v)]);
  return (
    <Flex gap="8" align="flex-start" flexWrap="wrap">
      <Box minW="360px">
        {leakageParts.map((part) => {
          const now = input.leakage[part] ?? "usual";
          return (
            <Row key={part} label={partWords[part]} note={`${units.text(leakageClasses[now], "m³/h·m²", 1)} ${units.unit("m³/h·m²")} at 50 Pa`}>
              <SelectInput
                label={partWords[part]}
                value={now}
                options={classNames.map((c) => ({ value: c, label: c }))}
                onChange={(v) => put(part, v)}
                width="110px"
              />
            </Row>
          );
        })}
      </Box>
      <Box minW="220px">
        <Text fontWeight="600" fontSize="12.5px">
          Zones in the network
        </Text>
        <Text color="ink2" fontSize="12px" mb="1">
          the others keep the simple model
        </Text>
        {zones.map((z) => (
          <label key={z} style={{ display: "block", fontSize: 12.5 }}>
            <input
              type="checkbox"
              checked={input.zones.includes(z)}
              onChange={(e) =>
                edit(`${project.zones[z].name} ${e.target.checked ? "in" : "out of"} the network`, [
                  setChange(project, ["airNetwork", "zones"], e.target.checked ? [...input.zones, z] : input.zones.filter((x) => x !== z)),
                ])
              }
            />{" "}
            {project.zones[z].name}
          </label>
        ))}
      </Box>
    </Flex>
  );
}
