import { settingOf, waterSystemOf, type Component, type Fuel, type Project, type WaterSystem } from "../model/index.ts";
import { drawOf, WATER_HEAT, waterTemperatures, type ColdWater } from "../inputs/index.ts";
import { pow } from "../numeric/index.ts";
import type { Collector } from "./collector.ts";
import { machineCurves, type MachineCurves } from "./curves.ts";
import { follow, type DriveOf, type Followed } from "./follow.ts";

/** Difference of temperature that a standing loss is told at (EN 12897), K. */
const STANDING_DIFFERENCE = 45;
/** Conductance between the halves of a layered store per volume to the power of two thirds, W/K per m²: conduction in water and wall. Typical, unverified. */
const BETWEEN = 3;
const WATER_DENSITY = 1000;

/** One heater of a hot-water system. */
export interface WaterHeaterModel {
  readonly address: string;
  readonly name: string;
  readonly fuel: Fuel;
  /** Curves of a heat pump; null: what burns or resists. */
  readonly curves: MachineCurves | null;
  /** W at its rating, and fuel over heat, 1. */
  readonly power: number;
  readonly ratio: number;
  /** °C outdoors below which it stands still. */
  readonly leastOutdoor: number;
}
/** Solar collectors that feed a store. */
export interface CollectorsModel {
  readonly address: string;
  readonly name: string;
  readonly collector: Collector;
  /** True direction and tilt of their plane, degrees, and height of their middle, m. */
  readonly azimuth: number;
  readonly tilt: number;
  readonly height: number;
  /** Capacity flow of their water, W/K. */
  readonly flow: number;
  readonly on: number;
  readonly off: number;
  readonly most: number;
  readonly pump: number;
}
/** What is drawn of a system in one zone, of each copy of its storey. */
export interface WaterDraw {
  readonly zone: number;
  readonly times: number;
  /** Row of its schedule. */
  readonly row: number;
  /** kg/s at full draw, and °C at the tap. */
  readonly flow: number;
  readonly tap: number;
  /** Shares of its heat that stay in the room. */
  readonly sensible: number;
  readonly latent: number;
}
export interface WaterSystemModel {
  readonly id: string;
  readonly name: string;
  readonly supply: Followed;
  readonly store: "mixed" | "layered" | "none";
  /** J/K, W/K to what is around it, and W/K between its halves. */
  readonly capacity: number;
  readonly loss: number;
  readonly between: number;
  /** The heater starts when the store is this far below its temperature, K. */
  readonly band: number;
  /** Zone it stands in, −1: none; then °C around it. */
  readonly zone: number;
  readonly around: number;
  /** Copies of the zone it stands in: each gets its share of the heat. */
  readonly placeTimes: number;
  /** W/K of the pipes that circulate (0: none), whether their heat goes to the zones served, W of the pump and its share that warms the water, row of its hours (−1: always). */
  readonly pipes: number;
  readonly toRooms: boolean;
  readonly pump: number;
  readonly pumpHeat: number;
  readonly hours: number;
  /** Zones served: index, share of the pipes in all copies, and copies. */
  readonly served: readonly { readonly zone: number; readonly share: number; readonly times: number }[];
  /** Hours of the run in which it is heated up against germs; null: never. °C then. */
  readonly disinfection: Uint8Array | null;
  readonly hot: number;
  /** Cold water main by month, °C. */
  readonly cold: Float64Array;
  readonly heaters: readonly WaterHeaterModel[];
  readonly collectors: readonly CollectorsModel[];
  readonly draws: readonly WaterDraw[];
}

/** What hot-water systems are made from. */
export interface WaterContext {
  readonly zoneIds: readonly string[];
  readonly multiplier: Float64Array;
  readonly area: Float64Array;
  readonly rowOf: (id: string | null) => number;
  readonly driveOf: DriveOf;
  /** °C by month where the main follows the weather. */
  readonly cold: readonly number[];
  /** Whether an hour of the run falls on a weekday (0: Monday) at an hour of the clock on the wall. */
  readonly clock: (day: number, from: number, hours: number) => Uint8Array;
  /** Draws per person by zone: row of the people's schedule and kg/s at its full value, of each copy. */
  readonly perPerson: readonly { readonly zone: number; readonly row: number; readonly flow: number }[];
}

const MEAN = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0) / a.length;
const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** Mean temperature of the main over the year of each system, for `drawOf`. @param byMonth °C where it follows the weather */
export const coldOf =
  (project: Project, byMonth: readonly number[]): ColdWater =>
  (system) =>
    MEAN(project.waterSystems[system].coldWater ?? byMonth);

