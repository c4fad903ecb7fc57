import { areaOf, boxOf, ringHolds, union, type Face, type Geometry, type Polygon, type Vector } from "../geometry/index.ts";
import { windProfile } from "../fabric/index.ts";
import type { AirNetworkInput, PressureTable, Project } from "../model/index.ts";
import { blockCoefficient, blockMisfit, tableCoefficient } from "./facade.ts";
import { wallCoefficient } from "./pressure.ts";

/** Façade points stand at most this far apart along a wall and up it, m. */
const ALONG = 4;
const UP = 3;
/** A footprint further than this from a rectangle is no block, share of the rectangle. */
export const BLOCK_MISFIT = 0.05;
/** A block this many times as high as it is wide is tall (ASHRAE Fundamentals 2017, ch. 24: beyond it the figures of low buildings do not hold). */
const TALL = 3;
/** Mean coefficient of roofs of low and of tall blocks, 1: typical, unverified. */
const LOW_ROOF = -0.4;
const TALL_ROOF = -0.7;
/** Degrees between the directions a place's pressures are laid out for. */
const GRAIN = 5;
export const DIRECTIONS = 360 / GRAIN;

/** A place on the outside at which a coefficient of wind pressure holds. */
export interface FacadePoint {
  /** Name by which tables have it: the face as space/edge, and a number. */
  readonly name: string;
  readonly host: string;
  readonly face: string;
  /** m, plan coordinates and level. */
  readonly at: Vector;
  readonly normal: Vector;
  /** Part of the face it stands for, m. */
  readonly width: number;
  readonly height: number;
}

/** Points over all outdoor faces: a grid on walls, one or more on each roof. */
export function facadePoints(geometry: Geometry): FacadePoint[] {
  const out: FacadePoint[] = [];
  const counts = new Map<string, number>();
  for (const face of [...geometry.faces].sort((a, b) => (a.key < b.key ? -1 : 1))) {
    if (face.contact !== "outdoors") continue;
    for (const { at, width, height } of spots(face)) {
      const n = (counts.get(face.host) ?? 0) + 1;
      counts.set(face.host, n);
      out.push({ name: `${face.host} ${n}`, host: face.host, face: face.key, at, normal: face.normal, width, height });
    }
  }
  return out;
}

function spots(face: Face): { at: Vector; width: number; height: number }[] {
  const w = face.wall;
  if (w) {
    const [columns, rows] = [Math.max(1, Math.ceil((w.to - w.from) / ALONG)), Math.max(1, Math.ceil((w.high - w.low) / UP))];
    const [width, height] = [(w.to - w.from) / columns, (w.high - w.low) / rows];
    const found: { at: Vector; width: number; height: number }[] = [];
    for (let j = 0; j < rows; j++)
      for (let i = 0; i < columns; i++) {
        const [s, z] = [w.from + (i + 0.5) * width, w.low + (j + 0.5) * height];
        if (w.shape && !w.shape.some((p) => ringHolds(p[0], [s, z]))) continue;
        found.push({ at: [w.start[0] + w.direction[0] * s, w.start[1] + w.direction[1] * s, z], width, height });
      }
    if (found.length > 0) return found;
    const [s, z] = [(w.from + w.to) / 2, w.low + (w.high - w.low) / 4];
    return [{ at: [w.start[0] + w.direction[0] * s, w.start[1] + w.direction[1] * s, z], width: w.to - w.from, height: w.high - w.low }];
  }
  const plate = face.plate as NonNullable<Face["plate"]>;
  const found: { at: Vector; width: number; height: number }[] = [];
  for (const polygon of plate.polygons) {
    const [x0, y0, x1, y1] = boxOf(polygon[0]);
    const [columns, rows] = [Math.max(1, Math.ceil((x1 - x0) / (2 * ALONG))), Math.max(1, Math.ceil((y1 - y0) / (2 * ALONG)))];
    const [width, height] = [(x1 - x0) / columns, (y1 - y0) / rows];
    for (let j = 0; j < rows; j++)
      for (let i = 0; i < columns; i++) {
        const [x, y] = [x0 + (i + 0.5) * width, y0 + (j + 0.5) * height];
        if (!ringHolds(polygon[0], [x, y])) continue;
        found.push({ at: [x, y, plate.plane[0] * x + plate.plane[1] * y + plate.plane[2]], width, height });
      }
  }
  if (found.length > 0) return found;
  const [x, y] = plate.polygons[0][0].reduce(([a, b], p) => [a + p[0] / plate.polygons[0][0].length, b + p[1] / plate.polygons[0][0].length], [0, 0]);
  return [{ at: [x, y, plate.plane[0] * x + plate.plane[1] * y + plate.plane[2]], width: ALONG, height: ALONG }];
}

