import { backSubstituteTransposed, cholesky, exp, PI, solveTridiagonal, symmetricEigen } from "../numeric/index.ts";
import { circuitResponse, faceResponse, isPlane, modulus, type Complex, type LayerPhysics } from "./transfer.ts";

/**
 * A one-dimensional wall reduced to a few decoupled modes with two ports (0 outside, 1 inside) and, where
 * a circuit is embedded, a third at its plane. Mode k obeys τ ȧ = −a + v·f, and the temperatures at the
 * ports are T = Σ v a, where f is the heat input at a face beyond the nominal film,
 * f = h·T_environment + S + (h_nominal − h)·T_face, and the heat of the circuit at its plane, W/m².
 */
export interface ReducedWall {
  /** Number of modes. */
  readonly modes: number;
  /** Time constant of each mode with nominal films, s; 0 for the modes of a wall without mass. */
  readonly tau: Float64Array;
  /** Port weights of each mode, [2k] outside, [2k+1] inside, √(K·m²/W). */
  readonly port: Float64Array;
  /** Weights of the embedded circuit's plane, √(K·m²/W); null where there is none. */
  readonly circuit: Float64Array | null;
  /** Temperatures inside the wall from the modes: T = Σ_k weights[p·modes + k]·a_k at borders and middles of its layers. */
  readonly places: readonly { readonly layer: number; readonly at: 0 | 0.5 | 1 }[];
  readonly weights: Float64Array;
  /** Heat content per unit mode, J/m² per unit of a; Σ content·a is the heat stored above 0 °C. */
  readonly content: Float64Array;
  /** Nominal films, W/m²K. */
  readonly films: readonly [number, number];
  /** Surface-to-surface conductance, W/m²K. */
  readonly conductance: number;
  /** Heat capacity of the layers, J/m²K. */
  readonly capacity: number;
  /** Largest error against the transfer matrix at 24 h and 6 h, 1. */
  readonly error: number;
}

export class ReductionError extends Error {}

const HOUR = 3600;
/** Cells a layer of the fine model. */
const CELLS = 80;
/** Periods after which 24 h and 6 h within the limit are enough; further ones serve walls that still miss it. */
const USUAL_PERIODS = 5;
/** Largest miss of the transfer matrix at 24 h and 6 h, 1. */
const ERROR_LIMIT = 0.01;
/** Cells a layer of the plain finite-volume modes. */
const FALLBACK_CELLS = 40;
/** Response below this share of the steady one is not checked, but must stay below the second. */
const NEGLIGIBLE = 0.02;
const FAINT = 0.04;
/** A period so long that the response is the steady one, s. */
const STEADY = 1e15;
const BASIS_PERIODS = [24 * HOUR, 6 * HOUR, HOUR, 12 * HOUR, 0.5 * HOUR, 3 * HOUR, 48 * HOUR, 2 * HOUR];
/** Vectors added to what an assembly needs, for the refinement study of the verification: the basis runs on by this many periods. */
export interface ReductionOptions {
  readonly further?: number;
}
const CHECKS: readonly (readonly [period: number, tolerance: number])[] = [
  [24 * HOUR, 0.002],
  [6 * HOUR, 0.004],
  [HOUR, 0.02],
];

interface FineModel {
  readonly capacity: Float64Array;
  readonly conductance: Float64Array;
  /** Node of the embedded circuit, −1: none. */
  readonly plane: number;
  readonly places: readonly { readonly layer: number; readonly at: 0 | 0.5 | 1; readonly node: number }[];
}

/** Symmetric finite-volume model: nodes on cell borders, half cells at the ends, resistances between. */
function fineModel(layers: readonly LayerPhysics[], cells: number): FineModel {
  const capacity = [0];
  const conductance: number[] = [];
  const places: { layer: number; at: 0 | 0.5 | 1; node: number }[] = [];
  let plane = -1;
  layers.forEach((l, layer) => {
    if (isPlane(l)) {
      plane = capacity.length - 1;
      return;
    }
    const mass = l.density * l.specificHeat * l.thickness;
    const first = capacity.length - 1;
    if (mass === 0) {
      conductance.push(1 / l.resistance);
      capacity.push(0);
    } else {
      const half = mass / (2 * cells);
      for (let i = 0; i < cells; i++) {
        capacity[capacity.length - 1] += half;
        capacity.push(half);
        conductance.push(cells / l.resistance);
      }
      places.push({ layer, at: 0.5, node: first + cells / 2 });
    }
    places.push({ layer, at: 0, node: first }, { layer, at: 1, node: capacity.length - 1 });
  });
  places.sort((x, y) => x.layer - y.layer || x.at - y.at);
  return { capacity: Float64Array.from(capacity), conductance: Float64Array.from(conductance), plane, places };
}

