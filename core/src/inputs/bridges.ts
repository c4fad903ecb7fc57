import { assemblyU, glazingRating } from "../fabric/index.ts";
import { junctionLengths, type Geometry, type JunctionLengths, type PlacedOpening } from "../geometry/index.ts";
import { junctions, type Project } from "../model/index.ts";
import { effectiveKit, faceAssembly } from "./resolve.ts";

/** What thermal bridges of one space add. */
export interface BridgesOf {
  readonly lengths: JunctionLengths;
  /** Σ ψ·l of its junctions, W/K. */
  readonly junctions: number;
  /** Share added to the U of every outdoor face, 1. */
  readonly share: number;
  /** Outdoor opaque area, openings taken out, m². */
  readonly area: number;
}

/** Thermal bridges of every space by its envelope kit: typed ψ times the lengths found from the geometry (ISO 14683). Empty where no kit has any. */
export function thermalBridges(project: Project, geometry: Geometry, openings: readonly PlacedOpening[], always = false): Map<string, BridgesOf> {
  const out = new Map<string, BridgesOf>();
  if (!always && !Object.values(project.kits).some((k) => k.bridges)) return out;
  const lengths = junctionLengths(geometry, openings);
  const area = new Map<string, number>();
  for (const f of geometry.faces) if (f.contact === "outdoors") area.set(f.space, (area.get(f.space) ?? 0) + f.area);
  for (const o of openings) {
    const f = geometry.byKey.get(o.face);
    if (f?.contact === "outdoors") area.set(f.space, (area.get(f.space) ?? 0) - o.area);
  }
  for (const [space, own] of lengths) {
    const { bridges } = project.kits[effectiveKit(project, space).id];
    out.set(space, {
      lengths: own,
      junctions: bridges ? junctions.reduce((s, j) => s + (bridges[j] ?? 0) * own[j], 0) : 0,
      share: bridges?.share ?? 0,
      area: area.get(space) ?? 0,
    });
  }
  return out;
}

/**
 * What thermal bridges add to the U of an outdoor opaque face, W/m²K: its share of U, and its part by area of the
 * junctions of its space. Rounded to 1e-6, so that faces that are alike share one wall.
 */
export function addedU(bridges: BridgesOf | undefined, u: number): number {
  if (!bridges || bridges.area <= 0) return 0;
  return Math.round(1e6 * (bridges.share * u + bridges.junctions / bridges.area)) / 1e6;
}

/** Transmission of the outdoor faces of a space without bridges, W/K: opaque by their assemblies, windows by their rating. */
export function transmission(project: Project, geometry: Geometry, openings: readonly PlacedOpening[], spaces: ReadonlySet<string>): number {
  let sum = 0;
  for (const f of geometry.faces)
    if (f.contact === "outdoors" && spaces.has(f.space)) sum += f.area * assemblyU(project, project.assemblies[faceAssembly(project, f).id]);
  for (const o of openings) {
    const f = geometry.byKey.get(o.face);
    if (f?.contact !== "outdoors" || !spaces.has(f.space)) continue;
    const kit = project.kits[effectiveKit(project, f.space).id];
    const id = o.construction ?? (o.use === "door" ? kit.door : o.inRoof ? kit.skylight : kit.glazing);
    sum +=
      o.area *
      ((o.use === "door" ? assemblyU(project, project.assemblies[id]) : glazingRating(project.glazings[id]).u) -
        assemblyU(project, project.assemblies[faceAssembly(project, f).id]));
  }
  return sum;
}
