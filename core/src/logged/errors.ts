/** How far a modelled series lies from a measured one. */
export interface Misfit {
  /** Values that count: both are there and no mask takes the measured one out. */
  readonly n: number;
  /** Mean of the measured values that count. */
  readonly mean: number;
  /** Modelled less measured, mean: above 0 the model reads higher. */
  readonly bias: number;
  /** Root of the mean square of the differences. */
  readonly rmse: number;
  /** Normalised mean bias error, %: above 0 the model reads lower, as the guideline has it; null: the mean is nothing or fewer than two values count. */
  readonly nmbe: number | null;
  /** Coefficient of variation of the root mean square error, %; null as above. */
  readonly cvrmse: number | null;
}

/** Parameters the guideline takes from the number of values. */
const PARAMETERS = 1;
/** A mean this small beside its values is no measure to divide by. */
const NO_MEAN = 1e-9;

/** Limits of ASHRAE Guideline 14-2014 (section 5.3.2.4, from memory) for a calibrated model, %. */
export const guidelineLimits = { month: { nmbe: 5, cvrmse: 15 }, hour: { nmbe: 10, cvrmse: 30 } } as const;

/**
 * NMBE and CV(RMSE) of a modelled series against a measured one (ASHRAE Guideline 14-2014, section 5.2.11, from memory), with n − 1 in both.
 * @param measured values, NaN where nothing was measured @param modelled as long @param masked 1 where a reading means nothing; absent: nowhere
 */
export function misfitOf(measured: ArrayLike<number>, modelled: ArrayLike<number>, masked?: ArrayLike<number>): Misfit {
  let [n, sum, differences, squares, largest] = [0, 0, 0, 0, 0];
  for (let i = 0; i < measured.length; i++) {
    const [m, s] = [measured[i], modelled[i]];
    if (m !== m || s !== s || (masked && masked[i] !== 0)) continue;
    n++;
    sum += m;
    differences += s - m;
    squares += (s - m) * (s - m);
    largest = Math.max(largest, Math.abs(m));
  }
  if (n === 0) return { n, mean: NaN, bias: NaN, rmse: NaN, nmbe: null, cvrmse: null };
  const mean = sum / n;
  const told = n > PARAMETERS && Math.abs(mean) > NO_MEAN * largest;
  return {
    n,
    mean,
    bias: differences / n,
    rmse: Math.sqrt(squares / n),
    nmbe: told ? (100 * -differences) / ((n - PARAMETERS) * mean) : null,
    cvrmse: told ? (100 * Math.sqrt(squares / (n - PARAMETERS))) / Math.abs(mean) : null,
  };
}

/** Sums or means of both series over stretches of time, from the hours in which both count. */
export interface Stretches {
  readonly measured: Float64Array;
  readonly modelled: Float64Array;
  /** Hours that count in each. */
  readonly hours: Int32Array;
}

/**
 * Both series gathered over stretches, such as days or months: only hours in which both are there, so that a gap takes from both alike.
 * @param stretchOf number of the stretch of each hour, from 0; −1: none @param kind energy is summed, a temperature is averaged
 */
export function gathered(
  measured: ArrayLike<number>,
  modelled: ArrayLike<number>,
  stretchOf: ArrayLike<number>,
  kind: "sum" | "mean",
  masked?: ArrayLike<number>,
): Stretches {
  let count = 0;
  for (let i = 0; i < measured.length; i++) count = Math.max(count, stretchOf[i] + 1);
  const [m, s] = [new Float64Array(count), new Float64Array(count)];
  const hours = new Int32Array(count);
  for (let i = 0; i < measured.length; i++) {
    const at = stretchOf[i];
    if (at < 0 || measured[i] !== measured[i] || modelled[i] !== modelled[i] || (masked && masked[i] !== 0)) continue;
    m[at] += measured[i];
    s[at] += modelled[i];
    hours[at]++;
  }
  for (let k = 0; k < count; k++) {
    const by = hours[k] === 0 ? NaN : kind === "mean" ? hours[k] : 1;
    m[k] = m[k] / by;
    s[k] = s[k] / by;
  }
  return { measured: m, modelled: s, hours };
}

/** Whether a misfit lies within the limits of the guideline; null: it cannot be told. */
export const withinGuideline = (fit: Misfit, by: keyof typeof guidelineLimits): boolean | null =>
  fit.nmbe === null || fit.cvrmse === null ? null : Math.abs(fit.nmbe) <= guidelineLimits[by].nmbe && fit.cvrmse <= guidelineLimits[by].cvrmse;
