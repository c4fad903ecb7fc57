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

export const moistureLetters = { A: "humid", B: "dry", C: "marine" } as const;
export type MoistureLetter = keyof typeof moistureLetters;

/**
 * Moisture regime of a climate (ASHRAE 169-2013, annex A): marine where winters are mild, summers cool and dry; else dry where less rain
 * falls than its warmth and season ask for; else humid. Zones 7 and 8 have no letter.
 * @param temperature monthly means, °C @param precipitation monthly sums, mm @param latitude its sign tells the cold season
 */
export function moistureLetter(temperature: readonly number[], precipitation: readonly number[], latitude: number): MoistureLetter {
  const cold = (m: number): boolean => (latitude >= 0 ? m <= 2 || m >= 9 : m >= 3 && m <= 8);
  const months = temperature.map((_, m) => m);
  const coldest = Math.min(...temperature);
  const warmest = Math.max(...temperature);
  const wettest = Math.max(...months.filter(cold).map((m) => precipitation[m]));
  const driest = Math.min(...months.filter((m) => !cold(m)).map((m) => precipitation[m]));
  if (coldest > -3 && coldest < 18 && warmest < 22 && temperature.filter((t) => t > 10).length >= 4 && wettest >= 3 * driest) return "C";
  const year = precipitation.reduce((a, b) => a + b, 0);
  const mean = temperature.reduce((a, b) => a + b, 0) / 12;
  const inSummer = year > 0 ? months.filter((m) => !cold(m)).reduce((a, m) => a + precipitation[m], 0) / year : 0;
  const limit = 20 * (mean + (inSummer >= 0.7 ? 14 : inSummer > 0.3 ? 7 : 0));
  return year < limit ? "B" : "A";
}
