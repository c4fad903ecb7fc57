import { readFileSync } from "node:fs";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { NO_FUEL, setChange, type Edit, type Project, type Summary } from "@arroyo/core";
import type { FromLive, ToLive } from "../live/messages.ts";
import { newOption, stageAddress, tally, useStore, type Live } from "./store.ts";

const clinic = JSON.parse(readFileSync(new URL("../../demo/clinic.json", import.meta.url), "utf8")) as Project;

/** Stands in for the browser's worker: keeps what it is told, and says what the test wants. */
class FakeWorker {
  static last: FakeWorker;
  readonly told: ToLive[] = [];
  ended = false;
  onmessage: ((e: { data: FromLive }) => void) | null = null;
  constructor() {
    FakeWorker.last = this;
  }
  postMessage(message: ToLive): void {
    this.told.push(message);
  }
  terminate(): void {
    this.ended = true;
  }
  say(data: FromLive): void {
    this.onmessage?.({ data });
  }
}

interface Saved {
  base: number;
  saveId: string;
  edits: Edit[];
}
let saves: Saved[] = [];
/** Whether each save asked to outlive the page. */
let kept: (boolean | undefined)[] = [];
let answer: (body: Saved) => { status: number; body: unknown };
/** What the server keeps of a project, and says to a copy. */
let serverHas: (where: string) => unknown;
let copies: { name: string }[] = [];
let copyAnswer: { status: number; body: unknown };

