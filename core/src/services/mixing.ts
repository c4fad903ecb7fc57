/** Kinds of economizer. */
export const ECONOMIZER = { NONE: 0, FIXED: 1, DIFFERENTIAL: 2, ENTHALPY: 3 } as const;

/** Outdoors must pass a limit by so much before an economizer changes its state, K, and J/kg. */
const BAND = 0.5;
const ENTHALPY_BAND = 500;

/**
 * Whether an economizer may open, decided once a step from its state in the last one: outdoors below the high limit, colder than
 * the return air, or of lower enthalpy than it, with hysteresis.
 * @param enthalpies of outdoor and return air, J/kg
 */
export function economizerOpens(
  kind: number,
  open: boolean,
  outdoor: number,
  returned: number,
  highLimit: number,
  outdoorEnthalpy: number,
  returnEnthalpy: number,
): boolean {
  const side = open ? BAND : -BAND;
  if (kind === ECONOMIZER.NONE) return false;
  if (kind === ECONOMIZER.DIFFERENTIAL) return outdoor < returned + side;
  if (!(outdoor < highLimit + side)) return false;
  return kind === ECONOMIZER.FIXED || outdoorEnthalpy < returnEnthalpy + (open ? ENTHALPY_BAND : -ENTHALPY_BAND);
}

/** Outdoor and return air nearer than this mix to the same whatever the share, K. */
const NO_DIFFERENCE = 1e-6;

/**
 * Share of outdoor air that brings the mixture to a temperature, within the least share and 1: where outdoors lies between what is
 * wanted and the return air, all of it.
 */
export function outdoorShare(outdoor: number, returned: number, wanted: number, least: number): number {
  const span = outdoor - returned;
  if (span > -NO_DIFFERENCE && span < NO_DIFFERENCE) return least;
  const share = (wanted - returned) / span;
  return share < least ? least : share > 1 ? 1 : share;
}
