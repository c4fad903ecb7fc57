import { describe, expect, it } from "vitest";
import { LEAP_YEAR, type Project } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import { equivalentHours, expandSchedule, scheduleFromValues, valuesOfText } from "./index.ts";

const { calendar } = boxProject();
const made = (values: readonly number[], of: Project["calendar"] = calendar) => {
  const found = scheduleFromValues("From a file", "fraction", values, of);
  if (!found.ok) throw new Error(found.message);
  return found.schedule;
};
const with6 = (v: number): number[] => day(3).map((x, i) => (i === 5 ? v : x));
const day = (at: number): number[] => Array.from({ length: 24 }, (_, h) => (h >= 8 && h < 8 + at ? 1 : 0));

describe("a schedule from values", () => {
  it("of a day is every day's", () => {
    expect(equivalentHours(made(day(10)), calendar)).toBe(3650);
    expect(Object.keys(made(day(10)).profiles)).toHaveLength(1);
  });
  it("of a week has its weekdays, and Sunday's on holidays", () => {
    // Monday to Friday 10 hours, Saturday 4, Sunday none; 1 January a Monday and a holiday
    const week = [...Array.from({ length: 5 }, () => day(10)), day(4), day(0)].flat();
    const with1January: Project["calendar"] = { ...calendar, firstWeekday: 0, holidays: [{ id: "a", name: "New year", month: 1, day: 1 }] };
    const s = made(week, with1January);
    expect(Object.keys(s.profiles)).toHaveLength(3);
    // 261 working days of which one is a holiday, 52 Saturdays
    expect(equivalentHours(s, with1January)).toBe(260 * 10 + 52 * 4);
    // in a leap year that begins on a Monday there are 262 working days
    expect(expandSchedule(s, { ...with1January, year: 2024 }, 1, LEAP_YEAR).reduce((a, b) => a + b, 0)).toBe(261 * 10 + 52 * 4);
  });
  it("of a year is that year again, hour by hour, in a few stretches where it is regular", () => {
    const week = [...Array.from({ length: 5 }, () => day(10)), day(4), day(0)].flat();
    const regular = made(week);
    const year = [...expandSchedule(regular, calendar)];
    const again = made(year);
    expect(again.weeks).toHaveLength(1);
    expect([...expandSchedule(again, calendar)]).toEqual(year);
    // a shut fortnight in summer makes three stretches
    const shut = year.map((v, h) => (h >= 24 * 200 && h < 24 * 214 ? 0 : v));
    expect(made(shut).weeks).toHaveLength(3);
    expect([...expandSchedule(made(shut), calendar)]).toEqual(shut);
  });
  it("measured, with no two days alike, is kept whole", () => {
    const logged = Array.from({ length: 8760 }, (_, h) => Number((0.5 + 0.5 * Math.sin(h / 7.3)).toFixed(4)));
    const s = made(logged);
    expect(s.weeks.length).toBeLessThan(60);
    expect([...expandSchedule(s, calendar)]).toEqual(logged);
  });
  it("of another number of values, or with values out of range, is refused with the place", () => {
    expect(scheduleFromValues("x", "fraction", day(3).slice(1), calendar)).toMatchObject({ ok: false, message: expect.stringContaining("23 values") });
    expect(scheduleFromValues("x", "fraction", with6(1.2), calendar)).toMatchObject({ ok: false, message: expect.stringContaining("Value 6 is 1.2") });
    expect(scheduleFromValues("x", "temperature", with6(21), calendar).ok).toBe(true);
  });
});

describe("the text of a file", () => {
  it("gives its numbers, one a line or in a row, after a head or a time", () => {
    expect(valuesOfText("share\n0.1\n0.2\n")).toEqual([0.1, 0.2]);
    expect(valuesOfText("0.1;0,2;1")).toEqual([0.1, 0.2, 1]);
    expect(valuesOfText("hour;share\n1;0.1\n2;0.2")).toEqual([0.1, 0.2]);
    expect(valuesOfText("0\n1\n0.5")).toEqual([0, 1, 0.5]);
    expect(valuesOfText("share\n0,8\n0\n0,25")).toEqual([0.8, 0, 0.25]);
    expect(valuesOfText("hour,share\n1,0\n2,1\n3,1")).toEqual([0, 1, 1]);
    expect(valuesOfText("0.1,0.2,1")).toEqual([0.1, 0.2, 1]);
    expect(valuesOfText("0.1\nabc\n")).toContain("Line 2");
  });
});
