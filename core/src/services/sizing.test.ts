import { describe, expect, it } from "vitest";
import { applyChanges, checkReferences, parseProject, projectSchema, setChange, type Change, type Project } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import {
  componentSizes,
  plainChanges,
  plantChanges,
  serviceProblems,
  slabChanges,
  slabFault,
  systemChanges,
  systemChoices,
  type DesignLoads,
  type SizedValue,
  allowedAt,
  mayMove,
  movePart,
  supplyParts,
} from "./index.ts";

const box = (): Project => JSON.parse(JSON.stringify(boxProject({ second: { heating: 20, cooling: 24 }, cooling: 24 }))) as Project;
const apply = (p: Project, changes: readonly Change[]): Project => {
  const made = applyChanges(p, changes);
  if (!made.ok) throw new Error(made.message);
  const read = parseProject(JSON.parse(JSON.stringify(made.project)));
  if (!read.ok) throw new Error(read.problems.map((x) => `${x.path} ${x.message}`).join("\n"));
  return read.project;
};
const steady = (of: number): Float64Array => new Float64Array(4).fill(of);
/** Two rooms on one winter and one summer day of four steps; the second room's cooling comes a step later. */
const days: DesignLoads[] = [
  {
    day: "winter",
    for: "heating",
    steps: 4,
    outdoor: steady(-10),
    ratio: steady(0.001),
    pressure: 101325,
    heat: [steady(3000), steady(2000)],
    cool: [steady(0), steady(0)],
    latent: [steady(0), steady(0)],
    air: [steady(20), steady(20)],
    humidity: [steady(0.004), steady(0.004)],
    outdoorAir: [steady(0.05), steady(0.03)],
  },
  {
    day: "summer",
    for: "cooling",
    steps: 4,
    outdoor: steady(32),
    ratio: steady(0.012),
    pressure: 101325,
    heat: [steady(0), steady(0)],
    cool: [Float64Array.of(1000, 6000, 2000, 1000), Float64Array.of(1000, 1000, 4000, 1000)],
    latent: [steady(300), steady(200)],
    air: [steady(24), steady(24)],
    humidity: [steady(0.009), steady(0.009)],
    outdoorAir: [steady(0.05), steady(0.03)],
  },
];
const sizesOf = (p: Project): Map<string, SizedValue> =>
  new Map(componentSizes(p, ["a", "b"], Float64Array.of(1, 1), Float64Array.of(48, 48), days, 1.2).map((s) => [s.address, s]));

describe("sizes from design days", () => {
  const p = apply(box(), systemChanges(box(), "variable", "boiler and chiller", ["a", "b"], "Air"));
  const sizes = sizesOf(p);
  const of = (end: string): SizedValue => {
    const found = [...sizes.values()].find((s) => s.address.endsWith(end));
    if (!found) throw new Error(end);
    return found;
  };
  it("give a terminal the air that carries its room's cooling, at the hour of its peak", () => {
    const a = of("a/equipment/terminal/inputs/flow");
    // 6 kW times 1.15 at 24 − 14 K, c_p about 1.02 kJ/kg·K
    expect(a.value).toBeCloseTo((6000 * 1.15) / (1.2 * 1021 * 10), 3);
    expect([a.day, a.step]).toEqual(["summer", 2]);
    expect(of("b/equipment/terminal/inputs/flow").step).toBe(3);
  });
  it("give the fan what the rooms need at one time, which is less than the sum of their peaks", () => {
    const sum = of("a/equipment/terminal/inputs/flow").value + of("b/equipment/terminal/inputs/flow").value;
    const fan = of("parts/fan/inputs/flow").value;
    expect(fan).toBeLessThan(sum);
    // not less than the larger room and the other's least air
    expect(fan).toBeGreaterThan(6000 / (1.2 * 1021 * 10));
  });
  it("give reheat the room's loss and the warming of the least air, and the boiler all that draws at once with its factor", () => {
    const a = of("a/equipment/terminal/inputs/reheatCapacity");
    // air of 35 °C at most: 3.75 kW need 0.204 m³/s of it, more than the least, heated from 14 °C
    const flow = (3000 * 1.25) / (1.2 * 1021 * (35 - 20));
    expect(flow).toBeGreaterThan(0.3 * of("a/equipment/terminal/inputs/flow").value);
    expect(a.value).toBeCloseTo(flow * 1.2 * 1021 * (35 - 14), -1);
    const boiler = of("boiler/inputs/capacity");
    expect(boiler.factor).toBe(1.25);
    expect(boiler.value / boiler.peak).toBeCloseTo(1.25, 12);
    const reheats = a.value + of("b/equipment/terminal/inputs/reheatCapacity").value;
    expect(boiler.peak).toBeGreaterThan(reheats);
  });
  it("give the cooling coil rooms, outdoor air, fan heat and latent heat, which add up to its load", () => {
    const coil = of("cooling/inputs/capacity");
    expect(Object.values(coil.parts).reduce((s, v) => s + v, 0)).toBeCloseTo(coil.peak, 6);
    expect(coil.parts["outdoor air"]).toBeGreaterThan(0);
    expect(of("chiller/inputs/capacity").peak).toBeCloseTo(coil.peak, 6);
  });
  it("take what is typed as it is: its fan follows a typed terminal", () => {
    const typed = apply(p, [setChange(p, ["zones", "a", "equipment", "terminal", "inputs", "flow"], 2)]);
    const again = sizesOf(apply(typed, [setChange(typed, ["airSystems", "air", "inputs", "flow"], "constant")]));
    // found beside typed
    expect([...again.values()].find((s) => s.address.endsWith("a/equipment/terminal/inputs/flow"))?.typed).toBe(2);
    expect([...again.values()].find((s) => s.address.endsWith("parts/fan/inputs/flow"))?.value).toBeGreaterThan(2);
  });
  it("size room units for the room, at their rating", () => {
    const split = sizesOf(apply(box(), systemChanges(box(), "split units", "boiler and chiller", ["a"], "Air")));
    const heat = split.get("zones/a/equipment/split/inputs/heatingCapacity");
    // at −10 °C outdoors a heat pump gives less than at its rating of 7 °C
    expect(heat?.value).toBeGreaterThan(3000 * 1.25 * 1.2);
    expect(split.get("zones/a/equipment/split/inputs/coolingCapacity")?.value).toBeCloseTo(6300 * 1.15, 6);
    // its outdoor-air unit gives the air people need
    expect(split.get("zones/a/equipment/terminal/inputs/flow")?.value).toBeCloseTo(0.05, 12);
  });
});

