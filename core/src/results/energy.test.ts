import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { compile, projectWeather } from "../simulate/index.ts";
import { boxProject } from "../verification/box.ts";
import { runToEnd, type Summary } from "./index.ts";

const weather = projectWeather(boxProject()) as WeatherYear;

/** A box with people, lights, air and services of every kind. */
function building(edit: (p: Project) => void = () => undefined): Project {
  const p = boxProject({ glass: 0.4, gains: 200, weight: "heavy" });
  Object.assign(p.spaceTypes.box.inputs, {
    peopleDensity: 0.05,
    peopleSchedule: "day",
    lightingPower: 8,
    lightingSchedule: "day",
    outdoorAirPerPerson: 0.008,
    outdoorAirSchedule: "day",
    hotWaterPerPerson: 12,
    humidifySetpoint: 35,
    dehumidifySetpoint: 55,
  });
  p.services.plain = {
    name: "Plain",
    heating: { fuel: "gas", efficiency: 0.9 },
    cooling: { fuel: "electricity", efficiency: 3 },
    fanPower: 1500,
    pumpShareHeating: 0.02,
    pumpShareCooling: 0.03,
    heatRecovery: { sensible: 0.6, latent: 0 },
    hotWater: { fuel: "district heat", efficiency: 0.8, deliveryTemperature: 55, mainsTemperature: 11 },
  };
  edit(p);
  return p;
}
const run = (p: Project, period?: { firstDay: number; days: number }, stepsPerHour = 1): Summary => runToEnd(p, weather, { stepsPerHour, period }).summary;
const sum = (v: readonly number[]): number => v.reduce((a, x) => a + x, 0);

describe("energy of a year", () => {
  const s = run(building());
  const use = (name: string): Summary["energy"]["endUses"][number] => {
    const rows = s.energy.endUses.filter((u) => u.use === name);
    expect(rows).toHaveLength(1);
    return rows[0];
  };

  it("turns loads into fuel month by month, moisture with the coil that handles it", () => {
    const { heating, cooling, humidification, dehumidification } = s.loads;
    expect(humidification.total).toBeGreaterThan(0);
    expect(dehumidification.total).toBeGreaterThan(0);
    for (let m = 0; m < 12; m++) {
      expect(use("heating").monthly[m]).toBeCloseTo((heating.monthly[m] + humidification.monthly[m]) / 0.9, 6);
      expect(use("cooling").monthly[m]).toBeCloseTo((cooling.monthly[m] + dehumidification.monthly[m]) / 3, 6);
      expect(use("pumps").monthly[m]).toBeCloseTo(
        0.02 * (heating.monthly[m] + humidification.monthly[m]) + 0.03 * (cooling.monthly[m] + dehumidification.monthly[m]),
        6,
      );
    }
    expect(use("heating").fuel).toBe("gas");
    expect(use("hot water").fuel).toBe("district heat");
  });
  it("counts lights, appliances, fans and hot water by their hours", () => {
    // the box's day runs from 7 to 23 o'clock
    expect(use("lighting").total).toBeCloseTo((8 * 48 * 16 * 365) / 1000, 6);
    expect(use("appliances").total).toBeCloseTo((200 * 8760) / 1000, 6);
    const people = 0.05 * 48;
    expect(use("fans").total).toBeCloseTo((0.008 * people * 3600 * 16 * 365 * 1500) / 3.6e6, 6);
    // litres a day and person, drawn while people are there
    expect(use("hot water").total).toBeCloseTo((12 * people * 365 * 4186 * 44) / 0.8 / 3.6e6, 6);
  });
  it("adds up: totals to months, intensity to the floor, cost, carbon and primary energy by fuel", () => {
    const p = building();
    for (const u of s.energy.endUses) expect(u.total).toBeCloseTo(sum(u.monthly), 9);
    const all = sum(s.energy.endUses.map((u) => u.total));
    expect(s.floorArea).toBeCloseTo(48, 9);
    expect(s.energy.intensity).toBeCloseTo(all / 48, 9);
    const weighed = (by: Readonly<Record<string, number>>): number => sum(s.energy.endUses.map((u) => u.total * by[u.fuel]));
    expect(s.energy.cost).toBeCloseTo(weighed(p.prices.perKWh), 9);
    expect(s.energy.carbon).toBeCloseTo(weighed(p.factors.carbon), 9);
    expect(s.energy.primary).toBeCloseTo(weighed(p.factors.primary), 9);
  });
  it("is no intensity where the period is not a year, and is the sum of its parts where it is cut in two", () => {
    const halves = [run(building(), { firstDay: 0, days: 181 }), run(building(), { firstDay: 181, days: 184 })];
    for (const h of halves) expect(h.energy.intensity).toBeNull();
    const both = sum(halves.map((h) => h.loads.heating.total));
    // each half warms up on the days before it: the seams differ by little
    expect(Math.abs(both / s.loads.heating.total - 1)).toBeLessThan(0.002);
    expect(halves[0].loads.heating.monthly.slice(6)).toEqual(new Array(6).fill(0));
  });
  it("of a zone that is neither heated nor cooled counts no floor, but its lights", () => {
    const p = building((q) =>
      Object.assign(q.spaceTypes.box.inputs, {
        heatingSetpoint: null,
        coolingSetpoint: null,
        heatingSetback: null,
        coolingSetback: null,
        humidifySetpoint: null,
      }),
    );
    const free = run(p);
    expect(free.floorArea).toBe(0);
    expect(free.energy.intensity).toBeNull();
    expect(sum(free.energy.endUses.filter((u) => u.use === "lighting").map((u) => u.total))).toBeGreaterThan(0);
  });
});

