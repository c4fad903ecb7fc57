import { canonicalJson, hashFloats, hashText, pow } from "../numeric/index.ts";
import { daysOf, deriveWeather, shortYear, weatherHash, weatherProblems, withoutLeapDay, type WeatherYear } from "../climate/index.ts";
import {
  physicsOf,
  COMMON_YEAR,
  dateOfDay,
  dateText,
  dayOfYear,
  isLeapYear,
  keepsLeapDay,
  LEAP_DAY,
  LEAP_YEAR,
  passesLeapDay,
  runDays,
  type Problem,
  type Project,
  type RunDays,
  type YearDays,
  quantity,
} from "../model/index.ts";
import { dayKinds } from "../use/index.ts";
import { compile, YearKernel, type CompiledModel, type RunSettings, type Sizes } from "../simulate/index.ts";
import { FuelMeter, type FuelHours } from "../run/index.ts";
import { RunLog, type Covered } from "./log.ts";
import { needsSizes, sizesOf, sizingSteps } from "./sizing.ts";
import type { Series, Summary } from "./summary.ts";

/** Raised with every change that moves a result, so that stored runs are not taken for current ones. */
export const CORE_VERSION = "0.9.2";

export interface RunProgress {
  /** Simulated days done of all, warm-up included. */
  readonly done: number;
  readonly of: number;
  readonly phase: "sizing" | "warm-up" | "year";
  /** The series as far as they are computed: so many of their hours; absent before the first. The arrays go on being written. */
  readonly soFar?: { readonly hours: number; series(): readonly Series[] };
}

export interface RunResult {
  readonly summary: Summary;
  readonly series: readonly Series[];
  /** Fuel hour by hour, from which cost and carbon follow under any prices. */
  readonly fuel: FuelHours;
}

/** The driver's clock, s; the core has none of its own. */
export type Clock = () => number;
/** Looks on after every step of the run. @param hour of the run, from 0 @param hourOfYear of the weather year @param year of the run, from 0 */
export type Observer = (kernel: YearKernel, hour: number, step: number, hourOfYear: number, year: number) => void;

const WARMUP_DAYS = 25;
/** Start error assumed for the estimate of what is left of it after the warm-up, K. */
const START_ERROR = 3;
const START_TOLERANCE = 0.05;

/** Name of a run: the content of project, weather and settings, and the version of the core. */
export function runHash(project: Project, weather: WeatherYear, settings: RunSettings): string {
  return hashText(canonicalJson([CORE_VERSION, physicsOf(project), weatherHash(weather), settings]));
}

/** Hash of every value of every series, to the bit. */
export function seriesHash(result: Pick<RunResult, "series">): string {
  return hashFloats(result.series.map((s) => s.values));
}

/** Days before each representative day of a short year that bring its states there. */
const LEAD_DAYS = 3;

const daysOfFirstYear = (project: Project, year: YearDays): number => (passesLeapDay(project.calendar, year) ? COMMON_YEAR.days : year.days);

/**
 * First day of the weather year, from 0, and number of days a run covers: asked for, else the project's own period, else the year, which
 * has 366 days where weather and calendar both have 29 February.
 */
export function periodOf(project: Project, settings: RunSettings, year: YearDays): { first: number; days: number } {
  const whole = { first: 0, days: daysOfFirstYear(project, year) };
  if (settings.shortYear) return whole;
  if (settings.period) return { first: dayOfYear(...dateOfDay(settings.period.firstDay), year), days: settings.period.days };
  const { period } = project.run;
  return period ? { first: dayOfYear(...period.from, year), days: period.days } : whole;
}

/** The day some days before one of the calendar's first year. */
function dayBefore(calendar: Project["calendar"], year: YearDays, day: number, back: number): number {
  let d = day;
  for (let i = 0; i < back; i++) {
    d = (d + year.days - 1) % year.days;
    if (d === LEAP_DAY && passesLeapDay(calendar, year)) d--;
  }
  return d;
}

