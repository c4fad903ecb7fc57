import { quantity } from "../model/index.ts";
import { roleOfUse } from "../inputs/index.ts";
import { assemblyLayers, layersResistance, surfaceResistances } from "../fabric/index.ts";
import { areaVector, freeId, type Vector } from "../geometry/index.ts";
import type { Assembly, Glazing, KitRole, Material, Project } from "../model/index.ts";
import { clamp, named, suggestionFor, type Made, type MatchRow, type Tell } from "./importParts.ts";
import type { BuildingRecords, SurfaceRecord } from "./records.ts";

/** Assemblies and glazings of the file that are told in full, and rows to match for the rest. */
export function constructions(
  records: BuildingRecords,
  project: Project,
  matches: Readonly<Record<string, string>>,
  matching: MatchRow[],
  tell: Tell,
): Map<string, string> {
  const ids = new Map<string, string>();
  const used = new Map<string, number>();
  const kinds = new Map<string, Assembly["use"]>();
  const count = (ref: string | null): void => {
    if (ref !== null) used.set(ref, (used.get(ref) ?? 0) + 1);
  };
  for (const s of records.surfaces) {
    count(s.construction);
    if (s.construction !== null && !kinds.has(s.construction)) kinds.set(s.construction, useOf(s));
    for (const o of s.openings) {
      count(o.construction);
      if (o.construction !== null && o.use === "door") kinds.set(o.construction, "door");
    }
  }
  const materials = new Map(records.materials.map((m) => [m.id, m]));
  const material = new Map<string, string>();
  const layer = (m: BuildingRecords["materials"][number], i: number): Assembly["layers"][number] | null => {
    if (
      m.thickness !== null &&
      m.thickness > 0 &&
      m.thickness <= 10 &&
      m.conductivity !== null &&
      m.conductivity > 0 &&
      m.conductivity <= 500 &&
      m.density !== null &&
      m.specificHeat !== null
    ) {
      let own = material.get(m.id);
      if (!own) {
        own = freeId(project.materials, `file_${m.id}`);
        material.set(m.id, own);
        if (m.density < 0 || m.density > 20000 || m.specificHeat < 0 || m.specificHeat > 10000)
          tell("mended", true, `Material "${m.name}" has a density or specific heat no material has; the nearest possible is taken.`);
        const value: Material = {
          name: named(m.name, m.id),
          conductivity: m.conductivity,
          density: clamp(m.density, 0, 20000),
          specificHeat: clamp(m.specificHeat, 0, 10000),
          solarAbsorptance: 0.6,
          emissivity: 0.9,
          roughness: "medium rough",
          source: `${records.format} file`,
        };
        project.materials[own] = value;
      }
      return { kind: "solid", id: `l${i + 1}`, material: own, thickness: m.thickness };
    }
    const r = m.resistance ?? (m.thickness && m.conductivity ? m.thickness / m.conductivity : null);
    return r !== null && r > 0 && r <= 100 ? { kind: "resistance", id: `l${i + 1}`, name: named(m.name, m.id), resistance: r } : null;
  };
  const row = (kind: MatchRow["kind"], ref: string, name: string, options: MatchRow["options"], asked: readonly string[] = []): void => {
    const key = `${kind}:${name}`;
    const chosen = matches[key] !== undefined && options.some((o) => o.id === matches[key]) ? matches[key] : null;
    if (chosen !== null) ids.set(ref, chosen);
    matching.push({ key, kind, name, count: used.get(ref) ?? 0, chosen, options, suggested: suggestionFor(name, options, asked) });
    if (chosen === null)
      tell("left out", true, `${kind === "glazing" ? "Glazing" : "Construction"} "${name}" is not told in full; match it, or the kit's stands in its place.`);
  };
  const starters = (kind: "assembly" | "glazing"): MatchRow["options"] =>
    Object.entries(kind === "assembly" ? project.assemblies : project.glazings).map(([k, a]) => ({ id: k, name: a.name }));
  const offered = { assembly: starters("assembly"), glazing: starters("glazing") };
  for (const c of records.constructions) {
    if (!used.has(c.id)) continue;
    const use = kinds.get(c.id) ?? "exterior wall";
    const found = c.materials.map((m) => materials.get(m));
    const layers = found.map((m, i) => (m ? layer(m, i) : null));
    const whole = layers.length > 0 && layers.every((l) => l !== null);
    let made: Assembly["layers"] | null = whole ? (layers as Assembly["layers"]) : null;
    if (!made && c.u !== null && c.u > 0 && c.u < 7) {
      const [outside, inside] = surfaceResistances(use);
      const r = 1 / c.u - outside - inside;
      if (r > 0) {
        made = [{ kind: "resistance", id: "l1", name: "as the file's U", resistance: r }];
        tell("mended", true, `Construction "${c.name}" has no usable layers; it is one resistance of its U of ${quantity(c.u, "W/m²K", 2)}, without mass.`);
      }
    }
    if (!made) {
      row(
        "assembly",
        c.id,
        c.name || c.id,
        offered.assembly,
        Object.keys(project.assemblies).filter((k) => project.assemblies[k].use === use),
      );
      continue;
    }
    const own = freeId(project.assemblies, `file_${c.id}`);
    ids.set(c.id, own);
    project.assemblies[own] = { name: named(c.name, c.id), use, layers: made };
    if (whole && c.u !== null && c.u > 0) {
      const [outside, inside] = surfaceResistances(use);
      const u = 1 / (outside + inside + layersResistance(assemblyLayers(project, project.assemblies[own])));
      if (Math.abs(u / c.u - 1) > 0.1)
        tell("read", true, `Construction "${c.name}" states U ${quantity(c.u, "W/m²K", 2)}, its layers give ${quantity(u, "W/m²K", 2)}; the layers count.`);
    }
  }
  for (const w of records.windowTypes) {
    if (!used.has(w.id)) continue;
    if (w.u === null || w.g === null || !(w.u > 0 && w.u <= 7 && w.g >= 0 && w.g <= 1)) {
      row("glazing", w.id, w.name || w.id, offered.glazing);
      continue;
    }
    const own = freeId(project.glazings, `file_${w.id}`);
    ids.set(w.id, own);
    const value: Glazing = {
      kind: "rated",
      name: named(w.name, w.id),
      u: w.u,
      g: w.g,
      visibleTransmittance: w.visible !== null && w.visible >= 0 && w.visible <= 1 ? w.visible : Math.min(1, w.g),
      // the file's figures are of the whole window, with the standard films of ISO 10077-1
      frameShare: 0,
      ratedFilms: { inside: 7.7, outside: 25 },
      blind: null,
      source: `${records.format} file`,
    };
    project.glazings[own] = value;
    if (w.visible === null) tell("mended", true, `Glazing "${value.name}" tells no visible transmittance; its solar gain stands in for daylight.`);
  }
  const known = new Set([...records.constructions.map((c) => c.id), ...records.windowTypes.map((w) => w.id)]);
  const missing = [...used.keys()].filter((ref) => !known.has(ref));
  for (const ref of missing) {
    const opening = records.surfaces.some((s) => s.openings.some((o) => o.construction === ref && o.use === "window"));
    row(opening ? "glazing" : "assembly", ref, ref, opening ? offered.glazing : offered.assembly);
  }
  return ids;
}

