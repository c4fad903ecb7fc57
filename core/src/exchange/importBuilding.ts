import { deriveFaces, freeId, type Vector } from "../geometry/index.ts";
import { BudgetSpent, withinBudget } from "../numeric/index.ts";
import { starterFabric, starterProject, type FabricLevel, type MassingContext } from "../inputs/index.ts";
import type { StarterUse } from "../library/index.ts";
import { COMMON_YEAR, inRange, parseProject, type Corner, type Opening, type Project, type Schedule, quantity } from "../model/index.ts";
import { assign, constructions } from "./importFabric.ts";
import { clamp, named, round, suggestionFor, type Made, type MatchRow, type Tell } from "./importParts.ts";
import { spaces, uses } from "./importSpaces.ts";
import type { BuildingRecords, ImportMessage, OpeningRecord } from "./records.ts";
import { cleanRing } from "./shells.ts";
import { recordsFault, WELD, welded } from "./weld.ts";

export interface ImportOutcome {
  readonly project: Project;
  readonly report: readonly ImportMessage[];
  readonly matching: readonly MatchRow[];
}

/** Free area of a window a file calls operable, share of it: typical, unverified. */
const OPERABLE = 0.5;
/** Height of a storey with none above it, m: typical, unverified. */
const TOP_STOREY = 3.5;
/**
 * A project from the neutral records of a file: spaces as prisms where their surfaces bound one, else as free
 * faces; openings on the sides that hold them; constructions, window types, schedules and zones as far as they
 * are told in full, and a row of the matching sheet for what is not. Nothing is dropped without a message.
 * @param matches earlier choices by row key
 */
export function importBuilding(
  given: BuildingRecords,
  context: MassingContext,
  id: string,
  matches: Readonly<Record<string, string>> = {},
  use: StarterUse = "office",
  level: FabricLevel = "code",
): ImportOutcome {
  const { records, moved } = welded(given);
  const report: ImportMessage[] = [...records.messages];
  const tell = (kind: ImportMessage["kind"], affects: boolean, text: string): void => void report.push({ kind, affects, text });
  if (moved > 0) tell("mended", false, `${moved} corners lay within ${quantity(1000 * WELD, "mm")} of another and are taken as one with it.`);
  const project = starterProject(context, id, named(records.name, "Imported building"), use, level);
  site(records, project, tell);
  const typeOf = uses(project, records, starterFabric(level).infiltration, use);
  const matching: MatchRow[] = [];
  const storeyOf = storeys(records, project, tell);
  const zoneOf = zones(records, project);
  const scheduleOf = schedules(records, project, matches, matching, tell);
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

/** Work an import may take: about ten seconds. */
const IMPORT_BUDGET = 4e9;

/** A building imported, or why its records cannot be those of one. @see importBuilding */
export function tryImport(
  ...given: Parameters<typeof importBuilding>
): { readonly ok: true; readonly outcome: ImportOutcome } | { readonly ok: false; readonly message: string } {
  const fault = recordsFault(given[0]);
  if (fault !== null) return { ok: false, message: fault };
  try {
    return { ok: true, outcome: withinBudget(IMPORT_BUDGET, () => importBuilding(...given)) };
  } catch (error) {
    if (!(error instanceof BudgetSpent)) throw error;
    return {
      ok: false,
      message:
        "The building is more than can be read: its surfaces cross each other too often. Check the file's unit of length, or export a part of the building.",
    };
  }
}

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

/** Schedules of shares and temperatures that cover the year; those in use that do not are rows to match. */
function schedules(
  records: BuildingRecords,
  project: Project,
  matches: Readonly<Record<string, string>>,
  matching: MatchRow[],
  tell: Tell,
): Map<string, string> {
  const ids = new Map<string, string>();
  const used = new Map<string, number>();
  for (const s of records.spaces) for (const ref of Object.values(s.schedules)) if (ref !== null) used.set(ref, (used.get(ref) ?? 0) + 1);
  const offered = Object.entries(project.schedules).flatMap(([id, s]) => (s.kind === "fraction" ? [{ id, name: s.name }] : []));
  const row = (ref: string, name: string): void => {
    const key = `schedule:${name}`;
    const chosen = offered.find((o) => o.id === matches[key])?.id ?? null;
    if (chosen !== null) ids.set(ref, chosen);
    matching.push({ key, kind: "schedule", name, count: used.get(ref) ?? 0, chosen, options: offered, suggested: suggestionFor(name, offered) });
  };
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
    if (!COMMON_YEAR.monthOfDay.every((_, d) => weeks.some((w) => inRange(d, w.from, w.to)))) {
      tell(
        "left out",
        used.has(s.id),
        `Schedule "${s.name}" does not give every day of the year a profile of 24 values; match it, or the space type's stands in its place.`,
      );
      if (used.has(s.id)) row(s.id, s.name);
      continue;
    }
    const own = freeId(project.schedules, `file_${s.id}`);
    ids.set(s.id, own);
    project.schedules[own] = { name: named(s.name, s.id), kind: s.temperature ? "temperature" : "fraction", profiles, weeks };
  }
  for (const ref of used.keys()) if (!records.schedules.some((s) => s.id === ref)) row(ref, ref);
  return ids;
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
      if (s.adjacent.length > 1 && o.use === "window") {
        tell("left out", false, `Window "${o.name}" lies between two spaces; glass is computed in outdoor faces only.`);
        continue;
      }
      const value = placed(project, o, host, ring, constructionOf);
      if (s.adjacent.length > 1 && value.kind !== "placed") {
        tell("left out", true, `"${o.name}" between two spaces is no upright rectangle; it is left out.`);
        continue;
      }
      if (s.adjacent.length < 2 && o.use === "opening") {
        tell("left out", true, `"${o.name}" is an opening without a door in an outdoor face; it is left out.`);
        continue;
      }
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
  const fits = construction !== undefined && Object.hasOwn(o.use === "window" ? project.glazings : project.assemblies, construction);
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
  return {
    kind: "outline",
    ...common,
    host,
    use: o.use === "window" ? "window" : "door",
    ring: ring.map(([x, y, z]): Corner => [round(x), round(y), round(z)]),
  };
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
