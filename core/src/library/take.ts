import { freeId } from "../geometry/index.ts";
import { namedBy, namedParts, useText, type Change, type CopiedFrom, type NamedPart, type Project, type RecordSet } from "../model/index.ts";
import { canonicalJson, hashText } from "../numeric/index.ts";

type Item = { readonly name: string; readonly from?: CopiedFrom | undefined };
const records = (set: RecordSet, part: NamedPart): Readonly<Record<string, Item>> => (set[part] ?? {}) as Readonly<Record<string, Item>>;

/** A copy of a record with what it names replaced. */
function renamed(part: NamedPart, id: string, item: Item, to: (part: NamedPart, id: string) => string): Item {
  const copy = JSON.parse(JSON.stringify(item)) as Item;
  for (const use of namedBy(part, id, item as never)) {
    let node: unknown = copy;
    for (const key of use.path.slice(2, -1))
      node = Array.isArray(node) ? node.find((e: { id: string }) => e.id === key) : (node as Record<string, unknown>)[key];
    (node as Record<string, unknown>)[use.path[use.path.length - 1]] = useText(use.part, to(use.part, use.id));
  }
  return copy;
}

/**
 * Hash of what a record is, with all it depends on and without where it came from: the same in every project, whatever
 * the ids there. Null where something it names is missing.
 */
export function contentHash(set: RecordSet, part: NamedPart, id: string): string | null {
  const item = records(set, part)[id];
  if (!item) return null;
  let whole = true;
  const { from: _, ...content } = renamed(part, id, item, (p, i) => {
    const hash = contentHash(set, p, i);
    if (hash === null) whole = false;
    return hash ?? "";
  });
  return whole ? hashText(canonicalJson(content)) : null;
}

export type TakeOutcome =
  | {
      readonly ok: true;
      readonly id: string;
      readonly changes: readonly Change[];
      /** What comes along, dependencies first. */ readonly taken: readonly { readonly part: NamedPart; readonly id: string; readonly name: string }[];
    }
  | { readonly ok: false; readonly message: string };

/**
 * Changes that bring a record from a library or another project into a document, with all it depends on. What is there
 * already with the same content is used, not brought again.
 * @param library name under which the copies remember where they come from
 */
export function takeChanges(into: RecordSet, set: RecordSet, library: string, part: NamedPart, id: string): TakeOutcome {
  const changes: Change[] = [];
  const taken: { part: NamedPart; id: string; name: string }[] = [];
  const done = new Map<string, string>();
  const added = new Map<NamedPart, Record<string, Item>>(namedParts.map((p) => [p, {}]));
  let missing: string | null = null;
  const present = new Map<NamedPart, Map<string, string>>();
  const known = (p: NamedPart, hash: string): string | undefined => {
    let by = present.get(p);
    if (!by) {
      by = new Map();
      for (const k of Object.keys(records(into, p))) {
        const h = contentHash(into, p, k);
        if (h !== null && !by.has(h)) by.set(h, k);
      }
      present.set(p, by);
    }
    return by.get(hash);
  };
  const take = (p: NamedPart, i: string): string => {
    const key = `${p}/${i}`;
    const before = done.get(key);
    if (before !== undefined) return before;
    const item = records(set, p)[i];
    const hash = contentHash(set, p, i);
    if (!item || hash === null) {
      missing ??= item ? `“${item.name}” names something that is not there` : `There is no ${key}`;
      return i;
    }
    const there = known(p, hash);
    if (there !== undefined) {
      done.set(key, there);
      return there;
    }
    const own = added.get(p) as Record<string, Item>;
    const copy = renamed(p, i, item, take);
    const to = freeId({ ...records(into, p), ...own }, i);
    const value = { ...copy, from: { library: library.slice(0, 200), id: i, hash } };
    own[to] = value;
    done.set(key, to);
    changes.push({ op: "insert", path: [p, to], value });
    taken.push({ part: p, id: to, name: item.name });
    return to;
  };
  const own = take(part, id);
  return missing === null ? { ok: true, id: own, changes, taken } : { ok: false, message: `${missing as string}; nothing was taken.` };
}

/** A change that copies a record within a document, under a free name; it remembers what it was copied from. */
export function copyChange(project: Project, part: NamedPart, id: string): { readonly id: string; readonly change: Change } {
  const all = records(project, part);
  const item = all[id];
  const names = new Set(Object.values(all).map((x) => x.name));
  const base = item.name.slice(0, 180);
  let name = `${base}, copy`;
  for (let n = 2; names.has(name); n++) name = `${base}, copy ${n}`;
  const to = freeId(all, `${id}_copy`);
  const from = item.from ?? { library: "this project", id, hash: contentHash(project, part, id) ?? "" };
  return { id: to, change: { op: "insert", path: [part, to], value: { ...item, name, from } } };
}

/** Whether the library a record was copied from holds something else under that id now. */
export function isNewer(item: { readonly from?: CopiedFrom | undefined }, part: NamedPart, set: RecordSet, library: string): boolean {
  if (item.from?.library !== library) return false;
  const hash = contentHash(set, part, item.from.id);
  return hash !== null && hash !== item.from.hash;
}

/** Changes that bring a copied record up to what its library holds now, under its own id. */
export function updateChanges(project: Project, set: RecordSet, library: string, part: NamedPart, id: string): TakeOutcome {
  const item = records(project, part)[id];
  const source = item?.from?.id;
  if (!item || source === undefined || !records(set, part)[source]) return { ok: false, message: "What it was copied from is no longer in the library." };
  const fresh = takeChanges(project, set, library, part, source);
  if (!fresh.ok) return fresh;
  const made = fresh.changes.find((c) => c.path[0] === part && c.path[1] === fresh.id);
  const value = made ? made.value : { ...records(project, part)[fresh.id], from: { library, id: source, hash: contentHash(set, part, source) } };
  return {
    ok: true,
    id,
    taken: fresh.taken.filter((t) => t.part !== part || t.id !== fresh.id),
    changes: [...fresh.changes.filter((c) => c !== made), { op: "set", path: [part, id], value, old: item }],
  };
}
