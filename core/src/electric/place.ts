import { areaOf, facePolygons, type Face, type Geometry, type PlacedOpening, type ShadePlane, type Vector } from "../geometry/index.ts";
import { quantity, settingOf, type Point, type Problem, type Project, type PvArray, type Ring } from "../model/index.ts";
import { atan2, cos, DEG, sin } from "../numeric/index.ts";
import { fillShare, layModules, type ModuleLayout, type PlacedModule } from "./layout.ts";

/** A row of modules in one plane: its corners in space, and how many modules it has. */
export interface ArrayRow {
  readonly corners: readonly Vector[];
  readonly modules: number;
}
/** An array in space. */
export interface PlacedArray {
  readonly id: string;
  readonly name: string;
  /** Unit normal of its modules in plan coordinates, tilt and true direction, degrees. */
  readonly normal: Vector;
  readonly tilt: number;
  readonly azimuth: number;
  /** Corners of every module. */
  readonly modules: readonly (readonly Vector[])[];
  /** Neighbouring modules of a row as one plane: what casts shade and is shaded. */
  readonly rows: readonly ArrayRow[];
  /** Gross area with frames and active area of the cells, m². */
  readonly gross: number;
  readonly active: number;
  /** Area of the surface it lies on, m²; null: it stands free. */
  readonly surface: number | null;
  /** Modules that are asked for; what does not fit is missing. */
  readonly asked: number | null;
}

/** Axes of a plane: an origin, two directions in it, and its normal. */
interface Frame {
  readonly origin: Vector;
  readonly across: Vector;
  readonly up: Vector;
  readonly normal: Vector;
}
const cross = (a: Vector, b: Vector): Vector => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const along = (p: Vector, ...steps: readonly (readonly [Vector, number])[]): Vector =>
  steps.reduce<Vector>((q, [d, t]) => [q[0] + d[0] * t, q[1] + d[1] * t, q[2] + d[2] * t], p);
const inFrame = (f: Frame, p: Vector): Point => {
  const r: Vector = [p[0] - f.origin[0], p[1] - f.origin[1], p[2] - f.origin[2]];
  return [dot(r, f.across), dot(r, f.up)];
};

/** A setting of an array that is a number, or a choice. */
export const arrayNumber = (a: PvArray, field: string): number => settingOf("pvArray", a.inputs, field) as number;
const word = (a: PvArray, field: string): string => String(settingOf("pvArray", a.inputs, field));

/** Highest steepness that counts as level, as the cosine of the tilt. */
const LEVEL = 0.9999;

/** Axes of a face: along it and up its slope. */
function frameOf(face: Face, corner: Vector): Frame {
  const n = face.normal;
  const flat = Math.abs(n[2]) > LEVEL;
  const length = Math.sqrt(n[0] * n[0] + n[1] * n[1]);
  const across: Vector = flat ? [1, 0, 0] : [-n[1] / length, n[0] / length, 0];
  return { origin: corner, across, up: cross(n, across), normal: n };
}

/** Direction of the longest edge of a ring, degrees, between −45 and 45. */
function longestEdge(ring: Ring): number {
  let best = 0;
  let turn = 0;
  ring.forEach(([x, y], i) => {
    const [u, v] = ring[(i + 1) % ring.length];
    const length = (u - x) * (u - x) + (v - y) * (v - y);
    if (length <= best * (1 + 1e-9)) return;
    best = length;
    turn = atan2(v - y, u - x) / DEG;
  });
  const quarter = ((((turn + 45) % 90) + 90) % 90) - 45;
  return Math.round(quarter * 1e7) / 1e7;
}

/** Those of the modules that an array takes: all, a number of rows and columns, or a share of the surface. */
function taken(
  a: PvArray,
  all: readonly PlacedModule[],
  outline: Ring,
  area: (one: PlacedModule) => number,
): { modules: PlacedModule[]; asked: number | null } {
  const filled = word(a, "filled");
  if (filled === "all that fit") return { modules: [...all], asked: null };
  if (filled === "share of the surface") return { modules: fillShare(all, outline, arrayNumber(a, "share"), all.length > 0 ? area(all[0]) : 0), asked: null };
  const [rows, columns] = [Math.round(arrayNumber(a, "rows")), Math.round(arrayNumber(a, "columns"))];
  const inRow = new Map<number, PlacedModule[]>();
  for (const m of all) inRow.set(m.row, [...(inRow.get(m.row) ?? []), m]);
  const modules = [...inRow.values()].slice(0, rows).flatMap((r) => r.slice(0, columns));
  return { modules, asked: rows * columns };
}

