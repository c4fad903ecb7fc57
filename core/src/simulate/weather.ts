import { morphYear, synthesizeYear, type WeatherYear } from "../climate/index.ts";
import { yearParts, type Project } from "../model/index.ts";

/**
 * A weather year of a project: made from monthly normals, stored, or morphed from either.
 * @param stored the stored year it follows from, where there is one (see `storedHash`)
 * @param year id of the year; absent: the one in view
 * @returns null where it follows from a stored year that is not given
 */
export function projectWeather(project: Project, stored: WeatherYear | null = null, year: string = project.weather): WeatherYear | null {
  const [own, base] = yearParts(project, year);
  const made = (part: typeof own | undefined): WeatherYear | null =>
    part?.kind === "normals" ? synthesizeYear(project.site, part.normals, part.seed) : part?.kind === "stored" ? stored : null;
  if (own?.kind !== "morphed") return made(own);
  const present = made(base);
  return present && morphYear(present, own.morph, own.name);
}
