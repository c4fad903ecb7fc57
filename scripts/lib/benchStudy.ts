import {
  compile,
  emptyStudy,
  projectWeather,
  StudyMaker,
  withChanges,
  pointChanges,
  type AxesColumn,
  type Study,
  type WeatherYear,
} from "../../core/src/index.ts";
import { runsLeft } from "../../web/ui/currents/filters.ts";
import { benchProject } from "./benchModel.ts";

const RUNS = 12;
const MANY = 10000;

export interface StudyTimes {
  /** An hourly year of 20 zones as a run of a study, s. */
  readonly run: number;
  /** Making a run ready, its key included, s. */
  readonly prepare: number;
  /** Compile of a variant that changes no geometry, s. */
  readonly compile: number;
  /** Filtering 10,000 runs by five stretches, s. */
  readonly filter: number;
}
const median = (v: readonly number[]): number => [...v].sort((x, y) => x - y)[Math.floor(v.length / 2)];
const clock = (): number => performance.now() / 1000;

/** Times of a study of 20 zones whose runs change no geometry. */
export function studyTimes(): StudyTimes {
  const project = benchProject(20);
  const study: Study = {
    ...emptyStudy("bench", null),
    length: "year",
    checks: 0,
    axes: [
      {
        id: "leaks",
        name: "leaks",
        addresses: ["spaces/*/inputs/infiltration"],
        levels: Array.from({ length: RUNS }, (_, i) => ({ id: `l${i}`, value: 0.1 + 0.05 * i })),
      },
    ],
  };
  const maker = new StudyMaker(project, study, () => null, clock);
  const [runs, prepares, compiles]: number[][] = [[], [], []];
  const weather = projectWeather(project) as WeatherYear;
  for (let i = 0; i < RUNS; i++) {
    const began = clock();
    const prepared = maker.prepare({ point: [i], year: project.weather, check: false });
    prepares.push(clock() - began);
    const { error, seconds } = maker.make(prepared);
    if (error !== null) throw new Error(error);
    runs.push(seconds);
    const made = withChanges(maker.base, pointChanges(maker.base, study, [i]));
    if (!made.ok) throw new Error(made.message);
    const from = clock();
    compile(made.project, weather, 1);
    compiles.push(clock() - from);
  }
  const column = (key: string, seed: number): AxesColumn => ({
    key,
    name: key,
    unit: "",
    kind: "outcome",
    levels: [],
    values: Float64Array.from({ length: MANY }, (_, i) => ((i + 1) * seed) % 101),
    digits: 1,
    aim: "least",
    stage: null,
  });
  const columns = [3, 7, 13, 29, 53].map((seed) => column(String(seed), seed));
  const brushes = Object.fromEntries(columns.map((c) => [c.key, [10, 90] as const]));
  const filters = Array.from({ length: 20 }, () => {
    const began = clock();
    runsLeft(columns, brushes, MANY);
    return clock() - began;
  });
  // the first run compiles its code and casts the shadows all share
  return { run: median(runs.slice(1)), prepare: median(prepares.slice(1)), compile: median(compiles.slice(1)), filter: median(filters) };
}
