import { describe, expect, it } from "vitest";
import { radiantNetwork, shortWaveShares, type InsideSurface } from "./index.ts";

const surface = (area: number, plane: string, more: Partial<InsideSurface> = {}): InsideSurface => ({
  area,
  plane,
  emissivity: 0.9,
  absorptance: 0.6,
  transmittance: 0,
  floor: false,
  normal: [0, 0, 1],
  ...more,
});
/** A cube of side 3 m with black surfaces. */
const cube = ["floor", "ceiling", "n", "e", "s", "w"].map((p) => surface(9, p, { emissivity: 1, floor: p === "floor" }));

describe("the mean radiant network", () => {
  it("gives each face of a black cube the same factor, 1 / (1 − 1/6)", () => {
    const { exchange, converged } = radiantNetwork(cube);
    expect(converged).toBe(true);
    for (const f of exchange) expect(f).toBeCloseTo(6 / 5, 9);
  });
  it("closes: from one face to the node and on to the others it carries what the view factors would", () => {
    // two faces of the cube held apart: conductance through the star equals the exact one of a cube with re-radiating walls
    const { exchange } = radiantNetwork(cube);
    const g = exchange.map((f) => f * 9);
    const star = 1 / (1 / g[0] + 1 / (g[1] + g[2] + g[3] + g[4] + g[5]));
    expect(star / 9).toBeCloseTo(1, 9);
  });
  it("weakens with emissivity in series", () => {
    const grey = radiantNetwork(cube.map((s) => ({ ...s, emissivity: 0.8 })));
    for (const f of grey.exchange) expect(1 / f).toBeCloseTo(5 / 6 + 0.25, 9);
  });
  it("counts coplanar faces as one", () => {
    const split = [surface(4, "floor", { emissivity: 1, floor: true }), surface(5, "floor", { emissivity: 1, floor: true }), ...cube.slice(1)];
    const { exchange } = radiantNetwork(split);
    expect(exchange[0]).toBeCloseTo(6 / 5, 9);
    expect(exchange[1]).toBeCloseTo(6 / 5, 9);
  });
  it("says so when one face is larger than all the others together", () => {
    const { converged, exchange } = radiantNetwork([surface(50, "floor"), surface(10, "ceiling"), surface(10, "wall")]);
    expect(converged).toBe(false);
    for (const f of exchange) expect(f).toBeCloseTo(1 / (1 + 0.1 / 0.9), 9);
  });
});

describe("short-wave in a room", () => {
  const room = [
    surface(20, "floor", { floor: true, absorptance: 0.7 }),
    surface(20, "ceiling", { absorptance: 0.3 }),
    surface(40, "walls", { absorptance: 0.5 }),
    surface(5, "glass", { absorptance: 0.05, transmittance: 0.7 }),
  ];
  const shares = shortWaveShares(room);
  const sum = (a: Float64Array): number => a.reduce((s, v) => s + v, 0);
  it("is all absorbed or lost through glass again", () => {
    expect(sum(shares.diffuse) + shares.lostDiffuse).toBeCloseTo(1, 12);
    expect(sum(shares.beam) + shares.lostBeam).toBeCloseTo(1, 12);
  });
  it("falls on the floor first when it is beam", () => {
    expect(shares.beam[0]).toBeGreaterThan(0.7);
    expect(shares.beam[0]).toBeGreaterThan(shares.diffuse[0]);
    expect(shares.lostBeam).toBeLessThan(shares.lostDiffuse);
  });
  it("spreads by area and absorptance when it is diffuse", () => {
    expect(shares.diffuse[2] / shares.diffuse[1]).toBeCloseTo((40 * 0.5) / (20 * 0.3), 12);
  });
  it("stays where nothing is absorbed but by the glass", () => {
    const mirror = shortWaveShares([surface(10, "floor", { floor: true, absorptance: 0 }), surface(1, "glass", { absorptance: 0, transmittance: 0.8 })]);
    expect(mirror.lostBeam).toBeCloseTo(1, 12);
  });
});
