import { DEFAULT_GROUND, DEFAULT_RUN, DEFAULT_SHELTER, type Assembly, type Glazing, type Material, type Project, type Services } from "../model/index.ts";
import { shippedClimates, typeOfUse, type StarterUse } from "../library/index.ts";

/** Levels of fabric a massing starts from. */
export const fabricLevels = ["existing", "code", "better"] as const;
export type FabricLevel = (typeof fabricLevels)[number];
const material = (
  kind: Material["kind"],
  vapourResistance: number,
  name: string,
  conductivity: number,
  density: number,
  specificHeat: number,
  solarAbsorptance = 0.6,
  roughness: Material["roughness"] = "medium rough",
): Material => ({
  name,
  kind,
  vapourResistance,
  conductivity,
  density,
  specificHeat,
  solarAbsorptance,
  emissivity: 0.9,
  roughness,
  source: "ISO 10456:2007, rounded",
});

export const starterMaterials: Project["materials"] = {
  brick: material("masonry", 12, "Brick, outer leaf", 0.77, 1700, 1000, 0.65, "rough"),
  insulation: material("insulation", 1, "Mineral wool", 0.035, 30, 1030),
  block: material("masonry", 8, "Aerated concrete block", 0.18, 600, 1000),
  plaster: material("finish", 10, "Gypsum plaster", 0.57, 1300, 1000, 0.4, "smooth"),
  concrete: material("concrete", 80, "Reinforced concrete", 2.3, 2300, 1000),
  foam: material("insulation", 60, "Expanded polystyrene", 0.036, 20, 1450),
  screed: material("concrete", 60, "Cement screed", 1.35, 2000, 1000, 0.6, "medium smooth"),
  membrane: material("membrane", 20000, "Roof membrane", 0.25, 1300, 1000, 0.6, "smooth"),
  board: material("board", 10, "Plasterboard", 0.21, 700, 1000, 0.4, "smooth"),
  wood: material("timber", 50, "Softwood", 0.13, 500, 1600, 0.7, "medium smooth"),
};

/** Insulation, m, glazing and infiltration, 1/h, by level: typical, unverified. */
const LEVELS: Record<FabricLevel, { wall: number; roof: number; floor: number; glazing: Glazing; infiltration: number }> = {
  existing: { wall: 0.04, roof: 0.06, floor: 0.03, infiltration: 0.6, glazing: glass("Double, clear", 2.8, 0.72) },
  code: { wall: 0.12, roof: 0.18, floor: 0.1, infiltration: 0.3, glazing: glass("Double, low emissivity", 1.5, 0.5) },
  better: { wall: 0.2, roof: 0.3, floor: 0.18, infiltration: 0.12, glazing: glass("Triple, low emissivity", 0.85, 0.46) },
};

function glass(name: string, u: number, g: number): Glazing {
  return {
    kind: "rated",
    name,
    u,
    g,
    visibleTransmittance: Math.min(0.8, g + 0.2),
    frameShare: 0.2,
    ratedFilms: { inside: 7.7, outside: 25 },
    blind: null,
    source: "typical, unverified",
  };
}

const solid = (id: string, name: string, thickness: number): Assembly["layers"][number] => ({ kind: "solid", id, material: name, thickness });

