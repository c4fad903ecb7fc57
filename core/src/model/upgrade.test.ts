import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import {
  applyChanges,
  DEFAULT_RUN,
  FORMAT_VERSION,
  limitSentence,
  noMorph,
  parseProject,
  physicsOf,
  samePhysics,
  upgradeFrom1,
  yearInView,
  type Project,
} from "./index.ts";

/** The box as format 1 wrote it. */
function old(): Record<string, unknown> {
  const { surroundings: _a, airExchanges: _b, sensors: _c, ...rest } = JSON.parse(JSON.stringify(boxProject({ glass: 0.3 }))) as Project;
  const glazings = Object.fromEntries(
    Object.entries(rest.glazings).map(([id, g]) => {
      const { kind: _k, blind: _l, ...plain } = g;
      return [id, plain];
    }),
  );
  const { shelter: _s, ...site } = rest.site;
  const { conductivity, heatCapacity } = site.ground;
  return {
    ...rest,
    formatVersion: 1,
    glazings,
    site: { ...site, ground: { conductivity, heatCapacity } },
    run: { stepsPerHour: 6, sky: "isotropic" },
    options: { o: { name: "o", changes: [{ op: "insert", path: ["glazings", "new"], value: glazings.glass }] } },
  };
}

describe("a document of format 1", () => {
  it("is brought to the present format and keeps what it said", () => {
    const parsed = parseProject(old());
    expect(parsed.ok ? [] : parsed.problems).toEqual([]);
    if (!parsed.ok) return;
    expect(parsed.project.formatVersion).toBe(FORMAT_VERSION);
    expect(parsed.project.run).toEqual({ ...DEFAULT_RUN, stepsPerHour: 6, sky: "isotropic" });
    expect(parsed.project.glazings.glass).toMatchObject({ kind: "rated", u: 2.9, blind: null });
    expect(parsed.project.site.ground.floor).toEqual({ kind: "slab" });
    expect(parsed.project.sensors).toEqual({});
    expect(parsed.project.options.o.changes[0].value).toMatchObject({ kind: "rated", blind: null });
  });
  it("with broken parts is left for the schema to refuse, with a path", () => {
    const broken = { ...old(), glazings: { glass: 3 }, site: "nowhere" };
    expect(upgradeFrom1(broken).glazings).toEqual({ glass: 3 });
    const parsed = parseProject(broken);
    expect(parsed.ok).toBe(false);
    if (!parsed.ok) expect(parsed.problems.map((p) => p.path)).toEqual(expect.arrayContaining(["site", "glazings/glass"]));
  });
});

describe("a document of format 6", () => {
  /** The box as format 6 wrote it: one weather year, five fuels, an option that changes the weather. */
  const before = (): Record<string, unknown> => {
    const { weathers, weather, resets: _r, ...rest } = JSON.parse(JSON.stringify(boxProject({ glass: 0.3 }))) as Project;
    const fewer = (by: Record<string, number>): Record<string, number> =>
      Object.fromEntries(Object.entries(by).filter(([f]) => f !== "oil" && f !== "propane"));
    return {
      ...rest,
      formatVersion: 6,
      weather: weathers[weather],
      prices: { ...rest.prices, perKWh: fewer(rest.prices.perKWh) },
      factors: { carbon: fewer(rest.factors.carbon), primary: fewer(rest.factors.primary) },
      options: {
        o: {
          name: "o",
          changes: [
            { id: "c1", op: "set", path: ["weather", "seed"], value: 8, old: 140 },
            { id: "c2", op: "set", path: ["site", "elevation"], value: 5 },
          ],
        },
      },
    };
  };
  it("has its weather among several years, in view, where options still find it", () => {
    const parsed = parseProject(before());
    if (!parsed.ok) throw new Error(parsed.problems.map((p) => `${p.path}: ${p.message}`).join("; "));
    const { project } = parsed;
    expect(yearInView(project)).toMatchObject({ kind: "normals", seed: 140 });
    const option = applyChanges(project, project.options.o.changes);
    expect(option.ok && yearInView(option.project)).toMatchObject({ seed: 8 });
    expect(option.ok && option.project.site.elevation).toBe(5);
  });
  it("has figures for the fuels that are new, and keeps its own", () => {
    const parsed = parseProject(before());
    if (!parsed.ok) throw new Error("it is read");
    const { prices, factors } = parsed.project;
    expect(prices.perKWh).toMatchObject({ gas: 0.05, oil: expect.any(Number), propane: expect.any(Number) });
    expect(factors.carbon.oil).toBeGreaterThan(factors.carbon.propane);
  });
  it("with a weather that is none is refused, not lost", () => {
    const parsed = parseProject({ ...before(), weather: 3 });
    expect(parsed.ok ? [] : parsed.problems.map((p) => p.path)).toEqual(expect.arrayContaining(["weathers"]));
  });
});

