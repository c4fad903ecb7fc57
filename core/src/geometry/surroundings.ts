import { cos, DEG, sin } from "../numeric/index.ts";
import type { Project } from "../model/index.ts";
import type { Vector } from "./face.ts";

/** A convex plane piece that casts shade. */
export interface Caster {
  readonly corners: readonly Vector[];
  /** Share of sun let through by month; null: none. */
  readonly transmittance: readonly number[] | null;
  /** Schedule of that share, in place of the months; null: none. */
  readonly schedule: string | null;
}

/** Whether a caster takes all sun at every time. */
export const opaqueCaster = (c: Caster): boolean => c.transmittance === null && c.schedule === null;

/** A piece of something that stands around the building. */
export interface SurroundingPlane extends Caster {
  readonly key: string;
  readonly record: string;
}

/** Corners of a hexagon about a middle, spanned by two half axes. */
function hexagon(middle: Vector, a: Vector, b: Vector): Vector[] {
  return Array.from({ length: 6 }, (_, i): Vector => {
    const c = cos(60 * i * DEG);
    const s = sin(60 * i * DEG);
    return [middle[0] + c * a[0] + s * b[0], middle[1] + c * a[1] + s * b[1], middle[2] + c * a[2] + s * b[2]];
  });
}

/** Record of the planes of the skyline; they stand far away. */
export const SKYLINE = "skyline";
/** Distance of the skyline, m: what moves by a building's width moves by less than a degree. */
const FAR = 8000;
/** It reaches below the level of the ground, and is cut into pieces of at most this many degrees. */
const BELOW = -200;
const PIECE = 10;

/** Height of the skyline in a true direction, degrees: linear between the points around, level without any. */
export function skylineHeight(horizon: Project["site"]["horizon"], azimuth: number): number {
  const points = [...(horizon ?? [])].map((p) => ({ at: ((p.azimuth % 360) + 360) % 360, height: p.height })).sort((a, b) => a.at - b.at);
  if (points.length === 0) return 0;
  const a = ((azimuth % 360) + 360) % 360;
  const next = points.findIndex((p) => p.at > a);
  const after = next < 0 ? { at: points[0].at + 360, height: points[0].height } : points[next];
  const last = points[points.length - 1];
  const before = next === 0 ? { at: last.at - 360, height: last.height } : next < 0 ? last : points[next - 1];
  return after.at > before.at ? before.height + ((after.height - before.height) * (a - before.at)) / (after.at - before.at) : before.height;
}

/** The skyline as upright planes far around the middle of the plan. */
function skylinePlanes(project: Project): SurroundingPlane[] {
  const { horizon, planNorth } = project.site;
  if (!horizon || horizon.every((p) => p.height === 0)) return [];
  const turns = new Set<number>(horizon.map((p) => ((p.azimuth % 360) + 360) % 360));
  for (let a = 0; a < 360; a += PIECE) turns.add(a);
  const around = [...turns].sort((a, b) => a - b);
  const corners = Object.values(project.spaces).flatMap((s) => (s.form.kind === "prism" ? s.form.outline : []));
  const middle = (of: (v: { x: number; y: number }) => number): number => (corners.length > 0 ? corners.reduce((t, v) => t + of(v), 0) / corners.length : 0);
  const [x, y] = [middle((v) => v.x), middle((v) => v.y)];
  const at = (azimuth: number, z: number): Vector => [x + FAR * sin((azimuth - planNorth) * DEG), y + FAR * cos((azimuth - planNorth) * DEG), z];
  const rise = (azimuth: number): number => (FAR * sin(skylineHeight(horizon, azimuth) * DEG)) / cos(skylineHeight(horizon, azimuth) * DEG);
  return around.flatMap((a, i): SurroundingPlane[] => {
    const b = around[(i + 1) % around.length];
    if (rise(a) === 0 && rise(b) === 0) return [];
    return [
      { key: `${SKYLINE}|${i}`, record: SKYLINE, corners: [at(a, BELOW), at(b, BELOW), at(b, rise(b)), at(a, rise(a))], transmittance: null, schedule: null },
    ];
  });
}

/** Planes of all surroundings and of the skyline: blocks by their sides and top, a tree's crown by three crossed hexagons. */
export function deriveSurroundings(project: Project): SurroundingPlane[] {
  const planes: SurroundingPlane[] = [];
  for (const [record, s] of Object.entries(project.surroundings)) {
    const through = s.kind === "tree" ? { transmittance: s.transmittance, schedule: s.transmittanceSchedule ?? null } : { transmittance: null, schedule: null };
    const add = (corners: Vector[]): void => void planes.push({ key: `${record}|${planes.length}`, record, corners, ...through });
    if (s.kind === "tree") {
      const r = s.crown / 2;
      const h = s.height / 2;
      const middle: Vector = [s.x, s.y, s.base + h];
      add(hexagon(middle, [r, 0, 0], [0, r, 0]));
      add(hexagon(middle, [r, 0, 0], [0, 0, h]));
      add(hexagon(middle, [0, r, 0], [0, 0, h]));
      continue;
    }
    const c = cos(s.angle * DEG);
    const n = sin(s.angle * DEG);
    const at = (u: number, v: number, z: number): Vector => [
      s.x + (u * s.width * c) / 2 - (v * s.depth * n) / 2,
      s.y + (u * s.width * n) / 2 + (v * s.depth * c) / 2,
      z,
    ];
    const low = s.base;
    const high = s.base + s.height;
    const ring = [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ] as const;
    ring.forEach(([u, v], i) => {
      const [p, q] = ring[(i + 1) % 4];
      add([at(u, v, low), at(p, q, low), at(p, q, high), at(u, v, high)]);
    });
    add(ring.map(([u, v]) => at(u, v, high)));
  }
  planes.push(...skylinePlanes(project));
  return planes;
}
