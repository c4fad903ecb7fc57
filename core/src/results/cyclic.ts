import { solveSmall } from "../numeric/index.ts";
import type { YearKernel } from "../simulate/index.ts";

/** A day is cyclic when the state it would settle at moves no inside face by more than this, K. */
const CYCLIC = 0.02;
/** Humidity of a zone likewise, kg/kg. */
const CYCLIC_RATIO = 2e-5;
/** Days after which it is given up. */
export const MAX_DAYS = 90;
/** Days whose residuals are mixed for the next guess. */
const DEPTH = 5;

/**
 * Repeats a day until its end is its beginning. After each repeat every mode of every wall is put where it would settle if its
 * faces met the same day for ever, a = (a₁ − eⁿ·a₀)/(1 − eⁿ) with eⁿ its decay over the day; what is left, walls that look at
 * each other through the room, is settled by Anderson 1965 over the last five repeats. Walls that melt settle by repeating.
 * @param run one day, from the states as they are
 * @returns days it took, and whether it is cyclic
 */
export function settleDay(kernel: YearKernel, stepsPerDay: number, run: () => void): { days: number; cyclic: boolean } {
  const { model: m, state: s } = kernel;
  const n = s.a.length;
  const whole = Float64Array.from(m.decay, (d) => power(d, stepsPerDay));
  const weight = Float64Array.from(m.port0, (p, k) => p * p + m.port1[k] * m.port1[k]);
  const states: Float64Array[] = [];
  const residuals: Float64Array[] = [];
  const melting = s.melting.length > 0;
  const ratio = new Float64Array(m.zones);
  let faces = Float64Array.from(kernel.insideFaces);
  for (let day = 1; day <= MAX_DAYS; day++) {
    const start = Float64Array.from(s.a);
    ratio.set(kernel.record.humidityRatio);
    run();
    const settled = Float64Array.from(s.a, (a, k) => (a - whole[k] * start[k]) / (1 - whole[k]));
    const residual = settled.map((v, k) => v - start[k]);
    let off = 0;
    for (let i = 0; i < m.elements; i++) {
      let t = 0;
      for (let k = m.modeStart[i]; k < m.modeStart[i + 1]; k++) t += m.port1[k] * residual[k];
      off = Math.max(off, Math.abs(t));
    }
    if (melting) kernel.insideFaces.forEach((t, i) => (off = Math.max(off, Math.abs(t - faces[i]))));
    faces = Float64Array.from(kernel.insideFaces);
    const dry = kernel.record.humidityRatio.every((w, z) => Math.abs(w - ratio[z]) < CYCLIC_RATIO);
    if (off < CYCLIC && dry) {
      s.a.set(settled);
      s.step = 0;
      return { days: day, cyclic: true };
    }
    states.push(settled);
    residuals.push(residual);
    if (states.length > DEPTH) {
      states.shift();
      residuals.shift();
    }
    s.a.set(mixed(states, residuals, weight, n));
    // faces take up the states as they are now
    s.step = 0;
  }
  return { days: MAX_DAYS, cyclic: false };
}

function power(d: number, n: number): number {
  let out = 1;
  for (let i = 0; i < n; i++) out *= d;
  return out;
}

/** The next state: of all mixtures of the last ones that sum to one, that whose mixed residual is least (Anderson 1965). */
function mixed(states: readonly Float64Array[], residuals: readonly Float64Array[], weight: Float64Array, n: number): Float64Array {
  const last = states.length - 1;
  if (last === 0) return states[0];
  const matrix = new Float64Array(last * last);
  const rhs = new Float64Array(last);
  for (let i = 0; i < last; i++) {
    for (let k = 0; k < n; k++) rhs[i] += weight[k] * (residuals[last][k] - residuals[i][k]) * residuals[last][k];
    for (let j = 0; j <= i; j++) {
      let sum = 0;
      for (let k = 0; k < n; k++) sum += weight[k] * (residuals[last][k] - residuals[i][k]) * (residuals[last][k] - residuals[j][k]);
      matrix[i * last + j] = sum;
      matrix[j * last + i] = sum;
    }
  }
  let trace = 0;
  for (let i = 0; i < last; i++) trace += matrix[i * last + i];
  // a little on the diagonal keeps residuals that are alike from being divided by nothing
  for (let i = 0; i < last; i++) matrix[i * last + i] += 1e-12 * trace + 1e-300;
  const share = solveSmall(matrix, rhs, last);
  const out = Float64Array.from(states[last]);
  for (let i = 0; i < last; i++) for (let k = 0; k < n; k++) out[k] -= share[i] * (states[last][k] - states[i][k]);
  return out;
}
