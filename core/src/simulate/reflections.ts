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

/** Reflectance for sun of devices, of neighbouring blocks and of crowns, 1: typical, unverified. */
const DEVICE = 0.4;
const BLOCK = 0.25;
const CROWN = 0.2;

/** What one view gives, over months and hours or by month. See `ReflectedView`. */
export interface Tables {
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
