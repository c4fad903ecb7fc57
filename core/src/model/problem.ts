import type { Change } from "./changeSchema.ts";

/** What is wrong in a document: a place, a plain sentence and, where it is safe, the changes that mend it. */
export interface Problem {
  readonly code: string;
  /** error: the year cannot be run; warning: it can, and the result is affected. */
  readonly severity: "error" | "warning";
  /** Address of the thing, ids joined by "/". */
  readonly path: string;
  readonly message: string;
  readonly stage: "place" | "form" | "fabric" | "use" | "services" | "measured";
  /** The bound that a number misses, in the document's unit, for who shows it in another. */
  readonly limit?: Bound;
  readonly fix?: { readonly label: string; readonly changes: readonly Change[] };
}

export interface Bound {
  readonly words: "at least" | "more than" | "at most";
  readonly value: number;
}

/** Sentence of a missed bound. @param times the unit shown over that of the document */
export function limitSentence(limit: Bound, times = 1): string {
  return `The value must be ${limit.words} ${Number((limit.value * times).toPrecision(12))}.`;
}

export class ProjectError extends Error {
  readonly problems: readonly Problem[];
  constructor(problems: readonly Problem[]) {
    super(problems.map((p) => `${p.path}: ${p.message}`).join("\n"));
    this.name = "ProjectError";
    this.problems = problems;
  }
}

/** The stage of the work a part of the document belongs to. */
export function stageOf(part: string): Problem["stage"] {
  if (["storeys", "spaces", "zones", "roofs", "openings", "shades", "sensors", "airNetwork"].includes(part)) return "form";
  if (["materials", "assemblies", "glazings", "kits", "faceOverrides"].includes(part)) return "fabric";
  if (["schedules", "resets", "spaceTypes", "airExchanges", "deviceLists", "drawPoints", "siteLights", "rules", "values", "known"].includes(part)) return "use";
  if (["points", "drives", "pairs"].includes(part)) return "measured";
  return ["services", "airSystems", "loops", "waterSystems", "onSite"].includes(part) ? "services" : "place";
}
