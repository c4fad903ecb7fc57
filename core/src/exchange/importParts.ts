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
