import { readFileSync } from "node:fs";
import {
  applyChanges,
  checkProject,
  exportBuilding,
  parseProject,
  parseProjectText,
  ProjectError,
  projectWeather,
  randomStream,
  readJson,
  readWeatherCsv,
  RunError,
  runToEnd,
  starterContext,
  tryImport,
  valueAt,
  viewOf,
  weatherProblems,
  writeWeatherCsv,
  type Change,
  type Project,
  type WeatherYear,
} from "../../../core/src/index.ts";
import { boxProject } from "../../../core/src/verification/box.ts";
import { readGbxml, writeGbxml } from "../../../adapters/src/index.ts";
import { draw, garbled, mutated, type Draw } from "./mutate.ts";

/** One kind of input from outside: makes a case from a draw and says what is wrong with how it is met; null: nothing. */
export interface Target {
  readonly name: string;
  run(d: Draw): string | null;
}

const clinic = JSON.parse(readFileSync(new URL("../../../demo/clinic.json", import.meta.url), "utf8")) as Project;
const box = boxProject({ glass: 0.3, gains: 200 });
const withOption: Project = {
  ...box,
  options: { o: { name: "Better", changes: [{ id: "c1", op: "set", path: ["glazings", "glass", "u"], value: 1.1, old: 2.9 }] } },
  evidence: { "site/elevation": { source: "survey", confidence: "measured" } },
};
const documents = [clinic, withOption, box];
const weather = projectWeather(box) as WeatherYear;
const csv = writeWeatherCsv(weather);
const xml = writeGbxml(exportBuilding(clinic));
const shipped = JSON.stringify(starterContext);

/** Places at which a value is no finite number, in a tree of values. */
function notNumbers(value: unknown, path: string): string | null {
  if (typeof value === "number") return Number.isFinite(value) ? null : path;
  if (typeof value !== "object" || value === null) return null;
  for (const [key, v] of Object.entries(value)) {
    const found = notNumbers(v, `${path}/${key}`);
    if (found !== null) return found;
  }
  return null;
}

const sentence = (text: string): boolean => /[.!?]$/.test(text) && !/undefined|\[object|expected string, received/.test(text);
const unspoken = (problems: readonly { path: string; message: string }[]): string | null => {
  const bad = problems.find((p) => !sentence(p.message));
  return bad ? `no sentence at ${bad.path}: ${bad.message.slice(0, 200)}` : null;
};

/** What is wrong with a project that can be read: its checks, its options, a day of its year. */
function followed(project: Project): string | null {
  const { problems } = checkProject(project);
  const told = unspoken(problems);
  if (told !== null) return told;
  for (const o of Object.keys(project.options)) viewOf(project, o);
  if (problems.some((p) => p.severity === "error")) return null;
  try {
    const { summary } = runToEnd(project, weather, { stepsPerHour: 1, summaryOnly: true, period: { firstDay: 190, days: 1 } });
    return notNumbers({ ...summary, timing: {} }, "summary");
  } catch (error) {
    // a year that cannot be run is told by what it throws
    if (error instanceof ProjectError || error instanceof RunError) return null;
    throw error;
  }
}

export const targets: readonly Target[] = [
  {
    name: "project",
    run(d) {
      const outcome = parseProjectText(JSON.stringify(mutated(d.of(documents), d)));
      return outcome.ok ? followed(outcome.project) : unspoken(outcome.problems);
    },
  },
  {
    name: "JSON text",
    run(d) {
      const outcome = readJson(garbled(JSON.stringify(d.of(documents)), d));
      return outcome.ok || sentence(outcome.message) ? null : outcome.message;
    },
  },
  {
    name: "edits",
    run(d) {
      const base = d.of(documents);
      const keys = Object.keys(base);
      const changes = Array.from({ length: 1 + d.below(4) }, (): Change => {
        const path = [d.of([...keys, "__proto__", "constructor", "id", "formatVersion"])];
        for (let depth = d.below(5); depth > 0; depth--) {
          const here = valueAt(base, path);
          if (typeof here !== "object" || here === null) break;
          const ids = Array.isArray(here) ? here.flatMap((e) => (e as { id?: string } | null)?.id ?? []) : Object.keys(here);
          path.push(d.of([...ids, "toString", "__proto__", "new"]));
        }
        const op = d.of(["set", "unset", "insert", "remove"] as const);
        const value = mutated({ v: valueAt(base, path) ?? d.of([1, "x", {}, []]) }, d) as { v?: unknown };
        return { op, path, ...(op === "set" || op === "insert" ? { value: value.v } : {}) };
      });
      const before = JSON.stringify(base);
      const applied = applyChanges(base, changes);
      if (JSON.stringify(base) !== before) return "an edit wrote into the document it was applied to";
      if (Object.keys(Object.prototype).length > 0) return "an edit reached every object";
      if (!applied.ok) return sentence(applied.message) ? null : applied.message;
      if (applied.project.id !== base.id || applied.project.formatVersion !== base.formatVersion) return "an edit changed id or format";
      const back = applyChanges(applied.project, applied.inverse);
      if (!back.ok || JSON.stringify(back.project) !== before) return `undo does not give the document back: ${JSON.stringify(changes).slice(0, 300)}`;
      const parsed = parseProject(applied.project);
      return parsed.ok ? followed(parsed.project) : unspoken(parsed.problems);
    },
  },
  {
    name: "gbXML",
    run(d) {
      const outcome = readGbxml(garbled(xml, d));
      if (!outcome.ok) return sentence(outcome.message) ? null : outcome.message;
      const made = tryImport(outcome.records, starterContext, "fuzz");
      if (JSON.stringify(starterContext) !== shipped) return "an import wrote into the shipped things";
      if (!made.ok) return sentence(made.message) ? null : made.message;
      const parsed = parseProject(made.outcome.project);
      return parsed.ok ? unspoken(checkProject(parsed.project).problems) : unspoken(parsed.problems);
    },
  },
  {
    name: "weather CSV",
    run(d) {
      const outcome = readWeatherCsv(garbled(csv, d));
      if (!outcome.ok) return unspoken(outcome.problems.map((p) => ({ path: `line ${p.line}`, message: p.message })));
      const impossible = weatherProblems(outcome.weather);
      return impossible.length > 0 ? `a year that was read cannot be: ${impossible[0].message}` : null;
    },
  },
];

/** Runs one case of a target; answers what went wrong, or null. A case is named by its seed: the same seed is the same case. */
export function fuzzCase(target: Target, seed: number): string | null {
  try {
    return target.run(draw(randomStream(seed)));
  } catch (error) {
    return `threw ${error instanceof Error ? `${error.name}: ${error.message}\n${error.stack?.split("\n").slice(1, 4).join("\n")}` : String(error)}`;
  }
}
