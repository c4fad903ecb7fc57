"use client";
import { Box, Text } from "@chakra-ui/react";
import { useRef, useState } from "react";
import { checkProject, facePolygons, setChange, settingOf, type PlacedArray, type Project, type PvArray, type Vector } from "@arroyo/core";
import { useStore } from "../store.ts";

const WIDTH = 400;
const HEIGHT = 240;
const PAD = 14;
const DIAL = 34;

/** The surface an array lies on, seen square to it (racks: from above), with every module; handles turn it to another direction and tilt. */
export function ArrayPlan({ id, array, placed }: { id: string; array: PvArray; placed: PlacedArray | null }) {
  const project = useStore((s) => s.project) as Project;
  const place = String(settingOf("pvArray", array.inputs, "place"));
  const flatView = place === "on racks" || place === "free standing" || place === "as an overhang";
  const { geometry, openings } = checkProject(project);
  const face =
    array.host === null ? undefined : geometry.faces.filter((f) => f.host === array.host && f.contact === "outdoors").sort((a, b) => b.area - a.area)[0];
  const normal: Vector = flatView || !face ? [0, 0, 1] : face.normal;
  const level = Math.abs(normal[2]) > 0.9999;
  const length = Math.hypot(normal[0], normal[1]);
  const across: Vector = level ? [1, 0, 0] : [-normal[1] / length, normal[0] / length, 0];
  const up: Vector = level
    ? [0, 1, 0]
    : [normal[1] * across[2] - normal[2] * across[1], normal[2] * across[0] - normal[0] * across[2], normal[0] * across[1] - normal[1] * across[0]];
  const flat = (p: Vector): [number, number] => [p[0] * across[0] + p[1] * across[1] + p[2] * across[2], p[0] * up[0] + p[1] * up[1] + p[2] * up[2]];
  const surface = face && place !== "free standing" && !(place === "as an overhang") ? facePolygons(face).map((p) => p.map((r) => r.map(flat))) : [];
  const wall =
    face?.wall && place === "as an overhang"
      ? [
          flat([...face.wall.start, 0]),
          flat([face.wall.start[0] + face.wall.direction[0] * face.wall.to, face.wall.start[1] + face.wall.direction[1] * face.wall.to, 0]),
        ]
      : null;
  const holes = face && !flatView ? openings.filter((o) => o.face === face.key).map((o) => o.corners.map(flat)) : [];
  const modules = (placed?.modules ?? []).map((m) => m.map(flat));
  const points = [...surface.flat(2), ...modules.flat(), ...(wall ?? [])];
  const [x0, x1] = [Math.min(...points.map((p) => p[0])), Math.max(...points.map((p) => p[0]))];
  const [y0, y1] = [Math.min(...points.map((p) => p[1])), Math.max(...points.map((p) => p[1]))];
  const turned = place === "on racks" || place === "free standing";
  const room = WIDTH - (turned || place === "as an overhang" ? 2 * DIAL + 26 : 0);
  const scale = points.length === 0 ? 1 : Math.min((room - 2 * PAD) / Math.max(0.5, x1 - x0), (HEIGHT - 2 * PAD) / Math.max(0.5, y1 - y0));
  const at = ([x, y]: readonly [number, number]): string => `${(PAD + (x - x0) * scale).toFixed(1)},${(HEIGHT - PAD - (y - y0) * scale).toFixed(1)}`;
  const ring = (r: readonly (readonly [number, number])[]): string => `M${r.map(at).join("L")}Z`;
  const azimuth = settingOf("pvArray", array.inputs, "azimuth") as number;
  const tilt = settingOf("pvArray", array.inputs, "tilt") as number;
  return (
    <Box>
      <svg width={WIDTH} height={HEIGHT} role="img" aria-label={`${array.name}: ${modules.length} modules where they lie`} style={{ touchAction: "none" }}>
        {surface.map((p, i) => (
          <path key={i} d={p.map(ring).join("")} fill="var(--chakra-colors-paper)" stroke="var(--chakra-colors-ink2)" fillRule="evenodd" />
        ))}
        {holes.map((h, i) => (
          <path key={i} d={ring(h)} fill="var(--chakra-colors-sheet)" stroke="var(--chakra-colors-ink2)" strokeDasharray="3 2" />
        ))}
        {wall && <path d={`M${at(wall[0])}L${at(wall[1])}`} stroke="var(--chakra-colors-ink)" strokeWidth="3" />}
        {modules.map((m, i) => (
          <path key={i} d={ring(m)} fill="var(--chakra-colors-wash)" stroke="var(--chakra-colors-water)" strokeWidth="0.9" data-module={i} />
        ))}
        {turned && <Dial id={id} array={array} kind="azimuth" value={azimuth} x={WIDTH - DIAL - 8} y={DIAL + 16} />}
        {(turned || place === "as an overhang") && <Dial id={id} array={array} kind="tilt" value={tilt} x={WIDTH - DIAL - 8} y={3 * DIAL + 56} />}
      </svg>
      <Text fontSize="11.5px" color="ink2">
        {flatView ? `seen from above, top of the plan up` : level ? "the roof from above" : "seen square to the surface"} ·{" "}
        {array.host === null && place !== "free standing" ? "choose what it stands on" : "whole modules only"}
      </Text>
    </Box>
  );
}

