import { describe, expect, it } from "vitest";
import type { Schedule } from "../model/index.ts";
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
  it("can span the turn of the year", () => {
    const winter: Schedule = { ...schedule, weeks: [schedule.weeks[0], { id: "w", from: [12, 1], to: [1, 31], days: new Array<string>(8).fill("half") }] };
    const v = expandSchedule(winter, calendar);
    expect([v[0], v[8759], v[100 * 24]]).toEqual([0.5, 0.5, 0]);
  });
});
