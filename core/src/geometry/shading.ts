import { canonicalJson, hashText } from "../numeric/index.ts";
import type { Vector } from "./face.ts";

/** A convex plane piece that receives sun, with the outward normal of its plane. */
export interface Receiver {
  readonly pieces: readonly (readonly Vector[])[];
  readonly normal: Vector;
}

/** Share of a receiver that is lit, for each direction of a list; sky and horizon are the shares of diffuse sky and of the horizon's band it sees. */
export interface LitShares {
  readonly lit: Float64Array;
  readonly sky: number;
  readonly horizon: number;
}

/** Directions that stand for a sky: patches of equal solid angle, and a ring along the horizon. */
export interface Dome {
  readonly patches: readonly Vector[];
  readonly ring: readonly Vector[];
}

const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const crossOf = (a: Vector, b: Vector): Vector => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];

type Flat = number[]; // x0, y0, x1, y1 …

function flatArea(p: Flat): number {
  let s = 0;
  for (let i = 0; i < p.length; i += 2) {
    const j = i + 2 === p.length ? 0 : i + 2;
    s += p[i] * p[j + 1] - p[j] * p[i + 1];
  }
  return s / 2;
}

/**
 * Parts of convex `p` on the left and on the right of the line from corner `i` of `clip` to the next; empty where there is
 * none. No function inside: one made at each call costs more than the cutting.
 */
function split(p: Flat, clip: Flat, i: number, leftPart: Flat, rightPart: Flat): void {
  const next = i + 2 === clip.length ? 0 : i + 2;
  const ax = clip[i];
  const ay = clip[i + 1];
  const dx = clip[next] - ax;
  const dy = clip[next + 1] - ay;
  leftPart.length = 0;
  rightPart.length = 0;
  const n = p.length;
  if (n === 0) return;
  let x0 = p[0];
  let y0 = p[1];
  let s0 = dx * (y0 - ay) - dy * (x0 - ax);
  for (let k = 2; k <= n; k += 2) {
    const j = k === n ? 0 : k;
    const x1 = p[j];
    const y1 = p[j + 1];
    const s1 = dx * (y1 - ay) - dy * (x1 - ax);
    if (s0 >= 0) leftPart.push(x0, y0);
    if (s0 <= 0) rightPart.push(x0, y0);
    if ((s0 > 0 && s1 < 0) || (s0 < 0 && s1 > 0)) {
      const t = s0 / (s0 - s1);
      const x = x0 + t * (x1 - x0);
      const y = y0 + t * (y1 - y0);
      leftPart.push(x, y);
      rightPart.push(x, y);
    }
    x0 = x1;
    y0 = y1;
    s0 = s1;
  }
  if (leftPart.length < 6) leftPart.length = 0;
  if (rightPart.length < 6) rightPart.length = 0;
}

/** What is left of convex pieces when a convex, counter-clockwise clip is taken out; again convex pieces. */
function subtractConvex(pieces: Flat[], clip: Flat): Flat[] {
  const rest: Flat[] = [];
  for (const piece of pieces) {
    let inside = piece;
    const cut: Flat[] = [];
    for (let i = 0; i < clip.length && inside.length > 0; i += 2) {
      const kept: Flat = [];
      const outside: Flat = [];
      split(inside, clip, i, kept, outside);
      if (outside.length > 0 && flatArea(outside) > 1e-12) cut.push(outside);
      inside = kept;
    }
    if (inside.length > 0) rest.push(...cut);
    else rest.push(piece);
  }
  return rest;
}

/** Coordinates in a plane through `origin` with unit `normal`: two axes of the plane, and the distance in front of it. */
export function planeAxes(origin: Vector, normal: Vector): { ux: Vector; v: Vector; local: (p: Vector) => [number, number, number] } {
  const u: Vector = Math.abs(normal[2]) > 0.9 ? [1, 0, 0] : [-normal[1], normal[0], 0];
  const ul = Math.sqrt(dot(u, u));
  const ux: Vector = [u[0] / ul, u[1] / ul, u[2] / ul];
  const v = crossOf(normal, ux);
  return {
    ux,
    v,
    local: (p) => {
      const r = minus(p, origin);
      return [dot(r, ux), dot(r, v), dot(r, normal)];
    },
  };
}

