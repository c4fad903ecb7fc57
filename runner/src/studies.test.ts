import { spawn, type ChildProcess } from "node:child_process";
import { readFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { emptyStudy, figuresKept, frontOf, parseProject, setChange, StudyMaker, studyTable, type Project, type Study, type StudyAxis } from "@arroyo/core";
import {
  bindModels,
  cancelStudy,
  createProject,
  database,
  migrate,
  openProject,
  pauseStudy,
  queue,
  resumeStudy,
  saveRevision,
  startStudy,
  studyAnswer,
  studyView,
  type StudyAnswer,
  type StudyView,
} from "@arroyo/web/server";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");
const read = (name: string): Project => {
  const parsed = parseProject(JSON.parse(readFileSync(path.join(root, `demo/${name}.json`), "utf8")));
  if (!parsed.ok) throw new Error(parsed.problems[0].message);
  return parsed.project;
};
const runners: ChildProcess[] = [];
function startRunner(): ChildProcess {
  const runner = spawn(process.execPath, ["--import", "tsx", "runner/src/main.ts"], {
    cwd: root,
    env: { ...process.env, LOG_LEVEL: "warn", RUNNER_THREADS: "1" },
    stdio: ["ignore", "ignore", "inherit"],
  });
  runners.push(runner);
  return runner;
}

async function until(id: string, test: (v: StudyView) => boolean, seconds = 150): Promise<StudyView> {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    const view = await studyView(id, "s");
    if (test(view)) return view;
    if (Date.now() > end) throw new Error(`the study stayed ${view.status} with ${view.done} of ${view.planned}`);
    await new Promise((r) => setTimeout(r, 100));
  }
}
async function everything(id: string): Promise<StudyAnswer> {
  const first = await studyAnswer(id, "s");
  const rows = [...first.rows];
  for (let { told, more } = first; more;) {
    const next = await studyAnswer(id, "s", String(told));
    rows.push(...next.rows);
    ({ told, more } = next);
  }
  return { ...first, rows };
}

const axis = (id: string, address: string, values: readonly number[]): StudyAxis => ({
  id,
  name: id,
  addresses: [address],
  levels: values.map((value, i) => ({ id: `l${i}`, value })),
});
const leaks = axis("leaks", "spaces/*/inputs/infiltration", [0.1, 0.3, 0.6, 1]);
const south = axis("south", "openings/south/ratio", [0.1, 0.2, 0.3, 0.4, 0.5]);
/** The clinic with plain services and a study on it. */
async function withStudy(more: Partial<Study>, elevation = 0): Promise<string> {
  const { id } = await createProject(read("clinic"));
  const { document } = await openProject(id);
  const study: Study = { ...emptyStudy("Study", null), checks: 0, axes: [leaks, south], ...more };
  await saveRevision(id, 1, [
    { name: "study", changes: [setChange(document, ["studies"], { s: study }), setChange(document, ["site", "elevation"], 400 + elevation)] },
  ]);
  return id;
}

beforeAll(async () => {
  bindModels(database());
  await migrate(database());
  startRunner();
});
afterAll(async () => {
  for (const r of runners) r.kill("SIGTERM");
  await (await queue()).stop({ graceful: false, timeout: 1000 });
  await database().close();
});

describe("a study", () => {
  it("is made by two runners, of which one is killed: every run once and none lost, to the figures made here", async () => {
    const id = await withStudy({ checks: 2 });
    const second = startRunner();
    const started = await startStudy(id, "s");
    expect(started).toMatchObject({ status: "queued", planned: 23, done: 0 });
    await until(id, (v) => v.threads >= 2 && v.done > 3);
    second.kill("SIGKILL");
    await until(id, (v) => v.status === "done");
    const { rows, keys, made } = await everything(id);
    const runs = rows.filter((r) => !r.check);
    expect(new Set(runs.map((r) => r.index)).size).toBe(21);
    expect(rows).toHaveLength(23);
    expect(rows.every((r) => r.error === null)).toBe(true);
    if (!made) throw new Error("nothing was kept of what was started");
    expect(keys).toEqual(figuresKept(made.document, made.study).map((f) => f.key));
    const maker = new StudyMaker(made.document, made.study, () => null);
    for (const r of [runs[5], rows.filter((x) => x.check)[1]]) expect(maker.make(maker.prepare(r)).figures).toEqual(r.figures);
    // leakier and colder: more heat
    const table = studyTable(made.document, made.study, rows);
    const heat = table.outcomes.find((o) => o.key === "heating")?.values ?? [];
    const at = (leak: number): number => heat[table.points.findIndex((p) => p[0] === leak && p[1] === 2)];
    expect(at(0)).toBeLessThan(at(1));
    expect(at(2)).toBeLessThan(at(3));

    // the same runs of another study of the same model are not made again
    const { document, revision } = await openProject(id);
    const more = { ...(document.studies?.s as Study), checks: 0, axes: [south, { ...leaks, levels: leaks.levels.slice(1) }] };
    await saveRevision(id, revision, [{ name: "fewer", changes: [setChange(document, ["studies", "s"], more)] }]);
    await startStudy(id, "s", String(revision + 1));
    const again = await until(id, (v) => v.status === "done");
    expect(again).toMatchObject({ planned: 16, done: 16, pace: null });
    await expect(startStudy(id, "s", "1")).rejects.toThrow(/revision/);
  });

  it("waits when it is paused, goes on, and keeps what was made when it is cancelled; a run that cannot be made stops nothing", async () => {
    const id = await withStudy({ axes: [axis("heating", "spaces/*/inputs/heatingSetpoint", [18, 20, 39]), south] }, 1);
    await startStudy(id, "s");
    await until(id, (v) => v.done > 0);
    await pauseStudy(id, "s");
    await new Promise((r) => setTimeout(r, 4000));
    const still = await studyView(id, "s");
    await new Promise((r) => setTimeout(r, 2000));
    expect(await studyView(id, "s")).toMatchObject({ status: "paused", done: still.done });
    expect(still.done).toBeLessThan(16);
    await resumeStudy(id, "s");
    await until(id, (v) => v.done > still.done);
    await cancelStudy(id, "s");
    await new Promise((r) => setTimeout(r, 3000));
    const kept = await studyView(id, "s");
    expect(kept.status).toBe("cancelled");
    expect(kept.done).toBeGreaterThan(still.done);
    await resumeStudy(id, "s");
    const done = await until(id, (v) => v.status === "done");
    expect(done).toMatchObject({ planned: 16, done: 16, failed: 5 });
    const { rows } = await everything(id);
    expect(rows.filter((r) => r.error !== null).every((r) => /heated to 39/.test(r.error ?? ""))).toBe(true);
  });

  it("asks a search for its next generation until all are through", async () => {
    const id = await withStudy(
      {
        method: {
          kind: "search",
          population: 6,
          generations: 2,
          seed: 5,
          objectives: [
            { figure: "heating", aim: "least" },
            { figure: "cooling", aim: "least" },
          ],
          constraints: [],
        },
      },
      2,
    );
    await startStudy(id, "s");
    const done = await until(id, (v) => v.status === "done");
    expect(done.done).toBeGreaterThan(7);
    expect(done.done).toBeLessThanOrEqual(19);
    const { rows, made } = await everything(id);
    if (!made) throw new Error("nothing was kept");
    const table = studyTable(made.document, made.study, rows);
    expect(new Set(table.points.map((p) => p.join())).size).toBe(table.points.length);
    const all = table.points.map((_, i) => i);
    expect(frontOf(table, ["heating", "cooling"], all).length).toBeGreaterThan(1);
  });
});
