import { spawn, type ChildProcess } from "node:child_process";
import { readFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { parseProject, projectWeather, runToEnd, setChange, type Project, type WeatherYear } from "@arroyo/core";
import {
  bindModels,
  cancelRun,
  createProject,
  database,
  listRuns,
  migrate,
  openProject,
  pauseRun,
  queue,
  resumeRun,
  runSeries,
  runSummary,
  saveRevision,
  startRun,
  stopRun,
  type RunView,
} from "@arroyo/web/server";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");
const read = (name: string): Project => JSON.parse(readFileSync(path.join(root, `demo/${name}.json`), "utf8")) as Project;
let runner: ChildProcess | null = null;

function startRunner(): ChildProcess {
  return spawn(process.execPath, ["--import", "tsx", "runner/src/main.ts"], {
    cwd: root,
    env: { ...process.env, LOG_LEVEL: "warn" },
    stdio: ["ignore", "ignore", "inherit"],
  });
}

async function until(id: string, test: (r: RunView) => boolean, seconds = 150): Promise<RunView> {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    const [run] = (await listRuns(id)).runs;
    if (run && test(run)) return run;
    if (Date.now() > end) throw new Error(`the run stayed ${run?.status} at ${run?.progress}`);
    await new Promise((r) => setTimeout(r, 100));
  }
}

/** A project like a demo one but with a run of its own, long enough to be caught under way. */
async function longProject(elevation: number): Promise<string> {
  const { id } = await createProject(read("library"));
  const { document } = await openProject(id);
  await saveRevision(id, 1, [
    { name: "long", changes: [setChange(document, ["run", "stepsPerHour"], 12), setChange(document, ["site", "elevation"], elevation)] },
  ]);
  return id;
}

beforeAll(async () => {
  bindModels(database());
  await migrate(database());
  runner = startRunner();
});
afterAll(async () => {
  runner?.kill("SIGTERM");
  await (await queue()).stop({ graceful: false, timeout: 1000 });
  await database().close();
});

describe("a queued run", () => {
  it("is computed, stored with its series, and equals the run made here to the bit", async () => {
    const { id } = await createProject(read("clinic"));
    await startRun(id);
    const run = await until(id, (r) => r.status === "done");
    const parsed = parseProject(read("clinic"));
    if (!parsed.ok) throw new Error("the clinic cannot be read");
    const here = runToEnd(parsed.project, projectWeather(parsed.project) as WeatherYear, { stepsPerHour: 4 });
    const summary = await runSummary(run.hash);
    expect(run.intensity).toBe(here.summary.energy.intensity);
    expect(summary.energy.intensity).toBe(here.summary.energy.intensity);
    expect(summary.fingerprint).toBe(here.summary.fingerprint);
    const stored = await runSeries(run.hash, "surgery", "airTemperature");
    const exact = here.series.find((s) => s.scope === "surgery" && s.quantity === "airTemperature");
    expect(stored.values).toHaveLength(8760);
    stored.values.forEach((v, i) => expect(Math.abs(v - (exact?.values[i] ?? NaN))).toBeLessThan(0.00051));
    const before = run.attempts;
    await startRun(id);
    expect((await listRuns(id)).runs[0]).toMatchObject({ status: "done", attempts: before });
  });

  it("can be cancelled while it runs", async () => {
    const id = await longProject(1200);
    await startRun(id);
    const under = await until(id, (r) => r.status === "running" && r.progress > 0);
    await cancelRun(under.hash);
    await new Promise((r) => setTimeout(r, 2500));
    const after = (await listRuns(id)).runs[0];
    expect(after.status).toBe("cancelled");
    expect(after.intensity).toBeNull();
  });

  it("streams its series, waits when it is paused, goes on, and keeps what was computed when it is stopped", async () => {
    const id = await longProject(1400);
    await startRun(id, null, true, "zones");
    const under = await until(id, (r) => r.status === "running" && r.progress > 0.3);
    expect(under.keeps).toEqual(["zones"]);
    await pauseRun(under.hash);
    // until the last step before the pause is told
    let still = (await listRuns(id)).runs[0];
    for (let before = -1; before !== still.progress;) {
      before = still.progress;
      await new Promise((r) => setTimeout(r, 2500));
      [still] = (await listRuns(id)).runs;
    }
    const part = await runSeries(under.hash, "reading", "infiltration");
    expect(still.status).toBe("paused");
    expect(part.values.length).toBeGreaterThan(24);
    expect(part.values.length).toBeLessThan(8760);
    await new Promise((r) => setTimeout(r, 2000));
    // nothing moves while it waits, and nobody takes it for lost
    expect((await listRuns(id)).runs[0]).toMatchObject({ status: "paused", progress: still.progress, attempts: 1 });
    expect((await runSeries(under.hash, "reading", "infiltration")).values).toEqual(part.values);
    await resumeRun(under.hash);
    await until(id, (r) => r.status === "running" && r.progress > still.progress);
    await stopRun(under.hash);
    await new Promise((r) => setTimeout(r, 2500));
    const kept = await runSeries(under.hash, "reading", "infiltration");
    expect((await listRuns(id)).runs[0].status).toBe("stopped");
    expect(kept.values.length).toBeGreaterThanOrEqual(part.values.length);
    // the hours before the pause are what they were
    expect(kept.values.slice(0, part.values.length)).toEqual(part.values);
  });

  it("is taken up again within seconds when its runner is killed", async () => {
    const id = await longProject(1300);
    await startRun(id);
    await until(id, (r) => r.status === "running" && r.progress > 0);
    runner?.kill("SIGKILL");
    runner = startRunner();
    const again = await until(id, (r) => r.attempts === 2);
    expect(again.status).toBe("running");
    const done = await until(id, (r) => r.status === "done", 240);
    expect((await runSummary(done.hash)).closure).toBeLessThan(1e-10);
  });
});
