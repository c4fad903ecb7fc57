/**
 * Units: one table for fields, sheets, axes, files and typed text. Values are stored in SI; a unit is a factor to SI,
 * a dimension and, for temperatures, an offset. Factors are exact by definition (NIST SP 811:2008, appendix B):
 * inch 0.0254 m, pound 0.45359237 kg, International Table Btu 1055.05585262 J, °F = 5/9 K.
 */

/** Exponents of metre, kilogram, second, kelvin, lumen, person and currency. */
export type Dimension = readonly [m: number, kg: number, s: number, K: number, lm: number, person: number, money: number];
interface UnitEntry {
  readonly factor: number;
  readonly dimension: Dimension;
  /** Zero of the scale in SI: a temperature that stands alone is a point on it, within a product it is a difference. */
  readonly offset?: number;
}

const dim = (m = 0, kg = 0, s = 0, K = 0, lm = 0, person = 0, money = 0): Dimension => [m, kg, s, K, lm, person, money];
const NONE = dim();
const LENGTH = dim(1);
const VOLUME = dim(3);
const MASS = dim(0, 1);
const TIME = dim(0, 0, 1);
const TEMPERATURE = dim(0, 0, 0, 1);
const ENERGY = dim(2, 1, -2);
const POWER = dim(2, 1, -3);
const PRESSURE = dim(-1, 1, -2);
const FLOW = dim(3, 0, -1);

const INCH = 0.0254;
const FOOT = 0.3048;
const POUND = 0.45359237;
const BTU = 1055.05585262;
const FAHRENHEIT = 5 / 9;
const GALLON = 231 * INCH * INCH * INCH;
const HOUR = 3600;
const GRAVITY = 9.80665;

const entries: readonly (readonly [names: string, factor: number, dimension: Dimension, offset?: number])[] = [
  ["m metre meter metres meters", 1, LENGTH],
  ["mm", 0.001, LENGTH],
  ["cm", 0.01, LENGTH],
  ["km", 1000, LENGTH],
  ['in inch inches "', INCH, LENGTH],
  ["ft foot feet '", FOOT, LENGTH],
  ["yd", 3 * FOOT, LENGTH],
  ["mi", 5280 * FOOT, LENGTH],
  ["L l litre liter litres liters", 0.001, VOLUME],
  ["gal gallon gallons", GALLON, VOLUME],
  ["kg", 1, MASS],
  ["g", 0.001, MASS],
  ["t tonne", 1000, MASS],
  ["lb lbs lbm", POUND, MASS],
  ["oz", POUND / 16, MASS],
  ["gr grain grains", POUND / 7000, MASS],
  ["s sec", 1, TIME],
  ["min", 60, TIME],
  ["h hr hour hours", HOUR, TIME],
  ["d day days", 24 * HOUR, TIME],
  ["a yr year", 8760 * HOUR, TIME],
  ["K", 1, TEMPERATURE],
  ["°C degC C", 1, TEMPERATURE, 273.15],
  ["°F degF F", FAHRENHEIT, TEMPERATURE, 459.67 * FAHRENHEIT],
  ["J", 1, ENERGY],
  ["kJ", 1e3, ENERGY],
  ["MJ", 1e6, ENERGY],
  ["GJ", 1e9, ENERGY],
  ["Wh", HOUR, ENERGY],
  ["kWh", 1e3 * HOUR, ENERGY],
  ["MWh", 1e6 * HOUR, ENERGY],
  ["Btu BTU", BTU, ENERGY],
  ["kBtu kBTU", 1e3 * BTU, ENERGY],
  ["MMBtu MMBTU", 1e6 * BTU, ENERGY],
  ["therm therms", 1e5 * BTU, ENERGY],
  ["cal", 4.184, ENERGY],
  ["kcal", 4184, ENERGY],
  ["W", 1, POWER],
  ["kW", 1e3, POWER],
  ["MW", 1e6, POWER],
  ["Btuh BTUH", BTU / HOUR, POWER],
  ["kBtuh MBH", (1e3 * BTU) / HOUR, POWER],
  ["ton tons", (12e3 * BTU) / HOUR, POWER],
  ["hp", 550 * FOOT * POUND * GRAVITY, POWER],
  ["Pa", 1, PRESSURE],
  ["hPa mbar", 100, PRESSURE],
  ["kPa", 1000, PRESSURE],
  ["bar", 1e5, PRESSURE],
  ["psi", (POUND * GRAVITY) / (INCH * INCH), PRESSURE],
  ["inH2O inH₂O inwg", 249.08891, PRESSURE],
  ["inHg", 3386.389, PRESSURE],
  ["cfm CFM", (FOOT * FOOT * FOOT) / 60, FLOW],
  ["gpm GPM", GALLON / 60, FLOW],
  ["mph", (5280 * FOOT) / HOUR, dim(1, 0, -1)],
  ["kn knot knots", 1852 / HOUR, dim(1, 0, -1)],
  ["fpm", FOOT / 60, dim(1, 0, -1)],
  ["N", 1, dim(1, 1, -2)],
  ["lm", 1, dim(0, 0, 0, 0, 1)],
  ["lx lux", 1, dim(-2, 0, 0, 0, 1)],
  ["fc", 1 / (FOOT * FOOT), dim(-2, 0, 0, 0, 1)],
  ["person people persons", 1, dim(0, 0, 0, 0, 0, 1)],
  ["1", 1, NONE],
  ["% percent", 0.01, NONE],
  ["tenth tenths", 0.1, NONE],
  ["okta oktas", 0.125, NONE],
  ["rad", 1, NONE],
  ["° deg", 1, NONE],
  ["$ €", 1, dim(0, 0, 0, 0, 0, 0, 1)],
  ["clo", 0.155, dim(0, -1, 3, 1)],
  ["met", 58.2, dim(0, 1, -3)],
];

