import {
  DEFAULT_GROUND,
  DEFAULT_RUN,
  noUse,
  DEFAULT_SHELTER,
  FORMAT_VERSION,
  type Normals,
  type Opening,
  LEAP_DAY,
  type Project,
  type RunOptions,
  type Shade,
} from "../model/index.ts";
import { HOURS, type WeatherYear } from "../climate/index.ts";

/** A climate of the test bed, invented. */
export interface BoxClimate {
  readonly name: string;
  readonly site: Pick<Project["site"], "latitude" | "longitude" | "elevation" | "timeZone" | "terrain">;
  readonly normals: Normals;
}

const same = (v: number): number[] => new Array<number>(12).fill(v);

/** Three invented climates: cold, clear and high; warm and humid; cool and maritime. */
export const boxClimates = {
  "cold clear high": {
    name: "Cold, clear and high",
    site: { latitude: 39.8, longitude: -104.9, elevation: 1609, timeZone: -7, terrain: "open country" },
    normals: {
      dryBulb: [-1, 1, 4, 9, 14, 20, 23, 22, 17, 11, 4, 0],
      dailyRange: same(14),
      relativeHumidity: same(50),
      clearness: same(0.6),
      windSpeed: same(4),
      windDirection: same(200),
    },
  },
  "warm humid": {
    name: "Warm and humid",
    site: { latitude: 26, longitude: -90, elevation: 5, timeZone: -6, terrain: "suburb" },
    normals: {
      dryBulb: [17, 18, 20.5, 23, 26, 28, 28.5, 28.5, 27.5, 25, 21.5, 18.5],
      dailyRange: [9, 9, 9, 8.5, 8, 7.5, 7.5, 7.5, 7.5, 8, 8.5, 9],
      relativeHumidity: [74, 73, 72, 72, 75, 78, 77, 78, 79, 77, 76, 75],
      clearness: [0.5, 0.52, 0.54, 0.55, 0.54, 0.5, 0.5, 0.49, 0.48, 0.52, 0.51, 0.48],
      windSpeed: same(4.2),
      windDirection: [20, 40, 90, 110, 120, 130, 130, 120, 90, 60, 40, 20],
    },
  },
  "cool maritime": {
    name: "Cool and maritime",
    site: { latitude: 56, longitude: -3, elevation: 30, timeZone: 0, terrain: "open country" },
    normals: {
      dryBulb: [4, 4.2, 5.8, 7.8, 10.6, 13.4, 15.2, 15, 12.8, 9.6, 6.4, 4.4],
      dailyRange: [5, 5.5, 6.5, 7.5, 8, 8, 7.5, 7.5, 7, 6, 5.5, 5],
      relativeHumidity: [85, 83, 80, 78, 77, 78, 79, 80, 81, 83, 85, 86],
      clearness: [0.33, 0.37, 0.4, 0.44, 0.45, 0.44, 0.43, 0.42, 0.4, 0.36, 0.33, 0.3],
      windSpeed: [6.5, 6.2, 6, 5.3, 4.9, 4.6, 4.5, 4.6, 5, 5.5, 6, 6.3],
      windDirection: same(240),
    },
  },
} as const satisfies Record<string, BoxClimate>;
export type BoxClimateName = keyof typeof boxClimates;

/** Options of the test box: an 8 m × 6 m × 2.7 m room standing on the ground, as test beds have it. */
export interface BoxOptions {
  readonly name?: string;
  readonly climate?: BoxClimateName;
  readonly weight?: "light" | "heavy";
  /** Insulation of the walls, m. */
  readonly insulation?: number;
  /** Share of the south wall that is glass. */
  readonly glass?: number;
  /** Windows of half the wall to east and west instead of to the south, m² each. */
  readonly eastWest?: number;
  readonly overhang?: number;
  /** Fins at both sides of windows to east and west, m deep; their overhangs then end at them. */
  readonly fins?: number;
  readonly heating?: number | null;
  readonly cooling?: number | null;
  readonly setback?: number;
  readonly gains?: number;
  readonly infiltration?: number;
  readonly heatingCapacity?: number;
  readonly planNorth?: number;
  readonly sky?: "perez" | "isotropic";
  /** Absorptance of outside and of inside surfaces for sun. */
  readonly outsideAbsorptance?: number;
  readonly insideAbsorptance?: number;
  readonly emissivity?: number;
  /** Fans at night, 18 to 7 o'clock, 1/h; cooling then rests. */
  readonly nightFan?: number;
  /** Glass by panes rather than by its rating. */
  readonly panes?: boolean;
  /** Run settings other than the usual ones. */
  readonly run?: Partial<RunOptions>;
  /** A second room of the same size to the east, with its own set-points. */
  readonly second?: { readonly heating: number | null; readonly cooling: number | null };
  /** A glazed room of 8 m × 2 m before the south wall, not conditioned, with this share of glass; the wall between is heavy. */
  readonly sunspace?: number;
}

const UNLIMITED = { heatingCapacity: null, coolingCapacity: null };

