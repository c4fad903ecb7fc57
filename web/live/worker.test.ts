import { beforeAll, beforeEach, describe, expect, it, vi } from "vitest";
import { projectWeather, runToEnd, setChange, type Change, type Project, type WeatherYear, NOTHING_STORED } from "@arroyo/core";
import { boxProject } from "../../core/src/verification/box.ts";
import type { FromLive, ToLive } from "./messages.ts";

const posted: FromLive[] = [];
const scope: { onmessage: ((e: { data: ToLive }) => void) | null; postMessage: (m: FromLive) => void } = {
  onmessage: null,
  postMessage: (m) => {
    posted.push(m);
    react?.(m);
  },
};
/** What the page does on a message. */
let react: ((m: FromLive) => void) | null = null;
const say = (message: ToLive): void => scope.onmessage?.({ data: message });
/** Waits until the worker has posted something. */
const until = (test: (m: FromLive) => boolean): Promise<FromLive> => vi.waitFor(() => posted.find(test) ?? Promise.reject(new Error("not yet")), 30000);
const result = (version: number, exact: boolean): Promise<Extract<FromLive, { kind: "result" }>> =>
  until((m) => m.kind === "result" && m.version === version && m.exact === exact) as Promise<Extract<FromLive, { kind: "result" }>>;

const short = (): Project => {
  const p = boxProject({ glass: 0.3, gains: 200 });
  p.run.period = { from: [2, 1], days: 20 };
  return p;
};
const setpoint = (p: Project, value: number): Change => setChange(p, ["spaceTypes", "box", "inputs", "heatingSetpoint"], value);

beforeAll(async () => {
  vi.stubGlobal("self", scope);
  await import("./worker.ts");
});
beforeEach(() => {
  posted.length = 0;
  react = null;
});

