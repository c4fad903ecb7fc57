import type { FieldSpec } from "./fieldSpec.ts";
import { choice, KW, number, PERCENT, when } from "./fieldMakers.ts";

const MM = { unit: "mm", factor: 1000 } as const;
const CM = { unit: "cm", factor: 100, digits: 1 } as const;
const WHOLE = { unit: "1", factor: 1, digits: 0 } as const;
const PER_KELVIN = { unit: "%/K", factor: 100, digits: 3 } as const;
const RACKED = ["on racks", "free standing"] as const;
const sheet = when("model", "single diode");

/** Settings of what makes and stores electricity on site. Defaults and usual ranges: typical, unverified. */
export const electricFields = {
  pvArray: {
    model: choice(
      "Module by",
      "Module",
      ["single diode", "fixed efficiency"],
      "Single diode: the five parameters of De Soto 2006, found from the data sheet. Fixed efficiency: of the gross area, whatever sun and temperature.",
    ),
    power: { ...number("Power of a module", "Module", "W", 400, 1, 2000, "At 1000 W/m² and 25 °C."), electric: true, ...sheet },
    efficiency: {
      ...number("Efficiency", "Module", "1", 0.2, 0.01, 0.5, "Power over the sun on the gross area."),
      display: PERCENT,
      ...when("model", "fixed efficiency"),
      usual: [0.15, 0.24],
    },
    width: { ...number("Width of a module", "Module", "m", 1.134, 0.1, 5, "Outer size with its frame, upright."), display: MM },
    height: { ...number("Height of a module", "Module", "m", 1.722, 0.1, 5, "Outer size with its frame, upright."), display: MM },
    cells: { ...number("Cells", "Module", "1", 108, 1, 2000, "Cells in a module."), beside: "", display: WHOLE, ...sheet },
    inSeries: {
      ...number("Cells in series", "Module", "1", 54, 1, 2000, "Cells one after another: half of the cells where two halves are in parallel."),
      beside: "",
      display: WHOLE,
      ...sheet,
    },
    cellWidth: { ...number("Width of a cell", "Module", "m", 0.182, 0.01, 1, "For the active area."), display: MM, ...sheet },
    cellHeight: { ...number("Height of a cell", "Module", "m", 0.091, 0.01, 1, "For the active area."), display: MM, ...sheet },
    voc: { ...number("V_oc", "Module", "1", 37.1, 0.1, 1000, "Open-circuit voltage."), beside: "V", ...sheet },
    isc: { ...number("I_sc", "Module", "1", 13.8, 0.01, 100, "Short-circuit current."), beside: "A", ...sheet },
    vmp: { ...number("V_mp", "Module", "1", 31, 0.1, 1000, "Voltage of most power."), beside: "V", ...sheet },
    imp: { ...number("I_mp", "Module", "1", 12.9, 0.01, 100, "Current of most power."), beside: "A", ...sheet },
    alpha: {
      ...number("Coefficient of I_sc", "Module", "1/K", 0.0005, -0.005, 0.01, "Change with the temperature of the cells, of I_sc."),
      display: PER_KELVIN,
      ...sheet,
    },
    beta: {
      ...number("Coefficient of V_oc", "Module", "1/K", -0.0028, -0.01, 0, "Change with the temperature of the cells, of V_oc."),
      display: PER_KELVIN,
      ...sheet,
    },
    gamma: {
      ...number("Coefficient of power", "Module", "1/K", -0.0035, -0.01, 0, "As the sheet tells it; what the model finds is compared with it."),
      default: null,
      nullMeans: "not told",
      usual: [-0.0045, -0.0025],
      display: PER_KELVIN,
      ...sheet,
    },
    noct: {
      ...number("NOCT", "Module", "°C", 45, 25, 70, "Temperature of the cells at 800 W/m², 20 °C and wind of 1 m/s."),
      ...sheet,
      usual: [42, 48],
    },
    place: choice(
      "Placed",
      "Place",
      ["flat on the surface", "on racks", "as an overhang", "free standing"],
      "Flat: in the plane of a roof or a wall. On racks: in rows on a roof. As an overhang: over the windows of a wall. Free standing: in rows at a place of the plan.",
    ),
    azimuth: { ...number("Faces", "Place", "°", 180, 0, 360, "True direction it faces, clockwise from north."), ...when("place", ...RACKED) },
    tilt: { ...number("Tilt", "Place", "°", 20, 0, 90, "Of the modules from level."), ...when("place", ...RACKED, "as an overhang"), usual: [5, 40] },
    clearance: { ...number("Clear of the surface", "Place", "m", 0.1, 0.01, 20, "Between the surface and the modules, or their lower edge."), display: CM },
    level: {
      ...number("Level", "Place", "m", 2.7, -50, 200, "Of the edge at the wall, above the floor of the space."),
      default: null,
      nullMeans: "over its windows",
      usual: [2.2, 3.5],
      ...when("place", "as an overhang"),
    },
    turn: {
      ...number("Rows turned by", "Place", "°", 0, -180, 180, "Direction of the rows in the surface, counter-clockwise."),
      default: null,
      nullMeans: "along the longest edge",
      ...when("place", "flat on the surface"),
    },
    x: { ...number("Plan x", "Place", "m", 0, -10000, 10000, "Of its first corner."), ...when("place", "free standing") },
    y: { ...number("Plan y", "Place", "m", 0, -10000, 10000, "Of its first corner."), ...when("place", "free standing") },
    lying: choice("Modules", "Layout", ["upright", "on their side"], "How they lie in their rows."),
    gapAcross: { ...number("Between columns", "Layout", "m", 0.02, 0, 5, "Gap between modules of a row."), display: CM },
    gapUp: {
      ...number("Between rows", "Layout", "m", 0.02, 0, 5, "Gap between rows."),
      display: CM,
      ...when("place", "flat on the surface", "as an overhang"),
    },
    rowSpacing: {
      ...number("Free between rows", "Layout", "m", 1, 0, 50, "In plan, from the back of a row to the foot of the next."),
      ...when("place", ...RACKED),
      usual: [0.3, 3],
    },
    margin: {
      ...number("Free along edges", "Layout", "m", 0.3, 0, 20, "Kept free along the edge of the surface and round its windows."),
      ...when("place", "flat on the surface", "on racks"),
    },
    filled: choice("How many", "Layout", ["all that fit", "rows and columns", "share of the surface"], "In whole modules, always."),
    rows: { ...number("Rows", "Layout", "1", 2, 1, 500, "Rows, from below."), beside: "", display: WHOLE, ...when("filled", "rows and columns") },
    columns: { ...number("Columns", "Layout", "1", 5, 1, 1000, "Modules in a row."), beside: "", display: WHOLE, ...when("filled", "rows and columns") },
    share: {
      ...number("Share of the surface", "Layout", "1", 0.4, 0, 1, "Gross area of the modules over that of the surface, at most."),
      display: PERCENT,
      ...when("filled", "share of the surface"),
    },
    series: {
      ...number("Modules in a string", "Strings and inverter", "1", 10, 1, 100, "Modules one after another; strings side by side take the rest."),
      default: null,
      nullMeans: "not laid out",
      usual: [8, 22],
      beside: "",
      display: WHOLE,
    },
    inverterPower: {
      ...number("Inverter", "Strings and inverter", "W", 5000, 10, 1e8, "Most alternating current it gives, all inverters together."),
      default: null,
      nullMeans: "array over 1.2",
      usual: [3000, 100000],
      display: KW,
    },
    at10: { ...number("Efficiency at 10 %", "Strings and inverter", "1", 0.93, 0.1, 1, "Of its rated load (IEC 61683)."), display: { ...PERCENT, digits: 1 } },
    at30: { ...number("Efficiency at 30 %", "Strings and inverter", "1", 0.968, 0.1, 1, "Of its rated load (IEC 61683)."), display: { ...PERCENT, digits: 1 } },
    at50: { ...number("Efficiency at 50 %", "Strings and inverter", "1", 0.972, 0.1, 1, "Of its rated load (IEC 61683)."), display: { ...PERCENT, digits: 1 } },
    at100: {
      ...number("Efficiency at 100 %", "Strings and inverter", "1", 0.968, 0.1, 1, "Of its rated load (IEC 61683)."),
      display: { ...PERCENT, digits: 1 },
    },
    night: { ...number("Drawn at night", "Strings and inverter", "W", 1, 0, 1e4, "While it stands still."), electric: true },
    soiling: { ...number("Soiling", "Losses", "1", 0.02, 0, 0.9, "Share of the sun that dirt keeps off."), display: PERCENT, usual: [0.01, 0.06] },
    wiring: {
      ...number("Wiring and mismatch", "Losses", "1", 0.02, 0, 0.5, "Share of the direct current lost before the inverter."),
      display: PERCENT,
      usual: [0.01, 0.04],
    },
  },
  windTurbine: {
    count: { ...number("Turbines", "Size", "1", 1, 1, 1000, "Alike, each undisturbed by the others."), beside: "", display: WHOLE },
    hub: { ...number("Height of the hub", "Place", "m", 15, 1, 200, "Above the ground; the wind there follows from the terrain of the site.") },
    losses: { ...number("Losses", "Losses", "1", 0.1, 0, 0.9, "Wake, wiring, stand-still: share of what the curve gives."), display: PERCENT },
  },
  battery: {
    capacity: { ...number("Usable capacity", "Size", "kWh", 10, 0.1, 1e6, "Energy that can be taken out of a full one."), electric: true },
    charge: { ...number("Most charging power", "Size", "W", 5000, 1, 1e8, "Into it, at the meter."), display: KW },
    discharge: { ...number("Most discharging power", "Size", "W", 5000, 1, 1e8, "Out of it, at the meter."), display: KW },
    efficiency: {
      ...number("Efficiency, in and out", "Efficiency", "1", 0.9, 0.1, 1, "Energy taken out over energy put in."),
      display: PERCENT,
      usual: [0.85, 0.96],
    },
    standing: { ...number("Lost a day", "Efficiency", "1", 0.001, 0, 0.5, "Share of its content."), display: { unit: "%", factor: 100, digits: 1 } },
    rule: choice(
      "Rule",
      "Control",
      ["own use first", "by price"],
      "Own use first: it takes what is made beyond the use and gives it back when there is use. By price: it also fills from the grid in the cheapest hours of each day, and gives only in hours dearer than the day’s mean.",
    ),
  },
} as const satisfies Record<string, Record<string, FieldSpec>>;
