import { describe, expect, it } from "vitest";
import { boxProject, steadyWeather, type BoxOptions } from "../verification/box.ts";
import { runToEnd, type RunResult } from "../results/index.ts";
import type { Project } from "../model/index.ts";
import type { WeatherYear } from "../climate/index.ts";
import { projectWeather } from "./index.ts";

const copy = (p: Project): Project => JSON.parse(JSON.stringify(p)) as Project;

type Edit = (p: Project) => void;
const days = { firstDay: 30, days: 12 };
const run = (
  o: BoxOptions,
  edit: Edit | null = null,
  weather?: WeatherYear,
  period: { firstDay: number; days: number } = days,
  series: string[] = [],
): RunResult => {
  const p = copy(boxProject(o));
  edit?.(p);
  return runToEnd(p, weather ?? (projectWeather(p) as WeatherYear), { stepsPerHour: 4, period, series });
};
const sum = (a: readonly number[]): number => a.reduce((x, y) => x + y, 0);
const total = (r: RunResult, name: keyof RunResult["summary"]["flows"]): number => sum(r.summary.flows[name]);
const column = (r: RunResult, quantity: string, scope = "a"): Float64Array =>
  r.series.find((s) => s.quantity === quantity && s.scope === scope)?.values as Float64Array;
const inputs = (p: Project): Record<string, unknown> => p.spaceTypes.box.inputs;

describe("closure", () => {
  it.each<[string, BoxOptions, Edit | null]>([
    ["full grey exchange", { glass: 0.4, run: { radiation: "full" } }, null],
    ["traced beam", { glass: 0.4, run: { beam: "traced" } }, null],
    ["constant films", { glass: 0.4, run: { insideConvection: { kind: "iso 52016-1" }, outsideConvection: { kind: "iso 52016-1" } } }, null],
    ["a melting board", { glass: 0.4, weight: "heavy" }, (p) => (p.materials.block.phaseChange = { from: 21, to: 24, latentHeat: 20000 })],
    [
      "an inside blind",
      { glass: 0.4 },
      (p) =>
        (p.glazings.glass.blind = {
          position: "inside",
          solarTransmittance: 0.1,
          solarReflectance: 0.5,
          visibleTransmittance: 0.1,
          control: { kind: "irradiance", above: 200 },
        }),
    ],
    [
      "an outside blind",
      { glass: 0.4 },
      (p) =>
        (p.glazings.glass.blind = {
          position: "outside",
          solarTransmittance: 0.1,
          solarReflectance: 0.5,
          visibleTransmittance: 0.1,
          control: { kind: "temperature", above: 23 },
        }),
    ],
    ["operative set-points", { glass: 0.4 }, (p) => (inputs(p).setpointKind = "operative")],
    ["night ventilation", { glass: 0.4 }, (p) => Object.assign(inputs(p), { nightVentilation: 6 })],
    ["free cooling", { glass: 0.9, gains: 1500 }, (p) => Object.assign(inputs(p), { freeCooling: 3 })],
    ["leakage area", {}, (p) => Object.assign(inputs(p), { infiltrationModel: "leakage area" })],
    ["flow per façade", {}, (p) => Object.assign(inputs(p), { infiltrationModel: "flow per façade" })],
    ["humidity limits", {}, (p) => Object.assign(inputs(p), { humidifySetpoint: 40, dehumidifySetpoint: 50 })],
    [
      "air between zones",
      { second: { heating: null, cooling: null } },
      (p) => (p.airExchanges.x = { name: "door", zones: ["a", "b"], flow: 0.1, schedule: null }),
    ],
  ])("holds with %s, and all flows of every zone add up to nothing", (_, o, edit) => {
    const r = run(o, edit);
    expect(r.summary.closure).toBeLessThan(1e-9);
    for (const z of r.summary.zones)
      for (let m = 0; m < 12; m++) {
        const flows = Object.values(z.flows).map((f) => f[m]);
        expect(Math.abs(sum(flows))).toBeLessThan(1e-9 * Math.max(1, sum(flows.map(Math.abs))));
      }
    expect(r.summary.warnings).toEqual([]);
  });
  it("tells each zone's flow of conduction face by face: faces add up to the kind, sun by direction to the sun", () => {
    const [zone] = run({ glass: 0.5, second: { heating: 18, cooling: null } }).summary.zones;
    const r = run({ glass: 0.5, second: { heating: 18, cooling: null } }).summary;
    const faces = (role: string): number => sum(r.faces.filter((f) => f.zone === zone.id && f.role === role).map((f) => sum(f.monthly)));
    expect(faces("walls")).toBeCloseTo(sum(zone.flows.walls), 6);
    expect(faces("neighbours")).toBeCloseTo(sum(zone.flows.partitions), 6);
    expect(faces("glass")).toBeCloseTo(sum(zone.flows.glass) + sum(zone.flows.glassSun), 6);
    expect(sum(Object.values(zone.sun).map(sum))).toBeCloseTo(sum(zone.flows.sun), 6);
    expect(sum(zone.sun.south)).toBeCloseTo(sum(zone.flows.sun), 6);
  });
});

