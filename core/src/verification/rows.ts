import closed from "./closedForms.json" with { type: "json" };
import {
  basementTransmittance,
  circuitPlane,
  circuitReduced,
  circuitResponse,
  edgeTransmittance,
  layersResistance,
  MeltingWall,
  modulus,
  paneAt,
  paneInterior,
  reduceWall,
  resistanceLayer,
  slabTransmittance,
  solidLayer,
  suspendedTransmittance,
  type LayerPhysics,
} from "../fabric/index.ts";
import { dewPoint, enthalpy, humidityRatio, saturationPressure, sunPosition, vapourPressure, wetBulb, type WeatherYear } from "../climate/index.ts";
import { leakageFlow, openingFlow, facadeFlow } from "../airflow/index.ts";
import { exp, PI, pow } from "../numeric/index.ts";
import { comfortVapourPressure, predictedMeanVote, runToEnd } from "../results/index.ts";
import { parallelRectangles, projectWeather } from "../simulate/index.ts";
import type { Project } from "../model/index.ts";
import { boxProject, steadyWeather } from "./box.ts";
import { LoneWall, steppedDecrement } from "./walls.ts";

/** One comparison: what, against which source, expected, found, and how far they may lie apart. */
export interface Row {
  readonly group: string;
  readonly source: string;
  readonly name: string;
  readonly quantity: string;
  readonly expected: number;
  readonly found: number;
  readonly within: number;
}

const copy = (p: Project): Project => JSON.parse(JSON.stringify(p)) as Project;

/** Days from 2000-01-01 12:00 UT to 2003-10-17 19:30:30 UT. */
const OCTOBER = 1385 + (7.5 + 30 / 3600) / 24;

