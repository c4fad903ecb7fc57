import { readFileSync } from "node:fs";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import { FORMAT_VERSION, NO_FUEL, priced, projectWeather, runToEnd, setChange, type Project, type Summary, type WeatherYear } from "@arroyo/core";
import {
  bindModels,
  cancelRun,
  createProject,
  database,
  decodeValues,
  deleteProject,
  encodeValues,
  finishRun,
  importWeather,
  keepImage,
  keepWeather,
  keptImage,
  listProjects,
  migrate,
  openProject,
  ProjectRow,
  prune,
  Refusal,
  reply,
  RevisionRow,
  RunRow,
  runSeries,
  runSummary,
  saveRevision,
  storedWeather,
} from "./index.ts";

const clinic = JSON.parse(readFileSync(new URL("../../demo/clinic.json", import.meta.url), "utf8")) as Project;
const sequelize = database();

beforeAll(async () => {
  bindModels(sequelize);
  await migrate(sequelize);
  await migrate(sequelize);
});
afterAll(async () => {
  await ProjectRow.destroy({ where: {} });
  await sequelize.close();
});

const refusal = async (work: Promise<unknown>): Promise<Refusal> => {
  const error = await work.then(
    () => null,
    (e: unknown) => e,
  );
  if (!(error instanceof Refusal)) throw new Error(`not refused: ${String(error)}`);
  return error;
};

describe("images to trace over", () => {
  const png = Buffer.concat([Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]), Buffer.from("rest")]);
  it("are kept once by content and come back with their kind", async () => {
    const hash = await keepImage("image/png", png);
    expect(await keepImage("image/png", png)).toBe(hash);
    const kept = await keptImage(hash);
    expect(kept.mediaType).toBe("image/png");
    expect(kept.bytes.equals(png)).toBe(true);
  });
  it("that are none, of another kind or too large are refused, and an unknown name is not found", async () => {
    expect((await refusal(keepImage("image/png", Buffer.from("<html>")))).message).toMatch(/no PNG image/);
    expect((await refusal(keepImage("text/html", png))).status).toBe(422);
    expect((await refusal(keepImage("image/jpeg", Buffer.alloc(21 * 1024 * 1024, 0xff)))).status).toBe(413);
    expect((await refusal(keptImage("0".repeat(64)))).status).toBe(404);
  });
});

describe("a project stored by an earlier version", () => {
  it("is opened in the present format, and edited on from there", async () => {
    const { id } = await createProject(clinic);
    const row = (await ProjectRow.findByPk(id)) as ProjectRow;
    const { surroundings: _s, airExchanges: _a, sensors: _n, ...rest } = JSON.parse(JSON.stringify(clinic)) as Project;
    const { shelter: _h, ...site } = rest.site;
    const { conductivity, heatCapacity } = site.ground;
    const glazings = Object.fromEntries(
      Object.entries(rest.glazings)
        .filter(([, g]) => g.kind === "rated")
        .map(([key, { kind: _k, blind: _b, ...g }]) => [key, g]),
    );
    const old = { ...rest, id, formatVersion: 1, site: { ...site, ground: { conductivity, heatCapacity } }, glazings, run: { stepsPerHour: 4, sky: "perez" } };
    await row.update({ document: old as unknown as Project });
    const { document, revision } = await openProject(id);
    expect(document.formatVersion).toBe(FORMAT_VERSION);
    expect(document.run.beam).toBe("floor");
    const saved = await saveRevision(id, revision, [{ name: "Sky", changes: [setChange(document, ["run", "sky"], "isotropic")] }]);
    expect(saved.revision).toBe(revision + 1);
    expect((await openProject(id)).document.run.sky).toBe("isotropic");
    expect(((await ProjectRow.findByPk(id)) as ProjectRow).document.formatVersion).toBe(FORMAT_VERSION);
  });
  it("that cannot be read is refused with a sentence and kept", async () => {
    const { id } = await createProject(clinic);
    const row = (await ProjectRow.findByPk(id)) as ProjectRow;
    await row.update({ document: { ...clinic, id, formatVersion: 99 } as unknown as Project });
    expect((await refusal(openProject(id))).message).toContain("cannot be read by this version");
    expect(((await ProjectRow.findByPk(id)) as ProjectRow).document.formatVersion).toBe(99);
    await ProjectRow.destroy({ where: { id } });
  });
});

