import { writeFileSync } from "node:fs";
import path from "node:path";
import axe from "axe-core";
import { By, Key, Origin } from "selenium-webdriver";
import { describe, expect, it } from "vitest";
import { browser, go, INTENSITY, scratch, type, untilSaved, useApplication } from "./harness.ts";
import type { Project } from "../core/src/index.ts";

useApplication();

const SIDE = "//aside[@aria-label='Storeys and spaces']";
const click = async (xpath: string): Promise<void> => {
  const e = await browser.driver.wait(async () => (await browser.driver.findElements(By.xpath(xpath)))[0], 15000, `no ${xpath}`);
  await e.click();
};
const inSide = (words: string): Promise<void> => click(`${SIDE}//button[starts-with(normalize-space(.),"${words}")]`);
/** Types places into the field of the drawing tools. */
async function draw(...places: string[]): Promise<void> {
  for (const p of places) {
    const field = await browser.find('input[aria-label="Typed place"]');
    await field.sendKeys(Key.chord(Key.CONTROL, "a"), p, Key.ENTER);
    await browser.driver.sleep(150);
  }
}
/** Serious faults of accessibility, once the figures have settled: while they catch up they are dimmed. */
async function axeFinds(): Promise<string[]> {
  await browser.driver.executeScript(axe.source);
  const found = await browser.driver.executeAsyncScript<{ violations: { id: string; impact: string; nodes: { html: string }[] }[] }>(
    "const done = arguments[arguments.length - 1]; axe.run(document, { resultTypes: ['violations'] }).then(done);",
  );
  return found.violations.filter((v) => v.impact === "serious" || v.impact === "critical").map((v) => `${v.id}: ${v.nodes[0].html.slice(0, 160)}`);
}
describe("drawing a building", () => {
  let address = "";
  const saved = (test: (p: Project) => boolean): Promise<{ document: Project }> =>
    untilSaved<{ document: Project }>(`/api/projects/${address}`, (t) => test(t.document));

  it("draws an L by typing, parts it into perimeter and core, and copies the storey", async () => {
    await go("/");
    await (await browser.button("New project to draw")).click();
    await (await browser.button("Draw on an empty plan")).click();
    await draw("0 0", "24 12", "0 12", "12 12");
    await (await browser.button("Select")).click();
    await inSide("Ground floor");
    await (await browser.button("Perimeter")).click();
    await (await browser.button("Make perimeter and core")).click();
    await browser.text('aside[aria-label="Storeys and spaces"]', (t) => t.includes("core") && t.includes("north 2"));
    address = decodeURIComponent((await browser.driver.getCurrentUrl()).split("/p/")[1].split("/")[0]);
    await inSide("Ground floor");
    await (await browser.button("copy above")).click();
    await browser.text('aside[aria-label="Storeys and spaces"]', (t) => t.includes("Floor 2"));
    const { document } = await saved((p) => Object.keys(p.storeys).length === 2 && Object.keys(p.spaces).length === 14);
    expect(Object.values(document.spaces).filter((s) => s.name.includes("core"))).toHaveLength(2);
  });

  it("gives it windows by share of wall, one placed and dragged window with an overhang, and zones", async () => {
    await (await browser.button("windows by share of wall")).click();
    await browser.driver.findElement(By.css('select[aria-label="On storey"]')).sendKeys("every");
    await inSide("Ground floor");
    await inSide("Space 1, west");
    await click("//aside[@aria-label='Inspector']//button[normalize-space(.)='open']");
    await (await browser.button("Add window")).click();
    await browser.find('g[data-opening] rect[role="button"]');
    await (await browser.button("overhang")).click();
    await inSide("Window 1");
    await click("//aside[@aria-label='Inspector']//button[normalize-space(.)='Show on its elevation']");
    await inSide("Ground floor");
    await (await browser.button("Plan and building")).click();
    await browser.driver.executeScript(
      `document.evaluate("//aside[@aria-label='Inspector']//*[normalize-space(text())='set-points and hours']", document, null, 9).singleNodeValue?.scrollIntoView()`,
    );
    await click("//aside[@aria-label='Inspector']//div[contains(.,'set-points and hours')]//button[normalize-space(.)='Make these zones']");
    const { document } = await saved((p) => Object.keys(p.zones).length === 2 && Object.keys(p.shades).length === 1);
    expect(
      Object.values(document.openings)
        .map((o) => o.kind)
        .sort(),
    ).toEqual(["placed", "ratio"]);
    await browser.text("body", (t) => t.includes("No problems"));
    expect(await axeFinds()).toEqual([]);
  });

  it("has figures in the Tally", async () => {
    await browser.exact();
    const intensity = Number(await browser.text(INTENSITY, (t) => /^\d/.test(t)));
    expect(intensity).toBeGreaterThan(30);
    expect(intensity).toBeLessThan(300);
  });

  it("tells a window dragged out of its wall, shows it and puts it back", async () => {
    await inSide("Window 1");
    await (await browser.button("Elevation")).click();
    const rect = await browser.find('g[data-opening] rect[role="button"]');
    expect(await axeFinds()).toEqual([]);
    await browser.driver
      .actions({ async: true })
      .move({ origin: rect })
      .press()
      .move({ origin: Origin.POINTER, x: 300, y: 0, duration: 200 })
      .move({ origin: Origin.POINTER, x: 300, y: 0, duration: 200 })
      .release()
      .perform();
    await browser.text('aside[aria-label="Storeys and spaces"]', (t) => /"Window 1" reaches \d+\.\d\d m past its wall/.test(t));
    await browser.text("body", (t) => t.includes("The year cannot run"));
    await (await browser.button("Sheets")).click();
    await click(`${SIDE}//button[normalize-space(.)='show']`);
    // shown where it can be mended: on its elevation, selected
    await browser.text('[role="toolbar"][aria-label="Openings of this wall"]', (t) => t.includes("west wall"));
    await (await browser.button("Move it into its wall")).click();
    await browser.text("body", (t) => t.includes("No problems"));
    await browser.exact();
    // undo goes back through it all, one step at a time
    await (await browser.button("Undo")).click();
    await browser.text('aside[aria-label="Storeys and spaces"]', (t) => t.includes("past its wall"));
    await (await browser.button("Redo")).click();
    await browser.text("body", (t) => t.includes("No problems"));
  });

  it("is seen in few draw calls, studied for sun in a worker, and edited in sheets by pasting", async () => {
    await (await browser.button("Building")).click();
    await browser.driver.wait(() => browser.driver.executeScript("return !!window.arroyoScene"), 60000);
    const drawn = await browser.driver.executeScript<{ calls: number }>("return window.arroyoScene.measure()");
    expect(drawn.calls).toBeGreaterThan(2);
    expect(drawn.calls).toBeLessThan(30);
    await (await browser.button("Sun study")).click();
    await browser.text('table[aria-label="Sun by face"]', (t) => /roof/.test(t), 40);
    expect(await axeFinds()).toEqual([]);
    await (await browser.button("Sheets")).click();
    const cell = await browser.driver.wait(
      async () => (await browser.driver.findElements(By.css('table[role="grid"] tbody tr:first-child td:first-child')))[0],
      60000,
    );
    await cell.click();
    await browser.driver.executeScript(`
      const data = new DataTransfer(); data.setData("text/plain", "Lobby\\nStudio");
      document.querySelector('table[role="grid"]').dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true }));`);
    await browser.text('table[role="grid"]', (t) => t.includes("Lobby") && t.includes("Studio"));
    await browser.driver.executeScript(`
      const data = new DataTransfer(); data.setData("text/plain", "x\\t12\\ty");
      document.querySelector('table[role="grid"]').dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true }));`);
    // all or nothing: a block that does not fit changes no cell
    await browser.text('[role="alert"]', (t) => t.includes("Nothing was changed"));
    expect(await browser.text('table[role="grid"]', () => true)).toContain("Lobby");
    await browser.exact();
    expect(await axeFinds()).toEqual([]);
  });
});

