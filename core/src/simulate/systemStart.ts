import { CP_AIR, CP_VAPOUR, LATENT_HEAT } from "../airflow/index.ts";
import { wetBulbFrom } from "../climate/index.ts";
import {
  AIR,
  beginLoop,
  biquadratic,
  BY,
  economizerOpens,
  ECONOMIZER,
  followed,
  machineCurves,
  RULE,
  type AirSystemModel,
  type DeviceModel,
  type ServiceModel,
} from "../services/index.ts";
import { TERM, type CompiledModel } from "./model.ts";
import { slabs } from "./slabStep.ts";
import { RUN, type ServiceState } from "./serviceState.ts";
import { TIE, type KernelState } from "./state.ts";

// constants of other modules: a look-up by name in the loop costs
const LATENT = LATENT_HEAT;
const SUPPLY_RATIO = AIR.SUPPLY_RATIO;
const RETURN = AIR.RETURN;
const RETURN_RATIO = AIR.RETURN_RATIO;
const AIR_CP = AIR.CP;
const IS_OPEN = AIR.ECONOMIZER;
const WET = AIR.WET_BULB;
const MIXED = AIR.MIXED;
const MIXED_RATIO = AIR.MIXED_RATIO;
const LEAST_OUTDOOR = AIR.LEAST_OUTDOOR;
const OUTDOOR = AIR.OUTDOOR;
const OUTDOOR_RATIO = AIR.OUTDOOR_RATIO;
const PRESSURE = AIR.PRESSURE;
const WATER_COIL = BY.WATER;
const REFRIGERANT = BY.REFRIGERANT;
const WARMEST = RULE.WARMEST;
const NO_ECONOMIZER = ECONOMIZER.NONE;
const OUTDOOR_AIR = TERM.outdoorAir;
const SPLIT_COOLING = machineCurves["split unit, cooling"];
const SPLIT_HEATING = machineCurves["split unit, heating"];
/** Air that water coils of rooms are rated at, °C. */
const HEATED_AIR = 20;
const COOLED_AIR = 25;

/** Discrete states of systems and what they aim at, from the state at the start of the step. */
export function beginServices(m: CompiledModel, s: KernelState): void {
  const model = m.services;
  const v = s.services;
  if (model === null || v === null) return;
  const { loops, devices, systems } = model;
  const { outdoor } = s.boundary;
  if (model.towers) v.wetBulb = wetBulbFrom(outdoor, s.boundary.ratio, s.boundary.pressure, v.wetBulb === v.wetBulb ? v.wetBulb : outdoor - 2);
  for (let l = 0; l < loops.length; l++) beginLoop(loops[l], l, v.loops, s.scheduled, outdoor, v.wetBulb);
  for (let d = 0; d < devices.length; d++) deviceCapacity(m, s, v, devices[d], d);
  for (let i = 0; i < systems.length; i++) beginSystem(m, s, model, v, i);
  slabs(m, s, model, v);
}

/** Share of its rated capacity a water coil has at the loop's temperature now: in proportion to the difference to the air. */
function waterShare(model: ServiceModel, v: ServiceState, loop: number): number {
  const x = model.loops[loop];
  const now = v.loops.supply[loop];
  const air = x.hot ? HEATED_AIR : COOLED_AIR;
  const rated = x.design - air;
  const share = rated === 0 ? 1 : (now - air) / rated;
  return share < 0 ? 0 : share > 1 ? 1 : share;
}

function deviceCapacity(m: CompiledModel, s: KernelState, v: ServiceState, x: DeviceModel, d: number): void {
  const model = m.services as ServiceModel;
  const { outdoor } = s.boundary;
  const room = s.record.airTemperature[x.zone];
  let heat = x.heatCapacity;
  let cool = x.coolCapacity;
  if (x.kind === "splitUnit") {
    if (x.heat === REFRIGERANT) {
      const pump = outdoor < x.leastOutdoor ? 0 : heat * biquadratic(SPLIT_HEATING.capacity, room, outdoor);
      heat = x.backup ? Math.max(pump, heat) : pump;
    }
    if (cool > 0) cool *= biquadratic(SPLIT_COOLING.capacity, room, outdoor);
  } else if (x.kind === "slabCircuit") {
    heat = 0;
    cool = 0;
  } else {
    if (x.heatLoop >= 0) heat *= waterShare(model, v, x.heatLoop);
    if (x.coldLoop >= 0) cool *= waterShare(model, v, x.coldLoop);
  }
  v.heatMost[d] = heat;
  v.coolMost[d] = cool;
  v.heatLimit[d] = Infinity;
  v.coolLimit[d] = Infinity;
}