describe("a stored project", () => {
  it("comes back as it went in, keys in their order, and gets a free id", async () => {
    const { id } = await createProject(clinic);
    const again = await createProject(clinic);
    expect(again.id).not.toBe(id);
    const { document } = await openProject(id);
    expect(Object.keys(document.spaces)).toEqual(Object.keys(clinic.spaces));
    expect({ ...document, id: clinic.id }).toEqual(clinic);
  });

  it("takes edits on top of its revision and keeps each of them", async () => {
    const { id } = await createProject(clinic);
    const edit = { name: "Infiltration 0.4", changes: [setChange(clinic, ["spaceTypes", "exam", "inputs", "infiltration"], 0.4)] };
    expect(await saveRevision(id, 1, [edit])).toEqual({ revision: 2 });
    expect((await openProject(id)).document.spaceTypes.exam.inputs.infiltration).toBe(0.4);
    const row = await RevisionRow.findOne({ where: { projectId: id, number: 2 } });
    expect(row?.edits).toEqual([edit]);
  });

  it("refuses a save from an old revision and keeps both states", async () => {
    const { id } = await createProject(clinic);
    const edit = (v: number) => [{ name: "x", changes: [setChange(clinic, ["site", "elevation"], v)] }];
    await saveRevision(id, 1, edit(1500));
    const refused = await refusal(saveRevision(id, 1, edit(1400)));
    expect(refused.status).toBe(409);
    expect(refused.message).toContain("revision 2");
    expect((refused.detail.document as Project).site.elevation).toBe(1500);
    expect((await openProject(id)).document.site.elevation).toBe(1500);
  });

  it("lets only one of two saves at once through", async () => {
    const { id } = await createProject(clinic);
    const edit = (v: number) => [{ name: "x", changes: [setChange(clinic, ["site", "elevation"], v)] }];
    const outcomes = await Promise.allSettled([1, 2, 3, 4].map((v) => saveRevision(id, 1, edit(v))));
    expect(outcomes.filter((o) => o.status === "fulfilled")).toHaveLength(1);
    expect((await openProject(id)).revision).toBe(2);
  });

  it("is left alone by an edit that would break it", async () => {
    const { id } = await createProject(clinic);
    const refused = await refusal(
      saveRevision(id, 1, [{ name: "x", changes: [setChange(clinic, ["assemblies", "wall_brick", "layers", "insulation", "thickness"], -1)] }]),
    );
    expect(refused.status).toBe(422);
    expect(refused.problems[0].message).toContain("more than 0");
    expect((await openProject(id)).revision).toBe(1);
  });

  it("that cannot be read is not stored", async () => {
    const before = (await listProjects()).length;
    const refused = await refusal(createProject({ ...clinic, formatVersion: FORMAT_VERSION + 1 }));
    expect(refused.problems[0].message).toContain("newer version");
    expect((await listProjects()).length).toBe(before);
    expect((await refusal(openProject("nobody"))).status).toBe(404);
  });
});

describe("a save sent again under its name", () => {
  const edit = (v: number) => [{ name: "x", changes: [setChange(clinic, ["site", "elevation"], v)] }];
  it("is answered with the revision it made, also after others were saved, and changes nothing", async () => {
    const { id } = await createProject(clinic);
    expect(await saveRevision(id, 1, edit(1500), "first")).toEqual({ revision: 2 });
    const { document } = await openProject(id);
    await saveRevision(id, 2, [{ name: "y", changes: [setChange(document, ["note"], "later")] }], "second");
    expect(await saveRevision(id, 1, edit(1500), "first")).toEqual({ revision: 2 });
    const opened = await openProject(id);
    expect(opened).toMatchObject({
      revision: 3,
      saves: [
        { id: "second", revision: 3 },
        { id: "first", revision: 2 },
      ],
    });
    expect(await RevisionRow.count({ where: { projectId: id } })).toBe(3);
  });
  it("at the same moment is saved once", async () => {
    const { id } = await createProject(clinic);
    const outcomes = await Promise.all([1, 2, 3, 4].map(() => saveRevision(id, 1, edit(1500), "one")));
    expect(outcomes).toEqual(Array(4).fill({ revision: 2 }));
    expect((await openProject(id)).revision).toBe(2);
  });
});

