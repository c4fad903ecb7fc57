import { boxClimates, boxProject, type BoxClimateName, type BoxOptions } from "./box.ts";
import type { WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { runToEnd } from "../results/index.ts";
import { projectWeather } from "../simulate/index.ts";

/** Cases of the test box of ASHRAE Standard 140, as far as a rectangular room of this document can be them. */
export interface BoxCase {
  readonly id: string;
  readonly what: string;
  readonly options: BoxOptions;
}

const GLASS = 12 / (8 * 2.7);
const constantFilms = {
  insideConvection: { kind: "typed", wall: 3.16, floor: 3.16, ceiling: 3.16, glass: 3.16 },
  outsideConvection: { kind: "typed", wall: 24.7, roof: 24.7, floor: 24.7, glass: 16.4 },
} as const;
/** Fans of 1703.16 m³/h in a room of 129.6 m³. */
const NIGHT_FAN = 1703.16 / 129.6;

const base = (weight: "light" | "heavy"): BoxOptions => ({ weight, glass: GLASS, panes: true });
const series = (weight: "light" | "heavy", n: number): BoxCase[] => [
  { id: `${n}`, what: `${weight}, 12 m² glass to the south, 20 and 27 °C`, options: base(weight) },
  { id: `${n + 10}`, what: "with an overhang of 1 m", options: { ...base(weight), overhang: 1 } },
  { id: `${n + 20}`, what: "6 m² glass each to east and west", options: { ...base(weight), glass: 0, eastWest: 6 } },
  { id: `${n + 30}`, what: "east and west, with overhangs and fins of 1 m", options: { ...base(weight), glass: 0, eastWest: 6, overhang: 1, fins: 1 } },
  { id: `${n + 40}`, what: "heating set back to 10 °C from 23 to 7 o'clock", options: { ...base(weight), setback: 10 } },
  { id: `${n + 50}`, what: "not heated, cooled by day, fans by night", options: { ...base(weight), heating: null, nightFan: NIGHT_FAN } },
  { id: `${n}FF`, what: "free-floating", options: { ...base(weight), heating: null, cooling: null } },
  { id: `${n + 50}FF`, what: "free-floating with fans by night", options: { ...base(weight), heating: null, cooling: null, nightFan: NIGHT_FAN } },
];

/** Every case, each described by what it changes from the one it is compared with. */
export const boxCases: readonly BoxCase[] = [
  ...series("light", 600),
  ...series("heavy", 900),
  { id: "960", what: "a sunspace before the south wall, heavy between", options: { weight: "light", sunspace: GLASS, panes: true } },
  {
    id: "195",
    what: "no glass, air change, gains; 20 °C held",
    options: { glass: 0, gains: 0, infiltration: 0, heating: 20, cooling: 20, emissivity: 0.1, outsideAbsorptance: 0.1 },
  },
  {
    id: "220",
    what: "no glass, air change or gains; pale outside",
    options: { glass: 0, gains: 0, infiltration: 0, heating: 20, cooling: 20, outsideAbsorptance: 0.1 },
  },
  { id: "230", what: "220 with one air change", options: { glass: 0, gains: 0, infiltration: 1, heating: 20, cooling: 20, outsideAbsorptance: 0.1 } },
  { id: "240", what: "220 with gains of 200 W", options: { glass: 0, gains: 200, infiltration: 0, heating: 20, cooling: 20, outsideAbsorptance: 0.1 } },
  { id: "250", what: "220 with dark outside", options: { glass: 0, gains: 0, infiltration: 0, heating: 20, cooling: 20, outsideAbsorptance: 0.9 } },
  {
    id: "270",
    what: "12 m² glass to the south, dark inside",
    options: { ...base("light"), gains: 0, infiltration: 0, heating: 20, cooling: 20, outsideAbsorptance: 0.1, insideAbsorptance: 0.9 },
  },
  {
    id: "280",
    what: "270 with pale inside",
    options: { ...base("light"), gains: 0, infiltration: 0, heating: 20, cooling: 20, outsideAbsorptance: 0.1, insideAbsorptance: 0.1 },
  },
  {
    id: "290",
    what: "270 with an overhang",
    options: { ...base("light"), gains: 0, infiltration: 0, heating: 20, cooling: 20, outsideAbsorptance: 0.1, insideAbsorptance: 0.9, overhang: 1 },
  },
  {
    id: "300",
    what: "270 with glass to east and west",
    options: { ...base("light"), glass: 0, eastWest: 6, gains: 0, infiltration: 0, heating: 20, cooling: 20, outsideAbsorptance: 0.1, insideAbsorptance: 0.9 },
  },
  {
    id: "310",
    what: "300 with overhangs and fins",
    options: {
      ...base("light"),
      glass: 0,
      eastWest: 6,
      overhang: 1,
      fins: 1,
      gains: 0,
      infiltration: 0,
      heating: 20,
      cooling: 20,
      outsideAbsorptance: 0.1,
      insideAbsorptance: 0.9,
    },
  },
  {
    id: "320",
    what: "270 held between 20 and 27 °C",
    options: { ...base("light"), gains: 0, infiltration: 0, outsideAbsorptance: 0.1, insideAbsorptance: 0.9 },
  },
  { id: "395", what: "no glass, air change or gains, 20 and 27 °C", options: { glass: 0, gains: 0, infiltration: 0, outsideAbsorptance: 0.1 } },
  { id: "410", what: "395 with half an air change", options: { glass: 0, gains: 0, infiltration: 0.5, outsideAbsorptance: 0.1 } },
  { id: "420", what: "410 with gains of 200 W", options: { glass: 0, gains: 200, infiltration: 0.5, outsideAbsorptance: 0.1 } },
  { id: "430", what: "420 with usual outside", options: { glass: 0, gains: 200, infiltration: 0.5 } },
  { id: "440", what: "600 with pale inside", options: { ...base("light"), insideAbsorptance: 0.1 } },
  { id: "800", what: "430, heavy", options: { weight: "heavy", glass: 0, gains: 200, infiltration: 0.5 } },
  { id: "810", what: "900 with pale inside", options: { ...base("heavy"), insideAbsorptance: 0.1 } },
  { id: "600 isotropic", what: "600 under an even sky", options: { ...base("light"), sky: "isotropic" } },
  { id: "600 area", what: "600, beam by area", options: { ...base("light"), run: { beam: "area" } } },
  { id: "600 traced", what: "600, beam traced", options: { ...base("light"), run: { beam: "traced" } } },
  { id: "600 films", what: "600 with constant films", options: { ...base("light"), run: constantFilms } },
  { id: "600 rated", what: "600 with glass by its rating", options: { ...base("light"), panes: false } },
  { id: "600 full", what: "600 with full radiant exchange", options: { ...base("light"), run: { radiation: "full" } } },
  { id: "900 area", what: "900, beam by area", options: { ...base("heavy"), run: { beam: "area" } } },
];

/** A case as a project whose options are the other climates. */
export function boxCaseProject(c: BoxCase): Project {
  const first = boxProject({ ...c.options, name: `Test box, case ${c.id}` });
  const climates = Object.keys(boxClimates) as BoxClimateName[];
  return {
    ...first,
    id: `box_${c.id.replace(/\W/g, "_")}`,
    note: `${c.what}. A test bed, not a building; its weather is invented.`,
    options: Object.fromEntries(
      climates.slice(1).map((name) => {
        const other = boxProject({ ...c.options, climate: name });
        return [
          name.replace(/ /g, "_"),
          {
            name,
            changes: [
              { id: "c1", op: "set" as const, path: ["site"], value: other.site, old: first.site },
              { id: "c2", op: "set" as const, path: ["weather"], value: other.weather, old: first.weather },
            ],
          },
        ];
      }),
    ),
  };
}

/** Figures of one case in one climate. */
export interface BoxResult {
  readonly heating: number;
  readonly cooling: number;
  readonly peakHeating: number;
  readonly peakCooling: number;
  readonly min: number;
  readonly mean: number;
  readonly max: number;
  readonly closure: number;
  readonly warnings: number;
}

/** A year of one case in one climate. */
export function boxResult(c: BoxCase, climate: BoxClimateName, stepsPerHour: number): BoxResult {
  const p = boxProject({ ...c.options, climate });
  const r = runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour }).summary;
  const z = r.zones.find((x) => x.id === "a") as (typeof r.zones)[number];
  return {
    heating: z.heating,
    cooling: z.cooling,
    peakHeating: z.peakHeating,
    peakCooling: z.peakCooling,
    ...z.temperature,
    closure: r.closure,
    // the boxes cool without drying: that their air is damp, or condenses, in damp climates is told and is no fault
    warnings: r.warnings.filter((w) => !/80 % humidity|above saturation/.test(w)).length,
  };
}

