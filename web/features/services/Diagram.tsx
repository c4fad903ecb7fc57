"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  addPart,
  allowedAt,
  componentName,
  componentWords,
  drawnFrom,
  isSized,
  mayMove,
  movePart,
  serviceFieldsOf,
  settingOf,
  supplyParts,
  zonesOnSystem,
  type Component,
  type PlacedComponent,
  type Project,
  type Summary,
  ruledComponents,
} from "@arroyo/core";
import { SelectInput } from "../../ui/fields.tsx";
import { useUnits, type Units } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";
import { figuresOf, linesOf, stateOf, type Moment } from "./ComponentInspector.tsx";
import { selectionOf, sizeField } from "./componentPlace.ts";

const WIDTH = 752;
const LEFT = 46;
const DELTA = 176;
const BOX = 56;
const AIR_TOP = 62;
const MOST_ROOMS = 7;

/** Strokes of each kind of part, drawn in a square of 40. */
const strokes: Partial<Record<Component["kind"], string>> = {
  recovery: "M4 6 L36 34 M4 34 L36 6",
  mixing: "M4 8 C20 8 20 20 36 20 M4 32 C20 32 20 20 36 20",
  heatingCoil: "M4 20 q4 -12 8 0 t8 0 t8 0 t8 0",
  coolingCoil: "M4 20 q4 -12 8 0 t8 0 t8 0 t8 0 M4 28 h32",
  humidifier: "M20 6 C10 20 10 26 12 30 A9 9 0 0 0 28 30 C30 26 30 20 20 6 M15 27 q5 5 10 0",
  supplyFan: "M20 6 A14 14 0 1 0 20.1 6 M20 20 L29 9 M20 20 L32 26 M20 20 L10 31",
  returnFan: "M20 6 A14 14 0 1 0 20.1 6 M20 20 L29 9 M20 20 L32 26 M20 20 L10 31",
};

const placed = (system: string, p: Component): PlacedComponent => ({ ...p, path: ["airSystems", system, "parts", p.id] });

/** Design flow of a component, m³/s: typed, or as sizing found it. */
function flowOf(c: PlacedComponent, summary: Summary | null): number | null {
  if (isSized(c.kind, c.inputs, "flow")) return summary?.sized[[...c.path, "inputs", "flow"].join("/")] ?? null;
  return settingOf(c.kind, c.inputs, "flow") as number | null;
}

/**
 * An air system as a watercourse: its parts stand on the stream in the order the air meets them, the supply fans out to its rooms, the
 * return runs below. A part opens by a click, moves by dragging to a gap where it may stand, and a "+" offers what may stand there.
 */
