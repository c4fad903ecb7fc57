import { canonicalJson, hashFloats, hashText, pow } from "../numeric/index.ts";
import { DAYS_A_YEAR, deriveWeather, HOURS, MONTH_OF_DAY, shortYear, weatherHash, type WeatherYear } from "../climate/index.ts";
import { dayOfYear, type Problem, type Project } from "../model/index.ts";
import { dayKinds } from "../use/index.ts";
import { compile, YearKernel, type CompiledModel, type RunSettings } from "../simulate/index.ts";
import { RunLog } from "./log.ts";
import type { Series, Summary } from "./summary.ts";

/** Raised with every change that moves a result, so that stored runs are not taken for current ones. */
export const CORE_VERSION = "0.4.0";

export interface RunProgress {
  /** Simulated days done of all, warm-up included. */
  readonly done: number;
  readonly of: number;
  readonly phase: "warm-up" | "year";
}

export interface RunResult {
  readonly summary: Summary;
  readonly series: readonly Series[];
}

/** The driver's clock, s; the core has none of its own. */
export type Clock = () => number;

const WARMUP_DAYS = 25;
/** Start error assumed for the estimate of what is left of it after the warm-up, K. */
const START_ERROR = 3;
const START_TOLERANCE = 0.05;

/** Name of a run: the content of project, weather and settings, and the version of the core. */
export function runHash(project: Project, weather: WeatherYear, settings: RunSettings): string {
  const { evidence: _evidence, options: _options, name: _name, note: _note, id: _id, ...physics } = project;
  return hashText(canonicalJson([CORE_VERSION, physics, weatherHash(weather), settings]));
}

/** Hash of every value of every series, to the bit. */
export function seriesHash(result: Pick<RunResult, "series">): string {
  return hashFloats(result.series.map((s) => s.values));
}

/** Days before each representative day of a short year that bring its states there. */
const LEAD_DAYS = 3;

/** First day and number of days a run covers: asked for, else the project's own period, else the year. */
export function periodOf(project: Project, settings: RunSettings): { firstDay: number; days: number } {
  if (settings.period) return settings.period;
  const { period } = project.run;
  return period ? { firstDay: dayOfYear(...period.from), days: period.days } : { firstDay: 0, days: DAYS_A_YEAR };
}

/**
 * Runs a project over its period, or over the weighted days of a short year: compiles, warms up on the
 * preceding days, and yields once a simulated day. A pure function of its arguments (the clock only fills `timing`).
 * @throws ProjectError when the project or the weather has errors, RunError when a temperature is lost on the way
 */
export function* runProject(project: Project, weather: WeatherYear, settings: RunSettings, clock: Clock = () => 0): Generator<RunProgress, RunResult, void> {
  const started = clock();
  const asked = settings.shortYear ? { firstDay: 0, days: DAYS_A_YEAR } : periodOf(project, settings);
  const years = Math.max(1, Math.ceil((asked.firstDay + asked.days) / DAYS_A_YEAR));
  const model = compile(project, weather, settings.stepsPerHour, clock, settings.furtherVectors ? { further: settings.furtherVectors } : {}, years);
  const compiled = clock();
  const short = settings.shortYear
    ? shortYear(
        weather,
        project.run.shortYear,
        Array.from(dayKinds(project.calendar), (k) => k < 5),
      )
    : null;
  const { firstDay, days } = asked;
  const kernel = new YearKernel(model, weather);
  const first = short ? short.days[0].day : firstDay;
  warmStart(kernel, weather, first);
  const hours = Math.max(1, Math.round(24 * days));
  const whole = Math.ceil(hours / 24);
  const of = WARMUP_DAYS + (short ? short.days.length * (1 + LEAD_DAYS) : whole);
  let done = 0;
  for (let d = 0; d < WARMUP_DAYS; d++) {
    runDay(kernel, (((first - WARMUP_DAYS + d) % 365) + 365) % 365, null);
    yield { done: ++done, of, phase: "warm-up" };
  }
  kernel.openBooks();
  const before = kernel.contents();
  const log = new RunLog(model, weather, firstDay, short ? short.days.length : days, settings, short !== null);
  if (short)
    for (const { day, weight } of short.days) {
      for (let d = LEAD_DAYS; d > 0; d--) {
        runDay(kernel, (day - d + 365) % 365, null);
        yield { done: ++done, of, phase: "year" };
      }
      log.weigh(weight);
      log.begin(kernel);
      runDay(kernel, day, log);
      log.takeSums(kernel, 24 * day);
      yield { done: ++done, of, phase: "year" };
    }
  else {
    log.begin(kernel);
    for (let d = 0; d < whole; d++) {
      const day = (firstDay + d) % 365;
      runDay(kernel, day, log, Math.floor((firstDay + d) / DAYS_A_YEAR), Math.min(24, hours - 24 * d));
      if (d === whole - 1 || MONTH_OF_DAY[day] !== MONTH_OF_DAY[(day + 1) % 365]) log.takeSums(kernel, 24 * day);
      yield { done: ++done, of, phase: "year" };
    }
  }
  const warnings = [...model.warnings.map((w) => `${w.path}: ${w.message}`), ...runWarnings(kernel)];
  const sum = (a: Int32Array): number => a.reduce((s, v) => s + v, 0);
  const summary = log.summary(project, {
    closure: closure(kernel, before),
    warnings,
    warmupDays: WARMUP_DAYS,
    shortYear: short ? { days: [...short.days], expected: short.expected } : null,
    counted: {
      unsettled: sum(kernel.books.unsettled),
      unconverged: sum(kernel.books.unconverged),
      steps: model.stepsPerHour * (short ? 24 * short.days.length : hours),
    },
    timing: { compile: compiled - started, run: clock() - compiled, cast: model.castSeconds, recast: model.recast, kernel: kernel.kind },
  });
  const series = log.series();
  return { summary: { ...summary, fingerprint: settings.summaryOnly ? "" : seriesHash({ series }) }, series };
}

