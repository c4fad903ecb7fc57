import { LATENT_HEAT, CP_AIR, CP_VAPOUR } from "../airflow/index.ts";
import { wetBulbFrom } from "../climate/index.ts";
import {
  AIR,
  airPath,
  beginLoop,
  biquadratic,
  BY,
  circuitEffectiveness,
  economizerOpens,
  ECONOMIZER,
  followed,
  machineCurves,
  machineInput,
  OUT,
  OUTS,
  RULE,
  runLoop,
  saturated,
  WATER_CP,
  type AirSystemModel,
  type DeviceModel,
  type ServiceModel,
} from "../services/index.ts";
import { FLOW, FLOWS } from "./catalogue.ts";
import { TERM, type CompiledModel } from "./model.ts";
import { ENERGIES, type ServiceState } from "./serviceState.ts";
import { TIE, WATER, WATERS, type KernelState } from "./state.ts";

// constants of other modules: a look-up by name in the loop costs
const LATENT = LATENT_HEAT;
const CP = WATER_CP;
const ROW = OUTS;
const O_HEAT = OUT.HEAT;
const O_POWER = OUT.POWER;
const O_FUEL = OUT.FUEL;
const O_FLOW = OUT.FLOW;
const O_IN = OUT.IN;
const O_OUT = OUT.OUT;
const O_LATENT = OUT.LATENT;
const O_IN_RATIO = OUT.IN_RATIO;
const SUPPLY = AIR.SUPPLY;
const SUPPLY_RATIO = AIR.SUPPLY_RATIO;
const RETURN = AIR.RETURN;
const RETURN_RATIO = AIR.RETURN_RATIO;
const AIR_FLOW = AIR.FLOW;
const AIR_CP = AIR.CP;
const HEAT_TO = AIR.HEAT_TO;
const COOL_TO = AIR.COOL_TO;
const IS_OPEN = AIR.ECONOMIZER;
const WET = AIR.WET_BULB;
const MIXED = AIR.MIXED;
const MIXED_RATIO = AIR.MIXED_RATIO;
const LEAST_OUTDOOR = AIR.LEAST_OUTDOOR;
const OUTDOOR = AIR.OUTDOOR;
const OUTDOOR_RATIO = AIR.OUTDOOR_RATIO;
const PRESSURE = AIR.PRESSURE;
const WATER_COIL = BY.WATER;
const ELECTRIC = BY.ELECTRICITY;
const GAS = BY.GAS;
const REFRIGERANT = BY.REFRIGERANT;
const WARMEST = RULE.WARMEST;
const THERMOSTAT = RULE.THERMOSTAT;
const NO_ECONOMIZER = ECONOMIZER.NONE;
const OUTDOOR_AIR = TERM.outdoorAir;
const TO_HEATING = FLOW.heating;
const TO_COOLING = FLOW.cooling;
const TO_STORAGE = FLOW.storage;
const TO_SUPPLY = WATER.supplyAir;
const WATER_STORAGE = WATER.storage;
const SPLIT_COOLING = machineCurves["split unit, cooling"];
const SPLIT_HEATING = machineCurves["split unit, heating"];

/** Supply air must be colder than a room by this for its terminal to cool with it, K. */
const LEAST_COLD = 0.2;
/** Air that water coils of rooms are rated at, °C. */
const HEATED_AIR = 20;
const COOLED_AIR = 25;
/** Slabs on demand: on within the first of these of the set-point, off beyond the second; throttled over twice the second, K. Ours. */
const SLAB_ON = 0.3;
const SLAB_OFF = 0.5;

/** How a system runs in a step: not, in its hours, out of hours to heat, out of hours to cool. */
export const RUN = { OFF: 0, HOURS: 1, NIGHT_HEATING: 2, NIGHT_COOLING: 3 } as const;

