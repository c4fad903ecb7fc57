import { describe, expect, it } from "vitest";
import { coverModifier, coverTransmittance, diffuseAngles } from "./cover.ts";

const at = (degrees: number): number => coverModifier(Math.cos((degrees * Math.PI) / 180));

describe("the cover of a module", () => {
  it("reflects 4.3 % at right angles and lets through what it does not absorb", () => {
    // ((n − 1)/(n + 1))² of glass, and 0.8 % absorbed over 2 mm
    expect(coverTransmittance(1)).toBeCloseTo((1 - (0.526 / 2.526) ** 2) * Math.exp(-0.008), 12);
  });
  it("passes less the flatter the sun: little until 50°, half near 80°, nothing along the plane", () => {
    expect(at(0)).toBe(1);
    expect(at(50)).toBeGreaterThan(0.96);
    expect(at(70)).toBeLessThan(0.9);
    expect(at(80)).toBeGreaterThan(0.5);
    expect(at(80)).toBeLessThan(0.75);
    expect(at(89.9)).toBeLessThan(0.02);
    expect(at(95)).toBe(0);
    for (let d = 0; d < 89; d++) expect(at(d + 1)).toBeLessThanOrEqual(at(d));
  });
  it("takes diffuse radiation as beam from near 60° of the sky for a plane that lies, and of the ground for one that hangs", () => {
    expect(diffuseAngles(0).sky).toBeCloseTo(59.7, 9);
    expect(diffuseAngles(0).ground).toBe(90);
    expect(diffuseAngles(90).sky).toBeCloseTo(59.3, 0);
    expect(diffuseAngles(90).ground).toBeCloseTo(59.7, 0);
  });
});
