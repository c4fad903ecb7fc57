/** JSON text read, or a sentence with the line and column at which it breaks. */
export type JsonOutcome = { readonly ok: true; readonly value: unknown } | { readonly ok: false; readonly message: string };

/** Objects and lists of a document nest about ten deep. */
export const DEEPEST_JSON = 60;

/** Reads JSON text; a byte-order mark before it is passed over. Time grows with the length of the text, also where it is broken. */
export function readJson(text: string): JsonOutcome {
  const bare = text.charCodeAt(0) === 0xfeff ? text.slice(1) : text;
  if (nestsDeeper(bare, DEEPEST_JSON))
    return { ok: false, message: `This JSON nests more than ${DEEPEST_JSON} objects and lists in each other; no document of Arroyo does.` };
  try {
    return { ok: true, value: JSON.parse(bare) };
  } catch {
    return { ok: false, message: `This is not valid JSON${jsonPosition(bare)}.` };
  }
}

/** Whether brackets outside of strings nest deeper than a limit. */
function nestsDeeper(text: string, limit: number): boolean {
  let depth = 0;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c === 0x22) {
      for (i++; i < text.length && text.charCodeAt(i) !== 0x22; i++) if (text.charCodeAt(i) === 0x5c) i++;
    } else if (c === 0x7b || c === 0x5b) {
      if (++depth > limit) return true;
    } else if (c === 0x7d || c === 0x5d) depth--;
  }
  return false;
}

/** Why a value is no plain data, with its place: it nests too deep, or a name in it is one every object has a meaning for; null: it is. */
export function valueFault(value: unknown, limit = DEEPEST_JSON): { readonly path: string; readonly message: string } | null {
  if (typeof value !== "object" || value === null) return null;
  if (limit <= 0) return { path: "", message: `Objects and lists nest more than ${DEEPEST_JSON} deep here; no document of Arroyo does.` };
  for (const [key, v] of Object.entries(value)) {
    if (key === "__proto__") return { path: key, message: '"__proto__" can be the name of nothing.' };
    const inner = typeof v === "object" && v !== null ? valueFault(v, limit - 1) : null;
    // the place is told from outside in, as far as a reader follows it
    if (inner) return { ...inner, path: limit > DEEPEST_JSON - 8 ? `${key.slice(0, 80)}/${inner.path}` : inner.path };
  }
  return null;
}

/** Where JSON text breaks, in words: engines differ in what they tell. */
function jsonPosition(text: string): string {
  if (text.trim() === "") return ": the file is empty";
  const at = jsonBreak(text);
  if (at >= text.length) return ": it ends too early or is cut off";
  const lineStart = text.lastIndexOf("\n", at - 1) + 1;
  let line = 1;
  for (let i = 0; i < lineStart; i++) if (text.charCodeAt(i) === 0x0a) line++;
  return `: it breaks at line ${line}, column ${at - lineStart + 1}`;
}

const WHITE = " \t\r\n";
const MARKS = "{}[],:";
const WORD = /(?:-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?|true|false|null)/y;
const ESCAPE = /\\(?:["\\/bfnrt]|u[0-9a-fA-F]{4})/y;

/** Index after a string's closing quote; the length of the text where it is cut off, -1 where it is broken. */
function stringEnd(text: string, at: number): number {
  let i = at + 1;
  while (i < text.length) {
    const c = text.charCodeAt(i);
    if (c === 0x22) return i + 1;
    if (c < 0x20) return -1;
    if (c !== 0x5c) i++;
    else {
      ESCAPE.lastIndex = i;
      if (!ESCAPE.test(text)) return -1;
      i = ESCAPE.lastIndex;
    }
  }
  return text.length;
}

/** Index of the first character at which a text stops being JSON; its length when it is only cut off. */
function jsonBreak(text: string): number {
  const open: string[] = [];
  let expect: "value" | "valueOrEnd" | "key" | "keyOrEnd" | "colon" | "next" = "value";
  let at = 0;
  for (;;) {
    // one look at each character: a regular expression over all that is left would take the square of the length
    while (at < text.length && WHITE.includes(text[at])) at++;
    if (at === text.length) return at;
    const bad = at;
    const mark = MARKS.includes(text[at]) ? text[at] : undefined;
    const string = text[at] === '"';
    if (mark !== undefined) at++;
    else if (string) at = stringEnd(text, at);
    else {
      WORD.lastIndex = at;
      at = WORD.test(text) ? WORD.lastIndex : -1;
    }
    if (at < 0) return bad;
    if (string && text[at - 1] !== '"') return text.length;
    const inObject = open[open.length - 1] === "{";
    if (expect === "next") {
      if (open.length === 0) return bad;
      if (mark === ",") expect = inObject ? "key" : "value";
      else if (mark === (inObject ? "}" : "]")) open.pop();
      else return bad;
    } else if (expect === "colon") {
      if (mark !== ":") return bad;
      expect = "value";
    } else if (expect === "key" || expect === "keyOrEnd") {
      if (string) expect = "colon";
      else if (mark === "}" && expect === "keyOrEnd") {
        open.pop();
        expect = "next";
      } else return bad;
    } else if (mark === "{" || mark === "[") {
      open.push(mark);
      expect = mark === "{" ? "keyOrEnd" : "valueOrEnd";
    } else if (mark === "]" && expect === "valueOrEnd") {
      open.pop();
      expect = "next";
    } else if (mark !== undefined) return bad;
    else expect = "next";
  }
}
