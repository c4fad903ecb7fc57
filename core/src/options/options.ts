import {
  applyChanges,
  applyFitting,
  fieldSpec,
  setChange,
  spaceFieldNames,
  valueAt,
  zoneFieldNames,
  type Change,
  type Project,
  type SpaceField,
  type ZoneField,
} from "../model/index.ts";
import { canonicalJson, hashText } from "../numeric/index.ts";

/** A document as an option shows it: the base with the option's changes, and those that no longer fit. */
export interface OptionView {
  readonly project: Project;
  readonly stale: readonly { readonly change: Change; readonly message: string }[];
}

/** The document seen through an option; the base itself for null. @throws RangeError for an unknown option */
export function viewOf(document: Project, option: string | null): OptionView {
  if (option === null) return { project: document, stale: [] };
  const o = document.options[option];
  if (!o) throw new RangeError(`there is no option "${option}"`);
  const { project, stale } = applyFitting(document, o.changes);
  // options belong to the document; seen through one there are none
  return { project: { ...project, options: {} }, stale };
}

const samePath = (a: Change, b: Change): boolean => a.path.length === b.path.length && a.path.every((p, i) => p === b.path[i]);

/**
 * An option's list with further changes at its end. A value set again replaces the earlier setting and keeps
 * what the base had; one set back to what the base had disappears.
 */
export function appendChanges(list: readonly Change[], further: readonly Change[]): Change[] {
  const out = [...list];
  for (const change of further) {
    const at = change.op === "set" ? out.findIndex((c) => c.op === "set" && samePath(c, change)) : -1;
    const touchedLater = at >= 0 && out.slice(at + 1).some((c) => c.path.length <= change.path.length && c.path.every((p, i) => p === change.path[i]));
    if (at < 0 || touchedLater) {
      out.push(change);
      continue;
    }
    const first = out[at];
    if ("old" in first && canonicalJson(first.old) === canonicalJson(change.value)) out.splice(at, 1);
    else out[at] = { ...first, value: change.value };
  }
  return out;
}

/** The change of the document that records further changes in an option. */
export function recordChange(document: Project, option: string, further: readonly Change[]): Change {
  return setChange(document, ["options", option, "changes"], appendChanges(document.options[option].changes, further));
}

/** Changes that move one change of an option into the base: the base gets it, the option loses it. @throws RangeError when it does not fit the base */
export function moveToBase(document: Project, option: string, index: number): Change[] {
  const list = document.options[option].changes;
  const change = list[index];
  const applied = applyChanges(document, [change]);
  if (!applied.ok) throw new RangeError(applied.message);
  return [
    change,
    setChange(
      document,
      ["options", option, "changes"],
      list.filter((_, i) => i !== index),
    ),
  ];
}

/** Changes that make an option the base: all that fit, then the option goes. */
export function adoptOption(document: Project, option: string): Change[] {
  const { stale } = viewOf(document, option);
  const left = new Set(stale.map((s) => s.change));
  return [...document.options[option].changes.filter((c) => !left.has(c)), { op: "remove", path: ["options", option], old: document.options[option] }];
}

/** What of a document a year depends on, as a hash: equal for documents that give equal figures. */
export function physicsHash(project: Project): string {
  const { evidence: _evidence, options: _options, name: _name, note: _note, id: _id, ...physics } = project;
  return hashText(canonicalJson(physics));
}

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
