import type { Schedule, SpaceType } from "../model/index.ts";

/** Uses a building or a part of it starts from. */
export const starterUses = ["office", "school", "lectureHall", "library", "shop", "restaurant", "hotel", "homes", "clinic", "workshop", "sports"] as const;
export type StarterUse = (typeof starterUses)[number];

type Hours = readonly (readonly [from: number, to: number, value: number])[];
function weekSchedule(name: string, weekday: Hours, saturday: Hours = [], sunday: Hours = [], base = 0): Schedule {
  const profile = (label: string, hours: Hours) => ({
    name: label,
    values: Array.from({ length: 24 }, (_, h) => hours.reduce((v, [from, to, value]) => (h >= from && h < to ? value : v), base)),
  });
  return {
    name,
    kind: "fraction",
    profiles: { weekday: profile("Weekday", weekday), saturday: profile("Saturday", saturday), sunday: profile("Sunday and holidays", sunday) },
    weeks: [{ id: "year", from: [1, 1], to: [12, 31], days: ["weekday", "weekday", "weekday", "weekday", "weekday", "saturday", "sunday", "sunday"] }],
    source: "typical, unverified",
  };
}

interface UseData {
  readonly label: string;
  /** Hours in use on weekdays, Saturdays and Sundays. */
  readonly hours: readonly [Hours, Hours, Hours];
  /** Row of the table of outdoor-air rates. */
  readonly rate: string;
  /** Share of the people, the lights and the devices in use, mean over the hours in use. */
  readonly shares: readonly [people: number, lights: number, devices: number];
  readonly inputs: SpaceType["inputs"];
}

const WEEKDAYS = (from: number, to: number): UseData["hours"] => [[[from, to, 1]], [], []];
const DAILY = (from: number, to: number): UseData["hours"] => [[[from, to, 1]], [[from, to, 1]], [[from, to, 1]]];

/** Typical uses, unverified; powers in W/m², flows in m³/s. Outdoor air is that of the rates table. */
const USES: Record<StarterUse, UseData> = {
  office: {
    label: "Office",
    rate: "office",
    hours: WEEKDAYS(7, 19),
    shares: [0.75, 0.85, 0.8],
    inputs: { peopleDensity: 0.08, lightingPower: 7, appliancePower: 9, outdoorAirPerPerson: 0.0025, outdoorAirPerArea: 0.0003, hotWaterPerPerson: 5 },
  },
  school: {
    label: "Classrooms",
    rate: "classroom",
    hours: WEEKDAYS(7, 17),
    shares: [0.75, 0.85, 0.8],
    inputs: {
      peopleDensity: 0.35,
      peopleSensible: 65,
      peopleLatent: 45,
      lightingPower: 8,
      appliancePower: 4,
      outdoorAirPerPerson: 0.005,
      outdoorAirPerArea: 0.0006,
      hotWaterPerPerson: 2,
    },
  },
  lectureHall: {
    label: "Lecture hall",
    rate: "lectureHall",
    hours: WEEKDAYS(8, 20),
    shares: [0.5, 0.85, 0.6],
    inputs: { peopleDensity: 1, lightingPower: 9, appliancePower: 3, outdoorAirPerPerson: 0.0038, outdoorAirPerArea: 0.0003, hotWaterPerPerson: 1 },
  },
  library: {
    label: "Library",
    rate: "library",
    hours: [[[9, 20, 1]], [[9, 17, 1]], []],
    shares: [0.75, 0.85, 0.8],
    inputs: { peopleDensity: 0.1, lightingPower: 8, appliancePower: 4, outdoorAirPerPerson: 0.0025, outdoorAirPerArea: 0.0006, hotWaterPerPerson: 2 },
  },
  shop: {
    label: "Shop",
    rate: "sales",
    hours: [[[8, 20, 1]], [[8, 20, 1]], [[11, 17, 1]]],
    shares: [0.75, 0.85, 0.8],
    inputs: { peopleDensity: 0.15, lightingPower: 11, appliancePower: 4, outdoorAirPerPerson: 0.0038, outdoorAirPerArea: 0.0006, hotWaterPerPerson: 1 },
  },
  restaurant: {
    label: "Restaurant",
    rate: "dining",
    hours: DAILY(11, 23),
    shares: [0.5, 0.9, 0.6],
    inputs: {
      peopleDensity: 0.6,
      peopleSensible: 80,
      peopleLatent: 80,
      lightingPower: 9,
      appliancePower: 20,
      applianceLatentShare: 0.25,
      outdoorAirPerPerson: 0.0038,
      outdoorAirPerArea: 0.0009,
      hotWaterPerPerson: 8,
    },
  },
  hotel: {
    label: "Hotel rooms",
    rate: "hotelRoom",
    hours: DAILY(0, 24),
    shares: [0.45, 0.3, 0.4],
    inputs: {
      peopleDensity: 0.08,
      peopleSensible: 70,
      peopleLatent: 45,
      lightingPower: 6,
      appliancePower: 5,
      outdoorAirPerPerson: 0.0025,
      outdoorAirPerArea: 0.0003,
      hotWaterPerPerson: 70,
    },
  },
  homes: {
    label: "Homes",
    rate: "dwelling",
    hours: DAILY(0, 24),
    shares: [0.6, 0.8, 0.5],
    inputs: {
      peopleDensity: 0.03,
      peopleSensible: 70,
      peopleLatent: 45,
      lightingPower: 3,
      appliancePower: 4,
      outdoorAirPerPerson: 0.0025,
      outdoorAirPerArea: 0.0003,
      hotWaterPerPerson: 40,
    },
  },
  clinic: {
    label: "Clinic",
    rate: "reception",
    hours: [[[8, 18, 1]], [[8, 13, 1]], []],
    shares: [0.65, 0.9, 0.7],
    inputs: { peopleDensity: 0.12, lightingPower: 9, appliancePower: 10, outdoorAirPerPerson: 0.005, outdoorAirPerArea: 0.0009, hotWaterPerPerson: 10 },
  },
  workshop: {
    label: "Workshop",
    rate: "workshop",
    hours: [[[7, 17, 1]], [[8, 12, 1]], []],
    shares: [0.75, 0.9, 0.5],
    inputs: {
      peopleDensity: 0.05,
      peopleSensible: 120,
      peopleLatent: 110,
      lightingPower: 10,
      appliancePower: 15,
      outdoorAirPerPerson: 0.005,
      outdoorAirPerArea: 0.0009,
      hotWaterPerPerson: 6,
    },
  },
  sports: {
    label: "Sports hall",
    rate: "gym",
    hours: [[[8, 22, 1]], [[9, 20, 1]], [[9, 18, 1]]],
    shares: [0.5, 0.9, 0.5],
    inputs: {
      peopleDensity: 0.07,
      peopleSensible: 150,
      peopleLatent: 250,
      lightingPower: 8,
      appliancePower: 1,
      outdoorAirPerPerson: 0.01,
      outdoorAirPerArea: 0.0009,
      hotWaterPerPerson: 25,
      heatingSetpoint: 17,
    },
  },
};
export const starterUseLabel = (use: StarterUse): string => USES[use].label;
/** Row of the table of outdoor-air rates a use follows. */
export const starterRate = (use: StarterUse): string => USES[use].rate;

