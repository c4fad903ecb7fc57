import { applyChanges, applyFitting, physicsOf, type Change, type OptionChange, type Project } from "../model/index.ts";
import { canonicalJson, hashText } from "../numeric/index.ts";

/** A document as an option shows it: the base with the option's changes, and those that no longer fit. */
export interface OptionView {
  readonly project: Project;
  readonly stale: readonly { readonly change: Change; readonly message: string }[];
}

/** An option with those it stands on, the lowest first. @throws RangeError for an unknown option, and where options stand on each other in a circle */
export function optionChain(document: Pick<Project, "options">, option: string): string[] {
  const chain: string[] = [];
  for (let at: string | undefined = option; at !== undefined;) {
    const o: Project["options"][string] | undefined = Object.hasOwn(document.options, at) ? document.options[at] : undefined;
    if (!o) throw new RangeError(`there is no option "${at}"`);
    if (chain.includes(at)) throw new RangeError(`the option "${option}" stands on itself`);
    chain.unshift(at);
    at = o.on;
  }
  return chain;
}

/** The document seen through an option, on those it stands on; the base itself for null. @throws RangeError for an unknown option */
export function viewOf(document: Project, option: string | null): OptionView {
  if (option === null) return { project: document, stale: [] };
  let project = document;
  let stale: OptionView["stale"] = [];
  for (const id of optionChain(document, option)) ({ project, stale } = applyFitting(project, document.options[id].changes));
  // options belong to the document; seen through one there are none
  return { project: { ...project, options: {} }, stale };
}

/** Everything an option changes over the base, with what it stands on, as one list. */
export const wholeOption = (document: Pick<Project, "options">, option: string): OptionChange[] =>
  optionChain(document, option).reduce<OptionChange[]>(
    (list, id) =>
      appendChanges(
        list,
        document.options[id].changes.map(({ id: _id, ...change }) => change),
      ),
    [],
  );

/** What keeps an option from standing on another one; null: nothing. */
export function standingFault(document: Pick<Project, "options">, option: string, on: string): string | null {
  if (!Object.hasOwn(document.options, on)) return "That option is gone.";
  return optionChain(document, on).includes(option) ? `"${document.options[on].name}" stands on this option itself.` : null;
}

/** Changes that take an option away: those that stand on it stand on what it stood on, with its changes as their own. */
export function removeOption(document: Project, option: string): Change[] {
  const gone = document.options[option];
  const above = Object.keys(document.options).filter((id) => document.options[id].on === option);
  return [
    ...above.map((id): Change => {
      const { on: _on, ...rest } = document.options[id];
      const changes = appendChanges(
        gone.changes,
        rest.changes.map(({ id: _id, ...change }) => change),
      );
      return { op: "set", path: ["options", id], value: { ...rest, ...(gone.on === undefined ? {} : { on: gone.on }), changes }, old: document.options[id] };
    }),
    { op: "remove", path: ["options", option], old: gone },
  ];
}

const samePath = (a: Change, b: Change): boolean => a.path.length === b.path.length && a.path.every((p, i) => p === b.path[i]);

/** The next name of a change in a list: none that is there already. */
function nextId(list: readonly OptionChange[]): string {
  let most = 0;
  for (const { id } of list) {
    const n = /^c(\d{1,9})$/.exec(id)?.[1];
    if (n !== undefined) most = Math.max(most, Number(n));
  }
  return `c${most + 1}`;
}

/** One further change in an option's list: the list with it, and the edit of the list, its address relative to the list; null: nothing to do. */
function record(list: readonly OptionChange[], change: Change): { readonly list: OptionChange[]; readonly edit: Change | null } {
  const at = change.op === "set" || change.op === "unset" ? list.findIndex((c) => c.op === "set" && samePath(c, change)) : -1;
  const touchedLater = at >= 0 && list.slice(at + 1).some((c) => c.path.length <= change.path.length && c.path.every((p, i) => p === change.path[i]));
  if (at < 0 || touchedLater) {
    if (change.op === "set" && "old" in change && canonicalJson(change.old) === canonicalJson(change.value)) return { list: [...list], edit: null };
    const named: OptionChange = { ...change, id: nextId(list) };
    return { list: [...list, named], edit: { op: "insert", path: [named.id], value: named } };
  }
  const first = list[at];
  if (change.op === "unset") {
    // taken back: where the base has none either nothing is left of it, else what the base has is taken away
    const { id } = first;
    const base = "old" in first ? first.old : undefined;
    if (base === undefined) return { list: list.filter((_, i) => i !== at), edit: { op: "remove", path: [id], old: first } };
    const gone: OptionChange = { ...change, id, old: base };
    return { list: list.map((c, i) => (i === at ? gone : c)), edit: { op: "set", path: [id], value: gone, old: first } };
  }
  if ("old" in first && canonicalJson(first.old) === canonicalJson(change.value))
    return { list: list.filter((_, i) => i !== at), edit: { op: "remove", path: [first.id], old: first } };
  return {
    list: list.map((c, i) => (i === at ? { ...first, value: change.value } : c)),
    edit: { op: "set", path: [first.id, "value"], value: change.value, ...("value" in first ? { old: first.value } : {}) },
  };
}

/**
 * An option's list with further changes at its end. A value set again replaces the earlier setting and keeps
 * what the base had; one set back to what the base had disappears.
 */
export function appendChanges(list: readonly OptionChange[], further: readonly Change[]): OptionChange[] {
  return further.reduce<OptionChange[]>((l, c) => record(l, c).list, [...list]);
}

/** The changes of the document that record further changes in an option: each touches what it adds, replaces or takes away, never the whole list. */
export function recordChanges(document: Project, option: string, further: readonly Change[]): Change[] {
  let { changes } = document.options[option];
  return further.flatMap((change) => {
    const { list, edit } = record(changes, change);
    changes = list;
    return edit ? [{ ...edit, path: ["options", option, "changes", ...edit.path] }] : [];
  });
}

/** Changes that move one change of an option into the base: the base gets it, the option loses it. @throws RangeError when it does not fit the base */
export function moveToBase(document: Project, option: string, index: number): Change[] {
  const { id, ...change } = document.options[option].changes[index];
  const applied = applyChanges(document, [change]);
  if (!applied.ok) throw new RangeError(applied.message);
  return [change, { op: "remove", path: ["options", option, "changes", id], old: document.options[option].changes[index] }];
}

/** Parts of a document that all its options share: its weather years, and what is kept for reading results and for studies. */
const SHARED: ReadonlySet<string> = new Set([
  "weather",
  "weathers",
  "groups",
  "derived",
  "outlines",
  "studies",
  "measures",
  "compliance",
  "packs",
  "points",
  "pairs",
]);
/** Whether changes are of what all options of a document share. */
export const ofAllOptions = (changes: readonly Change[]): boolean => changes.some((c) => SHARED.has(c.path[0]));

/**
 * Changes that make an option the base, with those it stands on: all that fit, then the option goes. The base keeps its weather year in view.
 * @param withYear take over the option's weather year as well, where it has one
 */
export function adoptOption(document: Project, option: string, withYear = false): Change[] {
  const changes: Change[] = [];
  let current = document;
  for (const { id: _id, ...change } of wholeOption(document, option)) {
    if (!withYear && change.path[0] === "weather") continue;
    const done = applyChanges(current, [change]);
    if (!done.ok) continue;
    changes.push(change);
    current = done.project;
  }
  return [...changes, ...removeOption(document, option)];
}

/** What of a document a year depends on, as a hash: equal for documents that give equal figures. */
export function physicsHash(project: Project): string {
  return hashText(canonicalJson(physicsOf(project)));
}
