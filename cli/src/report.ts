import { existsSync, readdirSync } from "node:fs";
import path from "node:path";
import { parseArgs } from "node:util";
import Papa from "papaparse";
import {
  buildReport,
  neededFor,
  NO_FUEL,
  parseProjectText,
  ProjectError,
  projectWeather,
  quantityOf,
  readJson,
  reportCsv,
  reportHtml,
  reportMarkdown,
  reportOutlineSchema,
  seriesTable,
  shippedOutlines,
  summarySchema,
  type Project,
  type Report,
  type ReportOutline,
  type ReportRun,
  type Series,
} from "@arroyo/core";
import { reportDocx } from "@arroyo/adapters/docx";
import { fileToWrite, readText, UsageError, write, type Terminal } from "./files.ts";

const writers: Readonly<Record<string, (r: Report) => string | Promise<Uint8Array>>> = {
  md: reportMarkdown,
  html: reportHtml,
  csv: reportCsv,
  docx: reportDocx,
};

/** @throws ProjectError where a file is no JSON */
function jsonOf(file: string): unknown {
  const json = readJson(readText(file));
  if (!json.ok) throw new ProjectError([{ code: "json", severity: "error", stage: "place", path: path.basename(file), message: json.message }]);
  return json.value;
}

/** An outline by its name or id, of the project or of those that ship, or in a JSON file. @throws UsageError where there is none */
export function outlineOf(project: Project | null, wanted: string): ReportOutline {
  const all = { ...shippedOutlines, ...(project?.outlines ?? {}) };
  const found = Object.entries(all).find(([id, o]) => id === wanted || o.name === wanted);
  if (found) return found[1];
  if (wanted.endsWith(".json")) {
    const read = reportOutlineSchema.safeParse(jsonOf(wanted));
    if (read.success) return read.data;
    const [issue] = read.error.issues;
    throw new ProjectError([
      { code: "outline", severity: "error", stage: "place", path: `${path.basename(wanted)}: ${issue.path.join("/")}`, message: issue.message },
    ]);
  }
  throw new UsageError(
    `There is no outline "${wanted}"; known: ${Object.entries(all)
      .map(([id, o]) => `${id} ("${o.name}")`)
      .join(", ")}.`,
  );
}

/** Quantities a run has to keep for an outline. */
export const seriesOf = (project: Project, outline: ReportOutline): string[] => [
  ...new Set(
    outline.topics
      .flatMap((t) => t.series ?? [])
      .flatMap((r) => neededFor(project, r))
      .filter((r) => r.of !== "outdoors" && r.of !== "building")
      .map((r) => r.quantity),
  ),
];

/** What `simulate --out` wrote. @throws ProjectError, UsageError */
function readRun(dir: string): ReportRun {
  const project = path.join(dir, "project.json");
  if (!existsSync(project)) throw new UsageError(`${dir} has no project.json: make it with arroyo simulate PROJECT.json --out ${dir}.`);
  const parsed = parseProjectText(readText(project));
  if (!parsed.ok) throw new ProjectError(parsed.problems);
  const summary = summarySchema.safeParse(jsonOf(path.join(dir, "summary.json")));
  if (!summary.success)
    throw new ProjectError([
      {
        code: "summary",
        severity: "error",
        stage: "place",
        path: "summary.json",
        message: "It was written by another version of Arroyo, or is no summary; run the project again.",
      },
    ]);
  return {
    name: path.basename(path.resolve(dir)),
    project: parsed.project,
    summary: summary.data,
    ...tableOf(dir, parsed.project, summary.data.period.firstDay),
  };
}

/** Hourly series of a folder, with the outdoors where the project's weather is at hand. */
function tableOf(dir: string, project: Project, firstDay: number): Pick<ReportRun, "table"> {
  const folder = path.join(dir, "series");
  if (!existsSync(folder)) return {};
  const series = readdirSync(folder)
    .filter((f) => f.endsWith(".csv"))
    .flatMap((file): Series[] => {
      const quantity = file.slice(0, -4);
      const { data } = Papa.parse<string[]>(readText(path.join(folder, file)), { skipEmptyLines: true });
      const [head, ...rows] = data;
      return head.slice(1).map((name, c) => ({
        scope: name.replace(/ \([^()]*\)$/, ""),
        quantity,
        unit: quantityOf(project, { of: "zone", id: "", quantity })?.unit ?? "",
        kind: "mean",
        start: 24 * firstDay,
        step: 3600,
        values: Float64Array.from(rows, (r) => Number(r[c + 1])),
      }));
    });
  const weather = projectWeather(project);
  if (series.length === 0) return {};
  if (weather) return { table: seriesTable(series, weather, NO_FUEL) };
  const rows: Record<string, Record<string, Float64Array>> = {};
  for (const s of series) (rows[s.quantity] ??= {})[s.scope] = s.values;
  return { table: { hours: series[0].values.length, series: rows } };
}

/** Writes a report of one run or of several by an outline. */
export async function reportCommand(args: string[], terminal: Terminal): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { outline: { type: "string" }, format: { type: "string" }, out: { type: "string" } },
  });
  if (positionals.length === 0) throw new UsageError("Name at least one folder that arroyo simulate --out wrote.");
  if (values.outline === undefined)
    throw new UsageError(`Say which report: --outline ${Object.keys(shippedOutlines).join("|")}, one of the project, or a JSON file.`);
  if (values.out === undefined) throw new UsageError("Say where to write it: --out FILE.");
  const format = values.format ?? path.extname(values.out).slice(1);
  if (!Object.hasOwn(writers, format)) throw new UsageError(`--format must be ${Object.keys(writers).join(", ")}, not "${format}".`);
  const runs = positionals.map(readRun);
  const report = buildReport(outlineOf(runs[0].project, values.outline), runs);
  const file = fileToWrite(values.out);
  write(file, await writers[format](report));
  for (const b of report.blocks) if (b.kind === "remark") terminal.err(`warning: ${b.text}`);
  terminal.out(`${report.title}: ${report.blocks.filter((b) => b.kind === "table").length} tables in ${file}`);
}