const scaled = (hours: Hours, value: number): Hours => hours.map(([from, to]) => [from, to, Number(value.toFixed(3))] as const);

/** The space type of a use and its schedules: typical, unverified. @param ids of the schedules */
export function typeOfUse(
  use: StarterUse,
  ids: { readonly open: string; readonly people: string; readonly lights: string; readonly devices: string },
): { readonly type: SpaceType; readonly schedules: Record<string, Schedule> } {
  const u = USES[use];
  const [weekday, saturday, sunday] = u.hours;
  const [people, lights, devices] = u.shares;
  const all = use === "homes" || use === "hotel";
  const evening: Hours = [[17, 23, lights]];
  return {
    schedules: {
      [ids.open]: weekSchedule("Hours in use", weekday, saturday, sunday),
      [ids.people]: weekSchedule(
        "People",
        scaled(weekday, people),
        scaled(saturday, all ? people : 0.8 * people),
        scaled(sunday, all ? Math.min(1, people + 0.1) : 0.66 * people),
      ),
      [ids.lights]: all
        ? weekSchedule("Lights", evening, evening, evening, 0.05)
        : weekSchedule("Lights", scaled(weekday, lights), scaled(saturday, lights), scaled(sunday, lights), 0.05),
      [ids.devices]: weekSchedule("Devices", scaled(weekday, devices), scaled(saturday, 0.75 * devices), scaled(sunday, 0.62 * devices), 0.15),
    },
    type: {
      name: u.label,
      colour: 0,
      rate: u.rate,
      source: "typical, unverified",
      inputs: {
        heatingSetpoint: 21,
        heatingSetback: 16,
        coolingSetpoint: 25,
        coolingSetback: 30,
        ...u.inputs,
        peopleSchedule: ids.people,
        lightingSchedule: ids.lights,
        applianceSchedule: ids.devices,
        outdoorAirSchedule: ids.open,
        conditioningSchedule: ids.open,
      },
    },
  };
}

/** Space types and schedules that ship: one type for each use, with its four schedules, named by it. */
export function shippedUses(): { readonly spaceTypes: Record<string, SpaceType>; readonly schedules: Record<string, Schedule> } {
  const spaceTypes: Record<string, SpaceType> = {};
  const schedules: Record<string, Schedule> = {};
  for (const use of starterUses) {
    const id = (what: string): string => `${use}_${what}`;
    const made = typeOfUse(use, { open: id("open"), people: id("people"), lights: id("lights"), devices: id("devices") });
    spaceTypes[`use_${use}`] = made.type;
    for (const [k, s] of Object.entries(made.schedules)) schedules[k] = { ...s, name: `${USES[use].label}, ${s.name.toLowerCase()}` };
  }
  return { spaceTypes, schedules };
}
