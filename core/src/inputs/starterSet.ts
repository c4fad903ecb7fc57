import { assemblyU, glazingRating, insulatingLayer } from "../fabric/index.ts";
import { freeId } from "../geometry/index.ts";
import {
  assemblyAtLimit,
  SHIPPED,
  shippedAssemblies,
  shippedLibrary,
  shippedMaterials,
  starterRate,
  starterUseLabel,
  starterUses,
  takeChanges,
  type StarterUse,
} from "../library/index.ts";
import {
  envelopeParts,
  type EnvelopePart,
  type Limit,
  type Pack,
  quantity,
  applyChanges,
  setChange,
  swapChanges,
  type Assembly,
  type Change,
  type Glazing,
  type Kit,
  type Project,
  type RecordSet,
  type Services,
  type SpaceType,
} from "../model/index.ts";
import { rateChanges } from "./rates.ts";
import { fabricLevels, type FabricLevel } from "./starter.ts";

/** What a starter set is made from. */
export interface StarterChoice {
  readonly use: StarterUse;
  readonly level: FabricLevel;
  /** Thermal climate zone as the pack names it. */
  readonly zone: string;
  readonly pack: Pack;
}

/** Name of the library the envelopes of starter sets remember. */
const SETS = `${SHIPPED}, starter sets`;
/** Assemblies a set begins from, by part of the envelope. */
const BASES: Record<EnvelopePart, string> = {
  exteriorWall: "wall_cavity_filled",
  roof: "roof_warm_concrete",
  groundFloor: "ground_slab_under",
  exposedFloor: "exposed_concrete",
};
/** U over the limit of the code, lighting over its allowance, infiltration, 1/h, and services by level: typical, unverified. */
const LEVELS: Record<FabricLevel, { readonly u: number; readonly lighting: number; readonly infiltration: number }> = {
  existing: { u: 2.5, lighting: 1.5, infiltration: 0.6 },
  code: { u: 1, lighting: 1, infiltration: 0.3 },
  better: { u: 0.6, lighting: 0.7, infiltration: 0.12 },
};
/** Least insulation of a set, m. */
const THINNEST = 0.005;
/** U of glazing nobody makes worse or better than, W/m²K. */
const GLASS_U = [0.7, 5] as const;

const useOf = (pack: Pack, name: string): Pack["uses"][number] => {
  const low = name.toLowerCase();
  return (pack.uses.find((u) => u.words.some((w) => low.includes(w))) ?? pack.uses.find((u) => u.words.length === 0)) as Pack["uses"][number];
};
const clauseOf = (pack: Pack, l: Limit): string => `${pack.name}, clause ${l.clause}`;

function servicesOf({ level, pack }: StarterChoice): Services {
  const s = pack.services;
  const base: Services = {
    name: "Services to code",
    heating: { fuel: s.heatingFuel, efficiency: s.heating.value },
    cooling: { fuel: s.coolingFuel, efficiency: s.cooling.value },
    fanPower: s.fanPower.value,
    pumpShareHeating: 0.015,
    pumpShareCooling: 0.02,
    heatRecovery: { sensible: s.heatRecovery.value, latent: 0 },
    hotWater: { fuel: s.hotWaterFuel, efficiency: s.hotWater.value, deliveryTemperature: 55, mainsTemperature: 11 },
  };
  if (level === "existing")
    return {
      ...base,
      name: "Services as existing",
      heating: { ...base.heating, efficiency: 0.75 },
      cooling: { ...base.cooling, efficiency: 2.3 },
      heatRecovery: { sensible: 0, latent: 0 },
    };
  if (level === "better")
    return {
      ...base,
      name: "Heat pump",
      heating: { fuel: "electricity", efficiency: 3.2 },
      cooling: { fuel: "electricity", efficiency: 4 },
      fanPower: 0.7 * base.fanPower,
      heatRecovery: { sensible: 0.8, latent: 0 },
      hotWater: { ...base.hotWater, fuel: "electricity", efficiency: 2.4 },
    };
  return base;
}

/** U of an assembly with next to none of its insulation, W/m²K: no building of its kind has more. */
function barest(base: Assembly): number {
  const source = { materials: shippedMaterials };
  const layer = insulatingLayer(source, base);
  const bare = base.layers.map((l) => (l.kind === "solid" && l.id === layer ? { ...l, thickness: THINNEST } : l));
  return assemblyU(source, { ...base, layers: bare });
}

