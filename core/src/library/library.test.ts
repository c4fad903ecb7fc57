import { describe, expect, it } from "vitest";
import { assemblyLayers, assemblyU, glazingPhysics, glazingRating, reduceWall } from "../fabric/index.ts";
import {
  applyChanges,
  assemblySchema,
  checkReferences,
  componentsOf,
  glazingSchema,
  kitSchema,
  materialSchema,
  parseProject,
  serviceFieldsOf,
  setChange,
  settingAsked,
  swapChanges,
  unusedRecords,
  removeUnusedChanges,
  usesOf,
  valueAt,
  whereUsed,
  type Project,
} from "../model/index.ts";
import { effectiveSetting } from "../inputs/index.ts";
import { plateauPack, prescriptivePack } from "../packs/index.ts";
import { runToEnd } from "../results/index.ts";
import { projectWeather } from "../simulate/index.ts";
import type { WeatherYear } from "../climate/index.ts";
import { boxProject } from "../verification/box.ts";
import {
  contentHash,
  copyChange,
  isNewer,
  libraryRows,
  shippedAssemblies,
  shippedBuilds,
  shippedComponents,
  takeComponent,
  shippedGlazings,
  shippedLibrary,
  shippedMaterials,
  SHIPPED,
  takeChanges,
  updateChanges,
} from "./index.ts";

const library = shippedLibrary();
const apply = (p: Project, changes: readonly Parameters<typeof applyChanges>[1][number][]): Project => {
  const r = applyChanges(p, changes);
  if (!r.ok) throw new Error(r.message);
  return r.project;
};

describe("the shipped library", () => {
  it("holds at least what was promised, each thing valid and with a source, nothing named twice", () => {
    expect(Object.keys(shippedMaterials).length).toBeGreaterThanOrEqual(120);
    expect(Object.keys(shippedAssemblies).length).toBeGreaterThanOrEqual(60);
    expect(Object.keys(shippedGlazings).length).toBeGreaterThanOrEqual(25);
    for (const [set, schema] of [
      [library.materials, materialSchema],
      [library.assemblies, assemblySchema],
      [library.glazings, glazingSchema],
      [library.kits, kitSchema],
    ] as const) {
      for (const item of Object.values(set)) schema.parse(item);
      const names = Object.values(set).map((x) => x.name);
      expect(new Set(names).size).toBe(names.length);
    }
    for (const rows of Object.values(libraryRows())) for (const r of rows) expect(r.source.length).toBeGreaterThan(3);
  });
  it("covers every kind of element and every way of building", () => {
    const uses = new Set(Object.values(shippedAssemblies).map((a) => a.use));
    expect(uses.size).toBe(7);
    expect(new Set(Object.values(shippedBuilds))).toEqual(new Set(["light", "timber", "masonry", "concrete", "steel"]));
    for (const use of ["exterior wall", "roof"] as const)
      expect(new Set(Object.entries(shippedAssemblies).flatMap(([id, a]) => (a.use === use ? [shippedBuilds[id]] : []))).size).toBe(5);
  });
  it("names only what it holds, and every material has a vapour resistance", () => {
    for (const kit of Object.keys(library.kits)) expect(contentHash(library, "kits", kit)).not.toBeNull();
    for (const a of Object.keys(library.assemblies)) expect(contentHash(library, "assemblies", a), a).not.toBeNull();
    for (const m of Object.values(library.materials)) expect(m.vapourResistance).toBeGreaterThanOrEqual(1);
  });
  it("has assemblies that just meet each limit of each pack, made from it", () => {
    for (const pack of [plateauPack, prescriptivePack])
      for (const [zone, limits] of Object.entries(pack.climateZones)) {
        const of = (use: string) => Object.entries(library.assemblies).filter(([id, a]) => id.startsWith(`${pack.id}_${zone}_`) && a.use === use);
        for (const [use, part] of [
          ["exterior wall", "exteriorWall"],
          ["roof", "roof"],
          ["ground floor", "groundFloor"],
          ["exposed floor", "exposedFloor"],
        ] as const) {
          expect(of(use).length, `${zone} ${use}`).toBeGreaterThanOrEqual(2);
          for (const [, a] of of(use)) expect(assemblyU(library, a)).toBeCloseTo(limits.u[part].value, 9);
        }
        expect(glazingRating(library.glazings[`${pack.id}_${zone}_glazing`]).u).toBe(limits.glazingU.value);
      }
  });
  it("is reduced for the year and has plausible figures throughout", () => {
    for (const [id, a] of Object.entries(library.assemblies)) {
      const u = assemblyU(library, a);
      expect(u, id).toBeGreaterThan(0.05);
      expect(u, id).toBeLessThan(6);
      expect(reduceWall(assemblyLayers(library, a)).error, id).toBeLessThan(0.02);
    }
    for (const g of Object.values(library.glazings)) {
      const r = glazingRating(g);
      expect(glazingPhysics(g).up.diffuseTransmittance).toBeLessThan(r.g + 0.05);
      expect(r.u).toBeGreaterThan(0.5);
      expect(r.u).toBeLessThan(6);
      expect(r.visibleTransmittance).toBeLessThanOrEqual(0.92);
    }
    const rank = ["single_clear", "double_clear_air", "double_soft_argon", "triple_soft_krypton"].map((g) => glazingRating(library.glazings[g]).u);
    expect([...rank].sort((a, b) => b - a)).toEqual(rank);
  });
  it("runs in the box case and closes, every assembly of it", () => {
    const box = boxProject();
    const weather = projectWeather(box) as WeatherYear;
    const role = {
      "exterior wall": "exteriorWall",
      roof: "roof",
      "ground floor": "groundFloor",
      "exposed floor": "exposedFloor",
      "interior wall": "exteriorWall",
      "interior floor": "roof",
      door: "exteriorWall",
    } as const;
    for (const id of Object.keys(shippedAssemblies)) {
      const taken = takeChanges(box, library, SHIPPED, "assemblies", id);
      if (!taken.ok) throw new Error(taken.message);
      const project = apply(box, taken.changes);
      const kit = Object.keys(project.kits)[0];
      const made = { ...project, kits: { ...project.kits, [kit]: { ...project.kits[kit], [role[shippedAssemblies[id].use]]: taken.id } } };
      const run = runToEnd(made, weather, { stepsPerHour: 1, period: { firstDay: 9, days: 2 } });
      expect(run.summary.closure, id).toBeLessThan(1e-6);
    }
  });
});

