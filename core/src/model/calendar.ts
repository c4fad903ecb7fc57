import type { Project } from "./schema.ts";

/** How the days of a year lie: 365 of them, or 366 with 29 February. */
export interface YearDays {
  readonly days: number;
  readonly hours: number;
  readonly monthDays: readonly number[];
  /** First day of each month, and the number of days at the end. */
  readonly monthStart: readonly number[];
  /** Month 0…11 of each day. */
  readonly monthOfDay: readonly number[];
}

function yearDays(february: number): YearDays {
  const monthDays = [31, february, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
  const monthStart = monthDays.reduce<number[]>((a, d) => [...a, a[a.length - 1] + d], [0]);
  return { days: monthStart[12], hours: 24 * monthStart[12], monthDays, monthStart, monthOfDay: monthDays.flatMap((n, m) => Array<number>(n).fill(m)) };
}

export const COMMON_YEAR = yearDays(28);
export const LEAP_YEAR = yearDays(29);
/** Day of 29 February in a leap year, and of 1 March in a common one. */
export const LEAP_DAY = 59;

export const WEEKDAY_NAMES = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** Gregorian calendar. */
export const isLeapYear = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;

/** Weekday of 1 January, 0 Monday … 6 Sunday, in the Gregorian calendar. */
export function weekdayOfYear(year: number): number {
  const y = year - 1;
  return (y + Math.floor(y / 4) - Math.floor(y / 100) + Math.floor(y / 400)) % 7;
}

/** Day of the year, from 0, of a month and day; 29 February of a common year is taken as 1 March. */
export function dayOfYear(month: number, day: number, year: YearDays = COMMON_YEAR): number {
  return year.monthStart[month - 1] + day - 1;
}

export const MONTH_NAMES = ["January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"];
/** "31 April". */
export const dateText = (month: number, day: number): string => `${day} ${MONTH_NAMES[month - 1]}`;

/** Month 1…12 and day 1…31 of a day of the year. @param day from 0 */
export function dateOfDay(day: number, year: YearDays = COMMON_YEAR): [month: number, day: number] {
  const m = year.monthOfDay[day];
  return [m + 1, day - year.monthStart[m] + 1];
}

/**
 * Whether a day of the year lies between two dates, both inclusive and possibly over the turn of the year. A range to 28 February goes
 * on through the 29th where there is one, a range to the 29th ends on the 28th where there is none.
 */
/** Whether a month lies in a span of months that may go over the turn of the year; 1 to 12. */
export const monthSpan = (month: number, from: number, to: number): boolean => (from <= to ? month >= from && month <= to : month >= from || month <= to);

export function inRange(day: number, from: readonly [number, number], to: readonly [number, number], year: YearDays = COMMON_YEAR): boolean {
  const first = dayOfYear(...from, year);
  const endOfFebruary = to[0] === 2 && to[1] >= 28;
  const last = endOfFebruary ? year.monthStart[2] - 1 : dayOfYear(...to, year);
  const wraps = 32 * from[0] + from[1] > 32 * to[0] + to[1];
  return wraps ? day >= first || day <= last : day >= first && day <= last;
}

/** Whether a month has such a day, 29 February included. */
export const dayExists = (month: number, day: number): boolean =>
  Number.isInteger(month) && month >= 1 && month <= 12 && Number.isInteger(day) && day >= 1 && day <= LEAP_YEAR.monthDays[month - 1];

/**
 * Whether a year of a run has its 29 February where the weather has one: a named leap year has, a common one has not, a typical year
 * takes what the weather has.
 * @param later years after the calendar's first
 */
export const keepsLeapDay = (calendar: Project["calendar"], later = 0): boolean => typeof calendar.year !== "number" || isLeapYear(calendar.year + later);

/** Whether a year of a run passes over the 29 February its weather has. @param later years after the calendar's first */
export const passesLeapDay = (calendar: Project["calendar"], weather: YearDays, later = 0): boolean =>
  weather.days > COMMON_YEAR.days && !keepsLeapDay(calendar, later);

/** The days of a run one after the other. */
export interface RunDays {
  /** Day of the weather year of each. */
  readonly day: Int32Array;
  /** Years after the calendar's first of each. */
  readonly year: Int32Array;
}

/** Consecutive days from the `first` of a weather year on; 29 February is passed over in years that have none. */
export function runDays(calendar: Project["calendar"], weather: YearDays, first: number, count: number): RunDays {
  const day = new Int32Array(count);
  const year = new Int32Array(count);
  let [d, y] = [first, 0];
  for (let i = 0; i < count; i++, d++) {
    if (d >= weather.days) [d, y] = [d - weather.days, y + 1];
    if (d === LEAP_DAY && passesLeapDay(calendar, weather, y)) d++;
    day[i] = d;
    year[i] = y;
  }
  return { day, year };
}

/**
 * Month and day of the `i`th day of a run that began on day `firstDay` of a common year, where `leapDays` are those of its days that
 * are 29 February.
 */
export function dateInRun(firstDay: number, leapDays: readonly number[], i: number): [month: number, day: number] {
  if (leapDays.includes(i)) return [2, 29];
  const passed = leapDays.filter((d) => d < i).length;
  return dateOfDay((((firstDay + i - passed) % COMMON_YEAR.days) + COMMON_YEAR.days) % COMMON_YEAR.days);
}
