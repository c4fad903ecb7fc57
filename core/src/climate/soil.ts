import { atan2, cos, exp, PI, sin } from "../numeric/index.ts";
import { dailyMeans, daysOf, type WeatherYear } from "./weather.ts";

const YEAR = 365;
const DAY_SECONDS = 86400;

/**
 * Temperature of undisturbed soil in the middle of each month, °C (Kusuda and Achenbach 1965), with mean, swing and phase of the
 * surface from the first harmonic of the year's daily means.
 * @param depth below the surface, m @param conductivity W/m·K @param heatCapacity J/m³K
 */
export function undisturbedSoil(w: WeatherYear, depth: number, conductivity: number, heatCapacity: number): number[] {
  const days = dailyMeans(w);
  const n = days.length;
  const mean = days.reduce((a, b) => a + b, 0) / n;
  let c = 0;
  let s = 0;
  days.forEach((t, d) => {
    c += (2 * t * cos((2 * PI * (d + 0.5)) / n)) / n;
    s += (2 * t * sin((2 * PI * (d + 0.5)) / n)) / n;
  });
  const swing = Math.sqrt(c * c + s * s);
  const phase = atan2(s, c);
  const perDay = (conductivity / heatCapacity) * DAY_SECONDS;
  const damping = depth * Math.sqrt(PI / (YEAR * perDay));
  const { monthStart, monthDays } = daysOf(w);
  return Array.from({ length: 12 }, (_, m) => {
    const day = monthStart[m] + monthDays[m] / 2;
    return mean + swing * exp(-damping) * cos((2 * PI * day) / n - phase - damping);
  });
}
