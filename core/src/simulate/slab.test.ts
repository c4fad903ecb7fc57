import { describe, expect, it } from "vitest";
import { applyChanges, parseProject, setChange, type Project } from "../model/index.ts";
import { circuitEffectiveness, OUT, OUTS, pipeResistance, slabChanges, WATER_CP } from "../services/index.ts";
import { boxProject, steadyWeather } from "../verification/box.ts";
import { compile, YearKernel } from "./index.ts";

/** A heavy box with pipes in its floor, pumps and sources typed; changes of the circuit's settings. */
function slabBox(settings: Record<string, number | string>, options: Parameters<typeof boxProject>[0] = {}): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ weight: "heavy", gains: 0, cooling: 24, ...options }))) as Project;
  const made = applyChanges(p, slabChanges(p, "a", "floor"));
  if (!made.ok) throw new Error(made.message);
  const doc = JSON.parse(JSON.stringify(made.project)) as Project;
  for (const l of Object.values(doc.loops))
    for (const c of l.parts as unknown as { kind: string; inputs: Record<string, number> }[])
      Object.assign(c.inputs, c.kind === "pump" ? { flow: 0.0003 } : { capacity: 20000 });
  const q = applyChanges(
    doc,
    Object.entries(settings).map(([f, v]) => setChange(doc, ["zones", "a", "equipment", "slab", "inputs", f], v)),
  );
  if (!q.ok) throw new Error(q.message);
  const read = parseProject(q.project);
  if (!read.ok) throw new Error(read.problems[0].message);
  return read.project;
}

function run(p: Project, outdoor: number, days: number, humidity = 50): { k: YearKernel; heat: number } {
  const w = { ...steadyWeather(outdoor) };
  w.relativeHumidity = Float64Array.from(w.relativeHumidity, () => humidity);
  const m = compile(p, w, 4);
  const k = new YearKernel(m, w);
  k.start(outdoor, 20, 0.005);
  const v = k.state.services;
  const slab = OUTS * (m.services?.components.findIndex((c) => c.kind === "slabCircuit") ?? -1);
  let heat = 0;
  for (let h = 0; h < 24 * days; h++)
    for (let s = 0; s < 4; s++) {
      if (h === 48 && s === 0) k.openBooks();
      k.step(h, s);
      if (h >= 24 * (days - 1)) heat += (v?.out[slab + OUT.HEAT] ?? 0) / 96;
    }
  return { k, heat };
}

describe("a floor with pipes", () => {
  it("steady, gives what its resistances from the water to the layer and from the layer to both sides say", () => {
    const { k, heat } = run(slabBox({ flowRule: "through its season", given: "effectiveness", effectiveness: 0.5, flow: 0.004 }), 0, 60);
    const floor = k.model.circuits[0];
    const area = k.model.area[floor];
    const plane = k.planeTemperature(floor);
    // q = ε·ṁ·c·(T_water − T_layer)
    expect(heat / area / (0.5 * 0.004 * WATER_CP * (38 - plane))).toBeCloseTo(1, 3);
    // all of it leaves by the layer's two sides
    const out = k.record.faceFlow1[floor];
    expect(out / heat).toBeGreaterThan(0.97);
    expect(out).toBeLessThan(heat);
    expect(k.books.zoneResidual[0] / k.books.zoneGross[0]).toBeLessThan(1e-9);
    const v = k.state.services;
    // water comes back colder by its heat
    expect((38 - (v?.slabReturn[0] ?? 0)) * 0.004 * area * WATER_CP).toBeCloseTo(v?.slabHeat[0] ?? 0, 6);
  });
  it("on demand heats to its set-point and turns off beyond it, once a step", () => {
    const { k } = run(slabBox({}), 5, 30);
    expect(k.record.airTemperature[0]).toBeGreaterThan(19.4);
    expect(k.record.airTemperature[0]).toBeLessThan(22.5);
  });
  it("cools only while its water is above the dew point of the room's air", () => {
    const p = slabBox({}, { gains: 1500 });
    // at 30 % the dew point of outdoor air is 11 °C, at 70 % it is 24 °C: above the water's 17 °C
    expect(run(p, 30, 20, 30).heat).toBeLessThan(-500);
    expect(run(p, 30, 20, 70).heat).toBe(0);
  });
  it("on a boiler that is too small gives what the boiler has and no more; nothing is owed", () => {
    const p = slabBox({ flowRule: "through its season" });
    const hot = Object.values(p.loops).find((l) => l.kind === "hot water");
    const boiler = hot?.parts.find((c) => c.kind === "boiler");
    Object.assign(boiler?.inputs ?? {}, { capacity: 500 });
    const { k, heat } = run(p, 0, 20);
    // the pump's heat comes on top
    expect(heat).toBeGreaterThan(480);
    expect(heat).toBeLessThan(520);
    expect(Math.max(...(k.state.services?.owed ?? [1]))).toBeLessThan(1);
  });
  it("carries more heat by closer pipes and by more water", () => {
    const at = (spacing: number, flow: number): number => {
      const r = pipeResistance(spacing, 0.02, 0.0023, 0.35, 1.2, flow, 100);
      return circuitEffectiveness(r, flow) * flow;
    };
    expect(at(0.1, 0.004)).toBeGreaterThan(at(0.2, 0.004));
    expect(at(0.15, 0.006)).toBeGreaterThan(at(0.15, 0.003));
    // usual floors lie between 0.03 and 0.15 m²K/W
    const r = pipeResistance(0.15, 0.02, 0.0023, 0.35, 1.2, 0.004, 100);
    expect(r).toBeGreaterThan(0.03);
    expect(r).toBeLessThan(0.15);
  });
});
