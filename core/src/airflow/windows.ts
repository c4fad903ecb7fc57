import { cos, DEG } from "../numeric/index.ts";

const GRAVITY = 9.81;
/** Effectiveness of an opening in wind onto it and at 45° (ASHRAE Fundamentals 2017, ch. 16: 0.5 to 0.6 and 0.25 to 0.35). */
const ONTO = 0.55;
const DIAGONAL = 0.3;
/** Discharge coefficient of an open window, 1 (ASHRAE Fundamentals 2017, ch. 16). */
const DISCHARGE = 0.6;
/** Speed through half of a single opening over the wind, squared (EN 16798-7:2017, single-sided airing; from memory, unverified). */
const ONE_SIDED = 0.001;
/** Halvings by which the neutral level is found. */
const HALVINGS = 40;

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

/** Area that acts where air enters by one and leaves by another: the smaller, raised by up to √2 as the other grows (ASHRAE Fundamentals 2017, ch. 16, in quadrature), m². */
export function passage(inlet: number, outlet: number): number {
  return inlet > 0 && outlet > 0 ? (Math.sqrt(2) * inlet * outlet) / Math.sqrt(inlet * inlet + outlet * outlet) : 0;
}

/**
 * Wind from side to side, m³/s: Q = C·A·V of the openings that face it, A by `passage` with all others as outlets. The openings
 * are parted where that gives most; what the wind does to the outlets as well it does not drive through. 0 where all lie on one side.
 */
function crossWind(openings: readonly FreeOpening[], wind: number, direction: number): number {
  let best = 0;
  for (const edge of openings) {
    const least = windEffectiveness(direction - edge.azimuth);
    if (least <= 0) continue;
    let inlet = 0;
    let outlet = 0;
    let push = 0;
    let back = 0;
    for (const o of openings) {
      const e = windEffectiveness(direction - o.azimuth);
      if (e >= least) {
        inlet += o.area;
        push += e * o.area * o.profile;
      } else {
        outlet += o.area;
        back += e * o.area * o.profile;
      }
    }
    if (outlet <= 0) continue;
    best = Math.max(best, (push / inlet - back / outlet) * passage(inlet, outlet) * wind);
  }
  return best;
}

/**
 * Stack between openings of different height, m³/s: Q = C_d·A·√(2·g·Δh·ΔT/T), Δh from the middle of each opening to the neutral
 * level, at which as much enters below as leaves above.
 */
function stackBetween(openings: readonly FreeOpening[], difference: number, warm: number): number {
  let low = Infinity;
  let high = -Infinity;
  for (const o of openings) {
    low = Math.min(low, o.middle);
    high = Math.max(high, o.middle);
  }
  if (!(high > low) || difference <= 0) return 0;
  const flow = (level: number, above: boolean): number => {
    let sum = 0;
    for (const o of openings) if (o.middle > level === above) sum += o.area * Math.sqrt(Math.abs(o.middle - level));
    return sum;
  };
  for (let i = 0; i < HALVINGS; i++) {
    const level = 0.5 * (low + high);
    if (flow(level, true) > flow(level, false)) low = level;
    else high = level;
  }
  return DISCHARGE * flow(0.5 * (low + high), true) * Math.sqrt((2 * GRAVITY * difference) / warm);
}

/**
 * Outdoor air through open windows, m³/s, in quadrature: wind from side to side Q = C·A·V, or where all openings lie on one
 * side V/2·√0.001·A (EN 16798-7); stack between openings of different height; each opening both ways by itself
 * Q = (C_d/3)·A·√(g·H·ΔT/T̄) (ASHRAE Fundamentals 2017, ch. 16; Brown and Solvason 1962).
 * @param inside and @param outside °C @param wind at 10 m, m/s, from `direction`, degrees
 */
export function openingFlow(openings: readonly FreeOpening[], inside: number, outside: number, wind: number, direction: number): number {
  if (openings.length === 0) return 0;
  const difference = Math.abs(inside - outside);
  const mean = 0.5 * (inside + outside) + 273.15;
  let twoWay = 0;
  let oneSided = 0;
  for (const o of openings) {
    twoWay += (DISCHARGE / 3) * o.area * Math.sqrt((GRAVITY * o.height * difference) / mean);
    oneSided += 0.5 * o.area * Math.sqrt(ONE_SIDED) * wind * o.profile;
  }
  const driven = Math.max(oneSided, crossWind(openings, wind, direction));
  const between = stackBetween(openings, difference, Math.max(inside, outside) + 273.15);
  return Math.sqrt(driven * driven + between * between + twoWay * twoWay);
}
