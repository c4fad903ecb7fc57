import { MONTH_DAYS, MONTH_OF_DAY, MONTH_START, weatherHash, type WeatherYear } from "../climate/index.ts";
import type { Project } from "../model/index.ts";
import { effectiveServices } from "../inputs/index.ts";
import { endUses, fuelUse, type EndUse } from "../services/index.ts";
import {
  flowNames,
  TERM,
  usualQuantities,
  zoneQuantities,
  type CompiledModel,
  type RunSettings,
  type YearKernel,
  type ZoneQuantity,
} from "../simulate/index.ts";
import type { Series, Summary } from "./summary.ts";

const J_PER_KWH = 3.6e6;
/** Beyond its set-point by more than this, an occupied zone's hour is unmet, K. */
const UNMET_TOLERANCE = 0.5;

/** Sums, peaks, unmet hours and hourly series of a run while it goes. */
export class RunLog {
  private readonly model: CompiledModel;
  private readonly weather: WeatherYear;
  private readonly firstDay: number;
  private readonly days: number;
  private readonly quantities: readonly ZoneQuantity[];
  private readonly columns: Float64Array[];
  private readonly hourSum: Float64Array;
  private readonly heating: Float64Array;
  private readonly cooling: Float64Array;
  private readonly lighting: Float64Array;
  private readonly appliances: Float64Array;
  private readonly fanAir: Float64Array;
  private readonly hotWater: Float64Array;
  private readonly flows: Float64Array;
  private readonly peakHeating: Float64Array;
  private readonly peakCooling: Float64Array;
  private readonly temperature: { min: Float64Array; sum: Float64Array; max: Float64Array };
  private readonly unmetHeat: Float64Array;
  private readonly unmetCool: Float64Array;
  private readonly peaks = { heating: { power: 0, at: -1 }, cooling: { power: 0, at: -1 } };
  private unmet = 0;
  private hours = 0;

  constructor(model: CompiledModel, weather: WeatherYear, firstDay: number, days: number, settings: RunSettings) {
    const { zones } = model;
    const asked = new Set<string>([...usualQuantities, ...(settings.series ?? [])]);
    for (const name of asked)
      if (!zoneQuantities.some((q) => q.name === name))
        throw new RangeError(`there is no series "${name}"; known: ${zoneQuantities.map((q) => q.name).join(", ")}`);
    const f = (n: number): Float64Array => new Float64Array(n);
    this.model = model;
    this.weather = weather;
    this.firstDay = firstDay;
    this.days = days;
    this.quantities = zoneQuantities.map((q) => q.name).filter((n) => asked.has(n));
    this.columns = Array.from({ length: this.quantities.length * zones }, () => f(days * 24));
    this.hourSum = f(this.quantities.length * zones);
    this.heating = f(12 * zones);
    this.cooling = f(12 * zones);
    this.lighting = f(12 * zones);
    this.appliances = f(12 * zones);
    this.fanAir = f(12 * zones);
    this.hotWater = f(12 * zones);
    this.flows = f(12 * flowNames.length);
    this.peakHeating = f(zones);
    this.peakCooling = f(zones);
    this.temperature = { min: f(zones).fill(Infinity), sum: f(zones), max: f(zones).fill(-Infinity) };
    this.unmetHeat = f(zones);
    this.unmetCool = f(zones);
  }

