import {
  clearSkyGlobal,
  coverOfClearness,
  erbsDiffuseShare,
  extraterrestrial,
  relativeHumidity,
  saturationPressure,
  standardPressure,
  sunVector,
  wetBulbHumidity,
  weatherLimits,
  yearEpoch,
  type WeatherYear,
} from "../climate/index.ts";
import { isLeapYear, type YearDays } from "../model/index.ts";
import { pow } from "../numeric/index.ts";
import type { FileQuantity, FileSite } from "./mapping.ts";

export type HourColumns = Partial<Record<FileQuantity, Float64Array>>;
export type WeatherField = keyof typeof weatherLimits;

/** What an hour of a quantity is: as read, filled between its neighbours, filled from like days, derived, put right, or read and doubtful. */
export const HOUR = { read: 0, interpolated: 1, likeDay: 2, derived: 3, mended: 4, doubtful: 5 } as const;
export const hourWords = ["as read", "between its neighbours", "from like days", "derived", "put right", "as read, doubtful"] as const;

/** Something found in a weather file, and what was done about it. */
export interface WeatherFinding {
  readonly code: string;
  readonly field: WeatherField | null;
  readonly count: number;
  readonly message: string;
  /** Minutes to add to the clock of the file, where that puts it right. */
  readonly shift?: number;
}

export interface WeatherReport {
  readonly findings: readonly WeatherFinding[];
  /** By quantity and hour, see `HOUR`. */
  readonly flags: Readonly<Record<WeatherField, Uint8Array>>;
  /** Precipitation of the year, mm; null: none in the file. */
  readonly precipitation: number | null;
  /** Precipitation by month, mm. */
  readonly precipitationByMonth: readonly number[] | null;
}

/** Gaps up to this are filled between their neighbours, h; those of sun and cloud only where shorter. */
const SHORT_GAP = 6;
const SHORT_SUN_GAP = 2;
/** A year of which less is known is refused. */
const LEAST_KNOWN = 0.5;
/** What a value is likely an error beyond: change in an hour, and hours without any. */
const JUMP: Partial<Record<WeatherField, number>> = { dryBulb: 12, pressure: 1500, relativeHumidity: 70, windSpeed: 25 };
const STUCK: Partial<Record<WeatherField, number>> = { dryBulb: 12, windSpeed: 48, globalHorizontal: 4 };
/** Global against diffuse and beam: residual above both counts, W/m² and share. */
const CLOSURE = 30;
const CLOSURE_SHARE = 0.15;
/** Sun in the dark above this is told; less is the offset of an instrument. */
const DARK_SUN = 10;
/** Clearness of a day from which the middle of its sun tells the clock. */
const CLEAR_DAY = 0.55;
const FEWEST_CLEAR_DAYS = 10;
/** Clock error from which it is told, h, and what it is rounded to, min. */
const CLOCK_ERROR = 0.2;
const CLOCK_STEP = 15;
/** Pressure further from that of the elevation than this is likely reduced to sea level, share. */
const SEA_LEVEL = 0.04;
/** Wind where a file has none, m/s: typical, unverified. */
const USUAL_WIND = 3;

/** Sun on a horizontal plane above the air: cosine of the zenith and W/m², mean of each hour. */
function aboveAir(site: FileSite, days: YearDays, year: number | undefined): { cosine: Float64Array; top: Float64Array } {
  const key = `${site.latitude} ${site.longitude} ${site.timeZone} ${year ?? ""} ${days.days}`;
  const known = suns.get(key);
  if (known) return known;
  const cosine = new Float64Array(days.hours);
  const top = new Float64Array(days.hours);
  const epoch = yearEpoch(year, days.days > 365);
  for (let h = 0; h < days.hours; h++) {
    for (let k = 0; k < 4; k++) cosine[h] += Math.max(0, sunVector(h + (k + 0.5) / 4, site.latitude, site.longitude, site.timeZone, epoch)[2]) / 4;
    top[h] = extraterrestrial(Math.floor(h / 24)) * cosine[h];
  }
  if (suns.size > 4) suns.clear();
  const found = { cosine, top };
  suns.set(key, found);
  return found;
}
/** Suns of the last places and years, for the next look at the same file. */
const suns = new Map<string, { cosine: Float64Array; top: Float64Array }>();

