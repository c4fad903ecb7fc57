import { deriveWeather, relativeHumidity, type WeatherYear } from "../climate/index.ts";
import { checkDimensions, evaluate, namesIn, parseExpression, unfit } from "../expression/index.ts";
import { groupsOf } from "../inputs/index.ts";
import { spaceShapes } from "../geometry/index.ts";
import { fuels, unitOfText, type Derived, type Project, type SeriesRef, type Unit } from "../model/index.ts";
import type { FuelHours } from "../run/index.ts";
import { airPathQuantities, componentQuantities, faceQuantities, sensorQuantities, siteQuantities, zoneQuantities, type Quantity } from "../simulate/index.ts";
import type { Series } from "./summary.ts";
import { together } from "./statistics.ts";

/** Of the outdoors. */
export const outdoorQuantities = [
  { name: "dryBulb", label: "Outdoor temperature", unit: "°C", kind: "mean", usual: false },
  { name: "outdoorHumidityRatio", label: "Outdoor humidity ratio", unit: "kg/kg", kind: "mean", usual: false },
  { name: "outdoorHumidity", label: "Outdoor relative humidity", unit: "%", kind: "mean", usual: false },
  { name: "windSpeed", label: "Wind speed at 10 m", unit: "m/s", kind: "mean", usual: false },
  { name: "globalSun", label: "Global horizontal sun", unit: "W/m²", kind: "mean", usual: false },
  { name: "diffuseSun", label: "Diffuse horizontal sun", unit: "W/m²", kind: "mean", usual: false },
] as const satisfies readonly Quantity[];
/** Of the building: power of each fuel, all end uses together. */
export const fuelQuantities = fuels.map((f): Quantity => ({
  name: `fuel ${f}`,
  label: `${f[0].toUpperCase()}${f.slice(1)}, all uses`,
  unit: "W",
  kind: "mean",
  usual: false,
}));

/** Quantities by what they are of; derived series have their own. */
export const quantitiesOf: Readonly<Record<Exclude<SeriesRef["of"], "derived">, readonly Quantity[]>> = {
  zone: zoneQuantities,
  group: zoneQuantities,
  face: faceQuantities,
  sensor: sensorQuantities,
  component: componentQuantities,
  store: siteQuantities.filter((q) => q.name !== "madePower"),
  maker: siteQuantities.filter((q) => q.name === "madePower"),
  airPath: airPathQuantities,
  outdoors: outdoorQuantities,
  building: fuelQuantities,
};
/** Units whose values add up over zones: powers and flows; others have a mean by floor area. */
const ADDED: ReadonlySet<string> = new Set(["W", "L/s", "kg/s"]);
export const addsUp = (unit: string): boolean => ADDED.has(unit);

/** Hourly values at hand, by quantity and by what they are of. */
export interface SeriesTable {
  readonly hours: number;
  readonly series: Readonly<Record<string, Readonly<Record<string, ArrayLike<number>>>>>;
}
/** Values of one series in its unit, or why there are none. */
export type SeriesRead =
  | { readonly ok: true; readonly unit: string; readonly values: ArrayLike<number> }
  /** `missing`: it is not at hand, though a run could give it. */
  | { readonly ok: false; readonly missing: boolean; readonly message: string };

/** Name and unit of a series's quantity; null: there is none such. */
export function quantityOf(project: Pick<Project, "derived">, ref: SeriesRef): { readonly label: string; readonly unit: string } | null {
  if (ref.of !== "derived") return quantitiesOf[ref.of].find((q) => q.name === ref.quantity) ?? null;
  const d = project.derived && Object.hasOwn(project.derived, ref.id) ? project.derived[ref.id] : null;
  return d ? { label: d.name, unit: d.unit } : null;
}

/** Floor area, m², and copies of its storey, of every zone. */
export function zoneWeights(project: Project): ReadonlyMap<string, { readonly area: number; readonly times: number }> {
  const out = new Map<string, { area: number; times: number }>();
  for (const [id, shape] of spaceShapes(project)) {
    const { zone, storey } = project.spaces[id];
    if (zone === null) continue;
    const known = out.get(zone);
    if (known) known.area += shape.floorArea;
    else out.set(zone, { area: shape.floorArea, times: project.storeys[storey].multiplier });
  }
  return out;
}

/** The group of all zones. */
export const ALL_ZONES = "all zones";
/** Zones of a group; of the group of all zones every one. */
export const zonesIn = (project: Project, group: string): readonly string[] =>
  group === ALL_ZONES ? Object.keys(project.zones) : (groupsOf(project).find((g) => g.id === group)?.zones ?? []);

/** Derived series may stand on each other this deep. */
const DEEPEST = 12;

