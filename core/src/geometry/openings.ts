import { quantity } from "../model/index.ts";
import type { Opening, Orientation, Point, Problem, Project, WallRule } from "../model/index.ts";
import { facePolygons, onPlane, wallCorners, type Face, type Geometry, type Vector } from "./face.ts";
import { spend } from "../numeric/index.ts";
import { areaOf, boxOf, intersection, type Polygon } from "./polygon.ts";
import { areaVector } from "./sides.ts";
import { planeAxes } from "./shading.ts";

/** One opening in one outdoor face, derived from an opening record. */
export interface PlacedOpening {
  readonly key: string;
  /** The record that made it. */
  readonly record: string;
  readonly name: string;
  readonly face: string;
  readonly use: "window" | "door";
  /** Whether it lies in a roof: the kit gives such windows a glazing of their own. */
  readonly inRoof: boolean;
  /** Glazing (window) or assembly (door); null: from the kit. */
  readonly construction: string | null;
  /** In space, counter-clockwise seen from outside. */
  readonly corners: readonly Vector[];
  /** Distance along an upright wall's edge, m; of others along the plan. */
  readonly from: number;
  readonly to: number;
  /** Levels above ground, m. */
  readonly low: number;
  readonly high: number;
  /** Size in its own plane, m. */
  readonly width: number;
  readonly height: number;
  readonly area: number;
  /** Share of it that can be opened, 1. */
  readonly operable: number;
}

/** A door or a way through in an inner wall. */
export interface InnerOpening extends Pick<
  PlacedOpening,
  "key" | "record" | "name" | "face" | "corners" | "from" | "to" | "low" | "high" | "width" | "height" | "area"
> {
  readonly use: "door" | "opening";
  /** The space whose wall it is drawn in, and the one beyond. */
  readonly spaces: readonly [string, string];
}

/** Least distance of an opening from the edge of its wall where it is placed by rule, share of the wall. */
const MARGIN = 0.99;
/** Openings reach past their wall by less than this without notice, m. */
const SLACK = 1e-6;

/** Openings one record makes in one wall, and all records in all walls, at most. */
const MOST_IN_WALL = 500;
const MOST = 20000;

/** Quarter of the compass a true azimuth belongs to. */
export function orientationOf(azimuth: number): Orientation {
  const a = ((azimuth % 360) + 360) % 360;
  if (a >= 315 || a < 45) return "north";
  if (a < 135) return "east";
  return a < 225 ? "south" : "west";
}

type Report = (id: string, code: string, message: string, fix?: Problem["fix"], severity?: Problem["severity"]) => void;

/** Openings of all outdoor faces, doors and ways through inner walls, and the problems of those that fit nowhere. */
export function deriveOpenings(project: Project, geometry: Geometry): { openings: PlacedOpening[]; inner: InnerOpening[]; problems: Problem[] } {
  const openings: PlacedOpening[] = [];
  const inner: InnerOpening[] = [];
  const problems: Problem[] = [];
  const report: Report = (id, code, message, fix, severity = "error") => {
    problems.push({ code, severity, stage: "form", path: `openings/${id}`, message, ...(fix ? { fix } : {}) });
  };
  const byHost = new Map<string, Face[]>();
  for (const f of geometry.faces) {
    const known = byHost.get(f.host);
    if (known) known.push(f);
    else byHost.set(f.host, [f]);
  }
  const placedOn = new Map<string, PlacedOpening[]>();
  for (const [id, o] of Object.entries(project.openings)) {
    if (o.kind === "ratio" || o.kind === "repeated") continue;
    const faces = byHost.get(o.host) ?? [];
    const within = o.kind === "placed" ? placeInner(id, o, faces, geometry) : null;
    if (within) {
      // the same wall may be drawn in from either side
      const clash = inner.find((p) => sameWall(p, within, geometry) && sharedArea(p, within, geometry) > 1e-3);
      if (clash) report(id, "opening-overlap", `"${o.name}" and "${clash.name}" overlap in the same wall.`);
      else inner.push(within);
      continue;
    }
    const placed =
      o.kind === "placed"
        ? place(id, o, faces, geometry, report)
        : o.kind === "skylight"
          ? placeSkylight(id, o, faces, report)
          : placeOutline(id, o, faces, geometry, report);
    if (!placed) continue;
    const others = placedOn.get(placed.face) ?? [];
    const clash = others.find((p) => sharedArea(p, placed, geometry) > 1e-3);
    if (clash) {
      report(id, "opening-overlap", `"${o.name}" and "${clash.name}" overlap in the same wall.`);
      continue;
    }
    placedOn.set(placed.face, [...others, placed]);
    openings.push(placed);
  }
  ruled(project, geometry, placedOn, openings, problems, report);
  openings.sort((a, b) => (a.key < b.key ? -1 : 1));
  inner.sort((a, b) => (a.key < b.key ? -1 : 1));
  return { openings, inner, problems };
}

