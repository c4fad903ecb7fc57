import { daysOf, weatherLimits, type WeatherYear } from "../climate/index.ts";
import { COMMON_YEAR, dateOfDay, dayOfYear, isLeapYear, LEAP_YEAR, type YearDays } from "../model/index.ts";

export type WeatherOutcome =
  { readonly ok: true; readonly weather: WeatherYear } | { readonly ok: false; readonly problems: readonly { line: number; message: string }[] };

interface Column {
  readonly head: string;
  readonly field: keyof typeof weatherLimits;
  readonly optional?: boolean;
}

const COLUMNS: readonly Column[] = [
  { head: "dry_bulb (°C)", field: "dryBulb" },
  { head: "relative_humidity (%)", field: "relativeHumidity" },
  { head: "pressure (Pa)", field: "pressure" },
  { head: "wind_speed (m/s)", field: "windSpeed" },
  { head: "wind_direction (deg)", field: "windDirection" },
  { head: "global_horizontal (W/m2)", field: "globalHorizontal" },
  { head: "diffuse_horizontal (W/m2)", field: "diffuseHorizontal" },
  { head: "cloud_cover (1)", field: "cloudCover" },
  { head: "infrared_horizontal (W/m2)", field: "infrared", optional: true },
];
const LONGEST_NAME = 200;
const STAMP = "end of hour; temperature, humidity, pressure, wind, cloud and infrared at the stamp, solar radiation as the mean of the hour before it";

/** Writes a weather year as our weather CSV (docs/weather-csv.md). Reading it back gives the same numbers. */
export function writeWeatherCsv(w: WeatherYear): string {
  const columns = COLUMNS.filter((c) => c.field !== "infrared" || w.infrared);
  const lines = [
    "# arroyo-weather: 1",
    `# site: ${w.name}`,
    ...(w.year === undefined ? [] : [`# year: ${w.year}`]),
    `# latitude: ${w.latitude}`,
    `# longitude: ${w.longitude}`,
    `# elevation: ${w.elevation}`,
    `# time_zone: ${w.timeZone}`,
    `# stamp: ${STAMP}`,
    ["month", "day", "hour", ...columns.map((c) => c.head)].join(","),
  ];
  const year = daysOf(w);
  for (let i = 0; i < year.hours; i++) {
    lines.push([...dateOfDay(Math.floor(i / 24), year), (i % 24) + 1, ...columns.map((c) => (w[c.field] as Float64Array)[i])].join(","));
  }
  return lines.join("\n") + "\n";
}

/**
 * Reads our weather CSV. Every hour must be there once, in order, with possible values; problems carry line numbers. A measured year states
 * its year and has the days of that year; a year that states none has 29 February where rows of it are there.
 */