describe("peaks and hours unmet", () => {
  it("are the largest powers, told with the end of their step", () => {
    const r = runToEnd(building(), weather, { stepsPerHour: 1 });
    const of = (q: string): Float64Array => (r.series.find((x) => x.quantity === q) as { values: Float64Array }).values;
    for (const [q, at] of [
      ["heating", r.summary.peaks.heating],
      ["cooling", r.summary.peaks.cooling],
    ] as const) {
      const series = of(q);
      const hour = series.indexOf(Math.max(...series));
      expect(at.power).toBeCloseTo(series[hour], 6);
      const [date, time] = (at.at as string).split(" ");
      const [month, day] = date.split("-").map(Number);
      const days = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31].slice(0, month - 1).reduce((a, b) => a + b, 0) + day - 1;
      expect(24 * days + Number(time.slice(0, 2))).toBe(hour + 1);
    }
  });
  it("count an occupied hour once, by the tolerance that was set, and none where nobody is", () => {
    const weak = (tolerance: number, edit: (p: Project) => void = () => undefined): Summary =>
      run(
        building((p) => {
          p.zones.a.inputs = { heatingCapacity: 800, coolingCapacity: null };
          p.run.unmetTolerance = tolerance;
          edit(p);
        }),
        { firstDay: 0, days: 40 },
        4,
      );
    const usual = weak(0.5);
    expect(usual.unmetHours).toBeGreaterThan(50);
    expect(usual.unmetHours).toBe(usual.zones[0].unmetHours.heating);
    expect(usual.unmetHours).toBeLessThanOrEqual(40 * 16);
    expect(weak(3).unmetHours).toBeLessThan(usual.unmetHours as number);
    // hours of use count without people too, and so do people out of those hours; with neither nothing is unmet
    const nobody = weak(0.5, (p) => (p.spaceTypes.box.inputs.peopleDensity = 0));
    expect(nobody.unmetHours).toBeGreaterThan(50);
    expect(nobody.zones[0].comfort).toBeNull();
    const idle = (p: Project): void => {
      p.schedules.never = { ...p.schedules.day, profiles: { d: { name: "d", values: new Array<number>(24).fill(0) } } };
      p.spaceTypes.box.inputs.conditioningSchedule = "never";
    };
    const present = weak(0.5, idle);
    expect(present.unmetHours).toBeGreaterThan(0);
    expect(present.zones[0].comfort?.hours).toBe(usual.zones[0].comfort?.hours);
    expect(
      weak(0.5, (p) => {
        idle(p);
        p.spaceTypes.box.inputs.peopleDensity = 0;
      }).unmetHours,
    ).toBe(0);
    // what holds its set-point holds it within rounding: no hour is unmet without any tolerance
    expect(weak(0, (p) => (p.zones.a.inputs = { heatingCapacity: null, coolingCapacity: null })).unmetHours).toBe(0);
  });
});

