import path from "node:path";
import { availableParallelism } from "node:os";
import { parseArgs } from "node:util";
import {
  calibrationStudy,
  checkProject,
  guessPointFile,
  hoursOfRun,
  MISFIT,
  nearBest,
  neededFor,
  pairFigures,
  pairKey,
  parseLinks,
  PointFileReader,
  PointYears,
  ProjectError,
  readJson,
  readPair,
  runToEnd,
  seriesTable,
  studyCsv,
  studyProblems,
  studyTable,
  weatherOfRun,
  withLinks,
  type LoggedReadings,
  type Misfit,
  type PointRead,
  type Project,
  type StudyAxis,
} from "@arroyo/core";
import { folderToWrite, line, readText, UsageError, write, type Terminal } from "./files.ts";
import { readProject, weatherOf, withOption } from "./project.ts";
import { makeAll } from "./study.ts";

/** A project with the points of files of trend data, as links say. @throws ProjectError, UsageError */
export function linkedProject(
  project: Project,
  linksFile: string,
  dataFiles: readonly string[],
  terminal: Terminal,
): { project: Project; logged: LoggedReadings } {
  const at = (file: string, messages: readonly { readonly path: string; readonly message: string }[]): ProjectError =>
    new ProjectError(
      messages.map((m) => ({
        code: "links",
        severity: "error",
        stage: "measured",
        message: m.message,
        path: `${path.basename(file)}${m.path === "" ? "" : `:${m.path}`}`,
      })),
    );
  const json = readJson(readText(linksFile));
  if (!json.ok) throw at(linksFile, [{ path: "", message: json.message }]);
  const parsed = parseLinks(json.value);
  if (!parsed.ok) throw at(linksFile, parsed.problems);
  const read: PointRead[] = [];
  dataFiles.forEach((file, i) => {
    const text = readText(file);
    const guess = parsed.links.mapping && i === 0 ? { mapping: parsed.links.mapping } : guessPointFile(text, path.basename(file));
    if (typeof guess === "string") throw at(file, [{ path: "", message: guess }]);
    const reader = new PointFileReader(guess.mapping, project.site.timeZone);
    reader.feed(text);
    const outcome = reader.finish();
    if (!outcome.ok)
      throw at(
        file,
        outcome.problems.map((p) => ({ path: p.line > 0 ? `line ${p.line}` : "", message: p.message })),
      );
    for (const t of outcome.told) terminal.err(`warning: ${path.basename(file)}: ${t}`);
    read.push(...outcome.points);
  });
  const made = withLinks(project, parsed.links, read);
  if (!made.ok)
    throw at(
      linksFile,
      made.messages.map((m) => ({ path: m.split(": ")[0], message: m.slice(m.indexOf(": ") + 2) })),
    );
  const errors = checkProject(made.project).problems;
  if (errors.some((p) => p.severity === "error")) throw new ProjectError(errors.filter((p) => p.severity === "error"));
  for (const p of errors) if (p.stage === "measured") terminal.err(line(p));
  return made;
}

const told = (f: Misfit): Record<string, number | null> => ({
  nmbe: f.nmbe,
  cvrmse: f.cvrmse,
  bias: Number.isFinite(f.bias) ? f.bias : null,
  rmse: Number.isFinite(f.rmse) ? f.rmse : null,
  n: f.n,
});

