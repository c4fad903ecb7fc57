import { describe, expect, it } from "vitest";
import { collectorHeat, incidenceModifier, stagnation, type Collector } from "./collector.ts";

/** A flat plate of usual figures. */
const plate: Collector = { area: 4, peak: 0.78, a1: 3.6, a2: 0.014, at50: 0.92 };

describe("a solar collector", () => {
  it("has at the temperature of the air the efficiency of its test, with so much water that it hardly warms", () => {
    expect(collectorHeat(plate, 800, 20, 20, 1e9) / (4 * 800)).toBeCloseTo(0.78, 6);
  });
  it("gives the heat that its own mean temperature allows", () => {
    const flow = 120;
    const heat = collectorHeat(plate, 700, 45, 15, flow);
    const over = 45 + heat / (2 * flow) - 15;
    expect(heat / 4).toBeCloseTo(0.78 * 700 - 3.6 * over - 0.014 * over * over, 6);
    expect(heat).toBeLessThan(collectorHeat(plate, 700, 25, 15, flow));
    expect(heat).toBeGreaterThan(collectorHeat(plate, 700, 45, 15, 40));
  });
  it("gives nothing at its stagnation temperature, beyond it, in the dark or without water", () => {
    const hot = stagnation(plate, 900, 25);
    expect(hot).toBeGreaterThan(120);
    expect(collectorHeat(plate, 900, hot + 0.01, 25, 100)).toBe(0);
    expect(collectorHeat(plate, 900, hot - 1, 25, 100)).toBeGreaterThan(0);
    expect(collectorHeat(plate, 0, 30, 20, 100)).toBe(0);
    expect(collectorHeat(plate, 900, 30, 20, 0)).toBe(0);
    expect(stagnation({ ...plate, a2: 0 }, 900, 25)).toBeCloseTo(25 + (0.78 * 900) / 3.6, 9);
  });
  it("takes sun from the side with its modifier: all of it at right angles, the tested share at 50°, none from behind", () => {
    expect(incidenceModifier(0.92, 1)).toBe(1);
    expect(incidenceModifier(0.92, Math.cos((50 * Math.PI) / 180))).toBeCloseTo(0.92, 9);
    expect(incidenceModifier(0.92, -0.2)).toBe(0);
    expect(incidenceModifier(0.92, 0.02)).toBe(0);
  });
});
