import { exp } from "../numeric/index.ts";

/** A person in a room, for ISO 7730. */
export interface ComfortInputs {
  /** Air temperature, °C. */
  readonly air: number;
  /** Mean radiant temperature, °C. */
  readonly radiant: number;
  /** Air speed relative to the body, m/s. */
  readonly speed: number;
  /** Water vapour pressure, Pa. */
  readonly vapour: number;
  /** Metabolic rate, met (58.15 W/m²); no external work. */
  readonly met: number;
  /** Clothing insulation, clo (0.155 m²K/W). */
  readonly clo: number;
}

/**
 * Predicted mean vote, −3 cold … +3 hot, and the share of people dissatisfied, % (ISO 7730:2005, eq. 1 to 5).
 * The clothing temperature is found by Newton's rule to 1e-9 K.
 */
export function predictedMeanVote(p: ComfortInputs): { pmv: number; ppd: number; clothing: number } {
  const pmv = vote(p.air, p.radiant, p.speed, p.vapour, p.met, p.clo);
  return { pmv, ppd: dissatisfied(pmv), clothing: SOLVED[0] };
}

/** Clothing temperature of the last vote, °C. */
const SOLVED = new Float64Array(1);

/** The vote by plain numbers, for loops. @see ComfortInputs for what they are */
export function vote(air: number, radiant: number, speed: number, vapour: number, met: number, clo: number): number {
  const m = met * 58.15;
  const icl = 0.155 * clo;
  const fcl = icl <= 0.078 ? 1 + 1.29 * icl : 1.05 + 0.645 * icl;
  const forced = 12.1 * Math.sqrt(speed);
  const tr4 = fourth(radiant + 273);
  let t = air + (35.5 - air) / (3.5 * (6.45 * icl + 0.1));
  let hc = forced;
  for (let i = 0; i < 300; i++) {
    const natural = 2.38 * Math.sqrt(Math.sqrt(Math.abs(t - air)));
    hc = natural > forced ? natural : forced;
    const k = t + 273;
    const miss = 35.7 - 0.028 * m - icl * (3.96e-8 * fcl * (fourth(k) - tr4) + fcl * hc * (t - air)) - t;
    // Newton's rule; the film's own slope is a quarter of its value more where it is natural
    const step = miss / (1 + icl * fcl * (4 * 3.96e-8 * k * k * k + (natural > forced ? 1.25 : 1) * hc));
    t += step;
    if (Math.abs(step) < 1e-9) break;
  }
  SOLVED[0] = t;
  const load =
    m -
    3.05e-3 * (5733 - 6.99 * m - vapour) -
    Math.max(0, 0.42 * (m - 58.15)) -
    1.7e-5 * m * (5867 - vapour) -
    0.0014 * m * (34 - air) -
    3.96e-8 * fcl * (fourth(t + 273) - tr4) -
    fcl * hc * (t - air);
  return (0.303 * exp(-0.036 * m) + 0.028) * load;
}

/** Predicted percentage of dissatisfied, % (ISO 7730:2005, eq. 5). */
export function dissatisfied(pmv: number): number {
  return 100 - 95 * exp(-0.03353 * pmv * pmv * pmv * pmv - 0.2179 * pmv * pmv);
}

const fourth = (x: number): number => x * x * x * x;

/** Vapour pressure as ISO 7730, annex D takes it, Pa. @param rh relative humidity 0…1 */
export function comfortVapourPressure(air: number, rh: number): number {
  return rh * 1000 * exp(16.6536 - 4030.183 / (air + 235));
}

/** Bands of acceptable operative temperature by a running mean of the outdoor temperature. */
export const adaptiveBands = ["EN 16798-1 I", "EN 16798-1 II", "EN 16798-1 III", "ASHRAE 55 90 %", "ASHRAE 55 80 %"] as const;
export type AdaptiveBand = (typeof adaptiveBands)[number];

/** Allowed below and above the comfort temperature, K (EN 16798-1:2019, annex B.2.2; ASHRAE 55-2020, 5.4). */
const BANDS: readonly (readonly [below: number, above: number])[] = [
  [3, 2],
  [4, 3],
  [5, 4],
  [2.5, 2.5],
  [3.5, 3.5],
];
const LIMITS = { en: [10, 30], ashrae: [10, 33.5] } as const;

/**
 * Whether an operative temperature lies in band `b` of `adaptiveBands`: 0 in it, −1 too cold, 1 too warm; NaN where the
 * running mean is outside the range for which the band is defined. @param running mean of the outdoor temperature, °C
 */
export function adaptiveSide(b: number, operative: number, running: number): number {
  const ashrae = b >= 3;
  const [low, high] = ashrae ? LIMITS.ashrae : LIMITS.en;
  if (!(running >= low && running <= high)) return NaN;
  const comfort = ashrae ? 0.31 * running + 17.8 : 0.33 * running + 18.8;
  const [below, above] = BANDS[b];
  return operative < comfort - below ? -1 : operative > comfort + above ? 1 : 0;
}

/** Exponentially weighted running mean of daily mean outdoor temperatures of each day of a year that repeats, °C: θ = (1 − α)·Σ αⁱ·θ_{d−1−i} (EN 16798-1:2019, B.2.2). */
export function runningMeans(daily: Float64Array, alpha = 0.8): Float64Array {
  const n = daily.length;
  const out = new Float64Array(n);
  for (let d = 0; d < n; d++) {
    let weight = 1 - alpha;
    let sum = 0;
    // 60 days before: the rest weighs less than 2e-6
    for (let i = 1; i <= 60; i++) {
      sum += weight * daily[(d - i + 60 * n) % n];
      weight *= alpha;
    }
    out[d] = sum;
  }
  return out;
}
