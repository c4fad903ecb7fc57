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

/** Planes of all surroundings: blocks by their sides and top, a tree's crown by three crossed hexagons. */
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
  return planes;
}
