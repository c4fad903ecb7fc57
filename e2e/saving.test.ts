import http from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, describe, expect, it } from "vitest";
import { setChange, type Project } from "../core/src/index.ts";
import { address, api, app, browser, database, go, reopenBrowser, startDatabase, type, untilSaved, useApplication } from "./harness.ts";

/** Rounds of everything that ends something by force: `npm run torture` asks for more. */
const ROUNDS = Number(process.env.TORTURE ?? 1);
useApplication({ durable: true });

const LAYER = "Thickness of Mineral wool";
const AT = "/p/clinic/fabric?on=assembly:wall_brick";
interface Stored {
  readonly document: Project;
  readonly revision: number;
}
const stored = (): Promise<Stored> => api<Stored>("/api/projects/clinic");
const thickness = (d: Project): number => {
  const layer = d.assemblies.wall_brick.layers.find((l) => l.id === "insulation");
  return layer?.kind === "solid" ? layer.thickness : NaN;
};
const shown = async (): Promise<string> => (await (await browser.find(`input[aria-label="${LAYER}"]`)).getAttribute("value")) ?? "";
const state = (test: (t: string) => boolean): Promise<string> => browser.text('[data-testid="saved"]', test);
let last = 60;
/** Types a thickness nobody typed before; answers it in m. */
async function edit(): Promise<number> {
  await type(LAYER, String(++last));
  return last / 1000;
}
/** The server fails for saves alone, until this page is gone or `__failing` is taken back. */
const failSaves = (): Promise<unknown> =>
  browser.driver.executeScript(`
    const plain = window.fetch;
    window.__failing = true;
    window.fetch = (where, init) => (window.__failing && String(where).includes("/revisions") ? Promise.resolve(new Response('{"message":"It failed."}', { status: 500 })) : plain(where, init));`);
const saved = (m: number): Promise<Stored> => untilSaved<Stored>("/api/projects/clinic", (r) => Math.abs(thickness(r.document) - m) < 1e-9);

describe("an edit on its way to the server", () => {
  it("is told as not saved while the server fails, tried again by hand, and shown again by a reload", async () => {
    await go(AT);
    await browser.find(`input[aria-label="${LAYER}"]`);
    await failSaves();
    const first = await edit();
    await state((t) => t === "Not saved yet");
    expect(thickness((await stored()).document)).not.toBeCloseTo(first, 9);
    await browser.button("Try again");
    // at once: left for a moment it would be tried again by itself, and the button be gone
    await browser.driver.executeScript(
      `window.__failing = false;
       [...document.querySelectorAll("button")].find((b) => b.innerText.trim() === "Try again")?.click();`,
    );
    await state((t) => t.startsWith("Saved"));
    await saved(first);
    // one that never reaches the server before the page is gone
    await browser.driver.executeScript("window.__failing = true");
    const second = await edit();
    await state((t) => t === "Not saved yet");
    await browser.driver.navigate().refresh();
    expect(await shown()).toMatch(new RegExp(`^${last}`));
    await saved(second);
  });
  it("that meets another's is told with its ways on, and saved on top where both fit", async () => {
    await go(AT);
    await browser.find(`input[aria-label="${LAYER}"]`);
    const { document, revision } = await stored();
    const other = { base: revision, edits: [{ name: "Note", changes: [setChange(document, ["note"], `changed at ${revision}`)] }] };
    const answer = await fetch(`${address()}/api/projects/clinic/revisions`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(other),
    });
    expect(answer.status).toBe(200);
    const mine = await edit();
    expect(await browser.text('[role="alert"]', (t) => t.includes("changed elsewhere"))).toContain("Save mine on top of it");
    await (await browser.button("Save mine on top of it")).click();
    const both = await saved(mine);
    expect(both.document.note).toBe(`changed at ${revision}`);
    await state((t) => t.startsWith("Saved"));
  });
  it("is saved to its own project when another is opened at once", async () => {
    await go(AT);
    await browser.find(`input[aria-label="${LAYER}"]`);
    const before = await api<Stored>("/api/projects/library");
    const mine = await edit();
    await (await browser.find('header button[aria-label="Arroyo, all projects"]')).click();
    // the list is drawn anew as it comes
    await browser.driver.wait(
      () => browser.driver.executeScript(`const a = document.querySelector('a[href="/p/library/form"]'); if (a) a.click(); return !!a;`),
      60000,
    );
    await browser.driver.wait(async () => (await browser.driver.getCurrentUrl()).includes("/p/library/form"), 60000);
    await saved(mine);
    expect((await api<Stored>("/api/projects/library")).revision).toBe(before.revision);
  });
});

