/// <reference lib="webworker" />
import {
  applyChanges,
  byDifference,
  checkProject,
  daysOf,
  climateZoneOf,
  degreeDays,
  monthlyWeather,
  projectWeather,
  runHash,
  runProject,
  sizesCover,
  sizesOfSummary,
  storedHash,
  yearInView,
  yearParts,
  type LoggedReadings,
  type NamedYear,
  type Project,
  type RunResult,
  type RunSettings,
  type Sizes,
  type Summary,
  type WeatherYear,
} from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import { KeptYears } from "./keptYears.ts";
import type { FromLive, ToLive } from "./messages.ts";

installWebAssembly();
const scope = self as unknown as DedicatedWorkerGlobalScope;
const post = (message: FromLive, transfer: Transferable[] = []): void => scope.postMessage(message, transfer);

let project: Project | null = null;
/** Stored years that were sent, by their content. */
const stored = new Map<string, WeatherYear>();
/** Readings of points that drive inputs, by theirs. */
let logged: LoggedReadings = {};
let made: { of: readonly NamedYear[]; like: readonly unknown[]; weather: WeatherYear } | null = null;
let version = 0;
/** Raised with every message; a run of an older turn stops at its next breath. */
let turn = 0;

/** Above this many zones the estimate runs the short year. */
const MANY_ZONES = 50;

/** Messages are let in this often, and the share done is told this often, first after a moment, ms: drawing it at every breath halved the speed of the year on two cores. */
const BREATH = 24;
const TOLD = 200;
const FIRST_TOLD = 60;

/** Lets waiting messages in. */
const channel = new MessageChannel();
let wake: (() => void) | null = null;
channel.port1.onmessage = () => wake?.();
const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    wake = resolve;
    channel.port2.postMessage(0);
  });

function weather(p: Project): WeatherYear | null {
  const of = yearParts(p);
  // what drives an input is laid out over the project's calendar
  const like = [p.site, p.drives, ...(p.drives ? [p.points, p.calendar, p.zones, p.airSystems, p.loops, p.waterSystems] : [])];
  if (made && like.every((x, i) => x === made?.like[i]) && made.of.length === of.length && of.every((part, i) => part === made?.of[i])) return made.weather;
  const w = projectWeather(p, { weather: stored.get(storedHash(p) ?? "") ?? null, logged });
  if (w) made = { of, like, weather: w };
  return w;
}

let shown: WeatherYear | null = null;
/** Sends the weather's monthly figures once for each year in use. */
function glance(w: WeatherYear): void {
  if (shown === w) return;
  shown = w;
  const days = degreeDays(w, 18, 18);
  post({
    kind: "weather",
    version,
    glance: {
      name: w.name,
      year: w.year ?? null,
      days: daysOf(w).days,
      monthly: monthlyWeather(w),
      heatingDegreeDays: days.heating,
      coolingDegreeDays: days.cooling,
      climateZone: climateZoneOf(w),
      hours: w,
      min: w.dryBulb.reduce((a, b) => Math.min(a, b)),
      max: w.dryBulb.reduce((a, b) => Math.max(a, b)),
    },
  });
}

/** Runs a year of a model to its end, letting messages in; null when a newer turn has begun. */
async function run(
  p: Project,
  w: WeatherYear,
  settings: RunSettings,
  mine: number,
  exact: boolean | null,
): Promise<{ result: RunResult; seconds: number } | null> {
  const began = performance.now();
  const steps = runProject(p, w, settings, () => performance.now() / 1000);
  let last = began;
  let told = began - TOLD + FIRST_TOLD;
  for (;;) {
    const step = steps.next();
    if (step.done) return { result: step.value, seconds: (performance.now() - began) / 1000 };
    const now = performance.now();
    if (now - last > BREATH) {
      last = now;
      if (exact !== null && step.value.phase !== "sizing" && now - told > TOLD) {
        told = now;
        post({ kind: "progress", version, exact, share: step.value.done / step.value.of });
      }
      await breathe();
      if (turn !== mine) return null;
    }
  }
}

/** Days of the short years whose difference gives the first figure. */
const GLIMPSE: RunSettings = { stepsPerHour: 1, summaryOnly: true, shortYear: 24 };

