import { cos, DEG, sin, tan } from "../numeric/index.ts";
import { signedArea, type Point, type Project, type Ring, type Roof } from "../model/index.ts";
import { areaOf, clipLeft, intersection, isConvex, type Polygon } from "./polygon.ts";
import { shrink } from "./skeleton.ts";

/** A plane over the plan: z = a·x + b·y + c, m. */
export type Plane = readonly [a: number, b: number, c: number];
/** One plane side of a roof and the part of the plan it covers. */
export interface RoofPatch {
  readonly polygons: readonly Polygon[];
  readonly plane: Plane;
}

export const heightAt = (p: Plane, x: number, y: number): number => p[0] * x + p[1] * y + p[2];
export const FLAT = (level: number): Plane => [0, 0, level];

const known = new WeakMap<Roof, Map<number, readonly RoofPatch[]>>();

/** Plane sides of a roof, levels above ground, remembered by record. @throws RangeError when a hip roof cannot be formed */
export function roofPatches(project: Project, roof: Roof): readonly RoofPatch[] {
  const eaves = project.storeys[roof.storey].elevation + roof.eaves;
  let by = known.get(roof);
  if (!by) known.set(roof, (by = new Map()));
  let patches = by.get(eaves);
  if (!patches) by.set(eaves, (patches = makePatches(roof, eaves)));
  return patches;
}

/** Unit vector in plan of a direction clockwise from its top. */
const towards = (degrees: number): Point => [sin(degrees * DEG), cos(degrees * DEG)];

function makePatches(roof: Roof, eaves: number): RoofPatch[] {
  const given = roof.outline.map((p): Point => [p.x, p.y]);
  const ring: Ring = signedArea(given) < 0 ? [...given].reverse() : given;
  const slope = tan(roof.pitch * DEG);
  if (roof.kind === "flat" || roof.pitch === 0) return [{ polygons: [[ring]], plane: FLAT(eaves) }];
  const along = (d: Point): number[] => ring.map((p) => p[0] * d[0] + p[1] * d[1]);
  if (roof.kind === "shed") {
    // falls in its direction; the low eaves are at the farthest corner
    const d = towards(roof.direction);
    const end = Math.max(...along(d));
    return [{ polygons: [[ring]], plane: [-slope * d[0], -slope * d[1], eaves + slope * end] }];
  }
  if (roof.kind === "gable") {
    const ridge = towards(roof.direction);
    const across: Point = [ridge[1], -ridge[0]];
    const s = along(across);
    const low = Math.min(...s);
    const high = Math.max(...s);
    const middle = (low + high) / 2;
    const at: Point = [across[0] * middle, across[1] * middle];
    const cut = (a: Point, b: Point): Polygon[] =>
      isConvex(ring) ? [clipLeft(ring, a, b)].filter((r) => r.length > 2).map((r) => [r]) : intersection([[ring]], [[halfPlane(ring, a, b)]]);
    const there: Point = [at[0] + ridge[0], at[1] + ridge[1]];
    return [
      // rises across the ridge's direction from the low side, to the left of the ridge looking along it
      { polygons: cut(at, there), plane: [slope * across[0], slope * across[1], eaves - slope * low] as Plane },
      { polygons: cut(there, at), plane: [-slope * across[0], -slope * across[1], eaves + slope * high] as Plane },
    ].filter((p) => areaOf(p.polygons) > 1e-6);
  }
  const { swept } = shrink([ring], [ring.map(() => 1)], Infinity);
  return swept.flatMap((polygons, i): RoofPatch[] => {
    if (areaOf(polygons) < 1e-6) return [];
    const p = ring[i];
    const q = ring[(i + 1) % ring.length];
    const l = Math.sqrt((q[0] - p[0]) * (q[0] - p[0]) + (q[1] - p[1]) * (q[1] - p[1]));
    const [nx, ny] = [-(q[1] - p[1]) / l, (q[0] - p[0]) / l];
    return [{ polygons, plane: [slope * nx, slope * ny, eaves - slope * (nx * p[0] + ny * p[1])] }];
  });
}

/** A large quadrilateral to the left of a line. */
function halfPlane(ring: Ring, a: Point, b: Point): Ring {
  const reach = 4 * Math.max(10, ...ring.flatMap((p) => [Math.abs(p[0] - a[0]), Math.abs(p[1] - a[1])]));
  const l = Math.sqrt((b[0] - a[0]) * (b[0] - a[0]) + (b[1] - a[1]) * (b[1] - a[1]));
  const d: Point = [((b[0] - a[0]) / l) * reach, ((b[1] - a[1]) / l) * reach];
  const n: Point = [-d[1], d[0]];
  return [
    [a[0] - d[0], a[1] - d[1]],
    [a[0] + d[0], a[1] + d[1]],
    [a[0] + d[0] + n[0], a[1] + d[1] + n[1]],
    [a[0] - d[0] + n[0], a[1] - d[1] + n[1]],
  ];
}

/** Height of a roof along a straight edge: distance from its start and level, at every bend. */
export function roofProfile(patches: readonly RoofPatch[], start: Point, direction: Point, length: number): readonly Point[] {
  const cuts = new Set<number>([0, length]);
  for (let i = 0; i < patches.length; i++)
    for (let j = i + 1; j < patches.length; j++) {
      const [p, q] = [patches[i].plane, patches[j].plane];
      const rate = (p[0] - q[0]) * direction[0] + (p[1] - q[1]) * direction[1];
      if (Math.abs(rate) < 1e-9) continue;
      const s = (heightAt(q, ...start) - heightAt(p, ...start)) / rate;
      if (s > 1e-6 && s < length - 1e-6) cuts.add(Math.round(s * 1e6) / 1e6);
    }
  const sorted = [...cuts].sort((a, b) => a - b);
  const level = (s: number): number => {
    const x = start[0] + direction[0] * s;
    const y = start[1] + direction[1] * s;
    const here = patches.filter((p) => p.polygons.some((poly) => near(poly[0], x, y)));
    // on a border between two sides of a roof both give the same height
    return Math.min(...(here.length > 0 ? here : patches).map((p) => heightAt(p.plane, x, y)));
  };
  const points = sorted.map((s): Point => [s, Math.round(level(s) * 1e6) / 1e6]);
  return points.filter((p, i) => {
    if (i === 0 || i === points.length - 1) return true;
    const [a, b] = [points[i - 1], points[i + 1]];
    return Math.abs(a[1] + ((b[1] - a[1]) * (p[0] - a[0])) / (b[0] - a[0]) - p[1]) > 1e-5;
  });
}

/** Whether a point lies in a ring or within a millimetre of it. */
function near(ring: Ring, x: number, y: number): boolean {
  let inside = false;
  for (let i = 0; i < ring.length; i++) {
    const a = ring[i];
    const b = ring[(i + 1) % ring.length];
    if (a[1] > y !== b[1] > y && x < a[0] + ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1])) inside = !inside;
    const l2 = (b[0] - a[0]) * (b[0] - a[0]) + (b[1] - a[1]) * (b[1] - a[1]);
    const t = Math.max(0, Math.min(1, ((x - a[0]) * (b[0] - a[0]) + (y - a[1]) * (b[1] - a[1])) / l2));
    const dx = a[0] + t * (b[0] - a[0]) - x;
    const dy = a[1] + t * (b[1] - a[1]) - y;
    if (dx * dx + dy * dy < 1e-6) return true;
  }
  return inside;
}
