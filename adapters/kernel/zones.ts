// Air and radiant nodes of all zones with their thermostats: core/src/simulate/zones.ts, operation by operation.
import { blockSolve, blockSweeps } from "./linear";
import {
  EXTRA_WINDOWS,
  k_unsettled,
  m_airDensity,
  m_dt,
  m_innerCapacity,
  m_passBlock01,
  m_passBlock10,
  m_passWeight0,
  m_passWeight1,
  m_passZone0,
  m_passZone1,
  m_radiantWeight,
  m_sweeps,
  m_termControl,
  m_termKind,
  m_terms,
  m_termSchedule,
  m_termValue,
  m_termZone,
  m_zones,
  m_zoneVolume,
  MODE_COOL,
  MODE_COOL_FULL,
  MODE_FLOAT,
  MODE_FREE,
  MODE_FREE_COOL,
  MODE_FREE_COOL_FULL,
  MODE_FREE_FULL,
  MODE_HEAT,
  MODE_HEAT_FULL,
  n_hourTerms,
  n_passNow,
  p_blocks,
  p_rowBlock,
  p_rowColumn,
  p_rowStart,
  r_airTemperature,
  r_cooling,
  r_coolTarget,
  r_extraFlow,
  r_heating,
  r_heatTarget,
  r_radiantTemperature,
  s_airFlow,
  s_airStart,
  s_airSupply,
  s_coolingMost,
  s_coolingSlope,
  s_extraKind,
  s_extraMost,
  s_extraTarget,
  s_fixedConductance,
  s_fixedHeat,
  s_heatingMost,
  s_heatingSlope,
  s_hourTerms,
  s_infiltrationFlow,
  s_lightingLeft,
  s_mode,
  s_nodes,
  s_passNow,
  s_rhs,
  s_scheduled,
  s_solution,
  s_sunToAir,
  s_values,
  s_work,
  TERM_applianceConvective,
  TERM_applianceRadiant,
  TERM_lightingConvective,
  TERM_lightingRadiant,
  TERM_peopleConvective,
  TERM_peopleRadiant,
  Weather,
} from "./arrays";

const TOLERANCE: f64 = 1e-9;
const SETTLED: f64 = 1e-11;
const READIED: f64 = 1e-4;
const MOST_SWEEPS: i32 = 60;

function held(mode: i32): bool {
  return mode == MODE_HEAT || mode == MODE_COOL || mode == MODE_FREE || mode == MODE_FREE_COOL;
}

function fullAir(mode: i32): bool {
  return mode >= MODE_FREE_FULL;
}

export function terms(): void {
  const zones = m_zones;
  const count = m_terms;
  const hourTerms = s_hourTerms;
  const scheduled = s_scheduled;
  const termKind = m_termKind;
  const termZone = m_termZone;
  const termSchedule = m_termSchedule;
  const termControl = m_termControl;
  const termValue = m_termValue;
  hourTerms.clear(n_hourTerms);
  for (let i = 0; i < count; i++) {
    const value = termValue[i] * scheduled[termSchedule[i]];
    const control = termControl[i];
    const at = termKind[i] * zones + termZone[i];
    hourTerms[at] = hourTerms[at] + (control < 0 ? value : value * s_lightingLeft[control]);
  }
}