/** The building as a block: its footprint, its height above the ground, the rectangle around it and how far it is from it. */
export interface WindBlock {
  readonly footprint: readonly Polygon[];
  readonly height: number;
  /** Share of the rectangle that the footprint does not fill. */
  readonly misfit: number;
  /** Sides of the rectangle, m, the first in `direction` of the plan. */
  readonly sides: readonly [number, number];
  readonly direction: readonly [number, number];
}

/** What stands above the ground, as one block. */
export function blockOf(geometry: Geometry): WindBlock {
  const spaces = [...geometry.spaces.values()].filter((s) => s.high > 0.5);
  const footprint = union(spaces.map((s): Polygon => [s.outline]));
  const height = spaces.reduce((h, s) => Math.max(h, s.high), 0);
  const outline = footprint.flatMap((p) => p[0]);
  const area = areaOf(footprint);
  let best = { area: Infinity, sides: [1, 1] as [number, number], direction: [1, 0] as [number, number] };
  for (const [ring] of footprint)
    ring.forEach((a, i) => {
      const b = ring[(i + 1) % ring.length];
      const length = Math.sqrt((b[0] - a[0]) * (b[0] - a[0]) + (b[1] - a[1]) * (b[1] - a[1]));
      if (length < 0.05) return;
      const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
      const span = (of: readonly number[]): number => Math.max(...of) - Math.min(...of);
      const sides: [number, number] = [span(outline.map(([x, y]) => x * ux + y * uy)), span(outline.map(([x, y]) => y * ux - x * uy))];
      if (sides[0] * sides[1] < best.area * (1 - 1e-9)) best = { area: sides[0] * sides[1], sides, direction: [ux, uy] };
    });
  const misfit = footprint.length === 1 ? Math.max(blockMisfit(footprint[0][0]), 1 - area / best.area) : footprint.length === 0 ? 0 : 1 - area / best.area;
  return { footprint, height, misfit, sides: best.sides, direction: best.direction };
}

/** Whether the figures of tall buildings hold for a block. */
export const isTall = (block: WindBlock): boolean => block.height > TALL * Math.min(...block.sides);

/** Angles of the figures below, degrees. */
const TALL_ANGLES = [0, 15, 30, 45, 60, 75, 90, 105, 120, 135, 150, 165, 180];
/** Mean coefficients of the walls of tall blocks by angle for side ratios 1/4, 1 and 4: after Akins, Peterka and Cermak 1979, from memory, unverified. */
const TALL_WALLS: readonly (readonly number[])[] = [
  [0.66, 0.62, 0.5, 0.28, -0.05, -0.5, -0.8, -0.72, -0.62, -0.58, -0.55, -0.52, -0.5],
  [0.62, 0.58, 0.46, 0.26, -0.08, -0.48, -0.64, -0.6, -0.52, -0.44, -0.38, -0.34, -0.32],
  [0.58, 0.54, 0.42, 0.22, -0.04, -0.24, -0.32, -0.38, -0.4, -0.34, -0.26, -0.2, -0.17],
];

/** Mean wind pressure coefficient of a wall of a tall block, 1. @param ratio depth of the block along the wall's normal over its width: 1 for a square */
export function tallCoefficient(angle: number, ratio: number): number {
  const a = Math.abs(angle - 360 * Math.round(angle / 360));
  const k = Math.min(TALL_ANGLES.length - 2, Math.floor(a / 15));
  const along = (row: readonly number[]): number => row[k] + ((a - TALL_ANGLES[k]) / 15) * (row[k + 1] - row[k]);
  const r = Math.max(0.25, Math.min(4, ratio));
  // between the ratios a line, as the chart is read
  return r <= 1
    ? along(TALL_WALLS[0]) + ((r - 0.25) / 0.75) * (along(TALL_WALLS[1]) - along(TALL_WALLS[0]))
    : along(TALL_WALLS[1]) + ((r - 1) / 3) * (along(TALL_WALLS[2]) - along(TALL_WALLS[1]));
}

