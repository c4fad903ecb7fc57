import {
  fieldSpec,
  spaceFieldNames,
  zoneFieldNames,
  type InputValue,
  type KitRole,
  type Problem,
  type Rule,
  type Project,
  type SpaceField,
  type ZoneField,
} from "../model/index.ts";
import type { Face } from "../geometry/index.ts";
import { applyRules, directionOfFace, ruledConstruction, tryRule, type Tried } from "./rules.ts";

/** Where an effective value comes from. */
export type Origin =
  | { readonly kind: "typed" }
  /** By a rule; nothing was typed on the thing itself. */
  | { readonly kind: "rule"; readonly from: string; readonly name: string }
  /** Taken over, not typed: from a clause, a run or a file, as its words say. */
  | { readonly kind: "code" | "sized" | "imported" | "calibrated"; readonly words: string }
  | { readonly kind: "spaceType"; readonly from: string; readonly name: string; readonly words?: string }
  | { readonly kind: "kit"; readonly from: string; readonly name: string; readonly scope: "space" | "project" }
  | { readonly kind: "project" }
  | { readonly kind: "default" };

export interface Effective {
  readonly value: InputValue;
  readonly origin: Origin;
}

export interface Resolved {
  /** What is wrong with rules. */
  readonly problems: readonly Problem[];
  readonly space: ReadonlyMap<string, Readonly<Record<SpaceField, Effective>>>;
  readonly zone: ReadonlyMap<string, Readonly<Record<ZoneField, Effective>>>;
}

const TYPED: Origin = { kind: "typed" };
const DEFAULT: Origin = { kind: "default" };
type SpaceRow = Record<SpaceField, Effective>;
type ZoneRow = Record<ZoneField, Effective>;
const spaceRows = new WeakMap<object, { type: object | null; provenance: Project["provenance"]; row: SpaceRow }>();
const zoneRows = new WeakMap<object, { provenance: Project["provenance"]; row: ZoneRow }>();
const resolved = new WeakMap<Project, Resolved>();

/** Provenance of a value at an address, where it is still the value it was. */
const kept = (project: Project, address: string, value: InputValue): Project["provenance"][string] | null => {
  const p = Object.hasOwn(project.provenance, address) ? project.provenance[address] : null;
  return p && p.value === value ? p : null;
};

function spaceRow(project: Project, id: string): SpaceRow {
  const space = project.spaces[id];
  const type = space.spaceType === null ? null : project.spaceTypes[space.spaceType];
  const known = spaceRows.get(space);
  if (known && known.type === type && known.provenance === project.provenance) return known.row;
  const row = Object.fromEntries(
    spaceFieldNames.map((f): [SpaceField, Effective] => {
      const typed = space.inputs[f];
      if (typed !== undefined) return [f, { value: typed, origin: ownOrigin(project, `spaces/${id}/inputs/${f}`, typed) }];
      const inherited = type?.inputs[f];
      if (type && inherited !== undefined) {
        const clause = kept(project, `spaceTypes/${space.spaceType as string}/inputs/${f}`, inherited);
        const origin: Origin = { kind: "spaceType", from: space.spaceType as string, name: type.name, ...(clause ? { words: clause.words } : {}) };
        return [f, { value: inherited, origin }];
      }
      return [f, { value: fieldSpec("space", f).default, origin: DEFAULT }];
    }),
  ) as SpaceRow;
  spaceRows.set(space, { type, provenance: project.provenance, row });
  return row;
}

function ownOrigin(project: Project, address: string, value: InputValue): Origin {
  const p = kept(project, address, value);
  return p ? { kind: p.kind, words: p.words } : TYPED;
}

function zoneRow(project: Project, id: string): ZoneRow {
  const zone = project.zones[id];
  const known = zoneRows.get(zone);
  if (known?.provenance === project.provenance) return known.row;
  const row = Object.fromEntries(
    zoneFieldNames.map((f): [ZoneField, Effective] => {
      const typed = zone.inputs[f];
      if (typed === undefined) return [f, { value: fieldSpec("zone", f).default, origin: DEFAULT }];
      return [f, { value: typed, origin: ownOrigin(project, `zones/${id}/inputs/${f}`, typed) }];
    }),
  ) as ZoneRow;
  zoneRows.set(zone, { provenance: project.provenance, row });
  return row;
}

