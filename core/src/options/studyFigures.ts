import { fuels, type Fuel, type Project, type Study } from "../model/index.ts";
import { neededFor, readSeries, seriesTable, type RunResult, type Summary } from "../results/index.ts";
import { endUses, type EndUse } from "../services/index.ts";
import type { WeatherYear } from "../climate/index.ts";

/** A figure that runs of a study are chosen by. */
export interface FigureSpec {
  readonly key: string;
  readonly words: string;
  readonly unit: string;
  readonly digits: number;
  /** Which is the better. */
  readonly aim: "least" | "most";
}
export interface OwnFigure extends FigureSpec {
  /** null: there is none. */
  of(s: Summary): number | null;
}

const sum = (a: readonly number[]): number => a.reduce((t, v) => t + v, 0);
/** Mean over zones with people by floor area. */
function overZones(s: Summary, of: (z: Summary["zones"][number]) => number | null): number | null {
  let [area, total] = [0, 0];
  for (const z of s.zones) {
    const v = of(z);
    if (v === null) continue;
    area += z.floorArea;
    total += z.floorArea * v;
  }
  return area > 0 ? total / area : null;
}

const own: readonly OwnFigure[] = [
  { key: "energy", words: "Site energy", unit: "kWh/m²a", digits: 1, aim: "least", of: (s) => s.energy.intensity },
  { key: "net", words: "Net site energy", unit: "kWh/m²a", digits: 1, aim: "least", of: (s) => s.energy.net ?? s.energy.intensity },
  { key: "cost", words: "Cost", unit: "/a", digits: 0, aim: "least", of: (s) => s.energy.site?.cost ?? s.energy.cost },
  { key: "carbon", words: "Carbon", unit: "t CO₂e/a", digits: 2, aim: "least", of: (s) => s.energy.carbon / 1000 },
  { key: "netCarbon", words: "Net carbon", unit: "t CO₂e/a", digits: 2, aim: "least", of: (s) => (s.energy.site?.carbon ?? s.energy.carbon) / 1000 },
  { key: "primary", words: "Primary energy", unit: "kWh/m²a", digits: 1, aim: "least", of: (s) => (s.energy.site?.primary ?? s.energy.primary) / s.floorArea },
  { key: "heating", words: "Heat delivered", unit: "kWh/m²a", digits: 1, aim: "least", of: (s) => s.loads.heating.total / s.floorArea },
  {
    key: "cooling",
    words: "Heat removed",
    unit: "kWh/m²a",
    digits: 1,
    aim: "least",
    of: (s) => (s.loads.cooling.total + s.loads.dehumidification.total) / s.floorArea,
  },
  { key: "peakHeating", words: "Peak heating", unit: "kW", digits: 1, aim: "least", of: (s) => s.peaks.heating.power / 1000 },
  { key: "peakCooling", words: "Peak cooling", unit: "kW", digits: 1, aim: "least", of: (s) => s.peaks.cooling.power / 1000 },
  // told from four steps an hour; there are none of a run by the hour
  { key: "unmet", words: "Hours unmet", unit: "h", digits: 0, aim: "least", of: (s) => s.unmetHours },
  {
    key: "discomfort",
    words: "Hours of discomfort",
    unit: "h",
    digits: 0,
    aim: "least",
    of: (s) => overZones(s, (z) => (z.comfort?.discomfort ? sum(z.comfort.discomfort.cold) + sum(z.comfort.discomfort.warm) : null)),
  },
  {
    key: "daylight",
    words: "Daylight enough",
    unit: "%",
    digits: 0,
    aim: "most",
    of: (s) => {
      const points = s.daylight.filter((d) => d.of > 0);
      return points.length > 0 ? points.reduce((t, d) => t + (100 * d.hours) / d.of, 0) / points.length : null;
    },
  },
  { key: "made", words: "Electricity made on site", unit: "MWh/a", digits: 2, aim: "most", of: (s) => (s.energy.site ? s.energy.site.made / 1000 : 0) },
];
/** Figures every run has. */
export const ownFigures: readonly OwnFigure[] = own;

