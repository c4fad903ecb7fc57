import { circuitEffectiveness, OUT, OUTS, saturated, WATER_CP, type ServiceModel } from "../services/index.ts";
import type { CompiledModel } from "./model.ts";
import type { ServiceState } from "./serviceState.ts";
import type { KernelState } from "./state.ts";

// constants of other modules: a look-up by name in the loop costs
const CP = WATER_CP;
const ROW = OUTS;
const O_FLOW = OUT.FLOW;
/** Slabs on demand: on within the first of these of the set-point, off beyond the second; throttled over twice the second, K. Ours. */
const SLAB_ON = 0.3;
const SLAB_OFF = 0.5;

/** Heat of slabs, fixed over the step, from the water and the layer of their pipes with what the layer itself answers within the step. */
export function slabs(m: CompiledModel, s: KernelState, model: ServiceModel, v: ServiceState): void {
  v.slabShare.fill(1);
  drawSlabs(m, s, model, v);
  // sources or the pump at their limit: all slabs of a loop run for their part of the step, once more with it
  const { most } = v.loops;
  let short = false;
  for (let l = 0; l < most.length; l++) {
    const { pump } = model.loops[l];
    if (v.slabDemand[l] > most[l]) v.slabShare[l] = most[l] / v.slabDemand[l];
    if (pump !== null && v.slabWater[l] * v.slabShare[l] > pump.flow) v.slabShare[l] = pump.flow / v.slabWater[l];
    short ||= v.slabShare[l] < 1;
  }
  if (short) drawSlabs(m, s, model, v);
}

function drawSlabs(m: CompiledModel, s: KernelState, model: ServiceModel, v: ServiceState): void {
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
      // NaN: it has no seasons
      const season = slab.season < 0 ? NaN : s.scheduled[slab.season];
      heat = !(season < 0.5) && x.heatLoop >= 0 ? 1 : 0;
      cool = (season !== season ? x.heatLoop < 0 : season < 0.5) && x.coldLoop >= 0 ? 1 : 0;
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
    const on = heat > 0 ? heat : cool;
    v.slabHeat[d] = 0;
    if (on === 0) continue;
    const water = v.loops.supply[loop];
    // the water is kept above the dew point of the room
    if (cool > 0 && saturated(water - slab.guard, pressure) < humidityRatio[z]) continue;
    const faces = m.slabs[k].faces;
    let total = 0;
    let flow = 0;
    for (let j = 0; j < faces.length; j++) {
      const { element, area, resistance } = faces[j];
      const u = circuitEffectiveness(resistance, slab.flow * on) * slab.flow * on * CP;
      let plane = m.circuit0[element] * s.input0[element] + m.circuit1[element] * s.input1[element];
      for (let q = m.modeStart[element]; q < m.modeStart[element + 1]; q++) plane += m.circuitMean[q] * s.a[q];
      const flux = (v.slabShare[loop] * (u * (water - plane))) / (1 + u * m.circuit2[element]);
      // heating water never cools the slab, nor the other way round
      if (heat > 0 ? flux <= 0 : flux >= 0) continue;
      s.circuitHeat[element] += flux;
      total += flux * area;
      flow += v.slabShare[loop] * slab.flow * on * area;
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
