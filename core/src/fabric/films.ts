import { cbrt } from "../numeric/index.ts";

/** Roughness multipliers of the outside forced part (Walton 1983). */
export const ROUGHNESS = { "very rough": 2.17, rough: 1.67, "medium rough": 1.52, "medium smooth": 1.13, smooth: 1.11, "very smooth": 1 } as const;

/**
 * Natural convection at a plane surface, W/m²K (Walton 1983).
 * @param difference surface less air temperature, K
 * @param cosTilt cosine of the angle of the surface's normal from straight up: 1 faces up, −1 faces down
 */
export function naturalConvection(difference: number, cosTilt: number): number {
  const size = cbrt(difference < 0 ? -difference : difference);
  const flat = cosTilt < 0 ? -cosTilt : cosTilt;
  if (flat < 0.01) return 1.31 * size;
  // unstable: warm surface facing up or cold surface facing down
  return difference * cosTilt > 0 ? (9.482 * size) / (7.238 - flat) : (1.81 * size) / (1.382 + flat);
}

/**
 * Natural convection per cube root of the temperature difference, W/m²K^4/3, of a surface warmer and of one
 * colder than the air. @see naturalConvection
 */
export function naturalCoefficients(cosTilt: number): { readonly warm: number; readonly cold: number } {
  return { warm: naturalConvection(1, cosTilt), cold: naturalConvection(-1, cosTilt) };
}

/**
 * Forced outside convection per square root of wind speed, windward, W/m²K per √(m/s)
 * (Sparrow, Ramsey and Mass 1979); half of it leeward.
 * @param perimeter m and @param area m² of the whole façade or roof the face belongs to
 */
export function forcedCoefficient(roughness: keyof typeof ROUGHNESS, perimeter: number, area: number): number {
  return 2.537 * ROUGHNESS[roughness] * Math.sqrt(perimeter / area);
}

/** Constant inside convection by direction of heat flow, W/m²K (ISO 52016-1:2017, table 25). */
export const ISO_INSIDE = { up: 5, horizontal: 2.5, down: 0.7 } as const;
/** Outside convection, W/m²K: 4 + 4·v with v the wind at the face, m/s (ISO 52016-1:2017, via ISO 6946:2017, annex C). */
export const ISO_OUTSIDE = { still: 4, wind: 4 } as const;
