import { unitOfText, type Schedule } from "../model/index.ts";

/**
 * A schedule of a point: its mean day for working days, Saturdays, Sundays and holidays. Temperatures stay °C; everything else becomes the
 * share of the largest value met, its 99.5th centile so that one wild reading does not set it.
 * @param values hourly over a year, in `unit`; NaN: nothing measured @param kinds weekday of each day, 0 Monday … 7 holiday
 * @returns null where nothing is there
 */
export function scheduleOfPoint(name: string, values: ArrayLike<number>, unit: string, kinds: ArrayLike<number>): Schedule | null {
  const there = Array.from(values).filter((v) => v === v);
  if (there.length < 24) return null;
  const celsius = unitOfText("°C");
  const own = unitOfText(unit);
  const temperature = own !== null && celsius !== null && own.dimension.every((d, i) => d === celsius.dimension[i]);
  const sorted = [...there].sort((a, b) => a - b);
  const most = Math.max(1e-12, sorted[Math.min(sorted.length - 1, Math.floor(0.995 * sorted.length))]);
  const turned = (v: number): number =>
    temperature && own && celsius ? (v * own.factor + own.offset - celsius.offset) / celsius.factor : Math.max(0, Math.min(1, v / most));
  const groups = [
    { id: "working", name: "Working day", of: (k: number) => k < 5 },
    { id: "saturday", name: "Saturday", of: (k: number) => k === 5 },
    { id: "sunday", name: "Sunday", of: (k: number) => k === 6 },
    { id: "holiday", name: "Holiday", of: (k: number) => k === 7 },
  ];
  const all = dayOf(values, () => true, turned, null);
  const profiles = Object.fromEntries(groups.map((g) => [g.id, { name: g.name, values: dayOf(values, (d) => g.of(kinds[d]), turned, all) }]));
  return {
    name: name.slice(0, 200),
    kind: temperature ? "temperature" : "fraction",
    source: `Mean days of the readings of ${name}${temperature ? "" : `, over ${Number(most.toPrecision(4))} ${unit}`}.`.slice(0, 500),
    profiles,
    weeks: [{ id: "year", from: [1, 1], to: [12, 31], days: [...Array<string>(5).fill("working"), "saturday", "sunday", "holiday"] }],
  };
}

/** Mean of each hour over the days chosen; where there is none of them, what all days have. */
function dayOf(values: ArrayLike<number>, chosen: (day: number) => boolean, turned: (v: number) => number, rest: readonly number[] | null): number[] {
  const sum = new Float64Array(24);
  const count = new Int32Array(24);
  for (let h = 0; h < values.length; h++) {
    if (values[h] !== values[h] || !chosen(Math.floor(h / 24))) continue;
    sum[h % 24] += turned(values[h]);
    count[h % 24]++;
  }
  return Array.from(sum, (s, h) => (count[h] > 0 ? Number((s / count[h]).toFixed(3)) : (rest?.[h] ?? 0)));
}
