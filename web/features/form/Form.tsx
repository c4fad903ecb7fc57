"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { addStorey, checkProject, copyStorey, freeId, removeStorey, setChange, type PlanEdit, type Project } from "@arroyo/core";
import { figure } from "../../ui/format.ts";
import { Act, firstMessage } from "../../ui/fields.tsx";
import { Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { MassingForm } from "../projects/MassingForm.tsx";
import { useStore, type Selection } from "../store.ts";
import { Airflow } from "./Airflow.tsx";
import { Building } from "./Building.tsx";
import { Elevation, elevationHost } from "./Elevation.tsx";
import { FormInspector } from "./FormInspector.tsx";
import { useForm, views, type View } from "./formStore.ts";
import { PlanDesk } from "./PlanDesk.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { SheetTable } from "../../ui/SheetTable.tsx";
import { sheetNames, sheetOf } from "./sheetData.ts";
import { showPlace } from "./showPlace.ts";
import { SunStudy } from "./SunStudy.tsx";
import { Told } from "../../ui/Told.tsx";

/** Problems listed beside the plan; the drawer has all. */
const SHOWN = 12;

const viewName: Record<View, string> = {
  plan: "Plan and building",
  building: "Building",
  elevation: "Elevation",
  sheets: "Sheets",
  sun: "Sun study",
  airflow: "Airflow",
};

/** The Form desk: storeys and their plans, the building, elevations, sheets and the sun study; what is selected in one is selected in all. */
export function Form() {
  const project = useStore((s) => s.project) as Project;
  const selection = useStore((s) => s.selection);
  const select = useStore((s) => s.select);
  const { view, storey: chosen } = useForm();
  const set = useForm((s) => s.set);
  const [drawing, setDrawing] = useState(false);
  const storeys = Object.entries(project.storeys).sort(([, a], [, b]) => b.elevation - a.elevation);
  const spaceOf = (s: Selection): string | null =>
    s.kind === "space" ? s.id : s.kind === "wall" ? s.id.split("/")[0] : s.kind === "opening" ? hostSpace(project, s.id) : null;
  const selected = selection.map(spaceOf).find((id) => id !== null && project.spaces[id]);
  const selectedStorey = selected ? project.spaces[selected].storey : selection.find((s) => s.kind === "storey" && project.storeys[s.id])?.id;
  const storey = selectedStorey ?? (chosen && project.storeys[chosen] ? chosen : (storeys[storeys.length - 1]?.[0] ?? ""));
  const pick = (id: string, add: boolean): void => {
    const now = { kind: "space" as const, id };
    const has = selection.some((s) => s.kind === "space" && s.id === id);
    select(add ? (has ? selection.filter((s) => s.id !== id) : [...selection.filter((s) => s.kind === "space"), now]) : [now]);
  };
  if (Object.keys(project.spaces).length === 0 && !drawing) return <FirstForm project={project} onDraw={() => setDrawing(true)} />;
  return (
    <>
      <FormSide project={project} storey={storey} pick={pick} />
      <Flex as="main" aria-label="Form" flex="1" minW="0" background="sheet" direction="column">
        <Flex px="2" h="34px" align="center" gap="1" borderBottom="1px solid" borderColor="line" flexShrink={0} role="toolbar" aria-label="Views of the form">
          {views.map((v) => (
            <Toggle key={v} on={view === v} onClick={() => set({ view: v })}>
              {viewName[v]}
            </Toggle>
          ))}
        </Flex>
        <Box flex="1" minH="0" position="relative">
          {view === "plan" && (
            <Flex h="100%">
              <Box flex="1.45" minW="0" position="relative">
                <PlanDesk key={storey} project={project} storey={storey} onPick={pick} />
              </Box>
              <Box flex="1" minW="0" borderLeft="1px solid" borderColor="line" position="relative">
                <Building project={project} storey={storey} compact />
              </Box>
            </Flex>
          )}
          {view === "building" && <Building project={project} storey={storey} />}
          {view === "elevation" && <Elevation project={project} host={elevationHost(project, selection)} />}
          {view === "sheets" && <SheetTable project={project} names={sheetNames} of={sheetOf} />}
          {view === "airflow" && <Airflow project={project} storey={storey} />}
          {view === "sun" && <SunStudy project={project} storey={storey} />}
        </Box>
      </Flex>
      <FormInspector storey={storey} />
    </>
  );
}

function hostSpace(project: Project, opening: string): string | null {
  const o = project.openings[opening];
  return o && "host" in o && o.host ? o.host.split("/")[0] : null;
}

/** Storeys with their spaces, openings, shading, roofs and what is wrong. */
function FormSide({ project, storey, pick }: { project: Project; storey: string; pick: (id: string, add: boolean) => void }) {
  const units = useUnits();
  const selection = useStore((s) => s.selection);
  const select = useStore((s) => s.select);
  const edit = useStore((s) => s.edit);
  const set = useForm((s) => s.set);
  const [said, setSaid] = useState<string | null>(null);
  const { geometry, problems } = checkProject(project);
  const storeys = Object.entries(project.storeys).sort(([, a], [, b]) => b.elevation - a.elevation);
  const on = (kind: Selection["kind"], id: string): boolean => selection.some((s) => s.kind === kind && s.id === id);
  const run = (e: PlanEdit): void => setSaid(e.ok ? firstMessage(edit(e.name, e.changes)) : e.message);
  const faults = problems.filter((p) => p.stage === "form");
  const addPlane = (): void => {
    const id = freeId(project.shades, "free_plane");
    const xs = [...geometry.spaces.values()].flatMap((g) => g.outline.map((p) => p[0]));
    const ys = [...geometry.spaces.values()].flatMap((g) => g.outline.map((p) => p[1]));
    const [x0, x1, y0] = xs.length > 0 ? [Math.min(...xs), Math.max(...xs), Math.min(...ys)] : [0, 6, 0];
    const ring = [
      [x0, y0 - 4, 3.2],
      [x1, y0 - 4, 3.2],
      [x1, y0 - 1, 3.2],
      [x0, y0 - 1, 3.2],
    ];
    edit("Add a free plane", [{ op: "insert", path: ["shades", id], value: { kind: "plane", name: "Free plane", ring } }]);
    select([{ kind: "shade", id }]);
  };
  const addRule = (): void => {
    const id = freeId(project.openings, "windows");
    const value = { kind: "ratio", name: "Windows by share", orientation: null, storey, space: null, ratio: 0.3, sill: 0.9, height: 1.5, glazing: null };
    edit("Windows by share of wall", [{ op: "insert", path: ["openings", id], value }]);
    select([{ kind: "opening", id }]);
  };
  return (
    <Side label="Storeys and spaces">
      <SideHead>Storeys</SideHead>
      {storeys.map(([id, s]) => (
        <Box key={id}>
          <SideItem
            active={on("storey", id)}
            bold={id === storey}
            value={`${s.elevation > 0 ? "+" : ""}${units.words(s.elevation, "m", 1)}`}
            onClick={() => {
              set({ storey: id });
              select([{ kind: "storey", id }]);
            }}
          >
            {s.name}
            {s.multiplier > 1 ? ` ×${s.multiplier}` : ""}
          </SideItem>
          {id === storey && (
            <Flex pl="6" pr="3.5" pb="1" gap="2.5">
              <Act onClick={() => run(copyStorey(project, id))}>copy above</Act>
              <Act onClick={() => run(removeStorey(project, id))}>remove</Act>
            </Flex>
          )}
          {id === storey &&
            Object.entries(project.spaces)
              .filter(([, x]) => x.storey === id)
              .map(([spaceId, x]) => (
                <SideItem
                  key={spaceId}
                  indent
                  active={on("space", spaceId)}
                  value={units.text(geometry.spaces.get(spaceId)?.floorArea, "m²", 0)}
                  onClick={(e) => pick(spaceId, e.shiftKey)}
                >
                  {x.name}
                </SideItem>
              ))}
        </Box>
      ))}
      <Flex px="3.5" py="1" gap="2.5">
        <Act onClick={() => run(addStorey(project))}>add a storey</Act>
        <Act onClick={() => run(addStorey(project, true))}>add a basement</Act>
      </Flex>
      {said && (
        <Text role="alert" px="3.5" color="clay" fontSize="12px">
          <Told text={said} />
        </Text>
      )}
      {faults.length > 0 && <SideHead>Problems</SideHead>}
      {faults.slice(0, SHOWN).map((p, i) => (
        <Box key={i} px="3.5" py="1">
          <Text color={p.severity === "error" ? "clay" : "ink2"} fontSize="12px">
            <Told text={p.message} />
          </Text>
          <Flex gap="2.5">
            <Act onClick={() => showPlace(p.path)}>show</Act>
            {p.fix && <Act onClick={() => setSaid(firstMessage(edit(p.fix?.label ?? "Fix", p.fix?.changes ?? [])))}>{p.fix.label}</Act>}
          </Flex>
        </Box>
      ))}
      {faults.length > SHOWN && (
        <Text px="3.5" color="ink2" fontSize="12px">
          and {faults.length - SHOWN} more: see the problems in the stage line
        </Text>
      )}
      <SideHead>Openings</SideHead>
      {Object.entries(project.openings).map(([id, o]) => (
        <SideItem
          key={id}
          indent
          active={on("opening", id)}
          value={o.kind === "ratio" ? `${figure(100 * o.ratio, 0)} %` : o.kind === "outline" ? "" : units.words(o.width, "m", 1)}
          onClick={() => select([{ kind: "opening", id }])}
        >
          {o.name}
        </SideItem>
      ))}
      <Flex px="3.5" py="1">
        <Act onClick={addRule}>windows by share of wall</Act>
      </Flex>
      <SideHead>Shading and roofs</SideHead>
      {Object.entries(project.shades).map(([id, s]) => (
        <SideItem
          key={id}
          indent
          active={on("shade", id)}
          value={s.kind === "plane" ? "" : units.words(s.depth, "m", 1)}
          onClick={() => select([{ kind: "shade", id }])}
        >
          {s.name}
        </SideItem>
      ))}
      {Object.entries(project.roofs).map(([id, r]) => (
        <SideItem
          key={id}
          indent
          active={on("roof", id)}
          value={r.kind === "flat" ? "" : `${figure(r.pitch, 0)}°`}
          onClick={() => select([{ kind: "roof", id }])}
        >
          {r.name}
        </SideItem>
      ))}
      <Flex px="3.5" py="1">
        <Act onClick={addPlane}>add a free plane</Act>
      </Flex>
    </Side>
  );
}

/** A project without spaces: draw, start from a massing, or import. */
function FirstForm({ project, onDraw }: { project: Project; onDraw: () => void }) {
  const edit = useStore((s) => s.edit);
  const draw = (): void => {
    if (Object.keys(project.storeys).length === 0)
      edit("Ground floor", [{ op: "insert", path: ["storeys", "ground"], value: { name: "Ground floor", elevation: 0, height: 3.5, multiplier: 1 } }]);
    useForm.getState().set({ view: "plan", tool: "rectangle" });
    onDraw();
  };
  return (
    <Middle label="Massing">
      <Text textStyle="title">Nothing is drawn yet</Text>
      <Text color="ink2" mb="2" maxW="640px">
        Draw spaces on the plan, over an image if there is one, or make a complete model in one step from a footprint, storeys and glazing, with perimeter and
        core zones, to refine afterwards.
      </Text>
      <Flex mb="4">
        <Act onClick={draw}>Draw on an empty plan</Act>
      </Flex>
      <MassingForm
        context={project}
        id={project.id}
        name={project.name}
        onMake={(made) => {
          const parts = [
            "name",
            "storeys",
            "spaces",
            "zones",
            "roofs",
            "openings",
            "shades",
            "faceOverrides",
            "materials",
            "assemblies",
            "glazings",
            "kits",
            "schedules",
            "spaceTypes",
            "services",
            "defaults",
          ] as const;
          return Promise.resolve(
            firstMessage(
              edit(
                "Massing",
                parts.map((part) => setChange(project, [part], made[part])),
              ),
            ),
          );
        }}
      />
    </Middle>
  );
}
