import path from "node:path";
import { parseArgs } from "node:util";
import {
  checkProject,
  ProjectError,
  projectJsonSchema,
  RunError,
  runToEnd,
  isWholeYear,
  sizeProject,
  writeWeatherCsv,
  quantityNames,
  type Project,
  type RunResult,
} from "@arroyo/core";
import { exportFile, importFile, matchesOf } from "./exchange.ts";
import { libraryCommand } from "./library.ts";
import { outlineOf, reportCommand, seriesOf } from "./report.ts";
import { WEATHER_FILE_OPTIONS, weatherFileCommand } from "./weather.ts";
import { one, readProject, weatherOf, withOption } from "./project.ts";
import { complyCommand } from "./comply.ts";
import { airflowCommand } from "./airflow.ts";
import { calibrateCommand, compareCommand, linkedProject } from "./measured.ts";
import { studyCommand } from "./study.ts";
import { fileToWrite, folderToWrite, line, UsageError, write, type Terminal } from "./files.ts";

const USAGE = `arroyo — building energy from a terminal

  arroyo simulate PROJECT.json [--option NAME] [--weather FILE] [--steps 4] [--short] [--out DIR] [--series a,b] [--outline NAME]
         [--data DATA.csv … --links LINKS.json]
  arroyo report RUN-DIR [RUN-DIR …] --outline NAME|FILE.json --format docx|md|html|csv --out FILE
  arroyo study PROJECT.json STUDY.json|NAME --out DIR [--weather FILE] [--threads 4]
  arroyo size PROJECT.json [--option NAME] [--weather FILE] --out DIR
  arroyo comply PROJECT.json [--pack NAME|FILE.json] [--path prescriptive|performance] [--parts envelope,lighting] [--zone 5] [--option NAME]
         [--weather FILE] [--out DIR] [--export-reference FILE.json|FILE.xml] [--certificate FILE.docx]
  arroyo compare PROJECT.json LINKS.json DATA.csv [DATA.csv …] --out DIR [--option NAME] [--weather FILE] [--steps 4]
  arroyo calibrate PROJECT.json LINKS.json DATA.csv [DATA.csv …] --vary ADDRESS=LOW..HIGH [--vary …] --out DIR [--held 10-01..12-31]
         [--population 8] [--generations 8] [--seed 1] [--threads 4]
  arroyo airflow PROJECT.json [--make] [--connect] [--study tiny|coarse|medium|fine] [--directions 12] [--table FILE.csv] [--csv FILE.csv] [--out PROJECT.json]
  arroyo check PROJECT.json
  arroyo import FILE.xml|FILE.ifc --out PROJECT.json [--match KEY=ID] [--match KEY=ID]
  arroyo export PROJECT.json --format gbxml --out FILE.xml
  arroyo weather PROJECT.json [--year NAME] --out YEAR.csv
  arroyo weather FILE [--mapping M.json] [--guess M.json] [--place LAT,LON,ELEVATION,ZONE] [--year 2019] --out YEAR.csv
  arroyo library [KIND] [--out DIR]
  arroyo schema

Exit codes: 0 done, 1 the model or weather is invalid, 2 wrong usage.
Series: ${quantityNames.join(", ")}.`;