describe("systems by plain description", () => {
  it.each(systemChoices.map((c) => c.id))("%s: is a valid document without a problem, and plain again after undo", (choice) => {
    const plain = box();
    const made = applyChanges(plain, systemChanges(plain, choice, "boiler and chiller", ["a", "b"], "Air"));
    if (!made.ok) throw new Error(made.message);
    expect(projectSchema.safeParse(made.project).success).toBe(true);
    expect(checkReferences(made.project)).toEqual([]);
    const told = serviceProblems(made.project).map((x) => x.code);
    expect(told).toEqual(choice === "baseboards" ? ["nothing-serves", "nothing-serves"] : []);
    const back = applyChanges(made.project, made.inverse);
    expect(back.ok && JSON.stringify(back.project)).toBe(JSON.stringify(plain));
  });
  it("use the loops that are there", () => {
    const p = apply(box(), systemChanges(box(), "variable", "boiler and chiller", ["a"], "One"));
    const q = apply(p, systemChanges(p, "constant", "district", ["b"], "Two"));
    expect(Object.keys(q.loops)).toHaveLength(2);
    expect(Object.keys(q.airSystems)).toHaveLength(2);
  });
});

describe("checks of systems", () => {
  const p = apply(box(), systemChanges(box(), "variable", "boiler and chiller", ["a", "b"], "Air"));
  const codes = (q: Project): string[] => serviceProblems(q).map((x) => x.code);
  it("tell a coil without a loop and mend it", () => {
    const off = apply(p, [{ op: "unset", path: ["airSystems", "air", "parts", "cooling", "inputs", "loop"], old: "chilled" }]);
    const told = serviceProblems(off).find((x) => x.code === "not-connected");
    expect(told?.message).toContain("cooling coil of Air");
    expect(codes(apply(off, told?.fix?.changes ?? []))).toEqual([]);
  });
  it("tell a loop without a source, water too warm for the air, a hot fan and coils that fight", () => {
    const none = apply(p, [{ op: "remove", path: ["loops", "chilled", "parts", "chiller"], old: p.loops.chilled.parts[1] }]);
    expect(codes(none)).toContain("no-source");
    expect(codes(apply(p, [setChange(p, ["loops", "chilled", "inputs", "supplyTemperature"], 13)]))).toContain("warm-water");
    expect(codes(apply(p, [setChange(p, ["airSystems", "air", "parts", "fan", "inputs", "pressure"], 2500)]))).toContain("fan-heat");
    expect(codes(apply(p, [setChange(p, ["airSystems", "air", "parts", "heating", "inputs", "leaving"], 20)]))).toContain("fight");
  });
  it("refuse what names nothing and the wrong kind of loop", () => {
    const wrong = applyChanges(p, [setChange(p, ["airSystems", "air", "parts", "cooling", "inputs", "loop"], "hot")]);
    if (!wrong.ok) throw new Error(wrong.message);
    expect(checkReferences(wrong.project)[0].message).toBe('"Hot water" is a loop of hot water; one of chilled water is needed here.');
    const gone = applyChanges(p, [setChange(p, ["zones", "a", "equipment", "terminal", "inputs", "system"], "nothing")]);
    if (!gone.ok) throw new Error(gone.message);
    expect(checkReferences(gone.project)[0].message).toContain('no air system "nothing"');
  });
});

