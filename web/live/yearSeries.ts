/// <reference lib="webworker" />
import { projectWeather, runProject, seriesTable, weatherOfRun, yearInView, type Project, type Sizes, type StoredYear, type WeatherYear } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import { seriesClasses, type SeriesClass } from "./seriesClasses.ts";

export interface ToYearSeries {
  readonly project: Project;
  readonly stored: StoredYear;
  readonly classes: readonly SeriesClass[];
  /** Of the exact year, so that it need not size again; absent: it sizes. */
  readonly sizes?: Sizes | undefined;
}
/** Hourly means over a run, by quantity and by what they are of; outdoors and the building's fuels beside them. */
export interface YearSeries {
  readonly firstDay: number;
  readonly leapDays: readonly number[];
  readonly hours: number;
  readonly series: Readonly<Record<string, Readonly<Record<string, Float32Array>>>>;
}
export type FromYearSeries =
  | { readonly kind: "progress"; readonly share: number }
  | { readonly kind: "done"; readonly year: YearSeries }
  | { readonly kind: "failed"; readonly message: string };

installWebAssembly();
const scope = self as unknown as DedicatedWorkerGlobalScope;
const reply = (message: FromYearSeries, move: Transferable[] = []): void => scope.postMessage(message, move);
scope.onmessage = (event: MessageEvent<ToYearSeries>) => {
  const { project, stored, sizes, classes } = event.data;
  try {
    const weather = projectWeather(project, stored);
    if (!weather) return reply({ kind: "failed", message: `The weather year "${yearInView(project).name}" is not at hand.` });
    const names = classes.flatMap((c): readonly string[] => seriesClasses[c]);
    const settings = { stepsPerHour: project.run.stepsPerHour, series: names, ...(sizes ? { sizes } : {}) };
    const run = runProject(project, weather, settings);
    let told = performance.now();
    for (;;) {
      const step = run.next();
      if (step.done) {
        const year = gathered(step.value, weatherOfRun(project, settings, weather));
        return reply(
          { kind: "done", year },
          Object.values(year.series).flatMap((s) => Object.values(s).map((a) => a.buffer as ArrayBuffer)),
        );
      }
      if (performance.now() - told > 200 && step.value.phase !== "sizing") {
        told = performance.now();
        reply({ kind: "progress", share: step.value.done / step.value.of });
      }
    }
  } catch (error) {
    reply({ kind: "failed", message: error instanceof Error ? error.message : String(error) });
  }
};

type RunDone = Extract<ReturnType<ReturnType<typeof runProject>["next"]>, { done: true }>["value"];

/** In half the room: four bytes a value hold it to a ten-millionth. */
function gathered({ series, summary, fuel }: RunDone, weather: WeatherYear): YearSeries {
  const table = seriesTable(series, weather, fuel);
  return {
    firstDay: summary.period.firstDay,
    leapDays: summary.period.leapDays ?? [],
    hours: table.hours,
    series: Object.fromEntries(
      Object.entries(table.series).map(([q, rows]) => [q, Object.fromEntries(Object.entries(rows).map(([of, values]) => [of, Float32Array.from(values)]))]),
    ),
  };
}
