import { signedArea, type Point, type Problem, type Project, type Ring, type Space, quantity } from "../model/index.ts";
import { areaOf, boxOf, centroid, difference, intersection, type Box, type Polygon } from "./polygon.ts";
import { FLAT, heightAt, roofPatches, roofProfile, type Plane, type RoofPatch } from "./roofs.ts";
import type { SpaceGeometry, Vector } from "./face.ts";

/** An upright side of a space before it is known what it touches. */
export interface Upright {
  readonly space: string;
  readonly id: string;
  readonly start: Point;
  /** Unit direction with the space to its left. */
  readonly direction: Point;
  readonly length: number;
  readonly low: number;
  readonly high: number;
  /** By distance along and level, where it is no rectangle. */
  readonly shape: readonly Polygon[] | null;
}

/** Box round an upright side in plan. */
export function uprightBox(u: Upright): Box {
  const x = u.start[0] + u.direction[0] * u.length;
  const y = u.start[1] + u.direction[1] * u.length;
  return [Math.min(u.start[0], x), Math.min(u.start[1], y), Math.max(u.start[0], x), Math.max(u.start[1], y)];
}

/** Any other side of a space: its outline in plan and its plane. */
export interface Flat {
  readonly space: string;
  readonly host: string;
  /** Looks up (ceilings) or down (floors). */
  readonly up: boolean;
  readonly polygons: readonly Polygon[];
  readonly plane: Plane;
  readonly low: number;
  readonly high: number;
}

export interface Sides {
  readonly geometry: SpaceGeometry | null;
  readonly uprights: readonly Upright[];
  readonly flats: readonly Flat[];
  readonly problems: readonly Problem[];
}

/** Least height of a space, m. */
const LEAST_HEIGHT = 0.1;
/** A free face may bend by this before it is told, m. */
const FLATNESS = 0.02;
/** An upright free face leans by less than this (cosine from straight up). */
const UPRIGHT = 0.02;

const snap = (v: number): number => Math.round(v * 1e5) / 1e5;

/** Sides and size of one space from its form. */
export function sidesOf(project: Project, id: string, space: Space): Sides {
  return space.form.kind === "prism" ? prismSides(project, id, space, space.form) : freeSides(id, space, space.form);
}

const nothing = (problem: Problem): Sides => ({ geometry: null, uprights: [], flats: [], problems: [problem] });
const fault = (id: string, code: string, message: string, severity: Problem["severity"] = "error"): Problem => ({
  code,
  severity,
  stage: "form",
  path: `spaces/${id}/form`,
  message,
});

type Prism = Extract<Space["form"], { kind: "prism" }>;

