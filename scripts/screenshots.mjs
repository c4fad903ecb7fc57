// npm run screenshots: one current picture of each main view, from the demo data, into docs/screenshots.
import { mkdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import { ensureBuild, ensureModules, ensurePackages, freePort, root, startApplication, startPostgres } from "./lib/machine.mjs";

ensurePackages();
ensureModules();
const { openBrowser } = await import("./lib/browser.mjs");
const { By } = await import("selenium-webdriver");
const out = path.join(root, "docs/screenshots");
mkdirSync(out, { recursive: true });
let address = process.env.ARROYO_ADDRESS;
let stop = async () => undefined;
if (!address) {
  const database = await startPostgres({ name: "screenshots", throwaway: true });
  await ensureBuild();
  const app = await startApplication({ url: database.url, port: await freePort(), quiet: true });
  address = app.address;
  stop = async () => {
    await Promise.all([app.web.kill(), app.runner.kill()]);
    database.stop();
  };
}
const only = process.argv.slice(2);
const views = [
  { name: "projects", path: "/", live: false, keep: false },
  { name: "massing", path: "/", live: false, massing: true, keep: false },
  { name: "place", path: "/p/library/place" },
  { name: "place-prices", path: "/p/library/place?view=prices", keep: false },
  { name: "place-design", path: "/p/library/place?view=design", wait: 1500, keep: false },
  { name: "place-calculation", path: "/p/library/place?view=run", keep: false },
  { name: "place-surroundings", path: "/p/library/place?view=surroundings", keep: false },
  { name: "form", path: "/p/library/form?on=space:reading" },
  { name: "form-elevation", path: "/p/library/form?on=wall:entrance/s", press: "Elevation", keep: false },
  { name: "form-sheets", path: "/p/library/form", press: "Sheets", keep: false },
  { name: "form-sun", path: "/p/library/form", press: "Sun study", wait: 20000 },
  { name: "form-building", path: "/p/library/form?on=space:reading", press: "Building", wait: 2500, keep: false },
  { name: "fabric", path: "/p/library/fabric?on=assembly:wall_brick" },
  { name: "fabric-glazing", path: "/p/library/fabric?on=glazing:south_panes", keep: false },
  { name: "use", path: "/p/library/use?on=spaceType:reading" },
  { name: "use-rules", path: "/p/clinic/use", prepare: "rules", keep: false },
  { name: "services", path: "/p/library/services?on=component:airSystems/ground_air/parts/cooling", press: "most cooling" },
  { name: "services-bench", path: "/p/library/services?view=bench&of=component:loops/chilled/parts/chiller" },
  { name: "services-peaks", path: "/p/library/services?view=peaks", wait: 15000, keep: false },
  { name: "services-water", path: "/p/library/services?on=component:waterSystems/tap_water" },
  { name: "services-array", path: "/p/library/services?on=component:onSite/roof_array", keep: false },
  { name: "options", path: "/p/clinic/options", prepare: "options" },
  { name: "options-study", path: "/p/library/options?study=envelope", prepare: "study" },
  { name: "options-compose", path: "/p/library/options?study=envelope&read=compose" },
  { name: "options-staircase", path: "/p/library/options?read=staircase", wait: 150000, keep: false },
  { name: "compliance", path: "/p/clinic/compliance?view=performance", text: "compliance-letter", wait: 25000 },
  { name: "certificate", path: "/print/library", live: false, text: "compliance-letter", keep: false },
  { name: "results-energy", path: "/p/library/results" },
  { name: "results-flows", path: "/p/library/results?view=flows", keep: false },
  { name: "results-flows-zone", path: "/p/library/results?view=flows&of=reading", keep: false },
  { name: "results-peaks", path: "/p/library/results?view=peaks", wait: 15000, keep: false },
  { name: "results-comfort", path: "/p/library/results?view=comfort", keep: false },
  { name: "results-daylight", path: "/p/library/results?view=daylight", keep: false },
  { name: "results-zones", path: "/p/library/results?view=zones", keep: false },
  { name: "results-hour", path: "/p/library/results?view=why&load=cooling&zone=workshop", wait: 15000 },
  { name: "results-series", path: "/p/library/results?view=series", wait: 20000 },
  { name: "results-matters", path: "/p/library/results?view=matters", wait: 90000 },
  { name: "results-building", path: "/p/library/results?view=building", wait: 20000 },
  { name: "airflow", path: "/p/hall/results?view=airflow", wait: 25000 },
  // last: it brings points into the library
  { name: "measured", path: "/p/library/measured?view=read", prepare: "measured", wait: 2500 },
];
/** Three options of the clinic with some changes each. */
async function prepareOptions(b, root) {
  const { document, revision } = await (await fetch(`${root}/api/projects/clinic`)).json();
  if (Object.keys(document.options).length === 0) {
    const u = document.glazings.double_low_e;
    const wall = document.assemblies.wall_brick.layers.find((l) => l.id === "insulation");
    const glass = [
      { op: "set", path: ["glazings", "double_low_e", "u"], value: 0.9, old: u.u },
      { op: "set", path: ["glazings", "double_low_e", "g"], value: 0.46, old: u.g },
    ];
    const walls = [...glass, { op: "set", path: ["assemblies", "wall_brick", "layers", "insulation", "thickness"], value: 0.2, old: wall.thickness }];
    const tight = [...walls, { op: "set", path: ["spaceTypes", "exam", "inputs", "infiltration"], value: 0.15, old: 0.3 }];
    const named = (changes) => changes.map((c, i) => ({ id: `c${i + 1}`, ...c }));
    const options = {
      glass: { name: "Better glass", changes: named(glass) },
      wrap: { name: "Glass and walls", changes: named(walls) },
      tight: { name: "Tighter too", changes: named(tight) },
    };
    const edits = Object.entries(options).map(([id, value]) => ({ name: value.name, changes: [{ op: "insert", path: ["options", id], value }] }));
    const saved = await fetch(`${root}/api/projects/clinic/revisions`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ base: revision, edits }),
    });
    if (!saved.ok) throw new Error(await saved.text());
  }
  await b.driver.get(`${root}/p/clinic/options?option=wrap`);
  await b.text('[data-testid="intensity-tight"]', (t) => /\d/.test(t), 60);
}