describe("set-points", () => {
  it("hold the operative temperature when asked: the air is warmer than it in winter by what the walls are colder", () => {
    const r = run({ cooling: null }, (p) => (inputs(p).setpointKind = "operative"));
    const operative = column(r, "operativeTemperature");
    const air = column(r, "airTemperature");
    expect(Math.min(...operative)).toBeCloseTo(20, 6);
    // before dawn the walls are colder than the air
    for (let d = 0; d < 12; d++) expect(air[24 * d + 5]).toBeGreaterThan(20.05);
    expect(total(r, "heating")).toBeGreaterThan(total(run({ cooling: null }), "heating"));
    expect(r.summary.unmetHours).toBe(0);
  });
  it("start early enough to be met when use begins, and later than the longest start allows", () => {
    const schedule = (o: number | null): RunResult =>
      run(
        { setback: 12, cooling: null, weight: "heavy", heatingCapacity: 4000 },
        (p) => Object.assign(inputs(p), { optimumStart: o, peopleDensity: 0.01, peopleSchedule: null }),
        undefined,
        { firstDay: 5, days: 20 },
      );
    const none = schedule(null);
    const early = schedule(5);
    expect(early.summary.zones[0].unmetHours.heating).toBeLessThan(none.summary.zones[0].unmetHours.heating as number);
    expect(total(early, "heating")).toBeGreaterThan(total(none, "heating"));
    const always = run({ cooling: null, weight: "heavy", heatingCapacity: 4000 }, null, undefined, { firstDay: 5, days: 20 });
    expect(total(early, "heating")).toBeLessThan(total(always, "heating"));
  });
});

describe("extra outdoor air", () => {
  const summer = { firstDay: 180, days: 14 };
  it("by night cools what is cooled by day the less, never under its limit", () => {
    const plain = run({ glass: 0.5, weight: "heavy", heating: null }, null, undefined, summer);
    const night = run(
      { glass: 0.5, weight: "heavy", heating: null },
      (p) => Object.assign(inputs(p), { nightVentilation: 8, nightVentilationAbove: 19 }),
      undefined,
      summer,
    );
    expect(total(night, "cooling")).toBeGreaterThan(total(plain, "cooling"));
    expect(Math.min(...column(night, "airTemperature"))).toBeGreaterThan(18.9);
    expect(total(night, "openedAir")).toBeLessThan(-1);
  });
  it("by free cooling takes load off the cooling and keeps the set-point", () => {
    const o: BoxOptions = { glass: 0.3, gains: 1500, insulation: 0.2 };
    const plain = run(o);
    const free = run(o, (p) => Object.assign(inputs(p), { freeCooling: 4 }));
    expect(-total(free, "cooling")).toBeLessThan(-0.5 * total(plain, "cooling"));
    expect(Math.max(...column(free, "airTemperature"))).toBeLessThan(27 + 1e-6);
  });
  it("by windows never works against heating or cooling in the same step", () => {
    const o: BoxOptions = { glass: 0.5, weight: "heavy", cooling: 26, heating: 20 };
    const edit: Edit = (p) => {
      Object.assign(inputs(p), { windowOpenAbove: 22, windowOutdoorLeast: 8 });
      for (const opening of Object.values(p.openings)) opening.operable = 0.3;
    };
    const r = run(o, edit, undefined, { firstDay: 120, days: 60 }, ["openedAir"]);
    const air = column(r, "openedAir");
    const heating = column(r, "heating");
    expect(air.some((q) => q < -100)).toBe(true);
    // within an hour the window may close and cooling begin, but heating and an open window never meet
    for (let h = 0; h < air.length; h++) if (air[h] < -1) expect(heating[h]).toBe(0);
    expect(-total(r, "cooling")).toBeLessThan(-total(run(o, null, undefined, { firstDay: 120, days: 60 }), "cooling"));
  });
});

