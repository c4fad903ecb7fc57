import { describe, expect, it } from "vitest";
import { roundAxis, stackEnds } from "./chartStyle.ts";

describe("the axis of stacked bars", () => {
  const rows = [
    { month: "Jan", heating: 18, sun: 4, walls: -20, air: -3 },
    { month: "Jul", heating: 0, sun: 9, walls: -2, air: -1.5 },
  ];
  it("reaches from the foot of the losses to the top of the gains, and has a tick at nothing", () => {
    const ends = stackEnds(rows, ["heating", "sun", "walls", "air"]);
    expect(Math.max(...ends)).toBe(22);
    expect(Math.min(...ends)).toBe(-23);
    const { domain, ticks, tickFormatter } = roundAxis(ends);
    expect(domain[0]).toBeLessThanOrEqual(-23);
    expect(domain[1]).toBeGreaterThanOrEqual(22);
    expect(ticks).toContain(0);
    expect(ticks.map(tickFormatter)).toEqual(["−30", "−20", "−10", "0", "10", "20", "30"]);
  });
  it("follows what is switched off in the legend, down to nothing at all", () => {
    expect(Math.max(...stackEnds(rows, ["sun"]))).toBe(9);
    expect(stackEnds(rows, [])).toEqual([0, 0, 0, 0, 0]);
    expect(roundAxis(stackEnds(rows, [])).ticks).toEqual([0, 1]);
  });
});