export function readWeatherCsv(text: string): WeatherOutcome {
  const problems: { line: number; message: string }[] = [];
  const lines = (text.charCodeAt(0) === 0xfeff ? text.slice(1) : text).split(/\r?\n/);
  const header = new Map<string, string>();
  let at = 0;
  while (at < lines.length && lines[at].startsWith("#")) {
    const split = lines[at].indexOf(":");
    if (split > 0) header.set(lines[at].slice(1, split).trim(), lines[at].slice(split + 1).trim());
    at++;
  }
  if (header.get("arroyo-weather") !== "1")
    return { ok: false, problems: [{ line: 1, message: 'The first line must be "# arroyo-weather: 1"; this is not an Arroyo weather CSV.' }] };
  const number = (key: string, min: number, max: number): number => {
    const text = header.get(key) ?? "";
    const v = text === "" ? NaN : Number(text);
    if (!(v >= min && v <= max)) problems.push({ line: 1, message: `The header needs "${key}" as a number from ${min} to ${max}.` });
    return v;
  };
  const latitude = number("latitude", -90, 90);
  const longitude = number("longitude", -180, 180);
  const elevation = number("elevation", -450, 6000);
  const timeZone = number("time_zone", -12, 14);
  const year = header.has("year") ? number("year", 1900, 2200) : undefined;
  if (year !== undefined && !Number.isInteger(year) && problems.length === 0)
    problems.push({ line: 1, message: `The header's "year" is ${header.get("year")}; it must be a whole number.` });
  const site = header.get("site") ?? "";
  if (site.length > LONGEST_NAME || /[\u0000-\u001f]/.test(site))
    problems.push({ line: 1, message: `The header's "site" is a name of at most ${LONGEST_NAME} characters, none of them a control character.` });
  if (header.get("stamp") !== STAMP) problems.push({ line: 1, message: `The header needs "stamp: ${STAMP}".` });
  const heads = (lines[at] ?? "").split(",").map((s) => s.trim());
  const place = COLUMNS.map((c) => heads.indexOf(c.head));
  COLUMNS.forEach((c, k) => {
    if (place[k] < 0 && !c.optional) problems.push({ line: at + 1, message: `The column "${c.head}" is missing.` });
  });
  ["month", "day", "hour"].forEach((h, k) => {
    if (heads[k] !== h) problems.push({ line: at + 1, message: `Column ${k + 1} must be "${h}".` });
  });
  if (problems.length > 0) return { ok: false, problems };
  const hasLeapDay = lines.some((l) => /^\s*0?2\s*,\s*29\s*,/.test(l));
  const days = (year === undefined ? hasLeapDay : isLeapYear(year)) ? LEAP_YEAR : COMMON_YEAR;
  const { hours } = days;
  const data = COLUMNS.map((_, k) => (place[k] >= 0 ? new Float64Array(hours) : null));
  let row = 0;
  for (let l = at + 1; l < lines.length && problems.length < 20; l++) {
    if (lines[l].trim() === "") continue;
    if (row >= hours) {
      problems.push({ line: l + 1, message: `There are more than ${hours} hours, which a year of ${days.days} days has.` });
      break;
    }
    const cells = lines[l].split(",");
    const expected = stampOf(row, days);
    const month = Number(cells[0]);
    const day = Number(cells[1]);
    const hour = Number(cells[2]);
    const valid = month >= 1 && month <= 12 && day >= 1 && day <= days.monthDays[month - 1] && hour >= 1 && hour <= 24;
    const got = valid ? dayOfYear(month, day, days) * 24 + hour - 1 : -1;
    if (got !== row) {
      const message =
        got > row
          ? `${got - row === 1 ? `Hour ${expected} is` : `${got - row} hours from ${expected} are`} missing before this line.`
          : got < 0
            ? month === 2 && day === 29
              ? `${year} has no 29 February.`
              : `"${cells.slice(0, 3).join(",")}" is not a month, day and hour.`
            : `Hour ${stampOf(got, days)} comes again or out of order.`;
      problems.push({ line: l + 1, message });
      if (got < row) break;
      row = got;
    }
    COLUMNS.forEach((c, k) => {
      const column = data[k];
      if (!column) return;
      const cell = (cells[place[k]] ?? "").trim();
      const v = cell === "" ? NaN : Number(cell);
      const { min, max } = weatherLimits[c.field];
      if (!(v >= min && v <= max))
        problems.push({ line: l + 1, message: `${c.head} is ${cell === "" ? "empty" : `"${cell}"`}; it must be from ${min} to ${max}.` });
      column[row] = v;
    });
    row++;
  }
  if (problems.length === 0 && row < hours)
    problems.push({ line: lines.length, message: `${hours - row} hours are missing at the end, from ${stampOf(row, days)}.` });
  for (let i = 0; i < hours && problems.length === 0; i++) {
    const g = (data[5] as Float64Array)[i];
    const d = (data[6] as Float64Array)[i];
    if (d > g + 0.5) problems.push({ line: at + 2 + i, message: `Diffuse irradiance ${d} is larger than global ${g}.` });
  }
  if (problems.length > 0) return { ok: false, problems };
  const [dryBulb, relativeHumidity, pressure, windSpeed, windDirection, globalHorizontal, diffuseHorizontal, cloudCover, infrared] = data as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array | null,
  ];
  return {
    ok: true,
    weather: {
      name: site,
      ...(year === undefined ? {} : { year }),
      latitude,
      longitude,
      elevation,
      timeZone,
      dryBulb,
      relativeHumidity,
      pressure,
      windSpeed,
      windDirection,
      globalHorizontal,
      diffuseHorizontal,
      cloudCover,
      infrared,
    },
  };
}

const stampOf = (row: number, days: YearDays): string => `${dateOfDay(Math.floor(row / 24), days).join("/")} ${(row % 24) + 1}:00`;
