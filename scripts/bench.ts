import { mkdirSync, writeFileSync } from "node:fs";
import os from "node:os";
import v8 from "node:v8";
import vm from "node:vm";
import {
  checkProject,
  deriveFaces,
  resolve,
  compile,
  installKernel,
  projectWeather,
  runProject,
  runToEnd,
  type Project,
  type RunProgress,
  type RunResult,
  type WeatherYear,
} from "../core/src/index.ts";
import { installWebAssembly } from "../adapters/src/stepKernel.ts";
import { library } from "../demo/library.ts";
import { benchProject, benchSizes, networkedBench } from "./lib/benchModel.ts";
import { studyTimes } from "./lib/benchStudy.ts";
import { calibrate, WINDOW, type Together, type Turn, type WorkDone } from "./lib/benchWork.ts";
// @ts-expect-error plain JavaScript that the start scripts use before anything is installed
import { measureAnswers } from "./lib/benchAnswers.mjs";
import { inThread } from "./lib/threads.ts";
import { tried } from "./lib/tried.ts";

/** npm run bench: times of a year by number of zones, of the shadow cast, of two workers, and what the step loop leaves on the heap; .local/bench.json; with -- --docs also docs/performance.md. */
const docs = process.argv.includes("--docs");
const REPEATS = Number(process.env.BENCH_REPEATS ?? 5);
const largest = Number(process.env.BENCH_ZONES ?? 500);
/** Turns of the comparison of two workers with one. */
const TURNS = 9;
/** A calibration on this kind of machine when nobody else uses it: the least seen, s. */
const UNDISTURBED = 0.053;
const clock = (): number => performance.now() / 1000;
const median = (v: readonly number[]): number => [...v].sort((x, y) => x - y)[Math.floor(v.length / 2)];
const fresh = (p: Project): Project => JSON.parse(JSON.stringify(p)) as Project;
installWebAssembly();
v8.setFlagsFromString("--expose-gc");
const collect = vm.runInNewContext("gc") as () => void;

interface Timed {
  readonly median: number;
  readonly least: number;
  /** In calibration loops run in alternation. */
  readonly units: number;
}

/** Median, least and time in calibrations of something repeated, the first time thrown away. */
function timed(run: () => void, repeats = REPEATS): Timed {
  const times: number[] = [];
  const units: number[] = [];
  for (let i = 0; i <= repeats; i++) {
    const unit = calibrate();
    const began = clock();
    run();
    const seconds = clock() - began;
    if (i === 0 && repeats > 1) continue;
    times.push(seconds);
    units.push(seconds / unit);
  }
  return { median: median(times), least: Math.min(...times), units: median(units) };
}

interface SizeRow {
  readonly zones: number;
  readonly faces: number;
  readonly modes: number;
  readonly year: Timed;
  readonly hourly: Timed;
  readonly short: Timed;
  /** ns of the 15-minute year a face and step, each side of a partition being a face. */
  readonly faceStep: number;
  /** MB of the process over what it was before. */
  readonly memory: number;
}

function sizeRow(zones: number): SizeRow {
  const project = benchProject(zones);
  const weather = projectWeather(project) as WeatherYear;
  collect();
  const before = process.memoryUsage().rss;
  const model = compile(project, weather, 4);
  const repeats = zones > 50 ? 1 : REPEATS;
  const year = timed(() => void runToEnd(fresh(project), weather, { stepsPerHour: 4 }), repeats);
  const memory = (process.memoryUsage().rss - before) / 1e6;
  // estimates as the browser's worker makes them: the summary alone
  const hourly = timed(() => void runToEnd(fresh(project), weather, { stepsPerHour: 1, summaryOnly: true }), repeats);
  const short = timed(() => void runToEnd(fresh(project), weather, { stepsPerHour: 1, summaryOnly: true, shortYear: true }), repeats);
  const faces = model.elements + (model.elements - model.exterior);
  return {
    zones,
    faces,
    modes: model.modeStart[model.elements],
    year,
    hourly,
    short,
    faceStep: (year.median * 1e9) / (faces * 4 * 24 * 390),
    memory: Math.max(0, memory),
  };
}

