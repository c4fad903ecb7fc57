import type { Project, RunOptions } from "./schema.ts";

/** Run settings of a new project, and what a document of format 1, which had only step and sky, is taken to mean. */
export const DEFAULT_RUN: RunOptions = {
  stepsPerHour: 4,
  period: null,
  sky: "perez",
  skyEmissivity: "martin-berdahl",
  radiation: "network",
  beam: "floor",
  insideConvection: { kind: "temperature difference" },
  outsideConvection: { kind: "wind and temperature" },
  unmetTolerance: 0.5,
  shortYear: 24,
};

/** What format 2 adds to a site: slab on the ground, no edge insulation, moderate shelter. */
export const DEFAULT_GROUND = { floor: { kind: "slab" }, edge: null, temperature: null } as const;
export const DEFAULT_SHELTER = "moderate" as const;

const isRecord = (v: unknown): v is Record<string, unknown> => typeof v === "object" && v !== null && !Array.isArray(v);

/**
 * Format 1 to 2: glazings tell their kind and have a blind, the ground tells its floor, run settings name
 * every choice, and there are surroundings, air exchanges and sensors. Parts of another shape are left
 * for the schema to refuse.
 */
export function upgradeFrom1(document: Record<string, unknown>): Record<string, unknown> {
  const next: Record<string, unknown> = { ...document, formatVersion: 2 };
  if (isRecord(document.glazings))
    next.glazings = Object.fromEntries(Object.entries(document.glazings).map(([id, g]) => [id, isRecord(g) ? { kind: "rated", ...g, blind: null } : g]));
  if (isRecord(document.site)) {
    const { ground } = document.site;
    next.site = { ...document.site, shelter: DEFAULT_SHELTER, ground: isRecord(ground) ? { ...ground, ...DEFAULT_GROUND } : ground };
  }
  if (isRecord(document.run)) next.run = { ...DEFAULT_RUN, ...document.run };
  for (const added of ["surroundings", "airExchanges", "sensors"]) next[added] ??= {};
  if (isRecord(document.options)) next.options = upgradeOptions(document.options);
  return next;
}

/** Changes kept in options name glazings as a whole only when they insert one. */
function upgradeOptions(options: Record<string, unknown>): Record<string, unknown> {
  const glazing = (v: unknown): unknown => (isRecord(v) && !("kind" in v) ? { kind: "rated", ...v, blind: null } : v);
  return Object.fromEntries(
    Object.entries(options).map(([id, o]) => {
      if (!isRecord(o) || !Array.isArray(o.changes)) return [id, o];
      const changes = o.changes.map((c: unknown) => {
        if (!isRecord(c) || !Array.isArray(c.path) || c.path[0] !== "glazings" || c.path.length !== 2) return c;
        return { ...c, ...("value" in c ? { value: glazing(c.value) } : {}), ...("old" in c ? { old: glazing(c.old) } : {}) };
      });
      return [id, { ...o, changes }];
    }),
  );
}

/** Format 2 to 3: roofs. What else is new is optional. */
export function upgradeFrom2(document: Record<string, unknown>): Record<string, unknown> {
  return { ...document, formatVersion: 3, roofs: document.roofs ?? {} };
}

/** Format 3 to 4: changes of an option have ids. */
export function upgradeFrom3(document: Record<string, unknown>): Record<string, unknown> {
  const next: Record<string, unknown> = { ...document, formatVersion: 4 };
  if (isRecord(document.options))
    next.options = Object.fromEntries(
      Object.entries(document.options).map(([key, o]) => [
        key,
        isRecord(o) && Array.isArray(o.changes) ? { ...o, changes: o.changes.map((c: unknown, i) => (isRecord(c) ? { id: `c${i + 1}`, ...c } : c)) } : o,
      ]),
    );
  return next;
}

/** Format 4 to 5: a kit has a glazing of its own for roofs, which was that of its windows. What else is new is optional. */
export function upgradeFrom4(document: Record<string, unknown>): Record<string, unknown> {
  const next: Record<string, unknown> = { ...document, formatVersion: 5 };
  const kit = (k: unknown): unknown => (isRecord(k) && typeof k.glazing === "string" && !("skylight" in k) ? { ...k, skylight: k.glazing } : k);
  if (isRecord(document.kits)) next.kits = Object.fromEntries(Object.entries(document.kits).map(([id, k]) => [id, kit(k)]));
  if (isRecord(document.options))
    next.options = Object.fromEntries(
      Object.entries(document.options).map(([key, o]) => [
        key,
        isRecord(o) && Array.isArray(o.changes) ? { ...o, changes: o.changes.flatMap(withSkylight(kit)) } : o,
      ]),
    );
  return next;
}

