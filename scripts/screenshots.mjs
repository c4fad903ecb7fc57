// npm run screenshots: one current picture of each main view, from the demo data, into docs/screenshots.
import { mkdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import { ensureBuild, ensureModules, ensurePackages, freePort, root, startApplication, startPostgres } from "./lib/machine.mjs";

ensurePackages();
ensureModules();
const { openBrowser } = await import("./lib/browser.mjs");
const out = path.join(root, "docs/screenshots");
mkdirSync(out, { recursive: true });
let address = process.env.ARROYO_ADDRESS;
let stop = async () => undefined;
if (!address) {
  const database = await startPostgres({ name: "screenshots", throwaway: true });
  ensureBuild();
  const app = await startApplication({ url: database.url, port: await freePort(), quiet: true });
  address = app.address;
  stop = async () => {
    await Promise.all([app.web.kill(), app.runner.kill()]);
    database.stop();
  };
}
const only = process.argv.slice(2);
const views = [
  { name: "projects", path: "/", live: false },
  { name: "place", path: "/p/library/place" },
  { name: "form", path: "/p/library/form?on=space:reading" },
  { name: "fabric", path: "/p/library/fabric?on=assembly:wall_brick" },
  { name: "use", path: "/p/library/use?on=spaceType:reading" },
  { name: "services", path: "/p/library/services" },
  { name: "results-energy", path: "/p/library/results" },
  { name: "results-flows", path: "/p/library/results?view=flows" },
  { name: "results-zones", path: "/p/library/results?view=zones" },
  { name: "results-week", path: "/p/library/results?view=week" },
];
const browser = await openBrowser();
try {
  for (const view of views) {
    if (only.length > 0 && !only.includes(view.name)) continue;
    await browser.driver.get(address + view.path);
    if (view.live === false) await browser.find("table");
    else await browser.exact();
    await browser.driver.sleep(1200);
    writeFileSync(path.join(out, `${view.name}.png`), Buffer.from(await browser.driver.takeScreenshot(), "base64"));
    console.log(`docs/screenshots/${view.name}.png`);
  }
} finally {
  await browser.close();
  await stop();
}