/** Fills missing hours: short gaps by a line, longer ones by the same hour of the nearest days that have it. Returns false where nothing is known. */
export function fillGaps(values: Float64Array, flags: Uint8Array, shortest: number): boolean {
  const n = values.length;
  const known = (h: number): boolean => flags[h] === HOUR.read || flags[h] === HOUR.derived || flags[h] === HOUR.mended || flags[h] === HOUR.doubtful;
  const missing = Array.from({ length: n }, (_, h) => values[h] !== values[h]);
  if (missing.every(Boolean)) return false;
  const days = n / 24;
  // the year follows itself: from a known hour all the way round
  const start = missing.indexOf(false);
  for (let i = start; i < start + n;) {
    if (!missing[i % n]) {
      i++;
      continue;
    }
    let end = i;
    while (missing[end % n]) end++;
    const before = values[(i - 1) % n];
    const after = values[end % n];
    if (end - i <= shortest)
      for (let k = i; k < end; k++) {
        values[k % n] = before + ((after - before) * (k - i + 1)) / (end - i + 1);
        flags[k % n] = HOUR.interpolated;
      }
    i = end;
  }
  for (let h = 0; h < n; h++) {
    if (values[h] === values[h]) continue;
    let sum = 0;
    let weight = 0;
    for (let away = 1; away <= days / 2 && weight === 0; away++)
      for (const side of [-1, 1]) {
        const at = (h + side * 24 * away + n) % n;
        if (!missing[at] && known(at)) {
          sum += values[at];
          weight++;
        }
      }
    if (weight === 0) {
      // an hour of day that is never there: from the hour before
      values[h] = values[(h + n - 1) % n];
      flags[h] = HOUR.likeDay;
      continue;
    }
    values[h] = sum / weight;
    flags[h] = HOUR.likeDay;
  }
  return true;
}

const plural = (n: number): string => (n === 1 ? "1 hour" : `${n} hours`);

/**
 * Makes a weather year of hourly columns with gaps: checks them, puts right what is plainly wrong, derives what is not there
 * (humidity, pressure, the share of diffuse sun after Erbs, Klein and Duffie 1982, cloud) and fills gaps. All of it is counted and told.
 */
