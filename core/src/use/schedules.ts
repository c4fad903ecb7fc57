import {
  COMMON_YEAR,
  dayOfYear,
  inRange,
  isLeapYear,
  keepsLeapDay,
  LEAP_DAY,
  LEAP_YEAR,
  passesLeapDay,
  weekdayOfYear,
  type Project,
  type Schedule,
  type YearDays,
} from "../model/index.ts";

/**
 * Weekday (0 Monday … 6 Sunday) or 7 for a holiday, of each day of the weather's year: of the calendar's year where it
 * names one, else from its first weekday. Weekdays go on past a 29 February that the weather has not; one that the year has not is
 * passed over, and its place here holds what 1 March has.
 * @param later years after the calendar's first @param days of the weather's year
 */
export function dayKinds(calendar: Project["calendar"], later = 0, days: YearDays = COMMON_YEAR): Uint8Array {
  const named = typeof calendar.year === "number" ? calendar.year + later : null;
  const leap = days.days > COMMON_YEAR.days;
  const passed = passesLeapDay(calendar, days, later);
  // typical years follow one another with a day of the week more each, or two
  const first = named === null ? (calendar.firstWeekday + later * (days.days % 7)) % 7 : weekdayOfYear(named);
  // days the calendar has had beyond the place in the weather's year
  const shift = (!leap && named !== null && isLeapYear(named) ? 1 : 0) - (passed ? 1 : 0);
  const kinds = Uint8Array.from({ length: days.days }, (_, d) => (first + d + (d >= LEAP_DAY ? shift : 0)) % 7);
  for (const h of calendar.holidays) if (leap || h.month !== 2 || h.day !== 29) kinds[dayOfYear(h.month, h.day, days)] = 7;
  if (passed) kinds[LEAP_DAY] = kinds[LEAP_DAY + 1];
  return kinds;
}

/**
 * A schedule as hourly values of as many weather years on end, in local standard time. Profiles are in clock time: with daylight
 * saving the clock runs one hour ahead between the two dates. Later week rules win.
 * @returns 8760 values a year, or 8784 where `days` has 29 February
 */
export function expandSchedule(schedule: Schedule, calendar: Project["calendar"], years = 1, days: YearDays = COMMON_YEAR): Float64Array {
  const all = new Float64Array(years * days.hours);
  for (let y = 0; y < years; y++) all.set(expandYear(schedule, calendar, y, days), y * days.hours);
  return all;
}

function expandYear(schedule: Schedule, calendar: Project["calendar"], later: number, days: YearDays): Float64Array {
  const kinds = dayKinds(calendar, later, days);
  const passed = passesLeapDay(calendar, days, later) ? LEAP_DAY : -1;
  const byDay = Array.from({ length: days.days }, (_, place) => {
    const d = place === passed ? place + 1 : place;
    let profile: readonly number[] | null = null;
    for (const w of schedule.weeks) if (inRange(d, w.from, w.to, days)) profile = schedule.profiles[w.days[kinds[d]]].values;
    if (!profile) throw new RangeError(`schedule "${schedule.name}" has no profile on day ${d + 1}`);
    return profile;
  });
  const saving = calendar.daylightSaving;
  const out = new Float64Array(days.hours);
  for (let h = 0; h < days.hours; h++) {
    const ahead = saving !== null && inRange(Math.floor(h / 24), saving.from, saving.to, days);
    const clock = ahead ? (h + 1) % days.hours : h;
    out[h] = byDay[Math.floor(clock / 24)][clock % 24];
  }
  return out;
}

/** Hours a year at full value that give the same sum. @param leapWeather whether the weather has 29 February */
export function equivalentHours(schedule: Schedule, calendar: Project["calendar"], leapWeather = false): number {
  return expandSchedule(schedule, calendar, 1, leapWeather && keepsLeapDay(calendar) ? LEAP_YEAR : COMMON_YEAR).reduce((s, v) => s + v, 0);
}

/** Hours at full value of the fullest day of a schedule laid out hour by hour. */
export function fullestDay(row: Float64Array): number {
  let most = 0;
  for (let d = 0; d < row.length; d += 24) {
    let sum = 0;
    for (let h = d; h < d + 24; h++) sum += row[h];
    if (sum > most) most = sum;
  }
  return most;
}
