/** Quantities a run can log hour by hour, each an hourly mean. */
export interface Quantity {
  readonly name: string;
  readonly label: string;
  readonly unit: "°C" | "W" | "kg/s" | "%" | "W/m²" | "1" | "lx" | "kg/kg" | "L/s" | "m/s" | "1/h" | "ppm" | "h" | "";
  readonly kind: "mean";
  /** Kept without being asked for. */
  readonly usual: boolean;
}

/** Of every zone. */
export const zoneQuantities = [
  { name: "airTemperature", label: "Air temperature", unit: "°C", kind: "mean", usual: true },
  { name: "operativeTemperature", label: "Operative temperature", unit: "°C", kind: "mean", usual: true },
  { name: "relativeHumidity", label: "Relative humidity", unit: "%", kind: "mean", usual: true },
  { name: "heating", label: "Heating", unit: "W", kind: "mean", usual: true },
  { name: "cooling", label: "Cooling", unit: "W", kind: "mean", usual: true },
  { name: "radiantTemperature", label: "Mean radiant temperature", unit: "°C", kind: "mean", usual: false },
  { name: "humidityRatio", label: "Humidity ratio", unit: "kg/kg", kind: "mean", usual: false },
  { name: "humidification", label: "Humidification", unit: "W", kind: "mean", usual: false },
  { name: "dehumidification", label: "Dehumidification", unit: "W", kind: "mean", usual: false },
  { name: "predictedMeanVote", label: "Predicted mean vote", unit: "", kind: "mean", usual: false },
  { name: "extraAirFlow", label: "Air by windows, night ventilation and free cooling", unit: "L/s", kind: "mean", usual: false },
  { name: "lightingShare", label: "Lighting left by daylight", unit: "1", kind: "mean", usual: false },
  { name: "sun", label: "Sun through glass", unit: "W", kind: "mean", usual: false },
  { name: "glassSun", label: "Sun absorbed in glass, inward", unit: "W", kind: "mean", usual: false },
  { name: "people", label: "People", unit: "W", kind: "mean", usual: false },
  { name: "lighting", label: "Lighting", unit: "W", kind: "mean", usual: false },
  { name: "appliances", label: "Appliances", unit: "W", kind: "mean", usual: false },
  { name: "walls", label: "Outside walls", unit: "W", kind: "mean", usual: false },
  { name: "roof", label: "Roof", unit: "W", kind: "mean", usual: false },
  { name: "ground", label: "Ground floor and walls to ground", unit: "W", kind: "mean", usual: false },
  { name: "exposedFloor", label: "Exposed floor", unit: "W", kind: "mean", usual: false },
  { name: "doors", label: "Doors", unit: "W", kind: "mean", usual: false },
  { name: "glass", label: "Glass, conducted", unit: "W", kind: "mean", usual: false },
  { name: "partitions", label: "Inner walls and floors", unit: "W", kind: "mean", usual: false },
  { name: "infiltration", label: "Infiltration", unit: "W", kind: "mean", usual: false },
  { name: "outdoorAir", label: "Outdoor air", unit: "W", kind: "mean", usual: false },
  { name: "openedAir", label: "Windows, night ventilation, free cooling", unit: "W", kind: "mean", usual: false },
  { name: "betweenZones", label: "Air between zones", unit: "W", kind: "mean", usual: false },
  { name: "storage", label: "Stored in the air", unit: "W", kind: "mean", usual: false },
  { name: "airChanges", label: "Air changes of outdoor air", unit: "1/h", kind: "mean", usual: false },
  { name: "carbonDioxide", label: "Carbon dioxide, of zones in the airflow network", unit: "ppm", kind: "mean", usual: false },
  { name: "ageOfAir", label: "Mean age of the air, of zones in the airflow network", unit: "h", kind: "mean", usual: false },
] as const satisfies readonly Quantity[];

/** Of every air path of the network but its cracks; kept only when asked for. */
export const airPathQuantities = [
  { name: "airForward", label: "Air from its first to its second end", unit: "kg/s", kind: "mean", usual: false },
  { name: "airBackward", label: "Air from its second to its first end", unit: "kg/s", kind: "mean", usual: false },
  { name: "openShare", label: "Share open", unit: "1", kind: "mean", usual: false },
] as const satisfies readonly Quantity[];

