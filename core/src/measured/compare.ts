import { COMMON_YEAR, LEAP_YEAR, type YearDays } from "../model/index.ts";
import { gathered, misfitOf, offsetOf, withinGuideline, type Misfit, type Offset, type Stretches } from "../logged/index.ts";
import { pairMisfit, type PairYear } from "../results/index.ts";

/** Errors of a pair by hour, day and month, beside the limits of the guideline, and month by month. */
export interface PairFigures {
  readonly hour: Misfit;
  readonly day: Misfit;
  readonly month: Misfit;
  /** Whether it lies within the limits for hourly and for monthly values; null: it cannot be told. */
  readonly within: { readonly hour: boolean | null; readonly month: boolean | null };
  /** Modelled over measured of all that counts, less one, %. */
  readonly deviation: number | null;
  /** Hourly errors within each month, and what its values come to. */
  readonly months: readonly { readonly month: number; readonly fit: Misfit; readonly measured: number; readonly modelled: number; readonly hours: number }[];
  readonly days: Stretches;
  readonly ofMonths: Stretches;
}

/** Hours of which days and months are numbered: those of the run, by the hour of the weather year of each. */
export function stretchesOf(hourOf: ArrayLike<number>, days: YearDays): { readonly day: Int32Array; readonly month: Int32Array } {
  const day = new Int32Array(hourOf.length);
  const month = new Int32Array(hourOf.length);
  for (let h = 0; h < hourOf.length; h++) {
    day[h] = Math.floor(hourOf[h] / 24);
    month[h] = days.monthOfDay[day[h]];
  }
  return { day, month };
}

/** Errors of a pair. @param leave 1: hours left out besides those masked */
export function pairFigures(p: PairYear, hourOf: ArrayLike<number>, leave?: ArrayLike<number>): PairFigures {
  const days = [...Array.from({ length: hourOf.length }, (_, h) => hourOf[h])].some((h) => h >= COMMON_YEAR.hours) ? LEAP_YEAR : COMMON_YEAR;
  const { day, month } = stretchesOf(hourOf, days);
  const mask = leave ? p.mask.map((m, h) => m | leave[h]) : p.mask;
  const byDay = gathered(p.measured, p.modelled, day, p.kind, mask);
  const byMonth = gathered(p.measured, p.modelled, month, p.kind, mask);
  const hour = pairMisfit(p, leave);
  const monthly = misfitOf(byMonth.measured, byMonth.modelled);
  return {
    hour,
    day: misfitOf(byDay.measured, byDay.modelled),
    month: monthly,
    within: { hour: withinGuideline(hour, "hour"), month: withinGuideline(monthly, "month") },
    deviation: hour.n > 0 && hour.mean !== 0 ? (100 * hour.bias) / Math.abs(hour.mean) : null,
    months: Array.from(byMonth.hours.keys())
      .filter((m) => byMonth.hours[m] > 0)
      .map((m) => ({
        month: m,
        fit: misfitOf(
          p.measured,
          p.modelled,
          month.map((x, h) => (x === m ? mask[h] : 1)),
        ),
        measured: byMonth.measured[m],
        modelled: byMonth.modelled[m],
        hours: byMonth.hours[m],
      })),
    days: byDay,
    ofMonths: byMonth,
  };
}

/** Modelled less measured, hour by hour; NaN where either is missing or the reading means nothing. */
export const residualsOf = (p: PairYear): Float64Array => p.measured.map((m, h) => (p.mask[h] !== 0 ? NaN : p.modelled[h] - m));

/** Errors in the hours in which others hold and in the rest, such as hours of operation. @param inside 1: in them */
export function splitFigures(p: PairYear, inside: ArrayLike<number>): { readonly inside: Misfit; readonly outside: Misfit } {
  const leave = Uint8Array.from({ length: inside.length }, (_, h) => (inside[h] >= 0.5 ? 0 : 1));
  return {
    inside: pairMisfit(p, leave),
    outside: pairMisfit(
      p,
      leave.map((v) => 1 - v),
    ),
  };
}

/** A sensor against the weather year: how far it reads high, by day and by night. @param sun global irradiance of each hour, W/m² */
export const sensorOffset = (p: PairYear, sun: ArrayLike<number>): Offset =>
  offsetOf(
    p.measured.map((m, h) => (p.mask[h] !== 0 ? NaN : m)),
    p.modelled,
    Uint8Array.from(p.measured, (_, h) => (sun[h] > 10 ? 1 : 0)),
  );

/** Weeks, from 0, whose errors stand out: their root mean square error beyond so many times the median of all weeks. */
export function oddWeeks(p: PairYear, times = 2): readonly { readonly week: number; readonly rmse: number; readonly bias: number }[] {
  const weeks = Math.ceil(p.measured.length / 168);
  const all = Array.from({ length: weeks }, (_, week) => {
    const leave = Uint8Array.from(p.measured, (_v, h) => +(Math.floor(h / 168) !== week));
    const fit = pairMisfit(p, leave);
    return { week, rmse: fit.rmse, bias: fit.bias, n: fit.n };
  }).filter((w) => w.n >= 24);
  const sorted = all.map((w) => w.rmse).sort((a, b) => a - b);
  const median = sorted[Math.floor(sorted.length / 2)] ?? NaN;
  return all.filter((w) => w.rmse > times * median).map(({ week, rmse, bias }) => ({ week, rmse, bias }));
}
