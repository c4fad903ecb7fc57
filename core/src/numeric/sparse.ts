/**
 * LU elimination of a matrix of 2×2 blocks whose block pattern is symmetric and never changes. The order
 * (minimum degree) and every index of the elimination are fixed once, so that a solve is one straight
 * walk over arrays. No pivoting: meant for diagonally dominant matrices.
 */
export interface BlockPattern {
  /** Number of block rows. */
  readonly size: number;
  /** Number of stored blocks (original and fill); block e holds values 4e … 4e+3, row by row. Block i < size is diagonal block i. */
  readonly blocks: number;
  /** Storage index of block (row, column). @throws RangeError when it is not in the pattern. */
  indexOf(row: number, column: number): number;
  /** Off-diagonal blocks of each row as coupled, without fill. */
  readonly rowStart: Int32Array;
  readonly rowBlock: Int32Array;
  readonly rowColumn: Int32Array;
  /** Block rows in the order of elimination, and the flat programme of the elimination. */
  readonly order: Int32Array;
  readonly lowerStart: Int32Array;
  readonly lowerBlock: Int32Array;
  readonly upperBlock: Int32Array;
  readonly neighbour: Int32Array;
  readonly updateBlock: Int32Array;
}

/** Builds the pattern from pairs (i, j) of coupled block rows; the diagonal is always present. */
export function blockPattern(size: number, couplings: readonly (readonly [number, number])[]): BlockPattern {
  const graph = Array.from({ length: size }, () => new Set<number>());
  for (const [i, j] of couplings) {
    if (i === j) continue;
    graph[i].add(j);
    graph[j].add(i);
  }
  const original = graph.map((s) => [...s].sort((a, b) => a - b));
  const places = new Map<number, number>();
  const index = (i: number, j: number): number => {
    const key = i * size + j;
    const known = places.get(key);
    if (known !== undefined) return known;
    places.set(key, places.size);
    return places.size - 1;
  };
  for (let i = 0; i < size; i++) index(i, i);
  const order = new Int32Array(size);
  const done = new Uint8Array(size);
  const later: number[][] = [];
  for (let step = 0; step < size; step++) {
    let best = -1;
    for (let i = 0; i < size; i++) if (!done[i] && (best < 0 || graph[i].size < graph[best].size)) best = i;
    order[step] = best;
    done[best] = 1;
    const neighbours = [...graph[best]].sort((a, b) => a - b);
    later.push(neighbours);
    for (const i of neighbours) {
      graph[i].delete(best);
      for (const j of neighbours) if (i !== j) graph[i].add(j);
    }
  }
  const lowerStart = new Int32Array(size + 1);
  const lower: number[] = [];
  const upper: number[] = [];
  const neighbour: number[] = [];
  const update: number[] = [];
  for (let step = 0; step < size; step++) {
    const k = order[step];
    lowerStart[step] = lower.length;
    for (const i of later[step]) {
      lower.push(index(i, k));
      upper.push(index(k, i));
      neighbour.push(i);
      for (const j of later[step]) update.push(index(i, j));
    }
  }
  lowerStart[size] = lower.length;
  const rowStart = new Int32Array(size + 1);
  original.forEach((row, i) => (rowStart[i + 1] = rowStart[i] + row.length));
  return {
    size,
    blocks: places.size,
    indexOf(row, column) {
      const e = places.get(row * size + column);
      if (e === undefined) throw new RangeError(`block (${row}, ${column}) is not in the pattern`);
      return e;
    },
    rowStart,
    rowBlock: Int32Array.from(original.flatMap((row, i) => row.map((j) => index(i, j)))),
    rowColumn: Int32Array.from(original.flat()),
    order,
    lowerStart,
    lowerBlock: Int32Array.from(lower),
    upperBlock: Int32Array.from(upper),
    neighbour: Int32Array.from(neighbour),
    updateBlock: Int32Array.from(update),
  };
}

