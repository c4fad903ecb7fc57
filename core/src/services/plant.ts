import { OUT, OUTS } from "./airPath.ts";
import { boilerEfficiency } from "./boiler.ts";
import { biquadratic, machineInput, type MachineCurves } from "./curves.ts";
import { partFlowPower } from "./fan.ts";
import { followed, type Followed } from "./follow.ts";
import { PUMP_SHAPE, WATER_CP } from "./pump.ts";

interface SourceBase {
  readonly component: number;
  /** W at its rating; Infinity: unlimited. */
  readonly capacity: number;
}
export type SourceModel = SourceBase &
  (
    | { readonly kind: "boiler"; readonly electric: boolean; readonly efficiency: number; readonly condensing: number; readonly standingLoss: number }
    | {
        readonly kind: "chiller";
        readonly cop: number;
        readonly curves: MachineCurves;
        /** Whether the tower's water cools its condenser; else outdoor air. */
        readonly water: boolean;
      }
    | { readonly kind: "heatPump"; readonly cop: number; readonly curves: MachineCurves; readonly leastOutdoor: number }
    | { readonly kind: "district"; readonly efficiency: number }
    | { readonly kind: "naturalSource"; readonly temperature: Followed; readonly approach: number; readonly power: number }
  );
export interface PumpModel {
  readonly component: number;
  /** Design flow, kg/s, and power, W. */
  readonly flow: number;
  readonly power: number;
  readonly variable: boolean;
  readonly heat: number;
}
/** A cooling tower: water at the outdoor wet bulb and its approach, no colder than its least. */
export interface TowerModel {
  readonly component: number;
  readonly approach: number;
  readonly least: number;
  /** Electricity over the heat rejected, 1. */
  readonly power: number;
}
export interface LoopModel {
  readonly component: number;
  /** Whether its water heats; else it cools. */
  readonly hot: boolean;
  readonly supply: Followed;
  /** Supply temperature capacities are rated at, °C: the hottest of a heating, the coldest of a chilled loop. */
  readonly design: number;
  readonly difference: number;
  readonly pump: PumpModel | null;
  readonly sources: readonly SourceModel[];
  readonly tower: TowerModel | null;
}

/** State of the loops, by loop. */
export interface LoopState {
  /** Supply temperature, °C, and what the sources can give, W, in the step. */
  readonly supply: Float64Array;
  readonly most: Float64Array;
  /** Drawn in a pass: heat, W (cold counts positive), and water, kg/s. */
  readonly demand: Float64Array;
  readonly water: Float64Array;
  readonly returned: Float64Array;
  /** Heat its sources could not give in the step, W. */
  readonly missing: Float64Array;
}

export const loopState = (loops: number): LoopState => {
  const f = (): Float64Array => new Float64Array(loops);
  return { supply: f(), most: f(), demand: f(), water: f(), returned: f(), missing: f() };
};

const DAMP = 0.001;
const O_HEAT = OUT.HEAT;
const O_POWER = OUT.POWER;
const O_FUEL = OUT.FUEL;
const O_FLOW = OUT.FLOW;
const O_IN = OUT.IN;
const O_OUT = OUT.OUT;
/** Water of a tower, °C. @param wet bulb outdoors, °C */
export const towerWater = (tower: TowerModel, wet: number): number => Math.max(tower.least, wet + tower.approach);

/** What a machine's condenser is cooled by, or its evaporator heated, °C. */
const sinkOf = (s: SourceModel, tower: TowerModel | null, outdoor: number, wet: number): number =>
  s.kind === "chiller" && s.water && tower !== null ? towerWater(tower, wet) : outdoor;

/**
 * Most heat or cold a source gives now, W.
 * @param supply wanted of it, °C @param sink outdoors, or the condenser water of a chiller that a tower cools, °C @param scheduled values of schedules
 */
export function sourceCapacity(s: SourceModel, hot: boolean, supply: number, difference: number, sink: number, scheduled: Float64Array): number {
  if (s.kind === "chiller" || s.kind === "heatPump") {
    if (s.kind === "heatPump" && sink < s.leastOutdoor) return 0;
    return s.capacity * biquadratic(s.curves.capacity, supply, sink);
  }
  if (s.kind !== "naturalSource") return s.capacity;
  // water of the source brings the loop's water as near as the approach: beyond that, in proportion to the difference that is left
  const source = followed(s.temperature, scheduled, sink);
  const reach = hot ? source - s.approach - supply : supply - (source + s.approach);
  const share = 1 + reach / difference;
  return share <= 0 ? 0 : s.capacity * (share < 1 ? share : 1);
}

