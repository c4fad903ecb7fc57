"use client";
import { useMemo } from "react";
import {
  canonicalJson,
  componentQuantities,
  dateInRun,
  hashText,
  physicsOf,
  sizesOfSummary,
  type ComponentHour,
  type Project,
  type RunMoment,
} from "@arroyo/core";
import type { ComponentYear, ToComponentYear } from "../../live/componentYear.ts";
import { useFound, type Found } from "../../live/useFound.ts";
import { useStore } from "../store.ts";

const NAMES = componentQuantities.map((q) => q.name);
const at = (name: (typeof NAMES)[number]): number => NAMES.indexOf(name);

/** Hourly states of all components over the year, found only while they are asked for. */
export function useComponentYear(project: Project, asked: boolean): Found<ComponentYear> {
  const exact = useStore((s) => s.live.exact?.summary ?? null);
  const key = useMemo(() => (asked ? hashText(canonicalJson(physicsOf(project))) : ""), [project, asked]);
  return useFound<ComponentYear>(
    key,
    asked ? project : null,
    () => new Worker(new URL("../../live/componentYear.ts", import.meta.url), { type: "module" }),
    (storedWeather): ToComponentYear => ({ project, storedWeather, sizes: exact ? sizesOfSummary(exact) : undefined }),
  );
}

type Stamped = ComponentHour & { readonly at: string };

/** State of a component in an hour of the run. @param hour from 0 */
export function hourState(year: ComponentYear, path: string, hour: number): Stamped | null {
  const rows = Object.hasOwn(year.components, path) ? year.components[path] : undefined;
  if (!rows) return null;
  const read = (name: (typeof NAMES)[number]): number => rows[at(name)]?.[hour] ?? 0;
  return {
    at: stampOf(year, hour),
    heat: read("componentHeat"),
    latent: read("componentLatent"),
    flow: read("componentFlow"),
    entering: read("componentIn"),
    leaving: read("componentOut"),
    enteringRatio: read("componentInRatio"),
    leavingRatio: read("componentOutRatio"),
  };
}

/** What the run tells of one of its hours. */
export const momentAt = (year: ComponentYear, hour: number): RunMoment => ({
  state: (path) => hourState(year, path, hour),
  room: (zone) => (Object.hasOwn(year.rooms, zone) ? (year.rooms[zone][hour] ?? null) : null),
  outdoor: { t: year.outdoor[hour] ?? 0, w: year.outdoorRatio[hour] ?? 0 },
});

const two = (n: number): string => String(n).padStart(2, "0");
/** End of an hour of the run, "07-21 15:00". */
export function stampOf(year: Pick<ComponentYear, "firstDay" | "leapDays">, hour: number): string {
  const [month, day] = dateInRun(year.firstDay, year.leapDays, Math.floor(hour / 24));
  return `${two(month)}-${two(day)} ${two((hour % 24) + 1)}:00`;
}
