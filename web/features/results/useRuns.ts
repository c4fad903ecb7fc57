"use client";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { NO_FUEL, seriesTable, weatherHash, zonesIn, type Project, type SeriesRef, type Summary } from "@arroyo/core";
import { ask } from "../../live/server.ts";
import type { SeriesClass } from "../../live/seriesClasses.ts";
import type { YearSeries } from "../../live/yearSeries.ts";
import { useStore } from "../store.ts";

/** A stored run as lists show it. */
export interface Run {
  readonly hash: string;
  readonly status: "queued" | "running" | "paused" | "done" | "failed" | "cancelled" | "stopped";
  readonly progress: number;
  /** Revision of the project it is of. */
  readonly revision: number;
  readonly createdAt: string;
  readonly stepsPerHour: number;
  readonly attempts: number;
  readonly error: string | null;
  /** kWh/m²a; null: not done, or the period is not a year. */
  readonly intensity: number | null;
  /** Classes of series it keeps besides the usual ones of zones. */
  readonly keeps: readonly SeriesClass[];
}
export type RunTurn = "cancel" | "pause" | "resume" | "stop";

const EVERY = 400;

/** Runs with those that changed in the place of their former selves, newest first. */
export function merged(runs: readonly Run[], changed: readonly Run[]): readonly Run[] {
  if (changed.length === 0) return runs;
  const of = new Map([...runs, ...changed].map((r) => [r.hash, r]));
  return [...of.values()].sort((a, b) => (a.createdAt < b.createdAt ? 1 : a.createdAt > b.createdAt ? -1 : 0));
}

/** Stored runs of the project, followed while one is under way: the list is read once, then what changed. */
export function useRuns(projectId: string): {
  runs: readonly Run[];
  refusal: string | null;
  /** @param keep classes of series it keeps besides the usual ones */
  start(keep?: readonly SeriesClass[]): Promise<void>;
  turn(hash: string, to: RunTurn): Promise<void>;
} {
  const [runs, setRuns] = useState<readonly Run[]>([]);
  const [refusal, setRefusal] = useState<string | null>(null);
  const seen = useRef<{ project: string; at: string } | null>(null);
  const load = useCallback(async () => {
    const since = seen.current?.project === projectId ? `?since=${encodeURIComponent(seen.current.at)}` : "";
    const answer = await ask<{ runs: Run[]; at: string }>(`/api/projects/${encodeURIComponent(projectId)}/runs${since}`);
    if (!answer.ok) return;
    seen.current = { project: projectId, at: answer.body.at };
    setRuns((before) => merged(since === "" ? [] : before, answer.body.runs));
  }, [projectId]);
  const busy = runs.some((r) => r.status === "queued" || r.status === "running" || r.status === "paused");
  useEffect(() => {
    // the list comes from the server once the page is there

    void load();
    if (!busy) return;
    const timer = setInterval(() => void load(), EVERY);
    return () => clearInterval(timer);
  }, [load, busy]);
  return {
    runs,
    refusal,
    async start(keep = []) {
      setRefusal(null);
      const { flush } = useStore.getState();
      await flush();
      const { saved, revision } = useStore.getState();
      if (saved.state !== "saved") return setRefusal("The last edits are not saved yet, so the run would be of an older state. Nothing was started.");
      const answer = await ask(`/api/projects/${encodeURIComponent(projectId)}/runs?revision=${revision}${keep.length > 0 ? `&keep=${keep.join(",")}` : ""}`, {
        method: "POST",
      });
      if (!answer.ok) setRefusal([answer.message, ...answer.problems.map((p) => p.message)].join(" "));
      await load();
    },
    async turn(hash, to) {
      const answer = await ask(`/api/runs/${hash}/${to}`, { method: "POST" });
      if (!answer.ok) setRefusal(answer.message);
      await load();
    },
  };
}

