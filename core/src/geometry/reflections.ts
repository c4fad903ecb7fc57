import { canonicalJson, cos, DEG, hashText, PI, sin } from "../numeric/index.ts";
import type { Vector } from "./face.ts";
import { castersInFront, litShareOf, planeAxes, type Receiver } from "./shading.ts";

/** Something that stands in the way of light and throws some of it on: a convex plane piece. */
export interface Reflector {
  readonly corners: readonly Vector[];
  /** Share of the sun it throws back, 1. */
  readonly reflectance: number;
  /** 0: always there. Others are there at times, or let light through: each set counts behind those before it. */
  readonly set: number;
}

/** Directions to the sun over a grid of times, plan coordinates: [12 months][24 hours]. */
export const SUN_MONTHS = 12;
export const SUN_HOURS = 24;

/** What a receiver gets by one reflection, per unit of what falls on open level ground, with all things up to one set. */
export interface ReflectedView {
  /** Ground seen, weighted by whether the sun's beam reaches it, over the grid of times; times the ground's reflectance and the beam on level ground. */
  readonly groundBeam: Float64Array;
  /** Ground seen, weighted by the sky it sees; times the ground's reflectance and diffuse sun. */
  readonly groundDiffuse: number;
  /** Things seen: reflectance times the cosine to the sun, over the grid; times the beam on a plane facing it. */
  readonly thingBeam: Float64Array;
  /** Reflectance times what each thing sees of the sky, and of the ground. */
  readonly thingDiffuse: number;
  readonly thingGround: number;
}

const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const squared = (a: Vector): number => dot(a, a);

/** Rings and turns of the directions in which a receiver looks: each stands for the same part of what it sees. */
const RINGS = 4;
const TURNS = 16;
/** And those in which a point of the ground looks at the sky. */
const GROUND_RINGS = 2;
const GROUND_TURNS = 8;
/** Directions of equal weight by their cosine, about an axis: [across, along, up]. Symmetric about both axes across. */
function hemisphere(rings: number, turns: number): Vector[] {
  const out: Vector[] = [];
  for (let r = 0; r < rings; r++) {
    const s2 = (r + 0.5) / rings;
    const s = Math.sqrt(s2);
    for (let t = 0; t < turns; t++) {
      const angle = (2 * PI * (t + 0.5)) / turns;
      out.push([s * cos(angle), s * sin(angle), Math.sqrt(1 - s2)]);
    }
  }
  return out;
}
const LOOKS = hemisphere(RINGS, TURNS);
const UPWARD = hemisphere(GROUND_RINGS, GROUND_TURNS);
/** A ray that comes this near to something, m, begins on it. */
const CLEAR = 1e-4;
/** The sun is taken as too low to count for the ground below this height, as a sine: its beam there is next to nothing. */
const LOW_SUN = sin(3 * DEG);

/** Casters in flat arrays for many rays: plane, sphere about it, and its edges' planes. */
export class RayScene {
  readonly reflectors: readonly Reflector[];
  /** Number of sets, at least one. */
  readonly sets: number;
  private readonly setOf: Int32Array;
  /** Room for what is near a point. */
  private readonly near: Float64Array;
  private readonly nearOf: Int32Array;
  private readonly plane: Float64Array;
  private readonly sphere: Float64Array;
  private readonly edge: Float64Array;
  private readonly edgeStart: Int32Array;