/** Days of a warm-up over which the heap is read, after the first few. */
const HEAP_DAYS = { skip: 5, read: 18 };

/**
 * Bytes a step leaves on the heap in a run as it is made in practice, after others: read over days of the warm-up, which
 * has steps and nothing else.
 */
function heapOfSteps(): number {
  const project = benchProject(20);
  const weather = projectWeather(project) as WeatherYear;
  for (let i = 0; i < 3; i++) runToEnd(fresh(project), weather, { stepsPerHour: 4 });
  const read: number[] = [];
  for (let i = 0; i < 7; i++) {
    const run = runProject(fresh(project), weather, { stepsPerHour: 4 });
    for (let d = 0; d < HEAP_DAYS.skip; d++) run.next();
    const before = process.memoryUsage().heapUsed;
    for (let d = 0; d < HEAP_DAYS.read; d++) run.next();
    read.push((process.memoryUsage().heapUsed - before) / (HEAP_DAYS.read * 96));
    // the rest of it warms the code as a whole run does
    while (run.next().done !== true);
  }
  // where the heap was collected on the way it has shrunk: such a reading tells nothing
  const told = read.filter((bytes) => bytes >= 0);
  return told.length > 0 ? median(told) : NaN;
}

/** Days of the comparison of sizes, from 1 May: heating, neither and cooling. */
const SIDE_BY_SIDE = { firstDay: 120, days: 60 };

/**
 * Time a face of one large building over that of as many small ones, with logs and series: a day of the one and a day of
 * the others by turns, so that what the machine does beside touches both alike.
 */
function largeOverSmall(large: number, small: number): number {
  const start = (zones: number): { run: Generator<RunProgress, RunResult, void>; faces: number } => {
    const project = benchProject(zones);
    const weather = projectWeather(project) as WeatherYear;
    const { elements, exterior } = compile(project, weather, 4);
    return { run: runProject(fresh(project), weather, { stepsPerHour: 4, period: SIDE_BY_SIDE }), faces: 2 * elements - exterior };
  };
  const one = start(large);
  const others = Array.from({ length: Math.round(large / small) }, () => start(small));
  const faces = others.reduce((s, o) => s + o.faces, 0);
  let times = 0;
  let timesOthers = 0;
  for (let day = 0; ; day++) {
    const began = clock();
    const done = one.run.next().done === true;
    const between = clock();
    for (const o of others) o.run.next();
    // the first day compiles, the last makes the summary
    if (done) return times / one.faces / (timesOthers / faces);
    if (day === 0) continue;
    times += between - began;
    timesOthers += clock() - between;
  }
}

const unit = median(Array.from({ length: 9 }, () => calibrate()));
console.log(
  `${os.cpus()[0]?.model ?? "unknown processor"}, ${os.cpus().length} cores, Node ${process.version}; one calibration takes ${(1000 * unit).toFixed(0)} ms\n`,
);

const rows = benchSizes
  .filter((z) => z <= largest)
  .map((zones) => {
    const r = sizeRow(zones);
    console.log(
      `${String(zones).padStart(4)} zones ${String(r.faces).padStart(5)} faces ${String(r.modes).padStart(6)} modes: year ${r.year.median.toFixed(2)} s (${r.year.units.toFixed(0)} calibrations), hourly ${r.hourly.median.toFixed(2)} s, short year ${r.short.median.toFixed(2)} s, ${r.faceStep.toFixed(0)} ns a face and step, ${r.memory.toFixed(0)} MB`,
    );
    return r;
  });

const heap = heapOfSteps();
const linear = largest >= 500 ? largeOverSmall(500, 20) : NaN;
console.log(`500 zones: ${linear.toFixed(2)} times the time a face of 20 zones, day by day by turns`);

