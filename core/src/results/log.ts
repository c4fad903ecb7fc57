import { dailyMeans, relativeHumidity, vapourPressure, type WeatherYear } from "../climate/index.ts";
import { dateOfDay, LEAP_DAY, LEAP_YEAR, SIZED, type Fuel, type Project } from "../model/index.ts";
import { effective, effectiveServices } from "../inputs/index.ts";
import { endUses, fuelUse, type EndUse } from "../services/index.ts";
import {
  FLOW,
  FLOWS,
  flowNames,
  sunDirections,
  TERM,
  TIE,
  usualQuantities,
  waterNames,
  WATERS,
  type CompiledModel,
  type RunSettings,
  type YearKernel,
} from "../simulate/index.ts";
import { adaptiveBands, adaptiveLimits, dissatisfied, Person, runningMeans, voteAt } from "./comfort.ts";
import { AirMeter, billOf, siteEnergy, unmetCauses, UnmetCauses, type ComponentState, type FuelMeter, type UnmetCause } from "../run/index.ts";
import { priceFigures, siteFigures } from "./pricing.ts";
import { SeriesLog } from "./seriesLog.ts";
import type { Series, Summary } from "./summary.ts";

const J_PER_KWH = 3.6e6;
/** Running mean of the outdoor temperature below which people dress for the cold, °C: typical, unverified. */
const COLD_SEASON = 15;
/** Daylight wanted where nothing is controlled, lx. */
const USUAL_LIGHT = 300;
/** Operative temperature above which hours with people are told as warm, °C. */
const WARM = 26;
/** Relative humidity above which hours are counted, 1. */
const HUMID = 0.8;
/** Steps an hour from which hours unmet mean something: longer ones make some of their own. */
const LEAST_STEPS = 4;
const BANDS = adaptiveBands.length;
/** Votes within this of nothing are comfortable (EN 16798-1:2019, category II). */
const COMFORTABLE = 0.5;
const SUNS = sunDirections.length;

/** What a run tells of itself beside its sums. */
export interface RunFacts {
  readonly closure: number;
  readonly waterClosure: number;
  /** Name of the weather year by its content. */
  readonly weather: string;
  readonly warnings: readonly string[];
  readonly warmupDays: number;
  readonly shortYear: Summary["shortYear"];
  readonly sized: Summary["sized"];
  readonly counted: Summary["counted"];
  readonly timing: Summary["timing"];
}

/** The days a run covers. */
export interface Covered {
  /** Day of the weather year it begins on, from 0. */
  readonly first: number;
  readonly days: number;
  /** Days its series hold: those of a short year, else all. */
  readonly columns: number;
  /** Exactly one year of the calendar. */
  readonly wholeYear: boolean;
  /** Which of its days are 29 February. */
  readonly leapDays: readonly number[];
}

