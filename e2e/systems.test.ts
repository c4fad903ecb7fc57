import { By, Key } from "selenium-webdriver";
import { describe, expect, it } from "vitest";
import { applyChanges, componentsOf, effectiveSetting, spaceUses, type Project } from "../core/src/index.ts";
import { browser, choose, go, INTENSITY, press, push, type, undo, untilSaved, useApplication } from "./harness.ts";

useApplication();

const saved = async (test: (p: Project) => boolean, of = "clinic"): Promise<Project> =>
  (await untilSaved<{ document: Project }>(`/api/projects/${of}`, (r) => test(r.document))).document;
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

const FRONT = ["Waiting room", "Reception", "Examination 1", "Examination 2", "Examination 3", "Corridor"];
/** A system of variable volume for some rooms, made by plain description. */
async function makeSystem(name: string, rooms: readonly string[]): Promise<void> {
  await push("+ system");
  await click('//main//button[normalize-space(.)="none"]');
  for (const room of rooms) await click(`//*[@aria-label="Rooms to be served"]//label[contains(.,"${room}")]`);
  await type("Name of the system", name);
  await push("Make it");
}
/** Takes back until a test passes, at most so often. */
async function undoUntil(most: number, test: (p: Project) => boolean): Promise<void> {
  for (let i = 0; i < most; i++) {
    await undo(1);
    await browser.driver.sleep(500);
    if (test(await saved(() => true))) return;
  }
  await saved(test);
}

