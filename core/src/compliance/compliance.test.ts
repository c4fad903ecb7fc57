import { describe, expect, it } from "vitest";
import { boxProject, type BoxOptions } from "../verification/box.ts";
import { applyChanges, scopeParts, setChange, type Change, type Pack, type Project, type ScopePart } from "../model/index.ts";
import { climateZone, climateZoneOf, type WeatherYear } from "../climate/index.ts";
import { assemblyU } from "../fabric/index.ts";
import { packs, plateauPack } from "../packs/index.ts";
import { daylitAreas, effectiveServices, massingProject, starterContext } from "../inputs/index.ts";
import { addPart, systemChanges } from "../services/index.ts";
import { projectWeather } from "../simulate/index.ts";
import {
  checkRows,
  complianceInput,
  complianceOf,
  complianceSchema,
  complySubmission,
  envelopeUse,
  fixOf,
  fuelsUsed,
  hourlyValues,
  mapSystems,
  packDifference,
  referenceBuilding,
  sizedReference,
  submissionOf,
  suggestedUse,
  thicknessForU,
  tradeOff,
  turnsOf,
  type Submission,
} from "./index.ts";

const box = (o: BoxOptions = {}): Project => {
  const p = boxProject({ glass: 0.6, overhang: 1, ...o });
  return { ...p, services: { plain: { ...p.services.plain, heatRecovery: { sensible: 0.7, latent: 0 } } } };
};
const project = box();
const weather = projectWeather(project) as WeatherYear;
const zone = String(climateZoneOf(weather));

const submission = (p: Project, over: Parameters<typeof submissionOf>[2] = {}): Submission => {
  const outcome = submissionOf(p, projectWeather(p) as WeatherYear, over);
  if (!outcome.ok) throw new Error(outcome.message);
  return outcome.submission;
};
const applied = (p: Project, changes: readonly Change[]): Project => {
  const made = applyChanges(p, changes);
  if (!made.ok) throw new Error(made.message);
  return made.project;
};
const massing = (more: object = {}): Project => {
  const made = massingProject(
    {
      name: "Trial",
      footprint: { kind: "L", length: 30, width: 24, cutLength: 12, cutWidth: 10 },
      storeys: 2,
      storeyHeight: 3.5,
      glazing: { south: 0.6, north: 0.5, east: 0.4, west: 0.55 },
      perimeterDepth: 4,
      use: "office",
      level: "code",
      ...more,
    },
    starterContext,
    "trial",
  );
  if (!made.ok) throw new Error(made.message);
  return made.project;
};
const served = (p: Project, choice: Parameters<typeof systemChanges>[1], plant: Parameters<typeof systemChanges>[2]): Project =>
  applied(p, systemChanges(p, choice, plant, Object.keys(p.zones), "Air"));

const designs: [string, Project][] = [
  ["the box", project],
  ...(["existing", "code", "better"] as const).map((level): [string, Project] => [`a massing, ${level}`, massing({ level })]),
  ["a massing with variable air volume", served(massing(), "variable", "boiler and chiller")],
];

describe("climate zones", () => {
  it("follow degree days at the thresholds of the standard", () => {
    expect([
      climateZone(0, 6500),
      climateZone(100, 5500),
      climateZone(500, 4000),
      climateZone(1500, 2000),
      climateZone(2500, 2000),
      climateZone(3500, 1000),
      climateZone(4500, 500),
      climateZone(6000, 300),
      climateZone(8000, 100),
    ]).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
    expect([climateZone(2000, 3000), climateZone(2000.1, 3000), climateZone(4000, 1000)]).toEqual([3, 4, 5]);
  });
});