/**
 * Share of a window's beam that strikes each of some convex pieces behind it: the pieces are laid into the
 * window's plane along the ray and clipped against the window. @param sun unit vector to the sun, in front of the window
 */
export function struckShares(window: readonly Vector[], normal: Vector, targets: readonly (readonly (readonly Vector[])[])[], sun: Vector): number[] {
  const { ux, v, local } = planeAxes(window[0], normal);
  const sn = dot(sun, normal);
  if (sn <= 1e-6) return targets.map(() => 0);
  const su = dot(sun, ux) / sn;
  const sv = dot(sun, v) / sn;
  const flatOf = (ring: readonly Vector[]): Flat => {
    const out: Flat = [];
    for (const p of ring) {
      const [x, y, z] = local(p);
      out.push(x - z * su, y - z * sv);
    }
    return flatArea(out) < 0 ? reverse(out) : out;
  };
  const pane = flatOf(window);
  const whole = flatArea(pane);
  return targets.map((pieces) => {
    let sum = 0;
    for (const piece of pieces) {
      const behind = inFront(piece, window[0], [-normal[0], -normal[1], -normal[2]]);
      if (behind.length < 3) continue;
      const clip = flatOf(behind);
      if (Math.abs(flatArea(clip)) < 1e-10) continue;
      let left = pane;
      for (let i = 0; i < clip.length && left.length > 0; i += 2) {
        const kept: Flat = [];
        split(left, clip, i, kept, []);
        left = kept;
      }
      if (left.length > 0) sum += flatArea(left);
    }
    return sum / whole;
  });
}

/** Part of a polygon in front of the plane through `origin` with `normal`. */
function inFront(corners: readonly Vector[], origin: Vector, normal: Vector): Vector[] {
  const out: Vector[] = [];
  for (let i = 0; i < corners.length; i++) {
    const p = corners[i];
    const q = corners[(i + 1) % corners.length];
    const d0 = dot(minus(p, origin), normal);
    const d1 = dot(minus(q, origin), normal);
    if (d0 >= 0) out.push(p);
    if ((d0 > 0 && d1 < 0) || (d0 < 0 && d1 > 0)) {
      const t = d0 / (d0 - d1);
      out.push([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1]), p[2] + t * (q[2] - p[2])]);
    }
  }
  return out.length >= 3 ? out : [];
}

/** Casters that can shade a receiver from above, or from anywhere (`least` −Infinity), cut to the part in front of its plane. @param least height they must reach, m */
export function castersInFront(
  receiver: Receiver,
  casters: readonly (readonly Vector[])[],
  least = Math.min(...receiver.pieces.flat().map((p) => p[2])),
): Vector[][] {
  const origin = receiver.pieces[0][0];
  return (
    casters
      .filter((c) => c.some((p) => p[2] > least + 1e-4))
      // what lies in the receiver's own plane casts nothing on it
      .filter((c) => c.some((p) => dot(minus(p, origin), receiver.normal) > 1e-4))
      .map((c) => inFront(c, origin, receiver.normal))
      .filter((c) => c.length > 0)
  );
}

/**
 * Exact lit share of a receiver for any direction in front of it, behind casters already cut to the part in front of its plane.
 * Directions behind the plane give 0.
 */
