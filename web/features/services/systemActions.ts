import { freeKey, type Change, type Project } from "@arroyo/core";

/** Id of the field a system is renamed in, for the action that leads there. */
export const SYSTEM_NAME = "system-name";

/** The change that copies a system, a loop or what makes electricity, with all its parts. */
export function copyChanges(project: Project, part: "airSystems" | "loops" | "waterSystems" | "onSite", id: string): { change: Change; id: string } {
  const own: { readonly name: string } = project[part][id];
  const names = new Set(Object.values(project[part]).map((x) => x.name));
  let name = `${own.name}, copy`;
  for (let i = 2; names.has(name); i++) name = `${own.name}, copy ${i}`;
  const key = freeKey(project[part], `${id}_copy`);
  return { id: key, change: { op: "insert", path: [part, key], value: { ...own, name } } };
}
