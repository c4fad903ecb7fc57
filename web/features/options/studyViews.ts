"use client";
import { create } from "zustand";
import type { Brushes } from "../../ui/currents/filters.ts";

/** What is looked at of a study, in this browser. */
export interface StudyLook {
  /** Axes in their order, by key; null: those shown first. */
  readonly order: readonly string[] | null;
  readonly brushes: Brushes;
  /** The chosen run, by its place among all. */
  readonly chosen: number | null;
  /** Runs kept beside the base, by their places. */
  readonly kept: readonly number[];
  /** Which of its years it is judged by; null: as the study says. */
  readonly judge: string | null;
}
/** Runs kept beside the base at most. */
export const MOST_KEPT = 12;
const NOTHING: StudyLook = { order: null, brushes: {}, chosen: null, kept: [], judge: null };

const useLooks = create<{ readonly looks: Readonly<Record<string, StudyLook>>; set(key: string, look: StudyLook): void }>()((set, get) => ({
  looks: {},
  set: (key, look) => set({ looks: { ...get().looks, [key]: look } }),
}));

/** What is looked at of a study, and a way to change it. */
export function useStudyLook(project: string, study: string): readonly [StudyLook, (change: Partial<StudyLook>) => void] {
  const key = `${project}/${study}`;
  const look = useLooks((s) => s.looks[key]) ?? NOTHING;
  return [look, (change) => useLooks.getState().set(key, { ...(useLooks.getState().looks[key] ?? NOTHING), ...change })];
}
