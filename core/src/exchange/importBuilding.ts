import { assemblyLayers, layersResistance, surfaceResistances } from "../fabric/index.ts";
import { areaVector, deriveFaces, freeId, namedRing, type Face, type Vector } from "../geometry/index.ts";
import { starterFabric, starterServices, starterUse, starterUses, type FabricLevel, type StarterUse } from "../inputs/index.ts";
import {
  FORMAT_VERSION,
  parseProject,
  type Assembly,
  type Corner,
  type Glazing,
  type KitRole,
  type Material,
  type Opening,
  type Point,
  type Project,
  type Schedule,
  type Space,
} from "../model/index.ts";
import type { BuildingRecords, ImportMessage, OpeningRecord, SurfaceRecord } from "./records.ts";
import { asPrism, cleanRing, flattened, ringNormal, turnOutward, type ShellSide } from "./shells.ts";

/** A thing of the file that has no full counterpart, and what may stand for it. */
export interface MatchRow {
  /** kind:name, by which a choice is remembered. */
  readonly key: string;
  readonly kind: "assembly" | "glazing" | "use" | "schedule";
  readonly name: string;
  /** How often the file uses it. */
  readonly count: number;
  /** Chosen: an id of the project; null: by the kit or the default. */
  readonly chosen: string | null;
  readonly options: readonly { readonly id: string; readonly name: string }[];
}

export interface ImportOutcome {
  readonly project: Project;
  readonly report: readonly ImportMessage[];
  readonly matching: readonly MatchRow[];
}

export type ImportContext = Pick<Project, "site" | "calendar" | "weather" | "prices" | "factors" | "run">;

/** Free area of a window a file calls operable, share of it: typical, unverified. */
const OPERABLE = 0.5;
/** Height of a storey with none above it, m: typical, unverified. */
const TOP_STOREY = 3.5;
/** Walls of a file stand within this of the plane of their space's outline, m. */
const NEAR = 0.03;

/**
 * A project from the neutral records of a file: spaces as prisms where their surfaces bound one, else as free
 * faces; openings on the sides that hold them; constructions, window types, schedules and zones as far as they
 * are told in full, and a row of the matching sheet for what is not. Nothing is dropped without a message.
 * @param matches earlier choices by row key
 */
export function importBuilding(
  records: BuildingRecords,
  context: ImportContext,
  id: string,
  matches: Readonly<Record<string, string>> = {},
  use: StarterUse = "office",
  level: FabricLevel = "code",
): ImportOutcome {
  const report: ImportMessage[] = [...records.messages];
  const tell = (kind: ImportMessage["kind"], affects: boolean, text: string): void => void report.push({ kind, affects, text });
  const { infiltration, ...fabric } = starterFabric(level);
  const project: Project = {
    formatVersion: FORMAT_VERSION,
    id,
    name: records.name.slice(0, 200) || "Imported building",
    ...context,
    site: { ...context.site },
    storeys: {},
    spaces: {},
    zones: {},
    roofs: {},
    openings: {},
    shades: {},
    surroundings: {},
    airExchanges: {},
    sensors: {},
    faceOverrides: {},
    ...fabric,
    ...starterUse(use, infiltration),
    services: { main: starterServices },
    defaults: { kit: "envelope", services: "main" },
    options: {},
    evidence: {},
  };
  site(records, project, tell);
  const typeOf = uses(project, records, infiltration, use);
  const matching: MatchRow[] = [];
  const storeyOf = storeys(records, project, tell);
  const zoneOf = zones(records, project);
  const scheduleOf = schedules(records, project, tell);
  const made = spaces(records, project, storeyOf, zoneOf, typeOf, scheduleOf, matches, matching, tell);
  const constructionOf = constructions(records, project, matches, matching, tell);
  openings(records, project, made, constructionOf, tell);
  shades(records, project, tell);
  assign(records, project, made, constructionOf, tell);
  contacts(records, project, made, tell);
  tell(
    "read",
    true,
    `${Object.keys(project.storeys).length} storeys, ${Object.keys(project.spaces).length} spaces, ${Object.keys(project.zones).length} zones, ${Object.keys(project.openings).length} openings.`,
  );
  const parsed = parseProject(project);
  // what the records could still break is told, not thrown
  if (!parsed.ok) for (const p of parsed.problems) tell("left out", true, `${p.path}: ${p.message}`);
  return { project, report, matching };
}

type Tell = (kind: ImportMessage["kind"], affects: boolean, text: string) => void;

const clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));
const round = (v: number): number => Math.round(v * 1e5) / 1e5 + 0;
const named = (text: string, fallback: string): string => text.trim().slice(0, 200) || fallback;

