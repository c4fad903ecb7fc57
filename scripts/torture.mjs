// npm run torture: browser, server, runner and database ended by force in the middle of saves and runs, 20 times each; -- N for another number.
import { spawnSync } from "node:child_process";
import path from "node:path";
import { ensureBuild, ensureModules, ensurePackages, fail, root } from "./lib/machine.mjs";

const rounds = Number(process.argv[2] ?? 20);
if (!Number.isInteger(rounds) || rounds < 1 || rounds > 200) fail("Say how many rounds, from 1 to 200: npm run torture -- 20");
ensurePackages();
ensureModules();
await ensureBuild();
const run = spawnSync(process.execPath, [path.join(root, "node_modules/vitest/vitest.mjs"), "run", "--project", "browser", "e2e/saving.test.ts"], {
  cwd: root,
  stdio: "inherit",
  env: { ...process.env, TORTURE: String(rounds) },
});
process.exit(run.status ?? 1);
