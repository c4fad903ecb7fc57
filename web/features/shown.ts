import { readFileSync } from "node:fs";
import { NO_FUEL, parseProject, type Project, type Summary } from "@arroyo/core";
import { useStore } from "./store.ts";

/** For tests of screens: a store that holds what is to be shown. A rendering without a page takes the store's first state. */
type State = ReturnType<typeof useStore.getState>;
const initial = { ...useStore.getInitialState() };

/** A demo project as it ships. */
export function demo(name: "clinic" | "library" | "hall"): Project {
  const parsed = parseProject(JSON.parse(readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), "utf8")));
  if (!parsed.ok) throw new Error(`${name} does not open`);
  return parsed.project;
}
/** Puts a project into the store, and what else is given; all else is as at the start. */
export const show = (project: Project, also: Partial<State> = {}): void =>
  void Object.assign(useStore.getInitialState(), initial, { project, document: project }, also);
export const live = (part: Partial<State["live"]>): Partial<State> => ({ live: { ...initial.live, ...part } });
/** The exact year of a project, done. */
export const done = (summary: Summary): Partial<State> => live({ version: 3, exactVersion: 3, exact: { summary, series: [], fuel: NO_FUEL }, seconds: 1.25 });