const table = new Map<string, UnitEntry>();
for (const [names, factor, dimension, offset] of entries)
  for (const name of names.split(" ")) table.set(name, { factor, dimension, ...(offset === undefined ? {} : { offset }) });
/** Longest first, so that "kWh" is not read as k, W and h. */
const byLength = [...table.keys()].sort((a, b) => b.length - a.length || (a < b ? -1 : 1));

/** A unit read from its name: value in SI = value × factor + offset. */
export interface Unit {
  readonly factor: number;
  readonly offset: number;
  readonly dimension: Dimension;
}

const SUPERSCRIPT: Record<string, string> = { "²": "2", "³": "3", "⁴": "4", "¹": "1" };
const known = new Map<string, Unit | null>();

/**
 * Reads a unit such as "W/m²K", "Btu/h·ft²·°F", "W per m³/s" or "kg/(s·m²)". What follows the first slash is its
 * denominator, as on data sheets; "per" divides by all that follows. Null for what is no unit.
 */
export function unitOfText(text: string): Unit | null {
  const before = known.get(text);
  if (before !== undefined) return before;
  const unit = readUnit(text.trim().replace(/\s+/g, " "));
  if (known.size < 5000) known.set(text, unit);
  return unit;
}

function readUnit(text: string): Unit | null {
  if (text === "") return { factor: 1, offset: 0, dimension: NONE };
  const per = text.split(" per ");
  if (per.length === 2) {
    const [above, below] = per.map(readUnit);
    return above && below
      ? { factor: above.factor / below.factor, offset: 0, dimension: above.dimension.map((d, i) => d - below.dimension[i]) as unknown as Dimension }
      : null;
  }
  if (per.length > 2) return null;
  const alone = table.get(text);
  if (alone) return { factor: alone.factor, offset: alone.offset ?? 0, dimension: alone.dimension };
  let factor = 1;
  const dimension = [0, 0, 0, 0, 0, 0, 0];
  let side = 1;
  let rest = text;
  let any = false;
  while (rest !== "") {
    const c = rest[0];
    if ("·*× ()".includes(c) || c === "-") {
      rest = rest.slice(1);
      continue;
    }
    if (c === "/") {
      side = -1;
      rest = rest.slice(1);
      continue;
    }
    const name = byLength.find((n) => rest.startsWith(n));
    if (name === undefined) return null;
    rest = rest.slice(name.length);
    const power = /^(?:\^?(-?[1-4])|([¹²³⁴]))/.exec(rest);
    const times = power ? Number(power[1] ?? SUPERSCRIPT[power[2]]) : 1;
    if (power) rest = rest.slice(power[0].length);
    const unit = table.get(name) as UnitEntry;
    for (let i = 0; i < Math.abs(times); i++) factor = side * times > 0 ? factor * unit.factor : factor / unit.factor;
    unit.dimension.forEach((d, i) => (dimension[i] += side * times * d));
    any = true;
  }
  return any ? { factor, offset: 0, dimension: dimension as unknown as Dimension } : null;
}

/** Whether two dimensions are one. */
export const sameDimension = (a: Dimension, b: Dimension): boolean => a.every((d, i) => d === b[i]);