  constructor(reflectors: readonly Reflector[]) {
    this.reflectors = reflectors;
    const n = reflectors.length;
    this.sets = 1 + Math.max(0, ...reflectors.map((r) => r.set));
    this.setOf = Int32Array.from(reflectors, (r) => r.set);
    this.near = new Float64Array(6 * n);
    this.nearOf = new Int32Array(n);
    this.plane = new Float64Array(4 * n);
    this.sphere = new Float64Array(4 * n);
    this.edgeStart = new Int32Array(n + 1);
    const edges: number[] = [];
    reflectors.forEach(({ corners }, c) => {
      const m: Vector = [0, 1, 2].map((k) => corners.reduce((s, p) => s + p[k], 0) / corners.length) as unknown as Vector;
      const normal = normalOf(corners);
      this.plane.set([...normal, dot(normal, m)], 4 * c);
      this.sphere.set([...m, Math.max(...corners.map((p) => squared([p[0] - m[0], p[1] - m[1], p[2] - m[2]])))], 4 * c);
      for (let i = 0; i < corners.length; i++) {
        const a = corners[i];
        const b = corners[(i + 1) % corners.length];
        const e: Vector = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
        let inward: Vector = [normal[1] * e[2] - normal[2] * e[1], normal[2] * e[0] - normal[0] * e[2], normal[0] * e[1] - normal[1] * e[0]];
        if (dot(inward, m) < dot(inward, a)) inward = [-inward[0], -inward[1], -inward[2]];
        edges.push(...inward, dot(inward, a));
      }
      this.edgeStart[c + 1] = edges.length / 4;
    });
    this.edge = Float64Array.from(edges);
  }

  /** Distance to caster `c` along a ray, m; Infinity: it passes. */
  private distance(c: number, px: number, py: number, pz: number, dx: number, dy: number, dz: number): number {
    const { plane, sphere, edge, edgeStart } = this;
    const s = 4 * c;
    // the ray's nearest approach to the middle against the sphere about it
    const mx = sphere[s] - px;
    const my = sphere[s + 1] - py;
    const mz = sphere[s + 2] - pz;
    const along = mx * dx + my * dy + mz * dz;
    const off = mx * mx + my * my + mz * mz;
    const r2 = sphere[s + 3];
    if (off - along * along > r2 || (along < 0 && off > r2)) return Infinity;
    const slope = plane[s] * dx + plane[s + 1] * dy + plane[s + 2] * dz;
    if (Math.abs(slope) < 1e-12) return Infinity;
    const t = (plane[s + 3] - plane[s] * px - plane[s + 1] * py - plane[s + 2] * pz) / slope;
    if (t < CLEAR) return Infinity;
    const x = px + t * dx;
    const y = py + t * dy;
    const z = pz + t * dz;
    for (let e = edgeStart[c]; e < edgeStart[c + 1]; e++)
      if (edge[4 * e] * x + edge[4 * e + 1] * y + edge[4 * e + 2] * z < edge[4 * e + 3] - 1e-9) return Infinity;
    return t;
  }

  /** The first thing of all sets up to `set` along a ray, and its number; −1: none. */
  first(p: Vector, d: Vector, set: number): number {
    let best = Infinity;
    let found = -1;
    for (let c = 0; c < this.reflectors.length; c++) {
      if (this.reflectors[c].set > set) continue;
      const t = this.distance(c, p[0], p[1], p[2], d[0], d[1], d[2]);
      if (t < best) {
        best = t;
        found = c;
      }
    }
    return found;
  }

