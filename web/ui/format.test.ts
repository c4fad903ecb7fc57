import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { difference, digitsFor, figure, monthNames, readNumber, roundTicks, stampText, unitOf } from "./format.ts";

describe("figures", () => {
  it("carry thousands separators, never a bare minus or a false zero", () => {
    expect(figure(12345.67)).toBe("12\u202f345.7");
    expect(figure(-3.14159, 2)).toBe("−3.14");
    expect(figure(-0.001)).toBe("0.0");
    expect(figure(null)).toBe("—");
    expect(figure(Infinity)).toBe("—");
  });
  it("tell differences with their sign", () => {
    expect(difference(2)).toBe("+2.0");
    expect(difference(-2)).toBe("−2.0");
    expect(difference(0.001)).toBe("±0");
  });
  it("read what people type and refuse the rest", () => {
    expect(readNumber(" 1 200,5 ")).toBe(1200.5);
    expect(readNumber("−3")).toBe(-3);
    expect(readNumber("twelve")).toBeNull();
    expect(readNumber("")).toBeNull();
  });
  it("write peaks as day and month", () => {
    expect(stampText("01-14 07:15")).toBe("14 Jan 07:15");
    expect(stampText(null)).toBe("—");
  });
  it("show about three figures, however large or small", () => {
    const shown = (v: number): string => figure(v, digitsFor(v));
    expect([1234.5, 123.4, 12.34, 1.234, 0.1234, 0].map(shown)).toEqual(["1\u202f235", "123", "12.3", "1.23", "0.123", "0"]);
    expect(shown(-12.34)).toBe("−12.3");
  });
  it("come back as they were shown", () => {
    for (const v of [0, 3.5, -2.25, 1200, 98765.4]) expect(readNumber(figure(v, 2))).toBeCloseTo(v, 9);
  });
  it("name every month of a peak, and nothing that is no time", () => {
    monthNames.forEach((name, m) => expect(stampText(`${String(m + 1).padStart(2, "0")}-03 23:45`)).toBe(`3 ${name} 23:45`));
    expect(stampText("tomorrow")).toBe("—");
  });
});

describe("units and axes", () => {
  it("are per year for a whole year only, of 365 days or of 366 with 29 February", () => {
    const over = (firstDay: number, days: number, leapDays?: number[]) => ({ period: { firstDay, days, ...(leapDays ? { leapDays } : {}) } });
    for (const year of [over(0, 365), over(0, 366, [59])])
      expect(["kWh/m²a", "MWh/a", "t CO₂e/a", "k$/a"].map((u) => unitOf(u, year))).toEqual(["kWh/m²a", "MWh/a", "t CO₂e/a", "k$/a"]);
    for (const part of [over(0, 31), over(0, 365, [59]), over(0, 366), over(1, 365)])
      expect(["kWh/m²a", "MWh/a", "t CO₂e/a", "k$/a", "kW", "h", "°C", "m²"].map((u) => unitOf(u, part))).toEqual([
        "kWh/m²",
        "MWh",
        "t CO₂e",
        "k$",
        "kW",
        "h",
        "°C",
        "m²",
      ]);
    expect(unitOf("kWh/m²a", null)).toBe("kWh/m²a");
  });
  it("have ticks at round steps about what they show, told apart by their digits", () => {
    expect(roundTicks([14.2, 19])).toEqual({ ticks: [14, 15, 16, 17, 18, 19], digits: 0 });
    expect(roundTicks([0, 2.04])).toEqual({ ticks: [0, 0.5, 1, 1.5, 2, 2.5], digits: 1 });
    expect(roundTicks([-3100, 12])).toEqual({ ticks: [-4000, -3000, -2000, -1000, 0, 1000], digits: 0 });
    expect(roundTicks([])).toEqual({ ticks: [0, 1], digits: 0 });
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1e4, max: 1e4, noNaN: true }), { minLength: 1, maxLength: 8 }), (values) => {
        // what is smaller than a thousandth is nothing on these axes
        const shown = values.map((v) => Math.round(v * 1000) / 1000);
        const { ticks, digits } = roundTicks(shown);
        expect(ticks[0]).toBeLessThanOrEqual(Math.min(...shown) + 1e-9);
        expect(ticks[ticks.length - 1]).toBeGreaterThanOrEqual(Math.max(...shown) - 1e-9);
        expect(ticks.length).toBeGreaterThanOrEqual(2);
        expect(ticks.length).toBeLessThanOrEqual(7);
        expect(new Set(ticks.map((t) => figure(t, digits))).size).toBe(ticks.length);
      }),
    );
  });
});
