import { LATENT_HEAT } from "../airflow/index.ts";
import { AIR, airPath, OUT, OUTS, RULE, WATER_CP, type AirSystemModel, type DeviceModel, type ServiceModel } from "../services/index.ts";
import type { CompiledModel } from "./model.ts";
import { reheatOf } from "./roomLaws.ts";
import { RUN, type ServiceState } from "./serviceState.ts";
import type { KernelState } from "./state.ts";

// constants of other modules: a look-up by name in the loop costs
const LATENT = LATENT_HEAT;
const CP = WATER_CP;
const ROW = OUTS;
const O_HEAT = OUT.HEAT;
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
const LEAST_OUTDOOR = AIR.LEAST_OUTDOOR;
const THERMOSTAT = RULE.THERMOSTAT;

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
export function waterHeat(model: ServiceModel, v: ServiceState, x: DeviceModel, d: number): number {
  if (x.kind === "terminal" && model.systems[x.system].rule === THERMOSTAT && x.zone === model.systems[x.system].controlZone) return reheatOf(v, model, x, d);
  return Math.min(v.heat[d], v.heatLimit[d]);
}

/** Latent heat of a room coil now: by its part of the room's cooling, W. */
export function latentOf(s: KernelState, v: ServiceState, x: DeviceModel, d: number): number {
  const all = s.coilCooling[x.zone];
  return all > 0 ? (s.coilLatent[x.zone] * v.cool[d]) / all : 0;
}

function drawn(model: ServiceModel, v: ServiceState, l: number, heat: number): void {
  v.loops.demand[l] += heat;
  v.loops.water[l] += heat / (CP * model.loops[l].difference);
}
