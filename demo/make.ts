import { writeFileSync } from "node:fs";
import { parseProject } from "../core/src/index.ts";
import { clinic } from "./clinic.ts";
import { library } from "./library.ts";

/** Writes the demo projects as the JSON that ships. Run after editing them: npm run demo:make */
for (const project of [library, clinic]) {
  const parsed = parseProject(project);
  if (!parsed.ok) throw new Error(parsed.problems.map((p) => `${p.path}: ${p.message}`).join("\n"));
  writeFileSync(new URL(`./${project.id}.json`, import.meta.url), JSON.stringify(project, null, 2) + "\n");
}
