import { applyChanges, checkReferences, type Point, type Project } from "../model/index.ts";
import { boxProject } from "./box.ts";
import { deriveFaces, type Face, type PlanEdit } from "../geometry/index.ts";

/** Small buildings for the tests of drawing and of what follows from it. */
export const rectangle = (x0: number, y0: number, x1: number, y1: number): Point[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];
/** A storey of prisms of 3 m, each in a zone of its own. */
export function model(spaces: Record<string, readonly Point[]>): Project {
  const p = boxProject();
  p.storeys = { low: { name: "Low", elevation: 0, height: 3, multiplier: 1 } };
  p.openings = {};
  p.zones = Object.fromEntries(Object.keys(spaces).map((id) => [id, { name: id, services: null, inputs: {} }]));
  p.spaces = Object.fromEntries(
    Object.entries(spaces).map(([id, ring]) => [
      id,
      {
        name: id,
        storey: "low",
        zone: id,
        spaceType: "box",
        kit: null,
        form: { kind: "prism" as const, outline: ring.map(([x, y], i) => ({ id: `e${i + 1}`, x, y })), floor: "floor", ceiling: "ceiling" },
        inputs: {},
      },
    ]),
  );
  return p;
}
/** Applies an action. @throws where it is refused, leaves a broken document, or is not undone to the bit */
export function done(p: Project, e: PlanEdit): Project {
  if (!e.ok) throw new Error(e.message);
  const applied = applyChanges(p, e.changes);
  if (!applied.ok) throw new Error(applied.message);
  const [broken] = checkReferences(applied.project);
  if (broken) throw new Error(broken.message);
  const back = applyChanges(applied.project, applied.inverse);
  if (!back.ok || JSON.stringify(back.project) !== JSON.stringify(p)) throw new Error(`"${e.name}" is not undone to the bit`);
  return applied.project;
}
/** Floor area of a space, m². */
export const area = (p: Project, id: string): number => deriveFaces(p).spaces.get(id)?.floorArea ?? NaN;
/** Area of all of some faces, m². */
export const total = (faces: readonly Face[]): number => faces.reduce((s, f) => s + f.area, 0);
/** Two rooms side by side, 6 by 4 and 4 by 4 m. */
export const two = (): Project => model({ a: rectangle(0, 0, 6, 4), b: rectangle(6, 0, 10, 4) });
/** Largest part of the area vectors of a space's faces that does not cancel, m²: nothing where the faces close. */
export function openArea(p: Project): number {
  const { faces, spaces } = deriveFaces(p);
  let worst = 0;
  for (const id of spaces.keys())
    for (const k of [0, 1, 2] as const) worst = Math.max(worst, Math.abs(faces.filter((f) => f.space === id).reduce((s, f) => s + f.area * f.normal[k], 0)));
  return worst;
}
