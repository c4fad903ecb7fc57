import { mkdirSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import { boxClimates, boxProject, type BoxClimateName } from "../core/src/verification/box.ts";
import { boxCases, expectations, type BoxResult } from "../core/src/verification/boxCases.ts";
import { closedRows, neumannFront, orderRows, refinementRows, steppedFront, type Row } from "../core/src/verification/rows.ts";
import { steppedDecrement } from "../core/src/verification/walls.ts";
import { installKernel, periodicResponse, projectWeather, runToEnd, seriesHash, solidLayer, type Project, type WeatherYear } from "../core/src/index.ts";
import { installWebAssembly } from "../adapters/src/stepKernel.ts";
import { library } from "../demo/library.ts";
import { bars, lines } from "./lib/plot.ts";
import { inThread } from "./lib/threads.ts";

/**
 * npm run verify: the core against closed forms, published figures and the test box in one climate, as a table and .local/verify.json.
 * -- --long: the test box in every climate and the library's refinement; -- --docs: these, and docs/verification.md is written from them.
 */
const docs = process.argv.includes("--docs");
const long = docs || process.argv.includes("--long");
const climates = (Object.keys(boxClimates) as BoxClimateName[]).slice(0, long ? undefined : 1);

await main();

/** Climates in worker threads, as many at once as there are cores. */
async function allBoxes(): Promise<Record<BoxClimateName, Record<string, BoxResult>>> {
  const found = {} as Record<BoxClimateName, Record<string, BoxResult>>;
  const waiting = [...climates];
  const next = async (): Promise<void> => {
    const climate = waiting.shift();
    if (!climate) return;
    found[climate] = await inThread(new URL("./lib/boxes.ts", import.meta.url), "runBoxes", climate);
    return next();
  };
  await Promise.all(Array.from({ length: Math.min(os.cpus().length, climates.length) }, next));
  return found;
}

async function main(): Promise<void> {
  const rows: Row[] = [
    ...closedRows(),
    ...orderRows(),
    ...refinementRows(boxProject({ name: "Test box", glass: 0.5, weight: "heavy" })),
    ...(long ? refinementRows(library) : []),
  ];
  const free = boxProject({ weight: "heavy", heating: null, cooling: null, glass: 0.5 });
  const weather = projectWeather(free) as WeatherYear;
  const once = runToEnd(free, weather, { stepsPerHour: 4 });
  const again = runToEnd(free, weather, { stepsPerHour: 4 });
  rows.push({
    group: "same bits",
    source: "itself",
    name: "free-floating box, run again",
    quantity: "hash differs",
    expected: 0,
    found: seriesHash(once) === seriesHash(again) ? 0 : 1,
    within: 0,
  });
  const walks = (p: Project): string[] => {
    const w = projectWeather(p) as WeatherYear;
    const year = (): string => seriesHash(runToEnd(p, w, { stepsPerHour: 4 }));
    const own = year();
    installWebAssembly();
    const fast = year();
    installKernel(null);
    return [own, fast];
  };
  for (const p of [library, free]) {
    const [own, fast] = walks(p);
    rows.push({
      group: "same bits",
      source: "the core's own walks",
      name: `${p.name}, walked in WebAssembly`,
      quantity: "hash differs",
      expected: 0,
      found: own === fast ? 0 : 1,
      within: 0,
    });
  }
  const boxes = await allBoxes();
  for (const climate of climates) {
    const worst = Object.entries(boxes[climate]).reduce((a, b) => (b[1].closure > a[1].closure ? b : a));
    rows.push({
      group: "test box: books",
      source: "conservation of energy",
      name: `${climate}, worst of ${boxCases.length} cases (${worst[0]})`,
      quantity: "closure",
      expected: 0,
      found: worst[1].closure,
      within: 1e-9,
    });
    const told = Object.values(boxes[climate]).reduce((s, r) => s + r.warnings, 0);
    rows.push({
      group: "test box: books",
      source: "its own counts",
      name: `${climate}, all cases`,
      quantity: "counted warnings",
      expected: 0,
      found: told,
      within: 0,
    });
  }
  const orders = expectations.flatMap((e) =>
    (e.only ?? climates)
      .filter((climate) => climates.includes(climate))
      .map((climate) => {
        const more = boxes[climate][e.more[0]][e.more[1]];
        const less = boxes[climate][e.less[0]][e.less[1]];
        return { ...e, climate, moreValue: more, lessValue: less, ok: more > less };
      }),
  );
  const ok = (r: Row): boolean => Math.abs(r.found - r.expected) <= r.within;
  let group = "";
  for (const r of rows) {
    if (r.group !== group) console.log(`\n${(group = r.group)}`);
    console.log(
      `  ${ok(r) ? "ok  " : "MISS"} ${r.name.padEnd(58)} ${r.quantity.padEnd(24)} ${r.expected.toPrecision(6).padStart(12)} ${r.found.toPrecision(6).padStart(12)}`,
    );
  }
  console.log("\ntest box: expected orders");
  for (const o of orders)
    console.log(
      `  ${o.ok ? "ok  " : "MISS"} ${o.why.padEnd(52)} ${o.climate.padEnd(16)} ${`${o.more[0]} ${o.more[1]}`.padEnd(22)} ${o.moreValue.toFixed(0).padStart(7)} > ${o.lessValue.toFixed(0).padStart(7)}`,
    );
  const failed = rows.filter((r) => !ok(r)).length + orders.filter((o) => !o.ok).length;
  mkdirSync(".local", { recursive: true });
  writeFileSync(".local/verify.json", JSON.stringify({ rows: rows.map((r) => ({ ...r, ok: ok(r) })), boxes, orders }, null, 2) + "\n");
  if (docs) page(rows, boxes, orders, ok);
  console.log(
    `\n${rows.length + orders.length - failed} of ${rows.length + orders.length} as expected${long ? "" : ", in one climate; all of them with -- --long"}. The hash of Node and Chromium is compared by the browser tests. ${docs ? "docs/verification.md is written." : "docs/verification.md stays as it is; -- --docs writes it."}`,
  );
  process.exitCode = failed === 0 ? 0 : 1;
}

interface Order {
  readonly why: string;
  readonly climate: string;
  readonly more: readonly [string, string];
  readonly less: readonly [string, string];
  readonly moreValue: number;
  readonly lessValue: number;
  readonly ok: boolean;
}

/** docs/verification.md with its plots. */
function page(rows: readonly Row[], boxes: Record<string, Record<string, BoxResult>>, orders: readonly Order[], ok: (r: Row) => boolean): void {
  const folder = "docs/verification";
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const number = (v: number): string => (v === 0 ? "0" : Math.abs(v) < 1e-3 || Math.abs(v) >= 1e6 ? v.toExponential(2) : String(Number(v.toPrecision(6))));
  const cases = ["600", "610", "620", "630", "640", "650", "900", "910", "920", "930", "940", "950", "960"];
  for (const load of ["heating", "cooling"] as const)
    writeFileSync(
      `${folder}/box-${load}.svg`,
      bars(
        `Annual ${load} of the test box, kWh`,
        cases,
        climates.map((c) => ({ name: c, values: cases.map((id) => boxes[c][id][load]) })),
      ),
    );
  const wall = [solidLayer(0.009, 0.14, 530, 900), solidLayer(0.0615, 0.04, 10, 1400), solidLayer(0.1, 0.51, 1400, 1000)];
  const exact = periodicResponse(wall, 86400, 0.04, 0.13);
  const steps = [1, 2, 3, 4, 6, 12];
  writeFileSync(
    `${folder}/step.svg`,
    lines("Miss of the time shift of the heavy wall by steps an hour, h", "steps an hour", [
      { name: "stepped less exact", points: steps.map((n) => [n, steppedDecrement(wall, 0.04, 0.13, n).timeShift - exact.timeShift / 3600]) },
    ]),
  );
  const hours = [2, 4, 8, 12, 24, 36, 48];
  writeFileSync(
    `${folder}/melting.svg`,
    lines("Depth of the melting front, mm", "hours", [
      { name: "Neumann", points: hours.map((h) => [h, 1000 * neumannFront(0.2, 800, 2000, 180000, 20, h * 3600)]) },
      { name: "the year's wall, 15 min", points: hours.map((h) => [h, 1000 * steppedFront(h * 3600, 900)]) },
    ]),
  );
  const groups = [...new Set(rows.map((r) => r.group))];
  const text = [
    "# What it is checked against",
    "",
    "Written by `npm run verify -- --docs`, which also prints it and keeps it as `.local/verify.json`; most of the same comparisons run as tests. A value from memory that could not be checked here says “typical, unverified” in the code.",
    "",
    "The closure of the books proves the books, not the physics; it is listed, and never counts as verification alone.",
    "",
    `${rows.filter(ok).length} of ${rows.length} comparisons lie within their bound; ${orders.filter((o) => o.ok).length} of ${orders.length} orders between cases of the test box are as expected.`,
    "",
    "## Comparisons",
    ...groups.flatMap((g) => {
      const list = rows.filter((r) => r.group === g);
      return [
        "",
        `### ${g[0].toUpperCase()}${g.slice(1)}`,
        "",
        "| what | quantity | source | expected | found | difference | bound | |",
        "| --- | --- | --- | ---: | ---: | ---: | ---: | --- |",
        ...list.map(
          (r) =>
            `| ${r.name} | ${r.quantity} | ${r.source} | ${number(r.expected)} | ${number(r.found)} | ${number(r.found - r.expected)} | ${number(r.within)} | ${ok(r) ? "ok" : "**miss**"} |`,
        ),
      ];
    }),
    "",
    "![Miss of the time shift by steps an hour](verification/step.svg)",
    "",
    "![Melting front](verification/melting.svg)",
    "",
    "## The test box",
    "",
    `The box of ASHRAE Standard 140, 8 m × 6 m × 2.7 m, in ${boxCases.length} cases and three invented climates; the standard's own weather is not at hand, so its figures are not compared. The cases are projects in \`demo/verification/\`: \`npm run arroyo -- simulate demo/verification/600.json --option "warm humid"\`. Cases 310, 630 and 930 have overhangs and fins; cases after a space vary one choice of the calculation. Ground floors stand on 1 m of insulation.`,
    "",
    "![Heating](verification/box-heating.svg)",
    "",
    "![Cooling](verification/box-cooling.svg)",
    ...climates.flatMap((c) => [
      "",
      `### ${boxClimates[c].name}`,
      "",
      "| case | what | heating, kWh | cooling, kWh | peak heating, W | peak cooling, W | coldest, °C | mean, °C | warmest, °C | closure |",
      "| --- | --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |",
      ...boxCases.map((b) => {
        const r = boxes[c][b.id];
        return `| ${b.id} | ${b.what} | ${r.heating.toFixed(0)} | ${r.cooling.toFixed(0)} | ${r.peakHeating.toFixed(0)} | ${r.peakCooling.toFixed(0)} | ${r.min.toFixed(1)} | ${r.mean.toFixed(1)} | ${r.max.toFixed(1)} | ${r.closure.toExponential(0)} |`;
      }),
    ]),
    "",
    "### Orders that must hold",
    "",
    "| why | climate | more | less | |",
    "| --- | --- | --- | --- | --- |",
    ...orders.map(
      (o) =>
        `| ${o.why} | ${o.climate} | ${o.more.join(" ")}: ${o.moreValue.toFixed(1)} | ${o.less.join(" ")}: ${o.lessValue.toFixed(1)} | ${o.ok ? "ok" : "**miss**"} |`,
    ),
    "",
    "Tests beside the code add: more insulation never raises heating, a building turned with its plan turned back and a building mirrored with sun and wind give the same, no step oscillates, every flow of every zone and month adds up to nothing, undo of any list of changes gives the document back to the bit, and a year in Node and in Chromium has the same bits.",
    "",
  ];
  writeFileSync("docs/verification.md", text.join("\n"));
}
