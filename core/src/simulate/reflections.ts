import { sunVector } from "../climate/index.ts";
import {
  convexPieces,
  groundView,
  knownReflectedViews,
  opaqueCaster,
  RayScene,
  SUN_HOURS,
  SUN_MONTHS,
  type Geometry,
  type ReflectedView,
  type Receiver,
  type Reflector,
  type ShadePlane,
  type SurroundingPlane,
  type Vector,
} from "../geometry/index.ts";
import { faceAssembly } from "../inputs/index.ts";
import { COMMON_YEAR, type Project } from "../model/index.ts";
import { canonicalJson, cos, DEG, hashText, sin } from "../numeric/index.ts";
import type { Element } from "./elements.ts";
import { dimGroups, piecesOf, type DimGroup } from "./litTable.ts";
import type { CompiledModel } from "./model.ts";
import { SKY, type KernelState } from "./state.ts";

/** Reflectance for sun of devices, of neighbouring blocks and of crowns, 1: typical, unverified. */
const DEVICE = 0.4;
const BLOCK = 0.25;
const CROWN = 0.2;

/** What one view gives, over months and hours or by month. See `ReflectedView`. */
interface Tables {
  /** [row][12 months][24 hours]. */
  readonly groundBeam: Float64Array;
  readonly thingBeam: Float64Array;
  /** [row][12 months]. */
  readonly groundDiffuse: Float64Array;
  readonly thingDiffuse: Float64Array;
  readonly thingGround: Float64Array;
}

/** What ground and things throw onto the exterior elements: a row an element, −1 where it sees nothing but open ground and sky. */
export interface ReflectionTables extends Tables {
  readonly row: Int32Array;
  /** View of open level ground, by element. */
  readonly view: Float64Array;
  /** What things that follow a schedule (its row) take from the tables when they let nothing through. */
  readonly takes: readonly { readonly schedule: number; readonly tables: Tables }[];
}

const TIMES = SUN_MONTHS * SUN_HOURS;
const MONTHS = SUN_MONTHS;
const HOURS = SUN_HOURS;
const suns = new Map<string, readonly Vector[]>();

/** Directions to the sun in the middle of every hour of the middle of every month, plan coordinates. */
function sunGrid({ latitude, longitude, timeZone, planNorth }: Project["site"]): readonly Vector[] {
  const key = `${latitude} ${longitude} ${timeZone} ${planNorth}`;
  let grid = suns.get(key);
  if (grid) return grid;
  const c = cos(planNorth * DEG);
  const s = sin(planNorth * DEG);
  grid = Array.from({ length: TIMES }, (_, t): Vector => {
    const day = Math.floor(((Math.floor(t / HOURS) + 0.5) * COMMON_YEAR.days) / MONTHS);
    const [e, n, u] = sunVector(24 * day + (t % HOURS) + 0.5, latitude, longitude, timeZone);
    return [e * c - n * s, e * s + n * c, u];
  });
  if (suns.size > 20) suns.clear();
  suns.set(key, grid);
  return grid;
}

/** Everything that stands in the way of light from the ground, with what it throws back, and what lets some through in sets behind it. */
function reflectors(
  project: Project,
  geometry: Geometry,
  shades: readonly ShadePlane[],
  surroundings: readonly SurroundingPlane[],
): { things: Reflector[]; groups: DimGroup[] } {
  const outer = (assembly: string): number => {
    const l = project.assemblies[assembly].layers.find((x) => x.kind !== "circuit");
    return l?.kind === "solid" ? 1 - project.materials[l.material].solarAbsorptance : DEVICE;
  };
  const isTree = (s: SurroundingPlane): boolean => Object.hasOwn(project.surroundings, s.record) && project.surroundings[s.record].kind === "tree";
  const groups = dimGroups([...shades, ...surroundings]);
  const crowns = new Set(surroundings.filter(isTree).map((s) => s.corners));
  return {
    groups,
    things: [
      ...geometry.faces
        .filter((f) => f.contact === "outdoors")
        .flatMap((f) => {
          const reflectance = outer(faceAssembly(project, f).id);
          return convexPieces(f).map((corners): Reflector => ({ corners, reflectance, set: 0 }));
        }),
      ...shades.filter(opaqueCaster).map((s): Reflector => ({ corners: s.corners, reflectance: DEVICE, set: 0 })),
      ...surroundings.filter(opaqueCaster).map((s): Reflector => ({ corners: s.corners, reflectance: isTree(s) ? CROWN : BLOCK, set: 0 })),
      ...groups.flatMap((g, i) => g.corners.map((corners): Reflector => ({ corners, reflectance: crowns.has(corners) ? CROWN : DEVICE, set: i + 1 }))),
    ],
  };
}

