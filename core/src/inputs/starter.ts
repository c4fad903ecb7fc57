import type { Assembly, Glazing, Material, Project, Schedule, Services, SpaceType } from "../model/index.ts";

/** Levels of fabric a massing starts from. */
export const fabricLevels = ["existing", "code", "better"] as const;
export type FabricLevel = (typeof fabricLevels)[number];
/** Uses a massing starts from. */
export const starterUses = ["office", "school", "library", "shop", "homes"] as const;
export type StarterUse = (typeof starterUses)[number];

const material = (
  name: string,
  conductivity: number,
  density: number,
  specificHeat: number,
  solarAbsorptance = 0.6,
  roughness: Material["roughness"] = "medium rough",
): Material => ({
  name,
  conductivity,
  density,
  specificHeat,
  solarAbsorptance,
  emissivity: 0.9,
  roughness,
  source: "ISO 10456:2007, rounded",
});

export const starterMaterials: Project["materials"] = {
  brick: material("Brick, outer leaf", 0.77, 1700, 1000, 0.65, "rough"),
  insulation: material("Mineral wool", 0.035, 30, 1030),
  block: material("Aerated concrete block", 0.18, 600, 1000),
  plaster: material("Gypsum plaster", 0.57, 1300, 1000, 0.4, "smooth"),
  concrete: material("Reinforced concrete", 2.3, 2300, 1000),
  foam: material("Expanded polystyrene", 0.036, 20, 1450),
  screed: material("Cement screed", 1.35, 2000, 1000, 0.6, "medium smooth"),
  membrane: material("Roof membrane", 0.25, 1300, 1000, 0.6, "smooth"),
  board: material("Plasterboard", 0.21, 700, 1000, 0.4, "smooth"),
  wood: material("Softwood", 0.13, 500, 1600, 0.7, "medium smooth"),
};

/** Insulation, m, glazing and infiltration, 1/h, by level: typical, unverified. */
const LEVELS: Record<FabricLevel, { wall: number; roof: number; floor: number; glazing: Glazing; infiltration: number }> = {
  existing: { wall: 0.04, roof: 0.06, floor: 0.03, infiltration: 0.6, glazing: glass("Double, clear", 2.8, 0.72) },
  code: { wall: 0.12, roof: 0.18, floor: 0.1, infiltration: 0.3, glazing: glass("Double, low emissivity", 1.5, 0.5) },
  better: { wall: 0.2, roof: 0.3, floor: 0.18, infiltration: 0.12, glazing: glass("Triple, low emissivity", 0.85, 0.46) },
};

function glass(name: string, u: number, g: number): Glazing {
  return { name, u, g, visibleTransmittance: Math.min(0.8, g + 0.2), frameShare: 0.2, ratedFilms: { inside: 7.7, outside: 25 }, source: "typical, unverified" };
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
        door: "door",
      },
    },
  };
}

type Hours = readonly (readonly [from: number, to: number, value: number])[];
function weekSchedule(name: string, weekday: Hours, saturday: Hours = [], sunday: Hours = [], base = 0): Schedule {
  const profile = (label: string, hours: Hours) => ({
    name: label,
    values: Array.from({ length: 24 }, (_, h) => hours.reduce((v, [from, to, value]) => (h >= from && h < to ? value : v), base)),
  });
  return {
    name,
    kind: "fraction",
    profiles: { weekday: profile("Weekday", weekday), saturday: profile("Saturday", saturday), sunday: profile("Sunday and holidays", sunday) },
    weeks: [{ id: "year", from: [1, 1], to: [12, 31], days: ["weekday", "weekday", "weekday", "weekday", "weekday", "saturday", "sunday", "sunday"] }],
  };
}

interface UseData {
  readonly label: string;
  /** Hours in use on weekdays, Saturdays and Sundays. */
  readonly hours: readonly [Hours, Hours, Hours];
  readonly inputs: SpaceType["inputs"];
}

/** Typical uses, unverified; flows in m³/s, powers in W/m². */
const USES: Record<StarterUse, UseData> = {
  office: {
    label: "Office",
    hours: [[[7, 19, 1]], [], []],
    inputs: { peopleDensity: 0.08, lightingPower: 7, appliancePower: 9, outdoorAirPerPerson: 0.0025, outdoorAirPerArea: 0.0003, hotWaterPerPerson: 5 },
  },
  school: {
    label: "Classrooms",
    hours: [[[7, 17, 1]], [], []],
    inputs: {
      peopleDensity: 0.35,
      peopleSensible: 65,
      peopleLatent: 45,
      lightingPower: 8,
      appliancePower: 4,
      outdoorAirPerPerson: 0.005,
      outdoorAirPerArea: 0.0006,
      hotWaterPerPerson: 2,
    },
  },
  library: {
    label: "Library",
    hours: [[[9, 20, 1]], [[9, 17, 1]], []],
    inputs: { peopleDensity: 0.1, lightingPower: 8, appliancePower: 4, outdoorAirPerPerson: 0.0025, outdoorAirPerArea: 0.0006, hotWaterPerPerson: 2 },
  },
  shop: {
    label: "Shop",
    hours: [[[8, 20, 1]], [[8, 20, 1]], [[11, 17, 1]]],
    inputs: { peopleDensity: 0.15, lightingPower: 11, appliancePower: 4, outdoorAirPerPerson: 0.0038, outdoorAirPerArea: 0.0006, hotWaterPerPerson: 1 },
  },
  homes: {
    label: "Homes",
    hours: [[[0, 24, 1]], [[0, 24, 1]], [[0, 24, 1]]],
    inputs: {
      peopleDensity: 0.03,
      peopleSensible: 70,
      peopleLatent: 45,
      lightingPower: 3,
      appliancePower: 4,
      outdoorAirPerPerson: 0.007,
      outdoorAirPerArea: 0,
      hotWaterPerPerson: 40,
    },
  },
};
export const starterUseLabel = (use: StarterUse): string => USES[use].label;

const scaled = (hours: Hours, value: number): Hours => hours.map(([from, to]) => [from, to, value] as const);

/** Space types (one for perimeter and core alike) and schedules of a use. */
export function starterUse(use: StarterUse, infiltration: number): Pick<Project, "spaceTypes" | "schedules"> {
  const u = USES[use];
  const [weekday, saturday, sunday] = u.hours;
  const all = use === "homes";
  return {
    schedules: {
      open: weekSchedule("Hours in use", weekday, saturday, sunday),
      people: weekSchedule("People", scaled(weekday, all ? 0.6 : 0.75), scaled(saturday, 0.6), scaled(sunday, all ? 0.7 : 0.5)),
      lights: weekSchedule(
        "Lights",
        all ? [[17, 23, 0.8]] : scaled(weekday, 0.85),
        all ? [[17, 23, 0.8]] : scaled(saturday, 0.85),
        all ? [[17, 23, 0.8]] : scaled(sunday, 0.85),
        0.05,
      ),
      devices: weekSchedule("Devices", scaled(weekday, all ? 0.5 : 0.8), scaled(saturday, 0.6), scaled(sunday, 0.5), 0.15),
    },
    spaceTypes: {
      main: {
        name: u.label,
        colour: 0,
        inputs: {
          ...u.inputs,
          peopleSchedule: "people",
          lightingSchedule: "lights",
          applianceSchedule: "devices",
          outdoorAirSchedule: "open",
          infiltration,
          heatingSetpoint: 21,
          heatingSetback: 16,
          coolingSetpoint: 25,
          coolingSetback: 30,
          conditioningSchedule: "open",
        },
      },
    },
  };
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
