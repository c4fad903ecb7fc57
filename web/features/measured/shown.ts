import type { PairYear, Project } from "@arroyo/core";
import { seriesName } from "../results/seriesThings.ts";

/** Unit a pair is shown in, and what its values are times to be in it: kilowatts where the series is in watts. */
export const shownUnit = (unit: string): { readonly unit: string; readonly factor: number } =>
  unit === "W" ? { unit: "kW", factor: 0.001 } : { unit, factor: 1 };

/** "Roof sensor against Outdoor temperature". */
export const pairName = (project: Project, p: PairYear["pair"]): string =>
  `${project.points?.[p.point]?.name ?? p.point} against ${seriesName(project, p.series)}`;

/** Values in the unit shown. */
export const scaled = (values: ArrayLike<number>, factor: number): Float64Array =>
  factor === 1 ? Float64Array.from(values) : Float64Array.from(values, (v) => v * factor);
