import { signedArea, type Point } from "../model/index.ts";
import { areaOf, areaVector, bend, straightened, union, type Polygon, type Vector } from "../geometry/index.ts";

/** One side of a space as a file gives it. */
export interface ShellSide {
  readonly id: string;
  readonly ring: readonly Vector[];
}

/** A space that is upright walls between a level floor and a level ceiling. */
export interface PrismShell {
  readonly ring: readonly Point[];
  readonly low: number;
  readonly high: number;
}

const LEVEL = 0.02;
const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const length = (a: Vector): number => Math.sqrt(dot(a, a));

/** A ring without repeated corners; null when fewer than three are left or it has no area. */
export function cleanRing(ring: readonly Vector[]): Vector[] | null {
  const out: Vector[] = [];
  for (const p of ring) {
    const last = out[out.length - 1];
    if (!last || length(minus(p, last)) > 1e-4) out.push(p);
  }
  if (out.length > 1 && length(minus(out[0], out[out.length - 1])) <= 1e-4) out.pop();
  return out.length >= 3 && length(areaVector(out)) > 1e-4 ? out : null;
}

/** Shortest edge an outline may have, m: shorter ones are closed up. */
const SHORTEST = 0.0101;

/** An outline in plan without edges shorter than a centimetre; null when too few corners are left. */
export function closedUp(ring: readonly Point[]): { readonly ring: Point[]; readonly closed: number } | null {
  const out: Point[] = [];
  const short = (p: Point, q: Point): boolean => Math.abs(p[0] - q[0]) < SHORTEST && Math.abs(p[1] - q[1]) < SHORTEST;
  for (const p of ring) if (out.length === 0 || !short(out[out.length - 1], p)) out.push(p);
  while (out.length > 1 && short(out[out.length - 1], out[0])) out.pop();
  return out.length < 3 ? null : { ring: out, closed: ring.length - out.length };
}

/** Unit normal of a ring. */
export function ringNormal(ring: readonly Vector[]): Vector {
  const a = areaVector(ring);
  const l = length(a);
  return [a[0] / l, a[1] / l, a[2] / l];
}

/** The prism that sides bound, where they bound one: level floors at one level under level ceilings at another, with walls all round. */
export function asPrism(sides: readonly ShellSide[]): PrismShell | null {
  const floors: Polygon[] = [];
  const lows: number[] = [];
  const highs: number[] = [];
  let walls = 0;
  let ceilings = 0;
  const z = sides.flatMap((s) => s.ring.map((p) => p[2]));
  if (z.length === 0) return null;
  const [low, high] = [Math.min(...z), Math.max(...z)];
  for (const { ring } of sides) {
    const n = ringNormal(ring);
    const level = ring.reduce((s, p) => s + p[2], 0) / ring.length;
    if (Math.abs(n[2]) > 0.999) {
      const flat = ring.map((p): Point => [Math.round(p[0] * 1e4) / 1e4, Math.round(p[1] * 1e4) / 1e4]);
      if (Math.abs(level - low) < LEVEL) {
        floors.push([signedArea(flat) < 0 ? [...flat].reverse() : flat]);
        lows.push(level);
      } else if (Math.abs(level - high) < LEVEL) {
        ceilings += Math.abs(signedArea(flat));
        highs.push(level);
      } else return null;
    } else if (Math.abs(n[2]) < 0.01) walls += length(areaVector(ring));
    else return null;
  }
  if (floors.length === 0 || highs.length === 0 || high - low < 0.1) return null;
  const whole = union(floors);
  if (whole.length !== 1 || whole[0].length !== 1) return null;
  const ring = straightened(whole[0][0]);
  if (ring.length < 3) return null;
  const area = areaOf([[ring]]);
  let around = 0;
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length];
    around += Math.sqrt((q[0] - p[0]) * (q[0] - p[0]) + (q[1] - p[1]) * (q[1] - p[1]));
  });
  // all round, or not a prism
  if (Math.abs(ceilings - area) > 0.01 * area || Math.abs(walls - around * (high - low)) > 0.01 * walls) return null;
  return { ring, low, high };
}

