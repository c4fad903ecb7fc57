import { spend } from "../numeric/index.ts";

/** Outlines in plan coordinates, m. A ring lists its corners once, without repeating the first. */
export type Point = readonly [number, number];
export type Ring = readonly Point[];
/** Signed area, m²; positive when counter-clockwise. */
export function signedArea(ring: Ring): number {
  let s = 0;
  for (let i = 0; i < ring.length; i++) {
    const [x0, y0] = ring[i];
    const [x1, y1] = ring[(i + 1) % ring.length];
    s += x0 * y1 - x1 * y0;
  }
  return s / 2;
}

/** Edges nearer than this touch, m. */
const NEAR = 1e-6;

/** First pair of edges (by index) that cross or touch where they should not, or null. */
export function selfCrossing(ring: Ring): readonly [number, number] | null {
  const n = ring.length;
  spend(n * n);
  for (let i = 0; i < n; i++) {
    const [a, b] = [ring[i], ring[(i + 1) % n]];
    const [left, right, low, high] = [Math.min(a[0], b[0]), Math.max(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[1], b[1])];
    for (let j = i + 1; j < n; j++) {
      const [c, d] = [ring[j], ring[(j + 1) % n]];
      // edges whose boxes do not touch have nothing to do with each other
      if (Math.min(c[0], d[0]) > right + NEAR || Math.max(c[0], d[0]) < left - NEAR || Math.min(c[1], d[1]) > high + NEAR || Math.max(c[1], d[1]) < low - NEAR)
        continue;
      const adjacent = j === i + 1 || (i === 0 && j === n - 1);
      if (adjacent) {
        const k = j === i + 1 ? i : j;
        if (foldsBack(ring[k], ring[(k + 1) % n], ring[(k + 2) % n])) return [i, j];
      } else if (segmentsMeet(ring[i], ring[(i + 1) % n], ring[j], ring[(j + 1) % n])) return [i, j];
    }
  }
  return null;
}

const cross = (o: Point, a: Point, b: Point): number => (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);

function foldsBack(a: Point, b: Point, c: Point): boolean {
  const dot = (a[0] - b[0]) * (c[0] - b[0]) + (a[1] - b[1]) * (c[1] - b[1]);
  return Math.abs(cross(a, b, c)) < 1e-9 && dot > 0;
}

function segmentsMeet(a: Point, b: Point, c: Point, d: Point): boolean {
  const d1 = cross(a, b, c);
  const d2 = cross(a, b, d);
  const d3 = cross(c, d, a);
  const d4 = cross(c, d, b);
  if (((d1 > 0 && d2 < 0) || (d1 < 0 && d2 > 0)) && ((d3 > 0 && d4 < 0) || (d3 < 0 && d4 > 0))) return true;
  const within = (p: Point, q: Point, r: Point): boolean =>
    Math.min(p[0], q[0]) - 1e-9 <= r[0] && r[0] <= Math.max(p[0], q[0]) + 1e-9 && Math.min(p[1], q[1]) - 1e-9 <= r[1] && r[1] <= Math.max(p[1], q[1]) + 1e-9;
  const flat = 1e-9;
  return (
    (Math.abs(d1) < flat && within(a, b, c)) ||
    (Math.abs(d2) < flat && within(a, b, d)) ||
    (Math.abs(d3) < flat && within(c, d, a)) ||
    (Math.abs(d4) < flat && within(c, d, b))
  );
}

/** What is wrong with an outline as it is drawn, as a sentence; null when it can bound a space. */
export function outlineFault(ring: Ring): string | null {
  for (let i = 0; i < ring.length; i++) {
    const q = ring[(i + 1) % ring.length];
    if (Math.abs(q[0] - ring[i][0]) < SHORTEST_EDGE && Math.abs(q[1] - ring[i][1]) < SHORTEST_EDGE) return `edge ${i + 1} is shorter than 1 cm`;
  }
  const crossing = selfCrossing(ring);
  return crossing ? `it crosses itself: edges ${crossing[0] + 1} and ${crossing[1] + 1} meet` : null;
}
/** m. */
const SHORTEST_EDGE = 0.01;
