/** What a series comes to over a stretch of its hours. */
export interface Statistics {
  /** Hours looked at. */
  readonly hours: number;
  readonly mean: number;
  /** Standard deviation about the mean, of all hours. */
  readonly deviation: number;
  readonly least: number;
  readonly most: number;
  /** Hours of the series, from 0, of the first least and the first most value; −1: none. */
  readonly leastAt: number;
  readonly mostAt: number;
  /** Sum over the hours, in the unit of the series times hours. */
  readonly sum: number;
  /** Hours in which it lies beyond a threshold on either side of nothing. */
  readonly loaded: number;
}

/** Loads within this of nothing do not count as one, W. */
export const LOAD = 1;

/**
 * Statistics of a series over hours from…to (exclusive). Values that are no number are left out.
 * @param threshold beyond which an hour counts as loaded, in the unit of the series
 */
export function statistics(values: ArrayLike<number>, from = 0, to = values.length, threshold = LOAD): Statistics {
  let [hours, sum, least, most, leastAt, mostAt, loaded] = [0, 0, Infinity, -Infinity, -1, -1, 0];
  for (let h = Math.max(0, from); h < Math.min(to, values.length); h++) {
    const v = values[h];
    if (v !== v) continue;
    hours++;
    sum += v;
    if (v < least) {
      least = v;
      leastAt = h;
    }
    if (v > most) {
      most = v;
      mostAt = h;
    }
    if (v > threshold || v < -threshold) loaded++;
  }
  const mean = hours > 0 ? sum / hours : NaN;
  // about the mean, so that a small swing of a large value keeps its digits
  let square = 0;
  for (let h = Math.max(0, from); h < Math.min(to, values.length); h++) {
    const v = values[h];
    if (v === v) square += (v - mean) * (v - mean);
  }
  return {
    hours,
    mean,
    deviation: hours > 0 ? Math.sqrt(square / hours) : NaN,
    least: hours > 0 ? least : NaN,
    most: hours > 0 ? most : NaN,
    leastAt,
    mostAt,
    sum,
    loaded,
  };
}

/** Series of a group hour by hour: sums of powers and flows, means by weight of everything else. @param weights copies of a zone's storey for sums, floor area with them for means */
export function together(series: readonly ArrayLike<number>[], weights: readonly number[], summed: boolean): Float64Array {
  const out = new Float64Array(series[0]?.length ?? 0);
  const all = weights.reduce((s, w) => s + w, 0);
  series.forEach((values, i) => {
    const share = summed ? weights[i] : all > 0 ? weights[i] / all : 0;
    for (let h = 0; h < out.length; h++) out[h] += share * values[h];
  });
  return out;
}
