import { COMMON_YEAR, dayOfYear, type DesignDay } from "../model/index.ts";
import { atan2, cos, DEG, sin } from "../numeric/index.ts";
import { clearSkySun } from "./clearSky.ts";
import { humidityRatio, relativeHumidity, wetBulb, wetBulbHumidity } from "./psychrometrics.ts";
import { extraterrestrial, sunVector } from "./sun.ts";
import { daysOf, monthlyWeather, type WeatherYear } from "./weather.ts";

/** A design day hour by hour. Instants are at the end of the hour, radiation is its mean, as in a weather year. */
export interface DesignProfile {
  /** Day of the weather year whose sun it has, from 0. */
  readonly day: number;
  readonly dryBulb: Float64Array;
  readonly relativeHumidity: Float64Array;
  readonly globalHorizontal: Float64Array;
  readonly diffuseHorizontal: Float64Array;
  readonly pressure: number;
  readonly windSpeed: number;
  readonly windDirection: number;
  readonly cloudCover: number;
  /** Highest temperature and the wet-bulb temperature then, °C; daily range, K. */
  readonly highest: number;
  readonly wet: number;
  readonly range: number;
}

/** Share of the daily range by which each hour, ending at 1 to 24, lies below the highest (ASHRAE Fundamentals 2017, ch. 14, table 6). */
const BELOW = [0.88, 0.92, 0.95, 0.98, 1, 0.98, 0.91, 0.74, 0.55, 0.38, 0.23, 0.13, 0.05, 0, 0, 0.06, 0.14, 0.24, 0.39, 0.5, 0.59, 0.68, 0.75, 0.82] as const;
/** Hours within this of a design temperature give what goes with it, K. */
const COINCIDENT = 0.5;
const FEWEST = 5;
/** Day of the month whose sun a design day has. */
const DAY = 21;
/** Warm half of the year, months. */
const WARM_MONTHS = 6;

/** The design days that are taken where none are chosen: 99.6 % for heating, 0.4 % and a clear day in each of the six warmest months for cooling. */
export function usualDesignDays(weather: WeatherYear): DesignDay[] {
  const means = monthlyWeather(weather).meanDryBulb;
  const warm = [...means.keys()]
    .sort((a, b) => means[b] - means[a] || a - b)
    .slice(0, WARM_MONTHS)
    .sort((a, b) => a - b);
  return [
    { kind: "percentile", id: "heating", name: "Heating 99.6 %", for: "heating", percent: 99.6, by: "dry bulb" },
    { kind: "percentile", id: "cooling", name: "Cooling 0.4 %", for: "cooling", percent: 0.4, by: "dry bulb" },
    ...warm.map((m): DesignDay => ({ kind: "clear", id: `clear_${m + 1}`, name: `Clear day, ${MONTHS[m]}`, for: "cooling", month: m + 1, percent: 5 })),
  ];
}
const MONTHS = ["January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"];

/** Value exceeded in a share of the hours, %. */
function exceeded(values: Float64Array, percent: number): number {
  const sorted = Float64Array.from(values).sort();
  return sorted[Math.max(0, Math.min(sorted.length - 1, Math.floor((1 - percent / 100) * sorted.length)))];
}

const wetBulbs = new WeakMap<WeatherYear, Float64Array>();
/** Wet-bulb temperature of every hour, °C; remembered by year. */
export function hourlyWetBulb(w: WeatherYear): Float64Array {
  let found = wetBulbs.get(w);
  if (!found) {
    found = w.dryBulb.map((t, h) => wetBulb(t, humidityRatio(t, w.relativeHumidity[h] / 100, w.pressure[h]), w.pressure[h]));
    wetBulbs.set(w, found);
  }
  return found;
}

/** What goes with a temperature: means over the hours near it, among those given. */
function coincident(w: WeatherYear, by: Float64Array, at: number, from: number, to: number) {
  let hours: number[] = [];
  for (let near = COINCIDENT; hours.length < FEWEST && near < 20; near *= 2) {
    hours = [];
    for (let h = from; h < to; h++) if (Math.abs(by[h] - at) <= near) hours.push(h);
  }
  const mean = (of: (h: number) => number): number => hours.reduce((s, h) => s + of(h), 0) / hours.length;
  const east = mean((h) => sin(w.windDirection[h] * DEG));
  const north = mean((h) => cos(w.windDirection[h] * DEG));
  return {
    mean,
    windSpeed: mean((h) => w.windSpeed[h]),
    windDirection: (atan2(east, north) / DEG + 360) % 360,
    cloudCover: mean((h) => w.cloudCover[h]),
    pressure: mean((h) => w.pressure[h]),
  };
}

/** Mean daily range of the warmer half of the days of a month, K. */
function rangeOf(w: WeatherYear, month: number): number {
  const { monthStart } = daysOf(w);
  const days: [high: number, range: number][] = [];
  for (let d = monthStart[month]; d < monthStart[month + 1]; d++) {
    const hours = w.dryBulb.subarray(24 * d, 24 * d + 24);
    const high = hours.reduce((a, b) => Math.max(a, b));
    days.push([high, high - hours.reduce((a, b) => Math.min(a, b))]);
  }
  days.sort((a, b) => b[0] - a[0]);
  const half = days.slice(0, Math.ceil(days.length / 2));
  return half.reduce((s, d) => s + d[1], 0) / half.length;
}

