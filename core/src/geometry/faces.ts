import clipping from "polygon-clipping";
import { atan2, DEG } from "../numeric/index.ts";
import { signedArea, type Point, type Problem, type Project, type Space } from "../model/index.ts";
import { areaOf, type Polygon } from "./polygon.ts";

export type Vector = readonly [number, number, number];
export type Contact = "outdoors" | "ground" | "space";

/** One planar side of a space with one kind of contact. Derived, never stored. */
export interface Face {
  /** host + partner + ordinal. */
  readonly key: string;
  readonly space: string;
  /** "space/edge", "space/floor id" or "space/ceiling id". */
  readonly host: string;
  readonly kind: "wall" | "floor" | "ceiling";
  readonly contact: Contact;
  /** Key of the same face seen from the other space. */
  readonly partner: string | null;
  readonly partnerSpace: string | null;
  /** Gross area with openings, m². */
  readonly area: number;
  /** Outward unit normal in plan coordinates (x, y, up). */
  readonly normal: Vector;
  /** Angle of the normal from straight up, degrees: roof 0, wall 90, floor 180. */
  readonly tilt: number;
  /** True direction of the normal, degrees clockwise from north, 0…360; 0 for horizontal faces. */
  readonly azimuth: number;
  /** Wall: rectangle along the edge. */
  readonly wall: {
    readonly start: Point;
    readonly direction: Point;
    readonly from: number;
    readonly to: number;
    readonly low: number;
    readonly high: number;
  } | null;
  /** Floor or ceiling: its outline and level. */
  readonly plate: { readonly polygons: readonly Polygon[]; readonly level: number } | null;
}

export interface SpaceGeometry {
  readonly id: string;
  /** m², from the outline. */
  readonly floorArea: number;
  /** m³. */
  readonly volume: number;
  readonly low: number;
  readonly high: number;
  readonly outline: readonly Point[];
}

export interface Geometry {
  readonly faces: readonly Face[];
  readonly byKey: ReadonlyMap<string, Face>;
  readonly spaces: ReadonlyMap<string, SpaceGeometry>;
  readonly problems: readonly Problem[];
}

/** Lengths below this are one place, m. */
const TOLERANCE = 0.01;
/** A floor within this height over a ceiling rests on it (the slab between), m. */
const SLAB = 1.2;
/** A lowest floor up to this height over the ground lies on it, m. */
const ON_GROUND = 0.6;
/** A floor lower than this under the ground makes a basement of its space, m. */
export const LEAST_DEPTH = 0.05;

interface Edge {
  space: string;
  id: string;
  start: Point;
  direction: Point;
  length: number;
  low: number;
  high: number;
}

const snap = (v: number): number => Math.round(v * 1e5) / 1e5;

/** Level of the floor and of the ceiling of a space above the ground, m. */
function levels(project: Project, space: Space): [number, number] {
  const storey = project.storeys[space.storey];
  const base = space.form.kind === "prism" ? (space.form.base ?? 0) : 0;
  const height = space.form.kind === "prism" ? (space.form.height ?? storey.height - base) : storey.height;
  const low = snap(storey.elevation + base);
  return [low, snap(low + height)];
}

/**
 * Faces of all spaces with what each touches: outdoors, the ground or another space, also where
 * outlines overlap only in part and across storeys.
 */
export function deriveFaces(project: Project): Geometry {
  const problems: Problem[] = [];
  const spaces = new Map<string, SpaceGeometry>();
  const edges: Edge[] = [];
  const usable: [string, Space][] = [];
  for (const [id, space] of Object.entries(project.spaces)) {
    const problem = outlineProblem(id, space);
    if (problem) {
      problems.push(problem);
      continue;
    }
    if (space.form.kind !== "prism") continue;
    const outline = space.form.outline.map((p): Point => [snap(p.x), snap(p.y)]);
    const [low, high] = levels(project, space);
    if (high - low < 0.1) {
      problems.push({
        code: "height",
        severity: "error",
        stage: "form",
        path: `spaces/${id}/form`,
        message: `${space.name} has a height of ${(high - low).toFixed(2)} m; at least 0.10 m is needed.`,
      });
      continue;
    }
    const floorArea = signedArea(outline);
    spaces.set(id, { id, floorArea, volume: floorArea * (high - low), low, high, outline });
    usable.push([id, space]);
    outline.forEach((p, i) => {
      const q = outline[(i + 1) % outline.length];
      const dx = q[0] - p[0];
      const dy = q[1] - p[1];
      const length = Math.sqrt(dx * dx + dy * dy);
      edges.push({
        space: id,
        id: (space.form as { outline: { id: string }[] }).outline[i].id,
        start: p,
        direction: [dx / length, dy / length],
        length,
        low,
        high,
      });
    });
  }
  const faces = [...wallFaces(project, edges), ...plateFaces(project, usable, spaces, problems)];
  overlapProblems(project, usable, spaces, problems);
  return { faces, byKey: new Map(faces.map((f) => [f.key, f])), spaces, problems };
}

