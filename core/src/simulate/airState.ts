import { AirNetwork } from "../airflow/index.ts";
import type { AirModel } from "./airModel.ts";

/** Flows of the network, and what they carry, while a year goes on. */
export interface AirState {
  readonly network: AirNetwork;
  /** Share open of each link, and whether its rule has it open. */
  readonly open: Uint8Array;
  /** How far its rule has it open, of what it may. */
  readonly wide: Float64Array;
  /** Each way, kg/s, as the zones have them; of links between zones and outdoors. */
  readonly forward: Float64Array;
  readonly backward: Float64Array;
  /** Air from outdoors by cracks and by openings, kg/s, by zone. */
  readonly leaked: Float64Array;
  readonly opened: Float64Array;
  /** Carbon dioxide, ppm, and mean age of the air, s, at the end of the step, by zone. */
  readonly carbonDioxide: Float64Array;
  readonly age: Float64Array;
  /** Steps whose flows did not settle, by zone; hour of the weather year of the first of them, or −1. */
  readonly failures: Int32Array;
  firstFailure: number;
  /** Hour of the weather year of the step in hand. */
  hour: number;
  /** Largest residual of a node before it is closed, kg/s; what nodes gain after it, and what passes them, kg/s of the step without sign. */
  worst: number;
  lost: number;
  flowed: number;
  readonly diagonal: Float64Array;
  readonly right: Float64Array;
  readonly rightAge: Float64Array;
  readonly residual: Float64Array;
  readonly scratch: Float64Array;
  readonly sources: Float64Array;
}

export function airState(model: AirModel | null, zones: number): AirState | null {
  if (!model) return null;
  const { plan } = model;
  const links = plan.links.length;
  const f = (n: number): Float64Array => new Float64Array(n);
  return {
    network: new AirNetwork(plan.nodes, plan.links),
    open: new Uint8Array(links),
    wide: f(links),
    forward: f(links),
    backward: f(links),
    leaked: f(zones),
    opened: f(zones),
    carbonDioxide: f(zones).fill(model.outdoorCarbonDioxide),
    age: f(zones),
    failures: new Int32Array(zones),
    firstFailure: -1,
    hour: 0,
    worst: 0,
    lost: 0,
    flowed: 0,
    diagonal: f(zones),
    right: f(zones),
    rightAge: f(zones),
    residual: f(plan.nodes.length),
    scratch: f(zones),
    sources: f(zones),
  };
}
