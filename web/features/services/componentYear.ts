"use client";
import { componentQuantities, type ComponentHour, type RunMoment } from "@arroyo/core";
import type { YearSeries } from "../../live/yearSeries.ts";
import { stampOf } from "../yearSeries.ts";

type Name = (typeof componentQuantities)[number]["name"];

type Stamped = ComponentHour & { readonly at: string };

const read = (year: YearSeries, quantity: string, of: string, hour: number): number | null => {
  const rows = year.series[quantity] as YearSeries["series"][string] | undefined;
  return rows && Object.hasOwn(rows, of) ? (rows[of][hour] ?? null) : null;
};

/** State of a component in an hour of the run. @param hour from 0 */
export function hourState(year: YearSeries, path: string, hour: number): Stamped | null {
  const of = (name: Name): number => read(year, name, path, hour) ?? 0;
  if (read(year, "componentHeat", path, hour) === null) return null;
  return {
    at: stampOf(year, hour),
    heat: of("componentHeat"),
    latent: of("componentLatent"),
    flow: of("componentFlow"),
    entering: of("componentIn"),
    leaving: of("componentOut"),
    enteringRatio: of("componentInRatio"),
    leavingRatio: of("componentOutRatio"),
  };
}

/** What the run tells of one of its hours. */
export const momentAt = (year: YearSeries, hour: number): RunMoment => ({
  state: (path) => hourState(year, path, hour),
  room: (zone) => read(year, "airTemperature", zone, hour),
  outdoor: { t: read(year, "dryBulb", "outdoors", hour) ?? 0, w: read(year, "outdoorHumidityRatio", "outdoors", hour) ?? 0 },
});
