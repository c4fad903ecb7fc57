import type { Fuel } from "../model/index.ts";
import type { EndUse } from "../services/index.ts";
import { TANK, TANKS, type CompiledModel, type YearKernel } from "../simulate/index.ts";
import type { ComponentEnergy } from "./componentMeter.ts";

const J_PER_KWH = 3.6e6;

/** What a hot-water system did in a run, by month: kWh, and m³ of mixed water. */
export interface WaterEnergy {
  readonly id: string;
  readonly name: string;
  /** °C of the cold water main. */
  readonly cold: number[];
  readonly volume: number[];
  readonly heated: number[];
  readonly solar: number[];
  readonly drawn: number[];
  /** Heat wanted at the taps, and what of it the water was too cold for. */
  readonly wanted: number[];
  readonly unmet: number[];
  readonly storeLoss: number[];
  readonly pipeLoss: number[];
  readonly pumps: number[];
  /** Sun on the collectors. */
  readonly sun: number[];
  /** Temperature of the store, or of its upper half, at the ends of the steps, °C; null: it has none. */
  readonly store: { readonly min: number; readonly mean: number; readonly max: number } | null;
  /** Hours in which water was drawn too cold. */
  readonly coldHours: number;
  /** Largest relative residual of the books of the store, step by step. */
  readonly closure: number;
}

/** Sums what hot-water systems do while a run goes. */
export class WaterMeter {
  private readonly model: CompiledModel;
  /** [system][month][TANK]; [system][heater or collectors][month][heat, fuel]. */
  private readonly sums: readonly Float64Array[];
  private readonly heaters: readonly Float64Array[][];
  private readonly solar: readonly Float64Array[][];
  private readonly temperature: readonly { min: number; sum: number; max: number; weight: number }[];
  private readonly hours: readonly Float64Array[];
  private readonly most: readonly Float64Array[];
  private readonly coldHours: Float64Array;
  private kernel: YearKernel | null = null;

  constructor(model: CompiledModel) {
    const { systems } = model.water;
    this.model = model;
    this.sums = systems.map(() => new Float64Array(12 * TANKS));
    this.heaters = systems.map((s) => s.heaters.map(() => new Float64Array(24)));
    this.solar = systems.map((s) => s.collectors.map(() => new Float64Array(12)));
    this.temperature = systems.map(() => ({ min: Infinity, sum: 0, max: -Infinity, weight: 0 }));
    this.hours = systems.map((s) => new Float64Array(s.heaters.length + s.collectors.length));
    this.most = systems.map((s) => new Float64Array(s.heaters.length + s.collectors.length));
    this.coldHours = new Float64Array(systems.length);
  }

  /** Looks at the stores after a step. */
  take(kernel: YearKernel, weight: number): void {
    const w = kernel.water;
    if (w === null) return;
    this.kernel = kernel;
    for (let i = 0; i < this.temperature.length; i++) {
      const t = this.temperature[i];
      const now = w.upper[i];
      if (now < t.min) t.min = now;
      if (now > t.max) t.max = now;
      t.sum += weight * now;
      t.weight += weight;
    }
  }

  /** Takes over what the hour used. @returns kWh by fuel, added to `sum` in the order of `fuels` */
  closeHour(kernel: YearKernel, month: number, weight: number, sum: Float64Array, fuelIndex: (f: Fuel) => number): void {
    const w = kernel.water;
    if (w === null) return;
    this.model.water.systems.forEach((x, i) => {
      const own = w.sums[i];
      if (own[TANK.UNMET] > 0) this.coldHours[i] += weight;
      for (let j = 0; j < TANKS; j++) this.sums[i][month * TANKS + j] += own[j] * weight;
      sum[0] += (own[TANK.PUMP] + own[TANK.SOLAR_PUMP]) / J_PER_KWH;
      own.fill(0);
      const seen = (part: number, heat: number): void => {
        if (heat > 0) this.hours[i][part] += weight;
        if (heat / 3600 > this.most[i][part]) this.most[i][part] = heat / 3600;
      };
      x.heaters.forEach((h, k) => {
        this.heaters[i][k][2 * month] += w.heat[i][k] * weight;
        this.heaters[i][k][2 * month + 1] += w.fuel[i][k] * weight;
        sum[fuelIndex(h.fuel)] += w.fuel[i][k] / J_PER_KWH;
        seen(k, w.heat[i][k]);
      });
      x.collectors.forEach((_, k) => {
        this.solar[i][k][month] += w.solar[i][k] * weight;
        seen(x.heaters.length + k, w.solar[i][k]);
      });
      w.heat[i].fill(0);
      w.fuel[i].fill(0);
      w.solar[i].fill(0);
    });
  }

