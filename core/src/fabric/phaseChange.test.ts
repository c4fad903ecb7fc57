import { describe, expect, it } from "vitest";
import { LoneWall } from "../verification/walls.ts";
import { neumannFront, steppedFront } from "../verification/rows.ts";
import { MeltingWall, resistanceLayer, solidLayer, type LayerPhysics, type Melting } from "./index.ts";

const FILMS = [7.7, 7.7] as const;

/** Runs a wall between two airs; returns faces and the heat taken in, J/m². */
function run(
  layers: readonly LayerPhysics[],
  melting: readonly (Melting | null)[],
  dt: number,
  steps: number,
  air: (i: number) => [number, number],
): { wall: MeltingWall; outside: number; inside: number; heat: number } {
  const wall = new MeltingWall(layers, melting, FILMS, dt);
  wall.start(20, 20);
  let outside = 20;
  let inside = 20;
  let heat = 0;
  for (let i = 0; i < steps; i++) {
    const [a, b] = air(i);
    for (let pass = 0; pass < 3; pass++) {
      wall.linearise();
      const { p0, p1, d00, d01, d11 } = wall.port;
      outside = p0 + d00 * 7.7 * a + d01 * 7.7 * b;
      inside = p1 + d01 * 7.7 * a + d11 * 7.7 * b;
      wall.settle(7.7 * a, 7.7 * b);
    }
    const q0 = 7.7 * (a - outside);
    const q1 = 7.7 * (b - inside);
    heat += dt * (q0 + q1);
    wall.advance(q0, q1);
  }
  return { wall, outside, inside, heat };
}

describe("a wall by enthalpy", () => {
  const brick = [solidLayer(0.1, 0.6, 1700, 900), resistanceLayer(0.5), solidLayer(0.02, 0.2, 900, 1000)];
  it("without anything that melts is the reduced wall", () => {
    const swing = (i: number): [number, number] => [20 + 8 * Math.sin((2 * Math.PI * i) / 96), 20];
    const melt = run(brick, [null, null, null], 900, 96 * 5, swing);
    const reduced = new LoneWall(brick, FILMS, 900, 20, FILMS);
    for (let i = 0; i < 96 * 5; i++) reduced.advance(...swing(i));
    expect(Math.abs(melt.inside - reduced.inside)).toBeLessThan(0.05);
    expect(Math.abs(melt.outside - reduced.outside)).toBeLessThan(0.15);
  });
  it("holds exactly the heat it took, molten or not", () => {
    const pcm: Melting = { from: 22, to: 24, latentHeat: 80000 };
    const before = new MeltingWall(brick, [null, null, pcm], FILMS, 900);
    before.start(20, 20);
    const { wall, heat } = run(brick, [null, null, pcm], 900, 96 * 3, (i) => [20, 20 + 10 * Math.sin((2 * Math.PI * i) / 96)]);
    expect(Math.abs(wall.content - before.content - heat)).toBeLessThan(1e-6 * Math.abs(wall.content));
  });
  it("melts from end to end when kept warm, and holds the latent heat", () => {
    const pcm: Melting = { from: 22, to: 24, latentHeat: 80000 };
    const { wall, heat } = run(brick, [null, null, pcm], 900, 96 * 20, () => [30, 30]);
    expect(wall.molten).toBe(1);
    const sensible = 10 * (0.1 * 1700 * 900 + 0.02 * 900 * 1000);
    expect(heat / (sensible + 0.02 * 900 * 80000)).toBeCloseTo(1, 4);
    expect(wall.layerMiddles()[1].molten).toBe(1);
    expect(wall.layerMiddles()[0].molten).toBe(0);
  });
  it("is solved anew only where heat was booked or something begins or ends to melt", () => {
    const pcm: Melting = { from: 22, to: 24, latentHeat: 80000 };
    const wall = new MeltingWall(brick, [null, null, pcm], FILMS, 900);
    wall.start(20, 20);
    expect(wall.linearise()).toBe(true);
    const cold = { ...wall.port };
    // a pass in which all stays solid leaves nothing to do, whatever the heat
    wall.settle(7.7 * 20, 7.7 * 20);
    wall.settle(7.7 * 15, 7.7 * 21);
    expect(wall.linearise()).toBe(false);
    expect(wall.port).toEqual(cold);
    // one in which the plaster begins to melt answers its room more weakly, and one back undoes it
    wall.settle(7.7 * 20, 7.7 * 60);
    expect(wall.port.d11).toBeLessThan(cold.d11);
    wall.settle(7.7 * 20, 7.7 * 20);
    expect(wall.port.d11).toBeCloseTo(cold.d11, 14);
    expect(wall.port.p1).toBeCloseTo(cold.p1, 10);
  });
  it("moves its front by the similarity solution, closer with shorter steps", () => {
    const exact = neumannFront(0.2, 800, 2000, 180000, 20, 24 * 3600);
    const miss = (dt: number): number => Math.abs(steppedFront(24 * 3600, dt) / exact - 1);
    expect(miss(900)).toBeLessThan(0.02);
    expect(miss(300)).toBeLessThan(miss(3600));
  });
});
