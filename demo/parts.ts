import { applyChanges, FORMAT_VERSION, starterContext, type Change, type Project, type Schedule } from "../core/src/index.ts";

/** Generic building stuff both demos use: figures are typical, not any maker's. */
export const materials: Project["materials"] = {
  brick: {
    name: "Brick, outer leaf",
    kind: "masonry",
    vapourResistance: 12,
    conductivity: 0.77,
    density: 1700,
    specificHeat: 1000,
    solarAbsorptance: 0.65,
    emissivity: 0.9,
    roughness: "rough",
    source: "ISO 10456:2007, rounded",
  },
  mineral_wool: {
    name: "Mineral wool",
    kind: "insulation",
    vapourResistance: 1,
    conductivity: 0.035,
    density: 30,
    specificHeat: 1030,
    solarAbsorptance: 0.6,
    emissivity: 0.9,
    roughness: "medium rough",
    source: "ISO 10456:2007, rounded",
  },
  aerated_block: {
    name: "Aerated concrete block",
    kind: "masonry",
    vapourResistance: 8,
    conductivity: 0.18,
    density: 600,
    specificHeat: 1000,
    solarAbsorptance: 0.6,
    emissivity: 0.9,
    roughness: "medium rough",
    source: "ISO 10456:2007, rounded",
  },
  plaster: {
    name: "Gypsum plaster",
    kind: "finish",
    vapourResistance: 10,
    conductivity: 0.57,
    density: 1300,
    specificHeat: 1000,
    solarAbsorptance: 0.4,
    emissivity: 0.9,
    roughness: "smooth",
    source: "ISO 10456:2007, rounded",
  },
  concrete: {
    name: "Reinforced concrete",
    kind: "concrete",
    vapourResistance: 80,
    conductivity: 2.3,
    density: 2300,
    specificHeat: 1000,
    solarAbsorptance: 0.6,
    emissivity: 0.9,
    roughness: "medium rough",
    source: "ISO 10456:2007",
  },
  eps: {
    name: "Expanded polystyrene",
    kind: "insulation",
    vapourResistance: 60,
    conductivity: 0.036,
    density: 20,
    specificHeat: 1450,
    solarAbsorptance: 0.6,
    emissivity: 0.9,
    roughness: "medium rough",
    source: "ISO 10456:2007, rounded",
  },
  screed: {
    name: "Cement screed",
    kind: "concrete",
    vapourResistance: 60,
    conductivity: 1.35,
    density: 2000,
    specificHeat: 1000,
    solarAbsorptance: 0.6,
    emissivity: 0.9,
    roughness: "medium smooth",
    source: "ISO 10456:2007, rounded",
  },
  timber_floor: {
    name: "Oak boards",
    kind: "timber",
    vapourResistance: 200,
    conductivity: 0.18,
    density: 700,
    specificHeat: 1600,
    solarAbsorptance: 0.6,
    emissivity: 0.9,
    roughness: "smooth",
    source: "ISO 10456:2007",
  },
  membrane: {
    name: "Light roof membrane",
    kind: "membrane",
    vapourResistance: 20000,
    conductivity: 0.25,
    density: 1300,
    specificHeat: 1000,
    solarAbsorptance: 0.4,
    emissivity: 0.9,
    roughness: "smooth",
  },
  plasterboard: {
    name: "Plasterboard",
    kind: "board",
    vapourResistance: 10,
    conductivity: 0.21,
    density: 700,
    specificHeat: 1000,
    solarAbsorptance: 0.4,
    emissivity: 0.9,
    roughness: "smooth",
    source: "ISO 10456:2007, rounded",
  },
  softwood: {
    name: "Softwood",
    kind: "timber",
    vapourResistance: 50,
    conductivity: 0.13,
    density: 500,
    specificHeat: 1600,
    solarAbsorptance: 0.7,
    emissivity: 0.9,
    roughness: "medium smooth",
    source: "ISO 10456:2007",
  },
  acoustic: {
    name: "Mineral acoustic tile",
    kind: "board",
    vapourResistance: 5,
    conductivity: 0.06,
    density: 300,
    specificHeat: 1000,
    solarAbsorptance: 0.3,
    emissivity: 0.9,
    roughness: "medium rough",
  },
};