/** Figures that follow from what is typed on levels, and from cost. */
export const INVESTMENT: FigureSpec = { key: "investment", words: "Investment", unit: "", digits: 0, aim: "least" };
export const PAYBACK: FigureSpec = { key: "payback", words: "Payback", unit: "a", digits: 1, aim: "least" };

export const endUseKey = (use: EndUse, fuel: Fuel): string => `use ${use} ${fuel}`;
/** End uses by fuel, kWh a year. */
export const useFigures: readonly (FigureSpec & { readonly use: EndUse; readonly fuel: Fuel })[] = endUses.flatMap((use) =>
  fuels.map((fuel) => ({
    key: endUseKey(use, fuel),
    words: `${use[0].toUpperCase()}${use.slice(1)}, ${fuel}`,
    unit: "kWh/a",
    digits: 0,
    aim: "least" as const,
    use,
    fuel,
  })),
);
const derivedKey = (id: string): string => `derived ${id}`;
const derivedFigures = (project: Pick<Project, "derived">, study: Pick<Study, "outcomes">): FigureSpec[] =>
  (study.outcomes ?? []).map((o) => ({
    key: derivedKey(o.id),
    words: o.name,
    unit: o.statistic.startsWith("hours") ? "h" : `${project.derived?.[o.series]?.unit ?? ""}${o.statistic === "sum" ? "·h" : ""}`,
    digits: o.statistic.startsWith("hours") ? 0 : 2,
    aim: o.aim,
  }));

/** Every figure that is kept of a run of a study, in the order in which it is kept. */
export const figuresKept = (project: Pick<Project, "derived">, study: Pick<Study, "outcomes">): FigureSpec[] => [
  ...own,
  ...derivedFigures(project, study),
  ...useFigures,
];

/** Quantities that have to be kept hour by hour for the derived outcomes of a study. */
export const seriesOfStudy = (project: Project, study: Pick<Study, "outcomes">): string[] => [
  ...new Set(
    (study.outcomes ?? [])
      .flatMap((o) => neededFor(project, { of: "derived", id: o.series, quantity: o.series }))
      .filter((r) => r.of !== "outdoors" && r.of !== "building")
      .map((r) => r.quantity),
  ),
];

/** The figures of a run, in the order of {@link figuresKept}; null: there is none. */
export function figuresOf(project: Project, study: Pick<Study, "outcomes">, result: RunResult, weather: WeatherYear): (number | null)[] {
  const { summary: s } = result;
  const finite = (v: number | null): number | null => (v !== null && Number.isFinite(v) ? v : null);
  const uses = new Map<string, number>();
  for (const u of s.energy.endUses) uses.set(endUseKey(u.use, u.fuel), (uses.get(endUseKey(u.use, u.fuel)) ?? 0) + u.total);
  const asked = study.outcomes ?? [];
  const table = asked.length > 0 ? seriesTable(result.series, weather, result.fuel, s.shortYear?.days.map((d) => d.day) ?? null) : null;
  return [
    ...own.map((f) => finite(f.of(s))),
    ...asked.map((o) => {
      const read = table && readSeries(project, table, { of: "derived", id: o.series, quantity: o.series });
      return read?.ok ? finite(statisticOf(read.values, o, s.shortYear?.days.map((d) => d.weight) ?? null)) : null;
    }),
    ...useFigures.map((f) => uses.get(f.key) ?? 0),
  ];
}

/** A statistic of hourly values. @param weights days each day stands for; null: itself */
export function statisticOf(
  values: ArrayLike<number>,
  { statistic: kind, limit }: Pick<NonNullable<Study["outcomes"]>[number], "statistic" | "limit">,
  weights: readonly number[] | null,
): number {
  let [total, hours, most, least, beyond] = [0, 0, -Infinity, Infinity, 0];
  for (let h = 0; h < values.length; h++) {
    const v = values[h];
    if (!Number.isFinite(v)) continue;
    const weight = weights ? weights[Math.floor(h / 24)] : 1;
    total += weight * v;
    hours += weight;
    if (v > most) most = v;
    if (v < least) least = v;
    if (limit !== undefined && (kind === "hours above" ? v > limit : v < limit)) beyond += weight;
  }
  if (hours === 0) return NaN;
  return kind === "mean" ? total / hours : kind === "sum" ? total : kind === "most" ? most : kind === "least" ? least : beyond;
}
