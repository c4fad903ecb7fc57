import { balancePressure, crackFlow, leakageFlow, openingFlow, outsidePressures } from "../airflow/index.ts";
import { gapConductance } from "../fabric/index.ts";
import { resetAt } from "../model/index.ts";
import { GLASS_NODES, TERM, type CompiledModel } from "./model.ts";
import { EXTRA, MODE, TIE, type KernelState } from "./state.ts";

/** Where a zone has no cooling set-point, recovery stops this far above the heating one, K: typical, unverified. */
const HALF_BAND = 2;
/** Where it has neither, recovery works toward this, °C: typical, unverified. */
const FREE_MIDDLE = 22;
/** Windows open this far above their limit and close below it, K. */
const WINDOW_BAND = 0.5;
/** Outdoors must be cooler than the zone by this for extra air to help, K. */
const LEAST_HELP = 0.5;
/** Windows and night air keep this far above the heating set-point, K. */
const ABOVE_HEATING = 0.5;
/** A lowered blind goes up again below this share of its limit; one lowered by temperature, this far under it, K. */
const BLIND_RELEASE = 0.8;
const BLIND_BAND = 0.5;
/** Sun at which a blind lowered by temperature is worth lowering, W/m²: typical, unverified. */
const LEAST_SUN = 50;
/** Learned warming rates stay between these, K/h: typical, unverified. */
const LEAST_RATE = 0.2;
const MOST_RATE = 24;
/** A set-point counts as reached this near to it, K: ours. */
const REACHED = 0.1;
/** In place of the step an early start began in: its rate is learned. */
const LEARNED = -1;

/** Discrete states of the step, from the state at its start: set-points, recovery, leakage, extra air. Blinds come before the sun, by themselves. */
export function control(m: CompiledModel, s: KernelState, hour: number, k: number): void {
  const r = s.record;
  const b = s.boundary;
  const t = s.hourTerms;
  const { zones, onAir, conditioning, radiantWeight, occupancy, recoverySensible, recoveryFrost } = m;
  const { heatingSetpoint, heatingSetback, coolingSetpoint, coolingSetback } = s;
  const { scheduled, airStart, startKind, airFlow, airSupply, airRecovered, infiltrationFlow } = s;
  const { airTemperature, radiantTemperature, heatTarget, coolTarget, occupied, counted } = r;
  const outdoorAir = TERM.outdoorAir * zones;
  const airLeakage = TERM.airLeakage * zones;
  const { outdoor, density, supplyDensity } = b;
  const { optimumStart, mayOpen } = m;
  const { extraKind, extraMost } = s;
  for (const signal of m.setpointSignals) {
    // the row of a signal that is driven is NaN where it falls back to its reset
    const value = signal.schedule < 0 ? NaN : scheduled[signal.schedule];
    s[signal.field][signal.zone] = value === value || signal.reset === null ? value : resetAt(signal.reset, outdoor);
  }
  for (let z = 0; z < zones; z++) {
    const inUse = scheduled[conditioning[z]] >= 0.5;
    const air = airTemperature[z];
    airStart[z] = air;
    const sensed = air + radiantWeight[z] * (radiantTemperature[z] - air);
    const early = !inUse && optimumStart[z] > 0 && startsEarly(m, s, z, hour, k, sensed);
    if (inUse && startKind[z] !== 0) {
      learnRate(s, z, sensed);
      startKind[z] = 0;
    }
    const wanted = inUse || early;
    s.inUse[z] = wanted ? 1 : 0;
    const heat = wanted ? heatingSetpoint[z] : heatingSetback[z];
    const cool = wanted ? coolingSetpoint[z] : coolingSetback[z];
    heatTarget[z] = heat;
    coolTarget[z] = cool;
    const present = occupancy[z] >= 0 && scheduled[occupancy[z]] > 0;
    occupied[z] = present ? 1 : 0;
    counted[z] = present || inUse ? 1 : 0;
    // recovery runs when it brings the supply toward the band between the set-points
    const heated = heat === heat;
    const cooled = cool === cool;
    const middle = heated ? (cooled ? 0.5 * (heat + cool) : heat + HALF_BAND) : FREE_MIDDLE;
    const useful = outdoor < air ? air < middle - TIE : air > middle + TIE;
    airFlow[z] = onAir[z] === 1 ? 0 : t[outdoorAir + z] * supplyDensity;
    airSupply[z] = useful ? recoverySensible[z] : 0;
    airRecovered[z] = 1;
    // exhaust leaves the exchanger at air − ε·(air − outdoor), and is kept above the frost limit
    const spare = air - recoveryFrost[z];
    if (airSupply[z] * (air - outdoor) > spare) {
      const held = Math.max(0, spare / (air - outdoor));
      airRecovered[z] = held / airSupply[z];
      airSupply[z] = held;
    }
    infiltrationFlow[z] = t[airLeakage + z] * density;
    if (mayOpen[z] === 1) extraAir(m, s, z);
    else {
      extraKind[z] = EXTRA.NONE;
      extraMost[z] = 0;
    }
  }
  for (const l of m.leaks)
    s.infiltrationFlow[l.zone] += leakageFlow(l.size, m.leak, r.airTemperature[l.zone] - outdoor, b.wind) * scheduled[l.schedule] * density;
  if (m.facadeLeaks.length > 0) facadeLeakage(m, s);
  for (let p = 0; p < m.passFlow.length; p++) s.passNow[p] = m.passFlow[p] * s.scheduled[m.passSchedule[p]] * supplyDensity;
}

