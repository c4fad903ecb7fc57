import type { Problem, Project, Space } from "../model/index.ts";
import type { Geometry, SpaceGeometry } from "./face.ts";
import { formProblems } from "./formChecks.ts";
import { plateFaces } from "./plates.ts";
import { sidesOf, type Sides } from "./sides.ts";
import { wallFaces } from "./walls.ts";

const derived = new WeakMap<Space, Map<string, Sides>>();

/** Sides of one space, remembered while its record, its storey's levels and its roof stay. */
function sidesKnown(project: Project, id: string, space: Space): Sides {
  const storey = project.storeys[space.storey];
  const roof = space.form.kind === "prism" && space.form.roof !== undefined ? project.roofs[space.form.roof] : null;
  const key = `${id} ${storey.elevation} ${storey.height} ${roof ? JSON.stringify([roof, project.storeys[roof.storey].elevation]) : ""}`;
  let by = derived.get(space);
  if (!by) derived.set(space, (by = new Map()));
  let sides = by.get(key);
  if (!sides) by.set(key, (sides = sidesOf(project, id, space)));
  return sides;
}

const shapes = new WeakMap<Project["spaces"], { of: readonly [Project["storeys"], Project["roofs"]]; shapes: ReadonlyMap<string, SpaceGeometry> }>();

/** Floor area, volume and levels of the spaces that have a form, without what their faces touch. */
export function spaceShapes(project: Project): ReadonlyMap<string, SpaceGeometry> {
  const known = shapes.get(project.spaces);
  if (known && known.of[0] === project.storeys && known.of[1] === project.roofs) return known.shapes;
  const found = new Map<string, SpaceGeometry>();
  for (const [id, space] of Object.entries(project.spaces)) {
    const { geometry } = sidesKnown(project, id, space);
    if (geometry) found.set(id, geometry);
  }
  shapes.set(project.spaces, { of: [project.storeys, project.roofs], shapes: found });
  return found;
}

/**
 * Faces of all spaces with what each touches: outdoors, the ground or another space, also where
 * outlines overlap only in part, across walls and across storeys.
 */
export function deriveFaces(project: Project): Geometry {
  const problems: Problem[] = [];
  const spaces = new Map<string, SpaceGeometry>();
  const all: Sides[] = [];
  for (const [id, space] of Object.entries(project.spaces)) {
    const sides = sidesKnown(project, id, space);
    problems.push(...sides.problems);
    if (!sides.geometry) continue;
    spaces.set(id, sides.geometry);
    all.push(sides);
  }
  const hand = new Map<string, "ground" | "adiabatic">();
  for (const o of Object.values(project.faceOverrides)) if (o.contact) hand.set(o.host, o.contact);
  const uprights = all.flatMap((s) => s.uprights);
  const faces = [...wallFaces(project, uprights, hand), ...plateFaces(project, all, spaces, hand, problems)];
  problems.push(...formProblems(project, spaces, uprights));
  return { faces, byKey: new Map(faces.map((f) => [f.key, f])), spaces, problems };
}
