import { describe, expect, it } from "vitest";
import { noMorph, parseProject, type Project, type Study, type StudyAxis } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import {
  addressesOf,
  axisAt,
  axisValue,
  namedAxis,
  axisChoices,
  basePoint,
  checkTasks,
  countRuns,
  emptyStudy,
  figuresKept,
  frontOf,
  gridPoints,
  indicesOf,
  axisLevels,
  valuesBetween,
  mergedOptions,
  measuresOf,
  plannedPoints,
  pointChanges,
  scoredBy,
  searchedPoints,
  staircase,
  studyCsv,
  studyProblems,
  studyTable,
  StudyMaker,
  tasksOf,
  viewOf,
  withChanges,
  type StudyRow,
} from "./index.ts";

const box = (): Project => JSON.parse(JSON.stringify(boxProject({ glass: 0.3, gains: 200 }))) as Project;
const base = box();
const axis = (id: string, address: string, values: readonly number[], more: Partial<StudyAxis> = {}): StudyAxis => ({
  id,
  name: id,
  addresses: [address],
  levels: values.map((value, i) => ({ id: `l${i + 1}`, value })),
  ...more,
});
const wall = axis("insulation", "assemblies/wall/layers/insulation/thickness", [0.04, 0.066, 0.2]);
const leaks = axis("leaks", "spaces/*/inputs/infiltration", [0.1, 0.5, 1.5]);
const glass = axis("glass", "openings/south/ratio", [0.1, 0.3, 0.5]);
const study = (axes: StudyAxis[], more: Partial<Study> = {}): Study => ({ ...emptyStudy("Study", null), axes, checks: 0, ...more });
const maker = (s: Study, p: Project = base): StudyMaker => new StudyMaker(p, s, () => null);
/** Makes every run of a study. */
function rowsOf(s: Study, p: Project = base): StudyRow[] {
  const m = maker(s, p);
  const points = [basePoint(s), ...plannedPoints(s)];
  return [...tasksOf(m, points, 0), ...checkTasks(s, m.years[0], points)].map((t) => ({ ...t, ...m.make(m.prepare(t)) }));
}
const column = (t: ReturnType<typeof studyTable>, key: string): Float64Array => t.outcomes.find((o) => o.key === key)?.values ?? new Float64Array(0);

describe("the runs of a study", () => {
  it("are every combination of levels, once, and only those that go together", () => {
    const s = study([wall, { ...leaks, levels: leaks.levels.map((l) => (l.id === "l3" ? { ...l, only: { axis: "insulation", levels: ["l1"] } } : l)) }, glass]);
    const points = [...gridPoints(s)];
    expect(points).toHaveLength(3 * 3 * 3 - 2 * 3);
    expect(countRuns(s)).toBe(points.length);
    expect(new Set(points.map((p) => p.join())).size).toBe(points.length);
    expect(points.filter((p) => p[1] === 2).every((p) => p[0] === 0)).toBe(true);
    // an axis all of whose levels need another stays as the base where that has none of them
    const off = study([wall, { ...leaks, levels: leaks.levels.map((l) => ({ ...l, only: { axis: "insulation", levels: ["l1"] } })) }]);
    expect([...gridPoints(off)]).toHaveLength(3 + 2);
    expect([...gridPoints(off)].filter((p) => p[0] !== 0).every((p) => p[1] === null)).toBe(true);
  });

  it("are sampled evenly, the same from the same seed, between two values where an axis says so", () => {
    const s = study([wall, { ...glass, between: [0.1, 0.5] }], { method: { kind: "latin", runs: 60, seed: 4 } });
    const points = plannedPoints(s);
    expect(points).toEqual(plannedPoints(s));
    for (let level = 0; level < 3; level++) expect(points.filter((p) => p[0] === level)).toHaveLength(20);
    const shares = points.map((p) => p[1] as number).sort((a, b) => a - b);
    shares.forEach((v, i) => expect(Math.abs(v - (0.1 + (0.4 * (i + 0.5)) / 60))).toBeLessThan(0.4 / 60));
    expect(countRuns(study([wall, glass], { method: { kind: "sobol", points: 8, seed: 1 } }))).toBe(32);
  });

  it("put the value at every address, but not where nothing is heated", () => {
    const p = box();
    p.spaces.cold = { ...p.spaces.a, name: "Cold", inputs: { heatingSetpoint: null } };
    expect(addressesOf(p, "spaces/*/inputs/heatingSetpoint")).toEqual([["spaces", "a", "inputs", "heatingSetpoint"]]);
    expect(addressesOf(p, "spaces/*/inputs/infiltration")).toHaveLength(2);
    expect(pointChanges(p, study([leaks]), [1]).map((c) => c.path[1])).toEqual(["a", "cold"]);
    expect(pointChanges(p, study([leaks]), [null])).toEqual([]);
  });
});

