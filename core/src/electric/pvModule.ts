import { exp } from "../numeric/index.ts";

/** What a data sheet says of a module at 1000 W/m² and 25 °C. */
export interface ModuleSheet {
  /** Cells in series. */
  readonly cells: number;
  /** Open-circuit voltage, V, and short-circuit current, A. */
  readonly voc: number;
  readonly isc: number;
  /** At maximum power, V and A. */
  readonly vmp: number;
  readonly imp: number;
  /** Change of I_sc, A/K, and of V_oc, V/K, with the temperature of the cells. */
  readonly alpha: number;
  readonly beta: number;
}
/** The single diode at 1000 W/m² and 25 °C (De Soto, Klein and Beckman 2006). */
export interface DiodeModel {
  readonly sheet: ModuleSheet;
  /** Modified ideality factor, V. */
  readonly a: number;
  /** Light current and saturation current of the diode, A. */
  readonly light: number;
  readonly saturation: number;
  /** Series resistance, Ω, and conductance of the shunt, 1/Ω. */
  readonly series: number;
  readonly shunt: number;
}
/** A point of a module's curve. */
export interface OperatingPoint {
  readonly voltage: number;
  readonly current: number;
  readonly power: number;
}

export const REFERENCE_SUN = 1000;
const REFERENCE = 298.15;
const ZERO = 273.15;
/** Band gap of silicon at 25 °C, eV, and its change, 1/K; Boltzmann's constant, eV/K (De Soto 2006, eq. 11). */
const GAP = 1.121;
const GAP_SLOPE = 0.0002677;
const BOLTZMANN = 8.617333262e-5;
/** Rise of the cells over which the temperature coefficient of V_oc is met, K. */
const RISE = 10;
const HALVINGS = 80;
/** A coefficient is met to this over the rise, V. */
const MET = 1e-6;

/** Root of a function that changes its sign between two places, by halving. */
function rootBetween(f: (x: number) => number, from: number, to: number): number {
  let low = from;
  let high = to;
  const rises = f(low) < 0;
  for (let i = 0; i < HALVINGS; i++) {
    const mid = 0.5 * (low + high);
    if (f(mid) < 0 === rises) low = mid;
    else high = mid;
  }
  return 0.5 * (low + high);
}

/** Light current, saturation current and shunt conductance that meet I_sc, V_oc and the maximum-power point with a given a and R_s; null: none. */
function linearPart(s: ModuleSheet, a: number, series: number): { light: number; saturation: number; shunt: number } | null {
  const at = (v: number): number => exp(v / a) - 1;
  const [d1, d2, d3] = [at(s.isc * series), at(s.voc), at(s.vmp + s.imp * series)];
  const [u1, u2, u3] = [s.isc * series, s.voc, s.vmp + s.imp * series];
  // differences to the open circuit take the light current away
  const [p, q, e] = [d2 - d1, u2 - u1, s.isc];
  const [r, t, f] = [d2 - d3, u2 - u3, s.imp];
  const det = p * t - q * r;
  if (det === 0) return null;
  const saturation = (e * t - q * f) / det;
  const shunt = (p * f - r * e) / det;
  return { light: saturation * d2 + shunt * u2, saturation, shunt };
}

/** Slope of power at the maximum-power point of the sheet, A: zero where the model has its maximum there. */
function slopeAtMaximum(s: ModuleSheet, a: number, series: number): number {
  const l = linearPart(s, a, series);
  if (!l) return NaN;
  const g = (l.saturation / a) * exp((s.vmp + s.imp * series) / a) + l.shunt;
  return s.imp - (s.vmp * g) / (1 + g * series);
}

/** Series resistance, Ω, with which the maximum of power lies where the sheet has it, for a given a; NaN: none. */
function seriesFor(s: ModuleSheet, a: number): number {
  // the exponential at the maximum-power point must not pass that of the open circuit
  const most = ((s.voc - s.vmp) / s.imp) * 0.999;
  if (!(slopeAtMaximum(s, a, 0) * slopeAtMaximum(s, a, most) < 0)) return NaN;
  return rootBetween((r) => slopeAtMaximum(s, a, r), 0, most);
}

/** Current, A, at a voltage between terminals: the diode's equation solved by halving. @param of at the present sun and temperature */
export function currentAt(of: Diode, voltage: number): number {
  const balance = (i: number): number => of.light - of.saturation * (exp((voltage + i * of.series) / of.a) - 1) - of.shunt * (voltage + i * of.series) - i;
  return rootBetween(balance, -2 * of.light - 1, of.light + 1e-9);
}

/** A single diode at one sun and temperature. */
export interface Diode {
  readonly a: number;
  readonly light: number;
  readonly saturation: number;
  readonly series: number;
  readonly shunt: number;
}

/** The diode at an absorbed irradiance over that of the reference, and a temperature of its cells (De Soto 2006, eqs. 8 to 12). @param sun W/m² effective @param cell °C */
export function diodeAt(m: DiodeModel, sun: number, cell: number): Diode {
  const t = cell + ZERO;
  const gap = GAP * (1 - GAP_SLOPE * (t - REFERENCE));
  const ratio = t / REFERENCE;
  const share = sun / REFERENCE_SUN;
  return {
    a: m.a * ratio,
    light: Math.max(0, share * (m.light + m.sheet.alpha * (t - REFERENCE))),
    saturation: m.saturation * ratio * ratio * ratio * exp(GAP / (BOLTZMANN * REFERENCE) - gap / (BOLTZMANN * t)),
    series: m.series,
    shunt: m.shunt * share,
  };
}

