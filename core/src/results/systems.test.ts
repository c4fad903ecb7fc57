import { describe, expect, it } from "vitest";
import { applyChanges, parseProject, setChange, type Change, type Project } from "../model/index.ts";
import { systemChanges, type SystemChoice } from "../services/index.ts";
import { checkProject, projectWeather } from "../simulate/index.ts";
import { boxProject, daily } from "../verification/box.ts";
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

  it("counts in a short year the energy of the days that stand for the year, and none of those that lead to them", () => {
    const sizes = sizesOf(sizeProject(p, w));
    const settings = { stepsPerHour: 1, summaryOnly: true, sizes } as const;
    const [short, year] = [runToEnd(p, w, { ...settings, shortYear: 48 }), runToEnd(p, w, settings)];
    for (const use of ["fans", "heating", "cooling"]) {
      const of = (r: RunResult): number => r.summary.energy.endUses.filter((u) => u.use === use).reduce((t, u) => t + u.total, 0);
      expect(of(short) / of(year), use).toBeGreaterThan(0.85);
      expect(of(short) / of(year), use).toBeLessThan(1.15);
    }
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

  it("supply air that follows the warmest room leaves no more hours unmet than one of a set temperature, and is warmer on the way", () => {
    const of = (rule: string) => {
      const p = boxOn("variable", (q) => [setChange(q, ["airSystems", "air", "inputs", "supplyRule"], rule)]);
      return runToEnd(p, weatherOf(p), { ...SUMMER, series: ["componentOut"] });
    };
    const [set, follows] = [of("set temperature"), of("warmest room")];
    expect(follows.summary.unmetHours).toBeLessThanOrEqual((set.summary.unmetHours ?? NaN) + 0.5);
    const supply = (r: RunResult): number => {
      const values = r.series.find((s) => s.scope === "airSystems/air")?.values ?? [];
      const on = [...values].filter((v) => v > 5);
      return sum(on) / on.length;
    };
    expect(supply(follows)).toBeGreaterThan(supply(set) + 0.5);
  });
});

describe("outdoor air by the people present", () => {
  const share = (value: number, more: Record<string, unknown>): number => {
    const p = boxOn("variable");
    p.schedules.day = daily("Day", () => value);
    Object.assign(p.spaceTypes.box.inputs, { peopleSensible: 0, peopleLatent: 0, outdoorAirPerArea: 0.0005, outdoorAirSchedule: null, ...more });
    return (
      runToEnd(p, weatherOf(p), { ...WINTER, summaryOnly: true }).summary.energy.endUses.find((u) => u.use === "heating" && u.fuel === "gas")?.total ?? NaN
    );
  };
  it("is all of it while all are there, and the part for the floor area while none is", () => {
    expect(share(1, { outdoorAirControl: "people present" })).toBeCloseTo(share(1, {}), 4);
    expect(share(0, { outdoorAirControl: "people present" })).toBeCloseTo(share(0, { outdoorAirPerPerson: 0 }), 4);
    expect(share(0, { outdoorAirControl: "people present" })).toBeLessThan(share(0, {}));
    // a flow stated for the whole space stays
    expect(share(0, { outdoorAirControl: "people present", outdoorAirPerSpace: 0.03 })).toBeCloseTo(share(0, { outdoorAirPerSpace: 0.03 }), 4);
  });
});

describe("a humidifier in the supply air", () => {
  const run = (inputs: Record<string, unknown> | null): RunResult => {
    const p = boxOn("variable", () =>
      inputs === null
        ? []
        : [{ op: "insert", path: ["airSystems", "air", "parts", "moist"], value: { id: "moist", kind: "humidifier", inputs }, before: "fan" }],
    );
    return runToEnd(p, weatherOf(p), { ...WINTER, series: ["relativeHumidity"] });
  };
  const humidity = (r: RunResult): number => {
    const values = [...(r.series.find((s) => s.quantity === "relativeHumidity")?.values ?? [])].filter((_, h) => h % 24 >= 10 && h % 24 < 17);
    return sum(values) / values.length;
  };
  const use = (r: RunResult, fuel: string): number => r.summary.energy.endUses.find((u) => u.use === "humidification" && u.fuel === fuel)?.total ?? 0;
  it("holds the room near its least humidity, at the heat of its steam, with books that close", () => {
    const [without, steam, gas] = [run(null), run({ least: 0.4 }), run({ least: 0.4, by: "gas steam", efficiency: 0.8 })];
    expect(humidity(without)).toBeLessThan(32);
    expect(humidity(steam)).toBeGreaterThan(humidity(without) + 4);
    expect(humidity(steam)).toBeLessThan(46);
    expect(steam.summary.waterClosure).toBeLessThan(1e-9);
    expect(steam.summary.closure).toBeLessThan(1e-9);
    const row = steam.summary.components.find((c) => c.kind === "humidifier");
    // electricity over latent heat: that of steam from cold water over that of vaporisation at 0 °C
    expect(use(steam, "electricity") / sum(row?.heating ?? [])).toBeCloseTo(2.634 / 2.501, 2);
    expect(use(gas, "gas") / use(steam, "electricity")).toBeCloseTo(1 / 0.8, 2);
  });
  it("that evaporates spends no fuel on it; what it cools is heated again", () => {
    const [steam, wet] = [run({ least: 0.4 }), run({ least: 0.4, by: "evaporation" })];
    expect(use(wet, "electricity") + use(wet, "gas")).toBe(0);
    const heat = (r: RunResult): number => r.summary.energy.endUses.filter((u) => u.use === "heating").reduce((s, u) => s + u.total, 0);
    expect(heat(wet)).toBeGreaterThan(heat(steam));
  });
});

