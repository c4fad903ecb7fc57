/// <reference lib="webworker" />
import {
  projectWeather,
  runToEnd,
  sizesCover,
  sizesOf,
  sizeProject,
  needsSizes,
  yearInView,
  type Project,
  type RunResult,
  type Sizes,
  type StoredYear,
} from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";

/** Models whose years are wanted; each is told as it is done. */
export interface ToVariants {
  /** The model whose capacities all of them have where they are left to sizing, so that steps tell of the measures and not of sizing. */
  readonly base: Project;
  readonly models: readonly { readonly key: string; readonly project: Project }[];
  readonly stored: StoredYear;
}
export type FromVariants =
  | { readonly kind: "done"; readonly key: string; readonly result: Pick<RunResult, "summary" | "fuel"> }
  | { readonly kind: "failed"; readonly key: string; readonly message: string };

installWebAssembly();
const scope = self as unknown as DedicatedWorkerGlobalScope;

scope.onmessage = (event: MessageEvent<ToVariants>) => {
  const { base, models, stored } = event.data;
  const reply = (message: FromVariants): void => scope.postMessage(message);
  let sizes: Sizes | null = null;
  for (const { key, project } of models)
    try {
      const weather = projectWeather(project, stored);
      if (!weather) throw new Error(`The weather year "${yearInView(project).name}" is not at hand.`);
      if (needsSizes(base)) sizes ??= sizesOf(sizeProject(base, weather));
      const settings = { stepsPerHour: 4, summaryOnly: true, ...(sizes && sizesCover(project, sizes) ? { sizes } : {}) };
      const { summary, fuel } = runToEnd(project, weather, settings, () => performance.now() / 1000);
      reply({ kind: "done", key, result: { summary, fuel } });
    } catch (error) {
      reply({ kind: "failed", key, message: error instanceof Error ? error.message : String(error) });
    }
};
