/// <reference lib="webworker" />
import { projectWeather, sunStudy, type FaceSun, type Project, type SunPeriod, type StoredYear, yearInView } from "@arroyo/core";

export interface ToSun {
  readonly project: Project;
  readonly stored: StoredYear;
  readonly period: SunPeriod;
}
export type FromSun =
  | { readonly kind: "progress"; readonly share: number }
  | { readonly kind: "result"; readonly rows: readonly FaceSun[]; readonly seconds: number }
  | { readonly kind: "failed"; readonly message: string };

const scope = self as unknown as DedicatedWorkerGlobalScope;

scope.onmessage = (event: MessageEvent<ToSun>) => {
  const { project, stored, period } = event.data;
  const post = (message: FromSun): void => scope.postMessage(message);
  try {
    const weather = projectWeather(project, stored);
    if (!weather) return post({ kind: "failed", message: `The weather year "${yearInView(project).name}" is not at hand.` });
    const began = performance.now();
    const run = sunStudy(project, weather, period);
    let last = began;
    for (;;) {
      const step = run.next();
      if (step.done) return post({ kind: "result", rows: step.value, seconds: (performance.now() - began) / 1000 });
      if (performance.now() - last > 60) {
        last = performance.now();
        post({ kind: "progress", share: step.value.done / step.value.of });
      }
    }
  } catch (error) {
    post({ kind: "failed", message: error instanceof Error ? error.message : String(error) });
  }
};
