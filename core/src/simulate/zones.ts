import { blockSolve, blockSweeps } from "../numeric/index.ts";
import { TERM, type CompiledModel } from "./model.ts";
import { EXTRA, MODE, type KernelState } from "./state.ts";

/** A zone's mode changes only beyond this, W and K, so that rounding does not make it hunt. */
const TOLERANCE = 1e-9;
const { FLOAT, HEAT, HEAT_FULL, COOL, COOL_FULL, FREE, FREE_FULL, FREE_COOL, FREE_COOL_FULL } = MODE;

/** Whether the air node is held at a set-point in a mode. */
const held = (mode: number): boolean => mode === HEAT || mode === COOL || mode === FREE || mode === FREE_COOL;
/** Whether all of the extra air flows in a mode. */
const fullAir = (mode: number): boolean => mode >= FREE_FULL;

/** What schedules drive in the hour, summed by zone: gains and flows at full times the schedule, lighting times what daylight leaves of it. */
export function sumTerms(m: CompiledModel, s: KernelState): void {
  const { terms, zones, termKind, termZone, termSchedule, termControl, termValue } = m;
  const { hourTerms, scheduled, lightingLeft } = s;
  hourTerms.fill(0);
  for (let i = 0; i < terms; i++) {
    const value = termValue[i] * scheduled[termSchedule[i]];
    const control = termControl[i];
    hourTerms[termKind[i] * zones + termZone[i]] += control < 0 ? value : value * lightingLeft[control];
  }
}

/** Air of the step in the zone system: capacity, outdoor air, air between zones, gains to the air and to radiation. */
function addAir(m: CompiledModel, s: KernelState): void {
  const { zones, dt } = m;
  const { values, rhs, hourTerms: t } = s;
  const { cp, outdoor } = s.boundary;
  const perVolume = (m.airDensity * cp) / dt;
  for (let z = 0; z < zones; z++) {
    const na = 2 * z;
    const capacity = m.zoneVolume[z] * perVolume + m.innerCapacity[z] / dt;
    const inflow = cp * (s.infiltrationFlow[z] + s.airFlow[z] * (1 - s.airSupply[z]));
    values[4 * z] += capacity + inflow + s.fixedConductance[z];
    rhs[na] +=
      capacity * s.airStart[z] +
      inflow * outdoor +
      s.fixedHeat[z] +
      s.sunToAir[z] +
      t[TERM.peopleConvective * zones + z] +
      t[TERM.lightingConvective * zones + z] +
      t[TERM.applianceConvective * zones + z];
    rhs[na + 1] += t[TERM.peopleRadiant * zones + z] + t[TERM.lightingRadiant * zones + z] + t[TERM.applianceRadiant * zones + z];
  }
  for (let p = 0; p < s.passNow.length; p++) {
    const c = cp * s.passNow[p];
    const c0 = c * m.passWeight0[p];
    const c1 = c * m.passWeight1[p];
    values[4 * m.passZone0[p]] += c0;
    values[4 * m.passZone1[p]] += c1;
    values[4 * m.passBlock01[p]] -= c0;
    values[4 * m.passBlock10[p]] -= c1;
  }
}

/** Sweeps end when no node moves by more than this, K; those that ready the films need less. */
const SETTLED = 1e-11;
const READIED = 1e-4;
const MOST_SWEEPS = 60;

/** The linear system of the zones: by elimination, or where its fill would cost more by sweeps from the last temperatures. */
function solve(m: CompiledModel, s: KernelState, last: boolean): void {
  const { work, solution, nodes } = s;
  if (!m.sweeps) return blockSolve(m.pattern, work, solution);
  // two calls with a constant each: a number chosen between them would be an object on the heap
  const sweeps = last
    ? blockSweeps(m.pattern, work, solution, nodes, SETTLED, MOST_SWEEPS)
    : blockSweeps(m.pattern, work, solution, nodes, READIED, MOST_SWEEPS);
  if (sweeps > 0) {
    solution.set(nodes);
    return;
  }
  blockSolve(m.pattern, work, solution);
  nodes.set(solution);
}

