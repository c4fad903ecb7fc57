import { invert } from "../numeric/index.ts";
import { dailyMeans, daysOf, type WeatherYear } from "./weather.ts";

/** Days that stand for a year, in the order of the calendar. */
export interface ShortYear {
  readonly days: readonly { readonly day: number; readonly weight: number }[];
  /** Degree days of heating (base 18 °C) and cooling (base 18 °C) and global sun of the days as clustered over those of the year, less one: how well they stand for it before their weights are calibrated. */
  readonly expected: { readonly heating: number; readonly cooling: number; readonly sun: number };
}

const BASE = 18;

/**
 * Representative days by clustering season by season (three, six or twelve of them), first and later days of work and of rest apart: k-medoids on daily mean
 * temperature, its range and global sun, each scaled by its deviation over the year. The coldest and the warmest day
 * stand for themselves. Weights are then moved a little so that degree days, sun and working days are the year's.
 * @param count 12, 24 or 48: medoids @param working whether each day of the year is a working day
 */
export function shortYear(weather: WeatherYear, count: number, working: readonly boolean[]): ShortYear {
  const means = dailyMeans(weather);
  const { days: length, monthStart } = daysOf(weather);
  const range = new Float64Array(length);
  const sun = new Float64Array(length);
  for (let d = 0; d < length; d++) {
    let low = Infinity;
    let high = -Infinity;
    for (let h = 24 * d; h < 24 * d + 24; h++) {
      low = Math.min(low, weather.dryBulb[h]);
      high = Math.max(high, weather.dryBulb[h]);
      sun[d] += weather.globalHorizontal[h];
    }
    range[d] = high - low;
  }
  const scaled = (v: Float64Array): Float64Array => {
    const mean = v.reduce((s, x) => s + x, 0) / v.length;
    const deviation = Math.sqrt(v.reduce((s, x) => s + (x - mean) * (x - mean), 0) / v.length);
    return v.map((x) => (deviation > 0 ? (x - mean) / deviation : 0));
  };
  const features = [scaled(means), scaled(sun), scaled(range).map((x) => 0.3 * x)];
  const distance = (a: number, b: number): number => features.reduce((s, f) => s + (f[a] - f[b]) * (f[a] - f[b]), 0);
  const coldest = means.indexOf(Math.min(...means));
  const warmest = means.indexOf(Math.max(...means));
  const days: { day: number; weight: number }[] = [
    { day: coldest, weight: 1 },
    { day: warmest, weight: 1 },
  ];
  // first and later days of work and of rest behave differently (what cooled down is warmed up again): one medoid of each kind
  const kind = (d: number): number => (working[d] ? 2 : 0) + (working[(d + length - 1) % length] === working[d] ? 1 : 0);
  const kinds = new Set(Array.from({ length: length }, (_, d) => kind(d)));
  const span = Math.max(1, Math.round(12 / (count / 4)));
  const medoidsOfKind = Math.max(1, Math.round(4 / kinds.size));
  for (let m = 0; m < 12; m += span) {
    const members = Array.from({ length: monthStart[m + span] - monthStart[m] }, (_, i) => monthStart[m] + i).filter((d) => d !== coldest && d !== warmest);
    for (const k of kinds) {
      const own = members.filter((d) => kind(d) === k);
      if (own.length > 0) days.push(...medoids(own, medoidsOfKind, distance));
    }
  }
  days.sort((a, b) => a.day - b.day);
  const heat = means.map((t) => Math.max(0, BASE - t));
  const cold = means.map((t) => Math.max(0, t - BASE));
  const weighted = (v: Float64Array): number => days.reduce((s, d) => s + d.weight * v[d.day], 0);
  const error = (v: Float64Array): number => {
    const whole = v.reduce((s, x) => s + x, 0);
    return whole > 0 ? weighted(v) / whole - 1 : 0;
  };
  // told as clustering left it: after the calibration these sums are right by construction and would say nothing
  const expected = { heating: error(heat), cooling: error(cold), sun: error(sun) };
  calibrate(days, length, [...[...kinds].map((k) => Float64Array.from({ length: length }, (_, d) => (kind(d) === k ? 1 : 0))), heat, cold, sun]);
  return { days, expected };
}

/** Least weight of a day after calibration, as a share of what clustering gave it. */
const LEAST_SHARE = 0.25;

/**
 * Moves the weights by as little as possible so that weighted sums of some daily figures are the year's: medoids stand in the
 * middle of their group and would otherwise lose the tails. Where that would nearly silence a day, it is done only in part.
 */
function calibrate(days: { day: number; weight: number }[], length: number, figures: readonly Float64Array[]): void {
  const used = figures
    .filter((f) => f.some((x) => x !== 0))
    .map((f) => {
      const whole = f.reduce((s, x) => s + x, 0);
      return f.map((x) => (length * x) / whole);
    });
  const k = used.length;
  const misses = used.map((f) => length - days.reduce((s, d) => s + d.weight * f[d.day], 0));
  const gram = new Float64Array(k * k);
  // figures that nearly depend on one another must not ask for great changes
  for (let i = 0; i < k; i++)
    for (let j = 0; j < k; j++) gram[i * k + j] = days.reduce((s, d) => s + d.weight * used[i][d.day] * used[j][d.day], 0) * (i === j ? 1 + 1e-6 : 1);
  const inverse = invert(gram, k);
  const pull = misses.map((_, i) => misses.reduce((s, miss, j) => s + inverse[i * k + j] * miss, 0));
  const change = days.map((d) => used.reduce((s, f, i) => s + pull[i] * f[d.day], 0));
  const most = Math.max(...change.map((c) => -c));
  const share = most > 1 - LEAST_SHARE ? (1 - LEAST_SHARE) / most : 1;
  days.forEach((d, i) => (d.weight *= 1 + share * change[i]));
  const total = days.reduce((s, d) => s + d.weight, 0);
  for (const d of days) d.weight *= length / total;
}

/** k-medoids of a few members: starts from the member nearest to all, then the farthest from those chosen; alternates to a standstill. */
function medoids(members: readonly number[], k: number, distance: (a: number, b: number) => number): { day: number; weight: number }[] {
  const centre = (group: readonly number[]): number => {
    let best = group[0];
    let least = Infinity;
    for (const a of group) {
      const sum = group.reduce((s, b) => s + distance(a, b), 0);
      if (sum < least) {
        least = sum;
        best = a;
      }
    }
    return best;
  };
  let chosen = [centre(members)];
  while (chosen.length < Math.min(k, members.length)) {
    let far = members[0];
    let most = -1;
    for (const a of members) {
      const near = Math.min(...chosen.map((c) => distance(a, c)));
      if (near > most) {
        most = near;
        far = a;
      }
    }
    chosen.push(far);
  }
  let groups: number[][] = [];
  for (let round = 0; round < 50; round++) {
    groups = chosen.map(() => []);
    for (const a of members) {
      let best = 0;
      chosen.forEach((c, i) => {
        if (distance(a, c) < distance(a, chosen[best])) best = i;
      });
      groups[best].push(a);
    }
    const next = groups.map((g, i) => (g.length > 0 ? centre(g) : chosen[i]));
    if (next.every((c, i) => c === chosen[i])) break;
    chosen = next;
  }
  return chosen.map((day, i) => ({ day, weight: groups[i].length })).filter((d) => d.weight > 0);
}
