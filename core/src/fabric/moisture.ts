import type { Assembly } from "../model/index.ts";
import { exp, log } from "../numeric/index.ts";
import { assemblyLayers, surfaceResistances, type MaterialSource } from "./assembly.ts";

/** Vapour permeability of still air, kg/(m·s·Pa) (ISO 13788:2012, 3.1). */
const AIR_PERMEABILITY = 2e-10;
/** Inside surface resistance for mould and for interstitial condensation, m²K/W (ISO 13788:2012, table 2). */
const RSI_MOULD = 0.25;
/** Layers are cut into parts of at most this resistance, m²K/W (ISO 13788:2012, 6.3). */
const PART = 0.25;
/** Relative humidity at a surface above which mould grows, 1. */
const MOULD_HUMIDITY = 0.8;
/** Seconds of each month. */
const SECONDS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31].map((d) => d * 86400);

/** Saturation vapour pressure, Pa, at a temperature, °C (ISO 13788:2012, annex E). */
export function saturationByIso(t: number): number {
  return t >= 0 ? 610.5 * exp((17.269 * t) / (237.3 + t)) : 610.5 * exp((21.875 * t) / (265.5 + t));
}
/** Temperature, °C, at which a vapour pressure, Pa, saturates (ISO 13788:2012, annex E). */
export function dewPointByIso(p: number): number {
  const l = log(p / 610.5);
  return p >= 610.5 ? (237.3 * l) / (17.269 - l) : (265.5 * l) / (21.875 - l);
}

/** Internal humidity by use (ISO 13788:2012, annex A): most excess of vapour pressure inside over outside at 0 °C and below, Pa. */
export const humidityClasses = {
  "1, storage": 270,
  "2, offices": 540,
  "3, dwellings": 810,
  "4, kitchens, sports halls": 1080,
  "5, pools, laundries": 1360,
} as const;
export type HumidityClass = keyof typeof humidityClasses;

/** Excess of vapour pressure inside over outside, Pa, at an outdoor temperature, °C: it falls to nothing at 20 °C. */
export function vapourExcess(kind: HumidityClass, outdoors: number): number {
  return humidityClasses[kind] * Math.min(1, Math.max(0, (20 - outdoors) / 20));
}

export interface MoistureClimate {
  /** Monthly mean, °C, January first. */
  readonly outdoors: readonly number[];
  /** Monthly mean relative humidity outdoors, 0 to 1. */
  readonly humidity: readonly number[];
  /** °C. */
  readonly indoors: number;
  readonly kind: HumidityClass;
}

/** Temperature factor at the inside surface, 1, by which mould is judged: (θsi − θe)/(θi − θe) with Rsi = 0.25 m²K/W (ISO 13788:2012, 4.4 and 5.3). */
export function temperatureFactor(source: MaterialSource, assembly: Assembly): number {
  const [rse] = surfaceResistances(assembly.use);
  const rest = rse + assemblyLayers(source, assembly).reduce((s, l) => s + l.resistance, 0);
  return rest / (rest + RSI_MOULD);
}

/** Least temperature factor for the surface to stay below 80 % relative humidity in every month, and the month that asks for it (ISO 13788:2012, 5.3). Null where no month is colder than indoors. */
export function factorNeeded(climate: MoistureClimate): { readonly factor: number; readonly month: number } | null {
  let found: { factor: number; month: number } | null = null;
  climate.outdoors.forEach((outside, month) => {
    if (climate.indoors - outside < 1) return;
    const p = climate.humidity[month] * saturationByIso(outside) + vapourExcess(climate.kind, outside);
    const surface = dewPointByIso(p / MOULD_HUMIDITY);
    const factor = (surface - outside) / (climate.indoors - outside);
    if (!found || factor > found.factor) found = { factor, month };
  });
  return found;
}

/** A place in an assembly: between two layers or parts of one, from outside to inside. */
export interface Station {
  /** Resistance from the outdoor air, m²K/W. */
  readonly resistance: number;
  /** Air layer of the same vapour resistance from outside, m. */
  readonly sd: number;
  /** Depth from the outside surface, m. */
  readonly depth: number;
}

/**
 * Places of an assembly at which vapour may condense, outside surface first. Null, with the material, where one states no
 * vapour resistance factor: a guess would hide what is asked.
 */
export function stations(
  source: MaterialSource,
  assembly: Assembly,
): { readonly ok: true; readonly list: readonly Station[] } | { readonly ok: false; readonly message: string } {
  if (assembly.rated) return { ok: false, message: "An assembly known by its U alone has no layers in which vapour could condense." };
  const layers = assemblyLayers(source, assembly);
  const [rse] = surfaceResistances(assembly.use);
  let here: Station = { resistance: rse, sd: 0, depth: 0 };
  const list: Station[] = [here];
  for (const [i, l] of assembly.layers.entries()) {
    if (l.kind === "circuit") continue;
    const thickness = l.thickness ?? 0;
    const mu = l.kind === "solid" ? source.materials[l.material].vapourResistance : 1;
    if (mu === undefined)
      return {
        ok: false,
        message: `${l.kind === "solid" ? source.materials[l.material].name : ""} states no vapour resistance factor; type one to see whether vapour condenses.`,
      };
    const parts = Math.max(1, Math.ceil(layers[i].resistance / PART - 1e-9));
    for (let k = 0; k < parts; k++) {
      // an air layer of unknown thickness resists vapour as 10 mm of air do (ISO 13788:2012, 6.2)
      const sd = l.kind === "solid" ? mu * thickness : 0.01;
      here = { resistance: here.resistance + layers[i].resistance / parts, sd: here.sd + sd / parts, depth: here.depth + thickness / parts };
      list.push(here);
    }
  }
  return { ok: true, list };
}

