import { pow } from "../numeric/index.ts";
import { extraterrestrial, sunVector, yearEpoch } from "./sun.ts";
import { clearSkySun } from "./clearSky.ts";
import { humidityRatio, relativeHumidity } from "./psychrometrics.ts";
import { daysOf, type WeatherYear } from "./weather.ts";
import type { Morph } from "../model/index.ts";

const ABSOLUTE = 273.15;
/** Sub-steps of an hour over which the clear sky is averaged. */
const PARTS = 4;

/** Mean global irradiance of a clear sky in every hour of a year, W/m². */
export function clearSkyGlobal(w: Pick<WeatherYear, "year" | "latitude" | "longitude" | "elevation" | "timeZone" | "dryBulb">): Float64Array {
  const { hours, days } = daysOf(w as WeatherYear);
  const epoch = yearEpoch(w.year, days > 365);
  return Float64Array.from({ length: hours }, (_, h) => {
    let sum = 0;
    for (let k = 0; k < PARTS; k++) {
      const up = sunVector(h + (k + 0.5) / PARTS, w.latitude, w.longitude, w.timeZone, epoch)[2];
      sum += clearSkySun(up, extraterrestrial(Math.floor(h / 24)), w.elevation).global / PARTS;
    }
    return sum;
  });
}

const morphed = new WeakMap<WeatherYear, WeakMap<Morph, WeatherYear>>();

/**
 * A future year made of a present one by monthly shifts and stretches (Belcher, Hacker and Powell 2005): temperature shifted and its
 * departures from the monthly mean stretched, vapour, sun and wind stretched, cloud shifted. Humidity stays at or below saturation;
 * sun is not raised above a clear sky. Measured infrared follows the air's temperature at the emissivity it had. Remembered.
 * @param name of the new year; it is of no calendar year
 */
export function morphYear(w: WeatherYear, morph: Morph, name: string): WeatherYear {
  let made = morphed.get(w);
  if (!made) morphed.set(w, (made = new WeakMap()));
  const known = made.get(morph);
  if (known?.name === name) return known;
  const { hours, monthStart, monthOfDay } = daysOf(w);
  const mean = Array.from({ length: 12 }, (_, m) => {
    const part = w.dryBulb.subarray(24 * monthStart[m], 24 * monthStart[m + 1]);
    return part.reduce((a, b) => a + b, 0) / part.length;
  });
  const clear = morph.sun.some((s) => s > 0) ? clearSkyGlobal(w) : null;
  const month = (h: number): number => monthOfDay[Math.floor(h / 24)];
  const each = (of: (h: number, m: number) => number): Float64Array => Float64Array.from({ length: hours }, (_, h) => of(h, month(h)));
  const dryBulb = each((h, m) => w.dryBulb[h] + morph.dryBulb[m] + (morph.dailyRange[m] / 100) * (w.dryBulb[h] - mean[m]));
  const humid = each((h, m) => {
    const ratio = humidityRatio(w.dryBulb[h], w.relativeHumidity[h] / 100, w.pressure[h]) * (1 + morph.humidityRatio[m] / 100);
    return Math.min(100 * relativeHumidity(dryBulb[h], ratio, w.pressure[h]), Math.max(100, w.relativeHumidity[h]));
  });
  const global = each((h, m) => {
    const now = w.globalHorizontal[h];
    const then = now * (1 + morph.sun[m] / 100);
    return then > now && clear ? Math.max(now, Math.min(then, clear[h])) : then;
  });
  const { year: _year, ...rest } = w;
  const result: WeatherYear = {
    ...rest,
    name,
    dryBulb,
    relativeHumidity: humid,
    windSpeed: each((h, m) => w.windSpeed[h] * (1 + morph.windSpeed[m] / 100)),
    globalHorizontal: global,
    // the diffuse share of the hour stays
    diffuseHorizontal: each((h) => (w.globalHorizontal[h] > 0 ? (w.diffuseHorizontal[h] * global[h]) / w.globalHorizontal[h] : 0)),
    cloudCover: each((h, m) => Math.max(0, Math.min(1, w.cloudCover[h] + morph.cloudCover[m] / 100))),
    infrared: w.infrared && each((h) => (w.infrared as Float64Array)[h] * pow((dryBulb[h] + ABSOLUTE) / (w.dryBulb[h] + ABSOLUTE), 4)),
  };
  made.set(morph, result);
  return result;
}
