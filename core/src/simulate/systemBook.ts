import { AIR, biquadratic, BY, machineCurves, machineInput, OUT, OUTS, runLoop, type DeviceModel, type ServiceModel } from "../services/index.ts";
import { FLOW, FLOWS } from "./catalogue.ts";
import type { CompiledModel } from "./model.ts";
import { waterHeat, latentOf } from "./systemAir.ts";
import { ENERGIES, RUN, type ServiceState } from "./serviceState.ts";
import { WATER, WATERS, type KernelState } from "./state.ts";

// constants of other modules: a look-up by name in the loop costs
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
const AIR_CP = AIR.CP;
const ELECTRIC = BY.ELECTRICITY;
const GAS = BY.GAS;
const REFRIGERANT = BY.REFRIGERANT;
const TO_HEATING = FLOW.heating;
const TO_COOLING = FLOW.cooling;
const TO_STORAGE = FLOW.storage;
const TO_SUPPLY = WATER.supplyAir;
const WATER_STORAGE = WATER.storage;
const SPLIT_COOLING = machineCurves["split unit, cooling"];
const SPLIT_HEATING = machineCurves["split unit, heating"];

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
    runLoop(model.loops[l], l, v.loops, v.out, s.scheduled, outdoor, v.wetBulb);
    v.owed[l] += dt * v.loops.missing[l];
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
