import { z } from "zod";
import {
  applyChanges,
  assemblySchema,
  deviceListSchema,
  glazingSchema,
  issueProblem,
  kitSchema,
  materialSchema,
  namedBy,
  records,
  resetSchema,
  scheduleSchema,
  spaceTypeSchema,
  type Change,
  type NamedPart,
  type Problem,
  type Project,
  type RecordSet,
} from "../model/index.ts";
import { weatherMappingSchema } from "../weatherFile/index.ts";
import { contentHash, takeChanges, type TakeOutcome } from "./take.ts";

/** Name of the user's own library in what was copied from it. */
export const MINE = "mine";

/** Things kept by the user across projects. They name only each other. */
export const ownLibrarySchema = z.strictObject({
  formatVersion: z.literal(1),
  materials: records(materialSchema),
  assemblies: records(assemblySchema),
  glazings: records(glazingSchema),
  kits: records(kitSchema),
  schedules: records(scheduleSchema),
  resets: records(resetSchema).default({}),
  weatherMappings: records(
    z.strictObject({
      name: z.string().min(1).max(200),
      shape: z.string().max(1000).describe("Shape of the files it was made for."),
      mapping: weatherMappingSchema,
    }),
  )
    .default({})
    .describe("How weather files of one source are to be read."),
  // libraries kept before there were these have none
  deviceLists: records(deviceListSchema).default({}),
  spaceTypes: records(spaceTypeSchema).default({}),
});
export type OwnLibrary = z.infer<typeof ownLibrarySchema>;
export const EMPTY_LIBRARY: OwnLibrary = {
  formatVersion: 1,
  materials: {},
  assemblies: {},
  glazings: {},
  kits: {},
  schedules: {},
  resets: {},
  weatherMappings: {},
  deviceLists: {},
  spaceTypes: {},
};

/** Parts of a library of one's own. */
export const ownParts = [
  "materials",
  "assemblies",
  "glazings",
  "kits",
  "schedules",
  "resets",
  "deviceLists",
  "spaceTypes",
] as const satisfies readonly NamedPart[];

/** Reads a library of one's own: shape, and that nothing in it names what is not there. */
export function parseOwnLibrary(
  value: unknown,
): { readonly ok: true; readonly library: OwnLibrary } | { readonly ok: false; readonly problems: readonly Problem[] } {
  const parsed = ownLibrarySchema.safeParse(value, { reportInput: true });
  if (!parsed.success) return { ok: false, problems: parsed.error.issues.map(issueProblem) };
  const problems: Problem[] = [];
  for (const part of ownParts)
    for (const [id, record] of Object.entries(parsed.data[part]))
      for (const use of namedBy(part, id, record as never))
        if (!Object.hasOwn((parsed.data as RecordSet)[use.part] ?? {}, use.id))
          problems.push({
            code: "reference",
            severity: "error",
            stage: "fabric",
            path: use.path.join("/"),
            message: `There is no "${use.id}" in this library.`,
          });
  return problems.length > 0 ? { ok: false, problems } : { ok: true, library: parsed.data };
}

/** Applies changes to a library of one's own, all or none. */
export function changedLibrary(
  library: OwnLibrary,
  changes: readonly Change[],
): { readonly ok: true; readonly library: OwnLibrary } | { readonly ok: false; readonly message: string } {
  // a change finds its place by address in any document of records
  const applied = applyChanges(library as unknown as Project, changes);
  if (!applied.ok) return { ok: false, message: applied.message };
  const parsed = parseOwnLibrary(applied.project);
  return parsed.ok ? parsed : { ok: false, message: `${parsed.problems[0].path}: ${parsed.problems[0].message}` };
}

/**
 * Changes that keep a thing of a project in a library of one's own, with all it depends on. What came from there and was
 * changed here takes the place of what it came from.
 */
export function keepChanges(library: OwnLibrary, project: Project, part: NamedPart, id: string): TakeOutcome {
  const item = project[part][id] as { name: string; from?: { library: string; id: string; hash: string } };
  const made = takeChanges(library, project, project.name, part, id);
  if (!made.ok || made.changes.length === 0 || item.from?.library !== MINE) return made;
  const kept = (library as RecordSet)[part]?.[item.from.id];
  if (!kept || contentHash(library, part, item.from.id) !== item.from.hash) return made;
  const last = made.changes[made.changes.length - 1];
  return { ...made, id: item.from.id, changes: [...made.changes.slice(0, -1), { op: "set", path: [part, item.from.id], value: last.value, old: kept }] };
}

/** Changes that take a thing out of a library of one's own; what names it is told instead. */
export function dropChanges(
  library: OwnLibrary,
  part: NamedPart,
  id: string,
): { readonly ok: true; readonly changes: readonly Change[] } | { readonly ok: false; readonly message: string } {
  for (const p of ownParts)
    for (const [k, record] of Object.entries(library[p]))
      if (namedBy(p, k, record as never).some((u) => u.part === part && u.id === id))
        return { ok: false, message: `“${record.name}” is made of it; take that out first.` };
  const old = (library as RecordSet)[part]?.[id];
  return old ? { ok: true, changes: [{ op: "remove", path: [part, id], old }] } : { ok: false, message: "It is gone already." };
}
