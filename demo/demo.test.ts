import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import {
  checkProject,
  compile,
  countRuns,
  figuresKept,
  nextTasks,
  parseProject,
  projectWeather,
  runToEnd,
  sizeProject,
  sizesOf,
  StudyMaker,
  studyProblems,
  studySchema,
  studyTable,
  type Project,
  type Study,
  type StudyRow,
  type WeatherYear,
} from "../core/src/index.ts";
import { apart } from "../core/src/verification/apart.ts";
import { clinic } from "./clinic.ts";
import { hall } from "./hall.ts";
import { library } from "./library.ts";

const shipped = (name: string): unknown => JSON.parse(readFileSync(new URL(`./${name}.json`, import.meta.url), "utf8"));

describe.each<[string, Project]>([
  ["library", library],
  ["clinic", clinic],
  ["hall", hall],
])("the demo %s", (name, project) => {
  it("ships as it is written here, without a problem", () => {
    expect(shipped(name)).toEqual(project);
    const parsed = parseProject(shipped(name));
    expect(parsed.ok && checkProject(parsed.project).problems).toEqual([]);
  });
  it("has a plausible year: every zone in its bounds, books closed, no warning", () => {
    const { summary } = runToEnd(project, projectWeather(project) as WeatherYear, { stepsPerHour: 4 });
    expect(summary.energy.intensity).toBeGreaterThan(50);
    expect(summary.energy.intensity).toBeLessThan(200);
    expect(summary.closure).toBeLessThan(1e-10);
    expect(summary.warnings).toEqual([]);
    // capacities are sized: the coldest mornings and the hottest afternoons miss a little
    expect(summary.unmetHours).toBeLessThan(40);
    for (const z of summary.zones) {
      expect(z.temperature.min).toBeGreaterThan(9);
      expect(z.temperature.max).toBeLessThan(38);
    }
  });
  it("decides nothing by rounding: a start a billionth of a kelvin off stays that near", () => {
    const p: Project = { ...project, run: { ...project.run, radiation: "full" } };
    const w = projectWeather(p) as WeatherYear;
    const midwinterAndSummer = [
      [335, 30],
      [190, 21],
    ] as const;
    expect(apart(compile(p, w, 1, undefined, {}, 1, sizesOf(sizeProject(p, w))), w, -2, midwinterAndSummer)).toBeLessThan(1e-8);
  });
});

it("the library has at least 16 zones on two storeys and about 2,000 m²", () => {
  expect(Object.keys(library.zones).length).toBeGreaterThanOrEqual(16);
  expect(Object.keys(library.storeys)).toHaveLength(2);
  const area = [...checkProject(library).geometry.spaces.values()].reduce((s, g) => s + g.floorArea, 0);
  expect(area).toBeGreaterThan(1900);
  expect(area).toBeLessThan(2200);
});

describe("the library's study", () => {
  const project = library;
  const study = project.studies?.envelope as Study;
  const shippedRuns = shipped("library-study") as { keys: string[]; rows: (StudyRow & { hash: string | null })[] };
  const maker = new StudyMaker(project, study, () => null);
  it("ships with every run it asks for, each by its content", () => {
    const tasks = nextTasks(project, study, []);
    expect(shippedRuns.keys).toEqual(figuresKept(project, study).map((f) => f.key));
    expect(shippedRuns.rows.map(({ index, point, year, check }) => ({ index, point, year, check }))).toEqual(tasks);
    for (const r of [shippedRuns.rows[0], shippedRuns.rows[50]]) {
      const prepared = maker.prepare(r);
      expect(prepared.ok && prepared.key).toBe(r.hash);
    }
  });
  it("ships the figures that are made today", () => {
    const r = shippedRuns.rows[37];
    expect(maker.make(maker.prepare(r)).figures).toEqual(r.figures);
  });
  it("has a short year that tells what the whole one does within a few per cent, and a best run far from the base", () => {
    const table = studyTable(project, study, shippedRuns.rows);
    const energy = table.outcomes.find((o) => o.key === "energy")?.values ?? [];
    expect(table.error.of).toBe(4);
    expect(table.error.by.energy / energy[0]).toBeLessThan(0.05);
    expect(Math.min(...energy)).toBeLessThan(0.93 * energy[0]);
  });
  it("is joined by an example for the terminal that the clinic can be run with", () => {
    const example = studySchema.parse(shipped("study"));
    expect(studyProblems(clinic, example)).toEqual([]);
    expect(countRuns(example)).toBe(9);
  });
});
