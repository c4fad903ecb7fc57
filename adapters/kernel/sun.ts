// Sun on and through outside faces and in the rooms: core/src/simulate/sunlight.ts, operation by operation.
import {
  m_angleTable,
  m_area,
  m_area0,
  m_beamShare0,
  m_beamShare1,
  m_classCos,
  m_classNormal,
  m_classSin,
  m_diffuseShare0,
  m_diffuseShare1,
  m_elements,
  m_exterior,
  m_glassDirection,
  m_glassOf,
  m_glassOptics,
  m_glassShare,
  m_groundEnd,
  m_lit,
  m_litRow,
  m_opaqueEnd,
  m_orientation,
  m_horizonShare,
  m_skyShare,
  m_solarAbsorptance,
  m_zone0,
  m_zone1,
  m_zones,
  ANGLE_STEPS,
  GLASS_NODES,
  n_classBeam,
  n_traced,
  OPTIC_ABSORBED,
  OPTIC_DIFFUSE,
  OPTIC_NODES,
  OPTIC_ROW,
  OPTIC_TO_AIR,
  OPTICS,
  r_incident,
  r_incidentSum,
  r_litShare,
  r_sunBy,
  r_sunBySum,
  r_transmitted,
  r_transmittedSum,
  s_beamIn,
  s_beamOn,
  s_beamThrough,
  s_blindDown,
  s_classBeam,
  s_classCosine,
  s_classHorizon,
  s_classSky,
  s_diffuseIn,
  s_diffuseOn,
  s_diffuseThrough,
  s_glassAbsorbed0,
  s_glassAbsorbed1,
  s_glassHeat,
  s_glassShareIn,
  s_reflectedOn,
  s_room0,
  s_room1,
  s_s0,
  s_s1,
  s_sky,
  s_sunKept,
  s_sunToAir,
  SKY_CIRCUMSOLAR,
  SKY_DIFFUSE,
  SKY_DIRECT,
  SKY_EAST,
  SKY_HORIZON,
  SKY_LIT_AA,
  SKY_LIT_AB,
  SKY_LIT_BA,
  SKY_LIT_BB,
  SKY_LIT_DAY,
  SKY_LIT_HOUR,
  SKY_MONTH,
  SKY_NORTH,
  SKY_UP,
} from "./arrays";

export function darken(): void {
  const elements = m_elements;
  const zones = m_zones;
  const glass = m_exterior - m_groundEnd;
  s_s0.clear(elements);
  s_s1.clear(elements);
  s_room0.clear(elements);
  s_room1.clear(elements);
  r_incident.clear(elements);
  r_litShare.clear(elements);
  r_transmitted.clear(elements);
  s_beamIn.clear(zones);
  s_diffuseIn.clear(zones);
  s_sunToAir.clear(zones);
  s_sunKept.clear(zones);
  r_sunBy.clear(5 * zones);
  s_glassAbsorbed0.clear(glass);
  s_glassAbsorbed1.clear(glass);
  s_beamThrough.clear(glass);
  s_diffuseThrough.clear(glass);
  s_glassHeat.clear(GLASS_NODES * glass);
}

export function sunOutside(): void {
  const sky = s_sky;
  const sx = sky[SKY_EAST];
  const sy = sky[SKY_NORTH];
  const height = sky[SKY_UP];
  const direct = sky[SKY_DIRECT];
  const diffuse = sky[SKY_DIFFUSE];
  const circumsolar = sky[SKY_CIRCUMSOLAR];
  const horizon = sky[SKY_HORIZON];
  const month = <i32>sky[SKY_MONTH];
  const classBeam = s_classBeam;
  const classSky = s_classSky;
  const classHorizon = s_classHorizon;
  const normal = m_classNormal;
  const classes = n_classBeam;
  for (let c = 0; c < classes; c++) {
    const cosine = normal[3 * c] * sx + normal[3 * c + 1] * sy + normal[3 * c + 2] * height;
    s_classCosine[c] = cosine;
    classBeam[c] = cosine > 0 ? direct * cosine : 0.0;
    classSky[c] = (diffuse * (1.0 - circumsolar) * (1.0 + m_classCos[c])) / 2.0;
    classHorizon[c] = diffuse * horizon * m_classSin[c];
  }
  const aa = <i32>sky[SKY_LIT_AA];
  const ab = <i32>sky[SKY_LIT_AB];
  const ba = <i32>sky[SKY_LIT_BA];
  const bb = <i32>sky[SKY_LIT_BB];
  const qx = sky[SKY_LIT_HOUR];
  const dx = sky[SKY_LIT_DAY];
  const lit = m_lit;
  const litRow = m_litRow;
  const orientation = m_orientation;
  const skyShare = m_skyShare;
  const horizonShare = m_horizonShare;
  const solarAbsorptance = m_solarAbsorptance;
  const opaqueEnd = m_opaqueEnd;
  const groundEnd = m_groundEnd;
  const exterior = m_exterior;
  const incident = r_incident;
  const incidentSum = r_incidentSum;
  const litShare = r_litShare;
  const s0 = s_s0;
  for (let i = 0; i < exterior; i++) {
    if (i == opaqueEnd) i = groundEnd;
    if (i >= exterior) break;
    const c = orientation[i];
    let share: f64 = 1;
    const row = litRow[i];
    if (row >= 0 && classBeam[c] > 0) {
      const base = row * 24 * 96;
      const a = lit[base + aa] * (1.0 - qx) + lit[base + ab] * qx;
      const b = lit[base + ba] * (1.0 - qx) + lit[base + bb] * qx;
      share = a * (1.0 - dx) + b * dx;
    }
    const beamOn = classBeam[c] * share;
    const at = 12 * i + month;
    const diffuseOn = max<f64>(0.0, classSky[c] * skyShare[at] + classHorizon[c] * horizonShare[at] + s_reflectedOn[i]);
    const on = beamOn + diffuseOn;
    incident[i] = on;
    incidentSum[i] = incidentSum[i] + on;
    litShare[i] = share;
    if (i < opaqueEnd) s0[i] = solarAbsorptance[i] * on;
    else {
      s_beamOn[i] = beamOn;
      s_diffuseOn[i] = diffuseOn;
    }
  }
  for (let i = groundEnd; i < exterior; i++) glassSun(i);
}