function prismSides(project: Project, id: string, space: Space, form: Prism): Sides {
  const outline = form.outline.map((p): Point => [snap(p.x), snap(p.y)]);
  if (signedArea(outline) < 0) {
    const points = form.outline;
    const reversed = points.map((_, i) => ({ ...points[points.length - 1 - i], id: points[(2 * points.length - 2 - i) % points.length].id }));
    return nothing({
      ...fault(id, "clockwise", `The outline of ${space.name} runs clockwise, so its faces are inside out.`),
      fix: { label: "Turn it around", changes: [{ op: "set", path: ["spaces", id, "form"], value: { ...form, outline: reversed }, old: form }] },
    });
  }
  const storey = project.storeys[space.storey];
  const base = form.base ?? 0;
  const low = snap(storey.elevation + base);
  const floorArea = signedArea(outline);
  const problems: Problem[] = [];
  let patches: readonly RoofPatch[] | null = null;
  let high = snap(low + (form.height ?? storey.height - base));
  let volume = floorArea * (high - low);
  if (form.roof !== undefined) {
    const roof = project.roofs[form.roof];
    try {
      patches = roofPatches(project, roof)
        .map((p) => ({ plane: p.plane, polygons: intersection([[outline]], p.polygons) }))
        .filter((p) => areaOf(p.polygons) > 1e-4);
    } catch {
      return nothing(fault(id, "roof", `The roof "${roof.name}" cannot be formed over its outline; take a gable, shed or flat roof.`));
    }
    const covered = patches.reduce((s, p) => s + areaOf(p.polygons), 0);
    if (covered < floorArea - 0.01)
      return nothing(
        fault(
          id,
          "roof",
          `The roof "${roof.name}" covers ${quantity(covered, "m²", 1)} of ${quantity(floorArea, "m²", 1)} of ${space.name}; draw it over the whole space.`,
        ),
      );
    const corners = patches.flatMap((p) => p.polygons.flatMap((poly) => poly.flatMap((r) => r.map(([x, y]) => heightAt(p.plane, x, y)))));
    high = snap(Math.max(...corners));
    if (Math.min(...corners) < low - 1e-3)
      return nothing(
        fault(
          id,
          "height",
          `The roof "${roof.name}" comes down to ${quantity(Math.min(...corners), "m", 2)}, below the floor of ${space.name} at ${quantity(low, "m", 2)}.`,
        ),
      );
    volume = patches.reduce((s, p) => s + volumeUnder(p, low), 0);
  }
  if (high - low < LEAST_HEIGHT)
    return nothing(fault(id, "height", `${space.name} has a height of ${quantity(high - low, "m", 2)}; at least ${quantity(LEAST_HEIGHT, "m", 2)} is needed.`));
  const uprights = outline.flatMap((p, i): Upright[] => {
    const q = outline[(i + 1) % outline.length];
    const dx = q[0] - p[0];
    const dy = q[1] - p[1];
    const length = Math.sqrt(dx * dx + dy * dy);
    const common = { space: id, id: form.outline[i].id, start: p, direction: [dx / length, dy / length] as Point, length, low };
    if (!patches) return [{ ...common, high, shape: null }];
    const top = roofProfile(patches, p, common.direction, length);
    const most = snap(Math.max(...top.map((t) => t[1])));
    if (most - low < 0.01) return [];
    if (top.every((t) => Math.abs(t[1] - most) < 1e-4)) return [{ ...common, high: most, shape: null }];
    const ring: Point[] = [[0, low], [length, low], ...[...top].reverse()];
    return [{ ...common, high: most, shape: [[ring.filter((a, k) => k === 0 || Math.abs(a[0] - ring[k - 1][0]) + Math.abs(a[1] - ring[k - 1][1]) > 1e-6)]] }];
  });
  const plan: Polygon[] = [[outline]];
  const flats: Flat[] = [{ space: id, host: `${id}/${form.floor}`, up: false, polygons: plan, plane: FLAT(low), low, high: low }];
  if (!patches) flats.push({ space: id, host: `${id}/${form.ceiling}`, up: true, polygons: plan, plane: FLAT(high), low: high, high });
  else
    for (const p of patches) {
      const z = p.polygons.flatMap((poly) => poly.flatMap((r) => r.map(([x, y]) => heightAt(p.plane, x, y))));
      flats.push({ space: id, host: `${id}/${form.ceiling}`, up: true, polygons: p.polygons, plane: p.plane, low: Math.min(...z), high: Math.max(...z) });
    }
  return { geometry: { id, floorArea, volume, low, high, outline }, uprights, flats, problems };
}

/** Volume between a level and a roof's plane side, m³: exact, a plane over a polygon has the height of its centroid. */
function volumeUnder(p: RoofPatch, low: number): number {
  let v = 0;
  for (const polygon of p.polygons)
    polygon.forEach((ring, k) => {
      const area = Math.abs(signedArea(ring));
      const [x, y] = centroid(ring);
      v += (k === 0 ? 1 : -1) * area * (heightAt(p.plane, x, y) - low);
    });
  return v;
}

/** Area vector of a ring in space (Newell): twice its half, m²; its length is the area. */
export function areaVector(ring: readonly Vector[]): Vector {
  let [x, y, z] = [0, 0, 0];
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length];
    x += (p[1] - q[1]) * (p[2] + q[2]);
    y += (p[2] - q[2]) * (p[0] + q[0]);
    z += (p[0] - q[0]) * (p[1] + q[1]);
  });
  return [x / 2, y / 2, z / 2];
}

/** Largest distance of a corner from the mean plane of its ring, m. */
export function bend(ring: readonly Vector[]): number {
  const a = areaVector(ring);
  const l = Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);
  if (l === 0) return 0;
  const d = ring.map((p) => (p[0] * a[0] + p[1] * a[1] + p[2] * a[2]) / l);
  return (Math.max(...d) - Math.min(...d)) / 2;
}

