import { describe, expect, it } from "vitest";
import { airPlan, connectChanges, openingKey, proposeNetwork, unconnected, USUAL_TYPES } from "../airflow/index.ts";
import type { AirLink, AirNetworkInput, Opening, Project } from "../model/index.ts";
import { runToEnd, seriesHash } from "../results/index.ts";
import { daily, steadyWeather } from "../verification/box.ts";
import { rectangle, model, two } from "../verification/formModel.ts";
import { checkProject, compile, projectWeather, YearKernel } from "./index.ts";
import type { WeatherYear } from "../climate/index.ts";

const window = (host: string, offset: number, sill: number, width: number, height: number, operable?: number): Opening => ({
  kind: "placed",
  name: `Window ${host} ${sill}`,
  host,
  use: "window",
  offset,
  sill,
  width,
  height,
  glazing: null,
  ...(operable === undefined ? {} : { operable }),
});
const inner = (use: "door" | "opening", host = "a/e2"): Opening => ({
  kind: "placed",
  name: `Inner ${use}`,
  host,
  use,
  offset: 1,
  sill: 0,
  width: 1,
  height: 2,
  glazing: null,
});
const networked = (p: Project, part: Partial<AirNetworkInput> = {}): Project => ({ ...p, airNetwork: { ...proposeNetwork(p, checkProject(p)), ...part } });
const always = { ...USUAL_TYPES, windows: { name: "Open", control: { rule: "constant" as const } } };
const codes = (p: Project): string[] =>
  checkProject(p).problems.flatMap((x) => (x.path.startsWith("airNetwork") || x.path.startsWith("openings") ? [x.code] : []));
/** A kernel some steady days in, with the state of its air. */
function settled(p: Project, w: WeatherYear, days: number, start = 20): YearKernel {
  const kernel = new YearKernel(compile(p, w, 4), w);
  kernel.start(start, start, 0.004);
  for (let h = 0; h < 24 * days; h++) for (let k = 0; k < 4; k++) kernel.step(h, k);
  return kernel;
}

describe("doors and ways through inner walls", () => {
  it("lie between two spaces, from whichever side they are drawn, and overlap there", () => {
    const p = two();
    p.openings = { d: inner("door") };
    const { inner: found, openings, problems } = checkProject(p);
    expect(problems.filter((x) => x.severity === "error")).toEqual([]);
    expect(openings).toEqual([]);
    expect(found.map((o) => [o.use, o.spaces, o.area])).toEqual([["door", ["a", "b"], 2]]);
    // the same wall from the room beyond: its own edge runs the other way
    p.openings = { d: inner("door"), e: inner("opening", "b/e4") };
    expect(checkProject({ ...p }).inner).toHaveLength(2);
    p.openings = { d: inner("door"), e: { ...(inner("opening", "b/e4") as Extract<Opening, { kind: "placed" }>), offset: 2 } };
    expect(codes({ ...p })).toContain("opening-overlap");
  });
  it("are told where they lead nowhere, with what mends it", () => {
    const p = two();
    p.openings = { d: inner("opening", "a/e1"), w: window("a/e2", 1, 1, 1, 1) };
    const told = checkProject(p).problems;
    expect(told.find((x) => x.path === "openings/d")).toMatchObject({ code: "outdoor-opening", fix: { label: "Make it a door" } });
    expect(told.find((x) => x.path === "openings/w")?.message).toMatch(/does not touch outdoors/);
  });
  it("take their area out of the wall that conducts: only ways through, not doors", () => {
    const area = (o: Record<string, Opening>): number => {
      const p = { ...two(), openings: o };
      const m = compile(p, projectWeather(p) as WeatherYear, 1);
      return m.area.subarray(m.exterior).reduce((s, v) => s + v, 0);
    };
    expect(area({})).toBeCloseTo(12, 9);
    expect(area({ d: inner("door") })).toBeCloseTo(12, 9);
    expect(area({ d: inner("opening") })).toBeCloseTo(10, 9);
  });
});

