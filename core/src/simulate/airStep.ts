import { DIRECTIONS, roseAt } from "../airflow/index.ts";
import { pow } from "../numeric/index.ts";
import { TERM, type CompiledModel } from "./model.ts";
import { FLOW, FLOWS, WATER, WATERS } from "./catalogue.ts";
import { RULE_OF, type AirModel } from "./airModel.ts";
import type { AirState } from "./airState.ts";
import { TIE, type KernelState } from "./state.ts";
import { AIR } from "../services/index.ts";

const GAS = 287.042;
const GRAVITY = 9.81;
/** Share of a pass's new flows that is taken: flows by buoyancy answer temperatures by a root, and temperatures flows in return, so that two thirds settle soonest. */
const TAKEN = 2 / 3;
/** Openings open this far above their limit, K, and as a share of ppm; they close at it. */
const BAND = 0.5;
const CO2_BAND = 0.1;
/** Openings that cool open from a tenth, at their limit, to all of it this far above it, K: all at once they would overshoot and move every step. */
const RANGE = 2;
const LEAST_OPEN = 0.1;
/** Outdoors must be cooler than the room by this for an opening that cools to open, K. */
const LEAST_HELP = 0.5;
/** Openings that cool keep this far above the heating set-point, K. */
const ABOVE_HEATING = 0.5;
// constants of the module: a look-up by name in the loop costs
const BY_WINDOWS = RULE_OF["windows of the space"];
const BY_TEMPERATURE = RULE_OF.temperature;
const BY_DIFFERENCE = RULE_OF["temperature difference"];
const BY_CARBON_DIOXIDE = RULE_OF["carbon dioxide"];
const BY_SCHEDULE = RULE_OF.schedule;
const LEAKED = FLOW.infiltration;
const OPENED = FLOW.openedAir;
const WATER_LEAKED = WATER.infiltration;
const WATER_OPENED = WATER.openedAir;

/** Exchange through a level square opening with heavier air above (Epstein 1988), and the flow through it that ends the exchange (Cooper 1989), over √(g·Δρ/ρ·A²·√A); between them a line, ours. From memory, unverified. */
const LEVEL_EXCHANGE = 0.055;
const FLOODING_FLOW = 0.055 / 0.24;
/** Sweeps of carbon dioxide and age end at this, relative. */
const SWEPT = 1e-5;
const MOST_SWEEPS = 200;

/** Whether and how far every opening of the network stands open in the step, from the state at its start. */
export function airControl(m: CompiledModel, s: KernelState): void {
  const model = m.air;
  const a = s.air;
  if (model === null || a === null) return;
  const b = s.boundary;
  const r = s.record;
  const { network, open, wide } = a;
  const follow = 1 - pow(0.5, m.dt / 900);
  for (let i = 0; i < model.rule.length; i++) {
    const scheduled = s.scheduled[model.schedule[i]];
    if (model.crack[i] === 1) continue;
    if (model.fan[i] === 1) {
      network.open[i] = scheduled < 0 ? 0 : scheduled > 1 ? 1 : scheduled;
      continue;
    }
    const z = model.senses[i];
    const air = z < 0 ? b.outdoor : s.airStart[z];
    const sensed = z < 0 ? air : air + m.radiantWeight[z] * (r.radiantTemperature[z] - air);
    const was = open[i] === 1;
    const band = was ? -TIE : BAND + TIE;
    const limit = model.limit[i];
    const rule = model.rule[i];
    const heat = z < 0 ? NaN : r.heatTarget[z];
    // an outdoor opening that cools does so only with cooler air, and not down to where heating begins
    const helps = model.outdoors[i] === 0 || (b.outdoor < sensed - (was ? 0 : LEAST_HELP) - TIE && !(sensed < heat + ABOVE_HEATING + (was ? -TIE : BAND)));
    let wanted: boolean;
    let over = RANGE;
    let modulates = false;
    if (rule === BY_WINDOWS) {
      wanted = z >= 0 && windowsOf(m, s, z, sensed, was);
      modulates = true;
      if (wanted) over = sensed - windowTarget(m, s, z);
    } else if (rule === BY_TEMPERATURE) {
      wanted = sensed > limit + band && helps;
      modulates = true;
      over = sensed - limit;
    } else if (rule === BY_DIFFERENCE) {
      wanted = sensed - b.outdoor > limit + band && !(sensed < heat + ABOVE_HEATING + (was ? -TIE : BAND));
      modulates = true;
      over = sensed - b.outdoor - limit;
    } else if (rule === BY_CARBON_DIOXIDE) wanted = z >= 0 && a.carbonDioxide[z] > limit * (was ? 1 : 1 + CO2_BAND);
    else wanted = true;
    const bySchedule = rule === BY_SCHEDULE;
    const may =
      (bySchedule || scheduled >= 0.5) &&
      b.outdoor >= model.outdoorLeast[i] - (was ? BAND : 0) &&
      b.outdoor <= model.outdoorMost[i] + (was ? BAND : 0) &&
      b.wind <= model.windMost[i] * (was ? 1 + CO2_BAND : 1);
    open[i] = wanted && may ? 1 : 0;
    // from a tenth on toward what the room asks for, half of the way each quarter of an hour
    const asked = over >= RANGE ? 1 : over > LEAST_OPEN * RANGE ? over / RANGE : LEAST_OPEN;
    wide[i] = open[i] === 0 ? 0 : !modulates ? 1 : was ? wide[i] + follow * (asked - wide[i]) : LEAST_OPEN;
    const share = model.share[i] * wide[i] * (bySchedule ? Math.min(1, Math.max(0, scheduled)) : 1);
    network.open[i] = share > model.least[i] ? share : model.least[i];
  }
}