function site(records: BuildingRecords, project: Project, tell: Tell): void {
  const s = records.site;
  if (s.latitude !== null && Math.abs(s.latitude) <= 90 && s.longitude !== null && Math.abs(s.longitude) <= 180) {
    project.site.latitude = s.latitude;
    project.site.longitude = s.longitude;
    project.site.timeZone = clamp(Math.round(s.longitude / 15), -12, 14);
    tell(
      "read",
      true,
      `The place is ${s.latitude.toFixed(2)}°, ${s.longitude.toFixed(2)}°; its time zone is taken from the longitude. The weather year is still the one a new project starts with.`,
    );
  } else tell("left out", true, "The file tells no usable place; the one a new project starts with is kept.");
  if (s.elevation !== null && s.elevation >= -450 && s.elevation <= 6000) project.site.elevation = s.elevation;
  else tell("left out", true, "The file tells no usable elevation; the one a new project starts with is kept.");
  project.site.planNorth = 0;
  if (s.north !== null && Math.abs(s.north) <= 360) project.site.planNorth = s.north;
  else tell("left out", true, "The file does not tell which way its plan points; the top of the plan is taken as north.");
  if (s.name) project.site.name = named(s.name, project.site.name);
}

/** Space types a file's words can be matched with: one of each starter use. */
function uses(project: Project, records: BuildingRecords, infiltration: number, given: StarterUse): Map<string, string> {
  const out = new Map<string, string>();
  const main = Object.keys(project.spaceTypes)[0];
  if (!records.spaces.some((s) => s.use !== null)) return out;
  for (const u of starterUses) {
    if (u === given) {
      out.set(u, main);
      continue;
    }
    const { spaceTypes, schedules } = starterUse(u, infiltration);
    const [key] = Object.keys(spaceTypes);
    const own = `use_${u}`;
    const rename = (text: string): string => `${u}_${text}`;
    project.spaceTypes[own] = {
      ...spaceTypes[key],
      inputs: Object.fromEntries(
        Object.entries(spaceTypes[key].inputs).map(([f, v]) => [f, typeof v === "string" && Object.hasOwn(schedules, v) ? rename(v) : v]),
      ),
    } as Project["spaceTypes"][string];
    for (const [k, s] of Object.entries(schedules)) project.schedules[rename(k)] = s;
    out.set(u, own);
  }
  out.set("", main);
  return out;
}

function storeys(records: BuildingRecords, project: Project, tell: Tell): (space: string, low: number) => string {
  const ids = new Map<string, string>();
  const sorted = [...records.storeys].sort((a, b) => a.level - b.level);
  sorted.forEach((s, i) => {
    const own = freeId(project.storeys, s.id);
    ids.set(s.id, own);
    const next = sorted[i + 1];
    const height = next && next.level - s.level > 0.1 ? next.level - s.level : TOP_STOREY;
    project.storeys[own] = { name: named(s.name, `Storey ${i + 1}`), elevation: round(s.level), height: round(height), multiplier: 1 };
  });
  const given = new Map(records.spaces.map((s) => [s.id, s.storey]));
  let placed = 0;
  return (space, low) => {
    const told = given.get(space) ?? null;
    const own = told === null ? undefined : ids.get(told);
    if (own) return own;
    // by elevation: the highest storey not above the floor
    const known = Object.entries(project.storeys).sort(([, a], [, b]) => b.elevation - a.elevation);
    const below = known.find(([, s]) => s.elevation <= low + 0.3);
    placed++;
    if (below && Math.abs(below[1].elevation - low) < 2) {
      tell(
        "mended",
        false,
        `Space "${space}" names ${told === null ? "no storey" : `a storey "${told}" the file does not have`}; it is placed on ${below[1].name} by its level.`,
      );
      return below[0];
    }
    const name = `Level ${low.toFixed(2)} m`;
    const made = freeId(project.storeys, `level_${placed}`);
    project.storeys[made] = { name, elevation: round(low), height: TOP_STOREY, multiplier: 1 };
    tell("mended", false, `Space "${space}" lies on no storey of the file; a storey "${name}" is made for it.`);
    return made;
  };
}

function zones(records: BuildingRecords, project: Project): Map<string, string> {
  const ids = new Map<string, string>();
  for (const z of records.zones) {
    if (!records.spaces.some((s) => s.zone === z.id)) continue;
    const own = freeId(project.zones, z.id);
    ids.set(z.id, own);
    project.zones[own] = { name: named(z.name, z.id), services: null, inputs: {} };
  }
  return ids;
}