  take(kernel: YearKernel, hour: number, k: number): void {
    const { model } = this;
    const { zones, dt } = model;
    const r = kernel.record;
    const month = MONTH_OF_DAY[Math.floor(hour / 24)];
    let heat = 0;
    let cool = 0;
    let missed = false;
    const stepHours = dt / 3600;
    for (let z = 0; z < zones; z++) {
      const times = model.zoneMultiplier[z];
      const at = month * zones + z;
      const h = r.heating[z];
      const c = r.cooling[z];
      heat += times * h;
      cool += times * c;
      this.heating[at] += h * dt;
      this.cooling[at] += c * dt;
      this.lighting[at] += (r.terms[TERM.lightingRadiant * zones + z] + r.terms[TERM.lightingConvective * zones + z]) * dt;
      this.appliances[at] +=
        (r.terms[TERM.applianceRadiant * zones + z] + r.terms[TERM.applianceConvective * zones + z] + r.terms[TERM.applianceLatent * zones + z]) * dt;
      this.fanAir[at] += r.terms[TERM.outdoorAir * zones + z] * dt;
      this.hotWater[at] += r.terms[TERM.hotWater * zones + z] * stepHours;
      for (let j = 0; j < flowNames.length; j++) this.flows[month * flowNames.length + j] += times * r.flows[z * flowNames.length + j] * dt;
      if (h > this.peakHeating[z]) this.peakHeating[z] = h;
      if (c > this.peakCooling[z]) this.peakCooling[z] = c;
      const t = r.airTemperature[z];
      if (t < this.temperature.min[z]) this.temperature.min[z] = t;
      if (t > this.temperature.max[z]) this.temperature.max[z] = t;
      this.temperature.sum[z] += t;
      if (r.occupied[z] === 1) {
        if (t < r.heatTarget[z] - UNMET_TOLERANCE) {
          this.unmetHeat[z] += stepHours;
          missed = true;
        } else if (t > r.coolTarget[z] + UNMET_TOLERANCE) {
          this.unmetCool[z] += stepHours;
          missed = true;
        }
      }
    }
    if (missed) this.unmet += stepHours;
    const end = hour * model.stepsPerHour + k + 1;
    if (heat > this.peaks.heating.power) this.peaks.heating = { power: heat, at: end };
    if (cool > this.peaks.cooling.power) this.peaks.cooling = { power: cool, at: end };
    this.sample(kernel, hour);
  }

  private sample(kernel: YearKernel, hour: number): void {
    const { zones } = this.model;
    const r = kernel.record;
    const s = this.hourSum;
    this.quantities.forEach((q, i) => {
      const flow = (flowNames as readonly string[]).indexOf(q);
      for (let z = 0; z < zones; z++) {
        let v: number;
        if (q === "airTemperature") v = r.airTemperature[z];
        else if (q === "operativeTemperature") v = 0.5 * (r.airTemperature[z] + r.radiantTemperature[z]);
        else if (q === "relativeHumidity") v = 100 * kernel.humidity(z, this.weather.pressure[hour]);
        else if (q === "heating") v = r.heating[z];
        else if (q === "cooling") v = r.cooling[z];
        else v = r.flows[z * flowNames.length + flow];
        s[i * zones + z] += v;
      }
    });
  }

  closeHour(): void {
    const n = this.model.stepsPerHour;
    for (let i = 0; i < this.hourSum.length; i++) this.columns[i][this.hours] = this.hourSum[i] / n;
    this.hourSum.fill(0);
    this.hours++;
  }

  series(): Series[] {
    const { zones, zoneIds } = this.model;
    return this.quantities.flatMap((q, i) => {
      const spec = zoneQuantities.find((z) => z.name === q) as (typeof zoneQuantities)[number];
      return zoneIds.map((id, z): Series => ({
        scope: id,
        quantity: q,
        unit: spec.unit,
        kind: "mean",
        start: this.firstDay * 24,
        step: 3600,
        values: this.columns[i * zones + z],
      }));
    });
  }

