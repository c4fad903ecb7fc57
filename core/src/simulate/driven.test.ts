import { describe, expect, it } from "vitest";
import { deriveWeather, type WeatherYear } from "../climate/index.ts";
import { driveProblems, driveTargets, drivenInputs } from "../inputs/index.ts";
import { readingsHash, type LoggedReadings, type Readings } from "../logged/index.ts";
import { applyChanges, COMMON_YEAR, parseProject, samePhysics, type Drive, type LoggedPoint, type Project } from "../model/index.ts";
import { physicsHash } from "../options/index.ts";
import { runToEnd, seriesHash, sizeProject, type RunResult } from "../results/index.ts";
import { systemChanges } from "../services/index.ts";
import { expandSchedule } from "../use/index.ts";
import { boxProject, daily } from "../verification/box.ts";
import { minutesOf } from "../weatherFile/index.ts";
import { checkProject, projectWeather } from "./index.ts";

const WEEK = { stepsPerHour: 4, period: { firstDay: 20, days: 7 } } as const;
const hourly = (of: (h: number) => number, hours = 8760, at: Readings["at"] = "interval"): Readings => ({
  start: minutesOf(2025, 1, 1),
  interval: 60,
  at,
  values: Float64Array.from({ length: hours }, (_, h) => of(h)),
});

/** A project with points that drive inputs, and their readings. */
function driven(
  p: Project,
  list: readonly { input: string; unit: string; readings: Readings; point?: Partial<LoggedPoint>; drive?: Partial<Drive> }[],
): {
  project: Project;
  logged: LoggedReadings;
} {
  const points: Record<string, LoggedPoint> = {};
  const drives: Record<string, Drive> = {};
  const logged: Record<string, Readings> = {};
  list.forEach(({ input, unit, readings, point, drive }, i) => {
    const hash = readingsHash(readings);
    logged[hash] = readings;
    points[`p${i}`] = { name: `Point ${i}`, unit, hash, ...point };
    drives[`d${i}`] = { point: `p${i}`, input, ...drive };
  });
  const read = parseProject(JSON.parse(JSON.stringify({ ...p, points, drives })));
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return { project: read.project, logged };
}
const weatherOf = (p: Project, logged: LoggedReadings = {}): WeatherYear => projectWeather(p, { weather: null, logged }) as WeatherYear;
const run = ({ project, logged }: ReturnType<typeof driven>, settings: Parameters<typeof runToEnd>[2] = WEEK): RunResult =>
  runToEnd(project, weatherOf(project, logged), settings);
const plain = (p: Project, settings: Parameters<typeof runToEnd>[2] = WEEK): RunResult => runToEnd(p, weatherOf(p), settings);
const box = (): Project =>
  JSON.parse(JSON.stringify(boxProject({ glass: 0.3, heating: 20, cooling: 24, setback: 15, weight: "heavy", gains: 400 }))) as Project;

