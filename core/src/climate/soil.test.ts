import { describe, expect, it } from "vitest";
import { boxProject, steadyWeather } from "../verification/box.ts";
import { projectWeather } from "../simulate/index.ts";
import { monthlyWeather, undisturbedSoil, type WeatherYear } from "./index.ts";

const year = projectWeather(boxProject()) as WeatherYear;
const air = monthlyWeather(year).meanDryBulb;
const span = (a: readonly number[]): number => Math.max(...a) - Math.min(...a);

describe("undisturbed soil", () => {
  it("has the mean of the air at every depth, and swings less and later the deeper it lies", () => {
    const [top, two, ten] = [0, 2, 10].map((d) => undisturbedSoil(year, d, 1.5, 2e6));
    const mean = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0) / 12;
    for (const t of [top, two, ten]) expect(Math.abs(mean(t) - mean(air))).toBeLessThan(0.3);
    expect(span(top)).toBeGreaterThan(0.85 * span(air));
    expect(span(two)).toBeLessThan(0.6 * span(top));
    // e to the minus 3.64
    expect(span(ten)).toBeLessThan(0.03 * span(top));
    expect(two.indexOf(Math.max(...two))).toBeGreaterThan(top.indexOf(Math.max(...top)));
  });
  it("at the depth of e-fold damping swings by 1/e and lags 58 days", () => {
    // √(365 d · α / π) for 1.5 W/mK and 2 MJ/m³K: 0.0648 m²/d, so 2.744 m
    const deep = undisturbedSoil(year, 2.744, 1.5, 2e6);
    const top = undisturbedSoil(year, 0, 1.5, 2e6);
    // the swing by the first harmonic of the twelve
    const harmonic = (a: readonly number[]): [number, number] => {
      const c = a.reduce((s, v, m) => s + (v * Math.cos((2 * Math.PI * (m + 0.5)) / 12)) / 6, 0);
      const n = a.reduce((s, v, m) => s + (v * Math.sin((2 * Math.PI * (m + 0.5)) / 12)) / 6, 0);
      return [Math.hypot(c, n), (Math.atan2(n, c) * 365) / (2 * Math.PI)];
    };
    const [[swing, day], [surface, at]] = [harmonic(deep), harmonic(top)];
    expect(swing / surface).toBeCloseTo(Math.exp(-1), 2);
    expect((day - at + 365) % 365).toBeCloseTo(365 / (2 * Math.PI), 0);
  });
  it("under steady air is steady", () => {
    for (const t of undisturbedSoil(steadyWeather(7), 1, 2, 2e6)) expect(t).toBeCloseTo(7, 9);
  });
});
