import { readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { By, Key } from "selenium-webdriver";
import { describe, expect, it } from "vitest";
import { api, browser, choose, go, press, push, scratch, type, undo, untilSaved, useApplication, violations } from "./harness.ts";

useApplication();

interface Document {
  openings: { south: { ratio: number } };
  assemblies: { wall_brick: { layers: { id: string; thickness: number }[] } };
  kits: { standard: { glazing: string } };
  spaces: Record<string, { inputs: { infiltration?: number } }>;
  studies?: Record<string, { axes: { name: string; levels: unknown[] }[] }>;
  options: Record<string, { name: string; changes: unknown[]; on?: string }>;
  measures?: { name: string }[];
  weather: string;
}
const saved = (test: (d: Document) => boolean): Promise<{ document: Document }> =>
  untilSaved<{ document: Document }>("/api/projects/clinic", (d) => test(d.document));

/** Looks an input up and takes it as an axis. */
async function vary(words: string): Promise<void> {
  const field = await browser.find('input[aria-label^="Search: Vary"]');
  await field.click();
  await field.sendKeys(words);
  await browser.driver.wait(
    async () => (await browser.driver.findElements(By.css('[role="listbox"] [role="option"]'))).length > 0,
    20000,
    `nothing is found by "${words}"`,
  );
  await field.sendKeys(Key.ENTER);
}
const left = (test: (n: number) => boolean, seconds = 60): Promise<string> =>
  browser.text('[data-testid="runs-left"]', (t) => /^\d+$/.test(t) && test(Number(t)), seconds);

/** Where an axis stands on the canvas, by its heading, px from its top left corner; and the height of the canvas. */
async function axisAt(name: string): Promise<{ x: number; height: number }> {
  const found = await browser.driver.executeScript<{ x: number; height: number } | null>(
    `const host = document.querySelector('[data-testid="axes"], #axes'); const c = host.querySelector('canvas').getBoundingClientRect();
     const h = [...host.querySelectorAll('button')].find((b) => b.textContent.startsWith(arguments[0])); if (!h) return null;
     const b = h.getBoundingClientRect(); return { x: b.left + b.width / 2 - c.left, height: c.height };`,
    name,
  );
  if (!found) throw new Error(`there is no axis "${name}"`);
  return found;
}
/** Draws a stretch on an axis, from a share of its height to another, from the top. */
async function draw(name: string, from: number, to: number): Promise<void> {
  const { x, height } = await axisAt(name);
  const canvas = await browser.find('[data-testid="axes"] canvas, #axes canvas');
  const { width } = await canvas.getRect();
  const y = (share: number): number => Math.round(50 + share * (height - 70) - height / 2);
  await browser.driver
    .actions()
    .move({ origin: canvas, x: Math.round(x - width / 2), y: y(from) })
    .press()
    .move({ origin: canvas, x: Math.round(x - width / 2), y: y((from + to) / 2) })
    .move({ origin: canvas, x: Math.round(x - width / 2), y: y(to) })
    .release()
    .perform();
}

describe("a study of 288 runs of the clinic", () => {
  it("is composed of inputs found by search and of one picked up where it stands", async () => {
    await go("/p/clinic/options");
    await browser.exact();
    await push("New study");
    await browser.text('main[aria-label="Compose a study"]', (t) => t.includes("It has no axis yet"));
    await vary("south windows share of wall");
    await browser.text('[data-testid="study-count"]', (t) => t.startsWith("3 runs"));
    await push("Vary another input");
    await vary("infiltration, all spaces");
    await type("Infiltration, all spaces: levels", "4");
    await browser.text('[data-testid="study-count"]', (t) => t.startsWith("12 runs"));
    await push("Vary another input");
    await vary("kit standard windows");
    await browser.text('[data-testid="study-count"]', (t) => t.startsWith("48 runs"));
    // a value out of its limits is told with its place, and nothing can be run
    await type("South windows, share of wall, level 3", "140 %");
    await browser.text('main[aria-label="Compose a study"]', (t) => t.includes("must be at most"));
    await type("South windows, share of wall, level 3", "60 %");
    await browser.text('main[aria-label="Compose a study"]', (t) => !t.includes("must be at most"));
    // picked up where it stands
    await go("/p/clinic/use?on=space:waiting");
    const row = await browser.driver.wait(async () => {
      const [found] = await browser.driver.findElements(
        By.xpath('//*[normalize-space(.)="Heating set-point"]/ancestor::*[.//button[normalize-space(.)="vary this"]][1]'),
      );
      return found ?? null;
    }, 60000);
    if (!row) throw new Error("the set-point cannot be picked up");
    await browser.driver.executeScript("arguments[0].querySelector('.actions button:last-child').click()", row);
    await browser.driver.wait(
      async () => (await row.getText()).includes("show") || (await browser.driver.findElements(By.xpath('//button[contains(., ", show")]'))).length > 0,
      20000,
    );
    await browser.driver.executeScript("[...document.querySelectorAll('button')].find((b) => b.textContent.includes(', show')).click()");
    await browser.text('[data-testid="study-count"]', (t) => /^\d+ runs/.test(t) && !t.startsWith("48 "));
    const { document } = await saved((d) => Object.values(d.studies ?? {})[0]?.axes.length === 4);
    const axes = Object.values(document.studies ?? {})[0]?.axes ?? [];
    expect(axes.map((a) => a.levels.length).slice(0, 3)).toEqual([3, 4, 4]);
    // with the insulation of the walls in three levels and two set-points there are 288
    const name = axes[3].name;
    await type(`${name}: levels`, "2");
    await browser.text('[data-testid="study-count"]', (t) => t.startsWith("96 runs"));
    await push("Vary another input");
    await vary("brick cavity wall mineral wool thickness");
    expect(await browser.text('[data-testid="study-count"]', (t) => t.startsWith("288 runs"))).toContain("on ");
  });

  it("is watched while it runs, and read as currents", async () => {
    await push("Run the study");
    await browser.text('[data-testid="study-progress"]', (t) => /of 293 runs/.test(t), 240);
    await browser.text('[data-testid="study-progress"]', (t) => /a second on/.test(t), 240);
    await left((n) => n === 289, 900);
    await browser.driver.wait(async () => (await browser.driver.findElements(By.css('[data-testid="study-progress"]'))).length === 0, 60000, "it goes on");
    expect(await browser.text('main[aria-label="Study 1"]', (t) => t.includes("short year ±"))).toContain("12 days by the hour");
  }, 1200000);

  it("is brushed down to one run, which is adopted and taken back", async () => {
    await draw("Site energy", 0.6, 1);
    const some = Number(await left((n) => n < 289 && n > 0));
    expect(some).toBeLessThan(200);
    await (await browser.driver.findElement(By.css('button[title="Take this limit away"]'))).click();
    await left((n) => n === 289);
    // one level of every input: the first of three, of four, of two
    await draw("South windows", 0.7, 1);
    await left((n) => n === 96);
    await draw("Infiltration", 0.8, 1);
    await left((n) => n === 24);
    await draw("Brick cavity wall", 0, 0.3);
    await left((n) => n === 8);
    await draw("Kit Standard", 0, 0.2);
    await left((n) => n === 2);
    await draw("Heating set-point", 0, 0.4);
    await left((n) => n === 1);
    await push("Runs as a sheet");
    await (await browser.find('table[aria-label="Runs"] tbody tr')).click();
    const chosen = await browser.text('[data-testid="chosen-run"]', (t) => t.includes("Adopt into the model"));
    expect(chosen).toMatch(/share of wall\s+15/);
    const before = await api<{ document: Document }>("/api/projects/clinic");
    await push("Adopt into the model");
    const { document } = await saved((d) => d.openings.south.ratio === 0.15);
    expect(document.kits.standard.glazing).not.toBe(before.document.kits.standard.glazing);
    expect(document.spaces.waiting.inputs.infiltration).toBeCloseTo(0.1, 6);
    expect(document.weather).toBe(before.document.weather);
    // the base is another now: told, and the runs stay
    await browser.text('main[aria-label="Study 1"]', (t) => t.includes("The base was changed since it was run"));
    await undo(1);
    const back = await saved((d) => d.openings.south.ratio === before.document.openings.south.ratio);
    expect(back.document.kits.standard.glazing).toBe(before.document.kits.standard.glazing);
    expect(back.document.spaces.waiting.inputs).toEqual(before.document.spaces.waiting.inputs);
    // as an option instead
    await push("As an option");
    const { document: with_ } = await saved((d) => Object.keys(d.options).length === 1);
    expect(Object.values(with_.options)[0].changes.length).toBeGreaterThan(4);
    expect(with_.openings.south.ratio).toBe(before.document.openings.south.ratio);
    await undo(1);
    await saved((d) => Object.keys(d.options).length === 0);
  });

  it("becomes a staircase, whose measures are put in another order and taken back", async () => {
    await push("As a staircase");
    const names = async (): Promise<string[]> =>
      Promise.all(
        (await browser.driver.findElements(By.css('input[aria-label^="Name of measure"]'))).map((e) =>
          e.getAttribute("value").then((v) => (v ?? "").replaceAll("\u00a0", " ")),
        ),
      );
    await browser.driver.wait(async () => (await names()).length === 5, 30000, "there are no five measures");
    // two are enough to tell how they act on each other
    for (let n = 5; n > 2; n--) {
      await (await browser.driver.findElements(By.css('button[aria-label^="Take out "]')))[n - 1].click();
      await browser.driver.wait(async () => (await names()).length === n - 1, 20000);
    }
    const [first, second] = await names();
    const rows = async (): Promise<string[][]> => {
      const found = await browser.driver.findElements(By.css('table[aria-label="What each measure does"] tbody tr'));
      return Promise.all(found.map(async (r) => (await Promise.all((await r.findElements(By.css("td"))).map((c) => c.getText()))).map((t) => t.trim())));
    };
    const number = (t: string): number => Number(t.replace("−", "-").replace("+", "").replace("±", ""));
    const whole = async (order: readonly string[]): Promise<string[][]> => {
      let found: string[][] = [];
      await browser.driver.wait(
        async () => {
          found = await rows().catch(() => []);
          return found.length === 3 && found.slice(1).every((r, i) => r[0] === order[i] && r.slice(1).every((c) => c !== "—"));
        },
        240000,
        "the years are not there",
      );
      return found;
    };
    const before = await whole([first, second]);
    const steps = before.slice(1).reduce((t, r) => t + number(r[2]), 0);
    expect(Math.abs(steps - (number(before[2][5]) - number(before[0][5])))).toBeLessThan(0.25);
    await (await browser.find('button[aria-label^="Move "]')).sendKeys(Key.ARROW_DOWN);
    const after = await whole([second, first]);
    // alone and last of all are what they were, whatever the order
    expect(after[2].slice(1, 2)).toEqual(before[1].slice(1, 2));
    expect(after[2][3]).toBe(before[1][3]);
    expect(after[2][5]).toBe(before[2][5]);
    await undo(1);
    await whole([first, second]);
  });

  it("is handed over as one page that is brushed from disk", async () => {
    await browser.driver.executeScript(
      "window.kept = []; const make = URL.createObjectURL; URL.createObjectURL = (b) => { b.text().then((t) => window.kept.push(t)); return make(b); };",
    );
    await (await browser.driver.findElement(By.xpath('//aside//button[span[normalize-space(.)="Study 1"]]'))).click();
    await left((n) => n > 0);
    await push("HTML to hand over");
    const page = await browser.driver.wait(
      () => browser.driver.executeScript<string | null>("return window.kept.find((t) => t.startsWith('<!doctype html>')) ?? null"),
      30000,
    );
    if (!page) throw new Error("no page was made");
    const file = path.join(scratch, "study.html");
    writeFileSync(file, page);
    expect(readFileSync(file, "utf8")).not.toMatch(/https?:\/\//);
    await browser.driver.get(`file://${file}`);
    await browser.text("#left", (t) => t === "289");
    await draw("South windows", 0.7, 1);
    await browser.text("#left", (t) => t === "96");
    await browser.text("#stretches", (t) => t.includes("South windows"));
    await draw("Site energy", 0.5, 1);
    const both = Number(await browser.text("#left", (t) => Number(t) < 96));
    expect(both).toBeGreaterThan(0);
    await (await browser.find("#stretches button")).click();
    await browser.text("#left", (t) => Number(t) > both);
    // an axis is moved by the arrow keys
    const first = await browser.find("#axes button");
    const name = await first.getText();
    await first.sendKeys(Key.ARROW_RIGHT);
    await browser.driver.wait(async () => (await (await browser.driver.findElements(By.css("#axes button")))[1].getText()) === name, 10000);
  });
});

describe("options of the library", () => {
  it("are merged, and stand on each other", async () => {
    await go("/p/library/options");
    await browser.find('section[aria-label="Two options together"]');
    await choose("Second option", "Heat recovery");
    await push("Merge into a new option");
    await browser.text('header select[aria-label="Option in view"]', (t) => t.includes("More insulation and Heat recovery"));
    await choose("The option stands on", "Less glass to the south");
    type D = { document: Document };
    const { document } = await untilSaved<D>("/api/projects/library", (d) => Object.values(d.document.options).some((o) => o.on === "shaded"));
    const merged = Object.values(document.options).find((o) => o.on === "shaded");
    expect(merged?.changes).toHaveLength(4);
    await browser.text('aside[aria-label="Inspector"]', (t) => t.includes("over Less glass to the south"));
    await undo(2);
    await untilSaved<D>("/api/projects/library", (d) => Object.keys(d.document.options).length === 3);
    expect(await browser.text('table[aria-label="Results that differ"]', (t) => t.includes("Site energy"))).toContain("More insulation");
  });

  it("the library ships a finished study", async () => {
    await go("/p/library/options?study=envelope");
    await left((n) => n === 109);
    expect(await violations()).toEqual([]);
    await choose("Limit an axis", "Site energy");
    await type("Most of Site energy", "95");
    const some = Number(await left((n) => n < 109));
    expect(some).toBeGreaterThan(10);
    await push("Front");
    await browser.text('table[aria-label="Runs on the front"]', (t) => t.includes("Net carbon"));
    expect(await violations()).toEqual([]);
    await push("Scatter");
    await browser.driver.wait(
      async () => (await browser.driver.findElements(By.css('canvas[aria-label*=" over "]'))).length === 20,
      20000,
      "the matrix is not whole",
    );
    await press("Copy Envelope and array");
    await browser.text('[data-testid="study-count"]', (t) => t.startsWith("108 runs"));
    expect(await violations()).toEqual([]);
    await undo(1);
  });
});