/** Air and radiant nodes of all zones at once, with the thermostats' modes found by an active set; an early pass only readies the films. */
export function solveZones(m: CompiledModel, s: KernelState, last: boolean): void {
  const { zones, pattern } = m;
  const { values, work, rhs, solution, mode } = s;
  const { rowStart, rowBlock, rowColumn } = pattern;
  const { airTemperature, radiantTemperature, heating, cooling, heatTarget, coolTarget, extraFlow } = s.record;
  const { cp, outdoor } = s.boundary;
  addAir(m, s);
  const limit = last ? zones + 3 : 0;
  let settled = false;
  let changed = -1;
  for (let round = 0; round <= limit && !settled; round++) {
    work.set(values);
    solution.set(rhs);
    for (let z = 0; z < zones; z++) {
      let now = mode[z];
      if (now === FLOAT) continue;
      const na = 2 * z;
      if ((now === HEAT || now === HEAT_FULL) && heatTarget[z] !== heatTarget[z]) mode[z] = now = FLOAT;
      if ((now === COOL || now === COOL_FULL) && coolTarget[z] !== coolTarget[z]) mode[z] = now = FLOAT;
      if ((now === FREE_COOL || now === FREE_COOL_FULL) && coolTarget[z] !== coolTarget[z]) mode[z] = now = FREE_FULL;
      if (held(now)) {
        // what the thermostat senses is held: a unit row
        for (let e = rowStart[z]; e < rowStart[z + 1]; e++) {
          const at = 4 * rowBlock[e];
          work[at] = 0;
          work[at + 1] = 0;
        }
        const w = m.radiantWeight[z];
        work[4 * z] = 1 - w;
        work[4 * z + 1] = w;
        solution[na] = now === HEAT ? heatTarget[z] : now === FREE ? s.extraTarget[z] : coolTarget[z];
        continue;
      }
      if (fullAir(now)) {
        const c = cp * s.extraMost[z];
        work[4 * z] += c;
        solution[na] += c * outdoor;
      }
      if (now === HEAT_FULL) {
        work[4 * z] += s.heatingSlope[z];
        solution[na] += s.heatingMost[z];
      } else if (now === COOL_FULL || now === FREE_COOL_FULL) {
        work[4 * z] += s.coolingSlope[z];
        solution[na] -= s.coolingMost[z];
      }
    }
    solve(m, s, last);
    settled = true;
    for (let z = 0; z < zones; z++) {
      const na = 2 * z;
      const now = mode[z];
      const air = solution[na];
      const sensed = air + m.radiantWeight[z] * (solution[na + 1] - air);
      const heat = heatTarget[z];
      const cool = coolTarget[z];
      const most = s.extraMost[z];
      let next: number = now;
      let power = 0;
      let extra = fullAir(now) ? most : 0;
      if (held(now)) {
        power = values[4 * z] * air + values[4 * z + 1] * solution[na + 1] - rhs[na];
        for (let e = rowStart[z]; e < rowStart[z + 1]; e++) {
          const at = 4 * rowBlock[e];
          const n = 2 * rowColumn[e];
          power += values[at] * solution[n] + values[at + 1] * solution[n + 1];
        }
        if (now === HEAT) next = power < -TOLERANCE ? FLOAT : power > s.heatingMost[z] - s.heatingSlope[z] * air ? HEAT_FULL : HEAT;
        else if (now === COOL) next = power > TOLERANCE ? FLOAT : -power > s.coolingMost[z] + s.coolingSlope[z] * air ? COOL_FULL : COOL;
        else if (now === FREE) {
          // the flow that would hold it
          const needed = power / (cp * (outdoor - air));
          next = power > TOLERANCE ? FLOAT : !(air > outdoor) || needed > most ? FREE_FULL : FREE;
          extra = next === FREE ? needed : extra;
          power = 0;
        } else {
          power += cp * most * (air - outdoor);
          next = power > TOLERANCE ? FREE_FULL : -power > s.coolingMost[z] + s.coolingSlope[z] * air ? FREE_COOL_FULL : FREE_COOL;
        }
      } else if (now === HEAT_FULL) {
        power = s.heatingMost[z] - s.heatingSlope[z] * air;
        if (!(sensed < heat)) next = HEAT;
      } else if (now === COOL_FULL || now === FREE_COOL_FULL) {
        power = -(s.coolingMost[z] + s.coolingSlope[z] * air);
        if (!(sensed > cool)) next = now === COOL_FULL ? COOL : FREE_COOL;
      } else if (now === FREE_FULL) {
        // open windows and cooling never work at once; other extra air goes on into cooling
        if (s.extraKind[z] !== EXTRA.WINDOWS && sensed > cool + TOLERANCE) next = FREE_COOL;
        else if (sensed < s.extraTarget[z] - TOLERANCE) next = FREE;
      } else if (sensed < heat - TOLERANCE) next = HEAT;
      else if (most > 0) {
        if (sensed > s.extraTarget[z] + TOLERANCE) next = FREE;
      } else if (sensed > cool + TOLERANCE) next = COOL;
      heating[z] = power > 0 ? power : 0;
      cooling[z] = power < 0 ? -power : 0;
      extraFlow[z] = extra;
      if (next !== now) {
        settled = false;
        changed = z;
        if (round < limit || !last) mode[z] = next;
      }
    }
  }
  if (!settled && last && changed >= 0) s.books.unsettled[changed]++;
  for (let z = 0; z < zones; z++) {
    airTemperature[z] = solution[2 * z];
    radiantTemperature[z] = solution[2 * z + 1];
  }
  rhs.fill(0);
}
