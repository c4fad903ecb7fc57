import type { Change } from "./changeSchema.ts";
import type { Project } from "./schema.ts";
import { canonicalJson } from "../numeric/index.ts";

/** A named step of editing: what undo takes back at once. */
export interface Edit {
  readonly name: string;
  readonly changes: readonly Change[];
}

export type ChangeOutcome = { readonly ok: true; readonly project: Project } | { readonly ok: false; readonly stale: Change; readonly message: string };

type Container = Record<string, unknown> | unknown[];

function child(container: unknown, key: string): unknown {
  if (Array.isArray(container)) return container.find((e) => isRecord(e) && e.id === key);
  return isRecord(container) && Object.hasOwn(container, key) ? container[key] : undefined;
}

function isRecord(v: unknown): v is Record<string, unknown> {
  return typeof v === "object" && v !== null && !Array.isArray(v);
}

/** Value at an address, or undefined. Elements of a list are found by their id. */
export function valueAt(project: unknown, path: readonly string[]): unknown {
  let v = project;
  for (const key of path) {
    v = child(v, key);
    if (v === undefined) return undefined;
  }
  return v;
}

const same = (a: unknown, b: unknown): boolean => a === b || canonicalJson(a) === canonicalJson(b);

/** A copy of the container with one child replaced, inserted or (value undefined) removed. */
function withChild(container: Container, key: string, value: unknown, before?: string): Container {
  if (Array.isArray(container)) {
    const index = container.findIndex((e) => isRecord(e) && e.id === key);
    const copy = container.slice();
    if (value === undefined) copy.splice(index, 1);
    else if (index >= 0) copy[index] = value;
    else {
      const at = before === undefined ? -1 : container.findIndex((e) => isRecord(e) && e.id === before);
      copy.splice(at < 0 ? copy.length : at, 0, value);
    }
    return copy;
  }
  if (value === undefined) return Object.fromEntries(Object.entries(container).filter(([k]) => k !== key));
  if (Object.hasOwn(container, key) || before === undefined) return { ...container, [key]: value };
  const entries = Object.entries(container);
  const at = entries.findIndex(([k]) => k === before);
  entries.splice(at < 0 ? entries.length : at, 0, [key, value]);
  return Object.fromEntries(entries);
}

function rebuild(container: unknown, path: readonly string[], at: number, value: unknown, before?: string): Container | null {
  if (!isRecord(container) && !Array.isArray(container)) return null;
  const key = path[at];
  if (at === path.length - 1) return withChild(container, key, value, before);
  const inner = rebuild(child(container, key), path, at + 1, value, before);
  return inner && withChild(container, key, inner);
}

/** The id that follows `key` in its container, so that a removed thing goes back to its place. */
function successor(container: unknown, key: string): string | undefined {
  const keys = Array.isArray(container) ? container.map((e) => (isRecord(e) ? String(e.id) : "")) : isRecord(container) ? Object.keys(container) : [];
  const i = keys.indexOf(key);
  return i >= 0 ? keys[i + 1] : undefined;
}

/** Parts of a document that no edit changes: its name in the database and its format. */
const FIXED = ["id", "formatVersion"];

/** Why no change may go to an address, as a sentence with the place; null when one may. */
export function addressFault(path: readonly string[]): string | null {
  const where = path.map((p) => p.slice(0, 80)).join("/");
  if (path.length === 1 && FIXED.includes(path[0])) return `${where}: no edit changes this part of a project.`;
  const inherited = path.find((p) => p in Object.prototype);
  return inherited === undefined ? null : `${where}: "${inherited}" can be the name of nothing in a project.`;
}

/** Applies one change; a change that no longer fits the document is refused as stale. */
export function applyChange(project: Project, change: Change): ChangeOutcome {
  const { path, op } = change;
  const where = path.join("/");
  const stale = (message: string): ChangeOutcome => ({ ok: false, stale: change, message });
  const fault = addressFault(path);
  if (fault !== null) return stale(fault);
  const parent = valueAt(project, path.slice(0, -1));
  if (!isRecord(parent) && !Array.isArray(parent)) return stale(`${where}: the thing it belongs to is gone.`);
  // a thing of a list is found by its id: it keeps it, or neither undo nor a later edit would find it again
  const renamed = path[path.length - 1] === "id" && path.length > 1 && Array.isArray(valueAt(project, path.slice(0, -2)));
  const another = (op === "set" || op === "insert") && Array.isArray(parent) && !(isRecord(change.value) && change.value.id === path[path.length - 1]);
  if (renamed || another) return stale(`${where}: a thing in a list keeps the id it is found by.`);
  const now = valueAt(project, path);
  if (op === "insert") {
    if (now !== undefined) return stale(`${where}: there is already something with this id.`);
    if (change.value === undefined) return stale(`${where}: nothing to insert.`);
  } else {
    if (op !== "set" && now === undefined) return stale(`${where}: it is gone already.`);
    if ("old" in change && !same(now, change.old)) return stale(`${where}: its value is no longer the one this change replaced.`);
    if (op === "set" && change.value === undefined) return stale(`${where}: no value given.`);
  }
  const value = op === "set" || op === "insert" ? change.value : undefined;
  const next = rebuild(project, path, 0, value, change.before);
  return next ? { ok: true, project: next as unknown as Project } : stale(`${where}: cannot be reached.`);
}

/** The change that takes `change` back, given the document before it. */
export function inverseOf(project: Project, change: Change): Change {
  const { path } = change;
  const now = valueAt(project, path);
  const before = successor(valueAt(project, path.slice(0, -1)), path[path.length - 1]);
  const place = before === undefined ? {} : { before };
  if (change.op === "insert") return { op: "remove", path, old: change.value };
  if (change.op === "remove") return { op: "insert", path, value: now, ...place };
  if (now === undefined) return { op: "unset", path, old: change.value };
  return change.op === "unset" ? { op: "set", path, value: now, ...place } : { op: "set", path, value: now, old: change.value };
}

/** Applies changes in order, all or nothing; returns the document and the changes that undo them. */
export function applyChanges(
  project: Project,
  changes: readonly Change[],
): { ok: true; project: Project; inverse: Change[] } | { ok: false; stale: Change; message: string } {
  let current = project;
  const inverse: Change[] = [];
  for (const change of changes) {
    const back = inverseOf(current, change);
    const outcome = applyChange(current, change);
    if (!outcome.ok) return outcome;
    inverse.unshift(back);
    current = outcome.project;
  }
  return { ok: true, project: current, inverse };
}

/** Applies what still fits and lists what is stale, for options whose base has moved on. */
export function applyFitting(project: Project, changes: readonly Change[]): { project: Project; stale: { change: Change; message: string }[] } {
  let current = project;
  const stale: { change: Change; message: string }[] = [];
  for (const change of changes) {
    const outcome = applyChange(current, change);
    if (outcome.ok) current = outcome.project;
    else stale.push({ change, message: outcome.message });
  }
  return { project: current, stale };
}

/** A change that sets the value at an address and remembers the one there now. */
export function setChange(project: Project, path: readonly string[], value: unknown): Change {
  const old = valueAt(project, path);
  return old === undefined ? { op: "set", path: [...path], value } : { op: "set", path: [...path], value, old };
}

/** A change that takes a typed value back, so that it is inherited again. */
export function unsetChange(project: Project, path: readonly string[]): Change {
  return { op: "unset", path: [...path], old: valueAt(project, path) };
}
