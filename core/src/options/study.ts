import { effective } from "../inputs/index.ts";
import {
  applyChange,
  fieldSpec,
  parseProject,
  spaceFieldNames,
  stageOf,
  valueAt,
  zoneFieldNames,
  type Change,
  type Problem,
  type Project,
  type SpaceField,
  type Study,
  type StudyAxis,
  type StudyLevel,
  type ZoneField,
} from "../model/index.ts";
import { derivedFault } from "../results/index.ts";
import { viewOf } from "./options.ts";
import { figuresKept } from "./studyFigures.ts";
import { axisOrder, countRuns, isContinuous, MOST_RUNS, type StudyPoint } from "./studyPlan.ts";

/** The project a study stands on: its base, or the option it names, with its weather years. @throws RangeError for an unknown option */
export function studyBase(document: Project, study: Pick<Study, "base">): Project {
  return viewOf(document, study.base).project;
}

const isRecord = (v: unknown): v is Record<string, unknown> => typeof v === "object" && v !== null && !Array.isArray(v);
const keysAt = (project: Project, path: readonly string[]): string[] => {
  const v = path.length === 0 ? project : valueAt(project, path);
  if (Array.isArray(v)) return (v as { id?: string }[]).flatMap((x) => (typeof x.id === "string" ? [x.id] : []));
  return isRecord(v) ? Object.keys(v) : [];
};

/** The input of a space or a zone that an address sets, and whether it is a number as such; null: the address is of something else. */
function inputAt(project: Project, path: readonly string[]): { readonly value: unknown; readonly number?: boolean } | null {
  const [part, id, inputs, field] = path;
  if (inputs !== "inputs" || path.length !== 4) return null;
  if (part === "spaces" && Object.hasOwn(project.spaces, id) && (spaceFieldNames as readonly string[]).includes(field)) {
    const { when, kind } = fieldSpec("space", field as SpaceField);
    if (when && !when.is.includes(String(effective(project, "space", id, when.field as SpaceField).value))) return { value: null };
    return { value: effective(project, "space", id, field as SpaceField).value, number: kind === "number" };
  }
  if (part === "zones" && Object.hasOwn(project.zones, id) && (zoneFieldNames as readonly string[]).includes(field))
    return { value: effective(project, "zone", id, field as ZoneField).value, number: fieldSpec("zone", field as ZoneField).kind === "number" };
  return null;
}

/**
 * The addresses that one with * stands for. Of an input of spaces or zones, those that have a number there: what is not heated, or follows a
 * schedule, is left as it is.
 */
export function addressesOf(project: Project, address: string): readonly (readonly string[])[] {
  let found: string[][] = [[]];
  const parts = address.split("/");
  for (const part of parts) {
    if (part !== "*") for (const path of found) path.push(part);
    else found = found.flatMap((path) => keysAt(project, path).map((key) => [...path, key]));
  }
  if (!parts.includes("*")) return found;
  return found.filter((path) => {
    const input = inputAt(project, path);
    if (input === null) return valueAt(project, path) !== undefined;
    return input.number === true ? typeof input.value === "number" : input.value !== null;
  });
}

const setTo = (path: readonly string[], value: unknown): Change => ({ op: "set", path: [...path], value });

/** The changes of one level; none for one that leaves the base as it is. */
export function levelChanges(project: Project, axis: StudyAxis, level: StudyLevel): readonly Change[] {
  if (axis.addresses === undefined) return (level.changes ?? []).map(({ old: _old, ...change }) => change);
  return level.value === undefined ? [] : axis.addresses.flatMap((a) => addressesOf(project, a).map((path) => setTo(path, level.value)));
}

/** The changes that make a run of the base. */
export function pointChanges(project: Project, study: Study, point: StudyPoint): Change[] {
  return study.axes.flatMap((axis, i): readonly Change[] => {
    const choice = point[i];
    if (choice === null || choice === undefined) return [];
    if (isContinuous(study, axis)) return (axis.addresses ?? []).flatMap((a) => addressesOf(project, a).map((path) => setTo(path, choice)));
    return levelChanges(project, axis, axis.levels[choice]);
  });
}