export function mendYear(
  columns: HourColumns,
  about: { readonly name: string; readonly year?: number; readonly site: FileSite; readonly days: YearDays },
  told: readonly WeatherFinding[] = [],
): { readonly ok: true; readonly weather: WeatherYear; readonly report: WeatherReport } | { readonly ok: false; readonly message: string } {
  const { site, days, year } = about;
  const { hours } = days;
  const findings: WeatherFinding[] = [...told];
  const flags = Object.fromEntries((Object.keys(weatherLimits) as WeatherField[]).map((f) => [f, new Uint8Array(hours)])) as Record<WeatherField, Uint8Array>;
  const tell = (code: string, field: WeatherField | null, count: number, message: string, shift?: number): void => {
    if (count > 0) findings.push({ code, field, count, message, ...(shift === undefined ? {} : { shift }) });
  };
  const column = (q: FileQuantity): Float64Array | null => (columns[q] ? Float64Array.from(columns[q]) : null);
  const none = (): Float64Array => new Float64Array(hours).fill(NaN);
  const countMissing = (a: Float64Array): number => a.reduce((s, v) => s + (v === v ? 0 : 1), 0);
  const dryBulb = column("dryBulb") ?? none();
  const known = 1 - countMissing(dryBulb) / hours;
  if (known < LEAST_KNOWN)
    return {
      ok: false,
      message: `Only ${Math.round(known * hours)} of ${hours} hours have a dry-bulb temperature; a year needs half of them. Check the time, the year and the column.`,
    };
  const fill = (values: Float64Array, field: WeatherField, shortest = SHORT_GAP): Float64Array | null => {
    const gaps = countMissing(values);
    if (gaps === 0) return values;
    if (!fillGaps(values, flags[field], shortest)) return null;
    const long = flags[field].reduce((s, f) => s + (f === HOUR.likeDay ? 1 : 0), 0);
    const { name } = weatherLimits[field];
    tell(
      "gap",
      field,
      gaps,
      `${plural(gaps)} of ${name} ${gaps === 1 ? "is" : "are"} missing: ${gaps - long} filled between their neighbours, ${long} from the same hour of the nearest days.`,
    );
    return values;
  };
  const doubt = (values: Float64Array, field: WeatherField, day: (h: number) => boolean = () => true): void => {
    const { name, unit } = weatherLimits[field];
    const most = JUMP[field];
    if (most !== undefined) {
      let jumps = 0;
      for (let h = 1; h < hours; h++)
        if (Math.abs(values[h] - values[h - 1]) > most) {
          jumps++;
          flags[field][h] = HOUR.doubtful;
        }
      tell("jump", field, jumps, `The ${name} changes by more than ${most} ${unit} within an hour, ${jumps === 1 ? "once" : `${jumps} times`}; left as read.`);
    }
    const long = STUCK[field];
    if (long === undefined) return;
    let stuck = 0;
    for (let h = 0; h < hours;) {
      let end = h + 1;
      while (end < hours && values[end] === values[h]) end++;
      if (end - h >= long && values[h] === values[h] && values[h] !== 0 && day(h)) {
        stuck += end - h;
        flags[field].fill(HOUR.doubtful, h, end);
      }
      h = end;
    }
    tell("stuck", field, stuck, `The ${name} stands still for ${long} hours and more, ${plural(stuck)} in all; left as read.`);
  };
  doubt(dryBulb, "dryBulb");
  fill(dryBulb, "dryBulb");

  // pressure: read, or that of the elevation
  const standard = standardPressure(site.elevation);
  let pressure = column("pressure");
  if (pressure && countMissing(pressure) < hours) {
    const mean = pressure.reduce((s, v) => s + (v === v ? v : 0), 0) / (hours - countMissing(pressure));
    if (Math.abs(mean / standard - 1) > SEA_LEVEL && Math.abs(mean / 101325 - 1) < SEA_LEVEL) {
      for (let h = 0; h < hours; h++) pressure[h] *= standard / 101325;
      flags.pressure.fill(HOUR.mended);
      tell(
        "sea level",
        "pressure",
        hours,
        `The pressure is on average ${Math.round(mean / 100)} hPa at ${site.elevation} m: it was reduced to sea level, and is brought back to the station's.`,
      );
    }
    doubt(pressure, "pressure");
    fill(pressure, "pressure");
  } else {
    pressure = new Float64Array(hours).fill(Math.round(standard));
    flags.pressure.fill(HOUR.derived);
    tell(
      "derived",
      "pressure",
      hours,
      `There is no pressure in the file; that of the standard atmosphere at ${site.elevation} m is taken, ${Math.round(standard)} Pa.`,
    );
  }

  // humidity: read, or from what else tells it
  let humidity = column("relativeHumidity") ?? none();
  const others: readonly [FileQuantity, string, (v: number, h: number) => number][] = [
    ["dewPoint", "dew point", (v, h) => (100 * saturationPressure(Math.min(v, dryBulb[h]))) / saturationPressure(dryBulb[h])],
    ["humidityRatio", "humidity ratio", (v, h) => 100 * relativeHumidity(dryBulb[h], v, (pressure as Float64Array)[h])],
    [
      "wetBulb",
      "wet-bulb temperature",
      (v, h) =>
        100 *
        relativeHumidity(
          dryBulb[h],
          Math.max(0, wetBulbHumidity(dryBulb[h], Math.min(v, dryBulb[h]), (pressure as Float64Array)[h])),
          (pressure as Float64Array)[h],
        ),
    ],
  ];
  for (const [q, words, of] of others) {
    const from = columns[q];
    if (!from) continue;
    let made = 0;
    for (let h = 0; h < hours; h++)
      if (humidity[h] !== humidity[h] && from[h] === from[h]) {
        humidity[h] = Math.max(0, Math.min(100, of(from[h], h)));
        flags.relativeHumidity[h] = HOUR.derived;
        made++;
      }
    tell("derived", "relativeHumidity", made, `The relative humidity of ${plural(made)} is derived from the ${words}.`);
  }
  doubt(humidity, "relativeHumidity");
  const filled = fill(humidity, "relativeHumidity");
  if (!filled) return { ok: false, message: "No hour has a humidity; check its column and unit." };
  humidity = filled.map((v) => Math.min(v, weatherLimits.relativeHumidity.max));
  const dry = humidity.reduce((s, v) => s + (v < 2 ? 1 : 0), 0);
  tell("unit", "relativeHumidity", dry > hours / 2 ? dry : 0, "The relative humidity is below 2 % in most hours: it is likely a share of 1; choose that unit.");

  // wind
  const wind = (q: "windSpeed" | "windDirection", usual: number, words: string): Float64Array => {
    const values = column(q);
    if (values && countMissing(values) < hours) {
      if (q === "windSpeed") doubt(values, q);
      fill(values, q);
      return values;
    }
    flags[q].fill(HOUR.derived);
    tell("derived", q, hours, words);
    return new Float64Array(hours).fill(usual);
  };
  const windSpeed = wind("windSpeed", USUAL_WIND, `There is no wind speed in the file; ${USUAL_WIND} m/s is taken throughout.`);
  const windDirection = wind("windDirection", 0, "There is no wind direction in the file; north is taken throughout.");

  // sun
  const { cosine, top } = aboveAir(site, days, year);
  let global = column("globalHorizontal");
  let diffuse = column("diffuseHorizontal");
  const normal = column("directNormal");
  const beam = column("beamHorizontal") ?? normal?.map((v, h) => v * cosine[h]) ?? null;
  const cloudRead = column("cloudCover");
  let made = 0;
  if (!global || countMissing(global) > 0) {
    global ??= none();
    if (beam && diffuse)
      for (let h = 0; h < hours; h++)
        if (global[h] !== global[h] && beam[h] === beam[h] && diffuse[h] === diffuse[h]) {
          global[h] = beam[h] + diffuse[h];
          flags.globalHorizontal[h] = HOUR.derived;
          made++;
        }
    tell("derived", "globalHorizontal", made, `The global irradiance of ${plural(made)} is the sum of diffuse and beam.`);
  }
  if (countMissing(global) === hours && cloudRead) {
    const clear = clearSkyGlobal({ ...site, dryBulb, ...(year === undefined ? {} : { year }) });
    for (let h = 0; h < hours; h++) {
      const cover = cloudRead[h];
      if (cover === cover) global[h] = clear[h] * (1 - 0.75 * pow(cover, 3.4));
    }
    flags.globalHorizontal.fill(HOUR.derived);
    tell(
      "derived",
      "globalHorizontal",
      hours,
      "There is no sun in the file; it is estimated from the cloud cover (Kasten and Czeplak 1980) under a standard clear sky.",
    );
  }
  if (countMissing(global) === hours) return { ok: false, message: "No hour has a global irradiance, nor what it could be derived from." };
  // a clock that runs wrong shows in the middle of the sun of clear days
  const shift = clockError(global, top);
  if (shift !== null && Math.abs(shift) >= CLOCK_ERROR) {
    const minutes = -CLOCK_STEP * Math.round((60 * shift) / CLOCK_STEP);
    tell(
      "clock",
      "globalHorizontal",
      hours,
      `The sun of clear days stands highest ${Math.abs(Math.round(60 * shift))} min ${shift > 0 ? "later" : "earlier"} than at this place: the clock, the stamp or the time zone is likely another. Adding ${minutes} min to every time would put it right.`,
      minutes,
    );
  }
  let dark = 0;
  for (let h = 0; h < hours; h++)
    if (top[h] === 0 && global[h] !== 0) {
      if (global[h] > DARK_SUN) dark++;
      if (global[h] > 0) flags.globalHorizontal[h] = HOUR.mended;
      global[h] = 0;
    }
  tell("dark", "globalHorizontal", dark, `${plural(dark)} ${dark === 1 ? "has" : "have"} sun while it is below the horizon; set to none.`);
  let over = 0;
  for (let h = 0; h < hours; h++)
    if (global[h] > 1.1 * top[h] + 50) {
      over++;
      flags.globalHorizontal[h] = HOUR.doubtful;
    }
  tell("above the air", "globalHorizontal", over, `${plural(over)} ${over === 1 ? "has" : "have"} more sun than there is above the air; left as read.`);
  doubt(global, "globalHorizontal", (h) => top[h] > 100);
  fill(global, "globalHorizontal", SHORT_SUN_GAP);
  if (global.some((_, h) => top[h] === 0 && flags.globalHorizontal[h] !== HOUR.read)) for (let h = 0; h < hours; h++) if (top[h] === 0) global[h] = 0;
  if (diffuse && beam) {
    let apart = 0;
    for (let h = 0; h < hours; h++) {
      const off = Math.abs(diffuse[h] + beam[h] - global[h]);
      if (off > CLOSURE && off > CLOSURE_SHARE * global[h] && columns.globalHorizontal) {
        apart++;
        flags.diffuseHorizontal[h] = HOUR.doubtful;
      }
    }
    tell(
      "closure",
      "diffuseHorizontal",
      apart,
      `In ${plural(apart)} the global irradiance is not diffuse plus beam, by more than ${100 * CLOSURE_SHARE} %; global and diffuse are taken.`,
    );
  }
  if (!diffuse && beam) {
    diffuse = global.map((g, h) => Math.max(0, g - beam[h]));
    flags.diffuseHorizontal.fill(HOUR.derived);
    tell("derived", "diffuseHorizontal", hours, "The diffuse irradiance is what the beam leaves of the global.");
  }
  diffuse ??= none();
  let split = 0;
  for (let h = 0; h < hours; h++)
    if (diffuse[h] !== diffuse[h]) {
      diffuse[h] = top[h] > 0 ? global[h] * erbsDiffuseShare(Math.min(1, global[h] / top[h])) : 0;
      flags.diffuseHorizontal[h] = HOUR.derived;
      if (global[h] > 0) split++;
    }
  tell("derived", "diffuseHorizontal", split, `The diffuse share of ${plural(split)} with sun is split off after Erbs, Klein and Duffie 1982.`);
  let cut = 0;
  for (let h = 0; h < hours; h++)
    if (diffuse[h] > global[h]) {
      if (diffuse[h] > global[h] + CLOSURE) cut++;
      if (diffuse[h] > global[h] + 1) flags.diffuseHorizontal[h] = HOUR.mended;
      diffuse[h] = global[h];
    }
  tell("diffuse", "diffuseHorizontal", cut, `In ${plural(cut)} the diffuse irradiance is larger than the global; cut to it.`);

  // cloud, for the infrared of the sky
  let cloudCover = cloudRead ?? none();
  if (countMissing(cloudCover) === hours) {
    cloudCover = cloudOfSun(global, top);
    flags.cloudCover.fill(HOUR.derived);
    tell("derived", "cloudCover", hours, "The cloud cover is derived from the clearness of the day's sun, at night between the days.");
  } else fill(cloudCover, "cloudCover");
  let infrared = column("infrared");
  if (infrared) {
    const lost = countMissing(infrared);
    if (lost > 0.2 * hours) {
      infrared = null;
      tell("infrared", "infrared", lost, `${plural(lost)} of infrared are missing; the sky model is used throughout.`);
    } else fill(infrared, "infrared");
  }
  if (year !== undefined && isLeapYear(year) !== days.days > 365) return { ok: false, message: `${year} has not ${days.days} days.` };
  const rain = columns.precipitation;
  const byMonth = rain
    ? Array.from({ length: 12 }, (_, m) => rain.subarray(24 * days.monthStart[m], 24 * days.monthStart[m + 1]).reduce((s, v) => s + (v === v ? v : 0), 0))
    : null;
  return {
    ok: true,
    weather: {
      name: about.name,
      ...(year === undefined ? {} : { year }),
      latitude: site.latitude,
      longitude: site.longitude,
      elevation: site.elevation,
      timeZone: site.timeZone,
      dryBulb,
      relativeHumidity: humidity,
      pressure,
      windSpeed,
      windDirection: windDirection.map((v) => ((v % 360) + 360) % 360),
      globalHorizontal: global,
      diffuseHorizontal: diffuse,
      cloudCover,
      infrared,
    },
    report: { findings, flags, precipitation: byMonth ? byMonth.reduce((a, b) => a + b, 0) : null, precipitationByMonth: byMonth },
  };
}

