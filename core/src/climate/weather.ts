import { COMMON_YEAR, isLeapYear, LEAP_DAY, LEAP_YEAR, quantity, type Problem, type Project, type YearDays } from "../model/index.ts";
import { DEG, hashFloats, sin } from "../numeric/index.ts";
import { dewPoint, humidityRatio, saturationPressure } from "./psychrometrics.ts";
import { clarkAllenEmissivity, skyEmissivity, STEFAN_BOLTZMANN } from "./sky.ts";
import { sunVector, yearEpoch } from "./sun.ts";

/** Hours of a typical year. */
export const HOURS = COMMON_YEAR.hours;
export const MONTH_DAYS = COMMON_YEAR.monthDays;
export const MONTH_START = COMMON_YEAR.monthStart;
export const MONTH_OF_DAY = COMMON_YEAR.monthOfDay;

/**
 * A weather year of 8760 hours, or of 8784 with 29 February, in local standard time. Row i is the hour from i to i+1. Instants
 * (temperature, humidity, pressure, wind, cloud) are valid at its end; radiation is its mean.
 */
export interface WeatherYear {
  readonly name: string;
  /** Calendar year in which it was measured; absent: a typical year. */
  readonly year?: number;
  readonly latitude: number;
  readonly longitude: number;
  readonly elevation: number;
  readonly timeZone: number;
  /** °C, instant. */
  readonly dryBulb: Float64Array;
  /** %, instant. */
  readonly relativeHumidity: Float64Array;
  /** Pa, instant. */
  readonly pressure: Float64Array;
  /** m/s at 10 m in open country, instant. */
  readonly windSpeed: Float64Array;
  /** Degrees from north, where it comes from, instant. */
  readonly windDirection: Float64Array;
  /** W/m², mean of the hour. */
  readonly globalHorizontal: Float64Array;
  /** W/m², mean of the hour. */
  readonly diffuseHorizontal: Float64Array;
  /** Share of sky covered, 0…1, instant. */
  readonly cloudCover: Float64Array;
  /** Downward infrared, W/m², instant; null: from the sky model. */
  readonly infrared: Float64Array | null;
  /** Inputs that logged points drive in this year, hour by hour in their own units, by address; NaN: as the model has it. */
  readonly driven?: Readonly<Record<string, Float64Array>>;
}

/** Name of a weather year by its content. */
export function weatherHash(w: WeatherYear): string {
  return hashFloats([
    new Float64Array([w.latitude, w.longitude, w.elevation, w.timeZone, ...(w.year === undefined ? [] : [w.year])]),
    w.dryBulb,
    w.relativeHumidity,
    w.pressure,
    w.windSpeed,
    w.windDirection,
    w.globalHorizontal,
    w.diffuseHorizontal,
    w.cloudCover,
    ...(w.infrared ? [w.infrared] : []),
  ]);
}

/** How the days of a weather year lie: with 29 February where it has 8784 hours. */
export const daysOf = (w: WeatherYear): YearDays => (w.dryBulb.length === LEAP_YEAR.hours ? LEAP_YEAR : COMMON_YEAR);

const shortened = new WeakMap<WeatherYear, WeatherYear>();

/** A weather year without its 29 February, no longer of a measured year since its days lie otherwise then. Remembered by year. */
export function withoutLeapDay(w: WeatherYear): WeatherYear {
  if (daysOf(w) === COMMON_YEAR) return w;
  const known = shortened.get(w);
  if (known) return known;
  const without = (a: Float64Array): Float64Array => Float64Array.from([...a.subarray(0, 24 * LEAP_DAY), ...a.subarray(24 * LEAP_DAY + 24)]);
  const { year: _year, ...rest } = w;
  const made: WeatherYear = {
    ...rest,
    dryBulb: without(w.dryBulb),
    relativeHumidity: without(w.relativeHumidity),
    pressure: without(w.pressure),
    windSpeed: without(w.windSpeed),
    windDirection: without(w.windDirection),
    globalHorizontal: without(w.globalHorizontal),
    diffuseHorizontal: without(w.diffuseHorizontal),
    cloudCover: without(w.cloudCover),
    infrared: w.infrared && without(w.infrared),
    ...(w.driven ? { driven: Object.fromEntries(Object.entries(w.driven).map(([k, v]) => [k, without(v)])) } : {}),
  };
  shortened.set(w, made);
  return made;
}

/** Quantities that follow from a weather year hour by hour. */
export interface DerivedWeather {
  /** kg/kg. */
  readonly humidityRatio: Float64Array;
  /** Downward infrared of the sky, W/m². */
  readonly infrared: Float64Array;
}
export type SkyModel = "martin-berdahl" | "clark-allen";

