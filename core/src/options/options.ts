import { applyChanges, applyFitting, setChange, type Change, type Project } from "../model/index.ts";
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
      const nothing = change.op === "set" && "old" in change && canonicalJson(change.old) === canonicalJson(change.value);
      if (!nothing) out.push(change);
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