/** A handle to drag a direction (from above, north up) or a tilt (from the side). */
function Dial({ id, array, kind, value, x, y }: { id: string; array: PvArray; kind: "azimuth" | "tilt"; value: number; x: number; y: number }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const [drag, setDrag] = useState<number | null>(null);
  // what the pointer says, before a drawing has shown it
  const held = useRef<number | null>(null);
  const hold = (v: number | null): void => {
    held.current = v;
    setDrag(v);
  };
  const ref = useRef<SVGGElement>(null);
  const shown = drag ?? value;
  const angle = (kind === "azimuth" ? shown - 90 : -shown) * (Math.PI / 180);
  const [hx, hy] = [x + DIAL * 0.8 * Math.cos(angle), y + DIAL * 0.8 * Math.sin(angle)];
  const read = (e: React.PointerEvent): number => {
    const box = (ref.current as SVGGElement).ownerSVGElement?.getBoundingClientRect();
    const [dx, dy] = [e.clientX - (box?.left ?? 0) - x, e.clientY - (box?.top ?? 0) - y];
    const degrees = (Math.atan2(dy, dx) * 180) / Math.PI;
    return kind === "azimuth" ? (((Math.round((degrees + 90) / 5) * 5) % 360) + 360) % 360 : Math.max(0, Math.min(90, Math.round(-degrees)));
  };
  return (
    <g ref={ref}>
      {kind === "azimuth" ? (
        <circle cx={x} cy={y} r={DIAL * 0.8} fill="none" stroke="var(--chakra-colors-line)" />
      ) : (
        <path
          d={`M${x + DIAL * 0.8} ${y} A${DIAL * 0.8} ${DIAL * 0.8} 0 0 0 ${x} ${y - DIAL * 0.8} M${x} ${y} H${x + DIAL}`}
          fill="none"
          stroke="var(--chakra-colors-line)"
        />
      )}
      <path d={`M${x} ${y}L${hx} ${hy}`} stroke="var(--chakra-colors-water)" strokeWidth="2" />
      <circle
        cx={hx}
        cy={hy}
        r="6"
        fill="var(--chakra-colors-sheet)"
        stroke="var(--chakra-colors-water)"
        strokeWidth="2"
        cursor="grab"
        role="slider"
        aria-label={kind === "azimuth" ? "Drag the direction" : "Drag the tilt"}
        aria-valuenow={shown}
        aria-valuemin={0}
        aria-valuemax={kind === "azimuth" ? 360 : 90}
        tabIndex={0}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          hold(value);
        }}
        onPointerMove={(e) => held.current !== null && hold(read(e))}
        onPointerUp={(e) => {
          const to = held.current === null ? value : read(e);
          hold(null);
          if (to !== value) edit(`${array.name}: ${kind === "azimuth" ? "faces" : "tilt"} ${to}°`, [setChange(project, ["onSite", id, "inputs", kind], to)]);
        }}
        onKeyDown={(e) => {
          const step = e.key === "ArrowRight" || e.key === "ArrowUp" ? 5 : e.key === "ArrowLeft" || e.key === "ArrowDown" ? -5 : 0;
          if (step === 0) return;
          e.preventDefault();
          const next = kind === "azimuth" ? (value + step + 360) % 360 : Math.max(0, Math.min(90, value + step));
          edit(`${array.name}: ${kind === "azimuth" ? "faces" : "tilt"} ${next}°`, [setChange(project, ["onSite", id, "inputs", kind], next)]);
        }}
      />
      <text x={x} y={y + (kind === "azimuth" ? DIAL + 13 : 18)} textAnchor="middle" fontSize="11" fill="var(--chakra-colors-ink2)">
        {kind === "azimuth" ? `faces ${shown}°` : `tilt ${shown}°`}
      </text>
    </g>
  );
}