export const assemblies: Project["assemblies"] = {
  wall_brick: {
    name: "Brick cavity wall",
    use: "exterior wall",
    layers: [
      { kind: "solid", id: "outer", material: "brick", thickness: 0.102 },
      { kind: "solid", id: "insulation", material: "mineral_wool", thickness: 0.12 },
      { kind: "solid", id: "block", material: "aerated_block", thickness: 0.1 },
      { kind: "solid", id: "plaster", material: "plaster", thickness: 0.013 },
    ],
  },
  roof_warm: {
    name: "Warm flat roof",
    use: "roof",
    layers: [
      { kind: "solid", id: "membrane", material: "membrane", thickness: 0.005 },
      { kind: "solid", id: "insulation", material: "eps", thickness: 0.18 },
      { kind: "solid", id: "slab", material: "concrete", thickness: 0.18 },
      { kind: "resistance", id: "void", name: "Ceiling void", resistance: 0.16 },
      { kind: "solid", id: "tile", material: "acoustic", thickness: 0.02 },
    ],
  },
  circuit_slab: {
    name: "Ground slab with floor circuit",
    use: "ground floor",
    layers: [
      { kind: "solid", id: "insulation", material: "eps", thickness: 0.12 },
      { kind: "solid", id: "slab", material: "concrete", thickness: 0.15 },
      { kind: "circuit", id: "circuit", name: "Floor circuit" },
      { kind: "solid", id: "screed", material: "screed", thickness: 0.065 },
    ],
  },
  ground_slab: {
    name: "Insulated ground slab",
    use: "ground floor",
    layers: [
      { kind: "solid", id: "insulation", material: "eps", thickness: 0.1 },
      { kind: "solid", id: "slab", material: "concrete", thickness: 0.15 },
      { kind: "solid", id: "screed", material: "screed", thickness: 0.065 },
    ],
  },
  floor_exposed: {
    name: "Exposed floor",
    use: "exposed floor",
    layers: [
      { kind: "solid", id: "insulation", material: "mineral_wool", thickness: 0.16 },
      { kind: "solid", id: "slab", material: "concrete", thickness: 0.2 },
      { kind: "solid", id: "finish", material: "timber_floor", thickness: 0.02 },
    ],
  },
  partition: {
    name: "Stud partition",
    use: "interior wall",
    layers: [
      { kind: "solid", id: "board_a", material: "plasterboard", thickness: 0.025 },
      { kind: "solid", id: "quilt", material: "mineral_wool", thickness: 0.05 },
      { kind: "solid", id: "board_b", material: "plasterboard", thickness: 0.025 },
    ],
  },
  floor_between: {
    name: "Floor between storeys",
    use: "interior floor",
    layers: [
      { kind: "solid", id: "tile", material: "acoustic", thickness: 0.02 },
      { kind: "resistance", id: "void", name: "Ceiling void", resistance: 0.18 },
      { kind: "solid", id: "slab", material: "concrete", thickness: 0.2 },
      { kind: "solid", id: "finish", material: "timber_floor", thickness: 0.02 },
    ],
  },
  door_solid: {
    name: "Insulated door",
    use: "door",
    layers: [
      { kind: "solid", id: "skin", material: "softwood", thickness: 0.02 },
      { kind: "solid", id: "core", material: "mineral_wool", thickness: 0.03 },
      { kind: "solid", id: "inner", material: "softwood", thickness: 0.02 },
    ],
  },
};

/** A pane: thickness, solar transmittance, reflectances outside and inside, visible transmittance, emissivities outside and inside. */
const pane = (
  id: string,
  name: string,
  thickness: number,
  t: number,
  out: number,
  inside: number,
  light: number,
  emissivityOut: number,
  emissivityIn: number,
) => ({
  id,
  name,
  thickness,
  conductivity: 1,
  solarTransmittance: t,
  solarReflectanceOut: out,
  solarReflectanceIn: inside,
  visibleTransmittance: light,
  visibleReflectance: 0.07,
  emissivityOut,
  emissivityIn,
});

