"use client";
import { useEffect, useMemo, useState } from "react";
import {
  hoursOfRun,
  PointYears,
  putRight,
  readPair,
  type LoggedReadings,
  type PairRead,
  type Project,
  type Readings,
  type SeriesTable,
  type WeatherYear,
} from "@arroyo/core";
import { fetchLogged } from "../../live/logged.ts";
import { NO_CLASSES, seriesClass, type SeriesClass } from "../../live/seriesClasses.ts";
import { useStore } from "../store.ts";
import { useYearSeries, type FoundYear } from "../yearSeries.ts";

/** Readings of every point of a project; null while they are fetched. */
export function useReadings(project: Project): LoggedReadings | null {
  const names = Object.values(project.points ?? {})
    .map((p) => p.hash)
    .sort()
    .join(" ");
  const [found, setFound] = useState<{ readonly names: string; readonly logged: LoggedReadings } | null>(null);
  useEffect(() => {
    let mine = true;
    void fetchLogged(names === "" ? [] : names.split(" ")).then((logged) => mine && setFound({ names, logged }));
    return () => {
      mine = false;
    };
  }, [names]);
  return found?.names === names ? found.logged : (found?.logged ?? null);
}

/** Points over the project's year, hour by hour; null until readings and weather are there. */
export function usePointYears(project: Project, logged: LoggedReadings | null): { readonly points: PointYears; readonly weather: WeatherYear } | null {
  const weather = useStore((s) => s.live.weather?.hours ?? null);
  return useMemo(() => (logged && weather ? { points: new PointYears(project, logged, weather), weather } : null), [project, logged, weather]);
}

/** Readings of a point put right; null where they are not at hand. */
export function rightReadings(project: Project, logged: LoggedReadings | null, id: string): Readings | null {
  const point = project.points?.[id];
  return point && logged && Object.hasOwn(logged, point.hash) ? putRight(point, logged[point.hash]) : null;
}

export interface Compared {
  readonly reads: ReadonlyMap<string, PairRead>;
  /** Hour of the weather year of each hour of the run. */
  readonly hourOf: Int32Array;
  readonly table: SeriesTable;
  readonly weather: WeatherYear;
  readonly points: PointYears;
  readonly year: NonNullable<FoundYear["year"]>;
}
const COMPARED: readonly SeriesClass[] = ["zones", "components"];

/** Every pair of the project over the year as it is now; the year is run for the series it needs. */
export function useCompared(
  project: Project,
  logged: LoggedReadings | null,
  asked: boolean,
  /** Further classes of series to look at beside them. */
  more: readonly SeriesClass[],
): { readonly compared: Compared | null; readonly found: FoundYear } {
  const pairs = project.pairs;
  const classes = useMemo(() => {
    const wanted = new Set<SeriesClass>((pairs ?? []).map((p) => seriesClass(p.series) ?? "zones"));
    return wanted.size === 0 || !asked ? NO_CLASSES : [...wanted, ...[...COMPARED, ...more].filter((c) => !wanted.has(c))].sort();
  }, [pairs, asked, more]);
  const text = classes.join(" ");
  const same = useMemo(() => (text === "" ? NO_CLASSES : (text.split(" ") as SeriesClass[])), [text]);
  const found = useYearSeries(project, same);
  const at = usePointYears(project, logged);
  const { year } = found;
  const compared = useMemo((): Compared | null => {
    if (!year || !at) return null;
    const hourOf = hoursOfRun(year.hours, year.firstDay, year.leapDays, at.points.days);
    const reads = new Map((pairs ?? []).map((p) => [p.id, readPair(project, p, at.points, year, hourOf)]));
    return { reads, hourOf, table: year, weather: at.weather, points: at.points, year };
  }, [year, at, pairs, project]);
  // while further series are found the last ones stay in view
  const [last, setLast] = useState<Compared | null>(null);
  if (compared && compared !== last) setLast(compared);
  return { compared: compared ?? (asked ? last : null), found };
}
