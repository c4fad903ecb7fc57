// Films, closures and temperatures of faces: core/src/simulate/films.ts, operation by operation.
import { Reals } from "./arrays";
import {
  b_weather,
  m_area,
  m_block01,
  m_block10,
  m_classAzimuth,
  m_cold0,
  m_cold1,
  m_elements,
  m_emissivity0,
  m_exchange0,
  m_exchange1,
  m_exterior,
  m_facing0,
  m_forced,
  m_groundConductance,
  m_groundEnd,
  m_groundRow,
  m_groundTemperature,
  m_naturalInside,
  m_naturalOutside,
  m_nominal0,
  m_nominal1,
  m_opaqueEnd,
  m_orientation,
  m_skyView,
  m_steadyCold0,
  m_steadyCold1,
  m_steadyWarm0,
  m_steadyWarm1,
  m_warm0,
  m_warm1,
  m_wind,
  m_zone0,
  m_zone1,
  p_blocks,
  r_airTemperature,
  r_radiantTemperature,
  s_alpha0,
  s_alpha1,
  s_direct00,
  s_direct01,
  s_direct11,
  s_drive,
  s_forced,
  s_g00,
  s_g01,
  s_g11,
  s_glassG,
  s_hc0,
  s_hc1,
  s_ho,
  s_hr0,
  s_hr1,
  s_natural,
  s_p0,
  s_p1,
  s_rhs,
  s_s0,
  s_s1,
  s_tin,
  s_tout,
  s_values,
  WIND_NONE,
  WIND_PLAIN,
} from "./arrays";

const STEFAN_BOLTZMANN: f64 = 5.670374419e-8;
const FOUR_SIGMA: f64 = 4 * STEFAN_BOLTZMANN;
const LEAST_FILM: f64 = 0.1;

function quickCbrt(x: f64): f64 {
  if (!(x > 1e-12)) return 0;
  const bits = reinterpret<u64>(x);
  const high = <u64>(<u32>(<f64>(<u32>(bits >> 32)) * 0.3333333333333333 + 715094163.0));
  const t = reinterpret<f64>((high << 32) | (bits & 0xffffffff));
  const c = t * t * t;
  return (t * (c + x + x)) / (c + c + x);
}

function film(difference: f64, warm: f64, cold: f64): f64 {
  const h = difference > 0 ? warm * quickCbrt(difference) : cold * quickCbrt(-difference);
  return h < LEAST_FILM ? LEAST_FILM : h;
}

function forcedFilms(): void {
  if (m_wind == WIND_NONE) return;
  const forced = s_forced;
  const factor = m_forced;
  const exterior = m_exterior;
  const wind = b_weather[2];
  if (m_wind == WIND_PLAIN) {
    for (let i = 0; i < exterior; i++) forced[i] = factor[i] * wind;
    return;
  }
  const rootWind = sqrt<f64>(wind);
  const windDirection = b_weather[3];
  const classAzimuth = m_classAzimuth;
  const orientation = m_orientation;
  const facing0 = m_facing0;
  const opaqueEnd = m_opaqueEnd;
  const groundEnd = m_groundEnd;
  for (let i = 0; i < exterior; i++) {
    if (i == opaqueEnd) i = groundEnd;
    if (i >= exterior) break;
    const turn = windDirection - classAzimuth[orientation[i]];
    const offset = abs<f64>(turn - 360.0 * Math.round(turn / 360.0));
    const leeward: f64 = facing0[i] < 0.98 && offset > 100 ? 0.5 : 1.0;
    forced[i] = factor[i] * leeward * rootWind;
  }
}

function groundDrive(): void {
  const month = <i32>b_weather[5];
  const end = m_groundEnd;
  for (let i = m_opaqueEnd; i < end; i++) {
    const h = m_groundConductance[i];
    s_ho[i] = h;
    s_drive[i] = h * m_groundTemperature[12 * m_groundRow[i] + month];
  }
}

function longwave(first: i32, end: i32, hr: Reals, t: Reals, exchange: Reals, inFirst: bool): void {
  const zone = inFirst ? m_zone0 : m_zone1;
  const radiant = r_radiantTemperature;
  for (let i = first; i < end; i++) {
    const mean = 0.5 * (t[i] + radiant[zone[i]]) + 273.15;
    hr[i] = FOUR_SIGMA * exchange[i] * mean * mean * mean;
  }
}

