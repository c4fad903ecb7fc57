import { dayOfYear, type Project, type Schedule } from "../model/index.ts";
import { HOURS } from "../climate/index.ts";

/** Weekday (0 Monday … 6 Sunday) or 7 for a holiday, of each day of the year. */
export function dayKinds(calendar: Project["calendar"]): Uint8Array {
  const kinds = Uint8Array.from({ length: 365 }, (_, d) => (calendar.firstWeekday + d) % 7);
  for (const h of calendar.holidays) kinds[dayOfYear(h.month, h.day)] = 7;
  return kinds;
}

const within = (day: number, from: number, to: number): boolean => (from <= to ? day >= from && day <= to : day >= from || day <= to);

/**
 * A schedule as 8760 hourly values in local standard time. Profiles are in clock time: with daylight
 * saving the clock runs one hour ahead between the two dates. Later week rules win.
 */
export function expandSchedule(schedule: Schedule, calendar: Project["calendar"]): Float64Array {
  const kinds = dayKinds(calendar);
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
