import type { Point } from "@arroyo/core";

/** What the pointer has caught: told beside it. */
export interface Snapped {
  readonly point: Point;
  readonly caught: "corner" | "wall" | "in line" | "grid" | null;
  /** Lines the place is in line with, for guides. */
  readonly guides: readonly (readonly [Point, Point])[];
}

const round = (v: number): number => Math.round(v * 1e4) / 1e4 + 0;

/**
 * The nearest place worth catching: a corner, then a wall, then alignment with corners, then the grid.
 * @param reach how near counts, m; @param grid its width, m; 0: none
 */
export function snap(p: Point, rings: readonly (readonly Point[])[], reach: number, grid: number, extra: readonly Point[] = []): Snapped {
  let best: Point | null = null;
  let least = reach;
  const corners = [...rings.flat(), ...extra];
  for (const c of corners) {
    const d = Math.hypot(c[0] - p[0], c[1] - p[1]);
    if (d < least) [best, least] = [c, d];
  }
  if (best) return { point: best, caught: "corner", guides: [] };
  least = reach * 0.8;
  for (const ring of rings)
    ring.forEach((a, i) => {
      const b = ring[(i + 1) % ring.length];
      const l2 = (b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2;
      const t = ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / l2;
      if (t <= 0 || t >= 1) return;
      const on: Point = [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
      const d = Math.hypot(on[0] - p[0], on[1] - p[1]);
      if (d >= least) return;
      least = d;
      // along the wall the grid still counts, measured from its start
      const l = Math.sqrt(l2);
      const s = grid > 0 ? Math.min(l, Math.max(0, Math.round((t * l) / grid) * grid)) : t * l;
      best = Math.abs(s - t * l) < reach ? [round(a[0] + (s / l) * (b[0] - a[0])), round(a[1] + (s / l) * (b[1] - a[1]))] : [round(on[0]), round(on[1])];
    });
  if (best) return { point: best, caught: "wall", guides: [] };
  let [x, y] = p;
  const guides: [Point, Point][] = [];
  let [dx, dy] = [reach * 0.6, reach * 0.6];
  let fromX: Point | null = null;
  let fromY: Point | null = null;
  for (const c of corners) {
    if (Math.abs(c[0] - p[0]) < dx) [x, dx, fromX] = [c[0], Math.abs(c[0] - p[0]), c];
    if (Math.abs(c[1] - p[1]) < dy) [y, dy, fromY] = [c[1], Math.abs(c[1] - p[1]), c];
  }
  if (grid > 0) {
    if (!fromX) x = round(Math.round(p[0] / grid) * grid);
    if (!fromY) y = round(Math.round(p[1] / grid) * grid);
  }
  const at: Point = [round(x), round(y)];
  if (fromX) guides.push([fromX, at]);
  if (fromY) guides.push([fromY, at]);
  return { point: at, caught: fromX || fromY ? "in line" : grid > 0 ? "grid" : null, guides };
}

const NUMBER = String.raw`[-−+]?\d+(?:[.,]\d+)?`;
const value = (s: string): number => Number(s.replace("−", "-").replace(",", "."));

/**
 * Reads a typed place: "x y" as a place in plan, "@x y" from the last point, "length<angle" with the angle
 * counter-clockwise from the right of the plan, or a length alone toward the pointer. Null when it is none of these.
 * @param metres length of a typed unit, m
 */
export function readPlace(text: string, last: Point | null, toward: Point | null, metres = 1): Point | null {
  const length = (t: string): number => value(t) * metres;
  const t = text.trim();
  const two = new RegExp(`^(@?)\\s*(${NUMBER})(?:\\s*;\\s*|\\s+)(${NUMBER})$`).exec(t);
  if (two) {
    const from = two[1] === "@" && last ? last : ([0, 0] as Point);
    return [round(from[0] + length(two[2])), round(from[1] + length(two[3]))];
  }
  const polar = new RegExp(`^(${NUMBER})\\s*<\\s*(${NUMBER})$`).exec(t);
  if (polar && last) {
    const a = (value(polar[2]) * Math.PI) / 180;
    return [round(last[0] + length(polar[1]) * Math.cos(a)), round(last[1] + length(polar[1]) * Math.sin(a))];
  }
  if (new RegExp(`^${NUMBER}$`).test(t) && last && toward) {
    const l = Math.hypot(toward[0] - last[0], toward[1] - last[1]);
    if (l === 0) return null;
    return [round(last[0] + (length(t) * (toward[0] - last[0])) / l), round(last[1] + (length(t) * (toward[1] - last[1])) / l)];
  }
  return null;
}

/** Reads two sizes, "8 5". @param metres length of a typed unit, m */
export function readSize(text: string, metres = 1): Point | null {
  const m = new RegExp(`^(${NUMBER})(?:\\s*;\\s*|\\s*[x×]\\s*|\\s+)(${NUMBER})$`).exec(text.trim());
  return m ? [value(m[1]) * metres, value(m[2]) * metres] : null;
}