function addAir(): void {
  const zones = m_zones;
  const values = s_values;
  const rhs = s_rhs;
  const t = s_hourTerms;
  const cp = Weather.cp();
  const outdoor = Weather.outdoor();
  const perVolume = (m_airDensity * cp) / m_dt;
  const peopleConvective = TERM_peopleConvective * zones;
  const lightingConvective = TERM_lightingConvective * zones;
  const applianceConvective = TERM_applianceConvective * zones;
  const peopleRadiant = TERM_peopleRadiant * zones;
  const lightingRadiant = TERM_lightingRadiant * zones;
  const applianceRadiant = TERM_applianceRadiant * zones;
  for (let z = 0; z < zones; z++) {
    const na = 2 * z;
    const capacity = m_zoneVolume[z] * perVolume + m_innerCapacity[z] / m_dt;
    const inflow = cp * (s_infiltrationFlow[z] + s_airFlow[z] * (1.0 - s_airSupply[z]));
    values[4 * z] = values[4 * z] + (capacity + inflow + s_fixedConductance[z]);
    rhs[na] =
      rhs[na] +
      (capacity * s_airStart[z] +
        inflow * outdoor +
        s_fixedHeat[z] +
        s_sunToAir[z] +
        t[peopleConvective + z] +
        t[lightingConvective + z] +
        t[applianceConvective + z]);
    rhs[na + 1] = rhs[na + 1] + (t[peopleRadiant + z] + t[lightingRadiant + z] + t[applianceRadiant + z]);
  }
  const count = n_passNow;
  for (let p = 0; p < count; p++) {
    const c = cp * s_passNow[p];
    const a = 4 * m_passZone0[p];
    const b = 4 * m_passZone1[p];
    const there = 4 * m_passBlock01[p];
    const back = 4 * m_passBlock10[p];
    const c0 = c * m_passWeight0[p];
    const c1 = c * m_passWeight1[p];
    values[a] = values[a] + c0;
    values[b] = values[b] + c1;
    values[there] = values[there] - c0;
    values[back] = values[back] - c1;
  }
}

export function eliminate(): void {
  blockSolve(s_work, s_solution);
}

function solve(last: bool): void {
  if (!m_sweeps) {
    blockSolve(s_work, s_solution);
    return;
  }
  const sweeps = blockSweeps(s_work, s_solution, s_nodes, last ? SETTLED : READIED, MOST_SWEEPS);
  if (sweeps > 0) {
    s_solution.copy(s_nodes, 2 * m_zones);
    return;
  }
  blockSolve(s_work, s_solution);
  s_nodes.copy(s_solution, 2 * m_zones);
}

