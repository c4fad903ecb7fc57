import { readFileSync } from "node:fs";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { applyChanges, assemblyU, parseProject, type Change, type Project } from "@arroyo/core";
import { cellChanges, heading, plainCell, readSheetCsv, type Column, type Row, type SheetData } from "../../ui/sheet.ts";
import { unitsIn } from "../../ui/units.ts";
import { fabricSheet } from "./fabricSheets.ts";
import { fabricParts } from "./fabricStore.ts";

const library = JSON.parse(readFileSync(new URL("../../../demo/library.json", import.meta.url), "utf8")) as Project;
const [si, ip] = [unitsIn("SI"), unitsIn("IP")];
const applied = (changes: readonly Change[]): Project => {
  const r = applyChanges(library, changes);
  if (!r.ok) throw new Error(r.message);
  const parsed = parseProject(r.project);
  if (!parsed.ok) throw new Error(parsed.problems[0].message);
  return parsed.project;
};
const cell = (data: SheetData, id: string, key: string): { row: Row; column: Column } => ({
  row: data.rows.find((r) => r.id === id) as Row,
  column: data.columns.find((c) => c.key === key) as Column,
});
const csvOf = (data: SheetData): string => Papa.unparse([data.columns.map(heading), ...data.rows.map((r) => data.columns.map((c) => plainCell(c, r)))]);

describe("the sheets of Fabric", () => {
  it("show every thing of their kind and take back what they show without a change, in both systems", () => {
    for (const part of fabricParts)
      for (const units of [si, ip]) {
        const data = fabricSheet(library, part, units);
        expect(data.rows.map((r) => r.id)).toEqual(Object.keys(library[part]));
        for (const row of data.rows) for (const column of data.columns) expect(cellChanges([{ row, column, text: plainCell(column, row) }])).toEqual([]);
        expect(readSheetCsv(data, csvOf(data))).toEqual({ lines: [], changes: [] });
      }
  });
  it("take a figure in the units in view or in any other, for many rows at once", () => {
    const data = fabricSheet(library, "materials", ip);
    const k = (id: string) => cell(data, id, "conductivity");
    const changes = cellChanges([
      { ...k("brick"), text: "5" },
      { ...k("mineral_wool"), text: "0.04 W/m·K" },
    ]);
    if (typeof changes === "string") throw new Error(changes);
    const p = applied(changes);
    // 1 Btu·in/h·ft²·°F = 0.144228 W/m·K
    expect(p.materials.brick.conductivity).toBeCloseTo(5 * 0.144228, 4);
    expect(p.materials.mineral_wool.conductivity).toBeCloseTo(0.04, 12);
    expect(cellChanges([{ ...k("brick"), text: "5 kg" }])).toContain("a thermal conductivity is needed");
  });
  it("type the U of what has no layers, and refuse it where layers decide", () => {
    const rated: Project = {
      ...library,
      assemblies: { ...library.assemblies, rated: { name: "Rated", use: "roof", layers: [], rated: { u: 0.2, mass: "light", at: "spread" } } },
    };
    const data = fabricSheet(rated, "assemblies", si);
    const changes = cellChanges([{ ...cell(data, "rated", "u"), text: "0.15" }]);
    if (typeof changes === "string") throw new Error(changes);
    const r = applyChanges(rated, changes);
    expect(r.ok && assemblyU(r.project, r.project.assemblies.rated)).toBeCloseTo(0.15, 12);
    expect(cellChanges([{ ...cell(data, "wall_brick", "u"), text: "0.15" }])).toContain("follows from the layers");
  });
  it("name what stands in a kit, by name or id, and refuse what is not there", () => {
    const data = fabricSheet(library, "kits", si);
    const wall = cell(data, "standard", "exteriorWall");
    const changes = cellChanges([{ ...wall, text: "Stud partition" }]);
    if (typeof changes === "string") throw new Error(changes);
    expect(applied(changes).assemblies[applied(changes).kits.standard.exteriorWall].name).toBe("Stud partition");
    expect(cellChanges([{ ...wall, text: "Straw wall" }])).toContain("There is no exterior wall “Straw wall”");
  });
});

describe("a CSV for a sheet", () => {
  const data = fabricSheet(library, "materials", si);
  it("tells cell by cell what it would change, and changes nothing itself", () => {
    const read = readSheetCsv(data, "Name,Density (kg/m³),Kind\nMineral wool,40,insulation\nBrick (no such),5,masonry\nSoftwood,heavy,timber\n");
    expect(read.lines.map((l) => [l.line, l.column, l.to, l.fault === null])).toEqual([
      [2, "Density", "40", true],
      [3, "", "", false],
      [4, "Density", "heavy", false],
    ]);
    expect(read.changes).toHaveLength(1);
    expect(applied(read.changes).materials.mineral_wool.density).toBe(40);
  });
  it("with heads the sheet does not have, or that cannot find rows, says so", () => {
    expect(readSheetCsv(data, "Name,Colour\nMineral wool,red\n").lines[0].fault).toContain("no such column");
    expect(readSheetCsv(data, "Colour,Density\nred,4\n").lines.at(-1)?.fault).toContain("The first column must be “Name”");
    expect(readSheetCsv(data, "").lines[0].fault).toContain("empty");
    expect(readSheetCsv(data, "Name,Density\nMineral wool,40,7\n").lines[0].fault).toContain("3 cells under 2 heads");
  });
});
