import closed from "./closedForms.json" with { type: "json" };
import { dewPoint, enthalpy, humidityRatio, saturationPressure, sunPosition, vapourPressure, wetBulb } from "../climate/index.ts";
import { facadeFlow, leakageFlow, openingFlow } from "../airflow/index.ts";
import { exp, pow } from "../numeric/index.ts";
import { comfortVapourPressure, dissatisfied, predictedMeanVote, runToEnd } from "../results/index.ts";
import type { Project } from "../model/index.ts";
import { boxProject, steadyWeather } from "./box.ts";
import { RayScene, reflectedViews, type Vector } from "../geometry/index.ts";
import { compile, YearKernel } from "../simulate/index.ts";
import { collect, type Row } from "./row.ts";

const copy = (p: Project): Project => JSON.parse(JSON.stringify(p)) as Project;

/** Days from 2000-01-01 12:00 UT to 2003-10-17 19:30:30 UT. */
const OCTOBER = 1385 + (7.5 + 30 / 3600) / 24;

/** Sun, people, air and rooms against published figures and closed forms. */
export function roomRows(): Row[] {
  return [...figureRows(), ...airRows(), ...zoneRows(), ...moistureRows(), ...dryingRows(), ...groundRows(), ...storeyRows()];
}

function figureRows(): Row[] {
  return collect((add) => {
    const sun = sunPosition(OCTOBER, 39.742476, -105.1786);
    add("solar position", "Reda and Andreas 2004", "2003-10-17 12:30:30 UTC−7", "zenith, °", 50.112, sun.zenith, 0.05);
    add("solar position", "Reda and Andreas 2004", "2003-10-17 12:30:30 UTC−7", "azimuth, °", 194.34, sun.azimuth, 0.05);
    for (const q of closed.pmv.table) {
      const r = predictedMeanVote({ air: q.ta, radiant: q.tr, speed: q.va, vapour: comfortVapourPressure(q.ta, q.rh / 100), met: q.met, clo: q.clo });
      add("comfort", "ISO 7730", `${q.ta} °C, ${q.met} met, ${q.clo} clo`, "PMV", q.pmv, r.pmv, 0.001);
      add("comfort", "ISO 7730", `${q.ta} °C, ${q.met} met, ${q.clo} clo`, "dissatisfied, %", q.ppd, dissatisfied(r.pmv), 0.05);
    }
    for (const q of closed.psychrometrics.points) {
      const w = humidityRatio(q.t, q.rh / 100, q.p);
      const at = `${q.t} °C, ${q.rh} %, ${q.p / 1000} kPa`;
      const source = "ASHRAE Fundamentals 2017";
      add("psychrometrics", source, at, "saturation, Pa", q.p_ws, saturationPressure(q.t), 1e-6 * q.p_ws);
      add("psychrometrics", source, at, "enthalpy, kJ/kg", q.h_kJ_kg, enthalpy(q.t, w) / 1000, 0.001);
      add("psychrometrics", source, at, "dew point, °C", q.dew_point, dewPoint(vapourPressure(w, q.p)), 0.001);
      add("psychrometrics", source, at, "wet bulb, °C", q.wet_bulb, wetBulb(q.t, w, q.p), 0.01);
    }
  });
}

