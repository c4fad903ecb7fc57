import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, describe, expect, it } from "vitest";
import { summarySchema } from "@arroyo/core";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");
const scratch = mkdtempSync(path.join(os.tmpdir(), "arroyo-cli-"));
afterAll(() => rmSync(scratch, { recursive: true, force: true }));

function arroyo(...args: string[]): { code: number | null; out: string; err: string } {
  const r = spawnSync(process.execPath, ["--import", "tsx", "cli/src/main.ts", ...args], { cwd: root, encoding: "utf8" });
  return { code: r.status, out: r.stdout, err: r.stderr };
}

describe("arroyo simulate", () => {
  const out = path.join(scratch, "out");
  const year = path.join(scratch, "year.csv");
  it("writes a summary that fits its schema, and the series asked for", () => {
    const r = arroyo("simulate", "demo/clinic.json", "--out", out, "--steps", "1", "--series", "sun");
    expect(r.code).toBe(0);
    const summary = summarySchema.parse(JSON.parse(readFileSync(path.join(out, "summary.json"), "utf8")));
    expect(summary.zones).toHaveLength(11);
    expect(summary.energy.endUses.reduce((s, u) => s + u.total, 0) / summary.floorArea).toBeCloseTo(summary.energy.intensity as number, 9);
    expect(r.out).toContain(summary.fingerprint);
    const sun = readFileSync(path.join(out, "series/sun.csv"), "utf8").trim().split("\n");
    expect(sun).toHaveLength(8761);
    expect(sun[0].split(",")).toHaveLength(12);
  });
  it("gives the same figures on its own year written to a file and read back", () => {
    expect(arroyo("weather", "demo/clinic.json", "--out", year).code).toBe(0);
    const again = path.join(scratch, "again");
    expect(arroyo("simulate", "demo/clinic.json", "--out", again, "--steps", "1", "--weather", year).code).toBe(0);
    const read = (folder: string): string =>
      summarySchema.parse(JSON.parse(readFileSync(path.join(folder, "summary.json"), "utf8"))).energy.intensity?.toString() ?? "";
    expect(read(again)).toBe(read(out));
  });
  it("refuses a year with a hole by file and line, and writes nothing", () => {
    const lines = readFileSync(year, "utf8").split("\n");
    const holed = path.join(scratch, "holed.csv");
    writeFileSync(holed, [...lines.slice(0, 200), ...lines.slice(203)].join("\n"));
    const nothing = path.join(scratch, "nothing");
    const r = arroyo("simulate", "demo/clinic.json", "--weather", holed, "--out", nothing);
    expect(r.code).toBe(1);
    expect(r.err).toContain("holed.csv:201: 3 hours from 1/9 1:00 are missing before this line.");
    expect(existsSync(nothing)).toBe(false);
  });
});

describe("arroyo", () => {
  it("ends with 1 and sentences for a model that cannot run, 2 for wrong usage", () => {
    const broken = path.join(scratch, "broken.json");
    writeFileSync(broken, "{");
    expect(arroyo("check", broken)).toMatchObject({ code: 1, err: expect.stringContaining("not valid JSON") });
    expect(arroyo("check")).toMatchObject({ code: 2 });
    expect(arroyo("fly")).toMatchObject({ code: 2, err: expect.stringContaining('no command "fly"') });
    expect(arroyo("simulate", "demo/clinic.json", "--steps", "5")).toMatchObject({ code: 2 });
    expect(arroyo("simulate", "demo/clinic.json", "--series", "noise")).toMatchObject({ code: 2, err: expect.stringContaining("airTemperature") });
    expect(arroyo("simulate", "nowhere.json")).toMatchObject({ code: 2, err: expect.stringContaining("nowhere.json") });
  });
  it("prints the schema of the document as JSON", () => {
    const r = arroyo("schema");
    expect(r.code).toBe(0);
    expect((JSON.parse(r.out) as { properties: Record<string, unknown> }).properties).toHaveProperty("spaces");
  });
});
