import { describe, expect, it } from "vitest";
import { weatherHash, type WeatherYear } from "../climate/index.ts";
import { dateInRun, type Project } from "../model/index.ts";
import { projectWeather, sunStudy } from "../simulate/index.ts";
import { boxProject, steadyWeather, withLeapDay } from "../verification/box.ts";
import { runToEnd, sizeProject, summarySchema, type RunResult } from "./index.ts";

const common = projectWeather(boxProject()) as WeatherYear;
const leap = withLeapDay(common);
const sum = (v: ArrayLike<number>): number => Array.from(v).reduce((a, x) => a + x, 0);
const named = (p: Project, year: number | null): Project => ({ ...p, calendar: { ...p.calendar, year } });
/** A box with 200 W of appliances all year. */
const box = (): Project => boxProject({ glass: 0.3, gains: 200 });
const run = (p: Project, w: WeatherYear, settings: Partial<Parameters<typeof runToEnd>[2]> = {}): RunResult => runToEnd(p, w, { stepsPerHour: 1, ...settings });
const appliances = (r: RunResult): number => sum(r.summary.energy.endUses.filter((u) => u.use === "appliances").map((u) => u.total));
const series = (r: RunResult, quantity: string): Float64Array => r.series.find((s) => s.quantity === quantity)?.values as Float64Array;
const told = (r: RunResult): string[] => r.summary.warnings.filter((w) => w.startsWith("calendar"));

describe("a year with 29 February", () => {
  const r = run(named(box(), 2028), withLeapDay(common, 2028));

  it("runs 366 days, each with its gains and its place in every series", () => {
    expect(r.summary.period).toEqual({ firstDay: 0, days: 366, leapDays: [59] });
    expect(r.summary.energy.intensity).not.toBeNull();
    expect(appliances(r)).toBeCloseTo((200 * 8784) / 1000, 6);
    for (const s of r.series) expect(s.values).toHaveLength(8784);
    expect(r.summary.counted.steps).toBe(8784);
    const lights = r.summary.energy.endUses.find((u) => u.use === "appliances");
    expect(lights?.monthly[1]).toBeCloseTo(0.2 * 24 * 29, 6);
    expect(lights?.monthly[2]).toBeCloseTo(0.2 * 24 * 31, 6);
    expect(() => summarySchema.parse(r.summary)).not.toThrow();
    expect(told(r)).toEqual([]);
    expect(r.summary.closure).toBeLessThan(1e-10);
  });
  it("keeps its months: what is delivered by month is the sum of the series over it", () => {
    const heating = series(r, "heating");
    const from = 24 * 31;
    expect(r.summary.loads.heating.monthly[1]).toBeCloseTo(sum(heating.subarray(from, from + 24 * 29)) / 1000, 6);
    expect(r.summary.loads.heating.monthly[2]).toBeCloseTo(sum(heating.subarray(from + 24 * 29, from + 24 * 60)) / 1000, 6);
  });
  it("stamps a peak of that day with it", () => {
    const freeze = { ...leap, dryBulb: leap.dryBulb.map((t, h) => (h >= 24 * 59 + 6 && h < 24 * 60 ? t - 35 : t)) };
    expect(run(box(), freeze).summary.peaks.heating.at).toMatch(/^02-29 /);
    const warm = { ...common, dryBulb: common.dryBulb.map((t, h) => (h >= 24 * 364 ? t - 35 : t)) };
    expect(run(box(), withLeapDay(warm)).summary.peaks.heating.at).toMatch(/^12-31 /);
  });
  it("follows a calendar that has it, and a typical one as the weather does; of a common one the day is left out and said so", () => {
    expect(run(box(), leap).summary.period.days).toBe(366);
    const left = run(named(box(), 2027), leap);
    const plain = run(named(box(), 2027), common);
    expect(left.summary.period).toEqual({ firstDay: 0, days: 365 });
    expect(left.summary.fingerprint).toBe(plain.summary.fingerprint);
    // the run is told by the weather it was given
    expect(left.summary.weather).toBe(weatherHash(leap));
    expect(told(left)).toEqual(["calendar/year: The weather's 29 February is left out in 2027, which has none."]);
    expect(told(plain)).toEqual([]);
  });
  it("in the calendar alone is left out and said so, where the run passes it", () => {
    const r = run(named(box(), 2028), common);
    expect(r.summary.period).toEqual({ firstDay: 0, days: 365 });
    expect(told(r)).toHaveLength(1);
    expect(told(r)[0]).toMatch(/2028 has a 29 February and the weather year has none/);
    expect(told(run(named(box(), 2028), common, { period: { firstDay: 100, days: 5 } }))).toEqual([]);
  });
  it("of a measured year other than the calendar's is told", () => {
    expect(told(run(named(box(), 2032), withLeapDay(common, 2028)))[0]).toMatch(/measured in 2028 and the calendar names 2032/);
    expect(told(run(box(), withLeapDay(common, 2028)))).toEqual([]);
  });
});

