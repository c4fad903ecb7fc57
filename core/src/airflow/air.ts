/** Specific heat of dry air, J/kg·K, and of water vapour, J/kg·K. */
export const CP_AIR = 1006;
export const CP_VAPOUR = 1860;
/** Latent heat by which vapour gains are turned into mass, J/kg (at 0 °C, as enthalpy counts it). */
export const LATENT_HEAT = 2.501e6;

/** Density of air, kg/m³, from the ideal gas law for dry air. @param t °C @param pressure Pa */
export function airDensity(t: number, pressure: number): number {
  return pressure / (287.042 * (t + 273.15));
}
