import type { Project } from "./schema.ts";
import { componentWords, type ComponentKind } from "./serviceFields.ts";
import type { Component } from "./serviceSchema.ts";

/** A component with its address in the document. */
export interface PlacedComponent extends Component {
  readonly path: readonly string[];
}

/** Every component of a document: air systems and loops themselves, their parts, and the equipment of zones. */
export function componentsOf(project: Pick<Project, "airSystems" | "loops" | "zones">): PlacedComponent[] {
  const out: PlacedComponent[] = [];
  for (const part of ["airSystems", "loops"] as const)
    for (const [id, x] of Object.entries(project[part])) {
      out.push({ id, kind: part === "loops" ? "loop" : "airSystem", name: x.name, inputs: x.inputs, path: [part, id] });
      for (const c of x.parts) out.push({ ...c, path: [part, id, "parts", c.id] });
    }
  for (const [id, z] of Object.entries(project.zones)) for (const c of z.equipment ?? []) out.push({ ...c, path: ["zones", id, "equipment", c.id] });
  return out;
}

/** What a component is called on screen: its own name, else what it is. */
export const componentName = (c: { readonly kind: ComponentKind; readonly name?: string | undefined }): string =>
  c.name ?? componentWords[c.kind][0].toUpperCase() + componentWords[c.kind].slice(1);
