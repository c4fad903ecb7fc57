import { describe, expect, it } from "vitest";
import { coldWaterByMonth, type WeatherYear } from "../climate/index.ts";
import { drawOf, tapSets, WATER_HEAT } from "../inputs/index.ts";
import { parseProject, type Project } from "../model/index.ts";
import { checkProject, compile, hotWater, projectWeather, YearKernel } from "../simulate/index.ts";
import { boxProject, daily, steadyWeather } from "../verification/box.ts";
import { runToEnd, summarySchema, type Summary } from "./index.ts";
import closed from "../services/closedForms.json" with { type: "json" };

const J_PER_KWH = 3.6e6;
const sum = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);
const PERIOD = { stepsPerHour: 4, period: { firstDay: 20, days: 14 } } as const;

type Parts = Project["waterSystems"][string]["parts"];
const heater = (inputs: Record<string, string | number> = {}): Parts[number] => ({ id: "heater", kind: "waterHeater", inputs }) as Parts[number];
/** A box with a tap of 6 L/min at 45 °C that runs an hour in the morning and one at night, on a hot-water system. */
function house(inputs: Record<string, string | number | null> = {}, parts: Parts = [heater()], edit: (p: Project) => void = () => undefined): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.2 }))) as Project;
  p.schedules.washing = daily("Washing", (h) => (h === 7 || h === 19 ? 0.5 : 0));
  p.drawPoints.basin = {
    kind: "taps",
    name: "Basin",
    schedule: "washing",
    space: null,
    sensible: 0,
    latent: 0,
    taps: [{ id: "t", name: "Tap", number: 1, flow: 6 / 60000 }],
    people: null,
  };
  p.waterSystems.hot = { name: "Hot water", zones: null, coldWater: new Array<number>(12).fill(10), inputs: { tapTemperature: 45, ...inputs }, parts };
  edit(p);
  const read = parseProject(JSON.parse(JSON.stringify(p)));
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return read.project;
}
const run = (p: Project, settings: Parameters<typeof runToEnd>[2] = PERIOD): Summary => runToEnd(p, projectWeather(p) as WeatherYear, settings).summary;
const told = (s: Summary): Summary["waterSystems"][number] => s.waterSystems[0];

describe("a short year of a hot-water system", () => {
  it("counts the days that stand for the year alone, not those that lead to them", () => {
    const p = house();
    const [short, year] = [run(p, { stepsPerHour: 1, shortYear: 12, summaryOnly: true }), run(p, { stepsPerHour: 1, summaryOnly: true })];
    // the draw is the same every day, so that twelve weighted days draw what the year draws
    for (const key of ["volume", "wanted"] as const) expect(sum(told(short)[key]) / sum(told(year)[key])).toBeCloseTo(1, 6);
    const heat = (s: Summary): number => s.energy.endUses.filter((u) => u.use === "hot water").reduce((t, u) => t + u.total, 0);
    expect(heat(short) / heat(year)).toBeGreaterThan(0.98);
    expect(heat(short) / heat(year)).toBeLessThan(1.02);
  });
});