/** Unit by its name. @throws RangeError for a name that is none: a fault of the program, not of a user */
function unit(name: string): Unit {
  const u = unitOfText(name);
  if (!u) throw new RangeError(`"${name}" is no unit`);
  return u;
}

/** A value in one unit as a value in another of its dimension. @throws RangeError where the dimensions differ */
export function convert(value: number, from: string, to: string): number {
  if (from === to) return value;
  const a = unit(from);
  const b = unit(to);
  if (!sameDimension(a.dimension, b.dimension)) throw new RangeError(`"${from}" and "${to}" are of different dimensions`);
  // differences of temperature and temperatures meet in K: a unit without offset turns the other into a difference
  const offsets = a.offset !== 0 && b.offset !== 0;
  return offsets ? (value * a.factor + (a.offset - b.offset)) / b.factor : (value * a.factor) / b.factor;
}

/** What a mass flow is divided by to give a volume flow. */
export interface FlowDensity {
  /** kg/m³. */
  readonly value: number;
  readonly of: string;
}
/** Air at 20 °C and 101.325 kPa, dry: 1.204 kg/m³ (ASHRAE Fundamentals 2021, chapter 1). */
export const STANDARD_AIR: FlowDensity = { value: 1.204, of: "air at 20 °C and 101.3 kPa" };
/** Water at 15 °C: 999.1 kg/m³ (ASHRAE Fundamentals 2021, chapter 33). */
export const COLD_WATER: FlowDensity = { value: 999.1, of: "water at 15 °C" };

export type QuantityRead =
  | { readonly ok: true; readonly value: number; /** What was assumed on the way, to be told. */ readonly note?: string }
  | { readonly ok: false; readonly message: string };

