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

/** The vote by plain numbers. @see ComfortInputs for what they are */
export function vote(air: number, radiant: number, speed: number, vapour: number, met: number, clo: number): number {
  return voteOf(new Person(met, clo, speed), air, radiant, vapour);
}

/** What of ISO 7730 depends on a person's activity, met, clothing, clo, and the air's speed, m/s, alone: for loops over the hours of a year. */
export class Person {
  readonly icl: number;
  readonly fcl: number;
  readonly forced: number;
  readonly guess: number;
  readonly skin: number;
  readonly radiation: number;
  readonly clothed: number;
  readonly m: number;
  readonly vapour: number;
  readonly sweat: number;
  readonly breath: number;
  readonly dryBreath: number;
  readonly scale: number;
  /** Clothing temperature found last, °C, from which the next is sought: votes of one hour after another lie near each other. */
  near = NaN;
  constructor(met: number, clo: number, speed: number) {
    const m = met * 58.15;
    const icl = 0.155 * clo;
    const fcl = icl <= 0.078 ? 1 + 1.29 * icl : 1.05 + 0.645 * icl;
    this.m = m;
    this.icl = icl;
    this.fcl = fcl;
    this.forced = 12.1 * Math.sqrt(speed);
    this.guess = 3.5 * (6.45 * icl + 0.1);
    this.skin = 35.7 - 0.028 * m;
    this.radiation = 3.96e-8 * fcl;
    this.clothed = icl * fcl;
    this.vapour = 5733 - 6.99 * m;
    this.sweat = Math.max(0, 0.42 * (m - 58.15));
    this.breath = 1.7e-5 * m;
    this.dryBreath = 0.0014 * m;
    this.scale = 0.303 * exp(-0.036 * m) + 0.028;
  }
}

const ONE = { air: new Float64Array(1), radiant: new Float64Array(1), vapour: new Float64Array(1), vote: new Float64Array(1) };

/** The vote of a person. @param air °C @param radiant °C @param vapour pressure of water vapour, Pa */
export function voteOf(p: Person, air: number, radiant: number, vapour: number): number {
  ONE.air[0] = air;
  ONE.radiant[0] = radiant;
  ONE.vapour[0] = vapour;
  voteAt(p, ONE.air, ONE.radiant, ONE.vapour, 0, ONE.vote);
  return ONE.vote[0];
}

/**
 * The vote of a person in room `z` of many, into `votes[z]`: numbers handed over in arrays leave nothing on the heap.
 * @param airs °C, [room] @param radiants °C, [room] @param vapours pressure of water vapour, Pa, [room] @param votes 1, [room]
 */
export function voteAt(p: Person, airs: Float64Array, radiants: Float64Array, vapours: Float64Array, z: number, votes: Float64Array): void {
  const air = airs[z];
  const radiant = radiants[z];
  const vapour = vapours[z];
  const { icl, fcl, forced, radiation, skin, clothed } = p;
  const tr4 = fourth(radiant + 273);
  let t = p.near === p.near ? p.near : air + (35.5 - air) / p.guess;
  let hc = forced;
  for (let i = 0; i < 300; i++) {
    const natural = 2.38 * Math.sqrt(Math.sqrt(Math.abs(t - air)));
    hc = natural > forced ? natural : forced;
    const k = t + 273;
    const miss = skin - icl * (radiation * (fourth(k) - tr4) + fcl * hc * (t - air)) - t;
    // Newton's rule; the film's own slope is a quarter of its value more where it is natural
    const step = miss / (1 + clothed * (4 * 3.96e-8 * k * k * k + (natural > forced ? 1.25 : 1) * hc));
    t += step;
    if (Math.abs(step) < 1e-9) break;
  }
  SOLVED[0] = t;
  p.near = t;
  const load =
    p.m -
    3.05e-3 * (p.vapour - vapour) -
    p.sweat -
    p.breath * (5867 - vapour) -
    p.dryBreath * (34 - air) -
    radiation * (fourth(t + 273) - tr4) -
    fcl * hc * (t - air);
  votes[z] = p.scale * load;
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
  const limits = adaptiveLimits(running);
  const low = limits[2 * b];
  return low !== low ? NaN : operative < low ? -1 : operative > limits[2 * b + 1] ? 1 : 0;
}

/** Least and most operative temperature, °C, of every band of `adaptiveBands` at a running mean, [band][least, most]; NaN where a band is not defined. */
export function adaptiveLimits(running: number, into: Float64Array = new Float64Array(2 * BANDS.length)): Float64Array {
  for (let b = 0; b < BANDS.length; b++) {
    const ashrae = b >= 3;
    const [low, high] = ashrae ? LIMITS.ashrae : LIMITS.en;
    const comfort = !(running >= low && running <= high) ? NaN : ashrae ? 0.31 * running + 17.8 : 0.33 * running + 18.8;
    const [below, above] = BANDS[b];
    into[2 * b] = comfort - below;
    into[2 * b + 1] = comfort + above;
  }
  return into;
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