/** An expected order or sign between cases: what must exceed what. */
export interface Expectation {
  readonly why: string;
  readonly more: readonly [id: string, figure: keyof BoxResult];
  readonly less: readonly [id: string, figure: keyof BoxResult];
  /** Climates in which it holds; absent: all. */
  readonly only?: readonly BoxClimateName[];
}

const COLD = ["cold clear high"] as const;
/** What every climate must show, by the physics of each change. */
export const expectations: readonly Expectation[] = [
  { why: "an overhang keeps summer sun out", more: ["600", "cooling"], less: ["610", "cooling"] },
  { why: "an overhang takes some winter sun", more: ["610", "heating"], less: ["600", "heating"] },
  { why: "the same on heavy walls", more: ["900", "cooling"], less: ["910", "cooling"] },
  { why: "glass to east and west gets less winter sun", more: ["620", "heating"], less: ["600", "heating"], only: COLD },
  { why: "overhangs and fins shade east and west", more: ["620", "cooling"], less: ["630", "cooling"] },
  { why: "the same on heavy walls, east and west", more: ["920", "cooling"], less: ["930", "cooling"] },
  { why: "a setback saves heat", more: ["600", "heating"], less: ["640", "heating"] },
  { why: "a setback raises the morning peak", more: ["640", "peakHeating"], less: ["600", "peakHeating"] },
  { why: "night air spares cooling", more: ["600", "cooling"], less: ["650", "cooling"], only: ["cold clear high", "cool maritime"] },
  { why: "mass stores sun for the night", more: ["600", "heating"], less: ["900", "heating"] },
  { why: "mass spares cooling", more: ["600", "cooling"], less: ["900", "cooling"] },
  { why: "mass lowers the peak of cooling", more: ["600", "peakCooling"], less: ["900", "peakCooling"] },
  { why: "mass lowers the warmest free temperature", more: ["600FF", "max"], less: ["900FF", "max"] },
  { why: "mass raises the coldest free temperature", more: ["900FF", "min"], less: ["600FF", "min"] },
  { why: "fans by night cool a free room", more: ["900FF", "mean"], less: ["950FF", "mean"] },
  { why: "a sunspace before it takes the sun from the room", more: ["900", "cooling"], less: ["960", "cooling"] },
  { why: "air change needs heat", more: ["230", "heating"], less: ["220", "heating"] },
  { why: "gains spare heat", more: ["220", "heating"], less: ["240", "heating"] },
  { why: "a dark outside spares heat", more: ["220", "heating"], less: ["250", "heating"] },
  { why: "emitting less outside and inside spares heat", more: ["220", "heating"], less: ["195", "heating"] },
  { why: "pale inside lets sun out again", more: ["270", "cooling"], less: ["280", "cooling"] },
  { why: "an overhang, dark inside", more: ["270", "cooling"], less: ["290", "cooling"] },
  { why: "overhangs and fins to east and west, dark inside", more: ["300", "cooling"], less: ["310", "cooling"] },
  { why: "a band between set-points spares cooling", more: ["270", "cooling"], less: ["320", "cooling"] },
  { why: "air change over a band", more: ["410", "heating"], less: ["395", "heating"] },
  { why: "gains over a band", more: ["410", "heating"], less: ["420", "heating"] },
  { why: "pale inside, light", more: ["600", "cooling"], less: ["440", "cooling"] },
  { why: "pale inside, heavy", more: ["900", "cooling"], less: ["810", "cooling"] },
  {
    // the sun of the tropics stands too high for a south wall to face what brightens about it
    why: "an even sky sends less sun to the south",
    more: ["600", "cooling"],
    less: ["600 isotropic", "cooling"],
    only: ["cold clear high", "cool maritime"],
  },
  { why: "an even sky leaves more to heat", more: ["600 isotropic", "heating"], less: ["600", "heating"] },
  { why: "beam spread over walls and glass is lost again more than on the insulated floor", more: ["900", "cooling"], less: ["900 area", "cooling"] },
];
