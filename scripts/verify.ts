import { mkdirSync, writeFileSync } from "node:fs";
import closed from "../core/src/verification/closedForms.json" with { type: "json" };
import { boxProject } from "../core/src/verification/box.ts";
import { LoneWall, steppedDecrement } from "../core/src/verification/walls.ts";
import {
  comfortVapourPressure,
  dewPoint,
  enthalpy,
  humidityRatio,
  layersResistance,
  predictedMeanVote,
  projectWeather,
  resistanceLayer,
  runToEnd,
  saturationPressure,
  seriesHash,
  slabTransmittance,
  solidLayer,
  sunPosition,
  vapourPressure,
  wetBulb,
  type WeatherYear,
} from "../core/src/index.ts";

/** npm run verify: the core against closed forms and published figures, as a table and in .local/verify.json. */
interface Row {
  readonly group: string;
  readonly name: string;
  readonly quantity: string;
  readonly expected: number;
  readonly found: number;
  /** Largest allowed difference, in the unit of the quantity. */
  readonly within: number;
}
const rows: Row[] = [];
const add = (group: string, name: string, quantity: string, expected: number, found: number, within: number): void =>
  void rows.push({ group, name, quantity, expected, found, within });

for (const [name, w] of Object.entries(closed.periodic_wall_response.walls)) {
  const layers = w.layers_inside_to_outside.map((l) => solidLayer(l.d, l.lambda, l.rho, l.c)).reverse();
  for (const [steps, share, hours] of [
    [4, 0.01, 0.1],
    [1, 0.04, 0.2],
  ] as const) {
    const r = steppedDecrement(layers, w.rse, w.rsi, steps);
    const label = `${name}, ${60 / steps} min`;
    add("periodic wall response", label, "decrement factor", w.result.decrement_factor, r.decrement, share * w.result.decrement_factor);
    add("periodic wall response", label, "time shift, h", w.result.time_shift_h, r.timeShift, hours);
  }
}
const slab = closed.slab_step_response["concrete_0.20"];
const concrete = solidLayer(slab.thickness, slab.k, slab.rho, slab.c);
slab.times_s.forEach((t, i) => {
  if (t < 3600) return;
  const w = new LoneWall([concrete], [8, 8], 60, slab.initial);
  for (let s = 0; s < t; s += 60) w.advance(0, 0);
  add("slab step response", `both sides to 0 °C air, ${t / 3600} h`, "surface, °C", slab.air_0_h8_both_sides_surface[i], w.inside, 0.05);
});
for (const c of closed.u_values.cases) {
  if ("R_ventilated" in c || !c.layers.every((l) => "R" in l)) continue;
  const u = 1 / (c.rsi + c.rse + layersResistance(c.layers.map((l) => resistanceLayer((l as { R: number }).R))));
  add("steady U", c.name, "W/m²K", c.U, u, 0.001 * c.U);
}
for (const g of closed.ground_floors)
  add(
    "ground floor",
    g.shape,
    "W/m²K",
    g.U_slab,
    slabTransmittance({
      area: g.area,
      perimeter: g.perimeter,
      wallThickness: g.wall_thickness,
      floorResistance: g.R_floor,
      conductivity: g.lambda_ground,
      heatCapacity: 2e6,
    }),
    0.001 * g.U_slab,
  );
const sun = sunPosition((Date.UTC(2003, 9, 17, 19, 30, 30) - Date.UTC(2000, 0, 1, 12)) / 86400000, 39.742476, -105.1786);
add("solar position", "2003-10-17 12:30:30 UTC−7", "zenith, °", 50.112, sun.zenith, 0.05);
add("solar position", "2003-10-17 12:30:30 UTC−7", "azimuth, °", 194.34, sun.azimuth, 0.05);
for (const q of closed.pmv.table) {
  const r = predictedMeanVote({ air: q.ta, radiant: q.tr, speed: q.va, vapour: comfortVapourPressure(q.ta, q.rh / 100), met: q.met, clo: q.clo });
  add("comfort", `${q.ta} °C, ${q.met} met, ${q.clo} clo`, "PMV", q.pmv, r.pmv, 0.001);
}
for (const q of closed.psychrometrics.points) {
  const w = humidityRatio(q.t, q.rh / 100, q.p);
  const at = `${q.t} °C, ${q.rh} %, ${q.p / 1000} kPa`;
  add("psychrometrics", at, "saturation, Pa", q.p_ws, saturationPressure(q.t), 1e-6 * q.p_ws);
  add("psychrometrics", at, "enthalpy, kJ/kg", q.h_kJ_kg, enthalpy(q.t, w) / 1000, 0.001);
  add("psychrometrics", at, "dew point, °C", q.dew_point, dewPoint(vapourPressure(w, q.p)), 0.001);
  add("psychrometrics", at, "wet bulb, °C", q.wet_bulb, wetBulb(q.t, w, q.p), 0.01);
}
for (const h of [1, 8, 25, 100]) {
  const w = new LoneWall([solidLayer(0.001, 50, 7800, 450)], [h, h], 900, 20);
  let undershoot = 0;
  for (let i = 0; i < 50; i++) {
    w.advance(0, 0);
    undershoot = Math.max(undershoot, -w.inside);
  }
  add("no ringing", `1 mm steel, film ${h} W/m²K`, "undershoot of 20 K, K", 0, undershoot, 0.4);
}
for (const weight of ["light", "heavy"] as const) {
  const box = boxProject({ weight, heating: null, cooling: null, glass: 0.5 });
  const weather = projectWeather(box) as WeatherYear;
  const r = runToEnd(box, weather, { stepsPerHour: 4 });
  add("free-floating box", weight, "closure of the books", 0, r.summary.closure, 1e-6);
  add("same bits again", weight, "hash differs", 0, seriesHash(r) === seriesHash(runToEnd(box, weather, { stepsPerHour: 4 })) ? 0 : 1, 0);
}

let group = "";
let failed = 0;
for (const r of rows) {
  if (r.group !== group) console.log(`\n${(group = r.group)}`);
  const ok = Math.abs(r.found - r.expected) <= r.within;
  if (!ok) failed++;
  console.log(
    `  ${ok ? "ok  " : "MISS"} ${r.name.padEnd(44)} ${r.quantity.padEnd(24)} ${r.expected.toPrecision(6).padStart(12)} ${r.found.toPrecision(6).padStart(12)}`,
  );
}
mkdirSync(".local", { recursive: true });
writeFileSync(
  ".local/verify.json",
  JSON.stringify(
    rows.map((r) => ({ ...r, ok: Math.abs(r.found - r.expected) <= r.within })),
    null,
    2,
  ) + "\n",
);
console.log(`\n${rows.length - failed} of ${rows.length} within their bounds. The hash of Node and Chromium is compared by the browser tests.`);
process.exit(failed === 0 ? 0 : 1);
