import { electricFields } from "./electricFields.ts";
import type { FieldSpec } from "./fieldSpec.ts";
import { choice, factor, KW, LS, loopOf, number, PERCENT, sized, when } from "./fieldMakers.ts";
import { waterFields } from "./waterFields.ts";

/** Kinds of component, by where they stand. */
export const airPartKinds = ["recovery", "mixing", "heatingCoil", "coolingCoil", "humidifier", "supplyFan", "returnFan"] as const;
export const equipmentKinds = ["terminal", "baseboard", "fanCoil", "unitHeater", "splitUnit", "slabCircuit"] as const;
export const loopPartKinds = ["pump", "boiler", "chiller", "heatPump", "district", "naturalSource", "tower"] as const;
/** Parts of a loop that give it heat or cold. */
export const isSource = (kind: string): boolean => kind !== "pump" && kind !== "tower";
export const loopKinds = ["hot water", "chilled water"] as const;
export type AirPartKind = (typeof airPartKinds)[number];
export type EquipmentKind = (typeof equipmentKinds)[number];
export type LoopPartKind = (typeof loopPartKinds)[number];
export type LoopKind = (typeof loopKinds)[number];
/** Parts of a hot-water system. */
export const waterPartKinds = ["waterHeater", "solarCollector"] as const;
export type WaterPartKind = (typeof waterPartKinds)[number];
/** What makes or stores electricity on site. */
export const onSiteKinds = ["pvArray", "windTurbine", "battery"] as const;
export type OnSiteKind = (typeof onSiteKinds)[number];
export type ComponentKind = "airSystem" | "loop" | AirPartKind | EquipmentKind | LoopPartKind | "waterSystem" | WaterPartKind | OnSiteKind;

const fan = {
  flow: { ...sized("Design air flow", "Size", "m³/s", 1000, "Air the fan moves at its design point, of 20 °C at the site."), display: LS },
  factor: factor("The sized flow", 1),
  pressure: {
    ...number("Pressure rise", "Fan", "Pa", 800, 0, 5000, "Total pressure at the design flow: filters, coils, ducts and terminals."),
    usual: [150, 1500],
  },
  efficiency: {
    ...number("Efficiency", "Fan", "1", 0.6, 0.05, 0.95, "Air power over electric power at the design point: fan, drive and motor together."),
    display: PERCENT,
    usual: [0.4, 0.7],
  },
  heatIntoAir: {
    ...number(
      "Motor heat into the air",
      "Fan",
      "1",
      1,
      0,
      1,
      "Share of the electric power that warms the air: all of it where the motor stands in the stream.",
    ),
    display: PERCENT,
  },
  partLoad: choice(
    "At part flow",
    "Fan",
    ["variable-speed drive", "inlet vanes", "pressure held"],
    "How power follows flow in a variable system. Variable-speed drive: ASHRAE 90.1-2016, table G3.1.3.15; inlet vanes: typical, unverified; pressure held: in proportion to flow.",
  ),
} as const satisfies Record<string, FieldSpec>;

const COIL_HEAT = ["hot water", "gas", "electricity"] as const;
const efficiencyOfGas = {
  ...number("Efficiency, gas", "Efficiency", "1", 0.82, 0.3, 1.1, "Heat into the air over the gas used."),
  display: PERCENT,
  usual: [0.75, 0.95] as const,
};
const outdoorLeast = {
  ...number("Works down to", "Control", "°C", -15, -40, 20, "Below this outdoor temperature the heat pump stands still."),
  usual: [-25, -5] as const,
};

/**
 * The registry of settings of components: systems, their parts, terminals and room equipment, loops and sources. A field
 * listed here exists at once in the document schema, in the inspector and in what is told of its origin. A number
 * whose default is "sized" is left to sizing while it is absent. Defaults and usual ranges: typical, unverified.
 */