/**
 * A design day of a weather year, hour by hour. A heating day holds its temperature all day and has no sun; a cooling day swings by
 * the mean range of the warm days of its month, keeps its vapour, and has a cloudless sky.
 */
export function designProfile(w: WeatherYear, spec: DesignDay): DesignProfile {
  const year = daysOf(w);
  const months = monthlyWeather(w).meanDryBulb;
  const extreme = (better: (a: number, b: number) => boolean): number => months.reduce((best, v, m) => (better(v, months[best]) ? m : best), 0);
  const whole = [0, year.hours] as const;
  let month: number;
  let date = DAY;
  let highest: number;
  let wet: number;
  let range: number;
  let with_: { windSpeed: number; windDirection: number; cloudCover: number; pressure: number };
  let sun = true;
  if (spec.kind === "typed") {
    month = spec.date[0] - 1;
    date = spec.date[1];
    highest = spec.dryBulb;
    range = spec.range;
    wet = Math.min(spec.wetBulb, highest);
    sun = spec.sky === "clear";
    with_ = {
      windSpeed: spec.windSpeed,
      windDirection: spec.windDirection,
      cloudCover: sun ? 0 : 1,
      pressure: w.pressure.reduce((a, b) => a + b, 0) / year.hours,
    };
  } else {
    const heating = spec.for === "heating";
    month = spec.kind === "clear" ? spec.month - 1 : extreme(heating ? (a, b) => a < b : (a, b) => a > b);
    const [from, to] = spec.kind === "clear" ? [24 * year.monthStart[month], 24 * year.monthStart[month + 1]] : whole;
    const wets = hourlyWetBulb(w);
    const counted = spec.kind === "percentile" && spec.by === "wet bulb" ? wets : w.dryBulb;
    const at = exceeded(counted.subarray(from, to), spec.percent);
    const found = coincident(w, counted, at, from, to);
    highest = counted === wets ? found.mean((h) => w.dryBulb[h]) : at;
    wet = counted === wets ? at : found.mean((h) => wets[h]);
    range = heating ? 0 : rangeOf(w, month);
    sun = !heating;
    with_ = { ...found, cloudCover: heating ? found.cloudCover : 0 };
  }
  const day = dayOfYear(month + 1, Math.min(date, COMMON_YEAR.monthDays[month]), year);
  const { pressure } = with_;
  const dryBulb = Float64Array.from(BELOW, (f) => highest - f * range);
  const ratio = Math.max(1e-5, wetBulbHumidity(highest, wet, pressure));
  const humid = dryBulb.map((t) => Math.min(100, 100 * relativeHumidity(t, ratio, pressure)));
  const global = new Float64Array(24);
  const diffuse = new Float64Array(24);
  if (sun)
    for (let h = 0; h < 24; h++)
      for (let k = 0; k < 4; k++) {
        const up = sunVector(24 * day + h + (k + 0.5) / 4, w.latitude, w.longitude, w.timeZone)[2];
        const sky = clearSkySun(up, extraterrestrial(day), w.elevation);
        global[h] += sky.global / 4;
        diffuse[h] += sky.diffuse / 4;
      }
  return {
    day,
    dryBulb,
    relativeHumidity: humid,
    globalHorizontal: global,
    diffuseHorizontal: diffuse,
    pressure,
    windSpeed: with_.windSpeed,
    windDirection: with_.windDirection,
    cloudCover: with_.cloudCover,
    highest,
    wet,
    range,
  };
}

/** A weather year with a design day in place of its own, and its last hour before it, so that the day can follow itself. */
export function withDesignDay(w: WeatherYear, profile: DesignProfile): WeatherYear {
  const { hours } = daysOf(w);
  const from = 24 * profile.day;
  const put = (a: Float64Array, of: (h: number) => number): Float64Array => {
    const copy = Float64Array.from(a);
    for (let h = 0; h < 24; h++) copy[from + h] = of(h);
    copy[(from - 1 + hours) % hours] = of(23);
    return copy;
  };
  const { driven: _driven, ...rest } = w;
  return {
    ...rest,
    dryBulb: put(w.dryBulb, (h) => profile.dryBulb[h]),
    relativeHumidity: put(w.relativeHumidity, (h) => profile.relativeHumidity[h]),
    pressure: put(w.pressure, () => profile.pressure),
    windSpeed: put(w.windSpeed, () => profile.windSpeed),
    windDirection: put(w.windDirection, () => profile.windDirection),
    cloudCover: put(w.cloudCover, () => profile.cloudCover),
    globalHorizontal: put(w.globalHorizontal, (h) => profile.globalHorizontal[h]),
    diffuseHorizontal: put(w.diffuseHorizontal, (h) => profile.diffuseHorizontal[h]),
    infrared: null,
  };
}
