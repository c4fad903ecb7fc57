import { writeFileSync } from "node:fs";
import path from "node:path";
import { By, Key } from "selenium-webdriver";
import { beforeAll, describe, expect, it } from "vitest";
import { canonicalJson, effective, equivalentHours, fullHours, modelledArea, spaceUses, type Project } from "../core/src/index.ts";
import { address, api, browser, choose, go, INTENSITY, press, push, scratch, type, undo, untilSaved, useApplication } from "./harness.ts";

useApplication();

interface Stored {
  readonly document: Project;
}
let project = "clinic";
const saved = async (test: (p: Project) => boolean): Promise<Project> =>
  (await untilSaved<Stored>(`/api/projects/${project}`, (r) => test(r.document))).document;
const stored = async (): Promise<Project> => (await api<Stored>(`/api/projects/${project}`)).document;
const open = async (part: string): Promise<void> => {
  await go(`/p/${project}/use`);
  await push(part);
};
const idOf = (set: Readonly<Record<string, { readonly name: string }>>, name: string): string => {
  const found = Object.keys(set).find((k) => set[k].name === name);
  if (found === undefined) throw new Error(`there is no "${name}"`);
  return found;
};
const intensity = async (): Promise<number> => {
  await browser.exact();
  return Number(await browser.text(INTENSITY, (t) => /^\d/.test(t)));
};

describe("a schedule", () => {
  it("is made here, drawn with the mouse, given a stretch of dates, read from a file, and undone", async () => {
    await open("Schedules");
    const before = canonicalJson((await stored()).schedules);
    await press("Add a schedule");
    await type("Name of the schedule", "Late opening");
    const id = idOf((await saved((p) => Object.values(p.schedules).some((s) => s.name === "Late opening"))).schedules, "Late opening");
    // a stroke at full height over the evening hours of the working day
    const area = await browser.find('[data-testid="draw-Working day"]');
    const { width, height } = await area.getRect();
    const at = (hour: number): number => Math.round(((hour + 0.5) / 24 - 0.5) * width);
    const up = Math.round(-0.5 * height + 1);
    const stroke = browser.driver.actions({ async: true });
    await stroke
      .move({ origin: area, x: at(18), y: up })
      .press()
      .move({ origin: area, x: at(20), y: up })
      .move({ origin: area, x: at(21), y: up })
      .release()
      .perform();
    await saved((p) => p.schedules[id].profiles.on.values.slice(18, 22).every((v) => v === 1) && p.schedules[id].profiles.on.values[22] === 0);
    await type("Working day, 22 to 23 o’clock", "0.5");
    await saved((p) => p.schedules[id].profiles.on.values[22] === 0.5);
    await press("Add a stretch of dates");
    await choose("Rule 2, Monday", "Day off");
    const p = await saved((q) => q.schedules[id].weeks.length === 2 && q.schedules[id].weeks[1].days[0] === "off");
    // 8 to 18 o'clock, 18 to 22 drawn, half of an hour typed
    expect(equivalentHours(p.schedules[id], p.calendar)).toBeCloseTo(14.5 * countedDays(p), 6);
    const file = path.join(scratch, "week.csv");
    writeFileSync(file, ["share", ...Array.from({ length: 168 }, (_, h) => (h < 120 && h % 24 >= 9 && h % 24 < 17 ? "0,8" : "0"))].join("\n"));
    await (await browser.find('input[aria-label="Schedule file"]')).sendKeys(file);
    await saved((q) => q.schedules[id].weeks.length === 1 && q.schedules[id].weeks[0].days.length === 8 && q.schedules[id].source === "week.csv");
    await undo(7);
    await saved((q) => canonicalJson(q.schedules) === before);
  });
});
/** Working days of the calendar that are no holidays and no Mondays of July and August. */
function countedDays({ calendar }: Project): number {
  let days = 0;
  for (let d = 0; d < 365; d++) {
    const date = new Date(Date.UTC(2001, 0, 1 + d));
    const [month, day] = [date.getUTCMonth() + 1, date.getUTCDate()];
    const weekday = (calendar.firstWeekday + d) % 7;
    const shut = weekday > 4 || calendar.holidays.some((h) => h.month === month && h.day === day) || (weekday === 0 && (month === 7 || month === 8));
    if (!shut) days++;
  }
  return days;
}

