/** Energy over outdoor temperature: level base between two change points, rising toward cold below one and toward warmth above the other. */
export interface Signature {
  /** Value between the change points. */
  readonly base: number;
  /** Rise for each kelvin below the heating change point, and above the cooling one; 0: none. */
  readonly heating: number;
  readonly cooling: number;
  /** Change points, °C; null: there is none on that side. */
  readonly heatingBelow: number | null;
  readonly coolingAbove: number | null;
  /** Share of the spread that the line tells, 1; and the coefficient of variation of what it does not, %. */
  readonly r2: number;
  readonly cvrmse: number;
  readonly n: number;
}

/** Change points are tried at these many places over the temperatures met. */
const PLACES = 40;
/** A further slope with its change point is kept where each takes this many times as much from the squares as one value has left (an F of two more parameters). */
const WORTH = 6;

/**
 * Energy signature by a change-point model (three and five parameters, ASHRAE Guideline 14-2014, annex D, from memory): least squares over a grid of
 * change points; slopes that would fall toward cold or toward warmth are not taken.
 * @param energy a day or a month each, NaN: left out @param outdoor mean outdoor temperature of each, °C
 */
export function signatureOf(energy: ArrayLike<number>, outdoor: ArrayLike<number>): Signature {
  const rows: { readonly e: number; readonly t: number }[] = [];
  for (let i = 0; i < energy.length; i++) if (energy[i] === energy[i] && outdoor[i] === outdoor[i]) rows.push({ e: energy[i], t: outdoor[i] });
  const n = rows.length;
  const mean = rows.reduce((a, r) => a + r.e, 0) / Math.max(1, n);
  const whole = rows.reduce((a, r) => a + (r.e - mean) * (r.e - mean), 0);
  const level: Fit = { base: mean, heating: 0, cooling: 0, below: null, above: null, left: whole };
  if (n < 6) return told(level, whole, mean, n);
  const temperatures = rows.map((r) => r.t);
  const [low, high] = [Math.min(...temperatures), Math.max(...temperatures)];
  const places = Array.from({ length: PLACES - 1 }, (_, i) => low + ((i + 1) * (high - low)) / PLACES);
  let best = level;
  const better = (fit: Fit | null): void => {
    if (!fit) return;
    const free = n - parametersOf(fit);
    if (free > 0 && (best.left - fit.left) / 2 > (WORTH * fit.left) / free) best = fit;
  };
  const one: Fit[] = [];
  for (const p of places) for (const fit of [fitted(rows, p, null), fitted(rows, null, p)]) if (fit) one.push(fit);
  better(one.reduce<Fit | null>((a, f) => (a === null || f.left < a.left ? f : a), null));
  let two: Fit | null = null;
  for (const below of places)
    for (const above of places) {
      if (above < below) continue;
      const fit = fitted(rows, below, above);
      if (fit && (two === null || fit.left < two.left)) two = fit;
    }
  better(two);
  return told(best, whole, mean, n);
}

interface Fit {
  readonly base: number;
  readonly heating: number;
  readonly cooling: number;
  readonly below: number | null;
  readonly above: number | null;
  readonly left: number;
}

const parametersOf = (fit: Fit): number => 1 + 2 * Number(fit.below !== null) + 2 * Number(fit.above !== null);

function told(fit: Fit, whole: number, mean: number, n: number): Signature {
  const parameters = parametersOf(fit);
  return {
    base: fit.base,
    heating: fit.heating,
    cooling: fit.cooling,
    heatingBelow: fit.below,
    coolingAbove: fit.above,
    r2: whole > 0 ? 1 - fit.left / whole : 0,
    cvrmse: n > parameters && mean !== 0 ? (100 * Math.sqrt(fit.left / (n - parameters))) / Math.abs(mean) : NaN,
    n,
  };
}

/** Least squares of base and slopes at given change points; null where a slope has the wrong sign or cannot be told. */
function fitted(rows: readonly { readonly e: number; readonly t: number }[], below: number | null, above: number | null): Fit | null {
  const cold = (t: number): number => (below === null ? 0 : Math.max(0, below - t));
  const warm = (t: number): number => (above === null ? 0 : Math.max(0, t - above));
  // normal equations of 1, cold, warm
  let [n, c, w, cc, ww, cw, e, ec, ew] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  for (const r of rows) {
    const [x, y] = [cold(r.t), warm(r.t)];
    n++;
    c += x;
    w += y;
    cc += x * x;
    ww += y * y;
    cw += x * y;
    e += r.e;
    ec += r.e * x;
    ew += r.e * y;
  }
  const [scc, sww, scw] = [cc - (c * c) / n, ww - (w * w) / n, cw - (c * w) / n];
  const [sec, sew] = [ec - (e * c) / n, ew - (e * w) / n];
  let [heating, cooling] = [0, 0];
  if (below !== null && above !== null) {
    const d = scc * sww - scw * scw;
    if (!(d > 1e-12 * scc * sww)) return null;
    heating = (sec * sww - sew * scw) / d;
    cooling = (sew * scc - sec * scw) / d;
    if (heating <= 0 || cooling <= 0) return null;
  } else if (below !== null) {
    if (!(scc > 0)) return null;
    heating = sec / scc;
    if (heating <= 0) return null;
  } else {
    if (!(sww > 0)) return null;
    cooling = sew / sww;
    if (cooling <= 0) return null;
  }
  const base = (e - heating * c - cooling * w) / n;
  const left = rows.reduce((a, r) => {
    const d = r.e - base - heating * cold(r.t) - cooling * warm(r.t);
    return a + d * d;
  }, 0);
  return { base, heating, cooling, below, above, left };
}