function outlineProblem(id: string, space: Space): Problem | null {
  const at = (code: string, message: string): Problem => ({ code, severity: "error", stage: "form", path: `spaces/${id}/form`, message });
  if (space.form.kind === "faces") return at("free-faces", `${space.name} is given by free faces, which are not computed yet; give it an outline.`);
  const ring = space.form.outline.map((p): Point => [snap(p.x), snap(p.y)]);
  if (signedArea(ring) < 0) {
    const points = space.form.outline;
    const old = space.form;
    const reversed = points.map((_, i) => ({ ...points[points.length - 1 - i], id: points[(2 * points.length - 2 - i) % points.length].id }));
    return {
      ...at("clockwise", `The outline of ${space.name} runs clockwise, so its faces are inside out.`),
      fix: { label: "Turn it around", changes: [{ op: "set", path: ["spaces", id, "form"], value: { ...old, outline: reversed }, old }] },
    };
  }
  return null;
}

function trueAzimuth(project: Project, nx: number, ny: number): number {
  const a = atan2(nx, ny) / DEG + project.site.planNorth;
  // to 1e-7°, so that rounding never decides which side of a limit a face is on
  return (Math.round((((a % 360) + 360) % 360) * 1e7) / 1e7) % 360;
}

function wallFaces(project: Project, edges: Edge[]): Face[] {
  const faces: Face[] = [];
  interface Overlap {
    other: Edge;
    from: number;
    to: number;
    low: number;
    high: number;
  }
  const overlaps = edges.map((): Overlap[] => []);
  for (let i = 0; i < edges.length; i++) {
    const a = edges[i];
    for (let j = i + 1; j < edges.length; j++) {
      const b = edges[j];
      if (a.space === b.space) continue;
      const dot = a.direction[0] * b.direction[0] + a.direction[1] * b.direction[1];
      if (dot > -0.99995) continue;
      const rx = b.start[0] - a.start[0];
      const ry = b.start[1] - a.start[1];
      if (Math.abs(rx * a.direction[1] - ry * a.direction[0]) > TOLERANCE) continue;
      const s1 = rx * a.direction[0] + ry * a.direction[1];
      const from = Math.max(0, s1 - b.length);
      const to = Math.min(a.length, s1);
      const low = Math.max(a.low, b.low);
      const high = Math.min(a.high, b.high);
      if (to - from < TOLERANCE || high - low < TOLERANCE) continue;
      overlaps[i].push({ other: b, from, to, low, high });
      overlaps[j].push({ other: a, from: s1 - to, to: s1 - from, low, high });
    }
  }
  edges.forEach((e, i) => {
    const normal: Vector = [e.direction[1], -e.direction[0], 0];
    const common = {
      space: e.space,
      host: `${e.space}/${e.id}`,
      kind: "wall" as const,
      normal,
      tilt: 90,
      azimuth: trueAzimuth(project, normal[0], normal[1]),
      plate: null,
    };
    const wall = (from: number, to: number, low: number, high: number) => ({ start: e.start, direction: e.direction, from, to, low, high });
    for (const o of overlaps[i]) {
      const otherHost = `${o.other.space}/${o.other.id}`;
      faces.push({
        ...common,
        key: `${common.host}|${otherHost}|0`,
        contact: "space",
        partner: `${otherHost}|${common.host}|0`,
        partnerSpace: o.other.space,
        area: (o.to - o.from) * (o.high - o.low),
        wall: wall(o.from, o.to, o.low, o.high),
      });
    }
    const rest = remainder(e, overlaps[i]);
    const piece = (contact: "outdoors" | "ground", r: Rectangle, k: number): void => {
      faces.push({
        ...common,
        key: `${common.host}|${contact}|${k}`,
        contact,
        partner: null,
        partnerSpace: null,
        area: (r.to - r.from) * (r.high - r.low),
        wall: wall(r.from, r.to, r.low, r.high),
      });
    };
    // what lies below the ground stands against earth
    const basement = e.low < -LEAST_DEPTH;
    rest.filter((r) => !basement || r.high > TOLERANCE).forEach((r, k) => piece("outdoors", basement ? { ...r, low: Math.max(0, r.low) } : r, k));
    if (basement) rest.filter((r) => r.low < -TOLERANCE).forEach((r, k) => piece("ground", { ...r, high: Math.min(0, r.high) }, k));
  });
  return faces;
}

