import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { projectWeather } from "../simulate/index.ts";
import { runToEnd } from "../results/index.ts";
import { clarkAllenEmissivity, dailyMeans, shortYear, skyEmissivity, weatherProblems, type WeatherYear } from "./index.ts";

const project = boxProject({ glass: 0.4, weight: "heavy" });
const weather = projectWeather(project) as WeatherYear;
const working = Array.from({ length: 365 }, (_, d) => d % 7 < 5);

describe("the short year", () => {
  it.each([12, 24, 48])("of %i days weighs 365 and keeps the coldest and the warmest day", (count) => {
    const s = shortYear(weather, count, working);
    expect(s.days.reduce((a, d) => a + d.weight, 0)).toBeCloseTo(365, 9);
    for (const d of s.days) expect(d.weight).toBeGreaterThan(0.2);
    expect(s.days.length).toBeLessThanOrEqual(count + 2);
    const means = dailyMeans(weather);
    for (const extreme of [Math.min(...means), Math.max(...means)]) expect(s.days.some((d) => means[d.day] === extreme)).toBe(true);
    for (let i = 1; i < s.days.length; i++) expect(s.days[i].day).toBeGreaterThan(s.days[i - 1].day);
  });
  it("has the year's degree days, sun and working days", () => {
    const means = dailyMeans(weather);
    const sum = (days: readonly { day: number; weight: number }[], f: (d: number) => number): number => days.reduce((a, d) => a + d.weight * f(d.day), 0);
    const every = Array.from({ length: 365 }, (_, day) => ({ day, weight: 1 }));
    const heat = (d: number): number => Math.max(0, 18 - means[d]);
    const miss = (n: number): number => Math.abs(sum(shortYear(weather, n, working).days, heat) / sum(every, heat) - 1);
    // a weight that would nearly vanish is moved only in part: then a few per cent are left, and told
    for (const n of [12, 24, 48]) expect(miss(n)).toBeLessThan(0.06);
    const s = shortYear(weather, 24, working);
    expect(s.days.reduce((a, d) => a + (working[d.day] ? d.weight : 0), 0)).toBeCloseTo(working.filter(Boolean).length, 0);
  });
  it("foretells a year's loads within a tenth, told as a year", () => {
    const whole = runToEnd(project, weather, { stepsPerHour: 1 }).summary;
    const short = runToEnd(project, weather, { stepsPerHour: 1, shortYear: true }).summary;
    expect(short.shortYear?.days.length).toBeGreaterThan(20);
    expect(short.period).toEqual({ firstDay: 0, days: 365 });
    expect(short.energy.intensity).not.toBeNull();
    expect(Math.abs(short.loads.heating.total / whole.loads.heating.total - 1)).toBeLessThan(0.1);
    expect(Math.abs(short.loads.cooling.total / whole.loads.cooling.total - 1)).toBeLessThan(0.1);
    expect(short.closure).toBeLessThan(1e-9);
    expect(whole.shortYear).toBeNull();
  });
});

describe("sky emissivity", () => {
  it("by both models rises with moisture and cloud and never passes one", () => {
    for (const model of [
      (dew: number, cloud: number) => clarkAllenEmissivity(dew, cloud),
      (dew: number, cloud: number) => skyEmissivity(dew, 12, 101325, cloud),
    ]) {
      expect(model(15, 0)).toBeGreaterThan(model(-5, 0));
      expect(model(5, 1)).toBeGreaterThan(model(5, 0));
      expect(model(30, 1)).toBeLessThanOrEqual(1);
      expect(model(5, 0)).toBeGreaterThan(0.6);
      expect(model(5, 0)).toBeLessThan(0.9);
    }
  });
});

describe("a weather year", () => {
  it("without fault has none, and tells the first impossible hour of each quantity", () => {
    expect(weatherProblems(weather)).toEqual([]);
    const bad: WeatherYear = { ...weather, windSpeed: Float64Array.from(weather.windSpeed), pressure: new Float64Array(10) };
    bad.windSpeed[41] = -3;
    bad.windSpeed[99] = NaN;
    const problems = weatherProblems(bad);
    expect(problems.map((p) => p.path)).toEqual(["weather/pressure", "weather/windSpeed/42"]);
    expect(problems[1].message).toContain("the wind speed is -3 m/s");
  });
});
