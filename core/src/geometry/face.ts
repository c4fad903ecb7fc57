import type { Point, Problem, Project } from "../model/index.ts";
import { atan2, DEG } from "../numeric/index.ts";
import { areaOf, trapezoids, withoutHoles, type Polygon } from "./polygon.ts";
import type { Plane } from "./roofs.ts";

export type Vector = readonly [number, number, number];
export type Contact = "outdoors" | "ground" | "space" | "adiabatic";

/** One planar side of a space with one kind of contact. Derived, never stored. */
export interface Face {
  /** host + partner + ordinal. */
  readonly key: string;
  readonly space: string;
  /** "space/edge", "space/floor id", "space/ceiling id" or "space/free face". */
  readonly host: string;
  readonly kind: "wall" | "floor" | "ceiling";
  readonly contact: Contact;
  /** The contact was set by hand, not found. */
  readonly byHand: boolean;
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
  /** Lowest and highest level, m above ground. */
  readonly low: number;
  readonly high: number;
  /** Upright face: rectangle along its edge (the box round it where it is no rectangle). */
  readonly wall: {
    readonly start: Point;
    readonly direction: Point;
    readonly from: number;
    readonly to: number;
    readonly low: number;
    readonly high: number;
    /** Outline by distance along the edge and level; null: the whole rectangle. */
    readonly shape: readonly Polygon[] | null;
  } | null;
  /** Any other face: its outline in plan and the plane it lies in. */
  readonly plate: { readonly polygons: readonly Polygon[]; readonly level: number; readonly plane: Plane } | null;
}

export interface SpaceGeometry {
  readonly id: string;
  /** m². */
  readonly floorArea: number;
  /** m³. */
  readonly volume: number;
  readonly low: number;
  readonly high: number;
  /** Outline in plan. */
  readonly outline: readonly Point[];
}

export interface Geometry {
  readonly faces: readonly Face[];
  readonly byKey: ReadonlyMap<string, Face>;
  readonly spaces: ReadonlyMap<string, SpaceGeometry>;
  readonly problems: readonly Problem[];
}

/** Lengths below this are one place, m. */
export const TOLERANCE = 0.01;
/** A floor within this height over a ceiling rests on it (the slab between), m. */
export const SLAB = 1.2;
/** A lowest floor up to this height over the ground lies on it, m. */
export const ON_GROUND = 0.6;
/** A floor lower than this under the ground makes a basement of its space, m. */
export const LEAST_DEPTH = 0.05;

/** True direction of a normal, degrees. */
export function trueAzimuth(project: Project, nx: number, ny: number): number {
  const a = atan2(nx, ny) / DEG + project.site.planNorth;
  // to 1e-7°, so that rounding never decides which side of a limit a face is on
  return (Math.round((((a % 360) + 360) % 360) * 1e7) / 1e7) % 360;
}

/** Place in space of a point on an upright face. */
const onWall = (w: NonNullable<Face["wall"]>, s: number, z: number): Vector => [w.start[0] + w.direction[0] * s, w.start[1] + w.direction[1] * s, z];
/** Place in space of a point of the plan on a plane. */
export const onPlane = (p: Plane, x: number, y: number): Vector => [x, y, p[0] * x + p[1] * y + p[2]];

/** Corners of a rectangle on an upright face, counter-clockwise seen from outside. */
export function wallCorners(face: Face, r: { from: number; to: number; low: number; high: number }): Vector[] {
  const w = face.wall as NonNullable<Face["wall"]>;
  return [onWall(w, r.from, r.low), onWall(w, r.to, r.low), onWall(w, r.to, r.high), onWall(w, r.from, r.high)];
}

/** Outlines of a face in space with their holes: the outer ring counter-clockwise seen from outside. */
export function facePolygons(face: Face): Vector[][][] {
  const w = face.wall;
  if (w) return w.shape ? w.shape.map((p) => p.map((r) => r.map(([s, z]) => onWall(w, s, z)))) : [[wallCorners(face, w)]];
  const plate = face.plate as NonNullable<Face["plate"]>;
  const down = face.normal[2] < 0;
  return plate.polygons.map((p) =>
    p.map((r) => {
      const ring = r.map(([x, y]) => onPlane(plate.plane, x, y));
      return down ? ring.reverse() : ring;
    }),
  );
}

/** Outlines of a face in space without holes: a face with holes is cut through them. */
export function plainOutlines(face: Face): Vector[][] {
  const w = face.wall;
  if (w) return w.shape ? w.shape.flatMap(withoutHoles).map((r) => r.map(([s, z]) => onWall(w, s, z))) : [wallCorners(face, w)];
  const plate = face.plate as NonNullable<Face["plate"]>;
  const down = face.normal[2] < 0;
  return plate.polygons.flatMap(withoutHoles).map((r) => {
    const ring = r.map(([x, y]) => onPlane(plate.plane, x, y));
    return down ? ring.reverse() : ring;
  });
}

/** Convex pieces of a face in space. */
export function convexPieces(face: Face): Vector[][] {
  const w = face.wall;
  if (w) return w.shape ? trapezoids(w.shape).map((r) => r.map(([s, z]) => onWall(w, s, z))) : [wallCorners(face, w)];
  const plate = face.plate as NonNullable<Face["plate"]>;
  return trapezoids(plate.polygons).map((r) => r.map(([x, y]) => onPlane(plate.plane, x, y)));
}

/** Length along which a face stands on its lowest level, m. */
export function footLength(face: Face): number {
  if (face.wall && !face.wall.shape) return face.wall.to - face.wall.from;
  let sum = 0;
  for (const [ring] of facePolygons(face))
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length];
      if (Math.max(p[2], q[2]) < face.low + 0.02) sum += Math.sqrt((q[0] - p[0]) * (q[0] - p[0]) + (q[1] - p[1]) * (q[1] - p[1]));
    });
  return sum;
}

/** Area in space of polygons in plan on a plane, m². */
export const areaOnPlane = (polygons: readonly Polygon[], plane: Plane): number => areaOf(polygons) * Math.sqrt(1 + plane[0] * plane[0] + plane[1] * plane[1]);
