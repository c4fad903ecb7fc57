import { describe, expect, it } from "vitest";
import type { Schedule } from "../model/index.ts";
import { LEAP_YEAR } from "../model/index.ts";
import { dayKinds, equivalentHours, expandSchedule } from "./index.ts";

const flat = (v: number) => ({ name: String(v), values: new Array<number>(24).fill(v) });
const schedule: Schedule = {
  name: "Test",
  kind: "fraction",
  profiles: { off: flat(0), half: flat(0.5), day: { name: "day", values: Array.from({ length: 24 }, (_, h) => (h >= 8 && h < 18 ? 1 : 0)) } },
  weeks: [
    { id: "all", from: [1, 1], to: [12, 31], days: ["day", "day", "day", "day", "day", "off", "off", "off"] },
    { id: "summer", from: [7, 1], to: [8, 31], days: new Array<string>(8).fill("half") },
  ],
};
const calendar = { firstWeekday: 0, holidays: [{ id: "h", name: "H", month: 1, day: 2 }], daylightSaving: null };

describe("a schedule over the year", () => {
  const hours = expandSchedule(schedule, calendar);
  it("follows weekdays, weekends and holidays", () => {
    expect(hours[8]).toBe(1);
    expect(hours[18]).toBe(0);
    expect(hours[24 + 10]).toBe(0);
    expect(hours[2 * 24 + 10]).toBe(1);
    expect(hours[5 * 24 + 10]).toBe(0);
    expect(dayKinds(calendar)[1]).toBe(7);
  });
  it("takes the later rule where ranges overlap", () => {
    expect(hours[181 * 24]).toBe(0.5);
    expect(hours[(181 + 62) * 24]).toBe(0);
  });
  it("sums to its equivalent hours", () => {
    expect(equivalentHours(schedule, calendar)).toBeCloseTo(
      hours.reduce((a, b) => a + b, 0),
      9,
    );
  });
  it("runs an hour ahead in daylight saving", () => {
    const saving = expandSchedule(schedule, { ...calendar, daylightSaving: { from: [4, 1], to: [5, 31] } });
    const day = 98;
    expect(hours[day * 24 + 8]).toBe(1);
    expect(saving[day * 24 + 7]).toBe(1);
    expect(saving[day * 24 + 17]).toBe(0);
  });
  it("has 29 February where the weather has it, on its own weekday", () => {
    // 29 February 2028 is a Tuesday, 1 March a Wednesday, whether or not the weather has the day between
    expect([...dayKinds({ ...calendar, year: 2028 }, 0, LEAP_YEAR).subarray(58, 62)]).toEqual([0, 1, 2, 3]);
    expect([...dayKinds({ ...calendar, year: 2028 }).subarray(58, 61)]).toEqual([0, 2, 3]);
    // 1 March 2027 is a Monday; the place of the 29th holds what it has
    expect([...dayKinds({ ...calendar, year: 2027 }, 0, LEAP_YEAR).subarray(58, 61)]).toEqual([6, 0, 0]);
    // a typical year takes the day as its weather does, and the next begins two weekdays on
    expect([...dayKinds(calendar, 0, LEAP_YEAR).subarray(58, 61)]).toEqual([58 % 7, 59 % 7, 60 % 7]);
    expect(dayKinds({ ...calendar, holidays: [] }, 1, LEAP_YEAR)[0]).toBe(2);
    expect(expandSchedule(schedule, calendar, 2, LEAP_YEAR)).toHaveLength(2 * 8784);
  });
  it("gives a holiday on 29 February to leap years only", () => {
    const leap = { ...calendar, holidays: [{ id: "l", name: "L", month: 2, day: 29 }] };
    expect(dayKinds({ ...leap, year: 2028 }, 0, LEAP_YEAR)[59]).toBe(7);
    expect([...dayKinds({ ...leap, year: 2027 }, 0, LEAP_YEAR)]).not.toContain(7);
    expect([...dayKinds({ ...leap, year: 2028 })]).not.toContain(7);
  });
  it("rules that meet at the end of February leave no gap in a leap year, and one may change on the 29th", () => {
    const halves = (to: [number, number], from: [number, number]): Schedule => ({
      ...schedule,
      weeks: [
        { id: "a", from: [1, 1], to, days: new Array<string>(8).fill("off") },
        { id: "b", from, to: [12, 31], days: new Array<string>(8).fill("half") },
      ],
    });
    const named = { ...calendar, year: 2028 };
    const noons = (s: Schedule): number[] => [58, 59, 60].map((d) => expandSchedule(s, named, 1, LEAP_YEAR)[24 * d + 12]);
    expect(noons(halves([2, 28], [3, 1]))).toEqual([0, 0, 0.5]);
    expect(noons(halves([2, 28], [2, 29]))).toEqual([0, 0.5, 0.5]);
    expect(equivalentHours(halves([2, 28], [3, 1]), named, true)).toBe(0.5 * 24 * (366 - 60));
    // a year that has no 29th does not count it, whatever the weather has
    expect(equivalentHours(halves([2, 28], [3, 1]), { ...calendar, year: 2027 }, true)).toBe(0.5 * 24 * (365 - 59));
  });
  it("can span the turn of the year", () => {
    const winter: Schedule = { ...schedule, weeks: [schedule.weeks[0], { id: "w", from: [12, 1], to: [1, 31], days: new Array<string>(8).fill("half") }] };
    const v = expandSchedule(winter, calendar);
    expect([v[0], v[8759], v[100 * 24]]).toEqual([0.5, 0.5, 0]);
  });
});
