import { WATER_HEAT } from "../inputs/index.ts";
import {
  biquadratic,
  collectorHeat,
  followed,
  incidenceModifier,
  machineInput,
  mixedTank,
  stagnation,
  twoNodeTank,
  type CollectorsModel,
  type WaterHeaterModel,
  type WaterSystemModel,
} from "../services/index.ts";
import { TERM, type CompiledModel } from "./model.ts";
import type { KernelState } from "./state.ts";
import type { SunPlane } from "./siteModel.ts";
import { noPlaneSun, sunOnPlane } from "./sunPlanes.ts";

/** Places of what a system did, J summed until they are read (water: kg). */
export const TANK = {
  HEATED: 0,
  SOLAR: 1,
  DRAWN: 2,
  WANTED: 3,
  UNMET: 4,
  STORE_LOSS: 5,
  PIPE_LOSS: 6,
  PUMP: 7,
  SOLAR_PUMP: 8,
  PUMP_HEAT: 9,
  SUN: 10,
  MASS: 11,
} as const;
export const TANKS = 12;

/** State of all hot-water systems of a run. */
export interface WaterState {
  /** °C at the end of the step: of the store or its upper half, and of its lower half. */
  readonly upper: Float64Array;
  readonly lower: Float64Array;
  /** Whether the heater runs, and each system's collectors. */
  readonly firing: Uint8Array;
  readonly running: readonly Uint8Array[];
  /** [system][TANK]. */
  readonly sums: readonly Float64Array[];
  /** [system][heater]: heat and fuel, J. [system][collectors]: heat, J. */
  readonly heat: readonly Float64Array[];
  readonly fuel: readonly Float64Array[];
  readonly solar: readonly Float64Array[];
  /** Sums of what a system's books should and do hold, J. */
  readonly residual: Float64Array;
  readonly gross: Float64Array;
  /** Heat of the hour's schedules in the rooms, W, before what hot water adds. */
  readonly convective: Float64Array;
  readonly latent: Float64Array;
}

/** Store before the warm-up where its temperature follows a schedule, °C: the warm-up makes it what it is. */
const START = 60;

/** Systems as they stand before the run: stores at their temperature. */
export function waterState(m: CompiledModel): WaterState {
  const { systems } = m.water;
  const list = (of: (x: WaterSystemModel) => number): Float64Array[] => systems.map((x) => new Float64Array(of(x)));
  const start = Float64Array.from(systems, (x) => (x.supply.value === x.supply.value ? x.supply.value : START));
  return {
    upper: start,
    lower: start.slice(),
    firing: new Uint8Array(systems.length),
    running: systems.map((x) => new Uint8Array(x.collectors.length)),
    sums: systems.map(() => new Float64Array(TANKS)),
    heat: list((x) => x.heaters.length),
    fuel: list((x) => x.heaters.length),
    solar: list((x) => x.collectors.length),
    residual: new Float64Array(systems.length),
    gross: new Float64Array(systems.length),
    convective: new Float64Array(m.zones),
    latent: new Float64Array(m.zones),
  };
}

/** Rounds in which the mixed draw and the temperature of the store agree. */
const ROUNDS = 4;
/** Water is told as too cold below what is wanted by this, K. */
const COLDER = 0.05;
/** During disinfection the heater starts this far below its temperature, K. */
const HELD = 0.5;

/** What becomes of a system's water in a step: temperatures at its end, that of the draw, and heat lost and drawn, J. */
interface Outcome {
  upper: number;
  lower: number;
  hot: number;
  store: number;
  pipes: number;
  drawn: number;
}

/** Capacity flow of hot water that mixes what is wanted at the taps, W/K. @param hot °C */
function mixedDraw(x: WaterSystemModel, scheduled: Float64Array, hot: number, cold: number): number {
  let sum = 0;
  for (let d = 0; d < x.draws.length; d++) {
    const { flow, row, tap, times } = x.draws[d];
    if (tap <= cold) continue;
    const share = hot > tap ? (tap - cold) / (hot - cold) : 1;
    sum += flow * scheduled[row] * times * share;
  }
  return sum * WATER_HEAT;
}

/** The store over a step with heat into it. @param around °C of the store and of the pipes @param pipes W/K */
function storeStep(
  x: WaterSystemModel,
  w: WaterState,
  i: number,
  draw: number,
  cold: number,
  heat: number,
  low: number,
  around: number,
  passing: number,
  pipes: number,
  dt: number,
): Outcome {
  if (x.store === "layered") {
    const half = 0.5 * x.capacity;
    const loss = 0.5 * x.loss;
    const own = loss + pipes;
    const r = twoNodeTank(w.upper[i], w.lower[i], {
      upper: { capacity: half, loss: own, heat, ambient: own > 0 ? (loss * around + pipes * passing) / own : around },
      lower: { capacity: half, loss, heat: low },
      between: x.between,
      draw,
      inlet: cold,
      ambient: around,
      dt,
    });
    const inPipes = pipes * (r.hot - passing) * dt;
    return { upper: r.upper, lower: r.lower, hot: r.hot, store: r.lost - inPipes, pipes: inPipes, drawn: r.drawn };
  }
  const loss = x.loss + pipes;
  const ambient = loss > 0 ? (x.loss * around + pipes * passing) / loss : around;
  const r = mixedTank(w.upper[i], { capacity: x.capacity, loss, heat: heat + low, draw, inlet: cold, ambient, dt });
  const inPipes = pipes * (r.mean - passing) * dt;
  return { upper: r.end, lower: r.end, hot: r.mean, store: r.lost - inPipes, pipes: inPipes, drawn: r.drawn };
}

