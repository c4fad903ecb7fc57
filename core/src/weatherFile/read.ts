import { COMMON_YEAR, isLeapYear, LEAP_YEAR, type YearDays } from "../model/index.ts";
import { atan2, cos, DEG, sin } from "../numeric/index.ts";
import { columnScale, fileQuantities, mappingFaults, type FileQuantity, type FileSite, type WeatherMapping } from "./mapping.ts";
import { mendYear, type HourColumns, type WeatherReport } from "./mend.ts";
import { minutesOf, timeOfRow, withoutSaving, yearOfMinutes } from "./times.ts";
import type { WeatherYear } from "../climate/index.ts";

/** Largest file, by its text: rows of more than a century of minutes are some other file. */
export const MOST_ROWS = 12_000_000;
const DAY = 24 * 60;
/** Readings further apart than so many intervals are not joined by a line. */
const JOINED = 2;
/** Least share of an hour that readings must cover for its mean. */
const COVERED = 0.5;

/** A sentence with the line of the file it is about; 0: the whole file. */
export interface FileFault {
  readonly line: number;
  readonly message: string;
}
export type WeatherFileOutcome =
  | {
      readonly ok: true;
      readonly weather: WeatherYear;
      readonly report: WeatherReport;
      /** Calendar years of the file with the share of each that is there; none in a typical one. */
      readonly years: readonly { readonly year: number; readonly share: number }[];
    }
  | { readonly ok: false; readonly problems: readonly FileFault[]; readonly years: readonly { readonly year: number; readonly share: number }[] };

/** Cells of a line. Quotes hold a delimiter; a blank delimiter takes any run of blanks. */
export function cellsOf(line: string, delimiter: string): string[] {
  if (delimiter === " ") return line.trim().split(/\s+/);
  if (!line.includes('"')) return line.split(delimiter);
  const cells: string[] = [];
  let cell = "";
  let quoted = false;
  for (let i = 0; i < line.length; i++) {
    const c = line[i];
    if (c === '"') {
      if (quoted && line[i + 1] === '"') {
        cell += '"';
        i++;
      } else quoted = !quoted;
    } else if (c === delimiter && !quoted) {
      cells.push(cell);
      cell = "";
    } else cell += c;
  }
  cells.push(cell);
  return cells;
}

/** Numbers that grow. */
class Column {
  values = new Float64Array(16384);
  length = 0;
  push(v: number): void {
    if (this.length === this.values.length) {
      const more = new Float64Array(2 * this.values.length);
      more.set(this.values);
      this.values = more;
    }
    this.values[this.length++] = v;
  }
  get all(): Float64Array {
    return this.values.subarray(0, this.length);
  }
}

/** First of a kind of oddity, and how many there are. */
interface Counted {
  count: number;
  line: number;
  words: string;
}

/** How the lines of a table of readings are parted and timed. */
export type TableLayout = Pick<WeatherMapping, "skip" | "delimiter" | "decimal" | "time" | "missing">;

/** Reads a text table row by row: text is fed in pieces of any length. What cannot be read is missing, counted and told. */
export class TableReader {
  private readonly table: TableLayout;
  private rest = "";
  protected line = 0;
  protected rows = 0;
  /** The times say how they lie to UTC. */
  protected utc = false;
  protected tooMany = false;
  protected readonly times = new Column();
  protected readonly read: readonly Column[];
  protected readonly odd = new Map<string, Counted>();
  private readonly places: readonly number[];
  private readonly kinds: readonly string[];
  private readonly missing: ReadonlySet<string>;
  private readonly comma: boolean;

  /** @param columns place in a row, and the word by which what is odd in it is told */
  constructor(table: TableLayout, columns: readonly { readonly column: number; readonly kind: string }[]) {
    this.table = table;
    this.places = columns.map((c) => c.column);
    this.kinds = columns.map((c) => c.kind);
    this.read = columns.map(() => new Column());
    this.missing = new Set(["", ...table.missing.map((t) => t.trim().toLowerCase())]);
    this.comma = table.decimal === ",";
  }

  /** Rows read so far. */
  get count(): number {
    return this.rows;
  }

  /** Takes the next piece of the text. */
  feed(text: string): void {
    const all = this.rest + text;
    let from = 0;
    for (;;) {
      const end = all.indexOf("\n", from);
      if (end < 0) break;
      this.take(all.charCodeAt(end - 1) === 13 && end > from ? all.slice(from, end - 1) : all.slice(from, end));
      from = end + 1;
    }
    this.rest = all.slice(from);
  }

