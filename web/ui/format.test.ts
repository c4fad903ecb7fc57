import { describe, expect, it } from "vitest";
import { difference, figure, readNumber, stampText } from "./format.ts";

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
});