function schedules(records: BuildingRecords, project: Project, tell: Tell): Map<string, string> {
  const ids = new Map<string, string>();
  for (const s of records.schedules) {
    const profiles: Schedule["profiles"] = {};
    const known = new Map<string, string>();
    for (const p of s.profiles) {
      const values = p.values.map((v) => (s.temperature ? v : clamp(v, 0, 1)));
      if (values.some((v, i) => v !== p.values[i] && Number.isFinite(v)))
        tell("mended", true, `Day "${p.name}" of schedule "${s.name}" has shares beyond 0 to 1; they are taken as the nearest of these.`);
      if (values.length !== 24 || values.some((v) => !Number.isFinite(v))) continue;
      const own = freeId(profiles, p.id);
      known.set(p.id, own);
      profiles[own] = { name: named(p.name, p.id), values };
    }
    const weeks = s.weeks.flatMap((w, i): Schedule["weeks"] => {
      const days = w.days.map((d) => known.get(d));
      if (days.length !== 8 || days.some((d) => d === undefined)) return [];
      return [{ id: `w${i + 1}`, from: [...w.from], to: [...w.to], days: days as string[] }];
    });
    const covered = new Uint8Array(365);
    const start = [0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334];
    for (const w of weeks)
      for (let d = start[w.from[0] - 1] + w.from[1] - 1, end = start[w.to[0] - 1] + w.to[1] - 1; ; d = (d + 1) % 365) {
        covered[d] = 1;
        if (d === end) break;
      }
    if (weeks.length === 0 || covered.includes(0)) {
      tell("left out", true, `Schedule "${s.name}" does not give every day of the year a profile of 24 values; it is left out.`);
      continue;
    }
    const own = freeId(project.schedules, `file_${s.id}`);
    ids.set(s.id, own);
    project.schedules[own] = { name: named(s.name, s.id), kind: s.temperature ? "temperature" : "fraction", profiles, weeks };
  }
  return ids;
}

/** Where the surfaces of a space of the file ended up: their hosts by surface; more than one where a surface was taken apart. */
type Made = Map<string, { readonly id: string; readonly hosts: Map<string, string[]> }>;

