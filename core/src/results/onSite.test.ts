import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import { arrayPower, arrayElectric, MADE, MADES, placeArrays, type ArrayElectric } from "../electric/index.ts";
import { deriveFaces, deriveOpenings } from "../geometry/index.ts";
import { parseProject, type Project, type PvArray } from "../model/index.ts";
import { lossNames, siteEnergy, type FuelHours, NO_FUEL } from "../run/index.ts";
import { noPlaneSun, projectWeather } from "../simulate/index.ts";
import { boxProject } from "../verification/box.ts";
import { runToEnd, summarySchema, type Summary } from "./index.ts";

const sum = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);
type OnSite = Project["onSite"];
const ROOF: PvArray = { kind: "pvArray", name: "Array", host: "a/ceiling", inputs: { place: "on racks", tilt: 30, azimuth: 180 } };

function site(onSite: OnSite, edit: (p: Project) => void = () => undefined): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.4 }))) as Project;
  p.onSite = onSite;
  edit(p);
  const read = parseProject(JSON.parse(JSON.stringify(p)));
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return read.project;
}
const run = (p: Project, period?: { firstDay: number; days: number }): Summary =>
  runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour: 1, ...(period ? { period } : {}) }).summary;
const electric = (a: PvArray): ArrayElectric => {
  const p = site({ pv: a });
  const geometry = deriveFaces(p);
  return arrayElectric(a, placeArrays(p, geometry, deriveOpenings(p, geometry).openings).arrays[0]);
};
const losses = (x: Summary["arrays"][number]): number => sum(lossNames.map((l) => sum(x.losses[l] ?? [])));

describe("an array under a sun", () => {
  const x = electric(ROOF);
  const out = new Float64Array(MADES);
  const square = (sun: number): ReturnType<typeof noPlaneSun> => ({ ...noPlaneSun(), cosine: 1, beam: sun, litBeam: sun });
  it("gives the power of its sheet at 1000 W/m² and cells of 25 °C, less dirt and wiring", () => {
    // cells stand above the air by the NOCT: the air that makes them 25 °C in a wind of 1 m/s
    const clean = {
      ...x,
      soiling: 0,
      wiring: 0,
      inverter: { ...x.inverter, rated: 1e9, efficiencies: [1, 1, 1, 1], loads: [1e-9, 0.3, 0.5, 1], start: 0, night: 0 },
    };
    const rise = ((45 - 20) * 1000) / 800;
    arrayPower(clean, square(1000), 25 - rise * (1 - x.efficiency / 0.9), 1, out);
    expect(out[MADE.GIVEN] / (x.modules * 400)).toBeCloseTo(1, 3);
    // 20 K warmer it loses by the coefficient of power, a third of a per cent a kelvin
    arrayPower(clean, square(1000), 45 - rise * (1 - x.efficiency / 0.9), 1, out);
    expect(out[MADE.GIVEN] / (x.modules * 400)).toBeGreaterThan(0.925);
    expect(out[MADE.GIVEN] / (x.modules * 400)).toBeLessThan(0.945);
  });
  it("loses step by step what it does not give", () => {
    for (const sun of [0, 30, 300, 1100]) {
      arrayPower(x, { ...square(sun), litBeam: 0.7 * sun, cosine: 0.5, diffuse: 80, seenDiffuse: 60, ground: 10 }, 12, 3, out);
      const lost = out.reduce((s, v, i) => s + (i === MADE.NOMINAL || i === MADE.GIVEN ? 0 : v), 0);
      expect(out[MADE.NOMINAL] - lost).toBeCloseTo(out[MADE.GIVEN], 6);
      expect(out[MADE.SHADE]).toBeGreaterThan(0);
      expect(out[MADE.REFLECTION]).toBeGreaterThan(0);
    }
  });
  it("is held at the limit of its inverter", () => {
    arrayPower({ ...x, inverter: { ...x.inverter, rated: 1000 } }, square(1000), 5, 3, out);
    expect(out[MADE.GIVEN]).toBeCloseTo(1000, 9);
    expect(out[MADE.LIMIT]).toBeGreaterThan(1000);
  });
});

