import { describe, expect, it } from "vitest";
import { applyChanges, parseProject, setChange, type Change, type Project } from "../model/index.ts";
import { systemChanges, type SystemChoice } from "../services/index.ts";
import { projectWeather } from "../simulate/index.ts";
import { boxProject } from "../verification/box.ts";
import { needsSizes, runToEnd, sizeProject, sizesCover, sizesOf, sizingSchema, summarySchema, type RunResult } from "./index.ts";
import type { WeatherYear } from "../climate/index.ts";

const WINTER = { stepsPerHour: 4, period: { firstDay: 10, days: 8 } } as const;
const SUMMER = { stepsPerHour: 4, period: { firstDay: 200, days: 8 } } as const;

function boxOn(choice: SystemChoice | null, more: (p: Project) => Change[] = () => []): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.3, heating: 20, cooling: 24, setback: 15, weight: "heavy", gains: 400 }))) as Project;
  Object.assign(p.spaceTypes.box.inputs, {
    peopleDensity: 0.08,
    peopleSchedule: "day",
    outdoorAirPerPerson: 0.008,
    outdoorAirSchedule: "day",
    innerMass: 20000,
    moistureCapacity: 5,
  });
  p.zones.a.inputs = {};
  const made = applyChanges(p, choice === null ? [] : systemChanges(p, choice, "boiler and chiller", ["a"], "Air"));
  if (!made.ok) throw new Error(made.message);
  const changed = applyChanges(made.project, more(made.project));
  if (!changed.ok) throw new Error(changed.message);
  const read = parseProject(JSON.parse(JSON.stringify(changed.project)));
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return read.project;
}
const weatherOf = (p: Project): WeatherYear => projectWeather(p) as WeatherYear;
const total = (r: RunResult): number => r.summary.energy.endUses.reduce((s, u) => s + u.total, 0);
const sum = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);

describe("a run with systems that are left to sizing", () => {
  const p = boxOn("variable");
  const w = weatherOf(p);
  const winter = runToEnd(p, w, { ...WINTER, series: ["componentHeat", "componentPower", "componentOut"] });
  const summer = runToEnd(p, w, SUMMER);

  it("sizes everything, tells the sizes, and closes its books", () => {
    expect(needsSizes(p)).toBe(true);
    const sizing = sizeProject(p, w);
    expect(sizingSchema.safeParse(sizing).success).toBe(true);
    expect(sizesCover(p, sizesOf(sizing))).toBe(true);
    expect(sizesCover(p, { ...sizesOf(sizing), components: {} })).toBe(false);
    expect(summarySchema.safeParse(winter.summary).success).toBe(true);
    expect(Object.keys(winter.summary.sized)).toHaveLength(sizing.components.length);
    expect(winter.summary.closure).toBeLessThan(1e-9);
    expect(summer.summary.waterClosure).toBeLessThan(1e-9);
  });

  it("counts every component's energy once in the end uses, and hour by hour in the fuels", () => {
    for (const r of [winter, summer]) {
      const own = r.summary.components.reduce((s, c) => s + sum(c.power) + sum(c.fuel), 0);
      const rest = r.summary.energy.endUses.filter((u) => ["lighting", "appliances", "hot water"].includes(u.use)).reduce((s, u) => s + u.total, 0);
      expect((own + rest) / total(r)).toBeCloseTo(1, 9);
      const hourly = Object.values(r.fuel.fuels).reduce((s, f) => s + sum([...f]), 0);
      expect(hourly / total(r)).toBeCloseTo(1, 9);
    }
    // nothing of plain services is left: the box's gas would be its heating
    expect(summer.summary.energy.endUses.find((u) => u.use === "cooling")?.fuel).toBe("electricity");
  });

  it("keeps the series of components, whose means add up to their sums", () => {
    const boiler = winter.summary.components.find((c) => c.kind === "boiler");
    const heat = winter.series.find((s) => s.scope === boiler?.address && s.quantity === "componentHeat");
    expect(heat?.unit).toBe("W");
    expect(sum([...(heat?.values ?? [])]) / 1000 / sum(boiler?.heating ?? [])).toBeCloseTo(1, 9);
  });

  it("meets its set-points on what was sized", () => {
    expect(winter.summary.unmetHours).toBeLessThan(4);
    expect(summer.summary.unmetHours).toBeLessThan(1);
  });
});

describe("what must hold between systems", () => {
  it("more capacity never raises the hours unmet", () => {
    const w = weatherOf(boxOn("baseboards"));
    const boiler = (capacity: number): number =>
      runToEnd(
        boxOn("baseboards", (p) => [setChange(p, ["loops", "hot", "parts", "boiler", "inputs", "capacity"], capacity)]),
        w,
        { ...WINTER, summaryOnly: true },
      ).summary.unmetHours as number;
    const hours = [500, 1000, 2000, 4000].map(boiler);
    for (let i = 1; i < hours.length; i++) expect(hours[i]).toBeLessThanOrEqual(hours[i - 1]);
    expect(hours[0]).toBeGreaterThan(hours[3]);
  });

  it("two boilers in place of one of their size give the same heat, the first before the second", () => {
    const w = weatherOf(boxOn("baseboards"));
    const one = boxOn("baseboards", (p) => [
      setChange(p, ["loops", "hot", "parts", "boiler", "inputs", "capacity"], 6000),
      setChange(p, ["loops", "hot", "parts", "boiler", "inputs", "standingLoss"], 0),
    ]);
    const two = boxOn("baseboards", (p) => [
      setChange(p, ["loops", "hot", "parts", "boiler", "inputs"], { capacity: 1500, standingLoss: 0 }),
      { op: "insert", path: ["loops", "hot", "parts", "second"], value: { id: "second", kind: "boiler", inputs: { capacity: 4500, standingLoss: 0 } } },
    ]);
    const [a, b] = [one, two].map((p) => runToEnd(p, w, { ...WINTER, summaryOnly: true }).summary);
    expect(total({ summary: b } as RunResult) / total({ summary: a } as RunResult)).toBeCloseTo(1, 9);
    const first = b.components.find((c) => c.address.endsWith("/boiler"));
    const second = b.components.find((c) => c.address.endsWith("/second"));
    expect(first?.mostHeating).toBeCloseTo(1500, 6);
    expect(sum(second?.heating ?? [])).toBeGreaterThan(0);
  });

  it("constant volume spends more on fans and reheat than variable volume", () => {
    const of = (choice: SystemChoice) => runToEnd(boxOn(choice), weatherOf(boxOn(choice)), { ...SUMMER, summaryOnly: true }).summary;
    const [variable, constant] = [of("variable"), of("constant")];
    const use = (s: typeof variable, u: string): number => s.energy.endUses.filter((x) => x.use === u).reduce((t, x) => t + x.total, 0);
    expect(use(constant, "fans")).toBeGreaterThan(use(variable, "fans"));
    expect(use(constant, "heating")).toBeGreaterThan(use(variable, "heating"));
  });
});
