import { COMMON_YEAR, convert, isLeapYear, LEAP_DAY, unitOfText, type LoggedPoint, type Project, type YearDays } from "../model/index.ts";
import { minutesOf, yearOfMinutes } from "../weatherFile/index.ts";
import { counterRates } from "./clean.ts";
import type { Readings } from "./readings.ts";

const DAY = 24 * 60;
/** Least share of an hour that readings must cover for its mean. */
const COVERED = 0.5;
/** Readings at their times further apart than so many intervals are not joined by a line. */
const JOINED = 2;

/** Powers and flows that counters count, by the unit of the counter. */
const RATES: Readonly<Record<string, string>> = { Wh: "W", kWh: "kW", MWh: "MW", "m³": "m³/h", L: "L/h" };

/** Unit of a point's values: of a counter or of sums that of their rate. */
export const pointUnit = (p: Pick<LoggedPoint, "unit" | "kind">): string => (p.kind === undefined ? p.unit : (RATES[p.unit] ?? `${p.unit}/h`));

/** Minutes of a moment such as "2025-02-03 14:00". @see minutesOf */
export function momentMinutes(text: string): number {
  const [year, month, day, hour, minute] = text.split(/[- :]/).map(Number);
  return minutesOf(year, month, day, hour, minute);
}

const two = (n: number): string => String(n).padStart(2, "0");
/** A moment in words, "2025-02-03 14:00". @param minutes from 1 January of the year 0 */
export function momentText(minutes: number): string {
  const year = yearOfMinutes(minutes);
  let month = 1;
  while (month < 12 && minutesOf(year, month + 1, 1) <= minutes) month++;
  const rest = minutes - minutesOf(year, month, 1);
  return `${String(year).padStart(4, "0")}-${two(month)}-${two(1 + Math.floor(rest / DAY))} ${two(Math.floor((rest % DAY) / 60))}:${two(Math.floor(rest % 60))}`;
}

/** Readings put right as the point says: clock, rate of a counter, offset, what was taken out; in the unit of `pointUnit`. */
export function putRight(point: LoggedPoint, r: Readings): Readings {
  const start = r.start + (point.shift ?? 0);
  const hours = r.interval / 60;
  const values =
    point.kind === "counter" ? counterRates(r.values, hours, point.rollover).rate : point.kind === "sum" ? r.values.map((v) => v / hours) : r.values.slice();
  const { offset } = point;
  if (offset !== undefined) for (let i = 0; i < values.length; i++) values[i] += offset;
  for (const out of point.without ?? []) {
    const from = Math.max(0, Math.ceil((momentMinutes(out.from) - start) / r.interval));
    const to = Math.min(values.length, Math.ceil((momentMinutes(out.to) - start) / r.interval));
    values.fill(NaN, from, Math.max(from, to));
  }
  return { ...r, start, values };
}

/** The calendar year readings are looked at in: the one asked for, else the one most of them are of. */
export function yearOfReadings(r: Readings): number {
  const first = yearOfMinutes(r.start);
  const last = yearOfMinutes(r.start + r.interval * r.values.length - 1);
  let [best, most] = [first, 0];
  for (let y = first; y <= last; y++) {
    const from = Math.max(r.start, minutesOf(y, 1, 1));
    const to = Math.min(r.start + r.interval * r.values.length, minutesOf(y + 1, 1, 1));
    if (to - from > most) [best, most] = [y, to - from];
  }
  return best;
}

/** Minutes from the start of a year to a moment, with 29 February passed over where the year looked at has none; null: on that day. */
function within(minutes: number, year: number, days: YearDays): number | null {
  const at = minutes - minutesOf(year, 1, 1);
  if (days !== COMMON_YEAR || !isLeapYear(year)) return at;
  const day = Math.floor(at / DAY);
  return day === LEAP_DAY ? null : day > LEAP_DAY ? at - DAY : at;
}

/** Sums what falls into each hour of a year. */
class Hours {
  readonly sum: Float64Array;
  readonly weight: Float64Array;
  constructor(count: number) {
    this.sum = new Float64Array(count);
    this.weight = new Float64Array(count);
  }
  /** A stretch of minutes in which a quantity has a mean value. */
  spread(from: number, to: number, value: number): void {
    for (let h = Math.max(0, Math.floor(from / 60)); 60 * h < to && h < this.sum.length; h++) {
      const inside = Math.min(to, 60 * (h + 1)) - Math.max(from, 60 * h);
      if (inside <= 0) continue;
      this.sum[h] += value * inside;
      this.weight[h] += inside;
    }
  }
  means(): Float64Array {
    return this.sum.map((s, h) => (this.weight[h] >= COVERED * 60 ? s / this.weight[h] : NaN));
  }
}

