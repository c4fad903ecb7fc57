/** A solar collector by its test (ISO 9806:2017): efficiency without loss, and the two loss coefficients of its aperture. */
export interface Collector {
  /** m² that the coefficients are of. */
  readonly area: number;
  /** Efficiency without loss, 1; W/m²K; W/m²K². */
  readonly peak: number;
  readonly a1: number;
  readonly a2: number;
  /** Incidence-angle modifier at 50°, 1. */
  readonly at50: number;
}

/** Cosine of 50°. */
const COS50 = 0.6427876096865394;

/** Incidence-angle modifier by one constant (ISO 9806, b₀ from the modifier at 50°), 1. @param cosine of the angle of incidence */
export function incidenceModifier(at50: number, cosine: number): number {
  if (!(cosine > 0)) return 0;
  const b0 = (1 - at50) / (1 / COS50 - 1);
  const k = 1 - b0 * (1 / cosine - 1);
  return k < 0 ? 0 : k;
}

/**
 * Heat a collector gives with water that enters at a temperature, W: its mean temperature follows from the heat itself, so that both agree.
 * Nothing where it would cool the water. @param absorbed irradiance times modifier, W/m² @param flow capacity flow of its water, W/K @param ambient °C
 */
export function collectorHeat(x: Collector, absorbed: number, inlet: number, ambient: number, flow: number): number {
  const heatAt = (mean: number): number => x.area * (x.peak * absorbed - x.a1 * (mean - ambient) - x.a2 * (mean - ambient) * Math.abs(mean - ambient));
  if (!(flow > 0) || !(heatAt(inlet) > 0)) return 0;
  // mean = inlet + heat/(2·flow): the heat falls with it
  let low = 0;
  let high = heatAt(inlet);
  for (let i = 0; i < 60; i++) {
    const mid = 0.5 * (low + high);
    if (heatAt(inlet + mid / (2 * flow)) > mid) low = mid;
    else high = mid;
  }
  return 0.5 * (low + high);
}

/** Temperature of a collector that gives nothing, °C. */
export function stagnation(x: Collector, absorbed: number, ambient: number): number {
  const gain = x.peak * absorbed;
  if (!(gain > 0)) return ambient;
  return x.a2 > 0 ? ambient + (-x.a1 + Math.sqrt(x.a1 * x.a1 + 4 * x.a2 * gain)) / (2 * x.a2) : ambient + gain / x.a1;
}
