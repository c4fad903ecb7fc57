import { assemblyU, insulatingLayer, thicknessForTarget } from "../fabric/index.ts";
import { freeId } from "../geometry/index.ts";
import { faceAssembly, kitRole, overrideChanges } from "../inputs/index.ts";
import { applyChanges, setChange, type Assembly, type Change, type EnvelopePart, type Project, type SubjectKind } from "../model/index.ts";
import { checkProject } from "../simulate/index.ts";
import { isSubmitted, type Submission } from "./submission.ts";

/** Thickness, m, of the layer that insulates best for an assembly to have a U, W/m²K; at least 1 mm. Null where no layer has mass. */
export function thicknessForU(project: Project, assembly: string, u: number): { layer: string; now: number; wanted: number } | null {
  const a = project.assemblies[assembly];
  const layer = insulatingLayer(project, a);
  const l = a.layers.find((x) => x.id === layer);
  if (layer === null || l?.kind !== "solid") return null;
  const found = thicknessForTarget(project, a, layer, u);
  if (found.ok) return { layer, now: l.thickness, wanted: Math.max(0.001, found.thickness) };
  return { layer, now: l.thickness, wanted: u < assemblyU(project, a) ? 10 : 0.001 };
}

/** An assembly with a U, W/m²K: its rated U, or its best insulating layer as thick as that takes; null: none of its layers can. */
export function assemblyWithU(project: Project, assembly: string, u: number): Assembly | null {
  const a = project.assemblies[assembly];
  if (a.rated) return { ...a, rated: { ...a.rated, u } };
  const t = thicknessForU(project, assembly, u);
  return t && { ...a, layers: a.layers.map((l) => (l.kind === "solid" && l.id === t.layer ? { ...l, thickness: t.wanted } : l)) };
}

const PART_OF: Partial<Record<SubjectKind, EnvelopePart>> = {
  "outside wall": "exteriorWall",
  roof: "roof",
  "ground floor": "groundFloor",
  "exposed floor": "exposedFloor",
};

/** Whether faces that are not of this part, or not submitted, are made of an assembly too. */
export function isShared(project: Project, s: Pick<Submission, "spaces">, assembly: string, part: EnvelopePart): boolean {
  const { geometry } = checkProject(project);
  return geometry.faces.some(
    (f) =>
      faceAssembly(project, f, f.partner ? (geometry.byKey.get(f.partner)?.host ?? null) : null).id === assembly &&
      (kitRole(f) !== part || !isSubmitted(s, f.space)),
  );
}

/**
 * Changes that put an assembly in the place of another on the submitted faces of a part: by the kits where nothing else is submitted
 * or made of it there, else face by face.
 */
export function swapOnFaces(project: Project, s: Pick<Submission, "spaces">, from: string, part: EnvelopePart, to: string): Change[] {
  const changes: Change[] = [];
  if (s.spaces === null) for (const [id, kit] of Object.entries(project.kits)) if (kit[part] === from) changes.push(setChange(project, ["kits", id, part], to));
  const made = applyChanges(project, changes);
  if (!made.ok) return changes;
  const { geometry } = checkProject(project);
  const left = geometry.faces.filter(
    (f) => f.contact !== "adiabatic" && kitRole(f) === part && isSubmitted(s, f.space) && faceAssembly(made.project, f).id === from,
  );
  return [
    ...changes,
    ...overrideChanges(
      project,
      left.map((f) => f.host),
      to,
    ),
  ];
}

/** Changes that put a copy of an assembly at a U, W/m²K, in its place on the faces of a part; null: no layer of it can be changed so. */
export function assemblyAtLimitChanges(
  project: Project,
  s: Pick<Submission, "spaces">,
  assembly: string,
  kind: SubjectKind,
  u: number,
  source: string,
): Change[] | null {
  const part = PART_OF[kind];
  const made = part && assemblyWithU(project, assembly, u);
  if (!part || !made) return null;
  const id = freeId(project.assemblies, `${assembly.slice(0, 50)}_limit`);
  const { from: _from, ...own } = made;
  const copy: Assembly = { ...own, name: `${made.name}, U ${u.toFixed(2)}`.slice(0, 200), source };
  const insert: Change = { op: "insert", path: ["assemblies", id], value: copy };
  const after = applyChanges(project, [insert]);
  return after.ok ? [insert, ...swapOnFaces(after.project, s, assembly, part, id)] : null;
}
