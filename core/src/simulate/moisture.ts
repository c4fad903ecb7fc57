import { LATENT_HEAT } from "../airflow/index.ts";
import { saturationPressure } from "../climate/index.ts";
import { TERM, type CompiledModel } from "./model.ts";
import { WATER, WATERS, type KernelState } from "./state.ts";
import type { StepKernel } from "./walks.ts";

// constants of the module: a look-up by name in the loop costs
const LATENT = LATENT_HEAT;
const saturation = saturationPressure;
const ROWS = WATERS;
const PEOPLE = TERM.peopleLatent;
const APPLIANCES = TERM.applianceLatent;
const TO_PEOPLE = WATER.people;
const TO_APPLIANCES = WATER.appliances;
const TO_INFILTRATION = WATER.infiltration;
const TO_OUTDOOR_AIR = WATER.outdoorAir;
const TO_SUPPLY = WATER.supplyAir;
const TO_OPENED = WATER.openedAir;
const TO_BETWEEN = WATER.betweenZones;
const TO_HUMIDIFICATION = WATER.humidification;
const TO_DEHUMIDIFICATION = WATER.dehumidification;
const TO_CONDENSATION = WATER.condensation;
const TO_STORAGE = WATER.storage;

/** Molar mass of water over that of dry air. */
const MOLAR_RATIO = 0.621945;
/** Humidity ratios nearer to a limit than this are at it, kg/kg. */
const NEAR = 1e-12;
/** Air is at least this much warmer than the coil for the coil's air flow, K: a set-point near the apparatus dew point would ask for endless flow. */
const LEAST_DEPRESSION = 2;
/** What holds the humidity of a zone in a step: nothing; the coil's own drying, as much of it as the capacity leaves; a set-point from below; from above, within the capacity; saturation. */
const FREE = 0;
const COIL = 1;
const COIL_FULL = 2;
const HUMIDIFIED = 3;
const DRIED = 4;
const DRIED_FULL = 5;
const SATURATED = 6;

/** Humidity ratio of saturated air, kg/kg, at a pressure above any on earth by whole degrees from −60 °C: below it no air is saturated. */
const COLDEST = -60;
const CERTAINLY_DRY = Float64Array.from({ length: 160 }, (_, i) => ratioAt(1, COLDEST + i, 110000));

/** Humidity ratio of air at a temperature, °C, and relative humidity, 0…1, kg/kg. Air that boils has no limit. */
export function ratioAt(rh: number, air: number, pressure: number): number {
  return ratioOf(rh * saturation(air), pressure);
}

/** Humidity ratio of air with a vapour pressure, Pa. */
function ratioOf(vapour: number, pressure: number): number {
  return vapour < pressure ? (MOLAR_RATIO * vapour) / (pressure - vapour) : Infinity;
}

/**
 * Humidity of all zones at the end of the step, backward Euler, in one system: sources, outdoor air with latent recovery, air
 * between zones, storage by a multiple of the air. What holds a zone is found by an active set: zones that are held at a limit
 * are fixed rows, and the power comes from what their balance leaves, so that no water is made or lost.
 *
 * A cooling coil dries by the air that it cools: sensible cooling Q passes ṁ = Q/(c_p·(T − T_a)) of air over a surface at the
 * apparatus dew point T_a, which leaves it at its own saturation (ASHRAE Fundamentals 2017, ch. 1: the line from the room's
 * state through the apparatus dew point). Drying to a set-point acts only where the zone may be cooled, and all of it within
 * the capacity that sensible cooling leaves. Air never stands above saturation: the excess condenses, and its heat is not counted.
 * @param last pass of the step: humidities, powers and books are kept; an earlier one only tells cooling what drying leaves of the capacity
 */