/** Sums, peaks, unmet hours, comfort and hourly series of a run while it goes. */
export class RunLog {
  private readonly model: CompiledModel;
  private readonly weather: WeatherYear;
  private readonly covered: Covered;
  private readonly lines: SeriesLog;
  private readonly meter: FuelMeter;
  private readonly heating: Float64Array;
  private readonly cooling: Float64Array;
  private readonly humidification: Float64Array;
  private readonly dehumidification: Float64Array;
  private readonly lighting: Float64Array;
  private readonly lightingFull: Float64Array;
  private readonly appliances: Float64Array;
  private readonly fanAir: Float64Array;
  private readonly hotWater: Float64Array;
  private readonly siteLight: Float64Array;
  /** [month][zone][flow], [month][zone][direction], [month][element·2 + side]; of elements: sun on and through. */
  private readonly flows: Float64Array;
  private readonly sunBy: Float64Array;
  private readonly faces: Float64Array;
  private readonly incident: Float64Array;
  private readonly transmitted: Float64Array;
  /** Largest means of a step and of an hour by zone, W, and those of the hour so far; the building's stand behind the zones'. */
  private readonly stepHeating: Float64Array;
  private readonly stepCooling: Float64Array;
  private readonly hourHeating: Float64Array;
  private readonly hourCooling: Float64Array;
  private readonly hourLatent: Float64Array;
  private readonly peakHeating: Float64Array;
  private readonly peakCooling: Float64Array;
  /** Ends of the hours of these peaks, steps of the year; −1: none. */
  private readonly heatingAt: Float64Array;
  private readonly coolingAt: Float64Array;
  private readonly peakLatent: Float64Array;
  private readonly condensed: Float64Array;
  private readonly humidHours: Float64Array;
  private readonly warmHours: Float64Array;
  private readonly water: Float64Array;
  private readonly temperature: { min: Float64Array; sum: Float64Array; max: Float64Array };
  private readonly unmetHeat: Float64Array;
  private readonly unmetCool: Float64Array;
  private readonly causes: UnmetCauses;
  /** Comfort by zone over the hours with people; air and radiant temperature of the hour so far. */
  private readonly peopleHours: Float64Array;
  private readonly votes: { min: Float64Array; sum: Float64Array; max: Float64Array; dissatisfied: Float64Array };
  /** Hours with people whose vote is below and above comfort, [month][zone]. */
  private readonly coldMonths: Float64Array;
  private readonly warmMonths: Float64Array;
  private readonly bandCold: Float64Array;
  private readonly bandWarm: Float64Array;
  private readonly bandNone: Float64Array;
  private readonly hourAir: Float64Array;
  private readonly hourRadiant: Float64Array;
  private readonly hourVapour: Float64Array;
  private readonly hourVote: Float64Array;
  private readonly running: Float64Array;
  /** People of each zone by winter and summer clothing, [zone·2 + summer]; limits of the adaptive bands on the day they were last asked for. */
  private readonly people: readonly Person[];
  private readonly limits = new Float64Array(2 * BANDS);
  private limitsOf = -1;
  private readonly lightHours: Float64Array;
  private readonly sunHours: Float64Array;
  private readonly airflow: AirMeter;
  private readonly peak = { heatStepAt: -1, coolStepAt: -1, unmet: 0, weight: 1, weighed: 0, steps: 0 };

  constructor(model: CompiledModel, weather: WeatherYear, covered: Covered, settings: RunSettings, meter: FuelMeter) {
    const { zones, elements } = model;
    const f = (n: number): Float64Array => new Float64Array(n);
    this.model = model;
    this.weather = weather;
    this.covered = covered;
    this.meter = meter;
    this.airflow = new AirMeter(model);
    this.lines = new SeriesLog(
      model,
      weather,
      covered.first,
      covered.columns,
      new Set(settings.summaryOnly ? [] : [...usualQuantities, ...(settings.series ?? [])]),
    );
    this.heating = f(12 * zones);
    this.cooling = f(12 * zones);
    this.humidification = f(12 * zones);
    this.dehumidification = f(12 * zones);
    this.lighting = f(12 * zones);
    this.lightingFull = f(12 * zones);
    this.appliances = f(12 * zones);
    this.fanAir = f(12 * zones);
    this.hotWater = f(12 * zones);
    this.siteLight = f(12);
    this.flows = f(12 * zones * FLOWS);
    this.sunBy = f(12 * zones * SUNS);
    this.faces = f(12 * elements * 2);
    this.incident = f(elements);
    this.transmitted = f(elements);
    this.stepHeating = f(zones + 1);
    this.stepCooling = f(zones + 1);
    this.hourHeating = f(zones + 1);
    this.hourCooling = f(zones + 1);
    this.hourLatent = f(zones + 1);
    this.peakHeating = f(zones + 1);
    this.peakCooling = f(zones + 1);
    this.heatingAt = f(zones + 1).fill(-1);
    this.coolingAt = f(zones + 1).fill(-1);
    this.peakLatent = f(zones + 1);
    this.condensed = f(zones);
    this.humidHours = f(zones);
    this.warmHours = f(zones);
    this.water = f(12 * zones * WATERS);
    this.temperature = { min: f(zones).fill(Infinity), sum: f(zones), max: f(zones).fill(-Infinity) };
    this.unmetHeat = f(zones);
    this.unmetCool = f(zones);
    this.causes = new UnmetCauses(model);
    this.peopleHours = f(zones);
    this.votes = { min: f(zones).fill(Infinity), sum: f(zones), max: f(zones).fill(-Infinity), dissatisfied: f(zones) };
    this.coldMonths = f(12 * zones);
    this.warmMonths = f(12 * zones);
    this.bandCold = f(zones * BANDS);
    this.bandWarm = f(zones * BANDS);
    this.bandNone = f(zones * BANDS);
    this.hourAir = f(zones);
    this.hourRadiant = f(zones);
    this.hourVapour = f(zones);
    this.hourVote = f(zones);
    this.running = runningMeans(dailyMeans(weather));
    this.people = Array.from({ length: 2 * zones }, (_, i) => {
      const z = i >> 1;
      return new Person(model.metabolicRate[z], i & 1 ? model.clothingSummer[z] : model.clothingWinter[z], model.airSpeed[z]);
    });
    this.lightHours = f(model.daylight.sensors.length);
    this.sunHours = f(model.daylight.sensors.length);
  }

