import { STEFAN_BOLTZMANN } from "../climate/index.ts";
import { quickCbrt } from "../numeric/index.ts";
import { glassChain } from "./control.ts";
import { WIND, type CompiledModel, type FullExchange } from "./model.ts";
import type { KernelState } from "./state.ts";

const FOUR_SIGMA = 4 * STEFAN_BOLTZMANN;
/** Least natural film, W/m²K: typical, unverified. */
const LEAST_FILM = 0.1;
/** Full exchange is settled when no face changes by more than this between passes, W/m². */
const SETTLED = 0.01;

/** Convection with the quick cube root and a least film, so that still air does not insulate fully. @see naturalConvection */
function film(difference: number, warm: number, cold: number): number {
  const h = difference > 0 ? warm * quickCbrt(difference) : cold * quickCbrt(-difference);
  return h < LEAST_FILM ? LEAST_FILM : h;
}

/** Forced outside films of the step: whole to windward, half to leeward, which is more than 100° off the wind (Walton 1983). */
function forcedFilms(m: CompiledModel, s: KernelState): void {
  const { forced } = s;
  const b = s.boundary;
  if (m.wind === WIND.NONE) return;
  if (m.wind === WIND.PLAIN) {
    for (let i = 0; i < m.exterior; i++) forced[i] = m.forced[i] * b.wind;
    return;
  }
  const rootWind = Math.sqrt(b.wind);
  const { classAzimuth, orientation, facing0 } = m;
  for (let i = 0; i < m.exterior; i++) {
    if (i === m.opaqueEnd) i = m.groundEnd;
    if (i >= m.exterior) break;
    const turn = b.windDirection - classAzimuth[orientation[i]];
    const offset = Math.abs(turn - 360 * Math.round(turn / 360));
    const leeward = facing0[i] < 0.98 && offset > 100 ? 0.5 : 1;
    forced[i] = m.forced[i] * leeward * rootWind;
  }
}

/** Part of the step-mean face temperatures that comes from the states alone; between steps the walk of the books keeps it. */
export function stateTemperatures(m: CompiledModel, s: KernelState): void {
  const { modeStart, meanPort0, meanPort1 } = m;
  const { a, p0, p1 } = s;
  for (let i = 0; i < m.elements; i++) {
    let x = 0;
    let y = 0;
    for (let k = modeStart[i]; k < modeStart[i + 1]; k++) {
      x += meanPort0[k] * a[k];
      y += meanPort1[k] * a[k];
    }
    p0[i] = x;
    p1[i] = y;
  }
}

/** The same part of this step that comes from the heat of embedded circuits. */
export function circuitTemperatures(m: CompiledModel, s: KernelState): void {
  for (let c = 0; c < m.circuits.length; c++) {
    const i = m.circuits[c];
    const q = s.circuitHeat[i];
    if (q === 0) continue;
    s.p0[i] += m.circuit0[i] * q;
    s.p1[i] += m.circuit1[i] * q;
  }
}

/** Melting walls about their present temperatures. */
function meltingPorts(m: CompiledModel, s: KernelState): void {
  for (let w = 0; w < s.melting.length; w++) {
    const i = m.meltings[w].element;
    const wall = s.melting[w];
    wall.linearise();
    s.p0[i] = wall.port.p0;
    s.p1[i] = wall.port.p1;
    s.direct00[i] = wall.port.d00;
    s.direct01[i] = wall.port.d01;
    s.direct11[i] = wall.port.d11;
  }
}

/**
 * What full grey exchange adds to the mean-radiant network, W/m² at each face: exchange of all pairs at the
 * temperatures of the last pass less what the network gives there. It sums to nothing over a zone.
 */
