"use client";
import { Fragment, type KeyboardEvent, type PointerEvent, type ReactNode } from "react";
import { centroid, checkProject, ringHolds, signedArea, trapezoids, type Point, type Project } from "@arroyo/core";
import { typeTint } from "../../ui/colours.ts";
import { figure } from "../../ui/format.ts";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import type { Tool } from "./formStore.ts";
import type { Snapped } from "./snap.ts";

/** Place of the plan in the drawing: pixels a metre, and the plan point in the middle. */
export interface PlanView {
  readonly scale: number;
  readonly x: number;
  readonly y: number;
}

/** Splits a name over lines of about the given number of letters. */
function wrap(name: string, letters: number): string[] {
  const lines: string[] = [];
  for (const whole of name.split(" ")) {
    const word = whole.length > letters + 1 ? `${whole.slice(0, Math.max(2, letters))}…` : whole;
    const last = lines[lines.length - 1];
    if (last !== undefined && last.length + word.length + 1 <= letters) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}

/** First letters of the words of a name, numbers whole. */
const initials = (name: string): string =>
  name
    .split(/[\s,]+/)
    .filter((w) => w !== "")
    .map((w) => (/^\d+$/.test(w) ? w : w[0].toUpperCase()))
    .join("");

/** Widest width of the drawn grid that keeps its lines apart, m. */
function drawnGrid(grid: number, scale: number): number {
  for (const g of [grid, 0.5, 1, 2, 5, 10, 20, 50]) if (g > 0 && g * scale >= 9) return g;
  return 100;
}

/** Where a name stands: the centre of area of an outline; where that lies outside, the middle of its largest part. */
function centre(ring: readonly Point[]): Point {
  const middle = centroid(ring);
  if (ringHolds(ring, middle)) return middle;
  const pieces = trapezoids([[ring]]).sort((p, q) => Math.abs(signedArea(q)) - Math.abs(signedArea(p)));
  const [best] = pieces;
  return best ? [best.reduce((s, p) => s + p[0], 0) / best.length, best.reduce((s, p) => s + p[1], 0) / best.length] : ring[0];
}

/** Name and area of a space, over everything drawn. */
function Label({
  name,
  area,
  shape,
  middle,
  bold,
}: {
  name: string;
  area: number | undefined;
  shape: readonly (readonly [number, number])[];
  middle: readonly [number, number];
  bold: boolean;
}) {
  const units = useUnits();
  const xs = shape.map((p) => p[0]);
  const ys = shape.map((p) => p[1]);
  const [w, h] = [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
  if (w < 26 || h < 16) return null;
  const wrapped = wrap(name, Math.max(4, Math.floor(w / 6.8)));
  // a name that its room has no place for, or that would be cut, stands by its initials; pointing at the room tells it whole
  const fits = wrapped.length * 14 <= h && !wrapped.some((l) => l.endsWith("…"));
  const text = fits ? wrapped : [initials(name)];
  const roomy = h > 14 * text.length + 22;
  return (
    <g pointerEvents="none" aria-hidden="true" stroke="var(--chakra-colors-sheet)" strokeWidth="3" strokeOpacity="0.75" paintOrder="stroke" textAnchor="middle">
      {text.map((l, i) => (
        <text
          key={i}
          x={middle[0]}
          y={middle[1] + (i - (text.length - 1) / 2) * 14 - (roomy ? 4 : -4)}
          fontSize="12"
          fontWeight={bold ? 600 : 500}
          fill="var(--chakra-colors-ink)"
        >
          {l}
        </text>
      ))}
      {roomy && (
        <text x={middle[0]} y={middle[1] + (text.length / 2) * 14 + 8} fontSize="11" fill="var(--chakra-colors-ink2)">
          {units.words(area, "m²", 0)}
        </text>
      )}
    </g>
  );
}

/** Plan of one storey: image, grid, spaces, openings, handles and dimensions of what is selected, what is being drawn, north. */
export function PlanDrawing({
  project,
  storey,
  width,
  height,
  view,
  grid,
  points,
  pointer,
  tool,
  onPick,
  onCorner,
  onCornerKey,
  onWall,
  onSpaceDown,
  onOpening,
}: {
  project: Project;
  storey: string;
  width: number;
  height: number;
  view: PlanView;
  grid: number;
  points: readonly Point[];
  pointer: Snapped | null;
  tool: Tool;
  onPick: (id: string, e: { shiftKey: boolean }) => void;
  onCorner: (at: Point) => void;
  onCornerKey: (at: Point, e: KeyboardEvent) => void;
  onWall: (space: string, edge: string, e: PointerEvent, normal: Point) => void;
  onSpaceDown: (id: string, e: PointerEvent) => void;
  onOpening: (id: string) => void;
}) {
  const units = useUnits();
  const selection = useStore((s) => s.selection);
  const { geometry, openings, inner, problems } = checkProject(project);
  const level = project.storeys[storey];
  if (!level) return null;
  const at = (x: number, y: number): [number, number] => [width / 2 + (x - view.x) * view.scale, height / 2 - (y - view.y) * view.scale];
  const here = Object.entries(project.spaces).filter(([id, s]) => {
    const g = geometry.spaces.get(id);
    return g ? s.storey === storey || (g.low < level.elevation + 1 && g.high > level.elevation + 1) : s.storey === storey && s.form.kind === "prism";
  });
  const ringOf = (id: string): readonly Point[] => {
    const g = geometry.spaces.get(id);
    const { form } = project.spaces[id];
    return g?.outline ?? (form.kind === "prism" ? form.outline.map((p): Point => [p.x, p.y]) : []);
  };
  const faulty = new Set(problems.filter((p) => p.severity === "error").map((p) => p.path.split("/").slice(0, 2).join("/")));
  const colourOf = new Map(Object.keys(project.spaceTypes).map((id, i) => [id, typeTint[(project.spaceTypes[id].colour ?? i) % typeTint.length]]));
  const chosen = new Set(selection.filter((s) => s.kind === "space").map((s) => s.id));
  const chosenOpening = selection.find((s) => s.kind === "opening")?.id;
  const chosenWall = selection.find((s) => s.kind === "wall")?.id;
  const step = drawnGrid(grid, view.scale);
  const [x0, y0] = [view.x - width / 2 / view.scale, view.y - height / 2 / view.scale];
  const [x1, y1] = [view.x + width / 2 / view.scale, view.y + height / 2 / view.scale];
  const lines = (a: number, b: number): number[] =>
    Array.from({ length: Math.max(0, Math.floor(b / step) - Math.ceil(a / step) + 1) }, (_, i) => (Math.ceil(a / step) + i) * step);
  const u = level.underlay;
  const drawing = points.length > 0 || (tool !== "select" && pointer !== null);
  const attic = (id: string): boolean => {
    const { form } = project.spaces[id];
    return form.kind === "prism" && (form.base ?? 0) >= level.height - 0.01;
  };
  const floor = here.filter(([id, s]) => s.storey === storey && !attic(id));
  return (
    <svg width={width} height={height} role="group" aria-label={`Plan of ${level.name}`} fontFamily="IBM Plex Sans" style={{ display: "block" }}>
      {u && (
        <g transform={`translate(${at(u.x, u.y).join(" ")}) rotate(${-u.angle})`}>
          <image
            href={`/api/blobs/${u.image}`}
            x="0"
            y={-u.height * view.scale}
            width={u.width * view.scale}
            height={u.height * view.scale}
            opacity={u.opacity}
            preserveAspectRatio="none"
            pointerEvents="none"
          />
        </g>
      )}
      <g stroke="var(--chakra-colors-line)" strokeWidth="0.6" opacity="0.6" pointerEvents="none">
        {lines(x0, x1).map((x) => (
          <line key={`x${x}`} x1={at(x, 0)[0]} x2={at(x, 0)[0]} y1="0" y2={height} />
        ))}
        {lines(y0, y1).map((y) => (
          <line key={`y${y}`} y1={at(0, y)[1]} y2={at(0, y)[1]} x1="0" x2={width} />
        ))}
      </g>
      {here.map(([id, s]) => {
        const ring = ringOf(id);
        if (ring.length < 3) return null;
        const shape = ring.map((p) => at(p[0], p[1]));
        const on = chosen.has(id);
        const through = s.storey !== storey || attic(id);
        if (attic(id) && !on)
          return (
            <polygon
              key={id}
              points={shape.map((p) => p.join(",")).join(" ")}
              fill="none"
              stroke="var(--chakra-colors-ink2)"
              strokeDasharray="8 4"
              pointerEvents="none"
            />
          );
        const bad = faulty.has(`spaces/${id}`);
        const area = geometry.spaces.get(id)?.floorArea;
        return (
          <Fragment key={id}>
            <g
              onPointerDown={(e) => {
                if (tool !== "select" || e.button !== 0) return;
                e.stopPropagation();
                onSpaceDown(id, e);
              }}
              onClick={(e) => onPick(id, e)}
              onKeyDown={(e) => e.key === "Enter" && onPick(id, e)}
              tabIndex={0}
              role="button"
              aria-label={`${s.name}, ${units.words(area, "m²", 0)}`}
              aria-pressed={on}
              style={{ cursor: tool === "select" ? "pointer" : "crosshair" }}
            >
              <title>{s.name}</title>
              <polygon
                points={shape.map((p) => p.join(",")).join(" ")}
                fill={
                  through
                    ? "var(--chakra-colors-paper)"
                    : on
                      ? "var(--chakra-colors-wash)"
                      : ((s.spaceType && colourOf.get(s.spaceType)) ?? "var(--chakra-colors-paper)")
                }
                fillOpacity={u ? 0.35 : on || through ? 1 : 0.5}
                stroke={bad ? "var(--chakra-colors-clay)" : on ? "var(--chakra-colors-water)" : "var(--chakra-colors-ink)"}
                strokeWidth={on || bad ? 2.4 : 1.4}
                strokeDasharray={through ? "5 4" : undefined}
              />
            </g>
          </Fragment>
        );
      })}
      {here.map(([id, s]) => {
        const ring = ringOf(id);
        if (ring.length < 3 || (attic(id) && !chosen.has(id))) return null;
        return (
          <Label
            key={id}
            name={s.storey !== storey ? `${s.name} below` : s.name}
            area={geometry.spaces.get(id)?.floorArea}
            shape={ring.map((p) => at(p[0], p[1]))}
            middle={at(...centre(ring))}
            bold={chosen.has(id)}
          />
        );
      })}
      {tool === "select" &&
        floor.map(([id, s]) =>
          s.form.kind === "prism"
            ? s.form.outline.map((c, i, all) => {
                const q = all[(i + 1) % all.length];
                const l = Math.hypot(q.x - c.x, q.y - c.y);
                const [a, b] = [at(c.x, c.y), at(q.x, q.y)];
                const on = chosenWall === `${id}/${c.id}`;
                return (
                  <line
                    key={`${id}/${c.id}`}
                    x1={a[0]}
                    y1={a[1]}
                    x2={b[0]}
                    y2={b[1]}
                    stroke={on ? "var(--chakra-colors-water)" : "transparent"}
                    strokeWidth={on ? 4 : 9}
                    style={{ cursor: "move" }}
                    onPointerDown={(e) => {
                      if (e.button !== 0) return;
                      e.stopPropagation();
                      onWall(id, c.id, e, [(q.y - c.y) / l, -(q.x - c.x) / l]);
                    }}
                  >
                    <title>{`Wall of ${s.name}, ${units.words(l, "m", 2)}`}</title>
                  </line>
                );
              })
            : null,
        )}
      {inner.map((o) => {
        const w = geometry.byKey.get(o.face)?.wall;
        if (!w || o.high < level.elevation || o.low > level.elevation + level.height || project.spaces[o.spaces[0]].storey !== storey) return null;
        const on = o.record === chosenOpening;
        const p = at(w.start[0] + w.direction[0] * o.from, w.start[1] + w.direction[1] * o.from);
        const q = at(w.start[0] + w.direction[0] * o.to, w.start[1] + w.direction[1] * o.to);
        return (
          <g
            key={o.key}
            style={{ cursor: "pointer" }}
            onPointerDown={(e) => {
              if (tool !== "select") return;
              e.stopPropagation();
              onOpening(o.record);
            }}
          >
            <title>{`${o.name} · ${units.words(o.area, "m²", 1)}`}</title>
            <line x1={p[0]} y1={p[1]} x2={q[0]} y2={q[1]} stroke="var(--chakra-colors-sheet)" strokeWidth="6" />
            <line
              x1={p[0]}
              y1={p[1]}
              x2={q[0]}
              y2={q[1]}
              stroke={on ? "var(--chakra-colors-clay)" : "var(--chakra-colors-ink2)"}
              strokeWidth={on ? 5 : o.use === "door" ? 3.5 : 1.6}
              strokeDasharray={o.use === "door" ? "4 2" : "1.5 3"}
            />
          </g>
        );
      })}
      {openings.map((o) => {
        const face = geometry.byKey.get(o.face);
        if (!face || o.high < level.elevation || o.low > level.elevation + level.height) return null;
        if (project.spaces[face.space].storey !== storey) return null;
        const on = o.record === chosenOpening;
        const colour = on
          ? "var(--chakra-colors-clay)"
          : o.use === "door"
            ? "var(--chakra-colors-ink2)"
            : chosen.has(face.space)
              ? "var(--chakra-colors-water)"
              : "var(--chakra-colors-ink)";
        if (!face.wall)
          return (
            <polygon
              key={o.key}
              points={o.corners.map((c) => at(c[0], c[1]).join(",")).join(" ")}
              fill="none"
              stroke={colour}
              strokeDasharray="2 2"
              onPointerDown={(e) => {
                e.stopPropagation();
                onOpening(o.record);
              }}
            >
              <title>{`${o.name} · ${units.words(o.area, "m²", 1)}`}</title>
            </polygon>
          );
        const w = face.wall;
        const p = at(w.start[0] + w.direction[0] * o.from, w.start[1] + w.direction[1] * o.from);
        const q = at(w.start[0] + w.direction[0] * o.to, w.start[1] + w.direction[1] * o.to);
        return (
          <line
            key={o.key}
            x1={p[0]}
            y1={p[1]}
            x2={q[0]}
            y2={q[1]}
            stroke={colour}
            strokeWidth={on ? 7 : 5}
            strokeDasharray={o.use === "door" ? "4 2" : undefined}
            onPointerDown={(e) => {
              if (tool !== "select") return;
              e.stopPropagation();
              onOpening(o.record);
            }}
            style={{ cursor: "pointer" }}
          >
            <title>{`${o.name} · ${units.words(o.area, "m²", 1)}`}</title>
          </line>
        );
      })}
      {tool === "select" &&
        [...chosen].slice(0, 1).map((id) => {
          const form = project.spaces[id]?.form;
          if (form?.kind !== "prism" || project.spaces[id].storey !== storey) return null;
          return (
            <g key={id}>
              {form.outline.map((c) => {
                const [x, y] = at(c.x, c.y);
                return (
                  <rect
                    key={c.id}
                    x={x - 4}
                    y={y - 4}
                    width="8"
                    height="8"
                    fill="var(--chakra-colors-sheet)"
                    stroke="var(--chakra-colors-water)"
                    strokeWidth="1.6"
                    style={{ cursor: "grab" }}
                    tabIndex={0}
                    role="button"
                    aria-label={`Corner at ${units.text(c.x, "m", 2)}, ${units.words(c.y, "m", 2)}; arrows move it`}
                    onKeyDown={(e) => onCornerKey([c.x, c.y], e)}
                    onPointerDown={(e) => {
                      if (e.button !== 0) return;
                      e.stopPropagation();
                      onCorner([c.x, c.y]);
                    }}
                  />
                );
              })}
              <EdgeLengths ring={form.outline.map((c): Point => [c.x, c.y])} at={at} />
            </g>
          );
        })}
      {drawing && <Draft points={points} pointer={pointer} tool={tool} at={at} />}
      <g transform={`translate(${width - 30} 34)`} aria-label={`North is ${figure(project.site.planNorth)}° from the top of the plan`}>
        <g transform={`rotate(${-project.site.planNorth})`}>
          <circle r="14" fill="none" stroke="var(--chakra-colors-line)" />
          <path d="M0 9V-9M-4 -4L0 -10L4 -4" fill="none" stroke="var(--chakra-colors-ink)" strokeWidth="1.6" />
        </g>
        <text y="28" textAnchor="middle" fontSize="11" fill="var(--chakra-colors-ink2)">
          {figure(project.site.planNorth, 0)}°
        </text>
      </g>
      <text x="12" y="20" fontSize="13" fontWeight="600" fill="var(--chakra-colors-ink)">
        {level.name}
      </text>
      <text x="12" y="36" fontSize="12" fill="var(--chakra-colors-ink2)">
        {units.words(
          floor.reduce((a, [id]) => a + (geometry.spaces.get(id)?.floorArea ?? 0), 0),
          "m²",
          0,
        )}{" "}
        · lines every {units.words(step, "m", step < 1 ? 2 : 0)}
      </text>
      <text x="12" y={height - 10} fontSize="11.5" fill="var(--chakra-colors-ink2)">
        {pointer ? `${units.text(pointer.point[0], "m", 2)}  ${units.words(pointer.point[1], "m", 2)}${pointer.caught ? ` · ${pointer.caught}` : ""}` : ""}
      </text>
    </svg>
  );
}

/** Length of every edge of the selected space, outside it. */
function EdgeLengths({ ring, at }: { ring: readonly Point[]; at: (x: number, y: number) => [number, number] }): ReactNode {
  const units = useUnits();
  return ring.map((p, i) => {
    const q = ring[(i + 1) % ring.length];
    const l = Math.hypot(q[0] - p[0], q[1] - p[1]);
    const [a, b] = [at(...p), at(...q)];
    if (Math.hypot(b[0] - a[0], b[1] - a[1]) < 34) return null;
    const out: Point = [(q[1] - p[1]) / l, -(q[0] - p[0]) / l];
    const [mx, my] = [(a[0] + b[0]) / 2 + out[0] * 13, (a[1] + b[1]) / 2 - out[1] * 13];
    let turn = (Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI;
    if (turn > 90 || turn <= -90) turn += 180;
    return (
      <text
        key={i}
        x={mx}
        y={my}
        transform={`rotate(${turn} ${mx} ${my})`}
        textAnchor="middle"
        dominantBaseline="middle"
        fontSize="11"
        fill="var(--chakra-colors-water)"
        stroke="var(--chakra-colors-sheet)"
        strokeWidth="3"
        paintOrder="stroke"
        pointerEvents="none"
      >
        {units.text(l, "m", 2)}
      </text>
    );
  });
}

/** What is being drawn: lines so far, the line to the pointer with its length and angle, guides. */
function Draft({
  points,
  pointer,
  tool,
  at,
}: {
  points: readonly Point[];
  pointer: Snapped | null;
  tool: Tool;
  at: (x: number, y: number) => [number, number];
}) {
  const units = useUnits();
  const p = pointer?.point;
  const last = points[points.length - 1];
  const corners: readonly Point[] = tool === "rectangle" && last && p ? [last, [p[0], last[1]], p, [last[0], p[1]], last] : p && last ? [...points, p] : points;
  const label =
    tool === "rectangle" && last && p
      ? `${units.text(Math.abs(p[0] - last[0]), "m", 2)} × ${units.words(Math.abs(p[1] - last[1]), "m", 2)}`
      : last && p
        ? `${units.words(Math.hypot(p[0] - last[0], p[1] - last[1]), "m", 2)}, ${figure((Math.atan2(p[1] - last[1], p[0] - last[0]) * 180) / Math.PI, 0)}°`
        : null;
  return (
    <g pointerEvents="none">
      {pointer?.guides.map(([a, b], i) => {
        const [c, d] = [at(...a), at(...b)];
        return <line key={i} x1={c[0]} y1={c[1]} x2={d[0]} y2={d[1]} stroke="var(--chakra-colors-clay)" strokeDasharray="3 3" />;
      })}
      <polyline
        points={corners.map((c) => at(...c).join(",")).join(" ")}
        fill={tool === "split" ? "none" : "var(--chakra-colors-wash)"}
        fillOpacity="0.6"
        stroke="var(--chakra-colors-water)"
        strokeWidth="1.8"
      />
      {points.map((c, i) => {
        const [x, y] = at(...c);
        return <circle key={i} cx={x} cy={y} r="3.2" fill="var(--chakra-colors-water)" />;
      })}
      {p && (
        <g transform={`translate(${at(...p).join(" ")})`}>
          <path d="M-7 0H7M0 -7V7" stroke="var(--chakra-colors-water)" strokeWidth="1.4" />
          {pointer?.caught === "corner" && <rect x="-5" y="-5" width="10" height="10" fill="none" stroke="var(--chakra-colors-clay)" />}
          {label && (
            <text x="12" y="-10" fontSize="11.5" fill="var(--chakra-colors-ink)" stroke="var(--chakra-colors-sheet)" strokeWidth="3" paintOrder="stroke">
              {label}
            </text>
          )}
        </g>
      )}
    </g>
  );
}
