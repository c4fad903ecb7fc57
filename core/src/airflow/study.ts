import type { Geometry, Vector } from "../geometry/index.ts";
import { ringHolds } from "../geometry/index.ts";
import type { PressureTable, Project } from "../model/index.ts";
import { z } from "zod";
import { canonicalJson, cos, DEG, hashText, sin } from "../numeric/index.ts";
import { windProfile } from "../fabric/index.ts";
import { facadePoints } from "./facadePoints.ts";
import { WindTunnel } from "./lattice.ts";

/** Raised with every change of the method that moves a coefficient. */
const STUDY_VERSION = 1;
/** Highest speed that comes in, cells a step. */
const SPEED = 0.08;
/** Air before, beside, above and behind the buildings, in heights of the tallest. */
const BEFORE = 3;
const BESIDE = 3;
const ABOVE = 3;
const BEHIND = 6;
/** What stands further than this from the building is left out, in heights of the building. */
const REACH = 4;
/** Steps are counted in passages of the wind over the building's height: until the flow has formed, and averaged. */
const FORM = 18;
const MEAN = 22;
/** Largest grid that is made, cells. */
export const MOST_CELLS = 6e6;
/** Cells of the smallest grid along an axis. */
const LEAST_CELLS = 16;

/** How fine a study is. */
export const studyGrains = ["tiny", "coarse", "medium", "fine"] as const;
export type StudyGrain = (typeof studyGrains)[number];
/** Cells over the height of the building (at least six over its least side). */
const CELLS: Readonly<Record<StudyGrain, number>> = { tiny: 3, coarse: 6, medium: 9, fine: 14 };

/** A body the wind goes around: an outline in plan between two levels, m. */
export interface FlowBody {
  readonly ring: readonly (readonly [number, number])[];
  readonly base: number;
  readonly top: number;
}
/** All that a study depends on. */
export interface FlowStudySpec {
  readonly version: number;
  readonly bodies: readonly FlowBody[];
  /** Bodies that are the building; those after it stand around it. */
  readonly own: number;
  readonly points: readonly { readonly name: string; readonly at: Vector; readonly normal: Vector }[];
  readonly height: number;
  readonly terrain: Project["site"]["terrain"];
  /** True direction of the top of the plan, degrees. */
  readonly planNorth: number;
  readonly directions: readonly number[];
  readonly cell: number;
}

const metres = z.number().min(-20000).max(20000);
const vector = z.tuple([metres, metres, metres]);
/** A study as it is asked for. */
export const flowStudySpecSchema = z.strictObject({
  version: z.literal(STUDY_VERSION),
  bodies: z
    .array(
      z.strictObject({
        ring: z
          .array(z.tuple([metres, metres]))
          .min(3)
          .max(1000),
        base: metres,
        top: metres,
      }),
    )
    .min(1)
    .max(2000),
  own: z.number().int().min(1).max(2000),
  points: z
    .array(
      z.strictObject({
        name: z.string().max(200),
        at: vector,
        normal: z.tuple([z.number().min(-1).max(1), z.number().min(-1).max(1), z.number().min(-1).max(1)]),
      }),
    )
    .min(1)
    .max(4000),
  height: z.number().min(0.1).max(1000),
  terrain: z.enum(["open sea", "open country", "suburb", "city"]),
  planNorth: z.number().min(-360).max(360),
  directions: z.array(z.number().min(0).max(359.999)).min(1).max(36),
  cell: z.number().min(0.05).max(100),
});

const round = (v: number): number => Math.round(v * 100) / 100;