export function moisture(m: CompiledModel, s: KernelState, kernel: StepKernel, last: boolean): void {
  if (!last && !m.latentLimits && m.services === null) return;
  const { zones, dt } = m;
  const { hourTerms: t, boundary: b, wetMode, wetWhole, wetDrive, coilFlow, coilRatio } = s;
  const { humidityRatio: w, humidification, dehumidification, condensation, airTemperature, extraFlow, coolTarget } = s.record;
  const { airFlow, infiltrationFlow, wet, coolingMost, coilMost, coilCooling, coilLatent, airIn, airInRatio } = s;
  const equipped = m.services === null ? null : m.services.equipped;
  if (equipped === null) coilCooling.set(s.record.cooling);
  const { zoneVolume, moistureCapacity, recoveryLatent, humidifySetpoint, dehumidifySetpoint, coilTemperature } = m;
  const { ratio, pressure, supplyDensity, cp } = b;
  for (let z = 0; z < zones; z++) {
    const mass = (zoneVolume[z] * supplyDensity * moistureCapacity[z]) / dt;
    const exchange = infiltrationFlow[z] + extraFlow[z] + airFlow[z] * (1 - latentShare(s, recoveryLatent, z));
    const given = airIn[z];
    const source = (t[PEOPLE * zones + z] + t[APPLIANCES * zones + z]) / LATENT;
    wetWhole[z] = mass + exchange + given;
    wetDrive[z] = mass * w[z] + exchange * ratio + source + given * airInRatio[z];
    coilFlow[z] = 0;
    const coil = coilTemperature[z];
    if (coil === coil && coilCooling[z] > 0) {
      coilFlow[z] = coilCooling[z] / (cp * Math.max(LEAST_DEPRESSION, airTemperature[z] - coil));
      coilRatio[z] = ratioOf(s.coilPressure[z], pressure);
    }
    wetMode[z] = coilFlow[z] > 0 && w[z] > coilRatio[z] ? COIL : FREE;
  }
  const most = zones + 8;
  let unsettled = -1;
  for (let round = 0; round < most; round++) {
    solveWet(m, s, kernel);
    unsettled = -1;
    for (let z = 0; z < zones; z++) {
      const now = wetMode[z];
      const air = airTemperature[z];
      const at = wet[z];
      const flow = coilFlow[z];
      const low = humidifySetpoint[z];
      const high = dehumidifySetpoint[z];
      const whole = Math.floor(air) - COLDEST;
      const dryAir = now <= COIL_FULL && at < CERTAINLY_DRY[whole < 0 ? 0 : whole > 159 ? 159 : whole];
      // without cooling, limits or water near saturation nothing can hold it
      if (dryAir && now === FREE && flow === 0 && low !== low && high !== high) continue;
      const left = Math.max(0, coilMost[z] - coilCooling[z]);
      const saturated = dryAir ? Infinity : ratioAt(1, air, pressure);
      const least = low === low ? ratioAt(low, air, pressure) : -Infinity;
      const limit = high === high && coolTarget[z] === coolTarget[z] ? Math.max(least, ratioAt(high, air, pressure)) : Infinity;
      const own = flow * Math.max(0, at - coilRatio[z]) * LATENT;
      const dry = flow > 0 && at > coilRatio[z] + NEAR ? COIL : FREE;
      let next: number = now;
      if (now === FREE || now === COIL || now === COIL_FULL) {
        if (at > saturated + NEAR) next = SATURATED;
        else if (at > limit + NEAR && left > 0 && now !== COIL_FULL) next = DRIED;
        else if (at < least - NEAR) next = HUMIDIFIED;
        else if (now === FREE) next = dry;
        else if (now === COIL) next = dry === FREE ? FREE : own > left * (1 + 1e-12) ? COIL_FULL : COIL;
        // with its full drying back in reach of the capacity
        else if (own < left * (1 - 1e-12)) next = dry;
      } else {
        // what its balance takes beyond the air that is exchanged, W; positive: water is taken out
        const taken = -residual(m, s, z) * LATENT;
        if (now === HUMIDIFIED) next = taken > NEAR ? dry : HUMIDIFIED;
        else if (now === DRIED) next = taken < own ? dry : taken > left ? DRIED_FULL : DRIED;
        else if (now === DRIED_FULL) next = at > saturated + NEAR ? SATURATED : at < limit - NEAR ? DRIED : DRIED_FULL;
        else next = taken < (dehumidifies(limit, saturated) ? left : Math.min(own, left)) - NEAR ? dry : SATURATED;
      }
      if (next === now) continue;
      wetMode[z] = next;
      unsettled = z;
    }
    if (unsettled < 0) break;
  }
  for (let z = 0; z < zones; z++) {
    const now = wetMode[z];
    let power = 0;
    let added = 0;
    let condensed = 0;
    if (now === COIL) power = coilFlow[z] * (wet[z] - coilRatio[z]) * LATENT;
    else if (now === COIL_FULL || now === DRIED_FULL) power = Math.max(0, coilMost[z] - coilCooling[z]);
    else if (now >= HUMIDIFIED) {
      const taken = -residual(m, s, z) * LATENT;
      if (now === HUMIDIFIED) added = Math.max(0, -taken);
      else if (now === DRIED) power = Math.max(0, taken);
      else {
        const high = dehumidifySetpoint[z];
        const dried = high === high && coolTarget[z] === coolTarget[z];
        const left = Math.max(0, coilMost[z] - coilCooling[z]);
        power = Math.min(left, dried ? taken : coilFlow[z] * Math.max(0, wet[z] - coilRatio[z]) * LATENT);
        condensed = taken - power;
      }
    }
    coilLatent[z] = power;
    if (equipped === null || equipped[z] === 0) coolingMost[z] = Math.max(0, coilMost[z] - power);
    if (!last) continue;
    humidification[z] = added;
    dehumidification[z] = power;
    condensation[z] = condensed / LATENT;
  }
  if (!last) return;
  if (unsettled >= 0) s.books.unsettled[unsettled]++;
  bookWater(m, s);
}