function simulate(args: string[], terminal: Terminal): void {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      option: { type: "string" },
      weather: { type: "string" },
      steps: { type: "string" },
      short: { type: "boolean" },
      out: { type: "string" },
      series: { type: "string" },
      outline: { type: "string" },
      data: { type: "string", multiple: true },
      links: { type: "string" },
    },
  });
  if ((values.data === undefined) !== (values.links === undefined))
    throw new UsageError("Logged data and what they drive go together: --data FILE and --links FILE.");
  const read = withOption(readProject(one(positionals)), values.option, terminal);
  const { project, logged } = values.links === undefined ? { project: read, logged: {} } : linkedProject(read, values.links, values.data ?? [], terminal);
  const steps = values.steps === undefined ? project.run.stepsPerHour : Number(values.steps);
  if (![1, 2, 3, 4, 6, 12].includes(steps)) throw new UsageError(`--steps must be 1, 2, 3, 4, 6 or 12, not "${values.steps}".`);
  // an error stops the run with its own sentences; what only affects it is told before it begins
  for (const w of checkProject(project).problems) if (w.severity === "warning") terminal.err(line(w));
  const asked = values.series === undefined ? [] : values.series.split(",").map((s) => s.trim());
  // an outline says itself what it needs
  const needed = values.outline === undefined ? [] : seriesOf(project, outlineOf(project, values.outline));
  const series = values.series === undefined && values.outline === undefined ? undefined : [...new Set([...asked, ...needed])];
  const unknown = series?.find((s) => !quantityNames.includes(s));
  if (unknown !== undefined) throw new UsageError(`There is no series "${unknown}"; known: ${quantityNames.join(", ")}.`);
  const weather = weatherOf(project, values.weather, logged);
  if (values.out !== undefined) folderToWrite(values.out);
  const result = runToEnd(
    project,
    weather,
    { stepsPerHour: steps, ...(series ? { series } : {}), ...(values.short ? { shortYear: true } : {}) },
    () => performance.now() / 1000,
  );
  if (values.out !== undefined) writeResult(values.out, project, result);
  print(result, terminal);
}

function size(args: string[], terminal: Terminal): void {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { option: { type: "string" }, weather: { type: "string" }, out: { type: "string" } },
  });
  if (values.out === undefined) throw new UsageError("Say where to write sizing.json: --out DIR.");
  const project = withOption(readProject(one(positionals)), values.option, terminal);
  const weather = weatherOf(project, values.weather);
  folderToWrite(values.out);
  const sizing = sizeProject(project, weather);
  write(path.join(values.out, "sizing.json"), JSON.stringify(sizing, null, 2) + "\n");
  for (const w of sizing.warnings) terminal.err(`warning: ${w}`);
  terminal.out(`${sizing.project} · ${sizing.days.length} design days`);
  terminal.out(
    (["heating", "cooling"] as const)
      .map((load) => {
        const peak = sizing.building[load];
        const day = sizing.days.find((d) => d.id === peak.day);
        return `${load} ${(peak.power / 1000).toFixed(1)} kW${peak.latent > 0 ? ` (${(peak.latent / 1000).toFixed(1)} kW latent)` : ""}${day ? `, "${day.name}" at ${peak.at ?? "—"}` : ""}`;
      })
      .join("; "),
  );
}

function writeResult(out: string, project: Project, result: RunResult): void {
  folderToWrite(path.join(out, "series"));
  write(path.join(out, "project.json"), JSON.stringify(project, null, 2) + "\n");
  write(path.join(out, "summary.json"), JSON.stringify(result.summary, null, 2) + "\n");
  for (const quantity of new Set(result.series.map((s) => s.quantity))) {
    const columns = result.series.filter((s) => s.quantity === quantity);
    const rows = [["hour", ...columns.map((c) => `${c.scope} (${c.unit})`)].join(",")];
    for (let i = 0; i < columns[0].values.length; i++) rows.push([columns[0].start + i + 1, ...columns.map((c) => c.values[i])].join(","));
    write(path.join(out, "series", `${quantity}.csv`), rows.join("\n") + "\n");
  }
}

