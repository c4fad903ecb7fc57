import { quantity, settingOf, type Problem, type Project, type PvArray } from "../model/index.ts";
import { cos, DEG } from "../numeric/index.ts";
import { coverModifier, diffuseAngles } from "./cover.ts";
import { throughInverter, type Inverter } from "./inverter.ts";
import { arrayNumber, type PlacedArray } from "./place.ts";
import {
  cellTemperature,
  currentAt,
  diodeAt,
  fitModule,
  maximumPower,
  openVoltage,
  REFERENCE_SUN,
  type DiodeModel,
  type ModuleFit,
  type ModuleSheet,
} from "./pvModule.ts";

/** Temperature data sheets are told at, °C. */
const REFERENCE_CELL = 25;

/** An array as numbers. */
export interface ArrayElectric {
  /** Modules that make, and their gross area, m². */
  readonly modules: number;
  readonly gross: number;
  /** The module's diode; null: a fixed efficiency. */
  readonly diode: DiodeModel | null;
  /** Power over sun on the gross area at the sheet's conditions, 1. */
  readonly efficiency: number;
  /** W at 1000 W/m² and 25 °C. */
  readonly peak: number;
  readonly noct: number;
  readonly inverter: Inverter;
  /** Shares kept off by dirt, and lost in wiring and mismatch. */
  readonly soiling: number;
  readonly wiring: number;
  /** What the cover lets pass of sky and ground light over what it does at right angles, 1. */
  readonly skyModifier: number;
  readonly groundModifier: number;
}

/** The data sheet of an array's module. */
export function sheetOf(a: PvArray): ModuleSheet {
  return {
    cells: arrayNumber(a, "inSeries"),
    voc: arrayNumber(a, "voc"),
    isc: arrayNumber(a, "isc"),
    vmp: arrayNumber(a, "vmp"),
    imp: arrayNumber(a, "imp"),
    alpha: arrayNumber(a, "alpha") * arrayNumber(a, "isc"),
    beta: arrayNumber(a, "beta") * arrayNumber(a, "voc"),
  };
}

const fits = new Map<string, ModuleFit>();
/** As `fitModule`, remembered by what the sheet says. */
export function fitOf(a: PvArray): ModuleFit {
  const sheet = sheetOf(a);
  const key = JSON.stringify(sheet);
  let found = fits.get(key);
  if (!found) {
    if (fits.size > 100) fits.clear();
    fits.set(key, (found = fitModule(sheet)));
  }
  return found;
}

/** The model an array runs with: of the fit, or the nearest; null: a fixed efficiency, or no sheet a module can have. */
export function diodeOf(a: PvArray): DiodeModel | null {
  if (settingOf("pvArray", a.inputs, "model") !== "single diode") return null;
  const fit = fitOf(a);
  return fit.ok ? fit.model : fit.nearest;
}

/** Peak power of one module, W. */
export function modulePeak(a: PvArray): number {
  if (settingOf("pvArray", a.inputs, "model") !== "single diode")
    return arrayNumber(a, "efficiency") * arrayNumber(a, "width") * arrayNumber(a, "height") * REFERENCE_SUN;
  const diode = diodeOf(a);
  return diode ? maximumPower(diodeAt(diode, REFERENCE_SUN, REFERENCE_CELL)).power : 0;
}

/** Modules that are connected: whole strings, where strings are laid out. */
export function connected(a: PvArray, modules: number): number {
  const series = settingOf("pvArray", a.inputs, "series") as number | null;
  return series === null ? modules : Math.floor(modules / Math.round(series)) * Math.round(series);
}

/** Peak of an array over the rating of its inverter, where none is typed: typical, unverified. */
const RATIO = 1.2;
/** Power of the inverter, W. */
export const inverterPower = (a: PvArray, peak: number): number => (settingOf("pvArray", a.inputs, "inverterPower") as number | null) ?? peak / RATIO;

