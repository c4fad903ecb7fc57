import { spaceShapes } from "../geometry/index.ts";
import type { InputValue, Project, SpaceField } from "../model/index.ts";

/** Floor area of all spaces with the storeys they stand for, m². */
export function modelledArea(project: Project): number {
  let area = 0;
  for (const [id, g] of spaceShapes(project)) area += g.floorArea * project.storeys[project.spaces[id].storey].multiplier;
  return area;
}

/** Share of the whole building that is modelled, by floor area, 1; more than 1 where the stated area is smaller than the model. */
export const modelledPart = (project: Project): number => (project.known.area === null ? 1 : modelledArea(project) / project.known.area);

/** Inputs the number of people depends on. */
export const PEOPLE_INPUTS = ["peopleGiven", "peopleDensity", "peopleCount", "peopleArea"] as const satisfies readonly SpaceField[];

/**
 * People of every space at full occupancy, by whatever way they are given; a headcount of the building is spread by floor
 * area over the spaces that ask for their share.
 * @param read an input of a space
 */
export function peopleBySpace(project: Project, read: (space: string, field: SpaceField) => InputValue): Map<string, number> {
  const people = new Map<string, number>();
  const figure = (id: string, field: SpaceField): number => (read(id, field) as number | null) ?? 0;
  const shapes = spaceShapes(project);
  const asking: string[] = [];
  let area = 0;
  for (const id of Object.keys(project.spaces)) {
    const floor = shapes.get(id)?.floorArea ?? 0;
    const given = read(id, "peopleGiven");
    if (given === "count") people.set(id, figure(id, "peopleCount"));
    else if (given === "area each") people.set(id, floor / figure(id, "peopleArea"));
    else if (given === "per area") people.set(id, figure(id, "peopleDensity") * floor);
    else {
      asking.push(id);
      area += floor * project.storeys[project.spaces[id].storey].multiplier;
    }
  }
  const all = (project.known.headcount ?? 0) * Math.min(1, modelledPart(project));
  for (const id of asking) people.set(id, area > 0 ? (all * (shapes.get(id)?.floorArea ?? 0)) / area : 0);
  return people;
}