export function litShareOf(receiver: Receiver, relevant: readonly (readonly Vector[])[]): (direction: Vector) => number {
  const n = receiver.normal;
  const origin = receiver.pieces[0][0];
  const { ux, v, local: localOf } = planeAxes(origin, n);
  const pieces = receiver.pieces.map((piece) => {
    const f: Flat = piece.flatMap((p) => localOf(p).slice(0, 2));
    return flatArea(f) < 0 ? reverse(f) : f;
  });
  const whole = pieces.reduce((s, p) => s + flatArea(p), 0);
  // a shadow whose box misses the receiver's takes nothing
  let left = Infinity;
  let right = -Infinity;
  let low = Infinity;
  let high = -Infinity;
  for (const p of pieces)
    for (let i = 0; i < p.length; i += 2) {
      left = Math.min(left, p[i]);
      right = Math.max(right, p[i]);
      low = Math.min(low, p[i + 1]);
      high = Math.max(high, p[i + 1]);
    }
  const local = relevant.map((c) => c.map(localOf));
  return (sun) => {
    const sn = dot(sun, n);
    if (sn <= 1e-6) return 0;
    const su = dot(sun, ux) / sn;
    const sv = dot(sun, v) / sn;
    let rest = pieces;
    for (const c of local) {
      let x0 = Infinity;
      let x1 = -Infinity;
      let y0 = Infinity;
      let y1 = -Infinity;
      for (const p of c) {
        const x = p[0] - p[2] * su;
        const y = p[1] - p[2] * sv;
        if (x < x0) x0 = x;
        if (x > x1) x1 = x;
        if (y < y0) y0 = y;
        if (y > y1) y1 = y;
      }
      if (x0 >= right || x1 <= left || y0 >= high || y1 <= low) continue;
      let shadow: Flat = [];
      for (const p of c) shadow.push(p[0] - p[2] * su, p[1] - p[2] * sv);
      const area = flatArea(shadow);
      if (area < 0) shadow = reverse(shadow);
      if (Math.abs(area) < 1e-10) continue;
      rest = subtractConvex(rest, shadow);
      if (rest.length === 0) return 0;
    }
    let sum = 0;
    for (const p of rest) sum += flatArea(p);
    const s = sum / whole;
    return s < 1e-9 ? 0 : s > 1 ? 1 : s;
  };
}

/**
 * Lit share of a receiver for directions toward the sun (unit vectors; z above 0), by exact clipping of
 * the casters' shadows in the plane of the receiver. Directions behind the plane give 0. The shares of sky and
 * horizon come from the directions of the dome, weighted by how squarely they meet the receiver.
 */
export function litShares(receiver: Receiver, casters: readonly (readonly Vector[])[], suns: readonly Vector[], dome: Dome): LitShares {
  const relevant = castersInFront(receiver, casters);
  const lit = new Float64Array(suns.length);
  const n = receiver.normal;
  if (relevant.length === 0) {
    for (let i = 0; i < suns.length; i++) lit[i] = dot(suns[i], n) > 1e-6 ? 1 : 0;
    return { lit, sky: 1, horizon: 1 };
  }
  const share = litShareOf(receiver, relevant);
  for (let i = 0; i < suns.length; i++) lit[i] = share(suns[i]);
  const seen = (directions: readonly Vector[]): number => {
    let part = 0;
    let all = 0;
    for (const d of directions) {
      const c = dot(d, n);
      if (c <= 1e-6) continue;
      all += c;
      part += c * share(d);
    }
    return all > 0 ? part / all : 1;
  };
  return { lit, sky: seen(dome.patches), horizon: seen(dome.ring) };
}

function reverse(p: Flat): Flat {
  const out: Flat = [];
  for (let i = p.length - 2; i >= 0; i -= 2) out.push(p[i], p[i + 1]);
  return out;
}

const cache = new Map<string, LitShares>();
const CACHE_SIZE = 4000;

/** As `litShares`, remembered by content: moving one window re-casts only what it touches, counted in `counted`. */
export function cachedLitShares(
  receiver: Receiver,
  casters: readonly (readonly Vector[])[],
  suns: readonly Vector[],
  sunsKey: string,
  dome: Dome,
  counted?: { recast: number },
): LitShares {
  const relevant = castersInFront(receiver, casters);
  const key = sunsKey + hashText(canonicalJson([receiver, relevant]));
  const hit = cache.get(key);
  if (hit) return hit;
  const result = litShares(receiver, relevant, suns, dome);
  if (counted) counted.recast++;
  if (cache.size >= CACHE_SIZE) cache.delete(cache.keys().next().value as string);
  cache.set(key, result);
  return result;
}