describe("a submission", () => {
  it("is told what is wrong with it, with the place", () => {
    const refused = (p: Project, over: Parameters<typeof submissionOf>[2]): string => {
      const outcome = submissionOf(p, weather, over);
      return outcome.ok ? "" : outcome.message;
    };
    expect(refused(project, { pack: "nowhere" })).toMatch(/^compliance\/pack: There is no pack "nowhere"; there are plateau/);
    expect(refused(project, { climateZone: "1" })).toMatch(/^climateZones\/1: .*it knows 2, 3, 4, 5, 6, 7/);
    expect(refused(project, { uses: { box: "spa" } })).toMatch(/^compliance\/uses\/box: .*has no use "spa"; map .* to another/);
    expect(refused(project, { with: { ...plateauPack, windowShare: { ...plateauPack.windowShare, clause: "0" } } })).toContain(
      'windowShare/clause: The clause "0"',
    );
    expect(submissionOf(project, null)).toMatchObject({ ok: false, message: expect.stringContaining("type it") });
    // typed with its moisture letter, the number finds the table
    expect(submission(project, { climateZone: "5B" }).zone).toBe("5");
  });
  it("takes the fuels the design uses, by default settings too, where none are typed", () => {
    const gas = massing();
    const electric = applied(
      gas,
      (["heating", "hotWater"] as const).map((of) => setChange(gas, ["services", "main", of, "fuel"], "electricity")),
    );
    expect([...fuelsUsed(electric)]).toEqual(["electricity"]);
    expect(fuelsUsed(served(electric, "variable", "boiler and chiller")).has("gas")).toBe(true);
    expect(fuelsUsed(served(electric, "single", "boiler and chiller")).has("gas")).toBe(true);
    expect([...fuelsUsed(served(electric, "fan coils", "district"))].sort()).toEqual(["district cooling", "district heat", "electricity"]);
    expect(fuelsUsed(served(electric, "split units", "heat pump and chiller")).has("gas")).toBe(false);
  });
  it("finds a use by the words of a space type, another for the rest, and as matched where it is", () => {
    expect(suggestedUse(plateauPack, "Reading, quiet")).toMatchObject({ use: { id: "reading" }, by: "reading" });
    expect(suggestedUse(plateauPack, "Circulation")).toMatchObject({ use: { id: "other" }, by: null });
    const matched: Project = { ...project, compliance: { ...complianceInput(project), uses: { box: "sales" } } };
    const allowance = (p: Project): unknown => checkRows(p, submission(p)).find((r) => r.id === "lighting spaces/a")?.required;
    expect([allowance(project), allowance(matched)]).toEqual([5, 11]);
  });
});

describe.each(designs)("the reference building of %s", (_name, design) => {
  const s = submission(design);
  const reference = referenceBuilding(design, s);
  it("is made of changes that each name a clause of the pack, and turn the design into it", () => {
    expect(reference.changes.length).toBeGreaterThan(0);
    for (const c of reference.changes) expect(plateauPack.clauses).toHaveProperty([c.clause]);
    const by = applied(
      { ...design, options: {} },
      reference.changes.map((c) => c.change),
    );
    expect(JSON.stringify(by)).toBe(JSON.stringify(reference.project));
  });
  it("has a reference building that is itself", () => {
    expect(referenceBuilding(reference.project, submission(reference.project)).changes).toEqual([]);
  });
  it("meets every prescriptive limit of what it is made of", () => {
    const rows = checkRows(reference.project, s).filter((r) => r.kind === "prescriptive" && r.id.split(" ")[0] !== "daylight");
    expect(rows.filter((r) => r.pass === false).map((r) => r.id)).toEqual([]);
    const use = envelopeUse(reference.project);
    expect(use.windowArea / use.wallArea).toBeLessThanOrEqual(0.4 + 1e-9);
    for (const { id, part } of use.assemblies)
      expect(assemblyU(reference.project, reference.project.assemblies[id])).toBeCloseTo(plateauPack.climateZones[s.zone].u[part].value, 9);
  });
  it("gives the design back when its changes are undone", () => {
    const made = applyChanges(
      { ...design, options: {} },
      reference.changes.map((c) => c.change),
    );
    if (!made.ok) throw new Error(made.message);
    const back = applyChanges(made.project, made.inverse);
    // the order of records is not part of what they say
    expect(back.ok && JSON.parse(JSON.stringify(back.project))).toEqual(JSON.parse(JSON.stringify({ ...design, options: {} })));
  });
});