/** Whether a point lies in a ring seen along the axis its plane faces most. */
function holds(ring: readonly Vector[], n: Vector, p: Vector): boolean {
  const drop = [0, 1, 2].reduce((a, b) => (Math.abs(n[b]) > Math.abs(n[a]) ? b : a), 0);
  const [u, v] = [0, 1, 2].filter((k) => k !== drop);
  let inside = false;
  ring.forEach((a, i) => {
    const b = ring[(i + 1) % ring.length];
    if (a[v] > p[v] !== b[v] > p[v] && p[u] < a[u] + ((b[u] - a[u]) * (p[v] - a[v])) / (b[v] - a[v])) inside = !inside;
  });
  return inside;
}

/** Distance of a point from the nearest side of a ring. */
function clearance(ring: readonly Vector[], p: Vector): number {
  let least = Infinity;
  ring.forEach((a, i) => {
    const b = ring[(i + 1) % ring.length];
    const along = minus(b, a);
    const t = Math.max(0, Math.min(1, dot(minus(p, a), along) / dot(along, along)));
    least = Math.min(least, length(minus(p, [a[0] + t * along[0], a[1] + t * along[1], a[2] + t * along[2]])));
  });
  return least;
}

/** A point well inside a ring: of its middle and the middles of its ears, the one inside that is farthest from its sides. A point on a side would see out past the others. */
function inner(ring: readonly Vector[]): Vector {
  const n = ringNormal(ring);
  const mean = (points: readonly Vector[]): Vector =>
    points.reduce((s, p): Vector => [s[0] + p[0] / points.length, s[1] + p[1] / points.length, s[2] + p[2] / points.length], [0, 0, 0]);
  const middle = mean(ring);
  let best = middle;
  let most = -1;
  for (const p of [middle, ...ring.map((a, i) => mean([a, ring[(i + 1) % ring.length], ring[(i + 2) % ring.length]]))]) {
    const clear = clearance(ring, p);
    if (clear <= most || !holds(ring, n, p)) continue;
    best = p;
    most = clear;
  }
  return best;
}

/**
 * Sides turned to look outward: a ray from each along its normal that meets an odd number of the others runs
 * inward. @returns how many had to be turned
 */
export function turnOutward(sides: readonly ShellSide[]): { readonly sides: ShellSide[]; readonly turned: number } {
  const planes = sides.map((s) => ({ ring: s.ring, n: ringNormal(s.ring) }));
  let turned = 0;
  const out = sides.map((s, i) => {
    const { n } = planes[i];
    const from = inner(s.ring);
    // a little aslant, so that the ray passes through no edge of a plain building
    const d: Vector = [n[0] + 0.0137 * n[2] + 0.0071, n[1] + 0.0113 * n[0] + 0.0053, n[2] + 0.0091 * n[1] + 0.0037];
    let crossings = 0;
    planes.forEach((p, j) => {
      if (i === j) return;
      const slope = dot(d, p.n);
      if (Math.abs(slope) < 1e-9) return;
      const t = dot(minus(p.ring[0], from), p.n) / slope;
      if (t <= 1e-6) return;
      const at: Vector = [from[0] + d[0] * t, from[1] + d[1] * t, from[2] + d[2] * t];
      if (holds(p.ring, p.n, at)) crossings++;
    });
    if (crossings % 2 === 0) return s;
    turned++;
    return { ...s, ring: [...s.ring].reverse() };
  });
  return { sides: out, turned };
}

/** A ring in one plane: as it is where it bends little, else as triangles. @returns null where it was flat enough */
export function flattened(ring: readonly Vector[], tolerance = 0.02): Vector[][] | null {
  if (bend(ring) <= tolerance) return null;
  return Array.from({ length: ring.length - 2 }, (_, i): Vector[] => [ring[0], ring[i + 1], ring[i + 2]]).filter((t) => length(areaVector(t)) > 1e-4);
}
