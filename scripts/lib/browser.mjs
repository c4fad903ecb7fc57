// A headless Chromium of exactly 1280x800, and small helpers on it.
import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { Builder, By, until } from "selenium-webdriver";
import chrome from "selenium-webdriver/chrome.js";

/** @param profile folder of an earlier browser, to go on with what that one kept */
export async function openBrowser({ width = 1280, height = 800, profile = mkdtempSync(path.join(os.tmpdir(), "arroyo-browser-")) } = {}) {
  const options = new chrome.Options();
  options.setChromeBinaryPath("/usr/bin/chromium");
  options.addArguments(
    "--headless=new",
    "--no-sandbox",
    "--disable-dev-shm-usage",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--disable-quic",
    `--window-size=${width},${height}`,
    "--force-device-scale-factor=1",
    "--hide-scrollbars",
    "--use-gl=angle",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
    `--user-data-dir=${profile}`,
  );
  options.setUserPreferences({ "download.default_directory": profile });
  const driver = await new Builder()
    .forBrowser("chrome")
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder("/usr/bin/chromedriver"))
    .build();
  await driver.sendDevToolsCommand("Emulation.setDeviceMetricsOverride", { width, height, deviceScaleFactor: 1, mobile: false });
  await driver.manage().setTimeouts({ script: 180000 });
  return {
    driver,
    profile,
    /** Waits until text of the selected element passes a test; returns the text. */
    async text(css, test, seconds = 180) {
      let last = "";
      await driver
        .wait(
          async () => {
            const found = await driver.findElements(By.css(css));
            last = found.length > 0 ? await found[0].getText().catch(() => "") : "";
            return found.length > 0 && test(last);
          },
          seconds * 1000,
          `waiting for ${css}`,
        )
        .catch((error) => {
          throw new Error(`${error.message}; last text "${last}"`);
        });
      return last;
    },
    find: (css, seconds = 60) => driver.wait(until.elementLocated(By.css(css)), seconds * 1000, `no ${css}`),
    /** A button by its exact words. */
    button: (words, seconds = 60) =>
      driver.wait(until.elementLocated(By.xpath(`//button[normalize-space(.)="${words}"]`)), seconds * 1000, `no button "${words}"`),
    async exact() {
      await driver.wait(until.elementLocated(By.css('[data-mark="exact"]')), 180000, "the 15-minute year did not come");
    },
    /** Ends the browser as a crash would: its own processes, known by the profile they run on. */
    async crash() {
      const { stdout } = spawnSync("pgrep", ["-f", `user-data-dir=${profile}`], { encoding: "utf8" });
      for (const id of stdout.trim().split("\n").filter(Boolean)) {
        try {
          process.kill(Number(id), "SIGKILL");
        } catch {
          // gone with its parent
        }
      }
      await driver.quit().catch(() => undefined);
      rmSync(path.join(profile, "SingletonLock"), { force: true });
    },
    async close() {
      await driver.quit().catch(() => undefined);
      rmSync(profile, { recursive: true, force: true });
    },
  };
}
export { By, until };
