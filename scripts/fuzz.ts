import { installWebAssembly } from "../adapters/src/stepKernel.ts";
import { calibrate } from "./lib/benchWork.ts";
import { fuzzCase, targets } from "./lib/fuzz/targets.ts";

/**
 * npm run fuzz: damaged documents, edits, gbXML, weather files and JSON text, 10^5 cases in all: none may throw, take longer than 2 s,
 * bring a number that is none into a summary, or be refused without a sentence. -- --cases N, --seed S, --only NAME.
 */
installWebAssembly();
const option = (name: string): string | undefined => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? undefined : process.argv[at + 1];
};
const cases = Number(option("cases") ?? 100000);
const first = Number(option("seed") ?? 1);
const only = option("only");
/** 2 s of a machine that nobody else uses, ms. */
const LIMIT = 2000 * Math.max(1, Math.min(...[1, 2, 3].map(() => calibrate())) / 0.053);
/** Processor time this process has taken, ms. */
const own = (): number => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
};
const chosen = targets.filter((t) => only === undefined || t.name === only);
if (chosen.length === 0 || !Number.isInteger(cases) || !Number.isInteger(first)) {
  console.error(`--only takes one of ${targets.map((t) => `"${t.name}"`).join(", ")}; --cases and --seed take whole numbers.`);
  process.exit(2);
}
let failed = 0;
for (const target of chosen) {
  const began = performance.now();
  const n = Math.ceil(cases / chosen.length);
  let slowest = { ms: 0, seed: 0 };
  for (let seed = first; seed < first + n; seed++) {
    // in time of our own: on a shared machine the clock goes on while others work
    const start = own();
    const wrong = fuzzCase(target, seed);
    const ms = own() - start;
    if (ms > slowest.ms) slowest = { ms, seed };
    const hangs = ms > LIMIT;
    if (wrong === null && !hangs) continue;
    failed++;
    if (failed <= 20) console.log(`${target.name} ${seed}: ${wrong ?? `took ${(ms / 1000).toFixed(1)} s`}`);
  }
  console.log(`${target.name}: ${n} cases in ${((performance.now() - began) / 1000).toFixed(0)} s, slowest ${slowest.ms.toFixed(0)} ms (case ${slowest.seed})`);
}
console.log(failed === 0 ? "Nothing found." : `${failed} cases went wrong.`);
process.exitCode = failed === 0 ? 0 : 1;
