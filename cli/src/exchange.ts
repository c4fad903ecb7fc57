import path from "node:path";
import { MOST_BYTES, readGbxml, writeGbxml, type ReadOutcome } from "@arroyo/adapters";
import { readIfc } from "@arroyo/adapters/ifc";
import { checkProject, exportBuilding, freeId, parseProject, ProjectError, starterContext, tryImport, type Problem, type Project } from "@arroyo/core";
import { fileToWrite, line, readBytes, UsageError, write, type Terminal } from "./files.ts";

const refused = (file: string, message: string): ProjectError =>
  new ProjectError([{ code: "import", severity: "error", path: path.basename(file), message, stage: "form" } satisfies Problem]);

/** Choices of the matching sheet from KEY=ID texts; a key may hold any character, an id no "=". @throws UsageError */
export function matchesOf(texts: readonly string[]): Record<string, string> {
  return Object.fromEntries(
    texts.map((text): [string, string] => {
      const at = text.lastIndexOf("=");
      if (at < 1 || at === text.length - 1) throw new UsageError(`--match takes KEY=ID, not "${text}".`);
      return [text.slice(0, at).trim(), text.slice(at + 1).trim()];
    }),
  );
}

/**
 * Reads a gbXML or IFC file into a project, prints its report and what is left to match, and writes the project.
 * @throws ProjectError when it cannot be read, UsageError for a match the file has no row or the row no choice for; nothing is written then
 */
export async function importFile(file: string, out: string, matches: Readonly<Record<string, string>>, terminal: Terminal): Promise<void> {
  fileToWrite(out);
  const bytes = readBytes(file, MOST_BYTES);
  const outcome: ReadOutcome = bytes.subarray(0, 200).toString("latin1").includes("ISO-10303-21") ? await readIfc(bytes) : readGbxml(bytes.toString("utf8"));
  if (!outcome.ok) throw refused(file, outcome.message);
  const made = tryImport(outcome.records, starterContext, freeId({}, outcome.records.name), matches);
  if (!made.ok) throw refused(file, made.message);
  const { project, report, matching } = made.outcome;
  for (const [key, id] of Object.entries(matches)) {
    const row = matching.find((m) => m.key === key);
    if (!row)
      throw new UsageError(
        `The file has nothing to match as "${key}"; it has ${matching.map((m) => `"${m.key}"`).join(", ") || "nothing"}. Give --match once for each.`,
      );
    if (!row.options.some((o) => o.id === id))
      throw new UsageError(`"${key}" cannot be matched with "${id}"; choose from ${row.options.map((o) => o.id).join(", ")}.`);
  }
  for (const m of report) terminal.out(`${m.kind}${m.affects ? " (changes the result)" : ""}: ${m.text}`);
  const open = matching.filter((m) => m.chosen === null);
  if (open.length > 0) {
    terminal.out("to match, with --match KEY=ID for each:");
    for (const m of open) terminal.out(`  ${m.key} · ${m.count} times · ${m.options.map((o) => o.id).join(", ")}`);
  }
  const sound = parseProject(project);
  if (!sound.ok) throw new ProjectError(sound.problems);
  const { problems } = checkProject(project);
  for (const p of problems) terminal.out(line(p));
  terminal.out(problems.length === 0 ? "The checks find no problem." : `The checks find ${problems.length} ${problems.length === 1 ? "problem" : "problems"}.`);
  write(out, `${JSON.stringify(project, null, 2)}\n`);
}

/** Writes a project as gbXML. */
export function exportFile(project: Project, out: string): void {
  write(out, writeGbxml(exportBuilding(project)));
}
