import { describe, expect, it } from "vitest";
import { applyChanges, type Project } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import { daylightControlChanges, daylitAreas, spaceUses } from "./index.ts";

const window = (offset: number): Project["openings"][string] => ({
  kind: "placed",
  name: "Window",
  use: "window",
  host: "a/s",
  glazing: null,
  operable: 0,
  offset,
  sill: 0.5,
  width: 3,
  height: 1.5,
});
// the box: 8 m × 6 m, 2.7 m high, with windows in its long south wall
const box = (change: (p: Project) => void = () => undefined): Project => {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.4 }))) as Project;
  p.openings = { south: window(2) };
  p.spaceTypes.box.inputs.lightingPower = 12;
  change(p);
  return p;
};

describe("the area daylight reaches", () => {
  it("beside a window is as deep as its head is high, and 0.6 m wider on each side", () => {
    const [a] = daylitAreas(box());
    // head at 2 m above the floor, 3 m wide
    expect(a.primary).toBeCloseTo(2 * 4.2, 6);
    expect(a.secondary).toBeCloseTo(2 * 4.2, 6);
    expect(a.top).toBe(0);
    expect(a.primaryPower).toBeCloseTo(12 * 8.4, 6);
    expect(a.needsControl).toBe(false);
  });
  it("is cut off at the walls, and counted once where two windows share it", () => {
    const [a] = daylitAreas(
      box((p) => {
        p.openings = { one: window(0.1), two: window(3.5) };
      }),
    );
    // from the side wall to 3.5 + 3 + 0.6 m
    expect(a.primary).toBeCloseTo(2 * 7.1, 6);
  });
  it("with more than 150 W of lighting in it is given control in one step, with a sensor in its middle", () => {
    const p = box((q) => (q.spaceTypes.box.inputs.lightingPower = 20));
    const [a] = daylitAreas(p);
    expect(a.needsControl).toBe(true);
    const done = applyChanges(p, daylightControlChanges(p));
    if (!done.ok) throw new Error(done.message);
    const [after] = daylitAreas(done.project);
    expect(after.controlled).toBe(true);
    expect(daylightControlChanges(done.project)).toEqual([]);
    const [sensor] = Object.values(done.project.sensors);
    expect(sensor.share).toBeCloseTo(8.4 / (spaceUses(p).get("a")?.area ?? 0), 3);
    // a metre in from the wall, in the middle of the window
    expect([sensor.x, sensor.y].some((v) => Math.abs(v - 3.5) < 1e-6)).toBe(true);
  });
});
