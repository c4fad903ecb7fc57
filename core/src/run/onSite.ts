import { batteryStep, type Battery } from "../electric/index.ts";
import { COMMON_YEAR, LEAP_YEAR, settingOf, type Project } from "../model/index.ts";
import { billOf, hourlyPrice, type Bill } from "./bill.ts";
import type { FuelHours } from "./fuelMeter.ts";

const J_PER_KWH = 3.6e6;
const HOUR = 3600;

/** Electricity of a site over a run: what is made, what of it is used here, fed in, and what is still bought; kWh. */
export interface SiteEnergy {
  readonly made: number;
  /** Made here and used here, by way of batteries too. */
  readonly used: number;
  readonly exported: number;
  readonly bought: number;
  /** Lost in batteries, and what they hold more at the end. */
  readonly lost: number;
  readonly kept: number;
  readonly madeByMonth: readonly number[];
  readonly usedByMonth: readonly number[];
  readonly exportedByMonth: readonly number[];
  readonly boughtByMonth: readonly number[];
  /** Within which feeding in makes up for buying. */
  readonly netting: "hour" | "month" | "year";
  /** What is paid, with what is paid for feeding in taken off; of it the credit. */
  readonly cost: number;
  readonly credit: number;
  /** kg CO₂e and kWh of primary energy, less what is fed in. */
  readonly carbon: number;
  readonly primary: number;
  /** What is bought by hourly value factors, in their unit; null: none are given. What is fed in takes nothing off. */
  readonly value: number | null;
}

type Priced = Pick<Project, "prices" | "factors" | "calendar" | "onSite">;

interface RuledBattery extends Battery {
  readonly byPrice: boolean;
}

function batteriesOf(project: Priced): RuledBattery[] {
  return Object.values(project.onSite).flatMap((x): RuledBattery[] => {
    if (x.kind !== "battery") return [];
    const number = (field: string): number => settingOf("battery", x.inputs, field) as number;
    return [
      {
        capacity: number("capacity") * J_PER_KWH,
        charge: number("charge"),
        discharge: number("discharge"),
        efficiency: number("efficiency"),
        standing: number("standing"),
        byPrice: settingOf("battery", x.inputs, "rule") === "by price",
      },
    ];
  });
}

/** Prices of a day differ by more than this where a battery trades, relative. */
const TRADES = 0.02;

/** What a battery sees as made beyond the use, W: by price it also fills in the cheapest hours and waits where it is not dear. */
function seenSurplus(b: RuledBattery, surplus: number, price: number, day: { readonly least: number; readonly mean: number }): number {
  if (!b.byPrice || surplus > 0 || !(day.least < day.mean * (1 - TRADES))) return surplus;
  if (price <= day.least * (1 + 1e-9)) return b.charge;
  return price > day.mean ? surplus : 0;
}

/**
 * Electricity of a site hour by hour from what is used and made: batteries in their order, then the grid. Cost, carbon and primary energy are
 * net: bought less fed in. Null: nothing is made and there is no battery.
 */
export function siteEnergy(hours: FuelHours, project: Priced): SiteEnergy | null {
  const batteries = batteriesOf(project);
  const n = hours.water.length;
  if (!hours.made && batteries.length === 0) return null;
  const made = hours.made ?? new Float64Array(n);
  const use = hours.fuels.electricity ?? new Float64Array(n);
  const days = hours.yearDays > COMMON_YEAR.days ? LEAP_YEAR : COMMON_YEAR;
  const prices = hourlyPrice(hours, project, "electricity", days);
  const priceAt = (h: number): number => (typeof prices === "number" ? prices : prices[h]);
  const contents = new Float64Array(batteries.length);
  const bought = new Float64Array(n);
  const byMonth = (): number[] => new Array<number>(12).fill(0);
  const months = { made: byMonth(), used: byMonth(), exported: byMonth(), bought: byMonth() };
  const costs = byMonth();
  let [lost, kept] = [0, 0];
  let day = { least: 0, mean: 0 };
  for (let h = 0; h < n; h++) {
    const i = Math.floor(h / 24);
    const weight = hours.weight[i];
    const month = days.monthOfDay[hours.day[i]];
    if (h % 24 === 0) {
      const own = Array.from({ length: Math.min(24, n - h) }, (_, k) => priceAt(h + k));
      day = { least: Math.min(...own), mean: own.reduce((s, v) => s + v, 0) / own.length };
    }
    let grid = ((made[h] - use[h]) * J_PER_KWH) / HOUR;
    for (let b = 0; b < batteries.length; b++) {
      const r = batteryStep(batteries[b], contents[b], seenSurplus(batteries[b], grid, priceAt(h), day), HOUR);
      kept += ((r.content - contents[b]) / J_PER_KWH) * weight;
      contents[b] = r.content;
      lost += (r.lost / J_PER_KWH) * weight;
      grid -= r.power;
    }
    const kWh = (grid * HOUR) / J_PER_KWH;
    bought[h] = Math.max(0, -kWh);
    const out = Math.max(0, kWh);
    months.made[month] += made[h] * weight;
    months.exported[month] += out * weight;
    months.bought[month] += bought[h] * weight;
    months.used[month] += (use[h] - bought[h]) * weight;
    costs[month] += bought[h] * weight * priceAt(h);
  }
  const sum = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);
  const bill: Bill = billOf({ ...hours, fuels: { ...hours.fuels, electricity: bought } }, project);
  const netting = project.prices.netting ?? "hour";
  const exported = sum(months.exported);
  const credit = creditOf(months, costs, project.prices.exported ?? 0, netting);
  const { factors } = project;
  return {
    made: sum(months.made),
    used: sum(months.used),
    exported,
    bought: sum(months.bought),
    lost,
    kept,
    madeByMonth: months.made,
    usedByMonth: months.used,
    exportedByMonth: months.exported,
    boughtByMonth: months.bought,
    netting,
    cost: bill.cost - credit,
    credit,
    carbon: bill.carbon - exported * (factors.exported ?? factors.carbon.electricity),
    primary: bill.primary - exported * factors.primary.electricity,
    value: bill.value?.total ?? null,
  };
}

/** What feeding in earns: within the netting period it makes up for what is bought, at its mean price; what is beyond earns the price of feeding in. */
function creditOf(
  months: { readonly exported: readonly number[]; readonly bought: readonly number[] },
  costs: readonly number[],
  price: number,
  netting: SiteEnergy["netting"],
): number {
  const sum = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);
  if (netting === "hour") return sum(months.exported) * price;
  const periods =
    netting === "month"
      ? months.exported.map((e, m) => [e, months.bought[m], costs[m]] as const)
      : [[sum(months.exported), sum(months.bought), sum(costs)] as const];
  return periods.reduce((s, [out, into, cost]) => {
    const netted = Math.min(out, into);
    return s + (into > 0 ? (cost * netted) / into : 0) + (out - netted) * price;
  }, 0);
}