export function AirDiagram({ system, moment }: { system: string; moment: Moment }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const selection = useStore((s) => s.selection);
  const units = useUnits();
  const live = useLiveFigures();
  const { summary } = tally(live);
  const [dragged, setDragged] = useState<string | null>(null);
  const [open, setOpen] = useState<number | null>(null);
  const ruled = ruledComponents(project).project;
  const doc = ruled.airSystems[system];
  const path = supplyParts(doc);
  const returnFan = doc.parts.find((p) => p.kind === "returnFan");
  const pitch = Math.min(128, (WIDTH - LEFT - DELTA) / Math.max(1, path.length));
  const at = (i: number): number => LEFT + i * pitch + (pitch - BOX) / 2;
  const end = LEFT + path.length * pitch;
  const zones = zonesOnSystem(project, system);
  const rooms = zones.map((z) => {
    const c = (ruled.zones[z].equipment ?? []).find((x) => x.kind === "terminal" && x.inputs.system === system) as Component;
    const terminal: PlacedComponent = { ...c, path: ["zones", z, "equipment", c.id] };
    const now = stateOf(terminal.path, summary, moment);
    return { zone: z, name: project.zones[z].name, terminal, flow: now ? now.flow : flowOf(terminal, summary), now };
  });
  rooms.sort((a, b) => (b.flow ?? 0) - (a.flow ?? 0));
  const shown = rooms.length > MOST_ROOMS ? rooms.slice(0, MOST_ROOMS - 1) : rooms;
  const rest = rooms.slice(shown.length);
  const total = rooms.reduce((s, r) => s + (r.flow ?? 0), 0);
  const back = stateOf(["airSystems", system], summary, moment);
  // outdoor air as it enters: before recovery, else at the mixing box, else at the first part
  const inlet = path.find((p) => p.kind === "recovery") ?? path.find((p) => p.kind === "mixing") ?? path[0];
  const intake = inlet ? stateOf(["airSystems", system, "parts", inlet.id], summary, moment) : null;
  const middle = AIR_TOP + BOX / 2;
  const lines = shown.length + (rest.length > 0 ? 1 : 0);
  /** Top of a room's line: all of them about the stream. */
  const roomTop = (i: number): number => Math.max(4, middle - 15 * lines) + 30 * i;
  const thick = total > 0 ? 30 : 12;
  const mixes = path.findIndex((p) => p.kind === "mixing");
  const returnTop = AIR_TOP + BOX + 58;
  const returnX = mixes >= 0 ? at(mixes) + BOX / 2 : LEFT + pitch / 2;
  const insert = (kind: Component["kind"], gap: number): void => {
    const made = addPart(project, system, kind as Parameters<typeof addPart>[2], gap);
    setOpen(null);
    if (edit(`${doc.name}: ${componentWords[kind]}`, [made.change]).length === 0) select([selectionOf(["airSystems", system, "parts", made.id])]);
  };
  const height = Math.max(returnTop + 36, 12 + roomTop(lines));
  return (
    <Box position="relative" w={`${WIDTH}px`} h={`${height}px`} role="group" aria-label={`Air path of ${doc.name}`}>
      <chakra.svg position="absolute" inset="0" width={WIDTH} height={height} aria-hidden="true">
        <rect x={8} y={middle - thick / 2} width={end - 8 + 18} height={thick} fill="var(--chakra-colors-wash)" />
        <path d={`M8 ${middle} H${end + 12}`} stroke="var(--chakra-colors-water)" strokeWidth="1.5" />
        <path d={`M${end + 10} ${middle - 5} l9 5 l-9 5 z`} fill="var(--chakra-colors-water)" />
        {[...shown, ...(rest.length > 0 ? [null] : [])].map((r, i) => {
          const y = roomTop(i) + 8;
          const flow = r ? (r.flow ?? 0) : rest.reduce((s, x) => s + (x.flow ?? 0), 0);
          const w = total > 0 ? Math.max(1.5, (flow / total) * thick) : 2;
          return (
            <path
              key={i}
              d={`M${end + 18} ${middle} C${end + 34} ${middle} ${end + 22} ${y + 8} ${end + 40} ${y + 8}`}
              fill="none"
              stroke="var(--chakra-colors-wash)"
              strokeWidth={w}
            />
          );
        })}
        <rect x={returnX} y={returnTop - 9} width={end + 18 - returnX} height={18} fill="var(--chakra-colors-line)" opacity="0.6" />
        {mixes >= 0 && (
          <rect x={returnX - 9} y={AIR_TOP + BOX} width={18} height={returnTop - AIR_TOP - BOX + 9} fill="var(--chakra-colors-line)" opacity="0.6" />
        )}
        <rect x={8} y={returnTop - 4} width={returnX - 8} height={8} fill="var(--chakra-colors-line)" opacity="0.6" />
        <path d={`M${end + 18} ${returnTop} H${returnX + 8}`} stroke="var(--chakra-colors-ink2)" strokeWidth="1" />
        <path d={`M${returnX + 8} ${returnTop - 4} l-8 4 l8 4 z`} fill="var(--chakra-colors-ink2)" />
      </chakra.svg>
      <Box position="absolute" left="0" bottom={`${height - middle + thick / 2 + 3}px`} w="72px" fontSize="11px" lineHeight="1.25" color="ink2">
        <Text>outdoors</Text>
        {intake && <Text>{units.words(intake.flow, "kg/s", 2)}</Text>}
        {intake && <Text>{units.words(intake.entering, "°C", 1)}</Text>}
      </Box>
      <Text position="absolute" left="8px" top={`${returnTop + 6}px`} fontSize="11px" color="ink2">
        exhaust
      </Text>
      {returnFan ? (
        <Flex position="absolute" left={`${Math.min(end - 90, returnX + 60)}px`} top={`${returnTop - 15}px`} align="center" gap="1.5">
          <Chip component={placed(system, returnFan)} summary={summary} units={units} moment={moment} />
        </Flex>
      ) : (
        <Box position="absolute" left={`${Math.min(end - 90, returnX + 60)}px`} top={`${returnTop - 11}px`}>
          <Plus label="Add a return fan" onClick={() => insert("returnFan", path.length)} />
        </Box>
      )}
      <Text position="absolute" right={`${WIDTH - end - 14}px`} top={`${returnTop + 9}px`} fontSize="11px" color="ink2">
        return{back ? ` ${units.words(back.flow, "kg/s", 2)} · ${units.words(back.entering, "°C", 1)}` : ""}
      </Text>
      {path.map((p, i) => {
        const c = placed(system, p);
        const active = selection.some((s) => s.kind === "component" && s.id === c.path.join("/"));
        const [first, second] = linesOf(c, summary, units, sizeField[p.kind], moment);
        return (
          <Box key={p.id} position="absolute" left={`${at(i) - (pitch - BOX) / 2}px`} top="0" w={`${pitch}px`} textAlign="center" lineHeight="1.25">
            <Box h={`${AIR_TOP - 4}px`} display="flex" flexDirection="column" justifyContent="flex-end">
              <Text fontSize="12px" fontWeight="600">
                {componentName(c)}
              </Text>
              <Text fontSize="11px" color="ink2">
                {aboutPart(p)}
              </Text>
            </Box>
            <chakra.button
              type="button"
              draggable
              aria-label={`${componentName(c)} of ${doc.name}`}
              aria-pressed={active}
              mt="1"
              w={`${BOX}px`}
              h={`${BOX}px`}
              background={active ? "wash" : "sheet"}
              border="1px solid"
              borderColor={active ? "water" : "ink"}
              borderRadius="small"
              cursor="grab"
              display="inline-grid"
              placeItems="center"
              position="relative"
              zIndex="1"
              onClick={() => select([selectionOf(c.path)])}
              onDragStart={(e) => {
                e.dataTransfer.setData("text/plain", p.id);
                setDragged(p.id);
              }}
              onDragEnd={() => setDragged(null)}
            >
              <svg width="40" height="40" viewBox="0 0 40 40" aria-hidden="true">
                <path d={strokes[p.kind]} fill="none" stroke={partColour(p.kind)} strokeWidth="2" />
              </svg>
            </chakra.button>
            <Text fontSize="11px" mt="0.5">
              {first}
            </Text>
            <Text fontSize="11px" color="ink2">
              {second}
            </Text>
          </Box>
        );
      })}
      {Array.from({ length: path.length + 1 }, (_, gap) => {
        const kinds = allowedAt(doc, gap);
        const target = dragged !== null && mayMove(doc, dragged, gap);
        return (
          <Box
            key={gap}
            position="absolute"
            left={`${LEFT + gap * pitch - 9}px`}
            top={`${middle - 9}px`}
            zIndex={open === gap ? 5 : 2}
            onDragOver={(e) => target && e.preventDefault()}
            onDrop={(e) => {
              e.preventDefault();
              if (dragged !== null && target) edit(`${doc.name}: order of its parts`, movePart(project, system, dragged, gap));
              setDragged(null);
            }}
          >
            {target ? (
              <Box w="18px" h="18px" borderRadius="full" background="water" />
            ) : (
              kinds.length > 0 && <Plus label={`Add a part in gap ${gap + 1} of ${doc.name}`} onClick={() => setOpen(open === gap ? null : gap)} />
            )}
            {open === gap && (
              <Flex
                role="menu"
                aria-label="What may stand here"
                direction="column"
                position="absolute"
                top="22px"
                left="-50px"
                w="130px"
                background="sheet"
                border="1px solid"
                borderColor="line"
                py="1"
              >
                {kinds.map((k) => (
                  <chakra.button
                    key={k}
                    role="menuitem"
                    type="button"
                    textAlign="left"
                    px="2.5"
                    py="0.5"
                    cursor="pointer"
                    _hover={{ background: "wash" }}
                    onClick={() => insert(k, gap)}
                  >
                    {componentWords[k][0].toUpperCase() + componentWords[k].slice(1)}
                  </chakra.button>
                ))}
              </Flex>
            )}
          </Box>
        );
      })}
      {shown.map((r, i) => (
        <chakra.button
          key={r.zone}
          type="button"
          aria-label={`Terminal of ${r.name}`}
          position="absolute"
          left={`${end + 44}px`}
          top={`${roomTop(i)}px`}
          w={`${WIDTH - end - 46}px`}
          textAlign="left"
          lineHeight="1.2"
          cursor="pointer"
          _hover={{ color: "water" }}
          color={selection.some((s) => s.id === r.terminal.path.join("/")) ? "water" : undefined}
          onClick={() => select([selectionOf(r.terminal.path)])}
        >
          <Text fontSize="12px" truncate>
            {r.name}
          </Text>
          <Text fontSize="11px" color="ink2" truncate>
            {r.now
              ? `${units.words(r.now.flow, "kg/s", 2)} · ${units.words(r.now.leaving, "°C", 1)}`
              : moment === "sizes"
                ? figuresOf(r.terminal, summary, units, "flow").size
                : "—"}
            {moment === "sizes" &&
              settingOf("terminal", r.terminal.inputs, "reheat") !== "none" &&
              ` · reheat ${String(settingOf("terminal", r.terminal.inputs, "reheat"))}`}
          </Text>
        </chakra.button>
      ))}
      {rest.length > 0 && (
        <Text position="absolute" left={`${end + 44}px`} top={`${roomTop(shown.length)}px`} fontSize="12px" color="ink2">
          {rest.length} more below
        </Text>
      )}
    </Box>
  );
}

