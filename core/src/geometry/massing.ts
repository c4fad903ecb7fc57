import { orientationOf } from "./openings.ts";
import { areaOf, type Polygon } from "./polygon.ts";
import { atan2, DEG } from "../numeric/index.ts";
import { outlineFault, signedArea, type Orientation, type Point, type Ring } from "../model/index.ts";

/** A footprint as it is asked for, m. */
export type Footprint =
  | { readonly kind: "rectangle"; readonly length: number; readonly width: number }
  /** A rectangle less a rectangle at its upper right corner. */
  | { readonly kind: "L"; readonly length: number; readonly width: number; readonly cutLength: number; readonly cutWidth: number }
  /** A rectangle less a rectangle in the middle of its upper side. */
  | { readonly kind: "U"; readonly length: number; readonly width: number; readonly cutLength: number; readonly cutWidth: number }
  /** A rectangle round a rectangular court in its middle. */
  | { readonly kind: "courtyard"; readonly length: number; readonly width: number; readonly cutLength: number; readonly cutWidth: number }
  | { readonly kind: "polygon"; readonly points: readonly Point[] };

/** One part of a storey: a perimeter part with its orientation, or a core. */
export interface StoreyPart {
  readonly orientation: Orientation | "core";
  readonly ring: Ring;
}

export type Parts = { readonly ok: true; readonly parts: readonly StoreyPart[] } | { readonly ok: false; readonly message: string };

