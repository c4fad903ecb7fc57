import { describe, expect, it } from "vitest";
import closed from "../verification/closedForms.json" with { type: "json" };
import { boxProject, steadyWeather, type BoxOptions } from "../verification/box.ts";
import { ProjectError } from "../model/index.ts";
import { cos, DEG, sin } from "../numeric/index.ts";
import { projectWeather } from "../simulate/index.ts";
import type { WeatherYear } from "../climate/index.ts";
import { comfortVapourPressure, predictedMeanVote, runHash, runProject, runToEnd, seriesHash, summarySchema, type RunResult, type Summary } from "./index.ts";

const run = (o: BoxOptions = {}, steps = 4, weather?: WeatherYear, period?: { firstDay: number; days: number }): RunResult => {
  const p = boxProject(o);
  return runToEnd(p, weather ?? (projectWeather(p) as WeatherYear), { stepsPerHour: steps, ...(period ? { period } : {}) });
};
const kWh = (r: RunResult): { heating: number; cooling: number } => ({ heating: r.summary.loads.heating.total, cooling: r.summary.loads.cooling.total });

/** Heat through walls, roof and floor over the run, kWh. */
const fabric = (s: Summary): number => [...s.flows.walls, ...s.flows.roof, ...s.flows.ground].reduce((a, b) => a + b, 0);

describe("the steady state", () => {
  // long, still, sunless: heat delivered must be what the balance of the box says, zone air against outdoors
  it("delivers what leaves: conduction and air, to the watt", () => {
    const r = run({ gains: 0, infiltration: 0.5, cooling: null }, 4, steadyWeather(0), { firstDay: 60, days: 10 });
    const heating = r.summary.loads.heating.total / 240;
    const flow = (name: keyof typeof r.summary.flows): number => r.summary.flows[name].reduce((a, b) => a + b, 0) / 240;
    expect(flow("heating") + fabric(r.summary) / 240 + flow("infiltration") + flow("storage")).toBeCloseTo(0, 4);
    // density of 0 °C air carries the typed air changes
    const expected = ((0.5 * 129.6) / 3600) * (101325 / (287.042 * 273.15)) * (1006 + 1860 * 0.0019);
    expect((-flow("infiltration") * 1000) / 20 / expected).toBeCloseTo(1, 2);
    expect(heating).toBeGreaterThan(0);
  });
  it("adds a watt of gain as nearly a watt less of heating: its radiant part warms the walls and is partly lost", () => {
    const days = { firstDay: 60, days: 10 };
    const without = run({ gains: 0, cooling: null }, 4, steadyWeather(0), days).summary.loads.heating.total;
    const withGain = run({ gains: 100, cooling: null }, 4, steadyWeather(0), days).summary.loads.heating.total;
    const spared = (without - withGain) / (0.1 * 240);
    expect(spared).toBeLessThan(1);
    expect(spared).toBeGreaterThan(0.9);
  });
  it("meets UA with the films of the run: halving the resistance of the quilt raises the loss between its bounds", () => {
    const days = { firstDay: 60, days: 10 };
    const loss = (insulation: number): number => -fabric(run({ gains: 0, infiltration: 0, cooling: null, insulation }, 4, steadyWeather(0), days).summary);
    const ratio = loss(0.05) / loss(0.1);
    expect(ratio).toBeGreaterThan(1.4);
    expect(ratio).toBeLessThan(2);
  });
});

describe("thermostats", () => {
  it("hold the set-point exactly while there is capacity", () => {
    const r = run({ heating: 21, cooling: 24, gains: 300, glass: 0.4 });
    expect(r.summary.zones[0].temperature.min).toBeCloseTo(21, 9);
    expect(r.summary.zones[0].temperature.max).toBeCloseTo(24, 9);
    expect(r.summary.unmetHours).toBe(0);
  });
  it("let the zone float when it is neither heated nor cooled", () => {
    const r = run({ heating: null, cooling: null, glass: 0.3 });
    expect(kWh(r)).toEqual({ heating: 0, cooling: 0 });
    expect(r.summary.floorArea).toBe(0);
    expect(r.summary.zones[0].temperature.max).toBeGreaterThan(30);
  });
  it("stop at capacity: the zone cools down and the hours are counted", () => {
    const p = boxProject({ heating: 20, gains: 100, heatingCapacity: 800 });
    p.spaceTypes.box.inputs.peopleDensity = 0.01;
    const r = runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour: 4 });
    expect(r.summary.peaks.heating.power).toBeCloseTo(800, 6);
    expect(r.summary.zones[0].temperature.min).toBeLessThan(19);
    expect(r.summary.zones[0].unmetHours.heating).toBeGreaterThan(10);
    expect(r.summary.unmetHours).toBe(r.summary.zones[0].unmetHours.heating);
  });
});

