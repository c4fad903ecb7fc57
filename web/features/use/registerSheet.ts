import { defaultsLeft, registerOf, setChange, unsetChange, type Project, type RegisterRow } from "@arroyo/core";
import { inputText } from "../../ui/InputRow.tsx";
import { TYPED, type Column, type Row, type SheetData } from "../../ui/sheet.ts";
import type { Units } from "../../ui/units.ts";
import type { Selection } from "../store.ts";

export const registerSheets: readonly string[] = ["Typed values", "Defaults left"];
const CONFIDENCE = ["measured", "documented", "estimated", "assumed"] as const;
const KINDS: Record<string, Selection["kind"]> = {
  spaces: "space",
  spaceTypes: "spaceType",
  materials: "material",
  assemblies: "assembly",
  glazings: "glazing",
  services: "services",
  drawPoints: "drawPoint",
  siteLights: "siteLight",
};

/** The register: every typed value with its source, note, author, date and confidence; and the defaults nobody has stated. */
export function registerSheet(project: Project, sheet: string, units: Units): SheetData {
  return sheet === "Defaults left" ? defaults(project, units) : typed(project, units);
}

const select = (address: string): Selection => {
  const [part, id] = address.split("/");
  return { kind: KINDS[part] ?? "space", id: KINDS[part] ? id : "" };
};

function typed(project: Project, units: Units): SheetData {
  const all = new Map(registerOf(project).map((r) => [r.address, r]));
  const at = (r: Row): RegisterRow => all.get(r.id) as RegisterRow;
  const value = (r: RegisterRow): string => {
    if (r.spec) return inputText(r.spec, r.value, project, units);
    return typeof r.value === "number" ? units.words(r.value, r.unit === "" ? "1" : r.unit) : String(r.value ?? "none");
  };
  const evidence = (field: "source" | "note" | "author" | "date", name: string): Column => ({
    key: field,
    name,
    value: (r) => project.evidence[r.id]?.[field] ?? "",
    write: (r, text) => put(r, field, text.trim()),
    clear: (r) => (project.evidence[r.id]?.[field] === undefined ? [] : put(r, field, "")),
  });
  const put = (r: Row, field: string, text: string) => {
    const { [field as "source"]: _, ...rest } = project.evidence[r.id] ?? {};
    const next = text === "" ? rest : { ...rest, [field]: text };
    const known = Object.hasOwn(project.evidence, r.id);
    if (Object.keys(next).length === 0) return known ? [unsetChange(project, ["evidence", r.id])] : [];
    return [setChange(project, ["evidence", r.id], next)];
  };
  return {
    columns: [
      { key: "address", name: "Address", value: (r) => r.id },
      { key: "stage", name: "Stage", value: (r) => at(r).stage },
      { key: "thing", name: "Of", value: (r) => at(r).thing },
      { key: "what", name: "What", value: (r) => at(r).what },
      {
        key: "value",
        name: "Value",
        value: (r) => value(at(r)),
        origin: (r) => {
          const { taken } = at(r);
          return taken === null ? TYPED : { mark: "§", words: taken };
        },
      },
      evidence("source", "Source"),
      {
        key: "confidence",
        name: "Confidence",
        value: (r) => project.evidence[r.id]?.confidence ?? "",
        write: (r, text) => {
          const word = text.trim().toLowerCase();
          if (word !== "" && !(CONFIDENCE as readonly string[]).includes(word)) return `“${text}” is none of ${CONFIDENCE.join(", ")}.`;
          return put(r, "confidence", word);
        },
        clear: (r) => put(r, "confidence", ""),
      },
      evidence("note", "Note"),
      evidence("author", "Author"),
      evidence("date", "Date"),
    ],
    rows: [...all.keys()].map((id) => ({ id, select: select(id) })),
  };
}

function defaults(project: Project, units: Units): SheetData {
  const all = new Map(defaultsLeft(project).map((d) => [`${d.kind} ${d.field}`, d]));
  const at = (r: Row) => all.get(r.id) as NonNullable<ReturnType<typeof all.get>>;
  return {
    columns: [
      { key: "what", name: "Input", value: (r) => at(r).spec.label },
      { key: "stage", name: "Stage", value: (r) => at(r).stage },
      { key: "group", name: "Group", value: (r) => at(r).spec.group },
      {
        key: "value",
        name: "Default",
        value: (r) => inputText(at(r).spec, at(r).spec.default, project, units),
        origin: () => ({ mark: "○", words: "default" }),
      },
      { key: "count", name: "Stands for", numeric: true, digits: 0, value: (r) => at(r).things.length },
      {
        key: "things",
        name: "Spaces or zones",
        value: (r) => {
          const set = at(r).kind === "space" ? project.spaces : project.zones;
          const names = at(r).things.map((id) => set[id].name);
          return names.length > 4 ? `${names.slice(0, 4).join(", ")} and ${names.length - 4} more` : names.join(", ");
        },
      },
    ],
    rows: [...all].map(([id, d]) => ({ id, select: { kind: "space", id: d.kind === "space" ? d.things[0] : "" } })),
  };
}
