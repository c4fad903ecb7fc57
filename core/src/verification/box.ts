import { DEFAULT_GROUND, DEFAULT_RUN, DEFAULT_SHELTER, FORMAT_VERSION, type Project, type RunOptions } from "../model/index.ts";
import { HOURS, type WeatherYear } from "../climate/index.ts";

/** Options of the test box: an 8 m × 6 m × 2.7 m room standing on the ground, as test beds have it. */
export interface BoxOptions {
  readonly weight?: "light" | "heavy";
  /** Insulation of the walls, m. */
  readonly insulation?: number;
  /** Share of the south wall that is glass. */
  readonly glass?: number;
  readonly overhang?: number;
  readonly heating?: number | null;
  readonly cooling?: number | null;
  readonly setback?: number;
  readonly gains?: number;
  readonly infiltration?: number;
  readonly heatingCapacity?: number;
  readonly planNorth?: number;
  readonly sky?: "perez" | "isotropic";
  /** Run settings other than the usual ones. */
  readonly run?: Partial<RunOptions>;
  /** A second room of the same size to the east, with its own set-points. */
  readonly second?: { readonly heating: number | null; readonly cooling: number | null };
}

const material = (name: string, conductivity: number, density: number, specificHeat: number): Project["materials"][string] => ({
  name,
  conductivity,
  density,
  specificHeat,
  solarAbsorptance: 0.6,
  emissivity: 0.9,
  roughness: "medium rough",
});

