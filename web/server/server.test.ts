import { readFileSync } from "node:fs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { FORMAT_VERSION, setChange, type Project } from "@arroyo/core";
import {
  bindModels,
  createProject,
  database,
  decodeValues,
  encodeValues,
  importWeather,
  keepImage,
  keptImage,
  listProjects,
  migrate,
  openProject,
  ProjectRow,
  Refusal,
  RevisionRow,
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
    const refused = await refusal(createProject({ ...clinic, formatVersion: 9 }));
    expect(refused.problems[0].message).toContain("newer version");
    expect((await listProjects()).length).toBe(before);
    expect((await refusal(openProject("nobody"))).status).toBe(404);
  });
});

describe("stored series and weather", () => {
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
