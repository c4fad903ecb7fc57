import { mkdtempSync, rmSync } from "node:fs";
import type { ChildProcess } from "node:child_process";
import os from "node:os";
import path from "node:path";
import axe from "axe-core";
import { By, Key, type WebDriver } from "selenium-webdriver";
import { afterAll, beforeAll } from "vitest";
// @ts-expect-error plain JavaScript that the start scripts use before anything is installed
import { freePort, startApplication, startPostgres } from "../scripts/lib/machine.mjs";
// @ts-expect-error plain JavaScript, see above
import { openBrowser } from "../scripts/lib/browser.mjs";

export interface Browser {
  readonly driver: WebDriver;
  text(css: string, test: (t: string) => boolean, seconds?: number): Promise<string>;
  find(css: string, seconds?: number): ReturnType<WebDriver["findElement"]>;
  button(words: string, seconds?: number): ReturnType<WebDriver["findElement"]>;
  exact(): Promise<void>;
  readonly profile: string;
  crash(): Promise<void>;
  close(): Promise<void>;
}
export let browser: Browser;
interface Child {
  readonly process: ChildProcess;
  kill(): Promise<void>;
}
export let app: { address: string; web: Child; runner: Child };
export let database: { url: string; crash(): Promise<void>; stop(): void };
/** Starts the database where it was, or anew. `durable`: what is committed outlives a crash. */
export const startDatabase = async (durable: boolean): Promise<typeof database> =>
  (database = (await startPostgres({ name: "e2e", throwaway: true, durable })) as typeof database);
/** A browser in place of the one that is gone, on what that one kept. */
export const reopenBrowser = async (): Promise<void> => {
  browser = (await openBrowser({ profile: browser.profile })) as Browser;
};
export const scratch = mkdtempSync(path.join(os.tmpdir(), "arroyo-e2e-"));
export const INTENSITY = '[data-testid="tally-intensity"]';

/** Starts a database, the application and a browser for the tests of one file, and ends them. */
export function useApplication({ durable = false } = {}): void {
  beforeAll(async () => {
    await startDatabase(durable);
    app = (await startApplication({ url: database.url, port: await freePort(), quiet: true })) as typeof app;
    browser = (await openBrowser()) as Browser;
  });
  afterAll(async () => {
    await browser?.close();
    await Promise.all([app?.web.kill(), app?.runner.kill()]);
    database?.stop();
    rmSync(scratch, { recursive: true, force: true });
  });
}

export const address = (): string => app.address;
export const go = (where: string): Promise<void> => browser.driver.get(app.address + where);
/** An answer of the server. @throws where it refuses, as it does while the database is away */
export const api = async <T>(where: string): Promise<T> => {
  const answer = await fetch(app.address + where);
  if (!answer.ok) throw new Error(`${where}: ${answer.status} ${await answer.text()}`);
  return (await answer.json()) as T;
};
/** Asks again until the saved state passes a test. */
export async function untilSaved<T>(where: string, test: (t: T) => boolean): Promise<T> {
  for (let i = 0; i < 600; i++) {
    // a server that is being started again answers in a moment
    const found = await api<T>(where).catch(() => null);
    if (found !== null && test(found)) return found;
    await browser.driver.sleep(200);
  }
  throw new Error(`${where} was not saved as expected`);
}
/** Types over a field and presses Enter. */
export async function type(label: string, value: string): Promise<void> {
  const field = await browser.find(`input[aria-label="${label}"]`);
  await field.click();
  await field.sendKeys(Key.chord(Key.CONTROL, "a"), value, Key.ENTER);
}
/** Presses a button by its label. */
export const press = async (label: string): Promise<void> => (await browser.find(`button[aria-label="${label}"]`)).click();
/** Presses a button by its words. */
export const push = async (words: string): Promise<void> => (await browser.button(words)).click();
/** Chooses in a list by the words shown, or those they begin with. */
export async function choose(label: string, words: string): Promise<void> {
  await browser.driver.wait(
    async () => {
      try {
        const list = await browser.find(`select[aria-label="${label}"]`);
        const options = await list.findElements(By.css("option"));
        const texts = await Promise.all(options.map((o) => o.getText()));
        const at = texts.includes(words) ? texts.indexOf(words) : texts.findIndex((t) => t.startsWith(words));
        if (at >= 0) await options[at].click();
        return at >= 0;
      } catch (error) {
        // the list was drawn anew meanwhile
        if (error instanceof Error && error.name === "StaleElementReferenceError") return false;
        throw error;
      }
    },
    60000,
    `no "${words}" in ${label}`,
  );
}
/** Takes back so many steps. */
export async function undo(times: number): Promise<void> {
  for (let i = 0; i < times; i++) await push("Undo");
}
/** What axe finds serious or critical on the screen as it stands. */
export async function violations(): Promise<readonly { readonly id: string; readonly nodes: readonly { readonly html: string }[] }[]> {
  await browser.driver.executeScript(axe.source);
  const found = await browser.driver.executeAsyncScript<{ id: string; impact: string; nodes: { html: string }[] }[]>(
    "const done = arguments[arguments.length - 1]; axe.run(document, { resultTypes: ['violations'] }).then((r) => done(r.violations.map((v) => ({ id: v.id, impact: v.impact, nodes: v.nodes.slice(0, 3).map((n) => ({ html: n.html.slice(0, 200) })) }))))",
  );
  return found.filter((v) => v.impact === "serious" || v.impact === "critical");
}
