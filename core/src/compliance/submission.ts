import { climateZoneOf, type WeatherYear } from "../climate/index.ts";
import { effectiveServices, spaceUses } from "../inputs/index.ts";
import {
  componentsOf,
  fuels,
  scopeParts,
  serviceFieldsOf,
  settingAsked,
  settingOf,
  zonesOnSystem,
  type ComplianceInput,
  type Fuel,
  type Pack,
  type Project,
  type ScopePart,
} from "../model/index.ts";
import { packs, parsePack } from "../packs/index.ts";
import { equipmentOf } from "../services/index.ts";

/** What is submitted under which pack, everything resolved. */
export interface Submission {
  readonly pack: Pack;
  readonly zone: string;
  readonly path: ComplianceInput["path"];
  readonly work: ComplianceInput["work"];
  readonly parts: readonly ScopePart[];
  /** Spaces submitted; null: all. */
  readonly spaces: ReadonlySet<string> | null;
  readonly fuels: ReadonlySet<Fuel>;
}

/** A project that says nothing submits all of itself under the first pack. */
export const usualInput: ComplianceInput = { pack: "plateau", path: "performance", work: "new building", parts: [...scopeParts], climateZone: null };

export const complianceInput = (project: Project): ComplianceInput => project.compliance ?? usualInput;

/** Packs at hand in a project: those that ship and its own, which win. */
export const packsOf = (project: Pick<Project, "packs">): Readonly<Record<string, Pack>> => ({ ...packs, ...project.packs });

const read = new WeakMap<Pack, string | null>();
/** The first fault of a pack, with its place; null: it is sound. Packs that ship are. */
export function packFault(pack: Pack): string | null {
  let fault = read.get(pack);
  if (fault === undefined) {
    const outcome = parsePack(pack);
    fault = outcome.ok ? null : `${outcome.problems[0].path}: ${outcome.problems[0].message}`;
    read.set(pack, fault);
  }
  return fault;
}

/** Fuels a design uses. */
export function fuelsUsed(project: Project): Set<Fuel> {
  const found = new Set<Fuel>(["electricity"]);
  for (const z of Object.keys(project.zones)) {
    const s = project.services[effectiveServices(project, z).id];
    if (equipmentOf(project, z).length === 0) found.add(s.heating.fuel).add(s.cooling.fuel);
    found.add(s.hotWater.fuel);
  }
  // of components by what they take, typed or by default: "gas", "gas steam", "district heat"
  for (const c of componentsOf(project)) {
    if (c.kind === "district") found.add(project.loops[c.path[1]]?.kind === "chilled water" ? "district cooling" : "district heat");
    const fields = serviceFieldsOf(c.kind);
    for (const field of ["fuel", "heat", "reheat", "by"]) {
      if (!Object.hasOwn(fields, field) || !settingAsked(c.kind, c.inputs, field)) continue;
      const taken = String(settingOf(c.kind, c.inputs, field));
      for (const f of fuels) if (taken === f || taken.startsWith(`${f} `)) found.add(f);
    }
  }
  return found;
}

export type SubmissionOutcome = { readonly ok: true; readonly submission: Submission } | { readonly ok: false; readonly message: string };

/**
 * What a project submits. @param weather for the climate zone, where none is typed; null: it is not at hand
 * @param over what is asked for in place of what the document says
 */
export function submissionOf(project: Project, weather: WeatherYear | null, over: Partial<ComplianceInput> & { readonly with?: Pack } = {}): SubmissionOutcome {
  const input = { ...complianceInput(project), ...over };
  const all = packsOf(project);
  const pack = over.with ?? (Object.hasOwn(all, input.pack) ? all[input.pack] : null);
  if (!pack) return { ok: false, message: `compliance/pack: There is no pack "${input.pack}"; there are ${Object.keys(all).join(", ")}.` };
  const fault = packFault(pack);
  if (fault !== null) return { ok: false, message: `packs/${pack.id}/${fault}` };
  const zone = input.climateZone ?? (weather ? String(climateZoneOf(weather)) : null);
  if (zone === null) return { ok: false, message: "compliance/climateZone: The weather year is not at hand, so the climate zone cannot be told; type it." };
  // a zone with its moisture letter stands in the table by its number
  const known = [zone, /^\d+/.exec(zone)?.[0] ?? zone].find((z) => Object.hasOwn(pack.climateZones, z));
  if (known === undefined)
    return {
      ok: false,
      message: `climateZones/${zone}: "${pack.name}" has no limits for climate zone ${zone}; it knows ${Object.keys(pack.climateZones).join(", ")}.`,
    };
  for (const [type, use] of Object.entries(input.uses ?? {}))
    if (Object.hasOwn(project.spaceTypes, type) && !pack.uses.some((u) => u.id === use))
      return { ok: false, message: `compliance/uses/${type}: "${pack.name}" has no use "${use}"; map ${project.spaceTypes[type].name} to another.` };
  for (const [space, use] of Object.entries(input.spaceUses ?? {}))
    if (Object.hasOwn(project.spaces, space) && !pack.uses.some((u) => u.id === use))
      return { ok: false, message: `compliance/spaceUses/${space}: "${pack.name}" has no use "${use}"; map ${project.spaces[space].name} to another.` };
  const listed = input.spaces?.filter((s) => Object.hasOwn(project.spaces, s));
  return {
    ok: true,
    submission: {
      pack,
      zone: known,
      path: input.path,
      work: input.work,
      parts: input.parts,
      spaces: listed ? new Set(listed) : null,
      fuels: new Set(input.fuels ?? fuelsUsed(project)),
    },
  };
}

