import { describe, expect, it } from "vitest";
import { placeProblems, weatherProblems, type WeatherYear } from "../climate/index.ts";
import { personWater } from "../inputs/index.ts";
import { applyChanges, type Project } from "../model/index.ts";
import { runToEnd, type Summary } from "../results/index.ts";
import { boxProject, steadyWeather, type BoxOptions } from "../verification/box.ts";
import { compile, projectWeather } from "./index.ts";

const edited = (o: BoxOptions, edit: (p: Project) => void): Project => {
  const p = JSON.parse(JSON.stringify(boxProject(o))) as Project;
  edit(p);
  return p;
};
const weather = projectWeather(boxProject()) as WeatherYear;
const summer = { stepsPerHour: 1, period: { firstDay: 150, days: 30 } };
const run = (p: Project): Summary => runToEnd(p, weather, summer).summary;
const incident = (s: Summary, role: string): number => s.faces.filter((f) => f.role === role).reduce((t, f) => t + f.incident, 0);

describe("what stands around a building", () => {
  it("takes sun from the ground: fins and a block across lower what a window gets beyond the sky they hide", () => {
    const window = (edit: (p: Project) => void): number => incident(run(edited({ glass: 0.3 }, edit)), "glass");
    const pale = (p: Project): void => void (p.site.albedo = new Array<number>(12).fill(0.6));
    const dark = (p: Project): void => void (p.site.albedo = new Array<number>(12).fill(0));
    const fins = (p: Project): void =>
      void (p.shades.fins = { kind: "fins", name: "Fins", target: { kind: "opening", opening: "south" }, sides: "both", depth: 1.5, gap: 0, extension: 0 });
    const ground = (edit: (p: Project) => void): number =>
      window((p) => {
        pale(p);
        edit(p);
      }) -
      window((p) => {
        dark(p);
        edit(p);
      });
    const open = ground(() => undefined);
    expect(ground(fins)).toBeLessThan(0.95 * open);
    expect(ground(fins)).toBeGreaterThan(0.4 * open);
    const across = (p: Project): void =>
      void (p.surroundings.b = { kind: "block", name: "Block", x: 4, y: -6, width: 40, depth: 4, angle: 0, base: 0, height: 12 });
    expect(ground(across)).toBeLessThan(0.9 * open);
  });
  it("keeps a wall from the cold of the sky: its view is what is left of the half sphere", () => {
    const view = (edit: (p: Project) => void): number => {
      const m = compile(edited({}, edit), weather, 1);
      const south = m.roles.findIndex((r, i) => r === "walls" && Math.abs(m.classAzimuth[m.orientation[i]] - 180) < 1);
      return m.skyView[south];
    };
    // F·√F of an upright wall in the open, Walton 1983
    expect(view(() => undefined)).toBeCloseTo(0.5 * Math.SQRT1_2, 9);
    const hidden = view((p) => (p.surroundings.b = { kind: "block", name: "Block", x: 4, y: -4, width: 80, depth: 2, angle: 0, base: 0, height: 40 }));
    expect(hidden).toBeLessThan(0.2 * 0.5 * Math.SQRT1_2);
  });
  it("far off in another building changes no film of this one", () => {
    const one = compile(boxProject(), weather, 1);
    const two = compile(
      edited({ second: { heating: 20, cooling: 27 } }, (p) => {
        const form = p.spaces.b.form as Extract<Project["spaces"][string]["form"], { kind: "prism" }>;
        for (const c of form.outline) c.x += 200;
      }),
      weather,
      1,
    );
    for (let i = 0; i < one.opaqueEnd; i++) expect(two.forced[two.keys.indexOf(one.keys[i])]).toBeCloseTo(one.forced[i], 12);
    // beside each other their walls are one longer façade
    const beside = compile(boxProject({ second: { heating: 20, cooling: 27 } }), weather, 1);
    const south = one.keys.findIndex((_, i) => one.roles[i] === "walls" && Math.abs(one.classAzimuth[one.orientation[i]] - 180) < 1);
    expect(beside.forced[beside.keys.indexOf(one.keys[south])]).toBeLessThan(one.forced[south]);
  });
});