describe("the scope", () => {
  const of = (parts: readonly ScopePart[], more: object = {}): Submission => submission(project, { parts: [...parts], ...more });
  it("leaves parts that are not submitted equal in both buildings", () => {
    const only = referenceBuilding(project, of(["lighting"])).changes;
    expect(only.length).toBeGreaterThan(0);
    for (const c of only) expect(c.change.path[0]).toBe("spaces");
    expect(referenceBuilding(project, of([])).changes).toEqual([]);
    expect(checkRows(project, of([])).every((r) => r.kind === "mandatory")).toBe(true);
  });
  it("of an addition changes the faces of its own spaces alone, by copies", () => {
    const design = massing();
    const [first] = Object.keys(design.spaces);
    const s = submission(design, { work: "addition", spaces: [first] });
    const { project: reference } = referenceBuilding(design, s);
    const [mine, others] = [[first], Object.keys(design.spaces).slice(1)].map((list) => ({ spaces: new Set(list) }));
    for (const { id, part } of envelopeUse(reference, mine).assemblies)
      expect(assemblyU(reference, reference.assemblies[id])).toBeCloseTo(plateauPack.climateZones[s.zone].u[part].value, 9);
    const made = (p: Project): unknown => envelopeUse(p, others).assemblies.map((a) => [a.id, JSON.stringify(p.assemblies[a.id])]);
    expect(made(reference)).toEqual(made(design));
    // and what serves them: the rest keeps its services and what is made on its site
    const zone = design.spaces[first].zone;
    for (const z of Object.keys(design.zones).filter((k) => k !== zone)) {
      expect(reference.zones[z]).toEqual(design.zones[z]);
      expect(reference.services[effectiveServices(reference, z).id]).toEqual(design.services[effectiveServices(design, z).id]);
    }
    expect(referenceBuilding(reference, submission(reference, { work: "addition", spaces: [first], fuels: [...s.fuels] })).changes).toEqual([]);
  });
});

describe("each row of each system map", () => {
  const cases: [pack: string, row: string, design: Project, over: object][] = [
    ["plateau", "homes", massing({ use: "homes" }), {}],
    ["plateau", "small", box(), { fuels: ["gas", "electricity"] }],
    ["plateau", "large", massing(), { fuels: ["gas", "electricity"] }],
    ["plateau", "without_gas", massing(), { fuels: ["electricity"] }],
    ["limits_901", "homes", massing({ use: "homes" }), {}],
    ["limits_901", "others", massing(), {}],
    ["appendix_g", "residential", massing({ use: "homes" }), {}],
    ["appendix_g", "single_zone", massing(), {}],
    ["appendix_g", "direct_expansion", massing({ storeys: 5 }), {}],
    ["appendix_g", "chilled_water", massing({ storeys: 7 }), {}],
  ];
  it("stands here", () => {
    const asked = [plateauPack, packs.limits_901, packs.appendix_g].flatMap((p) => p.reference.systems.map((r) => `${p.id} ${r.id}`));
    expect(cases.map(([p, r]) => `${p} ${r}`)).toEqual(asked);
  });
  it.each(cases)("%s: %s", (pack, row, design, over) => {
    const s = submission(design, { pack, ...over });
    const mapped = mapSystems(design, s);
    expect([...new Set(mapped.map((m) => m.row.id))]).toEqual([row]);
    // every zone is served by one system of the map and has something to be heated with
    expect(mapped.flatMap((m) => m.zones).sort()).toEqual(Object.keys(design.zones).sort());
    const { project: reference } = referenceBuilding(design, s);
    for (const z of Object.values(reference.zones)) expect(z.equipment?.length).toBeGreaterThan(0);
    const storeys = new Set(Object.values(design.spaces).map((x) => x.storey)).size;
    const systems = { building: 1, storey: storeys, zone: Object.keys(design.zones).length };
    expect(mapped).toHaveLength(systems[mapped[0].row.per]);
  });
  it("settings of the map stand on its components, those that depend on a size only once it is known", () => {
    const design = massing();
    const s = submission(design, { fuels: ["gas", "electricity"] });
    const open = referenceBuilding(design, s);
    expect(open.pending.map((p) => p.path)).toEqual(["loops/hot/parts/boiler/inputs/efficiency"]);
    const efficiency = (capacity: number): unknown =>
      referenceBuilding(design, s, { "loops/hot/parts/boiler/inputs/capacity": capacity }).project.loops.hot.parts.find((p) => p.kind === "boiler")?.inputs
        .efficiency;
    expect([efficiency(90e3), efficiency(110e3)]).toEqual([0.84, 0.86]);
    const fan = Object.values(open.project.airSystems)[0].parts.find((p) => p.kind === "supplyFan");
    expect((fan?.inputs.pressure as number) / (fan?.inputs.efficiency as number)).toBeCloseTo(0.6 * 1800, 9);
  });
});

