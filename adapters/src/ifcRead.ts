import {
  areaOf,
  intersection,
  signedArea,
  straightened,
  union,
  type ImportMessage,
  type OpeningRecord,
  type Point,
  type Polygon,
  type SpaceRecord,
  type SurfaceRecord,
  type Vector,
} from "@arroyo/core";
import { IFCBUILDING, IFCBUILDINGSTOREY, IFCDOOR, IFCRELAGGREGATES, IFCSITE, IFCSPACE, IFCUNITASSIGNMENT, IFCWINDOW, IfcAPI } from "web-ifc";
import type { ReadOutcome } from "./gbxmlRead.ts";
import { MOST_BYTES } from "./xml.ts";

/** An opening belongs to a side of a space within this distance of it, m: half a thick wall. */
const WALL = 0.6;
/** Openings less than this wide or high are fittings, m. */
const LEAST_OPENING = 0.2;
/** An opening may reach past its side by this without a message, m. */
const CUT = 0.02;
const PREFIX: Readonly<Record<string, number>> = { MILLI: 1e-3, CENTI: 1e-2, DECI: 1e-1, KILO: 1e3 };

interface Line {
  readonly [key: string]: unknown;
}
const value = (v: unknown): unknown => (typeof v === "object" && v !== null && "value" in v ? (v as { value: unknown }).value : v);
const text = (v: unknown): string | null => {
  const t = value(v);
  return typeof t === "string" && t.trim() !== "" ? t.trim() : null;
};
const number = (v: unknown): number | null => {
  const n = value(v);
  return typeof n === "number" && Number.isFinite(n) ? n : null;
};
const reference = (v: unknown): number | null => number(v);

/** Triangles of one thing in metres, z up. */
interface Mesh {
  readonly triangles: readonly (readonly [Vector, Vector, Vector])[];
  readonly low: number;
  readonly high: number;
}

/**
 * Reads the storeys, spaces, windows and doors of an IFC file (ISO 16739-1) into neutral records. A space is its
 * outline between its lowest and highest level; windows and doors go to the side of a space nearest to them.
 * @param locate where the WebAssembly file of the reader lies, for browsers
 */
export async function readIfc(bytes: Uint8Array, locate?: string): Promise<ReadOutcome> {
  if (bytes.length > MOST_BYTES) return { ok: false, message: `The file is larger than ${MOST_BYTES / 1024 / 1024} MB; export a part of the building.` };
  const head = new TextDecoder("latin1").decode(bytes.subarray(0, 2048));
  if (!head.trimStart().startsWith("ISO-10303-21")) return { ok: false, message: 'The file is no IFC file: it does not begin with "ISO-10303-21".' };
  const api = new IfcAPI();
  await api.Init(locate === undefined ? undefined : () => locate, true);
  api.SetLogLevel(6);
  let model = -1;
  try {
    model = api.OpenModel(bytes, { COORDINATE_TO_ORIGIN: false });
    if (model < 0) return { ok: false, message: "The file cannot be read as IFC." };
    return read(api, model);
  } catch {
    return { ok: false, message: "The file cannot be read as IFC: its data breaks off or contradicts itself." };
  } finally {
    if (model >= 0) api.CloseModel(model);
  }
}