/** Temperature above which the windows of a zone open by its window inputs: never near the heating set-point. */
function windowTarget(m: CompiledModel, s: KernelState, z: number): number {
  const above = m.windowAbove[z];
  const heat = s.record.heatTarget[z];
  const floor = heat === heat ? heat + ABOVE_HEATING : -Infinity;
  return above > floor ? above : floor;
}

/** The window inputs of a zone, as the simple model takes them. */
function windowsOf(m: CompiledModel, s: KernelState, z: number, sensed: number, open: boolean): boolean {
  const b = s.boundary;
  const above = m.windowAbove[z];
  if (above !== above) return false;
  const cool = s.record.coolTarget[z];
  const target = windowTarget(m, s, z);
  return (
    sensed > (open ? target - TIE : target + BAND + TIE) &&
    s.scheduled[m.windowSchedule[z]] >= 0.5 &&
    b.outdoor >= m.windowOutdoor[z] &&
    !(b.outdoor > m.windowOutdoorMost[z]) &&
    !(sensed > m.windowIndoorMost[z] + (open ? TIE : -BAND)) &&
    b.wind <= m.windowWind[z] &&
    b.outdoor < sensed - (open ? 0 : LEAST_HELP) - TIE &&
    !(sensed > cool - BAND + TIE)
  );
}

/** Flows of a pass at the air of the pass before, into what the zones take from outdoors and from each other. */
export function airFlows(m: CompiledModel, s: KernelState, pass: number): void {
  const model = m.air;
  const a = s.air;
  if (model === null || a === null) return;
  // flows of the first pass serve until the last, whose temperatures are nearly those of the step
  if (pass > 0 && pass < m.passes - 1) return;
  const { zoneOf, passBack, passOn, crack, firstPass, from: starts, to: ends, height, level } = model;
  const { roses } = model.plan;
  const { network, forward, backward, leaked, opened } = a;
  const { density, pressure, forward: onward, backward: back } = network;
  const { airTemperature, humidityRatio } = s.record;
  const b = s.boundary;
  const rooms = zoneOf.length;
  const nodes = height.length;
  const links = starts.length;
  const outside = densityOf(b.outdoor, b.ratio, b.pressure);
  const dynamic = 0.5 * outside * b.wind * b.wind;
  for (let n = rooms; n < nodes; n++) {
    density[n] = outside;
    pressure[n] = dynamic * roseAt(roses, n * DIRECTIONS, b.windDirection) - outside * GRAVITY * height[n];
  }
  const exhaust = TERM.airLeakage * m.zones;
  for (let n = 0; n < rooms; n++) {
    const z = zoneOf[n];
    density[n] = densityOf(airTemperature[z], humidityRatio[z], b.pressure);
    // exhaust that is made up from wherever air comes in
    network.source[n] = -s.hourTerms[exhaust + z] * b.density;
  }
  if (s.step === 0 && pass === 0) for (let n = 0; n < rooms; n++) pressure[n] = -outside * GRAVITY * height[n];
  const solved = network.solve();
  if (solved.residual > a.worst) a.worst = solved.residual;
  if (!solved.converged && pass === m.passes - 1 && solved.node >= 0) {
    a.failures[zoneOf[solved.node]]++;
    if (a.firstFailure < 0) a.firstFailure = a.hour;
  }
  closeBalances(model, a, rooms);
  const share = pass === 0 ? 1 : TAKEN;
  for (let i = 0; i < links; i++) {
    forward[i] += share * (onward[i] - forward[i]);
    backward[i] += share * (back[i] - backward[i]);
    if (level[i] !== 0) exchangeLevel(model, a, i);
  }
  leaked.fill(0);
  opened.fill(0);
  const { passNow } = s;
  for (let p = firstPass; p < passNow.length; p++) passNow[p] = 0;
  for (let i = 0; i < links; i++) {
    const from = starts[i];
    const to = ends[i];
    if (passOn[i] >= 0) {
      passNow[passOn[i]] += forward[i];
      passNow[passBack[i]] += backward[i];
    } else {
      const z = zoneOf[from < rooms ? from : to];
      const q = from < rooms ? backward[i] : forward[i];
      if (crack[i] === 1) leaked[z] += q;
      else opened[z] += q;
    }
  }
  for (let n = 0; n < rooms; n++) {
    const z = zoneOf[n];
    s.infiltrationFlow[z] = leaked[z] + opened[z];
  }
}

