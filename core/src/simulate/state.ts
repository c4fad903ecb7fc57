import { deriveWeather, perezHeight, saturationPressure, sunVector, type DerivedWeather, type WeatherYear } from "../climate/index.ts";
import { MeltingWall } from "../fabric/index.ts";
import { FLOWS, WATER, WATERS } from "./catalogue.ts";
import { PATCHES } from "./litTable.ts";
import { airState } from "./airState.ts";
import { serviceState } from "./serviceState.ts";
import { GLASS_NODES, TERMS, type CompiledModel } from "./model.ts";

/** Thermostat modes: free; heated to the set-point or at capacity; cooled likewise; cooled by extra outdoor air; cooled with all of it. */
export const MODE = { FLOAT: 0, HEAT: 1, HEAT_FULL: 2, COOL: 3, COOL_FULL: 4, FREE: 5, FREE_FULL: 6, FREE_COOL: 7, FREE_COOL_FULL: 8 } as const;
/** What makes extra outdoor air available to a zone in a step. */
export const EXTRA = { NONE: 0, NIGHT: 1, WINDOWS: 2, FREE_COOLING: 3 } as const;

export { WATER, WATERS };

/** Sun and sky of a step: direction in plan coordinates, beam and circumsolar on a plane facing the sun, diffuse, its circumsolar and horizon shares, reflectance of the ground, month, four places in a lit-share table and the way between them. */
export const SKY = {
  EAST: 0,
  NORTH: 1,
  UP: 2,
  DIRECT: 3,
  DIFFUSE: 4,
  CIRCUMSOLAR: 5,
  HORIZON: 6,
  ALBEDO: 7,
  MONTH: 8,
  LIT_AA: 9,
  LIT_AB: 10,
  LIT_BA: 11,
  LIT_BB: 12,
  LIT_HOUR: 13,
  LIT_DAY: 14,
} as const;
const SKIES = 15;

/** A temperature held at a limit equals it within rounding, and so do hours worked out from such, K and h: on which side of the limit that falls must decide nothing. */
export const TIE = 1e-6;

/** Weather and air of one step; one object, filled anew each step. */
export interface Boundary {
  outdoor: number;
  ratio: number;
  pressure: number;
  sky: number;
  wind: number;
  windDirection: number;
  month: number;
  density: number;
  cp: number;
  /** Density of the air that flows are given for, as in the model, kg/m³: read here, since a number read from a model of more than one shape becomes an object on the heap. */
  readonly supplyDensity: number;
}

/** What one step leaves behind for its reader; arrays are reused by the next step. */
export interface StepRecord {
  readonly airTemperature: Float64Array;
  readonly radiantTemperature: Float64Array;
  readonly humidityRatio: Float64Array;
  /** W delivered to and removed from each zone, sensible; and as water vapour. */
  readonly heating: Float64Array;
  readonly cooling: Float64Array;
  readonly humidification: Float64Array;
  readonly dehumidification: Float64Array;
  /** Water that condenses in each zone because its air would stand above saturation, kg/s. */
  readonly condensation: Float64Array;
  /** Water into each zone's air, kg/s, [zone][WATER], and its sums over steps since the reader last emptied them. */
  readonly water: Float64Array;
  readonly waterSum: Float64Array;
  /** Heat flows into each zone, W, [zone][flow] in the order of `flowNames`. */
  readonly flows: Float64Array;
  /** Sun through glass that stays in each zone by direction, W, [zone][direction]. */
  readonly sunBy: Float64Array;
  /** Heat of each element into its zones, W, without sun that entered through glass: side 0 (partitions) and side 1. */
  readonly faceFlow0: Float64Array;
  readonly faceFlow1: Float64Array;
  /** The same and the zones' flows, and sun on, through and by direction, summed over steps since the reader last emptied them. */
  readonly faceSum0: Float64Array;
  readonly faceSum1: Float64Array;
  readonly flowSum: Float64Array;
  readonly incidentSum: Float64Array;
  readonly transmittedSum: Float64Array;
  readonly sunBySum: Float64Array;
  /** Step sums of the terms by zone, [TERM][zone]. */
  readonly terms: Float64Array;
  /** People are there; hours unmet are counted there: people are, or the hours of use set the set-points. */
  readonly occupied: Uint8Array;
  readonly counted: Uint8Array;
  readonly heatTarget: Float64Array;
  readonly coolTarget: Float64Array;
  /** Extra outdoor air in use, kg/s. */
  readonly extraFlow: Float64Array;
  /** Sun on the outside of elements, W/m²; lit share of beam; sun let through, W. */
  readonly incident: Float64Array;
  readonly litShare: Float64Array;
  readonly transmitted: Float64Array;
  /** Sensor points, lx. */
  readonly daylight: Float64Array;
}