/** y = (K + films + s·C) x of the fine model. */
function apply(m: FineModel, films: readonly [number, number], s: number, x: Float64Array): Float64Array {
  const n = x.length;
  const y = new Float64Array(n);
  for (let i = 0; i < n; i++) y[i] = s * m.capacity[i] * x[i];
  for (let i = 0; i + 1 < n; i++) {
    const q = m.conductance[i] * (x[i] - x[i + 1]);
    y[i] += q;
    y[i + 1] -= q;
  }
  y[0] += films[0] * x[0];
  y[n - 1] += films[1] * x[n - 1];
  return y;
}

/** Response (K + s·C)⁻¹ e of the fine model to a unit input at one port. */
function response(m: FineModel, s: number, port: 0 | 1 | 2): Float64Array {
  const n = m.capacity.length;
  const lower = new Float64Array(n);
  const upper = new Float64Array(n);
  const diagonal = new Float64Array(n);
  for (let i = 0; i < n; i++) diagonal[i] = s * m.capacity[i];
  for (let i = 0; i + 1 < n; i++) {
    diagonal[i] += m.conductance[i];
    diagonal[i + 1] += m.conductance[i];
    upper[i] = -m.conductance[i];
    lower[i + 1] = -m.conductance[i];
  }
  const rhs = new Float64Array(n);
  rhs[port === 0 ? 0 : port === 1 ? n - 1 : m.plane] = 1;
  return solveTridiagonal(lower, diagonal, upper, rhs);
}

const inner = (a: Float64Array, b: Float64Array): number => {
  let s = 0;
  for (let i = 0; i < a.length; i++) s += a[i] * b[i];
  return s;
};

/**
 * Reduces layers (from outside to inside) once: a fine model is projected on the uniform temperature,
 * the steady gradient and the port responses at periods of 24 h, 6 h, 1 h (and 12, 0.5, 3, 48 and 2 h where needed), then
 * diagonalised with nominal films. Vectors are added only until the transfer matrix (ISO 13786) is met.
 * The uniform temperature is in the basis, so heat content is exact; the steady gradient is, so U is.
 * @param films nominal films, W/m²K: 25 outside and 7.7 inside, 7.7 on both sides of a partition
 * @param slowOutside the outside temperature changes over weeks only (ground): outside responses are left out
 * @throws ReductionError when neither the projection nor the plain finite-volume modes meet the matrix
 */
export function reduceWall(
  layers: readonly LayerPhysics[],
  films: readonly [number, number] = [25, 7.7],
  slowOutside = false,
  options: ReductionOptions = {},
): ReducedWall {
  const key = JSON.stringify([layers, films, slowOutside, options]);
  let wall = cache.get(key);
  if (!wall) {
    if (cache.size > 500) cache.clear();
    cache.set(key, (wall = reduce(layers, films, slowOutside, options.further ?? 0)));
  }
  return wall;
}

/** Reductions by content: an edit elsewhere does not redo them. */
const cache = new Map<string, ReducedWall>();

function reduce(layers: readonly LayerPhysics[], films: readonly [number, number], slowOutside: boolean, further: number): ReducedWall {
  let met = -1;
  const fine = fineModel(layers, CELLS);
  const n = fine.capacity.length;
  const mass = fine.capacity.reduce((s, c) => s + c, 0);
  const gradient = new Float64Array(n);
  for (let i = 1; i < n; i++) gradient[i] = gradient[i - 1] + 1 / fine.conductance[i - 1];
  const basis: Float64Array[] = [];
  const images: Float64Array[] = [];
  const metric = (2 * PI) / BASIS_PERIODS[0];
  const include = (vector: Float64Array): void => {
    const v = Float64Array.from(vector);
    const before = Math.sqrt(inner(v, apply(fine, films, metric, v)));
    for (let pass = 0; pass < 2; pass++)
      for (let k = 0; k < basis.length; k++) {
        const c = inner(v, images[k]);
        for (let i = 0; i < n; i++) v[i] -= c * basis[k][i];
      }
    const image = apply(fine, films, metric, v);
    const norm = Math.sqrt(inner(v, image));
    if (!(norm > 1e-6 * before)) return;
    for (let i = 0; i < n; i++) {
      v[i] /= norm;
      image[i] /= norm;
    }
    basis.push(v);
    images.push(image);
  };
  include(new Float64Array(n).fill(1));
  include(gradient);
  // heat put in steadily at the plane bends the gradient there
  if (fine.plane >= 0) include(gradient.map((r) => Math.min(r, gradient[fine.plane])));
  const totals = { conductance: 1 / layers.reduce((s, l) => s + l.resistance, 0), capacity: mass };
  if (mass === 0) return { ...project(fine, basis, films), ...totals, error: 0 };
  for (const [i, period] of BASIS_PERIODS.entries()) {
    const sigma = (2 * PI) / period;
    if (!slowOutside) include(response(fine, sigma, 0));
    include(response(fine, sigma, 1));
    if (fine.plane >= 0) include(response(fine, sigma, 2));
    const wall = project(fine, basis, films);
    const check = checkAgainstMatrix(wall, layers, slowOutside);
    const best = { ...wall, ...totals, error: check.error };
    if (met < 0 && (check.met || (i >= USUAL_PERIODS - 1 && check.error < ERROR_LIMIT))) met = i;
    if (met >= 0 && i >= Math.min(met + further, BASIS_PERIODS.length - 1)) return best;
  }
  const coarse = fineModel(layers, FALLBACK_CELLS);
  const unit = Array.from({ length: coarse.capacity.length }, (_, i) => {
    const e = new Float64Array(coarse.capacity.length);
    e[i] = 1;
    return e;
  });
  const wall = project(coarse, unit, films);
  const check = checkAgainstMatrix(wall, layers, slowOutside);
  if (check.error > ERROR_LIMIT) throw new ReductionError(`the assembly's response misses its transfer matrix by ${(100 * check.error).toFixed(1)} %`);
  return { ...wall, ...totals, error: check.error };
}

