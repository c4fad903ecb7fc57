"use client";
import { create } from "zustand";
import type { SeriesRef } from "@arroyo/core";

/** A line of a plot. */
export interface PlotLine {
  readonly ref: SeriesRef;
  readonly axis: 0 | 1;
  readonly hidden: boolean;
  readonly colour: number;
}
export type PlotForm = "over time" | "duration" | "scatter";
export const plotForms: readonly PlotForm[] = ["over time", "duration", "scatter"];
/** Typed limits of an axis; null: it fits what is in view. */
export type Limits = readonly [least: number, most: number] | null;
export interface Plot {
  readonly id: number;
  readonly form: PlotForm;
  readonly lines: readonly PlotLine[];
  readonly limits: readonly [Limits, Limits];
}
export const stretches = { day: 24, week: 168, month: 0, year: 0 } as const;
export type Stretch = keyof typeof stretches;

/** What the series desk shows: plots over one stretch of hours of the run. */
export interface SeriesView {
  readonly plots: readonly Plot[];
  /** First hour in view and the hour after the last. */
  readonly from: number;
  readonly to: number;
  readonly stretch: Stretch | null;
}
/** At most this many. */
export const MOST_PLOTS = 6;
export const MOST_LINES = 12;

interface State {
  readonly views: Readonly<Record<string, SeriesView>>;
  set(project: string, view: SeriesView): void;
}
const KEY = "arroyo-series";
function kept(): Readonly<Record<string, SeriesView>> {
  try {
    const text = typeof localStorage === "undefined" ? null : localStorage.getItem(KEY);
    const read: unknown = text === null ? {} : JSON.parse(text);
    return typeof read === "object" && read !== null ? (read as Record<string, SeriesView>) : {};
  } catch {
    return {};
  }
}
/** What was last looked at of each project, in this browser. */
export const useSeriesViews = create<State>()((set, get) => ({
  views: kept(),
  set: (project, view) => {
    const views = { ...get().views, [project]: view };
    set({ views });
    try {
      localStorage.setItem(KEY, JSON.stringify(views));
    } catch {
      // the view still stands; it is only not there after a reload
    }
  },
}));

/** What is shown before anything was chosen: the largest zone's temperatures with the outdoors, its heating and cooling, over a week. */
export function firstView(largest: string): SeriesView {
  const zone = (quantity: string, colour: number): PlotLine => ({ ref: { of: "zone", id: largest, quantity }, axis: 0, hidden: false, colour });
  return {
    plots: [
      {
        id: 1,
        form: "over time",
        lines: [
          zone("airTemperature", 0),
          zone("radiantTemperature", 1),
          { ref: { of: "outdoors", id: "outdoors", quantity: "dryBulb" }, axis: 0, hidden: false, colour: 2 },
        ],
        limits: [null, null],
      },
      { id: 2, form: "over time", lines: [zone("heating", 1), zone("cooling", 0)], limits: [null, null] },
    ],
    from: 168,
    to: 336,
    stretch: "week",
  };
}

const same = (a: SeriesRef, b: SeriesRef): boolean => a.of === b.of && a.id === b.id && a.quantity === b.quantity;

/** A plot with one line more: on the axis that has its unit, on the free one, or null where both have another. */
export function withLine(plot: Plot, ref: SeriesRef, unitOf: (ref: SeriesRef) => string): Plot | null {
  if (plot.lines.some((l) => same(l.ref, ref))) return plot;
  if (plot.lines.length >= MOST_LINES) return null;
  const unit = unitOf(ref);
  const on = (axis: 0 | 1): string | null => {
    const line = plot.lines.find((l) => l.axis === axis);
    return line ? unitOf(line.ref) : null;
  };
  const axis = ([0, 1] as const).find((a) => on(a) === unit) ?? ([0, 1] as const).find((a) => on(a) === null);
  if (axis === undefined) return null;
  const taken = new Set(plot.lines.map((l) => l.colour));
  let colour = 0;
  while (taken.has(colour)) colour++;
  return { ...plot, lines: [...plot.lines, { ref, axis, hidden: false, colour }] };
}
