import { workerData } from "piscina";
import { StudyMaker, type StudyOutcome, type StudyTask } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import type { ToThread } from "./study.ts";

installWebAssembly();
const { document, study, weathers, logged } = workerData as ToThread;
const maker = new StudyMaker(
  document,
  study,
  (hash) => weathers[hash] ?? null,
  () => performance.now() / 1000,
  logged,
);

/** Makes one run in a thread; what runs share stays with it. */
export default (task: StudyTask): StudyOutcome => maker.make(maker.prepare(task));
