import { describe, expect, it } from "vitest";
import { fuels, type Fuel, type Project } from "../model/index.ts";
import { priced, pricedLike, runToEnd } from "../results/index.ts";
import { projectWeather } from "../simulate/index.ts";
import type { WeatherYear } from "../climate/index.ts";
import { boxProject } from "../verification/box.ts";
import { billOf, NO_FUEL, readValueFile, type FuelHours } from "./index.ts";

const project = boxProject({ glass: 0.3, gains: 200 });
const none = (): Record<Fuel, number> => Object.fromEntries(fuels.map((f) => [f, 0])) as Record<Fuel, number>;
/** A steady load of one fuel over a common year, kW. */
const steady = (fuel: Fuel, kW: number, edit: (v: Float64Array) => void = () => undefined): FuelHours => {
  const values = new Float64Array(8760).fill(kW);
  edit(values);
  return {
    ...NO_FUEL,
    day: Int32Array.from({ length: 365 }, (_, d) => d),
    year: new Int32Array(365),
    weight: new Float64Array(365).fill(1),
    hours: 24,
    fuels: { [fuel]: values },
    water: new Float64Array(8760).fill(0.01),
  };
};
const prices = (p: Partial<Project["prices"]>, perKWh: Partial<Record<Fuel, number>> = {}) => ({
  prices: { currency: "$", perKWh: { ...none(), ...perKWh }, ...p },
  factors: project.factors,
  calendar: { firstWeekday: 0, holidays: [{ id: "h", name: "Holiday", month: 7, day: 1 }], daylightSaving: null } as Project["calendar"],
});

describe("a bill", () => {
  it("of a flat price is the price times the energy", () => {
    const b = billOf(steady("gas", 2), prices({}, { gas: 0.05 }));
    expect(b.cost).toBeCloseTo(876, 9);
    expect(b.parts).toEqual([{ of: "gas", amount: 17520, energy: expect.closeTo(876, 9), demand: 0, fixed: 0 }]);
    expect(b.carbon).toBeCloseTo(17520 * project.factors.carbon.gas, 6);
  });
  it("by season and hour counts the hours of each band: summer working days from noon to six", () => {
    const band = { id: "b", name: "Peak", price: 0.3, from: 6, to: 9, days: "working days" as const, begin: 12, end: 18 };
    const b = billOf(steady("electricity", 1), prices({ tariffs: { electricity: { bands: [band], demand: 0, fixed: 0 } } }, { electricity: 0.1 }));
    // a year that begins on a Monday: 122 days from June to September, 88 of them Monday to Friday less one holiday on a Sunday or not
    let working = 0;
    for (let d = 151; d < 273; d++) if (d % 7 < 5 && d !== 181) working++;
    expect(b.cost).toBeCloseTo(876 + working * 6 * 0.2, 6);
    // by month the same sum
    expect(b.costByMonth.reduce((a, v) => a + v, 0)).toBeCloseTo(b.cost, 9);
    expect(b.costByMonth[0]).toBeCloseTo(74.4, 9);
  });
  it("has bands over midnight and over the turn of the year, later ones winning", () => {
    const night = { id: "n", name: "Night", price: 0.05, from: 11, to: 2, days: "every day" as const, begin: 22, end: 6 };
    const free = { id: "f", name: "Free", price: 0, from: 1, to: 1, days: "every day" as const, begin: 0, end: 1 };
    const b = billOf(steady("electricity", 1), prices({ tariffs: { electricity: { bands: [night, free], demand: 0, fixed: 0 } } }, { electricity: 0.1 }));
    const days = 30 + 31 + 31 + 28;
    expect(b.cost).toBeCloseTo(876 - days * 8 * 0.05 - 31 * 0.05, 6);
  });
  it("goes by the clock on the wall in summer time", () => {
    const band = { id: "b", name: "Evening", price: 1, from: 7, to: 7, days: "every day" as const, begin: 18, end: 19 };
    const only = steady("electricity", 0, (v) => (v[24 * 190 + 17] = 1));
    const p = prices({ tariffs: { electricity: { bands: [band], demand: 0, fixed: 0 } } });
    expect(billOf(only, p).cost).toBe(0);
    expect(billOf(only, { ...p, calendar: { ...p.calendar, daylightSaving: { from: [3, 29], to: [10, 25] } } }).cost).toBe(1);
  });
  it("takes the highest hour of every month, a standing charge and water", () => {
    const b = billOf(
      steady("electricity", 1, (v) => (v[100] = 7)),
      prices({ water: 4, tariffs: { electricity: { bands: [], demand: 10, fixed: 120 } } }),
    );
    const part = b.parts.find((p) => p.of === "electricity");
    expect(part).toMatchObject({ demand: 70 + 11 * 10, fixed: 120 });
    expect(b.costByMonth[0]).toBeCloseTo(70 + (120 * 31) / 365 + 744 * 0.01 * 4, 9);
    expect(b.parts.find((p) => p.of === "water")?.amount).toBeCloseTo(87.6, 9);
  });
});

