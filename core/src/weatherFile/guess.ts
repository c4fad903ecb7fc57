import { unitOfText } from "../model/index.ts";
import {
  columnScale,
  fileQuantities,
  fileQuantityNames,
  overInterval,
  unitsOfQuantity,
  type FileQuantity,
  type FileSite,
  type WeatherMapping,
} from "./mapping.ts";
import { cellsOf } from "./read.ts";
import { timeOfText } from "./times.ts";

/** What a file looks like at first sight. */
export interface FileGuess {
  readonly mapping: WeatherMapping;
  /** Cells of the header, one text a column; empty where there is none. */
  readonly heads: readonly string[];
  /** First rows of values. */
  readonly rows: readonly (readonly string[])[];
  /** Names the shape of the file: files of one station agree in it. */
  readonly shape: string;
  /** It is of a public layout that leaves no question. */
  readonly certain: boolean;
}

/** Words by which a header tells a quantity, the surest first. */
const WORDS: readonly (readonly [FileQuantity, RegExp])[] = [
  ["dewPoint", /dew.?p|taupunkt|ros[eé]e|roc[ií]o|\btd\b/i],
  ["wetBulb", /wet.?bulb|feucht(kugel|temp)|\btwb\b/i],
  ["humidityRatio", /humidity.?ratio|mixing.?ratio|absolut/i],
  ["relativeHumidity", /\brh(um)?\b|rel.*hum|hum(idity|idit[eé])?\b|feuchte|humedad|\brf\b|r\.?h\.?$/i],
  ["diffuseHorizontal", /diffus|\bdhi\b|\bdif\b/i],
  ["directNormal", /direct.?normal|\bdni\b|\bbni\b|beam.?normal|\bdirn/i],
  ["beamHorizontal", /(direct|beam|direkt).*(hor|h)\b|\bbhi\b|direktstrahlung/i],
  [
    "globalHorizontal",
    /global|\bghi\b|solar.?rad|\bsolar\b|irradian|shortwave|short.?wave|einstrahl|rayonnement|radiaci[oó]n|\brad(iation)?\b|\bsw(_?in|d)?\b/i,
  ],
  ["infrared", /infra|long.?wave|\bir\b|\blw(_?in|d)?\b|gegenstrahl/i],
  ["cloudCover", /cloud|totcld|bew[oö]lk|n[eé]bulosit[eé]|nubosidad|\boktas?\b/i],
  ["windDirection", /wind.*(dir|richt|head)|\bw(ind)?.?d(ir)?\b|wdir|direction.*vent|richtung|\bdd\b|direcci[oó]n/i],
  ["windSpeed", /wind|\bw(ind)?.?s(pd)?\b|wspd|vent|\bff\b|viento/i],
  ["pressure", /press|baro|luftdruck|druck|presi[oó]n|\bp(res)?\b|\bqfe\b|\bqnh\b/i],
  ["precipitation", /precip|rain|niederschlag|pluie|lluvia|lprecip/i],
  ["dryBulb", /dry.?bulb|air.?temp|temp|\bta\b|\bt\b|\bt_?(air|2m|out)\b|\btt\b|drybulb/i],
];
const TIME_WORDS: Readonly<Record<"year" | "month" | "day" | "hour" | "minute" | "date" | "time", RegExp>> = {
  year: /^\W*(year|yr|yyyy|jahr|a[nñ]o|ann[eé]e)\W*$/i,
  month: /^\W*(month|mo|mm|mon|monat|mes|mois)\W*$/i,
  day: /^\W*(day|dd|dy|tag|d[ií]a|jour|dom)\W*$/i,
  hour: /^\W*(hour|hr|hh|stunde|hora|heure)\W*$/i,
  minute: /^\W*(minute|min|mi|minuto)\W*$/i,
  date: /date|datum|fecha|^\W*day\W*$/i,
  time: /time|zeit|hora|heure|clock|\bhh/i,
};
const DELIMITERS = [";", "\t", "|", ",", " "] as const;
const MISSING = ["-9999", "-9900", "-999", "-99.9", "9999", "99999", "999.9", "na", "nan", "null", "none", "m", "-", "--", "---", "x"];
/** Lines looked at for a first guess. */
const LOOKED_AT = 4000;