/** What an array is laid into: an outline in a frame, with what must stay free, and how modules stand over it. */
interface Ground {
  readonly frame: Frame;
  readonly outline: Ring;
  readonly holes: readonly Ring[];
  readonly layout: ModuleLayout;
  /** Corner of a module in space, from a place in the frame and the height up the module, 0 or 1. */
  readonly at: (p: Point, row: readonly Point[], upper: boolean) => Vector;
  readonly normal: Vector;
  readonly area: number | null;
}

const sizeOf = (a: PvArray): { readonly w: number; readonly h: number } => {
  const lying = word(a, "lying") === "on their side";
  const [w, h] = [arrayNumber(a, "width"), arrayNumber(a, "height")];
  return lying ? { w: h, h: w } : { w, h };
};

/** Modules in a plane of their own size, margin kept and rows turned. */
const layoutOf = (a: PvArray, margin: number, turn: number): ModuleLayout => ({
  width: arrayNumber(a, "width"),
  height: arrayNumber(a, "height"),
  lying: word(a, "lying") === "on their side",
  gapAcross: arrayNumber(a, "gapAcross"),
  gapUp: arrayNumber(a, "gapUp"),
  margin,
  turn,
});

/** In the plane of a roof or a wall. */
function onSurface(a: PvArray, face: Face, rings: readonly Vector[][], openings: readonly (readonly Vector[])[], turn: number | null): Ground {
  const frame = frameOf(face, rings[0][0]);
  const [outer, ...inner] = rings.map((r) => r.map((p) => inFrame(frame, p)));
  const off = arrayNumber(a, "clearance");
  const flat = Math.abs(face.normal[2]) > LEVEL;
  return {
    frame,
    outline: outer,
    holes: [...inner, ...openings.map((o) => o.map((p) => inFrame(frame, p)))],
    layout: layoutOf(a, arrayNumber(a, "margin"), turn ?? (flat ? longestEdge(outer) : 0)),
    at: ([x, y]) => along(frame.origin, [frame.across, x], [frame.up, y], [frame.normal, off]),
    normal: face.normal,
    area: face.area,
  };
}

/** Direction in plan, from north of the plan clockwise, degrees, of a true direction. */
const planTurn = (project: Project, azimuth: number): number => azimuth - project.site.planNorth;

/** In rows on a roof or at a place of the plan: laid out in plan, each row raised to its tilt. @param heightAt of what it stands on, m, at a place of the plan */
function onRacks(project: Project, a: PvArray, outline: Ring, holes: readonly Ring[], heightAt: (p: Point) => number, area: number | null): Ground {
  const tilt = arrayNumber(a, "tilt") * DEG;
  const turn = planTurn(project, arrayNumber(a, "azimuth"));
  const { w, h } = sizeOf(a);
  const [faceX, faceY] = [sin(turn * DEG), cos(turn * DEG)];
  const clear = arrayNumber(a, "clearance");
  const normal: Vector = [sin(tilt) * faceX, sin(tilt) * faceY, cos(tilt)];
  // rows are filled from the side they face backwards: up the plan frame is away from it
  return {
    frame: { origin: [0, 0, 0], across: [1, 0, 0], up: [0, 1, 0], normal: [0, 0, 1] },
    outline,
    holes,
    layout: {
      width: w,
      height: Math.max(0.06, h * cos(tilt)),
      lying: false,
      gapAcross: arrayNumber(a, "gapAcross"),
      gapUp: arrayNumber(a, "rowSpacing"),
      margin: area === null ? 0 : arrayNumber(a, "margin"),
      turn: -(turn + 180),
    },
    at: ([x, y], row, upper) => {
      // a row stands on the highest point under it, level along its length
      const foot = Math.max(...row.map(heightAt)) + clear;
      return [x, y, foot + (upper ? h * sin(tilt) : 0)];
    },
    normal,
    area,
  };
}

