import { By } from "selenium-webdriver";
import { describe, expect, it } from "vitest";
import type { Project, Summary } from "../core/src/index.ts";
import { browser, go, push, type, undo, untilSaved, useApplication } from "./harness.ts";

useApplication();

const TABLE = 'table[aria-label="Peaks of design days"]';
const cells = async (zone: string): Promise<string[]> => {
  await browser.text(TABLE, (t) => t.includes(zone));
  const row = await browser.driver.findElement(By.xpath(`//table[@aria-label="Peaks of design days"]//tr[td[normalize-space(.)="${zone}"]]`));
  return Promise.all((await row.findElements(By.css("td"))).map((c) => c.getText()));
};
/** Waits until the heating capacity shown for a zone passes a test. */
const capacityIs = async (zone: string, test: (t: string) => boolean): Promise<void> => {
  await browser.driver.wait(async () => test((await cells(zone).catch(() => []))[2] ?? ""), 60000, `capacity of ${zone}`);
};
const saved = async (test: (p: Project) => boolean): Promise<Project> =>
  (await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => test(r.document))).document;

describe("capacities", () => {
  it("are by sizing, follow their factor, can be typed and given back; the year keeps to them and tells its peaks by the hour", async () => {
    await go("/p/clinic/services?on=zone:kennels");
    await push("back to plain services");
    await saved((p) => p.zones.kennels.equipment === undefined);
    await push("What was sized");
    const [, peak, capacity] = await cells("Kennels");
    expect(capacity).toContain("⌁");
    const sized = Number(capacity.replace(" ⌁", ""));
    expect(Math.abs(sized / Number(peak) - 1.25)).toBeLessThan(0.1);

    await type("Factor, heating", "1.5");
    await capacityIs("Kennels", (t) => Math.abs(Number(t.replace(" ⌁", "")) / Number(peak) - 1.5) < 0.1);
    await undo(1);
    await capacityIs("Kennels", (t) => t === capacity);

    await (await browser.find('button[title*="another capacity for Kennels"]')).click();
    await type("Heating capacity of Kennels", "0.8");
    const typed = await saved((p) => p.zones.kennels.inputs.heatingCapacity === 800);
    expect(typed.zones.kennels.inputs.coolingCapacity).toBeUndefined();
    // less than the design day needs is marked
    await capacityIs("Kennels", (t) => t.includes("!"));
    await browser.exact();
    await push("Zones and services");
    await browser.text('table[aria-label="Zones and their services"]', (t) => /Kennels.*0\.8/s.test(t));
    await undo(3);
    await saved((p) => p.zones.kennels.inputs.heatingCapacity === undefined && p.zones.kennels.equipment?.length === 2);

    await go("/p/clinic/results?view=flows");
    await browser.exact();
    const headlines = await browser.text('aside[aria-label="Inspector"]', (t) => t.includes("largest step"));
    expect(headlines).toMatch(/Peak cooling[\s\S]*latent; largest step/);
    expect(headlines).toContain("Energy balance closes to");
    // what comes into the air as vapour goes out of it
    const water = await browser.text('table[aria-label="Moisture balance"]', (t) => t.includes("People"));
    expect(water).toMatch(/Dehumidification\s+−\d/);
  });
});

describe("the library as it ships", () => {
  it("has two stored runs, three options, and a pin to compare with", async () => {
    const { runs } = await untilSaved<{ runs: { status: string; revision: number; intensity: number | null }[] }>(
      "/api/projects/library/runs",
      (r) => r.runs.length === 2 && r.runs.every((x) => x.status === "done"),
    );
    expect(runs.map((r) => r.revision).sort()).toEqual([1, 2]);
    const [better, worse] = [...runs].sort((a, b) => (a.intensity ?? 0) - (b.intensity ?? 0));
    expect(better.revision).toBe(2);
    expect(worse.intensity).toBeGreaterThan(better.intensity as number);
    const { pins } = await untilSaved<{ pins: { name: string; summary: Summary }[] }>("/api/projects/library/pins", (r) => r.pins.length === 1);
    expect(pins[0].summary.energy.intensity).toBe(worse.intensity);
    await go("/p/library/options");
    await browser.text('footer[aria-label="Tally"]', (t) => t.includes("since “60 mm in the walls”"));
    const list = await browser.text('aside[aria-label="Options"]', (t) => t.includes("Heat recovery"));
    expect(list).toContain("Less glass to the south");
  });
});