function glassSun(i: i32): void {
  const j = i - m_groundEnd;
  const beamOn = s_beamOn[i];
  const diffuseOn = s_diffuseOn[i];
  const cosine = s_classCosine[m_orientation[i]];
  const state = s_blindDown[j];
  const optics = m_glassOptics;
  const o = (2 * m_glassOf[j] + state) * OPTICS;
  const nodes = <i32>optics[o + OPTIC_NODES];
  const table = m_angleTable;
  const area = m_area[i];
  const share = m_glassShare[j];
  const z = m_zone1[i];
  const steps = ANGLE_STEPS;
  const ROW = steps + 1;
  const x = min<f64>(1.0, max<f64>(0.0, cosine)) * <f64>steps;
  const place = min<i32>(steps - 1, <i32>floor<f64>(x));
  const fraction = x - <f64>place;
  const row = <i32>optics[o + OPTIC_ROW] * ROW + place;
  const through = table[row] + fraction * (table[row + 1] - table[row]);
  const beam = area * share * through * beamOn;
  const diffuse = area * share * optics[o + OPTIC_DIFFUSE] * diffuseOn;
  s_beamThrough[j] = beam;
  s_diffuseThrough[j] = diffuse;
  r_transmitted[i] = beam + diffuse;
  r_transmittedSum[i] = r_transmittedSum[i] + (beam + diffuse);
  if (state == 1) s_diffuseIn[z] = s_diffuseIn[z] + beam;
  else if (n_traced == 0) s_beamIn[z] = s_beamIn[z] + beam;
  s_diffuseIn[z] = s_diffuseIn[z] + diffuse;
  let out: f64 = 0;
  let inward: f64 = 0;
  const at = GLASS_NODES * j;
  for (let node = 0; node < nodes; node++) {
    const r = row + (node + 1) * ROW;
    const absorbed = share * ((table[r] + fraction * (table[r + 1] - table[r])) * beamOn + optics[o + OPTIC_ABSORBED + node] * diffuseOn);
    const toAir = optics[o + OPTIC_TO_AIR + node] * absorbed;
    s_sunToAir[z] = s_sunToAir[z] + area * toAir;
    const kept = absorbed - toAir;
    s_glassHeat[at + node] = kept;
    const inside = s_glassShareIn[at + node];
    inward += kept * inside;
    out += kept * (1.0 - inside);
  }
  s_glassAbsorbed0[j] = out;
  s_glassAbsorbed1[j] = inward;
  s_s0[i] = out;
  s_s1[i] = inward;
}

export function sunInside(): void {
  const s0 = s_s0;
  const s1 = s_s1;
  const room0 = s_room0;
  const room1 = s_room1;
  const beamIn = s_beamIn;
  const diffuseIn = s_diffuseIn;
  const sunKept = s_sunKept;
  const sunBy = r_sunBy;
  const sunBySum = r_sunBySum;
  const area = m_area;
  const zone0 = m_zone0;
  const zone1 = m_zone1;
  const beamShare0 = m_beamShare0;
  const beamShare1 = m_beamShare1;
  const diffuseShare0 = m_diffuseShare0;
  const diffuseShare1 = m_diffuseShare1;
  const groundEnd = m_groundEnd;
  const exterior = m_exterior;
  const elements = m_elements;
  for (let i = 0; i < elements; i++) {
    const z1 = zone1[i];
    const in1 = room1[i] + beamShare1[i] * beamIn[z1] + diffuseShare1[i] * diffuseIn[z1];
    room1[i] = in1;
    s1[i] = s1[i] + in1;
    sunKept[z1] = sunKept[z1] + area[i] * in1;
    if (i < exterior) continue;
    const z0 = zone0[i];
    const in0 = room0[i] + beamShare0[i] * beamIn[z0] + diffuseShare0[i] * diffuseIn[z0];
    room0[i] = in0;
    s0[i] = s0[i] + in0;
    sunKept[z0] = sunKept[z0] + m_area0[i] * in0;
  }
  for (let i = groundEnd; i < exterior; i++) {
    const j = i - groundEnd;
    const by = 5 * zone1[i] + m_glassDirection[j];
    sunBy[by] = sunBy[by] + (s_beamThrough[j] + s_diffuseThrough[j]);
  }
  const zones = m_zones;
  for (let z = 0; z < zones; z++) {
    let through: f64 = 0;
    for (let d = 0; d < 5; d++) through += sunBy[5 * z + d];
    if (through <= 0) continue;
    const kept = sunKept[z] / through;
    for (let d = 5 * z; d < 5 * z + 5; d++) {
      const now = sunBy[d] * kept;
      sunBy[d] = now;
      sunBySum[d] = sunBySum[d] + now;
    }
  }
}
