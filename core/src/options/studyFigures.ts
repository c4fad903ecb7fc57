import { fuels, type Fuel, type Project, type SeriesRef, type Study } from "../model/index.ts";
import {
  hoursOfRun,
  hoursWithin,
  measuredDeviation,
  neededFor,
  pairMisfit,
  PointYears,
  readPair,
  readSeries,
  seriesTable,
  type RunResult,
  type SeriesTable,
  type Summary,
} from "../results/index.ts";
import type { LoggedReadings } from "../logged/index.ts";
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

/** Misfit of all pairs together, and over the period held out. */
export const MISFIT: FigureSpec = { key: "misfit", words: "Misfit", unit: "", digits: 3, aim: "least" };
export const HELD_MISFIT: FigureSpec = { key: "held", words: "Misfit, held out", unit: "", digits: 3, aim: "least" };
/** Keys of a pair's CV(RMSE) and NMBE by the hour, and of its CV(RMSE) over the period held out. */
export const pairKey = (kind: "cvrmse" | "nmbe" | "held", pair: string): string => `${kind} ${pair}`;

/** Figures of a study against logged data. */
const misfitFigures = (project: Pick<Project, "points" | "pairs">, { against }: Pick<Study, "against">): FigureSpec[] => {
  if (!against) return [];
  const name = (id: string): string => project.points?.[project.pairs?.find((p) => p.id === id)?.point ?? ""]?.name ?? id;
  const one = (kind: "cvrmse" | "nmbe" | "held", words: string): FigureSpec[] =>
    against.pairs.map((id) => ({ key: pairKey(kind, id), words: `${words}, ${name(id)}`, unit: "%", digits: 1, aim: "least" }));
  return [MISFIT, ...one("cvrmse", "CV(RMSE)"), ...one("nmbe", "NMBE"), ...(against.held ? [HELD_MISFIT, ...one("held", "CV(RMSE) held out")] : [])];
};

/** Every figure that is kept of a run of a study, in the order in which it is kept. */
export const figuresKept = (project: Pick<Project, "derived" | "points" | "pairs">, study: Pick<Study, "outcomes" | "against">): FigureSpec[] => [
  ...own,
  ...derivedFigures(project, study),
  ...misfitFigures(project, study),
  ...useFigures,
];

/** Quantities that have to be kept hour by hour for the derived outcomes of a study. */
export const seriesOfStudy = (project: Project, study: Pick<Study, "outcomes" | "against">): string[] => [
  ...new Set(
    [
      ...(study.outcomes ?? []).map((o): SeriesRef => ({ of: "derived", id: o.series, quantity: o.series })),
      ...(project.pairs ?? []).filter((p) => study.against?.pairs.includes(p.id)).map((p) => p.series),
    ]
      .flatMap((ref) => neededFor(project, ref))
      .filter((r) => r.of !== "outdoors" && r.of !== "building")
      .map((r) => r.quantity),
  ),
];

/** The figures of a run, in the order of {@link figuresKept}; null: there is none. */
export function figuresOf(
  project: Project,
  study: Pick<Study, "outcomes" | "against">,
  result: RunResult,
  weather: WeatherYear,
  logged: LoggedReadings = {},
): (number | null)[] {
  const { summary: s } = result;
  const finite = (v: number | null): number | null => (v !== null && Number.isFinite(v) ? v : null);
  const uses = new Map<string, number>();
  for (const u of s.energy.endUses) uses.set(endUseKey(u.use, u.fuel), (uses.get(endUseKey(u.use, u.fuel)) ?? 0) + u.total);
  const asked = study.outcomes ?? [];
  const table = asked.length > 0 || study.against ? seriesTable(result.series, weather, result.fuel, s.shortYear?.days.map((d) => d.day) ?? null) : null;
  return [
    ...own.map((f) => finite(f.of(s))),
    ...asked.map((o) => {
      const read = table && readSeries(project, table, { of: "derived", id: o.series, quantity: o.series });
      return read?.ok ? finite(statisticOf(read.values, o, s.shortYear?.days.map((d) => d.weight) ?? null)) : null;
    }),
    ...(study.against && table ? misfitsOf(project, study.against, result, table, weather, logged).map((v) => finite(v)) : []),
    ...useFigures.map((f) => uses.get(f.key) ?? 0),
  ];
}

/**
 * Misfits of a run in the order of `misfitFigures`. The misfit of all pairs together is the mean over them of the root mean square error by
 * the hour over the measured values' own standard deviation, so that kelvins and kilowatts weigh alike. A short year has no hours to compare.
 */
function misfitsOf(
  project: Project,
  { pairs, held }: NonNullable<Study["against"]>,
  { summary }: RunResult,
  table: SeriesTable,
  weather: WeatherYear,
  logged: LoggedReadings,
): number[] {
  const count = 1 + 2 * pairs.length + (held ? 1 + pairs.length : 0);
  if (summary.shortYear) return new Array<number>(count).fill(NaN);
  const points = new PointYears(project, logged, weather);
  const hourOf = hoursOfRun(table.hours, summary.period.firstDay, summary.period.leapDays ?? [], points.days);
  const out = held ? hoursWithin(hourOf, points.days, held[0], held[1]) : new Uint8Array(table.hours);
  const within = out.map((v) => 1 - v);
  const read = pairs.map((id) => {
    const pair = project.pairs?.find((p) => p.id === id);
    const found = pair && readPair(project, pair, points, table, hourOf);
    return found?.ok ? found.of : null;
  });
  const over = (leave: Uint8Array): { together: number; cvrmse: number[]; nmbe: number[] } => {
    const fits = read.map((p) => p && pairMisfit(p, leave));
    const scaled = read.map((p, i) => (p ? (fits[i]?.rmse ?? NaN) / measuredDeviation(p, leave) : NaN));
    return {
      together: scaled.reduce((a, v) => a + v, 0) / scaled.length,
      cvrmse: fits.map((f) => f?.cvrmse ?? NaN),
      nmbe: fits.map((f) => f?.nmbe ?? NaN),
    };
  };
  const seen = over(out);
  const kept = held ? over(within) : null;
  return [seen.together, ...seen.cvrmse, ...seen.nmbe, ...(kept ? [kept.together, ...kept.cvrmse] : [])];
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
