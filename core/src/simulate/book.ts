import { TERM, type CompiledModel } from "./model.ts";
import { FLOW, FLOWS } from "./catalogue.ts";
import { inputInside, inputOutside } from "./films.ts";
import type { KernelState } from "./state.ts";

// constants of the module: a look-up by name in the loop costs
const FLOW_SUN = FLOW.sun;
const FLOW_GLASS_SUN = FLOW.glassSun;
const FLOW_PEOPLE = FLOW.people;
const FLOW_LIGHTING = FLOW.lighting;
const FLOW_APPLIANCES = FLOW.appliances;
const FLOW_HEATING = FLOW.heating;
const FLOW_COOLING = FLOW.cooling;
const FLOW_INFILTRATION = FLOW.infiltration;
const FLOW_OUTDOOR_AIR = FLOW.outdoorAir;
const FLOW_OPENED = FLOW.openedAir;
const FLOW_BETWEEN = FLOW.betweenZones;
const FLOW_STORAGE = FLOW.storage;

/**
 * Every exchange once, from the coefficients of the last pass, with opposite signs on both sides; then the
 * states of all elements to the end of the step.
 */
export function book(m: CompiledModel, s: KernelState): void {
  s.record.flows.fill(0);
  s.glassSun.fill(0);
  outdoorElements(m, s);
  partitionElements(m, s);
  advanceModes(m, s, 0, m.groundEnd);
  advanceModes(m, s, m.exterior, m.elements);
  zones(m, s);
}

/** Before the books: walls that melt to the end of the step, and states that circuits' planes are read from. */
export function advanceMelting(m: CompiledModel, s: KernelState): void {
  if (m.circuits.length > 0) s.planeStart.set(s.a);
  for (let w = 0; w < s.melting.length; w++) {
    const i = m.meltings[w].element;
    s.melting[w].advance(inputOutside(m, s, i), inputInside(m, s, i));
  }
}

/** Opaque faces, ground and glass: what each gives its zone, what it takes from both sides, and its modes. */
function outdoorElements(m: CompiledModel, s: KernelState): void {
  const { dt, exterior, groundEnd, area, zone1, roleFlow, nominal0, nominal1 } = m;
  const { input0, input1, s0, s1, hc1, hr1, ho, drive, tin, tout, room1, glassSun, g01, g11, glassAbsorbed0, glassAbsorbed1 } = s;
  const { flows, faceFlow1, faceSum1, airTemperature, radiantTemperature } = s.record;
  const { zoneGross, elementHeat, elementGross } = s.books;
  for (let i = 0; i < exterior; i++) {
    const A = area[i];
    const z1 = zone1[i];
    const t1 = tin[i];
    const t0 = tout[i];
    // heat from the face to air and other faces
    const out1 = hc1[i] * (t1 - airTemperature[z1]) + hr1[i] * (t1 - radiantTemperature[z1]);
    const q1 = s1[i] - out1;
    const q0 = drive[i] - ho[i] * t0 + s0[i];
    const into1 = A * out1;
    // what entered through glass and was absorbed here is counted where it entered, as sun; what full exchange moves between faces is not the zone's
    let told = into1 - A * room1[i];
    faceFlow1[i] = told;
    faceSum1[i] += told;
    if (i >= groundEnd) {
      // sun absorbed in the panes that flows inward, apart from what is conducted
      const j = i - groundEnd;
      const inward = A * (hc1[i] + hr1[i]) * (g01[i] * glassAbsorbed0[j] + g11[i] * glassAbsorbed1[j]);
      glassSun[z1] += inward;
      told -= inward;
    } else {
      input0[i] = q0 + nominal0[i] * t0;
      input1[i] = q1 + nominal1[i] * t1;
    }
    flows[z1 * FLOWS + roleFlow[i]] += told;
    elementHeat[i] += dt * A * (q0 + q1);
    elementGross[i] += dt * A * ((q0 < 0 ? -q0 : q0) + (q1 < 0 ? -q1 : q1));
    zoneGross[z1] += dt * (into1 < 0 ? -into1 : into1);
  }
}

/** Inner walls and floors, each with a zone on both sides. */
function partitionElements(m: CompiledModel, s: KernelState): void {
  const { dt, exterior, elements, area, area0, zone0, zone1, roleFlow, nominal0, nominal1 } = m;
  const { input0, input1, s0, s1, hc0, hr0, hc1, hr1, tin, tout, room0, room1 } = s;
  const { flows, faceFlow0, faceFlow1, faceSum0, faceSum1, airTemperature, radiantTemperature } = s.record;
  const { zoneGross, elementHeat, elementGross } = s.books;
  for (let i = exterior; i < elements; i++) {
    const A = area[i];
    const z0 = zone0[i];
    const z1 = zone1[i];
    const t0 = tout[i];
    const t1 = tin[i];
    const out0 = hc0[i] * (t0 - airTemperature[z0]) + hr0[i] * (t0 - radiantTemperature[z0]);
    const out1 = hc1[i] * (t1 - airTemperature[z1]) + hr1[i] * (t1 - radiantTemperature[z1]);
    const q0 = s0[i] - out0;
    const q1 = s1[i] - out1;
    const B = area0[i];
    const told0 = B * (out0 - room0[i]);
    const told1 = A * (out1 - room1[i]);
    faceFlow0[i] = told0;
    faceFlow1[i] = told1;
    faceSum0[i] += told0;
    faceSum1[i] += told1;
    const flow = roleFlow[i];
    flows[z0 * FLOWS + flow] += told0;
    flows[z1 * FLOWS + flow] += told1;
    elementHeat[i] += dt * A * (q0 + q1);
    elementGross[i] += dt * A * ((q0 < 0 ? -q0 : q0) + (q1 < 0 ? -q1 : q1));
    zoneGross[z0] += dt * B * (out0 < 0 ? -out0 : out0);
    zoneGross[z1] += dt * A * (out1 < 0 ? -out1 : out1);
    input0[i] = q0 + nominal0[i] * t0;
    input1[i] = q1 + nominal1[i] * t1;
  }
}

