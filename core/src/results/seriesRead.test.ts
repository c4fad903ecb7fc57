import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import { parseProject, type Project, type SeriesRef } from "../model/index.ts";
import { projectWeather } from "../simulate/index.ts";
import { boxProject } from "../verification/box.ts";
import { ALL_ZONES, derivedFault, neededFor, readSeries, runToEnd, seriesTable, type SeriesTable } from "./index.ts";

const zone = (id: string, quantity: string): SeriesRef => ({ of: "zone", id, quantity });
/** Two rooms, the second of a storey that stands for three. */
function rooms(edit: (p: Project) => void = () => undefined): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.3, second: { heating: 20, cooling: 26 } }))) as Project;
  edit(p);
  const read = parseProject(JSON.parse(JSON.stringify(p)));
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return read.project;
}
const hours = 48;
const at = (of: (h: number) => number): Float64Array => Float64Array.from({ length: hours }, (_, h) => of(h));
const table = (p: Project): SeriesTable => ({
  hours,
  series: {
    airTemperature: Object.fromEntries(Object.keys(p.zones).map((z, i) => [z, at((h) => 20 + i + h / hours)])),
    heating: Object.fromEntries(Object.keys(p.zones).map((z, i) => [z, at(() => 1000 * (i + 1))])),
    dryBulb: { outdoors: at((h) => h % 24) },
  },
});
const value = (p: Project, t: SeriesTable, ref: SeriesRef): ArrayLike<number> => {
  const read = readSeries(p, t, ref);
  if (!read.ok) throw new Error(read.message);
  return read.values;
};

describe("series of a group", () => {
  const p = rooms();
  const t = table(p);
  const count = Object.keys(p.zones).length;
  it("add powers up, and take the mean of temperatures by floor area", () => {
    const heat = value(p, t, { of: "group", id: ALL_ZONES, quantity: "heating" });
    expect(heat[5]).toBeCloseTo((1000 * count * (count + 1)) / 2, 9);
    const air = value(p, t, { of: "group", id: ALL_ZONES, quantity: "airTemperature" });
    expect(air[0]).toBeGreaterThanOrEqual(20);
    expect(air[0]).toBeLessThanOrEqual(20 + count - 1);
    expect(air[24] - air[0]).toBeCloseTo(0.5, 9);
  });
  it("count a zone as often as its storey stands for", () => {
    const tower = rooms((d) => {
      for (const s of Object.values(d.storeys)) s.multiplier = 3;
    });
    expect(value(tower, t, { of: "group", id: ALL_ZONES, quantity: "heating" })[0]).toBeCloseTo((3 * 1000 * count * (count + 1)) / 2, 9);
  });
});

describe("a derived series", () => {
  const p = rooms((d) => {
    d.derived = {
      over: {
        name: "Above outdoors",
        formula: "a - b",
        unit: "K",
        of: { a: zone("a", "airTemperature"), b: { of: "outdoors", id: "outdoors", quantity: "dryBulb" } },
      },
      perKelvin: {
        name: "Heat by difference",
        formula: "if(x > 1 K, q / x, 0 W/K)",
        unit: "kW/K",
        of: { q: zone("a", "heating"), x: { of: "derived", id: "over", quantity: "over" } },
      },
      fahrenheit: { name: "Air in °F", formula: "a", unit: "°F", of: { a: zone("a", "airTemperature") } },
    };
  });
  const t = table(p);
  const derived = (id: string): ArrayLike<number> => value(p, t, { of: "derived", id, quantity: id });
  it("is computed hour by hour, in the unit it is asked in, also from another one", () => {
    expect(derived("over")[10]).toBeCloseTo(20 + 10 / hours - 10, 9);
    expect(derived("perKelvin")[10]).toBeCloseTo(1 / (20 + 10 / hours - 10), 9);
    expect(derived("fahrenheit")[0]).toBeCloseTo(68, 9);
  });
  it("needs the series behind it, however deep", () => {
    const needed = neededFor(p, { of: "derived", id: "perKelvin", quantity: "perKelvin" }).map((r) => r.quantity);
    expect(new Set(needed)).toEqual(new Set(["heating", "airTemperature", "dryBulb"]));
  });
  it("is refused where units do not fit, names are missing, or it stands on itself", () => {
    const of = { a: zone("a", "airTemperature"), q: zone("a", "heating") };
    expect(derivedFault(p, { name: "x", formula: "a + q", unit: "K", of })).toMatch(/do not go together/);
    expect(derivedFault(p, { name: "x", formula: "a - a", unit: "W", of })).toMatch(/is needed/);
    expect(derivedFault(p, { name: "x", formula: "a - z", unit: "K", of })).toContain('no quantity "z"');
    expect(derivedFault(p, { name: "x", formula: "a -", unit: "K", of })).not.toBeNull();
    expect(derivedFault(p, { name: "x", formula: "a", unit: "furlongs", of })).toContain("no unit");
    const round = rooms((d) => {
      d.derived = { self: { name: "Self", formula: "a", unit: "K", of: { a: { of: "derived", id: "self", quantity: "self" } } } };
    });
    expect(readSeries(round, t, { of: "derived", id: "self", quantity: "self" })).toMatchObject({ ok: false, message: "Self stands on itself." });
  });
});

describe("the series of a run", () => {
  it("have the outdoors and the fuels of the same hours beside them", () => {
    const p = rooms();
    const w = projectWeather(p) as WeatherYear;
    const r = runToEnd(p, w, { stepsPerHour: 1, period: { firstDay: 40, days: 2 } });
    const t = seriesTable(r.series, w, r.fuel);
    expect(t.hours).toBe(48);
    expect(value(p, t, { of: "outdoors", id: "outdoors", quantity: "dryBulb" })[7]).toBe(w.dryBulb[40 * 24 + 7]);
    const fuels = Object.keys(t.series).filter((q) => q.startsWith("fuel "));
    const energy = fuels.reduce((s, q) => s + [...Array.from(t.series[q].building)].reduce((a, v) => a + v, 0), 0) / 1000;
    expect(energy).toBeCloseTo(
      r.summary.energy.endUses.reduce((s, u) => s + u.total, 0),
      6,
    );
    expect(readSeries(p, t, zone("a", "infiltration"))).toMatchObject({ ok: false, missing: true });
    expect(readSeries(p, t, zone("nobody", "heating"))).toMatchObject({ ok: false, missing: false });
  });
});
