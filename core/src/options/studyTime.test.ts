import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { emptyStudy, expectedSeconds, runsOf, shorterWays } from "./index.ts";
import type { Study } from "../model/index.ts";

const levels = (n: number): Study["axes"][number]["levels"] => Array.from({ length: n }, (_, i) => ({ id: `l${i}`, value: i }));
const axis = (id: string, n: number): Study["axes"][number] => ({ id, name: id, addresses: [`values/${id}/value`], levels: levels(n) });
const project = boxProject();
const times = { compile: 0.1, run: 3.9, sizing: 4, stepsPerHour: 4 };

describe("the time of a study", () => {
  const grid: Study = { ...emptyStudy("s", null), axes: [axis("a", 6), axis("b", 6), axis("c", 8)] };
  it("counts the base, the years and the checks", () => {
    expect(runsOf(grid)).toEqual({ short: 289, full: 4 });
    expect(runsOf({ ...grid, years: ["x", "y"], length: "year" })).toEqual({ short: 0, full: 578 });
  });
  it("is that of whole years as they were measured, and far less for representative days by the hour", () => {
    const whole: Study = { ...grid, length: "year", stepsPerHour: 4, sizing: "each" };
    expect(expectedSeconds(whole, project, times)).toBeCloseTo(289 * (0.1 + 3.9 + 4), 6);
    expect(expectedSeconds(grid, project, times)).toBeLessThan(expectedSeconds(whole, project, times) / 20);
    expect(expectedSeconds({ ...grid, length: 48 }, project, times)).toBeGreaterThan(expectedSeconds(grid, project, times));
  });
  it("tells shorter ways, each shorter", () => {
    const whole: Study = { ...grid, axes: [...grid.axes, axis("d", 5)], length: "year", sizing: "each" };
    const ways = shorterWays(whole, project, times);
    expect(ways).toHaveLength(3);
    for (const w of ways) expect(w.seconds).toBeLessThan(expectedSeconds(whole, project, times));
  });
});
