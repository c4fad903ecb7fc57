import { componentsOf, settingOf, type Component, type PlacedComponent, type Project } from "@arroyo/core";
import type { Selection } from "../store.ts";

/** The component a selection names; undefined where it is gone. */
export function selectedComponent(project: Project, selection: readonly Selection[]): PlacedComponent | undefined {
  const s = selection.find((x) => x.kind === "component" || x.kind === "airSystem" || x.kind === "loop");
  if (!s) return undefined;
  const address = s.kind === "component" ? s.id : `${s.kind === "loop" ? "loops" : "airSystems"}/${s.id}`;
  return componentsOf(project).find((c) => c.path.join("/") === address);
}

/** The selection of a component. */
export function selectionOf(path: readonly string[]): Selection {
  if (path.length === 2) return { kind: path[0] === "loops" ? "loop" : "airSystem", id: path[1] };
  return { kind: "component", id: path.join("/") };
}

/** Zones whose terminals draw from a system. */
export const zonesOnSystem = (project: Project, system: string): string[] =>
  Object.keys(project.zones).filter((z) => project.zones[z].equipment?.some((c) => c.kind === "terminal" && c.inputs.system === system));

/** Everything that draws on a loop. */
export const drawnFrom = (project: Project, loop: string): PlacedComponent[] =>
  componentsOf(project).filter((c) => {
    const water = (field: string): boolean => c.inputs[field] === loop;
    const by = (field: string, word: string): boolean => settingOf(c.kind, c.inputs, field) === word;
    if (c.kind === "terminal") return water("loop") && by("reheat", "hot water");
    if (c.kind === "heatingCoil" || c.kind === "baseboard" || c.kind === "unitHeater") return water("loop") && by("heat", "hot water");
    if (c.kind === "coolingCoil") return water("loop") && by("cold", "chilled water");
    if (c.kind === "fanCoil") return (water("loop") && by("heat", "hot water")) || (water("coldLoop") && by("cold", "chilled water"));
    return c.kind === "slabCircuit" && (water("loop") || water("coldLoop"));
  });

/** Loops a system or the equipment of its rooms draws on. */
export function loopsOf(project: Project, system: string): string[] {
  const zones = zonesOnSystem(project, system);
  const own = (c: PlacedComponent): boolean => (c.path[0] === "airSystems" && c.path[1] === system) || (c.path[0] === "zones" && zones.includes(c.path[1]));
  return Object.keys(project.loops).filter((l) => drawnFrom(project, l).some(own));
}

/** The setting that tells the size of a component first. */
export const sizeField: Readonly<Partial<Record<Component["kind"], string>>> = {
  heatingCoil: "capacity",
  coolingCoil: "capacity",
  supplyFan: "flow",
  returnFan: "flow",
  terminal: "flow",
  baseboard: "capacity",
  unitHeater: "capacity",
  fanCoil: "coolingCapacity",
  splitUnit: "coolingCapacity",
  pump: "flow",
  boiler: "capacity",
  chiller: "capacity",
  heatPump: "capacity",
  district: "capacity",
  naturalSource: "capacity",
};
