import type { Change, Measure, OptionChange, Project, Study } from "../model/index.ts";
import { canonicalJson } from "../numeric/index.ts";
import { levelChanges, pointChanges, withChanges } from "./study.ts";
import { levelText } from "./studyTable.ts";
import { isContinuous, type StudyPoint } from "./studyPlan.ts";
import { appendChanges, viewOf, wholeOption } from "./options.ts";

/** A model of the staircase: the base with some of the measures. */
export interface StairModel {
  /** Places of its measures in the order of the list. */
  readonly measures: readonly number[];
  readonly project: Project | null;
  /** Why it cannot be made. */
  readonly message: string | null;
}
/** Where the figures of a measure come from: the models before and after it. */
export interface Stair {
  readonly measure: Measure;
  /** It alone: the base and the base with it. In this order: the steps before and with it. Last: all others, and all. */
  readonly alone: readonly [number, number];
  readonly inOrder: readonly [number, number];
  readonly last: readonly [number, number];
}

/**
 * The models that tell what each measure does alone, in this order and last of all, so that how they act on each other shows: the base, each alone, the
 * steps one after the other, and all but one. Models that are the same are there once.
 * @returns models, of which the first is the base, and the places among them that each measure's effects lie between
 */
export function staircase(base: Project, measures: readonly Measure[]): { readonly models: readonly StairModel[]; readonly stairs: readonly Stair[] } {
  const models: StairModel[] = [];
  const known = new Map<string, number>();
  const modelOf = (places: readonly number[]): number => {
    const key = places.join(" ");
    const there = known.get(key);
    if (there !== undefined) return there;
    const done = withChanges(
      base,
      places.flatMap((i) => measures[i].changes.map(({ old: _old, ...change }) => change)),
    );
    models.push({ measures: places, project: done.ok ? done.project : null, message: done.ok ? null : done.message });
    known.set(key, models.length - 1);
    return models.length - 1;
  };
  const all = Array.from(measures.keys());
  modelOf([]);
  const stairs = measures.map((measure, i): Stair => ({
    measure,
    alone: [modelOf([]), modelOf([i])],
    inOrder: [modelOf(all.slice(0, i)), modelOf(all.slice(0, i + 1))],
    last: [modelOf(all.filter((k) => k !== i)), modelOf(all)],
  }));
  return { models, stairs };
}

/** The measures a run of a study is made of: one for every axis on which it is not as the base. */
export function measuresOf(base: Project, study: Study, point: StudyPoint): Measure[] {
  return study.axes.flatMap((axis, i): Measure[] => {
    const choice = point[i];
    if (choice === null || choice === undefined) return [];
    const between = isContinuous(study, axis);
    const changes = between ? pointChanges(base, { ...study, axes: [axis] }, [choice]) : [...levelChanges(base, axis, axis.levels[choice])];
    const done = withChanges(base, changes);
    if (changes.length === 0 || !done.ok || canonicalJson(done.project) === canonicalJson(base)) return [];
    const level = between ? levelText(axis, { id: "x", value: choice }) : levelText(axis, axis.levels[choice]);
    const investment = between ? undefined : axis.levels[choice].investment;
    return [{ id: axis.id, name: `${axis.name}: ${level}`.slice(0, 200), changes, ...(investment === undefined ? {} : { investment }) }];
  });
}

/** An option as a measure. */
export const measureOf = (document: Project, option: string): Measure => ({
  id: option,
  name: document.options[option].name,
  changes: wholeOption(document, option)
    .filter((c) => c.path[0] !== "weather")
    .map(({ id: _id, ...change }) => change),
});

/** Two options put together: the changes of the one, then those of the other that fit on top; with what they disagree about. */
export function mergedOptions(
  document: Project,
  first: string,
  second: string,
): { readonly changes: readonly OptionChange[]; readonly clashes: readonly { readonly change: Change; readonly message: string }[] } {
  const [a, b] = [first, second].map((id) => ({ name: document.options[id].name, changes: wholeOption(document, id) }));
  const { project } = viewOf(document, first);
  const clashes: { change: Change; message: string }[] = [];
  let current = project;
  let changes = [...a.changes];
  for (const { id: _id, old, ...change } of b.changes) {
    // what the first option set as well is told; the second has the last word
    const own = a.changes.find((c) => c.path.join("/") === change.path.join("/"));
    if (own && canonicalJson(own.value ?? null) !== canonicalJson(change.value ?? null))
      clashes.push({ change: { ...change, ...(old === undefined ? {} : { old }) }, message: `both change it; that of "${b.name}" is taken` });
    const done = withChanges(current, [change]);
    if (!done.ok) {
      clashes.push({ change, message: done.message });
      continue;
    }
    if (done.project === current) continue;
    const replaced = own ? own.value : old;
    changes = appendChanges(changes, [replaced === undefined ? change : { ...change, old: replaced }]);
    current = done.project;
  }
  return { changes, clashes };
}
