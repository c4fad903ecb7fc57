import { unitOfText, type Dimension } from "./units.ts";

/** A quantity that an expression of a pack may use. */
export interface PackName {
  readonly name: string;
  readonly unit: string;
  readonly words: string;
}
const q = (name: string, unit: string, words: string): PackName => ({ name, unit, words });

/** Of the whole building; every expression of a pack may use them. */
export const buildingNames: readonly PackName[] = [
  q("climate_zone", "1", "number of the climate zone"),
  q("building_area", "m²", "floor area of all spaces, storeys counted as often as they stand"),
  q("storeys", "1", "storeys above ground"),
  q("residential_share", "1", "share of the floor area in residential uses"),
  q("gas", "1", "1 where gas is among the fuels of the site, else 0"),
  q("district", "1", "1 where district heat is among the fuels of the site, else 0"),
  q("window_share", "1", "windows over outdoor walls"),
  q("skylight_share", "1", "skylights over roofs"),
  q("most_window_share", "1", "largest share of windows the pack allows"),
  q("most_skylight_share", "1", "largest share of skylights the pack allows"),
  q("daylight_over", "W", "lighting in a daylit area above which the pack asks for control"),
  q("u_wall", "W/m²K", "limit of outside walls in the climate zone"),
  q("u_roof", "W/m²K", "limit of roofs in the climate zone"),
  q("u_ground_floor", "W/m²K", "limit of ground floors in the climate zone"),
  q("u_exposed_floor", "W/m²K", "limit of floors over air in the climate zone"),
  q("u_glazing", "W/m²K", "limit of glazing in the climate zone"),
  q("g_glazing", "1", "limit of the solar gain of glazing in the climate zone"),
];

/** What a check may stand for, with the quantities of it. */
export const subjects = {
  "outside wall": [q("u", "W/m²K", "U"), q("area", "m²", "area")],
  roof: [q("u", "W/m²K", "U"), q("area", "m²", "area")],
  "ground floor": [q("u", "W/m²K", "U"), q("area", "m²", "area")],
  "exposed floor": [q("u", "W/m²K", "U"), q("area", "m²", "area")],
  glazing: [q("u", "W/m²K", "U"), q("g", "1", "g"), q("visible_transmittance", "1", "visible transmittance"), q("area", "m²", "area")],
  building: [q("window_share", "1", "share of wall"), q("skylight_share", "1", "share of roof")],
  space: [
    q("floor_area", "m²", "floor area"),
    q("lighting", "W/m²", "lighting power"),
    q("lighting_allowance", "W/m²", "allowance of the use"),
    q("appliances", "W/m²", "equipment"),
    q("air_changes", "1/h", "infiltration"),
    q("people", "1", "people"),
    q("outdoor_air", "L/s", "outdoor air"),
    q("outdoor_air_least", "L/s", "outdoor air of the use"),
    q("daylit_power", "W", "lighting where daylight reaches"),
    q("daylight_control", "1", "control by daylight"),
    q("residential", "1", "1 in a residential use"),
  ],
  "air system": [
    q("heat_recovery", "1", "heat recovery"),
    q("economizer", "1", "economizer"),
    q("fan_power", "W per m³/s", "fan power"),
    q("flow", "m³/s", "design air flow"),
    q("cooled", "1", "1 with a cooling coil"),
  ],
  "plain services": [
    q("heat_recovery", "1", "heat recovery"),
    q("fan_power", "W per m³/s", "fan power"),
    q("heating_efficiency", "1", "heating efficiency"),
    q("cooling_efficiency", "1", "cooling COP"),
    q("hot_water_efficiency", "1", "hot-water efficiency"),
  ],
  boiler: [q("efficiency", "1", "efficiency"), q("capacity", "W", "capacity")],
  chiller: [q("cop", "1", "COP"), q("capacity", "W", "capacity")],
  "heat pump": [q("cop", "1", "COP"), q("capacity", "W", "capacity")],
  "cooling coil": [q("cop", "1", "COP, direct expansion"), q("capacity", "W", "capacity")],
  "split unit": [q("heating_cop", "1", "COP, heating"), q("cooling_cop", "1", "COP, cooling"), q("capacity", "W", "cooling capacity")],
  "water heater": [q("efficiency", "1", "efficiency"), q("power", "W", "heating power")],
} as const satisfies Record<string, readonly PackName[]>;
export type SubjectKind = keyof typeof subjects;
export const subjectKinds = Object.keys(subjects) as SubjectKind[];

/** Of a part of the building that gets one system of the reference. */
export const systemNames: readonly PackName[] = [q("area", "m²", "floor area of the part"), q("residential", "1", "1 for the residential part")];
/** Of a component of a reference system, known once it is sized. */
export const sizeNames: readonly PackName[] = [q("capacity", "W", "sized capacity"), q("flow", "m³/s", "sized air flow")];

/** Of the result, for its target. */
export const performanceNames: readonly PackName[] = [q("unregulated_share", "1", "share of equipment in what the reference building is measured by")];

export const dimensionsOfNames = (...lists: readonly (readonly PackName[])[]): Map<string, Dimension> =>
  new Map(lists.flat().map((n) => [n.name, (unitOfText(n.unit) ?? { dimension: [0, 0, 0, 0, 0, 0, 0] as Dimension }).dimension]));
