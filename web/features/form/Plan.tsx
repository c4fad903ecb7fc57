"use client";
import { Fragment } from "react";
import { checkProject, type Geometry, type Project } from "@arroyo/core";
import { typeTint } from "../../ui/colours.ts";
import { figure } from "../../ui/format.ts";
import { useStore } from "../store.ts";

/** Drawing area, about the pane's own pixels at 1280x800. */
const W = 456;
const H = 640;
const PAD = 34;

/** Splits a name over lines of about the given number of letters. */
function wrap(name: string, letters: number): string[] {
  const lines: string[] = [];
  for (const word of name.split(" ")) {
    const last = lines[lines.length - 1];
    if (last !== undefined && last.length + word.length + 1 <= letters) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}

/** Scale and place of the building in the drawing, the same for every storey. */
function framing(geometry: Geometry) {
  const points = [...geometry.spaces.values()].flatMap((s) => s.outline);
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  const box = points.length > 0 ? { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) } : { x0: 0, x1: 10, y0: 0, y1: 10 };
  const scale = Math.min((W - 2 * PAD) / Math.max(1, box.x1 - box.x0), (H - 2 * PAD) / Math.max(1, box.y1 - box.y0));
  const cx = (box.x0 + box.x1) / 2;
  const cy = (box.y0 + box.y1) / 2;
  return { scale, at: (x: number, y: number): [number, number] => [W / 2 + (x - cx) * scale, H / 2 - (y - cy) * scale], box };
}