describe("changing a plan", () => {
  const side = (test: (t: string) => boolean): Promise<string> => browser.text('aside[aria-label="Storeys and spaces"]', test);
  const listed = (name: string, area: string): Promise<string> => side((t) => t.includes(`${name}\n${area}`));
  /** Chooses spaces in the list, the later ones with Shift. */
  async function choose(...names: string[]): Promise<void> {
    await inSide(names[0]);
    for (const n of names.slice(1)) {
      const e = await browser.driver.findElement(By.xpath(`${SIDE}//button[starts-with(normalize-space(.),"${n}")]`));
      await browser.driver.actions().keyDown(Key.SHIFT).move({ origin: e }).press().release().keyUp(Key.SHIFT).perform();
    }
  }

  it("splits, merges, offsets, moves by keys and removes, each one step to undo", async () => {
    await go("/");
    await (await browser.button("New project to draw")).click();
    await (await browser.button("Draw on an empty plan")).click();
    await draw("0 0", "12 8");
    await listed("Space 1", "96");
    await (await browser.button("Split")).click();
    await draw("4 0", "4 8");
    await listed("Space 1 2", "64").catch(() => listed("Space 1 2", "32"));
    await (await browser.button("Select")).click();
    await choose("Space 1", "Space 1 2");
    await (await browser.button("Merge")).click();
    await listed("Space 1", "96");
    await (await browser.button("Offset")).click();
    await (await browser.button("Offset the walls")).click();
    await listed("Space 1", "84");
    await (await browser.button("Undo")).click();
    await listed("Space 1", "96");
    // a corner, by keys: 12 by 8 with one corner drawn out by half a metre each way
    await inSide("Space 1");
    const corner = await browser.find('[aria-label^="Corner at 12.00, 8.00"]');
    await corner.sendKeys(Key.ARROW_RIGHT);
    await listed("Space 1", "98");
    // the whole space, by dragging it: its floor stays as large
    const body = await browser.driver.findElement(By.css('g[role="button"][aria-label^="Space 1"]'));
    await browser.driver
      .actions({ async: true })
      .move({ origin: body })
      .press()
      .move({ origin: Origin.POINTER, x: 60, y: 0, duration: 150 })
      .release()
      .perform();
    await browser.find('[aria-label^="Corner at"]');
    const places = await Promise.all((await browser.driver.findElements(By.css('[aria-label^="Corner at"]'))).map((e) => e.getAttribute("aria-label")));
    expect(places.every((p) => p !== null && !/at 0\.00,/.test(p))).toBe(true);
    await listed("Space 1", "98");
    await (await browser.button("Remove")).click();
    await side((t) => !t.includes("Space 1"));
    await (await browser.button("Undo")).click();
    await listed("Space 1", "98");
  });

  it("adds fins, louvres, a plate and a skylight from the inspectors, and hides and isolates in the building", async () => {
    await go("/p/clinic/form?on=space:surgery");
    await browser.exact();
    const open = (): Promise<void> => click("//aside[@aria-label='Inspector']//button[normalize-space(.)='open'][contains(..,'outdoors')]");
    await open();
    await (await browser.button("Add window")).click();
    await (await browser.button("fins")).click();
    await browser.text('aside[aria-label="Inspector"]', (t) => t.includes("side fins"));
    await type("Depth", "0.8");
    // fins of a screen that lets sun through: by month, then driven by a schedule
    const through = async (value: string): Promise<void> =>
      (await browser.find('select[aria-label="Lets through"]')).findElement(By.css(`option[value="${value}"]`)).click();
    await through("by month");
    await type("Lets through in Jul", "120");
    await browser.text('[role="alert"]', (t) => t === "The value must be at most 100.");
    await type("Lets through in Jul", "50");
    await browser.driver.wait(async () => (await (await browser.find('input[aria-label="Lets through in Jul"]')).getAttribute("value")) === "50", 60000);
    await through("open");
    await inSide("Window");
    await (await browser.button("louvres")).click();
    await browser.text('aside[aria-label="Inspector"]', (t) => t.includes("louvres"));
    await inSide("Surgery");
    await open();
    await (await browser.button("Add a plate (balcony, canopy)")).click();
    await browser.text('aside[aria-label="Inspector"]', (t) => t.includes("plate on a wall"));
    const { document } = await untilSaved<{ document: Project }>("/api/projects/clinic", (t) =>
      Object.values(t.document.shades).some((s) => s.kind === "plate"),
    );
    expect(new Set(Object.values(document.shades).map((s) => s.kind))).toEqual(new Set(["overhang", "fins", "louvres", "plate"]));
    const fins = Object.values(document.shades).find((s) => s.kind === "fins");
    expect(fins).toMatchObject({ depth: 0.8, transmittanceSchedule: "open" });
    expect(fins?.transmittance?.[6]).toBe(0.5);
    expect(fins?.transmittance?.[0]).toBe(0.3);
    await inSide("Surgery");
    await (await browser.button("Building")).click();
    await browser.driver.wait(() => browser.driver.executeScript("return !!window.arroyoScene"), 60000);
    const triangles = (): Promise<number> => browser.driver.executeScript<number>("return window.arroyoScene.measure().triangles");
    const whole = await triangles();
    await (await browser.button("only this")).click();
    await browser.driver.wait(async () => (await triangles()) < 0.5 * whole, 60000);
    await (await browser.button("show all")).click();
    await browser.driver.wait(async () => (await triangles()) === whole, 60000);
  });
});

