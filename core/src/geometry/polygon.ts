import { signedArea, type Point, type Ring } from "../model/index.ts";

/** An outer ring (counter-clockwise) and its holes. */
export type Polygon = readonly Ring[];

/** Area of polygons with holes, m². */
export function areaOf(polygons: readonly Polygon[]): number {
  let s = 0;
  for (const polygon of polygons) polygon.forEach((ring, i) => (s += (i === 0 ? 1 : -1) * Math.abs(signedArea(ring))));
  return s;
}

/**
 * Cuts polygons with holes into convex trapezoids with two sides parallel to the x axis: exact, and
 * enough for clipping shadows against them.
 */
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