const isNumber = (cell: string, decimal: string): boolean => {
  const t = cell.trim();
  return t !== "" && Number.isFinite(Number(decimal === "," ? t.replace(",", ".") : t));
};
const isTime = (cell: string): boolean => /\d{1,4}[-./]\d{1,2}[-./]\d{1,4}/.test(cell) || /^\s*\d{12,14}\s*$/.test(cell) || /^\s*\d{1,2}:\d{2}/.test(cell);

/** Delimiter and decimal sign under which most lines have equally many cells, and most of these are numbers. */
function layout(lines: readonly string[]): { delimiter: WeatherMapping["delimiter"]; decimal: "." | ","; width: number } {
  let best = { delimiter: "," as WeatherMapping["delimiter"], decimal: "." as "." | ",", width: 1 };
  let bestScore = -1;
  for (const delimiter of DELIMITERS)
    for (const decimal of [".", ","] as const) {
      if (decimal === "," && delimiter === ",") continue;
      const widths = new Map<number, number>();
      let numbers = 0;
      let cells = 0;
      for (const line of lines) {
        const row = cellsOf(line, delimiter);
        widths.set(row.length, (widths.get(row.length) ?? 0) + 1);
        for (const cell of row) {
          cells++;
          if (isNumber(cell, decimal) || isTime(cell) || cell.trim() === "") numbers++;
        }
      }
      const [width, often] = [...widths].reduce((a, b) => (b[1] > a[1] ? b : a), [1, 0]);
      if (width < 2) continue;
      const score = (often / lines.length) * (numbers / Math.max(1, cells)) * Math.min(1, width / 4) + (decimal === "." ? 0.001 : 0);
      if (score > bestScore) {
        bestScore = score;
        best = { delimiter, decimal, width };
      }
    }
  return best;
}

/** Unit named in a header, such as "Temp (°F)" or "wind_kmh". */
function unitInHead(head: string, quantity: FileQuantity): string | null {
  const found = new Set<string>();
  for (const m of head.matchAll(/[([{]\s*([^)\]}]+?)\s*[)\]}]/g)) found.add(m[1]);
  for (const part of head.split(/[\s_,;]+/)) found.add(part);
  const tidy = (t: string): string =>
    t
      .replace(/\^2|\*\*2/g, "²")
      .replace(/m-2/g, "m²")
      .replace(/^W\s?\/?\s?m²?2?$/i, "W/m²")
      .replace(/^Wh\s?\/?\s?m²?2?$/i, "Wh/m²")
      .replace(/^(deg(rees)?[ _]?)?C(elsius)?$/, "°C")
      .replace(/^(deg(rees)?[ _]?)?F(ahrenheit)?$/, "°F")
      .replace(/^(km\/?h|kph|kmh)$/i, "km/h")
      .replace(/^m\/?s(ec)?$|^m\.s-1$|^ms-1$/i, "m/s")
      .replace(/^(mbar|millibar|mb)$/i, "mbar")
      .replace(/^hpa$/i, "hPa")
      .replace(/^knots?$|^kts?$/i, "kn")
      .replace(/^percent$|^pct$/i, "%")
      .replace(/^(tenths?|10ths)$/i, "tenth")
      .replace(/^(oktas?|eighths?|8ths)$/i, "okta")
      .replace(/^(deg(rees)?)$/i, "°");
  for (const raw of found) {
    const unit = tidy(raw.trim());
    if (unit.length > 0 && unit.length < 12 && unitOfText(unit) && columnScale(quantity, unit, 3600) && (unit !== "1" || raw === "1")) {
      // a lone letter that is a unit by chance, such as the C of a name, counts only in brackets
      if (unit.length > 1 || head.includes(`(${raw}`) || head.includes(`[${raw}`)) return unitsOfQuantity[quantity].find((u) => u === unit) ?? unit;
    }
  }
  return null;
}