/** Assemblies, glazing and envelope kit of a level. */
export function starterFabric(level: FabricLevel): Pick<Project, "materials" | "assemblies" | "glazings" | "kits"> & { readonly infiltration: number } {
  const l = LEVELS[level];
  return {
    infiltration: l.infiltration,
    materials: starterMaterials,
    assemblies: {
      wall: {
        name: "Cavity wall",
        use: "exterior wall",
        layers: [solid("outer", "brick", 0.102), solid("insulation", "insulation", l.wall), solid("block", "block", 0.1), solid("plaster", "plaster", 0.013)],
      },
      roof: {
        name: "Flat roof",
        use: "roof",
        layers: [solid("membrane", "membrane", 0.005), solid("insulation", "foam", l.roof), solid("slab", "concrete", 0.2)],
      },
      ground: {
        name: "Ground slab",
        use: "ground floor",
        layers: [solid("insulation", "foam", l.floor), solid("slab", "concrete", 0.15), solid("screed", "screed", 0.065)],
      },
      exposed: {
        name: "Exposed floor",
        use: "exposed floor",
        layers: [solid("insulation", "insulation", l.roof), solid("slab", "concrete", 0.2), solid("screed", "screed", 0.05)],
      },
      partition: {
        name: "Stud partition",
        use: "interior wall",
        layers: [solid("a", "board", 0.025), solid("quilt", "insulation", 0.05), solid("b", "board", 0.025)],
      },
      between: { name: "Floor between storeys", use: "interior floor", layers: [solid("slab", "concrete", 0.2), solid("screed", "screed", 0.05)] },
      door: { name: "Door", use: "door", layers: [solid("skin", "wood", 0.02), solid("core", "insulation", 0.03), solid("inner", "wood", 0.02)] },
    },
    glazings: { glazing: l.glazing },
    kits: {
      envelope: {
        name: `Envelope, ${level}`,
        exteriorWall: "wall",
        roof: "roof",
        groundFloor: "ground",
        exposedFloor: "exposed",
        interiorWall: "partition",
        interiorFloor: "between",
        glazing: "glazing",
        skylight: "glazing",
        door: "door",
      },
    },
  };
}

/** Space types (one for perimeter and core alike) and schedules of a use. */
export function starterUse(use: StarterUse, infiltration: number): Pick<Project, "spaceTypes" | "schedules"> {
  const { type, schedules } = typeOfUse(use, { open: "open", people: "people", lights: "lights", devices: "devices" });
  return { schedules, spaceTypes: { main: { ...type, inputs: { ...type.inputs, infiltration } } } };
}

export const starterServices: Services = {
  name: "Boiler and chiller",
  heating: { fuel: "gas", efficiency: 0.9 },
  cooling: { fuel: "electricity", efficiency: 3 },
  fanPower: 1600,
  pumpShareHeating: 0.015,
  pumpShareCooling: 0.02,
  heatRecovery: { sensible: 0.6, latent: 0 },
  hotWater: { fuel: "gas", efficiency: 0.8, deliveryTemperature: 55, mainsTemperature: 11 },
};

/** An invented place to start from: Saltbrush, cold dry winters and hot dry summers at 1,600 m. */
export const starterContext: Pick<Project, "site" | "calendar" | "weather" | "weathers" | "prices" | "factors" | "run"> = {
  site: {
    name: "Saltbrush",
    latitude: 39.4,
    longitude: -108.3,
    elevation: 1600,
    timeZone: -7,
    planNorth: 0,
    terrain: "suburb",
    albedo: [0.35, 0.3, 0.22, 0.2, 0.2, 0.2, 0.2, 0.2, 0.2, 0.2, 0.22, 0.3],
    ground: { conductivity: 1.5, heatCapacity: 2e6, ...DEFAULT_GROUND },
    shelter: DEFAULT_SHELTER,
  },
  calendar: {
    firstWeekday: 0,
    holidays: [
      { id: "new_year", name: "New Year", month: 1, day: 1 },
      { id: "midsummer", name: "Midsummer holiday", month: 7, day: 4 },
      { id: "harvest", name: "Harvest day", month: 11, day: 22 },
      { id: "winter", name: "Winter holiday", month: 12, day: 25 },
    ],
    daylightSaving: null,
  },
  weathers: { year: { kind: "normals", name: "Saltbrush typical year", seed: 20260, normals: shippedClimates.saltbrush.normals } },
  weather: "year",
  prices: { currency: "$", perKWh: { electricity: 0.14, gas: 0.045, oil: 0.09, propane: 0.1, "district heat": 0.08, "district cooling": 0.09, wood: 0.05 } },
  factors: {
    carbon: { electricity: 0.35, gas: 0.2, oil: 0.28, propane: 0.23, "district heat": 0.15, "district cooling": 0.12, wood: 0.03 },
    primary: { electricity: 2.1, gas: 1.1, oil: 1.1, propane: 1.1, "district heat": 0.9, "district cooling": 0.9, wood: 0.2 },
  },
  run: DEFAULT_RUN,
};
