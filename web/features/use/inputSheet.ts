import { effective, setChange, spaceFieldNames, spaceFields, spaceUses, type Project, type SpaceField } from "@arroyo/core";
import { fieldColumn } from "../../ui/fieldColumn.ts";
import { nameColumn, namedColumn, type Column, type Row, type SheetData } from "../../ui/sheet.ts";
import type { Units } from "../../ui/units.ts";

const groups = [...new Set(spaceFieldNames.map((f) => spaceFields[f].group))];
/** Sheets of inputs: all of them, and by group. */
export const inputSheets: readonly string[] = ["All inputs", ...groups];

/** Every space a row, every input a column, each cell with where it comes from; blank takes a typed value back. */
export function inputSheet(project: Project, sheet: string, units: Units): SheetData {
  const rows: Row[] = Object.keys(project.spaces).map((id) => ({ id, select: { kind: "space", id } }));
  const uses = spaceUses(project);
  const space = (r: Row) => project.spaces[r.id];
  const found = (key: string, name: string, unit: string, digits: number, value: (r: Row) => number | null): Column => ({
    key,
    name,
    unit: units.unit(unit),
    numeric: true,
    digits,
    value: (r) => {
      const v = value(r);
      return v === null ? null : units.value(v, unit);
    },
  });
  const head: Column[] = [
    nameColumn(project, "spaces", (r) => space(r).name),
    namedColumn(
      project,
      "Space type",
      "spaceType",
      project.spaceTypes,
      (r) => ["spaces", r.id, "spaceType"],
      (r) => space(r).spaceType,
      "none",
    ),
    { key: "storey", name: "Storey", value: (r) => project.storeys[space(r).storey]?.name ?? "" },
    {
      key: "tags",
      name: "Tags",
      value: (r) => (space(r).tags ?? []).join(", "),
      write: (r, text) => [
        setChange(
          project,
          ["spaces", r.id, "tags"],
          text
            .split(",")
            .map((t) => t.trim())
            .filter((t) => t !== ""),
        ),
      ],
    },
    found("area", "Area", "m²", 1, (r) => uses.get(r.id)?.area ?? null),
  ];
  const fields = spaceFieldNames.filter((f) => sheet === "All inputs" || spaceFields[f].group === sheet);
  const outcome: Column[] =
    sheet === "People"
      ? [found("count", "People", "1", 1, (r) => uses.get(r.id)?.people ?? null)]
      : sheet === "Lighting"
        ? [found("lightingSum", "Lighting of it", "W", 0, (r) => uses.get(r.id)?.lighting ?? null)]
        : sheet === "Outdoor air"
          ? [found("airSum", "Outdoor air of it", "L/s", 1, (r) => 1000 * (uses.get(r.id)?.outdoorAir.supplied ?? 0))]
          : [];
  return { columns: [...head, ...fields.map((f) => inputColumn(project, f, units)), ...outcome], rows };
}

/** A column of an input of spaces. */
export function inputColumn(project: Project, field: SpaceField, units: Units): Column {
  const path = (r: Row): string[] => ["spaces", r.id, "inputs", field];
  return fieldColumn(project, spaceFields[field], field, units, {
    path,
    read: (r) => effective(project, "space", r.id, field),
    typed: (r) => project.spaces[r.id].inputs[field] !== undefined,
  });
}