describe("use as it is known", () => {
  const at = (edit: (p: Project) => void) => run(building(edit), undefined);
  const total = (s: Summary, use: string): number => sum(s.energy.endUses.filter((u) => u.use === use).map((u) => u.total));
  const plain = at(() => undefined);
  it("a yearly energy of the whole building comes out as its part of it", () => {
    const s = at((p) => {
      p.known.lighting = 5000;
      p.known.area = 4 * 48;
      p.spaceTypes.box.inputs.lightingGiven = "share of yearly energy";
    });
    expect(total(s, "lighting")).toBeCloseTo(1250, 6);
  });
  it("hot water known for a building comes out as its part, over the efficiency of what heats it", () => {
    const s = at((p) => {
      p.spaceTypes.box.inputs.hotWaterPerPerson = 0;
      p.drawPoints.taps = {
        kind: "known",
        name: "Taps",
        schedule: "day",
        space: null,
        sensible: 0,
        latent: 0,
        of: "energy",
        yearly: 20000,
        area: 480,
        modelled: null,
      };
    });
    expect(total(s, "hot water")).toBeCloseTo(2000 / 0.8, 6);
    // the part of its heat that stays warms the room
    const warm = at((p) => {
      p.drawPoints.taps = {
        kind: "known",
        name: "Taps",
        schedule: null,
        space: null,
        sensible: 0.25,
        latent: 0,
        of: "energy",
        yearly: 20000,
        area: 480,
        modelled: null,
      };
    });
    expect(warm.loads.heating.total).toBeLessThan(plain.loads.heating.total - 100);
    expect(sum(warm.flows.appliances) - sum(plain.flows.appliances)).toBeCloseTo(500, 6);
    expect(total(warm, "appliances")).toBeCloseTo(total(plain, "appliances"), 9);
  });
  it("devices draw all their power and leave their part in the room, standby at all times", () => {
    const s = at((p) => {
      p.deviceLists.list = {
        name: "List",
        devices: [{ id: "hood", name: "Range under a hood", number: 2, power: 1000, standby: 100, running: 0.5, sensible: 0.3, latent: 0.1 }],
      };
      Object.assign(p.spaceTypes.box.inputs, { applianceGiven: "device list", deviceList: "list", applianceSchedule: "day" });
    });
    // 2·100 W always, 2·0.5·900 W more for 16 hours a day
    const energy = (200 * 8760 + 900 * 16 * 365) / 1000;
    expect(total(s, "appliances")).toBeCloseTo(energy, 6);
    expect(sum(s.flows.appliances)).toBeCloseTo(0.3 * energy, 6);
    expect(s.closure).toBeLessThan(1e-9);
  });
  it("exterior lighting from dusk to dawn is on for half of the year's hours, and warms nothing", () => {
    const dusk = at((p) => (p.siteLights.yard = { name: "Yard", power: 500, control: "dusk", schedule: null }));
    expect(total(dusk, "exterior lighting")).toBeGreaterThan(0.49 * 0.5 * 8760);
    expect(total(dusk, "exterior lighting")).toBeLessThan(0.51 * 0.5 * 8760);
    const [site] = dusk.energy.endUses.filter((u) => u.use === "exterior lighting");
    // longer nights in December than in June, north of the equator
    expect(site.monthly[11]).toBeGreaterThan(1.3 * site.monthly[5]);
    expect(dusk.loads.heating.total).toBe(plain.loads.heating.total);
    expect(total(dusk, "lighting")).toBe(total(plain, "lighting"));
    const timed = at((p) => (p.siteLights.sign = { name: "Sign", power: 500, control: "schedule", schedule: "day" }));
    expect(total(timed, "exterior lighting")).toBeCloseTo((500 * 16 * 365) / 1000, 6);
  });
  it("a free area cools as drawn windows do, turned with the plan, within its limits", () => {
    const open = (more: object, edit: (p: Project) => void = () => undefined) =>
      at((p) => {
        Object.assign(p.spaceTypes.box.inputs, {
          windowGiven: "free area",
          windowFreeArea: 1.5,
          windowFreeHeight: 1.2,
          windowOpenAbove: 23,
          coolingSetpoint: null,
          coolingSetback: null,
          dehumidifySetpoint: null,
          humidifySetpoint: null,
          ...more,
        });
        edit(p);
      });
    const closed = open({ windowFreeArea: 0 });
    const opened = open({});
    expect(sum(closed.flows.openedAir)).toBe(0);
    expect(sum(opened.flows.openedAir)).toBeLessThan(-50);
    expect(opened.zones[0].temperature.max).toBeLessThan(closed.zones[0].temperature.max - 1);
    // it stays closed where it may not be as warm outdoors, so less heat is carried off
    expect(sum(open({ windowOutdoorMost: 15 }).flows.openedAir)).toBeGreaterThan(sum(opened.flows.openedAir) + 10);
    expect(sum(open({ windowIndoorMost: 24 }).flows.openedAir)).toBeGreaterThan(sum(opened.flows.openedAir) + 10);
    // it turns with the plan, as its walls do
    const facing = (direction: number, planNorth: number): number =>
      compile(
        building((p) => {
          Object.assign(p.spaceTypes.box.inputs, { windowGiven: "free area", windowFreeArea: 1.5, windowDirection: direction });
          p.site.planNorth = planNorth;
        }),
        weather,
        1,
      ).windows[0][0].azimuth;
    expect([facing(180, 0), facing(90, 90), facing(180, -200)]).toEqual([180, 180, 340]);
  });
});
