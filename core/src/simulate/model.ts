import type { FreeOpening, LeakPlace } from "../airflow/index.ts";
import type { GapPhysics, ReducedWall } from "../fabric/index.ts";
import type { Problem, RunOptions, YearDays } from "../model/index.ts";
import type { BlockPattern } from "../numeric/index.ts";
import type { ComponentSizes, ServiceModel, WaterSystemModel } from "../services/index.ts";
import type { ArrayModel, SunPlane, TurbineModel } from "./siteModel.ts";
import type { AirModel } from "./airModel.ts";
import type { DaylightModel } from "./daylight.ts";
import type { MeltingSpec } from "./elements.ts";
import type { ScheduledShade, TracedWindow } from "./litTable.ts";
import type { ReflectionTables } from "./reflections.ts";

/** Gain and flow quantities a schedule drives, summed by zone each hour. */
export const TERM = {
  peopleRadiant: 0,
  peopleConvective: 1,
  peopleLatent: 2,
  lightingRadiant: 3,
  lightingConvective: 4,
  applianceRadiant: 5,
  applianceConvective: 6,
  applianceLatent: 7,
  outdoorAir: 8,
  hotWater: 9,
  airLeakage: 10,
  lightingFull: 11,
  /** Electric power of equipment, with what leaves the room. */
  applianceFull: 12,
} as const;
export const TERMS = 13;

export const elementRoles = ["walls", "roof", "ground floor", "walls to ground", "exposed floor", "doors", "glass", "neighbours"] as const;
export type ElementRole = (typeof elementRoles)[number];

/** Directions by which sun through glass is told. */
export const sunDirections = ["north", "east", "south", "west", "above"] as const;
export type SunDirection = (typeof sunDirections)[number];

/** Nodes of a glazing chain at most: three panes and a blind. */
export const GLASS_NODES = 4;

/** How wind makes the forced film: not at all (typed films), in proportion (ISO 52016-1), by its root. */
export const WIND = { NONE: 0, PLAIN: 1, ROOT: 2 } as const;

/** Places in a row of `glassOptics`: nodes, first row of the angular table, diffuse transmittance, diffuse absorptance by node, share of what nodes absorb that goes to the room air. */
export const OPTIC = { NODES: 0, ROW: 1, DIFFUSE: 2, ABSORBED: 3, TO_AIR: 3 + GLASS_NODES } as const;
export const OPTICS = 3 + 2 * GLASS_NODES;

/** A construction of glass with its blind up (state 0) or down (1), as rows of the angular table. */
export interface GlassSpec {
  /** [state]: nodes of the chain, fixed conductances between them, gaps that answer temperature. */
  readonly nodes: readonly [number, number];
  readonly conductance: readonly (readonly number[])[];
  readonly gaps: readonly (readonly (GapPhysics | null)[])[];
  /** Pane resistance in series with each gap, m²K/W. */
  readonly beside: readonly (readonly number[])[];
  /** [state]: first row of transmittance, then absorptance by node, then visible transmittance. */
  readonly row: readonly [number, number];
  readonly diffuseTransmittance: readonly [number, number];
  readonly diffuseAbsorptance: readonly (readonly number[])[];
  readonly visibleRatio: readonly [number, number];
  readonly toAir: readonly (readonly number[])[];
  readonly hasBlind: boolean;
  /** Control of the blind: 0 irradiance, 1 temperature, 2 schedule, 3 always. */
  readonly control: number;
  readonly threshold: number;
  readonly schedule: number;
  readonly variable: boolean;
}

/** A zone with full grey exchange: its surfaces (element·2 + side) and X_ij, m². */
export interface FullExchange {
  readonly zone: number;
  readonly members: Int32Array;
  readonly exchange: Float64Array;
}

/**
 * The project as flat arrays. Elements are faces and openings: opaque ones to outdoors, then ground, then
 * glass, then partitions with two inside surfaces. Side 0 is outside (or the first zone), side 1 inside (or the second).
 */
