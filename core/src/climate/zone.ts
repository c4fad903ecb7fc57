import { degreeDays, type WeatherYear } from "./weather.ts";

/**
 * Thermal climate zone 0…8 from heating degree days below 18 °C and cooling degree days above 10 °C, K·d
 * (thresholds of ASHRAE 169-2013, table A-3; the moisture letter needs rainfall and is left out).
 */
export function climateZone(hdd18: number, cdd10: number): number {
  if (cdd10 > 6000) return 0;
  if (cdd10 > 5000) return 1;
  if (cdd10 > 3500) return 2;
  if (hdd18 <= 2000) return 3;
  if (hdd18 <= 3000) return 4;
  if (hdd18 <= 4000) return 5;
  if (hdd18 <= 5000) return 6;
  return hdd18 <= 7000 ? 7 : 8;
}

/** Thermal climate zone of a weather year. @see climateZone */
export function climateZoneOf(weather: WeatherYear): number {
  return climateZone(degreeDays(weather, 18, 10).heating, degreeDays(weather, 18, 10).cooling);
}
