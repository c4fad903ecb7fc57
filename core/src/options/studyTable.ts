import { quantity, valueAt, type Problem, type Project, type Study } from "../model/index.ts";
import { paretoFront, type Scored } from "./search.ts";
import { sobolIndices, type SobolIndices } from "./sampling.ts";
import { addressesOf, axisStage, investmentOf, levelChanges, levelWords, studyBase, withChanges } from "./study.ts";
import { figuresKept, INVESTMENT, PAYBACK, type FigureSpec } from "./studyFigures.ts";
import { isContinuous, type StudyPoint } from "./studyPlan.ts";

/** A run of a study as it is kept: figures in the order of `figuresKept`. */
export interface StudyRow {
  /** Its place: 0 the base. */
  readonly index: number;
  readonly point: StudyPoint;
  readonly year: string;
  readonly check: boolean;
  readonly figures: readonly (number | null)[] | null;
  readonly error: string | null;
}

/** An axis of a study as a column: where every run stands on it. */
export interface AxisColumn {
  readonly id: string;
  readonly name: string;
  readonly unit: string;
  readonly stage: Problem["stage"];
  /** Levels in words; empty: it lies anywhere between two values. */
  readonly levels: readonly string[];
  /** Place of a level, or the value; NaN: as the base has it, where that is none of the levels. */
  readonly values: Float64Array;
}
/** An outcome as a column. */
export interface FigureColumn extends FigureSpec {
  /** NaN: there is none. */
  readonly values: Float64Array;
}
/** The runs of a study by columns, one row a point; row 0 is the base. */
export interface StudyTable {
  readonly points: readonly StudyPoint[];
  /** Place of every row among the runs. */
  readonly index: Int32Array;
  readonly axes: readonly AxisColumn[];
  readonly outcomes: readonly FigureColumn[];
  /** End uses by fuel, kWh a year. */
  readonly uses: readonly FigureColumn[];
  /** Runs that failed, with their sentences. */
  readonly failed: readonly { readonly index: number; readonly point: StudyPoint; readonly year: string; readonly message: string }[];
  /** Root mean square of what the short year tells otherwise than the whole year by the hour, by key of a figure, and of how many runs. */
  readonly error: { readonly of: number; readonly by: Readonly<Record<string, number>> };
}

/** Of several years' figures the one a run is judged by. */
function judged(values: readonly number[], years: readonly string[], judge: string, aim: "least" | "most"): number {
  const found = values.filter((v) => Number.isFinite(v));
  if (judge === "mean") return found.length === values.length ? found.reduce((s, v) => s + v, 0) / found.length : NaN;
  if (judge === "worst") return found.length === values.length ? (aim === "least" ? Math.max(...found) : Math.min(...found)) : NaN;
  const at = years.indexOf(judge);
  return at >= 0 ? values[at] : NaN;
}

/** Level of an axis that leaves the base as it is, by its place; −1: none does. */
const asBase = (base: Project, axis: Study["axes"][number]): number =>
  axis.levels.findIndex((l) => {
    const done = withChanges(base, levelChanges(base, axis, l));
    return done.ok && done.project === base;
  });

/** The number an axis has in the base; NaN: none, or several. */
function valueIn(base: Project, axis: Study["axes"][number]): number {
  const values = new Set((axis.addresses ?? []).flatMap((a) => addressesOf(base, a).map((path) => valueAt(base, path))));
  const [v] = values;
  return values.size === 1 && typeof v === "number" ? v : NaN;
}

/**
 * The runs of a study by columns, each judged over its years; runs of which a year is missing are left out until it is there.
 * @param judge worst, mean or a year; absent: as the study says
 */