  /** Days the coming ones stand for, in a short year. */
  weigh(days: number): void {
    this.peak.weight = days;
  }

  take(kernel: YearKernel, hour: number, k: number): void {
    const { model } = this;
    const { zones, dt } = model;
    const r = kernel.record;
    const month = this.model.year.monthOfDay[Math.floor(hour / 24)];
    const { weight } = this.peak;
    const seconds = dt * weight;
    const hours = seconds / 3600;
    const tolerance = Math.max(model.options.unmetTolerance, TIE);
    const { stepHeating, stepCooling, hourHeating, hourCooling, hourLatent } = this;
    let heat = 0;
    let cool = 0;
    let wet = 0;
    let missed = false;
    this.causes.begin(kernel);
    for (let z = 0; z < zones; z++) {
      const times = model.zoneMultiplier[z];
      const at = month * zones + z;
      const h = r.heating[z];
      const moist = r.dehumidification[z];
      const c = r.cooling[z] + moist;
      heat += times * h;
      cool += times * c;
      wet += times * moist;
      hourHeating[z] += h;
      hourCooling[z] += c;
      hourLatent[z] += moist;
      this.condensed[z] += r.condensation[z] * seconds;
      this.humidification[at] += r.humidification[z] * seconds;
      this.dehumidification[at] += moist * seconds;
      // night ventilation and free cooling are moved by fans, windows are not
      if (r.extraFlow[z] > 0) this.fanAir[at] += (kernel.fannedExtra(z) / kernel.state.boundary.density) * seconds;
      if (h > stepHeating[z]) stepHeating[z] = h;
      if (c > stepCooling[z]) stepCooling[z] = c;
      const air = r.airTemperature[z];
      const radiant = r.radiantTemperature[z];
      this.hourAir[z] += air;
      this.hourRadiant[z] += radiant;
      if (air < this.temperature.min[z]) this.temperature.min[z] = air;
      if (air > this.temperature.max[z]) this.temperature.max[z] = air;
      this.temperature.sum[z] += weight * air;
      if (r.counted[z] === 1) {
        const sensed = air + model.radiantWeight[z] * (radiant - air);
        if (sensed < r.heatTarget[z] - tolerance) {
          this.unmetHeat[z] += hours;
          this.causes.missed(kernel, z, true);
          missed = true;
        } else if (sensed > r.coolTarget[z] + tolerance) {
          this.unmetCool[z] += hours;
          this.causes.missed(kernel, z, false);
          missed = true;
        }
      }
    }
    const p = this.peak;
    p.steps++;
    p.weighed += weight;
    if (missed) p.unmet += hours;
    this.causes.end(hours);
    const end = hour * model.stepsPerHour + k + 1;
    hourHeating[zones] += heat;
    hourCooling[zones] += cool;
    hourLatent[zones] += wet;
    if (heat > stepHeating[zones]) {
      stepHeating[zones] = heat;
      p.heatStepAt = end;
    }
    if (cool > stepCooling[zones]) {
      stepCooling[zones] = cool;
      p.coolStepAt = end;
    }
    this.meter.take(kernel, month, weight, end);
    this.airflow.take(kernel, hours);
    this.lines.take(kernel, hour, this.meter.arrays.power);
  }

