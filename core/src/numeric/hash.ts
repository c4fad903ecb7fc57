/**
 * Content hashes: two 32-bit multiplicative streams (FNV-1a with different offsets and an avalanche
 * finish), 16 hexadecimal digits. For naming and comparing content, not for security.
 */
class Hasher {
  private a = 0x811c9dc5;
  private b = 0x9e3779b1;
  /** Takes all of `words`: as `word` does one by one, without a call each. */
  words(words: Uint32Array): void {
    let { a, b } = this;
    for (let i = 0; i < words.length; i++) {
      const w = words[i] as number;
      a = Math.imul(a ^ w, 0x01000193);
      a ^= a >>> 15;
      b = Math.imul(b ^ w, 0x85ebca6b);
      b ^= b >>> 13;
    }
    this.a = a;
    this.b = b;
  }
  word(w: number): void {
    this.a = Math.imul(this.a ^ w, 0x01000193);
    this.a ^= this.a >>> 15;
    this.b = Math.imul(this.b ^ w, 0x85ebca6b);
    this.b ^= this.b >>> 13;
  }
  digest(): string {
    const finish = (h: number): string => {
      let x = h ^ (h >>> 16);
      x = Math.imul(x, 0x7feb352d);
      x ^= x >>> 15;
      x = Math.imul(x, 0x846ca68b);
      x ^= x >>> 16;
      return (x >>> 0).toString(16).padStart(8, "0");
    };
    return finish(this.a) + finish(this.b);
  }
}

/** Hash of a text, by UTF-16 code units. */
export function hashText(text: string): string {
  const h = new Hasher();
  for (let i = 0; i < text.length; i++) h.word(text.charCodeAt(i));
  return h.digest();
}

/** Hash of the exact bits of Float64 arrays in the given order. */
export function hashFloats(arrays: Iterable<Float64Array>): string {
  const h = new Hasher();
  for (const a of arrays) {
    h.words(new Uint32Array(a.buffer, a.byteOffset, a.length * 2));
  }
  return h.digest();
}

/** JSON with object keys in sorted order, so that equal content gives equal text. */
export function canonicalJson(value: unknown): string {
  if (value === null || typeof value !== "object") return JSON.stringify(value) ?? "null";
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(",")}]`;
  const record = value as Record<string, unknown>;
  const keys = Object.keys(record)
    .filter((k) => record[k] !== undefined)
    .sort();
  return `{${keys.map((k) => `${JSON.stringify(k)}:${canonicalJson(record[k])}`).join(",")}}`;
}