/** Unit a column is likely in by its values. */
function unitByValues(quantity: FileQuantity, values: readonly number[]): string {
  const most = Math.max(...values, -Infinity);
  const mean = values.reduce((a, b) => a + b, 0) / Math.max(1, values.length);
  if (quantity === "dryBulb" || quantity === "dewPoint" || quantity === "wetBulb") return mean > 200 ? "K" : most > 62 ? "°F" : "°C";
  if (quantity === "pressure") return mean > 5000 ? "Pa" : mean > 300 ? "hPa" : mean > 40 ? "kPa" : "inHg";
  if (quantity === "relativeHumidity") return most <= 1.5 ? "1" : "%";
  if (quantity === "cloudCover") return most > 10 ? "%" : most > 8 ? "tenth" : most > 1 ? "okta" : "1";
  if (quantity === "humidityRatio") return most > 0.2 ? "g/kg" : "kg/kg";
  return unitsOfQuantity[quantity][0];
}

/** What a column without a telling header may hold, by its values: a guess to be looked at. */
function quantityByValues(values: readonly number[], taken: ReadonlySet<FileQuantity>): FileQuantity | null {
  if (values.length < 24) return null;
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const zero = values.filter((v) => v === 0).length / values.length;
  const free = (q: FileQuantity): FileQuantity | null => (taken.has(q) ? null : q);
  if ((low > 300 && high < 1100 && high - low < 120) || (low > 30000 && high < 110000)) return free("pressure");
  if (zero > 0.25 && zero < 0.75 && high > 150 && high < 1500) return free("globalHorizontal") ?? free("diffuseHorizontal");
  if (low >= 0 && high <= 360 && high > 200 && values.every((v) => Number.isInteger(v) || v % 0.5 === 0)) return free("windDirection");
  if (low >= 0 && high <= 105 && high > 60 && high - low > 15) return free("relativeHumidity");
  if (low >= 0 && high < 40 && values.reduce((a, b) => a + b, 0) / values.length < 12 && zero < 0.5)
    return free("dryBulb") && low < 5 && high > 18 ? "dryBulb" : free("windSpeed");
  if (low > -60 && high < 60 && high - low > 3) return free("dryBulb");
  return null;
}

