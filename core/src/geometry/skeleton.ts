import { signedArea, type Point, type Ring } from "../model/index.ts";
import { spend } from "../numeric/index.ts";
import { areaOf, norm, type Polygon, ringHolds, union } from "./polygon.ts";

/** Places nearer than this are one, m. */
const NEAR = 1e-6;
/** Far more events than any outline of a building has. */
const MOST_EVENTS = 4000;

/** What an outline leaves when its edges move inward, and what each edge has swept. */
export interface Shrunk {
  readonly rest: readonly Polygon[];
  /** By edge, rings one after another. */
  readonly swept: readonly (readonly Polygon[])[];
}

interface Line {
  /** Unit direction; inside is to its left. */
  readonly dx: number;
  readonly dy: number;
  readonly speed: number;
}
/** A corner of the moving front and the edge that starts there. */
interface Corner {
  x: number;
  y: number;
  edge: number;
  vx: number;
  vy: number;
}
type Loop = Corner[];

/**
 * Moves every edge of a polygon inward, each at its own speed, and follows the front through every
 * collapse and split (a weighted straight skeleton: Aichholzer, Aurenhammer, Alberts and Gärtner 1995).
 * Corners on a straight run are merged by the caller where the edges on both sides have one speed.
 * @param polygon outer ring counter-clockwise, holes clockwise, m
 * @param speeds for each edge of each ring, m per unit of time, 0 or more
 * @param time how long; Infinity: until nothing is left
 */
export function shrink(polygon: Polygon, speeds: readonly (readonly number[])[], time: number): Shrunk {
  const lines: Line[] = [];
  let loops: Loop[] = polygon.map((ring, r) =>
    ring.map((p, i) => {
      const q = ring[(i + 1) % ring.length];
      const l = Math.sqrt((q[0] - p[0]) * (q[0] - p[0]) + (q[1] - p[1]) * (q[1] - p[1]));
      lines.push({ dx: (q[0] - p[0]) / l, dy: (q[1] - p[1]) / l, speed: speeds[r][i] });
      return { x: p[0], y: p[1], edge: lines.length - 1, vx: 0, vy: 0 };
    }),
  );
  const quads: Polygon[][] = lines.map(() => []);
  let left = time;
  let still = 0;
  for (let event = 0; loops.length > 0 && left > 0; event++) {
    if (event > MOST_EVENTS || still > 20) throw new RangeError("this outline cannot be shrunk");
    const corners = loops.reduce((s, l) => s + l.length, 0);
    spend(4 * corners * corners);
    for (const loop of loops) setVelocities(loop, lines);
    const dt = Math.min(left, nextEvent(loops, lines));
    // nothing moves any more
    if (!Number.isFinite(dt)) break;
    still = dt < 1e-9 ? still + 1 : 0;
    for (const loop of loops) {
      const before = loop.map((c): Point => [c.x, c.y]);
      for (const c of loop) {
        c.x += c.vx * dt;
        c.y += c.vy * dt;
      }
      loop.forEach((c, i) => {
        const j = (i + 1) % loop.length;
        const quad = tidy([before[i], before[j], [loop[j].x, loop[j].y], [c.x, c.y]]);
        if (quad && Math.abs(signedArea(quad)) > 1e-9) quads[c.edge].push([signedArea(quad) > 0 ? quad : [...quad].reverse()]);
      });
    }
    left -= dt;
    if (left <= 1e-12) left = 0;
    loops = vanished(settle(loops, lines));
    if (left === 0) break;
  }
  return { rest: grouped(loops), swept: quads.map((q) => (q.length > 1 ? union(q) : q).map((p) => p.map((r) => tidy(r) ?? r))) };
}

/** Corners to a micrometre, without repeats and points on a straight run; null when nothing is left. */
function tidy(ring: Ring): Ring | null {
  const round = (v: number): number => Math.round(v * 1e6) / 1e6 + 0;
  const out: Point[] = [];
  for (const [x, y] of ring) {
    const p: Point = [round(x), round(y)];
    const last = out[out.length - 1];
    if (!last || Math.abs(last[0] - p[0]) > 2e-6 || Math.abs(last[1] - p[1]) > 2e-6) out.push(p);
  }
  if (out.length > 1 && Math.abs(out[0][0] - out[out.length - 1][0]) < 2e-6 && Math.abs(out[0][1] - out[out.length - 1][1]) < 2e-6) out.pop();
  return out.length >= 3 ? out : null;
}

