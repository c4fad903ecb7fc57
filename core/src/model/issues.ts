import type { z } from "zod";
import { limitSentence, stageOf, type Bound, type Problem } from "./problem.ts";

/** Turns one issue of a schema into a problem: a sentence with the place, the value's limits and what was expected. */
export function issueProblem(issue: z.core.$ZodIssue): Problem {
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
    case "invalid_key": {
      const key = path.split("/").pop() ?? "";
      return at(`"${key.slice(0, 80)}" cannot be an id here: ${issue.issues[0]?.message ?? "it has another form"}.`);
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
