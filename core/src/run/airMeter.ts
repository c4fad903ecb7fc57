import type { CompiledModel, YearKernel } from "../simulate/index.ts";

/** Carbon dioxide above which hours with people are counted as stale, ppm. */
export const STALE = 1000;
const J_PER_KWH = 3.6e6;

/** What the pressure network did over a run. */
export interface AirflowResult {
  /** Steps in which the flows did not settle; the largest residual of a node before it was closed, kg/s; air gained in all after, relative to what flowed. */
  readonly failures: number;
  readonly residual: number;
  readonly closure: number;
  readonly zones: {
    readonly id: string;
    readonly name: string;
    /** Mean outdoor air, 1/h. */
    readonly airChanges: number;
    /** ppm: mean, largest hour; hours with people above 1000 ppm. */
    readonly carbonDioxide: { readonly mean: number; readonly max: number; readonly hours: number };
    /** Mean age of the air, h. */
    readonly age: number;
    readonly peopleHours: number;
    /** Hours without people in which cooler outdoor air came in through openings, and the heat it took out, kWh. */
    readonly nightHours: number;
    readonly nightCooling: number;
    readonly failures: number;
  }[];
  readonly links: {
    readonly id: string;
    readonly name: string;
    readonly kind: string;
    /** Hours open, and mean flow each way while open, kg/s. */
    readonly hours: number;
    readonly forward: number;
    readonly backward: number;
  }[];
}

/** Sums up what a network does, step by step. */
export class AirMeter {
  private readonly model: CompiledModel;
  private weight = 0;
  private readonly changes: Float64Array;
  private readonly gas: Float64Array;
  private readonly gasMost: Float64Array;
  private readonly gasHours: Float64Array;
  private readonly age: Float64Array;
  private readonly people: Float64Array;
  private readonly nights: Float64Array;
  private readonly nightHeat: Float64Array;
  private readonly open: Float64Array;
  private readonly forward: Float64Array;
  private readonly backward: Float64Array;
  private failures: Int32Array = new Int32Array(0);
  private residual = 0;
  private lost = 0;
  private flowed = 0;

  constructor(model: CompiledModel) {
    const f = (n: number): Float64Array => new Float64Array(n);
    const { zones } = model;
    const links = model.air?.plan.links.length ?? 0;
    this.model = model;
    this.changes = f(zones);
    this.gas = f(zones);
    this.gasMost = f(zones);
    this.gasHours = f(zones);
    this.age = f(zones);
    this.people = f(zones);
    this.nights = f(zones);
    this.nightHeat = f(zones);
    this.open = f(links);
    this.forward = f(links);
    this.backward = f(links);
  }

  /** @param weight hours that a step stands for in the year */
  take(kernel: YearKernel, weight: number): void {
    const a = kernel.state.air;
    const { air: model } = this.model;
    if (a === null || model === null) return;
    const { state: s, record: r } = kernel;
    const { outdoor, cp } = s.boundary;
    this.weight += weight;
    for (let n = 0; n < model.zoneOf.length; n++) {
      const z = model.zoneOf[n];
      const fresh = s.infiltrationFlow[z] + s.airFlow[z] + r.extraFlow[z];
      this.changes[z] += (weight * 3600 * fresh) / (this.model.zoneVolume[z] * this.model.airDensity);
      this.gas[z] += weight * a.carbonDioxide[z];
      if (a.carbonDioxide[z] > this.gasMost[z]) this.gasMost[z] = a.carbonDioxide[z];
      this.age[z] += (weight * a.age[z]) / 3600;
      const air = r.airTemperature[z];
      if (r.occupied[z] === 1) {
        this.people[z] += weight;
        if (a.carbonDioxide[z] > STALE) this.gasHours[z] += weight;
      } else if (a.opened[z] > 0 && outdoor < air) {
        this.nights[z] += weight;
        this.nightHeat[z] += (weight * 3600 * cp * a.opened[z] * (air - outdoor)) / J_PER_KWH;
      }
    }
    for (let i = 0; i < this.open.length; i++) {
      if (model.crack[i] === 1 || a.network.open[i] <= model.least[i]) continue;
      this.open[i] += weight;
      this.forward[i] += weight * a.forward[i];
      this.backward[i] += weight * a.backward[i];
    }
    this.failures = a.failures;
    this.residual = a.worst;
    this.lost += a.lost;
    this.flowed += a.flowed;
  }

  result(): AirflowResult | null {
    const { air: model } = this.model;
    if (model === null) return null;
    const { weight } = this;
    const mean = (sum: number, over: number): number => (over > 0 ? sum / over : 0);
    return {
      failures: this.failures.reduce((s, v) => s + v, 0),
      residual: this.residual,
      closure: mean(this.lost, this.flowed),
      zones: Array.from(model.zoneOf, (z) => ({
        id: this.model.zoneIds[z],
        name: this.model.zoneNames[z],
        airChanges: mean(this.changes[z], weight),
        carbonDioxide: { mean: mean(this.gas[z], weight), max: this.gasMost[z], hours: this.gasHours[z] },
        age: mean(this.age[z], weight),
        peopleHours: this.people[z],
        nightHours: this.nights[z],
        nightCooling: this.nightHeat[z],
        failures: this.failures[z],
      })),
      links: model.plan.planned.flatMap((p, i) =>
        p.record === null
          ? []
          : [
              {
                id: p.record,
                name: p.name,
                kind: p.kind,
                hours: this.open[i],
                forward: mean(this.forward[i], this.open[i]),
                backward: mean(this.backward[i], this.open[i]),
              },
            ],
      ),
    };
  }
}
