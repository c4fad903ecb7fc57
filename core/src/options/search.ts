import { pow, randomStream, type RandomStream } from "../numeric/index.ts";
import { latinHypercube } from "./sampling.ts";

/** What a candidate came to: objectives, all the less the better, and by how much it misses the constraints; 0: it meets them. */
export interface Scored {
  readonly objectives: readonly number[];
  readonly violation: number;
}
export interface SearchSpec {
  readonly genes: number;
  readonly population: number;
  readonly generations: number;
  readonly seed: number;
  /** Equal for genes that make the same candidate; absent: only equal genes do. */
  readonly key?: (genes: Float64Array) => string;
}

/** Whether a dominates b: it meets the constraints better, or is nowhere worse and somewhere better (constrained domination, Deb et al. 2002). */
export function dominates(a: Scored, b: Scored): boolean {
  if (a.violation > 0 || b.violation > 0) return a.violation < b.violation;
  let better = false;
  for (let k = 0; k < a.objectives.length; k++) {
    if (a.objectives[k] > b.objectives[k]) return false;
    if (a.objectives[k] < b.objectives[k]) better = true;
  }
  return better;
}

/** Fronts of candidates, by their places, the best first (fast non-dominated sorting, Deb et al. 2002). */
export function fronts(scored: readonly Scored[]): number[][] {
  const n = scored.length;
  const beats: number[][] = Array.from({ length: n }, () => []);
  const beaten = new Int32Array(n);
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++)
      if (i !== j && dominates(scored[i], scored[j])) {
        beats[i].push(j);
        beaten[j]++;
      }
  const out: number[][] = [];
  let front = Array.from(beaten.keys()).filter((i) => beaten[i] === 0);
  while (front.length > 0) {
    out.push(front);
    const next: number[] = [];
    for (const i of front)
      for (const j of beats[i]) {
        beaten[j]--;
        if (beaten[j] === 0) next.push(j);
      }
    front = next.sort((a, b) => a - b);
  }
  return out;
}

/** Room around each of a front, Infinity at its ends (crowding distance, Deb et al. 2002). */
export function crowding(scored: readonly Scored[], front: readonly number[]): Float64Array {
  const room = new Float64Array(front.length);
  const objectives = front.length > 0 ? scored[front[0]].objectives.length : 0;
  for (let k = 0; k < objectives; k++) {
    const of = (i: number): number => scored[front[i]].objectives[k];
    const order = Array.from(front.keys()).sort((a, b) => of(a) - of(b) || a - b);
    const span = of(order[order.length - 1]) - of(order[0]);
    room[order[0]] = Infinity;
    room[order[order.length - 1]] = Infinity;
    if (!(span > 0)) continue;
    for (let i = 1; i + 1 < order.length; i++) room[order[i]] += (of(order[i + 1]) - of(order[i - 1])) / span;
  }
  return room;
}

/** Candidates that no other dominates, by their places. */
export const paretoFront = (scored: readonly Scored[]): number[] =>
  Array.from(scored.keys()).filter((i) => scored[i].violation === 0 && !scored.some((other) => dominates(other, scored[i])));

/** Spread of simulated binary crossover and of polynomial mutation, and how often two parents are crossed (Deb et al. 2002). */
const CROSS_SPREAD = 15;
const MUTATE_SPREAD = 20;
const CROSSED = 0.9;
/** A child that was there before is made anew so often at most. */
const TRIES = 20;

/** Two children of two parents by simulated binary crossover (Deb and Agrawal 1995). */
function crossed(a: Float64Array, b: Float64Array, random: RandomStream): [Float64Array, Float64Array] {
  const [c, d] = [a.slice(), b.slice()];
  if (random.uniform() > CROSSED) return [c, d];
  for (let g = 0; g < a.length; g++) {
    if (random.uniform() > 0.5) continue;
    const u = random.uniform();
    const beta = u <= 0.5 ? pow(2 * u, 1 / (CROSS_SPREAD + 1)) : pow(1 / (2 * (1 - u)), 1 / (CROSS_SPREAD + 1));
    const [mean, half] = [(a[g] + b[g]) / 2, (beta * (b[g] - a[g])) / 2];
    c[g] = inside(mean - half);
    d[g] = inside(mean + half);
    if (random.uniform() < 0.5) [c[g], d[g]] = [d[g], c[g]];
  }
  return [c, d];
}
/** Genes lie in 0 ≤ g < 1. */
const inside = (g: number): number => Math.min(1 - 1e-12, Math.max(0, g));

