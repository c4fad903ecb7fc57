import { unitOfText, type Dimension } from "../model/index.ts";

/** A part of an expression, with the place in the text it begins at. */
export type Node = { readonly at: number } & (
  | { readonly kind: "number"; readonly value: number; readonly dimension: Dimension }
  | { readonly kind: "name"; readonly name: string }
  | { readonly kind: "call"; readonly name: FunctionName; readonly parts: readonly Node[] }
  | { readonly kind: "negative"; readonly of: Node }
  | { readonly kind: "not"; readonly of: Node }
  | { readonly kind: "pair"; readonly operator: Operator; readonly left: Node; readonly right: Node }
);
export type Operator = "+" | "-" | "*" | "/" | "<" | "<=" | ">" | ">=" | "=" | "<>" | "and" | "or";

/** Functions with the number of parts they take, least and most. */
export const functions = {
  min: [2, 20],
  max: [2, 20],
  if: [3, 3],
  abs: [1, 1],
  sqrt: [1, 1],
  round: [1, 1],
  floor: [1, 1],
  ceil: [1, 1],
  zoneSum: [1, 1],
} as const satisfies Record<string, readonly [number, number]>;
export type FunctionName = keyof typeof functions;

/** What is wrong with an expression: a sentence and where it is, characters from the start. */
export interface ExpressionFault {
  readonly message: string;
  readonly at: number;
}
export type ParsedExpression = { readonly ok: true; readonly root: Node } | { readonly ok: false; readonly fault: ExpressionFault };

/** Characters of an expression, and brackets within brackets, at most. */
const LONGEST = 2000;
const DEEPEST = 60;

class Fault extends Error {
  readonly at: number;
  constructor(message: string, at: number) {
    super(message);
    this.at = at;
  }
}

type Token = { readonly at: number; readonly text: string } & (
  { readonly kind: "number"; readonly value: number; readonly dimension: Dimension } | { readonly kind: "name" | "sign" }
);

const NUMBER = /(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][-+]?\d+)?/y;
const NAME = /[A-Za-z_][A-Za-z0-9_]*/y;
const UNIT_WORD = /[A-Za-zµ°%$€][A-Za-z0-9°²³⁴¹₂%]*(?:\^\d)?/y;
const SIGN = /<=|>=|<>|≤|≥|≠|[-+*/×·÷−<>=(),]/y;
const SIGNS: Record<string, string> = { "≤": "<=", "≥": ">=", "≠": "<>", "×": "*", "·": "*", "÷": "/", "−": "-" };
const WORDS = new Set(["and", "or", "not"]);
const NONE: Dimension = [0, 0, 0, 0, 0, 0, 0];

const matchAt = (pattern: RegExp, text: string, at: number): string | null => {
  pattern.lastIndex = at;
  return pattern.exec(text)?.[0] ?? null;
};
const skipSpace = (text: string, from: number): number => {
  let at = from;
  while (at < text.length && /\s/.test(text[at])) at++;
  return at;
};

/**
 * The longest unit that begins at a place: "L/s·m²", "W/m²K", "L/s per person". Its parts stand together; with a space
 * before it, "/" divides by what follows. A name of the thing's own quantities is no unit.
 */
function unitAt(text: string, from: number, taken: ReadonlySet<string>): { readonly end: number; readonly name: string } | null {
  let end = from;
  let best: { end: number; name: string } | null = null;
  for (;;) {
    const word = matchAt(UNIT_WORD, text, end);
    if (word === null || taken.has(word) || WORDS.has(word)) return best;
    end += word.length;
    const name = text.slice(from, end);
    if (unitOfText(name)) best = { end, name };
    else if (best === null && !/[/·]/.test(text[end] ?? "")) return null;
    const per = /^ per /.exec(text.slice(end));
    if (per) end += per[0].length;
    else if (text[end] === "/" || text[end] === "·") end++;
    else return best;
  }
}

function tokensOf(text: string, taken: ReadonlySet<string>): Token[] {
  const tokens: Token[] = [];
  let at = skipSpace(text, 0);
  while (at < text.length) {
    const number = matchAt(NUMBER, text, at);
    if (number !== null) {
      let end = at + number.length;
      const value = Number(number);
      if (!Number.isFinite(value)) throw new Fault(`"${number}" is too large a number.`, at);
      const unitFrom = skipSpace(text, end);
      const unit = unitAt(text, unitFrom, taken);
      const read = unit ? unitOfText(unit.name) : null;
      if (unit && read) end = unit.end;
      else {
        const word = matchAt(UNIT_WORD, text, unitFrom);
        if (word !== null && !WORDS.has(word)) throw new Fault(`"${word}" after ${number} is no unit Arroyo knows; to multiply, write *.`, unitFrom);
      }
      tokens.push({
        kind: "number",
        at,
        text: text.slice(at, end),
        value: read ? value * read.factor + read.offset : value,
        dimension: read ? plain(read.dimension) : NONE,
      });
      at = skipSpace(text, end);
      continue;
    }
    const name = matchAt(NAME, text, at);
    if (name !== null) {
      tokens.push({ kind: "name", at, text: name });
      at = skipSpace(text, at + name.length);
      continue;
    }
    const sign = matchAt(SIGN, text, at);
    if (sign === null) throw new Fault(`"${text[at]}" has no meaning here.`, at);
    tokens.push({ kind: "sign", at, text: SIGNS[sign] ?? sign });
    at = skipSpace(text, at + sign.length);
  }
  return tokens;
}

