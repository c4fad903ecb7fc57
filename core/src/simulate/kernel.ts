import { blockSolve, quickCbrt } from "../numeric/index.ts";
import {
  deriveWeather,
  extraterrestrial,
  MONTH_OF_DAY,
  perezSky,
  relativeHumidity,
  skyTemperature,
  STEFAN_BOLTZMANN,
  sunVector,
  type WeatherYear,
} from "../climate/index.ts";
import { airDensity, CP_AIR, CP_VAPOUR, LATENT_HEAT } from "../airflow/index.ts";
import { flowNames } from "./catalogue.ts";
import { TERM, TERMS, type CompiledModel } from "./model.ts";

/** Passes of films, faces and zones within a step. */
const PASSES = 2;
const FLOWS = flowNames.length;
const FLOW = Object.fromEntries(flowNames.map((n, i) => [n, i])) as Record<(typeof flowNames)[number], number>;
/** Thermostat modes. */
const FLOAT = 0,
  HEAT = 1,
  HEAT_FULL = 2,
  COOL = 3,
  COOL_FULL = 4;
const HEAT_TOLERANCE = 1e-9;
/** Least natural film, W/m²K: typical, unverified. */
const LEAST_FILM = 0.1;
/** Where a zone has no cooling set-point, recovery stops this far above the heating one, K: typical, unverified. */
const HALF_BAND = 2;
/** Where it has neither, recovery works toward this, °C: typical, unverified. */
const FREE_MIDDLE = 22;

/** What one step leaves behind for its reader; arrays are reused by the next step. */
export interface StepRecord {
  readonly airTemperature: Float64Array;
  readonly radiantTemperature: Float64Array;
  readonly humidityRatio: Float64Array;
  /** W delivered to and removed from each zone. */
  readonly heating: Float64Array;
  readonly cooling: Float64Array;
  /** Heat flows into each zone, W, [zone][flow] in the order of `flowNames`. */
  readonly flows: Float64Array;
  /** Step sums of the terms by zone, [TERM][zone]. */
  readonly terms: Float64Array;
  readonly occupied: Uint8Array;
  readonly heatTarget: Float64Array;
  readonly coolTarget: Float64Array;
}

/** Counted departures and the books of a run. */
export interface Books {
  /** Steps in which the thermostat search did not settle, by zone. */
  readonly unsettled: Int32Array;
  /** Sum over steps of the net and of the gross heat flow of each zone, J. */
  readonly zoneNet: Float64Array;
  readonly zoneGross: Float64Array;
  /** Heat into each element from both sides, J, for comparison with its content. */
  readonly elementHeat: Float64Array;
  readonly elementGross: Float64Array;
}

/** One building in time: states of its faces and zones, advanced step by step. */
export class YearKernel {
  readonly model: CompiledModel;
  readonly record: StepRecord;
  readonly books: Books;
  private readonly weather: WeatherYear;
  private readonly derived: { humidityRatio: Float64Array; infrared: Float64Array };
  private readonly a: Float64Array;
  private readonly values: Float64Array;
  private readonly work: Float64Array;
  private readonly rhs: Float64Array;
  private readonly solution: Float64Array;
  private readonly mode: Uint8Array;
  private readonly tout: Float64Array;
  private readonly tin: Float64Array;
  private readonly airStart: Float64Array;
  private readonly scratch: Record<
    "p0" | "p1" | "s0" | "s1" | "alpha0" | "alpha1" | "g00" | "g01" | "g11" | "hc0" | "hr0" | "hc1" | "hr1" | "env0" | "forced" | "ho" | "incident",
    Float64Array
  >;
  private readonly beamIn: Float64Array;
  private readonly diffuseIn: Float64Array;
  private readonly airFlow: Float64Array;
  private readonly airSupply: Float64Array;
  private readonly infiltrationFlow: Float64Array;
  private readonly classBeam: Float64Array;
  private readonly classCosine: Float64Array;
  private readonly classSky: Float64Array;
  private readonly classHorizon: Float64Array;
  private readonly hourTerms: Float64Array;
  private readonly sunOfHour: Float64Array;
  private sunHour = -1;