describe("moisture", () => {
  const still = steadyWeather(20);
  it("follows the closed form of a step of the source: an exponential with the air change and the capacity as its time", () => {
    const p = copy(boxProject({ heating: 20, cooling: 20, gains: 0, infiltration: 0.5 }));
    p.site.elevation = 0;
    Object.assign(p.spaceTypes.box.inputs, { moistureCapacity: 4, peopleDensity: 1 / 48, peopleSensible: 0, peopleLatent: 100, peopleSchedule: "step" });
    p.schedules.step = {
      name: "Step",
      kind: "fraction",
      profiles: { off: { name: "off", values: new Array<number>(24).fill(0) }, on: { name: "on", values: new Array<number>(24).fill(1) } },
      weeks: [
        { id: "a", from: [1, 1], to: [12, 31], days: new Array<string>(8).fill("off") },
        { id: "b", from: [3, 1], to: [12, 31], days: new Array<string>(8).fill("on") },
      ],
    };
    const r = runToEnd(p, still, { stepsPerHour: 12, period: { firstDay: 58, days: 4 }, series: ["humidityRatio"] });
    const w = column(r, "humidityRatio");
    // hours from 1 March 00:00, which is 24 h into the period
    const start = w[23];
    const end = w[w.length - 1];
    const room = 8 * 6 * 2.7;
    const density = 101325 / (287.042 * 293.15);
    const expectedRise = 100 / 2.501e6 / ((0.5 * room * density) / 3600);
    const tau = 4 / 0.5;
    for (const h of [1, 4, 8, 24]) {
      const mean = expectedRise * (1 - (Math.exp(-(h - 1) / tau) - Math.exp(-h / tau)) * tau);
      expect(w[23 + h] - start).toBeGreaterThan(0);
      expect(Math.abs(w[23 + h] - start - mean)).toBeLessThan(0.02 * expectedRise);
    }
    expect(end - start).toBeLessThan(expectedRise * 1.02);
  });
  it("is held between its limits, and the water added and taken is told", () => {
    const r = run(
      { gains: 0 },
      (p) => Object.assign(inputs(p), { humidifySetpoint: 40, dehumidifySetpoint: 45, peopleDensity: 0.1, peopleLatent: 50 }),
      undefined,
      { firstDay: 100, days: 60 },
    );
    const rh = column(r, "relativeHumidity");
    expect(Math.min(...rh)).toBeGreaterThan(39.8);
    expect(Math.max(...rh)).toBeLessThan(45.2);
    expect(r.summary.loads.humidification.total).toBeGreaterThan(0);
    expect(r.summary.loads.dehumidification.total).toBeGreaterThan(0);
  });
  it("is spared by latent recovery", () => {
    const load = (latent: number): number =>
      run({ gains: 0 }, (p) => {
        Object.assign(inputs(p), { humidifySetpoint: 45, outdoorAirPerArea: 0.001 });
        p.services.plain.heatRecovery = { sensible: 0.7, latent };
      }).summary.loads.humidification.total;
    expect(load(0.6)).toBeLessThan(0.75 * load(0));
  });
});

