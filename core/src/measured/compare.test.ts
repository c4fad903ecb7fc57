import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import { readingsHash, type LoggedReadings, type Readings } from "../logged/index.ts";
import { parseProject, type LoggedPoint, type Pair, type Project } from "../model/index.ts";
import { randomStream } from "../numeric/index.ts";
import { calibrationStudy, MISFIT, nearBest, nextTasks, pairKey, StudyMaker, studyTable, type StudyRow } from "../options/index.ts";
import { hoursOfRun, PointYears, readPair, runToEnd, seriesTable, type PairYear } from "../results/index.ts";
import { projectWeather } from "../simulate/index.ts";
import { boxProject } from "../verification/box.ts";
import { minutesOf } from "../weatherFile/index.ts";
import { oddWeeks, pairFigures, parseLinks, residualsOf, sensorOffset, splitFigures, suggestedSeries, withLinks } from "./index.ts";

const START = minutesOf(2025, 1, 1);
const hourly = (values: ArrayLike<number>): Readings => ({ start: START, interval: 60, at: "interval", values: Float64Array.from(values) });
const box = (infiltration: number): Project => {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.2, weight: "light" }))) as Project;
  for (const t of Object.values(p.spaceTypes)) Object.assign(t.inputs, { infiltration });
  p.calendar.year = 2025;
  return p;
};
const weatherOf = (p: Project): WeatherYear => projectWeather(p) as WeatherYear;

/** A project with one point of these readings and a pair of it. */
function paired(
  p: Project,
  unit: string,
  readings: Readings,
  series: Pair["series"],
  more: Partial<LoggedPoint> = {},
): { project: Project; logged: LoggedReadings } {
  const hash = readingsHash(readings);
  const read = parseProject(JSON.parse(JSON.stringify({ ...p, points: { t: { name: "T", unit, hash, ...more } }, pairs: [{ id: "t", point: "t", series }] })));
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return { project: read.project, logged: { [hash]: readings } };
}
/** The pair of a project over the year it gives. */
function yearOf({ project, logged }: { project: Project; logged: LoggedReadings }): { pair: PairYear; hourOf: Int32Array; weather: WeatherYear } {
  const weather = weatherOf(project);
  const result = runToEnd(project, weather, { stepsPerHour: 1, series: ["airTemperature", "heating"] });
  const table = seriesTable(result.series, weather, result.fuel);
  const points = new PointYears(project, logged, weather);
  const hourOf = hoursOfRun(table.hours, 0, [], points.days);
  const read = readPair(project, (project.pairs as Pair[])[0], points, table, hourOf);
  if (!read.ok) throw new Error(read.message);
  return { pair: read.of, hourOf, weather };
}

describe("a point beside a series", () => {
  const p = box(0.5);
  const weather = weatherOf(p);
  const outdoors: Pair["series"] = { of: "outdoors", id: "outdoors", quantity: "dryBulb" };
  it("that reads high is told, by day and by night, and in the unit of the series", () => {
    const sensor = hourly(weather.dryBulb.map((t, h) => 32 + 1.8 * (t + (weather.globalHorizontal[h] > 10 ? 1 : 2))));
    const { pair, hourOf } = yearOf(paired(p, "°F", sensor, outdoors));
    const offset = sensorOffset(pair, weather.globalHorizontal);
    expect([offset.day, offset.night]).toEqual([expect.closeTo(1, 9), expect.closeTo(2, 9)]);
    const figures = pairFigures(pair, hourOf);
    expect(figures.hour.bias).toBeCloseTo(-weather.globalHorizontal.reduce((s, g) => s + (g > 10 ? 1 : 2), 0) / 8760, 9);
    expect(figures.months).toHaveLength(12);
  });
  it("agrees with itself: nothing is left, and all is within the limits", () => {
    const { pair, hourOf } = yearOf(paired(p, "°C", hourly(weather.dryBulb), outdoors));
    const figures = pairFigures(pair, hourOf);
    expect([figures.hour.rmse, figures.hour.cvrmse, figures.deviation]).toEqual([0, 0, 0]);
    expect(figures.within).toEqual({ hour: true, month: true });
    expect(oddWeeks(pair)).toEqual([]);
  });
  it("stuck for two weeks stands out in just these, and what is masked counts nowhere", () => {
    const random = randomStream(3);
    const values = Float64Array.from(weather.dryBulb, (t) => t + 0.3 * random.normal());
    for (let h = 24 * 203; h < 24 * 217; h++) values[h] = weather.dryBulb[h] + 6;
    const { pair } = yearOf(paired(p, "°C", hourly(values), outdoors));
    expect(oddWeeks(pair).map((w) => w.week)).toEqual([29, 30]);
    expect(oddWeeks(pair)[0].bias).toBeLessThan(-5);
    const masked: PairYear = { ...pair, mask: pair.mask.map((_, h) => (h >= 24 * 203 && h < 24 * 217 ? 1 : 0)) };
    expect(residualsOf(masked)[24 * 210]).toBeNaN();
    expect(oddWeeks(masked)).toEqual([]);
    const inside = Float64Array.from({ length: 8760 }, (_, h) => (h >= 24 * 203 && h < 24 * 217 ? 1 : 0));
    const split = splitFigures(pair, inside);
    expect(split.inside.n).toBe(24 * 14);
    expect(split.inside.rmse).toBeGreaterThan(10 * split.outside.rmse);
  });
  it("that measures something else is refused", () => {
    expect(() => yearOf(paired(p, "kW", hourly(weather.dryBulb), outdoors))).toThrow(/measure different things/);
  });
  it("with power adds up over months, only in hours in which both are there", () => {
    const values = new Float64Array(8760).fill(2);
    values.fill(NaN, 0, 24 * 15);
    const { pair, hourOf } = yearOf(paired(p, "kW", hourly(values), { of: "zone", id: "a", quantity: "heating" }));
    const { ofMonths } = pairFigures(pair, hourOf);
    expect(pair.kind).toBe("sum");
    expect(ofMonths.measured[0]).toBeCloseTo(2000 * 24 * 16, 6);
    expect(ofMonths.hours[0]).toBe(24 * 16);
  });
});

