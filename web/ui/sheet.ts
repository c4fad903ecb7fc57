import Papa from "papaparse";
import { readQuantity, setChange, type Change, type Project } from "@arroyo/core";
import type { Selection } from "../features/store.ts";
import { figure, readNumber } from "./format.ts";
import type { Units } from "./units.ts";

/** One column of a sheet: how a cell reads and, where it can be typed, what a typed text comes to. */
export interface Column {
  readonly key: string;
  readonly name: string;
  readonly unit?: string;
  /** Number: right, sorted by size. */
  readonly numeric?: boolean;
  /** Digits shown; absent: 2. */
  readonly digits?: number;
  readonly value: (row: Row) => string | number | null;
  /** Where the value comes from: its mark and, on hover, its words. */
  readonly origin?: (row: Row) => { readonly mark: string; readonly words: string } | null;
  /** Changes that give a row this text; a sentence that refuses it; absent: not to be typed. */
  readonly write?: (row: Row, text: string) => readonly Change[] | string;
  /** Changes that take a typed value back. */
  readonly clear?: (row: Row) => readonly Change[];
}
export const TYPED = { mark: "●", words: "typed here" } as const;
export const INHERITED = { mark: "↑", words: "inherited" } as const;
export interface Row {
  readonly id: string;
  readonly select: Selection;
}
export interface SheetData {
  readonly columns: readonly Column[];
  readonly rows: readonly Row[];
}

/** A column of numbers over a path of the document. @param factor the unit of the column over that of the document */
export function typedColumn(
  project: Project,
  name: string,
  key: string,
  unit: string | undefined,
  path: (r: Row) => readonly string[] | null,
  read: (r: Row) => number | null,
  factor = 1,
): Column {
  return {
    key,
    name,
    ...(unit ? { unit } : {}),
    numeric: true,
    value: (r) => {
      const v = read(r);
      return v === null ? null : v * factor;
    },
    write: (r, text) => {
      const p = path(r);
      if (!p) return `${name} is not of this row.`;
      const n = readNumber(text);
      return n === null ? `“${text}” is not a number.` : [setChange(project, p, n / factor)];
    },
  };
}

/** A column whose cells name one of a set of records; `none`: how none of them reads, null where one is needed. */
export function namedColumn(
  project: Project,
  name: string,
  key: string,
  records: Readonly<Record<string, { readonly name: string }>>,
  path: (r: Row) => readonly string[] | null,
  read: (r: Row) => string | null,
  none: string | null,
): Column {
  return {
    key,
    name,
    value: (r) => {
      const id = read(r);
      return id === null ? (none ?? "") : (records[id]?.name ?? id);
    },
    write: (r, text) => {
      const p = path(r);
      if (!p) return `${name} is not of this row.`;
      const t = text.trim().toLowerCase();
      if (none === null && t === "") return `A ${name.toLowerCase()} is needed.`;
      if (t === "" || t === none?.toLowerCase()) return [setChange(project, p, null)];
      const id = Object.keys(records).find((k) => k.toLowerCase() === t || records[k].name.toLowerCase() === t);
      return id ? [setChange(project, p, id)] : `There is no ${name.toLowerCase()} “${text}”.`;
    },
  };
}

/** The name of a record, which is typed and must not be empty. */
export const nameColumn = (project: Project, part: string, read: (r: Row) => string): Column => ({
  key: "name",
  name: "Name",
  value: read,
  write: (r, t) => (t.trim() ? [setChange(project, [part, r.id, "name"], t.trim())] : "A name is needed."),
});

/** A sheet in the units in view; a cell takes any unit of its dimension. */
export const sheetInView = (data: SheetData, units: Units): SheetData => ({ ...data, columns: data.columns.map((c) => inView(c, units)) });

function inView(c: Column, units: Units): Column {
  const { unit, write } = c;
  if (!unit) return c;
  const there = units.unit(unit);
  return {
    ...c,
    unit: there,
    value: (r) => {
      const v = c.value(r);
      return typeof v === "number" ? units.value(v, unit) : v;
    },
    ...(write
      ? {
          write: (r, text) => {
            const read = readQuantity(text, unit, there);
            return read.ok ? write(r, String(read.value)) : read.message;
          },
        }
      : {}),
  };
}

