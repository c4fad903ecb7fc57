import { exp, log, randomStream, symmetricEigen } from "../numeric/index.ts";

/** What a search over inputs is started with: each input runs from 0 to 1 over its bounds. */
export interface EvolutionSpec {
  readonly inputs: number;
  readonly seed: number;
  /** First guess, 0 to 1 each; absent: the middle. */
  readonly start?: readonly number[];
  /** First step, share of the bounds; absent: 0.3. */
  readonly step?: number;
  /** Candidates of a generation; absent: 4 + 3·ln(inputs), whole. */
  readonly population?: number;
}

/** State of a search between generations: plain data, so that it can be kept and taken up by another process. */
export interface EvolutionState {
  readonly spec: EvolutionSpec;
  readonly generation: number;
  readonly mean: readonly number[];
  readonly sigma: number;
  readonly covariance: readonly number[];
  /** Evolution paths of the covariance and of the step. */
  readonly path: readonly number[];
  readonly stepPath: readonly number[];
}

interface Constants {
  readonly lambda: number;
  readonly weights: readonly number[];
  readonly muEff: number;
  readonly cSigma: number;
  readonly dSigma: number;
  readonly cC: number;
  readonly c1: number;
  readonly cMu: number;
  readonly chi: number;
}

/** Constants of the strategy from the number of inputs (Hansen 2016, table 1, positive weights only). */
function constantsOf(spec: EvolutionSpec): Constants {
  const n = spec.inputs;
  const lambda = Math.max(4, spec.population ?? 4 + Math.floor(3 * log(n)));
  const mu = Math.floor(lambda / 2);
  const raw = Array.from({ length: mu }, (_, i) => log((lambda + 1) / 2) - log(i + 1));
  const sum = raw.reduce((a, b) => a + b, 0);
  const weights = raw.map((w) => w / sum);
  const muEff = 1 / weights.reduce((a, w) => a + w * w, 0);
  const cSigma = (muEff + 2) / (n + muEff + 5);
  const c1 = 2 / ((n + 1.3) * (n + 1.3) + muEff);
  return {
    lambda,
    weights,
    muEff,
    cSigma,
    dSigma: 1 + 2 * Math.max(0, Math.sqrt((muEff - 1) / (n + 1)) - 1) + cSigma,
    cC: (4 + muEff / n) / (n + 4 + (2 * muEff) / n),
    c1,
    cMu: Math.min(1 - c1, (2 * (muEff - 2 + 1 / muEff)) / ((n + 2) * (n + 2) + muEff)),
    chi: Math.sqrt(n) * (1 - 1 / (4 * n) + 1 / (21 * n * n)),
  };
}

/** The first state of a search. */
export function evolutionStart(spec: EvolutionSpec): EvolutionState {
  const n = spec.inputs;
  const zero = new Array<number>(n).fill(0);
  return {
    spec,
    generation: 0,
    mean: spec.start ? [...spec.start] : new Array<number>(n).fill(0.5),
    sigma: spec.step ?? 0.3,
    covariance: Array.from({ length: n * n }, (_, i) => (i % (n + 1) === 0 ? 1 : 0)),
    path: zero,
    stepPath: zero,
  };
}

/** A value folded back into 0…1, as a ray between two mirrors. */
function folded(x: number): number {
  const t = Math.abs(x) % 2;
  return t > 1 ? 2 - t : t;
}

/** Candidates of a generation: where they were drawn, and where that is within the bounds. The same state gives the same candidates. */
export function evolutionAsk(state: EvolutionState): { readonly drawn: readonly (readonly number[])[]; readonly inputs: readonly (readonly number[])[] } {
  const { spec, mean, sigma, covariance, generation } = state;
  const n = spec.inputs;
  const { lambda } = constantsOf(spec);
  const { values, vectors } = symmetricEigen(Float64Array.from(covariance), n);
  const random = randomStream((spec.seed + 7919 * generation) >>> 0);
  const drawn = Array.from({ length: lambda }, () => {
    const z = Array.from({ length: n }, (_, k) => Math.sqrt(Math.max(0, values[k])) * random.normal());
    return mean.map((m, i) => m + sigma * z.reduce((a, v, k) => a + vectors[i * n + k] * v, 0));
  });
  return { drawn, inputs: drawn.map((x) => x.map(folded)) };
}

/**
 * The next state from what the candidates came to (CMA-ES: Hansen 2016, "The CMA Evolution Strategy: A Tutorial", weighted recombination,
 * cumulative step adaptation, rank-one and rank-µ update). @param costs of the candidates of `evolutionAsk`, the less the better; not finite: the worst
 */
export function evolutionTell(state: EvolutionState, costs: readonly number[]): EvolutionState {
  const { spec, sigma } = state;
  const n = spec.inputs;
  const c = constantsOf(spec);
  const { drawn } = evolutionAsk(state);
  const cost = (i: number): number => (Number.isFinite(costs[i]) ? costs[i] : Infinity);
  const order = drawn.map((_, i) => i).sort((a, b) => (cost(a) === cost(b) ? a - b : cost(a) - cost(b)));
  const best = order.slice(0, c.weights.length).map((i) => drawn[i]);
  const mean = state.mean.map((_, k) => best.reduce((a, x, i) => a + c.weights[i] * x[k], 0));
  const move = mean.map((m, k) => (m - state.mean[k]) / sigma);
  const { values, vectors } = symmetricEigen(Float64Array.from(state.covariance), n);
  // C^(−1/2) times the move
  const along = Array.from({ length: n }, (_, k) => move.reduce((a, v, i) => a + vectors[i * n + k] * v, 0) / Math.sqrt(Math.max(1e-20, values[k])));
  const white = move.map((_, i) => along.reduce((a, v, k) => a + vectors[i * n + k] * v, 0));
  const stepPath = state.stepPath.map((p, k) => (1 - c.cSigma) * p + Math.sqrt(c.cSigma * (2 - c.cSigma) * c.muEff) * white[k]);
  const length = Math.sqrt(stepPath.reduce((a, v) => a + v * v, 0));
  let decay = 1;
  for (let g = 0; g < 2 * (state.generation + 1); g++) decay *= 1 - c.cSigma;
  const heavy = length / Math.sqrt(1 - decay) < (1.4 + 2 / (n + 1)) * c.chi ? 1 : 0;
  const path = state.path.map((p, k) => (1 - c.cC) * p + heavy * Math.sqrt(c.cC * (2 - c.cC) * c.muEff) * move[k]);
  const steps = best.map((x) => x.map((v, k) => (v - state.mean[k]) / sigma));
  const lost = (1 - heavy) * c.cC * (2 - c.cC);
  const covariance = state.covariance.map((old, at) => {
    const [i, k] = [Math.floor(at / n), at % n];
    const rankMu = steps.reduce((a, y, j) => a + c.weights[j] * y[i] * y[k], 0);
    return (1 - c.c1 - c.cMu + c.c1 * lost) * old + c.c1 * path[i] * path[k] + c.cMu * rankMu;
  });
  const growth = exp((c.cSigma / c.dSigma) * (length / c.chi - 1));
  return { spec, generation: state.generation + 1, mean, /* no wider than the bounds */ sigma: Math.min(1, sigma * growth), covariance, path, stepPath };
}
