import { describe, expect, it } from "vitest";
import { boxProject, steadyWeather, type BoxOptions } from "../verification/box.ts";
import type { WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { runToEnd, type Summary } from "../results/index.ts";
import { checkProject, compile, flowNames, projectWeather, TERM, YearKernel } from "./index.ts";

const FLOWS = flowNames.length;
const flow = (k: YearKernel, z: number, name: (typeof flowNames)[number]): number => k.record.flows[z * FLOWS + flowNames.indexOf(name)];
/** A kernel after some days of the given weather. */
function settled(project: Project, weather: WeatherYear, days: number, steps = 4): YearKernel {
  const k = new YearKernel(compile(project, weather, steps), weather);
  k.start(weather.dryBulb[0], 20, 0.005);
  for (let h = 0; h < 24 * days; h++) for (let s = 0; s < steps; s++) k.step(h, s);
  return k;
}
const edited = (o: BoxOptions, change: (p: Project) => void): Project => {
  const p = boxProject(o);
  change(p);
  return p;
};

describe("the compiled building", () => {
  const p = boxProject({ glass: 0.4, second: { heating: 20, cooling: null } });
  const m = compile(p, projectWeather(p) as WeatherYear, 4);
  it("carries each face once: areas add up to the derived ones", () => {
    const { geometry } = checkProject(p);
    const outside = geometry.faces.filter((f) => f.contact !== "space").reduce((s, f) => s + f.area, 0);
    const shared = geometry.faces.filter((f) => f.contact === "space").reduce((s, f) => s + f.area / 2, 0);
    expect(m.area.slice(0, m.exterior).reduce((s, a) => s + a, 0)).toBeCloseTo(outside, 9);
    expect(m.area.slice(m.exterior).reduce((s, a) => s + a, 0)).toBeCloseTo(shared, 9);
  });
  it("spreads all short-wave of each zone over its faces and its glass", () => {
    for (let z = 0; z < m.zones; z++) {
      let beam = 0;
      let diffuse = 0;
      for (let i = 0; i < m.elements; i++) {
        if (m.zone1[i] === z) {
          beam += m.beamShare1[i] * m.area[i];
          diffuse += m.diffuseShare1[i] * m.area[i];
        }
        if (m.zone0[i] === z) {
          beam += m.beamShare0[i] * m.area[i];
          diffuse += m.diffuseShare0[i] * m.area[i];
        }
      }
      // zone one has a window, which lets a little out again; zone two has none
      const glazed = m.glassOf.length > 0 && m.zone1[m.groundEnd] === z;
      if (glazed) {
        expect(beam).toBeLessThan(1);
        expect(beam).toBeGreaterThan(0.9);
        expect(diffuse).toBeLessThan(beam);
      } else {
        expect(beam).toBeCloseTo(1, 12);
        expect(diffuse).toBeCloseTo(1, 12);
      }
    }
  });
  it("keeps 'not cooled' as a state of its own", () => {
    expect(m.coolingSetpoint[1]).toBeNaN();
    expect(m.heatingSetpoint[1]).toBe(20);
  });
  it("turns an inside surface to its air: floors up, ceilings down", () => {
    m.roles.forEach((role, i) => {
      if (role === "roof") expect(m.facing1[i]).toBe(-1);
      if (role === "ground floor") expect(m.facing1[i]).toBe(1);
      if (role === "walls") expect(Math.abs(m.facing1[i])).toBe(0);
    });
  });
});

describe("humidity", () => {
  it("settles where sources and air exchange balance", () => {
    const p = edited({ gains: 0, infiltration: 1 }, (q) => {
      q.spaceTypes.box.inputs.appliancePower = 10;
      q.spaceTypes.box.inputs.applianceLatentShare = 0.5;
    });
    const w = steadyWeather(0);
    const k = settled(p, w, 12);
    const source = (10 * 48 * 0.5) / 2.501e6;
    const air = ((129.6 / 3600) * 101325) / (287.042 * 273.15);
    const outdoor = 0.621945 * ((0.5 * 611.2) / (101325 - 0.5 * 611.2));
    expect(k.record.humidityRatio[0]).toBeCloseTo(outdoor + source / air, 5);
  });
});

describe("outdoor air with recovery", () => {
  const loss = (sensible: number): number => {
    const p = edited({ gains: 0, infiltration: 0, cooling: null }, (q) => {
      q.spaceTypes.box.inputs.outdoorAirPerArea = 0.001;
      q.services.plain.heatRecovery.sensible = sensible;
    });
    return -flow(settled(p, steadyWeather(0), 5), 0, "outdoorAir");
  };
  it("loses in proportion to what is not recovered", () => {
    expect(loss(0.75) / loss(0)).toBeCloseTo(0.25, 6);
    expect(loss(1)).toBeCloseTo(0, 9);
  });
  it("lets the cold in when the room is too warm", () => {
    const p = edited({ gains: 4000, infiltration: 0, heating: 20, cooling: null }, (q) => {
      q.spaceTypes.box.inputs.outdoorAirPerArea = 0.001;
      q.services.plain.heatRecovery.sensible = 0.9;
    });
    const k = settled(p, steadyWeather(10), 5);
    const plain = edited({ gains: 4000, infiltration: 0, heating: 20, cooling: null }, (q) => {
      q.spaceTypes.box.inputs.outdoorAirPerArea = 0.001;
    });
    expect(k.record.airTemperature[0]).toBeGreaterThan(22);
    expect(k.record.airTemperature[0]).toBeCloseTo(settled(plain, steadyWeather(10), 5).record.airTemperature[0], 3);
  });
});

describe("two rooms and the wall between", () => {
  it("pass heat from warm to cold, as much as leaves one as enters the other once settled", () => {
    const p = boxProject({ gains: 0, infiltration: 0, cooling: null, heating: 24, second: { heating: 14, cooling: null } });
    const k = settled(p, steadyWeather(0), 20);
    const given = flow(k, 0, "partitions");
    const taken = flow(k, 1, "partitions");
    expect(given).toBeLessThan(-50);
    expect(given + taken).toBeCloseTo(0, 4);
    expect(k.elementFlow(k.model.elements - 1, 0)).toBeCloseTo(given, 9);
    expect(k.elementFlow(k.model.elements - 1, 1)).toBeCloseTo(taken, 9);
  });
});

describe("sun", () => {
  const p = boxProject({ glass: 0.5 });
  const w = projectWeather(p) as WeatherYear;
  it("through glass over a day is the same at any length of step, within what a moving sun explains", () => {
    const sums = [1, 4, 12].map((steps) =>
      runToEnd(p, w, { stepsPerHour: steps, period: { firstDay: 80, days: 10 } }).summary.flows.sun.reduce((a, b) => a + b, 0),
    );
    expect(Math.abs(sums[1] / sums[2] - 1)).toBeLessThan(0.005);
    expect(Math.abs(sums[0] / sums[2] - 1)).toBeLessThan(0.05);
  });
  it("is nothing at night and more from an anisotropic sky on a south window in winter", () => {
    const k = settled(p, w, 3);
    expect(flow(k, 0, "sun")).toBe(0);
    const total = (sky: "perez" | "isotropic"): number =>
      runToEnd(boxProject({ glass: 0.5, sky }), w, { stepsPerHour: 1, period: { firstDay: 0, days: 20 } }).summary.flows.sun.reduce((a, b) => a + b, 0);
    expect(total("perez")).toBeGreaterThan(total("isotropic"));
  });
});

describe("schedules and multipliers", () => {
  it("sum the terms of an hour by zone", () => {
    const p = boxProject({ gains: 480 });
    const k = settled(p, steadyWeather(5), 1);
    const zones = k.model.zones;
    expect(k.record.terms[TERM.applianceRadiant * zones]).toBeCloseTo(480 * 0.6, 9);
    expect(k.record.terms[TERM.applianceConvective * zones]).toBeCloseTo(480 * 0.4, 9);
  });
  it("take a storey that stands for three as three storeys on each other: one roof, one ground floor, plates between them that pass nothing", () => {
    const w = projectWeather(boxProject()) as WeatherYear;
    const settings = { stepsPerHour: 1, period: { firstDay: 0, days: 20 } };
    const held = { heating: 20, cooling: 20, glass: 0.2 };
    const three = runToEnd(
      edited(held, (p) => (p.storeys.ground.multiplier = 3)),
      w,
      settings,
    ).summary;
    const stacked = (floor: boolean, roof: boolean): Summary =>
      runToEnd(
        edited(held, (p) => {
          for (const [host, open] of [
            ["a/floor", floor],
            ["a/ceiling", roof],
          ] as const)
            if (!open) p.faceOverrides[host.replace("/", "_")] = { host, assembly: null, contact: "adiabatic" } as Project["faceOverrides"][string];
        }),
        w,
        settings,
      ).summary;
    const each = [stacked(true, false), stacked(false, false), stacked(false, true)];
    const sum = (of: (s: Summary) => number): number => each.reduce((t, s) => t + of(s), 0);
    expect(three.floorArea).toBeCloseTo(144, 9);
    expect(three.closure).toBeLessThan(1e-10);
    const net = (s: Summary): number => s.loads.heating.total - s.loads.cooling.total;
    expect(Math.abs(net(three) / sum(net) - 1)).toBeLessThan(0.01);
    expect(Math.abs(three.flows.roof.reduce((t, v) => t + v, 0) / sum((s) => s.flows.roof.reduce((t, v) => t + v, 0)) - 1)).toBeLessThan(0.02);
    expect(three.warnings.some((t) => t.includes("stands for 3"))).toBe(true);
  });
  it("exchange between a storey that stands for three and a single one cancels in the building's sums", () => {
    const w = projectWeather(boxProject()) as WeatherYear;
    const two = edited({ second: { heating: 24, cooling: 24 }, heating: 18, cooling: 18 }, (p) => {
      p.storeys.upper = { name: "Upper", elevation: 2.7, height: 2.7, multiplier: 3 };
      const form = p.spaces.b.form as Extract<Project["spaces"][string]["form"], { kind: "prism" }>;
      for (const c of form.outline) c.x -= 8;
      p.spaces.b.storey = "upper";
      p.airExchanges.x = { name: "stair", zones: ["a", "b"], flow: 0.05, schedule: null };
    });
    const { summary } = runToEnd(two, w, { stepsPerHour: 1, period: { firstDay: 0, days: 10 } });
    const [a, b] = ["a", "b"].map((id) => summary.zones.find((z) => z.id === id) as Summary["zones"][number]);
    for (const flow of ["partitions", "betweenZones"] as const) {
      const january = summary.flows[flow][0];
      expect(a.flows[flow][0]).toBeGreaterThan(1);
      expect(b.flows[flow][0] * 3).toBeCloseTo(-a.flows[flow][0], 1);
      expect(Math.abs(january)).toBeLessThan(flow === "betweenZones" ? 1e-9 : 0.15 * a.flows[flow][0]);
    }
    expect(summary.closure).toBeLessThan(1e-10);
    expect(summary.waterClosure).toBeLessThan(1e-10);
  });
});
