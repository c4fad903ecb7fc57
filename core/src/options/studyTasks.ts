import type { Project, Study } from "../model/index.ts";
import { isSearch, plannedPoints, searchedPoints, type StudyPoint } from "./studyPlan.ts";
import { basePoint, checkTasks, tasksOf, type StudyTask } from "./studyRun.ts";
import { scoredBy, studyTable, type StudyRow } from "./studyTable.ts";

/**
 * The runs a study asks for now that all it asked for before are made: at first the base with all that are planned, of a search its next
 * generation, and at its end those of whole years that tell the error of the short one. None: it is done.
 * @param rows everything made so far
 */
export function nextTasks(document: Project, study: Study, rows: readonly StudyRow[]): StudyTask[] {
  const years = study.years.length > 0 ? study.years : [document.weather];
  const checks = (points: readonly StudyPoint[]): StudyTask[] => checkTasks(study, years[0], points);
  const { method } = study;
  if (!isSearch(method)) {
    if (rows.length > 0) return [];
    const points = [basePoint(study), ...plannedPoints(study)];
    return [...tasksOf({ years }, points, 0), ...checks(points)];
  }
  if (rows.some((r) => r.check)) return [];
  const table = studyTable(document, study, rows);
  const at = new Map(Array.from(table.index, (index, row) => [index, row]));
  const made = new Set(rows.map((r) => r.index));
  const found = searchedPoints(study, (_point, i) => {
    const row = at.get(i + 1);
    if (row !== undefined) return scoredBy(method, (key) => table.outcomes.find((o) => o.key === key)?.values[row] ?? NaN);
    return made.has(i + 1) ? null : undefined;
  });
  const points = [basePoint(study), ...found.points];
  const asked = made.size === 0 ? 0 : [...made].reduce((a, b) => Math.max(a, b)) + 1;
  const next = tasksOf({ years }, points.slice(asked), asked);
  return next.length > 0 || !found.done ? next : checks(points);
}