// what the core's own walks take, in alternation with those in WebAssembly
const pairProject = benchProject(20);
const pairWeather = projectWeather(pairProject) as WeatherYear;
const pairs = [4, 1].map((stepsPerHour) => {
  const once = (): number => {
    const start = clock();
    runToEnd(fresh(pairProject), pairWeather, { stepsPerHour, summaryOnly: stepsPerHour === 1 });
    return clock() - start;
  };
  const own: number[] = [];
  const fast: number[] = [];
  for (let i = 0; i <= REPEATS; i++) {
    installKernel(null);
    own.push(once());
    installWebAssembly();
    fast.push(once());
  }
  return { stepsPerHour, own: median(own.slice(1)), fast: median(fast.slice(1)) };
});
for (const p of pairs)
  console.log(
    `20 zones, ${p.stepsPerHour} steps an hour: TypeScript ${p.own.toFixed(2)} s, WebAssembly ${p.fast.toFixed(2)} s, ${(p.fast / p.own).toFixed(2)}`,
  );

// a year with the pressure network over one without, by turns
const { project: networkProject, simple: simpleProject, links: networkLinks } = networkedBench();
const [simpleYear, networkYear] = (() => {
  const weather = projectWeather(networkProject) as WeatherYear;
  const times: [number[], number[]] = [[], []];
  for (let i = 0; i <= REPEATS; i++)
    [simpleProject, networkProject].forEach((p, k) => {
      const start = clock();
      runToEnd(fresh(p), weather, { stepsPerHour: 4, summaryOnly: true });
      times[k].push(clock() - start);
    });
  return times.map((t) => median(t.slice(1)));
})();
console.log(
  `20 zones with an airflow network of ${networkLinks} links: ${networkYear.toFixed(2)} s, ${(networkYear / simpleYear).toFixed(2)} times the year without`,
);

const libraryWeather = projectWeather(library) as WeatherYear;
/** A cast is remembered by its geometry: one time each, between two calibrations. */
function castOnce(project: Project): { timed: Timed; faces: number } {
  const before = calibrate();
  const { castSeconds, recast } = compile(project, libraryWeather, 4, clock);
  const units = castSeconds / (0.5 * (before + calibrate()));
  return { timed: { median: castSeconds, least: castSeconds, units }, faces: recast };
}
const { timed: castWhole, faces: wholeFaces } = castOnce(fresh(library));
const moved = fresh(library);
const window = Object.entries(moved.openings).find(([, o]) => o.kind === "placed" && o.use === "window");
if (window && window[1].kind === "placed") window[1].offset += 0.1;
const { timed: castMoved, faces: movedFaces } = castOnce(moved);
const shaded = fresh(library);
const shade = shaded.shades.entrance;
if (shade?.kind === "overhang") shade.depth += 0.1;
const { timed: castShaded, faces: shadedFaces } = castOnce(shaded);
const year = timed(() => void runToEnd(fresh(library), libraryWeather, { stepsPerHour: 4 }));
const hourly = timed(() => void runToEnd(fresh(library), libraryWeather, { stepsPerHour: 1, summaryOnly: true }));
const check = timed(() => void checkProject(fresh(library)));
console.log(`\n${library.name}: check ${check.median.toFixed(3)} s, year ${year.median.toFixed(2)} s, hourly ${hourly.median.toFixed(2)} s`);
console.log(
  `shadows: first cast ${castWhole.median.toFixed(2)} s (${wholeFaces} faces), a window moved ${castMoved.median.toFixed(2)} s (${movedFaces}), one overhang deepened ${castShaded.median.toFixed(2)} s (${shadedFaces})`,
);
/** A building as an edit leaves it: everything known but one moved space. */
function edited(p: Project): Project {
  const [id] = Object.keys(p.spaces);
  return { ...p, spaces: { ...p.spaces, [id]: { ...p.spaces[id], form: { ...p.spaces[id].form } } } };
}
const form500 = timed(() => void deriveFaces(fresh(benchProject(500))));
const spaces200 = benchProject(200);
checkProject(spaces200);
const edit200 = timed(() => void checkProject(edited(spaces200)));
console.log(`form: 500 spaces from outlines to faces ${form500.median.toFixed(3)} s, checks of 200 spaces after an edit ${edit200.median.toFixed(3)} s`);
/** Fifty rules that read each other over spaces by name. */
const rules50: Project["rules"] = Array.from({ length: 50 }, (_, i) => ({
  id: `r${i}`,
  name: `Rule ${i}`,
  on: true,
  target: "space",
  field: ["outdoorAirPerSpace", "heatingSetpoint", "coolingSetpoint", "lightingPower", "appliancePower"][i % 5],
  conditions: [{ id: "c", on: "name", not: false, is: [String(i % 10)] }],
  value: ["3 L/s * people + 0.35 L/s/m² * area", "if(people > 3, 20 °C, 21 °C)", "heatingSetpoint + 5 K", "6 W/m² + 20 W / area", "max(3 W/m², 100 W / area)"][
    i % 5
  ],
}));
const ruled500 = { ...benchProject(500), rules: rules50 };
const resolve500 = timed(() => void resolve({ ...ruled500, spaces: { ...ruled500.spaces } }));
console.log(`inputs: 500 spaces with 50 rules resolved in ${(1000 * resolve500.median).toFixed(0)} ms`);
console.log(`heap left by a step: ${heap.toFixed(1)} bytes`);

