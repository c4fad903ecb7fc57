import type { Node } from "./parse.ts";

/** What an expression is evaluated over: a column in SI for each name, a row for each thing. */
export interface Table {
  readonly rows: number;
  /** Values of a name by row, or one value for all of them. */
  column(name: string): Float64Array | number;
  /** The things `zoneSum` adds up, with the row of this table each belongs to (−1: none); absent: this table's own rows by `zoneOf`. */
  readonly members?: { readonly table: Table; readonly rowOf: Int32Array };
  /** Zone of each row, for `zoneSum` over rows of the same zone; −1: none. */
  readonly zoneOf?: Int32Array;
}

type Column = Float64Array | number;

const OPERATIONS: Record<string, (a: number, b: number) => number> = {
  "+": (a, b) => a + b,
  "-": (a, b) => a - b,
  "*": (a, b) => a * b,
  "/": (a, b) => a / b,
  "<": (a, b) => +(a < b),
  "<=": (a, b) => +(a <= b),
  ">": (a, b) => +(a > b),
  ">=": (a, b) => +(a >= b),
  "=": (a, b) => +(a === b),
  "<>": (a, b) => +(a !== b),
  and: (a, b) => +(a !== 0 && b !== 0),
  or: (a, b) => +(a !== 0 || b !== 0),
};
const ONE: Record<string, (a: number) => number> = { abs: Math.abs, sqrt: Math.sqrt, round: Math.round, floor: Math.floor, ceil: Math.ceil };

/**
 * Values of a checked expression for every row, in SI; conditions give 1 or 0. What has no value (a division by zero) is not finite.
 * @see checkDimensions which a tree must have passed
 */
export function evaluate(root: Node, table: Table): Float64Array {
  const found = columnOf(root, table);
  return typeof found === "number" ? new Float64Array(table.rows).fill(found) : found;
}

function both(a: Column, b: Column, f: (a: number, b: number) => number): Column {
  if (typeof a === "number" && typeof b === "number") return f(a, b);
  const rows = (typeof a === "number" ? (b as Float64Array) : a).length;
  const out = new Float64Array(rows);
  for (let i = 0; i < rows; i++) out[i] = f(typeof a === "number" ? a : a[i], typeof b === "number" ? b : b[i]);
  return out;
}
const each = (a: Column, f: (a: number) => number): Column => (typeof a === "number" ? f(a) : a.map(f));
const at = (a: Column, i: number): number => (typeof a === "number" ? a : a[i]);

function columnOf(n: Node, table: Table): Column {
  switch (n.kind) {
    case "number":
      return n.value;
    case "name":
      return table.column(n.name);
    case "negative":
      return each(columnOf(n.of, table), (v) => -v);
    case "not":
      return each(columnOf(n.of, table), (v) => +(v === 0));
    case "pair":
      return both(columnOf(n.left, table), columnOf(n.right, table), OPERATIONS[n.operator]);
    case "call": {
      if (n.name === "zoneSum") return zoneSum(n.parts[0], table);
      const parts = n.parts.map((p) => columnOf(p, table));
      if (n.name === "min" || n.name === "max") {
        const least = n.name === "min";
        return parts.reduce((a, b) => both(a, b, (x, y) => (least ? (y < x ? y : x) : y > x ? y : x)));
      }
      if (n.name === "if") {
        const [when, yes, no] = parts;
        if (parts.every((p) => typeof p === "number")) return at(when, 0) !== 0 ? at(yes, 0) : at(no, 0);
        const out = new Float64Array(table.rows);
        for (let i = 0; i < out.length; i++) out[i] = at(when, i) !== 0 ? at(yes, i) : at(no, i);
        return out;
      }
      return each(parts[0], ONE[n.name]);
    }
  }
}

/** Sum of an expression over the spaces of a row's zone. */
function zoneSum(of: Node, table: Table): Column {
  const inner = table.members?.table ?? table;
  const rowOf = table.members?.rowOf ?? table.zoneOf;
  const values = columnOf(of, inner);
  const sums = new Map<number, number>();
  for (let i = 0; i < inner.rows; i++) {
    const z = rowOf ? rowOf[i] : -1;
    if (z >= 0) sums.set(z, (sums.get(z) ?? 0) + at(values, i));
  }
  const out = new Float64Array(table.rows);
  for (let i = 0; i < table.rows; i++) out[i] = sums.get(table.members ? i : (table.zoneOf?.[i] ?? -1)) ?? 0;
  return out;
}

/** Names an expression uses. */
export function namesIn(n: Node): ReadonlySet<string> {
  const found = new Set<string>();
  const walk = (m: Node): void => {
    if (m.kind === "name") found.add(m.name);
    else if (m.kind === "call") m.parts.forEach(walk);
    else if (m.kind === "pair") [m.left, m.right].forEach(walk);
    else if (m.kind === "negative" || m.kind === "not") walk(m.of);
  };
  walk(n);
  return found;
}

/** Functions an expression calls. */
export function callsIn(n: Node): ReadonlySet<string> {
  const found = new Set<string>();
  const walk = (m: Node): void => {
    if (m.kind === "call") {
      found.add(m.name);
      m.parts.forEach(walk);
    } else if (m.kind === "pair") [m.left, m.right].forEach(walk);
    else if (m.kind === "negative" || m.kind === "not") walk(m.of);
  };
  walk(n);
  return found;
}