/** Most heat a heater gives now, W. */
export function heaterPower(h: WaterHeaterModel, hot: number, outdoor: number): number {
  if (h.curves === null) return h.power;
  return outdoor < h.leastOutdoor ? 0 : h.power * biquadratic(h.curves.capacity, hot, outdoor);
}
/** Fuel or electricity a heater uses for a heat, W. */
export function heaterFuel(h: WaterHeaterModel, heat: number, hot: number, outdoor: number): number {
  if (h.curves === null) return heat * h.ratio;
  return machineInput(heat, heaterPower(h, hot, outdoor), h.ratio, biquadratic(h.curves.input, hot, outdoor), h.curves.part);
}

const sun = noPlaneSun();
/** Modifier of diffuse radiation: that of beam at 60° (Duffie and Beckman 2013, section 5.4). */
const DIFFUSE_COSINE = 0.5;

/** Heat of a system's collectors, W; each starts and stops by difference of temperature, once a step. */
function collect(s: KernelState, w: WaterState, i: number, x: WaterSystemModel, planes: readonly SunPlane[], low: number, dt: number): number {
  let heat = 0;
  for (let c = 0; c < x.collectors.length; c++) {
    const k: CollectorsModel = x.collectors[c];
    sunOnPlane(s, planes[c], sun);
    const outdoor = s.boundary.outdoor;
    const { at50 } = k.collector;
    const absorbed = sun.litBeam * incidenceModifier(at50, sun.cosine) + (sun.seenDiffuse + sun.ground) * incidenceModifier(at50, DIFFUSE_COSINE);
    const sums = w.sums[i];
    sums[TANK.SUN] += (sun.litBeam + sun.seenDiffuse + sun.ground) * k.collector.area * dt;
    const was = w.running[i][c] === 1;
    let given = 0;
    if (low < k.most && (was || stagnation(k.collector, absorbed, outdoor) > low + k.on)) {
      given = collectorHeat(k.collector, absorbed, low, outdoor, k.flow);
      // its outlet is no longer warm enough: it stops
      if (given / k.flow < k.off && was) given = 0;
    }
    w.running[i][c] = given > 0 ? 1 : 0;
    if (!(given > 0)) continue;
    w.solar[i][c] += given * dt;
    sums[TANK.SOLAR] += given * dt;
    sums[TANK.SOLAR_PUMP] += k.pump * dt;
    heat += given;
  }
  return heat;
}

/**
 * All hot-water systems over one step, from the temperatures of the rooms at its start: draw, circulation, losses, heaters and collectors. Their
 * losses become heat of the rooms in the same step, so that what leaves the water arrives in the rooms.
 * @param clock hour of the run @param k step of the hour
 */
export function hotWater(m: CompiledModel, s: KernelState, w: WaterState, clock: number, k: number): void {
  const { zones, dt } = m;
  const t = s.hourTerms;
  const conv = TERM.applianceConvective * zones;
  const wet = TERM.applianceLatent * zones;
  if (k === 0) {
    for (let z = 0; z < zones; z++) {
      w.convective[z] = t[conv + z];
      w.latent[z] = t[wet + z];
    }
  } else
    for (let z = 0; z < zones; z++) {
      t[conv + z] = w.convective[z];
      t[wet + z] = w.latent[z];
    }
  const { systems, planes } = m.water;
  for (let i = 0; i < systems.length; i++) systemStep(s, w, i, systems[i], planes[i], s.boundary.month, clock, conv, wet, dt);
}