describe("what is wrong with a study", () => {
  const told = (s: Study, p: Project = base): string[] => studyProblems(p, s).map((x) => `${x.path}: ${x.message}`);
  it("is told with the place", () => {
    expect(told(study([wall, leaks, glass]))).toEqual([]);
    expect(told(study([]))[0]).toMatch(/^axes: It has no axis yet/);
    expect(told(study([wall, { ...wall, id: "again", name: "again" }]))[0]).toMatch(
      /^axes\/again: "again" and "insulation" both change assemblies\/wall\/layers\/insulation\/thickness/,
    );
    expect(told(study([wall, axis("whole", "assemblies/wall", [1])])).join()).toMatch(/both change/);
    expect(told(study([axis("glass", "openings/south/ratio", [0.3, 1.4])]))[0]).toMatch(/^axes\/glass\/levels\/l2: "glass", 1.4: openings\/south\/ratio: /);
    expect(told(study([axis("gone", "openings/north/ratio", [0.3])]))[0]).toMatch(/the thing it belongs to is gone/);
    expect(told(study([wall], { years: ["then"] }))[0]).toMatch(/^years: /);
    expect(told(study([wall], { judge: "year" })).join()).toMatch(/^judge: /);
    expect(told(study([wall], { base: "none" }))[0]).toMatch(/^base: /);
    expect(told(study([{ ...wall, between: [0.2, 0.1] }]))[0]).toMatch(/lower end/);
    const round = [
      { ...wall, levels: [{ id: "x", value: 0.1, only: { axis: "leaks", levels: ["y"] } }] },
      { ...leaks, levels: [{ id: "y", value: 0.1, only: { axis: "insulation", levels: ["x"] } }] },
    ];
    expect(told(study(round)).join()).toMatch(/circle/);
    const many = study([wall, leaks, glass], { method: { kind: "grid" }, years: [base.weather], judge: "worst" });
    many.axes[2] = { ...glass, levels: axisLevels(base, glass, valuesBetween(0.1, 0.5, 200)) };
    many.axes[1] = { ...leaks, levels: axisLevels(base, glass, valuesBetween(0.1, 0.5, 200)) };
    expect(told(many)[0]).toMatch(/^method: It has 120000 runs; 20000 can be made/);
  });
});

