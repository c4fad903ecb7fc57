import { orientationOf } from "./openings.ts";
import { areaOf, straightened, withoutHoles, type Polygon } from "./polygon.ts";
import { deepest, shrink } from "./skeleton.ts";
import { atan2, DEG } from "../numeric/index.ts";
import { outlineFault, signedArea, type Orientation, type Point, type Ring, quantity } from "../model/index.ts";

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
      `The part cut out leaves less than ${quantity(1, "m")}: at most ${quantity(length - spare, "m", 1)} by ${quantity(width - (f.kind === "courtyard" ? 2 : 1), "m", 1)} fits.`,
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

/** The ring between two rings of as many corners, as one four-sided part an edge. */
const between = (outer: Ring, inner: Ring): Ring[] => outer.map((p, i): Ring => [p, outer[(i + 1) % outer.length], inner[(i + 1) % inner.length], inner[i]]);

/** Corners of a ring turned so that the one nearest the lower left comes first. */
function fromLowerLeft(ring: Ring): Ring {
  let first = 0;
  ring.forEach((p, i) => {
    const q = ring[first];
    if (p[0] + p[1] < q[0] + q[1] - 1e-9) first = i;
  });
  return [...ring.slice(first), ...ring.slice(0, first)];
}

/** Plain outlines that cover a polygon: round a court with as many corners one for each side, mitred, else cut through its courts. */
function plainRings(polygon: Polygon): Ring[] {
  if (polygon.length === 1) return [polygon[0]];
  if (polygon.length === 2 && polygon[0].length === polygon[1].length)
    return between(fromLowerLeft(polygon[0]), fromLowerLeft([...polygon[1]].reverse())).filter((r) => signedArea(r) > 1e-6);
  return withoutHoles(polygon);
}

/**
 * Perimeter parts, one an edge and mitred at the corners, and the core they leave, for any simple
 * footprint, also concave or round courts (weighted straight skeleton). Depth 0: the storey whole.
 * @param depth of every side, m, or one for each edge of each ring; where straight runs meet the deeper one counts
 * @param planNorth true direction of the top of the plan, degrees
 */
export function perimeterAndCore(polygon: Polygon, depth: number | readonly (readonly number[])[], planNorth: number): Parts {
  const rings = polygon.map(straightened);
  const depths = rings.map((ring, r) =>
    ring.map((p, i) => {
      if (typeof depth === "number") return depth;
      // edges that straightening joined: the deepest of them
      const q = ring[(i + 1) % ring.length];
      const from = polygon[r].indexOf(p);
      const to = polygon[r].indexOf(q);
      const n = polygon[r].length;
      let most = 0;
      for (let k = from; k !== to; k = (k + 1) % n) most = Math.max(most, depth[r][k] ?? 0);
      return most;
    }),
  );
  if (depths.every((d) => d.every((v) => v === 0))) return { ok: true, parts: plainRings(rings).map((ring) => ({ orientation: "core", ring })) };
  try {
    const { rest, swept } = shrink(rings, depths, 1);
    if (areaOf(rest) < 1)
      return {
        ok: false,
        message: `A perimeter of ${quantity(Math.max(...depths.flat()), "m", 1)} leaves no core here; at most ${quantity(Math.floor(deepest(rings) * 10) / 10, "m", 1)} fits, or 0 for whole storeys.`,
      };
    let k = 0;
    const parts = rings.flatMap((ring) =>
      ring.flatMap((p, i): StoreyPart[] => {
        const q = ring[(i + 1) % ring.length];
        const azimuth = atan2(q[1] - p[1], -(q[0] - p[0])) / DEG + planNorth;
        return swept[k++].filter((s) => areaOf([s]) > 0.01).flatMap((s) => plainRings(s).map((r) => ({ orientation: orientationOf(azimuth), ring: r })));
      }),
    );
    return { ok: true, parts: [...parts, ...rest.flatMap(plainRings).map((ring): StoreyPart => ({ orientation: "core", ring }))] };
  } catch {
    return { ok: false, message: "No perimeter can be drawn round this outline; split it into simpler parts first." };
  }
}

/** Area of all parts, m². */
export const partsArea = (parts: readonly StoreyPart[]): number => areaOf(parts.map((p) => [p.ring]));

/** Ids and names of parts: by orientation, numbered where one comes more than once. */
export function partNames(parts: readonly StoreyPart[]): { id: string; name: string }[] {
  const total = new Map<string, number>();
  for (const p of parts) total.set(p.orientation, (total.get(p.orientation) ?? 0) + 1);
  const seen = new Map<string, number>();
  return parts.map((p) => {
    const n = (seen.get(p.orientation) ?? 0) + 1;
    seen.set(p.orientation, n);
    const many = (total.get(p.orientation) ?? 0) > 1;
    const whole = parts.length === 1;
    const word = whole ? "Storey" : p.orientation === "core" ? "Core" : `${p.orientation[0].toUpperCase()}${p.orientation.slice(1)}`;
    return { id: many ? `${p.orientation}_${n}` : whole ? "storey" : p.orientation, name: many ? `${word} ${n}` : word };
  });
}