/** Galerkin projection on a basis, then diagonalisation of the pencil (films in the conductances). */
function project(fine: FineModel, basis: readonly Float64Array[], films: readonly [number, number]): Omit<ReducedWall, "error" | "conductance" | "capacity"> {
  const m = basis.length;
  const n = fine.capacity.length;
  const k = new Float64Array(m * m);
  const c = new Float64Array(m * m);
  for (let j = 0; j < m; j++) {
    const kx = apply(fine, films, 0, basis[j]);
    const cx = Float64Array.from(basis[j], (x, i) => x * fine.capacity[i]);
    for (let i = 0; i < m; i++) {
      k[i * m + j] = inner(basis[i], kx);
      c[i * m + j] = inner(basis[i], cx);
    }
  }
  for (let i = 0; i < m; i++) for (let j = 0; j < i; j++) k[i * m + j] = k[j * m + i] = (k[i * m + j] + k[j * m + i]) / 2;
  const l = cholesky(k, m);
  // L⁻¹ C L⁻ᵀ, by columns
  const half = new Float64Array(m * m);
  for (let j = 0; j < m; j++)
    for (let i = 0; i < m; i++) {
      let s = c[i * m + j];
      for (let p = 0; p < i; p++) s -= l[i * m + p] * half[p * m + j];
      half[i * m + j] = s / l[i * m + i];
    }
  const scaled = new Float64Array(m * m);
  for (let i = 0; i < m; i++)
    for (let j = 0; j < m; j++) {
      let s = half[i * m + j];
      for (let p = 0; p < j; p++) s -= l[j * m + p] * scaled[i * m + p];
      scaled[i * m + j] = s / l[j * m + j];
    }
  for (let i = 0; i < m; i++) for (let j = 0; j < i; j++) scaled[i * m + j] = scaled[j * m + i] = (scaled[i * m + j] + scaled[j * m + i]) / 2;
  const { values, vectors } = symmetricEigen(scaled, m);
  const tau = new Float64Array(m);
  const port = new Float64Array(2 * m);
  const content = new Float64Array(m);
  const circuit = fine.plane >= 0 ? new Float64Array(m) : null;
  const weights = new Float64Array(fine.places.length * m);
  const column = new Float64Array(m);
  for (let q = 0; q < m; q++) {
    tau[q] = Math.max(0, values[q]);
    if (tau[q] < 1e-9 * values[0] || values[0] < 1e-6) tau[q] = 0;
    for (let i = 0; i < m; i++) column[i] = vectors[i * m + q];
    backSubstituteTransposed(l, m, column);
    let outside = 0;
    let inside = 0;
    for (let i = 0; i < m; i++) {
      outside += basis[i][0] * column[i];
      inside += basis[i][n - 1] * column[i];
    }
    port[2 * q] = outside;
    port[2 * q + 1] = inside;
    content[q] = tau[q] * (outside * films[0] + inside * films[1]);
    const at = (node: number): number => {
      let s = 0;
      for (let i = 0; i < m; i++) s += basis[i][node] * column[i];
      return s;
    };
    if (circuit) circuit[q] = at(fine.plane);
    fine.places.forEach((p, i) => (weights[i * m + q] = at(p.node)));
  }
  return { modes: m, tau, port, circuit, places: fine.places.map(({ layer, at }) => ({ layer, at })), weights, content, films };
}