describe("light through panes", () => {
  it("comes through the glass alone: a frame of 30 % takes 30 % of every direct weight", () => {
    const weights = (frameShare: number): Float64Array => {
      const p = edited({ glass: 0.4, panes: true }, (q) => {
        q.sensors.s = { name: "Desk", space: "a", x: 4, y: 3, height: 0.8, share: 1 };
        (q.glazings.glass as { frameShare: number }).frameShare = frameShare;
      });
      return compile(p, weather, 1).daylight.sensors[0].windows[0].weights;
    };
    const [bare, framed] = [weights(0), weights(0.3)];
    expect(bare.length).toBeGreaterThan(10);
    bare.forEach((w, i) => expect(framed[i]).toBeCloseTo(0.7 * w, 12));
  });
});

describe("hot water per person", () => {
  it("follows the people day by day: the fullest day draws what was typed, one without people nothing", () => {
    const p = edited({}, (q) => {
      const profile = (value: number) => ({ name: String(value), values: Array.from({ length: 24 }, (_, h) => (h >= 8 && h < 18 ? value : 0)) });
      q.schedules.work = {
        name: "Work",
        kind: "fraction",
        profiles: { full: profile(1), half: profile(0.5), none: profile(0) },
        weeks: [{ id: "y", from: [1, 1], to: [12, 31], days: ["full", "full", "full", "full", "full", "half", "none", "none"] }],
      };
      Object.assign(q.spaceTypes.box.inputs, { peopleGiven: "count", peopleCount: 10, peopleSchedule: "work", hotWaterPerPerson: 3 });
    });
    const week = runToEnd(p, weather, { stepsPerHour: 1, period: { firstDay: 0, days: 7 } });
    expect(week.summary.hotWater).toBeCloseTo((10 * 3 * 5.5) / 1000, 9);
    const daily = Array.from({ length: 7 }, (_, d) => week.fuel.water.subarray(24 * d, 24 * d + 24).reduce((t, v) => t + v, 0));
    // and in a year of the same weeks 52 times as much, with the weekdays that are left over: what the inspector tells
    expect(personWater(p, "a")).toBeCloseTo(runToEnd(p, weather, { stepsPerHour: 1 }).summary.hotWater, 9);
    // 1 January is a Monday here
    expect(daily[0]).toBeCloseTo(0.03, 9);
    expect(daily[5]).toBeCloseTo(0.015, 9);
    expect(daily[6]).toBe(0);
  });
});

describe("the place of a weather year", () => {
  it("is told where it is another than the project's, and taken over by the fix", () => {
    const p = boxProject();
    expect(placeProblems(p.site, weather)).toEqual([]);
    const there: WeatherYear = { ...weather, latitude: 45.2, longitude: p.site.longitude + 0.5, elevation: 12, timeZone: -6 };
    const [problem] = placeProblems(p.site, there);
    expect(problem.message).toContain("45.2°");
    expect(problem.message).toContain("UTC−6");
    const mended = applyChanges(p, problem.fix?.changes ?? []);
    if (!mended.ok) throw new Error(mended.message);
    expect(placeProblems(mended.project.site, there)).toEqual([]);
    // half a degree and 200 m are the same town
    expect(placeProblems(p.site, { ...weather, latitude: weather.latitude + 0.5, elevation: weather.elevation + 200 })).toEqual([]);
    // over the date line two places may be near each other
    expect(placeProblems({ ...p.site, longitude: -179.8 }, { ...weather, longitude: 179.9 })).toEqual([]);
  });
  it("is wrong where the sun shines at night", () => {
    expect(weatherProblems(weather)).toEqual([]);
    const east = { ...weather, longitude: 75, name: "moved" };
    expect(weatherProblems(east)[0].message).toMatch(/In hour \d+ of the weather year "moved" there is sun of \d+ W\/m² while it is below the horizon/);
    const lamp = steadyWeather(10);
    lamp.globalHorizontal[2] = 200;
    expect(() => compile(boxProject(), lamp, 1)).toThrow(/In hour 3 .* below the horizon/);
  });
});
