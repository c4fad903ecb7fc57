import type { Project, Study } from "../model/index.ts";
import { countRuns } from "./studyPlan.ts";

/** Times of a year that was run, s. */
export interface YearTimes {
  readonly compile: number;
  readonly run: number;
  readonly sizing: number;
  readonly stepsPerHour: number;
}
/** Days of a whole year with its warm-up; a representative day is led to by three others. */
const WARMUP = 25;
const YEAR = 365 + WARMUP;
const DAYS_OF_ONE = 4;
/** A short year runs this many days more than asked for: its coldest and its warmest. */
const EXTREMES = 2;

/** Runs of a study with its base, years and checks. */
export function runsOf(study: Study): { readonly short: number; readonly full: number } {
  const points = 1 + countRuns(study);
  const runs = points * Math.max(1, study.years.length);
  return study.length === "year" ? { short: 0, full: runs } : { short: runs, full: Math.min(study.checks, points) };
}

/** Time a study is likely to take in one thread, s, from the times of a year that was run. */
export function expectedSeconds(study: Study, project: Pick<Project, "run">, times: YearTimes): number {
  const { short, full } = runsOf(study);
  const steps = study.stepsPerHour ?? project.run.stepsPerHour;
  const day = times.run / YEAR / times.stepsPerHour;
  const one = times.compile + (study.sizing === "each" ? times.sizing : 0);
  const days = study.length === "year" ? 0 : WARMUP + DAYS_OF_ONE * (study.length + EXTREMES);
  return short * (one + days * steps * day) + full * (one + YEAR * (study.length === "year" ? steps : 1) * day) + (study.sizing === "once" ? times.sizing : 0);
}

/** Ways to make a study that takes long with the machines at hand, each with the time it would take, s. */
export function shorterWays(
  study: Study,
  project: Pick<Project, "run">,
  times: YearTimes,
): { readonly words: string; readonly study: Study; readonly seconds: number }[] {
  const ways: { words: string; study: Study }[] = [];
  if (study.length !== 12) ways.push({ words: "12 days by the hour", study: { ...study, length: 12, stepsPerHour: 1, checks: Math.max(4, study.checks) } });
  const sample: Study = { ...(ways[0]?.study ?? study), method: { kind: "latin", runs: 300, seed: 1 } };
  if (study.method.kind === "grid" && countRuns(study) > 300)
    ways.push({ words: `a sample of 300${ways.length > 0 ? ", 12 days by the hour" : ""}`, study: sample });
  if (study.sizing === "each" && times.sizing > 0) ways.push({ words: "sized once", study: { ...study, sizing: "once" } });
  return ways.map((w) => ({ ...w, seconds: expectedSeconds(w.study, project, times) }));
}