/** Density of moist air, kg/m³ (ideal gas; of dry air and vapour). */
function densityOf(t: number, ratio: number, pressure: number): number {
  return (pressure / (GAS * (t + 273.15))) * ((1 + ratio) / (1 + 1.607858 * ratio));
}

/** What the solution leaves of each node's balance goes through one of its links, from the ends of the tree to outdoors: then no air is made or lost. */
function closeBalances({ closing, from, to }: AirModel, a: AirState, rooms: number): void {
  const { network, residual } = a;
  const { forward, backward, source } = network;
  for (let n = 0; n < rooms; n++) residual[n] = source[n];
  for (let i = 0; i < from.length; i++) {
    const net = forward[i] - backward[i];
    residual[from[i]] -= net;
    residual[to[i]] += net;
  }
  for (let k = 0; k < closing.node.length; k++) {
    const node = closing.node[k];
    const link = closing.link[k];
    const gained = residual[node];
    residual[node] = 0;
    residual[closing.other[k]] += gained;
    // what the node gained too much leaves through the link
    const out = from[link] === node ? gained : -gained;
    if (out >= 0) forward[link] += out;
    else backward[link] -= out;
  }
}

/** Air that changes places through a level opening with the heavier air above, less as a pressure drives air through it. */
function exchangeLevel({ plan, level }: AirModel, a: AirState, i: number): void {
  const { network, forward, backward } = a;
  const l = plan.links[i];
  if (l.kind !== "orifice" || network.open[i] <= 0) return;
  const [first, second] = [network.density[l.from], network.density[l.to]];
  const heavier = level[i] * (second - first);
  if (heavier <= 0) return;
  const area = l.area * network.open[i];
  const width = Math.sqrt(area);
  const mean = 0.5 * (first + second);
  const driven = Math.sqrt((GRAVITY * heavier * area * area * width) / mean);
  const through = Math.abs(forward[i] - backward[i]) / mean;
  const flood = FLOODING_FLOW * driven;
  const left = through < flood ? 1 - through / flood : 0;
  const q = mean * LEVEL_EXCHANGE * driven * left;
  const base = Math.min(forward[i], backward[i]);
  if (q > base) {
    forward[i] += q - base;
    backward[i] += q - base;
  }
}

/** What the nodes gain by the flows that the zones were solved with, and what passes them. */
function tellClosure({ from, to }: AirModel, a: AirState, rooms: number): void {
  const { network, residual, forward, backward } = a;
  for (let n = 0; n < rooms; n++) residual[n] = network.source[n];
  a.flowed = 0;
  for (let i = 0; i < forward.length; i++) {
    const net = forward[i] - backward[i];
    residual[from[i]] -= net;
    residual[to[i]] += net;
    a.flowed += forward[i] + backward[i];
  }
  a.lost = 0;
  for (let n = 0; n < rooms; n++) a.lost += Math.abs(residual[n]);
}

/** After the books: what came through openings is told apart from what leaked, and the flows carry carbon dioxide and age. */
export function airAfter(m: CompiledModel, s: KernelState): void {
  const model = m.air;
  const a = s.air;
  if (model === null || a === null) return;
  const { flows, flowSum, water, waterSum, extraFlow } = s.record;
  const b = s.boundary;
  for (let n = 0; n < model.zoneOf.length; n++) {
    const z = model.zoneOf[n];
    const all = s.infiltrationFlow[z];
    const share = all > 0 ? a.opened[z] / all : 0;
    if (share > 0) {
      const q = share * flows[z * FLOWS + LEAKED];
      flows[z * FLOWS + LEAKED] -= q;
      flows[z * FLOWS + OPENED] += q;
      flowSum[z * FLOWS + LEAKED] -= q;
      flowSum[z * FLOWS + OPENED] += q;
      const w = share * water[z * WATERS + WATER_LEAKED];
      water[z * WATERS + WATER_LEAKED] -= w;
      water[z * WATERS + WATER_OPENED] += w;
      waterSum[z * WATERS + WATER_LEAKED] -= w;
      waterSum[z * WATERS + WATER_OPENED] += w;
    }
    extraFlow[z] += a.opened[z];
    s.infiltrationFlow[z] = a.leaked[z];
  }
  tellClosure(model, a, model.zoneOf.length);
  carry(m, s, model, a, b.density);
}

