import {
  componentName,
  componentsOf,
  componentWords,
  effectiveSetting,
  ownerName,
  ruledComponents,
  serviceFieldsOf,
  setChange,
  settingAsked,
  type ComponentKind,
  type PlacedComponent,
  type Project,
  type Summary,
} from "@arroyo/core";
import { fieldColumn } from "../../ui/fieldColumn.ts";
import type { Column, Row, SheetData } from "../../ui/sheet.ts";
import type { Units } from "../../ui/units.ts";
import { selectionOf } from "./componentPlace.ts";

const title = (kind: ComponentKind): string => {
  const words = componentWords[kind];
  return words[0].toUpperCase() + words.slice(1);
};
const kindsIn = (project: Project): ComponentKind[] => [...new Set(componentsOf(project).map((c) => c.kind))];

/** A sheet a kind of component that the project has. */
export const componentSheets = (project: Project): string[] => kindsIn(project).map(title);

/** Every component of a kind a row, every setting a column, each cell with where it comes from; blank takes a typed value back. */
export function componentSheet(project: Project, sheet: string, units: Units, sizes: Summary["sized"] | undefined): SheetData {
  const kind = kindsIn(project).find((k) => title(k) === sheet);
  if (kind === undefined) return { columns: [], rows: [] };
  const held = new Map(componentsOf(project).map((c) => [c.path.join("/"), c]));
  const now = new Map(componentsOf(ruledComponents(project).project).map((c) => [c.path.join("/"), c]));
  const at = (r: Row): PlacedComponent => held.get(r.id) as PlacedComponent;
  const rows: Row[] = [...held.values()].filter((c) => c.kind === kind).map((c) => ({ id: c.path.join("/"), select: selectionOf(c.path) }));
  const whole = kind === "airSystem" || kind === "loop";
  const name: Column = {
    key: "name",
    name: "Name",
    value: (r) => componentName(at(r)),
    write: (r, text) => (text.trim() === "" ? "A name is not empty." : [setChange(project, [...at(r).path, "name"], text.trim())]),
  };
  const owner: Column = { key: "of", name: "Of", value: (r) => ownerName(project, at(r)) };
  const fields = Object.entries(serviceFieldsOf(kind)).map(([field, spec]): Column =>
    fieldColumn(project, spec, field, units, {
      path: (r) => [...at(r).path, "inputs", field],
      read: (r) => effectiveSetting(project, at(r), field),
      typed: (r) => at(r).inputs[field] !== undefined,
      sized: (r) => sizes?.[`${r.id}/inputs/${field}`] ?? null,
      asked: (r) => settingAsked(kind, (now.get(r.id) ?? at(r)).inputs, field),
    }),
  );
  return { columns: [...(whole ? [name] : [owner, name]), ...fields], rows };
}