const dehumidifies = (limit: number, saturated: number): boolean => limit < saturated;

/** Latent recovery that acts: where sensible recovery is bypassed or held back by frost, the latent is alike. */
function latentShare(s: KernelState, recoveryLatent: Float64Array, z: number): number {
  return s.airSupply[z] > 0 ? recoveryLatent[z] * s.airRecovered[z] : 0;
}

/** Water a zone's row lacks at the humidities found, kg/s: what must be added (negative: taken) for its balance to close. */
function residual(m: CompiledModel, s: KernelState, z: number): number {
  const { wet, wetWhole, wetDrive, passNow } = s;
  let sum = wetWhole[z] * wet[z] - wetDrive[z];
  for (let p = 0; p < passNow.length; p++) {
    const a = m.passZone0[p];
    const b = m.passZone1[p];
    if (a === z) sum += passNow[p] * m.passWeight0[p] * (wet[a] - wet[b]);
    if (b === z) sum += passNow[p] * m.passWeight1[p] * (wet[b] - wet[a]);
  }
  return sum;
}

/** Humidities with what holds each zone now. */
function solveWet(m: CompiledModel, s: KernelState, kernel: StepKernel): void {
  const { zones } = m;
  const { wet, wetMode, wetWhole, wetDrive, coilFlow, coilRatio, work, solution, passNow } = s;
  const coupled = passNow.length > 0;
  if (coupled) {
    work.fill(0);
    for (let p = 0; p < passNow.length; p++) {
      const a = m.passZone0[p];
      const b = m.passZone1[p];
      const c0 = passNow[p] * m.passWeight0[p];
      const c1 = passNow[p] * m.passWeight1[p];
      work[4 * a] += c0;
      work[4 * b] += c1;
      if (wetMode[a] < HUMIDIFIED || wetMode[a] === DRIED_FULL) work[4 * m.passBlock01[p]] -= c0;
      if (wetMode[b] < HUMIDIFIED || wetMode[b] === DRIED_FULL) work[4 * m.passBlock10[p]] -= c1;
    }
  }
  for (let z = 0; z < zones; z++) {
    const now = wetMode[z];
    let whole = wetWhole[z] + (coupled ? work[4 * z] : 0);
    let drive = wetDrive[z];
    if (now === COIL) {
      whole += coilFlow[z];
      drive += coilFlow[z] * coilRatio[z];
    } else if (now === COIL_FULL || now === DRIED_FULL) drive -= Math.max(0, s.coilMost[z] - s.coilCooling[z]) / LATENT;
    else if (now !== FREE) {
      whole = 1;
      drive = heldRatio(m, s, z, now);
    }
    if (!coupled) {
      wet[z] = drive / whole;
      continue;
    }
    work[4 * z] = whole;
    work[4 * z + 3] = 1;
    solution[2 * z] = drive;
    solution[2 * z + 1] = 0;
  }
  if (!coupled) return;
  kernel.eliminate();
  for (let z = 0; z < zones; z++) wet[z] = solution[2 * z];
}

