import { mkdirSync, writeFileSync } from "node:fs";
import os from "node:os";
import { checkProject, compile, projectWeather, runToEnd, type WeatherYear } from "../core/src/index.ts";
import { library } from "../demo/library.ts";

/** npm run bench: median times of the demo, each also in units of a calibration loop run in alternation. */
const REPEATS = Number(process.env.BENCH_REPEATS ?? 5);
const weather = projectWeather(library) as WeatherYear;

/** A fixed piece of arithmetic on typed arrays, about as the kernel does: seconds it takes now. */
function calibrate(): number {
  const a = new Float64Array(4096).fill(1.000001);
  const began = performance.now();
  let s = 0;
  for (let r = 0; r < 6000; r++) for (let i = 0; i < a.length; i++) s = s * 0.999 + a[i] * a[(i * 7) & 4095];
  if (!Number.isFinite(s)) throw new Error("calibration ran away");
  return (performance.now() - began) / 1000;
}
/** The same model as new objects, so that nothing remembered by identity serves. */
const fresh = () => JSON.parse(JSON.stringify(library)) as typeof library;
const cases: readonly { name: string; run: () => void }[] = [
  { name: "check and geometry", run: () => void checkProject(fresh()) },
  { name: "compile, 15 min", run: () => void compile(fresh(), weather, 4) },
  { name: "resolve, compile and year, 15 min", run: () => void runToEnd(fresh(), weather, { stepsPerHour: 4 }) },
  { name: "resolve, compile and year, hourly estimate", run: () => void runToEnd(fresh(), weather, { stepsPerHour: 1 }) },
];
const median = (v: number[]): number => [...v].sort((x, y) => x - y)[Math.floor(v.length / 2)];
const model = compile(library, weather, 4);
console.log(`${os.cpus()[0]?.model ?? "unknown processor"}, ${os.cpus().length} cores, Node ${process.version}`);
console.log(
  `${library.name}: ${model.zones} zones, ${model.elements} faces and openings, ${model.modeStart[model.elements]} modes; ${REPEATS} repeats, first thrown away\n`,
);
console.log(`${"case".padEnd(46)}${"median, s".padStart(11)}${"least, s".padStart(11)}${"calibrations".padStart(14)}`);
const results = cases.map((c) => {
  const times: number[] = [];
  const units: number[] = [];
  for (let i = 0; i <= REPEATS; i++) {
    const unit = calibrate();
    const began = performance.now();
    c.run();
    const seconds = (performance.now() - began) / 1000;
    if (i === 0) continue;
    times.push(seconds);
    units.push(seconds / unit);
  }
  const row = { name: c.name, median: median(times), least: Math.min(...times), calibrations: median(units) };
  console.log(`${row.name.padEnd(46)}${row.median.toFixed(3).padStart(11)}${row.least.toFixed(3).padStart(11)}${row.calibrations.toFixed(1).padStart(14)}`);
  return row;
});
mkdirSync(".local", { recursive: true });
writeFileSync(
  ".local/bench.json",
  JSON.stringify(
    {
      machine: os.cpus()[0]?.model,
      node: process.version,
      zones: model.zones,
      elements: model.elements,
      modes: model.modeStart[model.elements],
      repeats: REPEATS,
      results,
    },
    null,
    2,
  ) + "\n",
);