  constructor(model: CompiledModel, weather: WeatherYear) {
    const { zones, elements } = model;
    const f = (n: number): Float64Array => new Float64Array(n);
    this.model = model;
    this.weather = weather;
    this.derived = deriveWeather(weather);
    this.a = f(model.modeStart[elements]);
    this.values = f(4 * model.pattern.blocks);
    this.work = f(4 * model.pattern.blocks);
    this.rhs = f(2 * zones);
    this.solution = f(2 * zones);
    this.mode = new Uint8Array(zones);
    this.tout = f(elements);
    this.tin = f(elements);
    this.airStart = f(zones);
    this.scratch = {
      p0: f(elements),
      p1: f(elements),
      s0: f(elements),
      s1: f(elements),
      alpha0: f(elements),
      alpha1: f(elements),
      g00: f(elements),
      g01: f(elements),
      g11: f(elements),
      hc0: f(elements),
      hr0: f(elements),
      hc1: f(elements),
      hr1: f(elements),
      env0: f(elements),
      forced: f(elements),
      ho: f(elements),
      incident: f(elements),
    };
    this.beamIn = f(zones);
    this.diffuseIn = f(zones);
    this.airFlow = f(zones);
    this.airSupply = f(zones);
    this.infiltrationFlow = f(zones);
    const classes = model.classCos.length;
    this.classBeam = f(classes);
    this.classCosine = f(classes);
    this.classSky = f(classes);
    this.classHorizon = f(classes);
    this.hourTerms = f(TERMS * zones);
    this.sunOfHour = f(3 * model.stepsPerHour);
    this.record = {
      airTemperature: f(zones),
      radiantTemperature: f(zones),
      humidityRatio: f(zones),
      heating: f(zones),
      cooling: f(zones),
      flows: f(zones * FLOWS),
      terms: this.hourTerms,
      occupied: new Uint8Array(zones),
      heatTarget: f(zones),
      coolTarget: f(zones),
    };
    this.books = { unsettled: new Int32Array(zones), zoneNet: f(zones), zoneGross: f(zones), elementHeat: f(elements), elementGross: f(elements) };
  }

  /** Starts every state steady between an outside temperature and the zones at `inside`, °C. */
  start(outside: number, inside: number, humidityRatio: number): void {
    const m = this.model;
    this.record.airTemperature.fill(inside);
    this.record.radiantTemperature.fill(inside);
    this.record.humidityRatio.fill(humidityRatio);
    this.airStart.fill(inside);
    for (let i = 0; i < m.elements; i++) {
      const envelope = m.kind[i] === 3 ? inside : m.kind[i] === 2 ? m.groundTemperature[12 * m.groundRow[i]] : outside;
      const f0 = m.nominal0[i] * envelope;
      const f1 = m.nominal1[i] * inside;
      let t0 = 0;
      let t1 = 0;
      for (let k = m.modeStart[i]; k < m.modeStart[i + 1]; k++) {
        this.a[k] = m.port0[k] * f0 + m.port1[k] * f1;
        t0 += m.port0[k] * this.a[k];
        t1 += m.port1[k] * this.a[k];
      }
      this.tout[i] = t0;
      this.tin[i] = t1;
    }
  }

  /** Heat held by the layers of each element above 0 °C, J. */
  contents(): Float64Array {
    const m = this.model;
    const out = new Float64Array(m.elements);
    for (let i = 0; i < m.elements; i++) {
      let s = 0;
      for (let k = m.modeStart[i]; k < m.modeStart[i + 1]; k++) s += m.content[k] * this.a[k];
      out[i] = s * m.area[i];
    }
    return out;
  }

  /** Empties the books, as after a warm-up. */
  openBooks(): void {
    this.books.unsettled.fill(0);
    for (const b of [this.books.zoneNet, this.books.zoneGross, this.books.elementHeat, this.books.elementGross]) b.fill(0);
  }

  /** Advances every state by step `k` of hour `hour` (0…8759 of the year). */
  step(hour: number, k: number): void {
    if (k === 0) this.sumTerms(hour);
    const boundary = this.boundary(hour, k);
    this.sunlight(hour, k);
    this.control(hour, boundary);
    this.stateTemperatures();
    for (let pass = 0; pass < PASSES; pass++) {
      this.coefficients(boundary, pass === 0);
      this.solveZones(boundary, pass === PASSES - 1);
      this.faceTemperatures();
    }
    this.book(boundary);
    this.advance();
  }

  private sumTerms(hour: number): void {
    const m = this.model;
    const t = this.hourTerms;
    t.fill(0);
    for (let i = 0; i < m.terms; i++) {
      const index = m.termKind[i] * m.zones + m.termZone[i];
      t[index] += m.termValue[i] * m.schedules[m.termSchedule[i]][hour];
    }
  }

  private boundary(hour: number, k: number): Boundary {
    const w = this.weather;
    const m = this.model;
    const before = hour === 0 ? 8759 : hour - 1;
    const x = (k + 0.5) / m.stepsPerHour;
    const mix = (a: Float64Array): number => a[before] + x * (a[hour] - a[before]);
    const day = Math.floor(hour / 24);
    const outdoor = mix(w.dryBulb);
    const ratio = mix(this.derived.humidityRatio);
    const pressure = mix(w.pressure);
    return {
      outdoor,
      ratio,
      pressure,
      sky: skyTemperature(mix(this.derived.infrared)),
      wind: mix(w.windSpeed),
      windDirection: w.windDirection[hour],
      month: MONTH_OF_DAY[day],
      density: airDensity(outdoor, pressure),
      cp: CP_AIR + CP_VAPOUR * ratio,
    };
  }