describe("calibration", () => {
  it("finds the hidden infiltration within 10 % from noisy temperatures, and the held-out days agree", () => {
    const random = randomStream(11);
    const truth = box(0.9);
    const result = runToEnd(truth, weatherOf(truth), { stepsPerHour: 1, series: ["airTemperature"] });
    const air = result.series.find((s) => s.quantity === "airTemperature" && s.scope === "a")?.values as Float64Array;
    const { project, logged } = paired(box(0.4), "°C", hourly(Float64Array.from(air, (t, h) => (h % 97 === 5 ? NaN : t + 0.3 * random.normal()))), {
      of: "zone",
      id: "a",
      quantity: "airTemperature",
    });
    const study = calibrationStudy(
      "search",
      {
        axes: [
          {
            id: "leak",
            name: "Infiltration",
            addresses: ["spaceTypes/box/inputs/infiltration"],
            unit: "1/h",
            levels: [{ id: "l", value: 0.4 }],
            between: [0.1, 2],
          },
        ],
        pairs: ["t"],
        held: [
          [10, 1],
          [12, 31],
        ],
        trajectories: 2,
        population: 6,
        generations: 5,
        seed: 4,
        stepsPerHour: 1,
      },
      null,
    );
    const maker = new StudyMaker(project, study, () => null, undefined, logged);
    const rows: StudyRow[] = [];
    for (let tasks = nextTasks(project, study, rows); tasks.length > 0; tasks = nextTasks(project, study, rows))
      for (const t of tasks) rows.push({ ...t, ...maker.make(maker.prepare(t)) });
    expect(rows).toHaveLength(31);
    const table = studyTable(project, study, rows);
    const found = nearBest(table, MISFIT.key, 0.02);
    const leak = table.axes[0].values[found.best];
    expect(Math.abs(leak - 0.9) / 0.9).toBeLessThan(0.1);
    expect(found.spread[0][0]).toBeLessThanOrEqual(leak);
    const of = (key: string, row: number): number => table.outcomes.find((o) => o.key === key)?.values[row] ?? NaN;
    const base = table.index.indexOf(0);
    expect(of(MISFIT.key, found.best)).toBeLessThan(0.5 * of(MISFIT.key, base));
    expect(of(pairKey("held", "t"), found.best)).toBeLessThan(of(pairKey("held", "t"), base));
  }, 60000);
});

describe("links of a file", () => {
  const read = (name: string, unit: string) => ({
    column: 1,
    name,
    unit,
    kind: "reading" as const,
    readings: hourly([1, 2, 3]),
    coverage: 1,
    gaps: [],
    stuck: [],
  });
  it("make points of columns by their names, with what they drive and are compared with", () => {
    const parsed = parseLinks({
      formatVersion: 1,
      points: { room: { column: "Room temp" } },
      drives: { d: { point: "room", input: "zones/a/heatingSetpoint" } },
      pairs: [{ id: "p", point: "room", series: { of: "zone", id: "a", quantity: "airTemperature" } }],
    });
    if (!parsed.ok) throw new Error("refused");
    const made = withLinks(box(0.5), parsed.links, [read("Room temp", "°C")]);
    expect(made.ok && made.project.points?.room).toMatchObject({ name: "Room temp", unit: "°C" });
    expect(made.ok && Object.keys(made.logged)).toEqual([made.ok ? made.project.points?.room.hash : ""]);
    const none = withLinks(box(0.5), parsed.links, [read("Other", "°C")]);
    expect(none.ok ? [] : none.messages).toEqual(['points/room: The file has no column "Room temp"; it has "Other".']);
  });
  it("with a fault are refused at its place", () => {
    const parsed = parseLinks({ formatVersion: 1, points: { room: { colum: "x" } } });
    expect(parsed.ok ? [] : parsed.problems.map((x) => x.path)).toContain("points/room/column");
  });
});

describe("a point by its name", () => {
  it("is taken for the series it is like, and for none where it is like none", () => {
    const p = box(0.5);
    p.zones.a = { ...p.zones.a, name: "Workroom east" };
    const named = (name: string, unit: string) => suggestedSeries(p, { name, unit, hash: "" });
    expect(named("Roof sensor", "°C")).toEqual({ of: "outdoors", id: "outdoors", quantity: "dryBulb" });
    expect(named("Gas meter", "kW")).toEqual({ of: "building", id: "building", quantity: "fuel gas" });
    expect(named(`${p.zones.a.name} temperature`, "°C")).toEqual({ of: "zone", id: "a", quantity: "airTemperature" });
    expect(named(`${p.zones.a.name} sockets`, "kW")).toEqual({ of: "zone", id: "a", quantity: "appliances" });
    expect(named("Lift motor", "kW")).toBeNull();
  });
});