  /**
   * For every direction the first set that keeps its light from a point; `sets`: none does. Directions of no height are left out.
   * @param directions unit vectors, [direction][3]
   */
  blockedBy([px, py, pz]: Vector, directions: Float64Array, least: number): Int32Array {
    const { sets, setOf, plane, sphere, edge, edgeStart, near, nearOf } = this;
    // what is near enough, or high enough, to stand before any of the directions: its middle and how far it lies before its plane
    let count = 0;
    for (let c = 0; c < setOf.length; c++) {
      const s = 4 * c;
      const mx = sphere[s] - px;
      const my = sphere[s + 1] - py;
      const mz = sphere[s + 2] - pz;
      const off = mx * mx + my * my + mz * mz;
      const r2 = sphere[s + 3];
      if (off > r2 && mz + Math.sqrt(r2) < least * (Math.sqrt(off) - Math.sqrt(r2))) continue;
      const at = 6 * count;
      near[at] = mx;
      near[at + 1] = my;
      near[at + 2] = mz;
      near[at + 3] = off;
      near[at + 4] = r2;
      near[at + 5] = plane[s + 3] - plane[s] * px - plane[s + 1] * py - plane[s + 2] * pz;
      nearOf[count++] = c;
    }
    const out = new Int32Array(directions.length / 3).fill(sets);
    let hint = 0;
    for (let i = 0; i < out.length; i++) {
      const dx = directions[3 * i];
      const dy = directions[3 * i + 1];
      const dz = directions[3 * i + 2];
      if (dz <= least) continue;
      let by = sets;
      for (let n = 0; n < count && by > 0; n++) {
        // what stood in the way last does so again most often
        const k = n === 0 ? hint : n === hint ? 0 : n;
        const at = 6 * k;
        const along = near[at] * dx + near[at + 1] * dy + near[at + 2] * dz;
        const off = near[at + 3];
        const r2 = near[at + 4];
        if (off - along * along > r2 || (along < 0 && off > r2)) continue;
        const c = nearOf[k];
        if (setOf[c] >= by) continue;
        const s = 4 * c;
        const slope = plane[s] * dx + plane[s + 1] * dy + plane[s + 2] * dz;
        if (slope < 1e-12 && slope > -1e-12) continue;
        const t = near[at + 5] / slope;
        if (t < CLEAR) continue;
        const x = px + t * dx;
        const y = py + t * dy;
        const z = pz + t * dz;
        let inside = true;
        for (let e = 4 * edgeStart[c]; e < 4 * edgeStart[c + 1]; e += 4)
          if (edge[e] * x + edge[e + 1] * y + edge[e + 2] * z < edge[e + 3] - 1e-9) {
            inside = false;
            break;
          }
        if (!inside) continue;
        by = setOf[c];
        hint = k;
      }
      out[i] = by;
    }
    return out;
  }
}

function normalOf(corners: readonly Vector[]): Vector {
  // Newell 1972: holds for any planar ring
  let x = 0;
  let y = 0;
  let z = 0;
  for (let i = 0; i < corners.length; i++) {
    const a = corners[i];
    const b = corners[(i + 1) % corners.length];
    x += (a[1] - b[1]) * (a[2] + b[2]);
    y += (a[2] - b[2]) * (a[0] + b[0]);
    z += (a[0] - b[0]) * (a[1] + b[1]);
  }
  const size = Math.sqrt(x * x + y * y + z * z);
  return size > 0 ? [x / size, y / size, z / size] : [0, 0, 1];
}

/** Middle of a receiver by area. */
function middleOf(pieces: readonly (readonly Vector[])[]): Vector {
  let all = 0;
  const sum = [0, 0, 0];
  for (const piece of pieces)
    for (let i = 1; i + 1 < piece.length; i++) {
      const [a, b, c] = [piece[0], piece[i], piece[i + 1]];
      const u = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
      const v = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
      const area = Math.sqrt(squared([u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]));
      all += area;
      for (let k = 0; k < 3; k++) sum[k] += (area * (a[k] + b[k] + c[k])) / 3;
    }
  return all > 0 ? [sum[0] / all, sum[1] / all, sum[2] / all] : pieces[0][0];
}

/** Share of its half sphere that is below the horizon, 1. */
export const groundView = (normal: Vector): number => (1 - normal[2]) / 2;

const flats = new WeakMap<readonly Vector[], Float64Array>();
/** Directions one after the other, remembered by list. */
function flat(directions: readonly Vector[]): Float64Array {
  let all = flats.get(directions);
  if (!all) flats.set(directions, (all = Float64Array.from(directions.flat())));
  return all;
}

/** Axes of a receiver's plane that turn with what stands there: level ones lie by true north. @param north in plan coordinates */
function axesOf(receiver: Receiver, north: Vector): readonly [Vector, Vector] {
  const n = receiver.normal;
  if (Math.abs(n[2]) < 0.99) {
    const { ux, v } = planeAxes(receiver.pieces[0][0], n);
    return [ux, v];
  }
  return [[north[1], -north[0], 0], north];
}

/**
 * One reflection onto a receiver: ground that is lit and sees the sky as what stands around lets it, and the things before it.
 * In each of 64 directions of equal weight the share of the receiver that looks out free is exact, by clipping; what stands
 * there is looked at from its middle. Ground is level at height 0; things count as lit where they face the sun.
 * @param suns direction to the sun by [month][hour], plan coordinates @param north true north, plan coordinates
 * @returns what it gets with the things that are always there, then with those of one set more each
 */
