import { weatherHash, type WeatherYear } from "../climate/index.ts";
import type { LoggedReadings } from "../logged/index.ts";
import { parseProject, physicsOf, storedHash, type Problem, type Project, type Study } from "../model/index.ts";
import { canonicalJson, hashText } from "../numeric/index.ts";
import { CORE_VERSION, needsSizes, runToEnd, sizeProject, sizesCover, sizesOf, type Clock } from "../results/index.ts";
import { checkProject, projectWeather, type RunSettings, type Sizes } from "../simulate/index.ts";
import { figuresKept, figuresOf, seriesOfStudy } from "./studyFigures.ts";
import { withChanges, pointChanges, studyBase } from "./study.ts";
import type { StudyPoint } from "./studyPlan.ts";

/** One run to be made. */
export interface StudyTask {
  /** Its place among all: 0 the base, from 1 on those of the plan. */
  readonly index: number;
  readonly point: StudyPoint;
  /** Weather year it is run over. */
  readonly year: string;
  /** Of the whole year by the hour, to tell the error of the short one. */
  readonly check: boolean;
}
/** What a run came to: figures in the order of `figuresKept`, or why there are none. */
export interface StudyOutcome {
  readonly figures: readonly (number | null)[] | null;
  readonly error: string | null;
  /** Time it took, s. */
  readonly seconds: number;
}

/** A run made ready: by its key it is known whether it was made before. */
export type Prepared =
  | { readonly ok: true; readonly key: string; readonly project: Project; readonly weather: WeatherYear; readonly settings: RunSettings }
  | { readonly ok: false; readonly message: string };

/** Sizes of so many different models are remembered. */
const REMEMBERED = 64;
/** Hashes of parts of documents, for as long as the parts live: runs of a study share most of them. */
const partHashes = new WeakMap<object, string>();
function partHash(part: unknown): string {
  if (typeof part !== "object" || part === null) return canonicalJson(part ?? null);
  let known = partHashes.get(part);
  if (known === undefined) {
    known = hashText(canonicalJson(part));
    partHashes.set(part, known);
  }
  return known;
}
/** What a document's figures depend on, as a hash, part by part; the year apart. */
function contentHash(project: Project): string {
  const { weather: _year, ...parts } = physicsOf(project);
  return hashText(
    Object.keys(parts)
      .sort()
      .map((k) => `${k}:${partHash(parts[k])}`)
      .join(" "),
  );
}

/** Makes the runs of one study, one at a time; what they share is kept between them. */
export class StudyMaker {
  readonly study: Study;
  /** The model it stands on. */
  readonly base: Project;
  private readonly stored: (hash: string) => WeatherYear | null;
  private readonly clock: Clock;
  private readonly logged: LoggedReadings;
  private readonly weathers = new Map<string, { readonly weather: WeatherYear; readonly hash: string }>();
  private readonly sizes = new Map<string, Sizes | null>();
  private readonly series: readonly string[];
  private readonly asked: string;

  /** @param stored weather years by their hash @param logged readings by theirs @throws RangeError where the option it stands on is gone */
  constructor(document: Project, study: Study, stored: (hash: string) => WeatherYear | null, clock: Clock = () => 0, logged: LoggedReadings = {}) {
    const base = studyBase(document, study);
    this.study = study;
    this.base = { ...base, run: { ...base.run, period: null } };
    this.stored = stored;
    this.clock = clock;
    this.logged = logged;
    this.series = seriesOfStudy(this.base, study);
    this.asked = canonicalJson([
      figuresKept(this.base, study).map((f) => f.key),
      (study.outcomes ?? []).map(({ name: _name, aim: _aim, ...o }) => o),
      this.series.length > 0 ? (base.derived ?? {}) : {},
      ...(study.against ? [study.against, base.points ?? {}, base.pairs ?? []] : []),
    ]);
  }

  /** The runs of a point: one a year, the one in view where none is named. */
  get years(): readonly string[] {
    return this.study.years.length > 0 ? this.study.years : [this.base.weather];
  }

  private weatherOf(project: Project, year: string): { readonly weather: WeatherYear; readonly hash: string } | null {
    // the site can be varied, and what a year of normals comes to follows it
    const key = `${year} ${partHash(project.site)} ${partHash(project.weathers)} ${partHash(project.drives)} ${partHash(project.points)}`;
    const known = this.weathers.get(key);
    if (known) return known;
    const hash = storedHash(project, year);
    const weather = projectWeather(project, { weather: hash === null ? null : this.stored(hash), logged: this.logged }, year);
    if (!weather) return null;
    const made = { weather, hash: weatherHash(weather) };
    this.weathers.set(key, made);
    return made;
  }

