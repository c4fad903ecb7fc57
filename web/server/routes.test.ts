import { readFileSync } from "node:fs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  complianceOf,
  contentHash,
  keepChanges,
  projectWeather,
  randomStream,
  referenceBuilding,
  submissionDocument,
  submissionOf,
  takeChanges,
  type Compliance,
  type OwnLibrary,
  type Project,
} from "@arroyo/core";
import { draw, garbled, mutated, type Draw } from "../../scripts/lib/fuzz/mutate.ts";
import { POST as importProject } from "../app/api/projects/route.ts";
import { DELETE as removeProject, GET as readProject } from "../app/api/projects/[id]/route.ts";
import { POST as saveEdits } from "../app/api/projects/[id]/revisions/route.ts";
import { GET as listOfRuns, POST as storeRun } from "../app/api/projects/[id]/runs/route.ts";
import { GET as readPins, PUT as putPins } from "../app/api/projects/[id]/pins/route.ts";
import { POST as cancel } from "../app/api/runs/[hash]/cancel/route.ts";
import { GET as readRun } from "../app/api/runs/[hash]/route.ts";
import { GET as readSeries } from "../app/api/runs/[hash]/series/route.ts";
import { POST as importWeather } from "../app/api/weather/route.ts";
import { GET as readWeather } from "../app/api/weather/[hash]/route.ts";
import { POST as keepImage } from "../app/api/blobs/route.ts";
import { GET as readLibrary, POST as changeLibrary } from "../app/api/library/route.ts";
import { POST as submitCertificate } from "../app/api/registry/route.ts";
import { bindModels, createProject, database, LibraryRow, migrate, ProjectRow, queue } from "./index.ts";

const clinic = JSON.parse(readFileSync(new URL("../../demo/clinic.json", import.meta.url), "utf8")) as Project;
const at = (path: string, init?: RequestInit): Request => new Request(`http://localhost${path}`, init);
const post = (path: string, body: BodyInit, kind = "application/json"): Request => at(path, { method: "POST", body, headers: { "content-type": kind } });
const id = (value: string) => ({ params: Promise.resolve({ id: value }) });
const hash = (value: string) => ({ params: Promise.resolve({ hash: value }) });

beforeAll(async () => {
  bindModels(database());
  await migrate(database());
});
afterAll(async () => {
  await ProjectRow.destroy({ where: {} });
  await LibraryRow.destroy({ where: {} });
  await (await queue()).stop({ graceful: false, timeout: 1000 });
  await database().close();
});

