/// <reference lib="webworker" />
import {
  applyChanges,
  checkProject,
  daysOf,
  degreeDays,
  monthlyWeather,
  projectWeather,
  runProject,
  type Project,
  type RunSettings,
  type WeatherYear,
} from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import type { FromLive, ToLive } from "./messages.ts";

installWebAssembly();
const scope = self as unknown as DedicatedWorkerGlobalScope;
const post = (message: FromLive, transfer: Transferable[] = []): void => scope.postMessage(message, transfer);

let project: Project | null = null;
let stored: WeatherYear | null = null;
let made: { of: Project["weather"]; site: Project["site"]; weather: WeatherYear } | null = null;
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
  if (p.weather.kind === "stored") return stored;
  if (made?.of === p.weather && made.site === p.site) return made.weather;
  const w = projectWeather(p);
  if (w) made = { of: p.weather, site: p.site, weather: w };
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
      min: w.dryBulb.reduce((a, b) => Math.min(a, b)),
      max: w.dryBulb.reduce((a, b) => Math.max(a, b)),
    },
  });
}

/** Runs the year at one length of step; false when a newer turn has begun. */
async function year(p: Project, w: WeatherYear, settings: RunSettings, mine: number, exact: boolean): Promise<boolean> {
  const began = performance.now();
  const run = runProject(p, w, settings, () => performance.now() / 1000);
  let last = began;
  let told = began - TOLD + FIRST_TOLD;
  for (;;) {
    const step = run.next();
    if (step.done) {
      const { result, transfer } = exact
        ? { result: step.value, transfer: step.value.series.map((s) => s.values.buffer) }
        : { result: { ...step.value, series: [] }, transfer: [] };
      post({ kind: "result", version, exact, seconds: (performance.now() - began) / 1000, result }, transfer as ArrayBuffer[]);
      return true;
    }
    const now = performance.now();
    if (now - last > BREATH) {
      last = now;
      if (now - told > TOLD) {
        told = now;
        post({ kind: "progress", version, exact, share: step.value.done / step.value.of });
      }
      await breathe();
      if (turn !== mine) return false;
    }
  }
}

async function follow(): Promise<void> {
  const mine = ++turn;
  const p = project;
  if (!p) return;
  try {
    const errors = checkProject(p).problems.filter((x) => x.severity === "error");
    if (errors.length > 0) return post({ kind: "blocked", version, problems: errors });
    const w = weather(p);
    if (!w) return post({ kind: "failed", version, message: `The weather year "${p.weather.name}" is not at hand.` });
    glance(w);
    // many zones: the short year first, so that figures follow an edit at once
    const many = Object.keys(p.zones).length > MANY_ZONES;
    if (
      (many || p.run.stepsPerHour > 1) &&
      !(await year(p, w, { stepsPerHour: 1, summaryOnly: true, ...(many && p.run.period === null ? { shortYear: true } : {}) }, mine, false))
    )
      return;
    await year(p, w, { stepsPerHour: p.run.stepsPerHour }, mine, true);
  } catch (error) {
    post({ kind: "failed", version, message: error instanceof Error ? error.message : String(error) });
  }
}

scope.onmessage = (event: MessageEvent<ToLive>) => {
  const message = event.data;
  if (message.kind === "open") {
    project = message.project;
    stored = message.storedWeather ?? stored;
    version = message.version;
  } else if (project) {
    const applied = applyChanges(project, message.changes);
    version = message.version;
    if (!applied.ok) return post({ kind: "failed", version, message: applied.message });
    project = applied.project;
  }
  void follow();
};
