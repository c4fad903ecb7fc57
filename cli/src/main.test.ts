import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { arroyo as main } from "./arroyo.ts";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import { complianceSchema, installKernel, plateauPack, sizingSchema, summarySchema } from "@arroyo/core";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");
const scratch = mkdtempSync(path.join(os.tmpdir(), "arroyo-cli-"));
beforeAll(() => installWebAssembly());
afterAll(() => {
  installKernel(null);
  rmSync(scratch, { recursive: true, force: true });
});

interface Said {
  readonly code: number | null;
  readonly out: string;
  readonly err: string;
}
/** Carries a command out in this process. */
async function arroyo(...args: string[]): Promise<Said> {
  let [out, err] = ["", ""];
  const code = await main(args, { out: (text) => (out += `${text}\n`), err: (text) => (err += `${text}\n`) });
  return { code, out, err };
}
/** Starts the real thing. */
function started(...args: string[]): Said {
  const r = spawnSync(process.execPath, ["--import", "tsx", "cli/src/main.ts", ...args], { cwd: root, encoding: "utf8" });
  return { code: r.status, out: r.stdout, err: r.stderr };
}

describe("arroyo import and export", () => {
  const xml = path.join(scratch, "clinic.xml");
  const json = path.join(scratch, "again.json");
  it("writes gbXML, reads it into a project with a report, and that project runs", async () => {
    expect((await arroyo("export", "demo/clinic.json", "--format", "gbxml", "--out", xml)).code).toBe(0);
    const r = await arroyo("import", xml, "--out", json);
    expect(r.code, r.err).toBe(0);
    expect(r.out).toMatch(/read \(changes the result\): 1 storeys, 11 spaces, 11 zones/);
    expect((await arroyo("simulate", json, "--short", "--steps", "1")).out).toContain("site energy");
  });
  it("refuses what it cannot read in a sentence, with code 1, and writes nothing", async () => {
    const bomb = path.join(scratch, "bomb.xml");
    const out = path.join(scratch, "none.json");
    writeFileSync(bomb, '<!DOCTYPE x [<!ENTITY a "aa">]><gbXML>&a;</gbXML>');
    const r = await arroyo("import", bomb, "--out", out);
    expect(r.code).toBe(1);
    expect(r.err).toMatch(/document type or entities/);
    expect(r.err).not.toMatch(/at .*\.ts/);
    expect(existsSync(out)).toBe(false);
    expect((await arroyo("import", xml)).code).toBe(2);
  });
});

