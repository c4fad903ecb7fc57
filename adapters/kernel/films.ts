// Films, closures and temperatures of faces: core/src/simulate/films.ts, operation by operation.
import { Integers, Reals, Weather } from "./arrays";
import {
  m_area,
  m_area0,
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

/** Small steps of the walks, put in place of their calls. */
class Inline {
  /** Cube roots of two numbers to 1e-4, 0 below 1e-12 and for NaN. */
  @inline static cubeRoots(x: v128): v128 {
    // the upper halves of both numbers, a third of each, and back
    const upper = i8x16.shuffle(x, x, 4, 5, 6, 7, 12, 13, 14, 15, 0, 0, 0, 0, 0, 0, 0, 0);
    const third = f64x2.add(f64x2.mul(f64x2.convert_low_i32x4_u(upper), f64x2.splat(0.3333333333333333)), f64x2.splat(715094163.0));
    const high = i64x2.shl(i64x2.extend_low_i32x4_u(i32x4.trunc_sat_f64x2_u_zero(third)), 32);
    const t = v128.or(high, v128.and(x, i64x2.splat(0xffffffff)));
    const c = f64x2.mul(f64x2.mul(t, t), t);
    const root = f64x2.div(f64x2.mul(t, f64x2.add(f64x2.add(c, x), x)), f64x2.add(f64x2.add(c, c), x));
    return v128.and(root, f64x2.gt(x, f64x2.splat(1e-12)));
  }

  /** Films of two faces by what they are warmer than their air, at least LEAST_FILM. */
  @inline static films(difference: v128, warm: v128, cold: v128): v128 {
    const least = f64x2.splat(LEAST_FILM);
    const factor = v128.bitselect(warm, cold, f64x2.gt(difference, f64x2.splat(0)));
    const h = f64x2.mul(factor, Inline.cubeRoots(f64x2.abs(difference)));
    return v128.bitselect(least, h, f64x2.lt(h, least));
  }
}

/** What is worked out for two neighbouring faces at once (`pair`), or for the last one. */
class Faces {
  @inline static outside(i: i32, pair: bool): void {
    const outdoor = Weather.outdoor();
    const skyTemperature = Weather.sky();
    const sky = f64x2.splat(skyTemperature + 273.15);
    const out = f64x2.splat(outdoor + 273.15);
    const to = s_tout.lanes(i, pair);
    const above = f64x2.gt(f64x2.sub(to, f64x2.splat(outdoor)), f64x2.splat(0));
    const still = m_naturalOutside ? s_natural.lanes(i, pair) : v128.bitselect(m_steadyWarm0.lanes(i, pair), m_steadyCold0.lanes(i, pair), above);
    const hv = f64x2.add(s_forced.lanes(i, pair), still);
    const ts = f64x2.add(to, f64x2.splat(273.15));
    const ts2 = f64x2.mul(ts, ts);
    const e = f64x2.mul(m_emissivity0.lanes(i, pair), f64x2.splat(STEFAN_BOLTZMANN));
    const seen = m_skyView.lanes(i, pair);
    const hs = f64x2.mul(f64x2.mul(f64x2.mul(e, seen), f64x2.add(ts2, f64x2.mul(sky, sky))), f64x2.add(ts, sky));
    const air = f64x2.mul(f64x2.mul(f64x2.mul(e, f64x2.sub(f64x2.splat(1), seen)), f64x2.add(ts2, f64x2.mul(out, out))), f64x2.add(ts, out));
    const near = f64x2.add(hv, air);
    s_ho.putLanes(i, f64x2.add(near, hs), pair);
    s_drive.putLanes(i, f64x2.add(f64x2.mul(near, f64x2.splat(outdoor)), f64x2.mul(hs, f64x2.splat(skyTemperature))), pair);
  }

  @inline static massive(i: i32, pair: bool): void {
    const one = f64x2.splat(1);
    const hc = s_hc1.lanes(i, pair);
    const hr = s_hr1.lanes(i, pair);
    const go = f64x2.add(s_drive.lanes(i, pair), s_s0.lanes(i, pair));
    const source = s_s1.lanes(i, pair);
    const xo = f64x2.sub(s_ho.lanes(i, pair), m_nominal0.lanes(i, pair));
    const xi = f64x2.sub(f64x2.add(hc, hr), m_nominal1.lanes(i, pair));
    const oo = s_direct00.lanes(i, pair);
    const oi = s_direct01.lanes(i, pair);
    const ii = s_direct11.lanes(i, pair);
    const eo = f64x2.add(one, f64x2.mul(oo, xo));
    const ei = f64x2.add(one, f64x2.mul(ii, xi));
    const cross = f64x2.mul(f64x2.mul(oi, oi), xo);
    const inverse = f64x2.div(one, f64x2.sub(f64x2.mul(eo, ei), f64x2.mul(cross, xi)));
    const b0 = f64x2.add(f64x2.add(s_p0.lanes(i, pair), f64x2.mul(oo, go)), f64x2.mul(oi, source));
    const b1 = f64x2.add(f64x2.add(s_p1.lanes(i, pair), f64x2.mul(oi, go)), f64x2.mul(ii, source));
    const beta = f64x2.mul(f64x2.sub(f64x2.mul(ii, eo), cross), inverse);
    const alpha = f64x2.mul(f64x2.sub(f64x2.mul(b1, eo), f64x2.mul(f64x2.mul(oi, xo), b0)), inverse);
    const outer = f64x2.mul(f64x2.sub(f64x2.mul(b0, ei), f64x2.mul(f64x2.mul(oi, xi), b1)), inverse);
    Faces.close(i, pair, hc, hr, alpha, beta, outer, f64x2.mul(oi, inverse));
  }

  @inline static glass(i: i32, pair: bool): void {
    const hc = s_hc1.lanes(i, pair);
    const hr = s_hr1.lanes(i, pair);
    const h = s_ho.lanes(i, pair);
    const G = s_glassG.lanes(i - m_groundEnd, pair);
    const hi = f64x2.add(hc, hr);
    const inverse = f64x2.div(f64x2.splat(1), f64x2.add(f64x2.mul(h, hi), f64x2.mul(G, f64x2.add(h, hi))));
    const go = f64x2.add(s_drive.lanes(i, pair), s_s0.lanes(i, pair));
    const source = s_s1.lanes(i, pair);
    const beta = f64x2.mul(f64x2.add(h, G), inverse);
    const gamma = f64x2.mul(G, inverse);
    const alpha = f64x2.add(f64x2.mul(gamma, go), f64x2.mul(beta, source));
    const outer = f64x2.add(f64x2.mul(f64x2.mul(f64x2.add(hi, G), inverse), go), f64x2.mul(gamma, source));
    Faces.close(i, pair, hc, hr, alpha, beta, outer, gamma);
  }

  /** Closed faces: temperatures by what their zone gives them, and their part in its equations. */
  @inline static close(i: i32, pair: bool, hc: v128, hr: v128, alpha: v128, beta: v128, outer: v128, across: v128): void {
    s_alpha1.putLanes(i, alpha, pair);
    s_g11.putLanes(i, beta, pair);
    s_alpha0.putLanes(i, outer, pair);
    s_g01.putLanes(i, across, pair);
    const one = f64x2.splat(1);
    const area = m_area.lanes(i, pair);
    const ac = f64x2.mul(area, hc);
    const ar = f64x2.mul(area, hr);
    const cross = f64x2.mul(f64x2.mul(ac, hr), beta);
    const air = f64x2.mul(ac, f64x2.sub(one, f64x2.mul(hc, beta)));
    const radiant = f64x2.mul(ar, f64x2.sub(one, f64x2.mul(hr, beta)));
    const toAir = f64x2.mul(ac, alpha);
    const toRadiant = f64x2.mul(ar, alpha);
    Faces.toZone(m_zone1[i], v128.shuffle<f64>(air, cross, 0, 2), v128.shuffle<f64>(cross, radiant, 0, 2), v128.shuffle<f64>(toAir, toRadiant, 0, 2));
    if (pair)
      Faces.toZone(m_zone1[i + 1], v128.shuffle<f64>(air, cross, 1, 3), v128.shuffle<f64>(cross, radiant, 1, 3), v128.shuffle<f64>(toAir, toRadiant, 1, 3));
  }

  @inline static partition(i: i32, pair: bool): void {
    const one = f64x2.splat(1);
    const c0 = s_hc0.lanes(i, pair);
    const c1 = s_hc1.lanes(i, pair);
    const r0 = s_hr0.lanes(i, pair);
    const r1 = s_hr1.lanes(i, pair);
    const x0 = f64x2.sub(f64x2.add(c0, r0), m_nominal0.lanes(i, pair));
    const x1 = f64x2.sub(f64x2.add(c1, r1), m_nominal1.lanes(i, pair));
    const oo = s_direct00.lanes(i, pair);
    const oi = s_direct01.lanes(i, pair);
    const ii = s_direct11.lanes(i, pair);
    const e0 = f64x2.add(one, f64x2.mul(oo, x0));
    const e1 = f64x2.add(one, f64x2.mul(ii, x1));
    const square = f64x2.mul(oi, oi);
    const inverse = f64x2.div(one, f64x2.sub(f64x2.mul(e0, e1), f64x2.mul(f64x2.mul(square, x0), x1)));
    const source0 = s_s0.lanes(i, pair);
    const source1 = s_s1.lanes(i, pair);
    const b0 = f64x2.add(f64x2.add(s_p0.lanes(i, pair), f64x2.mul(oo, source0)), f64x2.mul(oi, source1));
    const b1 = f64x2.add(f64x2.add(s_p1.lanes(i, pair), f64x2.mul(oi, source0)), f64x2.mul(ii, source1));
    const G00 = f64x2.mul(f64x2.sub(f64x2.mul(oo, e1), f64x2.mul(square, x1)), inverse);
    const G11 = f64x2.mul(f64x2.sub(f64x2.mul(ii, e0), f64x2.mul(square, x0)), inverse);
    const G01 = f64x2.mul(oi, inverse);
    const A0 = f64x2.mul(f64x2.sub(f64x2.mul(b0, e1), f64x2.mul(f64x2.mul(oi, x1), b1)), inverse);
    const A1 = f64x2.mul(f64x2.sub(f64x2.mul(b1, e0), f64x2.mul(f64x2.mul(oi, x0), b0)), inverse);
    s_alpha0.putLanes(i, A0, pair);
    s_alpha1.putLanes(i, A1, pair);
    s_g00.putLanes(i, G00, pair);
    s_g01.putLanes(i, G01, pair);
    s_g11.putLanes(i, G11, pair);
    const A = m_area.lanes(i, pair);
    const B = m_area0.lanes(i, pair);
    const ac0 = f64x2.mul(B, c0);
    const ar0 = f64x2.mul(B, r0);
    const ac1 = f64x2.mul(A, c1);
    const ar1 = f64x2.mul(A, r1);
    const cross0 = f64x2.mul(f64x2.mul(ac0, r0), G00);
    const cross1 = f64x2.mul(f64x2.mul(ac1, r1), G11);
    const air0 = f64x2.mul(ac0, f64x2.sub(one, f64x2.mul(c0, G00)));
    const air1 = f64x2.mul(ac1, f64x2.sub(one, f64x2.mul(c1, G11)));
    const radiant0 = f64x2.mul(ar0, f64x2.sub(one, f64x2.mul(r0, G00)));
    const radiant1 = f64x2.mul(ar1, f64x2.sub(one, f64x2.mul(r1, G11)));
    const BG = f64x2.mul(B, G01);
    const AG = f64x2.mul(A, G01);
    const bc = f64x2.mul(BG, c0);
    const br = f64x2.mul(BG, r0);
    const gc = f64x2.mul(AG, c0);
    const gr = f64x2.mul(AG, r0);
    const caa = f64x2.mul(bc, c1);
    const car = f64x2.mul(bc, r1);
    const cra = f64x2.mul(br, c1);
    const crr = f64x2.mul(br, r1);
    const daa = f64x2.mul(gc, c1);
    const dar = f64x2.mul(gc, r1);
    const dra = f64x2.mul(gr, c1);
    const drr = f64x2.mul(gr, r1);
    const sa0 = f64x2.mul(ac0, A0);
    const sr0 = f64x2.mul(ar0, A0);
    const sa1 = f64x2.mul(ac1, A1);
    const sr1 = f64x2.mul(ar1, A1);
    Faces.couple(
      i,
      v128.shuffle<f64>(air0, cross0, 0, 2),
      v128.shuffle<f64>(cross0, radiant0, 0, 2),
      v128.shuffle<f64>(sa0, sr0, 0, 2),
      v128.shuffle<f64>(air1, cross1, 0, 2),
      v128.shuffle<f64>(cross1, radiant1, 0, 2),
      v128.shuffle<f64>(sa1, sr1, 0, 2),
      v128.shuffle<f64>(caa, car, 0, 2),
      v128.shuffle<f64>(cra, crr, 0, 2),
      v128.shuffle<f64>(daa, dra, 0, 2),
      v128.shuffle<f64>(dar, drr, 0, 2),
    );
    if (pair)
      Faces.couple(
        i + 1,
        v128.shuffle<f64>(air0, cross0, 1, 3),
        v128.shuffle<f64>(cross0, radiant0, 1, 3),
        v128.shuffle<f64>(sa0, sr0, 1, 3),
        v128.shuffle<f64>(air1, cross1, 1, 3),
        v128.shuffle<f64>(cross1, radiant1, 1, 3),
        v128.shuffle<f64>(sa1, sr1, 1, 3),
        v128.shuffle<f64>(caa, car, 1, 3),
        v128.shuffle<f64>(cra, crr, 1, 3),
        v128.shuffle<f64>(daa, dra, 1, 3),
        v128.shuffle<f64>(dar, drr, 1, 3),
      );
  }

  /** One partition in the rows of both its zones: rows and sources as in `toZone`, what couples air with (air, radiation) there, radiation likewise, and the same from the second zone's side. */
  @inline static couple(
    i: i32,
    airRow0: v128,
    radiantRow0: v128,
    sources0: v128,
    airRow1: v128,
    radiantRow1: v128,
    sources1: v128,
    fromAir: v128,
    fromRadiant: v128,
    backToAir: v128,
    backToRadiant: v128,
  ): void {
    const z0 = m_zone0[i];
    const z1 = m_zone1[i];
    Faces.toRows(z0, airRow0, radiantRow0);
    Faces.toRows(z1, airRow1, radiantRow1);
    const e = 4 * m_block01[i - m_exterior];
    const f = 4 * m_block10[i - m_exterior];
    s_values.put(e, f64x2.sub(s_values.two(e), fromAir));
    s_values.put(e + 2, f64x2.sub(s_values.two(e + 2), fromRadiant));
    s_values.put(f, f64x2.sub(s_values.two(f), backToAir));
    s_values.put(f + 2, f64x2.sub(s_values.two(f + 2), backToRadiant));
    s_rhs.put(2 * z0, f64x2.add(s_rhs.two(2 * z0), sources0));
    s_rhs.put(2 * z1, f64x2.add(s_rhs.two(2 * z1), sources1));
  }

  /** Temperatures of outdoor and ground faces from their zone's nodes. */
  @inline static outer(i: i32, pair: bool): void {
    const z = m_zone1[i];
    const next = pair ? m_zone1[i + 1] : z;
    const air = f64x2(r_airTemperature[z], r_airTemperature[next]);
    const radiant = f64x2(r_radiantTemperature[z], r_radiantTemperature[next]);
    const q = f64x2.add(f64x2.mul(s_hc1.lanes(i, pair), air), f64x2.mul(s_hr1.lanes(i, pair), radiant));
    s_tin.putLanes(i, f64x2.add(s_alpha1.lanes(i, pair), f64x2.mul(s_g11.lanes(i, pair), q)), pair);
    s_tout.putLanes(i, f64x2.add(s_alpha0.lanes(i, pair), f64x2.mul(s_g01.lanes(i, pair), q)), pair);
  }

  /** Temperatures of both faces of partitions. */
  @inline static inner(i: i32, pair: bool): void {
    const a0 = m_zone0[i];
    const b0 = pair ? m_zone0[i + 1] : a0;
    const a1 = m_zone1[i];
    const b1 = pair ? m_zone1[i + 1] : a1;
    const air0 = f64x2(r_airTemperature[a0], r_airTemperature[b0]);
    const radiant0 = f64x2(r_radiantTemperature[a0], r_radiantTemperature[b0]);
    const air1 = f64x2(r_airTemperature[a1], r_airTemperature[b1]);
    const radiant1 = f64x2(r_radiantTemperature[a1], r_radiantTemperature[b1]);
    const q0 = f64x2.add(f64x2.mul(s_hc0.lanes(i, pair), air0), f64x2.mul(s_hr0.lanes(i, pair), radiant0));
    const q1 = f64x2.add(f64x2.mul(s_hc1.lanes(i, pair), air1), f64x2.mul(s_hr1.lanes(i, pair), radiant1));
    const g01 = s_g01.lanes(i, pair);
    s_tout.putLanes(i, f64x2.add(f64x2.add(s_alpha0.lanes(i, pair), f64x2.mul(s_g00.lanes(i, pair), q0)), f64x2.mul(g01, q1)), pair);
    s_tin.putLanes(i, f64x2.add(f64x2.add(s_alpha1.lanes(i, pair), f64x2.mul(g01, q0)), f64x2.mul(s_g11.lanes(i, pair), q1)), pair);
  }

  /** One face in the rows of its zone's air and radiant node: (what air loses, what goes across), (across, what radiation loses), sources. */
  @inline static toZone(z: i32, airRow: v128, radiantRow: v128, sources: v128): void {
    Faces.toRows(z, airRow, radiantRow);
    s_rhs.put(2 * z, f64x2.add(s_rhs.two(2 * z), sources));
  }

  @inline static toRows(z: i32, airRow: v128, radiantRow: v128): void {
    const d = 4 * z;
    s_values.put(d, f64x2.add(s_values.two(d), v128.xor(airRow, f64x2(0, -0.0))));
    s_values.put(d + 2, f64x2.add(s_values.two(d + 2), v128.xor(radiantRow, f64x2(-0.0, 0))));
  }
}

/** Films of the faces from `first` to `end` against the air of their zones, or outdoors where `zone` is no place. */
function naturalFilms(first: i32, end: i32, film: Reals, t: Reals, zone: Integers, warm: Reals, cold: Reals): void {
  const air = r_airTemperature;
  const outdoor = Weather.outdoor();
  const outside = changetype<usize>(zone) == 0;
  let i = first;
  for (; i + 1 < end; i += 2) {
    const around = outside ? f64x2.splat(outdoor) : f64x2(air[zone[i]], air[zone[i + 1]]);
    film.put(i, Inline.films(f64x2.sub(t.two(i), around), warm.two(i), cold.two(i)));
  }
  if (i < end) {
    const around = outside ? outdoor : air[zone[i]];
    const one = Inline.films(f64x2.splat(t[i] - around), f64x2.splat(warm[i]), f64x2.splat(cold[i]));
    film[i] = f64x2.extract_lane(one, 0);
  }
}

function forcedFilms(): void {
  if (m_wind == WIND_NONE) return;
  const forced = s_forced;
  const factor = m_forced;
  const exterior = m_exterior;
  const wind = Weather.wind();
  if (m_wind == WIND_PLAIN) {
    for (let i = 0; i < exterior; i++) forced[i] = factor[i] * wind;
    return;
  }
  const rootWind = sqrt<f64>(wind);
  const windDirection = Weather.windDirection();
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
  const month = Weather.month();
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
    naturalFilms(0, elements, hc1, tin, zone1, m_warm1, m_cold1);
    naturalFilms(exterior, elements, hc0, tout, zone0, m_warm0, m_cold0);
    return;
  }
  for (let i = 0; i < elements; i++) hc1[i] = tin[i] > air[zone1[i]] ? m_steadyWarm1[i] : m_steadyCold1[i];
  for (let i = exterior; i < elements; i++) hc0[i] = tout[i] > air[zone0[i]] ? m_steadyWarm0[i] : m_steadyCold0[i];
}