export const glazings: Project["glazings"] = {
  double_low_e: {
    kind: "rated",
    name: "Double, low emissivity",
    u: 1.6,
    g: 0.52,
    visibleTransmittance: 0.7,
    frameShare: 0.18,
    ratedFilms: { inside: 7.7, outside: 25 },
    blind: null,
    source: "typical, unverified",
  },
  double_clear: {
    kind: "rated",
    name: "Double, clear",
    u: 2.8,
    g: 0.72,
    visibleTransmittance: 0.78,
    frameShare: 0.18,
    ratedFilms: { inside: 7.7, outside: 25 },
    blind: null,
    source: "typical, unverified",
  },
  south_panes: {
    kind: "panes",
    name: "Double by panes, with louvre blind",
    panes: [
      pane("outer", "Clear float, 6 mm", 0.006, 0.8, 0.07, 0.07, 0.89, 0.84, 0.84),
      pane("inner", "Coated float, 4 mm", 0.004, 0.6, 0.24, 0.2, 0.87, 0.05, 0.84),
    ],
    gaps: [{ id: "gap", fill: "argon", width: 0.016 }],
    frameShare: 0.18,
    frame: { u: 1.8, absorptance: 0.5 },
    edge: 0.05,
    ratedFilms: { inside: 7.7, outside: 25 },
    blind: { position: "outside", solarTransmittance: 0.12, solarReflectance: 0.5, visibleTransmittance: 0.1, control: { kind: "temperature", above: 23 } },
    source: "typical, unverified",
  },
  triple: {
    kind: "rated",
    name: "Triple, low emissivity",
    u: 0.9,
    g: 0.46,
    visibleTransmittance: 0.65,
    frameShare: 0.2,
    ratedFilms: { inside: 7.7, outside: 25 },
    blind: null,
    source: "typical, unverified",
  },
};

export const kits: Project["kits"] = {
  standard: {
    name: "Standard envelope",
    exteriorWall: "wall_brick",
    roof: "roof_warm",
    groundFloor: "ground_slab",
    exposedFloor: "floor_exposed",
    interiorWall: "partition",
    interiorFloor: "floor_between",
    glazing: "double_low_e",
    skylight: "double_low_e",
    door: "door_solid",
  },
};

/** A schedule of shares from ranges "from–to: value" for weekdays, Saturday and Sunday (also holidays). */
export function week(
  name: string,
  weekday: readonly (readonly [number, number, number])[],
  saturday: readonly (readonly [number, number, number])[],
  sunday: readonly (readonly [number, number, number])[],
  base = 0,
): Schedule {
  const profile = (label: string, ranges: readonly (readonly [number, number, number])[]) => ({
    name: label,
    values: Array.from({ length: 24 }, (_, h) => ranges.reduce((v, [from, to, value]) => (h >= from && h < to ? value : v), base)),
  });
  return {
    name,
    kind: "fraction",
    profiles: { weekday: profile("Weekday", weekday), saturday: profile("Saturday", saturday), sunday: profile("Sunday and holidays", sunday) },
    weeks: [{ id: "year", from: [1, 1], to: [12, 31], days: ["weekday", "weekday", "weekday", "weekday", "weekday", "saturday", "sunday", "sunday"] }],
  };
}

export const site: Project["site"] = { ...starterContext.site, planNorth: 12 };

export const common = {
  formatVersion: FORMAT_VERSION,
  ...starterContext,
  materials,
  assemblies,
  glazings,
  kits,
  surroundings: {},
  airExchanges: {},
  sensors: {},
  roofs: {},
  faceOverrides: {},
  options: {},
  evidence: {},
};

/** A rectangular space with edges south, east, north, west. */
export function room(
  name: string,
  storey: string,
  zone: string,
  spaceType: string,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  extra: { height?: number; inputs?: Project["spaces"][string]["inputs"] } = {},
): Project["spaces"][string] {
  return {
    name,
    storey,
    zone,
    spaceType,
    kit: null,
    form: {
      kind: "prism",
      outline: [
        { id: "s", x: x0, y: y0 },
        { id: "e", x: x1, y: y0 },
        { id: "n", x: x1, y: y1 },
        { id: "w", x: x0, y: y1 },
      ],
      floor: "floor",
      ceiling: "ceiling",
      ...(extra.height ? { height: extra.height } : {}),
    },
    inputs: extra.inputs ?? {},
  };
}

/** A project with changes made in it. @throws RangeError where they do not fit */
export function applied(project: Project, changes: readonly Change[]): Project {
  const made = applyChanges(project, changes);
  if (!made.ok) throw new RangeError(made.message);
  return made.project;
}