describe("a drive of what is there anyway", () => {
  it("changes nothing to the bit: set-points, hours in use and the weather", () => {
    const p = box();
    const w = weatherOf(p);
    const inUse = p.spaceTypes.box.inputs.conditioningSchedule ?? p.spaces[Object.keys(p.spaces)[0]].inputs.conditioningSchedule;
    const on = typeof inUse === "string" ? expandSchedule(p.schedules[inUse], p.calendar) : new Float64Array(8760).fill(1);
    const same = driven(p, [
      { input: "zones/a/inUse", unit: "1", readings: hourly((h) => on[h]) },
      { input: "weather/dryBulb", unit: "°C", readings: hourly((h) => w.dryBulb[h], 8760, "stamp") },
      { input: "weather/globalHorizontal", unit: "W/m²", readings: hourly((h) => w.globalHorizontal[h]) },
    ]);
    expect(seriesHash(run(same))).toBe(seriesHash(plain(p)));
    // one set-point day and night: by what is typed, and by what is logged
    const held = box();
    Object.assign(held.spaceTypes.box.inputs, { heatingSetpoint: 19.5, heatingSetback: 19.5 });
    for (const x of Object.values(held.spaces)) Object.assign(x, { inputs: {} });
    expect(seriesHash(run(driven(held, [{ input: "zones/a/heatingSetpoint", unit: "°C", readings: hourly(() => 19.5) }])))).toBe(seriesHash(plain(held)));
  });
  it("changes nothing to the bit in a system, whose supply follows a reset outside the period it is driven in", () => {
    const p = box();
    const made = applyChanges(p, systemChanges(p, "variable", "boiler and chiller", ["a"], "Air"));
    if (!made.ok) throw new Error(made.message);
    const project = JSON.parse(JSON.stringify(made.project)) as Project;
    const system = Object.keys(project.airSystems)[0];
    project.resets.r = { name: "Supply", cold: { outdoor: -5, value: 18 }, warm: { outdoor: 15, value: 14 } };
    Object.assign(project.airSystems[system].inputs, { supplyTemperature: "resets/r" });
    const input = `airSystems/${system}/inputs/supplyTemperature`;
    const sizes = { zones: {}, components: Object.fromEntries(sizeProject(project, weatherOf(project)).components.map((c) => [c.address, c.value])) };
    const settings = { ...WEEK, sizes };
    const before = plain(project, settings);
    const later = driven(project, [{ input, unit: "°C", readings: hourly(() => 30), drive: { from: [7, 1], to: [7, 31] } }]);
    expect(seriesHash(run(later, settings))).toBe(seriesHash(before));
    const constant = JSON.parse(JSON.stringify(project)) as Project;
    Object.assign(constant.airSystems[system].inputs, { supplyTemperature: 16 });
    const sixteen = driven(constant, [{ input, unit: "°C", readings: hourly(() => 16) }]);
    expect(seriesHash(run(sixteen, settings))).toBe(seriesHash(plain(constant, settings)));
    // and driven to another it is another
    const warm = driven(constant, [{ input, unit: "°C", readings: hourly(() => 19) }]);
    expect(seriesHash(run(warm, settings))).not.toBe(seriesHash(plain(constant, settings)));
  });
});