export type PackUse = Pack["uses"][number];
/** The pack's use that the words of a space type suggest; how many words of it decided. */
export function suggestedUse(pack: Pack, name: string | null): { readonly use: PackUse; readonly by: string | null } {
  const low = (name ?? "").toLowerCase();
  for (const use of pack.uses) {
    const by = use.words.find((w) => low.includes(w.toLowerCase()));
    if (by !== undefined) return { use, by };
  }
  return { use: pack.uses.find((u) => u.words.length === 0) as PackUse, by: null };
}

/** What suggests a use of a space: its tags, as an imported file called it, else its type, else its own name. */
export function suggestedForSpace(project: Project, pack: Pack, space: string): ReturnType<typeof suggestedUse> {
  const { spaceType: type, name, tags } = project.spaces[space];
  for (const tag of tags ?? []) {
    const found = suggestedUse(pack, tag);
    if (found.by !== null) return found;
  }
  return suggestedUse(pack, type === null ? name : project.spaceTypes[type].name);
}

/** The pack's use of a space: matched for it, matched for its type, else suggested by the type's name. */
export function packUseOf(project: Project, pack: Pack, space: string): PackUse {
  const { spaceType: type } = project.spaces[space];
  const { uses, spaceUses: own } = complianceInput(project);
  const id = own?.[space] ?? (type === null ? undefined : uses?.[type]);
  return pack.uses.find((u) => u.id === id) ?? suggestedForSpace(project, pack, space).use;
}

export const isSubmitted = (s: Pick<Submission, "spaces">, space: string): boolean => s.spaces === null || s.spaces.has(space);

/** Zones of which a space is submitted. */
export const submittedZones = (project: Project, s: Submission): string[] =>
  Object.keys(project.zones).filter((z) => Object.entries(project.spaces).some(([id, sp]) => sp.zone === z && isSubmitted(s, id)));

/** Whether a system or loop serves a zone that is submitted. */
export const servesSubmitted = (project: Project, system: string, zones: ReadonlySet<string>): boolean =>
  zonesOnSystem(project, system).some((z) => zones.has(z));

/** Floor area, m², of each space, with the multiplier of its storey. */
export function floorAreas(project: Project): Map<string, number> {
  const uses = spaceUses(project);
  return new Map(Object.entries(project.spaces).map(([id, s]) => [id, (uses.get(id)?.area ?? 0) * (project.storeys[s.storey]?.multiplier ?? 1)]));
}

/** Names for storeys whose name says nothing, such as the id a file gave them: by level, the one nearest the ground is the ground floor. */
export function storeyNames(project: Project): Map<string, string> {
  const sorted = Object.entries(project.storeys).sort(([, a], [, b]) => a.elevation - b.elevation);
  const ground = sorted.reduce((best, [, s], i) => (Math.abs(s.elevation) < Math.abs(sorted[best][1].elevation) ? i : best), 0);
  return new Map(
    sorted.flatMap(([id, s], i): [string, string][] => {
      const nameless = s.name === id || !/[a-zà-ÿ]{3}/i.test(s.name) || /^[a-z]*[-_ ]?(?=[0-9a-f-]*\d)[0-9a-f-]+$/i.test(s.name);
      if (!nameless) return [];
      const name = i === ground ? "Ground floor" : i > ground ? `Storey ${i - ground + 1}` : `Basement ${ground - i}`;
      return name === s.name ? [] : [[id, name]];
    }),
  );
}