beforeEach(async () => {
  saves = [];
  kept = [];
  copies = [];
  copyAnswer = { status: 200, body: { id: "clinic-2" } };
  serverHas = () => ({ document: clinic, revision: 1, saves: [] });
  answer = (body) => ({ status: 200, body: { revision: body.base + 1 } });
  const stored = new Map<string, string>();
  vi.useFakeTimers();
  vi.stubGlobal("Worker", FakeWorker);
  vi.stubGlobal("localStorage", { getItem: (k: string) => stored.get(k) ?? null, setItem: (k: string, v: string) => stored.set(k, v) });
  vi.stubGlobal("fetch", (where: string, init?: { method?: string; body?: string; keepalive?: boolean }) => {
    if (init?.method !== "POST") return Promise.resolve(Response.json(serverHas(where)));
    if (where === "/api/projects") {
      copies.push(JSON.parse(init.body ?? "") as { name: string });
      return Promise.resolve(Response.json(copyAnswer.body, { status: copyAnswer.status }));
    }
    const body = JSON.parse(init.body ?? "") as Saved;
    saves.push(body);
    kept.push(init.keepalive);
    const a = answer(body);
    return Promise.resolve(Response.json(a.body, { status: a.status }));
  });
  await useStore.getState().open("clinic");
  await vi.advanceTimersByTimeAsync(0);
});
afterEach(async () => {
  // what is left over goes to the server before the next test opens the same project
  answer = (body) => ({ status: 200, body: { revision: body.base + 1 } });
  useStore.getState().close();
  await vi.advanceTimersByTimeAsync(10000);
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const state = () => useStore.getState();
const project = () => state().project as Project;
const infiltration = (value: number) => state().edit(`Infiltration ${value}`, [setChange(project(), ["spaceTypes", "exam", "inputs", "infiltration"], value)]);
const now = (): unknown => project().spaceTypes.exam.inputs.infiltration;

describe("an edit", () => {
  it("changes the document at once, tells the worker the change alone, and is saved after a pause", async () => {
    expect(infiltration(0.5)).toEqual([]);
    expect(now()).toBe(0.5);
    expect(FakeWorker.last.told.map((m) => m.kind)).toEqual(["open", "changes"]);
    expect(state().saved.state).toBe("waiting");
    await vi.advanceTimersByTimeAsync(2900);
    expect(saves).toHaveLength(0);
    await vi.advanceTimersByTimeAsync(200);
    expect(saves).toEqual([
      {
        base: 1,
        saveId: expect.stringMatching(/^[0-9a-f]{32}$/),
        edits: [{ name: "Infiltration 0.5", changes: [{ op: "set", path: ["spaceTypes", "exam", "inputs", "infiltration"], value: 0.5, old: 0.3 }] }],
      },
    ]);
    expect(state()).toMatchObject({ revision: 2, saved: { state: "saved" } });
  });
  it("that cannot be is refused with its sentence and leaves nothing behind", async () => {
    expect(infiltration(-1)[0].message).toBe("The value must be at least 0.");
    expect(now()).toBe(0.3);
    await vi.advanceTimersByTimeAsync(5000);
    expect(saves).toHaveLength(0);
    expect(FakeWorker.last.told).toHaveLength(1);
  });
  it("can be undone and redone, each step saved as an edit of its own", async () => {
    infiltration(0.5);
    infiltration(0.7);
    state().undo();
    expect(now()).toBe(0.5);
    state().undo();
    expect(now()).toBe(0.3);
    expect(JSON.stringify(project())).toBe(JSON.stringify(clinic));
    state().undo();
    state().redo();
    expect(now()).toBe(0.5);
    infiltration(0.9);
    expect(state().undone).toHaveLength(0);
    await state().flush();
    expect(saves[0].edits.map((e) => e.name)).toEqual([
      "Infiltration 0.5",
      "Infiltration 0.7",
      "Undo: Infiltration 0.7",
      "Undo: Infiltration 0.5",
      "Infiltration 0.5",
      "Infiltration 0.9",
    ]);
  });
  it("refused as too old keeps both states and saves nothing more until one is chosen", async () => {
    const theirs = { ...clinic, name: "Theirs" };
    answer = () => ({ status: 409, body: { message: "changed elsewhere", revision: 5, document: theirs } });
    infiltration(0.5);
    await state().flush();
    expect(state().saved).toMatchObject({ state: "refused", message: "changed elsewhere" });
    expect(now()).toBe(0.5);
    infiltration(0.6);
    await vi.advanceTimersByTimeAsync(5000);
    expect(saves).toHaveLength(1);
    await state().takeTheirs();
    expect(project().name).toBe("Theirs");
    expect(state()).toMatchObject({ revision: 5, saved: { state: "saved" } });
  });
  it("refused can be kept as a copy, which says why when it cannot be", async () => {
    answer = () => ({ status: 409, body: { message: "changed elsewhere", revision: 5, document: clinic } });
    infiltration(0.5);
    await state().flush();
    copyAnswer = { status: 413, body: { message: "Too large." } };
    expect(await state().keepMineAsCopy()).toEqual({ message: "The copy could not be stored. Too large." });
    expect(state().saved.state).toBe("refused");
    copyAnswer = { status: 200, body: { id: "clinic-2" } };
    expect(await state().keepMineAsCopy()).toEqual({ id: "clinic-2" });
    expect(copies[1].name).toBe(`${clinic.name} (my copy)`);
    expect(state().saved.state).toBe("saved");
  });
  it("refused can be saved on top of what is there where it still fits, and says why where it does not", async () => {
    answer = () => ({ status: 409, body: { message: "changed elsewhere", revision: 5, document: clinic } });
    infiltration(0.5);
    await state().flush();
    serverHas = () => ({
      document: { ...clinic, spaceTypes: { ...clinic.spaceTypes, exam: { ...clinic.spaceTypes.exam, inputs: { infiltration: 0.9 } } } },
      revision: 5,
    });
    expect(await state().saveOnTop()).toMatch(/no longer fits what is saved: spaceTypes\/exam\/inputs\/infiltration/);
    serverHas = () => ({ document: { ...clinic, note: "by another" }, revision: 5 });
    answer = (body) => ({ status: 200, body: { revision: body.base + 1 } });
    expect(await state().saveOnTop()).toBeNull();
    expect(project()).toMatchObject({ note: "by another" });
    expect(now()).toBe(0.5);
    await vi.advanceTimersByTimeAsync(10);
    expect(saves[saves.length - 1]).toMatchObject({ base: 5, edits: [{ name: "Infiltration 0.5" }] });
    expect(state()).toMatchObject({ revision: 6, saved: { state: "saved" } });
  });
  it("under a name as long as names may be is saved under one that fits", async () => {
    state().edit(`Rename to ${"n".repeat(200)}`, [setChange(project(), ["name"], "n".repeat(200))]);
    state().undo();
    await state().flush();
    for (const e of saves[0].edits) expect(e.name.length).toBeLessThanOrEqual(200);
    expect(state().saved.state).toBe("saved");
    // the name of the copy is cut, too
    answer = () => ({ status: 409, body: { message: "changed elsewhere", revision: 5, document: clinic } });
    state().redo();
    await state().flush();
    await state().keepMineAsCopy();
    expect(copies[0].name).toHaveLength(200);
    expect(copies[0].name).toMatch(/n \(my copy\)$/);
  });
  it("is saved even as the page is left, unless it is larger than browsers let such saves be", async () => {
    infiltration(0.2);
    await state().flush();
    const many = Object.fromEntries(
      Array.from({ length: 600 }, (_, i) => [
        `sensor_${i}`,
        { name: `Point ${i} of a long list`, space: "office", x: i / 100, y: 1, height: 0.8, share: 0.001 },
      ]),
    );
    state().edit(
      "Many points",
      Object.entries(many).map(([id, value]) => ({ op: "insert" as const, path: ["sensors", id], value })),
    );
    await state().flush();
    expect(kept).toEqual([true, false]);
    expect(saves[1].edits[0].changes).toHaveLength(600);
    expect(state().saved.state).toBe("saved");
  });
  it("made while the server is away is kept and saved later", async () => {
    vi.stubGlobal("fetch", () => Promise.reject(new Error("away")));
    infiltration(0.5);
    await state().flush();
    expect(state().saved).toMatchObject({ state: "retrying", message: expect.stringContaining("does not answer") });
    vi.stubGlobal("fetch", (_: string, init: { body: string }) => {
      saves.push(JSON.parse(init.body) as Saved);
      return Promise.resolve(Response.json({ revision: 2 }));
    });
    await vi.advanceTimersByTimeAsync(3500);
    expect(saves[0].edits).toHaveLength(1);
    expect(state().saved.state).toBe("saved");
  });
});

describe("two projects one after the other", () => {
  const other = { ...clinic, id: "other", name: "Other" };
  it("an edit of the first is saved to the first, whatever is opened meanwhile, and its answer moves nothing of the second", async () => {
    serverHas = (where) => (where.includes("other") ? { document: other, revision: 7, saves: [] } : { document: clinic, revision: 1, saves: [] });
    const posted: [string, number][] = [];
    const { fetch: plain } = globalThis;
    vi.stubGlobal("fetch", async (where: string, init?: { method?: string; body?: string }) => {
      if (init?.method === "POST") {
        posted.push([where, (JSON.parse(init.body ?? "") as Saved).base]);
        // a slow server: the second project is open long before the answer
        await new Promise((resolve) => setTimeout(resolve, 8000));
      }
      return plain(where, init as RequestInit);
    });
    infiltration(0.5);
    const opened = state().open("other");
    await vi.advanceTimersByTimeAsync(4500);
    await opened;
    expect(state()).toMatchObject({ revision: 7, saved: { state: "saved" } });
    expect(state().document?.name).toBe("Other");
    infiltration(0.7);
    await vi.advanceTimersByTimeAsync(20000);
    expect(posted).toEqual([
      ["/api/projects/clinic/revisions", 1],
      ["/api/projects/other/revisions", 7],
    ]);
    expect(state()).toMatchObject({ revision: 8, saved: { state: "saved" } });
  });
  it("the second opens only when the edits of the first are saved, where the server answers at all", async () => {
    const order: string[] = [];
    const { fetch: plain } = globalThis;
    vi.stubGlobal("fetch", (where: string, init?: RequestInit) => {
      order.push(`${init?.method ?? "GET"} ${where}`);
      return plain(where, init);
    });
    infiltration(0.5);
    serverHas = () => ({ document: other, revision: 1, saves: [] });
    await state().open("other");
    expect(order).toEqual(["POST /api/projects/clinic/revisions", "GET /api/projects/other", "GET /api/projects/other/pins"]);
  });
});

describe("with an option in view", () => {
  beforeEach(() => newOption());
  it("an edit goes to the option; the base stays", () => {
    infiltration(0.1);
    expect(now()).toBe(0.1);
    expect(state().document?.spaceTypes.exam.inputs.infiltration).toBe(0.3);
    expect(state().document?.options.option_1.changes).toHaveLength(1);
    state().look(null);
    expect(now()).toBe(0.3);
    state().look("option_1");
    expect(now()).toBe(0.1);
  });
  it("undo takes the change out of the option again, and then the option itself", () => {
    infiltration(0.1);
    state().undo();
    expect(now()).toBe(0.3);
    expect(state().document?.options.option_1.changes).toEqual([]);
    state().undo();
    expect(state()).toMatchObject({ option: null });
    expect(state().document?.options).toEqual({});
  });
  it("the address names stage, selection and option", () => {
    state().select([{ kind: "space", id: "surgery" }]);
    expect(decodeURIComponent(stageAddress("form"))).toBe("/p/clinic/form?on=space:surgery&option=option_1");
  });
  it("a name that every object has a meaning for is no option", () => {
    for (const name of ["constructor", "toString", "__proto__"]) state().look(name);
    expect(state().option).toBe("option_1");
    expect(project().spaceTypes.exam.inputs.infiltration).toBe(0.3);
  });
  it("making an option does not run the year again", () => {
    expect(FakeWorker.last.told.map((m) => m.kind)).toEqual(["open", "open"]);
    expect(FakeWorker.last.told[1]).toMatchObject({ version: 1 });
  });
});

describe("figures", () => {
  const summary = (intensity: number): Summary => ({ energy: { intensity } }) as Summary;
  const result = (version: number, exact: boolean, intensity: number): FromLive => ({
    kind: "result",
    version,
    exact,
    seconds: 1,
    result: { summary: summary(intensity), series: [], fuel: NO_FUEL },
  });
  it("are the estimate until the exact ones come, and old ones until then", () => {
    infiltration(0.5);
    const { version } = state().live;
    FakeWorker.last.say(result(version, false, 101));
    expect(tally(state().live)).toMatchObject({ mark: "estimate", summary: { energy: { intensity: 101 } } });
    FakeWorker.last.say(result(version, true, 100));
    expect(tally(state().live)).toMatchObject({ mark: "exact", summary: { energy: { intensity: 100 } } });
    infiltration(0.6);
    expect(tally(state().live).mark).toBe("old");
  });
  it("of an older document are not taken", () => {
    infiltration(0.5);
    infiltration(0.6);
    FakeWorker.last.say(result(1, true, 100));
    expect(tally(state().live as Live).summary).toBeNull();
  });
  it("are pinned on the server, and those it has are shown when the project opens", async () => {
    const sent: unknown[] = [];
    const { fetch: plain } = globalThis;
    let answers = true;
    vi.stubGlobal("fetch", (where: string, init?: { method?: string; body?: string }) => {
      if (!where.endsWith("/pins")) return plain(where, init);
      if (!answers) return Promise.reject(new Error("away"));
      if (init?.method !== "PUT") return Promise.resolve(Response.json({ pins: [{ name: "kept", summary: { energy: { intensity: 90 } } }] }));
      sent.push(JSON.parse(init.body ?? ""));
      return Promise.resolve(Response.json({ kept: true }));
    });
    state().close();
    await state().open("clinic");
    await vi.advanceTimersByTimeAsync(0);
    expect(state().pins.map((p) => p.name)).toEqual(["kept"]);
    FakeWorker.last.say(result(state().live.version, true, 100));
    state().pin();
    await vi.advanceTimersByTimeAsync(0);
    expect(sent).toHaveLength(1);
    expect(sent[0]).toMatchObject({ pins: [{ name: "kept" }, { name: "pin 2", summary: { energy: { intensity: 100 } } }] });
    expect(state().pinsKept).toBe(true);
    answers = false;
    state().unpin();
    await vi.advanceTimersByTimeAsync(0);
    // shown as it is here, and told that the server has not got it
    expect(state().pins).toHaveLength(1);
    expect(state().pinsKept).toBe(false);
  });
  it("are pinned only when they are exact, at most eight in order", () => {
    state().pin();
    expect(state().pins).toHaveLength(0);
    FakeWorker.last.say(result(0, true, 100));
    for (let i = 0; i < 10; i++) state().pin();
    expect(state().pins).toHaveLength(8);
    state().unpin();
    expect(state().pins).toHaveLength(7);
  });
  it("give way to the reason when the year cannot run", () => {
    FakeWorker.last.say({
      kind: "blocked",
      version: 0,
      problems: [{ code: "x", severity: "error", path: "", message: "A window reaches past its wall.", stage: "form" }],
    });
    expect(state().live.message).toBe("The year cannot run: A window reaches past its wall.");
  });
});