/** Discrete states of systems and what they aim at, from the state at the start of the step. */
export function beginServices(m: CompiledModel, s: KernelState): void {
  const model = m.services;
  const v = s.services;
  if (model === null || v === null) return;
  const { loops, devices, systems } = model;
  const { outdoor } = s.boundary;
  for (let l = 0; l < loops.length; l++) beginLoop(loops[l], l, v.loops, s.scheduled, outdoor);
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
  const inHours = x.terminals.length > 0 && (x.hours < 0 ? wanted : s.scheduled[x.hours] >= 0.5);
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

/** The warmest supply air with which every room still gets the cooling it took in the last step at its full flow. */
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
    needed = Math.min(needed, room - took / (device.flow * cp));
  }
  const coldest = followed(x.supply, s.scheduled, s.boundary.outdoor);
  return needed < coldest ? coldest : needed;
}

/** Heat of slabs, fixed over the step, from the water and the layer of their pipes with what the layer itself answers within the step. */
function slabs(m: CompiledModel, s: KernelState, model: ServiceModel, v: ServiceState): void {
  v.slabDemand.fill(0);
  v.slabWater.fill(0);
  if (m.slabs.length === 0) return;
  const { airTemperature, radiantTemperature, humidityRatio, heatTarget, coolTarget } = s.record;
  const { pressure } = s.boundary;
  for (let c = 0; c < m.circuits.length; c++) s.circuitHeat[m.circuits[c]] = 0;
  for (let k = 0; k < m.slabs.length; k++) {
    const d = m.slabs[k].device;
    const x = model.devices[d];
    const slab = x.slab;
    if (slab === null) continue;
    const z = x.zone;
    const sensed = airTemperature[z] + m.radiantWeight[z] * (radiantTemperature[z] - airTemperature[z]);
    const lacks = heatTarget[z] - sensed;
    const over = sensed - coolTarget[z];
    let heat = 0;
    let cool = 0;
    if (slab.rule === "through its season") {
      const season = slab.season < 0 || s.scheduled[slab.season] >= 0.5;
      heat = season && x.heatLoop >= 0 ? 1 : 0;
      cool = (slab.season < 0 ? x.heatLoop < 0 : !season) && x.coldLoop >= 0 ? 1 : 0;
    } else if (slab.rule === "throttled by the room") {
      heat = x.heatLoop >= 0 ? share((lacks + SLAB_OFF) / (2 * SLAB_OFF)) : 0;
      cool = x.coldLoop >= 0 ? share((over + SLAB_OFF) / (2 * SLAB_OFF)) : 0;
    } else {
      const was = v.slabOn[d];
      heat = x.heatLoop >= 0 && lacks > (was === 1 ? -SLAB_OFF : -SLAB_ON) ? 1 : 0;
      cool = x.coldLoop >= 0 && over > (was === -1 ? -SLAB_OFF : -SLAB_ON) ? 1 : 0;
      v.slabOn[d] = heat > 0 ? 1 : cool > 0 ? -1 : 0;
    }
    if (heat > 0) cool = 0;
    const loop = heat > 0 ? x.heatLoop : x.coldLoop;
    let on = heat > 0 ? heat : cool;
    v.slabHeat[d] = 0;
    if (on === 0) continue;
    const water = v.loops.supply[loop];
    // the water is kept above the dew point of the room
    if (cool > 0 && saturated(water - slab.guard, pressure) < humidityRatio[z]) continue;
    on *= v.slabShare[loop];
    const faces = m.slabs[k].faces;
    let total = 0;
    let flow = 0;
    for (let j = 0; j < faces.length; j++) {
      const { element, area, resistance } = faces[j];
      const u = circuitEffectiveness(resistance, slab.flow * on) * slab.flow * on * CP;
      let plane = m.circuit0[element] * s.input0[element] + m.circuit1[element] * s.input1[element];
      for (let q = m.modeStart[element]; q < m.modeStart[element + 1]; q++) plane += m.circuitMean[q] * s.a[q];
      const flux = (u * (water - plane)) / (1 + u * m.circuit2[element]);
      // heating water never cools the slab, nor the other way round
      if (heat > 0 ? flux <= 0 : flux >= 0) continue;
      s.circuitHeat[element] += flux;
      total += flux * area;
      flow += slab.flow * on * area;
    }
    v.slabHeat[d] = total;
    v.slabReturn[d] = flow > 0 ? water - total / (flow * CP) : water;
    v.slabDemand[loop] += x.times * Math.abs(total);
    v.slabWater[loop] += x.times * flow;
    const o = ROW * x.component;
    v.out[o + O_FLOW] = flow;
  }
}