  /** Empties what the kernel sums by itself, as before the first step that is taken. */
  begin(kernel: YearKernel): void {
    const r = kernel.record;
    for (const a of [r.faceSum0, r.faceSum1, r.flowSum, r.waterSum, r.incidentSum, r.transmittedSum, r.sunBySum]) a.fill(0);
    kernel.clearEnergy();
  }

  /** Takes over what the kernel summed since the last time, all of it in the month of `hour`; to be called at the end of each month and of the run. */
  takeSums(kernel: YearKernel, hour: number): void {
    const { zones, elements, dt } = this.model;
    const { faceSum0, faceSum1, flowSum, waterSum, incidentSum, transmittedSum, sunBySum } = kernel.record;
    const { faces, flows, water, sunBy, incident, transmitted } = this;
    const month = this.model.year.monthOfDay[Math.floor(hour / 24)];
    const seconds = dt * this.peak.weight;
    const face = month * elements * 2;
    for (let i = 0; i < elements; i++) {
      faces[face + 2 * i] += faceSum0[i] * seconds;
      faces[face + 2 * i + 1] += faceSum1[i] * seconds;
      incident[i] += incidentSum[i] * seconds;
      transmitted[i] += transmittedSum[i] * seconds;
    }
    const flow = month * zones * FLOWS;
    for (let j = 0; j < zones * FLOWS; j++) flows[flow + j] += flowSum[j] * seconds;
    const wet = month * zones * WATERS;
    for (let j = 0; j < zones * WATERS; j++) water[wet + j] += waterSum[j] * seconds;
    waterSum.fill(0);
    // heat delivered and removed are flows of the balance
    for (let z = 0; z < zones; z++) {
      this.heating[month * zones + z] += flowSum[z * FLOWS + FLOW.heating] * seconds;
      this.cooling[month * zones + z] -= flowSum[z * FLOWS + FLOW.cooling] * seconds;
    }
    const sun = month * zones * SUNS;
    for (let j = 0; j < zones * SUNS; j++) sunBy[sun + j] += sunBySum[j] * seconds;
    faceSum0.fill(0);
    faceSum1.fill(0);
    flowSum.fill(0);
    incidentSum.fill(0);
    transmittedSum.fill(0);
    sunBySum.fill(0);
  }

  /** What schedules drive is the same in every step of an hour. */
  private takeTerms(kernel: YearKernel, hour: number): void {
    const { zones, onAir } = this.model;
    const t = kernel.record.terms;
    const month = this.model.year.monthOfDay[Math.floor(hour / 24)];
    const hours = this.peak.weight;
    const seconds = 3600 * hours;
    for (let z = 0; z < zones; z++) {
      const at = month * zones + z;
      this.lighting[at] += (t[TERM.lightingRadiant * zones + z] + t[TERM.lightingConvective * zones + z]) * seconds;
      this.lightingFull[at] += t[TERM.lightingFull * zones + z] * seconds;
      this.appliances[at] += t[TERM.applianceFull * zones + z] * seconds;
      if (onAir[z] === 0) this.fanAir[at] += t[TERM.outdoorAir * zones + z] * seconds;
      this.hotWater[at] += t[TERM.hotWater * zones + z] * hours;
    }
    const { scheduled } = kernel.state;
    for (const l of this.model.siteLights) this.siteLight[month] += l.power * scheduled[l.schedule] * seconds;
  }

  closeHour(kernel: YearKernel, hour: number, year = 0): void {
    this.takeTerms(kernel, hour);
    this.meter.closeHour(kernel, hour, this.peak.weight, year);
    this.peaksOfHour(hour);
    this.comfort(kernel, hour);
    this.light(kernel, hour);
    this.lines.light(kernel.record.daylight);
    this.lines.closeHour(this.hourVote);
    this.hourAir.fill(0);
    this.hourRadiant.fill(0);
  }