function insideFilms(): void {
  const zone0 = m_zone0;
  const zone1 = m_zone1;
  const exterior = m_exterior;
  const elements = m_elements;
  const hc0 = s_hc0;
  const hc1 = s_hc1;
  const tin = s_tin;
  const tout = s_tout;
  const air = r_airTemperature;
  longwave(0, elements, s_hr1, tin, m_exchange1, false);
  longwave(exterior, elements, s_hr0, tout, m_exchange0, true);
  if (m_naturalInside) {
    const warm0 = m_warm0;
    const cold0 = m_cold0;
    const warm1 = m_warm1;
    const cold1 = m_cold1;
    for (let i = 0; i < elements; i++) hc1[i] = film(tin[i] - air[zone1[i]], warm1[i], cold1[i]);
    for (let i = exterior; i < elements; i++) hc0[i] = film(tout[i] - air[zone0[i]], warm0[i], cold0[i]);
    return;
  }
  for (let i = 0; i < elements; i++) hc1[i] = tin[i] > air[zone1[i]] ? m_steadyWarm1[i] : m_steadyCold1[i];
  for (let i = exterior; i < elements; i++) hc0[i] = tout[i] > air[zone0[i]] ? m_steadyWarm0[i] : m_steadyCold0[i];
}

function naturalFilms(first: i32, end: i32): void {
  const outdoor = b_weather[0];
  const warm0 = m_warm0;
  const cold0 = m_cold0;
  const natural = s_natural;
  const tout = s_tout;
  for (let i = first; i < end; i++) natural[i] = film(tout[i] - outdoor, warm0[i], cold0[i]);
}

function outsideFilms(first: i32, end: i32): void {
  const steadyWarm0 = m_steadyWarm0;
  const steadyCold0 = m_steadyCold0;
  const naturalOutside = m_naturalOutside;
  const emissivity0 = m_emissivity0;
  const skyView = m_skyView;
  const forced = s_forced;
  const natural = s_natural;
  const ho = s_ho;
  const drive = s_drive;
  const tout = s_tout;
  const outdoor = b_weather[0];
  const skyTemperature = b_weather[1];
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
    const seen = skyView[i];
    const hs = e * seen * (ts2 + sky2) * (ts + sky);
    const near = hv + e * (1.0 - seen) * (ts2 + out2) * (ts + out);
    ho[i] = near + hs;
    drive[i] = near * outdoor + hs * skyTemperature;
  }
}

function closeMassive(): void {
  const zone1 = m_zone1;
  const area = m_area;
  const nominal0 = m_nominal0;
  const nominal1 = m_nominal1;
  const p0 = s_p0;
  const p1 = s_p1;
  const s0 = s_s0;
  const s1 = s_s1;
  const alpha0 = s_alpha0;
  const alpha1 = s_alpha1;
  const g01 = s_g01;
  const g11 = s_g11;
  const hc1 = s_hc1;
  const hr1 = s_hr1;
  const drive = s_drive;
  const ho = s_ho;
  const direct00 = s_direct00;
  const direct01 = s_direct01;
  const direct11 = s_direct11;
  const values = s_values;
  const rhs = s_rhs;
  const groundEnd = m_groundEnd;
  for (let i = 0; i < groundEnd; i++) {
    const hc = hc1[i];
    const hr = hr1[i];
    const go = drive[i] + s0[i];
    const source = s1[i];
    const xo = ho[i] - nominal0[i];
    const xi = hc + hr - nominal1[i];
    const oo = direct00[i];
    const oi = direct01[i];
    const ii = direct11[i];
    const eo = 1.0 + oo * xo;
    const ei = 1.0 + ii * xi;
    const inverse = 1.0 / (eo * ei - oi * oi * xo * xi);
    const b0 = p0[i] + oo * go + oi * source;
    const b1 = p1[i] + oi * go + ii * source;
    const beta = (ii * eo - oi * oi * xo) * inverse;
    const alpha = (b1 * eo - oi * xo * b0) * inverse;
    alpha1[i] = alpha;
    g11[i] = beta;
    alpha0[i] = (b0 * ei - oi * xi * b1) * inverse;
    g01[i] = oi * inverse;
    toZone(zone1[i], area[i] * hc, area[i] * hr, hc, hr, alpha, beta, values, rhs);
  }
}

/** One outdoor face in the equations of its zone's air and radiant node. */
function toZone(z: i32, ac: f64, ar: f64, hc: f64, hr: f64, alpha: f64, beta: f64, values: Reals, rhs: Reals): void {
  const cross = ac * hr * beta;
  const na = 2 * z;
  const d = 2 * na;
  values[d] = values[d] + ac * (1.0 - hc * beta);
  values[d + 1] = values[d + 1] - cross;
  values[d + 2] = values[d + 2] - cross;
  values[d + 3] = values[d + 3] + ar * (1.0 - hr * beta);
  rhs[na] = rhs[na] + ac * alpha;
  rhs[na + 1] = rhs[na + 1] + ar * alpha;
}