/** A space given by faces of its own in space. */
function freeSides(id: string, space: Space, form: Extract<Space["form"], { kind: "faces" }>): Sides {
  const problems: Problem[] = [];
  const uprights: Upright[] = [];
  const flats: Flat[] = [];
  let volume = 0;
  let closed: [number, number, number] = [0, 0, 0];
  let surface = 0;
  let [low, high] = [Infinity, -Infinity];
  for (const [key, face] of Object.entries(form.faces)) {
    const ring = face.ring.map(([x, y, z]): Vector => [snap(x), snap(y), snap(z)]);
    const a = areaVector(ring);
    const area = Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);
    if (area < 1e-4) {
      problems.push(fault(id, "no-area", `A face of ${space.name} ("${key}") has no area; it is left out.`, "warning"));
      continue;
    }
    const off = bend(ring);
    if (off > FLATNESS)
      problems.push(fault(id, "bent", `A face of ${space.name} ("${key}") bends by ${(100 * off).toFixed(0)} cm; it is taken as plane.`, "warning"));
    surface += area;
    closed = [closed[0] + a[0], closed[1] + a[1], closed[2] + a[2]];
    volume += (ring[0][0] * a[0] + ring[0][1] * a[1] + ring[0][2] * a[2]) / 3;
    for (const p of ring) {
      low = Math.min(low, p[2]);
      high = Math.max(high, p[2]);
    }
    const n: Vector = [a[0] / area, a[1] / area, a[2] / area];
    if (Math.abs(n[2]) < UPRIGHT) uprights.push(freeUpright(id, key, ring, n));
    else flats.push(freeFlat(id, key, ring, n));
  }
  if (uprights.length + flats.length < 4)
    return nothing(fault(id, "free-faces", `${space.name} has ${uprights.length + flats.length} usable faces; at least four enclose a space.`));
  const open = Math.sqrt(closed[0] * closed[0] + closed[1] * closed[1] + closed[2] * closed[2]);
  if (open > 0.02 * surface)
    problems.push(
      fault(id, "open", `The faces of ${space.name} do not close: ${quantity(open, "m²", 1)} are missing or turned; its volume is an estimate.`, "warning"),
    );
  if (volume < 0) {
    const turned = Object.fromEntries(Object.entries(form.faces).map(([k, f]) => [k, { ring: [...f.ring].reverse() }]));
    return nothing({
      ...fault(id, "inside-out", `The faces of ${space.name} look inward: it is inside out.`),
      fix: { label: "Turn them around", changes: [{ op: "set", path: ["spaces", id, "form"], value: { ...form, faces: turned }, old: form }] },
    });
  }
  if (volume < 0.01) return nothing(fault(id, "volume", `${space.name} encloses no volume.`));
  const floors = flats.filter((f) => !f.up && Math.abs(f.plane[0]) + Math.abs(f.plane[1]) < 1);
  const largest = [...(floors.length > 0 ? floors : flats)].sort((p, q) => areaOf(q.polygons) - areaOf(p.polygons))[0];
  const outline = largest ? largest.polygons[0][0] : boxRing(uprights);
  const floorArea = floors.reduce((s, f) => s + areaOf(f.polygons), 0);
  if (floorArea === 0) problems.push(fault(id, "no-floor", `${space.name} has no floor; its floor area counts as 0.`, "warning"));
  return { geometry: { id, floorArea, volume, low: snap(low), high: snap(high), outline }, uprights, flats, problems };
}

function boxRing(uprights: readonly Upright[]): Ring {
  const [x0, y0, x1, y1] = boxOf(uprights.flatMap((u): Point[] => [u.start, [u.start[0] + u.direction[0] * u.length, u.start[1] + u.direction[1] * u.length]]));
  return [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
}

function freeUpright(space: string, id: string, ring: readonly Vector[], n: Vector): Upright {
  const l = Math.sqrt(n[0] * n[0] + n[1] * n[1]);
  const direction: Point = [-n[1] / l, n[0] / l];
  const along = (p: Vector): number => p[0] * direction[0] + p[1] * direction[1];
  const first = ring.reduce((a, b) => (along(b) < along(a) ? b : a));
  const s0 = along(first);
  const flat = ring.map((p): Point => [snap(along(p) - s0), p[2]]);
  const [, low, length, high] = boxOf(flat);
  const whole = Math.abs(Math.abs(signedArea(flat)) - length * (high - low)) < 1e-4;
  return {
    space,
    id,
    start: [first[0], first[1]],
    direction,
    length,
    low,
    high,
    shape: whole ? null : [[signedArea(flat) < 0 ? [...flat].reverse() : flat]],
  };
}

function freeFlat(space: string, id: string, ring: readonly Vector[], n: Vector): Flat {
  const middle = ring.reduce((s, p): Vector => [s[0] + p[0] / ring.length, s[1] + p[1] / ring.length, s[2] + p[2] / ring.length], [0, 0, 0]);
  const level = Math.abs(n[2]) > 0.9999;
  const plane: Plane = level ? FLAT(snap(middle[2])) : [-n[0] / n[2], -n[1] / n[2], (n[0] * middle[0] + n[1] * middle[1] + n[2] * middle[2]) / n[2]];
  const flat = ring.map((p): Point => [p[0], p[1]]);
  const outline = signedArea(flat) < 0 ? [...flat].reverse() : flat;
  const z = ring.map((p) => p[2]);
  return { space, host: `${space}/${id}`, up: n[2] > 0, polygons: [[outline]], plane, low: Math.min(...z), high: Math.max(...z) };
}

/** What remains of polygons in plan once others are taken out; crumbs below 1 dm² are dropped. */
export const remaining = (whole: readonly Polygon[], taken: readonly Polygon[]): Polygon[] => difference(whole, taken).filter((p) => areaOf([p]) > 0.01);
