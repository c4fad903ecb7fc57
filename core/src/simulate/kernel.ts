import { extraterrestrial, relativeHumidity, skyTemperature, type WeatherYear } from "../climate/index.ts";
import { airDensity, CP_AIR, CP_VAPOUR } from "../airflow/index.ts";
import { airAfter, airControl, airFlows } from "./airStep.ts";
import { advanceMelting, circuits } from "./book.ts";
import { blinds, control, glassChain, startModes } from "./control.ts";
import { BEAM_EFFICACY, DIFFUSE_EFFICACY, lightingLeft, skyLuminance } from "./daylight.ts";
import { circuitTemperatures, readyPass, settlePass, stateTemperatures } from "./films.ts";
import { TERM, type CompiledModel } from "./model.ts";
import { EXTRA, SUN, type Books, type KernelState, type StepRecord } from "./state.ts";
import { hotWater, waterState, type WaterState } from "./hotWater.ts";
import { stepKernel } from "./stepKernel.ts";
import { sunlight } from "./sunlight.ts";
import type { StepKernel } from "./walks.ts";
import { moisture } from "./moisture.ts";
import { serviceFlows, serviceLaws } from "./roomLaws.ts";
import { serviceAir } from "./systemAir.ts";
import { bookServices } from "./systemBook.ts";
import { beginServices } from "./systemStart.ts";

/** A run stopped because a value was no number any more. */
export class RunError extends Error {
  /** Zone whose temperature was lost. */
  readonly zone: string;
  /** Hour of the weather year, from 0. */
  readonly hour: number;
  /** Air temperatures of all zones at the end of the last good hour, °C. */
  readonly lastGood: Readonly<Record<string, number>>;
  constructor(zone: string, hour: number, lastGood: Readonly<Record<string, number>>) {
    const states = Object.entries(lastGood)
      .slice(0, 6)
      .map(([name, t]) => `${name} ${t.toFixed(1)} °C`)
      .join(", ");
    super(`The temperature of zone ${zone} was lost in hour ${hour + 1} of the year; an hour before it was: ${states}.`);
    this.name = "RunError";
    this.zone = zone;
    this.hour = hour;
    this.lastGood = lastGood;
  }
}

/** One building in time: states of its faces and zones, advanced step by step. */
export class YearKernel {
  readonly model: CompiledModel;
  readonly record: StepRecord;
  readonly books: Books;
  /** Everything it remembers; for tests and for readers of faces. */
  readonly state: KernelState;
  /** Hot-water systems; null: none. */
  readonly water: WaterState | null;
  private readonly inner: StepKernel;
  private readonly weather: WeatherYear;
  private readonly good: Float64Array;

  constructor(model: CompiledModel, weather: WeatherYear) {
    this.inner = stepKernel(model, weather);
    this.model = this.inner.model;
    this.weather = weather;
    this.state = this.inner.state;
    this.record = this.state.record;
    this.books = this.state.books;
    this.good = new Float64Array(model.zones);
    this.water = model.water.systems.length > 0 ? waterState(model) : null;
    for (let j = 0; j < model.exterior - model.groundEnd; j++) glassChain(this.model, this.state, j);
  }

  /** What does the walks over faces and zones: "TypeScript", or what was installed instead. */
  get kind(): string {
    return this.inner.kind;
  }

