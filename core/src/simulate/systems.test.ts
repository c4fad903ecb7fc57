import { describe, expect, it } from "vitest";
import { applyChanges, parseProject, type Change, type Project } from "../model/index.ts";
import { AIR, OUT, OUTS, systemChanges, type PlantChoice, type SystemChoice } from "../services/index.ts";
import { boxProject, daily, steadyWeather } from "../verification/box.ts";
import { compile, YearKernel, type CompiledModel, RUN } from "./index.ts";
import type { WeatherYear } from "../climate/index.ts";

/** A box on a system, with sizes typed so that none are to be found. */
function onSystem(
  choice: SystemChoice,
  more: readonly Change[] = [],
  plant: PlantChoice = "boiler and chiller",
  box: Parameters<typeof boxProject>[0] = {},
): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ heating: 20, cooling: 24, gains: 2500, ...box }))) as Project;
  const zone = Object.keys(p.zones)[0];
  p.schedules.off = daily("Off", () => 0);
  Object.assign(p.spaces[Object.keys(p.spaces)[0]].inputs, { outdoorAirPerArea: 0.0008, peopleDensity: 0.1, peopleSensible: 0, innerMass: 20000 });
  const typed: Record<string, Record<string, number>> = {
    terminal: { flow: 0.5, reheatCapacity: 8000 },
    supplyFan: { flow: 0.5 },
    returnFan: { flow: 0.5 },
    heatingCoil: { capacity: 12000 },
    coolingCoil: { capacity: 15000 },
    pump: { flow: 0.0005 },
    boiler: { capacity: 25000 },
    chiller: { capacity: 25000 },
    fanCoil: { heatingCapacity: 8000, coolingCapacity: 8000 },
    splitUnit: { heatingCapacity: 8000, coolingCapacity: 8000 },
    baseboard: { capacity: 8000 },
  };
  const made = applyChanges(p, systemChanges(p, choice, plant, [zone], "System"));
  if (!made.ok) throw new Error(made.message);
  const doc = JSON.parse(JSON.stringify(made.project)) as Project;
  const fill = (c: { kind: string; inputs: Record<string, unknown> }): void => {
    for (const [f, v] of Object.entries(typed[c.kind] ?? {})) c.inputs[f] = v;
  };
  for (const s of Object.values(doc.airSystems)) s.parts.forEach(fill);
  for (const l of Object.values(doc.loops)) l.parts.forEach(fill);
  for (const z of Object.values(doc.zones)) z.equipment?.forEach(fill);
  const changed = applyChanges(doc, more);
  if (!changed.ok) throw new Error(changed.message);
  const read = parseProject(changed.project);
  if (!read.ok) throw new Error(read.problems.map((x) => `${x.path} ${x.message}`).join("\n"));
  return read.project;
}

/** Days at a steady climate; the kernel after them, with the sums of the last day by component, J. */
function steady(project: Project, outdoor: number, days = 12, watch?: (k: YearKernel) => void): { k: YearKernel; m: CompiledModel; sum: Float64Array } {
  const w: WeatherYear = steadyWeather(outdoor);
  const m = compile(project, w, 4);
  const k = new YearKernel(m, w);
  k.start(outdoor, 21, 0.006);
  const v = k.state.services;
  const sum = new Float64Array((m.services?.components.length ?? 0) * OUTS);
  for (let h = 0; h < 24 * days; h++)
    for (let s = 0; s < 4; s++) {
      if (h === 24 && s === 0) k.openBooks();
      k.step(h, s);
      watch?.(k);
      if (v && h >= 24 * (days - 1)) for (let i = 0; i < sum.length; i++) sum[i] += v.out[i] * 900;
    }
  return { k, m, sum };
}
const of = (m: CompiledModel, kind: string): number => OUTS * (m.services?.components.findIndex((c) => c.kind === kind) ?? -1);
const closes = (k: YearKernel): void => {
  expect(k.books.zoneResidual[0] / k.books.zoneGross[0]).toBeLessThan(1e-9);
  expect(k.books.waterResidual[0] / k.books.waterGross[0]).toBeLessThan(1e-9);
  expect(k.books.unsettled[0]).toBe(0);
};