/** Polynomial mutation (Deb and Goyal 1996); a share of it is drawn anew, so that levels in no order can be reached. */
function mutated(genes: Float64Array, random: RandomStream, rate: number): void {
  for (let g = 0; g < genes.length; g++) {
    if (random.uniform() >= rate) continue;
    if (random.uniform() < 0.25) {
      genes[g] = random.uniform();
      continue;
    }
    const u = random.uniform();
    const step = u < 0.5 ? pow(2 * u, 1 / (MUTATE_SPREAD + 1)) - 1 : 1 - pow(2 * (1 - u), 1 / (MUTATE_SPREAD + 1));
    genes[g] = inside(genes[g] + step);
  }
}

/**
 * Multi-objective evolutionary search NSGA-II (Deb, Pratap, Agarwal and Meyarivan 2002): yields a generation of genes, each 0 ≤ g < 1, is handed
 * what they came to, and ends with the places of the last survivors among all candidates in the order they were yielded. From the same
 * seed and the same answers follow the same generations. A candidate that was there before is looked for once; where no new one
 * is found the generation is smaller.
 */
export function* search(spec: SearchSpec): Generator<readonly Float64Array[], readonly number[], readonly Scored[]> {
  const { genes, population, generations, seed } = spec;
  const random = randomStream(seed);
  const key = spec.key ?? ((g: Float64Array) => g.join(" "));
  const seen = new Set<string>();
  const isNew = (g: Float64Array): boolean => {
    const k = key(g);
    if (seen.has(k)) return false;
    seen.add(k);
    return true;
  };
  const all: Float64Array[] = [];
  const scored: Scored[] = [];
  const ask = function* (batch: readonly Float64Array[]): Generator<readonly Float64Array[], readonly number[], readonly Scored[]> {
    if (batch.length === 0) return [];
    const answers = yield batch;
    const from = all.length;
    batch.forEach((g, i) => {
      all.push(g);
      scored.push(answers[i]);
    });
    return batch.map((_, i) => from + i);
  };
  let alive = [...(yield* ask(latinHypercube(genes, population, Math.floor(random.uniform() * 4294967296)).filter(isNew)))];
  const rate = 1 / Math.max(1, genes);
  for (let g = 0; g < generations; g++) {
    const better = ranked(alive, scored);
    const pick = (): Float64Array => {
      const [i, j] = [0, 1].map(() => Math.floor(random.uniform() * alive.length));
      return all[alive[better(i, j) ? i : j]];
    };
    const children: Float64Array[] = [];
    for (let tries = 0; children.length < population && tries < population * TRIES; tries++)
      for (const child of crossed(pick(), pick(), random)) {
        mutated(child, random, rate);
        if (children.length < population && isNew(child)) children.push(child);
      }
    if (children.length === 0) break;
    alive = survivors([...alive, ...(yield* ask(children))], scored, population);
  }
  return alive;
}

/** Whether the i-th of those alive is to be preferred to the j-th: by front, then by room. */
function ranked(alive: readonly number[], scored: readonly Scored[]): (i: number, j: number) => boolean {
  const own = alive.map((i) => scored[i]);
  const rank = new Int32Array(alive.length);
  const room = new Float64Array(alive.length);
  fronts(own).forEach((front, r) => {
    const c = crowding(own, front);
    front.forEach((i, k) => {
      rank[i] = r;
      room[i] = c[k];
    });
  });
  return (i, j) => rank[i] < rank[j] || (rank[i] === rank[j] && room[i] > room[j]);
}

/** The best of all by front, the last front thinned to those with most room. */
function survivors(all: readonly number[], scored: readonly Scored[], size: number): number[] {
  const own = all.map((i) => scored[i]);
  const out: number[] = [];
  for (const front of fronts(own)) {
    if (out.length + front.length <= size) out.push(...front.map((i) => all[i]));
    else {
      const room = crowding(own, front);
      const order = Array.from(front.keys()).sort((a, b) => room[b] - room[a] || a - b);
      out.push(...order.slice(0, size - out.length).map((k) => all[front[k]]));
    }
    if (out.length >= size) break;
  }
  return out;
}
