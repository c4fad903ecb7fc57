/// <reference lib="webworker" />
import { climateZoneOf, complyProject, packs, projectWeather, type Compliance, type Project, type ScopePart, type WeatherYear, yearInView } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import type { Reply } from "./useFound.ts";

export interface ToCompliance {
  readonly project: Project;
  readonly storedWeather: WeatherYear | null;
  readonly pack: string;
  readonly scope: readonly ScopePart[];
}
export type FromCompliance = Reply<Compliance>;

installWebAssembly();
const scope = self as unknown as DedicatedWorkerGlobalScope;

scope.onmessage = (event: MessageEvent<ToCompliance>) => {
  const { project, storedWeather, pack, scope: parts } = event.data;
  const reply = (message: FromCompliance): void => scope.postMessage(message);
  try {
    const weather = projectWeather(project, storedWeather);
    if (!weather) return reply({ ok: false, message: `The weather year "${yearInView(project).name}" is not at hand.` });
    const zone = String(climateZoneOf(weather));
    if (!packs[pack].climateZones[zone])
      return reply({ ok: false, message: `${packs[pack].name} has no limits for climate zone ${zone}, which this weather belongs to.` });
    reply({ ok: true, result: complyProject(project, weather, packs[pack], parts) });
  } catch (error) {
    reply({ ok: false, message: error instanceof Error ? error.message : String(error) });
  }
};