const studyBefore = calibrate();
const study = studyTimes();
const studyUnit = 0.5 * (studyBefore + calibrate());
/** 1,000 hourly runs of 20 zones on two cores, s. */
const thousand = (1000 * study.run) / 2;
console.log(
  `study of 20 zones: an hourly run ${study.run.toFixed(3)} s, so 1,000 on two cores ${(thousand / 60).toFixed(1)} min; made ready in ${(1000 * study.prepare).toFixed(1)} ms, compiled in ${(1000 * study.compile).toFixed(1)} ms; 10,000 runs filtered by five stretches in ${(1000 * study.filter).toFixed(2)} ms`,
);

// work of two workers side by side over that of one alone, of each kind
const meeting = new Int32Array(new SharedArrayBuffer(8));
const both = await Promise.all(
  ([0, 1] as const).map((me) =>
    inThread<Turn[]>(new URL("./lib/benchWork.ts", import.meta.url), "shareOfTwo", { me, meeting, turns: TURNS } satisfies Together),
  ),
);
const turns = both[0].map((first, t) => {
  const second = both[1][t];
  const over = (name: keyof WorkDone): number => (2 * (first.beside[name] + second.beside[name])) / (first.alone[name] + second.alone[name]);
  return { scaling: over("days"), possible: over("slices") };
});
const scaling = median(turns.map((t) => t.scaling));
const possible = median(turns.map((t) => t.possible));
const ofPossible = median(turns.map((t) => t.scaling / t.possible));
console.log(
  `two workers: ${scaling.toFixed(2)} times one; the calibration loop ${possible.toFixed(2)} times; by turn ${turns.map((t) => (t.scaling / t.possible).toFixed(2)).join(" ")}`,
);

// in calibrations as well: the browser's minutes are as unlike as ours
const answersUnit = median([calibrate(), calibrate(), calibrate()]);
const answers = process.env.BENCH_BROWSER === "no" ? null : await measureAnswers();
if (answers)
  console.log(
    `after Enter in a field of the library: first new figure ${answers.figure.toFixed(2)} s, exact ${answers.exact.toFixed(2)} s, longest task of the page ${(1000 * answers.longest).toFixed(0)} ms; opened again ${answers.opened.toFixed(2)} s (calibration ${(1000 * answersUnit).toFixed(0)} ms)`,
  );

