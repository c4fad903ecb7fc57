/** Rate from a counter that only rises: difference of readings over the time between them; a counter that starts anew or rolls over is told. */
export interface CounterRead {
  /** Rate in each interval after the first reading, counts an hour; NaN where a reading is missing on either side. */
  readonly rate: Float64Array;
  /** Places at which the counter started anew: it fell to a small value, and what it counted since then is taken. */
  readonly restarts: readonly number[];
}

/**
 * Rates of a counter. A fall is a roll-over where the counter is near its largest value, else a new start.
 * @param readings NaN where there is none @param hours between readings @param most largest value it shows before it begins at 0; absent: it has none
 */
export function counterRates(readings: ArrayLike<number>, hours: number, most?: number): CounterRead {
  const rate = new Float64Array(readings.length).fill(NaN);
  const restarts: number[] = [];
  for (let i = 1; i < readings.length; i++) {
    const [before, now] = [readings[i - 1], readings[i]];
    if (before !== before || now !== now) continue;
    let step = now - before;
    if (step < 0) {
      if (most !== undefined && before > 0.9 * most) step += most;
      else {
        restarts.push(i);
        step = now;
      }
    }
    rate[i] = step / hours;
  }
  return { rate, restarts };
}

/** A stretch of readings, from the first to before the last. */
export interface Run {
  readonly from: number;
  readonly to: number;
}

/** Stretches in which a sensor shows the same value for longer than it can: `least` readings and more. What is at rest by nature, such as 0, is left out. */
export function stuckRuns(values: ArrayLike<number>, least: number, atRest: readonly number[] = [0]): Run[] {
  const out: Run[] = [];
  let from = 0;
  for (let i = 1; i <= values.length; i++) {
    if (i < values.length && values[i] === values[from]) continue;
    if (values[from] === values[from] && i - from >= least && !atRest.includes(values[from])) out.push({ from, to: i });
    from = i;
  }
  return out;
}

/** Gaps of a series: stretches without a reading. */
export function gapsOf(values: ArrayLike<number>): Run[] {
  const out: Run[] = [];
  let from = -1;
  for (let i = 0; i <= values.length; i++) {
    const missing = i < values.length && values[i] !== values[i];
    if (missing && from < 0) from = i;
    if (!missing && from >= 0) {
      out.push({ from, to: i });
      from = -1;
    }
  }
  return out;
}

/** Share of readings that are there. */
export function coverageOf(values: ArrayLike<number>): number {
  let there = 0;
  for (let i = 0; i < values.length; i++) if (values[i] === values[i]) there++;
  return values.length === 0 ? 0 : there / values.length;
}

/** How a sensor lies against what it should read. */
export interface Offset {
  /** Median of sensor less reference. */
  readonly offset: number;
  /** The same by day and by night, as the masks say. */
  readonly day: number;
  readonly night: number;
  readonly n: number;
}

/**
 * Offset of a sensor against another that is trusted: medians, which a few wild readings do not move.
 * @param day 1 in hours of daylight @throws never; without a common reading every figure is NaN
 */
export function offsetOf(sensor: ArrayLike<number>, reference: ArrayLike<number>, day: ArrayLike<number>): Offset {
  const all: number[] = [];
  const [light, dark]: [number[], number[]] = [[], []];
  for (let i = 0; i < sensor.length; i++) {
    const d = sensor[i] - reference[i];
    if (d !== d) continue;
    all.push(d);
    (day[i] !== 0 ? light : dark).push(d);
  }
  return { offset: median(all), day: median(light), night: median(dark), n: all.length };
}

function median(values: number[]): number {
  if (values.length === 0) return NaN;
  const sorted = [...values].sort((a, b) => a - b);
  const middle = Math.floor(sorted.length / 2);
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

/**
 * Whole steps by which a series runs behind another, found by the largest correlation of their changes: a clock that is off, or one
 * that was not put forward in summer. 0 where what is left unexplained (1 − correlation) does not fall by a fifth against no shift at all.
 * @param reach steps looked at on either side
 */
export function clockShift(values: ArrayLike<number>, reference: ArrayLike<number>, reach: number): number {
  const at = (shift: number): number => {
    let [n, x, y, xx, yy, xy] = [0, 0, 0, 0, 0, 0];
    for (let i = 1; i < values.length; i++) {
      const k = i - shift;
      if (k < 1 || k >= reference.length) continue;
      const [a, b] = [values[i] - values[i - 1], reference[k] - reference[k - 1]];
      if (a !== a || b !== b) continue;
      n++;
      x += a;
      y += b;
      xx += a * a;
      yy += b * b;
      xy += a * b;
    }
    const spread = Math.sqrt(Math.max(0, n * xx - x * x) * Math.max(0, n * yy - y * y));
    return spread > 0 ? (n * xy - x * y) / spread : 0;
  };
  let [best, found] = [1 - 0.8 * (1 - at(0)), 0];
  for (let shift = -reach; shift <= reach; shift++) {
    const r = at(shift);
    if (shift !== 0 && r > best) [best, found] = [r, shift];
  }
  return found;
}
