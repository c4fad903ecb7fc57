import { describe, expect, it } from "vitest";
import { applyChanges, checkReferences, parseProject, removeUnusedChanges, setChange, swapChanges, whereUsed, type Project } from "../model/index.ts";
import { EMPTY_LIBRARY, takeChanges } from "../library/index.ts";
import { effective } from "../inputs/index.ts";
import { checkProject, compile, YearKernel } from "../simulate/index.ts";
import { boxProject, daily, steadyWeather } from "../verification/box.ts";

/** The box with a schedule of temperatures (18 °C, from 8 to 20 h 21 °C) and two resets. */
function signalBox(edit: (inputs: Record<string, unknown>, p: Project) => void): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0, heating: 20, cooling: 26 }))) as Project;
  p.schedules.warmth = {
    ...daily("Warmth", (h) => (h >= 8 && h < 20 ? 21 : 18)),
    kind: "temperature",
  };
  p.resets.heat = { name: "Warmer in frost", cold: { outdoor: -10, value: 23 }, warm: { outdoor: 10, value: 19 } };
  p.resets.cool = { name: "Cooler indoors in heat", cold: { outdoor: 20, value: 24 }, warm: { outdoor: 34, value: 27 } };
  edit(p.spaceTypes.box.inputs, p);
  return p;
}
const paths = (p: Project): string[] => checkReferences(p).map((x) => x.path);

describe("set-points that follow a signal", () => {
  it("hold the schedule's temperature hour by hour", () => {
    const p = signalBox((inputs) => (inputs.heatingSetpoint = "warmth"));
    const weather = steadyWeather(0);
    const kernel = new YearKernel(compile(p, weather, 4), weather);
    kernel.start(0, 20, 0.004);
    for (let step = 0; step < 4 * 48; step++) {
      kernel.step(Math.floor(step / 4), step % 4);
      const hour = Math.floor(step / 4) % 24;
      // falling to 18 °C takes a while of its own; from midnight to 20 h it is held
      if (step >= 96 && hour < 20) expect(kernel.record.airTemperature[0]).toBeCloseTo(hour >= 8 ? 21 : 18, 6);
    }
  });

  it.each([
    [-20, 23],
    [-10, 23],
    [0, 21],
    [5, 20],
  ])("at %d °C outdoors a reset asks for %d °C", (outdoors, held) => {
    const p = signalBox((inputs) => (inputs.heatingSetpoint = "resets/heat"));
    const weather = steadyWeather(outdoors);
    const kernel = new YearKernel(compile(p, weather, 4), weather);
    kernel.start(outdoors, 20, 0.003);
    for (let step = 0; step < 96; step++) kernel.step(Math.floor(step / 4), step % 4);
    expect(kernel.record.airTemperature[0]).toBeCloseTo(held, 6);
  });

  it("must name temperatures that exist and lie within the bounds of the field", () => {
    expect(paths(signalBox((inputs) => Object.assign(inputs, { heatingSetpoint: "warmth", coolingSetpoint: "resets/cool" })))).toEqual([]);
    const at = "spaceTypes/box/inputs/heatingSetpoint";
    expect(paths(signalBox((inputs) => (inputs.heatingSetpoint = "nothing")))).toEqual([at]);
    expect(paths(signalBox((inputs) => (inputs.heatingSetpoint = "resets/nothing")))).toEqual([at]);
    const shares = signalBox((inputs, p) => {
      p.schedules.shares = daily("Shares", () => 0.5);
      inputs.heatingSetpoint = "shares";
    });
    expect(checkReferences(shares)[0].message).toContain("holds shares");
    const hot = signalBox((inputs, p) => {
      p.resets.heat.cold.value = 55;
      inputs.heatingSetpoint = "resets/heat";
    });
    expect(checkReferences(hot)[0].message.replace(/\u00A0/g, " ")).toBe(
      '"Warmer in frost" asks for 55 °C; the heating set-point lies between -10 °C and 40 °C.',
    );
    expect(paths(signalBox((_, p) => (p.resets.heat.warm.outdoor = -10)))).toEqual(["resets/heat/warm/outdoor"]);
    expect(parseProject({ ...signalBox(() => undefined), resets: { x: { name: "X", cold: { outdoor: "a", value: 1 } } } }).ok).toBe(false);
  });

  it("that would heat and cool at once are told with the moment", () => {
    const sentences = (p: Project): string[] =>
      checkProject(p)
        .problems.filter((x) => x.code === "setpoints")
        .map((x) => x.message.replace(/\u00A0/g, " "));
    expect(sentences(signalBox((inputs) => Object.assign(inputs, { heatingSetpoint: "resets/heat", coolingSetpoint: "resets/cool" })))).toEqual([]);
    const hour = sentences(signalBox((inputs) => Object.assign(inputs, { heatingSetpoint: "warmth", coolingSetpoint: 20 })));
    expect(hour).toHaveLength(1);
    expect(hour[0]).toContain("cooled to 20 °C and heated to 21 °C at the same time, on 1 January at 8:00");
    const cold = sentences(signalBox((inputs) => Object.assign(inputs, { heatingSetpoint: "resets/heat", coolingSetpoint: 22 })));
    expect(cold[0]).toContain("at -10 °C outdoors");
  });

  it("are known to what names them: where used, swapped, unused, taken along", () => {
    const p = signalBox((inputs) => (inputs.heatingSetpoint = "resets/heat"));
    expect(whereUsed(p, "resets", "heat").map((u) => u.path.join("/"))).toEqual(["spaceTypes/box/inputs/heatingSetpoint"]);
    expect(removeUnusedChanges(p).map((c) => c.path.join("/"))).toEqual(expect.arrayContaining(["resets/cool", "schedules/warmth"]));
    expect(removeUnusedChanges(p).map((c) => c.path.join("/"))).not.toContain("resets/heat");
    const swapped = applyChanges(p, swapChanges(p, "resets", "heat", "cool"));
    const [space] = Object.keys(p.spaces);
    expect(swapped.ok && effective(swapped.project, "space", space, "heatingSetpoint").value).toBe("resets/cool");
    const taken = takeChanges({ ...EMPTY_LIBRARY, resets: { heat: { ...p.resets.heat, name: "Another" } } }, p, "there", "spaceTypes", "box");
    expect(taken.ok).toBe(true);
    const [reset, type] = taken.ok ? taken.changes.filter((c) => ["resets", "spaceTypes"].includes(c.path[0])) : [];
    expect((type.value as { inputs: Record<string, unknown> }).inputs.heatingSetpoint).toBe(`resets/${reset.path[1]}`);
    expect(reset.path[1]).not.toBe("heat");
  });

  it("are seen by rules", () => {
    const p = signalBox((_, q) => {
      q.rules = [{ id: "r", name: "Reset", on: true, target: "space", field: "heatingSetpoint", conditions: [], value: "resets/heat" }];
      delete q.spaceTypes.box.inputs.heatingSetpoint;
    });
    const [space] = Object.keys(p.spaces);
    expect(effective(p, "space", space, "heatingSetpoint")).toMatchObject({ value: "resets/heat", origin: { kind: "rule" } });
    const back = applyChanges(p, [setChange(p, ["rules"], [])]);
    expect(back.ok && effective(back.project, "space", space, "heatingSetpoint").value).toBe(20);
  });
});