  summary(
    project: Project,
    closureResidual: number,
    warnings: readonly string[],
    warmupDays: number,
    timing: { compile: number; run: number },
  ): Omit<Summary, "fingerprint"> {
    const { model } = this;
    const { zones } = model;
    const year = this.firstDay === 0 && this.days === 365;
    const conditioned = Array.from(
      { length: zones },
      (_, z) => model.heatingSetpoint[z] === model.heatingSetpoint[z] || model.coolingSetpoint[z] === model.coolingSetpoint[z],
    );
    let floorArea = 0;
    for (let z = 0; z < zones; z++) if (conditioned[z]) floorArea += model.zoneArea[z] * model.zoneMultiplier[z];
    const monthlySum = (a: Float64Array): number[] =>
      Array.from({ length: 12 }, (_, m) => {
        let s = 0;
        for (let z = 0; z < zones; z++) s += a[m * zones + z] * model.zoneMultiplier[z];
        return s / J_PER_KWH;
      });
    const total = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);
    const uses = new Map<string, { use: EndUse; fuel: Summary["energy"]["endUses"][number]["fuel"]; monthly: number[] }>();
    for (let z = 0; z < zones; z++) {
      const services = project.services[effectiveServices(project, model.zoneIds[z]).id];
      for (let m = 0; m < 12; m++) {
        const at = m * zones + z;
        const loads = {
          heating: this.heating[at],
          cooling: this.cooling[at],
          lighting: this.lighting[at],
          appliances: this.appliances[at],
          fanAir: this.fanAir[at],
          hotWater: this.hotWater[at],
        };
        for (const u of fuelUse(loads, services)) {
          const key = `${u.use} ${u.fuel}`;
          let row = uses.get(key);
          if (!row) uses.set(key, (row = { use: u.use, fuel: u.fuel, monthly: new Array<number>(12).fill(0) }));
          row.monthly[m] += (u.energy * model.zoneMultiplier[z]) / J_PER_KWH;
        }
      }
    }
    const rows = [...uses.values()]
      .sort((a, b) => endUses.indexOf(a.use) - endUses.indexOf(b.use) || (a.fuel < b.fuel ? -1 : 1))
      .map((u) => ({ ...u, total: total(u.monthly) }));
    const site = total(rows.map((u) => u.total));
    const weigh = (by: Partial<Record<string, number>>): number => total(rows.map((u) => u.total * (by[u.fuel] ?? 0)));
    const zoneTotal = (a: Float64Array, z: number): number => {
      let s = 0;
      for (let m = 0; m < 12; m++) s += a[m * zones + z];
      return s / J_PER_KWH;
    };
    const steps = this.hours * model.stepsPerHour;
    const heating = monthlySum(this.heating);
    const cooling = monthlySum(this.cooling);
    const intensity = year && floorArea > 0 ? site / floorArea : null;
    return {
      formatVersion: 1,
      project: project.name,
      weather: weatherHash(this.weather),
      period: { firstDay: this.firstDay, days: this.days },
      stepsPerHour: model.stepsPerHour,
      floorArea,
      energy: {
        intensity,
        net: intensity,
        endUses: rows,
        cost: weigh(project.prices.perKWh),
        carbon: weigh(project.factors.carbon),
        primary: weigh(project.factors.primary),
      },
      loads: { heating: { total: total(heating), monthly: heating }, cooling: { total: total(cooling), monthly: cooling } },
      peaks: {
        heating: { power: this.peaks.heating.power, at: this.stamp(this.peaks.heating.at) },
        cooling: { power: this.peaks.cooling.power, at: this.stamp(this.peaks.cooling.at) },
      },
      zones: model.zoneIds.map((id, z) => ({
        id,
        name: model.zoneNames[z],
        floorArea: model.zoneArea[z],
        heating: zoneTotal(this.heating, z),
        cooling: zoneTotal(this.cooling, z),
        peakHeating: this.peakHeating[z],
        peakCooling: this.peakCooling[z],
        temperature: { min: this.temperature.min[z], mean: this.temperature.sum[z] / steps, max: this.temperature.max[z] },
        unmetHours: { heating: this.unmetHeat[z], cooling: this.unmetCool[z] },
      })),
      flows: Object.fromEntries(
        flowNames.map((name, j) => [name, Array.from({ length: 12 }, (_, m) => this.flows[m * flowNames.length + j] / J_PER_KWH)]),
      ) as Summary["flows"],
      unmetHours: this.unmet,
      closure: closureResidual,
      warmupDays,
      warnings: [...warnings],
      timing,
    };
  }

  /** "month-day hour:minute" of the end of a step counted from the start of the year. */
  private stamp(step: number): string | null {
    if (step < 0) return null;
    const minutes = (step * 60) / this.model.stepsPerHour;
    const day = Math.min(364, Math.floor((minutes - 1) / 1440));
    const inDay = minutes - day * 1440;
    const month = MONTH_OF_DAY[day];
    const two = (n: number): string => String(n).padStart(2, "0");
    return `${two(month + 1)}-${two(Math.min(MONTH_DAYS[month], day - MONTH_START[month] + 1))} ${two(Math.floor(inDay / 60))}:${two(inDay % 60)}`;
  }
}
