import { LATENT_HEAT } from "../airflow/index.ts";
import { saturationPressure } from "../climate/index.ts";

const MOLAR_RATIO = 0.621945;
const LATENT = LATENT_HEAT;
const saturation = saturationPressure;

/** Humidity ratio of saturated air, kg/kg. @param t °C @param pressure Pa */
export function saturated(t: number, pressure: number): number {
  const p = saturation(t);
  return p < pressure ? (MOLAR_RATIO * p) / (pressure - p) : Infinity;
}

/**
 * Humidity ratio of air that leaves a coil by its by-pass factor: the share that passes untouched keeps its own, the rest leaves
 * saturated at the apparatus dew point, or as it came where that is drier (ASHRAE Fundamentals 2017, ch. 1).
 * @param t entering, °C @param w entering, kg/kg @param leaving temperature wanted, °C @param bypass 1 @param pressure Pa
 */
export function leavingRatio(t: number, w: number, leaving: number, bypass: number, pressure: number): number {
  if (!(leaving < t)) return w;
  const apparatus = (leaving - bypass * t) / (1 - bypass);
  const dry = saturated(apparatus, pressure);
  return dry < w ? bypass * w + (1 - bypass) * dry : w;
}

/** Halvings by which a limited coil's leaving temperature is found: to a millionth of the difference asked for. */
const HALVINGS = 20;

/**
 * Temperature air leaves a coil at whose total capacity, W, does not reach the one wanted: sensible and latent together are the capacity.
 * @param flow of dry air, kg/s @param cp J/kg·K @returns °C, the wanted one where the capacity is enough
 */
export function limitedLeaving(t: number, w: number, wanted: number, bypass: number, pressure: number, flow: number, cp: number, capacity: number): number {
  const total = (leaving: number): number => flow * (cp * (t - leaving) + LATENT * (w - leavingRatio(t, w, leaving, bypass, pressure)));
  if (total(wanted) <= capacity) return wanted;
  let low = wanted;
  let high = t;
  for (let i = 0; i < HALVINGS; i++) {
    const mid = 0.5 * (low + high);
    if (total(mid) > capacity) low = mid;
    else high = mid;
  }
  return high;
}
