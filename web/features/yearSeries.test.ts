import { describe, expect, it } from "vitest";
import { hourOfStamp, hourWords, monthHours, stampOf } from "./yearSeries.ts";

const year = { firstDay: 0, leapDays: [], hours: 8760 };
const leap = { firstDay: 0, leapDays: [59], hours: 8784 };
const winter = { firstDay: 350, leapDays: [], hours: 24 * 40 };

describe("hours of a run", () => {
  it("are named by their end, the last of a day as 24:00", () => {
    expect(hourWords(year, 0)).toBe("1 Jan 01:00");
    expect(hourWords(year, 8759)).toBe("31 Dec 24:00");
    expect(hourWords(leap, 24 * 59 + 11)).toBe("29 Feb 12:00");
    expect(hourWords(winter, 24 * 15)).toBe("1 Jan 01:00");
  });
  it("are found again by their stamp, in a leap year and over the end of a year", () => {
    for (const run of [year, leap, winter]) for (let h = 0; h < run.hours; h += 37) expect(hourOfStamp(run, stampOf(run, h))).toBe(h);
  });
  it("within the hour belong to it", () => {
    expect(hourOfStamp(year, "07-21 14:15")).toBe(hourOfStamp(year, "07-21 15:00"));
    expect(hourOfStamp(year, "07-21 15:00")).toBe(24 * 201 + 14);
  });
  it("of a day the run has not, or of no stamp, are none", () => {
    expect(hourOfStamp(winter, "07-21 15:00")).toBeNull();
    expect(hourOfStamp(year, null)).toBeNull();
    expect(hourOfStamp(year, "yesterday")).toBeNull();
  });
  it("of a month are those of its days; a run over the turn of the year has its January", () => {
    expect(monthHours(year, 1)).toEqual({ from: 24 * 31, to: 24 * 59 });
    expect(monthHours(leap, 1)).toEqual({ from: 24 * 31, to: 24 * 60 });
    expect(monthHours(winter, 0)).toEqual({ from: 24 * 15, to: 24 * 40 });
    expect(monthHours(winter, 6)).toBeNull();
  });
});
