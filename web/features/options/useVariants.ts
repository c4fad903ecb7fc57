"use client";
import { useEffect, useMemo, useState } from "react";
import { checkProject, physicsHash, priced, viewOf, type FuelHours, type Project, type RunResult, type Summary } from "@arroyo/core";
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
const known = new Map<string, Pick<RunResult, "summary" | "fuel">>();

/** A summary under the prices of a document; made once for each. */
const seen = new WeakMap<FuelHours, { prices: Project["prices"]; factors: Project["factors"]; summary: Summary }>();
function under(found: Pick<RunResult, "summary" | "fuel">, project: Project): Summary {
  const { prices, factors } = project;
  const before = seen.get(found.fuel);
  if (before?.prices === prices && before.factors === factors) return before.summary;
  const summary = priced(found.summary, found.fuel, project);
  seen.set(found.fuel, { prices, factors, summary });
  return summary;
}

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
      known.set(next.key, { summary: e.data.result.summary, fuel: e.data.result.fuel });
      setDone((n) => n + 1);
    };
    const open = async (): Promise<void> => {
      const { fetchStored } = await import("../store.ts");
      worker.postMessage({ kind: "open", project: next.project, stored: await fetchStored(next.project), version: 0 } satisfies ToLive);
    };
    void open();
    return () => worker.terminate();
    // one worker a content, whatever object carries it
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [next?.key]);
  const summaryOf = (key: string): Summary | null => {
    const found = known.get(key);
    const of = asked.find((v) => v.key === key);
    return found && of ? under(found, of.project) : (found?.summary ?? null);
  };
  return { summaryOf, busy: missing.length };
}

/** Years of the base and of every option. @see useYears */
export function useVariants(document: Project): { variants: readonly Variant[]; summaryOf(v: Variant): Summary | null; busy: number } {
  const variants = useMemo(() => variantsOf(document), [document]);
  const { summaryOf, busy } = useYears(variants);
  return { variants, summaryOf: (v) => summaryOf(v.key), busy };
}