export interface CondensationMonth {
  /** kg/m² condensed in the month, less what evaporates. */
  readonly change: number;
  /** kg/m² held at the end of the month. */
  readonly held: number;
}
export interface Condensation {
  /** By month from the first in which vapour condenses. Empty: it never does. */
  readonly months: readonly (CondensationMonth & { readonly month: number })[];
  /** Most held at the end of any month, kg/m². */
  readonly most: number;
  /** Whether all of it is gone before the year is over. */
  readonly dries: boolean;
  /** Depths from the outside surface at which it condenses, m. */
  readonly depths: readonly number[];
}

/** Lower convex hull of places in order: the vapour pressure that is nowhere above saturation. */
function hull(points: readonly { x: number; p: number; at: number }[]): { x: number; p: number; at: number }[] {
  const out: { x: number; p: number; at: number }[] = [];
  for (const q of points) {
    while (out.length >= 2) {
      const [a, b] = [out[out.length - 2], out[out.length - 1]];
      if ((b.p - a.p) * (q.x - a.x) >= (q.p - a.p) * (b.x - a.x)) out.pop();
      else break;
    }
    out.push(q);
  }
  return out;
}

/**
 * Interstitial condensation by month, kg/m² (ISO 13788:2012, clause 6): vapour diffuses steadily through layers cut into
 * parts, condenses where the pressure would exceed saturation, and evaporates from where it was held before.
 */
export function condensation(list: readonly Station[], rsi: number, climate: MoistureClimate): Condensation {
  const last = list[list.length - 1];
  const total = last.resistance + rsi;
  const inner = list.map((_, i) => i).filter((i) => i > 0 && i < list.length - 1 && list[i].sd > list[i - 1].sd);
  /** Rates, kg/m²s, at each place for a month, those that hold water being saturated. */
  const rates = (month: number, held: readonly number[]): number[] => {
    const outside = climate.outdoors[month];
    const pe = climate.humidity[month] * saturationByIso(outside);
    const pi = Math.min(pe + vapourExcess(climate.kind, outside), saturationByIso(climate.indoors));
    const saturated = (i: number): number => saturationByIso(outside + ((climate.indoors - outside) * list[i].resistance) / total);
    const line: { x: number; p: number; at: number }[] = [];
    let stretch: { x: number; p: number; at: number }[] = [{ x: 0, p: pe, at: -1 }];
    for (const i of inner) {
      stretch.push({ x: list[i].sd, p: saturated(i), at: i });
      if (held[i] > 0) {
        line.push(...hull(stretch).slice(line.length === 0 ? 0 : 1));
        stretch = [stretch[stretch.length - 1]];
      }
    }
    stretch.push({ x: last.sd, p: pi, at: -1 });
    line.push(...hull(stretch).slice(line.length === 0 ? 0 : 1));
    const out = list.map(() => 0);
    for (let k = 1; k < line.length - 1; k++) {
      const [a, b, c] = [line[k - 1], line[k], line[k + 1]];
      if (b.at >= 0 && b.x > a.x && c.x > b.x) out[b.at] = AIR_PERMEABILITY * ((c.p - b.p) / (c.x - b.x) - (b.p - a.p) / (b.x - a.x));
    }
    return out;
  };
  const none = list.map(() => 0);
  const sum = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0);
  const condenses = (m: number): boolean => sum(rates(m, none).map((r) => Math.max(0, r))) > 0;
  const months = Array.from({ length: 12 }, (_, m) => m);
  // the first month of a run of months with condensation: the one before is without
  const wet = months.filter(condenses);
  if (wet.length === 0) return { months: [], most: 0, dries: true, depths: [] };
  const start = wet.find((m) => !wet.includes((m + 11) % 12)) ?? wet[0];
  let held: readonly number[] = none;
  const out: (CondensationMonth & { month: number })[] = [];
  const places = new Set<number>();
  for (let k = 0; k < 12; k++) {
    const month = (start + k) % 12;
    const r = rates(month, held);
    const next = held.map((h, i) => Math.max(0, h + r[i] * SECONDS[month]));
    next.forEach((h, i) => h > 0 && places.add(i));
    out.push({ month, change: sum(next) - sum(held), held: sum(next) });
    held = next;
  }
  return { months: out, most: Math.max(...out.map((m) => m.held)), dries: sum(held) <= 0, depths: [...places].sort((a, b) => a - b).map((i) => list[i].depth) };
}

/** Temperature, °C, and saturation temperature of the vapour there (dew point), °C, through an assembly at one state of both airs. */
export function throughSection(
  list: readonly Station[],
  rsi: number,
  state: { readonly outdoors: number; readonly indoors: number; readonly outdoorPressure: number; readonly indoorPressure: number },
): { readonly depth: number; readonly temperature: number; readonly dewPoint: number }[] {
  const last = list[list.length - 1];
  const total = last.resistance + rsi;
  return list.map((s) => {
    const share = last.sd > 0 ? s.sd / last.sd : 0;
    return {
      depth: s.depth,
      temperature: state.outdoors + ((state.indoors - state.outdoors) * s.resistance) / total,
      dewPoint: dewPointByIso(state.outdoorPressure + share * (state.indoorPressure - state.outdoorPressure)),
    };
  });
}
