import { describe, expect, it } from "vitest";
import { effectiveSetting, ruleReach, ruledComponents, ruleThings, spaceUses, tryRuleOn } from "../inputs/index.ts";
import { applyChanges, componentsOf, parseProject, zonesServed, type PlacedComponent, type Project, type Rule } from "../model/index.ts";

import { needsSizes, runToEnd, sizeProject } from "../results/index.ts";
import { checkProject, projectWeather } from "../simulate/index.ts";
import { boxProject } from "../verification/box.ts";
import { systemChanges } from "./index.ts";

const on = { heating: 20, cooling: 24 };
const base = JSON.parse(JSON.stringify(boxProject({ ...on, second: on }))) as Project;
base.spaceTypes.box.inputs = { ...base.spaceTypes.box.inputs, peopleDensity: 0.1, outdoorAirPerPerson: 0.005, outdoorAirPerArea: 0.0003 };
const [first, second] = Object.keys(base.zones);
const made = applyChanges(base, systemChanges(base, "variable", "boiler and chiller", [first, second], "Air"));
if (!made.ok) throw new Error(made.message);
const rule = (more: Partial<Rule>): Rule => ({
  id: "r1",
  name: "Terminal flow",
  on: true,
  target: "component",
  field: "terminal.flow",
  conditions: [],
  value: "20 L/s * people + 1 L/s/m² * area",
  ...more,
});
const withRules = (...rules: Rule[]): Project => {
  const read = parseProject(JSON.parse(JSON.stringify({ ...made.project, rules })));
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return read.project;
};
const part = (p: Project, kind: string, zone?: string): PlacedComponent =>
  componentsOf(p).find((c) => c.kind === kind && (zone === undefined || c.path[1] === zone)) as PlacedComponent;

describe("rules on components", () => {
  it("fill a flow by area and people, told as theirs, below what is typed", () => {
    const p = withRules(rule({}));
    const use = spaceUses(p).get(Object.keys(p.spaces).find((s) => p.spaces[s].zone === first) as string);
    const e = effectiveSetting(p, part(p, "terminal", first), "flow");
    expect(e.value).toBeCloseTo(0.02 * (use?.people ?? NaN) + 0.001 * (use?.area ?? NaN), 12);
    expect(e.origin).toEqual({ kind: "rule", from: "r1", name: "Terminal flow" });
    const typed = JSON.parse(JSON.stringify(p)) as Project;
    (typed.zones[first].equipment ?? [])[0] = { ...(typed.zones[first].equipment ?? [])[0], inputs: { ...part(p, "terminal", first).inputs, flow: 0.2 } };
    expect(effectiveSetting(typed, part(typed, "terminal", first), "flow")).toEqual({ value: 0.2, origin: { kind: "typed" } });
    expect(ruleReach(typed, typed.rules[0])?.map((r) => r.ruled)).toEqual([false, true]);
    // what no rule fills stays with the sizing
    expect(effectiveSetting(p, part(p, "terminal", first), "reheatCapacity").origin.kind).toBe("sized");
  });

  it("sum the outdoor air over a system's rooms", () => {
    const p = withRules(rule({ field: "mixing.outdoorFlow", value: "1.1 * outdoorAir" }));
    const asked = [...spaceUses(p).values()].reduce((s, u) => s + u.outdoorAir.supplied, 0);
    expect(asked).toBeGreaterThan(0.01);
    expect(effectiveSetting(p, part(p, "mixing"), "outdoorFlow").value).toBeCloseTo(1.1 * asked, 12);
    expect(tryRuleOn(p, p.rules[0], part(p, "mixing").path.join("/")).values.get("outdoorAir")).toBeCloseTo(1000 * asked, 9);
  });

  it("act by what is served: use, zone, system and name; later ones win", () => {
    const is = (kind: Rule["conditions"][number]["on"], ...words: string[]) => [{ id: "c", on: kind, not: false, is: words }];
    const p = withRules(
      rule({ field: "terminal.least", value: "50 %" }),
      rule({ id: "r2", name: "Second", field: "terminal.least", value: "20 %", conditions: is("zone", second) }),
    );
    expect([first, second].map((z) => effectiveSetting(p, part(p, "terminal", z), "least").value)).toEqual([expect.closeTo(0.5, 12), expect.closeTo(0.2, 12)]);
    const fan = (r: Partial<Rule>): unknown => {
      const q = withRules(rule({ field: "supplyFan.pressure", value: "500 Pa", ...r }));
      return effectiveSetting(q, part(q, "supplyFan"), "pressure").value;
    };
    expect(fan({ conditions: is("spaceType", "box") })).toBeCloseTo(500, 9);
    expect(fan({ conditions: is("system", Object.keys(p.airSystems)[0]) })).toBeCloseTo(500, 9);
    expect(fan({ conditions: is("name", "nothing of this name") })).toBe(800);
    // plant is told by the rooms that draw on it
    expect(zonesServed(p, part(p, "boiler")).sort()).toEqual([first, second].sort());
    expect(ruleThings(p, rule({ field: "boiler.efficiency" })).map((t) => t.name)).toEqual(["Boiler of Hot water"]);
  });

  it("reach sizing and the year", () => {
    const p = withRules(rule({ field: "boiler.efficiency", value: "70 %" }), rule({ id: "r2", field: "terminal.flow", value: "300 L/s" }));
    expect(needsSizes(p)).toBe(true);
    const weather = projectWeather(p);
    if (!weather) throw new Error("no weather");
    const sizing = sizeProject(p, weather);
    expect(sizing.components.filter((c) => c.address.endsWith("terminal/inputs/flow")).map((c) => c.typed)).toEqual([
      expect.closeTo(0.3, 12),
      expect.closeTo(0.3, 12),
    ]);
    const days = { ...p, run: { ...p.run, period: { from: [1, 5], days: 4 } } } as Project;
    const plain = { ...days, rules: [days.rules[1]] };
    const fuel = (q: Project): number =>
      runToEnd(q, weather, { stepsPerHour: 1 })
        .summary.energy.endUses.filter((u) => u.use === "heating" && u.fuel === "gas")
        .reduce((s, u) => s + u.total, 0);
    // the same heat from a boiler of 70 % in place of 92 %
    expect(fuel(days)).toBeGreaterThan(1.2 * fuel(plain));
  });

  it.each<[string, Partial<Rule>, string]>([
    ["a setting that is not there", { field: "terminal.colour" }, 'has no input "terminal.colour"'],
    ["a wrong dimension", { value: "3 m²" }, "m³/s"],
    ["a sum that is one already", { value: "zoneSum(area) * 1 L/s/m²" }, "sums over the rooms served already"],
    ["a word that is no choice", { field: "mixing.economizer", value: "sometimes" }, "differential dry bulb"],
    ["a figure out of bounds", { field: "supplyFan.efficiency", value: "3" }, "outside 0.05 to 0.95"],
    ["a division by nothing", { value: "1 L/s / (zones - zones)" }, "gives no number"],
  ])("tell %s, and do nothing", (_, more, words) => {
    const p = withRules(rule(more));
    expect(
      checkProject(p)
        .problems.map((x) => x.message)
        .join("\n"),
    ).toContain(words);
    expect(ruledComponents(p).given.size).toBe(0);
  });
});
