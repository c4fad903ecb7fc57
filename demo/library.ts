import type { Project } from "../core/src/index.ts";
import { common, room, site, week } from "./parts.ts";

const G = "ground";
const U = "upper";

/** Saltbrush Community Library: two storeys, a double-height reading room, 17 zones. Invented. */
export const library: Project = {
  ...common,
  id: "library",
  name: "Saltbrush Community Library",
  note: "An invented library on a high dry plateau.",
  site,
  storeys: {
    ground: { name: "Ground floor", elevation: 0, height: 4.2, multiplier: 1 },
    upper: { name: "Upper floor", elevation: 4.2, height: 3.9, multiplier: 1 },
  },
  spaces: {
    reading: room("Reading room", G, "reading", "reading", 0, 14, 20, 26, { height: 8.1 }),
    stacks: room("Stacks", G, "stacks", "stacks", 20, 14, 34, 26),
    children: room("Children’s corner", G, "children", "children", 34, 14, 44, 26),
    core: room("Service core", G, "core", "service", 0, 10, 8, 14),
    foyer: room("Foyer", G, "foyer", "circulation", 8, 10, 32, 14),
    staff: room("Staff workroom", G, "staff", "office", 32, 10, 44, 14),
    cafe: room("Café", G, "cafe", "cafe", 0, 0, 8, 10),
    entrance: room("Entrance hall", G, "entrance", "circulation", 8, 0, 18, 10),
    meeting: room("Meeting hall", G, "meeting", "meeting", 18, 0, 32, 10),
    workshop: room("Makers’ workshop", G, "workshop", "workshop", 32, -6, 44, 10),
    study_west: room("Study rooms west", U, "study_west", "study", 0, 0, 12, 10),
    history: room("Local history", U, "history", "reading", 12, 0, 26, 10),
    study_east: room("Study rooms east", U, "study_east", "study", 26, 0, 44, 10),
    core_upper: room("Service core, upper", U, "core_upper", "service", 0, 10, 8, 14),
    gallery: room("Gallery", U, "gallery", "circulation", 8, 10, 44, 14),
    stacks_upper: room("Upper stacks", U, "stacks_upper", "stacks", 20, 14, 34, 26),
    quiet: room("Quiet study", U, "quiet", "study", 34, 14, 44, 26),
  },
  zones: Object.fromEntries(
    Object.entries({
      reading: "Reading room", stacks: "Stacks", children: "Children’s corner", core: "Service core", foyer: "Foyer", staff: "Staff workroom", cafe: "Café", entrance: "Entrance hall", meeting: "Meeting hall", workshop: "Makers’ workshop",
      study_west: "Study rooms west", history: "Local history", study_east: "Study rooms east", core_upper: "Service core, upper", gallery: "Gallery", stacks_upper: "Upper stacks", quiet: "Quiet study",
    }).map(([id, name]) => [id, { name, services: id === "workshop" ? "workshop" : null, inputs: {} }]),
  ),
  openings: {
    south: { kind: "ratio", name: "South windows", orientation: "south", storey: null, space: null, ratio: 0.4, sill: 0.9, height: 2, glazing: null },
    north: { kind: "ratio", name: "North windows", orientation: "north", storey: null, space: null, ratio: 0.3, sill: 0.9, height: 2, glazing: null },
    east: { kind: "ratio", name: "East windows", orientation: "east", storey: null, space: null, ratio: 0.22, sill: 0.9, height: 1.8, glazing: null },
    west: { kind: "ratio", name: "West windows", orientation: "west", storey: null, space: null, ratio: 0.18, sill: 0.9, height: 1.8, glazing: null },
    reading_north: { kind: "ratio", name: "Reading room north", orientation: "north", storey: null, space: "reading", ratio: 0.45, sill: 0.8, height: 5, glazing: null },
    workshop_west: { kind: "ratio", name: "Workshop west", orientation: "west", storey: null, space: "workshop", ratio: 0.1, sill: 1.2, height: 1.5, glazing: null },
    front_door: { kind: "placed", name: "Front door", host: "entrance/s", use: "door", offset: 4, sill: 0, width: 2, height: 2.4, glazing: null },
    entrance_left: { kind: "placed", name: "Entrance glass, left", host: "entrance/s", use: "window", offset: 0.6, sill: 0.3, width: 3, height: 3, glazing: null },
    entrance_right: { kind: "placed", name: "Entrance glass, right", host: "entrance/s", use: "window", offset: 6.4, sill: 0.3, width: 3, height: 3, glazing: null },
  },
  shades: {
    south: { kind: "overhang", name: "South overhang", target: { kind: "opening", opening: "south" }, depth: 0.9, gap: 0.15, extension: 0.4 },
    entrance: { kind: "overhang", name: "Entrance canopy", target: { kind: "opening", opening: "front_door" }, depth: 1.8, gap: 0.3, extension: 1 },
  },
  schedules: {
    open: week("Opening hours", [[8, 20, 1]], [[9, 17, 1]], []),
    visitors: week("Visitors", [[9, 11, 0.4], [11, 14, 0.6], [14, 18, 0.8], [18, 20, 0.4]], [[10, 12, 0.6], [12, 17, 0.8]], []),
    staff: week("Staff", [[8, 12, 0.9], [12, 13, 0.5], [13, 17, 0.9], [17, 20, 0.4]], [[9, 17, 0.5]], []),
    lights: week("Lights", [[8, 20, 0.9]], [[9, 17, 0.9]], [], 0.05),
    devices: week("Devices", [[8, 20, 0.7]], [[9, 17, 0.6]], [], 0.15),
    events: week("Events", [[10, 12, 0.3], [17, 20, 0.7]], [[10, 16, 0.6]], []),
    cafe_hours: week("Café hours", [[8, 10, 0.5], [10, 14, 0.9], [14, 18, 0.6]], [[9, 16, 0.8]], []),
    fans: week("Fans", [[7, 20, 1]], [[8, 17, 1]], []),
  },
  spaceTypes: {
    reading: { name: "Reading, quiet", colour: 0, inputs: { peopleDensity: 0.1, peopleSensible: 70, peopleLatent: 45, peopleSchedule: "visitors", lightingPower: 7, lightingSchedule: "lights", appliancePower: 4, applianceSchedule: "devices", outdoorAirPerPerson: 0.005, outdoorAirPerArea: 0.0003, outdoorAirSchedule: "fans", infiltration: 0.25, heatingSetpoint: 21, heatingSetback: 16, coolingSetpoint: 25, coolingSetback: 30, conditioningSchedule: "open" } },
    stacks: { name: "Stacks", colour: 1, inputs: { peopleDensity: 0.04, peopleSchedule: "visitors", lightingPower: 8, lightingSchedule: "lights", appliancePower: 1, applianceSchedule: "devices", outdoorAirPerPerson: 0.0025, outdoorAirPerArea: 0.0006, outdoorAirSchedule: "fans", infiltration: 0.2, heatingSetpoint: 20, heatingSetback: 16, coolingSetpoint: 25, coolingSetback: 29, conditioningSchedule: "open" } },
    children: { name: "Children’s library", colour: 2, inputs: { peopleDensity: 0.2, peopleSensible: 65, peopleLatent: 50, peopleSchedule: "visitors", lightingPower: 8, lightingSchedule: "lights", appliancePower: 3, applianceSchedule: "devices", outdoorAirPerPerson: 0.005, outdoorAirPerArea: 0.0006, outdoorAirSchedule: "fans", infiltration: 0.3, heatingSetpoint: 21, heatingSetback: 16, coolingSetpoint: 25, coolingSetback: 30, conditioningSchedule: "open" } },
    meeting: { name: "Meeting hall", colour: 3, inputs: { peopleDensity: 0.5, peopleSchedule: "events", lightingPower: 9, lightingSchedule: "lights", appliancePower: 3, applianceSchedule: "events", outdoorAirPerPerson: 0.0038, outdoorAirPerArea: 0.0003, outdoorAirSchedule: "events", infiltration: 0.25, heatingSetpoint: 20, heatingSetback: 15, coolingSetpoint: 25, coolingSetback: 30, conditioningSchedule: "open" } },
    cafe: { name: "Café", colour: 4, inputs: { peopleDensity: 0.4, peopleSensible: 75, peopleLatent: 70, peopleSchedule: "cafe_hours", lightingPower: 9, lightingSchedule: "lights", appliancePower: 35, applianceLatentShare: 0.25, applianceSchedule: "cafe_hours", outdoorAirPerPerson: 0.0038, outdoorAirPerArea: 0.0009, outdoorAirSchedule: "cafe_hours", infiltration: 0.4, heatingSetpoint: 20, heatingSetback: 15, coolingSetpoint: 26, coolingSetback: 32, conditioningSchedule: "open", hotWaterPerPerson: 12 } },
    workshop: { name: "Workshop", colour: 5, inputs: { peopleDensity: 0.12, peopleSensible: 100, peopleLatent: 90, peopleSchedule: "events", lightingPower: 11, lightingSchedule: "lights", appliancePower: 12, applianceSchedule: "events", outdoorAirPerPerson: 0.005, outdoorAirPerArea: 0.0009, outdoorAirSchedule: "fans", infiltration: 0.4, heatingSetpoint: 19, heatingSetback: 14, coolingSetpoint: 27, coolingSetback: 33, conditioningSchedule: "open" } },
    office: { name: "Staff office", colour: 6, inputs: { peopleDensity: 0.1, peopleSchedule: "staff", lightingPower: 8, lightingSchedule: "lights", appliancePower: 10, applianceSchedule: "devices", outdoorAirPerPerson: 0.0025, outdoorAirPerArea: 0.0003, outdoorAirSchedule: "fans", infiltration: 0.2, heatingSetpoint: 21, heatingSetback: 16, coolingSetpoint: 25, coolingSetback: 30, conditioningSchedule: "open", hotWaterPerPerson: 6 } },
    study: { name: "Study rooms", colour: 7, inputs: { peopleDensity: 0.15, peopleSensible: 70, peopleLatent: 45, peopleSchedule: "visitors", lightingPower: 8, lightingSchedule: "lights", appliancePower: 8, applianceSchedule: "devices", outdoorAirPerPerson: 0.005, outdoorAirPerArea: 0.0003, outdoorAirSchedule: "fans", infiltration: 0.25, heatingSetpoint: 21, heatingSetback: 16, coolingSetpoint: 25, coolingSetback: 30, conditioningSchedule: "open" } },
    circulation: { name: "Circulation", colour: 8, inputs: { peopleDensity: 0.03, peopleSchedule: "visitors", lightingPower: 5, lightingSchedule: "lights", appliancePower: 1, applianceSchedule: "devices", outdoorAirPerPerson: 0, outdoorAirPerArea: 0.0003, outdoorAirSchedule: "fans", infiltration: 0.5, heatingSetpoint: 19, heatingSetback: 14, coolingSetpoint: 27, coolingSetback: 33, conditioningSchedule: "open", hotWaterPerPerson: 0 } },
    service: { name: "Service", colour: 9, inputs: { peopleDensity: 0, lightingPower: 4, lightingSchedule: "lights", appliancePower: 6, applianceSchedule: "devices", outdoorAirPerPerson: 0, outdoorAirPerArea: 0.0006, outdoorAirSchedule: "fans", infiltration: 0.2, heatingSetpoint: 16, heatingSetback: 12, coolingSetpoint: null, coolingSetback: null, conditioningSchedule: "open" } },
  },
  services: {
    main: { name: "Boiler and chiller", heating: { fuel: "gas", efficiency: 0.92 }, cooling: { fuel: "electricity", efficiency: 3.2 }, fanPower: 1600, pumpShareHeating: 0.012, pumpShareCooling: 0.02, heatRecovery: { sensible: 0.65, latent: 0 }, hotWater: { fuel: "gas", efficiency: 0.8, deliveryTemperature: 55, mainsTemperature: 11 } },
    workshop: { name: "Workshop heat pump", heating: { fuel: "electricity", efficiency: 2.8 }, cooling: { fuel: "electricity", efficiency: 3 }, fanPower: 1200, pumpShareHeating: 0, pumpShareCooling: 0, heatRecovery: { sensible: 0.5, latent: 0 }, hotWater: { fuel: "electricity", efficiency: 0.95, deliveryTemperature: 55, mainsTemperature: 11 } },
  },
  defaults: { kit: "standard", services: "main" },
};
