import { By } from "selenium-webdriver";
import { describe, expect, it } from "vitest";
import type { Project } from "../core/src/index.ts";
import { browser, choose, go, INTENSITY, press, push, type, undo, untilSaved, useApplication } from "./harness.ts";

useApplication();

const saved = async (test: (p: Project) => boolean): Promise<Project> =>
  (await untilSaved<{ document: Project }>("/api/projects/library", (r) => test(r.document))).document;
const inspector = 'aside[aria-label="Inspector"]';
const click = async (xpath: string): Promise<void> => {
  await browser.driver.wait(
    async () => {
      const [found] = await browser.driver.findElements(By.xpath(xpath));
      if (!found) return false;
      await found.click();
      return true;
    },
    30000,
    xpath,
  );
};
const part = (name: string, system: string): Promise<void> => press(`${name} of ${system}`);
const tally = async (): Promise<number> => {
  await browser.exact();
  return Number((await browser.text(INTENSITY, (t) => /\d/.test(t))).replace(/[^\d.]/g, ""));
};

describe("a building on air", () => {
  it("runs at once on sized values, is made the real one part by part, compared fairly with another, and undone", async () => {
    await go("/p/library/services");
    await push("+ system");
    await push("ground floor");
    await type("Name of the system", "Ground air");
    await push("Make it");
    await push("+ system");
    await push("not served yet");
    await type("Name of the system", "Upper air");
    await push("Make it");
    const two = await saved((p) => Object.keys(p.airSystems).length === 2);
    expect(Object.values(two.zones).every((z) => z.equipment?.length === 1)).toBe(true);
    expect(Object.keys(two.loops)).toEqual(["hot", "chilled"]);
    const sized = await tally();
    expect(sized).toBeGreaterThan(40);
    await browser.button("No problems");

    // part by part: outdoor air, fan, supply temperature, night, a room's terminal, boiler, water
    await part("Mixing box", "Upper air");
    expect(await browser.text(inspector, (t) => t.includes("Economizer"))).toContain("Upper air");
    await choose("Economizer", "differential dry bulb");
    await part("Supply fan", "Upper air");
    await type("Pressure rise", "650");
    // a setting made once goes to the other fan
    const fan = await browser.find('input[aria-label="Pressure rise"]');
    await browser.driver.actions().move({ origin: fan }).perform();
    await click('//aside[@aria-label="Inspector"]//button[contains(.,"for all (1 more)")]');
    await push("hours and supply air");
    await choose("Supply temperature by", "warmest room");
    await type("Warmest supply", "19");
    await choose("Out of hours", "stands still");
    await press("Terminal of Local history");
    await type("Least flow", "20");
    await click('//div[@aria-label="Loop Hot water"]//button[starts-with(normalize-space(.),"Boiler")]');
    await type("Efficiency", "93");
    await click('//div[@aria-label="Loop Hot water"]//button[normalize-space(.)="Hot water"]');
    await type("Supply temperature", "70");
    const real = await saved((p) => p.loops.hot.inputs.supplyTemperature === 70);
    const upper = real.airSystems.upper_air;
    expect(upper.parts.find((p) => p.kind === "mixing")?.inputs.economizer).toBe("differential dry bulb");
    expect(Object.values(real.airSystems).map((s) => s.parts.find((p) => p.kind === "supplyFan")?.inputs.pressure)).toEqual([650, 650]);
    expect(upper.inputs).toMatchObject({ supplyRule: "warmest room", supplyWarmest: 19, night: "stands still" });
    expect(real.zones.history.equipment?.[0].inputs.least).toBe(0.2);
    expect(real.loops.hot.parts.find((p) => p.kind === "boiler")?.inputs.efficiency).toBe(0.93);
    // sized, typed and default are told apart
    await part("Supply fan", "Upper air");
    const marks = await browser.driver.executeScript<string[]>(
      `return [...document.querySelectorAll('aside[aria-label="Inspector"] [role=img]')].map((e) => e.getAttribute("aria-label"))`,
    );
    expect(new Set(marks)).toEqual(new Set(["found by the design days", "default", "typed here"]));

    // "+" offers only what may stand there, and the part opens
    await press("Add a part in gap 1 of Upper air");
    const menu = await browser.text('[role="menu"]', (t) => t.length > 0);
    expect(menu.split("\n")).toEqual(["Heat recovery", "Heating coil"]);
    await click('//*[@role="menuitem"][normalize-space(.)="Heat recovery"]');
    await saved((p) => p.airSystems.upper_air.parts[0].kind === "recovery");

    // what was sized: with day and hour; one is typed
    await push("What was sized");
    const sizes = await browser.text('table[aria-label="Sizes of components"]', (t) => t.includes("Boiler"), 60);
    expect(sizes).toMatch(/Boiler\s+Hot water\s+[\d.]+ kW\s+1\.25\s+⌁ [\d.]+ kW\s+\d+ \w{3} \d\d:\d\d/);

    // another system, compared fairly: an option in which the upper system has constant volume, and by a slip another fan
    const before = Object.keys((await saved(() => true)).options);
    await go("/p/library/options");
    await push("New option");
    const option = Object.keys((await saved((p) => Object.keys(p.options).length > before.length)).options).find((o) => !before.includes(o)) ?? "";
    await go(`/p/library/services?on=airSystem:upper_air&option=${option}`);
    await choose("Air flow", "constant");
    await part("Supply fan", "Upper air");
    await type("Pressure rise", "900");
    await push("Differences");
    const table = 'table[aria-label="Differences"]';
    expect(await browser.text(table, (t) => t.includes("900 Pa"))).toContain("constant");
    await click(`//table[@aria-label="Differences"]//tr[contains(.,"air flow")]//input[@type="checkbox"]`);
    // what is meant goes last
    const rows = async (): Promise<string[]> =>
      browser.driver.executeScript<string[]>(`return [...document.querySelectorAll('${table} tbody tr')].map((r) => r.innerText.replace(/\\s/g, " "))`);
    const until = async (test: (r: string[]) => boolean): Promise<void> => {
      let last: string[] = [];
      for (let i = 0; i < 100 && !test(last); i++) {
        last = await rows();
        await browser.driver.sleep(200);
      }
      expect(test(last), last.join(" | ")).toBe(true);
    };
    await until((r) => r.length === 2 && r[0].includes("900 Pa"));
    await click(`//table[@aria-label="Differences"]//tr[contains(.,"pressure rise")]//button[normalize-space(.)="make equal"]`);
    await until((r) => r.length === 1);
    await browser.text("main", (t) => t.includes("Only what is meant to differs"));
    const years = await browser.text('table[aria-label="Both years"]', (t) => /Fans[^\n]*\n[\d.]+ \+/.test(t), 180);
    // constant volume spends more on fans
    expect(years).toMatch(/Hours unmet/);
    const compared = await saved((p) => (p.options[option].meant ?? []).length === 1);
    expect(compared.options[option].changes.map((c) => c.path.join("/"))).toEqual(["airSystems/upper_air/inputs/flow"]);
  }, 400000);

  it("heats and cools a room through its floor, from the room, and takes it back", async () => {
    await go("/p/library/services?view=services");
    await choose("Option", "Base").catch(() => undefined);
    await click('//table[@aria-label="Zones and their services"]//tr[td[normalize-space(.)="Meeting hall"]]');
    await push("floor");
    const made = await saved((p) => p.zones.meeting.equipment?.[0].kind === "slabCircuit");
    const over = Object.values(made.faceOverrides).find((o) => o.host === "meeting/floor");
    expect(made.assemblies[over?.assembly ?? ""].layers.some((l) => l.kind === "circuit")).toBe(true);
    expect(made.zones.meeting.equipment?.map((c) => c.kind)).toEqual(["slabCircuit", "terminal"]);
    await choose("Water flow", "through its season");
    await type("Spacing of pipes", "100");
    await browser.exact();
    await browser.text(inspector, (t) => /Heat given[\s\S]*kWh/.test(t));
    await saved((p) => p.zones.meeting.equipment?.[0].inputs.spacing === 0.1);
    await undo(3);
    await saved((p) => p.zones.meeting.equipment?.[0].kind === "terminal" && !Object.values(p.faceOverrides).some((o) => o.host === "meeting/floor"));
  }, 200000);
});
