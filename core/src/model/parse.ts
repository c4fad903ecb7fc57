import { issueProblem } from "./issues.ts";
import { DEEPEST_JSON, isDeeper, readJson } from "./jsonText.ts";
import type { Problem } from "./problem.ts";
import { upgradeFrom1, upgradeFrom2 } from "./upgrade.ts";
import { FORMAT_VERSION, projectSchema, type Project } from "./schema.ts";
import { checkReferences } from "./references.ts";

export type ParseOutcome =
  { readonly ok: true; readonly project: Project; readonly problems: readonly Problem[] } | { readonly ok: false; readonly problems: readonly Problem[] };

/** Steps that bring an older document to the next version, by the version they start from. */
const upgrades: Record<number, (document: Record<string, unknown>) => Record<string, unknown>> = { 1: upgradeFrom1, 2: upgradeFrom2 };

const failure = (code: string, path: string, message: string): ParseOutcome => ({
  ok: false,
  problems: [{ code, severity: "error", path, message, stage: "place" }],
});

/** Reads a project document from JSON text. Problems are sentences with a path; nothing is mended silently. */
export function parseProjectText(text: string): ParseOutcome {
  const json = readJson(text);
  return json.ok ? parseProject(json.value) : failure("json", "", json.message);
}

/** Reads a project document. @see parseProjectText */
export function parseProject(document: unknown): ParseOutcome {
  if (typeof document !== "object" || document === null || Array.isArray(document))
    return failure("shape", "", "A project is a JSON object; this is something else.");
  if (isDeeper(document, DEEPEST_JSON))
    return failure("shape", "", `A project nests at most ${DEEPEST_JSON} objects and lists in each other; this one nests more.`);
  let record = document as Record<string, unknown>;
  const version = record.formatVersion;
  if (typeof version !== "number" || !Number.isInteger(version) || version < 1)
    return failure("version", "formatVersion", "A project states its format version as a whole number from 1.");
  if (version > FORMAT_VERSION)
    return failure(
      "newer",
      "formatVersion",
      `This project has format ${version}; this version of Arroyo reads up to format ${FORMAT_VERSION}. Open it with a newer version.`,
    );
  for (let v = version; v < FORMAT_VERSION; v++) record = upgrades[v](record);
  const parsed = projectSchema.safeParse(record, { reportInput: true });
  if (!parsed.success) return { ok: false, problems: parsed.error.issues.map(issueProblem) };
  const problems = checkReferences(parsed.data);
  if (problems.some((p) => p.severity === "error")) return { ok: false, problems };
  return { ok: true, project: parsed.data, problems };
}
