import { describe, expect, it } from "vitest";
import * as own from "./elementary.ts";

/** Distance of a and b in units of the last place of b. */
function ulps(a: number, b: number): number {
  if (Object.is(a, b) || a === b) return 0;
  if (!Number.isFinite(a) || !Number.isFinite(b)) return Infinity;
  const f = new Float64Array([Math.abs(b)]);
  const i = new BigInt64Array(f.buffer);
  const before = f[0]!;
  i[0] = i[0]! + 1n;
  return Math.abs(a - b) / (f[0]! - before);
}

/** A fixed sequence of numbers in [0, 1). */
function sequence(seed: number): () => number {
  let s = seed >>> 0;
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return s / 4294967296;
  };
}

function worst(f: (x: number) => number, g: (x: number) => number, from: number, to: number): number {
  const next = sequence(7);
  let w = 0;
  for (let i = 0; i < 20000; i++) {
    const x = from + (to - from) * next();
    w = Math.max(w, ulps(f(x), g(x)));
  }
  return w;
}

describe("elementary functions agree with the engine's within 2 ulp", () => {
  it.each([
    ["exp", own.exp, Math.exp, -50, 50],
    ["exp near zero", own.exp, Math.exp, -0.5, 0.5],
    ["exp far", own.exp, Math.exp, -700, 700],
    ["log", own.log, Math.log, 1e-9, 1000],
    ["log near one", own.log, Math.log, 0.9, 1.1],
    ["cbrt", own.cbrt, Math.cbrt, -100, 100],
    ["cbrt small", own.cbrt, Math.cbrt, -1e-9, 1e-9],
    ["sin", own.sin, Math.sin, -10, 10],
    ["cos", own.cos, Math.cos, -10, 10],
    ["sin far", own.sin, Math.sin, -1e5, 1e5],
    ["tan", own.tan, Math.tan, -1.5, 1.5],
    ["atan", own.atan, Math.atan, -20, 20],
    ["asin", own.asin, Math.asin, -1, 1],
    ["acos", own.acos, Math.acos, -1, 1],
  ] as const)("%s", (_name, f, g, from, to) => {
    expect(worst(f, g, from, to)).toBeLessThanOrEqual(2);
  });

  it("pow over bases and exponents", () => {
    const next = sequence(11);
    let w = 0;
    for (let i = 0; i < 40000; i++) {
      const x = 0.001 + 1000 * next() * next();
      const y = -20 + 40 * next();
      w = Math.max(w, ulps(own.pow(x, y), Math.pow(x, y)));
    }
    expect(w).toBeLessThanOrEqual(2);
  });

  it("the quick cube root to a relative 1e-4", () => {
    const next = sequence(3);
    for (let i = 0; i < 5000; i++) {
      const x = 60 * next() * next() * next() + 1e-9;
      expect(Math.abs(own.quickCbrt(x) / Math.cbrt(x) - 1)).toBeLessThan(1e-4);
    }
    expect(own.quickCbrt(0)).toBe(0);
  });

  it("atan2 in all quadrants", () => {
    const next = sequence(5);
    let w = 0;
    for (let i = 0; i < 20000; i++) {
      const x = next() - 0.5;
      const y = next() - 0.5;
      w = Math.max(w, ulps(own.atan2(y, x), Math.atan2(y, x)));
    }
    expect(w).toBeLessThanOrEqual(2);
  });
});

describe("elementary functions at their edges", () => {
  it("follow the conventions of the field", () => {
    expect(own.exp(-Infinity)).toBe(0);
    expect(own.exp(1000)).toBe(Infinity);
    expect(own.log(0)).toBe(-Infinity);
    expect(own.log(-1)).toBeNaN();
    expect(own.log(1)).toBe(0);
    expect(own.pow(-2, 3)).toBe(-8);
    expect(own.pow(-2, 0.5)).toBeNaN();
    expect(own.pow(0, 0.65)).toBe(0);
    expect(own.cbrt(-27)).toBe(-3);
    expect(own.acos(1)).toBe(0);
    expect(own.acos(-1)).toBe(Math.PI);
    expect(own.asin(1)).toBe(Math.PI / 2);
    expect(own.asin(1.0001)).toBeNaN();
    expect(own.atan2(0, -1)).toBe(Math.PI);
    expect(() => own.sin(1e9)).toThrow(RangeError);
  });
});