describe("a proposed network", () => {
  const p = two();
  p.openings = { s: window("a/e1", 1, 1, 1.5, 1.2, 0.5), fixed: window("b/e1", 1, 1, 1.5, 1.2), d: inner("door") };
  it("has every zone, a crack for each face, and a path for each window that opens and each door", () => {
    const input = proposeNetwork(p, checkProject(p));
    expect(input.zones).toEqual(["a", "b"]);
    expect(Object.values(input.links).map((l) => l.kind === "opening" && [l.name, l.type])).toEqual([
      ["Window a/e1 1, a", "windows"],
      ["Inner door, a and b", "doors_inside"],
    ]);
    const plan = airPlan(p, input, checkProject(p));
    expect(plan.problems.filter((x) => x.severity === "error")).toEqual([]);
    // walls leak low and high, the roof once, the inner wall between
    expect(plan.planned.filter((l) => l.kind === "crack" && l.ends[1] === null).length).toBeGreaterThan(8);
    expect(plan.planned.filter((l) => l.kind === "crack" && l.ends[1] !== null)).toHaveLength(1);
    // 5 m³/h·m² at 50 Pa of all outdoor faces of a, by V = C·Δpⁿ
    const outdoors = checkProject(p)
      .geometry.faces.filter((f) => f.space === "a" && f.contact === "outdoors")
      .reduce((s, f) => s + f.area, 0);
    const leaks = plan.links.flatMap((l, i) =>
      l.kind === "crack" && plan.planned[i].ends[0] === "a" && plan.planned[i].ends[1] === null ? [l.coefficient] : [],
    );
    expect(leaks.reduce((s, c) => s + c, 0) * 50 ** 0.65 * 3600).toBeCloseTo(5 * outdoors, 6);
  });
  it("tells what is drawn later and not connected, and connects it", () => {
    const before = networked(p);
    const later: Project = { ...before, openings: { ...before.openings, fixed: window("b/e1", 1, 1, 1.5, 1.2, 0.3) } };
    const missing = unconnected(later, later.airNetwork as AirNetworkInput, checkProject(later));
    expect(missing.map((o) => o.record)).toEqual(["fixed"]);
    const [change] = connectChanges(later, checkProject(later));
    expect(change).toMatchObject({ op: "insert", path: ["airNetwork", "links", "fixed"], value: { opening: missing[0].key, type: "windows" } });
  });
  it("is refused with a sentence where it cannot be: no way out, a fixed window, a grille larger than its wall, a fan into itself, against another", () => {
    const n = networked(p);
    const with_ = (links: Record<string, AirLink>, part: Partial<AirNetworkInput> = {}): string[] =>
      codes({ ...n, airNetwork: { ...(n.airNetwork as AirNetworkInput), links, ...part } });
    const leakless = Object.fromEntries(checkProject(p).geometry.faces.map((f, i) => [`c${i}`, { host: f.host, leakage: 0 }]));
    expect(with_({}, { cracks: leakless })).toContain("air-island");
    const key = openingKey(checkProject(p).openings.find((o) => o.record === "fixed") as { face: string; record: string });
    expect(with_({ f: { kind: "opening", name: "Fixed", opening: key } })).toContain("air-fixed");
    expect(with_({ f: { kind: "opening", name: "Fixed", opening: key, free: 0.4 } })).not.toContain("air-fixed");
    expect(with_({ g: { kind: "grille", name: "Grille", host: "a/e1", level: 1, area: 100 } })).toContain("air-larger");
    expect(with_({ g: { kind: "grille", name: "Grille", host: "a/e1", level: 9, area: 0.1 } })).toContain("air-level");
    const fan = (from: string | null, to: string | null): AirLink => ({
      kind: "fan",
      name: `Fan ${from} ${to}`,
      from: { zone: from },
      to: { zone: to },
      level: 2,
      flow: 0.1,
      pressure: 50,
      schedule: null,
    });
    expect(with_({ f: fan("a", "a") })).toContain("air-loop");
    expect(with_({ f: fan("a", "b"), g: fan("b", "a") })).toContain("air-against");
    expect(with_({ o: { kind: "opening", name: "Gone", opening: "nothing|here" } })).toContain("air-opening-gone");
    const table = { reference: 5, directions: [0, 90, 180, 270], points: [{ name: "a/e1 1", coefficients: [0.5, -0.3, -0.2, -0.3] }] };
    expect(with_(n.airNetwork?.links ?? {}, { pressures: "table", table })).toContain("air-coefficients");
    // none at all, or a row too short, is no formula either
    expect(with_(n.airNetwork?.links ?? {}, { pressures: "flow study" })).toContain("air-coefficients");
    expect(with_(n.airNetwork?.links ?? {}, { pressures: "table", table: { ...table, points: [{ name: "a/e1 1", coefficients: [0.5, 0.1] }] } })).toContain(
      "air-coefficients",
    );
    expect(with_(n.airNetwork?.links ?? {}, { pressures: "flow study", study: { ...table, shape: "another" } })).toContain("air-stale");
  });
});

