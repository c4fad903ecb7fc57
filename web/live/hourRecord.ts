/// <reference lib="webworker" />
import { projectWeather, recordHour, yearInView, type HourRecord, type Project, type Sizes, type StoredYear } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import type { Reply } from "./useFound.ts";

export interface ToHourRecord {
  readonly project: Project;
  readonly stored: StoredYear;
  /** Hour of the run, from 0. */
  readonly hour: number;
  readonly sizes?: Sizes | undefined;
}

installWebAssembly();
const scope = self as unknown as DedicatedWorkerGlobalScope;

scope.onmessage = (event: MessageEvent<ToHourRecord>) => {
  const { project, stored, hour, sizes } = event.data;
  const reply = (message: Reply<HourRecord>): void => scope.postMessage(message);
  try {
    const weather = projectWeather(project, stored);
    if (!weather) return reply({ ok: false, message: `The weather year "${yearInView(project).name}" is not at hand.` });
    const run = recordHour(project, weather, { stepsPerHour: project.run.stepsPerHour, ...(sizes ? { sizes } : {}) }, hour);
    for (;;) {
      const step = run.next();
      if (step.done) return reply({ ok: true, result: step.value });
    }
  } catch (error) {
    reply({ ok: false, message: error instanceof Error ? error.message : String(error) });
  }
};