  /** Takes the last line, which may have no end. */
  protected end(): void {
    if (this.rest !== "") this.take(this.rest);
    this.rest = "";
  }

  private note(kind: string, words: string): void {
    const known = this.odd.get(kind);
    if (known) known.count++;
    else this.odd.set(kind, { count: 1, line: this.line, words });
  }

  private take(line: string): void {
    this.line++;
    if (this.line <= this.table.skip || line.trim() === "") return;
    if (this.rows >= MOST_ROWS) {
      this.tooMany = true;
      return;
    }
    const cells = cellsOf(line, this.table.delimiter);
    const { minutes, utc } = timeOfRow(cells, this.rows, this.table.time);
    if (minutes !== minutes) return this.note("time", line.length > 60 ? `${line.slice(0, 60)}…` : line);
    this.rows++;
    this.utc ||= utc;
    this.times.push(minutes);
    for (let c = 0; c < this.read.length; c++) this.read[c].push(this.number(cells[this.places[c]], this.kinds[c]));
  }

  private number(cell: string | undefined, kind: string): number {
    const text = (cell ?? "").trim();
    if (this.missing.has(text.toLowerCase())) return NaN;
    const v = Number(this.comma ? text.replace(",", ".") : text);
    if (Number.isFinite(v)) return v;
    this.note(`text ${kind}`, text.slice(0, 30));
    return NaN;
  }
}

/**
 * Reads a weather file row by row: text is fed in pieces of any length, and `finish` makes the year. Nothing is refused for a
 * value that is missing or cannot be; all such are counted and told.
 */
export class WeatherFileReader extends TableReader {
  private readonly mapping: WeatherMapping;
  private readonly site: FileSite;

  /** @param place where it was measured, unless the mapping says */
  constructor(mapping: WeatherMapping, place: FileSite) {
    super(
      mapping,
      mapping.columns.map((c) => ({ column: c.column, kind: c.quantity })),
    );
    this.mapping = mapping;
    this.site = mapping.site ?? place;
  }