export const serviceFields = {
  airSystem: {
    flow: choice(
      "Air flow",
      "Air",
      ["variable", "constant"],
      "Variable: each room's terminal throttles with its cooling. Constant: all rooms always get their design flow.",
    ),
    supplyRule: choice(
      "Supply temperature by",
      "Supply air",
      ["set temperature", "warmest room", "room thermostat"],
      "Set temperature: constant, by a schedule or by outdoor temperature. Warmest room: as warm as the room that needs most cooling allows. Room thermostat: coils follow the need of one room, the largest that is served.",
    ),
    supplyTemperature: {
      ...number(
        "Supply temperature",
        "Supply air",
        "°C",
        14,
        5,
        60,
        "Temperature of the air as it leaves for the rooms; the coldest one where the warmest room decides.",
      ),
      signal: true,
      usual: [12, 20],
    },
    supplyWarmest: {
      ...number("Warmest supply", "Supply air", "°C", 18, 5, 60, "As far as the supply air may be let up while no room needs it colder."),
      ...when("supplyRule", "warmest room"),
      usual: [16, 22],
    },
    heatingSupply: {
      ...number(
        "Warmest air while heating",
        "Supply air",
        "°C",
        35,
        15,
        60,
        "Warmest supply air where the system itself heats rooms: by room thermostat, or at night for rooms without reheat.",
      ),
      usual: [28, 45],
    },
    hours: {
      label: "Hours of operation",
      group: "Hours",
      unit: "",
      kind: "schedule",
      default: null,
      nullMeans: "hours in use of the rooms served",
      help: "When the fans run. Left alone: while any room served is in use, or starts early for it.",
    },
    night: choice(
      "Out of hours",
      "Hours",
      ["starts for a room out of bounds", "stands still"],
      "Starts: when a served room leaves its setback by the band below, the fans run without outdoor air until it is back.",
    ),
    nightBand: {
      ...number("Setback band", "Hours", "K", 1, 0.1, 10, "A room this far beyond its setback starts the fans."),
      ...when("night", "starts for a room out of bounds"),
    },
    minimumRun: {
      ...number("Least run", "Hours", "min", 30, 0, 600, "Once started out of hours, the fans run at least so long."),
      ...when("night", "starts for a room out of bounds"),
    },
  },
  recovery: {
    sensible: {
      ...number(
        "Sensible effectiveness",
        "Efficiency",
        "1",
        0.7,
        0,
        1,
        "Temperature change of the outdoor air over the difference to the return air (ISO 16494).",
      ),
      display: PERCENT,
      usual: [0.5, 0.85],
    },
    latent: { ...number("Latent effectiveness", "Efficiency", "1", 0, 0, 1, "The same of the humidity ratio."), display: PERCENT, usual: [0, 0.75] },
    bypass: choice(
      "By-pass",
      "Control",
      ["while it does not help", "none"],
      "With a by-pass, recovery acts only so far as it brings the air toward the supply temperature, and not while the economizer cools.",
    ),
    frostLimit: {
      ...number("Frost limit of the exhaust", "Control", "°C", 2, -40, 30, "Recovery is held back so that the exhaust air is not cooled below this."),
      default: null,
      nullMeans: "no limit",
      usual: [-5, 5],
    },
  },
  mixing: {
    outdoorGiven: choice(
      "Outdoor air given as",
      "Outdoor air",
      ["sum of the rooms", "share of the supply air", "flow"],
      "Sum of the rooms: what the spaces ask for on Use, with their schedules.",
    ),
    outdoorShare: {
      ...number("Least outdoor air", "Outdoor air", "1", 0.2, 0, 1, "Of the supply air."),
      display: PERCENT,
      ...when("outdoorGiven", "share of the supply air"),
    },
    outdoorFlow: {
      ...number("Least outdoor air", "Outdoor air", "m³/s", 0.1, 0, 1000, "While the system runs in its hours."),
      display: LS,
      ...when("outdoorGiven", "flow"),
    },
    economizer: choice(
      "Economizer",
      "Economizer",
      ["none", "fixed dry bulb", "differential dry bulb", "enthalpy"],
      "When more outdoor air cools for nothing: while outdoors is below a fixed temperature, colder than the return air, or of lower enthalpy than it.",
    ),
    highLimit: {
      ...number("High limit", "Economizer", "°C", 22, 5, 40, "Above this outdoor temperature the economizer is shut."),
      ...when("economizer", "fixed dry bulb", "enthalpy"),
      usual: [18, 24],
    },
    withCoil: choice(
      "Together with the coil",
      "Economizer",
      ["together", "locks out the coil"],
      "Together: the coil cools what outdoor air cannot. Locked out: while the economizer is open the cooling coil stays off.",
    ),
  },
  heatingCoil: {
    heat: choice("Heat from", "Heat", COIL_HEAT, "What heats the air."),
    loop: { ...loopOf("Hot-water loop", "hot water", "The loop that heats it."), ...when("heat", "hot water") },
    efficiency: { ...efficiencyOfGas, ...when("heat", "gas") },
    capacity: { ...sized("Heating capacity", "Size", "W", 1e8, "Most heat into the air at the loop's design temperature."), display: KW },
    factor: factor("The sized capacity", 1.25),
    leaving: {
      ...number("Heats to", "Control", "°C", 5, -20, 60, "Air leaves it no colder than this, as a preheat does. Left alone: the supply temperature."),
      default: null,
      nullMeans: "the supply temperature",
    },
  },
  coolingCoil: {
    cold: choice("Cold from", "Cold", ["chilled water", "direct expansion"], "What cools the air."),
    loop: { ...loopOf("Chilled-water loop", "chilled water", "The loop that cools it."), ...when("cold", "chilled water") },
    cop: {
      ...number(
        "COP",
        "Efficiency",
        "1",
        3.3,
        1,
        12,
        "Heat removed over electricity at 35 °C outdoors and 19 °C entering wet bulb, compressor and condenser fans.",
      ),
      beside: "",
      ...when("cold", "direct expansion"),
      usual: [2.5, 4.5],
    },
    capacity: { ...sized("Cooling capacity", "Size", "W", 1e8, "Most heat out of the air, sensible and latent together, at design conditions."), display: KW },
    factor: factor("The sized capacity", 1.15),
    bypass: {
      ...number(
        "By-pass factor",
        "Coil",
        "1",
        0.1,
        0,
        0.6,
        "Share of the air that passes the coil untouched; the rest leaves saturated at the apparatus dew point.",
      ),
      display: PERCENT,
      usual: [0.05, 0.25],
    },
  },
  humidifier: {
    by: choice(
      "Moisture from",
      "Humidity",
      ["electric steam", "gas steam", "evaporation"],
      "Steam leaves the temperature of the air as it is. Evaporation takes its heat from the air, which cools.",
    ),
    least: {
      ...number(
        "Least relative humidity",
        "Humidity",
        "1",
        0.35,
        0.05,
        0.8,
        "Of the return air: the drier it is, the moister the supply air. Works while the system runs with outdoor air.",
      ),
      display: PERCENT,
      usual: [0.3, 0.5],
    },
    most: {
      ...number("Most water", "Size", "kg/s", 0.01, 0, 100, "Water it can bring into the air."),
      default: null,
      nullMeans: "unlimited",
      display: { unit: "kg/h", factor: 3600, digits: 1 },
    },
    efficiency: { ...efficiencyOfGas, label: "Efficiency, gas", ...when("by", "gas steam") },
  },
  supplyFan: fan,
  returnFan: { ...fan, pressure: { ...fan.pressure, default: 300, usual: [100, 600] as const } },
  terminal: {
    system: {
      label: "Air system",
      group: "Air",
      unit: "",
      kind: "record",
      of: "airSystems",
      default: null,
      nullMeans: "none yet",
      help: "The system whose air it gives the room.",
    },
    flow: { ...sized("Design air flow", "Size", "m³/s", 1000, "Most air into the room, of 20 °C at the site."), display: LS },
    factor: factor("The sized flow", 1),
    least: {
      ...number("Least flow", "Air", "1", 0.3, 0, 1, "Share of the design flow below which a variable terminal does not throttle."),
      display: PERCENT,
      usual: [0.1, 0.5],
    },
    reheat: choice("Reheat", "Heat", ["none", "hot water", "electricity"], "Heats the air into this room to its need."),
    loop: { ...loopOf("Hot-water loop", "hot water", "The loop that reheats."), ...when("reheat", "hot water") },
    warmest: {
      ...number(
        "Warmest air",
        "Heat",
        "°C",
        35,
        18,
        60,
        "Reheated air leaves no warmer than this; what the room needs beyond it comes by more air, up to the design flow.",
      ),
      ...when("reheat", "hot water", "electricity"),
      usual: [28, 40],
    },
    reheatCapacity: {
      ...sized("Reheat capacity", "Size", "W", 1e7, "Most heat into the room's air."),
      display: KW,
      ...when("reheat", "hot water", "electricity"),
    },
  },
  baseboard: {
    heat: choice("Heat from", "Heat", ["hot water", "electricity"], "What heats it."),
    loop: { ...loopOf("Hot-water loop", "hot water", "The loop that heats it."), ...when("heat", "hot water") },
    capacity: { ...sized("Heating capacity", "Size", "W", 1e7, "Most heat into the room at the loop's design temperature."), display: KW },
  },
  fanCoil: {
    heat: choice("Heat from", "Heat", ["hot water", "electricity", "none"], "What heats its air."),
    loop: { ...loopOf("Hot-water loop", "hot water", "The loop that heats it."), ...when("heat", "hot water") },
    cold: choice("Cold from", "Cold", ["chilled water", "none"], "What cools its air."),
    coldLoop: { ...loopOf("Chilled-water loop", "chilled water", "The loop that cools it."), ...when("cold", "chilled water") },
    heatingCapacity: { ...sized("Heating capacity", "Size", "W", 1e7, "Most heat into the room."), display: KW, ...when("heat", "hot water", "electricity") },
    coolingCapacity: {
      ...sized("Cooling capacity", "Size", "W", 1e7, "Most heat out of the room, sensible and latent together."),
      display: KW,
      ...when("cold", "chilled water"),
    },
    fanShare: {
      ...number("Fan power", "Fan", "1", 0.02, 0, 0.2, "Electricity of its fan over the heat it moves, while it works."),
      display: PERCENT,
      usual: [0.01, 0.05],
    },
  },
  unitHeater: {
    heat: choice("Heat from", "Heat", ["gas", "hot water", "electricity"], "What heats its air."),
    loop: { ...loopOf("Hot-water loop", "hot water", "The loop that heats it."), ...when("heat", "hot water") },
    efficiency: { ...efficiencyOfGas, ...when("heat", "gas") },
    capacity: { ...sized("Heating capacity", "Size", "W", 1e7, "Most heat into the room."), display: KW },
    fanShare: { ...number("Fan power", "Fan", "1", 0.01, 0, 0.2, "Electricity of its fan over the heat it moves, while it works."), display: PERCENT },
  },
  splitUnit: {
    heat: choice(
      "Heats by",
      "Heat",
      ["heat pump", "electricity", "none"],
      "How it heats: by its own refrigerant circuit turned round, by an electric element, or not.",
    ),
    heatingCop: {
      ...number("Heating COP", "Efficiency", "1", 3.6, 1, 10, "Heat delivered over electricity at 7 °C outdoors, fans included."),
      beside: "",
      ...when("heat", "heat pump"),
      usual: [2.5, 5],
    },
    heatingCapacity: {
      ...sized("Heating capacity", "Size", "W", 1e7, "Most heat into the room at 7 °C outdoors; less when it is colder."),
      display: KW,
      ...when("heat", "heat pump", "electricity"),
    },
    leastOutdoor: { ...outdoorLeast, ...when("heat", "heat pump") },
    backup: {
      ...choice("Backup heat", "Heat", ["electricity", "none"], "An electric element for what the heat pump cannot deliver."),
      ...when("heat", "heat pump"),
    },
    cooling: choice("Cools", "Cold", ["yes", "no"], "Whether it cools too."),
    coolingCop: {
      ...number("Cooling COP", "Efficiency", "1", 3.4, 1, 12, "Heat removed over electricity at 35 °C outdoors, fans included."),
      beside: "",
      ...when("cooling", "yes"),
      usual: [2.5, 5],
    },
    coolingCapacity: {
      ...sized("Cooling capacity", "Size", "W", 1e7, "Most heat out of the room at 35 °C outdoors, sensible and latent together."),
      display: KW,
      ...when("cooling", "yes"),
    },
  },
  slabCircuit: {
    where: choice("Through", "Surface", ["floor", "ceiling", "floor and ceiling"], "Which of the room's faces carry the pipes; their assembly has a circuit."),
    given: choice(
      "Exchange given by",
      "Surface",
      ["pipes", "effectiveness"],
      "By spacing, diameter and length of pipe, or by the effectiveness of the whole circuit.",
    ),
    spacing: {
      ...number("Spacing of pipes", "Surface", "m", 0.15, 0.02, 1, "Distance between pipes."),
      display: { unit: "mm", factor: 1000 },
      ...when("given", "pipes"),
      usual: [0.1, 0.3],
    },
    diameter: {
      ...number("Outer diameter of pipe", "Surface", "m", 0.02, 0.003, 0.1, "Outside of the pipe."),
      display: { unit: "mm", factor: 1000 },
      ...when("given", "pipes"),
      usual: [0.01, 0.025],
    },
    wall: {
      ...number("Wall of pipe", "Surface", "m", 0.0023, 0.0003, 0.02, "Thickness of the pipe's wall."),
      display: { unit: "mm", factor: 1000, digits: 1 },
      ...when("given", "pipes"),
    },
    pipeConductivity: {
      ...number("Conductivity of pipe", "Surface", "W/m·K", 0.35, 0.05, 400, "Of the pipe's wall: 0.35 for cross-linked polyethylene (ISO 10456)."),
      ...when("given", "pipes"),
    },
    length: {
      ...number("Length of one circuit", "Surface", "m", 100, 1, 1000, "Pipe from manifold to manifold; sets how many circuits share the water."),
      ...when("given", "pipes"),
      usual: [60, 150],
    },
    effectiveness: {
      ...number("Effectiveness", "Surface", "1", 0.6, 0.01, 1, "Cooling of the water over its difference to the layer of the pipes."),
      display: PERCENT,
      ...when("given", "effectiveness"),
      usual: [0.3, 0.9],
    },
    flow: {
      ...number("Water flow per area", "Water", "kg/s·m²", 0.004, 0.0001, 1, "Water through the circuits per area of the face."),
      display: { unit: "kg/h·m²", factor: 3600 },
      usual: [0.002, 0.01],
    },
    flowRule: choice(
      "Water flow",
      "Water",
      ["on demand of the room", "throttled by the room", "through its season"],
      "On demand: full flow or none, by the room's thermostat. Throttled: in proportion to what the room lacks. Through its season: always, at the loop's temperature.",
    ),
    loop: loopOf("Hot-water loop", "hot water", "The loop that heats it."),
    coldLoop: loopOf("Chilled-water loop", "chilled water", "The loop that cools it."),
    season: {
      label: "Season of heating",
      group: "Water",
      unit: "",
      kind: "schedule",
      default: null,
      nullMeans: "always",
      help: "Shares of 0.5 and more let it heat, less let it cool.",
      ...when("flowRule", "through its season"),
    },
    guard: {
      ...number("Above the dew point", "Control", "K", 1, 0, 10, "Cooling stops before the water is this near to the dew point of the room's air."),
      usual: [0.5, 3],
    },
  },
  loop: {
    supplyTemperature: {
      ...number("Supply temperature", "Water", "°C", 60, 1, 95, "Temperature of the water as it leaves for what it serves."),
      signal: true,
      usual: [5, 80],
    },
    difference: { ...number("Design difference", "Water", "K", 20, 1, 60, "Between supply and return at the design load; it sets the flows."), usual: [4, 30] },
  },
  pump: {
    flow: { ...sized("Design water flow", "Size", "m³/s", 100, "Water at the design load and difference."), display: LS },
    head: {
      ...number("Pressure rise", "Pump", "Pa", 80000, 0, 2000000, "At the design flow."),
      display: { unit: "kPa", factor: 0.001 },
      usual: [30000, 250000],
    },
    efficiency: {
      ...number("Efficiency", "Pump", "1", 0.6, 0.05, 0.95, "Water power over electric power, pump and motor together."),
      display: PERCENT,
      usual: [0.3, 0.75],
    },
    control: choice(
      "Control",
      "Pump",
      ["variable", "constant"],
      "Variable: flow follows what is drawn and power its curve. Constant: full flow while the loop serves anything.",
    ),
    heatIntoWater: { ...number("Heat into the water", "Pump", "1", 1, 0, 1, "Share of the electric power that warms the water."), display: PERCENT },
  },
  boiler: {
    fuel: choice("Fuel", "Efficiency", ["gas", "oil", "propane", "wood", "electricity"], "What it burns."),
    capacity: { ...sized("Capacity", "Size", "W", 1e8, "Most heat into the water."), display: KW },
    factor: factor("The sized capacity", 1.25),
    efficiency: {
      ...number("Efficiency", "Efficiency", "1", 0.88, 0.1, 1.1, "Heat into the water over fuel, at return water of 60 °C and more."),
      display: PERCENT,
      usual: [0.8, 1],
    },
    condensing: choice("Condensing", "Efficiency", ["no", "yes"], "Whether it gains from return water below the dew point of its flue gas."),
    condensingEfficiency: {
      ...number(
        "Efficiency at 30 °C return",
        "Efficiency",
        "1",
        0.97,
        0.1,
        1.15,
        "Between 55 and 30 °C of return water its efficiency rises in proportion to this.",
      ),
      display: PERCENT,
      ...when("condensing", "yes"),
    },
    standingLoss: {
      ...number("Standing loss", "Efficiency", "1", 0.005, 0, 0.1, "Fuel over the capacity's fuel while it serves, whatever the load."),
      display: { unit: "%", factor: 100, digits: 1 },
    },
  },
  chiller: {
    capacity: { ...sized("Capacity", "Size", "W", 1e8, "Most heat out of the water at its rating: 7 °C water, 35 °C outdoors."), display: KW },
    factor: factor("The sized capacity", 1.15),
    condenser: choice("Condenser cooled by", "Source", ["outdoor air", "water of a tower"], "Where its heat goes: to outdoors, or to the tower of its loop."),
    cop: {
      ...number("COP", "Efficiency", "1", 3.1, 1, 12, "Heat removed over electricity at full load, 7 °C water and 35 °C outdoors."),
      beside: "",
      ...when("condenser", "outdoor air"),
      usual: [2.6, 4],
    },
    waterCop: {
      ...number("COP", "Efficiency", "1", 5.4, 1, 14, "Heat removed over electricity at full load, 7 °C water and condenser water of 30 °C."),
      beside: "",
      ...when("condenser", "water of a tower"),
      usual: [4.5, 7],
    },
    curves: {
      ...choice(
        "Off its rating",
        "Efficiency",
        ["typical air-cooled", "as rated"],
        "How capacity and COP follow water temperature, outdoor temperature and part load. Typical, unverified.",
      ),
      ...when("condenser", "outdoor air"),
    },
    waterCurves: {
      ...choice(
        "Off its rating",
        "Efficiency",
        ["typical water-cooled", "as rated"],
        "How capacity and COP follow chilled and condenser water and part load. Typical, unverified.",
      ),
      ...when("condenser", "water of a tower"),
    },
  },
  heatPump: {
    capacity: { ...sized("Capacity", "Size", "W", 1e8, "Most heat into the water at its rating: 7 °C outdoors, 45 °C water."), display: KW },
    factor: factor("The sized capacity", 1),
    cop: {
      ...number("COP", "Efficiency", "1", 3.2, 1, 10, "Heat delivered over electricity at full load, 7 °C outdoors and 45 °C water, defrost included."),
      beside: "",
      usual: [2.5, 4.5],
    },
    curves: choice(
      "Off its rating",
      "Efficiency",
      ["typical air-source", "as rated"],
      "How capacity and COP follow outdoor and water temperature and part load. Typical, unverified.",
    ),
    leastOutdoor: outdoorLeast,
  },
  district: {
    capacity: { ...sized("Capacity", "Size", "W", 1e9, "Most heat or cold from the network."), display: KW },
    factor: factor("The sized capacity", 1),
    efficiency: { ...number("Efficiency", "Efficiency", "1", 1, 0.3, 1, "Heat or cold into the loop over what the meter counts."), display: PERCENT },
  },
  naturalSource: {
    temperature: {
      ...number(
        "Temperature of the source",
        "Source",
        "°C",
        10,
        -5,
        40,
        "Water of a lake, river, ground or sea over the year: constant, or by a schedule of temperatures.",
      ),
      signal: true,
      usual: [4, 22],
    },
    approach: { ...number("Approach", "Source", "K", 2, 0, 20, "The loop's water comes no nearer to the source than this."), usual: [1, 4] },
    capacity: { ...sized("Capacity", "Size", "W", 1e9, "Most heat exchanged with the source."), display: KW },
    factor: factor("The sized capacity", 1),
    power: { ...number("Pump power", "Efficiency", "1", 0.02, 0, 0.5, "Electricity to lift the source's water over the heat exchanged."), display: PERCENT },
  },
  tower: {
    approach: {
      ...number("Approach", "Water", "K", 4, 1, 15, "Its water leaves no colder than the outdoor wet bulb and this."),
      usual: [3, 6],
    },
    least: {
      ...number("Least water temperature", "Water", "°C", 20, 5, 35, "Its fan is throttled so that its water does not become colder."),
      usual: [15, 25],
    },
    power: {
      ...number("Fan and pump power", "Efficiency", "1", 0.03, 0, 0.3, "Electricity of its fan and of the condenser pump over the heat rejected."),
      display: PERCENT,
      usual: [0.015, 0.05],
    },
  },
  ...waterFields,
  ...electricFields,
} as const satisfies Record<ComponentKind, Record<string, FieldSpec>>;