/** Modes of elements from `first` to `end` to the end of the step, and what they bring to the faces in the next one. */
function advanceModes(m: CompiledModel, s: KernelState, first: number, end: number): void {
  const { modeStart, decay, uptake0, uptake1, meanPort0, meanPort1 } = m;
  const { a, p0, p1, input0, input1 } = s;
  for (let i = first; i < end; i++) {
    const f0 = input0[i];
    const f1 = input1[i];
    const last = modeStart[i + 1];
    // every other mode in a sum of its own, as a kernel that walks two at once adds them up
    let xEven = 0;
    let xOdd = 0;
    let yEven = 0;
    let yOdd = 0;
    let k = modeStart[i];
    for (; k + 1 < last; k += 2) {
      const v = decay[k] * a[k] + uptake0[k] * f0 + uptake1[k] * f1;
      const w = decay[k + 1] * a[k + 1] + uptake0[k + 1] * f0 + uptake1[k + 1] * f1;
      a[k] = v;
      a[k + 1] = w;
      xEven += meanPort0[k] * v;
      xOdd += meanPort0[k + 1] * w;
      yEven += meanPort1[k] * v;
      yOdd += meanPort1[k + 1] * w;
    }
    if (k < last) {
      const v = decay[k] * a[k] + uptake0[k] * f0 + uptake1[k] * f1;
      a[k] = v;
      xEven += meanPort0[k] * v;
      yEven += meanPort1[k] * v;
    }
    p0[i] = xEven + xOdd;
    p1[i] = yEven + yOdd;
  }
}

/** After the books: heat of embedded circuits at their planes. */
export function circuits(m: CompiledModel, s: KernelState): void {
  const { a } = s;
  const { elementHeat, elementGross } = s.books;
  for (let c = 0; c < m.circuits.length; c++) {
    const i = m.circuits[c];
    const flux = s.circuitHeat[i];
    const q = m.dt * m.area[i] * flux;
    elementHeat[i] += q;
    elementGross[i] += Math.abs(q);
    if (flux === 0) continue;
    for (let k = m.modeStart[i]; k < m.modeStart[i + 1]; k++) {
      const more = m.circuitUptake[k] * flux;
      a[k] += more;
      s.p0[i] += m.meanPort0[k] * more;
      s.p1[i] += m.meanPort1[k] * more;
    }
  }
}

/** Zones: air, gains, loads and what the air stores; the sum of all is the residual of the step. */
function zones(m: CompiledModel, s: KernelState): void {
  const { zones: count, dt } = m;
  const r = s.record;
  const { flows, flowSum, airTemperature } = r;
  const { zoneResidual, zoneGross } = s.books;
  const t = s.hourTerms;
  const { cp, outdoor } = s.boundary;
  for (let p = 0; p < s.passNow.length; p++) {
    const a = m.passZone0[p];
    const b = m.passZone1[p];
    const q = cp * s.passNow[p] * (airTemperature[b] - airTemperature[a]);
    flows[a * FLOWS + FLOW_BETWEEN] += q * m.passWeight0[p];
    flows[b * FLOWS + FLOW_BETWEEN] -= q * m.passWeight1[p];
  }
  for (let z = 0; z < count; z++) {
    const f = z * FLOWS;
    const air = airTemperature[z];
    flows[f + FLOW_SUN] = s.sunKept[z];
    flows[f + FLOW_GLASS_SUN] = s.glassSun[z] + s.sunToAir[z];
    flows[f + FLOW_PEOPLE] = t[TERM.peopleRadiant * count + z] + t[TERM.peopleConvective * count + z];
    flows[f + FLOW_LIGHTING] = t[TERM.lightingRadiant * count + z] + t[TERM.lightingConvective * count + z];
    flows[f + FLOW_APPLIANCES] = t[TERM.applianceRadiant * count + z] + t[TERM.applianceConvective * count + z];
    flows[f + FLOW_HEATING] = r.heating[z];
    flows[f + FLOW_COOLING] = -r.cooling[z];
    flows[f + FLOW_INFILTRATION] = cp * s.infiltrationFlow[z] * (outdoor - air);
    flows[f + FLOW_OUTDOOR_AIR] = cp * s.airFlow[z] * (1 - s.airSupply[z]) * (outdoor - air);
    flows[f + FLOW_OPENED] = cp * r.extraFlow[z] * (outdoor - air);
    flows[f + FLOW_STORAGE] = -((m.zoneVolume[z] * m.airDensity * cp + m.innerCapacity[z]) / dt) * (air - s.airStart[z]);
    let net = 0;
    let gross = 0;
    for (let j = f; j < f + FLOWS; j++) {
      const q = flows[j];
      flowSum[j] += q;
      net += q;
      gross += q < 0 ? -q : q;
    }
    zoneResidual[z] += dt * (net < 0 ? -net : net);
    zoneGross[z] += dt * gross;
  }
}