/** Of every face and opening; kept only when asked for. */
export const faceQuantities = [
  { name: "incidentSun", label: "Sun on the outside", unit: "W/m²", kind: "mean", usual: false },
  { name: "litShare", label: "Share lit by beam", unit: "1", kind: "mean", usual: false },
  { name: "transmittedSun", label: "Sun let through", unit: "W", kind: "mean", usual: false },
  { name: "faceFlow", label: "Heat into the zone", unit: "W", kind: "mean", usual: false },
  { name: "insideSurface", label: "Inside surface temperature", unit: "°C", kind: "mean", usual: false },
  { name: "outsideSurface", label: "Outside surface temperature", unit: "°C", kind: "mean", usual: false },
  { name: "layerTemperature", label: "Temperatures between and within layers", unit: "°C", kind: "mean", usual: false },
  { name: "moltenShare", label: "Share molten", unit: "1", kind: "mean", usual: false },
  { name: "blindDown", label: "Blind down", unit: "1", kind: "mean", usual: false },
] as const satisfies readonly Quantity[];

/** Of every sensor point. */
export const sensorQuantities = [{ name: "daylight", label: "Daylight", unit: "lx", kind: "mean", usual: false }] as const satisfies readonly Quantity[];

/** Of every air system, part, piece of equipment, loop, pump and source; kept only when asked for. */
export const componentQuantities = [
  { name: "componentHeat", label: "Heat given, sensible", unit: "W", kind: "mean", usual: false },
  { name: "componentLatent", label: "Heat given, latent", unit: "W", kind: "mean", usual: false },
  { name: "componentPower", label: "Electricity", unit: "W", kind: "mean", usual: false },
  { name: "componentFuel", label: "Fuel", unit: "W", kind: "mean", usual: false },
  { name: "componentFlow", label: "Flow of air or water", unit: "kg/s", kind: "mean", usual: false },
  { name: "componentIn", label: "Entering temperature", unit: "°C", kind: "mean", usual: false },
  { name: "componentOut", label: "Leaving temperature", unit: "°C", kind: "mean", usual: false },
  { name: "componentInRatio", label: "Entering humidity ratio", unit: "kg/kg", kind: "mean", usual: false },
  { name: "componentOutRatio", label: "Leaving humidity ratio", unit: "kg/kg", kind: "mean", usual: false },
] as const satisfies readonly Quantity[];

/** Of hot-water systems, and of arrays and turbines; kept only when asked for. */
export const siteQuantities = [
  { name: "storeTemperature", label: "Store, of a layered one its upper half", unit: "°C", kind: "mean", usual: false },
  { name: "storeLower", label: "Lower half of the store", unit: "°C", kind: "mean", usual: false },
  { name: "madePower", label: "Electricity made", unit: "W", kind: "mean", usual: false },
] as const satisfies readonly Quantity[];

export type ZoneQuantity = (typeof zoneQuantities)[number]["name"];
export type FaceQuantity = (typeof faceQuantities)[number]["name"];
export const quantityNames = [...zoneQuantities, ...faceQuantities, ...sensorQuantities, ...componentQuantities, ...siteQuantities, ...airPathQuantities].map(
  (q) => q.name,
) as readonly string[];
export const usualQuantities = zoneQuantities.filter((q) => q.usual).map((q) => q.name) as readonly ZoneQuantity[];

/** Heat flows of a zone's balance, in the order of the monthly accumulators: positive into the zone air and surfaces; all of them add up to nothing. */
export const flowNames = [
  "sun",
  "glassSun",
  "people",
  "lighting",
  "appliances",
  "heating",
  "cooling",
  "walls",
  "roof",
  "ground",
  "exposedFloor",
  "doors",
  "glass",
  "partitions",
  "infiltration",
  "outdoorAir",
  "openedAir",
  "betweenZones",
  "storage",
] as const;
export type FlowName = (typeof flowNames)[number];
/** Flows of water into a zone's air; all of them add up to nothing. */
export const waterNames = [
  "people",
  "appliances",
  "infiltration",
  "outdoorAir",
  "supplyAir",
  "openedAir",
  "betweenZones",
  "humidification",
  "dehumidification",
  "condensation",
  "storage",
] as const;
export type WaterName = (typeof waterNames)[number];
/** Number of a flow in `waterNames`. */
export const WATER = Object.fromEntries(waterNames.map((n, i) => [n, i])) as Record<WaterName, number>;
export const WATERS = waterNames.length;
/** Number of a flow in `flowNames`. */
export const FLOW = Object.fromEntries(flowNames.map((n, i) => [n, i])) as Record<FlowName, number>;
export const FLOWS = flowNames.length;
