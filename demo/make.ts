import { mkdirSync, rmSync, writeFileSync } from "node:fs";
import { parseProject, type Project } from "../core/src/index.ts";
import { boxCaseProject, boxCases } from "../core/src/verification/boxCases.ts";
import { clinic } from "./clinic.ts";
import { hall } from "./hall.ts";
import { library } from "./library.ts";
import { exampleStudy } from "./studies.ts";

function write(project: Project, file: string): void {
  const parsed = parseProject(project);
  if (!parsed.ok) throw new Error(parsed.problems.map((p) => `${file}: ${p.path}: ${p.message}`).join("\n"));
  writeFileSync(new URL(file, import.meta.url), JSON.stringify(project, null, 2) + "\n");
}

/** Writes the demo projects and the cases of the test box as the JSON that ships. Run after editing them: node --import tsx demo/make.ts */
for (const project of [library, clinic, hall]) write(project, `./${project.id}.json`);
writeFileSync(new URL("./study.json", import.meta.url), JSON.stringify(exampleStudy, null, 2) + "\n");
const cases = new URL("./verification/", import.meta.url);
rmSync(cases, { recursive: true, force: true });
mkdirSync(cases);
for (const c of boxCases) write(boxCaseProject(c), `./verification/${c.id.replace(/ /g, "-")}.json`);
