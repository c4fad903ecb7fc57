import {
  besidePhysics,
  componentName,
  componentWords,
  describeChange,
  serviceFieldsOf,
  setChange,
  settingAsked,
  settingOf,
  unsetChange,
  type Change,
  type Component,
  type Project,
} from "../model/index.ts";
import { canonicalJson } from "../numeric/index.ts";

/** One place in which two models differ. */
export interface Difference {
  /** Address in the second, ids joined by "/". */
  readonly address: string;
  readonly thing: string;
  readonly a: string;
  readonly b: string;
  /** Meant to differ, as the user marked it. */
  readonly meant: boolean;
  /** Changes of the second model that make it equal to the first. */
  readonly equal: readonly Change[];
}

type Container = Record<string, unknown> | readonly unknown[];
const isRecord = (v: unknown): v is Record<string, unknown> => typeof v === "object" && v !== null && !Array.isArray(v);
/** A list of things with ids; an empty one counts. */
const isList = (v: unknown): v is readonly { id: string }[] => Array.isArray(v) && v.every((x) => isRecord(x) && typeof x.id === "string");
const keysOf = (v: Container): string[] => (Array.isArray(v) ? (v as { id: string }[]).map((x) => x.id) : Object.keys(v));
const childOf = (v: Container, key: string): unknown =>
  Array.isArray(v) ? (v as { id: string }[]).find((x) => x.id === key) : (v as Record<string, unknown>)[key];
const mixed = (a: unknown, b: unknown): boolean => (isRecord(a) && isRecord(b)) || (isList(a) && isList(b));

/** Addresses at which two documents differ, as deep as both have something there. */
function walk(a: unknown, b: unknown, path: readonly string[], found: { path: readonly string[]; a: unknown; b: unknown }[]): void {
  if (a === b || canonicalJson(a ?? null) === canonicalJson(b ?? null)) {
    if ((a === undefined) === (b === undefined)) return;
  }
  if (!mixed(a, b)) {
    found.push({ path, a, b });
    return;
  }
  const [left, right] = [a as Container, b as Container];
  const kindOf = (v: Container): unknown => (isRecord(v) ? v.kind : undefined);
  // another kind of thing under the same id is another thing
  if (kindOf(left) !== kindOf(right)) {
    found.push({ path, a, b });
    return;
  }
  const keys = [...new Set([...keysOf(left), ...keysOf(right)])];
  for (const key of keys) walk(childOf(left, key), childOf(right, key), [...path, key], found);
  const order = (v: Container, other: Container): string =>
    keysOf(v)
      .filter((k) => keysOf(other).includes(k))
      .join(" ");
  if (Array.isArray(left) && order(left, right) !== order(right, left)) found.push({ path, a, b });
}

/**
 * Everything that differs between two models and that a figure can depend on: what is not meant to differ stands first.
 * @param meant addresses that are meant to differ
 */
export function differencesOf(a: Project, b: Project, meant: readonly string[] = []): Difference[] {
  const found: { path: readonly string[]; a: unknown; b: unknown }[] = [];
  for (const part of Object.keys(b) as (keyof Project)[]) {
    if (part === "formatVersion" || (besidePhysics as readonly string[]).includes(part)) continue;
    walk(a[part], b[part], [part], found);
  }
  const rows = found.map(({ path, a: from, b: to }): Difference => {
    const address = path.join("/");
    const change: Change =
      to === undefined
        ? { op: "remove", path: [...path], old: from }
        : from === undefined
          ? { op: "insert", path: [...path], value: to }
          : { op: "set", path: [...path], value: to, old: from };
    const inputs = path[path.length - 2] === "inputs";
    const words = describeChange(to === undefined ? a : b, inputs ? { op: "set", path: [...path], value: to, old: from } : change);
    const ordered = isList(from) && isList(to);
    const equal: Change[] =
      from === undefined
        ? [inputs ? { op: "unset", path: [...path], old: to } : { op: "remove", path: [...path], old: to }]
        : to === undefined
          ? [inputs ? { op: "set", path: [...path], value: from } : { op: "insert", path: [...path], value: from }]
          : [{ op: "set", path: [...path], value: from, old: to }];
    return {
      address,
      thing: words.thing,
      a: ordered ? "in another order" : words.from,
      b: ordered ? "its own order" : words.to,
      meant: meant.includes(address),
      equal,
    };
  });
  return rows.sort((x, y) => Number(x.meant) - Number(y.meant));
}

/** What two air systems of one model differ in, part by part of a kind; `equal` changes the second. */
export function systemDifferences(project: Project, first: string, second: string): Difference[] {
  const [a, b] = [project.airSystems[first], project.airSystems[second]];
  const out: Difference[] = [];
  const compare = (left: Pick<Component, "kind" | "inputs">, right: Pick<Component, "kind" | "inputs">, path: readonly string[], name: string): void => {
    for (const [field, spec] of Object.entries(serviceFieldsOf(left.kind))) {
      if (!settingAsked(left.kind, left.inputs, field) && !settingAsked(right.kind, right.inputs, field)) continue;
      if (settingOf(left.kind, left.inputs, field) === settingOf(right.kind, right.inputs, field)) continue;
      const at = [...path, "inputs", field];
      const words = describeChange(project, { op: "set", path: at, value: right.inputs[field], old: left.inputs[field] });
      const value = left.inputs[field];
      out.push({
        address: at.join("/"),
        thing: `${name}, ${spec.label.toLowerCase()}`,
        a: words.from,
        b: words.to,
        meant: false,
        equal: value === undefined ? (right.inputs[field] === undefined ? [] : [unsetChange(project, at)]) : [setChange(project, at, value)],
      });
    }
  };
  compare({ kind: "airSystem", inputs: a.inputs }, { kind: "airSystem", inputs: b.inputs }, ["airSystems", second], "The system");
  const rest = [...b.parts];
  for (const p of a.parts) {
    const at = rest.findIndex((x) => x.kind === p.kind);
    if (at < 0)
      out.push({
        address: `airSystems/${second}/parts/${p.id}`,
        thing: componentName(p),
        a: "present",
        b: "—",
        meant: false,
        equal: b.parts.some((x) => x.id === p.id) ? [] : [{ op: "insert", path: ["airSystems", second, "parts", p.id], value: p }],
      });
    else {
      const [other] = rest.splice(at, 1);
      compare(p, other, ["airSystems", second, "parts", other.id], componentWords[p.kind][0].toUpperCase() + componentWords[p.kind].slice(1));
    }
  }
  for (const p of rest)
    out.push({
      address: `airSystems/${second}/parts/${p.id}`,
      thing: componentName(p),
      a: "—",
      b: "present",
      meant: false,
      equal: [{ op: "remove", path: ["airSystems", second, "parts", p.id], old: p }],
    });
  return out;
}
