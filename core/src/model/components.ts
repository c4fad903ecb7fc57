import type { Project } from "./schema.ts";
import { componentWords, type ComponentKind } from "./serviceFields.ts";
import { settingOf, type Component } from "./serviceSchema.ts";

/** A component with its address in the document. */
export interface PlacedComponent extends Component {
  readonly path: readonly string[];
}

/** The parts of a document that hold components. */
export type Plant = Pick<Project, "airSystems" | "loops" | "zones" | "waterSystems" | "onSite">;
const OWNER = { airSystems: "airSystem", loops: "loop", waterSystems: "waterSystem" } as const;

/** Every component of a document: air systems, loops and hot-water systems themselves, their parts, the equipment of zones, and what makes electricity on site. */
export function componentsOf(project: Plant): PlacedComponent[] {
  const out: PlacedComponent[] = [];
  for (const part of ["airSystems", "loops", "waterSystems"] as const)
    for (const [id, x] of Object.entries(project[part])) {
      out.push({ id, kind: OWNER[part], name: x.name, inputs: x.inputs, path: [part, id] });
      for (const c of x.parts) out.push({ ...c, path: [part, id, "parts", c.id] });
    }
  for (const [id, z] of Object.entries(project.zones)) for (const c of z.equipment ?? []) out.push({ ...c, path: ["zones", id, "equipment", c.id] });
  for (const [id, x] of Object.entries(project.onSite)) out.push({ id, kind: x.kind, name: x.name, inputs: x.inputs, path: ["onSite", id] });
  return out;
}

/** What a component is called on screen: its own name, else what it is. */
export const componentName = (c: { readonly kind: ComponentKind; readonly name?: string | undefined }): string =>
  c.name ?? componentWords[c.kind][0].toUpperCase() + componentWords[c.kind].slice(1);

/** Zones whose terminals draw from a system. */
export const zonesOnSystem = (project: Pick<Project, "zones">, system: string): string[] =>
  Object.keys(project.zones).filter((z) => project.zones[z].equipment?.some((c) => c.kind === "terminal" && c.inputs.system === system));

/** Everything that draws on a loop. */
export const drawnFrom = (project: Plant, loop: string): PlacedComponent[] =>
  componentsOf(project).filter((c) => {
    const water = (field: string): boolean => c.inputs[field] === loop;
    const by = (field: string, word: string): boolean => settingOf(c.kind, c.inputs, field) === word;
    if (c.kind === "terminal") return water("loop") && by("reheat", "hot water");
    if (c.kind === "heatingCoil" || c.kind === "baseboard" || c.kind === "unitHeater") return water("loop") && by("heat", "hot water");
    if (c.kind === "coolingCoil") return water("loop") && by("cold", "chilled water");
    if (c.kind === "fanCoil") return (water("loop") && by("heat", "hot water")) || (water("coldLoop") && by("cold", "chilled water"));
    return c.kind === "slabCircuit" && (water("loop") || water("coldLoop"));
  });

/** Zones that a component serves: its own, those of its system, or all that draw on its loop. */
export function zonesServed(project: Plant, c: Pick<PlacedComponent, "path">): string[] {
  const [part, id] = c.path;
  if (part === "zones") return [id];
  if (part === "airSystems") return zonesOnSystem(project, id);
  if (part === "waterSystems") return zonesOfWater(project, id);
  if (part === "onSite") return Object.keys(project.zones);
  return [...new Set(drawnFrom(project, id).flatMap((d) => (d.path[0] === "loops" ? [] : zonesServed(project, d))))];
}

/** The hot-water system of a zone: the first that names it, else the first that serves all that is left; null: its plain services. */
export function waterSystemOf(project: Pick<Project, "waterSystems">, zone: string): string | null {
  const systems = Object.entries(project.waterSystems);
  return (systems.find(([, x]) => x.zones?.includes(zone)) ?? systems.find(([, x]) => x.zones === null))?.[0] ?? null;
}
/** Zones whose hot water a system makes. */
export const zonesOfWater = (project: Pick<Project, "waterSystems" | "zones">, system: string): string[] =>
  Object.keys(project.zones).filter((z) => waterSystemOf(project, z) === system);

/** What a component belongs to, by name: a zone, an air system, a loop or a hot-water system; what stands alone, to itself. */
export function ownerName(project: Plant, c: Pick<PlacedComponent, "path">): string {
  const [part, id] = c.path;
  return project[part as keyof Plant][id].name;
}
