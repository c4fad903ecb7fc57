import { valueAt } from "./changes.ts";
import { fieldSpec, spaceFieldNames, zoneFieldNames, type SpaceField, type ZoneField } from "./fields.ts";
import type { Change, Project } from "./schema.ts";

export interface ChangeWords {
  /** What is changed, by the names the user gave. */
  readonly thing: string;
  readonly from: string;
  readonly to: string;
}

const LEAVES: Record<string, string> = {
  thickness: "thickness",
  u: "U",
  g: "g",
  ratio: "share of wall",
  depth: "depth",
  planNorth: "direction of the plan",
  efficiency: "heat per fuel",
  fanPower: "fan power",
  glazing: "glazing",
  spaceType: "space type",
  kit: "envelope kit",
  services: "services",
  conductivity: "conductivity",
};

/** A change in words: the things on its way by name, the value before and after. */
export function describeChange(project: Project, change: Change): ChangeWords {
  const names: string[] = [];
  let node: unknown = project;
  change.path.forEach((key, i) => {
    node = valueAt(project, change.path.slice(0, i + 1));
    const named = node as { name?: string; material?: string } | undefined;
    if (typeof named === "object" && named !== null && typeof named.name === "string") names.push(named.name);
    else if (typeof named === "object" && named !== null && typeof named.material === "string") names.push(project.materials[named.material]?.name ?? key);
  });
  const leaf = change.path[change.path.length - 1];
  const value = (v: unknown): string => {
    if (v === undefined) return "—";
    if (v === null) return "none";
    if (typeof v === "number") return String(Math.round(v * 1e4) / 1e4);
    if (typeof v === "string") return nameOf(project, v) ?? v;
    const named = v as { name?: string };
    return typeof named.name === "string" ? named.name : "changed";
  };
  if (change.op === "insert") return { thing: names.join(", ") || change.path[0], from: "—", to: `new: ${value(change.value)}` };
  if (change.op === "remove")
    return { thing: [...names, value(change.old)].filter((v, i, a) => a.indexOf(v) === i).join(", "), from: value(change.old), to: "removed" };
  const inputs = change.path[change.path.length - 2] === "inputs";
  const label = inputs ? inputLabel(leaf) : (LEAVES[leaf] ?? leaf);
  return {
    thing: [...names, label].filter((v, i, a) => a.indexOf(v) === i).join(", "),
    from: value(change.old),
    to: change.op === "unset" ? "inherited" : value(change.value),
  };
}

function inputLabel(field: string): string {
  if ((spaceFieldNames as readonly string[]).includes(field)) return fieldSpec("space", field as SpaceField).label.toLowerCase();
  if ((zoneFieldNames as readonly string[]).includes(field)) return fieldSpec("zone", field as ZoneField).label.toLowerCase();
  return field;
}

/** Name of the record an id stands for in a reference, wherever it is. */
function nameOf(project: Project, id: string): string | null {
  for (const records of [
    project.glazings,
    project.assemblies,
    project.materials,
    project.schedules,
    project.spaceTypes,
    project.services,
    project.kits,
    project.zones,
  ])
    if (Object.hasOwn(records, id)) return records[id].name;
  return null;
}