interface Rectangle {
  from: number;
  to: number;
  low: number;
  high: number;
}

/** What is left of a wall rectangle once the overlaps are taken out, as few rectangles as row merging gives. */
function remainder(e: Edge, taken: readonly Rectangle[]): Rectangle[] {
  const cuts = (values: number[]): number[] => {
    const sorted = values.sort((a, b) => a - b);
    return sorted.filter((v, i) => i === 0 || v - sorted[i - 1] > TOLERANCE / 2);
  };
  const s = cuts([0, e.length, ...taken.flatMap((t) => [t.from, t.to])]);
  const z = cuts([e.low, e.high, ...taken.flatMap((t) => [t.low, t.high])]);
  let open: Rectangle[] = [];
  const done: Rectangle[] = [];
  for (let row = 0; row + 1 < z.length; row++) {
    const zm = (z[row] + z[row + 1]) / 2;
    const runs: Rectangle[] = [];
    for (let c = 0; c + 1 < s.length; c++) {
      const sm = (s[c] + s[c + 1]) / 2;
      if (taken.some((t) => sm > t.from && sm < t.to && zm > t.low && zm < t.high)) continue;
      const last = runs[runs.length - 1];
      if (last && last.to === s[c]) last.to = s[c + 1];
      else runs.push({ from: s[c], to: s[c + 1], low: z[row], high: z[row + 1] });
    }
    const next: Rectangle[] = [];
    for (const r of runs) {
      const below = open.find((o) => o.from === r.from && o.to === r.to && o.high === r.low);
      if (below) {
        below.high = r.high;
        next.push(below);
        open = open.filter((o) => o !== below);
      } else next.push(r);
    }
    done.push(...open);
    open = next;
  }
  done.push(...open);
  return done.filter((r) => r.to - r.from > TOLERANCE && r.high - r.low > TOLERANCE).sort((a, b) => a.low - b.low || a.from - b.from);
}

const toClip = (ring: readonly Point[]): [number, number][][] => [ring.map(([x, y]): [number, number] => [x, y])];
const fromClip = (m: readonly (readonly (readonly [number, number])[])[][]): Polygon[] =>
  m.map((polygon) => polygon.map((ring) => ring.slice(0, -1).map(([x, y]): Point => [x, y])));

/** Area two outlines share, as polygons. */
export function intersectOutlines(a: readonly Point[], b: readonly Point[]): Polygon[] {
  return fromClip(clipping.intersection(toClip(a), toClip(b)));
}

