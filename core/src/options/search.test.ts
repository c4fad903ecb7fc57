import { describe, expect, it } from "vitest";
import { crowding, dominates, fronts, paretoFront, search, type Scored } from "./index.ts";

const ok = (...objectives: number[]): Scored => ({ objectives, violation: 0 });

/** Runs a search to its end on a function. */
function searched(
  genes: number,
  of: (g: Float64Array) => Scored,
  seed: number,
  population = 60,
  generations = 120,
): { scored: Scored[]; alive: readonly number[]; all: Float64Array[] } {
  const steps = search({ genes, population, generations, seed });
  const scored: Scored[] = [];
  const all: Float64Array[] = [];
  let step = steps.next();
  while (!step.done) {
    all.push(...step.value);
    const answers = step.value.map(of);
    scored.push(...answers);
    step = steps.next(answers);
  }
  return { scored, alive: step.value, all };
}

describe("dominance", () => {
  it("is better somewhere and worse nowhere; what misses a constraint is beaten by what meets it", () => {
    expect(dominates(ok(1, 2), ok(1, 3))).toBe(true);
    expect(dominates(ok(1, 3), ok(1, 3))).toBe(false);
    expect(dominates(ok(0, 4), ok(1, 3))).toBe(false);
    expect(dominates(ok(9, 9), { objectives: [0, 0], violation: 0.1 })).toBe(true);
    expect(dominates({ objectives: [5, 5], violation: 0.1 }, { objectives: [0, 0], violation: 0.2 })).toBe(true);
    const cloud = [ok(1, 5), ok(2, 2), ok(5, 1), ok(4, 4), ok(6, 6), { objectives: [0, 0], violation: 1 }];
    expect(fronts(cloud)).toEqual([[0, 1, 2], [3], [4], [5]]);
    expect(paretoFront(cloud)).toEqual([0, 1, 2]);
    expect([...crowding(cloud, [0, 1, 2])]).toEqual([Infinity, 2, Infinity]);
  });
});

describe("the search", () => {
  it("finds the front of ZDT1 (Zitzler, Deb and Thiele 2000), spread over its length", () => {
    const genes = 6;
    const zdt1 = (x: Float64Array): Scored => {
      const g = 1 + (9 * x.slice(1).reduce((s, v) => s + v, 0)) / (genes - 1);
      return ok(x[0], g * (1 - Math.sqrt(x[0] / g)));
    };
    const { scored, alive } = searched(genes, zdt1, 11);
    const found = alive.map((i) => scored[i].objectives);
    // the front is f2 = 1 − √f1
    for (const [f1, f2] of found) expect(f2 - (1 - Math.sqrt(f1))).toBeLessThan(0.05);
    const along = found.map(([f1]) => f1).sort((a, b) => a - b);
    expect(along[0]).toBeLessThan(0.02);
    expect(along[along.length - 1]).toBeGreaterThan(0.9);
    expect(Math.max(...along.slice(1).map((v, i) => v - along[i]))).toBeLessThan(0.12);
  });

  it("keeps to the constraints of the problem of Binh and Korn (1997) and reaches its ends", () => {
    const binhKorn = (u: Float64Array): Scored => {
      const [x, y] = [5 * u[0], 3 * u[1]];
      const c1 = (x - 5) * (x - 5) + y * y - 25;
      const c2 = 7.7 - (x - 8) * (x - 8) - (y + 3) * (y + 3);
      return { objectives: [4 * x * x + 4 * y * y, (x - 5) * (x - 5) + (y - 5) * (y - 5)], violation: Math.max(0, c1) + Math.max(0, c2) };
    };
    const { scored, alive } = searched(2, binhKorn, 3, 40, 60);
    expect(alive.every((i) => scored[i].violation === 0)).toBe(true);
    const f1 = alive.map((i) => scored[i].objectives[0]);
    expect(Math.min(...f1)).toBeLessThan(2);
    expect(Math.max(...f1)).toBeGreaterThan(125);
  });

  it("asks the same of the same seed, and never twice for the same candidate", () => {
    const of = (g: Float64Array): Scored => ok(Math.floor(g[0] * 4), 3 - Math.floor(g[0] * 4) + Math.floor(g[1] * 5));
    const key = (g: Float64Array): string => `${Math.floor(g[0] * 4)} ${Math.floor(g[1] * 5)}`;
    const asked = (seed: number): string[] => {
      const steps = search({ genes: 2, population: 6, generations: 30, seed, key });
      const out: string[] = [];
      for (let step = steps.next(); !step.done;) {
        out.push(...step.value.map(key));
        step = steps.next(step.value.map(of));
      }
      return out;
    };
    const first = asked(4);
    expect(new Set(first).size).toBe(first.length);
    expect(first.length).toBeLessThanOrEqual(20);
    expect(asked(4)).toEqual(first);
    expect(asked(5)).not.toEqual(first);
  });
});