/** Carbon dioxide and age of the air of all zones at the end of the step, backward Euler, by sweeps. */
function carry(m: CompiledModel, s: KernelState, model: AirModel, a: AirState, density: number): void {
  const { zones, dt, zoneVolume } = m;
  const { carbonDioxide, age, diagonal, right, rightAge, sources } = a;
  const { passNow, infiltrationFlow, airFlow, airIn } = s;
  const { extraFlow } = s.record;
  const out = model.outdoorCarbonDioxide;
  sources.fill(0);
  for (let i = 0; i < model.sources.length; i++) {
    const x = model.sources[i];
    sources[x.zone] += x.flow * s.scheduled[x.row];
  }
  const systems = m.services !== null;
  for (let z = 0; z < zones; z++) {
    const mass = (zoneVolume[z] * m.airDensity) / dt;
    const fresh = infiltrationFlow[z] + extraFlow[z] + airFlow[z];
    const given = airIn[z];
    diagonal[z] = mass + fresh + given;
    // m³ of gas among m³ of air, in millionths; every second the air grows a second older
    right[z] = mass * carbonDioxide[z] + fresh * out + sources[z] * density * 1e6 + (systems ? given * mixed(m, s, z, carbonDioxide, out) : 0);
    rightAge[z] = mass * age[z] + mass * dt + (systems ? given * mixed(m, s, z, age, 0) : 0);
  }
  for (let p = 0; p < passNow.length; p++) {
    diagonal[m.passZone0[p]] += passNow[p] * m.passWeight0[p];
    diagonal[m.passZone1[p]] += passNow[p] * m.passWeight1[p];
  }
  sweep(m, s, carbonDioxide, diagonal, right, a.scratch);
  sweep(m, s, age, diagonal, rightAge, a.scratch);
}

/** Gauss–Seidel over zones with what passes between them. */
function sweep(m: CompiledModel, s: KernelState, value: Float64Array, diagonal: Float64Array, right: Float64Array, sum: Float64Array): void {
  const { passNow } = s;
  const { passZone0, passZone1, passWeight0, passWeight1, zones } = m;
  for (let round = 0; round < MOST_SWEEPS; round++) {
    for (let z = 0; z < zones; z++) sum[z] = right[z];
    for (let p = 0; p < passNow.length; p++) {
      sum[passZone0[p]] += passNow[p] * passWeight0[p] * value[passZone1[p]];
      sum[passZone1[p]] += passNow[p] * passWeight1[p] * value[passZone0[p]];
    }
    let moved = 0;
    let size = 1e-12;
    for (let z = 0; z < zones; z++) {
      const next = sum[z] / diagonal[z];
      const d = Math.abs(next - value[z]);
      if (d > moved) moved = d;
      if (next > size) size = next;
      value[z] = next;
    }
    if (moved <= SWEPT * size) return;
  }
}

/** Of the air systems blow into a zone: outdoor air, and what the zones of the system gave back a step ago. */
function mixed(m: CompiledModel, s: KernelState, z: number, of: Float64Array, fresh: number): number {
  const v = s.services;
  if (m.services === null || v === null || s.airIn[z] <= 0) return fresh;
  let flow = 0;
  let sum = 0;
  for (const d of m.services.ofZone[z]) {
    const x = m.services.devices[d];
    if (x.kind !== "terminal" || v.flow[d] <= 0) continue;
    const air = v.air[x.system];
    const share = air[AIR.FLOW] > 0 ? Math.min(1, air[AIR.OUTDOOR_FLOW] / air[AIR.FLOW]) : 1;
    let back = 0;
    let weight = 0;
    for (let e = 0; e < m.services.devices.length; e++) {
      const y = m.services.devices[e];
      if (y.kind !== "terminal" || y.system !== x.system) continue;
      back += v.flow[e] * of[y.zone];
      weight += v.flow[e];
    }
    sum += v.flow[d] * (share * fresh + (1 - share) * (weight > 0 ? back / weight : fresh));
    flow += v.flow[d];
  }
  return flow > 0 ? sum / flow : fresh;
}