export interface CompiledModel {
  /** Days of the weather year, and its sun: days from 2000-01-01 12:00 UT to its 1 January 00:00 UT. */
  readonly year: YearDays;
  readonly sunEpoch: number;
  readonly zones: number;
  readonly zoneIds: readonly string[];
  readonly zoneNames: readonly string[];
  readonly elements: number;
  /** Ends of the opaque, of the ground and of the glass elements. */
  readonly opaqueEnd: number;
  readonly groundEnd: number;
  readonly exterior: number;
  readonly stepsPerHour: number;
  readonly dt: number;
  readonly passes: number;
  readonly options: RunOptions;

  /** Elements: name, area, m²; first mode and end of modes. */
  readonly keys: readonly string[];
  readonly area: Float64Array;
  /** Area in the first zone of a partition, m²: less where that zone's storey stands for more copies, of which one touches the other zone. */
  readonly area0: Float64Array;
  readonly modeStart: Int32Array;
  /** Reduced walls for reading layer temperatures back; null: glass or melting. */
  readonly walls: readonly (ReducedWall | null)[];
  /** Modes: weights of faces on mean state, decay, uptake from faces. */
  readonly meanPort0: Float64Array;
  readonly meanPort1: Float64Array;
  readonly decay: Float64Array;
  readonly uptake0: Float64Array;
  readonly uptake1: Float64Array;
  /** J/m² per unit mode, and weights of a uniform start. */
  readonly content: Float64Array;
  readonly port0: Float64Array;
  readonly port1: Float64Array;
  readonly direct00: Float64Array;
  readonly direct01: Float64Array;
  readonly direct11: Float64Array;
  readonly nominal0: Float64Array;
  readonly nominal1: Float64Array;
  /** Elements with an embedded circuit, and its weights by mode and directly on the faces and the plane. */
  readonly circuits: Int32Array;
  readonly circuitPort: Float64Array;
  readonly circuitUptake: Float64Array;
  readonly circuitMean: Float64Array;
  readonly circuit0: Float64Array;
  readonly circuit1: Float64Array;
  readonly circuit2: Float64Array;
  /** Melting walls by element. */
  readonly meltings: readonly { readonly element: number; readonly spec: MeltingSpec }[];

