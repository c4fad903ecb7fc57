import type { Project } from "../core/src/index.ts";
import { common, room, site, week } from "./parts.ts";

const G = "ground";
const rooms: Record<string, readonly [name: string, type: string, x0: number, y0: number, x1: number, y1: number]> = {
  waiting: ["Waiting room", "waiting", 0, 0, 8, 6],
  reception: ["Reception", "office", 8, 0, 12, 6],
  exam_1: ["Examination 1", "exam", 12, 0, 16, 6],
  exam_2: ["Examination 2", "exam", 16, 0, 20, 6],
  exam_3: ["Examination 3", "exam", 20, 0, 24, 6],
  corridor: ["Corridor", "corridor", 0, 6, 24, 8],
  surgery: ["Surgery", "exam", 0, 8, 6, 14],
  recovery: ["Recovery ward", "ward", 6, 8, 12, 14],
  kennels: ["Kennels", "ward", 12, 8, 17, 14],
  office: ["Office", "office", 17, 8, 21, 14],
  store: ["Plant and store", "store", 21, 8, 24, 14],
};

/** Fernhollow Veterinary Clinic: one storey, eleven rooms, for learning. Invented. */
export const clinic: Project = {
  ...common,
  id: "clinic",
  name: "Fernhollow Veterinary Clinic",
  note: "An invented one-storey clinic with eleven rooms, for learning.",
  site: { ...site, name: "Fernhollow", planNorth: 0, terrain: "open country" },
  storeys: { ground: { name: "Ground floor", elevation: 0, height: 3, multiplier: 1 } },
  spaces: Object.fromEntries(Object.entries(rooms).map(([id, [name, type, ...box]]) => [id, room(name, G, id, type, ...box)])),
  zones: Object.fromEntries(Object.entries(rooms).map(([id, [name]]) => [id, { name, services: null, inputs: {} }])),
  openings: {
    south: { kind: "ratio", name: "South windows", orientation: "south", storey: null, space: null, ratio: 0.3, sill: 0.9, height: 1.5, glazing: null },
    north: { kind: "ratio", name: "North windows", orientation: "north", storey: null, space: null, ratio: 0.2, sill: 0.9, height: 1.5, glazing: null },
    kennels: { kind: "ratio", name: "Kennel windows", orientation: "north", storey: null, space: "kennels", ratio: 0.1, sill: 1.5, height: 0.8, glazing: null },
    door: { kind: "placed", name: "Entrance door", host: "waiting/w", use: "door", offset: 2, sill: 0, width: 1.6, height: 2.2, glazing: null },
  },
  shades: { south: { kind: "overhang", name: "Eaves", target: { kind: "orientation", orientation: "south", storey: null }, depth: 0.6, gap: 0.3, extension: 0.3 } },
  schedules: {
    open: week("Clinic hours", [[8, 18, 1]], [[8, 13, 1]], []),
    people: week("Patients and staff", [[8, 12, 0.8], [12, 14, 0.4], [14, 18, 0.8]], [[8, 13, 0.6]], []),
    animals: week("Animals", [[0, 24, 0.7]], [[0, 24, 0.6]], [[0, 24, 0.6]]),
    lights: week("Lights", [[8, 18, 0.9]], [[8, 13, 0.9]], [], 0.05),
    devices: week("Devices", [[8, 18, 0.8]], [[8, 13, 0.6]], [], 0.2),
    round: week("Round the clock", [[0, 24, 1]], [[0, 24, 1]], [[0, 24, 1]]),
  },
  spaceTypes: {
    waiting: { name: "Waiting", colour: 0, inputs: { peopleDensity: 0.25, peopleSchedule: "people", lightingPower: 7, lightingSchedule: "lights", appliancePower: 2, applianceSchedule: "devices", outdoorAirPerPerson: 0.0038, outdoorAirPerArea: 0.0006, outdoorAirSchedule: "open", infiltration: 0.5, heatingSetpoint: 21, heatingSetback: 15, coolingSetpoint: 25, coolingSetback: 31, conditioningSchedule: "open" } },
    office: { name: "Office", colour: 6, inputs: { peopleDensity: 0.1, peopleSchedule: "people", lightingPower: 8, lightingSchedule: "lights", appliancePower: 10, applianceSchedule: "devices", outdoorAirSchedule: "open", infiltration: 0.3, heatingSetpoint: 21, heatingSetback: 15, coolingSetpoint: 25, coolingSetback: 31, conditioningSchedule: "open", hotWaterPerPerson: 6 } },
    exam: { name: "Examination", colour: 3, inputs: { peopleDensity: 0.12, peopleSensible: 85, peopleLatent: 70, peopleSchedule: "people", lightingPower: 12, lightingSchedule: "lights", appliancePower: 15, applianceSchedule: "devices", outdoorAirPerPerson: 0.005, outdoorAirPerArea: 0.0012, outdoorAirSchedule: "open", infiltration: 0.3, heatingSetpoint: 22, heatingSetback: 17, coolingSetpoint: 24, coolingSetback: 29, conditioningSchedule: "open", hotWaterPerPerson: 20 } },
    ward: { name: "Animal ward", colour: 2, inputs: { peopleDensity: 0.2, peopleSensible: 50, peopleLatent: 40, peopleSchedule: "animals", lightingPower: 8, lightingSchedule: "lights", appliancePower: 5, applianceSchedule: "devices", outdoorAirPerPerson: 0.005, outdoorAirPerArea: 0.0012, infiltration: 0.3, heatingSetpoint: 20, coolingSetpoint: 25, conditioningSchedule: "round" } },
    corridor: { name: "Corridor", colour: 8, inputs: { peopleDensity: 0.02, peopleSchedule: "people", lightingPower: 5, lightingSchedule: "lights", appliancePower: 0, outdoorAirPerPerson: 0, outdoorAirSchedule: "open", infiltration: 0.3, heatingSetpoint: 19, heatingSetback: 14, coolingSetpoint: 27, coolingSetback: 32, conditioningSchedule: "open", hotWaterPerPerson: 0 } },
    store: { name: "Store", colour: 9, inputs: { peopleDensity: 0, lightingPower: 4, lightingSchedule: "lights", appliancePower: 8, applianceSchedule: "devices", outdoorAirPerPerson: 0, outdoorAirPerArea: 0.0003, infiltration: 0.4, heatingSetpoint: 14, heatingSetback: 12, coolingSetpoint: null, coolingSetback: null, conditioningSchedule: "open" } },
  },
  services: {
    main: { name: "Air-source heat pump", heating: { fuel: "electricity", efficiency: 2.9 }, cooling: { fuel: "electricity", efficiency: 3.1 }, fanPower: 1400, pumpShareHeating: 0.005, pumpShareCooling: 0, heatRecovery: { sensible: 0.6, latent: 0 }, hotWater: { fuel: "electricity", efficiency: 0.9, deliveryTemperature: 55, mainsTemperature: 11 } },
  },
  defaults: { kit: "standard", services: "main" },
};