/** A dimension in which people are counted, not measured: "L/s per person" times a number of people is a flow. */
export const plain = (d: Dimension): Dimension => [d[0], d[1], d[2], d[3], d[4], 0, d[6]];

/**
 * Reads an expression: numbers with units, names, + − × ÷, comparisons, and, or, not, brackets and the functions of
 * {@link functions}. Numbers are taken to SI as they are read.
 * @param names of the thing's quantities, which are never units
 */
export function parseExpression(text: string, names: Iterable<string> = []): ParsedExpression {
  try {
    if (text.length > LONGEST) throw new Fault(`An expression has at most ${LONGEST} characters.`, LONGEST);
    return { ok: true, root: new Reader(tokensOf(text, new Set(names)), text.length).whole() };
  } catch (error) {
    if (error instanceof Fault) return { ok: false, fault: { message: error.message, at: error.at } };
    throw error;
  }
}

class Reader {
  private readonly tokens: readonly Token[];
  private readonly end: number;
  private next = 0;
  private depth = 0;
  constructor(tokens: readonly Token[], end: number) {
    this.tokens = tokens;
    this.end = end;
  }

  whole(): Node {
    if (this.tokens.length === 0) throw new Fault("Nothing is typed.", 0);
    const root = this.either();
    const left = this.peek();
    if (left) throw new Fault(`"${left.text}" is more than the expression needs here.`, left.at);
    return root;
  }

  private peek(): Token | undefined {
    return this.tokens[this.next];
  }
  /** Takes one of these signs or words, if it comes next. */
  private take(...texts: string[]): Token | null {
    const t = this.peek();
    if (!t || t.kind === "number" || !texts.includes(t.text)) return null;
    this.next++;
    return t;
  }
  private needed(text: string, after: string): void {
    if (this.take(text)) return;
    const t = this.peek();
    throw new Fault(`"${text}" is missing ${after}${t ? `, before "${t.text}"` : " at the end"}.`, t?.at ?? this.end);
  }
  private pairs(operators: readonly Operator[], below: () => Node): Node {
    let left = below();
    for (let t = this.take(...operators); t; t = this.take(...operators)) left = { kind: "pair", operator: t.text as Operator, left, right: below(), at: t.at };
    return left;
  }
  private either = (): Node => this.deeper(() => this.pairs(["or"], this.both));
  private both = (): Node => this.pairs(["and"], this.refused);
  private refused = (): Node => {
    const t = this.take("not");
    return t ? { kind: "not", of: this.deeper(this.refused), at: t.at } : this.compared();
  };
  private compared = (): Node => {
    const left = this.sum();
    const t = this.take("<", "<=", ">", ">=", "=", "<>");
    return t ? { kind: "pair", operator: t.text as Operator, left, right: this.sum(), at: t.at } : left;
  };
  private sum = (): Node => this.pairs(["+", "-"], this.product);
  private product = (): Node => this.pairs(["*", "/"], this.signed);
  private signed = (): Node => {
    const t = this.take("-", "+");
    if (!t) return this.one();
    const of = this.deeper(this.signed);
    return t.text === "-" ? { kind: "negative", of, at: t.at } : of;
  };
  private deeper(read: () => Node): Node {
    if (++this.depth > DEEPEST) throw new Fault("Brackets and signs stand too deep within each other.", this.peek()?.at ?? this.end);
    const node = read();
    this.depth--;
    return node;
  }
  private one(): Node {
    const t = this.peek();
    if (!t) throw new Fault("The expression ends where a number or a name is needed.", this.end);
    this.next++;
    if (t.kind === "number") return { kind: "number", value: t.value, dimension: t.dimension, at: t.at };
    if (t.kind === "sign") {
      if (t.text !== "(") throw new Fault(`A number or a name is needed here, not "${t.text}".`, t.at);
      const inner = this.either();
      this.needed(")", "after the bracket");
      return inner;
    }
    if (WORDS.has(t.text)) throw new Fault(`A number or a name is needed here, not "${t.text}".`, t.at);
    if (!this.take("(")) return { kind: "name", name: t.text, at: t.at };
    if (!Object.hasOwn(functions, t.text)) throw new Fault(`There is no function "${t.text}"; there are ${Object.keys(functions).join(", ")}.`, t.at);
    const name = t.text as FunctionName;
    const parts: Node[] = [];
    if (!this.take(")")) {
      do parts.push(this.either());
      while (this.take(","));
      this.needed(")", `after what ${name} takes`);
    }
    const [least, most] = functions[name];
    if (parts.length < least || parts.length > most)
      throw new Fault(
        `${name} takes ${least === most ? least : `${least} to ${most}`} value${most === 1 ? "" : "s"}, with "," between them; here are ${parts.length}.`,
        t.at,
      );
    return { kind: "call", name, parts, at: t.at };
  }
}