describe("runs that are made", () => {
  const s = study([wall, leaks]);
  const rows = rowsOf(s);
  const table = studyTable(base, s, rows);

  it("need less heat the better the wall and the tighter the room, and stand beside the base", () => {
    expect(table.index[0]).toBe(0);
    expect(table.points).toHaveLength(10);
    expect(table.failed).toEqual([]);
    const heat = column(table, "heating");
    const of = (i: number, j: number): number => heat[1 + 3 * i + j];
    for (let k = 0; k < 3; k++) {
      expect(of(0, k)).toBeGreaterThan(of(1, k));
      expect(of(1, k)).toBeGreaterThan(of(2, k));
      expect(of(k, 0)).toBeLessThan(of(k, 1));
      expect(of(k, 1)).toBeLessThan(of(k, 2));
    }
    // the level that the base has gives the base
    expect(of(1, 1)).toBe(heat[0]);
    const [header, first] = studyCsv(table).split("\n");
    expect(header.split(",").slice(0, 4)).toEqual(["run", "insulation", "leaks", "Site energy (kWh/m²a)"]);
    expect(first.startsWith("base,")).toBe(true);
    expect(table.uses.length).toBeGreaterThan(2);
    const sum = table.uses.reduce((t, u) => t + u.values[4], 0);
    expect(sum / (column(table, "energy")[4] * 48)).toBeCloseTo(1, 6);
  });

  it("are known by what they are, whichever study they belong to", () => {
    const m = maker(s);
    const key = (x: StudyMaker, point: readonly (number | null)[], year = base.weather): string => {
      const p = x.prepare({ point, year, check: false });
      if (!p.ok) throw new Error(p.message);
      return p.key;
    };
    const other = maker(study([leaks, wall]));
    expect(key(other, [0, 2])).toBe(key(m, [2, 0]));
    const asBase = maker(study([wall, glass]));
    expect(key(asBase, [1, 1])).toBe(key(m, [null, null]));
    expect(key(asBase, [1, 2])).not.toBe(key(asBase, [1, 1]));
    expect(key(m, [1, 2])).not.toBe(key(m, [2, 1]));
    expect(key(maker({ ...s, length: 24 }), [1, 1])).not.toBe(key(m, [1, 1]));
    // a base that changed in what an axis sets anyhow leaves the runs what they are
    const moved = box();
    moved.spaces.a.inputs.infiltration = 0.9;
    moved.name = "Another name";
    expect(key(maker(s, moved), [0, 2])).toBe(key(m, [0, 2]));
    expect(key(maker(s, moved), [0, null])).not.toBe(key(m, [0, null]));
    moved.prices = { ...moved.prices, perKWh: { ...moved.prices.perKWh, electricity: 9 } };
    expect(key(maker(s, moved), [0, 2])).not.toBe(key(m, [0, 2]));
  });

  it("that cannot be made are listed with their sentence and stop nothing", () => {
    const odd = study([axis("heating", "spaceTypes/box/inputs/heatingSetpoint", [18, 29])]);
    const t = studyTable(base, odd, rowsOf(odd));
    expect(t.points).toHaveLength(2);
    expect(t.failed).toHaveLength(1);
    expect(t.failed[0]).toMatchObject({ index: 2, year: base.weather });
    expect(t.failed[0].message).toMatch(/cooled to 27.*heated to 29/);
    expect(studyCsv(t)).toMatch(/\n2,,/);
  });

  it("cost what is typed on their levels, and pay it back by what they save", () => {
    const dear = study([{ ...glass, levels: [{ id: "l1", value: 0.1, investment: 1000 }, { id: "l2" }] }]);
    const t = studyTable(base, dear, rowsOf(dear));
    const [investment, payback, cost] = ["investment", "payback", "cost"].map((k) => column(t, k));
    expect([...investment]).toEqual([0, 1000, 0]);
    expect(cost[1]).toBeLessThan(cost[0]);
    expect(payback[1]).toBeCloseTo(1000 / (cost[0] - cost[1]), 9);
    expect(t.axes[0].values[0]).toBe(1);
  });

  it("are judged by the worst of their years, their mean or one of them", () => {
    const p = box();
    const warm = noMorph();
    p.weathers.warm = { kind: "morphed", name: "Warm", of: p.weather, morph: { ...warm, dryBulb: warm.dryBulb.map(() => 6) } as typeof warm };
    expect(parseProject(p).ok).toBe(true);
    const two = study([leaks], { years: [p.weather, "warm"] });
    const found = rowsOf(two, p);
    const heat = (judge: string): Float64Array => column(studyTable(p, two, found, judge), "heating");
    const [cold, mild, worst, mean] = [p.weather, "warm", "worst", "mean"].map(heat);
    for (let i = 0; i < 4; i++) {
      expect(mild[i]).toBeLessThan(cold[i]);
      expect(worst[i]).toBe(cold[i]);
      expect(mean[i]).toBeCloseTo((cold[i] + mild[i]) / 2, 9);
    }
    expect(studyTable(p, two, found.slice(0, -1)).points).toHaveLength(3);
  });

  it("have outcomes from derived series, of the days that stand for the year", () => {
    const p = box();
    p.derived = { air: { name: "Air", formula: "t", unit: "°C", of: { t: { of: "zone", id: "a", quantity: "airTemperature" } } } };
    const s2 = study([leaks], {
      outcomes: [
        { id: "warm", name: "Warm hours", series: "air", statistic: "hours above", limit: 26, aim: "least" },
        { id: "mean", name: "Mean", series: "air", statistic: "mean", aim: "least" },
      ],
      checks: 4,
    });
    expect(studyProblems(p, s2)).toEqual([]);
    const t = studyTable(p, s2, rowsOf(s2, p));
    const [warm, mean] = ["derived warm", "derived mean"].map((k) => column(t, k));
    expect(warm[0]).toBeGreaterThan(50);
    expect(warm[0]).toBeLessThan(8760);
    expect(mean[0]).toBeGreaterThan(19);
    expect(mean[0]).toBeLessThan(27);
    // the whole years beside them tell the error
    expect(t.error.of).toBe(4);
    expect(t.error.by["derived mean"]).toBeLessThan(0.5);
    expect(t.error.by["derived mean"]).toBeGreaterThan(0);
  });
});

