// The books of a step and its states to the end of it: core/src/simulate/book.ts, operation by operation.
import {
  FLOW_appliances,
  FLOW_betweenZones,
  FLOW_cooling,
  FLOW_glassSun,
  FLOW_heating,
  FLOW_infiltration,
  FLOW_lighting,
  FLOW_openedAir,
  FLOW_outdoorAir,
  FLOW_people,
  FLOW_storage,
  FLOW_sun,
  FLOWS,
  k_elementGross,
  k_elementHeat,
  k_zoneGross,
  k_zoneResidual,
  m_airDensity,
  m_area,
  m_area0,
  m_decay,
  m_dt,
  m_elements,
  m_exterior,
  m_groundEnd,
  m_innerCapacity,
  m_meanPort0,
  m_meanPort1,
  m_modeStart,
  m_nominal0,
  m_nominal1,
  m_passWeight0,
  m_passWeight1,
  m_passZone0,
  m_passZone1,
  m_roleFlow,
  m_uptake0,
  m_uptake1,
  m_zone0,
  m_zone1,
  m_zones,
  m_zoneVolume,
  n_passNow,
  r_airTemperature,
  r_cooling,
  r_extraFlow,
  r_faceFlow0,
  r_faceFlow1,
  r_faceSum0,
  r_faceSum1,
  r_flows,
  r_flowSum,
  r_heating,
  r_radiantTemperature,
  s_a,
  s_airFlow,
  s_airStart,
  s_airSupply,
  s_drive,
  s_g01,
  s_g11,
  s_glassAbsorbed0,
  s_glassAbsorbed1,
  s_glassSun,
  s_hc0,
  s_hc1,
  s_ho,
  s_hourTerms,
  s_hr0,
  s_hr1,
  s_infiltrationFlow,
  s_input0,
  s_input1,
  s_p0,
  s_p1,
  s_passNow,
  s_room0,
  s_room1,
  s_s0,
  s_s1,
  s_sunKept,
  s_sunToAir,
  s_tin,
  s_tout,
  TERM_applianceConvective,
  TERM_applianceRadiant,
  TERM_lightingConvective,
  TERM_lightingRadiant,
  TERM_peopleConvective,
  TERM_peopleRadiant,
  Weather,
} from "./arrays";

export function book(): void {
  r_flows.clear(m_zones * FLOWS);
  s_glassSun.clear(m_zones);
  outdoorElements();
  partitionElements();
  advanceModes(0, m_groundEnd);
  advanceModes(m_exterior, m_elements);
  zones();
}

function outdoorElements(): void {
  const dt = m_dt;
  const exterior = m_exterior;
  const groundEnd = m_groundEnd;
  const area = m_area;
  const zone1 = m_zone1;
  const roleFlow = m_roleFlow;
  const nominal0 = m_nominal0;
  const nominal1 = m_nominal1;
  const input0 = s_input0;
  const input1 = s_input1;
  const s0 = s_s0;
  const s1 = s_s1;
  const hc1 = s_hc1;
  const hr1 = s_hr1;
  const ho = s_ho;
  const drive = s_drive;
  const tin = s_tin;
  const tout = s_tout;
  const room1 = s_room1;
  const glassSun = s_glassSun;
  const flows = r_flows;
  const faceFlow1 = r_faceFlow1;
  const faceSum1 = r_faceSum1;
  const air = r_airTemperature;
  const radiant = r_radiantTemperature;
  const zoneGross = k_zoneGross;
  const elementHeat = k_elementHeat;
  const elementGross = k_elementGross;
  const width = FLOWS;
  for (let i = 0; i < exterior; i++) {
    const A = area[i];
    const z1 = zone1[i];
    const t1 = tin[i];
    const t0 = tout[i];
    const out1 = hc1[i] * (t1 - air[z1]) + hr1[i] * (t1 - radiant[z1]);
    const q1 = s1[i] - out1;
    const q0 = drive[i] - ho[i] * t0 + s0[i];
    const into1 = A * out1;
    let told = into1 - A * room1[i];
    faceFlow1[i] = told;
    faceSum1[i] = faceSum1[i] + told;
    if (i >= groundEnd) {
      const j = i - groundEnd;
      const inward = A * (hc1[i] + hr1[i]) * (s_g01[i] * s_glassAbsorbed0[j] + s_g11[i] * s_glassAbsorbed1[j]);
      glassSun[z1] = glassSun[z1] + inward;
      told -= inward;
    } else {
      input0[i] = q0 + nominal0[i] * t0;
      input1[i] = q1 + nominal1[i] * t1;
    }
    const f = z1 * width + roleFlow[i];
    flows[f] = flows[f] + told;
    elementHeat[i] = elementHeat[i] + dt * A * (q0 + q1);
    elementGross[i] = elementGross[i] + dt * A * ((q0 < 0 ? -q0 : q0) + (q1 < 0 ? -q1 : q1));
    zoneGross[z1] = zoneGross[z1] + dt * (into1 < 0 ? -into1 : into1);
  }
}

