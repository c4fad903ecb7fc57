import type { Project, Shade } from "../model/index.ts";
import { cos, DEG, sin, spend } from "../numeric/index.ts";
import type { Face, Geometry, Vector } from "./face.ts";
import { orientationOf, type PlacedOpening } from "./openings.ts";
import type { Caster } from "./surroundings.ts";

/** A free plane piece in space that casts shade; convex. */
export interface ShadePlane extends Caster {
  readonly key: string;
  readonly record: string;
}

/** Shading planes made by the shade records on their openings and walls, and free ones. */
export function deriveShades(project: Project, geometry: Geometry, openings: readonly PlacedOpening[]): ShadePlane[] {
  const planes: ShadePlane[] = [];
  const hosts = new Map<string, Face>();
  for (const f of geometry.faces) if (f.wall && !hosts.has(f.host)) hosts.set(f.host, f);
  for (const [record, s] of Object.entries(project.shades)) {
    const through = { transmittance: s.transmittance ?? null, schedule: s.transmittanceSchedule ?? null };
    const add = (key: string, corners: readonly Vector[]): void => {
      spend(100);
      planes.push({ key, record, corners, ...through });
    };
    if (s.kind === "plane") {
      // taken apart from its first corner: each piece is convex
      if (s.ring.length <= 4) add(record, s.ring);
      else for (let i = 1; i + 1 < s.ring.length; i++) add(`${record}|${i}`, [s.ring[0], s.ring[i], s.ring[i + 1]]);
      continue;
    }
    if (s.kind === "plate") {
      const face = hosts.get(s.host);
      const low = face ? geometry.spaces.get(face.space)?.low : undefined;
      if (face && low !== undefined && s.depth > 0) add(record, standing(face, s.from, s.to, low + s.level, 0, s.depth, 0));
      continue;
    }
    for (const o of openings) {
      const face = geometry.byKey.get(o.face) as Face;
      spend(4);
      if (!face.wall || !targets(project, s, o, face) || s.depth === 0) continue;
      devices(s, o, face).forEach((corners, i) => add(i === 0 ? `${o.key}|${record}` : `${o.key}|${record}|${i}`, corners));
    }
  }
  return planes;
}

type Device = Extract<Shade, { target: unknown }>;

function targets(project: Project, s: Device, o: PlacedOpening, face: Face): boolean {
  if (s.target.kind === "opening") return s.target.opening === o.record;
  if (s.target.kind === "wall") return s.target.host === face.host;
  return s.target.orientation === orientationOf(face.azimuth) && (s.target.storey === null || s.target.storey === project.spaces[face.space].storey);
}

/** A plate that stands out from a wall between two places along it, from a distance in front of it, falling by `drop`. */
function standing(face: Face, from: number, to: number, z: number, gap: number, depth: number, drop: number): Vector[] {
  const w = face.wall as NonNullable<Face["wall"]>;
  const at = (s: number, out: number, level: number): Vector => [
    w.start[0] + w.direction[0] * s + face.normal[0] * out,
    w.start[1] + w.direction[1] * s + face.normal[1] * out,
    level,
  ];
  return [at(from, gap, z), at(to, gap, z), at(to, gap + depth, z - drop), at(from, gap + depth, z - drop)];
}

/** Planes of one device at one opening. */
function devices(s: Device, o: PlacedOpening, face: Face): Vector[][] {
  if (s.kind === "overhang") return [standing(face, o.from - s.extension, o.to + s.extension, o.high + s.gap, 0, s.depth, 0)];
  if (s.kind === "fins") {
    const w = face.wall as NonNullable<Face["wall"]>;
    const fin = (along: number): Vector[] => {
      const at = (out: number, z: number): Vector => [
        w.start[0] + w.direction[0] * along + face.normal[0] * out,
        w.start[1] + w.direction[1] * along + face.normal[1] * out,
        z,
      ];
      const [low, high] = [o.low - s.extension, o.high + s.extension];
      return [at(0, low), at(s.depth, low), at(s.depth, high), at(0, high)];
    };
    // walls run counter-clockwise: seen from outside their start is to the left
    return [...(s.sides !== "right" ? [fin(o.from - s.gap)] : []), ...(s.sides !== "left" ? [fin(o.to + s.gap)] : [])];
  }
  const drop = s.depth * sin(s.angle * DEG);
  const out = s.depth * cos(s.angle * DEG);
  const step = (o.high - o.low) / s.count;
  return Array.from({ length: s.count }, (_, i) => standing(face, o.from, o.to, o.high - i * step, s.gap, out, drop));
}