/** Plan of one storey: spaces, openings, dimensions of what is selected, north. */
export function Plan({ project, storey, onPick }: { project: Project; storey: string; onPick: (id: string, add: boolean) => void }) {
  const selection = useStore((s) => s.selection);
  const { geometry, openings } = checkProject(project);
  const level = project.storeys[storey];
  const view = framing(geometry);
  if (!level) return null;
  const here = Object.entries(project.spaces).filter(([id, s]) => {
    const g = geometry.spaces.get(id);
    return g && (s.storey === storey || (g.low < level.elevation + 1 && g.high > level.elevation + 1));
  });
  const colourOf = new Map(Object.keys(project.spaceTypes).map((id, i) => [id, typeTint[(project.spaceTypes[id].colour ?? i) % typeTint.length]]));
  const chosen = new Set(selection.filter((s) => s.kind === "space").map((s) => s.id));
  const chosenOpening = selection.find((s) => s.kind === "opening")?.id;
  const cut = level.elevation + 1.2;
  const [gx0, gy0] = view.at(Math.floor(view.box.x0 / 5) * 5 - 5, Math.floor(view.box.y0 / 5) * 5 - 5);
  const step = 5 * view.scale;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      width="100%"
      height="100%"
      role="group"
      aria-label={`Plan of ${level.name}`}
      fontFamily="IBM Plex Sans"
      style={{ display: "block" }}
    >
      <g stroke="var(--chakra-colors-line)" strokeWidth="0.6" opacity="0.7">
        {Array.from({ length: Math.ceil((W - gx0) / step) + 1 }, (_, i) => (
          <line key={`x${i}`} x1={gx0 + i * step} x2={gx0 + i * step} y1="0" y2={H} />
        ))}
        {Array.from({ length: Math.ceil(gy0 / step) + 1 }, (_, i) => (
          <line key={`y${i}`} y1={gy0 - i * step} y2={gy0 - i * step} x1="0" x2={W} />
        ))}
      </g>
      {here.map(([id, s]) => {
        const g = geometry.spaces.get(id);
        if (!g) return null;
        const points = g.outline.map((p) => view.at(p[0], p[1]));
        const on = chosen.has(id);
        const through = s.storey !== storey;
        const xs = points.map((p) => p[0]);
        const ys = points.map((p) => p[1]);
        const width = Math.max(...xs) - Math.min(...xs);
        const height = Math.max(...ys) - Math.min(...ys);
        const mx = (Math.max(...xs) + Math.min(...xs)) / 2;
        const my = (Math.max(...ys) + Math.min(...ys)) / 2;
        const lines = wrap(through ? `${s.name} below` : s.name, Math.max(4, Math.floor(width / 6.8)));
        const roomy = height > 14 * lines.length + 22;
        return (
          <Fragment key={id}>
            <g
              onClick={(e) => onPick(id, e.shiftKey)}
              onKeyDown={(e) => e.key === "Enter" && onPick(id, e.shiftKey)}
              tabIndex={0}
              role="button"
              aria-label={`${s.name}, ${figure(g.floorArea, 0)} m²`}
              aria-pressed={on}
              style={{ cursor: "pointer" }}
            >
              <polygon
                points={points.map((p) => p.join(",")).join(" ")}
                fill={
                  through
                    ? "var(--chakra-colors-paper)"
                    : on
                      ? "var(--chakra-colors-wash)"
                      : ((s.spaceType && colourOf.get(s.spaceType)) ?? "var(--chakra-colors-paper)")
                }
                fillOpacity={on || through ? 1 : 0.5}
                stroke={on ? "var(--chakra-colors-water)" : "var(--chakra-colors-ink)"}
                strokeWidth={on ? 2.4 : 1.4}
                strokeDasharray={through ? "5 4" : undefined}
              />
            </g>
            <g pointerEvents="none" aria-hidden="true">
              {lines.map((l, i) => (
                <text
                  key={i}
                  x={mx}
                  y={my + (i - (lines.length - 1) / 2) * 14 - (roomy ? 4 : -4)}
                  textAnchor="middle"
                  fontSize="12"
                  fontWeight={on ? 600 : 500}
                  fill="var(--chakra-colors-ink)"
                >
                  {l}
                </text>
              ))}
              {roomy && (
                <text x={mx} y={my + (lines.length / 2) * 14 + 8} textAnchor="middle" fontSize="11" fill="var(--chakra-colors-ink2)">
                  {figure(g.floorArea, 0)} m²
                </text>
              )}
            </g>
          </Fragment>
        );
      })}
      {openings.map((o) => {
        const face = geometry.byKey.get(o.face);
        if (!face?.wall || o.high < cut - 1.2 || o.low > level.elevation + level.height || o.high < level.elevation) return null;
        const w = face.wall;
        const p = view.at(w.start[0] + w.direction[0] * o.from, w.start[1] + w.direction[1] * o.from);
        const q = view.at(w.start[0] + w.direction[0] * o.to, w.start[1] + w.direction[1] * o.to);
        const on = o.record === chosenOpening;
        return (
          <line
            key={o.key}
            x1={p[0]}
            y1={p[1]}
            x2={q[0]}
            y2={q[1]}
            stroke={
              on
                ? "var(--chakra-colors-clay)"
                : o.use === "door"
                  ? "var(--chakra-colors-ink2)"
                  : chosen.has(face.space)
                    ? "var(--chakra-colors-water)"
                    : "var(--chakra-colors-ink)"
            }
            strokeWidth={on ? 7 : 5}
            strokeDasharray={o.use === "door" ? "4 2" : undefined}
            onClick={() => useStore.getState().select([{ kind: "opening", id: o.record }])}
            style={{ cursor: "pointer" }}
          >
            <title>{`${o.name} · ${figure(o.area)} m²`}</title>
          </line>
        );
      })}
      {[...chosen].slice(0, 1).map((id) => {
        const g = geometry.spaces.get(id);
        if (!g) return null;
        const xs = g.outline.map((p) => p[0]);
        const ys = g.outline.map((p) => p[1]);
        const [x0, y0] = view.at(Math.min(...xs), Math.max(...ys));
        const [x1, y1] = view.at(Math.max(...xs), Math.min(...ys));
        const top = view.at(0, view.box.y1)[1] - 18;
        const left = view.at(view.box.x0, 0)[0] - 14;
        return (
          <g key={id} stroke="var(--chakra-colors-ink2)" strokeWidth="1" fontSize="11" fill="var(--chakra-colors-ink2)">
            <path d={`M${x0} ${top - 5}v10M${x1} ${top - 5}v10M${x0} ${top}H${x1}M${left - 5} ${y0}h10M${left - 5} ${y1}h10M${left} ${y0}V${y1}`} fill="none" />
            <text x={(x0 + x1) / 2} y={top - 7} textAnchor="middle" stroke="none">
              {figure(Math.max(...xs) - Math.min(...xs), 2)} m
            </text>
            <text x={left - 8} y={(y0 + y1) / 2} textAnchor="middle" stroke="none" transform={`rotate(-90 ${left - 8} ${(y0 + y1) / 2})`}>
              {figure(Math.max(...ys) - Math.min(...ys), 2)} m
            </text>
          </g>
        );
      })}
      <g transform={`translate(${W - 34} 40)`} aria-label={`North is ${figure(project.site.planNorth)}° from the top of the plan`}>
        <g transform={`rotate(${-project.site.planNorth})`}>
          <circle r="14" fill="none" stroke="var(--chakra-colors-line)" />
          <path d="M0 9V-9M-4 -4L0 -10L4 -4" fill="none" stroke="var(--chakra-colors-ink)" strokeWidth="1.6" />
        </g>
        <text y="28" textAnchor="middle" fontSize="11" fill="var(--chakra-colors-ink2)">
          {figure(project.site.planNorth, 0)}°
        </text>
      </g>
      <text x="14" y="22" fontSize="13" fontWeight="600" fill="var(--chakra-colors-ink)">
        {level.name}
      </text>
      <text x="14" y="39" fontSize="12" fill="var(--chakra-colors-ink2)">
        {figure(
          here.filter(([, s]) => s.storey === storey).reduce((a, [id]) => a + (geometry.spaces.get(id)?.floorArea ?? 0), 0),
          0,
        )}{" "}
        m² · grid 5 m
      </text>
    </svg>
  );
}
