import { extraterrestrial, LEAST_COSINE, PEREZ_LIMITS, PEREZ_TABLE } from "../climate/index.ts";
import { ANGLE_STEPS } from "../fabric/index.ts";
import { LEAP_YEAR } from "../model/index.ts";
import { GLASS_NODES, OPTIC, OPTICS, type CompiledModel } from "./model.ts";
import { SKY, SUN, type KernelState } from "./state.ts";
import { reflectedSun } from "./reflectedSun.ts";
import type { StepKernel } from "./walks.ts";

const ROW = ANGLE_STEPS + 1;
/** Grid places of the sun in one row of the lit shares: 24 days of 96 quarter hours. */
const LIT_PLACES_A_ROW = 24 * 96;
/** Days whose extraterrestrial irradiance is read often. */
const OUTER = Float64Array.from({ length: LEAP_YEAR.days }, (_, d) => extraterrestrial(d));

/** Incident and transmitted sun of the step, and what is absorbed where. */
export function sunlight(m: CompiledModel, s: KernelState, kernel: StepKernel, hour: number, k: number): void {
  if (s.dark && s.weather.globalHorizontal[hour] <= 0) return;
  kernel.darken();
  s.sunAnew = true;
  s.dark = !skyOfStep(m, s, hour, k);
  if (s.dark) return;
  if (m.scheduledShades.length > 0) shadeBySchedule(m, s);
  reflectedSun(m, s, Math.floor(hour / 24), (hour % 24) + (k + 0.5) / m.stepsPerHour);
  kernel.sunOutside();
  if (m.traced.length > 0) tracedBeam(m, s);
  kernel.sunInside();
}

/** No sun anywhere. */
export function darken(s: KernelState): void {
  const { s0, s1, room0, room1, beamIn, diffuseIn, sunToAir, sunKept, glassAbsorbed0, glassAbsorbed1, beamThrough, diffuseThrough } = s;
  const { incident, litShare, transmitted, sunBy } = s.record;
  s0.fill(0);
  s1.fill(0);
  room0.fill(0);
  room1.fill(0);
  incident.fill(0);
  litShare.fill(0);
  transmitted.fill(0);
  beamIn.fill(0);
  diffuseIn.fill(0);
  sunToAir.fill(0);
  sunKept.fill(0);
  sunBy.fill(0);
  glassAbsorbed0.fill(0);
  glassAbsorbed1.fill(0);
  beamThrough.fill(0);
  diffuseThrough.fill(0);
  s.glassHeat.fill(0);
}

