import {
  checkProject,
  faceAssembly,
  openingConstruction,
  orientationOf,
  overrideChanges,
  readQuantity,
  setChange,
  unsetChange,
  type Change,
  type Project,
} from "@arroyo/core";
import { unitsIn, type Units } from "../../ui/units.ts";
import type { Selection } from "../store.ts";
import { contactName, hostName } from "./names.ts";

export const sheetNames = ["spaces", "faces", "openings", "shading"] as const;
export type SheetName = (typeof sheetNames)[number];

/** One column of a sheet: how a cell reads and, where it can be typed, what a typed text comes to. */
export interface Column {
  readonly key: string;
  readonly name: string;
  readonly unit?: string;
  /** Number: right, sorted by size. */
  readonly numeric?: boolean;
  readonly value: (row: Row) => string | number | null;
  /** Where the value comes from, in a mark; typed, inherited or found. */
  readonly origin?: (row: Row) => "●" | "↑" | "○" | null;
  /** Changes that give a row this text; a sentence that refuses it; absent: not to be typed. */
  readonly write?: (row: Row, text: string) => readonly Change[] | string;
  /** Changes that take a typed value back. */
  readonly clear?: (row: Row) => readonly Change[];
}
export interface Row {
  readonly id: string;
  readonly select: Selection;
}
export interface SheetData {
  readonly columns: readonly Column[];
  readonly rows: readonly Row[];
}

const parse = (text: string): number | null => {
  const t = text
    .trim()
    .replace(/[\s\u202f]/g, "")
    .replace("−", "-")
    .replace(",", ".");
  return t !== "" && Number.isFinite(Number(t)) ? Number(t) : null;
};

/** A column over a path of the document. */
function typed(
  project: Project,
  name: string,
  key: string,
  unit: string | undefined,
  path: (r: Row) => readonly string[] | null,
  read: (r: Row) => number | null,
  factor = 1,
): Column {
  return {
    key,
    name,
    ...(unit ? { unit } : {}),
    numeric: true,
    value: (r) => {
      const v = read(r);
      return v === null ? null : v * factor;
    },
    write: (r, text) => {
      const p = path(r);
      if (!p) return `${name} is not of this row.`;
      const n = parse(text);
      return n === null ? `“${text}” is not a number.` : [setChange(project, p, n / factor)];
    },
  };
}

/** A column whose cells name one of a set of records; `none`: how none of them reads, null where one is needed. */
function named(
  project: Project,
  name: string,
  key: string,
  records: Readonly<Record<string, { readonly name: string }>>,
  path: (r: Row) => readonly string[] | null,
  read: (r: Row) => string | null,
  none: string | null,
): Column {
  return {
    key,
    name,
    value: (r) => {
      const id = read(r);
      return id === null ? (none ?? "") : (records[id]?.name ?? id);
    },
    write: (r, text) => {
      const p = path(r);
      if (!p) return `${name} is not of this row.`;
      const t = text.trim().toLowerCase();
      if (none === null && t === "") return `A ${name.toLowerCase()} is needed.`;
      if (t === "" || t === none?.toLowerCase()) return [setChange(project, p, null)];
      const id = Object.keys(records).find((k) => k.toLowerCase() === t || records[k].name.toLowerCase() === t);
      return id ? [setChange(project, p, id)] : `There is no ${name.toLowerCase()} “${text}”.`;
    },
  };
}

/** Rows and columns of one sheet in the units in view; a cell takes any unit of its dimension. */
export function sheetOf(project: Project, sheet: SheetName, units: Units = unitsIn("SI")): SheetData {
  const data = sheetInSi(project, sheet);
  return { ...data, columns: data.columns.map((c) => inView(c, units)) };
}

function inView(c: Column, units: Units): Column {
  const { unit, write } = c;
  if (!unit) return c;
  const there = units.unit(unit);
  return {
    ...c,
    unit: there,
    value: (r) => {
      const v = c.value(r);
      return typeof v === "number" ? units.value(v, unit) : v;
    },
    ...(write
      ? {
          write: (r, text) => {
            const read = readQuantity(text, unit, there);
            return read.ok ? write(r, String(read.value)) : read.message;
          },
        }
      : {}),
  };
}