function outsideFilms(first: i32, end: i32): void {
  let i = first;
  for (; i + 1 < end; i += 2) Faces.outside(i, true);
  if (i < end) Faces.outside(i, false);
}

function closeMassive(): void {
  const end = m_groundEnd;
  let i = 0;
  for (; i + 1 < end; i += 2) Faces.massive(i, true);
  if (i < end) Faces.massive(i, false);
}

function closeGlass(): void {
  const end = m_exterior;
  let i = m_groundEnd;
  for (; i + 1 < end; i += 2) Faces.glass(i, true);
  if (i < end) Faces.glass(i, false);
}

function closePartitions(): void {
  const end = m_elements;
  let i = m_exterior;
  for (; i + 1 < end; i += 2) Faces.partition(i, true);
  if (i < end) Faces.partition(i, false);
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
      const outdoors = changetype<Integers>(0);
      naturalFilms(0, m_opaqueEnd, s_natural, s_tout, outdoors, m_warm0, m_cold0);
      naturalFilms(m_groundEnd, m_exterior, s_natural, s_tout, outdoors, m_warm0, m_cold0);
    }
  }
  outsideFilms(0, m_opaqueEnd);
  outsideFilms(m_groundEnd, m_exterior);
  closeMassive();
  closeGlass();
  closePartitions();
}

export function faceTemperatures(): void {
  const exterior = m_exterior;
  const elements = m_elements;
  let i = 0;
  for (; i + 1 < exterior; i += 2) Faces.outer(i, true);
  if (i < exterior) Faces.outer(i, false);
  i = exterior;
  for (; i + 1 < elements; i += 2) Faces.inner(i, true);
  if (i < elements) Faces.inner(i, false);
}
