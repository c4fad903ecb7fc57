import { LATENT_HEAT } from "../airflow/index.ts";
import { biquadratic, machineInput, type MachineCurves } from "./curves.ts";
import { humidityRatio } from "../climate/index.ts";
import { leavingRatio, limitedLeaving } from "./coolingCoil.ts";
import { addedMoisture, STEAM_HEAT } from "./humidifier.ts";
import type { Followed } from "./follow.ts";
import { partFlowPower } from "./fan.ts";
import { outdoorShare } from "./mixing.ts";
import { recoveryShare } from "./recovery.ts";

const LATENT = LATENT_HEAT;

/** What a component leaves behind each step, by place in its row of outputs: heat into what it serves (negative: taken out) and its latent part, W; electricity and fuel, W; flow, kg/s; temperatures, °C, and humidity ratios, kg/kg, in and out. */
export const OUT = { HEAT: 0, LATENT: 1, POWER: 2, FUEL: 3, FLOW: 4, IN: 5, OUT: 6, IN_RATIO: 7, OUT_RATIO: 8 } as const;
export const OUTS = 9;
const O_HEAT = OUT.HEAT;
const O_LATENT = OUT.LATENT;
const O_POWER = OUT.POWER;
const O_FUEL = OUT.FUEL;
const O_FLOW = OUT.FLOW;
const O_IN = OUT.IN;
const O_OUT = OUT.OUT;
const O_IN_RATIO = OUT.IN_RATIO;
const O_OUT_RATIO = OUT.OUT_RATIO;

/** What heats or cools: nothing, water of a loop, gas, electricity, a refrigerant circuit. */
export const BY = { NONE: 0, WATER: 1, GAS: 2, ELECTRICITY: 3, REFRIGERANT: 4 } as const;

interface Part {
  /** Row of its outputs. */
  readonly component: number;
}
export interface RecoveryPart extends Part {
  readonly kind: "recovery";
  readonly sensible: number;
  readonly latent: number;
  readonly bypass: boolean;
  readonly frost: number;
}
export interface MixingPart extends Part {
  readonly kind: "mixing";
  /** Least outdoor air: by the rooms (NaN), or a share of the supply air, 1, and a flow, m³/s. */
  readonly share: number;
  readonly flow: number;
  /** One of ECONOMIZER. */
  readonly economizer: number;
  readonly highLimit: number;
  readonly locksCoil: boolean;
}
export interface HeatingCoilPart extends Part {
  readonly kind: "heatingCoil";
  /** One of BY. */
  readonly by: number;
  readonly loop: number;
  readonly efficiency: number;
  readonly capacity: number;
  /** °C; NaN: the supply temperature. */
  readonly leaving: number;
}
export interface CoolingCoilPart extends Part {
  readonly kind: "coolingCoil";
  readonly by: number;
  readonly loop: number;
  readonly cop: number;
  readonly capacity: number;
  readonly bypass: number;
  readonly curves: MachineCurves;
}
export interface FanPart extends Part {
  readonly kind: "supplyFan" | "returnFan";
  /** Design flow, kg/s of dry air, and power, W. */
  readonly flow: number;
  readonly power: number;
  readonly heat: number;
  readonly shape: readonly [number, number, number, number];
}
/** How moisture is made. */
export const MOIST = { ELECTRIC: 0, GAS: 1, EVAPORATION: 2 } as const;
export interface HumidifierPart extends Part {
  readonly kind: "humidifier";
  /** One of MOIST. */
  readonly by: number;
  /** Least relative humidity of the return air, 1. */
  readonly least: number;
  /** Most water, kg/s. */
  readonly most: number;
  readonly efficiency: number;
}
export type AirPart = RecoveryPart | MixingPart | HeatingCoilPart | CoolingCoilPart | HumidifierPart | FanPart;

/** How the supply temperature is decided. */
export const RULE = { SET: 0, WARMEST: 1, THERMOSTAT: 2 } as const;

export interface AirSystemModel {
  readonly component: number;
  readonly variable: boolean;
  /** One of RULE. */
  readonly rule: number;
  readonly supply: Followed;
  readonly warmest: number;
  readonly heatingSupply: number;
  /** Row of its hours; −1: those of the rooms. */
  readonly hours: number;
  readonly night: boolean;
  readonly nightBand: number;
  /** s */
  readonly minimumRun: number;
  readonly parts: readonly AirPart[];
  readonly returnFan: FanPart | null;
  /** Place of the mixing box in its parts; −1: all of its air is outdoor air. */
  readonly mixesAt: number;
  readonly mixing: MixingPart | null;
  readonly recovery: RecoveryPart | null;
  /** Devices (terminals) it serves, and the room whose thermostat decides. */
  readonly terminals: Int32Array;
  readonly controlZone: number;
  /** Whether every terminal can reheat. */
  readonly reheats: boolean;
}