/** Whether a system runs, its economizer, its aim and its coils' capacities. */
function beginSystem(m: CompiledModel, s: KernelState, model: ServiceModel, v: ServiceState, i: number): void {
  const x = model.systems[i];
  const a = v.air[i];
  const { outdoor, ratio, pressure, supplyDensity } = s.boundary;
  const { airTemperature, radiantTemperature, heatTarget, coolTarget } = s.record;
  let wanted = false;
  let cold = false;
  let hot = false;
  const before = v.run[i];
  for (let k = 0; k < x.terminals.length; k++) {
    const z = model.devices[x.terminals[k]].zone;
    if (s.inUse[z] === 1) wanted = true;
    const sensed = airTemperature[z] + m.radiantWeight[z] * (radiantTemperature[z] - airTemperature[z]);
    // started by a room beyond its band, stopped when all are back
    if (sensed < heatTarget[z] - (before === RUN.NIGHT_HEATING ? TIE : x.nightBand)) cold = true;
    if (sensed > coolTarget[z] + (before === RUN.NIGHT_COOLING ? TIE : x.nightBand)) hot = true;
  }
  // NaN: hours of its own there are none, those of the rooms
  const hoursNow = x.hours < 0 ? NaN : s.scheduled[x.hours];
  const inHours = x.terminals.length > 0 && (hoursNow !== hoursNow ? wanted : hoursNow >= 0.5);
  v.left[i] = Math.max(0, v.left[i] - v.dt);
  let now: number = RUN.OFF;
  if (inHours) {
    now = RUN.HOURS;
    v.left[i] = 0;
  } else if (x.night) {
    if (cold) now = RUN.NIGHT_HEATING;
    else if (hot) now = RUN.NIGHT_COOLING;
    if (now === RUN.OFF && before >= RUN.NIGHT_HEATING && v.left[i] > TIE) now = before;
    if (now !== RUN.OFF && before < RUN.NIGHT_HEATING) v.left[i] = x.minimumRun;
  }
  v.run[i] = now;
  a[OUTDOOR] = outdoor;
  a[OUTDOOR_RATIO] = ratio;
  a[PRESSURE] = pressure;
  a[AIR_CP] = CP_AIR + CP_VAPOUR * (a[SUPPLY_RATIO] > 0 ? a[SUPPLY_RATIO] : ratio);
  const mixing = x.mixing;
  let least = 0;
  if (now === RUN.HOURS) {
    if (mixing === null) least = Infinity;
    else if (mixing.share !== mixing.share) least = roomsOutdoorAir(m, s, model, x);
    else least = mixing.flow * supplyDensity;
  }
  a[LEAST_OUTDOOR] = least;
  if (mixing !== null && mixing.economizer !== NO_ECONOMIZER) {
    const kind = mixing.economizer;
    const open =
      now === RUN.HOURS &&
      economizerOpens(kind, v.open[i] === 1, outdoor, a[RETURN], mixing.highLimit, heatContent(outdoor, ratio), heatContent(a[RETURN], a[RETURN_RATIO]));
    v.open[i] = open ? 1 : 0;
  }
  a[IS_OPEN] = v.open[i];
  v.aim[i] = x.rule === WARMEST ? warmestSupply(s, model, v, x, i) : followed(x.supply, s.scheduled, outdoor);
  for (let p = 0; p < x.parts.length; p++) {
    const part = x.parts[p];
    if (part.kind === "heatingCoil")
      v.limit[part.component] = part.loop >= 0 ? part.capacity * waterShare(model, v, part.loop) : part.by === WATER_COIL ? 0 : part.capacity;
    else if (part.kind === "coolingCoil") {
      if (part.by === REFRIGERANT) {
        if (now !== RUN.OFF && a[MIXED_RATIO] > 0) a[WET] = wetBulbFrom(a[MIXED], a[MIXED_RATIO], pressure, a[WET] > 0 ? a[WET] : 0.7 * a[MIXED]);
        const wet = a[WET];
        v.limit[part.component] = part.capacity < Infinity ? part.capacity * biquadratic(part.curves.capacity, wet, outdoor) : Infinity;
      } else v.limit[part.component] = part.loop >= 0 ? part.capacity * waterShare(model, v, part.loop) : 0;
    }
  }
}

const heatContent = (t: number, w: number): number => CP_AIR * t + w * (LATENT + CP_VAPOUR * t);

/** Outdoor air the rooms of a system ask for now, kg/s. */
function roomsOutdoorAir(m: CompiledModel, s: KernelState, model: ServiceModel, x: AirSystemModel): number {
  let sum = 0;
  for (let k = 0; k < x.terminals.length; k++) {
    const device = model.devices[x.terminals[k]];
    sum += device.times * s.hourTerms[OUTDOOR_AIR * m.zones + device.zone];
  }
  return sum * s.boundary.supplyDensity;
}

/** Share of its design flow with which the room that needs most cooling is to get it: what is left lets the supply air become colder where a room asks for more. Ours. */
const WARMEST_FLOW = 0.9;

/** The warmest supply air with which every room still gets the cooling it took in the last step, at a little less than its full flow. */
function warmestSupply(s: KernelState, model: ServiceModel, v: ServiceState, x: AirSystemModel, i: number): number {
  const { airTemperature } = s.record;
  const cp = v.air[i][AIR_CP];
  let needed = x.warmest;
  for (let k = 0; k < x.terminals.length; k++) {
    const d = x.terminals[k];
    const device = model.devices[d];
    const room = airTemperature[device.zone];
    if (!(device.flow > 0)) continue;
    const took = v.flow[d] * cp * (room - v.used[d]) - v.heat[d];
    needed = Math.min(needed, room - took / (WARMEST_FLOW * device.flow * cp));
  }
  const coldest = followed(x.supply, s.scheduled, s.boundary.outdoor);
  return needed < coldest ? coldest : needed;
}
