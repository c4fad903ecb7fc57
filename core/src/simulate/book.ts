import { TERM, type CompiledModel } from "./model.ts";
import { FLOW, FLOWS } from "./catalogue.ts";
import { inputInside, inputOutside } from "./films.ts";
import type { KernelState } from "./state.ts";

/** Every exchange once, from the coefficients of the last pass, with opposite signs on both sides. */
export function book(m: CompiledModel, s: KernelState): void {
  const { zones, dt, exterior, groundEnd } = m;
  const { s0, s1, hc0, hr0, hc1, hr1, tin, tout, room0, room1, correction0, correction1, glassSun, sunKept } = s;
  const r = s.record;
  const { flows, faceFlow0, faceFlow1, airTemperature, radiantTemperature } = r;
  const { zoneNet, zoneGross, elementHeat, elementGross } = s.books;
  const { area, zone0, zone1, roleFlow } = m;
  flows.fill(0);
  glassSun.fill(0);
  const t = s.hourTerms;
  for (let i = 0; i < m.elements; i++) {
    const A = area[i];
    const z1 = zone1[i];
    // heat from the face to air and other faces; the correction only moves it between faces
    const into1 = A * (hc1[i] * (tin[i] - airTemperature[z1]) + hr1[i] * (tin[i] - radiantTemperature[z1]) - correction1[i]);
    // what entered through glass and was absorbed here is counted where it entered, as sun
    let told = into1 - A * room1[i];
    if (i >= groundEnd && i < exterior) {
      // sun absorbed in the panes that flows inward, apart from what is conducted
      const j = i - groundEnd;
      const inward = A * (hc1[i] + hr1[i]) * (s.g01[i] * s.glassAbsorbed0[j] + s.g11[i] * s.glassAbsorbed1[j]);
      glassSun[z1] += inward;
      faceFlow1[i] = told;
      told -= inward;
    } else faceFlow1[i] = told;
    flows[z1 * FLOWS + roleFlow[i]] += told;
    let outer: number;
    if (i >= exterior) {
      const z0 = zone0[i];
      const into0 = A * (hc0[i] * (tout[i] - airTemperature[z0]) + hr0[i] * (tout[i] - radiantTemperature[z0]) - correction0[i]);
      const told0 = into0 - A * room0[i];
      faceFlow0[i] = told0;
      flows[z0 * FLOWS + roleFlow[i]] += told0;
      outer = A * s0[i] - into0;
      zoneGross[z0] += dt * Math.abs(into0);
    } else outer = A * (s.ho[i] * (s.env0[i] - tout[i]) + s0[i]);
    const inner = A * s1[i] - into1;
    elementHeat[i] += dt * (outer + inner);
    elementGross[i] += dt * (Math.abs(outer) + Math.abs(inner));
    zoneGross[z1] += dt * Math.abs(into1);
  }
  for (let c = 0; c < m.circuits.length; c++) {
    const i = m.circuits[c];
    const q = dt * area[i] * s.circuitHeat[i];
    elementHeat[i] += q;
    elementGross[i] += Math.abs(q);
  }
  const { cp, outdoor } = s.boundary;
  for (let p = 0; p < s.passNow.length; p++) {
    const a = m.passZone0[p];
    const b = m.passZone1[p];
    const q = cp * s.passNow[p] * (airTemperature[b] - airTemperature[a]);
    flows[a * FLOWS + FLOW.betweenZones] += q;
    flows[b * FLOWS + FLOW.betweenZones] -= q;
  }
  for (let z = 0; z < zones; z++) {
    const f = z * FLOWS;
    const air = airTemperature[z];
    flows[f + FLOW.sun] = sunKept[z];
    flows[f + FLOW.glassSun] = glassSun[z] + s.sunToAir[z];
    flows[f + FLOW.people] = t[TERM.peopleRadiant * zones + z] + t[TERM.peopleConvective * zones + z];
    flows[f + FLOW.lighting] = t[TERM.lightingRadiant * zones + z] + t[TERM.lightingConvective * zones + z];
    flows[f + FLOW.appliances] = t[TERM.applianceRadiant * zones + z] + t[TERM.applianceConvective * zones + z];
    flows[f + FLOW.heating] = r.heating[z];
    flows[f + FLOW.cooling] = -r.cooling[z];
    flows[f + FLOW.infiltration] = cp * s.infiltrationFlow[z] * (outdoor - air);
    flows[f + FLOW.outdoorAir] = cp * s.airFlow[z] * (1 - s.airSupply[z]) * (outdoor - air);
    flows[f + FLOW.openedAir] = cp * r.extraFlow[z] * (outdoor - air);
    flows[f + FLOW.storage] = -((m.zoneVolume[z] * m.airDensity * cp) / dt) * (air - s.airStart[z]);
    let net = 0;
    let gross = 0;
    for (let j = 0; j < FLOWS; j++) {
      const q = flows[f + j];
      net += q;
      gross += q < 0 ? -q : q;
    }
    zoneNet[z] += dt * net;
    zoneGross[z] += dt * gross;
  }
}

/** States to the end of the step. */
export function advance(m: CompiledModel, s: KernelState): void {
  const { s0, s1, hc0, hr0, hc1, hr1, env0, ho, correction0, correction1 } = s;
  const { airTemperature: air, radiantTemperature: radiant } = s.record;
  const { a, tout, tin } = s;
  const { modeStart, decay, uptake0, uptake1, nominal0, nominal1, zone0, zone1, groundEnd, exterior, elements } = m;
  if (m.circuits.length > 0) s.planeStart.set(a);
  for (let i = 0; i < groundEnd; i++) {
    const z1 = zone1[i];
    const f1 = hc1[i] * air[z1] + hr1[i] * radiant[z1] + s1[i] + correction1[i] - (hc1[i] + hr1[i] - nominal1[i]) * tin[i];
    const f0 = ho[i] * (env0[i] - tout[i]) + s0[i] + nominal0[i] * tout[i];
    const end = modeStart[i + 1];
    for (let k = modeStart[i]; k < end; k++) a[k] = decay[k] * a[k] + uptake0[k] * f0 + uptake1[k] * f1;
  }
  for (let i = exterior; i < elements; i++) {
    const z0 = zone0[i];
    const z1 = zone1[i];
    const f1 = hc1[i] * air[z1] + hr1[i] * radiant[z1] + s1[i] + correction1[i] - (hc1[i] + hr1[i] - nominal1[i]) * tin[i];
    const f0 = hc0[i] * air[z0] + hr0[i] * radiant[z0] + s0[i] + correction0[i] - (hc0[i] + hr0[i] - nominal0[i]) * tout[i];
    const end = modeStart[i + 1];
    for (let k = modeStart[i]; k < end; k++) a[k] = decay[k] * a[k] + uptake0[k] * f0 + uptake1[k] * f1;
  }
  for (let c = 0; c < m.circuits.length; c++) {
    const i = m.circuits[c];
    const q = s.circuitHeat[i];
    s.input0[i] = inputOutside(m, s, i) + nominal0[i] * tout[i];
    s.input1[i] = inputInside(m, s, i) + nominal1[i] * tin[i];
    if (q !== 0) for (let k = modeStart[i]; k < modeStart[i + 1]; k++) a[k] += m.circuitUptake[k] * q;
  }
  for (let w = 0; w < s.melting.length; w++) {
    const i = m.meltings[w].element;
    s.melting[w].advance(inputOutside(m, s, i), inputInside(m, s, i));
  }
}