const share = (x: number): number => (x < 0 ? 0 : x > 1 ? 1 : x);

/** The laws of a pass: what each zone gets whatever it needs, and the most it can be heated and cooled by. */
export function serviceLaws(m: CompiledModel, s: KernelState): void {
  const model = m.services;
  const v = s.services;
  if (model === null || v === null) return;
  const { fixedHeat, fixedConductance, heatingMost, heatingSlope, coolingMost, coolingSlope, coilMost, coilLatent } = s;
  const { devices, systems, equipped } = model;
  for (let z = 0; z < m.zones; z++) {
    if (equipped[z] === 0) continue;
    fixedHeat[z] = fixedConductance[z] = heatingMost[z] = heatingSlope[z] = coolingMost[z] = coolingSlope[z] = coilMost[z] = 0;
  }
  for (let d = 0; d < devices.length; d++) {
    const x = devices[d];
    const z = x.zone;
    const heat = Math.min(v.heatMost[d], v.heatLimit[d]);
    if (x.kind !== "terminal") {
      heatingMost[z] += heat;
      coilMost[z] += Math.min(v.coolMost[d], v.coolLimit[d]);
      continue;
    }
    const run = v.run[x.system];
    v.flow[d] = 0;
    if (run === RUN.OFF) continue;
    const system = systems[x.system];
    const a = v.air[x.system];
    const cp = a[AIR_CP];
    const thermostat = system.rule === THERMOSTAT && z === system.controlZone;
    const supply = thermostat ? v.coilsOff[x.system] : a[SUPPLY];
    // rooms without reheat get all the air while the system heats them out of hours
    const open = run === RUN.NIGHT_HEATING && x.heat === BY.NONE;
    const least = open ? x.flow : x.least;
    v.flow[d] = least;
    v.used[d] = supply;
    const c = least * cp;
    fixedConductance[z] += c;
    fixedHeat[z] += c * supply;
    if (thermostat) {
      heatingMost[z] += heat;
      heatingMost[z] += mostOfCoil(v, system, x, true);
      coolingMost[z] += mostOfCoil(v, system, x, false);
    } else if (system.variable && !open && run !== RUN.NIGHT_HEATING && supply < s.airStart[z] - LEAST_COLD) {
      const more = (x.flow - least) * cp;
      coolingSlope[z] += more;
      coolingMost[z] -= more * supply;
    }
    if (!thermostat && heat > 0 && x.warmest > supply) {
      const flow = reheatFlow(x, heat, least, supply, cp);
      if (flow > least) {
        heatingSlope[z] += (flow - least) * cp;
        heatingMost[z] += (flow * x.warmest - least * supply) * cp;
      } else heatingMost[z] += Math.min(heat, c * (x.warmest - supply));
    }
  }
  for (let z = 0; z < m.zones; z++) if (equipped[z] === 1 && coilMost[z] > 0) coolingMost[z] += Math.max(0, coilMost[z] - coilLatent[z]);
}

/** Air at which a terminal's reheat, W, gives a room the most, kg/s: no more than makes the air as warm as it may be, and the room no less. */
function reheatFlow(x: DeviceModel, reheat: number, least: number, supply: number, cp: number): number {
  const flow = reheat / (cp * (x.warmest - supply));
  return flow < least ? least : flow > x.flow ? Math.max(least, x.flow) : flow;
}

