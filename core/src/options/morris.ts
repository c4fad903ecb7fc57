import { randomStream } from "../numeric/index.ts";

/** Points of a screening: trajectories that change one input at a time. */
export interface MorrisPlan {
  readonly inputs: number;
  /** Each 0 to 1; inputs + 1 points for a trajectory, one after the other. */
  readonly points: readonly (readonly number[])[];
  /** Input that changes between point i and the next; −1 at the end of a trajectory. */
  readonly changed: readonly number[];
}
/** What an input does over its bounds. */
export interface ElementaryEffect {
  /** Mean of the effects, and of their sizes: how much it does. */
  readonly mean: number;
  readonly size: number;
  /** Their deviation: whether it depends on the others or is not linear. */
  readonly spread: number;
}

/**
 * Trajectories of elementary effects on a grid of four levels (Morris 1991): each starts anywhere and moves every input once, by two
 * thirds of its bounds, in an order of its own.
 */
export function morrisPlan(inputs: number, trajectories: number, seed: number): MorrisPlan {
  const random = randomStream(seed);
  const step = 2 / 3;
  const points: number[][] = [];
  const changed: number[] = [];
  for (let t = 0; t < trajectories; t++) {
    const point = Array.from({ length: inputs }, () => Math.floor(4 * random.uniform()) / 3);
    const order = Array.from({ length: inputs }, (_, i) => i);
    for (let i = inputs - 1; i > 0; i--) {
      const k = Math.floor((i + 1) * random.uniform());
      [order[i], order[k]] = [order[k], order[i]];
    }
    points.push([...point]);
    for (const input of order) {
      changed.push(input);
      point[input] = point[input] + step <= 1 + 1e-12 ? point[input] + step : point[input] - step;
      points.push([...point]);
    }
    changed.push(-1);
  }
  return { inputs, points, changed };
}

/** Effects of each input from the values at the points of a plan; pairs with a value that is not finite are left out. */
export function morrisEffects(plan: MorrisPlan, values: readonly number[]): ElementaryEffect[] {
  const found: number[][] = Array.from({ length: plan.inputs }, () => []);
  plan.changed.forEach((input, i) => {
    if (input < 0) return;
    const effect = (values[i + 1] - values[i]) / (plan.points[i + 1][input] - plan.points[i][input]);
    if (Number.isFinite(effect)) found[input].push(effect);
  });
  return found.map((effects) => {
    const n = Math.max(1, effects.length);
    const mean = effects.reduce((a, e) => a + e, 0) / n;
    const square = effects.reduce((a, e) => a + (e - mean) * (e - mean), 0);
    return { mean, size: effects.reduce((a, e) => a + Math.abs(e), 0) / n, spread: effects.length > 1 ? Math.sqrt(square / (effects.length - 1)) : 0 };
  });
}