/** The study of a project at a grain: bodies of the building and of what stands around it, façade points and directions. */
export function flowStudySpec(project: Project, geometry: Geometry, grain: StudyGrain, directions = 12): FlowStudySpec {
  const spaces = [...geometry.spaces.values()].filter((s) => s.high > 0.3);
  const own = spaces.map((s): FlowBody => ({
    ring: s.outline.map(([x, y]) => [round(x), round(y)] as const),
    base: round(Math.max(0, s.low)),
    top: round(s.high),
  }));
  const height = own.reduce((h, b) => Math.max(h, b.top), 0.1);
  const xs = own.flatMap((b) => b.ring.map((p) => p[0]));
  const ys = own.flatMap((b) => b.ring.map((p) => p[1]));
  const middle = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
  const half = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)) / 2;
  // blocks around by their own plan; trees let the wind through and are left out
  const around = Object.values(project.surroundings).flatMap((s): FlowBody[] => {
    if (s.kind !== "block") return [];
    const [c, n] = [cos(s.angle * DEG), sin(s.angle * DEG)];
    const ring = [
      [-0.5, -0.5],
      [0.5, -0.5],
      [0.5, 0.5],
      [-0.5, 0.5],
    ].map(([u, v]) => [round(s.x + u * s.width * c - v * s.depth * n), round(s.y + u * s.width * n + v * s.depth * c)] as const);
    const away = Math.max(Math.abs(s.x - middle[0]), Math.abs(s.y - middle[1]));
    return away > half + REACH * height + Math.max(s.width, s.depth) / 2 ? [] : [{ ring, base: round(Math.max(0, s.base)), top: round(s.base + s.height) }];
  });
  const least = Math.min(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys), height);
  const cell = round(Math.max(0.05, Math.min(height, (2 * least) / 1.5) / CELLS[grain]));
  return {
    version: STUDY_VERSION,
    bodies: [...own, ...around],
    own: own.length,
    points: facadePoints(geometry).map((p) => ({ name: p.name, at: p.at.map(round) as unknown as Vector, normal: p.normal })),
    height,
    terrain: project.site.terrain,
    planNorth: project.site.planNorth,
    directions: Array.from({ length: directions }, (_, i) => (i * 360) / directions),
    cell,
  };
}

/** Name of a study by all it depends on. */
export const flowStudyHash = (spec: FlowStudySpec): string => hashText(canonicalJson(spec));

/** Name of the form a study is of, whatever its grain. */
export const flowShapeHash = (spec: FlowStudySpec): string => hashText(canonicalJson({ ...spec, cell: 0, directions: [] }));

/** The tunnel of one direction: its grid, and where the building's points lie in it. */
interface Laid {
  readonly tunnel: WindTunnel;
  readonly cell: number;
  readonly x0: number;
  readonly y0: number;
  readonly east: readonly [number, number];
  readonly nx: number;
  readonly ny: number;
  readonly nz: number;
  readonly solid: Uint8Array;
  /** Windward end of the building, m along the wind. */
  readonly front: number;
}

/** The box of air around the bodies of a direction. */
function boxOf(bodies: readonly FlowBody[], height: number, cell: number) {
  const tallest = bodies.reduce((h, b) => Math.max(h, b.top), height);
  const span = (k: 0 | 1): [number, number] => {
    const all = bodies.flatMap((b) => b.ring.map((p) => p[k]));
    return [all.reduce((m, v) => Math.min(m, v), Infinity), all.reduce((m, v) => Math.max(m, v), -Infinity)];
  };
  const [x0, x1] = span(0);
  const [y0, y1] = span(1);
  const [left, right] = [x0 - BEFORE * tallest, x1 + BEHIND * tallest];
  const [low, high] = [y0 - BESIDE * tallest, y1 + BESIDE * tallest];
  const count = (length: number): number => Math.max(LEAST_CELLS, Math.ceil(length / cell));
  return { left, low, nx: count(right - left), ny: count(high - low), nz: count((1 + ABOVE) * tallest) + 1 };
}

/** Bodies turned so that the wind from a direction blows along the first axis, with that axis in plan. */
function turned(spec: FlowStudySpec, direction: number): { bodies: FlowBody[]; along: [number, number] } {
  const from = (direction - spec.planNorth) * DEG;
  const u: [number, number] = [-sin(from), -cos(from)];
  return { along: u, bodies: spec.bodies.map((b) => ({ ...b, ring: b.ring.map(([x, y]) => [x * u[0] + y * u[1], -x * u[1] + y * u[0]] as const) })) };
}

/** Cells of the largest grid a study makes. */
export function studyCells(spec: FlowStudySpec): number {
  return spec.directions.reduce((most, d) => {
    const { nx, ny, nz } = boxOf(turned(spec, d).bodies, spec.height, spec.cell);
    return Math.max(most, nx * ny * nz);
  }, 0);
}