export function studyTable(project: Project, study: Study, rows: readonly StudyRow[], judge: string = study.judge): StudyTable {
  const kept = figuresKept(project, study);
  const base = Object.hasOwn(project.options, study.base ?? "") || study.base === null ? studyBase(project, study) : project;
  const years = study.years.length > 0 ? study.years : [project.weather];
  const by = study.years.length > 0 ? judge : project.weather;
  const runs = new Map<number, { point: StudyPoint; years: (StudyRow | undefined)[] }>();
  const failed: { index: number; point: StudyPoint; year: string; message: string }[] = [];
  const full = new Map<string, StudyRow>();
  for (const r of rows) {
    if (r.error !== null && !r.check) failed.push({ index: r.index, point: r.point, year: r.year, message: r.error });
    if (r.check) {
      full.set(`${r.index} ${r.year}`, r);
      continue;
    }
    const at = years.indexOf(r.year);
    if (at < 0 || r.figures === null) continue;
    let run = runs.get(r.index);
    if (!run) runs.set(r.index, (run = { point: r.point, years: years.map(() => undefined) }));
    run.years[at] = r;
  }
  const whole = [...runs].filter(([, r]) => r.years.every((y) => y !== undefined)).sort(([a], [b]) => a - b);
  const n = whole.length;
  const of = (row: StudyRow | undefined, f: number): number => row?.figures?.[f] ?? NaN;
  const columns = kept.map((spec, f): FigureColumn => ({
    ...spec,
    unit: spec.unit === "/a" ? `${project.prices.currency}/a` : spec.unit,
    values: Float64Array.from({ length: n }, (_, i) =>
      judged(
        whole[i][1].years.map((y) => of(y, f)),
        years,
        by,
        spec.aim,
      ),
    ),
  }));
  const points = whole.map(([, r]) => r.point);
  const errors: Record<string, number> = {};
  kept.forEach((spec, f) => {
    let [square, count] = [0, 0];
    for (const r of full.values()) {
      const short = runs.get(r.index)?.years[years.indexOf(r.year)];
      const d = of(short, f) - of(r, f);
      if (!Number.isFinite(d)) continue;
      square += d * d;
      count++;
    }
    if (count > 0) errors[spec.key] = Math.sqrt(square / count);
  });
  const outcomes = columns.filter((c) => !c.key.startsWith("use ")).filter((c) => c.values.some((v) => Number.isFinite(v) && v !== 0));
  const index = Int32Array.from(whole, ([i]) => i);
  return {
    points,
    index,
    axes: study.axes.map((axis, i): AxisColumn => {
      const between = isContinuous(study, axis);
      const there = between ? valueIn(base, axis) : asBase(base, axis);
      const unmoved = there < 0 && !between ? NaN : there;
      return {
        id: axis.id,
        name: axis.name,
        unit: axis.unit ?? "",
        stage: axisStage(axis),
        levels: isContinuous(study, axis) ? [] : axis.levels.map((l) => levelText(axis, l)),
        values: Float64Array.from(points, (p) => p[i] ?? unmoved),
      };
    }),
    outcomes: [...outcomes, ...spent(project, study, points, columns, index.indexOf(0))],
    uses: columns.filter((c) => c.key.startsWith("use ") && c.values.some((v) => v > 0)),
    failed: failed.sort((a, b) => a.index - b.index),
    error: { of: full.size, by: errors },
  };
}

/** A level as it is shown: its name, or its value with the unit. */
export const levelText = (axis: Pick<Study["axes"][number], "unit">, level: Study["axes"][number]["levels"][number]): string =>
  level.name === undefined && typeof level.value === "number" && axis.unit ? quantity(level.value, axis.unit) : levelWords(level);

/** Investment and simple payback against the base; none where nothing is typed. */
function spent(project: Pick<Project, "prices">, study: Study, points: readonly StudyPoint[], columns: readonly FigureColumn[], base: number): FigureColumn[] {
  const invested = points.map((p) => investmentOf(study, p));
  if (invested.every((v) => v === null)) return [];
  const cost = columns.find((c) => c.key === "cost")?.values;
  // against the base: while it is not made, or failed, nothing is known of what is saved
  const atBase = base < 0 || !cost ? NaN : cost[base];
  const [investment, saved] = [Float64Array.from(invested, (v) => v ?? NaN), Float64Array.from(points, (_, i) => atBase - (cost?.[i] ?? NaN))];
  return [
    { ...INVESTMENT, unit: project.prices.currency, values: investment },
    // no payback where nothing is saved, or nothing is spent
    { ...PAYBACK, values: Float64Array.from(investment, (v, i) => (v > 0 && saved[i] > 0 ? v / saved[i] : v <= 0 && saved[i] >= 0 ? 0 : NaN)) },
  ];
}

