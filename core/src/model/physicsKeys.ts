import type { LoggedPoint } from "./loggedSchema.ts";
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
  "points",
  "pairs",
] as const satisfies readonly (keyof Project)[];

/** Points that drive inputs, in the order of the drives. */
const drivingPoints = (p: Pick<Project, "points" | "drives">): (LoggedPoint | null)[] =>
  Object.values(p.drives ?? {}).map((d) => (p.points && Object.hasOwn(p.points, d.point) ? p.points[d.point] : null));

/** The parts of a document that a run depends on, for every hash of it: the year in view by what it is, not by what it is called. */
export function physicsOf(project: Project): Record<string, unknown> {
  const year = yearParts(project).map(({ name: _name, label: _label, source: _source, precipitation: _rain, ...content }) => ({
    ...content,
    ...("of" in content ? { of: null } : {}),
  }));
  const driven = drivingPoints(project).map((p) => p && { ...p, name: "", source: "", tags: [], masks: [] });
  return {
    ...(driven.length > 0 ? { driven } : {}),
    ...Object.fromEntries(Object.entries(project).filter(([k]) => !(besidePhysics as readonly string[]).includes(k))),
    weather: year,
  };
}

/** Whether two documents differ at most in what no figure depends on; by identity, so that it costs nothing. */
export function samePhysics(a: Project, b: Project): boolean {
  const [before, after] = [yearParts(a), yearParts(b)];
  const [was, is] = [drivingPoints(a), drivingPoints(b)];
  return (
    (Object.keys(b) as (keyof Project)[]).every((k) => (besidePhysics as readonly string[]).includes(k) || a[k] === b[k]) &&
    before.length === after.length &&
    was.every((point, i) => point === is[i]) &&
    before.every((part, i) => part === after[i])
  );
}
