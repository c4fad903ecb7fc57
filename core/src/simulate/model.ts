import type { BlockPattern } from "../numeric/index.ts";
import type { Problem } from "../model/index.ts";

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
} as const;
export const TERMS = 10;

export const elementRoles = ["walls", "roof", "ground floor", "exposed floor", "doors", "glass", "neighbours"] as const;
export type ElementRole = (typeof elementRoles)[number];

/**
 * The project as flat arrays. Elements are faces and openings: first `exterior` ones with one inside
 * surface, then partitions with two. Side 0 is outside (or the first zone), side 1 inside (or the second).
 */
export interface CompiledModel {
  readonly zones: number;
  readonly zoneIds: readonly string[];
  readonly zoneNames: readonly string[];
  readonly elements: number;
  readonly exterior: number;
  readonly stepsPerHour: number;
  readonly dt: number;

  /** Elements: area, m²; first mode and end of modes. */
  readonly area: Float64Array;
  readonly modeStart: Int32Array;
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

  /** Zone of side 0 (partitions only, −1 otherwise) and of side 1. */
  readonly zone0: Int32Array;
  readonly zone1: Int32Array;
  /** Cosine of the angle from straight up of each surface, seen from its air: 1 faces up. Side 0 of an exterior element is outside. */
  readonly facing0: Float64Array;
  readonly facing1: Float64Array;
  /** Natural convection per cube root of the temperature difference, W/m²K^4/3: surface warmer than the air, and colder. */
  readonly warm0: Float64Array;
  readonly cold0: Float64Array;
  readonly warm1: Float64Array;
  readonly cold1: Float64Array;
  /** F′ of the mean-radiant network. */
  readonly exchange0: Float64Array;
  readonly exchange1: Float64Array;
  /** Shares of the zone's beam and diffuse short-wave absorbed per m², 1/m². */
  readonly beamShare0: Float64Array;
  readonly diffuseShare0: Float64Array;
  readonly beamShare1: Float64Array;
  readonly diffuseShare1: Float64Array;
  /** 0 opaque, 1 glass, 2 ground, 3 partition. */
  readonly kind: Uint8Array;
  /** Exterior: orientation class (−1 ground), solar absorptance, long-wave, forced film per root of the wind at 10 m. */
  readonly orientation: Int32Array;
  readonly solarAbsorptance: Float64Array;
  readonly emissivity0: Float64Array;
  readonly forced: Float64Array;
  /** View of the sky's own temperature, F√F (Walton 1983). */
  readonly skyView: Float64Array;
  /** Lit-share table row (−1: always lit) and share of diffuse sky seen. */
  readonly litRow: Int32Array;
  readonly skyShare: Float64Array;
  /** Glass: transmittances (frame taken off), absorptances, angular curve. */
  readonly transmittance: Float64Array;
  readonly absorptance: Float64Array;
  readonly diffuseTransmittance: Float64Array;
  readonly diffuseAbsorptance: Float64Array;
  readonly angular: Float64Array;
  /** Ground: row of the monthly temperature table, and conductance to it. */
  readonly groundRow: Int32Array;
  readonly groundConductance: Float64Array;
  readonly groundTemperature: Float64Array;

  /** What each element is, for readers of its heat flow. */
  readonly roles: readonly ElementRole[];

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
  readonly lostBeam: Float64Array;
  readonly lostDiffuse: Float64Array;
  readonly heatingCapacity: Float64Array;
  readonly coolingCapacity: Float64Array;
  /** Set-points, °C; NaN: not heated or not cooled. */
  readonly heatingSetpoint: Float64Array;
  readonly heatingSetback: Float64Array;
  readonly coolingSetpoint: Float64Array;
  readonly coolingSetback: Float64Array;
  /** Schedule of hours in use, row of `schedules`. */
  readonly conditioning: Int32Array;
  readonly recoverySensible: Float64Array;
  readonly recoveryLatent: Float64Array;
  /** Occupied when this schedule row is above 0; −1: never (nobody there). */
  readonly occupancy: Int32Array;
  /** Infiltration by zone, m³/s. */
  readonly infiltration: Float64Array;

  /** Terms: zone, schedule row, TERM, value at full schedule (W, m³/s, L/h). */
  readonly terms: number;
  readonly termZone: Int32Array;
  readonly termSchedule: Int32Array;
  readonly termKind: Int32Array;
  readonly termValue: Float64Array;
  /** Hourly schedules, [row][8760]. */
  readonly schedules: readonly Float64Array[];

  /** Zone system: block row z holds its air and its radiant node; block of (zone 0, zone 1) and back for each partition. */
  readonly pattern: BlockPattern;
  readonly block01: Int32Array;
  readonly block10: Int32Array;

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

export interface RunSettings {
  readonly stepsPerHour: number;
  /** First day 0…364 and number of days; absent: the year. */
  readonly period?: { readonly firstDay: number; readonly days: number };
  /** Names of extra hourly series to keep (see `simulate/catalogue.ts`). */
  readonly series?: readonly string[];
}
