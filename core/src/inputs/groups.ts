import type { Group, Project, Rule } from "../model/index.ts";
import { conditionOf } from "./rules.ts";

/** Zones of a group, in the order of the document: those chosen by hand that are still there, or those its conditions hold for. */
export function zonesOfGroup(project: Project, group: Group): string[] {
  const zones = Object.keys(project.zones);
  if (group.kind === "by hand") return zones.filter((z) => group.zones.includes(z));
  const rule: Rule = { id: "group", name: group.name, on: true, target: "zone", field: "", conditions: group.conditions, value: "" };
  return zones.filter(conditionOf(project, rule));
}

/** All groups of a project with their zones. */
export const groupsOf = (project: Project): { readonly id: string; readonly group: Group; readonly zones: readonly string[] }[] =>
  Object.entries(project.groups ?? {}).map(([id, group]) => ({ id, group, zones: zonesOfGroup(project, group) }));