/** What a run costs more than the base, by what is typed on its levels; null: nothing is typed anywhere. */
export function investmentOf(study: Study, point: StudyPoint): number | null {
  if (!study.axes.some((a) => a.levels.some((l) => l.investment !== undefined))) return null;
  return study.axes.reduce((sum, axis, i) => {
    const choice = point[i];
    return choice === null || choice === undefined || isContinuous(study, axis) ? sum : sum + (axis.levels[choice].investment ?? 0);
  }, 0);
}

/** Changes one after the other, those that put there what is there already left out; the sentence of the first that does not fit. */
export function withChanges(
  project: Project,
  changes: readonly Change[],
): { readonly ok: true; readonly project: Project } | { readonly ok: false; readonly message: string } {
  let current = project;
  for (const change of changes) {
    if (change.op === "set" && valueAt(current, change.path) === change.value) continue;
    const outcome = applyChange(current, change);
    if (!outcome.ok) return { ok: false, message: outcome.message };
    current = outcome.project;
  }
  return { ok: true, project: current };
}

/** The stage an axis belongs to: that of what it changes first. */
export function axisStage(axis: StudyAxis): Problem["stage"] {
  const path = axis.addresses?.[0]?.split("/") ?? axis.levels.flatMap((l) => l.changes ?? [])[0]?.path;
  if (path === undefined) return "place";
  const [part, , third] = path;
  // what is typed on a space is its use, on a zone what serves it
  if (part === "spaces" && third !== "form") return "use";
  if (part === "zones") return "services";
  return part === "defaults" ? (path[1] === "services" ? "services" : "fabric") : stageOf(part);
}

/** Everything an axis may write, as addresses with / between. */
function written(project: Project, axis: StudyAxis): Set<string> {
  const paths = axis.addresses ? axis.addresses.flatMap((a) => addressesOf(project, a)) : axis.levels.flatMap((l) => (l.changes ?? []).map((c) => c.path));
  return new Set(paths.map((p) => p.join("/")));
}

/** Two addresses of which one lies in the other, of two axes; null: none. */
function clash(a: ReadonlySet<string>, b: ReadonlySet<string>): string | null {
  const within = (all: ReadonlySet<string>, address: string): boolean => {
    for (let at = address.length; at > 0; at = address.lastIndexOf("/", at - 1)) if (all.has(address.slice(0, at))) return true;
    return false;
  };
  for (const address of a) if (within(b, address)) return address;
  for (const address of b) if (within(a, address)) return address;
  return null;
}

/** What keeps a study from being run, and what a user should know before: sentences with the place, `axes/ID`, `axes/ID/levels/ID` or a field. */
export function studyProblems(document: Project, study: Study): Problem[] {
  const out: Problem[] = [];
  const tell = (path: string, message: string, severity: Problem["severity"] = "error"): void =>
    void out.push({ code: "study", severity, stage: "place", path, message });
  if (study.base !== null && !Object.hasOwn(document.options, study.base)) {
    tell("base", `The option "${study.base}" it stands on is gone.`);
    return out;
  }
  const base = studyBase(document, study);
  if (study.axes.length === 0) tell("axes", "It has no axis yet: choose at least one input to vary.");
  const ids = study.axes.map((a) => a.id);
  if (new Set(ids).size < ids.length) tell("axes", "Two axes have the same id.");
  for (const y of study.years) if (!Object.hasOwn(document.weathers, y)) tell("years", `The weather year "${y}" is gone from the project.`);
  if (!["worst", "mean"].includes(study.judge) && !study.years.includes(study.judge))
    tell("judge", "Its outcomes are those of a year that the runs are not judged over.");
  for (const o of study.outcomes ?? []) {
    const d = document.derived && Object.hasOwn(document.derived, o.series) ? document.derived[o.series] : null;
    const fault = d ? derivedFault(document, d) : `The derived series "${o.series}" is gone.`;
    if (fault !== null) tell(`outcomes/${o.id}`, `${o.name}: ${fault}`);
    if (o.statistic.startsWith("hours") && o.limit === undefined) tell(`outcomes/${o.id}`, `${o.name}: type the value the hours are counted beyond.`);
  }
  const order = axisOrder(study);
  if (order === null) tell("axes", "The conditions of its levels go round in a circle.");
  for (const axis of study.axes) axisProblems(base, study, axis, tell);
  const sets = study.axes.map((a) => written(base, a));
  for (let i = 0; i < sets.length; i++)
    for (let j = 0; j < i; j++) {
      const at = clash(sets[i], sets[j]);
      if (at !== null) tell(`axes/${study.axes[i].id}`, `"${study.axes[i].name}" and "${study.axes[j].name}" both change ${at}: take one of them out.`);
    }
  if (study.method.kind === "sobol" && study.axes.some((a) => a.levels.some((l) => l.only)))
    tell("method", "Sobol' indices need inputs that vary by themselves: a level here goes only with levels of another axis.");
  const { against, method } = study;
  const known = figuresKept(document, study).map((f) => f.key);
  if (method.kind === "evolution" && !known.includes(method.figure)) tell("method", `There is no outcome "${method.figure}" for its runs to lower.`);
  if (method.kind === "evolution" && study.axes.some((a) => !a.between))
    tell("method", "An evolution strategy varies numbers between two values: every axis needs both ends.");
  for (const id of against?.pairs ?? []) if (!document.pairs?.some((p) => p.id === id)) tell("against", `The pair "${id}" it is compared with is gone.`);
  if (against && study.length !== "year") tell("against", "Logged data are compared with whole years: the short year has no hours of its own.");
  if (study.method.kind === "search" && study.method.objectives.length === 0) tell("method", "Name at least one objective.");
  if (order !== null && study.axes.length > 0) {
    const runs = countRuns(study) * Math.max(1, study.years.length);
    if (runs === 0) tell("axes", "No combination of its levels is left: look at what goes only with what.");
    if (runs > MOST_RUNS) tell("method", `It has ${runs} runs; ${MOST_RUNS} can be made. Sample it, search it, or take levels out.`);
  }
  return out;
}

