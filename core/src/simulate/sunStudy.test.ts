import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import { projectWeather } from "./weather.ts";
import { boxProject } from "../verification/box.ts";
import { runToEnd } from "../results/index.ts";
import { sunStudy, type FaceSun } from "./sunStudy.ts";
import type { Project } from "../model/index.ts";

const boxWeather = (): WeatherYear => projectWeather(boxProject()) as WeatherYear;
function study(p: Project, from: number, days: number): readonly FaceSun[] {
  const run = sunStudy(p, boxWeather(), { from, days });
  for (;;) {
    const step = run.next();
    if (step.done) return step.value;
  }
}
const plain = (): Project => {
  const p = boxProject();
  p.openings = {};
  p.shades = {};
  return p;
};
const byHost = (rows: readonly FaceSun[], part: string): FaceSun => rows.find((r) => r.host.endsWith(part)) as FaceSun;

describe("a sun study", () => {
  it("gives a roof the daylight of the year, about half its hours, and needs no fabric, use or zone", () => {
    const p = plain();
    for (const s of Object.values(p.spaces)) Object.assign(s, { zone: null, spaceType: null });
    const roof = byHost(study(p, 0, 365), "ceiling");
    expect(roof.hours).toBeGreaterThan(4300);
    expect(roof.hours).toBeLessThan(4480);
  });
  it("of a roof in the open adds up to the weather's global irradiation", () => {
    const p = plain();
    p.run.sky = "isotropic";
    const w = boxWeather();
    const roof = byHost(study(p, 0, 365), "ceiling");
    const global = w.globalHorizontal.reduce((a, b) => a + b, 0) / 1000;
    // sun positions of 24 days stand for all, and the beam is bounded near the horizon
    expect(Math.abs(roof.total / global - 1)).toBeLessThan(0.02);
  });
  it("gives north walls least, and a summer day more on the roof than on any wall", () => {
    const rows = study(plain(), 171, 1);
    const roof = byHost(rows, "ceiling");
    for (const r of rows) if (r !== roof) expect(r.total).toBeLessThan(roof.total);
    expect(rows.reduce((a, b) => (b.total < a.total ? b : a)).hours).toBeLessThan(roof.hours);
  });
  it("loses to a tree what its leaves hold back in the month", () => {
    const bare = plain();
    const south = (p: Project): FaceSun =>
      study(p, 354, 1)
        .filter((r) => !r.host.endsWith("ceiling"))
        .reduce((a, b) => (b.hours > a.hours ? b : a));
    const open = south(bare);
    const tree = (through: number): number => {
      const p = plain();
      p.surroundings = { tree: { kind: "tree", name: "Tree", x: 4, y: -5, crown: 8, base: 0, height: 9, transmittance: Array<number>(12).fill(through) } };
      return study(p, 354, 1).find((r) => r.key === open.key)?.hours ?? NaN;
    };
    expect(tree(1)).toBeCloseTo(open.hours, 9);
    expect(tree(0)).toBeLessThan(0.9 * open.hours);
    expect(tree(0.5)).toBeGreaterThan(tree(0));
    expect(tree(0.5)).toBeLessThan(open.hours);
  });
  it("finds on every face what the year finds, in the open and in shade: two ways through one model", () => {
    for (const shaded of [false, true]) {
      const p = boxProject({ glass: 0.4, overhang: shaded ? 1.5 : 0 });
      if (shaded) p.surroundings.b = { kind: "block", name: "Block", x: 4, y: -10, width: 40, depth: 4, angle: 0, base: 0, height: 8 };
      const year = runToEnd(p, boxWeather(), { stepsPerHour: 4 }).summary.faces;
      for (const row of study(p, 0, 365)) {
        const face = year.find((f) => f.key === row.key);
        if (!face) throw new Error(`the year has no face ${row.key}`);
        // sun positions of 24 days stand for all in the one, and are read between in the other
        expect(Math.abs(face.incident / row.total - 1)).toBeLessThan(0.015);
      }
    }
  });
  it("loses sun behind a block, hours and irradiation", () => {
    const open = study(plain(), 354, 1);
    const p = plain();
    p.surroundings = { block: { kind: "block", name: "Block", x: 4, y: -8, width: 60, depth: 4, angle: 0, base: 0, height: 20 } };
    const shaded = study(p, 354, 1);
    const south = open.filter((r) => !r.host.endsWith("ceiling")).reduce((a, b) => (b.total > a.total ? b : a));
    const same = shaded.find((r) => r.key === south.key) as FaceSun;
    expect(same.hours).toBeLessThan(0.3 * south.hours);
    expect(same.total).toBeLessThan(0.6 * south.total);
  });
});