/** The library's study with some limits, three runs kept and one chosen. */
async function prepareStudy(b) {
  const pick = async (label, words) => {
    const list = await b.find(`select[aria-label="${label}"]`);
    for (const o of await list.findElements(By.css("option"))) if ((await o.getText()).startsWith(words)) return o.click();
    throw new Error(`no "${words}" in ${label}`);
  };
  await b.text('[data-testid="runs-left"]', (t) => t === "109", 60);
  await (await b.button("Runs as a sheet")).click();
  const sheet = 'table[aria-label="Runs"] tbody tr';
  await b.find(sheet);
  for (const n of [58, 75, 40]) {
    await b.driver.executeScript("document.querySelectorAll(arguments[0])[arguments[1]].click()", sheet, n);
    await b.driver.sleep(400);
    await b.driver.executeScript("[...document.querySelectorAll('button')].find((x) => x.textContent === 'Keep beside the base')?.click()");
    await b.driver.sleep(400);
  }
  await (await b.button("Axes")).click();
  await b.find('[data-testid="axes"] canvas');
  for (const [figure, most] of [
    ["Site energy", "96"],
    ["Investment", "20000"],
  ]) {
    await pick("Limit an axis", figure);
    const field = await b.find(`input[aria-label="Most of ${figure}"]`);
    await field.click();
    await field.sendKeys("\uE009a\uE000", most, "\uE007");
  }
  await pick("Limit an axis", "Limit");
}

/** Two rules of the clinic, the second still tried. */
async function prepareRules(b, root) {
  const { document, revision } = await (await fetch(`${root}/api/projects/clinic`)).json();
  if (document.rules.length === 0) {
    const rule = (id, name, on, field, value, conditions) => ({ id, name, on, target: "space", field, conditions, value });
    const rules = [
      rule("warm", "Warmer where animals are", true, "heatingSetpoint", "22 °C", [{ id: "c1", on: "name", not: false, is: ["ward", "kennel"] }]),
      rule("air", "Fresh air by people and floor", false, "outdoorAirPerSpace", "3 L/s * people + 0.35 L/s/m² * area", []),
    ];
    const edits = rules.map((value) => ({ name: value.name, changes: [{ op: "insert", path: ["rules", value.id], value }] }));
    const headers = { "content-type": "application/json" };
    const saved = await fetch(`${root}/api/projects/clinic/revisions`, { method: "POST", headers, body: JSON.stringify({ base: revision, edits }) });
    if (!saved.ok) throw new Error(await saved.text());
  }
  await b.driver.get(`${root}/p/clinic/use?on=rule:air`);
  await b.exact();
}

/** The library with the logger's year, a week of July in which its cooling valve stuck. */
async function prepareMeasured(b, root) {
  const { document } = await (await fetch(`${root}/api/projects/library`)).json();
  if (!document.points) {
    await (await b.button("Read plant.csv")).click();
    await b.find('[data-testid="as-read"]');
    await (await b.button("Take 13 points")).click();
    await b.find('table[aria-label="Points"]');
    await (await b.button("Week by week")).click();
    await (await b.button("Choose what to compare")).click();
    await b.driver.sleep(1500);
    await b.driver.executeScript("[...document.querySelectorAll('button')].find((x) => x.textContent.startsWith('Compare these')).click()");
    await b.driver.sleep(5000);
  }
  await b.driver.get(`${root}/p/library/measured?view=weeks&pair=study_rooms_east_temperature`);
  await b.find('[data-testid="compared"][data-current="true"]', 300);
  await b.driver.executeScript("document.querySelector('[data-testid=odd-weeks] button')?.click()");
}

const browser = await openBrowser();
try {
  for (const view of views) {
    // views that are not kept are taken only when named, into .local
    if (only.length > 0 ? !only.includes(view.name) : view.keep === false) continue;
    await browser.driver.get(address + view.path);
    if (view.live === false && !view.text) await browser.find("table");
    else if (view.live === false) await browser.find("main", 60);
    else await browser.exact();
    if (view.text) await browser.find(`[data-testid="${view.text}"]`, 60);
    if (view.massing) {
      await (await browser.button("New project from a massing")).click();
      await browser.find('svg[aria-label="Plan of one storey"]');
    }
    if (view.click) await (await browser.driver.findElement(By.xpath(`//aside//button[starts-with(normalize-space(.),"${view.click}")]`))).click();
    if (view.press) await (await browser.button(view.press)).click();
    if (view.prepare === "options") await prepareOptions(browser, address);
    if (view.prepare === "study") await prepareStudy(browser);
    if (view.prepare === "rules") await prepareRules(browser, address);
    if (view.prepare === "measured") await prepareMeasured(browser, address);
    await browser.driver.sleep(view.wait ?? 1200);
    const file = path.join(view.keep === false ? path.join(root, ".local") : out, `${view.name}.png`);
    writeFileSync(file, Buffer.from(await browser.driver.takeScreenshot(), "base64"));
    console.log(path.relative(root, file));
  }
} finally {
  await browser.close();
  await stop();
}