/** Two rooms with faults: a repeated id, a wall of two corners, an unknown neighbour, a construction without layers, a use to match. */
function faulty(): string {
  const loop = (ring: number[][]): string =>
    `<PlanarGeometry><PolyLoop>${ring.map((p) => `<CartesianPoint>${p.map((c) => `<Coordinate>${c}</Coordinate>`).join("")}</CartesianPoint>`).join("")}</PolyLoop></PlanarGeometry>`;
  let n = 0;
  const surface = (type: string, adjacent: string[], ring: number[][], id = `s${++n}`): string =>
    `<Surface id="${id}" surfaceType="${type}" constructionIdRef="mystery">${adjacent.map((a) => `<AdjacentSpaceId spaceIdRef="${a}"/>`).join("")}${loop(ring)}</Surface>`;
  const room = (id: string, x: number, east: string[], west: boolean): string =>
    [
      surface(
        "SlabOnGrade",
        [id],
        [
          [x, 4, 0],
          [x + 5, 4, 0],
          [x + 5, 0, 0],
          [x, 0, 0],
        ],
      ),
      surface(
        "Roof",
        [id],
        [
          [x, 0, 3],
          [x + 5, 0, 3],
          [x + 5, 4, 3],
          [x, 4, 3],
        ],
      ),
      surface(
        "ExteriorWall",
        [id],
        [
          [x, 0, 0],
          [x + 5, 0, 0],
          [x + 5, 0, 3],
          [x, 0, 3],
        ],
      ),
      surface(
        "ExteriorWall",
        [id],
        [
          [x + 5, 4, 0],
          [x, 4, 0],
          [x, 4, 3],
          [x + 5, 4, 3],
        ],
      ),
      surface("InteriorWall", east, [
        [x + 5, 0, 0],
        [x + 5, 4, 0],
        [x + 5, 4, 3],
        [x + 5, 0, 3],
      ]),
      west
        ? surface(
            "ExteriorWall",
            [id],
            [
              [x, 4, 0],
              [x, 0, 0],
              [x, 0, 3],
              [x, 4, 3],
            ],
          )
        : "",
    ].join("");
  return `<gbXML lengthUnit="Meters" areaUnit="SquareMeters"><Campus id="c"><Building id="b"><Name>Faulty shed</Name>
    <Space id="one" spaceType="Workshop"><Name>One</Name></Space><Space id="two" spaceType="Workshop"><Name>Two</Name></Space></Building>
    ${room("one", 0, ["one", "two"], true)}${room("two", 5, ["two", "ghost"], false)}
    ${surface(
      "ExteriorWall",
      ["two"],
      [
        [0, 0, 0],
        [1, 0, 0],
      ],
      "s1",
    )}</Campus>
    <Construction id="mystery"><Name>Mystery wall</Name></Construction></gbXML>`;
}