describe("weather years of a project", () => {
  const years = (edit: (p: Project) => void): string[] => {
    const p = JSON.parse(JSON.stringify(boxProject())) as Project;
    edit(p);
    const parsed = parseProject(p);
    return parsed.ok ? [] : parsed.problems.map((x) => x.path);
  };
  it("must name one that is there, and morph one that is not morphed itself", () => {
    expect(years((p) => (p.weather = "none"))).toEqual(["weather"]);
    const morphed = (of: string) => ({ kind: "morphed" as const, name: "Then", of, morph: noMorph() });
    expect(years((p) => (p.weathers.then = morphed("year")))).toEqual([]);
    expect(years((p) => (p.weathers.then = morphed("nowhere")))).toEqual(["weathers/then/of"]);
    expect(
      years((p) => {
        p.weathers.then = morphed("year");
        p.weathers.later = morphed("then");
      }),
    ).toEqual(["weathers/later/of"]);
    expect(years((p) => (p.weathers.then = { ...morphed("year"), morph: { ...noMorph(), dryBulb: new Array<number>(12).fill(50) } }))[0]).toMatch(
      /^weathers\/then\/morph\/dryBulb/,
    );
  });
  it("count for a run by what the one in view is, whatever it is called and whatever others there are", () => {
    const p = JSON.parse(JSON.stringify(boxProject())) as Project;
    const hash = (q: Project): string => JSON.stringify(physicsOf(q));
    const more: Project = { ...p, weathers: { ...p.weathers, then: { kind: "morphed", name: "Then", of: "year", morph: noMorph() } } };
    expect(hash(more)).toBe(hash(p));
    expect(samePhysics(p, more)).toBe(true);
    expect(hash({ ...p, weathers: { year: { ...p.weathers.year, name: "Otherwise" } } })).toBe(hash(p));
    expect(hash({ ...more, weather: "then" })).not.toBe(hash(p));
    expect(samePhysics(more, { ...more, weather: "then" })).toBe(false);
    expect(hash({ ...p, prices: { ...p.prices, currency: "x" } })).toBe(hash(p));
  });
});

describe("bad figures", () => {
  const refusal = (edit: (p: Record<string, never>) => void): string => {
    const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.3 }))) as Record<string, never>;
    edit(p);
    const parsed = parseProject(p);
    return parsed.ok ? "" : parsed.problems.map((x) => `${x.path}: ${x.message}`).join("\n");
  };
  type Loose = Record<string, Record<string, Record<string, unknown>>>;
  it("of a layer without thickness, a material without conductivity and a day of 25 hours are told by their place", () => {
    expect(refusal((p) => (((p as Loose).assemblies.wall.layers as { thickness: number }[])[1].thickness = 0))).toBe(
      "assemblies/wall/layers/1/thickness: The value must be more than 0.",
    );
    expect(refusal((p) => delete (p as Loose).materials.quilt.conductivity)).toBe("materials/quilt/conductivity: It is missing; a number is expected.");
    const long = refusal(
      (p) =>
        ((p as unknown as { schedules: { day: { profiles: { d: { values: number[] } } } } }).schedules.day.profiles.d.values = new Array<number>(25).fill(1)),
    );
    expect(long).toBe("schedules/day/profiles/d/values: It has room for at most 24 entries.");
  });
  it("past a bound carry it, so that who shows another unit can say it in that", () => {
    const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.3 }))) as { openings: { south: { ratio: number } } };
    p.openings.south.ratio = 1.2;
    const parsed = parseProject(p);
    const [problem] = parsed.problems;
    expect(problem.message).toBe("The value must be at most 0.98.");
    expect(problem.limit && limitSentence(problem.limit, 100)).toBe("The value must be at most 98.");
  });
  it("of a choice that is none of those offered tells what is offered and what was found", () => {
    expect(refusal((p) => ((p as Loose).run.stepsPerHour = 5 as never))).toBe("run/stepsPerHour: It must be one of 1, 2, 3, 4, 6, 12, not 5.");
    expect(refusal((p) => ((p as Loose).run.shortYear = 13 as never))).toBe("run/shortYear: It must be one of 12, 24, 48, not 13.");
    expect(refusal((p) => ((p as Loose).run.sky = "blue" as never))).toBe('run/sky: It must be one of "perez", "isotropic", not "blue".');
    expect(refusal((p) => ((p as Loose).run.insideConvection = { kind: "guess" } as never))).toBe(
      'run/insideConvection/kind: It must be one of "temperature difference", "iso 52016-1", "typed".',
    );
  });
  it("of panes that let through more than all, gaps too many and melting backwards are told", () => {
    const panes = boxProject({ glass: 0.3, panes: true }).glazings.glass;
    expect(refusal((p) => ((p as Loose).glazings.glass = { ...panes, gaps: [] } as never))).toContain("glazings/glass/gaps: ");
    expect(
      refusal(
        (p) =>
          ((p as Loose).glazings.glass = { ...panes, panes: (panes as { panes: object[] }).panes.map((q) => ({ ...q, solarTransmittance: 0.99 })) } as never),
      ),
    ).toContain("more than all light");
    expect(refusal((p) => ((p as Loose).materials.board.phaseChange = { from: 24, to: 22, latentHeat: 1000 }))).toContain("materials/board/phaseChange: ");
  });
});

