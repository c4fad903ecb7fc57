import type { FieldSpec } from "./fieldSpec.ts";
import { choice, KW, number, PERCENT, when } from "./fieldMakers.ts";

const zone = (label: string, nullMeans: string, help: string) =>
  ({ label, group: "Store", unit: "", kind: "record", of: "zones", default: null, nullMeans, help }) as const satisfies FieldSpec;
const schedule = (label: string, group: FieldSpec["group"], nullMeans: string, help: string) =>
  ({ label, group, unit: "", kind: "schedule", default: null, nullMeans, help }) as const satisfies FieldSpec;
const STORES = ["mixed", "layered"] as const;
const FUELS = ["gas", "oil", "propane", "wood", "district heat"] as const;

/** Settings of hot-water systems and their parts. Defaults and usual ranges: typical, unverified. */
export const waterFields = {
  waterSystem: {
    supplyTemperature: {
      ...number("Hot water", "Water", "°C", 60, 20, 95, "Temperature the water is kept at, in the store and in the circulation: constant, or by a schedule."),
      signal: true,
      usual: [50, 65],
    },
    tapTemperature: {
      ...number("Wanted at the tap", "Water", "°C", 45, 20, 95, "Temperature of the mixed water, where a draw asks for none of its own."),
      usual: [38, 60],
    },
    store: choice(
      "Store",
      "Store",
      ["mixed", "layered", "none"],
      "Mixed: one temperature. Layered: a warm upper and a cooler lower half. None: the heater warms the water as it is drawn.",
    ),
    volume: {
      ...number("Volume", "Store", "m³", 0.3, 0.005, 1000, "Water in the store."),
      display: { unit: "L", factor: 1000 },
      ...when("store", ...STORES),
    },
    standingLoss: {
      ...number("Standing loss", "Store", "W", 80, 0, 1e5, "Heat lost at a difference of 45 K to where it stands (EN 12897)."),
      ...when("store", ...STORES),
      usual: [30, 300],
    },
    band: {
      ...number(
        "Heater differential",
        "Store",
        "K",
        5,
        0.5,
        30,
        "The heater starts when the store is this far below its temperature, and runs until it is reached.",
      ),
      ...when("store", ...STORES),
      usual: [3, 10],
    },
    zone: { ...zone("Stands in", "no zone", "The zone that gets its heat; without one, its heat is lost."), ...when("store", ...STORES) },
    around: {
      ...number("Temperature around it", "Store", "°C", 15, -20, 50, "Where store and pipes stand in no zone."),
    },
    circulation: choice("Circulation", "Circulation", ["none", "pumped"], "Whether hot water circulates to the taps and back."),
    pipes: { ...number("Length of pipes", "Circulation", "m", 60, 0, 100000, "Flow and return together."), ...when("circulation", "pumped") },
    pipeLoss: {
      ...number("Loss of pipes", "Circulation", "W/m·K", 0.2, 0.01, 5, "Per length and difference of temperature: 0.2 insulated, 1.0 bare (EN 15316-3)."),
      ...when("circulation", "pumped"),
      usual: [0.15, 0.4],
    },
    pipesPass: {
      ...choice("Pipe losses go", "Circulation", ["to the rooms served", "lost"], "To the zones the system serves, by floor area, or to shafts and ground."),
      ...when("circulation", "pumped"),
    },
    pumpPower: {
      ...number("Pump power", "Circulation", "W", 25, 0, 1e5, "Electricity of the pump while it runs."),
      electric: true,
      ...when("circulation", "pumped"),
    },
    pumpHeat: {
      ...number("Pump heat into the water", "Circulation", "1", 0.5, 0, 1, "Share of the pump's electricity that warms the water."),
      display: PERCENT,
      ...when("circulation", "pumped"),
    },
    circulationHours: { ...schedule("Circulates", "Circulation", "always", "Shares of 0.5 and more let it run."), ...when("circulation", "pumped") },
    disinfection: choice("Disinfection", "Disinfection", ["none", "weekly"], "Once a week the water is heated up against germs."),
    disinfectionDay: {
      ...choice("On", "Disinfection", ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"], "Day of the week."),
      ...when("disinfection", "weekly"),
    },
    disinfectionHour: { ...number("Begins at", "Disinfection", "1", 3, 0, 23, "Hour of the clock."), beside: "o’clock", ...when("disinfection", "weekly") },
    disinfectionTime: {
      ...number("Lasts", "Disinfection", "h", 2, 1, 24, "Hours in which the higher temperature is aimed at."),
      ...when("disinfection", "weekly"),
    },
    disinfectionTemperature: {
      ...number("Heated to", "Disinfection", "°C", 70, 50, 95, "Temperature aimed at meanwhile."),
      ...when("disinfection", "weekly"),
      usual: [60, 75],
    },
  },
  waterHeater: {
    heat: choice("Heat from", "Heat", ["gas", "electricity", "heat pump", "district heat", "oil", "propane", "wood"], "What heats the water."),
    power: {
      ...number("Heating power", "Size", "W", 15000, 10, 1e7, "Most heat into the water; of a heat pump at 7 °C outdoors and 45 °C water."),
      display: KW,
    },
    efficiency: {
      ...number("Efficiency", "Efficiency", "1", 0.9, 0.1, 1.1, "Heat into the water over the fuel used."),
      display: PERCENT,
      ...when("heat", ...FUELS),
      usual: [0.75, 1],
    },
    cop: {
      ...number(
        "COP",
        "Efficiency",
        "1",
        3.2,
        1,
        10,
        "Heat into the water over electricity, at 7 °C outdoors and 45 °C water, defrost included; less when it is colder or the water hotter.",
      ),
      beside: "",
      ...when("heat", "heat pump"),
      usual: [2.5, 4.5],
    },
    leastOutdoor: {
      ...number("Works down to", "Control", "°C", -15, -40, 20, "Below this outdoor temperature the heat pump stands still."),
      ...when("heat", "heat pump"),
    },
  },
  solarCollector: {
    area: { ...number("Aperture area", "Size", "m²", 6, 0.1, 1e5, "Area the coefficients are of, all collectors together.") },
    peak: {
      ...number("Efficiency without loss", "Efficiency", "1", 0.78, 0.1, 0.95, "η₀ by ISO 9806."),
      display: PERCENT,
      usual: [0.6, 0.85],
    },
    a1: {
      ...number("Loss coefficient a₁", "Efficiency", "W/m²K", 3.5, 0, 20, "Heat lost in proportion to the difference of temperature (ISO 9806)."),
      usual: [0.7, 5],
    },
    a2: { ...number("Loss coefficient a₂", "Efficiency", "W/m²K²", 0.015, 0, 0.2, "Heat lost by its square (ISO 9806)."), usual: [0.004, 0.03] },
    at50: {
      ...number("Angle modifier at 50°", "Efficiency", "1", 0.94, 0.3, 1.2, "Efficiency of beam at 50° of incidence over that at right angles (ISO 9806)."),
      beside: "",
      usual: [0.85, 1],
    },
    azimuth: { ...number("Faces", "Place", "°", 180, 0, 360, "True direction it faces, clockwise from north.") },
    tilt: { ...number("Tilt", "Place", "°", 40, 0, 90, "Of its plane from level."), usual: [20, 60] },
    height: {
      ...number(
        "Height",
        "Place",
        "m",
        6,
        0,
        500,
        "Of its middle above the ground, over the middle of the building: the building and what stands around shade it there.",
      ),
    },
    flow: {
      ...number("Flow per area", "Water", "kg/s·m²", 0.01, 0.001, 0.1, "Water through the collectors per aperture area, while the pump runs."),
      display: { unit: "kg/h·m²", factor: 3600 },
      usual: [0.004, 0.02],
    },
    on: { ...number("Pump starts at", "Control", "K", 7, 1, 30, "Collectors warmer than the store by this."), usual: [5, 10] },
    off: { ...number("Pump stops at", "Control", "K", 2, 0, 20, "Collectors warmer than the store by no more than this."), usual: [1, 4] },
    most: { ...number("Store no warmer than", "Control", "°C", 85, 40, 95, "Above it the pump stands still."), usual: [75, 90] },
    pump: { ...number("Pump power", "Efficiency", "W", 40, 0, 1e5, "While it runs."), electric: true },
  },
} as const satisfies Record<string, Record<string, FieldSpec>>;
