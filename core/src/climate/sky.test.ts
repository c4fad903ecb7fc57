import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { boxProject } from "../verification/box.ts";
import { projectWeather } from "../simulate/index.ts";
import {
  clarkAllenEmissivity,
  climateZone,
  climateZoneOf,
  degreeDays,
  deriveWeather,
  dailyMeans,
  humidityRatio,
  humidityRatioOf,
  perezHeight,
  perezSky,
  skyEmissivity,
  skyTemperature,
  standardPressure,
  STEFAN_BOLTZMANN,
  vapourPressure,
  type WeatherYear,
} from "./index.ts";

const year = projectWeather(boxProject()) as WeatherYear;

describe("the anisotropic sky", () => {
  it("is the published model, worked through by hand for one clear hour", () => {
    // diffuse 100, beam 800 W/m², the sun at 36.87° from the zenith
    const z = Math.acos(0.8);
    const k = 1.041 * z ** 3;
    expect(((100 + 800) / 100 + k) / (1 + k)).toBeGreaterThan(6.2);
    const mass = 1 / (0.8 + 0.50572 * (96.07995 - (z * 180) / Math.PI) ** -1.6364);
    expect(mass).toBeCloseTo(1.249, 3);
    const delta = (100 * mass) / 1367;
    const sky = perezSky(100, 800, 0.8, 1367);
    expect(sky.circumsolar).toBeCloseTo(0.678 - 0.327 * delta - 0.25 * z, 9);
    expect(sky.horizon).toBeCloseTo(0.156 - 1.377 * delta + 0.251 * z, 9);
    expect(perezHeight(0.8)[2]).toBeCloseTo(mass, 9);
  });
  it("has no brightness about the sun less than none, and divides by no less than cos 85°", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 500, noNaN: true }),
        fc.double({ min: 0, max: 1000, noNaN: true }),
        fc.double({ min: 0.001, max: 1, noNaN: true }),
        (diffuse, beam, cosine) => {
          const sky = perezSky(diffuse, beam, cosine, 1367);
          expect(sky.circumsolar).toBeGreaterThanOrEqual(0);
          expect(sky.b).toBeGreaterThanOrEqual(Math.cos((85 * Math.PI) / 180) - 1e-12);
          expect(Number.isFinite(sky.horizon)).toBe(true);
        },
      ),
    );
    expect(perezSky(0, 0, 0.5, 1367)).toMatchObject({ circumsolar: 0, horizon: 0 });
    expect(perezSky(50, 0, -0.1, 1367)).toMatchObject({ circumsolar: 0, horizon: 0 });
  });
});

describe("the cold of the sky", () => {
  it("by Martin and Berdahl: dew point, hour and pressure, cloud as one layer 2 km up", () => {
    const noon = 0.711 + 0.056 + 0.0073 - 0.013 + 0.00012 * 13.25;
    expect(skyEmissivity(10, 12, 101325, 0)).toBeCloseTo(noon, 12);
    expect(skyEmissivity(10, 24, 101325, 0) - skyEmissivity(10, 12, 101325, 0)).toBeCloseTo(0.026, 12);
    expect(skyEmissivity(10, 12, 101325, 1)).toBeCloseTo(noon + (1 - noon) * Math.exp(-2 / 8.2), 12);
  });
  it("by Clark and Allen with Walton's cloud: 0.787 + 0.764·ln(T/273), more by 15 % under a full cover", () => {
    const clear = 0.787 + 0.764 * Math.log(283.15 / 273);
    expect(clarkAllenEmissivity(10, 0)).toBeCloseTo(clear, 12);
    expect(clarkAllenEmissivity(10, 1)).toBeCloseTo(clear * 1.154, 12);
  });
  it("is the temperature of a black body that sends as much", () => {
    for (const t of [-40, -5, 20]) expect(skyTemperature(STEFAN_BOLTZMANN * (t + 273.15) ** 4)).toBeCloseTo(t, 9);
  });
  it("is as measured where the year has it, by the model that was asked for where not, each remembered", () => {
    const plain = deriveWeather(year);
    expect(deriveWeather(year)).toBe(plain);
    const other = deriveWeather(year, "clark-allen");
    expect(other).not.toBe(plain);
    expect(other.infrared.some((v, h) => Math.abs(v - plain.infrared[h]) > 1)).toBe(true);
    expect([...other.humidityRatio]).toEqual([...plain.humidityRatio]);
    const measured: WeatherYear = { ...year, infrared: new Float64Array(8760).fill(300) };
    for (const model of ["martin-berdahl", "clark-allen"] as const) expect(new Set(deriveWeather(measured, model).infrared)).toEqual(new Set([300]));
  });
});

describe("pressure and moisture", () => {
  it("of the standard atmosphere fall with height: 101.325 kPa at the sea, 83.5 kPa at 1,600 m", () => {
    expect(standardPressure(0)).toBe(101325);
    expect(standardPressure(1600) / 1000).toBeCloseTo(83.52, 1);
    // the handbook's table: 89.875 kPa at 1,000 m
    expect(standardPressure(1000) / 1000).toBeCloseTo(89.875, 2);
  });
  it("go back and forth between vapour pressure and humidity ratio", () => {
    for (const p of [101325, 83000]) for (const w of [0.001, 0.01, 0.02]) expect(humidityRatioOf(vapourPressure(w, p), p)).toBeCloseTo(w, 12);
    // thinner air holds more per kilogram
    expect(humidityRatio(20, 0.5, 83000)).toBeGreaterThan(humidityRatio(20, 0.5, 101325));
  });
});

describe("degree days", () => {
  const constant = (t: number): WeatherYear => ({ ...year, dryBulb: new Float64Array(8760).fill(t) });
  it("of a constant year are the difference to the base, on one side only", () => {
    for (const [t, heating, cooling] of [
      [8, 3650, 0],
      [25, 0, 5475],
    ]) {
      const found = degreeDays(constant(t), 18, 10);
      expect(found.heating).toBeCloseTo(heating, 6);
      expect(found.cooling).toBeCloseTo(cooling, 6);
    }
  });
  it("follow daily means, not hours: a day that swings about the base has none", () => {
    const swings: WeatherYear = { ...year, dryBulb: Float64Array.from({ length: 8760 }, (_, h) => (h % 24 < 12 ? 8 : 28)) };
    const { heating, cooling } = degreeDays(swings, 18, 18);
    expect(heating + cooling).toBeCloseTo(0, 9);
    expect(dailyMeans(swings)[100]).toBeCloseTo(18, 12);
  });
  it("place a site in its thermal zone, each limit on its own side", () => {
    expect(climateZone(0, 6001)).toBe(0);
    expect(climateZone(0, 5001)).toBe(1);
    expect(climateZone(500, 3501)).toBe(2);
    expect(climateZone(2000, 3000)).toBe(3);
    expect(climateZone(2001, 2000)).toBe(4);
    expect(climateZone(3600, 1000)).toBe(5);
    expect(climateZone(4001, 1000)).toBe(6);
    expect(climateZone(5001, 500)).toBe(7);
    expect(climateZone(7001, 100)).toBe(8);
    expect(climateZoneOf(constant(8))).toBe(5);
  });
});
