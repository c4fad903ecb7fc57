import type { Opening, Orientation, Problem, Project } from "../model/index.ts";
import type { Face, Geometry, Vector } from "./faces.ts";

/** One opening in one outdoor wall, derived from an opening record. */
export interface PlacedOpening {
  readonly key: string;
  /** The record that made it. */
  readonly record: string;
  readonly name: string;
  readonly face: string;
  readonly use: "window" | "door";
  /** Glazing (window) or assembly (door); null: from the kit. */
  readonly construction: string | null;
  /** Distance along the wall's edge, m. */
  readonly from: number;
  readonly to: number;
  /** Levels above ground, m. */
  readonly low: number;
  readonly high: number;
  readonly area: number;
  /** Share of it that can be opened, 1. */
  readonly operable: number;
}

/** A free rectangle in space that casts shade. */
export interface ShadePlane {
  readonly key: string;
  readonly record: string;
  readonly corners: readonly Vector[];
  /** Share of sun let through by month; null: none. */
  readonly transmittance: readonly number[] | null;
}

/** Quarter of the compass a true azimuth belongs to. */
export function orientationOf(azimuth: number): Orientation {
  const a = ((azimuth % 360) + 360) % 360;
  if (a >= 315 || a < 45) return "north";
  if (a < 135) return "east";
  return a < 225 ? "south" : "west";
}

/** Openings of all outdoor walls, and the problems of those that fit nowhere. */
export function deriveOpenings(project: Project, geometry: Geometry): { openings: PlacedOpening[]; problems: Problem[] } {
  const openings: PlacedOpening[] = [];
  const problems: Problem[] = [];
  const outdoor = geometry.faces.filter((f) => f.kind === "wall" && f.contact === "outdoors");
  const placedOn = new Map<string, PlacedOpening[]>();
  const report = (id: string, code: string, message: string, fix?: Problem["fix"]): void => {
    problems.push({ code, severity: "error", stage: "form", path: `openings/${id}`, message, ...(fix ? { fix } : {}) });
  };
  for (const [id, o] of Object.entries(project.openings)) {
    if (o.kind !== "placed") continue;
    const placed = place(id, o, geometry, report);
    if (!placed) continue;
    const others = placedOn.get(placed.face) ?? [];
    const clash = others.find((p) => p.from < placed.to - 1e-6 && placed.from < p.to - 1e-6 && p.low < placed.high - 1e-6 && placed.low < p.high - 1e-6);
    if (clash) {
      report(id, "opening-overlap", `"${o.name}" and "${clash.name}" overlap in the same wall.`);
      continue;
    }
    placedOn.set(placed.face, [...others, placed]);
    openings.push(placed);
  }
  const ratios = Object.entries(project.openings).filter((e): e is [string, Extract<Opening, { kind: "ratio" }>] => e[1].kind === "ratio");
  const used = new Set<string>();
  for (const face of outdoor) {
    if (!face.wall) continue;
    const storey = project.spaces[face.space].storey;
    const matching = ratios.filter(
      ([, o]) => o.orientation === orientationOf(face.azimuth) && (o.storey === null || o.storey === storey) && (o.space === null || o.space === face.space),
    );
    if (matching.length === 0) continue;
    const specific = (o: Extract<Opening, { kind: "ratio" }>): number => (o.space !== null ? 2 : 0) + (o.storey !== null ? 1 : 0);
    const best = Math.max(...matching.map(([, o]) => specific(o)));
    const chosen = matching.filter(([, o]) => specific(o) === best);
    for (const [id] of matching) used.add(id);
    if (chosen.length > 1) {
      const message = `"${chosen[1][1].name}" and "${chosen[0][1].name}" both set the glazing of the same wall.`;
      if (!problems.some((p) => p.message === message))
        report(chosen[1][0], "ratio-clash", message, {
          label: `Remove "${chosen[1][1].name}"`,
          changes: [{ op: "remove", path: ["openings", chosen[1][0]], old: chosen[1][1] }],
        });
      continue;
    }
    const [id, o] = chosen[0];
    if (o.ratio === 0 || (placedOn.get(face.key) ?? []).length > 0) continue;
    openings.push(ratioOpening(id, o, face, geometry));
  }
  for (const [id, o] of ratios)
    if (!used.has(id) && o.ratio > 0)
      problems.push({
        code: "no-wall",
        severity: "warning",
        stage: "form",
        path: `openings/${id}`,
        message: `"${o.name}" finds no outdoor wall facing ${o.orientation}.`,
      });
  openings.sort((a, b) => (a.key < b.key ? -1 : 1));
  return { openings, problems };
}

