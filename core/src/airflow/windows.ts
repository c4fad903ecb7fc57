import { cos, DEG } from "../numeric/index.ts";

const GRAVITY = 9.81;
/** Effectiveness of an opening in wind onto it and at 45° (ASHRAE Fundamentals 2017, ch. 16: 0.5 to 0.6 and 0.25 to 0.35). */
const ONTO = 0.55;
const DIAGONAL = 0.3;
/** Discharge coefficient of an open window, 1 (ASHRAE Fundamentals 2017, ch. 16). */
const DISCHARGE = 0.6;

/** Openings of one zone that can be opened together. */
export interface FreeOpening {
  /** Free area, m². */
  readonly area: number;
  /** True azimuth, degrees. */
  readonly azimuth: number;
  /** Middle above the ground, m; height of the opening, m. */
  readonly middle: number;
  readonly height: number;
  /** Wind at the opening over that at 10 m in open country, 1. */
  readonly profile: number;
}

/** Effectiveness of an opening by the angle between its normal and where the wind comes from, degrees: the handbook's two values with a line between them and a cosine beyond (ours), 0 to leeward. */
export function windEffectiveness(angle: number): number {
  const a = Math.abs(angle - 360 * Math.round(angle / 360));
  if (a >= 90) return 0;
  return a <= 45 ? ONTO + (DIAGONAL - ONTO) * (a / 45) : DIAGONAL * (cos(a * DEG) / cos(45 * DEG));
}

/**
 * Outdoor air through open windows, m³/s: wind Q = C·A·V onto each opening, stack between openings of
 * different height Q = C_d·A·√(2·g·Δh·ΔT/T) with Δh from mid-opening to the neutral level, one
 * two-way opening Q = (C_d/3)·A·√(g·H·ΔT/T̄), in quadrature (ASHRAE Fundamentals 2017, ch. 16; Brown and Solvason 1962).
 * @param inside and @param outside °C @param wind at 10 m, m/s, from `direction`, degrees
 */
export function openingFlow(openings: readonly FreeOpening[], inside: number, outside: number, wind: number, direction: number): number {
  let area = 0;
  let moment = 0;
  let driven = 0;
  for (const o of openings) {
    area += o.area;
    moment += o.area * o.middle;
    driven += windEffectiveness(direction - o.azimuth) * o.area * wind * o.profile;
  }
  if (area <= 0) return 0;
  const neutral = moment / area;
  const difference = Math.abs(inside - outside);
  const warm = Math.max(inside, outside) + 273.15;
  const mean = 0.5 * (inside + outside) + 273.15;
  let between = 0;
  let twoWay = 0;
  for (const o of openings) {
    // air enters on one side of the neutral level and leaves on the other: each opening carries half of the passage
    between += 0.5 * DISCHARGE * o.area * Math.sqrt((2 * GRAVITY * Math.abs(o.middle - neutral) * difference) / warm);
    twoWay += (DISCHARGE / 3) * o.area * Math.sqrt((GRAVITY * o.height * difference) / mean);
  }
  return Math.sqrt(driven * driven + between * between + twoWay * twoWay);
}
