import { difference as clipDifference, FillRule, intersect as clipIntersect, union as clipUnion, type Paths64 } from "clipper2-ts";
import { signedArea, type Point, type Ring } from "../model/index.ts";
import { spend } from "../numeric/index.ts";

/** An outer ring (counter-clockwise) and its holes. */
export type Polygon = readonly Ring[];

/** Area of polygons with holes, m². */
export function areaOf(polygons: readonly Polygon[]): number {
  let s = 0;
  for (const polygon of polygons) polygon.forEach((ring, i) => (s += (i === 0 ? 1 : -1) * Math.abs(signedArea(ring))));
  return s;
}

/** Length of a step in plan, m. */
export const norm = (dx: number, dy: number): number => Math.sqrt(dx * dx + dy * dy);

/** Left, bottom, right, top. */
export type Box = readonly [number, number, number, number];

export function boxOf(ring: Ring): Box {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of ring) {
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
  }
  return [x0, y0, x1, y1];
}

/** Whether two boxes share more than a line. */
export const boxesMeet = (a: Box, b: Box, reach = 0): boolean => a[0] < b[2] + reach && b[0] < a[2] + reach && a[1] < b[3] + reach && b[1] < a[3] + reach;

/** Whether a counter-clockwise ring turns left at every corner. */
export function isConvex(ring: Ring): boolean {
  const n = ring.length;
  for (let i = 0; i < n; i++) {
    const [a, b, c] = [ring[i], ring[(i + 1) % n], ring[(i + 2) % n]];
    if ((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]) < -1e-9) return false;
  }
  return true;
}

/** The part of a ring to the left of the line a→b, for convex rings. */
export function clipLeft(ring: Ring, a: Point, b: Point): Ring {
  const out: Point[] = [];
  const side = (p: Point): number => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length];
    const s0 = side(p);
    const s1 = side(q);
    if (s0 >= 0) out.push(p);
    if ((s0 > 0 && s1 < 0) || (s0 < 0 && s1 > 0)) {
      const t = s0 / (s0 - s1);
      out.push([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])]);
    }
  });
  return out.length >= 3 ? out : [];
}

/** Clipping is done on a grid of 10 µm, so that no rounding can confuse it; exact for plans up to some 900 m, on 0.16 mm beyond. */
const GRID = 1e5;

/** Corners of polygons, and what a walk over all pairs of a part of them costs, as work. */
function spendOn(a: readonly Polygon[], b: readonly Polygon[] = []): void {
  let n = 0;
  for (const p of a) for (const r of p) n += r.length;
  for (const p of b) for (const r of p) n += r.length;
  // a sweep over edges that cross each other: measured at about 20 µs and as much again a corner
  spend(5000 * (1 + n));
}

/** Where the grid lies and how fine it is: about the origin where everything is near it, else about what is clipped. */
interface Raster {
  readonly x: number;
  readonly y: number;
  /** Steps in a metre. */
  readonly fine: number;
}
const NEAR_ORIGIN: Raster = { x: 0, y: 0, fine: GRID };
const NEAR = 900;

function rasterOf(...all: readonly (readonly Polygon[])[]): Raster {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const polygons of all)
    for (const p of polygons)
      for (const r of p) {
        const b = boxOf(r);
        [x0, y0, x1, y1] = [Math.min(x0, b[0]), Math.min(y0, b[1]), Math.max(x1, b[2]), Math.max(y1, b[3])];
      }
  if (x0 > -NEAR && y0 > -NEAR && x1 < NEAR && y1 < NEAR) return NEAR_ORIGIN;
  const half = Math.max(x1 - x0, y1 - y0) / 2;
  return { x: (x0 + x1) / 2, y: (y0 + y1) / 2, fine: half < NEAR ? GRID : GRID / 16 };
}

const toPaths = (polygons: readonly Polygon[], at: Raster): Paths64 =>
  polygons.flatMap((p) =>
    p.map((ring, i) => {
      const path = ring.map(([x, y]) => ({ x: Math.round((x - at.x) * at.fine), y: Math.round((y - at.y) * at.fine) }));
      // outer rings run counter-clockwise, holes clockwise
      return signedArea(ring) > 0 === (i === 0) ? path : path.reverse();
    }),
  );

/** Rings as polygons: outer ones run counter-clockwise, each clockwise one is a hole of the smallest that holds it. */
function fromPaths(paths: Paths64, at: Raster): Polygon[] {
  const rings = paths
    .map((path) => path.map((p): Point => [p.x / at.fine + at.x, p.y / at.fine + at.y]))
    .filter((r) => r.length > 2 && Math.abs(signedArea(r)) > 1e-9);
  const outer = rings.filter((r) => signedArea(r) > 0);
  const out: Ring[][] = outer.map((r) => [r]);
  for (const hole of rings) {
    if (signedArea(hole) > 0) continue;
    let best = -1;
    outer.forEach((r, i) => {
      if (ringHolds(r, middleOfEdge(hole)) && (best < 0 || signedArea(r) < signedArea(outer[best]))) best = i;
    });
    if (best >= 0) out[best].push([...hole]);
  }
  return out;
}

/** A point of a ring that is no corner of another that touches it at corners. */
const middleOfEdge = (r: Ring): Point => [(r[0][0] + r[1][0]) / 2, (r[0][1] + r[1][1]) / 2];

