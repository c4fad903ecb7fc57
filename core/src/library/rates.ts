/** One use of a table of outdoor-air rates. */
export interface RateRow {
  readonly id: string;
  readonly name: string;
  /** Outdoor air per person, m³/s, and per floor area, m³/s·m². */
  readonly perPerson: number;
  readonly perArea: number;
  /** Air changes per hour where the table asks for them; absent: none. */
  readonly changes?: number;
  /** People per floor area where nothing else is known, person/m². */
  readonly density: number;
}
/** A table of outdoor-air rates by use. */
export interface RatesTable {
  readonly id: string;
  readonly name: string;
  /** Where a row comes from, as an origin tells it. */
  readonly clause: string;
  readonly rows: readonly RateRow[];
}

/** @param people L/s per person @param area L/s per m² @param density people per 100 m² */
const row = (id: string, name: string, people: number, area: number, density: number): RateRow => ({
  id,
  name,
  perPerson: people / 1000,
  perArea: area / 1000,
  density: density / 100,
});

/** Minimum rates in the breathing zone after ASHRAE 62.1, table 6-1: typical, unverified against the edition in force. */
export const breathingZoneRates: RatesTable = {
  id: "breathing-zone",
  name: "Breathing zone, after ASHRAE 62.1",
  clause: "ASHRAE 62.1, table 6-1",
  rows: [
    row("office", "Office space", 2.5, 0.3, 5),
    row("reception", "Reception area", 2.5, 0.3, 30),
    row("meeting", "Conference or meeting", 2.5, 0.3, 50),
    row("entry", "Main entry lobby", 2.5, 0.3, 10),
    row("breakRoom", "Break room", 2.5, 0.6, 25),
    row("classroomYoung", "Classroom, ages 5 to 8", 5, 0.6, 25),
    row("classroom", "Classroom, ages 9 and above", 5, 0.6, 35),
    row("lectureRoom", "Lecture classroom", 3.8, 0.3, 65),
    row("lectureHall", "Lecture hall, fixed seats", 3.8, 0.3, 150),
    row("computerRoom", "Computer classroom", 5, 0.6, 25),
    row("laboratory", "Science laboratory", 5, 0.9, 25),
    row("workshop", "Wood or metal shop", 5, 0.9, 20),
    row("assembly", "Multi-use assembly", 3.8, 0.3, 100),
    row("library", "Library", 2.5, 0.6, 10),
    row("museum", "Museum or gallery", 3.8, 0.3, 40),
    row("dining", "Restaurant dining room", 3.8, 0.9, 70),
    row("cafeteria", "Cafeteria or fast-food dining", 3.8, 0.9, 100),
    row("kitchen", "Kitchen, cooking", 3.8, 0.6, 20),
    row("sales", "Sales", 3.8, 0.6, 15),
    row("supermarket", "Supermarket", 3.8, 0.3, 8),
    row("hotelRoom", "Hotel bedroom", 2.5, 0.3, 10),
    row("hotelLobby", "Hotel lobby", 3.8, 0.3, 30),
    row("dwelling", "Dwelling unit", 2.5, 0.3, 4),
    row("gym", "Sports hall, play area", 10, 0.9, 7),
    row("fitness", "Weight and exercise room", 10, 0.3, 10),
    row("spectators", "Spectator area", 3.8, 0.3, 150),
    row("laundry", "Laundry room", 2.5, 0.6, 10),
    row("animals", "Pet shop, animal area", 3.8, 0.9, 10),
    row("corridor", "Corridor", 0, 0.3, 0),
    row("storage", "Occupiable storage", 2.5, 0.3, 2),
  ],
};

export const ratesTables: readonly RatesTable[] = [breathingZoneRates];
/** A row by its id, in whichever table it stands. */
export function rateRow(id: string): { readonly table: RatesTable; readonly row: RateRow } | null {
  for (const table of ratesTables) {
    const found = table.rows.find((r) => r.id === id);
    if (found) return { table, row: found };
  }
  return null;
}
