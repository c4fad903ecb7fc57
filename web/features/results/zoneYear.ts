"use client";
import { useMemo } from "react";
import { canonicalJson, dateInRun, hashText, physicsOf, sizesOfSummary, type Project } from "@arroyo/core";
import type { ToZoneYear, ZoneYear } from "../../live/zoneYear.ts";
import { useFound, type Found } from "../../live/useFound.ts";
import { monthNames } from "../../ui/format.ts";
import { useStore } from "../store.ts";

/** Every quantity of every zone over the year as it is now, found once a content while a view asks for it. */
export function useZoneYear(project: Project): Found<ZoneYear> {
  const exact = useStore((s) => s.live.exact?.summary ?? null);
  const key = useMemo(() => hashText(canonicalJson(physicsOf(project))), [project]);
  return useFound<ZoneYear>(
    key,
    project,
    () => new Worker(new URL("../../live/zoneYear.ts", import.meta.url), { type: "module" }),
    (storedWeather): ToZoneYear => ({ project, storedWeather, sizes: exact ? sizesOfSummary(exact) : undefined }),
  );
}

/** Hours of the run that lie in a month, from and to (exclusive); null: none. @param month from 0 */
export function monthHours(year: Pick<ZoneYear, "firstDay" | "leapDays" | "hours">, month: number): { readonly from: number; readonly to: number } | null {
  const days = Math.ceil(year.hours / 24);
  let from = -1;
  let to = -1;
  for (let d = 0; d < days; d++) {
    if (dateInRun(year.firstDay, year.leapDays, d)[0] !== month + 1) {
      // of a run beyond a year the first such month
      if (from >= 0) break;
      continue;
    }
    if (from < 0) from = 24 * d;
    to = 24 * (d + 1);
  }
  return from < 0 ? null : { from, to: Math.min(to, year.hours) };
}

/** End of an hour of the run in words, "21 Jul 15:00". */
export function hourWords(year: Pick<ZoneYear, "firstDay" | "leapDays">, hour: number): string {
  const [month, day] = dateInRun(year.firstDay, year.leapDays, Math.floor(hour / 24));
  return `${day} ${monthNames[month - 1]} ${String((hour % 24) + 1).padStart(2, "0")}:00`;
}