describe("checks", () => {
  it("tell leakage by what façades pass at 4 Pa where air changes are not stated", () => {
    const judged = (inputs: Record<string, unknown>) => {
      const p = box({ insulation: 0.3, infiltration: 0.1 });
      Object.assign(p.spaceTypes.box.inputs, inputs);
      return checkRows(p, submission(p)).find((r) => r.clause === "5.1");
    };
    expect(judged({})).toMatchObject({ quantity: "infiltration", proposed: 0.1, pass: true });
    // walls and roof of the box: 28 m × 2.7 m + 48 m², in 129.6 m³
    const facade = 28 * 2.7 + 48;
    const flow = judged({ infiltrationModel: "flow per façade", infiltrationFlow: 0.001, infiltrationPressure: 50 });
    expect(flow?.proposed).toBeCloseTo((3600 * facade * 0.001 * (4 / 50) ** 0.65) / 129.6, 9);
    const area = judged({ infiltrationModel: "leakage area", leakageArea: 0.0005 });
    expect(area?.pass).toBe(false);
    expect(area?.proposed).toBeGreaterThan(2 * (flow?.proposed ?? 0));
  });
  it("of heat recovery stand for what air systems have, not for plain services nobody uses", () => {
    const design = served(project, "variable", "boiler and chiller");
    const rows = (p: Project) => checkRows(p, submission(p)).filter((r) => r.quantity === "heat recovery");
    expect(rows(design).map((r) => [r.subject, r.proposed, r.pass])).toEqual([["Air", 0, false]]);
    expect(rows(applied(design, [addPart(design, "air", "recovery", 0).change])).map((r) => r.pass)).toEqual([true]);
  });
  it("that need a size are open until it is known", () => {
    const design = served(project, "variable", "boiler and chiller");
    const row = (sizes: Record<string, number> | null) => checkRows(design, submission(design), sizes).find((r) => r.id.startsWith("boilers"));
    const [path] = [row(null)?.place ?? ""];
    expect(row(null)).toMatchObject({ required: null, pass: null });
    expect(row({ [`${path}/inputs/capacity`]: 5e3 })).toMatchObject({ required: 0.84, proposed: 0.88, pass: true });
  });
  it("that fail can be fixed by a copy at the limit, the allowance, control by daylight; each then passes", () => {
    const old = massing({ level: "existing" });
    const [lit] = Object.keys(old.spaces);
    const design = applied(old, [setChange(old, ["spaces", lit, "inputs", "lightingPower"], 20)]);
    const s = submission(design);
    const failed = checkRows(design, s).filter((r) => r.pass === false);
    const fixed = new Set<string>();
    for (const row of failed) {
      const fix = fixOf(design, s, row);
      if (!fix) continue;
      const after = applied(design, fix.changes);
      // a copy takes the place of the thing: of the old one nothing is left to fail
      const left = checkRows(after, s).find((r) => r.id === row.id);
      expect(left === undefined || left.pass === true, row.id).toBe(true);
      fixed.add(row.id.split(" ")[0]);
    }
    for (const kind of ["walls", "roofs", "glazing_u", "lighting"]) expect(fixed).toContain(kind);
  });
  it("that a person attests or excepts say by whom and why", () => {
    const input = complianceInput(project);
    const row = (p: Project, id: string) => checkRows(p, submission(p)).find((r) => r.id === id);
    expect(row(project, "attested tested_controls")?.pass).toBe(false);
    const failed = checkRows(project, submission(project)).find((r) => r.pass === false && r.kind === "prescriptive")?.id ?? "";
    const signed: Project = {
      ...project,
      compliance: {
        ...input,
        attested: { tested_controls: { by: "M. Alder", date: "2026-11-20" } },
        exceptions: { [failed]: "A listed front." },
      },
    };
    expect(row(signed, "attested tested_controls")).toMatchObject({ pass: true, attested: "M. Alder, 2026-11-20" });
    expect(row(signed, failed)).toMatchObject({ pass: false, exception: "A listed front." });
  });
});

describe("daylit areas", () => {
  it("have outlines that add up to them and lie apart from each other", () => {
    const p = boxProject({ glass: 0.2 });
    const [area] = daylitAreas(p);
    expect(area.primary).toBeGreaterThan(5);
    const size = (list: (typeof area)["outlines"]["primary"]): number =>
      list.reduce(
        (a, [ring]) => a + Math.abs(ring.reduce((t, [x, y], i) => t + x * ring[(i + 1) % ring.length][1] - ring[(i + 1) % ring.length][0] * y, 0)) / 2,
        0,
      );
    expect(size(area.outlines.primary)).toBeCloseTo(area.primary, 6);
    expect(size(area.outlines.secondary)).toBeCloseTo(area.secondary, 6);
    expect(area.primary + area.secondary + area.top).toBeLessThanOrEqual(area.floor + 1e-6);
  });
});