const scenes = new Map<string, RayScene>();

/** The things about a building as one finds them by rays, and how to look at them from a receiver. */
export function reflectionScene(project: Project, geometry: Geometry, shades: readonly ShadePlane[], surroundings: readonly SurroundingPlane[]) {
  const { things, groups } = reflectors(project, geometry, shades, surroundings);
  const grid = sunGrid(project.site);
  const { latitude, longitude, timeZone, planNorth } = project.site;
  const name = hashText(canonicalJson([latitude, longitude, timeZone, planNorth, things]));
  let scene = scenes.get(name);
  if (!scene) {
    if (scenes.size > 20) scenes.clear();
    scenes.set(name, (scene = new RayScene(things)));
  }
  const found = scene;
  const north: Vector = [-sin(planNorth * DEG), cos(planNorth * DEG), 0];
  return { groups, viewsOf: (r: Receiver): readonly ReflectedView[] => knownReflectedViews(r, found, name, grid, north) };
}

const emptyTables = (rows: number): Tables => ({
  groundBeam: new Float64Array(rows * TIMES),
  thingBeam: new Float64Array(rows * TIMES),
  groundDiffuse: new Float64Array(rows * MONTHS),
  thingDiffuse: new Float64Array(rows * MONTHS),
  thingGround: new Float64Array(rows * MONTHS),
});

/** Adds a view to a row, each month times a factor. */
function addView(to: Tables, row: number, v: ReflectedView, factor: (month: number) => number): void {
  for (let m = 0; m < MONTHS; m++) {
    const f = factor(m);
    to.groundDiffuse[row * MONTHS + m] += f * v.groundDiffuse;
    to.thingDiffuse[row * MONTHS + m] += f * v.thingDiffuse;
    to.thingGround[row * MONTHS + m] += f * v.thingGround;
    for (let h = 0; h < HOURS; h++) {
      to.groundBeam[row * TIMES + m * HOURS + h] += f * v.groundBeam[m * HOURS + h];
      to.thingBeam[row * TIMES + m * HOURS + h] += f * v.thingBeam[m * HOURS + h];
    }
  }
}

/** Tables of one reflection onto every exterior element; remembered by what stands there. @param rowOf row of a schedule */
export function reflectionTables(
  project: Project,
  geometry: Geometry,
  shades: readonly ShadePlane[],
  surroundings: readonly SurroundingPlane[],
  list: readonly Element[],
  rowOf: (schedule: string) => number,
): ReflectionTables {
  const { groups, viewsOf } = reflectionScene(project, geometry, shades, surroundings);
  const row = new Int32Array(list.length).fill(-1);
  const view = Float64Array.from(list, (e) => groundView(e.face.normal));
  const found = list.flatMap((e, i) => {
    if (e.kind > 1) return [];
    const views = viewsOf({ pieces: piecesOf(e), normal: e.face.normal });
    // what looks straight up with nothing above it gets nothing thrown onto it
    return view[i] < 1e-9 && views.every((v) => v.thingDiffuse + v.thingGround === 0) ? [] : [{ i, views }];
  });
  const tables = emptyTables(found.length);
  const takes = groups.map((g) => (g.schedule === null ? null : { schedule: rowOf(g.schedule), tables: emptyTables(found.length) }));
  found.forEach(({ i, views }, r) => {
    row[i] = r;
    addView(tables, r, views[0], () => 1);
    groups.forEach((g, k) => {
      const own = takes[k];
      if (own) {
        addView(own.tables, r, views[k], () => 1);
        addView(own.tables, r, views[k + 1], () => -1);
        return;
      }
      const through = g.transmittance as readonly number[];
      addView(tables, r, views[k], (m) => through[m] - 1);
      addView(tables, r, views[k + 1], (m) => 1 - through[m]);
    });
  });
  return { row, view, ...tables, takes: takes.flatMap((t) => (t ? [t] : [])) };
}

