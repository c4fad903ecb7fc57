import {
  readQuantity,
  setChange,
  signalName,
  signalText,
  SIZED,
  unsetChange,
  type Effective,
  type FieldSpec,
  type InputValue,
  type Project,
} from "@arroyo/core";
import { originText } from "./fields.tsx";
import type { Column, Row } from "./sheet.ts";
import type { Units } from "./units.ts";

/** What a signal field follows, by the name or id of a temperature schedule or of a reset; null: nothing is called so. */
function signalNamed(project: Project, text: string): string | null {
  for (const part of ["schedules", "resets"] as const)
    for (const [id, r] of Object.entries(project[part]))
      if ((!("kind" in r) || r.kind === "temperature") && (r.name.toLowerCase() === text.toLowerCase() || signalText({ part, id }) === text))
        return signalText({ part, id });
  return null;
}

/** Where the cells of a field stand, and what is in effect there. */
export interface FieldCells {
  readonly path: (r: Row) => readonly string[];
  readonly read: (r: Row) => Effective;
  readonly typed: (r: Row) => boolean;
  /** What sizing found for a row; null: not known. */
  readonly sized?: (r: Row) => number | null;
  /** Whether the row asks for the field at all; an unasked cell is empty and cannot be typed. */
  readonly asked?: (r: Row) => boolean;
}

/** A column of a registered field: each cell with where it comes from; blank takes a typed value back. */
export function fieldColumn(project: Project, spec: FieldSpec, key: string, units: Units, cells: FieldCells): Column {
  const { path, read } = cells;
  const asked = cells.asked ?? (() => true);
  const electric = spec.electric ?? false;
  const shown = spec.display?.unit ?? spec.unit;
  const factor = spec.display?.factor ?? 1;
  const there = units.unit(shown, electric);
  const records: Readonly<Record<string, { readonly name: string }>> | null =
    spec.kind === "schedule"
      ? project.schedules
      : spec.kind === "devices"
        ? project.deviceLists
        : spec.kind === "record" && spec.of
          ? Object.fromEntries(Object.entries(project[spec.of]).filter(([, x]) => spec.ofKind === undefined || (x as { kind?: string }).kind === spec.ofKind))
          : null;
  const put = (r: Row, value: InputValue) => [setChange(project, path(r), value)];
  const back = (r: Row) => (cells.typed(r) ? [unsetChange(project, path(r))] : []);
  return {
    key,
    name: spec.label,
    ...(there === "" || there === "1" ? {} : { unit: there }),
    numeric: spec.kind === "number",
    value: (r) => {
      if (!asked(r)) return null;
      const v = read(r).value;
      if (v === SIZED) {
        const found = cells.sized?.(r) ?? null;
        return found === null ? "by sizing" : units.value(found * factor, shown, electric);
      }
      if (v === null) return spec.nullMeans ?? "none";
      if (typeof v === "number") return units.value(v * factor, shown, electric);
      return records ? (records[v]?.name ?? v) : (signalName(project, v) ?? v);
    },
    origin: (r) => {
      if (!asked(r)) return null;
      const { mark, words } = originText(read(r).origin);
      return { mark, words };
    },
    write: (r, text) => {
      const t = text.trim();
      if (t === "") return back(r);
      if (!asked(r)) return `${spec.label} has no meaning here as the others stand.`;
      if (spec.nullMeans !== undefined && (t === spec.nullMeans || t.toLowerCase() === "none")) return put(r, null);
      if (records) {
        const id = Object.keys(records).find((k) => k === t || records[k].name.toLowerCase() === t.toLowerCase());
        return id === undefined
          ? `There is no ${spec.kind === "schedule" ? "schedule" : spec.kind === "devices" ? "device list" : spec.of === "loops" ? "loop" : "air system"} “${t}”.`
          : put(r, id);
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
