import { DEG, log, pow, sin, cos } from "../numeric/index.ts";

const GRAVITY = 9.81;
/** Exponent of cracks (ASHRAE Fundamentals 2017, ch. 16: 0.6 to 0.7). */
export const CRACK_EXPONENT = 0.65;
/** Below this difference flow is taken as laminar, in proportion to it, Pa. */
const LAMINAR = 0.1;
/** Mean wind pressure coefficient of level roofs, 1: typical, unverified. */
const ROOF_COEFFICIENT = -0.4;
/** The balance is met when no more than this share of all flow is left. */
const BALANCED = 1e-9;
const MOST_ROUNDS = 60;

/** A place on the outside of the building where air leaks. */
export interface LeakPlace {
  /** True azimuth of the wall, degrees; NaN: a level face. */
  readonly azimuth: number;
  /** Above the ground, m. */
  readonly height: number;
  /** Wind at the place over that at 10 m in open country, 1. */
  readonly profile: number;
}

/**
 * Mean wind pressure coefficient of a wall of a low building, 1, by the angle between its normal and where the wind comes from,
 * degrees: 0.6 head on, times the normalised curve of Swami and Chandra 1988 for a square plan.
 */
export function wallCoefficient(angle: number): number {
  const a = Math.abs(angle - 360 * Math.round(angle / 360));
  const half = (a / 2) * DEG;
  const whole = a * DEG;
  const c = cos(half);
  const s = sin(whole);
  return 0.6 * log(1.248 - 0.703 * sin(half) - 1.175 * s * s + 0.769 * c + 0.717 * c * c);
}

/** Flow through cracks per unit of their coefficient, m³/s over m³/s·Pa^0.65, with the sign of the difference, Pa. */
export function crackFlow(difference: number): number {
  const size = Math.abs(difference);
  if (size < LAMINAR) return difference * pow(LAMINAR, CRACK_EXPONENT - 1);
  return Math.sign(difference) * pow(size, CRACK_EXPONENT);
}

/**
 * Pressure of wind and buoyancy outside each place against the air inside at the same height, Pa, up to the one pressure of
 * the inside that `balancePressure` finds.
 * @param outside and @param inside °C @param density of outdoor air, kg/m³ @param into filled
 */
export function outsidePressures(
  places: readonly LeakPlace[],
  wind: number,
  direction: number,
  outside: number,
  inside: number,
  density: number,
  into: Float64Array,
): void {
  const inner = (density * (outside + 273.15)) / (inside + 273.15);
  for (let p = 0; p < places.length; p++) {
    const { azimuth, height, profile } = places[p];
    const v = wind * profile;
    const coefficient = azimuth === azimuth ? wallCoefficient(direction - azimuth) : ROOF_COEFFICIENT;
    into[p] = 0.5 * coefficient * density * v * v - (density - inner) * GRAVITY * height;
  }
}

/**
 * Pressure inside, Pa, at which as much air leaks in as out: the sum over all places of size·crackFlow(outside − inside) is
 * nothing. By the secant within a bracket that halves where it must.
 * @param sizes coefficient of each place, m³/s·Pa^0.65 @param outside of each place, Pa @param guess from which to begin
 */
export function balancePressure(sizes: Float64Array, outside: Float64Array, guess: number): number {
  let low = Infinity;
  let high = -Infinity;
  let all = 0;
  for (let p = 0; p < sizes.length; p++) {
    if (sizes[p] <= 0) continue;
    if (outside[p] < low) low = outside[p];
    if (outside[p] > high) high = outside[p];
    all += sizes[p];
  }
  if (!(high > low)) return all > 0 ? low : guess;
  let at = guess > low && guess < high ? guess : 0.5 * (low + high);
  const scale = all * crackFlow(high - low);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let net = 0;
    let slope = 0;
    for (let p = 0; p < sizes.length; p++) {
      if (sizes[p] <= 0) continue;
      const d = outside[p] - at;
      const flow = sizes[p] * crackFlow(d);
      net += flow;
      slope += Math.abs(d) < LAMINAR ? sizes[p] * pow(LAMINAR, CRACK_EXPONENT - 1) : (CRACK_EXPONENT * flow) / d;
    }
    if (Math.abs(net) <= BALANCED * scale) break;
    if (net > 0) low = at;
    else high = at;
    const next = at + net / slope;
    at = next > low && next < high ? next : 0.5 * (low + high);
  }
  return at;
}