  /** Zone of side 0 (partitions only, −1 otherwise) and of side 1. */
  readonly zone0: Int32Array;
  readonly zone1: Int32Array;
  /** Cosine of the angle from straight up of each surface, seen from its air: 1 faces up. Side 0 of an exterior element is outside. */
  readonly facing0: Float64Array;
  readonly facing1: Float64Array;
  /** Convection: per cube root of the temperature difference, W/m²K^4/3, and constant, W/m²K; surface warmer than the air, and colder. */
  readonly warm0: Float64Array;
  readonly cold0: Float64Array;
  readonly warm1: Float64Array;
  readonly cold1: Float64Array;
  readonly steadyWarm0: Float64Array;
  readonly steadyCold0: Float64Array;
  readonly steadyWarm1: Float64Array;
  readonly steadyCold1: Float64Array;
  /** Whether any film follows the temperature difference inside, and outside. */
  readonly naturalInside: boolean;
  readonly naturalOutside: boolean;
  /** F′ of the mean-radiant network. */
  readonly exchange0: Float64Array;
  readonly exchange1: Float64Array;
  readonly full: readonly FullExchange[];
  /** Shares of the zone's beam and diffuse short-wave absorbed per m², 1/m². */
  readonly beamShare0: Float64Array;
  readonly diffuseShare0: Float64Array;
  readonly beamShare1: Float64Array;
  readonly diffuseShare1: Float64Array;
  /** Traced beam of windows; empty: beam to the floor or by area. Absorptance and share let out of the struck surfaces, [element·2 + side]. */
  readonly traced: readonly TracedWindow[];
  readonly insideAbsorptance: Float64Array;
  readonly insideTransmittance: Float64Array;
  /** 0 opaque, 1 glass, 2 ground, 3 partition. */
  readonly kind: Uint8Array;
  /** Exterior: orientation class (−1 ground), solar absorptance, long-wave, forced film per root of the wind at 10 m (or per wind, ISO 52016-1). */
  readonly orientation: Int32Array;
  readonly solarAbsorptance: Float64Array;
  readonly emissivity0: Float64Array;
  readonly forced: Float64Array;
  /** One of WIND. */
  readonly wind: number;
  /** View of the sky's own temperature, F·√F₀ with F₀ of the open half sphere and F what is left of it by what stands before the face (Walton 1983). */
  readonly skyView: Float64Array;
  /** Lit-share table row (−1: always lit), and shares of diffuse sky and of the horizon's band seen, [element][12 months]. */
  readonly litRow: Int32Array;
  readonly skyShare: Float64Array;
  readonly horizonShare: Float64Array;
  /** What ground and things around throw onto each exterior element. */
  readonly reflections: ReflectionTables;
  /** Elements shaded by something that follows a schedule (its row); their entries in `lit`, `skyShare` and `horizonShare` are made anew by the step. */
  readonly scheduledShades: readonly ScheduledShade<number>[];
  /** Shadows cast anew by this compilation; the rest were remembered. Seconds the casting took. */
  readonly recast: number;
  readonly castSeconds: number;
  /** Glass, by element less `groundEnd`: construction, share that is not frame, tilt, height, m, direction. */
  readonly glassOf: Int32Array;
  readonly glassShare: Float64Array;
  readonly glassTilt: Float64Array;
  readonly glassHeight: Float64Array;
  readonly glassDirection: Uint8Array;
  readonly glassSpecs: readonly GlassSpec[];
  /** The same as numbers, [construction][blind up, down][OPTIC]. */
  readonly glassOptics: Float64Array;
  /** Whether any glass has gaps that answer temperature. */
  readonly variableGlass: boolean;
  /** Whether any glass has a blind. */
  readonly anyBlind: boolean;
  /** Angular tables of all constructions, ANGLE_STEPS + 1 values a row. */
  readonly angleTable: Float64Array;
  /** Ground: row of the monthly temperature table, and conductance to it. */
  readonly groundRow: Int32Array;
  readonly groundConductance: Float64Array;
  readonly groundTemperature: Float64Array;

  /** What each element is, for readers of its heat flow, and the flow it belongs to. */
  readonly roles: readonly ElementRole[];
  readonly roleFlow: Int32Array;

  /** Orientation classes: normal in plan coordinates, tilt cosine, azimuth (degrees). */
  readonly classNormal: Float64Array;
  readonly classCos: Float64Array;
  readonly classSin: Float64Array;
  readonly classAzimuth: Float64Array;
  /** Lit shares, [row][24 days][96 quarter hours]. */
  readonly lit: Float64Array;

