// How soon the page answers an edit: the library in headless Chromium, by its own clocks.
import { ensureBuild, freePort, startApplication, startPostgres } from "./machine.mjs";
import { openBrowser } from "./browser.mjs";

const median = (v) => [...v].sort((a, b) => a - b)[Math.floor(v.length / 2)];

/** Watches the figures and the long tasks of the page from here on. */
const WATCH = `
window.__watch = { began: 0, marks: [], long: [] };
new PerformanceObserver((list) => { for (const e of list.getEntries()) window.__watch.long.push([e.startTime, e.duration]); }).observe({ type: "longtask" });
const tally = document.querySelector('footer[aria-label="Tally"]');
new MutationObserver(() => {
  const w = window.__watch;
  const mark = document.querySelector("[data-mark]")?.getAttribute("data-mark");
  const figure = document.querySelector('[data-testid="tally-intensity"]')?.textContent;
  const last = w.marks[w.marks.length - 1];
  if (!last || last.mark !== mark || last.figure !== figure) w.marks.push({ at: performance.now(), mark, figure });
}).observe(tally, { subtree: true, childList: true, characterData: true, attributes: true });
document.addEventListener("keydown", (e) => { if (e.key === "Enter") { window.__watch.began = performance.now(); window.__watch.marks = []; window.__watch.long = []; } }, true);
`;

/** Times after Enter in a field of the library: mark, first new figure, exact one, longest task of the page, s. Answers medians and all turns. */
export async function measureAnswers(turns = 5) {
  process.env.ARROYO_QUIET = "1";
  await ensureBuild();
  const database = await startPostgres({ name: "bench", throwaway: true });
  const app = await startApplication({ url: database.url, port: await freePort(), quiet: true, runner: false });
  const browser = await openBrowser();
  try {
    const { driver } = browser;
    await driver.get(`${app.address}/p/library/fabric?on=assembly:wall_brick`);
    await browser.exact();
    await driver.sleep(4000);
    await driver.executeScript(WATCH);
    const all = [];
    for (let i = 0; i <= turns; i++) {
      const field = await browser.find('input[aria-label="Thickness of Mineral wool"]');
      await field.click();
      await field.sendKeys("\uE009a\uE000", String(60 + 7 * i), "\uE007");
      await driver.sleep(150);
      await driver.wait(async () => (await driver.executeScript("return window.__watch.marks.some((m) => m.mark === 'exact')")) === true, 120000);
      const { began, marks, long } = await driver.executeScript("return window.__watch");
      const first = (test) => (marks.find(test)?.at - began) / 1000;
      // the first turn warms the page and its worker
      if (i > 0)
        all.push({
          marked: first((m) => m.mark !== "exact"),
          figure: first((m) => m.mark === "estimate" || m.mark === "exact"),
          exact: first((m) => m.mark === "exact"),
          longest: Math.max(0, ...long.map(([, d]) => d)) / 1000,
        });
      // the short year of the next difference is made when nothing else is to be done
      await driver.sleep(3000);
    }
    await driver.get(`${app.address}/p/clinic/form`);
    await browser.exact();
    await driver.get(`${app.address}/p/library/fabric`);
    const opened = await driver.executeAsyncScript(
      "const done = arguments[0]; const look = () => (document.querySelector('[data-mark=\"exact\"]') ? done(performance.now() / 1000) : setTimeout(look, 10)); look();",
    );
    const of = (key) => median(all.map((a) => a[key]));
    return { marked: of("marked"), figure: of("figure"), exact: of("exact"), longest: of("longest"), opened, all };
  } finally {
    await browser.close();
    await app.web.kill();
    database.stop();
  }
}