const partColour = (kind: Component["kind"]): string =>
  kind === "heatingCoil" ? "var(--chakra-colors-clay)" : kind === "coolingCoil" ? "var(--chakra-colors-water)" : "var(--chakra-colors-ink2)";

/** What a part is at a glance. */
function aboutPart(p: Component): string {
  const word = (field: string): string => String(settingOf(p.kind, p.inputs, field));
  if (p.kind === "recovery") return `${Math.round(100 * Number(word("sensible")))} %`;
  if (p.kind === "mixing") return word("economizer") === "none" ? "no economizer" : "economizer";
  if (p.kind === "heatingCoil") return word("heat");
  if (p.kind === "coolingCoil") return word("cold");
  if (p.kind === "humidifier") return word("by");
  return `${word("pressure")} Pa`;
}

function Plus({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <chakra.button
      type="button"
      aria-label={label}
      title={label}
      w="18px"
      h="18px"
      borderRadius="full"
      background="sheet"
      border="1px solid"
      borderColor="line"
      color="water"
      fontSize="12px"
      lineHeight="1"
      cursor="pointer"
      _hover={{ borderColor: "water" }}
      onClick={onClick}
    >
      +
    </chakra.button>
  );
}

/** A component as a small box with its size. */
function Chip({ component: c, summary, units, moment }: { component: PlacedComponent; summary: Summary | null; units: Units; moment: Moment }) {
  const select = useStore((s) => s.select);
  const active = useStore((s) => s.selection.some((x) => x.id === c.path.join("/")));
  const { size } = figuresOf(c, summary, units, sizeField[c.kind]);
  const state = stateOf(c.path, summary, moment);
  const heat = state ? Math.abs(state.heat + state.latent) : 0;
  const told = moment === "sizes" ? size : heat >= 5 ? units.words(heat / 1000, "kW", 1) : "";
  return (
    <chakra.button
      type="button"
      aria-label={`${componentName(c)}`}
      aria-pressed={active}
      px="2"
      h="30px"
      background={active ? "wash" : "sheet"}
      border="1px solid"
      borderColor={active ? "water" : "ink"}
      borderRadius="small"
      cursor="pointer"
      fontSize="12px"
      whiteSpace="nowrap"
      onClick={() => select([selectionOf(c.path)])}
    >
      {componentName(c)}{" "}
      <Text as="span" color="ink2" fontSize="11px">
        {told}
      </Text>
    </chakra.button>
  );
}