const sameWall = (a: InnerOpening, b: InnerOpening, geometry: Geometry): boolean => a.face === b.face || geometry.byKey.get(a.face)?.partner === b.face;

type Laid = Pick<PlacedOpening, "face" | "corners" | "from" | "to" | "low" | "high">;

/** Area two openings of one face share, m². */
function sharedArea(a: Laid, b: Laid, geometry: Geometry): number {
  // places along a wall are told from its own start, which the face beyond does not share
  if (a.face === b.face && (a.from >= b.to - SLACK || b.from >= a.to - SLACK || a.low >= b.high - SLACK || b.low >= a.high - SLACK)) return 0;
  const face = geometry.byKey.get(a.face) as Face;
  const { local } = planeAxes(a.corners[0], face.normal);
  const flat = (c: readonly Vector[]): Polygon => [c.map((p): Point => local(p).slice(0, 2) as unknown as Point)];
  return areaOf(intersection([flat(a.corners)], [flat(b.corners)]));
}

/** Openings by rule: of the records that match a wall the most particular one counts. */
function ruled(
  project: Project,
  geometry: Geometry,
  placedOn: ReadonlyMap<string, readonly PlacedOpening[]>,
  openings: PlacedOpening[],
  problems: Problem[],
  report: Report,
): void {
  const rules = Object.entries(project.openings).filter((e): e is [string, WallRule] => e[1].kind === "ratio" || e[1].kind === "repeated");
  if (rules.length === 0) return;
  const used = new Set<string>();
  const told = new Set<string>();
  const rank = (o: WallRule): number => (o.host ? 8 : 0) + (o.space !== null ? 4 : 0) + (o.storey !== null ? 2 : 0) + (o.orientation !== null ? 1 : 0);
  for (const face of geometry.faces) {
    if (!face.wall || face.contact !== "outdoors") continue;
    const { storey, form } = project.spaces[face.space];
    // what stands above a storey's own spaces is its roof: rules for many walls leave it alone
    const attic = form.kind === "prism" && form.roof !== undefined && (form.base ?? 0) >= project.storeys[storey].height - 0.01;
    const side = orientationOf(face.azimuth);
    const matching = rules.filter(
      ([, o]) =>
        (o.orientation === null || o.orientation === side) &&
        (o.storey === null || o.storey === storey) &&
        (o.space === null ? !attic || !!o.host : o.space === face.space) &&
        (!o.host || o.host === face.host),
    );
    if (matching.length === 0) continue;
    const best = Math.max(...matching.map(([, o]) => rank(o)));
    const chosen = matching.filter(([, o]) => rank(o) === best);
    for (const [id] of matching) used.add(id);
    if (chosen.length > 1) {
      const [second, first] = [chosen[1], chosen[0]];
      const message = `"${second[1].name}" and "${first[1].name}" both set the glazing of the same wall.`;
      if (!told.has(message))
        report(second[0], "ratio-clash", message, {
          label: `Remove "${second[1].name}"`,
          changes: [{ op: "remove", path: ["openings", second[0]], old: second[1] }],
        });
      told.add(message);
      continue;
    }
    const [id, o] = chosen[0];
    if ((placedOn.get(face.key) ?? []).length > 0) continue;
    if (o.kind === "repeated") {
      const wanted = repeatedCount(o, face, geometry);
      if (wanted > MOST_IN_WALL || openings.length + wanted > MOST) {
        if (!told.has(id))
          report(
            id,
            "too-many",
            wanted > MOST_IN_WALL
              ? `"${o.name}" would make ${wanted} openings in one wall of ${project.spaces[face.space].name}; at most ${MOST_IN_WALL} are made. Check its width and spacing, and the units of the plan.`
              : `"${o.name}" would bring the building past ${MOST} openings, the most that are made.`,
          );
        told.add(id);
        continue;
      }
      const made = repeatedOpenings(id, o, face, geometry, wanted);
      if (made.length === 0 && !told.has(id)) {
        told.add(id);
        report(
          id,
          "too-small",
          `"${o.name}" (${quantity(o.width, "m", 2)} by ${quantity(o.height, "m", 2)}) fits nowhere in a wall of ${project.spaces[face.space].name}; the wall stays without it.`,
          undefined,
          "warning",
        );
      }
      openings.push(...made);
    } else if (o.ratio > 0) openings.push(ratioOpening(id, o, face, geometry));
  }
  for (const [id, o] of rules)
    if (!used.has(id) && (o.kind === "repeated" || o.ratio > 0))
      problems.push({
        code: "no-wall",
        severity: "warning",
        stage: "form",
        path: `openings/${id}`,
        message: `"${o.name}" finds no outdoor wall${o.orientation ? ` facing ${o.orientation}` : ""}.`,
      });
}

