import { coverageOf, maskOf, misfitOf, pointUnit, pointYear, turnedTo, type LoggedReadings, type Misfit } from "../logged/index.ts";
import { inRange, LEAP_DAY, type Pair, type Project, type YearDays } from "../model/index.ts";
import { daysOf, type WeatherYear } from "../climate/index.ts";
import { addsUp, quantityOf, readSeries, type SeriesTable } from "./seriesRead.ts";

/** A point beside a series of a run, hour by hour of the run, in the unit of the series. */
export interface PairYear {
  readonly pair: Pair;
  readonly unit: string;
  /** Powers and flows add up to sums over days and months, others have a mean. */
  readonly kind: "sum" | "mean";
  /** Calendar year of the readings. */
  readonly year: number;
  readonly measured: Float64Array;
  readonly modelled: Float64Array;
  /** 1 where the reading means nothing. */
  readonly mask: Uint8Array;
  readonly maskedBy: readonly { readonly reason: string; readonly hours: number }[];
  /** Share of the hours of the run in which there is a reading. */
  readonly coverage: number;
}
export type PairRead = { readonly ok: true; readonly of: PairYear } | { readonly ok: false; readonly missing: boolean; readonly message: string };

/** Which hour of its weather year each hour of a run is. @param first day of the run, from 0 of a common year @param leapDays of its days that are 29 February */
export function hoursOfRun(hours: number, first: number, leapDays: readonly number[], days: YearDays): Int32Array {
  const out = new Int32Array(hours);
  const leap = days.days === 366;
  let day = leap && first >= LEAP_DAY ? first + 1 : first;
  for (let d = 0; 24 * d < hours; d++) {
    // a weather year with 29 February of which the run passes over that day
    if (leap && day === LEAP_DAY && !leapDays.includes(d)) day++;
    for (let h = 24 * d; h < Math.min(hours, 24 * d + 24); h++) out[h] = 24 * (day % days.days) + (h % 24);
    day++;
  }
  return out;
}

/** Hourly values of points over a project's year, each read once. */
export class PointYears {
  private readonly known = new Map<string, { readonly year: number; readonly values: Float64Array } | null>();
  private readonly project: Project;
  private readonly logged: LoggedReadings;
  readonly days: YearDays;
  constructor(project: Project, logged: LoggedReadings, weather: WeatherYear) {
    this.project = project;
    this.logged = logged;
    this.days = daysOf(weather);
  }
  /** null: its readings are not at hand. */
  of(id: string): { readonly year: number; readonly values: Float64Array } | null {
    const before = this.known.get(id);
    if (before !== undefined) return before;
    const point = this.project.points && Object.hasOwn(this.project.points, id) ? this.project.points[id] : null;
    const found = point && Object.hasOwn(this.logged, point.hash) ? pointYear(point, this.logged[point.hash], this.project.calendar, this.days) : null;
    this.known.set(id, found);
    return found;
  }
}

/** Reads a pair from a run and from the points. @param hourOf hour of the weather year of each hour of the run */
export function readPair(project: Project, pair: Pair, points: PointYears, table: SeriesTable, hourOf: ArrayLike<number>): PairRead {
  const point = project.points && Object.hasOwn(project.points, pair.point) ? project.points[pair.point] : null;
  if (!point) return { ok: false, missing: false, message: `The point "${pair.point}" is gone.` };
  const spec = quantityOf(project, pair.series);
  const read = readSeries(project, table, pair.series);
  if (!spec || !read.ok) return read.ok ? { ok: false, missing: false, message: "The series is gone." } : read;
  const found = points.of(pair.point);
  if (!found) return { ok: false, missing: true, message: `The readings of "${point.name}" are not at hand.` };
  const whole = turnedTo(found.values, pointUnit(point), spec.unit === "" ? "1" : spec.unit);
  if (!whole)
    return { ok: false, missing: false, message: `"${point.name}" is in ${pointUnit(point)} and the series in ${spec.unit}: they measure different things.` };
  const { mask, by } = maskOf(point, whole.length, (id) => points.of(id)?.values ?? null);
  const measured = Float64Array.from({ length: table.hours }, (_, h) => whole[hourOf[h]]);
  return {
    ok: true,
    of: {
      pair,
      unit: spec.unit,
      kind: addsUp(spec.unit) ? "sum" : "mean",
      year: found.year,
      measured,
      modelled: Float64Array.from(read.values),
      mask: Uint8Array.from(measured, (_, h) => mask[hourOf[h]]),
      maskedBy: by,
      coverage: coverageOf(measured),
    },
  };
}

/** Hours of a run that lie between two days of the year, 1; elsewhere 0. */
export const hoursWithin = (hourOf: ArrayLike<number>, days: YearDays, from: readonly [number, number], to: readonly [number, number]): Uint8Array =>
  Uint8Array.from({ length: hourOf.length }, (_, h) => +inRange(Math.floor(hourOf[h] / 24), from, to, days));

/** Misfit of a pair over the hours that count and are not left out. @param leave 1: left out; absent: none */
export function pairMisfit(p: PairYear, leave?: ArrayLike<number>): Misfit {
  return misfitOf(p.measured, p.modelled, leave ? p.mask.map((m, h) => m | leave[h]) : p.mask);
}

/** Standard deviation of the measured values that count. */
export function measuredDeviation(p: PairYear, leave?: ArrayLike<number>): number {
  let [n, sum, square] = [0, 0, 0];
  for (let h = 0; h < p.measured.length; h++) {
    const v = p.measured[h];
    if (v !== v || p.modelled[h] !== p.modelled[h] || p.mask[h] !== 0 || (leave && leave[h] !== 0)) continue;
    n++;
    sum += v;
    square += v * v;
  }
  return n > 1 ? Math.sqrt(Math.max(0, square - (sum * sum) / n) / (n - 1)) : NaN;
}
