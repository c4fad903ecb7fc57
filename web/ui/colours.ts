import type { EndUse, FlowName } from "@arroyo/core";

/** One colour for each end use and each heat flow, everywhere. Heating is hatched besides. */
export const endUseColour: Record<EndUse, string> = {
  heating: "#B5533C",
  cooling: "#3B7EA1",
  fans: "#8C9A5B",
  pumps: "#5F6B3A",
  lighting: "#E0B04A",
  appliances: "#7B6A9C",
  "hot water": "#C98B6B",
  "exterior lighting": "#A8842F",
  "heat rejection": "#5E8F8A",
  humidification: "#A9C6CC",
};

export const flowColour: Record<FlowName, string> = {
  sun: "#E0B04A",
  glassSun: "#EFD08B",
  people: "#C9A9A0",
  lighting: "#EAD9A6",
  appliances: "#7B6A9C",
  heating: "#B5533C",
  cooling: "#3B7EA1",
  walls: "#8D8474",
  roof: "#6F6757",
  ground: "#A79C86",
  exposedFloor: "#59533F",
  doors: "#9E8F7E",
  partitions: "#B9B0A0",
  glass: "#A9C6CC",
  infiltration: "#C4CBB0",
  outdoorAir: "#9AA67E",
  openedAir: "#7FA89A",
  betweenZones: "#B7C4BE",
  storage: "#D5CFC3",
};

export const flowLabel: Record<FlowName, string> = {
  sun: "sun",
  glassSun: "sun held in glass",
  people: "people",
  lighting: "lighting",
  appliances: "appliances",
  heating: "heating",
  cooling: "cooling",
  walls: "outside walls",
  roof: "roof",
  ground: "ground",
  exposedFloor: "exposed floor",
  doors: "doors",
  partitions: "inner mass",
  glass: "glass",
  infiltration: "infiltration",
  outdoorAir: "outdoor air",
  openedAir: "windows, night air",
  betweenZones: "air between zones",
  storage: "stored in air",
};

/** Flows shown as one unless they are asked for apart. */
export const mergedFlows: readonly { readonly key: string; readonly label: string; readonly colour: string; readonly of: readonly FlowName[] }[] = [
  { key: "sun", label: "sun", colour: flowColour.sun, of: ["sun", "glassSun"] },
  { key: "people", label: "people", colour: flowColour.people, of: ["people"] },
  { key: "lighting", label: "lighting", colour: flowColour.lighting, of: ["lighting"] },
  { key: "appliances", label: "appliances", colour: flowColour.appliances, of: ["appliances"] },
  { key: "heating", label: "heating", colour: flowColour.heating, of: ["heating"] },
  { key: "fabric", label: "walls, roof, floor", colour: flowColour.walls, of: ["walls", "roof", "ground", "exposedFloor", "doors"] },
  { key: "partitions", label: "inner mass", colour: flowColour.partitions, of: ["partitions"] },
  { key: "glass", label: "glass", colour: flowColour.glass, of: ["glass"] },
  { key: "infiltration", label: "infiltration", colour: flowColour.infiltration, of: ["infiltration"] },
  { key: "air", label: "outdoor air", colour: flowColour.outdoorAir, of: ["outdoorAir", "openedAir"] },
  { key: "betweenZones", label: "air between zones", colour: flowColour.betweenZones, of: ["betweenZones"] },
  { key: "cooling", label: "cooling", colour: flowColour.cooling, of: ["cooling"] },
  { key: "storage", label: "stored in air", colour: flowColour.storage, of: ["storage"] },
];

/** Quiet, colour-blind safe tints for space types in plan. */
export const typeTint = ["#DDE6DA", "#E8DFC9", "#EBD9D0", "#D9E3E8", "#E6DCE6", "#E3E1CF", "#D5E4E0", "#EADFE0", "#E4E2DE", "#D8D9D6", "#E9E4D4", "#DCE0EA"];
