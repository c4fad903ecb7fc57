import { describe, expect, it } from "vitest";
import { noMorph, type Morph } from "../model/index.ts";
import { shippedClimates, shippedMorphs } from "../library/index.ts";
import { projectWeather } from "../simulate/index.ts";
import { boxProject, withLeapDay } from "../verification/box.ts";
import { runToEnd } from "../results/index.ts";
import {
  clearSkySun,
  climateZoneOf,
  humidityRatio,
  moistureLetter,
  MONTH_START,
  monthlyWeather,
  morphYear,
  synthesizeYear,
  weatherProblems,
  type WeatherYear,
} from "./index.ts";

const year = projectWeather(boxProject()) as WeatherYear;
const all = (v: number): number[] => new Array<number>(12).fill(v);
const morph = (m: Partial<Morph>): Morph => ({ ...noMorph(), ...m });
/** Mean over the days of a month of the highest less the lowest hour. */
const range = (w: WeatherYear, m: number): number => {
  let sum = 0;
  for (let d = MONTH_START[m]; d < MONTH_START[m + 1]; d++) {
    const day = w.dryBulb.subarray(24 * d, 24 * d + 24);
    sum += Math.max(...day) - Math.min(...day);
  }
  return sum / (MONTH_START[m + 1] - MONTH_START[m]);
};

describe("a morphed year", () => {
  it("moves monthly means by the shifts and stretches that were typed, and nothing else", () => {
    const shifts = [1, 2, 3, -1, 0, 0.5, 1.5, 4, -2, 0, 1, 2.5];
    const stretch = all(10);
    const w = morphYear(year, morph({ dryBulb: shifts, dailyRange: stretch, windSpeed: all(-20) }), "then");
    const [before, after] = [monthlyWeather(year), monthlyWeather(w)];
    for (let m = 0; m < 12; m++) {
      expect(after.meanDryBulb[m] - before.meanDryBulb[m]).toBeCloseTo(shifts[m], 9);
      expect(range(w, m) / range(year, m)).toBeCloseTo(1.1, 9);
      expect(after.windSpeed[m] / before.windSpeed[m]).toBeCloseTo(0.8, 9);
    }
    expect(after.global).toEqual(before.global);
    expect(w.name).toBe("then");
  });
  it("that changes nothing is the year it is made of", () => {
    const w = morphYear(year, noMorph(), "same");
    for (const q of ["dryBulb", "windSpeed", "globalHorizontal", "diffuseHorizontal", "cloudCover"] as const)
      expect(w[q].every((v, h) => Math.abs(v - year[q][h]) < 1e-9)).toBe(true);
    expect(w.relativeHumidity.every((v, h) => Math.abs(v - Math.min(100, year.relativeHumidity[h])) < 1e-6)).toBe(true);
  });
  it("keeps its vapour where it only grows warmer, and never passes saturation where it grows moister", () => {
    const warmer = morphYear(year, morph({ dryBulb: all(3) }), "w");
    for (let h = 0; h < 8760; h += 37)
      expect(humidityRatio(warmer.dryBulb[h], warmer.relativeHumidity[h] / 100, warmer.pressure[h])).toBeCloseTo(
        humidityRatio(year.dryBulb[h], year.relativeHumidity[h] / 100, year.pressure[h]),
        12,
      );
    const moister = morphYear(year, morph({ dryBulb: all(-5), humidityRatio: all(150) }), "m");
    expect(Math.max(...moister.relativeHumidity)).toBeLessThanOrEqual(100 + 1e-9);
    expect(weatherProblems(moister)).toEqual([]);
  });
  it("has no more sun than a clear sky, where it is raised; less of it in proportion", () => {
    const bright = morphYear(year, morph({ sun: all(60) }), "b");
    const clear = clearSkySun;
    expect(clear(1, 1367, 0).global).toBeGreaterThan(950);
    expect(clear(1, 1367, 0).global).toBeLessThan(1150);
    expect(Math.max(...bright.globalHorizontal)).toBeLessThan(1150);
    expect(bright.globalHorizontal.every((v, h) => v >= year.globalHorizontal[h] && bright.diffuseHorizontal[h] <= v + 1e-9)).toBe(true);
    const dull = morphYear(year, morph({ sun: all(-25) }), "d");
    expect(dull.globalHorizontal[12 * 24 * 15 + 12]).toBeCloseTo(0.75 * year.globalHorizontal[12 * 24 * 15 + 12], 9);
  });
  it("can be made of a leap year", () => {
    const leap = withLeapDay(year, 2028);
    const w = morphYear(leap, morph({ dryBulb: all(2) }), "leap");
    expect(w.dryBulb.length).toBe(8784);
    expect(w.year).toBeUndefined();
    expect(weatherProblems(w)).toEqual([]);
  });
  it("of the shipped examples heats less and cools more, the later the more", () => {
    const p = boxProject({ glass: 0.3 });
    const runs = [null, "2040", "2060", "2090"].map((k) => {
      p.weathers.then = { kind: "morphed", name: "then", of: p.weather, morph: k === null ? noMorph() : shippedMorphs[k].morph };
      const { loads } = runToEnd(p, projectWeather(p, undefined, "then") as WeatherYear, { stepsPerHour: 1, shortYear: 24 }).summary;
      return { heating: loads.heating.total, cooling: loads.cooling.total };
    });
    for (let i = 1; i < runs.length; i++) {
      expect(runs[i].heating).toBeLessThan(runs[i - 1].heating);
      expect(runs[i].cooling).toBeGreaterThan(runs[i - 1].cooling);
    }
  });
});