function spaces(
  records: BuildingRecords,
  project: Project,
  storeyOf: (space: string, low: number) => string,
  zoneOf: ReadonlyMap<string, string>,
  typeOf: ReadonlyMap<string, string>,
  scheduleOf: ReadonlyMap<string, string>,
  matches: Readonly<Record<string, string>>,
  matching: MatchRow[],
  tell: Tell,
): Made {
  const made: Made = new Map();
  const bySpace = new Map<string, SurfaceRecord[]>();
  for (const s of records.surfaces) for (const a of new Set(s.adjacent)) bySpace.set(a, [...(bySpace.get(a) ?? []), s]);
  const words = new Map<string, number>();
  for (const s of records.spaces) if (s.use !== null) words.set(s.use, (words.get(s.use) ?? 0) + 1);
  const useOf = new Map<string, string>();
  for (const [word, count] of words) {
    const key = `use:${word}`;
    const guess = [...typeOf.keys()].find((u) => u !== "" && word.toLowerCase().includes(u.slice(0, 5)));
    const chosen = matches[key] && Object.hasOwn(project.spaceTypes, matches[key]) ? matches[key] : guess ? (typeOf.get(guess) as string) : null;
    useOf.set(word, chosen ?? Object.keys(project.spaceTypes)[0]);
    matching.push({ key, kind: "use", name: word, count, chosen, options: Object.entries(project.spaceTypes).map(([k, t]) => ({ id: k, name: t.name })) });
  }
  let turnedAll = 0;
  for (const s of records.spaces) {
    const sides: ShellSide[] = [];
    for (const f of bySpace.get(s.id) ?? []) {
      // a surface is given as seen from outside its first space
      const ring = cleanRing(f.adjacent[0] === s.id ? f.ring : [...f.ring].reverse());
      if (!ring) {
        tell("left out", true, `Surface "${f.id}" of ${s.name} has fewer than three corners or no area; it is left out.`);
        continue;
      }
      const parts = flattened(ring);
      if (parts) {
        tell("mended", true, `Surface "${f.id}" of ${s.name} is not plane; it is taken as ${parts.length} triangles.`);
        for (const part of parts) sides.push({ id: f.id, ring: part });
      } else sides.push({ id: f.id, ring });
    }
    const shape = form(s, sides, tell);
    if (!shape) continue;
    turnedAll += shape.turned;
    const own = freeId(project.spaces, s.id);
    const storey = storeyOf(s.id, shape.low);
    const level = project.storeys[storey];
    const hosts = new Map<string, string[]>();
    let value: Space["form"];
    if (shape.kind === "prism") {
      const base = round(shape.low - level.elevation);
      value = {
        kind: "prism",
        outline: namedRing([], shape.ring).map((p) => ({ ...p, x: round(p.x), y: round(p.y) })),
        floor: "floor",
        ceiling: "ceiling",
        ...(Math.abs(base) > 0.005 ? { base } : {}),
        ...(Math.abs(shape.high - shape.low - (level.height - (Math.abs(base) > 0.005 ? base : 0))) > 0.001 ? { height: round(shape.high - shape.low) } : {}),
      };
    } else {
      const faces: Record<string, { ring: Corner[] }> = {};
      for (const side of shape.sides) {
        const key = freeId(faces, side.id);
        faces[key] = { ring: side.ring.map(([x, y, z]): Corner => [round(x), round(y), round(z)]) };
        hosts.set(side.id, [...(hosts.get(side.id) ?? []), `${own}/${key}`]);
      }
      value = { kind: "faces", faces };
    }
    const inputs: Space["inputs"] = {};
    const floor = s.area ?? shape.area;
    /** A figure within its usual limits, or a message and nothing. */
    const within = (what: string, v: number | null, low: number, high: number, unit: string): number | undefined => {
      if (v === null) return undefined;
      if (v >= low && v <= high) return v;
      tell("left out", true, `${s.name}: ${what} of ${Number(v.toPrecision(4))} ${unit} is not between ${low} and ${high}; the space type's stays.`);
      return undefined;
    };
    const put = (field: "lightingPower" | "appliancePower" | "peopleDensity" | "heatingSetpoint" | "coolingSetpoint", v: number | undefined): void => {
      if (v !== undefined) inputs[field] = v;
    };
    put("lightingPower", within("lighting", s.lighting, 0, 200, "W/m²"));
    put("appliancePower", within("equipment", s.appliances, 0, 2000, "W/m²"));
    put("peopleDensity", within("people", s.people === null || floor === 0 ? null : s.people / floor, 0, 5, "1/m²"));
    for (const [field, ref] of [
      ["peopleSchedule", s.schedules.people],
      ["lightingSchedule", s.schedules.lighting],
      ["applianceSchedule", s.schedules.appliances],
    ] as const) {
      const schedule = ref === null ? undefined : scheduleOf.get(ref);
      if (schedule && project.schedules[schedule].kind === "fraction") (inputs as Record<string, unknown>)[field] = schedule;
    }
    let zone = s.zone === null ? undefined : zoneOf.get(s.zone);
    if (!zone) {
      zone = freeId(project.zones, own);
      project.zones[zone] = { name: named(s.name, s.id), services: null, inputs: {} };
      if (s.zone !== null) tell("mended", true, `${s.name} names a zone "${s.zone}" the file does not have; it gets one of its own.`);
    }
    const told = records.zones.find((z) => z.id === s.zone);
    const heated = within("a heating temperature", told?.heating ?? null, -10, 40, "°C");
    put("heatingSetpoint", heated);
    put("coolingSetpoint", within("a cooling temperature", told?.cooling ?? null, Math.max(5, heated ?? 5), 50, "°C"));
    project.spaces[own] = {
      name: named(s.name, s.id),
      storey,
      zone,
      spaceType: s.use === null ? Object.keys(project.spaceTypes)[0] : (useOf.get(s.use) ?? null),
      kit: null,
      form: value,
      inputs,
    };
    made.set(s.id, { id: own, hosts });
    if (shape.kind === "prism" && s.volume !== null && s.volume > 0 && Math.abs(s.volume / (shape.area * (shape.high - shape.low)) - 1) > 0.02)
      tell(
        "read",
        false,
        `${s.name}: the file states ${s.volume.toFixed(1)} m³, its surfaces enclose ${(shape.area * (shape.high - shape.low)).toFixed(1)} m³; the surfaces count.`,
      );
    if (shape.kind === "faces") tell("read", true, `${s.name} is no upright prism; it is kept as ${shape.sides.length} free faces.`);
  }
  if (turnedAll > 0)
    tell("mended", true, `${turnedAll} surface${turnedAll > 1 ? "s" : ""} looked into a space and ${turnedAll > 1 ? "are" : "is"} turned outward.`);
  for (const f of records.surfaces)
    for (const a of f.adjacent)
      if (!records.spaces.some((s) => s.id === a))
        tell("left out", true, `Surface "${f.id}" names a space "${a}" the file does not have; that side of it is left out.`);
  const { faces } = deriveFaces(project);
  for (const f of records.surfaces)
    for (const a of f.adjacent) {
      const m = made.get(a);
      const ring = cleanRing(f.ring);
      const value = m && project.spaces[m.id].form;
      if (!m || !ring || value?.kind !== "prism") continue;
      const host = hostOf(value, faces, m.id, ring);
      if (host) m.hosts.set(f.id, [host]);
    }
  return made;
}