/** Drives a run to its end. */
export function runToEnd(project: Project, weather: WeatherYear, settings: RunSettings, clock?: Clock): RunResult {
  const run = runProject(project, weather, settings, clock);
  for (;;) {
    const step = run.next();
    if (step.done) return step.value;
  }
}

/** States start steady between the mean of the 30 days before the warm-up's end and 20 °C inside. */
function warmStart(kernel: YearKernel, weather: WeatherYear, firstDay: number): void {
  const derived = deriveWeather(weather);
  let t = 0;
  let w = 0;
  for (let h = 1; h <= 720; h++) {
    const hour = (((firstDay * 24 - h) % HOURS) + HOURS) % HOURS;
    t += weather.dryBulb[hour] / 720;
    w += derived.humidityRatio[hour] / 720;
  }
  kernel.start(t, 20, w);
}

function runDay(kernel: YearKernel, day: number, log: RunLog | null, year = 0, hours = 24): void {
  const n = kernel.model.stepsPerHour;
  for (let h = 24 * day; h < 24 * day + hours; h++) {
    for (let k = 0; k < n; k++) {
      kernel.step(h, k, year);
      if (log) log.take(kernel, h, k);
    }
    if (log) log.closeHour(kernel, h);
  }
}

/** Heat below which a residual is rounding and nothing else, J over the run. */
const LEAST_GROSS = 1;

/** Largest relative residual: of a zone's flows against its air, of an element's heat against its content. */
function closure(kernel: YearKernel, before: Float64Array): number {
  const { books, model } = kernel;
  const after = kernel.contents();
  let worst = 0;
  for (let z = 0; z < model.zones; z++) if (books.zoneGross[z] > LEAST_GROSS) worst = Math.max(worst, Math.abs(books.zoneNet[z]) / books.zoneGross[z]);
  for (let i = 0; i < model.elements; i++) {
    const gross = books.elementGross[i];
    if (gross > LEAST_GROSS) worst = Math.max(worst, Math.abs(books.elementHeat[i] - (after[i] - before[i])) / gross);
  }
  return worst;
}

/** Inside faces that may still carry more than 0.05 K of a start error of 3 K throughout their layers. */
function slowFaces(model: CompiledModel): Problem[] {
  let worst = 0;
  let face = -1;
  for (let i = 0; i < model.elements; i++) {
    let left = 0;
    for (let k = model.modeStart[i]; k < model.modeStart[i + 1]; k++) {
      const uniform = model.port0[k] * model.nominal0[i] + model.port1[k] * model.nominal1[i];
      const stepsLeft = pow(model.decay[k], (WARMUP_DAYS * 86400) / model.dt);
      left += START_ERROR * model.port1[k] * uniform * stepsLeft;
    }
    if (Math.abs(left) > worst) {
      worst = Math.abs(left);
      face = i;
    }
  }
  if (worst < START_TOLERANCE) return [];
  const zone = model.zone1[face];
  return [
    {
      code: "warm-up",
      severity: "warning",
      stage: "fabric",
      path: `zones/${model.zoneIds[zone]}`,
      message: `After ${WARMUP_DAYS} days of warm-up a face of ${model.zoneNames[zone]} may still be ${worst.toFixed(2)} K off from its start.`,
    },
  ];
}

function runWarnings(kernel: YearKernel): string[] {
  const { model, books } = kernel;
  const out = slowFaces(model).map((p) => `${p.path}: ${p.message}`);
  for (let z = 0; z < model.zones; z++)
    if (books.unsettled[z] > 0)
      out.push(`zones/${model.zoneIds[z]}: The thermostat search of ${model.zoneNames[z]} did not settle in ${books.unsettled[z]} steps.`);
  for (let z = 0; z < model.zones; z++)
    if (books.unconverged[z] > 0)
      out.push(`zones/${model.zoneIds[z]}: The radiant exchange of ${model.zoneNames[z]} had not converged to 0.01 W/m² in ${books.unconverged[z]} steps.`);
  return out;
}