/** Sun thrown by ground and things onto every exterior element in the step, W/m²: linear between the months and hours of the tables. */
export function reflectedSun(m: CompiledModel, s: KernelState, day: number, hour: number): void {
  const { row, view, takes } = m.reflections;
  const { reflectedOn, scheduled } = s;
  const { opaqueEnd, groundEnd, exterior } = m;
  const at = placeInTables(m, s, day, hour);
  const { level, rest, albedo } = at;
  for (let i = 0; i < exterior; i++) {
    if (i === opaqueEnd) i = groundEnd;
    if (i >= exterior) break;
    const r = row[i];
    if (r < 0) {
      reflectedOn[i] = albedo * view[i] * (level + rest);
      continue;
    }
    let sum = thrown(m.reflections, r, at);
    for (let k = 0; k < takes.length; k++) sum -= (1 - scheduled[takes[k].schedule]) * thrown(takes[k].tables, r, at);
    reflectedOn[i] = sum;
  }
}

/** Sun of the step as the tables take it, and the four places in them about its time with their weights. */
interface Place {
  albedo: number;
  direct: number;
  level: number;
  rest: number;
  month: number;
  aa: number;
  ab: number;
  ba: number;
  bb: number;
  taa: number;
  tab: number;
  tba: number;
  tbb: number;
}
const PLACE: Place = { albedo: 0, direct: 0, level: 0, rest: 0, month: 0, aa: 0, ab: 0, ba: 0, bb: 0, taa: 0, tab: 0, tba: 0, tbb: 0 };

function placeInTables(m: CompiledModel, s: KernelState, day: number, hour: number): Place {
  const { sky } = s;
  PLACE.albedo = sky[SKY.ALBEDO];
  PLACE.direct = sky[SKY.DIRECT];
  PLACE.month = sky[SKY.MONTH];
  PLACE.level = PLACE.direct * Math.max(0, sky[SKY.UP]);
  // circumsolar light is in the beam; the rest of the sky's light is what is left of it
  PLACE.rest = sky[SKY.DIFFUSE] * (1 - sky[SKY.CIRCUMSOLAR]);
  const place = ((day + 0.5) * MONTHS) / m.year.days - 0.5;
  const m0 = Math.floor(place);
  const mx = place - m0;
  const h0 = Math.floor(hour - 0.5);
  const hx = hour - 0.5 - h0;
  const ha = (h0 + HOURS) % HOURS;
  const hb = (h0 + 1 + HOURS) % HOURS;
  const a = HOURS * ((m0 + MONTHS) % MONTHS);
  const b = HOURS * ((m0 + 1 + MONTHS) % MONTHS);
  PLACE.taa = a + ha;
  PLACE.tab = a + hb;
  PLACE.tba = b + ha;
  PLACE.tbb = b + hb;
  PLACE.aa = (1 - mx) * (1 - hx);
  PLACE.ab = (1 - mx) * hx;
  PLACE.ba = mx * (1 - hx);
  PLACE.bb = mx * hx;
  return PLACE;
}

function thrown(t: Tables, row: number, p: Place): number {
  const base = TIMES * row;
  const { groundBeam, thingBeam } = t;
  const by = MONTHS * row + p.month;
  const lit = p.aa * groundBeam[base + p.taa] + p.ab * groundBeam[base + p.tab] + p.ba * groundBeam[base + p.tba] + p.bb * groundBeam[base + p.tbb];
  const things = p.aa * thingBeam[base + p.taa] + p.ab * thingBeam[base + p.tab] + p.ba * thingBeam[base + p.tba] + p.bb * thingBeam[base + p.tbb];
  return p.albedo * (p.level * lit + p.rest * t.groundDiffuse[by] + (p.level + p.rest) * t.thingGround[by]) + p.direct * things + p.rest * t.thingDiffuse[by];
}