describe("gains as they are known", () => {
  it("three people in each examination room by count, a device list, a headcount and a yearly energy, and all of it undone", async () => {
    await open("Types");
    const start = await stored();
    await browser.exact();
    const before = await intensity();
    await (await browser.find('aside[aria-label="Use"]')).findElement(By.xpath('.//button[contains(normalize-space(.), "Examination")]')).click();
    await choose("People given as", "count");
    await type("Number of people", "3");
    const exam = idOf(start.spaceTypes, "Examination");
    const counted = await saved((p) => p.spaceTypes[exam].inputs.peopleCount === 3);
    for (const [id, s] of Object.entries(counted.spaces)) if (s.spaceType === exam) expect(spaceUses(counted).get(id)?.people).toBe(3);
    // a list of devices: one found, one typed in Btu/h
    await push("Devices");
    await press("Add a device list");
    await type("Name of the device list", "Café kitchen");
    await push("Find a device");
    const search = await browser.find('input[aria-label="Search: Device"]');
    await search.sendKeys("espresso");
    await browser.find('[role="listbox"][aria-label="Device"] [role="option"]');
    await search.sendKeys(Key.ENTER);
    await push("Type one");
    await type("Running power of Device", "5118 Btu/h");
    await type("Latent share of Device", "40");
    // the sum of both shares would be more than all of it
    expect(await browser.text('[role="alert"]', (t) => t !== "")).toContain("more than all of its power");
    await (await browser.find('input[aria-label="Latent share of Device"]')).sendKeys(Key.ESCAPE);
    await type("Sensible share of Device", "60");
    await type("Latent share of Device", "40");
    // 0.35·3000 + 0.65·200 = 1180 W of the espresso machine, a quarter of it latent, and 1500 W with 600 W latent
    expect((await browser.text('[data-testid="device-sum"]', (t) => t.includes("895"))).replace(/\s/g, " ")).toContain("2 680 W");
    await push("Types");
    await (await browser.find('aside[aria-label="Use"]')).findElement(By.xpath('.//button[contains(normalize-space(.), "Waiting")]')).click();
    await choose("Appliances given as", "device list");
    await choose("Device list", "Café kitchen");
    const listed = await saved((p) => Object.values(p.spaceTypes).some((t) => t.inputs.deviceList !== undefined));
    const waiting = Object.keys(listed.spaces).find((id) => effective(listed, "space", id, "applianceGiven").value === "device list") as string;
    const use = spaceUses(listed).get(waiting);
    expect((use?.appliances.latent ?? 0) + (use?.standby.latent ?? 0)).toBeCloseTo(895, 0);
    await browser.text('main[aria-label="Use"]', (t) => t.includes("Appliances from"));
    // what is known of the whole building
    await push("What is known of the whole building");
    await type("Floor area of the building", String(Math.round(2 * modelledArea(start))));
    await type("Lighting in a year", "9000");
    await browser.text("main", (t) => t.includes("no space asks for it"));
    const asked = (await browser.driver.findElements(By.xpath('//button[normalize-space(.)="let every space ask for it"]')))[1];
    await asked.click();
    await browser.text('[data-testid="adds-up-lighting"]', (t) => t === "✓ adds up");
    const lit = await saved((p) => Object.values(p.spaceTypes).every((t) => t.inputs.lightingGiven === "share of yearly energy"));
    let sum = 0;
    for (const [id, u] of spaceUses(lit)) sum += (u.lighting * fullHours(lit, effective(lit, "space", id, "lightingSchedule").value as string | null)) / 1000;
    expect(sum).toBeCloseTo((9000 * modelledArea(lit)) / (lit.known.area as number), 6);
    // an exterior light is an end use of its own
    await push("Outside");
    await press("Add an exterior light");
    await browser.text('footer[aria-label="Tally"]', (t) => t.includes("exterior lighting"));
    expect(await intensity()).not.toBeCloseTo(before, 1);
    while (!(await (await browser.button("Undo")).getAttribute("disabled"))) await push("Undo");
    await saved((p) => canonicalJson({ ...p, id: "" }) === canonicalJson({ ...start, id: "" }));
  });
});