  /** Starts every state steady between an outside temperature and the zones at `inside`, °C. */
  start(outside: number, inside: number, humidityRatio: number): void {
    const m = this.model;
    const s = this.state;
    this.record.airTemperature.fill(inside);
    this.record.radiantTemperature.fill(inside);
    this.record.humidityRatio.fill(humidityRatio);
    s.airStart.fill(inside);
    s.wet.fill(humidityRatio);
    s.step = 0;
    this.good.fill(inside);
    for (let i = 0; i < m.elements; i++) {
      const envelope = m.kind[i] === 3 ? inside : m.kind[i] === 2 ? m.groundTemperature[12 * m.groundRow[i]] : outside;
      if (m.kind[i] === 1) {
        s.tout[i] = 0.9 * envelope + 0.1 * inside;
        s.tin[i] = 0.3 * envelope + 0.7 * inside;
        continue;
      }
      const f0 = m.nominal0[i] * envelope;
      const f1 = m.nominal1[i] * inside;
      let t0 = 0;
      let t1 = 0;
      for (let k = m.modeStart[i]; k < m.modeStart[i + 1]; k++) {
        s.a[k] = m.port0[k] * f0 + m.port1[k] * f1;
        t0 += m.port0[k] * s.a[k];
        t1 += m.port1[k] * s.a[k];
      }
      s.tout[i] = t0;
      s.tin[i] = t1;
    }
    s.melting.forEach((wall, w) => {
      const i = m.meltings[w].element;
      const envelope = m.kind[i] === 3 ? inside : m.kind[i] === 2 ? m.groundTemperature[12 * m.groundRow[i]] : outside;
      wall.start(envelope, inside);
      s.tout[i] = envelope;
      s.tin[i] = inside;
    });
  }

  /** Heat held by the layers of each element above 0 °C, J. */
  contents(): Float64Array {
    const m = this.model;
    const s = this.state;
    const out = new Float64Array(m.elements);
    for (let i = 0; i < m.elements; i++) {
      let sum = 0;
      for (let k = m.modeStart[i]; k < m.modeStart[i + 1]; k++) sum += m.content[k] * s.a[k];
      out[i] = sum * m.area[i];
    }
    s.melting.forEach((wall, w) => (out[m.meltings[w].element] = wall.content * m.area[m.meltings[w].element]));
    return out;
  }

  /** Empties the energy of components and of hot water that is summed until an hour is closed: days before a representative day have no such hour. */
  clearEnergy(): void {
    this.state.services?.energy.fill(0);
    if (this.water) for (const x of [...this.water.sums, ...this.water.heat, ...this.water.fuel, ...this.water.solar]) x.fill(0);
  }

  /** Empties the books, as after a warm-up. */
  openBooks(): void {
    const b = this.books;
    this.clearEnergy();
    this.state.services?.owed.fill(0);
    if (this.water) for (const x of [this.water.residual, this.water.gross]) x.fill(0);
    b.unsettled.fill(0);
    const { air } = this.state;
    if (air !== null) {
      air.failures.fill(0);
      air.firstFailure = -1;
      air.worst = 0;
    }
    b.unconverged.fill(0);
    for (const x of [b.zoneResidual, b.zoneGross, b.waterResidual, b.waterGross, b.elementHeat, b.elementGross]) x.fill(0);
  }

  /**
   * Advances every state by step `k` of hour `hour` of the weather year (from 0), in the `year`th year of the run.
   * @throws RunError when a temperature is no number any more
   */
  step(hour: number, k: number, year = 0): void {
    const m = this.model;
    const s = this.state;
    const clock = hour + m.year.hours * year;
    if (k === 0) {
      this.checkStates(hour);
      const { scheduled } = s;
      const { schedules } = m;
      for (let row = 0; row < schedules.length; row++) scheduled[row] = schedules[row][clock];
    }
    this.boundary(hour, k);
    blinds(m, s);
    sunlight(m, s, this.inner, hour, k);
    if (k === 0) {
      if (m.daylight.sensors.length > 0) this.daylight(hour);
      this.inner.terms();
    }
    if (this.water !== null) hotWater(m, s, this.water, clock, k);
    control(m, s, clock, k);
    if (s.air !== null) s.air.hour = hour;
    airControl(m, s);
    beginServices(m, s);
    startModes(m, s);
    if (s.step === 0) stateTemperatures(m, s);
    circuitTemperatures(m, s);
    const { passes } = m;
    for (let pass = 0; pass < passes; pass++) {
      readyPass(m, s, pass);
      serviceLaws(m, s);
      airFlows(m, s, pass);
      // films of a pass come from the pass before it: those of the first pass are at hand from the last pass of the step before
      this.inner.pass(pass === 0, pass > 0 || s.step === 0, pass === passes - 1);
      settlePass(m, s);
      const last = pass === passes - 1;
      serviceFlows(m, s, last);
      moisture(m, s, this.inner, last);
      serviceAir(m, s, last);
    }
    advanceMelting(m, s);
    this.inner.book();
    circuits(m, s);
    bookServices(m, s);
    airAfter(m, s);
    s.step++;
  }