describe("a hot-water system", () => {
  const s = run(house());
  const w = told(s);

  it("draws water by m·c·ΔT, and its heaters give what is drawn and lost", () => {
    // 180 L an hour, two hours of each of 14 days
    expect(sum(w.volume)).toBeCloseTo(0.36 * 14, 9);
    expect(sum(w.wanted)).toBeCloseTo((0.36 * 14 * 1000 * WATER_HEAT * 35) / J_PER_KWH, 6);
    expect(sum(w.drawn) / sum(w.wanted)).toBeCloseTo(1, 3);
    expect(sum(w.unmet)).toBe(0);
    expect(w.closure).toBeLessThan(1e-12);
    expect(s.closure).toBeLessThan(1e-9);
    expect(summarySchema.safeParse(s).success).toBe(true);
  });

  it("keeps the store between its temperature and the band below it, but for a draw in between", () => {
    expect(w.store?.max).toBeLessThan(60.01);
    expect(w.store?.min).toBeGreaterThan(45);
    expect(w.store?.mean).toBeGreaterThan(55);
  });

  it("is told by the fuel of its heater alone: no hot water of the plain services is left", () => {
    const fuel = s.energy.endUses.filter((u) => u.use === "hot water" && u.total > 0);
    expect(fuel.map((u) => u.fuel)).toEqual(["gas"]);
    expect(fuel[0].total).toBeCloseTo(sum(w.heated) / 0.9, 6);
    const row = s.components.find((c) => c.kind === "waterHeater");
    expect(sum(row?.fuel ?? [])).toBeCloseTo(fuel[0].total, 9);
  });

  it("tells what is missing where the heater is too small, or there is none", () => {
    const small = run(house({ volume: 0.05 }, [heater({ power: 500 })]));
    const lack = sum(told(small).unmet) / sum(told(small).wanted);
    expect(lack).toBeGreaterThan(0.1);
    expect(lack).toBeLessThan(1);
    expect(small.warnings.some((x) => x.includes("too cold"))).toBe(true);
    const none = house({ store: "none" }, []);
    expect(sum(told(run(none)).unmet)).toBeCloseTo(sum(w.wanted), 6);
    expect(checkProject(none).problems.map((x) => x.code)).toContain("no-heater");
  });

  it("without a store gives just what is drawn", () => {
    const flow = told(run(house({ store: "none" }, [heater({ power: 50000 })])));
    expect(sum(flow.heated)).toBeCloseTo(sum(w.wanted), 6);
    expect(flow.store).toBeNull();
  });

  it("without a heater loses no heat that nothing gave, whatever pipes it has", () => {
    const cold = told(run(house({ store: "none", circulation: "pumped", pipes: 80, pumpPower: 30, pumpHeat: 0.5 }, [])));
    expect(sum(cold.heated)).toBe(0);
    expect(sum(cold.pipeLoss) + sum(cold.drawn)).toBeCloseTo(0.5 * sum(cold.pumps), 9);
    expect(sum(cold.pipeLoss)).toBeGreaterThan(0);
  });

  it("heats up once a week against germs", () => {
    const hot = told(run(house({ disinfection: "weekly", disinfectionTemperature: 70 })));
    expect(hot.store?.max).toBeGreaterThan(69);
    expect(sum(hot.heated)).toBeGreaterThan(sum(w.heated));
  });

  it("brings what store and pipes lose into the rooms, which are heated for so much less", () => {
    const lossy = { standingLoss: 900, circulation: "pumped", pipes: 100, pumpPower: 0 };
    // without windows the room is heated in every hour, so that nothing becomes surplus
    const dark = (p: Project): void => void (p.openings = {});
    const inside = run(house({ ...lossy, zone: "a", pipesPass: "to the rooms served" }, [heater()], dark));
    const outside = run(house({ ...lossy, pipesPass: "lost", around: 20 }, [heater()], dark));
    const spared = outside.loads.heating.total - inside.loads.heating.total;
    const lost = sum(told(inside).storeLoss) + sum(told(inside).pipeLoss);
    expect(lost).toBeGreaterThan(300);
    expect(sum(inside.flows.appliances) - sum(outside.flows.appliances)).toBeCloseTo(lost, 6);
    // what comes in the warm hours of the afternoon spares nothing
    expect(spared / lost).toBeGreaterThan(0.8);
    expect(spared / lost).toBeLessThan(1.01);
    expect(inside.closure).toBeLessThan(1e-9);
  });

  it("leaves the stated share of its heat in the room as heat and as vapour", () => {
    const wet = run(
      house({}, [heater()], (p) => {
        Object.assign(p.drawPoints.basin, { sensible: 0.3, latent: 0.2 });
      }),
    );
    expect(sum(wet.flows.appliances) - sum(s.flows.appliances)).toBeCloseTo(0.3 * sum(w.wanted), 6);
    expect(sum(wet.water.appliances)).toBeGreaterThan(sum(s.water.appliances));
  });

  it("spares fuel with a heat pump and with collectors, and closes its books in a layered store", () => {
    const pump = run(house({}, [heater({ heat: "heat pump" })]));
    const cop = sum(told(pump).heated) / (pump.energy.endUses.find((u) => u.use === "hot water" && u.fuel === "electricity")?.total ?? NaN);
    expect(cop).toBeGreaterThan(1.2);
    expect(cop).toBeLessThan(3.2);
    const collectors = { id: "sun", kind: "solarCollector", inputs: { area: 6, height: 8 } } as Parts[number];
    const solar = run(house({ store: "layered", volume: 0.5 }, [heater(), collectors]));
    const t = told(solar);
    expect(sum(t.solar)).toBeGreaterThan(0.2 * sum(t.drawn));
    expect(sum(t.solar)).toBeLessThan(0.8 * sum(t.sun));
    expect(sum(t.heated)).toBeLessThan(sum(w.heated));
    expect(t.closure).toBeLessThan(1e-12);
  });

  it("serves the zones it names, and the rest has its plain services", () => {
    const none = run(house({}, [heater()], (p) => (p.waterSystems.hot.zones = [])));
    expect(sum(told(none).volume)).toBe(0);
    expect(none.hotWater).toBeCloseTo(0.36 * 14, 9);
    expect(none.energy.endUses.find((u) => u.use === "hot water")?.total).toBeGreaterThan(0);
  });
});