  /**
   * The year read. @param name of the year @param year calendar year wanted of a file of several; absent: the fullest, the earlier of equals
   */
  finish(name: string, year?: number): WeatherFileOutcome {
    this.end();
    const faults = mappingFaults(this.mapping).map((message) => ({ line: 0, message }));
    if (faults.length > 0) return { ok: false, problems: faults, years: [] };
    if (this.tooMany)
      return { ok: false, years: [], problems: [{ line: 0, message: `The file has more than ${MOST_ROWS / 1e6} million rows; cut it to the years wanted.` }] };
    const times = Float64Array.from(this.times.all);
    const badTimes = this.odd.get("time");
    if (times.length < 24 || (badTimes && badTimes.count > times.length))
      return {
        ok: false,
        years: [],
        problems: [
          badTimes
            ? { line: badTimes.line, message: `No time can be read here: "${badTimes.words}". ${badTimes.count} lines are like it.` }
            : { line: this.line, message: `The file has ${times.length} rows of values; a weather year needs more.` },
        ],
      };
    const interval = intervalOf(times);
    if (interval === null)
      return { ok: false, years: [], problems: [{ line: this.mapping.skip + 1, message: "The times of the rows do not go on from row to row." }] };
    if (interval > 180)
      return { ok: false, years: [], problems: [{ line: 0, message: `The rows are ${interval / 60} hours apart; at most three hours can be read.` }] };
    const steady = this.mapping.clock === "saving" && withoutSaving(times, interval) === 0;
    const local = (this.mapping.clock === "utc" || this.utc ? 60 * this.site.timeZone : 0) + this.mapping.shift;
    const toEnd = this.mapping.stamp === "end" ? 0 : this.mapping.stamp === "start" ? interval : interval / 2;
    const { typical } = this.mapping;
    const counts = new Map<number, number>();
    const yearOfRow = new Int32Array(times.length);
    for (let i = 0, last = NaN, start = 0, end = 0; i < times.length; i++) {
      const middle = times[i] + local + toEnd - interval / 2;
      if (!(middle >= start && middle < end)) {
        last = yearOfMinutes(middle);
        [start, end] = [minutesOf(last, 1, 1), minutesOf(last + 1, 1, 1)];
      }
      yearOfRow[i] = last;
      counts.set(last, (counts.get(last) ?? 0) + 1);
    }
    const share = (y: number): number => ((counts.get(y) ?? 0) * interval) / (DAY * (isLeapYear(y) ? 366 : 365));
    const years = typical ? [] : [...counts.keys()].sort((a, b) => a - b).map((y) => ({ year: y, share: Math.min(1, share(y)) }));
    const wanted = typical ? 0 : (year ?? years.reduce((a, b) => (b.share > a.share + 1e-3 ? b : a)).year);
    if (!typical && !counts.has(wanted)) return { ok: false, years, problems: [{ line: 0, message: `The file has no rows of ${wanted}.` }] };
    const days = !typical && isLeapYear(wanted) ? LEAP_YEAR : COMMON_YEAR;
    // minutes from the start of the year to the end of each row's interval; rows just outside stay for the readings at its ends
    const ends = new Float64Array(times.length);
    const length = DAY * days.days;
    let leapRows = 0;
    const order: number[] = [];
    for (let i = 0; i < times.length; i++) {
      const y = typical ? yearOfRow[i] : wanted;
      let end = times[i] + local + toEnd - minutesOf(y, 1, 1);
      if (typical && isLeapYear(y)) {
        const day = Math.floor((end - interval / 2) / DAY);
        if (day === 59) {
          leapRows++;
          continue;
        }
        if (day > 59) end -= DAY;
      }
      if (!typical && (end < -3 * interval || end > length + 4 * interval)) continue;
      ends[i] = end;
      order.push(i);
    }
    let sorted = true;
    for (let k = 1; k < order.length && sorted; k++) sorted = ends[order[k]] >= ends[order[k - 1]];
    if (!sorted) order.sort((a, b) => ends[a] - ends[b] || a - b);
    let twice = 0;
    const rows = order.filter((i, k) => {
      const again = k + 1 < order.length && ends[order[k + 1]] === ends[i];
      if (again) twice++;
      return !again;
    });
    const columns: Partial<Record<FileQuantity, Float64Array>> = {};
    for (const [k, c] of this.mapping.columns.entries()) {
      const scale = columnScale(c.quantity, c.unit, 60 * interval);
      if (!scale) continue;
      const { min, max } = fileQuantities[c.quantity];
      let beyond = 0;
      let first = NaN;
      const values = Float64Array.from(rows, (i) => {
        const v = this.read[k].values[i] * scale.factor + scale.offset;
        if (v >= min - slack(c.quantity) && v <= max) return Math.max(min, v);
        if (v === v) {
          if (beyond++ === 0) first = v;
        }
        return NaN;
      });
      if (beyond > 0) this.odd.set(`range ${c.quantity}`, { count: beyond, line: 0, words: String(Number(first.toPrecision(5))) });
      columns[c.quantity] = hourly(c.quantity, c.at, values, rows, ends, interval, toEnd, days, typical);
    }
    const told = [...this.odd].map(([kind, { count, line, words }]) => {
      const [what, quantity] = kind.split(" ") as [string, FileQuantity];
      const label = quantity in fileQuantities ? fileQuantities[quantity].label.toLowerCase() : "";
      const lines = count === 1 ? "1 value" : `${count} values`;
      return {
        code: what,
        field: null,
        count,
        message:
          what === "time"
            ? `${count === 1 ? "1 line has" : `${count} lines have`} no time that can be read, the first is line ${line}; left out.`
            : what === "text"
              ? `${lines} of ${label} cannot be read, the first in line ${line}: "${words}"; taken as missing. If that stands for missing values, add it there.`
              : `${lines} of ${label} cannot be, such as ${words} ${fileQuantities[quantity].unit}; taken as missing.`,
      };
    });
    if (steady)
      told.push({ code: "summer time", field: null, count: 1, message: "The clock is never put forward or back in this file; it is read as standard time." });
    if (twice > 0)
      told.push({
        code: "twice",
        field: null,
        count: twice,
        message: `${twice === 1 ? "1 row has" : `${twice} rows have`} the time of another; the later in the file counts.`,
      });
    if (leapRows > 0) told.push({ code: "leap day", field: null, count: leapRows, message: "29 February of a typical file is left out." });
    const made = mendYear(columns as HourColumns, { name, ...(typical ? {} : { year: wanted }), site: this.site, days }, told);
    return made.ok ? { ...made, years } : { ok: false, problems: [{ line: 0, message: made.message }], years };
  }
}

/** Night readings of the sun a little below nothing are nothing. */
const slack = (q: FileQuantity): number => (q.endsWith("Horizontal") || q === "directNormal" ? 20 : 0);

