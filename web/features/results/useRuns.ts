"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Project, Summary } from "@arroyo/core";
import { ask } from "../../live/server.ts";
import { useStore } from "../store.ts";

/** A stored run as lists show it. */
export interface Run {
  readonly hash: string;
  readonly status: "queued" | "running" | "done" | "failed" | "cancelled";
  readonly progress: number;
  /** Revision of the project it is of. */
  readonly revision: number;
  readonly createdAt: string;
  readonly stepsPerHour: number;
  readonly attempts: number;
  readonly error: string | null;
  /** kWh/m²a; null: not done, or the period is not a year. */
  readonly intensity: number | null;
}

const EVERY = 400;

/** Runs with those that changed in the place of their former selves, newest first. */
export function merged(runs: readonly Run[], changed: readonly Run[]): readonly Run[] {
  if (changed.length === 0) return runs;
  const of = new Map([...runs, ...changed].map((r) => [r.hash, r]));
  return [...of.values()].sort((a, b) => (a.createdAt < b.createdAt ? 1 : a.createdAt > b.createdAt ? -1 : 0));
}

/** Stored runs of the project, followed while one is under way: the list is read once, then what changed. */
export function useRuns(projectId: string): { runs: readonly Run[]; refusal: string | null; start(): Promise<void>; cancel(hash: string): Promise<void> } {
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
  const busy = runs.some((r) => r.status === "queued" || r.status === "running");
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
    async start() {
      setRefusal(null);
      const { flush } = useStore.getState();
      await flush();
      const { saved, revision } = useStore.getState();
      if (saved.state !== "saved") return setRefusal("The last edits are not saved yet, so the run would be of an older state. Nothing was started.");
      const answer = await ask(`/api/projects/${encodeURIComponent(projectId)}/runs?revision=${revision}`, { method: "POST" });
      if (!answer.ok) setRefusal([answer.message, ...answer.problems.map((p) => p.message)].join(" "));
      await load();
    },
    async cancel(hash) {
      const answer = await ask(`/api/runs/${hash}/cancel`, { method: "POST" });
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

/** Hourly values of one series: from the live year, or fetched from a stored run. */
export function useSeries(run: string | null, scope: string, quantity: string): { unit: string; values: ArrayLike<number> } | null {
  const exact = useStore((s) => s.live.exact);
  const [stored, setStored] = useState<{ key: string; unit: string; values: number[] } | null>(null);
  const key = `${run} ${scope} ${quantity}`;
  useEffect(() => {
    if (run === null) return;
    let current = true;
    void ask<{ unit: string; values: number[] }>(`/api/runs/${run}/series?scope=${encodeURIComponent(scope)}&quantity=${encodeURIComponent(quantity)}`).then(
      (a) => {
        if (a.ok && current) setStored({ key, unit: a.body.unit, values: a.body.values });
      },
    );
    return () => {
      current = false;
    };
  }, [run, scope, quantity, key]);
  if (run !== null) return stored?.key === key ? stored : null;
  const found = exact?.series.find((s) => s.scope === scope && s.quantity === quantity);
  return found ? { unit: found.unit, values: found.values } : null;
}