describe("a year with an array", () => {
  const p = site({ pv: ROOF });
  const s = run(p);
  const [x] = s.arrays;
  it("makes what its losses leave, and its electricity is used, fed in or neither", () => {
    expect(summarySchema.safeParse(s).success).toBe(true);
    expect(sum(x.nominal) - losses(x)).toBeCloseTo(sum(x.made), 6);
    const e = s.energy.site as NonNullable<Summary["energy"]["site"]>;
    expect(e.made).toBeCloseTo(sum(x.made), 6);
    expect((e.used + e.exported) / e.made).toBeCloseTo(1, 9);
    const used = sum(s.energy.endUses.filter((u) => u.fuel === "electricity").map((u) => u.total));
    expect((e.used + e.bought) / used).toBeCloseTo(1, 9);
    // a clear, cold climate: more than a thousand hours of peak power, less than a third of the year
    expect(sum(x.made) / x.peak).toBeGreaterThan(1200);
    expect(sum(x.made) / x.peak).toBeLessThan(2600);
  });
  it("keeps the power it makes as a series, whose means add up to what is made", () => {
    const r = runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour: 1, series: ["madePower"] });
    const line = r.series.find((q) => q.quantity === "madePower" && q.scope === "onSite/pv");
    expect(sum([...(line?.values ?? [])]) / 1000 / sum(x.made)).toBeCloseTo(1, 9);
  });
  it("leaves the end uses gross, and tells the net energy", () => {
    const plain = run(site({}));
    expect(plain.energy.site).toBeNull();
    expect(plain.energy.net).toBeNull();
    const gross = sum(s.energy.endUses.map((u) => u.total));
    const e = s.energy.site as NonNullable<Summary["energy"]["site"]>;
    expect(s.energy.net).toBeCloseTo((gross - e.made) / s.floorArea, 6);
    expect(e.carbon).toBeLessThan(s.energy.carbon);
  });
  it("shades the roof it stands on: less sun falls on it, and the room is cooled less", () => {
    const flat = run(site({ pv: { ...ROOF, inputs: { place: "flat on the surface", margin: 0 } } }), { firstDay: 180, days: 10 });
    const bare = run(site({}), { firstDay: 180, days: 10 });
    const on = (r: Summary): number => r.faces.find((f) => f.role === "roof")?.incident ?? NaN;
    expect(on(flat)).toBeLessThan(0.5 * on(bare));
    expect(flat.loads.cooling.total).toBeLessThan(bare.loads.cooling.total);
  });
  it("is shaded by what stands before it, and more so where its rows stand close", () => {
    const shade = (r: Summary): number => sum(r.arrays[0].losses.shade ?? []) / sum(r.arrays[0].nominal);
    const walled = run(
      site({ pv: ROOF }, (q) => {
        q.surroundings.tower = { kind: "block", name: "Tower", x: 4, y: -12, width: 20, depth: 4, angle: 0, base: 0, height: 14 };
      }),
    );
    expect(shade(walled)).toBeGreaterThan(shade(s) + 0.05);
    const close = run(site({ pv: { ...ROOF, inputs: { ...ROOF.inputs, tilt: 45, rowSpacing: 0.05 } } }));
    const apart = run(site({ pv: { ...ROOF, inputs: { ...ROOF.inputs, tilt: 45, rowSpacing: 1.5 } } }));
    expect(shade(close)).toBeGreaterThan(shade(apart) + 0.02);
  });
  it("as an overhang keeps sun off the window below it", () => {
    const over = run(site({ pv: { ...ROOF, host: "a/s", inputs: { place: "as an overhang", tilt: 10 } } }), { firstDay: 180, days: 5 });
    const bare = run(site({}), { firstDay: 180, days: 5 });
    const sun = (r: Summary): number => sum(r.zones[0].sun.south ?? []);
    expect(sun(over)).toBeLessThan(0.8 * sun(bare));
    expect(sum(over.arrays[0].made)).toBeGreaterThan(0);
  });
});