function closeGlass(): void {
  const zone1 = m_zone1;
  const area = m_area;
  const s0 = s_s0;
  const s1 = s_s1;
  const alpha0 = s_alpha0;
  const alpha1 = s_alpha1;
  const g01 = s_g01;
  const g11 = s_g11;
  const hc1 = s_hc1;
  const hr1 = s_hr1;
  const drive = s_drive;
  const ho = s_ho;
  const glassG = s_glassG;
  const values = s_values;
  const rhs = s_rhs;
  const groundEnd = m_groundEnd;
  const exterior = m_exterior;
  for (let i = groundEnd; i < exterior; i++) {
    const hc = hc1[i];
    const hr = hr1[i];
    const h = ho[i];
    const G = glassG[i - groundEnd];
    const hi = hc + hr;
    const inverse = 1.0 / (h * hi + G * (h + hi));
    const go = drive[i] + s0[i];
    const source = s1[i];
    const beta = (h + G) * inverse;
    const gamma = G * inverse;
    const alpha = gamma * go + beta * source;
    alpha1[i] = alpha;
    g11[i] = beta;
    alpha0[i] = (hi + G) * inverse * go + gamma * source;
    g01[i] = gamma;
    toZone(zone1[i], area[i] * hc, area[i] * hr, hc, hr, alpha, beta, values, rhs);
  }
}

function closePartitions(): void {
  const zone0 = m_zone0;
  const zone1 = m_zone1;
  const area = m_area;
  const nominal0 = m_nominal0;
  const nominal1 = m_nominal1;
  const block01 = m_block01;
  const block10 = m_block10;
  const p0 = s_p0;
  const p1 = s_p1;
  const s0 = s_s0;
  const s1 = s_s1;
  const alpha0 = s_alpha0;
  const alpha1 = s_alpha1;
  const g00 = s_g00;
  const g01 = s_g01;
  const g11 = s_g11;
  const hc0 = s_hc0;
  const hr0 = s_hr0;
  const hc1 = s_hc1;
  const hr1 = s_hr1;
  const direct00 = s_direct00;
  const direct01 = s_direct01;
  const direct11 = s_direct11;
  const values = s_values;
  const rhs = s_rhs;
  const exterior = m_exterior;
  const elements = m_elements;
  for (let i = exterior; i < elements; i++) {
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
    const e0 = 1.0 + oo * x0;
    const e1 = 1.0 + ii * x1;
    const inverse = 1.0 / (e0 * e1 - oi * oi * x0 * x1);
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
    const v0 = 4 * z0;
    const v1 = 4 * z1;
    const cross0 = A * c0 * r0 * G00;
    const cross1 = A * c1 * r1 * G11;
    values[v0] = values[v0] + A * c0 * (1.0 - c0 * G00);
    values[v0 + 1] = values[v0 + 1] - cross0;
    values[v0 + 2] = values[v0 + 2] - cross0;
    values[v0 + 3] = values[v0 + 3] + A * r0 * (1.0 - r0 * G00);
    values[v1] = values[v1] + A * c1 * (1.0 - c1 * G11);
    values[v1 + 1] = values[v1 + 1] - cross1;
    values[v1 + 2] = values[v1 + 2] - cross1;
    values[v1 + 3] = values[v1 + 3] + A * r1 * (1.0 - r1 * G11);
    const AG = A * G01;
    const e = 4 * block01[i - exterior];
    const f = 4 * block10[i - exterior];
    const caa = AG * c0 * c1;
    const car = AG * c0 * r1;
    const cra = AG * r0 * c1;
    const crr = AG * r0 * r1;
    values[e] = values[e] - caa;
    values[e + 1] = values[e + 1] - car;
    values[e + 2] = values[e + 2] - cra;
    values[e + 3] = values[e + 3] - crr;
    values[f] = values[f] - caa;
    values[f + 1] = values[f + 1] - cra;
    values[f + 2] = values[f + 2] - car;
    values[f + 3] = values[f + 3] - crr;
    rhs[2 * z0] = rhs[2 * z0] + A * c0 * A0;
    rhs[2 * z0 + 1] = rhs[2 * z0 + 1] + A * r0 * A0;
    rhs[2 * z1] = rhs[2 * z1] + A * c1 * A1;
    rhs[2 * z1 + 1] = rhs[2 * z1 + 1] + A * r1 * A1;
  }
}

export function coefficients(first: bool, anew: bool): void {
  s_values.clear(4 * p_blocks);
  if (first) {
    forcedFilms();
    groundDrive();
  }
  if (anew) {
    insideFilms();
    if (m_naturalOutside) {
      naturalFilms(0, m_opaqueEnd);
      naturalFilms(m_groundEnd, m_exterior);
    }
  }
  outsideFilms(0, m_opaqueEnd);
  outsideFilms(m_groundEnd, m_exterior);
  closeMassive();
  closeGlass();
  closePartitions();
}

export function faceTemperatures(): void {
  const alpha0 = s_alpha0;
  const alpha1 = s_alpha1;
  const g00 = s_g00;
  const g01 = s_g01;
  const g11 = s_g11;
  const hc0 = s_hc0;
  const hr0 = s_hr0;
  const hc1 = s_hc1;
  const hr1 = s_hr1;
  const tin = s_tin;
  const tout = s_tout;
  const zone0 = m_zone0;
  const zone1 = m_zone1;
  const exterior = m_exterior;
  const elements = m_elements;
  const air = r_airTemperature;
  const radiant = r_radiantTemperature;
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