/** Sun and sky of the step in `s.sky`; the hour's means are kept over its sun-up part. @returns whether there is any sun */
function skyOfStep(m: CompiledModel, s: KernelState, hour: number, k: number): boolean {
  const global = s.weather.globalHorizontal[hour];
  if (global <= 0) return false;
  const n = m.stepsPerHour;
  const { suns } = s;
  const first = SUN * n * hour;
  // heights of the sun at the middles of all steps of the hour share out the hour's means
  let sum = 0;
  for (let j = 0; j < n; j++) {
    const z = suns[first + SUN * j + 2];
    if (z > 0) sum += z;
  }
  const at = first + SUN * k;
  const sun0 = suns[at];
  const sun1 = suns[at + 1];
  const height = suns[at + 2];
  const day = Math.floor(hour / 24);
  const month = m.year.monthOfDay[day];
  let diffuse = s.weather.diffuseHorizontal[hour];
  let beam = 0;
  if (sum > 0) {
    if (height <= 0) return false;
    beam = ((global - diffuse) * n) / sum;
    diffuse = (diffuse * n * height) / sum;
    const limit = OUTER[day];
    if (beam > limit) {
      diffuse += (beam - limit) * height;
      beam = limit;
    }
  } else diffuse = global;
  // Perez 1990 without objects or calls: circumsolar and horizon brightness of the diffuse part (see `perezSky`)
  let circumsolar = 0;
  let horizon = 0;
  if (!m.isotropic && height > 0 && diffuse > 0) {
    const k3 = suns[at + 4];
    const epsilon = ((diffuse + beam) / diffuse + k3) / (1 + k3);
    let bin = 0;
    while (bin < 7 && epsilon > PEREZ_LIMITS[bin]) bin++;
    const delta = (diffuse * suns[at + 5]) / OUTER[day];
    const z = suns[at + 3];
    const f = 6 * bin;
    circumsolar = PEREZ_TABLE[f] + PEREZ_TABLE[f + 1] * delta + PEREZ_TABLE[f + 2] * z;
    if (circumsolar < 0) circumsolar = 0;
    horizon = PEREZ_TABLE[f + 3] + PEREZ_TABLE[f + 4] * delta + PEREZ_TABLE[f + 5] * z;
  }
  // place in the lit-share table: between two of 24 days and two of 96 quarter hours
  const dayPlace = ((day + 0.5) * 24) / m.year.days - 0.5;
  const d0 = Math.floor(dayPlace);
  const rowA = ((d0 + 24) % 24) * 96;
  const rowB = ((d0 + 25) % 24) * 96;
  const quarter = ((hour % 24) + (k + 0.5) / n) * 4 - 0.5;
  const q0 = Math.floor(quarter);
  const qa = (q0 + 96) % 96;
  const qb = (q0 + 97) % 96;
  const { sky } = s;
  sky[SKY.EAST] = sun0 * m.planCosine - sun1 * m.planSine;
  sky[SKY.NORTH] = sun0 * m.planSine + sun1 * m.planCosine;
  sky[SKY.UP] = height;
  sky[SKY.DIRECT] = beam + (height > 0 ? (diffuse * circumsolar) / Math.max(LEAST_COSINE, height) : 0);
  sky[SKY.DIFFUSE] = diffuse;
  sky[SKY.CIRCUMSOLAR] = circumsolar;
  sky[SKY.HORIZON] = horizon;
  sky[SKY.ALBEDO] = m.albedo[month];
  sky[SKY.MONTH] = month;
  sky[SKY.LIT_AA] = rowA + qa;
  sky[SKY.LIT_AB] = rowA + qb;
  sky[SKY.LIT_BA] = rowB + qa;
  sky[SKY.LIT_BB] = rowB + qb;
  sky[SKY.LIT_HOUR] = quarter - q0;
  sky[SKY.LIT_DAY] = dayPlace - d0;
  return true;
}

/** Places of the four grid entries about the sun of a step. */
const LIT_PLACES = [SKY.LIT_AA, SKY.LIT_AB, SKY.LIT_BA, SKY.LIT_BB] as const;

/** Lit shares about the sun of the step, and views of the sky, of elements that something shades by schedule. */
function shadeBySchedule(m: CompiledModel, s: KernelState): void {
  const { lit, litRow, skyShare, horizonShare, scheduledShades } = m;
  const { sky, scheduled } = s;
  const month = sky[SKY.MONTH];
  for (let k = 0; k < scheduledShades.length; k++) {
    const { element, lit: free, sky: seen, horizon, takes } = scheduledShades[k];
    const base = litRow[element] * LIT_PLACES_A_ROW;
    let dome = seen[month];
    let band = horizon[month];
    for (let t = 0; t < takes.length; t++) {
      const held = 1 - scheduled[takes[t].schedule];
      dome -= held * takes[t].sky;
      band -= held * takes[t].horizon;
    }
    skyShare[12 * element + month] = dome;
    horizonShare[12 * element + month] = band;
    for (let c = 0; c < LIT_PLACES.length; c++) {
      const at = sky[LIT_PLACES[c]];
      let share = free[at];
      for (let t = 0; t < takes.length; t++) share -= (1 - scheduled[takes[t].schedule]) * takes[t].lit[at];
      lit[base + at] = share;
    }
  }
}