/** Everything that is compared with a closed form or a published figure. */
export function closedRows(): Row[] {
  const rows: Row[] = [];
  const add = (group: string, source: string, name: string, quantity: string, expected: number, found: number, within: number): void =>
    void rows.push({ group, source, name, quantity, expected, found, within });

  for (const [name, w] of Object.entries(closed.periodic_wall_response.walls)) {
    const layers = w.layers_inside_to_outside.map((l) => solidLayer(l.d, l.lambda, l.rho, l.c)).reverse();
    for (const [steps, share, hours] of [
      [4, 0.01, 0.1],
      [1, 0.04, 0.2],
    ] as const) {
      const r = steppedDecrement(layers, w.rse, w.rsi, steps);
      const label = `${name}, ${60 / steps} min`;
      add("periodic wall response", "ISO 13786", label, "decrement factor", w.result.decrement_factor, r.decrement, share * w.result.decrement_factor);
      add("periodic wall response", "ISO 13786", label, "time shift, h", w.result.time_shift_h, r.timeShift, hours);
    }
  }
  const slab = closed.slab_step_response["concrete_0.20"];
  const concrete = solidLayer(slab.thickness, slab.k, slab.rho, slab.c);
  slab.times_s.forEach((t, i) => {
    if (t < 3600) return;
    const w = new LoneWall([concrete], [8, 8], 60, slab.initial);
    for (let s = 0; s < t; s += 60) w.advance(0, 0);
    add("slab step response", "series solution", `both sides to 0 °C air, ${t / 3600} h`, "surface, °C", slab.air_0_h8_both_sides_surface[i], w.inside, 0.05);
  });
  for (const c of closed.u_values.cases) {
    if ("R_ventilated" in c || !c.layers.every((l) => "R" in l)) continue;
    const u = 1 / (c.rsi + c.rse + layersResistance(c.layers.map((l) => resistanceLayer((l as { R: number }).R))));
    add("steady U", "ISO 6946", c.name, "W/m²K", c.U, u, 0.001 * c.U);
  }
  for (const g of closed.ground_floors) {
    const s = {
      area: g.area,
      perimeter: g.perimeter,
      wallThickness: g.wall_thickness,
      floorResistance: g.R_floor,
      conductivity: g.lambda_ground,
      heatCapacity: 2e6,
    };
    const near = (quantity: string, expected: number, found: number): void =>
      add("ground", "ISO 13370", `${g.shape}, ${quantity}`, "W/m²K", expected, found, 0.001 * Math.abs(expected));
    near("slab", g.U_slab, slabTransmittance(s));
    for (const position of ["horizontal", "vertical"] as const) {
      const e = g[`edge_${position}`];
      const edge = { position, depth: e.D, thickness: e.d_n, conductivity: e.d_n / e.R_n };
      // the reference takes the insulation's resistance as R_n
      near(`${position} edge, Ψ`, e.psi_ge, edgeTransmittance(s, edge));
      near(`${position} edge`, e.U, slabTransmittance({ ...s, edge }));
    }
    const b = basementTransmittance(s, { depth: g.basement.depth, wallResistance: g.basement.R_wall });
    near("basement floor", g.basement.U_floor, b.floor);
    near("basement walls", g.basement.U_wall, b.walls);
    const v = g.suspended;
    const whole = suspendedTransmittance(
      { ...s, floorResistance: 1 / v.U_f - 0.34 },
      { height: v.h, wallU: v.U_w, vents: v.vent_area_m2_per_m, shelter: v.f_w, groundResistance: v.R_g, wind: v.wind },
    );
    near("suspended floor", v.U, whole.u);
  }
  const sun = sunPosition(OCTOBER, 39.742476, -105.1786);
  add("solar position", "Reda and Andreas 2004", "2003-10-17 12:30:30 UTC−7", "zenith, °", 50.112, sun.zenith, 0.05);
  add("solar position", "Reda and Andreas 2004", "2003-10-17 12:30:30 UTC−7", "azimuth, °", 194.34, sun.azimuth, 0.05);
  for (const q of closed.pmv.table) {
    const r = predictedMeanVote({ air: q.ta, radiant: q.tr, speed: q.va, vapour: comfortVapourPressure(q.ta, q.rh / 100), met: q.met, clo: q.clo });
    add("comfort", "ISO 7730", `${q.ta} °C, ${q.met} met, ${q.clo} clo`, "PMV", q.pmv, r.pmv, 0.001);
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
  for (const h of [1, 8, 25, 100]) {
    const w = new LoneWall([solidLayer(0.001, 50, 7800, 450)], [h, h], 900, 20);
    let undershoot = 0;
    for (let i = 0; i < 50; i++) {
      w.advance(0, 0);
      undershoot = Math.max(undershoot, -w.inside);
    }
    add("no ringing", "its own sign", `1 mm steel, film ${h} W/m²K`, "undershoot of 20 K, K", 0, undershoot, 0.4);
  }
  add("view factors", "Howell et al. 2020, C-11", "opposite sides of a cube", "F", 0.199825, parallelRectangles(1, 1, 1), 1e-5);
  const clear = paneInterior(0.9134, 0.0829);
  // a clear surface of index 1.526 reflects 0.0434 at normal incidence (Duffie and Beckman 2013, example 5.1.1)
  add("glass", "Duffie and Beckman 2013", "surface reflectance from a clear pane's T and R", "1", 0.0434, clear.surface, 0.0005);
  const sixty = 0.5 * (paneAt(0.9168, 0.0832, 0.0832, PI / 3, false).t + paneAt(0.9168, 0.0832, 0.0832, PI / 3, true).t);
  // Fresnel at 60° and index 1.526: surfaces reflect 0.1855 and 0.0014 by polarisation; T = ½·Σ (1 − r)/(1 + r)
  add("glass", "Fresnel", "one clear pane without absorption at 60°", "T", 0.842, sixty, 0.002);
  rows.push(...circuitRows(), ...meltingRows(), ...airRows(), ...zoneRows());
  return rows;
}

/** A slab with a circuit: steady and periodic temperature at its plane and faces. */
function circuitRows(): Row[] {
  const layers: LayerPhysics[] = [
    solidLayer(0.08, 0.04, 30, 1400),
    solidLayer(0.05, 1.4, 2000, 1000),
    circuitPlane(),
    solidLayer(0.04, 1.4, 2000, 1000),
    solidLayer(0.01, 1.2, 2000, 900),
  ];
  const wall = reduceWall(layers, [7.7, 7.7]);
  const row = (name: string, quantity: string, expected: number, found: number, within: number): Row => ({
    group: "circuit slab",
    source: "closed form",
    name,
    quantity,
    expected,
    found,
    within,
  });
  const below = 0.08 / 0.04 + 0.05 / 1.4 + 1 / 7.7;
  const above = 0.04 / 1.4 + 0.01 / 1.2 + 1 / 7.7;
  const plane = 50 / (1 / below + 1 / above);
  const steady = (at: 0 | 1 | 2): number => 50 * circuitReduced(wall, 1e15, at)[0];
  const rows = [
    row("50 W/m² at the plane, steady", "plane, K above air", plane, steady(2), 1e-6 * plane),
    row("50 W/m² at the plane, steady", "upper face, K", (plane / above) * (1 / 7.7), steady(1), 1e-6 * plane),
    row("50 W/m² at the plane, steady", "lower face, K", (plane / below) * (1 / 7.7), steady(0), 1e-6 * plane),
  ];
  for (const hours of [24, 6]) {
    const exact = circuitResponse(layers, hours * 3600, 7.7, 7.7);
    for (const [at, name] of [
      [1, "upper face"],
      [2, "plane"],
    ] as const) {
      const size = modulus(exact[at]);
      rows.push(row(`sinusoid of ${hours} h`, `${name}, K per W/m²`, size, modulus(circuitReduced(wall, hours * 3600, at)), 0.01 * size));
    }
  }
  return rows;
}

/** Depth of the melting front in a deep layer at its melting temperature, one face held warmer, by the similarity solution. */
export function neumannFront(conductivity: number, density: number, specificHeat: number, latentHeat: number, difference: number, seconds: number): number {
  const stefan = (specificHeat * difference) / latentHeat;
  // λ·exp(λ²)·erf(λ) = St/√π by bisection; erf by its series
  const erf = (x: number): number => {
    let term = x;
    let sum = x;
    for (let n = 1; n < 40; n++) {
      term *= (-x * x) / n;
      sum += term / (2 * n + 1);
    }
    return (2 / Math.sqrt(PI)) * sum;
  };
  let low = 0;
  let high = 2;
  for (let i = 0; i < 80; i++) {
    const mid = (low + high) / 2;
    if (mid * exp(mid * mid) * erf(mid) < stefan / Math.sqrt(PI)) low = mid;
    else high = mid;
  }
  return 2 * low * Math.sqrt((conductivity / (density * specificHeat)) * seconds);
}

/** The same front by the year's own melting wall, m: molten share times thickness. */
export function steppedFront(seconds: number, dt: number): number {
  const layer = solidLayer(0.3, 0.2, 800, 2000);
  const wall = new MeltingWall([layer], [{ from: 24.95, to: 25, latentHeat: 180000 }], [1e4, 7.7], dt);
  wall.start(24.94, 24.94);
  let outside = 24.94;
  const f0 = 1e4 * 45;
  const f1 = 7.7 * 24.94;
  for (let t = 0; t < seconds; t += dt) {
    // passes as in the year; the last solve gives the faces that are booked
    let inside = 24.94;
    for (let pass = 0; pass < 4; pass++) {
      wall.linearise();
      const { p0, p1, d00, d01, d11 } = wall.port;
      outside = p0 + d00 * f0 + d01 * f1;
      inside = p1 + d01 * f0 + d11 * f1;
      wall.settle(f0, f1);
    }
    wall.advance(1e4 * (45 - outside), 7.7 * (24.94 - inside));
  }
  return 0.3 * wall.molten;
}

function meltingRows(): Row[] {
  return [6, 24, 48].map((hours) => {
    const expected = neumannFront(0.2, 800, 2000, 180000, 20, hours * 3600);
    return {
      group: "melting front",
      source: "Neumann's similarity solution",
      name: `face held 20 K above melting, ${hours} h`,
      quantity: "depth, m",
      expected,
      found: steppedFront(hours * 3600, 900),
      within: 0.04 * expected,
    };
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

/** Differences of a refinement, relative: 4 against 12 steps, and twice the vectors, of the test box over a year. */
export function refinementRows(project: Project): Row[] {
  const weather = projectWeather(project) as WeatherYear;
  const year = (stepsPerHour: number, furtherVectors = 0): { heating: number; cooling: number } => {
    const s = runToEnd(project, weather, { stepsPerHour, furtherVectors }).summary.loads;
    return { heating: s.heating.total, cooling: s.cooling.total };
  };
  const usual = year(4);
  const fine = year(12);
  const more = year(4, 3);
  const rows: Row[] = [];
  for (const load of ["heating", "cooling"] as const) {
    const near = (name: string, found: number): void =>
      void rows.push({
        group: "refinement",
        source: "itself",
        name: `${project.name}: ${name}`,
        quantity: `${load}, kWh`,
        expected: found,
        found: usual[load],
        within: 0.01 * found,
      });
    near("12 steps an hour against 4", fine[load]);
    near("twice the vectors", more[load]);
  }
  return rows;
}

/** Observed order in the step of the periodic response: error of a coarse step over that of half of it; first order would give 2 and miss the bound. */
export function orderRows(): Row[] {
  const w =
    closed.periodic_wall_response.walls["heavy_wall_900" as keyof typeof closed.periodic_wall_response.walls] ??
    Object.values(closed.periodic_wall_response.walls)[0];
  const layers = w.layers_inside_to_outside.map((l) => solidLayer(l.d, l.lambda, l.rho, l.c)).reverse();
  const error = (steps: number): number =>
    Math.abs(steppedDecrement(layers, w.rse, w.rsi, steps).timeShift - steppedDecrement(layers, w.rse, w.rsi, 60).timeShift);
  const ratio = error(1) / error(2);
  return [
    {
      group: "order",
      source: "second-order mean of a held input",
      name: "time shift of a wall, 60 against 30 minutes",
      quantity: "error ratio",
      expected: 4,
      found: ratio,
      within: 1.2,
    },
  ];
}