describe("the result", () => {
  const settings = { stepsPerHour: 4 };
  const s = submission(project);
  const result = complySubmission(project, weather, s, settings);
  it("fits its schema, with the climate zone of the weather", () => {
    expect(complianceSchema.safeParse(result).success).toBe(true);
    expect(result.climateZone).toBe(zone);
    expect(result.scope).toEqual([...scopeParts]);
    expect(result.pending).toEqual([]);
  });
  it("tells checks and changes before any year is run", () => {
    const early = complianceOf(project, s, referenceBuilding(project, s), null);
    expect(complianceSchema.safeParse(early).success).toBe(true);
    expect(early).toMatchObject({ index: null, letter: null });
    expect(early.changes.length).toBeGreaterThan(5);
  });
  it("tells each change with the design's own value, also where it is inherited", () => {
    const appliances = result.changes.find((c) => c.path === "spaces/a/inputs/appliancePower");
    expect(appliances).toMatchObject({ clause: "4.2", thing: "a, appliances", from: "4.1667\u202fW/m²", to: "3\u202fW/m²" });
    expect(result.changes.find((c) => c.path === "shades/south")).toMatchObject({ clause: "3.8", to: "removed" });
  });
  it("adds end uses up to what both buildings come to", () => {
    for (const side of ["proposed", "reference"] as const)
      expect(result.endUses.reduce((a, u) => a + u.counts[side], 0)).toBeCloseTo(result[side] as number, 6);
  });
  it("falls when the design gets better, and fails on a mandatory row however good it is", () => {
    const better = box({ insulation: 0.3, glass: 0.3 });
    expect(complySubmission(better, weather, submission(better), settings).index).toBeLessThan(result.index as number);
    const leaky = box({ insulation: 0.3, infiltration: 0.9 });
    const failed = complySubmission(leaky, weather, submission(leaky), settings);
    expect(failed.rows.find((r) => r.pass === false && r.kind === "mandatory")).toMatchObject({
      clause: "5.1",
      place: "spaces/a",
      required: 0.5,
      proposed: 0.9,
    });
    expect(failed.pass).toBe(false);
    expect(failed.reasons).toContain("1 mandatory row failed");
  });
  it("tells which part wins and loses: the sum of parts that change nothing is nothing", () => {
    const rows = tradeOff(project, weather, s, result.proposed as number, result.reference as number, 4);
    expect(rows.map((r) => r.part)).toEqual([...scopeParts]);
    // the box is of glass and badly insulated: its envelope loses against the reference
    expect(rows[0].gain).toBeLessThan(0);
    const own = referenceBuilding(project, s).project;
    const none = tradeOff(own, weather, submission(own), 1, 1, 4);
    expect(none.map((r) => r.gain)).toEqual([0, 0, 0, 0]);
  });
});

describe.each(Object.keys(packs))("under the pack %s", (id) => {
  it("a design equal to the reference has index 100, by the reference's own orientations", () => {
    const design = box();
    const s = submission(design, { pack: id });
    // sized values are among the changes: the reference of the sized building is itself too
    const settings = { stepsPerHour: 1, turns: turnsOf(s.pack).slice(0, 2), turnDesign: true };
    const first = complySubmission(design, weather, s, settings);
    expect(first.index).not.toBeCloseTo(100, 3);
    const made = applied(
      { ...design, options: {} },
      sizedReference(design, weather, s).changes.map((c) => c.change),
    );
    const own = complySubmission(made, weather, submission(made, { pack: id, fuels: [...s.fuels] }), settings);
    expect(own.changes).toEqual([]);
    expect(own.index).toBeCloseTo(100, 9);
  });
});

