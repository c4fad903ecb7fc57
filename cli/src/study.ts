import { existsSync } from "node:fs";
import { availableParallelism } from "node:os";
import path from "node:path";
import { parseArgs } from "node:util";
import { Piscina } from "piscina";
import {
  issueProblem,
  nextTasks,
  ProjectError,
  readJson,
  storedHash,
  studyCsv,
  studyProblems,
  studySchema,
  studyTable,
  type LoggedReadings,
  type Problem,
  type Project,
  type Study,
  type StudyOutcome,
  type StudyRow,
  type StudyTask,
  type WeatherYear,
} from "@arroyo/core";
import { studyHtml } from "@arroyo/adapters/study";
import { folderToWrite, line, readText, UsageError, write, type Terminal } from "./files.ts";
import { readProject, weatherOf } from "./project.ts";

/** What a thread is given first: it makes runs of one study. */
export interface ToThread {
  readonly document: Project;
  readonly study: Study;
  readonly weathers: Readonly<Record<string, WeatherYear>>;
  readonly logged: LoggedReadings;
}
/** Progress is told this often, ms. */
const TOLD = 5000;

/** A study of a file, or one of the project by name or id. @throws ProjectError, UsageError */
function readStudy(project: Project, wanted: string): Study {
  const own = Object.entries(project.studies ?? {}).find(([id, s]) => id === wanted || s.name === wanted);
  if (own && !existsSync(wanted)) return own[1];
  const json = readJson(readText(wanted));
  const fault = (p: Pick<Problem, "path" | "message">): Problem => ({
    code: "study",
    severity: "error",
    stage: "place",
    ...p,
    path: `${path.basename(wanted)}${p.path === "" ? "" : `:${p.path}`}`,
  });
  if (!json.ok) throw new ProjectError([fault({ path: "", message: json.message })]);
  const parsed = studySchema.safeParse(json.value, { reportInput: true });
  if (!parsed.success) throw new ProjectError(parsed.error.issues.map((i) => fault(issueProblem(i))));
  return parsed.data;
}

/** Makes every run of a study on all cores and writes `runs.csv` and `study.html`. */
export async function studyCommand(args: string[], terminal: Terminal): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { out: { type: "string" }, weather: { type: "string" }, threads: { type: "string" } },
  });
  if (positionals.length !== 2) throw new UsageError("Name a project file and a study: a file, or one of the project by its name.");
  if (values.out === undefined) throw new UsageError("Say where to write runs.csv and study.html: --out DIR.");
  const threads = values.threads === undefined ? availableParallelism() : Number(values.threads);
  if (!Number.isInteger(threads) || threads < 1 || threads > 256)
    throw new UsageError(`--threads must be a whole number from 1 to 256, not "${values.threads}".`);
  const project = readProject(positionals[0]);
  const study = readStudy(project, positionals[1]);
  const problems = studyProblems(project, study);
  if (problems.some((p) => p.severity === "error")) throw new ProjectError(problems);
  for (const p of problems) terminal.err(line(p));
  const weathers: Record<string, WeatherYear> = {};
  for (const year of study.years.length > 0 ? study.years : [project.weather]) {
    const hash = storedHash(project, year);
    if (hash !== null) weathers[hash] = weatherOf({ ...project, weather: year }, values.weather);
  }
  folderToWrite(values.out);
  const began = performance.now();
  const rows = await makeAll({ document: project, study, weathers, logged: {} }, threads, terminal);
  const table = studyTable(project, study, rows);
  const about = `${study.length === "year" ? "The year" : `${study.length} days that stand for the year`}, ${table.points.length} runs`;
  write(path.join(values.out, "runs.csv"), studyCsv(table));
  write(path.join(values.out, "study.html"), studyHtml(project, study, table, about));
  for (const f of table.failed) terminal.err(`warning: run ${f.index}: ${f.message}`);
  const off = table.error.by.energy;
  terminal.out(
    `${project.name} · ${study.name}: ${rows.length} runs on ${threads} ${threads === 1 ? "thread" : "threads"} in ${((performance.now() - began) / 1000).toFixed(1)} s, ${table.failed.length} failed${
      off === undefined ? "" : `; short year ±${off.toFixed(1)} kWh/m²a, from ${table.error.of} whole years`
    }`,
  );
  for (const o of table.outcomes) {
    const found = Array.from(o.values).filter((v) => Number.isFinite(v));
    if (found.length > 0)
      terminal.out(
        `  ${o.words.padEnd(26)} ${found.reduce((a, b) => Math.min(a, b)).toFixed(o.digits)} to ${found.reduce((a, b) => Math.max(a, b)).toFixed(o.digits)} ${o.unit}, base ${(o.values[0] ?? NaN).toFixed(o.digits)}`,
      );
  }
}

/** Every run of a study, generation by generation where it searches. */
export async function makeAll(given: ToThread, threads: number, terminal: Terminal): Promise<StudyRow[]> {
  const pool = new Piscina<StudyTask, StudyOutcome>({
    filename: new URL("./studyThread.ts", import.meta.url).href,
    execArgv: ["--import", "tsx"],
    workerData: given,
    minThreads: threads,
    maxThreads: threads,
  });
  const rows: StudyRow[] = [];
  try {
    for (let tasks = nextTasks(given.document, given.study, rows); tasks.length > 0; tasks = nextTasks(given.document, given.study, rows))
      rows.push(...(await makeTasks(pool, tasks, terminal)));
    return rows;
  } finally {
    await pool.destroy();
  }
}

async function makeTasks(pool: Piscina<StudyTask, StudyOutcome>, tasks: readonly StudyTask[], terminal: Terminal): Promise<StudyRow[]> {
  // samples of levels meet the same run more than once
  const same = new Map<string, number[]>();
  tasks.forEach((t, i) => {
    const key = JSON.stringify([t.point, t.year, t.check]);
    const known = same.get(key);
    if (known) known.push(i);
    else same.set(key, [i]);
  });
  const out: StudyRow[] = [];
  let done = 0;
  let told = performance.now();
  await Promise.all(
    Array.from(same.values(), async (places) => {
      const { figures, error } = await pool.run(tasks[places[0]]);
      for (const i of places) out.push({ ...tasks[i], figures, error });
      done++;
      if (performance.now() - told > TOLD) {
        told = performance.now();
        terminal.err(`${done} of ${same.size} runs`);
      }
    }),
  );
  return out;
}