describe("the order of parts", () => {
  const p = apply(box(), systemChanges(box(), "variable", "boiler and chiller", ["a"], "Air"));
  const system = p.airSystems.air;
  it("offers in a gap only what may stand there", () => {
    expect(allowedAt(system, 0)).toEqual(["recovery", "heatingCoil"]);
    expect(allowedAt(system, 2)).toEqual(["heatingCoil", "humidifier"]);
    const bare = { parts: system.parts.filter((x) => x.kind !== "coolingCoil") };
    expect(allowedAt(bare, 1)).toContain("coolingCoil");
    expect(allowedAt(bare, 0)).not.toContain("coolingCoil");
  });
  it("lets a coil pass another and never before the mixing box", () => {
    expect(mayMove(system, "cooling", 1)).toBe(true);
    expect(mayMove(system, "cooling", 0)).toBe(false);
    const moved = apply(p, movePart(p, "air", "cooling", 1));
    expect(supplyParts(moved.airSystems.air).map((x) => x.id)).toEqual(["mixing", "cooling", "heating", "fan"]);
  });
});

describe("a room heated and cooled through its floor", () => {
  it("gets pipes in its own assembly, the circuit first, and two loops, in one step", () => {
    const p = box();
    const q = apply(p, slabChanges(p, "a", "floor"));
    expect(q.zones.a.equipment?.map((c) => c.kind)).toEqual(["slabCircuit"]);
    expect(Object.values(q.loops).map((l) => l.kind)).toEqual(["hot water", "chilled water"]);
    const own = Object.entries(q.assemblies).find(([, a]) => a.layers.some((l) => l.kind === "circuit"));
    expect(own?.[1].name).toBe("Floor with pipes");
    // the pipes lie below the slab that is nearest to the room
    expect(own?.[1].layers.map((l) => l.kind)).toEqual(["solid", "circuit", "solid"]);
    expect(Object.values(q.faceOverrides)).toEqual([{ host: "a/floor", assembly: own?.[0] }]);
    // the other room keeps its floor
    expect(q.assemblies.floor).toEqual(p.assemblies.floor);
    expect(serviceProblems(q)).toEqual([]);
  });
  it("says why not where there is nothing to lay pipes in", () => {
    const p = box();
    p.assemblies.floor = { name: "Rated floor", use: "ground floor", layers: [], rated: { u: 0.3, mass: "medium", at: "inside" } };
    expect(slabFault(p, "a", "floor")).toContain("Rated floor");
    expect(() => slabChanges(p, "a", "floor")).toThrow("give it layers first");
  });
});

describe("a design day chosen for a quantity", () => {
  const p = apply(box(), systemChanges(box(), "variable", "boiler and chiller", ["a", "b"], "Air"));
  it("sizes that quantity alone by it", () => {
    const address = "zones/a/equipment/terminal/inputs/flow";
    const worst = sizesOf(p);
    const chosen = sizesOf({ ...p, sizingDays: { [address]: "winter" } });
    expect(worst.get(address)?.day).toBe("summer");
    expect(chosen.get(address)?.day).toBe("winter");
    expect(chosen.get(address)?.value).toBeLessThan(worst.get(address)?.value ?? 0);
    const other = "zones/b/equipment/terminal/inputs/flow";
    expect(chosen.get(other)).toEqual(worst.get(other));
    // a day that is gone leaves the worst of all
    expect(sizesOf({ ...p, sizingDays: { [address]: "gone" } }).get(address)).toEqual(worst.get(address));
  });
});

describe("another plant", () => {
  const p = apply(box(), systemChanges(box(), "fan coils", "boiler and chiller", ["a", "b"], "Air"));
  const hot = Object.keys(p.loops).find((l) => p.loops[l].kind === "hot water") as string;
  it("takes the place of a loop's sources, with the water that is usual for it; its pump and what the user typed stay", () => {
    const pumped = apply(p, plantChanges(p, hot, "heat pump and chiller"));
    expect(pumped.loops[hot].parts.map((x) => x.kind)).toEqual(["pump", "heatPump"]);
    expect(pumped.loops[hot].inputs.supplyTemperature).toBe(45);
    expect(apply(pumped, plantChanges(pumped, hot, "boiler and chiller")).loops[hot].inputs).toEqual(p.loops[hot].inputs);
    const typed = { ...p, loops: { ...p.loops, [hot]: { ...p.loops[hot], inputs: { ...p.loops[hot].inputs, supplyTemperature: 52 } } } };
    expect(apply(typed, plantChanges(typed, hot, "heat pump and chiller")).loops[hot].inputs.supplyTemperature).toBe(52);
  });
  it("and another system take what serves nothing any more with them", () => {
    const next = apply(p, systemChanges(p, "split units", "boiler and chiller", ["a", "b"], "New"));
    expect(Object.values(next.airSystems).map((s) => s.name)).toEqual(["New"]);
    expect(next.loops).toEqual({});
    const half = apply(p, systemChanges(p, "split units", "boiler and chiller", ["a"], "New"));
    expect(Object.keys(half.airSystems)).toHaveLength(2);
    expect(Object.keys(half.loops)).toHaveLength(2);
    const plain = apply(p, plainChanges(p, ["a", "b"]));
    expect([plain.airSystems, plain.loops]).toEqual([{}, {}]);
  });
});