describe("a building on air", () => {
  it("runs at once on sized values, is made the real one part by part, and undone", async () => {
    await go("/p/clinic/services");
    await makeSystem("Front air", FRONT);
    const rest = Object.values((await saved((p) => Object.keys(p.airSystems).length === 2)).zones).flatMap((z) => (FRONT.includes(z.name) ? [] : [z.name]));
    await makeSystem("Back air", rest);
    // the unit that gave them fresh air serves nothing any more and is gone
    const two = await saved((p) => Object.keys(p.airSystems).join() === "front_air,back_air");
    expect(Object.values(two.zones).every((z) => z.equipment?.length === 1)).toBe(true);
    expect(Object.keys(two.loops)).toEqual(["hot", "chilled"]);
    const sized = await tally();
    expect(sized).toBeGreaterThan(40);
    await browser.button("No problems");

    // part by part: outdoor air, fan, supply temperature, night, a room's terminal, boiler, water
    await part("Mixing box", "Back air");
    expect(await browser.text(inspector, (t) => t.includes("Economizer"))).toContain("Back air");
    await choose("Economizer", "differential dry bulb");
    await part("Supply fan", "Back air");
    await type("Pressure rise", "650");
    // a setting made once goes to the other fan
    const fan = await browser.find('input[aria-label="Pressure rise"]');
    await browser.driver.actions().move({ origin: fan }).perform();
    await click('//aside[@aria-label="Inspector"]//button[contains(.,"for all (1 more)")]');
    await push("hours and supply air");
    await choose("Supply temperature by", "warmest room");
    await type("Warmest supply", "19");
    await choose("Out of hours", "stands still");
    await press("Terminal of Surgery");
    await type("Least flow", "20");
    await click('//div[@aria-label="Loop Hot water"]//button[starts-with(normalize-space(.),"Boiler")]');
    await type("Efficiency", "93");
    await click('//div[@aria-label="Loop Hot water"]//button[normalize-space(.)="Hot water"]');
    await type("Supply temperature", "70");
    const real = await saved((p) => p.loops.hot.inputs.supplyTemperature === 70);
    const upper = real.airSystems.back_air;
    expect(upper.parts.find((p) => p.kind === "mixing")?.inputs.economizer).toBe("differential dry bulb");
    expect(Object.values(real.airSystems).map((s) => s.parts.find((p) => p.kind === "supplyFan")?.inputs.pressure)).toEqual([650, 650]);
    expect(upper.inputs).toMatchObject({ supplyRule: "warmest room", supplyWarmest: 19, night: "stands still" });
    expect(real.zones.surgery.equipment?.[0].inputs.least).toBe(0.2);
    expect(real.loops.hot.parts.find((p) => p.kind === "boiler")?.inputs.efficiency).toBe(0.93);
    // sized, typed and default are told apart
    await part("Supply fan", "Back air");
    const marks = await browser.driver.executeScript<string[]>(
      `return [...document.querySelectorAll('aside[aria-label="Inspector"] [role=img]')].map((e) => e.getAttribute("aria-label"))`,
    );
    expect(new Set(marks)).toEqual(new Set(["found by the design days", "default", "typed here"]));

    // "+" offers only what may stand there, and the part opens
    await press("Add a part in gap 1 of Back air");
    const menu = await browser.text('[role="menu"]', (t) => t.length > 0);
    expect(menu.split("\n")).toEqual(["Heat recovery", "Heating coil"]);
    await click('//*[@role="menuitem"][normalize-space(.)="Heat recovery"]');
    await saved((p) => p.airSystems.back_air.parts[0].kind === "recovery");

    // what was sized: with day and hour; one is typed
    await push("What was sized");
    const sizes = await browser.text('table[aria-label="Sizes of components"]', (t) => t.includes("Boiler"), 60);
    expect(sizes).toMatch(/Boiler\s+Hot water\s+[\d.]+ kW\s+1\.25\s+⌁ [\d.]+ kW\s+\d+ \w{3} \d\d:\d\d/);

    // everything is taken back, step by step
    await undoUntil(40, (p) => Object.keys(p.airSystems).join() === "fresh_air");
    const back = await saved((p) => Object.values(p.zones).every((z) => z.equipment?.length === 2));
    expect(back.loops).toEqual({});
  }, 300000);

  it("becomes constant volume in an option, compared fairly: what is meant, what is not and made equal, and both years", async () => {
    const library = (test: (p: Project) => boolean): Promise<Project> => saved(test, "library");
    // an option in which the upper system has constant volume, and by a slip another fan
    const before = Object.keys((await library(() => true)).options);
    await go("/p/library/options");
    await push("New option");
    const option = Object.keys((await library((p) => Object.keys(p.options).length > before.length)).options).find((o) => !before.includes(o)) ?? "";
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
    const compared = await library((p) => (p.options[option].meant ?? []).length === 1);
    expect(compared.options[option].changes.map((c) => c.path.join("/"))).toEqual(["airSystems/upper_air/inputs/flow"]);

    // back to another fan, in one step
    await undo(1);
    await library((p) => p.options[option].changes.length === 2);
  }, 300000);

  it("heats and cools a room through its floor, from the room, and takes it back", async () => {
    await go("/p/clinic/services?view=services");
    await click('//table[@aria-label="Zones and their services"]//tr[td[normalize-space(.)="Office"]]');
    await push("floor");
    const made = await saved((p) => p.zones.office.equipment?.[0].kind === "slabCircuit");
    const over = Object.values(made.faceOverrides).find((o) => o.host === "office/floor");
    expect(made.assemblies[over?.assembly ?? ""].layers.some((l) => l.kind === "circuit")).toBe(true);
    expect(made.zones.office.equipment?.map((c) => c.kind)).toEqual(["slabCircuit", "splitUnit", "terminal"]);
    await choose("Water flow", "through its season");
    await type("Spacing of pipes", "100");
    await browser.exact();
    await browser.text(inspector, (t) => /Heat given[\s\S]*kWh/.test(t));
    await saved((p) => p.zones.office.equipment?.[0].inputs.spacing === 0.1);
    await undo(3);
    await saved((p) => p.zones.office.equipment?.[0].kind === "splitUnit" && !Object.values(p.faceOverrides).some((o) => o.host === "office/floor"));
  }, 200000);
});

