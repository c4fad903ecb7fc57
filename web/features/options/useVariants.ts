"use client";
import { useEffect, useMemo, useState } from "react";
import { checkProject, physicsHash, viewOf, type Project, type Summary } from "@arroyo/core";
import type { FromLive, ToLive } from "../../live/messages.ts";

export interface Variant {
  /** Option id; null: the base. */
  readonly id: string | null;
  readonly name: string;
  readonly project: Project;
  readonly key: string;
  readonly stale: readonly { readonly message: string }[];
  readonly blocked: string | null;
}

/** Summaries by the content they belong to, for the life of the page. */
const known = new Map<string, Summary>();

/** The base and every option as a document. */
export function variantsOf(document: Project): Variant[] {
  return [null, ...Object.keys(document.options)].map((id) => {
    const { project, stale } = viewOf(document, id);
    const error = checkProject(project).problems.find((p) => p.severity === "error");
    return { id, name: id === null ? "Base" : document.options[id].name, project, key: physicsHash(project), stale, blocked: error?.message ?? null };
  });
}

/** 15-minute years of documents, computed one after the other in a worker of their own. */
export function useYears(asked: readonly { readonly project: Project; readonly key: string; readonly blocked: string | null }[]): {
  summaryOf(key: string): Summary | null;
  busy: number;
} {
  const [, setDone] = useState(0);
  const missing = asked.filter((v) => v.blocked === null && !known.has(v.key));
  const next = missing[0];
  useEffect(() => {
    if (!next) return;
    const worker = new Worker(new URL("../../live/worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = (e: MessageEvent<FromLive>) => {
      if (e.data.kind !== "result" || !e.data.exact) return;
      known.set(next.key, e.data.result.summary);
      setDone((n) => n + 1);
    };
    const open = async (): Promise<void> => {
      const { fetchWeather } = await import("../store.ts");
      worker.postMessage({ kind: "open", project: next.project, storedWeather: await fetchWeather(next.project), version: 0 } satisfies ToLive);
    };
    void open();
    return () => worker.terminate();
    // one worker a content, whatever object carries it
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [next?.key]);
  return { summaryOf: (key) => known.get(key) ?? null, busy: missing.length };
}

/** Years of the base and of every option. @see useYears */
export function useVariants(document: Project): { variants: readonly Variant[]; summaryOf(v: Variant): Summary | null; busy: number } {
  const variants = useMemo(() => variantsOf(document), [document]);
  const { summaryOf, busy } = useYears(variants);
  return { variants, summaryOf: (v) => summaryOf(v.key), busy };
}