  /** Incident and transmitted sun of the step; `hour` means are kept over the sun-up part of the hour. */
  private sunlight(hour: number, k: number): void {
    const m = this.model;
    const { s0, s1, incident } = this.scratch;
    const { beamIn, diffuseIn, classBeam, classCosine, classSky, classHorizon } = this;
    s0.fill(0);
    s1.fill(0);
    incident.fill(0);
    beamIn.fill(0);
    diffuseIn.fill(0);
    const global = this.weather.globalHorizontal[hour];
    if (global <= 0) return;
    const n = m.stepsPerHour;
    // heights of the sun at the middles of all steps of the hour share out the hour's means
    const suns = this.sunOfHour;
    if (k === 0 || this.sunHour !== hour) {
      for (let j = 0; j < n; j++) suns.set(sunVector(hour + (j + 0.5) / n, m.latitude, m.longitude, m.timeZone), 3 * j);
      this.sunHour = hour;
    }
    let sum = 0;
    for (let j = 0; j < n; j++) if (suns[3 * j + 2] > 0) sum += suns[3 * j + 2];
    const sun0 = suns[3 * k];
    const sun1 = suns[3 * k + 1];
    const height = suns[3 * k + 2];
    const day = Math.floor(hour / 24);
    let diffuse = this.weather.diffuseHorizontal[hour];
    let beam = 0;
    if (sum > 0) {
      if (height <= 0) return;
      diffuse = (diffuse * n * height) / sum;
      beam = ((global - this.weather.diffuseHorizontal[hour]) * n) / sum;
      const limit = extraterrestrial(day);
      if (beam > limit) {
        diffuse += (beam - limit) * height;
        beam = limit;
      }
    } else diffuse = global;
    const globalNow = diffuse + beam * Math.max(0, height);
    const sky = m.isotropic || height <= 0 ? NO_BRIGHTNESS : perezSky(diffuse, beam, height, extraterrestrial(day));
    const albedo = m.albedo[MONTH_OF_DAY[day]];
    const sx = sun0 * m.planCosine - sun1 * m.planSine;
    const sy = sun0 * m.planSine + sun1 * m.planCosine;
    const direct = beam + (height > 0 ? (diffuse * sky.circumsolar) / sky.b : 0);
    for (let c = 0; c < classBeam.length; c++) {
      const cosine = m.classNormal[3 * c] * sx + m.classNormal[3 * c + 1] * sy + m.classNormal[3 * c + 2] * height;
      classCosine[c] = cosine;
      classBeam[c] = cosine > 0 ? direct * cosine : 0;
      classSky[c] = (diffuse * (1 - sky.circumsolar) * (1 + m.classCos[c])) / 2;
      classHorizon[c] = diffuse * sky.horizon * m.classSin[c] + (globalNow * albedo * (1 - m.classCos[c])) / 2;
    }
    // place in the lit-share table: between two of 24 days and two of 96 quarter hours
    const dayPlace = ((day + 0.5) * 24) / 365 - 0.5;
    const d0 = Math.floor(dayPlace);
    const dx = dayPlace - d0;
    const rowA = ((d0 + 24) % 24) * 96;
    const rowB = ((d0 + 25) % 24) * 96;
    const quarter = ((hour % 24) + (k + 0.5) / n) * 4 - 0.5;
    const q0 = Math.floor(quarter);
    const qx = quarter - q0;
    const qa = (q0 + 96) % 96;
    const qb = (q0 + 97) % 96;
    for (let i = 0; i < m.exterior; i++) {
      const c = m.orientation[i];
      if (c < 0) continue;
      let share = 1;
      const row = m.litRow[i];
      if (row >= 0 && classBeam[c] > 0) {
        const base = row * 24 * 96;
        const a = m.lit[base + rowA + qa] * (1 - qx) + m.lit[base + rowA + qb] * qx;
        const b = m.lit[base + rowB + qa] * (1 - qx) + m.lit[base + rowB + qb] * qx;
        share = a * (1 - dx) + b * dx;
      }
      const beamOn = classBeam[c] * share;
      const diffuseOn = Math.max(0, classSky[c] * m.skyShare[i] + classHorizon[c]);
      incident[i] = beamOn + diffuseOn;
      if (m.kind[i] === 0) s0[i] = m.solarAbsorptance[i] * incident[i];
      else {
        const angle = beamOn > 0 ? this.angularFactor(i, classCosine[c]) : 0;
        const absorbed = 0.5 * (m.absorptance[i] * angle * beamOn + m.diffuseAbsorptance[i] * diffuseOn);
        s0[i] = absorbed;
        s1[i] = absorbed;
        const z = m.zone1[i];
        beamIn[z] += m.area[i] * m.transmittance[i] * angle * beamOn;
        diffuseIn[z] += m.area[i] * m.diffuseTransmittance[i] * diffuseOn;
      }
    }
    for (let i = 0; i < m.elements; i++) {
      const z1 = m.zone1[i];
      s1[i] += m.beamShare1[i] * beamIn[z1] + m.diffuseShare1[i] * diffuseIn[z1];
      const z0 = m.zone0[i];
      if (z0 >= 0) s0[i] += m.beamShare0[i] * beamIn[z0] + m.diffuseShare0[i] * diffuseIn[z0];
    }
  }