describe("an edit that may not be", () => {
  it.each([
    [["id"], "id: no edit changes"],
    [["formatVersion"], "formatVersion: no edit changes"],
    [["__proto__", "polluted"], "__proto__"],
    [["spaces", "constructor"], '"constructor"'],
    [["spaces", "office", "prototype", "x"], "the thing it belongs to is gone"],
    [["materials", "toString"], '"toString"'],
  ])("to %j is refused with its place", async (path, words) => {
    const { id } = await createProject(clinic);
    const refused = await refusal(saveRevision(id, 1, [{ name: "x", changes: [{ op: "set", path, value: { name: "x" } }] }]));
    expect(refused.status).toBe(422);
    expect(refused.message).toContain(words);
    expect((await openProject(id)).document).toEqual({ ...clinic, id });
    expect(({} as Record<string, unknown>).polluted).toBeUndefined();
  });
});

describe("a project with names as long as they may be", () => {
  it("is stored again and again under ids that fit", async () => {
    const long = { ...clinic, id: "x".repeat(64), name: "n".repeat(200) };
    const ids = [await createProject(long), await createProject(long), await createProject(long)].map((p) => p.id);
    expect(ids[0]).toBe(long.id);
    expect(new Set(ids).size).toBe(3);
    for (const id of ids) expect(id.length).toBeLessThanOrEqual(64);
    const { document } = await openProject(ids[2]);
    await saveRevision(ids[2], 1, [{ name: "Rename ".padEnd(500, "x"), changes: [setChange(document, ["name"], "m".repeat(200))] }]);
    const row = await RevisionRow.findOne({ where: { projectId: ids[2], number: 2 } });
    expect(row?.name).toHaveLength(200);
    expect((await listProjects()).find((p) => p.id === ids[2])).toMatchObject({ name: "m".repeat(200), revision: 2, spaces: 11, storeys: 1 });
  });
  it("is listed without its document being read", async () => {
    const asked: string[] = [];
    const { options } = sequelize as unknown as { options: { logging: false | ((sql: string) => void) } };
    options.logging = (sql) => void asked.push(sql);
    await listProjects();
    options.logging = false;
    expect(asked).toHaveLength(1);
    expect(asked[0]).not.toMatch(/document|summary/);
  });
});

describe("what nothing names", () => {
  const made = projectWeather(clinic) as WeatherYear;
  const year = (name: string) => ({ ...made, name, dryBulb: made.dryBulb.map((t) => t + name.charCodeAt(0) / 1000) });
  const now = "0 seconds";
  it("is pruned: weather and images that no project names or ever named, runs that no project lists", async () => {
    const png = Buffer.concat([Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]), Buffer.from("prune me")]);
    const image = await keepImage("image/png", png);
    const [named, replaced, loose] = [await keepWeather(year("named")), await keepWeather(year("replaced")), await keepWeather(year("loose"))];
    const { id } = await createProject({ ...clinic, weathers: { year: { kind: "stored", name: "replaced", hash: replaced } } });
    const { document } = await openProject(id);
    await saveRevision(id, 1, [{ name: "w", changes: [setChange(document, ["weathers", "year"], { kind: "stored", name: "named", hash: named })] }]);
    // nothing that is new goes, however little names it
    expect((await prune()).weather).toBe(0);
    await prune(now);
    expect((await storedWeather(named)).name).toBe("named");
    // undo goes back to it
    expect((await storedWeather(replaced)).name).toBe("replaced");
    expect((await refusal(storedWeather(loose))).status).toBe(404);
    expect((await refusal(keptImage(image))).status).toBe(404);
    const run = { hash: "a".repeat(16), document: clinic, settings: { stepsPerHour: 4 as const }, status: "done" as const, weather: named };
    await RunRow.create(run);
    await deleteProject(id);
    const gone = await prune(now);
    expect(gone.runs).toBeGreaterThanOrEqual(1);
    expect(gone.weather).toBeGreaterThanOrEqual(2);
    expect(await RunRow.findByPk(run.hash)).toBeNull();
  });
});

