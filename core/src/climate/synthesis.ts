import { cos, exp, PI, pow, randomStream } from "../numeric/index.ts";
import type { Normals } from "../model/index.ts";
import { saturationPressure, standardPressure } from "./psychrometrics.ts";
import { extraterrestrial, sunVector } from "./sun.ts";
import { HOURS, MONTH_DAYS, MONTH_OF_DAY, MONTH_START, type WeatherYear } from "./weather.ts";

export interface SynthesisSite {
  readonly name: string;
  readonly latitude: number;
  readonly longitude: number;
  readonly elevation: number;
  readonly timeZone: number;
}

/** Diffuse share of global irradiance by hourly clearness (Erbs, Klein and Duffie 1982). */
export function erbsDiffuseShare(clearness: number): number {
  const k = clearness;
  if (k <= 0.22) return 1 - 0.09 * k;
  if (k <= 0.8) return 0.9511 - 0.1604 * k + 4.388 * k * k - 16.638 * k * k * k + 12.336 * k * k * k * k;
  return 0.165;
}

/** Cloud cover of a clearness: none from 0.76 up, full from 0.24 down: typical, unverified. */
export const coverOfClearness = (clearness: number): number => Math.max(0, Math.min(1, (0.76 - clearness) / 0.52));

const round = (v: number, places: number): number => {
  const f = places === 0 ? 1 : places === 1 ? 10 : 100;
  // adding zero turns −0 into 0, as a file would
  return Math.round(v * f) / f + 0;
};

/** Mean-zero daily course of temperature with a range of 1: lowest at 6 h, highest at 15 h. */
function diurnal(hour: number): number {
  if (hour >= 6 && hour <= 15) return -0.5 * cos((PI * (hour - 6)) / 9);
  const since = hour > 15 ? hour - 15 : hour + 9;
  return 0.5 * cos((PI * since) / 15);
}
const DIURNAL = Array.from({ length: 24 }, (_, h) => diurnal(h + 1));
const DIURNAL_MEAN = DIURNAL.reduce((s, v) => s + v, 0) / 24;

/** A first-order autoregressive daily series of unit variance, with the mean of every month taken out. */
function monthlyCentred(days: number, correlation: number, normal: () => number): Float64Array {
  const a = new Float64Array(days);
  let v = normal();
  for (let d = 0; d < days; d++) {
    v = correlation * v + Math.sqrt(1 - correlation * correlation) * normal();
    a[d] = v;
  }
  for (let m = 0; m < 12; m++) {
    let mean = 0;
    for (let d = MONTH_START[m]; d < MONTH_START[m + 1]; d++) mean += a[d] / MONTH_DAYS[m];
    for (let d = MONTH_START[m]; d < MONTH_START[m + 1]; d++) a[d] -= mean;
  }
  return a;
}

/**
 * A plausible weather year from monthly normals: daily clearness and temperature departures as
 * autoregressive series from a fixed seed, hours by the sun's height and a daily course. Monthly means
 * of temperature, humidity, irradiation and wind meet the normals (temperature to rounding). Persistence
 * and spread of days are typical, unverified.
 */