describe("taking from a library", () => {
  const box = boxProject();
  it("brings what a thing depends on, remembers where it came from, and is taken back to the bit", () => {
    const taken = takeChanges(box, library, SHIPPED, "assemblies", "wall_timber_frame");
    if (!taken.ok) throw new Error(taken.message);
    expect(taken.taken.map((t) => t.part)).toEqual(["materials", "materials", "materials", "materials", "materials", "materials", "assemblies"]);
    const r = applyChanges(box, taken.changes);
    if (!r.ok) throw new Error(r.message);
    expect(checkReferences(r.project).filter((p) => p.severity === "error")).toEqual([]);
    expect(r.project.assemblies[taken.id].from).toMatchObject({ library: SHIPPED, id: "wall_timber_frame" });
    expect(assemblyU(r.project, r.project.assemblies[taken.id])).toBe(assemblyU(library, library.assemblies.wall_timber_frame));
    const back = applyChanges(r.project, r.inverse);
    expect(back.ok && JSON.stringify(back.project)).toBe(JSON.stringify(box));
  });
  it("again brings nothing, and what is there under other ids is used", () => {
    const first = takeChanges(box, library, SHIPPED, "kits", "kit_timber");
    if (!first.ok) throw new Error(first.message);
    const p = apply(box, first.changes);
    const again = takeChanges(p, library, SHIPPED, "kits", "kit_timber");
    expect(again).toMatchObject({ ok: true, id: first.id, changes: [] });
    const roof = takeChanges(p, library, SHIPPED, "assemblies", "roof_rafter_thick");
    // softwood, particleboard and the like came with the kit
    expect(roof.ok && roof.taken.some((t) => t.id === "softwood")).toBe(false);
  });
  it("finds a free id where the document has another thing under it", () => {
    const other = { ...box, materials: { ...box.materials, osb: { ...library.materials.osb, conductivity: 1 } } };
    const taken = takeChanges(other, library, SHIPPED, "assemblies", "wall_timber_frame");
    if (!taken.ok) throw new Error(taken.message);
    const p = apply(other, taken.changes);
    expect(p.materials.osb.conductivity).toBe(1);
    expect(assemblyU(p, p.assemblies[taken.id])).toBe(assemblyU(library, library.assemblies.wall_timber_frame));
  });
  it("tells what is newer there and brings it up to date under its own id", () => {
    const taken = takeChanges(box, library, SHIPPED, "assemblies", "wall_clt");
    if (!taken.ok) throw new Error(taken.message);
    const p = apply(box, taken.changes);
    expect(isNewer(p.assemblies[taken.id], "assemblies", library, SHIPPED)).toBe(false);
    // a better wool there makes every wall of it newer
    const newer = { ...library, materials: { ...library.materials, mineral_wool_035: { ...library.materials.mineral_wool_035, conductivity: 0.03 } } };
    expect(isNewer(p.assemblies[taken.id], "assemblies", newer, SHIPPED)).toBe(true);
    const update = updateChanges(p, newer, SHIPPED, "assemblies", taken.id);
    if (!update.ok) throw new Error(update.message);
    const next = apply(p, update.changes);
    expect(assemblyU(next, next.assemblies[taken.id])).toBe(assemblyU(newer, newer.assemblies.wall_clt));
    expect(isNewer(next.assemblies[taken.id], "assemblies", newer, SHIPPED)).toBe(false);
  });
  it("of what names something missing is refused, and nothing is taken", () => {
    const broken = { ...library, materials: {} };
    expect(takeChanges(box, broken, SHIPPED, "assemblies", "wall_clt")).toMatchObject({ ok: false });
    expect(takeChanges(box, library, SHIPPED, "glazings", "nothing")).toMatchObject({ ok: false });
  });
  it("copies a thing under a free name, as often as asked", () => {
    const id = Object.keys(box.assemblies)[0];
    const one = copyChange(box, "assemblies", id);
    const p = apply(box, [one.change]);
    const two = copyChange(p, "assemblies", id);
    const q = apply(p, [two.change]);
    expect(new Set([id, one.id, two.id]).size).toBe(3);
    expect(new Set([id, one.id, two.id].map((k) => q.assemblies[k].name)).size).toBe(3);
    expect(q.assemblies[two.id].from).toMatchObject({ library: "this project", id });
  });
});

