import { describe, expect, it } from "vitest";
import { sunVector } from "../climate/index.ts";
import type { WeatherYear } from "../climate/index.ts";
import type { Vector } from "../geometry/index.ts";
import type { Project } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import { compile, noPlaneSun, projectWeather, sunOnPlane, sunPlane, YearKernel } from "./index.ts";

const DEG = Math.PI / 180;
const square: Vector[] = [
  [0, 0, 50],
  [1, 0, 50],
  [1, 1, 50],
  [0, 1, 50],
];
/** A plane facing a direction in the plan, tilted from level, far above everything. */
const tilted = (azimuth: number, tilt: number): { pieces: Vector[][]; normal: Vector } => ({
  pieces: [square],
  normal: [Math.sin(tilt * DEG) * Math.sin(azimuth * DEG), Math.sin(tilt * DEG) * Math.cos(azimuth * DEG), Math.cos(tilt * DEG)],
});

describe("sun on a tilted plane over a day", () => {
  const p: Project = boxProject({ sky: "isotropic" });
  const weather = projectWeather(p) as WeatherYear;
  const model = compile(p, weather, 1);
  const kernel = new YearKernel(model, weather);
  kernel.start(5, 20, 0.005);
  const out = noPlaneSun();
  const { latitude, longitude, timeZone, albedo } = p.site;

  it("is that of beam, isotropic sky and ground of Liu and Jordan, summed by hand", () => {
    for (const [azimuth, tilt] of [
      [180, 30],
      [180, 60],
      [100, 20],
    ]) {
      const plane = sunPlane(p.site, [], tilted(azimuth, tilt), () => 0);
      let [found, byHand] = [0, 0];
      for (let h = 172 * 24; h < 173 * 24; h++) {
        kernel.step(h, 0);
        sunOnPlane(kernel.state, plane, out);
        found += out.litBeam + out.seenDiffuse + out.ground;
        const [e, n, up] = sunVector(h + 0.5, latitude, longitude, timeZone, model.sunEpoch);
        const [global, diffuse] = [weather.globalHorizontal[h], weather.diffuseHorizontal[h]];
        if (!(up > 0.05)) continue;
        const cosine = Math.max(0, Math.sin(tilt * DEG) * (Math.sin(azimuth * DEG) * e + Math.cos(azimuth * DEG) * n) + Math.cos(tilt * DEG) * up);
        byHand += ((global - diffuse) / up) * cosine + (diffuse * (1 + Math.cos(tilt * DEG))) / 2 + (albedo[5] * global * (1 - Math.cos(tilt * DEG))) / 2;
      }
      expect(found).toBeGreaterThan(2000);
      // hours in which the sun stands lower than 3° are left out by hand
      expect(found / byHand).toBeGreaterThan(0.99);
      expect(found / byHand).toBeLessThan(1.02);
    }
  });

  it("is what a level plane sees of all of the weather's sun, and nothing in the dark", () => {
    const plane = sunPlane(p.site, [], tilted(180, 0), () => 0);
    kernel.step(172 * 24 + 11, 0);
    sunOnPlane(kernel.state, plane, out);
    expect(out.litBeam + out.seenDiffuse).toBeCloseTo(weather.globalHorizontal[172 * 24 + 11], 6);
    expect(out.ground).toBe(0);
    kernel.step(172 * 24, 0);
    sunOnPlane(kernel.state, plane, out);
    expect(out.beam + out.diffuse + out.ground).toBe(0);
  });

  it("is none of the beam behind a wall that hides the sun, and half of the sky", () => {
    const wall = {
      corners: [
        [-500, -2, 0],
        [500, -2, 0],
        [500, -2, 5000],
        [-500, -2, 5000],
      ] as Vector[],
      transmittance: null,
      schedule: null,
    };
    const plane = sunPlane(p.site, [wall], tilted(180, 0), () => 0);
    kernel.step(172 * 24 + 11, 0);
    sunOnPlane(kernel.state, plane, out);
    expect(out.beam).toBeGreaterThan(100);
    expect(out.litBeam).toBeLessThan(0.02 * out.beam);
    expect(out.seenDiffuse / out.diffuse).toBeGreaterThan(0.42);
    expect(out.seenDiffuse / out.diffuse).toBeLessThan(0.58);
  });
});
