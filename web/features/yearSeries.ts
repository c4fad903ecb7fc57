"use client";
import { useEffect, useMemo } from "react";
import { create } from "zustand";
import { canonicalJson, dateInRun, dayOfYear, hashText, physicsOf, sizesOfSummary, type Project, type Sizes } from "@arroyo/core";
import type { SeriesClass } from "../live/seriesClasses.ts";
import type { FromYearSeries, ToYearSeries, YearSeries } from "../live/yearSeries.ts";
import { monthNames } from "../ui/format.ts";
import { fetchStored, useStore } from "./store.ts";

interface Kept {
  /** Content the year is of; "": none yet. */
  readonly key: string;
  readonly classes: ReadonlySet<SeriesClass>;
  readonly year: YearSeries | null;
  /** What is being found. */
  readonly busy: { readonly key: string; readonly classes: readonly SeriesClass[]; readonly share: number } | null;
  readonly message: string | null;
}
const EMPTY: Kept = { key: "", classes: new Set(), year: null, busy: null, message: null };
const useKept = create<Kept>()(() => EMPTY);
let worker: Worker | null = null;

const merged = (a: YearSeries | null, b: YearSeries): YearSeries => (a ? { ...b, series: { ...a.series, ...b.series } } : b);

/** Finds classes of series of a content once, in a worker; what was found of it before stays. */
async function find(
  key: string,
  project: Project,
  classes: readonly SeriesClass[],
  message: Omit<ToYearSeries, "stored" | "project" | "classes">,
): Promise<void> {
  worker?.terminate();
  const mine = new Worker(new URL("../live/yearSeries.ts", import.meta.url), { type: "module" });
  worker = mine;
  useKept.setState({ busy: { key, classes, share: 0 }, message: null });
  mine.onmessage = (e: MessageEvent<FromYearSeries>) => {
    if (worker !== mine) return;
    const answer = e.data;
    if (answer.kind === "progress") return useKept.setState({ busy: { key, classes, share: answer.share } });
    mine.terminate();
    worker = null;
    if (answer.kind === "failed") return useKept.setState({ busy: null, message: answer.message });
    const before = useKept.getState();
    const same = before.key === key;
    useKept.setState({
      key,
      classes: new Set([...(same ? before.classes : []), ...classes]),
      year: merged(same ? before.year : null, answer.year),
      busy: null,
      message: null,
    });
  };
  const stored = await fetchStored(project);
  if (worker === mine) mine.postMessage({ project, stored: stored, classes, ...message } satisfies ToYearSeries);
}

/** Sizes of the exact year, where it is that of the model as it is now. */
export function currentSizes(): Sizes | undefined {
  const { exact, exactVersion, version } = useStore.getState().live;
  return exact && exactVersion === version ? sizesOfSummary(exact.summary) : undefined;
}

export interface FoundYear {
  /** Older than the model while `current` is false; null: not found yet. */
  readonly year: YearSeries | null;
  readonly current: boolean;
  /** Share of the run that is done; null: none goes on. */
  readonly share: number | null;
  readonly message: string | null;
}

/**
 * Hourly series of the year as it is now, of the classes asked for, found in a worker once a content and kept until the model is
 * another. Nothing is run while no class is asked for.
 */
export function useYearSeries(project: Project, asked: readonly SeriesClass[]): FoundYear {
  const kept = useKept();
  const key = useMemo(() => (asked.length > 0 ? hashText(canonicalJson(physicsOf(project))) : ""), [project, asked.length]);
  const wanted = asked.join(" ");
  const blocked = useStore((s) => s.live.message !== null);
  useEffect(() => {
    if (key === "" || blocked) return;
    const { key: had, classes, busy } = useKept.getState();
    const list = wanted.split(" ") as SeriesClass[];
    const missing = list.filter((c) => had !== key || !classes.has(c));
    const missed = missing.filter((c) => busy?.key !== key || !busy.classes.includes(c));
    if (missed.length === 0) return;
    // what is under way for the same content is found with the rest
    const all = busy?.key === key ? [...new Set([...busy.classes, ...missing])] : missing;
    void find(key, project, all, { sizes: currentSizes() });
    // one answer a content, whatever objects carry it
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, wanted, blocked]);
  const has = kept.year !== null && asked.every((c) => kept.classes.has(c));
  return {
    year: has ? kept.year : null,
    current: has && kept.key === key,
    share: kept.busy?.key === key ? kept.busy.share : null,
    message: kept.message,
  };
}

export type RunDays = Pick<YearSeries, "firstDay" | "leapDays">;
type RunHours = Pick<YearSeries, "firstDay" | "leapDays" | "hours">;

/** Hours of the run that lie in a month, from and to (exclusive); null: none. @param month from 0 */
export function monthHours(year: RunHours, month: number): { readonly from: number; readonly to: number } | null {
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

const two = (n: number): string => String(n).padStart(2, "0");
/** End of an hour of the run, "07-21 15:00". */
export function stampOf(year: RunDays, hour: number): string {
  const [month, day] = dateInRun(year.firstDay, year.leapDays, Math.floor(hour / 24));
  return `${two(month)}-${two(day)} ${two((hour % 24) + 1)}:00`;
}
/** End of an hour of the run in words, "21 Jul 15:00". */
export function hourWords(year: RunDays, hour: number): string {
  const [month, day] = dateInRun(year.firstDay, year.leapDays, Math.floor(hour / 24));
  return `${day} ${monthNames[month - 1]} ${two((hour % 24) + 1)}:00`;
}
/** Hour of the run that ends at "07-21 15:00"; null: the run has none. */
export function hourOfStamp(year: RunHours, stamp: string | null): number | null {
  const m = stamp === null ? null : /^(\d\d)-(\d\d) (\d\d):(\d\d)$/.exec(stamp);
  if (!m) return null;
  const [month, day, h, minute] = m.slice(1).map(Number);
  const guess = dayOfYear(month, day) - year.firstDay;
  for (const d of [guess, guess + 1, guess - 1, guess + 365]) {
    if (d < 0 || 24 * d >= year.hours) continue;
    const [is, on] = dateInRun(year.firstDay, year.leapDays, d);
    if (is === month && on === day) return 24 * d + h - 1 + (minute > 0 ? 1 : 0);
  }
  return null;
}
