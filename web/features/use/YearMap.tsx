"use client";
import { useMemo } from "react";
import { COMMON_YEAR, expandSchedule, type Project, type Schedule } from "@arroyo/core";
import { figure } from "../../ui/format.ts";
import { HourMap } from "../../ui/HourMap.tsx";
import { useUnits } from "../../ui/units.ts";
import { spanOf } from "./scheduleParts.ts";

/** Every hour of a schedule's year, in clock time. */
export function YearMap({ project, schedule }: { project: Project; schedule: Schedule }) {
  const units = useUnits();
  const values = useMemo(() => expandSchedule(schedule, { ...project.calendar, daylightSaving: null }, 1, COMMON_YEAR), [schedule, project.calendar]);
  const span = useMemo(() => spanOf(schedule), [schedule]);
  return (
    <HourMap
      title="The year"
      label={`The year of ${schedule.name}, hour by hour`}
      values={values}
      span={span}
      scale={
        schedule.kind === "fraction" ? "share from 0 to 1, clock time" : `${units.words(span[0], "°C", 0)} to ${units.words(span[1], "°C", 0)}, clock time`
      }
      words={(h) => (schedule.kind === "fraction" ? figure(values[h], 2) : units.words(values[h], "°C", 1))}
    />
  );
}