function rectangleOpening(
  record: string,
  key: string,
  o: { readonly name: string; readonly glazing: string | null; readonly operable?: number | undefined },
  face: Face,
  use: "window" | "door",
  r: { from: number; to: number; low: number; high: number },
): PlacedOpening {
  const width = r.to - r.from;
  const height = r.high - r.low;
  return {
    key,
    record,
    name: o.name,
    face: face.key,
    use,
    inRoof: false,
    construction: o.glazing,
    corners: wallCorners(face, r),
    ...r,
    width,
    height,
    area: width * height,
    operable: o.operable ?? 0,
  };
}

/** The largest upright rectangle of a wall whose top is not level: its box down to the lowest of its top corners. */
function openRectangle(face: Face): { from: number; to: number; low: number; high: number } {
  const w = face.wall as NonNullable<Face["wall"]>;
  if (!w.shape) return w;
  const middle = (w.from + w.to) / 2;
  const ring = w.shape[0][0];
  // levels of the outline above and below each place along
  const reach = (s: number): [number, number] => {
    const z: number[] = [];
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length];
      if (Math.min(p[0], q[0]) > s || Math.max(p[0], q[0]) < s || p[0] === q[0]) return;
      z.push(p[1] + ((q[1] - p[1]) * (s - p[0])) / (q[0] - p[0]));
    });
    return z.length > 1 ? [Math.min(...z), Math.max(...z)] : [0, 0];
  };
  let best = { from: middle, to: middle, low: w.low, high: w.low };
  const steps = 24;
  for (let a = 0; a < steps; a++)
    for (let b = a + 1; b <= steps; b++) {
      const from = w.from + ((w.to - w.from) * a) / steps;
      const to = w.from + ((w.to - w.from) * b) / steps;
      let [low, high] = [w.low, w.high];
      for (let k = a; k <= b; k++) {
        const [z0, z1] = reach(Math.min(w.to - 1e-6, Math.max(w.from + 1e-6, w.from + ((w.to - w.from) * k) / steps)));
        low = Math.max(low, z0);
        high = Math.min(high, z1);
      }
      if ((to - from) * (high - low) > (best.to - best.from) * (best.high - best.low)) best = { from, to, low, high };
    }
  return best;
}

/** A window of the given share of its wall: preferred sill and height, widened first, then raised. */
function ratioOpening(record: string, o: Extract<Opening, { kind: "ratio" }>, face: Face, geometry: Geometry): PlacedOpening {
  const w = openRectangle(face);
  const length = w.to - w.from;
  const tall = w.high - w.low;
  // of a wall whose top is not level what its largest rectangle can hold
  const area = Math.min(o.ratio * face.area, MARGIN * MARGIN * length * tall);
  const height = Math.min(MARGIN * tall, Math.max(Math.min(o.height, MARGIN * tall), area / (MARGIN * length)));
  const width = area / height;
  const floor = geometry.spaces.get(face.space)?.low ?? w.low;
  const wanted = Math.max(w.low + (tall * (1 - MARGIN)) / 2, floor + o.sill);
  const low = Math.min(wanted, w.high - (tall * (1 - MARGIN)) / 2 - height);
  const from = w.from + (length - width) / 2;
  return { ...rectangleOpening(record, `${face.key}|${record}`, o, face, "window", { from, to: from + width, low, high: low + height }), area };
}