/** Capacities of the last exact year: an estimate takes them where it would have to size anew, which costs it a good part of its time. */
let lastSizes: Sizes | null = null;
/** Settings of an estimate: with the last sizes, where nothing is left to sizing that they lack. */
const estimating = (p: Project, settings: RunSettings): RunSettings => (lastSizes && sizesCover(p, lastSizes) ? { ...settings, sizes: lastSizes } : settings);

/** The last exact year, and the short year of the same model, made when there is nothing else to do. */
let base: { readonly weather: WeatherYear; readonly exact: Summary; readonly short: Summary } | null = null;

/** Posts headline figures by difference, where there is something to differ from; false when a newer turn has begun. */
async function glimpse(p: Project, w: WeatherYear, mine: number): Promise<boolean> {
  if (!base || base.weather !== w || p.run.period !== null) return true;
  const after = await run(p, w, estimating(p, GLIMPSE), mine, null);
  if (!after) return false;
  const summary = byDifference(base.exact, base.short, after.result.summary, p);
  if (summary) post({ kind: "glimpse", version, summary });
  return true;
}

/** Gets ready for the next edit. */
async function prepare(p: Project, w: WeatherYear, exact: Summary, mine: number): Promise<void> {
  if (p.run.period !== null) return;
  lastSizes = sizesOfSummary(exact);
  const short = await run(p, w, estimating(p, GLIMPSE), mine, null);
  if (!short) return;
  base = { weather: w, exact, short: short.result.summary };
  post({ kind: "ready", version });
}

function postExact(result: RunResult, seconds: number, kept: boolean): void {
  post(
    { kind: "result", version, exact: true, seconds, result, kept },
    result.series.map((s) => s.values.buffer as ArrayBuffer),
  );
}

const years = new KeptYears();

async function follow(): Promise<void> {
  const mine = ++turn;
  const p = project;
  if (!p) return;
  try {
    const errors = checkProject(p).problems.filter((x) => x.severity === "error");
    if (errors.length > 0) return post({ kind: "blocked", version, problems: errors });
    const w = weather(p);
    if (!w) return post({ kind: "failed", version, message: `The weather year "${yearInView(p).name}" is not at hand.` });
    glance(w);
    const settings: RunSettings = { stepsPerHour: p.run.stepsPerHour };
    const hash = runHash(p, w, settings);
    const known = await years.find(hash);
    if (turn !== mine) return;
    if (known) {
      const result = { ...known, summary: { ...known.summary, project: p.name } };
      postExact(result, 0, true);
      return await prepare(p, w, result.summary, mine);
    }
    // many zones: the short year first, so that figures follow an edit at once
    const many = Object.keys(p.zones).length > MANY_ZONES;
    if (!(await glimpse(p, w, mine))) return;
    if (many || p.run.stepsPerHour > 1) {
      const about = await run(
        p,
        w,
        estimating(p, { stepsPerHour: 1, summaryOnly: true, ...(many && p.run.period === null ? { shortYear: true } : {}) }),
        mine,
        false,
      );
      if (!about) return;
      post({ kind: "result", version, exact: false, seconds: about.seconds, result: { ...about.result, series: [] } });
    }
    const exact = await run(p, w, settings, mine, true);
    if (!exact) return;
    years.keep(hash, exact.result);
    postExact(exact.result, exact.seconds, false);
    await prepare(p, w, exact.result.summary, mine);
  } catch (error) {
    post({ kind: "failed", version, message: error instanceof Error ? error.message : String(error) });
  }
}

scope.onmessage = (event: MessageEvent<ToLive>) => {
  const message = event.data;
  if (message.kind === "open") {
    project = message.project;
    const hash = storedHash(message.project);
    if (message.stored.weather && hash !== null) stored.set(hash, message.stored.weather);
    logged = { ...logged, ...message.stored.logged };
    version = message.version;
  } else if (project) {
    const applied = applyChanges(project, message.changes);
    version = message.version;
    if (!applied.ok) return post({ kind: "failed", version, message: applied.message });
    project = applied.project;
  }
  void follow();
};
