/** Quantities a run can log for every zone, each an hourly mean unless `kind` says otherwise. */
export interface Quantity {
  readonly name: string;
  readonly label: string;
  readonly unit: "°C" | "W" | "%";
  readonly kind: "mean";
  /** Kept without being asked for. */
  readonly usual: boolean;
}

export const zoneQuantities = [
  { name: "airTemperature", label: "Air temperature", unit: "°C", kind: "mean", usual: true },
  { name: "operativeTemperature", label: "Operative temperature", unit: "°C", kind: "mean", usual: true },
  { name: "relativeHumidity", label: "Relative humidity", unit: "%", kind: "mean", usual: true },
  { name: "heating", label: "Heating", unit: "W", kind: "mean", usual: true },
  { name: "cooling", label: "Cooling", unit: "W", kind: "mean", usual: true },
  { name: "sun", label: "Sun through glass", unit: "W", kind: "mean", usual: false },
  { name: "people", label: "People", unit: "W", kind: "mean", usual: false },
  { name: "lighting", label: "Lighting", unit: "W", kind: "mean", usual: false },
  { name: "appliances", label: "Appliances", unit: "W", kind: "mean", usual: false },
  { name: "fabric", label: "Walls, roof, floor", unit: "W", kind: "mean", usual: false },
  { name: "partitions", label: "Inner walls and floors", unit: "W", kind: "mean", usual: false },
  { name: "glass", label: "Glass", unit: "W", kind: "mean", usual: false },
  { name: "infiltration", label: "Infiltration", unit: "W", kind: "mean", usual: false },
  { name: "outdoorAir", label: "Outdoor air", unit: "W", kind: "mean", usual: false },
] as const satisfies readonly Quantity[];

export type ZoneQuantity = (typeof zoneQuantities)[number]["name"];
export const zoneQuantityNames = zoneQuantities.map((q) => q.name) as readonly ZoneQuantity[];
export const usualQuantities = zoneQuantities.filter((q) => q.usual).map((q) => q.name) as readonly ZoneQuantity[];

/** Heat flows of a zone's balance, in the order of the monthly accumulators: positive into the zone. */
export const flowNames = [
  "sun",
  "people",
  "lighting",
  "appliances",
  "heating",
  "cooling",
  "fabric",
  "partitions",
  "glass",
  "infiltration",
  "outdoorAir",
] as const;
export type FlowName = (typeof flowNames)[number];