describe("a request", () => {
  it("with a body too large, of another kind, broken or nested without end has its status and sentence", async () => {
    const said = async (r: Response): Promise<[number, string]> => [r.status, ((await r.json()) as { message: string }).message];
    expect(await said(await importProject(post("/", "x".repeat(33 * 1024 * 1024))))).toEqual([413, expect.stringContaining("larger than 32 MB")]);
    expect(await said(await importProject(post("/", "{}", "text/plain")))).toEqual([415, expect.stringContaining("application/json, not text/plain")]);
    expect(await said(await importProject(post("/", `{"a": ${"[1,2],".repeat(30000)}`)))).toEqual([400, expect.stringContaining("breaks at line 1")]);
    expect(await said(await importProject(post("/", "[".repeat(5000))))).toEqual([400, expect.stringContaining("nests more than")]);
    expect(await said(await saveEdits(post("/", '{"base":1,"edits":[]}'), id("nobody")))).toEqual([
      400,
      "The edits cannot be read: edits: It needs at least 1 entries.",
    ]);
    expect(await said(await importWeather(post("/", "a,b", "text/csv")))).toEqual([422, expect.stringContaining("cannot be used")]);
    expect(await said(await keepImage(post("/", "<svg>", "image/gif")))).toEqual([415, expect.stringContaining("image/png")]);
  });
  it("by names that name nothing is answered with 404", async () => {
    for (const name of ["nobody", "%00", "\u0000", "../../etc", "x".repeat(3000), "constructor", "'; DROP TABLE projects; --"]) {
      for (const r of [await readProject(at("/"), id(name)), await removeProject(at("/"), id(name)), await storeRun(at("/"), id(name))])
        expect(r.status).toBe(404);
      for (const r of [await readRun(at("/"), hash(name)), await cancel(at("/"), hash(name)), await readWeather(at("/"), hash(name))])
        expect(r.status).toBe(404);
      expect((await readSeries(at(`/?scope=${encodeURIComponent(name)}&quantity=${encodeURIComponent(name)}`), hash("a".repeat(16)))).status).toBe(404);
    }
  });
  it("for pins keeps the list of a project, and refuses what is none with its place", async () => {
    const { id: own } = await createProject(clinic);
    const put = (body: unknown, project = own): Promise<Response> =>
      putPins(at("/", { method: "PUT", body: JSON.stringify(body), headers: { "content-type": "application/json" } }), id(project));
    const listed = async (): Promise<unknown> => ((await (await readPins(at("/"), id(own))).json()) as { pins: unknown }).pins;
    expect(await listed()).toEqual([]);
    expect((await put({ pins: [] })).status).toBe(200);
    // of a run that is not there nothing is shown, and nothing is lost
    expect((await put({ pins: [{ name: "a", run: "0123456789abcdef" }] })).status).toBe(200);
    expect(await listed()).toEqual([]);
    for (const [body, place] of [
      [{ pins: [{ name: "" }] }, "pins/0"],
      [{ pins: new Array(9).fill({ name: "a", run: "b" }) }, "pins"],
      [[], ""],
    ] as const) {
      const refused = await put(body);
      expect(refused.status).toBe(400);
      expect(((await refused.json()) as { message: string }).message).toContain(`The pins cannot be read: ${place}`);
    }
    expect((await put({ pins: [] }, "nobody")).status).toBe(404);
    expect((await readPins(at("/"), id("nobody"))).status).toBe(404);
  });
  it("drawn at random never ends in an error of the server", async () => {
    const { id: own } = await createProject(clinic);
    const one = async (d: Draw): Promise<Response> => {
      const path = d.of(["", "?since=yesterday", "?since=2026-01-01T00:00:00Z", "?revision=1e9", "?revision=%00", "?scope=office&quantity=heating"]);
      const name = d.of([own, own, "nobody", "\u0000", "x".repeat(200)]);
      switch (d.below(8)) {
        case 0:
          return importProject(post("/", JSON.stringify(mutated(clinic, d))));
        case 1:
          return importProject(post("/", garbled(JSON.stringify(clinic), d)));
        case 2: {
          const body = { base: 1, saveId: "a", edits: [{ name: "x", changes: [{ op: "set", path: ["site", "elevation"], value: 1500 }] }] };
          return saveEdits(post("/", JSON.stringify(mutated(body, d))), id(name));
        }
        case 3:
          return listOfRuns(at(`/${path}`), id(name));
        case 4:
          return storeRun(at(`/${path}`, { method: "POST" }), id(name));
        case 5:
          return readSeries(at(`/${path}`), hash(d.of(["a".repeat(16), "zz", "\u0000"])));
        case 6:
          return importWeather(post("/", garbled("# arroyo-weather: 1\n# site: x\n# latitude: 1\n", d), d.of(["text/csv", "text/csv", ""])));
        default:
          return keepImage(post("/", garbled("\u0089PNG\r\n\u001a\n<svg>", d), d.of(["image/png", "image/svg+xml", "image/jpeg"])));
      }
    };
    for (let seed = 1; seed <= 150; seed++) {
      const response = await one(draw(randomStream(seed)));
      expect(response.status, `case ${seed}`).toBeLessThan(500);
      if (!response.ok) expect(((await response.json()) as { message: string }).message, `case ${seed}`).toMatch(/[.!]$/);
    }
  });
});

