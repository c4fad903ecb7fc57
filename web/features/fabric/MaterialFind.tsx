"use client";
import { shippedMaterials, type Material, type Project } from "@arroyo/core";
import { Find, type Found } from "../../ui/Find.tsx";
import { useUnits, type Units } from "../../ui/units.ts";

const entry = (units: Units, key: string, m: Material, group: string): Found => ({
  key,
  name: m.name,
  group,
  kind: m.kind ?? "other",
  figures: `${units.text(m.conductivity, "W/m·K", 3)} ${units.unit("W/m·K")} · ${units.words(m.density, "kg/m³", 0)}`,
});

/** The project's materials and the shipped ones, found by words and kind. Keys: id, or "shipped:" and id. */
export function MaterialFind({
  project,
  label,
  extra = [],
  onChoose,
  onClose,
}: {
  project: Project;
  label: string;
  extra?: readonly Found[];
  onChoose: (key: string) => void;
  onClose: () => void;
}) {
  const units = useUnits();
  const own = new Set(Object.values(project.materials).flatMap((m) => (m.from ? [m.from.id] : [])));
  const items = [
    ...extra,
    ...Object.entries(project.materials).map(([id, m]) => entry(units, id, m, "In this project")),
    ...Object.entries(shippedMaterials).flatMap(([id, m]) =>
      own.has(id) ? [] : [entry(units, `shipped:${id}`, m, "Shipped: taken into the project when chosen")],
    ),
  ];
  return <Find label={label} items={items} onChoose={onChoose} onClose={onClose} />;
}
