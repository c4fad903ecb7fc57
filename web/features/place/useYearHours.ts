"use client";
import { useEffect, useState } from "react";
import { canonicalJson, hashText, yearParts, type Project, type WeatherYear } from "@arroyo/core";
import type { Reply } from "../../live/useFound.ts";
import type { ToYearHours } from "../../live/yearHours.ts";
import { fetchStored, useStore } from "../store.ts";

/** Hours of a year of the project that need not be the one in view, made in a worker; null until they are there. */
export function useYearHours(year: string | null): WeatherYear | null {
  const project = useStore((s) => s.project) as Project;
  const [found, setFound] = useState<{ key: string; weather: WeatherYear } | null>(null);
  const key = year === null ? "" : hashText(canonicalJson([project.site, yearParts(project, year)]));
  useEffect(() => {
    if (year === null) return;
    const worker = new Worker(new URL("../../live/yearHours.ts", import.meta.url), { type: "module" });
    worker.onmessage = (e: MessageEvent<Reply<WeatherYear>>) => e.data.ok && setFound({ key, weather: e.data.result });
    void fetchStored(project, year).then((stored) => worker.postMessage({ project, year, stored } satisfies ToYearHours));
    return () => worker.terminate();
    // one answer a content, whatever objects carry it
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return found?.key === key ? found.weather : null;
}