type Shape =
  | { readonly kind: "prism"; readonly ring: readonly Point[]; readonly low: number; readonly high: number; readonly area: number; readonly turned: number }
  | {
      readonly kind: "faces";
      readonly sides: readonly ShellSide[];
      readonly low: number;
      readonly high: number;
      readonly area: number;
      readonly turned: number;
    };

function form(s: BuildingRecords["spaces"][number], sides: readonly ShellSide[], tell: Tell): Shape | null {
  const flatArea = (ring: readonly Point[]): number => {
    let a = 0;
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length];
      a += (p[0] * q[1] - q[0] * p[1]) / 2;
    });
    return Math.abs(a);
  };
  if (sides.length === 0 && s.outline) {
    const ring = s.outline.ring.map((p): Point => [p[0], p[1]]);
    const low = s.outline.ring[0][2];
    return { kind: "prism", ring, low, high: low + s.outline.height, area: flatArea(ring), turned: 0 };
  }
  if (sides.length < 4) {
    tell("left out", true, `${s.name} has ${sides.length} usable surfaces; at least four enclose a space. It is left out.`);
    return null;
  }
  const shell = asPrism(sides);
  if (shell) return { kind: "prism", ...shell, area: flatArea(shell.ring), turned: 0 };
  const outward = turnOutward(sides);
  const z = sides.flatMap((f) => f.ring.map((p) => p[2]));
  const floor = outward.sides.filter((f) => ringNormal(f.ring)[2] < -0.9).reduce((a, f) => a + flatArea(f.ring.map((p): Point => [p[0], p[1]])), 0);
  return { kind: "faces", sides: outward.sides, low: Math.min(...z), high: Math.max(...z), area: floor, turned: outward.turned };
}

/** The side of a prism a surface of the file lies on. */
function hostOf(f: Extract<Space["form"], { kind: "prism" }>, faces: readonly Face[], space: string, ring: readonly Vector[]): string | null {
  const n = ringNormal(ring);
  const middle = ring.reduce((s, p): Vector => [s[0] + p[0] / ring.length, s[1] + p[1] / ring.length, s[2] + p[2] / ring.length], [0, 0, 0]);
  if (Math.abs(n[2]) > 0.9) {
    const own = faces.filter((x) => x.space === space && x.plate);
    const best = own.sort((a, b) => Math.abs(a.low - middle[2]) - Math.abs(b.low - middle[2]))[0];
    return best?.host ?? null;
  }
  let host: string | null = null;
  let least = NEAR * 4;
  f.outline.forEach((p, i) => {
    const q = f.outline[(i + 1) % f.outline.length];
    const l = Math.sqrt((q.x - p.x) * (q.x - p.x) + (q.y - p.y) * (q.y - p.y));
    const off = Math.max(...ring.map((c) => Math.abs((c[0] - p.x) * (q.y - p.y) - (c[1] - p.y) * (q.x - p.x)) / l));
    const s = ((middle[0] - p.x) * (q.x - p.x) + (middle[1] - p.y) * (q.y - p.y)) / l;
    if (off < least && s > -NEAR && s < l + NEAR) [least, host] = [off, `${space}/${p.id}`];
  });
  return host;
}

