"use client";
import { Box } from "@chakra-ui/react";
import { useEffect, useRef, useState, type ReactNode } from "react";
import { checkProject, type AirPlan, type Point, type Project, type Unconnected, type Vector } from "@arroyo/core";

const PAD = 34;
/** Widest arrow, and least that is drawn, px. */
const WIDEST = 15;
const LEAST = 1.2;

/** Flow of a path now: each way, kg/s, and whether it stands open. */
export interface PathFlow {
  readonly forward: number;
  readonly backward: number;
  readonly open: boolean;
}

/** The network over the plan of one storey: a dot for each zone, a mark for each path, what is unconnected in clay; or the flows of an hour. */
export function AirMap({
  project,
  storey,
  plan,
  missing,
  chosen,
  onPick,
  onMissing,
  cracks = false,
  flow = null,
  most = 1,
  zoneWords,
  zoneFill,
  label,
}: {
  project: Project;
  storey: string;
  plan: AirPlan | null;
  missing: readonly Unconnected[];
  chosen: ReadonlySet<string>;
  onPick: (id: string, add: boolean) => void;
  onMissing?: (o: Unconnected) => void;
  cracks?: boolean;
  /** Flow by path; null: the network is drawn without flows. */
  flow?: ((record: string) => PathFlow | null) | null;
  /** Flow that has the widest arrow, kg/s. */
  most?: number;
  zoneWords?: (zone: string) => string;
  zoneFill?: (zone: string) => string | null;
  label: string;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 420, height: 360 });
  useEffect(() => {
    const el = frame.current;
    if (!el) return;
    const observer = new ResizeObserver(() => setSize({ width: Math.max(160, el.clientWidth), height: Math.max(140, el.clientHeight) }));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);
  const { geometry } = checkProject(project);
  const level = project.storeys[storey];
  const here = Object.entries(project.spaces).flatMap(([id, s]) => {
    const g = geometry.spaces.get(id);
    return g && (s.storey === storey || (g.low < level.elevation + 1 && g.high > level.elevation + 1)) ? [{ id, zone: s.zone, g, name: s.name }] : [];
  });
  const all = [...geometry.spaces.values()].flatMap((g) => [...g.outline]);
  const span = (k: 0 | 1): [number, number] => (all.length > 0 ? [Math.min(...all.map((p) => p[k])), Math.max(...all.map((p) => p[k]))] : [0, 10]);
  const [[x0, x1], [y0, y1]] = [span(0), span(1)];
  const scale = Math.min((size.width - 2 * PAD) / Math.max(2, x1 - x0), (size.height - 2 * PAD) / Math.max(2, y1 - y0));
  const at = (p: readonly number[]): [number, number] => [size.width / 2 + (p[0] - (x0 + x1) / 2) * scale, size.height / 2 - (p[1] - (y0 + y1) / 2) * scale];
  /** Where the dot of a zone stands: in the middle of its largest space of the storey. */
  const middles = new Map<string, Point>();
  for (const s of [...here].sort((a, b) => a.g.floorArea - b.g.floorArea)) if (s.zone !== null) middles.set(s.zone, middle(s.g.outline));
  const onStorey = (v: Vector): boolean => v[2] >= level.elevation - 0.3 && v[2] <= level.elevation + level.height + 0.3;
  const taking = new Set(plan?.zones ?? []);
  return (
    <Box ref={frame} position="absolute" inset="0" overflow="hidden">
      <svg width={size.width} height={size.height} role="group" aria-label={label} fontFamily="IBM Plex Sans" style={{ display: "block" }}>
        {here.map(({ id, zone, g, name }) => (
          <polygon
            key={id}
            points={g.outline.map((p) => at(p).join(",")).join(" ")}
            fill={(zone !== null && zoneFill?.(zone)) || (zone !== null && taking.has(zone) ? "var(--chakra-colors-sheet)" : "var(--chakra-colors-paper)")}
            stroke="var(--chakra-colors-ink2)"
            strokeWidth="1.2"
            strokeDasharray={zone !== null && taking.has(zone) ? undefined : "5 4"}
          >
            <title>{zone !== null && taking.has(zone) ? name : `${name}, not in the network`}</title>
          </polygon>
        ))}
        {!flow &&
          plan?.planned.map((p, i) => {
            if ((p.record === null && !cracks) || !onStorey(p.at)) return null;
            return p.ends.map((z, k) => {
              const m = z === null ? null : middles.get(z);
              return m ? (
                <line
                  key={`${i} ${k}`}
                  x1={at(m)[0]}
                  y1={at(m)[1]}
                  x2={at(p.at)[0]}
                  y2={at(p.at)[1]}
                  stroke={p.record === null ? "var(--chakra-colors-line)" : "var(--chakra-colors-water)"}
                  strokeWidth={p.record === null ? 0.8 : 1.1}
                  opacity="0.7"
                  pointerEvents="none"
                />
              ) : null;
            });
          })}
        {[...middles].map(([zone, m]) => {
          const [x, y] = at(m);
          const words = zoneWords?.(zone);
          return (
            <g key={zone} pointerEvents="none" stroke="var(--chakra-colors-sheet)" strokeWidth="3" paintOrder="stroke" textAnchor="middle">
              {taking.has(zone) && !flow && <circle cx={x} cy={y} r="4" fill="var(--chakra-colors-water)" strokeWidth="1" />}
              <text x={x} y={y - 9} fontSize="12" fontWeight="500" fill="var(--chakra-colors-ink)">
                {project.zones[zone]?.name}
              </text>
              {words && (
                <text x={x} y={y + 6} fontSize="11.5" fill="var(--chakra-colors-ink2)">
                  {words}
                </text>
              )}
            </g>
          );
        })}
        {plan?.planned.map((p, i) => {
          if (p.record === null || !onStorey(p.at)) return null;
          const id = p.record;
          const on = chosen.has(id);
          const now = flow?.(id);
          return (
            <Mark
              key={i}
              at={at(p.at)}
              way={[p.way[0], -p.way[1], p.way[2]]}
              on={on}
              name={`${p.name}${now ? (now.open ? "" : ", shut") : ""}`}
              onPick={(add) => onPick(id, add)}
              level={Math.abs(p.way[2]) > 0.5}
            >
              {now && <Arrows flow={now} way={[p.way[0], -p.way[1], p.way[2]]} most={most} />}
            </Mark>
          );
        })}
        {missing.map((o) =>
          onStorey(o.at) ? (
            <g
              key={o.key}
              transform={`translate(${at(o.at).join(" ")})`}
              role="button"
              tabIndex={0}
              aria-label={`Connect ${o.label}`}
              style={{ cursor: "pointer" }}
              onClick={() => onMissing?.(o)}
              onKeyDown={(e) => e.key === "Enter" && onMissing?.(o)}
            >
              <title>{`${o.label} is not in the network; press to connect it`}</title>
              <circle r="9" fill="var(--chakra-colors-sheet)" stroke="var(--chakra-colors-clay)" strokeWidth="2.4" strokeDasharray="3 2" />
              <text textAnchor="middle" y="4.5" fontSize="13" fontWeight="700" fill="var(--chakra-colors-clay)">
                ?
              </text>
            </g>
          ) : null,
        )}
      </svg>
    </Box>
  );
}

