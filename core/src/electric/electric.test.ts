import { describe, expect, it } from "vitest";
import { batteryStep, throughInverter, inverterEfficiency, turbinePower, type Battery, type Inverter } from "./index.ts";

const inverter: Inverter = { rated: 5000, loads: [0.05, 0.1, 0.2, 0.5, 1], efficiencies: [0.9, 0.94, 0.965, 0.975, 0.968], start: 0.005, night: 2 };

describe("an inverter", () => {
  it("has the efficiency of its points, and between them", () => {
    inverter.loads.forEach((l, i) => expect(inverterEfficiency(inverter, l)).toBeCloseTo(inverter.efficiencies[i], 12));
    expect(inverterEfficiency(inverter, 0.35)).toBeCloseTo(0.97, 12);
  });
  it("neither makes nor loses energy beyond what it tells, gives no more than it may, and draws a little at night", () => {
    for (let direct = 0; direct <= 9000; direct += 50) {
      const r = throughInverter(inverter, direct);
      expect(r.given + r.lost + r.cut).toBeCloseTo(direct, 9);
      expect(r.given).toBeLessThanOrEqual(5000);
      expect(Math.min(r.lost, r.cut)).toBeGreaterThanOrEqual(0);
    }
    expect(throughInverter(inverter, 0).given).toBe(-2);
    expect(throughInverter(inverter, 8000).given).toBe(5000);
  });
  it("gives more for more", () => {
    let before = -Infinity;
    for (let direct = 0; direct <= 9000; direct += 25) {
      const { given } = throughInverter(inverter, direct);
      expect(given).toBeGreaterThanOrEqual(before - 1e-9);
      before = given;
    }
  });
});

describe("a battery", () => {
  const battery: Battery = { capacity: 10 * 3.6e6, charge: 3000, discharge: 4000, efficiency: 0.9, standing: 0.01 };
  it("keeps its books over a year of sun by day and use by night, within its content and power", () => {
    let content = 0;
    const [first, sums] = [content, { grid: 0, surplus: 0, lost: 0 }];
    for (let h = 0; h < 8760; h++) {
      const surplus = (h % 24 >= 8 && h % 24 < 17 ? 2500 : -1400) * (1 + 0.4 * Math.sin(h / 700));
      const step = batteryStep(battery, content, surplus, 3600);
      expect(step.content).toBeGreaterThanOrEqual(-1e-6);
      expect(step.content).toBeLessThanOrEqual(battery.capacity * (1 + 1e-12));
      expect(step.power).toBeLessThanOrEqual(3000);
      expect(step.power).toBeGreaterThanOrEqual(-4000);
      expect(step.lost).toBeGreaterThanOrEqual(-1e-6);
      // it never feeds the grid and is charged from it, nor the other way round
      expect(step.grid * surplus).toBeGreaterThanOrEqual(0);
      content = step.content;
      sums.grid += step.grid * 3600;
      sums.surplus += surplus * 3600;
      sums.lost += step.lost;
    }
    expect(Math.abs(sums.surplus - sums.grid - sums.lost - (content - first)) / Math.abs(sums.surplus)).toBeLessThan(1e-9);
  });
  it("gives back what was put in times its efficiency, but for its standing loss", () => {
    const still = { ...battery, standing: 0 };
    const { content } = batteryStep(still, 0, 2000, 3600);
    let [left, out] = [content, 0];
    for (let i = 0; i < 20; i++) {
      const step = batteryStep(still, left, -500, 3600);
      left = step.content;
      out -= step.power * 3600;
    }
    expect(out / (2000 * 3600)).toBeCloseTo(0.9, 9);
  });
});

describe("a wind turbine", () => {
  const turbine = { speeds: [3, 5, 8, 12, 20], powers: [0, 400, 1800, 5000, 5000] };
  it("follows its curve, stands still in calm and storm, and gives less in thin air", () => {
    expect(turbinePower(turbine, 8)).toBeCloseTo(1800, 9);
    expect(turbinePower(turbine, 10)).toBeCloseTo(3400, 9);
    expect([turbinePower(turbine, 2), turbinePower(turbine, 25)]).toEqual([0, 0]);
    expect(turbinePower(turbine, 9, 1)).toBeLessThan(turbinePower(turbine, 9));
  });
  it("has over some hours the energy summed by hand", () => {
    // 2 h at 5, 3 h at 8, 1 h at 12 m/s and one of calm: 0.8 + 5.4 + 5.0 kWh
    const hours = [5, 5, 8, 8, 8, 12, 1];
    expect(hours.reduce((s, v) => s + turbinePower(turbine, v), 0) / 1000).toBeCloseTo(11.2, 9);
  });
});