describe("blinds", () => {
  const summer = { firstDay: 180, days: 10 };
  const blind =
    (position: "inside" | "outside"): Edit =>
    (p) => {
      p.glazings.glass.blind = {
        position,
        solarTransmittance: 0.1,
        solarReflectance: 0.5,
        visibleTransmittance: 0.1,
        control: { kind: "irradiance", above: 150 },
      };
    };
  it("outside keep more sun out than inside, and both more than none", () => {
    const cooling = (e: Edit | null): number => run({ glass: 0.6 }, e, undefined, summer).summary.loads.cooling.total;
    const none = cooling(null);
    const inside = cooling(blind("inside"));
    const outside = cooling(blind("outside"));
    expect(inside).toBeLessThan(0.9 * none);
    expect(outside).toBeLessThan(0.7 * inside);
  });
  it("are up by night", () => {
    const r = run({ glass: 0.6 }, blind("outside"), undefined, summer, ["blindDown"]);
    const down = r.series.find((s) => s.quantity === "blindDown")?.values as Float64Array;
    for (let d = 0; d < 10; d++) expect(down[24 * d + 2]).toBe(0);
    expect(Math.max(...down)).toBe(1);
  });
});

describe("where beam lands", () => {
  it("moves little of the year: traced lies by the floor, by area stores less in a heavy floor", () => {
    const heat = (beam: "floor" | "area" | "traced"): RunResult =>
      run({ glass: 0.5, weight: "heavy", run: { beam } }, null, undefined, { firstDay: 0, days: 20 });
    const floor = total(heat("floor"), "sun");
    const traced = total(heat("traced"), "sun");
    // sun on a pale wall is thrown back through the window no more than sun on the floor
    expect(traced / floor).toBeGreaterThan(0.93);
    expect(traced / floor).toBeLessThan(1.07);
    expect(total(heat("area"), "sun") / floor).toBeLessThan(1);
  });
  it("sends all beam of low winter noon sun onto the floor and the wall across from the window", () => {
    const r = run({ glass: 0.3, weight: "heavy", run: { beam: "traced" } }, null, undefined, days, ["insideSurface"]);
    const noon = (key: string): number => (r.series.find((s) => s.quantity === "insideSurface" && s.scope.startsWith(key))?.values as Float64Array)[12];
    expect(noon("a/floor")).toBeGreaterThan(noon("a/ceiling"));
  });
});

describe("the ground", () => {
  const load = (edit: Edit): number =>
    run(
      { gains: 0, cooling: null },
      (p) => {
        p.assemblies.floor.layers = [{ kind: "solid", id: "slab", material: "block", thickness: 0.15 }];
        edit(p);
      },
      undefined,
      { firstDay: 0, days: 30 },
    ).summary.loads.heating.total;
  it("takes less with edge insulation, the most with a typed cold temperature, and a basement less than a room above ground", () => {
    const slab = load(() => undefined);
    expect(load((p) => (p.site.ground.edge = { position: "vertical", depth: 1, thickness: 0.1, conductivity: 0.035 }))).toBeLessThan(slab);
    expect(load((p) => (p.site.ground.temperature = new Array<number>(12).fill(0)))).toBeGreaterThan(1.2 * slab);
    expect(load((p) => (p.storeys.ground.elevation = -2.7))).toBeLessThan(slab);
    expect(
      load((p) => (p.site.ground.floor = { kind: "suspended", height: 0.5, wallU: 1.5, vents: 0.0015, shelter: 0.05, groundResistance: 0 })),
    ).toBeGreaterThan(0.8 * slab);
  });
  it("makes walls to ground of a basement's sides and a roof of its top", () => {
    const p = copy(boxProject({}));
    p.storeys.ground.elevation = -1.5;
    const r = runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour: 1, period: days });
    const area = (role: string): number => sum(r.summary.faces.filter((f) => f.role === role).map((f) => f.area));
    expect(area("walls to ground")).toBeCloseTo(28 * 1.5, 9);
    expect(area("walls")).toBeCloseTo(28 * 1.2, 9);
    expect(area("ground floor")).toBeCloseTo(48, 9);
    expect(r.summary.closure).toBeLessThan(1e-9);
  });
});

