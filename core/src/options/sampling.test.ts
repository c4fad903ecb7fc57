import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { PI, sin } from "../numeric/index.ts";
import { latinHypercube, saltelliPoints, sobolIndices, sobolSequence, SOBOL_DIMENSIONS } from "./index.ts";
import closed from "./closedForms.json" with { type: "json" };

const seeds = fc.integer({ min: 0, max: 4294967295 });

describe("a Latin hypercube", () => {
  it("has one point in every strip of every dimension, and follows from its seed", () => {
    fc.assert(
      fc.property(seeds, fc.integer({ min: 1, max: 8 }), fc.integer({ min: 2, max: 60 }), (seed, d, n) => {
        const rows = latinHypercube(d, n, seed);
        for (let k = 0; k < d; k++) expect(new Set(rows.map((r) => Math.floor(r[k] * n))).size).toBe(n);
        expect(latinHypercube(d, n, seed)).toEqual(rows);
        expect(latinHypercube(d, n, (seed + 1) >>> 0)).not.toEqual(rows);
      }),
      { numRuns: 50 },
    );
  });
});

describe("a Sobol' sequence", () => {
  it("fills every dyadic interval of every dimension alike, whatever its shift", () => {
    fc.assert(
      fc.property(seeds, fc.integer({ min: 1, max: 7 }), (seed, bits) => {
        const n = 1 << bits;
        const rows = sobolSequence(SOBOL_DIMENSIONS + 3, n, seed);
        for (let d = 0; d < SOBOL_DIMENSIONS + 3; d++) expect(new Set(rows.map((r) => Math.floor(r[d] * n))).size, `dimension ${d}`).toBe(n);
      }),
      { numRuns: 20 },
    );
  });

  it("fills the squares of its first two dimensions alike", () => {
    for (const [wide, high] of [
      [4, 16],
      [16, 4],
      [8, 8],
      [64, 1],
    ])
      expect(new Set(sobolSequence(2, 64, 7).map((r) => Math.floor(r[0] * wide) * high + Math.floor(r[1] * high))).size).toBe(64);
  });

  it("integrates a smooth function far better than chance does", () => {
    const f = (r: Float64Array): number => r.reduce((p, x) => p * (1 + (x - 0.5)), 1);
    const mean = (rows: readonly Float64Array[]): number => rows.reduce((s, r) => s + f(r) / rows.length, 0);
    for (const seed of [1, 2, 3]) expect(Math.abs(mean(sobolSequence(6, 1024, seed)) - 1)).toBeLessThan(0.003);
  });
});

describe("Sobol' indices", () => {
  const ishigami = closed["Sobol indices of sin x1 + a sin^2 x2 + b x3^4 sin x1 on [-pi, pi]"];
  const of = (u: Float64Array): number => {
    const [x, y, z] = u.map((v) => (2 * v - 1) * PI);
    return sin(x) + ishigami.a * sin(y) * sin(y) + ishigami.b * z * z * z * z * sin(x);
  };
  it("are those of the published function within 0.03", () => {
    const points = saltelliPoints(3, 2048, 5);
    const found = sobolIndices(points.map(of), 3);
    expect(found?.of).toBe(2048);
    expect(Math.abs((found?.variance ?? 0) / ishigami.variance - 1)).toBeLessThan(0.03);
    for (let k = 0; k < 3; k++) {
      expect(Math.abs((found?.first[k] ?? 9) - ishigami.first[k]), `first ${k}`).toBeLessThan(0.03);
      expect(Math.abs((found?.total[k] ?? 9) - ishigami.total[k]), `total ${k}`).toBeLessThan(0.03);
    }
  });

  it("go on without base points of which a run is missing, and are none where nothing varies", () => {
    const values = saltelliPoints(3, 1024, 5).map(of);
    values[17] = NaN;
    values[3 * 1024 + 40] = NaN;
    const found = sobolIndices(values, 3);
    expect(found?.of).toBe(1022);
    expect(found?.first[1]).toBeCloseTo(ishigami.first[1], 1);
    expect(sobolIndices(new Float64Array(50).fill(3), 3)).toBeNull();
    expect(sobolIndices([1, 2], 3)).toBeNull();
  });
});