/** Over the windows of a wall, leaning outward and down. */
function asOverhang(a: PvArray, face: Face, level: number): Ground {
  const w = face.wall as NonNullable<Face["wall"]>;
  const tilt = arrayNumber(a, "tilt") * DEG;
  const out: Vector = face.normal;
  // walls run counter-clockwise: seen from outside their start is to the left
  const across: Vector = [w.direction[0], w.direction[1], 0];
  const down: Vector = [out[0] * cos(tilt), out[1] * cos(tilt), -sin(tilt)];
  const origin = along([w.start[0] + w.direction[0] * w.from, w.start[1] + w.direction[1] * w.from, level], [out, arrayNumber(a, "clearance")]);
  const { h } = sizeOf(a);
  const rows = word(a, "filled") === "rows and columns" ? Math.round(arrayNumber(a, "rows")) : 1;
  const depth = rows * h + (rows - 1) * arrayNumber(a, "gapUp");
  const normal: Vector = [out[0] * sin(tilt), out[1] * sin(tilt), cos(tilt)];
  // up its slope is toward the wall: the outer edge is where rows begin
  const edge = along(origin, [down, depth]);
  const up: Vector = [-down[0], -down[1], -down[2]];
  const length = w.to - w.from;
  return {
    frame: { origin: edge, across, up, normal },
    outline: [
      [0, 0],
      [length, 0],
      [length, depth + 1e-6],
      [0, depth + 1e-6],
    ],
    holes: [],
    layout: layoutOf(a, 0, 0),
    at: ([x, y]) => along(edge, [across, x], [up, y]),
    normal,
    area: length * depth,
  };
}

/** Neighbours of a row whose gap is no more than this are one plane, m. */
const TOUCHING = 0.3;

/** Modules in space, and the rows they make. */
function raise(g: Ground, modules: readonly PlacedModule[]): { modules: Vector[][]; rows: ArrayRow[] } {
  const rows = new Map<number, PlacedModule[]>();
  for (const m of modules) rows.set(m.row, [...(rows.get(m.row) ?? []), m]);
  const placed: Vector[][] = [];
  const out: ArrayRow[] = [];
  for (const row of rows.values()) {
    const under = row.flatMap((m) => [...m.corners]);
    const corner = (m: PlacedModule, i: number): Vector => g.at(m.corners[i], under, i > 1);
    for (const m of row) placed.push([0, 1, 2, 3].map((i) => corner(m, i)));
    let first = 0;
    for (let i = 1; i <= row.length; i++) {
      const gap = i < row.length ? distance(row[i - 1].corners[1], row[i].corners[0]) : Infinity;
      if (gap <= TOUCHING) continue;
      const [a, b] = [row[first], row[i - 1]];
      out.push({ corners: [corner(a, 0), corner(b, 1), corner(b, 2), corner(a, 3)], modules: i - first });
      first = i;
    }
  }
  return { modules: placed, rows: out };
}
const distance = (a: Point, b: Point): number => Math.sqrt((a[0] - b[0]) * (a[0] - b[0]) + (a[1] - b[1]) * (a[1] - b[1]));

/** Above the head of the highest window of a wall, m. */
const OVER_HEAD = 0.1;

/** All photovoltaic arrays in space, with what is wrong with where they stand. */
export function placeArrays(
  project: Project,
  geometry: Geometry,
  openings: readonly PlacedOpening[],
): { readonly arrays: readonly PlacedArray[]; readonly problems: readonly Problem[] } {
  const arrays: PlacedArray[] = [];
  const problems: Problem[] = [];
  for (const [id, a] of Object.entries(project.onSite)) {
    if (a.kind !== "pvArray") continue;
    const warn = (code: string, path: string, message: string): void =>
      void problems.push({ code, severity: "warning", stage: "services", path: `onSite/${id}/${path}`, message });
    const ground = groundOf(project, geometry, openings, a);
    if (typeof ground === "string") {
      warn("array-place", "host", `${a.name} ${ground}; it makes nothing.`);
      continue;
    }
    let all: readonly PlacedModule[];
    try {
      all = layModules(ground.outline, ground.holes, ground.layout);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      warn("array-place", "inputs/width", `${a.name}: ${error.message}`);
      continue;
    }
    const { w, h } = sizeOf(a);
    const { modules, asked } = taken(a, all, ground.outline, () => w * h);
    if (modules.length === 0) {
      warn("array-fits", "inputs/filled", `No whole module of ${a.name} fits where it stands; it makes nothing.`);
      continue;
    }
    if (asked !== null && modules.length < asked)
      warn("array-fits", "inputs/rows", `${a.name} asks for ${asked} modules; ${modules.length} whole ones fit where it stands.`);
    const raised = raise(ground, modules);
    const cells = word(a, "model") === "single diode" ? arrayNumber(a, "cells") * arrayNumber(a, "cellWidth") * arrayNumber(a, "cellHeight") : w * h;
    if (cells > w * h * (1 + 1e-9))
      warn(
        "array-cells",
        "inputs/cells",
        `The cells of ${a.name} have ${quantity(cells, "m²", 2)} and its module ${quantity(w * h, "m²", 2)}; check their sizes.`,
      );
    const n = ground.normal;
    arrays.push({
      id,
      name: a.name,
      normal: n,
      tilt: atan2(Math.sqrt(n[0] * n[0] + n[1] * n[1]), n[2]) / DEG,
      azimuth: Math.abs(n[2]) > LEVEL ? 0 : (((atan2(n[0], n[1]) / DEG + project.site.planNorth) % 360) + 360) % 360,
      ...raised,
      gross: modules.length * w * h,
      active: modules.length * cells,
      surface: ground.area,
      asked,
    });
  }
  return { arrays, problems };
}