/** A run under the objectives and constraints of a search; null: an objective is missing. */
export function scoredBy(method: Extract<Study["method"], { kind: "search" | "evolution" }>, figure: (key: string) => number): Scored | null {
  if (method.kind === "evolution") {
    const cost = figure(method.figure);
    return Number.isFinite(cost) ? { objectives: [cost], violation: 0 } : null;
  }
  const objectives = method.objectives.map((o) => (o.aim === "least" ? 1 : -1) * figure(o.figure));
  if (objectives.some((v) => !Number.isFinite(v))) return null;
  const violation = method.constraints.reduce((s, c) => {
    const v = figure(c.figure);
    if (!Number.isFinite(v)) return Infinity;
    const scale = (limit: number): number => Math.max(Math.abs(limit), 1e-9);
    return (
      s + (c.least !== undefined && v < c.least ? (c.least - v) / scale(c.least) : 0) + (c.most !== undefined && v > c.most ? (v - c.most) / scale(c.most) : 0)
    );
  }, 0);
  return { objectives, violation };
}

/** Rows that no other of those given is better than in every figure named, by their places. */
export function frontOf(table: StudyTable, keys: readonly string[], among: readonly number[]): number[] {
  const columns = keys.flatMap((key) => table.outcomes.filter((o) => o.key === key));
  const scored = among.map((i): Scored => {
    const objectives = columns.map((c) => (c.aim === "least" ? 1 : -1) * c.values[i]);
    return { objectives, violation: objectives.every((v) => Number.isFinite(v)) ? 0 : Infinity };
  });
  return paretoFront(scored).map((k) => among[k]);
}

/** Sobol' indices of every outcome of a study that was sampled for them; a run that is not there yet, or failed, leaves its base point out. */
export function indicesOf(study: Study, table: StudyTable): Readonly<Record<string, SobolIndices>> {
  if (study.method.kind !== "sobol") return {};
  const d = study.axes.length;
  const runs = study.method.points * (d + 2);
  const out: Record<string, SobolIndices> = {};
  for (const o of table.outcomes) {
    const values = new Float64Array(runs).fill(NaN);
    // the base stands before the sampled runs
    table.index.forEach((index, row) => {
      if (index > 0) values[index - 1] = o.values[row];
    });
    const found = sobolIndices(values, d);
    if (found) out[o.key] = found;
  }
  return out;
}

/** All runs as CSV: number, what was chosen on every axis, every outcome, every end use by fuel; failed runs with their sentence. */
export function studyCsv(table: StudyTable): string {
  const cell = (v: string): string => (/[",\n]/.test(v) ? `"${v.replaceAll('"', '""')}"` : v);
  const number = (v: number): string => (Number.isFinite(v) ? String(Number(v.toPrecision(8))) : "");
  const choice = (a: AxisColumn, i: number): string => {
    const v = a.values[i];
    return !Number.isFinite(v) ? "as the base" : a.levels.length > 0 ? a.levels[v] : number(v);
  };
  const named = (c: { readonly words: string; readonly unit: string }): string => (c.unit === "" ? c.words : `${c.words} (${c.unit})`);
  const figures = [...table.outcomes, ...table.uses];
  const head = ["run", ...table.axes.map((a) => (a.levels.length > 0 || a.unit === "" ? a.name : `${a.name} (${a.unit})`)), ...figures.map(named), "failed"];
  const lines = Array.from(table.index, (index, i) => [
    index === 0 ? "base" : String(index),
    ...table.axes.map((a) => choice(a, i)),
    ...figures.map((f) => number(f.values[i])),
    "",
  ]);
  const gone = table.failed.map((f) => [String(f.index), ...table.axes.map(() => ""), ...figures.map(() => ""), `${f.year}: ${f.message}`]);
  return [head, ...lines, ...gone].map((row) => row.map(cell).join(",")).join("\n") + "\n";
}
