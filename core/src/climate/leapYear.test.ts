import { describe, expect, it } from "vitest";
import { readWeatherCsv, writeWeatherCsv } from "../exchange/index.ts";
import { COMMON_YEAR, LEAP_YEAR } from "../model/index.ts";
import { projectWeather } from "../simulate/index.ts";
import { boxProject, withLeapDay } from "../verification/box.ts";
import {
  dailyMeans,
  daysOf,
  degreeDays,
  deriveWeather,
  monthlyWeather,
  shortYear,
  sunVector,
  weatherHash,
  weatherProblems,
  withoutLeapDay,
  yearEpoch,
  type WeatherYear,
} from "./index.ts";

const common = projectWeather(boxProject()) as WeatherYear;
const leap = withLeapDay(common);

describe("a weather year with 29 February", () => {
  it("has 366 days in all that follows from it", () => {
    expect(daysOf(leap)).toBe(LEAP_YEAR);
    expect(daysOf(common)).toBe(COMMON_YEAR);
    expect(dailyMeans(leap)).toHaveLength(366);
    expect(deriveWeather(leap).infrared.every((v) => v > 0)).toBe(true);
    expect(deriveWeather(leap).humidityRatio).toHaveLength(8784);
    expect(weatherProblems(leap)).toEqual([]);
    const cold = Math.max(0, 18 - dailyMeans(leap)[59]);
    expect(cold).toBeGreaterThan(2);
    expect(degreeDays(leap, 18, 18).heating - degreeDays(common, 18, 18).heating).toBeCloseTo(cold, 6);
  });
  it("lends the day to February and no other month", () => {
    const [a, b] = [monthlyWeather(common), monthlyWeather(leap)];
    for (let m = 0; m < 12; m++)
      if (m !== 1) {
        expect(b.meanDryBulb[m]).toBeCloseTo(a.meanDryBulb[m], 9);
        expect(b.global[m]).toBeCloseTo(a.global[m], 9);
      }
    expect(b.meanDryBulb[1]).toBeCloseTo((28 * a.meanDryBulb[1] + dailyMeans(leap)[59]) / 29, 9);
    expect(b.global[1]).toBeGreaterThan(a.global[1]);
  });
  it("without it is the year it was made from, no longer of a measured year", () => {
    expect(weatherHash(withoutLeapDay(withLeapDay(common, 2028)))).toBe(weatherHash(common));
    expect(withoutLeapDay(common)).toBe(common);
    expect(weatherHash(withLeapDay(common, 2028))).not.toBe(weatherHash(leap));
  });
  it("of a measured year must have the hours of that year", () => {
    expect(weatherProblems(withLeapDay(common, 2028))).toEqual([]);
    expect(weatherProblems({ ...common, year: 2028 })[0].message).toMatch(/has 8760 hours of dry-bulb temperature; 8784 are needed/);
    expect(weatherProblems({ ...leap, windSpeed: common.windSpeed })).toMatchObject([{ path: "weather/windSpeed" }]);
  });
  it("stands for itself in a short year: its days weigh 366", () => {
    const s = shortYear(
      leap,
      24,
      Array.from({ length: 366 }, (_, d) => d % 7 < 5),
    );
    expect(s.days.reduce((a, d) => a + d.weight, 0)).toBeCloseTo(366, 9);
    expect(s.days.every((d) => d.day >= 0 && d.day < 366)).toBe(true);
  });
});

describe("the sun of a measured year", () => {
  it("begins on the days the calendar has", () => {
    const noon2000 = Date.UTC(2000, 0, 1, 12);
    for (const y of [1950, 1999, 2000, 2001, 2024, 2025, 2100, 2101]) expect(yearEpoch(y)).toBe((Date.UTC(y, 0, 1) - noon2000) / 86400000);
    expect(yearEpoch()).toBe(yearEpoch(2001));
    expect(yearEpoch(undefined, true)).toBe(yearEpoch(2000));
  });
  it("stands over the equator at the instants of equinox and solstice of 2000 and 2024, published to the minute, UT", () => {
    // declination at the pole is the height of the sun there
    const up = (utc: number, year: number): number => sunVector((utc - Date.UTC(year, 0, 1)) / 3600000, 90, 0, 0, yearEpoch(year))[2];
    const degrees = (v: number): number => (Math.asin(v) * 180) / Math.PI;
    expect(Math.abs(degrees(up(Date.UTC(2000, 2, 20, 7, 35), 2000)))).toBeLessThan(0.01);
    expect(Math.abs(degrees(up(Date.UTC(2024, 2, 20, 3, 6), 2024)))).toBeLessThan(0.01);
    expect(Math.abs(degrees(up(Date.UTC(2024, 8, 22, 12, 44), 2024)))).toBeLessThan(0.01);
    expect(degrees(up(Date.UTC(2024, 5, 20, 20, 51), 2024))).toBeCloseTo(23.436, 2);
    // the typical year of 366 days keeps the seasons within a day of it
    const typical = sunVector(24 * (31 + 29 + 19) + 7.6, 90, 0, 0, yearEpoch(undefined, true))[2];
    expect(Math.abs(degrees(typical))).toBeLessThan(0.4);
  });
});

describe("the weather CSV of a leap year", () => {
  const measured = withLeapDay(common, 2028);
  const text = writeWeatherCsv(measured);
  const message = (t: string): string => {
    const r = readWeatherCsv(t);
    return r.ok ? "" : `${r.problems[0].line}: ${r.problems[0].message}`;
  };
  it("gives back the same year to the bit, with its year or without", () => {
    for (const w of [measured, leap]) {
      const back = readWeatherCsv(writeWeatherCsv(w));
      expect(back.ok && weatherHash(back.weather)).toBe(weatherHash(w));
      expect(back.ok && back.weather.year).toBe(w.year);
    }
    expect(text.split("\n").filter((l) => l.startsWith("2,29,"))).toHaveLength(24);
  });
  it("that states a year must have its days", () => {
    const first = text.split("\n").findIndex((l) => l.startsWith("2,29,"));
    expect(message(text.replace("# year: 2028", "# year: 2027"))).toBe(`${first + 1}: 2027 has no 29 February.`);
    const without = text.replace(/^2,29,.*\n/gm, "");
    expect(message(without)).toBe(`${first + 1}: 24 hours from 2/29 1:00 are missing before this line.`);
    expect(message(without.replace("# year: 2028\n", ""))).toBe("");
    expect(message(text.replace("# year: 2028", "# year: soon"))).toBe('1: The header needs "year" as a number from 1900 to 2200.');
    expect(message(text.replace("# year: 2028", "# year: 2028.5"))).toMatch(/whole number/);
  });
  it("with a part of the day only is told where it breaks off", () => {
    const holed = text.replace("# year: 2028\n", "").replace(/^2,29,([2-9]|1\d|2[0-4]),.*\n/gm, "");
    expect(message(holed)).toMatch(/23 hours from 2\/29 2:00 are missing before this line/);
  });
});