/** Assemblies and glazings of the file that are told in full, and rows to match for the rest. */
function constructions(
  records: BuildingRecords,
  project: Project,
  matches: Readonly<Record<string, string>>,
  matching: MatchRow[],
  tell: Tell,
): Map<string, string> {
  const ids = new Map<string, string>();
  const used = new Map<string, number>();
  const kinds = new Map<string, Assembly["use"]>();
  const count = (ref: string | null): void => {
    if (ref !== null) used.set(ref, (used.get(ref) ?? 0) + 1);
  };
  for (const s of records.surfaces) {
    count(s.construction);
    if (s.construction !== null && !kinds.has(s.construction)) kinds.set(s.construction, useOf(s));
    for (const o of s.openings) {
      count(o.construction);
      if (o.construction !== null && o.use === "door") kinds.set(o.construction, "door");
    }
  }
  const materials = new Map(records.materials.map((m) => [m.id, m]));
  const material = new Map<string, string>();
  const layer = (m: BuildingRecords["materials"][number], i: number): Assembly["layers"][number] | null => {
    if (
      m.thickness !== null &&
      m.thickness > 0 &&
      m.thickness <= 10 &&
      m.conductivity !== null &&
      m.conductivity > 0 &&
      m.conductivity <= 500 &&
      m.density !== null &&
      m.specificHeat !== null
    ) {
      let own = material.get(m.id);
      if (!own) {
        own = freeId(project.materials, `file_${m.id}`);
        material.set(m.id, own);
        if (m.density < 0 || m.density > 20000 || m.specificHeat < 0 || m.specificHeat > 10000)
          tell("mended", true, `Material "${m.name}" has a density or specific heat no material has; the nearest possible is taken.`);
        const value: Material = {
          name: named(m.name, m.id),
          conductivity: m.conductivity,
          density: clamp(m.density, 0, 20000),
          specificHeat: clamp(m.specificHeat, 0, 10000),
          solarAbsorptance: 0.6,
          emissivity: 0.9,
          roughness: "medium rough",
          source: `${records.format} file`,
        };
        project.materials[own] = value;
      }
      return { kind: "solid", id: `l${i + 1}`, material: own, thickness: m.thickness };
    }
    const r = m.resistance ?? (m.thickness && m.conductivity ? m.thickness / m.conductivity : null);
    return r !== null && r > 0 && r <= 100 ? { kind: "resistance", id: `l${i + 1}`, name: named(m.name, m.id), resistance: r } : null;
  };
  const row = (kind: MatchRow["kind"], ref: string, name: string, options: MatchRow["options"]): void => {
    const key = `${kind}:${name}`;
    const chosen = matches[key] !== undefined && options.some((o) => o.id === matches[key]) ? matches[key] : null;
    if (chosen !== null) ids.set(ref, chosen);
    matching.push({ key, kind, name, count: used.get(ref) ?? 0, chosen, options });
    if (chosen === null)
      tell("left out", true, `${kind === "glazing" ? "Glazing" : "Construction"} "${name}" is not told in full; match it, or the kit's stands in its place.`);
  };
  const starters = (kind: "assembly" | "glazing"): MatchRow["options"] =>
    Object.entries(kind === "assembly" ? project.assemblies : project.glazings).map(([k, a]) => ({ id: k, name: a.name }));
  const offered = { assembly: starters("assembly"), glazing: starters("glazing") };
  for (const c of records.constructions) {
    if (!used.has(c.id)) continue;
    const use = kinds.get(c.id) ?? "exterior wall";
    const found = c.materials.map((m) => materials.get(m));
    const layers = found.map((m, i) => (m ? layer(m, i) : null));
    const whole = layers.length > 0 && layers.every((l) => l !== null);
    let made: Assembly["layers"] | null = whole ? (layers as Assembly["layers"]) : null;
    if (!made && c.u !== null && c.u > 0 && c.u < 7) {
      const [outside, inside] = surfaceResistances(use);
      const r = 1 / c.u - outside - inside;
      if (r > 0) {
        made = [{ kind: "resistance", id: "l1", name: "as the file's U", resistance: r }];
        tell("mended", true, `Construction "${c.name}" has no usable layers; it is one resistance of its U of ${c.u.toFixed(2)} W/m²K, without mass.`);
      }
    }
    if (!made) {
      row("assembly", c.id, c.name || c.id, offered.assembly);
      continue;
    }
    const own = freeId(project.assemblies, `file_${c.id}`);
    ids.set(c.id, own);
    project.assemblies[own] = { name: named(c.name, c.id), use, layers: made };
    if (whole && c.u !== null && c.u > 0) {
      const [outside, inside] = surfaceResistances(use);
      const u = 1 / (outside + inside + layersResistance(assemblyLayers(project, project.assemblies[own])));
      if (Math.abs(u / c.u - 1) > 0.1)
        tell("read", true, `Construction "${c.name}" states U ${c.u.toFixed(2)}, its layers give ${u.toFixed(2)} W/m²K; the layers count.`);
    }
  }
  for (const w of records.windowTypes) {
    if (!used.has(w.id)) continue;
    if (w.u === null || w.g === null || !(w.u > 0 && w.u <= 7 && w.g >= 0 && w.g <= 1)) {
      row("glazing", w.id, w.name || w.id, offered.glazing);
      continue;
    }
    const own = freeId(project.glazings, `file_${w.id}`);
    ids.set(w.id, own);
    const value: Glazing = {
      kind: "rated",
      name: named(w.name, w.id),
      u: w.u,
      g: w.g,
      visibleTransmittance: w.visible !== null && w.visible >= 0 && w.visible <= 1 ? w.visible : Math.min(1, w.g),
      // the file's figures are of the whole window, with the standard films of ISO 10077-1
      frameShare: 0,
      ratedFilms: { inside: 7.7, outside: 25 },
      blind: null,
      source: `${records.format} file`,
    };
    project.glazings[own] = value;
    if (w.visible === null) tell("mended", true, `Glazing "${value.name}" tells no visible transmittance; its solar gain stands in for daylight.`);
  }
  const known = new Set([...records.constructions.map((c) => c.id), ...records.windowTypes.map((w) => w.id)]);
  const missing = [...used.keys()].filter((ref) => !known.has(ref));
  for (const ref of missing) {
    const opening = records.surfaces.some((s) => s.openings.some((o) => o.construction === ref && o.use === "window"));
    row(opening ? "glazing" : "assembly", ref, ref, opening ? offered.glazing : offered.assembly);
  }
  return ids;
}