/** Sun on every outside face by its orientation and its shadows, and through the windows. */
export function sunOutside(m: CompiledModel, s: KernelState): void {
  const { sky } = s;
  const { incident, incidentSum, litShare } = s.record;
  const { s0, classBeam, classCosine, classSky, classHorizon, reflectedOn } = s;
  const sx = sky[SKY.EAST];
  const sy = sky[SKY.NORTH];
  const height = sky[SKY.UP];
  const direct = sky[SKY.DIRECT];
  const diffuse = sky[SKY.DIFFUSE];
  const circumsolar = sky[SKY.CIRCUMSOLAR];
  const horizon = sky[SKY.HORIZON];
  const month = sky[SKY.MONTH];
  for (let c = 0; c < classBeam.length; c++) {
    const cosine = m.classNormal[3 * c] * sx + m.classNormal[3 * c + 1] * sy + m.classNormal[3 * c + 2] * height;
    classCosine[c] = cosine;
    classBeam[c] = cosine > 0 ? direct * cosine : 0;
    classSky[c] = (diffuse * (1 - circumsolar) * (1 + m.classCos[c])) / 2;
    classHorizon[c] = diffuse * horizon * m.classSin[c];
  }
  const aa = sky[SKY.LIT_AA];
  const ab = sky[SKY.LIT_AB];
  const ba = sky[SKY.LIT_BA];
  const bb = sky[SKY.LIT_BB];
  const qx = sky[SKY.LIT_HOUR];
  const dx = sky[SKY.LIT_DAY];
  const { lit, litRow, orientation, skyShare, horizonShare, solarAbsorptance } = m;
  const { opaqueEnd, groundEnd, exterior } = m;
  for (let i = 0; i < exterior; i++) {
    if (i === opaqueEnd) i = groundEnd;
    if (i >= exterior) break;
    const c = orientation[i];
    let share = 1;
    const row = litRow[i];
    if (row >= 0 && classBeam[c] > 0) {
      const base = row * LIT_PLACES_A_ROW;
      const a = lit[base + aa] * (1 - qx) + lit[base + ab] * qx;
      const b = lit[base + ba] * (1 - qx) + lit[base + bb] * qx;
      share = a * (1 - dx) + b * dx;
    }
    const beamOn = classBeam[c] * share;
    const at = 12 * i + month;
    const diffuseOn = Math.max(0, classSky[c] * skyShare[at] + classHorizon[c] * horizonShare[at] + reflectedOn[i]);
    incident[i] = beamOn + diffuseOn;
    incidentSum[i] += beamOn + diffuseOn;
    litShare[i] = share;
    if (i < opaqueEnd) s0[i] = solarAbsorptance[i] * (beamOn + diffuseOn);
    else {
      s.beamOn[i] = beamOn;
      s.diffuseOn[i] = diffuseOn;
    }
  }
  for (let i = groundEnd; i < exterior; i++) glassSun(m, s, i);
}

/** What the faces of each room absorb of the sun that came in, and what stays by the direction it came from. */
export function sunInside(m: CompiledModel, s: KernelState): void {
  const { s0, s1, room0, room1, beamIn, diffuseIn, sunKept, beamThrough, diffuseThrough } = s;
  const { sunBy, sunBySum } = s.record;
  const { area, area0, groundEnd, exterior, zone0, zone1, beamShare0, beamShare1, diffuseShare0, diffuseShare1 } = m;
  for (let i = 0; i < m.elements; i++) {
    const z1 = zone1[i];
    const in1 = room1[i] + beamShare1[i] * beamIn[z1] + diffuseShare1[i] * diffuseIn[z1];
    room1[i] = in1;
    s1[i] += in1;
    sunKept[z1] += area[i] * in1;
    if (i < exterior) continue;
    const z0 = zone0[i];
    const in0 = room0[i] + beamShare0[i] * beamIn[z0] + diffuseShare0[i] * diffuseIn[z0];
    room0[i] = in0;
    s0[i] += in0;
    sunKept[z0] += area0[i] * in0;
  }
  // what stays is told by the direction it came from, in proportion to what came through
  for (let i = groundEnd; i < exterior; i++) {
    const j = i - groundEnd;
    sunBy[5 * zone1[i] + m.glassDirection[j]] += beamThrough[j] + diffuseThrough[j];
  }
  for (let z = 0; z < m.zones; z++) {
    let through = 0;
    for (let d = 0; d < 5; d++) through += sunBy[5 * z + d];
    if (through <= 0) continue;
    const kept = sunKept[z] / through;
    for (let d = 5 * z; d < 5 * z + 5; d++) {
      sunBy[d] *= kept;
      sunBySum[d] += sunBy[d];
    }
  }
}

