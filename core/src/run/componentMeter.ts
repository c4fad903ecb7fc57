import type { Fuel } from "../model/index.ts";
import { OUT, OUTS, type ComponentInfo, type EndUse } from "../services/index.ts";
import { ENERGIES, type CompiledModel, type YearKernel } from "../simulate/index.ts";

const J_PER_KWH = 3.6e6;
const HEAT = OUT.HEAT;
const LATENT = OUT.LATENT;
const FLOW = OUT.FLOW;

/** Components that run while anything flows through them; others while they give or take heat. */
const STREAMS: ReadonlySet<string> = new Set(["airSystem", "loop", "supplyFan", "returnFan", "pump", "terminal", "mixing"]);

/** Energy of one component over a run. */
export interface ComponentEnergy {
  readonly address: string;
  readonly kind: ComponentInfo["kind"];
  readonly name: string;
  readonly of: string;
  /** kWh of heat given and taken out, and of electricity and fuel used, by month. */
  readonly heating: number[];
  readonly cooling: number[];
  readonly power: number[];
  readonly fuel: number[];
  /** Hours with any flow or load; largest heat given and taken out, W, means of a step. */
  readonly hours: number;
  readonly mostHeating: number;
  readonly mostCooling: number;
}

/** Sums what systems, equipment and plant do while a run goes. */
export class ComponentMeter {
  private readonly components: readonly ComponentInfo[];
  private readonly stepHours: number;
  private readonly seconds: number;
  /** J, [component][month][heating, cooling, power, fuel, power while cooling]. */
  private readonly sums: Float64Array;
  private readonly hours: Float64Array;
  private readonly most: Float64Array;

  constructor(model: CompiledModel) {
    this.components = model.services?.components ?? [];
    this.seconds = model.dt;
    this.stepHours = model.dt / 3600;
    this.sums = new Float64Array(this.components.length * 12 * 5);
    this.hours = new Float64Array(this.components.length);
    this.most = new Float64Array(2 * this.components.length);
  }

  /** Adds the heat of a step. @param weight days that the day stands for */
  take(kernel: YearKernel, month: number, weight: number): void {
    const v = kernel.state.services;
    if (v === null) return;
    const { components, sums, hours, most, seconds, stepHours } = this;
    const { out } = v;
    for (let c = 0; c < components.length; c++) {
      const o = OUTS * c;
      const heat = out[o + HEAT] + out[o + LATENT];
      const at = (c * 12 + month) * 5;
      const times = components[c].times * seconds * weight;
      if (heat > 0) sums[at] += heat * times;
      else sums[at + 1] -= heat * times;
      if (STREAMS.has(components[c].kind) ? out[o + FLOW] > 0 : heat !== 0) hours[c] += stepHours * weight;
      if (heat > most[2 * c]) most[2 * c] = heat;
      if (-heat > most[2 * c + 1]) most[2 * c + 1] = -heat;
    }
  }

  /** Takes over what the hour used. @returns kWh by fuel, added to `sum` in the order of `fuels` */
  closeHour(kernel: YearKernel, month: number, weight: number, sum: Float64Array, fuelIndex: (f: Fuel) => number): void {
    const v = kernel.state.services;
    if (v === null) return;
    const { components, sums } = this;
    const { energy } = v;
    for (let c = 0; c < components.length; c++) {
      const e = ENERGIES * c;
      const at = (c * 12 + month) * 5;
      sums[at + 2] += energy[e] * weight;
      sums[at + 3] += energy[e + 1] * weight;
      sums[at + 4] += energy[e + 2] * weight;
      sum[0] += (energy[e] + energy[e + 2]) / J_PER_KWH;
      const { fuel } = components[c];
      if (fuel !== null) sum[fuelIndex(fuel)] += energy[e + 1] / J_PER_KWH;
    }
    energy.fill(0);
  }

  /** Calls back with every end use and fuel of components, kWh by month. */
  endUses(add: (use: EndUse, fuel: Fuel, month: number, energy: number) => void): void {
    this.components.forEach((x, c) => {
      for (let m = 0; m < 12; m++) {
        const at = (c * 12 + m) * 5;
        const [power, fuel, cooling] = [this.sums[at + 2], this.sums[at + 3], this.sums[at + 4]].map((j) => j / J_PER_KWH);
        if (power > 0) add(x.powerUse, "electricity", m, power);
        if (cooling > 0) add("cooling", "electricity", m, cooling);
        if (fuel > 0 && x.fuel !== null) add(x.fuelUse, x.fuel, m, fuel);
      }
    });
  }

  result(): ComponentEnergy[] {
    return this.components.map((x, c) => {
      const monthly = (...places: number[]): number[] =>
        Array.from({ length: 12 }, (_, m) => places.reduce((s, p) => s + this.sums[(c * 12 + m) * 5 + p], 0) / J_PER_KWH);
      return {
        address: x.path.join("/"),
        kind: x.kind,
        name: x.name,
        of: x.of,
        heating: monthly(0),
        cooling: monthly(1),
        power: monthly(2, 4),
        fuel: monthly(3),
        hours: this.hours[c],
        mostHeating: this.most[2 * c],
        mostCooling: this.most[2 * c + 1],
      };
    });
  }
}
