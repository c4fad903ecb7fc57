import { checkProject, noUse, proposeNetwork, type AirLink, type Opening, type Project } from "../core/src/index.ts";
import { common, room, site, week } from "./parts.ts";

const G = "ground";
const LOW = 3.2;
const rooms: Record<string, readonly [name: string, type: string, x0: number, y0: number, x1: number, y1: number, height?: number]> = {
  hall: ["Climbing hall", "climbing", 0, 0, 24, 16],
  entrance: ["Entrance", "cafe", 24, 0, 31, 5, LOW],
  cafe: ["Café", "cafe", 24, 5, 31, 11, LOW],
  changing: ["Changing rooms", "changing", 24, 11, 31, 16, LOW],
  training: ["Training room", "climbing", -8, 4, 0, 14, LOW],
};

const window = (name: string, host: string, offset: number, sill: number, width: number, height: number, operable?: number): Opening => ({
  kind: "placed",
  name,
  host,
  use: "window",
  offset,
  sill,
  width,
  height,
  glazing: null,
  ...(operable === undefined ? {} : { operable }),
});
const inner = (name: string, host: string, use: "door" | "opening", offset: number, width: number, height = 2.2): Opening => ({
  kind: "placed",
  name,
  host,
  use,
  offset,
  sill: 0,
  width,
  height,
  glazing: null,
});