/**
 * Effective values and origins of every inheritable input: typed on the thing, then by rules, then from its type, then the
 * default. Rows without rules are rebuilt only where a space, its type or a zone changed.
 */
export function resolve(project: Project): Resolved {
  const known = resolved.get(project);
  if (known) return known;
  const space = new Map(Object.keys(project.spaces).map((id) => [id, spaceRow(project, id)]));
  const zone = new Map(Object.keys(project.zones).map((id) => [id, zoneRow(project, id)]));
  const ruled = project.rules.length === 0 ? null : applyRules(project, space, zone);
  if (ruled) {
    const over = <F extends string, R extends Record<F, Effective>>(rows: Map<string, R>, given: (typeof ruled)["space" | "zone"]): void => {
      for (const [id, fields] of given) {
        const row: Record<string, Effective> = { ...(rows.get(id) as R) };
        for (const [f, { value, rule }] of fields) row[f] = { value, origin: { kind: "rule", from: rule.id, name: rule.name } };
        rows.set(id, row as R);
      }
    };
    over(space, ruled.space);
    over(zone, ruled.zone);
  }
  const result: Resolved = { space, zone, problems: ruled?.problems ?? [] };
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

/** Assembly of a face: an override on its host (or on its partner's), else what a rule gives it, else the kit of its space. */
export function faceAssembly(
  project: Project,
  face: Pick<Face, "kind" | "contact" | "host" | "space" | "azimuth" | "tilt">,
  partnerHost: string | null = null,
): { id: string; origin: Origin } {
  for (const host of partnerHost === null ? [face.host] : [face.host, partnerHost])
    for (const o of Object.values(project.faceOverrides)) if (o.host === host && o.assembly !== null) return { id: o.assembly, origin: TYPED };
  if (project.rules.length > 0) {
    const thing = { space: face.space, role: kitRole(face), name: project.spaces[face.space].name, direction: () => directionOfFace(face) };
    const given = ruledConstruction(project, "face", thing, (id) => Object.hasOwn(project.assemblies, id));
    if (given) return { id: given.id, origin: { kind: "rule", from: given.rule.id, name: given.rule.name } };
  }
  const kit = effectiveKit(project, face.space);
  return { id: project.kits[kit.id][kitRole(face)], origin: kit.origin };
}

/** Glazing of a window or assembly of a door in a face: its own, else what a rule gives it, else the kit's. @param face it lies in */
export function openingConstruction(
  project: Project,
  opening: { use: "window" | "door"; inRoof: boolean; construction: string | null; name: string },
  face: Pick<Face, "space" | "azimuth" | "tilt">,
): { id: string; origin: Origin } {
  if (opening.construction !== null) return { id: opening.construction, origin: TYPED };
  const { space } = face;
  const role = opening.use === "door" ? "door" : opening.inRoof ? "skylight" : "glazing";
  if (project.rules.length > 0) {
    const set: object = role === "door" ? project.assemblies : project.glazings;
    const given = ruledConstruction(project, "opening", { space, role, name: opening.name, direction: () => directionOfFace(face) }, (id) =>
      Object.hasOwn(set, id),
    );
    if (given) return { id: given.id, origin: { kind: "rule", from: given.rule.id, name: given.rule.name } };
  }
  const kit = effectiveKit(project, space);
  return { id: project.kits[kit.id][role], origin: kit.origin };
}

/** Plain services of a zone. */
export function effectiveServices(project: Project, zone: string): { id: string; origin: Origin } {
  const own = project.zones[zone].services;
  return own !== null ? { id: own, origin: TYPED } : { id: project.defaults.services, origin: { kind: "project" } };
}

/** A rule tried on one space or zone. @see tryRule */
export const ruleValuesOf = (project: Project, rule: Rule, id: string): Tried => tryRule(project, rule, id, resolve(project));