const derivedOf = new WeakMap<WeatherYear, Map<SkyModel, DerivedWeather>>();

/** Humidity ratio and downward infrared of every hour; measured infrared where the year has it. Remembered by year. */
export function deriveWeather(w: WeatherYear, sky: SkyModel = "martin-berdahl"): DerivedWeather {
  let models = derivedOf.get(w);
  if (!models) derivedOf.set(w, (models = new Map()));
  const known = models.get(sky);
  if (known) return known;
  const { hours } = daysOf(w);
  const ratio = new Float64Array(hours);
  const infrared = new Float64Array(hours);
  for (let i = 0; i < hours; i++) {
    const rh = w.relativeHumidity[i] / 100;
    ratio[i] = humidityRatio(w.dryBulb[i], rh, w.pressure[i]);
    if (w.infrared) infrared[i] = w.infrared[i];
    else {
      const dew = dewPoint(Math.max(1, rh * saturationPressure(w.dryBulb[i])));
      const k = w.dryBulb[i] + 273.15;
      const e = sky === "clark-allen" ? clarkAllenEmissivity(dew, w.cloudCover[i]) : skyEmissivity(dew, (i + 1) % 24, w.pressure[i], w.cloudCover[i]);
      infrared[i] = e * STEFAN_BOLTZMANN * k * k * k * k;
    }
  }
  const derived = { humidityRatio: ratio, infrared };
  models.set(sky, derived);
  return derived;
}

/** What a weather value can be: for the reader of files and for the check before a run alike. */
export const weatherLimits = {
  dryBulb: { name: "dry-bulb temperature", unit: "°C", min: -90, max: 70 },
  relativeHumidity: { name: "relative humidity", unit: "%", min: 0, max: 110 },
  pressure: { name: "pressure", unit: "Pa", min: 30000, max: 120000 },
  windSpeed: { name: "wind speed", unit: "m/s", min: 0, max: 120 },
  windDirection: { name: "wind direction", unit: "°", min: -360, max: 720 },
  globalHorizontal: { name: "global irradiance", unit: "W/m²", min: 0, max: 2000 },
  diffuseHorizontal: { name: "diffuse irradiance", unit: "W/m²", min: 0, max: 1500 },
  cloudCover: { name: "cloud cover", unit: "", min: 0, max: 1 },
  infrared: { name: "infrared irradiance", unit: "W/m²", min: 0, max: 1000 },
} as const;
const quantities = Object.keys(weatherLimits) as (keyof typeof weatherLimits)[];

const checked = new WeakMap<WeatherYear, readonly { readonly path: string; readonly message: string }[]>();

/** What is wrong with a weather year: the first value of each quantity that is no number or cannot be, with its hour. Remembered by year. */
export function weatherProblems(w: WeatherYear): readonly { readonly path: string; readonly message: string }[] {
  const known = checked.get(w);
  if (known) return known;
  const problems: { path: string; message: string }[] = [];
  // of a measured year its own number; else that of the temperature, where it is one that a year can have
  const wanted = (w.year === undefined ? daysOf(w) : isLeapYear(w.year) ? LEAP_YEAR : COMMON_YEAR).hours;
  for (const key of quantities) {
    const { name, unit, min: low, max: high } = weatherLimits[key];
    const values = w[key];
    if (values === null) continue;
    if (values.length !== wanted) {
      problems.push({ path: `weather/${key}`, message: `The weather year "${w.name}" has ${values.length} hours of ${name}; ${wanted} are needed.` });
      continue;
    }
    const hour = values.findIndex((v) => !(v >= low && v <= high));
    if (hour < 0) continue;
    const v = values[hour];
    problems.push({
      path: `weather/${key}/${hour + 1}`,
      message: `In hour ${hour + 1} of the weather year "${w.name}" the ${name} is ${Number.isFinite(v) ? `${v} ${unit}`.trim() : "not a number"}; it must lie between ${low} and ${high}${unit ? ` ${unit}` : ""}.`,
    });
  }
  if (problems.length === 0) {
    const dark = sunInTheDark(w);
    if (dark >= 0)
      problems.push({
        path: `weather/globalHorizontal/${dark + 1}`,
        message: `In hour ${dark + 1} of the weather year "${w.name}" there is sun of ${Math.round(w.globalHorizontal[dark])} W/m² while it is below the horizon all the hour at its place (${w.latitude}°, ${w.longitude}°, UTC${w.timeZone < 0 ? "−" : "+"}${Math.abs(w.timeZone)}): its place, its time zone or its clock is not right.`,
      });
  }
  checked.set(w, problems);
  return problems;
}

