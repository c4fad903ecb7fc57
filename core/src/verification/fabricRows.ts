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
  periodicResponse,
  reduceWall,
  resistanceLayer,
  slabTransmittance,
  solidLayer,
  suspendedTransmittance,
  type LayerPhysics,
} from "../fabric/index.ts";
import { exp, PI } from "../numeric/index.ts";
import { parallelRectangles } from "../simulate/index.ts";
import { collect, type Row } from "./row.ts";
import { LoneWall, steppedDecrement } from "./walls.ts";

/** Steps an hour with the share of the decrement factor and the hours of time shift by which the stepped wall may miss. */
const PERIODIC = [
  [4, 0.01, 0.1],
  [1, 0.04, 0.2],
] as const;

/** Of a swing of which less than this comes through, no more than this may be made up; its time shift is of no use. */
const FAINT = 0.02;

/** Layers in any order, from outside: where few slow states must carry what happens at a thin or a thick layer. */
const ANY_ORDER: readonly (readonly [name: string, layers: readonly LayerPhysics[]])[] = [
  ["1 mm steel on 300 mm insulation", [solidLayer(0.001, 50, 7800, 450), solidLayer(0.3, 0.035, 30, 1400)]],
  ["300 mm insulation on 1 mm steel", [solidLayer(0.3, 0.035, 30, 1400), solidLayer(0.001, 50, 7800, 450)]],
  ["400 mm concrete", [solidLayer(0.4, 2, 2400, 1000)]],
  ["60 mm screed on 1 m insulation", [solidLayer(1, 0.035, 30, 1400), solidLayer(0.06, 1.4, 2000, 1000)]],
  ["brick, unventilated cavity, block", [solidLayer(0.1, 0.77, 1700, 1000), resistanceLayer(0.18), solidLayer(0.1, 0.18, 600, 1000)]],
];

/** Walls, slabs, ground and glass against closed forms. */
export function fabricRows(): Row[] {
  return [...wallRows(), ...groundRows(), ...glassRows(), ...circuitRows(), ...meltingRows()];
}

function wallRows(): Row[] {
  return collect((add) => {
    const periodic = (name: string, source: string, layers: readonly LayerPhysics[], rse: number, rsi: number, decrement: number, hours: number): void => {
      for (const [steps, share, shift] of PERIODIC) {
        const r = steppedDecrement(layers, rse, rsi, steps);
        const label = `${name}, ${60 / steps} min`;
        if (decrement < FAINT) {
          add("periodic wall response", source, label, "decrement factor", decrement, r.decrement, FAINT);
          continue;
        }
        add("periodic wall response", source, label, "decrement factor", decrement, r.decrement, share * decrement);
        add("periodic wall response", source, label, "time shift, h", hours, r.timeShift, shift);
      }
    };
    for (const [name, w] of Object.entries(closed.periodic_wall_response.walls)) {
      const layers = w.layers_inside_to_outside.map((l) => solidLayer(l.d, l.lambda, l.rho, l.c)).reverse();
      periodic(name.replace(/_/g, " "), "ISO 13786", layers, w.rse, w.rsi, w.result.decrement_factor, w.result.time_shift_h);
    }
    for (const [name, layers] of ANY_ORDER) {
      const exact = periodicResponse(layers, 86400, 0.04, 0.13);
      periodic(name, "transfer matrix of ISO 13786", layers, 0.04, 0.13, exact.decrement, exact.timeShift / 3600);
    }
    const slab = closed.slab_step_response["concrete_0.20"];
    const concrete = solidLayer(slab.thickness, slab.k, slab.rho, slab.c);
    /** Faces after so many seconds in steps of a minute, from the slab's first temperature. */
    const after = (seconds: number, film: number, heat: number): LoneWall => {
      const w = new LoneWall([concrete], [film, film], 60, slab.initial);
      for (let s = 0; s < seconds; s += 60) w.advance(0, 0, 0, heat);
      return w;
    };
    slab.times_s.forEach((t, i) => {
      if (t < 3600) return;
      const w = after(t, 8, 0);
      add("slab step response", "series solution", `both sides to 0 °C air, ${t / 3600} h`, "surface, °C", slab.air_0_h8_both_sides_surface[i], w.inside, 0.05);
    });
    slab.times_s.forEach((t, i) => {
      if (t < 3600) return;
      const w = after(t, 1e-9, 100);
      const name = `100 W/m² into one face, ${t / 3600} h`;
      add("slab step response", "series solution", name, "heated face, °C", slab.flux_100_one_face_temperature_heated[i], w.inside, 0.06);
      add("slab step response", "series solution", name, "adiabatic face, °C", slab.flux_100_one_face_temperature_adiabatic[i], w.outside, 0.06);
    });
    for (const c of closed.u_values.cases) {
      if ("R_ventilated" in c || !c.layers.every((l) => "R" in l)) continue;
      const u = 1 / (c.rsi + c.rse + layersResistance(c.layers.map((l) => resistanceLayer((l as { R: number }).R))));
      add("steady U", "ISO 6946", c.name, "W/m²K", c.U, u, 0.001 * c.U);
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
  });
}

function groundRows(): Row[] {
  return collect((add) => {
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
  });
}

function glassRows(): Row[] {
  return collect((add) => {
    add("view factors", "Howell et al. 2020, C-11", "opposite sides of a cube", "F", 0.199825, parallelRectangles(1, 1, 1), 1e-5);
    const clear = paneInterior(0.9134, 0.0829);
    // a clear surface of index 1.526 reflects 0.0434 at normal incidence (Duffie and Beckman 2013, example 5.1.1)
    add("glass", "Duffie and Beckman 2013", "surface reflectance from a clear pane's T and R", "1", 0.0434, clear.surface, 0.0005);
    const sixty = 0.5 * (paneAt(0.9168, 0.0832, 0.0832, PI / 3, false).t + paneAt(0.9168, 0.0832, 0.0832, PI / 3, true).t);
    // Fresnel at 60° and index 1.526: surfaces reflect 0.1855 and 0.0014 by polarisation; T = ½·Σ (1 − r)/(1 + r)
    add("glass", "Fresnel", "one clear pane without absorption at 60°", "T", 0.842, sixty, 0.002);
  });
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