function correctExchange(m: CompiledModel, s: KernelState, f: FullExchange, last: boolean): void {
  const { members, zone } = f;
  const n = members.length;
  const { area } = m;
  const { emitted, received, tin, tout, hr0, hr1, correction0, correction1, s0, s1, room0, room1 } = s;
  const radiant = s.record.radiantTemperature[zone];
  for (let i = 0; i < n; i++) {
    const e = members[i] >> 1;
    const t = (members[i] & 1 ? tin[e] : tout[e]) + 273.15;
    emitted[i] = STEFAN_BOLTZMANN * t * t * t * t;
  }
  exchanged(f, emitted, received);
  let sum = 0;
  let whole = 0;
  let moved = 0;
  for (let i = 0; i < n; i++) {
    const e = members[i] >> 1;
    const size = area[e];
    const inner = (members[i] & 1) === 1;
    const c = received[i] / size - (inner ? hr1[e] * (radiant - tin[e]) : hr0[e] * (radiant - tout[e]));
    const change = Math.abs(c - (inner ? correction1[e] : correction0[e]));
    if (change > moved) moved = change;
    received[i] = c;
    sum += c * size;
    whole += size;
  }
  // radiant gains reach the faces through the network; the correction itself moves heat only between them
  const off = sum / whole;
  for (let i = 0; i < n; i++) {
    const e = members[i] >> 1;
    const c = received[i] - off;
    // the correction is part of what each face takes up from the room, in place of what was there before
    if (members[i] & 1) {
      const more = c - correction1[e];
      s1[e] += more;
      room1[e] += more;
      correction1[e] = c;
    } else {
      const more = c - correction0[e];
      s0[e] += more;
      room0[e] += more;
      correction0[e] = c;
    }
  }
  if (last && moved - Math.abs(off) > SETTLED) s.books.unconverged[zone]++;
}

/** What each member receives net from all others, W. Four rows at a time: one sum by itself waits for each of its own additions. */
function exchanged({ members, exchange }: FullExchange, emitted: Float64Array, received: Float64Array): void {
  const n = members.length;
  let i = 0;
  for (; i + 3 < n; i += 4) {
    const r0 = i * n;
    const r1 = r0 + n;
    const r2 = r1 + n;
    const r3 = r2 + n;
    const e0 = emitted[i];
    const e1 = emitted[i + 1];
    const e2 = emitted[i + 2];
    const e3 = emitted[i + 3];
    let q0 = 0;
    let q1 = 0;
    let q2 = 0;
    let q3 = 0;
    for (let j = 0; j < n; j++) {
      const e = emitted[j];
      q0 += exchange[r0 + j] * (e - e0);
      q1 += exchange[r1 + j] * (e - e1);
      q2 += exchange[r2 + j] * (e - e2);
      q3 += exchange[r3 + j] * (e - e3);
    }
    received[i] = q0;
    received[i + 1] = q1;
    received[i + 2] = q2;
    received[i + 3] = q3;
  }
  for (; i < n; i++) {
    let q = 0;
    for (let j = 0; j < n; j++) q += exchange[i * n + j] * (emitted[j] - emitted[i]);
    received[i] = q;
  }
}

/** Before a pass: what only some buildings have. Walls that melt, exchange of all faces of a zone, gaps that answer temperature. */
export function readyPass(m: CompiledModel, s: KernelState, pass: number): void {
  if (s.melting.length > 0) meltingPorts(m, s);
  if (m.full.length > 0 && pass === 0 && s.sunAnew) {
    s.correction0.fill(0);
    s.correction1.fill(0);
    s.sunAnew = false;
  }
  for (let f = 0; f < m.full.length; f++) correctExchange(m, s, m.full[f], pass === m.passes - 1);
  if (m.variableGlass) answeringGlass(m, s);
}

/** After a pass: melting walls settle with the heat of the faces' temperatures. */
export function settlePass(m: CompiledModel, s: KernelState): void {
  const { tin, tout } = s;
  for (let w = 0; w < s.melting.length; w++) {
    const i = m.meltings[w].element;
    s.melting[w].settle(inputOutside(m, s, i) + m.nominal0[i] * tout[i], inputInside(m, s, i) + m.nominal1[i] * tin[i]);
  }
}

/**
 * Films from the last pass, then each element closed to its zones' nodes, summed into the zone system. Films
 * and closures are walks of their own: short bodies over a few arrays run nearly twice as fast as one long one.
 */
export function coefficients(m: CompiledModel, s: KernelState, first: boolean, anew: boolean): void {
  s.values.fill(0);
  if (first) {
    forcedFilms(m, s);
    groundDrive(m, s, s.boundary.month);
  }
  if (anew) {
    insideFilms(m, s);
    if (m.naturalOutside) {
      naturalFilms(m, s, 0, m.opaqueEnd);
      naturalFilms(m, s, m.groundEnd, m.exterior);
    }
  }
  outsideFilms(m, s, 0, m.opaqueEnd);
  outsideFilms(m, s, m.groundEnd, m.exterior);
  closeMassive(m, s);
  closeGlass(m, s);
  closePartitions(m, s);
}