/** Overhang and fins of one window. */
function devices(o: BoxOptions, opening: string): [string, Shade][] {
  const target = { kind: "opening" as const, opening };
  const south = opening === "south";
  const out: [string, Shade][] = [];
  if (o.overhang) out.push([opening, { kind: "overhang", name: "Overhang", target, depth: o.overhang, gap: 0, extension: south ? 4 : o.fins ? 0 : 0.5 }]);
  if (o.fins && !south) out.push([`${opening}_fins`, { kind: "fins", name: "Fins", target, sides: "both", depth: o.fins, gap: 0, extension: 0 }]);
  return out;
}

/** A schedule of shares that is the same every day, by hour. */
export function daily(name: string, of: (hour: number) => number): Project["schedules"][string] {
  return {
    name,
    kind: "fraction",
    profiles: { d: { name, values: Array.from({ length: 24 }, (_, h) => of(h)) } },
    weeks: [{ id: "y", from: [1, 1], to: [12, 31], days: new Array<string>(8).fill("d") }],
  };
}

/** The test box as a project. */
export function boxProject(o: BoxOptions = {}): Project {
  const heavy = o.weight === "heavy";
  const insulation = o.insulation ?? (heavy ? 0.0615 : 0.066);
  const climate: BoxClimate = boxClimates[o.climate ?? "cold clear high"];
  const outside = o.outsideAbsorptance ?? 0.6;
  const emissivity = o.emissivity ?? 0.9;
  const material = (
    name: string,
    conductivity: number,
    density: number,
    specificHeat: number,
    solarAbsorptance = o.insideAbsorptance ?? 0.6,
  ): Project["materials"][string] => ({ name, conductivity, density, specificHeat, solarAbsorptance, emissivity, roughness: "medium rough" });
  const solid = (id: string, name: string, thickness: number) => ({ kind: "solid" as const, id, material: name, thickness });
  const inner = (id: string) => (heavy ? solid(id, "block", 0.1) : solid(id, "board", 0.012));
  const layers = [solid("siding", "siding", 0.009), solid("insulation", "quilt", insulation), inner("inner")];
  const floor = [solid("insulation", "under", 1), heavy ? solid("slab", "slab", 0.08) : solid("deck", "timber", 0.025)];
  const room = (zone: string, x0: number, y0: number, width: number, depth: number, inputs: Project["spaces"][string]["inputs"]): Project["spaces"][string] => {
    const corners: [string, number, number][] = [
      ["s", x0, y0],
      ["e", x0 + width, y0],
      ["n", x0 + width, y0 + depth],
      ["w", x0, y0 + depth],
    ];
    const outline = corners.map(([id, x, y]) => ({ id, x, y }));
    return { name: zone, storey: "ground", zone, spaceType: "box", kit: null, form: { kind: "prism", outline, floor: "floor", ceiling: "ceiling" }, inputs };
  };
  const heating = o.heating === undefined ? 20 : o.heating;
  const cooling = o.cooling === undefined ? 27 : o.cooling;
  const window = (orientation: "south" | "east" | "west", space: string, ratio: number): Opening => ({
    kind: "ratio",
    name: orientation[0].toUpperCase() + orientation.slice(1),
    orientation,
    storey: null,
    space,
    ratio,
    sill: 0.2,
    height: 2,
    glazing: null,
  });
  const openings: Project["openings"] = {};
  if (o.glass) openings.south = window("south", "a", o.glass);
  if (o.eastWest) {
    openings.east = window("east", "a", o.eastWest / (6 * 2.7));
    openings.west = window("west", "a", o.eastWest / (6 * 2.7));
  }
  if (o.sunspace) openings.south = window("south", "sun", o.sunspace);
  const free = { heatingSetpoint: null, coolingSetpoint: null, heatingSetback: null, coolingSetback: null, appliancePower: 0 };
  const hours = (from: number, to: number) => (h: number) => ((from < to ? h >= from && h < to : h >= from || h < to) ? 1 : 0);
  const rated = { inside: 7.7, outside: 25 };
  const pane = (id: string) => ({
    id,
    name: "Clear",
    thickness: 0.003175,
    conductivity: 1.06,
    solarTransmittance: 0.86,
    solarReflectanceOut: 0.078,
    solarReflectanceIn: 0.078,
    visibleTransmittance: 0.9,
    visibleReflectance: 0.08,
    emissivityOut: 0.84,
    emissivityIn: 0.84,
  });
  return {
    formatVersion: FORMAT_VERSION,
    id: "box",
    name: o.name ?? "Test box",
    site: {
      name: climate.name,
      ...climate.site,
      planNorth: o.planNorth ?? 0,
      albedo: same(0.2),
      ground: { conductivity: 1.5, heatCapacity: 2e6, ...DEFAULT_GROUND },
      shelter: DEFAULT_SHELTER,
    },
    calendar: { firstWeekday: 0, holidays: [], daylightSaving: null },
    weathers: { year: { kind: "normals", name: climate.name, seed: 140, normals: climate.normals } },
    weather: "year",
    storeys: { ground: { name: "Ground", elevation: 0, height: 2.7, multiplier: 1 } },
    spaces: {
      a: room("a", 0, 0, 8, 6, {}),
      ...(o.second
        ? {
            b: room("b", 8, 0, 8, 6, {
              heatingSetpoint: o.second.heating,
              coolingSetpoint: o.second.cooling,
              heatingSetback: o.second.heating,
              coolingSetback: o.second.cooling,
            }),
          }
        : {}),
      ...(o.sunspace ? { sun: room("sun", 0, -2, 8, 2, free) } : {}),
    },
    zones: {
      a: { name: "a", services: null, inputs: { ...UNLIMITED, heatingCapacity: o.heatingCapacity ?? null } },
      ...(o.second ? { b: { name: "b", services: null, inputs: { ...UNLIMITED } } } : {}),
      ...(o.sunspace ? { sun: { name: "sun", services: null, inputs: { ...UNLIMITED } } } : {}),
    },
    openings,
    shades: Object.fromEntries(Object.keys(openings).flatMap((id) => devices(o, id))),
    surroundings: {},
    airExchanges: {},
    sensors: {},
    roofs: {},
    faceOverrides: {},
    materials: {
      siding: material("Siding", 0.14, 530, 900, outside),
      quilt: material("Quilt", 0.04, heavy ? 10 : 12, heavy ? 1400 : 840),
      // the test bed has insulation without mass under its floor
      under: material("Insulation under the floor", 0.04, 0, 0),
      board: material("Board", 0.16, 950, 840),
      block: material("Block", 0.51, 1400, 1000),
      slab: material("Slab", 1.13, 1400, 1000),
      timber: material("Timber", 0.14, 650, 1200),
    },
    assemblies: {
      wall: { name: "Wall", use: "exterior wall", layers },
      roof: {
        name: "Roof",
        use: "roof",
        layers: [solid("siding", "siding", 0.019), solid("insulation", "quilt", insulation * 1.7), solid("inner", "board", 0.01)],
      },
      floor: { name: "Floor", use: "ground floor", layers: floor },
      inside: { name: "Inside", use: "interior wall", layers: [o.sunspace ? solid("a", "block", 0.2) : inner("a")] },
    },
    glazings: {
      glass: o.panes
        ? {
            kind: "panes",
            name: "Two clear panes",
            panes: [pane("p1"), pane("p2")],
            gaps: [{ id: "g1", fill: "air", width: 0.013 }],
            frameShare: 0,
            frame: { u: 3, absorptance: 0.5 },
            edge: 0,
            ratedFilms: rated,
            blind: null,
          }
        : { kind: "rated", name: "Glass", u: 2.9, g: 0.75, visibleTransmittance: 0.8, frameShare: 0, ratedFilms: rated, blind: null },
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
        skylight: "glass",
        door: "wall",
      },
    },
    schedules: {
      day: daily("Day", hours(7, 23)),
      ...(o.nightFan ? { night: daily("Night", hours(18, 7)), cooled: daily("Cooled", hours(7, 18)) } : {}),
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
          coolingSetback: o.nightFan ? null : cooling,
          conditioningSchedule: o.nightFan ? "cooled" : o.setback === undefined ? null : "day",
          moistureCapacity: 1,
          innerMass: 0,
          coilTemperature: null,
          hotWaterPerPerson: 0,
          ...(o.nightFan ? { nightVentilation: o.nightFan, nightVentilationSchedule: "night", nightVentilationAbove: null } : {}),
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
    prices: { currency: "$", perKWh: { electricity: 0.1, gas: 0.05, oil: 0.05, propane: 0.05, "district heat": 0.05, "district cooling": 0.05, wood: 0.05 } },
    factors: {
      carbon: { electricity: 0.3, gas: 0.2, oil: 0.2, propane: 0.2, "district heat": 0.1, "district cooling": 0.1, wood: 0 },
      primary: { electricity: 2, gas: 1.1, oil: 1.1, propane: 1.1, "district heat": 1, "district cooling": 1, wood: 0.2 },
    },
    options: {},
    evidence: {},
    ...noUse(),
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

/** A weather year with a 29 February in it, 2 K colder than its 28th. @param year in which it was measured; absent: typical */
export function withLeapDay(w: WeatherYear, year?: number): WeatherYear {
  const at = 24 * LEAP_DAY;
  const put = (a: Float64Array, add = 0): Float64Array => {
    const out = new Float64Array(a.length + 24);
    out.set(a.subarray(0, at));
    for (let h = 0; h < 24; h++) out[at + h] = a[at - 24 + h] + add;
    out.set(a.subarray(at), at + 24);
    return out;
  };
  return {
    ...w,
    ...(year === undefined ? {} : { year }),
    dryBulb: put(w.dryBulb, -2),
    relativeHumidity: put(w.relativeHumidity),
    pressure: put(w.pressure),
    windSpeed: put(w.windSpeed),
    windDirection: put(w.windDirection),
    globalHorizontal: put(w.globalHorizontal),
    diffuseHorizontal: put(w.diffuseHorizontal),
    cloudCover: put(w.cloudCover),
    infrared: w.infrared && put(w.infrared),
  };
}