describe("hot water", () => {
  it("known for a whole building is worked back to the flow of the part modelled, which adds up, and undone", async () => {
    await open("Hot water");
    const start = await stored();
    await browser.exact();
    const before = await intensity();
    await press("Add a hot-water draw");
    await choose("How the draw is known", "worked back");
    await type("Heat in a year", "24 MWh");
    const area = Math.round(4 * modelledArea(start));
    await type("Floor area of that building", String(area));
    await choose("Draw schedule", "Clinic hours");
    const told = (await browser.text('[data-testid="draw-outcome"]', (t) => t.includes("a quarter of the building"))).replace(/\s/g, " ");
    const p = await saved((q) => Object.values(q.drawPoints).some((d) => d.kind === "known" && d.area === area && d.schedule !== null));
    const heat = (24000 * modelledArea(p)) / area;
    expect(told).toContain(`${Math.round(heat).toLocaleString("en-GB").replace(/,/g, " ")} kWh`);
    expect(await intensity()).toBeGreaterThan(before);
    // above all of it, and next to nothing, are told
    await type("Floor area of that building", "100");
    await push("1 problem");
    await browser.text('aside[aria-label="Problems"]', (t) => t.includes("more than all of it cannot be drawn here"));
    await type("Floor area of that building", "100000");
    await browser.text('aside[aria-label="Problems"]', (t) => t.includes("check both floor areas"));
    while (!(await (await browser.button("Undo")).getAttribute("disabled"))) await push("Undo");
    await saved((q) => canonicalJson(q.drawPoints) === canonicalJson(start.drawPoints));
    expect(await intensity()).toBeCloseTo(before, 1);
  });
});

describe("a starter set", () => {
  it("gives envelope, type, schedules and services in one step, and undo takes all of it back", async () => {
    await open("Types");
    const start = await stored();
    await push("Starter set by use and level");
    await choose("Use of the starter set", "Clinic");
    await choose("Level of the starter set", "better than code");
    await browser.text('table[aria-label="What the starter set gives"]', (t) => t.includes("Heat pump") && t.includes("clause 3.1"));
    await (await browser.find('input[type="radio"][name="starter-spaces"]:not(:checked)')).click();
    await push("Give the starter set");
    const p = await saved((q) => q.starter?.use === "clinic");
    expect(Object.values(p.spaces).every((s) => s.spaceType === p.starter?.spaceType)).toBe(true);
    expect(p.defaults.kit).toBe(p.starter?.kit);
    // what was typed or taken over has its source in the register, which can be given one
    await push("Register of values and sources");
    await (await browser.find('input[aria-label="Filter the sheet"]')).sendKeys("outdoorAirPerPerson");
    const cell = await browser.driver.wait(
      async () => (await browser.driver.findElements(By.xpath('//tr[td[1][contains(., "inputs/outdoorAirPerPerson")]]/td[6]')))[0],
      30000,
    );
    await cell.click();
    await browser.driver.actions().sendKeys("air plan, sheet 4").perform();
    await browser.driver.actions().sendKeys(Key.ENTER).perform();
    await saved((q) => Object.values(q.evidence).some((e) => e.source === "air plan, sheet 4"));
    await undo(2);
    await saved((q) => canonicalJson({ ...q, id: "" }) === canonicalJson({ ...start, id: "" }));
  });
});

