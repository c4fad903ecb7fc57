import { readFileSync } from "node:fs";
import path from "node:path";
import { By, until } from "selenium-webdriver";
import { beforeAll, describe, expect, it } from "vitest";
import type { Project } from "../core/src/index.ts";
// @ts-expect-error plain JavaScript that the start scripts use before anything is installed
import { root } from "../scripts/lib/machine.mjs";
import { address, browser, choose, go, push, type, undo, untilSaved, useApplication, violations } from "./harness.ts";

useApplication();

let id = "";
const saved = async (test: (p: Project) => boolean): Promise<Project> =>
  (await untilSaved<{ document: Project }>(`/api/projects/${id}`, ({ document }) => test(document))).document;
const click = async (xpath: string): Promise<void> => (await browser.driver.wait(until.elementLocated(By.xpath(xpath)), 60000, `no ${xpath}`)).click();
const view = (name: string): Promise<void> => click(`//button[@aria-pressed][normalize-space(.)="${name}"]`);
/** What the table of paths tells, once the year of the model as it is now is there. */
const byPath = async (): Promise<string> => {
  await go(`/p/${id}/results?view=airflow`);
  await browser.exact();
  await view("By path");
  return browser.text('table[aria-label="What each opening did"]', (t) => /Low louvres south/.test(t));
};

beforeAll(async () => {
  // the hall before its network, by the hour, so that its year is run in seconds
  const { airNetwork: _, ...hall } = JSON.parse(readFileSync(path.join(root as string, "demo/hall.json"), "utf8")) as Project;
  const body = JSON.stringify({ ...hall, id: "airy", name: "Hall, airy", options: {}, run: { ...hall.run, stepsPerHour: 1 } });
  const answer = await fetch(`${address()}/api/projects`, { method: "POST", headers: { "content-type": "application/json" }, body });
  id = ((await answer.json()) as { id: string }).id;
});

describe("the network of the hall", () => {
  it("is made from what is drawn, taken back, and made again; a window that opens later stands out and is connected", async () => {
    await go(`/p/${id}/form`);
    await view("Airflow");
    await push("Make the network");
    const made = await saved((p) => p.airNetwork !== undefined);
    expect(Object.keys(made.airNetwork?.links ?? {})).toHaveLength(11);
    expect(made.airNetwork?.zones).toHaveLength(5);
    await undo(1);
    await saved((p) => p.airNetwork === undefined);
    await push("Redo");
    await saved((p) => p.airNetwork !== undefined);
    expect(await violations()).toEqual([]);
    await click('//aside//button[span[normalize-space(.)="West strip"]]');
    await type("Can be opened", "30");
    expect(await browser.text('[data-testid="unconnected"]', (t) => t !== "")).toMatch(/West strip.* is not connected/);
    await push("Connect it");
    expect((await saved((p) => Object.hasOwn(p.airNetwork?.links ?? {}, "west_strip"))).airNetwork?.links.west_strip).toMatchObject({ type: "windows" });
  });
  it("runs with pressures of the formula and of a flow study, which differ on its façades and through its openings", async () => {
    const formula = await byPath();
    await go(`/p/${id}/form`);
    await view("Airflow");
    await view("Wind pressures");
    await choose("Grid of the study", "first look");
    await choose("Directions of the study", "2 directions");
    await push("Run the study");
    await browser.text('[data-testid="flow-study"]', (t) => t.startsWith("Running"), 60);
    expect(await browser.text('[data-testid="flow-study"]', (t) => t.startsWith("Done"), 240)).toMatch(
      /2 directions, cells of 4.00 m; against cells half as large again/,
    );
    await push("Take its coefficients");
    const taken = await saved((p) => p.airNetwork?.pressures === "flow study");
    const points = taken.airNetwork?.study?.points ?? [];
    expect(points.length).toBeGreaterThan(80);
    // wind from the south presses on the south wall and draws at the north one
    const mean = (host: string): number => {
      const own = points.filter((p) => p.name.startsWith(`${host} `));
      return own.reduce((s, p) => s + p.coefficients[1], 0) / own.length;
    };
    expect(mean("hall/s")).toBeGreaterThan(0.2);
    expect(mean("hall/n")).toBeLessThan(-0.1);
    expect(await browser.text('[data-testid="facade-difference"]', (t) => t.includes("by the flow study"))).toMatch(/difference/);
    expect(await violations()).toEqual([]);
    const study = await byPath();
    expect(study).not.toBe(formula);
  }, 600000);
  it("is cut into stacked zones in one action, and put back", async () => {
    await go(`/p/${id}/form?on=space:hall`);
    await push("Cut it into stacked zones");
    const cut = await saved((p) => Object.keys(p.spaces).length === 7);
    expect(Object.values(cut.airNetwork?.links ?? {}).filter((l) => l.kind === "floor opening")).toHaveLength(2);
    await undo(1);
    await saved((p) => Object.keys(p.spaces).length === 5);
  });
});

describe("the hall as it ships", () => {
  it("shows its flows at an hour, and has fewer hours above 26 °C with windows open at night", async () => {
    await go("/p/hall/results?view=airflow");
    await browser.text('[data-testid="air-hour"]', (t) => t.includes("widest arrow"), 120);
    expect(await violations()).toEqual([]);
    await view("By zone");
    expect(await browser.text('[data-testid="tall-room"]', (t) => t !== "", 120)).toContain("taller than 6 m");
    await view("Strategies compared");
    const cells = '//table[@aria-label="Strategies compared"]//tr[td[normalize-space(.)="Climbing hall: hours above 26 °C"]]/td';
    const numbers = async (): Promise<number[]> => {
      const found = await browser.driver.findElements(By.xpath(cells));
      const texts = await Promise.all(found.slice(1).map((c) => c.getText()));
      return texts.map((t) => Number(t.replace(/[^0-9]/g, "") || NaN));
    };
    await browser.driver.wait(async () => (await numbers()).length === 3 && (await numbers()).every((n) => n === n), 240000, "no years of the strategies");
    const [base, , night] = await numbers();
    expect(night).toBeLessThan(base);
    expect(base).toBeGreaterThan(100);
  }, 400000);
});
