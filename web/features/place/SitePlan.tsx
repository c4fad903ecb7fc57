"use client";
import { Box, Text } from "@chakra-ui/react";
import { useRef, useState } from "react";
import { setChange, type Project, type Surrounding } from "@arroyo/core";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

const [W, H] = [620, 360];
/** Things are moved in steps of this, m. */
const SNAP = 0.5;

/** The site from above: the building, blocks and trees, each moved with the mouse; north as the compass has it. */
export function SitePlan() {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const svg = useRef<SVGSVGElement>(null);
  const [moved, setMoved] = useState<{ id: string; x: number; y: number; fromX: number; fromY: number } | null>(null);
  const outlines = Object.values(project.spaces).flatMap((s) => (s.form.kind === "prism" ? [s.form.outline] : []));
  const things = Object.entries(project.surroundings);
  const reach = ([, s]: readonly [string, Surrounding]): number => (s.kind === "tree" ? s.crown / 2 : Math.hypot(s.width, s.depth) / 2);
  const xs = [...outlines.flat().map((v) => v.x), ...things.flatMap((t) => [t[1].x - reach(t), t[1].x + reach(t)])];
  const ys = [...outlines.flat().map((v) => v.y), ...things.flatMap((t) => [t[1].y - reach(t), t[1].y + reach(t)])];
  const [x0, x1] = [Math.min(0, ...xs) - 8, Math.max(10, ...xs) + 8];
  const [y0, y1] = [Math.min(0, ...ys) - 8, Math.max(10, ...ys) + 8];
  const scale = Math.min(W / (x1 - x0), H / (y1 - y0));
  const px = (x: number): number => (x - (x0 + x1) / 2) * scale + W / 2;
  const py = (y: number): number => H / 2 - (y - (y0 + y1) / 2) * scale;
  const place = (id: string, s: Surrounding): { x: number; y: number } => (moved?.id === id ? moved : s);
  const north = (project.site.planNorth * Math.PI) / 180;
  const metres = (e: React.PointerEvent): { x: number; y: number } => {
    const box = (svg.current as SVGSVGElement).getBoundingClientRect();
    return { x: (e.clientX - box.left) / scale, y: -(e.clientY - box.top) / scale };
  };
  const drag = (id: string, s: Surrounding) => ({
    style: { cursor: "move" },
    tabIndex: 0,
    role: "button",
    "aria-label": `${s.name} on the site plan; arrow keys move it`,
    onPointerDown: (e: React.PointerEvent) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      const at = metres(e);
      setMoved({ id, x: s.x, y: s.y, fromX: at.x - s.x, fromY: at.y - s.y });
    },
    onPointerMove: (e: React.PointerEvent) => {
      if (moved?.id !== id) return;
      const at = metres(e);
      setMoved({ ...moved, x: SNAP * Math.round((at.x - moved.fromX) / SNAP), y: SNAP * Math.round((at.y - moved.fromY) / SNAP) });
    },
    onPointerUp: () => {
      if (moved?.id !== id) return;
      put(id, s, moved.x, moved.y);
      setMoved(null);
    },
    onKeyDown: (e: React.KeyboardEvent) => {
      const step = { ArrowLeft: [-SNAP, 0], ArrowRight: [SNAP, 0], ArrowUp: [0, SNAP], ArrowDown: [0, -SNAP] }[e.key];
      if (!step) return;
      e.preventDefault();
      put(id, s, s.x + step[0], s.y + step[1]);
    },
  });
  const put = (id: string, s: Surrounding, x: number, y: number): void => {
    if (x === s.x && y === s.y) return;
    edit(`${s.name} moved`, [setChange(project, ["surroundings", id, "x"], x), setChange(project, ["surroundings", id, "y"], y)]);
  };
  return (
    <Box>
      <svg
        ref={svg}
        width={W}
        height={H}
        role="group"
        aria-label="Site plan"
        style={{ border: "1px solid var(--chakra-colors-line)", background: "var(--chakra-colors-sheet)", touchAction: "none" }}
      >
        {outlines.map((o, i) => (
          <path
            key={i}
            d={`M${o.map((v) => `${px(v.x)} ${py(v.y)}`).join("L")}Z`}
            fill="var(--chakra-colors-wash)"
            stroke="var(--chakra-colors-ink2)"
            strokeWidth="0.8"
          />
        ))}
        {things.map(([id, s]) => {
          const at = place(id, s);
          const active = moved?.id === id;
          if (s.kind === "tree")
            return (
              <g key={id} {...drag(id, s)}>
                <circle
                  cx={px(at.x)}
                  cy={py(at.y)}
                  r={Math.max(4, (s.crown / 2) * scale)}
                  fill="#C4CBB0"
                  opacity="0.8"
                  stroke={active ? "var(--chakra-colors-water)" : "#8C9A5B"}
                />
                <title>{s.name}</title>
              </g>
            );
          return (
            <g key={id} {...drag(id, s)} transform={`translate(${px(at.x)} ${py(at.y)}) rotate(${-s.angle})`}>
              <rect
                x={(-s.width / 2) * scale}
                y={(-s.depth / 2) * scale}
                width={s.width * scale}
                height={s.depth * scale}
                fill="#D9D3C6"
                stroke={active ? "var(--chakra-colors-water)" : "var(--chakra-colors-ink2)"}
              />
              <title>{`${s.name}, ${units.words(s.base + s.height, "m", 1)} high`}</title>
            </g>
          );
        })}
        <g transform={`translate(${W - 30} 34)`}>
          <line
            x1={14 * Math.sin(north)}
            y1={14 * Math.cos(north)}
            x2={-18 * Math.sin(north)}
            y2={-18 * Math.cos(north)}
            stroke="var(--chakra-colors-ink)"
            strokeWidth="1.4"
          />
          <text x={-26 * Math.sin(north)} y={-26 * Math.cos(north) + 4} textAnchor="middle" fontSize="11" fill="var(--chakra-colors-ink)">
            N
          </text>
        </g>
        <g transform={`translate(14 ${H - 14})`}>
          <line x1="0" x2={10 * scale} y1="0" y2="0" stroke="var(--chakra-colors-ink)" strokeWidth="1.4" />
          <text x={10 * scale + 6} y="4" fontSize="11" fill="var(--chakra-colors-ink2)">
            {units.words(10, "m", 0)}
          </text>
        </g>
      </svg>
      <Text color="ink2" fontSize="12px">
        {moved
          ? `${project.surroundings[moved.id].name}: x ${units.words(moved.x, "m", 1)}, y ${units.words(moved.y, "m", 1)}`
          : "Blocks and trees are dragged, or moved with the arrow keys; their figures stand below."}
      </Text>
    </Box>
  );
}
