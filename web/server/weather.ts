import { deflateRawSync, inflateRawSync } from "node:zlib";
import { projectWeather, readWeatherCsv, storedHash, yearInView, weatherHash, writeWeatherCsv, type Project, type WeatherYear } from "@arroyo/core";
import { store } from "./store.ts";
import { WeatherRow } from "./models.ts";
import { isHash, Refusal } from "./projects.ts";
import { loggedOf } from "./readings.ts";

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
  const made = projectWeather(project, { weather: hash === null ? null : await storedWeather(hash), logged: await loggedOf(project) });
  if (!made) throw new Refusal(422, `The weather year "${yearInView(project).name}" cannot be made.`);
  return made;
}

/** A weather year kept here, and the projects that name it or ever did. */
export interface KeptWeather {
  readonly hash: string;
  readonly name: string;
  readonly createdAt: string;
  readonly projects: readonly string[];
  /** Stored runs made with it. */
  readonly runs: number;
}

/** Years listed at most, the newest first. */
const LISTED = 500;

/** Weather years kept here, newest first, with who uses them. */
export async function listWeather(): Promise<KeptWeather[]> {
  const sequelize = await store();
  const [rows] = await sequelize.query(
    `SELECT w.hash, w.name, w."createdAt",
       coalesce((SELECT json_agg(p.name ORDER BY p.name) FROM project_uses u JOIN projects p ON p.id = u."projectId" WHERE u.hash = w.hash), '[]') AS projects,
       (SELECT count(*)::int FROM runs r WHERE r.weather = w.hash) AS runs
     FROM weather_years w ORDER BY w."createdAt" DESC LIMIT ${LISTED}`,
  );
  return (rows as (Omit<KeptWeather, "createdAt"> & { createdAt: Date })[]).map((r) => ({ ...r, createdAt: r.createdAt.toISOString() }));
}

/** Removes a weather year that nothing uses. @throws Refusal (404) for an unknown one, (409) where a project or a run uses it */
export async function removeWeather(hash: string): Promise<{ removed: true }> {
  const sequelize = await store();
  if (!isHash(hash)) throw new Refusal(404, "There is no such weather year.");
  return sequelize.transaction(async (transaction) => {
    const row = await WeatherRow.findByPk(hash, { attributes: ["hash", "name"], transaction, lock: transaction.LOCK.UPDATE });
    if (!row) throw new Refusal(404, "There is no such weather year.");
    const [[used]] = (await sequelize.query(
      `SELECT (SELECT count(*)::int FROM project_uses WHERE hash = $1) AS projects, (SELECT count(*)::int FROM runs WHERE weather = $1) AS runs`,
      { bind: [hash], transaction },
    )) as [{ projects: number; runs: number }[], unknown];
    if (used.projects > 0 || used.runs > 0)
      throw new Refusal(
        409,
        `"${row.name}" is used by ${used.projects} project${used.projects === 1 ? "" : "s"} and ${used.runs} stored run${used.runs === 1 ? "" : "s"}; it stays.`,
      );
    await row.destroy({ transaction });
    return { removed: true };
  });
}
