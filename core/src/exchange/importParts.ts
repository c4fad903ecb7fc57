import type { ImportMessage } from "./records.ts";

/** A thing of the file that has no full counterpart, and what may stand for it. */
export interface MatchRow {
  /** kind:name, by which a choice is remembered. */
  readonly key: string;
  readonly kind: "assembly" | "glazing" | "use" | "schedule";
  readonly name: string;
  /** How often the file uses it. */
  readonly count: number;
  /** Chosen: an id of the project; null: by the kit or the default. */
  readonly chosen: string | null;
  readonly options: readonly { readonly id: string; readonly name: string }[];
  /** The option most like it by its words, or of the kind its surfaces ask for; null: none is. */
  readonly suggested: string | null;
}

const wordsOf = (text: string): Set<string> => new Set(text.toLowerCase().match(/[a-zà-ÿ]{4,}/g) ?? []);
/** The option that shares most words with a name, at least one of them; else the first that is asked for. */
export function suggestionFor(name: string, options: MatchRow["options"], asked: readonly string[] = []): string | null {
  const words = wordsOf(name);
  let best: { id: string; shared: number } | null = null;
  for (const o of options) {
    if (asked.length > 0 && !asked.includes(o.id)) continue;
    // words alike in their first five letters count: "offices" and "office"
    const shared = [...wordsOf(o.name)].filter((w) => [...words].some((x) => x.slice(0, 5) === w.slice(0, 5))).length;
    if (shared > (best?.shared ?? 0)) best = { id: o.id, shared };
  }
  return best?.id ?? asked[0] ?? null;
}

/** Where the surfaces of a space of the file ended up: their hosts by surface; more than one where a surface was taken apart. */
export type Made = Map<string, { readonly id: string; readonly hosts: Map<string, string[]> }>;

/** Adds a message to the report. */
export type Tell = (kind: ImportMessage["kind"], affects: boolean, text: string) => void;

export const clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));
export const round = (v: number): number => Math.round(v * 1e5) / 1e5 + 0;
/** A text of a file as a name: without line breaks and other control characters, and no longer than names are. */
export const named = (text: string, fallback: string): string => plain(text) || plain(fallback) || "unnamed";

const plain = (text: string): string =>
  text
    .replace(/[\u0000-\u001f\u007f]+/g, " ")
    .trim()
    .slice(0, 200);