describe("the network in the year", () => {
  const open = (): Project => {
    const p = two();
    p.openings = { low: window("a/e1", 1, 0.2, 1, 0.4, 1), high: window("a/e3", 1, 2.4, 1, 0.4, 1), d: inner("opening") };
    p.spaceTypes.box.inputs = {
      ...p.spaceTypes.box.inputs,
      heatingSetpoint: 20,
      heatingSetback: null,
      coolingSetpoint: 24,
      coolingSetback: null,
      infiltration: 0,
    };
    return p;
  };
  const still = (t: number): WeatherYear => ({ ...steadyWeather(t), windSpeed: new Float64Array(8760) });

  it("draws air in low and lets it out high by the stack of a warm room, as by hand", () => {
    const p = open();
    delete (p.openings as Record<string, Opening>).d;
    const tight = { north: "very tight", east: "very tight", south: "very tight", west: "very tight", roof: "very tight", inside: "very tight" } as const;
    const kernel = settled(networked(p, { types: always, leakage: tight }), still(0), 3);
    const { air } = kernel.state;
    const plan = kernel.model.air?.plan;
    if (!air || !plan) throw new Error("no network");
    const at = (name: string): number => plan.planned.findIndex((l) => l.record === name);
    // two openings 0.4 m² apart 2.2 m in height, room at 20 °C, outdoors 0 °C: the neutral level lies in the middle but for density
    const [inside, outside] = [101325 / 287.05 / 293.15, 101325 / 287.05 / 273.15];
    const dp = ((outside - inside) * 9.81 * 2.2) / 2;
    expect(air.backward[at("low")]).toBeGreaterThan(0.9 * 0.6 * 0.4 * Math.sqrt(2 * outside * dp));
    expect(air.backward[at("low")]).toBeLessThan(1.1 * 0.6 * 0.4 * Math.sqrt(2 * outside * dp));
    expect(air.forward[at("low")]).toBeLessThan(0.01 * air.backward[at("low")]);
    expect(air.forward[at("high")]).toBeGreaterThan(20 * air.backward[at("high")]);
    // with the warm side outdoors the stack turns
    const turned = settled(networked(p, { types: always, leakage: tight }), still(35), 1, 15).state.air;
    expect(turned && turned.forward[at("low")] - turned.backward[at("low")]).toBeGreaterThan(0);
  });
  it("closes the balance of every node over the year to 1e-9, and heat and moisture with it", () => {
    const p = networked(open(), { types: { ...always, windows: { name: "Warm", control: { rule: "temperature", above: 22 } } } });
    const { summary } = runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour: 2, period: { firstDay: 100, days: 60 } });
    expect(summary.airflow?.closure).toBeLessThan(1e-9);
    expect(summary.airflow?.failures).toBe(0);
    expect(summary.closure).toBeLessThan(1e-10);
    expect(summary.waterClosure).toBeLessThan(1e-10);
    expect(summary.airflow?.links.find((l) => l.id === "low")?.hours).toBeGreaterThan(10);
  });
  it("switched off is the simple model to the bit, and mirrored it has mirrored flows", () => {
    const p = open();
    const w = projectWeather(p) as WeatherYear;
    const settings = { stepsPerHour: 1, period: { firstDay: 180, days: 10 } } as const;
    const off = networked(p, { use: false });
    expect(seriesHash(runToEnd(off, w, settings))).toBe(seriesHash(runToEnd(p, w, settings)));
    // wind from the west on a building mirrored east to west: as from the east
    const rooms = { a: rectangle(0, 0, 6, 4) };
    const pair = (host: string, other: string, from: number): number[] => {
      const q = model(rooms);
      q.openings = { one: window(host, 1, 1, 1, 1, 1), two: window(other, 1, 1, 1, 1, 1) };
      const weather = { ...steadyWeather(20), windDirection: new Float64Array(8760).fill(from), windSpeed: new Float64Array(8760).fill(4) };
      const { air } = settled(networked(q, { types: always }), weather, 1).state;
      const links = compile(networked(q, { types: always }), weather, 1).air?.plan.planned ?? [];
      return ["one", "two"].map((id) => {
        const i = links.findIndex((l) => l.record === id);
        return air ? air.forward[i] - air.backward[i] : NaN;
      });
    };
    const [east, west] = [pair("a/e2", "a/e4", 90), pair("a/e4", "a/e2", 270)];
    expect(east[0]).toBeLessThan(-0.1);
    expect(west[0]).toBeCloseTo(east[0], 6);
    expect(west[1]).toBeCloseTo(east[1], 6);
  });
  it("carries carbon dioxide and age: in steady flow C = C₀ + G/Q, and the age is V/Q", () => {
    const p = model({ a: rectangle(0, 0, 6, 4) });
    p.openings = {};
    const fan: AirLink = { kind: "fan", name: "Fan", from: { zone: null }, to: { zone: "a" }, level: 1, flow: 0.05, pressure: 500, schedule: null };
    const grille: AirLink = { kind: "grille", name: "Grille", host: "a/e1", level: 2, area: 0.5 };
    p.schedules.on = daily("On", () => 1);
    p.spaceTypes.box.inputs = {
      ...p.spaceTypes.box.inputs,
      peopleDensity: 0.1,
      peopleSchedule: "on",
      outdoorAirPerPerson: 0,
      outdoorAirPerArea: 0,
      infiltration: 0,
      metabolicRate: 1.2,
    };
    const leakless = Object.fromEntries(checkProject(p).geometry.faces.map((f, i) => [`c${i}`, { host: f.host, leakage: 0 }]));
    const kernel = settled(networked(p, { links: { fan, grille }, cracks: leakless }), still(15), 2);
    const { air } = kernel.state;
    const people = 2.4;
    const flow = kernel.state.infiltrationFlow[0] + kernel.record.extraFlow[0];
    expect(flow).toBeGreaterThan(0.05);
    const added = (people * 1.2 * 4.3e-6 * kernel.state.boundary.density * 1e6) / flow;
    expect(air?.carbonDioxide[0]).toBeCloseTo(420 + added, 1);
    expect(added).toBeGreaterThan(200);
    expect(air?.age[0]).toBeCloseTo((72 * kernel.model.airDensity) / flow, 0);
  });
  it("opens by its rules with hysteresis, once a step, and not beyond its limits", () => {
    const p = open();
    // nothing heats it but what stands in it: openings that cool shut before heating would begin
    p.spaceTypes.box.inputs = { ...p.spaceTypes.box.inputs, heatingSetpoint: null, coolingSetpoint: null, appliancePower: 40 };
    const rule = (control: AirNetworkInput["types"][string]["control"], w: WeatherYear): number => {
      const kernel = settled(networked(p, { types: { ...USUAL_TYPES, windows: { name: "x", control } } }), w, 2);
      const at = kernel.model.air?.plan.planned.findIndex((l) => l.record === "low") ?? -1;
      return kernel.state.air?.network.open[at] ?? NaN;
    };
    expect(rule({ rule: "temperature", above: 45 }, still(5))).toBe(0);
    expect(rule({ rule: "temperature difference", above: 3 }, still(5))).toBe(1);
    expect(rule({ rule: "temperature difference", above: 3, outdoorLeast: 8 }, still(5))).toBe(0);
    expect(rule({ rule: "constant", share: 0.4 }, still(5))).toBeCloseTo(0.4, 12);
    expect(rule({ rule: "constant", windMost: 2 }, steadyWeather(5))).toBe(0);
    expect(rule({ rule: "carbon dioxide", above: 5000 }, still(5))).toBe(0);
    // no rule moves back and forth within its band: a change is followed by another only after some steps
    const w = projectWeather(p) as WeatherYear;
    const q = networked(p, { types: { ...USUAL_TYPES, windows: { name: "x", control: { rule: "temperature", above: 23 } } } });
    const kernel = settled(q, w, 1);
    const at = kernel.model.air?.plan.planned.findIndex((l) => l.record === "low") ?? -1;
    let changes = 0;
    let before = 0;
    for (let h = 24 * 150; h < 24 * 180; h++)
      for (let k = 0; k < 4; k++) {
        kernel.step(h, k);
        const now = kernel.state.air?.network.open[at] ?? NaN;
        if (now > 0 !== before > 0) changes++;
        before = now;
      }
    expect(changes).toBeGreaterThan(4);
    expect(changes).toBeLessThan(30 * 20);
  });
  it("leaves zones outside it to the simple model", () => {
    const p = networked(open());
    const part: Project = { ...p, airNetwork: { ...(p.airNetwork as AirNetworkInput), zones: ["a"] } };
    expect(codes(part)).toContain("air-outside-network");
    const { summary } = runToEnd(part, projectWeather(part) as WeatherYear, { stepsPerHour: 1, period: { firstDay: 10, days: 5 } });
    expect(summary.airflow?.zones.map((z) => z.id)).toEqual(["a"]);
    expect(summary.closure).toBeLessThan(1e-10);
  });
});