function systemStep(
  s: KernelState,
  w: WaterState,
  i: number,
  x: WaterSystemModel,
  planes: readonly SunPlane[],
  month: number,
  clock: number,
  conv: number,
  wet: number,
  dt: number,
): void {
  const { scheduled, hourTerms: t } = s;
  const { airTemperature } = s.record;
  const { outdoor } = s.boundary;
  const sums = w.sums[i];
  const cold = x.cold[month];
  const disinfects = x.disinfection !== null && x.disinfection[clock] === 1;
  const set = disinfects ? Math.max(x.hot, followed(x.supply, scheduled, outdoor)) : followed(x.supply, scheduled, outdoor);
  const around = x.zone >= 0 ? airTemperature[x.zone] : x.around;
  const circulates = x.hours < 0 || !(scheduled[x.hours] < 0.5);
  const pipes = circulates ? x.pipes : 0;
  const pumpPower = circulates ? x.pump : 0;
  const pumpHeat = pumpPower * x.pumpHeat;
  let passing = x.around;
  if (x.toRooms && x.served.length > 0) {
    passing = 0;
    for (let z = 0; z < x.served.length; z++) passing += x.served[z].share * airTemperature[x.served[z].zone];
  }
  let power = 0;
  for (let h = 0; h < x.heaters.length; h++) power += heaterPower(x.heaters[h], set, outdoor);
  let out: Outcome;
  let heat = 0;
  if (x.store === "none") {
    const draw = mixedDraw(x, scheduled, set, cold);
    const wantedByPipes = pipes * (set - passing) * dt;
    const needed = Math.max(0, draw * (set - cold) + wantedByPipes / dt - pumpHeat);
    heat = Math.min(power, needed);
    const there = (heat + pumpHeat) * dt;
    // pipes lose no more than is put in
    const inPipes = Math.min(wantedByPipes, there);
    const drawn = there - inPipes;
    const hot = draw > 0 ? cold + drawn / dt / draw : set;
    out = { upper: set, lower: set, hot, store: 0, pipes: inPipes, drawn };
  } else {
    const solar = collect(s, w, i, x, planes, w.lower[i], dt);
    const before = content(x, w, i);
    if (w.upper[i] < set - (disinfects ? HELD : x.band)) w.firing[i] = 1;
    let draw = mixedDraw(x, scheduled, w.upper[i], cold);
    out = storeStep(x, w, i, draw, cold, pumpHeat, solar, around, passing, pipes, dt);
    for (let r = 0; r < ROUNDS; r++) {
      heat = 0;
      const idle = storeStep(x, w, i, draw, cold, pumpHeat, solar, around, passing, pipes, dt);
      if (w.firing[i] === 1 && power > 0) {
        const full = storeStep(x, w, i, draw, cold, pumpHeat + power, solar, around, passing, pipes, dt);
        // the end of the step follows the heat in a straight line
        heat = full.upper > idle.upper ? Math.min(power, Math.max(0, (power * (set - idle.upper)) / (full.upper - idle.upper))) : 0;
      }
      out = storeStep(x, w, i, draw, cold, pumpHeat + heat, solar, around, passing, pipes, dt);
      if (r < ROUNDS - 1) draw = mixedDraw(x, scheduled, out.hot, cold);
    }
    if (heat < power) w.firing[i] = 0;
    w.upper[i] = out.upper;
    w.lower[i] = out.lower;
    const into = (heat + pumpHeat + solar) * dt;
    w.residual[i] += Math.abs(content(x, w, i) - before - into + out.store + out.pipes + out.drawn);
    w.gross[i] += into + Math.abs(out.store) + Math.abs(out.pipes) + Math.abs(out.drawn);
  }
  burn(w, i, x, heat, set, outdoor, dt);
  sums[TANK.HEATED] += heat * dt;
  sums[TANK.DRAWN] += out.drawn;
  sums[TANK.STORE_LOSS] += out.store;
  sums[TANK.PIPE_LOSS] += out.pipes;
  sums[TANK.PUMP] += pumpPower * dt;
  sums[TANK.PUMP_HEAT] += pumpHeat * dt;
  if (x.zone >= 0) t[conv + x.zone] += out.store / dt / x.placeTimes;
  if (x.toRooms)
    for (let z = 0; z < x.served.length; z++) {
      const { zone, share, times } = x.served[z];
      // each zone by its own temperature: together they take what the pipes lose
      t[conv + zone] += (out.pipes / dt / times) * share + (pipes * share * (passing - airTemperature[zone])) / times;
    }
  for (let d = 0; d < x.draws.length; d++) {
    const { zone, flow, row, tap, times, sensible, latent } = x.draws[d];
    const mass = flow * scheduled[row];
    if (!(mass > 0)) continue;
    const wanted = mass * WATER_HEAT * Math.max(0, tap - cold);
    const reached = out.hot < tap - COLDER ? Math.max(0, out.hot - cold) * mass * WATER_HEAT : wanted;
    sums[TANK.WANTED] += wanted * times * dt;
    sums[TANK.UNMET] += (wanted - reached) * times * dt;
    sums[TANK.MASS] += mass * times * dt;
    t[conv + zone] += reached * sensible;
    t[wet + zone] += reached * latent;
  }
}

/** Heat held by a store above 0 °C, J. */
const content = (x: WaterSystemModel, w: WaterState, i: number): number =>
  x.store === "layered" ? 0.5 * x.capacity * (w.upper[i] + w.lower[i]) : x.capacity * w.upper[i];

/** Shares heat out among the heaters, those that stand first first. */
function burn(w: WaterState, i: number, x: WaterSystemModel, heat: number, hot: number, outdoor: number, dt: number): void {
  let left = heat;
  for (let h = 0; h < x.heaters.length && left > 0; h++) {
    const given = Math.min(left, heaterPower(x.heaters[h], hot, outdoor));
    w.heat[i][h] += given * dt;
    w.fuel[i][h] += heaterFuel(x.heaters[h], given, hot, outdoor) * dt;
    left -= given;
  }
}