/** A window of the given share of its wall: preferred sill and height, widened first, then raised. */
function ratioOpening(record: string, o: Extract<Opening, { kind: "ratio" }>, face: Face, geometry: Geometry): PlacedOpening {
  const w = face.wall as NonNullable<Face["wall"]>;
  const length = w.to - w.from;
  const tall = w.high - w.low;
  const area = o.ratio * length * tall;
  const margin = 0.99;
  const height = Math.min(margin * tall, Math.max(Math.min(o.height, margin * tall), area / (margin * length)));
  const width = area / height;
  const floor = geometry.spaces.get(face.space)?.low ?? w.low;
  const wanted = Math.max(w.low + (tall * (1 - margin)) / 2, floor + o.sill);
  const low = Math.min(wanted, w.high - (tall * (1 - margin)) / 2 - height);
  const from = w.from + (length - width) / 2;
  return {
    key: `${face.key}|${record}`,
    record,
    name: o.name,
    face: face.key,
    use: "window",
    construction: o.glazing,
    from,
    to: from + width,
    low,
    high: low + height,
    area,
    operable: o.operable ?? 0,
  };
}

function place(
  id: string,
  o: Extract<Opening, { kind: "placed" }>,
  geometry: Geometry,
  report: (id: string, code: string, message: string, fix?: Problem["fix"]) => void,
): PlacedOpening | null {
  const walls = geometry.faces.filter((f) => f.host === o.host && f.wall);
  if (walls.length === 0) {
    if (geometry.spaces.has(o.host.split("/")[0])) report(id, "no-wall", `"${o.name}" lies in no wall.`);
    return null;
  }
  const floor = (geometry.spaces.get(walls[0].space) as { low: number }).low;
  const low = floor + o.sill;
  const high = low + o.height;
  const to = o.offset + o.width;
  const outdoors = walls.filter((f) => f.contact === "outdoors");
  const inside = outdoors.find(
    (f) => f.wall && o.offset >= f.wall.from - 1e-6 && to <= f.wall.to + 1e-6 && low >= f.wall.low - 1e-6 && high <= f.wall.high + 1e-6,
  );
  if (inside)
    return {
      key: `${inside.key}|${id}`,
      record: id,
      name: o.name,
      face: inside.key,
      use: o.use,
      construction: o.glazing,
      from: o.offset,
      to,
      low,
      high,
      area: o.width * o.height,
      operable: o.operable ?? 0,
    };
  const wallEnd = Math.max(...walls.map((f) => (f.wall as NonNullable<Face["wall"]>).to));
  const wallTop = Math.max(...walls.map((f) => (f.wall as NonNullable<Face["wall"]>).high));
  const fitting = outdoors.find(
    (f) => f.wall && f.wall.to - f.wall.from >= o.width && f.wall.high - f.wall.low >= o.height && o.offset < f.wall.to && to > f.wall.from,
  );
  const fix = fitting?.wall
    ? {
        label: "Fit to wall",
        changes: [
          {
            op: "set" as const,
            path: ["openings", id, "offset"],
            value: Math.round(1000 * Math.min(Math.max(o.offset, fitting.wall.from), fitting.wall.to - o.width)) / 1000,
            old: o.offset,
          },
          {
            op: "set" as const,
            path: ["openings", id, "sill"],
            value: Math.round(1000 * Math.min(Math.max(o.sill, fitting.wall.low - floor), fitting.wall.high - floor - o.height)) / 1000,
            old: o.sill,
          },
        ],
      }
    : undefined;
  const past = to - wallEnd;
  const over = high - wallTop;
  if (past > 1e-6) report(id, "past-wall", `"${o.name}" reaches ${past.toFixed(2)} m past its wall.`, fix);
  else if (over > 1e-6) report(id, "past-wall", `"${o.name}" reaches ${over.toFixed(2)} m above its wall.`, fix);
  else if (outdoors.length === 0) report(id, "not-outdoors", `"${o.name}" lies in a wall that does not touch outdoors.`);
  else report(id, "across", `"${o.name}" lies across the edge between two parts of its wall.`, fix);
  return null;
}

/** Corner positions of a wall rectangle or an opening in it, counter-clockwise seen from outside. */
export function wallCorners(face: Face, r: { from: number; to: number; low: number; high: number }): Vector[] {
  const w = face.wall as NonNullable<Face["wall"]>;
  const at = (s: number, z: number): Vector => [w.start[0] + w.direction[0] * s, w.start[1] + w.direction[1] * s, z];
  return [at(r.from, r.low), at(r.to, r.low), at(r.to, r.high), at(r.from, r.high)];
}

/** Shading planes made by the shade records on the given openings. */
export function deriveShades(project: Project, geometry: Geometry, openings: readonly PlacedOpening[]): ShadePlane[] {
  const planes: ShadePlane[] = [];
  for (const [id, s] of Object.entries(project.shades)) {
    for (const o of openings) {
      const face = geometry.byKey.get(o.face) as Face;
      const hit =
        s.target.kind === "opening"
          ? s.target.opening === o.record
          : s.target.orientation === orientationOf(face.azimuth) && (s.target.storey === null || s.target.storey === project.spaces[face.space].storey);
      if (!hit || s.depth === 0) continue;
      const z = o.high + s.gap;
      const [a, b] = wallCorners(face, { from: o.from - s.extension, to: o.to + s.extension, low: z, high: z });
      const out = (v: Vector): Vector => [v[0] + face.normal[0] * s.depth, v[1] + face.normal[1] * s.depth, v[2]];
      planes.push({ key: `${o.key}|${id}`, record: id, corners: [a, b, out(b), out(a)], transmittance: s.transmittance ?? null });
    }
  }
  return planes;
}
