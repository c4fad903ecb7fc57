import type { Limit, Pack, PackSetting } from "../model/index.ts";

/** A limit that was written from memory and is to be checked against the document it is cited from. */
export const fromMemory = (value: number, unit: string, clause: string): Limit => ({ value, unit, clause, unverified: true });

/** Envelope limits of one climate zone: U of walls, roofs, ground floors, floors over air and glazing, W/m²K, and g of glazing. */
export function envelopeZone(
  figures: readonly [wall: number, roof: number, ground: number, exposed: number, glazing: number, g: number],
  clauses: { readonly opaque: string; readonly glazing: string },
): Pack["climateZones"][string] {
  const [wall, roof, ground, exposed, glazing, g] = figures;
  const u = (v: number, clause: string): Limit => fromMemory(v, "W/m²K", clause);
  return {
    u: {
      exteriorWall: u(wall, clauses.opaque),
      roof: u(roof, clauses.opaque),
      groundFloor: u(ground, clauses.opaque),
      exposedFloor: u(exposed, clauses.opaque),
    },
    glazingU: u(glazing, clauses.glazing),
    glazingG: fromMemory(g, "1", clauses.glazing),
  };
}

/** Uses of ASHRAE 90.1 and 62.1 that the demo's and the starter sets' space types match. Lighting W/m² by use, in this order. */
export function usesOf(
  lighting: readonly [
    classroom: number,
    reading: number,
    stacks: number,
    office: number,
    assembly: number,
    food: number,
    workshop: number,
    sales: number,
    homes: number,
    other: number,
  ],
  clause: { readonly lighting: string; readonly equipment: string; readonly air: string },
): Pack["uses"] {
  const rows: readonly [id: string, name: string, words: string[], appliances: number, person: number, area: number][] = [
    ["classroom", "classroom", ["classroom", "study"], 5, 5, 0.6],
    ["reading", "library, reading", ["reading", "library"], 4, 2.5, 0.6],
    ["stacks", "library, stacks", ["stacks"], 2, 2.5, 0.6],
    ["office", "office", ["office", "staff"], 8, 2.5, 0.3],
    ["assembly", "conference and assembly", ["meeting", "waiting", "hall"], 4, 2.5, 0.3],
    ["food", "dining", ["café", "cafe", "kitchen"], 15, 3.8, 0.9],
    ["workshop", "workshop and treatment", ["workshop", "examination", "ward", "surgery"], 10, 3.8, 0.9],
    ["sales", "sales", ["shop"], 5, 3.8, 0.6],
    ["homes", "dwelling unit", ["homes"], 5, 2.5, 0.3],
    ["other", "corridor and other", [], 1, 0, 0.3],
  ];
  return rows.map(([id, name, words, appliances, person, area], i) => ({
    id,
    name,
    words,
    ...(id === "homes" ? { residential: true } : {}),
    lighting: fromMemory(lighting[i], "W/m²", clause.lighting),
    appliances: fromMemory(appliances, "W/m²", clause.equipment),
    outdoorAirPerPerson: fromMemory(person, "L/s", clause.air),
    outdoorAirPerArea: fromMemory(area, "L/s·m²", clause.air),
    outdoorAirSource: "ASHRAE 62.1, table 6-1, to be checked",
  }));
}

/** Efficiency of fan and motor that a fan power per flow is split by: pressure is power per flow times it. Typical, unverified. */
const FAN_EFFICIENCY = 0.6;
/** Settings of fans that take a power per flow, a named value of the pack. @param returned share of it that the return fan takes; absent: there is none */
export function fanSettings(power: string, clause: string, returned = 0): PackSetting[] {
  const fan = (of: "supplyFan" | "returnFan", share: number): PackSetting[] => [
    { of, field: "pressure", value: `${power} * ${FAN_EFFICIENCY}${share === 1 ? "" : ` * ${share}`}`, clause },
    { of, field: "efficiency", value: FAN_EFFICIENCY, clause },
  ];
  return returned > 0 ? [...fan("supplyFan", Number((1 - returned).toFixed(3))), ...fan("returnFan", returned)] : fan("supplyFan", 1);
}
