import { valueAt } from "./changes.ts";
import { componentsOf } from "./components.ts";
import { serviceFieldsOf } from "./serviceFields.ts";
import { signalRef, signalText } from "./signal.ts";
import { spaceFields } from "./spaceFields.ts";
import { spaceFieldNames } from "./fields.ts";
import type { Change } from "./changeSchema.ts";
import { isGlazed, kitRoles, type Project } from "./schema.ts";

/** Records that other parts of a document name. */
export const namedParts = ["materials", "assemblies", "glazings", "kits", "schedules", "resets", "deviceLists", "spaceTypes"] as const;
export type NamedPart = (typeof namedParts)[number];

/** One place where a record is named: the address whose value is its id. */
export interface Use {
  readonly part: NamedPart;
  readonly id: string;
  readonly path: readonly string[];
}

type Records = Pick<Project, NamedPart>;
/** A set of records that name only each other: a project, a library, or a part of either. */
export type RecordSet = { readonly [P in NamedPart]?: Records[P] };

const inputRecords = (record: Record<string, unknown>, path: readonly string[]): Use[] =>
  spaceFieldNames.flatMap((f): Use[] => {
    const { kind } = spaceFields[f];
    const value = record[f];
    if (kind === "choice" || typeof value !== "string") return [];
    if (kind === "number") return [{ ...signalRef(value), path: [...path, f] }];
    return [{ part: kind === "schedule" ? "schedules" : "deviceLists", id: value, path: [...path, f] }];
  });

/** What one record names: the materials of an assembly, the assemblies of a kit. Addresses begin with the record's own. */
export function namedBy<P extends NamedPart>(part: P, id: string, record: Records[P][string]): Use[] {
  const at = (...path: string[]): readonly string[] => [part, id, ...path];
  switch (part) {
    case "kits": {
      const kit = record as Records["kits"][string];
      return kitRoles.map((role) => ({ part: isGlazed(role) ? "glazings" : "assemblies", id: kit[role], path: at(role) }));
    }
    case "assemblies":
      return (record as Records["assemblies"][string]).layers.flatMap((l): Use[] => [
        ...(l.kind === "solid" ? [{ part: "materials" as const, id: l.material, path: at("layers", l.id, "material") }] : []),
        ...(l.kind !== "circuit" && l.bridge ? [{ part: "materials" as const, id: l.bridge.material, path: at("layers", l.id, "bridge", "material") }] : []),
      ]);
    case "glazings": {
      const control = (record as Records["glazings"][string]).blind?.control;
      return control?.kind === "schedule" ? [{ part: "schedules", id: control.schedule, path: at("blind", "control", "schedule") }] : [];
    }
    case "spaceTypes":
      return inputRecords((record as Records["spaceTypes"][string]).inputs, at("inputs"));
    default:
      return [];
  }
}

/** Every place of a document that names a material, assembly, glazing, kit, schedule or space type. */
export function usesOf(project: Project): Use[] {
  const uses: Use[] = [];
  const use = (part: NamedPart, id: string | null | undefined, ...path: string[]): void => {
    if (typeof id === "string") uses.push({ part, id, path });
  };
  use("kits", project.defaults.kit, "defaults", "kit");
  for (const [k, s] of Object.entries(project.spaces)) {
    use("kits", s.kit, "spaces", k, "kit");
    use("spaceTypes", s.spaceType, "spaces", k, "spaceType");
    uses.push(...inputRecords(s.inputs, ["spaces", k, "inputs"]));
  }
  for (const [k, o] of Object.entries(project.openings)) use("use" in o && o.use === "door" ? "assemblies" : "glazings", o.glazing, "openings", k, "glazing");
  for (const [k, o] of Object.entries(project.faceOverrides)) use("assemblies", o.assembly, "faceOverrides", k, "assembly");
  for (const part of namedParts) for (const [k, record] of Object.entries(project[part])) uses.push(...namedBy(part, k, record));
  for (const [k, s] of Object.entries(project.shades)) use("schedules", s.transmittanceSchedule, "shades", k, "transmittanceSchedule");
  for (const [k, s] of Object.entries(project.surroundings))
    if (s.kind === "tree") use("schedules", s.transmittanceSchedule, "surroundings", k, "transmittanceSchedule");
  for (const [k, d] of Object.entries(project.drawPoints)) use("schedules", d.schedule, "drawPoints", k, "schedule");
  for (const [k, l] of Object.entries(project.siteLights)) use("schedules", l.schedule, "siteLights", k, "schedule");
  for (const [k, e] of Object.entries(project.airExchanges)) use("schedules", e.schedule, "airExchanges", k, "schedule");
  const { airNetwork } = project;
  if (airNetwork) {
    for (const [k, t] of Object.entries(airNetwork.types)) use("schedules", t.control.schedule, "airNetwork", "types", k, "control", "schedule");
    for (const [k, l] of Object.entries(airNetwork.links))
      if (l.kind === "fan") use("schedules", l.schedule, "airNetwork", "links", k, "schedule");
      else use("schedules", l.control?.schedule, "airNetwork", "links", k, "control", "schedule");
  }
  for (const c of componentsOf(project))
    for (const [f, value] of Object.entries(c.inputs)) {
      const { kind } = serviceFieldsOf(c.kind)[f];
      if (typeof value !== "string" || (kind !== "schedule" && kind !== "number")) continue;
      uses.push({ ...(kind === "schedule" ? { part: "schedules" as const, id: value } : signalRef(value)), path: [...c.path, "inputs", f] });
    }
  return uses;
}

