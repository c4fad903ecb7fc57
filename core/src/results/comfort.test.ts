import { describe, expect, it } from "vitest";
import { adaptiveBands, adaptiveSide, dissatisfied, predictedMeanVote, runningMeans } from "./index.ts";

describe("adaptive bands", () => {
  const band = (name: (typeof adaptiveBands)[number]): number => adaptiveBands.indexOf(name);
  it("of EN 16798-1 lie about 0.33·θ + 18.8, category II from −4 to +3 K", () => {
    const b = band("EN 16798-1 II");
    const comfort = 0.33 * 20 + 18.8;
    expect(adaptiveSide(b, comfort, 20)).toBe(0);
    expect(adaptiveSide(b, comfort + 2.9, 20)).toBe(0);
    expect(adaptiveSide(b, comfort + 3.1, 20)).toBe(1);
    expect(adaptiveSide(b, comfort - 3.9, 20)).toBe(0);
    expect(adaptiveSide(b, comfort - 4.1, 20)).toBe(-1);
  });
  it("of ASHRAE 55 lie about 0.31·θ + 17.8, 3.5 K for 80 %", () => {
    const b = band("ASHRAE 55 80 %");
    const comfort = 0.31 * 25 + 17.8;
    expect(adaptiveSide(b, comfort + 3.4, 25)).toBe(0);
    expect(adaptiveSide(b, comfort + 3.6, 25)).toBe(1);
    expect(adaptiveSide(band("ASHRAE 55 90 %"), comfort + 3.4, 25)).toBe(1);
  });
  it("are not defined in cold and in great heat", () => {
    expect(adaptiveSide(0, 22, 5)).toBeNaN();
    expect(adaptiveSide(0, 30, 31)).toBeNaN();
    expect(adaptiveSide(band("ASHRAE 55 80 %"), 30, 31)).toBe(0);
  });
});

describe("the running mean", () => {
  it("of a constant is that constant, and follows a step by 0.8 a day", () => {
    expect(runningMeans(new Float64Array(365).fill(12))[200]).toBeCloseTo(12, 4);
    const step = Float64Array.from({ length: 365 }, (_, d) => (d < 100 ? 0 : 10));
    const r = runningMeans(step);
    expect(r[100]).toBeCloseTo(0, 3);
    expect(r[101]).toBeCloseTo(2, 3);
    expect(r[102]).toBeCloseTo(3.6, 3);
  });
});

describe("the vote", () => {
  it("of neutral air leaves 5 % dissatisfied, and is balanced by its clothing temperature", () => {
    expect(dissatisfied(0)).toBeCloseTo(5, 9);
    expect(dissatisfied(1)).toBeCloseTo(dissatisfied(-1), 9);
    for (const air of [10, 18, 22, 30, 38]) {
      const p = { air, radiant: air + 2, speed: 0.1, vapour: 1200, met: 1.2, clo: 0.8 };
      const { clothing } = predictedMeanVote(p);
      const icl = 0.155 * 0.8;
      const fcl = 1.05 + 0.645 * icl;
      const hc = Math.max(2.38 * Math.abs(clothing - air) ** 0.25, 12.1 * Math.sqrt(0.1));
      const balance = 35.7 - 0.028 * 1.2 * 58.15 - icl * (3.96e-8 * fcl * ((clothing + 273) ** 4 - (air + 275) ** 4) + fcl * hc * (clothing - air));
      expect(Math.abs(balance - clothing)).toBeLessThan(1e-6);
    }
  });
});