/** Compares a run with logged data: writes `compare.json` with the errors of every pair, and each pair hour by hour as CSV. */
export function compareCommand(args: string[], terminal: Terminal): void {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { option: { type: "string" }, weather: { type: "string" }, steps: { type: "string" }, out: { type: "string" } },
  });
  if (positionals.length < 3) throw new UsageError("Name a project, a file of links, and one or more files of data.");
  const { out } = values;
  if (out === undefined) throw new UsageError("Say where to write compare.json: --out DIR.");
  const { project, logged } = linkedProject(withOption(readProject(positionals[0]), values.option, terminal), positionals[1], positionals.slice(2), terminal);
  const pairs = project.pairs ?? [];
  if (pairs.length === 0) throw new UsageError("The links name no pair to compare.");
  const stepsPerHour = stepsOf(values.steps, project);
  const given = weatherOf(project, values.weather, logged);
  folderToWrite(out);
  const series = [
    ...new Set(
      pairs
        .flatMap((p) => neededFor(project, p.series))
        .filter((r) => r.of !== "outdoors" && r.of !== "building")
        .map((r) => r.quantity),
    ),
  ];
  const settings = { stepsPerHour, series };
  const result = runToEnd(project, given, settings);
  const weather = weatherOfRun(project, settings, given);
  const table = seriesTable(result.series, weather, result.fuel);
  const points = new PointYears(project, logged, weather);
  const hourOf = hoursOfRun(table.hours, result.summary.period.firstDay, result.summary.period.leapDays ?? [], points.days);
  const found = pairs.map((pair) => {
    const read = readPair(project, pair, points, table, hourOf);
    if (!read.ok) throw new ProjectError([{ code: "pair", severity: "error", stage: "measured", path: `pairs/${pair.id}`, message: read.message }]);
    return { pair, of: read.of, figures: pairFigures(read.of, hourOf) };
  });
  write(
    path.join(out, "compare.json"),
    `${JSON.stringify(
      {
        formatVersion: 1,
        project: project.name,
        pairs: found.map(({ pair, of, figures: f }) => ({
          id: pair.id,
          measured: project.points?.[pair.point]?.name ?? pair.point,
          modelled: pair.series,
          unit: of.unit,
          year: of.year,
          coverage: of.coverage,
          masked: of.maskedBy,
          nmbe: f.hour.nmbe,
          cvrmse: f.hour.cvrmse,
          n: f.hour.n,
          hour: told(f.hour),
          month: told(f.month),
          deviation: f.deviation,
          within: f.within,
        })),
      },
      null,
      2,
    )}\n`,
  );
  const number = (v: number): string => (Number.isFinite(v) ? String(Number(v.toPrecision(8))) : "");
  for (const { pair, of } of found) {
    const rows = Array.from(of.measured, (m, h) => `${hourOf[h] + 1},${number(m)},${number(of.modelled[h])},${of.mask[h]}`);
    write(path.join(out, `${pair.id}.csv`), `hour of the year,measured (${of.unit}),modelled (${of.unit}),left out\n${rows.join("\n")}\n`);
  }
  const percent = (v: number | null): string => (v === null ? "—" : v.toFixed(1)).padStart(7);
  terminal.out(`${project.name}: ${pairs.length} pairs, NMBE and CV(RMSE) in % by the hour, then by the month`);
  for (const { pair, figures: f } of found)
    terminal.out(
      `  ${(project.points?.[pair.point]?.name ?? pair.point).padEnd(36)}${[f.hour.nmbe, f.hour.cvrmse, f.month.nmbe, f.month.cvrmse].map(percent).join("")}  ${f.hour.n} h`,
    );
}

function stepsOf(typed: string | undefined, project: Project): Project["run"]["stepsPerHour"] {
  const steps = typed === undefined ? project.run.stepsPerHour : Number(typed);
  if (![1, 2, 3, 4, 6, 12].includes(steps)) throw new UsageError(`--steps must be 1, 2, 3, 4, 6 or 12, not "${typed}".`);
  return steps as Project["run"]["stepsPerHour"];
}