function airRows(): Row[] {
  const rows: Row[] = [];
  const add = (name: string, quantity: string, source: string, expected: number, found: number): void =>
    void rows.push({ group: "air", source, name, quantity, expected, found, within: 1e-9 * Math.abs(expected) });
  add(
    "leakage of 500 cm², 20 K, 4 m/s, one storey, moderate shelter",
    "m³/s",
    "ASHRAE Fundamentals 2017, ch. 16, eq. 48",
    0.5 * Math.sqrt(0.000145 * 20 + 0.000174 * 16),
    leakageFlow(0.05, { stack: 0.000145, wind: 0.000174 }, 20, 4),
  );
  add("façade flow at 16 times the reference pressure", "ratio", "exponent 0.65", pow(16, 0.65), facadeFlow(1, 64, 4));
  const one = [{ area: 1, azimuth: 180, middle: 1.5, height: 1, profile: 1 }];
  add(
    "one opening of 1 m × 1 m, 10 K, no wind",
    "m³/s",
    "Brown and Solvason 1962",
    (0.6 / 3) * Math.sqrt((9.81 * 10) / (273.15 + 20)),
    openingFlow(one, 25, 15, 0, 0),
  );
  const two = [
    { area: 1, azimuth: 180, middle: 1, height: 1e-9, profile: 1 },
    { area: 1, azimuth: 0, middle: 4, height: 1e-9, profile: 1 },
  ];
  add(
    "two equal openings 3 m apart, 10 K, no wind",
    "m³/s",
    "Q = C_d·A·√(2gΔh·ΔT/T)",
    0.6 * Math.sqrt((2 * 9.81 * 1.5 * 10) / (273.15 + 25)),
    openingFlow(two, 25, 15, 0, 0),
  );
  const opposite = [
    { area: 1, azimuth: 180, middle: 1.5, height: 1, profile: 1 },
    { area: 1, azimuth: 0, middle: 1.5, height: 1, profile: 1 },
  ];
  add(
    "1 m² on opposite sides, wind of 3 m/s head on",
    "m³/s",
    "Q = C·A·V, ASHRAE Fundamentals 2017, ch. 16, C = 0.55",
    0.55 * 3,
    openingFlow(opposite, 22, 22, 3, 180),
  );
  add("1 m² on one side, wind of 3 m/s", "m³/s", "EN 16798-7: A/2·√(0.001·V²)", 0.5 * Math.sqrt(0.001) * 3, openingFlow([opposite[0]], 22, 22, 3, 180));
  // the exact flow has the densities of both airs; the design method the temperature difference over the warmer one
  for (const o of closed.two_openings) {
    const pair = [
      { area: o.A_low, azimuth: 180, middle: 0, height: 1e-9, profile: 1 },
      { area: o.A_high, azimuth: 0, middle: o.height_between, height: 1e-9, profile: 1 },
    ];
    const expected = o.volume_flow_out_density_m3_s;
    rows.push({
      group: "air",
      source: "two orifices with both densities",
      name: `two openings of ${o.A_low} m² ${o.height_between} m apart, ${o.t_in} °C in, ${o.t_out} °C out`,
      quantity: "m³/s",
      expected,
      found: openingFlow(pair, o.t_in, o.t_out, 0, 0),
      within: 0.02 * expected,
    });
  }
  return rows;
}

/** Rooms whose steady state is known: walls of a resistance so large that films do not matter. */
function sealed(second: boolean): Project {
  const p = copy(boxProject({ gains: 0, infiltration: 0, heating: null, cooling: null, ...(second ? { second: { heating: null, cooling: null } } : {}) }));
  for (const a of Object.values(p.assemblies)) a.layers = [{ kind: "resistance", id: "r", name: "r", resistance: 100 }];
  p.site.ground.temperature = new Array<number>(12).fill(0);
  p.site.elevation = 0;
  return p;
}