describe("a drive", () => {
  it("holds its room at the measured set-point, and falls back where the data end", () => {
    const p = driven(box(), [{ input: "zones/a/heatingSetpoint", unit: "°F", readings: hourly(() => 75.2, 24 * 23) }]);
    const r = run(p);
    const air = r.series.find((s) => s.quantity === "operativeTemperature" || s.quantity === "airTemperature")?.values ?? new Float64Array(0);
    // data end with day 23: three days of the week are held at 24 °C, the rest as before
    expect(air[24 * 2 + 12]).toBeGreaterThan(23.9);
    expect(air[24 * 5 + 5]).toBeLessThan(21);
    const [d] = drivenInputs(p.project, p.logged, COMMON_YEAR);
    expect([d.hours, d.fallback]).toEqual([24 * 23, 0]);
  });
  it("of power gives the room just that power, undimmed and shared among its parts", () => {
    const p = driven(box(), [
      { input: "zones/a/appliances", unit: "kW", readings: hourly((h) => (h % 24 >= 8 && h % 24 < 18 ? 1.5 : 0.2)) },
      { input: "zones/a/lighting", unit: "W", readings: hourly(() => 250) },
    ]);
    Object.assign(p.project.spaceTypes.box.inputs, { lightingPower: 8 });
    const { energy } = run(p).summary;
    const use = (name: string): number => energy.endUses.filter((u) => u.use === name).reduce((a, u) => a + u.total, 0);
    expect(use("appliances")).toBeCloseTo(7 * (10 * 1.5 + 14 * 0.2), 6);
    expect(use("lighting")).toBeCloseTo(7 * 24 * 0.25, 6);
  });
  it("of people brings their heat, and their absence takes it away", () => {
    const p = box();
    Object.assign(p.spaceTypes.box.inputs, { peopleDensity: 0.1, peopleSensible: 70, peopleSchedule: null });
    const by = (n: number): number => run(driven(p, [{ input: "zones/a/people", unit: "1", readings: hourly(() => n) }])).summary.loads.heating.total;
    expect(by(0)).toBeGreaterThan(by(10));
    const all = plain(p).summary.loads.heating.total;
    const [area] = [plain(p).summary.floorArea];
    expect(by(0.1 * area)).toBeCloseTo(all, 6);
  });
  it("of the outdoor temperature moves the year, and its gaps up to three hours are bridged", () => {
    const p = box();
    const w = weatherOf(p);
    const gap = (h: number): boolean => h >= 500 && h < 502;
    const long = (h: number): boolean => h >= 600 && h < 610;
    const d = driven(p, [{ input: "weather/dryBulb", unit: "°C", readings: hourly((h) => (gap(h) || long(h) ? NaN : w.dryBulb[h] - 3), 8760, "stamp") }]);
    const colder = weatherOf(d.project, d.logged);
    expect(colder.dryBulb[400]).toBeCloseTo(w.dryBulb[400] - 3, 12);
    expect(colder.dryBulb[500]).toBeCloseTo(w.dryBulb[499] - 3 + (w.dryBulb[502] - w.dryBulb[499]) / 3, 9);
    expect(colder.dryBulb[605]).toBe(w.dryBulb[605]);
    expect(deriveWeather(colder).humidityRatio[400]).toBeLessThan(deriveWeather(w).humidityRatio[400]);
    const [x] = drivenInputs(d.project, d.logged, COMMON_YEAR);
    expect([x.hours, x.bridged, x.fallback]).toEqual([8750, 2, 10]);
    expect(run(d).summary.loads.heating.total).toBeGreaterThan(plain(p).summary.loads.heating.total);
  });
  it("belongs to the physics of a project, as its point's readings do and its name does not", () => {
    const { project } = driven(box(), [{ input: "zones/a/people", unit: "1", readings: hourly(() => 3) }]);
    const other = (change: Partial<LoggedPoint>): Project => ({ ...project, points: { p0: { ...(project.points?.p0 as LoggedPoint), ...change } } });
    expect(physicsHash(other({ name: "Renamed", tags: ["a"] }))).toBe(physicsHash(project));
    expect(physicsHash(other({ offset: 1 }))).not.toBe(physicsHash(project));
    expect(samePhysics(project, other({ offset: 1 }))).toBe(false);
    expect(samePhysics(project, { ...project, pairs: [] })).toBe(true);
  });
  it("is not part of sizing", () => {
    const p = box();
    const d = driven(p, [{ input: "zones/a/heatingSetpoint", unit: "°C", readings: hourly(() => 30) }]);
    expect(sizeProject(d.project, weatherOf(d.project, d.logged)).zones).toEqual(sizeProject(p, weatherOf(p)).zones);
  });
  it("that cannot be is told with its place", () => {
    const messages = (list: Parameters<typeof driven>[1], more: Partial<Project> = {}): string[] =>
      driveProblems({ ...driven(box(), list).project, ...more }).map((x) => `${x.path}: ${x.message}`.replace(/\u00a0/g, " "));
    const reading = hourly(() => 20, 48);
    expect(messages([{ input: "zones/a/heatingSetpoint", unit: "kW", readings: reading }])[0]).toMatch(/drives\/d0: "Point 0" is in kW.*in °C/);
    expect(messages([{ input: "zones/x/heatingSetpoint", unit: "°C", readings: reading }])[0]).toMatch(/no input "zones\/x/);
    const two = { input: "zones/a/people", unit: "1", readings: reading };
    expect(messages([two, two])[0]).toMatch(/driven twice at once, by "Point 1" and by "Point 0"|driven twice at once, by "Point 0" and by "Point 1"/);
    expect(
      messages([
        { ...two, drive: { from: [1, 1], to: [2, 28] } },
        { ...two, drive: { from: [3, 1], to: [4, 30] } },
      ]),
    ).toEqual([]);
    const pair = { id: "x", point: "p0", series: { of: "zone", id: "a", quantity: "airTemperature" } } as const;
    expect(messages([{ input: "zones/a/heatingSetpoint", unit: "°C", readings: reading }], { pairs: [pair] })[0]).toMatch(/a fault .* does not show/);
    const gone = driven(box(), [two]);
    expect(() => weatherOf(gone.project)).toThrow(/readings of "Point 0" are not at hand/);
    expect(checkProject({ ...gone.project, points: {} }).problems.some((x) => x.stage === "measured" && x.severity === "error")).toBe(true);
  });
  it("can be of anything that follows a signal or a schedule, each once", () => {
    const p = box();
    p.schedules.day = daily("Day", (h) => (h > 6 ? 1 : 0));
    const made = applyChanges(p, systemChanges(p, "variable", "boiler and chiller", ["a"], "Air"));
    if (!made.ok) throw new Error(made.message);
    const inputs = driveTargets(made.project).map((t) => t.input);
    expect(new Set(inputs).size).toBe(inputs.length);
    for (const end of ["inputs/supplyTemperature", "inputs/hours", "/windows", "weather/windSpeed"])
      expect(
        inputs.some((i) => i.endsWith(end)),
        end,
      ).toBe(true);
  });
});