/** Share of its rated power below which an inverter stands still: typical, unverified. */
const START = 0.005;

/** An array as numbers, from where it stands. */
export function arrayElectric(a: PvArray, placed: PlacedArray): ArrayElectric {
  const modules = connected(a, placed.modules.length);
  const one = modulePeak(a);
  const gross = modules * arrayNumber(a, "width") * arrayNumber(a, "height");
  const peak = one * modules;
  const angles = diffuseAngles(placed.tilt);
  const single = settingOf("pvArray", a.inputs, "model") === "single diode";
  return {
    modules,
    gross,
    diode: diodeOf(a),
    efficiency: gross > 0 ? peak / (gross * REFERENCE_SUN) : 0,
    peak,
    noct: arrayNumber(a, "noct"),
    inverter: {
      rated: inverterPower(a, peak),
      loads: [0.1, 0.3, 0.5, 1],
      efficiencies: [arrayNumber(a, "at10"), arrayNumber(a, "at30"), arrayNumber(a, "at50"), arrayNumber(a, "at100")],
      start: START,
      night: arrayNumber(a, "night"),
    },
    soiling: arrayNumber(a, "soiling"),
    wiring: arrayNumber(a, "wiring"),
    skyModifier: single ? coverModifier(cos(angles.sky * DEG)) : 1,
    groundModifier: single ? coverModifier(cos(angles.ground * DEG)) : 1,
  };
}

/** Places of what an array made and lost, W or J: each loss what one step of the chain takes; the sun of the sheet's efficiency less all of them is what is made. */
export const MADE = { NOMINAL: 0, SHADE: 1, SOILING: 2, REFLECTION: 3, LOW_LIGHT: 4, TEMPERATURE: 5, WIRING: 6, INVERTER: 7, LIMIT: 8, GIVEN: 9 } as const;
export const MADES = 10;

/** Sun on an array, W/m², rows weighted by their modules. */
export interface ArraySun {
  readonly cosine: number;
  readonly beam: number;
  readonly diffuse: number;
  readonly ground: number;
  readonly litBeam: number;
  readonly seenDiffuse: number;
}

/**
 * What an array makes of the sun on it: shade in proportion to the irradiance it takes, dirt, reflection by the cover (De Soto 2006), the diode at
 * the temperature of its cells, wiring and the inverter. @param out filled by MADE, W @param air °C @param wind m/s at the array
 */
export function arrayPower(x: ArrayElectric, sun: ArraySun, air: number, wind: number, out: Float64Array): void {
  out.fill(0);
  const open = sun.beam + sun.diffuse + sun.ground;
  const seen = sun.litBeam + sun.seenDiffuse + sun.ground;
  const scale = x.efficiency * x.gross;
  const nominal = open * scale;
  const shaded = seen * scale;
  const clean = shaded * (1 - x.soiling);
  const passed = x.diode
    ? (sun.litBeam * coverModifier(sun.cosine) + sun.seenDiffuse * x.skyModifier + sun.ground * x.groundModifier) * scale * (1 - x.soiling)
    : clean;
  let cool = passed;
  let direct = passed;
  if (x.diode && passed > 0) {
    const effective = passed / scale;
    const cell = cellTemperature(air, effective, wind, x.noct, x.efficiency);
    cool = maximumPower(diodeAt(x.diode, effective, REFERENCE_CELL)).power * x.modules;
    direct = maximumPower(diodeAt(x.diode, effective, cell)).power * x.modules;
  }
  const wired = direct * (1 - x.wiring);
  const inverted = throughInverter(x.inverter, wired);
  out[MADE.NOMINAL] = nominal;
  out[MADE.SHADE] = nominal - shaded;
  out[MADE.SOILING] = shaded - clean;
  out[MADE.REFLECTION] = clean - passed;
  out[MADE.LOW_LIGHT] = passed - cool;
  out[MADE.TEMPERATURE] = cool - direct;
  out[MADE.WIRING] = direct - wired;
  out[MADE.INVERTER] = inverted.lost;
  out[MADE.LIMIT] = inverted.cut;
  out[MADE.GIVEN] = inverted.given;
}

