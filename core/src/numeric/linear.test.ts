import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { blockPattern, blockSolve, blockSweeps, canonicalJson, hashFloats, hashText, invert, randomStream, solveTridiagonal, symmetricEigen } from "./index.ts";

describe("symmetric eigenproblem", () => {
  it("reproduces the matrix from its values and vectors", () => {
    const n = 6;
    const r = randomStream(3);
    const a = new Float64Array(n * n);
    for (let i = 0; i < n; i++) for (let j = 0; j <= i; j++) a[i * n + j] = a[j * n + i] = r.normal();
    const { values, vectors } = symmetricEigen(a, n);
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) {
        let s = 0;
        for (let k = 0; k < n; k++) s += vectors[i * n + k]! * values[k]! * vectors[j * n + k]!;
        expect(s).toBeCloseTo(a[i * n + j]!, 12);
      }
  });
  it("knows the vibrating string", () => {
    const { values } = symmetricEigen(new Float64Array([2, -1, 0, -1, 2, -1, 0, -1, 2]), 3);
    expect(values[0]).toBeCloseTo(2 + Math.SQRT2, 13);
    expect(values[2]).toBeCloseTo(2 - Math.SQRT2, 13);
  });
});

describe("direct solvers", () => {
  it("solve a tridiagonal system", () => {
    const x = solveTridiagonal(new Float64Array([0, -1, -1]), new Float64Array([2, 2, 2]), new Float64Array([-1, -1, 0]), new Float64Array([1, 0, 1]));
    for (const v of x) expect(v).toBeCloseTo(1, 14);
  });

  it("solve an unsymmetric system of blocks of random structure to rounding", () => {
    const n = 20;
    const r = randomStream(9);
    const couplings: [number, number][] = [];
    for (let k = 0; k < 45; k++) couplings.push([Math.floor(r.uniform() * n), Math.floor(r.uniform() * n)]);
    const p = blockPattern(n, couplings);
    const values = new Float64Array(4 * p.blocks);
    const x = Float64Array.from({ length: 2 * n }, () => r.normal());
    const b = new Float64Array(2 * n);
    for (let i = 0; i < n; i++) {
      for (let q = 0; q < 2; q++) {
        let sum = 1;
        const put = (block: number, column: number, value: number): void => {
          values[4 * block + 2 * q + (column % 2)] = value;
          b[2 * i + q] += value * x[column];
        };
        for (let e = p.rowStart[i]; e < p.rowStart[i + 1]; e++)
          for (let c = 0; c < 2; c++) {
            const value = -r.uniform();
            put(p.rowBlock[e], 2 * p.rowColumn[e] + c, value);
            sum -= value;
          }
        const own = -r.uniform();
        put(i, 2 * i + 1 - q, own);
        put(i, 2 * i + q, sum - own);
      }
    }
    blockSolve(p, values, b);
    for (let i = 0; i < 2 * n; i++) expect(b[i]).toBeCloseTo(x[i], 10);
  });

  it("refuse a block that was never coupled", () => {
    expect(() => blockPattern(3, [[0, 1]]).indexOf(0, 2)).toThrow(RangeError);
  });
});

describe("random stream and hashes", () => {
  it("is standard normal and repeats from its seed", () => {
    const r = randomStream(42);
    let s = 0;
    let s2 = 0;
    const n = 20000;
    for (let i = 0; i < n; i++) {
      const v = r.normal();
      s += v;
      s2 += v * v;
    }
    expect(Math.abs(s / n)).toBeLessThan(0.03);
    expect(s2 / n).toBeCloseTo(1, 1);
    expect(randomStream(42).uniform()).toBe(randomStream(42).uniform());
  });
  it("tells the last bit of a number and ignores the order of keys", () => {
    const a = new Float64Array([0.1, 0.2]);
    const b = new Float64Array([0.1, 0.2 + 2 ** -55]);
    expect(hashFloats([a])).not.toBe(hashFloats([b]));
    expect(hashText(canonicalJson({ a: 1, b: [2] }))).toBe(hashText(canonicalJson({ b: [2], a: 1 })));
  });
});

describe("block sweeps", () => {
  it("find what elimination finds, and say so when they cannot", () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 12 }), fc.integer({ min: 0, max: 1e6 }), (n, seed) => {
        let state = seed + 1;
        const next = (): number => (state = (state * 16807) % 2147483647) / 2147483647;
        const couplings = Array.from({ length: 2 * n }, (): [number, number] => [Math.floor(next() * n), Math.floor(next() * n)]);
        const p = blockPattern(n, couplings);
        const v = new Float64Array(4 * p.blocks);
        for (let i = 0; i < n; i++) v.set([40 + next(), -next(), -next(), 30 + next()], 4 * i);
        for (let i = 0; i < n; i++) for (let e = p.rowStart[i]; e < p.rowStart[i + 1]; e++) for (let k = 0; k < 4; k++) v[4 * p.rowBlock[e] + k] = -next() / 2;
        const b = Float64Array.from({ length: 2 * n }, () => 100 * next());
        const x = new Float64Array(2 * n);
        expect(blockSweeps(p, v, b, x, 1e-12, 200)).toBeGreaterThan(0);
        const direct = Float64Array.from(b);
        blockSolve(p, Float64Array.from(v), direct);
        for (let i = 0; i < 2 * n; i++) expect(Math.abs(x[i] - direct[i])).toBeLessThan(1e-9);
        // a single sweep from nothing does not settle
        if (p.rowBlock.length > 0) expect(blockSweeps(p, v, b, new Float64Array(2 * n), 1e-12, 1)).toBe(-1);
      }),
    );
  });
});

describe("the inverse", () => {
  it("undoes its matrix, and refuses a singular one", () => {
    const a = Float64Array.from([4, 1, 0, 2, 0, 3, 1, 5, 1]);
    const x = invert(a, 3);
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++) {
        let s = 0;
        for (let k = 0; k < 3; k++) s += a[3 * i + k] * x[3 * k + j];
        expect(s).toBeCloseTo(i === j ? 1 : 0, 12);
      }
    expect(() => invert(Float64Array.from([1, 2, 2, 4]), 2)).toThrow(RangeError);
  });
});
