import { z } from "zod";
import { unitOfText } from "../model/index.ts";
import { guessTable, intervalOf, layoutShape, MOST_ROWS, shapeOf, TableReader, withoutSaving, type FileFault } from "../weatherFile/index.ts";
import { gapsOf, stuckRuns, type Run } from "./clean.ts";
import { momentText } from "./hourly.ts";
import { MOST_READINGS, type Readings } from "./readings.ts";

/** How a file of trend data is to be read: its lines and times as of a weather file, and a point a column. */
export const pointMappingSchema = z.strictObject({
  ...layoutShape,
  at: z.enum(["interval", "stamp"]).describe("Values are means over the interval of their row, or what was read at its end."),
  columns: z
    .array(
      z.strictObject({
        column: z.number().int().min(0).max(999).describe("Place in a row, from 0."),
        name: z.string().min(1).max(200),
        unit: z.string().max(20),
        kind: z.enum(["reading", "counter", "sum"]).describe("A reading, a counter that rises, or a sum over the interval of its row."),
      }),
    )
    .max(200),
});
export type PointMapping = z.infer<typeof pointMappingSchema>;

/** What a file of trend data looks like at first sight. */
export interface PointFileGuess {
  readonly mapping: PointMapping;
  readonly heads: readonly string[];
  readonly rows: readonly (readonly string[])[];
  readonly shape: string;
}

/** Spellings of units in headers of trend logs, by what they are here. */
const SPELLINGS: readonly (readonly [RegExp, string])[] = [
  [/^(deg(rees)?[ _-]?)?c(elsius)?$/i, "°C"],
  [/^(deg(rees)?[ _-]?)?f(ahrenheit)?$/i, "°F"],
  [/^(percent|pct)$/i, "%"],
  [/^kwh$/i, "kWh"],
  [/^mwh$/i, "MWh"],
  [/^kw$/i, "kW"],
  [/^w$/i, "W"],
  [/^l\/?s$/i, "L/s"],
  [/^m3\/?h$/i, "m³/h"],
  [/^m3\/?s$/i, "m³/s"],
  [/^m3$/i, "m³"],
  [/^w\/?m2$/i, "W/m²"],
  [/^m\/?s$/i, "m/s"],
  [/^gpm$/i, "gpm"],
  [/^cfm$/i, "cfm"],
];

/** The unit a header names, and the name without it. */
function headParts(head: string): { name: string; unit: string | null } {
  const clean = head.replace(/_/g, " ").trim();
  const bracket = /^(.*?)[\s]*[([{]\s*([^)\]}]+?)\s*[)\]}]\s*$/.exec(clean);
  const last = /^(.*?)[\s,;]+([^\s,;]+)$/.exec(clean);
  for (const [found, sure] of [
    [bracket, true],
    [last, false],
  ] as const) {
    if (!found) continue;
    const raw = found[2].trim();
    const known = SPELLINGS.find(([re]) => re.test(raw))?.[1];
    const spelt = known ?? raw;
    // a word or letter that is a unit by chance counts only in brackets
    if (unitOfText(spelt) && spelt !== "" && (sure || (known !== undefined && raw.length > 1) || /[°/²³%]/.test(raw)) && found[1].trim() !== "")
      return { name: found[1].trim(), unit: spelt };
  }
  return { name: clean, unit: null };
}

/** Words by which the unit of a column without one may be told. */
function unitByWords(name: string, values: readonly number[]): string {
  if (/temp|\bt\b|sp$|set.?point/i.test(name)) return values.reduce((a, v) => a + v, 0) / Math.max(1, values.length) > 45 ? "°F" : "°C";
  if (/hum|\brh\b|valve|damper|position|speed/i.test(name)) return values.every((v) => v <= 1.2) ? "1" : "%";
  if (/meter|energy|kwh/i.test(name)) return "kWh";
  if (/power|\bkw\b/i.test(name)) return "kW";
  if (/co2/i.test(name)) return "1";
  return "1";
}

/** A column that never falls and rises in most rows counts. */
function counts(values: readonly number[]): boolean {
  if (values.length < 48) return false;
  let rises = 0;
  for (let i = 1; i < values.length; i++) {
    if (values[i] < values[i - 1]) return false;
    if (values[i] > values[i - 1]) rises++;
  }
  return rises > 0.2 * values.length && values[values.length - 1] > 20 * (values[1] - values[0]);
}