/** Sun that twilight and rounding cannot explain, W/m², and how far below the horizon the sun then stands, degrees. */
const DARK_SUN = 30;
const BELOW = -3;

/** First hour with sun while it is well below the horizon throughout, from 0; −1: none. */
function sunInTheDark(w: WeatherYear): number {
  const epoch = yearEpoch(w.year, daysOf(w) === LEAP_YEAR);
  const limit = sin(BELOW * DEG);
  const up = (hour: number): number => sunVector(hour, w.latitude, w.longitude, w.timeZone, epoch)[2];
  return w.globalHorizontal.findIndex((g, h) => g > DARK_SUN && up(h) < limit && up(h + 0.5) < limit && up(h + 1) < limit);
}

/** How far a weather year's place may lie from the project's: degrees, metres, hours. */
const FAR = { degrees: 1, height: 300, hours: 1 };

/** A weather year whose place is not the project's, with the way to take its place over. */
export function placeProblems(site: Project["site"], w: WeatherYear): Problem[] {
  const turn = Math.abs(site.longitude - w.longitude);
  const apart = [
    Math.max(Math.abs(site.latitude - w.latitude), Math.min(turn, 360 - turn)) > FAR.degrees && `lies at ${w.latitude}°, ${w.longitude}°`,
    Math.abs(site.elevation - w.elevation) > FAR.height && `at ${quantity(w.elevation, "m", 0)} above the sea`,
    Math.abs(site.timeZone - w.timeZone) >= FAR.hours && `in UTC${w.timeZone < 0 ? "−" : "+"}${Math.abs(w.timeZone)}`,
  ].filter((t) => t !== false);
  if (apart.length === 0) return [];
  const fields = ["latitude", "longitude", "elevation", "timeZone"] as const;
  return [
    {
      code: "weather-place",
      severity: "warning",
      stage: "place",
      path: "site",
      message: `The weather year "${w.name}" ${apart[0].startsWith("lies") ? "" : "lies "}${apart.join(", ")}; the project lies at ${site.latitude}°, ${site.longitude}°, ${quantity(site.elevation, "m", 0)}, UTC${site.timeZone < 0 ? "−" : "+"}${Math.abs(site.timeZone)}. The sun follows the project's place.`,
      fix: { label: "Take the place of the weather year", changes: fields.map((f) => ({ op: "set", path: ["site", f], value: w[f], old: site[f] })) },
    },
  ];
}

export interface MonthlyWeather {
  meanDryBulb: number[];
  minDryBulb: number[];
  maxDryBulb: number[];
  /** kWh/m² a month on the horizontal. */
  global: number[];
  diffuse: number[];
  windSpeed: number[];
  relativeHumidity: number[];
}

/** Monthly statistics for the bands on screen and for the check of a made year against its normals. */
export function monthlyWeather(w: WeatherYear): MonthlyWeather {
  const out: MonthlyWeather = { meanDryBulb: [], minDryBulb: [], maxDryBulb: [], global: [], diffuse: [], windSpeed: [], relativeHumidity: [] };
  const { monthStart } = daysOf(w);
  for (let m = 0; m < 12; m++) {
    const from = monthStart[m] * 24;
    const to = monthStart[m + 1] * 24;
    const mean = (a: Float64Array): number => a.subarray(from, to).reduce((s, v) => s + v, 0) / (to - from);
    out.meanDryBulb.push(mean(w.dryBulb));
    out.minDryBulb.push(w.dryBulb.subarray(from, to).reduce((s, v) => Math.min(s, v), Infinity));
    out.maxDryBulb.push(w.dryBulb.subarray(from, to).reduce((s, v) => Math.max(s, v), -Infinity));
    out.global.push((mean(w.globalHorizontal) * (to - from)) / 1000);
    out.diffuse.push((mean(w.diffuseHorizontal) * (to - from)) / 1000);
    out.windSpeed.push(mean(w.windSpeed));
    out.relativeHumidity.push(mean(w.relativeHumidity));
  }
  return out;
}

/** Daily mean air temperature, °C, of each of the days. */
export function dailyMeans(w: WeatherYear): Float64Array {
  const { days, hours } = daysOf(w);
  const means = new Float64Array(days);
  for (let h = 0; h < hours; h++) means[Math.floor(h / 24)] += w.dryBulb[h] / 24;
  return means;
}

/** Heating and cooling degree days of a year from daily means, K·d. */
export function degreeDays(w: WeatherYear, heatingBase: number, coolingBase: number): { heating: number; cooling: number } {
  let heating = 0;
  let cooling = 0;
  for (const mean of dailyMeans(w)) {
    heating += Math.max(0, heatingBase - mean);
    cooling += Math.max(0, mean - coolingBase);
  }
  return { heating, cooling };
}