describe("a store that stands alone", () => {
  it("cools by the exponential", () => {
    const c = closed["tank cooling"];
    const p = house({ volume: c.volume, standingLoss: 45 * c.ua, supplyTemperature: c.start, around: c.ambient }, [], (q) => (q.drawPoints = {}));
    const weather = steadyWeather(10);
    const model = compile(p, weather, 4);
    const kernel = new YearKernel(model, weather);
    kernel.start(10, 20, 0.005);
    const water = kernel.water as NonNullable<typeof kernel.water>;
    let hour = 0;
    c.hours.forEach((until, i) => {
      for (; hour < until; hour++) for (let k = 0; k < 4; k++) hotWater(model, kernel.state, water, hour, k);
      const reached = (water.upper[0] - c.ambient) / (c.start - c.ambient);
      const expected = Math.log((c.t[i] - c.ambient) / (c.start - c.ambient));
      expect(Math.log(reached)).toBeCloseTo(expected, 6);
    });
  });
});

describe("taps", () => {
  it("grow with the people they are made for", () => {
    const p = house({}, [heater()], (q) => {
      q.spaceTypes.box.inputs.peopleDensity = 12 / 48;
      q.drawPoints.basin = { ...(q.drawPoints.basin as Extract<Project["drawPoints"][string], { kind: "taps" }>), people: 4 };
    });
    expect(tapSets(p, p.drawPoints.basin as Extract<Project["drawPoints"][string], { kind: "taps" }>)).toBeCloseTo(3, 9);
    expect(drawOf(p, "basin").volume).toBeCloseTo(3 * 0.36 * 365, 6);
    expect(drawOf(p, "basin").flow).toBeCloseTo(3 * 360, 6);
  });

  it("need a hotter or colder store for a temperature of their own", () => {
    const hot = told(run(house({}, [heater()], (p) => (p.drawPoints.basin.temperature = 55))));
    expect(sum(hot.wanted) / sum(told(run(house())).wanted)).toBeCloseTo(45 / 35, 6);
  });

  it("that never stop are told", () => {
    const p = house({}, [heater()], (q) => (q.drawPoints.basin.schedule = null));
    expect(checkProject(p).problems.map((x) => x.code)).toContain("never-stops");
  });
});

describe("the cold water main", () => {
  const weather = projectWeather(boxProject()) as WeatherYear;
  const mean = weather.dryBulb.reduce((s, v) => s + v, 0) / weather.dryBulb.length;
  it("lies 6 °F above the air over the year, swings less than it, and lags behind it", () => {
    const t = coldWaterByMonth(weather, 40);
    expect(sum(t) / 12).toBeGreaterThan(mean);
    expect(sum(t) / 12).toBeLessThan(mean + 6);
    expect(t.indexOf(Math.max(...t))).toBeGreaterThanOrEqual(6);
    expect(t.indexOf(Math.min(...t))).toBeLessThanOrEqual(2);
  });
  it("has its summer half a year later in the south", () => {
    const [north, south] = [coldWaterByMonth(weather, 40), coldWaterByMonth(weather, -40)];
    expect(Math.abs(south.indexOf(Math.max(...south)) - north.indexOf(Math.max(...north)))).toBe(6);
  });
});
