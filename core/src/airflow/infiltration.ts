import { pow } from "../numeric/index.ts";
import { CRACK_EXPONENT } from "./pressure.ts";

/** Pressure at which leakage areas are stated, Pa. */
export const LEAKAGE_PRESSURE = 4;
export const shelters = ["none", "light", "moderate", "heavy", "very heavy"] as const;
export type Shelter = (typeof shelters)[number];

/** Stack coefficient, (L/s)²/(cm⁴·K), for one, two and three storeys (ASHRAE Fundamentals 2017, ch. 16, table 4). */
const STACK = [0.000145, 0.00029, 0.000435];
/** Wind coefficient, (L/s)²/(cm⁴·(m/s)²), by shelter class 1 to 5 for one, two and three storeys (the same, table 6). */
const WIND = [
  [0.000319, 0.00042, 0.000494],
  [0.000246, 0.000325, 0.000382],
  [0.000174, 0.000231, 0.000271],
  [0.000104, 0.000137, 0.000161],
  [0.000032, 0.000042, 0.000049],
];

/** Flow through an effective leakage area, m³/s, at the 4 Pa it is stated for: Q = A·√(2Δp/ρ) (ASHRAE Fundamentals 2017, ch. 16). @param density of air, kg/m³ */
export function leakageAtReference(area: number, density: number): number {
  return area * Math.sqrt((2 * LEAKAGE_PRESSURE) / density);
}

/** Stack and wind coefficients of a building of one, two, or three and more storeys. */
export function leakageCoefficients(shelter: Shelter, storeys: number): { stack: number; wind: number } {
  const s = Math.max(1, Math.min(3, storeys)) - 1;
  return { stack: STACK[s], wind: WIND[shelters.indexOf(shelter)][s] };
}

/**
 * Leakage through an effective leakage area at 4 Pa, m³/s (Sherman and Grimsrud 1980): Q = A·√(C_s·ΔT + C_w·v²).
 * @param area m² @param wind at 10 m, m/s
 */
export function leakageFlow(area: number, c: { readonly stack: number; readonly wind: number }, difference: number, wind: number): number {
  // coefficients are for cm² and L/s: 10⁴ cm²/m² over 10³ L/m³
  return 10 * area * Math.sqrt(c.stack * Math.abs(difference) + c.wind * wind * wind);
}

/** Leakage at one pressure from that at another, m³/s: Q = Q_ref·(Δp/Δp_ref)^0.65. @param reference flow at `referencePressure` */
export function facadeFlow(reference: number, pressure: number, referencePressure: number): number {
  return pressure > 0 ? reference * pow(pressure / referencePressure, CRACK_EXPONENT) : 0;
}