describe("my library", () => {
  interface Kept {
    readonly library: OwnLibrary;
    readonly revision: number;
  }
  const read = async (): Promise<Kept> => (await (await readLibrary()).json()) as Kept;
  it("is empty at first, keeps a thing with all it depends on, and gives it to another project", async () => {
    expect((await read()).library.assemblies).toEqual({});
    const kept = keepChanges((await read()).library, clinic, "assemblies", "wall_brick");
    if (!kept.ok) throw new Error(kept.message);
    expect((await changeLibrary(post("/", JSON.stringify({ changes: kept.changes })))).status).toBe(200);
    const { library, revision } = await read();
    expect(revision).toBe(1);
    expect(library.assemblies[kept.id].from).toMatchObject({ library: clinic.name, id: "wall_brick" });
    expect(Object.keys(library.materials).length).toBe(kept.taken.length - 1);
    const bare: Project = { ...clinic, assemblies: {}, materials: {} };
    const taken = takeChanges(bare, library, "mine", "assemblies", kept.id);
    expect(taken.ok && taken.changes).toHaveLength(kept.taken.length);
    expect(contentHash(library, "assemblies", kept.id)).toBe(contentHash(clinic, "assemblies", "wall_brick"));
  });
  it("refuses what names nothing, what is there already and what cannot be read, and stays as it was", async () => {
    const before = await read();
    const wall = {
      op: "insert",
      path: ["assemblies", "other"],
      value: { name: "Wall", use: "roof", layers: [{ kind: "solid", id: "l1", material: "none", thickness: 0.1 }] },
    };
    const again = { op: "insert", path: ["materials", Object.keys(before.library.materials)[0]], value: {} };
    for (const [changes, status] of [
      [[wall], 409],
      [[again], 409],
      [[{ op: "set", path: ["formatVersion"], value: 9 }], 409],
      [[{ op: "set", path: ["__proto__", "x"], value: 1 }], 409],
      [[], 400],
      ["x", 400],
    ] as const) {
      const answer = await changeLibrary(post("/", JSON.stringify({ changes })));
      expect(answer.status).toBe(status);
      expect(((await answer.json()) as { message: string }).message.length).toBeGreaterThan(10);
    }
    expect(await read()).toEqual(before);
  });
});

describe("the simulated registry", () => {
  const outcome = submissionOf(clinic, projectWeather(clinic));
  if (!outcome.ok) throw new Error(outcome.message);
  const early = complianceOf(clinic, outcome.submission, referenceBuilding(clinic, outcome.submission), null);
  // as after a whole year: it passes or it does not
  const certificate: Compliance = { ...early, pass: false, index: 90 };
  const send = async (of: Compliance, manner = "at once", hash = submissionDocument(of).hash): Promise<[number, { receipt?: string; message?: string }]> => {
    const answer = await submitCertificate(post(`/?manner=${encodeURIComponent(manner)}`, JSON.stringify({ hash, certificate: of })));
    return [answer.status, (await answer.json()) as { receipt?: string; message?: string }];
  };
  it("answers with a receipt, another for each submission", async () => {
    const [status, { receipt }] = await send(certificate);
    expect([status, receipt]).toEqual([200, expect.stringMatching(/^PLT-\d{8}-[0-9A-F]{8}$/)]);
  });
  it("refuses what was changed on its way, what says nothing, and everything while it is down", async () => {
    expect(await send({ ...certificate, pass: true }, "at once", submissionDocument(certificate).hash)).toEqual([
      409,
      expect.objectContaining({ message: expect.stringContaining("changed on its way") }),
    ]);
    expect(await send(early)).toEqual([409, expect.objectContaining({ message: expect.stringContaining("no whole year was run") })]);
    expect(await send(certificate, "not at all")).toEqual([503, expect.objectContaining({ message: expect.stringContaining("Nothing was submitted") })]);
    const odd = await submitCertificate(post("/", JSON.stringify({ hash: "x", certificate: { ...certificate, rows: "none" } })));
    expect([odd.status, ((await odd.json()) as { message: string }).message]).toEqual([400, expect.stringContaining("certificate/rows")]);
  });
});
