import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import Papa from "papaparse";
import { afterAll, describe, expect, it } from "vitest";
import { emptyStudy, type Study } from "@arroyo/core";
import { arroyo as main } from "./arroyo.ts";

const scratch = mkdtempSync(path.join(os.tmpdir(), "arroyo-study-"));
afterAll(() => rmSync(scratch, { recursive: true, force: true }));
async function arroyo(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  let [out, err] = ["", ""];
  const code = await main(args, { out: (text) => (out += `${text}\n`), err: (text) => (err += `${text}\n`) });
  return { code, out, err };
}
const BOX = "demo/verification/600.json";
function study(name: string, more: Partial<Study> = {}): string {
  const file = path.join(scratch, `${name}.json`);
  const made: Study = {
    ...emptyStudy("Set-points", null),
    axes: [
      {
        id: "heating",
        name: "Heating",
        addresses: ["spaceTypes/box/inputs/heatingSetpoint"],
        unit: "°C",
        levels: [18, 22, 29].map((value, i) => ({ id: `l${i}`, value })),
      },
      { id: "glass", name: "Glass", addresses: ["openings/south/ratio"], levels: [0.2, 0.5].map((value, i) => ({ id: `l${i}`, value })) },
    ],
    checks: 1,
    ...more,
  };
  writeFileSync(file, JSON.stringify(made));
  return file;
}

describe("arroyo study", () => {
  it("writes a row for every run with inputs, outcomes and end uses, and the page; a run that fails stops nothing", async () => {
    const out = path.join(scratch, "out");
    const r = await arroyo("study", BOX, study("grid"), "--out", out, "--threads", "2");
    expect(r.code, r.err).toBe(0);
    expect(r.out).toMatch(/8 runs on 2 threads in .* 2 failed; short year ±/);
    expect(r.err).toMatch(/warning: run [56]: .*heated to 29/);
    const { data } = Papa.parse<Record<string, string>>(readFileSync(path.join(out, "runs.csv"), "utf8").trim(), { header: true });
    expect(data.map((d) => d.run)).toEqual(["base", "1", "2", "3", "4", "5", "6"]);
    expect(data.filter((d) => d.failed !== "").map((d) => d.run)).toEqual(["5", "6"]);
    const heat = (i: number): number => Number(data[i]["Heat delivered (kWh/m²a)"]);
    // warmer rooms need more heat
    expect(heat(3)).toBeGreaterThan(heat(1));
    expect(heat(4)).toBeGreaterThan(heat(2));
    const used = Object.keys(data[0]).filter((k) => k.endsWith("(kWh/a)"));
    const whole = used.reduce((t, k) => t + Number(data[1][k]), 0);
    expect(whole / Number(data[1]["Site energy (kWh/m²a)"])).toBeCloseTo(48, 1);
    expect(readFileSync(path.join(out, "study.html"), "utf8")).toContain('id="study"');
  });

  it("searches generation by generation", async () => {
    const search = study("search", {
      checks: 0,
      method: {
        kind: "search",
        population: 4,
        generations: 2,
        seed: 1,
        objectives: [
          { figure: "heating", aim: "least" },
          { figure: "cooling", aim: "least" },
        ],
        constraints: [],
      },
    });
    const out = path.join(scratch, "found");
    expect((await arroyo("study", BOX, search, "--out", out, "--threads", "1")).code).toBe(0);
    const rows = readFileSync(path.join(out, "runs.csv"), "utf8").trim().split("\n");
    // the base and at most every combination once
    expect(rows.length).toBeGreaterThan(5);
    expect(rows.length).toBeLessThanOrEqual(8);
  });

  it("refuses what cannot be run, with the place, and writes nothing", async () => {
    const out = path.join(scratch, "none");
    expect((await arroyo("study", BOX, study("ok"))).code).toBe(2);
    expect((await arroyo("study", BOX, path.join(scratch, "missing.json"), "--out", out)).code).toBe(2);
    expect((await arroyo("study", BOX, study("threads"), "--out", out, "--threads", "none")).code).toBe(2);
    const far = study("far", { axes: [{ id: "glass", name: "Glass", addresses: ["openings/south/ratio"], levels: [{ id: "a", value: 3 }] }] });
    const r = await arroyo("study", BOX, far, "--out", out);
    expect(r.code).toBe(1);
    expect(r.err).toMatch(/axes\/glass\/levels\/a: "Glass", 3: openings\/south\/ratio/);
    const odd = path.join(scratch, "odd.json");
    writeFileSync(odd, JSON.stringify({ ...JSON.parse(readFileSync(study("base"), "utf8")), checks: "four" }));
    const unread = await arroyo("study", BOX, odd, "--out", out);
    expect(unread.code).toBe(1);
    expect(unread.err).toMatch(/odd\.json:checks/);
    expect(existsSync(out)).toBe(false);
  });
});
