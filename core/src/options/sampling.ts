import { randomStream, type RandomStream } from "../numeric/index.ts";

/** Points of a unit cube, one row a point. */
export type Cube = readonly Float64Array[];

/** Numbers 0…n−1 in an order of chance (Fisher and Yates 1938; Durstenfeld 1964). */
export function shuffled(n: number, random: RandomStream): Int32Array {
  const order = Int32Array.from({ length: n }, (_, i) => i);
  for (let i = n - 1; i > 0; i--) {
    const j = Math.floor(random.uniform() * (i + 1));
    [order[i], order[j]] = [order[j], order[i]];
  }
  return order;
}

/** Latin hypercube (McKay, Beckman and Conover 1979): each of n equal strips of every dimension holds one point. */
export function latinHypercube(dimensions: number, n: number, seed: number): Cube {
  const random = randomStream(seed);
  const rows = Array.from({ length: n }, () => new Float64Array(dimensions));
  for (let d = 0; d < dimensions; d++) {
    const strip = shuffled(n, random);
    for (let i = 0; i < n; i++) rows[i][d] = (strip[i] + random.uniform()) / n;
  }
  return rows;
}

/**
 * Direction numbers of Sobol' sequences from the second dimension on (Joe and Kuo 2008): degree of the primitive polynomial, its inner
 * coefficients as bits, and the first direction numbers.
 */
const DIRECTIONS: readonly (readonly [degree: number, inner: number, first: readonly number[]])[] = [
  [1, 0, [1]],
  [2, 1, [1, 3]],
  [3, 1, [1, 3, 1]],
  [3, 2, [1, 1, 1]],
  [4, 1, [1, 1, 3, 3]],
  [4, 4, [1, 3, 5, 13]],
  [5, 2, [1, 1, 5, 5, 17]],
  [5, 4, [1, 1, 5, 5, 5]],
  [5, 7, [1, 1, 7, 11, 19]],
  [5, 11, [1, 1, 5, 1, 1]],
  [5, 13, [1, 1, 1, 3, 11]],
  [5, 14, [1, 3, 5, 5, 31]],
  [6, 1, [1, 3, 3, 9, 7, 49]],
  [6, 13, [1, 1, 1, 15, 21, 21]],
  [6, 16, [1, 3, 1, 13, 27, 49]],
  [6, 19, [1, 1, 1, 15, 7, 5]],
  [6, 22, [1, 3, 1, 15, 13, 25]],
  [6, 25, [1, 1, 5, 5, 19, 61]],
  [7, 1, [1, 3, 7, 11, 23, 15, 103]],
  [7, 4, [1, 3, 7, 13, 13, 15, 69]],
];
/** Dimensions that have direction numbers; further ones are stratified by chance. */
export const SOBOL_DIMENSIONS = DIRECTIONS.length + 1;
const BITS = 32;
const RANGE = 4294967296;

/** Direction numbers of a dimension, from 0, as binary fractions of 32 bits (Bratley and Fox 1988). */
function directions(dimension: number): Uint32Array {
  const v = new Uint32Array(BITS);
  if (dimension === 0) {
    for (let i = 0; i < BITS; i++) v[i] = (1 << (31 - i)) >>> 0;
    return v;
  }
  const [degree, inner, first] = DIRECTIONS[dimension - 1];
  for (let i = 0; i < degree; i++) v[i] = (first[i] << (31 - i)) >>> 0;
  for (let i = degree; i < BITS; i++) {
    let x = v[i - degree] ^ (v[i - degree] >>> degree);
    for (let k = 1; k < degree; k++) if ((inner >>> (degree - 1 - k)) & 1) x ^= v[i - k];
    v[i] = x >>> 0;
  }
  return v;
}

/**
 * The first n points of a Sobol' sequence in Gray-code order (Antonov and Saleev 1979) under a digital shift by chance, so that every point is
 * uniform; beyond {@link SOBOL_DIMENSIONS} dimensions the further ones are those of a Latin hypercube.
 */
export function sobolSequence(dimensions: number, n: number, seed: number): Cube {
  const random = randomStream(seed);
  const rows = Array.from({ length: n }, () => new Float64Array(dimensions));
  const own = Math.min(dimensions, SOBOL_DIMENSIONS);
  for (let d = 0; d < own; d++) {
    const v = directions(d);
    const shift = Math.floor(random.uniform() * RANGE) >>> 0;
    let x = 0;
    for (let i = 0; i < n; i++) {
      if (i > 0) {
        let bit = 0;
        for (let rest = i - 1; rest & 1; rest >>>= 1) bit++;
        x = (x ^ v[bit]) >>> 0;
      }
      rows[i][d] = ((x ^ shift) >>> 0) / RANGE;
    }
  }
  if (own < dimensions) {
    const more = latinHypercube(dimensions - own, n, Math.floor(random.uniform() * RANGE));
    for (let i = 0; i < n; i++) rows[i].set(more[i], own);
  }
  return rows;
}

/**
 * Points for Sobol' indices (Saltelli et al. 2010): n points A, n points B, then for every dimension the points of A with that one
 * coordinate of B; n (dimensions + 2) rows.
 */
export function saltelliPoints(dimensions: number, n: number, seed: number): Cube {
  const both = sobolSequence(2 * dimensions, n, seed);
  const a = both.map((row) => row.slice(0, dimensions));
  const b = both.map((row) => row.slice(dimensions));
  const mixed = Array.from({ length: dimensions }, (_, d) =>
    a.map((row, i) => {
      const copy = row.slice();
      copy[d] = b[i][d];
      return copy;
    }),
  );
  return [...a, ...b, ...mixed.flat()];
}

/** Shares of the variance of a figure that inputs account for. */
export interface SobolIndices {
  /** Alone, and with every interaction it takes part in; by dimension. */
  readonly first: readonly number[];
  readonly total: readonly number[];
  readonly variance: number;
  /** Base points that could be used. */
  readonly of: number;
}

/**
 * Sobol' indices from the values at {@link saltelliPoints}: of first order by Saltelli et al. (2010), total by Jansen (1999). A base point
 * of which any value is missing (NaN) is left out.
 * @param values in the order of the points @returns null where fewer than two base points are whole, or nothing varies
 */
export function sobolIndices(values: ArrayLike<number>, dimensions: number): SobolIndices | null {
  const n = Math.floor(values.length / (dimensions + 2));
  const whole: number[] = [];
  for (let i = 0; i < n; i++) {
    let ok = true;
    for (let k = 0; k < dimensions + 2; k++) if (!Number.isFinite(values[k * n + i])) ok = false;
    if (ok) whole.push(i);
  }
  if (whole.length < 2) return null;
  const m = whole.length;
  const at = (block: number, i: number): number => values[block * n + i];
  let mean = 0;
  for (const i of whole) mean += (at(0, i) + at(1, i)) / (2 * m);
  let variance = 0;
  for (const i of whole) variance += ((at(0, i) - mean) * (at(0, i) - mean) + (at(1, i) - mean) * (at(1, i) - mean)) / (2 * m);
  if (!(variance > 1e-18 * (1 + mean * mean))) return null;
  const first: number[] = [];
  const total: number[] = [];
  for (let d = 0; d < dimensions; d++) {
    let own = 0;
    let all = 0;
    for (const i of whole) {
      const [a, b, mixed] = [at(0, i), at(1, i), at(2 + d, i)];
      own += ((b - mean) * (mixed - a)) / m;
      all += ((a - mixed) * (a - mixed)) / (2 * m);
    }
    first.push(own / variance);
    total.push(all / variance);
  }
  return { first, total, variance, of: m };
}
