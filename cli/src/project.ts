import path from "node:path";
import {
  parseProjectText,
  ProjectError,
  projectWeather,
  readWeatherCsv,
  withDriven,
  viewOf,
  weatherProblems,
  yearInView,
  type LoggedReadings,
  type Project,
  type WeatherYear,
} from "@arroyo/core";
import { readText, UsageError, type Terminal } from "./files.ts";

/** A project file. @throws ProjectError, UsageError */
export function readProject(file: string): Project {
  const outcome = parseProjectText(readText(file));
  if (!outcome.ok) throw new ProjectError(outcome.problems);
  return outcome.project;
}

/** The year a project runs on, or the one of a file. @throws ProjectError, UsageError */
export function weatherOf(project: Project, file: string | undefined, logged: LoggedReadings = {}): WeatherYear {
  if (file !== undefined) {
    const outcome = readWeatherCsv(readText(file));
    if (!outcome.ok)
      throw new ProjectError(
        outcome.problems.map((p) => ({ code: "weather", severity: "error", stage: "place", path: `${path.basename(file)}:${p.line}`, message: p.message })),
      );
    return withDriven(project, outcome.weather, logged) as WeatherYear;
  }
  let made: WeatherYear | null;
  try {
    made = projectWeather(project, { weather: null, logged });
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new UsageError(`${error.message} Give them with --data FILE and --links FILE.`);
  }
  const impossible = made ? weatherProblems(made) : [];
  if (impossible.length > 0) throw new ProjectError(impossible.map((p) => ({ ...p, code: "weather", severity: "error", stage: "place" })));
  if (!made) throw new UsageError(`The project takes the stored weather year "${yearInView(project).name}"; give it with --weather FILE.`);
  return made;
}

/** The project as one of its options, found by name or id; changes that no longer fit are told. */
export function withOption(project: Project, wanted: string | undefined, terminal: Terminal): Project {
  if (wanted === undefined) return project;
  const id = Object.keys(project.options).find((key) => key === wanted || project.options[key].name === wanted);
  if (id === undefined)
    throw new UsageError(
      `There is no option "${wanted}"; known: ${
        Object.values(project.options)
          .map((o) => `"${o.name}"`)
          .join(", ") || "none"
      }.`,
    );
  const { project: view, stale } = viewOf(project, id);
  for (const s of stale) terminal.err(`warning: options/${id}: ${s.message}`);
  return view;
}

export function one(positionals: readonly string[]): string {
  if (positionals.length !== 1) throw new UsageError("Name one project file.");
  return positionals[0];
}