/** Where calendar and weather are not of the same year: weekdays, holidays or 29 February are not those of the weather's days. */
function calendarWarnings(project: Project, weather: WeatherYear, days: RunDays): Problem[] {
  const { year } = project.calendar;
  if (typeof year !== "number") return [];
  const out: Problem[] = [];
  const tell = (message: string): void => void out.push({ code: "calendar", severity: "warning", stage: "place", path: "calendar/year", message });
  if (weather.year !== undefined && weather.year !== year)
    tell(`The weather was measured in ${weather.year} and the calendar names ${year}: weekdays and holidays are not those of its days.`);
  const measured = daysOf(weather) === LEAP_YEAR;
  const passing = new Set(Array.from(days.year.keys()).flatMap((d) => (days.day[d] === LEAP_DAY - 1 && d + 1 < days.day.length ? [year + days.year[d]] : [])));
  for (const y of passing)
    if (isLeapYear(y) && !measured) tell(`${y} has a 29 February and the weather year has none: the day is left out, and the weekdays go on past it.`);
    else if (!isLeapYear(y) && measured) tell(`The weather's 29 February is left out in ${y}, which has none.`);
  return out;
}

/** The weather a run takes: without its 29 February where no year of the run has one; a broken one as it is, to be told by its own hours. */
export function weatherOfRun(project: Project, settings: RunSettings, weather: WeatherYear): WeatherYear {
  if (weatherProblems(weather).length > 0) return weather;
  const { first, days } = periodOf(project, settings, daysOf(weather));
  const years = Math.ceil((first + days) / COMMON_YEAR.days);
  for (let y = 0; y < years; y++) if (keepsLeapDay(project.calendar, y)) return weather;
  return withoutLeapDay(weather);
}

/**
 * Runs a project over its period, or over the weighted days of a short year: compiles, warms up on the
 * preceding days, and yields once a simulated day. A pure function of its arguments (the clock only fills `timing`; an observer changes nothing).
 * @throws ProjectError when the project or the weather has errors, RunError when a temperature is lost on the way
 */
