import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { projectWeather } from "../simulate/index.ts";
import { boxProject } from "../verification/box.ts";
import { implausible, runToEnd, type Outlier, type Summary } from "./index.ts";

/** A box as an office is: people, lighting, some air. */
function office(edit: (p: Project) => void = () => undefined): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.2, weight: "heavy", cooling: 26 }))) as Project;
  Object.assign(p.spaceTypes.box.inputs, {
    peopleDensity: 0.08,
    peopleSchedule: "day",
    lightingPower: 8,
    lightingSchedule: "day",
    outdoorAirPerPerson: 0.01,
    outdoorAirSchedule: "day",
    hotWaterPerPerson: 8,
  });
  edit(p);
  return p;
}
const run = (p: Project): Summary => runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour: 1, summaryOnly: true }).summary;
const of = (all: readonly Outlier[], figure: string): Outlier | undefined => all.find((o) => o.figure === figure);

describe("what is implausible", () => {
  it("is nothing in a usual building", () => {
    const p = office();
    expect(implausible(p, run(p))).toEqual([]);
  });

  it("is an energy far too large, by a chain that ends at the input that made it, with its origin", () => {
    const p = office((q) => (q.spaces.a.inputs.infiltration = 20));
    const found = of(implausible(p, run(p)), "intensity");
    expect(found?.value).toBeGreaterThan(600);
    const words = found?.chain.map((l) => l.words) ?? [];
    expect(words[0]).toBe("Site energy");
    expect(words[1]).toContain("heating");
    expect(words[2]).toContain("infiltration");
    const last = found?.chain[found.chain.length - 1];
    expect(last?.address).toBe("spaces/a/inputs/infiltration");
    expect(last?.value).toBe(20);
    expect(last?.origin?.kind).toBe("typed");
  });

  it("is water in litres a day typed as a hundred times as much, and air per person by the cubic metre", () => {
    const wet = office((q) => (q.spaceTypes.box.inputs.hotWaterPerPerson = 450));
    const water = of(implausible(wet, run(wet)), "hotWater");
    expect(water?.value).toBeGreaterThan(200);
    expect(water?.chain.map((l) => l.address)).toContain("spaces/a/inputs/hotWaterPerPerson");
    const windy = office((q) => (q.spaceTypes.box.inputs.outdoorAirPerPerson = 0.5));
    const air = of(implausible(windy, run(windy)), "outdoorAir");
    expect(air?.chain[1].address).toBe("spaces/a/inputs/outdoorAirPerPerson");
  });

  it("is not asked of a part of a year", () => {
    const p = office((q) => (q.spaces.a.inputs.infiltration = 20));
    const week = runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour: 1, summaryOnly: true, period: { firstDay: 0, days: 7 } }).summary;
    expect(implausible(p, week)).toEqual([]);
  });

  it("is told where rooms are too cold for hundreds of hours, with the room", () => {
    const p = office((q) => (q.zones.a.inputs.heatingCapacity = 300));
    const r = runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour: 4, summaryOnly: true }).summary;
    const unmet = of(implausible(p, r), "unmet");
    expect(unmet?.value).toBeGreaterThan(300);
    expect(unmet?.chain.some((l) => l.address === "zones/a")).toBe(true);
  });
});
