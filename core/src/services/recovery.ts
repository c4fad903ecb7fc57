/**
 * Share of a heat recovery's effectiveness that acts. With a by-pass: as much as brings the air that is supplied to the wanted temperature
 * and no more; without: all of it. Either way the exhaust is not cooled below the frost limit.
 * @param outdoor °C @param returned °C @param sensible effectiveness @param mixed share of outdoor air in the mixture, 1 @param wanted
 * temperature of the mixture, °C; NaN: none @param bypass whether there is one @param frost °C, −Infinity: no limit
 */
export function recoveryShare(outdoor: number, returned: number, sensible: number, mixed: number, wanted: number, bypass: boolean, frost: number): number {
  const gain = sensible * (returned - outdoor);
  let share = 1;
  if (bypass && wanted === wanted && gain !== 0) {
    const without = mixed * outdoor + (1 - mixed) * returned;
    share = (wanted - without) / (mixed * gain);
    share = share < 0 ? 0 : share > 1 ? 1 : share;
  }
  // the exhaust leaves at returned − share·gain
  const spare = returned - frost;
  if (share * gain > spare) share = spare > 0 ? spare / gain : 0;
  return share;
}