/** Envelope of a set as a library of its own: one kit, with the assemblies and the glazing its level asks for. @throws RangeError where the pack lacks the zone */
export function starterEnvelope({
  level,
  zone,
  pack,
}: Omit<StarterChoice, "use">): Required<Pick<RecordSet, "materials" | "assemblies" | "glazings" | "kits">> {
  const limits = pack.climateZones[zone];
  if (!limits) throw new RangeError(`"${pack.name}" has no limits for climate zone ${zone}; it knows ${Object.keys(pack.climateZones).join(", ")}.`);
  const assemblies: Record<string, Assembly> = {};
  const role = {} as Record<EnvelopePart, string>;
  const words = level === "code" ? "just meets" : level === "better" ? "is better than" : "is worse than";
  for (const part of envelopeParts) {
    const { value, clause } = limits.u[part];
    const base = shippedAssemblies[BASES[part]];
    const made = assemblyAtLimit(base, Math.min(value * LEVELS[level].u, barest(base)));
    if (!made) throw new RangeError(`${base.name} cannot be insulated for the U of ${level} in climate zone ${zone}.`);
    role[part] = `starter_${part}`;
    assemblies[role[part]] = {
      ...made,
      name: `${base.name}, ${level}, zone ${zone}`,
      source: `${pack.name}, clause ${clause}, climate zone ${zone}: ${words} its U of ${value} W/m²K`,
    };
  }
  const u = Math.max(GLASS_U[0], Math.min(GLASS_U[1], limits.glazingU.value * (level === "existing" ? 1.7 : LEVELS[level].u)));
  const g = Math.min(0.75, limits.glazingG.value * (level === "existing" ? 1.4 : 1));
  const glazing: Glazing = {
    kind: "rated",
    name: `Glazing, ${level}, zone ${zone}`,
    u,
    g,
    visibleTransmittance: Math.min(0.8, g + 0.2),
    frameShare: 0.2,
    ratedFilms: { inside: 7.7, outside: 25 },
    blind: null,
    source: `${pack.name}, clauses ${limits.glazingU.clause} and ${limits.glazingG.clause}, climate zone ${zone}`,
  };
  const shipped = shippedLibrary();
  for (const id of ["inner_stud", "between_concrete", "door_insulated"]) assemblies[id] = shipped.assemblies[id];
  const kit: Kit = {
    name: `Envelope, ${level}, zone ${zone}`,
    exteriorWall: role.exteriorWall,
    roof: role.roof,
    groundFloor: role.groundFloor,
    exposedFloor: role.exposedFloor,
    interiorWall: "inner_stud",
    interiorFloor: "between_concrete",
    glazing: "starter_glazing",
    skylight: "starter_glazing",
    door: "door_insulated",
  };
  return { materials: shippedMaterials, assemblies, glazings: { starter_glazing: glazing }, kits: { starter_kit: kit } };
}

export type StarterOutcome =
  | {
      readonly ok: true;
      readonly changes: readonly Change[];
      /** What it sets, in words. */ readonly sets: readonly { readonly what: string; readonly value: string; readonly origin: string }[];
    }
  | { readonly ok: false; readonly message: string };

/**
 * Changes that give a project a starter set in one step: an envelope kit for its climate zone, a space type of the use with
 * its schedules and set-points, outdoor air of the rates table, lighting and leakage of the level, and plain services.
 * Values of the code keep their clause. @param spaces that become of the use; the others keep theirs
 */
