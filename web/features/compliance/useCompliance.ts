"use client";
import { useEffect, useState } from "react";
import { physicsHash, type Compliance, type Project, type ScopePart } from "@arroyo/core";
import type { FromCompliance, ToCompliance } from "../../live/compliance.ts";
import { fetchWeather } from "../store.ts";

/** The compliance result of a project, computed again after every edit; the last one stays until the new one is there. */
export function useCompliance(
  project: Project | null,
  pack: string,
  scope: readonly ScopePart[],
): { result: Compliance | null; current: boolean; message: string | null } {
  const [found, setFound] = useState<{ key: string; result: Compliance | null; message: string | null } | null>(null);
  const key = project ? `${physicsHash(project)} ${pack} ${scope.join(",")}` : "";
  useEffect(() => {
    if (!project) return;
    const worker = new Worker(new URL("../../live/compliance.ts", import.meta.url), { type: "module" });
    worker.onmessage = (e: MessageEvent<FromCompliance>) =>
      setFound((before) => (e.data.ok ? { key, result: e.data.result, message: null } : { key, result: before?.result ?? null, message: e.data.message }));
    void fetchWeather(project).then((storedWeather) => worker.postMessage({ project, storedWeather, pack, scope } satisfies ToCompliance));
    return () => worker.terminate();
    // one result a content, whatever object carries it
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return { result: found?.result ?? null, current: found?.key === key, message: found?.key === key ? found.message : null };
}

/** Parts submitted, from an address; all of them where it says nothing. */
export function scopeFrom(text: string | null, all: readonly ScopePart[]): readonly ScopePart[] {
  return text === null ? all : all.filter((p) => text.split(",").includes(p));
}