  /** The hour's means against the largest so far. */
  private peaksOfHour(hour: number): void {
    const { hourHeating, hourCooling, hourLatent, peakHeating, peakCooling, peakLatent } = this;
    const { zones, stepsPerHour } = this.model;
    const end = (hour + 1) * stepsPerHour;
    for (let z = 0; z <= zones; z++) {
      const heat = hourHeating[z] / stepsPerHour;
      const cool = hourCooling[z] / stepsPerHour;
      if (heat > peakHeating[z]) {
        peakHeating[z] = heat;
        this.heatingAt[z] = end;
      }
      if (cool > peakCooling[z]) {
        peakCooling[z] = cool;
        peakLatent[z] = hourLatent[z] / stepsPerHour;
        this.coolingAt[z] = end;
      }
    }
    hourHeating.fill(0);
    hourCooling.fill(0);
    hourLatent.fill(0);
  }

  /** Comfort of the hour where people are. */
  private comfort(kernel: YearKernel, hour: number): void {
    const { model, votes, limits, hourVote, hourAir, hourRadiant, hourVapour, people, peopleHours, bandNone, bandCold, bandWarm } = this;
    const { zones, stepsPerHour } = model;
    const { occupied, humidityRatio, coolTarget } = kernel.record;
    const { weight } = this.peak;
    const day = Math.floor(hour / 24);
    const running = this.running[day];
    if (day !== this.limitsOf) {
      adaptiveLimits(running, limits);
      this.limitsOf = day;
    }
    const month = model.year.monthOfDay[day];
    const season = running < COLD_SEASON ? 0 : 1;
    const pressure = this.weather.pressure[hour];
    const asked = this.lines.wantsVotes;
    for (let z = 0; z < zones; z++)
      if ((occupied[z] === 1 || coolTarget[z] === coolTarget[z]) && relativeHumidity(kernel.record.airTemperature[z], humidityRatio[z], pressure) > HUMID)
        this.humidHours[z] += weight;
    for (let z = 0; z < zones; z++) {
      const present = occupied[z] === 1;
      hourVote[z] = NaN;
      if (!present && !asked) continue;
      hourAir[z] /= stepsPerHour;
      hourRadiant[z] /= stepsPerHour;
      hourVapour[z] = vapourPressure(humidityRatio[z], pressure);
      voteAt(people[2 * z + season], hourAir, hourRadiant, hourVapour, z, hourVote);
      if (!present) continue;
      const pmv = hourVote[z];
      peopleHours[z] += weight;
      votes.sum[z] += weight * pmv;
      votes.dissatisfied[z] += weight * dissatisfied(pmv);
      if (pmv < -COMFORTABLE) this.coldMonths[month * zones + z] += weight;
      else if (pmv > COMFORTABLE) this.warmMonths[month * zones + z] += weight;
      if (pmv < votes.min[z]) votes.min[z] = pmv;
      if (pmv > votes.max[z]) votes.max[z] = pmv;
      const operative = 0.5 * (hourAir[z] + hourRadiant[z]);
      if (operative > WARM) this.warmHours[z] += weight;
      for (let b = 0; b < BANDS; b++) {
        const low = limits[2 * b];
        if (low !== low) bandNone[z * BANDS + b] += weight;
        else if (operative < low) bandCold[z * BANDS + b] += weight;
        else if (operative > limits[2 * b + 1]) bandWarm[z * BANDS + b] += weight;
      }
    }
  }

  /** Hours in which daylight alone is enough. */
  private light(kernel: YearKernel, hour: number): void {
    const { sensors, controls } = this.model.daylight;
    if (sensors.length === 0 || this.weather.globalHorizontal[hour] <= 0) return;
    const r = kernel.record;
    for (let i = 0; i < sensors.length; i++) {
      if (r.occupied[sensors[i].zone] === 0) continue;
      this.sunHours[i] += this.peak.weight;
      let target = USUAL_LIGHT;
      for (let c = 0; c < controls.length; c++) if (controls[c].space === sensors[i].space) ({ target } = controls[c]);
      if (r.daylight[i] >= target) this.lightHours[i] += this.peak.weight;
    }
  }

  /** Water condensed, kg, and hours above 80 % of each zone. */
  damp(tell: (zone: number, water: number, hours: number) => void): void {
    for (let z = 0; z < this.model.zones; z++) tell(z, this.condensed[z], this.humidHours[z]);
  }

  series(): Series[] {
    return this.lines.series();
  }

