import {
  checkProject,
  faceAssembly,
  openingConstruction,
  orientationOf,
  overrideChanges,
  setChange,
  unsetChange,
  type Change,
  type Project,
} from "@arroyo/core";
import { unitsIn, type Units } from "../../ui/units.ts";
import { INHERITED, TYPED, nameColumn, namedColumn, sheetInView, typedColumn, type Column, type Row, type SheetData } from "../../ui/sheet.ts";
import { contactName, hostName } from "./names.ts";

export const sheetNames = ["spaces", "faces", "openings", "shading"] as const;
export type SheetName = (typeof sheetNames)[number];

/** Rows and columns of one sheet in the units in view; a cell takes any unit of its dimension. */
export function sheetOf(project: Project, sheet: SheetName, units: Units = unitsIn("SI")): SheetData {
  return sheetInView(sheetInSi(project, sheet), units);
}

function sheetInSi(project: Project, sheet: SheetName): SheetData {
  const { geometry, openings } = checkProject(project);
  if (sheet === "spaces") {
    const at = (r: Row) => project.spaces[r.id];
    const prism = (r: Row) => (at(r).form.kind === "prism" ? (at(r).form as Extract<Project["spaces"][string]["form"], { kind: "prism" }>) : null);
    return {
      rows: Object.keys(project.spaces).map((id) => ({ id, select: { kind: "space", id } })),
      columns: [
        nameColumn(project, "spaces", (r) => at(r).name),
        namedColumn(
          project,
          "Storey",
          "storey",
          project.storeys,
          (r) => ["spaces", r.id, "storey"],
          (r) => at(r).storey,
          null,
        ),
        namedColumn(
          project,
          "Zone",
          "zone",
          project.zones,
          (r) => ["spaces", r.id, "zone"],
          (r) => at(r).zone,
          "none",
        ),
        namedColumn(
          project,
          "Space type",
          "spaceType",
          project.spaceTypes,
          (r) => ["spaces", r.id, "spaceType"],
          (r) => at(r).spaceType,
          "none",
        ),
        namedColumn(
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
          ...typedColumn(
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
          origin: (r) => (prism(r)?.height !== undefined ? TYPED : INHERITED),
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
        { key: "contact", name: "Touches", value: (r) => contactName(project, of(r)), origin: (r) => (of(r).byHand ? TYPED : null) },
        {
          key: "assembly",
          name: "Assembly",
          value: (r) =>
            project.assemblies[faceAssembly(project, of(r), of(r).partner ? (byKey.get(of(r).partner as string)?.host ?? null) : null).id]?.name ?? "",
          origin: (r) => (override(of(r).host)?.[1].assembly ? TYPED : INHERITED),
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
      const face = geometry.byKey.get(o.face);
      if (!face) continue;
      const id = openingConstruction(project, o, face).id;
      made.set(o.record, {
        count: m.count + 1,
        area: m.area + o.area,
        construction: (o.use === "window" ? project.glazings[id] : project.assemblies[id])?.name ?? id,
      });
    }
    const field = (name: string, key: string, unit: string, factor = 1): Column =>
      typedColumn(
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
        nameColumn(project, "openings", (r) => at(r).name),
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
          origin: (r) => (at(r).glazing === null ? INHERITED : TYPED),
          write: (r, text) => {
            const o = at(r);
            const records: Readonly<Record<string, { name: string }>> = "use" in o && o.use === "door" ? project.assemblies : project.glazings;
            const t = text.trim().toLowerCase();
            const id = Object.keys(records).find((k) => k.toLowerCase() === t || records[k].name.toLowerCase() === t);
            return id ? [setChange(project, ["openings", r.id, "glazing"], id)] : `There is no glazing or assembly “${text}”.`;
          },
          clear: (r) => (at(r).glazing === null ? [] : [setChange(project, ["openings", r.id, "glazing"], null)]),
        },
        { key: "count", name: "Makes", numeric: true, digits: 0, value: (r) => made.get(r.id)?.count ?? 0 },
        { key: "area", name: "Area", unit: "m²", numeric: true, value: (r) => made.get(r.id)?.area ?? 0 },
      ],
    };
  }
  const at = (r: Row) => project.shades[r.id];
  const field = (name: string, key: string, unit: string): Column =>
    typedColumn(
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
      nameColumn(project, "shades", (r) => at(r).name),
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
