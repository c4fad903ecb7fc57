import type { Project } from "../model/index.ts";
import { billOf, siteEnergy, type Bill, type FuelHours, type SiteEnergy } from "../run/index.ts";
import type { Summary } from "./summary.ts";

/** A bill as a summary tells it. */
export const priceFigures = (bill: Bill): Pick<Summary["energy"], "cost" | "carbon" | "primary" | "bill"> => ({
  cost: bill.cost,
  carbon: bill.carbon,
  primary: bill.primary,
  bill: {
    parts: bill.parts.map((p) => ({ ...p })),
    costByMonth: [...bill.costByMonth],
    carbonByMonth: [...bill.carbonByMonth],
    value: bill.value && { ...bill.value, byMonth: [...bill.value.byMonth] },
  },
});

/** Electricity of a site as a summary tells it. @param floorArea m², conditioned; null: the run is not of a year */
export function siteFigures(site: SiteEnergy | null, gross: number, used: number, floorArea: number | null): Pick<Summary["energy"], "net" | "site"> {
  if (site === null) return { net: null, site: null };
  const { value: _byHour, ...told } = site;
  return {
    net: floorArea !== null && floorArea > 0 ? (gross - used + site.bought - site.exported) / floorArea : null,
    site: {
      ...told,
      madeByMonth: [...site.madeByMonth],
      usedByMonth: [...site.usedByMonth],
      exportedByMonth: [...site.exportedByMonth],
      boughtByMonth: [...site.boughtByMonth],
    },
  };
}

/** A summary under other prices and factors, from the fuel of its run: no figure of the run itself changes. */
export function priced(summary: Summary, fuel: FuelHours, project: Pick<Project, "prices" | "factors" | "calendar" | "onSite">): Summary {
  const { energy } = summary;
  const now = { ...energy, ...priceFigures(billOf(fuel, project)) };
  const site = siteEnergy(fuel, project);
  if (site === null) return { ...summary, energy: { ...now, net: null, site: null } };
  const of = (only?: string): number => energy.endUses.reduce((s, u) => s + (only === undefined || u.fuel === only ? u.total : 0), 0);
  return { ...summary, energy: { ...now, ...siteFigures(site, of(), of("electricity"), energy.intensity === null ? null : summary.floorArea) } };
}

/**
 * Cost, carbon and primary energy of fuel whose hours are not known: each fuel at the mean price, with its demand, that another
 * run of the same model pays, and the same standing charges.
 */
export function pricedLike(
  energy: Pick<Summary["energy"], "endUses">,
  like: Pick<Bill, "parts">,
  project: Pick<Project, "prices" | "factors">,
): Pick<Bill, "cost" | "carbon" | "primary"> {
  const totals = new Map<string, number>();
  for (const u of energy.endUses) totals.set(u.fuel, (totals.get(u.fuel) ?? 0) + u.total);
  let cost = 0;
  let carbon = 0;
  let primary = 0;
  for (const [fuel, total] of totals) {
    const part = like.parts.find((p) => p.of === fuel);
    cost +=
      part && part.amount > 0 ? (total * (part.energy + part.demand)) / part.amount : total * project.prices.perKWh[fuel as keyof typeof project.prices.perKWh];
    carbon += total * project.factors.carbon[fuel as keyof typeof project.factors.carbon];
    primary += total * project.factors.primary[fuel as keyof typeof project.factors.primary];
  }
  for (const p of like.parts) cost += p.fixed + (p.of === "water" ? p.energy : 0);
  return { cost, carbon, primary };
}