  private angularFactor(i: number, c: number): number {
    const g = this.model.angular;
    const j = 5 * i;
    const v = (((g[j] * c + g[j + 1]) * c + g[j + 2]) * c + g[j + 3]) * c + g[j + 4];
    return v < 0 ? 0 : v > 1 ? 1 : v;
  }

  /** Set-points, occupancy and the discrete state of heat recovery, from the state at the start of the step. */
  private control(hour: number, b: Boundary): void {
    const m = this.model;
    const r = this.record;
    for (let z = 0; z < m.zones; z++) {
      const inUse = m.schedules[m.conditioning[z]][hour] >= 0.5;
      r.heatTarget[z] = inUse ? m.heatingSetpoint[z] : m.heatingSetback[z];
      r.coolTarget[z] = inUse ? m.coolingSetpoint[z] : m.coolingSetback[z];
      r.occupied[z] = m.occupancy[z] >= 0 && m.schedules[m.occupancy[z]][hour] > 0 && inUse ? 1 : 0;
      this.airStart[z] = r.airTemperature[z];
      const flow = this.hourTerms[TERM.outdoorAir * m.zones + z] * m.airDensity;
      const air = r.airTemperature[z];
      // recovery runs when it brings the supply toward the band between the set-points
      const heated = r.heatTarget[z] === r.heatTarget[z];
      const cooled = r.coolTarget[z] === r.coolTarget[z];
      const middle = heated ? (cooled ? 0.5 * (r.heatTarget[z] + r.coolTarget[z]) : r.heatTarget[z] + HALF_BAND) : FREE_MIDDLE;
      const useful = b.outdoor < air ? air < middle : air > middle;
      this.airFlow[z] = flow;
      this.airSupply[z] = useful ? m.recoverySensible[z] : 0;
      this.infiltrationFlow[z] = m.infiltration[z] * b.density;
    }
  }

  /** Part of the step-mean face temperatures that comes from the states alone. */
  private stateTemperatures(): void {
    const { modeStart, meanPort0, meanPort1, elements } = this.model;
    const { p0, p1 } = this.scratch;
    const a = this.a;
    for (let i = 0; i < elements; i++) {
      let x = 0;
      let y = 0;
      const end = modeStart[i + 1];
      for (let k = modeStart[i]; k < end; k++) {
        x += meanPort0[k] * a[k];
        y += meanPort1[k] * a[k];
      }
      p0[i] = x;
      p1[i] = y;
    }
  }

