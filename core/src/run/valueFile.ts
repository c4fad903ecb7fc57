import { fuels, type Fuel } from "../model/index.ts";

const HOURS = 8760;
/** Zones a file may hold. */
const MOST_COLUMNS = 200;

/** Hourly factors of a file, by climate zone ("" where its columns name none) and fuel. */
export type ValueFile = Readonly<Record<string, Readonly<Partial<Record<Fuel, readonly number[]>>>>>;

/**
 * Reads a CSV of hourly value factors: a header of fuels, each with a climate zone or none ("electricity 5B"), and 8,760 rows.
 * Columns that name no fuel, such as the hour, are passed over.
 * @returns a sentence with the line where it cannot be read
 */
export function readValueFile(text: string): ValueFile | string {
  const lines = (text.charCodeAt(0) === 0xfeff ? text.slice(1) : text).split(/\r?\n/).filter((l) => l.trim() !== "");
  const delimiter = lines[0]?.includes(";") ? ";" : lines[0]?.includes("\t") ? "\t" : ",";
  const heads = (lines[0] ?? "").split(delimiter).map((h) => h.replace(/^"|"$/g, "").trim().toLowerCase());
  if (heads.length > MOST_COLUMNS) return `The header has ${heads.length} columns; at most ${MOST_COLUMNS} are read.`;
  // the longest name first, so that "district heat" is not taken for another word of the header
  const names = [...fuels].sort((a, b) => b.length - a.length);
  const columns = heads.flatMap((head, column) => {
    const fuel = names.find((f) => head === f || head.startsWith(`${f} `) || head.startsWith(`${f}(`));
    if (!fuel) return [];
    const zone = /[0-8][abc]?/i.exec(head.slice(fuel.length))?.[0].toUpperCase() ?? "";
    return [{ column, fuel, zone, values: new Array<number>(HOURS) }];
  });
  if (columns.length === 0) return `The header names no fuel; it needs at least one of ${fuels.join(", ")}, each with a climate zone or none.`;
  for (const [i, c] of columns.entries())
    if (columns.slice(0, i).some((d) => d.fuel === c.fuel && d.zone === c.zone))
      return `Two columns are of ${c.fuel}${c.zone === "" ? "" : ` in climate zone ${c.zone}`}.`;
  if (lines.length - 1 !== HOURS) return `The file has ${lines.length - 1} rows of values; ${HOURS} are needed, one for each hour of a common year.`;
  for (let h = 0; h < HOURS; h++) {
    const cells = lines[h + 1].split(delimiter);
    for (const c of columns) {
      const cell = (cells[c.column] ?? "").trim();
      const v = cell === "" ? NaN : Number(delimiter === ";" ? cell.replace(",", ".") : cell);
      if (!(Math.abs(v) <= 1e4))
        return `Row ${h + 1} of ${heads[c.column]} is ${cell === "" ? "empty" : `"${cell.slice(0, 20)}"`}; a factor lies between −10,000 and 10,000.`;
      c.values[h] = v;
    }
  }
  const zones: Record<string, Partial<Record<Fuel, readonly number[]>>> = {};
  for (const c of columns) (zones[c.zone] ??= {})[c.fuel] = c.values;
  return zones;
}