/** Most a coil gives the room whose thermostat decides, W: its capacity by the room's share of the air, and the bounds of the supply temperature. */
function mostOfCoil(v: ServiceState, system: AirSystemModel, x: DeviceModel, heats: boolean): number {
  const a = v.air[x.system];
  const c = x.least * a[AIR_CP];
  const off = v.coilsOff[x.system];
  const part = a[AIR_FLOW] > 0 ? (x.least * x.times) / a[AIR_FLOW] : 1;
  let most = 0;
  for (let p = 0; p < system.parts.length; p++) {
    const coil = system.parts[p];
    if (heats && coil.kind === "heatingCoil") most += v.limit[coil.component];
    else if (!heats && coil.kind === "coolingCoil") {
      const o = ROW * coil.component;
      const sensible = v.out[o + O_HEAT];
      const total = sensible + v.out[o + O_LATENT];
      // the sensible share of the last pass
      most += v.limit[coil.component] * (total < 0 ? sensible / total : 1);
    }
  }
  const bound = heats ? c * (system.heatingSupply - off) : c * (off - v.aim[x.system]);
  let own = (most * part) / x.times;
  // an open economizer cools as far as outdoors lets it
  if (!heats && a[IS_OPEN] > 0) own += c * Math.max(0, a[RETURN] - a[OUTDOOR]);
  return Math.max(0, Math.min(own, bound));
}

/** After the zones are solved: who gave what, the air each terminal passes, and the moisture it brings. */
export function serviceFlows(m: CompiledModel, s: KernelState, last: boolean): void {
  const model = m.services;
  const v = s.services;
  if (model === null || v === null) return;
  const { heating, cooling, airTemperature } = s.record;
  const { devices, systems, ofZone, equipped } = model;
  const { airIn, airInRatio, coilCooling, fixedHeat, fixedConductance } = s;
  for (let z = 0; z < m.zones; z++) {
    if (equipped[z] === 0) {
      coilCooling[z] = cooling[z];
      continue;
    }
    const list = ofZone[z];
    const air = airTemperature[z];
    let warm = heating[z];
    let cold = cooling[z];
    let moist = 0;
    airIn[z] = 0;
    coilCooling[z] = 0;
    const room = Math.max(0, s.coilMost[z] - s.coilLatent[z]);
    for (let j = 0; j < list.length; j++) {
      const d = list[j];
      const x = devices[d];
      v.heat[d] = 0;
      v.cool[d] = 0;
      let most = Math.min(v.heatMost[d], v.heatLimit[d]);
      if (x.kind === "terminal") {
        if (v.run[x.system] === RUN.OFF) continue;
        const system = systems[x.system];
        const a = v.air[x.system];
        const thermostat = system.rule === THERMOSTAT && z === system.controlZone;
        if (thermostat) most += mostOfCoil(v, system, x, true);
        const c = a[AIR_CP];
        if (cold > 0) {
          if (thermostat) v.cool[d] = Math.min(cold, mostOfCoil(v, system, x, false));
          else if (system.variable && v.used[d] < s.airStart[z] - LEAST_COLD) {
            const take = Math.min(cold, (x.flow - v.flow[d]) * c * Math.max(0, air - v.used[d]));
            if (take > 0) {
              v.cool[d] = take;
              v.flow[d] += take / (c * (air - v.used[d]));
            }
          }
          cold -= v.cool[d];
        }
      } else if (cold > 0 && s.coilMost[z] > 0) {
        const own = Math.min(v.coolMost[d], v.coolLimit[d]);
        const take = Math.min(cold, (own * room) / s.coilMost[z]);
        v.cool[d] = take;
        coilCooling[z] += take;
        cold -= take;
      }
      if (x.kind === "terminal" && !(systems[x.system].rule === THERMOSTAT && z === systems[x.system].controlZone)) {
        warm -= reheat(v, x, d, most, warm, air);
        continue;
      }
      const take = Math.min(warm, most);
      v.heat[d] = take;
      warm -= take;
    }
    for (let j = 0; j < list.length; j++) {
      const x = devices[list[j]];
      if (x.kind !== "terminal" || v.run[x.system] === RUN.OFF) continue;
      airIn[z] += v.flow[list[j]];
      moist += v.flow[list[j]] * v.air[x.system][SUPPLY_RATIO];
    }
    airInRatio[z] = airIn[z] > 0 ? moist / airIn[z] : 0;
    v.rest[z] = cold - warm;
    v.restWater[z] = 0;
    if (!last) continue;
    const net = heating[z] - cooling[z] + fixedHeat[z] - fixedConductance[z] * air;
    heating[z] = net > 0 ? net : 0;
    cooling[z] = net < 0 ? -net : 0;
  }
}