/** What an air path works on, and what it finds, by place. */
export const AIR = {
  OUTDOOR: 0,
  OUTDOOR_RATIO: 1,
  PRESSURE: 2,
  RETURN: 3,
  RETURN_RATIO: 4,
  FLOW: 5,
  LEAST_OUTDOOR: 6,
  /** Temperatures the heating and the cooling coil bring the supply air to, °C: −Infinity and Infinity where they are off. */
  HEAT_TO: 7,
  COOL_TO: 8,
  ECONOMIZER: 9,
  CP: 10,
  /** Entering wet bulb that machines are told by, °C. */
  WET_BULB: 11,
  SUPPLY: 12,
  SUPPLY_RATIO: 13,
  OUTDOOR_FLOW: 14,
  MIXED: 15,
  MIXED_RATIO: 16,
  EXHAUST: 17,
} as const;
export const AIRS = 18;
const A_OUTDOOR = AIR.OUTDOOR;
const A_OUTDOOR_RATIO = AIR.OUTDOOR_RATIO;
const A_PRESSURE = AIR.PRESSURE;
const A_RETURN = AIR.RETURN;
const A_RETURN_RATIO = AIR.RETURN_RATIO;
const A_FLOW = AIR.FLOW;
const A_LEAST = AIR.LEAST_OUTDOOR;
const A_HEAT_TO = AIR.HEAT_TO;
const A_COOL_TO = AIR.COOL_TO;
const A_ECONOMIZER = AIR.ECONOMIZER;
const A_CP = AIR.CP;
const A_WET_BULB = AIR.WET_BULB;
const A_SUPPLY = AIR.SUPPLY;
const A_SUPPLY_RATIO = AIR.SUPPLY_RATIO;
const A_OUTDOOR_FLOW = AIR.OUTDOOR_FLOW;
const A_MIXED = AIR.MIXED;
const A_MIXED_RATIO = AIR.MIXED_RATIO;
const A_EXHAUST = AIR.EXHAUST;

const WATER = BY.WATER;
const GAS = BY.GAS;
const ELECTRICITY = BY.ELECTRICITY;

/** Power of a fan now, W. */
const fanPower = (f: FanPart, flow: number, variable: boolean): number =>
  flow > 0 && f.flow > 0 ? (variable ? f.power * partFlowPower(f.shape, flow / f.flow) : f.power * (flow / f.flow)) : 0;

/**
 * One pass of the air from outdoors and the rooms through every part in turn to the rooms. Sensible heat is
 * counted by one c_p for all streams of a step and latent heat by the heat of vaporisation at 0 °C, so that what coils and fans
 * give is what the air has gained, to rounding.
 * @param a the row of the system in AIR, filled up to CP; what is found is written behind
 * @param out outputs of all components, [component][OUT] @param limit most heat of each component in this pass, W
 */
