import { dayOfYear, type Project, type Schedule } from "../model/index.ts";
import { HOURS } from "../climate/index.ts";

/** Weekday of 1 January, 0 Monday … 6 Sunday, in the Gregorian calendar. */
export function weekdayOfYear(year: number): number {
  const y = year - 1;
  return (y + Math.floor(y / 4) - Math.floor(y / 100) + Math.floor(y / 400)) % 7;
}
const isLeap = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;

/**
 * Weekday (0 Monday … 6 Sunday) or 7 for a holiday, of each day of the year: of the calendar's year where it
 * names one, else from its first weekday. 29 February of a leap year is left out, as the weather has 365 days.
 * @param later years after the calendar's first
 */
export function dayKinds(calendar: Project["calendar"], later = 0): Uint8Array {
  const year = typeof calendar.year === "number" ? calendar.year + later : null;
  // typical years follow one another with a day of the week more each
  const first = year === null ? (calendar.firstWeekday + later) % 7 : weekdayOfYear(year);
  const kinds = Uint8Array.from({ length: 365 }, (_, d) => (first + d + (year !== null && isLeap(year) && d >= 59 ? 1 : 0)) % 7);
  for (const h of calendar.holidays) kinds[dayOfYear(h.month, h.day)] = 7;
  return kinds;
}

const within = (day: number, from: number, to: number): boolean => (from <= to ? day >= from && day <= to : day >= from || day <= to);

/**
 * A schedule as 8760 hourly values a year in local standard time, for so many years on end. Profiles are in clock time: with daylight
 * saving the clock runs one hour ahead between the two dates. Later week rules win.
 */
export function expandSchedule(schedule: Schedule, calendar: Project["calendar"], years = 1): Float64Array {
  const all = new Float64Array(years * HOURS);
  for (let y = 0; y < years; y++) all.set(expandYear(schedule, calendar, y), y * HOURS);
  return all;
}

function expandYear(schedule: Schedule, calendar: Project["calendar"], later: number): Float64Array {
  const kinds = dayKinds(calendar, later);
  const byDay = Array.from({ length: 365 }, (_, d) => {
    let profile: readonly number[] | null = null;
    for (const w of schedule.weeks) if (within(d, dayOfYear(...w.from), dayOfYear(...w.to))) profile = schedule.profiles[w.days[kinds[d]]].values;
    if (!profile) throw new RangeError(`schedule "${schedule.name}" has no profile on day ${d + 1}`);
    return profile;
  });
  const saving = calendar.daylightSaving;
  const out = new Float64Array(HOURS);
  for (let h = 0; h < HOURS; h++) {
    const d = Math.floor(h / 24);
    const ahead = saving !== null && within(d, dayOfYear(...saving.from), dayOfYear(...saving.to));
    const clock = ahead ? (h + 1) % HOURS : h;
    out[h] = byDay[Math.floor(clock / 24)][clock % 24];
  }
  return out;
}

/** Hours a year at full value that give the same sum. */
export function equivalentHours(schedule: Schedule, calendar: Project["calendar"]): number {
  return expandSchedule(schedule, calendar).reduce((s, v) => s + v, 0);
}
