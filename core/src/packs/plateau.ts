import type { Limit, Pack } from "./pack.ts";

const at = (value: number, unit: string, clause: string): Limit => ({ value, unit, clause });
const zone = (wall: number, roof: number, floor: number, exposed: number, u: number, g: number): Pack["climateZones"][string] => ({
  u: {
    exteriorWall: at(wall, "W/m²K", "3.1"),
    roof: at(roof, "W/m²K", "3.2"),
    groundFloor: at(floor, "W/m²K", "3.3"),
    exposedFloor: at(exposed, "W/m²K", "3.4"),
  },
  glazingU: at(u, "W/m²K", "3.5"),
  glazingG: at(g, "1", "3.6"),
});

/** The energy code of Plateau, an invented jurisdiction: no real code stands behind its figures. */
export const plateauPack: Pack = {
  formatVersion: 1,
  id: "plateau",
  name: "Plateau Energy Code",
  edition: "first edition",
  clauses: {
    "3.1": "Outside walls transmit no more than the table allows for the climate zone.",
    "3.2": "Roofs transmit no more than the table allows for the climate zone.",
    "3.3": "Ground floors transmit no more than the table allows, without the ground.",
    "3.4": "Floors over outdoor air transmit no more than the table allows.",
    "3.5": "Glazing with its frame transmits no more than the table allows.",
    "3.6": "The solar gain of glazing is no more than the table allows.",
    "3.7": "At most forty hundredths of the outdoor walls are glazed.",
    "3.8": "The reference building has no shading devices.",
    "4.1": "Installed lighting power stays within the allowance of the use.",
    "4.2": "The reference building has the equipment of the table for its use.",
    "5.1": "Infiltration is no more than half an air change an hour. Cannot be traded.",
    "5.2": "Outdoor air supplied by fans gives back at least half of its heat. Cannot be traded.",
    "6.1": "The reference building is heated by a gas boiler.",
    "6.2": "The reference building is cooled by an electric chiller.",
    "6.3": "Fans of the reference building take this power per flow.",
    "6.4": "The reference building recovers this share of the heat of its exhaust air.",
    "6.5": "The reference building heats its water by gas.",
    "7.1": "The index is the primary energy of the design over that of the reference building, in hundredths; it passes at 100 and below.",
    "7.2": "The letter follows primary energy per conditioned floor area.",
  },
  climateZones: {
    "2": zone(0.6, 0.3, 0.8, 0.5, 2.6, 0.3),
    "3": zone(0.5, 0.25, 0.6, 0.4, 2.2, 0.35),
    "4": zone(0.4, 0.22, 0.5, 0.32, 1.8, 0.4),
    "5": zone(0.32, 0.2, 0.4, 0.26, 1.6, 0.45),
    "6": zone(0.26, 0.16, 0.32, 0.22, 1.4, 0.5),
    "7": zone(0.22, 0.14, 0.28, 0.18, 1.2, 0.55),
  },
  windowShare: at(0.4, "1", "3.7"),
  uses: [
    {
      name: "reading and study",
      words: ["reading", "study", "library", "stacks", "classroom"],
      lighting: at(8, "W/m²", "4.1"),
      appliances: at(4, "W/m²", "4.2"),
    },
    { name: "office", words: ["office", "staff"], lighting: at(7.5, "W/m²", "4.1"), appliances: at(9, "W/m²", "4.2") },
    { name: "assembly", words: ["meeting", "waiting", "hall"], lighting: at(9, "W/m²", "4.1"), appliances: at(3, "W/m²", "4.2") },
    { name: "food", words: ["café", "kitchen"], lighting: at(9, "W/m²", "4.1"), appliances: at(30, "W/m²", "4.2") },
    {
      name: "workshop and treatment",
      words: ["workshop", "examination", "ward", "surgery"],
      lighting: at(11, "W/m²", "4.1"),
      appliances: at(12, "W/m²", "4.2"),
    },
    { name: "sales", words: ["shop"], lighting: at(11, "W/m²", "4.1"), appliances: at(4, "W/m²", "4.2") },
    { name: "homes", words: ["homes"], lighting: at(4, "W/m²", "4.1"), appliances: at(4, "W/m²", "4.2") },
    { name: "other", words: [], lighting: at(5, "W/m²", "4.1"), appliances: at(3, "W/m²", "4.2") },
  ],
  mandatory: { infiltration: at(0.5, "1/h", "5.1"), heatRecovery: at(0.5, "1", "5.2") },
  services: {
    heatingFuel: "gas",
    heating: at(0.88, "1", "6.1"),
    coolingFuel: "electricity",
    cooling: at(2.9, "1", "6.2"),
    fanPower: at(1800, "W per m³/s", "6.3"),
    heatRecovery: at(0.5, "1", "6.4"),
    hotWaterFuel: "gas",
    hotWater: at(0.78, "1", "6.5"),
  },
  shading: { clause: "3.8" },
  letters: [
    { letter: "A", upTo: at(80, "kWh/m²a", "7.2") },
    { letter: "B", upTo: at(120, "kWh/m²a", "7.2") },
    { letter: "C", upTo: at(160, "kWh/m²a", "7.2") },
    { letter: "D", upTo: at(210, "kWh/m²a", "7.2") },
    { letter: "E", upTo: at(270, "kWh/m²a", "7.2") },
    { letter: "F", upTo: at(340, "kWh/m²a", "7.2") },
  ],
  index: { clause: "7.1" },
};

/** Packs that ship. */
export const packs: Readonly<Record<string, Pack>> = { plateau: plateauPack };