/** How much later than the sun's own noon the sun of clear days is highest, h; null: too few such days. */
function clockError(global: Float64Array, top: Float64Array): number | null {
  const off: number[] = [];
  for (let d = 0; d < global.length / 24; d++) {
    const sums = [0, 0, 0, 0];
    for (let h = 0; h < 24; h++) {
      const [g, t] = [global[24 * d + h], top[24 * d + h]];
      if (g !== g) {
        sums[2] = 0;
        break;
      }
      sums[0] += g;
      sums[1] += g * h;
      sums[2] += t;
      sums[3] += t * h;
    }
    if (sums[2] > 0 && sums[0] > CLEAR_DAY * sums[2]) off.push(sums[1] / sums[0] - sums[3] / sums[2]);
  }
  if (off.length < FEWEST_CLEAR_DAYS) return null;
  off.sort((a, b) => a - b);
  return off[Math.floor(off.length / 2)];
}

/** Cloud cover from the clearness of the sun by day, joined over the night: typical, unverified. */
function cloudOfSun(global: Float64Array, top: Float64Array): Float64Array {
  const cover = Float64Array.from(global, (g, h) => (top[h] > 100 ? coverOfClearness(g / top[h]) : NaN));
  // nights and polar nights: a line from evening to morning
  const flags = new Uint8Array(cover.length);
  if (!fillGaps(cover, flags, 24 * 200)) cover.fill(0.5);
  return cover;
}