  /** Calls back with every end use and fuel, kWh by month. */
  endUses(add: (use: EndUse, fuel: Fuel, month: number, energy: number) => void): void {
    this.model.water.systems.forEach((x, i) => {
      for (let m = 0; m < 12; m++) {
        const at = m * TANKS;
        const pumps = this.sums[i][at + TANK.PUMP] + this.sums[i][at + TANK.SOLAR_PUMP];
        if (pumps > 0) add("pumps", "electricity", m, pumps / J_PER_KWH);
        x.heaters.forEach((h, k) => {
          const fuel = this.heaters[i][k][2 * m + 1] / J_PER_KWH;
          if (fuel > 0) add("hot water", h.fuel, m, fuel);
        });
      }
    });
  }

  /** Heaters and collectors as other components are told. */
  components(): ComponentEnergy[] {
    const none = new Array<number>(12).fill(0);
    const row = (
      address: string,
      kind: "waterHeater" | "solarCollector",
      name: string,
      of: string,
    ): Omit<ComponentEnergy, "heating" | "power" | "fuel" | "hours" | "mostHeating"> => ({
      address,
      kind,
      name,
      of,
      cooling: none,
      mostCooling: 0,
      atHeating: null,
      atCooling: null,
    });
    return this.model.water.systems.flatMap((x, i) => [
      ...x.heaters.map((h, k): ComponentEnergy => {
        const monthly = (j: number): number[] => Array.from({ length: 12 }, (_, m) => this.heaters[i][k][2 * m + j] / J_PER_KWH);
        const electric = h.fuel === "electricity";
        return {
          ...row(h.address, "waterHeater", h.name, x.name),
          heating: monthly(0),
          power: electric ? monthly(1) : none,
          fuel: electric ? none : monthly(1),
          hours: this.hours[i][k],
          mostHeating: this.most[i][k],
        };
      }),
      ...x.collectors.map((c, k): ComponentEnergy => ({
        ...row(c.address, "solarCollector", c.name, x.name),
        heating: Array.from(this.solar[i][k], (j) => j / J_PER_KWH),
        power: none,
        fuel: none,
        hours: this.hours[i][x.heaters.length + k],
        mostHeating: this.most[i][x.heaters.length + k],
      })),
    ]);
  }

  result(): WaterEnergy[] {
    return this.model.water.systems.map((x, i): WaterEnergy => {
      const of = (j: number, per = J_PER_KWH): number[] => Array.from({ length: 12 }, (_, m) => this.sums[i][m * TANKS + j] / per);
      const t = this.temperature[i];
      const books = this.kernel?.water;
      const pumps = of(TANK.SOLAR_PUMP);
      return {
        id: x.id,
        name: x.name,
        cold: [...x.cold],
        volume: of(TANK.MASS, 1000),
        heated: of(TANK.HEATED),
        solar: of(TANK.SOLAR),
        drawn: of(TANK.DRAWN),
        wanted: of(TANK.WANTED),
        unmet: of(TANK.UNMET),
        storeLoss: of(TANK.STORE_LOSS),
        pipeLoss: of(TANK.PIPE_LOSS),
        pumps: of(TANK.PUMP).map((v, m) => v + pumps[m]),
        sun: of(TANK.SUN),
        store: x.store === "none" || t.weight === 0 ? null : { min: t.min, mean: t.sum / t.weight, max: t.max },
        coldHours: this.coldHours[i],
        closure: books && books.gross[i] > 0 ? books.residual[i] / books.gross[i] : 0,
      };
    });
  }
}