/** Voltage without a load, V. */
export function openVoltage(of: Diode): number {
  if (!(of.light > 0)) return 0;
  const balance = (v: number): number => of.light - of.saturation * (exp(v / of.a) - 1) - of.shunt * v;
  let high = of.a;
  while (balance(high) > 0) high *= 2;
  return rootBetween(balance, 0, high);
}

/** Halvings of the search for the point of most power: its voltage to a part in 10⁹. */
const FINE = 32;

/** The point of most power; nothing in the dark. Found by the voltage at the junction, of which current and voltage at the terminals follow without a search. */
export function maximumPower(of: Diode): OperatingPoint {
  if (!(of.light > 0)) return { voltage: 0, current: 0, power: 0 };
  let low = 0;
  let high = openVoltage(of);
  for (let i = 0; i < FINE; i++) {
    const mid = 0.5 * (low + high);
    const e = exp(mid / of.a);
    const current = of.light - of.saturation * (e - 1) - of.shunt * mid;
    const g = (of.saturation / of.a) * e + of.shunt;
    // dP of the terminals over dV of the junction: I·(1 + R·g) − V·g
    if (current * (1 + of.series * g) - (mid - current * of.series) * g > 0) low = mid;
    else high = mid;
  }
  const junction = 0.5 * (low + high);
  const current = of.light - of.saturation * (exp(junction / of.a) - 1) - of.shunt * junction;
  const voltage = junction - current * of.series;
  return { voltage, current, power: voltage * current };
}

/** A model, or the sentence that says what the sheet does not agree on. */
export type ModuleFit =
  | { readonly ok: true; readonly model: DiodeModel }
  | {
      readonly ok: false;
      readonly message: string;
      /** The nearest model that meets all but the coefficient of V_oc; null: none. */ readonly nearest: DiodeModel | null;
    };

/**
 * The five parameters of a module from its data sheet: I_sc, V_oc, the maximum-power point, its being a maximum, and the temperature
 * coefficient of V_oc (De Soto, Klein and Beckman 2006). Where no shunt of a positive resistance meets all five, the sheet is refused.
 */
export function fitModule(s: ModuleSheet): ModuleFit {
  const no = (message: string, nearest: DiodeModel | null = null): ModuleFit => ({ ok: false, message, nearest });
  if (!(s.vmp < s.voc)) return no(`V_mp of ${s.vmp} V is not below V_oc of ${s.voc} V.`);
  if (!(s.imp < s.isc)) return no(`I_mp of ${s.imp} A is not below I_sc of ${s.isc} A.`);
  if (!(s.beta < 0)) return no("The voltage of a module falls with temperature: its coefficient of V_oc is negative.");
  const fill = (s.vmp * s.imp) / (s.voc * s.isc);
  if (!(fill > 0.5 && fill < 0.87)) return no(`V_mp · I_mp over V_oc · I_sc is ${fill.toFixed(2)}; between 0.50 and 0.87 is possible.`);
  const modelAt = (a: number): DiodeModel | null => {
    const series = seriesFor(s, a);
    const l = series === series ? linearPart(s, a, series) : null;
    return l && l.saturation > 0 && l.light > 0 ? { sheet: s, a, series, ...l } : null;
  };
  // how far the model's V_oc is above what the coefficient says, 10 K warmer
  const off = (m: DiodeModel): number => openVoltage(diodeAt(m, REFERENCE_SUN, REFERENCE - ZERO + RISE)) - (s.voc + s.beta * RISE);
  // the ideality of silicon cells lies between these; searched from ideal upward, where a model exists
  const thermal = BOLTZMANN * REFERENCE * s.cells;
  const STEPS = 60;
  let before: { a: number; off: number } | null = null;
  let nearest: DiodeModel | null = null;
  let least = Infinity;
  for (let k = 0; k <= STEPS; k++) {
    const a = thermal * (0.4 + (1.8 * k) / STEPS);
    const m = modelAt(a);
    if (!m) {
      before = null;
      continue;
    }
    const d = off(m);
    if (m.shunt > -1e-9 && Math.abs(d) < least) {
      least = Math.abs(d);
      nearest = m;
    }
    if (before && before.off * d <= 0) {
      const found = modelAt(rootBetween((x) => off(modelAt(x) as DiodeModel), before.a, a));
      if (found && found.shunt > -1e-9 && Math.abs(off(found)) < MET) return { ok: true, model: found };
    }
    before = { a, off: d };
  }
  if (!nearest) return no("No single diode has this short circuit, open circuit and point of most power together; check the sheet.");
  const nearly = s.beta + (off(nearest) > 0 ? least : -least) / RISE;
  return no(`No single diode meets the sheet with its coefficient of V_oc of ${s.beta} V/K; the nearest has ${nearly.toFixed(4)} V/K.`, nearest);
}

/** Temperature of the cells, °C: by the nominal operating cell temperature with wind (Duffie and Beckman 2013, eq. 23.3.3, with 9.5/(5.7 + 3.8·v) for the wind). @param noct °C at 800 W/m², 20 °C and 1 m/s @param efficiency of the module now, 1 */
export function cellTemperature(air: number, sun: number, wind: number, noct: number, efficiency: number, absorbed = 0.9): number {
  const rise = ((noct - 20) * sun) / 800;
  return air + ((rise * 9.5) / (5.7 + 3.8 * wind)) * (1 - efficiency / absorbed);
}