describe("a site hour by hour", () => {
  const days = 10;
  const hours = 24 * days;
  /** 2 kW all day, and a sun of 8 kW for six hours of every day. */
  const fuel: FuelHours = {
    ...NO_FUEL,
    day: Int32Array.from({ length: days }, (_, i) => 100 + i),
    year: new Int32Array(days),
    weight: new Float64Array(days).fill(1),
    hours: 24,
    fuels: { electricity: new Float64Array(hours).fill(2) },
    water: new Float64Array(hours),
    made: Float64Array.from({ length: hours }, (_, h) => (h % 24 >= 9 && h % 24 < 15 ? 8 : 0)),
  };
  const battery = (inputs: Record<string, number | string> = {}): OnSite => ({
    b: { kind: "battery", name: "Battery", inputs: { capacity: 20, charge: 5000, discharge: 5000, ...inputs } },
  });
  const priced = (onSite: OnSite, edit: (p: Project) => void = () => undefined): Project => {
    const p = site(onSite, edit);
    p.prices = { ...p.prices, perKWh: { ...p.prices.perKWh, electricity: 0.3 }, exported: p.prices.exported ?? 0.1 };
    return p;
  };
  const balance = (e: NonNullable<ReturnType<typeof siteEnergy>>): number => e.made - e.used - e.exported - e.lost - e.kept;

  it("uses first what it makes, feeds in the rest and buys what is missing", () => {
    const e = siteEnergy(fuel, priced({})) as NonNullable<ReturnType<typeof siteEnergy>>;
    expect(e.used).toBeCloseTo(days * 12, 9);
    expect(e.exported).toBeCloseTo(days * 36, 9);
    expect(e.bought).toBeCloseTo(days * 36, 9);
    expect(e.credit).toBeCloseTo(days * 3.6, 9);
    expect(e.cost).toBeCloseTo(days * (36 * 0.3 - 3.6), 9);
  });
  it("nets over a month where it may: what is fed in makes up for what is bought at its price", () => {
    const e = siteEnergy(
      fuel,
      priced({}, (p) => (p.prices = { ...p.prices, netting: "month" })),
    ) as NonNullable<ReturnType<typeof siteEnergy>>;
    expect(e.cost).toBeCloseTo(0, 9);
  });
  it("keeps the day's sun for the night in a battery, and loses its share", () => {
    const e = siteEnergy(fuel, priced(battery())) as NonNullable<ReturnType<typeof siteEnergy>>;
    expect(balance(e)).toBeCloseTo(0, 9);
    expect(e.used).toBeGreaterThan(days * 25);
    expect(e.lost).toBeGreaterThan(days);
    expect(e.bought).toBeLessThan(days * 20);
  });
  it("by price also fills from the grid in the cheapest hours and gives in the dear ones", () => {
    const tariff = (p: Project): void => {
      p.prices.tariffs = {
        electricity: {
          bands: [{ id: "dear", name: "Evening", price: 0.9, from: 1, to: 12, days: "every day", begin: 17, end: 21 }],
          demand: 0,
          fixed: 0,
        },
      };
    };
    const dark = { ...fuel, made: new Float64Array(hours) };
    const own = siteEnergy(dark, priced(battery({ standing: 0 }), tariff)) as NonNullable<ReturnType<typeof siteEnergy>>;
    const traded = siteEnergy(dark, priced(battery({ rule: "by price", standing: 0 }), tariff)) as NonNullable<ReturnType<typeof siteEnergy>>;
    expect(own.lost).toBe(0);
    expect(balance(traded)).toBeCloseTo(0, 9);
    expect(traded.cost).toBeLessThan(own.cost - 10);
  });
});

describe("a wind turbine", () => {
  const curve = [3, 5, 8, 12, 20].map((speed, i) => ({ id: `p${i}`, speed, power: [0, 400, 1500, 4000, 4000][i] }));
  it("makes a sum by hand of its curve over the hours, at the wind of its hub", () => {
    const p = site(
      { t: { kind: "windTurbine", name: "Turbine", curve, inputs: { hub: 10, losses: 0 } } },
      (q) => (q.site = { ...q.site, terrain: "open country" }),
    );
    const made = sum(run(p, { firstDay: 0, days: 30 }).arrays[0].made);
    const w = projectWeather(p) as WeatherYear;
    let kWh = 0;
    for (let h = 0; h < 720; h++) {
      const v = 0.5 * (w.windSpeed[h] + w.windSpeed[h === 0 ? 8759 : h - 1]);
      // air at the site is thinner than that of the curve
      const density = w.pressure[h] / (287.05 * (w.dryBulb[h] + 273.15));
      const u = v * Math.cbrt(density / 1.225);
      const i = curve.findIndex((c) => c.speed >= u);
      if (i > 0)
        kWh += (curve[i - 1].power + ((curve[i].power - curve[i - 1].power) * (u - curve[i - 1].speed)) / (curve[i].speed - curve[i - 1].speed)) / 1000;
    }
    expect(made / kWh).toBeGreaterThan(0.98);
    expect(made / kWh).toBeLessThan(1.02);
  });
});
