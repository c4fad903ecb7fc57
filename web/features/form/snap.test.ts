import { describe, expect, it } from "vitest";
import { readPlace, readSize, snap } from "./snap.ts";

const room = [
  [
    [0, 0],
    [6, 0],
    [6, 4],
    [0, 4],
  ],
] as const;

describe("catching a place", () => {
  it("prefers a corner to a wall, a wall to alignment, alignment to the grid", () => {
    expect(snap([5.9, 0.1], room, 0.3, 0.5)).toMatchObject({ point: [6, 0], caught: "corner" });
    expect(snap([3.1, 0.1], room, 0.3, 0.5)).toMatchObject({ point: [3, 0], caught: "wall" });
    expect(snap([6.1, 7.3], room, 0.3, 0.5)).toMatchObject({ point: [6, 7.5], caught: "in line" });
    expect(snap([9.2, 7.3], room, 0.3, 0.5)).toMatchObject({ point: [9, 7.5], caught: "grid" });
    expect(snap([9.23, 7.31], room, 0.3, 0)).toMatchObject({ point: [9.23, 7.31], caught: null });
  });
  it("shows what it is in line with", () => {
    expect(snap([6.1, 7.3], room, 0.3, 0.5).guides).toEqual([
      [
        [6, 0],
        [6, 7.5],
      ],
    ]);
  });
});

describe("a typed place", () => {
  it("is a place in plan, from the last point, by length and angle, or a length toward the pointer", () => {
    expect(readPlace("3 4,5", null, null)).toEqual([3, 4.5]);
    expect(readPlace("@1 -2", [3, 4], null)).toEqual([4, 2]);
    expect(readPlace("5<90", [1, 1], null)).toEqual([1, 6]);
    expect(readPlace("2.5", [1, 1], [9, 1])).toEqual([3.5, 1]);
    expect(readPlace("2.5", null, [9, 1])).toBeNull();
    expect(readPlace("north", [0, 0], null)).toBeNull();
  });
  it("is a size", () => {
    expect(readSize("8 x 5")).toEqual([8, 5]);
    expect(readSize("8")).toBeNull();
  });
});
