import type { ComponentHour } from "../bench/index.ts";
import type { Fuel } from "../model/index.ts";
import { OUT, OUTS, type ComponentInfo, type EndUse } from "../services/index.ts";
import { ENERGIES, type CompiledModel, type YearKernel } from "../simulate/index.ts";

const J_PER_KWH = 3.6e6;
const HEAT = OUT.HEAT;
const LATENT = OUT.LATENT;
const FLOW = OUT.FLOW;

/** Components that run while anything flows through them; others while they give or take heat. */
const STREAMS: ReadonlySet<string> = new Set(["airSystem", "loop", "supplyFan", "returnFan", "pump", "terminal", "mixing"]);

/** Parts whose loads make the load of a system. */
const COILS: ReadonlySet<string> = new Set(["heatingCoil", "coolingCoil"]);

/** What stood at a component in one step. */
export interface ComponentState extends ComponentHour {
  /** End of the step, counted in steps from the start of the weather year. */
  readonly step: number;
}

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
  /** States in the step in which its system or loop (else itself) heated and cooled most; null: never. */
  readonly atHeating: ComponentState | null;
  readonly atCooling: ComponentState | null;
}

/** Component whose load tells the step that its whole system or loop is shown at. */
function leadersOf(model: CompiledModel): Int32Array {
  const services = model.services;
  const components = services?.components ?? [];
  const leaders = Int32Array.from(components.keys());
  if (!services) return leaders;
  const under = (path: readonly string[]): number => components.findIndex((c) => c.path.length === 2 && c.path[0] === path[0] && c.path[1] === path[1]);
  components.forEach((c, i) => {
    if (c.path[0] === "airSystems" || c.path[0] === "loops") leaders[i] = under(c.path);
  });
  for (const d of services.devices) if (d.kind === "terminal") leaders[d.component] = services.systems[d.system].component;
  return leaders;
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
  private readonly leaders: Int32Array;
  /** Heat and cold of leaders in the step, their largest so far, and the rows kept of them, [component][heating, cooling]. */
  private readonly load: Float64Array;
  private readonly largest: Float64Array;
  private readonly kept: Float64Array;
  private readonly keptAt: Int32Array;

  constructor(model: CompiledModel) {
    this.components = model.services?.components ?? [];
    this.seconds = model.dt;
    this.stepHours = model.dt / 3600;
    this.sums = new Float64Array(this.components.length * 12 * 5);
    this.hours = new Float64Array(this.components.length);
    const n = this.components.length;
    this.most = new Float64Array(2 * n);
    this.leaders = leadersOf(model);
    this.load = new Float64Array(2 * n);
    this.largest = new Float64Array(2 * n);
    this.kept = new Float64Array(2 * n * OUTS);
    this.keptAt = new Int32Array(2 * n).fill(-1);
  }

  /** Adds the heat of a step. @param weight days that the day stands for @param end of the step, in steps from the start of the year */
  take(kernel: YearKernel, month: number, weight: number, end: number): void {
    const v = kernel.state.services;
    if (v === null) return;
    const { components, sums, hours, most, seconds, stepHours, load, leaders } = this;
    const { out } = v;
    load.fill(0);
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
      // a system is told by its coils, everything else by itself
      const leads = leaders[c];
      if (leads === c ? components[c].kind !== "airSystem" : COILS.has(components[c].kind)) {
        if (heat > 0) load[2 * leads] += heat;
        else load[2 * leads + 1] -= heat;
      }
    }
    this.keepStates(out, end);
  }

  /** Keeps the rows of every system and loop that has never heated or cooled so much. */
  private keepStates(out: Float64Array, end: number): void {
    const { load, largest, leaders, kept, keptAt } = this;
    for (let i = 0; i < load.length; i++) {
      if (!(load[i] > largest[i])) continue;
      largest[i] = load[i];
      const leader = i >> 1;
      const side = i & 1;
      for (let c = 0; c < leaders.length; c++) {
        if (leaders[c] !== leader) continue;
        keptAt[2 * c + side] = end;
        for (let k = 0; k < OUTS; k++) kept[(2 * c + side) * OUTS + k] = out[c * OUTS + k];
      }
    }
  }

  private state(c: number, side: 0 | 1): ComponentState | null {
    const at = 2 * c + side;
    if (this.keptAt[at] < 0) return null;
    const of = (place: number): number => this.kept[at * OUTS + place];
    return {
      step: this.keptAt[at],
      heat: of(OUT.HEAT),
      latent: of(OUT.LATENT),
      flow: of(OUT.FLOW),
      entering: of(OUT.IN),
      leaving: of(OUT.OUT),
      enteringRatio: of(OUT.IN_RATIO),
      leavingRatio: of(OUT.OUT_RATIO),
    };
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
        atHeating: this.state(c, 0),
        atCooling: this.state(c, 1),
      };
    });
  }
}