  /** Films from the last pass, then each element closed to its zones' nodes, summed into the zone system. */
  private coefficients(b: Boundary, first: boolean): void {
    const m = this.model;
    const {
      zone0,
      zone1,
      area,
      kind,
      direct00,
      direct01,
      direct11,
      nominal0,
      nominal1,
      exterior,
      elements,
      warm0,
      cold0,
      warm1,
      cold1,
      exchange0,
      exchange1,
      emissivity0,
      skyView,
      block01,
      block10,
    } = m;
    const { p0, p1, s0, s1, alpha0, alpha1, g00, g01, g11, hc0, hr0, hc1, hr1, env0, forced, ho: outsideFilm } = this.scratch;
    const { values, rhs, tin, tout } = this;
    const air = this.record.airTemperature;
    const radiant = this.record.radiantTemperature;
    values.fill(0);
    const outdoor = b.outdoor;
    const sky = b.sky + 273.15;
    const out = outdoor + 273.15;
    if (first) this.forcedFilms(b);
    for (let i = 0; i < exterior; i++) {
      const z = zone1[i];
      const na = 2 * z;
      const nr = na + 1;
      const ti = tin[i];
      const di = ti - air[z];
      const hc = film(di, warm1[i], cold1[i]);
      const mean = 0.5 * (ti + radiant[z]) + 273.15;
      const hr = 4 * STEFAN_BOLTZMANN * exchange1[i] * mean * mean * mean;
      hc1[i] = hc;
      hr1[i] = hr;
      let ho: number;
      let go: number;
      if (kind[i] === 2) {
        ho = m.groundConductance[i];
        env0[i] = m.groundTemperature[12 * m.groundRow[i] + b.month];
        go = ho * env0[i];
      } else {
        const to = tout[i];
        const hv = forced[i] + film(to - outdoor, warm0[i], cold0[i]);
        const ts = to + 273.15;
        const e = emissivity0[i] * STEFAN_BOLTZMANN;
        // part of the sky seen near the horizon radiates as air does (Walton 1983: β = √F)
        const seen = skyView[i];
        const hs = e * seen * (ts * ts + sky * sky) * (ts + sky);
        const hg = e * (1 - seen) * (ts * ts + out * out) * (ts + out);
        ho = hv + hs + hg;
        const drive = (hv + hg) * outdoor + hs * b.sky;
        env0[i] = drive / ho;
        go = drive + s0[i];
      }
      outsideFilm[i] = ho;
      // (I + D x) T = P + D g, with g at the inside face known but for the zone's two nodes
      const xo = ho - nominal0[i];
      const xi = hc + hr - nominal1[i];
      const oo = direct00[i];
      const oi = direct01[i];
      const ii = direct11[i];
      const eo = 1 + oo * xo;
      const ei = 1 + ii * xi;
      const inverse = 1 / (eo * ei - oi * oi * xo * xi);
      const b0 = p0[i] + oo * go + oi * s1[i];
      const b1 = p1[i] + oi * go + ii * s1[i];
      const beta = (ii * eo - oi * oi * xo) * inverse;
      const alpha = (b1 * eo - oi * xo * b0) * inverse;
      alpha1[i] = alpha;
      g11[i] = beta;
      // outside face: T = alpha0 + g01·(inside input)
      alpha0[i] = (b0 * ei - oi * xi * b1) * inverse;
      g01[i] = oi * inverse;
      const ac = area[i] * hc;
      const ar = area[i] * hr;
      const cross = ac * hr * beta;
      const d = 4 * z;
      values[d] += ac * (1 - hc * beta);
      values[d + 1] -= cross;
      values[d + 2] -= cross;
      values[d + 3] += ar * (1 - hr * beta);
      rhs[na] += ac * alpha;
      rhs[nr] += ar * alpha;
    }
    for (let i = exterior; i < elements; i++) {
      const z0 = zone0[i];
      const z1 = zone1[i];
      const t0 = tout[i];
      const t1 = tin[i];
      const c0 = film(t0 - air[z0], warm0[i], cold0[i]);
      const c1 = film(t1 - air[z1], warm1[i], cold1[i]);
      const m0 = 0.5 * (t0 + radiant[z0]) + 273.15;
      const m1 = 0.5 * (t1 + radiant[z1]) + 273.15;
      const r0 = 4 * STEFAN_BOLTZMANN * exchange0[i] * m0 * m0 * m0;
      const r1 = 4 * STEFAN_BOLTZMANN * exchange1[i] * m1 * m1 * m1;
      hc0[i] = c0;
      hr0[i] = r0;
      hc1[i] = c1;
      hr1[i] = r1;
      const x0 = c0 + r0 - nominal0[i];
      const x1 = c1 + r1 - nominal1[i];
      const oo = direct00[i];
      const oi = direct01[i];
      const ii = direct11[i];
      const e0 = 1 + oo * x0;
      const e1 = 1 + ii * x1;
      const inverse = 1 / (e0 * e1 - oi * oi * x0 * x1);
      const b0 = p0[i] + oo * s0[i] + oi * s1[i];
      const b1 = p1[i] + oi * s0[i] + ii * s1[i];
      const G00 = (oo * e1 - oi * oi * x1) * inverse;
      const G11 = (ii * e0 - oi * oi * x0) * inverse;
      const G01 = oi * inverse;
      const A0 = (b0 * e1 - oi * x1 * b1) * inverse;
      const A1 = (b1 * e0 - oi * x0 * b0) * inverse;
      alpha0[i] = A0;
      alpha1[i] = A1;
      g00[i] = G00;
      g01[i] = G01;
      g11[i] = G11;
      const A = area[i];
      const d0 = 4 * z0;
      const d1 = 4 * z1;
      const cross0 = A * c0 * r0 * G00;
      const cross1 = A * c1 * r1 * G11;
      values[d0] += A * c0 * (1 - c0 * G00);
      values[d0 + 1] -= cross0;
      values[d0 + 2] -= cross0;
      values[d0 + 3] += A * r0 * (1 - r0 * G00);
      values[d1] += A * c1 * (1 - c1 * G11);
      values[d1 + 1] -= cross1;
      values[d1 + 2] -= cross1;
      values[d1 + 3] += A * r1 * (1 - r1 * G11);
      // of zones one and two, or folded onto the one block when both sides are in one zone
      const AG = A * G01;
      const e = 4 * block01[i - exterior];
      const f = 4 * block10[i - exterior];
      const caa = AG * c0 * c1;
      const car = AG * c0 * r1;
      const cra = AG * r0 * c1;
      const crr = AG * r0 * r1;
      values[e] -= caa;
      values[e + 1] -= car;
      values[e + 2] -= cra;
      values[e + 3] -= crr;
      values[f] -= caa;
      values[f + 1] -= cra;
      values[f + 2] -= car;
      values[f + 3] -= crr;
      rhs[2 * z0] += A * c0 * A0;
      rhs[2 * z0 + 1] += A * r0 * A0;
      rhs[2 * z1] += A * c1 * A1;
      rhs[2 * z1 + 1] += A * r1 * A1;
    }
  }

