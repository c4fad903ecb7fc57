/// <reference lib="webworker" />
import { componentQuantities, deriveWeather, projectWeather, runToEnd, yearInView, type Project, type Sizes, type WeatherYear } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import type { Reply } from "./useFound.ts";

export interface ToComponentYear {
  readonly project: Project;
  readonly storedWeather: WeatherYear | null;
  /** Of the exact year, so that it need not size again; absent: it sizes. */
  readonly sizes?: Sizes | undefined;
}
/** Hourly states of every component over the run: by path, then in the order of `componentQuantities`; air of zones; outdoors. */
export interface ComponentYear {
  readonly firstDay: number;
  readonly leapDays: readonly number[];
  readonly hours: number;
  readonly components: Readonly<Record<string, readonly Float32Array[]>>;
  readonly rooms: Readonly<Record<string, Float32Array>>;
  readonly outdoor: Float32Array;
  readonly outdoorRatio: Float32Array;
}
export type FromComponentYear = Reply<ComponentYear>;

installWebAssembly();
const scope = self as unknown as DedicatedWorkerGlobalScope;

scope.onmessage = (event: MessageEvent<ToComponentYear>) => {
  const { project, storedWeather, sizes } = event.data;
  const reply = (message: FromComponentYear, move: Transferable[] = []): void => scope.postMessage(message, move);
  try {
    const weather = projectWeather(project, storedWeather);
    if (!weather) return reply({ ok: false, message: `The weather year "${yearInView(project).name}" is not at hand.` });
    const names = componentQuantities.map((q) => q.name);
    const { series, summary } = runToEnd(project, weather, { stepsPerHour: project.run.stepsPerHour, series: names, ...(sizes ? { sizes } : {}) });
    const components: Record<string, Float32Array[]> = {};
    const rooms: Record<string, Float32Array> = {};
    for (const s of series) {
      const at = (names as readonly string[]).indexOf(s.quantity);
      if (at >= 0) (components[s.scope] ??= [])[at] = Float32Array.from(s.values);
      else if (s.quantity === "airTemperature") rooms[s.scope] = Float32Array.from(s.values);
    }
    const hours = series[0]?.values.length ?? 0;
    const first = series[0]?.start ?? 0;
    const part = (of: ArrayLike<number>): Float32Array => Float32Array.from({ length: hours }, (_, h) => of[(first + h) % of.length]);
    const result: ComponentYear = {
      firstDay: summary.period.firstDay,
      leapDays: summary.period.leapDays ?? [],
      hours,
      components,
      rooms,
      outdoor: part(weather.dryBulb),
      outdoorRatio: part(deriveWeather(weather).humidityRatio),
    };
    const move = [...Object.values(components).flat(), ...Object.values(rooms), result.outdoor, result.outdoorRatio].map((a) => a.buffer as ArrayBuffer);
    reply({ ok: true, result }, move);
  } catch (error) {
    reply({ ok: false, message: error instanceof Error ? error.message : String(error) });
  }
};
