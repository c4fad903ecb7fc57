import { create } from "zustand";
import { freeId, SHIPPED, shippedLibrary, takeChanges, type Change, type NamedPart, type Project } from "@arroyo/core";
import { useStore, type Selection } from "../store.ts";

/** What the Fabric desk lists. */
export const fabricParts = ["assemblies", "glazings", "materials", "kits"] as const;
export type FabricPart = (typeof fabricParts)[number];
export const partWord: Readonly<Record<FabricPart, { readonly one: string; readonly many: string; readonly kind: Selection["kind"] }>> = {
  assemblies: { one: "assembly", many: "Assemblies", kind: "assembly" },
  glazings: { one: "glazing", many: "Glazing", kind: "glazing" },
  materials: { one: "material", many: "Materials", kind: "material" },
  kits: { one: "envelope kit", many: "Kits", kind: "kit" },
};

interface FabricState {
  readonly part: FabricPart;
  /** What stands in place of the thing chosen. */
  readonly panel: "library" | "tidy" | "sheet" | null;
  set(part: Partial<Omit<FabricState, "set">>): void;
}
/** What the Fabric desk shows; not part of the project. */
export const useFabric = create<FabricState>()((set) => ({ part: "assemblies", panel: null, set }));

/** Shows one thing of the Fabric desk. */
export function showThing(part: FabricPart, id: string): void {
  useFabric.getState().set({ part, panel: null });
  useStore.getState().select([{ kind: partWord[part].kind, id }]);
}

/** A name nothing of the set has yet. */
export function freeName(set: Readonly<Record<string, { readonly name: string }>>, base: string): string {
  const names = new Set(Object.values(set).map((x) => x.name));
  if (!names.has(base)) return base;
  for (let n = 2; ; n++) if (!names.has(`${base} ${n}`)) return `${base} ${n}`;
}

/** A plain thing of its kind to begin from: typical, unverified. */
export function newThing(project: Project, part: FabricPart, use: Project["assemblies"][string]["use"]): { readonly id: string; readonly change: Change } {
  const id = freeId(project[part], `new_${partWord[part].one.replace(" ", "_")}`);
  const name = freeName(project[part], `New ${partWord[part].one}`);
  const values = {
    assemblies: () => ({ name, use, layers: [], rated: { u: 0.3, mass: "medium", at: "spread" } }),
    glazings: () => ({
      kind: "rated",
      name,
      u: 1.4,
      g: 0.55,
      visibleTransmittance: 0.75,
      frameShare: 0.2,
      ratedFilms: { inside: 7.7, outside: 25 },
      blind: null,
    }),
    materials: () => ({
      name,
      kind: "insulation",
      conductivity: 0.04,
      density: 50,
      specificHeat: 1000,
      solarAbsorptance: 0.6,
      emissivity: 0.9,
      roughness: "medium rough",
    }),
    kits: () => {
      const { from: _, ...kit } = project.kits[project.defaults.kit];
      return { ...kit, name };
    },
  };
  return { id, change: { op: "insert", path: [part, id], value: values[part]() } };
}

/** Changes that make a shipped thing the project's, and its id there; the thing itself where the project has it. */
export function fromShipped(project: Project, part: NamedPart, id: string): { readonly id: string; readonly changes: readonly Change[] } {
  const taken = takeChanges(project, shippedLibrary(), SHIPPED, part, id);
  // what ships names only what ships
  if (!taken.ok) throw new Error(taken.message);
  return taken;
}
