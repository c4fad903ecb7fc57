"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { checkProject, freeId, setChange, type Change, type Opening, type Project } from "@arroyo/core";
import { firstMessage } from "../../ui/fields.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { useForm } from "./formStore.ts";
import { Toggle } from "../../ui/Toggle.tsx";
import { hostName } from "./names.ts";
import { Told } from "../../ui/Told.tsx";

type Placed = Extract<Opening, { kind: "placed" }>;
interface Rect {
  readonly offset: number;
  readonly sill: number;
  readonly width: number;
  readonly height: number;
}
/** Grid of openings, finer than that of the plan, m. */
const FINE = 0.05;

type Grip = "move" | "left" | "right" | "top" | "bottom";

const round = (v: number, grid: number): number => Math.round((grid > 0 ? Math.round(v / grid) * grid : v) * 1e4) / 1e4;

/** Host of the wall in view: the one selected, or that of the selected opening. */
export function elevationHost(project: Project, selection: readonly { kind: string; id: string }[]): string | null {
  const wall = selection.find((s) => s.kind === "wall");
  if (wall) return wall.id;
  const shade = selection.find((s) => s.kind === "shade" && project.shades[s.id]);
  const s = shade ? project.shades[shade.id] : null;
  if (s?.kind === "plate") return s.host;
  if (s && "target" in s && s.target.kind === "wall") return s.target.host;
  const shaded = s && "target" in s && s.target.kind === "opening" ? s.target.opening : null;
  const opening = shaded ?? selection.find((x) => x.kind === "opening")?.id;
  const o = opening ? project.openings[opening] : null;
  return o && "host" in o && o.host ? o.host : null;
}