  /** Zones. */
  readonly zoneArea: Float64Array;
  readonly zoneVolume: Float64Array;
  readonly zoneMultiplier: Float64Array;
  /** Heat capacity of furniture and inner mass at the air's temperature, J/K. */
  readonly innerCapacity: Float64Array;
  readonly heatingCapacity: Float64Array;
  readonly coolingCapacity: Float64Array;
  /** Apparatus dew point of the coil, °C; NaN: cooling takes no moisture out. Whether any drying shares a capacity with sensible cooling. */
  readonly coilTemperature: Float64Array;
  /** Share of the air that passes it untouched, 1. */
  readonly coilBypass: Float64Array;
  readonly latentLimits: boolean;
  /** Hot-water systems with the planes of their collectors, and whether a zone's hot water is one's; arrays and turbines. */
  readonly water: { readonly systems: readonly WaterSystemModel[]; readonly planes: readonly (readonly SunPlane[])[] };
  readonly onWater: Uint8Array;
  readonly arrays: readonly ArrayModel[];
  readonly turbines: readonly TurbineModel[];
  /** Set-points, °C: constants, or the mean of what they follow; NaN: not heated or not cooled. */
  readonly heatingSetpoint: Float64Array;
  readonly heatingSetback: Float64Array;
  readonly coolingSetpoint: Float64Array;
  readonly coolingSetback: Float64Array;
  /** Set-points that follow a schedule or the outdoor temperature. */
  readonly setpointSignals: readonly SetpointSignal[];
  /** Weight of the radiant temperature in what the thermostat senses: 0 air, 0.5 operative. */
  readonly radiantWeight: Float64Array;
  /** Longest early start, h; 0: none. */
  readonly optimumStart: Float64Array;
  /** Relative humidity kept, 0…1; NaN: not humidified or not dehumidified. */
  readonly humidifySetpoint: Float64Array;
  readonly dehumidifySetpoint: Float64Array;
  readonly moistureCapacity: Float64Array;
  /** Schedule of hours in use, row of `schedules`. */
  readonly conditioning: Int32Array;
  readonly recoverySensible: Float64Array;
  readonly recoveryLatent: Float64Array;
  /** Exhaust air is not cooled below this, °C; −Infinity: no limit. */
  readonly recoveryFrost: Float64Array;
  /** Occupied when this schedule row is above 0; −1: never (nobody there). */
  readonly occupancy: Int32Array;
  /** Extra outdoor air: night ventilation and free cooling, m³/s, with schedule rows and limits. */
  readonly nightFlow: Float64Array;
  readonly nightSchedule: Int32Array;
  readonly nightAbove: Float64Array;
  readonly freeFlow: Float64Array;
  /** Windows that can be opened, by zone, and their limits; NaN: never. */
  readonly windows: readonly (readonly FreeOpening[])[];
  readonly windowAbove: Float64Array;
  /** Limits above which windows are closed, indoors and outdoors, °C; NaN: none. */
  readonly windowIndoorMost: Float64Array;
  readonly windowOutdoorMost: Float64Array;
  /** 1: the zone has some way to extra outdoor air. */
  readonly mayOpen: Uint8Array;
  readonly windowOutdoor: Float64Array;
  readonly windowWind: Float64Array;
  readonly windowSchedule: Int32Array;
  /** Effective leakage areas: zone, size, m², schedule row. */
  readonly leaks: readonly {
    readonly zone: number;
    readonly size: number;
    readonly schedule: number;
  }[];
  /** Leaks of outdoor faces: zone, place they belong to, m³/s·Pa^0.65, schedule row; and those places by azimuth (NaN: level), height, m, and wind profile. */
  readonly facadeLeaks: readonly { readonly zone: number; readonly place: number; readonly size: number; readonly schedule: number }[];
  readonly leakPlaces: readonly LeakPlace[];
  /** Stack and wind coefficients of leakage areas. */
  readonly leak: { readonly stack: number; readonly wind: number };
  /** Pressure network of the air; null: none in use. */
  readonly air: AirModel | null;
  /** Air passed between zones: zones, m³/s, schedule row, blocks of the zone system there and back. */
  readonly passZone0: Int32Array;
  readonly passZone1: Int32Array;
  readonly passFlow: Float64Array;
  /** Share of the flow each of the two zones counts: one, or one of as many copies as its storey stands for. */
  readonly passWeight0: Float64Array;
  readonly passWeight1: Float64Array;
  readonly passSchedule: Int32Array;
  readonly passBlock01: Int32Array;
  readonly passBlock10: Int32Array;
  /** People for comfort: met, clo in winter and summer, m/s. */
  readonly metabolicRate: Float64Array;
  readonly clothingWinter: Float64Array;
  readonly clothingSummer: Float64Array;
  readonly airSpeed: Float64Array;

