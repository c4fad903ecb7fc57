import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, describe, expect, it } from "vitest";
import { complianceSchema, plateauPack, sizingSchema, summarySchema } from "@arroyo/core";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");
const scratch = mkdtempSync(path.join(os.tmpdir(), "arroyo-cli-"));
afterAll(() => rmSync(scratch, { recursive: true, force: true }));

function arroyo(...args: string[]): { code: number | null; out: string; err: string } {
  const r = spawnSync(process.execPath, ["--import", "tsx", "cli/src/main.ts", ...args], { cwd: root, encoding: "utf8" });
  return { code: r.status, out: r.stdout, err: r.stderr };
}

describe("arroyo import and export", () => {
  const xml = path.join(scratch, "clinic.xml");
  const json = path.join(scratch, "again.json");
  it("writes gbXML, reads it into a project with a report, and that project runs", () => {
    expect(arroyo("export", "demo/clinic.json", "--format", "gbxml", "--out", xml).code).toBe(0);
    const r = arroyo("import", xml, "--out", json);
    expect(r.code, r.err).toBe(0);
    expect(r.out).toMatch(/read \(changes the result\): 1 storeys, 11 spaces, 11 zones/);
    expect(arroyo("simulate", json, "--short", "--steps", "1").out).toContain("site energy");
  });
  it("refuses what it cannot read in a sentence, with code 1, and writes nothing", () => {
    const bomb = path.join(scratch, "bomb.xml");
    const out = path.join(scratch, "none.json");
    writeFileSync(bomb, '<!DOCTYPE x [<!ENTITY a "aa">]><gbXML>&a;</gbXML>');
    const r = arroyo("import", bomb, "--out", out);
    expect(r.code).toBe(1);
    expect(r.err).toMatch(/document type or entities/);
    expect(r.err).not.toMatch(/at .*\.ts/);
    expect(existsSync(out)).toBe(false);
    expect(arroyo("import", xml).code).toBe(2);
  });
});

describe("arroyo in a pipe", () => {
  it("ends in peace when its reader has read enough", () => {
    const r = spawnSync("bash", ["-c", `set -o pipefail; "${process.execPath}" --import tsx cli/src/main.ts schema | head -1`], {
      cwd: root,
      encoding: "utf8",
    });
    expect(r.stdout).toBe("{\n");
    expect(r.stderr).toBe("");
  });
});

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
  it("runs a case of the test box in another climate as a short year, with series of faces", () => {
    const box = path.join(scratch, "box");
    const r = arroyo(
      "simulate",
      "demo/verification/600.json",
      "--option",
      "warm humid",
      "--short",
      "--out",
      box,
      "--series",
      "faceFlow,layerTemperature,incidentSun",
    );
    expect(r.code).toBe(0);
    const summary = summarySchema.parse(JSON.parse(readFileSync(path.join(box, "summary.json"), "utf8")));
    expect(summary.shortYear?.days.reduce((s, d) => s + d.weight, 0)).toBeCloseTo(365, 9);
    expect(summary.loads.cooling.total).toBeGreaterThan(summary.loads.heating.total);
    const layers = readFileSync(path.join(box, "series/layerTemperature.csv"), "utf8").split("\n")[0];
    expect(layers).toContain("layer 2 middle (°C)");
    expect(readFileSync(path.join(box, "series/incidentSun.csv"), "utf8").split("\n")[0]).toContain("(W/m²)");
  });
  it("tells before the run what is left out, such as a zone without spaces", () => {
    const file = path.join(scratch, "empty-zone.json");
    const box = JSON.parse(readFileSync(path.join(root, "demo/verification/600.json"), "utf8")) as { zones: Record<string, unknown> };
    box.zones.spare = { name: "Spare", services: null, inputs: {} };
    writeFileSync(file, JSON.stringify(box));
    const r = arroyo("simulate", file, "--short", "--steps", "1");
    expect(r.code).toBe(0);
    expect(r.err).toContain("warning: zones/spare: Zone Spare has no space.");
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

describe("arroyo size", () => {
  it("writes peaks of every zone and of the building with their components", () => {
    const out = path.join(scratch, "sized");
    expect(arroyo("size", "demo/clinic.json", "--out", out).code).toBe(0);
    const sizing = sizingSchema.parse(JSON.parse(readFileSync(path.join(out, "sizing.json"), "utf8")));
    expect(sizing.zones).toHaveLength(11);
    expect(sizing.building.heating.power).toBeGreaterThan(5000);
    expect(sizing.building.cooling.components.sun).toBeGreaterThan(0);
    expect(arroyo("size", "demo/clinic.json").code).toBe(2);
  });
});

describe("arroyo comply", () => {
  const out = path.join(scratch, "complied");
  it("writes index, letter, rows and the changes of the reference building", () => {
    expect(arroyo("comply", "demo/clinic.json", "--pack", "plateau", "--out", out).code).toBe(0);
    const result = complianceSchema.parse(JSON.parse(readFileSync(path.join(out, "compliance.json"), "utf8")));
    expect(result.index).toBeGreaterThan(50);
    expect(result.rows.length).toBeGreaterThan(20);
    for (const c of [...result.rows, ...result.changes]) expect(plateauPack.clauses).toHaveProperty([c.clause]);
  });
  it("refuses a pack that is broken, unknown or not for this climate, by sentence and path", () => {
    const file = path.join(scratch, "pack.json");
    writeFileSync(file, JSON.stringify({ ...plateauPack, windowShare: { ...plateauPack.windowShare, clause: "12.3" } }));
    expect(arroyo("comply", "demo/clinic.json", "--pack", file, "--out", out)).toMatchObject({
      code: 1,
      err: expect.stringContaining('windowShare/clause: The clause "12.3" is not in this pack.'),
    });
    writeFileSync(file, JSON.stringify({ ...plateauPack, climateZones: { "3": plateauPack.climateZones["3"] } }));
    expect(arroyo("comply", "demo/clinic.json", "--pack", file, "--out", out)).toMatchObject({
      code: 1,
      err: expect.stringMatching(/climateZones\/\d: .*has no limits/),
    });
    expect(arroyo("comply", "demo/clinic.json", "--pack", "valley", "--out", out)).toMatchObject({ code: 2, err: expect.stringContaining("plateau") });
  });
});

describe("arroyo simulate --option", () => {
  it("runs the option by its name and refuses one that is not there", () => {
    const clinic = JSON.parse(readFileSync(path.join(root, "demo/clinic.json"), "utf8")) as { options: unknown };
    clinic.options = { o: { name: "Better glass", changes: [{ op: "set", path: ["glazings", "double_low_e", "u"], value: 0.9, old: 1.6 }] } };
    const file = path.join(scratch, "optioned.json");
    writeFileSync(file, JSON.stringify(clinic));
    const heating = (...more: string[]): number => {
      const out = path.join(scratch, `o${more.length}`);
      expect(arroyo("simulate", file, "--steps", "1", "--out", out, ...more).code).toBe(0);
      return summarySchema.parse(JSON.parse(readFileSync(path.join(out, "summary.json"), "utf8"))).loads.heating.total;
    };
    expect(heating("--option", "Better glass")).toBeLessThan(heating());
    expect(arroyo("simulate", file, "--option", "Worse glass")).toMatchObject({ code: 2, err: expect.stringContaining('"Better glass"') });
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
