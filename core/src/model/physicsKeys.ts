import type { Project } from "./schema.ts";

/** Parts of a document that no figure depends on. */
export const besidePhysics = ["id", "name", "note", "evidence", "provenance", "starter", "options"] as const satisfies readonly (keyof Project)[];

/** The parts of a document that a run depends on, for every hash of it. */
export function physicsOf(project: Project): Partial<Project> {
  return Object.fromEntries(Object.entries(project).filter(([k]) => !(besidePhysics as readonly string[]).includes(k)));
}
