import path from "node:path";
import { parseArgs } from "node:util";
import {
  certificateReport,
  complianceInput,
  compliancePaths,
  complySubmission,
  exportBuilding,
  isOpen,
  packsOf,
  parsePack,
  ProjectError,
  readJson,
  reportHtml,
  reportMarkdown,
  scopeParts,
  sizedReference,
  submissionOf,
  verdict,
  type CompliancePath,
  type Pack,
  type Project,
  type ScopePart,
} from "@arroyo/core";
import { writeGbxml } from "@arroyo/adapters";
import { reportDocx } from "@arroyo/adapters/docx";
import { fileToWrite, folderToWrite, readText, UsageError, write, type Terminal } from "./files.ts";
import { readProject, weatherOf, withOption } from "./project.ts";

/** Checks a project against a pack: writes the result, the reference building, the certificate. */
export async function complyCommand(args: string[], terminal: Terminal): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      pack: { type: "string" },
      path: { type: "string" },
      parts: { type: "string" },
      zone: { type: "string" },
      option: { type: "string" },
      weather: { type: "string" },
      out: { type: "string" },
      "export-reference": { type: "string" },
      certificate: { type: "string" },
    },
  });
  const { out, "export-reference": reference, certificate } = values;
  if (out === undefined && reference === undefined && certificate === undefined)
    throw new UsageError("Say what to write: --out DIR, --export-reference FILE.json or FILE.xml, --certificate FILE.docx.");
  const chosen = values.path as CompliancePath | undefined;
  if (chosen !== undefined && !compliancePaths.includes(chosen)) throw new UsageError(`--path is ${compliancePaths.join(" or ")}, not "${chosen}".`);
  const parts = values.parts?.split(",") as ScopePart[] | undefined;
  const odd = parts?.find((p) => !scopeParts.includes(p));
  if (odd !== undefined) throw new UsageError(`--parts are of ${scopeParts.join(", ")}; "${odd}" is none.`);
  if (certificate !== undefined && !/\.(docx|html|md)$/.test(certificate)) throw new UsageError("A certificate is a .docx, .html or .md file.");
  if (positionals.length !== 1) throw new UsageError("Name one project file.");
  const project = withOption(readProject(positionals[0]), values.option, terminal);
  const pack = packNamed(values.pack, project);
  const weather = weatherOf(project, values.weather);
  const outcome = submissionOf(project, weather, {
    with: pack,
    ...(chosen ? { path: chosen } : {}),
    ...(parts ? { parts } : {}),
    ...(values.zone === undefined ? {} : { climateZone: values.zone }),
  });
  if (!outcome.ok) {
    const [path, ...message] = outcome.message.split(": ");
    throw new ProjectError([{ code: "pack", severity: "error", stage: "place", path, message: message.join(": ") }]);
  }
  const { submission } = outcome;
  if (out !== undefined) folderToWrite(out);
  for (const file of [reference, certificate]) if (file !== undefined) fileToWrite(file);
  if (reference !== undefined) {
    // no year is needed for it, only the sizes that its values depend on
    const made = sizedReference(project, weather, submission).project;
    write(
      reference,
      reference.endsWith(".xml") ? writeGbxml(exportBuilding(made)) : JSON.stringify({ ...made, name: `${made.name}, reference` }, null, 2) + "\n",
    );
    terminal.out(`reference building: ${reference}`);
  }
  if (out === undefined && certificate === undefined) return;
  const result = complySubmission(project, weather, submission, { stepsPerHour: project.run.stepsPerHour });
  if (out !== undefined) write(path.join(out, "compliance.json"), JSON.stringify(result, null, 2) + "\n");
  if (certificate !== undefined) {
    const report = certificateReport({ ...project, packs: { ...project.packs, [pack.id]: pack } }, result);
    write(certificate, certificate.endsWith(".docx") ? await reportDocx(report) : certificate.endsWith(".md") ? reportMarkdown(report) : reportHtml(report));
  }
  const failed = result.rows.filter((r) => isOpen(r));
  terminal.out(`${result.project} · ${pack.name}, climate zone ${result.climateZone}, ${result.path}`);
  terminal.out(verdict(result));
  terminal.out(`${result.rows.length - failed.length} of ${result.rows.length} rows pass · ${result.changes.length} changes make the reference building`);
  for (const r of failed)
    terminal.out(
      r.kind === "attested"
        ? `  ${r.clause} ${r.subject} Not attested.`
        : `  ${r.clause} ${r.subject}: ${r.quantity} ${r.proposed?.toFixed(2) ?? "not known"}, ${r.rule} ${r.required ?? "—"} ${r.unit}${r.kind === "mandatory" ? " (mandatory)" : ""}`,
    );
}

/** A pack by its name, shipped or of the project, or one read from a JSON file. */
function packNamed(name: string | undefined, project: Project): Pack {
  const known = packsOf(project);
  if (name === undefined) return packNamed(complianceInput(project).pack, project);
  if (Object.hasOwn(known, name)) return known[name];
  if (!name.endsWith(".json")) throw new UsageError(`There is no pack "${name}"; known: ${Object.keys(known).join(", ")}, or name a JSON file.`);
  const json = readJson(readText(name));
  if (!json.ok) throw new ProjectError([{ code: "pack", severity: "error", stage: "place", path: path.basename(name), message: json.message }]);
  const outcome = parsePack(json.value);
  if (!outcome.ok) throw new ProjectError(outcome.problems);
  return outcome.pack;
}