describe("a short year", () => {
  it("ranks thirty variants as the whole year does", () => {
    const axes = [wall, leaks, glass, axis("heating", "spaceTypes/box/inputs/heatingSetpoint", [18, 20, 22])].map((a): StudyAxis => {
      const values = a.levels.map((l) => l.value as number);
      return { ...a, between: [Math.min(...values), Math.max(...values)] };
    });
    const s = study(axes, { method: { kind: "latin", runs: 30, seed: 9 }, length: 12 });
    const [short, year] = [s, { ...s, length: "year" as const }].map((x) => column(studyTable(base, x, rowsOf(x)), "energy").slice(1));
    const ranks = (v: Float64Array): number[] => Array.from(v, (x) => v.filter((y) => y < x).length);
    const [a, b] = [ranks(short), ranks(year)];
    const n = a.length;
    const spearman = 1 - (6 * a.reduce((t, r, i) => t + (r - b[i]) * (r - b[i]), 0)) / (n * (n * n - 1));
    expect(n).toBe(30);
    expect(spearman).toBeGreaterThan(0.95);
  }, 60000);
});

describe("a search", () => {
  const s = study([wall, leaks, glass], {
    method: {
      kind: "search",
      population: 8,
      generations: 3,
      seed: 2,
      objectives: [
        { figure: "heating", aim: "least" },
        { figure: "cooling", aim: "least" },
      ],
      constraints: [{ figure: "peakHeating", most: 4 }],
    },
  });
  it("asks for its generations one after the other, and finds runs that a full grid has none better than", () => {
    const { method } = s;
    if (method.kind !== "search") throw new Error("no search");
    const m = maker(s);
    const keys = figuresKept(base, s).map((f) => f.key);
    const made = new Map<string, StudyRow["figures"]>();
    const figures = (point: readonly (number | null)[]): StudyRow["figures"] => {
      const key = point.join();
      if (!made.has(key)) made.set(key, m.make(m.prepare({ point, year: base.weather, check: false })).figures);
      return made.get(key) ?? null;
    };
    const first = searchedPoints(s, () => undefined);
    expect(first.done).toBe(false);
    expect(first.points).toHaveLength(8);
    const scored = (f: StudyRow["figures"]) => f && scoredBy(method, (key) => f[keys.indexOf(key)] ?? NaN);
    const found = searchedPoints(s, (p) => scored(figures(p)));
    expect(found.done).toBe(true);
    expect(found.points.slice(0, 8)).toEqual(first.points);
    const grid = study([wall, leaks, glass]);
    const all = [...gridPoints(grid)];
    const rows = all.map((point, index): StudyRow => ({ index, point, year: base.weather, check: false, figures: figures(point), error: null }));
    const t = studyTable(base, grid, rows);
    const peak = column(t, "peakHeating");
    const best = new Set(
      frontOf(
        t,
        ["heating", "cooling"],
        all.map((_, i) => i).filter((i) => peak[i] <= 4),
      ).map((i) => all[i].join()),
    );
    const mine = found.alive.map((i) => found.points[i].join());
    expect(best.size).toBeGreaterThan(2);
    expect(mine.filter((p) => best.has(p)).length).toBeGreaterThanOrEqual(Math.min(best.size, 5));
  });
});

describe("Sobol' indices of a study", () => {
  it("give most to the input that moves the figure most", () => {
    const s = study([wall, { ...leaks, between: [0.1, 1.5] }], { method: { kind: "sobol", points: 16, seed: 3 } });
    const t = studyTable(base, s, rowsOf(s));
    const { heating } = indicesOf(s, t);
    expect(heating.of).toBe(16);
    expect(heating.total[0] + heating.total[1]).toBeGreaterThan(0.7);
    expect(heating.total[0] + heating.total[1]).toBeLessThan(1.5);
  });
});