/** Solves A·x = b in place: `v` (overwritten by its factors) in the pattern's storage, `b` (2 values a block row) becomes x. */
export function blockSolve(p: BlockPattern, v: Float64Array, b: Float64Array): void {
  const { size, order, lowerStart, lowerBlock, upperBlock, neighbour, updateBlock } = p;
  let u = 0;
  for (let step = 0; step < size; step++) {
    const k = order[step];
    const from = lowerStart[step];
    const to = lowerStart[step + 1];
    const d = 4 * k;
    const inverse = 1 / (v[d] * v[d + 3] - v[d + 1] * v[d + 2]);
    const i00 = v[d + 3] * inverse;
    const i01 = -v[d + 1] * inverse;
    const i10 = -v[d + 2] * inverse;
    const i11 = v[d] * inverse;
    const b0 = b[2 * k];
    const b1 = b[2 * k + 1];
    for (let s = from; s < to; s++) {
      const e = 4 * lowerBlock[s];
      const l00 = v[e] * i00 + v[e + 1] * i10;
      const l01 = v[e] * i01 + v[e + 1] * i11;
      const l10 = v[e + 2] * i00 + v[e + 3] * i10;
      const l11 = v[e + 2] * i01 + v[e + 3] * i11;
      for (let t = from; t < to; t++) {
        const a = 4 * upperBlock[t];
        const c = 4 * updateBlock[u++];
        const a00 = v[a];
        const a01 = v[a + 1];
        const a10 = v[a + 2];
        const a11 = v[a + 3];
        v[c] -= l00 * a00 + l01 * a10;
        v[c + 1] -= l00 * a01 + l01 * a11;
        v[c + 2] -= l10 * a00 + l11 * a10;
        v[c + 3] -= l10 * a01 + l11 * a11;
      }
      const i = 2 * neighbour[s];
      b[i] -= l00 * b0 + l01 * b1;
      b[i + 1] -= l10 * b0 + l11 * b1;
    }
  }
  for (let step = size - 1; step >= 0; step--) {
    const k = order[step];
    let s0 = b[2 * k];
    let s1 = b[2 * k + 1];
    for (let t = lowerStart[step]; t < lowerStart[step + 1]; t++) {
      const a = 4 * upperBlock[t];
      const i = 2 * neighbour[t];
      s0 -= v[a] * b[i] + v[a + 1] * b[i + 1];
      s1 -= v[a + 2] * b[i] + v[a + 3] * b[i + 1];
    }
    const d = 4 * k;
    const inverse = 1 / (v[d] * v[d + 3] - v[d + 1] * v[d + 2]);
    b[2 * k] = (v[d + 3] * s0 - v[d + 1] * s1) * inverse;
    b[2 * k + 1] = (v[d] * s1 - v[d + 2] * s0) * inverse;
  }
}

/**
 * Solves A·x = b by block Gauss–Seidel from the values in `x`, for large patterns in which most blocks hang together
 * weakly: a sweep costs what the coupled blocks cost, without fill. Ends when no value moves by more than `tolerance`.
 * @returns sweeps taken, or −1 where `most` were not enough (x is then no solution)
 */
export function blockSweeps(p: BlockPattern, v: Float64Array, b: Float64Array, x: Float64Array, tolerance: number, most: number): number {
  const { size, rowStart, rowBlock, rowColumn } = p;
  for (let sweep = 1; sweep <= most; sweep++) {
    let moved = 0;
    for (let i = 0; i < size; i++) {
      let r0 = b[2 * i];
      let r1 = b[2 * i + 1];
      const end = rowStart[i + 1];
      for (let e = rowStart[i]; e < end; e++) {
        const at = 4 * rowBlock[e];
        const j = 2 * rowColumn[e];
        const x0 = x[j];
        const x1 = x[j + 1];
        r0 -= v[at] * x0 + v[at + 1] * x1;
        r1 -= v[at + 2] * x0 + v[at + 3] * x1;
      }
      const d = 4 * i;
      const inverse = 1 / (v[d] * v[d + 3] - v[d + 1] * v[d + 2]);
      const y0 = (v[d + 3] * r0 - v[d + 1] * r1) * inverse;
      const y1 = (v[d] * r1 - v[d + 2] * r0) * inverse;
      const m0 = y0 > x[2 * i] ? y0 - x[2 * i] : x[2 * i] - y0;
      const m1 = y1 > x[2 * i + 1] ? y1 - x[2 * i + 1] : x[2 * i + 1] - y1;
      if (m0 > moved) moved = m0;
      if (m1 > moved) moved = m1;
      x[2 * i] = y0;
      x[2 * i + 1] = y1;
    }
    if (moved <= tolerance) return sweep;
    // a lost value never settles
    if (moved !== moved) return -1;
  }
  return -1;
}
