import { daylitAreas, effective, setChange, spaceUses, unsetChange, packUseOf, type Pack, type Project } from "@arroyo/core";
import { nameColumn, type Column, type Row, type SheetData } from "../../ui/sheet.ts";
import type { Units } from "../../ui/units.ts";
import { inputColumn } from "../use/inputSheet.ts";

export const controlSheetNames = ["Controls and outdoor air"] as const;

/** Every space with its daylight areas, its control by daylight, its outdoor air and where that comes from: pasted, read from CSV, written to it. */
export function controlSheet(project: Project, _sheet: string, units: Units, pack: Pack): SheetData {
  const areas = new Map(daylitAreas(project, pack.daylight?.over.value).map((a) => [a.space, a]));
  const uses = spaceUses(project);
  const figure = (key: string, name: string, unit: string, digits: number, value: (id: string) => number | null): Column => ({
    key,
    name,
    unit: units.unit(unit),
    numeric: true,
    digits,
    value: (r) => {
      const v = value(r.id);
      return v === null ? null : units.value(v, unit);
    },
  });
  const source = (id: string): string => project.evidence[`spaces/${id}/inputs/outdoorAirPerPerson`]?.source ?? "";
  return {
    rows: Object.keys(project.spaces).map((id): Row => ({ id, select: { kind: "space", id } })),
    columns: [
      nameColumn(project, "spaces", (r) => project.spaces[r.id].name),
      { key: "use", name: "Use of the pack", value: (r) => packUseOf(project, pack, r.id).name },
      figure("primary", "Primary sidelit", "m²", 1, (id) => areas.get(id)?.primary ?? null),
      figure("secondary", "Secondary sidelit", "m²", 1, (id) => areas.get(id)?.secondary ?? null),
      figure("top", "Toplit", "m²", 1, (id) => areas.get(id)?.top ?? null),
      { key: "asked", name: "Control", value: (r) => (areas.get(r.id)?.needsControl ? "required" : "not required") },
      ...(["lightingControl", "lightingControlledShare", "outdoorAirPerPerson", "outdoorAirPerArea"] as const).map((f) => inputColumn(project, f, units)),
      figure("air", "Outdoor air", "L/s", 1, (id) => 1000 * (uses.get(id)?.outdoorAir.needed ?? 0)),
      {
        key: "least",
        name: "Least by the pack",
        unit: units.unit("L/s"),
        numeric: true,
        digits: 1,
        value: (r) => {
          const use = packUseOf(project, pack, r.id);
          const own = uses.get(r.id);
          return own ? units.value(own.people * (use.outdoorAirPerPerson?.value ?? 0) + own.area * (use.outdoorAirPerArea?.value ?? 0), "L/s") : null;
        },
      },
      {
        key: "source",
        name: "Source of the outdoor air",
        value: (r) =>
          source(r.id) ||
          (effective(project, "space", r.id, "outdoorAirPerPerson").origin.kind === "typed" ? "" : (packUseOf(project, pack, r.id).outdoorAirSource ?? "")),
        write: (r, text) => {
          const path = ["evidence", `spaces/${r.id}/inputs/outdoorAirPerPerson`];
          const now = project.evidence[path[1]];
          if (text.trim() === "") return now ? [unsetChange(project, path)] : [];
          return text.length > 300 ? "A source has at most 300 characters." : [setChange(project, path, { ...now, source: text.trim() })];
        },
      },
    ],
  };
}
