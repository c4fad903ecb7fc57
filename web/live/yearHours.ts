/// <reference lib="webworker" />
import { projectWeather, type Project, type StoredYear, type WeatherYear } from "@arroyo/core";
import type { Reply } from "./useFound.ts";

export interface ToYearHours {
  readonly project: Project;
  readonly year: string;
  readonly stored: StoredYear;
}

const scope = self as unknown as DedicatedWorkerGlobalScope;
scope.onmessage = (event: MessageEvent<ToYearHours>) => {
  const { project, year, stored } = event.data;
  const reply = (message: Reply<WeatherYear>): void => scope.postMessage(message);
  try {
    const w = projectWeather(project, stored, year);
    reply(w ? { ok: true, result: w } : { ok: false, message: `The weather year "${project.weathers[year]?.name ?? year}" is not at hand.` });
  } catch (error) {
    reply({ ok: false, message: error instanceof Error ? error.message : String(error) });
  }
};