function useOf(s: SurfaceRecord): Assembly["use"] {
  const inner = s.adjacent.length > 1;
  if (s.kind === "wall" || s.kind === "air" || s.kind === "shade") return inner ? "interior wall" : "exterior wall";
  if (inner || s.kind === "ceiling") return "interior floor";
  return s.kind === "roof" ? "roof" : s.underground || Math.min(...s.ring.map((p) => p[2])) < 0.6 ? "ground floor" : "exposed floor";
}

function openings(records: BuildingRecords, project: Project, made: Made, constructionOf: ReadonlyMap<string, string>, tell: Tell): void {
  let opened = 0;
  for (const s of records.surfaces) {
    const home = made.get(s.adjacent[0] ?? "") ?? made.get(s.adjacent[1] ?? "");
    for (const o of s.openings) {
      const ring = cleanRing(o.ring);
      const [host] = home?.hosts.get(s.id) ?? [];
      if (!ring) {
        tell("left out", true, `Opening "${o.id}" has fewer than three corners or no area; it is left out.`);
        continue;
      }
      if (!home || !host) {
        tell("left out", true, `Opening "${o.name}" is in surface "${s.id}", which is not part of any space; it is left out.`);
        continue;
      }
      if (s.adjacent.length > 1) {
        tell("left out", false, `Opening "${o.name}" lies between two spaces; openings are computed in outdoor faces only.`);
        continue;
      }
      const value = placed(project, o, host, ring, constructionOf);
      if (o.operable && o.use === "window") opened++;
      project.openings[freeId(project.openings, o.id)] = value;
    }
  }
  if (opened > 0)
    tell("mended", true, `Openings that can be opened: ${opened}. The file does not say how far; ${100 * OPERABLE} % of each is taken as free area.`);
}

/** An opening as a rectangle on its wall where it is one, else by its corners. */
function placed(project: Project, o: OpeningRecord, host: string, ring: readonly Vector[], constructionOf: ReadonlyMap<string, string>): Opening {
  const construction = o.construction === null ? undefined : constructionOf.get(o.construction);
  const fits = construction !== undefined && Object.hasOwn(o.use === "door" ? project.assemblies : project.glazings, construction);
  const common = { name: named(o.name, o.id), glazing: fits ? construction : null, ...(o.operable && o.use === "window" ? { operable: OPERABLE } : {}) };
  const [space, edge] = host.split("/");
  const { form: f, storey } = project.spaces[space];
  const i = f.kind === "prism" ? f.outline.findIndex((p) => p.id === edge) : -1;
  if (f.kind === "prism" && i >= 0 && ring.length === 4) {
    const [p, q] = [f.outline[i], f.outline[(i + 1) % f.outline.length]];
    const l = Math.sqrt((q.x - p.x) * (q.x - p.x) + (q.y - p.y) * (q.y - p.y));
    const s = ring.map((c) => ((c[0] - p.x) * (q.x - p.x) + (c[1] - p.y) * (q.y - p.y)) / l);
    const z = ring.map((c) => c[2]);
    const [from, to, low, high] = [Math.min(...s), Math.max(...s), Math.min(...z), Math.max(...z)];
    const square = ring.every(
      (_, k) => (Math.abs(s[k] - from) < 1e-3 || Math.abs(s[k] - to) < 1e-3) && (Math.abs(z[k] - low) < 1e-3 || Math.abs(z[k] - high) < 1e-3),
    );
    const floor = project.storeys[storey].elevation + (f.base ?? 0);
    if (square && from > -1e-3 && low - floor > -1e-3)
      return {
        kind: "placed",
        ...common,
        host,
        use: o.use,
        offset: Math.max(0, round(from)),
        sill: Math.max(0, round(low - floor)),
        width: round(to - from),
        height: round(high - low),
      };
  }
  return { kind: "outline", ...common, host, use: o.use, ring: ring.map(([x, y, z]): Corner => [round(x), round(y), round(z)]) };
}

function shades(records: BuildingRecords, project: Project, tell: Tell): void {
  for (const s of records.surfaces) {
    if (s.adjacent.length > 0) continue;
    const ring = cleanRing(s.ring);
    if (!ring) {
      tell("left out", true, `Surface "${s.id}" has fewer than three corners or no area; it is left out.`);
      continue;
    }
    if (s.kind !== "shade") {
      tell("mended", true, `Surface "${s.id}" belongs to no space; it is kept as a shading plane.`);
    }
    if (ring.length > 60) {
      tell("left out", true, `Shading surface "${s.id}" has ${ring.length} corners; at most 60 are kept. It is left out.`);
      continue;
    }
    project.shades[freeId(project.shades, s.id)] = {
      kind: "plane",
      name: named(s.name, s.id),
      ring: ring.map(([x, y, z]): Corner => [round(x), round(y), round(z)]),
    };
  }
}

