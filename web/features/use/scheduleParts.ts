import { COMMON_YEAR, expandSchedule, type Project, type Schedule } from "@arroyo/core";

export const dayNames = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday", "Holidays"] as const;

/** Values of the ordinary week: Monday to Sunday of the last rule that spans most of the year. */
export const weekValues = (s: Schedule): number[] =>
  widest(s)
    .days.slice(0, 7)
    .flatMap((d) => s.profiles[d].values);

/** The rule of the longest stretch. */
export function widest(s: Schedule): Schedule["weeks"][number] {
  const length = (w: Schedule["weeks"][number]): number => (w.to[0] - w.from[0]) * 31 + w.to[1] - w.from[1] + (w.to[0] < w.from[0] ? 372 : 0);
  return s.weeks.reduce((a, b) => (length(b) > length(a) ? b : a));
}

/** Lowest and highest of what a schedule is drawn between. */
export function spanOf(s: Schedule): readonly [number, number] {
  if (s.kind === "fraction") return [0, 1];
  const all = Object.values(s.profiles).flatMap((p) => p.values);
  const [low, high] = [Math.min(...all), Math.max(...all)];
  return [Math.floor(low - 2), Math.ceil(high + 2)];
}

/** Every hour of a common year, in clock time, one row a line. */
export function scheduleCsv(project: Project, s: Schedule): string[][] {
  const values = expandSchedule(s, { ...project.calendar, daylightSaving: null }, 1, COMMON_YEAR);
  const head = ["hour of the year (clock time)", s.kind === "fraction" ? "share" : "temperature (°C)"];
  return [head, ...Array.from(values, (v, i) => [String(i + 1), String(v)])];
}