/** Each corner keeps to both its edges. */
function setVelocities(loop: Loop, lines: readonly Line[]): void {
  loop.forEach((c, i) => {
    const a = lines[loop[(i + loop.length - 1) % loop.length].edge];
    const b = lines[c.edge];
    const cross = a.dx * b.dy - a.dy * b.dx;
    if (Math.abs(cross) < 1e-9) {
      // a straight run moves as its quicker edge does
      const speed = Math.max(a.speed, b.speed);
      c.vx = -b.dy * speed;
      c.vy = b.dx * speed;
      return;
    }
    // n·v = speed on both edges, n to the left of the direction
    c.vx = (b.dx * a.speed - a.dx * b.speed) / cross;
    c.vy = (b.dy * a.speed - a.dy * b.speed) / cross;
  });
}

const reflex = (loop: Loop, i: number, lines: readonly Line[]): boolean => {
  const a = lines[loop[(i + loop.length - 1) % loop.length].edge];
  const b = lines[loop[i].edge];
  return a.dx * b.dy - a.dy * b.dx < -1e-9;
};

/** Time to the next collapse of an edge or meeting of a reflex corner with an edge. */
function nextEvent(loops: readonly Loop[], lines: readonly Line[]): number {
  let next = Infinity;
  for (const loop of loops) {
    loop.forEach((c, i) => {
      const q = loop[(i + 1) % loop.length];
      const l = lines[c.edge];
      const length = (q.x - c.x) * l.dx + (q.y - c.y) * l.dy;
      const rate = (q.vx - c.vx) * l.dx + (q.vy - c.vy) * l.dy;
      if (rate < -1e-12) next = Math.min(next, Math.max(0, -length / rate));
    });
    loop.forEach((c, i) => {
      if (!reflex(loop, i, lines)) return;
      const before = loop[(i + loop.length - 1) % loop.length];
      for (const other of loops)
        other.forEach((e, j) => {
          if (e === c || e === before) return;
          const f = other[(j + 1) % other.length];
          if (f === c) return;
          const l = lines[e.edge];
          const distance = -(c.x - e.x) * l.dy + (c.y - e.y) * l.dx;
          const rate = -c.vx * l.dy + c.vy * l.dx - l.speed;
          if (distance < -NEAR || rate > -1e-12) return;
          const t = Math.max(0, distance / -rate);
          if (t >= next) return;
          const along = (c.x + c.vx * t - e.x - e.vx * t) * l.dx + (c.y + c.vy * t - e.y - e.vy * t) * l.dy;
          const length = (f.x + f.vx * t - e.x - e.vx * t) * l.dx + (f.y + f.vy * t - e.y - e.vy * t) * l.dy;
          if (along > -NEAR && along < length + NEAR && !(t < 1e-9 && (along < 20 * NEAR || along > length - 20 * NEAR))) next = t;
        });
    });
  }
  return next;
}

const far = (a: Corner, b: Corner): number => Math.max(Math.abs(a.x - b.x), Math.abs(a.y - b.y));

/** Drops edges without length, spikes and empty loops; parts and joins loops where a corner lies on an edge. */
function settle(given: readonly Loop[], lines: readonly Line[]): Loop[] {
  const reach = 10 * NEAR;
  let loops = given.map((l) => [...l]);
  for (let again = true; again;) {
    again = false;
    for (const loop of loops) {
      for (let i = 0; i < loop.length && loop.length >= 3; i++) {
        const j = (i + 1) % loop.length;
        if (far(loop[i], loop[j]) < reach) {
          // the corner goes over to the next edge
          loop.splice(i, 1);
          again = true;
          i--;
          continue;
        }
        const before = (i + loop.length - 1) % loop.length;
        const a = lines[loop[before].edge];
        const b = lines[loop[i].edge];
        if (Math.abs(a.dx * b.dy - a.dy * b.dx) < 1e-7 && a.dx * b.dx + a.dy * b.dy < 0) {
          const into = norm(loop[i].x - loop[before].x, loop[i].y - loop[before].y);
          const out = norm(loop[j].x - loop[i].x, loop[j].y - loop[i].y);
          const apart = Math.abs(-(loop[j].x - loop[before].x) * a.dy + (loop[j].y - loop[before].y) * a.dx);
          if (apart > reach) continue;
          // a spike: the longer side remains as far as the shorter one does not cover it
          if (into > out) loop.splice(i, 1);
          else {
            loop[i].x = loop[before].x;
            loop[i].y = loop[before].y;
            loop.splice(before, 1);
          }
          again = true;
          i = -1;
        }
      }
    }
    loops = loops.filter((l) => l.length >= 3 && Math.abs(signedArea(l.map((c): Point => [c.x, c.y]))) > 1e-9);
    if (!again) {
      const cut = partOnce(loops, lines, reach);
      if (cut) {
        loops = cut;
        again = true;
      }
    }
  }
  return loops;
}