type Repeated = Extract<Opening, { kind: "repeated" }>;

/** How many equal windows fit in a wall. */
function repeatedCount(o: Repeated, face: Face, geometry: Geometry): number {
  const w = openRectangle(face);
  const low = (geometry.spaces.get(face.space)?.low ?? w.low) + o.sill;
  if (low < w.low - SLACK || low + o.height > w.high + SLACK || o.width > w.to - w.from + SLACK) return 0;
  return 1 + Math.floor((w.to - w.from - o.width + SLACK) / Math.max(o.spacing, o.width));
}

/** Equal windows about the middle of their wall. */
function repeatedOpenings(record: string, o: Repeated, face: Face, geometry: Geometry, count: number): PlacedOpening[] {
  const w = openRectangle(face);
  const low = (geometry.spaces.get(face.space)?.low ?? w.low) + o.sill;
  const step = Math.max(o.spacing, o.width);
  spend(100 * count);
  const first = (w.from + w.to) / 2 - ((count - 1) * step) / 2 - o.width / 2;
  return Array.from({ length: count }, (_, i) => {
    const from = first + i * step;
    return rectangleOpening(record, `${face.key}|${record}|${i}`, o, face, "window", { from, to: from + o.width, low, high: low + o.height });
  });
}

/** Whether a rectangle lies in an upright face. */
function holds(face: Face, r: { from: number; to: number; low: number; high: number }): boolean {
  const w = face.wall;
  if (!w || r.from < w.from - SLACK || r.to > w.to + SLACK || r.low < w.low - SLACK || r.high > w.high + SLACK) return false;
  if (!w.shape) return true;
  const box: Polygon = [
    [
      [r.from, r.low],
      [r.to, r.low],
      [r.to, r.high],
      [r.from, r.high],
    ],
  ];
  return areaOf(intersection(w.shape, [box])) > areaOf([box]) - 1e-4;
}

/** A door or way through that lies whole in a wall between two spaces; null: it does not. */
function placeInner(id: string, o: Extract<Opening, { kind: "placed" }>, faces: readonly Face[], geometry: Geometry): InnerOpening | null {
  if (o.use === "window") return null;
  const walls = faces.filter((f) => f.wall && f.contact === "space" && f.partnerSpace !== null);
  if (walls.length === 0) return null;
  const low = (geometry.spaces.get(walls[0].space) as { low: number }).low + o.sill;
  const r = { from: o.offset, to: o.offset + o.width, low, high: low + o.height };
  const face = walls.find((f) => holds(f, r));
  if (!face || face.partnerSpace === null) return null;
  return {
    key: `${face.key}|${id}`,
    record: id,
    name: o.name,
    face: face.key,
    use: o.use,
    spaces: [face.space, face.partnerSpace],
    corners: wallCorners(face, r),
    ...r,
    width: o.width,
    height: o.height,
    area: o.width * o.height,
  };
}

