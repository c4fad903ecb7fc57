import { MONTH_OF_DAY, sunVector } from "../climate/index.ts";
import {
  cachedLitShares,
  castersInFront,
  struckShares,
  convexPieces,
  opaqueCaster,
  type Caster,
  type Dome,
  type Geometry,
  type LitShares,
  type Receiver,
  type ShadePlane,
  type SurroundingPlane,
  type Vector,
} from "../geometry/index.ts";
import type { Project } from "../model/index.ts";
import { cos, DEG, sin } from "../numeric/index.ts";
import type { Element } from "./elements.ts";

/** Compiled lit shares are kept on this grid: two days a month by quarter hours of local standard time. */
export const LIT_DAYS = 24;
export const LIT_QUARTERS = 96;
const litDay = (k: number): number => Math.floor(((k + 0.5) * 365) / LIT_DAYS);
const litMonth = (k: number): number => MONTH_OF_DAY[litDay(k)];
/** Month of a place of the grid, from 0. */
export const litMonthOf = (place: number): number => litMonth(Math.floor(place / LIT_QUARTERS));

/** Number of equal patches of the sky. */
export const PATCHES = 200;
/** Equal-area directions of the upper half sphere (a golden-angle spiral), east, north, up. */
const SKY_PATCHES: readonly Vector[] = Array.from({ length: PATCHES }, (_, i): Vector => {
  const z = (i + 0.5) / PATCHES;
  const r = Math.sqrt(1 - z * z);
  const angle = ((i * 137.50776405003785) % 360) * DEG;
  return [r * cos(angle), r * sin(angle), z];
});

/** The band that is brighter along the horizon is taken as 6.5° high (as Perez et al. 1987, from memory, unverified); a ring along its middle stands for it, with this many directions. */
const BAND_MIDDLE = 3.25;
const RING = 36;
const HORIZON: readonly Vector[] = Array.from({ length: RING }, (_, i): Vector => {
  const azimuth = ((i + 0.5) * 360 * DEG) / RING;
  return [cos(BAND_MIDDLE * DEG) * sin(azimuth), cos(BAND_MIDDLE * DEG) * cos(azimuth), sin(BAND_MIDDLE * DEG)];
});

/** Directions of a site in plan coordinates: every grid position of the sun, those above the horizon, the sky patches and the ring along the horizon. */
export interface SkyDirections extends Dome {
  readonly suns: readonly Vector[];
  /** Grid places with the sun up, and the directions there. */
  readonly up: readonly number[];
  readonly raised: readonly Vector[];
  readonly key: string;
}

const directions = new Map<string, SkyDirections>();

/** Sun grid and sky patches of a site, remembered by place. */
export function skyDirections(site: Project["site"]): SkyDirections {
  const key = `${site.latitude} ${site.longitude} ${site.timeZone} ${site.planNorth} `;
  const known = directions.get(key);
  if (known) return known;
  const cp = cos(site.planNorth * DEG);
  const sp = sin(site.planNorth * DEG);
  const toPlan = ([e, n, u]: Vector): Vector => [e * cp - n * sp, e * sp + n * cp, u];
  const suns: Vector[] = [];
  for (let k = 0; k < LIT_DAYS; k++)
    for (let q = 0; q < LIT_QUARTERS; q++) suns.push(toPlan(sunVector(litDay(k) * 24 + (q + 0.5) / 4, site.latitude, site.longitude, site.timeZone)));
  const up = suns.map((s, i) => (s[2] > 0 ? i : -1)).filter((i) => i >= 0);
  const made = { suns, up, raised: up.map((i) => suns[i]), patches: SKY_PATCHES.map(toPlan), ring: HORIZON.map(toPlan), key };
  if (directions.size > 20) directions.clear();
  directions.set(key, made);
  return made;
}

/** Everything that can cast shade: own walls, devices, surroundings. */
export function allCasters(geometry: Geometry, shades: readonly ShadePlane[], surroundings: readonly SurroundingPlane[]): Caster[] {
  return [
    // a level roof lies below everything that its own walls do not shade
    ...geometry.faces
      .filter((g) => g.contact === "outdoors" && g.tilt > 0.5)
      .flatMap((g) => convexPieces(g).map((corners): Caster => ({ corners, transmittance: null, schedule: null }))),
    ...shades,
    ...surroundings,
  ];
}

