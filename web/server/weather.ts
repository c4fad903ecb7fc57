import { deflateRawSync, inflateRawSync } from "node:zlib";
import { projectWeather, readWeatherCsv, storedHash, yearInView, weatherHash, writeWeatherCsv, type Project, type WeatherYear } from "@arroyo/core";
import { store } from "./store.ts";
import { WeatherRow } from "./models.ts";
import { isHash, Refusal } from "./projects.ts";

/** Keeps a weather year, named by its content. */
export async function keepWeather(weather: WeatherYear): Promise<string> {
  await store();
  const hash = weatherHash(weather);
  await WeatherRow.findOrCreate({ where: { hash }, defaults: { hash, name: weather.name, csv: deflateRawSync(writeWeatherCsv(weather)) } });
  return hash;
}

export async function storedWeather(hash: string): Promise<WeatherYear> {
  await store();
  const row = isHash(hash) ? await WeatherRow.findByPk(hash) : null;
  if (!row) throw new Refusal(404, `The weather year "${hash.slice(0, 64)}" is not stored here.`);
  const outcome = readWeatherCsv(inflateRawSync(row.csv).toString("utf8"));
  if (!outcome.ok) throw new Error(`stored weather ${hash} cannot be read: ${outcome.problems[0].message}`);
  return outcome.weather;
}

/** Reads an Arroyo weather CSV and keeps it; refused with line numbers when it is not whole. */
export async function importWeather(text: string): Promise<{ hash: string; name: string; year: number | null }> {
  const outcome = readWeatherCsv(text);
  if (!outcome.ok)
    throw new Refusal(
      422,
      "This weather file cannot be used; nothing was saved.",
      outcome.problems.map((p) => ({ code: "weather", severity: "error", stage: "place", path: `line ${p.line}`, message: p.message })),
    );
  return { hash: await keepWeather(outcome.weather), name: outcome.weather.name, year: outcome.weather.year ?? null };
}

/** The year a project runs on: made from its normals, stored, or morphed from either. */
export async function weatherFor(project: Project): Promise<WeatherYear> {
  const hash = storedHash(project);
  const made = projectWeather(project, hash === null ? null : await storedWeather(hash));
  if (!made) throw new Refusal(422, `The weather year "${yearInView(project).name}" cannot be made.`);
  return made;
}