/** Convection and long-wave at every inside surface. */
function insideFilms(m: CompiledModel, s: KernelState): void {
  const { zone0, zone1, exchange0, exchange1, exterior, elements } = m;
  const { hc0, hr0, hc1, hr1, tin, tout } = s;
  const air = s.record.airTemperature;
  const radiant = s.record.radiantTemperature;
  for (let i = 0; i < elements; i++) {
    const mean = 0.5 * (tin[i] + radiant[zone1[i]]) + 273.15;
    hr1[i] = FOUR_SIGMA * exchange1[i] * mean * mean * mean;
  }
  for (let i = exterior; i < elements; i++) {
    const mean = 0.5 * (tout[i] + radiant[zone0[i]]) + 273.15;
    hr0[i] = FOUR_SIGMA * exchange0[i] * mean * mean * mean;
  }
  if (m.naturalInside) {
    const { warm0, cold0, warm1, cold1 } = m;
    for (let i = 0; i < elements; i++) hc1[i] = film(tin[i] - air[zone1[i]], warm1[i], cold1[i]);
    for (let i = exterior; i < elements; i++) hc0[i] = film(tout[i] - air[zone0[i]], warm0[i], cold0[i]);
    return;
  }
  const { steadyWarm0, steadyCold0, steadyWarm1, steadyCold1 } = m;
  for (let i = 0; i < elements; i++) hc1[i] = tin[i] > air[zone1[i]] ? steadyWarm1[i] : steadyCold1[i];
  for (let i = exterior; i < elements; i++) hc0[i] = tout[i] > air[zone0[i]] ? steadyWarm0[i] : steadyCold0[i];
}

/** Natural convection at outside faces from `first` to `end`. */
function naturalFilms(m: CompiledModel, s: KernelState, first: number, end: number): void {
  const { outdoor } = s.boundary;
  const { warm0, cold0 } = m;
  const { natural, tout } = s;
  for (let i = first; i < end; i++) natural[i] = film(tout[i] - outdoor, warm0[i], cold0[i]);
}

/** Convection and long-wave with sky and air at outside faces from `first` to `end`. */
function outsideFilms(m: CompiledModel, s: KernelState, first: number, end: number): void {
  const { outdoor, sky: skyTemperature } = s.boundary;
  const { steadyWarm0, steadyCold0, naturalOutside, emissivity0, skyView } = m;
  const { forced, natural, ho, drive, tout } = s;
  const sky = skyTemperature + 273.15;
  const sky2 = sky * sky;
  const out = outdoor + 273.15;
  const out2 = out * out;
  for (let i = first; i < end; i++) {
    const to = tout[i];
    const d = to - outdoor;
    const hv = forced[i] + (naturalOutside ? natural[i] : d > 0 ? steadyWarm0[i] : steadyCold0[i]);
    const ts = to + 273.15;
    const ts2 = ts * ts;
    const e = emissivity0[i] * STEFAN_BOLTZMANN;
    // part of the sky seen near the horizon radiates as air does (Walton 1983: β = √F)
    const seen = skyView[i];
    const hs = e * seen * (ts2 + sky2) * (ts + sky);
    const near = hv + e * (1 - seen) * (ts2 + out2) * (ts + out);
    ho[i] = near + hs;
    drive[i] = near * outdoor + hs * skyTemperature;
  }
}

/** The ground's monthly temperature behind its conductance. */
function groundDrive(m: CompiledModel, s: KernelState, month: number): void {
  for (let i = m.opaqueEnd; i < m.groundEnd; i++) {
    const h = m.groundConductance[i];
    s.ho[i] = h;
    s.drive[i] = h * m.groundTemperature[12 * m.groundRow[i] + month];
  }
}