describe("importing a building", () => {
  it("reports what was read, mended and left out, takes matches, and ends in the checks", async () => {
    await go("/");
    const file = path.join(scratch, "faulty.xml");
    writeFileSync(file, faulty());
    await (await browser.find('input[aria-label="Project file"]')).sendKeys(file);
    const report = await browser.text('table[aria-label="Import report"]', (t) => t.includes("Faulty") || t.length > 50);
    expect(report).toMatch(/id "s1" is used by 2/);
    expect(report).toMatch(/fewer than three corners/);
    expect(report).toMatch(/"ghost" the file does not have/);
    await browser.text('table[aria-label="Matching sheet"]', (t) => t.includes("Mystery wall") && t.includes("Workshop"));
    await browser.driver.findElement(By.css('select[aria-label="Match Workshop"]')).sendKeys("Classrooms");
    await browser.text('[aria-label="Import"]', (t) => /to match: 1 open/i.test(t));
    await browser.driver.findElement(By.css('select[aria-label="Match Mystery wall"]')).sendKeys("Cavity");
    await browser.text('[aria-label="Import"]', (t) => /to match[\r\n]/i.test(t));
    expect(await axeFinds()).toEqual([]);
    await (await browser.button("Make the project")).click();
    await browser.exact();
    const { document } = await untilSaved<{ document: Project }>(
      `/api/projects/${decodeURIComponent((await browser.driver.getCurrentUrl()).split("/p/")[1].split("/")[0])}`,
      () => true,
    );
    expect(Object.keys(document.spaces)).toHaveLength(2);
    expect(new Set(Object.values(document.spaces).map((s) => s.spaceType))).toEqual(new Set(["use_school"]));
  });
  it("remembers matches for the next file, and refuses what it cannot read with nothing imported", async () => {
    await go("/");
    const before = await browser.text('table[aria-label="Projects"]', () => true);
    const file = path.join(scratch, "faulty.xml");
    await (await browser.find('input[aria-label="Project file"]')).sendKeys(file);
    await browser.text('[aria-label="Import"]', (t) => t.includes("Mystery wall"));
    expect(await browser.driver.findElement(By.css('select[aria-label="Match Workshop"]')).getAttribute("value")).toBe("use_school");
    await (await browser.button("Cancel")).click();
    const bomb = path.join(scratch, "bomb.xml");
    writeFileSync(bomb, '<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><gbXML>&b;</gbXML>');
    await (await browser.find('input[aria-label="Project file"]')).sendKeys(bomb);
    expect(await browser.text('[role="alert"]', (t) => t.includes("bomb.xml"))).toMatch(/document type or entities/);
    await go("/");
    expect(await browser.text('table[aria-label="Projects"]', (t) => t.includes("Faulty shed"))).toBe(before);
  });
});
