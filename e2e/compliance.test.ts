import { execFileSync } from "node:child_process";
import { readFileSync, readdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import { By, Key } from "selenium-webdriver";
import { describe, expect, it } from "vitest";
import type { Project } from "../core/src/index.ts";
// @ts-expect-error plain JavaScript that the start scripts use before anything is installed
import { root } from "../scripts/lib/machine.mjs";
import { api, browser, choose, go, press, push, scratch, undo, untilSaved, useApplication, violations } from "./harness.ts";

useApplication();

const STAGE = (s: string): string => `[data-testid="compliance"][data-stage="${s}"]`;
const INDEX = '[data-testid="compliance-index"]';
const clinic = async (): Promise<Project> => (await api<{ document: Project }>("/api/projects/clinic")).document;

/** The clinic as another program might hand it over: storeys without names, materials that say nothing, words of its own for the uses. */
function strangeFile(): string {
  const file = path.join(scratch, "strange.xml");
  execFileSync(process.execPath, ["--import", "tsx", "cli/src/main.ts", "export", "demo/clinic.json", "--format", "gbxml", "--out", file], {
    cwd: root as string,
    stdio: "pipe",
  });
  const text = readFileSync(file, "utf8")
    .replace(/(<BuildingStorey id=")ground(">)\s*<Name>[^<]*<\/Name>/, "$1lvl-0$2")
    .replaceAll('buildingStoreyIdRef="ground"', 'buildingStoreyIdRef="lvl-0"')
    .replace(/(<Material id="[^"]*">)[\s\S]*?(<\/Material>)/g, "$1<Name>unnamed stuff</Name>$2")
    .replace(/<U-value[^>]*>[^<]*<\/U-value>/g, "")
    .replaceAll('spaceType="Examination"', 'spaceType="Consulting, surgery side"')
    .replaceAll('spaceType="Office"', 'spaceType="Staff desks"');
  writeFileSync(file, text);
  return file;
}

describe("the reference building of a file from elsewhere", () => {
  it("is there at once, matched in a sheet, although the design fails; exported by itself and run as a project of its own", async () => {
    await go("/");
    await (await browser.find('input[aria-label="Project file"]')).sendKeys(strangeFile());
    await browser.text('table[aria-label="Matching sheet"]', (t) => t.includes("Brick cavity wall"));
    await browser.driver.wait(
      async () => {
        for (const b of await browser.driver.findElements(By.css('[aria-label="Import"] button')))
          if (/^Take \d+ suggestions?$/.test(await b.getText())) return (await b.click(), true);
        return false;
      },
      30000,
      "no suggestions",
    );
    await browser.text('[aria-label="Import"]', (t) => !/Take \d+ suggestion/.test(t));
    await push("Make the project");
    await browser.driver.wait(async () => (await browser.driver.getCurrentUrl()).includes("/p/"), 60000);
    const id = decodeURIComponent((await browser.driver.getCurrentUrl()).split("/p/")[1].split(/[/?]/)[0]);
    // before any year has run: changes with clauses, the reference by its map
    await go(`/p/${id}/compliance?view=reference`);
    const changes = await browser.text('table[aria-label="Changes of the reference building, lighting"]', (t) => t.includes("§ 4.1"), 60);
    expect(changes).toContain("lighting");
    expect(await browser.text('table[aria-label="Systems of the reference building"]', (t) => t.includes("§ 6.6"))).toMatch(/Reference/);
    // matched: the file's own words suggest the uses, and the storey gets a name
    await go(`/p/${id}/compliance?view=match`);
    await push("Spaces");
    const rows = await browser.text("table", (t) => t.includes("Consulting, surgery side"));
    expect(rows).toMatch(/Consulting, surgery side[\s\S]*workshop and treatment/);
    await push("Take every suggestion");
    const { document } = await untilSaved<{ document: Project }>(`/api/projects/${id}`, (s) => Object.values(s.document.storeys)[0].name === "Ground floor");
    expect(Object.keys({ ...document.compliance?.uses, ...document.compliance?.spaceUses }).length).toBeGreaterThan(2);
    await undo(1);
    await untilSaved<{ document: Project }>(`/api/projects/${id}`, (s) => s.document.compliance === undefined);
    // exported by itself, and opened as a project
    await go(`/p/${id}/compliance?view=reference`);
    await push("Export as JSON");
    const made = await browser.driver.wait(() => readdirSync(browser.profile).find((f) => f.endsWith("-reference.json")), 30000, "no file");
    const reference = JSON.parse(readFileSync(path.join(browser.profile, made as string), "utf8")) as Project;
    expect(reference.name).toContain("reference");
    expect(Object.values(reference.zones).some((z) => (z.equipment?.length ?? 0) > 0)).toBe(true);
    await push("Open as a project of its own");
    await browser.driver.wait(async () => !(await browser.driver.getCurrentUrl()).includes(`/p/${id}/`), 60000);
    expect(await browser.text("header", (t) => t.includes("reference"))).toContain("reference");
  });
});

describe("the prescriptive path of the clinic", () => {
  it("shows required beside proposed, goes to the thing, fixes by a copy at the limit, colours the building", async () => {
    await go("/p/clinic/compliance?view=submission");
    await choose("Path", "prescriptive");
    await untilSaved<{ document: Project }>("/api/projects/clinic", (s) => s.document.compliance?.path === "prescriptive");
    await go("/p/clinic/compliance");
    const failed = async (): Promise<number> => Number(/(\d+) open/.exec(await browser.text('[aria-label="Compliance"]', (t) => /\d+ open/.test(t), 60))?.[1]);
    const before = await failed();
    expect(await browser.text('table[aria-label="prescriptive checks"]', (t) => t.includes("≤"))).toMatch(/✗ fail[\s\S]*✓ pass/);
    await push("At the limit");
    await browser.text('[aria-label="Compliance"]', (t) => t.includes(`${before - 1} open`), 60);
    await push("At the allowance");
    await browser.text('[aria-label="Compliance"]', (t) => t.includes(`${before - 2} open`), 60);
    await undo(2);
    await browser.text('[aria-label="Compliance"]', (t) => t.includes(`${before} open`), 60);
    await go("/p/clinic/compliance?view=building");
    await browser.find('[aria-label="Building by pass and fail"] canvas', 60);
    expect(await browser.text("main, body", (t) => t.includes("of the envelope open"))).toMatch(/\d+ rows? of the envelope open/);
    expect(await violations()).toEqual([]);
    // a click on a row goes to the thing
    await go("/p/clinic/compliance");
    await push("Reception");
    await browser.driver.wait(async () => (await browser.driver.getCurrentUrl()).includes("/form"), 30000);
  });
  it("excepts a row by its reason, and takes attested rows", async () => {
    await go("/p/clinic/compliance");
    await browser.text('table[aria-label="attested checks"]', (t) => t.includes("not attested"), 60);
    const by = await browser.find('input[aria-label^="Attested by: Pipes"]');
    await by.click();
    await by.sendKeys("M. Alder", Key.ENTER);
    await browser.text('table[aria-label="attested checks"]', (t) => t.includes("✓ attested"));
    await push("Make an exception");
    const reason = await browser.find('input[aria-label^="Reason for the exception"]');
    await reason.click();
    await reason.sendKeys("A listed front.", Key.ENTER);
    await browser.text('table[aria-label="prescriptive checks"]', (t) => t.includes("◇ excepted"));
    const { document } = await untilSaved<{ document: Project }>(
      "/api/projects/clinic",
      (s) => Object.keys(s.document.compliance?.exceptions ?? {}).length === 1,
    );
    expect(document.compliance?.attested?.insulated_pipes.by).toBe("M. Alder");
    await undo(2);
    await untilSaved<{ document: Project }>("/api/projects/clinic", (s) => Object.keys(s.document.compliance?.exceptions ?? {}).length === 0);
  });
});

describe("daylight areas of the library", () => {
  it("are drawn on the plan and on the building; control is given in one action and undone; the sheet takes what is typed", async () => {
    await go("/p/library/compliance?view=daylight");
    const said = await browser.text('[data-testid="control-lacking"]', (t) => t.includes("§ 4.3"), 60);
    expect(said).toMatch(/(\d+) spaces? lacks? it/);
    await browser.find('svg[aria-label^="Daylight areas of"] path');
    await push("Control where it is required");
    await browser.text('[data-testid="control-lacking"]', (t) => t.includes("Every space that needs control has it."));
    await undo(1);
    expect(await browser.text('[data-testid="control-lacking"]', (t) => /lacks? it/.test(t))).toBe(said);
    await push("In 3D");
    await browser.find("canvas", 60);
    await push("Sheet");
    expect(await browser.text("table", (t) => t.includes("Primary sidelit"))).toContain("Least by the pack");
    expect(await violations()).toEqual([]);
  });
});

describe("the performance path of the clinic", () => {
  it("rates by four measures, shows both buildings by end use, who wins and loses, and hours unmet of both", async () => {
    await go("/p/clinic/compliance?view=submission");
    await choose("Path", "performance");
    await go("/p/clinic/compliance?view=performance");
    await browser.find(STAGE("exact"), 120);
    const index = Number(await browser.text(INDEX, (t) => /^\d/.test(t)));
    const table = await browser.text('table[aria-label="Both buildings by end use"]', (t) => t.includes("All"));
    expect(table).toContain("hot water");
    expect(await browser.text('[aria-label="Trade-off between parts"]', (t) => /wins|loses/.test(t), 120)).toMatch(/envelope[\s\S]*services/);
    expect(await browser.text('table[aria-label="Hours unmet of both buildings"]', (t) => /Design\s+\d/.test(t))).toContain("Apart");
    expect(await browser.text('[aria-label="Tally of the reference building"]', (t) => /\d/.test(t))).toContain("reference building");
    // by the hour in place of yearly factors: another index, against another target
    await go("/p/clinic/compliance?view=submission");
    await choose("Code or rating", "Plateau Energy Code, hourly-value edition");
    await untilSaved<{ document: Project }>("/api/projects/clinic", (s) => s.document.compliance?.pack === "plateau_hourly");
    const estimate = await browser.text(INDEX, (t) => /^≈ \d/.test(t) || /^\d/.test(t), 120);
    expect(Number(estimate.replace("≈ ", ""))).not.toBe(index);
    expect(await browser.text("body", (t) => t.includes("passes at 95 and below"))).toContain("Letter by index".toUpperCase());
    await undo(1);
    expect((await clinic()).compliance?.parts).toHaveLength(4);
  });
});

describe("the certificate and a pack made here", () => {
  it("is submitted to a registry that answers, is slow to, or is down", async () => {
    await go("/p/clinic/compliance?view=certificate");
    await browser.find(STAGE("exact"), 120);
    await choose("The registry answers", "answers not at all");
    await push("Submit the certificate");
    await browser.text('[data-testid="registry-said"]', (t) => t.includes("The registry is down. Nothing was submitted"));
    await choose("The registry answers", "answers at once");
    await push("Submit the certificate");
    await browser.text('table[aria-label="Receipts of the registry"]', (t) => /PLT-\d{8}-[0-9A-F]{8}/.test(t) && t.includes("yes"));
    await undo(1);
  });
  it("is copied, changed by climate zone, tells what it would change, and is used", async () => {
    await go("/p/clinic/compliance?view=packs");
    await push("Copy of the one below");
    const limit = await browser.find('input[aria-label="Outside walls, U, zone 5"]');
    await limit.click();
    await limit.sendKeys(Key.chord(Key.CONTROL, "a"), "0.15", Key.ENTER);
    expect(await browser.text('table[aria-label="What the pack would change"]', (t) => t.includes("at most 0.15"), 60)).toContain("fail");
    await press("Remove Plateau Energy Code, copy");
    await untilSaved<{ document: Project }>("/api/projects/clinic", (s) => Object.keys(s.document.packs ?? {}).length === 0);
    expect(await violations()).toEqual([]);
  });
});
