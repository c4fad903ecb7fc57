import { areaOf, boxesMeet, boxOf, intersection, type Box, isConvex, ringHolds } from "../geometry/index.ts";
import type { Point, Ring } from "../model/index.ts";
import { cos, DEG, sin } from "../numeric/index.ts";

/** How modules lie in a plane; lengths in m. */
export interface ModuleLayout {
  /** Size of one, upright: across and up the plane. */
  readonly width: number;
  readonly height: number;
  /** Turned on their side. */
  readonly lying: boolean;
  /** Between columns and between rows. */
  readonly gapAcross: number;
  readonly gapUp: number;
  /** Kept free along the edge of the plane and of what stands in it. */
  readonly margin: number;
  /** Direction of the rows, degrees from the x-axis of the plane, counter-clockwise. */
  readonly turn: number;
}
/** One whole module: its row and column, and its corners in the plane. */
export interface PlacedModule {
  readonly row: number;
  readonly column: number;
  readonly corners: Ring;
}

/** Places of the first column and row that are tried, each way; the one with most modules is taken. Of large planes fewer: there a row more or less hardly counts. */
const TRIES = 8;
const FEW_TRIES = 2;
const LARGE = 1500;
/** Part of a module's area, relative, that may lie outside by rounding of the clipping. */
const SLACK = 1e-6;
/** Modules in one plane, at most. */
const MOST = 20000;

const turned = (ring: Ring, degrees: number): Ring => {
  const [c, s] = [cos(degrees * DEG), sin(degrees * DEG)];
  return ring.map(([x, y]): Point => [c * x - s * y, s * x + c * y]);
};
const rectangle = (x: number, y: number, w: number, h: number): Ring => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];

/**
 * Whole modules that lie in a plane, in straight rows and columns: the grid is shifted to where most of them fit.
 * @param outline of the plane, m @param holes what must stay free: roof lights, chimneys
 * @throws RangeError for a module without size, or more modules than a plane may have
 */
export function layModules(outline: Ring, holes: readonly Ring[], s: ModuleLayout): readonly PlacedModule[] {
  const key = JSON.stringify([outline, holes, s]);
  let found = laid.get(key);
  if (!found) {
    if (laid.size > MOST_LAID) laid.clear();
    laid.set(key, (found = lay(outline, holes, s)));
  }
  return found;
}

const laid = new Map<string, readonly PlacedModule[]>();
const MOST_LAID = 100;

function lay(outline: Ring, holes: readonly Ring[], s: ModuleLayout): PlacedModule[] {
  const [w, h] = s.lying ? [s.height, s.width] : [s.width, s.height];
  if (!(w > 0.05 && h > 0.05)) throw new RangeError("A module is at least 5 cm wide and high.");
  const [stepX, stepY] = [w + Math.max(0, s.gapAcross), h + Math.max(0, s.gapUp)];
  const ring = turned(outline, -s.turn);
  const free = holes.map((hole) => turned(hole, -s.turn));
  const [x0, y0, x1, y1] = boxOf(ring);
  if (((x1 - x0) / stepX) * ((y1 - y0) / stepY) > MOST)
    throw new RangeError(`More than ${MOST} modules would lie in this plane; check its size and the module's.`);
  const convex = isConvex(ring);
  const m = Math.max(0, s.margin);
  const fits = (x: number, y: number): boolean => {
    const own = rectangle(x - m, y - m, w + 2 * m, h + 2 * m);
    if (!own.every((p) => ringHolds(ring, p))) return false;
    const area = (w + 2 * m) * (h + 2 * m);
    const box = boxOf(own);
    // only where an edge comes near can the plane end within it
    if (!convex && nearEdge(ring, box) && areaOf(intersection([[own]], [[ring]])) < area * (1 - SLACK)) return false;
    return free.every((hole) => !boxesMeet(boxOf(hole), box) || areaOf(intersection([[own]], [[hole]])) < area * SLACK);
  };
  let best: { x: number; y: number }[] = [];
  const tries = ((x1 - x0) / stepX) * ((y1 - y0) / stepY) > LARGE ? FEW_TRIES : TRIES;
  for (let i = 0; i < tries; i++)
    for (let j = 0; j < tries; j++) {
      // the first tries stand at the margin itself, where a rectangle is filled best
      const [fromX, fromY] = [x0 + m + (stepX * i) / tries, y0 + m + (stepY * j) / tries];
      const found: { x: number; y: number }[] = [];
      for (let y = fromY + 1e-9; y + h <= y1; y += stepY) for (let x = fromX + 1e-9; x + w <= x1; x += stepX) if (fits(x, y)) found.push({ x, y });
      if (found.length > best.length) best = found;
    }
  const rows = [...new Set(best.map((p) => p.y))].sort((a, b) => a - b);
  const left = Math.min(...best.map((p) => p.x));
  return best
    .map((p) => ({
      row: rows.indexOf(p.y),
      column: Math.round((p.x - left) / stepX),
      corners: turned(rectangle(p.x, p.y, w, h), s.turn),
    }))
    .sort((a, b) => a.row - b.row || a.column - b.column);
}

/** Whether the box round any edge of a ring meets a box. */
const nearEdge = (ring: Ring, box: Box): boolean => ring.some((p, i) => boxesMeet(boxOf([p, ring[(i + 1) % ring.length]]), box));

/** The first of the modules, row by row from below, that together cover no more than a share of a plane. @param one area of a module, m²; absent: that of its place */
export function fillShare(modules: readonly PlacedModule[], outline: Ring, share: number, one?: number): PlacedModule[] {
  const [first] = modules;
  if (!first) return [];
  const area = one ?? areaOf([[first.corners]]);
  const count = Math.floor((Math.max(0, share) * areaOf([[outline]])) / area + SLACK);
  return modules.slice(0, count);
}