  /** Stops a run that has lost a temperature, with the last good one. */
  private checkStates(hour: number): void {
    const { airTemperature } = this.record;
    const m = this.model;
    let sum = 0;
    for (let z = 0; z < m.zones; z++) sum += airTemperature[z] + this.record.humidityRatio[z];
    if (sum - sum === 0) {
      this.good.set(airTemperature);
      return;
    }
    this.stop(hour);
  }

  /** Told apart: a function with closures allocates when it is entered. */
  private stop(hour: number): never {
    const m = this.model;
    const { airTemperature, humidityRatio } = this.record;
    const lost = airTemperature.findIndex((t, z) => !Number.isFinite(t) || !Number.isFinite(humidityRatio[z]));
    throw new RunError(m.zoneNames[lost], (hour + m.year.hours - 1) % m.year.hours, Object.fromEntries(m.zoneNames.map((name, z) => [name, this.good[z]])));
  }

  /** Daylight at the sensor points of the hour, lx, and what it leaves of the lighting. */
  private daylight(hour: number): void {
    const m = this.model;
    const s = this.state;
    const { daylight } = this.record;
    const { luminance } = s;
    daylight.fill(0);
    s.lightingLeft.fill(1);
    const global = this.weather.globalHorizontal[hour];
    const diffuse = this.weather.diffuseHorizontal[hour];
    const at = SUN * (m.stepsPerHour * hour + (m.stepsPerHour >> 1));
    const sz = s.suns[at + 2];
    if (global > 0 && sz > 0) {
      const sx = s.suns[at] * m.planCosine - s.suns[at + 1] * m.planSine;
      const sy = s.suns[at] * m.planSine + s.suns[at + 1] * m.planCosine;
      const beam = Math.min(extraterrestrial(Math.floor(hour / 24)), (global - diffuse) / Math.max(sz, 0.05));
      // share of a clear sky by the ratio of beam to diffuse, as clearness is told (Perez 1990): overcast below 1.065, clear above 4.5
      const epsilon = diffuse > 0 ? (diffuse + beam) / diffuse : 10;
      const clearness = Math.max(0, Math.min(1, (epsilon - 1.065) / (4.5 - 1.065)));
      skyLuminance(m.daylight.sky, DIFFUSE_EFFICACY * diffuse, clearness, sx, sy, sz, luminance);
      const day = Math.floor(hour / 24);
      const grid = ((Math.floor(((day + 0.5) * 24) / m.year.days) + 24) % 24) * 96 + (hour % 24) * 4 + 2;
      for (let g = 0; g < m.dimmers.length; g++) {
        const { transmittance, schedule } = m.dimmers[g];
        s.dimming[g] = (transmittance === null ? s.scheduled[schedule] : transmittance[m.year.monthOfDay[day]]) - 1;
      }
      for (let d = 0; d < m.daylight.sensors.length; d++) {
        let sum = 0;
        const { windows } = m.daylight.sensors[d];
        for (let w = 0; w < windows.length; w++) {
          const light = windows[w];
          const times = light.dimmer < 0 ? 1 : s.dimming[light.dimmer];
          if (times === 0) continue;
          const j = light.element - m.groundEnd;
          const down = s.blindDown[j] === 1;
          const through = m.glassSpecs[m.glassOf[j]].visibleRatio[down ? 1 : 0];
          let sky = 0;
          const { patches, weights } = light;
          for (let p = 0; p < patches.length; p++) sky += weights[p] * luminance[patches[p]];
          const on = this.record.incident[light.element] * 0.5 * (BEAM_EFFICACY + DIFFUSE_EFFICACY);
          sum += times * through * (sky + light.reflected * on);
          if (!down) sum += times * light.sun[grid] * BEAM_EFFICACY * beam;
        }
        daylight[d] = sum;
      }
    }
    for (let c = 0; c < m.daylight.controls.length; c++) s.lightingLeft[c] = lightingLeft(m.daylight.controls[c], daylight);
  }