function partitionElements(): void {
  const dt = m_dt;
  const exterior = m_exterior;
  const elements = m_elements;
  const area = m_area;
  const zone0 = m_zone0;
  const zone1 = m_zone1;
  const roleFlow = m_roleFlow;
  const nominal0 = m_nominal0;
  const nominal1 = m_nominal1;
  const input0 = s_input0;
  const input1 = s_input1;
  const s0 = s_s0;
  const s1 = s_s1;
  const hc0 = s_hc0;
  const hr0 = s_hr0;
  const hc1 = s_hc1;
  const hr1 = s_hr1;
  const tin = s_tin;
  const tout = s_tout;
  const room0 = s_room0;
  const room1 = s_room1;
  const flows = r_flows;
  const faceFlow0 = r_faceFlow0;
  const faceFlow1 = r_faceFlow1;
  const faceSum0 = r_faceSum0;
  const faceSum1 = r_faceSum1;
  const air = r_airTemperature;
  const radiant = r_radiantTemperature;
  const zoneGross = k_zoneGross;
  const elementHeat = k_elementHeat;
  const elementGross = k_elementGross;
  const width = FLOWS;
  for (let i = exterior; i < elements; i++) {
    const A = area[i];
    const z0 = zone0[i];
    const z1 = zone1[i];
    const t0 = tout[i];
    const t1 = tin[i];
    const out0 = hc0[i] * (t0 - air[z0]) + hr0[i] * (t0 - radiant[z0]);
    const out1 = hc1[i] * (t1 - air[z1]) + hr1[i] * (t1 - radiant[z1]);
    const q0 = s0[i] - out0;
    const q1 = s1[i] - out1;
    const B = m_area0[i];
    const told0 = B * (out0 - room0[i]);
    const told1 = A * (out1 - room1[i]);
    faceFlow0[i] = told0;
    faceFlow1[i] = told1;
    faceSum0[i] = faceSum0[i] + told0;
    faceSum1[i] = faceSum1[i] + told1;
    const flow = roleFlow[i];
    const f0 = z0 * width + flow;
    const f1 = z1 * width + flow;
    flows[f0] = flows[f0] + told0;
    flows[f1] = flows[f1] + told1;
    elementHeat[i] = elementHeat[i] + dt * A * (q0 + q1);
    elementGross[i] = elementGross[i] + dt * A * ((q0 < 0 ? -q0 : q0) + (q1 < 0 ? -q1 : q1));
    zoneGross[z0] = zoneGross[z0] + dt * B * (out0 < 0 ? -out0 : out0);
    zoneGross[z1] = zoneGross[z1] + dt * A * (out1 < 0 ? -out1 : out1);
    input0[i] = q0 + nominal0[i] * t0;
    input1[i] = q1 + nominal1[i] * t1;
  }
}