  /** Forced outside films of the step: whole to windward, half to leeward, which is more than 100° off the wind (Walton 1983). */
  private forcedFilms(b: Boundary): void {
    const m = this.model;
    const { forced } = this.scratch;
    const rootWind = Math.sqrt(b.wind);
    for (let i = 0; i < m.exterior; i++) {
      if (m.kind[i] === 2) continue;
      const turn = b.windDirection - m.classAzimuth[m.orientation[i]];
      const offset = Math.abs(turn - 360 * Math.round(turn / 360));
      const leeward = m.facing0[i] < 0.98 && offset > 100 ? 0.5 : 1;
      forced[i] = m.forced[i] * leeward * rootWind;
    }
  }

  /** Air and radiant nodes of all zones at once, with the thermostats' modes found by an active set. */
  private solveZones(b: Boundary, last: boolean): void {
    const m = this.model;
    const { zones, dt } = m;
    const { values, work, rhs, solution, mode } = this;
    const { rowStart, rowBlock, rowColumn } = m.pattern;
    const t = this.hourTerms;
    const { airTemperature, radiantTemperature, heating, cooling, heatTarget, coolTarget } = this.record;
    const airCp = b.cp;
    const perVolume = (m.airDensity * airCp) / dt;
    for (let z = 0; z < zones; z++) {
      const na = 2 * z;
      const capacity = m.zoneVolume[z] * perVolume;
      const inflow = airCp * (this.infiltrationFlow[z] + this.airFlow[z] * (1 - this.airSupply[z]));
      values[4 * z] += capacity + inflow;
      rhs[na] +=
        capacity * this.airStart[z] +
        inflow * b.outdoor +
        t[TERM.peopleConvective * zones + z] +
        t[TERM.lightingConvective * zones + z] +
        t[TERM.applianceConvective * zones + z];
      rhs[na + 1] += t[TERM.peopleRadiant * zones + z] + t[TERM.lightingRadiant * zones + z] + t[TERM.applianceRadiant * zones + z];
    }
    // an early pass only readies the films: one solve, and the modes it suggests
    const limit = last ? zones + 3 : 0;
    let settled = false;
    let changed = -1;
    for (let round = 0; round <= limit && !settled; round++) {
      work.set(values);
      solution.set(rhs);
      for (let z = 0; z < zones; z++) {
        const na = 2 * z;
        if (mode[z] === HEAT && heatTarget[z] !== heatTarget[z]) mode[z] = FLOAT;
        if (mode[z] === COOL && coolTarget[z] !== coolTarget[z]) mode[z] = FLOAT;
        if (mode[z] === HEAT || mode[z] === COOL) {
          // the air node is held: a unit row
          for (let e = rowStart[z]; e < rowStart[z + 1]; e++) {
            const at = 4 * rowBlock[e];
            work[at] = 0;
            work[at + 1] = 0;
          }
          work[4 * z] = 1;
          work[4 * z + 1] = 0;
          solution[na] = mode[z] === HEAT ? heatTarget[z] : coolTarget[z];
        } else if (mode[z] === HEAT_FULL) solution[na] += m.heatingCapacity[z];
        else if (mode[z] === COOL_FULL) solution[na] -= m.coolingCapacity[z];
      }
      blockSolve(m.pattern, work, solution);
      settled = true;
      for (let z = 0; z < zones; z++) {
        const na = 2 * z;
        const air = solution[na];
        let next: number = mode[z];
        let power = 0;
        if (mode[z] === HEAT || mode[z] === COOL) {
          power = values[4 * z] * air + values[4 * z + 1] * solution[na + 1] - rhs[na];
          for (let e = rowStart[z]; e < rowStart[z + 1]; e++) {
            const at = 4 * rowBlock[e];
            const n = 2 * rowColumn[e];
            power += values[at] * solution[n] + values[at + 1] * solution[n + 1];
          }
          if (mode[z] === HEAT) next = power < -HEAT_TOLERANCE ? FLOAT : power > m.heatingCapacity[z] ? HEAT_FULL : HEAT;
          else next = power > HEAT_TOLERANCE ? FLOAT : -power > m.coolingCapacity[z] ? COOL_FULL : COOL;
        } else if (mode[z] === HEAT_FULL) {
          power = m.heatingCapacity[z];
          if (!(air < heatTarget[z])) next = HEAT;
        } else if (mode[z] === COOL_FULL) {
          power = -m.coolingCapacity[z];
          if (!(air > coolTarget[z])) next = COOL;
        } else if (air < heatTarget[z] - 1e-9) next = HEAT;
        else if (air > coolTarget[z] + 1e-9) next = COOL;
        heating[z] = power > 0 ? power : 0;
        cooling[z] = power < 0 ? -power : 0;
        if (next !== mode[z]) {
          settled = false;
          changed = z;
          if (round < limit || !last) mode[z] = next;
        }
      }
    }
    if (!settled && last && changed >= 0) this.books.unsettled[changed]++;
    for (let z = 0; z < zones; z++) {
      airTemperature[z] = solution[2 * z];
      radiantTemperature[z] = solution[2 * z + 1];
    }
    rhs.fill(0);
  }