function place(id: string, o: Extract<Opening, { kind: "placed" }>, faces: readonly Face[], geometry: Geometry, report: Report): PlacedOpening | null {
  const walls = faces.filter((f) => f.wall);
  if (walls.length === 0) {
    if (geometry.spaces.has(o.host.split("/")[0])) report(id, "no-wall", `"${o.name}" lies in no wall.`);
    return null;
  }
  const floor = (geometry.spaces.get(walls[0].space) as { low: number }).low;
  const low = floor + o.sill;
  const r = { from: o.offset, to: o.offset + o.width, low, high: low + o.height };
  const outdoors = walls.filter((f) => f.contact === "outdoors");
  const inside = outdoors.find((f) => holds(f, r));
  if (inside && o.use === "opening") {
    report(id, "outdoor-opening", `"${o.name}" is a way through without a door, and its wall is an outdoor one.`, {
      label: "Make it a door",
      changes: [{ op: "set", path: ["openings", id, "use"], value: "door", old: o.use }],
    });
    return null;
  }
  if (inside && o.use !== "opening") return rectangleOpening(id, `${inside.key}|${id}`, o, inside, o.use, r);
  const wallEnd = Math.max(...walls.map((f) => (f.wall as NonNullable<Face["wall"]>).to));
  const wallTop = Math.max(...walls.map((f) => f.high));
  // the part of the wall that has room for it, the nearest first
  const middle = (r.from + r.to) / 2;
  const may = o.use === "window" ? outdoors : walls.filter((f) => (f.contact === "outdoors" ? o.use === "door" : f.partnerSpace !== null));
  const fitting = may
    .map(openRectangle)
    .filter((w) => w.to - w.from >= o.width - SLACK && w.high - w.low >= o.height - SLACK)
    .sort((a, b) => Math.abs((a.from + a.to) / 2 - middle) - Math.abs((b.from + b.to) / 2 - middle))[0];
  const past = r.to - wallEnd;
  const over = r.high - wallTop;
  const change = (key: "offset" | "sill", value: number) => ({
    op: "set" as const,
    path: ["openings", id, key],
    value: Math.max(0, Math.round(1e4 * value) / 1e4),
    old: o[key],
  });
  const fix = fitting
    ? {
        label: "Move it into its wall",
        changes: [
          change("offset", Math.min(Math.max(o.offset, fitting.from), fitting.to - o.width)),
          change("sill", Math.min(Math.max(o.sill, fitting.low - floor), fitting.high - floor - o.height)),
        ],
      }
    : shrinkFix(id, o, may, floor);
  if (past > SLACK) report(id, "past-wall", `"${o.name}" reaches ${quantity(past, "m", 2)} past its wall.`, fix);
  else if (over > SLACK) report(id, "past-wall", `"${o.name}" reaches ${quantity(over, "m", 2)} above its wall.`, fix);
  else if (may.length === 0)
    report(
      id,
      "not-outdoors",
      o.use === "window" ? `"${o.name}" lies in a wall that does not touch outdoors.` : `"${o.name}" lies in a wall with nothing beyond to go through to.`,
    );
  else report(id, "across", `"${o.name}" lies across the edge between two parts of its wall.`, fix);
  return null;
}

/** Where no part of a wall has room for an opening: made as small as its largest part. */
function shrinkFix(id: string, o: Extract<Opening, { kind: "placed" }>, outdoors: readonly Face[], floor: number): Problem["fix"] {
  const w = outdoors.map(openRectangle).sort((a, b) => (b.to - b.from) * (b.high - b.low) - (a.to - a.from) * (a.high - a.low))[0];
  if (!w || w.to - w.from < 0.3 || w.high - w.low < 0.3) return undefined;
  const width = Math.min(o.width, w.to - w.from);
  const height = Math.min(o.height, w.high - w.low);
  const next = {
    ...o,
    width: Math.floor(width * 1e4) / 1e4,
    height: Math.floor(height * 1e4) / 1e4,
    offset: Math.ceil(Math.min(Math.max(o.offset, w.from), w.to - width) * 1e4) / 1e4,
    sill: Math.max(0, Math.min(Math.max(o.sill, w.low - floor), w.high - floor - height)),
  };
  return { label: "Fit it to its wall", changes: [{ op: "set", path: ["openings", id], value: next, old: o }] };
}

/** Corners, extents and size of an opening in any face. */
function inPlane(corners: readonly Vector[], face: Face): Pick<PlacedOpening, "corners" | "from" | "to" | "low" | "high" | "width" | "height" | "area"> {
  const a = areaVector(corners);
  const { local } = planeAxes(corners[0], face.normal);
  const [x0, y0, x1, y1] = boxOf(corners.map((p): Point => local(p).slice(0, 2) as unknown as Point));
  const w = face.wall;
  const along = corners.map((p) => (w ? (p[0] - w.start[0]) * w.direction[0] + (p[1] - w.start[1]) * w.direction[1] : p[0]));
  const z = corners.map((p) => p[2]);
  return {
    corners,
    from: Math.min(...along),
    to: Math.max(...along),
    low: Math.min(...z),
    high: Math.max(...z),
    width: x1 - x0,
    height: y1 - y0,
    area: Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]),
  };
}

