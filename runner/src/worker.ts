import type { MessagePort } from "node:worker_threads";
import { runProject, type Project, type RunResult, type RunSettings, type WeatherYear } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";

installWebAssembly();

/** One whole run in a worker thread; sends the share done through the port. */
export default function compute(task: { project: Project; weather: WeatherYear; settings: RunSettings; port: MessagePort }): RunResult {
  const run = runProject(task.project, task.weather, task.settings, () => performance.now() / 1000);
  for (;;) {
    const step = run.next();
    if (step.done) return step.value;
    // the design days before the year are no share of it
    if (step.value.phase !== "sizing") task.port.postMessage(step.value.done / step.value.of);
  }
}