/**
 * Hourly means of readings over a calendar year: hour i from i to i + 1 of the year's days; NaN where less than half the hour is known.
 * @param r put right @param days of the year looked at: without 29 February that day is left out
 */
export function hourlyMeans(r: Readings, year: number, days: YearDays): Float64Array {
  const hours = new Hours(days.hours);
  const { values, interval, start } = r;
  // an hour a reading, on the hour: as it is, to the bit
  if (r.at === "interval" && interval === 60 && start % 60 === 0) {
    const out = new Float64Array(days.hours).fill(NaN);
    for (let i = 0; i < values.length; i++) {
      const at = within(start + 60 * i, year, days);
      if (at !== null && at >= 0 && at < 60 * days.hours) out[at / 60] = values[i];
    }
    return out;
  }
  for (let i = 0; i < values.length; i++) {
    if (values[i] !== values[i]) continue;
    const to = within(start + interval * i + interval / 2, year, days);
    if (to === null || to < -DAY || to > 60 * days.hours + DAY) continue;
    const end = to + interval / 2;
    if (r.at === "interval") hours.spread(end - interval, end, values[i]);
    else
      // a line from the reading before
      for (let back = 1; back <= JOINED && i - back >= 0; back++) {
        const before = values[i - back];
        if (before !== before) continue;
        const pieces = Math.max(1, Math.ceil((back * interval) / 5));
        for (let p = 0; p < pieces; p++) {
          const [a, b] = [p / pieces, (p + 1) / pieces];
          const at = end - back * interval;
          hours.spread(at + a * back * interval, at + b * back * interval, before + ((a + b) / 2) * (values[i] - before));
        }
        break;
      }
  }
  return hours.means();
}

/** Values at the end of each hour of a year: readings at their times as they are, others by the mean around it. @see hourlyMeans */
export function hourlyInstants(r: Readings, year: number, days: YearDays): Float64Array {
  if (r.at === "stamp" && r.interval === 60 && r.start % 60 === 0) return hourlyMeans({ ...r, at: "interval" }, year, days);
  if (r.interval < 60) return hourlyMeans({ ...r, start: r.start - 30 }, year, days);
  const means = hourlyMeans({ ...r, at: "interval" }, year, days);
  return means.map((v, h) => (h + 1 < means.length && means[h + 1] === means[h + 1] && v === v ? (v + means[h + 1]) / 2 : v));
}

/** A point over the year of a project, hour by hour, in the unit of `pointUnit`; NaN where nothing is known. */
export interface PointYear {
  readonly year: number;
  readonly values: Float64Array;
}

/** The calendar year in which the points of a project are looked at: its own, else the one of the readings. */
export const lookedAt = (calendar: Project["calendar"], r: Readings): number => (typeof calendar.year === "number" ? calendar.year : yearOfReadings(r));

/** Hourly means of a point over the project's year. @param days of the weather year */
export function pointYear(point: LoggedPoint, r: Readings, calendar: Project["calendar"], days: YearDays): PointYear {
  const right = putRight(point, r);
  const year = lookedAt(calendar, right);
  return { year, values: hourlyMeans(right, year, days) };
}

/**
 * Hours in which a point's readings mean nothing by other points, 1; elsewhere 0.
 * @param valuesOf hourly values of a point by its id; null: not at hand, and what it would mask counts
 */
export function maskOf(
  point: LoggedPoint,
  hours: number,
  valuesOf: (id: string) => ArrayLike<number> | null,
): { readonly mask: Uint8Array; readonly by: readonly { readonly reason: string; readonly hours: number }[] } {
  const mask = new Uint8Array(hours);
  const by = (point.masks ?? []).map(({ point: other, is, value, reason }) => {
    const values = valuesOf(other);
    let count = 0;
    if (values)
      for (let h = 0; h < hours; h++)
        if (is === "below" ? values[h] < value : values[h] > value) {
          mask[h] = 1;
          count++;
        }
    return { reason, hours: count };
  });
  return { mask, by };
}

/** Values turned into another unit; null where the two measure different things. */
export function turnedTo(values: ArrayLike<number>, from: string, to: string): Float64Array | null {
  const [a, b] = [unitOfText(from), unitOfText(to)];
  if (!a || !b || a.dimension.some((d, i) => d !== b.dimension[i])) return null;
  return from === to ? Float64Array.from(values) : Float64Array.from(values, (v) => convert(v, from, to));
}
