import { envelopeZone, fanSettings, fromMemory, usesOf } from "./made.ts";
import type { Pack, PackSetting } from "../model/index.ts";
import { prescriptivePack } from "./prescriptive.ts";

const zone = (...figures: Parameters<typeof envelopeZone>[0]) => envelopeZone(figures, { opaque: "G3.1.5", glazing: "G3.1.5.2" });
const fans = (kind: "single" | "variable"): PackSetting[] =>
  kind === "single" ? fanSettings("constant_fan_power", "G3.1.2.9") : fanSettings("variable_fan_power", "G3.1.2.9", 0.35);
const supplyAir: PackSetting = { of: "airSystem", field: "supplyTemperature", value: 13, clause: "G3.1.2.8" };
const noEconomizer: PackSetting = { of: "mixing", field: "economizer", value: "none", when: "climate_zone < 3", clause: "G3.1.2.6" };
const coolingCop: PackSetting = { of: "coolingCoil", field: "cop", value: "if(capacity < 19 kW, 3, if(capacity < 40 kW, 3.1, 2.9))", clause: "G3.1.2.1" };

/**
 * A performance rating after ASHRAE 90.1-2019, Appendix G: by cost, averaged over four orientations, against a target by building
 * performance factors. The structure is that of the appendix, for a few uses; every figure is from memory and marked to be checked.
 */
export const appendixGPack: Pack = {
  ...prescriptivePack,
  id: "appendix_g",
  name: "Performance rating after ASHRAE 90.1, Appendix G",
  edition: "after the 2019 edition, a few uses",
  about: "Performance rating by cost for a few uses. Every figure is from memory and to be checked against the standard before it is relied on.",
  clauses: {
    ...prescriptivePack.clauses,
    "G3.1.5": "Opaque assemblies of the baseline meet the table of the appendix.",
    "G3.1.5.2": "Fenestration of the baseline: no more than 40 % of the wall, at the U and solar gain of the table.",
    "G3.1.5.3": "The baseline has no shading devices and is averaged over four orientations.",
    "G3.1.6": "Lighting of the baseline has the power of the table for the space.",
    "G3.1.1": "The system of the baseline follows use, storeys, floor area and climate zone.",
    "G3.1.2.1": "Equipment of the baseline has the efficiencies of the tables.",
    "G3.1.2.2": "Equipment of the baseline is sized with 15 % for cooling and 25 % for heating beyond its loads.",
    "G3.1.2.6": "Economizers of the baseline by climate zone.",
    "G3.1.2.8": "Supply air of the baseline is 11 K colder than the room.",
    "G3.1.2.9": "Fan power of the baseline by its system.",
    "4.2.1.1": "The performance cost index is at most its target, made of the share of unregulated cost and the building performance factor.",
    "G3.1.2.3": "Neither building has more than 300 hours unmet.",
  },
  climateZones: {
    "2": zone(0.7, 0.36, 1.2, 0.6, 6.93, 0.25),
    "3": zone(0.7, 0.36, 1.2, 0.3, 3.24, 0.25),
    "4": zone(0.7, 0.36, 1.2, 0.3, 3.24, 0.39),
    "5": zone(0.48, 0.36, 1.2, 0.3, 3.24, 0.39),
    "6": zone(0.48, 0.36, 1, 0.22, 3.24, 0.39),
    "7": zone(0.36, 0.36, 0.9, 0.22, 3.24, 0.49),
  },
  windowShare: fromMemory(0.4, "1", "G3.1.5.2"),
  values: {
    ...prescriptivePack.values,
    constant_fan_power: { label: "fan power of a constant system", unit: "W per m³/s", clause: "G3.1.2.9", unverified: true, value: 1651 },
    variable_fan_power: { label: "fan power of a variable system", unit: "W per m³/s", clause: "G3.1.2.9", unverified: true, value: 2283 },
    performance_factor: {
      label: "building performance factor",
      unit: "1",
      clause: "4.2.1.1",
      unverified: true,
      byZone: { "2": 0.53, "3": 0.55, "4": 0.56, "5": 0.58, "6": 0.58, "7": 0.59 },
    },
  },
  uses: usesOf([15.1, 12.9, 18.3, 10.8, 14, 15.1, 20.5, 18.3, 11.5, 5.4], { lighting: "G3.1.6", equipment: "G3.1.6", air: "62.1" }),
  reference: {
    shading: { clause: "G3.1.5.3" },
    airChanges: null,
    equipment: "as designed",
    systems: [
      {
        id: "residential",
        name: "Split heat pump or unit for each room, residential",
        clause: "G3.1.1",
        when: "residential = 1",
        arrangement: "split units",
        plant: "heat pump and chiller",
        per: "building",
        set: fans("single"),
        unverified: true,
      },
      {
        id: "single_zone",
        name: "Single-zone unit, gas heat and direct expansion",
        clause: "G3.1.1",
        when: "area < 2300 m² and storeys <= 3",
        arrangement: "single",
        plant: "boiler and chiller",
        per: "zone",
        set: [{ of: "heatingCoil", field: "efficiency", value: 0.8, clause: "G3.1.2.1" }, coolingCop, noEconomizer, ...fans("single")],
        unverified: true,
      },
      {
        id: "direct_expansion",
        name: "Variable air volume, direct expansion",
        clause: "G3.1.1",
        when: "area < 14000 m² and storeys <= 5",
        arrangement: "variable refrigerant",
        plant: "boiler and chiller",
        per: "storey",
        set: [{ of: "heatingCoil", field: "efficiency", value: 0.8, clause: "G3.1.2.1" }, coolingCop, supplyAir, noEconomizer, ...fans("variable")],
        unverified: true,
      },
      {
        id: "chilled_water",
        name: "Variable air volume with reheat, boiler and chiller",
        clause: "G3.1.1",
        arrangement: "variable",
        plant: "boiler and chiller",
        per: "storey",
        set: [
          { of: "boiler", field: "efficiency", value: 0.8, clause: "G3.1.2.1" },
          { of: "chiller", field: "cop", value: "if(capacity < 528 kW, 2.8, 3)", clause: "G3.1.2.1" },
          supplyAir,
          noEconomizer,
          ...fans("variable"),
        ],
        unverified: true,
      },
    ],
    sizing: { heating: fromMemory(1.25, "1", "G3.1.2.2"), cooling: fromMemory(1.15, "1", "G3.1.2.2") },
    orientations: { turns: [0, 90, 180, 270], clause: "G3.1.5.3" },
  },
  performance: {
    measure: "cost",
    clause: "4.2.1.1",
    target: "100 * (unregulated_share + performance_factor * (1 - unregulated_share))",
    unmet: { most: fromMemory(300, "h", "G3.1.2.3"), apart: fromMemory(50, "h", "G3.1.2.3") },
    rating: {
      kind: "points",
      steps: [5, 10, 15, 20, 25, 30, 35, 40]
        .map((less, i) => ({ upTo: { value: 100 - less, unit: "1", clause: "4.2.1.1", unverified: true }, points: 2 * (i + 1) }))
        .reverse(),
    },
  },
};