/** Opaque faces and ground: modes behind both films. */
function closeMassive(m: CompiledModel, s: KernelState): void {
  const { zone1, area, nominal0, nominal1, groundEnd } = m;
  const { p0, p1, s0, s1, alpha0, alpha1, g01, g11, hc1, hr1, drive, ho, direct00, direct01, direct11, values, rhs } = s;
  for (let i = 0; i < groundEnd; i++) {
    const hc = hc1[i];
    const hr = hr1[i];
    const go = drive[i] + s0[i];
    const source = s1[i];
    // (I + D x) T = P + D g, with g at the inside face known but for the zone's two nodes
    const xo = ho[i] - nominal0[i];
    const xi = hc + hr - nominal1[i];
    const oo = direct00[i];
    const oi = direct01[i];
    const ii = direct11[i];
    const eo = 1 + oo * xo;
    const ei = 1 + ii * xi;
    const inverse = 1 / (eo * ei - oi * oi * xo * xi);
    const b0 = p0[i] + oo * go + oi * source;
    const b1 = p1[i] + oi * go + ii * source;
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
    const na = 2 * zone1[i];
    const d = 2 * na;
    values[d] += ac * (1 - hc * beta);
    values[d + 1] -= cross;
    values[d + 2] -= cross;
    values[d + 3] += ar * (1 - hr * beta);
    rhs[na] += ac * alpha;
    rhs[na + 1] += ar * alpha;
  }
}

/** Windows whose gaps answer temperature: conductance of the pass, and where the sun their panes absorb goes. */
function answeringGlass(m: CompiledModel, s: KernelState): void {
  const { groundEnd, exterior, glassOf, glassSpecs } = m;
  const { s0, s1, room1 } = s;
  for (let j = 0; j < exterior - groundEnd; j++) {
    if (!glassSpecs[glassOf[j]].variable) continue;
    glassChain(m, s, j);
    resolveAbsorbed(m, s, j);
    s0[groundEnd + j] = s.glassAbsorbed0[j];
    s1[groundEnd + j] = s.glassAbsorbed1[j] + room1[groundEnd + j];
  }
}

/** Windows: a conductance without mass between two faces, with the sun its panes absorb as sources at both. */
function closeGlass(m: CompiledModel, s: KernelState): void {
  const { zone1, area, groundEnd, exterior } = m;
  const { s0, s1, alpha0, alpha1, g01, g11, hc1, hr1, drive, ho, glassG, values, rhs } = s;
  for (let i = groundEnd; i < exterior; i++) {
    const hc = hc1[i];
    const hr = hr1[i];
    const h = ho[i];
    const G = glassG[i - groundEnd];
    const hi = hc + hr;
    const inverse = 1 / (h * hi + G * (h + hi));
    const go = drive[i] + s0[i];
    const source = s1[i];
    const beta = (h + G) * inverse;
    const gamma = G * inverse;
    const alpha = gamma * go + beta * source;
    alpha1[i] = alpha;
    g11[i] = beta;
    alpha0[i] = (hi + G) * inverse * go + gamma * source;
    g01[i] = gamma;
    const ac = area[i] * hc;
    const ar = area[i] * hr;
    const cross = ac * hr * beta;
    const na = 2 * zone1[i];
    const d = 2 * na;
    values[d] += ac * (1 - hc * beta);
    values[d + 1] -= cross;
    values[d + 2] -= cross;
    values[d + 3] += ar * (1 - hr * beta);
    rhs[na] += ac * alpha;
    rhs[na + 1] += ar * alpha;
  }
}

/** Absorbed heat of a window's nodes at its two faces, by the chain of the pass. */
function resolveAbsorbed(m: CompiledModel, s: KernelState, j: number): void {
  const nodes = m.glassSpecs[m.glassOf[j]].nodes[s.blindDown[j]];
  let out = 0;
  let inward = 0;
  for (let k = 0; k < nodes; k++) {
    const h = s.glassHeat[4 * j + k];
    const share = s.glassShareIn[4 * j + k];
    inward += h * share;
    out += h * (1 - share);
  }
  s.glassAbsorbed0[j] = out;
  s.glassAbsorbed1[j] = inward;
}

