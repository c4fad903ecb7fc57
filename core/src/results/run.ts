import { canonicalJson, hashFloats, hashText, pow } from "../numeric/index.ts";
import { deriveWeather, HOURS, weatherHash, type WeatherYear } from "../climate/index.ts";
import type { Problem, Project } from "../model/index.ts";
import { compile, YearKernel, type CompiledModel, type RunSettings } from "../simulate/index.ts";
import { RunLog } from "./log.ts";
import type { Series, Summary } from "./summary.ts";

/** Raised with every change that moves a result, so that stored runs are not taken for current ones. */
export const CORE_VERSION = "0.1.0";

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

/**
 * Runs a project over its period: compiles, warms up on the preceding days, and yields once a simulated
 * day. A pure function of its arguments (the clock only fills `timing`).
 * @throws ProjectError when the project has errors
 */
export function* runProject(project: Project, weather: WeatherYear, settings: RunSettings, clock: Clock = () => 0): Generator<RunProgress, RunResult, void> {
  const started = clock();
  const model = compile(project, weather, settings.stepsPerHour);
  const compiled = clock();
  const firstDay = settings.period?.firstDay ?? 0;
  const days = settings.period?.days ?? 365;
  const of = days + WARMUP_DAYS;
  const kernel = new YearKernel(model, weather);
  warmStart(kernel, weather, firstDay);
  for (let d = 0; d < WARMUP_DAYS; d++) {
    runDay(kernel, (((firstDay - WARMUP_DAYS + d) % 365) + 365) % 365, null);
    yield { done: d + 1, of, phase: "warm-up" };
  }
  kernel.openBooks();
  const before = kernel.contents();
  const log = new RunLog(model, weather, firstDay, days, settings);
  for (let d = 0; d < days; d++) {
    runDay(kernel, (firstDay + d) % 365, log);
    yield { done: WARMUP_DAYS + d + 1, of, phase: "year" };
  }
  const warnings = [...model.warnings.map((w) => `${w.path}: ${w.message}`), ...runWarnings(kernel)];
  const summary = log.summary(project, closure(kernel, before), warnings, WARMUP_DAYS, { compile: compiled - started, run: clock() - compiled });
  const series = log.series();
  return { summary: { ...summary, fingerprint: seriesHash({ series }) }, series };
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

function runDay(kernel: YearKernel, day: number, log: RunLog | null): void {
  const n = kernel.model.stepsPerHour;
  for (let h = 24 * day; h < 24 * day + 24; h++) {
    for (let k = 0; k < n; k++) {
      kernel.step(h, k);
      if (log) log.take(kernel, h, k);
    }
    if (log) log.closeHour();
  }
}

/** Largest relative residual: of a zone's flows against its air, of an element's heat against its content. */
function closure(kernel: YearKernel, before: Float64Array): number {
  const { books, model } = kernel;
  const after = kernel.contents();
  let worst = 0;
  for (let z = 0; z < model.zones; z++) if (books.zoneGross[z] > 0) worst = Math.max(worst, Math.abs(books.zoneNet[z]) / books.zoneGross[z]);
  for (let i = 0; i < model.elements; i++) {
    const gross = books.elementGross[i];
    if (gross > 0) worst = Math.max(worst, Math.abs(books.elementHeat[i] - (after[i] - before[i])) / gross);
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
    if (books.unsettled[z] > 0) out.push(`zones/${model.zoneIds[z]}: The thermostat search did not settle in ${books.unsettled[z]} steps.`);
  return out;
}