  /** Step-mean face temperatures from the solved nodes. */
  private faceTemperatures(): void {
    const m = this.model;
    const { alpha0, alpha1, g00, g01, g11, hc0, hr0, hc1, hr1 } = this.scratch;
    const { airTemperature: air, radiantTemperature: radiant } = this.record;
    for (let i = 0; i < m.exterior; i++) {
      const z = m.zone1[i];
      const q = hc1[i] * air[z] + hr1[i] * radiant[z];
      this.tin[i] = alpha1[i] + g11[i] * q;
      this.tout[i] = alpha0[i] + g01[i] * q;
    }
    for (let i = m.exterior; i < m.elements; i++) {
      const z0 = m.zone0[i];
      const z1 = m.zone1[i];
      const q0 = hc0[i] * air[z0] + hr0[i] * radiant[z0];
      const q1 = hc1[i] * air[z1] + hr1[i] * radiant[z1];
      this.tout[i] = alpha0[i] + g00[i] * q0 + g01[i] * q1;
      this.tin[i] = alpha1[i] + g01[i] * q0 + g11[i] * q1;
    }
  }

  /** Every exchange once, from the coefficients of the last pass, with opposite signs on both sides. */
  private book(b: Boundary): void {
    const m = this.model;
    const { zones, dt } = m;
    const { s0, s1, hc0, hr0, hc1, hr1, env0, ho } = this.scratch;
    const r = this.record;
    const { flows } = r;
    const { zoneNet, zoneGross, elementHeat, elementGross } = this.books;
    flows.fill(0);
    const t = this.hourTerms;
    for (let i = 0; i < m.elements; i++) {
      const A = m.area[i];
      const z1 = m.zone1[i];
      const into1 = A * (hc1[i] * (this.tin[i] - r.airTemperature[z1]) + hr1[i] * (this.tin[i] - r.radiantTemperature[z1]));
      const kind = m.kind[i];
      // what entered through glass and was absorbed here is counted where it entered, as sun
      const entered = A * (m.beamShare1[i] * this.beamIn[z1] + m.diffuseShare1[i] * this.diffuseIn[z1]);
      flows[z1 * FLOWS + (kind === 1 ? FLOW.glass : kind === 3 ? FLOW.partitions : FLOW.fabric)] += into1 - entered;
      let outer: number;
      if (kind === 3) {
        const z0 = m.zone0[i];
        const into0 = A * (hc0[i] * (this.tout[i] - r.airTemperature[z0]) + hr0[i] * (this.tout[i] - r.radiantTemperature[z0]));
        flows[z0 * FLOWS + FLOW.partitions] += into0 - A * s0[i];
        outer = A * s0[i] - into0;
        zoneGross[z0] += dt * Math.abs(into0);
      } else outer = A * (ho[i] * (env0[i] - this.tout[i]) + s0[i]);
      const inner = A * s1[i] - into1;
      elementHeat[i] += dt * (outer + inner);
      elementGross[i] += dt * (Math.abs(outer) + Math.abs(inner));
      zoneGross[z1] += dt * Math.abs(into1);
    }
    const cp = b.cp;
    for (let z = 0; z < zones; z++) {
      const f = z * FLOWS;
      const air = r.airTemperature[z];
      flows[f + FLOW.sun] = this.beamIn[z] * (1 - m.lostBeam[z]) + this.diffuseIn[z] * (1 - m.lostDiffuse[z]);
      flows[f + FLOW.people] = t[TERM.peopleRadiant * zones + z] + t[TERM.peopleConvective * zones + z];
      flows[f + FLOW.lighting] = t[TERM.lightingRadiant * zones + z] + t[TERM.lightingConvective * zones + z];
      flows[f + FLOW.appliances] = t[TERM.applianceRadiant * zones + z] + t[TERM.applianceConvective * zones + z];
      flows[f + FLOW.heating] = r.heating[z];
      flows[f + FLOW.cooling] = -r.cooling[z];
      flows[f + FLOW.infiltration] = cp * this.infiltrationFlow[z] * (b.outdoor - air);
      flows[f + FLOW.outdoorAir] = cp * this.airFlow[z] * (1 - this.airSupply[z]) * (b.outdoor - air);
      const stored = ((m.zoneVolume[z] * m.airDensity * cp) / dt) * (air - this.airStart[z]);
      let net = -stored;
      let gross = Math.abs(stored);
      for (let j = 0; j < FLOWS; j++) {
        net += flows[f + j];
        gross += Math.abs(flows[f + j]);
      }
      zoneNet[z] += dt * net;
      zoneGross[z] += dt * gross;
      // humidity: sources, infiltration, outdoor air with latent recovery; backward Euler
      const mass = (m.zoneVolume[z] * m.airDensity) / dt;
      const exchange = this.infiltrationFlow[z] + this.airFlow[z] * (1 - (this.airSupply[z] > 0 ? m.recoveryLatent[z] : 0));
      const source = (t[TERM.peopleLatent * zones + z] + t[TERM.applianceLatent * zones + z]) / LATENT_HEAT;
      const w = (mass * r.humidityRatio[z] + exchange * b.ratio + source) / (mass + exchange);
      r.humidityRatio[z] = w;
    }
  }

