import { describe, expect, it } from "vitest";
import { WindTunnel } from "./index.ts";

/** A cube of so many cells on the ground of a small tunnel, the wind alike at all heights. */
function cube(side: number, steps: number, mean: number): { tunnel: WindTunnel; x0: number; y0: number } {
  const [nx, ny, nz] = [8 * side, 5 * side + (side % 2 === 0 ? 2 : 1), 4 * side];
  const solid = new Uint8Array(nx * ny * nz);
  const x0 = 2 * side + 2;
  const y0 = (ny - side) / 2;
  for (let z = 1; z <= side; z++) for (let y = y0; y < y0 + side; y++) for (let x = x0; x < x0 + side; x++) solid[(z * ny + y) * nx + x] = 1;
  const tunnel = new WindTunnel({ nx, ny, nz, solid, profile: new Float64Array(nz).fill(0.08) });
  tunnel.run(steps);
  tunnel.startMean();
  tunnel.run(mean);
  return { tunnel, x0, y0 };
}

describe("a wind tunnel in the computer", () => {
  it("without anything in it keeps the wind that comes in", () => {
    const [nx, ny, nz] = [20, 8, 8];
    const tunnel = new WindTunnel({ nx, ny, nz, solid: new Uint8Array(nx * ny * nz), profile: new Float64Array(nz).fill(0.05) });
    tunnel.run(150);
    tunnel.startMean();
    tunnel.run(50);
    // the ground brakes what is near it, and what is above goes a little faster for that
    const above = tunnel.velocity(tunnel.cell(10, 4, 6))[0];
    expect(above).toBeGreaterThan(0.05);
    expect(above).toBeLessThan(0.057);
    expect(tunnel.velocity(tunnel.cell(10, 4, 1))[0]).toBeLessThan(0.045);
    expect(Math.abs(tunnel.coefficient(tunnel.cell(12, 4, 5), tunnel.cell(3, 4, 5), 5))).toBeLessThan(0.3);
  });
  it("presses on the front of a cube and draws at its sides, its roof and its back, alike on both sides", () => {
    const side = 4;
    const { tunnel, x0, y0 } = cube(side, 250, 200);
    expect(tunnel.sound).toBe(true);
    const upstream = tunnel.cell(3, 4, side + 3);
    const at = (x: number, y: number, z: number): number => tunnel.coefficient(tunnel.cell(x, y, z), upstream, side);
    const middle = Math.floor(y0 + side / 2);
    const front = at(x0 - 1, middle, 2);
    // a stagnation point has 1, the mean of a front about 0.7 in uniform wind; a coarse grid blurs it
    expect(front).toBeGreaterThan(0.5);
    expect(front).toBeLessThan(1.4);
    for (const [name, value] of [
      ["roof", at(x0 + 2, middle, side + 1)],
      ["side", at(x0 + 2, y0 - 1, 2)],
      ["back", at(x0 + side, middle, 2)],
    ] as const) {
      expect(value, name).toBeLessThan(0);
      expect(value, name).toBeGreaterThan(-1.6);
    }
    const [left, right] = [at(x0 + 2, y0 - 1, 2), at(x0 + 2, y0 + side, 2)];
    expect(Math.abs(left - right)).toBeLessThan(0.1);
    // behind it the wind is slower than beside it
    expect(tunnel.velocity(tunnel.cell(x0 + side + 2, middle, 3))[0]).toBeLessThan(0.04);
    expect(tunnel.velocity(tunnel.cell(x0 + 2, 2, 3))[0]).toBeGreaterThan(0.07);
  });
  it("refuses a wind beyond what the method bears, and a grid that is none", () => {
    const solid = new Uint8Array(20 * 8 * 8);
    expect(() => new WindTunnel({ nx: 20, ny: 8, nz: 8, solid, profile: new Float64Array(8).fill(0.3) })).toThrow(/beyond a tenth/);
    expect(() => new WindTunnel({ nx: 20, ny: 8, nz: 9, solid, profile: new Float64Array(9) })).toThrow(/does not fit/);
  });
});