/** A heater as numbers: fuel burned, element, or heat pump. */
function heaterModel(system: string, of: string, c: Component): WaterHeaterModel {
  const number = (field: string): number => settingOf("waterHeater", c.inputs, field) as number;
  const heat = String(settingOf("waterHeater", c.inputs, "heat"));
  const base = { address: `waterSystems/${system}/parts/${c.id}`, name: c.name ?? `${of}, water heater`, power: number("power") };
  if (heat === "heat pump")
    return { ...base, fuel: "electricity", curves: machineCurves["typical air-source"], ratio: 1 / number("cop"), leastOutdoor: number("leastOutdoor") };
  if (heat === "electricity") return { ...base, fuel: "electricity", curves: null, ratio: 1, leastOutdoor: -Infinity };
  return { ...base, fuel: heat as Fuel, curves: null, ratio: 1 / number("efficiency"), leastOutdoor: -Infinity };
}

function collectorsModel(system: string, of: string, c: Component): CollectorsModel {
  const number = (field: string): number => settingOf("solarCollector", c.inputs, field) as number;
  return {
    address: `waterSystems/${system}/parts/${c.id}`,
    name: c.name ?? `${of}, solar collectors`,
    collector: { area: number("area"), peak: number("peak"), a1: number("a1"), a2: number("a2"), at50: number("at50") },
    azimuth: number("azimuth"),
    tilt: number("tilt"),
    height: number("height"),
    flow: number("area") * number("flow") * WATER_HEAT,
    on: number("on"),
    off: number("off"),
    most: number("most"),
    pump: number("pump"),
  };
}

/** All hot-water systems of a project as numbers, with what is drawn of each. */
export function buildWater(project: Project, x: WaterContext): WaterSystemModel[] {
  const cold = coldOf(project, x.cold);
  const draws = Object.keys(project.drawPoints).map((id) => ({ point: project.drawPoints[id], draw: drawOf(project, id, cold) }));
  return Object.entries(project.waterSystems).map(([id, system]: [string, WaterSystem]) => {
    const setting = (field: string) => settingOf("waterSystem", system.inputs, field);
    const number = (field: string): number => setting(field) as number;
    const zones = x.zoneIds.flatMap((z, i) => (waterSystemOf(project, z) === id ? [i] : []));
    const own = new Set(zones);
    const area = zones.reduce((s, z) => s + x.area[z] * x.multiplier[z], 0);
    const store = setting("store") as WaterSystemModel["store"];
    const volume = store === "none" ? 0 : number("volume");
    const pumped = setting("circulation") === "pumped";
    const hours = setting("circulationHours") as string | null;
    const place = setting("zone") as string | null;
    return {
      id,
      name: system.name,
      supply: x.driveOf(`waterSystems/${id}/inputs/supplyTemperature`, follow(project, setting("supplyTemperature"), x.rowOf)),
      store,
      capacity: volume * WATER_DENSITY * WATER_HEAT,
      loss: store === "none" ? 0 : number("standingLoss") / STANDING_DIFFERENCE,
      between: BETWEEN * pow(volume, 2 / 3),
      band: number("band"),
      zone: store === "none" || place === null ? -1 : x.zoneIds.indexOf(place),
      around: number("around"),
      placeTimes: (store === "none" || place === null ? undefined : x.multiplier[x.zoneIds.indexOf(place)]) ?? 1,
      pipes: pumped ? number("pipes") * number("pipeLoss") : 0,
      toRooms: setting("pipesPass") === "to the rooms served",
      pump: pumped ? number("pumpPower") : 0,
      pumpHeat: number("pumpHeat"),
      hours: pumped ? x.driveOf(`waterSystems/${id}/inputs/circulationHours`, { value: NaN, row: hours !== null ? x.rowOf(hours) : -1, reset: null }).row : -1,
      served: zones.map((zone) => ({ zone, share: area > 0 ? (x.area[zone] * x.multiplier[zone]) / area : 0, times: x.multiplier[zone] })),
      disinfection:
        setting("disinfection") === "weekly"
          ? x.clock(DAYS.indexOf(String(setting("disinfectionDay"))), number("disinfectionHour"), number("disinfectionTime"))
          : null,
      hot: number("disinfectionTemperature"),
      cold: Float64Array.from(system.coldWater ?? x.cold),
      heaters: system.parts.filter((p) => p.kind === "waterHeater").map((p) => heaterModel(id, system.name, p)),
      collectors: store === "none" ? [] : system.parts.filter((p) => p.kind === "solarCollector").map((p) => collectorsModel(id, system.name, p)),
      draws: [
        ...x.perPerson
          .filter((d) => own.has(d.zone))
          .map((d) => ({ ...d, times: x.multiplier[d.zone], tap: number("tapTemperature"), sensible: 0, latent: 0 })),
        ...draws.flatMap(({ point, draw }) =>
          [...draw.zones].flatMap(([zone, litres]): WaterDraw[] => {
            const z = x.zoneIds.indexOf(zone);
            if (!own.has(z) || litres === 0) return [];
            const { tap } = waterTemperatures(project, zone, point, cold);
            return [
              { zone: z, times: x.multiplier[z], row: x.rowOf(point.schedule), flow: litres / 3600, tap, sensible: point.sensible, latent: point.latent },
            ];
          }),
        ),
      ],
    };
  });
}