describe("a chiller cooled by a tower", () => {
  const chiller = (more: (p: Project) => Change[]): RunResult["summary"] => {
    const p = boxOn("fan coils", more);
    return runToEnd(p, weatherOf(p), { ...SUMMER, summaryOnly: true }).summary;
  };
  const use = (s: RunResult["summary"], name: string): number => s.energy.endUses.filter((u) => u.use === name).reduce((t, u) => t + u.total, 0);
  it("spends less on cooling than one on outdoor air, and something on heat rejection", () => {
    const air = chiller(() => []);
    const towered = chiller((p) => [
      { op: "insert", path: ["loops", "chilled", "parts", "tower"], value: { id: "tower", kind: "tower", inputs: {} } },
      setChange(p, ["loops", "chilled", "parts", "chiller", "inputs", "condenser"], "water of a tower"),
    ]);
    expect(use(air, "heat rejection")).toBe(0);
    expect(use(towered, "cooling")).toBeLessThan(0.8 * use(air, "cooling"));
    const row = towered.components.find((c) => c.kind === "tower");
    expect(use(towered, "heat rejection") / sum(row?.heating ?? [])).toBeCloseTo(0.03, 9);
    // what the tower rejects is what the chiller took out and used
    const machine = towered.components.find((c) => c.kind === "chiller");
    expect(sum(row?.heating ?? []) / (sum(machine?.cooling ?? []) + sum(machine?.power ?? []))).toBeCloseTo(1, 6);
  });
  it("without a tower is told, and runs on outdoor air", () => {
    const p = boxOn("fan coils", (q) => [setChange(q, ["loops", "chilled", "parts", "chiller", "inputs", "condenser"], "water of a tower")]);
    const told = checkProject(p).problems.find((x) => x.code === "no-tower");
    expect(told?.message).toContain("there is none");
    const mended = applyChanges(p, told?.fix?.changes ?? []);
    expect(mended.ok && checkProject(mended.project).problems.map((x) => x.code)).not.toContain("no-tower");
  });
});

describe("hours unmet", () => {
  const causes = (more: (p: Project) => Change[], choice: SystemChoice | null = "baseboards") => {
    const p = boxOn(choice, more);
    const { summary } = runToEnd(p, weatherOf(p), { ...WINTER, summaryOnly: true });
    const told = summary.unmetCauses;
    if (!told) throw new Error("not told");
    expect(told.plant + told.capacity + told.start).toBeCloseTo(summary.unmetHours ?? NaN, 9);
    return told;
  };
  const radiator = (p: Project): string[] => ["zones", "a", "equipment", p.zones.a.equipment?.[0].id ?? "", "inputs", "capacity"];
  it("are told by their cause: a boiler at its limit, a radiator that is too small, a start after a setback", () => {
    const plant = causes((p) => [setChange(p, ["loops", "hot", "parts", "boiler", "inputs", "capacity"], 600)]);
    expect(plant.plant).toBeGreaterThan(20);
    expect(plant.plant).toBeGreaterThan(5 * (plant.capacity + plant.start));
    const small = causes((p) => [setChange(p, radiator(p), 400)]);
    expect(small.capacity).toBeGreaterThan(20);
    expect(small.plant).toBe(0);
    // a little too small to be back in time, enough to hold the room
    const slow = causes((p) => [setChange(p, radiator(p), 1900)]);
    expect(slow.start).toBeGreaterThan(slow.capacity);
  });
});
