import path from "node:path";
import { parseArgs } from "node:util";
import Papa from "papaparse";
import { libraryRows } from "@arroyo/core";
import { folderToWrite, UsageError, write, type Terminal } from "./files.ts";

/** A row as a line of a table: what is not a plain value is JSON in its cell. */
const flat = (row: Readonly<Record<string, unknown>>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(row).map(([k, v]) => [k, typeof v === "object" && v !== null ? JSON.stringify(v) : v]));

/** Writes the shipped library: for each kind a JSON array of {id, name, source, …} and the same as CSV. */
export function libraryCommand(args: string[], terminal: Terminal): void {
  const { values } = parseArgs({ args, options: { out: { type: "string" } } });
  if (values.out === undefined) throw new UsageError("Say where to write the library: --out DIR.");
  const out = folderToWrite(values.out);
  for (const [kind, rows] of Object.entries(libraryRows())) {
    write(path.join(out, `${kind}.json`), `${JSON.stringify(rows, null, 2)}\n`);
    const columns = [...new Set(rows.flatMap((r) => Object.keys(r)))];
    write(path.join(out, `${kind}.csv`), `${Papa.unparse(rows.map(flat), { columns, newline: "\n" })}\n`);
    terminal.out(`${kind}: ${rows.length}`);
  }
}