/** Every kind of component. */
export const componentKinds = [
  "airSystem",
  "loop",
  ...airPartKinds,
  ...equipmentKinds,
  ...loopPartKinds,
  "waterSystem",
  ...waterPartKinds,
  ...onSiteKinds,
] as const satisfies readonly ComponentKind[];

/** Field names of a kind of component. */
export type ServiceField<K extends ComponentKind> = keyof (typeof serviceFields)[K] & string;
/** Settings of a kind of component by name, in order. */
export const serviceFieldsOf = (kind: ComponentKind): Readonly<Record<string, FieldSpec>> => serviceFields[kind];

/** What a kind of component is called. */
export const componentWords: Readonly<Record<ComponentKind, string>> = {
  airSystem: "air system",
  recovery: "heat recovery",
  mixing: "mixing box",
  heatingCoil: "heating coil",
  coolingCoil: "cooling coil",
  humidifier: "humidifier",
  supplyFan: "supply fan",
  returnFan: "return fan",
  terminal: "terminal",
  baseboard: "baseboard",
  fanCoil: "fan coil",
  unitHeater: "unit heater",
  splitUnit: "split unit",
  slabCircuit: "slab circuit",
  loop: "loop",
  pump: "pump",
  boiler: "boiler",
  chiller: "chiller",
  heatPump: "heat pump",
  district: "district connection",
  naturalSource: "natural source",
  tower: "cooling tower",
  waterSystem: "hot-water system",
  waterHeater: "water heater",
  solarCollector: "solar collectors",
  pvArray: "photovoltaic array",
  windTurbine: "wind turbine",
  battery: "battery",
};
