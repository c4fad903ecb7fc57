import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import { parseProject, type Project } from "../model/index.ts";
import { projectWeather } from "../simulate/index.ts";
import { boxProject } from "../verification/box.ts";
import { influencesOf, movedTo, screen, type Influence, type Screening } from "./index.ts";

function room(edit: (p: Project) => void = () => undefined): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.4, heating: 20, cooling: 26, weight: "heavy", gains: 300 }))) as Project;
  Object.assign(p.spaceTypes.box.inputs, { lightingPower: 9, appliancePower: 8, infiltration: 0.4, innerMass: 20000 });
  edit(p);
  const read = parseProject(JSON.parse(JSON.stringify(p)));
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return read.project;
}
function screened(p: Project, list: readonly Influence[], bases: number): Screening {
  const run = screen(p, projectWeather(p) as WeatherYear, list, bases, { stepsPerHour: 1, summaryOnly: true, shortYear: 12 });
  for (;;) {
    const step = run.next();
    if (step.done) return step.value;
  }
}
const only = (list: readonly Influence[], ...ids: readonly string[]): Influence[] => ids.map((id) => list.find((x) => x.id === id) as Influence);

describe("inputs that may move the figures", () => {
  const p = room();
  const list = influencesOf(p);
  it("are those of the spaces, the envelope and the services, each once, the value now within its range", () => {
    const ids = list.map((x) => x.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids).toContain("spaces infiltration");
    expect(ids.some((id) => /^assemblies\/.*\/thickness$/.test(id))).toBe(true);
    expect(ids.some((id) => /^services\/.*\/heating\/efficiency$/.test(id))).toBe(true);
    for (const x of list) {
      expect(x.now).toBeGreaterThanOrEqual(x.range[0]);
      expect(x.now).toBeLessThanOrEqual(x.range[1]);
      expect(x.range[0]).toBeLessThan(x.range[1]);
    }
  });
  it("say where they come from: a default, or what the type gives", () => {
    const [leak, mass, people] = only(list, "spaces infiltration", "spaces innerMass", "spaces peopleSensible");
    expect(leak).toMatchObject({ places: 1, defaults: 0, origin: { kind: "spaceType" } });
    expect(leak.now).toBeCloseTo(0.4, 12);
    expect(mass).toMatchObject({ defaults: 0, unit: "J/m²K" });
    expect(people).toMatchObject({ places: 1, defaults: 1, origin: { kind: "default" } });
  });
  it("are moved where they stand, and nothing else is", () => {
    const [leak] = only(list, "spaces infiltration");
    const moved = movedTo(p, [[leak, 1]]);
    expect(moved?.spaces.a.inputs.infiltration).toBeCloseTo(1, 12);
    expect({ ...moved, spaces: null }).toEqual({ ...p, spaces: null });
    expect(movedTo(p, [[leak, leak.now]])).toBe(p);
  });
});

describe("what matters", () => {
  it("ranks leaks and the set-point for heating, in their directions, above what moves nothing", () => {
    const p = room();
    const list = only(influencesOf(p), "spaces infiltration", "spaces heatingSetpoint", "spaces lightingPower", "spaces coolingSetpoint");
    const { effects, done, of } = screened(p, list, 3);
    expect(done).toBe(of);
    const [leaks, warmer, lights, cooler] = effects.map((e) => e.heating);
    expect(leaks.mean).toBeGreaterThan(0);
    expect(warmer.mean).toBeGreaterThan(0);
    // lights warm the room
    expect(lights.mean).toBeLessThan(0);
    expect(Math.abs(cooler.mean)).toBeLessThan(0.1 * leaks.mean);
    for (const e of effects) {
      expect(e.heating.size).toBeGreaterThanOrEqual(Math.abs(e.heating.mean) - 1e-9);
      expect(e.heating.of).toBe(3);
    }
    // a higher cooling set-point saves cooling, more lights ask for it
    expect(effects[3].cooling.mean).toBeLessThan(0);
    expect(effects[2].cooling.mean).toBeGreaterThan(0);
  });

  it("is a straight line without spread where nothing else comes into it: appliances of a room that is neither heated nor cooled", () => {
    const p = room((d) => Object.assign(d.spaceTypes.box.inputs, { heatingSetpoint: null, coolingSetpoint: null, heatingSetback: null, coolingSetback: null }));
    const list = only(influencesOf(p), "spaces appliancePower", "spaces infiltration");
    const { effects } = screened(p, list, 3);
    const [appliances, leaks] = effects.map((e) => e.energy);
    const area = 48;
    const [least, most] = list[0].range;
    // no schedule: all hours of the year
    expect(appliances.mean / (((most - least) * area * 8760) / 1000)).toBeCloseTo(1, 3);
    expect(appliances.deviation / appliances.mean).toBeLessThan(1e-3);
    expect(leaks.size).toBeLessThan(1e-6 * appliances.size);
  });

  it("is found the same again, and leaves out what makes no model", () => {
    const p = room();
    const list = only(influencesOf(p), "spaces heatingSetpoint", "spaces infiltration");
    expect(screened(p, list, 2)).toEqual(screened(p, list, 2));
    const crossed: Influence = { ...list[0], range: [18, 45] };
    const { effects } = screened(p, [crossed], 1);
    expect(effects[0].heating.of).toBe(0);
    expect(effects[0].heating.size).toBe(0);
  });
});
