import type { RandomStream } from "../../../core/src/index.ts";

/** A draw of whole numbers and of things from lists. */
export interface Draw {
  below(n: number): number;
  of<T>(list: readonly T[]): T;
}
export const draw = (random: RandomStream): Draw => {
  const below = (n: number): number => Math.floor(random.uniform() * n);
  const copy = <T>(v: T): T => (typeof v === "object" && v !== null && (ODD as readonly unknown[]).includes(v) ? (JSON.parse(JSON.stringify(v)) as T) : v);
  return { below, of: (list) => copy(list[below(list.length)]) };
};

/** Values that have broken a program before. */
const ODD: readonly unknown[] = [
  null,
  true,
  "",
  "toString",
  "__proto__",
  "constructor",
  "a/b/c",
  "\u0000",
  "\ud800",
  "x".repeat(5000),
  0,
  -0,
  -1,
  1e-300,
  1e-9,
  0.5,
  1e9,
  1e150,
  1e308,
  -1e308,
  2 ** 31,
  [],
  {},
  [[[[[[]]]]]],
  { id: "a" },
];
const FACTORS = [-1, 0, 1e-6, 1e-3, 0.01, 0.1, 10, 100, 600, 1000, 1e6];
const NAMES = ["__proto__", "constructor", "toString", "hasOwnProperty", "a b", "", "x".repeat(80), "id", "0", "ä"];

type Node = Record<string, unknown> | unknown[];
const isNode = (v: unknown): v is Node => typeof v === "object" && v !== null;

/** Every place of a document, as its holder and key. */
function places(node: unknown, out: [Node, string][] = []): [Node, string][] {
  if (isNode(node))
    for (const key of Object.keys(node)) {
      out.push([node, key]);
      places((node as Record<string, unknown>)[key], out);
    }
  return out;
}

/** A copy of a JSON value damaged in one to four places. */
export function mutated(value: unknown, d: Draw): unknown {
  const copy: unknown = JSON.parse(JSON.stringify(value));
  for (let n = 1 + d.below(4); n > 0; n--) {
    const all = places(copy);
    if (all.length === 0) return copy;
    const [holder, key] = d.of(all);
    const at = holder as Record<string, unknown>;
    const now = at[key];
    switch (d.below(7)) {
      case 0:
        Object.defineProperty(at, key, { value: d.of(ODD), writable: true, enumerable: true, configurable: true });
        break;
      case 1:
        if (typeof now === "number") at[key] = now * d.of(FACTORS);
        else at[key] = d.of(ODD);
        break;
      case 2:
        if (Array.isArray(holder)) holder.splice(Number(key), 1);
        else delete at[key];
        break;
      case 3:
        if (Array.isArray(holder)) for (let i = d.below(40); i > 0; i--) holder.push(JSON.parse(JSON.stringify(now ?? null)));
        else Object.defineProperty(at, d.of(NAMES), { value: now, writable: true, enumerable: true, configurable: true });
        break;
      case 4: {
        const [other, its] = d.of(all);
        at[key] = JSON.parse(JSON.stringify((other as Record<string, unknown>)[its] ?? null));
        break;
      }
      case 5:
        // every number below, as in another unit
        if (isNode(now)) {
          const factor = d.of(FACTORS);
          for (const [h, k] of places(now)) {
            const v = (h as Record<string, unknown>)[k];
            if (typeof v === "number") (h as Record<string, unknown>)[k] = v * factor;
          }
        } else at[key] = d.of(ODD);
        break;
      default:
        if (Array.isArray(now)) now.reverse();
        else if (typeof now === "string") at[key] = now + d.of(["", "\n", "/", "x".repeat(300), "\u202e"]);
        else at[key] = d.of(ODD);
    }
  }
  return copy;
}

const PIECES = [
  "",
  "<",
  ">",
  "&",
  '"',
  "'",
  "]]>",
  "<!--",
  "1e999",
  "-7",
  "NaN",
  ";",
  ",",
  ",,,",
  "\n",
  "\r\n",
  "\u0000",
  "\ufeff",
  "{",
  "[",
  "}",
  "9".repeat(40),
  "toString",
];

/** A text with pieces cut out, put in, doubled, or its numbers scaled, in one to four places. */
export function garbled(text: string, d: Draw): string {
  let t = text;
  for (let n = 1 + d.below(4); n > 0; n--) {
    const at = d.below(t.length + 1);
    const to = Math.min(t.length, at + d.below(d.of([2, 20, 400])));
    switch (d.below(5)) {
      case 0:
        t = t.slice(0, at) + t.slice(to);
        break;
      case 1:
        t = t.slice(0, at) + d.of(PIECES) + t.slice(at);
        break;
      case 2:
        t = t.slice(0, to) + t.slice(at);
        break;
      case 3:
        t = t.slice(0, at) + d.of(PIECES) + t.slice(to);
        break;
      default: {
        const factor = d.of(FACTORS);
        const all = d.below(3) === 0;
        const scaled = (part: string): string => part.replace(/-?\d+\.\d+/g, (v) => String(Number(v) * factor));
        t = all ? scaled(t) : t.slice(0, at) + scaled(t.slice(at, at + 2000)) + t.slice(at + 2000);
      }
    }
  }
  return t;
}