function zoneRows(): Row[] {
  const rows: Row[] = [];
  const weather = steadyWeather(0);
  const period = { firstDay: 0, days: 20 };
  const add = (name: string, quantity: string, expected: number, found: number, within: number): void =>
    void rows.push({ group: "zones in balance", source: "closed form", name, quantity, expected, found, within });
  const last = (p: Project, zone: string): number => {
    const r = runToEnd(p, weather, { stepsPerHour: 1, period });
    return r.series.find((s) => s.scope === zone && s.quantity === "airTemperature")?.values[479] ?? NaN;
  };
  const density = 101325 / (287.042 * 273.15);
  const cp = 1006 + 1860 * humidityRatio(0, 0.5, 101325);
  const volume = 129.6;
  // one room: 300 W held at capacity against half an air change
  const one = sealed(false);
  Object.assign(one.spaceTypes.box.inputs, { infiltration: 0.5, heatingSetpoint: 40, heatingSetback: 40 });
  one.zones.a.inputs = { heatingCapacity: 300 };
  const flow = (cp * density * 0.5 * volume) / 3600;
  // films of about 6 W/m²K inside and 20 outside are 0.2 % of the resistance
  const ua = (2 * (8 + 6) * 2.7 + 48) / 100.2 + 48 / 100.18;
  add("300 W of capacity against half an air change", "air, °C", 300 / (flow + ua), last(one, "a"), 0.1);
  // two rooms: 200 W into the first, air passed between them, the second leaks
  const two = sealed(true);
  two.airExchanges.x = { name: "x", zones: ["a", "b"], flow: 0.03, schedule: null };
  two.spaces.a.inputs = { appliancePower: 200 / 48, applianceRadiantShare: 0 };
  two.spaces.b.inputs = { ...two.spaces.b.inputs, infiltration: 1 };
  const room = 101325 / (287.042 * 293.15);
  const g = cp * room * 0.03;
  const leak = (cp * density * volume) / 3600;
  const wall = (2 * 8 * 2.7 + 6 * 2.7 + 48) / 100.2 + 48 / 100.18;
  const between = (6 * 2.7) / 100.3;
  const det = (g + between + wall) * (g + between + wall + leak) - (g + between) * (g + between);
  const ta = (200 * (g + between + wall + leak)) / det;
  const tb = (200 * (g + between)) / det;
  add("200 W into one room, air passed on, the other leaks", "first, °C", ta, last(two, "a"), 0.1);
  add("200 W into one room, air passed on, the other leaks", "second, °C", tb, last(two, "b"), 0.1);
  const injected = runToEnd(two, weather, { stepsPerHour: 1, period }).summary.zones[0].flows;
  const hours = 480;
  const watt = (name: keyof typeof injected): number => (1000 * injected[name].reduce((s, v) => s + v, 0)) / hours;
  const lost = -(watt("walls") + watt("roof") + watt("ground") + watt("partitions") + watt("betweenZones") + watt("infiltration") + watt("storage"));
  add("200 W injected, found on named paths", "W", 200, lost, 1e-6);
  return rows;
}

/** Vapour of people that come into a room of 20 °C: humidity rises as an exponential of the air change over the storing capacity. */
function moistureRows(): Row[] {
  const p = copy(boxProject({ heating: 20, cooling: 20, gains: 0, infiltration: 0.5 }));
  p.site.elevation = 0;
  const capacity = 4;
  Object.assign(p.spaceTypes.box.inputs, { moistureCapacity: capacity, peopleDensity: 1 / 48, peopleSensible: 0, peopleLatent: 100, peopleSchedule: "come" });
  const day = (value: number) => ({ name: String(value), values: new Array<number>(24).fill(value) });
  p.schedules.come = {
    name: "Come",
    kind: "fraction",
    profiles: { away: day(0), here: day(1) },
    weeks: [
      { id: "a", from: [1, 1], to: [12, 31], days: new Array<string>(8).fill("away") },
      { id: "b", from: [3, 1], to: [12, 31], days: new Array<string>(8).fill("here") },
    ],
  };
  // one day without them, then they come on 1 March
  const run = runToEnd(p, steadyWeather(20), { stepsPerHour: 12, period: { firstDay: 58, days: 4 }, series: ["humidityRatio"] });
  const w = run.series.find((s) => s.quantity === "humidityRatio")?.values as Float64Array;
  const density = 101325 / (287.042 * 293.15);
  const rise = 100 / 2.501e6 / ((0.5 * 129.6 * density) / 3600);
  const tau = capacity / 0.5;
  return collect((add) => {
    for (const h of [1, 4, 8, 24]) {
      const mean = rise * (1 - (exp(-(h - 1) / tau) - exp(-h / tau)) * tau);
      add("moisture step", "closed form", `100 W of vapour, mean of hour ${h}`, "g/kg above before", 1000 * mean, 1000 * (w[23 + h] - w[23]), 20 * rise);
    }
  });
}