/** A first guess of how a file of trend data is to be read. @returns a sentence where it is no text of rows */
export function guessPointFile(text: string, name: string): PointFileGuess | string {
  const table = guessTable(text);
  if (typeof table === "string") return table;
  const { skip, delimiter, decimal, width, heads, rows, found } = table;
  const columns = Array.from({ length: width }, (_, c) => c)
    .filter((c) => !found.columns.includes(c) && table.valuesOf(c).length > 0)
    .map((column): PointMapping["columns"][number] => {
      const values = table.valuesOf(column);
      const { name: words, unit } = headParts(heads[column] ?? "");
      const title = (words || `Column ${column + 1}`).slice(0, 200);
      const named = unit ?? unitByWords(title, values);
      return { column, name: title, unit: named, kind: counts(values) && /Wh|m³|^L$|^gal$|^therm$|^1$|Btu/.test(named) ? "counter" : "reading" };
    });
  const mapping: PointMapping = {
    formatVersion: 1,
    name: name.replace(/\.[^.]*$/, "").slice(0, 200) || "Trend data",
    skip,
    delimiter,
    decimal,
    time: found.time,
    stamp: found.stamp,
    clock: found.columns.some((c) => /\b(utc|gmt)\b/i.test(heads[c] ?? "")) ? "utc" : "standard",
    shift: 0,
    at: "interval",
    columns,
    missing: table.missing(),
  };
  return { mapping, heads, rows: rows.slice(0, 8), shape: shapeOf(mapping, heads) };
}

/** What a column came to. */
export interface PointRead {
  readonly column: number;
  readonly name: string;
  readonly unit: string;
  readonly kind: PointMapping["columns"][number]["kind"];
  readonly readings: Readings;
  /** Share of the readings that are there; gaps and stretches that stand still, by places in the readings. */
  readonly coverage: number;
  readonly gaps: readonly Run[];
  readonly stuck: readonly Run[];
}
export type PointFileOutcome =
  | {
      readonly ok: true;
      readonly points: readonly PointRead[];
      readonly first: number;
      readonly last: number;
      readonly interval: number;
      readonly told: readonly string[];
    }
  | { readonly ok: false; readonly problems: readonly FileFault[] };

/** Values that stand still by nature: off, fully on, in shares and in per cent. */
export const AT_REST = [0, 1, 100] as const;
/** Hours for which a reading may show the same value before it is told as stuck. */
export const STUCK_HOURS = 24;

/** What is wrong with a mapping of trend data before any row is read, as sentences. */
export function pointMappingFaults(m: PointMapping): string[] {
  const faults: string[] = [];
  const seen = new Set<string>();
  if (m.columns.length === 0) faults.push("No column is taken: choose at least one.");
  for (const c of m.columns) {
    const unit = unitOfText(c.unit === "" ? "1" : c.unit);
    if (!unit) faults.push(`"${c.unit}" of ${c.name} is no unit Arroyo knows.`);
    else if (c.kind !== "reading" && unit.offset !== 0) faults.push(`${c.name} is in ${c.unit}: a temperature is no counter and no sum.`);
    if (seen.has(c.name)) faults.push(`Two columns are called "${c.name}"; give one of them another name.`);
    seen.add(c.name);
  }
  return faults;
}

/** Reads a file of trend data row by row into readings on an even grid of times. */
export class PointFileReader extends TableReader {
  private readonly mapping: PointMapping;
  private readonly timeZone: number;

  /** @param timeZone of the project's place, h from UTC, for times that are told in UTC */
  constructor(mapping: PointMapping, timeZone: number) {
    super(
      mapping,
      mapping.columns.map((c) => ({ column: c.column, kind: String(c.column) })),
    );
    this.mapping = mapping;
    this.timeZone = timeZone;
  }

