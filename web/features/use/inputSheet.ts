import {
  effective,
  readQuantity,
  setChange,
  signalName,
  signalText,
  spaceFieldNames,
  spaceFields,
  spaceUses,
  unsetChange,
  type FieldSpec,
  type InputValue,
  type Project,
  type SpaceField,
} from "@arroyo/core";
import { originText } from "../../ui/fields.tsx";
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

/** What a signal field follows, by the name or id of a temperature schedule or of a reset; null: nothing is called so. */
function signalNamed(project: Project, text: string): string | null {
  for (const part of ["schedules", "resets"] as const)
    for (const [id, r] of Object.entries(project[part]))
      if ((!("kind" in r) || r.kind === "temperature") && (r.name.toLowerCase() === text.toLowerCase() || signalText({ part, id }) === text))
        return signalText({ part, id });
  return null;
}

function inputColumn(project: Project, field: SpaceField, units: Units): Column {
  const spec: FieldSpec = spaceFields[field];
  const electric = spec.electric ?? false;
  const shown = spec.display?.unit ?? spec.unit;
  const factor = spec.display?.factor ?? 1;
  const there = units.unit(shown, electric);
  const records: Readonly<Record<string, { readonly name: string }>> | null =
    spec.kind === "schedule" ? project.schedules : spec.kind === "devices" ? project.deviceLists : null;
  const path = (r: Row): string[] => ["spaces", r.id, "inputs", field];
  const read = (r: Row) => effective(project, "space", r.id, field);
  const put = (r: Row, value: InputValue) => [setChange(project, path(r), value)];
  const back = (r: Row) => (project.spaces[r.id].inputs[field] === undefined ? [] : [unsetChange(project, path(r))]);
  return {
    key: field,
    name: spec.label,
    ...(there === "" || there === "1" ? {} : { unit: there }),
    numeric: spec.kind === "number",
    value: (r) => {
      const v = read(r).value;
      if (v === null) return spec.nullMeans ?? "none";
      if (typeof v === "number") return units.value(v * factor, shown, electric);
      return records ? (records[v]?.name ?? v) : (signalName(project, v) ?? v);
    },
    origin: (r) => {
      const { mark, words } = originText(read(r).origin);
      return { mark, words };
    },
    write: (r, text) => {
      const t = text.trim();
      if (t === "") return back(r);
      if (spec.nullMeans !== undefined && (t === spec.nullMeans || t.toLowerCase() === "none")) return put(r, null);
      if (records) {
        const id = Object.keys(records).find((k) => k === t || records[k].name.toLowerCase() === t.toLowerCase());
        return id === undefined ? `There is no ${spec.kind === "schedule" ? "schedule" : "device list"} “${t}”.` : put(r, id);
      }
      if (spec.kind === "choice") {
        const word = spec.choices?.find((c) => c.toLowerCase() === t.toLowerCase());
        return word === undefined ? `“${t}” is none of ${spec.choices?.join(", ")}.` : put(r, word);
      }
      const followed = spec.signal ? signalNamed(project, t) : null;
      if (followed !== null) return put(r, followed);
      const n = readQuantity(t, spec.unit === "" ? "1" : spec.unit, there === "" ? "1" : there);
      return n.ok ? put(r, n.value) : n.message;
    },
    clear: back,
  };
}