function placeSkylight(id: string, o: Extract<Opening, { kind: "skylight" }>, faces: readonly Face[], report: Report): PlacedOpening | null {
  const [x0, x1, y0, y1] = [o.x - o.width / 2, o.x + o.width / 2, o.y - o.depth / 2, o.y + o.depth / 2];
  const plan: Polygon = [
    [
      [x0, y0],
      [x1, y0],
      [x1, y1],
      [x0, y1],
    ],
  ];
  const roofs = faces.filter((f) => f.plate && f.contact === "outdoors" && f.normal[2] > 0);
  const face = roofs.find((f) => areaOf(intersection(f.plate?.polygons ?? [], [plan])) > areaOf([plan]) - 1e-4);
  if (!face?.plate) {
    const boxes = roofs.map((f) => boxOf((f.plate as NonNullable<Face["plate"]>).polygons.flatMap((p) => [...p[0]])));
    const room = boxes.find((b) => b[2] - b[0] >= o.width && b[3] - b[1] >= o.depth);
    report(
      id,
      "no-roof",
      roofs.length === 0 ? `"${o.name}" lies in no roof that touches outdoors.` : `"${o.name}" does not lie wholly in one side of its roof.`,
      room
        ? {
            label: "Move it into its roof",
            changes: (["x", "y"] as const).map((k, i) => {
              const half = (i === 0 ? o.width : o.depth) / 2;
              return { op: "set" as const, path: ["openings", id, k], value: Math.min(Math.max(o[k], room[i] + half), room[i + 2] - half), old: o[k] };
            }),
          }
        : undefined,
    );
    return null;
  }
  const { plane } = face.plate;
  const corners = plan[0].map(([x, y]) => onPlane(plane, x, y));
  return {
    key: `${face.key}|${id}`,
    record: id,
    name: o.name,
    face: face.key,
    use: "window",
    inRoof: true,
    construction: o.glazing,
    ...inPlane(corners, face),
    operable: o.operable ?? 0,
  };
}

/** An opening given by its corners, as files give it: laid into the plane of its face, which must hold it. */
function placeOutline(id: string, o: Extract<Opening, { kind: "outline" }>, faces: readonly Face[], geometry: Geometry, report: Report): PlacedOpening | null {
  const outdoors = faces.filter((f) => f.contact === "outdoors");
  if (faces.length === 0) {
    if (geometry.spaces.has(o.host.split("/")[0])) report(id, "no-wall", `"${o.name}" lies in no wall.`);
    return null;
  }
  const flat = (face: Face, ring: readonly Vector[]): Polygon => {
    const { local } = planeAxes(facePolygons(face)[0][0][0], face.normal);
    return [ring.map((p): Point => local(p).slice(0, 2) as unknown as Point)];
  };
  const whole = (face: Face): number => {
    const own = flat(face, o.ring);
    const polygons = facePolygons(face).map((p) => p.map((r) => flat(face, r)[0]));
    return areaOf([own]) - areaOf(intersection(polygons, [own]));
  };
  const face = outdoors.find((f) => whole(f) < 0.005);
  if (!face) {
    if (outdoors.length === 0) report(id, "not-outdoors", `"${o.name}" lies in a face that does not touch outdoors.`);
    else report(id, "past-wall", `"${o.name}" reaches ${quantity(Math.min(...outdoors.map(whole)), "m²", 2)} past its wall.`);
    return null;
  }
  const corners = [...o.ring];
  const a = areaVector(corners);
  const out = a[0] * face.normal[0] + a[1] * face.normal[1] + a[2] * face.normal[2] < 0 ? corners.reverse() : corners;
  return {
    key: `${face.key}|${id}`,
    record: id,
    name: o.name,
    face: face.key,
    use: o.use,
    inRoof: face.kind !== "wall",
    construction: o.glazing,
    ...inPlane(out, face),
    operable: o.operable ?? 0,
  };
}
