import { freeId, setChange, yearInView, type Change, type NamedYear, type Project } from "@arroyo/core";
import { useStore } from "../store.ts";

/** A name no year of the project has yet. */
export function freeYearName(project: Project, base: string): string {
  const names = new Set(Object.values(project.weathers).map((y) => y.name));
  const short = base.slice(0, 190);
  if (!names.has(short)) return short;
  for (let n = 2; ; n++) if (!names.has(`${short} ${n}`)) return `${short} ${n}`;
}

/** Adds a year and brings it into view, in one step; answers what refuses it. @param more changes that go along */
export function addYear(year: NamedYear, more: readonly Change[] = []): string | null {
  const { document, edit } = useStore.getState();
  if (!document) return null;
  const id = freeId(document.weathers, year.name);
  const name = freeYearName(document, year.name);
  const refused = edit(`Weather year ${name}`, [
    { op: "insert", path: ["weathers", id], value: { ...year, name } },
    setChange(document, ["weather"], id),
    ...more,
  ]);
  return refused[0]?.message ?? null;
}

/** The year a future year may be made of: the one in view, or the one that is made of. */
export const presentYear = (project: Project): string => {
  const view = yearInView(project);
  return view.kind === "morphed" ? view.of : project.weather;
};

/** Kind of a year in words. */
export const kindWords: Readonly<Record<NamedYear["kind"], string>> = {
  normals: "made from twelve monthly normals, the same every time",
  stored: "read from a file",
  morphed: "made of another year by monthly changes",
};

/** What the Place desk shows, by the word in its address. */
export const placeViews = {
  weather: "Weather of the year in view",
  file: "Read a weather file",
  years: "All years side by side",
  design: "Design days",
  prices: "Prices and factors",
  surroundings: "Surroundings",
  calendar: "Calendar",
  run: "Calculation",
} as const;
export type PlaceView = keyof typeof placeViews;