/** Coefficient of a face by the formula of blocks. @param angle from the wall's normal to where the wind comes from, degrees */
export function formulaCoefficient(block: WindBlock, normal: Vector, angle: number): number {
  const tall = isTall(block);
  if (Math.abs(normal[2]) > 0.5) return tall ? TALL_ROOF : LOW_ROOF;
  const [ux, uy] = block.direction;
  // a wall lies along the side of the block that its normal is square to
  const first = Math.abs(normal[0] * ux + normal[1] * uy) < 0.7071;
  const [own, other] = first ? block.sides : [block.sides[1], block.sides[0]];
  if (tall) return tallCoefficient(angle, other / own);
  return block.misfit > BLOCK_MISFIT ? wallCoefficient(angle) : blockCoefficient(angle, own / other);
}

/** What keeps a table from being used. */
function faultOf(source: "table" | "flow study", table: PressureTable | null): string | null {
  const name = source === "table" ? "table of wind pressures" : "flow study";
  if (table === null) return `Wind pressures are to come from a ${name}, and there is none: take the formula, or give it one.`;
  const { directions, points } = table;
  if (directions.some((d, i) => i > 0 && !(d > directions[i - 1]))) return `The directions of the ${name} do not rise.`;
  const short = points.find((p) => p.coefficients.length !== directions.length);
  return short ? `The ${name} has ${short.coefficients.length} coefficients of "${short.name}" for ${directions.length} directions.` : null;
}

/** Finds the coefficients of places outside. */
export class Pressures {
  readonly block: WindBlock;
  readonly points: readonly FacadePoint[];
  /** Hosts whose coefficients were asked for and are not in the table. */
  readonly missing = new Set<string>();
  private readonly project: Project;
  private readonly table: PressureTable | null;
  /** Why what is chosen cannot be used; null: it can. */
  readonly fault: string | null;
  private readonly byHost = new Map<string, { readonly at: Vector; readonly row: number }[]>();

  constructor(project: Project, geometry: Geometry, input: AirNetworkInput) {
    this.project = project;
    this.block = blockOf(geometry);
    this.points = facadePoints(geometry);
    this.table = input.pressures === "table" ? (input.table ?? null) : input.pressures === "flow study" ? (input.study ?? null) : null;
    this.fault = input.pressures === "formula" ? null : faultOf(input.pressures, this.table);
    if (this.table === null || this.fault !== null) return;
    const rows = new Map(this.table.points.map((p, i) => [p.name, i]));
    for (const p of this.points) {
      const row = rows.get(p.name);
      if (row === undefined) continue;
      const list = this.byHost.get(p.host);
      if (list) list.push({ at: p.at, row });
      else this.byHost.set(p.host, [{ at: p.at, row }]);
    }
  }

  /** Height whose wind a coefficient of a place is for, m: the roof's by the formula of low blocks, the place's own by that of tall ones. */
  reference(height: number): number {
    if (this.table) return this.table.reference;
    return isTall(this.block) ? height : this.block.height;
  }

  /** Pressure of the wind from each direction at a place over ½ρv² of the wind at 10 m in open country, 1, every 5°. */
  rose(host: string, at: Vector, normal: Vector, azimuth: number): Float64Array {
    const profile = windProfile(this.project.site.terrain, Math.max(1, this.reference(at[2])));
    const row = this.table ? this.nearest(host, at) : -1;
    if (this.table && row < 0) this.missing.add(host);
    return Float64Array.from({ length: DIRECTIONS }, (_, k) => {
      const direction = k * GRAIN;
      const c =
        this.table === null
          ? formulaCoefficient(this.block, normal, direction - azimuth)
          : row < 0
            ? 0
            : tableCoefficient(this.table as NonNullable<typeof this.table>, row, direction);
      return c * profile * profile;
    });
  }

  private nearest(host: string, at: Vector): number {
    let [best, row] = [Infinity, -1];
    for (const p of this.byHost.get(host) ?? []) {
      const d = (p.at[0] - at[0]) * (p.at[0] - at[0]) + (p.at[1] - at[1]) * (p.at[1] - at[1]) + (p.at[2] - at[2]) * (p.at[2] - at[2]);
      if (d < best) [best, row] = [d, p.row];
    }
    return row;
  }
}

/** Value of a rose at any direction, along a line between the two nearest. */
export function roseAt(rose: Float64Array, from: number, direction: number): number {
  const d = direction / GRAIN;
  const k = Math.floor(d);
  const share = d - k;
  const a = rose[from + (((k % DIRECTIONS) + DIRECTIONS) % DIRECTIONS)];
  const b = rose[from + ((((k + 1) % DIRECTIONS) + DIRECTIONS) % DIRECTIONS)];
  return a + share * (b - a);
}