describe("inputs that follow the space", () => {
  beforeAll(async () => {
    // forty rooms of a plain building, from the clinic's own types
    const clinic = await api<Stored>("/api/projects/clinic");
    const d = structuredClone(clinic.document);
    const [storey] = Object.keys(d.storeys);
    const types = Object.keys(d.spaceTypes);
    const rooms = Array.from({ length: 40 }, (_, i) => {
      const [x, y] = [5 * (i % 8), 4 * Math.floor(i / 8)];
      const corner = (k: string, cx: number, cy: number) => ({ id: k, x: cx, y: cy });
      return [
        `room_${i + 1}`,
        {
          name: `Room ${i + 1}`,
          storey,
          zone: `zone_${i + 1}`,
          spaceType: types[i % 2],
          kit: null,
          form: {
            kind: "prism",
            floor: "f",
            ceiling: "c",
            outline: [corner("s", x, y), corner("e", x + 5, y), corner("n", x + 5, y + 4), corner("w", x, y + 4)],
          },
          inputs: {},
        },
      ] as const;
    });
    const forty = {
      ...d,
      id: "forty",
      name: "Quarry Road Climbing Hall",
      spaces: Object.fromEntries(rooms),
      zones: Object.fromEntries(rooms.map(([, r]) => [r.zone, { name: r.name, services: null, inputs: {} }])),
      openings: {},
      shades: {},
      sensors: {},
      roofs: {},
      airExchanges: {},
      faceOverrides: {},
      options: {},
      evidence: {},
      surroundings: {},
    };
    const made = await fetch(`${address()}/api/projects`, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(forty) });
    const answer = (await made.json()) as { id?: string; message?: string };
    if (!answer.id) throw new Error(answer.message ?? "the forty rooms could not be stored");
    project = answer.id;
  });

  it("are filled in forty rooms by three rules, tried first, and follow when a room becomes another", async () => {
    await open("Rules");
    const before = await intensity();
    const rule = async (name: string, field: string, value: string): Promise<void> => {
      await press("Add a rule");
      await type("Name of the rule", name);
      await choose("Input it fills", field);
      const area = await browser.find('textarea[aria-label="Value of the rule"]');
      await area.click();
      await area.sendKeys(Key.chord(Key.CONTROL, "a"), value, Key.ENTER);
    };
    await rule("Fresh air", "Outdoor air of the space", "3 L/s * people + 0.35 L/s/m² * area");
    const start = await stored();
    const people = spaceUses(start).get("room_1")?.people ?? NaN;
    const gives = await browser.text('[data-testid="rule-gives"]', (t) => t.includes("L/s"));
    expect(parseFloat(gives)).toBeCloseTo(3 * people + 0.35 * 20, 1);
    expect(await browser.text('[data-testid="rule-reach"]', (t) => t !== "")).toContain("40 of 40 spaces");
    // at rest it changes nothing yet
    expect(effective(await stored(), "space", "room_1", "outdoorAirPerSpace").origin.kind).toBe("default");
    await push("Apply to all of them");
    await rule("Warm by number", "Heating set-point", "if(people > 2.5, 20 °C, 21.5 °C)");
    await push("Apply to all of them");
    await rule("Lights of the offices", "Lighting", "6 W/m² + 20 W / area");
    await press("Add a condition");
    await choose("Condition 1, add", "Office");
    await push("Apply to all of them");
    // a slip is told beside the rule, with its place
    const area = await browser.find('textarea[aria-label="Value of the rule"]');
    await area.click();
    await area.sendKeys(Key.chord(Key.CONTROL, "a"), "6 W/m² + area");
    expect(await browser.text('main[aria-label="Use"] [role="alert"]', (t) => t !== "")).toContain("do not go together");
    await area.sendKeys(Key.ESCAPE);
    const p = await saved((q) => q.rules.length === 3 && q.rules.every((r) => r.on));
    const office = idOf(p.spaceTypes, "Office");
    for (const [id, s] of Object.entries(p.spaces)) {
      const u = spaceUses(p).get(id);
      if (!u) throw new Error(id);
      expect(u.outdoorAir.needed).toBeCloseTo(0.003 * u.people + 0.00035 * u.area, 9);
      expect(effective(p, "space", id, "heatingSetpoint").value).toBeCloseTo(u.people > 2.5 ? 20 : 21.5, 6);
      expect(effective(p, "space", id, "lightingPower").origin.kind === "rule").toBe(s.spaceType === office);
    }
    const ruled = await intensity();
    expect(ruled).not.toBeCloseTo(before, 1);
    // one room becomes another type: its people, air and set-point follow
    const other = idOf(p.spaceTypes, "Waiting");
    await push("All inputs as a sheet");
    const cell = await browser.driver.wait(
      async () => (await browser.driver.findElements(By.xpath('//tr[td[1][normalize-space(.)="Room 2"]]/td[2]')))[0],
      30000,
    );
    await cell.click();
    await browser.driver.actions().sendKeys("Waiting").perform();
    await browser.driver.actions().sendKeys(Key.ENTER).perform();
    const turned = await saved((q) => q.spaces.room_2.spaceType === other);
    const [was, is] = [spaceUses(p).get("room_2"), spaceUses(turned).get("room_2")];
    expect(is?.people).not.toBeCloseTo(was?.people as number, 3);
    expect(is?.outdoorAir.needed).toBeCloseTo(0.003 * (is?.people as number) + 0.00035 * 20, 9);
    expect(effective(turned, "space", "room_2", "heatingSetpoint").value).not.toBeCloseTo(
      effective(p, "space", "room_2", "heatingSetpoint").value as number,
      6,
    );
    await undo(1);
    await saved((q) => q.spaces.room_2.spaceType === p.spaces.room_2.spaceType);
  });

  it("and typed ones are pasted into the sheet of all inputs, filled down, and taken back", async () => {
    await go(`/p/${project}/use`);
    await push("All inputs as a sheet");
    await choose("Sheet", "Lighting");
    const head = await browser.driver.wait(async () => (await browser.driver.findElements(By.xpath('//th[contains(., "Radiant share, lighting")]')))[0], 30000);
    const column = Number(await browser.driver.executeScript("return arguments[0].cellIndex", head));
    const cell = (row: number): Promise<string> =>
      browser.driver.executeScript(`return document.querySelector('[role="grid"] tbody').rows[${row}].cells[${column}].innerText`);
    await browser.driver.executeScript(
      `const cell = document.querySelector('[role="grid"] tbody').rows[0].cells[${column}];
       cell.dispatchEvent(new MouseEvent("mousedown", { bubbles: true, cancelable: true }));`,
    );
    // a block of five rows as a spreadsheet puts it on the clipboard
    await browser.driver.executeScript(
      `const data = new DataTransfer();
       data.setData("text/plain", ["0.41", "0.42", "0.43", "0.44", "0.45"].join("\\n"));
       document.querySelector('[role="grid"]').dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));`,
    );
    const pasted = await saved((p) => p.spaces.room_5.inputs.lightingRadiantShare === 0.45);
    expect(["room_1", "room_2", "room_3"].map((r) => pasted.spaces[r].inputs.lightingRadiantShare)).toEqual([0.41, 0.42, 0.43]);
    expect(await cell(0)).toContain("●");
    // filled down the whole column, then taken back in one step
    await press("Select the whole column (Ctrl-Space)");
    await press("Fill down (Ctrl-D)");
    await saved((p) => Object.values(p.spaces).every((s) => s.inputs.lightingRadiantShare === 0.41));
    await press("Select the whole column (Ctrl-Space)");
    await press("Back to inherited");
    await saved((p) => Object.values(p.spaces).every((s) => s.inputs.lightingRadiantShare === undefined));
    expect(await cell(0)).toContain("○");
    // a refused text changes nothing and is told
    await browser.driver.executeScript(
      `const data = new DataTransfer();
       data.setData("text/plain", "0.3\\n7");
       document.querySelector('[role="grid"] tbody').rows[0].cells[${column}].dispatchEvent(new MouseEvent("mousedown", { bubbles: true, cancelable: true }));
       document.querySelector('[role="grid"]').dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));`,
    );
    expect(await browser.text('[role="alert"]', (t) => t !== "")).toContain("Nothing was changed");
    expect(Object.values((await stored()).spaces).every((s) => s.inputs.lightingRadiantShare === undefined)).toBe(true);
  });
});
