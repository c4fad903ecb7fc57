import { describe, expect, it } from "vitest";
import { airDensity } from "../airflow/index.ts";
import { boxProject } from "../verification/box.ts";
import { WATER_HEAT } from "../inputs/index.ts";
import { endUses, fuelUse, type EndUse } from "./index.ts";

const KWH = 3.6e6;
const services = {
  ...boxProject().services.plain,
  heating: { fuel: "gas", efficiency: 0.9 },
  cooling: { fuel: "electricity", efficiency: 3 },
  fanPower: 1500,
  pumpShareHeating: 0.01,
  pumpShareCooling: 0.02,
  hotWater: { fuel: "wood", efficiency: 0.5, deliveryTemperature: 55, mainsTemperature: 10 },
} as const;
const loads = { heating: 900 * KWH, cooling: 300 * KWH, lighting: 50 * KWH, appliances: 70 * KWH, fanAir: 2.4e6, hotWater: 1000 };
const use = (u: EndUse) => fuelUse(loads, services).find((r) => r.use === u);

describe("plain services", () => {
  it("turn heat into fuel by efficiency", () => {
    expect(use("heating")).toEqual({ use: "heating", fuel: "gas", energy: 1000 * KWH });
    expect((use("cooling")?.energy ?? 0) / KWH).toBeCloseTo(100, 9);
  });
  it("run fans by the air moved and pumps by the heat moved, on electricity", () => {
    expect(use("fans")).toMatchObject({ fuel: "electricity", energy: 2.4e6 * 1500 });
    expect((use("pumps")?.energy ?? 0) / KWH).toBeCloseTo(9 + 6, 9);
  });
  it("heat water by its rise, and not when the tap is colder than the main", () => {
    expect(use("hot water")).toMatchObject({ fuel: "wood", energy: (1000 * WATER_HEAT * 45) / 0.5 });
    const cold = fuelUse(loads, { ...services, hotWater: { ...services.hotWater, deliveryTemperature: 20, mainsTemperature: 30 } });
    expect(cold.find((r) => r.use === "hot water")?.energy).toBe(0);
  });
  it("name every end use of the building once; exterior lighting is the site's", () => {
    // heat rejection and humidification are of systems alone
    expect([...fuelUse(loads, services).map((r) => r.use), "heat rejection", "humidification", "exterior lighting"].sort()).toEqual([...endUses].sort());
  });
});

describe("air", () => {
  it("has the density of the ideal gas: 1.204 kg/m³ at 20 °C and sea level, a sixth less at 1,600 m", () => {
    expect(airDensity(20, 101325)).toBeCloseTo(1.204, 3);
    expect(airDensity(20, 83524) / airDensity(20, 101325)).toBeCloseTo(0.824, 3);
  });
});