/** Usual step of the times, min; null where they do not go on. */
export function intervalOf(times: Float64Array): number | null {
  const counts = new Map<number, number>();
  for (let i = 1; i < times.length; i++) {
    const step = times[i] - times[i - 1];
    if (step > 0 && step <= DAY) counts.set(step, (counts.get(step) ?? 0) + 1);
  }
  let best: number | null = null;
  for (const [step, n] of counts) if (best === null || n > (counts.get(best) as number)) best = step;
  return best !== null && (counts.get(best) as number) > 0.4 * times.length ? best : null;
}

/** A quantity hour by hour: sun and rain as the mean or sum of each hour, all others at its end; NaN where too little is known. */
function hourly(
  quantity: FileQuantity,
  at: "stamp" | "interval",
  values: Float64Array,
  rows: readonly number[],
  ends: Float64Array,
  interval: number,
  toEnd: number,
  days: YearDays,
  typical: boolean,
): Float64Array {
  const { hours } = days;
  const year = 60 * hours;
  const mean = quantity.endsWith("Horizontal") || quantity === "directNormal";
  if (quantity === "windDirection") {
    const part = (of: (v: number) => number): Float64Array => hourly("windSpeed", at, values.map(of), rows, ends, interval, toEnd, days, typical);
    const [east, north] = [part((v) => sin(v * DEG)), part((v) => cos(v * DEG))];
    return east.map((e, h) => (Math.abs(e) + Math.abs(north[h]) > 0 ? (atan2(e, north[h]) / DEG + 360) % 360 : e * 0));
  }
  const sum = new Float64Array(hours);
  const weight = new Float64Array(hours);
  /** Adds a stretch of time in which a quantity has a mean value, shifted so that it falls into hours. */
  const spread = (from: number, to: number, value: number): void => {
    for (let h = Math.floor(from / 60); 60 * h < to; h++) {
      const inside = Math.min(to, 60 * (h + 1)) - Math.max(from, 60 * h);
      const k = typical ? ((h % hours) + hours) % hours : h;
      if (k < 0 || k >= hours || inside <= 0) continue;
      sum[k] += value * inside;
      weight[k] += inside;
    }
  };
  if (at === "interval" && (mean || quantity === "precipitation" || interval < 60)) {
    // instants of short intervals: the mean around the end of the hour
    const ahead = mean || quantity === "precipitation" ? 0 : -30;
    rows.forEach((i, k) => values[k] === values[k] && spread(ends[i] - interval + ahead, ends[i] + ahead, values[k]));
    const whole = quantity === "precipitation" ? 60 / interval : 1;
    return sum.map((s, h) => (weight[h] >= COVERED * 60 ? (s / weight[h]) * whole : NaN));
  }
  // readings at points of time, joined by lines
  const back = at === "stamp" ? toEnd : interval / 2;
  let time: number[] = [];
  let value: number[] = [];
  rows.forEach((i, k) => {
    if (values[k] !== values[k]) return;
    time.push(ends[i] - back);
    value.push(values[k]);
  });
  if (typical && time.length > 1) {
    // the year follows itself
    const few = Math.min(time.length, Math.ceil(180 / interval) + 2);
    time = [...time.slice(-few).map((t) => t - year), ...time, ...time.slice(0, few).map((t) => t + year)];
    value = [...value.slice(-few), ...value, ...value.slice(0, few)];
  }
  const reach = JOINED * interval;
  if (mean) {
    // irradiance read at a time: the mean of the lines over the hour
    for (let k = 1; k < time.length; k++)
      if (time[k] - time[k - 1] <= reach) {
        const pieces = Math.max(1, Math.ceil(interval / 5));
        for (let p = 0; p < pieces; p++) {
          const [a, b] = [p / pieces, (p + 1) / pieces];
          const step = time[k] - time[k - 1];
          spread(time[k - 1] + a * step, time[k - 1] + b * step, value[k - 1] + ((a + b) / 2) * (value[k] - value[k - 1]));
        }
      }
    return sum.map((s, h) => (weight[h] >= COVERED * 60 ? s / weight[h] : NaN));
  }
  const out = new Float64Array(hours).fill(NaN);
  let k = 0;
  for (let h = 0; h < hours; h++) {
    const t = 60 * (h + 1);
    while (k + 1 < time.length && time[k + 1] <= t) k++;
    if (time.length === 0 || time[k] > t) continue;
    if (time[k] === t) out[h] = value[k];
    else if (k + 1 < time.length && time[k + 1] - time[k] <= reach) out[h] = value[k] + ((value[k + 1] - value[k]) * (t - time[k])) / (time[k + 1] - time[k]);
  }
  return out;
}
