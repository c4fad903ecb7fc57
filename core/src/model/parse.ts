import type { z } from "zod";
import { stageOf, type Problem } from "./problem.ts";
import { FORMAT_VERSION, projectSchema, type Project } from "./schema.ts";
import { checkReferences } from "./references.ts";

export type ParseOutcome =
  | { readonly ok: true; readonly project: Project; readonly problems: readonly Problem[] }
  | { readonly ok: false; readonly problems: readonly Problem[] };

/** Steps that bring an older document to the next version, by the version they start from. */
const upgrades: Record<number, (document: Record<string, unknown>) => Record<string, unknown>> = {};

const failure = (code: string, path: string, message: string): ParseOutcome => ({
  ok: false,
  problems: [{ code, severity: "error", path, message, stage: "place" }],
});

/** Reads a project document from JSON text. Problems are sentences with a path; nothing is mended silently. */
export function parseProjectText(text: string): ParseOutcome {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch (error) {
    return failure("json", "", `This is not valid JSON${jsonPosition(text, error)}.`);
  }
  return parseProject(document);
}

/** Reads a project document. @see parseProjectText */
export function parseProject(document: unknown): ParseOutcome {
  if (typeof document !== "object" || document === null || Array.isArray(document))
    return failure("shape", "", "A project is a JSON object; this is something else.");
  let record = document as Record<string, unknown>;
  const version = record.formatVersion;
  if (typeof version !== "number" || !Number.isInteger(version) || version < 1)
    return failure("version", "formatVersion", "A project states its format version as a whole number from 1.");
  if (version > FORMAT_VERSION)
    return failure("newer", "formatVersion", `This project has format ${version}; this version of Arroyo reads up to format ${FORMAT_VERSION}. Open it with a newer version.`);
  for (let v = version; v < FORMAT_VERSION; v++) record = upgrades[v](record);
  const parsed = projectSchema.safeParse(record);
  if (!parsed.success) return { ok: false, problems: parsed.error.issues.map(sentence) };
  const problems = checkReferences(parsed.data);
  if (problems.some((p) => p.severity === "error")) return { ok: false, problems };
  return { ok: true, project: parsed.data, problems };
}

function jsonPosition(text: string, error: unknown): string {
  const message = error instanceof Error ? error.message : "";
  const at = /position (\d+)/.exec(message)?.[1];
  if (at === undefined) return text.trim() === "" ? ": the file is empty" : ": it ends too early or is cut off";
  const before = text.slice(0, Number(at)).split("\n");
  return `: it breaks at line ${before.length}, column ${before[before.length - 1].length + 1}`;
}

/** Turns one schema issue into a sentence with the place, the value's limits and what was expected. */
function sentence(issue: z.core.$ZodIssue): Problem {
  const path = issue.path.map(String).join("/");
  const stage = stageOf(String(issue.path[0] ?? ""));
  const at = (message: string): Problem => ({ code: issue.code, severity: "error", path, message, stage });
  switch (issue.code) {
    case "too_small":
      return issue.origin === "number"
        ? at(`The value must be ${issue.inclusive ? "at least" : "more than"} ${String(issue.minimum)}.`)
        : at(`It needs at least ${String(issue.minimum)} ${issue.origin === "array" ? "entries" : "characters"}.`);
    case "too_big":
      return issue.origin === "number"
        ? at(`The value must be at most ${String(issue.maximum)}.`)
        : at(`It has room for at most ${String(issue.maximum)} ${issue.origin === "array" ? "entries" : "characters"}.`);
    case "invalid_type":
      return at(issue.input === undefined && issue.message.includes("undefined") ? `It is missing; ${article(issue.expected)} is expected.` : `Here ${article(issue.expected)} is expected.`);
    case "unrecognized_keys":
      return at(`${issue.keys.map((k) => `"${k}"`).join(", ")} ${issue.keys.length > 1 ? "are" : "is"} not known here.`);
    case "invalid_value":
      return at(`It must be one of ${issue.values.map((v) => JSON.stringify(v)).join(", ")}.`);
    default:
      return at(`${issue.message}.`);
  }
}

const article = (noun: string): string => (/^[aeio]/.test(noun) ? `an ${noun}` : `a ${noun}`);
