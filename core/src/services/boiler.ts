/** Return water at and above which a condensing boiler does not condense, and of the second rating, °C. */
const DEW = 55;
const COLD = 30;

/**
 * Efficiency of a boiler by its return water, 1: constant above the dew point of its flue gas, and from there rising in proportion to
 * that at 30 °C (two ratings and a straight line between them: ours, typical, unverified). @param condensing efficiency at 30 °C; NaN: it does not condense
 */
export function boilerEfficiency(efficiency: number, condensing: number, returnTemperature: number): number {
  if (!(condensing === condensing) || returnTemperature >= DEW) return efficiency;
  const share = (DEW - Math.max(COLD, returnTemperature)) / (DEW - COLD);
  return efficiency + share * (condensing - efficiency);
}
