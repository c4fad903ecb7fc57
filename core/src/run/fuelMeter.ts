import { effectiveServices } from "../inputs/index.ts";
import { fuels, type Fuel, type Project } from "../model/index.ts";
import { fuelUse, type ZoneLoads } from "../services/index.ts";
import { TERM, type CompiledModel, type YearKernel } from "../simulate/index.ts";

import { ArrayMeter } from "./arrayMeter.ts";
import { ComponentMeter } from "./componentMeter.ts";
import { WaterMeter } from "./waterMeter.ts";

const J_PER_KWH = 3.6e6;
/** Water is sold by volume, kg a m³. */
const WATER_DENSITY = 1000;

/** Fuel and hot water of a building hour by hour, with multipliers: what cost and carbon follow from without another run. */
export interface FuelHours {
  /** Days of the weather year: 366 with 29 February. */
  readonly yearDays: number;
  /** Day of the weather year of each day logged, from 0, its year in the run, and how many days it stands for. */
  readonly day: Int32Array;
  readonly year: Int32Array;
  readonly weight: Float64Array;
  /** Hours that are there of the last day. */
  readonly hours: number;
  /** kWh in each hour, day after day, by fuel that is used at all. */
  readonly fuels: Readonly<Partial<Record<Fuel, Float64Array>>>;
  /** Hot water drawn, m³ in each hour. */
  readonly water: Float64Array;
  /** Electricity made on site, kWh in each hour, less what inverters draw at night; absent: none is made. */
  readonly made?: Float64Array;
}

const placeOf = (f: Fuel): number => fuels.indexOf(f);
const LOADS = ["heating", "cooling", "lighting", "appliances", "fanAir", "hotWater"] as const satisfies readonly (keyof ZoneLoads)[];
const NONE: ZoneLoads = { heating: 0, cooling: 0, lighting: 0, appliances: 0, fanAir: 0, hotWater: 0 };

/** Counts fuel step by step while a run goes, by hour. */
export class FuelMeter {
  private readonly model: CompiledModel;
  /** What systems, equipment and plant used. */
  readonly components: ComponentMeter;
  /** Hot-water systems, and electricity made on site. */
  readonly hotWater: WaterMeter;
  readonly arrays: ArrayMeter;
  /** kWh of a fuel per unit of a load of a zone, [zone][load][fuel]: the services' law is linear. */
  private readonly share: Float64Array;
  private readonly heat: Float64Array;
  private readonly cool: Float64Array;
  private readonly fan: Float64Array;
  private readonly day: number[] = [];
  private readonly year: number[] = [];
  private readonly weight: number[] = [];
  private readonly kWh: Float64Array;
  private readonly water: Float64Array;
  private readonly made: Float64Array;
  private readonly sum = new Float64Array(fuels.length);
  private count = 0;

  /** @param days that are logged at most */
  constructor(project: Project, model: CompiledModel, days: number) {
    const { zones } = model;
    this.model = model;
    this.components = new ComponentMeter(model);
    this.hotWater = new WaterMeter(model);
    this.arrays = new ArrayMeter(model);
    this.share = new Float64Array(zones * LOADS.length * fuels.length);
    for (let z = 0; z < zones; z++) {
      const services = project.services[effectiveServices(project, model.zoneIds[z]).id];
      LOADS.forEach((load, l) => {
        // the hot water of a system is told by its heaters
        if (load === "hotWater" && model.onWater[z] === 1) return;
        for (const u of fuelUse({ ...NONE, [load]: 1 }, services))
          this.share[(z * LOADS.length + l) * fuels.length + fuels.indexOf(u.fuel)] += (u.energy * model.zoneMultiplier[z]) / J_PER_KWH;
      });
    }
    this.heat = new Float64Array(zones);
    this.cool = new Float64Array(zones);
    this.fan = new Float64Array(zones);
    const hours = 24 * Math.ceil(days);
    this.kWh = new Float64Array(hours * fuels.length);
    this.water = new Float64Array(hours);
    this.made = new Float64Array(hours);
  }