/** How far I_mp · V_mp may lie from the power of the sheet, 1; and inverters that are large or small for their array. */
const POWER_OFF = 0.02;
const [LEAST_INVERTER, MOST_INVERTER] = [0.6, 1.3];

/** What is wrong in the sheets and strings of arrays that stand. */
export function arrayProblems(project: Project, arrays: readonly PlacedArray[]): Problem[] {
  const problems: Problem[] = [];
  for (const [id, a] of Object.entries(project.onSite)) {
    const warn = (code: string, path: string, message: string): void =>
      void problems.push({ code, severity: "warning", stage: "services", path: `onSite/${id}/${path}`, message });
    if (a.kind === "windTurbine" && a.curve.length < 2) warn("no-curve", "curve", `${a.name} has no power curve yet; it makes nothing.`);
    if (a.kind !== "pvArray") continue;
    if (settingOf("pvArray", a.inputs, "model") === "single diode") {
      const told = arrayNumber(a, "power");
      const found = arrayNumber(a, "vmp") * arrayNumber(a, "imp");
      if (Math.abs(found / told - 1) > POWER_OFF)
        warn(
          "module-power",
          "inputs/power",
          `V_mp · I_mp of ${a.name} is ${quantity(found, "W", 0)} and its sheet says ${quantity(told, "W", 0)}; check the sheet.`,
        );
      if (arrayNumber(a, "inSeries") > arrayNumber(a, "cells")) warn("module-cells", "inputs/inSeries", `${a.name} has more cells in series than cells.`);
      const fit = fitOf(a);
      if (!fit.ok) warn("module-sheet", "inputs/beta", `${a.name}: ${fit.message}${fit.nearest ? " It runs with that." : " It makes nothing."}`);
    }
    const placed = arrays.find((x) => x.id === id);
    if (!placed) continue;
    const count = placed.modules.length;
    const wired = connected(a, count);
    if (wired < count)
      warn(
        "part-string",
        "inputs/series",
        `${count - wired} of the ${count} modules of ${a.name} make no whole string of ${Math.round(arrayNumber(a, "series"))} and are not connected.`,
      );
    const peak = modulePeak(a) * wired;
    const rated = inverterPower(a, peak);
    if (peak > 0 && (rated < LEAST_INVERTER * peak || rated > MOST_INVERTER * peak))
      warn(
        "inverter-size",
        "inputs/inverterPower",
        `The inverter of ${a.name} gives ${quantity(rated / 1000, "kW", 1)} and its array ${quantity(peak / 1000, "kW", 1)}; between ${LEAST_INVERTER} and ${MOST_INVERTER} times the array is usual.`,
      );
  }
  return problems;
}

/** What a fitted module says of itself, beside what its sheet says. */
export interface ModuleTold {
  readonly isc: number;
  readonly voc: number;
  readonly vmp: number;
  readonly imp: number;
  /** Coefficient of power between 25 and 45 °C, 1/K. */
  readonly gamma: number;
  /** Power at 45 °C, W. */
  readonly warm: number;
}
const WARM = 45;

/** The three points of a model and its behaviour with temperature, for a look at the fit. */
export function toldOf(diode: DiodeModel): ModuleTold {
  const cool = diodeAt(diode, REFERENCE_SUN, REFERENCE_CELL);
  const best = maximumPower(cool);
  const warm = maximumPower(diodeAt(diode, REFERENCE_SUN, WARM)).power;
  return {
    isc: currentAt(cool, 0),
    voc: openVoltage(cool),
    vmp: best.voltage,
    imp: best.current,
    gamma: (warm / best.power - 1) / (WARM - REFERENCE_CELL),
    warm,
  };
}
