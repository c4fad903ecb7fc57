import { describe, expect, it } from "vitest";
import type { Assembly, Material } from "../model/index.ts";
import {
  airLayerResistance,
  assemblyLayers,
  assemblyMass,
  assemblyU,
  bridgedResistance,
  layersResistance,
  thicknessForResistance,
  thicknessForTarget,
} from "./index.ts";

const material = (name: string, conductivity: number, density = 500, specificHeat = 1000): Material => ({
  name,
  conductivity,
  density,
  specificHeat,
  solarAbsorptance: 0.6,
  emissivity: 0.9,
  roughness: "rough",
});
const materials = {
  brick: material("Brick", 0.77, 1700),
  aac: material("Aerated block", 0.11),
  mortar: material("Mortar", 0.88, 1750),
  wool: material("Mineral wool", 0.038, 20, 1030),
  timber: material("Timber", 0.13, 500, 1600),
  board: material("Plasterboard", 0.25, 900),
};
const wall = (layers: Assembly["layers"]): Assembly => ({ name: "Wall", use: "exterior wall", layers });

describe("bridged layers", () => {
  // Worked example for the combined method of ISO 6946 in B. Anderson, Conventions for U-value calculations (BR 443, 2006):
  // brick, cavity 0.18, block with mortar joints 6.7 %, wool between battens 12 %, plasterboard. R between 3.38 and 2.97, U 0.32.
  const example = wall([
    { kind: "solid", id: "brick", material: "brick", thickness: 0.102 },
    { kind: "resistance", id: "cavity", name: "Cavity", resistance: 0.18 },
    { kind: "solid", id: "block", material: "aac", thickness: 0.1, bridge: { material: "mortar", share: 0.067 } },
    { kind: "solid", id: "wool", material: "wool", thickness: 0.089, bridge: { material: "timber", share: 0.12 } },
    { kind: "solid", id: "board", material: "board", thickness: 0.0125 },
  ]);
  it("have the limits and the U of the published example", () => {
    const r = bridgedResistance({ materials }, example);
    expect(r?.upper).toBeCloseTo(3.38, 2);
    expect(r?.lower).toBeCloseTo(2.97, 2);
    expect(assemblyU({ materials }, example)).toBeCloseTo(0.315, 3);
  });
  it("give the year the same resistance and the mass of both materials", () => {
    const layers = assemblyLayers({ materials }, example);
    expect(0.17 + layersResistance(layers)).toBeCloseTo((3.382 + 2.966) / 2, 2);
    // by hand: 0.102·1700 + 0.1·(0.933·500 + 0.067·1750) + 0.089·(0.88·20 + 0.12·500) + 0.0125·900
    expect(assemblyMass({ materials }, example).mass).toBeCloseTo(173.4 + 58.375 + 6.9064 + 11.25, 6);
    // what is not bridged keeps its own resistance
    expect(layers[0].resistance).toBeCloseTo(0.102 / 0.77, 12);
  });
  it("of the same material are no bridge at all", () => {
    const plain = wall([{ kind: "solid", id: "a", material: "wool", thickness: 0.1 }]);
    const self = wall([{ kind: "solid", id: "a", material: "wool", thickness: 0.1, bridge: { material: "wool", share: 0.3 } }]);
    expect(assemblyU({ materials }, self)).toBeCloseTo(assemblyU({ materials }, plain), 12);
  });
  it("cost more the more of them there is", () => {
    const us = [0.02, 0.05, 0.1, 0.2, 0.4].map((share) =>
      assemblyU({ materials }, wall([{ kind: "solid", id: "a", material: "wool", thickness: 0.2, bridge: { material: "timber", share } }])),
    );
    expect([...us].sort((a, b) => a - b)).toEqual(us);
    expect(us[0]).toBeGreaterThan(1 / (0.17 + 0.2 / 0.038));
  });
});