function axisProblems(base: Project, study: Study, axis: StudyAxis, tell: (path: string, message: string, severity?: Problem["severity"]) => void): void {
  const where = `axes/${axis.id}`;
  const levels = axis.levels.map((l) => l.id);
  if (new Set(levels).size < levels.length) tell(where, `"${axis.name}": two levels have the same id.`);
  const targets = axis.addresses?.flatMap((a) => addressesOf(base, a));
  if (targets?.length === 0) tell(where, `"${axis.name}" changes nothing: nothing in the model has such a value.`);
  if (axis.between) {
    if (!axis.addresses) tell(where, `"${axis.name}": only a number can lie between two values.`);
    if (!(axis.between[0] < axis.between[1])) tell(where, `"${axis.name}": the lower end must lie below the upper one.`);
  }
  const check = (path: string, words: string, changes: readonly Change[]): void => {
    const done = withChanges(base, changes);
    if (!done.ok) return tell(path, `${words}: ${done.message}`);
    const parsed = parseProject(done.project);
    if (!parsed.ok) tell(path, `${words}: ${parsed.problems[0].path}: ${parsed.problems[0].message}`);
  };
  for (const level of axis.levels) {
    const words = `"${axis.name}", ${levelWords(level)}`;
    if (levelChanges(base, axis, level).some((c) => !studied(c)))
      tell(`${where}/levels/${level.id}`, `${words}: a study varies the model; its weather years are conditions, which are chosen beside the axes.`);
    check(`${where}/levels/${level.id}`, words, levelChanges(base, axis, level));
    if (level.only) {
      const other = study.axes.find((a) => a.id === level.only?.axis);
      const gone = level.only.levels.find((l) => !other?.levels.some((x) => x.id === l));
      if (!other) tell(`${where}/levels/${level.id}`, `${words} goes only with an axis that is gone.`);
      else if (gone !== undefined) tell(`${where}/levels/${level.id}`, `${words} goes only with a level of "${other.name}" that is gone.`);
    }
  }
  if (isContinuous(study, axis) && axis.between && targets)
    for (const end of axis.between)
      check(
        where,
        `"${axis.name}" at ${end}`,
        targets.map((path) => setTo(path, end)),
      );
}

/** Parts of a document that no run of a study changes. */
const NOT_STUDIED: ReadonlySet<string> = new Set(["id", "formatVersion", "weather", "weathers", "options", "studies", "measures", "outlines", "groups"]);
const studied = (c: Change): boolean => !NOT_STUDIED.has(c.path[0]);

/** A level in words. */
export const levelWords = (level: StudyLevel): string =>
  level.name ??
  (level.value === undefined
    ? "as the base"
    : level.value === null
      ? "none"
      : typeof level.value === "number"
        ? String(Number(level.value.toPrecision(6)))
        : level.value);
