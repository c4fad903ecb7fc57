// npm test: lint, types, unit and server tests, browser tests, from nothing; ends with the count.
import { spawnSync } from "node:child_process";
import { existsSync, readFileSync, rmSync } from "node:fs";
import path from "node:path";
import { ensureBuild, ensureModules, ensurePackages, local, root, say, startPostgres } from "./lib/machine.mjs";

ensurePackages();
ensureModules();
let passed = 0;
let failed = 0;

function step(name, command, args) {
  say(name);
  const r = spawnSync(command, args, { stdio: "inherit", cwd: root });
  if (r.status === 0) passed++;
  else failed++;
}

function suite(name, project, env = {}) {
  say(name);
  const out = path.join(local, `vitest-${project}.json`);
  rmSync(out, { force: true });
  const r = spawnSync(
    process.execPath,
    [path.join(root, "node_modules/vitest/vitest.mjs"), "run", "--project", project, "--reporter=default", "--reporter=json", `--outputFile.json=${out}`],
    { stdio: "inherit", cwd: root, env: { ...process.env, ...env } },
  );
  const report = existsSync(out) ? JSON.parse(readFileSync(out, "utf8")) : { numPassedTests: 0, numFailedTests: 0 };
  passed += report.numPassedTests;
  failed += report.numFailedTests;
  if (r.status !== 0 && report.numFailedTests === 0) failed++;
}

step("lint", "npm", ["run", "-s", "lint"]);
step("types", "npm", ["run", "-s", "types"]);
suite("core", "core");
const database = await startPostgres({ name: "test", throwaway: true });
try {
  suite("server", "server", { DATABASE_URL: database.url });
  process.env.ARROYO_QUIET = "1";
  ensureBuild();
  suite("browser", "browser", { DATABASE_URL: database.url });
} catch (error) {
  console.error(error.message);
  failed++;
} finally {
  database.stop();
}
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