/** A loop with its sources in order, its pump, and all that draws on it. */
export function LoopDiagram({ loop, moment }: { loop: string; moment: Moment }) {
  const project = useStore((s) => s.project) as Project;
  const select = useStore((s) => s.select);
  const units = useUnits();
  const live = useLiveFigures();
  const { summary } = tally(live);
  const ruled = ruledComponents(project).project;
  const doc = ruled.loops[loop];
  const hot = doc.kind === "hot water";
  const colour = hot ? "var(--chakra-colors-clay)" : "var(--chakra-colors-water)";
  const parts = doc.parts.map((p): PlacedComponent => ({ ...p, path: ["loops", loop, "parts", p.id] }));
  const users = drawnFrom(ruled, loop);
  const now = stateOf(["loops", loop], summary, moment);
  const groups = new Map<string, { name: string; count: number; size: number; one: PlacedComponent }>();
  for (const c of users) {
    const field = c.kind === "terminal" ? "reheatCapacity" : (sizeField[c.kind] ?? "");
    const state = stateOf(c.path, summary, moment);
    const size = moment === "sizes" ? (summary?.sized[[...c.path, "inputs", field].join("/")] ?? 0) : Math.abs(state ? state.heat + state.latent : 0);
    const key = c.path[0] === "airSystems" ? c.path.join("/") : c.kind;
    const g = groups.get(key);
    groups.set(key, {
      name: c.path[0] === "airSystems" ? `${componentName(c)}, ${project.airSystems[c.path[1]].name}` : c.kind === "terminal" ? "Reheat" : componentName(c),
      count: (g?.count ?? 0) + 1,
      size: (g?.size ?? 0) + size,
      one: g?.one ?? c,
    });
  }
  const supply = settingOf("loop", doc.inputs, "supplyTemperature");
  const spec = serviceFieldsOf("loop").supplyTemperature;
  const height = Math.max(88, 44 + parts.filter((p) => p.kind !== "pump").length * 34);
  return (
    <Box position="relative" h={`${height}px`} mb="3" role="group" aria-label={`Loop ${doc.name}`}>
      <Box position="absolute" left="0" top="2px" w="118px" lineHeight="1.3">
        <chakra.button
          type="button"
          fontWeight="600"
          cursor="pointer"
          textAlign="left"
          _hover={{ color: "water" }}
          onClick={() => select([selectionOf(["loops", loop])])}
        >
          {doc.name}
        </chakra.button>
        <Text fontSize="11px" color="ink2">
          {now
            ? `${units.words(now.leaving, "°C", 1)} · ${units.words(now.flow, "kg/s", 2)}`
            : `${typeof supply === "number" ? units.words(supply, spec.unit, 0) : "reset"} · ${units.words(Number(settingOf("loop", doc.inputs, "difference")), "K", 0)} difference`}
        </Text>
      </Box>
      <Flex direction="column" gap="1" position="absolute" left="122px" top="6px" zIndex="1">
        {parts
          .filter((p) => p.kind !== "pump")
          .map((p) => (
            <Chip key={p.id} component={p} summary={summary} units={units} moment={moment} />
          ))}
      </Flex>
      <Flex position="absolute" left="300px" top="6px" gap="1" zIndex="1">
        {parts
          .filter((p) => p.kind === "pump")
          .map((p) => (
            <Chip key={p.id} component={p} summary={summary} units={units} moment={moment} />
          ))}
      </Flex>
      <Box position="absolute" left="140px" right="8px" top="19px" h="5px" background={colour} />
      <Box position="absolute" left="137px" top="19px" h={`${height - 36}px`} w="0" borderLeft="5px dashed" borderColor={colour} opacity="0.6" />
      <Box position="absolute" left="140px" right="8px" top={`${height - 20}px`} h="0" borderTop="5px dashed" borderColor={colour} opacity="0.6" />
      <Flex position="absolute" left="424px" right="8px" top="30px" gap="5" wrap="nowrap" overflow="hidden">
        {[...groups.values()].map((g) => (
          <chakra.button
            key={g.name}
            type="button"
            fontSize="11px"
            textAlign="left"
            lineHeight="1.3"
            cursor="pointer"
            whiteSpace="nowrap"
            _hover={{ color: "water" }}
            onClick={() => select([selectionOf(g.one.path)])}
          >
            {g.name}
            {g.count > 1 && ` × ${g.count}`}
            <Text as="span" display="block" color="ink2">
              {g.size > 0 ? `${moment === "sizes" ? "⌁ " : ""}${units.words(g.size / 1000, "kW", moment === "sizes" ? 0 : 1)}` : ""}
            </Text>
          </chakra.button>
        ))}
        {groups.size === 0 && (
          <Text fontSize="11px" color="ink2">
            nothing draws on it yet
          </Text>
        )}
      </Flex>
      <Text position="absolute" right="8px" top={`${height - 14}px`} fontSize="11px" color="ink2">
        return{now ? ` ${units.words(now.entering, "°C", 1)}` : ""}
      </Text>
    </Box>
  );
}

/** Adds a source to a loop. */
export function AddSource({ label, kinds, onAdd }: { label: string; kinds: readonly Component["kind"][]; onAdd: (kind: Component["kind"]) => void }) {
  return (
    <SelectInput
      label={label}
      width="120px"
      align="left"
      value=""
      options={[{ value: "", label: "+ source" }, ...kinds.map((k) => ({ value: k, label: componentWords[k] }))]}
      onChange={(k) => k !== "" && onAdd(k as Component["kind"])}
    />
  );
}