function read(api: IfcAPI, model: number): ReadOutcome {
  const messages: ImportMessage[] = [];
  const tell = (kind: ImportMessage["kind"], affects: boolean, words: string): void => void messages.push({ kind, affects, text: words });
  const idsOf = (type: number): number[] => {
    const v = api.GetLineIDsWithType(model, type, true);
    return Array.from({ length: v.size() }, (_, i) => v.get(i));
  };
  const line = (id: number): Line => api.GetLine(model, id) as Line;
  const metre = lengthUnit(idsOf(IFCUNITASSIGNMENT).map((id) => api.GetLine(model, id, true) as Line));
  const storeyLines = idsOf(IFCBUILDINGSTOREY).map((id) => ({ id, l: line(id) }));
  const storeys = storeyLines.map(({ id, l }, i) => ({
    id: `storey_${id}`,
    name: text(l.Name) ?? text(l.LongName) ?? `Storey ${i + 1}`,
    level: (number(l.Elevation) ?? 0) * metre,
  }));
  const storeyOf = new Map<number, string>();
  for (const id of idsOf(IFCRELAGGREGATES)) {
    const l = line(id);
    const parent = reference(l.RelatingObject);
    if (parent === null || !storeyLines.some((s) => s.id === parent)) continue;
    for (const child of (Array.isArray(l.RelatedObjects) ? l.RelatedObjects : []) as unknown[]) {
      const c = reference(child);
      if (c !== null) storeyOf.set(c, `storey_${parent}`);
    }
  }
  const spaces: SpaceRecord[] = [];
  const surfaces: SurfaceRecord[] = [];
  interface Side {
    readonly surface: number;
    readonly p: Point;
    readonly q: Point;
    readonly low: number;
    readonly high: number;
  }
  const sides: Side[] = [];
  for (const id of idsOf(IFCSPACE)) {
    const l = line(id);
    const name = text(l.LongName) ?? text(l.Name) ?? `Space ${id}`;
    const mesh = meshOf(api, model, id);
    const shape = mesh && outlineOf(mesh);
    if (!mesh || !shape) {
      tell("left out", true, `${name} has no body with a floor; it is left out.`);
      continue;
    }
    if (shape.rings > 1) tell("mended", true, `The floor of ${name} is not one plain outline; its largest part is read.`);
    const key = `space_${id}`;
    spaces.push({
      id: key,
      name: text(l.LongName) && text(l.Name) && text(l.LongName) !== text(l.Name) ? `${text(l.Name)} ${text(l.LongName)}` : name,
      storey: storeyOf.get(id) ?? null,
      zone: null,
      use: text(l.ObjectType),
      area: null,
      volume: null,
      outline: null,
      lighting: null,
      appliances: null,
      people: null,
      schedules: { people: null, lighting: null, appliances: null },
    });
    const { low, high } = mesh;
    const at = (p: Point, z: number): Vector => [p[0], p[1], z];
    const add = (kind: SurfaceRecord["kind"], part: string, ring: readonly Vector[]): number =>
      surfaces.push({ id: `${key}_${part}`, name: `${name}, ${part}`, kind, underground: false, adjacent: [key], ring, construction: null, openings: [] }) - 1;
    add(
      "floor",
      "floor",
      [...shape.ring].reverse().map((p) => at(p, low)),
    );
    add(
      "roof",
      "ceiling",
      shape.ring.map((p) => at(p, high)),
    );
    shape.ring.forEach((p, i) => {
      const q = shape.ring[(i + 1) % shape.ring.length];
      sides.push({ surface: add("wall", `side ${i + 1}`, [at(p, low), at(q, low), at(q, high), at(p, high)]), p, q, low, high });
    });
  }
  let lost = 0;
  let cut = 0;
  const openings = new Map<number, OpeningRecord[]>();
  for (const [type, use] of [
    [IFCWINDOW, "window"],
    [IFCDOOR, "door"],
  ] as const)
    for (const id of idsOf(type)) {
      const l = line(id);
      const name = text(l.Name) ?? `${use} ${id}`;
      const mesh = meshOf(api, model, id);
      if (!mesh) {
        tell("left out", true, `${name} has no body; it is left out.`);
        continue;
      }
      const points = mesh.triangles.flat();
      const middle = [0, 1].map((k) => (Math.min(...points.map((p) => p[k])) + Math.max(...points.map((p) => p[k]))) / 2) as unknown as Point;
      // the nearest side that looks across the opening; of two rooms the door belongs to the first found
      let best: { side: Side; from: number; to: number; off: number; over: number } | null = null;
      for (const side of sides) {
        const length = Math.hypot(side.q[0] - side.p[0], side.q[1] - side.p[1]);
        const d: Point = [(side.q[0] - side.p[0]) / length, (side.q[1] - side.p[1]) / length];
        const off = Math.abs((middle[0] - side.p[0]) * d[1] - (middle[1] - side.p[1]) * d[0]);
        const along = points.map((p) => (p[0] - side.p[0]) * d[0] + (p[1] - side.p[1]) * d[1]);
        const across = points.map((p) => (p[0] - side.p[0]) * d[1] - (p[1] - side.p[1]) * d[0]);
        const [from, to] = [Math.min(...along), Math.max(...along)];
        const centre = (from + to) / 2;
        if (off > WALL || centre < 0 || centre > length || mesh.high <= side.low || mesh.low >= side.high) continue;
        // an opening is wider than it is thick
        if (to - from < Math.max(...across) - Math.min(...across) || (best && off >= best.off)) continue;
        best = { side, from: Math.max(0, from), to: Math.min(length, to), off, over: Math.max(-from, to - length) };
      }
      const low = best ? Math.max(best.side.low, mesh.low) : 0;
      const high = best ? Math.min(best.side.high, mesh.high) : 0;
      if (!best || best.to - best.from < LEAST_OPENING || high - low < LEAST_OPENING) {
        lost++;
        continue;
      }
      const { side, from, to } = best;
      if (mesh.low < low - CUT || mesh.high > high + CUT || best.over > CUT) cut++;
      const length = Math.hypot(side.q[0] - side.p[0], side.q[1] - side.p[1]);
      const at = (s: number, z: number): Vector => [side.p[0] + ((side.q[0] - side.p[0]) * s) / length, side.p[1] + ((side.q[1] - side.p[1]) * s) / length, z];
      const own = openings.get(side.surface) ?? [];
      openings.set(side.surface, [
        ...own,
        { id: `${use}_${id}`, name, use, operable: false, ring: [at(from, low), at(to, low), at(to, high), at(from, high)], construction: null },
      ]);
    }
  if (cut > 0) tell("mended", true, `${cut} windows or doors reach past the side of their space; they are cut to it.`);
  if (lost > 0) tell("left out", true, `${lost} windows or doors lie at no side of a space; they are left out.`);
  if (spaces.length === 0) return { ok: false, message: "The file holds no space with a body (IfcSpace); export it with its spaces." };
  const [site] = idsOf(IFCSITE).map(line);
  const [building] = idsOf(IFCBUILDING).map(line);
  tell("read", true, "Outlines are those of the rooms' inner sides: where a wall lies between two rooms the checks tell a gap, with a fix that closes it.");
  return {
    ok: true,
    records: {
      format: "IFC",
      name: (building && (text(building.LongName) ?? text(building.Name))) ?? "Imported building",
      site: {
        name: site ? text(site.Name) : null,
        latitude: angle(site?.RefLatitude),
        longitude: angle(site?.RefLongitude),
        elevation: site ? ((e) => (e === null ? null : e * metre))(number(site.RefElevation)) : null,
        north: null,
      },
      storeys,
      zones: [],
      spaces,
      surfaces: surfaces.map((s, i) => ({ ...s, openings: openings.get(i) ?? [] })),
      constructions: [],
      materials: [],
      windowTypes: [],
      schedules: [],
      messages,
    },
  };
}