describe("the browser's worker", () => {
  it("answers a project with the weather at a glance, an estimate without series, then the exact year with them", async () => {
    const p = short();
    say({ kind: "open", project: p, version: 1, stored: NOTHING_STORED });
    const estimate = await result(1, false);
    const exact = await result(1, true);
    expect(posted.findIndex((m) => m.kind === "weather")).toBeLessThan(posted.indexOf(estimate));
    expect(posted.indexOf(estimate)).toBeLessThan(posted.indexOf(exact));
    expect(estimate.result.series).toEqual([]);
    expect(estimate.result.summary.stepsPerHour).toBe(1);
    const stored = runToEnd(p, projectWeather(p) as WeatherYear, { stepsPerHour: 4 });
    expect(exact.result.summary).toEqual({ ...stored.summary, timing: exact.result.summary.timing });
    expect(exact.result.summary.timing.kernel).toBe("WebAssembly");
    expect(exact.result.series.map((s) => s.values)).toEqual(stored.series.map((s) => s.values));
    // an estimate is near the figure it stands for
    expect(estimate.result.summary.loads.heating.total / exact.result.summary.loads.heating.total).toBeCloseTo(1, 1);
  });

  it("follows edits, and leaves a year that an edit has overtaken", async () => {
    const p = boxProject({ glass: 0.3, gains: 200 });
    // long enough to be overtaken on any machine
    p.run.stepsPerHour = 12;
    // an edit that comes while the exact year of the one before is under way, in its next breath
    react = (m) => {
      if (m.kind !== "progress" || !m.exact) return;
      react = null;
      void Promise.resolve().then(() => say({ kind: "changes", changes: [setpoint(p, 21)], version: 11 }));
    };
    say({ kind: "open", project: p, version: 10, stored: NOTHING_STORED });
    const exact = await result(11, true);
    expect(exact.result.summary.zones[0].temperature.min).toBeCloseTo(21, 6);
    expect(posted.some((m) => m.kind === "result" && m.version === 10 && m.exact)).toBe(false);
    expect(posted.filter((m) => m.kind === "result" && m.version === 11)).toHaveLength(2);
  });

  it("tells the share done a few times a second and no more, and never backwards", async () => {
    const p = boxProject({ glass: 0.3, gains: 200 });
    say({ kind: "open", project: p, version: 20, stored: NOTHING_STORED });
    const exact = await result(20, true);
    const shares = posted.flatMap((m) => (m.kind === "progress" && m.exact ? [m.share] : []));
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.length).toBeLessThanOrEqual(2 + exact.seconds / 0.2);
  });

  it("computes nothing while there are errors, and says which", async () => {
    const p = short();
    p.spaceTypes.box.inputs.coolingSetpoint = 15;
    say({ kind: "open", project: p, version: 30, stored: NOTHING_STORED });
    const blocked = (await until((m) => m.kind === "blocked")) as Extract<FromLive, { kind: "blocked" }>;
    expect(blocked.problems.map((x) => x.severity)).toContain("error");
    expect(posted.some((m) => m.kind === "result")).toBe(false);
    // mended, it computes again
    say({ kind: "changes", changes: [setChange(p, ["spaceTypes", "box", "inputs", "coolingSetpoint"], 26)], version: 31 });
    expect((await result(31, true)).result.summary.warnings).toEqual([]);
  });

  it("says so when a change does not fit, and goes on with what it has", async () => {
    const p = short();
    say({ kind: "open", project: p, version: 40, stored: NOTHING_STORED });
    await result(40, true);
    say({ kind: "changes", changes: [{ op: "set", path: ["zones", "nowhere", "name"], value: "x", old: "y" }], version: 41 });
    const failed = (await until((m) => m.kind === "failed")) as Extract<FromLive, { kind: "failed" }>;
    expect(failed.message).toMatch(/nowhere/);
    say({ kind: "changes", changes: [setpoint(p, 19)], version: 42 });
    expect((await result(42, true)).result.summary.zones[0].temperature.min).toBeCloseTo(19, 6);
  });

  it("says so when the weather year is stored elsewhere and was not sent", async () => {
    const p = short();
    p.weathers = { hill: { kind: "stored", name: "Hilltop 2019", hash: "0".repeat(16) } };
    p.weather = "hill";
    say({ kind: "open", project: p, version: 50, stored: NOTHING_STORED });
    const failed = (await until((m) => m.kind === "failed")) as Extract<FromLive, { kind: "failed" }>;
    expect(failed.message).toBe('The weather year "Hilltop 2019" is not at hand.');
  });

  it("answers an edit first by difference, then hourly, then exactly; and an undone one at once by the year it has kept", async () => {
    const p = boxProject({ glass: 0.3, gains: 200 });
    p.run.shortYear = 48;
    say({ kind: "open", project: p, version: 60, stored: NOTHING_STORED });
    const first = await result(60, true);
    await until((m) => m.kind === "ready" && m.version === 60);
    say({ kind: "changes", changes: [setpoint(p, 22)], version: 61 });
    const exact = await result(61, true);
    const order = posted.flatMap((m) =>
      m.version !== 61 ? [] : m.kind === "glimpse" ? ["difference"] : m.kind === "result" ? [m.exact ? "exact" : "hourly"] : [],
    );
    expect(order).toEqual(["difference", "hourly", "exact"]);
    const glimpse = posted.find((m) => m.kind === "glimpse") as Extract<FromLive, { kind: "glimpse" }>;
    const [was, about, is] = [first.result.summary, glimpse.summary, exact.result.summary].map((s) => s.loads.heating.total);
    expect(is).toBeGreaterThan(was);
    expect(Math.abs(about - is)).toBeLessThan(0.5 * (is - was));
    await until((m) => m.kind === "ready" && m.version === 61);
    say({ kind: "changes", changes: [{ ...setpoint(p, 22), value: 20, old: 22 }], version: 62 });
    const back = await result(62, true);
    expect(back.kept).toBe(true);
    expect(back.result.summary.fingerprint).toBe(first.result.summary.fingerprint);
    expect(back.result.series.map((s) => s.values)).toEqual(first.result.series.map((s) => s.values));
    // nothing was computed for it
    expect(posted.some((m) => m.version === 62 && (m.kind === "progress" || m.kind === "glimpse" || (m.kind === "result" && !m.exact)))).toBe(false);
  });
});
