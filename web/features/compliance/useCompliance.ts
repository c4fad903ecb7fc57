"use client";
import { physicsHash, type Compliance, type Project, type ScopePart } from "@arroyo/core";
import type { ToCompliance } from "../../live/compliance.ts";
import { useFound, type Found } from "../../live/useFound.ts";

/** The compliance result of a project, computed again after every edit; the last one stays until the new one is there. */
export function useCompliance(project: Project | null, pack: string, scope: readonly ScopePart[]): Found<Compliance> {
  return useFound<Compliance>(
    project ? `${physicsHash(project)} ${pack} ${scope.join(",")}` : "",
    project,
    () => new Worker(new URL("../../live/compliance.ts", import.meta.url), { type: "module" }),
    (storedWeather): ToCompliance => ({ project: project as Project, storedWeather, pack, scope }),
  );
}

/** Parts submitted, from an address; all of them where it says nothing. */
export function scopeFrom(text: string | null, all: readonly ScopePart[]): readonly ScopePart[] {
  return text === null ? all : all.filter((p) => text.split(",").includes(p));
}