/** A cell as it is shown. */
export const shownCell = (c: Column, r: Row): string => {
  const v = c.value(r);
  return v === null ? "—" : typeof v === "number" ? figure(v, c.digits ?? 2) : v;
};
/** A cell as files and the clipboard have it. */
export const plainCell = (c: Column, r: Row): string => {
  const v = c.value(r);
  return v === null ? "" : typeof v === "number" ? String(Number(v.toPrecision(10))) : v;
};
/** Head of a column with its unit. */
export const heading = (c: Column): string => (c.unit ? `${c.name} (${c.unit})` : c.name);

/** Texts written into cells: the changes they come to, or the sentence that refuses all of them. */
export function cellChanges(cells: readonly { readonly row: Row; readonly column: Column; readonly text: string }[]): readonly Change[] | string {
  const changes: Change[] = [];
  const seen = new Set<string>();
  for (const { row, column, text } of cells) {
    if (plainCell(column, row) === text.trim() || shownCell(column, row) === text.trim()) continue;
    if (!column.write) return `${column.name} follows from the rest and cannot be typed; nothing was changed.`;
    const made = column.write(row, text);
    if (typeof made === "string") return `${made} Nothing was changed.`;
    for (const c of made) {
      const key = c.path.join("/");
      // two rows may share what is changed, as both faces of one side do
      if (!seen.has(key)) changes.push(c);
      seen.add(key);
    }
  }
  return changes;
}

/** One cell a CSV would change, or why it cannot. */
export interface CsvLine {
  /** Line of the file, from 1. */
  readonly line: number;
  readonly row: string;
  readonly column: string;
  readonly from: string;
  readonly to: string;
  /** What is wrong with it; null: it can be taken. */
  readonly fault: string | null;
}
export interface CsvRead {
  readonly lines: readonly CsvLine[];
  readonly changes: readonly Change[];
}

/** Reads a CSV with the sheet's own heads, rows found by the text of its first column: what would change, cell by cell. Nothing is changed. */
export function readSheetCsv(data: SheetData, text: string): CsvRead {
  const [head, ...lines] = Papa.parse<string[]>(text, { skipEmptyLines: true }).data;
  const refuse = (line: number, row: string, column: string, fault: string): CsvLine => ({ line, row, column, from: "", to: "", fault });
  if (!head) return { lines: [refuse(1, "", "", "It is empty.")], changes: [] };
  const columns = head.map((h) => data.columns.find((c) => [heading(c), c.name].some((n) => n.toLowerCase() === h.trim().toLowerCase())));
  const out: CsvLine[] = [];
  head.forEach((h, i) => columns[i] === undefined && out.push(refuse(1, "", h, "The sheet has no such column.")));
  const [key] = columns;
  if (!key) return { lines: [...out, refuse(1, "", head[0], `The first column must be “${heading(data.columns[0])}”, to find the rows.`)], changes: [] };
  const changes = new Map<string, Change>();
  lines.forEach((line, i) => {
    const row = data.rows.find((r) => plainCell(key, r) === (line[0] ?? "").trim() || shownCell(key, r) === (line[0] ?? "").trim());
    if (!row) return out.push(refuse(i + 2, line[0] ?? "", "", "There is no such row in the sheet."));
    if (line.length > head.length) out.push(refuse(i + 2, line[0], "", `It has ${line.length} cells under ${head.length} heads.`));
    line.forEach((cell, j) => {
      const column = columns[j];
      // what follows from the rest is there to read
      if (j === 0 || !column?.write) return;
      const from = plainCell(column, row);
      if (from === cell.trim() || shownCell(column, row) === cell.trim()) return;
      const made = column.write(row, cell);
      if (typeof made !== "string") for (const c of made) changes.set(c.path.join("/"), c);
      out.push({ line: i + 2, row: line[0], column: column.name, from, to: cell.trim(), fault: typeof made === "string" ? made : null });
    });
    return undefined;
  });
  return { lines: out, changes: [...changes.values()] };
}