/** Rooms that are dried: water that comes in is what is taken out, whatever the step; and exhaust that is kept from freezing. */
function dryingRows(): Row[] {
  return collect((add) => {
    for (const steps of [1, 4, 12]) {
      const p = copy(boxProject({ heating: 24, cooling: 24, gains: 0, infiltration: 0, second: { heating: 24, cooling: 24 } }));
      Object.assign(p.spaces.a.inputs, { dehumidifySetpoint: 40 });
      Object.assign(p.spaces.b.inputs, { peopleGiven: "count", peopleCount: 20, peopleLatent: 72, peopleSensible: 0 });
      p.airExchanges.x = { name: "door", zones: ["a", "b"], flow: 0.15, schedule: null };
      const k = settled(p, 24, steps, 6);
      const [a, b] = ["a", "b"].map((id) => k.model.zoneIds.indexOf(id));
      const name = `1440 W of vapour in a sealed room beside one at 40 %, 0.15 m³/s between, ${steps === 1 ? "1 step" : `${steps} steps`} an hour`;
      add("drying", "what comes in goes out", name, "dehumidification, W", 1440, k.record.dehumidification[a], 0.01);
      const apart = 1440 / 2.501e6 / k.state.passNow[0];
      add(
        "drying",
        "1440 W over the air between",
        name,
        "humidity apart, g/kg",
        1000 * apart,
        1000 * (k.record.humidityRatio[b] - k.record.humidityRatio[a]),
        1e-4,
      );
    }
    const cold = copy(boxProject({ heating: 20, cooling: null, gains: 0, infiltration: 0 }));
    cold.spaceTypes.box.inputs.outdoorAirPerArea = 0.001;
    cold.services.plain.heatRecovery = { sensible: 0.8, latent: 0, frostLimit: 2 };
    const { state } = settled(cold, -20, 4, 4);
    add(
      "drying",
      "exhaust at its limit",
      "recovery of 80 % at −20 °C, exhaust not below 2 °C",
      "exhaust, °C",
      2,
      state.airStart[0] - state.airSupply[0] * (state.airStart[0] + 20),
      1e-6,
    );
  });
}

/** A kernel after days of one weather without sun. */
function settled(p: Project, outside: number, steps: number, days: number): YearKernel {
  const w = steadyWeather(outside);
  const k = new YearKernel(compile(p, w, steps), w);
  k.start(outside, 20, 0.007);
  for (let h = 0; h < 24 * days; h++) for (let s = 0; s < steps; s++) k.step(h, s);
  return k;
}

/** Ground between two long walls, as one of them sees it: the view factor between plates at right angles of endless length. */
function groundRows(): Row[] {
  return collect((add) => {
    const long = 2000;
    const height = 6;
    const upright = (y: number): Vector[] => [
      [-long, y, 0],
      [long, y, 0],
      [long, y, height],
      [-long, y, height],
    ];
    const overhead = new Array<Vector>(288).fill([0, 0, 1]);
    for (const width of [3, 6, 12]) {
      const receiver = {
        pieces: [
          [
            [-5, 0, 0],
            [5, 0, 0],
            [5, 0, height],
            [-5, 0, height],
          ] as Vector[],
        ],
        normal: [0, -1, 0] as Vector,
      };
      const [v] = reflectedViews(receiver, new RayScene([{ corners: upright(-width), reflectance: 0, set: 0 }]), overhead, [0, 1, 0]);
      const r = width / height;
      add(
        "ground seen",
        "Howell, Mengüç, Daun and Siegel 2020, C-3",
        `street of ${width} m between walls of ${height} m, sun overhead`,
        "view of lit ground",
        0.5 * (1 + r - Math.sqrt(1 + r * r)),
        v.groundBeam[0],
        0.015,
      );
    }
  });
}

/** A storey that stands for three against three storeys on each other with nothing passing between them. */
function storeyRows(): Row[] {
  const weather = steadyWeather(-5);
  const settings = { stepsPerHour: 1, period: { firstDay: 0, days: 10 } };
  const of = (edit: (p: Project) => void): number => {
    const p = copy(boxProject({ heating: 20, cooling: null, gains: 0, glass: 0.2 }));
    edit(p);
    return runToEnd(p, weather, settings).summary.loads.heating.total;
  };
  const sealed = (...hosts: string[]): number =>
    of((p) => {
      for (const h of hosts) p.faceOverrides[h] = { host: `a/${h}`, assembly: null, contact: "adiabatic" };
    });
  const three = of((p) => (p.storeys.ground.multiplier = 3));
  const stacked = sealed("ceiling") + sealed("floor", "ceiling") + sealed("floor");
  return collect((add) =>
    add("storeys that stand for several", "three storeys, each by itself", "ten days at −5 °C", "heating, kWh", stacked, three, 0.005 * stacked),
  );
}
