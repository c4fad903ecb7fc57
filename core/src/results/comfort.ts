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
 * The clothing temperature is found by a damped fixed point to 1e-9 K.
 */
export function predictedMeanVote(p: ComfortInputs): { pmv: number; ppd: number; clothing: number } {
  const m = p.met * 58.15;
  const icl = 0.155 * p.clo;
  const fcl = icl <= 0.078 ? 1 + 1.29 * icl : 1.05 + 0.645 * icl;
  const forced = 12.1 * Math.sqrt(p.speed);
  const tr4 = fourth(p.radiant + 273);
  let t = p.air + (35.5 - p.air) / (3.5 * (6.45 * icl + 0.1));
  let hc = forced;
  for (let i = 0; i < 300; i++) {
    const natural = 2.38 * Math.sqrt(Math.sqrt(Math.abs(t - p.air)));
    hc = natural > forced ? natural : forced;
    const next = 35.7 - 0.028 * m - icl * (3.96e-8 * fcl * (fourth(t + 273) - tr4) + fcl * hc * (t - p.air));
    const step = 0.5 * (next - t);
    t += step;
    if (Math.abs(step) < 1e-9) break;
  }
  const load =
    m -
    3.05e-3 * (5733 - 6.99 * m - p.vapour) -
    Math.max(0, 0.42 * (m - 58.15)) -
    1.7e-5 * m * (5867 - p.vapour) -
    0.0014 * m * (34 - p.air) -
    3.96e-8 * fcl * (fourth(t + 273) - tr4) -
    fcl * hc * (t - p.air);
  const pmv = (0.303 * exp(-0.036 * m) + 0.028) * load;
  return { pmv, ppd: 100 - 95 * exp(-0.03353 * pmv * pmv * pmv * pmv - 0.2179 * pmv * pmv), clothing: t };
}

const fourth = (x: number): number => x * x * x * x;

/** Vapour pressure as ISO 7730, annex D takes it, Pa. @param rh relative humidity 0…1 */
export function comfortVapourPressure(air: number, rh: number): number {
  return rh * 1000 * exp(16.6536 - 4030.183 / (air + 235));
}
