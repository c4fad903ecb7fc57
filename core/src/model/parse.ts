import type { z } from "zod";
import { limitSentence, stageOf, type Bound, type Problem } from "./problem.ts";
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
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    return failure("json", "", `This is not valid JSON${jsonPosition(text)}.`);
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
    return failure(
      "newer",
      "formatVersion",
      `This project has format ${version}; this version of Arroyo reads up to format ${FORMAT_VERSION}. Open it with a newer version.`,
    );
  for (let v = version; v < FORMAT_VERSION; v++) record = upgrades[v](record);
  const parsed = projectSchema.safeParse(record, { reportInput: true });
  if (!parsed.success) return { ok: false, problems: parsed.error.issues.map(sentence) };
  const problems = checkReferences(parsed.data);
  if (problems.some((p) => p.severity === "error")) return { ok: false, problems };
  return { ok: true, project: parsed.data, problems };
}

/** Where JSON text breaks, in words: engines differ in what they tell. */
function jsonPosition(text: string): string {
  if (text.trim() === "") return ": the file is empty";
  const at = jsonBreak(text);
  if (at >= text.length) return ": it ends too early or is cut off";
  const before = text.slice(0, at).split("\n");
  return `: it breaks at line ${before.length}, column ${before[before.length - 1].length + 1}`;
}

const TOKEN =
  /[ \t\r\n]*(?:([{}[\],:])|("(?:[^"\\\u0000-\u001f]|\\(?:["\\/bfnrt]|u[0-9a-fA-F]{4}))*")|(-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?|true|false|null))/y;

/** Index of the first character at which a text stops being JSON; its length when it is only cut off. */
function jsonBreak(text: string): number {
  const open: string[] = [];
  let expect: "value" | "valueOrEnd" | "key" | "keyOrEnd" | "colon" | "next" = "value";
  TOKEN.lastIndex = 0;
  for (;;) {
    const start = TOKEN.lastIndex;
    const rest = text.slice(start);
    const space = rest.length - rest.trimStart().length;
    if (rest.trim() === "") return text.length;
    const m = TOKEN.exec(text);
    if (!m) return start + space;
    const [, mark, string] = m;
    const bad = start + space;
    const inObject = open[open.length - 1] === "{";
    if (expect === "next") {
      if (open.length === 0) return bad;
      if (mark === ",") expect = inObject ? "key" : "value";
      else if (mark === (inObject ? "}" : "]")) open.pop();
      else return bad;
    } else if (expect === "colon") {
      if (mark !== ":") return bad;
      expect = "value";
    } else if (expect === "key" || expect === "keyOrEnd") {
      if (string !== undefined) expect = "colon";
      else if (mark === "}" && expect === "keyOrEnd") {
        open.pop();
        expect = "next";
      } else return bad;
    } else if (mark === "{" || mark === "[") {
      open.push(mark);
      expect = mark === "{" ? "keyOrEnd" : "valueOrEnd";
    } else if (mark === "]" && expect === "valueOrEnd") {
      open.pop();
      expect = "next";
    } else if (mark !== undefined) return bad;
    else expect = "next";
  }
}

/** Turns one schema issue into a sentence with the place, the value's limits and what was expected. */
function sentence(issue: z.core.$ZodIssue): Problem {
  const path = issue.path.map(String).join("/");
  const stage = stageOf(String(issue.path[0] ?? ""));
  const at = (message: string): Problem => ({ code: issue.code, severity: "error", path, message, stage });
  const bound = (limit: Bound): Problem => ({ ...at(limitSentence(limit)), limit });
  switch (issue.code) {
    case "too_small":
      return issue.origin === "number"
        ? bound({ words: issue.inclusive ? "at least" : "more than", value: Number(issue.minimum) })
        : at(`It needs at least ${String(issue.minimum)} ${issue.origin === "array" ? "entries" : "characters"}.`);
    case "too_big":
      return issue.origin === "number"
        ? bound({ words: "at most", value: Number(issue.maximum) })
        : at(`It has room for at most ${String(issue.maximum)} ${issue.origin === "array" ? "entries" : "characters"}.`);
    case "invalid_type":
      return at(
        issue.input === undefined && issue.message.includes("undefined")
          ? `It is missing; ${article(issue.expected)} is expected.`
          : `Here ${article(issue.expected)} is expected.`,
      );
    case "unrecognized_keys":
      return at(`${issue.keys.map((k) => `"${k}"`).join(", ")} ${issue.keys.length > 1 ? "are" : "is"} not known here.`);
    case "invalid_value":
      return at(oneOf(issue.values, issue.input));
    case "invalid_union": {
      const { options } = issue as { options?: readonly unknown[] };
      const values = options ?? issue.errors.flatMap((e) => e.flatMap((i) => (i.code === "invalid_value" ? i.values : [])));
      return at(values.length > 0 ? oneOf(values, issue.input) : "This is none of the things that can stand here.");
    }
    default:
      return at(`${issue.message}.`);
  }
}

/** What stands there instead, where it is short. */
const found = (input: unknown): string =>
  typeof input === "number" || (typeof input === "string" && input.length < 40) ? `, not ${JSON.stringify(input)}` : "";
const oneOf = (values: readonly unknown[], input: unknown): string => `It must be one of ${values.map((v) => JSON.stringify(v)).join(", ")}${found(input)}.`;

const article = (noun: string): string => (/^[aeio]/.test(noun) ? `an ${noun}` : `a ${noun}`);