export function airPath(system: AirSystemModel, a: Float64Array, out: Float64Array, limit: Float64Array): void {
  const { parts, variable, mixing, returnFan, mixesAt } = system;
  const flow = a[A_FLOW];
  const cp = a[A_CP];
  const outdoor = a[A_OUTDOOR];
  const outdoorRatio = a[A_OUTDOOR_RATIO];
  const pressure = a[A_PRESSURE];
  if (!(flow > 0)) {
    for (const p of parts) out.fill(0, OUTS * p.component, OUTS * p.component + OUTS);
    if (returnFan !== null) out.fill(0, OUTS * returnFan.component, OUTS * returnFan.component + OUTS);
    a[A_SUPPLY] = a[A_RETURN];
    a[A_SUPPLY_RATIO] = a[A_RETURN_RATIO];
    a[A_OUTDOOR_FLOW] = 0;
    a[A_MIXED] = a[A_RETURN];
    a[A_MIXED_RATIO] = a[A_RETURN_RATIO];
    a[A_EXHAUST] = a[A_RETURN];
    return;
  }
  let returned = a[A_RETURN];
  const returnRatio = a[A_RETURN_RATIO];
  if (returnFan !== null) {
    const power = fanPower(returnFan, flow, variable);
    const warmed = returned + (power * returnFan.heat) / (flow * cp);
    tell(out, returnFan.component, power * returnFan.heat, 0, power, 0, flow, returned, warmed, returnRatio, returnRatio);
    returned = warmed;
  }
  // fans behind a part warm the air after it: coils aim below the supply temperature by as much
  let rise = 0;
  for (const p of parts) if (p.kind === "supplyFan") rise += (fanPower(p, flow, variable) * p.heat) / (flow * cp);
  const heatTo = a[A_HEAT_TO];
  const coolTo = a[A_COOL_TO];
  // what the mixture is wanted at: the cooling coil's temperature, else the heating coil's, less the fans' heat
  const wanted = coolTo < Infinity ? coolTo - rise : heatTo > -Infinity ? heatTo - rise : NaN;
  const least = mixing === null ? 1 : Math.min(1, a[A_LEAST] / flow);
  const free = a[A_ECONOMIZER] > 0 && wanted === wanted;
  const share = free ? outdoorShare(outdoor, returned, wanted, least) : least;
  // an economizer that has opened beyond the least share by-passes recovery
  const opened = free && share > least;
  let t = outdoor;
  let w = outdoorRatio;
  let exhaust = returned;
  let through = share * flow;
  const locked = opened && mixing !== null && mixing.locksCoil;
  for (let i = 0; i < parts.length; i++) {
    const p = parts[i];
    const t0 = t;
    const w0 = w;
    if (p.kind === "recovery") {
      const acts = opened ? 0 : recoveryShare(outdoor, returned, p.sensible, share, wanted, p.bypass, p.frost);
      t += acts * p.sensible * (returned - t);
      w += acts * p.latent * (returnRatio - w);
      exhaust = returned - (t - t0);
      tell(out, p.component, through * cp * (t - t0), through * LATENT * (w - w0), 0, 0, through, t0, t, w0, w);
    } else if (p.kind === "mixing") {
      t = share * t + (1 - share) * returned;
      w = share * w + (1 - share) * returnRatio;
      through = flow;
      a[A_MIXED] = t;
      a[A_MIXED_RATIO] = w;
      tell(out, p.component, 0, 0, 0, 0, share * flow, t0, t, w0, w);
    } else if (p.kind === "heatingCoil") {
      const aim = p.leaving === p.leaving ? p.leaving : heatTo - rise;
      let heat = 0;
      if (aim > t) {
        heat = Math.min(through * cp * (aim - t), limit[p.component]);
        t += heat / (through * cp);
      }
      tell(out, p.component, heat, 0, p.by === ELECTRICITY ? heat : 0, p.by === GAS ? heat / p.efficiency : 0, through, t0, t, w0, w);
    } else if (p.kind === "coolingCoil") {
      const aim = coolTo - rise;
      let power = 0;
      if (aim < t && !locked && limit[p.component] > 0) {
        t = limitedLeaving(t0, w0, aim, p.bypass, pressure, through, cp, limit[p.component]);
        w = leavingRatio(t0, w0, t, p.bypass, pressure);
        if (p.by !== WATER) {
          const total = through * (cp * (t0 - t) + LATENT * (w0 - w));
          const wet = a[A_WET_BULB];
          const capacity = p.capacity * biquadratic(p.curves.capacity, wet, outdoor);
          power = machineInput(total, capacity, 1 / p.cop, biquadratic(p.curves.input, wet, outdoor), p.curves.part);
        }
      }
      tell(out, p.component, -through * cp * (t0 - t), -through * LATENT * (w0 - w), power, 0, through, t0, t, w0, w);
    } else if (p.kind === "humidifier") {
      // in proportion to what the return air lacks, so that nothing switches (ours)
      const set = humidityRatio(a[A_RETURN], p.least, pressure);
      const water = a[A_LEAST] > 0 ? addedMoisture(t0, w0, 2 * set - returnRatio, p.by === MOIST.EVAPORATION, pressure, cp, p.most / through) : 0;
      w += water;
      if (p.by === MOIST.EVAPORATION) t -= (LATENT * water) / cp;
      const spent = p.by === MOIST.EVAPORATION ? 0 : through * water * STEAM_HEAT;
      tell(
        out,
        p.component,
        through * cp * (t - t0),
        through * LATENT * water,
        p.by === MOIST.ELECTRIC ? spent : 0,
        p.by === MOIST.GAS ? spent / p.efficiency : 0,
        through,
        t0,
        t,
        w0,
        w,
      );
    } else {
      const power = fanPower(p, flow, variable);
      const warmed = (power * p.heat) / (through * cp);
      t += warmed;
      rise -= warmed;
      tell(out, p.component, power * p.heat, 0, power, 0, through, t0, t, w0, w);
    }
  }
  a[A_SUPPLY] = t;
  a[A_SUPPLY_RATIO] = w;
  a[A_OUTDOOR_FLOW] = share * flow;
  a[A_EXHAUST] = exhaust;
  if (mixesAt < 0) {
    a[A_MIXED] = outdoor;
    a[A_MIXED_RATIO] = outdoorRatio;
  }
}

function tell(
  out: Float64Array,
  component: number,
  heat: number,
  latent: number,
  power: number,
  fuel: number,
  flow: number,
  tIn: number,
  tOut: number,
  wIn: number,
  wOut: number,
): void {
  const o = OUTS * component;
  out[o + O_HEAT] = heat;
  out[o + O_LATENT] = latent;
  out[o + O_POWER] = power;
  out[o + O_FUEL] = fuel;
  out[o + O_FLOW] = flow;
  out[o + O_IN] = tIn;
  out[o + O_OUT] = tOut;
  out[o + O_IN_RATIO] = wIn;
  out[o + O_OUT_RATIO] = wOut;
}
