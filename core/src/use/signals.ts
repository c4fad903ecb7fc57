import { resetAt, signalRef, type InputValue, type Project } from "../model/index.ts";
import { expandSchedule } from "./schedules.ts";

/** What a signal field asks for over a year. */
export interface SignalSpan {
  readonly least: number;
  readonly most: number;
  /** Mean over the hours of a common year; of a reset, midway between its ends. */
  readonly mean: number;
}

const spans = new WeakMap<object, SignalSpan>();

/** Least, most and mean of a signal, in the unit of its field; null where the field is null or names nothing. */
export function signalSpan(project: Project, value: InputValue): SignalSpan | null {
  if (value === null) return null;
  if (typeof value === "number") return { least: value, most: value, mean: value };
  const { part, id } = signalRef(value);
  if (!Object.hasOwn(project[part], id)) return null;
  const record = project[part][id];
  const known = spans.get(record);
  if (known) return known;
  let span: SignalSpan;
  if ("cold" in record) {
    const ends = [record.cold.value, record.warm.value];
    span = { least: Math.min(...ends), most: Math.max(...ends), mean: (ends[0] + ends[1]) / 2 };
  } else {
    const used = record.weeks.flatMap((w) => w.days).flatMap((d) => record.profiles[d].values);
    const year = expandSchedule(record, { ...project.calendar, holidays: [], daylightSaving: null });
    span = { least: Math.min(...used), most: Math.max(...used), mean: year.reduce((a, b) => a + b, 0) / year.length };
  }
  spans.set(record, span);
  return span;
}

/** A moment at which one signal lies below another. */
export interface Crossing {
  /** Hour of the common year; null where only the weather decides. */
  readonly hour: number | null;
  readonly outdoor: number | null;
  readonly upper: number;
  readonly lower: number;
}

/**
 * The moment at which what should lie higher lies lowest against what should lie lower, where it lies below it at all.
 * Resets are linear between their points, so the difference is least at one of these.
 */
export function signalsCross(project: Project, upper: InputValue, lower: InputValue): Crossing | null {
  const sides = [upper, lower].map((v) => {
    if (v === null) return null;
    if (typeof v === "number") return { at: () => v, hourly: false, points: [] as number[] };
    const { part, id } = signalRef(v);
    if (!Object.hasOwn(project[part], id)) return null;
    const record = project[part][id];
    if ("cold" in record)
      return { at: (_: number, outdoor: number) => resetAt(record, outdoor), hourly: false, points: [record.cold.outdoor, record.warm.outdoor] };
    const year = expandSchedule(record, project.calendar);
    return { at: (h: number) => year[h], hourly: true, points: [] as number[] };
  });
  const [high, low] = sides;
  if (!high || !low) return null;
  const points = [...high.points, ...low.points];
  const hours = high.hourly || low.hourly ? 8760 : 1;
  let worst: Crossing | null = null;
  for (let h = 0; h < hours; h++)
    for (const outdoor of points.length > 0 ? points : [0]) {
      const found = { upper: high.at(h, outdoor), lower: low.at(h, outdoor) };
      if (found.upper < found.lower && (!worst || found.upper - found.lower < worst.upper - worst.lower))
        worst = { hour: hours > 1 ? h : null, outdoor: points.length > 0 ? outdoor : null, ...found };
    }
  return worst;
}