/** Reads one series from what is at hand; a group's from its zones, a derived one's from those it names. */
export function readSeries(project: Project, table: SeriesTable, ref: SeriesRef, depth = 0): SeriesRead {
  const spec = quantityOf(project, ref);
  if (!spec) return { ok: false, missing: false, message: `There is no series "${ref.quantity}" of a ${ref.of}.` };
  if (ref.of === "derived") return readDerived(project, table, (project.derived as Record<string, Derived>)[ref.id], depth);
  const rows = Object.hasOwn(table.series, ref.quantity) ? table.series[ref.quantity] : null;
  const none: SeriesRead = { ok: false, missing: rows === null, message: `${spec.label} is not kept of this.` };
  if (!rows) return none;
  if (ref.of !== "group") return Object.hasOwn(rows, ref.id) ? { ok: true, unit: spec.unit, values: rows[ref.id] } : none;
  const weights = zoneWeights(project);
  const zones = zonesIn(project, ref.id).filter((z) => Object.hasOwn(rows, z));
  if (zones.length === 0) return { ok: false, missing: false, message: "The group has no zones." };
  const summed = addsUp(spec.unit);
  const weight = (z: string): number => {
    const w = weights.get(z) ?? { area: 0, times: 1 };
    return summed ? w.times : w.area * w.times;
  };
  return {
    ok: true,
    unit: spec.unit,
    values: together(
      zones.map((z) => rows[z]),
      zones.map(weight),
      summed,
    ),
  };
}

const unitNamed = (unit: string): Unit => unitOfText(unit === "" ? "1" : unit) as Unit;

/** What is wrong with a derived series, before any values are there; null: nothing. */
export function derivedFault(project: Pick<Project, "derived">, d: Derived): string | null {
  if (!unitOfText(d.unit)) return `"${d.unit}" is no unit Arroyo knows.`;
  const parsed = parseExpression(d.formula, Object.keys(d.of));
  if (!parsed.ok) return parsed.fault.message;
  const dimensions = new Map<string, Unit["dimension"]>();
  for (const [letter, ref] of Object.entries(d.of)) {
    const spec = quantityOf(project, ref);
    if (spec) dimensions.set(letter, unitNamed(spec.unit).dimension);
  }
  const checked = checkDimensions(parsed.root, dimensions);
  if (!checked.ok) return checked.fault.message;
  return unfit(checked.dimension, d.unit)?.message ?? null;
}

function readDerived(project: Project, table: SeriesTable, d: Derived, depth: number): SeriesRead {
  if (depth > DEEPEST) return { ok: false, missing: false, message: `${d.name} stands on itself.` };
  const fault = derivedFault(project, d);
  if (fault !== null) return { ok: false, missing: false, message: fault };
  const parsed = parseExpression(d.formula, Object.keys(d.of));
  if (!parsed.ok) return { ok: false, missing: false, message: parsed.fault.message };
  const columns = new Map<string, Float64Array>();
  for (const letter of namesIn(parsed.root)) {
    const read = readSeries(project, table, d.of[letter], depth + 1);
    if (!read.ok) return read;
    const { factor, offset = 0 } = unitNamed(read.unit);
    columns.set(
      letter,
      Float64Array.from(read.values, (v) => v * factor + offset),
    );
  }
  const found = evaluate(parsed.root, { rows: table.hours, column: (name) => columns.get(name) ?? NaN });
  const { factor, offset = 0 } = unitNamed(d.unit);
  return { ok: true, unit: d.unit, values: found.map((v) => (v - offset) / factor) };
}

/** The quantities of a run that have to be kept for a series to be read, those of derived ones too. */
export function neededFor(project: Pick<Project, "derived">, ref: SeriesRef, depth = 0): readonly SeriesRef[] {
  if (ref.of !== "derived") return [ref];
  const d = project.derived && Object.hasOwn(project.derived, ref.id) ? project.derived[ref.id] : null;
  return d && depth <= DEEPEST ? Object.values(d.of).flatMap((r) => neededFor(project, r, depth + 1)) : [];
}

/**
 * Series of a run with those of the outdoors and of the building's fuels beside them.
 * @param weather the run was made with
 * @param days of a short year, from 0, in their order: which hours of the weather year the values are of
 */
export function seriesTable(series: readonly Series[], weather: WeatherYear, fuel: FuelHours, days: readonly number[] | null = null): SeriesTable {
  const hours = series[0]?.values.length ?? 0;
  const first = series[0]?.start ?? 0;
  const hourOf = (h: number): number => (days ? 24 * days[Math.floor(h / 24)] + (h % 24) : first + h);
  const rows: Record<string, Record<string, ArrayLike<number>>> = {};
  for (const s of series) (rows[s.quantity] ??= {})[s.scope] = s.values;
  const { humidityRatio } = deriveWeather(weather);
  const n = weather.dryBulb.length;
  const of: Readonly<Record<(typeof outdoorQuantities)[number]["name"], (h: number) => number>> = {
    dryBulb: (h) => weather.dryBulb[h],
    outdoorHumidityRatio: (h) => humidityRatio[h],
    outdoorHumidity: (h) => 100 * relativeHumidity(weather.dryBulb[h], humidityRatio[h], weather.pressure[h]),
    windSpeed: (h) => weather.windSpeed[h],
    globalSun: (h) => weather.globalHorizontal[h],
    diffuseSun: (h) => weather.diffuseHorizontal[h],
  };
  for (const { name } of outdoorQuantities) rows[name] = { outdoors: Float64Array.from({ length: hours }, (_, h) => of[name](hourOf(h) % n)) };
  for (const f of fuels) {
    const used = fuel.fuels[f];
    if (used?.some((v) => v !== 0)) rows[`fuel ${f}`] = { building: Float64Array.from(used, (v) => 1000 * v) };
  }
  return { hours, series: rows };
}
