/// <reference lib="webworker" />
import { projectWeather, sizeProject, type Project, type Sizing, type StoredYear, yearInView } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import type { Reply } from "./useFound.ts";

export interface ToSizing {
  readonly project: Project;
  readonly stored: StoredYear;
}
export type FromSizing = Reply<Sizing>;

installWebAssembly();
const scope = self as unknown as DedicatedWorkerGlobalScope;

scope.onmessage = (event: MessageEvent<ToSizing>) => {
  const { project, stored } = event.data;
  const reply = (message: FromSizing): void => scope.postMessage(message);
  try {
    const weather = projectWeather(project, stored);
    if (!weather) return reply({ ok: false, message: `The weather year "${yearInView(project).name}" is not at hand.` });
    reply({ ok: true, result: sizeProject(project, weather) });
  } catch (error) {
    reply({ ok: false, message: error instanceof Error ? error.message : String(error) });
  }
};
