import type { ArrayElectric, Turbine } from "../electric/index.ts";
import type { Vector } from "../geometry/index.ts";

/** A plane that sun is told on beside the faces of the building: a row of modules, a collector. */
export interface SunPlane {
  readonly normal: Vector;
  /** Lit share over the sun grid; null: never shaded. Shares of sky and of the horizon's band seen, by month. */
  readonly lit: Float64Array | null;
  readonly sky: Float64Array;
  readonly horizon: Float64Array;
  /** What dims it by schedule (its row): share of beam taken at most over the grid, of sky and of horizon. */
  readonly takes: readonly { readonly schedule: number; readonly lit: Float64Array; readonly sky: number; readonly horizon: number }[];
}

/** An array in the run: its electric side, and the rows whose sun is told. */
export interface ArrayModel {
  readonly id: string;
  readonly electric: ArrayElectric;
  readonly rows: readonly { readonly plane: SunPlane; readonly share: number }[];
  /** Wind at its height over that of the weather, 1. */
  readonly wind: number;
}
/** Wind turbines of one kind in the run. */
export interface TurbineModel {
  readonly id: string;
  readonly turbine: Turbine;
  readonly count: number;
  /** Wind at the hub over that of the weather, 1; share of the curve's power that is kept. */
  readonly wind: number;
  readonly kept: number;
}
