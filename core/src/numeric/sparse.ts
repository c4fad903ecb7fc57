/**
 * LU elimination of a structurally symmetric sparse matrix whose pattern never changes. The order
 * (minimum degree) and every index of the elimination are fixed once, so that a solve is one
 * straight walk over arrays. No pivoting: meant for diagonally dominant matrices.
 */
export interface SparsePattern {
  readonly size: number;
  /** Number of stored entries (original and fill). */
  readonly entries: number;
  /** Storage index of the diagonal entry of each row. */
  readonly diagonal: Int32Array;
  /** Storage index of entry (row, column). @throws RangeError when it is not in the pattern. */
  indexOf(row: number, column: number): number;
  /** Storage indices and columns of the off-diagonal entries of each row, in the original numbering. */
  readonly rowStart: Int32Array;
  readonly rowEntry: Int32Array;
  readonly rowColumn: Int32Array;
  /** Rows in the order of elimination, and the flat programme of the elimination. */
  readonly order: Int32Array;
  readonly lowerStart: Int32Array;
  readonly lowerEntry: Int32Array;
  readonly upperEntry: Int32Array;
  readonly neighbour: Int32Array;
  readonly updateEntry: Int32Array;
}

/** Builds the pattern from pairs (i, j) of coupled unknowns; the diagonal is always present. */
export function sparsePattern(size: number, couplings: readonly (readonly [number, number])[]): SparsePattern {
  const graph = Array.from({ length: size }, () => new Set<number>());
  const original = Array.from({ length: size }, () => new Set<number>());
  for (const [i, j] of couplings) {
    if (i === j) continue;
    graph[i]!.add(j);
    graph[j]!.add(i);
    original[i]!.add(j);
    original[j]!.add(i);
  }
  const order = new Int32Array(size);
  const done = new Uint8Array(size);
  const later: number[][] = [];
  const pairs = new Map<number, number>();
  let entries = 0;
  const index = (i: number, j: number): number => {
    const key = i * size + j;
    let e = pairs.get(key);
    if (e === undefined) {
      e = entries++;
      pairs.set(key, e);
    }
    return e;
  };
  for (let i = 0; i < size; i++) index(i, i);
  for (let step = 0; step < size; step++) {
    let best = -1;
    let degree = Infinity;
    for (let i = 0; i < size; i++) {
      if (!done[i] && graph[i]!.size < degree) {
        degree = graph[i]!.size;
        best = i;
      }
    }
    order[step] = best;
    done[best] = 1;
    const neighbours = [...graph[best]!].sort((a, b) => a - b);
    later.push(neighbours);
    for (const i of neighbours) {
      graph[i]!.delete(best);
      for (const j of neighbours) if (i !== j) graph[i]!.add(j);
    }
  }
  const lowerStart = new Int32Array(size + 1);
  const lower: number[] = [];
  const upper: number[] = [];
  const neighbour: number[] = [];
  const update: number[] = [];
  for (let step = 0; step < size; step++) {
    const k = order[step]!;
    lowerStart[step] = lower.length;
    for (const i of later[step]!) {
      lower.push(index(i, k));
      upper.push(index(k, i));
      neighbour.push(i);
      for (const j of later[step]!) update.push(index(i, j));
    }
  }
  lowerStart[size] = lower.length;
  const rowStart = new Int32Array(size + 1);
  const rowEntry: number[] = [];
  const rowColumn: number[] = [];
  for (let i = 0; i < size; i++) {
    rowStart[i] = rowEntry.length;
    for (const j of [...original[i]!].sort((a, b) => a - b)) {
      rowEntry.push(index(i, j));
      rowColumn.push(j);
    }
  }
  rowStart[size] = rowEntry.length;
  return {
    size,
    entries,
    diagonal: Int32Array.from({ length: size }, (_, i) => index(i, i)),
    indexOf(row, column) {
      const e = pairs.get(row * size + column);
      if (e === undefined) throw new RangeError(`entry (${row}, ${column}) is not in the pattern`);
      return e;
    },
    rowStart,
    rowEntry: Int32Array.from(rowEntry),
    rowColumn: Int32Array.from(rowColumn),
    order,
    lowerStart,
    lowerEntry: Int32Array.from(lower),
    upperEntry: Int32Array.from(upper),
    neighbour: Int32Array.from(neighbour),
    updateEntry: Int32Array.from(update),
  };
}

/**
 * Solves A·x = b in place: `values` (overwritten by its factors) in the pattern's storage, `b` becomes x.
 * @param fixed rows that are unit rows (their unknown is given by b): 1 spares their updates
 */
export function sparseSolve(p: SparsePattern, values: Float64Array, b: Float64Array, fixed: Uint8Array): void {
  const { size, order, lowerStart, lowerEntry, upperEntry, neighbour, updateEntry, diagonal } = p;
  let u = 0;
  for (let step = 0; step < size; step++) {
    const k = order[step];
    const from = lowerStart[step];
    const to = lowerStart[step + 1];
    const width = to - from;
    const bk = b[k];
    if (fixed[k] === 1) {
      for (let s = from; s < to; s++) {
        const i = neighbour[s];
        if (fixed[i] === 0) b[i] -= values[lowerEntry[s]] * bk;
      }
      u += width * width;
      continue;
    }
    const inverse = 1 / values[diagonal[k]];
    for (let s = from; s < to; s++) {
      const i = neighbour[s];
      if (fixed[i] === 1) {
        u += width;
        continue;
      }
      const l = values[lowerEntry[s]] * inverse;
      for (let t = from; t < to; t++) values[updateEntry[u++]] -= l * values[upperEntry[t]];
      b[i] -= l * bk;
    }
  }
  for (let step = size - 1; step >= 0; step--) {
    const k = order[step];
    if (fixed[k] === 1) continue;
    let s = b[k];
    for (let t = lowerStart[step]; t < lowerStart[step + 1]; t++) s -= values[upperEntry[t]] * b[neighbour[t]];
    b[k] = s / values[diagonal[k]];
  }
}