/** Casters that let the same share of sun through at every time. */
export interface DimGroup {
  readonly transmittance: readonly number[] | null;
  readonly schedule: string | null;
  readonly corners: readonly (readonly Vector[])[];
}

/** What lets sun through at some time, in groups: those by months first, then those by schedules. */
export function dimGroups(casters: readonly Caster[]): DimGroup[] {
  const groups = new Map<string, { transmittance: readonly number[] | null; schedule: string | null; corners: (readonly Vector[])[] }>();
  for (const { corners, transmittance, schedule } of casters.filter((c) => !opaqueCaster(c))) {
    const name = schedule ?? (transmittance as readonly number[]).join(" ");
    const g = groups.get(name);
    if (g) g.corners.push(corners);
    else groups.set(name, { transmittance: schedule === null ? transmittance : null, schedule, corners: [corners] });
  }
  return [...groups.values()].sort((a, b) => Number(a.schedule !== null) - Number(b.schedule !== null));
}

/** An element that something shades by schedule: its lit shares and views of sky and horizon without that, and what each such thing takes at most. */
export interface ScheduledShade<S = string> {
  readonly element: number;
  /** Over the sun grid, and by month. */
  readonly lit: Float64Array;
  readonly sky: Float64Array;
  readonly horizon: Float64Array;
  readonly takes: readonly { readonly schedule: S; readonly lit: Float64Array; readonly sky: number; readonly horizon: number }[];
}

/**
 * Lit shares of every outdoor element over the grid (row −1: always lit), and the shares of diffuse sky and
 * of the horizon's band each sees by month. What lets sun through (leaves, screens) dims it by its share of the month; where
 * several such things overlap the first one counts. What follows a schedule is told apart.
 */
export function castShades(
  project: Project,
  casters: readonly Caster[],
  list: readonly Element[],
): { row: Int32Array; sky: Float64Array; horizon: Float64Array; lit: Float64Array; scheduled: ScheduledShade[]; recast: number } {
  const dome = skyDirections(project.site);
  const { suns, up, raised, key } = dome;
  const opaque = casters.filter(opaqueCaster).map((c) => c.corners);
  const groups = dimGroups(casters);
  const scheduled: ScheduledShade[] = [];
  const row = new Int32Array(list.length).fill(-1);
  const sky = new Float64Array(12 * list.length).fill(1);
  const horizon = new Float64Array(12 * list.length).fill(1);
  const tables: Float64Array[] = [];
  const counted = { recast: 0 };
  list.forEach((e, i) => {
    if (e.kind > 1) return;
    const receiver = receiverOf(e);
    let shares = cachedLitShares(receiver, opaque, raised, key, dome, counted);
    const through = groups.filter((g) => castersInFront(receiver, g.corners).length > 0);
    const lit = through.length > 0 ? shares.lit.slice() : shares.lit;
    sky.fill(shares.sky, 12 * i, 12 * i + 12);
    horizon.fill(shares.horizon, 12 * i, 12 * i + 12);
    let taken = opaque;
    const takes: { schedule: string; lit: Float64Array; sky: number; horizon: number }[] = [];
    for (const g of through) {
      taken = [...taken, ...g.corners];
      const next = cachedLitShares(receiver, taken, raised, key, dome, counted);
      if (g.transmittance === null) {
        const drop = new Float64Array(suns.length);
        up.forEach((s, k) => (drop[s] = shares.lit[k] - next.lit[k]));
        takes.push({ schedule: g.schedule as string, lit: drop, sky: shares.sky - next.sky, horizon: shares.horizon - next.horizon });
        shares = next;
        continue;
      }
      const { transmittance } = g;
      up.forEach((s, k) => {
        lit[k] -= (1 - transmittance[litMonthOf(s)]) * (shares.lit[k] - next.lit[k]);
      });
      for (let m = 0; m < 12; m++) {
        sky[12 * i + m] -= (1 - transmittance[m]) * (shares.sky - next.sky);
        horizon[12 * i + m] -= (1 - transmittance[m]) * (shares.horizon - next.horizon);
      }
      shares = next;
    }
    const table = through.length > 0 ? litGrid(lit, receiver, dome) : knownGrid(shares, receiver, dome);
    if (table === null && takes.length === 0) return;
    const own = table ?? new Float64Array(suns.length).fill(1);
    if (takes.length > 0) scheduled.push({ element: i, lit: own, sky: sky.slice(12 * i, 12 * i + 12), horizon: horizon.slice(12 * i, 12 * i + 12), takes });
    row[i] = tables.length;
    tables.push(own);
  });
  const lit = new Float64Array(tables.length * suns.length);
  tables.forEach((t, i) => lit.set(t, i * suns.length));
  return { row, sky, horizon, lit, scheduled, recast: counted.recast };
}