function print({ summary: s }: RunResult, terminal: Terminal): void {
  const n = (v: number, digits = 1): string => v.toLocaleString("en", { minimumFractionDigits: digits, maximumFractionDigits: digits });
  terminal.out(`${s.project} · ${n(s.floorArea, 0)} m² · ${s.stepsPerHour} steps an hour`);
  if (s.shortYear) terminal.out(`short year: ${s.shortYear.days.length} representative days stand for the year`);
  else if (!isWholeYear(s)) terminal.out(`${n(s.period.days, 0)} days from day ${s.period.firstDay + 1}: not a year`);
  terminal.out(
    `site energy ${
      s.energy.intensity !== null
        ? `${n(s.energy.intensity)} kWh/m²a`
        : s.energy.perFloorArea !== null
          ? `${n(s.energy.perFloorArea)} kWh/m²a by all floors; nothing is conditioned`
          : "—"
    }`,
  );
  for (const u of s.energy.endUses) if (u.total > 0) terminal.out(`  ${u.use.padEnd(11)} ${u.fuel.padEnd(16)} ${n(u.total, 0).padStart(10)} kWh`);
  printSite(s, terminal, n);
  terminal.out(
    `peak heating ${n(s.peaks.heating.power / 1000)} kW in the hour to ${s.peaks.heating.at ?? "—"} (largest step ${n(s.peaks.heating.step / 1000)} kW), cooling ${n(s.peaks.cooling.power / 1000)} kW to ${s.peaks.cooling.at ?? "—"} (${n(s.peaks.cooling.latent / 1000)} kW latent; largest step ${n(s.peaks.cooling.step / 1000)} kW)`,
  );
  terminal.out(
    `hours unmet ${s.unmetHours === null ? "— (told from 4 steps an hour)" : n(s.unmetHours)} · closure ${s.closure.toExponential(1)}, moisture ${s.waterClosure.toExponential(1)} · fingerprint ${s.fingerprint} · ${n(s.timing.sizing + s.timing.compile + s.timing.run, 2)} s in ${s.timing.kernel}`,
  );
  for (const w of s.warnings) terminal.err(`warning: ${w}`);
}

/** Hot-water systems, and electricity made on site with net energy, cost and carbon. */
function printSite(s: RunResult["summary"], terminal: Terminal, n: (v: number, digits?: number) => string): void {
  const sum = (a: readonly number[]): number => a.reduce((t, v) => t + v, 0);
  for (const w of s.waterSystems) {
    const store = w.store ? `, store ${n(w.store.min)} to ${n(w.store.max)} °C` : "";
    terminal.out(
      `${w.name}: ${n(sum(w.volume), 0)} m³ drawn, ${n(sum(w.drawn), 0)} kWh; heaters ${n(sum(w.heated), 0)} kWh, sun ${n(sum(w.solar), 0)} kWh, lost ${n(sum(w.storeLoss) + sum(w.pipeLoss), 0)} kWh, not met ${n(sum(w.unmet), 0)} kWh${store}`,
    );
  }
  for (const a of s.arrays) {
    const lost = Object.entries(a.losses)
      .filter(([, v]) => Math.abs(sum(v)) >= 0.5)
      .map(([name, v]) => `${name} ${n(sum(v), 0)}`);
    terminal.out(
      `${a.id}: ${n(a.peak, 2)} kW peak, ${n(sum(a.made), 0)} kWh made, ${a.peak > 0 ? n(sum(a.made) / a.peak, 0) : "—"} kWh/kW${lost.length > 0 ? `; lost, kWh: ${lost.join(", ")}` : ""}`,
    );
  }
  const { site } = s.energy;
  if (site)
    terminal.out(
      `on site: ${n(site.used, 0)} kWh used, ${n(site.exported, 0)} kWh fed in, ${n(site.bought, 0)} kWh bought; net ${s.energy.net === null ? "—" : `${n(s.energy.net)} kWh/m²a`}, cost ${n(site.cost, 0)} of ${n(s.energy.cost, 0)}, carbon ${n(site.carbon, 0)} of ${n(s.energy.carbon, 0)} kg (netting within the ${site.netting})`,
    );
}