/** Reheat and air of a terminal for what its room still needs, W, beyond what the least air brings; answers what it gives of it. @param capacity of reheat, W @param air of the room, °C */
function reheat(v: ServiceState, x: DeviceModel, d: number, capacity: number, needed: number, air: number): number {
  const supply = v.used[d];
  const least = v.flow[d];
  const cp = v.air[x.system][AIR_CP];
  if (!(needed > 0) || !(capacity > 0) || !(x.warmest > supply)) return 0;
  const plain = Math.min(capacity, least * cp * (x.warmest - supply));
  if (needed <= plain || x.flow <= least || air >= x.warmest) {
    v.heat[d] = Math.min(needed, plain);
    return v.heat[d];
  }
  const flow = Math.min((needed + least * cp * (supply - air)) / (cp * (x.warmest - air)), reheatFlow(x, capacity, least, supply, cp));
  if (!(flow > least)) {
    v.heat[d] = plain;
    return plain;
  }
  v.flow[d] = flow;
  v.heat[d] = flow * cp * (x.warmest - supply);
  return v.heat[d] - (flow - least) * cp * (air - supply);
}

/** Air of all systems from the rooms as they are solved, and the loops' loads; where a loop cannot give what is drawn, what each may draw. The last pass leaves what differs to the rooms. */
export function serviceAir(m: CompiledModel, s: KernelState, last: boolean): void {
  const model = m.services;
  const v = s.services;
  if (model === null || v === null) return;
  for (let i = 0; i < model.systems.length; i++) runSystem(s, model, v, i);
  const short = loads(s, model, v);
  if (!last) return;
  if (short) {
    for (let i = 0; i < model.systems.length; i++) runSystem(s, model, v, i);
    loads(s, model, v);
  }
  for (let d = 0; d < model.devices.length; d++) {
    const x = model.devices[d];
    const z = x.zone;
    // what its loop could not give
    const heat = Math.min(v.heat[d], v.heatLimit[d]);
    const cool = Math.min(v.cool[d], v.coolLimit[d]);
    if (x.kind === "terminal") {
      if (v.run[x.system] === RUN.OFF) continue;
      const system = model.systems[x.system];
      const a = v.air[x.system];
      const thermostat = system.rule === THERMOSTAT && z === system.controlZone;
      const c = v.flow[d] * a[AIR_CP];
      if (thermostat) v.rest[z] += c * (a[SUPPLY] - v.used[d]) - (v.heat[d] - v.cool[d]) + reheatOf(v, model, x, d);
      else v.rest[z] += c * (a[SUPPLY] - v.used[d]) + heat - v.heat[d];
    } else v.rest[z] += heat - v.heat[d] + v.cool[d] - cool;
    if (!(x.kind === "terminal" && model.systems[x.system].rule === THERMOSTAT)) v.heat[d] = heat;
    v.cool[d] = cool;
  }
  for (let z = 0; z < m.zones; z++) {
    if (model.onAir[z] === 0) continue;
    const list = model.ofZone[z];
    let moist = 0;
    for (let j = 0; j < list.length; j++) {
      const x = model.devices[list[j]];
      if (x.kind === "terminal" && v.run[x.system] !== RUN.OFF) moist += v.flow[list[j]] * v.air[x.system][SUPPLY_RATIO];
    }
    v.restWater[z] = moist - s.airIn[z] * s.airInRatio[z];
  }
}

/** Reheat of a terminal whose system follows its thermostat: what the coil could not give. */
function reheatOf(v: ServiceState, model: ServiceModel, x: DeviceModel, d: number): number {
  if (x.heat === BY.NONE) return 0;
  return Math.min(Math.max(0, v.heat[d] - mostOfCoil(v, model.systems[x.system], x, true)), Math.min(v.heatMost[d], v.heatLimit[d]));
}

