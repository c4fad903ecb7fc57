import { COMMON_YEAR, dateOfDay, inRange, LEAP_DAY, LEAP_YEAR, monthSpan, type Fuel, type Project, type YearDays } from "../model/index.ts";
import { dayKinds } from "../use/index.ts";
import type { FuelHours } from "./fuelMeter.ts";

/** What a fuel, or water, costs in the time of a run. */
export interface BillPart {
  readonly of: Fuel | "water";
  /** kWh, or m³ of water. */
  readonly amount: number;
  readonly energy: number;
  readonly demand: number;
  readonly fixed: number;
}

/** Cost, carbon and primary energy of the fuel of a run, in all and by month. */
export interface Bill {
  readonly cost: number;
  /** kg CO₂e. */
  readonly carbon: number;
  /** kWh. */
  readonly primary: number;
  readonly costByMonth: readonly number[];
  readonly carbonByMonth: readonly number[];
  readonly parts: readonly BillPart[];
  /** By hourly value factors, in their unit; null: none are given. */
  readonly value: { readonly name: string; readonly unit: string; readonly total: number; readonly byMonth: readonly number[] } | null;
}

type Priced = Pick<Project, "prices" | "factors" | "calendar">;

/** Price of a fuel in every hour of the days logged, currency per kWh. */
export function hourlyPrice(hours: FuelHours, project: Priced, fuel: Fuel, days: YearDays): Float64Array | number {
  const flat = project.prices.perKWh[fuel];
  const bands = project.prices.tariffs?.[fuel]?.bands ?? [];
  if (bands.length === 0) return flat;
  const saving = project.calendar.daylightSaving;
  const kinds = new Map<number, Uint8Array>();
  const kindOf = (year: number, day: number): number => {
    let k = kinds.get(year);
    if (!k) kinds.set(year, (k = dayKinds(project.calendar, year, days)));
    return k[day];
  };
  const out = new Float64Array(24 * hours.day.length).fill(flat);
  hours.day.forEach((day, i) => {
    const ahead = saving !== null && inRange(day, saving.from, saving.to, days) ? 1 : 0;
    for (let h = 0; h < 24; h++) {
      // tariffs go by the clock on the wall
      const clock = (h + ahead) % 24;
      const on = (day + Math.floor((h + ahead) / 24)) % days.days;
      const [month] = dateOfDay(on, days);
      const working = kindOf(hours.year[i], on) < 5;
      for (const b of bands) {
        if (!monthSpan(month, b.from, b.to)) continue;
        if (b.days !== "every day" && working !== (b.days === "working days")) continue;
        if (b.begin < b.end ? clock >= b.begin && clock < b.end : clock >= b.begin || clock < b.end) out[24 * i + h] = b.price;
      }
    }
  });
  return out;
}

/**
 * What the fuel of a run costs and emits under prices and factors: by hour and season, with the highest hour of each month and
 * standing charges in proportion to the time. In a short year a month none of whose days was run has the mean demand of the others.
 */
export function billOf(hours: FuelHours, project: Priced): Bill {
  const days = hours.yearDays > COMMON_YEAR.days ? LEAP_YEAR : COMMON_YEAR;
  const costByMonth = new Array<number>(12).fill(0);
  const carbonByMonth = new Array<number>(12).fill(0);
  const parts: BillPart[] = [];
  let primary = 0;
  const month = Array.from(hours.day, (d) => days.monthOfDay[d]);
  const daysInMonth = new Array<number>(12).fill(0);
  month.forEach((m, i) => (daysInMonth[m] += hours.weight[i] * (i === hours.day.length - 1 ? hours.hours / 24 : 1)));
  const covered = daysInMonth.reduce((a, b) => a + b, 0);
  const weighted = hours.weight.some((w) => w !== 1);
  const last = hours.water.length;
  const add = (of: Fuel | "water", values: Float64Array, price: Float64Array | number, tariff: { readonly demand: number; readonly fixed: number }): number => {
    let amount = 0;
    let energy = 0;
    const highest = new Map<string, number>();
    for (let h = 0; h < last; h++) {
      const i = Math.floor(h / 24);
      const v = values[h] * hours.weight[i];
      const c = v * (typeof price === "number" ? price : price[h]);
      amount += v;
      energy += c;
      costByMonth[month[i]] += c;
      if (of !== "water") carbonByMonth[month[i]] += v * project.factors.carbon[of];
      if (tariff.demand > 0) {
        const key = `${hours.year[i]} ${month[i]}`;
        if (values[h] > (highest.get(key) ?? 0)) highest.set(key, values[h]);
      }
    }
    let demand = 0;
    for (const [key, kW] of highest) {
      const c = kW * tariff.demand;
      demand += c;
      costByMonth[Number(key.split(" ")[1])] += c;
    }
    if (weighted && highest.size > 0 && highest.size < 12) {
      const mean = demand / highest.size;
      for (let m = 0; m < 12; m++)
        if (!highest.has(`0 ${m}`)) {
          demand += mean;
          costByMonth[m] += mean;
        }
    }
    const fixed = (tariff.fixed * covered) / days.days;
    for (let m = 0; m < 12; m++) if (covered > 0) costByMonth[m] += (fixed * daysInMonth[m]) / covered;
    parts.push({ of, amount, energy, demand, fixed });
    return amount;
  };
  for (const [fuel, values] of Object.entries(hours.fuels) as [Fuel, Float64Array][]) {
    const tariff = project.prices.tariffs?.[fuel] ?? { demand: 0, fixed: 0 };
    primary += add(fuel, values, hourlyPrice(hours, project, fuel, days), tariff) * project.factors.primary[fuel];
  }
  if ((project.prices.water ?? 0) > 0) add("water", hours.water, project.prices.water ?? 0, { demand: 0, fixed: 0 });
  const sum = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);
  const factors = project.factors.value ?? null;
  const byMonth = new Array<number>(12).fill(0);
  if (factors)
    for (const [fuel, values] of Object.entries(hours.fuels) as [Fuel, Float64Array][]) {
      const by = factors.byFuel[fuel];
      if (by)
        for (let h = 0; h < last; h++) {
          const i = Math.floor(h / 24);
          // factors are of a common year: 29 February has those of the day before, later days their own
          const day = days.days > COMMON_YEAR.days && hours.day[i] >= LEAP_DAY ? hours.day[i] - 1 : hours.day[i];
          byMonth[month[i]] += values[h] * hours.weight[i] * by[24 * day + (h % 24)];
        }
    }
  return {
    value: factors && { name: factors.name, unit: factors.unit, total: sum(byMonth), byMonth },
    cost: parts.reduce((s, p) => s + p.energy + p.demand + p.fixed, 0),
    carbon: sum(carbonByMonth),
    primary,
    costByMonth,
    carbonByMonth,
    parts,
  };
}
