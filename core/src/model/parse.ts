import { BudgetSpent, withinBudget } from "../numeric/index.ts";
import { issueProblem } from "./issues.ts";
import { readJson, valueFault } from "./jsonText.ts";
import type { Problem } from "./problem.ts";
import { upgradeFrom1, upgradeFrom2, upgradeFrom3, upgradeFrom4, upgradeFrom5, upgradeFrom6, upgradeFrom7, upgradeFrom8 } from "./upgrade.ts";
import { FORMAT_VERSION, projectSchema, type Project } from "./schema.ts";
import { checkReferences } from "./references.ts";

export type ParseOutcome =
  { readonly ok: true; readonly project: Project; readonly problems: readonly Problem[] } | { readonly ok: false; readonly problems: readonly Problem[] };

/** Steps that bring an older document to the next version, by the version they start from. */
const upgrades: Record<number, (document: Record<string, unknown>) => Record<string, unknown>> = {
  1: upgradeFrom1,
  2: upgradeFrom2,
  3: upgradeFrom3,
  4: upgradeFrom4,
  5: upgradeFrom5,
  6: upgradeFrom6,
  7: upgradeFrom7,
  8: upgradeFrom8,
};

const failure = (code: string, path: string, message: string): ParseOutcome => ({
  ok: false,
  problems: [{ code, severity: "error", path, message, stage: "place" }],
});

/** Reads a project document from JSON text. Problems are sentences with a path; nothing is mended silently. */
export function parseProjectText(text: string): ParseOutcome {
  const json = readJson(text);
  return json.ok ? parseProject(json.value) : failure("json", "", json.message);
}

/** A value that misses two bounds on one side is told of the first. */
const oncePerBound = (problems: readonly Problem[]): Problem[] => {
  const told = new Set<string>();
  return problems.filter((p) => {
    if (!p.limit || !told.has(p.path)) {
      if (p.limit) told.add(p.path);
      return true;
    }
    return false;
  });
};

/** Work the references and outlines of a document may take to be looked through: a second or two. */
const REFERENCE_BUDGET = 5e8;

function referencesWithin(project: Project): Problem[] {
  try {
    return withinBudget(REFERENCE_BUDGET, () => checkReferences(project));
  } catch (error) {
    if (!(error instanceof BudgetSpent)) throw error;
    return [
      {
        code: "too-much",
        severity: "error",
        stage: "form",
        path: "spaces",
        message: "The outlines of this project have more corners than can be checked; no building has.",
      },
    ];
  }
}

/** Reads a project document. @see parseProjectText */
export function parseProject(document: unknown): ParseOutcome {
  if (typeof document !== "object" || document === null || Array.isArray(document))
    return failure("shape", "", "A project is a JSON object; this is something else.");
  const fault = valueFault(document);
  if (fault) return failure("shape", fault.path, fault.message);
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
  if (!parsed.success) return { ok: false, problems: oncePerBound(parsed.error.issues.map(issueProblem)) };
  const problems = referencesWithin(parsed.data);
  if (problems.some((p) => p.severity === "error")) return { ok: false, problems };
  return { ok: true, project: parsed.data, problems };
}
