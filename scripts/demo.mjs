// npm run demo: everything from a fresh machine to a running application.
import { ensureBuild, ensureModules, ensurePackages, fail, freePort, isPortFree, local, say, startApplication, startPostgres } from "./lib/machine.mjs";

const began = Date.now();
const port = process.env.PORT ? Number(process.env.PORT) : (await isPortFree(3000)) ? 3000 : await freePort();
if (!Number.isInteger(port) || port < 1 || port > 65535) fail(`PORT must be a number from 1 to 65535, not "${process.env.PORT}".`);
const host = process.env.HOST ?? "127.0.0.1";
if (!/^(127(\.\d{1,3}){3}|localhost|::1)$/.test(host) && process.env.ARROYO_OPEN !== "yes")
  fail(
    `HOST=${host} would let every machine that reaches this one read and change the projects: there are no accounts. Say ARROYO_OPEN=yes if that is meant, and name the host in ARROYO_HOSTS.`,
  );
if (!(await isPortFree(port)))
  fail(`port ${port} is taken, perhaps by a demo that still runs; end it or give another: PORT=${port < 65535 ? port + 1 : 3000} npm run demo`);
ensurePackages({ database: !process.env.DATABASE_URL, browser: false });
ensureModules();
const database = process.env.DATABASE_URL ? { url: process.env.DATABASE_URL, stop() {} } : await startPostgres();
let app;
try {
  await ensureBuild();
  app = await startApplication({ url: database.url, port });
} catch (error) {
  database.stop();
  fail(error.message);
}
say(`ready in ${((Date.now() - began) / 1000).toFixed(0)} s at ${app.address}`);
say(`data in ${local}; Ctrl-C stops everything this started`);

let closing = false;
async function close() {
  if (closing) return;
  closing = true;
  await Promise.all([app.web.kill(), app.runner.kill()]);
  database.stop();
  process.exit(0);
}
process.on("SIGINT", close);
process.on("SIGTERM", close);
