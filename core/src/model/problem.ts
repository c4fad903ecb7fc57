import type { Change } from "./schema.ts";

/** What is wrong in a document: a place, a plain sentence and, where it is safe, the changes that mend it. */
export interface Problem {
  readonly code: string;
  /** error: the year cannot be run; warning: it can, and the result is affected. */
  readonly severity: "error" | "warning";
  /** Address of the thing, ids joined by "/". */
  readonly path: string;
  readonly message: string;
  readonly stage: "place" | "form" | "fabric" | "use" | "services";
  readonly fix?: { readonly label: string; readonly changes: readonly Change[] };
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
  if (["storeys", "spaces", "zones", "roofs", "openings", "shades", "sensors"].includes(part)) return "form";
  if (["materials", "assemblies", "glazings", "kits", "faceOverrides"].includes(part)) return "fabric";
  if (["schedules", "spaceTypes", "airExchanges"].includes(part)) return "use";
  return part === "services" ? "services" : "place";
}
