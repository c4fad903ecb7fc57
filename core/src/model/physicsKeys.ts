import type { Project } from "./schema.ts";
import { yearParts } from "./weatherSchema.ts";

/** Parts of a document that no figure depends on, or that stand in `weather`: of the years, the one in view alone counts. */
export const besidePhysics = [
  "id",
  "name",
  "note",
  "evidence",
  "provenance",
  "starter",
  "options",
  "weathers",
  "weather",
  "prices",
  "factors",
  "designDays",
  "groups",
  "derived",
  "outlines",
  "studies",
  "measures",
  "compliance",
  "packs",
] as const satisfies readonly (keyof Project)[];

/** The parts of a document that a run depends on, for every hash of it: the year in view by what it is, not by what it is called. */
export function physicsOf(project: Project): Record<string, unknown> {
  const year = yearParts(project).map(({ name: _name, label: _label, source: _source, precipitation: _rain, ...content }) => ({
    ...content,
    ...("of" in content ? { of: null } : {}),
  }));
  return { ...Object.fromEntries(Object.entries(project).filter(([k]) => !(besidePhysics as readonly string[]).includes(k))), weather: year };
}

/** Whether two documents differ at most in what no figure depends on; by identity, so that it costs nothing. */
export function samePhysics(a: Project, b: Project): boolean {
  const [before, after] = [yearParts(a), yearParts(b)];
  return (
    (Object.keys(b) as (keyof Project)[]).every((k) => (besidePhysics as readonly string[]).includes(k) || a[k] === b[k]) &&
    before.length === after.length &&
    before.every((part, i) => part === after[i])
  );
}