describe("hourly value factors", () => {
  const file = (head: string, row: (h: number) => string, n = 8760): string => [head, ...Array.from({ length: n }, (_, h) => row(h))].join("\n");
  it("weigh every hour of a fuel, by month", () => {
    const by = Array.from({ length: 8760 }, (_, h) => (h < 744 ? 3 : 1));
    const b = billOf(steady("electricity", 2), {
      ...prices({}),
      factors: { ...project.factors, value: { name: "V", unit: "kWh", byFuel: { electricity: by, gas: by } } },
    });
    expect(b.value).toMatchObject({ name: "V", unit: "kWh", total: expect.closeTo(2 * (744 * 3 + 8016), 6) });
    expect(b.value?.byMonth[0]).toBeCloseTo(2 * 744 * 3, 9);
    expect(billOf(steady("electricity", 2), prices({})).value).toBeNull();
  });
  it("are read from a CSV by fuel and climate zone", () => {
    const read = readValueFile(file("hour,electricity 5B,electricity 3C,gas 5B,district heat (5B)", (h) => `${h + 1},${h},2,3,4`));
    if (typeof read === "string") throw new Error(read);
    expect(Object.keys(read).sort()).toEqual(["3C", "5B"]);
    expect(read["5B"].electricity?.[100]).toBe(100);
    expect(read["5B"]["district heat"]?.[0]).toBe(4);
    expect(readValueFile(file("Electricity;Gas", () => "1,5;2"))).toMatchObject({ "": { electricity: expect.anything(), gas: expect.anything() } });
  });
  it("that are none are told", () => {
    expect(readValueFile(file("hour,price", () => "1,2"))).toContain("names no fuel");
    expect(readValueFile(file("electricity", () => "1", 100))).toContain("100 rows of values; 8760 are needed");
    expect(readValueFile(file("electricity,gas", (h) => (h === 7 ? "1,abc" : "1,2")))).toContain('Row 8 of gas is "abc"');
    expect(readValueFile(file("gas,gas", () => "1,2"))).toBe("Two columns are of gas.");
  });
});

describe("the fuel of a run, hour by hour", () => {
  const p = JSON.parse(JSON.stringify(project)) as Project;
  p.services[p.defaults.services] = { ...p.services[p.defaults.services], fanPower: 900, pumpShareHeating: 0.02, pumpShareCooling: 0.03 };
  const weather = projectWeather(p) as WeatherYear;
  const { summary, fuel } = runToEnd(p, weather, { stepsPerHour: 2 });
  it("adds up to the end uses of its summary, by fuel and month", () => {
    for (const [name, values] of Object.entries(fuel.fuels)) {
      const rows = summary.energy.endUses.filter((u) => u.fuel === name);
      expect(values.reduce((a, v) => a + v, 0)).toBeCloseTo(
        rows.reduce((a, u) => a + u.total, 0),
        6,
      );
      const january = values.subarray(0, 744).reduce((a, v) => a + v, 0);
      expect(january).toBeCloseTo(
        rows.reduce((a, u) => a + u.monthly[0], 0),
        6,
      );
    }
    expect(Object.keys(fuel.fuels).sort()).toEqual([...new Set(summary.energy.endUses.filter((u) => u.total > 0).map((u) => u.fuel))].sort());
  });
  it("of a short year stands for the year in the same proportions as its summary", () => {
    const short = runToEnd(p, weather, { stepsPerHour: 1, shortYear: 24 });
    const amount = short.summary.energy.bill?.parts.reduce((a, x) => a + x.amount, 0) ?? 0;
    expect(amount).toBeCloseTo(
      short.summary.energy.endUses.reduce((a, u) => a + u.total, 0),
      6,
    );
    expect(short.fuel.weight.reduce((a, v) => a + v, 0)).toBeCloseTo(365, 9);
  });
  it("is priced anew without a run, and moves nothing else", () => {
    const dear = { ...p, prices: { ...p.prices, perKWh: { ...p.prices.perKWh, electricity: 2 * p.prices.perKWh.electricity } } };
    const again = priced(summary, fuel, dear);
    const electricity = summary.energy.bill?.parts.find((x) => x.of === "electricity")?.energy ?? 0;
    expect(again.energy.cost - summary.energy.cost).toBeCloseTo(electricity, 9);
    expect({ ...again, energy: null }).toEqual({ ...summary, energy: null });
    expect(priced(again, fuel, p)).toEqual(summary);
  });
  it("of which only totals are known is priced like another run", () => {
    const like = pricedLike(summary.energy, summary.energy.bill ?? { parts: [] }, p);
    expect(like.cost).toBeCloseTo(summary.energy.cost, 6);
    expect(like.carbon).toBeCloseTo(summary.energy.carbon, 6);
    expect(like.primary).toBeCloseTo(summary.energy.primary, 6);
  });
});
