// npm test: lint, types, unit and server tests, browser tests, from nothing; ends with the count.
import { spawn } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import path from "node:path";
import { ensureBuild, ensureModules, ensurePackages, local, root, say, startPostgres } from "./lib/machine.mjs";

ensurePackages();
ensureModules();
mkdirSync(local, { recursive: true });
let passed = 0;
let failed = 0;

/** Runs a command to its end; what it printed comes out in one piece, so that two at once stay readable. */
function ended(command, args, env = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, env: { ...process.env, ...env }, stdio: ["ignore", "pipe", "pipe"] });
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream.on("data", (part) => said.push(part));
    child.on("error", (error) => said.push(Buffer.from(`${error.message}\n`)));
    child.on("close", (code) => resolve({ code, said: Buffer.concat(said) }));
  });
}

/** Seconds since, as told beside what is done. */
const since = (began) => `${((Date.now() - began) / 1000).toFixed(0)} s`;

async function step(name, command, args) {
  const began = Date.now();
  const { code, said } = await ended(command, args);
  process.stdout.write(said);
  say(`${name}: ${code === 0 ? "passed" : "failed"} in ${since(began)}`);
  if (code === 0) passed++;
  else failed++;
}

async function suite(name, projects, env = {}) {
  const began = Date.now();
  const out = path.join(local, `vitest-${name}.json`);
  rmSync(out, { force: true });
  const { code, said } = await ended(
    process.execPath,
    [
      path.join(root, "node_modules/vitest/vitest.mjs"),
      "run",
      ...projects.flatMap((p) => ["--project", p]),
      "--reporter=default",
      "--reporter=json",
      `--outputFile.json=${out}`,
    ],
    env,
  );
  process.stdout.write(said);
  const report = existsSync(out) ? JSON.parse(readFileSync(out, "utf8")) : { numPassedTests: 0, numFailedTests: 0 };
  passed += report.numPassedTests;
  failed += report.numFailedTests;
  if (code !== 0 && report.numFailedTests === 0) failed++;
  say(`${name} tests: ${report.numPassedTests} passed, ${report.numFailedTests} failed in ${since(began)}`);
}

const began = Date.now();
await Promise.all([step("lint", "npm", ["run", "-s", "lint"]), step("types", "npm", ["run", "-s", "types"])]);
await suite("core", ["core", "screens"]);
const database = await startPostgres({ name: "test", throwaway: true });
try {
  process.env.ARROYO_QUIET = "1";
  // the server's tests wait for runs and clocks more than they compute
  const [, built] = await Promise.allSettled([suite("server", ["server"], { DATABASE_URL: database.url }), ensureBuild()]);
  if (built.status === "rejected") throw built.reason;
  await suite("browser", ["browser"], { DATABASE_URL: database.url });
} catch (error) {
  console.error(error.message);
  failed++;
} finally {
  database.stop();
}
say(`all of it took ${since(began)}`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
