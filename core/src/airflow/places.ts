import type { Face, Geometry, InnerOpening, PlacedOpening, Vector } from "../geometry/index.ts";

/** What a geometry offers a network. */
export interface AirShape {
  readonly geometry: Geometry;
  readonly openings: readonly PlacedOpening[];
  readonly inner: readonly InnerOpening[];
}

/** What a link names an opening by: its face and its record; equal windows of one record in one face are one. */
export const openingKey = (o: { readonly face: string; readonly record: string }): string => `${o.face}|${o.record}`;

/** Mean of corners. */
export const middleOf = (corners: readonly Vector[]): Vector =>
  corners.reduce<[number, number, number]>((m, c) => [m[0] + c[0] / corners.length, m[1] + c[1] / corners.length, m[2] + c[2] / corners.length], [0, 0, 0]);

/** Middle of a face. */
export function faceMiddle(face: Face): Vector {
  const w = face.wall;
  if (w) {
    const s = (w.from + w.to) / 2;
    return [w.start[0] + w.direction[0] * s, w.start[1] + w.direction[1] * s, (w.low + w.high) / 2];
  }
  const plate = face.plate as NonNullable<Face["plate"]>;
  const [x, y] = plate.polygons[0][0].reduce(([a, b], p) => [a + p[0] / plate.polygons[0][0].length, b + p[1] / plate.polygons[0][0].length], [0, 0]);
  return [x, y, plate.plane[0] * x + plate.plane[1] * y + plate.plane[2]];
}
