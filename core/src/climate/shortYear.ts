import { dailyMeans, DAYS_A_YEAR, MONTH_DAYS, MONTH_START, type WeatherYear } from "./weather.ts";

/** Days that stand for a year, in the order of the calendar. */
export interface ShortYear {
  readonly days: readonly { readonly day: number; readonly weight: number }[];
  /** Degree days of heating (base 18 °C) and cooling (base 18 °C) and global sun of the weighted days over those of the year, less one. */
  readonly expected: { readonly heating: number; readonly cooling: number; readonly sun: number };
}

const BASE = 18;

/**
 * Representative days by clustering month by month: k-medoids on daily mean temperature, its range, global sun and
 * the kind of day, each scaled by its deviation over the year. The coldest and the warmest day stand for themselves.
 * @param count 12, 24 or 48: medoids @param working whether each day of the year is a working day
 */
export function shortYear(weather: WeatherYear, count: number, working: readonly boolean[]): ShortYear {
  const means = dailyMeans(weather);
  const range = new Float64Array(DAYS_A_YEAR);
  const sun = new Float64Array(DAYS_A_YEAR);
  for (let d = 0; d < DAYS_A_YEAR; d++) {
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
  const features = [scaled(means), scaled(sun), scaled(range).map((x) => 0.3 * x), Float64Array.from(working, (w) => (w ? 1 : 0))];
  const distance = (a: number, b: number): number => features.reduce((s, f) => s + (f[a] - f[b]) * (f[a] - f[b]), 0);
  const coldest = means.indexOf(Math.min(...means));
  const warmest = means.indexOf(Math.max(...means));
  const days: { day: number; weight: number }[] = [
    { day: coldest, weight: 1 },
    { day: warmest, weight: 1 },
  ];
  const perMonth = Math.max(1, Math.round(count / 12));
  MONTH_DAYS.forEach((n, m) => {
    const members = Array.from({ length: n }, (_, i) => MONTH_START[m] + i).filter((d) => d !== coldest && d !== warmest);
    for (const medoid of medoids(members, perMonth, distance)) days.push(medoid);
  });
  days.sort((a, b) => a.day - b.day);
  const weighted = (v: Float64Array): number => days.reduce((s, d) => s + d.weight * v[d.day], 0);
  const error = (v: Float64Array): number => {
    const whole = v.reduce((s, x) => s + x, 0);
    return whole > 0 ? weighted(v) / whole - 1 : 0;
  };
  return {
    days,
    expected: { heating: error(means.map((t) => Math.max(0, BASE - t))), cooling: error(means.map((t) => Math.max(0, t - BASE))), sun: error(sun) },
  };
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