  finish(): PointFileOutcome {
    this.end();
    const { mapping } = this;
    const no = (message: string, line = 0): PointFileOutcome => ({ ok: false, problems: [{ line, message }] });
    const faults = pointMappingFaults(mapping);
    if (faults.length > 0) return { ok: false, problems: faults.map((message) => ({ line: 0, message })) };
    if (this.tooMany) return no(`The file has more than ${MOST_ROWS / 1e6} million rows; cut it to the years wanted.`);
    const times = Float64Array.from(this.times.all);
    const bad = this.odd.get("time");
    if (times.length < 2 || (bad && bad.count > times.length))
      return bad
        ? no(`No time can be read here: "${bad.words}". ${bad.count} lines are like it.`, bad.line)
        : no(`The file has ${times.length} rows of values.`, this.line);
    const interval = intervalOf(times);
    if (interval === null) return no("The times of the rows do not go on from row to row.", mapping.skip + 1);
    const told: string[] = [];
    if (mapping.clock === "saving" && withoutSaving(times, interval) === 0)
      told.push("The clock is never put forward or back in this file; it is read as standard time.");
    const toEnd = mapping.stamp === "end" ? 0 : mapping.stamp === "start" ? interval : interval / 2;
    const shift = (mapping.clock === "utc" || this.utc ? 60 * this.timeZone : 0) + mapping.shift + toEnd;
    let [first, last] = [Infinity, -Infinity];
    for (let i = 0; i < times.length; i++) {
      times[i] += shift;
      first = Math.min(first, times[i]);
      last = Math.max(last, times[i]);
    }
    const count = Math.round((last - first) / interval) + 1;
    if (count > MOST_READINGS)
      return no(
        `From the first to the last time there would be ${count} readings of ${interval} min; at most ${MOST_READINGS} can be read. One of the times may be wrong.`,
      );
    // each row on the grid that the first one sets; of two on one place the later in the file counts
    const place = new Int32Array(times.length);
    const taken = new Uint8Array(count);
    let [twice, beside, back] = [0, 0, 0];
    for (let i = 0; i < times.length; i++) {
      const at = Math.round((times[i] - first) / interval);
      if (Math.abs(times[i] - first - at * interval) > interval / 4) beside++;
      if (taken[at] === 1) twice++;
      if (i > 0 && times[i] < times[i - 1]) back++;
      taken[at] = 1;
      place[i] = at;
    }
    const rows = (n: number): string => (n === 1 ? "1 row" : `${n} rows`);
    if (bad) told.push(`${bad.count === 1 ? "1 line has" : `${bad.count} lines have`} no time that can be read, the first is line ${bad.line}; left out.`);
    if (twice > 0) told.push(`${rows(twice)} ${twice === 1 ? "has" : "have"} the time of another; the later in the file counts.`);
    if (back > 0) told.push(`The time jumps back ${back === 1 ? "once" : `${back} times`}; rows are put where their times say.`);
    if (beside > 0)
      told.push(
        `${rows(beside)} ${beside === 1 ? "lies" : "lie"} between the times of the others by more than a quarter of ${interval} min; put to the nearest.`,
      );
    const start = first - interval;
    const points = mapping.columns.map((c, k): PointRead => {
      const values = new Float64Array(count).fill(NaN);
      const { values: raw } = this.read[k];
      for (let i = 0; i < times.length; i++) values[place[i]] = raw[i];
      const text = this.odd.get(`text ${c.column}`);
      if (text)
        told.push(
          `${text.count === 1 ? "1 value" : `${text.count} values`} of ${c.name} cannot be read, the first in line ${text.line}: "${text.words}"; taken as missing.`,
        );
      const gaps = gapsOf(values);
      const missing = gaps.reduce((n, g) => n + g.to - g.from, 0);
      return {
        column: c.column,
        name: c.name,
        unit: c.unit === "" ? "1" : c.unit,
        kind: c.kind,
        readings: { start, interval, at: mapping.at, values },
        coverage: 1 - missing / count,
        gaps,
        stuck: c.kind === "reading" ? stuckRuns(values, Math.ceil((STUCK_HOURS * 60) / interval), AT_REST) : [],
      };
    });
    return { ok: true, points, first: start, last, interval, told };
  }
}

/** A stretch of readings in words, "2025-02-03 14:00 to 2025-02-17 09:00". */
export const runWords = (r: Pick<Readings, "start" | "interval">, { from, to }: Run): string =>
  `${momentText(r.start + from * r.interval)} to ${momentText(r.start + to * r.interval)}`;
