import type { Vector } from "../geometry/index.ts";
import type { BuildingRecords } from "./records.ts";

/** Corners of a file nearer to each other than this are one, m: noise of its writer, and gaps nobody builds. */
export const WELD = 0.005;

/** A building whose corners that lie within `WELD` of each other are one, and how many were moved for it. */
export function welded(records: BuildingRecords): { readonly records: BuildingRecords; readonly moved: number } {
  const cells = new Map<string, Vector[]>();
  let moved = 0;
  const cell = (v: number): number => Math.floor(v / WELD);
  const one = (p: Vector): Vector => {
    const [x, y, z] = p.map(cell);
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let dz = -1; dz <= 1; dz++)
          for (const q of cells.get(`${x + dx} ${y + dy} ${z + dz}`) ?? []) {
            const apart = [q[0] - p[0], q[1] - p[1], q[2] - p[2]];
            const square = apart[0] * apart[0] + apart[1] * apart[1] + apart[2] * apart[2];
            if (square >= WELD * WELD) continue;
            if (square > 1e-14) moved++;
            return q;
          }
    const key = `${x} ${y} ${z}`;
    cells.set(key, [...(cells.get(key) ?? []), p]);
    return p;
  };
  const ring = (r: readonly Vector[]): Vector[] => r.map(one);
  const surfaces = records.surfaces.map((s) => ({ ...s, ring: ring(s.ring), openings: s.openings.map((o) => ({ ...o, ring: ring(o.ring) })) }));
  const spaces = records.spaces.map((s) => (s.outline ? { ...s, outline: { ...s.outline, ring: ring(s.outline.ring) } } : s));
  return { records: { ...records, surfaces, spaces }, moved };
}

/** Half the width of the area a building may lie in, m. */
const FARTHEST = 10000;
const MOST_SPACES = 5000;
const MOST_SURFACES = 50000;

/** Why records cannot be those of a building, as a sentence; null: they can. */
export function recordsFault(records: BuildingRecords): string | null {
  let [low, high] = [Infinity, -Infinity];
  const look = (ring: readonly Vector[]): void => {
    for (const p of ring)
      for (const v of p) {
        if (v < low) low = v;
        if (v > high) high = v;
      }
  };
  for (const s of records.surfaces) {
    look(s.ring);
    for (const o of s.openings) look(o.ring);
  }
  for (const s of records.spaces) if (s.outline) look(s.outline.ring);
  if (low < -FARTHEST || high > FARTHEST)
    return `The building reaches from ${(low / 1000).toFixed(1)} km to ${(high / 1000).toFixed(1)} km; everything must lie within ${FARTHEST / 1000} km of the origin. Check the file's unit of length and where its origin lies.`;
  if (records.spaces.length > MOST_SPACES)
    return `The file has ${records.spaces.length} spaces; at most ${MOST_SPACES} are read. Export a part of the building.`;
  if (records.surfaces.length > MOST_SURFACES)
    return `The file has ${records.surfaces.length} surfaces; at most ${MOST_SURFACES} are read. Export a part of the building.`;
  return null;
}
