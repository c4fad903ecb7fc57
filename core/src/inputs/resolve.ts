import { fieldSpec, spaceFieldNames, zoneFieldNames, type InputValue, type KitRole, type Project, type SpaceField, type ZoneField } from "../model/index.ts";
import type { Face } from "../geometry/index.ts";

/** Where an effective value comes from. */
export type Origin =
  | { readonly kind: "typed" }
  | { readonly kind: "spaceType"; readonly from: string; readonly name: string }
  | { readonly kind: "kit"; readonly from: string; readonly name: string; readonly scope: "space" | "project" }
  | { readonly kind: "project" }
  | { readonly kind: "default" };

export interface Effective {
  readonly value: InputValue;
  readonly origin: Origin;
}

export interface Resolved {
  readonly space: ReadonlyMap<string, Readonly<Record<SpaceField, Effective>>>;
  readonly zone: ReadonlyMap<string, Readonly<Record<ZoneField, Effective>>>;
}

const TYPED: Origin = { kind: "typed" };
const DEFAULT: Origin = { kind: "default" };
const spaceRows = new WeakMap<object, { type: object | null; row: Record<SpaceField, Effective> }>();
const zoneRows = new WeakMap<object, Record<ZoneField, Effective>>();
const resolved = new WeakMap<Project, Resolved>();

function spaceRow(project: Project, id: string): Record<SpaceField, Effective> {
  const space = project.spaces[id];
  const type = space.spaceType === null ? null : project.spaceTypes[space.spaceType];
  const known = spaceRows.get(space);
  if (known && known.type === type) return known.row;
  const row = Object.fromEntries(
    spaceFieldNames.map((f): [SpaceField, Effective] => {
      const typed = space.inputs[f];
      if (typed !== undefined) return [f, { value: typed, origin: TYPED }];
      const inherited = type?.inputs[f];
      if (type && inherited !== undefined) return [f, { value: inherited, origin: { kind: "spaceType", from: space.spaceType as string, name: type.name } }];
      return [f, { value: fieldSpec("space", f).default, origin: DEFAULT }];
    }),
  ) as Record<SpaceField, Effective>;
  spaceRows.set(space, { type, row });
  return row;
}

function zoneRow(project: Project, id: string): Record<ZoneField, Effective> {
  const zone = project.zones[id];
  const known = zoneRows.get(zone);
  if (known) return known;
  const row = Object.fromEntries(
    zoneFieldNames.map((f): [ZoneField, Effective] => {
      const typed = zone.inputs[f];
      return [f, typed !== undefined ? { value: typed, origin: TYPED } : { value: fieldSpec("zone", f).default, origin: DEFAULT }];
    }),
  ) as Record<ZoneField, Effective>;
  zoneRows.set(zone, row);
  return row;
}

/** Effective values and origins of every inheritable input. Rows are rebuilt only where a space, its type or a zone changed. */
export function resolve(project: Project): Resolved {
  const known = resolved.get(project);
  if (known) return known;
  const result: Resolved = {
    space: new Map(Object.keys(project.spaces).map((id) => [id, spaceRow(project, id)])),
    zone: new Map(Object.keys(project.zones).map((id) => [id, zoneRow(project, id)])),
  };
  resolved.set(project, result);
  return result;
}

/** The effective value of one input and its origin: the one way anything reads an inheritable input. @throws RangeError when the thing does not exist */
export function effective(project: Project, kind: "space", id: string, field: SpaceField): Effective;
export function effective(project: Project, kind: "zone", id: string, field: ZoneField): Effective;
export function effective(project: Project, kind: "space" | "zone", id: string, field: SpaceField | ZoneField): Effective {
  const rows = resolve(project);
  const row = kind === "space" ? rows.space.get(id) : rows.zone.get(id);
  if (!row) throw new RangeError(`there is no ${kind} "${id}"`);
  return (row as Record<string, Effective>)[field];
}

/** Envelope kit of a space. */
export function effectiveKit(project: Project, space: string): { id: string; origin: Origin } {
  const own = project.spaces[space].kit;
  const id = own ?? project.defaults.kit;
  return { id, origin: { kind: "kit", from: id, name: project.kits[id].name, scope: own === null ? "project" : "space" } };
}

/** What part of an envelope kit makes a face. */
export function kitRole(face: Pick<Face, "kind" | "contact">): Exclude<KitRole, "glazing" | "skylight" | "door"> {
  if (face.kind === "wall") return face.contact === "space" ? "interiorWall" : "exteriorWall";
  if (face.contact === "space") return "interiorFloor";
  if (face.contact === "ground") return "groundFloor";
  return face.kind === "ceiling" ? "roof" : "exposedFloor";
}

/** Assembly of a face: an override on its host (or on its partner's), else the kit of its space. */
export function faceAssembly(
  project: Project,
  face: Pick<Face, "kind" | "contact" | "host" | "space">,
  partnerHost: string | null = null,
): { id: string; origin: Origin } {
  for (const host of partnerHost === null ? [face.host] : [face.host, partnerHost])
    for (const o of Object.values(project.faceOverrides)) if (o.host === host && o.assembly !== null) return { id: o.assembly, origin: TYPED };
  const kit = effectiveKit(project, face.space);
  return { id: project.kits[kit.id][kitRole(face)], origin: kit.origin };
}

/** Glazing of a window or assembly of a door in a face: its own, else the kit's. */
export function openingConstruction(
  project: Project,
  opening: { use: "window" | "door"; inRoof: boolean; construction: string | null },
  space: string,
): { id: string; origin: Origin } {
  if (opening.construction !== null) return { id: opening.construction, origin: TYPED };
  const kit = effectiveKit(project, space);
  return { id: project.kits[kit.id][opening.use === "door" ? "door" : opening.inRoof ? "skylight" : "glazing"], origin: kit.origin };
}

/** Plain services of a zone. */
export function effectiveServices(project: Project, zone: string): { id: string; origin: Origin } {
  const own = project.zones[zone].services;
  return own !== null ? { id: own, origin: TYPED } : { id: project.defaults.services, origin: { kind: "project" } };
}
