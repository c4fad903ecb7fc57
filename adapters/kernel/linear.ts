// The zones' linear system: core/src/numeric/sparse.ts, operation by operation.
import { p_lowerBlock, p_lowerStart, p_neighbour, p_order, p_rowBlock, p_rowColumn, p_rowStart, p_size, p_updateBlock, p_upperBlock, Reals } from "./arrays";

export function blockSolve(v: Reals, b: Reals): void {
  const size = p_size;
  const order = p_order;
  const lowerStart = p_lowerStart;
  const lowerBlock = p_lowerBlock;
  const upperBlock = p_upperBlock;
  const neighbour = p_neighbour;
  const updateBlock = p_updateBlock;
  let u = 0;
  for (let step = 0; step < size; step++) {
    const k = order[step];
    const from = lowerStart[step];
    const to = lowerStart[step + 1];
    const d = 4 * k;
    const inverse = 1.0 / (v[d] * v[d + 3] - v[d + 1] * v[d + 2]);
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
        v[c] = v[c] - (l00 * a00 + l01 * a10);
        v[c + 1] = v[c + 1] - (l00 * a01 + l01 * a11);
        v[c + 2] = v[c + 2] - (l10 * a00 + l11 * a10);
        v[c + 3] = v[c + 3] - (l10 * a01 + l11 * a11);
      }
      const i = 2 * neighbour[s];
      b[i] = b[i] - (l00 * b0 + l01 * b1);
      b[i + 1] = b[i + 1] - (l10 * b0 + l11 * b1);
    }
  }
  for (let step = size - 1; step >= 0; step--) {
    const k = order[step];
    let s0 = b[2 * k];
    let s1 = b[2 * k + 1];
    const to = lowerStart[step + 1];
    for (let t = lowerStart[step]; t < to; t++) {
      const a = 4 * upperBlock[t];
      const i = 2 * neighbour[t];
      s0 -= v[a] * b[i] + v[a + 1] * b[i + 1];
      s1 -= v[a + 2] * b[i] + v[a + 3] * b[i + 1];
    }
    const d = 4 * k;
    const inverse = 1.0 / (v[d] * v[d + 3] - v[d + 1] * v[d + 2]);
    b[2 * k] = (v[d + 3] * s0 - v[d + 1] * s1) * inverse;
    b[2 * k + 1] = (v[d] * s1 - v[d + 2] * s0) * inverse;
  }
}

/** @returns sweeps taken, or -1 where `most` were not enough */
export function blockSweeps(v: Reals, b: Reals, x: Reals, tolerance: f64, most: i32): i32 {
  const size = p_size;
  const rowStart = p_rowStart;
  const rowBlock = p_rowBlock;
  const rowColumn = p_rowColumn;
  for (let sweep = 1; sweep <= most; sweep++) {
    let moved: f64 = 0;
    for (let i = 0; i < size; i++) {
      let r = b.two(2 * i);
      const end = rowStart[i + 1];
      for (let e = rowStart[i]; e < end; e++) {
        const at = 4 * rowBlock[e];
        const xs = x.two(2 * rowColumn[e]);
        const row0 = f64x2.mul(v.two(at), xs);
        const row1 = f64x2.mul(v.two(at + 2), xs);
        r = f64x2.sub(r, f64x2.add(v128.shuffle<f64>(row0, row1, 0, 2), v128.shuffle<f64>(row0, row1, 1, 3)));
      }
      const r0 = f64x2.extract_lane(r, 0);
      const r1 = f64x2.extract_lane(r, 1);
      const d = 4 * i;
      const inverse = 1.0 / (v[d] * v[d + 3] - v[d + 1] * v[d + 2]);
      const y0 = (v[d + 3] * r0 - v[d + 1] * r1) * inverse;
      const y1 = (v[d] * r1 - v[d + 2] * r0) * inverse;
      const before0 = x[2 * i];
      const before1 = x[2 * i + 1];
      const m0 = y0 > before0 ? y0 - before0 : before0 - y0;
      const m1 = y1 > before1 ? y1 - before1 : before1 - y1;
      if (m0 > moved) moved = m0;
      if (m1 > moved) moved = m1;
      x[2 * i] = y0;
      x[2 * i + 1] = y1;
    }
    if (moved <= tolerance) return sweep;
    if (moved != moved) return -1;
  }
  return -1;
}