function runSystem(s: KernelState, model: ServiceModel, v: ServiceState, i: number): void {
  const x = model.systems[i];
  const a = v.air[i];
  const { airTemperature } = s.record;
  const run = v.run[i];
  let flow = 0;
  let warmth = 0;
  let water = 0;
  let capacity = 0;
  for (let k = 0; k < x.terminals.length; k++) {
    const d = x.terminals[k];
    const device = model.devices[d];
    const weight = run === RUN.OFF ? 0 : device.times * v.flow[d];
    flow += weight;
    warmth += weight * airTemperature[device.zone];
    water += weight * s.wet[device.zone];
    capacity += airTemperature[device.zone];
  }
  a[AIR_FLOW] = flow;
  if (flow > 0) {
    a[RETURN] = warmth / flow;
    a[RETURN_RATIO] = water / flow;
  } else if (x.terminals.length > 0) {
    a[RETURN] = capacity / x.terminals.length;
    a[RETURN_RATIO] = s.wet[model.devices[x.terminals[0]].zone];
  }
  const mixing = x.mixing;
  const least = a[LEAST_OUTDOOR];
  if (mixing !== null && run === RUN.HOURS && mixing.share === mixing.share) a[LEAST_OUTDOOR] = Math.max(least, mixing.share * flow);
  let heatTo = -Infinity;
  let coolTo = Infinity;
  if (x.rule === THERMOSTAT) {
    const d = controlDevice(model, x);
    if (d >= 0 && v.flow[d] > 0 && run !== RUN.OFF) {
      const asks = (v.heat[d] - reheatOf(v, model, model.devices[d], d) - v.cool[d]) / (v.flow[d] * a[AIR_CP]);
      if (asks > 0) heatTo = v.used[d] + asks;
      else if (asks < 0) coolTo = v.used[d] + asks;
    }
  } else if (run === RUN.HOURS || run === RUN.NIGHT_COOLING) {
    heatTo = v.aim[i];
    coolTo = v.aim[i];
  } else if (run === RUN.NIGHT_HEATING && !x.reheats) heatTo = x.heatingSupply;
  if (x.rule === THERMOSTAT) {
    // what the room gets whatever it needs: the least outdoor air and no coil
    const open = a[IS_OPEN];
    a[IS_OPEN] = 0;
    a[HEAT_TO] = -Infinity;
    a[COOL_TO] = Infinity;
    airPath(x, a, v.out, v.limit);
    v.coilsOff[i] = a[SUPPLY];
    a[IS_OPEN] = open;
  }
  a[HEAT_TO] = heatTo;
  a[COOL_TO] = coolTo;
  airPath(x, a, v.out, v.limit);
  a[LEAST_OUTDOOR] = least;
  const o = ROW * x.component;
  v.out[o + O_HEAT] = flow * a[AIR_CP] * (a[SUPPLY] - a[RETURN]);
  v.out[o + O_LATENT] = flow * LATENT * (a[SUPPLY_RATIO] - a[RETURN_RATIO]);
  v.out[o + O_FLOW] = flow;
  v.out[o + O_IN] = a[RETURN];
  v.out[o + O_OUT] = a[SUPPLY];
  v.out[o + O_IN_RATIO] = a[RETURN_RATIO];
  v.out[o + O_IN_RATIO + 1] = a[SUPPLY_RATIO];
}

function controlDevice(model: ServiceModel, x: AirSystemModel): number {
  for (let k = 0; k < x.terminals.length; k++) if (model.devices[x.terminals[k]].zone === x.controlZone) return x.terminals[k];
  return -1;
}