  /** States to the end of the step. */
  private advance(): void {
    const m = this.model;
    const { s0, s1, hc0, hr0, hc1, hr1, env0, ho } = this.scratch;
    const { airTemperature: air, radiantTemperature: radiant } = this.record;
    const { a, tout, tin } = this;
    const { modeStart, decay, uptake0, uptake1, nominal0, nominal1 } = m;
    for (let i = 0; i < m.elements; i++) {
      const z1 = m.zone1[i];
      const f1 = hc1[i] * air[z1] + hr1[i] * radiant[z1] + s1[i] - (hc1[i] + hr1[i] - nominal1[i]) * tin[i];
      let f0: number;
      if (m.kind[i] === 3) {
        const z0 = m.zone0[i];
        f0 = hc0[i] * air[z0] + hr0[i] * radiant[z0] + s0[i] - (hc0[i] + hr0[i] - nominal0[i]) * tout[i];
      } else f0 = ho[i] * (env0[i] - tout[i]) + s0[i] + nominal0[i] * tout[i];
      const end = modeStart[i + 1];
      for (let k = modeStart[i]; k < end; k++) a[k] = decay[k] * a[k] + uptake0[k] * f0 + uptake1[k] * f1;
    }
  }

  /**
   * Heat flow of element `i` into its zone now, W, without the sun that entered through glass and was
   * absorbed at its surface. `side` 0: into the first zone of a partition.
   */
  elementFlow(i: number, side: 0 | 1): number {
    const m = this.model;
    const { hc0, hr0, hc1, hr1 } = this.scratch;
    const { airTemperature: air, radiantTemperature: radiant } = this.record;
    const z = side === 0 ? m.zone0[i] : m.zone1[i];
    const t = side === 0 ? this.tout[i] : this.tin[i];
    const hc = side === 0 ? hc0[i] : hc1[i];
    const hr = side === 0 ? hr0[i] : hr1[i];
    const entered =
      side === 0
        ? m.beamShare0[i] * this.beamIn[z] + m.diffuseShare0[i] * this.diffuseIn[z]
        : m.beamShare1[i] * this.beamIn[z] + m.diffuseShare1[i] * this.diffuseIn[z];
    return m.area[i] * (hc * (t - air[z]) + hr * (t - radiant[z]) - entered);
  }

  /** Relative humidity of a zone now, 0…1. */
  humidity(z: number, pressure: number): number {
    return relativeHumidity(this.record.airTemperature[z], this.record.humidityRatio[z], pressure);
  }

  /** Temperature of every inside face now, °C (step mean). */
  get insideFaces(): Float64Array {
    return this.tin;
  }
}

interface Boundary {
  outdoor: number;
  ratio: number;
  pressure: number;
  sky: number;
  wind: number;
  windDirection: number;
  month: number;
  density: number;
  cp: number;
}

const NO_BRIGHTNESS = { circumsolar: 0, horizon: 0, b: 1 };

/** Natural convection with the quick cube root and a least film, so that still air does not insulate fully. @see naturalConvection */
function film(difference: number, warm: number, cold: number): number {
  const h = difference > 0 ? warm * quickCbrt(difference) : cold * quickCbrt(-difference);
  return h < LEAST_FILM ? LEAST_FILM : h;
}