describe("a box on each system", () => {
  const choices: SystemChoice[] = ["variable", "constant", "variable refrigerant", "single", "fan coils", "split units", "baseboards"];
  it.each(choices)("%s: holds its heating set-point in the cold, and its cooling set-point in the heat where it cools; the books close", (choice) => {
    const winter = steady(onSystem(choice, [], "boiler and chiller", { gains: 0 }), -5);
    expect(winter.k.record.airTemperature[0]).toBeCloseTo(20, 1);
    closes(winter.k);
    const summer = steady(onSystem(choice), 33);
    if (choice === "baseboards") expect(summer.k.record.airTemperature[0]).toBeGreaterThan(26);
    // a constant system cools whatever the room needs, down to where reheat holds it
    else if (choice === "constant") expect(summer.k.record.airTemperature[0]).toBeGreaterThan(19.99);
    else expect(summer.k.record.airTemperature[0]).toBeCloseTo(24, 1);
    if (choice !== "baseboards") expect(summer.k.record.airTemperature[0]).toBeLessThan(24.05);
    closes(summer.k);
  });

  it("what is drawn from the hot loop is what its boiler and pump give, and fuel is heat over efficiency and the standing loss", () => {
    const { m, sum } = steady(onSystem("variable", [], "boiler and chiller", { gains: 0 }), -5);
    const drawn = sum[of(m, "terminal") + OUT.HEAT] + sum[of(m, "heatingCoil") + OUT.HEAT];
    const loops = m.services?.components.flatMap((c, i) => (c.kind === "loop" && c.path[1] === "hot" ? [OUTS * i] : [])) ?? [];
    expect(sum[loops[0] + OUT.HEAT] / drawn).toBeCloseTo(1, 9);
    const pumps = m.services?.components.flatMap((c, i) => (c.kind === "pump" && c.path[1] === "hot" ? [OUTS * i] : [])) ?? [];
    expect((sum[of(m, "boiler") + OUT.HEAT] + sum[pumps[0] + OUT.HEAT]) / drawn).toBeCloseTo(1, 9);
    const fuel = sum[of(m, "boiler") + OUT.HEAT] / 0.88 + (0.005 * 25000 * 86400) / 0.88;
    expect(sum[of(m, "boiler") + OUT.FUEL] / fuel).toBeCloseTo(1, 6);
  });

  it("gives the room what the air brings: coils, fans and outdoor air add up over a day", () => {
    const { k, m, sum } = steady(onSystem("variable"), 33);
    const v = k.state.services;
    const heat = (kind: string): number => sum[of(m, kind) + OUT.HEAT] / 86400;
    const a = v?.air[0] as Float64Array;
    const outdoor = a[AIR.OUTDOOR_FLOW] * a[AIR.CP] * (33 - a[AIR.EXHAUST]);
    const brought = heat("coolingCoil") + heat("heatingCoil") + heat("supplyFan") + heat("returnFan") + outdoor + heat("terminal");
    const got = k.record.heating[0] - k.record.cooling[0];
    expect(Math.abs(brought / got - 1)).toBeLessThan(2e-3);
    expect(got).toBeLessThan(-1000);
  });
});

describe("a limited system", () => {
  it("gives no more than its boiler has, and the room drifts as far as a box with that heat", () => {
    const small = onSystem(
      "baseboards",
      [{ op: "set", path: ["loops", "hot", "parts", "boiler", "inputs", "capacity"], value: 800, old: 25000 }],
      "boiler and chiller",
      { gains: 0 },
    );
    const { k, m, sum } = steady(small, -5, 20);
    expect(sum[of(m, "boiler") + OUT.HEAT] / 86400).toBeLessThanOrEqual(800.001);
    expect(sum[of(m, "boiler") + OUT.HEAT] / 86400).toBeGreaterThan(790);
    expect(k.record.airTemperature[0]).toBeLessThan(19);
    closes(k);
  });
  it("that stands still lets the room drift as a box without any heating", () => {
    const off = onSystem("variable", [
      { op: "set", path: ["airSystems", "system", "inputs", "hours"], value: "off" },
      { op: "set", path: ["airSystems", "system", "inputs", "night"], value: "stands still" },
    ]);
    const free = JSON.parse(JSON.stringify(off)) as Project;
    for (const z of Object.values(free.zones)) delete z.equipment;
    for (const s of Object.values(free.spaces)) {
      s.inputs.heatingSetpoint = null;
      s.inputs.heatingSetback = null;
      s.inputs.coolingSetpoint = null;
      s.inputs.coolingSetback = null;
      s.inputs.outdoorAirPerArea = 0;
    }
    const a = steady(off, -5, 8);
    const b = steady(free, -5, 8);
    // one has a pass more a step, by which films follow
    expect(Math.abs(a.k.record.airTemperature[0] - b.k.record.airTemperature[0])).toBeLessThan(1e-7);
  });
});

describe("out of hours", () => {
  it("the fans start for a room beyond its setback, run at least so long without outdoor air, and stop", () => {
    const p = onSystem("variable", [{ op: "set", path: ["airSystems", "system", "inputs", "hours"], value: "off" }] as Change[], "boiler and chiller", {
      gains: 0,
    });
    const runs: number[] = [];
    let outdoorAir = 0;
    let coldest = 100;
    const { k } = steady(p, -5, 8, (kernel) => {
      runs.push(kernel.state.services?.run[0] ?? 0);
      outdoorAir = Math.max(outdoorAir, kernel.state.services?.air[0][AIR.OUTDOOR_FLOW] ?? 0);
      if (runs.length > 96) coldest = Math.min(coldest, kernel.record.airTemperature[0]);
    });
    expect(runs.some((r) => r === RUN.NIGHT_HEATING)).toBe(true);
    expect(runs.some((r) => r === RUN.OFF)).toBe(true);
    expect(outdoorAir).toBe(0);
    // never much below the setback less the band
    expect(coldest).toBeGreaterThan(17);
    let stretch = 0;
    let shortest = Infinity;
    for (const r of runs) {
      if (r === RUN.NIGHT_HEATING) stretch++;
      else if (stretch > 0) {
        shortest = Math.min(shortest, stretch);
        stretch = 0;
      }
    }
    expect(shortest).toBeGreaterThanOrEqual(2);
    closes(k);
  });
});
