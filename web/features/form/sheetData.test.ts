import { describe, expect, it } from "vitest";
import { applyChanges, checkProject, parseProject, type Change, type Project } from "@arroyo/core";
import { library } from "../../../demo/library.ts";
import type { Column, Row, SheetData } from "../../ui/sheet.ts";
import { sheetNames, sheetOf } from "./sheetData.ts";

const column = (sheet: SheetData, key: string): Column => sheet.columns.find((c) => c.key === key) as Column;
const row = (sheet: SheetData, id: string): Row => sheet.rows.find((r) => r.id === id) as Row;
/** The project after typing a text into a cell; a sentence where it is refused. */
function typedInto(project: Project, sheet: (typeof sheetNames)[number], id: string, key: string, text: string): Project | string {
  const data = sheetOf(project, sheet);
  const changes = (column(data, key).write as NonNullable<Column["write"]>)(row(data, id), text);
  return typeof changes === "string" ? changes : applied(project, changes);
}
function applied(project: Project, changes: readonly Change[]): Project {
  const r = applyChanges(project, changes);
  if (!r.ok) throw new Error(r.message);
  return r.project;
}
const [space] = Object.keys(library.spaces);

describe.each(sheetNames)("the sheet of %s", (name) => {
  const sheet = sheetOf(library, name);
  it("has rows, and every cell reads as text, a number or nothing", () => {
    expect(sheet.rows.length).toBeGreaterThan(0);
    for (const c of sheet.columns)
      for (const r of sheet.rows) {
        const v = c.value(r);
        if (c.numeric) expect(v === null || Number.isFinite(v)).toBe(true);
        else expect(v === null || typeof v === "string").toBe(true);
      }
  });
  it("takes back what it shows: a cell's own text leaves the building as it is", () => {
    for (const c of sheet.columns.filter((x) => x.write))
      for (const r of sheet.rows) {
        const v = c.value(r);
        if (v === null || v === "") continue;
        const changes = (c.write as NonNullable<Column["write"]>)(r, String(v));
        // a cell that is not of this row says so
        if (typeof changes === "string") expect(changes).toMatch(/ is not of this row\.$/);
        else
          expect(
            sheetOf(applied(library, changes), name)
              .columns.find((x) => x.key === c.key)
              ?.value(r),
          ).toEqual(v);
      }
  });
  it.each(["", "   ", "no such thing", "12 apples", "NaN", "-1e999"])("never makes a document of “%s” that could not be read again", (text) => {
    for (const c of sheet.columns.filter((x) => x.write)) {
      const [r] = sheet.rows;
      const changes = (c.write as NonNullable<Column["write"]>)(r, text);
      if (typeof changes === "string") {
        expect(changes).toMatch(/^[A-Z“].*\.$/);
        continue;
      }
      const after = applyChanges(library, changes);
      if (after.ok) expect(parseProject(JSON.parse(JSON.stringify(after.project))).ok, `${c.key} “${text}”`).toBe(true);
    }
  });
  it("takes a typed value back where it marks one", () => {
    for (const c of sheet.columns.filter((x) => x.clear && x.origin))
      for (const r of sheet.rows) {
        if (c.origin?.(r)?.mark !== "●") continue;
        const after = sheetOf(applied(library, (c.clear as NonNullable<Column["clear"]>)(r)), name);
        expect(column(after, c.key).origin?.(r)?.mark).not.toBe("●");
      }
  });
});

describe("cells of the sheets", () => {
  it("add up to the building: floor areas, walls, windows", () => {
    const { geometry, openings } = checkProject(library);
    const spaces = sheetOf(library, "spaces");
    const sum = (key: string): number => spaces.rows.reduce((s, r) => s + (column(spaces, key).value(r) as number), 0);
    expect(sum("area")).toBeCloseTo(
      [...geometry.spaces.values()].reduce((s, g) => s + g.floorArea, 0),
      9,
    );
    expect(sum("glass")).toBeCloseTo(
      openings.filter((o) => o.use === "window" && geometry.byKey.get(o.face)?.kind === "wall").reduce((s, o) => s + o.area, 0),
      9,
    );
    const made = sheetOf(library, "openings");
    expect(made.rows.reduce((s, r) => s + (column(made, "count").value(r) as number), 0)).toBe(openings.length);
  });
  it("read a decimal comma, a thin space and a true minus, and percent as percent", () => {
    const openings = sheetOf(library, "openings");
    const share = openings.rows.find((r) => library.openings[r.id].kind === "ratio") as Row;
    const after = typedInto(library, "openings", share.id, "ratio", "12,5") as Project;
    expect((after.openings[share.id] as { ratio: number }).ratio).toBeCloseTo(0.125, 12);
    const placed = openings.rows.find((r) => "offset" in library.openings[r.id]) as Row;
    expect((typedInto(library, "openings", placed.id, "offset", "1\u202f000") as Project).openings[placed.id]).toMatchObject({ offset: 1000 });
    expect((typedInto(library, "openings", placed.id, "offset", "−0.5") as Project).openings[placed.id]).toMatchObject({ offset: -0.5 });
  });
  it("find records by name or id, whatever the case, and say what there is not", () => {
    const [id, type] = Object.entries(library.spaceTypes)[0];
    expect((typedInto(library, "spaces", space, "spaceType", type.name.toUpperCase()) as Project).spaces[space].spaceType).toBe(id);
    expect((typedInto(library, "spaces", space, "spaceType", id) as Project).spaces[space].spaceType).toBe(id);
    expect(typedInto(library, "spaces", space, "spaceType", "Ballroom")).toBe("There is no space type “Ballroom”.");
    expect((typedInto(library, "spaces", space, "zone", "none") as Project).spaces[space].zone).toBeNull();
  });
  it("will not put a space on no storey", () => {
    expect(typedInto(library, "spaces", space, "storey", "")).toBe("A storey is needed.");
    expect(typedInto(library, "spaces", space, "storey", "Penthouse")).toBe("There is no storey “Penthouse”.");
  });
  it("give one face its own assembly, and the kit's again", () => {
    const faces = sheetOf(library, "faces");
    const wall = faces.rows.find((r) => String(column(faces, "kind").value(r)).startsWith("wall") && column(faces, "contact").value(r) === "outdoors") as Row;
    const other = Object.values(library.assemblies).find((a) => a.name !== column(faces, "assembly").value(wall))?.name as string;
    const after = typedInto(library, "faces", wall.id, "assembly", other) as Project;
    const sheet = sheetOf(after, "faces");
    expect(column(sheet, "assembly").value(wall)).toBe(other);
    expect(column(sheet, "assembly").origin?.(wall)?.mark).toBe("●");
    const back = applied(after, (column(sheet, "assembly").clear as NonNullable<Column["clear"]>)(wall));
    expect(back.faceOverrides).toEqual(library.faceOverrides);
  });
});