export function* runProject(
  project: Project,
  given: WeatherYear,
  settings: RunSettings,
  clock: Clock = () => 0,
  observe: Observer | null = null,
): Generator<RunProgress, RunResult, void> {
  const started = clock();
  const weather = weatherOfRun(project, settings, given);
  const year = daysOf(weather);
  const asked = periodOf(project, settings, year);
  const hours = Math.max(1, Math.round(24 * asked.days));
  const whole = Math.ceil(hours / 24);
  const days = runDays(project.calendar, year, asked.first, whole);
  const years = days.year[whole - 1] + 1;
  let sizes: Sizes | null = settings.sizes ?? null;
  const sizingWarnings: string[] = [];
  if (!sizes && needsSizes(project)) {
    const steps = sizingSteps(project, given);
    for (;;) {
      const step = steps.next();
      if (step.done) {
        sizes = sizesOf(step.value);
        sizingWarnings.push(...step.value.warnings);
        break;
      }
      yield { ...step.value, phase: "sizing" };
    }
  }
  const sized = clock();
  const model = compile(project, weather, settings.stepsPerHour, clock, settings.furtherVectors ? { further: settings.furtherVectors } : {}, years, sizes);
  const compiled = clock();
  const short = settings.shortYear
    ? shortYear(
        weather,
        typeof settings.shortYear === "number" ? settings.shortYear : project.run.shortYear,
        Array.from(dayKinds(project.calendar, 0, year), (k) => k < 5),
      )
    : null;
  const kernel = new YearKernel(model, weather);
  const first = short ? short.days[0].day : days.day[0];
  warmStart(kernel, weather, first);
  const of = WARMUP_DAYS + (short ? short.days.length * (1 + LEAD_DAYS) : whole);
  let done = 0;
  const before = (day: number, back: number): number => dayBefore(project.calendar, year, day, back);
  for (let d = WARMUP_DAYS; d > 0; d--) {
    runDay(kernel, before(first, d), null);
    yield { done: ++done, of, phase: "warm-up" };
  }
  kernel.openBooks();
  const contents = kernel.contents();
  const covered: Covered = {
    ...asked,
    columns: short ? short.days.length : asked.days,
    wholeYear: asked.first === 0 && asked.days === daysOfFirstYear(project, year),
    leapDays: year === LEAP_YEAR ? Array.from(days.day.keys()).filter((d) => days.day[d] === LEAP_DAY) : [],
  };
  const meter = new FuelMeter(project, model, covered.columns);
  const log = new RunLog(model, weather, covered, settings, meter);
  if (short)
    for (const { day, weight } of short.days) {
      for (let d = LEAD_DAYS; d > 0; d--) {
        runDay(kernel, before(day, d), null);
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
      const day = days.day[d];
      runDay(kernel, day, log, days.year[d], Math.min(24, hours - 24 * d), observe ? { look: observe, first: 24 * d } : null);
      if (d === whole - 1 || year.monthOfDay[day] !== year.monthOfDay[days.day[d + 1]]) log.takeSums(kernel, 24 * day);
      yield { done: ++done, of, phase: "year", soFar: { hours: Math.min(hours, 24 * (d + 1)), series: () => log.series() } };
    }
  }
  const residual = closure(kernel, contents);
  const warnings = [
    ...[...model.warnings, ...calendarWarnings(project, given, days)].map((w) => `${w.path}: ${w.message}`),
    ...sizingWarnings,
    ...runWarnings(kernel, log, residual),
  ];
  const sum = (a: Int32Array): number => a.reduce((s, v) => s + v, 0);
  const summary = log.summary(project, {
    closure: residual,
    waterClosure: waterClosure(kernel),
    sized: { ...(sizes?.components ?? {}) },
    warnings,
    weather: weatherHash(given),
    warmupDays: WARMUP_DAYS,
    shortYear: short ? { days: [...short.days], expected: short.expected } : null,
    counted: {
      unsettled: sum(kernel.books.unsettled),
      unconverged: sum(kernel.books.unconverged),
      steps: model.stepsPerHour * (short ? 24 * short.days.length : hours),
    },
    timing: { sizing: sized - started, compile: compiled - sized, run: clock() - compiled, cast: model.castSeconds, recast: model.recast, kernel: kernel.kind },
  });
  const series = log.series();
  return { summary: { ...summary, fingerprint: settings.summaryOnly ? "" : seriesHash({ series }) }, series, fuel: meter.result() };
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
  const { hours } = daysOf(weather);
  let t = 0;
  let w = 0;
  for (let h = 1; h <= 720; h++) {
    const hour = (((firstDay * 24 - h) % hours) + hours) % hours;
    t += weather.dryBulb[hour] / 720;
    w += derived.humidityRatio[hour] / 720;
  }
  kernel.start(t, 20, w);
}

function runDay(
  kernel: YearKernel,
  day: number,
  log: RunLog | null,
  year = 0,
  hours = 24,
  observer: { readonly look: Observer; /** Hour of the run at which the day begins. */ readonly first: number } | null = null,
): void {
  const n = kernel.model.stepsPerHour;
  for (let h = 24 * day; h < 24 * day + hours; h++) {
    for (let k = 0; k < n; k++) {
      kernel.step(h, k, year);
      if (log) log.take(kernel, h, k);
      observer?.look(kernel, observer.first + h - 24 * day, k, h, year);
    }
    if (log) log.closeHour(kernel, h, year);
  }
}

/** Heat below which a residual is rounding and nothing else, J over the run. */
const LEAST_GROSS = 1;

/** Water below which a residual is rounding and nothing else, kg over the run. */
const LEAST_WATER = 1e-6;

/** Largest relative residual of a zone's flows of water against its air, step by step. */
function waterClosure(kernel: YearKernel): number {
  const { books, model } = kernel;
  let worst = 0;
  for (let z = 0; z < model.zones; z++) if (books.waterGross[z] > LEAST_WATER) worst = Math.max(worst, books.waterResidual[z] / books.waterGross[z]);
  return worst;
}