describe("a better efficiency of a source", () => {
  const index = (p: Project): number => complySubmission(p, weather, submission(p, { fuels: ["gas", "electricity"] }), { stepsPerHour: 1 }).index as number;
  const { heating, cooling, hotWater } = project.services.plain;
  const cases: [string, Project, readonly string[], number][] = [
    ["plain heating", project, ["services", "plain", "heating", "efficiency"], 1.1 * heating.efficiency],
    ["plain cooling", project, ["services", "plain", "cooling", "efficiency"], 1.1 * cooling.efficiency],
    ["plain hot water", project, ["services", "plain", "hotWater", "efficiency"], 1.1 * hotWater.efficiency],
  ];
  const variable = served(project, "variable", "boiler and chiller");
  const split = served(project, "split units", "heat pump and chiller");
  const pumped = served(project, "fan coils", "heat pump and chiller");
  const refrigerant = served(project, "variable refrigerant", "boiler and chiller");
  cases.push(
    ["a boiler", variable, ["loops", "hot", "parts", "boiler", "inputs", "efficiency"], 0.96],
    ["a chiller", variable, ["loops", "chilled", "parts", "chiller", "inputs", "cop"], 4],
    ["a split heat pump", split, ["zones", Object.keys(split.zones)[0], "equipment", "split", "inputs", "heatingCop"], 5],
    ["a heat pump of a loop", pumped, ["loops", "hot", "parts", "heat_pump", "inputs", "cop"], 4.2],
    ["direct expansion", refrigerant, ["airSystems", "air", "parts", "cooling", "inputs", "cop"], 4.5],
    ["a gas coil", refrigerant, ["airSystems", "air", "parts", "heating", "inputs", "efficiency"], 0.97],
  );
  it.each(cases)("of %s never worsens the index", (_name, design, path, value) => {
    expect(index(applied(design, [setChange(design, path, value)]))).toBeLessThanOrEqual(index(design) + 1e-9);
  });
});

describe("hourly values", () => {
  it("spread a day of each month over the year, and leave 8,760 as they are", () => {
    const profile = Array.from({ length: 288 }, (_, i) => i);
    const year = hourlyValues(profile);
    expect(year).toHaveLength(8760);
    // the last hour of January, the first of February, the last of the year
    expect([year[743], year[744], year[8759]]).toEqual([23, 24, 287]);
    expect(hourlyValues(year)).toEqual(year);
  });
  it("of a fuel that is used must be there", () => {
    const p = box();
    p.services.plain = { ...p.services.plain, heating: { ...p.services.plain.heating, fuel: "wood" } };
    expect(() => complySubmission(p, weather, submission(p, { pack: "plateau_hourly" }), { stepsPerHour: 1 })).toThrow(
      /performance\/hourly: .*no hourly values of wood for climate zone/,
    );
  });
});

describe("another version of a pack", () => {
  it("tells the rows it turns and the changes of the reference it moves", () => {
    const strict: Pack = JSON.parse(JSON.stringify(plateauPack)) as Pack;
    strict.climateZones[zone].u.roof.value = 0.1;
    const rows = packDifference(project, submission(project), submission(project, { with: strict }));
    expect(rows.map((r) => r.id)).toEqual(["roofs assemblies/roof", expect.stringMatching(/^reference assemblies\/roof/)]);
    expect(rows[0].after).toContain("at most 0.1 W/m²K");
    expect(packDifference(project, submission(project), submission(project))).toEqual([]);
  });
});

describe("a construction that is told by its U alone", () => {
  it("has its resistance changed in the reference, which then meets the limit and is its own reference", () => {
    const wall = project.assemblies.wall;
    const told: Project = {
      ...project,
      assemblies: { ...project.assemblies, wall: { ...wall, layers: [{ kind: "resistance", id: "l1", name: "as told", resistance: 1.2 }] } },
    };
    const { project: reference, changes } = referenceBuilding(told, submission(told));
    expect(changes.some((c) => c.change.path.join("/") === "assemblies/wall/layers/l1/resistance")).toBe(true);
    expect(assemblyU(reference, reference.assemblies.wall)).toBeCloseTo(plateauPack.climateZones[zone].u.exteriorWall.value, 9);
    expect(referenceBuilding(reference, submission(reference)).changes).toEqual([]);
  });
});

describe("thickness for a target", () => {
  it("gives the U asked for and never less than a millimetre", () => {
    const t = thicknessForU(project, "wall", 0.25);
    const changed = {
      ...project.assemblies.wall,
      layers: project.assemblies.wall.layers.map((l) => (l.id === t?.layer ? { ...l, thickness: t.wanted } : l)),
    } as Project["assemblies"][string];
    expect(assemblyU(project, changed)).toBeCloseTo(0.25, 12);
    expect(thicknessForU(project, "wall", 5)?.wanted).toBe(0.001);
  });
});