describe("the books", () => {
  it.each<[string, BoxOptions]>([
    ["a light box", { glass: 0.4 }],
    ["a heavy box with setback", { weight: "heavy", glass: 0.4, setback: 12 }],
    ["a free-floating box", { heating: null, cooling: null, glass: 0.5 }],
    ["two rooms with a wall between", { glass: 0.3, second: { heating: 16, cooling: 30 } }],
  ])("of %s close", (_name, o) => {
    expect(run(o).summary.closure).toBeLessThan(1e-10);
  });
});

describe("what must follow from physics", () => {
  it("more insulation never raises heating where there is neither sun nor gain", () => {
    const days = { firstDay: 0, days: 60 };
    const heating = [0.03, 0.066, 0.1, 0.2].map((insulation) => run({ insulation, gains: 0, cooling: null }, 1, undefined, days).summary.loads.heating.total);
    for (let i = 1; i < heating.length; i++) expect(heating[i]).toBeLessThan(heating[i - 1]);
  });
  it("an overhang cuts cooling and leaves or raises heating", () => {
    const bare = kWh(run({ glass: 0.5 }, 1));
    const shaded = kWh(run({ glass: 0.5, overhang: 1.2 }, 1));
    expect(shaded.cooling).toBeLessThan(0.9 * bare.cooling);
    expect(shaded.heating).toBeGreaterThanOrEqual(bare.heating);
  });
  it("mass cuts both loads of a sunny box, and setback cuts heating", () => {
    const light = kWh(run({ glass: 0.5 }, 1));
    const heavy = kWh(run({ glass: 0.5, weight: "heavy" }, 1));
    expect(heavy.cooling).toBeLessThan(light.cooling);
    expect(heavy.heating).toBeLessThan(light.heating);
    expect(kWh(run({ setback: 10 }, 1)).heating).toBeLessThan(kWh(run({}, 1)).heating);
  });
  it("a free-floating light box swings more than a heavy one", () => {
    const swing = (weight: "light" | "heavy"): number => {
      const t = run({ heating: null, cooling: null, glass: 0.4, weight }, 1).summary.zones[0].temperature;
      return t.max - t.min;
    };
    expect(swing("heavy")).toBeLessThan(swing("light"));
  });
  it("a warm neighbour spares heating", () => {
    const cold = run({ second: { heating: 10, cooling: null } }, 1).summary.zones[0].heating;
    const warm = run({ second: { heating: 22, cooling: null } }, 1).summary.zones[0].heating;
    expect(warm).toBeLessThan(cold);
  });
  it.each([15, 90, 217])("a building drawn turned by %d° on a plan turned back gives the same loads", (degrees) => {
    const straight = boxProject({ glass: 0.4, overhang: 1, second: { heating: 18, cooling: 28 }, planNorth: 20.3 });
    const turned = boxProject({ glass: 0.4, overhang: 1, second: { heating: 18, cooling: 28 }, planNorth: 20.3 - degrees });
    const c = cos(degrees * DEG);
    const s = sin(degrees * DEG);
    for (const space of Object.values(turned.spaces))
      if (space.form.kind === "prism") space.form.outline = space.form.outline.map((p) => ({ id: p.id, x: p.x * c + p.y * s, y: -p.x * s + p.y * c }));
    const w = projectWeather(straight) as WeatherYear;
    const period = { firstDay: 80, days: 40 };
    const a = runToEnd(straight, w, { stepsPerHour: 1, period });
    const b = runToEnd(turned, w, { stepsPerHour: 1, period });
    // outlines are kept to 10 µm, which is what limits the agreement of turned corners
    const limit = degrees === 90 ? 1e-9 : 1e-5;
    for (const load of ["heating", "cooling"] as const) {
      const total = a.summary.loads[load].total;
      expect(total).toBeGreaterThan(1);
      for (const z of [0, 1]) expect(Math.abs(b.summary.zones[z][load] - a.summary.zones[z][load]) / total).toBeLessThan(limit);
    }
  });
  it("the step hardly matters: 4 against 12 an hour change the year by less than 1 %", () => {
    const coarse = kWh(run({ glass: 0.4, setback: 15 }, 4));
    const fine = kWh(run({ glass: 0.4, setback: 15 }, 12));
    expect(Math.abs(coarse.heating / fine.heating - 1)).toBeLessThan(0.01);
    expect(Math.abs(coarse.cooling / fine.cooling - 1)).toBeLessThan(0.01);
  });
});