export function synthesizeYear(site: SynthesisSite, normals: Normals, seed: number): WeatherYear {
  const random = randomStream(seed);
  const dayDeparture = monthlyCentred(365, 0.72, random.normal);
  const clearDeparture = monthlyCentred(365, 0.35, random.normal);
  const moistDeparture = monthlyCentred(365, 0.6, random.normal);
  const pressure = round(standardPressure(site.elevation), 0);

  const dryBulb = new Float64Array(HOURS);
  const relativeHumidity = new Float64Array(HOURS);
  const globalHorizontal = new Float64Array(HOURS);
  const diffuseHorizontal = new Float64Array(HOURS);
  const cloudCover = new Float64Array(HOURS);
  const windSpeed = new Float64Array(HOURS);
  const windDirection = new Float64Array(HOURS);

  // clearness of each day, its irradiation-weighted monthly mean on the normal
  const cosZenith = new Float64Array(HOURS);
  const top = new Float64Array(HOURS);
  for (let h = 0; h < HOURS; h++) {
    for (let k = 0; k < 4; k++) cosZenith[h] += Math.max(0, sunVector(h + (k + 0.5) / 4, site.latitude, site.longitude, site.timeZone)[2]) / 4;
    top[h] = extraterrestrial(Math.floor(h / 24)) * cosZenith[h];
  }
  const dayTop = new Float64Array(365);
  for (let h = 0; h < HOURS; h++) dayTop[Math.floor(h / 24)] += top[h];
  const clearness = new Float64Array(365);
  for (let m = 0; m < 12; m++) {
    let shift = 0;
    for (let pass = 0; pass < 20; pass++) {
      let got = 0;
      let want = 0;
      for (let d = MONTH_START[m]; d < MONTH_START[m + 1]; d++) {
        clearness[d] = Math.max(0.12, Math.min(0.79, normals.clearness[m] + shift + 0.12 * clearDeparture[d]));
        got += clearness[d] * dayTop[d];
        want += normals.clearness[m] * dayTop[d];
      }
      if (want === 0) break;
      shift += (want - got) / (want / normals.clearness[m]);
    }
  }
  for (let d = 0; d < 365; d++) {
    let weight = 0;
    for (let h = 24 * d; h < 24 * d + 24; h++) weight += top[h] > 0 ? top[h] * pow(cosZenith[h], 0.15) : 0;
    for (let h = 24 * d; h < 24 * d + 24; h++) {
      if (top[h] <= 0 || weight === 0) continue;
      const global = Math.min(0.85 * top[h], (clearness[d] * dayTop[d] * top[h] * pow(cosZenith[h], 0.15)) / weight);
      globalHorizontal[h] = round(global, 1);
      diffuseHorizontal[h] = Math.min(globalHorizontal[h], round(global * erbsDiffuseShare(global / top[h]), 1));
    }
    const cover = coverOfClearness(clearness[d]);
    for (let h = 24 * d; h < 24 * d + 24; h++) cloudCover[h] = round(cover, 2);
  }

  // daily mean temperature: normals joined through mid-month, departures wider in winter
  const coldest = Math.min(...normals.dryBulb);
  const warmest = Math.max(...normals.dryBulb);
  const dayMean = new Float64Array(365);
  for (let d = 0; d < 365; d++) {
    const m = MONTH_OF_DAY[d];
    const position = (d - MONTH_START[m] + 0.5) / MONTH_DAYS[m] - 0.5;
    const other = normals.dryBulb[(m + (position < 0 ? 11 : 1)) % 12];
    const winter = warmest > coldest ? (warmest - normals.dryBulb[m]) / (warmest - coldest) : 0.5;
    dayMean[d] = normals.dryBulb[m] + Math.abs(position) * (other - normals.dryBulb[m]) * 0.9 + (1.8 + 2 * winter) * dayDeparture[d];
  }
  for (let h = 0; h < HOURS; h++) {
    const d = Math.floor(h / 24);
    const m = MONTH_OF_DAY[d];
    const t = h + 1 - 12;
    const before = ((Math.floor(t / 24) % 365) + 365) % 365;
    const f = t / 24 - Math.floor(t / 24);
    const base = dayMean[before] * (1 - f) + dayMean[(before + 1) % 365] * f;
    const spread = normals.dailyRange[m] * Math.max(0.35, Math.min(1.4, 1 + 1.4 * (clearness[d] - normals.clearness[m])));
    dryBulb[h] = base + spread * (DIURNAL[h % 24] - DIURNAL_MEAN);
  }
  correctMonths(dryBulb, normals.dryBulb, (v, want, got) => v + want - got, 1);
  for (let h = 0; h < HOURS; h++) dryBulb[h] = round(dryBulb[h], 2);

  // vapour pressure nearly constant over a day; monthly mean relative humidity on the normal
  const moisture = new Float64Array(12).fill(1);
  for (let pass = 0; pass < 8; pass++) {
    for (let d = 0; d < 365; d++) {
      const m = MONTH_OF_DAY[d];
      let mean = 0;
      for (let h = 24 * d; h < 24 * d + 24; h++) mean += dryBulb[h] / 24;
      const vapour = moisture[m] * (normals.relativeHumidity[m] / 100) * saturationPressure(mean) * exp(0.18 * moistDeparture[d]);
      for (let h = 24 * d; h < 24 * d + 24; h++) relativeHumidity[h] = Math.max(4, Math.min(100, (100 * vapour) / saturationPressure(dryBulb[h])));
    }
    for (let m = 0; m < 12; m++) {
      let got = 0;
      for (let h = MONTH_START[m] * 24; h < MONTH_START[m + 1] * 24; h++) got += relativeHumidity[h] / (MONTH_DAYS[m] * 24);
      moisture[m] *= normals.relativeHumidity[m] / got;
    }
  }
  for (let h = 0; h < HOURS; h++) relativeHumidity[h] = round(relativeHumidity[h], 1);

  let gust = random.normal();
  let turn = random.normal();
  for (let h = 0; h < HOURS; h++) {
    const m = MONTH_OF_DAY[Math.floor(h / 24)];
    gust = 0.9 * gust + 0.436 * random.normal();
    turn = 0.92 * turn + 0.392 * random.normal();
    windSpeed[h] = Math.min(28, normals.windSpeed[m] * exp(0.5 * gust - 0.125) * (1 + 0.25 * DIURNAL[h % 24] * 2));
    const direction = (normals.windDirection[m] + 55 * turn) % 360;
    windDirection[h] = round(direction < 0 ? direction + 360 : direction, 0) % 360;
  }
  correctMonths(windSpeed, normals.windSpeed, (v, want, got) => (got > 0 ? (v * want) / got : v), 2);
  for (let h = 0; h < HOURS; h++) windSpeed[h] = round(windSpeed[h], 1);

  return {
    name: site.name,
    latitude: site.latitude,
    longitude: site.longitude,
    elevation: site.elevation,
    timeZone: site.timeZone,
    dryBulb,
    relativeHumidity,
    pressure: new Float64Array(HOURS).fill(pressure),
    windSpeed,
    windDirection,
    globalHorizontal,
    diffuseHorizontal,
    cloudCover,
    infrared: null,
  };
}

function correctMonths(a: Float64Array, wanted: readonly number[], correct: (v: number, want: number, got: number) => number, passes: number): void {
  for (let pass = 0; pass < passes; pass++)
    for (let m = 0; m < 12; m++) {
      const from = MONTH_START[m] * 24;
      const to = MONTH_START[m + 1] * 24;
      let got = 0;
      for (let h = from; h < to; h++) got += a[h] / (to - from);
      for (let h = from; h < to; h++) a[h] = correct(a[h], wanted[m], got);
    }
}