/** Counted departures and the books of a run. */
export interface Books {
  /** Steps in which the thermostat search did not settle, by zone. */
  readonly unsettled: Int32Array;
  /** Steps in which full exchange had not converged to 0.01 W/m², by zone. */
  readonly unconverged: Int32Array;
  /** Sum over steps of what each zone's heat flows fail to add up to nothing by, without sign, and of all of them, J; of its water, kg. */
  readonly waterResidual: Float64Array;
  readonly waterGross: Float64Array;
  readonly zoneResidual: Float64Array;
  readonly zoneGross: Float64Array;
  /** Heat into each element from both sides, J, for comparison with its content. */
  readonly elementHeat: Float64Array;
  readonly elementGross: Float64Array;
}

/** Everything a building in time remembers or works on. Made once a run; the step allocates nothing. */
export function kernelState(m: CompiledModel, weather: WeatherYear) {
  const f = (n: number): Float64Array => new Float64Array(n);
  const { zones, elements } = m;
  const glass = m.exterior - m.groundEnd;
  const classes = m.classCos.length;
  const hourTerms = f(TERMS * zones);
  const boundary: Boundary = {
    outdoor: 0,
    ratio: 0,
    pressure: 0,
    sky: 0,
    wind: 0,
    windDirection: 0,
    month: 0,
    density: 1.2,
    cp: 1006,
    supplyDensity: m.airDensity,
  };
  const record: StepRecord = {
    airTemperature: f(zones),
    radiantTemperature: f(zones),
    humidityRatio: f(zones),
    heating: f(zones),
    cooling: f(zones),
    humidification: f(zones),
    dehumidification: f(zones),
    condensation: f(zones),
    water: f(zones * WATERS),
    waterSum: f(zones * WATERS),
    flows: f(zones * FLOWS),
    sunBy: f(zones * 5),
    faceFlow0: f(elements),
    faceFlow1: f(elements),
    faceSum0: f(elements),
    faceSum1: f(elements),
    flowSum: f(zones * FLOWS),
    incidentSum: f(elements),
    transmittedSum: f(elements),
    sunBySum: f(zones * 5),
    terms: hourTerms,
    occupied: new Uint8Array(zones),
    counted: new Uint8Array(zones),
    heatTarget: f(zones),
    coolTarget: f(zones),
    extraFlow: f(zones),
    incident: f(elements),
    litShare: f(elements),
    transmitted: f(elements),
    daylight: f(m.daylight.sensors.length),
  };
  const books: Books = {
    unsettled: new Int32Array(zones),
    unconverged: new Int32Array(zones),
    zoneResidual: f(zones),
    waterResidual: f(zones),
    waterGross: f(zones),
    zoneGross: f(zones),
    elementHeat: f(elements),
    elementGross: f(elements),
  };
  return {
    weather,
    derived: deriveWeather(weather, m.options.skyEmissivity) as DerivedWeather,
    suns: sunsOfYear(m),
    boundary,
    record,
    books,
    /** Modes, and face temperatures of the last pass, °C. */
    a: f(m.modeStart[elements]),
    tout: f(elements),
    tin: f(elements),
    melting: m.meltings.map(({ spec }) => new MeltingWall(spec.layers, spec.melting, spec.films, m.dt)),
    /** Heat given at the planes of embedded circuits, W/m², by element: held over the step. */
    circuitHeat: f(elements),
    /** Modes at the start of the step, kept for the temperature of circuits' planes; heat at the faces beyond the nominal films, W/m². */
    planeStart: f(m.circuits.length > 0 ? m.modeStart[elements] : 0),
    input0: f(elements),
    input1: f(elements),
    /** Zone system. */
    values: f(4 * m.pattern.blocks),
    work: f(4 * m.pattern.blocks),
    rhs: f(2 * zones),
    solution: f(2 * zones),
    /** Nodes of the last solve, from which sweeps begin. */
    nodes: f(2 * zones).fill(20),
    mode: new Uint8Array(zones),
    airStart: f(zones),
    /** Elements in a pass: state part and direct response, sources, closure, films. */
    p0: f(elements),
    p1: f(elements),
    direct00: Float64Array.from(m.direct00),
    direct01: Float64Array.from(m.direct01),
    direct11: Float64Array.from(m.direct11),
    s0: f(elements),
    s1: f(elements),
    /** Short-wave from inside the room absorbed at each side, W/m². */
    room0: f(elements),
    room1: f(elements),
    alpha0: f(elements),
    alpha1: f(elements),
    g00: f(elements),
    g01: f(elements),
    g11: f(elements),
    hc0: f(elements),
    hr0: f(elements),
    hc1: f(elements),
    hr1: f(elements),
    /** Outside film and what it would bring at 0 °C of face, W/m²: heat at the face is drive − ho·T. */
    drive: f(elements),
    forced: f(elements),
    natural: f(elements),
    ho: f(elements),
    /** Full exchange: correction of the network at each side, W/m², and of the pass before. */
    correction0: f(elements),
    correction1: f(elements),
    emitted: f(2 * elements),
    received: f(2 * elements),
    /** Glass: conductance, shares of each node's heat to inside, absorbed heat by node, blind, sun last step. */
    glassG: f(glass),
    glassShareIn: f(GLASS_NODES * glass),
    glassHeat: f(GLASS_NODES * glass),
    glassAbsorbed0: f(glass),
    glassAbsorbed1: f(glass),
    blindDown: new Uint8Array(glass),
    beamThrough: f(glass),
    diffuseThrough: f(glass),
    /** Zones: sun by kind, straight to the air, and what stays. */
    beamIn: f(zones),
    diffuseIn: f(zones),
    sunToAir: f(zones),
    glassSun: f(zones),
    sunKept: f(zones),
    /** Set-points of the step, °C; NaN: none. */
    heatingSetpoint: Float64Array.from(m.heatingSetpoint),
    heatingSetback: Float64Array.from(m.heatingSetback),
    coolingSetpoint: Float64Array.from(m.coolingSetpoint),
    coolingSetback: Float64Array.from(m.coolingSetback),
    /** Air of the step, kg/s. */
    infiltrationFlow: f(zones),
    airFlow: f(zones),
    airSupply: f(zones),
    extraKind: new Uint8Array(zones),
    extraMost: f(zones),
    extraTarget: f(zones),
    windowsOpen: new Uint8Array(zones),
    passNow: f(m.passFlow.length),
    air: airState(m.air, zones),
    /** Humidity of a pass: what holds each zone, its row and drive, kg/s, the coil's air and its saturation, and the humidity found, kg/kg. */
    wetMode: new Uint8Array(zones),
    wetWhole: f(zones),
    wetDrive: f(zones),
    coilFlow: f(zones),
    coilRatio: f(zones),
    /** Vapour pressure of saturated air at the coil's surface, Pa. */
    coilPressure: Float64Array.from(m.coilTemperature, (t) => saturationPressure(t)),
    wet: f(zones),
    /** Heat a zone gets whatever it needs, W, and per K that its air is colder, W/K: air of systems. */
    fixedHeat: f(zones),
    fixedConductance: f(zones),
    /** Most heating, W, and what it loses per K of the zone's air, W/K. */
    heatingMost: Float64Array.from(m.heatingCapacity),
    heatingSlope: f(zones),
    /** Most sensible cooling, W, and what it gains per K of the zone's air, W/K: without systems, what drying leaves of the capacity as of the pass before. */
    coolingMost: Float64Array.from(m.coolingCapacity),
    coolingSlope: f(zones),
    /** Coils in the room: capacity, sensible and latent together, what of the cooling is theirs, and what they dry, W. */
    coilMost: Float64Array.from(m.coolingCapacity),
    coilCooling: f(zones),
    coilLatent: f(zones),
    /** Air of systems into each zone, kg/s, and its humidity ratio, kg/kg. */
    airIn: f(zones),
    airInRatio: f(zones),
    /** In use, or started early for it. */
    inUse: new Uint8Array(zones),
    services: m.services === null ? null : serviceState(m.services, zones, m.dt),
    /** Share of the recovery that frost lets act, 1. */
    airRecovered: f(zones).fill(1),
    /** Pressure inside against outdoors at its mean height, Pa, of the façades' balance. */
    insidePressure: f(1),
    placeSize: f(m.leakPlaces.length),
    placePressure: f(m.leakPlaces.length),
    /** Optimum start: warming and cooling rates learned, K/h, and the start in hand. */
    rateHeat: f(zones).fill(2),
    rateCool: f(zones).fill(2),
    startFrom: f(zones).fill(NaN),
    startAt: f(zones),
    startKind: new Uint8Array(zones),
    untilUse: m.optimumStart.some((v) => v > 0) ? hoursUntilUse(m) : [],
    /** Sun and sky of the step, by SKY; and by orientation class. */
    sky: f(SKIES),
    classBeam: f(classes),
    classCosine: f(classes),
    classSky: f(classes),
    classHorizon: f(classes),
    /** Beam and diffuse sun on exterior elements, W/m². */
    beamOn: f(m.exterior),
    /** Sun that ground and what stands around throw onto exterior elements, W/m². */
    reflectedOn: f(m.exterior),
    diffuseOn: f(m.exterior),
    hourTerms,
    /** Schedules in the hour, by row. */
    scheduled: f(m.schedules.length),
    /** No sun in the last step: its arrays are empty already. */
    dark: false,
    /** Its arrays were filled anew: no correction of full exchange is in them. */
    sunAnew: true,
    lightingLeft: f(m.daylight.controls.length).fill(1),
    luminance: f(PATCHES),
    /** Share let through less one, of what dims the sun and sky for sensors. */
    dimming: f(m.dimmers.length),
    /** Steps since the start, for learned rates. */
    step: 0,
    stepHours: m.dt / 3600,
  };
}
export type KernelState = ReturnType<typeof kernelState>;