describe("room units, their plant, sheets, rules and the bench", () => {
  it("fan coils with fresh air from elsewhere take a heat pump in place of the boiler, as an option", async () => {
    await go("/p/clinic/options");
    const before = Object.keys((await saved(() => true)).options);
    await push("New option");
    const option = Object.keys((await saved((p) => Object.keys(p.options).length > before.length)).options).find((o) => !before.includes(o)) ?? "";
    await go(`/p/clinic/services?option=${option}`);
    await push("+ system");
    await click('//*[@role="radio"][contains(.,"Fan coils with fresh air")]');
    await push("Make it");
    await click('//aside[@aria-label="Services"]//button[starts-with(normalize-space(.),"Hot water")]');
    await choose("Another plant", "air-source heat pump");
    await browser.button("No problems");
    const inOption = (p: Project): Project["loops"][string] | undefined => {
      const made = applyChanges(p, p.options[option].changes);
      return made.ok ? made.project.loops.hot : undefined;
    };
    const changed = await saved((p) => inOption(p)?.parts.some((x) => x.kind === "heatPump") ?? false);
    expect(inOption(changed)?.parts.map((x) => x.kind)).toEqual(["pump", "heatPump"]);
    expect(inOption(changed)?.inputs.supplyTemperature).toBe(45);
    expect(Object.values(changed.zones).every((z) => z.equipment?.[0].kind === "splitUnit")).toBe(true);
    await undoUntil(6, (p) => p.options[option].changes.length === 0);
  }, 200000);

  it("a setting is pasted for many in the sheet, and a rule fills a flow by area and people", async () => {
    await go("/p/clinic/services?view=sheet");
    await push("Split unit");
    const head = await browser.driver.wait(async () => (await browser.driver.findElements(By.xpath('//th[contains(., "Heating COP")]')))[0], 30000);
    const column = Number(await browser.driver.executeScript("return arguments[0].cellIndex", head));
    await browser.driver.executeScript(
      `const cell = document.querySelector('[role="grid"] tbody').rows[0].cells[${column}];
       cell.dispatchEvent(new MouseEvent("mousedown", { bubbles: true, cancelable: true }));`,
    );
    await browser.driver.executeScript(
      `const data = new DataTransfer();
       data.setData("text/plain", ["3.9", "4.1", "4.3"].join(String.fromCharCode(10)));
       document.querySelector('[role="grid"]').dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));`,
    );
    const pasted = await saved((p) => Object.values(p.zones).filter((z) => z.equipment?.[0].inputs.heatingCop !== undefined).length === 3);
    expect(Object.values(pasted.zones).flatMap((z) => z.equipment?.[0].inputs.heatingCop ?? [])).toEqual([3.9, 4.1, 4.3]);
    await undo(1);
    await saved((p) => Object.values(p.zones).every((z) => z.equipment?.[0].inputs.heatingCop === undefined));

    const before = await tally();
    await go("/p/clinic/use");
    await push("Rules");
    await press("Add a rule");
    await choose("Kind of thing", "systems and equipment");
    await choose("Input it fills", "Terminal: design air flow");
    const area = await browser.find('textarea[aria-label="Value of the rule"]');
    await area.click();
    await area.sendKeys(Key.chord(Key.CONTROL, "a"), "10 L/s * people + 2 L/s/m² * area", Key.ENTER);
    const p = await saved((q) => q.rules.length === 1 && q.rules[0].value.includes("people"));
    expect(await browser.text('[data-testid="rule-reach"]', (t) => t !== "")).toContain("11 of 11 components");
    const [first] = Object.keys(p.zones);
    const use = spaceUses(p).get(Object.keys(p.spaces).find((s) => p.spaces[s].zone === first) ?? "");
    const gives = await browser.text('[data-testid="rule-gives"]', (t) => t.includes("L/s"));
    expect(parseFloat(gives.replace(/\s/g, ""))).toBeCloseTo(10 * (use?.people ?? NaN) + 2 * (use?.area ?? NaN), 0);
    await push("Apply to all of them");
    await saved((q) => q.rules[0].on);
    // more air through the same fans costs more
    expect(await tally()).toBeGreaterThan(before);
    const acting = await saved((q) => q.rules[0].on);
    const terminal = componentsOf(acting).find((c) => c.path.join("/") === `zones/${first}/equipment/terminal`);
    if (!terminal) throw new Error("no terminal");
    expect(effectiveSetting(acting, terminal, "flow").origin).toMatchObject({ kind: "rule" });
    await undoUntil(8, (q) => q.rules.length === 0);
  }, 480000);

  it("a unit is looked at alone: equations with their numbers, sliders, its curve, an hour of the year", async () => {
    await go("/p/clinic/services?view=bench&of=component:zones/office/equipment/split");
    await browser.exact();
    const table = 'table[aria-label="Equations with their numbers"]';
    const power = async (): Promise<string> => {
      const rows = await browser.driver.executeScript<string[][]>(
        `return [...document.querySelectorAll('${table} tbody tr')].map((r) => [...r.cells].map((c) => c.innerText.replace(/\\s+/g, " ")))`,
      );
      return rows.find((r) => r[0] === "P")?.[4] ?? "";
    };
    await browser.text(table, (t) => t.includes("C_most"));
    const began = await power();
    expect(began).toMatch(/kW/);
    await type("outdoors", "40");
    await browser.driver.wait(async () => (await power()) !== began, 10000, "the power follows");
    // hotter outdoors, more power for the same cold
    expect(parseFloat(await power())).toBeGreaterThan(parseFloat(began));
    await choose("What goes in comes from", "an hour of the year");
    await browser.text('[data-testid="chosen-hour"]', (t) => t.includes("21 Jul"), 120);
    await choose("What is looked at", "Zone Office");
    await browser.text(table, (t) => t.includes("heat loss coefficient"));
  }, 200000);
});