/** A ring and the hole that has come to fill it go together. */
function vanished(loops: readonly Loop[]): Loop[] {
  const areas = loops.map((l) => signedArea(l.map((c): Point => [c.x, c.y])));
  const gone = new Set<Loop>();
  loops.forEach((outer, i) => {
    if (areas[i] <= 0) return;
    const ring = outer.map((c): Point => [c.x, c.y]);
    const middle = ring.reduce((s, p): Point => [s[0] + p[0] / ring.length, s[1] + p[1] / ring.length], [0, 0]);
    loops.forEach((hole, j) => {
      if (areas[j] >= 0 || Math.abs(areas[i] + areas[j]) > 1e-4 * Math.max(1, ring.length)) return;
      const there = hole.reduce((s, c): Point => [s[0] + c.x / hole.length, s[1] + c.y / hole.length], [0, 0]);
      if (Math.abs(there[0] - middle[0]) + Math.abs(there[1] - middle[1]) > 1e-3) return;
      gone.add(outer);
      gone.add(hole);
    });
  });
  return loops.filter((l) => !gone.has(l));
}

/** Parts one loop, or joins two, at the first corner found on an edge it does not belong to. */
function partOnce(loops: readonly Loop[], lines: readonly Line[], reach: number): Loop[] | null {
  for (let m = 0; m < loops.length; m++)
    for (let i = 0; i < loops[m].length; i++) {
      const c = loops[m][i];
      const before = loops[m][(i + loops[m].length - 1) % loops[m].length];
      for (let n = 0; n < loops.length; n++)
        for (let j = 0; j < loops[n].length; j++) {
          const e = loops[n][j];
          const f = loops[n][(j + 1) % loops[n].length];
          if (e === c || f === c || e === before) continue;
          const l = lines[e.edge];
          if (Math.abs(-(c.x - e.x) * l.dy + (c.y - e.y) * l.dx) > reach) continue;
          const along = (c.x - e.x) * l.dx + (c.y - e.y) * l.dy;
          const length = (f.x - e.x) * l.dx + (f.y - e.y) * l.dy;
          // loops of their own may touch at corners; within one a touch parts it
          const margin = m === n ? -reach : reach;
          if (along < margin || along > length - margin) continue;
          const rest = loops.filter((_, k) => k !== m && k !== n);
          const copy = { ...c, edge: e.edge };
          if (m === n) {
            // c … e | c′ f …: two loops
            const turned = [...loops[m].slice(i), ...loops[m].slice(0, i)];
            const at = turned.indexOf(e);
            return [...rest, turned.slice(0, at + 1), [copy, ...turned.slice(at + 1)]];
          }
          const first = [...loops[m].slice(i), ...loops[m].slice(0, i)];
          const second = [...loops[n].slice(j + 1), ...loops[n].slice(0, j + 1)];
          return [...rest, [...first, copy, ...second]];
        }
    }
  return null;
}

/** Loops as polygons: clockwise ones are holes of the loop that holds them. */
function grouped(loops: readonly Loop[]): Polygon[] {
  const rings = loops.flatMap((l) => {
    const r = tidy(l.map((c): Point => [c.x, c.y]));
    return r && Math.abs(signedArea(r)) > 1e-6 ? [r] : [];
  });
  const holes = rings.filter((r) => signedArea(r) < 0);
  return rings.filter((r) => signedArea(r) > 0).map((outer) => [outer, ...holes.filter((h) => ringHolds(outer, h[0]))]);
}

/** Every edge moved by one distance: inward above 0, outward below. Several rings where the outline falls apart; none where nothing is left. */
export function offsetRing(ring: Ring, distance: number): Ring[] {
  const same = (polygon: Polygon, speed: number, first = speed): number[][] => polygon.map((r, i) => r.map(() => (i === 0 ? first : speed)));
  if (distance === 0) return [ring];
  if (distance > 0) return shrink([ring], same([ring], 1), distance).rest.map((p) => p[0]);
  const xs = ring.map((p) => p[0]);
  const ys = ring.map((p) => p[1]);
  const far = 1000 - 4 * distance;
  const frame: Ring = [
    [Math.min(...xs) - far, Math.min(...ys) - far],
    [Math.max(...xs) + far, Math.min(...ys) - far],
    [Math.max(...xs) + far, Math.max(...ys) + far],
    [Math.min(...xs) - far, Math.max(...ys) + far],
  ];
  const outside: Polygon = [frame, [...ring].reverse()];
  return shrink(outside, same(outside, 1, 0), -distance)
    .rest.flatMap((p) => p.slice(1))
    .map((r) => [...r].reverse());
}

/** Largest distance by which an outline can shrink with something of at least 1 m² left, m. */
export function deepest(polygon: Polygon): number {
  let low = 0;
  let high = 500;
  const ones = polygon.map((r) => r.map(() => 1));
  for (let i = 0; i < 40; i++) {
    const mid = (low + high) / 2;
    if (areaOf(shrink(polygon, ones, mid).rest) >= 1) low = mid;
    else high = mid;
  }
  return low;
}