  /** Adds a step. @param month from 0 @param weight days that this day stands for @param end of the step, in steps from the start of the year */
  take(kernel: YearKernel, month: number, weight: number, end: number): void {
    const { zones, dt, services } = this.model;
    this.components.take(kernel, month, weight, end);
    this.hotWater.take(kernel, weight);
    this.arrays.take(kernel, month, weight);
    const { heat, cool, fan } = this;
    const r = kernel.record;
    const { boundary } = kernel.state;
    for (let z = 0; z < zones; z++) {
      // water is added by steam from the heating, and taken out by the cooling
      const plain = services === null || services.equipped[z] === 0;
      heat[z] += ((plain ? r.heating[z] : 0) + r.humidification[z]) * dt;
      if (plain) cool[z] += (r.cooling[z] + r.dehumidification[z]) * dt;
      // night ventilation and free cooling are moved by fans, windows are not
      if (r.extraFlow[z] > 0) fan[z] += (kernel.fannedExtra(z) / boundary.density) * dt;
    }
  }

  /** Ends an hour. @param hour of the weather year @param weight days that this day stands for @param year of the run, from 0 */
  closeHour(kernel: YearKernel, hour: number, weight: number, year: number): void {
    const { zones, onAir, year: days } = this.model;
    const { heat, cool, fan, share, sum, kWh } = this;
    const t = kernel.record.terms;
    sum.fill(0);
    let water = 0;
    for (let z = 0; z < zones; z++) {
      const at = z * LOADS.length * fuels.length;
      const drawn = t[TERM.hotWater * zones + z];
      water += drawn * this.model.zoneMultiplier[z];
      for (let f = 0; f < fuels.length; f++)
        sum[f] +=
          share[at + f] * heat[z] +
          share[at + fuels.length + f] * cool[z] +
          share[at + 2 * fuels.length + f] * (t[TERM.lightingRadiant * zones + z] + t[TERM.lightingConvective * zones + z]) * 3600 +
          share[at + 3 * fuels.length + f] * t[TERM.applianceFull * zones + z] * 3600 +
          share[at + 4 * fuels.length + f] * (fan[z] + (onAir[z] === 1 ? 0 : t[TERM.outdoorAir * zones + z] * 3600)) +
          share[at + 5 * fuels.length + f] * drawn;
    }
    const { scheduled } = kernel.state;
    for (const l of this.model.siteLights) sum[0] += (l.power * scheduled[l.schedule] * 3600) / J_PER_KWH;
    const month = days.monthOfDay[Math.floor(hour / 24)];
    this.components.closeHour(kernel, month, weight, sum, placeOf);
    this.hotWater.closeHour(kernel, month, weight, sum, placeOf);
    this.made[this.count] = this.arrays.closeHour();
    if (this.count % 24 === 0) {
      this.day.push(Math.floor(hour / 24));
      this.year.push(year);
      this.weight.push(weight);
    }
    kWh.set(sum, this.count * fuels.length);
    this.water[this.count] = water / WATER_DENSITY;
    this.count++;
    heat.fill(0);
    cool.fill(0);
    fan.fill(0);
  }

  result(): FuelHours {
    const n = this.count;
    const by: Partial<Record<Fuel, Float64Array>> = {};
    fuels.forEach((fuel, f) => {
      const values = Float64Array.from({ length: n }, (_, h) => this.kWh[h * fuels.length + f]);
      if (values.some((v) => v > 0)) by[fuel] = values;
    });
    return {
      yearDays: this.model.year.days,
      day: Int32Array.from(this.day),
      year: Int32Array.from(this.year),
      weight: Float64Array.from(this.weight),
      hours: n === 0 ? 0 : n - 24 * (this.day.length - 1),
      fuels: by,
      water: this.water.slice(0, n),
      ...(this.arrays.any ? { made: this.made.slice(0, n) } : {}),
    };
  }
}

/** No fuel at all, as of a run of nothing. */
export const NO_FUEL: FuelHours = {
  yearDays: 365,
  day: new Int32Array(0),
  year: new Int32Array(0),
  weight: new Float64Array(0),
  hours: 0,
  fuels: {},
  water: new Float64Array(0),
};
