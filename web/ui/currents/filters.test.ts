import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { AxesColumn } from "@arroyo/core";
import { domain, runsLeft, stretchWords, valueWords } from "./filters.ts";

const column = (key: string, values: readonly (number | null)[], more: Partial<AxesColumn> = {}): AxesColumn => ({
  key,
  name: key,
  unit: "kW",
  kind: "outcome",
  levels: [],
  values,
  digits: 1,
  aim: "least",
  stage: null,
  ...more,
});

describe("runs that are left", () => {
  it("lie within every stretch; one without a value is out, and without stretches all are left", () => {
    const a = column("a", [1, 2, 3, null, NaN]);
    const b = column("b", [9, 8, 7, 8, 8]);
    expect(runsLeft([a, b], {}, 5).count).toBe(5);
    expect([...runsLeft([a, b], { a: [1.5, 3] }, 5).left]).toEqual([0, 1, 1, 0, 0]);
    expect([...runsLeft([a, b], { a: [1.5, 3], b: [8, 9] }, 5).left]).toEqual([0, 1, 0, 0, 0]);
    // a stretch of an axis that is not there filters nothing
    expect(runsLeft([a, b], { gone: [0, 0] }, 5).count).toBe(5);
  });
  it("become no more by a further stretch", () => {
    const values = fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 30, maxLength: 30 });
    const stretch = fc
      .tuple(fc.double({ min: -5, max: 5, noNaN: true }), fc.double({ min: -5, max: 5, noNaN: true }))
      .map(([x, y]): [number, number] => [Math.min(x, y), Math.max(x, y)]);
    fc.assert(
      fc.property(values, values, stretch, stretch, (x, y, s, t) => {
        const columns = [column("x", x), column("y", y)];
        const one = runsLeft(columns, { x: s }, 30);
        const both = runsLeft(columns, { x: s, y: t }, 30);
        expect(both.left.every((v, i) => v <= one.left[i])).toBe(true);
        expect(both.count).toBe(both.left.reduce((a, v) => a + v, 0));
      }),
    );
  });
});

describe("an axis", () => {
  it("holds all its values between round ends", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 20 }), (values) => {
        const [least, most] = domain(column("a", values));
        expect(least).toBeLessThan(most);
        const rounding = 1e-9 * (most - least);
        expect(Math.min(...values)).toBeGreaterThanOrEqual(least - rounding);
        expect(Math.max(...values)).toBeLessThanOrEqual(most + rounding);
      }),
    );
    expect(domain(column("a", [63.2, 110]))).toEqual([60, 110]);
    expect(domain(column("a", [null, null]))).toEqual([0, 1]);
    expect(domain(column("a", [0, 1], { levels: ["no", "yes"] }))).toEqual([-0.5, 1.5]);
  });
  it("says its stretch and its values in words", () => {
    const a = column("Peak", [60, 110]);
    expect(stretchWords(a, [60, 78])).toBe("Peak ≤ 78 kW");
    expect(stretchWords(a, [70, 110])).toBe("Peak ≥ 70 kW");
    expect(stretchWords(a, [70.25, 80])).toBe("Peak 70.3 to 80 kW");
    const glass = column("Glass", [0, 1, 2], { levels: ["double", "triple", "clear"], kind: "input" });
    expect(stretchWords(glass, [0.6, 1.4])).toBe("Glass: triple");
    expect(stretchWords(glass, [-0.5, 1.4])).toBe("Glass: double … triple");
    expect(valueWords(glass, 2)).toBe("clear");
    expect(valueWords(column("x", [NaN], { kind: "input" }), 0)).toBe("as the base");
    expect(valueWords(column("x", [null]), 0)).toBe("—");
  });
});
