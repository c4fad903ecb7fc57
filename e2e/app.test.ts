import { execFileSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { By, Key, until } from "selenium-webdriver";
import { describe, expect, it } from "vitest";
import type { Summary } from "../core/src/index.ts";
// @ts-expect-error plain JavaScript that the start scripts use before anything is installed
import { root } from "../scripts/lib/machine.mjs";
import { address, api, browser, go, INTENSITY, scratch, type, untilSaved, useApplication, violations } from "./harness.ts";

useApplication();

/** What the terminal says of a project document. */
function simulate(document: unknown): Summary {
  const file = path.join(scratch, "project.json");
  writeFileSync(file, JSON.stringify(document));
  const out = path.join(scratch, "out");
  execFileSync(process.execPath, ["--import", "tsx", "cli/src/main.ts", "simulate", file, "--out", out], { cwd: root as string, stdio: "pipe" });
  return JSON.parse(readFileSync(path.join(out, "summary.json"), "utf8")) as Summary;
}

describe("the library", () => {
  it("is in the list of projects beside the clinic", async () => {
    await go("/");
    await browser.find("table");
    const text = await browser.driver.findElement(By.css("main")).getText();
    expect(text).toContain("Saltbrush Community Library");
    expect(text).toContain("Fernhollow Veterinary Clinic");
  });

  it("follows an edit of its insulation in the Tally, first about, then exactly, and undo takes it back", async () => {
    await go("/p/library/fabric?on=assembly:wall_brick");
    await browser.exact();
    const before = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    await browser.driver.findElement(By.css("body")).sendKeys("p");
    const u = await browser.text('[data-testid="assembly-u"]', () => true);
    const thickness = await browser.find('input[aria-label="Thickness of Mineral wool"]');
    await thickness.click();
    await thickness.sendKeys(Key.chord(Key.CONTROL, "a"), "60");
    // U follows while the figure is being typed, before Enter
    await browser.text('[data-testid="assembly-u"]', (t) => Number(t) > Number(u));
    await thickness.sendKeys(Key.ESCAPE);
    await browser.text('[data-testid="assembly-u"]', (t) => t === u);
    await type("Thickness of Mineral wool", "40");
    expect(Number(await browser.text('[data-testid="assembly-u"]', (t) => t !== u))).toBeGreaterThan(Number(u));
    const about = await browser.text(INTENSITY, (t) => t.startsWith("≈"));
    expect(Number(about.slice(2))).toBeGreaterThan(Number(before));
    await browser.exact();
    const after = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    expect(Number(after)).toBeGreaterThan(Number(before) + 1);
    expect(await browser.text('footer[aria-label="Tally"]', (t) => t.includes("since"))).toContain("start");
    await (await browser.button("Undo")).click();
    await browser.text(INTENSITY, (t) => t === before);
    await browser.exact();
    expect(await browser.text(INTENSITY, () => true)).toBe(before);
    await (await browser.button("Redo")).click();
    await browser.text(INTENSITY, (t) => t === after);
  });

  it("saves by itself, and a reload comes back to the same place with the edit in it", async () => {
    await browser.text('[data-testid="saved"]', (t) => t.startsWith("Saved"));
    const { document } = await api<{ document: { assemblies: Record<string, { layers: { id: string; thickness: number }[] }> } }>("/api/projects/library");
    expect(document.assemblies.wall_brick.layers.find((l) => l.id === "insulation")?.thickness).toBe(0.04);
    await browser.driver.navigate().refresh();
    await browser.exact();
    expect(decodeURIComponent(await browser.driver.getCurrentUrl())).toContain("/p/library/fabric?on=assembly:wall_brick");
    expect(await (await browser.find('input[aria-label="Thickness of Mineral wool"]')).getAttribute("value")).toMatch(/^40/);
  });

  it("keeps a refused entry in sight with its sentence, and the figures as they were", async () => {
    const before = await browser.text(INTENSITY, () => true);
    await type("Thickness of Mineral wool", "-5");
    expect(await browser.text('[role="alert"]', (t) => t !== "")).toBe("The value must be more than 0 mm.");
    expect(await (await browser.find('input[aria-label="Thickness of Mineral wool"]')).getAttribute("value")).toBe("-5");
    expect(await browser.text(INTENSITY, () => true)).toBe(before);
    await (await browser.find('input[aria-label="Thickness of Mineral wool"]')).sendKeys(Key.ESCAPE);
  });

  it("stores a run with its progress shown; screen, stored run, browser and terminal agree to the bit", async () => {
    await go("/p/library/results");
    await browser.exact();
    const live = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    const fingerprint = await browser.text('[data-testid="fingerprint"]', (t) => t.length === 16);
    // the browser's worker, the runner and the terminal all walk in WebAssembly, and say so
    expect(await browser.text('[data-testid="computed-by"]', (t) => t !== "")).toContain("walks in WebAssembly");
    await (await browser.button("Store a run")).click();
    await browser.find('[data-testid="run"] [role="progressbar"]');
    // the newest stands first, before the two the library ships with
    await browser.text('[data-testid="run"]', (t) => t.includes("done") && t.includes(live), 240);
    const {
      runs: [{ hash, intensity, revision }],
    } = await api<{ runs: { hash: string; intensity: number; revision: number }[] }>("/api/projects/library/runs");
    const run = { hash, summary: await api<Summary>(`/api/runs/${hash}`) };
    expect(intensity).toBe(run.summary.energy.intensity);
    expect(revision).toBe((await api<{ revision: number }>("/api/projects/library")).revision);
    const { document } = await api<{ document: unknown }>("/api/projects/library");
    const terminal = simulate(document);
    expect(run.summary.energy.intensity).toBe(terminal.energy.intensity);
    expect(run.summary.fingerprint).toBe(terminal.fingerprint);
    expect(run.summary.timing.kernel).toBe("WebAssembly");
    // Chromium computed the live year, Node the other two
    expect(fingerprint).toBe(terminal.fingerprint);
    await go(`/p/library/results?run=${run.hash}`);
    const shown = await browser.text('[data-testid="result-intensity"]', (t) => t !== "");
    expect(shown).toBe(live);
    expect(shown).toBe((terminal.energy.intensity as number).toFixed(1));
    expect(await browser.text('main[aria-label="Energy"]', (t) => t.includes("stored run"))).toContain("15 minutes");
  });

  it("shows gains and losses, zones and a week of temperatures", async () => {
    await go("/p/library/results?view=zones");
    await browser.exact();
    expect((await browser.driver.findElements(By.css('table[aria-label="Zones"] tbody tr'))).length).toBeGreaterThanOrEqual(16);
    await (await browser.button("Gains and losses")).click();
    await browser.find('section[aria-label="Gains and losses"] .recharts-bar-rectangle');
    await (await browser.button("Series")).click();
    await browser.find('section[aria-label="plot 1"] canvas');
  });

  it("shares the selection between list, plan and inspector, and takes a typed set-point back", async () => {
    await go("/p/clinic/form");
    await (await browser.find('svg [aria-label^="Kennels"]')).click();
    expect(await browser.text('aside[aria-label="Inspector"] h2', (t) => t === "Kennels")).toBe("Kennels");
    expect(decodeURIComponent(await browser.driver.getCurrentUrl())).toContain("space:kennels");
    await type("Heating set-point", "23");
    await (await browser.button("back to inherited")).click();
    expect(await (await browser.find('input[aria-label="Heating set-point"]')).getAttribute("value")).toMatch(/^20/);
    await go("/p/clinic/form");
    await browser.exact();
    const before = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    await type("Glazing south", "4");
    await browser.text(INTENSITY, (t) => /^\d/.test(t) && t !== before);
    await (await browser.find("canvas")).isDisplayed();
  });

  it("is found and steered by the command bar and keys", async () => {
    await browser.driver.findElement(By.css("body")).sendKeys(Key.chord(Key.CONTROL, "k"));
    await (await browser.find('input[aria-label="Find an action or a thing"]')).sendKeys("examination", Key.ENTER);
    await browser.driver.wait(
      async () => (await browser.driver.getCurrentUrl()).includes("spaceType") || (await browser.driver.getCurrentUrl()).includes("exam_1"),
      60000,
    );
    await browser.driver.findElement(By.css("body")).sendKeys("?");
    await browser.find('[role="dialog"][aria-label="Keyboard shortcuts"]');
    await browser.driver.findElement(By.css("body")).sendKeys(Key.ESCAPE);
  });
});

describe("an import", () => {
  const take = async (name: string, text: string): Promise<string> => {
    const file = path.join(scratch, name);
    writeFileSync(file, text);
    await go("/");
    await (await browser.find('input[aria-label="Project file"]')).sendKeys(file);
    return browser.text('main [role="alert"]', (t) => t !== "");
  };
  it("of a broken JSON is told with its place, and nothing is saved", async () => {
    const before = (await api<unknown[]>("/api/projects")).length;
    const told = await take("broken.json", '{\n  "formatVersion": 1,\n  "name": "Half\n}');
    expect(told).toContain("broken.json");
    expect(told).toMatch(/not valid JSON: it breaks at line 3, column \d+/);
    const clinic = JSON.parse(readFileSync(path.join(root as string, "demo/clinic.json"), "utf8")) as { spaces: Record<string, { zone: string }> };
    clinic.spaces.office.zone = "attic";
    expect(await take("reference.json", JSON.stringify(clinic))).toContain('spaces/office/zone There is no zone "attic"');
    expect(await take("newer.json", '{"formatVersion": 999}')).toContain("newer version");
    expect((await api<unknown[]>("/api/projects")).length).toBe(before);
  });
  it("of an exported project opens it as a copy", async () => {
    const exported = await (await fetch(`${address()}/api/projects/clinic/export`)).text();
    const file = path.join(scratch, "clinic.json");
    writeFileSync(file, exported);
    await go("/");
    await (await browser.find('input[aria-label="Project file"]')).sendKeys(file);
    await browser.driver.wait(async () => (await browser.driver.getCurrentUrl()).includes("/p/clinic-2/form"), 60000);
    await browser.exact();
  });
  it("with a crossing outline is refused with its place, nothing saved", async () => {
    const before = (await api<unknown[]>("/api/projects")).length;
    const clinic = JSON.parse(readFileSync(path.join(root as string, "demo/clinic.json"), "utf8")) as {
      spaces: Record<string, { form: { outline: { x: number; y: number }[] } }>;
    };
    const [a, b] = clinic.spaces.office.form.outline;
    [a.x, b.x] = [b.x, a.x];
    expect(await take("crossed.json", JSON.stringify(clinic))).toContain("spaces/office/form/outline The outline of Office cannot be used: it crosses itself");
    expect((await api<unknown[]>("/api/projects")).length).toBe(before);
  });
  it("with a window past its wall opens with the problem in its place, shows no figure, and its fix brings the year back", async () => {
    const clinic = JSON.parse(readFileSync(path.join(root as string, "demo/clinic.json"), "utf8")) as {
      id: string;
      openings: Record<string, { offset: number }>;
    };
    clinic.openings.door.offset = 5;
    clinic.id = "past";
    const file = path.join(scratch, "past.json");
    writeFileSync(file, JSON.stringify(clinic));
    await go("/");
    await (await browser.find('input[aria-label="Project file"]')).sendKeys(file);
    expect(await browser.text('[data-testid="tally-status"]', (t) => t.includes("cannot run"))).toContain("0.60 m past its wall");
    expect(await browser.text(INTENSITY, () => true)).toBe("—");
    await (await browser.button("1 problem")).click();
    await browser.text('aside[aria-label="Problems"]', (t) => t.includes("past its wall"));
    await (await browser.find('aside[aria-label="Problems"]')).findElement(By.xpath('.//button[normalize-space(.)="Move it into its wall"]')).click();
    await browser.exact();
    expect(await browser.text(INTENSITY, (t) => /^\d/.test(t))).toMatch(/^\d/);
  });
});

/** Opens a glazing of Fabric by its name. */
async function openGlazing(name: string): Promise<void> {
  await (await browser.button("Glazing")).click();
  const item = By.xpath(`//aside[@aria-label="Fabric"]//button[starts-with(normalize-space(.),"${name}")]`);
  await (await browser.driver.wait(until.elementLocated(item), 60000)).click();
}
/** Opens the massing's glazing in Fabric. */
const toGlazing = async (): Promise<void> => {
  await browser.driver.findElement(By.css("body")).sendKeys("3");
  await openGlazing("Double, low emissivity");
};

describe("what the year is made of", () => {
  const body = (keys: string): Promise<void> => browser.driver.findElement(By.css("body")).sendKeys(keys);
  const choose = async (label: string, value: string): Promise<void> => {
    await (await browser.find(`select[aria-label="${label}"]`)).findElement(By.css(`option[value="${value}"]`)).click();
  };
  it("every choice of the calculation has a place; another sky moves the figure, undo brings it back", async () => {
    await go("/p/library/place?view=run");
    await browser.exact();
    const before = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    await choose("Sky", "isotropic");
    await browser.text(INTENSITY, (t) => /^\d/.test(t) && t !== before);
    await browser.exact();
    await choose("Convection inside", "typed");
    await browser.find('input[aria-label="Convection inside at wall"]');
    await (await browser.button("Back to the usual settings")).click();
    await browser.exact();
    expect(await browser.text(INTENSITY, (t) => t === before)).toBe(before);
  });
  it("gains and losses open to one zone and its faces, and add up to nothing", async () => {
    await go("/p/library/results?view=flows");
    await browser.exact();
    expect(await browser.text('[data-testid="flows-sum"]', (t) => t !== "")).toMatch(/^−?0\.00$/);
    await choose("Zone whose heat is shown", "reading");
    // the rows of the whole building do not open
    await browser.text('table[aria-label="Energy balance of the year by kind"] th', (t) => t.includes("Reading room"));
    const row = await browser.driver.findElement(
      By.xpath('//table[@aria-label="Energy balance of the year by kind"]//tr[td[normalize-space(.)="outside walls"]]'),
    );
    await row.click();
    expect(await browser.text('table[aria-label="Faces: outside walls"]', (t) => t.includes("Reading room"))).toContain("wall north");
  });
  it("comfort and daylight are told for the spaces that have people and sensor points", async () => {
    await go("/p/library/results?view=comfort");
    await browser.exact();
    expect(await browser.text('table[aria-label="Comfort"]', (t) => t.includes("Reading room"))).toContain("Café");
    await go("/p/library/results?view=daylight");
    await browser.exact();
    expect(await browser.text('table[aria-label="Sensor points"]', (t) => t.includes("deep"))).toContain("(proposed)");
    expect(await browser.text('table[aria-label="Lighting saved"]', (t) => t.includes("Stacks"))).toMatch(/all\s+[\d\s]+ kWh/);
  });
  it("a glazing is described by panes and the year follows; its blind can be lowered by sun", async () => {
    await go("/p/clinic/fabric");
    await browser.exact();
    const before = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    await openGlazing("Double, low emissivity");
    await (await browser.button("Describe it by panes")).click();
    await browser.find('table[aria-label="Panes"]');
    await browser.exact();
    await browser.text(INTENSITY, (t) => /^\d/.test(t) && t !== before);
    await choose("Blind of Double, low emissivity", "outside");
    await browser.find('input[aria-label="Limit of the blind of Double, low emissivity"]');
    await (await browser.button("Undo")).click();
    await (await browser.button("Undo")).click();
    await browser.exact();
    expect(await browser.text(INTENSITY, (t) => t === before)).toBe(before);
  });
  it("windows that open keep off heating and cooling: the operable share has a place in the inspector", async () => {
    await go("/p/clinic/form?on=opening:south");
    await browser.exact();
    expect(await (await browser.find('input[aria-label="Can be opened"]')).getAttribute("value")).toBe("25");
    await body(Key.ESCAPE);
  });
  it("a block in the surroundings takes sun from the figure; a tree is listed with what it lets through", async () => {
    await go("/p/clinic/place?view=surroundings");
    await browser.exact();
    const before = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    await (await browser.button("Add a tree")).click();
    await browser.find('input[aria-label="Tree lets through in Jul"]');
    await (await browser.button("Add a block")).click();
    await type("y of Block", "-12");
    await type("Height of Block", "25");
    await browser.text(INTENSITY, (t) => /^\d/.test(t) && t !== before);
    for (let i = 0; i < 4; i++) await (await browser.button("Undo")).click();
    await browser.exact();
    expect(await browser.text(INTENSITY, (t) => t === before)).toBe(before);
  });
});

describe("a massing and its options", () => {
  it("makes a complete model in one step, without a problem", async () => {
    await go("/");
    await (await browser.button("New project from a massing")).click();
    await type("Length", "200000");
    await browser.text('main [role="alert"]', (t) => t.includes("500 m"));
    await type("Length", "30");
    await type("Storeys", "1");
    await (await browser.button("Make the model")).click();
    await browser.driver.wait(async () => (await browser.driver.getCurrentUrl()).includes("/p/massing/form"), 60000);
    await browser.exact();
    await browser.button("No problems");
    expect(await browser.text('aside[aria-label="Storeys and spaces"]', () => true)).toMatch(/South[\s\S]*East[\s\S]*North[\s\S]*West[\s\S]*Core/);
  });
  it("is the first state of Form for a project without a space", async () => {
    const empty = {
      ...(JSON.parse(readFileSync(path.join(root as string, "demo/clinic.json"), "utf8")) as object),
      id: "empty",
      name: "Empty plot",
      spaces: {},
      zones: {},
      openings: {},
      shades: {},
      airSystems: {},
    };
    const file = path.join(scratch, "empty.json");
    writeFileSync(file, JSON.stringify(empty));
    await go("/");
    await (await browser.find('input[aria-label="Project file"]')).sendKeys(file);
    await browser.text('main[aria-label="Massing"]', (t) => t.includes("Nothing is drawn yet"));
    await (await browser.button("Make the model")).click();
    await browser.exact();
    await browser.button("No problems");
    await (await browser.button("Undo")).click();
    await browser.text('main[aria-label="Massing"]', (t) => t.includes("Nothing is drawn yet"));
  });
  it("an option with better glass is a list of changes, compared with the base", async () => {
    await go("/p/massing/options");
    await (await browser.button("Make an option")).click();
    await browser.text('header select[aria-label="Option in view"]', (t) => t.includes("Option 1"));
    await toGlazing();
    await type("U with frame of Double, low emissivity", "0.8");
    await browser.exact();
    expect(await browser.text("header", (t) => t.includes("1 change over base"))).toContain("Option 1");
    await browser.driver.findElement(By.css("body")).sendKeys("7");
    const base = Number(await browser.text('[data-testid="intensity-base"]', (t) => /^\d/.test(t)));
    const better = await browser.text('[data-testid="intensity-option_1"]', (t) => /^\d/.test(t));
    expect(Number(better)).toBeLessThan(base);
    expect(await browser.text('table[aria-label="Inputs that differ"]', (t) => t.includes("U"))).toMatch(/1\.5 W\/m²K\s+0\.8 W\/m²K/);
    expect(decodeURIComponent(await browser.driver.getCurrentUrl())).toContain("option=option_1");
    await browser.driver.navigate().refresh();
    await browser.exact();
    expect(await browser.text("header", (t) => t.includes("1 change over base"))).toContain("Option 1");
  });
  it("gives one of its changes to the base, and lists one the base has overtaken as no longer fitting", async () => {
    await toGlazing();
    await type("g of the glass of Double, low emissivity", "0.44");
    await browser.text("header", (t) => t.includes("2 changes over base"));
    await browser.driver.findElement(By.css("body")).sendKeys("7");
    const rows = await browser.driver.wait(async () => {
      const found = await browser.driver.findElements(By.xpath('//aside[@aria-label="Inspector"]//button[normalize-space(.)="Move to base"]'));
      return found.length === 2 ? found : null;
    }, 60000);
    await (rows as { click(): Promise<void> }[])[1].click();
    await browser.text("header", (t) => t.includes("1 change over base"));
    const { document } = await untilSaved<{ document: { glazings: { glazing: { u: number; g: number } }; options: Record<string, { changes: unknown[] }> } }>(
      "/api/projects/massing",
      (d) => d.document.glazings.glazing.g === 0.44,
    );
    expect(document.glazings.glazing.u).toBe(1.5);
    expect(document.options.option_1.changes).toHaveLength(1);
    // the base sets the same value itself: the option's change no longer finds what it replaced
    await (await browser.find('header select[aria-label="Option in view"]')).findElement(By.css('option[value=""]')).click();
    await toGlazing();
    await type("U with frame of Double, low emissivity", "1.3");
    await (await browser.button("1 problem")).click();
    await browser.text('aside[aria-label="Problems"]', (t) => t.includes('Option "Option 1" has a change that no longer fits'));
    await (await browser.button("Undo")).click();
    await browser.button("No problems");
    await (await browser.find('header select[aria-label="Option in view"]')).findElement(By.css('option[value="option_1"]')).click();
    await browser.driver.findElement(By.css("body")).sendKeys("7");
  });
  it("adopted, becomes the base; undone, is an option again", async () => {
    await (await browser.button("Adopt as the base")).click();
    await browser.button("Make an option");
    const { document } = await untilSaved<{ document: { glazings: { glazing: { u: number } }; options: object } }>(
      "/api/projects/massing",
      (d) => d.document.glazings.glazing.u === 0.8,
    );
    expect(document.options).toEqual({});
    await (await browser.button("Undo")).click();
    await browser.text('aside[aria-label="Options"]', (t) => t.includes("Option 1"));
  });
  it("shows the peaks of its design days beside typed capacities", async () => {
    await go("/p/massing/services?view=peaks");
    const table = await browser.text('table[aria-label="Peaks of design days"]', (t) => t.includes("Building, at one time"));
    expect(table).toMatch(/Building, at one time\s+\d+\.\d/);
    // left to sizing until one is typed
    await (await browser.find('table[aria-label="Peaks of design days"] tbody button[title*="another capacity for Core"]')).click();
    await browser.find('input[aria-label="Heating capacity of Core"]');
  });
});

describe("compliance", () => {
  it("shows rows, the changes of the reference building with their clauses, index and letter", async () => {
    await go("/p/massing/compliance");
    await browser.find('[data-testid="compliance"][data-stage="exact"]', 120);
    const letter = await browser.text('[data-testid="compliance-letter"]', (t) => /^[A-G]$/.test(t));
    const index = Number(await browser.text('[data-testid="compliance-index"]', (t) => /^\d/.test(t)));
    expect(await browser.text('table[aria-label="mandatory checks"]', (t) => t.includes("§ 5.1"))).toMatch(/pass|fail/);
    await go("/p/massing/compliance?view=reference");
    expect(await browser.text('table[aria-label="Changes of the reference building, envelope"]', (t) => t.includes("§"))).toContain("thickness");
    const { document } = await api<{ document: unknown }>("/api/projects/massing");
    const file = path.join(scratch, "complied.json");
    writeFileSync(file, JSON.stringify(document));
    const out = path.join(scratch, "complied");
    execFileSync(process.execPath, ["--import", "tsx", "cli/src/main.ts", "comply", file, "--pack", "plateau", "--out", out], {
      cwd: root as string,
      stdio: "pipe",
    });
    const terminal = JSON.parse(readFileSync(path.join(out, "compliance.json"), "utf8")) as { index: number; letter: string };
    expect(terminal.letter).toBe(letter);
    expect(terminal.index.toFixed(1)).toBe(index.toFixed(1));
  });
  it("prints a page with every assumption and its origin", async () => {
    await go("/print/massing");
    await browser.find('[data-testid="compliance-letter"]');
    const text = await browser.text("main", (t) => t.includes("Sign-off"));
    for (const words of ["Plateau Energy Code", "climate zone 5", "Every input of every space", "from Office", "default", "Prepared by"])
      expect(text).toContain(words);
    const { data } = (await (
      browser.driver as unknown as { sendAndGetDevToolsCommand(c: string, p: object): Promise<{ data: string }> }
    ).sendAndGetDevToolsCommand("Page.printToPDF", { preferCSSPageSize: true })) as { data: string };
    const pdf = Buffer.from(data, "base64").toString("latin1");
    expect((pdf.match(/\/Type\s*\/Page[^s]/g) ?? []).length).toBeGreaterThan(2);
  });
});

describe("every screen", () => {
  it.each([
    "/",
    "/p/library/place",
    "/p/library/form?on=space:reading",
    "/p/library/fabric",
    "/p/library/fabric?on=glazing:double_low_e",
    "/p/library/fabric?on=material:brick",
    "/p/library/fabric?on=kit:standard",
    "/p/library/use",
    "/p/library/services",
    "/p/library/services?view=peaks",
    "/p/library/place?view=run",
    "/p/library/place?view=surroundings",
    "/p/library/place?view=calendar",
    "/p/library/results?view=flows&of=reading",
    "/p/library/results?view=comfort",
    "/p/library/results?view=daylight",
    "/p/library/results?view=peaks",
    "/p/clinic/options",
    "/p/library/compliance",
    "/p/library/results",
    "/p/library/results?view=series",
    "/p/library/results?view=why&load=cooling&zone=meeting",
    "/p/library/results?view=building",
    "/p/library/results?view=matters",
    "/p/library/results?view=compare",
  ])("%s has no serious accessibility violation and no error in the console", async (where) => {
    await browser.driver.manage().logs().get("browser");
    await go(where);
    if (where !== "/") await browser.exact();
    else await browser.find("table");
    expect(await violations()).toEqual([]);
    const severe = (await browser.driver.manage().logs().get("browser")).filter((e) => e.level.name === "SEVERE");
    expect(severe.map((e) => e.message)).toEqual([]);
  });
  it("of an unknown project or stage says so", async () => {
    await go("/p/nobody/form");
    expect(await browser.text("body", (t) => t.includes("did not open"))).toContain('There is no project "nobody"');
    await go("/p/library/attic");
    await browser.text("body", (t) => t.includes("404"));
  });
});