/** Part of an envelope kit a surface of the file belongs to. */
const ROLE: Readonly<Record<Assembly["use"], KitRole>> = {
  "exterior wall": "exteriorWall",
  roof: "roof",
  "ground floor": "groundFloor",
  "exposed floor": "exposedFloor",
  "interior wall": "interiorWall",
  "interior floor": "interiorFloor",
  door: "door",
};

const area = (ring: readonly Vector[]): number => {
  const v = areaVector(ring);
  return Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]);
};

/** What faces are made of: the construction with the most area of a role goes into the kit; a side with others is set by itself. */
function assign(records: BuildingRecords, project: Project, made: Made, constructionOf: ReadonlyMap<string, string>, tell: Tell): void {
  const totals = new Map<KitRole, Map<string, number>>();
  const onHost = new Map<string, { readonly assembly: string; readonly role: KitRole; readonly area: number }[]>();
  for (const s of records.surfaces) {
    const assembly = s.construction === null ? undefined : constructionOf.get(s.construction);
    if (!assembly || !Object.hasOwn(project.assemblies, assembly)) continue;
    // one record tells both sides of an inner surface
    const hosts = s.adjacent.map((a) => made.get(a)?.hosts.get(s.id)).find((h) => h !== undefined);
    if (!hosts) continue;
    const entry = { assembly, role: ROLE[useOf(s)], area: area(s.ring) };
    const by = totals.get(entry.role) ?? new Map<string, number>();
    by.set(assembly, (by.get(assembly) ?? 0) + entry.area);
    totals.set(entry.role, by);
    for (const h of hosts) onHost.set(h, [...(onHost.get(h) ?? []), entry]);
  }
  const kit = project.kits[project.defaults.kit];
  for (const [role, by] of totals) kit[role] = [...by].sort((a, b) => b[1] - a[1])[0][0];
  const glazing = new Map<string, number>();
  for (const o of Object.values(project.openings))
    if ("use" in o && o.use === "window" && o.glazing !== null) glazing.set(o.glazing, (glazing.get(o.glazing) ?? 0) + 1);
  const most = [...glazing].sort((a, b) => b[1] - a[1])[0];
  if (most) kit.glazing = most[0];
  for (const [host, entries] of onHost) {
    const apart = entries.filter((e) => e.assembly !== kit[e.role]).sort((a, b) => b.area - a.area);
    if (apart.length === 0) continue;
    const [{ assembly }] = apart;
    if (entries.some((e) => e.assembly !== assembly))
      tell(
        "mended",
        true,
        `One side of ${project.spaces[host.split("/")[0]].name} has several constructions in the file; all of it is taken as "${project.assemblies[assembly].name}".`,
      );
    project.faceOverrides[freeId(project.faceOverrides, host)] = { host, assembly };
  }
}

/** Where the file's neighbours and what geometry finds differ. */
function contacts(records: BuildingRecords, project: Project, made: Made, tell: Tell): void {
  const { faces } = deriveFaces(project);
  const pairs = new Set(faces.flatMap((f) => (f.partnerSpace ? [[f.space, f.partnerSpace].sort().join(" ")] : [])));
  for (const s of records.surfaces) {
    if (s.adjacent.length === 2 && s.adjacent[0] !== s.adjacent[1]) {
      const [a, b] = s.adjacent.map((x) => made.get(x)?.id);
      if (a && b && !pairs.has([a, b].sort().join(" ")))
        tell(
          "read",
          true,
          `Surface "${s.id}" joins ${project.spaces[a].name} and ${project.spaces[b].name} in the file, but they do not touch; see the checks.`,
        );
    }
    if (s.underground && s.adjacent.length === 1 && s.kind === "wall" && s.ring.every((p) => p[2] > -0.05)) {
      const [host] = made.get(s.adjacent[0])?.hosts.get(s.id) ?? [];
      if (!host) continue;
      const known = Object.entries(project.faceOverrides).find(([, o]) => o.host === host);
      if (known) project.faceOverrides[known[0]] = { ...known[1], contact: "ground" };
      else project.faceOverrides[freeId(project.faceOverrides, host)] = { host, assembly: null, contact: "ground" };
      tell("read", true, `Surface "${s.id}" lies in earth above ground level; its side is set to ground by hand.`);
    }
  }
}
