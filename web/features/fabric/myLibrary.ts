import { create } from "zustand";
import {
  dropChanges,
  EMPTY_LIBRARY,
  freeId,
  keepChanges,
  parseProject,
  type Change,
  type NamedPart,
  type OwnLibrary,
  type Project,
  type WeatherMapping,
} from "@arroyo/core";
import { ask, tell } from "../../live/server.ts";
import { fetchProject } from "../../live/saves.ts";

interface Kept {
  readonly library: OwnLibrary;
  readonly revision: number;
}
interface MyLibrary {
  /** What is kept; null: not fetched yet. */
  readonly document: OwnLibrary | null;
  readonly message: string | null;
  fetch(): Promise<void>;
  /** Keeps a thing of a project; answers what was done, in words. */
  keep(project: Project, part: NamedPart, id: string): Promise<string>;
  drop(part: NamedPart, id: string): Promise<string | null>;
  /** Keeps how weather files of a shape are read, under the name of the mapping; answers what refuses it. */
  keepMapping(mapping: WeatherMapping, shape: string): Promise<string | null>;
}

/** What the user keeps across projects, on the server. */
export const useMine = create<MyLibrary>()((set, get) => {
  const change = async (changes: readonly Change[]): Promise<string | null> => {
    const answer = await tell<Kept>("/api/library", { changes });
    if (!answer.ok) return answer.message;
    set({ document: answer.body.library, message: null });
    return null;
  };
  const known = async (): Promise<OwnLibrary | null> => {
    if (!get().document) await get().fetch();
    return get().document;
  };
  return {
    document: null,
    message: null,
    async fetch() {
      const answer = await ask<Kept>("/api/library");
      set(answer.ok ? { document: answer.body.library, message: null } : { message: answer.message });
    },
    async keep(project, part, id) {
      const library = await known();
      if (!library) return get().message ?? "My library does not answer.";
      const made = keepChanges(library, project, part, id);
      if (!made.ok) return made.message;
      if (made.changes.length === 0) return "It is in my library already, just as it is here.";
      const refused = await change(made.changes);
      if (refused !== null) return refused;
      const along = made.taken.length - 1;
      return `Kept in my library${along > 0 ? `, with ${along} thing${along > 1 ? "s" : ""} it depends on` : ""}.`;
    },
    async keepMapping(mapping, shape) {
      const library = await known();
      if (!library) return get().message ?? "My library does not answer.";
      const value = { name: mapping.name, shape, mapping };
      const id = Object.keys(library.weatherMappings).find((k) => library.weatherMappings[k].name === mapping.name);
      return change([
        id === undefined
          ? { op: "insert", path: ["weatherMappings", freeId(library.weatherMappings, mapping.name)], value }
          : { op: "set", path: ["weatherMappings", id], value, old: library.weatherMappings[id] },
      ]);
    },
    async drop(part, id) {
      const made = dropChanges(get().document ?? EMPTY_LIBRARY, part, id);
      return made.ok ? change(made.changes) : made.message;
    },
  };
});

/** A project to take things from: another on this server, or a file. */
export async function otherProject(
  from: string | File,
): Promise<{ readonly ok: true; readonly project: Project } | { readonly ok: false; readonly message: string }> {
  if (typeof from === "string") {
    const found = await fetchProject(from);
    return "message" in found ? { ok: false, message: found.message } : { ok: true, project: found.document };
  }
  if (from.size > 32 * 1024 * 1024) return { ok: false, message: `${from.name} is larger than 32 MB.` };
  const { readJson } = await import("@arroyo/core");
  const json = readJson(await from.text());
  if (!json.ok) return { ok: false, message: `${from.name}: ${json.message}` };
  const parsed = parseProject(json.value);
  if (parsed.ok) return { ok: true, project: parsed.project };
  const [first] = parsed.problems;
  return { ok: false, message: `${from.name} cannot be read: ${first.path ? `${first.path}: ` : ""}${first.message}` };
}