  /** Terms: zone, schedule row, TERM, value at full schedule (W, m³/s, L/h), lighting control (−1: none). */
  readonly terms: number;
  readonly termZone: Int32Array;
  readonly termSchedule: Int32Array;
  readonly termKind: Int32Array;
  readonly termValue: Float64Array;
  readonly termControl: Int32Array;
  readonly daylight: DaylightModel;
  /** Groups of casters that let sun through, as sensors see them: shares by month, or a schedule's row (−1: none). */
  readonly dimmers: readonly { readonly transmittance: readonly number[] | null; readonly schedule: number }[];
  /** Exterior lighting: W, and the row of its schedule, with the hours of daylight taken out where dusk switches it. */
  readonly siteLights: readonly { readonly power: number; readonly schedule: number }[];
  /** Hourly schedules, [row][hours of the weather year · years]. */
  readonly schedules: readonly Float64Array[];

  /** Zone system: block row z holds its air and its radiant node; block of (zone 0, zone 1) and back for each partition. */
  readonly pattern: BlockPattern;
  /** Solved by sweeps: its elimination would fill in too much. */
  readonly sweeps: boolean;
  readonly block01: Int32Array;
  readonly block10: Int32Array;

  /** Air systems, room equipment and plant; null: plain services everywhere. */
  readonly services: ServiceModel | null;
  /** 1: outdoor air comes to the zone by a system and not by itself, also while its loads are found without any system. */
  readonly onAir: Uint8Array;
  /** Faces with pipes by the device they belong to. */
  readonly slabs: readonly { readonly device: number; readonly faces: readonly SlabFace[] }[];
  readonly latitude: number;
  readonly longitude: number;
  readonly timeZone: number;
  readonly planSine: number;
  readonly planCosine: number;
  readonly albedo: readonly number[];
  readonly isotropic: boolean;
  /** Density of air of 20 °C at the site's pressure, for room air and typed volume flows, kg/m³. */
  readonly airDensity: number;
  readonly warnings: readonly Problem[];
}

/** Set-points that may follow a signal. */
export type SetpointField = "heatingSetpoint" | "heatingSetback" | "coolingSetpoint" | "coolingSetback";
/** A set-point of a zone that follows the row of a schedule (−1: none) or a reset by outdoor temperature. */
export interface SetpointSignal {
  readonly zone: number;
  readonly field: SetpointField;
  readonly schedule: number;
  readonly reset: { readonly cold: ResetPoint; readonly warm: ResetPoint } | null;
}
interface ResetPoint {
  readonly outdoor: number;
  readonly value: number;
}

/** A face with pipes: its element, the area a device counts, m², and the resistance between the water along the pipe and the layer, m²K/W. */
export interface SlabFace {
  readonly element: number;
  readonly area: number;
  readonly resistance: number;
}

/** What sizing found: capacities of zones with plain services, W, by zone; settings of components, by address, in the unit of the document. */
export interface Sizes {
  readonly zones: Readonly<Record<string, { readonly heatingCapacity: number; readonly coolingCapacity: number }>>;
  readonly components: ComponentSizes;
}

export interface RunSettings {
  readonly stepsPerHour: number;
  /** First day 0…364 of a common year and number of days; absent: the project's own period. */
  readonly period?: { readonly firstDay: number; readonly days: number };
  /** Run weighted representative days instead of the period: so many, or as many as the project says. */
  readonly shortYear?: boolean | 12 | 24 | 48;
  /** Vectors of the reduced walls beyond what each needs, for refinement studies. */
  readonly furtherVectors?: number;
  /** Capacities by sizing to take in place of those of this very model, as of an estimate. */
  readonly sizes?: Sizes;
  /** Keep no series: the summary alone, which then has no fingerprint. For estimates. */
  readonly summaryOnly?: boolean;
  /** Names of extra hourly series to keep (see `simulate/catalogue.ts`). */
  readonly series?: readonly string[];
}