  summary(project: Project, facts: RunFacts): Omit<Summary, "fingerprint"> {
    const { model } = this;
    const { zones } = model;
    const { first, days, wholeYear, leapDays } = this.covered;
    const conditioned = Array.from(
      { length: zones },
      (_, z) => model.heatingSetpoint[z] === model.heatingSetpoint[z] || model.coolingSetpoint[z] === model.coolingSetpoint[z],
    );
    let floorArea = 0;
    let wholeFloorArea = 0;
    for (let z = 0; z < zones; z++) {
      const area = model.zoneArea[z] * model.zoneMultiplier[z];
      wholeFloorArea += area;
      if (conditioned[z]) floorArea += area;
    }
    const waters = (z: number): Summary["water"] =>
      Object.fromEntries(waterNames.map((name, j) => [name, months((m) => this.water[(m * zones + z) * WATERS + j])])) as Summary["water"];
    const told = model.stepsPerHour >= LEAST_STEPS;
    const capacity = (zone: string, field: "heatingCapacity" | "coolingCapacity", power: number) => ({
      power: power < Infinity ? power : null,
      sized: effective(project, "zone", zone, field).value === SIZED,
    });
    const months = (read: (m: number) => number): number[] => Array.from({ length: 12 }, (_, m) => read(m));
    const monthlySum = (a: Float64Array): number[] =>
      months((m) => {
        let s = 0;
        for (let z = 0; z < zones; z++) s += a[m * zones + z] * model.zoneMultiplier[z];
        return s / J_PER_KWH;
      });
    const total = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);
    const load = (a: Float64Array): { total: number; monthly: number[] } => {
      const monthly = monthlySum(a);
      return { total: total(monthly), monthly };
    };
    const rows = this.endUses(project);
    const site = total(rows.map((u) => u.total));
    const fuel = this.meter.result();
    const bill = billOf(fuel, project);
    const electricity = total(rows.filter((u) => u.fuel === "electricity").map((u) => u.total));
    const zoneTotal = (a: Float64Array, z: number): number => total(months((m) => a[m * zones + z])) / J_PER_KWH;
    const intensity = wholeYear && floorArea > 0 ? site / floorArea : null;
    const zoneFlow = (z: number, j: number, m: number): number => this.flows[(m * zones + z) * FLOWS + j] / J_PER_KWH;
    return {
      formatVersion: 2,
      project: project.name,
      period: {
        firstDay: model.year === LEAP_YEAR && first > LEAP_DAY ? first - 1 : first,
        days,
        ...(leapDays.length > 0 ? { leapDays: [...leapDays] } : {}),
      },
      stepsPerHour: model.stepsPerHour,
      floorArea,
      wholeFloorArea,
      energy: {
        intensity,
        perFloorArea: wholeYear && wholeFloorArea > 0 ? site / wholeFloorArea : null,
        ...siteFigures(siteEnergy(fuel, project), site, electricity, intensity === null ? null : floorArea),
        endUses: rows,
        ...priceFigures(bill),
      },
      loads: {
        heating: load(this.heating),
        cooling: load(this.cooling),
        humidification: load(this.humidification),
        dehumidification: load(this.dehumidification),
      },
      peaks: {
        heating: {
          power: this.peakHeating[zones],
          latent: 0,
          at: this.stamp(this.heatingAt[zones]),
          step: this.stepHeating[zones],
          stepAt: this.stamp(this.peak.heatStepAt),
        },
        cooling: {
          power: this.peakCooling[zones],
          latent: this.peakLatent[zones],
          at: this.stamp(this.coolingAt[zones]),
          step: this.stepCooling[zones],
          stepAt: this.stamp(this.peak.coolStepAt),
        },
      },
      zones: model.zoneIds.map((id, z) => ({
        id,
        name: model.zoneNames[z],
        floorArea: model.zoneArea[z],
        heating: zoneTotal(this.heating, z),
        cooling: zoneTotal(this.cooling, z),
        peakHeating: this.peakHeating[z],
        peakHeatingAt: this.stamp(this.heatingAt[z]),
        peakCooling: this.peakCooling[z],
        peakCoolingAt: this.stamp(this.coolingAt[z]),
        peakLatent: this.peakLatent[z],
        stepHeating: this.stepHeating[z],
        stepCooling: this.stepCooling[z],
        capacity: { heating: capacity(id, "heatingCapacity", model.heatingCapacity[z]), cooling: capacity(id, "coolingCapacity", model.coolingCapacity[z]) },
        condensed: this.condensed[z],
        warmHours: this.warmHours[z],
        humidHours: this.humidHours[z],
        water: waters(z),
        temperature: { min: this.temperature.min[z], mean: this.temperature.sum[z] / this.peak.weighed, max: this.temperature.max[z] },
        unmetHours: { heating: told ? this.unmetHeat[z] : null, cooling: told ? this.unmetCool[z] : null },
        lighting: { full: zoneTotal(this.lightingFull, z), used: zoneTotal(this.lighting, z) },
        comfort: this.comfortOf(z),
        flows: Object.fromEntries(flowNames.map((name, j) => [name, months((m) => zoneFlow(z, j, m))])) as Summary["flows"],
        sun: Object.fromEntries(
          sunDirections.map((name, d) => [name, months((m) => this.sunBy[(m * zones + z) * SUNS + d] / J_PER_KWH)]),
        ) as Summary["zones"][number]["sun"],
      })),
      faces: this.faceRows(),
      components: [...this.meter.components.result(), ...this.meter.hotWater.components()].map(({ atHeating, atCooling, ...c }) => ({
        ...c,
        atHeating: this.stamped(atHeating),
        atCooling: this.stamped(atCooling),
      })),
      daylight: model.daylight.sensors.map((s, i) => ({
        id: s.id,
        name: s.name,
        space: s.space,
        zone: model.zoneIds[s.zone],
        proposed: s.proposed,
        factor: s.factor,
        target: model.daylight.controls.find((c) => c.space === s.space)?.target ?? null,
        hours: this.lightHours[i],
        of: this.sunHours[i],
      })),
      flows: Object.fromEntries(
        flowNames.map((name, j) => [
          name,
          months((m) => {
            let s = 0;
            for (let z = 0; z < zones; z++) s += model.zoneMultiplier[z] * zoneFlow(z, j, m);
            return s;
          }),
        ]),
      ) as Summary["flows"],
      water: Object.fromEntries(
        waterNames.map((name, j) => [
          name,
          months((m) => {
            let s = 0;
            for (let z = 0; z < zones; z++) s += model.zoneMultiplier[z] * this.water[(m * zones + z) * WATERS + j];
            return s;
          }),
        ]),
      ) as Summary["water"],
      hotWater: this.drawn(),
      waterSystems: this.meter.hotWater.result(),
      arrays: this.meter.arrays.result(),
      airflow: this.airflow.result(),
      unmetHours: told ? this.peak.unmet : null,
      unmetCauses: told ? (Object.fromEntries(unmetCauses.map((c, i) => [c, this.causes.hours[i]])) as Record<UnmetCause, number>) : null,
      unmetTolerance: model.options.unmetTolerance,
      ...facts,
      warnings: [...facts.warnings],
    };
  }

  /** Hot-water systems so far. */
  waterSystems(): ReturnType<FuelMeter["hotWater"]["result"]> {
    return this.meter.hotWater.result();
  }

  /** A kept state with the time of its step in words. */
  private stamped(state: ComponentState | null): Summary["components"][number]["atHeating"] {
    if (state === null) return null;
    const { step, ...rest } = state;
    return { at: this.stamp(step) ?? "", ...rest };
  }

  /** Hot water drawn by all zones, m³. */
  private drawn(): number {
    const { zones, zoneMultiplier } = this.model;
    let litres = 0;
    for (let m = 0; m < 12; m++) for (let z = 0; z < zones; z++) litres += this.hotWater[m * zones + z] * zoneMultiplier[z];
    return litres / 1000;
  }

  /** Energy by end use and fuel, kWh. */
  private endUses(project: Project): Summary["energy"]["endUses"] {
    const { model } = this;
    const { zones } = model;
    const uses = new Map<string, { use: EndUse; fuel: Fuel; monthly: number[] }>();
    const row = (use: EndUse, fuel: Fuel): { monthly: number[] } => {
      const key = `${use} ${fuel}`;
      let found = uses.get(key);
      if (!found) uses.set(key, (found = { use, fuel, monthly: new Array<number>(12).fill(0) }));
      return found;
    };
    for (let z = 0; z < zones; z++) {
      const plain = model.services === null || model.services.equipped[z] === 0;
      const services = project.services[effectiveServices(project, model.zoneIds[z]).id];
      for (let m = 0; m < 12; m++) {
        const at = m * zones + z;
        const loads = {
          // water is added by steam from the heating, and taken out by the cooling
          heating: (plain ? this.heating[at] : 0) + this.humidification[at],
          cooling: plain ? this.cooling[at] + this.dehumidification[at] : 0,
          lighting: this.lighting[at],
          appliances: this.appliances[at],
          fanAir: this.fanAir[at],
          hotWater: model.onWater[z] === 1 ? 0 : this.hotWater[at],
        };
        for (const u of fuelUse(loads, services)) row(u.use, u.fuel).monthly[m] += (u.energy * model.zoneMultiplier[z]) / J_PER_KWH;
      }
    }
    const add = (use: EndUse, fuel: Fuel, m: number, energy: number): void => void (row(use, fuel).monthly[m] += energy);
    this.meter.components.endUses(add);
    this.meter.hotWater.endUses(add);
    if (model.siteLights.length > 0)
      uses.set("exterior lighting", { use: "exterior lighting", fuel: "electricity", monthly: Array.from(this.siteLight, (j) => j / J_PER_KWH) });
    return (
      [...uses.values()]
        .sort((a, b) => endUses.indexOf(a.use) - endUses.indexOf(b.use) || (a.fuel < b.fuel ? -1 : 1))
        .map((u) => ({ ...u, total: u.monthly.reduce((s, v) => s + v, 0) }))
        // plain services whose zones all draw from a hot-water system make none
        .filter((u) => u.total > 0 || u.use !== "hot water")
    );
  }

  private comfortOf(z: number): Summary["zones"][number]["comfort"] {
    const hours = this.peopleHours[z];
    if (hours === 0) return null;
    const months = (of: Float64Array): number[] => Array.from({ length: 12 }, (_, m) => of[m * this.model.zones + z]);
    return {
      hours,
      vote: { min: this.votes.min[z], mean: this.votes.sum[z] / hours, max: this.votes.max[z] },
      dissatisfied: this.votes.dissatisfied[z] / hours,
      outside: adaptiveBands.map((band, b) => ({
        band,
        cold: this.bandCold[z * BANDS + b],
        warm: this.bandWarm[z * BANDS + b],
        undefined: this.bandNone[z * BANDS + b],
      })),
      discomfort: { cold: months(this.coldMonths), warm: months(this.warmMonths) },
    };
  }

  private faceRows(): Summary["faces"] {
    const { model } = this;
    const { elements } = model;
    const rows: Summary["faces"] = [];
    for (let i = 0; i < elements; i++)
      for (const side of model.zone0[i] >= 0 ? ([0, 1] as const) : ([1] as const))
        rows.push({
          key: model.keys[i],
          zone: model.zoneIds[side === 0 ? model.zone0[i] : model.zone1[i]],
          role: model.roles[i],
          area: model.area[i],
          monthly: Array.from({ length: 12 }, (_, m) => this.faces[m * elements * 2 + 2 * i + side] / J_PER_KWH),
          incident: this.incident[i] / J_PER_KWH,
          transmitted: this.transmitted[i] / J_PER_KWH,
        });
    return rows;
  }

  /** "month-day hour:minute" of the end of a step counted from the start of the year. */
  private stamp(step: number): string | null {
    if (step < 0) return null;
    const minutes = (step * 60) / this.model.stepsPerHour;
    const day = Math.floor((minutes - 1) / 1440);
    const inDay = minutes - day * 1440;
    const two = (n: number): string => String(n).padStart(2, "0");
    return `${dateOfDay(day, this.model.year).map(two).join("-")} ${two(Math.floor(inDay / 60))}:${two(inDay % 60)}`;
  }
}
