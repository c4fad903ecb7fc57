import type { WeatherYear } from "../climate/index.ts";
import { setChange, applyChange, type Fuel, type HourlyValue, type Pack, type Project, type RatingMeasure } from "../model/index.ts";
import { runToEnd, sizeProject, type RunResult, type Summary } from "../results/index.ts";
import { billOf, siteEnergy, type FuelHours } from "../run/index.ts";
import type { RunSettings } from "../simulate/index.ts";
import type { KnownSizes } from "./facts.ts";
import { referenceBuilding, type ReferenceBuilding } from "./reference.ts";
import type { Submission } from "./submission.ts";

/** What a kWh of a fuel counts in a rating, and what a building comes to by it. */
export interface RatedYear {
  readonly summary: Summary;
  /** In the unit of the measure, a year; net of what is made on site. */
  readonly total: number;
  /** By end use and fuel, kWh and what it counts; what is made on site takes off from their sum. */
  readonly endUses: readonly { readonly use: string; readonly fuel: string; readonly energy: number; readonly counts: number }[];
}

/** Unit of a rating's measure. */
export const measureUnit = (pack: Pack, project: Pick<Project, "prices">, zone: string): string => {
  const { measure } = pack.performance;
  if (measure === "cost") return project.prices.currency;
  if (measure === "carbon") return "kg CO₂e";
  if (measure === "primary energy") return "kWh";
  return hourlyOf(pack, zone)?.unit ?? "kWh";
};

const hourlyOf = (pack: Pack, zone: string) => pack.performance.hourly?.find((h) => h.zones.includes(zone));

/** Days of the months of a common year. */
const MONTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
/** Hourly values of a common year from 288, the hours of a day for each month, or as they are. */
export function hourlyValues(profile: readonly number[]): number[] {
  if (profile.length !== 288) return [...profile];
  return MONTHS.flatMap((days, m) => Array.from({ length: days }, () => profile.slice(24 * m, 24 * m + 24)).flat());
}

/** A project with the factors a pack rates by, in place of its own where the pack states them. */
export function ratedBy(project: Project, s: Pick<Submission, "pack" | "zone">): Project {
  const { primary, carbon } = s.pack.performance;
  const hourly = hourlyOf(s.pack, s.zone);
  const over = (own: Record<Fuel, number>, by: typeof primary): Record<Fuel, number> => ({
    ...own,
    ...Object.fromEntries(Object.entries(by ?? {}).map(([f, l]) => [f, l.value])),
  });
  const value: HourlyValue | null = hourly
    ? {
        name: hourly.name,
        unit: hourly.unit,
        zone: s.zone,
        byFuel: Object.fromEntries(Object.entries(hourly.byFuel).map(([f, p]) => [f, hourlyValues(p)])),
      }
    : null;
  return {
    ...project,
    factors: {
      ...project.factors,
      primary: over(project.factors.primary, primary),
      carbon: over(project.factors.carbon, carbon),
      ...(s.pack.performance.measure === "hourly value" ? { value } : {}),
    },
  };
}

function counted(hours: FuelHours, project: Project, measure: RatingMeasure): number {
  const bill = billOf(hours, project);
  if (measure === "cost") return bill.cost;
  if (measure === "carbon") return bill.carbon;
  if (measure === "primary energy") return bill.primary;
  return bill.value?.total ?? 0;
}

/**
 * What a run comes to by the measure of a pack.
 * @throws RangeError where a fuel that is used has no hourly values in the pack
 */
export function rate(result: Pick<RunResult, "summary" | "fuel">, project: Project, s: Pick<Submission, "pack" | "zone">): RatedYear {
  const { measure } = s.pack.performance;
  const by = ratedBy(project, s);
  const { fuel, summary } = result;
  const used = (Object.entries(fuel.fuels) as [Fuel, Float64Array][]).filter(([, v]) => v.some((x) => x !== 0));
  if (measure === "hourly value")
    for (const [f] of used)
      if (!by.factors.value?.byFuel[f])
        throw new RangeError(
          `performance/hourly: "${s.pack.name}" has no hourly values of ${f} for climate zone ${s.zone}, and the building uses it. Add them to a copy of the pack.`,
        );
  const perKWh = new Map<string, number>();
  const none = new Float64Array(fuel.water.length);
  for (const [f, values] of used) {
    const energy = summary.energy.endUses.reduce((a, u) => a + (u.fuel === f ? u.total : 0), 0);
    perKWh.set(f, energy > 0 ? counted({ ...fuel, fuels: { [f]: values }, water: none }, by, measure) / energy : 0);
  }
  const gross = counted(fuel, by, measure);
  const site = siteEnergy(fuel, by);
  const net =
    site === null
      ? gross
      : measure === "cost"
        ? site.cost
        : measure === "carbon"
          ? site.carbon
          : measure === "primary energy"
            ? site.primary
            : (site.value ?? gross);
  return {
    summary,
    total: net,
    endUses: summary.energy.endUses.map((u) => ({ use: u.use, fuel: u.fuel, energy: u.total, counts: u.total * (perKWh.get(u.fuel) ?? 0) })),
  };
}

/** The year of a building by the measure of a pack. */
export const ratedYear = (project: Project, weather: WeatherYear, s: Pick<Submission, "pack" | "zone">, settings: RunSettings): RatedYear =>
  rate(runToEnd(project, weather, { ...settings, summaryOnly: true }), project, s);

/** A building turned on its site, degrees clockwise. */
export function turned(project: Project, degrees: number): Project {
  if (degrees === 0) return project;
  const north = (((project.site.planNorth + degrees) % 360) + 360) % 360;
  const made = applyChange(project, setChange(project, ["site", "planNorth"], north));
  if (!made.ok) throw new RangeError(made.message);
  return made.project;
}

/** The reference building with all its values: its own sizes are found first where any of them depends on one. */
export function sizedReference(design: Project, weather: WeatherYear, s: Submission): ReferenceBuilding {
  const first = referenceBuilding(design, s);
  if (first.pending.length === 0) return first;
  const sizes: KnownSizes = Object.fromEntries(sizeProject(first.project, weather).components.map((c) => [c.address, c.typed ?? c.value]));
  return referenceBuilding(design, s, sizes);
}