describe("the moisture letter", () => {
  const flat = (v: number): number[] => new Array<number>(12).fill(v);
  const season = (winter: number, summer: number): number[] => Array.from({ length: 12 }, (_, m) => (m >= 3 && m <= 8 ? summer : winter));
  it("is marine with mild winters and cool dry summers, in either hemisphere", () => {
    const cool = season(8, 15);
    expect(moistureLetter(cool, season(90, 10), 38)).toBe("C");
    // rain all year, or a hot summer, is not
    expect(moistureLetter(cool, flat(90), 38)).toBe("A");
    expect(moistureLetter(season(8, 26), season(90, 10), 38)).not.toBe("C");
    expect(moistureLetter(season(15, 8), season(10, 90), -38)).toBe("C");
  });
  it("is dry below the rain that warmth and season ask for", () => {
    // 12 °C: 240 mm with winter rain, 380 mm through the year, 520 mm with summer rain
    const t = season(4, 20).map((v) => v + 0.001);
    for (const [rain, limit] of [
      [season(1, 0.1), 240],
      [flat(1), 380],
      [season(0.1, 1), 520],
    ] as const) {
      const year = rain.reduce((a, b) => a + b, 0);
      const of = (mm: number): number[] => rain.map((v) => (v * mm) / year);
      // hot summers, so that none is marine
      const hot = t.map((v, m) => v + (m === 6 ? 3 : m === 0 ? -3 : 0));
      expect(moistureLetter(hot, of(limit - 5), 45)).toBe("B");
      expect(moistureLetter(hot, of(limit + 5), 45)).toBe("A");
    }
  });
});

describe("the shipped climates", () => {
  it.each(Object.entries(shippedClimates))("%s lies in its zone", (_, c) => {
    const w = synthesizeYear(c, c.normals, 1);
    expect(weatherProblems(w)).toEqual([]);
    expect(climateZoneOf(w)).toBe(Number(c.zone[0]));
  });
  it("meet their normals month by month", () => {
    for (const c of Object.values(shippedClimates)) {
      const made = monthlyWeather(synthesizeYear(c, c.normals, 1));
      for (let m = 0; m < 12; m++) {
        expect(Math.abs(made.meanDryBulb[m] - c.normals.dryBulb[m])).toBeLessThan(0.02);
        expect(Math.abs(made.relativeHumidity[m] - c.normals.relativeHumidity[m])).toBeLessThan(2.5);
        expect(Math.abs(made.windSpeed[m] - c.normals.windSpeed[m])).toBeLessThan(0.1);
      }
    }
  });
});
