import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { relativeHumidity, type WeatherYear } from "../climate/index.ts";
import { flowNames, projectWeather, quantityNames, faceQuantities, zoneQuantities } from "../simulate/index.ts";
import { runToEnd, type RunResult } from "./index.ts";

const project = boxProject({ glass: 0.4, panes: true, gains: 400, second: { heating: 18, cooling: null } });
Object.assign(project.spaceTypes.box.inputs, { peopleDensity: 0.05, outdoorAirPerPerson: 0.008, humidifySetpoint: 30 });
const weather = projectWeather(project) as WeatherYear;
const period = { firstDay: 100, days: 9 };
const everything = quantityNames.filter((q) => q !== "moltenShare");
const run: RunResult = runToEnd(project, weather, { stepsPerHour: 4, period, series: everything });
const of = (quantity: string, scope: string, r: RunResult = run): Float64Array => {
  const found = r.series.find((s) => s.quantity === quantity && s.scope === scope);
  if (!found) throw new Error(`no ${quantity} of ${scope}`);
  return found.values;
};
const sum = (a: ArrayLike<number>): number => Array.from(a).reduce((x, y) => x + y, 0);
const zones = ["a", "b"];
const HOURS = 24 * period.days;

describe("hourly series", () => {
  it("are there for every quantity that was asked for, each as long as the run and finite where it is defined", () => {
    for (const q of zoneQuantities)
      for (const z of zones) {
        const values = of(q.name, z);
        expect(values).toHaveLength(HOURS);
        // they are carried by the flows of an airflow network, which this building has not
        if (q.name === "carbonDioxide" || q.name === "ageOfAir") continue;
        expect(
          values.every((v) => Number.isFinite(v)),
          q.name,
        ).toBe(true);
      }
    for (const q of faceQuantities) if (q.name !== "moltenShare") expect(run.series.some((s) => s.quantity === q.name)).toBe(true);
    for (const s of run.series) expect([s.start, s.step, s.kind]).toEqual([2400, 3600, "mean"]);
  });

  it("of all flows of a zone add up to nothing in every hour", () => {
    // the series' names of two flows differ from the balance's, which tells heating and cooling by sign
    for (const z of zones)
      for (let h = 0; h < HOURS; h++) {
        let net = 0;
        let gross = 0;
        for (const name of flowNames) {
          const q = name === "cooling" ? -of("cooling", z)[h] : of(name, z)[h];
          net += q;
          gross += Math.abs(q);
        }
        expect(Math.abs(net)).toBeLessThan(1e-9 * Math.max(1, gross));
      }
  });

  it("sum up to the summary's months", () => {
    const months = (name: string): number => sum(run.summary.flows[name as keyof typeof run.summary.flows]);
    for (const name of ["sun", "glassSun", "people", "appliances", "walls", "glass", "infiltration", "outdoorAir", "storage"])
      expect(sum(zones.map((z) => sum(of(name, z)) / 1000))).toBeCloseTo(months(name), 9);
    expect(sum(zones.map((z) => sum(of("heating", z)) / 1000))).toBeCloseTo(run.summary.loads.heating.total, 9);
    expect(sum(zones.map((z) => sum(of("cooling", z)) / 1000))).toBeCloseTo(run.summary.loads.cooling.total, 9);
    expect(sum(zones.map((z) => sum(of("humidification", z)) / 1000))).toBeCloseTo(run.summary.loads.humidification.total, 9);
  });

  it("agree with each other: operative between air and radiant, relative humidity of the hour's air and moisture", () => {
    for (const z of zones)
      for (let h = 0; h < HOURS; h++) {
        const air = of("airTemperature", z)[h];
        expect(of("operativeTemperature", z)[h]).toBeCloseTo(0.5 * (air + of("radiantTemperature", z)[h]), 10);
        const rh = 100 * relativeHumidity(air, of("humidityRatio", z)[h], weather.pressure[2400 + h]);
        expect(of("relativeHumidity", z)[h]).toBeCloseTo(rh, 10);
        expect(of("lightingShare", z)[h]).toBe(1);
      }
  });

  it("of faces stay within what sun and glass allow", () => {
    const scopes = run.series.filter((s) => s.quantity === "transmittedSun").map((s) => s.scope);
    expect(scopes.length).toBeGreaterThan(0);
    const area = 0.4 * 8 * 2.7;
    for (const scope of scopes) {
      const incident = of("incidentSun", scope);
      const through = of("transmittedSun", scope);
      const lit = of("litShare", scope);
      for (let h = 0; h < HOURS; h++) {
        expect(incident[h]).toBeGreaterThanOrEqual(0);
        expect(through[h]).toBeLessThanOrEqual(0.86 * area * incident[h] + 1e-9);
        expect(lit[h]).toBeGreaterThanOrEqual(0);
        expect(lit[h]).toBeLessThanOrEqual(1);
      }
      expect(sum(through)).toBeGreaterThan(0);
      // what stays in the room is less than what came in by the little that leaves again
      expect(sum(of("sun", "a"))).toBeLessThan(sum(through));
      expect(sum(of("sun", "a"))).toBeGreaterThan(0.8 * sum(through));
    }
  });

  it("lie between the outside and the inside surface through the layers of a wall without sun, in the mean over days", () => {
    const north = run.series.find((s) => s.quantity === "outsideSurface" && s.scope.startsWith("a/n"))?.scope as string;
    const mean = (q: string, scope: string): number => sum(of(q, scope)) / HOURS;
    const outside = mean("outsideSurface", north);
    const inside = mean("insideSurface", north);
    const layers = run.series.filter((s) => s.quantity === "layerTemperature" && s.scope.startsWith(`${north} `)).map((s) => sum(s.values) / HOURS);
    expect(layers.length).toBeGreaterThan(2);
    expect(inside).toBeGreaterThan(outside);
    for (const t of layers) {
      expect(t).toBeGreaterThan(outside - 0.3);
      expect(t).toBeLessThan(inside + 0.3);
    }
    expect([...layers]).toEqual([...layers].sort((x, y) => x - y));
  });

  it("are the same hours however long the run goes on: of 6, of 30 and of 216 hours", () => {
    const longest = of("airTemperature", "a");
    for (const hours of [6, 24, 30]) {
      const r = runToEnd(project, weather, { stepsPerHour: 4, period: { firstDay: 100, days: hours / 24 } });
      for (const q of ["airTemperature", "relativeHumidity", "heating"]) {
        const values = of(q, "a", r);
        expect(values).toHaveLength(hours);
        expect([...values]).toEqual([...of(q, "a").slice(0, hours)]);
      }
    }
    expect(longest[HOURS - 1]).not.toBe(0);
  });

  it("of a name nobody knows are refused by that name, with those there are", () => {
    expect(() => runToEnd(project, weather, { stepsPerHour: 1, period, series: ["heatFlux"] })).toThrow(/"heatFlux"; known: airTemperature/);
  });
});
