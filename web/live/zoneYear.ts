/// <reference lib="webworker" />
import { deriveWeather, projectWeather, runToEnd, yearInView, zoneQuantities, type Project, type Sizes, type WeatherYear } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import type { Reply } from "./useFound.ts";

export interface ToZoneYear {
  readonly project: Project;
  readonly storedWeather: WeatherYear | null;
  /** Of the exact year, so that it need not size again; absent: it sizes. */
  readonly sizes?: Sizes | undefined;
}
/** Hourly means of every quantity of every zone over the run, by quantity and zone; outdoors beside them. */
export interface ZoneYear {
  readonly firstDay: number;
  readonly leapDays: readonly number[];
  readonly hours: number;
  readonly zones: Readonly<Record<string, Readonly<Record<string, Float32Array>>>>;
  readonly outdoor: Float32Array;
  readonly outdoorRatio: Float32Array;
}
export type FromZoneYear = Reply<ZoneYear>;

installWebAssembly();
const scope = self as unknown as DedicatedWorkerGlobalScope;

scope.onmessage = (event: MessageEvent<ToZoneYear>) => {
  const { project, storedWeather, sizes } = event.data;
  const reply = (message: FromZoneYear, move: Transferable[] = []): void => scope.postMessage(message, move);
  try {
    const weather = projectWeather(project, storedWeather);
    if (!weather) return reply({ ok: false, message: `The weather year "${yearInView(project).name}" is not at hand.` });
    const names = zoneQuantities.map((q) => q.name);
    const { series, summary } = runToEnd(project, weather, { stepsPerHour: project.run.stepsPerHour, series: names, ...(sizes ? { sizes } : {}) });
    const zones: Record<string, Record<string, Float32Array>> = {};
    for (const s of series) if ((names as readonly string[]).includes(s.quantity)) (zones[s.quantity] ??= {})[s.scope] = Float32Array.from(s.values);
    const hours = series[0]?.values.length ?? 0;
    const first = series[0]?.start ?? 0;
    const part = (of: ArrayLike<number>): Float32Array => Float32Array.from({ length: hours }, (_, h) => of[(first + h) % of.length]);
    const result: ZoneYear = {
      firstDay: summary.period.firstDay,
      leapDays: summary.period.leapDays ?? [],
      hours,
      zones,
      outdoor: part(weather.dryBulb),
      outdoorRatio: part(deriveWeather(weather).humidityRatio),
    };
    const move = [...Object.values(zones).flatMap((z) => Object.values(z)), result.outdoor, result.outdoorRatio].map((a) => a.buffer as ArrayBuffer);
    reply({ ok: true, result }, move);
  } catch (error) {
    reply({ ok: false, message: error instanceof Error ? error.message : String(error) });
  }
};
