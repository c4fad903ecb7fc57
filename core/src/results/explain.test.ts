import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import { evaluate, namesIn, parseExpression } from "../expression/index.ts";
import { applyChanges, parseProject, type Project } from "../model/index.ts";
import { systemChanges } from "../services/index.ts";
import { flowNames, projectWeather } from "../simulate/index.ts";
import { boxProject, daily } from "../verification/box.ts";
import { HourExplainer, recordHour, runToEnd, type Explained, type HourRecord } from "./index.ts";

/** A room with everything that can flow: glass to the south, people, lights, leaks, outdoor air, a system. */
function room(system: boolean): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.4, heating: 20, cooling: 24, weight: "heavy", gains: 300 }))) as Project;
  p.schedules.day = daily("Day", (h) => (h >= 8 && h < 18 ? 0.75 : 0.1));
  Object.assign(p.spaceTypes.box.inputs, {
    peopleDensity: 0.1,
    peopleSchedule: "day",
    lightingPower: 9,
    lightingSchedule: "day",
    appliancePower: 6,
    applianceSchedule: "day",
    infiltration: 0.3,
    outdoorAirPerPerson: 0.008,
    outdoorAirSchedule: "day",
    nightVentilation: 1.5,
    nightVentilationSchedule: "day",
    nightVentilationAbove: 18,
    innerMass: 20000,
  });
  p.zones.a.inputs = {};
  const made = applyChanges(p, system ? systemChanges(p, "variable", "boiler and chiller", ["a"], "Air") : []);
  if (!made.ok) throw new Error(made.message);
  const read = parseProject(JSON.parse(JSON.stringify(made.project)));
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return read.project;
}
const PERIOD = { stepsPerHour: 4, period: { firstDay: 200, days: 3 } } as const;
function recorded(p: Project, hour: number): HourRecord {
  const run = recordHour(p, projectWeather(p) as WeatherYear, PERIOD, hour);
  for (;;) {
    const step = run.next();
    if (step.done) return step.value;
  }
}
const all = (list: readonly Explained[]): Explained[] => list.flatMap((e) => [e, ...all(e.parts)]);
const sum = (a: readonly { readonly value: number }[]): number => a.reduce((s, v) => s + v.value, 0);

describe.each([false, true])("an hour of a run explained, with a system: %s", (system) => {
  const p = room(system);
  const whole = runToEnd(p, projectWeather(p) as WeatherYear, { ...PERIOD, series: [...flowNames, "insideSurface", "transmittedSun"] });

  it.each([15, 26, 44])("is hour %i of the run itself: flows and surfaces to the bit", (hour) => {
    const record = recorded(p, hour);
    for (const f of flowNames.filter((n) => n !== "heating" && n !== "cooling")) {
      const series = whole.series.find((s) => s.scope === "a" && s.quantity === f);
      const mean = record.zones[0].steps.reduce((s, x) => s + x.flows[f], 0) / 4;
      expect(mean).toBe(series?.values[hour]);
    }
    for (const s of whole.series.filter((x) => x.quantity === "insideSurface")) {
      const face = record.faces.find((x) => x.key === s.scope && x.zone === "a");
      expect((face?.steps.reduce((t, x) => t + x.inside, 0) ?? NaN) / 4).toBe(s.values[hour]);
    }
  });

  it.each([3, 15, 44])("tells every formula of hour %i with figures that give its flow, parts that add up, and a balance that closes", (hour) => {
    const record = recorded(p, hour);
    const explainer = new HourExplainer(p, record);
    let formulas = 0;
    for (let step = 0; step < 4; step++) {
      const flows = explainer.flows("a", step);
      const gross = flows.reduce((s, f) => s + Math.abs(f.value), 0);
      expect(Math.abs(sum(flows))).toBeLessThan(1e-6 * gross + 0.05);
      for (const e of all(flows)) {
        expect(e.words).not.toBe("");
        if (e.parts.length > 0) expect(Math.abs(sum(e.parts) - e.value)).toBeLessThan(0.02);
        if (e.formula === null) continue;
        formulas++;
        const parsed = parseExpression(e.formula);
        if (!parsed.ok) throw new Error(`${e.key}: ${parsed.fault.message}`);
        const at = new Map(e.figures.filter((f) => f.name !== "").map((f) => [f.name, f.value ?? NaN]));
        for (const name of namesIn(parsed.root)) expect(at.has(name), `${e.key} lacks ${name}`).toBe(true);
        const [value] = evaluate(parsed.root, { rows: 1, column: (name) => at.get(name) ?? NaN });
        expect(Math.abs(value - e.value), `${e.key}: ${e.formula}`).toBeLessThan(1e-6 * Math.max(1, gross));
      }
    }
    expect(formulas).toBeGreaterThan(48);
  });
});

describe("figures behind a flow", () => {
  const p = room(false);
  const flows = new HourExplainer(p, recorded(p, 13)).flows("a", 2);
  const flow = (key: string): Explained => flows.find((f) => f.key === key) as Explained;

  it("come with their address and origin, schedules at the value of the hour", () => {
    const [people] = flow("people").parts;
    expect(people.figures.find((f) => f.name === "s")).toMatchObject({ address: "schedules/day", value: 0.75, origin: { kind: "spaceType" } });
    expect(people.figures.find((f) => f.words.startsWith("People"))).toMatchObject({ address: "spaces/a/inputs/peopleDensity", value: 0.1 });
    // ten people on 100 m², each with his heat
    expect(people.value).toBeCloseTo((people.figures[0].value as number) * 0.75 * (people.figures[1].value as number), 6);
  });

  it("tell what lets the sun in: window by window, its glass with where that comes from", () => {
    const sun = flow("sun");
    const windows = sun.parts.filter((x) => x.kind === "face");
    expect(windows.length).toBeGreaterThan(0);
    for (const w of windows) {
      expect(w.figures.find((f) => f.name === "T_b")?.value).toBeLessThan(w.figures.find((f) => f.words.includes("g-value"))?.value ?? 0);
      expect(w.figures.find((f) => f.words.includes("U-value"))?.address).toMatch(/^glazings\//);
    }
    // some of what came in goes out again
    expect(sum(windows)).toBeGreaterThan(sun.value);
    expect(flow("cooling").value).toBeLessThan(0);
  });

  it("refuse a zone, a step or an hour that is not there", () => {
    const explainer = new HourExplainer(p, recorded(p, 13));
    expect(() => explainer.flows("nobody", 0)).toThrow(RangeError);
    expect(() => explainer.flows("a", 4)).toThrow(RangeError);
    expect(() => recorded(p, 72)).toThrow("no hour 72");
  });
});