/** Temperatures and capacities of a loop for a step. @param wet bulb outdoors, °C */
export function beginLoop(loop: LoopModel, l: number, s: LoopState, scheduled: Float64Array, outdoor: number, wet: number): void {
  s.supply[l] = followed(loop.supply, scheduled, outdoor);
  let most = 0;
  for (let i = 0; i < loop.sources.length; i++)
    most += sourceCapacity(loop.sources[i], loop.hot, s.supply[l], loop.difference, sinkOf(loop.sources[i], loop.tower, outdoor, wet), scheduled);
  // the pump of a chilled loop takes its part of the cold
  const pump = loop.pump;
  if (pump !== null && !loop.hot) most = Math.max(0, most - pump.power * pump.heat);
  s.most[l] = most;
}

/** Water drawn, the pump, the sources one after the other, and the heat that a tower rejects; written to the outputs. @param wet bulb outdoors, °C */
export function runLoop(loop: LoopModel, l: number, s: LoopState, out: Float64Array, scheduled: Float64Array, outdoor: number, wet: number): void {
  const demand = s.demand[l];
  const { pump, hot } = loop;
  let flow = s.water[l];
  let warmed = 0;
  if (pump !== null) {
    const o = OUTS * pump.component;
    const runs = demand > DAMP * pump.flow * WATER_CP * loop.difference;
    if (!pump.variable && runs) flow = pump.flow;
    const share = pump.flow > 0 ? flow / pump.flow : 0;
    const power = !runs ? 0 : pump.variable ? pump.power * partFlowPower(PUMP_SHAPE, share) : pump.power;
    warmed = power * pump.heat;
    out[o + O_HEAT] = warmed;
    out[o + O_POWER] = power;
    out[o + O_FLOW] = flow;
  }
  const change = flow > 0 ? demand / (flow * WATER_CP) : 0;
  s.returned[l] = hot ? s.supply[l] - change : s.supply[l] + change;
  const own = OUTS * loop.component;
  out[own + O_HEAT] = hot ? demand : -demand;
  out[own + O_FLOW] = flow;
  out[own + O_IN] = s.returned[l];
  out[own + O_OUT] = s.supply[l];
  let left = hot ? Math.max(0, demand - warmed) : demand > 0 ? demand + warmed : 0;
  let rejected = 0;
  for (let i = 0; i < loop.sources.length; i++) {
    const x = loop.sources[i];
    const o = OUTS * x.component;
    const sink = sinkOf(x, loop.tower, outdoor, wet);
    const most = sourceCapacity(x, hot, s.supply[l], loop.difference, sink, scheduled);
    const load = left < most ? left : most;
    left -= load;
    let power = 0;
    let fuel = 0;
    if (load > 0) {
      if (x.kind === "boiler") {
        const spent =
          load / boilerEfficiency(x.efficiency, x.condensing, s.returned[l]) + (x.capacity < Infinity ? (x.standingLoss * x.capacity) / x.efficiency : 0);
        if (x.electric) power = spent;
        else fuel = spent;
      } else if (x.kind === "chiller" || x.kind === "heatPump")
        power = machineInput(load, most, 1 / x.cop, biquadratic(x.curves.input, s.supply[l], sink), x.curves.part);
      else if (x.kind === "district") fuel = load / x.efficiency;
      else power = x.power * load;
    }
    if (x.kind === "chiller" && x.water) rejected += load + power;
    out[o + O_HEAT] = hot ? load : -load;
    out[o + O_POWER] = power;
    out[o + O_FUEL] = fuel;
    out[o + O_FLOW] = demand > 0 ? (flow * load) / Math.max(demand, load) : 0;
    out[o + O_IN] = s.returned[l];
    out[o + O_OUT] = s.supply[l];
  }
  const { tower } = loop;
  if (tower !== null) {
    const o = OUTS * tower.component;
    out[o + O_HEAT] = rejected;
    out[o + O_POWER] = rejected * tower.power;
    out[o + O_IN] = wet;
    out[o + O_OUT] = towerWater(tower, wet);
  }
  s.missing[l] = left > DAMP * demand ? left : 0;
}