function sheetInSi(project: Project, sheet: SheetName): SheetData {
  const { geometry, openings } = checkProject(project);
  if (sheet === "spaces") {
    const at = (r: Row) => project.spaces[r.id];
    const prism = (r: Row) => (at(r).form.kind === "prism" ? (at(r).form as Extract<Project["spaces"][string]["form"], { kind: "prism" }>) : null);
    return {
      rows: Object.keys(project.spaces).map((id) => ({ id, select: { kind: "space", id } })),
      columns: [
        {
          key: "name",
          name: "Name",
          value: (r) => at(r).name,
          write: (r, t) => (t.trim() ? [setChange(project, ["spaces", r.id, "name"], t.trim())] : "A name is needed."),
        },
        named(
          project,
          "Storey",
          "storey",
          project.storeys,
          (r) => ["spaces", r.id, "storey"],
          (r) => at(r).storey,
          null,
        ),
        named(
          project,
          "Zone",
          "zone",
          project.zones,
          (r) => ["spaces", r.id, "zone"],
          (r) => at(r).zone,
          "none",
        ),
        named(
          project,
          "Space type",
          "spaceType",
          project.spaceTypes,
          (r) => ["spaces", r.id, "spaceType"],
          (r) => at(r).spaceType,
          "none",
        ),
        named(
          project,
          "Envelope kit",
          "kit",
          project.kits,
          (r) => ["spaces", r.id, "kit"],
          (r) => at(r).kit,
          "project’s",
        ),
        { key: "area", name: "Floor area", unit: "m²", numeric: true, value: (r) => geometry.spaces.get(r.id)?.floorArea ?? null },
        { key: "volume", name: "Volume", unit: "m³", numeric: true, value: (r) => geometry.spaces.get(r.id)?.volume ?? null },
        {
          ...typed(
            project,
            "Height",
            "height",
            "m",
            (r) => (prism(r) && prism(r)?.roof === undefined ? ["spaces", r.id, "form", "height"] : null),
            (r) => {
              const g = geometry.spaces.get(r.id);
              return g ? g.high - g.low : null;
            },
          ),
          origin: (r) => (prism(r)?.height !== undefined ? "●" : "↑"),
          clear: (r) => (prism(r)?.height !== undefined ? [unsetChange(project, ["spaces", r.id, "form", "height"])] : []),
        },
        {
          key: "wall",
          name: "Outdoor wall",
          unit: "m²",
          numeric: true,
          value: (r) => geometry.faces.filter((f) => f.space === r.id && f.kind === "wall" && f.contact === "outdoors").reduce((s, f) => s + f.area, 0),
        },
        {
          key: "glass",
          name: "Windows",
          unit: "m²",
          numeric: true,
          value: (r) => openings.filter((o) => o.use === "window" && geometry.byKey.get(o.face)?.space === r.id).reduce((s, o) => s + o.area, 0),
        },
      ],
    };
  }
  if (sheet === "faces") {
    const byKey = geometry.byKey;
    const of = (r: Row) => byKey.get(r.id) as NonNullable<ReturnType<typeof byKey.get>>;
    const override = (host: string) => Object.entries(project.faceOverrides).find(([, o]) => o.host === host);
    const put = (host: string, assembly: string | null): Change[] => overrideChanges(project, [host], assembly);
    return {
      rows: geometry.faces.map((f) => ({ id: f.key, select: { kind: "wall", id: f.host } })),
      columns: [
        { key: "space", name: "Space", value: (r) => project.spaces[of(r).space].name },
        { key: "kind", name: "Kind", value: (r) => (of(r).kind === "wall" ? `wall ${orientationOf(of(r).azimuth)}` : of(r).kind) },
        { key: "contact", name: "Touches", value: (r) => contactName(project, of(r)), origin: (r) => (of(r).byHand ? "●" : null) },
        {
          key: "assembly",
          name: "Assembly",
          value: (r) =>
            project.assemblies[faceAssembly(project, of(r), of(r).partner ? (byKey.get(of(r).partner as string)?.host ?? null) : null).id]?.name ?? "",
          origin: (r) => (override(of(r).host)?.[1].assembly ? "●" : "↑"),
          write: (r, text) => {
            const t = text.trim().toLowerCase();
            const id = Object.keys(project.assemblies).find((k) => k.toLowerCase() === t || project.assemblies[k].name.toLowerCase() === t);
            return id ? put(of(r).host, id) : `There is no assembly “${text}”.`;
          },
          clear: (r) => put(of(r).host, null),
        },
        { key: "area", name: "Area", unit: "m²", numeric: true, value: (r) => of(r).area },
        { key: "tilt", name: "Tilt", unit: "°", numeric: true, value: (r) => of(r).tilt },
        {
          key: "azimuth",
          name: "Azimuth",
          unit: "°",
          numeric: true,
          value: (r) => (of(r).kind === "wall" || (of(r).tilt > 0.1 && of(r).tilt < 179.9) ? of(r).azimuth : null),
        },
        { key: "low", name: "From", unit: "m", numeric: true, value: (r) => of(r).low },
        { key: "high", name: "To", unit: "m", numeric: true, value: (r) => of(r).high },
      ],
    };
  }
  if (sheet === "openings") {
    const at = (r: Row) => project.openings[r.id];
    const made = new Map<string, { count: number; area: number; construction: string }>();
    for (const o of openings) {
      const m = made.get(o.record) ?? { count: 0, area: 0, construction: "" };
      const space = geometry.byKey.get(o.face)?.space ?? "";
      const id = openingConstruction(project, o, space).id;
      made.set(o.record, {
        count: m.count + 1,
        area: m.area + o.area,
        construction: (o.use === "window" ? project.glazings[id] : project.assemblies[id])?.name ?? id,
      });
    }
    const field = (name: string, key: string, unit: string, factor = 1): Column =>
      typed(
        project,
        name,
        key,
        unit,
        (r) => (key in at(r) ? ["openings", r.id, key] : key === "operable" ? ["openings", r.id, key] : null),
        (r) => {
          const v = (at(r) as Record<string, unknown>)[key];
          return typeof v === "number" ? v : null;
        },
        factor,
      );
    return {
      rows: Object.keys(project.openings).map((id) => ({ id, select: { kind: "opening", id } })),
      columns: [
        {
          key: "name",
          name: "Name",
          value: (r) => at(r).name,
          write: (r, t) => (t.trim() ? [setChange(project, ["openings", r.id, "name"], t.trim())] : "A name is needed."),
        },
        {
          key: "kind",
          name: "Kind",
          value: (r) => {
            const o = at(r);
            return o.kind === "ratio" ? "share of wall" : o.kind === "placed" || o.kind === "outline" ? `${o.kind} ${o.use}` : o.kind;
          },
        },
        {
          key: "where",
          name: "Where",
          value: (r) => {
            const o = at(r);
            return "host" in o && o.host ? hostName(project, o.host) : o.kind === "ratio" || o.kind === "repeated" ? (o.orientation ?? "every side") : "";
          },
        },
        field("Share", "ratio", "%", 100),
        field("Offset", "offset", "m"),
        field("Sill", "sill", "m"),
        field("Width", "width", "m"),
        field("Height", "height", "m"),
        field("Spacing", "spacing", "m"),
        field("Can be opened", "operable", "%", 100),
        {
          key: "glazing",
          name: "Glazing or assembly",
          value: (r) => made.get(r.id)?.construction ?? "",
          origin: (r) => (at(r).glazing === null ? "↑" : "●"),
          write: (r, text) => {
            const o = at(r);
            const records: Readonly<Record<string, { name: string }>> = "use" in o && o.use === "door" ? project.assemblies : project.glazings;
            const t = text.trim().toLowerCase();
            const id = Object.keys(records).find((k) => k.toLowerCase() === t || records[k].name.toLowerCase() === t);
            return id ? [setChange(project, ["openings", r.id, "glazing"], id)] : `There is no glazing or assembly “${text}”.`;
          },
          clear: (r) => (at(r).glazing === null ? [] : [setChange(project, ["openings", r.id, "glazing"], null)]),
        },
        { key: "count", name: "Makes", numeric: true, value: (r) => made.get(r.id)?.count ?? 0 },
        { key: "area", name: "Area", unit: "m²", numeric: true, value: (r) => made.get(r.id)?.area ?? 0 },
      ],
    };
  }
  const at = (r: Row) => project.shades[r.id];
  const field = (name: string, key: string, unit: string): Column =>
    typed(
      project,
      name,
      key,
      unit,
      (r) => (key in at(r) ? ["shades", r.id, key] : null),
      (r) => {
        const v = (at(r) as Record<string, unknown>)[key];
        return typeof v === "number" ? v : null;
      },
    );
  return {
    rows: Object.keys(project.shades).map((id) => ({ id, select: { kind: "shade", id } })),
    columns: [
      {
        key: "name",
        name: "Name",
        value: (r) => at(r).name,
        write: (r, t) => (t.trim() ? [setChange(project, ["shades", r.id, "name"], t.trim())] : "A name is needed."),
      },
      { key: "kind", name: "Kind", value: (r) => at(r).kind },
      {
        key: "where",
        name: "Where",
        value: (r) => {
          const s = at(r);
          if (s.kind === "plane") return "free";
          if (s.kind === "plate") return hostName(project, s.host);
          return s.target.kind === "opening"
            ? (project.openings[s.target.opening]?.name ?? "")
            : s.target.kind === "wall"
              ? hostName(project, s.target.host)
              : `${s.target.orientation} windows`;
        },
      },
      field("Depth", "depth", "m"),
      field("Gap", "gap", "m"),
      field("Extension", "extension", "m"),
      field("Blades", "count", ""),
      field("Angle", "angle", "°"),
      field("From", "from", "m"),
      field("To", "to", "m"),
      field("Level", "level", "m"),
    ],
  };
}