/** Places that name one record, in the order of the document. */
export const whereUsed = (project: Project, part: NamedPart, id: string): Use[] => usesOf(project).filter((u) => u.part === part && u.id === id);

/** Changes that put one record in the place of another everywhere. */
export const swapChanges = (project: Project, part: NamedPart, from: string, to: string): Change[] =>
  whereUsed(project, part, from).map((u): Change => ({ op: "set", path: [...u.path], value: useText(part, to), old: useText(part, from) }));

/** What stands at a place that names a record. */
export const useText = (part: NamedPart, id: string): string => (part === "resets" ? signalText({ part, id }) : id);

/**
 * Materials, assemblies, glazings, kits, schedules, resets, device lists and space types that nothing in use names, also by way of others:
 * the material of an assembly that no face has is unused with it. What an option or a rule names stays.
 */
export function unusedRecords(project: Project): { readonly part: NamedPart; readonly id: string }[] {
  const uses = usesOf(project);
  const key = (part: string, id: string): string => `${part}/${id}`;
  const used = new Set<string>();
  const mark = (part: NamedPart, id: string): void => {
    if (used.has(key(part, id)) || !Object.hasOwn(project[part], id)) return;
    used.add(key(part, id));
    for (const u of uses) if (u.path[0] === part && u.path[1] === id) mark(u.part, u.id);
  };
  for (const u of uses) if (!(namedParts as readonly string[]).includes(u.path[0])) mark(u.part, u.id);
  const said = new Set<string>();
  const collect = (v: unknown): void => {
    if (typeof v === "string") said.add(v);
    else if (Array.isArray(v)) v.forEach(collect);
    else if (typeof v === "object" && v !== null) Object.values(v).forEach(collect);
  };
  for (const o of Object.values(project.options)) collect(o.changes);
  collect(project.rules);
  if (said.size > 0) for (const part of namedParts) for (const id of Object.keys(project[part])) if (said.has(useText(part, id))) mark(part, id);
  return namedParts.flatMap((part) => Object.keys(project[part]).flatMap((id) => (used.has(key(part, id)) ? [] : [{ part, id }])));
}

/** Changes that remove what is unused, what names others first. */
export function removeUnusedChanges(project: Project): Change[] {
  const order: readonly NamedPart[] = ["kits", "spaceTypes", "glazings", "assemblies", "materials", "deviceLists", "schedules", "resets"];
  const unused = unusedRecords(project);
  return order.flatMap((part) =>
    unused.filter((u) => u.part === part).map(({ id }): Change => ({ op: "remove", path: [part, id], old: valueAt(project, [part, id]) })),
  );
}

/** A place of use in words: the thing that names the record, and as what. */
export function placeWords(project: Project, use: Use): string {
  const [part, id, ...rest] = use.path;
  if (part === "defaults") return "the whole project";
  if (part === "airNetwork") {
    const thing = valueAt(project, [part, id, rest[0]]) as { name?: string } | undefined;
    return `${id === "types" ? "opening type" : "air path"} ${thing?.name ?? rest[0]}`;
  }
  const named = valueAt(project, [part, id]) as { name?: string; host?: string } | undefined;
  const KINDS: Record<string, string> = {
    spaces: "space",
    spaceTypes: "space type",
    openings: "opening",
    kits: "envelope kit",
    assemblies: "assembly",
    glazings: "blind of",
    shades: "shading",
    surroundings: "tree",
    airExchanges: "air exchange",
    drawPoints: "hot water draw",
    siteLights: "exterior lighting",
    faceOverrides: "one face",
    airSystems: "air system",
    loops: "loop",
    zones: "equipment of",
  };
  if (part === "faceOverrides") {
    const host = named?.host ?? "";
    return `one face of ${project.spaces[host.split("/")[0]]?.name ?? host}`;
  }
  const role = part === "kits" ? `, ${roleWords[rest[0] as keyof typeof roleWords] ?? rest[0]}` : rest.includes("bridge") ? ", as a bridge" : "";
  return `${KINDS[part] ?? part} ${named?.name ?? id}${role}`;
}

/** Roles of an envelope kit in words. */
export const roleWords = {
  exteriorWall: "exterior wall",
  roof: "roof",
  groundFloor: "ground floor",
  exposedFloor: "exposed floor",
  interiorWall: "interior wall",
  interiorFloor: "interior floor",
  glazing: "windows",
  skylight: "skylights",
  door: "door",
} as const;