/**
 * Air that leaks in through the façades, kg/s, on top of the rest: the air inside has one pressure, at which as much leaves as
 * enters, so that faces to windward and low ones let air in and the others let it out.
 */
function facadeLeakage(m: CompiledModel, s: KernelState): void {
  const { placeSize, placePressure, insidePressure, infiltrationFlow, scheduled } = s;
  const { airTemperature } = s.record;
  const b = s.boundary;
  placeSize.fill(0);
  let all = 0;
  let warmth = 0;
  for (const l of m.facadeLeaks) {
    const size = l.size * scheduled[l.schedule];
    placeSize[l.place] += size;
    all += size;
    warmth += size * airTemperature[l.zone];
  }
  if (all <= 0) return;
  outsidePressures(m.leakPlaces, b.wind, b.windDirection, b.outdoor, warmth / all, b.density, placePressure);
  insidePressure[0] = balancePressure(placeSize, placePressure, insidePressure[0]);
  for (let p = 0; p < placePressure.length; p++) placePressure[p] = Math.max(0, crackFlow(placePressure[p] - insidePressure[0]));
  for (const l of m.facadeLeaks) infiltrationFlow[l.zone] += l.size * scheduled[l.schedule] * placePressure[l.place] * b.density;
}

/** Whether a zone out of use begins now to meet its set-point when use begins. */
function startsEarly(m: CompiledModel, s: KernelState, z: number, hour: number, k: number, sensed: number): boolean {
  const left = s.untilUse[m.conditioning[z]][hour] - k / m.stepsPerHour;
  if (!(left <= m.optimumStart[z])) {
    s.startKind[z] = 0;
    return false;
  }
  const under = s.startKind[z];
  if (under !== 0) {
    // the rate is that of the way to the set-point, not of the wait for use at it
    if (under === 1 ? sensed >= s.heatingSetpoint[z] - REACHED : sensed <= s.coolingSetpoint[z] + REACHED) learnRate(s, z, sensed);
    return true;
  }
  const cold = s.heatingSetpoint[z] - sensed;
  const warm = sensed - s.coolingSetpoint[z];
  const kind = cold > 0 ? 1 : warm > 0 ? 2 : 0;
  if (kind === 0) return false;
  const need = kind === 1 ? cold / s.rateHeat[z] : warm / s.rateCool[z];
  // from a setback that was held to a set-point reached on the hour, need is whole steps within rounding
  if (left > need + TIE) return false;
  s.startKind[z] = kind;
  s.startFrom[z] = sensed;
  s.startAt[z] = s.step;
  return true;
}