/** Searches inputs within bounds for the least misfit of all pairs: writes `runs.csv`, `calibration.json` and the project with what was found. */
export async function calibrateCommand(args: string[], terminal: Terminal): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      vary: { type: "string", multiple: true },
      held: { type: "string" },
      generations: { type: "string" },
      population: { type: "string" },
      seed: { type: "string" },
      threads: { type: "string" },
      weather: { type: "string" },
      out: { type: "string" },
    },
  });
  if (positionals.length < 3) throw new UsageError("Name a project, a file of links, and one or more files of data.");
  const { out } = values;
  if (out === undefined) throw new UsageError("Say where to write calibration.json: --out DIR.");
  const axes = (values.vary ?? []).map((text, i): StudyAxis => {
    const found = /^(.+)=(-?[\d.eE+-]+)\.\.(-?[\d.eE+-]+)$/.exec(text);
    const [low, high] = found ? [Number(found[2]), Number(found[3])] : [NaN, NaN];
    if (!found || !(low < high)) throw new UsageError(`--vary is ADDRESS=LOW..HIGH, such as spaceTypes/office/inputs/infiltration=0.1..1, not "${text}".`);
    return { id: `axis_${i + 1}`, name: found[1], addresses: [found[1]], levels: [{ id: "base" }], between: [low, high] };
  });
  if (axes.length === 0) throw new UsageError("Name at least one input: --vary ADDRESS=LOW..HIGH.");
  const whole = (name: "generations" | "population" | "seed" | "threads", first: number, least: number, most: number): number => {
    const v = values[name] === undefined ? first : Number(values[name]);
    if (!Number.isInteger(v) || v < least || v > most) throw new UsageError(`--${name} is a whole number from ${least} to ${most}, not "${values[name]}".`);
    return v;
  };
  const held = values.held === undefined ? null : /^(\d\d)-(\d\d)\.\.(\d\d)-(\d\d)$/.exec(values.held);
  if (values.held !== undefined && !held) throw new UsageError(`--held is MM-DD..MM-DD, not "${values.held}".`);
  const threads = whole("threads", availableParallelism(), 1, 256);
  const { project, logged } = linkedProject(readProject(positionals[0]), positionals[1], positionals.slice(2), terminal);
  const pairs = (project.pairs ?? []).map((p) => p.id);
  if (pairs.length === 0) throw new UsageError("The links name no pair whose misfit could be lowered.");
  const study = calibrationStudy(
    "search",
    {
      axes,
      pairs,
      held: held
        ? [
            [Number(held[1]), Number(held[2])],
            [Number(held[3]), Number(held[4])],
          ]
        : null,
      trajectories: 2,
      population: whole("population", 8, 4, 200),
      generations: whole("generations", 8, 1, 400),
      seed: whole("seed", 1, 0, 4294967295),
      stepsPerHour: 1,
    },
    null,
  );
  const problems = studyProblems(project, study);
  if (problems.some((p) => p.severity === "error")) throw new ProjectError(problems);
  // a stored weather year has to be named before any run is made
  weatherOf(project, values.weather, logged);
  folderToWrite(out);
  const rows = await makeAll({ document: project, study, weathers: {}, logged }, threads, terminal);
  const table = studyTable(project, study, rows);
  const found = nearBest(table, MISFIT.key, 0.05);
  if (found.best < 0)
    throw new ProjectError([
      { code: "calibration", severity: "error", stage: "measured", path: "", message: table.failed[0]?.message ?? "No run came to an end." },
    ]);
  const value = (key: string, row: number): number | null => {
    const v = table.outcomes.find((o) => o.key === key)?.values[row];
    return v !== undefined && Number.isFinite(v) ? v : null;
  };
  const base = table.index.indexOf(0);
  write(path.join(out, "runs.csv"), studyCsv(table));
  write(
    path.join(out, "calibration.json"),
    `${JSON.stringify(
      {
        formatVersion: 1,
        inputs: table.axes.map((a, i) => ({ address: a.name, best: a.values[found.best], nearBest: found.spread[i] })),
        misfit: { base: value(MISFIT.key, base), best: value(MISFIT.key, found.best), held: value("held", found.best) },
        pairs: pairs.map((id) => ({
          id,
          cvrmse: value(pairKey("cvrmse", id), found.best),
          nmbe: value(pairKey("nmbe", id), found.best),
          before: value(pairKey("cvrmse", id), base),
        })),
        runs: rows.length,
        failed: table.failed.length,
      },
      null,
      2,
    )}\n`,
  );
  terminal.out(
    `${project.name}: misfit ${value(MISFIT.key, base)?.toFixed(3) ?? "—"} before, ${value(MISFIT.key, found.best)?.toFixed(3) ?? "—"} in run ${table.index[found.best]} of ${rows.length - 1}`,
  );
  table.axes.forEach((a, i) =>
    terminal.out(`  ${a.name.padEnd(48)} ${a.values[found.best].toPrecision(4)}   as good: ${found.spread[i].map((v) => v.toPrecision(3)).join(" to ")}`),
  );
}
