import path from "node:path";
import { parseArgs } from "node:util";
import Papa from "papaparse";
import { libraryRows } from "@arroyo/core";
import { folderToWrite, UsageError, write, type Terminal } from "./files.ts";

/** A row as a line of a table: what is not a plain value is JSON in its cell. */
const flat = (row: Readonly<Record<string, unknown>>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(row).map(([k, v]) => [k, typeof v === "object" && v !== null ? JSON.stringify(v) : v]));

/** Writes the shipped library, all of it or one kind: for each kind a JSON array of {id, name, source, …} and the same as CSV. Without a folder one kind is told as CSV. */
export function libraryCommand(args: string[], terminal: Terminal): void {
  const { values, positionals } = parseArgs({ args, options: { out: { type: "string" } }, allowPositionals: true });
  const all = libraryRows();
  const [asked, ...more] = positionals;
  if (more.length > 0) throw new UsageError(`One kind at a time: ${Object.keys(all).join(", ")}.`);
  if (asked !== undefined && !Object.hasOwn(all, asked)) throw new UsageError(`There is no kind "${asked}" in the library: ${Object.keys(all).join(", ")}.`);
  const table = (rows: (typeof all)["components"]): string =>
    Papa.unparse(rows.map(flat), { columns: [...new Set(rows.flatMap((r) => Object.keys(r)))], newline: "\n" });
  if (values.out === undefined) {
    if (asked === undefined) throw new UsageError("Say where to write the library: --out DIR; or name one kind to read it here.");
    return terminal.out(table(all[asked as keyof typeof all]));
  }
  const out = folderToWrite(values.out);
  for (const [kind, rows] of Object.entries(all).filter(([k]) => asked === undefined || k === asked)) {
    write(path.join(out, `${kind}.json`), `${JSON.stringify(rows, null, 2)}\n`);
    write(path.join(out, `${kind}.csv`), `${table(rows)}\n`);
    terminal.out(`${kind}: ${rows.length}`);
  }
}