describe("a run", () => {
  it("yields once a day and can be left at any time", () => {
    const p = boxProject();
    const gen = runProject(p, projectWeather(p) as WeatherYear, { stepsPerHour: 1 });
    const first = gen.next();
    expect(first.value).toEqual({ done: 1, of: 390, phase: "warm-up" });
    gen.return(undefined as never);
    expect(gen.next().done).toBe(true);
  });
  it("gives the same bits every time, and its summary fits its schema", () => {
    const a = run({ glass: 0.3 }, 1);
    const b = run({ glass: 0.3 }, 1);
    expect(seriesHash(a)).toBe(seriesHash(b));
    expect(summarySchema.safeParse(a.summary).success).toBe(true);
  });
  it("is named by what matters to it and by nothing else", () => {
    const p = boxProject();
    const w = projectWeather(p) as WeatherYear;
    const settings = { stepsPerHour: 4 };
    expect(runHash({ ...p, name: "Renamed", evidence: { x: { note: "y" } } }, w, settings)).toBe(runHash(p, w, settings));
    expect(runHash(boxProject({ insulation: 0.1 }), w, settings)).not.toBe(runHash(p, w, settings));
    expect(runHash(p, w, { stepsPerHour: 1 })).not.toBe(runHash(p, w, settings));
  });
  it("of a broken project throws its problems", () => {
    const p = boxProject();
    p.spaces.a.zone = null;
    expect(() => runToEnd(p, steadyWeather(0), { stepsPerHour: 1 })).toThrow(ProjectError);
  });
  it("keeps the series it is asked for, as hourly means", () => {
    const p = boxProject({ glass: 0.3 });
    const r = runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour: 2, series: ["sun", "infiltration"] });
    const sun = r.series.find((s) => s.quantity === "sun");
    expect(sun?.values.length).toBe(8760);
    const total = (sun?.values.reduce((a, b) => a + b, 0) ?? 0) / 1000;
    expect(total / r.summary.flows.sun.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
    expect(() => runToEnd(p, steadyWeather(0), { stepsPerHour: 1, series: ["noise"] })).toThrow(/noise/);
  });
});

describe("a period", () => {
  it("keeps no series where the summary alone is wanted, which is the same but for its fingerprint", () => {
    const p = boxProject({ glass: 0.3, gains: 300 });
    const w = projectWeather(p) as WeatherYear;
    const period = { firstDay: 20, days: 15 };
    const whole = runToEnd(p, w, { stepsPerHour: 1, period });
    const lean = runToEnd(p, w, { stepsPerHour: 1, period, summaryOnly: true });
    expect(lean.series).toEqual([]);
    expect(whole.series.length).toBeGreaterThan(4);
    expect(lean.summary).toEqual({ ...whole.summary, fingerprint: "", timing: lean.summary.timing });
    expect(summarySchema.parse(lean.summary)).toEqual(lean.summary);
  });
  it("of six hours is the start of the day it begins, and a project's own period is taken where none is asked for", () => {
    const hours = run({ glass: 0.3 }, 4, undefined, { firstDay: 40, days: 0.25 });
    const day = run({ glass: 0.3 }, 4, undefined, { firstDay: 40, days: 1 });
    const air = (r: RunResult): Float64Array => r.series.find((s) => s.quantity === "airTemperature")?.values as Float64Array;
    expect(air(hours)).toHaveLength(6);
    expect([...air(hours)]).toEqual([...air(day).slice(0, 6)]);
    expect(hours.summary.counted.steps).toBe(24);
    expect(hours.summary.energy.intensity).toBeNull();
    const own = runToEnd(
      { ...boxProject({ glass: 0.3 }), run: { ...boxProject().run, period: { from: [2, 10], days: 1 } } },
      projectWeather(boxProject()) as WeatherYear,
      { stepsPerHour: 4 },
    );
    expect(own.summary.fingerprint).toBe(day.summary.fingerprint);
  });
  it("of two years carries the weekdays on: the first day of the second falls a day later in the week", () => {
    const p = boxProject({ gains: 500, heating: null, cooling: null });
    const weekly = { ...p.schedules.day, weeks: [{ ...p.schedules.day.weeks[0], days: ["on", "d", "d", "d", "d", "d", "d", "d"] }] };
    const project = {
      ...p,
      schedules: {
        day: { ...weekly, profiles: { d: { name: "off", values: new Array<number>(24).fill(0) }, on: { name: "on", values: new Array<number>(24).fill(1) } } },
      },
      spaceTypes: { box: { ...p.spaceTypes.box, inputs: { ...p.spaceTypes.box.inputs, applianceSchedule: "day" } } },
    };
    const r = runToEnd(project, projectWeather(p) as WeatherYear, { stepsPerHour: 1, period: { firstDay: 363, days: 12 }, series: ["appliances"] });
    const gains = r.series.find((s) => s.quantity === "appliances")?.values as Float64Array;
    const days = Array.from({ length: 12 }, (_, d) => (gains[24 * d + 12] > 0 ? 363 + d : -1)).filter((d) => d >= 0);
    // 1 January is a Monday; day 364 is Monday again, and the Monday after it is day 371, in the second year
    expect(days).toEqual([364, 371]);
  });
});

describe("predicted mean vote", () => {
  it.each(closed.pmv.table)("at $ta / $tr °C, $va m/s, $met met, $clo clo", (q) => {
    const r = predictedMeanVote({ air: q.ta, radiant: q.tr, speed: q.va, vapour: comfortVapourPressure(q.ta, q.rh / 100), met: q.met, clo: q.clo });
    expect(r.pmv).toBeCloseTo(q.pmv, 4);
    expect(r.ppd).toBeCloseTo(q.ppd, 3);
    expect(r.clothing).toBeCloseTo(q.t_cl, 4);
  });
});