/** The hall before its network. */
const building: Project = {
  ...common,
  ...noUse(),
  id: "hall",
  name: "Quarry Road Climbing Hall",
  note: "An invented climbing hall: one tall volume with rooms beside it, low and high openings, for airflow.",
  site: { ...site, name: "Quarry Road", planNorth: 0, terrain: "suburb" },
  weathers: { year: { ...common.weathers.year, name: "Quarry Road typical year" } },
  storeys: { ground: { name: "Ground floor", elevation: 0, height: 12, multiplier: 1 } },
  spaces: Object.fromEntries(
    Object.entries(rooms).map(([id, [name, type, x0, y0, x1, y1, height]]) => [
      id,
      room(name, G, id, type, x0, y0, x1, y1, { ...(height ? { height } : {}), ...(id === "hall" ? { inputs: { peopleDensity: 0.12 } } : {}) }),
    ]),
  ),
  zones: Object.fromEntries(Object.entries(rooms).map(([id, [name]]) => [id, { name, services: null, inputs: {} }])),
  openings: {
    low_south: window("Low louvres south", "hall/s", 3, 0.4, 18, 1.2, 0.5),
    high_north: window("High windows north", "hall/n", 3, 9.8, 18, 1.4, 0.5),
    wall_south: window("Glass wall south", "hall/s", 5, 3, 14, 4),
    west_strip: window("West strip", "hall/w", 4, 6, 8, 1.5),
    training: window("Training room windows", "training/w", 2, 0.9, 6, 1.4, 0.3),
    cafe: window("Café windows", "cafe/e", 1, 0.9, 4, 1.5, 0.3),
    changing: window("Changing room windows", "changing/n", 2, 1.8, 3, 0.7, 0.4),
    front_door: { kind: "placed", name: "Front door", host: "entrance/s", use: "door", offset: 2.5, sill: 0, width: 2, height: 2.4, glazing: null },
    gate: inner("Way to the hall", "entrance/w", "opening", 1, 2.4),
    cafe_way: inner("Café front", "cafe/w", "opening", 1.5, 3, 2.6),
    cafe_door: inner("Café door", "cafe/s", "door", 2, 1),
    changing_door: inner("Changing room door", "changing/w", "door", 2, 1),
    training_door: inner("Training room doors", "training/e", "door", 4, 2),
  },
  shades: {},
  schedules: {
    open: week("Hall hours", [[10, 23, 1]], [[9, 22, 1]], [[9, 22, 1]]),
    people: week(
      "Climbers",
      [
        [10, 16, 0.3],
        [16, 22, 0.9],
        [22, 23, 0.3],
      ],
      [[9, 21, 0.8]],
      [[9, 21, 0.8]],
    ),
    lights: week("Lights", [[10, 23, 0.8]], [[9, 22, 0.8]], [[9, 22, 0.8]], 0.03),
    devices: week("Devices", [[10, 23, 0.7]], [[9, 22, 0.7]], [[9, 22, 0.7]], 0.1),
  },
  spaceTypes: {
    climbing: {
      name: "Climbing",
      colour: 3,
      inputs: {
        windowOpenAbove: 21,
        windowOutdoorLeast: 8,
        windowSchedule: "open",
        peopleDensity: 0.1,
        peopleSensible: 130,
        peopleLatent: 170,
        peopleSchedule: "people",
        metabolicRate: 3,
        lightingPower: 8,
        lightingSchedule: "lights",
        appliancePower: 1,
        applianceSchedule: "devices",
        outdoorAirPerPerson: 0.002,
        outdoorAirPerArea: 0.0002,
        outdoorAirSchedule: "open",
        infiltration: 0.15,
        heatingSetpoint: 16,
        heatingSetback: 10,
        optimumStart: 3,
        coolingSetpoint: null,
        coolingSetback: null,
        conditioningSchedule: "open",
      },
    },
    cafe: {
      name: "Café and entrance",
      colour: 0,
      inputs: {
        windowOpenAbove: 22,
        windowOutdoorLeast: 8,
        windowSchedule: "open",
        peopleDensity: 0.2,
        peopleSchedule: "people",
        lightingPower: 8,
        lightingSchedule: "lights",
        appliancePower: 12,
        applianceSchedule: "devices",
        outdoorAirPerPerson: 0.003,
        outdoorAirPerArea: 0.0003,
        outdoorAirSchedule: "open",
        infiltration: 0.3,
        heatingSetpoint: 19,
        heatingSetback: 12,
        optimumStart: 3,
        coolingSetpoint: null,
        coolingSetback: null,
        conditioningSchedule: "open",
        hotWaterPerPerson: 1,
      },
    },
    changing: {
      name: "Changing rooms",
      colour: 6,
      inputs: {
        windowOpenAbove: 24,
        windowOutdoorLeast: 8,
        windowSchedule: "open",
        peopleDensity: 0.1,
        peopleSchedule: "people",
        lightingPower: 6,
        lightingSchedule: "lights",
        appliancePower: 3,
        applianceSchedule: "devices",
        outdoorAirPerPerson: 0.005,
        outdoorAirPerArea: 0.0012,
        outdoorAirSchedule: "open",
        infiltration: 0.3,
        heatingSetpoint: 21,
        heatingSetback: 14,
        optimumStart: 3,
        coolingSetpoint: null,
        coolingSetback: null,
        conditioningSchedule: "open",
        hotWaterPerPerson: 12,
      },
    },
  },
  services: {
    main: {
      name: "Air-source heat pump",
      heating: { fuel: "electricity", efficiency: 2.9 },
      cooling: { fuel: "electricity", efficiency: 3.1 },
      fanPower: 1200,
      pumpShareHeating: 0.01,
      pumpShareCooling: 0,
      heatRecovery: { sensible: 0.6, latent: 0 },
      hotWater: { fuel: "electricity", efficiency: 0.9, deliveryTemperature: 55, mainsTemperature: 11 },
    },
  },
  defaults: { kit: "standard", services: "main" },
};

const network = proposeNetwork(building, checkProject(building));
const night = { name: "Windows, nights too", control: { rule: "temperature" as const, above: 20, outdoorLeast: 8 } };
const windows = Object.entries(network.links).filter(([, l]): boolean => l.kind === "opening" && l.type === "windows");

/** Quarry Road Climbing Hall: one tall volume with rooms beside it, and its airflow network with two ways to open the windows. Invented. */
export const hall: Project = {
  ...building,
  airNetwork: { ...network, types: { ...network.types, night } },
  options: {
    night: {
      name: "Windows open at night",
      changes: windows.map(([id, l]) => ({
        id: `night_${id}`,
        op: "set" as const,
        path: ["airNetwork", "links", id, "type"],
        value: "night",
        old: (l as Extract<AirLink, { kind: "opening" }>).type ?? null,
      })),
    },
  },
};