/** Response of the reduced wall, K per W/m², for a sinusoid. @see faceResponse */
export function reducedResponse(w: Pick<ReducedWall, "modes" | "tau" | "port">, period: number, face: 0 | 1, input: 0 | 1): Complex {
  let re = 0;
  let im = 0;
  for (let k = 0; k < w.modes; k++) {
    const x = ((2 * PI) / period) * w.tau[k];
    const g = (w.port[2 * k + face] * w.port[2 * k + input]) / (1 + x * x);
    re += g;
    im -= g * x;
  }
  return [re, im];
}

/** Response of the reduced wall at the outside face, the inside face or the plane (0, 1, 2) to the circuit's heat, K per W/m². */
export function circuitReduced(w: Pick<ReducedWall, "modes" | "tau" | "port" | "circuit">, period: number, at: 0 | 1 | 2): Complex {
  let re = 0;
  let im = 0;
  if (w.circuit)
    for (let k = 0; k < w.modes; k++) {
      const x = ((2 * PI) / period) * w.tau[k];
      const g = ((at === 2 ? w.circuit[k] : w.port[2 * k + at]) * w.circuit[k]) / (1 + x * x);
      re += g;
      im -= g * x;
    }
  return [re, im];
}

function checkAgainstMatrix(
  w: Pick<ReducedWall, "modes" | "tau" | "port" | "circuit" | "films">,
  layers: readonly LayerPhysics[],
  slowOutside: boolean,
): { met: boolean; error: number } {
  let met = true;
  let error = 0;
  for (const [period, tolerance] of CHECKS) {
    /** One response against the matrix; what is too small to be checked must be small in the reduced wall as well. */
    const judge = (exact: Complex, reduced: Complex, steady: number): void => {
      const size = modulus(exact);
      if (!(size > NEGLIGIBLE * steady)) {
        if (modulus(reduced) > FAINT * steady) met = false;
        return;
      }
      const miss = modulus([reduced[0] - exact[0], reduced[1] - exact[1]]) / size;
      if (miss > tolerance) met = false;
      if (period > HOUR) error = Math.max(error, miss);
    };
    const exact = faceResponse(layers, period, w.films[0], w.films[1]);
    for (const face of [0, 1] as const)
      for (const input of [0, 1] as const)
        if (!slowOutside || face + input === 2)
          judge(exact[face][input], reducedResponse(w, period, face, input), Math.abs(reducedResponse(w, STEADY, face, input)[0]));
    if (!w.circuit) continue;
    const toCircuit = circuitResponse(layers, period, w.films[0], w.films[1]);
    for (const at of [0, 1, 2] as const)
      if (!slowOutside || at !== 0) judge(toCircuit[at], circuitReduced(w, period, at), Math.abs(circuitReduced(w, STEADY, at)[0]));
  }
  return { met, error };
}

/** Coefficients of a wall for one length of step. */
export interface WallStep {
  /** a at the end of the step = decay·a + (1 − decay)·(v·f). */
  readonly decay: Float64Array;
  /** Step mean of a = mean·a + (1 − mean)·(v·f). */
  readonly mean: Float64Array;
  /** Step-mean face temperatures from inputs alone, K per W/m²: [outside-outside, outside-inside, inside-inside]. */
  readonly direct: readonly [number, number, number];
  /** The same for the circuit's heat: at the outside face, the inside face and the plane; zeros where there is none. */
  readonly circuit: readonly [number, number, number];
}

/** Exact response of the modes to an input held constant over a step of `dt` seconds. */
export function wallStep(w: ReducedWall, dt: number): WallStep {
  const decay = new Float64Array(w.modes);
  const mean = new Float64Array(w.modes);
  let oo = 0;
  let oi = 0;
  let ii = 0;
  const circuit: [number, number, number] = [0, 0, 0];
  for (let k = 0; k < w.modes; k++) {
    if (w.tau[k] > 0) {
      decay[k] = exp(-dt / w.tau[k]);
      mean[k] = (w.tau[k] / dt) * (1 - decay[k]);
    }
    const weight = 1 - mean[k];
    oo += weight * w.port[2 * k] * w.port[2 * k];
    oi += weight * w.port[2 * k] * w.port[2 * k + 1];
    ii += weight * w.port[2 * k + 1] * w.port[2 * k + 1];
    if (!w.circuit) continue;
    circuit[0] += weight * w.port[2 * k] * w.circuit[k];
    circuit[1] += weight * w.port[2 * k + 1] * w.circuit[k];
    circuit[2] += weight * w.circuit[k] * w.circuit[k];
  }
  return { decay, mean, direct: [oo, oi, ii], circuit };
}
