/** Small dense linear algebra on row-major Float64Array matrices. */

/**
 * Cholesky factor L (lower, row-major n×n) of a symmetric positive definite matrix A = L·Lᵀ.
 * @throws RangeError when A is not positive definite.
 */
export function cholesky(a: Float64Array, n: number): Float64Array {
  const l = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let s = a[i * n + j]!;
      for (let k = 0; k < j; k++) s -= l[i * n + k]! * l[j * n + k]!;
      if (i === j) {
        if (!(s > 0)) throw new RangeError(`matrix is not positive definite (pivot ${i}: ${s})`);
        l[i * n + i] = Math.sqrt(s);
      } else l[i * n + j] = s / l[j * n + j]!;
    }
  }
  return l;
}

/** Solves L·x = b in place for lower-triangular L (row-major n×n). */
export function forwardSubstitute(l: Float64Array, n: number, b: Float64Array): void {
  for (let i = 0; i < n; i++) {
    let s = b[i]!;
    for (let k = 0; k < i; k++) s -= l[i * n + k]! * b[k]!;
    b[i] = s / l[i * n + i]!;
  }
}

/** Solves Lᵀ·x = b in place for lower-triangular L (row-major n×n). */
export function backSubstituteTransposed(l: Float64Array, n: number, b: Float64Array): void {
  for (let i = n - 1; i >= 0; i--) {
    let s = b[i]!;
    for (let k = i + 1; k < n; k++) s -= l[k * n + i]! * b[k]!;
    b[i] = s / l[i * n + i]!;
  }
}

/**
 * Eigenvalues and orthonormal eigenvectors of a symmetric matrix by cyclic Jacobi rotations
 * (Golub and Van Loan 1996, algorithm 8.4.3). Column k of `vectors` belongs to `values[k]`,
 * in descending order of value.
 */
export function symmetricEigen(matrix: Float64Array, n: number): { values: Float64Array; vectors: Float64Array } {
  const a = Float64Array.from(matrix);
  const v = new Float64Array(n * n);
  for (let i = 0; i < n; i++) v[i * n + i] = 1;
  for (let sweep = 0; sweep < 60; sweep++) {
    let off = 0;
    let diagonal = 0;
    for (let i = 0; i < n; i++) {
      diagonal += a[i * n + i]! * a[i * n + i]!;
      for (let j = i + 1; j < n; j++) off += a[i * n + j]! * a[i * n + j]!;
    }
    if (off <= 1e-34 * diagonal || off === 0) break;
    for (let p = 0; p < n - 1; p++) {
      for (let q = p + 1; q < n; q++) {
        const apq = a[p * n + q]!;
        if (apq === 0) continue;
        const theta = (a[q * n + q]! - a[p * n + p]!) / (2 * apq);
        const t = (theta >= 0 ? 1 : -1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
        const c = 1 / Math.sqrt(t * t + 1);
        const s = t * c;
        for (let k = 0; k < n; k++) {
          const akp = a[k * n + p]!;
          const akq = a[k * n + q]!;
          a[k * n + p] = c * akp - s * akq;
          a[k * n + q] = s * akp + c * akq;
        }
        for (let k = 0; k < n; k++) {
          const apk = a[p * n + k]!;
          const aqk = a[q * n + k]!;
          a[p * n + k] = c * apk - s * aqk;
          a[q * n + k] = s * apk + c * aqk;
          const vkp = v[k * n + p]!;
          const vkq = v[k * n + q]!;
          v[k * n + p] = c * vkp - s * vkq;
          v[k * n + q] = s * vkp + c * vkq;
        }
      }
    }
  }
  const order = Array.from({ length: n }, (_, i) => i).sort((i, j) => a[j * n + j]! - a[i * n + i]! || i - j);
  const values = new Float64Array(n);
  const vectors = new Float64Array(n * n);
  order.forEach((source, k) => {
    values[k] = a[source * n + source]!;
    for (let i = 0; i < n; i++) vectors[i * n + k] = v[i * n + source]!;
  });
  return { values, vectors };
}

/** Solves a tridiagonal system (Thomas algorithm); lower[0] and upper[n−1] are unused. Returns x. */
export function solveTridiagonal(lower: Float64Array, diagonal: Float64Array, upper: Float64Array, rhs: Float64Array): Float64Array {
  const n = diagonal.length;
  const c = new Float64Array(n);
  const x = new Float64Array(n);
  let d = diagonal[0]!;
  x[0] = rhs[0]! / d;
  for (let i = 1; i < n; i++) {
    c[i] = upper[i - 1]! / d;
    d = diagonal[i]! - lower[i]! * c[i]!;
    x[i] = (rhs[i]! - lower[i]! * x[i - 1]!) / d;
  }
  for (let i = n - 2; i >= 0; i--) x[i] = x[i]! - c[i + 1]! * x[i + 1]!;
  return x;
}

/**
 * Inverse of a square matrix (Gauss–Jordan with partial pivoting).
 * @throws RangeError when the matrix is singular
 */
export function invert(matrix: Float64Array, n: number): Float64Array {
  const a = Float64Array.from(matrix);
  const x = new Float64Array(n * n);
  for (let i = 0; i < n; i++) x[i * n + i] = 1;
  for (let k = 0; k < n; k++) {
    let p = k;
    for (let i = k + 1; i < n; i++) if (Math.abs(a[i * n + k]!) > Math.abs(a[p * n + k]!)) p = i;
    if (a[p * n + k] === 0) throw new RangeError(`matrix is singular (column ${k})`);
    if (p !== k)
      for (let j = 0; j < n; j++) {
        const t = a[k * n + j]!;
        a[k * n + j] = a[p * n + j]!;
        a[p * n + j] = t;
        const u = x[k * n + j]!;
        x[k * n + j] = x[p * n + j]!;
        x[p * n + j] = u;
      }
    const d = 1 / a[k * n + k]!;
    for (let j = 0; j < n; j++) {
      a[k * n + j]! *= d;
      x[k * n + j]! *= d;
    }
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const m = a[i * n + k]!;
      if (m === 0) continue;
      for (let j = 0; j < n; j++) {
        a[i * n + j]! -= m * a[k * n + j]!;
        x[i * n + j]! -= m * x[k * n + j]!;
      }
    }
  }
  return x;
}

/** Solves a small dense system by elimination with partial pivoting; `matrix` is kept. @throws RangeError when it is singular */
export function solveSmall(matrix: Float64Array, rhs: Float64Array, n: number): Float64Array {
  const inverse = invert(matrix, n);
  return Float64Array.from({ length: n }, (_, i) => {
    let sum = 0;
    for (let j = 0; j < n; j++) sum += inverse[i * n + j]! * rhs[j]!;
    return sum;
  });
}
