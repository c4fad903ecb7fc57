import { describe, expect, it } from "vitest";
import { difference, digitsFor, figure, monthNames, readNumber, stampText } from "./format.ts";

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
