import { synthesizeYear, type WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";

/** The weather year a project asks for, when it can be made from the document alone (monthly normals); null when it is stored elsewhere. */
export function projectWeather(project: Project): WeatherYear | null {
  if (project.weather.kind !== "normals") return null;
  return synthesizeYear(project.site, project.weather.normals, project.weather.seed);
}