export function starterChanges(project: Project, choice: StarterChoice, spaces: readonly string[]): StarterOutcome {
  const { use, level, zone, pack } = choice;
  let envelope: ReturnType<typeof starterEnvelope>;
  try {
    envelope = starterEnvelope(choice);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return { ok: false, message: error.message };
  }
  const changes: Change[] = [];
  let now = project;
  const push = (more: readonly Change[]): string | null => {
    const applied = applyChanges(now, more);
    if (!applied.ok) return applied.message;
    now = applied.project;
    changes.push(...more);
    return null;
  };
  const kit = takeChanges(now, envelope, SETS, "kits", "starter_kit");
  if (!kit.ok) return kit;
  // given again, a set takes the type it made before, and not one more like it
  const before = project.starter?.use === use ? project.starter.spaceType : null;
  const type =
    before !== null && Object.hasOwn(project.spaceTypes, before)
      ? { ok: true as const, id: before, changes: [] }
      : takeChanges(now, shippedLibrary(), SHIPPED, "spaceTypes", `use_${use}`);
  if (!type.ok) return type;
  const services = freeId(project.services, `starter_${level}`);
  const kept = Object.entries(now.services).find(([, s]) => JSON.stringify(s) === JSON.stringify(servicesOf(choice)))?.[0];
  const packUse = useOf(pack, starterUseLabel(use));
  const lighting = packUse.lighting.value * LEVELS[level].lighting;
  const typeInput = (field: keyof SpaceType["inputs"], value: number, clause: string | null): Change[] => {
    const address = `spaceTypes/${type.id}/inputs/${field}`;
    return [
      setChange(now, address.split("/"), value),
      ...(clause === null ? [] : [setChange(now, ["provenance", address], { kind: "code", words: clause, value })]),
    ];
  };
  const failed =
    push(kit.changes) ??
    push([setChange(now, ["defaults", "kit"], kit.id)]) ??
    push(type.changes) ??
    push(rateChanges(now, type.id, starterRate(use))) ??
    push(typeInput("lightingPower", Number(lighting.toPrecision(4)), level === "code" ? clauseOf(pack, packUse.lighting) : null)) ??
    push(typeInput("infiltration", LEVELS[level].infiltration, null)) ??
    push([
      ...(kept === undefined ? [{ op: "insert", path: ["services", services], value: servicesOf(choice) } as Change] : []),
      setChange(now, ["defaults", "services"], kept ?? services),
    ]) ??
    push(spaces.filter((id) => now.spaces[id].spaceType !== type.id).map((id) => setChange(now, ["spaces", id, "spaceType"], type.id))) ??
    push([setChange(now, ["starter"], { use, level, zone, pack: pack.id, kit: kit.id, spaceType: type.id, services: kept ?? services })]);
  if (failed !== null) return { ok: false, message: failed };
  const k = now.kits[kit.id];
  const u = (a: string): string => `U ${quantity(assemblyU(now, now.assemblies[a]), "W/m²K", 2)}`;
  const limits = pack.climateZones[zone];
  const rating = glazingRating(now.glazings[k.glazing]);
  return {
    ok: true,
    changes,
    sets: [
      { what: "Outside walls", value: u(k.exteriorWall), origin: clauseOf(pack, limits.u.exteriorWall) },
      { what: "Roofs", value: u(k.roof), origin: clauseOf(pack, limits.u.roof) },
      { what: "Ground floors", value: u(k.groundFloor), origin: clauseOf(pack, limits.u.groundFloor) },
      { what: "Exposed floors", value: u(k.exposedFloor), origin: clauseOf(pack, limits.u.exposedFloor) },
      { what: "Glazing", value: `U ${quantity(rating.u, "W/m²K", 2)}, g ${rating.g.toFixed(2)}`, origin: clauseOf(pack, limits.glazingU) },
      {
        what: "Lighting",
        value: quantity(lighting, "W/m²", 1, true),
        origin: level === "code" ? clauseOf(pack, packUse.lighting) : `${LEVELS[level].lighting} of the allowance, ${clauseOf(pack, packUse.lighting)}`,
      },
      { what: "Infiltration", value: `${LEVELS[level].infiltration} 1/h`, origin: "typical, unverified" },
      { what: "Outdoor air", value: now.spaceTypes[type.id].name, origin: "ASHRAE 62.1, table 6-1" },
      {
        what: "Services",
        value: now.services[now.defaults.services].name,
        origin: level === "code" ? clauseOf(pack, pack.services.heating) : "typical, unverified",
      },
      {
        what: "Space type",
        value: `${now.spaceTypes[type.id].name}, for ${spaces.length} space${spaces.length === 1 ? "" : "s"}`,
        origin: "typical, unverified",
      },
    ],
  };
}

/** What of the starter set last taken no longer fits a climate zone: each part with its U and what the zone asks for. */
export function starterMisfits(project: Project, zone: string, pack: Pack): { readonly what: string; readonly has: number; readonly asked: number }[] {
  const s = project.starter;
  if (!s || s.zone === zone || s.kit === null || !Object.hasOwn(project.kits, s.kit) || !pack.climateZones[zone]) return [];
  const level = fabricLevels.find((l) => l === s.level) ?? "code";
  const wanted = starterEnvelope({ level, zone, pack });
  const kit = project.kits[s.kit];
  const rows = envelopeParts.map((part) => ({
    what: { exteriorWall: "Outside walls", roof: "Roofs", groundFloor: "Ground floors", exposedFloor: "Exposed floors" }[part],
    has: assemblyU(project, project.assemblies[kit[part]]),
    asked: assemblyU({ materials: wanted.materials }, wanted.assemblies[wanted.kits.starter_kit[part]]),
  }));
  rows.push({ what: "Glazing", has: glazingRating(project.glazings[kit.glazing]).u, asked: glazingRating(wanted.glazings.starter_glazing).u });
  return rows.filter((r) => Math.abs(r.has - r.asked) > 0.005 * r.asked);
}

/** Changes that put the envelope of another climate zone in the place of that of the starter set, wherever its kit is; all else stays as it is. */
export function starterUpdate(
  project: Project,
  zone: string,
  pack: Pack,
): { readonly ok: true; readonly changes: readonly Change[] } | { readonly ok: false; readonly message: string } {
  const s = project.starter;
  if (!s || s.kit === null) return { ok: false, message: "No starter set was taken." };
  try {
    const level = fabricLevels.find((l) => l === s.level) ?? "code";
    const kit = takeChanges(project, starterEnvelope({ level, zone, pack }), SETS, "kits", "starter_kit");
    if (!kit.ok) return kit;
    return {
      ok: true,
      changes: [...kit.changes, ...swapChanges(project, "kits", s.kit, kit.id), setChange(project, ["starter"], { ...s, zone, kit: kit.id })],
    };
  } catch (error) {
    if (error instanceof RangeError) return { ok: false, message: error.message };
    throw error;
  }
}

/** The use of a starter set that was taken, if it is one that still ships. */
export const starterUseOf = (project: Project): StarterUse | null => starterUses.find((u) => u === project.starter?.use) ?? null;
