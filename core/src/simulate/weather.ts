import { daysOf, morphYear, synthesizeYear, type WeatherYear } from "../climate/index.ts";
import { drivenByInput, drivenInputs, drivenWeather, type DrivenWeather } from "../inputs/index.ts";
import type { LoggedReadings } from "../logged/index.ts";
import { yearParts, type Project } from "../model/index.ts";

/** What a project's year is made of besides its document, each by its content. */
export interface StoredYear {
  /** The stored weather year it follows from (see `storedHash`); null: none. */
  readonly weather: WeatherYear | null;
  /** Readings of the points that drive inputs. */
  readonly logged: LoggedReadings;
}
export const NOTHING_STORED: StoredYear = { weather: null, logged: {} };

/**
 * A weather year of a project: made from monthly normals, stored, or morphed from either; with what logged points drive in it.
 * @param year id of the year; absent: the one in view
 * @returns null where it follows from a stored year that is not given
 * @throws RangeError where readings that drive an input are not given
 */
export function projectWeather(project: Project, stored: StoredYear = NOTHING_STORED, year: string = project.weather): WeatherYear | null {
  const [own, base] = yearParts(project, year);
  const made = (part: typeof own | undefined): WeatherYear | null =>
    part?.kind === "normals" ? synthesizeYear(project.site, part.normals, part.seed) : part?.kind === "stored" ? stored.weather : null;
  if (own?.kind !== "morphed") return withDriven(project, made(own), stored.logged);
  const present = made(base);
  return withDriven(project, present && morphYear(present, own.morph, own.name), stored.logged);
}

/** A weather year with the inputs that points drive, and with the weather they drive in place of its own. */
export function withDriven(project: Project, weather: WeatherYear | null, logged: LoggedReadings): WeatherYear | null {
  if (!weather || Object.keys(project.drives ?? {}).length === 0) return weather;
  const all = drivenByInput(drivenInputs(project, logged, daysOf(weather)));
  const put: Partial<Record<DrivenWeather, Float64Array>> = {};
  const driven: Record<string, Float64Array> = {};
  for (const [input, values] of Object.entries(all)) {
    const [part, name] = input.split("/");
    if (part !== "weather") driven[input] = values;
    else put[name as DrivenWeather] = weather[name as DrivenWeather].map((v, h) => (values[h] === values[h] ? within(name as DrivenWeather, values[h]) : v));
  }
  const { globalHorizontal: global, diffuseHorizontal: diffuse } = put;
  // where the global sun alone is measured its diffuse share stays that of the year
  if (global && !diffuse)
    put.diffuseHorizontal = weather.diffuseHorizontal.map((d, h) => {
      const before = weather.globalHorizontal[h];
      return global[h] === before ? d : before > 0 ? (d * global[h]) / before : global[h];
    });
  return { ...weather, ...put, driven };
}

/** Readings that cannot be, such as a little sun at night below nothing, end at what can. */
const within = (name: DrivenWeather, v: number): number =>
  drivenWeather[name].unit === "W/m²" || name === "windSpeed" ? Math.max(0, v) : name === "relativeHumidity" ? Math.max(0, Math.min(100, v)) : v;
