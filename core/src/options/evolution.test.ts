import { describe, expect, it } from "vitest";
import { evolutionAsk, evolutionStart, evolutionTell, morrisEffects, morrisPlan, type EvolutionSpec } from "./index.ts";

/** The best point a search finds in so many generations, and its cost. */
function found(spec: EvolutionSpec, cost: (x: readonly number[]) => number, generations: number): { x: readonly number[]; cost: number } {
  let state = evolutionStart(spec);
  let best = { x: [] as readonly number[], cost: Infinity };
  for (let g = 0; g < generations; g++) {
    const { inputs } = evolutionAsk(state);
    const costs = inputs.map(cost);
    inputs.forEach((x, i) => {
      if (costs[i] < best.cost) best = { x, cost: costs[i] };
    });
    state = evolutionTell(state, costs);
  }
  return best;
}
const square = (x: number): number => x * x;
/** Rosenbrock's valley with its end at 1, 1, over bounds −2…2. */
const valley = ([a, b]: readonly number[]): number => {
  const [x, y] = [4 * a - 2, 4 * b - 2];
  return 100 * square(y - x * x) + square(1 - x);
};

describe("the evolution strategy", () => {
  it("finds the bottom of a bowl of five inputs, whatever their scales, and of a bent valley", () => {
    const bowl = (x: readonly number[]): number => x.reduce((a, v, i) => a + square((v - 0.2 - 0.1 * i) * (1 + 10 * i)), 0);
    const { x, cost } = found({ inputs: 5, seed: 1 }, bowl, 160);
    expect(cost).toBeLessThan(1e-6);
    x.forEach((v, i) => expect(v).toBeCloseTo(0.2 + 0.1 * i, 3));
    expect(found({ inputs: 2, seed: 3 }, valley, 150).cost).toBeLessThan(1e-6);
  });
  it("stays within the bounds, also where the best lies on one", () => {
    const { x } = found({ inputs: 3, seed: 5 }, (p) => p[0] - p[1] + square(p[2] - 0.5), 80);
    expect(x[0]).toBeCloseTo(0, 2);
    expect(x[1]).toBeCloseTo(1, 2);
    for (const v of x) expect(v >= 0 && v <= 1).toBe(true);
  });
  it("gives the same candidates from the same state, kept as JSON and taken up again; a cost that is not finite is the worst", () => {
    const state = evolutionTell(evolutionStart({ inputs: 2, seed: 9 }), [3, NaN, 1, 2, Infinity, 5]);
    const again = JSON.parse(JSON.stringify(state)) as typeof state;
    expect(evolutionAsk(again)).toEqual(evolutionAsk(state));
    for (const v of [...state.mean, state.sigma, ...state.covariance]) expect(Number.isFinite(v)).toBe(true);
  });
});

describe("screening by elementary effects", () => {
  it("tells what each input does: linear, bent, with another, nothing", () => {
    const plan = morrisPlan(4, 40, 11);
    expect(plan.points).toHaveLength(40 * 5);
    const effects = morrisEffects(
      plan,
      plan.points.map(([a, b, c]) => 3 * a + 4 * square(b - 0.5) + 2 * a * c),
    );
    expect(effects[0].size).toBeGreaterThan(2.9);
    // a bowl about its middle has effects of both signs, so their mean says nothing
    expect(Math.abs(effects[1].mean)).toBeLessThan(0.5 * effects[1].size);
    expect(effects[2].spread).toBeGreaterThan(0.3);
    expect(effects[3]).toEqual({ mean: 0, size: 0, spread: 0 });
  });
  it("changes one input at a time, within the bounds, and leaves failed runs out", () => {
    const plan = morrisPlan(3, 10, 2);
    plan.changed.forEach((input, i) => {
      if (input < 0) return;
      plan.points[i].forEach((v, k) => expect(v !== plan.points[i + 1][k]).toBe(k === input));
    });
    for (const v of plan.points.flat()) expect(v >= -1e-12 && v <= 1 + 1e-12).toBe(true);
    const values = plan.points.map(([a, b, c], i) => (i % 7 === 0 ? NaN : a + 2 * b + 3 * c));
    morrisEffects(plan, values).forEach((e, i) => expect(e.mean).toBeCloseTo(i + 1, 9));
  });
});