describe("an unexpected error", () => {
  it("is answered with 500 and logged once, without statement or document; an absent database with 503", async () => {
    const logged: unknown[][] = [];
    const spy = vi.spyOn(console, "error").mockImplementation((...what: unknown[]) => void logged.push(what));
    const secret = "a very private building";
    const broken = await reply(() => sequelize.query("SELECT $1::int", { bind: [secret] }));
    expect(broken.status).toBe(500);
    expect(logged).toHaveLength(1);
    expect(JSON.stringify(logged)).not.toContain("SELECT");
    const away = await reply(() => Promise.reject(Object.assign(new Error("connect ECONNREFUSED 127.0.0.1:1"), { code: "ECONNREFUSED" })));
    expect(away.status).toBe(503);
    expect(((await away.json()) as { message: string }).message).toMatch(/database does not answer/);
    spy.mockRestore();
  });
});

describe("stored series and weather", () => {
  it("of any length are kept whole, with the hour they begin at", async () => {
    const values = Float64Array.from({ length: 730 * 24 + 5 }, (_, i) => Math.round(1000 * Math.sin(i / 50)) / 10);
    const hash = "b".repeat(16);
    await RunRow.create({ hash, document: clinic, settings: { stepsPerHour: 1 }, status: "running", runner: "me" });
    const series = [{ scope: "office", quantity: "heating", unit: "W", kind: "mean" as const, start: 1416, step: 3600, values }];
    const summary = { energy: { intensity: null } } as Summary;
    await finishRun(hash, "me", { summary, series, fuel: NO_FUEL });
    const read = await runSeries(hash, "office", "heating");
    expect(read.start).toBe(1416);
    expect(read.values).toHaveLength(values.length);
    expect(Math.max(...read.values.map((v, i) => Math.abs(v - values[i])))).toBeLessThan(0.051);
    expect((await refusal(runSeries(hash, "office", "nothing"))).status).toBe(404);
    expect((await refusal(runSeries("x'; --", "office", "heating"))).status).toBe(404);
    await RunRow.destroy({ where: { hash } });
  });
  it("a stored run is shown under the prices its project has now", async () => {
    const { id } = await createProject(clinic);
    const hash = "d".repeat(16);
    await RunRow.create({ hash, document: clinic, settings: { stepsPerHour: 1 }, status: "running", runner: "me" });
    const result = runToEnd(clinic, projectWeather(clinic) as WeatherYear, { stepsPerHour: 1, shortYear: 12 });
    await finishRun(hash, "me", result);
    expect((await runSummary(hash)).energy.cost).toBeCloseTo(result.summary.energy.cost, 6);
    const { document, revision } = await openProject(id);
    const dear = { ...clinic.prices, water: 9, perKWh: { ...clinic.prices.perKWh, electricity: 1 } };
    await saveRevision(id, revision, [{ name: "prices", changes: [setChange(document, ["prices"], dear)] }]);
    const now = await runSummary(hash, id);
    expect(now.energy.cost).toBeCloseTo(priced(result.summary, result.fuel, { ...clinic, prices: dear }).energy.cost, 6);
    expect(now.energy.cost).toBeGreaterThan(1.5 * result.summary.energy.cost);
    expect({ ...now, energy: null }).toEqual({ ...(await runSummary(hash)), energy: null });
    await RunRow.destroy({ where: { hash } });
    await deleteProject(id);
  });
  it("a run nobody made is neither read nor cancelled", async () => {
    for (const hash of ["c".repeat(16), "nobody", "%00", "'"]) {
      expect((await refusal(cancelRun(hash))).status).toBe(404);
      expect((await refusal(runSummary(hash))).status).toBe(404);
    }
  });
  it("come back to the stated resolution, small", () => {
    const t = Float64Array.from({ length: 744 }, (_, i) => 20 + 5 * Math.sin(i / 24));
    const p = t.map((x) => x * 321.123);
    const near = (a: Float64Array, b: Float64Array): number => a.reduce((m, x, i) => Math.max(m, Math.abs(x - b[i])), 0);
    expect(near(decodeValues(encodeValues(t, "°C"), "°C"), t)).toBeLessThanOrEqual(0.0005 + 1e-9);
    expect(near(decodeValues(encodeValues(p, "W"), "W"), p)).toBeLessThanOrEqual(0.05 + 1e-9);
    expect(encodeValues(t, "°C").length).toBeLessThan(744 * 3);
  });
  it("a weather file with a hole is refused with its line", async () => {
    const refused = await refusal(importWeather("# arroyo-weather: 1\nmonth,day"));
    expect(refused.status).toBe(422);
    expect(refused.problems.length).toBeGreaterThan(0);
    expect((await refusal(storedWeather("none"))).status).toBe(404);
  });
});