describe("a crash in the middle of a save", () => {
  for (let round = 1; round <= ROUNDS; round++) {
    it(`of the server loses no edit (${round})`, async () => {
      await go(AT);
      await browser.find(`input[aria-label="${LAYER}"]`);
      const mine = await edit();
      // about when the save is sent, a little later in every round
      await browser.driver.sleep(2700 + ((40 * round) % 800));
      app.web.process.kill("SIGKILL");
      await saved(mine);
      await state((t) => t.startsWith("Saved"));
    });
    it(`of the database loses no edit, and neither server nor runner (${round})`, async () => {
      await go(AT);
      await browser.find(`input[aria-label="${LAYER}"]`);
      const runner = app.runner.process.pid;
      const mine = await edit();
      await browser.driver.sleep(2700 + ((40 * round) % 800));
      await database.crash();
      await browser.driver.sleep(3000);
      await startDatabase(true);
      await saved(mine);
      await state((t) => t.startsWith("Saved"));
      expect(app.runner.process.pid).toBe(runner);
    });
    it(`of the browser loses no edit (${round})`, async () => {
      await go(AT);
      await browser.find(`input[aria-label="${LAYER}"]`);
      // so that it is the browser's own storage that brings the edit back, however slow the machine is
      await failSaves();
      const mine = await edit();
      // the browser writes what it keeps a moment after the page has told it to
      await browser.driver.sleep(500);
      await browser.crash();
      expect(thickness((await stored()).document)).not.toBeCloseTo(mine, 9);
      await reopenBrowser();
      await go(AT);
      expect(await shown()).toMatch(new RegExp(`^${last}`));
      await saved(mine);
    });
    it(`of database and runner in the middle of a run loses no run (${round})`, async () => {
      const { document, revision } = await api<Stored>("/api/projects/library");
      const changes = [
        setChange(document, ["site", "elevation"], 1500 + last++),
        setChange(document, ["run", "stepsPerHour"], document.run.stepsPerHour === 12 ? 6 : 12),
      ];
      const headers = { "content-type": "application/json" };
      await fetch(`${address()}/api/projects/library/revisions`, {
        method: "POST",
        headers,
        body: JSON.stringify({ base: revision, edits: [{ name: "x", changes }] }),
      });
      const { hash } = (await (await fetch(`${address()}/api/projects/library/runs`, { method: "POST" })).json()) as { hash: string };
      type Runs = { runs: { hash: string; status: string; progress: number }[] };
      const run = (r: Runs) => r.runs.find((x) => x.hash === hash);
      await untilSaved<Runs>("/api/projects/library/runs", (r) => (run(r)?.progress ?? 0) > 0);
      await database.crash();
      app.runner.process.kill("SIGKILL");
      await browser.driver.sleep(1500);
      await startDatabase(true);
      const done = await untilSaved<Runs>("/api/projects/library/runs", (r) => run(r)?.status === "done");
      expect(done.runs.filter((r) => r.hash === hash)).toHaveLength(1);
    });
  }
});

describe("a page of another origin", () => {
  let asked = "";
  const page = http.createServer((request, response) => {
    asked += request.url;
    response.setHeader("content-type", "text/html");
    response.end("<title>elsewhere</title>");
  });
  afterAll(() => page.close());
  it("can neither change nor read anything here", async () => {
    await new Promise<void>((resolve) => page.listen(0, "127.0.0.1", resolve));
    await browser.driver.get(`http://127.0.0.1:${(page.address() as AddressInfo).port}/`);
    expect(asked).toContain("/");
    const before = await untilSaved<{ id: string }[]>("/api/projects", () => true);
    const tried = await browser.driver.executeAsyncScript<string[]>(
      `const [base, done] = arguments;
       const ask = (path, init) => fetch(base + path, init).then((r) => r.type + " " + r.status, () => "refused");
       Promise.all([
         ask("/api/projects", { method: "POST", mode: "no-cors", body: "{}" }),
         ask("/api/projects/clinic/runs", { method: "POST", mode: "no-cors" }),
         ask("/api/projects/clinic", { method: "DELETE" }),
         ask("/api/projects"),
       ]).then(done);`,
      address(),
    );
    // an opaque answer tells a page nothing, not even whether it was a refusal
    expect(tried.slice(0, 2).every((t) => /^(opaque 0|refused)$/.test(t))).toBe(true);
    expect(tried.slice(2)).toEqual(["refused", "refused"]);
    expect(await api<{ id: string }[]>("/api/projects")).toEqual(before);
    expect((await api<{ runs: unknown[] }>("/api/projects/clinic/runs")).runs).toEqual([]);
  });
  it("that points its own name at this machine is not answered", async () => {
    const { port } = new URL(address());
    const status = await new Promise<number>((resolve, reject) =>
      http
        .get({ host: "127.0.0.1", port, path: "/api/projects", headers: { host: `elsewhere.example:${port}` } }, (r) => resolve(r.statusCode ?? 0))
        .on("error", reject),
    );
    expect(status).toBe(421);
  });
});
