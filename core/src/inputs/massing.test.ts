import { describe, expect, it } from "vitest";
import { areaOf, footprintRings, perimeterAndCore, type Footprint } from "../geometry/index.ts";
import { parseProject } from "../model/index.ts";
import { checkProject } from "../simulate/index.ts";
import { starterUses } from "../library/index.ts";
import { boxProject } from "../verification/box.ts";
import { fabricLevels, massingProject, type Massing } from "./index.ts";

const context = boxProject();
const massing = (change: Partial<Massing> = {}): Massing => ({
  name: "Trial",
  footprint: { kind: "rectangle", length: 40, width: 20 },
  storeys: 2,
  storeyHeight: 3.5,
  glazing: { north: 0.3, east: 0.2, south: 0.4, west: 0.2 },
  perimeterDepth: 4.5,
  use: "office",
  level: "code",
  ...change,
});
const made = (change: Partial<Massing> = {}) => {
  const outcome = massingProject(massing(change), context, "trial");
  if (!outcome.ok) throw new Error(outcome.message);
  return outcome.project;
};

const shapes: [string, Footprint, number][] = [
  ["a rectangle", { kind: "rectangle", length: 40, width: 20 }, 800],
  ["an L", { kind: "L", length: 40, width: 30, cutLength: 20, cutWidth: 12 }, 1200 - 240],
  ["a U", { kind: "U", length: 60, width: 40, cutLength: 24, cutWidth: 22 }, 2400 - 528],
  ["a courtyard", { kind: "courtyard", length: 60, width: 50, cutLength: 24, cutWidth: 18 }, 3000 - 432],
  [
    "a typed polygon",
    {
      kind: "polygon",
      points: [
        [0, 0],
        [30, -5],
        [45, 20],
        [20, 35],
        [-4, 22],
      ],
    },
    NaN,
  ],
];

describe.each(shapes)("the parts of %s", (_name, footprint, area) => {
  const rings = footprintRings(footprint);
  if (!rings.ok) throw new Error(rings.message);
  const whole = areaOf([rings.polygon]);
  it.each([0, 2, 4.5])("at depth %d cover it exactly, without a problem in the whole model", (depth) => {
    if (!Number.isNaN(area)) expect(whole).toBeCloseTo(area, 9);
    const cut = perimeterAndCore(rings.polygon, depth, 0);
    if (!cut.ok) throw new Error(cut.message);
    expect(areaOf(cut.parts.map((p) => [p.ring]))).toBeCloseTo(whole, 6);
    const project = made({ footprint: footprint as Massing["footprint"], perimeterDepth: depth });
    expect(parseProject(project).ok).toBe(true);
    expect(checkProject(project).problems).toEqual([]);
    const { geometry } = checkProject(project);
    const outdoor = geometry.faces.filter((f) => f.kind === "wall" && f.contact === "outdoors").reduce((s, f) => s + f.area, 0);
    const perimeter = rings.polygon
      .flatMap((r) => r.map((p, i) => Math.hypot(r[(i + 1) % r.length][0] - p[0], r[(i + 1) % r.length][1] - p[1])))
      .reduce((a, b) => a + b, 0);
    expect(Math.abs(outdoor / (perimeter * 7) - 1)).toBeLessThan(1e-4);
  });
});

describe("a massing", () => {
  it("names perimeter and core by true orientation", () => {
    expect(Object.values(made({ storeys: 1 }).spaces).map((s) => s.name)).toEqual(["South", "East", "North", "West", "Core"]);
    const turned = massingProject(massing({ storeys: 1 }), { ...context, site: { ...context.site, planNorth: 90 } }, "t");
    expect(turned.ok && Object.values(turned.project.spaces).map((s) => s.name)).toEqual(["West", "South", "East", "North", "Core"]);
  });
  it("glazes each side as asked", () => {
    const { geometry, openings } = checkProject(made());
    const south = geometry.faces.filter((f) => f.kind === "wall" && f.contact === "outdoors" && Math.round(f.azimuth) === 180);
    const glass = openings.filter((o) => south.some((f) => f.key === o.face)).reduce((s, o) => s + o.area, 0);
    expect(glass / south.reduce((s, f) => s + f.area, 0)).toBeCloseTo(0.4, 9);
  });
  it.each(starterUses.flatMap((use) => fabricLevels.map((level) => [use, level] as const)))("for %s, %s, is a valid project", (use, level) => {
    const project = made({ use, level, storeys: 1 });
    expect(parseProject(project).ok).toBe(true);
    expect(checkProject(project).problems).toEqual([]);
  });
  it("that cannot be is refused with a sentence and its field", () => {
    const refused = (change: Partial<Massing>) => {
      const outcome = massingProject(massing(change), context, "t");
      if (outcome.ok) throw new Error("accepted");
      return outcome;
    };
    expect(refused({ perimeterDepth: 12 })).toMatchObject({
      path: "perimeterDepth",
      message: expect.stringMatching(/at most 9\.9\u00a0m|at most 10\.0\u00a0m/),
    });
    expect(refused({ storeys: 0 }).message).toBe("Storeys: at least 1 is needed.");
    expect(refused({ footprint: { kind: "L", length: 20, width: 20, cutLength: 25, cutWidth: 5 } }).message).toContain("at most 19.0\u00a0m by 19.0\u00a0m");
    expect(
      refused({
        footprint: {
          kind: "polygon",
          points: [
            [0, 0],
            [10, 10],
            [10, 0],
            [0, 10],
          ],
        },
      }).message,
    ).toContain("crosses itself");
    expect(refused({ name: "  " }).path).toBe("name");
  });
});