/** The summary of a stored run, read when it is wanted; null while it is on its way. */
export function useSummary(run: string | null, project: Project): { readonly summary: Summary | null; readonly message: string | null } {
  const [found, setFound] = useState<{ run: string; summary: Summary | null; message: string | null } | null>(null);
  const revision = useStore((s) => s.revision);
  useEffect(() => {
    if (run === null) return;
    let current = true;
    void ask<Summary>(`/api/runs/${run}?project=${encodeURIComponent(project.id)}`).then((a) => {
      if (current) setFound(a.ok ? { run, summary: a.body, message: null } : { run, summary: null, message: a.message });
    });
    return () => {
      current = false;
    };
    // under the prices of what is saved
  }, [run, project.id, revision]);
  return found?.run === run ? found : { summary: null, message: null };
}

/** Summaries of several stored runs, by hash, as they come. */
export function useSummaries(runs: readonly string[], project: Project): Readonly<Record<string, Summary>> {
  const [found, setFound] = useState<Readonly<Record<string, Summary>>>({});
  const revision = useStore((s) => s.revision);
  const wanted = runs.join(" ");
  useEffect(() => {
    let current = true;
    for (const run of wanted === "" ? [] : wanted.split(" "))
      void ask<Summary>(`/api/runs/${run}?project=${encodeURIComponent(project.id)}`).then((a) => {
        if (a.ok && current) setFound((before) => ({ ...before, [run]: a.body }));
      });
    return () => {
      current = false;
    };
    // under the prices of what is saved
  }, [wanted, project.id, revision]);
  return found;
}

/** Series of a stored run as they are asked for; what the run did not keep is told. */
export function useStoredSeries(
  run: string | null,
  /** Changes when the run has got further. */
  reached: number,
  period: Summary["period"],
  weatherName: string | null,
  refs: readonly SeriesRef[],
  project: Project,
): { readonly year: YearSeries | null; readonly message: string | null } {
  const weather = useStore((s) => s.live.weather?.hours ?? null);
  const [found, setFound] = useState<Readonly<Record<string, { readonly values: Float32Array } | { readonly message: string }>>>({});
  const wanted = [
    ...new Set(
      refs.flatMap((r) =>
        r.of === "group"
          ? zonesIn(project, r.id).map((z) => `${z}\n${r.quantity}`)
          : r.of === "outdoors" || r.of === "building"
            ? []
            : [`${r.id}\n${r.quantity}`],
      ),
    ),
  ].join("\t");
  useEffect(() => {
    if (run === null || wanted === "") return;
    let current = true;
    for (const name of wanted.split("\t")) {
      const key = `${run}\n${name}`;
      const [scope, quantity] = name.split("\n");
      void ask<{ values: number[] }>(`/api/runs/${run}/series?scope=${encodeURIComponent(scope)}&quantity=${encodeURIComponent(quantity)}`).then((a) => {
        if (!current) return;
        setFound((before) =>
          Object.hasOwn(before, key) ? before : { ...before, [key]: a.ok ? { values: Float32Array.from(a.body.values) } : { message: a.message } },
        );
      });
    }
    return () => {
      current = false;
    };
  }, [run, wanted, reached]);
  const year = useMemo((): YearSeries | null => {
    if (run === null) return null;
    const rows: Record<string, Record<string, Float32Array>> = {};
    for (const [key, f] of Object.entries(found)) {
      const [of, scope, quantity] = key.split("\n");
      if (of === run && "values" in f) (rows[quantity] ??= {})[scope] = f.values;
    }
    const hours = Math.round(24 * period.days);
    // the outdoors of the run, where its weather is the one in use now
    const outdoors =
      weather && (weatherName === null || weatherHash(weather) === weatherName)
        ? seriesTable(
            [{ scope: "", quantity: "", unit: "", kind: "mean", start: 24 * period.firstDay, step: 3600, values: new Float64Array(hours) }],
            weather,
            NO_FUEL,
          ).series
        : {};
    const narrow = Object.fromEntries(
      Object.entries(outdoors).map(([q, of]) => [q, Object.fromEntries(Object.entries(of).map(([id, v]) => [id, Float32Array.from(v)]))]),
    );
    return { firstDay: period.firstDay, leapDays: period.leapDays ?? [], hours, series: { ...narrow, ...rows } };
  }, [run, found, period, weatherName, weather]);
  const refused = Object.entries(found).flatMap(([key, f]) => (key.startsWith(`${run ?? ""}\n`) && "message" in f ? [f.message] : []));
  return { year, message: refused[0] ?? null };
}
