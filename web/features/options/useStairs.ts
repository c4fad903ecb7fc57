"use client";
import { useEffect, useMemo, useState } from "react";
import { checkProject, physicsHash, priced, staircase, type Measure, type Project, type RunResult, type StairModel, type Summary } from "@arroyo/core";
import type { FromVariants, ToVariants } from "../../live/variants.ts";
import { fetchStored } from "../store.ts";

type Year = Pick<RunResult, "summary" | "fuel">;
/** Years by the content they belong to, and by the base whose sizes they have, for the life of the page. */
const known = new Map<string, Year | { readonly message: string }>();

export interface Stairs {
  readonly stairs: ReturnType<typeof staircase>["stairs"];
  /** Figures of every model; null: not yet, or none. */
  readonly figures: readonly (Summary | null)[];
  readonly messages: readonly (string | null)[];
  readonly busy: number;
}

/** Every model the staircase needs, each year made once. */
export function useStairs(document: Project, measures: readonly Measure[]): Stairs {
  const base = useMemo((): Project => ({ ...document, options: {} }), [document]);
  const { models, stairs } = useMemo(() => staircase(base, measures), [base, measures]);
  const [, setDone] = useState(0);
  const keys = useMemo(() => {
    const first = physicsHash(base);
    return models.map((m: StairModel) => (m.project ? `${first} ${physicsHash(m.project)}` : null));
  }, [base, models]);
  const blocked = useMemo(
    () =>
      models.map((m) => {
        if (!m.project) return m.message;
        return checkProject(m.project).problems.find((p) => p.severity === "error")?.message ?? null;
      }),
    [models],
  );
  const wanted = models.flatMap((m, i) => {
    const key = keys[i];
    return m.project && key !== null && blocked[i] === null && !known.has(key) ? [{ key, project: m.project }] : [];
  });
  const missing = wanted.map((w) => w.key).join("\n");
  useEffect(() => {
    if (missing === "") return;
    const worker = new Worker(new URL("../../live/variants.ts", import.meta.url), { type: "module" });
    worker.onmessage = (e: MessageEvent<FromVariants>) => {
      known.set(e.data.key, e.data.kind === "done" ? e.data.result : { message: e.data.message });
      setDone((n) => n + 1);
    };
    const open = async (): Promise<void> => {
      worker.postMessage({ base, models: wanted, stored: await fetchStored(base) } satisfies ToVariants);
    };
    void open();
    return () => worker.terminate();
    // one worker a set of models, whatever objects carry them
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [keys.join("\n")]);
  const found = keys.map((k) => (k === null ? undefined : known.get(k)));
  return {
    stairs,
    figures: found.map((f) => (f && "summary" in f ? priced(f.summary, f.fuel, document) : null)),
    messages: found.map((f, i) => blocked[i] ?? (f && "message" in f ? f.message : null)),
    busy: wanted.length,
  };
}