/** Cells of the grid of a direction. */
function lay(spec: FlowStudySpec, direction: number, cell: number): Laid {
  const { bodies, along } = turned(spec, direction);
  const { left, low, nx, ny, nz } = boxOf(bodies, spec.height, cell);
  if (nx * ny * nz > MOST_CELLS)
    throw new RangeError(
      `the grid would have ${Math.round((nx * ny * nz) / 1e6)} million cells; at most ${MOST_CELLS / 1e6} million are made: take a coarser one`,
    );
  const solid = new Uint8Array(nx * ny * nz);
  // layer 0 is the ground: the air begins at layer 1
  for (const b of bodies) {
    const [bx0, bx1] = [Math.min(...b.ring.map((p) => p[0])), Math.max(...b.ring.map((p) => p[0]))];
    const [by0, by1] = [Math.min(...b.ring.map((p) => p[1])), Math.max(...b.ring.map((p) => p[1]))];
    const [i0, i1] = [Math.max(1, Math.floor((bx0 - left) / cell)), Math.min(nx - 2, Math.ceil((bx1 - left) / cell))];
    const [j0, j1] = [Math.max(1, Math.floor((by0 - low) / cell)), Math.min(ny - 2, Math.ceil((by1 - low) / cell))];
    const [k0, k1] = [Math.max(0, Math.round(b.base / cell)) + 1, Math.min(nz - 2, Math.max(1, Math.round(b.top / cell)))];
    for (let j = j0; j <= j1; j++)
      for (let i = i0; i <= i1; i++)
        if (ringHolds(b.ring, [left + (i + 0.5) * cell, low + (j + 0.5) * cell])) for (let k = k0; k <= k1; k++) solid[(k * ny + j) * nx + i] = 1;
  }
  const top = windProfile(spec.terrain, (nz - 1) * cell);
  const profile = Float64Array.from({ length: nz }, (_, k) => (SPEED * windProfile(spec.terrain, Math.max(0.5, k - 0.5) * cell)) / top);
  return {
    tunnel: new WindTunnel({ nx, ny, nz, solid, profile }),
    cell,
    x0: left,
    y0: low,
    east: along,
    nx,
    ny,
    nz,
    solid,
    front: Math.min(...bodies.slice(0, spec.own).flatMap((b) => b.ring.map((p) => p[0]))),
  };
}

/** What one direction came to. */
export interface FlowDirection {
  readonly direction: number;
  /** Pressure coefficient of each façade point, by the wind at roof height. */
  readonly coefficients: readonly number[];
  readonly cells: number;
  readonly steps: number;
  /** Mean speed over that at roof height on a level near the ground: by cell, rows across the wind; −1: solid. */
  readonly map: {
    readonly nx: number;
    readonly ny: number;
    readonly cell: number;
    readonly x0: number;
    readonly y0: number;
    readonly level: number;
    readonly speed: readonly number[];
  };
}

/** Steps of a direction: the wind passes the building's height in height/(cell·speed) of them. */
export function stepsOf(spec: FlowStudySpec, cell = spec.cell): number {
  const top = windProfile(spec.terrain, 4 * spec.height);
  const speed = (SPEED * windProfile(spec.terrain, spec.height)) / top;
  return Math.ceil(((FORM + MEAN) * spec.height) / cell / speed);
}

/**
 * The flow of one direction, step by step: yields the share done every so often. The wind comes in with the profile of the terrain; pressures are
 * averaged after it has formed, against those abreast of the building, where it does not reach.
 * @param every steps between yields
 * @throws RangeError when the grid is too large, or the flow breaks up
 */
