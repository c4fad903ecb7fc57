import { existsSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { MOST_BYTES, readGbxml, writeGbxml, type ReadOutcome } from "@arroyo/adapters";
import { readIfc } from "@arroyo/adapters/ifc";
import { checkProject, exportBuilding, freeId, importBuilding, parseProject, ProjectError, starterContext, type Problem, type Project } from "@arroyo/core";

/** One line of a problem. */
export const line = (p: Pick<Problem, "severity" | "path" | "message">): string => `${p.severity}: ${p.path ? `${p.path}: ` : ""}${p.message}`;

const refused = (file: string, message: string): ProjectError => new ProjectError([{ code: "import", severity: "error", path: file, message, stage: "form" }]);

/** Reads a gbXML or IFC file into a project, prints its report and what is left to match, and writes the project. @throws ProjectError when it cannot be read; nothing is written then */
export async function importFile(file: string, out: string, matches: Readonly<Record<string, string>>): Promise<void> {
  if (!existsSync(file)) throw refused(file, "There is no such file.");
  if (statSync(file).size > MOST_BYTES) throw refused(file, `The file is larger than ${MOST_BYTES / 1024 / 1024} MB; export a part of the building.`);
  const bytes = readFileSync(file);
  const outcome: ReadOutcome = bytes.subarray(0, 200).toString("latin1").includes("ISO-10303-21") ? await readIfc(bytes) : readGbxml(bytes.toString("utf8"));
  if (!outcome.ok) throw refused(file, outcome.message);
  const { project, report, matching } = importBuilding(outcome.records, starterContext, freeId({}, outcome.records.name), matches);
  for (const m of report) console.log(`${m.kind}${m.affects ? " (changes the result)" : ""}: ${m.text}`);
  const open = matching.filter((m) => m.chosen === null);
  if (open.length > 0) {
    console.log("to match, with --match KEY=ID (several with commas):");
    for (const m of open) console.log(`  ${m.key} · ${m.count} times · ${m.options.map((o) => o.id).join(", ")}`);
  }
  const sound = parseProject(project);
  if (!sound.ok) throw new ProjectError(sound.problems);
  const { problems } = checkProject(project);
  for (const p of problems) console.log(line(p));
  console.log(problems.length === 0 ? "The checks find no problem." : `The checks find ${problems.length} problems.`);
  writeFileSync(out, `${JSON.stringify(project, null, 2)}\n`);
}

/** Writes a project as gbXML. */
export function exportFile(project: Project, out: string): void {
  writeFileSync(out, writeGbxml(exportBuilding(project)));
}