/** Sun on one window: let through, absorbed by its panes and blind. Numbers come by arrays: as arguments each would be an object on the heap. */
function glassSun(m: CompiledModel, s: KernelState, i: number): void {
  const j = i - m.groundEnd;
  const beamOn = s.beamOn[i];
  const diffuseOn = s.diffuseOn[i];
  const cosine = s.classCosine[m.orientation[i]];
  const state = s.blindDown[j];
  const optics = m.glassOptics;
  const o = (2 * m.glassOf[j] + state) * OPTICS;
  const nodes = optics[o + OPTIC.NODES];
  const table = m.angleTable;
  const area = m.area[i];
  const share = m.glassShare[j];
  const z = m.zone1[i];
  const x = Math.min(1, Math.max(0, cosine)) * ANGLE_STEPS;
  const place = Math.min(ANGLE_STEPS - 1, Math.floor(x));
  const fraction = x - place;
  const row = optics[o + OPTIC.ROW] * ROW + place;
  const through = table[row] + fraction * (table[row + 1] - table[row]);
  const beam = area * share * through * beamOn;
  const diffuse = area * share * optics[o + OPTIC.DIFFUSE] * diffuseOn;
  s.beamThrough[j] = beam;
  s.diffuseThrough[j] = diffuse;
  s.record.transmitted[i] = beam + diffuse;
  s.record.transmittedSum[i] += beam + diffuse;
  // a blind scatters what it lets through; traced beam is shared out by itself
  if (state === 1) s.diffuseIn[z] += beam;
  else if (m.traced.length === 0) s.beamIn[z] += beam;
  s.diffuseIn[z] += diffuse;
  let out = 0;
  let inward = 0;
  for (let node = 0; node < nodes; node++) {
    const r = row + (node + 1) * ROW;
    const absorbed = share * ((table[r] + fraction * (table[r + 1] - table[r])) * beamOn + optics[o + OPTIC.ABSORBED + node] * diffuseOn);
    const toAir = optics[o + OPTIC.TO_AIR + node] * absorbed;
    s.sunToAir[z] += area * toAir;
    s.glassHeat[GLASS_NODES * j + node] = absorbed - toAir;
    const inside = s.glassShareIn[GLASS_NODES * j + node];
    inward += (absorbed - toAir) * inside;
    out += (absorbed - toAir) * (1 - inside);
  }
  s.glassAbsorbed0[j] = out;
  s.glassAbsorbed1[j] = inward;
  s.s0[i] = out;
  s.s1[i] = inward;
}

/** Beam of every window on the surfaces it strikes; what they throw back joins the diffuse light. */
function tracedBeam(m: CompiledModel, s: KernelState): void {
  const { sky } = s;
  const aa = sky[SKY.LIT_AA];
  const ab = sky[SKY.LIT_AB];
  const ba = sky[SKY.LIT_BA];
  const bb = sky[SKY.LIT_BB];
  const qx = sky[SKY.LIT_HOUR];
  const dx = sky[SKY.LIT_DAY];
  for (const t of m.traced) {
    const j = t.element - m.groundEnd;
    const beam = s.beamThrough[j];
    if (beam <= 0 || s.blindDown[j] === 1) continue;
    const z = m.zone1[t.element];
    const n = t.targets.length;
    let left = beam;
    for (let k = 0; k < n; k++) {
      const a = t.shares[aa * n + k] * (1 - qx) + t.shares[ab * n + k] * qx;
      const b = t.shares[ba * n + k] * (1 - qx) + t.shares[bb * n + k] * qx;
      const share = a * (1 - dx) + b * dx;
      if (share === 0) continue;
      const target = t.targets[k];
      const i = target >> 1;
      const absorbed = m.insideAbsorptance[target] * share * beam;
      left -= absorbed + m.insideTransmittance[target] * share * beam;
      if (target & 1) s.room1[i] += absorbed / m.area[i];
      else s.room0[i] += absorbed / m.area0[i];
    }
    s.diffuseIn[z] += left;
  }
}