/** What polygons have in common. */
export function intersection(a: readonly Polygon[], b: readonly Polygon[]): Polygon[] {
  if (a.length === 0 || b.length === 0) return [];
  if (a.length === 1 && b.length === 1 && a[0].length === 1 && b[0].length === 1) {
    if (!boxesMeet(boxOf(a[0][0]), boxOf(b[0][0]))) return [];
    if (isConvex(a[0][0]) && isConvex(b[0][0])) {
      spend(10 * a[0][0].length * b[0][0].length);
      let ring = a[0][0];
      const cut = b[0][0];
      for (let i = 0; i < cut.length && ring.length > 0; i++) {
        const q = cut[(i + 1) % cut.length];
        // an edge of rounding has no direction
        if (norm(q[0] - cut[i][0], q[1] - cut[i][1]) > 1e-7) ring = clipLeft(ring, cut[i], q);
      }
      return ring.length > 0 && signedArea(ring) > 1e-12 ? [[ring]] : [];
    }
  }
  spendOn(a, b);
  const at = rasterOf(a, b);
  return fromPaths(clipIntersect(toPaths(a, at), toPaths(b, at), FillRule.NonZero), at);
}

/** The first polygons less the others. */
export function difference(a: readonly Polygon[], b: readonly Polygon[]): Polygon[] {
  if (a.length === 0 || b.length === 0) return [...a];
  spendOn(a, b);
  const at = rasterOf(a, b);
  return fromPaths(clipDifference(toPaths(a, at), toPaths(b, at), FillRule.NonZero), at);
}

/** All polygons as one. */
export function union(polygons: readonly Polygon[]): Polygon[] {
  if (polygons.length < 2) return [...polygons];
  spendOn(polygons);
  const at = rasterOf(polygons);
  return fromPaths(clipUnion(toPaths(polygons, at), [], FillRule.NonZero), at);
}

/** Area two outlines share, as polygons. */
export const intersectOutlines = (a: Ring, b: Ring): Polygon[] => intersection([[a]], [[b]]);

/** Centre of area of a ring. */
export function centroid(ring: Ring): Point {
  let [x, y, a] = [0, 0, 0];
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length];
    const c = p[0] * q[1] - q[0] * p[1];
    x += (p[0] + q[0]) * c;
    y += (p[1] + q[1]) * c;
    a += c;
  });
  return [x / (3 * a), y / (3 * a)];
}

/** Whether a point lies in a ring (a border counts either way). */
export function ringHolds(ring: Ring, p: Point): boolean {
  let inside = false;
  ring.forEach((a, i) => {
    const b = ring[(i + 1) % ring.length];
    if (a[1] > p[1] !== b[1] > p[1] && p[0] < a[0] + ((b[0] - a[0]) * (p[1] - a[1])) / (b[1] - a[1])) inside = !inside;
  });
  return inside;
}

/** Corners that lie on a straight run are left out. */
export function straightened(ring: Ring): Ring {
  return ring.filter((p, i) => {
    const a = ring[(i + ring.length - 1) % ring.length];
    const b = ring[(i + 1) % ring.length];
    return Math.abs((p[0] - a[0]) * (b[1] - p[1]) - (p[1] - a[1]) * (b[0] - p[0])) > 1e-6;
  });
}

/** Polygons without holes that together cover one with holes: cut upright through the middle of each hole. */
export function withoutHoles(polygon: Polygon): Ring[] {
  if (polygon.length === 1) return [polygon[0]];
  const hole = boxOf(polygon[1]);
  const middle = (hole[0] + hole[2]) / 2;
  const [x0, y0, x1, y1] = boxOf(polygon[0]);
  const half = (from: number, to: number): Polygon => [
    [
      [from, y0 - 1],
      [to, y0 - 1],
      [to, y1 + 1],
      [from, y1 + 1],
    ],
  ];
  return [...intersection([polygon], [half(x0 - 1, middle)]), ...intersection([polygon], [half(middle, x1 + 1)])].flatMap(withoutHoles);
}

/** Convex pieces with two sides parallel to the x axis that together cover polygons with holes: exact, and enough for clipping shadows against them. */
export function trapezoids(polygons: readonly Polygon[]): Ring[] {
  const edges: [Point, Point][] = [];
  const levels = new Set<number>();
  for (const polygon of polygons)
    for (const ring of polygon)
      ring.forEach((p, i) => {
        const q = ring[(i + 1) % ring.length];
        levels.add(p[1]);
        if (p[1] !== q[1]) edges.push(p[1] < q[1] ? [p, q] : [q, p]);
      });
  const ys = [...levels].sort((a, b) => a - b);
  const pieces: Ring[] = [];
  const at = ([p, q]: [Point, Point], y: number): number => p[0] + ((q[0] - p[0]) * (y - p[1])) / (q[1] - p[1]);
  for (let k = 0; k + 1 < ys.length; k++) {
    const [lo, hi] = [ys[k], ys[k + 1]];
    if (hi - lo < 1e-9) continue;
    const mid = (lo + hi) / 2;
    const crossing = edges.filter(([p, q]) => p[1] <= lo && q[1] >= hi).sort((a, b) => at(a, mid) - at(b, mid));
    for (let i = 0; i + 1 < crossing.length; i += 2) {
      const corners: Point[] = [
        [at(crossing[i], lo), lo],
        [at(crossing[i + 1], lo), lo],
        [at(crossing[i + 1], hi), hi],
        [at(crossing[i], hi), hi],
      ];
      pieces.push(corners);
    }
  }
  return pieces;
}