describe("films and exchange", () => {
  it("full exchange gives nearly the network's year, and converges", () => {
    const network = run({ glass: 0.4 });
    const full = run({ glass: 0.4, run: { radiation: "full" } });
    expect(full.summary.counted.unconverged).toBe(0);
    expect(total(full, "heating") / total(network, "heating")).toBeGreaterThan(0.98);
    expect(total(full, "heating") / total(network, "heating")).toBeLessThan(1.02);
    expect(total(full, "heating")).not.toBe(total(network, "heating"));
  });
  it("a stronger typed film outside loses more heat", () => {
    const heat = (h: number): number =>
      total(run({ cooling: null, glass: 0.4, run: { outsideConvection: { kind: "typed", wall: h, roof: h, floor: h, glass: h } } }), "heating");
    expect(heat(30)).toBeGreaterThan(heat(5));
  });
  it("a clear dry sky by Clark and Allen and by Martin and Berdahl cools the roof about alike", () => {
    const heat = (skyEmissivity: "martin-berdahl" | "clark-allen"): number => total(run({ cooling: null, run: { skyEmissivity } }), "heating");
    expect(heat("clark-allen") / heat("martin-berdahl")).toBeGreaterThan(0.95);
    expect(heat("clark-allen") / heat("martin-berdahl")).toBeLessThan(1.05);
  });
});

describe("melting", () => {
  it("takes heat up by day and gives it back by night: the swing of a free room is less than with the same board solid", () => {
    const swing = (edit: Edit | null): number => {
      const r = run({ heating: null, cooling: null, glass: 0.3 }, edit, undefined, { firstDay: 150, days: 10 });
      const t = column(r, "airTemperature");
      let s = 0;
      for (let d = 0; d < 10; d++) s += Math.max(...t.slice(24 * d, 24 * d + 24)) - Math.min(...t.slice(24 * d, 24 * d + 24));
      return s / 10;
    };
    const melts: Edit = (p) => (p.materials.board.phaseChange = { from: 22, to: 30, latentHeat: 60000 });
    expect(swing(melts)).toBeLessThan(0.75 * swing(null));
  });
});

describe("daylight", () => {
  it("dims the lighting, which lowers its gain and saves its energy; a darker target saves more", () => {
    const light = (lux: number | null): { used: number; full: number } => {
      const r = run({ glass: 0.5 }, (p) =>
        Object.assign(inputs(p), { lightingPower: 10, peopleDensity: 0.05, ...(lux === null ? {} : { lightingControl: "dimmed", illuminance: lux }) }),
      );
      return r.summary.zones[0].lighting;
    };
    const none = light(null);
    expect(none.used).toBeCloseTo(none.full, 6);
    const some = light(500);
    expect(some.used).toBeLessThan(0.9 * some.full);
    expect(light(200).used).toBeLessThan(some.used);
    // by night nothing is saved
    expect(some.used).toBeGreaterThan(0.5 * some.full);
  });
  it("gives a point by a large window a factor of a few per cent, less behind an overhang", () => {
    const factor = (overhang: number): number =>
      run({ glass: 0.5, overhang }, (p) => Object.assign(inputs(p), { lightingControl: "stepped" })).summary.daylight[0].factor;
    expect(factor(0)).toBeGreaterThan(1);
    expect(factor(0)).toBeLessThan(12);
    expect(factor(2)).toBeLessThan(0.85 * factor(0));
  });
});

describe("comfort", () => {
  it("is told where people are: colder set-points vote colder", () => {
    const vote = (t: number): number =>
      run({ heating: t, cooling: null }, (p) => Object.assign(inputs(p), { peopleDensity: 0.05 })).summary.zones[0].comfort?.vote.mean as number;
    expect(vote(17)).toBeLessThan(vote(22) - 0.8);
    expect(vote(22)).toBeGreaterThan(-0.8);
    expect(vote(22)).toBeLessThan(0.5);
    expect(run({}).summary.zones[0].comfort).toBeNull();
  });
});