/** What an array is laid into, or why it cannot be. */
function groundOf(project: Project, geometry: Geometry, openings: readonly PlacedOpening[], a: PvArray): Ground | string {
  const place = word(a, "place");
  if (place === "free standing") {
    const [rows, columns] = word(a, "filled") === "rows and columns" ? [arrayNumber(a, "rows"), arrayNumber(a, "columns")] : [NaN, NaN];
    if (rows !== rows) return "stands free and needs a number of rows and columns";
    const { w, h } = sizeOf(a);
    const turn = -(planTurn(project, arrayNumber(a, "azimuth")) + 180) * DEG;
    const length = Math.round(columns) * (w + arrayNumber(a, "gapAcross")) + 0.01;
    const depth = Math.round(rows) * (Math.max(0.06, h * cos(arrayNumber(a, "tilt") * DEG)) + arrayNumber(a, "rowSpacing")) + 0.01;
    const [x, y] = [arrayNumber(a, "x"), arrayNumber(a, "y")];
    const at = (u: number, v: number): Point => [x + u * cos(turn) - v * sin(turn), y + u * sin(turn) + v * cos(turn)];
    return onRacks(project, a, [at(0, 0), at(length, 0), at(length, depth), at(0, depth)], [], () => 0, null);
  }
  if (a.host === null) return place === "as an overhang" ? "stands on no wall yet" : "stands on no roof or wall yet";
  const faces = geometry.faces.filter((f) => f.host === a.host && f.contact === "outdoors").sort((p, q) => q.area - p.area);
  const [face] = faces;
  if (!face) return "stands on a side that is not outdoors";
  const own = openings.filter((o) => o.face === face.key);
  if (place === "as an overhang") {
    if (!face.wall) return "is an overhang and stands on no wall";
    const low = geometry.spaces.get(face.space)?.low ?? face.low;
    const typed = settingOf("pvArray", a.inputs, "level") as number | null;
    const heads = own.map((o) => o.high);
    return asOverhang(a, face, typed !== null ? low + typed : heads.length > 0 ? Math.max(...heads) + OVER_HEAD : face.high - OVER_HEAD);
  }
  const polygons = facePolygons(face);
  const size = (p: readonly Vector[][]): number => {
    const frame = frameOf(face, p[0][0]);
    return areaOf([[p[0].map((v) => inFrame(frame, v))]]);
  };
  const rings = polygons.reduce((best, p) => (size(p) > size(best) ? p : best));
  if (place === "flat on the surface")
    return onSurface(
      a,
      face,
      rings,
      own.map((o) => o.corners),
      settingOf("pvArray", a.inputs, "turn") as number | null,
    );
  if (!face.plate || face.normal[2] < 0.2) return "is on racks and stands on no roof";
  const { plane } = face.plate;
  const plan = rings.map((r) => r.map(([x, y]): Point => [x, y]));
  const heightAt = ([x, y]: Point): number => plane[0] * x + plane[1] * y + plane[2];
  return onRacks(project, a, plan[0], [...plan.slice(1), ...own.map((o) => o.corners.map(([x, y]): Point => [x, y]))], heightAt, areaOf([[plan[0]]]));
}

/** Arrays as planes that cast shade. */
export const arrayPlanes = (arrays: readonly PlacedArray[]): ShadePlane[] =>
  arrays.flatMap((a) => a.rows.map((r, i): ShadePlane => ({ key: `${a.id}|row${i}`, record: a.id, corners: r.corners, transmittance: null, schedule: null })));
