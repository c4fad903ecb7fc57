import type { Study, StudyAxis } from "../model/index.ts";
import { evolutionAsk, evolutionStart, evolutionTell } from "./evolution.ts";
import { morrisPlan } from "./morris.ts";
import { latinHypercube, saltelliPoints } from "./sampling.ts";
import { search, type Scored } from "./search.ts";

/** What a run takes of one axis: the place of a level, or a value between; null: as the base has it. */
export type Choice = number | null;
/** A run of a study: one choice an axis, in their order. */
export type StudyPoint = readonly Choice[];

/** Whether an axis is sampled anywhere between two values rather than at its levels. */
export const isContinuous = (study: Study, axis: StudyAxis): boolean => study.method.kind !== "grid" && axis.between !== undefined;

/** Runs a study has at most, its years counted. */
export const MOST_RUNS = 20000;
/** Combinations are counted one by one up to this many. */
const COUNTED = 2000000;

/** Axes in an order in which conditions look back only, by their places; null: they go round in a circle. */
export function axisOrder(study: Pick<Study, "axes">): number[] | null {
  const { axes } = study;
  const needs = axes.map((a) => new Set(a.levels.flatMap((l) => (l.only ? [axes.findIndex((x) => x.id === l.only?.axis)] : [])).filter((i) => i >= 0)));
  const out: number[] = [];
  while (out.length < axes.length) {
    const next = axes.findIndex((_, i) => !out.includes(i) && [...needs[i]].every((j) => out.includes(j)));
    if (next < 0) return null;
    out.push(next);
  }
  return out;
}

/** Levels of an axis that go with what is chosen of the axes before it, by their places. */
function allowed(study: Study, axis: StudyAxis, chosen: readonly Choice[]): number[] {
  return Array.from(axis.levels.keys()).filter((k) => {
    const { only } = axis.levels[k];
    if (!only) return true;
    const at = study.axes.findIndex((a) => a.id === only.axis);
    if (at < 0) return false;
    const choice = chosen[at];
    return choice !== null && only.levels.includes(study.axes[at].levels[choice]?.id ?? "");
  });
}

/** Every combination of levels; an axis of which no level goes stays as the base has it. */
export function* gridPoints(study: Study): Generator<StudyPoint, void, void> {
  const order = axisOrder(study);
  if (order === null || study.axes.length === 0) return;
  const point: Choice[] = study.axes.map(() => null);
  function* at(depth: number): Generator<StudyPoint, void, void> {
    if (order === null || depth === order.length) {
      yield [...point];
      return;
    }
    const i = order[depth];
    const levels = allowed(study, study.axes[i], point);
    if (levels.length === 0) {
      point[i] = null;
      yield* at(depth + 1);
    }
    for (const k of levels) {
      point[i] = k;
      yield* at(depth + 1);
    }
    point[i] = null;
  }
  yield* at(0);
}

/** The run at a point of the unit cube, one coordinate an axis: a level, or a value between. */
export function pointAt(study: Study, at: ArrayLike<number>): StudyPoint {
  const point: Choice[] = study.axes.map(() => null);
  for (const i of axisOrder(study) ?? []) {
    const axis = study.axes[i];
    if (isContinuous(study, axis) && axis.between) {
      point[i] = Number((axis.between[0] + at[i] * (axis.between[1] - axis.between[0])).toPrecision(9));
      continue;
    }
    const levels = allowed(study, axis, point);
    point[i] = levels.length === 0 ? null : levels[Math.min(levels.length - 1, Math.floor(at[i] * levels.length))];
  }
  return point;
}

/** Runs of a study over one year, the base not counted; of a search the most it may take. Infinity: more than can be counted. */
export function countRuns(study: Study): number {
  const { method, axes } = study;
  if (axes.length === 0) return 0;
  switch (method.kind) {
    case "latin":
      return method.runs;
    case "sobol":
      return method.points * (axes.length + 2);
    case "search":
      return method.population * (method.generations + 1);
    case "morris":
      return method.trajectories * (axes.length + 1);
    case "evolution":
      return method.population * method.generations;
    case "grid": {
      const product = axes.reduce((n, a) => n * a.levels.length, 1);
      if (!axes.some((a) => a.levels.some((l) => l.only))) return product;
      if (product > COUNTED) return product;
      let n = 0;
      for (const _ of gridPoints(study)) n++;
      return n;
    }
  }
}

/** The runs of a study that are known before any is made: all of them but those of a search. */
export function plannedPoints(study: Study): StudyPoint[] {
  const { method, axes } = study;
  switch (method.kind) {
    case "grid":
      return [...gridPoints(study)];
    case "latin":
      return latinHypercube(axes.length, method.runs, method.seed).map((row) => pointAt(study, row));
    case "sobol":
      return saltelliPoints(axes.length, method.points, method.seed).map((row) => pointAt(study, row));
    case "morris":
      return morrisPlan(axes.length, method.trajectories, method.seed).points.map((row) => pointAt(study, row));
    case "search":
    case "evolution":
      return [];
  }
}

/** Whether what a study runs next follows from what its runs came to. */
export const isSearch = (method: Study["method"]): method is Extract<Study["method"], { kind: "search" | "evolution" }> =>
  method.kind === "search" || method.kind === "evolution";

/** What a run of a search came to; null: it failed. */
export type Outcome = (point: StudyPoint, index: number) => Scored | null | undefined;

/**
 * The runs a search asks for, as far as they follow from what is known: its generations one after the other, up to the first of which a
 * result is not known yet.
 * @param known of the run at a place among all; undefined: not yet @returns the runs, whether all generations are through, and the places of the last survivors
 */
export function searchedPoints(study: Study, known: Outcome): { readonly points: StudyPoint[]; readonly done: boolean; readonly alive: readonly number[] } {
  const { method, axes } = study;
  if (method.kind === "evolution") return evolvedPoints(study, method, known);
  if (method.kind !== "search") return { points: [], done: true, alive: [] };
  const key = (genes: Float64Array): string => JSON.stringify(pointAt(study, genes));
  const steps = search({ genes: axes.length, population: method.population, generations: method.generations, seed: method.seed, key });
  const points: StudyPoint[] = [];
  let step = steps.next();
  while (!step.done) {
    const from = points.length;
    points.push(...step.value.map((genes) => pointAt(study, genes)));
    const answers: Scored[] = [];
    for (let i = from; i < points.length; i++) {
      const scored = known(points[i], i);
      if (scored === undefined) return { points, done: false, alive: [] };
      answers.push(scored ?? { objectives: method.objectives.map(() => Infinity), violation: Infinity });
    }
    step = steps.next(answers);
  }
  return { points, done: true, alive: step.value };
}

/** The runs an evolution strategy asks for, as far as they follow from what is known. @see searchedPoints */
function evolvedPoints(study: Study, method: Extract<Study["method"], { kind: "evolution" }>, known: Outcome): ReturnType<typeof searchedPoints> {
  const points: StudyPoint[] = [];
  let state = evolutionStart({ inputs: study.axes.length, seed: method.seed, population: method.population });
  for (let g = 0; g < method.generations; g++) {
    const from = points.length;
    points.push(...evolutionAsk(state).inputs.map((row) => pointAt(study, row)));
    const costs: number[] = [];
    for (let i = from; i < points.length; i++) {
      const scored = known(points[i], i);
      if (scored === undefined) return { points, done: false, alive: [] };
      costs.push(scored?.objectives[0] ?? Infinity);
    }
    state = evolutionTell(state, costs);
  }
  return { points, done: true, alive: [] };
}
