import { writeFileSync } from "node:fs";
import { figuresKept, nextTasks, parseProject, StudyMaker, type Study } from "../core/src/index.ts";
import { installWebAssembly } from "../adapters/src/stepKernel.ts";
import { library } from "./library.ts";

/** Writes the runs of the library's study, which ships finished. Run after editing it, or what its figures depend on: node --import tsx demo/makeStudy.ts */
installWebAssembly();
const parsed = parseProject(JSON.parse(JSON.stringify(library)));
if (!parsed.ok) throw new Error(parsed.problems.map((p) => `${p.path}: ${p.message}`).join("\n"));
const { project } = parsed;
const study = project.studies?.envelope as Study;
const maker = new StudyMaker(
  project,
  study,
  () => null,
  () => performance.now() / 1000,
);
const rows = nextTasks(project, study, []).map((task) => {
  const prepared = maker.prepare(task);
  const { figures, error, seconds } = maker.make(prepared);
  if (error !== null) throw new Error(`run ${task.index}: ${error}`);
  return { ...task, hash: prepared.ok ? prepared.key : null, seconds: Number(seconds.toFixed(3)), figures, error };
});
const lines = rows.map((r) => `    ${JSON.stringify(r)}`).join(",\n");
writeFileSync(
  new URL("./library-study.json", import.meta.url),
  `{\n  "keys": ${JSON.stringify(figuresKept(project, study).map((f) => f.key))},\n  "rows": [\n${lines}\n  ]\n}\n`,
);
