import type { Junction } from "../model/index.ts";
import { TOLERANCE, type Face, type Geometry } from "./face.ts";
import type { PlacedOpening } from "./openings.ts";

/** Length, m, of each kind of junction that belongs to a space; what two spaces share counts half for each. */
export type JunctionLengths = Record<Junction, number>;

const none = (): JunctionLengths => ({ eaves: 0, ground: 0, exposed: 0, storey: 0, corner: 0, reentrant: 0, opening: 0 });

/** What most of a space's floor or ceiling touches; null: it has none of its own. */
function contactOf(faces: readonly Face[], kind: "floor" | "ceiling"): Face["contact"] | null {
  const by = new Map<Face["contact"], number>();
  for (const f of faces) if (f.kind === kind) by.set(f.contact, (by.get(f.contact) ?? 0) + f.area);
  let most: Face["contact"] | null = null;
  for (const [contact, area] of by) if (most === null || area > (by.get(most) ?? 0) * (1 + 1e-9)) most = contact;
  return most;
}

/** Ends of an upright outdoor wall in plan. */
function ends(f: Face): readonly [readonly [number, number], readonly [number, number]] {
  const w = f.wall as NonNullable<Face["wall"]>;
  const at = (d: number): readonly [number, number] => [w.start[0] + w.direction[0] * d, w.start[1] + w.direction[1] * d];
  return [at(w.from), at(w.to)];
}

/**
 * Lengths of the junctions of the outdoor walls with roofs, ground floors, exposed floors, floors between storeys, each
 * other and their openings, found from the geometry, by space.
 */
export function junctionLengths(geometry: Geometry, openings: readonly PlacedOpening[]): Map<string, JunctionLengths> {
  const out = new Map<string, JunctionLengths>([...geometry.spaces.keys()].map((id) => [id, none()]));
  const add = (space: string, junction: Junction, length: number): void => {
    const own = out.get(space);
    if (own) own[junction] += length;
  };
  const bySpace = new Map<string, Face[]>();
  for (const f of geometry.faces) bySpace.set(f.space, [...(bySpace.get(f.space) ?? []), f]);
  const walls = geometry.faces.filter((f) => f.contact === "outdoors" && f.wall !== null);
  for (const f of walls) {
    const w = f.wall as NonNullable<Face["wall"]>;
    const space = geometry.spaces.get(f.space);
    if (!space) continue;
    const faces = bySpace.get(f.space) ?? [];
    if (w.low <= space.low + TOLERANCE) {
      const floor = contactOf(faces, "floor");
      if (floor === "ground") add(f.space, "ground", w.to - w.from);
      else if (floor === "outdoors") add(f.space, "exposed", w.to - w.from);
      else if (floor === "space") add(f.space, "storey", (w.to - w.from) / 2);
    }
    if (w.high >= space.high - TOLERANCE) {
      const ceiling = contactOf(faces, "ceiling");
      if (ceiling === "outdoors") add(f.space, "eaves", w.to - w.from);
      else if (ceiling === "space") add(f.space, "storey", (w.to - w.from) / 2);
    }
  }
  walls.forEach((a, i) => {
    const wa = a.wall as NonNullable<Face["wall"]>;
    for (const b of walls.slice(i + 1)) {
      const wb = b.wall as NonNullable<Face["wall"]>;
      const height = Math.min(wa.high, wb.high) - Math.max(wa.low, wb.low);
      if (height <= TOLERANCE || Math.abs(wa.direction[0] * wb.direction[1] - wa.direction[1] * wb.direction[0]) < 0.05) continue;
      for (const p of ends(a))
        ends(b).forEach((q, k) => {
          const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
          if (dx * dx + dy * dy > TOLERANCE * TOLERANCE) return;
          const far = ends(b)[1 - k];
          // the other wall runs behind this one: the corner points outward
          const outward = (far[0] - q[0]) * a.normal[0] + (far[1] - q[1]) * a.normal[1] < 0;
          for (const f of [a, b]) add(f.space, outward ? "corner" : "reentrant", height / 2);
        });
    }
  });
  for (const o of openings) {
    const f = geometry.byKey.get(o.face);
    if (f && f.contact === "outdoors") add(f.space, "opening", 2 * (o.width + o.height));
  }
  return out;
}
