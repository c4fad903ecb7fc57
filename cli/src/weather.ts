import path from "node:path";
import { parseArgs } from "node:util";
import {
  guessMapping,
  issueProblem,
  ProjectError,
  readJson,
  WeatherFileReader,
  weatherMappingSchema,
  writeWeatherCsv,
  type FileSite,
  type Problem,
  type WeatherMapping,
} from "@arroyo/core";
import { fileToWrite, readBytes, readText, UsageError, write, type Terminal } from "./files.ts";

/** Largest weather file, bytes. */
const MOST = 200 * 1024 * 1024;
/** Text looked at for a first guess, and text fed at a time. */
const HEAD = 400_000;
const PIECE = 4_000_000;

const refusal = (file: string, line: number, message: string): Problem => ({
  code: "weather",
  severity: "error",
  stage: "place",
  path: line > 0 ? `${path.basename(file)}:${line}` : path.basename(file),
  message,
});

/** Text of a file in UTF-8, or in the encoding of older Windows programs where it is none. */
function textOf(file: string): string {
  const bytes = readBytes(file, MOST);
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}

function mappingOf(file: string): WeatherMapping {
  const json = readJson(readText(file));
  if (!json.ok) throw new UsageError(`"${file}" is no JSON: ${json.message}`);
  const parsed = weatherMappingSchema.safeParse(json.value, { reportInput: true });
  if (parsed.success) return parsed.data;
  const { path: at, message } = issueProblem(parsed.error.issues[0]);
  throw new UsageError(`"${file}" is no mapping: ${at}: ${message}`);
}

/** Latitude, longitude, elevation and time zone, with commas between. */
function placeOf(text: string | undefined): FileSite | null {
  if (text === undefined) return null;
  const [latitude, longitude, elevation, timeZone, ...more] = text.split(",").map((t) => (t.trim() === "" ? NaN : Number(t)));
  const site = { name: "", latitude, longitude, elevation, timeZone };
  const within = (v: number, low: number, high: number): boolean => v >= low && v <= high;
  if (more.length > 0 || !within(latitude, -90, 90) || !within(longitude, -180, 180) || !within(elevation, -450, 6000) || !within(timeZone, -12, 14))
    throw new UsageError("--place is latitude, longitude, elevation and time zone with commas between: 39.4,-108.3,1600,-7.");
  return site;
}

/** What `arroyo weather FILE` may be given. */
export const WEATHER_FILE_OPTIONS = {
  mapping: { type: "string" },
  guess: { type: "string" },
  place: { type: "string" },
  year: { type: "string" },
  out: { type: "string" },
} as const;

/** Reads a weather file of any layout and writes it as Arroyo's weather CSV; what was found and mended is told. */
export function weatherFileCommand(file: string, args: readonly string[], terminal: Terminal): void {
  const { values } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: WEATHER_FILE_OPTIONS,
  });
  const text = textOf(file);
  const guess = guessMapping(text.slice(0, HEAD), path.basename(file));
  if (values.guess !== undefined) {
    if (typeof guess === "string") throw new ProjectError([refusal(file, 0, guess)]);
    fileToWrite(values.guess);
    write(values.guess, JSON.stringify(guess.mapping, null, 2) + "\n");
    terminal.out(`${values.guess}: how ${path.basename(file)} may be read; look at it, then give it with --mapping.`);
    if (values.out === undefined) return;
  }
  if (values.out === undefined) throw new UsageError("Say where to write the year: --out YEAR.csv.");
  const mapping =
    values.mapping === undefined
      ? typeof guess !== "string" && (guess.certain || values.guess !== undefined)
        ? guess.mapping
        : null
      : mappingOf(values.mapping);
  if (!mapping) {
    if (typeof guess === "string") throw new ProjectError([refusal(file, 0, guess)]);
    throw new UsageError(`Say how "${file}" is to be read: --mapping M.json. A first guess is written by --guess M.json.`);
  }
  const place = mapping.site ?? placeOf(values.place);
  if (!place) throw new UsageError("The file does not say where it was measured: --place LATITUDE,LONGITUDE,ELEVATION,TIME_ZONE.");
  const wanted = values.year === undefined ? undefined : Number(values.year);
  if (wanted !== undefined && !(Number.isInteger(wanted) && wanted > 0)) throw new UsageError(`--year is a calendar year, not "${values.year}".`);
  fileToWrite(values.out);
  const reader = new WeatherFileReader(mapping, place);
  for (let i = 0; i < text.length; i += PIECE) reader.feed(text.slice(i, i + PIECE));
  const outcome = reader.finish(place.name || path.basename(file).replace(/\.[^.]*$/, ""), wanted);
  if (!outcome.ok) throw new ProjectError(outcome.problems.map((p) => refusal(file, p.line, p.message)));
  for (const f of outcome.report.findings) terminal.out(f.message);
  for (const y of outcome.years)
    if (outcome.years.length > 1)
      terminal.out(`${y.year}: ${Math.round(100 * y.share)} % of it is in the file${y.year === outcome.weather.year ? ", read" : ""}`);
  write(values.out, writeWeatherCsv(outcome.weather));
}