const rectangle = (x0: number, y0: number, x1: number, y1: number): Point[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

/** Rings of a footprint: the outline counter-clockwise and, round a court, its edge clockwise; or a sentence. */
export function footprintRings(f: Footprint): { readonly ok: true; readonly polygon: Polygon } | { readonly ok: false; readonly message: string } {
  const no = (message: string) => ({ ok: false as const, message });
  if (f.kind === "polygon") {
    if (f.points.length < 3) return no("A footprint needs at least three corners.");
    const fault = outlineFault(f.points);
    if (fault !== null) return no(`This footprint cannot be used: ${fault}.`);
    return { ok: true, polygon: [signedArea(f.points) < 0 ? [...f.points].reverse() : f.points] };
  }
  const { length, width } = f;
  if (!(length >= 3 && length <= 500 && width >= 3 && width <= 500)) return no("Length and width of the footprint lie between 3 and 500 m.");
  if (f.kind === "rectangle") return { ok: true, polygon: [rectangle(0, 0, length, width)] };
  const { cutLength: a, cutWidth: b } = f;
  if (!(a > 0 && b > 0)) return no("The part cut out needs a length and a width above 0 m.");
  const spare = f.kind === "L" ? 1 : 2;
  if (a > length - spare || b > width - (f.kind === "courtyard" ? 2 : 1))
    return no(
      `The part cut out leaves less than 1 m: at most ${(length - spare).toFixed(1)} by ${(width - (f.kind === "courtyard" ? 2 : 1)).toFixed(1)} m fits.`,
    );
  if (f.kind === "L")
    return {
      ok: true,
      polygon: [
        [
          [0, 0],
          [length, 0],
          [length, width - b],
          [length - a, width - b],
          [length - a, width],
          [0, width],
        ],
      ],
    };
  const x0 = (length - a) / 2;
  const x1 = (length + a) / 2;
  if (f.kind === "U")
    return {
      ok: true,
      polygon: [
        [
          [0, 0],
          [length, 0],
          [length, width],
          [x1, width],
          [x1, width - b],
          [x0, width - b],
          [x0, width],
          [0, width],
        ],
      ],
    };
  return { ok: true, polygon: [rectangle(0, 0, length, width), rectangle(x0, (width - b) / 2, x1, (width + b) / 2).reverse()] };
}

/** Corners that lie on a straight run are left out. */
function straightened(ring: Ring): Ring {
  return ring.filter((p, i) => {
    const a = ring[(i + ring.length - 1) % ring.length];
    const b = ring[(i + 1) % ring.length];
    const cross = (p[0] - a[0]) * (b[1] - p[1]) - (p[1] - a[1]) * (b[0] - p[0]);
    return Math.abs(cross) > 1e-6;
  });
}

/** Ring moved to its left by a distance, each corner on the lines of its two edges; null where an edge turns round. */
function inset(ring: Ring, depth: number): Ring | null {
  const n = ring.length;
  const edges = ring.map((p, i) => {
    const q = ring[(i + 1) % n];
    const l = Math.sqrt((q[0] - p[0]) * (q[0] - p[0]) + (q[1] - p[1]) * (q[1] - p[1]));
    const d: Point = [(q[0] - p[0]) / l, (q[1] - p[1]) / l];
    return { d, at: [p[0] - d[1] * depth, p[1] + d[0] * depth] as Point };
  });
  const moved = edges.map((e, i): Point => {
    const before = edges[(i + n - 1) % n];
    const cross = before.d[0] * e.d[1] - before.d[1] * e.d[0];
    const t = ((e.at[0] - before.at[0]) * e.d[1] - (e.at[1] - before.at[1]) * e.d[0]) / cross;
    return [before.at[0] + before.d[0] * t, before.at[1] + before.d[1] * t];
  });
  for (let i = 0; i < n; i++) {
    const p = moved[i];
    const q = moved[(i + 1) % n];
    if ((q[0] - p[0]) * edges[i].d[0] + (q[1] - p[1]) * edges[i].d[1] < 0.01) return null;
  }
  return moved;
}

/** All rings inset, or null where they meet or turn round. */
function insetAll(polygon: Polygon, depth: number): Ring[] | null {
  const rings: Ring[] = [];
  for (const ring of polygon) {
    const moved = inset(ring, depth);
    if (!moved || outlineFault(moved) !== null || signedArea(moved) > 0 !== signedArea(ring) > 0) return null;
    rings.push(moved);
  }
  if (rings.length > 1) {
    const [outer, hole] = rings;
    const box = (r: Ring, pick: (...v: number[]) => number, axis: 0 | 1): number => pick(...r.map((p) => p[axis]));
    for (const axis of [0, 1] as const)
      if (box(hole, Math.min, axis) - box(outer, Math.min, axis) < 0.01 || box(outer, Math.max, axis) - box(hole, Math.max, axis) < 0.01) return null;
  }
  return rings;
}

/** The ring between two rings of as many corners, as one four-sided part an edge. */
const between = (outer: Ring, inner: Ring): Ring[] => outer.map((p, i): Ring => [p, outer[(i + 1) % outer.length], inner[(i + 1) % inner.length], inner[i]]);

/**
 * Perimeter parts of a given depth, one an edge and mitred at the corners, and the core they leave, for any
 * simple footprint, also concave or round a court. Depth 0: the storey whole.
 * @param planNorth true direction of the top of the plan, degrees
 */
export function perimeterAndCore(polygon: Polygon, depth: number, planNorth: number): Parts {
  const rings = polygon.map(straightened);
  const court = rings[1] as Ring | undefined;
  // round a court outline and court edge run opposite ways; matched corners start at the lower left
  const courtForward = court ? [...court].reverse() : null;
  if (depth === 0) return { ok: true, parts: (courtForward ? between(rings[0], courtForward) : [rings[0]]).map((ring) => ({ orientation: "core", ring })) };
  const inner = insetAll(rings, depth);
  if (!inner) {
    let low = 0;
    let high = depth;
    for (let i = 0; i < 40; i++) {
      const mid = (low + high) / 2;
      if (insetAll(rings, mid)) low = mid;
      else high = mid;
    }
    return {
      ok: false,
      message: `A perimeter of ${depth.toFixed(1)} m leaves no core here; at most ${(Math.floor(low * 10) / 10).toFixed(1)} m fits, or 0 for whole storeys.`,
    };
  }
  const parts: StoreyPart[] = rings.flatMap((ring, r) =>
    between(ring, inner[r]).map((quad): StoreyPart => {
      const [p, q] = quad;
      const azimuth = atan2(q[1] - p[1], -(q[0] - p[0])) / DEG + planNorth;
      return { orientation: orientationOf(azimuth), ring: quad };
    }),
  );
  const cores = courtForward ? between(inner[0], [...inner[1]].reverse()) : [inner[0]];
  return { ok: true, parts: [...parts, ...cores.map((ring): StoreyPart => ({ orientation: "core", ring }))] };
}

/** Area of all parts, m². */
export const partsArea = (parts: readonly StoreyPart[]): number => areaOf(parts.map((p) => [p.ring]));
