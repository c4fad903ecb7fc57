import { describe, expect, it } from "vitest";
import { dailyMeans, vapourPressure, type WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { projectWeather } from "../simulate/index.ts";
import { expandSchedule } from "../use/index.ts";
import { boxProject } from "../verification/box.ts";
import { adaptiveBands, adaptiveLimits, adaptiveSide, dissatisfied, Person, runningMeans, runToEnd, vote, voteOf, type RunResult } from "./index.ts";

const weather = projectWeather(boxProject()) as WeatherYear;

/** A box with people by day, its temperature left to swing. */
function peopled(edit: (p: Project) => void = () => undefined): Project {
  const p = boxProject({ glass: 0.4, weight: "heavy", heating: 19, cooling: 27, setback: 15, gains: 400 });
  Object.assign(p.spaceTypes.box.inputs, {
    peopleDensity: 0.05,
    peopleSchedule: "day",
    metabolicRate: 1.2,
    clothingWinter: 1,
    clothingSummer: 0.5,
    airSpeed: 0.1,
  });
  edit(p);
  return p;
}
const SERIES = ["predictedMeanVote", "radiantTemperature", "humidityRatio", "operativeTemperature", "airTemperature"];
const run = (p: Project, period?: { firstDay: number; days: number }): RunResult => runToEnd(p, weather, { stepsPerHour: 1, period, series: SERIES });
const of = (r: RunResult, q: string): Float64Array => (r.series.find((s) => s.quantity === q) as { values: Float64Array }).values;

describe("a person by plain numbers", () => {
  it("votes as the formula does, and as what is worked out once for a loop does", () => {
    for (const [air, radiant, met, clo] of [
      [20, 22, 1.2, 1],
      [28, 26, 1.2, 0.5],
      [18, 18, 2, 0.9],
    ])
      expect(voteOf(new Person(met, clo, 0.15), air, radiant, 1300)).toBe(vote(air, radiant, 0.15, 1300, met, clo));
  });
  it("is warmer with clothes, activity and still air, and follows radiation about as it follows air", () => {
    const now = vote(22, 22, 0.1, 1300, 1.2, 0.7);
    expect(vote(22, 22, 0.1, 1300, 1.2, 1)).toBeGreaterThan(now);
    expect(vote(22, 22, 0.1, 1300, 1.6, 0.7)).toBeGreaterThan(now);
    expect(vote(22, 22, 0.5, 1300, 1.2, 0.7)).toBeLessThan(now);
    expect(vote(22, 22, 0.1, 2000, 1.2, 0.7)).toBeGreaterThan(now);
    const [byAir, byRadiation] = [vote(23, 22, 0.1, 1300, 1.2, 0.7) - now, vote(22, 23, 0.1, 1300, 1.2, 0.7) - now];
    expect(byRadiation / byAir).toBeGreaterThan(0.5);
    expect(byRadiation / byAir).toBeLessThan(1.5);
  });
  it("is dissatisfied least at neutral, and nearly always at the ends of the scale", () => {
    expect(dissatisfied(0)).toBeCloseTo(5, 12);
    // the standard's own points: 10 % at ±0.5, 26 % at ±1, 77 % at ±2
    expect(dissatisfied(0.5)).toBeCloseTo(10.2, 1);
    expect(dissatisfied(1)).toBeCloseTo(26.1, 1);
    expect(dissatisfied(2)).toBeCloseTo(76.8, 1);
    expect(dissatisfied(-3)).toBeGreaterThan(99);
  });
});

describe("limits of the adaptive bands", () => {
  it("lie about the comfort line of each standard, and agree with the side they tell", () => {
    const limits = adaptiveLimits(20);
    adaptiveBands.forEach((band, b) => {
      const [low, high] = [limits[2 * b], limits[2 * b + 1]];
      const comfort = band.startsWith("EN") ? 0.33 * 20 + 18.8 : 0.31 * 20 + 17.8;
      expect((low + high) / 2).toBeCloseTo(band.startsWith("EN") ? comfort - 0.5 : comfort, 9);
      expect(adaptiveSide(b, low - 0.01, 20)).toBe(-1);
      expect(adaptiveSide(b, low + 0.01, 20)).toBe(0);
      expect(adaptiveSide(b, high + 0.01, 20)).toBe(1);
    });
    // categories widen
    expect(limits[1] - limits[0]).toBeLessThan(limits[3] - limits[2]);
    expect(limits[3] - limits[2]).toBeLessThan(limits[5] - limits[4]);
  });
});

describe("comfort of a year", () => {
  const p = peopled();
  const r = run(p);
  const [zone] = r.summary.zones;
  const here = expandSchedule(p.schedules.day, p.calendar);
  const means = runningMeans(dailyMeans(weather));
  const [votes, operative, radiant, ratio, air] = ["predictedMeanVote", "operativeTemperature", "radiantTemperature", "humidityRatio", "airTemperature"].map(
    (q) => of(r, q),
  );

  it("is the standard's vote of every hour, in the clothes of the season", () => {
    for (let h = 0; h < 8760; h += 7) {
      const clo = means[Math.floor(h / 24)] < 15 ? 1 : 0.5;
      expect(votes[h]).toBeCloseTo(vote(air[h], radiant[h], 0.1, vapourPressure(ratio[h], weather.pressure[h]), 1.2, clo), 9);
    }
  });
  it("counts hours with people only: mean vote, the dissatisfied, the coldest and the warmest", () => {
    const at = [...votes.keys()].filter((h) => here[h] > 0);
    const comfort = zone.comfort as NonNullable<typeof zone.comfort>;
    expect(comfort.hours).toBe(at.length);
    expect(comfort.vote.mean).toBeCloseTo(at.reduce((s, h) => s + votes[h], 0) / at.length, 9);
    expect(comfort.dissatisfied).toBeCloseTo(at.reduce((s, h) => s + dissatisfied(votes[h]), 0) / at.length, 9);
    expect(comfort.vote.min).toBe(Math.min(...at.map((h) => votes[h])));
    expect(comfort.vote.max).toBe(Math.max(...at.map((h) => votes[h])));
    // outside of those hours it is colder here
    expect(Math.min(...votes)).toBeLessThan(comfort.vote.min);
  });
  it("counts hours outside each band by the running mean of the day, and tells those in which a band says nothing", () => {
    const comfort = zone.comfort as NonNullable<typeof zone.comfort>;
    comfort.outside.forEach((row, b) => {
      let [cold, warm, none] = [0, 0, 0];
      for (let h = 0; h < 8760; h++) {
        if (here[h] <= 0) continue;
        const side = adaptiveSide(b, operative[h], means[Math.floor(h / 24)]);
        if (Number.isNaN(side)) none++;
        else if (side < 0) cold++;
        else if (side > 0) warm++;
      }
      expect(row).toMatchObject({ band: adaptiveBands[b], cold, warm, undefined: none });
    });
    expect(comfort.outside.some((x) => x.cold + x.warm > 0)).toBe(true);
    expect(comfort.outside[0].undefined).toBeGreaterThan(1000);
  });
  it("is told of no zone without people", () => {
    const empty = run(
      peopled((q) => (q.spaceTypes.box.inputs.peopleDensity = 0)),
      { firstDay: 0, days: 3 },
    );
    expect(empty.summary.zones[0].comfort).toBeNull();
    expect(of(empty, "predictedMeanVote").every(Number.isFinite)).toBe(true);
  });
});
