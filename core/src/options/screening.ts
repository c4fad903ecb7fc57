import type { WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { randomStream } from "../numeric/index.ts";
import { runProject, type Summary } from "../results/index.ts";
import { checkProject, type RunSettings } from "../simulate/index.ts";
import { movedTo, type Influence } from "./influences.ts";

/** Figures that influences are ranked for. */
export const screenedFigures = {
  energy: { words: "Site energy", unit: "kWh", of: (s: Summary): number => s.energy.endUses.reduce((t, u) => t + u.total, 0) },
  cooling: { words: "Cooling, heat removed", unit: "kWh", of: (s: Summary): number => s.loads.cooling.total + s.loads.dehumidification.total },
  heating: { words: "Heating, heat delivered", unit: "kWh", of: (s: Summary): number => s.loads.heating.total },
  cost: { words: "Cost", unit: "", of: (s: Summary): number => s.energy.cost },
  carbon: { words: "Carbon", unit: "kg CO₂e", of: (s: Summary): number => s.energy.carbon },
} as const satisfies Record<string, { readonly words: string; readonly unit: string; readonly of: (s: Summary) => number }>;
export type ScreenedFigure = keyof typeof screenedFigures;
const figures = Object.keys(screenedFigures) as ScreenedFigure[];

/** Effect of an influence on a figure over its whole usual range. */
export interface Effect {
  /** Mean of the elementary effects: its sign is their direction. */
  readonly mean: number;
  /** Mean of their sizes, μ* (Campolongo, Cariboni and Saltelli 2007), by which influences are ranked. */
  readonly size: number;
  /** Their standard deviation, σ: large where the effect is no straight line or hangs on the other inputs. */
  readonly deviation: number;
  /** How many of them are known. */
  readonly of: number;
}
export interface Screening {
  /** Short years run and to be run. */
  readonly done: number;
  readonly of: number;
  /** By influence, in the order given, and by figure. */
  readonly effects: readonly Readonly<Record<ScreenedFigure, Effect>>[];
}

/** Each influence is moved by half its range. */
const STEP = 0.5;
const SEED = 20261130;

/**
 * Elementary effects of influences one at a time from several points (Morris 1991, in the radial design of Campolongo, Saltelli and
 * Cariboni 2011): the first point is the model as it is, the others lie anywhere in the ranges. Yields after every run; the order and the
 * points follow from a fixed seed. Runs that are no model, such as a heating set-point above that of cooling, give no effect.
 * @param bases how many points
 * @param settings of every run; sizes are those of the model as it is
 */
export function* screen(
  project: Project,
  weather: WeatherYear,
  influences: readonly Influence[],
  bases: number,
  settings: RunSettings,
): Generator<Screening | null, Screening, void> {
  const random = randomStream(SEED);
  const found: Record<ScreenedFigure, number[]>[] = influences.map(
    () => Object.fromEntries(figures.map((f) => [f, []])) as unknown as Record<ScreenedFigure, number[]>,
  );
  const of = bases * (influences.length + 1);
  let done = 0;
  const told = (): Screening => ({ done, of, effects: found.map((byFigure) => effectsOf(byFigure)) });
  for (let b = 0; b < bases; b++) {
    const base = influences.map(({ now, range }) => (b === 0 ? share(now, range) : random.uniform()));
    const start = yield* figuresAt(project, weather, influences, base, settings);
    done++;
    yield told();
    for (let i = 0; i < influences.length; i++) {
      const moved = [...base];
      moved[i] = base[i] < 0.5 ? base[i] + STEP : base[i] - STEP;
      const there = start && (yield* figuresAt(project, weather, influences, moved, settings));
      if (start && there) for (const f of figures) found[i][f].push((there[f] - start[f]) / (moved[i] - base[i]));
      done++;
      yield told();
    }
  }
  return told();
}

const share = (v: number, [least, most]: readonly [number, number]): number => (most > least ? (v - least) / (most - least) : 0);

/** Figures of one run; null where the inputs make no model. Yields null while it goes. */
function* figuresAt(
  project: Project,
  weather: WeatherYear,
  influences: readonly Influence[],
  at: readonly number[],
  settings: RunSettings,
): Generator<null, Record<ScreenedFigure, number> | null, void> {
  const moved = movedTo(
    project,
    influences.map((x, i) => {
      const { range } = x;
      // the value now to the last bit, so that nothing is moved that is not meant to be
      return [x, at[i] === share(x.now, range) ? x.now : range[0] + at[i] * (range[1] - range[0])] as const;
    }),
  );
  if (!moved || checkProject(moved).problems.some((p) => p.severity === "error")) return null;
  const run = runProject(moved, weather, settings);
  for (;;) {
    const step = run.next();
    if (step.done) return Object.fromEntries(figures.map((f) => [f, screenedFigures[f].of(step.value.summary)])) as Record<ScreenedFigure, number>;
    yield null;
  }
}

function effectsOf(byFigure: Readonly<Record<ScreenedFigure, readonly number[]>>): Record<ScreenedFigure, Effect> {
  return Object.fromEntries(
    figures.map((f) => {
      const e = byFigure[f];
      const n = Math.max(1, e.length);
      const mean = e.reduce((s, v) => s + v, 0) / n;
      const size = e.reduce((s, v) => s + Math.abs(v), 0) / n;
      const square = e.reduce((s, v) => s + (v - mean) * (v - mean), 0);
      return [f, { mean, size, deviation: e.length > 1 ? Math.sqrt(square / (e.length - 1)) : NaN, of: e.length }];
    }),
  ) as Record<ScreenedFigure, Effect>;
}