export function solveZones(last: bool): void {
  const zones = m_zones;
  const values = s_values;
  const work = s_work;
  const rhs = s_rhs;
  const solution = s_solution;
  const mode = s_mode;
  const rowStart = p_rowStart;
  const rowBlock = p_rowBlock;
  const rowColumn = p_rowColumn;
  const heatTarget = r_heatTarget;
  const coolTarget = r_coolTarget;
  const radiantWeight = m_radiantWeight;
  const heatingMost = s_heatingMost;
  const heatingSlope = s_heatingSlope;
  const coolingSlope = s_coolingSlope;
  const coolingMost = s_coolingMost;
  const extraTarget = s_extraTarget;
  const extraMost = s_extraMost;
  const HEAT = MODE_HEAT;
  const HEAT_FULL = MODE_HEAT_FULL;
  const COOL = MODE_COOL;
  const COOL_FULL = MODE_COOL_FULL;
  const FREE = MODE_FREE;
  const FREE_FULL = MODE_FREE_FULL;
  const FREE_COOL = MODE_FREE_COOL;
  const FREE_COOL_FULL = MODE_FREE_COOL_FULL;
  const FLOAT = MODE_FLOAT;
  const outdoor = Weather.outdoor();
  const cp = Weather.cp();
  addAir();
  const limit = last ? zones + 3 : 0;
  let settled = false;
  let changed = -1;
  for (let round = 0; round <= limit && !settled; round++) {
    work.copy(values, 4 * p_blocks);
    solution.copy(rhs, 2 * zones);
    for (let z = 0; z < zones; z++) {
      let now = mode[z];
      if (now == FLOAT) continue;
      const na = 2 * z;
      const heat = heatTarget[z];
      const cool = coolTarget[z];
      if ((now == HEAT || now == HEAT_FULL) && heat != heat) {
        now = FLOAT;
        mode[z] = now;
      }
      if ((now == COOL || now == COOL_FULL) && cool != cool) {
        now = FLOAT;
        mode[z] = now;
      }
      if ((now == FREE_COOL || now == FREE_COOL_FULL) && cool != cool) {
        now = FREE_FULL;
        mode[z] = now;
      }
      if (held(now)) {
        const end = rowStart[z + 1];
        for (let e = rowStart[z]; e < end; e++) {
          const at = 4 * rowBlock[e];
          work[at] = 0;
          work[at + 1] = 0;
        }
        const w = radiantWeight[z];
        work[4 * z] = 1.0 - w;
        work[4 * z + 1] = w;
        solution[na] = now == HEAT ? heat : now == FREE ? extraTarget[z] : cool;
        continue;
      }
      if (fullAir(now)) {
        const c = cp * extraMost[z];
        work[4 * z] = work[4 * z] + c;
        solution[na] = solution[na] + c * outdoor;
      }
      if (now == HEAT_FULL) {
        work[4 * z] = work[4 * z] + heatingSlope[z];
        solution[na] = solution[na] + heatingMost[z];
      } else if (now == COOL_FULL || now == FREE_COOL_FULL) {
        work[4 * z] = work[4 * z] + coolingSlope[z];
        solution[na] = solution[na] - coolingMost[z];
      }
    }
    solve(last);
    settled = true;
    for (let z = 0; z < zones; z++) {
      const na = 2 * z;
      const now = mode[z];
      const air = solution[na];
      const sensed = air + radiantWeight[z] * (solution[na + 1] - air);
      const heat = heatTarget[z];
      const cool = coolTarget[z];
      const most = extraMost[z];
      let next = now;
      let power: f64 = 0;
      let extra: f64 = fullAir(now) ? most : 0.0;
      if (held(now)) {
        power = values[4 * z] * air + values[4 * z + 1] * solution[na + 1] - rhs[na];
        const end = rowStart[z + 1];
        for (let e = rowStart[z]; e < end; e++) {
          const at = 4 * rowBlock[e];
          const n = 2 * rowColumn[e];
          power += values[at] * solution[n] + values[at + 1] * solution[n + 1];
        }
        if (now == HEAT) next = power < -TOLERANCE ? FLOAT : power > heatingMost[z] - heatingSlope[z] * air ? HEAT_FULL : HEAT;
        else if (now == COOL) next = power > TOLERANCE ? FLOAT : -power > coolingMost[z] + coolingSlope[z] * air ? COOL_FULL : COOL;
        else if (now == FREE) {
          const needed = power / (cp * (outdoor - air));
          next = power > TOLERANCE ? FLOAT : !(air > outdoor) || needed > most ? FREE_FULL : FREE;
          if (next == FREE) extra = needed;
          power = 0;
        } else {
          power += cp * most * (air - outdoor);
          next = power > TOLERANCE ? FREE_FULL : -power > coolingMost[z] + coolingSlope[z] * air ? FREE_COOL_FULL : FREE_COOL;
        }
      } else if (now == HEAT_FULL) {
        power = heatingMost[z] - heatingSlope[z] * air;
        if (!(sensed < heat)) next = HEAT;
      } else if (now == COOL_FULL || now == FREE_COOL_FULL) {
        power = -(coolingMost[z] + coolingSlope[z] * air);
        if (!(sensed > cool)) next = now == COOL_FULL ? COOL : FREE_COOL;
      } else if (now == FREE_FULL) {
        if (s_extraKind[z] != EXTRA_WINDOWS && sensed > cool + TOLERANCE) next = FREE_COOL;
        else if (sensed < extraTarget[z] - TOLERANCE) next = FREE;
      } else if (sensed < heat - TOLERANCE) next = HEAT;
      else if (most > 0) {
        if (sensed > extraTarget[z] + TOLERANCE) next = FREE;
      } else if (sensed > cool + TOLERANCE) next = COOL;
      r_heating[z] = power > 0 ? power : 0.0;
      r_cooling[z] = power < 0 ? -power : 0.0;
      r_extraFlow[z] = extra;
      if (next != now) {
        settled = false;
        changed = z;
        if (round < limit || !last) mode[z] = next;
      }
    }
  }
  if (!settled && last && changed >= 0) k_unsettled[changed] = k_unsettled[changed] + 1;
  const airTemperature = r_airTemperature;
  const radiantTemperature = r_radiantTemperature;
  for (let z = 0; z < zones; z++) {
    airTemperature[z] = solution[2 * z];
    radiantTemperature[z] = solution[2 * z + 1];
  }
  rhs.clear(2 * zones);
}
