import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { momentText, projectWeather, runToEnd, type Project, type WeatherYear } from "@arroyo/core";
import { boxProject } from "../../core/src/verification/box.ts";
import { arroyo as run } from "./arroyo.ts";

const folder = mkdtempSync(path.join(os.tmpdir(), "arroyo-measured-"));
async function arroyo(...words: string[]): Promise<{ code: number; out: string; err: string }> {
  const said = { out: "", err: "" };
  const code = await run(words, { out: (t) => void (said.out += `${t}\n`), err: (t) => void (said.err += `${t}\n`) });
  return { code, ...said };
}
const file = (name: string, text: string): string => {
  const at = path.join(folder, name);
  writeFileSync(at, text);
  return at;
};
const read = <T>(name: string): T => JSON.parse(readFileSync(path.join(folder, name), "utf8")) as T;

/** A box of this infiltration, in a named year. */
const box = (infiltration: number): Project => {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.2, weight: "light" }))) as Project;
  for (const t of Object.values(p.spaceTypes)) Object.assign(t.inputs, { infiltration });
  return p;
};
const truth = { ...box(0.9), calendar: { ...box(0.9).calendar, year: 2025 } };
const weather = projectWeather(truth) as WeatherYear;
const air = runToEnd(truth, weather, { stepsPerHour: 1, series: ["airTemperature"] }).series[0].values;
const START = 1064962080;
const csv = [
  "Time;Room [°C];Outdoors [°C]",
  ...Array.from(air, (t, h) => `${momentText(START + 60 * (h + 1))};${t.toFixed(2)};${(weather.dryBulb[h] + 2).toFixed(2)}`),
].join("\n");
const data = file("data.csv", `${csv}\n`);
const project = file("box.json", JSON.stringify(box(0.4)));
const pairs = [
  { id: "room", point: "room", series: { of: "zone", id: "a", quantity: "airTemperature" } },
  { id: "outdoors", point: "outdoors", series: { of: "outdoors", id: "outdoors", quantity: "dryBulb" } },
];
const points = { room: { column: "Room" }, outdoors: { column: "Outdoors" } };
const links = file("links.json", JSON.stringify({ formatVersion: 1, points, pairs: pairs.slice(0, 1) }));

interface Compare {
  pairs: { id: string; measured: string; nmbe: number; cvrmse: number; n: number; hour: { bias: number }; month: { n: number } }[];
}

describe("arroyo compare", () => {
  it("writes the errors of every pair by hour and month, and each hour by hour", async () => {
    const both = file("both.json", JSON.stringify({ formatVersion: 1, points, pairs }));
    const r = await arroyo("compare", project, both, data, "--out", path.join(folder, "compared"), "--steps", "1");
    expect(r.code, r.err).toBe(0);
    const { pairs: found } = read<Compare>("compared/compare.json");
    expect(found.map((p) => [p.id, p.measured, p.n, p.month.n])).toEqual([
      ["room", "Room", 8760, 12],
      ["outdoors", "Outdoors", 8760, 12],
    ]);
    expect(found[1].hour.bias).toBeCloseTo(-2, 2);
    expect(readFileSync(path.join(folder, "compared/room.csv"), "utf8").split("\n")).toHaveLength(8762);
  });
  it("driven by the measured outdoor temperature the room is warmer, and nothing is compared without data", async () => {
    const driven = file("driven.json", JSON.stringify({ formatVersion: 1, points, pairs, drives: { d: { point: "outdoors", input: "weather/dryBulb" } } }));
    expect((await arroyo("compare", project, driven, data, "--out", path.join(folder, "driven"), "--steps", "1")).code).toBe(0);
    const [plain, warm] = ["compared", "driven"].map((n) => read<Compare>(`${n}/compare.json`).pairs[0].hour.bias);
    expect(warm).toBeGreaterThan(plain + 0.2);
    const simulated = await arroyo("simulate", project, "--steps", "1", "--data", data, "--links", driven);
    expect(simulated.code, simulated.err).toBe(0);
    expect(await arroyo("simulate", project, "--data", data)).toMatchObject({ code: 2, err: expect.stringContaining("go together") });
  });
  it("tells what is wrong with links and data at their place", async () => {
    const wrong = file("wrong.json", JSON.stringify({ formatVersion: 1, points: { room: { column: "Kitchen" } }, pairs: [] }));
    expect(await arroyo("compare", project, wrong, data, "--out", folder)).toMatchObject({ code: 1, err: expect.stringContaining('no column "Kitchen"') });
    const unit = file("unit.json", JSON.stringify({ formatVersion: 1, points, drives: { d: { point: "room", input: "zones/a/people" } }, pairs }));
    expect(await arroyo("compare", project, unit, data, "--out", folder)).toMatchObject({
      code: 1,
      err: expect.stringContaining("they measure different things"),
    });
    expect(await arroyo("compare", project, links, file("empty.csv", "x\n"), "--out", folder)).toMatchObject({ code: 1 });
  });
});

describe("arroyo calibrate", () => {
  it("finds the hidden infiltration, and writes how near the others came", async () => {
    const words = ["calibrate", project, links, data, "--vary", "spaceTypes/box/inputs/infiltration=0.1..2", "--held", "10-01..12-31"];
    const r = await arroyo(...words, "--population", "6", "--generations", "4", "--threads", "2", "--out", path.join(folder, "found"));
    expect(r.code, r.err).toBe(0);
    const found = read<{ inputs: { best: number; nearBest: number[] }[]; misfit: { base: number; best: number; held: number } }>("found/calibration.json");
    expect(Math.abs(found.inputs[0].best - 0.9) / 0.9).toBeLessThan(0.1);
    expect(found.misfit.best).toBeLessThan(0.5 * found.misfit.base);
    expect(found.inputs[0].nearBest[0]).toBeLessThanOrEqual(found.inputs[0].best);
    expect(await arroyo("calibrate", project, links, data, "--vary", "x=2..1", "--out", folder)).toMatchObject({
      code: 2,
      err: expect.stringContaining("LOW..HIGH"),
    });
  }, 60000);
});
