import { describe, expect, it } from "vitest";
import type { Assembly, Material } from "../model/index.ts";
import {
  condensation,
  dewPointByIso,
  factorNeeded,
  saturationByIso,
  stations,
  temperatureFactor,
  throughSection,
  vapourExcess,
  type MoistureClimate,
} from "./index.ts";

const material = (name: string, conductivity: number, vapourResistance?: number): Material => ({
  name,
  conductivity,
  density: 500,
  specificHeat: 1000,
  solarAbsorptance: 0.6,
  emissivity: 0.9,
  roughness: "rough",
  ...(vapourResistance === undefined ? {} : { vapourResistance }),
});
const materials = {
  wool: material("Mineral wool", 0.04, 1),
  osb: material("Sheathing", 0.13, 100),
  foil: material("Vapour barrier", 0.3, 100000),
  board: material("Plasterboard", 0.2, 10),
  unknown: material("Unknown board", 0.2),
};
const wall = (...layers: [string, number][]): Assembly => ({
  name: "Wall",
  use: "exterior wall",
  layers: layers.map(([m, thickness], i) => ({ kind: "solid" as const, id: `l${i}`, material: m, thickness })),
});
const placesOf = (a: Assembly) => {
  const s = stations({ materials }, a);
  if (!s.ok) throw new Error(s.message);
  return s.list;
};
/** Six months of 0 °C and 80 %, six of 18 °C and 60 %. */
const climate: MoistureClimate = {
  outdoors: Array.from({ length: 12 }, (_, m) => (m < 3 || m > 8 ? 0 : 18)),
  humidity: Array.from({ length: 12 }, (_, m) => (m < 3 || m > 8 ? 0.8 : 0.6)),
  indoors: 20,
  kind: "3, dwellings",
};

describe("saturation", () => {
  it("has the pressures of ISO 13788 and is undone by the dew point", () => {
    expect(saturationByIso(0)).toBeCloseTo(610.5, 6);
    expect(saturationByIso(20)).toBeCloseTo(2337, -1);
    expect(saturationByIso(-10)).toBeCloseTo(260, -1);
    for (const t of [-15, -0.5, 0, 4, 21]) expect(dewPointByIso(saturationByIso(t))).toBeCloseTo(t, 9);
  });
  it("of rooms exceeds outdoors by their class, by nothing at 20 °C", () => {
    expect(vapourExcess("3, dwellings", -5)).toBe(810);
    expect(vapourExcess("3, dwellings", 10)).toBe(405);
    expect(vapourExcess("5, pools, laundries", 24)).toBe(0);
  });
});

describe("interstitial condensation", () => {
  // wool 200 mm behind sheathing 12 mm, plasterboard inside, no barrier: all condenses at the inner side of the sheathing
  const open = wall(["osb", 0.012], ["wool", 0.2], ["board", 0.0125]);
  it("of one plane is what arrives less what leaves, worked by hand", () => {
    const found = condensation(placesOf(open), 0.13, climate);
    // R to the plane: 0.04 + 0.012/0.13 = 0.1323; of all: 0.1323 + 5 + 0.0625 + 0.13 = 5.3248; plane at 20·0.1323/5.3248 = 0.497 °C: 633 Pa
    const plane = (20 * (0.04 + 0.012 / 0.13)) / (0.04 + 0.012 / 0.13 + 5 + 0.0625 + 0.13);
    expect(plane).toBeCloseTo(0.497, 3);
    // outdoors 0.8·610.5 = 488.4 Pa, indoors 488.4 + 810 = 1298.4 Pa; sd outside 1.2 m, inside 0.2 + 0.125 = 0.325 m
    const rate = 2e-10 * ((1298.4 - 633) / 0.325 - (633 - 488.4) / 1.2);
    const october = found.months[0];
    expect(october.month).toBe(9);
    expect(october.change / (rate * 31 * 86400)).toBeCloseTo(1, 2);
    expect(found.depths).toEqual([expect.closeTo(0.012, 9)]);
    // six months of it: about 6 kg; the summer could take 9 kg: 2e-10·((2063 − 1319)/0.325 + (2063 − 1238)/1.2)·184 d
    expect(found.most).toBeCloseTo(
      found.months.slice(0, 6).reduce((s, m) => s + m.change, 0),
      9,
    );
    expect(found.most).toBeGreaterThan(5);
    expect(found.dries).toBe(true);
  });
  it("that has no summer to dry in is told as that", () => {
    const cold = { ...climate, outdoors: climate.outdoors.map(() => 2), humidity: climate.humidity.map(() => 0.8) };
    const found = condensation(placesOf(open), 0.13, cold);
    expect(found.dries).toBe(false);
    expect(found.months).toHaveLength(12);
    expect(found.months[11].held).toBe(found.most);
  });
  it("does not happen behind a vapour barrier on the warm side", () => {
    const found = condensation(placesOf(wall(["osb", 0.012], ["wool", 0.2], ["foil", 0.0002], ["board", 0.0125])), 0.13, climate);
    expect(found.months).toEqual([]);
    expect(found.dries).toBe(true);
  });
  it("that is little dries in summer, and what is held never falls below nothing", () => {
    const found = condensation(placesOf(wall(["osb", 0.012], ["wool", 0.2], ["foil", 0.000013], ["board", 0.0125])), 0.13, climate);
    expect(found.most).toBeGreaterThan(0);
    expect(found.dries).toBe(true);
    for (const m of found.months) expect(m.held).toBeGreaterThanOrEqual(0);
    expect(found.months.reduce((s, m) => s + m.change, 0)).toBeCloseTo(0, 12);
  });
  it("asks for a vapour resistance that is not stated instead of taking one", () => {
    const s = stations({ materials }, wall(["unknown", 0.02]));
    expect(!s.ok && s.message).toContain("Unknown board states no vapour resistance");
  });
});

describe("mould", () => {
  it("is judged by 1 − U·0.25 at the inside surface", () => {
    // R = 0.04 + 0.1/0.04 = 2.54: factor 2.54 / 2.79
    expect(temperatureFactor({ materials }, wall(["wool", 0.1]))).toBeCloseTo(2.54 / 2.79, 12);
  });
  it("asks for more where rooms are more humid, by its coldest months", () => {
    const dry = factorNeeded({ ...climate, kind: "2, offices" });
    const wet = factorNeeded({ ...climate, kind: "5, pools, laundries" });
    expect(dry && wet && wet.factor > dry.factor).toBe(true);
    expect(dry && climate.outdoors[dry.month]).toBe(0);
    // by hand: 0.8·610.5 + 540 = 1028.4 Pa, over 0.8 = 1285.5 Pa saturates at 10.7 °C: factor 10.7 / 20
    expect(dry?.factor).toBeCloseTo(10.7 / 20, 2);
  });
});

describe("the section", () => {
  it("runs from outdoor to indoor state, temperatures by resistance", () => {
    const list = placesOf(wall(["osb", 0.012], ["wool", 0.2], ["board", 0.0125]));
    const line = throughSection(list, 0.13, { outdoors: -10, indoors: 20, outdoorPressure: 200, indoorPressure: 1000 });
    expect(line[0].temperature).toBeCloseTo(-10 + (30 * 0.04) / 5.3248, 3);
    expect(line[line.length - 1].temperature).toBeCloseTo(20 - (30 * 0.13) / 5.3248, 3);
    expect(line[0].dewPoint).toBeCloseTo(dewPointByIso(200), 9);
    expect(line.every((p, i) => i === 0 || p.temperature >= line[i - 1].temperature)).toBe(true);
  });
});