/** The test box as a project. */
export function boxProject(o: BoxOptions = {}): Project {
  const heavy = o.weight === "heavy";
  const insulation = o.insulation ?? 0.066;
  const inner = (id: string) =>
    heavy ? { kind: "solid" as const, id, material: "block", thickness: 0.1 } : { kind: "solid" as const, id, material: "board", thickness: 0.012 };
  const layers = [
    { kind: "solid" as const, id: "siding", material: "siding", thickness: 0.009 },
    { kind: "solid" as const, id: "insulation", material: "quilt", thickness: insulation },
    inner("inner"),
  ];
  const floor = [
    { kind: "solid" as const, id: "insulation", material: "quilt", thickness: 1 },
    heavy
      ? { kind: "solid" as const, id: "slab", material: "block", thickness: 0.08 }
      : { kind: "solid" as const, id: "deck", material: "siding", thickness: 0.025 },
  ];
  const room = (zone: string, x0: number, inputs: Project["spaces"][string]["inputs"]): Project["spaces"][string] => {
    const corners: [string, number, number][] = [
      ["s", x0, 0],
      ["e", x0 + 8, 0],
      ["n", x0 + 8, 6],
      ["w", x0, 6],
    ];
    const outline = corners.map(([id, x, y]) => ({ id, x, y }));
    return { name: zone, storey: "ground", zone, spaceType: "box", kit: null, form: { kind: "prism", outline, floor: "floor", ceiling: "ceiling" }, inputs };
  };
  const heating = o.heating === undefined ? 20 : o.heating;
  const cooling = o.cooling === undefined ? 27 : o.cooling;
  return {
    formatVersion: FORMAT_VERSION,
    id: "box",
    name: "Test box",
    site: {
      name: "Test",
      latitude: 39.8,
      longitude: -104.9,
      elevation: 1609,
      timeZone: -7,
      planNorth: o.planNorth ?? 0,
      terrain: "open country",
      albedo: new Array<number>(12).fill(0.2),
      ground: { conductivity: 1.5, heatCapacity: 2e6, ...DEFAULT_GROUND },
      shelter: DEFAULT_SHELTER,
    },
    calendar: { firstWeekday: 0, holidays: [], daylightSaving: null },
    weather: {
      kind: "normals",
      name: "Test year",
      seed: 140,
      normals: {
        dryBulb: [-1, 1, 4, 9, 14, 20, 23, 22, 17, 11, 4, 0],
        dailyRange: new Array<number>(12).fill(14),
        relativeHumidity: new Array<number>(12).fill(50),
        clearness: new Array<number>(12).fill(0.6),
        windSpeed: new Array<number>(12).fill(4),
        windDirection: new Array<number>(12).fill(200),
      },
    },
    storeys: { ground: { name: "Ground", elevation: 0, height: 2.7, multiplier: 1 } },
    spaces: {
      a: room("a", 0, {}),
      ...(o.second
        ? {
            b: room("b", 8, {
              heatingSetpoint: o.second.heating,
              coolingSetpoint: o.second.cooling,
              heatingSetback: o.second.heating,
              coolingSetback: o.second.cooling,
            }),
          }
        : {}),
    },
    zones: {
      a: { name: "a", services: null, inputs: o.heatingCapacity === undefined ? {} : { heatingCapacity: o.heatingCapacity } },
      ...(o.second ? { b: { name: "b", services: null, inputs: {} } } : {}),
    },
    openings: o.glass
      ? { south: { kind: "ratio", name: "South", orientation: "south", storey: null, space: "a", ratio: o.glass, sill: 0.2, height: 2, glazing: null } }
      : {},
    shades: o.overhang
      ? { south: { kind: "overhang", name: "Overhang", target: { kind: "opening", opening: "south" }, depth: o.overhang, gap: 0, extension: 4 } }
      : {},
    surroundings: {},
    airExchanges: {},
    sensors: {},
    faceOverrides: {},
    materials: {
      siding: material("Siding", 0.14, 530, 900),
      quilt: material("Quilt", 0.04, 12, 840),
      board: material("Board", 0.16, 950, 840),
      block: material("Block", 0.51, 1400, 1000),
    },
    assemblies: {
      wall: { name: "Wall", use: "exterior wall", layers },
      roof: {
        name: "Roof",
        use: "roof",
        layers: [
          { ...layers[0], thickness: 0.019 },
          { ...layers[1], thickness: insulation * 1.7 },
          { kind: "solid", id: "inner", material: "board", thickness: 0.01 },
        ],
      },
      floor: { name: "Floor", use: "ground floor", layers: floor },
      inside: { name: "Inside", use: "interior wall", layers: [inner("a")] },
    },
    glazings: {
      glass: { kind: "rated", name: "Glass", u: 2.9, g: 0.75, visibleTransmittance: 0.8, frameShare: 0, ratedFilms: { inside: 7.7, outside: 25 }, blind: null },
    },
    kits: {
      kit: {
        name: "Kit",
        exteriorWall: "wall",
        roof: "roof",
        groundFloor: "floor",
        exposedFloor: "floor",
        interiorWall: "inside",
        interiorFloor: "inside",
        glazing: "glass",
        door: "wall",
      },
    },
    schedules: {
      day: {
        name: "Day",
        kind: "fraction",
        profiles: { d: { name: "Day", values: Array.from({ length: 24 }, (_, h) => (h >= 7 && h < 23 ? 1 : 0)) } },
        weeks: [{ id: "y", from: [1, 1], to: [12, 31], days: new Array<string>(8).fill("d") }],
      },
    },
    spaceTypes: {
      box: {
        name: "Box",
        inputs: {
          peopleDensity: 0,
          lightingPower: 0,
          appliancePower: (o.gains ?? 200) / 48,
          applianceRadiantShare: 0.6,
          outdoorAirPerPerson: 0,
          outdoorAirPerArea: 0,
          infiltration: o.infiltration ?? 0.5,
          heatingSetpoint: heating,
          heatingSetback: o.setback ?? heating,
          coolingSetpoint: cooling,
          coolingSetback: cooling,
          conditioningSchedule: o.setback === undefined ? null : "day",
          hotWaterPerPerson: 0,
        },
      },
    },
    services: {
      plain: {
        name: "Plain",
        heating: { fuel: "gas", efficiency: 1 },
        cooling: { fuel: "electricity", efficiency: 1 },
        fanPower: 0,
        pumpShareHeating: 0,
        pumpShareCooling: 0,
        heatRecovery: { sensible: 0, latent: 0 },
        hotWater: { fuel: "gas", efficiency: 1, deliveryTemperature: 55, mainsTemperature: 10 },
      },
    },
    defaults: { kit: "kit", services: "plain" },
    prices: { currency: "$", perKWh: { electricity: 0.1, gas: 0.05, "district heat": 0.05, "district cooling": 0.05, wood: 0.05 } },
    factors: {
      carbon: { electricity: 0.3, gas: 0.2, "district heat": 0.1, "district cooling": 0.1, wood: 0 },
      primary: { electricity: 2, gas: 1.1, "district heat": 1, "district cooling": 1, wood: 0.2 },
    },
    options: {},
    evidence: {},
    run: { ...DEFAULT_RUN, sky: o.sky ?? "perez", ...o.run },
  };
}

/** A year without sun, wind or swing, with the sky as warm as the air: what is left is steady conduction. */
export function steadyWeather(temperature: number): WeatherYear {
  const fill = (v: number): Float64Array => new Float64Array(HOURS).fill(v);
  const k = temperature + 273.15;
  return {
    name: "steady",
    latitude: 39.8,
    longitude: -104.9,
    elevation: 0,
    timeZone: -7,
    dryBulb: fill(temperature),
    relativeHumidity: fill(50),
    pressure: fill(101325),
    windSpeed: fill(3),
    windDirection: fill(200),
    globalHorizontal: fill(0),
    diffuseHorizontal: fill(0),
    cloudCover: fill(1),
    infrared: fill(5.670374419e-8 * k * k * k * k),
  };
}