const sunTables = new Map<string, Float64Array>();

/** Numbers of a step in the table of suns. */
export const SUN = 6;

/** Direction to the sun (east, north, up), zenith (rad), 1.041·z³ and air mass in the middle of every step of the year, [step][SUN]; remembered by place and step. */
function sunsOfYear(m: CompiledModel): Float64Array {
  const n = m.stepsPerHour;
  const steps = m.year.hours * n;
  const key = `${m.latitude} ${m.longitude} ${m.timeZone} ${m.sunEpoch} ${steps}`;
  let table = sunTables.get(key);
  if (table) return table;
  table = new Float64Array(SUN * steps);
  for (let i = 0; i < steps; i++) {
    const [east, north, up] = sunVector((i + 0.5) / n, m.latitude, m.longitude, m.timeZone, m.sunEpoch);
    const at = SUN * i;
    table[at] = east;
    table[at + 1] = north;
    table[at + 2] = up;
    if (up > 0) [table[at + 3], table[at + 4], table[at + 5]] = perezHeight(up);
  }
  if (sunTables.size > 8) sunTables.clear();
  sunTables.set(key, table);
  return table;
}

/** Hours from the start of each hour until the schedule of hours in use is next on, by row of `schedules`; Infinity: never. */
function hoursUntilUse(m: CompiledModel): Float64Array[] {
  return m.schedules.map((row) => {
    const out = new Float64Array(row.length).fill(Infinity);
    for (let round = 0; round < 2; round++) for (let h = row.length - 1; h >= 0; h--) out[h] = row[h] >= 0.5 ? 0 : out[(h + 1) % row.length] + 1;
    return out;
  });
}