function check(args: string[], terminal: Terminal): void {
  const { positionals } = parseArgs({ args, allowPositionals: true, options: {} });
  const { problems } = checkProject(readProject(one(positionals)));
  if (problems.some((p) => p.severity === "error")) throw new ProjectError(problems);
  for (const p of problems) terminal.out(line(p));
  terminal.out(problems.length === 0 ? "No problems." : `${problems.length} ${problems.length === 1 ? "warning" : "warnings"}, no errors.`);
}

function weather(args: string[], terminal: Terminal): void {
  const file = one(parseArgs({ args, allowPositionals: true, options: WEATHER_FILE_OPTIONS }).positionals);
  if (!/\.json$/i.test(file)) return weatherFileCommand(file, args, terminal);
  const known = parseArgs({ args, allowPositionals: true, options: { out: { type: "string" }, year: { type: "string" } } }).values;
  if (known.out === undefined) throw new UsageError("Say where to write the year: --out FILE.");
  const project = readProject(file);
  const id =
    known.year === undefined ? project.weather : Object.keys(project.weathers).find((k) => k === known.year || project.weathers[k].name === known.year);
  if (id === undefined)
    throw new UsageError(
      `There is no weather year "${known.year}"; known: ${Object.values(project.weathers)
        .map((y) => `"${y.name}"`)
        .join(", ")}.`,
    );
  fileToWrite(known.out);
  write(known.out, writeWeatherCsv(weatherOf({ ...project, weather: id }, undefined)));
}

async function importCommand(args: string[], terminal: Terminal): Promise<void> {
  const { values, positionals } = parseArgs({ args, allowPositionals: true, options: { out: { type: "string" }, match: { type: "string", multiple: true } } });
  if (values.out === undefined) throw new UsageError("Say where to write the project: --out PROJECT.json.");
  if (positionals.length !== 1) throw new UsageError("Name one file to import.");
  await importFile(positionals[0], values.out, matchesOf(values.match ?? []), terminal);
}

function exportCommand(args: string[]): void {
  const { values, positionals } = parseArgs({ args, allowPositionals: true, options: { out: { type: "string" }, format: { type: "string" } } });
  if (values.out === undefined) throw new UsageError("Say where to write the file: --out FILE.xml.");
  if ((values.format ?? "gbxml") !== "gbxml") throw new UsageError(`There is no format "${values.format ?? ""}"; known: gbxml.`);
  fileToWrite(values.out);
  exportFile(readProject(one(positionals)), values.out);
}

const commands: ReadonlyMap<string, (args: string[], terminal: Terminal) => void | Promise<void>> = new Map([
  ["import", importCommand],
  ["export", exportCommand],
  ["simulate", simulate],
  ["size", size],
  ["comply", complyCommand],
  ["check", check],
  ["airflow", airflowCommand],
  ["compare", compareCommand],
  ["calibrate", calibrateCommand],
  ["weather", weather],
  ["library", libraryCommand],
  ["report", reportCommand],
  ["study", studyCommand],
  ["schema", (_args: string[], terminal: Terminal) => terminal.out(JSON.stringify(projectJsonSchema(), null, 2))],
]);

/** Carries out a command line; answers the exit code: 0 done, 1 the model or weather is invalid, 2 wrong usage. */
export async function arroyo(words: readonly string[], terminal: Terminal): Promise<0 | 1 | 2> {
  try {
    const [name, ...args] = words;
    const command = commands.get(name ?? "");
    if (!command) throw new UsageError(name === undefined ? "Name a command." : `There is no command "${name.slice(0, 40)}".`);
    await command(args, terminal);
    return 0;
  } catch (error) {
    if (error instanceof ProjectError) {
      for (const p of error.problems) terminal.err(line(p));
      return 1;
    }
    if (error instanceof RunError) {
      terminal.err(error.message);
      return 1;
    }
    if (error instanceof UsageError || (error instanceof TypeError && "code" in error && String(error.code).startsWith("ERR_PARSE_ARGS"))) {
      terminal.err(error.message);
      terminal.err(USAGE);
      return 2;
    }
    throw error;
  }
}
