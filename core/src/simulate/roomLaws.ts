import { AIR, BY, OUT, OUTS, RULE, type AirSystemModel, type DeviceModel, type ServiceModel } from "../services/index.ts";
import type { CompiledModel } from "./model.ts";
import { RUN, type ServiceState } from "./serviceState.ts";
import type { KernelState } from "./state.ts";

// constants of other modules: a look-up by name in the loop costs
const ROW = OUTS;
const O_HEAT = OUT.HEAT;
const O_LATENT = OUT.LATENT;
const SUPPLY = AIR.SUPPLY;
const SUPPLY_RATIO = AIR.SUPPLY_RATIO;
const RETURN = AIR.RETURN;
const AIR_FLOW = AIR.FLOW;
const AIR_CP = AIR.CP;
const IS_OPEN = AIR.ECONOMIZER;
const OUTDOOR = AIR.OUTDOOR;
const THERMOSTAT = RULE.THERMOSTAT;
/** Supply air must be colder than a room by this for its terminal to cool with it, K. */
const LEAST_COLD = 0.2;

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
export function mostOfCoil(v: ServiceState, system: AirSystemModel, x: DeviceModel, heats: boolean): number {
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

/** Reheat of a terminal whose system follows its thermostat: what the coil could not give. */
export function reheatOf(v: ServiceState, model: ServiceModel, x: DeviceModel, d: number): number {
  if (x.heat === BY.NONE) return 0;
  return Math.min(Math.max(0, v.heat[d] - mostOfCoil(v, model.systems[x.system], x, true)), Math.min(v.heatMost[d], v.heatLimit[d]));
}