/** Takes what an early start achieved into the rate, half and half with what was known, once: when the set-point is reached, or else when use begins. */
function learnRate(s: KernelState, z: number, sensed: number): void {
  if (s.startAt[z] === LEARNED) return;
  const hours = (s.step - s.startAt[z]) * s.stepHours;
  if (hours > 0) {
    const achieved = Math.abs(sensed - s.startFrom[z]) / hours;
    const rate = s.startKind[z] === 1 ? s.rateHeat : s.rateCool;
    rate[z] = Math.max(LEAST_RATE, Math.min(MOST_RATE, 0.5 * (rate[z] + achieved)));
  }
  s.startAt[z] = LEARNED;
}

/** Extra outdoor air a zone may take in this step: night ventilation, else windows, else free cooling. */
function extraAir(m: CompiledModel, s: KernelState, z: number): void {
  const b = s.boundary;
  const air = s.airStart[z];
  const sensed = air + m.radiantWeight[z] * (s.record.radiantTemperature[z] - air);
  const heat = s.record.heatTarget[z];
  const cool = s.record.coolTarget[z];
  s.extraKind[z] = EXTRA.NONE;
  s.extraMost[z] = 0;
  const floor = heat === heat ? heat + ABOVE_HEATING : -Infinity;
  const helps = b.outdoor < sensed - LEAST_HELP - TIE;
  if (m.nightFlow[z] > 0 && s.scheduled[m.nightSchedule[z]] >= 0.5) {
    const limit = m.nightAbove[z];
    // it holds the warmer of its own limit and the heating set-point, but no more than cooling would; with neither it runs whatever the temperatures are
    const least = limit === limit ? Math.max(limit, floor) : floor;
    const target = cool < least ? cool : least;
    if (least === -Infinity || (helps && sensed > target - TIE)) {
      s.extraKind[z] = EXTRA.NIGHT;
      s.extraMost[z] = m.nightFlow[z] * b.density;
      s.extraTarget[z] = target;
      return;
    }
  }
  const above = m.windowAbove[z];
  if (above === above && m.windows[z].length > 0) {
    const target = Math.max(above, floor);
    const open = s.windowsOpen[z] === 1;
    const warm = sensed > (open ? target - TIE : target + WINDOW_BAND + TIE);
    const allowed =
      s.scheduled[m.windowSchedule[z]] >= 0.5 &&
      b.outdoor >= m.windowOutdoor[z] &&
      !(b.outdoor > m.windowOutdoorMost[z]) &&
      !(sensed > m.windowIndoorMost[z] + (open ? TIE : -WINDOW_BAND)) &&
      b.wind <= m.windowWind[z] &&
      b.outdoor < sensed - (open ? 0 : LEAST_HELP) - TIE &&
      // near the cooling set-point it is closed, so that cooling takes over before it is passed and the two never work at once
      !(sensed > cool - WINDOW_BAND + TIE);
    if (warm && allowed) {
      s.windowsOpen[z] = 1;
      s.extraKind[z] = EXTRA.WINDOWS;
      s.extraMost[z] = openingFlow(m.windows[z], sensed, b.outdoor, b.wind, b.windDirection) * b.density;
      s.extraTarget[z] = target;
      return;
    }
    s.windowsOpen[z] = 0;
  }
  if (m.freeFlow[z] > 0 && cool === cool && b.outdoor < cool - LEAST_HELP) {
    s.extraKind[z] = EXTRA.FREE_COOLING;
    s.extraMost[z] = m.freeFlow[z] * b.density;
    s.extraTarget[z] = cool;
  }
}

