"use client";
import { useEffect, useState } from "react";
import type { Project, StoredYear } from "@arroyo/core";
import { fetchStored } from "../features/store.ts";

export interface Found<T> {
  /** The last result; older than the content while `current` is false. */
  readonly result: T | null;
  readonly current: boolean;
  readonly message: string | null;
}
export type Reply<T> = { readonly ok: true; readonly result: T } | { readonly ok: false; readonly message: string };

/**
 * What a worker finds for a project, asked again whenever `key` changes. The worker is sent the message made
 * from the project and its stored weather, answers once, and is ended.
 */
export function useFound<T>(key: string, project: Project | null, worker: () => Worker, message: (stored: StoredYear) => unknown): Found<T> {
  const [found, setFound] = useState<{ key: string; result: T | null; message: string | null } | null>(null);
  useEffect(() => {
    if (!project) return;
    const w = worker();
    w.onmessage = (e: MessageEvent<Reply<T>>) =>
      setFound((before) => (e.data.ok ? { key, result: e.data.result, message: null } : { key, result: before?.result ?? null, message: e.data.message }));
    void fetchStored(project).then((stored) => w.postMessage(message(stored)));
    return () => w.terminate();
    // one answer a content, whatever objects carry it
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return { result: found?.result ?? null, current: found?.key === key, message: found?.key === key ? found.message : null };
}
