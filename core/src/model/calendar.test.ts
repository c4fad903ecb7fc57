import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import {
  checkReferences,
  COMMON_YEAR,
  dateInRun,
  dateOfDay,
  dayExists,
  dayOfYear,
  describeChange,
  inRange,
  isLeapYear,
  LEAP_DAY,
  LEAP_YEAR,
  runDays,
  setChange,
  weekdayOfYear,
} from "./index.ts";

const calendar = (year: number | null) => ({ firstWeekday: 0, holidays: [], daylightSaving: null, year });
const DAY = 86400000;
/** Month and day by the calendar of the machine. */
const told = (time: number): [number, number] => [new Date(time).getUTCMonth() + 1, new Date(time).getUTCDate()];

describe("the days of a year", () => {
  it("are those of the Gregorian calendar, from 1900 to 2200", () => {
    for (let y = 1900; y <= 2200; y++) {
      const first = Date.UTC(y, 0, 1);
      expect(isLeapYear(y)).toBe(Date.UTC(y + 1, 0, 1) - first === 366 * DAY);
      expect(weekdayOfYear(y)).toBe((new Date(first).getUTCDay() + 6) % 7);
    }
  });
  it("are dated and found again, with 29 February and without", () => {
    for (const [year, of] of [
      [2027, COMMON_YEAR],
      [2028, LEAP_YEAR],
    ] as const)
      for (let d = 0; d < of.days; d++) {
        expect(dateOfDay(d, of)).toEqual(told(Date.UTC(year, 0, 1) + d * DAY));
        expect(dayOfYear(...dateOfDay(d, of), of)).toBe(d);
      }
    expect(dayOfYear(2, 29)).toBe(dayOfYear(3, 1));
  });
  it("exist or do not", () => {
    expect([dayExists(2, 29), dayExists(12, 31), dayExists(1, 1)]).toEqual([true, true, true]);
    expect([dayExists(2, 30), dayExists(4, 31), dayExists(13, 1), dayExists(0, 1), dayExists(1, 0), dayExists(1, 1.5)]).toEqual(new Array(6).fill(false));
  });
});

describe("a range of dates", () => {
  const date = fc.integer({ min: 0, max: 364 }).map((d) => dateOfDay(d));
  it("holds the same days in both kinds of year, and the 29th with the 28th where it ends there or goes on", () => {
    fc.assert(
      fc.property(date, date, fc.integer({ min: 0, max: 364 }), (from, to, d) => {
        const inLeap = d < LEAP_DAY ? d : d + 1;
        expect(inRange(inLeap, from, to, LEAP_YEAR)).toBe(inRange(d, from, to));
        // 29 February belongs to every range with 28 February in it
        expect(inRange(LEAP_DAY, from, to, LEAP_YEAR)).toBe(inRange(LEAP_DAY - 1, from, to));
        // in a common year it is told by the days of the year
        const [first, last] = [dayOfYear(...from), dayOfYear(...to)];
        expect(inRange(d, from, to)).toBe(first <= last ? d >= first && d <= last : d >= first || d <= last);
      }),
      { numRuns: 500 },
    );
  });
  it("may name the 29th: from it is from March in a common year, to it is to the 28th", () => {
    const days = (from: [number, number], to: [number, number], year = COMMON_YEAR): number[] =>
      [...year.monthOfDay.keys()].filter((d) => inRange(d, from, to, year));
    expect(days([2, 29], [3, 1], LEAP_YEAR)).toEqual([59, 60]);
    expect(days([2, 29], [3, 1])).toEqual([59]);
    expect(days([2, 27], [2, 29])).toEqual([57, 58]);
    expect(days([2, 29], [2, 29])).toEqual([]);
    expect(days([2, 29], [2, 29], LEAP_YEAR)).toEqual([59]);
  });
});

describe("the days of a run", () => {
  it("follow the calendar from any day of any year, for years on end, where the weather has 29 February", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1999, max: 2105 }), fc.integer({ min: 0, max: 364 }), fc.integer({ min: 1, max: 1500 }), (year, first, count) => {
        const start = isLeapYear(year) || first < LEAP_DAY ? first : first + 1;
        const { day, year: later } = runDays(calendar(year), LEAP_YEAR, start, count);
        const leapDays = [...day.keys()].filter((i) => day[i] === LEAP_DAY);
        // the day the run begins on, in a common year's counting
        const common = start > LEAP_DAY ? start - 1 : start;
        const begin = Date.UTC(year, 0, 1) + (isLeapYear(year) ? start : common) * DAY;
        for (const i of [0, Math.floor(count / 3), count - 1]) {
          const time = begin + i * DAY;
          expect(dateOfDay(day[i], LEAP_YEAR)).toEqual(told(time));
          expect(year + later[i]).toBe(new Date(time).getUTCFullYear());
          expect(dateInRun(common, leapDays, i)).toEqual(told(time));
        }
      }),
      { numRuns: 300 },
    );
  });
  it("of a year without 29 February in its weather go round in 365", () => {
    const { day, year } = runDays(calendar(2028), COMMON_YEAR, 363, 4);
    expect([...day]).toEqual([363, 364, 0, 1]);
    expect([...year]).toEqual([0, 0, 1, 1]);
  });
});

describe("changes of the calendar in words", () => {
  it("tell dates and weekdays as they are said", () => {
    const p = boxProject();
    const to = (path: string[], value: unknown): string => {
      const w = describeChange(p, setChange(p, path, value));
      return `${w.thing}: ${w.from} → ${w.to}`;
    };
    expect(to(["calendar", "daylightSaving"], { from: [3, 29], to: [10, 24] })).toBe("summer time: none → 29 March to 24 October");
    expect(to(["calendar", "firstWeekday"], 3)).toBe("weekday of 1 January: Monday → Thursday");
    expect(to(["run", "period"], { from: [2, 29], days: 2.5 })).toBe("period of the run: none → 2.5 days from 29 February");
  });
});

describe("dates that are none", () => {
  it("are told by their place, in schedules, summer time, holidays and the period", () => {
    const p = boxProject();
    p.calendar = { ...p.calendar, holidays: [{ id: "h", name: "H", month: 4, day: 31 }], daylightSaving: { from: [2, 30], to: [10, 1] } };
    p.run = { ...p.run, period: { from: [6, 31], days: 2 } };
    p.schedules.day.weeks[0].to = [11, 31];
    const told = checkReferences(p).map((x) => `${x.path}: ${x.message}`);
    expect(told).toContain("calendar/holidays/h: There is no 31 April.");
    expect(told).toContain("calendar/daylightSaving/from: There is no 30 February.");
    expect(told).toContain("run/period/from: There is no 31 June.");
    expect(told.some((t) => t.startsWith("schedules/day/weeks/") && t.endsWith("There is no 31 November."))).toBe(true);
    expect(checkReferences(boxProject())).toEqual([]);
  });
});