/** Largest relative residual: of a zone's flows against its air, step by step; of an element's heat against its content. */
function closure(kernel: YearKernel, before: Float64Array): number {
  const { books, model } = kernel;
  const after = kernel.contents();
  let worst = 0;
  for (let z = 0; z < model.zones; z++) if (books.zoneGross[z] > LEAST_GROSS) worst = Math.max(worst, books.zoneResidual[z] / books.zoneGross[z]);
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
      message: `After ${WARMUP_DAYS} days of warm-up a face of ${model.zoneNames[zone]} may still be ${quantity(worst, "K", 2)} off from its start.`,
    },
  ];
}

/** A closure above this is told: the books have a fault. */
const CLOSED = 1e-8;
/** Water that condenses in a zone over a run, kg, and hours above 80 %, from which they are told. */
const TOLD_WATER = 1;
/** Heat beyond its sources from which a loop is told, J. */
const TOLD_HEAT = 3.6e6;
const TOLD_HUMID = 200;
/** Share of the heat of hot water that is missing, from which it is told. */
const TOLD_COLD = 0.01;

function runWarnings(kernel: YearKernel, log: RunLog, residual: number): string[] {
  const { model, books } = kernel;
  const out = slowFaces(model).map((p) => `${p.path}: ${p.message}`);
  const wet = waterClosure(kernel);
  if (residual > CLOSED) out.push(`The energy balance closes only to ${residual.toExponential(1)} of what flows: figures of this run are in doubt.`);
  if (wet > CLOSED) out.push(`The moisture balance closes only to ${wet.toExponential(1)} of what flows: humidities of this run are in doubt.`);
  log.damp((zone, water, hours) => {
    if (water > TOLD_WATER)
      out.push(
        `zones/${model.zoneIds[zone]}: The air of ${model.zoneNames[zone]} would stand above saturation; ${quantity(water, "kg", 0)} of water condensed.`,
      );
    else if (hours > TOLD_HUMID)
      out.push(`zones/${model.zoneIds[zone]}: The air of ${model.zoneNames[zone]} is above 80 % humidity for ${Math.round(hours)} hours.`);
  });
  for (const x of log.waterSystems()) {
    const [wanted, unmet] = [x.wanted, x.unmet].map((a) => a.reduce((s, v) => s + v, 0));
    if (wanted > 0 && unmet > TOLD_COLD * wanted)
      out.push(
        `waterSystems/${x.id}: ${x.name} leaves ${quantity((100 * unmet) / wanted, "%", 0)} of the heat wanted at the taps unmet: its water is too cold in ${Math.round(x.coldHours)} hours.`,
      );
    if (x.closure > CLOSED) out.push(`waterSystems/${x.id}: The balance of ${x.name} closes only to ${x.closure.toExponential(1)} of what flows.`);
  }
  kernel.state.services?.owed.forEach((heat, l) => {
    const c = model.services?.components[model.services.loops[l].component];
    if (c && heat > TOLD_HEAT) out.push(`${c.path.join("/")}: ${c.name} gave ${quantity(heat / 3.6e6, "kWh", 0)} more than its sources had.`);
  });
  for (let z = 0; z < model.zones; z++)
    if (books.unsettled[z] > 0)
      out.push(`zones/${model.zoneIds[z]}: The thermostat search of ${model.zoneNames[z]} did not settle in ${books.unsettled[z]} steps.`);
  const { air } = kernel.state;
  if (air) {
    const failed = Array.from(air.failures.keys()).filter((z) => air.failures[z] > 0);
    for (const z of failed)
      out.push(`zones/${model.zoneIds[z]}: The airflow did not settle in ${air.failures[z]} steps, with ${model.zoneNames[z]} furthest from its balance.`);
    if (failed.length > 0)
      out.push(
        `airNetwork: The first step whose airflow did not settle lies on ${dateText(...dateOfDay(Math.floor(air.firstFailure / 24), model.year))}, hour ${(air.firstFailure % 24) + 1}.`,
      );
  }
  for (let z = 0; z < model.zones; z++)
    if (books.unconverged[z] > 0)
      out.push(`zones/${model.zoneIds[z]}: The radiant exchange of ${model.zoneNames[z]} had not converged to 0.01 W/m² in ${books.unconverged[z]} steps.`);
  return out;
}
