import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { checkProject, compile, parseProject, projectWeather, runToEnd, sizeProject, sizesOf, type Project, type WeatherYear } from "../core/src/index.ts";
import { apart } from "../core/src/verification/apart.ts";
import { clinic } from "./clinic.ts";
import { library } from "./library.ts";

const shipped = (name: string): unknown => JSON.parse(readFileSync(new URL(`./${name}.json`, import.meta.url), "utf8"));

describe.each<[string, Project]>([
  ["library", library],
  ["clinic", clinic],
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
