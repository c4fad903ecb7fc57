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

/** What of an assembly is changed for it to have a U: the address within it, and the value. */
export interface ForU {
  readonly path: readonly string[];
  readonly now: number;
  readonly wanted: number;
}
/** Least resistance of a layer, m²K/W. */
const LEAST_RESISTANCE = 0.001;

/**
 * What gives an assembly a U, W/m²K: its rated U, the thickness of the layer that insulates best, else its largest resistance, as of a
 * construction that a file tells by its U alone.
 * @throws RangeError where nothing of it can be changed so
 */
export function forU(project: Project, assembly: string, u: number): ForU {
  const a = project.assemblies[assembly];
  if (a.rated) return { path: ["rated", "u"], now: a.rated.u, wanted: u };
  const t = thicknessForU(project, assembly, u);
  if (t) return { path: ["layers", t.layer, "thickness"], now: t.now, wanted: t.wanted };
  const layers = a.layers.flatMap((l) => (l.kind === "resistance" ? [l] : [])).sort((p, q) => q.resistance - p.resistance);
  if (layers.length === 0) throw new RangeError(`assemblies/${assembly}: ${a.name} has no layer that can be changed for it to have a U of ${u} W/m²K.`);
  const [{ id, resistance }] = layers;
  return { path: ["layers", id, "resistance"], now: resistance, wanted: Math.max(LEAST_RESISTANCE, resistance + 1 / u - 1 / assemblyU(project, a)) };
}

/** An assembly with a U, W/m²K. @throws RangeError as `forU` */
export function assemblyWithU(project: Project, assembly: string, u: number): Assembly {
  const { path, wanted } = forU(project, assembly, u);
  const made = applyChanges(project, [setChange(project, ["assemblies", assembly, ...path], wanted)]);
  if (!made.ok) throw new RangeError(made.message);
  return made.project.assemblies[assembly];
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

/** Changes that put a copy of an assembly at a U, W/m²K, in its place on the faces of a part; null: it is of no part. @throws RangeError as `forU` */
export function assemblyAtLimitChanges(
  project: Project,
  s: Pick<Submission, "spaces">,
  assembly: string,
  kind: SubjectKind,
  u: number,
  source: string,
): Change[] | null {
  const part = PART_OF[kind];
  if (!part) return null;
  const made = assemblyWithU(project, assembly, u);
  const id = freeId(project.assemblies, `${assembly.slice(0, 50)}_limit`);
  const { from: _from, ...own } = made;
  const copy: Assembly = { ...own, name: `${made.name}, U ${u.toFixed(2)}`.slice(0, 200), source };
  const insert: Change = { op: "insert", path: ["assemblies", id], value: copy };
  const after = applyChanges(project, [insert]);
  return after.ok ? [insert, ...swapOnFaces(after.project, s, assembly, part, id)] : null;
}