describe("an assembly known by its U and a class of mass", () => {
  it("transmits that U and holds the heat of its class, wherever the mass lies", () => {
    for (const at of ["inside", "outside", "spread"] as const)
      for (const mass of ["very light", "medium", "very heavy"] as const) {
        const a: Assembly = { name: "Wall", use: "exterior wall", layers: [], rated: { u: 0.3, mass, at } };
        expect(assemblyU({ materials }, a)).toBeCloseTo(0.3, 12);
        expect(assemblyMass({ materials }, a).capacity).toBeCloseTo({ "very light": 50000, medium: 110000, "very heavy": 250000 }[mass], 6);
      }
  });
  it("whose surfaces alone resist more than its U is refused", () => {
    expect(() => assemblyLayers({ materials }, { name: "Wall", use: "exterior wall", layers: [], rated: { u: 5.99, mass: "light", at: "spread" } })).toThrow(
      "surfaces",
    );
    expect(() =>
      assemblyLayers({ materials }, { name: "Wall", use: "exterior wall", layers: [], rated: { u: 5.5, mass: "very heavy", at: "inside" } }),
    ).toThrow("lighter class");
  });
});

describe("thickness for a target", () => {
  it("is λ·(1/U − the rest) for any layer of the wall", () => {
    const a = wall([
      { kind: "solid", id: "brick", material: "brick", thickness: 0.102 },
      { kind: "solid", id: "wool", material: "wool", thickness: 0.05 },
      { kind: "resistance", id: "cavity", name: "Cavity", resistance: 0.18 },
      { kind: "solid", id: "aac", material: "aac", thickness: 0.1 },
      { kind: "solid", id: "board", material: "board", thickness: 0.0125 },
    ]);
    const r: Record<string, number> = { brick: 0.102 / 0.77, wool: 0.05 / 0.038, aac: 0.1 / 0.11, board: 0.0125 / 0.25 };
    for (const [layer, conductivity] of [
      ["brick", 0.77],
      ["wool", 0.038],
      ["aac", 0.11],
      ["board", 0.25],
    ] as const) {
      const rest = 0.17 + 0.18 + Object.entries(r).reduce((s, [k, v]) => s + (k === layer ? 0 : v), 0);
      const u = 1 / (rest + 0.9);
      const found = thicknessForTarget({ materials }, a, layer, u);
      expect(found.ok && found.thickness).toBeCloseTo(conductivity * 0.9, 9);
    }
  });
  it("meets the U with bridges in the same layer and in others", () => {
    for (const bridged of ["wool", "aac"]) {
      const a = wall([
        { kind: "solid", id: "aac", material: "aac", thickness: 0.1, ...(bridged === "aac" ? { bridge: { material: "mortar", share: 0.06 } } : {}) },
        { kind: "solid", id: "wool", material: "wool", thickness: 0.05, ...(bridged === "wool" ? { bridge: { material: "timber", share: 0.15 } } : {}) },
      ]);
      const found = thicknessForTarget({ materials }, a, "wool", 0.25);
      if (!found.ok) throw new Error(found.message);
      const met = { ...a, layers: a.layers.map((l) => (l.kind === "solid" && l.id === "wool" ? { ...l, thickness: found.thickness } : l)) };
      expect(assemblyU({ materials }, met)).toBeCloseTo(0.25, 9);
    }
  });
  it("that cannot be met is told with what can", () => {
    const a = wall([{ kind: "solid", id: "wool", material: "wool", thickness: 0.1 }]);
    expect(thicknessForTarget({ materials }, a, "wool", 7)).toMatchObject({ ok: false });
    const never = thicknessForTarget({ materials }, a, "wool", 0.003);
    expect(!never.ok && never.message).toContain("no less than U 0.004");
    expect(thicknessForTarget({ materials }, a, "gone", 0.3)).toMatchObject({ ok: false });
  });
  it("of one layer alone is λ·R", () => {
    const a = wall([{ kind: "solid", id: "wool", material: "wool", thickness: 0.1 }]);
    const found = thicknessForResistance({ materials }, a, "wool", 4);
    expect(found.ok && found.thickness).toBeCloseTo(0.152, 12);
  });
});

describe("still air layers", () => {
  it("resist as ISO 6946 tabulates, more where heat flows down", () => {
    expect(airLayerResistance(0.05, "up")).toBe(0.16);
    expect(airLayerResistance(0.05, "horizontal")).toBe(0.18);
    expect(airLayerResistance(0.05, "down")).toBe(0.21);
    expect(airLayerResistance(0.02, "horizontal")).toBeCloseTo(0.175, 12);
    expect(airLayerResistance(0.3, "down")).toBe(0.23);
    expect(airLayerResistance(0, "up")).toBe(0);
  });
});