/** One wall seen from outside, with its openings to place, drag and size. */
export function Elevation({ project, host }: { project: Project; host: string | null }) {
  const units = useUnits();
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const selection = useStore((s) => s.selection);
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 600, height: 400 });
  const [drag, setDrag] = useState<{ id: string; grip: Grip; x: number; y: number; was: Rect; now: Rect } | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const grid = useForm((s) => (s.grid > 0 ? FINE : 0));
  const { geometry, openings, inner } = checkProject(project);
  useEffect(() => {
    const el = frame.current;
    if (!el) return;
    const observer = new ResizeObserver(() => setSize({ width: Math.max(200, el.clientWidth), height: Math.max(160, el.clientHeight) }));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);
  const faces = geometry.faces.filter((f) => f.host === host && f.wall);
  if (!host || faces.length === 0)
    return (
      <Box p="6" ref={frame}>
        <Text textStyle="title" mb="1">
          No wall chosen
        </Text>
        <Text color="ink2" maxW="460px">
          An elevation shows one wall from outside, so that windows and doors can be placed and dragged on it. Choose a wall in the plan by its line, or a
          window in the list.
        </Text>
      </Box>
    );
  const [space] = host.split("/");
  const floor = geometry.spaces.get(space)?.low ?? 0;
  const low = Math.min(...faces.map((f) => f.low));
  const high = Math.max(...faces.map((f) => f.high));
  const from = Math.min(...faces.map((f) => f.wall?.from ?? 0));
  const to = Math.max(...faces.map((f) => f.wall?.to ?? 0));
  const reach = Math.max(1.2, (to - from) * 0.12);
  const scale = Math.min((size.width - 90) / (to - from + 2 * reach), (size.height - 90) / (high - low + 1));
  const left = size.width / 2 - ((from + to) / 2) * scale;
  const base = size.height / 2 + ((low + high) / 2) * scale;
  const X = (s: number): number => left + s * scale;
  const Y = (z: number): number => base - z * scale;
  const own = Object.entries(project.openings).filter((e): e is [string, Placed] => e[1].kind === "placed" && e[1].host === host);
  const ruled = openings.filter((o) => faces.some((f) => f.key === o.face) && project.openings[o.record].kind !== "placed");
  const placed = new Set([...openings, ...inner].map((o) => o.record));
  const chosen = selection.find((s) => s.kind === "opening")?.id;

  const add = (kind: "window" | "door" | "opening" | "repeated" | "ratio"): void => {
    const wide = to - from;
    const tall = high - low;
    const word = kind === "door" ? "Door" : kind === "opening" ? "Way through" : kind === "window" ? "Window" : "Windows";
    let n = 1;
    while (Object.values(project.openings).some((o) => o.name === `${word} ${n}`)) n++;
    const name = `${word} ${n}`;
    const id = freeId(project.openings, name);
    const rule = { orientation: null, storey: null, space: null, host, glazing: null };
    const door = kind === "door" || kind === "opening";
    const width = Math.min(door ? 1 : 1.5, wide * 0.8);
    const height = Math.min(door ? 2.1 : 1.4, tall * 0.8);
    // beside what is there already
    const taken = own.map(([, o]) => o.offset + o.width);
    const at = Math.min(Math.max(from + 0.3, ...taken.map((t) => t + 0.5)), Math.max(from, to - width));
    const value: Opening =
      kind === "ratio"
        ? { kind, name, ...rule, ratio: 0.3, sill: 0.9, height: 1.5 }
        : kind === "repeated"
          ? { kind, name, ...rule, width: Math.min(1.2, wide * 0.8), height, sill: Math.min(0.9, tall * 0.2), spacing: 2 }
          : {
              kind: "placed",
              name,
              host,
              use: kind,
              offset: round(at, 0.05),
              sill: door ? 0 : Math.min(0.9, tall * 0.2),
              width: round(width, 0.05),
              height: round(height, 0.05),
              glazing: null,
            };
    const refusal = firstMessage(edit(`Add ${name}`, [{ op: "insert", path: ["openings", id], value }]));
    setSaid(refusal);
    if (refusal === null) select([{ kind: "opening", id }]);
  };
  const commit = (id: string, next: Rect, was: Rect): void => {
    const changes: Change[] = (["offset", "sill", "width", "height"] as const)
      .filter((k) => Math.abs(next[k] - was[k]) > 1e-9)
      .map((k) => setChange(project, ["openings", id, k], Math.round(next[k] * 1e4) / 1e4));
    if (changes.length === 0) return;
    setSaid(firstMessage(edit(`${project.openings[id].name} moved`, changes)));
  };
  const moved = (e: PointerEvent): Rect | null => {
    if (!drag) return null;
    const dx = (e.clientX - drag.x) / scale;
    const dz = (drag.y - e.clientY) / scale;
    const w = drag.was;
    if (drag.grip === "move") return { ...w, offset: round(w.offset + dx, grid), sill: Math.max(0, round(w.sill + dz, grid)) };
    if (drag.grip === "right") return { ...w, width: Math.max(0.1, round(w.width + dx, grid)) };
    if (drag.grip === "top") return { ...w, height: Math.max(0.1, round(w.height + dz, grid)) };
    if (drag.grip === "left") {
      const offset = Math.min(w.offset + w.width - 0.1, round(w.offset + dx, grid));
      return { ...w, offset, width: w.offset + w.width - offset };
    }
    const sill = Math.max(0, Math.min(w.sill + w.height - 0.1, round(w.sill + dz, grid)));
    return { ...w, sill, height: w.sill + w.height - sill };
  };
  const onKey = (e: KeyboardEvent): void => {
    const o = chosen ? project.openings[chosen] : null;
    const step = e.shiftKey ? 0.5 : 0.05;
    const by: Record<string, [number, number]> = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] };
    if (!chosen || o?.kind !== "placed") return;
    if (e.key === "Delete") edit(`Remove ${o.name}`, [{ op: "remove", path: ["openings", chosen], old: o }]);
    else if (by[e.key]) commit(chosen, { ...o, offset: Math.max(0, o.offset + by[e.key][0]), sill: Math.max(0, o.sill + by[e.key][1]) }, o);
    else return;
    e.preventDefault();
  };
  return (
    <Box position="absolute" inset="0" display="flex" flexDirection="column">
      <Flex align="center" gap="1" px="2" h="32px" flexShrink={0} borderBottom="1px solid" borderColor="line" role="toolbar" aria-label="Openings of this wall">
        <Text fontWeight="600" px="1" whiteSpace="nowrap" overflow="hidden" textOverflow="ellipsis">
          {hostName(project, host)}
        </Text>
        <Text color="ink2" fontSize="12px" px="1" whiteSpace="nowrap">
          {units.text(to - from, "m", 2)} × {units.words(high - low, "m", 2)}, from outside
        </Text>
        <Flex flex="1" />
        {faces.some((f) => f.contact === "outdoors") ? (
          <>
            <Toggle on={false} onClick={() => add("window")}>
              Add window
            </Toggle>
            <Toggle on={false} onClick={() => add("door")}>
              Add door
            </Toggle>
            <Toggle on={false} onClick={() => add("repeated")}>
              Repeat a unit
            </Toggle>
            <Toggle on={false} onClick={() => add("ratio")}>
              Share of wall
            </Toggle>
          </>
        ) : faces.some((f) => f.contact === "space") ? (
          <>
            <Toggle on={false} onClick={() => add("door")}>
              Add door
            </Toggle>
            <Toggle on={false} title="An opening without a door leaf between two spaces" onClick={() => add("opening")}>
              Add way through
            </Toggle>
          </>
        ) : (
          <Text color="ink2" fontSize="12px">
            touches neither outdoors nor another space: nothing to open
          </Text>
        )}
      </Flex>
      {said && (
        <Text role="alert" color="clay" px="3" py="1" fontSize="12px">
          <Told text={said} />
        </Text>
      )}
      <Box
        ref={frame}
        flex="1"
        minH="0"
        tabIndex={0}
        role="application"
        aria-label={`Elevation of ${hostName(project, host)}; arrow keys move the chosen opening, Delete removes it`}
        outline="none"
        _focusVisible={{ boxShadow: "inset 0 0 0 2px var(--chakra-colors-water)" }}
        touchAction="none"
        userSelect="none"
        onKeyDown={onKey}
        onPointerMove={(e) => {
          const now = moved(e);
          if (drag && now) setDrag({ ...drag, now });
        }}
        onPointerUp={() => {
          if (drag) commit(drag.id, drag.now, drag.was);
          setDrag(null);
        }}
      >
        <svg width={size.width} height={size.height} fontFamily="IBM Plex Sans" style={{ display: "block" }} role="group" aria-label="Elevation">
          <line x1="0" x2={size.width} y1={Y(0)} y2={Y(0)} stroke="var(--chakra-colors-ink2)" strokeWidth="1" />
          <text x="10" y={Y(0) + 14} fontSize="11" fill="var(--chakra-colors-ink2)">
            ground
          </text>
          {faces.map((f) => {
            const w = f.wall as NonNullable<typeof f.wall>;
            const rings = w.shape
              ? w.shape.map((p) => p[0])
              : [
                  [
                    [w.from, w.low],
                    [w.to, w.low],
                    [w.to, w.high],
                    [w.from, w.high],
                  ] as const,
                ];
            return rings.map((r, i) => (
              <polygon
                key={`${f.key}${i}`}
                points={r.map(([s, z]) => `${X(s)},${Y(z)}`).join(" ")}
                fill={f.contact === "outdoors" ? "var(--chakra-colors-paper)" : "url(#not-outdoors)"}
                stroke="var(--chakra-colors-ink)"
                strokeWidth="1.4"
                strokeDasharray={f.byHand ? "6 3" : undefined}
              >
                <title>
                  {f.contact === "space" ? `to ${project.spaces[f.partnerSpace as string].name}` : `${f.contact}${f.byHand ? ", set by hand" : ""}`}
                </title>
              </polygon>
            ));
          })}
          <defs>
            <pattern id="not-outdoors" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <rect width="7" height="7" fill="var(--chakra-colors-paper)" />
              <line x1="0" x2="0" y1="0" y2="7" stroke="var(--chakra-colors-line)" strokeWidth="2" />
            </pattern>
          </defs>
          {ruled.map((o) => (
            <polygon
              key={o.key}
              points={o.corners
                .map((c) => {
                  const f = geometry.byKey.get(o.face)?.wall;
                  const s = f ? (c[0] - f.start[0]) * f.direction[0] + (c[1] - f.start[1]) * f.direction[1] : 0;
                  return `${X(s)},${Y(c[2])}`;
                })
                .join(" ")}
              fill="#A9C6CC"
              fillOpacity="0.55"
              stroke={o.record === chosen ? "var(--chakra-colors-water)" : "var(--chakra-colors-ink)"}
              strokeWidth={o.record === chosen ? 2.4 : 1}
              strokeDasharray="5 3"
              style={{ cursor: "pointer" }}
              onClick={() => select([{ kind: "opening", id: o.record }])}
            >
              <title>{`${o.name}, made by rule`}</title>
            </polygon>
          ))}
          {own.map(([id, o]) => {
            const r = drag?.id === id ? drag.now : o;
            const on = id === chosen;
            const bad = !placed.has(id);
            const [x, y, w, h] = [X(r.offset), Y(floor + r.sill + r.height), r.width * scale, r.height * scale];
            const start = (grip: Grip, e: PointerEvent): void => {
              e.stopPropagation();
              select([{ kind: "opening", id }]);
              setDrag({ id, grip, x: e.clientX, y: e.clientY, was: o, now: o });
            };
            const grips: readonly [Grip, number, number][] = [
              ["left", x, y + h / 2],
              ["right", x + w, y + h / 2],
              ["top", x + w / 2, y],
              ["bottom", x + w / 2, y + h],
            ];
            return (
              <g key={id} data-opening={id}>
                <rect
                  x={x}
                  y={y}
                  width={w}
                  height={h}
                  fill={o.use === "door" ? "#D9C7A8" : "#A9C6CC"}
                  fillOpacity="0.85"
                  stroke={bad ? "var(--chakra-colors-clay)" : on ? "var(--chakra-colors-water)" : "var(--chakra-colors-ink)"}
                  strokeWidth={on || bad ? 2.4 : 1.2}
                  style={{ cursor: "move" }}
                  tabIndex={0}
                  role="button"
                  aria-label={`${o.name}${bad ? ", does not fit its wall" : ""}`}
                  onFocus={() => !on && select([{ kind: "opening", id }])}
                  onPointerDown={(e) => start("move", e)}
                >
                  <title>{o.name}</title>
                </rect>
                {on && (
                  <>
                    {grips.map(([g, gx, gy]) => (
                      <rect
                        key={g}
                        x={gx - 4}
                        y={gy - 4}
                        width="8"
                        height="8"
                        fill="var(--chakra-colors-sheet)"
                        stroke="var(--chakra-colors-water)"
                        style={{ cursor: g === "left" || g === "right" ? "ew-resize" : "ns-resize" }}
                        onPointerDown={(e) => start(g, e)}
                      />
                    ))}
                    <g
                      fontSize="11"
                      fill="var(--chakra-colors-water)"
                      stroke="var(--chakra-colors-sheet)"
                      strokeWidth="3"
                      paintOrder="stroke"
                      textAnchor="middle"
                      pointerEvents="none"
                    >
                      <text x={(X(from) + x) / 2} y={y + h + 15}>
                        {units.text(r.offset - from, "m", 2)}
                      </text>
                      <text x={x + w / 2} y={y + h + 15}>
                        {units.text(r.width, "m", 2)}
                      </text>
                      <text x={(x + w + X(to)) / 2} y={y + h + 15}>
                        {units.text(to - r.offset - r.width, "m", 2)}
                      </text>
                      <text x={x - 18} y={y + h / 2 + 4}>
                        {units.text(r.height, "m", 2)}
                      </text>
                      <text x={x - 18} y={Y(floor + r.sill / 2) + 4}>
                        {r.sill > 0 ? units.text(r.sill, "m", 2) : ""}
                      </text>
                    </g>
                  </>
                )}
              </g>
            );
          })}
        </svg>
      </Box>
    </Box>
  );
}
