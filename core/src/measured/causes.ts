/** Residuals gathered by classes of something else: hour of day, weekday, outdoor temperature. */
export interface ByClass {
  readonly mean: Float64Array;
  readonly count: Int32Array;
  /** Share of the spread of the residuals that the classes tell (correlation ratio η², Fisher 1925), 1. */
  readonly told: number;
}

/** Residuals by class. @param classOf number of the class of each, from 0; −1: none @param residual NaN: left out */
export function byClass(residual: ArrayLike<number>, classOf: ArrayLike<number>, classes: number): ByClass {
  const mean = new Float64Array(classes);
  const count = new Int32Array(classes);
  let [n, sum] = [0, 0];
  for (let i = 0; i < residual.length; i++) {
    const [r, k] = [residual[i], classOf[i]];
    if (r !== r || k < 0) continue;
    mean[k] += r;
    count[k]++;
    n++;
    sum += r;
  }
  for (let k = 0; k < classes; k++) mean[k] = count[k] > 0 ? mean[k] / count[k] : NaN;
  const middle = n > 0 ? sum / n : 0;
  let [between, whole] = [0, 0];
  for (let k = 0; k < classes; k++) if (count[k] > 0) between += count[k] * (mean[k] - middle) * (mean[k] - middle);
  for (let i = 0; i < residual.length; i++) if (residual[i] === residual[i] && classOf[i] >= 0) whole += (residual[i] - middle) * (residual[i] - middle);
  return { mean, count, told: whole > 0 ? between / whole : 0 };
}

/** Classes of equal width over what a series runs through; a series that stands still is one class. */
export function classesOf(values: ArrayLike<number>, classes: number): { readonly classOf: Int32Array; readonly edges: readonly number[] } {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < values.length; i++)
    if (values[i] === values[i]) {
      low = Math.min(low, values[i]);
      high = Math.max(high, values[i]);
    }
  const classOf = new Int32Array(values.length).fill(-1);
  const width = (high - low) / classes;
  for (let i = 0; i < values.length; i++)
    if (values[i] === values[i]) classOf[i] = width > 0 ? Math.min(classes - 1, Math.floor((values[i] - low) / width)) : 0;
  return { classOf, edges: Array.from({ length: classes + 1 }, (_, k) => low + k * width) };
}

/** One thing that may explain residuals, by how much of their spread it tells. */
export interface Cause {
  readonly name: string;
  readonly told: number;
  readonly by: ByClass;
  readonly edges: readonly number[];
}

/** Which series explain residuals, the one that tells most first: each in twelve classes of equal width. */
export function causesOf(residual: ArrayLike<number>, series: Readonly<Record<string, ArrayLike<number>>>): Cause[] {
  return Object.entries(series)
    .map(([name, values]): Cause => {
      const { classOf, edges } = classesOf(values, 12);
      const by = byClass(residual, classOf, 12);
      return { name, told: by.told, by, edges };
    })
    .sort((a, b) => b.told - a.told || (a.name < b.name ? -1 : 1));
}