mkdirSync(".local", { recursive: true });
const result = {
  machine: os.cpus()[0]?.model,
  cores: os.cpus().length,
  node: process.version,
  repeats: REPEATS,
  calibration: unit,
  rows,
  linear,
  pairs,
  library: {
    check,
    year,
    hourly,
    cast: castWhole.median,
    moved: { seconds: castMoved.median, faces: movedFaces },
    shade: { seconds: castShaded.median, faces: shadedFaces },
  },
  form: { faces500: form500, edit200 },
  rules: { resolve500 },
  study: { ...study, calibration: studyUnit },
  heapPerStep: heap,
  answers: answers && { ...answers, calibration: answersUnit },
  workers: { two: scaling, calibration: possible, ofPossible },
};
writeFileSync(".local/bench.json", JSON.stringify(result, null, 2) + "\n");
if (docs) writeFileSync("docs/performance.md", page());
console.log(docs ? "docs/performance.md is written." : "docs/performance.md stays as it is; -- --docs writes it.");

function page(): string {
  const twenty = rows.find((r) => r.zones === 20);
  const verdict = (ok: boolean): string => (ok ? "met" : "**not met**");
  const goals: string[][] = [];
  const goal = (what: string, target: string, found: string, ok: boolean, undisturbed = ""): void =>
    void goals.push([what, target, found, verdict(ok), undisturbed]);
  /** A time against its target, as found and as it would be at the calibration of an undisturbed machine. */
  const timeGoal = (what: string, target: number, t: Timed, digits = 2): void => {
    const quiet = t.units * UNDISTURBED;
    goal(
      what,
      `${target} s`,
      `${t.median.toFixed(digits)} s (least ${t.least.toFixed(digits)})`,
      t.median < target,
      `${quiet.toFixed(digits)} s, ${verdict(quiet < target)}`,
    );
  };
  if (answers) {
    const quiet = UNDISTURBED / answersUnit;
    const answer = (what: string, target: number, seconds: number): void =>
      goal(what, `${target} s`, `${seconds.toFixed(2)} s`, seconds < target, `${(seconds * quiet).toFixed(2)} s, ${verdict(seconds * quiet < target)}`);
    answer("first new figure after an edit of the library, in the browser", 0.4, answers.figure);
    answer("exact figure after it", 3, answers.exact);
    answer("longest task of the page at an edit", 0.05, answers.longest);
  }
  if (twenty) {
    timeGoal("20 zones of 8 faces, resolve, compile and year at 15 minutes", 1.5, twenty.year);
    timeGoal("the same, hourly estimate", 0.4, twenty.hourly);
  }
  goal(
    `20 zones with an airflow network of ${networkLinks} links, over the year without`,
    "2.5 times",
    `${(networkYear / simpleYear).toFixed(2)} times`,
    networkYear / simpleYear < 2.5,
  );
  const big = rows.find((r) => r.zones === 500);
  if (big) {
    goal("500 zones: time a face over that of 20 zones, day by day by turns", "about 1", linear.toFixed(2), linear < 1.25);
    goal("500 zones: memory with the usual series", "1 GB", `${big.memory.toFixed(0)} MB`, big.memory < 1000);
  }
  goal(`two workers over one, days done in ${WINDOW} s side by side, of what the calibration loop gives`, "0.95", ofPossible.toFixed(2), ofPossible >= 0.95);
  const quietStudy = UNDISTURBED / studyUnit;
  const ofStudy = (what: string, target: number, seconds: number, digits: number): void =>
    goal(
      what,
      `${target} s`,
      `${seconds.toFixed(digits)} s`,
      seconds < target,
      `${(seconds * quietStudy).toFixed(digits)} s, ${verdict(seconds * quietStudy < target)}`,
    );
  ofStudy("1,000 hourly runs of a study of 20 zones on two cores", 600, thousand, 0);
  ofStudy("compile of a run of it that changes no geometry", 0.03, study.compile, 3);
  ofStudy("10,000 runs filtered by five stretches", 0.05, study.filter, 4);
  timeGoal("full shadow cast of the library", 2, castWhole);
  timeGoal("one window moved", 0.3, castMoved);
  timeGoal("one overhang deepened", 0.3, castShaded);
  timeGoal("500 spaces from outlines to faces", 0.3, form500, 3);
  timeGoal("all checks of 200 spaces after an edit", 0.05, edit200, 3);
  goal("heap left by a step of a run, after others", "none", `${heap.toFixed(1)} bytes`, heap < 8);
  return [
    "# How fast",
    "",
    `Written by \`npm run bench -- --docs\` (median of ${REPEATS}, one above 50 zones; memory is what the process grew by). ${os.cpus()[0]?.model ?? "Unknown processor"}, ${os.cpus().length} cores, shared and noisy, Node ${process.version}: compare ratios, or times in calibrations — a fixed loop on typed arrays run in alternation, ${(1000 * unit).toFixed(0)} ms here.`,
    "",
    "## Against the targets",
    "",
    `The last column is what was found in calibrations times ${1000 * UNDISTURBED} ms, which is what one takes here when nobody else uses the machine (the least seen): neighbours more than double it for minutes.`,
    "",
    "| what | target | found | | undisturbed |",
    "| --- | ---: | ---: | --- | ---: |",
    ...goals.map((g) => `| ${g.join(" | ")} |`),
    "",
    `Two workers are compared by the days they simulate in windows of ${WINDOW} s, side by side and each alone, after dozens of short years: V8 compiles what a run does once only long after the first run, on the core the other worker needs. The heap is read during the warm-up of a run made as in practice, after others: a bare loop of steps had hidden 640 bytes a step.`,
    "",
    "## By number of zones",
    "",
    "Like rooms with an outdoor wall and a window, occupied by day, ideal loads; faces count each side of a partition.",
    "",
    "| zones | faces | modes | year at 15 min, s | calibrations | hourly, s | short year, s | ns a face and step | MB |",
    "| ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |",
    ...rows.map(
      (r) =>
        `| ${r.zones} | ${r.faces} | ${r.modes} | ${r.year.median.toFixed(2)} | ${r.year.units.toFixed(0)} | ${r.hourly.median.toFixed(2)} | ${r.short.median.toFixed(2)} | ${r.faceStep.toFixed(0)} | ${r.memory.toFixed(0)} |`,
    ),
    "",
    "## The two kernels",
    "",
    "The walks of a step are written twice: in TypeScript in the core, and for WebAssembly in `adapters/kernel`; both give the same bits (decision 0011). 20 zones, in alternation:",
    "",
    "| steps an hour | TypeScript, s | WebAssembly, s | ratio |",
    "| ---: | ---: | ---: | ---: |",
    ...pairs.map((p) => `| ${p.stepsPerHour} | ${p.own.toFixed(2)} | ${p.fast.toFixed(2)} | ${(p.fast / p.own).toFixed(2)} |`),
    "",
    "## The library",
    "",
    `Check and geometry ${check.median.toFixed(3)} s, year ${year.median.toFixed(2)} s, hourly estimate ${hourly.median.toFixed(2)} s. The first compile casts all shadows (${castWhole.median.toFixed(2)} s, ${wholeFaces} faces); after that a moved window casts ${movedFaces} (${castMoved.median.toFixed(2)} s) and a deeper canopy ${shadedFaces} (${castShaded.median.toFixed(2)} s).`,
    "",
    "## What was tried",
    "",
    "| change | time of the year, ratio to before |",
    "| --- | --- |",
    ...tried.map(([change, gave]) => `| ${change} | ${gave} |`),
    "",
    "Running TypeScript through a loader that compiles modules to CommonJS turns every shared constant into a getter and doubles the time: keep everything ESM.",
    "",
  ].join("\n");
}
