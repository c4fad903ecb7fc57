/// <reference lib="webworker" />
import { projectWeather, screen, yearInView, type Influence, type Project, type Screening, type Sizes, type StoredYear } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";

export interface ToWhatMatters {
  readonly project: Project;
  readonly stored: StoredYear;
  readonly influences: readonly Influence[];
  /** Points that influences are moved from. */
  readonly bases: number;
  /** Capacities as they are now. */
  readonly sizes?: Sizes | undefined;
}
export type FromWhatMatters =
  { readonly kind: "so far"; readonly screening: Screening; readonly seconds: number } | { readonly kind: "failed"; readonly message: string };

installWebAssembly();
const scope = self as unknown as DedicatedWorkerGlobalScope;
/** What is known is told this often, ms. */
const TOLD = 400;

scope.onmessage = (event: MessageEvent<ToWhatMatters>) => {
  const { project, stored, influences, bases, sizes } = event.data;
  const reply = (message: FromWhatMatters): void => scope.postMessage(message);
  try {
    const weather = projectWeather(project, stored);
    if (!weather) return reply({ kind: "failed", message: `The weather year "${yearInView(project).name}" is not at hand.` });
    const began = performance.now();
    const run = screen(project, weather, influences, bases, { stepsPerHour: 1, summaryOnly: true, shortYear: 12, ...(sizes ? { sizes } : {}) });
    let told = 0;
    for (;;) {
      const step = run.next();
      const now = performance.now();
      const seconds = (now - began) / 1000;
      if (step.done) return reply({ kind: "so far", screening: step.value, seconds });
      if (step.value && now - told > TOLD) {
        told = now;
        reply({ kind: "so far", screening: step.value, seconds });
      }
    }
  } catch (error) {
    reply({ kind: "failed", message: error instanceof Error ? error.message : String(error) });
  }
};
