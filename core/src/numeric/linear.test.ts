import { describe, expect, it } from "vitest";
import { canonicalJson, hashFloats, hashText, randomStream, solveTridiagonal, sparsePattern, sparseSolve, symmetricEigen } from "./index.ts";

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

  it("solve an unsymmetric sparse system of random structure to rounding", () => {
    const n = 40;
    const r = randomStream(9);
    const couplings: [number, number][] = [];
    for (let k = 0; k < 90; k++) couplings.push([Math.floor(r.uniform() * n), Math.floor(r.uniform() * n)]);
    const p = sparsePattern(n, couplings);
    const values = new Float64Array(p.entries);
    const dense = new Float64Array(n * n);
    for (let i = 0; i < n; i++) {
      let sum = 1;
      for (let e = p.rowStart[i]!; e < p.rowStart[i + 1]!; e++) {
        const v = -r.uniform();
        values[p.rowEntry[e]!] = v;
        dense[i * n + p.rowColumn[e]!] = v;
        sum -= v;
      }
      values[p.diagonal[i]!] = sum;
      dense[i * n + i] = sum;
    }
    const x = Float64Array.from({ length: n }, () => r.normal());
    const b = new Float64Array(n);
    for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) b[i] = b[i]! + dense[i * n + j]! * x[j]!;
    sparseSolve(p, values, b, new Uint8Array(n));
    for (let i = 0; i < n; i++) expect(b[i]).toBeCloseTo(x[i]!, 10);
  });
});

describe("an unknown held at a value", () => {
  it("spares its updates and gives what a unit row gives", () => {
    const p = sparsePattern(4, [
      [0, 1],
      [1, 2],
      [2, 3],
      [0, 3],
    ]);
    const build = (): Float64Array => {
      const v = new Float64Array(p.entries);
      for (let i = 0; i < 4; i++) {
        v[p.diagonal[i]] = 4;
        for (let e = p.rowStart[i]; e < p.rowStart[i + 1]; e++) v[p.rowEntry[e]] = -1 - 0.1 * i;
      }
      for (let e = p.rowStart[2]; e < p.rowStart[3]; e++) v[p.rowEntry[e]] = 0;
      v[p.diagonal[2]] = 1;
      return v;
    };
    const plain = new Float64Array([1, 2, 21, 3]);
    const spared = Float64Array.from(plain);
    sparseSolve(p, build(), plain, new Uint8Array(4));
    sparseSolve(p, build(), spared, new Uint8Array([0, 0, 1, 0]));
    expect(spared[2]).toBe(21);
    for (let i = 0; i < 4; i++) expect(spared[i]).toBeCloseTo(plain[i], 13);
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
