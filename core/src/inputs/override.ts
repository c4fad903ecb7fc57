import { freeId, type Face, type PlacedOpening } from "../geometry/index.ts";
import type { Assembly, Change, KitRole, Project } from "../model/index.ts";
import { faceAssembly, kitRole, openingConstruction } from "./resolve.ts";

/** Kit role an assembly of a use fills. */
export const roleOfUse: Readonly<Record<Assembly["use"], Exclude<KitRole, "glazing" | "skylight">>> = {
  "exterior wall": "exteriorWall",
  roof: "roof",
  "ground floor": "groundFloor",
  "exposed floor": "exposedFloor",
  "interior wall": "interiorWall",
  "interior floor": "interiorFloor",
  door: "door",
};

/** Changes that make the given sides of an assembly of their own, or (null) of their kit's again. One record a side keeps also what is behind it. */
export function overrideChanges(project: Project, hosts: readonly string[], assembly: string | null): Change[] {
  const changes: Change[] = [];
  const taken: Record<string, unknown> = { ...project.faceOverrides };
  for (const host of new Set(hosts)) {
    const now = Object.entries(project.faceOverrides).find(([, o]) => o.host === host);
    if (now) {
      const [id, o] = now;
      if (o.assembly === assembly) continue;
      if (assembly === null && !o.contact) changes.push({ op: "remove", path: ["faceOverrides", id], old: o });
      else changes.push({ op: "set", path: ["faceOverrides", id, "assembly"], value: assembly, old: o.assembly });
    } else if (assembly !== null) {
      const id = freeId(taken, host);
      taken[id] = true;
      changes.push({ op: "insert", path: ["faceOverrides", id], value: { host, assembly } });
    }
  }
  return changes;
}

/** Faces an assembly of a use may be put on, one of each pair. */
export function facesFor(project: Project, faces: readonly Face[], use: Assembly["use"]): Face[] {
  const role = roleOfUse[use];
  return faces.filter(
    (f) => kitRole(f) === role && (f.contact !== "space" || f.partner === null || f.key < f.partner) && project.spaces[f.space] !== undefined,
  );
}

/** Area, m², each assembly and glazing covers in the model; of inner faces one of both sides counts, openings are taken out of their faces. */
export function coveredAreas(project: Project, faces: readonly Face[], openings: readonly PlacedOpening[]): Map<string, number> {
  const out = new Map<string, number>();
  const byKey = new Map(faces.map((f) => [f.key, f]));
  const add = (id: string, area: number): void => void out.set(id, (out.get(id) ?? 0) + area);
  const assemblyOf = (f: Face): string => faceAssembly(project, f, f.partner ? (byKey.get(f.partner)?.host ?? null) : null).id;
  for (const f of faces) {
    if (f.contact === "space" && f.partner !== null && f.key > f.partner) continue;
    add(assemblyOf(f), f.area);
  }
  for (const o of openings) {
    const f = byKey.get(o.face);
    if (!f) continue;
    add(openingConstruction(project, o, f).id, o.area);
    add(assemblyOf(f), -o.area);
  }
  return out;
}