/** Inner walls and floors couple the nodes of both their zones. */
function closePartitions(m: CompiledModel, s: KernelState): void {
  const { zone0, zone1, area, area0, nominal0, nominal1, block01, block10, exterior } = m;
  const { p0, p1, s0, s1, alpha0, alpha1, g00, g01, g11, hc0, hr0, hc1, hr1, direct00, direct01, direct11 } = s;
  const { values, rhs } = s;
  for (let i = exterior; i < m.elements; i++) {
    const z0 = zone0[i];
    const z1 = zone1[i];
    const c0 = hc0[i];
    const c1 = hc1[i];
    const r0 = hr0[i];
    const r1 = hr1[i];
    const x0 = c0 + r0 - nominal0[i];
    const x1 = c1 + r1 - nominal1[i];
    const oo = direct00[i];
    const oi = direct01[i];
    const ii = direct11[i];
    const e0 = 1 + oo * x0;
    const e1 = 1 + ii * x1;
    const inverse = 1 / (e0 * e1 - oi * oi * x0 * x1);
    const source0 = s0[i];
    const source1 = s1[i];
    const b0 = p0[i] + oo * source0 + oi * source1;
    const b1 = p1[i] + oi * source0 + ii * source1;
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
    const B = area0[i];
    const v0 = 4 * z0;
    const v1 = 4 * z1;
    const cross0 = B * c0 * r0 * G00;
    const cross1 = A * c1 * r1 * G11;
    values[v0] += B * c0 * (1 - c0 * G00);
    values[v0 + 1] -= cross0;
    values[v0 + 2] -= cross0;
    values[v0 + 3] += B * r0 * (1 - r0 * G00);
    values[v1] += A * c1 * (1 - c1 * G11);
    values[v1 + 1] -= cross1;
    values[v1 + 2] -= cross1;
    values[v1 + 3] += A * r1 * (1 - r1 * G11);
    // of zones one and two, or folded onto the one block when both sides are in one zone
    const BG = B * G01;
    const AG = A * G01;
    const e = 4 * block01[i - exterior];
    const f = 4 * block10[i - exterior];
    values[e] -= BG * c0 * c1;
    values[e + 1] -= BG * c0 * r1;
    values[e + 2] -= BG * r0 * c1;
    values[e + 3] -= BG * r0 * r1;
    values[f] -= AG * c0 * c1;
    values[f + 1] -= AG * r0 * c1;
    values[f + 2] -= AG * c0 * r1;
    values[f + 3] -= AG * r0 * r1;
    rhs[2 * z0] += B * c0 * A0;
    rhs[2 * z0 + 1] += B * r0 * A0;
    rhs[2 * z1] += A * c1 * A1;
    rhs[2 * z1 + 1] += A * r1 * A1;
  }
}

/** Step-mean face temperatures from the solved nodes. */
export function faceTemperatures(m: CompiledModel, s: KernelState): void {
  const { alpha0, alpha1, g00, g01, g11, hc0, hr0, hc1, hr1, tin, tout } = s;
  const { zone0, zone1, exterior, elements } = m;
  const air = s.record.airTemperature;
  const radiant = s.record.radiantTemperature;
  for (let i = 0; i < exterior; i++) {
    const z = zone1[i];
    const q = hc1[i] * air[z] + hr1[i] * radiant[z];
    tin[i] = alpha1[i] + g11[i] * q;
    tout[i] = alpha0[i] + g01[i] * q;
  }
  for (let i = exterior; i < elements; i++) {
    const z0 = zone0[i];
    const z1 = zone1[i];
    const q0 = hc0[i] * air[z0] + hr0[i] * radiant[z0];
    const q1 = hc1[i] * air[z1] + hr1[i] * radiant[z1];
    tout[i] = alpha0[i] + g00[i] * q0 + g01[i] * q1;
    tin[i] = alpha1[i] + g01[i] * q0 + g11[i] * q1;
  }
}

/** Heat into the inside face of an element beyond its layers, W/m². */
export function inputInside(m: CompiledModel, s: KernelState, i: number): number {
  const z = m.zone1[i];
  const { airTemperature: air, radiantTemperature: radiant } = s.record;
  return s.hc1[i] * (air[z] - s.tin[i]) + s.hr1[i] * (radiant[z] - s.tin[i]) + s.s1[i];
}

/** Heat into the outside face, or the face in the first zone, W/m². */
export function inputOutside(m: CompiledModel, s: KernelState, i: number): number {
  if (i < m.exterior) return s.drive[i] - s.ho[i] * s.tout[i] + s.s0[i];
  const z = m.zone0[i];
  const { airTemperature: air, radiantTemperature: radiant } = s.record;
  return s.hc0[i] * (air[z] - s.tout[i]) + s.hr0[i] * (radiant[z] - s.tout[i]) + s.s0[i];
}
