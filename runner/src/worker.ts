import type { MessagePort } from "node:worker_threads";
import { runProject, type Project, type RunResult, type RunSettings, type Series, type WeatherYear } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";

installWebAssembly();

/** Share done, and what was computed of the series so far, from an hour on. */
export type FromWorker = { readonly share: number } | { readonly hours: number; readonly from: number; readonly series: readonly Series[] };
interface Task {
  readonly project: Project;
  readonly weather: WeatherYear;
  readonly settings: RunSettings;
  readonly port: MessagePort;
  /** [whether to wait, hour from which the series are wanted next]: shared with the one who asked. */
  readonly gate: Int32Array;
}
/** Series are told this often, ms. */
const TOLD = 1000;

/** One whole run in a worker thread; sends the share done and the series through the port as it goes, and waits while the gate is shut. */
export default function compute({ project, weather, settings, port, gate }: Task): RunResult {
  const run = runProject(project, weather, settings, () => performance.now() / 1000);
  const send = (message: FromWorker): void => port.postMessage(message);
  let told = performance.now();
  for (;;) {
    const step = run.next();
    if (step.done) return step.value;
    const { phase, done, of, soFar } = step.value;
    // the design days before the year are no share of it
    if (phase !== "sizing") send({ share: done / of });
    const shut = Atomics.load(gate, 0) === 1;
    if (soFar && (shut || performance.now() - told > TOLD)) {
      told = performance.now();
      const from = Atomics.load(gate, 1);
      send({ hours: soFar.hours, from, series: soFar.series().map((s) => ({ ...s, values: s.values.slice(from, soFar.hours) })) });
    }
    while (Atomics.load(gate, 0) === 1) Atomics.wait(gate, 0, 1);
  }
}