/** What format 6 adds to a document, with nothing in it: use as it is known, and rules. */
const noneOfFormat6 = () => ({
  deviceLists: {},
  drawPoints: {},
  siteLights: {},
  rules: [],
  values: {},
  known: { area: null, headcount: null, lighting: null, appliances: null },
  provenance: {},
});

/** Format 5 to 6: device lists, draw points, exterior lighting, rules, named values and what is known of the whole building. */
export function upgradeFrom5(document: Record<string, unknown>): Record<string, unknown> {
  return { ...noneOfFormat6(), ...document, formatVersion: 6 };
}

/** What format 7 adds to a document, with nothing in it: resets by outdoor temperature. */
const noneOfFormat7 = () => ({ resets: {} });
/** What the one weather year of format 6 is called among those of format 7. */
const FIRST_YEAR = "year";

/** Format 6 to 7: resets by outdoor temperature; several weather years by name, of which one is in view; oil and propane. */
export function upgradeFrom6(document: Record<string, unknown>): Record<string, unknown> {
  const next: Record<string, unknown> = { ...noneOfFormat7(), ...document, formatVersion: 7 };
  // fuels that are new have figures to begin from: typical, unverified
  const fuelled = (by: unknown, oil: number, propane: number): unknown => (isRecord(by) ? { oil, propane, ...by } : by);
  if (isRecord(document.prices)) next.prices = { ...document.prices, perKWh: fuelled(document.prices.perKWh, 0.09, 0.1) };
  if (isRecord(document.factors))
    next.factors = { ...document.factors, carbon: fuelled(document.factors.carbon, 0.28, 0.23), primary: fuelled(document.factors.primary, 1.1, 1.1) };
  if (!isRecord(document.weather)) return next;
  next.weathers = { [FIRST_YEAR]: document.weather };
  next.weather = FIRST_YEAR;
  // what an option changed of the weather, it changes of that year
  const moved = (c: unknown): unknown =>
    isRecord(c) && Array.isArray(c.path) && c.path[0] === "weather" ? { ...c, path: ["weathers", FIRST_YEAR, ...(c.path as unknown[]).slice(1)] } : c;
  if (isRecord(document.options))
    next.options = Object.fromEntries(
      Object.entries(document.options).map(([key, o]) => [key, isRecord(o) && Array.isArray(o.changes) ? { ...o, changes: o.changes.map(moved) } : o]),
    );
  return next;
}

/** What format 8 adds to a document, with nothing in it: air systems and loops. */
const noneOfFormat8 = () => ({ airSystems: {}, loops: {} });

/** Format 7 to 8: air systems and loops; zones have none, and go on with their plain services. */
export function upgradeFrom7(document: Record<string, unknown>): Record<string, unknown> {
  return { ...noneOfFormat8(), ...document, formatVersion: 8 };
}

/** What format 9 adds to a document, with nothing in it: hot-water systems and electricity on site. */
const noneOfFormat9 = () => ({ waterSystems: {}, onSite: {} });

/** Format 8 to 9: hot-water systems and electricity on site; zones have none, and go on with the hot water of their plain services. */
export function upgradeFrom8(document: Record<string, unknown>): Record<string, unknown> {
  return { ...noneOfFormat9(), ...document, formatVersion: 9 };
}

/** The parts of a document that may be empty, with nothing in them. */
export const noUse = (): Pick<
  Project,
  | keyof ReturnType<typeof noneOfFormat6>
  | keyof ReturnType<typeof noneOfFormat7>
  | keyof ReturnType<typeof noneOfFormat8>
  | keyof ReturnType<typeof noneOfFormat9>
> => ({
  ...noneOfFormat6(),
  ...noneOfFormat7(),
  ...noneOfFormat8(),
  ...noneOfFormat9(),
});

/** An option that changes the glass of a kit's windows changed that of its roofs as well. */
const withSkylight =
  (kit: (k: unknown) => unknown) =>
  (c: unknown): unknown[] => {
    if (!isRecord(c) || !Array.isArray(c.path) || c.path[0] !== "kits") return [c];
    if (c.path.length === 2) return [{ ...c, ...("value" in c ? { value: kit(c.value) } : {}), ...("old" in c ? { old: kit(c.old) } : {}) }];
    if (c.path.length !== 3 || c.path[2] !== "glazing") return [c];
    return [c, { ...c, id: `${String(c.id).slice(0, 55)}_roof`, path: [...(c.path as unknown[]).slice(0, 2), "skylight"] }];
  };