describe("what can be varied", () => {
  it("is every kind of input, by name, each making a study that can be run", () => {
    const p = box();
    p.options.better = { name: "Better", changes: [{ id: "c1", op: "set", path: ["openings", "south", "ratio"], value: 0.2, old: 0.3 }] };
    p.rules.push({ id: "r", name: "Leaks", on: true, target: "space", field: "infiltration", conditions: [], value: "0.3" });
    const choices = axisChoices(p, p);
    const groups = new Set(choices.map((c) => c.group));
    for (const g of ["all spaces", "space type", "space", "zone", "systems and plant", "option", "rule", "opening", "assembly", "glazing", "site"])
      expect(groups, g).toContain(g);
    expect(new Set(choices.map((c) => c.key)).size).toBe(choices.length);
    const wrong = choices.flatMap((c) => studyProblems(p, study([{ ...c.axis, id: "a" }])).map((x) => `${c.axis.name}: ${x.message}`));
    expect(wrong).toEqual([]);
    expect(axisAt(p, p, "openings/south/ratio")?.axis.levels.map((l) => l.value)).toEqual([0.15, 0.3, 0.6]);
    expect(axisAt(p, p, "openings/none/ratio")).toBeNull();
    const thick = axisAt(p, p, "assemblies/wall/layers/insulation/thickness");
    if (!thick) throw new Error("the insulation cannot be varied");
    expect(axisValue(p, p, thick.axis)).toMatchObject({ kind: "number", unit: "m", shown: "mm" });
    expect(namedAxis(p, thick, "a").levels.map((l) => l.name)).toEqual(
      thick.axis.levels.map((l) => `${Number((1000 * (l.value as number)).toPrecision(5))}\u00a0mm`),
    );
    p.assemblies.wall_2 = { ...p.assemblies.wall, name: "Another wall" };
    const role = axisAt(p, p, `kits/${Object.keys(p.kits)[0]}/exteriorWall`);
    expect(role && axisValue(p, p, role.axis).kind).toBe("choice");
  });
});

describe("the staircase", () => {
  const measures = measuresOf(base, study([wall, leaks, glass]), [2, 0, 1]);
  it("is made of what differs from the base", () => {
    expect(measures.map((m) => m.id)).toEqual(["insulation", "leaks"]);
  });

  it("adds up step by step from the base to all measures, and tells how they act on each other", () => {
    const { models, stairs } = staircase(base, measures);
    // the base, two alone, both
    expect(models).toHaveLength(4);
    const m = maker(study([]));
    const heat = models.map((x) => {
      if (!x.project) throw new Error(x.message ?? "");
      const prepared = new StudyMaker(x.project, study([]), () => null).prepare({ point: [], year: base.weather, check: false });
      return m.make(prepared).figures?.[figuresKept(base, study([])).findIndex((f) => f.key === "heating")] ?? NaN;
    });
    const effect = ([from, to]: readonly [number, number]): number => heat[to] - heat[from];
    expect(stairs.reduce((t, s) => t + effect(s.inOrder), 0)).toBeCloseTo(heat[stairs[1].inOrder[1]] - heat[0], 9);
    for (const s of stairs) for (const where of [s.alone, s.inOrder, s.last]) expect(effect(where)).toBeLessThan(0);
    expect(effect(stairs[0].alone)).toBe(effect(stairs[0].inOrder));
    expect(effect(stairs[1].last)).toBe(effect(stairs[1].inOrder));
  });
});

describe("two options together", () => {
  it("have the changes of both; where both change the same the second has its way, and it is told", () => {
    const p = box();
    const set = (id: string, path: string, value: unknown, old?: unknown) => ({
      id,
      op: "set" as const,
      path: path.split("/"),
      value,
      ...(old === undefined ? {} : { old }),
    });
    p.options.a = { name: "A", changes: [set("c1", "openings/south/ratio", 0.2, 0.3), set("c2", "spaces/a/inputs/infiltration", 0.2)] };
    p.options.b = { name: "B", changes: [set("c1", "openings/south/ratio", 0.5, 0.3), set("c2", "site/elevation", 12, p.site.elevation)] };
    const { changes, clashes } = mergedOptions(p, "a", "b");
    p.options.c = { name: "C", changes: [...changes] };
    const seen = viewOf(p, "c");
    expect(seen.stale).toEqual([]);
    expect(seen.project.openings.south).toMatchObject({ ratio: 0.5 });
    expect(seen.project.spaces.a.inputs.infiltration).toBe(0.2);
    expect(seen.project.site.elevation).toBe(12);
    expect(clashes).toHaveLength(1);
    expect(clashes[0].message).toMatch(/"B"/);
    expect(withChanges(p, [{ op: "set", path: ["nowhere", "x"], value: 1 }]).ok).toBe(false);
  });
});