/** Heat drawn from every loop; where it is more than its sources give, everything that draws may have its part. @returns whether any loop falls short */
function loads(s: KernelState, model: ServiceModel, v: ServiceState): boolean {
  const { demand, water, most } = v.loops;
  demand.set(v.slabDemand);
  water.set(v.slabWater);
  const { devices, systems, loops } = model;
  for (let d = 0; d < devices.length; d++) {
    const x = devices[d];
    if (x.heatLoop >= 0 && x.kind !== "slabCircuit") drawn(model, v, x.heatLoop, x.times * waterHeat(model, v, x, d));
    if (x.coldLoop >= 0 && x.kind !== "slabCircuit") drawn(model, v, x.coldLoop, x.times * (Math.min(v.cool[d], v.coolLimit[d]) + latentOf(s, v, x, d)));
  }
  for (let i = 0; i < systems.length; i++) {
    const { parts } = systems[i];
    for (let p = 0; p < parts.length; p++) {
      const part = parts[p];
      if ((part.kind !== "heatingCoil" && part.kind !== "coolingCoil") || part.loop < 0) continue;
      const o = ROW * part.component;
      drawn(model, v, part.loop, Math.abs(v.out[o + O_HEAT] + v.out[o + O_LATENT]));
    }
  }
  let short = false;
  for (let l = 0; l < loops.length; l++) {
    if (demand[l] <= most[l] * (1 + 1e-9)) continue;
    short = true;
    const free = demand[l] - v.slabDemand[l];
    const part = free > 0 ? Math.max(0, most[l] - v.slabDemand[l]) / free : 0;
    for (let d = 0; d < devices.length; d++) {
      const x = devices[d];
      if (x.kind === "slabCircuit") continue;
      if (x.heatLoop === l) v.heatLimit[d] = part * waterHeat(model, v, x, d);
      if (x.coldLoop === l) v.coolLimit[d] = part * Math.min(v.cool[d], v.coolLimit[d]);
    }
    for (let i = 0; i < systems.length; i++) {
      const { parts } = systems[i];
      for (let p = 0; p < parts.length; p++) {
        const coil = parts[p];
        if ((coil.kind !== "heatingCoil" && coil.kind !== "coolingCoil") || coil.loop !== l) continue;
        const o = ROW * coil.component;
        v.limit[coil.component] = part * Math.abs(v.out[o + O_HEAT] + v.out[o + O_LATENT]);
      }
    }
  }
  return short;
}

/** Heat a device draws from its hot loop now, W. */
function waterHeat(model: ServiceModel, v: ServiceState, x: DeviceModel, d: number): number {
  if (x.kind === "terminal" && model.systems[x.system].rule === THERMOSTAT && x.zone === model.systems[x.system].controlZone) return reheatOf(v, model, x, d);
  return Math.min(v.heat[d], v.heatLimit[d]);
}

/** Latent heat of a room coil now: by its part of the room's cooling, W. */
function latentOf(s: KernelState, v: ServiceState, x: DeviceModel, d: number): number {
  const all = s.coilCooling[x.zone];
  return all > 0 ? (s.coilLatent[x.zone] * v.cool[d]) / all : 0;
}

function drawn(model: ServiceModel, v: ServiceState, l: number, heat: number): void {
  v.loops.demand[l] += heat;
  v.loops.water[l] += heat / (CP * model.loops[l].difference);
}

/** After the books: what the last pass left to the rooms, the plant, and everything's outputs and energy. */
export function bookServices(m: CompiledModel, s: KernelState): void {
  const model = m.services;
  const v = s.services;
  if (model === null || v === null) return;
  const { dt } = m;
  const r = s.record;
  const { cp, supplyDensity, outdoor } = s.boundary;
  for (let z = 0; z < m.zones; z++) {
    if (model.equipped[z] === 0) continue;
    const rest = v.rest[z];
    if (rest !== 0) {
      const net = r.heating[z] - r.cooling[z] + rest;
      const heat = net > 0 ? net : 0;
      const cool = net < 0 ? -net : 0;
      const f = z * FLOWS;
      const more = heat - r.heating[z];
      const less = r.cooling[z] - cool;
      r.flows[f + TO_HEATING] += more;
      r.flowSum[f + TO_HEATING] += more;
      r.flows[f + TO_COOLING] += less;
      r.flowSum[f + TO_COOLING] += less;
      r.flows[f + TO_STORAGE] -= rest;
      r.flowSum[f + TO_STORAGE] -= rest;
      r.heating[z] = heat;
      r.cooling[z] = cool;
      r.airTemperature[z] += (rest * dt) / (m.zoneVolume[z] * m.airDensity * cp + m.innerCapacity[z]);
    }
    const moist = v.restWater[z];
    if (moist !== 0) {
      const f = z * WATERS;
      r.water[f + TO_SUPPLY] += moist;
      r.waterSum[f + TO_SUPPLY] += moist;
      r.water[f + WATER_STORAGE] -= moist;
      r.waterSum[f + WATER_STORAGE] -= moist;
      r.humidityRatio[z] = Math.max(0, r.humidityRatio[z] + (moist * dt) / (m.zoneVolume[z] * supplyDensity * m.moistureCapacity[z]));
    }
  }
  for (let d = 0; d < model.devices.length; d++) deviceOutputs(s, model, v, model.devices[d], d);
  for (let l = 0; l < model.loops.length; l++) {
    runLoop(model.loops[l], l, v.loops, v.out, s.scheduled, outdoor);
    const { demand, most } = v.loops;
    v.slabShare[l] =
      v.slabDemand[l] > most[l] && demand[l] > 0 ? Math.max(0.05, (v.slabShare[l] * most[l]) / v.slabDemand[l]) : Math.min(1, v.slabShare[l] * 1.25);
  }
  const { components } = model;
  const { out, energy } = v;
  for (let c = 0; c < components.length; c++) {
    const seconds = dt * components[c].times;
    const o = ROW * c;
    const cools = components[c].kind === "splitUnit" && out[o + O_HEAT] + out[o + O_LATENT] < 0;
    energy[ENERGIES * c + (cools ? 2 : 0)] += out[o + O_POWER] * seconds;
    energy[ENERGIES * c + 1] += out[o + O_FUEL] * seconds;
  }
}

