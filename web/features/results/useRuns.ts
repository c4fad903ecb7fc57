"use client";
import { useCallback, useEffect, useState } from "react";
import type { Problem, Summary } from "@arroyo/core";
import { useStore } from "../store.ts";

export interface Run {
  readonly hash: string;
  readonly status: "queued" | "running" | "done" | "failed" | "cancelled";
  readonly progress: number;
  readonly revision: number;
  readonly createdAt: string;
  readonly stepsPerHour: number;
  readonly attempts: number;
  readonly error: string | null;
  readonly summary: Summary | null;
}

/** Stored runs of the project, followed while one is under way. */
export function useRuns(projectId: string): { runs: readonly Run[]; refusal: string | null; start(): Promise<void>; cancel(hash: string): Promise<void> } {
  const [runs, setRuns] = useState<readonly Run[]>([]);
  const [refusal, setRefusal] = useState<string | null>(null);
  const load = useCallback(async () => {
    const response = await fetch(`/api/projects/${encodeURIComponent(projectId)}/runs`);
    if (response.ok) setRuns((await response.json()) as Run[]);
  }, [projectId]);
  const busy = runs.some((r) => r.status === "queued" || r.status === "running");
  useEffect(() => {
    // the list comes from the server once the page is there
    // eslint-disable-next-line react-hooks/set-state-in-effect
    void load();
    if (!busy) return;
    const timer = setInterval(() => void load(), 400);
    return () => clearInterval(timer);
  }, [load, busy]);
  return {
    runs,
    refusal,
    async start() {
      setRefusal(null);
      await useStore.getState().flush();
      const response = await fetch(`/api/projects/${encodeURIComponent(projectId)}/runs`, { method: "POST" });
      const body = (await response.json()) as { message?: string; problems?: Problem[] };
      if (!response.ok) setRefusal([body.message, ...(body.problems ?? []).map((p) => p.message)].join(" "));
      await load();
    },
    async cancel(hash) {
      await fetch(`/api/runs/${hash}/cancel`, { method: "POST" });
      await load();
    },
  };
}

/** Hourly values of one series: from the live year, or fetched from a stored run. */
export function useSeries(run: string | null, scope: string, quantity: string): { unit: string; values: ArrayLike<number> } | null {
  const exact = useStore((s) => s.live.exact);
  const [stored, setStored] = useState<{ key: string; unit: string; values: number[] } | null>(null);
  const key = `${run} ${scope} ${quantity}`;
  useEffect(() => {
    if (run === null) return;
    let current = true;
    void fetch(`/api/runs/${run}/series?scope=${encodeURIComponent(scope)}&quantity=${encodeURIComponent(quantity)}`).then(async (r) => {
      if (!r.ok || !current) return;
      const body = (await r.json()) as { unit: string; values: number[] };
      if (current) setStored({ key, ...body });
    });
    return () => {
      current = false;
    };
  }, [run, scope, quantity, key]);
  if (run !== null) return stored?.key === key ? stored : null;
  const found = exact?.series.find((s) => s.scope === scope && s.quantity === quantity);
  return found ? { unit: found.unit, values: found.values } : null;
}