/** Modes that can be from the last step on, under this step's extra air. */
export function startModes(m: CompiledModel, s: KernelState): void {
  const { mode } = s;
  for (let z = 0; z < m.zones; z++) {
    const kind = s.extraKind[z];
    const now = mode[z];
    if (kind === EXTRA.NONE) {
      if (now === MODE.FREE_COOL) mode[z] = MODE.COOL;
      else if (now === MODE.FREE_COOL_FULL) mode[z] = MODE.COOL_FULL;
      else if (now >= MODE.FREE) mode[z] = MODE.FLOAT;
    } else {
      if (now === MODE.COOL || now === MODE.COOL_FULL) mode[z] = kind === EXTRA.WINDOWS ? MODE.FREE_FULL : now + 4;
      else if ((now === MODE.FREE_COOL || now === MODE.FREE_COOL_FULL) && kind === EXTRA.WINDOWS) mode[z] = MODE.FREE_FULL;
      if (s.extraTarget[z] === -Infinity && mode[z] < MODE.FREE_FULL) mode[z] = MODE.FREE_FULL;
    }
  }
}

/** Blinds by their control, from the sun and the room of the step before. */
export function blinds(m: CompiledModel, s: KernelState): void {
  if (!m.anyBlind) return;
  const r = s.record;
  for (let i = m.groundEnd; i < m.exterior; i++) {
    const j = i - m.groundEnd;
    const spec = m.glassSpecs[m.glassOf[j]];
    if (!spec.hasBlind) continue;
    const down = s.blindDown[j] === 1;
    let next: boolean;
    if (spec.control === 0) next = r.incident[i] > (down ? BLIND_RELEASE : 1) * spec.threshold;
    else if (spec.control === 1)
      next = r.airTemperature[m.zone1[i]] > spec.threshold + (down ? -BLIND_BAND - TIE : TIE) && r.incident[i] > (down ? BLIND_RELEASE : 1) * LEAST_SUN;
    else if (spec.control === 2) next = s.scheduled[spec.schedule] >= 0.5;
    else next = true;
    if (next !== down) {
      s.blindDown[j] = next ? 1 : 0;
      glassChain(m, s, j);
    }
  }
}

/** Conductance of a window's chain and the share of each node's heat that goes inward; gaps follow the temperatures of the last pass. */
export function glassChain(m: CompiledModel, s: KernelState, j: number): void {
  const i = j + m.groundEnd;
  const spec = m.glassSpecs[m.glassOf[j]];
  const state = s.blindDown[j];
  const nodes = spec.nodes[state];
  const at = GLASS_NODES * j;
  let whole = 0;
  const resistance = CHAIN;
  const known = s.glassG[j];
  const flow = known * (s.tout[i] - s.tin[i]);
  let outer = s.tout[i];
  for (let g = 0; g + 1 < nodes; g++) {
    const gap = spec.gaps[state][g];
    let rg = 1 / spec.conductance[state][g];
    if (gap && known > 0) {
      // temperatures of the sides as the flow of the last pass leaves them, with the sun absorbed so far outside of here
      let q = flow;
      for (let node = 0; node < nodes; node++)
        q += node <= g ? s.glassHeat[at + node] * s.glassShareIn[at + node] : -s.glassHeat[at + node] * (1 - s.glassShareIn[at + node]);
      const inner = outer - q * rg;
      rg = 1 / gapConductance(gap, outer, inner, m.glassTilt[j], m.glassHeight[j]) + spec.beside[state][g];
      outer -= q * rg;
    } else outer -= flow * rg;
    resistance[g] = rg;
    whole += rg;
  }
  s.glassG[j] = 1 / whole;
  let before = 0;
  for (let node = 0; node < nodes; node++) {
    s.glassShareIn[at + node] = before / whole;
    if (node + 1 < nodes) before += resistance[node];
  }
}
const CHAIN = new Float64Array(GLASS_NODES);