function deviceOutputs(s: KernelState, model: ServiceModel, v: ServiceState, x: DeviceModel, d: number): void {
  const { out } = v;
  const o = ROW * x.component;
  const { outdoor } = s.boundary;
  const room = s.record.airTemperature[x.zone];
  if (x.kind === "terminal") {
    const on = v.run[x.system] !== RUN.OFF;
    const a = v.air[x.system];
    const heat = on ? (x.heatLoop >= 0 || x.heat === ELECTRIC ? waterHeat(model, v, x, d) : 0) : 0;
    const c = v.flow[d] * a[AIR_CP];
    out[o + O_HEAT] = heat;
    out[o + O_POWER] = x.heat === ELECTRIC ? heat : 0;
    out[o + O_FLOW] = on ? v.flow[d] : 0;
    out[o + O_IN] = a[SUPPLY];
    out[o + O_OUT] = on && c > 0 ? a[SUPPLY] + heat / c : a[SUPPLY];
    out[o + O_IN_RATIO] = a[SUPPLY_RATIO];
    out[o + O_IN_RATIO + 1] = a[SUPPLY_RATIO];
    return;
  }
  if (x.kind === "slabCircuit") {
    const loop = v.slabHeat[d] >= 0 ? x.heatLoop : x.coldLoop;
    out[o + O_HEAT] = v.slabHeat[d];
    if (v.slabHeat[d] === 0) out[o + O_FLOW] = 0;
    out[o + O_IN] = loop >= 0 ? v.loops.supply[loop] : 0;
    out[o + O_OUT] = v.slabReturn[d];
    return;
  }
  const heat = v.heat[d];
  const cool = v.cool[d];
  const wet = latentOf(s, v, x, d);
  out[o + O_HEAT] = heat - cool;
  out[o + O_LATENT] = -wet;
  out[o + O_IN] = room;
  let power = x.fanShare * (heat + cool + wet);
  let fuel = 0;
  if (heat > 0) {
    if (x.heat === GAS) fuel = heat / x.efficiency;
    else if (x.heat === ELECTRIC) power += heat;
    else if (x.heat === REFRIGERANT) {
      const most = outdoor < x.leastOutdoor ? 0 : x.heatCapacity * biquadratic(SPLIT_HEATING.capacity, room, outdoor);
      const pumped = Math.min(heat, most);
      power += machineInput(pumped, most, 1 / x.heatingCop, biquadratic(SPLIT_HEATING.input, room, outdoor), SPLIT_HEATING.part) + heat - pumped;
    }
  }
  if (cool + wet > 0 && x.cold === REFRIGERANT)
    power += machineInput(
      cool + wet,
      x.coolCapacity * biquadratic(SPLIT_COOLING.capacity, room, outdoor),
      1 / x.coolingCop,
      biquadratic(SPLIT_COOLING.input, room, outdoor),
      SPLIT_COOLING.part,
    );
  out[o + O_POWER] = power;
  out[o + O_FUEL] = fuel;
}