function advanceModes(first: i32, end: i32): void {
  const modeStart = m_modeStart;
  const decay = m_decay;
  const uptake0 = m_uptake0;
  const uptake1 = m_uptake1;
  const meanPort0 = m_meanPort0;
  const meanPort1 = m_meanPort1;
  const a = s_a;
  const p0 = s_p0;
  const p1 = s_p1;
  const input0 = s_input0;
  const input1 = s_input1;
  for (let i = first; i < end; i++) {
    const f0 = input0[i];
    const f1 = input1[i];
    const last = modeStart[i + 1];
    const into0 = f64x2.splat(f0);
    const into1 = f64x2.splat(f1);
    let x = f64x2.splat(0);
    let y = f64x2.splat(0);
    let k = modeStart[i];
    for (; k + 1 < last; k += 2) {
      const v = f64x2.add(f64x2.add(f64x2.mul(decay.two(k), a.two(k)), f64x2.mul(uptake0.two(k), into0)), f64x2.mul(uptake1.two(k), into1));
      a.put(k, v);
      x = f64x2.add(x, f64x2.mul(meanPort0.two(k), v));
      y = f64x2.add(y, f64x2.mul(meanPort1.two(k), v));
    }
    let xEven = f64x2.extract_lane(x, 0);
    let yEven = f64x2.extract_lane(y, 0);
    if (k < last) {
      const v = decay[k] * a[k] + uptake0[k] * f0 + uptake1[k] * f1;
      a[k] = v;
      xEven += meanPort0[k] * v;
      yEven += meanPort1[k] * v;
    }
    p0[i] = xEven + f64x2.extract_lane(x, 1);
    p1[i] = yEven + f64x2.extract_lane(y, 1);
  }
}

function zones(): void {
  const count = m_zones;
  const dt = m_dt;
  const flows = r_flows;
  const flowSum = r_flowSum;
  const airTemperature = r_airTemperature;
  const t = s_hourTerms;
  const cp = Weather.cp();
  const outdoor = Weather.outdoor();
  const width = FLOWS;
  const passing = n_passNow;
  for (let p = 0; p < passing; p++) {
    const a = m_passZone0[p];
    const b = m_passZone1[p];
    const q = cp * s_passNow[p] * (airTemperature[b] - airTemperature[a]);
    const fa = a * width + FLOW_betweenZones;
    const fb = b * width + FLOW_betweenZones;
    flows[fa] = flows[fa] + q * m_passWeight0[p];
    flows[fb] = flows[fb] - q * m_passWeight1[p];
  }
  for (let z = 0; z < count; z++) {
    const f = z * width;
    const air = airTemperature[z];
    flows[f + FLOW_sun] = s_sunKept[z];
    flows[f + FLOW_glassSun] = s_glassSun[z] + s_sunToAir[z];
    flows[f + FLOW_people] = t[TERM_peopleRadiant * count + z] + t[TERM_peopleConvective * count + z];
    flows[f + FLOW_lighting] = t[TERM_lightingRadiant * count + z] + t[TERM_lightingConvective * count + z];
    flows[f + FLOW_appliances] = t[TERM_applianceRadiant * count + z] + t[TERM_applianceConvective * count + z];
    flows[f + FLOW_heating] = r_heating[z];
    flows[f + FLOW_cooling] = -r_cooling[z];
    flows[f + FLOW_infiltration] = cp * s_infiltrationFlow[z] * (outdoor - air);
    flows[f + FLOW_outdoorAir] = cp * s_airFlow[z] * (1.0 - s_airSupply[z]) * (outdoor - air);
    flows[f + FLOW_openedAir] = cp * r_extraFlow[z] * (outdoor - air);
    flows[f + FLOW_storage] = -((m_zoneVolume[z] * m_airDensity * cp + m_innerCapacity[z]) / dt) * (air - s_airStart[z]);
    let net: f64 = 0;
    let gross: f64 = 0;
    for (let j = f; j < f + width; j++) {
      const q = flows[j];
      flowSum[j] = flowSum[j] + q;
      net += q;
      gross += q < 0 ? -q : q;
    }
    k_zoneResidual[z] = k_zoneResidual[z] + dt * (net < 0 ? -net : net);
    k_zoneGross[z] = k_zoneGross[z] + dt * gross;
  }
}
