import { describe, expect, it } from "vitest";
import { parseProject, type Project } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import { checkProject } from "./index.ts";

/** Problems of Use in a box with people and lights by day, after a change. */
const told = (change: (p: Project) => void): string[] => {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.3 }))) as Project;
  Object.assign(p.spaceTypes.box.inputs, {
    peopleDensity: 0.05,
    peopleSchedule: "day",
    lightingPower: 8,
    lightingSchedule: "day",
    outdoorAirPerPerson: 0.008,
    outdoorAirSchedule: "day",
    conditioningSchedule: "day",
  });
  p.schedules.never = {
    ...p.schedules.day,
    name: "Never",
    profiles: Object.fromEntries(Object.entries(p.schedules.day.profiles).map(([k, x]) => [k, { ...x, values: x.values.map(() => 0) }])),
  };
  change(p);
  const parsed = parseProject(p);
  if (!parsed.ok) throw new Error(parsed.problems[0].message);
  return checkProject(parsed.project)
    .problems.filter((x) => x.stage === "use")
    .map((x) => x.code);
};
const inputs = (p: Project) => p.spaceTypes.box.inputs;

describe("use that is likely a slip", () => {
  it.each<[string, (p: Project) => void, string[]]>([
    ["nothing", () => undefined, []],
    ["gains of another unit", (p) => (inputs(p).appliancePower = 800), ["gain"]],
    ["people who never come", (p) => (inputs(p).peopleSchedule = "never"), ["no-hours"]],
    ["lights without a schedule, as by default", (p) => (inputs(p).lightingSchedule = null), []],
    ["outdoor air day and night", (p) => (inputs(p).outdoorAirSchedule = null), ["all-hours"]],
    ["outdoor air below the table", (p) => ((p.spaceTypes.box.rate = "classroom"), (inputs(p).outdoorAirPerPerson = 0.001)), ["outdoor-air"]],
    ["windows that never open", (p) => Object.assign(inputs(p), { windowOpenAbove: 24, windowIndoorMost: 23 }), ["window-limit"]],
    ["windows open while it is heated", (p) => Object.assign(inputs(p), { windowOpenAbove: 17 }), ["window-limit"]],
    ["a headcount nobody typed", (p) => (inputs(p).peopleGiven = "share of headcount"), ["not-known"]],
    ["shares of more than all", (p) => Object.assign(inputs(p), { applianceLatentShare: 0.7, applianceLostShare: 0.6 }), ["shares"]],
    ["a device list that is none", (p) => (inputs(p).applianceGiven = "device list"), ["no-devices"]],
    ["a building smaller than its model", (p) => (p.known.area = 10), ["part"]],
    [
      "a rule that cannot be read",
      (p) => p.rules.push({ id: "r", name: "R", on: true, target: "space", field: "illuminance", conditions: [], value: "3 m" }),
      ["rule"],
    ],
  ])("%s", (_, change, codes) => {
    expect(told(change)).toEqual(codes);
  });
  it("such as lights on through the night is told where a schedule says so", () => {
    const lit = (p: Project): void => {
      const always = Object.fromEntries(Object.entries(p.schedules.day.profiles).map(([k, x]) => [k, { ...x, values: x.values.map(() => 1) }]));
      p.schedules.lit = { ...p.schedules.day, name: "Lit", profiles: always };
      inputs(p).lightingSchedule = "lit";
    };
    expect(told(lit)).toEqual(["lit-at-night"]);
  });
});
