/** An inverter: efficiency over its load, and its limit. */
export interface Inverter {
  /** Most power it gives, W of alternating current. */
  readonly rated: number;
  /** Loads, direct current over the rated power, rising, and the efficiency at each, 1; straight between them (IEC 61683: 5 to 100 %). */
  readonly loads: readonly number[];
  readonly efficiencies: readonly number[];
  /** Below this share of its rated power it stands still. */
  readonly start: number;
  /** What it draws while it stands still, W. */
  readonly night: number;
}

/** Efficiency at a load, 1: straight between the points; before the first, in proportion to the load; beyond the last, that of the last. */
export function inverterEfficiency(x: Inverter, load: number): number {
  const { loads, efficiencies } = x;
  if (!(load > 0)) return 0;
  if (load <= loads[0]) return (efficiencies[0] * load) / loads[0];
  for (let i = 1; i < loads.length; i++)
    if (load <= loads[i]) return efficiencies[i - 1] + ((efficiencies[i] - efficiencies[i - 1]) * (load - loads[i - 1])) / (loads[i] - loads[i - 1]);
  return efficiencies[efficiencies.length - 1];
}

/** What an inverter makes of direct current: power given (negative: drawn), what its efficiency loses and what its limit leaves unused, W. */
export function throughInverter(x: Inverter, direct: number): { readonly given: number; readonly lost: number; readonly cut: number } {
  if (!(direct > x.start * x.rated)) return { given: -x.night, lost: Math.max(0, direct) + x.night, cut: 0 };
  const wanted = direct * inverterEfficiency(x, direct / x.rated);
  if (wanted <= x.rated) return { given: wanted, lost: direct - wanted, cut: 0 };
  // held at its limit: the array is moved off its maximum until the inverter gives just its rated power
  const taken = x.rated / x.efficiencies[x.efficiencies.length - 1];
  return { given: x.rated, lost: taken - x.rated, cut: direct - taken };
}
