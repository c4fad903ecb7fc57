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
};

export const flowColour: Record<FlowName, string> = {
  sun: "#E0B04A",
  people: "#C9A9A0",
  lighting: "#EAD9A6",
  appliances: "#7B6A9C",
  heating: "#B5533C",
  cooling: "#3B7EA1",
  fabric: "#8D8474",
  partitions: "#B9B0A0",
  glass: "#A9C6CC",
  infiltration: "#C4CBB0",
  outdoorAir: "#9AA67E",
};

export const flowLabel: Record<FlowName, string> = {
  sun: "sun",
  people: "people",
  lighting: "lighting",
  appliances: "appliances",
  heating: "heating",
  cooling: "cooling",
  fabric: "walls, roof, floor",
  partitions: "inner mass",
  glass: "glass",
  infiltration: "infiltration",
  outdoorAir: "outdoor air",
};

/** Quiet, colour-blind safe tints for space types in plan. */
export const typeTint = ["#DDE6DA", "#E8DFC9", "#EBD9D0", "#D9E3E8", "#E6DCE6", "#E3E1CF", "#D5E4E0", "#EADFE0", "#E4E2DE", "#D8D9D6", "#E9E4D4", "#DCE0EA"];