/** Humidity ratio a zone is held at. */
function heldRatio(m: CompiledModel, s: KernelState, z: number, mode: number): number {
  const air = s.record.airTemperature[z];
  const { pressure } = s.boundary;
  const saturated = ratioAt(1, air, pressure);
  if (mode === SATURATED) return saturated;
  const low = m.humidifySetpoint[z];
  const least = low === low ? Math.min(saturated, ratioAt(low, air, pressure)) : 0;
  return mode === HUMIDIFIED ? least : Math.max(least, ratioAt(m.dehumidifySetpoint[z], air, pressure));
}

/** Every flow of water once, kg/s, from the humidities found; then the humidities to the end of the step. */
function bookWater(m: CompiledModel, s: KernelState): void {
  const { zones, dt } = m;
  const { hourTerms: t, wet, passNow, airFlow, infiltrationFlow } = s;
  const { humidityRatio: w, humidification, dehumidification, condensation, extraFlow, water, waterSum } = s.record;
  const { waterResidual, waterGross } = s.books;
  const { ratio, supplyDensity } = s.boundary;
  water.fill(0);
  for (let p = 0; p < passNow.length; p++) {
    const a = m.passZone0[p];
    const b = m.passZone1[p];
    const q = passNow[p] * (wet[b] - wet[a]);
    water[a * ROWS + TO_BETWEEN] += q * m.passWeight0[p];
    water[b * ROWS + TO_BETWEEN] -= q * m.passWeight1[p];
  }
  for (let z = 0; z < zones; z++) {
    const f = z * ROWS;
    const mass = (m.zoneVolume[z] * supplyDensity * m.moistureCapacity[z]) / dt;
    const now = wet[z];
    water[f + TO_PEOPLE] = t[PEOPLE * zones + z] / LATENT;
    water[f + TO_APPLIANCES] = t[APPLIANCES * zones + z] / LATENT;
    water[f + TO_INFILTRATION] = infiltrationFlow[z] * (ratio - now);
    water[f + TO_OUTDOOR_AIR] = airFlow[z] * (1 - latentShare(s, m.recoveryLatent, z)) * (ratio - now);
    water[f + TO_SUPPLY] = s.airIn[z] * (s.airInRatio[z] - now);
    water[f + TO_OPENED] = extraFlow[z] * (ratio - now);
    water[f + TO_HUMIDIFICATION] = humidification[z] / LATENT;
    water[f + TO_DEHUMIDIFICATION] = -dehumidification[z] / LATENT;
    water[f + TO_CONDENSATION] = -condensation[z];
    water[f + TO_STORAGE] = -mass * (now - w[z]);
    let net = 0;
    let gross = 0;
    for (let j = f; j < f + ROWS; j++) {
      const q = water[j];
      waterSum[j] += q;
      net += q;
      gross += q < 0 ? -q : q;
    }
    waterResidual[z] += dt * (net < 0 ? -net : net);
    waterGross[z] += dt * gross;
    w[z] = now;
  }
}