function useOf(s: SurfaceRecord): Assembly["use"] {
  const inner = s.adjacent.length > 1;
  if (s.kind === "wall" || s.kind === "air" || s.kind === "shade") return inner ? "interior wall" : "exterior wall";
  if (inner || s.kind === "ceiling") return "interior floor";
  return s.kind === "roof" ? "roof" : s.underground || Math.min(...s.ring.map((p) => p[2])) < 0.6 ? "ground floor" : "exposed floor";
}

const area = (ring: readonly Vector[]): number => {
  const v = areaVector(ring);
  return Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]);
};

/** What faces are made of: the construction with the most area of a role goes into the kit; a side with others is set by itself. */
export function assign(records: BuildingRecords, project: Project, made: Made, constructionOf: ReadonlyMap<string, string>, tell: Tell): void {
  const totals = new Map<KitRole, Map<string, number>>();
  const onHost = new Map<string, { readonly assembly: string; readonly role: KitRole; readonly area: number }[]>();
  for (const s of records.surfaces) {
    const assembly = s.construction === null ? undefined : constructionOf.get(s.construction);
    if (!assembly || !Object.hasOwn(project.assemblies, assembly)) continue;
    // one record tells both sides of an inner surface
    const hosts = s.adjacent.map((a) => made.get(a)?.hosts.get(s.id)).find((h) => h !== undefined);
    if (!hosts) continue;
    const entry = { assembly, role: roleOfUse[useOf(s)], area: area(s.ring) };
    const by = totals.get(entry.role) ?? new Map<string, number>();
    by.set(assembly, (by.get(assembly) ?? 0) + entry.area);
    totals.set(entry.role, by);
    for (const h of hosts) onHost.set(h, [...(onHost.get(h) ?? []), entry]);
  }
  const kit = project.kits[project.defaults.kit];
  for (const [role, by] of totals) kit[role] = [...by].sort((a, b) => b[1] - a[1])[0][0];
  const glazing = new Map<string, number>();
  for (const o of Object.values(project.openings))
    if ("use" in o && o.use === "window" && o.glazing !== null) glazing.set(o.glazing, (glazing.get(o.glazing) ?? 0) + 1);
  const most = [...glazing].sort((a, b) => b[1] - a[1])[0];
  if (most) kit.glazing = kit.skylight = most[0];
  for (const [host, entries] of onHost) {
    const apart = entries.filter((e) => e.assembly !== kit[e.role]).sort((a, b) => b.area - a.area);
    if (apart.length === 0) continue;
    const [{ assembly }] = apart;
    if (entries.some((e) => e.assembly !== assembly))
      tell(
        "mended",
        true,
        `One side of ${project.spaces[host.split("/")[0]].name} has several constructions in the file; all of it is taken as "${project.assemblies[assembly].name}".`,
      );
    project.faceOverrides[freeId(project.faceOverrides, host)] = { host, assembly };
  }
}
