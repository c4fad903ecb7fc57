import type { Study, StudyAxis } from "../model/index.ts";
import { morrisEffects, morrisPlan, type ElementaryEffect } from "./morris.ts";
import { MISFIT } from "./studyFigures.ts";
import type { AxisChoice } from "./axisChoice.ts";
import type { StudyTable } from "./studyTable.ts";

/** Ids of the two studies that calibrate a project. */
export const SCREENING_STUDY = "calibration_screening";
export const CALIBRATION_STUDY = "calibration_search";

/** Whether an input can be searched: it is a number. */
export const isSearched = (choice: Pick<AxisChoice, "axis">): boolean =>
  choice.axis.addresses !== undefined && choice.axis.levels.every((l) => l.value === undefined || typeof l.value === "number");

/** Bounds an input is first searched between: what its levels run over. */
export function firstBounds(choice: Pick<AxisChoice, "axis">): [number, number] {
  const values = choice.axis.levels.flatMap((l) => (typeof l.value === "number" ? [l.value] : []));
  const [low, high] = [Math.min(...values), Math.max(...values)];
  return low < high ? [low, high] : [low, low === 0 ? 1 : 2 * low];
}

export interface CalibrationSpec {
  readonly axes: readonly StudyAxis[];
  readonly pairs: readonly string[];
  readonly held: readonly [from: readonly [number, number], to: readonly [number, number]] | null;
  readonly trajectories: number;
  readonly population: number;
  readonly generations: number;
  readonly seed: number;
  readonly stepsPerHour: 1 | 2 | 3 | 4 | 6 | 12;
}

/** The study that screens inputs, or the one that searches them. Capacities stay those of the base: what is calibrated stands already. */
export function calibrationStudy(kind: "screening" | "search", x: CalibrationSpec, base: string | null): Study {
  return {
    name: kind === "screening" ? "Calibration: screening" : "Calibration: search",
    base,
    axes: x.axes.map((a) => ({ ...a, levels: [...a.levels] })),
    years: [],
    judge: "worst",
    method:
      kind === "screening"
        ? { kind: "morris", trajectories: x.trajectories, seed: x.seed }
        : { kind: "evolution", population: x.population, generations: x.generations, seed: x.seed, figure: MISFIT.key },
    length: "year",
    stepsPerHour: x.stepsPerHour,
    sizing: "once",
    checks: 0,
    against: { pairs: [...x.pairs], ...(x.held ? { held: [[...x.held[0]] as [number, number], [...x.held[1]] as [number, number]] } : {}) },
  };
}

/** What each input does to a figure over its bounds, by a screening whose runs are there; runs that failed leave their pairs out. */
export function screeningEffects(study: Study, table: StudyTable, figure: string): readonly ElementaryEffect[] {
  if (study.method.kind !== "morris") return [];
  const plan = morrisPlan(study.axes.length, study.method.trajectories, study.method.seed);
  const values = new Array<number>(plan.points.length).fill(NaN);
  const column = table.outcomes.find((o) => o.key === figure)?.values;
  // the base stands before the planned runs
  if (column) table.index.forEach((index, row) => index > 0 && (values[index - 1] = column[row]));
  return morrisEffects(plan, values);
}

/** Answers of a search that are nearly as good as the best. */
export interface NearBest {
  /** Row of the best run; −1: none is there. */
  readonly best: number;
  readonly rows: readonly number[];
  /** Least and most of each input among them. */
  readonly spread: readonly (readonly [least: number, most: number])[];
}

/** Runs whose figure lies within a share of the best one's. @param share such as 0.05 */
export function nearBest(table: StudyTable, figure: string, share: number): NearBest {
  const values = table.outcomes.find((o) => o.key === figure)?.values;
  let best = -1;
  if (values) for (let i = 0; i < values.length; i++) if (Number.isFinite(values[i]) && (best < 0 || values[i] < values[best])) best = i;
  if (!values || best < 0) return { best: -1, rows: [], spread: [] };
  const limit = values[best] + share * Math.abs(values[best]);
  const rows = Array.from(values.keys()).filter((i) => values[i] <= limit);
  const spread = table.axes.map((a): [number, number] => {
    const at = rows.map((i) => a.values[i]).filter((v) => Number.isFinite(v));
    return at.length > 0 ? [Math.min(...at), Math.max(...at)] : [NaN, NaN];
  });
  return { best, rows, spread };
}