/** The public layout of typical years of the third issue: two header lines, the station in the first. */
function tmy3(lines: readonly string[]): FileGuess | null {
  const head = cellsOf(lines[1] ?? "", ",");
  if (!/^Date \(MM\/DD\/YYYY\)$/i.test(head[0]?.trim() ?? "") || !/^Time \(HH:MM\)$/i.test(head[1]?.trim() ?? "")) return null;
  const station = cellsOf(lines[0], ",").map((c) => c.trim());
  const number = (i: number): number => Number(station[i]);
  const site: FileSite = { name: station[1] ?? "", timeZone: number(3), latitude: number(4), longitude: number(5), elevation: number(6) };
  if (![site.timeZone, site.latitude, site.longitude, site.elevation].every(Number.isFinite)) return null;
  const columns: WeatherMapping["columns"] = [];
  const add = (name: RegExp, quantity: FileQuantity, unit: string): void => {
    const column = head.findIndex((h) => name.test(h.trim()));
    if (column >= 0) columns.push({ column, quantity, unit, at: overInterval.has(quantity) ? "interval" : "stamp" });
  };
  add(/^GHI \(W/i, "globalHorizontal", "W/m²");
  add(/^DNI \(W/i, "directNormal", "W/m²");
  add(/^DHI \(W/i, "diffuseHorizontal", "W/m²");
  add(/^TotCld \(/i, "cloudCover", "tenth");
  add(/^Dry-bulb \(C\)/i, "dryBulb", "°C");
  add(/^Dew-point \(C\)/i, "dewPoint", "°C");
  add(/^RHum \(%\)/i, "relativeHumidity", "%");
  add(/^Pressure \(mbar\)/i, "pressure", "mbar");
  add(/^Wdir \(deg/i, "windDirection", "°");
  add(/^Wspd \(m\/s\)/i, "windSpeed", "m/s");
  add(/^Lprecip depth \(mm\)/i, "precipitation", "mm");
  return {
    mapping: {
      formatVersion: 1,
      name: "TMY3",
      skip: 2,
      delimiter: ",",
      decimal: ".",
      time: { kind: "date and time", date: 0, time: 1, order: "mdy" },
      stamp: "end",
      clock: "standard",
      shift: 0,
      typical: true,
      columns,
      missing: ["-9900", "-9900.0"],
      site,
    },
    heads: head,
    rows: lines.slice(2, 10).map((l) => cellsOf(l, ",")),
    shape: "tmy3",
    certain: columns.some((c) => c.quantity === "dryBulb") && columns.some((c) => c.quantity === "globalHorizontal"),
  };
}

/** A text of rows as it looks at first sight. */
export interface TableGuess {
  readonly skip: number;
  readonly delimiter: WeatherMapping["delimiter"];
  readonly decimal: WeatherMapping["decimal"];
  readonly width: number;
  /** Cells of the header, one text a column; empty where there is none. */
  readonly heads: readonly string[];
  readonly named: boolean;
  /** First rows of values. */
  readonly rows: readonly (readonly string[])[];
  readonly found: ReturnType<typeof guessTime>;
  /** Numbers of a column in these rows. */
  valuesOf(column: number): number[];
  /** Words for a missing value that were met so far. */
  missing(): string[];
}

/** Whether the first part of a text is text at all; else the sentence that says so. */
const noText = (text: string): string | null =>
  /[\u0000-\u0008\u000e-\u001a]/.test(text.slice(0, 4000)) ? "This is no text file: it holds bytes that no text has." : null;
function linesOf(text: string): string[] {
  const lines = (text.charCodeAt(0) === 0xfeff ? text.slice(1) : text).split(/\r?\n/);
  // the last may be cut off
  if (lines.length > 2) lines.pop();
  return lines;
}

/** A first guess of how a text parts into rows, columns and times. @param text its first part; @returns a sentence where it is no text of rows */
export function guessTable(text: string): TableGuess | string {
  const none = noText(text);
  return none ?? tableOf(linesOf(text));
}

function tableOf(lines: readonly string[]): TableGuess | string {
  const filled = lines.slice(0, LOOKED_AT).filter((l) => l.trim() !== "");
  if (filled.length < 3) return "The file has fewer than three lines of text.";
  const body = filled.slice(Math.min(filled.length - 1, Math.max(1, Math.floor(filled.length / 10))));
  const { delimiter, decimal, width } = layout(body.slice(0, 300));
  if (width < 2) return "No delimiter parts the lines of this file into columns.";
  const rowLike = (line: string): boolean => {
    const cells = cellsOf(line, delimiter);
    const good = cells.filter((c) => isNumber(c, decimal) || isTime(c)).length;
    return cells.length >= width - 1 && good >= Math.max(2, 0.5 * cells.filter((c) => c.trim() !== "").length);
  };
  const skip = lines.findIndex((line, i) => rowLike(line) && lines.slice(i + 1, i + 4).every((l) => l.trim() === "" || rowLike(l)));
  if (skip < 0) return "No rows of numbers were found in the first lines of this file.";
  const headerLines = lines.slice(0, skip).map((l) => cellsOf(l, delimiter));
  const rows = lines
    .slice(skip, skip + LOOKED_AT)
    .filter((l) => l.trim() !== "")
    .map((l) => cellsOf(l, delimiter));
  // titles have few cells, names and units of columns nearly all
  const wide = headerLines.filter((c) => c.length >= width - 1 && c.filter((t) => t.trim() !== "").length > width / 2);
  const heads = Array.from({ length: width }, (_, c) =>
    wide
      .map((h) => (h[c] ?? "").trim())
      .filter((t) => t !== "")
      .join(" "),
  );
  const named = headerLines.length > 0 && wide.length > 0;
  const number = (cell: string): number => Number(decimal === "," ? cell.trim().replace(",", ".") : cell.trim());
  const codes = new Set<string>();
  const valuesOf = (c: number): number[] =>
    rows.flatMap((r) => {
      const cell = (r[c] ?? "").trim();
      if (MISSING.includes(cell.toLowerCase())) {
        codes.add(cell.toLowerCase());
        return [];
      }
      const v = number(cell);
      return cell !== "" && Number.isFinite(v) ? [v] : [];
    });
  return { skip, delimiter, decimal, width, heads, named, rows, found: guessTime(heads, rows, named), valuesOf, missing: () => [...codes] };
}

/**
 * A first guess of how a weather file is to be read, from the first part of its text.
 * @param name of the file; @returns a sentence where it is no text of rows at all
 */
export function guessMapping(text: string, name: string): FileGuess | string {
  const none = noText(text);
  if (none !== null) return none;
  const lines = linesOf(text);
  const public3 = tmy3(lines);
  if (public3) return public3;
  const table = tableOf(lines);
  if (typeof table === "string") return table;
  const { skip, delimiter, decimal, width, heads, named, rows, found, valuesOf } = table;
  const used = new Set(found.columns);
  const taken = new Set<FileQuantity>();
  const columns: WeatherMapping["columns"] = [];
  const put = (c: number, quantity: FileQuantity): void => {
    const values = valuesOf(c);
    taken.add(quantity);
    used.add(c);
    columns.push({
      column: c,
      quantity,
      unit: unitInHead(heads[c], quantity) ?? unitByValues(quantity, values),
      at: overInterval.has(quantity) ? "interval" : "stamp",
    });
  };
  // the surest words choose first, so that "dew point temperature" is not taken for the temperature
  for (const [quantity, words] of WORDS)
    for (let c = 0; c < width && !taken.has(quantity); c++) if (!used.has(c) && heads[c] !== "" && words.test(heads[c].replace(/_/g, " "))) put(c, quantity);
  if (!named)
    for (let c = 0; c < width; c++) {
      if (used.has(c)) continue;
      const quantity = quantityByValues(valuesOf(c), taken);
      if (quantity) put(c, quantity);
    }
  for (let c = 0; c < width; c++) if (!used.has(c)) valuesOf(c);
  columns.sort((a, b) => a.column - b.column);
  const years = rows.map((r) => found.year(r)).filter((y): y is number => y !== null && Number.isFinite(y));
  // months that come from different years: the year jumps, or goes back, from one row to the next
  const patched = years.some((y, i) => i > 0 && (y < years[i - 1] || y > years[i - 1] + 1));
  const mapping: WeatherMapping = {
    formatVersion: 1,
    name: name.replace(/\.[^.]*$/, "").slice(0, 200) || "Weather file",
    skip,
    delimiter,
    decimal,
    time: found.time,
    stamp: found.stamp,
    clock: "standard",
    shift: 0,
    typical: years.length === 0 || patched,
    columns,
    missing: table.missing(),
    site: null,
  };
  return { mapping, heads, rows: rows.slice(0, 8), shape: shapeOf(mapping, heads), certain: false };
}

/** Names a shape by what stays from file to file of one source: its delimiter, its columns and their heads. */
export const shapeOf = (m: Pick<WeatherMapping, "delimiter" | "decimal" | "skip">, heads: readonly string[]): string =>
  `${m.delimiter}${m.decimal} ${m.skip} ${heads.length} ${heads.join("|").toLowerCase()}`.slice(0, 1000);

function guessTime(
  heads: readonly string[],
  rows: readonly (readonly string[])[],
  named: boolean,
): { time: WeatherMapping["time"]; columns: number[]; stamp: WeatherMapping["stamp"]; year: (row: readonly string[]) => number | null } {
  const first = rows[0];
  const cells = (c: number): string[] => rows.map((r) => r[c] ?? "");
  const yearOf = (text: string, order: "iso" | "ymd" | "dmy" | "mdy"): number | null => {
    const { minutes } = timeOfText(text, order);
    return Number.isFinite(minutes) ? Math.floor(minutes / 525949) : null;
  };
  for (let c = 0; c < first.length; c++) {
    const text = (first[c] ?? "").trim();
    const date = /\d{1,4}[-./]\d{1,2}[-./]\d{1,4}/.test(text);
    const compact = /^\d{12,14}$/.test(text);
    if (!date && !compact) continue;
    const order = compact ? "iso" : orderOf(cells(c));
    const withTime = compact || /\d{1,2}:\d{2}/.test(text) || /T\d{2}/.test(text);
    const clock = withTime
      ? -1
      : first.findIndex(
          (x, k) => k !== c && (/^\s*\d{1,2}:\d{2}/.test(x ?? "") || (named && TIME_WORDS.time.test(heads[k]) && /^\s*\d{1,4}\s*$/.test(x ?? ""))),
        );
    if (clock >= 0) {
      const plain = order === "iso" ? "ymd" : order;
      return {
        time: { kind: "date and time", date: c, time: clock, order: plain },
        columns: [c, clock],
        stamp: stampOf(cells(clock)),
        year: (r) => yearOf(r[c] ?? "", plain),
      };
    }
    return {
      time: { kind: "one column", column: c, order },
      columns: [c],
      stamp: withTime ? stampOf(cells(c)) : "end",
      year: (r) => yearOf(r[c] ?? "", order),
    };
  }
  const part = (what: "year" | "month" | "day" | "hour" | "minute"): number => heads.findIndex((h) => TIME_WORDS[what].test(h));
  let [year, month, day, hour] = [part("year"), part("month"), part("day"), part("hour")];
  const minute = part("minute");
  if (month < 0 || day < 0) {
    // columns of whole numbers that count like a calendar
    const whole = (c: number, low: number, high: number): boolean =>
      rows.every((r) => {
        const v = Number((r[c] ?? "").trim() || NaN);
        return Number.isInteger(v) && v >= low && v <= high;
      });
    const at = whole(0, 1900, 2200) ? 1 : 0;
    if (whole(at, 1, 12) && whole(at + 1, 1, 31) && whole(at + 2, 0, 24)) [year, month, day, hour] = [at === 1 ? 0 : -1, at, at + 1, at + 2];
  }
  if (month >= 0 && day >= 0)
    return {
      time: { kind: "parts", year: year < 0 ? null : year, month, day, hour: hour < 0 ? null : hour, minute: minute < 0 ? null : minute },
      columns: [year, month, day, hour, minute].filter((c) => c >= 0),
      stamp: hour >= 0 && cells(hour).some((h) => Number(h) === 24) ? "end" : hour >= 0 && Number(rows[0][hour]) === 1 ? "end" : "start",
      year: (r) => (year < 0 ? null : Number(r[year])),
    };
  return { time: { kind: "none", minutes: 60 }, columns: [], stamp: "end", year: () => null };
}

/** Order of day and month: ISO where the year comes first, else by which number passes twelve or changes from day to day. */
function orderOf(texts: readonly string[]): "iso" | "dmy" | "mdy" {
  const n = texts.map((t) => (t.match(/\d+/g) ?? []).map(Number)).filter((x) => x.length >= 3);
  if (n.length === 0 || /^\s*\d{4}/.test(texts[0])) return "iso";
  if (n.some((x) => x[0] > 12)) return "dmy";
  if (n.some((x) => x[1] > 12)) return "mdy";
  const changes = (k: number): number => n.reduce((s, x, i) => s + (i > 0 && x[k] !== n[i - 1][k] ? 1 : 0), 0);
  return changes(0) > changes(1) || (changes(0) === changes(1) && texts[0].includes(".")) ? "dmy" : "mdy";
}

/** Where the stamp lies by the first row: a first time of midnight is the start of an interval, a 24:00 or a first interval's end the end. */
function stampOf(texts: readonly string[]): "start" | "end" {
  if (texts.some((t) => /\b24:00/.test(t))) return "end";
  const first = /(\d{1,2}):(\d{2})/.exec(texts[0]) ?? /^\s*\d{8}(\d{2})(\d{2})/.exec(texts[0]);
  if (first) return Number(first[1]) === 0 && Number(first[2]) === 0 ? "start" : "end";
  return Number(texts[0]) === 0 ? "start" : "end";
}

/** All quantities with their labels, for choosing. */
export const quantityChoices = fileQuantityNames.map((value) => ({ value, label: fileQuantities[value].label }));