function plateFaces(project: Project, usable: [string, Space][], spaces: Map<string, SpaceGeometry>, problems: Problem[]): Face[] {
  const faces: Face[] = [];
  const form = (s: Space): { floor: string; ceiling: string } => s.form as { floor: string; ceiling: string };
  interface Part {
    partner: string;
    polygons: Polygon[];
  }
  const above = new Map<string, Part[]>();
  const below = new Map<string, Part[]>();
  for (const [upper] of usable) {
    const u = spaces.get(upper) as SpaceGeometry;
    let taken: [number, number][][][] = [];
    const candidates = usable
      .filter(
        ([lower]) =>
          lower !== upper && u.low - (spaces.get(lower) as SpaceGeometry).high > -TOLERANCE && u.low - (spaces.get(lower) as SpaceGeometry).high < SLAB,
      )
      .sort(([a], [b]) => (spaces.get(b) as SpaceGeometry).high - (spaces.get(a) as SpaceGeometry).high || (a < b ? -1 : 1));
    for (const [lower] of candidates) {
      const l = spaces.get(lower) as SpaceGeometry;
      let shared = clipping.intersection(toClip(u.outline), toClip(l.outline));
      if (taken.length > 0 && shared.length > 0) shared = clipping.difference(shared, taken);
      const polygons = fromClip(shared).filter((p) => areaOf([p]) > 0.01);
      if (polygons.length === 0) continue;
      taken = clipping.union(taken, shared);
      above.set(lower, [...(above.get(lower) ?? []), { partner: upper, polygons }]);
      below.set(upper, [...(below.get(upper) ?? []), { partner: lower, polygons }]);
    }
  }
  for (const [id, space] of usable) {
    const g = spaces.get(id) as SpaceGeometry;
    for (const kind of ["floor", "ceiling"] as const) {
      const up = kind === "ceiling";
      const host = `${id}/${form(space)[kind]}`;
      const level = up ? g.high : g.low;
      const common = { space: id, host, kind, normal: [0, 0, up ? 1 : -1] as Vector, tilt: up ? 0 : 180, azimuth: 0, wall: null };
      const parts = (up ? above : below).get(id) ?? [];
      for (const part of parts) {
        const other = project.spaces[part.partner];
        const otherHost = `${part.partner}/${form(other)[up ? "floor" : "ceiling"]}`;
        faces.push({
          ...common,
          key: `${host}|${otherHost}|0`,
          contact: "space",
          partner: `${otherHost}|${host}|0`,
          partnerSpace: part.partner,
          area: areaOf(part.polygons),
          plate: { polygons: part.polygons, level },
        });
      }
      const rest =
        parts.length === 0
          ? [toClip(g.outline)]
          : clipping.difference(
              toClip(g.outline),
              ...parts.flatMap((p) => p.polygons.map((poly) => poly.map((r) => r.map(([x, y]): [number, number] => [x, y])))),
            );
      const polygons = fromRings(rest).filter((p) => areaOf([p]) > 0.01);
      if (polygons.length === 0) continue;
      const ground = !up && level <= ON_GROUND;
      faces.push({
        ...common,
        key: `${host}|${ground ? "ground" : "outdoors"}|0`,
        contact: ground ? "ground" : "outdoors",
        partner: null,
        partnerSpace: null,
        area: areaOf(polygons),
        plate: { polygons, level },
      });
    }
    if (g.low > ON_GROUND && !(below.get(id) ?? []).length)
      problems.push({
        code: "floats",
        severity: "warning",
        stage: "form",
        path: `spaces/${id}/form`,
        message: `${space.name} has nothing under it; its floor is computed as exposed to outdoor air.`,
      });
  }
  return faces;
}

/** Rings from the clipping library repeat the first corner; outlines of our own do not. */
function fromRings(m: [number, number][][][]): Polygon[] {
  return m.map((polygon) =>
    polygon.map((ring) => {
      const first = ring[0];
      const last = ring[ring.length - 1];
      const closed = ring.length > 1 && first[0] === last[0] && first[1] === last[1];
      return (closed ? ring.slice(0, -1) : ring).map(([x, y]): Point => [x, y]);
    }),
  );
}

function overlapProblems(project: Project, usable: [string, Space][], spaces: Map<string, SpaceGeometry>, problems: Problem[]): void {
  for (let i = 0; i < usable.length; i++) {
    const a = spaces.get(usable[i][0]) as SpaceGeometry;
    for (let j = i + 1; j < usable.length; j++) {
      const b = spaces.get(usable[j][0]) as SpaceGeometry;
      if (Math.min(a.high, b.high) - Math.max(a.low, b.low) < TOLERANCE) continue;
      const shared = areaOf(intersectOutlines(a.outline, b.outline));
      if (shared < 0.05) continue;
      problems.push({
        code: "overlap",
        severity: "error",
        stage: "form",
        path: `spaces/${b.id}/form`,
        message: `${project.spaces[a.id].name} and ${project.spaces[b.id].name} stand in the same place over ${shared.toFixed(1)} m².`,
      });
    }
  }
}