describe("where things are used", () => {
  const box = boxProject();
  it("names places that hold the id", () => {
    for (const u of usesOf(box)) expect(valueAt(box, u.path)).toBe(u.id);
  });
  it("swaps one for another everywhere in one step, undone to the bit", () => {
    const [from] = Object.keys(box.materials).filter((m) => whereUsed(box, "materials", m).length > 0);
    const p = { ...box, materials: { ...box.materials, other: { ...box.materials[from], name: "Other" } } };
    const changes = swapChanges(p, "materials", from, "other");
    const r = applyChanges(p, changes);
    if (!r.ok) throw new Error(r.message);
    expect(whereUsed(r.project, "materials", from)).toEqual([]);
    expect(whereUsed(r.project, "materials", "other")).toHaveLength(changes.length);
    const back = applyChanges(r.project, r.inverse);
    expect(back.ok && JSON.stringify(back.project)).toBe(JSON.stringify(p));
  });
  it("lists what nothing in use names, also by way of other unused things, and keeps what an option names", () => {
    const taken = takeChanges(box, library, SHIPPED, "kits", "kit_clt");
    if (!taken.ok) throw new Error(taken.message);
    const before = unusedRecords(box);
    const p = apply(box, taken.changes);
    expect(unusedRecords(p)).toHaveLength(before.length + taken.taken.length);
    const clean = apply(p, removeUnusedChanges(p));
    expect(unusedRecords(clean)).toEqual([]);
    expect(checkReferences(clean).filter((x) => x.severity === "error")).toEqual([]);
    const withOption: Project = {
      ...p,
      options: { o: { name: "Timber", changes: [{ id: "c1", op: "set", path: ["defaults", "kit"], value: taken.id, old: p.defaults.kit }] } },
    };
    expect(unusedRecords(withOption)).toHaveLength(before.length);
  });
});

describe("components of the library", () => {
  it.each(Object.entries(shippedComponents))("%s has settings of its kind within their bounds", (_, item) => {
    const known = serviceFieldsOf(item.kind);
    for (const [field, value] of Object.entries(item.inputs)) {
      const spec = known[field];
      if (typeof value === "number") {
        expect(value).toBeGreaterThanOrEqual(spec.min ?? -Infinity);
        expect(value).toBeLessThanOrEqual(spec.max ?? Infinity);
      } else expect(spec.choices).toContain(value);
      // a setting that the others make meaningless would be copied for nothing
      expect(settingAsked(item.kind, item.inputs, field), field).toBe(true);
    }
  });
  it("are copied as settings that say where they come from, until they are typed over", () => {
    const p = boxProject();
    const loops = { hot: { name: "Hot", kind: "hot water" as const, inputs: {}, parts: [{ id: "b", kind: "boiler" as const, inputs: { efficiency: 0.7 } }] } };
    const project = { ...p, loops } as typeof p;
    const [boiler] = componentsOf(project).filter((c) => c.kind === "boiler");
    const made = applyChanges(project, takeComponent(project, boiler, "boiler_condensing"));
    if (!made.ok) throw new Error(made.message);
    expect(parseProject(JSON.parse(JSON.stringify(made.project))).ok).toBe(true);
    const [now] = componentsOf(made.project).filter((c) => c.kind === "boiler");
    expect(now.inputs).toMatchObject({ efficiency: 0.89, condensing: "yes" });
    expect(effectiveSetting(made.project, now, "efficiency").origin).toMatchObject({ kind: "imported", words: expect.stringContaining("condensing") });
    const typed = applyChanges(made.project, [setChange(made.project, [...now.path, "inputs", "efficiency"], 0.9)]);
    const [last] = componentsOf(typed.ok ? typed.project : p).filter((c) => c.kind === "boiler");
    expect(effectiveSetting(typed.ok ? typed.project : p, last, "efficiency").origin.kind).toBe("typed");
    expect(() => takeComponent(project, boiler, "fan_small_direct")).toThrow(RangeError);
  });
});