  /** The model, year and settings of a run, and the key it is known by; or why it cannot be made. */
  prepare({ point, year, check }: Pick<StudyTask, "point" | "year" | "check">): Prepared {
    const { study, base } = this;
    const done = withChanges(base, pointChanges(base, study, point));
    if (!done.ok) return { ok: false, message: done.message };
    const parsed = parseProject(done.project);
    const first = (problems: readonly Problem[]): string => `${problems[0].path}: ${problems[0].message}`;
    if (!parsed.ok) return { ok: false, message: first(parsed.problems) };
    // of what was read, the parts as they were, so that what runs share is known to be the same
    const project = { ...done.project, weather: year };
    const errors = checkProject(project).problems.filter((p) => p.severity === "error");
    if (errors.length > 0) return { ok: false, message: first(errors) };
    const found = this.weatherOf(project, year);
    if (!found) return { ok: false, message: `The weather year "${project.weathers[year]?.name ?? year}" is not at hand.` };
    const settings: RunSettings = {
      stepsPerHour: check ? 1 : (study.stepsPerHour ?? base.run.stepsPerHour),
      ...(study.length === "year" || check ? {} : { shortYear: study.length }),
      ...(this.series.length > 0 ? { series: this.series } : { summaryOnly: true }),
    };
    const prices = partHash([project.prices, project.factors]);
    const key = hashText(canonicalJson([CORE_VERSION, contentHash(project), found.hash, settings, prices, this.asked, this.sizingKey(project)]));
    return { ok: true, key, project, weather: found.weather, settings };
  }

  /** What the sizes of a run follow from. */
  private sizingKey(project: Project): string {
    const of = this.study.sizing === "once" ? this.base : project;
    return needsSizes(project) ? `${contentHash(of)} ${this.weatherOf(this.base, this.base.weather)?.hash ?? ""} ${partHash(of.designDays ?? null)}` : "";
  }

  /** Capacities for a run: of the base, or its own, by the design days of the year in view. */
  private sizesFor(project: Project): Sizes | null {
    if (!needsSizes(project)) return null;
    if (this.study.sizing === "once") {
      const base = this.sizesOf(this.base);
      if (base && sizesCover(project, base)) return base;
    }
    return this.sizesOf({ ...project, weather: this.base.weather });
  }

  private sizesOf(project: Project): Sizes | null {
    const key = `${contentHash(project)} ${partHash(project.designDays ?? null)}`;
    const known = this.sizes.get(key);
    if (known !== undefined) return known;
    const found = this.weatherOf(project, this.base.weather);
    const sizes = found && needsSizes(project) ? sizesOf(sizeProject(project, found.weather)) : null;
    // the first stays: it is the base's where all runs take its sizes
    if (this.sizes.size >= REMEMBERED) this.sizes.delete([...this.sizes.keys()][1] ?? "");
    this.sizes.set(key, sizes);
    return sizes;
  }

  /** Makes a run. Never throws: what goes wrong is its sentence. */
  make(prepared: Prepared): StudyOutcome {
    const began = this.clock();
    const ended = (o: Omit<StudyOutcome, "seconds">): StudyOutcome => ({ ...o, seconds: this.clock() - began });
    if (!prepared.ok) return ended({ figures: null, error: prepared.message });
    const { project, weather, settings } = prepared;
    try {
      const sizes = this.sizesFor(project);
      const result = runToEnd(project, weather, sizes ? { ...settings, sizes } : settings);
      return ended({ figures: figuresOf(project, this.study, result, weather, this.logged), error: null });
    } catch (error) {
      return ended({ figures: null, error: error instanceof Error ? error.message : String(error) });
    }
  }
}

/** The runs of points from a place on, over every year; the base is the point at place 0. */
export const tasksOf = (maker: Pick<StudyMaker, "years">, points: readonly StudyPoint[], from: number): StudyTask[] =>
  points.flatMap((point, i) => maker.years.map((year): StudyTask => ({ index: from + i, point, year, check: false })));

/** The runs that tell the error of the short year: of the base and of others spread over all. */
export function checkTasks(study: Study, year: string, points: readonly StudyPoint[]): StudyTask[] {
  const n = study.length === "year" ? 0 : Math.min(study.checks, points.length);
  const places = new Set(Array.from({ length: n }, (_, i) => (n === 1 ? 0 : Math.round((i * (points.length - 1)) / (n - 1)))));
  return Array.from(places, (index): StudyTask => ({ index, point: points[index], year, check: true }));
}

/** The base as a point. */
export const basePoint = (study: Pick<Study, "axes">): StudyPoint => study.axes.map(() => null);