describe("a document of format 2", () => {
  it("gains an empty list of roofs and is otherwise the same", () => {
    const now = boxProject({ glass: 0.3 });
    const { roofs: _, ...rest } = JSON.parse(JSON.stringify(now)) as Project;
    const parsed = parseProject({ ...rest, formatVersion: 2 });
    expect(parsed.ok && parsed.project).toEqual(JSON.parse(JSON.stringify(now)));
  });
});

describe("a document of format 3", () => {
  it("gives the changes of its options names, in their order, and keeps what they do", () => {
    const changes = [
      { op: "set", path: ["glazings", "glass", "u"], value: 1.1, old: 2.9 },
      { op: "set", path: ["name"], value: "Other" },
    ];
    const parsed = parseProject({ ...boxProject({ glass: 0.3 }), formatVersion: 3, options: { o: { name: "o", changes } } });
    expect(parsed.ok ? [] : parsed.problems).toEqual([]);
    if (parsed.ok) expect(parsed.project.options.o.changes).toEqual(changes.map((c, i) => ({ id: `c${i + 1}`, ...c })));
  });
});

describe("a document of format 4", () => {
  it("has the glazing of its windows in its roofs too, in options as well", () => {
    const now = JSON.parse(JSON.stringify(boxProject({ glass: 0.3 }))) as Project;
    const { skylight: _, ...kit } = now.kits.kit;
    const glazings = { ...now.glazings, other: now.glazings.glass };
    const options = {
      o: {
        name: "Other glass",
        changes: [
          { id: "c1", op: "set", path: ["kits", "kit", "glazing"], value: "other", old: "glass" },
          { id: "c2", op: "insert", path: ["kits", "second"], value: { ...kit, name: "Second" } },
        ],
      },
    };
    const parsed = parseProject({ ...now, glazings, options, kits: { kit }, formatVersion: 4 });
    if (!parsed.ok) throw new Error(parsed.problems[0].message);
    expect(parsed.project.kits.kit.skylight).toBe("glass");
    const seen = applyChanges(parsed.project, parsed.project.options.o.changes);
    if (!seen.ok) throw new Error(seen.message);
    expect(seen.project.kits.kit).toMatchObject({ glazing: "other", skylight: "other" });
    expect(seen.project.kits.second.skylight).toBe("glass");
  });
});

describe("an assembly", () => {
  const refused = (change: (p: Project) => void): string => {
    const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.3 }))) as Project;
    change(p);
    const parsed = parseProject(p);
    return parsed.ok ? "" : `${parsed.problems[0].path}: ${parsed.problems[0].message}`;
  };
  it("has layers or a U of its own, not both and not neither", () => {
    expect(refused((p) => (p.assemblies.wall.layers = []))).toContain("no layers and no U");
    expect(refused((p) => (p.assemblies.wall.rated = { u: 0.3, mass: "light", at: "spread" }))).toContain("both a U of its own and layers");
    expect(refused((p) => Object.assign(p.assemblies.wall, { layers: [], rated: { u: 0.3, mass: "light", at: "spread" } }))).toBe("");
  });
  it("names what bridges its layers, a gap of known thickness and few of them", () => {
    const [material] = Object.keys(boxProject().materials);
    expect(refused((p) => Object.assign(p.assemblies.wall.layers[0], { bridge: { material: "none", share: 0.1 } }))).toContain('There is no material "none"');
    const gap = { kind: "resistance" as const, id: "g", name: "Gap", resistance: 0.18, bridge: { material, share: 0.1 } };
    expect(refused((p) => p.assemblies.wall.layers.push(gap))).toContain("its thickness is needed");
    expect(refused((p) => p.assemblies.wall.layers.push({ ...gap, thickness: 0.05 }))).toBe("");
    expect(refused((p) => (p.assemblies.wall.layers = Array.from({ length: 6 }, (_, i) => ({ ...gap, id: `g${i}`, thickness: 0.05 }))))).toContain(
      "at most 5 are computed",
    );
  });
});