/** Metres of the file's length unit. */
function lengthUnit(assignments: readonly Line[]): number {
  for (const a of assignments)
    for (const u of (Array.isArray(a.Units) ? a.Units : []) as Line[]) {
      if (text(u.UnitType) !== "LENGTHUNIT") continue;
      const name = (text(u.Name) ?? "").toUpperCase();
      if (name.includes("FOOT")) return 0.3048;
      if (name.includes("INCH")) return 0.0254;
      return PREFIX[text(u.Prefix) ?? ""] ?? 1;
    }
  return 1;
}

/** Degrees of an angle given in degrees, minutes, seconds and millionths. */
function angle(v: unknown): number | null {
  const parts = value(v);
  if (!Array.isArray(parts) || parts.length < 3) return null;
  const n = parts.map((p) => number(p) ?? 0);
  return n[0] + n[1] / 60 + (n[2] + (n[3] ?? 0) / 1e6) / 3600;
}

/** Body of a thing as triangles; the reader's y is up. */
function meshOf(api: IfcAPI, model: number, id: number): Mesh | null {
  const triangles: [Vector, Vector, Vector][] = [];
  let [low, high] = [Infinity, -Infinity];
  const mesh = api.GetFlatMesh(model, id);
  for (let g = 0; g < mesh.geometries.size(); g++) {
    const placed = mesh.geometries.get(g);
    const geometry = api.GetGeometry(model, placed.geometryExpressID);
    const v = api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
    const index = api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize());
    const m = placed.flatTransformation;
    const at = (i: number): Vector => {
      const [x, y, z] = [v[6 * i], v[6 * i + 1], v[6 * i + 2]];
      const w: Vector = [m[0] * x + m[4] * y + m[8] * z + m[12], m[1] * x + m[5] * y + m[9] * z + m[13], m[2] * x + m[6] * y + m[10] * z + m[14]];
      const p: Vector = [w[0], -w[2], w[1]];
      low = Math.min(low, p[2]);
      high = Math.max(high, p[2]);
      return p;
    };
    for (let i = 0; i + 2 < index.length; i += 3) triangles.push([at(index[i]), at(index[i + 1]), at(index[i + 2])]);
    geometry.delete();
  }
  return triangles.length > 0 && high - low > 0.05 ? { triangles, low, high } : null;
}

/** Outline of the level triangles at the bottom of a body, counter-clockwise. */
function outlineOf(mesh: Mesh): { ring: readonly Point[]; rings: number } | null {
  const round = (v: number): number => Math.round(v * 1e3) / 1e3;
  const floors = mesh.triangles
    .filter((t) => t.every((p) => p[2] < mesh.low + 0.02))
    .flatMap((t): Polygon[] => {
      const flat = t.map((p): Point => [round(p[0]), round(p[1])]);
      const a = signedArea(flat);
      return Math.abs(a) < 1e-4 ? [] : [[a < 0 ? [...flat].reverse() : flat]];
    });
  if (floors.length === 0) return null;
  const whole = union(floors).sort((a, b) => areaOf([b]) - areaOf([a]));
  const ring = straightened(whole[0][0]);
  if (ring.length < 3 || areaOf(intersection([[ring]], [[ring]])) < 0.05) return null;
  return { ring, rings: whole.length + whole[0].length - 1 };
}
