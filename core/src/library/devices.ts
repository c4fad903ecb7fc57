import type { Device } from "../model/index.ts";

/** A generic device that ships: a row of a list without its number. */
export interface ShippedDevice extends Omit<Device, "id" | "number"> {
  readonly id: string;
  readonly group: "office" | "kitchen" | "household" | "shop" | "clinic" | "workshop" | "laundry";
}

const device = (
  id: string,
  name: string,
  group: ShippedDevice["group"],
  power: number,
  standby: number,
  running: number,
  sensible: number,
  latent: number,
): ShippedDevice => ({ id, name, group, power, standby, running, sensible, latent });

/**
 * Generic devices with their power while running and not, the share of the time in use in which they run, and the shares
 * of their power that stay in the room as sensible and as latent heat. Typical, unverified.
 */
export const shippedDevices: readonly ShippedDevice[] = [
  device("laptop", "Laptop", "office", 35, 2, 0.8, 1, 0),
  device("desktop", "Desktop computer", "office", 80, 3, 0.8, 1, 0),
  device("workstation", "Workstation", "office", 180, 5, 0.8, 1, 0),
  device("monitor", "Monitor, 24 in", "office", 25, 0.5, 0.8, 1, 0),
  device("printer", "Printer, shared", "office", 450, 15, 0.1, 1, 0),
  device("copier", "Copier, large", "office", 1100, 30, 0.1, 1, 0),
  device("projector", "Projector", "office", 250, 1, 0.5, 1, 0),
  device("screen", "Large screen", "office", 180, 1, 0.6, 1, 0),
  device("server", "Server, one unit", "office", 300, 300, 1, 1, 0),
  device("coolerWater", "Water cooler", "office", 120, 60, 0.4, 1, 0),
  device("kettle", "Kettle", "kitchen", 2200, 0, 0.05, 0.6, 0.4),
  device("espresso", "Espresso machine, two groups", "kitchen", 3000, 200, 0.35, 0.65, 0.25),
  device("filterCoffee", "Filter coffee machine", "kitchen", 1200, 60, 0.3, 0.65, 0.25),
  device("griddle", "Griddle under a hood", "kitchen", 8000, 0, 0.4, 0.3, 0.05),
  device("fryer", "Deep fryer under a hood", "kitchen", 9000, 0, 0.3, 0.15, 0.05),
  device("convectionOven", "Convection oven under a hood", "kitchen", 6000, 0, 0.4, 0.25, 0.05),
  device("rangeElectric", "Electric range, four plates, under a hood", "kitchen", 10000, 0, 0.3, 0.3, 0.1),
  device("dishwasherCommercial", "Dishwasher, undercounter", "kitchen", 4500, 100, 0.4, 0.25, 0.4),
  device("warmingCabinet", "Warming cabinet", "kitchen", 1000, 0, 0.7, 0.85, 0.15),
  device("toaster", "Toaster, four slots", "kitchen", 2000, 0, 0.15, 0.8, 0.2),
  device("microwave", "Microwave oven", "kitchen", 1400, 2, 0.1, 0.8, 0.2),
  device("fridgeUpright", "Upright refrigerator", "kitchen", 350, 0, 0.4, 1, 0),
  device("freezerUpright", "Upright freezer", "kitchen", 550, 0, 0.5, 1, 0),
  device("displayCold", "Refrigerated display, closed", "shop", 700, 0, 0.5, 1, 0),
  device("till", "Till", "shop", 60, 5, 0.9, 1, 0),
  device("fridgeHome", "Household refrigerator", "household", 100, 0, 0.3, 1, 0),
  device("hob", "Household hob", "household", 3000, 0, 0.2, 0.6, 0.3),
  device("dishwasherHome", "Household dishwasher", "household", 1800, 1, 0.3, 0.5, 0.2),
  device("television", "Television", "household", 100, 0.5, 0.8, 1, 0),
  device("washer", "Washing machine", "laundry", 2000, 1, 0.3, 0.3, 0.05),
  device("dryerVented", "Tumble dryer, vented", "laundry", 2500, 1, 0.6, 0.2, 0.05),
  device("dryerHeatPump", "Tumble dryer, heat pump", "laundry", 900, 1, 0.7, 0.8, 0.1),
  device("autoclave", "Autoclave, bench", "clinic", 2000, 50, 0.3, 0.6, 0.3),
  device("xray", "X-ray unit", "clinic", 1500, 150, 0.05, 1, 0),
  device("ultrasound", "Ultrasound unit", "clinic", 400, 40, 0.3, 1, 0),
  device("examLight", "Examination light", "clinic", 60, 0, 0.5, 1, 0),
  device("compressor", "Compressor, small", "workshop", 2200, 0, 0.3, 1, 0),
  device("welder", "Welding set under an extract", "workshop", 6000, 50, 0.15, 0.5, 0),
  device("bandsaw", "Bandsaw", "workshop", 1500, 0, 0.2, 1, 0),
];