describe("arroyo report", () => {
  const one = path.join(scratch, "base");
  const two = path.join(scratch, "less-light");
  const figures = (csv: string): string[] => csv.split("\n").filter((l) => l.startsWith("All zones,"));
  it("makes the same outline of two runs into documents whose tables agree with their CSV", async () => {
    expect((await arroyo("simulate", "demo/clinic.json", "--steps", "1", "--out", one)).code).toBe(0);
    const changed = JSON.parse(readFileSync(path.join(one, "project.json"), "utf8")) as { spaceTypes: Record<string, { inputs: Record<string, number> }> };
    for (const t of Object.values(changed.spaceTypes)) t.inputs.lightingPower = 2;
    const file = path.join(scratch, "less.json");
    writeFileSync(file, JSON.stringify(changed));
    expect((await arroyo("simulate", file, "--steps", "1", "--out", two)).code).toBe(0);
    const told: string[] = [];
    for (const dir of [one, two]) {
      const [csv, md, html, docx] = ["csv", "md", "html", "docx"].map((f) => path.join(dir, `loads.${f}`));
      for (const out of [csv, md, html, docx]) expect((await arroyo("report", dir, "--outline", "loads", "--out", out)).code).toBe(0);
      const [line] = figures(readFileSync(csv, "utf8"));
      told.push(line);
      const shown = line.split(",").filter((c) => /\d{3}/.test(c));
      expect(shown.length).toBeGreaterThan(2);
      for (const cell of shown)
        for (const text of [md, html].map((f) => readFileSync(f, "utf8").replace(/\u202f/g, ""))) expect(text).toContain(cell.replace("-", "−"));
      expect(readFileSync(docx).subarray(0, 2).toString()).toBe("PK");
    }
    expect(told[0]).not.toBe(told[1]);
  });
  it("sets both side by side, takes an outline from a file, and keeps the series it needs", async () => {
    const outline = path.join(scratch, "own.json");
    const topics = [
      { id: "a", kind: "summary", note: "By hand." },
      { id: "b", kind: "series", month: 0, series: [{ of: "zone", id: "surgery", quantity: "infiltration" }] },
    ];
    writeFileSync(outline, JSON.stringify({ name: "Own", topics }));
    const without = await arroyo("report", one, two, "--outline", outline, "--out", path.join(scratch, "own.md"));
    expect(without.code).toBe(0);
    expect(without.err).toContain("Infiltration is not kept");
    const text = readFileSync(path.join(scratch, "own.md"), "utf8");
    expect(text).toMatch(/\| Figure \| Unit \| base \| less-light \|/);
    expect(text).toContain("By hand.");
    expect((await arroyo("simulate", "demo/clinic.json", "--steps", "1", "--outline", outline, "--out", one)).code).toBe(0);
    const kept = await arroyo("report", one, "--outline", outline, "--out", path.join(scratch, "own.csv"));
    expect(kept.err).toBe("");
    expect(readFileSync(path.join(scratch, "own.csv"), "utf8")).toMatch(/infiltration",W,-\d+/);
  });
  it("refuses what it cannot make, with code 2 for the call and 1 for what it reads", async () => {
    const out = path.join(scratch, "no.md");
    expect((await arroyo("report", scratch, "--outline", "loads", "--out", out)).err).toContain("has no project.json");
    const unknown = await arroyo("report", one, "--outline", "nothing", "--out", out);
    expect(unknown.code).toBe(2);
    expect(unknown.err).toContain('client ("Client summary")');
    expect((await arroyo("report", one, "--outline", "loads", "--format", "pdf", "--out", out)).code).toBe(2);
    const broken = path.join(scratch, "broken.json");
    writeFileSync(broken, JSON.stringify({ name: "Own", topics: [{ id: "a", kind: "poem" }] }));
    const refused = await arroyo("report", one, "--outline", broken, "--out", out);
    expect(refused.code).toBe(1);
    expect(refused.err).toContain("topics/0/kind");
    expect(existsSync(out)).toBe(false);
  });
});

describe("arroyo library", () => {
  it("writes what ships as arrays of things with id, name and source, and the same as CSV", async () => {
    const out = path.join(scratch, "library");
    expect((await arroyo("library", "--out", out)).code).toBe(0);
    for (const kind of ["materials", "assemblies", "glazings", "kits"]) {
      const rows = JSON.parse(readFileSync(path.join(out, `${kind}.json`), "utf8")) as { id: string; name: string; source: string }[];
      for (const r of rows) expect([r.id, r.name, r.source].every((t) => typeof t === "string" && t !== "")).toBe(true);
      const lines = readFileSync(path.join(out, `${kind}.csv`), "utf8")
        .trim()
        .split("\n");
      expect(lines[0]).toMatch(/^id,name,source/);
      expect(lines).toHaveLength(rows.length + 1);
    }
    expect((await arroyo("library")).code).toBe(2);
    const told = await arroyo("library", "components");
    expect(told).toMatchObject({ code: 0 });
    expect(told.out).toMatch(/^id,name,source,kind,inputs\n/);
    expect(told.out).toContain("chiller_water_turbo");
    const unknown = await arroyo("library", "engines");
    expect([unknown.code, unknown.err]).toEqual([2, expect.stringContaining("materials, assemblies")]);
  });
});

describe("arroyo started for real", () => {
  it("simulates with its walks in WebAssembly, to the bits of the core's own", async () => {
    const r = started("simulate", "demo/clinic.json", "--short", "--steps", "1");
    expect(r).toMatchObject({ code: 0, err: "" });
    expect(r.out).toContain("in WebAssembly");
    const print = (text: string): string => text.match(/fingerprint \w+/)?.[0] ?? "none";
    installKernel(null);
    expect(print(r.out)).toBe(print((await arroyo("simulate", "demo/clinic.json", "--short", "--steps", "1")).out));
    installWebAssembly();
  });
  it("ends with the code and sentence of a refusal", () => {
    expect(started("__proto__")).toMatchObject({ code: 2, out: "", err: expect.stringContaining('no command "__proto__"') });
  });
});

describe("arroyo in a pipe", () => {
  it("ends in peace when its reader has read enough", async () => {
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
  it("writes a summary that fits its schema, and the series asked for", async () => {
    const r = await arroyo("simulate", "demo/clinic.json", "--out", out, "--steps", "1", "--series", "sun");
    expect(r.code).toBe(0);
    const summary = summarySchema.parse(JSON.parse(readFileSync(path.join(out, "summary.json"), "utf8")));
    expect(summary.zones).toHaveLength(11);
    expect(summary.energy.endUses.reduce((s, u) => s + u.total, 0) / summary.floorArea).toBeCloseTo(summary.energy.intensity as number, 9);
    expect(r.out).toContain(summary.fingerprint);
    const sun = readFileSync(path.join(out, "series/sun.csv"), "utf8").trim().split("\n");
    expect(sun).toHaveLength(8761);
    expect(sun[0].split(",")).toHaveLength(12);
  });
  it("runs a case of the test box in another climate as a short year, with series of faces", async () => {
    const box = path.join(scratch, "box");
    const r = await arroyo(
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
  it("tells before the run what is left out, such as a zone without spaces", async () => {
    const file = path.join(scratch, "empty-zone.json");
    const box = JSON.parse(readFileSync(path.join(root, "demo/verification/600.json"), "utf8")) as { zones: Record<string, unknown> };
    box.zones.spare = { name: "Spare", services: null, inputs: {} };
    writeFileSync(file, JSON.stringify(box));
    const r = await arroyo("simulate", file, "--short", "--steps", "1");
    expect(r.code).toBe(0);
    expect(r.err).toContain("warning: zones/spare: Zone Spare has no space.");
  });
  it("gives the same figures on its own year written to a file and read back", async () => {
    expect((await arroyo("weather", "demo/clinic.json", "--out", year)).code).toBe(0);
    const again = path.join(scratch, "again");
    expect((await arroyo("simulate", "demo/clinic.json", "--out", again, "--steps", "1", "--weather", year)).code).toBe(0);
    const read = (folder: string): string =>
      summarySchema.parse(JSON.parse(readFileSync(path.join(folder, "summary.json"), "utf8"))).energy.intensity?.toString() ?? "";
    expect(read(again)).toBe(read(out));
  });
  it("reads a weather file of any layout by a mapping, guessed first, to the same figures", async () => {
    const lines = readFileSync(year, "utf8").split("\n");
    const head = lines.findIndex((l) => l.startsWith("month,day"));
    const columns = lines[head].split(",");
    const at = (name: string): number => columns.findIndex((c) => c.startsWith(name));
    const station = path.join(scratch, "station.txt");
    const rows = lines.slice(head + 1).filter((l) => l !== "");
    // as a station would write it: semicolons, decimal commas, °F
    writeFileSync(
      station,
      [
        "Monat;Tag;Stunde;Temperatur (°F);Feuchte (%);Wind (m/s);Windrichtung (°);Global (W/m²);Diffus (W/m²);Luftdruck (hPa)",
        ...rows.map((r) => {
          const c = r.split(",");
          const v = (name: string): number => Number(c[at(name)]);
          const out = [1.8 * v("dry_bulb") + 32, v("relative"), v("wind_speed"), v("wind_direction"), v("global"), v("diffuse"), v("pressure") / 100];
          return [c[0], c[1], c[2], ...out.map((x) => x.toFixed(4).replace(".", ","))].join(";");
        }),
      ].join("\n"),
      "latin1",
    );
    const mapping = path.join(scratch, "mapping.json");
    const read = path.join(scratch, "station.csv");
    const place = "39.4,-108.3,1600,-7";
    expect((await arroyo("weather", station, "--out", read)).err).toContain("--guess M.json");
    expect((await arroyo("weather", station, "--guess", mapping)).code).toBe(0);
    expect((await arroyo("weather", station, "--mapping", mapping, "--out", read)).err).toContain("--place LATITUDE");
    const done = await arroyo("weather", station, "--mapping", mapping, "--place", place, "--out", read);
    expect(done).toMatchObject({ code: 0 });
    expect(done.out).toContain("The cloud cover is derived");
    const values = (file: string, name: string): number[] => {
      const all = readFileSync(file, "utf8").split("\n");
      const h = all.findIndex((l) => l.startsWith("month,day"));
      const k = all[h].split(",").findIndex((c) => c.startsWith(name));
      return all.slice(h + 1, -1).map((l) => Number(l.split(",")[k]));
    };
    for (const name of ["dry_bulb", "relative", "global", "diffuse", "wind_speed"]) {
      const [a, b] = [values(year, name), values(read, name)];
      expect(b).toHaveLength(8760);
      expect(Math.max(...a.map((v, i) => Math.abs(v - b[i])))).toBeLessThan(1e-3);
    }
    const rubbish = path.join(scratch, "rubbish.bin");
    writeFileSync(rubbish, Buffer.from([0, 1, 2, 3, 255, 0, 7]));
    expect(await arroyo("weather", rubbish, "--out", read)).toMatchObject({ code: 1, err: expect.stringContaining("no text file") });
  });
  it("refuses a year with a hole by file and line, and writes nothing", async () => {
    const lines = readFileSync(year, "utf8").split("\n");
    const holed = path.join(scratch, "holed.csv");
    writeFileSync(holed, [...lines.slice(0, 200), ...lines.slice(203)].join("\n"));
    const nothing = path.join(scratch, "nothing");
    const r = await arroyo("simulate", "demo/clinic.json", "--weather", holed, "--out", nothing);
    expect(r.code).toBe(1);
    expect(r.err).toContain("holed.csv:201: 3 hours from 1/9 1:00 are missing before this line.");
    expect(existsSync(nothing)).toBe(false);
  });
});

describe("arroyo size", () => {
  it("writes peaks of every zone and of the building with their components", async () => {
    const out = path.join(scratch, "sized");
    expect((await arroyo("size", "demo/clinic.json", "--out", out)).code).toBe(0);
    const sizing = sizingSchema.parse(JSON.parse(readFileSync(path.join(out, "sizing.json"), "utf8")));
    expect(sizing.zones).toHaveLength(11);
    expect(sizing.building.heating.power).toBeGreaterThan(5000);
    expect(sizing.building.cooling.components.sun).toBeGreaterThan(0);
    expect((await arroyo("size", "demo/clinic.json")).code).toBe(2);
  });
});

describe("arroyo comply", () => {
  const out = path.join(scratch, "complied");
  it("writes index, letter, rows and the changes of the reference building", async () => {
    expect((await arroyo("comply", "demo/clinic.json", "--pack", "plateau", "--out", out)).code).toBe(0);
    const result = complianceSchema.parse(JSON.parse(readFileSync(path.join(out, "compliance.json"), "utf8")));
    expect(result.index).toBeGreaterThan(50);
    expect(result.rows.length).toBeGreaterThan(20);
    for (const c of [...result.rows, ...result.changes]) expect(plateauPack.clauses).toHaveProperty([c.clause]);
  });
  it("exports the reference building by itself and writes the certificate as DOCX", async () => {
    const [reference, xml, docx] = ["reference.json", "reference.xml", "certificate.docx"].map((f) => path.join(scratch, f));
    expect((await arroyo("comply", "demo/clinic.json", "--path", "prescriptive", "--export-reference", xml)).code).toBe(0);
    expect(readFileSync(xml, "utf8")).toContain("<gbXML");
    const done = await arroyo("comply", "demo/clinic.json", "--export-reference", reference, "--certificate", docx);
    expect(done).toMatchObject({ code: 0, out: expect.stringContaining("Does not pass") });
    // a DOCX is a zip
    expect(readFileSync(docx).subarray(0, 2).toString()).toBe("PK");
    // the reference of the reference is itself
    const again = path.join(scratch, "again");
    expect((await arroyo("comply", reference, "--out", again)).code).toBe(0);
    expect(complianceSchema.parse(JSON.parse(readFileSync(path.join(again, "compliance.json"), "utf8")))).toMatchObject({ changes: [], index: 100 });
    expect(await arroyo("comply", "demo/clinic.json", "--path", "quick", "--out", out)).toMatchObject({
      code: 2,
      err: expect.stringContaining("prescriptive or performance"),
    });
  });
  it("refuses a pack that is broken, unknown or not for this climate, by sentence and path", async () => {
    const file = path.join(scratch, "pack.json");
    writeFileSync(file, JSON.stringify({ ...plateauPack, windowShare: { ...plateauPack.windowShare, clause: "12.3" } }));
    expect(await arroyo("comply", "demo/clinic.json", "--pack", file, "--out", out)).toMatchObject({
      code: 1,
      err: expect.stringContaining('windowShare/clause: The clause "12.3" is not in this pack.'),
    });
    writeFileSync(
      file,
      JSON.stringify({
        ...plateauPack,
        climateZones: { "3": plateauPack.climateZones["3"] },
        values: { ...plateauPack.values, least_heat_pump_cop: { ...plateauPack.values.least_heat_pump_cop, byZone: { "3": 3.2 } } },
      }),
    );
    expect(await arroyo("comply", "demo/clinic.json", "--pack", file, "--out", out)).toMatchObject({
      code: 1,
      err: expect.stringMatching(/climateZones\/\d: .*has no limits/),
    });
    expect(await arroyo("comply", "demo/clinic.json", "--pack", "valley", "--out", out)).toMatchObject({ code: 2, err: expect.stringContaining("plateau") });
  });
});

describe("arroyo simulate --option", () => {
  it("runs the option by its name and refuses one that is not there", async () => {
    const clinic = JSON.parse(readFileSync(path.join(root, "demo/clinic.json"), "utf8")) as { options: unknown };
    clinic.options = { o: { name: "Better glass", changes: [{ id: "c1", op: "set", path: ["glazings", "double_low_e", "u"], value: 0.9, old: 1.6 }] } };
    const file = path.join(scratch, "optioned.json");
    writeFileSync(file, JSON.stringify(clinic));
    const heating = async (...more: string[]): Promise<number> => {
      const out = path.join(scratch, `o${more.length}`);
      expect((await arroyo("simulate", file, "--steps", "1", "--out", out, ...more)).code).toBe(0);
      return summarySchema.parse(JSON.parse(readFileSync(path.join(out, "summary.json"), "utf8"))).loads.heating.total;
    };
    expect(await heating("--option", "Better glass")).toBeLessThan(await heating());
    expect(await arroyo("simulate", file, "--option", "Worse glass")).toMatchObject({ code: 2, err: expect.stringContaining('"Better glass"') });
  });
});

describe("arroyo", () => {
  it("ends with 1 and sentences for a model that cannot run, 2 for wrong usage", async () => {
    const broken = path.join(scratch, "broken.json");
    writeFileSync(broken, "{");
    expect(await arroyo("check", broken)).toMatchObject({ code: 1, err: expect.stringContaining("not valid JSON") });
    expect(await arroyo("check")).toMatchObject({ code: 2 });
    expect(await arroyo("fly")).toMatchObject({ code: 2, err: expect.stringContaining('no command "fly"') });
    expect(await arroyo("simulate", "demo/clinic.json", "--steps", "5")).toMatchObject({ code: 2 });
    expect(await arroyo("simulate", "demo/clinic.json", "--series", "noise")).toMatchObject({ code: 2, err: expect.stringContaining("airTemperature") });
    expect(await arroyo("simulate", "nowhere.json")).toMatchObject({ code: 2, err: expect.stringContaining("nowhere.json") });
  });
  it("knows no command by a name that every object has", async () => {
    for (const name of ["toString", "constructor", "hasOwnProperty", "__proto__"])
      expect(await arroyo(name)).toMatchObject({ code: 2, err: expect.stringContaining(`no command "${name}"`) });
  });
  it("takes a folder for no file, and tells an output it cannot write before it computes anything", async () => {
    expect(await arroyo("simulate", scratch)).toMatchObject({ code: 2, err: expect.stringContaining("is a folder; name a file") });
    expect(await arroyo("import", scratch, "--out", path.join(scratch, "x.json"))).toMatchObject({ code: 2, err: expect.stringContaining("is a folder") });
    const taken = path.join(scratch, "taken");
    writeFileSync(taken, "a file");
    for (const args of [
      ["simulate", "demo/clinic.json", "--out", taken],
      ["size", "demo/clinic.json", "--out", path.join(taken, "deeper")],
      ["comply", "demo/clinic.json", "--pack", "plateau", "--out", taken],
      ["weather", "demo/clinic.json", "--out", path.join(scratch, "no", "such", "year.csv")],
      ["export", "demo/clinic.json", "--out", scratch],
    ]) {
      const r = await arroyo(...args);
      expect(r, args.join(" ")).toMatchObject({ code: 2, out: "" });
      expect(r.err).toMatch(/a file stands where a folder is needed|there is no folder|is a folder; name a file to write/);
    }
    expect(readFileSync(taken, "utf8")).toBe("a file");
  });
  it("reads files with a byte-order mark", async () => {
    const marked = path.join(scratch, "marked.json");
    writeFileSync(marked, `\uFEFF${readFileSync(path.join(root, "demo/clinic.json"), "utf8")}`);
    expect(await arroyo("check", marked)).toMatchObject({ code: 0, err: "" });
  });
  it("takes matches one by one, whatever is in their keys, and refuses those the file has no row for", async () => {
    const source = path.join(scratch, "uses.xml");
    const made = path.join(scratch, "uses.json");
    await arroyo("export", "demo/clinic.json", "--format", "gbxml", "--out", source);
    writeFileSync(source, readFileSync(source, "utf8").replaceAll(/spaceType="[^"]*"/g, 'spaceType="Rooms, quiet = wards"'));
    expect(await arroyo("import", source, "--out", made, "--match", "use:Rooms, quiet = wards=use_homes")).toMatchObject({ code: 0, err: "" });
    const project = JSON.parse(readFileSync(made, "utf8")) as { spaces: Record<string, { spaceType: string }> };
    expect(new Set(Object.values(project.spaces).map((s) => s.spaceType))).toEqual(new Set(["use_homes"]));
    rmSync(made);
    expect(await arroyo("import", source, "--out", made, "--match", "use:Halls=use_homes")).toMatchObject({
      code: 2,
      err: expect.stringContaining('nothing to match as "use:Halls"'),
    });
    expect(await arroyo("import", source, "--out", made, "--match", "use:Rooms, quiet = wards=palace")).toMatchObject({
      code: 2,
      err: expect.stringContaining('cannot be matched with "palace"'),
    });
    expect(existsSync(made)).toBe(false);
  });
  it("tells what a pack lacks in words", async () => {
    const file = path.join(scratch, "hollow.json");
    writeFileSync(file, JSON.stringify({ ...plateauPack, windowShare: undefined }));
    const r = await arroyo("comply", "demo/clinic.json", "--pack", file, "--out", path.join(scratch, "hollow"));
    expect(r.code).toBe(1);
    expect(r.err).toBe("error: windowShare: It is missing; an object is expected.\n");
  });
  it("prints the schema of the document as JSON", async () => {
    const r = await arroyo("schema");
    expect(r.code).toBe(0);
    expect((JSON.parse(r.out) as { properties: Record<string, unknown> }).properties).toHaveProperty("spaces");
  });
});