  private boundary(hour: number, k: number): void {
    const w = this.weather;
    const b = this.state.boundary;
    const { humidityRatio, infrared } = this.state.derived;
    const { year } = this.model;
    const before = hour === 0 ? year.hours - 1 : hour - 1;
    const x = (k + 0.5) / this.model.stepsPerHour;
    b.outdoor = w.dryBulb[before] + x * (w.dryBulb[hour] - w.dryBulb[before]);
    b.ratio = humidityRatio[before] + x * (humidityRatio[hour] - humidityRatio[before]);
    b.pressure = w.pressure[before] + x * (w.pressure[hour] - w.pressure[before]);
    b.sky = skyTemperature(infrared[before] + x * (infrared[hour] - infrared[before]));
    b.wind = w.windSpeed[before] + x * (w.windSpeed[hour] - w.windSpeed[before]);
    b.windDirection = w.windDirection[hour];
    b.month = year.monthOfDay[Math.floor(hour / 24)];
    b.density = airDensity(b.outdoor, b.pressure);
    b.cp = CP_AIR + CP_VAPOUR * b.ratio;
  }

  /** Heat flow of element `i` into its zone now, W, without sun that entered through glass. `side` 0: into the first zone of a partition. */
  elementFlow(i: number, side: 0 | 1): number {
    return side === 0 ? this.record.faceFlow0[i] : this.record.faceFlow1[i];
  }

  /** Relative humidity of a zone now, 0…1. */
  humidity(z: number, pressure: number): number {
    return relativeHumidity(this.record.airTemperature[z], this.record.humidityRatio[z], pressure);
  }

  /** Extra outdoor air of zone `z` that fans move now, kg/s: night ventilation and free cooling, not what comes through openings. */
  fannedExtra(z: number): number {
    const { air, extraKind } = this.state;
    return extraKind[z] === EXTRA.WINDOWS ? 0 : this.record.extraFlow[z] - (air === null ? 0 : air.opened[z]);
  }

  /** Share of the lighting power of zone `z` that daylight leaves now, 1. */
  lightingShare(z: number): number {
    const { zones } = this.model;
    const t = this.state.hourTerms;
    const full = t[TERM.lightingFull * zones + z];
    return full > 0 ? (t[TERM.lightingRadiant * zones + z] + t[TERM.lightingConvective * zones + z]) / full : 1;
  }

  /** Temperature of every inside face now, °C (step mean). */
  get insideFaces(): Float64Array {
    return this.state.tin;
  }

  /** Temperature of every outside face, or face in the first zone, now, °C (step mean). */
  get outsideFaces(): Float64Array {
    return this.state.tout;
  }

  /** Temperature at place `p` of element `i`'s layers (see `ReducedWall.places`) at the end of the step, °C. */
  layerTemperature(i: number, p: number): number {
    const m = this.model;
    const w = m.walls[i];
    if (!w) return NaN;
    let t = 0;
    for (let k = 0; k < w.modes; k++) t += w.weights[p * w.modes + k] * this.state.a[m.modeStart[i] + k];
    return t;
  }

  /** Share of element `i`'s melting material that is molten, 1; NaN: it has none. */
  moltenShare(i: number): number {
    const at = this.model.meltings.findIndex((w) => w.element === i);
    return at < 0 ? NaN : this.state.melting[at].molten;
  }

  /** Temperature at the plane of element `i`'s embedded circuit, step mean, °C. */
  planeTemperature(i: number): number {
    const m = this.model;
    const s = this.state;
    let t = m.circuit2[i] * s.circuitHeat[i];
    for (let k = m.modeStart[i]; k < m.modeStart[i + 1]; k++) t += m.circuitMean[k] * s.planeStart[k];
    // the faces' inputs act on the plane as the plane's heat acts on the faces
    return t + m.circuit0[i] * s.input0[i] + m.circuit1[i] * s.input1[i];
  }
}
