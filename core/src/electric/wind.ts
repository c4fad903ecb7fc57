import { pow } from "../numeric/index.ts";

/** A small wind turbine. */
export interface Turbine {
  /** Wind speeds at the hub, m/s, rising, and the power at each, W, at an air density of 1.225 kg/m³; nothing outside them. */
  readonly speeds: readonly number[];
  readonly powers: readonly number[];
}
/** Density power curves are given for (IEC 61400-12-1), kg/m³. */
const STANDARD = 1.225;

/**
 * Power at the hub, W: the curve read at the wind speed that carries as much at the standard density (IEC 61400-12-1, normalisation of the
 * wind speed by the cube root of the density ratio). @param speed m/s @param density kg/m³
 */
export function turbinePower(x: Turbine, speed: number, density = STANDARD): number {
  const { speeds, powers } = x;
  const v = speed * pow(density / STANDARD, 1 / 3);
  if (!(v >= speeds[0]) || v > speeds[speeds.length - 1]) return 0;
  for (let i = 1; i < speeds.length; i++)
    if (v <= speeds[i]) return powers[i - 1] + ((powers[i] - powers[i - 1]) * (v - speeds[i - 1])) / (speeds[i] - speeds[i - 1]);
  return 0;
}
