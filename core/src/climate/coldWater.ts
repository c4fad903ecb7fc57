import { COMMON_YEAR } from "../model/index.ts";
import { DEG, sin } from "../numeric/index.ts";
import { daysOf, type WeatherYear } from "./weather.ts";

const toF = (c: number): number => 1.8 * c + 32;
const toC = (f: number): number => (f - 32) / 1.8;
const MIDDLE = 15;

/**
 * Temperature of the cold water main in the middle of each month, °C, from the mean outdoor temperature of the year and the largest difference
 * of monthly means (Burch and Christensen 2007; its constants are in °F). South of the equator half a year later.
 */
export function coldWaterByMonth(weather: WeatherYear, latitude: number): number[] {
  const year = daysOf(weather);
  const means = year.monthDays.map((_, m) => {
    const hours = weather.dryBulb.slice(24 * year.monthStart[m], 24 * year.monthStart[m + 1]);
    return hours.reduce((s, v) => s + v, 0) / hours.length;
  });
  const mean = toF(weather.dryBulb.reduce((s, v) => s + v, 0) / weather.dryBulb.length);
  const swing = 1.8 * (Math.max(...means) - Math.min(...means));
  const ratio = 0.4 + 0.01 * (mean - 44);
  const lag = 35 - (mean - 44);
  const turn = latitude < 0 ? 180 : 0;
  return means.map((_, m) => {
    const day = COMMON_YEAR.monthStart[m] + MIDDLE;
    const t = toC(mean + 6 + ratio * 0.5 * swing * sin((0.986 * (day - 15 - lag) - 90 + turn) * DEG));
    // water in the ground does not freeze
    return Math.max(1, t);
  });
}