const middle = (ring: readonly Point[]): Point => [ring.reduce((s, p) => s + p[0], 0) / ring.length, ring.reduce((s, p) => s + p[1], 0) / ring.length];

/** A path: a bar across its way; chosen it is thick. */
function Mark({
  at,
  way,
  on,
  name,
  level,
  onPick,
  children,
}: {
  at: readonly [number, number];
  way: readonly [number, number, number];
  on: boolean;
  name: string;
  level: boolean;
  onPick: (add: boolean) => void;
  children: ReactNode;
}) {
  const [nx, ny] = [-way[1], way[0]];
  return (
    <g
      transform={`translate(${at.join(" ")})`}
      role="button"
      tabIndex={0}
      aria-label={name}
      aria-pressed={on}
      style={{ cursor: "pointer" }}
      onClick={(e) => onPick(e.shiftKey)}
      onKeyDown={(e) => e.key === "Enter" && onPick(e.shiftKey)}
    >
      <title>{name}</title>
      <circle r="10" fill="transparent" />
      {level ? (
        <circle r="6" fill="var(--chakra-colors-sheet)" stroke={on ? "var(--chakra-colors-clay)" : "var(--chakra-colors-water)"} strokeWidth={on ? 3.4 : 2} />
      ) : (
        <line
          x1={-8 * nx}
          y1={-8 * ny}
          x2={8 * nx}
          y2={8 * ny}
          stroke={on ? "var(--chakra-colors-clay)" : "var(--chakra-colors-water)"}
          strokeWidth={on ? 6 : 4}
          strokeLinecap="round"
        />
      )}
      {children}
    </g>
  );
}

/** Arrows of a path: one each way, as wide as what passes. */
function Arrows({ flow, way, most }: { flow: PathFlow; way: readonly [number, number, number]; most: number }) {
  const flat = Math.hypot(way[0], way[1]);
  const angle = flat > 0.2 ? (Math.atan2(way[1], way[0]) * 180) / Math.PI : -90;
  const wide = (q: number): number => (q <= 0 ? 0 : Math.max(LEAST, Math.min(WIDEST, (WIDEST * q) / most)));
  const both = flow.forward > 0.02 * most && flow.backward > 0.02 * most;
  return (
    <g pointerEvents="none" transform={`rotate(${angle})`}>
      {(["forward", "backward"] as const).map((k) => {
        const w = wide(flow[k]);
        if (w === 0 || flow[k] < 0.004 * most) return null;
        const shift = both ? (k === "forward" ? -w / 2 - 1.5 : w / 2 + 1.5) : 0;
        const head = w / 2 + 4;
        return (
          <g key={k} transform={`translate(0 ${shift}) ${k === "backward" ? "rotate(180)" : ""}`}>
            <path
              d={`M -16 ${-w / 2} H ${16 - head} V ${-head} L 16 0 L ${16 - head} ${head} V ${w / 2} H -16 Z`}
              fill={k === "forward" ? "var(--chakra-colors-clay)" : "var(--chakra-colors-water)"}
              opacity={flow.open ? 0.9 : 0.45}
            />
          </g>
        );
      })}
    </g>
  );
}
