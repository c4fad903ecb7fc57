import {
  complianceInput,
  setChange,
  unsetChange,
  storeyNames,
  suggestedForSpace,
  suggestedUse,
  packUseOf,
  type Change,
  type ComplianceInput,
  type Pack,
  type Project,
} from "@arroyo/core";
import { nameColumn, TYPED, type Column, type Row, type SheetData } from "../../ui/sheet.ts";
import { inputChange } from "./useCompliance.ts";

export const matchSheetNames = ["Space types", "Spaces", "Storeys"] as const;
export type MatchSheet = (typeof matchSheetNames)[number];

/** A column in which a use of the pack is typed by its name; blank takes the match back. */
function columnOfUses(project: Project, pack: Pack, part: "uses" | "spaceUses", read: (id: string) => { use: string; by: string | null }): Column {
  const typed = (id: string): string | undefined => complianceInput(project)[part]?.[id];
  const change = (id: string, use: string | undefined): Change[] => {
    const path = ["compliance", part, id];
    if (use === undefined) return typed(id) === undefined ? [] : [unsetChange(project, path)];
    // of many cells pasted the record they go into is made once
    return [...(project.compliance?.[part] ? [] : [inputChange(project, { [part]: {} })]), setChange(project, path, use)];
  };
  return {
    key: "use",
    name: "Use of the pack",
    value: (r) => read(r.id).use,
    origin: (r) => {
      if (typed(r.id) !== undefined) return TYPED;
      const { by } = read(r.id);
      return { mark: "↑", words: by === null ? "no word suggests one: the use for all others" : `suggested by the word “${by}”` };
    },
    write: (r, text) => {
      const t = text.trim().toLowerCase();
      if (t === "") return change(r.id, undefined);
      const use = pack.uses.find((u) => u.id === t || u.name.toLowerCase() === t);
      return use ? change(r.id, use.id) : `“${text}” is no use of ${pack.name}; it has ${pack.uses.map((u) => u.name).join(", ")}.`;
    },
    clear: (r) => (typed(r.id) === undefined ? [] : change(r.id, undefined)),
  };
}

/** What stands in a project beside what the pack knows: space types and spaces with the use they count as, storeys with names that say something. */
export function matchSheet(project: Project, sheet: MatchSheet, pack: Pack): SheetData {
  const spaces = Object.entries(project.spaces);
  if (sheet === "Space types") {
    const used = Object.keys(project.spaceTypes).filter((id) => spaces.some(([, s]) => s.spaceType === id));
    return {
      rows: used.map((id): Row => ({ id, select: { kind: "spaceType", id } })),
      columns: [
        nameColumn(project, "spaceTypes", (r) => project.spaceTypes[r.id].name),
        { key: "spaces", name: "Spaces", numeric: true, digits: 0, value: (r) => spaces.filter(([, s]) => s.spaceType === r.id).length },
        columnOfUses(project, pack, "uses", (id) => {
          const typed = pack.uses.find((u) => u.id === complianceInput(project).uses?.[id]);
          const found = suggestedUse(pack, project.spaceTypes[id].name);
          return { use: (typed ?? found.use).name, by: found.by };
        }),
      ],
    };
  }
  if (sheet === "Spaces")
    return {
      rows: spaces.map(([id]): Row => ({ id, select: { kind: "space", id } })),
      columns: [
        nameColumn(project, "spaces", (r) => project.spaces[r.id].name),
        { key: "file", name: "Called", value: (r) => (project.spaces[r.id].tags ?? []).join(", ") },
        {
          key: "type",
          name: "Space type",
          value: (r) => {
            const t = project.spaces[r.id].spaceType;
            return t === null ? "none" : project.spaceTypes[t].name;
          },
        },
        columnOfUses(project, pack, "spaceUses", (id) => ({ use: packUseOf(project, pack, id).name, by: suggestedForSpace(project, pack, id).by })),
      ],
    };
  const suggested = storeyNames(project);
  return {
    rows: Object.keys(project.storeys).map((id): Row => ({ id, select: { kind: "storey", id } })),
    columns: [
      nameColumn(project, "storeys", (r) => project.storeys[r.id].name),
      { key: "level", name: "Level", unit: "m", numeric: true, value: (r) => project.storeys[r.id].elevation },
      { key: "spaces", name: "Spaces", numeric: true, digits: 0, value: (r) => spaces.filter(([, s]) => s.storey === r.id).length },
      { key: "suggested", name: "Suggested name", value: (r) => suggested.get(r.id) ?? "" },
    ],
  };
}

/** Changes that take every suggestion: uses as matched, storeys as named. */
export function suggestionChanges(project: Project, pack: Pack): Change[] {
  const input: ComplianceInput = complianceInput(project);
  const uses = { ...input.uses };
  const own = { ...input.spaceUses };
  for (const [id, s] of Object.entries(project.spaces)) {
    if (s.spaceType !== null && uses[s.spaceType] === undefined) uses[s.spaceType] = suggestedUse(pack, project.spaceTypes[s.spaceType].name).use.id;
    const found = suggestedForSpace(project, pack, id);
    if (own[id] === undefined && found.by !== null && found.use.id !== (s.spaceType === null ? undefined : uses[s.spaceType])) own[id] = found.use.id;
  }
  const same = JSON.stringify([uses, own]) === JSON.stringify([input.uses ?? {}, input.spaceUses ?? {}]);
  return [
    ...(same ? [] : [inputChange(project, { uses, ...(Object.keys(own).length > 0 ? { spaceUses: own } : {}) })]),
    ...[...storeyNames(project)].map(([id, name]) => setChange(project, ["storeys", id, "name"], name)),
  ];
}