export function reflectedViews(receiver: Receiver, scene: RayScene, suns: readonly Vector[], north: Vector): ReflectedView[] {
  const times = SUN_MONTHS * SUN_HOURS;
  const { sets, reflectors } = scene;
  const n = receiver.normal;
  const middle = middleOf(receiver.pieces);
  const [across, along] = axesOf(receiver, north);
  const looks = LOOKS.map((l): Vector => [0, 1, 2].map((k) => l[0] * across[k] + l[1] * along[k] + l[2] * n[k]) as unknown as Vector);
  const upward = Float64Array.from(UPWARD.flatMap((l) => [l[0] * north[1] + l[1] * north[0], l[1] * north[1] - l[0] * north[0], l[2]]));
  const sunDirections = flat(suns);
  const down = looks.map((d) => d[2] < -1e-9);
  const below = down.filter(Boolean).length;
  // the directions below the horizon stand for exactly the share of the half sphere that is there
  const weight = below > 0 ? groundView(n) / below : 0;
  const share = 1 / looks.length;
  // what keeps the sun and the sky from each spot of ground that is looked at, once for all sets
  const spots = looks.map((d, i) => {
    if (!down[i]) return null;
    const away = middle[2] > 0 ? -middle[2] / d[2] : 0;
    const spot: Vector = [middle[0] + away * d[0], middle[1] + away * d[1], 0];
    return { sky: scene.blockedBy(spot, upward, 0), sun: scene.blockedBy(spot, sunDirections, LOW_SUN) };
  });
  const views: ReflectedView[] = [];
  for (let set = 0; set < sets; set++) {
    const inFront = castersInFront(
      receiver,
      reflectors.filter((r) => r.set <= set).map((r) => r.corners),
      -Infinity,
    );
    const free = inFront.length > 0 ? litShareOf(receiver, inFront) : () => 1;
    const groundBeam = new Float64Array(times);
    const thingBeam = new Float64Array(times);
    let groundDiffuse = 0;
    let thingDiffuse = 0;
    let thingGround = 0;
    looks.forEach((d, i) => {
      const seen = free(d);
      const part = down[i] ? weight : share;
      if (seen < 1) {
        const at = scene.first(middle, d, set);
        if (at >= 0) {
          const thing = reflectors[at];
          let normal = normalOf(thing.corners);
          if (dot(normal, d) > 0) normal = [-normal[0], -normal[1], -normal[2]];
          const blocked = part * (1 - seen) * thing.reflectance;
          thingDiffuse += (blocked * (1 + normal[2])) / 2;
          thingGround += (blocked * (1 - normal[2])) / 2;
          for (let t = 0; t < times; t++) if (suns[t][2] > 0) thingBeam[t] += blocked * Math.max(0, dot(normal, suns[t]));
        }
      }
      const spot = spots[i];
      if (spot === null || seen <= 0) return;
      const w = part * seen;
      groundDiffuse += (w * spot.sky.filter((by) => by > set).length) / spot.sky.length;
      for (let t = 0; t < times; t++) if (spot.sun[t] > set) groundBeam[t] += w;
    });
    views.push({ groundBeam, groundDiffuse, thingBeam, thingDiffuse, thingGround });
  }
  return views;
}

const known = new Map<string, readonly ReflectedView[]>();
const KEPT = 4000;

/** As `reflectedViews`, remembered by the receiver and the name of all that stands there. */
export function knownReflectedViews(receiver: Receiver, scene: RayScene, name: string, suns: readonly Vector[], north: Vector): readonly ReflectedView[] {
  const key = name + hashText(canonicalJson([receiver]));
  const before = known.get(key);
  if (before) return before;
  const views = reflectedViews(receiver, scene, suns, north);
  if (known.size >= KEPT) known.delete(known.keys().next().value as string);
  known.set(key, views);
  return views;
}