export function* runDirection(spec: FlowStudySpec, direction: number, cell = spec.cell, every = 20): Generator<number, FlowDirection, void> {
  const laid = lay(spec, direction, cell);
  const { tunnel, nx, ny, nz, solid } = laid;
  const all = stepsOf(spec, cell);
  const form = Math.ceil((all * FORM) / (FORM + MEAN));
  for (let done = 0; done < all;) {
    const now = Math.min(every, all - done, done < form ? form - done : all);
    tunnel.run(now);
    done += now;
    if (done === form) tunnel.startMean();
    if (!tunnel.sound) throw new RangeError(`the flow from ${direction}° broke up; take a finer grid`);
    yield done / all;
  }
  const roof = Math.max(1, Math.min(nz - 2, Math.round(spec.height / cell + 0.5)));
  // still air and wind as they would be without the building: on both sides of it, level with its windward face, at the height of its roof
  const beside = Math.max(2, Math.min(nx - 3, Math.floor((laid.front - laid.x0) / cell) - 1));
  const references = [2, 3, 4, ny - 5, ny - 4, ny - 3].map((j) => tunnel.cell(beside, j, roof));
  const still = references.reduce((sum, c) => sum + tunnel.pressure(c), 0) / references.length;
  const wind = references.reduce((sum, c) => sum + tunnel.velocity(c)[0], 0) / references.length;
  const dynamic = 0.5 * wind * wind;
  const [ux, uy] = laid.east;
  const coefficients = spec.points.map(({ at, normal }) => {
    const x = at[0] + normal[0] * cell * 0.5;
    const y = at[1] + normal[1] * cell * 0.5;
    const z = at[2] + normal[2] * cell * 0.5;
    const out: [number, number] = [normal[0] * ux + normal[1] * uy, -normal[0] * uy + normal[1] * ux];
    let i = (x * ux + y * uy - laid.x0) / cell;
    let j = (-x * uy + y * ux - laid.y0) / cell;
    let k = z / cell + 1;
    // out of the wall, to the first cell with air
    for (let step = 0; step < 8; step++) {
      const [a, b, c] = [Math.floor(i), Math.floor(j), Math.max(1, Math.min(nz - 2, Math.floor(k)))];
      if (a >= 1 && a < nx - 1 && b >= 1 && b < ny - 1 && solid[(c * ny + b) * nx + a] === 0) {
        return Math.max(-8, Math.min(2, (tunnel.pressure(tunnel.cell(a, b, c)) - still) / dynamic));
      }
      i += out[0] * 0.5;
      j += out[1] * 0.5;
      k += normal[2] * 0.5;
    }
    // between two bodies there is no wind
    return 0;
  });
  const level = Math.max(1, Math.min(nz - 2, Math.round(1.5 / cell + 0.5)));
  const speed: number[] = [];
  for (let j = 0; j < ny; j++)
    for (let i = 0; i < nx; i++) {
      if (solid[(level * ny + j) * nx + i] === 1) speed.push(-1);
      else {
        const [a, b, c] = tunnel.velocity(tunnel.cell(i, j, level));
        speed.push(Math.round((100 * Math.sqrt(a * a + b * b + c * c)) / wind) / 100);
      }
    }
  return {
    direction,
    coefficients: coefficients.map((c) => Math.round(c * 1e4) / 1e4),
    cells: nx * ny * nz,
    steps: all,
    map: { nx, ny, cell, x0: laid.x0, y0: laid.y0, level: Math.round(level * cell * 10) / 10, speed },
  };
}

/** A coarser cell by which a study checks its own grid. */
export const checkCell = (spec: FlowStudySpec): number => round(1.5 * spec.cell);

/** Mean difference of the coefficients of one direction on two grids, 1. */
export function gridCheck(fine: FlowDirection, coarse: FlowDirection): number {
  const n = Math.max(1, fine.coefficients.length);
  return fine.coefficients.reduce((s, c, i) => s + Math.abs(c - coarse.coefficients[i]), 0) / n;
}

/** The table of a finished study. @param check mean difference to the coarser grid; null: it was not made */
export function studyPressures(spec: FlowStudySpec, found: readonly FlowDirection[], check: number | null): PressureTable {
  const byDirection = [...found].sort((a, b) => a.direction - b.direction);
  return {
    reference: spec.height,
    directions: byDirection.map((d) => d.direction),
    points: spec.points.map((p, i) => ({ name: p.name, coefficients: byDirection.map((d) => d.coefficients[i]) })),
    source: `flow study, cells of ${spec.cell} m`,
    shape: flowShapeHash(spec),
    grid: { cell: spec.cell, check },
  };
}