describe("a period about the end of February", () => {
  const p = (from: [number, number], days: number): Project => ({ ...named(box(), 2028), run: { ...box().run, period: { from, days } } });
  it("begins on 29 February where it is asked to, and goes on with March", () => {
    const r = run(p([2, 29], 2), leap);
    expect(r.summary.period).toEqual({ firstDay: 59, days: 2, leapDays: [0] });
    expect(r.series[0].start).toBe(24 * 59);
    expect([0, 1].map((d) => dateInRun(59, r.summary.period.leapDays ?? [], d))).toEqual([
      [2, 29],
      [3, 1],
    ]);
    expect(r.summary.loads.heating.monthly[1]).toBeGreaterThan(0);
    expect(r.summary.loads.heating.monthly[2]).toBeGreaterThan(0);
  });
  it("from March on is the same March in both kinds of year", () => {
    const steady = steadyWeather(0);
    const a = run(p([3, 1], 5), withLeapDay({ ...steady }));
    expect(a.series[0].start).toBe(24 * 60);
    expect(a.summary.period.firstDay).toBe(59);
    expect(a.summary.loads.heating.monthly.map((v) => v > 0)).toEqual([false, false, true, ...new Array<boolean>(9).fill(false)]);
  });
  it("of three years has the day in the leap year only, each weekday where the calendar has it", () => {
    const weekly = box();
    weekly.schedules.monday = {
      name: "Mondays",
      kind: "fraction",
      profiles: { off: { name: "off", values: new Array<number>(24).fill(0) }, on: { name: "on", values: new Array<number>(24).fill(1) } },
      weeks: [{ id: "w", from: [1, 1], to: [12, 31], days: ["on", "off", "off", "off", "off", "off", "off", "off"] }],
    };
    weekly.spaceTypes.box.inputs.applianceSchedule = "monday";
    const from = Date.UTC(2027, 1, 20);
    const count = 380;
    const r = run({ ...named(weekly, 2027), run: { ...weekly.run, period: { from: [2, 20], days: count } } }, leap, { series: ["appliances"] });
    const gains = series(r, "appliances");
    expect(gains).toHaveLength(24 * count);
    const { firstDay, leapDays = [] } = r.summary.period;
    expect(leapDays).toEqual([(Date.UTC(2028, 1, 29) - from) / 86400000]);
    for (let d = 0; d < count; d++) {
      const date = new Date(from + d * 86400000);
      expect(gains[24 * d + 12] > 0).toBe(date.getUTCDay() === 1);
      expect(dateInRun(firstDay, leapDays, d)).toEqual([date.getUTCMonth() + 1, date.getUTCDate()]);
    }
    expect(told(r)).toEqual(["calendar/year: The weather's 29 February is left out in 2027, which has none."]);
  });
});

describe("beside the run", () => {
  it("optimum start knows the hours of use of a second year", () => {
    const p = boxProject({ setback: 14 });
    p.spaceTypes.box.inputs.optimumStart = 6;
    const cold = steadyWeather(-5);
    const r = runToEnd(p, cold, { stepsPerHour: 4, period: { firstDay: 360, days: 10 } });
    const heating = series(r, "heating");
    const days = Array.from({ length: 10 }, (_, d) => Array.from(heating.subarray(24 * d, 24 * d + 24)));
    // under the same sky every day is the same, in the new year as in the old one
    for (const d of [6, 7, 8, 9]) for (let h = 0; h < 24; h++) expect(Math.abs(days[d][h] - days[4][h])).toBeLessThan(0.02 * Math.max(...days[4]));
    // and warming up begins before seven o'clock
    expect(days[8][6]).toBeGreaterThan(days[8][3] + 100);
  });
  it("design days are found among 366, and a missing value is told with its hour of 8784", () => {
    const frost = { ...leap, dryBulb: leap.dryBulb.map((t, h) => (Math.floor(h / 24) >= 57 && Math.floor(h / 24) <= 61 ? t - 60 : t)) };
    // 0.4 % of 8784 hours are 35 of the 120 that are frozen; the coldest month is the one they lie in
    const { days } = sizeProject(box(), frost);
    expect(days[0].highest).toBeLessThan(Math.min(...leap.dryBulb) - 20);
    expect(days[0].date).toBe("02-21");
    const broken = { ...leap, infrared: null, pressure: leap.pressure.slice() };
    expect(() => run(named(box(), 2028), { ...broken, pressure: broken.pressure.fill(NaN, 8783) })).toThrow(/In hour 8784 of the weather year/);
    // in a common year too, which would pass over a day of it
    expect(() => run(named(box(), 2027), { ...broken, pressure: leap.pressure.slice().fill(NaN, 8783) })).toThrow(/In hour 8784 of the weather year/);
    expect(() => run(named(box(), 2027), { ...leap, windSpeed: common.windSpeed })).toThrow(/has 8760 hours of wind speed; 8784 are needed/);
  });
  it("a sun study takes the day with February and with the year, and no other month", () => {
    const total = (w: WeatherYear, from: number, days: number): number => {
      const study = sunStudy(box(), w, { from, days });
      for (;;) {
        const step = study.next();
        if (step.done) return (step.value.find((f) => f.host.endsWith("/ceiling")) ?? step.value[0]).total;
      }
    };
    const day = total(leap, 58, 1);
    expect(total(leap, 31, 28) - total(common, 31, 28)).toBeGreaterThan(0.7 * day);
    expect(total(leap, 31, 28) - total(common, 31, 28)).toBeLessThan(1.3 * day);
    expect(total(leap, 59, 31) / total(common, 59, 31)).toBeCloseTo(1, 2);
    const extra = total(leap, 0, 365) - total(common, 0, 365);
    expect(extra).toBeGreaterThan(0.5 * day);
    expect(extra).toBeLessThan(1.5 * day);
  });
});
