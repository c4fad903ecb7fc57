import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { dailyMeans, type WeatherYear } from "../climate/index.ts";
import { projectWeather } from "../simulate/index.ts";
import { designDays, loadComponents, sizeProject, sizingSchema, type Peak } from "./index.ts";

const project = boxProject({ glass: 0.4, gains: 200, second: { heating: 18, cooling: null } });
const weather = projectWeather(project) as WeatherYear;
const sizing = sizeProject(project, weather);
const sum = (p: Peak): number => loadComponents.reduce((s, c) => s + (p.components[c] ?? 0), 0);

describe("design days", () => {
  it("are harder than 99 % of the year but not its extremes", () => {
    const { winter, summer } = designDays(weather);
    const means = dailyMeans(weather);
    expect(means.filter((t) => t < means[winter]).length).toBe(3);
    expect(means.filter((t) => t > means[summer]).length).toBe(3);
  });
});

describe("sizing", () => {
  it("fits its schema and reaches a cyclic state", () => {
    expect(sizingSchema.safeParse(sizing).success).toBe(true);
    expect(sizing.warnings).toEqual([]);
    expect(sizing.winter.daysToCyclic).toBeLessThan(90);
    expect(sizing.summer.daysToCyclic).toBeLessThan(90);
  });
  it("explains each peak by its components, but for what the air itself stores", () => {
    for (const zone of sizing.zones) {
      expect(-sum(zone.heating) / zone.heating.power).toBeCloseTo(1, 1);
      if (zone.cooling.power > 0) expect(sum(zone.cooling) / zone.cooling.power).toBeCloseTo(1, 1);
    }
  });
  it("takes winter without sun or gains and summer with them", () => {
    const a = sizing.zones[0];
    expect(a.heating.components).toMatchObject({ sun: 0, people: 0, lighting: 0, appliances: 0 });
    expect(a.cooling.components.sun).toBeGreaterThan(500);
    expect(a.cooling.components.appliances).toBeCloseTo(200, 6);
    expect(a.cooling.at).toMatch(/^1[2-8]:/);
  });
  it("is for a working day, whatever year the calendar names and whatever holidays it has", () => {
    const office = boxProject({ glass: 0.4, gains: 1500 });
    const flat = (value: number) => ({ name: String(value), values: new Array<number>(24).fill(value) });
    office.schedules.work = {
      name: "Work",
      kind: "fraction",
      profiles: { on: flat(1), off: flat(0) },
      weeks: [{ id: "y", from: [1, 1], to: [12, 31], days: ["on", "on", "on", "on", "on", "off", "off", "off"] }],
    };
    office.spaceTypes.box.inputs.applianceSchedule = "work";
    const { cooling } = sizeProject(office, weather, 1).building;
    expect(cooling.components.appliances).toBeCloseTo(1500, 6);
    const { summer } = designDays(weather);
    const date = new Date(Date.UTC(2023, 0, 1 + summer));
    const holidays = [{ id: "h", name: "Fair", month: date.getUTCMonth() + 1, day: date.getUTCDate() }];
    for (const year of [2023, 2024, 2025, 2026, 2027, 2028]) {
      const named = { ...office, calendar: { ...office.calendar, year, holidays } };
      expect(sizeProject(named, weather, 1).building.cooling.power).toBeCloseTo(cooling.power, 6);
    }
  });
  it("is coincident for the building: never above the sum of its zones", () => {
    for (const load of ["heating", "cooling"] as const) {
      const zones = sizing.zones.reduce((s, z) => s + z[load].power, 0);
      expect(sizing.building[load].power).toBeLessThanOrEqual(zones + 1e-9);
      expect(sizing.building[load].power).toBeGreaterThan(0.5 * zones);
    }
    expect(sizing.zones[1].cooling).toMatchObject({ power: 0, at: null });
  });
  it("does not stop at the capacity that was typed", () => {
    const limited = boxProject({ glass: 0.4, heatingCapacity: 100 });
    expect(sizeProject(limited, weather).zones[0].heating.power).toBeGreaterThan(500);
  });
  it("grows with the loss: less insulation, more power", () => {
    const power = (insulation: number): number => sizeProject(boxProject({ insulation }), weather).building.heating.power;
    expect(power(0.03)).toBeGreaterThan(1.2 * power(0.1));
  });
});