/** Lit shares over the whole grid, 1 where the sun is down or behind the receiver; null: never shaded. */
function litGrid(lit: Float64Array, receiver: Receiver, { suns, up, raised }: SkyDirections): Float64Array | null {
  const [nx, ny, nz] = receiver.normal;
  const table = new Float64Array(suns.length).fill(1);
  let shaded = false;
  for (let k = 0; k < up.length; k++) {
    if (!(lit[k] < 1)) continue;
    const sun = raised[k];
    if (!(sun[0] * nx + sun[1] * ny + sun[2] * nz > 1e-6)) continue;
    table[up[k]] = lit[k];
    shaded = true;
  }
  return shaded ? table : null;
}

const grids = new WeakMap<LitShares, Float64Array | null>();
/** As `litGrid`, remembered with the shares, which belong to one receiver. */
function knownGrid(shares: LitShares, receiver: Receiver, dome: SkyDirections): Float64Array | null {
  let grid = grids.get(shares);
  if (grid === undefined) grids.set(shares, (grid = litGrid(shares.lit, receiver, dome)));
  return grid;
}

/** Convex pieces of an element in space. */
export function piecesOf(e: Pick<Element, "opening" | "face">): Vector[][] {
  return e.opening ? [[...e.opening.corners]] : convexPieces(e.face);
}

const receiverOf = (e: Element): Receiver => ({ pieces: piecesOf(e), normal: e.face.normal });

/** Where the beam through one window falls: shares of it on surfaces, element·2 + side, over the sun grid. */
export interface TracedWindow {
  readonly element: number;
  readonly targets: Int32Array;
  /** [grid place][target]. */
  readonly shares: Float64Array;
}

/** Traces the beam of every window to the surfaces of its own space. Of spaces that are not convex the shares are scaled to one. */
export function traceBeams(project: Project, list: readonly Element[], spaceOf: (e: Element, side: 0 | 1) => string | null): TracedWindow[] {
  const { suns, up, raised } = skyDirections(project.site);
  const out: TracedWindow[] = [];
  list.forEach((window, element) => {
    if (window.kind !== 1 || !window.opening) return;
    const home = window.face.space;
    const targets: number[] = [];
    const pieces: Vector[][][] = [];
    const holes: number[][] = [];
    list.forEach((e, i) => {
      for (const side of [0, 1] as const) {
        if (spaceOf(e, side) !== home || e === window || e.face.key === window.face.key) continue;
        // a frame lies in its window's own outline
        if (e.frameOf !== null) continue;
        targets.push(2 * i + side);
        pieces.push(piecesOf(e));
        // an outdoor wall is what its openings leave of it
        holes.push(!e.opening && e.kind < 2 ? list.flatMap((o, k) => (o.opening && o.face.key === e.face.key && o.frameOf === null ? [k] : [])) : []);
      }
    });
    const shares = new Float64Array(suns.length * targets.length);
    const corners = window.opening.corners;
    up.forEach((s, k) => {
      const struck = struckShares(corners, window.face.normal, pieces, raised[k]);
      const net = struck.map((v, t) => {
        let left = v;
        for (const h of holes[t]) {
          const at = targets.findIndex((x) => x >> 1 === h);
          if (at >= 0) left -= struck[at];
        }
        return Math.max(0, left);
      });
      const sum = net.reduce((a, b) => a + b, 0);
      const scale = sum > 1 ? 1 / sum : 1;
      net.forEach((v, t) => (shares[s * targets.length + t] = v * scale));
    });
    out.push({ element, targets: Int32Array.from(targets), shares });
  });
  return out;
}