const NUMBER = String.raw`[-+]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][-+]?\d+)?`;
const AMOUNT = new RegExp(`^(${NUMBER})(?: (\\d+)/(\\d+))?(?:/(\\d+)(?![\\d.]))?`);
const FEET_INCHES = /^(-?)(\d+(?:\.\d+)?) ?(?:'|ft|feet|foot)[ -]?(?:(\d+(?:\.\d+)?))?(?: ?(\d+)\/(\d+))? ?(?:"|''|in|inches|inch)$/;
const R_VALUE = new RegExp(`^R ?-? ?(${NUMBER})$`, "i");

/** Spaces of print, comma or point and true minus as plain ASCII. */
function plainNumberText(text: string): string {
  let t = text
    .trim()
    .replace(/[\u202f\u00a0\u2009]/g, " ")
    .replace(/−/g, "-")
    .replace(/⁄/g, "/")
    .replace(/[’′]/g, "'")
    .replace(/[”″]/g, '"')
    .replace(/\s+/g, " ");
  // "1 234,5", "1,234.5"
  while (/^[-+]?\d{1,3}( \d{3})+(?!\d)/.test(t)) t = t.replace(/^([-+]?\d{1,3}) (\d{3})(?!\d)/, "$1$2");
  t = /^[-+]?\d{1,3}(,\d{3})+(\.\d+)/.test(t) ? t.replace(/,(?=\d{3})/g, "") : t.replace(/^([-+]?\d*),(\d)/, "$1.$2");
  return t;
}

/**
 * Reads a typed quantity in any unit of a field's dimension: "4 in", "R-19", "0.35 Btu/h·ft²·°F", "12 ft 6 in", "3 1/2 in",
 * "350 cfm", "0.4 kg/s". A number alone is in the unit the field shows.
 * @param stored unit the answer is in
 * @param shown unit of a number alone; default: the stored one
 * @param density turns a mass flow into the volume flow of the field; what was assumed is told in the answer's note
 */
export function readQuantity(text: string, stored: string, shown: string = stored, density?: FlowDensity): QuantityRead {
  const t = plainNumberText(text);
  if (t === "") return { ok: false, message: "Nothing was typed." };
  const target = unit(stored);
  const r = R_VALUE.exec(t);
  if (r) return take(Number(r[1]), "ft²·°F·h/Btu", t, stored, density);
  const feet = FEET_INCHES.exec(t);
  if (feet && sameDimension(target.dimension, LENGTH)) {
    const inches = Number(feet[2]) * 12 + Number(feet[3] ?? 0) + (feet[4] ? Number(feet[4]) / Number(feet[5]) : 0);
    return take((feet[1] === "-" ? -1 : 1) * inches, "in", t, stored, density);
  }
  const amount = AMOUNT.exec(t);
  if (!amount) return { ok: false, message: `“${text.trim()}” is not a number.` };
  let value = Number(amount[1]);
  if (amount[2]) value += ((value < 0 ? -1 : 1) * Number(amount[2])) / Number(amount[3]);
  if (amount[4]) value /= Number(amount[4]);
  if (!Number.isFinite(value)) return { ok: false, message: `“${text.trim()}” is not a number.` };
  const name = t.slice(amount[0].length).trim();
  return take(value, name === "" ? shown : name, t, stored, density);
}

function take(value: number, name: string, text: string, stored: string, density: FlowDensity | undefined): QuantityRead {
  const target = unit(stored);
  const found = unitOfText(name);
  if (!found) return { ok: false, message: `“${name}” is no unit Arroyo knows.` };
  if (sameDimension(found.dimension, target.dimension)) {
    const si = convert(value, name === "" ? stored : name, stored);
    return { ok: true, value: si };
  }
  // a mass flow where a volume flow is wanted
  const mass = found.dimension.map((d, i) => d - target.dimension[i]);
  if (density && mass[1] === 1 && mass[0] === -3 && mass.every((d, i) => i < 2 || d === 0)) {
    const flow = (value * found.factor) / density.value / target.factor;
    return { ok: true, value: flow, note: `taken at ${density.value} kg/m³, ${density.of}` };
  }
  return {
    ok: false,
    message: `“${text}” is ${dimensionName(found.dimension)}; ${dimensionName(target.dimension)} is needed here, such as ${stored === "1" ? "0.3 or 30 %" : stored}.`,
  };
}

const NAMES: readonly (readonly [string, string])[] = [
  ["1", "a number without unit"],
  ["m", "a length"],
  ["m²", "an area"],
  ["m³", "a volume"],
  ["kg", "a mass"],
  ["s", "a time"],
  ["K", "a temperature"],
  ["J", "an energy"],
  ["W", "a power"],
  ["Pa", "a pressure"],
  ["m³/s", "a volume flow"],
  ["kg/s", "a mass flow"],
  ["m/s", "a velocity"],
  ["W/m²", "a power per area"],
  ["W/m²K", "a thermal transmittance"],
  ["m²K/W", "a thermal resistance"],
  ["W/m·K", "a thermal conductivity"],
  ["kg/m³", "a density"],
  ["J/kg·K", "a specific heat"],
  ["J/m²K", "a heat capacity per area"],
  ["kg/m²", "a mass per area"],
  ["J/m²", "an energy per area"],
  ["J/kg", "an energy per mass"],
  ["m³/s·m²", "a flow per area"],
  ["m³/s/person", "a flow per person"],
  ["lx", "an illuminance"],
  ["1/h", "a rate per time"],
  ["W/person", "a power per person"],
  ["person/m²", "a density of people"],
];

/** What a dimension is called, for sentences. */
export function dimensionName(d: Dimension): string {
  return NAMES.find(([u]) => sameDimension(unit(u).dimension, d))?.[1] ?? "another quantity";
}

export const unitSystems = ["SI", "IP"] as const;
export type UnitSystem = (typeof unitSystems)[number];

/** Unit shown in IP for each shown in SI. What stands in neither list is the same in both. */
const IP: Readonly<Record<string, string>> = {
  m: "ft",
  mm: "in",
  "m²": "ft²",
  "m³": "ft³",
  "cm²/m²": "in²/ft²",
  "m²/m": "ft²/ft",
  km: "mi",
  "kg/m³": "lb/ft³",
  "kg/m²": "lb/ft²",
  kg: "lb",
  "W/m²K": "Btu/h·ft²·°F",
  "m²K/W": "ft²·°F·h/Btu",
  "W/m·K": "Btu·in/h·ft²·°F",
  "W/K·m": "Btu/h·°F·ft",
  "W/K": "Btu/h·°F",
  "J/kg·K": "Btu/lb·°F",
  "kJ/kg·K": "Btu/lb·°F",
  "J/m²K": "Btu/ft²·°F",
  "kJ/m²K": "Btu/ft²·°F",
  "kJ/m³K": "Btu/ft³·°F",
  "J/m³K": "Btu/ft³·°F",
  "MJ/m³K": "Btu/ft³·°F",
  "cm²/m": "in²/ft",
  "kJ/kg": "Btu/lb",
  "J/kg": "Btu/lb",
  "°C": "°F",
  K: "°F",
  "K·h": "°F·h",
  W: "Btu/h",
  kW: "kBtu/h",
  "W/m²": "Btu/h·ft²",
  kWh: "kBtu",
  MWh: "MMBtu",
  "kWh/m²a": "kBtu/ft²·yr",
  "kWh/m²": "kBtu/ft²",
  "kWh/a": "kBtu/yr",
  "MWh/a": "MMBtu/yr",
  "1/m²": "1/ft²",
  "1/m": "1/ft",
  "L/d": "gal/d",
  "L/h": "gal/h",
  "L/min": "gpm",
  "K·d": "°F·d",
  "m³/m²": "ft³/ft²",
  "kWh/m²d": "kBtu/ft²·d",
  "m³/s": "cfm",
  "L/s": "cfm",
  "L/s·m²": "cfm/ft²",
  "m³/s·m²": "cfm/ft²",
  "L/s/person": "cfm/person",
  "L/s per person": "cfm/person",
  "m³/s per person": "cfm/person",
  "m³/h": "cfm",
  "W per m³/s": "W/cfm",
  "W per L/s": "W/cfm",
  "m/s": "mph",
  "kg/s": "lb/h",
  "kg/s·m²": "lb/h·ft²",
  "kg/h·m²": "lb/h·ft²",
  kPa: "psi",
  min: "min",
  Pa: "inH₂O",
  L: "gal",
  "L/day": "gal/day",
  "L/person·day": "gal/person·day",
  "g/kg": "gr/lb",
  "g/m²": "oz/ft²",
  lx: "fc",
  "people/m²": "people/ft²",
  "person/m²": "people/ft²",
  "m²/person": "ft²/person",
  "W/person": "Btu/h/person",
};
/** Electric power and what is bought by the kWh keep their units in IP as well. */
const IP_ELECTRIC: Readonly<Record<string, string>> = {
  ...IP,
  W: "W",
  kW: "kW",
  kWh: "kWh",
  MWh: "MWh",
  "kWh/a": "kWh/yr",
  "MWh/a": "MWh/yr",
  "W/m²": "W/ft²",
  "W/person": "W/person",
  "kWh/m²a": "kWh/ft²·yr",
};

/** The unit a system shows for a unit of SI. @param electric lighting, appliances and prices: W and kWh in IP too */
export function shownUnit(si: string, system: UnitSystem, electric = false): string {
  if (system === "SI") return si;
  return (electric ? IP_ELECTRIC : IP)[si] ?? si;
}
/** All units of SI that turn in IP, for tests. */
export const turningUnits: readonly string[] = Object.keys(IP);
/** The names of all units, for tests. */
export const unitNames: readonly string[] = [...table.keys()];
/** Dimension of a unit by its name; null for what is none. */
export const dimensionOf = (name: string): Dimension | null => unitOfText(name)?.dimension ?? null;

/** Stands between a figure and its unit in a sentence: it never breaks there, and tells what can be turned to other units. */
const JOIN = "\u00a0";
/** The same where the unit is of electric power or energy, which stays in W and kWh. */
const ELECTRIC_JOIN = "\u202f";

/**
 * A figure with its unit for a sentence. @see turnQuantities shows the sentence in another system
 * @param digits decimals; without them five significant figures at most
 */
export function quantity(value: number, unit: string, digits?: number, electric = false): string {
  const join = electric ? ELECTRIC_JOIN : JOIN;
  const figure = digits === undefined ? String(Number(value.toPrecision(5))) : value.toFixed(digits);
  return unit === "" || unit === "1" ? figure : `${figure}${unit === "°" ? "" : join}${unit.replaceAll(" ", join)}`;
}

const QUANTITY = new RegExp(`(-?\\d+(?:\\.(\\d+))?)([${JOIN}${ELECTRIC_JOIN}])((?:[^\\s,.;:()"]|${JOIN}|${ELECTRIC_JOIN})+)`, "g");

/** A sentence with the figures that {@link quantity} wrote, in the units of a system; each with about the digits it had. */
export function turnQuantities(text: string, system: UnitSystem): string {
  if (system === "SI") return text;
  return text.replace(QUANTITY, (whole: string, figure: string, decimals: string | undefined, join: string, name: string) => {
    const si = name.replaceAll(join, " ");
    const electric = join === ELECTRIC_JOIN;
    const to = shownUnit(si, system, electric);
    if (to === si) return whole;
    const step = Math.abs(convert(2, si, to) - convert(1, si, to));
    let digits = decimals?.length ?? 0;
    for (let s = step; s < 0.3; s *= 10) digits++;
    for (let s = step; s > 3; s /= 10) digits--;
    digits = Math.max(0, Math.min(6, digits));
    const turned = convert(Number(figure), si, to);
    return decimals === undefined ? quantity(Number(turned.toFixed(digits)), to, undefined, electric) : quantity(turned, to, digits, electric);
  });
}
